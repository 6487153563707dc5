using Froe.Core.Drawing;

namespace Froe.Core.Models;

/// <summary>Triangles, face by face. Corners go round anticlockwise as seen from outside.</summary>
/// <param name="points">The points; faces share none, so that each has its own normals.</param>
/// <param name="normals">A direction for each point, of length 1.</param>
/// <param name="corners">Three points a triangle.</param>
/// <param name="faceStarts">The first triangle of each face, and at the end how many there are.</param>
public sealed class Mesh(Point3[] points, Point3[] normals, int[] corners, int[] faceStarts)
{
    /// <summary>No triangle, no face.</summary>
    public static Mesh Empty { get; } = new([], [], [], [0]);

    /// <summary>The points.</summary>
    public ReadOnlySpan<Point3> Points => points;

    /// <summary>A direction for each point.</summary>
    public ReadOnlySpan<Point3> Normals => normals;

    /// <summary>Three points a triangle.</summary>
    public ReadOnlySpan<int> Corners => corners;

    /// <summary>The first triangle of each face, and at the end how many there are.</summary>
    public ReadOnlySpan<int> FaceStarts => faceStarts;

    /// <summary>How many triangles.</summary>
    public int Triangles => corners.Length / 3;

    /// <summary>How many faces.</summary>
    public int Faces => faceStarts.Length - 1;

    /// <summary>What it covers.</summary>
    public Box Box { get; } = Box.Of(points);

    /// <summary>
    /// Volume, area and centre of mass by the divergence theorem: sums over the tetrahedra between a point near and each triangle. True as
    /// far as the mesh is closed.
    /// </summary>
    public Mass Mass()
    {
        if (corners.Length == 0) return new Mass(null, 0, null);
        var near = Box.Middle;
        double six = 0, twice = 0;
        var sum = default(Point3);
        for (var i = 0; i < corners.Length; i += 3)
        {
            Point3 a = points[corners[i]] - near, b = points[corners[i + 1]] - near, c = points[corners[i + 2]] - near;
            var normal = Point3.Cross(b - a, c - a);
            var part = Point3.Dot(a, normal);
            six += part;
            twice += normal.Length();
            sum += part * (a + b + c);
        }
        return new Mass(six / 6, twice / 2, six == 0 ? null : near + ((1 / (4 * six)) * sum));
    }
}
