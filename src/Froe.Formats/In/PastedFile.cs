using Froe.Core.Exchange;
using Froe.Formats.Pictures;
using SkiaSharp;

namespace Froe.Formats.In;

/// <summary>Pictures that people put on sheets and into notes: read by whatever can, kept as PNG of a bounded size and nothing else that the file held.</summary>
public static class PastedFile
{
    /// <summary>Pixels on the longer side of what is kept, the larger first: until it is small enough.</summary>
    private static readonly int[] Sizes = [2000, 1400, 1000, 700];

    /// <summary>Bytes of a file, and of what is kept.</summary>
    private const int MostBytes = 20_000_000, MostKept = 4 << 20;

    /// <summary>Reads one.</summary>
    /// <returns>What is kept of it; why it cannot be read instead.</returns>
    public static (byte[]? Png, PastedSize Size, string? Fault) Read(Stream from)
    {
        ArgumentNullException.ThrowIfNull(from);
        var (file, tooLong) = WholeFile.Read(from, MostBytes);
        if (file is null) return (null, default!, tooLong!.ToString());
        var (source, fault) = SkiaSource.Open(file);
        if (source is null) return (null, default!, fault);
        using var whole = SKBitmap.Decode(file);
        if (whole is null) return (null, default!, "The picture is damaged. Copy it again.");
        foreach (var longest in Sizes)
        {
            var scale = Math.Min(1, (double)longest / Math.Max(whole.Width, whole.Height));
            var info = new SKImageInfo(Math.Max(1, (int)Math.Round(whole.Width * scale)), Math.Max(1, (int)Math.Round(whole.Height * scale)), SKColorType.Rgba8888, SKAlphaType.Unpremul);
            using var sized = whole.Resize(info, new SKSamplingOptions(SKFilterMode.Linear, SKMipmapMode.Linear));
            using var data = sized?.Encode(SKEncodedImageFormat.Png, 100);
            if (data is null) return (null, default!, "The picture is damaged. Copy it again.");
            if (data.Size <= MostKept) return (data.ToArray(), new PastedSize(info.Width, info.Height), null);
        }
        return (null, default!, "The picture is too large. Copy a smaller part of it.");
    }
}
