using Froe.Core.Drawing;

namespace Froe.Formats.Dxf;

/// <summary>HATCH: boundary loops, then a fill or families of lines.</summary>
internal sealed partial class EntityDrawer
{
    /// <summary>Most strokes of one hatch; a finer one is drawn as its outline and reported.</summary>
    private const int MostHatchStrokes = 200_000;

    private readonly Islands islands = new();

    private void Hatch(Record e, in Placement at)
    {
        var cursor = 0;
        while (cursor < e.Count && e.Code(cursor) != 91) cursor++;
        if (cursor == e.Count) return;
        var map = Ocs(e, at);
        var elevation = e.Get(30);
        var loops = new List<List<PointXY>>();
        var count = (int)Math.Clamp(e.Number(cursor++), 0, 100_000);
        for (var i = 0; i < count && cursor < e.Count; i++)
            if (Boundary(e, ref cursor, map, elevation) is { Count: > 1 } loop) loops.Add(loop);
        if (loops.Count == 0) return;
        loops = islands.Kept(loops, e.GetInt(75));
        if (e.GetInt(450) == 1)
        {
            Gradient(e, loops);
            return;
        }
        if (e.GetInt(70) == 1)
        {
            HideBeneath(e, loops);
            if (!builder.Fill(loops)) Skip("HATCH", "its outline has too many edges");
            return;
        }
        if (!PatternLines(e, cursor, loops, ScaleOf(map), map))
        {
            foreach (var loop in loops) builder.Path(loop, closed: true);
            Skip("HATCH", "its lines are too fine to draw; its outline is shown");
        }
    }

    /// <summary>One loop in world coordinates, read from index <paramref name="i"/> on.</summary>
    private List<PointXY> Boundary(Record e, ref int i, in Affine map, double z)
    {
        var loop = new List<PointXY>();
        var isPolyline = ((int)Value(e, ref i, 92) & 2) != 0;
        if (isPolyline)
        {
            Value(e, ref i, 72);
            Value(e, ref i, 73);
            vertices.Clear();
            var count = (int)Math.Clamp(Value(e, ref i, 93), 0, 4_000_000);
            for (var k = 0; k < count && i < e.Count; k++)
            {
                double x = Value(e, ref i, 10), y = Value(e, ref i, 20);
                var bulge = i < e.Count && e.Code(i) == 42 ? e.Number(i++) : 0;
                vertices.Add(new(new(x, y, z), bulge, 0, 0));
            }
            for (var k = 0; k < vertices.Count; k++)
            {
                Vertex a = vertices[k], b = vertices[(k + 1) % vertices.Count];
                if (Curves.FromBulge(new(a.At.X, a.At.Y), new(b.At.X, b.At.Y), a.Bulge) is { } arc) AddArc(loop, arc, map, z);
                else loop.Add(Flat(map, a.At));
            }
            return loop;
        }
        var edges = (int)Math.Clamp(Value(e, ref i, 93), 0, 1_000_000);
        for (var k = 0; k < edges && i < e.Count; k++) Edge(e, ref i, map, z, loop);
        return loop;
    }

    private void Edge(Record e, ref int i, in Affine map, double z, List<PointXY> loop)
    {
        switch ((int)Value(e, ref i, 72))
        {
            case 1:
                loop.Add(Flat(map, new(Value(e, ref i, 10), Value(e, ref i, 20), z)));
                loop.Add(Flat(map, new(Value(e, ref i, 11), Value(e, ref i, 21), z)));
                break;
            case 2:
                {
                    PointXY centre = new(Value(e, ref i, 10), Value(e, ref i, 20));
                    var radius = Value(e, ref i, 40);
                    AddArc(loop, Swept(e, ref i, centre, new(radius, 0), new(0, radius)), map, z);
                    break;
                }
            case 3:
                {
                    PointXY centre = new(Value(e, ref i, 10), Value(e, ref i, 20)), major = new(Value(e, ref i, 11), Value(e, ref i, 21));
                    var ratio = Value(e, ref i, 40);
                    AddArc(loop, Swept(e, ref i, centre, major, new(-major.Y * ratio, major.X * ratio)), map, z);
                    break;
                }
            case 4: SplineEdge(e, ref i, map, z, loop); break;
        }
    }

