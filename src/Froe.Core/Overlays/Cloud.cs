using System.Collections.Immutable;
using Froe.Core.Drawing;

namespace Froe.Core.Overlays;

/// <summary>A revision cloud round a rectangle given by two opposite corners.</summary>
public sealed record Cloud(PointXY From, PointXY To) : Round(From, To)
{
    /// <inheritdoc/>
    public override Outline Outline(double detail) => new([Scallops.Round(Corners, detail)], OutlineFill.Tint, Corners[1], Middle);
}

/// <summary>A revision cloud round what some points enclose.</summary>
public sealed record CloudPath(ImmutableArray<PointXY> Points) : PointPath(Points)
{
    /// <inheritdoc/>
    protected override int Least => 3;

    /// <inheritdoc/>
    public override Outline Outline(double detail)
    {
        var box = Reach;
        PointXY[] clockwise = TwiceArea() > 0 ? [.. Points.Reverse()] : [.. Points];
        return new([Scallops.Round(clockwise, detail)], OutlineFill.Tint, Uppermost(), new((box.MinX + box.MaxX) / 2, (box.MinY + box.MaxY) / 2));
    }
}

/// <summary>The scallops of revision clouds: half-round, bulging outwards.</summary>
internal static class Scallops
{
    /// <summary>Straight pieces in one scallop.</summary>
    private const int Pieces = 6;

    /// <summary>Most scallops on a side, however long it is.</summary>
    private const int Most = 400;

    /// <summary>A scallop's rise over its chord's half: flatter than a half circle, as a hand draws it.</summary>
    private const double Rise = 0.7;

    /// <summary>A closed line of scallops along the sides between corners.</summary>
    /// <param name="corners">Going round clockwise.</param>
    /// <param name="length">How long a scallop is, about.</param>
    public static ImmutableArray<PointXY> Round(PointXY[] corners, double length)
    {
        var line = ImmutableArray.CreateBuilder<PointXY>();
        line.Add(corners[0]);
        for (var side = 0; side < corners.Length; side++)
        {
            var (a, b) = (corners[side], corners[(side + 1) % corners.Length]);
            // Going round clockwise, the outside lies to the left: half of one is the other turned by a quarter.
            var (dx, dy) = (b.X - a.X, b.Y - a.Y);
            var count = (int)Math.Clamp(Math.Round(Math.Sqrt((dx * dx) + (dy * dy)) / length, MidpointRounding.AwayFromZero), 1, Most);
            var (rx, ry) = (-dy / count / 2 * Rise, dx / count / 2 * Rise);
            for (var i = 1; i <= count * Pieces; i++)
            {
                var angle = Math.PI * (i % Pieces) / Pieces;
                var along = ((i / Pieces) + ((1 - Math.Cos(angle)) / 2)) / count;
                var rise = Math.Sin(angle);
                line.Add(new(a.X + (dx * along) + (rx * rise), a.Y + (dy * along) + (ry * rise)));
            }
        }
        return line.DrainToImmutable();
    }
}
