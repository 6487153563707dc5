using System.Globalization;
using Froe.Formats.Pdf;
using SkiaSharp;

namespace Froe.Formats.Out;

/// <summary>What the appearances of an update refer to: each written once.</summary>
/// <param name="update">Is written to.</param>
/// <param name="pictureOf">Pictures by what they are called by, as PNG; null where one is not at hand.</param>
internal sealed class Graphics(PdfUpdate update, Func<string, byte[]?> pictureOf)
{
    private readonly Dictionary<string, string> states = [];
    private readonly Dictionary<string, (string Name, string Reference)?> pictures = [];

    /// <summary>The graphics state that a path is drawn in (ISO 32000-2, 8.4.5), by its name and how it is referred to.</summary>
    public (string Name, string Reference) State(InkedPath path)
    {
        var name = string.Create(CultureInfo.InvariantCulture, $"G{Math.Round(path.Opacity * 100):00}{(path.Multiplies ? "M" : "")}");
        if (!states.TryGetValue(name, out var known))
            states[name] = known = update.Add($"<< /Type /ExtGState /ca {PdfTokens.Number(path.Opacity)} /CA {PdfTokens.Number(path.Opacity)} /BM /{(path.Multiplies ? "Multiply" : "Normal")} >>");
        return (name, known);
    }

    /// <summary>A picture as an image (8.9.5), by its name and how it is referred to; null where it is not at hand.</summary>
    public (string Name, string Reference)? Picture(string picture)
    {
        if (!pictures.TryGetValue(picture, out var known)) pictures[picture] = known = pictureOf(picture) is { } png ? ($"P{pictures.Count}", Written(png)) : null;
        return known;
    }

    private string Written(byte[] png)
    {
        var bounds = SKBitmap.DecodeBounds(png);
        using var bitmap = SKBitmap.Decode(png, new SKImageInfo(bounds.Width, bounds.Height, SKColorType.Rgba8888, SKAlphaType.Unpremul));
        var pixels = bitmap.GetPixelSpan();
        var (colours, opacity) = (new byte[bitmap.Width * bitmap.Height * 3], new byte[bitmap.Width * bitmap.Height]);
        var isOpaque = true;
        for (var i = 0; i < opacity.Length; i++)
        {
            pixels.Slice(4 * i, 3).CopyTo(colours.AsSpan(3 * i));
            isOpaque &= (opacity[i] = pixels[(4 * i) + 3]) == 255;
        }
        var size = string.Create(CultureInfo.InvariantCulture, $"/Type /XObject /Subtype /Image /Width {bitmap.Width} /Height {bitmap.Height} /BitsPerComponent 8");
        var mask = isOpaque ? "" : $" /SMask {update.AddStream($"{size} /ColorSpace /DeviceGray", opacity)}";
        return update.AddStream($"{size} /ColorSpace /DeviceRGB{mask}", colours);
    }
}
