using BitMiracle.LibTiff.Classic;
using Froe.Core.Draft;
using Froe.Core.Drawing;
using Froe.Formats.Pictures;
using SkiaSharp;
using Xunit;

namespace Froe.Formats.Tests;

/// <summary>Pictures of points: how large they are on paper, how they are cut into tiles, and what broken ones do.</summary>
public class PictureTables
{
    private static SKBitmap Drawn(int width, int height)
    {
        var bitmap = new SKBitmap(new SKImageInfo(width, height, SKColorType.Bgra8888, SKAlphaType.Opaque));
        for (var y = 0; y < height; y++)
            for (var x = 0; x < width; x++)
                bitmap.SetPixel(x, y, new SKColor((byte)(x * 255 / width), (byte)(y * 255 / height), (byte)((x / 16 + y / 16) % 2 * 200)));
        return bitmap;
    }

    private static byte[] Encoded(SKBitmap bitmap, SKEncodedImageFormat format)
    {
        using var data = bitmap.Encode(format, 95);
        return data.ToArray();
    }

    /// <summary>A PNG with its resolution stated, points a metre.</summary>
    private static byte[] Png(int width, int height, uint across, uint down)
    {
        using var bitmap = Drawn(width, height);
        var png = Encoded(bitmap, SKEncodedImageFormat.Png);
        var body = new byte[13];
        "pHYs"u8.CopyTo(body);
        System.Buffers.Binary.BinaryPrimitives.WriteUInt32BigEndian(body.AsSpan(4), across);
        System.Buffers.Binary.BinaryPrimitives.WriteUInt32BigEndian(body.AsSpan(8), down);
        body[12] = 1;
        var sum = new byte[4];
        System.Buffers.Binary.BinaryPrimitives.WriteUInt32BigEndian(sum, Sum(body));
        return [.. png[..33], 0, 0, 0, 9, .. body, .. sum, .. png[33..]];
    }

    /// <summary>The check sum of a chunk (ISO/IEC 15948, 5.5).</summary>
    private static uint Sum(ReadOnlySpan<byte> bytes)
    {
        var sum = uint.MaxValue;
        foreach (var b in bytes)
        {
            sum ^= b;
            for (var i = 0; i < 8; i++) sum = (sum >> 1) ^ ((sum & 1) * 0xEDB88320);
        }
        return ~sum;
    }

    private static byte[] Tiff(Compression compression, int pages, double dpi, params (TiffTag Tag, object Value)[] more)
    {
        var file = new MemoryStream();
        using (var tiff = BitMiracle.LibTiff.Classic.Tiff.ClientOpen("t", "w", file, new Kept()))
        {
            for (var p = 0; p < pages; p++)
            {
                const int Width = 700, Height = 300;
                tiff.SetField(TiffTag.IMAGEWIDTH, Width);
                tiff.SetField(TiffTag.IMAGELENGTH, Height);
                tiff.SetField(TiffTag.BITSPERSAMPLE, 1);
                tiff.SetField(TiffTag.SAMPLESPERPIXEL, 1);
                tiff.SetField(TiffTag.ROWSPERSTRIP, 64);
                tiff.SetField(TiffTag.PHOTOMETRIC, Photometric.MINISWHITE);
                tiff.SetField(TiffTag.COMPRESSION, compression);
                tiff.SetField(TiffTag.XRESOLUTION, dpi);
                tiff.SetField(TiffTag.YRESOLUTION, dpi);
                tiff.SetField(TiffTag.RESOLUTIONUNIT, ResUnit.INCH);
                foreach (var (tag, value) in more) tiff.SetField(tag, value);
                var row = new byte[(Width + 7) / 8];
                for (var y = 0; y < Height; y++)
                {
                    // A bar as wide as the page's number says, in tens of bytes.
                    Array.Clear(row);
                    if (y is >= 100 and < 200) row.AsSpan(10, 10 * (p + 1)).Fill(0xFF);
                    tiff.WriteScanline(row, y);
                }
                tiff.WriteDirectory();
            }
        }
        return file.ToArray();
    }

    private sealed class Kept : TiffStream
    {
        public override void Close(object clientData)
        {
        }
    }

    private static DraftContent Read(byte[] file)
    {
        var (content, fault) = new PictureDraftReader().Read(new MemoryStream(file), new ReadLimits());
        Assert.True(content is not null, fault?.ToString());
        return content!;
    }

