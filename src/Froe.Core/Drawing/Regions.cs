using System.Collections.Immutable;

namespace Froe.Core.Drawing;

/// <summary>
/// What the lines of a sheet enclose about a point: the face of the arrangement of its strokes that the point lies in, found by walking along its border and turning
/// as far to the left as can be wherever strokes meet (de Berg et al., Computational Geometry, chapter 2). What lies within the face, apart from its border, is not
/// taken off.
/// </summary>
public sealed class Regions
{
    /// <summary>Turns of a walk, and lines tried to the right of the point: no outline on a sheet has more.</summary>
    private const int MostSteps = 40_000, MostTries = 400;

    /// <summary>Strokes looked at in one search: a file may be made so that all of them lie in one place.</summary>
    private const long MostLooks = 60_000_000;

    /// <summary>Cells along the longer side.</summary>
    private const int Cells = 600;

    /// <summary>How near two strokes are joined, as a share of the sheet's diagonal: what numbers of 32 bits lose, and what programs round.</summary>
    private const double Near = 2e-6;

    private readonly float[] strokes;
    private readonly bool[] isOut;
    private readonly PointXY least;
    private readonly double cell, near;
    private readonly int across, up;
    private readonly int[] starts, members;

    /// <summary>Makes the lines of a sheet ready.</summary>
    /// <param name="sheet">The sheet.</param>
    /// <param name="layersOn">Which of its layers count; null for those that the file shows.</param>
    public Regions(Sheet sheet, IReadOnlyList<bool>? layersOn = null)
    {
        ArgumentNullException.ThrowIfNull(sheet);
        strokes = sheet.Segments;
        isOut = new bool[sheet.SegmentEntity.Length];
        for (var i = 0; i < isOut.Length; i++)
        {
            var layer = sheet.Styles[sheet.EntityStyle[sheet.SegmentEntity[i]]].Layer;
            isOut[i] = layer < (layersOn?.Count ?? sheet.Layers.Count) && !(layersOn?[layer] ?? sheet.Layers[layer].IsOn);
        }
        var extents = Extents.Empty;
        for (var i = 0; i < strokes.Length; i += 2) extents = extents.With(strokes[i], strokes[i + 1]);
        (Origin, least) = (sheet.Origin, extents.IsEmpty ? default : new(extents.MinX, extents.MinY));
        near = Math.Max(extents.IsEmpty ? 0 : extents.Diagonal * Near, 1e-9);
        cell = extents.IsEmpty ? 1 : Math.Max(Math.Max(extents.Width, extents.Height) / Cells, near * 4);
        (across, up) = extents.IsEmpty ? (1, 1) : ((int)(extents.Width / cell) + 1, (int)(extents.Height / cell) + 1);
        (starts, members) = Filed();
    }

    private long looks;

    private PointXY Origin { get; }

    /// <summary>The corners of what the lines enclose about a point, against the clock; empty where nothing is closed about it.</summary>
    /// <param name="point">In sheet coordinates.</param>
    /// <param name="most">Most corners; where there are more, the outline is drawn by so many.</param>
    public ImmutableArray<PointXY> About(PointXY point, int most)
    {
        var at = new PointXY(point.X - Origin.X, point.Y - Origin.Y);
        var tried = new HashSet<int>();
        looks = 0;
        foreach (var (stroke, x) in ToTheRight(at).Take(MostTries))
        {
            // What was walked along and does not go round the point is an island in what does.
            if (!tried.Add(stroke)) continue;
            var (ax, ay, bx, by) = Stroke(stroke);
            // Upwards the point lies on the left of the stroke.
            var direction = by > ay ? Direction(ax, ay, bx, by) : Direction(bx, by, ax, ay);
            if (Walk(stroke, new(x, at.Y), direction, tried) is not { } border) continue;
            var outline = WithoutSpurs(border);
            if (outline.Count < 3 || TwiceArea(outline) <= 0 || !Holds(outline, at)) continue;
            return [.. Thinned(outline, most).Select(p => new PointXY(p.X + Origin.X, p.Y + Origin.Y))];
        }
        return [];
    }

    private (double, double, double, double) Stroke(int i) => (strokes[4 * i], strokes[(4 * i) + 1], strokes[(4 * i) + 2], strokes[(4 * i) + 3]);

