namespace Froe.Core.Drawing;

/// <summary>What is inside when outlines cross or lie within one another.</summary>
public enum FillRule
{
    /// <summary>What an odd number of outlines lies round.</summary>
    EvenOdd,

    /// <summary>What outlines go round more often one way than the other.</summary>
    NonZero,
}

/// <summary>Filling areas bounded by loops.</summary>
public static class Filling
{
    /// <summary>Most edges a filled area may have; more is refused as hostile.</summary>
    public const int MostEdges = 200_000;

    /// <summary>Most edges looked at over all bands, and most triangles made, for one area: a comb of slanting teeth would be cut without end.</summary>
    private const int MostLooks = 20_000_000, MostTriangles = 1_000_000;

    private readonly record struct Edge(double X0, double Y0, double X1, double Y1, int Turn)
    {
        public double At(double y) => X0 + ((X1 - X0) * (y - Y0) / (Y1 - Y0));
    }

    /// <summary>Splits an area into triangles: bands between the loops' vertices, cut where edges enter and leave.</summary>
    /// <param name="loops">Closed loops (the last point joins the first).</param>
    /// <param name="into">Receives three points a triangle.</param>
    /// <param name="rule">What is inside.</param>
    /// <returns>False, adding nothing, when there are too many edges.</returns>
    public static bool Triangulate(IReadOnlyList<List<PointXY>> loops, List<PointXY> into, FillRule rule = FillRule.EvenOdd)
    {
        ArgumentNullException.ThrowIfNull(loops);
        ArgumentNullException.ThrowIfNull(into);
        var before = into.Count;
        var edges = 0L;
        foreach (var loop in loops) edges += loop.Count;
        if (edges > MostEdges) return false;
        var looks = MostLooks;
        // Loops apart from one another would cut each other's bands for nothing.
        foreach (var group in Apart(loops))
        {
            if (Bands(group, into, rule, before + (3 * MostTriangles), ref looks)) continue;
            into.RemoveRange(before, into.Count - before);
            return false;
        }
        return true;
    }

    private static bool Bands(IReadOnlyList<List<PointXY>> loops, List<PointXY> into, FillRule rule, int most, ref int looks)
    {
        var edges = EdgesOf(loops);
        var levels = edges.SelectMany(e => new[] { e.Y0, e.Y1 }).Distinct().Order().ToArray();
        edges.Sort((a, b) => a.Y0.CompareTo(b.Y0));
        var active = new List<Edge>();
        var next = 0;
        for (var i = 0; i + 1 < levels.Length; i++)
        {
            double low = levels[i], high = levels[i + 1], middle = (low + high) / 2;
            while (next < edges.Count && edges[next].Y0 <= low) active.Add(edges[next++]);
            active.RemoveAll(e => e.Y1 <= low);
            active.Sort((a, b) => a.At(middle).CompareTo(b.At(middle)));
            if ((looks -= active.Count) < 0 || into.Count > most) return false;
            var turns = 0;
            for (var k = 0; k + 1 < active.Count; k++)
            {
                turns += rule == FillRule.EvenOdd ? 1 : active[k].Turn;
                if (rule == FillRule.EvenOdd ? turns % 2 == 0 : turns == 0) continue;
                PointXY a = new(active[k].At(low), low), b = new(active[k + 1].At(low), low);
                PointXY c = new(active[k + 1].At(high), high), d = new(active[k].At(high), high);
                if (a != b) into.AddRange([a, b, c]);
                if (c != d) into.AddRange([a, c, d]);
            }
        }
        return true;
    }

    /// <summary>The loops in groups whose boxes do not touch each other's.</summary>
    private static List<List<List<PointXY>>> Apart(IReadOnlyList<List<PointXY>> loops)
    {
        if (loops.Count < 2) return [[.. loops]];
        var boxes = loops.Select(l => (MinX: l.Min(p => p.X), MaxX: l.Max(p => p.X), MinY: l.Min(p => p.Y), MaxY: l.Max(p => p.Y))).ToArray();
        var leader = Enumerable.Range(0, loops.Count).ToArray();
        var open = new List<int>();
        foreach (var i in Enumerable.Range(0, loops.Count).OrderBy(i => boxes[i].MinX))
        {
            open.RemoveAll(k => boxes[k].MaxX < boxes[i].MinX);
            foreach (var k in open)
                if (boxes[k].MinY <= boxes[i].MaxY && boxes[i].MinY <= boxes[k].MaxY) leader[Leader(k)] = Leader(i);
            open.Add(i);
        }
        return [.. Enumerable.Range(0, loops.Count).GroupBy(Leader).Select(g => g.Select(i => loops[i]).ToList())];

        int Leader(int i)
        {
            while (leader[i] != i) i = leader[i] = leader[leader[i]];
            return i;
        }
    }

    /// <summary>Whether a point lies within a closed loop, even-odd; on its edge it may be either.</summary>
    public static bool IsInside(PointXY p, IReadOnlyList<PointXY> loop)
    {
        ArgumentNullException.ThrowIfNull(loop);
        var isInside = false;
        for (int i = 0, before = loop.Count - 1; i < loop.Count; before = i++)
        {
            PointXY a = loop[before], b = loop[i];
            if ((a.Y > p.Y) != (b.Y > p.Y) && p.X < a.X + ((p.Y - a.Y) / (b.Y - a.Y) * (b.X - a.X))) isInside = !isInside;
        }
        return isInside;
    }

