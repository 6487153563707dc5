using Froe.Core.Drawing;

namespace Froe.Core.Models;

/// <summary>The least way between two triangles.</summary>
public static class TrianglePair
{
    /// <summary>Sines below this are told from nought by chance.</summary>
    private const double Grazing = 1e-9;

    /// <summary>Their nearest points, and how far those lie apart; 0 where the triangles meet.</summary>
    public static (double Distance, Point3 From, Point3 To) Nearest((Point3 A, Point3 B, Point3 C) first, (Point3 A, Point3 B, Point3 C) second)
    {
        var best = (Distance: double.PositiveInfinity, From: default(Point3), To: default(Point3));
        ReadOnlySpan<Point3> one = [first.A, first.B, first.C], other = [second.A, second.B, second.C];
        for (var i = 0; i < 3; i++)
        {
            // Two triangles that meet do so where a side of one goes through the other.
            if (Through(one[i], one[(i + 1) % 3], second) is { } met) return (0, met, met);
            if (Through(other[i], other[(i + 1) % 3], first) is { } hit) return (0, hit, hit);
        }
        for (var i = 0; i < 3; i++)
        {
            Take(one[i], OnTriangle(one[i], second));
            Take(OnTriangle(other[i], first), other[i]);
            for (var k = 0; k < 3; k++)
            {
                var (p, q) = BetweenLines(one[i], one[(i + 1) % 3], other[k], other[(k + 1) % 3]);
                Take(p, q);
            }
        }
        return best;

        void Take(Point3 from, Point3 to)
        {
            var far = (to - from).Length();
            if (far < best.Distance) best = (far, from, to);
        }
    }

    /// <summary>Where a line from one point to another goes through a triangle; null where it does not.</summary>
    private static Point3? Through(Point3 from, Point3 to, (Point3 A, Point3 B, Point3 C) t)
    {
        Point3 u = t.B - t.A, v = t.C - t.A, way = to - from, square = Point3.Cross(u, v);
        var steep = Point3.Dot(square, way);
        // A line that all but lies alongside goes through nowhere that could be told; the sides' own nearness tells what there is.
        if (!(Math.Abs(steep) > Grazing * square.Length() * way.Length())) return null;
        var share = Point3.Dot(square, t.A - from) / steep;
        if (!(share >= 0 && share <= 1)) return null;
        var at = from + (share * way);
        var (b, c) = Shares(at - t.A, u, v);
        return b >= 0 && c >= 0 && b + c <= 1 ? at : null;
    }

    /// <summary>How much of two sides leads to a point in their plane.</summary>
    private static (double B, double C) Shares(Point3 p, Point3 u, Point3 v)
    {
        double uu = Point3.Dot(u, u), uv = Point3.Dot(u, v), vv = Point3.Dot(v, v), pu = Point3.Dot(p, u), pv = Point3.Dot(p, v), whole = (uu * vv) - (uv * uv);
        // A sliver has no inside that could be told: its sides are all of it.
        return !(whole > Grazing * uu * vv) ? (-1, -1) : (((vv * pu) - (uv * pv)) / whole, ((uu * pv) - (uv * pu)) / whole);
    }

    /// <summary>The point of a triangle that is nearest to another: within it straight below, otherwise on one of its sides.</summary>
    internal static Point3 OnTriangle(Point3 p, (Point3 A, Point3 B, Point3 C) t)
    {
        Point3 u = t.B - t.A, v = t.C - t.A;
        var (b, c) = Shares(p - t.A, u, v);
        if (b >= 0 && c >= 0 && b + c <= 1) return t.A + (b * u) + (c * v);
        Point3 ab = OnLine(p, t.A, t.B), bc = OnLine(p, t.B, t.C), ca = OnLine(p, t.C, t.A);
        var nearest = (ab - p).Length() <= (bc - p).Length() ? ab : bc;
        return (nearest - p).Length() <= (ca - p).Length() ? nearest : ca;
    }

    private static Point3 OnLine(Point3 p, Point3 a, Point3 b)
    {
        var way = b - a;
        var long2 = Point3.Dot(way, way);
        return long2 == 0 ? a : a + (Math.Clamp(Point3.Dot(p - a, way) / long2, 0, 1) * way);
    }

    /// <summary>The nearest points of two lines from one point to another.</summary>
    private static (Point3 P, Point3 Q) BetweenLines(Point3 a, Point3 b, Point3 c, Point3 d)
    {
        Point3 u = b - a, v = d - c, w = a - c;
        double uu = Point3.Dot(u, u), uv = Point3.Dot(u, v), vv = Point3.Dot(v, v), uw = Point3.Dot(u, w), vw = Point3.Dot(v, w), whole = (uu * vv) - (uv * uv);
        var s = whole > 1e-12 * uu * vv ? Math.Clamp(((uv * vw) - (vv * uw)) / whole, 0, 1) : 0;
        var p = a + (s * u);
        var q = OnLine(p, c, d);
        // Where the second was cut off at its end, the first moves to it.
        p = OnLine(q, a, b);
        return (p, OnLine(p, c, d));
    }
}
