using Froe.Core.Drawing;

namespace Froe.Core.Models;

/// <summary>Where a model is looked at from.</summary>
/// <param name="Target">What is looked at, in the model's coordinates.</param>
/// <param name="Turn">Round the upright axis from the front to the right, in radians.</param>
/// <param name="Tilt">From level upwards, in radians.</param>
/// <param name="Height">How much of the model the window's height shows at the target, in the model's unit.</param>
/// <param name="IsPerspective">Whether what is farther away is smaller.</param>
public readonly record struct SceneEye(Point3 Target, double Turn, double Tilt, double Height, bool IsPerspective)
{
    /// <summary>Half the angle that the window's height takes in perspective, in radians.</summary>
    public const double HalfAngle = Math.PI / 12;

    /// <summary>How far the eye is from its target in perspective.</summary>
    public double Distance() => Height / 2 / Math.Tan(HalfAngle);

    /// <summary>Its own axes: to its right, up, and away from what it looks at.</summary>
    public (Point3 Right, Point3 Up, Point3 Back) Axes()
    {
        double s = Math.Sin(Turn), c = Math.Cos(Turn), st = Math.Sin(Tilt), ct = Math.Cos(Tilt);
        return (new(c, s, 0), new(-s * st, c * st, ct), new(s * ct, -c * ct, st));
    }

    /// <summary>
    /// Where a point is seen, on the plane through the target and square to the look: to the eye's right and up from the target, in the model's unit.
    /// How far it is away grows from the eye; in perspective it is not positive behind it.
    /// </summary>
    public (PointXY At, double Away) Place(Point3 p) => Place(p, Axes());

    /// <summary>The same by its axes, for many points.</summary>
    internal (PointXY At, double Away) Place(Point3 p, in (Point3 Right, Point3 Up, Point3 Back) axes)
    {
        var (right, up, back) = axes;
        var from = p - Target;
        var away = Distance() - Point3.Dot(from, back);
        var scale = IsPerspective ? Distance() / Math.Max(away, 1e-9) : 1;
        return (new(Point3.Dot(from, right) * scale, Point3.Dot(from, up) * scale), away);
    }
}