    private static PointXY Direction(double ax, double ay, double bx, double by)
    {
        var length = Math.Sqrt(((bx - ax) * (bx - ax)) + ((by - ay) * (by - ay)));
        return new((bx - ax) / length, (by - ay) / length);
    }

    private int Column(double x) => Math.Clamp((int)((x - least.X) / cell), 0, across - 1);

    private int Row(double y) => Math.Clamp((int)((y - least.Y) / cell), 0, up - 1);

    /// <summary>Every stroke in each cell that it passes: a row of cells after another, what is in each one after the other.</summary>
    private (int[] Starts, int[] Members) Filed()
    {
        var counts = new int[(across * up) + 1];
        Each((i, c) => counts[c + 1]++);
        for (var c = 1; c < counts.Length; c++) counts[c] += counts[c - 1];
        var (filed, next) = (new int[counts[^1]], counts[..^1]);
        Each((i, c) => filed[next[c]++] = i);
        return (counts, filed);

        void Each(Action<int, int> take)
        {
            for (var i = 0; i < isOut.Length; i++)
            {
                var (ax, ay, bx, by) = Stroke(i);
                if (isOut[i] || (ax == bx && ay == by)) continue;
                var (bottom, top) = (Row(Math.Min(ay, by) - near), Row(Math.Max(ay, by) + near));
                for (var row = bottom; row <= top; row++)
                {
                    // Of the stroke only what lies in this row of cells.
                    var (from, to) = bottom == top ? (Math.Min(ax, bx), Math.Max(ax, bx)) : Within(ax, ay, bx, by, least.Y + (row * cell) - near, least.Y + ((row + 1) * cell) + near);
                    for (int column = Column(from - near), last = Column(to + near); column <= last; column++) take(i, (row * across) + column);
                }
            }
        }
    }

    /// <summary>How far a stroke reaches from left to right between two heights.</summary>
    private static (double From, double To) Within(double ax, double ay, double bx, double by, double bottom, double top)
    {
        double At(double y) => ax + ((bx - ax) * Math.Clamp((y - ay) / (by - ay), 0, 1));
        double a = At(bottom), b = At(top);
        return (Math.Min(a, b), Math.Max(a, b));
    }

    private ReadOnlySpan<int> In(int column, int row) => members.AsSpan(starts[(row * across) + column], starts[(row * across) + column + 1] - starts[(row * across) + column]);

    /// <summary>The strokes that a line to the right from a point crosses, the nearest first, with where.</summary>
    private IEnumerable<(int Stroke, double X)> ToTheRight(PointXY at)
    {
        if (isOut.Length == 0 || at.Y < least.Y || at.Y > least.Y + (up * cell)) return [];
        var (found, row, seen) = (new List<(int, double X)>(), Row(at.Y), new HashSet<int>());
        for (var column = Column(at.X); column < across; column++)
            foreach (var i in In(column, row))
            {
                var (ax, ay, bx, by) = Stroke(i);
                // Its lower end belongs to it, its upper one does not: where two meet, one of them is crossed.
                if (ay > at.Y == by > at.Y || !seen.Add(i)) continue;
                var x = ax + ((bx - ax) * (at.Y - ay) / (by - ay));
                if (x > at.X) found.Add((i, x));
            }
        return found.OrderBy(f => f.X);
    }

    /// <summary>Walks along the border that lies to the left; null where it does not come round.</summary>
    private List<PointXY>? Walk(int stroke, PointXY from, PointXY direction, HashSet<int> tried)
    {
        var (border, at, first, begun) = (new List<PointXY>(), from, from, stroke);
        var heading = direction;
        for (var step = 0; step < MostSteps && looks < MostLooks; step++)
        {
            var (to, next, turned) = Onwards(stroke, at, heading);
            // Come round: along the stroke on which it began, past where it began.
            if (step > 0 && stroke == begun && Same(heading, direction) && Along(at, first, heading) >= -near && Along(at, first, heading) <= Along(at, to, heading) + near) return border;
            border.Add(to);
            (at, stroke, heading) = (to, next, turned);
            tried.Add(stroke);
        }
        return null;
    }