    /// <summary>An arc's angles and direction; a clockwise one counts its angles the other way round.</summary>
    private static EllipseArc Swept(Record e, ref int i, PointXY centre, PointXY major, PointXY minor)
    {
        double start = Value(e, ref i, 50) * Degree, end = Value(e, ref i, 51) * Degree;
        if (end <= start) end += 2 * Math.PI * (Math.Floor((start - end) / (2 * Math.PI)) + 1);
        // An angle out of all bounds says nothing: then it is the whole circle.
        if (!(end > start) || end - start > 4 * Math.PI) end = start + (2 * Math.PI);
        return Value(e, ref i, 73) != 0 ? new(centre, major, minor, start, end) : new(centre, major, minor, -start, -end);
    }

    private void SplineEdge(Record e, ref int i, in Affine map, double z, List<PointXY> loop)
    {
        var degree = (int)Math.Clamp(Value(e, ref i, 94), 0, 99);
        Value(e, ref i, 73);
        Value(e, ref i, 74);
        int knotCount = (int)Math.Clamp(Value(e, ref i, 95), 0, 1_000_000), controlCount = (int)Math.Clamp(Value(e, ref i, 96), 0, 1_000_000);
        List<double> knots = [], weights = [];
        List<PointXY> control = [];
        for (var k = 0; k < knotCount && i < e.Count; k++) knots.Add(Value(e, ref i, 40));
        for (var k = 0; k < controlCount && i < e.Count; k++)
        {
            control.Add(Flat(map, new(Value(e, ref i, 10), Value(e, ref i, 20), z)));
            if (i < e.Count && e.Code(i) == 42) weights.Add(e.Number(i++));
        }
        if (i < e.Count && e.Code(i) == 97)
        {
            // Fit points, in files of 2010 and later; the group 97 that ends a boundary has no 11 behind it.
            var fits = (int)e.Number(i);
            if (i + 1 < e.Count && e.Code(i + 1) == 11)
                for (i++; fits > 0 && i + 1 < e.Count && e.Code(i) == 11; fits--) i += 2;
        }
        if (!Curves.Flatten(
            degree, System.Runtime.InteropServices.CollectionsMarshal.AsSpan(knots), System.Runtime.InteropServices.CollectionsMarshal.AsSpan(control),
            System.Runtime.InteropServices.CollectionsMarshal.AsSpan(weights), SplineTolerance(control), loop))
            loop.AddRange(control);
    }

    private void AddArc(List<PointXY> loop, in EllipseArc arc, in Affine map, double z)
    {
        var placed = new EllipseArc(
            Flat(map, new(arc.Centre.X, arc.Centre.Y, z)), FlatVector(map, new(arc.Major.X, arc.Major.Y, 0)),
            FlatVector(map, new(arc.Minor.X, arc.Minor.Y, 0)), arc.Start, arc.End);
        Curves.Flatten(placed, builder.CurveTolerance(placed), loop);
    }

    /// <summary>The families of lines: each has an angle, a point, the step to its next line, and dashes; all of it already scaled in the file.</summary>
    private bool PatternLines(Record e, int from, List<List<PointXY>> loops, double scale, in Affine map)
    {
        var i = from;
        while (i < e.Count && e.Code(i) != 78) i++;
        if (i == e.Count) return false;
        var families = (int)Math.Clamp(e.Number(i++), 0, 200);
        var turn = Math.Atan2(map.X.Y, map.X.X);
        var mirrored = (map.X.X * map.Y.Y) - (map.X.Y * map.Y.X) < 0;
        points.Clear();
        for (var f = 0; f < families && i < e.Count; f++)
        {
            var angle = Value(e, ref i, 53) * Degree;
            var through = Flat(map, new(Value(e, ref i, 43), Value(e, ref i, 44), 0));
            var offset = FlatVector(map, new(Value(e, ref i, 45), Value(e, ref i, 46), 0));
            var dashes = new double[(int)Math.Clamp(Value(e, ref i, 79), 0, 100)];
            for (var d = 0; d < dashes.Length; d++) dashes[d] = Value(e, ref i, 49) * scale;
            if (!Filling.Hatch(loops, through, turn + (mirrored ? -angle : angle), offset, dashes, MostHatchStrokes, points)) return false;
        }
        for (var k = 0; k + 1 < points.Count; k += 2) builder.Hatching(points[k], points[k + 1]);
        return true;
    }

    /// <summary>The next value under a code; what stands before it is passed over, and 0 is given where it is missing.</summary>
    private static double Value(Record e, ref int i, int code)
    {
        for (var k = i; k < Math.Min(e.Count, i + 12); k++)
            if (e.Code(k) == code)
            {
                i = k + 1;
                return e.Number(k);
            }
        return 0;
    }
}
