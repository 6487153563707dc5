using System.Runtime.InteropServices;
using Froe.Core.Drawing;

namespace Froe.Core.Models;

/// <summary>
/// What a plane cuts of a model: faces with their outlines, area and hatching (ISO 128-3: those of one component are hatched alike, others
/// otherwise). Points are two numbers each, along <paramref name="Right"/> and <paramref name="Up"/> from <paramref name="Origin"/>.
/// </summary>
/// <param name="Origin">The point of the plane that is nearest to the model's origin.</param>
/// <param name="Right">To the right as it is seen from the side that is taken away.</param>
/// <param name="Up">Upwards there.</param>
/// <param name="Faces">What is cut, by component.</param>
public sealed record SectionCut(Point3 Origin, Point3 Right, Point3 Up, IReadOnlyList<CutFace> Faces)
{
    /// <summary>Most strokes of hatching on all faces together.</summary>
    private const int MostStrokes = 40_000;

    /// <summary>So many strokes go over the whole of a section, from corner to corner.</summary>
    private const int StrokesAcross = 64;

    /// <summary>How far apart ends may lie that are one, as a share of a part's diagonal: a few steps of its prepared points.</summary>
    private const double Together = 6e-5;

    private static readonly double[] Spacings = [1, 1.6, 0.7];

    /// <summary>What a plane cuts.</summary>
    /// <param name="scene">The model.</param>
    /// <param name="meshes">The meshes of its parts, in their order.</param>
    /// <param name="section">The plane; how thick a slice is does not matter here.</param>
    /// <param name="leftOut">Components that are not cut.</param>
    public static SectionCut Of(SceneFacts scene, IReadOnlyList<Mesh> meshes, Section section, IReadOnlySet<int> leftOut)
    {
        ArgumentNullException.ThrowIfNull(scene);
        ArgumentNullException.ThrowIfNull(meshes);
        ArgumentNullException.ThrowIfNull(section);
        ArgumentNullException.ThrowIfNull(leftOut);
        var (right, up) = section.Axes();
        var origin = section.At * section.Along;
        var at = scene.Placements();
        var cut = new List<(int Component, List<List<PointXY>> Closed, List<List<PointXY>> Open)>();
        var extents = Extents.Empty;
        for (var i = 0; i < at.Count; i++)
        {
            if (scene.Components[i].Part is not { } part || leftOut.Contains(i)) continue;
            var strokes = Strokes(meshes[part], at[i], section);
            if (strokes.Count == 0) continue;
            var (closed, open) = Outlines.Of(strokes, Together * meshes[part].Box.Diagonal * Largest(at[i]));
            List<List<PointXY>> Flat(List<List<Point3>> lines) => lines.ConvertAll(l => l.ConvertAll(p => new PointXY(Point3.Dot(p, right), Point3.Dot(p, up))));
            cut.Add((i, Flat(closed), Flat(open)));
            foreach (var p in cut[^1].Closed.Concat(cut[^1].Open).SelectMany(l => l)) extents = extents.With(p.X, p.Y);
        }
        var left = MostStrokes;
        var faces = new List<CutFace>();
        foreach (var (component, closed, open) in cut)
        {
            var fill = new List<PointXY>();
            var isFilled = closed.Count > 0 && Filling.Triangulate(closed, fill);
            var hatching = new List<PointXY>();
            if (isFilled && left > 0)
            {
                // Neighbours differ: first in the way the strokes lean, then in how far they lie apart.
                var angle = (faces.Count & 1) == 0 ? Math.PI / 4 : 3 * Math.PI / 4;
                var apart = extents.Diagonal / StrokesAcross * Spacings[faces.Count / 2 % Spacings.Length];
                Filling.Hatch(closed, default, angle, new PointXY(-Math.Sin(angle) * apart, Math.Cos(angle) * apart), [], left, hatching);
                for (var i = hatching.Count - 2; i >= 0; i -= 2)
                    if (hatching[i] == hatching[i + 1]) hatching.RemoveRange(i, 2);
                left -= hatching.Count / 2;
            }
            faces.Add(new CutFace(
                component, [.. closed.Select(Numbers)], [.. open.Select(Numbers)], isFilled && open.Count == 0 ? Area(fill) : null, Numbers(fill), Numbers(hatching)));
        }
        return new SectionCut(origin, right, up, faces);
    }

