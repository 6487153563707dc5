using Froe.Core.Drawing;

namespace Froe.Formats.Dxf;

/// <summary>Lines, arcs, splines and polylines.</summary>
internal sealed partial class EntityDrawer
{
    private void Arc(Record e, in Placement at, double start, double end)
    {
        // Angles of a damaged file may be so large that a turn more is no more.
        if (!(Math.Abs(start) < 1e6) || !(Math.Abs(end) < 1e6)) return;
        while (end <= start) end += 2 * Math.PI;
        var radius = e.Get(40);
        var map = Ocs(e, at);
        builder.Arc(new EllipseArc(Flat(map, e.Point(10)), FlatVector(map, new(radius, 0, 0)), FlatVector(map, new(0, radius, 0)), start, end));
    }

    /// <summary>An ellipse's centre and major axis are in world coordinates; its minor axis follows from the extrusion.</summary>
    private void Ellipse(Record e, in Placement at)
    {
        var major = e.Point(11);
        var normal = new Point3(e.Get(210), e.Get(220), e.Get(230, 1)).Unit();
        var minor = e.Get(40, 1) * Point3.Cross(normal, major);
        double start = e.Get(41), end = e.Get(42, 2 * Math.PI);
        if (!double.IsFinite(start) || !double.IsFinite(end) || Math.Abs(start) > 1e6 || Math.Abs(end) > 1e6) return;
        while (end <= start) end += 2 * Math.PI;
        builder.Arc(new EllipseArc(Flat(at.Map, e.Point(10)), FlatVector(at.Map, major), FlatVector(at.Map, minor), start, end));
    }

    private void Spline(Record e, in Placement at)
    {
        List<double> knots = [], weights = [];
        List<PointXY> control = [], fit = [];
        // Behind its curve a helix says what it winds round, under the same groups; how many belong to the curve stands before it.
        var isHelix = e.Type == "HELIX";
        int mostKnots = isHelix ? e.GetInt(72) : int.MaxValue, mostPoints = isHelix ? e.GetInt(73) : int.MaxValue;
        for (var i = 0; i < e.Count; i++)
            switch (e.Code(i))
            {
                case 40 when knots.Count < mostKnots: knots.Add(e.Number(i)); break;
                case 41 when !isHelix: weights.Add(e.Number(i)); break;
                case 10 when control.Count < mostPoints: control.Add(Flat(at.Map, Following(e, i))); break;
                case 11 when !isHelix: fit.Add(Flat(at.Map, Following(e, i))); break;
            }
        points.Clear();
        var span = System.Runtime.InteropServices.CollectionsMarshal.AsSpan(control);
        if (Curves.Flatten(
            e.GetInt(71, 3), System.Runtime.InteropServices.CollectionsMarshal.AsSpan(knots), span,
            System.Runtime.InteropServices.CollectionsMarshal.AsSpan(weights), SplineTolerance(control), points))
            builder.Path(points, closed: false, [new CurvedStretch(0, points.Count - 1, null)]);
        else if (fit.Count > 1) Through(fit, e, at);
        else Skip("SPLINE", "its knots do not fit its control points");
    }

    /// <summary>A curve through points, with its direction at either end where the file says it.</summary>
    private void Through(List<PointXY> fit, Record e, in Placement at)
    {
        var map = at.Map;
        PointXY? Tangent(int code) => e.Has(code) && FlatVector(map, e.Point(code)) is var t && (t.X != 0 || t.Y != 0) ? t : null;
        var isClosed = (e.GetInt(70) & 1) != 0;
        if (isClosed && fit[0] != fit[^1]) fit.Add(fit[0]);
        points.Clear();
        Curves.Through(System.Runtime.InteropServices.CollectionsMarshal.AsSpan(fit), Tangent(12), Tangent(13), SplineTolerance(fit), points);
        builder.Path(points, closed: false, [new CurvedStretch(0, points.Count - 1, null)]);
    }

    /// <summary>A spline is flattened as finely as a circle about its control points would be.</summary>
    private double SplineTolerance(List<PointXY> control)
    {
        var box = control.Aggregate(Extents.Empty, (b, p) => b.With(p.X, p.Y));
        return builder.CurveTolerance(new EllipseArc(default, new(box.Diagonal / 2, 0), default, 0, 0));
    }

    /// <summary>The point whose x stands at index i; y and z follow it.</summary>
    private static Point3 Following(Record e, int i)
    {
        var code = e.Code(i);
        double y = 0, z = 0;
        for (var k = i + 1; k < e.Count && e.Code(k) != code; k++)
        {
            if (e.Code(k) == code + 10) y = e.Number(k);
            if (e.Code(k) != code + 20) continue;
            z = e.Number(k);
            break;
        }
        return new(e.Number(i), y, z);
    }

