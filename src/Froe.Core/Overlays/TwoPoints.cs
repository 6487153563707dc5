using Froe.Core.Drawing;

namespace Froe.Core.Overlays;

/// <summary>A shape that two points make.</summary>
public abstract record TwoPoints(PointXY From, PointXY To) : Shape
{
    /// <inheritdoc/>
    protected override Extents Reach => Extents.Empty.With(From.X, From.Y).With(To.X, To.Y);

    /// <inheritdoc/>
    protected override bool HasSize => From != To;

    /// <summary>Half way from one to the other.</summary>
    protected PointXY Middle => new((From.X + To.X) / 2, (From.Y + To.Y) / 2);
}

/// <summary>A shape round a rectangle given by two opposite corners.</summary>
public abstract record Round(PointXY From, PointXY To) : TwoPoints(From, To)
{
    /// <inheritdoc/>
    protected override bool HasSize => From.X != To.X && From.Y != To.Y;

    /// <summary>The rectangle's corners, clockwise from its upper left.</summary>
    protected PointXY[] Corners
    {
        get
        {
            var box = Reach;
            return [new(box.MinX, box.MaxY), new(box.MaxX, box.MaxY), new(box.MaxX, box.MinY), new(box.MinX, box.MinY)];
        }
    }
}

/// <summary>A rectangle.</summary>
public sealed record Box(PointXY From, PointXY To) : Round(From, To)
{
    /// <inheritdoc/>
    /// <param name="detail">Is not asked: its sides have no small parts.</param>
    public override Outline Outline(double detail) => new([[.. Corners, Corners[0]]], OutlineFill.Tint, Corners[1], Middle);
}

/// <summary>An ellipse within a rectangle, along its sides.</summary>
public sealed record Ellipse(PointXY From, PointXY To) : Round(From, To)
{
    /// <summary>Straight pieces it is drawn by.</summary>
    private const int Pieces = 72;

    /// <inheritdoc/>
    /// <param name="detail">Is not asked: it is drawn by as many pieces at every size.</param>
    public override Outline Outline(double detail)
    {
        double rx = Math.Abs(To.X - From.X) / 2, ry = Math.Abs(To.Y - From.Y) / 2;
        var middle = Middle;
        PointXY On(int piece)
        {
            var angle = 2 * Math.PI * (piece % Pieces) / Pieces;
            return new(middle.X + (rx * Math.Cos(angle)), middle.Y + (ry * Math.Sin(angle)));
        }
        return new([[.. Enumerable.Range(0, Pieces + 1).Select(On)]], OutlineFill.Tint, On(Pieces / 8), middle);
    }
}

/// <summary>A rectangle inked as with a broad pale pen: look here, nothing is wrong with it.</summary>
public sealed record Highlight(PointXY From, PointXY To) : Round(From, To)
{
    /// <inheritdoc/>
    /// <param name="detail">Is not asked: its sides have no small parts.</param>
    public override Outline Outline(double detail) => new([[.. Corners, Corners[0]]], OutlineFill.Highlight, Corners[1], Middle);
}

/// <summary>A straight line.</summary>
public sealed record Line(PointXY From, PointXY To) : TwoPoints(From, To)
{
    /// <inheritdoc/>
    /// <param name="detail">Is not asked: it has no small parts.</param>
    public override Outline Outline(double detail) => new([[From, To]], OutlineFill.None, To, Middle);
}

/// <summary>Struck through: two strokes side by side over what is to go.</summary>
public sealed record Strike(PointXY From, PointXY To) : TwoPoints(From, To)
{
    /// <inheritdoc/>
    public override Outline Outline(double detail)
    {
        double dx = To.X - From.X, dy = To.Y - From.Y, length = Math.Sqrt((dx * dx) + (dy * dy)), nx = -dy / length * detail / 2, ny = dx / length * detail / 2;
        PointXY[] Beside(int side) => [new(From.X + (side * nx), From.Y + (side * ny)), new(To.X + (side * nx), To.Y + (side * ny))];
        return new([[.. Beside(1)], [.. Beside(-1)]], OutlineFill.None, To, Middle);
    }
}