    /// <summary>Cuts a family of parallel lines to the inside of an area.</summary>
    /// <param name="loops">Closed loops.</param>
    /// <param name="through">A point one of the lines passes through.</param>
    /// <param name="angle">Direction of the lines, radians.</param>
    /// <param name="offset">From one line to the next; only its part across the lines spaces them, the part along shifts the dashes.</param>
    /// <param name="dashes">Dash pattern: positive drawn, negative gap, zero a dot; empty for unbroken lines.</param>
    /// <param name="most">Most strokes to give; the family is refused beyond.</param>
    /// <param name="into">Receives two points a stroke.</param>
    /// <returns>False when the lines would be too many (the strokes given so far stay).</returns>
    public static bool Hatch(IReadOnlyList<List<PointXY>> loops, PointXY through, double angle, PointXY offset, ReadOnlySpan<double> dashes, int most, List<PointXY> into)
    {
        ArgumentNullException.ThrowIfNull(into);
        var (sin, cos) = Math.SinCos(angle);
        var across = (-sin * offset.X) + (cos * offset.Y);
        var along = (cos * offset.X) + (sin * offset.Y);
        if (!(Math.Abs(across) > 0) || !double.IsFinite(across)) return false;
        // Turn the area so that the lines lie level.
        var turned = loops.Select(l => l.ConvertAll(p => new PointXY((cos * (p.X - through.X)) + (sin * (p.Y - through.Y)), (cos * (p.Y - through.Y)) - (sin * (p.X - through.X))))).ToList();
        var edges = EdgesOf(turned);
        if (edges.Count == 0) return true;
        if (edges.Count > MostEdges) return false;
        var looks = MostLooks;
        double lowest = edges.Min(e => e.Y0), highest = edges.Max(e => e.Y1), gap = Math.Abs(across);
        double firstLine = Math.Ceiling(lowest / gap), lastLine = Math.Floor(highest / gap);
        if (!(lastLine - firstLine < most)) return false;
        edges.Sort((a, b) => a.Y0.CompareTo(b.Y0));
        var active = new List<Edge>();
        var hits = new List<double>();
        var next = 0;
        // Counted in whole numbers: far from the origin one more would be the same number again.
        var count = (int)(lastLine - firstLine);
        for (var i = 0; i <= count; i++)
        {
            var line = firstLine + i;
            var y = line * gap;
            while (next < edges.Count && edges[next].Y0 <= y) active.Add(edges[next++]);
            active.RemoveAll(e => e.Y1 <= y);
            if ((looks -= active.Count + 1) < 0) return false;
            hits.Clear();
            foreach (var edge in active) hits.Add(edge.At(y));
            hits.Sort();
            var shift = line * Math.Sign(across) * along;
            for (var k = 0; k + 1 < hits.Count; k += 2)
                if (!Dashing.Along(hits[k], hits[k + 1], shift, dashes, most, into.Count / 2, (from, to) =>
                {
                    into.Add(Back(from, y));
                    into.Add(Back(to, y));
                }))
                    return false;
        }
        return true;

        PointXY Back(double x, double y) => new(through.X + (cos * x) - (sin * y), through.Y + (sin * x) + (cos * y));
    }

    /// <summary>Every edge that is not level, with its lower end first.</summary>
    private static List<Edge> EdgesOf(IReadOnlyList<List<PointXY>> loops)
    {
        var edges = new List<Edge>();
        foreach (var loop in loops)
            for (var i = 0; i < loop.Count; i++)
            {
                PointXY a = loop[i], b = loop[(i + 1) % loop.Count];
                if (!double.IsFinite(a.X + a.Y + b.X + b.Y) || a.Y == b.Y) continue;
                edges.Add(a.Y < b.Y ? new(a.X, a.Y, b.X, b.Y, 1) : new(b.X, b.Y, a.X, a.Y, -1));
            }
        return edges;
    }
}

/// <summary>Breaking strokes into dashes.</summary>
public static class Dashing
{
    /// <summary>Gives the drawn parts of [from, to] of a line whose pattern starts at <paramref name="phase"/>.</summary>
    /// <returns>False when there would be more than <paramref name="most"/> less <paramref name="sofar"/> strokes.</returns>
    public static bool Along(double from, double to, double phase, ReadOnlySpan<double> dashes, int most, int sofar, Action<double, double> draw)
    {
        ArgumentNullException.ThrowIfNull(draw);
        var period = 0.0;
        foreach (var d in dashes) period += Math.Abs(d);
        if (dashes.Length == 0 || !(period > 0) || !double.IsFinite(period))
        {
            if (sofar >= most) return false;
            draw(from, to);
            return true;
        }
        if (!((to - from) / period * dashes.Length < most - sofar)) return false;
        var at = phase + (Math.Floor((from - phase) / period) * period);
        // Far from the origin a dash may be too small to lead on: then the stretch is drawn whole.
        if (!(at + period > at) || !(to + period > to))
        {
            draw(from, to);
            return true;
        }
        for (var start = at; at < to; start = at)
        {
            foreach (var d in dashes)
            {
                var end = at + Math.Abs(d);
                if (d >= 0 && end >= from && at <= to) draw(Math.Max(at, from), Math.Min(end, to));
                at = end;
            }
            if (at <= start) return false;
        }
        return true;
    }
}
