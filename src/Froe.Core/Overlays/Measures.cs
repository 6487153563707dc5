using System.Collections.Immutable;
using Froe.Core.Drawing;

namespace Froe.Core.Overlays;

/// <summary>An area that was measured and is kept: what some points enclose.</summary>
/// <param name="Factor">True millimetres in a unit of the sheet by the scale it was measured with, as of a <see cref="Dimension"/>.</param>
/// <param name="Height">The height of its letters, in the sheet's units.</param>
public sealed record Area(ImmutableArray<PointXY> Points, double? Factor, double Height) : PointPath(Points)
{
    /// <inheritdoc/>
    protected override int Least => 3;

    /// <inheritdoc/>
    protected override bool HasSize => base.HasSize && TwiceArea() != 0 && Dimension.AreMeasures(Factor, Height);

    /// <summary>What it encloses, in square units of the sheet; where its sides cross, what lies to the one side less what lies to the other.</summary>
    public double Size => Math.Abs(TwiceArea()) / 2;

    /// <summary>The length of its sides, in units of the sheet.</summary>
    public double Around()
    {
        var around = 0.0;
        for (var i = 0; i < Points.Length; i++)
        {
            var (a, b) = (Points[i], Points[(i + 1) % Points.Length]);
            around += Math.Sqrt(((b.X - a.X) * (b.X - a.X)) + ((b.Y - a.Y) * (b.Y - a.Y)));
        }
        return around;
    }

    /// <inheritdoc/>
    /// <param name="detail">Is not asked: its sides have no small parts.</param>
    /// <remarks>It is about its centre of mass: of a bent area that may lie outside of it.</remarks>
    public override Outline Outline(double detail)
    {
        double twice = TwiceArea(), x = 0, y = 0;
        var first = Points[0];
        for (var i = 0; i < Points.Length; i++)
        {
            // Counted from the first point, so that far from the origin nothing is lost.
            var (a, b) = (Points[i], Points[(i + 1) % Points.Length]);
            double ax = a.X - first.X, ay = a.Y - first.Y, bx = b.X - first.X, by = b.Y - first.Y, cross = (ax * by) - (bx * ay);
            x += (ax + bx) * cross;
            y += (ay + by) * cross;
        }
        return new([[.. Points, first]], OutlineFill.Tint, Uppermost(), new(first.X + (x / (3 * twice)), first.Y + (y / (3 * twice))));
    }
}

/// <summary>A length that was measured along a path and is kept: from its first point through the others to the last.</summary>
/// <param name="Factor">True millimetres in a unit of the sheet by the scale it was measured with, as of a <see cref="Dimension"/>.</param>
/// <param name="Height">The height of its letters, in the sheet's units.</param>
public sealed record PathLength(ImmutableArray<PointXY> Points, double? Factor, double Height) : PointPath(Points)
{
    /// <inheritdoc/>
    protected override bool HasSize => base.HasSize && Dimension.AreMeasures(Factor, Height);

    /// <summary>How long it is, in units of the sheet.</summary>
    public double Along()
    {
        var along = 0.0;
        for (var i = 1; i < Points.Length; i++)
        {
            double x = Points[i].X - Points[i - 1].X, y = Points[i].Y - Points[i - 1].Y;
            along += Math.Sqrt((x * x) + (y * y));
        }
        return along;
    }

    /// <inheritdoc/>
    /// <param name="detail">Is not asked: it has no small parts.</param>
    public override Outline Outline(double detail) => new([Points], OutlineFill.None, Points[^1], Points[Points.Length / 2]);
}

/// <summary>Where a point lies, measured and kept: how far to the right of an origin and above it.</summary>
/// <param name="Origin">What is counted from.</param>
/// <param name="Factor">True millimetres in a unit of the sheet by the scale it was measured with, as of a <see cref="Dimension"/>.</param>
/// <param name="Height">The height of its letters, in the sheet's units.</param>
public sealed record Coordinate(PointXY At, PointXY Origin, double? Factor, double Height) : Shape
{
    /// <inheritdoc/>
    protected override Extents Reach => Extents.Empty.With(At.X, At.Y);

    /// <inheritdoc/>
    protected override bool HasSize => double.IsFinite(Origin.X) && double.IsFinite(Origin.Y) && Dimension.AreMeasures(Factor, Height);

    /// <inheritdoc/>
    public override Outline Outline(double detail)
    {
        var half = detail / 2;
        return new(
            [[new(At.X - half, At.Y), new(At.X + half, At.Y)], [new(At.X, At.Y - half), new(At.X, At.Y + half)]], OutlineFill.None, At, At);
    }
}

/// <summary>An angle that was measured and is kept: from one leg to the other, about their apex.</summary>
/// <param name="From">A point on the one leg.</param>
/// <param name="To">A point on the other.</param>
/// <param name="Height">The height of its letters, in the sheet's units.</param>
public sealed record Angle(PointXY From, PointXY To, PointXY Apex, double Height) : TwoPoints(From, To)
{
    /// <summary>Straight pieces its arc is drawn by.</summary>
    private const int Pieces = 24;

    /// <inheritdoc/>
    protected override Extents Reach => base.Reach.With(Apex.X, Apex.Y);

    /// <inheritdoc/>
    protected override bool HasSize => From != Apex && To != Apex && Dimension.AreMeasures(null, Height);

    /// <summary>From the one leg to the other the shorter way round, in radians, counterclockwise above nothing: from -π to π.</summary>
    public double Turn
    {
        get
        {
            double ax = From.X - Apex.X, ay = From.Y - Apex.Y, bx = To.X - Apex.X, by = To.Y - Apex.Y;
            return Math.Atan2((ax * by) - (ay * bx), (ax * bx) + (ay * by));
        }
    }

    /// <inheritdoc/>
    /// <param name="detail">Is not asked: its arc is as large as its legs allow.</param>
    public override Outline Outline(double detail)
    {
        double ax = From.X - Apex.X, ay = From.Y - Apex.Y, bx = To.X - Apex.X, by = To.Y - Apex.Y;
        var radius = Math.Min(Math.Sqrt((ax * ax) + (ay * ay)), Math.Sqrt((bx * bx) + (by * by))) * 0.6;
        double first = Math.Atan2(ay, ax), turn = Turn;
        PointXY On(double share) => new(Apex.X + (radius * Math.Cos(first + (turn * share))), Apex.Y + (radius * Math.Sin(first + (turn * share))));
        return new(
            [[From, Apex, To], [.. Enumerable.Range(0, Pieces + 1).Select(i => On((double)i / Pieces))]], OutlineFill.None, To, On(0.5));
    }
}

/// <summary>A radius that was measured and is kept: from the middle of a circle to a point on it.</summary>
/// <param name="Factor">True millimetres in a unit of the sheet by the scale it was measured with, as of a <see cref="Dimension"/>.</param>
/// <param name="Height">The height of its letters, in the sheet's units.</param>
public sealed record Radius(PointXY From, PointXY To, double? Factor, double Height) : TwoPoints(From, To)
{
    /// <inheritdoc/>
    protected override bool HasSize => base.HasSize && Dimension.AreMeasures(Factor, Height);

    /// <inheritdoc/>
    public override Outline Outline(double detail)
    {
        var half = detail / 2;
        return new(
            [[From, To], [.. ArrowHead.At(From, To, detail)], [new(From.X - half, From.Y), new(From.X + half, From.Y)], [new(From.X, From.Y - half), new(From.X, From.Y + half)]],
            OutlineFill.None, To, Middle);
    }
}
