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
/// at less than thirty degrees are one face, and what lies between faces is an edge. Time grows with the triangles, and what needs no order is
/// done by all processors.
/// </summary>
public static class MeshShaping
{
    /// <summary>Cosine of the angle between normals up to which neighbours are one face: thirty degrees.</summary>
    private const double Smooth = 0.8660254;

    /// <summary>A mesh with more faces than this, and of fewer than five triangles each, is a rough surface: it is one face without edges.</summary>
    private const int MostFaces = 20_000;

    /// <param name="points">The points; several may lie at one place.</param>
    /// <param name="corners">Three points a triangle; null where each three of the points are one.</param>
    public static ShapedMesh Of(Point3[] points, int[]? corners = null)
    {
        ArgumentNullException.ThrowIfNull(points);
        var (merged, triangles, dropped) = Merge(points, corners);
        var normals = NormalsOf(merged, triangles);
        var sides = MeshSides.Of(merged.Length, triangles);
        var group = new int[triangles.Length / 3];
        for (var i = 0; i < group.Length; i++) group[i] = i;
        var open = 0;
        foreach (var side in sides)
        {
            if (side.Count == 1) open++;
            else if (side.Count == 2 && Point3.Dot(normals[side.First], normals[side.Last]) > Smooth) Join(group, side.First, side.Last);
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

    /// <summary>The triangles by the points they have when those at one place are one, without those that have no area then.</summary>
    private static (Point3[] Points, int[] Corners, int Dropped) Merge(Point3[] points, int[]? corners)
    {
        var (merged, numbers) = PointMerging.Of(points);
        var all = corners is null ? points.Length / 3 * 3 : corners.Length / 3 * 3;
        var kept = corners is null ? numbers : new int[all];
        var next = 0;
        for (var i = 0; i < all; i += 3)
        {
            var (a, b, c) = corners is null ? (numbers[i], numbers[i + 1], numbers[i + 2]) : (numbers[corners[i]], numbers[corners[i + 1]], numbers[corners[i + 2]]);
            if (a < 0 || b < 0 || c < 0 || a == b || b == c || c == a) continue;
            (kept[next], kept[next + 1], kept[next + 2]) = (a, b, c);
            next += 3;
        }
        return (merged, next == kept.Length ? kept : kept[..next], (all - next) / 3);
    }

    private static Point3[] NormalsOf(Point3[] points, int[] corners)
    {
        var normals = new Point3[corners.Length / 3];
        InStretches.Do(normals.Length, (from, to) =>
        {
            for (var i = from; i < to; i++)
            {
                var a = points[corners[3 * i]];
                normals[i] = Point3.Cross(points[corners[(3 * i) + 1]] - a, points[corners[(3 * i) + 2]] - a).Unit();
            }
        });
        return normals;
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
        var (outPoints, outCorners) = (new List<Point3>(points.Length), new int[corners.Length]);
        for (var i = 0; i < corners.Length; i++)
        {
            var triangle = order[i / 3];
            var (point, face) = (corners[(3 * triangle) + (i % 3)], group[triangle]);
            if (calledIn[point] != face)
            {
                (calledIn[point], called[point]) = (face, outPoints.Count);
                outPoints.Add(points[point]);
            }
            outCorners[i] = called[point];
        }
        Point3[] all = [.. outPoints];
        return new Mesh(all, Rounded(all, outCorners, normals, order), outCorners, starts);
    }

    /// <summary>
    /// A direction for each point: of its triangles' normals, each by the angle that it has there, so that how a flat face was cut into triangles
    /// does not matter.
    /// </summary>
    /// <param name="normals">Of each triangle, as they came.</param>
    /// <param name="order">Which triangle each three corners are.</param>
    private static Point3[] Rounded(Point3[] points, int[] corners, Point3[] normals, int[] order)
    {
        var sums = new Point3[points.Length];
        // Neighbours come together mostly, so that few triangles have points of two stretches.
        InStretches.Do(points.Length, (from, to) =>
        {
            bool IsOwn(int point) => point >= from && point < to;
            for (var i = 0; i < corners.Length; i += 3)
            {
                int a = corners[i], b = corners[i + 1], c = corners[i + 2];
                if (!IsOwn(a) && !IsOwn(b) && !IsOwn(c)) continue;
                Point3 ab = points[b] - points[a], bc = points[c] - points[b], ca = points[a] - points[c];
                double first = Angle(ab, ca), second = Angle(bc, ab);
                var normal = normals[order[i / 3]];
                if (IsOwn(a)) sums[a] += first * normal;
                if (IsOwn(b)) sums[b] += second * normal;
                if (IsOwn(c)) sums[c] += Math.Max(0, Math.PI - first - second) * normal;
            }
            for (var i = from; i < to; i++) sums[i] = sums[i].Unit();
        });
        return sums;
        // Of sides that are too short to have a direction, a right one.
        static double Angle(Point3 away, Point3 towards) =>
            Math.Sqrt(Point3.Dot(away, away) * Point3.Dot(towards, towards)) is > 0 and var lengths ? Math.Acos(Math.Clamp(-Point3.Dot(away, towards) / lengths, -1, 1)) : Math.PI / 2;
    }

    /// <summary>The sides between different faces, joined into lines that lie between the same two.</summary>
    private static List<Edge> EdgesOf(Point3[] points, MeshSides sides, int[] group)
    {
        // By two numbers, not by one of 64 bits: that one's hash sets one half against the other, and neighbours would fall together.
        var seen = new List<((int First, int Second) Faces, MeshSides.Run Side)>();
        foreach (var side in sides)
        {
            int first = group[side.First], second = side.Count == 1 ? -1 : group[side.Last];
            if (side.Count == 2 && first == second) continue;
            if (second >= 0 && first > second) (first, second) = (second, first);
            seen.Add(((first, second), side));
        }
        var edges = new List<Edge>();
        foreach (var between in seen.GroupBy(s => s.Faces, s => s.Side))
            foreach (var line in Lines([.. between]))
                edges.Add(new Edge(between.Key.First, between.Key.Second, false, CurveKind.Free, default, default, 0, null, false, [.. line.Select(p => points[p])]));
        return edges;
    }

    private static IEnumerable<List<int>> Lines(MeshSides.Run[] sides)
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
