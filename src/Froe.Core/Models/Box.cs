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

    /// <summary>How far it lies from another at least: 0 where they meet, endless where one is empty.</summary>
    public double DistanceTo(Box other)
    {
        static double Gap(double min, double max, double otherMin, double otherMax) => Math.Max(0, Math.Max(otherMin - max, min - otherMax));
        double x = Gap(Min.X, Max.X, other.Min.X, other.Max.X), y = Gap(Min.Y, Max.Y, other.Min.Y, other.Max.Y), z = Gap(Min.Z, Max.Z, other.Min.Z, other.Max.Z);
        return Math.Sqrt((x * x) + (y * y) + (z * z));
    }

    /// <summary>How far a point is from it; 0 within it.</summary>
    public double DistanceTo(Point3 p) => DistanceTo(new Box(p, p));

    /// <summary>Its eight corners; none when it is empty.</summary>
    public IEnumerable<Point3> Corners()
    {
        if (IsEmpty) yield break;
        for (var i = 0; i < 8; i++) yield return new((i & 1) == 0 ? Min.X : Max.X, (i & 2) == 0 ? Min.Y : Max.Y, (i & 4) == 0 ? Min.Z : Max.Z);
    }

    /// <summary>The box of some points.</summary>
    public static Box Of(ReadOnlySpan<Point3> points)
    {
        var (x, y, z, right, back, top) = (double.PositiveInfinity, double.PositiveInfinity, double.PositiveInfinity, double.NegativeInfinity, double.NegativeInfinity, double.NegativeInfinity);
        foreach (var p in points)
        {
            if (!double.IsFinite(p.X + p.Y + p.Z)) continue;
            if (p.X < x) x = p.X;
            if (p.Y < y) y = p.Y;
            if (p.Z < z) z = p.Z;
            if (p.X > right) right = p.X;
            if (p.Y > back) back = p.Y;
            if (p.Z > top) top = p.Z;
        }
        return new Box(new(x, y, z), new(right, back, top));
    }
}
