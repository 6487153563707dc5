using System.Runtime.InteropServices;
using SkiaSharp;

namespace Froe.Formats.Pictures;

/// <summary>Pictures of points, as they are stored.</summary>
internal static class RasterPicture
{
    /// <summary>A WebP without loss of rows of blue, green, red and a spare byte, from the top.</summary>
    public static byte[] WebP(byte[] pixels, int width, int height)
    {
        ArgumentNullException.ThrowIfNull(pixels);
        var held = GCHandle.Alloc(pixels, GCHandleType.Pinned);
        try
        {
            using var map = new SKPixmap(new SKImageInfo(width, height, SKColorType.Bgra8888, SKAlphaType.Opaque), held.AddrOfPinnedObject());
            using var data = map.Encode(new SKWebpEncoderOptions(SKWebpEncoderCompression.Lossless, 30));
            return data!.ToArray();
        }
        finally
        {
            held.Free();
        }
    }
}
