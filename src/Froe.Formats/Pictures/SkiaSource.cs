using System.Runtime.InteropServices;
using SkiaSharp;

namespace Froe.Formats.Pictures;

/// <summary>PNG, JPEG, WebP, BMP and GIF, row by row where the format lets itself be read so.</summary>
internal sealed class SkiaSource : IRasterSource
{
    /// <summary>Most pixels of a picture that must be held as a whole: turned, interlaced, or of a format without rows.</summary>
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
        var isTurned = codec.EncodedOrigin >= SKEncodedOrigin.LeftTop;
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
        return codec.EncodedOrigin == SKEncodedOrigin.TopLeft && codec.StartScanlineDecode(info) == SKCodecResult.Success && codec.ScanlineOrder == SKCodecScanlineOrder.TopDown
            ? InRows(codec, info, row)
            : Whole(codec, info, row);
    }

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
        using var upright = Upright(bitmap, codec.EncodedOrigin);
        for (var y = 0; y < upright.Height; y++) Give(upright.GetPixelSpan().Slice(y * upright.RowBytes, 4 * upright.Width), info, row);
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

    /// <summary>The picture as the camera was held (Exif 2.32, orientation).</summary>
    private static SKBitmap Upright(SKBitmap bitmap, SKEncodedOrigin origin)
    {
        if (origin == SKEncodedOrigin.TopLeft) return bitmap.Copy();
        float w = bitmap.Width, h = bitmap.Height;
        var matrix = origin switch
        {
            SKEncodedOrigin.TopRight => new SKMatrix(-1, 0, w, 0, 1, 0, 0, 0, 1),
            SKEncodedOrigin.BottomRight => new SKMatrix(-1, 0, w, 0, -1, h, 0, 0, 1),
            SKEncodedOrigin.BottomLeft => new SKMatrix(1, 0, 0, 0, -1, h, 0, 0, 1),
            SKEncodedOrigin.LeftTop => new SKMatrix(0, 1, 0, 1, 0, 0, 0, 0, 1),
            SKEncodedOrigin.RightTop => new SKMatrix(0, -1, h, 1, 0, 0, 0, 0, 1),
            SKEncodedOrigin.RightBottom => new SKMatrix(0, -1, h, -1, 0, w, 0, 0, 1),
            _ => new SKMatrix(0, 1, 0, -1, 0, w, 0, 0, 1),
        };
        var isTurned = origin >= SKEncodedOrigin.LeftTop;
        var turned = new SKBitmap(new SKImageInfo(isTurned ? bitmap.Height : bitmap.Width, isTurned ? bitmap.Width : bitmap.Height, SKColorType.Bgra8888, bitmap.AlphaType));
        using var canvas = new SKCanvas(turned);
        canvas.Clear(SKColors.Transparent);
        canvas.SetMatrix(in matrix);
        canvas.DrawBitmap(bitmap, 0, 0);
        return turned;
    }
}