    private readonly record struct Vertex(Point3 At, double Bulge, double StartWidth, double EndWidth);

    private readonly List<Vertex> vertices = [];
    private readonly List<CurvedStretch> curved = [];

    private void LwPolyline(Record e, in Placement at)
    {
        var elevation = e.Get(38);
        var width = e.Get(43);
        vertices.Clear();
        for (var i = 0; i < e.Count; i++)
            switch (e.Code(i))
            {
                case 10: vertices.Add(new(new(e.Number(i), 0, elevation), 0, width, width)); break;
                case 20 when vertices.Count > 0: vertices[^1] = vertices[^1] with { At = vertices[^1].At with { Y = e.Number(i) } }; break;
                case 40 when vertices.Count > 0: vertices[^1] = vertices[^1] with { StartWidth = e.Number(i) }; break;
                case 41 when vertices.Count > 0: vertices[^1] = vertices[^1] with { EndWidth = e.Number(i) }; break;
                case 42 when vertices.Count > 0: vertices[^1] = vertices[^1] with { Bulge = e.Number(i) }; break;
            }
        Run(Ocs(e, at), (e.GetInt(70) & 1) != 0);
    }

    private void Polyline(Record e, in Placement at)
    {
        var flags = e.GetInt(70);
        var parts = e.Parts ?? [];
        if ((flags & 64) != 0)
        {
            PolyFace(parts, at);
            return;
        }
        if ((flags & 16) != 0)
        {
            Mesh(parts, Math.Max(1, e.GetInt(71)), Math.Max(1, e.GetInt(72)), flags, at);
            return;
        }
        var is3D = (flags & 8) != 0;
        vertices.Clear();
        foreach (var part in parts)
            // Bit 16 marks the frame of a fitted curve, which is not drawn.
            if ((part.GetInt(70) & 16) == 0)
                vertices.Add(new(part.Point(10), is3D ? 0 : part.Get(42), part.Get(40, e.Get(40)), part.Get(41, e.Get(41))));
        Run(is3D ? at.Map : Ocs(e, at), (flags & 1) != 0);
    }

    /// <summary>Draws <see cref="vertices"/> as one run; stretches with a width are filled.</summary>
    private void Run(in Affine map, bool closed)
    {
        points.Clear();
        curved.Clear();
        var wide = vertices.Exists(v => v.StartWidth > 0 || v.EndWidth > 0);
        var count = closed ? vertices.Count : vertices.Count - 1;
        for (var i = 0; i < count; i++)
        {
            Vertex a = vertices[i], b = vertices[(i + 1) % vertices.Count];
            var from = points.Count;
            var arc = Curves.FromBulge(new(a.At.X, a.At.Y), new(b.At.X, b.At.Y), a.Bulge);
            if (arc is { } bulge)
            {
                var placed = new EllipseArc(
                    Flat(map, new(bulge.Centre.X, bulge.Centre.Y, a.At.Z)), FlatVector(map, new(bulge.Major.X, bulge.Major.Y, 0)),
                    FlatVector(map, new(bulge.Minor.X, bulge.Minor.Y, 0)), bulge.Start, bulge.End);
                Curves.Flatten(placed, builder.CurveTolerance(placed), points);
                points.RemoveAt(points.Count - 1);
                curved.Add(new CurvedStretch(from, points.Count, placed));
            }
            else points.Add(Flat(map, a.At));
            if (!wide) continue;
            points.Add(Flat(map, b.At));
            var k = ScaleOf(map) / 2;
            Band(from, a.StartWidth * k, a.EndWidth * k);
            points.RemoveAt(points.Count - 1);
        }
        if (vertices.Count > 0 && !closed) points.Add(Flat(map, vertices[^1].At));
        if (!wide) builder.Path(points, closed, curved);
    }

    /// <summary>Fills along the points from an index on, from one half width to another.</summary>
    private void Band(int from, double half0, double half1)
    {
        var steps = points.Count - 1 - from;
        for (var i = 0; i < steps; i++)
        {
            PointXY a = points[from + i], b = points[from + i + 1];
            double dx = b.X - a.X, dy = b.Y - a.Y, length = Math.Sqrt((dx * dx) + (dy * dy));
            double h0 = half0 + ((half1 - half0) * i / steps), h1 = half0 + ((half1 - half0) * (i + 1) / steps);
            if (!(length > 0)) continue;
            if (h0 == 0 && h1 == 0)
            {
                builder.Line(a, b);
                continue;
            }
            double nx = -dy / length, ny = dx / length;
            PointXY p = new(a.X + (nx * h0), a.Y + (ny * h0)), q = new(a.X - (nx * h0), a.Y - (ny * h0));
            PointXY r = new(b.X - (nx * h1), b.Y - (ny * h1)), s = new(b.X + (nx * h1), b.Y + (ny * h1));
            builder.Triangle(p, q, r);
            builder.Triangle(p, r, s);
        }
    }

