using System.Runtime.InteropServices;
using SkiaSharp;

namespace Froe.Formats.Pictures;

/// <summary>Pictures of points, as they are stored.</summary>
internal static class RasterPicture
{
    private static readonly SKWebpEncoderOptions WithoutLoss = new(SKWebpEncoderCompression.Lossless, 30), ToLookAt = new(SKWebpEncoderCompression.Lossy, 85);

    /// <summary>A WebP without loss of rows of blue, green, red and a spare byte, from the top.</summary>
    public static byte[] WebP(byte[] pixels, int width, int height) => Held(pixels, width, height, map => Encoded(map, WithoutLoss));

    /// <summary>The same, smaller.</summary>
    /// <param name="isExact">Whether nothing of its pixels may be lost.</param>
    public static byte[] Shrunk(byte[] pixels, int width, int height, int newWidth, int newHeight, bool isExact = true) => Held(pixels, width, height, map =>
    {
        using var small = new SKBitmap(new SKImageInfo(newWidth, newHeight, SKColorType.Bgra8888, SKAlphaType.Opaque));
        using var to = small.PeekPixels();
        return map.ScalePixels(to, new SKSamplingOptions(SKFilterMode.Linear, SKMipmapMode.Linear)) ? Encoded(to, isExact ? WithoutLoss : ToLookAt) : throw new InvalidOperationException("The picture could not be made smaller.");
    });

    private static byte[] Encoded(SKPixmap map, SKWebpEncoderOptions how)
    {
        using var data = map.Encode(how);
        return data!.ToArray();
    }

    private static byte[] Held(byte[] pixels, int width, int height, Func<SKPixmap, byte[]> make)
    {
        ArgumentNullException.ThrowIfNull(pixels);
        var held = GCHandle.Alloc(pixels, GCHandleType.Pinned);
        try
        {
            using var map = new SKPixmap(new SKImageInfo(width, height, SKColorType.Bgra8888, SKAlphaType.Opaque), held.AddrOfPinnedObject());
            return make(map);
        }
        finally
        {
            held.Free();
        }
    }
}
