using System.Buffers.Binary;

namespace Froe.Formats.Pictures;

/// <summary>Finds the resolution that a picture's file states.</summary>
internal static class Resolution
{
    private const double Inch = 0.0254;

    /// <summary>Pixels an inch, along and down; null where the file does not say. A camera's is nothing about paper, so it does not count.</summary>
    public static (double Across, double Down)? Of(ReadOnlySpan<byte> file)
    {
        if (file.StartsWith((ReadOnlySpan<byte>)[0x89, (byte)'P', (byte)'N', (byte)'G'])) return Png(file);
        if (file.StartsWith((ReadOnlySpan<byte>)[0xFF, 0xD8])) return Jpeg(file);
        return file.StartsWith("BM"u8) ? Bmp(file) : null;
    }

    /// <summary>Whether the file says that it has few colours: a palette, or few bits a pixel.</summary>
    public static bool IsLine(ReadOnlySpan<byte> file)
    {
        if (file.StartsWith((ReadOnlySpan<byte>)[0x89, (byte)'P', (byte)'N', (byte)'G'])) return file.Length > 25 && (file[24] <= 4 || file[25] == 3);
        if (file.StartsWith("GIF8"u8)) return true;
        return file.StartsWith("BM"u8) && file.Length > 30 && BinaryPrimitives.ReadUInt16LittleEndian(file[28..]) <= 8;
    }

    /// <summary>ISO/IEC 15948, 11.3.5.3: pixels a unit, the unit a metre or unknown.</summary>
    private static (double, double)? Png(ReadOnlySpan<byte> file)
    {
        for (long at = 8; at + 12 <= file.Length;)
        {
            var chunk = file[(int)at..];
            var length = BinaryPrimitives.ReadUInt32BigEndian(chunk);
            var name = chunk.Slice(4, 4);
            if (name.SequenceEqual("pHYs"u8) && chunk.Length >= 17 && length == 9)
                return chunk[16] == 1 ? Known(BinaryPrimitives.ReadUInt32BigEndian(chunk[8..]) * Inch, BinaryPrimitives.ReadUInt32BigEndian(chunk[12..]) * Inch) : null;
            if (name.SequenceEqual("IDAT"u8)) return null;
            at += 12 + length;
        }
        return null;
    }

    /// <summary>JFIF 1.02 (ITU-T T.871) and Exif 2.32 (CIPA DC-008), in the markers before the scan.</summary>
    private static (double, double)? Jpeg(ReadOnlySpan<byte> file)
    {
        (double, double)? stated = null;
        for (var at = 2; at + 4 <= file.Length && file[at] == 0xFF && file[at + 1] != 0xDA;)
        {
            if (file[at + 1] == 0xFF)
            {
                at++;
                continue;
            }
            var length = BinaryPrimitives.ReadUInt16BigEndian(file[(at + 2)..]);
            var segment = file.Slice(at + 4, Math.Max(0, Math.Min(length - 2, file.Length - at - 4)));
            if (file[at + 1] == 0xE0 && segment.Length >= 12 && segment.StartsWith("JFIF\0"u8))
            {
                double x = BinaryPrimitives.ReadUInt16BigEndian(segment[8..]), y = BinaryPrimitives.ReadUInt16BigEndian(segment[10..]);
                stated ??= segment[7] switch { 1 => Known(x, y), 2 => Known(x * 2.54, y * 2.54), _ => null };
            }
            else if (file[at + 1] == 0xE1 && segment.StartsWith("Exif\0\0"u8))
            {
                var words = CameraWords.Of(segment[6..]);
                if (words.IsPhotograph) return null;
                stated = words.Resolution ?? stated;
            }
            at += 2 + Math.Max(2, (int)length);
        }
        return stated;
    }

    private static (double, double)? Bmp(ReadOnlySpan<byte> file) =>
        file.Length >= 46 ? Known(BinaryPrimitives.ReadInt32LittleEndian(file[38..]) * Inch, BinaryPrimitives.ReadInt32LittleEndian(file[42..]) * Inch) : null;

    /// <summary>What makes sense of two numbers; null for what does not.</summary>
    public static (double, double)? Known(double x, double y) => x > 0 && y > 0 && double.IsFinite(x + y) ? (x, y) : null;
}
