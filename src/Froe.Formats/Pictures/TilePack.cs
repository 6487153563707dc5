using System.Buffers.Binary;
using System.Text.Json;
using Froe.Core.Draft;

namespace Froe.Formats.Pictures;

/// <summary>The form “tiles”: “FRTL”, the tiles one after another, the pyramid as UTF-8 JSON (<see cref="TilePyramid"/>), and its length as u64, little-endian.</summary>
public static class TilePack
{
    /// <summary>What packs are kept as.</summary>
    public const string MediaType = "application/vnd.froe.tiles";

    private const int MostIndex = 64 << 20;

    internal static ReadOnlySpan<byte> Magic => "FRTL"u8;

    internal static void End(TilePyramid pyramid, Stream to)
    {
        var index = JsonSerializer.SerializeToUtf8Bytes(pyramid, FormJson.Options);
        to.Write(index);
        Span<byte> length = stackalloc byte[8];
        BinaryPrimitives.WriteInt64LittleEndian(length, index.Length);
        to.Write(length);
    }

    /// <summary>The pyramid of a pack.</summary>
    /// <param name="pack">Can be sought in.</param>
    /// <exception cref="InvalidDataException">It is no pack.</exception>
    public static TilePyramid Read(Stream pack)
    {
        ArgumentNullException.ThrowIfNull(pack);
        Span<byte> length = stackalloc byte[8];
        if (pack.Length < 12) throw new InvalidDataException("Not a pack of tiles.");
        pack.Position = pack.Length - 8;
        pack.ReadExactly(length);
        var size = BinaryPrimitives.ReadInt64LittleEndian(length);
        if (size is < 2 or > MostIndex || size > pack.Length - 12) throw new InvalidDataException("Not a pack of tiles.");
        var index = new byte[size];
        pack.Position = pack.Length - 8 - size;
        pack.ReadExactly(index);
        return JsonSerializer.Deserialize<TilePyramid>(index, FormJson.Options) ?? throw new InvalidDataException("Not a pack of tiles.");
    }

    /// <summary>One tile; null when there is none of that place.</summary>
    public static byte[]? Tile(Stream pack, TilePyramid pyramid, int level, int column, int row)
    {
        ArgumentNullException.ThrowIfNull(pack);
        ArgumentNullException.ThrowIfNull(pyramid);
        if (level < 0 || level >= pyramid.Levels.Count) return null;
        var one = pyramid.Levels[level];
        if (column < 0 || row < 0 || column >= one.Columns || row >= one.Rows) return null;
        var number = (row * one.Columns) + column;
        var bytes = new byte[one.Bytes[number]];
        pack.Position = one.At[number];
        pack.ReadExactly(bytes);
        return bytes;
    }
}
