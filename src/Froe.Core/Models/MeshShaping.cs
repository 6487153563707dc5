using Froe.Core.Drawing;

namespace Froe.Core.Models;

/// <summary>A mesh that was shaped from loose triangles.</summary>
/// <param name="Mesh">With its faces.</param>
/// <param name="Edges">The lines between faces, and where the mesh ends.</param>
/// <param name="OpenEdges">How many sides of triangles have no neighbour: none of a closed mesh.</param>
/// <param name="Dropped">How many triangles had no area, or no finite corners.</param>
public sealed record ShapedMesh(Mesh Mesh, IReadOnlyList<Edge> Edges, int OpenEdges, int Dropped);

/// <summary>
/// Makes faces and edges of loose triangles, as files have them that know nothing else: points at one place become one, triangles that meet
/// at less than thirty degrees are one face, and what lies between faces is an edge. All by sorting: time grows as n log n.
/// </summary>
public static class MeshShaping
{
    /// <summary>Cosine of the angle between normals up to which neighbours are one face: thirty degrees.</summary>
    private const double Smooth = 0.8660254;

    /// <summary>Points nearer than this part of the diagonal are one.</summary>
    private const double Near = 1.0 / (1 << 20);

    /// <summary>A mesh with more faces than this, and of fewer than five triangles each, is a rough surface: it is one face without edges.</summary>
    private const int MostFaces = 20_000;

    /// <param name="points">The points; several may lie at one place.</param>
    /// <param name="corners">Three points a triangle.</param>
    public static ShapedMesh Of(ReadOnlySpan<Point3> points, ReadOnlySpan<int> corners)
    {
        var (merged, triangles, dropped) = Merge(points, corners);
        var normals = NormalsOf(merged, triangles);
        var sides = Sides(triangles);
        var group = new int[triangles.Length / 3];
        for (var i = 0; i < group.Length; i++) group[i] = i;
        var open = 0;
        foreach (var (from, to) in Runs(sides))
        {
            if (to - from == 1) open++;
            else if (to - from == 2 && Point3.Dot(normals[sides[from].Triangle], normals[sides[to - 1].Triangle]) > Smooth) Join(group, sides[from].Triangle, sides[to - 1].Triangle);
        }
        var faces = NumberFaces(group);
        if (faces > MostFaces && faces > group.Length / 5)
        {
            Array.Clear(group);
            faces = 1;
        }
        var mesh = Build(merged, triangles, normals, group, faces);
        return new ShapedMesh(mesh, faces == 1 && open == 0 ? [] : EdgesOf(merged, sides, group), open, dropped);
    }

    private readonly record struct Side(int A, int B, int Triangle);

    private static (Point3[] Points, int[] Corners, int Dropped) Merge(ReadOnlySpan<Point3> points, ReadOnlySpan<int> corners)
    {
        var box = Box.Empty;
        foreach (var p in points) box = box.With(p);
        if (box.IsEmpty) return ([], [], corners.Length / 3);
        var cell = Math.Max(box.Diagonal * Near, double.Epsilon);
        var keys = new ulong[points.Length];
        var order = new int[points.Length];
        for (var i = 0; i < points.Length; i++)
        {
            order[i] = i;
            var p = points[i];
            keys[i] = !double.IsFinite(p.X + p.Y + p.Z) ? ulong.MaxValue
                : (Step(p.X - box.Min.X, cell) << 42) | (Step(p.Y - box.Min.Y, cell) << 21) | Step(p.Z - box.Min.Z, cell);
        }
        Array.Sort(keys, order);
        var number = new int[points.Length];
        var merged = new List<Point3>();
        for (var i = 0; i < order.Length; i++)
        {
            if (keys[i] == ulong.MaxValue)
            {
                number[order[i]] = -1;
                continue;
            }
            if (i == 0 || keys[i] != keys[i - 1]) merged.Add(points[order[i]]);
            number[order[i]] = merged.Count - 1;
        }
        var kept = new List<int>(corners.Length);
        for (var i = 0; i + 2 < corners.Length; i += 3)
        {
            int a = number[corners[i]], b = number[corners[i + 1]], c = number[corners[i + 2]];
            if (a < 0 || b < 0 || c < 0 || a == b || b == c || c == a) continue;
            kept.Add(a);
            kept.Add(b);
            kept.Add(c);
        }
        return ([.. merged], [.. kept], (corners.Length - kept.Count) / 3);
    }

    private static ulong Step(double offset, double cell) => (ulong)Math.Min((1L << 21) - 1, (long)Math.Round(offset / cell));

    private static Point3[] NormalsOf(Point3[] points, int[] corners)
    {
        var normals = new Point3[corners.Length / 3];
        for (var i = 0; i < normals.Length; i++)
        {
            var a = points[corners[3 * i]];
            normals[i] = Point3.Cross(points[corners[(3 * i) + 1]] - a, points[corners[(3 * i) + 2]] - a).Unit();
        }
        return normals;
    }

    /// <summary>Every side of every triangle, those between the same points one behind the other.</summary>
    private static Side[] Sides(int[] corners)
    {
        var keys = new ulong[corners.Length];
        var sides = new Side[corners.Length];
        for (var i = 0; i < corners.Length; i++)
        {
            var triangle = i / 3;
            int a = corners[i], b = corners[(3 * triangle) + ((i + 1) % 3)];
            if (a > b) (a, b) = (b, a);
            keys[i] = ((ulong)(uint)a << 32) | (uint)b;
            sides[i] = new Side(a, b, triangle);
        }
        Array.Sort(keys, sides);
        return sides;
    }

