using System.Buffers.Binary;

namespace Froe.Formats.Pictures;

/// <summary>What a camera or a scanner wrote beside a picture (Exif 2.32, CIPA DC-008), as far as Froe needs it.</summary>
/// <param name="Resolution">Pixels an inch, along and down; null where it does not say.</param>
/// <param name="IsPhotograph">Whether it says which camera took it.</param>
/// <param name="Orientation">How it lies (4.6.4 A, 1 to 8).</param>
internal readonly record struct CameraWords((double Across, double Down)? Resolution, bool IsPhotograph, int Orientation)
{
    private static readonly CameraWords Nothing = new(null, false, Turning.Upright);

    /// <summary>How the picture of a PNG or a WebP lies; upright where it does not say, and for other formats.</summary>
    public static int OrientationOf(ReadOnlySpan<byte> file)
    {
        var block = file.StartsWith((ReadOnlySpan<byte>)[0x89, (byte)'P', (byte)'N', (byte)'G']) ? InPng(file)
            : file.Length > 12 && file.StartsWith("RIFF"u8) && file[8..].StartsWith("WEBP"u8) ? InWebP(file) : [];
        return Of(block.StartsWith("Exif\0\0"u8) ? block[6..] : block).Orientation;
    }

    /// <summary>Reads the block, which is a TIFF directory without a picture; what is damaged in it says nothing.</summary>
    public static CameraWords Of(ReadOnlySpan<byte> tiff)
    {
        if (tiff.Length < 14) return Nothing;
        var isLittle = tiff[0] == (byte)'I';
        var first = Word(tiff[4..], isLittle);
        if (first > tiff.Length - 2) return Nothing;
        double x = 0, y = 0, unit = 2;
        var isPhotograph = false;
        var orientation = Turning.Upright;
        int count = Short(tiff[(int)first..], isLittle);
        for (var i = 0; i < count; i++)
        {
            var at = first + 2 + (12L * i);
            if (at + 12 > tiff.Length) break;
            var entry = tiff[(int)at..];
            switch (Short(entry, isLittle))
            {
                case 0x010F or 0x0110: isPhotograph = true; break; // who made the camera, and its model
                case 0x0112: orientation = Turning.Known(Short(entry[8..], isLittle)); break;
                case 0x011A: x = Rational(tiff, Word(entry[8..], isLittle), isLittle); break;
                case 0x011B: y = Rational(tiff, Word(entry[8..], isLittle), isLittle); break;
                case 0x0128: unit = Short(entry[8..], isLittle); break;
            }
        }
        return new(unit switch { 2 => Pictures.Resolution.Known(x, y), 3 => Pictures.Resolution.Known(x * 2.54, y * 2.54), _ => null }, isPhotograph, orientation);
    }

    /// <summary>ISO/IEC 15948 (third edition), 11.3.4.5: a chunk of its own, before or after the picture.</summary>
    private static ReadOnlySpan<byte> InPng(ReadOnlySpan<byte> file)
    {
        for (long at = 8; at + 12 <= file.Length;)
        {
            var chunk = file[(int)at..];
            var length = BinaryPrimitives.ReadUInt32BigEndian(chunk);
            if (chunk[4..].StartsWith("eXIf"u8)) return chunk.Slice(8, (int)Math.Min(length, chunk.Length - 8));
            at += 12L + length;
        }
        return [];
    }

    /// <summary>RFC 9649, 2.7.1.5: a chunk of an even length, after the picture.</summary>
    private static ReadOnlySpan<byte> InWebP(ReadOnlySpan<byte> file)
    {
        for (long at = 12; at + 8 <= file.Length;)
        {
            var chunk = file[(int)at..];
            var length = BinaryPrimitives.ReadUInt32LittleEndian(chunk[4..]);
            if (chunk.StartsWith("EXIF"u8)) return chunk.Slice(8, (int)Math.Min(length, chunk.Length - 8));
            at += 8L + length + (length & 1);
        }
        return [];
    }

    private static uint Word(ReadOnlySpan<byte> at, bool isLittle) => isLittle ? BinaryPrimitives.ReadUInt32LittleEndian(at) : BinaryPrimitives.ReadUInt32BigEndian(at);

    private static ushort Short(ReadOnlySpan<byte> at, bool isLittle) => isLittle ? BinaryPrimitives.ReadUInt16LittleEndian(at) : BinaryPrimitives.ReadUInt16BigEndian(at);

    private static double Rational(ReadOnlySpan<byte> tiff, uint at, bool isLittle) => at + 8L <= tiff.Length ? (double)Word(tiff[(int)at..], isLittle) / Word(tiff[((int)at + 4)..], isLittle) : 0;
}
