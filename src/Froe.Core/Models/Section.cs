using System.Text.Json.Serialization;
using Froe.Core.Drawing;

namespace Froe.Core.Models;

/// <summary>A plane that cuts a model. What lies on the side that it points to is taken away.</summary>
/// <param name="Along">The way it points, in the model's coordinates, of length 1.</param>
/// <param name="At">How far along that it stands from the model's origin, in the model's unit.</param>
/// <param name="Thickness">How much behind it is left, in the model's unit; null for all.</param>
public sealed record Section([property: JsonRequired] Point3 Along, [property: JsonRequired] double At, double? Thickness = null)
{
    /// <summary>Whether it can cut anything.</summary>
    public bool IsSound() =>
        Math.Abs(Along.Length() - 1) < 1e-6 && double.IsFinite(At) && Thickness is null or (> 0 and < double.PositiveInfinity);

    /// <summary>How far a point lies from it, on the side that is taken away; less than nought behind it.</summary>
    public double Before(Point3 p) => Point3.Dot(p, Along) - At;

    /// <summary>
    /// The axes of what is seen of it by an eye on the side that is taken away: to the right and up. Upright planes have z up, as elevations
    /// have; level ones seen from above have y up, as plans have.
    /// </summary>
    public (Point3 Right, Point3 Up) Axes()
    {
        var level = Math.Abs(Along.Z) > 1 - 1e-9;
        var right = Point3.Cross(level ? new Point3(0, 1, 0) : new Point3(0, 0, 1), Along).Unit();
        return (right, Point3.Cross(Along, right));
    }
}
