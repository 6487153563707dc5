using Froe.Core.Drawing;

namespace Froe.Core.Overlays;

/// <summary>An arrow from where its words stand to what it points at.</summary>
public sealed record Arrow(PointXY From, PointXY To) : TwoPoints(From, To)
{
    /// <inheritdoc/>
    public override Outline Outline(double detail) => new([[From, To], [.. ArrowHead.At(From, To, detail)]], OutlineFill.None, From, To);
}

/// <summary>An arrow with words at its beginning, on the side that it does not point to.</summary>
/// <param name="Height">The height of their letters, in the sheet's units.</param>
public sealed record Leader(PointXY From, PointXY To, string Text, double Height) : TwoPoints(From, To)
{
    /// <inheritdoc/>
    protected override bool HasSize => From != To && WrittenWords.Are(Text, Height);

    /// <inheritdoc/>
    public override Outline Outline(double detail)
    {
        var endsThere = To.X > From.X;
        // A short landing leads from the arrow to the words, half way up their first line.
        var landing = new PointXY(From.X + ((endsThere ? -1 : 1) * Height), From.Y);
        var words = new OutlineWords(new(landing.X + ((endsThere ? -0.4 : 0.4) * Height), From.Y + (Height * OutlineWords.Leading / 2)), Text, Height, endsThere);
        return new([[landing, From, To], [.. ArrowHead.At(From, To, detail)]], OutlineFill.None, landing, To, words);
    }
}

/// <summary>The head of an arrow: two wings.</summary>
internal static class ArrowHead
{
    /// <summary>The angle between an arrow's shaft and each of its wings, in radians.</summary>
    private const double Wing = 0.4;

    public static PointXY[] At(PointXY from, PointXY to, double length)
    {
        var angle = Math.Atan2(to.Y - from.Y, to.X - from.X);
        PointXY End(double turn) => new(to.X - (length * Math.Cos(angle + turn)), to.Y - (length * Math.Sin(angle + turn)));
        return [End(Wing), to, End(-Wing)];
    }
}