    private static double Along(PointXY from, PointXY to, PointXY heading) => ((to.X - from.X) * heading.X) + ((to.Y - from.Y) * heading.Y);

    private static bool Same(PointXY a, PointXY b) => (a.X * b.X) + (a.Y * b.Y) > 1 - 1e-9;

    /// <summary>Where a stroke that is followed meets another first, and how it goes on from there: as far to the left as can be, back where it goes no other way.</summary>
    private (PointXY At, int Stroke, PointXY Heading) Onwards(int stroke, PointXY at, PointXY heading)
    {
        var (ax, ay, bx, by) = Stroke(stroke);
        var end = Along(new(ax, ay), new(bx, by), heading) > 0 ? new PointXY(bx, by) : new PointXY(ax, ay);
        var far = Along(at, end, heading);
        var nearest = far;
        Passed(at, end, other =>
        {
            if (other == stroke) return;
            foreach (var way in Meetings(other, at, heading))
                if (way > near && way < nearest) nearest = way;
        });
        var meeting = nearest >= far - near ? end : new PointXY(at.X + (heading.X * nearest), at.Y + (heading.Y * nearest));
        var (best, onto, onwards) = (double.PositiveInfinity, stroke, new PointXY(-heading.X, -heading.Y));
        foreach (var other in About(meeting))
        {
            var (cx, cy, dx, dy) = Stroke(other);
            if (FromLine(meeting, cx, cy, dx, dy) > near) continue;
            foreach (var way in new[] { (X: dx, Y: dy), (X: cx, Y: cy) })
            {
                if (Math.Sqrt(((way.X - meeting.X) * (way.X - meeting.X)) + ((way.Y - meeting.Y) * (way.Y - meeting.Y))) <= near) continue;
                var leads = way.X == dx && way.Y == dy ? Direction(cx, cy, dx, dy) : Direction(dx, dy, cx, cy);
                // Counted with the clock from where it came: the first is the leftmost. Straight back is the last.
                var turn = Turn(heading, leads);
                if (turn < best) (best, onto, onwards) = (turn, other, leads);
            }
        }
        return (meeting, onto, onwards);
    }

    /// <summary>How far with the clock a way leads from straight back; straight back itself is a whole turn.</summary>
    private static double Turn(PointXY heading, PointXY leads)
    {
        var angle = Math.Atan2(leads.Y, leads.X) - Math.Atan2(-heading.Y, -heading.X);
        var clockwise = -angle % (2 * Math.PI);
        if (clockwise < 0) clockwise += 2 * Math.PI;
        return clockwise < 1e-7 ? 2 * Math.PI : clockwise;
    }

    /// <summary>How far on from a point a stroke meets the line that is followed: where it crosses it, and where it ends on it.</summary>
    private IEnumerable<double> Meetings(int other, PointXY at, PointXY heading)
    {
        var (cx, cy, dx, dy) = Stroke(other);
        double Beside(double x, double y) => ((x - at.X) * heading.Y) - ((y - at.Y) * heading.X);
        double c = Beside(cx, cy), d = Beside(dx, dy);
        if (Math.Abs(c) <= near) yield return Along(at, new(cx, cy), heading);
        if (Math.Abs(d) <= near) yield return Along(at, new(dx, dy), heading);
        if ((c > near && d < -near) || (c < -near && d > near))
        {
            var share = c / (c - d);
            yield return Along(at, new(cx + (share * (dx - cx)), cy + (share * (dy - cy))), heading);
        }
    }

    private static double FromLine(PointXY p, double ax, double ay, double bx, double by)
    {
        double dx = bx - ax, dy = by - ay, share = Math.Clamp((((p.X - ax) * dx) + ((p.Y - ay) * dy)) / ((dx * dx) + (dy * dy)), 0, 1);
        double x = ax + (share * dx) - p.X, y = ay + (share * dy) - p.Y;
        return Math.Sqrt((x * x) + (y * y));
    }

