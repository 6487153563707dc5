using Froe.Core.Drawing;

namespace Froe.Core.Models;

/// <summary>A box along the axes. Empty when Min is above Max.</summary>
public readonly record struct Box(Point3 Min, Point3 Max)
{
    /// <summary>Holds no point.</summary>
    public static Box Empty { get; } = new(new(double.PositiveInfinity, double.PositiveInfinity, double.PositiveInfinity), new(double.NegativeInfinity, double.NegativeInfinity, double.NegativeInfinity));

    /// <summary>Whether it holds no point.</summary>
    public bool IsEmpty => !(Min.X <= Max.X && Min.Y <= Max.Y && Min.Z <= Max.Z);

    /// <summary>Its middle.</summary>
    public Point3 Middle => 0.5 * (Min + Max);

    /// <summary>The length of its diagonal, 0 when empty.</summary>
    public double Diagonal => IsEmpty ? 0 : (Max - Min).Length();

    /// <summary>Grown to hold a point; a point without finite coordinates changes nothing.</summary>
    public Box With(Point3 p) => !double.IsFinite(p.X + p.Y + p.Z) ? this : new(
        new(Math.Min(Min.X, p.X), Math.Min(Min.Y, p.Y), Math.Min(Min.Z, p.Z)), new(Math.Max(Max.X, p.X), Math.Max(Max.Y, p.Y), Math.Max(Max.Z, p.Z)));

    /// <summary>How far a point is from it; 0 within it, endless where it is empty.</summary>
    public double DistanceTo(Point3 p)
    {
        if (IsEmpty) return double.PositiveInfinity;
        double x = Math.Max(0, Math.Max(Min.X - p.X, p.X - Max.X)), y = Math.Max(0, Math.Max(Min.Y - p.Y, p.Y - Max.Y)), z = Math.Max(0, Math.Max(Min.Z - p.Z, p.Z - Max.Z));
        return Math.Sqrt((x * x) + (y * y) + (z * z));
    }

    /// <summary>Its eight corners; none when it is empty.</summary>
    public IEnumerable<Point3> Corners()
    {
        if (IsEmpty) yield break;
        for (var i = 0; i < 8; i++) yield return new((i & 1) == 0 ? Min.X : Max.X, (i & 2) == 0 ? Min.Y : Max.Y, (i & 4) == 0 ? Min.Z : Max.Z);
    }

    /// <summary>The box of some points.</summary>
    public static Box Of(IEnumerable<Point3> points)
    {
        ArgumentNullException.ThrowIfNull(points);
        var box = Empty;
        foreach (var point in points) box = box.With(point);
        return box;
    }
}
