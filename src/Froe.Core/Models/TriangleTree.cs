using Froe.Core.Drawing;

namespace Froe.Core.Models;

/// <summary>The triangles of a mesh where it stands in the model, in boxes within boxes, so that what lies near is found without looking at all.</summary>
internal sealed class TriangleTree
{
    /// <summary>Triangles of a box that is parted no further.</summary>
    public const int Leaf = 8;

    private readonly Point3[] points;
    private readonly int[] corners;
    private readonly int[] order;
    private readonly List<Node> nodes = [];

    /// <summary>A box: its triangles lie one behind the other; the first of the two that it is parted into follows it at once.</summary>
    /// <param name="Second">The other one; 0 for a box that is parted no further.</param>
    public readonly record struct Node(Box Box, int From, int To, int Second);

    /// <param name="face">The one face whose triangles are meant; null for all.</param>
    public TriangleTree(Mesh mesh, Affine at, int? face = null)
    {
        points = new Point3[mesh.Points.Length];
        for (var i = 0; i < points.Length; i++) points[i] = at.Apply(mesh.Points[i]);
        corners = mesh.Corners.ToArray();
        var first = face is { } f ? mesh.FaceStarts[f] : 0;
        order = [.. Enumerable.Range(first, face is { } one ? mesh.FaceStarts[one + 1] - first : mesh.Triangles)];
        Begin();
    }

    /// <summary>Loose triangles, three points each.</summary>
    public TriangleTree(Point3[] loose)
    {
        points = loose;
        corners = [.. Enumerable.Range(0, loose.Length)];
        order = [.. Enumerable.Range(0, loose.Length / 3)];
        Begin();
    }

    /// <summary>A line as triangles that are nothing but one of their sides; of one point, nothing but that.</summary>
    public TriangleTree(IReadOnlyList<Point3> line, Affine at)
    {
        points = [.. line.Select(at.Apply)];
        corners = points.Length == 1 ? [0, 0, 0] : [.. Enumerable.Range(0, Math.Max(0, points.Length - 1)).SelectMany(i => (int[])[i, i + 1, i + 1])];
        order = [.. Enumerable.Range(0, corners.Length / 3)];
        Begin();
    }

    private void Begin()
    {
        var middles = new Point3[corners.Length / 3];
        foreach (var i in order)
        {
            var (a, b, c) = Triangle(i);
            middles[i] = 1.0 / 3 * (a + b + c);
        }
        if (order.Length > 0) Part(0, order.Length, middles);
    }

    /// <summary>The boxes; the first holds all. None where the mesh has no triangle.</summary>
    public IReadOnlyList<Node> Nodes => nodes;

    /// <summary>A triangle of a box, by where it lies in the box' stretch.</summary>
    public (Point3 A, Point3 B, Point3 C) this[int index] => Triangle(order[index]);

    /// <summary>The point of the triangles that is nearest to another; null where none of them counts.</summary>
    public Point3? Nearest(Point3 p, Func<(Point3 A, Point3 B, Point3 C), bool> counts)
    {
        var (best, foot) = (double.PositiveInfinity, (Point3?)null);
        var waiting = new PriorityQueue<int, double>();
        if (nodes.Count > 0) waiting.Enqueue(0, nodes[0].Box.DistanceTo(p));
        while (waiting.TryDequeue(out var at, out var least) && least < best)
        {
            var node = nodes[at];
            if (node.Second > 0)
            {
                foreach (var child in (ReadOnlySpan<int>)[at + 1, node.Second])
                    if (nodes[child].Box.DistanceTo(p) is var far && far < best) waiting.Enqueue(child, far);
                continue;
            }
            for (var i = node.From; i < node.To; i++)
            {
                var triangle = this[i];
                var near = TrianglePair.OnTriangle(p, triangle);
                if ((near - p).Length() is var far && far < best && counts(triangle)) (best, foot) = (far, near);
            }
        }
        return foot;
    }

    private (Point3 A, Point3 B, Point3 C) Triangle(int i) => (points[corners[3 * i]], points[corners[(3 * i) + 1]], points[corners[(3 * i) + 2]]);

    private void Part(int from, int to, Point3[] middles)
    {
        var (box, about) = (Box.Empty, Box.Empty);
        for (var i = from; i < to; i++)
        {
            var (a, b, c) = this[i];
            box = box.With(a).With(b).With(c);
            about = about.With(middles[order[i]]);
        }
        var own = nodes.Count;
        nodes.Add(new Node(box, from, to, 0));
        if (to - from <= Leaf) return;
        // Half of them to either side, along the way they reach farthest.
        var size = about.Max - about.Min;
        var keys = new double[to - from];
        for (var i = from; i < to; i++)
        {
            var m = middles[order[i]];
            keys[i - from] = size.X >= size.Y && size.X >= size.Z ? m.X : size.Y >= size.Z ? m.Y : m.Z;
        }
        MemoryExtensions.Sort(keys.AsSpan(), order.AsSpan(from, to - from));
        var half = (from + to) / 2;
        Part(from, half, middles);
        nodes[own] = nodes[own] with { Second = nodes.Count };
        Part(half, to, middles);
    }
}
