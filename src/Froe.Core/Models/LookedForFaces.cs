using Froe.Core.Drawing;

namespace Froe.Core.Models;

/// <summary>The faces of a mesh, made ready to find what of them is nearest to many points.</summary>
/// <param name="mesh">The mesh; it does not change.</param>
internal sealed class LookedForFaces(Mesh mesh)
{
    /// <summary>A face of more triangles than this is looked through by a tree of boxes.</summary>
    private const int Many = 64;

    private readonly Box[] boxes = BoxesOf(mesh);
    private readonly TriangleTree?[] trees = new TriangleTree?[mesh.Faces];

    /// <summary>How far a face is from a point at least; of one without triangles, endlessly.</summary>
    public double AtLeast(int face, Point3 p) => boxes[face].DistanceTo(p);

    /// <summary>The point of a face that is nearest; of a mesh that has no more than that, where it looks the same way.</summary>
    /// <param name="normal">The way that it should look; null where that does not matter.</param>
    public Point3 Foot(int face, Point3 at, Point3? normal)
    {
        // What looks another way counts only where nothing looks the same.
        bool IsTurned((Point3 A, Point3 B, Point3 C) t) => normal is { } n && Point3.Dot(Point3.Cross(t.B - t.A, t.C - t.A).Unit(), n) < 0.5;
        var (from, to) = (mesh.FaceStarts[face], mesh.FaceStarts[face + 1]);
        if (to - from > Many)
        {
            var tree = trees[face] ??= new TriangleTree(LooseOf(from, to));
            return (normal is null ? null : tree.Nearest(at, t => !IsTurned(t))) ?? tree.Nearest(at, _ => true) ?? at;
        }
        var (best, foot, isTurned) = (double.PositiveInfinity, at, true);
        for (var i = from; i < to; i++)
        {
            var triangle = (mesh.Points[mesh.Corners[3 * i]], mesh.Points[mesh.Corners[(3 * i) + 1]], mesh.Points[mesh.Corners[(3 * i) + 2]]);
            var near = TrianglePair.OnTriangle(at, triangle);
            var (far, turned) = ((near - at).Length(), IsTurned(triangle));
            if ((turned && !isTurned) || (turned == isTurned && far >= best)) continue;
            (best, foot, isTurned) = (far, near, turned);
        }
        return foot;
    }

    private Point3[] LooseOf(int from, int to)
    {
        var loose = new Point3[3 * (to - from)];
        for (var i = 0; i < loose.Length; i++) loose[i] = mesh.Points[mesh.Corners[(3 * from) + i]];
        return loose;
    }

    private static Box[] BoxesOf(Mesh mesh)
    {
        var boxes = new Box[mesh.Faces];
        for (var face = 0; face < boxes.Length; face++)
        {
            boxes[face] = Box.Empty;
            for (var i = 3 * mesh.FaceStarts[face]; i < 3 * mesh.FaceStarts[face + 1]; i++) boxes[face] = boxes[face].With(mesh.Points[mesh.Corners[i]]);
        }
        return boxes;
    }
}