    /// <summary>What one component's mesh leaves on the plane: strokes between two points each, in the model's coordinates.</summary>
    private static List<(Point3 From, Point3 To)> Strokes(Mesh mesh, Affine at, Section section)
    {
        var found = new List<(Point3, Point3)>();
        double least = double.PositiveInfinity, greatest = double.NegativeInfinity;
        foreach (var corner in mesh.Box.Corners())
        {
            var before = section.Before(at.Apply(corner));
            (least, greatest) = (Math.Min(least, before), Math.Max(greatest, before));
        }
        if (!(least < 0 && greatest >= 0)) return found;
        // The plane in the part's coordinates, so that its points need not be placed one by one.
        var along = new Point3(Point3.Dot(section.Along, at.X), Point3.Dot(section.Along, at.Y), Point3.Dot(section.Along, at.Z));
        var away = section.Before(at.O);
        var points = mesh.Points;
        var before3 = new double[points.Length];
        for (var i = 0; i < before3.Length; i++) before3[i] = Point3.Dot(points[i], along) + away;
        Span<Point3> ends = stackalloc Point3[2];
        for (var i = 0; i + 2 < mesh.Corners.Length; i += 3)
        {
            int a = mesh.Corners[i], b = mesh.Corners[i + 1], c = mesh.Corners[i + 2];
            // A point on the plane counts as before it: so every outline closes.
            bool isA = before3[a] >= 0, isB = before3[b] >= 0, isC = before3[c] >= 0;
            if (isA == isB && isB == isC) continue;
            var count = 0;
            if (isA != isB) ends[count++] = Crossing(points[a], points[b], before3[a], before3[b]);
            if (isB != isC) ends[count++] = Crossing(points[b], points[c], before3[b], before3[c]);
            if (isC != isA) ends[count++] = Crossing(points[c], points[a], before3[c], before3[a]);
            if (count == 2 && ends[0] != ends[1]) found.Add((at.Apply(ends[0]), at.Apply(ends[1])));
        }
        return found;
    }

    /// <summary>Where an edge meets the plane: the same to the last bit for both triangles that share it, whichever way round they have it.</summary>
    private static Point3 Crossing(Point3 a, Point3 b, double beforeA, double beforeB)
    {
        if (Comparer(a, b) > 0) (a, b, beforeA, beforeB) = (b, a, beforeB, beforeA);
        return a + (beforeA / (beforeA - beforeB) * (b - a));
    }

    private static int Comparer(Point3 a, Point3 b) => (a.X, a.Y, a.Z).CompareTo((b.X, b.Y, b.Z));

    private static double Largest(Affine at) => Math.Max(at.X.Length(), Math.Max(at.Y.Length(), at.Z.Length()));

    private static double Area(List<PointXY> triangles)
    {
        var twice = 0.0;
        for (var i = 0; i + 2 < triangles.Count; i += 3)
        {
            PointXY a = triangles[i], b = triangles[i + 1], c = triangles[i + 2];
            twice += Math.Abs(((b.X - a.X) * (c.Y - a.Y)) - ((b.Y - a.Y) * (c.X - a.X)));
        }
        return twice / 2;
    }

    private static double[] Numbers(List<PointXY> points)
    {
        var numbers = new double[2 * points.Count];
        MemoryMarshal.Cast<PointXY, double>(CollectionsMarshal.AsSpan(points)).CopyTo(numbers);
        return numbers;
    }
}

/// <summary>What a plane cuts of one component.</summary>
/// <param name="Component">By its place in the scene's list.</param>
/// <param name="Loops">Outlines that close.</param>
/// <param name="Open">Outlines that do not: there the mesh has a gap, and what is inside cannot be told.</param>
/// <param name="Area">In the square of the scene's unit; null where it cannot be told.</param>
/// <param name="Fill">Triangles of what is inside, three points each.</param>
/// <param name="Hatching">Strokes on it, two points each.</param>
public sealed record CutFace(
    int Component, IReadOnlyList<IReadOnlyList<double>> Loops, IReadOnlyList<IReadOnlyList<double>> Open, double? Area, IReadOnlyList<double> Fill, IReadOnlyList<double> Hatching);
