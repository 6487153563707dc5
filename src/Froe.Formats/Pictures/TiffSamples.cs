using BitMiracle.LibTiff.Classic;

namespace Froe.Formats.Pictures;

/// <summary>
/// Turns the samples of a TIFF page into pixels (TIFF 6.0, sections 4 to 6, 16 and 18): greys, palettes, colours and inks of 1 to 32 bits, in
/// strips or tiles, sample by sample or plane by plane, with what covers beside them.
/// </summary>
internal sealed class TiffSamples
{
    /// <summary>Most bytes of a band of tiles that is held at once.</summary>
    private const long MostTogether = 1L << 30;

    private readonly Tiff tiff;
    private readonly int width, height, bits, samples, colours, covering;
    private readonly bool isPlanes, isMultiplied;
    private readonly Photometric kind;
    private readonly byte[][]? palette, byValue;

    private TiffSamples(Tiff tiff)
    {
        this.tiff = tiff;
        (width, height) = (TiffSource.Number(tiff, TiffTag.IMAGEWIDTH), TiffSource.Number(tiff, TiffTag.IMAGELENGTH));
        (bits, samples) = (TiffSource.Number(tiff, TiffTag.BITSPERSAMPLE, 1), TiffSource.Number(tiff, TiffTag.SAMPLESPERPIXEL, 1));
        kind = Kind(tiff);
        isPlanes = samples > 1 && (PlanarConfig)TiffSource.Number(tiff, TiffTag.PLANARCONFIG, 1) == PlanarConfig.SEPARATE;
        colours = Colours(kind);
        if (tiff.GetField(TiffTag.EXTRASAMPLES) is [var count, var extra] && count.ToInt() > 0 && samples > colours && extra.ToShortArray() is [var first, ..])
        {
            // What is said to be nothing in particular covers nothing.
            covering = (ExtraSample)first is ExtraSample.ASSOCALPHA or ExtraSample.UNASSALPHA ? colours : -1;
            isMultiplied = (ExtraSample)first == ExtraSample.ASSOCALPHA;
        }
        else
        {
            // Four where three make a colour, and no word of the fourth: it covers, as the programs that write so mean it.
            covering = kind == Photometric.RGB && samples == 4 && tiff.GetField(TiffTag.EXTRASAMPLES) is not [var none, ..] ? 3 : -1;
        }
        palette = kind == Photometric.PALETTE ? Palette(tiff, bits) : null;
        // Few bits have few colours: each is turned into one once.
        if (colours == 1 && bits <= 8 && samples == 1)
            byValue = [.. Enumerable.Range(0, 1 << bits).Select(v => Colour([v])).Select(c => (byte[])[(byte)c.Blue, (byte)c.Green, (byte)c.Red])];
    }

    /// <summary>The samples of a page; null where they are of a kind that is left to the library.</summary>
    public static TiffSamples? Of(Tiff tiff)
    {
        var bits = TiffSource.Number(tiff, TiffTag.BITSPERSAMPLE, 1);
        if ((Compression)TiffSource.Number(tiff, TiffTag.COMPRESSION, 1) == Compression.OJPEG || bits is not (1 or 2 or 4 or 8 or 12 or 16 or 32)) return null;
        if ((SampleFormat)TiffSource.Number(tiff, TiffTag.SAMPLEFORMAT, 1) is not (SampleFormat.UINT or SampleFormat.VOID)) return null;
        var kind = Kind(tiff);
        if (Colours(kind) is var colours && (colours == 0 || TiffSource.Number(tiff, TiffTag.SAMPLESPERPIXEL, 1) < colours)) return null;
        if (kind == Photometric.PALETTE && (bits > 8 || tiff.GetField(TiffTag.COLORMAP) is null)) return null;
        return new TiffSamples(tiff);
    }

    /// <summary>What its samples are once they are unpacked: JPEG gives its colours as red, green and blue where it is told to.</summary>
    private static Photometric Kind(Tiff tiff)
    {
        var kind = (Photometric)TiffSource.Number(tiff, TiffTag.PHOTOMETRIC, -1);
        return kind == Photometric.YCBCR && (Compression)TiffSource.Number(tiff, TiffTag.COMPRESSION, 1) == Compression.JPEG ? Photometric.RGB : kind;
    }

