using Froe.Core.Drawing;

namespace Froe.Formats.Pdf;

/// <summary>
/// Lines of words that a page paints and its picture shows nothing of: the letters of a font that is not in the file and that the page engine
/// has none for, or what something was painted over. Where they should be, the picture is of one colour, and that is not theirs.
/// </summary>
internal static class UnseenWords
{
    /// <summary>Pixels that a line must be high and wide to be looked for.</summary>
    private const int Least = 3;

    /// <summary>How far pixels may differ, of 255, and still be of one colour; and how far that must differ from the words' own.</summary>
    private const int Alike = 8, Apart = 48;

    /// <summary>How often all of the picture is looked at together at the most: lines may lie over one another without end.</summary>
    private const int MostLooks = 30;

    /// <summary>The lines, in the order in which they are painted.</summary>
    /// <param name="sheet">What the page's operators draw, in millimetres of paper.</param>
    /// <param name="pixels">Its picture: rows of blue, green, red and a spare byte, from the top.</param>
    /// <param name="width">Pixels in a row.</param>
    /// <param name="height">Rows.</param>
    /// <param name="scale">Pixels in a millimetre.</param>
    public static IEnumerable<string> Of(Sheet sheet, byte[] pixels, int width, int height, double scale)
    {
        ArgumentNullException.ThrowIfNull(sheet);
        ArgumentNullException.ThrowIfNull(pixels);
        var left = MostLooks * (long)width * height;
        foreach (var text in sheet.Texts)
        {
            if (left <= 0) yield break;
            var style = sheet.Styles[sheet.EntityStyle[text.Entity]];
            if (sheet.Layers[style.Layer].IsOn && text.Text.Where(char.IsLetterOrDigit).Take(2).Count() == 2 && IsUnseen(text, style.Rgb)) yield return text.Text;
        }

        bool IsUnseen(TextRun text, int rgb)
        {
            var corners = text.Corners();
            int from = Pixel(corners.Min(c => c.X) * scale), to = Pixel(corners.Max(c => c.X) * scale);
            int top = Pixel(height - (corners.Max(c => c.Y) * scale)), bottom = Pixel(height - (corners.Min(c => c.Y) * scale));
            // What reaches over the page's side is cut there.
            if (from < 0 || top < 0 || to > width || bottom > height || to - from < Least || bottom - top < Least) return false;
            var first = ((top * width) + from) * 4;
            if (Difference(pixels[first + 2], pixels[first + 1], pixels[first], (byte)(rgb >> 16), (byte)(rgb >> 8), (byte)rgb) < Apart) return false;
            for (var y = top; y < bottom; y++, left -= to - from)
                for (int x = from, at = ((y * width) + from) * 4; x < to; x++, at += 4)
                    if (Difference(pixels[at], pixels[at + 1], pixels[at + 2], pixels[first], pixels[first + 1], pixels[first + 2]) > Alike) return false;
            return true;
        }
    }

    private static int Pixel(double at) => at is > -1e6 and < 1e6 ? (int)Math.Floor(at) : -1;

    private static int Difference(byte a, byte b, byte c, byte d, byte e, byte f) => Math.Max(Math.Abs(a - d), Math.Max(Math.Abs(b - e), Math.Abs(c - f)));
}
