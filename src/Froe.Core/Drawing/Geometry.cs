using System.Text.Json.Serialization;

namespace Froe.Core.Drawing;

/// <summary>A point on a sheet, in the sheet's units, y up.</summary>
public readonly record struct PointXY([property: JsonRequired] double X, [property: JsonRequired] double Y);

/// <summary>A point or a direction in space, in the units of its drawing or model.</summary>
public readonly record struct Point3([property: JsonRequired] double X, [property: JsonRequired] double Y, [property: JsonRequired] double Z)
{
    /// <summary>The sum, coordinate by coordinate.</summary>
    public static Point3 operator +(Point3 a, Point3 b) => new(a.X + b.X, a.Y + b.Y, a.Z + b.Z);

    /// <summary>The difference, coordinate by coordinate.</summary>
    public static Point3 operator -(Point3 a, Point3 b) => new(a.X - b.X, a.Y - b.Y, a.Z - b.Z);

    /// <summary>Every coordinate times a factor.</summary>
    public static Point3 operator *(double k, Point3 a) => new(k * a.X, k * a.Y, k * a.Z);

    /// <summary>The cross product.</summary>
    public static Point3 Cross(Point3 a, Point3 b) =>
        new((a.Y * b.Z) - (a.Z * b.Y), (a.Z * b.X) - (a.X * b.Z), (a.X * b.Y) - (a.Y * b.X));

    /// <summary>The dot product.</summary>
    public static double Dot(Point3 a, Point3 b) => (a.X * b.X) + (a.Y * b.Y) + (a.Z * b.Z);

    /// <summary>The distance from the origin.</summary>
    public double Length() => Math.Sqrt(Dot(this, this));

    /// <summary>The same direction with length 1; the z axis when the length is 0.</summary>
    public Point3 Unit()
    {
        var length = Length();
        return length > 0 && double.IsFinite(length) ? new(X / length, Y / length, Z / length) : new(0, 0, 1);
    }
}

/// <summary>A rectangle on a sheet, in the sheet's units. Empty when Min is above Max.</summary>
public readonly record struct Extents([property: JsonRequired] double MinX, [property: JsonRequired] double MinY, [property: JsonRequired] double MaxX, [property: JsonRequired] double MaxY)
{
    /// <summary>Holds no point.</summary>
    public static Extents Empty { get; } = new(double.PositiveInfinity, double.PositiveInfinity, double.NegativeInfinity, double.NegativeInfinity);

    /// <summary>Width, 0 when empty.</summary>
    [JsonIgnore]
    public double Width => Math.Max(0, MaxX - MinX);

    /// <summary>Height, 0 when empty.</summary>
    [JsonIgnore]
    public double Height => Math.Max(0, MaxY - MinY);

    /// <summary>Whether it holds no point.</summary>
    [JsonIgnore]
    public bool IsEmpty => !(MinX <= MaxX && MinY <= MaxY);

    /// <summary>The length of the diagonal, 0 when empty.</summary>
    [JsonIgnore]
    public double Diagonal => Math.Sqrt((Width * Width) + (Height * Height));

    /// <summary>Grown to hold a point.</summary>
    public Extents With(double x, double y) =>
        new(Math.Min(MinX, x), Math.Min(MinY, y), Math.Max(MaxX, x), Math.Max(MaxY, y));
}

/// <summary>An affine map of space: columns X, Y, Z are the images of the axes, O that of the origin.</summary>
public readonly record struct Affine(Point3 X, Point3 Y, Point3 Z, Point3 O)
{
    /// <summary>Leaves everything where it is.</summary>
    public static Affine Identity { get; } = new(new(1, 0, 0), new(0, 1, 0), new(0, 0, 1), new(0, 0, 0));

    /// <summary>The image of a point.</summary>
    public Point3 Apply(Point3 p) => new(
        (X.X * p.X) + (Y.X * p.Y) + (Z.X * p.Z) + O.X,
        (X.Y * p.X) + (Y.Y * p.Y) + (Z.Y * p.Z) + O.Y,
        (X.Z * p.X) + (Y.Z * p.Y) + (Z.Z * p.Z) + O.Z);

    /// <summary>The image of a direction (the origin's move left out).</summary>
    public Point3 ApplyVector(Point3 v) => Apply(v) - O;

    /// <summary>First <paramref name="inner"/>, then this map.</summary>
    public Affine After(Affine inner) =>
        new(ApplyVector(inner.X), ApplyVector(inner.Y), ApplyVector(inner.Z), Apply(inner.O));

    /// <summary>
    /// The object coordinate system of an entity with the given extrusion direction (DXF reference, "Arbitrary Axis Algorithm").
    /// </summary>
    public static Affine FromExtrusion(Point3 extrusion)
    {
        var n = extrusion.Unit();
        if (n == new Point3(0, 0, 1)) return Identity;
        var near = Math.Abs(n.X) < 1 / 64.0 && Math.Abs(n.Y) < 1 / 64.0;
        var x = Point3.Cross(near ? new(0, 1, 0) : new(0, 0, 1), n).Unit();
        return new(x, Point3.Cross(n, x).Unit(), n, default);
    }
}
