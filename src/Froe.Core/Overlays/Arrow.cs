using Froe.Core.Drawing;

namespace Froe.Core.Overlays;

/// <summary>An arrow from where its words stand to what it points at.</summary>
public sealed record Arrow(PointXY From, PointXY To) : Shape
{
    /// <summary>The angle between its shaft and each of its wings, in radians.</summary>
    private const double Wing = 0.4;

    /// <inheritdoc/>
    protected override Extents Box => Extents.Empty.With(From.X, From.Y).With(To.X, To.Y);

    /// <inheritdoc/>
    protected override bool HasSize => From != To;

    /// <inheritdoc/>
    public override Outline Outline(double detail)
    {
        var angle = Math.Atan2(To.Y - From.Y, To.X - From.X);
        PointXY End(double turn) => new(To.X - (detail * Math.Cos(angle + turn)), To.Y - (detail * Math.Sin(angle + turn)));
        return new([[From, To], [End(Wing), To, End(-Wing)]], false, From, To);
    }
}
