namespace Froe.Core.Drawing;

/// <summary>Colours as they read on white paper.</summary>
public static class PaperInk
{
    /// <summary>Ink for "no colour of its own".</summary>
    public const int Black = 0x1D2A33;

    /// <summary>
    /// Black (“no colour of its own”) is the house's ink, white is the paper's and covers. Any other is an ink of the same hue that stands out from white paper by at least 3 : 1 (WCAG 2.2, 1.4.11);
    /// files are often coloured for a black screen, where yellow reads well and black does not.
    /// </summary>
    public static int OnPaper(int rgb)
    {
        if (rgb == 0x000000) return Black;
        if (rgb == 0xFFFFFF) return rgb;
        double r = (rgb >> 16) & 255, g = (rgb >> 8) & 255, b = rgb & 255;
        for (var i = 0; i < 40 && 1.05 / (Luminance(r, g, b) + 0.05) < 3; i++)
            (r, g, b) = (r * 0.93, g * 0.93, b * 0.93);
        return ((int)r << 16) | ((int)g << 8) | (int)b;
    }

    /// <summary>Colour number 1 to 255 of a DXF file (7, which is black on white and white on black, as black): nine fixed colours, 24 hues in five depths and two strengths, six greys.</summary>
    public static int FromColourNumber(int number)
    {
        ReadOnlySpan<int> first = [0, 0xFF0000, 0xFFFF00, 0x00FF00, 0x00FFFF, 0x0000FF, 0xFF00FF, 0x000000, 0x808080, 0xC0C0C0];
        if (number is < 1 or > 255) return 0;
        if (number < 10) return first[number];
        if (number >= 250)
        {
            var grey = 51 + ((number - 250) * 204 / 5);
            return (grey << 16) | (grey << 8) | grey;
        }
        ReadOnlySpan<double> depth = [1, 0.74, 0.6, 0.4, 0.3];
        var value = 255 * depth[number % 10 / 2];
        var pale = number % 2 == 1 ? value / 2 : 0;
        var hue = (number / 10 - 1) * 15 / 60.0;
        return (Channel(hue) << 16) | (Channel(hue + 4) << 8) | Channel(hue + 2);

        // A channel of the colour wheel: full for one third, empty for one third, rising and falling between.
        int Channel(double at)
        {
            at %= 6;
            var share = Math.Clamp(Math.Abs(at - 3) - 1, 0, 1);
            return (int)Math.Round(pale + ((value - pale) * share));
        }
    }

    private static double Luminance(double r, double g, double b)
    {
        return (0.2126 * Linear(r)) + (0.7152 * Linear(g)) + (0.0722 * Linear(b));

        static double Linear(double c)
        {
            c /= 255;
            return c <= 0.04045 ? c / 12.92 : Math.Pow((c + 0.055) / 1.055, 2.4);
        }
    }
}
