using System.Collections.Immutable;
using Froe.Core.Drawing;

namespace Froe.Core.Overlays;

/// <summary>A revision cloud round a rectangle given by two opposite corners: half-round scallops, bulging outwards, along its sides.</summary>
public sealed record Cloud(PointXY From, PointXY To) : Shape
{
    /// <summary>Straight pieces in one scallop.</summary>
    private const int Pieces = 6;

    /// <summary>Most scallops on a side, however long it is.</summary>
    private const int MostScallops = 400;

    /// <summary>A scallop's rise over its chord's half: flatter than a half circle, as a hand draws it.</summary>
    private const double Rise = 0.7;

    /// <inheritdoc/>
    protected override Extents Box => Extents.Empty.With(From.X, From.Y).With(To.X, To.Y);

    /// <inheritdoc/>
    protected override bool HasSize => From.X != To.X && From.Y != To.Y;

    /// <inheritdoc/>
    public override Outline Outline(double detail)
    {
        var box = Box;
        PointXY[] corners = [new(box.MinX, box.MaxY), new(box.MaxX, box.MaxY), new(box.MaxX, box.MinY), new(box.MinX, box.MinY)];
        var line = ImmutableArray.CreateBuilder<PointXY>();
        line.Add(corners[0]);
        for (var side = 0; side < 4; side++)
        {
            var (a, b) = (corners[side], corners[(side + 1) % 4]);
            // Going round clockwise, the outside lies to the left: half of one is the other turned by a quarter.
            var (dx, dy) = (b.X - a.X, b.Y - a.Y);
            var count = (int)Math.Clamp(Math.Round((Math.Abs(dx) + Math.Abs(dy)) / detail, MidpointRounding.AwayFromZero), 1, MostScallops);
            var (rx, ry) = (-dy / count / 2 * Rise, dx / count / 2 * Rise);
            for (var i = 1; i <= count * Pieces; i++)
            {
                var angle = Math.PI * (i % Pieces) / Pieces;
                var along = ((i / Pieces) + ((1 - Math.Cos(angle)) / 2)) / count;
                var rise = Math.Sin(angle);
                line.Add(new(a.X + (dx * along) + (rx * rise), a.Y + (dy * along) + (ry * rise)));
            }
        }
        return new([line.DrainToImmutable()], true, corners[1], new((box.MinX + box.MaxX) / 2, (box.MinY + box.MaxY) / 2));
    }
}
