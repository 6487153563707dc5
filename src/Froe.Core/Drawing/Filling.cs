namespace Froe.Core.Drawing;

/// <summary>Filling areas bounded by loops, inside and outside told by the even-odd rule.</summary>
public static class Filling
{
    /// <summary>Most edges a filled area may have; more is refused as hostile.</summary>
    public const int MostEdges = 20_000;

    private readonly record struct Edge(double X0, double Y0, double X1, double Y1)
    {
        public double At(double y) => X0 + ((X1 - X0) * (y - Y0) / (Y1 - Y0));
    }

    /// <summary>Splits an area into triangles: bands between the loops' vertices, cut where edges enter and leave.</summary>
    /// <param name="loops">Closed loops (the last point joins the first).</param>
    /// <param name="into">Receives three points a triangle.</param>
    /// <returns>False, adding nothing, when there are too many edges.</returns>
    public static bool Triangulate(IReadOnlyList<List<PointXY>> loops, List<PointXY> into)
    {
        ArgumentNullException.ThrowIfNull(into);
        var edges = EdgesOf(loops);
        if (edges.Count > MostEdges) return false;
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
            for (var k = 0; k + 1 < active.Count; k += 2)
            {
                PointXY a = new(active[k].At(low), low), b = new(active[k + 1].At(low), low);
                PointXY c = new(active[k + 1].At(high), high), d = new(active[k].At(high), high);
                if (a != b) into.AddRange([a, b, c]);
                if (c != d) into.AddRange([a, c, d]);
            }
        }
        return true;
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
        double lowest = edges.Min(e => e.Y0), highest = edges.Max(e => e.Y1), gap = Math.Abs(across);
        double firstLine = Math.Ceiling(lowest / gap), lastLine = Math.Floor(highest / gap);
        if (!(lastLine - firstLine < most)) return false;
        edges.Sort((a, b) => a.Y0.CompareTo(b.Y0));
        var active = new List<Edge>();
        var hits = new List<double>();
        var next = 0;
        for (var line = firstLine; line <= lastLine; line++)
        {
            var y = line * gap;
            while (next < edges.Count && edges[next].Y0 <= y) active.Add(edges[next++]);
            active.RemoveAll(e => e.Y1 <= y);
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
                edges.Add(a.Y < b.Y ? new(a.X, a.Y, b.X, b.Y) : new(b.X, b.Y, a.X, a.Y));
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
        while (at < to)
            foreach (var d in dashes)
            {
                var end = at + Math.Abs(d);
                if (d >= 0 && end >= from && at <= to) draw(Math.Max(at, from), Math.Min(end, to));
                at = end;
            }
        return true;
    }
}
