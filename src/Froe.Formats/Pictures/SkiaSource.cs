using System.Runtime.InteropServices;
using SkiaSharp;

namespace Froe.Formats.Pictures;

/// <summary>PNG, JPEG, WebP, BMP and GIF, row by row where the format lets itself be read so.</summary>
internal sealed class SkiaSource : IRasterSource
{
    /// <summary>Most pixels of a picture that must be held as a whole: interlaced, or of a format without rows.</summary>
    private const long MostWhole = 120_000_000;

    private const int Together = 64;

    private readonly byte[] file;

    private SkiaSource(byte[] file, RasterFacts facts) => (this.file, Facts) = (file, facts);

    public RasterFacts Facts { get; }

    /// <summary>Frames beyond the first, which are not shown.</summary>
    public int MoreFrames { get; private init; }

    /// <summary>Opens a picture; the fault instead when it is none.</summary>
    public static (SkiaSource? Source, string? Fault) Open(byte[] file)
    {
        using var data = SKData.CreateCopy(file);
        using var codec = SKCodec.Create(data);
        if (codec is null) return (null, "This is no picture that can be read: it is damaged, or not what its name says. Save it again as PNG or JPEG.");
        var (width, height) = (codec.Info.Width, codec.Info.Height);
        if (RasterFacts.TooLarge(width, height) is { } why) return (null, why);
        var isTurned = Turning.IsOnItsSide(Orientation(codec, file));
        var resolution = Resolution.Of(file);
        var words = codec.EncodedFormat switch { SKEncodedImageFormat.Jpeg => "JPEG", SKEncodedImageFormat.Png => "PNG", SKEncodedImageFormat.Webp => "WebP", SKEncodedImageFormat.Bmp => "BMP", SKEncodedImageFormat.Gif => "GIF", _ => "picture" };
        var facts = isTurned
            ? new RasterFacts(height, width, resolution?.Down, resolution?.Across, Resolution.IsLine(file), words)
            : new RasterFacts(width, height, resolution?.Across, resolution?.Down, Resolution.IsLine(file), words);
        return (new SkiaSource(file, facts) { MoreFrames = Math.Max(0, codec.FrameCount - 1) }, null);
    }

    public bool Rows(RowReceiver row)
    {
        using var data = SKData.CreateCopy(file);
        using var codec = SKCodec.Create(data);
        var info = new SKImageInfo(codec.Info.Width, codec.Info.Height, SKColorType.Bgra8888, codec.Info.AlphaType == SKAlphaType.Opaque ? SKAlphaType.Opaque : SKAlphaType.Premul);
        var orientation = Orientation(codec, file);
        if (orientation == Turning.Upright) return Stored(codec, info, row);
        var turning = new Turning(info.Width, info.Height, orientation);
        if (!Stored(codec, info, turning.Take)) return false;
        turning.Give(row);
        return true;
    }

    /// <summary>How it lies: the library knows for JPEG alone, where others carry the same words of the camera.</summary>
    private static int Orientation(SKCodec codec, byte[] file) => codec.EncodedOrigin == SKEncodedOrigin.TopLeft ? CameraWords.OrientationOf(file) : Turning.Known((int)codec.EncodedOrigin);

    private static bool Stored(SKCodec codec, SKImageInfo info, RowReceiver row) =>
        codec.StartScanlineDecode(info) == SKCodecResult.Success && codec.ScanlineOrder == SKCodecScanlineOrder.TopDown
            ? InRows(codec, info, row)
            : Whole(codec, info, row);

    private static bool InRows(SKCodec codec, SKImageInfo info, RowReceiver row)
    {
        var rows = new byte[info.RowBytes * Together];
        var held = GCHandle.Alloc(rows, GCHandleType.Pinned);
        try
        {
            for (var y = 0; y < info.Height; y += Together)
            {
                var wanted = Math.Min(Together, info.Height - y);
                if (codec.GetScanlines(held.AddrOfPinnedObject(), wanted, info.RowBytes) < wanted) return false;
                for (var i = 0; i < wanted; i++) Give(rows.AsSpan(i * info.RowBytes, info.RowBytes), info, row);
            }
            return true;
        }
        finally
        {
            held.Free();
        }
    }

    private static bool Whole(SKCodec codec, SKImageInfo info, RowReceiver row)
    {
        if ((long)info.Width * info.Height > MostWhole) throw new UnreadableException($"The picture has {info.Width:N0} × {info.Height:N0} points and can only be read as a whole, for which it is too large. Save it without interlacing, or smaller.");
        using var bitmap = new SKBitmap(info);
        if (codec.GetPixels(info, bitmap.GetPixels()) != SKCodecResult.Success) return false;
        for (var y = 0; y < info.Height; y++) Give(bitmap.GetPixelSpan().Slice(y * bitmap.RowBytes, 4 * info.Width), info, row);
        return true;
    }

    /// <summary>On white where it can be seen through.</summary>
    private static void Give(Span<byte> pixels, SKImageInfo info, RowReceiver row)
    {
        if (info.AlphaType != SKAlphaType.Opaque)
            for (var i = 0; i < pixels.Length; i += 4)
            {
                var white = 255 - pixels[i + 3];
                if (white == 0) continue;
                pixels[i] = (byte)Math.Min(255, pixels[i] + white);
                pixels[i + 1] = (byte)Math.Min(255, pixels[i + 1] + white);
                pixels[i + 2] = (byte)Math.Min(255, pixels[i + 2] + white);
            }
        row(pixels);
    }
}
