using Froe.Core.Drawing;

namespace Froe.Core.Overlays;

/// <summary>A length between two points, measured off the sheet and kept: extension lines, a line between them with strokes at its ends (ISO 129-1), and the value.</summary>
/// <param name="Offset">How far its line lies beside the two points, to the left of the way from one to the other, in the sheet's units.</param>
/// <param name="Factor">
/// True millimetres in a unit of the sheet by the scale it was measured with; null where none was known and the length is that on paper. When the sheet's
/// scale is said anew, whoever reads it sees that it was another.
/// </param>
/// <param name="Wanted">What is asked for instead, as it was typed; empty for nothing.</param>
/// <param name="Height">The height of its letters, in the sheet's units.</param>
public sealed record Dimension(PointXY From, PointXY To, double Offset, double? Factor, string Wanted, double Height) : TwoPoints(From, To)
{
    /// <summary>Longest value asked for, in characters.</summary>
    public const int LongestWanted = 60;

    /// <inheritdoc/>
    protected override Extents Reach
    {
        get
        {
            var (a, b) = Ends;
            return base.Reach.With(a.X, a.Y).With(b.X, b.Y);
        }
    }

    /// <inheritdoc/>
    protected override bool HasSize =>
        From != To && double.IsFinite(Offset) && AreMeasures(Factor, Height) && Wanted.Length <= LongestWanted;

    /// <summary>Whether something kept can be said: by a scale, where there is one, in letters that have a size.</summary>
    internal static bool AreMeasures(double? factor, double height) =>
        (factor is null || (factor > 0 && double.IsFinite(factor.Value))) && height > 0 && double.IsFinite(height);

    /// <summary>From one point to the other, in the sheet's units.</summary>
    public double Length => Math.Sqrt(((To.X - From.X) * (To.X - From.X)) + ((To.Y - From.Y) * (To.Y - From.Y)));

    /// <summary>The ends of the line that bears the value.</summary>
    private (PointXY A, PointXY B) Ends
    {
        get
        {
            double dx = To.X - From.X, dy = To.Y - From.Y, length = Length, x = length > 0 ? -dy / length * Offset : 0, y = length > 0 ? dx / length * Offset : 0;
            return (new(From.X + x, From.Y + y), new(To.X + x, To.Y + y));
        }
    }

    /// <inheritdoc/>
    /// <remarks>The value is not part of it: whoever draws says it in their units, by the scale that holds.</remarks>
    public override Outline Outline(double detail)
    {
        var (a, b) = Ends;
        double ux = (To.X - From.X) / Length * detail / 2, uy = (To.Y - From.Y) / Length * detail / 2;
        // The strokes at the ends lean by an eighth of a turn to the line.
        PointXY[] Stroke(PointXY p) => [new(p.X - ux + uy, p.Y - uy - ux), new(p.X + ux - uy, p.Y + uy + ux)];
        return new(
            [[From, a], [To, b], [a, b], [.. Stroke(a)], [.. Stroke(b)]], OutlineFill.None, b, new((a.X + b.X) / 2, (a.Y + b.Y) / 2));
    }
}