    /// <summary>How many samples make a colour; nought for kinds that are left to the library.</summary>
    private static int Colours(Photometric kind) => kind switch
    {
        Photometric.MINISBLACK or Photometric.MINISWHITE or Photometric.PALETTE => 1,
        Photometric.RGB => 3,
        Photometric.SEPARATED => 4,
        _ => 0,
    };

    /// <summary>Gives the rows as they are stored. False when they break off.</summary>
    public bool Rows(RowReceiver row)
    {
        if ((Photometric)TiffSource.Number(tiff, TiffTag.PHOTOMETRIC) == Photometric.YCBCR) tiff.SetField(TiffTag.JPEGCOLORMODE, JpegColorMode.RGB);
        return tiff.IsTiled() ? Tiles(row) : Lines(row);
    }

    private bool Lines(RowReceiver row)
    {
        var planes = Enumerable.Range(0, isPlanes ? samples : 1).Select(_ => new byte[Math.Max(tiff.ScanlineSize(), LineBytes(width))]).ToArray();
        var pixels = new byte[4 * width];
        // Planes lie one after the other: where they are packed, each is read to its end before the next.
        var apart = isPlanes ? AllOf(planes.Length) : null;
        if (isPlanes && apart is null) return false;
        for (var y = 0; y < height; y++)
        {
            if (apart is null && !tiff.ReadScanline(planes[0], y)) return false;
            if (apart is not null)
                for (var i = 0; i < planes.Length; i++) planes[i] = apart[i][y];
            Pixels(planes, 0, width, pixels, 0);
            row(pixels);
        }
        return true;
    }

    private byte[][][]? AllOf(int planes)
    {
        Demand((long)LineBytes(width) * height * planes);
        var all = new byte[planes][][];
        for (var plane = 0; plane < planes; plane++)
        {
            all[plane] = new byte[height][];
            for (var y = 0; y < height; y++)
            {
                all[plane][y] = new byte[Math.Max(tiff.ScanlineSize(), LineBytes(width))];
                if (!tiff.ReadScanline(all[plane][y], y, (short)plane)) return null;
            }
        }
        return all;
    }

    private bool Tiles(RowReceiver row)
    {
        int wide = TiffSource.Number(tiff, TiffTag.TILEWIDTH), high = TiffSource.Number(tiff, TiffTag.TILELENGTH);
        if (wide <= 0 || high <= 0) return false;
        Demand((4L * width * high) + tiff.TileSize());
        var planes = Enumerable.Range(0, isPlanes ? samples : 1).Select(_ => new byte[Math.Max(tiff.TileSize(), high * LineBytes(wide))]).ToArray();
        var band = Enumerable.Range(0, high).Select(_ => new byte[4 * width]).ToArray();
        for (var y = 0; y < height; y += high)
        {
            for (var x = 0; x < width; x += wide)
            {
                for (var plane = 0; plane < planes.Length; plane++)
                    if (tiff.ReadTile(planes[plane], 0, x, y, 0, (short)plane) < 0) return false;
                for (var i = 0; i < high; i++) Pixels(planes, i * LineBytes(wide), Math.Min(wide, width - x), band[i], 4 * x);
            }
            for (var i = 0; i < Math.Min(high, height - y); i++) row(band[i]);
        }
        return true;
    }

    /// <summary>Bytes of a line of so many pixels in one plane.</summary>
    private int LineBytes(int pixels) => checked((int)((((long)pixels * bits * (isPlanes ? 1 : samples)) + 7) / 8));

    private static void Demand(long bytes)
    {
        if (bytes > MostTogether) throw new UnreadableException("The file keeps its points in one piece that is too large to be read. Save it with strips or tiles, or smaller.");
    }

    /// <summary>A line's pixels, on white where they can be seen through.</summary>
    private void Pixels(byte[][] planes, int from, int count, byte[] to, int at)
    {
        if (byValue is not null) ByValue(planes[0], from, count, to, at);
        else if (bits == 8 && kind == Photometric.RGB && !isPlanes && covering < 0) Plain(planes[0], from, count, to, at);
        else Mixed(planes, from, count, to, at);
    }

