using System.Globalization;
using DocumentFormat.OpenXml;
using DocumentFormat.OpenXml.Packaging;
using DocumentFormat.OpenXml.Spreadsheet;
using Drawing = DocumentFormat.OpenXml.Drawing;

namespace Froe.Formats.Tables;

/// <summary>Colours of a workbook: written out, by number, or of its theme with a tint (ISO/IEC 29500-1, 18.8.3, 18.8.19, 18.8.27).</summary>
internal sealed class WorkbookColours
{
    private readonly List<string?> theme = [];
    private readonly List<string> palette;

    public WorkbookColours(WorkbookPart workbook)
    {
        var scheme = workbook.ThemePart?.Theme?.ThemeElements?.ColorScheme;
        if (scheme is not null) theme = [.. scheme.ChildElements.Select(OfTheme)];
        var own = workbook.WorkbookStylesPart?.Stylesheet?.Colors?.IndexedColors?.Elements<RgbColor>().Select(c => c.Rgb?.Value).ToList();
        palette = [.. Usual.Select((usual, i) => own is not null && i < own.Count && Rgb(own[i]) is { } given ? given : usual)];
    }

    /// <summary>A colour as #rrggbb; null where it is left to whoever shows it.</summary>
    public string? Of(ColorType? colour)
    {
        if (colour is null || colour.Auto?.Value == true) return null;
        var plain = colour.Rgb?.Value is { } rgb ? Rgb(rgb)
            : colour.Theme?.Value is { } number ? OfTheme(number)
            : colour.Indexed?.Value is { } index && index < palette.Count ? palette[(int)index] : null;
        return plain is not null && colour.Tint?.Value is { } tint && tint != 0 ? Tinted(plain, tint) : plain;
    }

    /// <summary>The theme lists dark before light, and cells count light before dark.</summary>
    private string? OfTheme(uint number)
    {
        var at = number switch { 0 => 1, 1 => 0, 2 => 3, 3 => 2, _ => (int)Math.Min(number, 1000) };
        return at < theme.Count ? theme[at] : null;
    }

    private static string? OfTheme(OpenXmlElement entry) => entry.FirstChild switch
    {
        Drawing.RgbColorModelHex hex => Rgb(hex.Val?.Value),
        Drawing.SystemColor system => Rgb(system.LastColor?.Value),
        _ => null,
    };

    private static string? Rgb(string? hex) =>
        hex is { Length: 6 or 8 } && uint.TryParse(hex, NumberStyles.HexNumber, CultureInfo.InvariantCulture, out var value) ? $"#{value & 0xFFFFFF:x6}" : null;

    /// <summary>Lighter or darker, by the lightness of hue, saturation and lightness (18.8.19).</summary>
    private static string Tinted(string colour, double tint)
    {
        var rgb = Convert.ToInt32(colour[1..], 16);
        double r = (rgb >> 16) / 255.0, g = ((rgb >> 8) & 255) / 255.0, b = (rgb & 255) / 255.0;
        double max = Math.Max(r, Math.Max(g, b)), min = Math.Min(r, Math.Min(g, b)), light = (max + min) / 2, span = max - min;
        double hue = 0, saturation = 0;
        if (span > 0)
        {
            saturation = light > 0.5 ? span / (2 - max - min) : span / (max + min);
            hue = max == r ? ((g - b) / span) + (g < b ? 6 : 0) : max == g ? ((b - r) / span) + 2 : ((r - g) / span) + 4;
        }
        tint = Math.Clamp(tint, -1, 1);
        light = tint < 0 ? light * (1 + tint) : (light * (1 - tint)) + tint;
        var q = light < 0.5 ? light * (1 + saturation) : light + saturation - (light * saturation);
        var p = (2 * light) - q;
        int Channel(double turn)
        {
            var t = ((turn % 6) + 6) % 6;
            var value = t < 1 ? p + ((q - p) * t) : t < 3 ? q : t < 4 ? p + ((q - p) * (4 - t)) : p;
            return (int)Math.Round(Math.Clamp(value, 0, 1) * 255);
        }
        return $"#{Channel(hue + 2):x2}{Channel(hue):x2}{Channel(hue - 2):x2}";
    }

    /// <summary>The palette of a workbook that brings none (18.8.27).</summary>
    private static readonly string[] Usual =
    [
        .. Eight, .. Eight,
        "#800000", "#008000", "#000080", "#808000", "#800080", "#008080", "#c0c0c0", "#808080",
        "#9999ff", "#993366", "#ffffcc", "#ccffff", "#660066", "#ff8080", "#0066cc", "#ccccff",
        "#000080", "#ff00ff", "#ffff00", "#00ffff", "#800080", "#800000", "#008080", "#0000ff",
        "#00ccff", "#ccffff", "#ccffcc", "#ffff99", "#99ccff", "#ff99cc", "#cc99ff", "#ffcc99",
        "#3366ff", "#33cccc", "#99cc00", "#ffcc00", "#ff9900", "#ff6600", "#666699", "#969696",
        "#003366", "#339966", "#003300", "#333300", "#993300", "#993366", "#333399", "#333333",
        "#000000", "#ffffff",
    ];

    private static string[] Eight => ["#000000", "#ffffff", "#ff0000", "#00ff00", "#0000ff", "#ffff00", "#ff00ff", "#00ffff"];
}