    private static SheetFrame Frame(byte[] file, int leaf = 0) => (SheetFrame)Read(file).Leaves[leaf].Leaf.Frame;

    private static byte[] Form(ReadLeaf leaf, string name)
    {
        var to = new MemoryStream();
        leaf.Forms.Single(f => f.Name == name).Write(to);
        return to.ToArray();
    }

    /// <summary>A page by hand, as the library writes only what it reads: its points are eight times eight nothings.</summary>
    [Theory]
    [InlineData(1, 8, null)]
    [InlineData(34925, 8, "Page 1: It is packed in a way that is not read (compression 34925). Save it again with LZW or Deflate, or as PNG.")]
    [InlineData(50001, 8, "Page 1: It is packed in a way that is not read (compression 50001). Save it again with LZW or Deflate, or as PNG.")]
    [InlineData(1, 24, "Page 1: Its points are numbers of a kind that is not read (24 bits each). Save it again with 8 bits for each colour, or as PNG.")]
    [InlineData(1, 64, "Page 1: Its points are numbers of a kind that is not read (64 bits each). Save it again with 8 bits for each colour, or as PNG.")]
    public void AWholeTiffFileOfAKindThatIsNotReadIsNotCalledDamaged(int compression, int bits, string? said)
    {
        (int Tag, int Value)[] fields = [(256, 8), (257, 8), (258, bits), (259, compression), (262, 1), (273, 8), (277, 1), (278, 8), (279, 8 * bits)];
        byte[] file =
        [
            .. "II*\0"u8, .. BitConverter.GetBytes(8 + (8 * bits)), .. new byte[8 * bits], .. BitConverter.GetBytes((short)fields.Length),
            .. fields.SelectMany(f => (byte[])[.. BitConverter.GetBytes((short)f.Tag), 4, 0, 1, 0, 0, 0, .. BitConverter.GetBytes(f.Value)]), 0, 0, 0, 0,
        ];
        var (content, fault) = new PictureDraftReader().Read(new MemoryStream(file), new ReadLimits());
        Assert.Equal(said, fault?.ToString());
        Assert.Equal(said is null, content is not null);
    }

    [Fact]
    public void APictureIsAsLargeAsItsPointsSay()
    {
        var frame = Frame(Png(1000, 500, 7874, 3937));
        Assert.Equal((LengthUnit.Millimetre, Surface.Tiles), (frame.Unit, frame.Surface));
        Assert.Equal((127, 127), (Math.Round(frame.Extents.Width, 2), Math.Round(frame.Extents.Height, 2)));
    }

    [Theory]
    [InlineData(100)]
    [InlineData(100_000)]
    public void WhatCannotBeItsResolutionLeavesItInPoints(uint aMetre)
    {
        var frame = Frame(Png(1000, 500, aMetre, aMetre));
        Assert.Equal((LengthUnit.Unknown, 1000, 500), (frame.Unit, frame.Extents.Width, frame.Extents.Height));
    }

    [Theory]
    [InlineData(SKEncodedImageFormat.Jpeg, "JPEG")]
    [InlineData(SKEncodedImageFormat.Webp, "WebP")]
    [InlineData(SKEncodedImageFormat.Png, "PNG")]
    public void AFileIsWhatItsBytesSay(SKEncodedImageFormat format, string words)
    {
        using var bitmap = Drawn(60, 40);
        Assert.Equal(words, Read(Encoded(bitmap, format)).Report().Version);
    }