    private void Mixed(byte[][] planes, int from, int count, byte[] to, int at)
    {
        Span<int> colour = stackalloc int[4];
        for (var x = 0; x < count; x++, at += 4)
        {
            for (var i = 0; i < colours; i++) colour[i] = Sample(planes, from, x, i);
            var (red, green, blue) = Colour(colour);
            if (covering >= 0)
            {
                var cover = Eight(Sample(planes, from, x, covering));
                (red, green, blue) = (On(red, cover), On(green, cover), On(blue, cover));
            }
            (to[at], to[at + 1], to[at + 2]) = ((byte)blue, (byte)green, (byte)red);
        }
    }

    private void ByValue(byte[] line, int from, int count, byte[] to, int at)
    {
        var mask = (1 << bits) - 1;
        for (int x = 0, bit = 0; x < count; x++, at += 4, bit += bits)
        {
            var colour = byValue![(line[from + (bit >> 3)] >> (8 - bits - (bit & 7))) & mask];
            (to[at], to[at + 1], to[at + 2]) = (colour[0], colour[1], colour[2]);
        }
    }

    /// <summary>Eight bits for each of three colours and nothing that covers: what most scans in colour have.</summary>
    private void Plain(byte[] line, int from, int count, byte[] to, int at)
    {
        for (var x = 0; x < count; x++, at += 4, from += samples) (to[at], to[at + 1], to[at + 2]) = (line[from + 2], line[from + 1], line[from]);
    }

    private (int Red, int Green, int Blue) Colour(ReadOnlySpan<int> samples)
    {
        switch (kind)
        {
            case Photometric.PALETTE:
                var entry = palette![samples[0]];
                return (entry[0], entry[1], entry[2]);
            case Photometric.RGB:
                return (Eight(samples[0]), Eight(samples[1]), Eight(samples[2]));
            case Photometric.SEPARATED:
                var light = 255 - Eight(samples[3]);
                return (light * (255 - Eight(samples[0])) / 255, light * (255 - Eight(samples[1])) / 255, light * (255 - Eight(samples[2])) / 255);
            default:
                var grey = Eight(samples[0]);
                if (kind == Photometric.MINISWHITE) grey = 255 - grey;
                return (grey, grey, grey);
        }
    }

    /// <summary>A sample of 16 or fewer bits as it is stored, of 32 its upper half.</summary>
    private int Sample(byte[][] planes, int from, int x, int sample)
    {
        var line = planes[isPlanes ? sample : 0];
        var number = isPlanes ? x : (x * samples) + sample;
        switch (bits)
        {
            case 8: return line[from + number];
            // The library has brought whole words into the order of the machine.
            case 16: return BitConverter.ToUInt16(line, from + (2 * number));
            case 32: return BitConverter.ToUInt16(line, from + (4 * number) + (BitConverter.IsLittleEndian ? 2 : 0));
            case 12:
                var two = from + (number / 2 * 3);
                return number % 2 == 0 ? (line[two] << 4) | (line[two + 1] >> 4) : ((line[two + 1] & 15) << 8) | line[two + 2];
            default:
                var bit = number * bits;
                return (line[from + (bit >> 3)] >> (8 - bits - (bit & 7))) & ((1 << bits) - 1);
        }
    }

    private int Eight(int sample) => bits switch
    {
        8 => sample,
        12 => sample >> 4,
        16 or 32 => sample >> 8,
        _ => sample * 255 / ((1 << bits) - 1),
    };

    private int On(int colour, int cover) => Math.Min(255, (isMultiplied ? colour : colour * cover / 255) + 255 - cover);

    /// <summary>Red, green and blue by number. Some programs write eight bits where sixteen are meant.</summary>
    private static byte[][] Palette(Tiff tiff, int bits)
    {
        var map = tiff.GetField(TiffTag.COLORMAP);
        var channels = map.Take(3).Select(c => c.ToShortArray().Select(v => (int)(ushort)v).ToArray()).ToArray();
        var shift = channels.Any(c => c.Any(v => v > 255)) ? 8 : 0;
        return [.. Enumerable.Range(0, 1 << bits).Select(i => channels.Select(c => (byte)(i < c.Length ? c[i] >> shift : 0)).ToArray())];
    }
}
