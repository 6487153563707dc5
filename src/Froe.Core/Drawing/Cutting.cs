namespace Froe.Core.Drawing;

/// <summary>Cutting strokes and areas to a box.</summary>
public static class Cutting
{
    /// <summary>Liang and Barsky's cut of a stroke; false when none of it lies within.</summary>
    public static bool ToBox(ref PointXY a, ref PointXY b, Extents box)
    {
        double dx = b.X - a.X, dy = b.Y - a.Y, from = 0, to = 1;
        if (!Side(-dx, a.X - box.MinX) || !Side(dx, box.MaxX - a.X) || !Side(-dy, a.Y - box.MinY) || !Side(dy, box.MaxY - a.Y)) return false;
        var start = a;
        if (from > 0) a = new(start.X + (from * dx), start.Y + (from * dy));
        if (to < 1) b = new(start.X + (to * dx), start.Y + (to * dy));
        return true;

        bool Side(double p, double q)
        {
            if (p == 0) return q >= 0;
            var r = q / p;
            if (p < 0) from = Math.Max(from, r);
            else to = Math.Min(to, r);
            return from <= to;
        }
    }

    /// <summary>The letters of a line whose middles lie within; null when there are none.</summary>
    public static TextRun? TextToBox(in TextRun run, Extents box)
    {
        if (run.Corners().All(Inside)) return run;
        // A box has no dent, so what lies within it is one piece.
        return Letters(run, Inside) is [var piece, ..] ? piece : null;

        bool Inside(PointXY p) => p.X >= box.MinX && p.X <= box.MaxX && p.Y >= box.MinY && p.Y <= box.MaxY;
    }

    /// <summary>The pieces of a line whose letters' middles are to be seen, one after another.</summary>
    public static List<TextRun> Letters(in TextRun run, Func<PointXY, bool> isSeen)
    {
        ArgumentNullException.ThrowIfNull(isSeen);
        var (letters, total) = (run.Text, Lettering.Width(run.Text));
        var pieces = new List<TextRun>();
        var first = -1;
        for (var i = 0; i <= letters.Length; i++)
        {
            if (i < letters.Length)
            {
                var middle = Lettering.Width(letters.AsSpan(0, i)) + (Lettering.Width(letters.AsSpan(i, 1)) / 2) - (run.Anchor * total);
                var rise = 0.5 - run.Rise;
                if (isSeen(new(run.At.X + (middle * run.Along.X) + (rise * run.Up.X), run.At.Y + (middle * run.Along.Y) + (rise * run.Up.Y))))
                {
                    first = first < 0 ? i : first;
                    continue;
                }
            }
            if (first >= 0) pieces.Add(first == 0 && i == letters.Length ? run : Piece(run, total, first, i));
            first = -1;
        }
        return pieces;

        static TextRun Piece(in TextRun run, double total, int first, int end)
        {
            var start = Lettering.Width(run.Text.AsSpan(0, first)) - (run.Anchor * total);
            return run with { Text = run.Text[first..end], At = new(run.At.X + (start * run.Along.X), run.At.Y + (start * run.Along.Y)), Anchor = 0 };
        }
    }

    /// <summary>Sutherland and Hodgman's cut of a closed loop; empty when none of it lies within.</summary>
    public static List<PointXY> LoopToBox(IReadOnlyList<PointXY> loop, Extents box)
    {
        ArgumentNullException.ThrowIfNull(loop);
        IReadOnlyList<PointXY> kept = loop;
        for (var side = 0; side < 4 && kept.Count > 0; side++)
        {
            var of = side;
            kept = LoopToHalf(kept, p => of switch { 0 => p.X - box.MinX, 1 => box.MaxX - p.X, 2 => p.Y - box.MinY, _ => box.MaxY - p.Y });
        }
        return [.. kept];
    }

    /// <summary>What of a closed loop lies on one side of a line.</summary>
    /// <param name="within">How far within a point lies; below 0 without. It changes evenly from place to place.</param>
    public static List<PointXY> LoopToHalf(IReadOnlyList<PointXY> loop, Func<PointXY, double> within)
    {
        ArgumentNullException.ThrowIfNull(loop);
        ArgumentNullException.ThrowIfNull(within);
        var next = new List<PointXY>(loop.Count + 4);
        for (var i = 0; i < loop.Count; i++)
        {
            PointXY a = loop[i], b = loop[(i + 1) % loop.Count];
            double da = within(a), db = within(b);
            if (da >= 0) next.Add(a);
            if ((da >= 0) == (db >= 0)) continue;
            var t = da / (da - db);
            next.Add(new(a.X + ((b.X - a.X) * t), a.Y + ((b.Y - a.Y) * t)));
        }
        return next;
    }
}