    private static IEnumerable<(int From, int To)> Runs(Side[] sides)
    {
        for (var from = 0; from < sides.Length;)
        {
            var to = from + 1;
            while (to < sides.Length && sides[to].A == sides[from].A && sides[to].B == sides[from].B) to++;
            yield return (from, to);
            from = to;
        }
    }

    private static int Root(int[] group, int i)
    {
        while (group[i] != i) i = group[i] = group[group[i]];
        return i;
    }

    private static void Join(int[] group, int a, int b)
    {
        int x = Root(group, a), y = Root(group, b);
        if (x != y) group[Math.Max(x, y)] = Math.Min(x, y);
    }

    private static int NumberFaces(int[] group)
    {
        for (var i = 0; i < group.Length; i++) group[i] = Root(group, i);
        var faces = 0;
        var number = new int[group.Length];
        for (var i = 0; i < group.Length; i++) number[i] = group[i] == i ? faces++ : number[group[i]];
        number.CopyTo(group, 0);
        return faces;
    }

    private static Mesh Build(Point3[] points, int[] corners, Point3[] normals, int[] group, int faces)
    {
        var starts = new int[faces + 1];
        foreach (var face in group) starts[face + 1]++;
        for (var i = 0; i < faces; i++) starts[i + 1] += starts[i];
        var next = starts[..^1];
        var order = new int[group.Length];
        for (var i = 0; i < group.Length; i++) order[next[group[i]]++] = i;
        // A point is written once for each face that it belongs to: what it was called last, and in which face.
        var (calledIn, called) = (new int[points.Length], new int[points.Length]);
        Array.Fill(calledIn, -1);
        var (outPoints, outNormals, outCorners) = (new List<Point3>(points.Length), new List<Point3>(points.Length), new int[corners.Length]);
        for (var i = 0; i < order.Length; i++)
        {
            var triangle = order[i];
            var face = group[triangle];
            for (var k = 0; k < 3; k++)
            {
                var point = corners[(3 * triangle) + k];
                if (calledIn[point] != face)
                {
                    (calledIn[point], called[point]) = (face, outPoints.Count);
                    outPoints.Add(points[point]);
                    outNormals.Add(default);
                }
                outCorners[(3 * i) + k] = called[point];
                // By the angle at the corner, so that how a flat face was cut into triangles does not matter.
                Point3 here = points[point], one = points[corners[(3 * triangle) + ((k + 1) % 3)]], other = points[corners[(3 * triangle) + ((k + 2) % 3)]];
                var angle = Math.Acos(Math.Clamp(Point3.Dot((one - here).Unit(), (other - here).Unit()), -1, 1));
                outNormals[called[point]] += angle * normals[triangle];
            }
        }
        for (var i = 0; i < outNormals.Count; i++) outNormals[i] = outNormals[i].Unit();
        return new Mesh([.. outPoints], [.. outNormals], outCorners, starts);
    }

    /// <summary>The sides between different faces, joined into lines that lie between the same two.</summary>
    private static List<Edge> EdgesOf(Point3[] points, Side[] sides, int[] group)
    {
        // By two numbers, not by one of 64 bits: that one's hash sets one half against the other, and neighbours would fall together.
        var seen = new List<((int First, int Second) Faces, Side Side)>();
        foreach (var (from, to) in Runs(sides))
        {
            int first = group[sides[from].Triangle], second = to - from == 1 ? -1 : group[sides[to - 1].Triangle];
            if (to - from == 2 && first == second) continue;
            if (second >= 0 && first > second) (first, second) = (second, first);
            seen.Add(((first, second), sides[from]));
        }
        var edges = new List<Edge>();
        foreach (var between in seen.GroupBy(s => s.Faces, s => s.Side))
            foreach (var line in Lines([.. between]))
                edges.Add(new Edge(between.Key.First, between.Key.Second, false, CurveKind.Free, default, default, 0, null, false, [.. line.Select(p => points[p])]));
        return edges;
    }

    private static IEnumerable<List<int>> Lines(Side[] sides)
    {
        var at = new Dictionary<int, List<int>>();
        for (var i = 0; i < sides.Length; i++)
        {
            foreach (var point in (int[])[sides[i].A, sides[i].B])
            {
                if (!at.TryGetValue(point, out var there)) at[point] = there = [];
                there.Add(i);
            }
        }
        var used = new bool[sides.Length];
        // From the ends first; what is left then goes round.
        foreach (var start in at.Where(p => p.Value.Count != 2).Select(p => p.Key).Concat(at.Keys))
        {
            foreach (var first in at[start])
            {
                if (used[first]) continue;
                List<int> line = [start];
                for (var (side, point) = (first, start); ;)
                {
                    used[side] = true;
                    point = sides[side].A == point ? sides[side].B : sides[side].A;
                    line.Add(point);
                    if (at[point].Count != 2) break;
                    side = used[at[point][0]] ? at[point][1] : at[point][0];
                    if (used[side]) break;
                }
                yield return line;
            }
        }
    }
}
