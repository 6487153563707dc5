using Froe.Core.Drawing;

namespace Froe.Core.Overlays;

/// <summary>A stamp: words in a double frame, with who put it there and when as its last line.</summary>
/// <param name="At">The frame's upper left corner.</param>
/// <param name="Height">The height of its letters, in the sheet's units.</param>
public sealed record Stamp(PointXY At, string Text, double Height) : Shape
{
    /// <summary>Between the frame and its words, and between its two lines, in heights of letters.</summary>
    private const double Beside = 1, Above = 0.6, Between = 0.35;

    /// <summary>How high the frame about some lines is, in heights of letters.</summary>
    public static double HeightOf(int lines) => (lines * OutlineWords.Leading) + (2 * Above);

    /// <inheritdoc/>
    protected override Extents Reach => Extents.Empty.With(At.X, At.Y);

    /// <inheritdoc/>
    protected override bool HasSize => WrittenWords.Are(Text, Height);

    /// <inheritdoc/>
    /// <param name="detail">Is not asked: it is as large as its letters.</param>
    public override Outline Outline(double detail)
    {
        var words = new OutlineWords(new(At.X + (Beside * Height), At.Y - (Above * Height)), Text, Height);
        var room = words.Room;
        double right = room.MaxX + (Beside * Height), bottom = room.MinY - (Above * Height);
        PointXY[] Frame(double within) =>
            [new(At.X + within, At.Y - within), new(right - within, At.Y - within), new(right - within, bottom + within), new(At.X + within, bottom + within), new(At.X + within, At.Y - within)];
        return new([[.. Frame(0)], [.. Frame(Between * Height)]], OutlineFill.Tint, new(right, At.Y), new((At.X + right) / 2, (At.Y + bottom) / 2), words);
    }
}

/// <summary>One of several things that are counted: a number in a circle.</summary>
/// <param name="Number">The how-manieth it is, from 1.</param>
/// <param name="Height">The height of its number, in the sheet's units.</param>
public sealed record Count(PointXY At, int Number, double Height) : Shape
{
    /// <summary>The greatest number.</summary>
    public const int Most = 99_999;

    /// <summary>Straight pieces its circle is drawn by.</summary>
    private const int Pieces = 36;

    /// <summary>Where on the circle the number of its note stands.</summary>
    private const int Label = 4;

    /// <summary>What a digit takes of its line, and the circle's radius about one of them, in heights of letters.</summary>
    private const double Digit = 0.68, Radius = 1.05;

    /// <inheritdoc/>
    protected override Extents Reach => Extents.Empty.With(At.X, At.Y);

    /// <inheritdoc/>
    protected override bool HasSize => Number is >= 1 and <= Most && Height > 0 && double.IsFinite(Height);

    /// <inheritdoc/>
    /// <param name="detail">Is not asked: it is as large as its number.</param>
    public override Outline Outline(double detail)
    {
        var text = Number.ToString(System.Globalization.CultureInfo.InvariantCulture);
        var radius = Height * (Radius + ((text.Length - 1) * Digit / 2));
        PointXY On(int piece)
        {
            var angle = 2 * Math.PI * (piece % Pieces) / Pieces;
            return new(At.X + (radius * Math.Cos(angle)), At.Y + (radius * Math.Sin(angle)));
        }
        var words = new OutlineWords(new(At.X - (text.Length * Digit * Height / 2), At.Y + (OutlineWords.Leading * Height / 2)), text, Height);
        return new([[.. Enumerable.Range(0, Pieces + 1).Select(On)]], OutlineFill.Tint, On(Label), At, words);
    }
}
