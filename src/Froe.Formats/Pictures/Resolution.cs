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
                var (resolution, isPhotograph) = Exif(segment[6..]);
                if (isPhotograph) return null;
                stated = resolution ?? stated;
            }
            at += 2 + Math.Max(2, (int)length);
        }
        return stated;
    }

    private static ((double, double)? Resolution, bool IsPhotograph) Exif(ReadOnlySpan<byte> tiff)
    {
        if (tiff.Length < 14) return (null, false);
        var isLittle = tiff[0] == (byte)'I';
        var first = Word(tiff[4..], isLittle);
        if (first > tiff.Length - 2) return (null, false);
        double x = 0, y = 0, unit = 2;
        var isPhotograph = false;
        int count = Short(tiff[(int)first..], isLittle);
        for (var i = 0; i < count; i++)
        {
            var at = first + 2 + (12L * i);
            if (at + 12 > tiff.Length) break;
            var entry = tiff[(int)at..];
            switch (Short(entry, isLittle))
            {
                case 0x010F or 0x0110: isPhotograph = true; break; // who made the camera, and its model
                case 0x011A: x = Rational(tiff, Word(entry[8..], isLittle), isLittle); break;
                case 0x011B: y = Rational(tiff, Word(entry[8..], isLittle), isLittle); break;
                case 0x0128: unit = Short(entry[8..], isLittle); break;
            }
        }
        return (unit switch { 2 => Known(x, y), 3 => Known(x * 2.54, y * 2.54), _ => null }, isPhotograph);
    }

    private static (double, double)? Bmp(ReadOnlySpan<byte> file) =>
        file.Length >= 46 ? Known(BinaryPrimitives.ReadInt32LittleEndian(file[38..]) * Inch, BinaryPrimitives.ReadInt32LittleEndian(file[42..]) * Inch) : null;

    private static (double, double)? Known(double x, double y) => x > 0 && y > 0 && double.IsFinite(x + y) ? (x, y) : null;

    private static uint Word(ReadOnlySpan<byte> at, bool isLittle) => isLittle ? BinaryPrimitives.ReadUInt32LittleEndian(at) : BinaryPrimitives.ReadUInt32BigEndian(at);

    private static ushort Short(ReadOnlySpan<byte> at, bool isLittle) => isLittle ? BinaryPrimitives.ReadUInt16LittleEndian(at) : BinaryPrimitives.ReadUInt16BigEndian(at);

    private static double Rational(ReadOnlySpan<byte> tiff, uint at, bool isLittle) => at + 8L <= tiff.Length ? (double)Word(tiff[(int)at..], isLittle) / Word(tiff[((int)at + 4)..], isLittle) : 0;
}
