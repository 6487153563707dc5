using System.Runtime.InteropServices;
using Froe.Core.Draft;
using SkiaSharp;

namespace Froe.Formats.Pictures;

/// <summary>
/// Cuts a picture into the tiles of its pyramid as its rows come, from the top: held are a band of tiles and, of each size that is made of a
/// larger one, the rows that wait for their pair. Pixels are blue, green, red and a spare byte.
/// </summary>
internal sealed class PyramidWriter : IDisposable
{
    /// <summary>Pixels on a tile's side.</summary>
    public const int Tile = 512;

    /// <summary>The first level that fits into this on its longer side is kept whole, for the pictures of lists and of a first look.</summary>
    private const int MostPreview = 2600;

    private readonly Stream to;
    private readonly bool isLine;
    private readonly int drawn;
    private readonly List<Level> levels = [];
    private long written;

    /// <param name="width">Pixels.</param>
    /// <param name="height">Pixels.</param>
    /// <param name="isLine">Whether it has two colours only, so that tiles are kept without loss.</param>
    /// <param name="to">Receives the pack.</param>
    /// <param name="drawn">How many of its sizes, from the largest, are given rows of their own; what is smaller is made of the last of them.</param>
    public PyramidWriter(int width, int height, bool isLine, Stream to, int drawn = 1)
    {
        (this.to, this.isLine, this.drawn) = (to, isLine, drawn);
        for (int w = width, h = height; ; w = Math.Max(1, (w + 1) / 2), h = Math.Max(1, (h + 1) / 2))
        {
            levels.Add(new Level(w, h));
            if (w <= Tile && h <= Tile) break;
        }
        var preview = levels.FindIndex(l => Math.Max(l.Width, l.Height) <= MostPreview);
        Preview = new SKBitmap(new SKImageInfo(levels[preview].Width, levels[preview].Height, SKColorType.Bgra8888, SKAlphaType.Opaque));
        levels[preview].Whole = Preview;
        to.Write(TilePack.Magic);
        written = TilePack.Magic.Length;
    }

    /// <summary>A smaller whole picture, complete once the pack is.</summary>
    public SKBitmap Preview { get; }

    /// <summary>How many sizes there are, and how large each is.</summary>
    public IReadOnlyList<(int Width, int Height)> Sizes => [.. levels.Select(l => (l.Width, l.Height))];

    /// <summary>The next row of the largest.</summary>
    public void Row(ReadOnlySpan<byte> pixels) => Row(0, pixels);

    /// <summary>Ends the pack.</summary>
    public void End()
    {
        // A last row without its pair stands for both.
        for (var i = 0; i < levels.Count; i++)
        {
            var level = levels[i];
            if (level.Rows < level.Height) throw new InvalidDataException("The picture ends before its last row.");
            if (IsMadeSmaller(i) && level.Rows % 2 == 1) Halve(i, level.Band.AsSpan(((level.Rows - 1) % Tile) * level.Stride, level.Stride), level.Band.AsSpan(((level.Rows - 1) % Tile) * level.Stride, level.Stride));
            if (level.Rows % Tile != 0) Cut(level);
        }
        var first = levels[0];
        TilePack.End(
            new TilePyramid(first.Width, first.Height, Tile, isLine ? "image/webp" : "image/jpeg", [.. levels.Select(l => new TileLevel(l.Width, l.Height, l.Columns, (l.Height + Tile - 1) / Tile, l.At, l.Bytes))]), to);
    }

    /// <inheritdoc/>
    public void Dispose() => Preview.Dispose();

    /// <summary>The next row of a size.</summary>
    public void Row(int index, ReadOnlySpan<byte> pixels)
    {
        var level = levels[index];
        if (level.Rows >= level.Height) return;
        var at = level.Rows % Tile * level.Stride;
        var row = level.Band.AsSpan(at, level.Stride);
        pixels[..level.Stride].CopyTo(row);
        // The spare byte covers wholly, whatever the file had there.
        if (index < drawn)
            foreach (ref var pixel in MemoryMarshal.Cast<byte, uint>(row)) pixel |= 0xFF000000;
        if (level.Whole is { } whole) row.CopyTo(whole.GetPixelSpan()[(level.Rows * whole.RowBytes)..]);
        level.Rows++;
        if (IsMadeSmaller(index) && level.Rows % 2 == 0) Halve(index, level.Band.AsSpan(at - level.Stride, level.Stride), level.Band.AsSpan(at, level.Stride));
        if (level.Rows % Tile == 0) Cut(level);
    }

    /// <summary>Whether the next size is made of this one.</summary>
    private bool IsMadeSmaller(int index) => index + 1 < levels.Count && index + 1 >= drawn;

    /// <summary>Two rows become one of the next level: each pixel the mean of four.</summary>
    private void Halve(int index, ReadOnlySpan<byte> upper, ReadOnlySpan<byte> lower)
    {
        var next = levels[index + 1];
        var into = next.Half;
        var last = levels[index].Width - 1;
        for (var x = 0; x < next.Width; x++)
        {
            int a = 8 * x, b = 4 * Math.Min((2 * x) + 1, last), c = 4 * x;
            into[c] = (byte)((upper[a] + upper[b] + lower[a] + lower[b] + 2) >> 2);
            into[c + 1] = (byte)((upper[a + 1] + upper[b + 1] + lower[a + 1] + lower[b + 1] + 2) >> 2);
            into[c + 2] = (byte)((upper[a + 2] + upper[b + 2] + lower[a + 2] + lower[b + 2] + 2) >> 2);
            into[c + 3] = 255;
        }
        Row(index + 1, into);
    }

    private void Cut(Level level)
    {
        var height = level.Rows % Tile == 0 ? Tile : level.Rows % Tile;
        var held = GCHandle.Alloc(level.Band, GCHandleType.Pinned);
        try
        {
            // Packing them takes about as long as all else, and each stands by itself.
            var tiles = new SKData[level.Columns];
            Parallel.For(0, level.Columns, column =>
            {
                var left = column * Tile;
                using var map = new SKPixmap(new SKImageInfo(Math.Min(Tile, level.Width - left), height, SKColorType.Bgra8888, SKAlphaType.Opaque), held.AddrOfPinnedObject() + (4 * left), level.Stride);
                tiles[column] = (isLine ? map.Encode(new SKWebpEncoderOptions(SKWebpEncoderCompression.Lossless, 10)) : map.Encode(new SKJpegEncoderOptions(80)))!;
            });
            foreach (var tile in tiles)
            {
                tile.SaveTo(to);
                level.At.Add(written);
                level.Bytes.Add((int)tile.Size);
                written += tile.Size;
                tile.Dispose();
            }
        }
        finally
        {
            held.Free();
        }
    }

    private sealed class Level(int width, int height)
    {
        public int Width { get; } = width;

        public int Height { get; } = height;

        public int Stride { get; } = 4 * width;

        public int Columns { get; } = (width + Tile - 1) / Tile;

        public byte[] Band { get; } = new byte[4 * width * Math.Min(Tile, height)];

        public byte[] Half { get; } = new byte[4 * width];

        public List<long> At { get; } = [];

        public List<int> Bytes { get; } = [];

        public SKBitmap? Whole { get; set; }

        public int Rows { get; set; }
    }
}