    private void Mesh(List<Record> parts, int m, int n, int flags, in Placement at)
    {
        if ((long)m * n > parts.Count)
        {
            Skip("POLYLINE", "its mesh names more vertices than it has");
            return;
        }
        var map = at.Map;
        for (var i = 0; i < m; i++)
            for (var j = 0; j < n; j++)
            {
                if (j + 1 < n || (flags & 32) != 0) builder.Line(P((i * n) + j), P((i * n) + ((j + 1) % n)));
                if (i + 1 < m || (flags & 1) != 0) builder.Line(P((i * n) + j), P((((i + 1) % m) * n) + j));
            }

        PointXY P(int k) => Flat(map, parts[k].Point(10));
    }

    private static readonly int[] FaceCodes = [71, 72, 73, 74];

    /// <summary>Vertices with bit 64 are corners; the others are faces that name up to four corners, negative for a hidden edge.</summary>
    private void PolyFace(List<Record> parts, in Placement at)
    {
        var corners = parts.Where(p => (p.GetInt(70) & 64) != 0).ToList();
        foreach (var face in parts.Where(p => (p.GetInt(70) & 192) == 128))
        {
            var named = FaceCodes.Select(c => face.GetInt(c)).Where(i => i != 0 && Math.Abs(i) <= corners.Count).ToList();
            for (var i = 0; i < named.Count; i++)
                if (named[i] > 0)
                    builder.Line(Flat(at.Map, corners[named[i] - 1].Point(10)), Flat(at.Map, corners[Math.Abs(named[(i + 1) % named.Count]) - 1].Point(10)));
        }
    }

    /// <summary>A quadrilateral; SOLID and TRACE give their last two corners crosswise.</summary>
    private void Corners(Record e, in Affine map, int second, int third, bool fill)
    {
        var order = fill ? (int[])[10, 11, 13, 12] : [10, second, third, 13];
        var corners = new List<PointXY>();
        foreach (var code in order)
            if (e.Has(code)) corners.Add(Flat(map, e.Point(code)));
        if (corners.Count < 3) return;
        if (!fill)
        {
            // Edges of a face may be hidden, one bit each.
            var hidden = e.GetInt(70);
            if ((hidden & 15) == 0) builder.Path(corners, closed: true);
            else
                for (var i = 0; i < corners.Count; i++)
                    if ((hidden & (1 << i)) == 0) builder.Line(corners[i], corners[(i + 1) % corners.Count]);
            return;
        }
        MaskWhite([corners]);
        builder.Triangle(corners[0], corners[1], corners[2]);
        if (corners.Count == 4) builder.Triangle(corners[0], corners[2], corners[3]);
    }

    /// <summary>A point, looking as the drawing says ($PDMODE, $PDSIZE): a dot, nothing, a cross, a diagonal cross or a tick, in a circle or a square.</summary>
    private void Dot(PointXY p, double scale)
    {
        var plain = double.IsFinite(builder.Tolerance) ? builder.Tolerance * 100 : 0.5;
        // Sizes relative to a screen have no meaning on a sheet.
        var arm = tables.PointSize > 0 && double.IsFinite(scale) ? tables.PointSize / 2 * scale : plain;
        switch (tables.PointMode & 7)
        {
            case 1: break;
            case 3:
                builder.Hatching(new(p.X - arm, p.Y - arm), new(p.X + arm, p.Y + arm));
                builder.Hatching(new(p.X - arm, p.Y + arm), new(p.X + arm, p.Y - arm));
                break;
            case 4: builder.Hatching(p, new(p.X, p.Y + arm)); break;
            case 2: builder.Point(p, arm); break;
            default: builder.Point(p, plain); break;
        }
        if ((tables.PointMode & 32) != 0) builder.Arc(new EllipseArc(p, new(arm, 0), new(0, arm), 0, 2 * Math.PI));
        if ((tables.PointMode & 64) == 0) return;
        PointXY a = new(p.X - arm, p.Y - arm), b = new(p.X + arm, p.Y - arm), c = new(p.X + arm, p.Y + arm), d = new(p.X - arm, p.Y + arm);
        foreach (var (from, to) in new[] { (a, b), (b, c), (c, d), (d, a) }) builder.Hatching(from, to);
    }
}
