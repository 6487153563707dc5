using Froe.Core.Drawing;
using Froe.Formats.Pictures;
using SkiaSharp;

namespace Froe.Formats.Out;

/// <summary>Words set on paper, in points: wrapped to a width, in our lettering and other fonts for what it lacks.</summary>
internal static class PaperText
{
    /// <summary>From one line to the next, in sizes of letters.</summary>
    private const float Leading = 1.36f;

    /// <summary>How high words are when they are wrapped.</summary>
    public static float Height(string words, float width, float size) => Lines(words, width, size).Count * size * Leading;

    /// <summary>Draws words; gives how high they are.</summary>
    /// <param name="canvas">Is drawn on.</param>
    /// <param name="words">The words; a line's end is one.</param>
    /// <param name="x">Where they begin.</param>
    /// <param name="y">The upper side of their first line.</param>
    /// <param name="width">What they are wrapped to.</param>
    /// <param name="size">Of their letters.</param>
    /// <param name="rgb">Their ink, 0xRRGGBB.</param>
    public static float Draw(SKCanvas canvas, string words, float x, float y, float width, float size, int rgb)
    {
        using var paint = new SKPaint { IsAntialias = true, Color = new SKColor((uint)rgb | 0xFF000000) };
        using var font = Font(SheetPicture.Face, size);
        var lines = Lines(words, width, size);
        for (var i = 0; i < lines.Count; i++)
        {
            var at = x;
            foreach (var (piece, shown, wide) in Pieces(lines[i], font))
            {
                canvas.DrawText(piece, at, y + (size * (Leading * i + 1)), SKTextAlign.Left, shown, paint);
                at += wide;
            }
        }
        return lines.Count * size * Leading;
    }

    /// <summary>A font for paper: no letter moves to where a screen has its pixels.</summary>
    private static SKFont Font(SKTypeface face, float size) => new(face, size) { Subpixel = true, LinearMetrics = true, Hinting = SKFontHinting.None };

    private static List<(string Words, SKFont Font, float Width)> Pieces(string words, SKFont font)
    {
        // Other fonts are kept at one size; here they are wanted at this one.
        var pieces = SheetPicture.Pieces(words, font);
        return pieces.ConvertAll(p => ReferenceEquals(p.Font, font) ? p : At(p.Words, Font(p.Font.Typeface, font.Size * 0.95f)));

        static (string, SKFont, float) At(string words, SKFont font) => (words, font, font.MeasureText(words));
    }

    private static List<string> Lines(string words, float width, float size)
    {
        using var font = Font(SheetPicture.Face, size);
        float Wide(string text) => Lettering.Width(text) is var rough && rough * size * Lettering.CapHeight < width * 0.5 ? (float)(rough * size * Lettering.CapHeight) : Pieces(text, font).Sum(p => p.Width);
        var lines = new List<string>();
        foreach (var paragraph in words.Replace("\r", "", StringComparison.Ordinal).Split('\n'))
        {
            var line = "";
            foreach (var word in paragraph.Split(' '))
            {
                var longer = line.Length == 0 ? word : $"{line} {word}";
                if (Wide(longer) <= width)
                {
                    line = longer;
                    continue;
                }
                if (line.Length > 0) lines.Add(line);
                line = word;
                // A word longer than the line, and writing without blanks, is cut where it must be.
                while (line.Length > 1 && Wide(line) > width)
                {
                    var fits = Fitting(line, width, Wide);
                    lines.Add(line[..fits]);
                    line = line[fits..];
                }
            }
            lines.Add(line);
        }
        return lines;
    }

    /// <summary>How many of its characters fit, one at least; letters of two parts are not torn.</summary>
    private static int Fitting(string line, float width, Func<string, float> wide)
    {
        int least = 1, most = line.Length - 1;
        while (least < most)
        {
            var middle = (least + most + 1) / 2;
            if (wide(line[..middle]) <= width) least = middle;
            else most = middle - 1;
        }
        return least > 1 && char.IsHighSurrogate(line[least - 1]) ? least - 1 : char.IsHighSurrogate(line[0]) ? Math.Max(2, least) : least;
    }
}