    /// <summary>Strokes in the cells that a stretch passes, from its beginning on.</summary>
    private void Passed(PointXY from, PointXY to, Action<int> take)
    {
        int left = Column(Math.Min(from.X, to.X) - near), right = Column(Math.Max(from.X, to.X) + near), bottom = Row(Math.Min(from.Y, to.Y) - near), top = Row(Math.Max(from.Y, to.Y) + near);
        for (var row = bottom; row <= top; row++)
        {
            var (l, r) = bottom == top ? (Math.Min(from.X, to.X), Math.Max(from.X, to.X)) : Within(from.X, from.Y, to.X, to.Y, least.Y + (row * cell) - near, least.Y + ((row + 1) * cell) + near);
            for (int column = Math.Max(left, Column(l - near)), last = Math.Min(right, Column(r + near)); column <= last; column++)
            {
                var here = In(column, row);
                looks += here.Length;
                foreach (var i in here) take(i);
            }
        }
    }

    private HashSet<int> About(PointXY p)
    {
        var found = new HashSet<int>();
        Passed(new(p.X - near, p.Y - near), new(p.X + near, p.Y + near), i => found.Add(i));
        return found;
    }

    /// <summary>The border without what it goes along and back again.</summary>
    private List<PointXY> WithoutSpurs(List<PointXY> border)
    {
        var kept = new List<PointXY>();
        foreach (var p in border)
        {
            if (kept.Count > 0 && IsNear(kept[^1], p)) continue;
            kept.Add(p);
            while (kept.Count >= 3 && IsNear(kept[^1], kept[^3])) kept.RemoveRange(kept.Count - 2, 2);
        }
        // The same where its end meets its beginning: the walk may have begun on such a way.
        while (kept.Count >= 3)
        {
            if (IsNear(kept[0], kept[^1]) || IsNear(kept[0], kept[^2])) kept.RemoveAt(kept.Count - 1);
            else if (IsNear(kept[1], kept[^1])) kept.RemoveAt(0);
            else break;
        }
        return kept;
    }

    private bool IsNear(PointXY a, PointXY b) => Math.Abs(a.X - b.X) <= 2 * near && Math.Abs(a.Y - b.Y) <= 2 * near;

    private static double TwiceArea(List<PointXY> outline)
    {
        var twice = 0.0;
        for (var i = 0; i < outline.Count; i++)
        {
            var (a, b, o) = (outline[i], outline[(i + 1) % outline.Count], outline[0]);
            twice += ((a.X - o.X) * (b.Y - o.Y)) - ((b.X - o.X) * (a.Y - o.Y));
        }
        return twice;
    }

    private static bool Holds(List<PointXY> outline, PointXY p)
    {
        var inside = false;
        for (int i = 0, j = outline.Count - 1; i < outline.Count; j = i++)
        {
            var (a, b) = (outline[i], outline[j]);
            if (a.Y > p.Y != b.Y > p.Y && p.X < a.X + ((b.X - a.X) * (p.Y - a.Y) / (b.Y - a.Y))) inside = !inside;
        }
        return inside;
    }

    /// <summary>The outline by no more corners than there is room for: those are left out that matter least.</summary>
    private List<PointXY> Thinned(List<PointXY> outline, int most)
    {
        // Corners in a line are none.
        var kept = outline.Where((p, i) => (a: outline[(i + outline.Count - 1) % outline.Count], b: outline[(i + 1) % outline.Count]) is var (a, b) && Off(a, p, b) > near * Math.Sqrt(((b.X - a.X) * (b.X - a.X)) + ((b.Y - a.Y) * (b.Y - a.Y)))).ToList();
        if (kept.Count < 3) kept = outline;
        while (kept.Count > most)
        {
            var sizes = kept.Select((p, i) => Off(kept[(i + kept.Count - 1) % kept.Count], p, kept[(i + 1) % kept.Count])).ToList();
            var limit = sizes.Order().ElementAt(Math.Min(kept.Count - most, Math.Max(1, kept.Count / 4)));
            var next = new List<PointXY>();
            // Never two side by side at once: what matters less changes with its neighbours.
            var wasLeftOut = false;
            for (var i = 0; i < kept.Count; i++)
            {
                wasLeftOut = !wasLeftOut && sizes[i] <= limit;
                if (!wasLeftOut) next.Add(kept[i]);
            }
            kept = next;
        }
        return kept;

        static double Off(PointXY a, PointXY p, PointXY b) => Math.Abs(((b.X - a.X) * (p.Y - a.Y)) - ((p.X - a.X) * (b.Y - a.Y)));
    }
}