    [Fact]
    public void ATiffThatDoesNotSayHowHighItsStripsAreIsOneStrip()
    {
        // Red above, green below, with a fourth sample that covers; written by hand, for the library always says it.
        const int Width = 16, Height = 32, Bytes = Width * Height * 4;
        var file = new MemoryStream();
        using (var to = new BinaryWriter(file, System.Text.Encoding.ASCII, leaveOpen: true))
        {
            to.Write("II*\0"u8);
            to.Write(8 + Bytes + 8);
            for (var i = 0; i < Width * Height; i++) to.Write(i < Width * Height / 2 ? (ReadOnlySpan<byte>)[255, 0, 0, 255] : [0, 255, 0, 255]);
            to.Write((ReadOnlySpan<byte>)[8, 0, 8, 0, 8, 0, 8, 0]);
            (short Tag, short Type, int Count, int Value)[] entries =
                [(256, 3, 1, Width), (257, 3, 1, Height), (258, 3, 4, 8 + Bytes), (259, 3, 1, 1), (262, 3, 1, 2), (273, 4, 1, 8), (277, 3, 1, 4), (279, 4, 1, Bytes), (284, 3, 1, 1), (338, 3, 1, 2)];
            to.Write((short)entries.Length);
            foreach (var (tag, type, count, value) in entries)
            {
                to.Write(tag);
                to.Write(type);
                to.Write(count);
                to.Write(value);
            }
            to.Write(0);
        }
        using var picture = SKBitmap.Decode(Form(Assert.Single(Read(file.ToArray()).Leaves), LeafForms.Picture));
        var (above, below) = (picture.GetPixel(8, 6), picture.GetPixel(8, 26));
        Assert.True(above is { Red: > 240, Green: < 15 } && below is { Red: < 15, Green: > 240 }, $"{above} {below}");
    }

    [Theory]
    [InlineData(Compression.NONE)]
    [InlineData(Compression.CCITTFAX4)]
    [InlineData(Compression.CCITTFAX3)]
    [InlineData(Compression.LZW)]
    [InlineData(Compression.DEFLATE)]
    [InlineData(Compression.PACKBITS)]
    public void EveryPageOfAScanIsASheet(Compression compression)
    {
        var content = Read(Tiff(compression, 3, 200));
        Assert.Equal(["Sheet 1", "Sheet 2", "Sheet 3"], content.Leaves.Select(l => l.Leaf.Name));
        Assert.Equal(700 / 200.0 * 25.4, ((SheetFrame)content.Leaves[1].Leaf.Frame).Extents.Width, 6);
        foreach (var (leaf, page) in content.Leaves.Select((l, i) => (l, i)))
        {
            using var picture = SKBitmap.Decode(Form(leaf, LeafForms.Picture));
            Assert.Equal(700, picture.Width);
            var black = picture.Pixels.Count(p => p.Red < 128);
            Assert.Equal(100 * 80 * (page + 1), black);
        }
    }

    [Theory]
    [InlineData(60_000, 10_000, true)]
    [InlineData(60_001, 1, false)]
    [InlineData(1, 60_001, false)]
    [InlineData(30_000, 30_000, false)]
    [InlineData(int.MaxValue, int.MaxValue, false)]
    public void APictureBeyondAllBoundsIsRefusedByItsSize(int width, int height, bool taken) => Assert.Equal(taken, RasterFacts.TooLarge(width, height) is null);

    [Fact]
    public void SmallPicturesBesideAPageAreNoPages() => Assert.Equal("This is no whole TIFF file: its pages cannot be found. Scan or export it again.",
        new PictureDraftReader().Read(new MemoryStream(Tiff(Compression.LZW, 2, 200, (TiffTag.SUBFILETYPE, FileType.REDUCEDIMAGE))), new ReadLimits()).Fault?.What);

    [Fact]
    public void APageThatLiesOnItsSideIsTurnedUpright()
    {
        var upright = Read(Tiff(Compression.LZW, 1, 200));
        var down = Read(Tiff(Compression.LZW, 1, 200, (TiffTag.ORIENTATION, Orientation.BOTLEFT)));
        using var a = SKBitmap.Decode(Form(upright.Leaves[0], LeafForms.Picture));
        using var b = SKBitmap.Decode(Form(down.Leaves[0], LeafForms.Picture));
        Assert.True(a.GetPixel(100, 105).Red < 128 && a.GetPixel(100, 95).Red > 128);
        Assert.True(b.GetPixel(100, 195).Red < 128 && b.GetPixel(100, 205).Red > 128);
    }

