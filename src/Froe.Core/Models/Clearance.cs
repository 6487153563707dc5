using Froe.Core.Drawing;

namespace Froe.Core.Models;

/// <summary>How near two parts of a model, or faces, edges, corners and points of them, come to one another.</summary>
/// <param name="Distance">Between their nearest points, in the scene's unit; 0 where they touch or overlap.</param>
/// <param name="From">The nearest point of the first, in the model's coordinates.</param>
/// <param name="To">The nearest point of the second.</param>
/// <param name="Deviation">How far the distance may be off at most, for it is measured on meshes; 0 where the meshes are all there is.</param>
/// <param name="IsAtMost">Whether they lie alongside in so many places that not all were looked at: they may come nearer than that.</param>
public sealed record Clearance(double Distance, Point3 From, Point3 To, double Deviation, bool IsAtMost)
{
    /// <summary>Most pairs of triangles that are looked at.</summary>
    private const int MostPairs = 1_000_000;

    /// <summary>Measures between two components, or things of them; null where one of them has no mesh.</summary>
    /// <param name="lines">The lines that a part's edges are drawn as, by the part.</param>
    public static Clearance? Between(SceneFacts scene, IReadOnlyList<Mesh> meshes, Func<int, IReadOnlyList<PartLine>> lines, PickedOnModel first, PickedOnModel second)
    {
        ArgumentNullException.ThrowIfNull(scene);
        ArgumentNullException.ThrowIfNull(meshes);
        ArgumentNullException.ThrowIfNull(lines);
        if (PartOf(scene, meshes, first) is not { } one || PartOf(scene, meshes, second) is not { } other) return null;
        var at = scene.Placements();
        if (TreeOf(first, one) is not { } a || TreeOf(second, other) is not { } b) return null;
        if (a.Nodes.Count == 0 || b.Nodes.Count == 0) return null;
        var ((distance, from, to), isAtMost) = Nearest(a, b);
        return new Clearance(distance, from, to, (scene.Parts[one].Deviation * Largest(at[first.Component])) + (scene.Parts[other].Deviation * Largest(at[second.Component])), isAtMost);

        TriangleTree? TreeOf(PickedOnModel picked, int part)
        {
            if (picked.IsPoint) return picked.At is { } point ? new TriangleTree([point], at[picked.Component]) : null;
            if (picked.Edge is not { } edge) return new TriangleTree(meshes[part], at[picked.Component], picked.Face);
            var all = lines(part);
            if ((uint)edge >= (uint)all.Count) return null;
            IReadOnlyList<Point3> line = picked.IsCorner ? picked.Corner(all[edge].Points) is { } corner ? [corner] : [] : all[edge].Points;
            return new TriangleTree(line, at[picked.Component]);
        }
    }

    /// <summary>The part that has the mesh of what was picked; null where there is none.</summary>
    private static int? PartOf(SceneFacts scene, IReadOnlyList<Mesh> meshes, PickedOnModel picked) =>
        (uint)picked.Component < (uint)scene.Components.Count && scene.Components[picked.Component].Part is { } part
        && (picked.Face is not { } face || (uint)face < (uint)meshes[part].Faces)
            ? part
            : null;

    private static double Largest(Affine at) => Math.Max(at.X.Length(), Math.Max(at.Y.Length(), at.Z.Length()));

    private static ((double Distance, Point3 From, Point3 To) Best, bool IsAtMost) Nearest(TriangleTree a, TriangleTree b)
    {
        var looks = MostPairs;
        var best = (Distance: double.PositiveInfinity, From: default(Point3), To: default(Point3));
        // The pair of boxes that may be nearest comes first; once none may be nearer than what was found, that is it.
        var waiting = new PriorityQueue<(int A, int B), double>();
        waiting.Enqueue((0, 0), a.Nodes[0].Box.DistanceTo(b.Nodes[0].Box));
        while (waiting.TryDequeue(out var pair, out var least) && least < best.Distance)
        {
            var (x, y) = (a.Nodes[pair.A], b.Nodes[pair.B]);
            if (x.Second == 0 && y.Second == 0)
            {
                for (var i = x.From; i < x.To; i++)
                {
                    for (var k = y.From; k < y.To; k++)
                    {
                        var (one, other) = (a[i], b[k]);
                        if (Around(one).DistanceTo(Around(other)) >= best.Distance) continue;
                        if (looks-- == 0) return (best, true);
                        var found = TrianglePair.Nearest(one, other);
                        if (found.Distance < best.Distance) best = found;
                    }
                }
                continue;
            }
            // The larger one is parted.
            var partsFirst = y.Second == 0 || (x.Second != 0 && x.Box.Diagonal >= y.Box.Diagonal);
            foreach (var child in partsFirst ? (ReadOnlySpan<int>)[pair.A + 1, x.Second] : [pair.B + 1, y.Second])
            {
                var next = partsFirst ? (A: child, pair.B) : (pair.A, B: child);
                var apart = a.Nodes[next.A].Box.DistanceTo(b.Nodes[next.B].Box);
                if (apart < best.Distance) waiting.Enqueue(next, apart);
            }
        }
        return (best, false);
    }

    private static Box Around((Point3 A, Point3 B, Point3 C) t) => new(
        new(Math.Min(t.A.X, Math.Min(t.B.X, t.C.X)), Math.Min(t.A.Y, Math.Min(t.B.Y, t.C.Y)), Math.Min(t.A.Z, Math.Min(t.B.Z, t.C.Z))),
        new(Math.Max(t.A.X, Math.Max(t.B.X, t.C.X)), Math.Max(t.A.Y, Math.Max(t.B.Y, t.C.Y)), Math.Max(t.A.Z, Math.Max(t.B.Z, t.C.Z))));
}
