using Froe.Core.Drawing;

namespace Froe.Core.Models;

/// <summary>The smallest box about a part that lies on one of its flat sides, or along the axes.</summary>
/// <param name="Sizes">Its three sizes, the largest first, in the part's unit.</param>
/// <param name="Axes">The direction of each, of length 1, in the part's coordinates.</param>
public sealed record TurnedBox(IReadOnlyList<double> Sizes, IReadOnlyList<Point3> Axes)
{
    /// <summary>Most directions that the box is laid on: those with the largest faces.</summary>
    private const int MostDirections = 64;

    /// <summary>Its volume.</summary>
    public double Volume() => Sizes[0] * Sizes[1] * Sizes[2];

    /// <summary>
    /// Finds it: for each way that much of the mesh faces, the least rectangle about what it looks like from there (its sides lie along the
    /// outline's, Freeman and Shapira 1975), times how deep it is. Null for a mesh of nothing.
    /// </summary>
    public static TurnedBox? Of(Mesh mesh)
    {
        ArgumentNullException.ThrowIfNull(mesh);
        if (mesh.Points.Length == 0) return null;
        var points = mesh.Points.ToArray();
        TurnedBox? best = null;
        foreach (var way in Ways(mesh))
        {
            var found = Along(points, way);
            // The first of those that are as small: the axes come first.
            if (best is null || found.Volume() < best.Volume() * (1 - 1e-9)) best = found;
        }
        return best;
    }

    /// <summary>The axes, and the directions that most of the mesh faces, the opposite ones as one.</summary>
    private static IEnumerable<Point3> Ways(Mesh mesh)
    {
        Point3[] axes = [new(0, 0, 1), new(0, 1, 0), new(1, 0, 0)];
        var areas = new Dictionary<(long, long, long), (Point3 Way, double Area)>();
        for (var t = 0; t < mesh.Corners.Length; t += 3)
        {
            Point3 a = mesh.Points[mesh.Corners[t]], b = mesh.Points[mesh.Corners[t + 1]], c = mesh.Points[mesh.Corners[t + 2]];
            var square = Point3.Cross(b - a, c - a);
            var area = square.Length();
            if (!(area > 0)) continue;
            var way = (1 / area) * square;
            if (way.Z < -1e-9 || (Math.Abs(way.Z) <= 1e-9 && (way.Y < -1e-9 || (Math.Abs(way.Y) <= 1e-9 && way.X < 0)))) way = -1 * way;
            var key = ((long)Math.Round(way.X * 1000), (long)Math.Round(way.Y * 1000), (long)Math.Round(way.Z * 1000));
            var (first, sum) = areas.GetValueOrDefault(key, (way, 0));
            areas[key] = (first, sum + area);
        }
        return axes.Concat(areas.Values.OrderByDescending(a => a.Area).Take(MostDirections).Select(a => a.Way));
    }

    private static TurnedBox Along(Point3[] points, Point3 way)
    {
        var right = Point3.Cross(Math.Abs(way.X) < 0.9 ? new(1, 0, 0) : new(0, 1, 0), way).Unit();
        var up = Point3.Cross(way, right);
        var (low, high) = (double.PositiveInfinity, double.NegativeInfinity);
        var flat = new PointXY[points.Length];
        for (var i = 0; i < points.Length; i++)
        {
            flat[i] = new(Point3.Dot(points[i], right), Point3.Dot(points[i], up));
            var deep = Point3.Dot(points[i], way);
            (low, high) = (Math.Min(low, deep), Math.Max(high, deep));
        }
        var hull = Hull(flat);
        var (wide, tall, turn) = (0.0, 0.0, 0.0);
        var least = double.PositiveInfinity;
        for (var i = 0; i < hull.Count; i++)
        {
            var side = hull.Count == 1 ? new PointXY(1, 0) : new PointXY(hull[(i + 1) % hull.Count].X - hull[i].X, hull[(i + 1) % hull.Count].Y - hull[i].Y);
            var angle = Math.Atan2(side.Y, side.X);
            var (c, s) = (Math.Cos(angle), Math.Sin(angle));
            double left = double.PositiveInfinity, rightmost = double.NegativeInfinity, bottom = double.PositiveInfinity, top = double.NegativeInfinity;
            foreach (var p in hull)
            {
                var (x, y) = ((p.X * c) + (p.Y * s), (p.Y * c) - (p.X * s));
                (left, rightmost, bottom, top) = (Math.Min(left, x), Math.Max(rightmost, x), Math.Min(bottom, y), Math.Max(top, y));
            }
            var area = (rightmost - left) * (top - bottom);
            if (area < least) (least, wide, tall, turn) = (area, rightmost - left, top - bottom, angle);
        }
        var first = (Math.Cos(turn) * right) + (Math.Sin(turn) * up);
        var sides = new (double Size, Point3 Axis)[] { (wide, first), (tall, Point3.Cross(way, first)), (high - low, way) }.OrderByDescending(x => x.Size).ToArray();
        return new TurnedBox([.. sides.Select(x => x.Size)], [.. sides.Select(x => x.Axis)]);
    }

    /// <summary>The outline round some points, anticlockwise (Andrew 1979). What lies within those farthest in eight ways is left out first.</summary>
    private static List<PointXY> Hull(PointXY[] points)
    {
        var corners = new PointXY[8];
        for (var k = 0; k < 8; k++)
        {
            var (c, s) = (Math.Cos(k * Math.PI / 4), Math.Sin(k * Math.PI / 4));
            var far = double.NegativeInfinity;
            foreach (var p in points)
            {
                var reach = (p.X * c) + (p.Y * s);
                if (reach > far) (far, corners[k]) = (reach, p);
            }
        }
        bool IsWithin(PointXY p)
        {
            for (var k = 0; k < 8; k++)
            {
                var (a, b) = (corners[k], corners[(k + 1) % 8]);
                // A side of no length bounds nothing.
                if (a != b && Turn(a, b, p) <= 0) return false;
            }
            return true;
        }
        var left = points.Where(p => !IsWithin(p)).Concat(corners).Distinct().OrderBy(p => p.X).ThenBy(p => p.Y).ToList();
        if (left.Count < 3) return left;
        var hull = new List<PointXY>();
        foreach (var half in (IEnumerable<PointXY>[])[left, left.AsEnumerable().Reverse()])
        {
            var begin = hull.Count;
            foreach (var p in half)
            {
                while (hull.Count >= begin + 2 && Turn(hull[^2], hull[^1], p) <= 0) hull.RemoveAt(hull.Count - 1);
                hull.Add(p);
            }
            hull.RemoveAt(hull.Count - 1);
        }
        return hull;
    }

    private static double Turn(PointXY a, PointXY b, PointXY c) => ((b.X - a.X) * (c.Y - a.Y)) - ((b.Y - a.Y) * (c.X - a.X));
}