    [Fact]
    public void TilesPutTogetherAreThePictureAndEachLevelIsHalfOfTheOneBefore()
    {
        const int Width = 1301, Height = 733;
        using var bitmap = Drawn(Width, Height);
        var pack = new MemoryStream();
        // Kept without loss, so that every point can be compared.
        using (var writer = new PyramidWriter(Width, Height, isLine: true, pack))
        {
            for (var y = 0; y < Height; y++) writer.Row(bitmap.GetPixelSpan().Slice(y * bitmap.RowBytes, 4 * Width));
            writer.End();
        }
        var pyramid = TilePack.Read(pack);
        Assert.Equal([(1301, 733), (651, 367), (326, 184)], pyramid.Levels.Select(l => (l.Width, l.Height)));
        var before = bitmap.Copy();
        for (var level = 0; level < pyramid.Levels.Count; level++)
        {
            using var whole = Whole(pack, pyramid, level);
            for (var y = 0; y < whole.Height; y += 7)
                for (var x = 0; x < whole.Width; x += 5)
                {
                    var wanted = level == 0 ? before.GetPixel(x, y).Green : Mean(before, x, y);
                    Assert.InRange(whole.GetPixel(x, y).Green, wanted - 1, wanted + 1);
                }
            before.Dispose();
            before = whole.Copy();
        }
        before.Dispose();

        static int Mean(SKBitmap of, int x, int y)
        {
            int right = Math.Min((2 * x) + 1, of.Width - 1), below = Math.Min((2 * y) + 1, of.Height - 1);
            return (of.GetPixel(2 * x, 2 * y).Green + of.GetPixel(right, 2 * y).Green + of.GetPixel(2 * x, below).Green + of.GetPixel(right, below).Green) / 4;
        }
    }

    private static SKBitmap Whole(Stream pack, TilePyramid pyramid, int level)
    {
        var one = pyramid.Levels[level];
        var whole = new SKBitmap(one.Width, one.Height);
        using var canvas = new SKCanvas(whole);
        for (var row = 0; row < one.Rows; row++)
            for (var column = 0; column < one.Columns; column++)
            {
                using var tile = SKBitmap.Decode(TilePack.Tile(pack, pyramid, level, column, row));
                canvas.DrawBitmap(tile, column * pyramid.Tile, row * pyramid.Tile);
            }
        Assert.Null(TilePack.Tile(pack, pyramid, level, one.Columns, 0));
        Assert.Null(TilePack.Tile(pack, pyramid, level, 0, -1));
        return whole;
    }

    [Fact]
    public void WhatCanBeSeenThroughLiesOnWhite()
    {
        using var bitmap = new SKBitmap(new SKImageInfo(20, 10, SKColorType.Bgra8888, SKAlphaType.Unpremul));
        bitmap.Erase(new SKColor(200, 0, 0, 51));
        using var picture = SKBitmap.Decode(Form(Read(Encoded(bitmap, SKEncodedImageFormat.Png)).Leaves[0], LeafForms.Picture));
        var colour = picture.GetPixel(5, 5);
        Assert.InRange(colour.Green, 200, 208);
        Assert.InRange(colour.Red, 240, 248);
    }

    [Fact]
    public void AShortFileIsRefusedAndNeverShownInPart()
    {
        using var bitmap = Drawn(900, 700);
        foreach (var format in (SKEncodedImageFormat[])[SKEncodedImageFormat.Png, SKEncodedImageFormat.Jpeg, SKEncodedImageFormat.Webp])
        {
            var whole = Encoded(bitmap, format);
            var (content, fault) = new PictureDraftReader().Read(new MemoryStream(whole[..(whole.Length / 2)]), new ReadLimits());
            if (fault is null) Assert.Throws<UnreadableException>(() => Form(content!.Leaves[0], LeafForms.Tiles));
        }
    }

    [Fact]
    public void AnyBytesGiveAPictureOrOneClearLine()
    {
        using var bitmap = Drawn(120, 80);
        byte[][] good = [Png(120, 80, 4000, 4000), Encoded(bitmap, SKEncodedImageFormat.Jpeg), Encoded(bitmap, SKEncodedImageFormat.Webp), Tiff(Compression.LZW, 2, 150), Tiff(Compression.CCITTFAX4, 1, 300)];
        var random = new Random(11);
        for (var i = 0; i < 600; i++)
        {
            var bad = (byte[])good[i % good.Length].Clone();
            for (var k = random.Next(1, 10); k > 0; k--) bad[random.Next(bad.Length)] = (byte)random.Next(256);
            if (random.Next(4) == 0) bad = bad[..random.Next(bad.Length)];
            var (content, fault) = new PictureDraftReader().Read(new MemoryStream(bad), new ReadLimits());
            Assert.Equal(content is null, fault is not null);
            try
            {
                foreach (var form in content?.Leaves.SelectMany(l => l.Forms) ?? []) form.Write(Stream.Null);
            }
            catch (UnreadableException e)
            {
                Assert.False(string.IsNullOrWhiteSpace(e.Message));
            }
        }
    }
}
