using BitMiracle.LibTiff.Classic;

namespace Froe.Formats.Pictures;

/// <summary>A page of a TIFF file (TIFF 6.0): scans of one bit and plain greys and colours row by row, everything else strip by strip or tile by tile.</summary>
internal sealed class TiffSource : IRasterSource
{
    /// <summary>Most pixels that must be held at once.</summary>
    private const long MostTogether = 150_000_000;

    private readonly byte[] file;
    private readonly short directory;

    private TiffSource(byte[] file, short directory, RasterFacts facts) => (this.file, this.directory, Facts) = (file, directory, facts);

    public RasterFacts Facts { get; }

    /// <summary>The pages of a file, without the small pictures and masks that some programs put beside them.</summary>
    public static (List<TiffSource> Pages, string? Fault) Open(byte[] file, int mostPages)
    {
        var pages = new List<TiffSource>();
        try
        {
            using var tiff = Opened(file);
            if (tiff is null) return (pages, Broken);
            var seen = 0;
            do
            {
                if (++seen > 4 * mostPages || pages.Count > mostPages) return (pages, $"The file has more than {mostPages:N0} pages. Split it.");
                if (((FileType)Number(tiff, TiffTag.SUBFILETYPE) & (FileType.REDUCEDIMAGE | FileType.MASK)) != 0) continue;
                int width = Number(tiff, TiffTag.IMAGEWIDTH), height = Number(tiff, TiffTag.IMAGELENGTH);
                if (width <= 0 || height <= 0) return (pages, Broken);
                if (RasterFacts.TooLarge(width, height) is { } why) return (pages, $"Page {pages.Count + 1}: {why}");
                if (WhyNotRead(tiff) is { } unread) return (pages, $"Page {pages.Count + 1}: {unread}");
                pages.Add(new TiffSource(file, tiff.CurrentDirectory(), Known(tiff, width, height)));
            }
            while (tiff.ReadDirectory());
            return (pages, pages.Count == 0 ? Broken : null);
        }
        catch (Exception)
        {
            // The library throws what it likes at broken directories, and asks for as much memory at once as they say.
            return (pages, Broken);
        }
    }

    private const string Broken = "This is no whole TIFF file: its pages cannot be found. Scan or export it again.";

    /// <summary>Why a page that is whole cannot be read: for a way of packing or a kind of number that few programs write; null where it can be.</summary>
    private static string? WhyNotRead(Tiff tiff)
    {
        var packing = (Compression)Number(tiff, TiffTag.COMPRESSION, 1);
        if (!tiff.IsCodecConfigured(packing)) return $"It is packed in a way that is not read ({Words(packing)}). Save it again with LZW or Deflate, or as PNG.";
        if (IsPlain(tiff) || tiff.RGBAImageOK(out _)) return null;
        var bits = Number(tiff, TiffTag.BITSPERSAMPLE, 1);
        return $"Its points are numbers of a kind that is not read{(bits is > 0 and <= 64 ? $" ({bits} bits each)" : "")}. Save it again with 8 bits for each colour, or as PNG.";
    }

    public bool Rows(RowReceiver row)
    {
        try
        {
            using var tiff = Opened(file);
            if (tiff is null || !tiff.SetDirectory(directory)) return false;
            return IsPlain(tiff) ? Scanlines(tiff, row) : tiff.IsTiled() ? Tiles(tiff, row) : Strips(tiff, row);
        }
        catch (OutOfMemoryException)
        {
            // The library asks for as much at once as a broken directory says.
            throw new UnreadableException("The file asks for more memory than a picture may. Scan or save it again.");
        }
        catch (Exception e) when (e is not UnreadableException)
        {
            return false;
        }
    }

    private static RasterFacts Known(Tiff tiff, int width, int height)
    {
        double? across = null, down = null;
        var unit = (ResUnit)Number(tiff, TiffTag.RESOLUTIONUNIT, (int)ResUnit.INCH);
        if (unit != ResUnit.NONE && tiff.GetField(TiffTag.XRESOLUTION) is [var x, ..] && tiff.GetField(TiffTag.YRESOLUTION) is [var y, ..])
        {
            var inch = unit == ResUnit.CENTIMETER ? 2.54 : 1;
            (across, down) = (x.ToDouble() * inch, y.ToDouble() * inch);
        }
        var bits = Number(tiff, TiffTag.BITSPERSAMPLE, 1) * Number(tiff, TiffTag.SAMPLESPERPIXEL, 1);
        return new RasterFacts(width, height, across, down, bits <= 4 || (Photometric)Number(tiff, TiffTag.PHOTOMETRIC) == Photometric.PALETTE, $"TIFF, {Words((Compression)Number(tiff, TiffTag.COMPRESSION, 1))}");
    }

    private static string Words(Compression compression) => compression switch
    {
        Compression.NONE => "uncompressed",
        Compression.CCITTFAX4 => "CCITT Group 4",
        Compression.CCITTFAX3 => "CCITT Group 3",
        Compression.CCITTRLE or Compression.CCITTRLEW => "CCITT runs",
        Compression.LZW => "LZW",
        Compression.JPEG or Compression.OJPEG => "JPEG",
        Compression.DEFLATE or Compression.ADOBE_DEFLATE => "Deflate",
        Compression.PACKBITS => "PackBits",
        _ => $"compression {(int)compression}",
    };

    /// <summary>One bit, eight grey or three times eight of colour, in rows, upright: what nearly every scan is.</summary>
    private static bool IsPlain(Tiff tiff)
    {
        var (bits, samples) = (Number(tiff, TiffTag.BITSPERSAMPLE, 1), Number(tiff, TiffTag.SAMPLESPERPIXEL, 1));
        var colours = (Photometric)Number(tiff, TiffTag.PHOTOMETRIC, -1);
        return !tiff.IsTiled() && (Orientation)Number(tiff, TiffTag.ORIENTATION, 1) == Orientation.TOPLEFT && (PlanarConfig)Number(tiff, TiffTag.PLANARCONFIG, 1) == PlanarConfig.CONTIG
            && ((bits is 1 or 8 && samples == 1 && colours is Photometric.MINISBLACK or Photometric.MINISWHITE) || (bits == 8 && samples == 3 && colours == Photometric.RGB));
    }

    private bool Scanlines(Tiff tiff, RowReceiver row)
    {
        var line = new byte[tiff.ScanlineSize()];
        var pixels = new byte[4 * Facts.Width];
        int bits = Number(tiff, TiffTag.BITSPERSAMPLE, 1), samples = Number(tiff, TiffTag.SAMPLESPERPIXEL, 1);
        var turn = (Photometric)Number(tiff, TiffTag.PHOTOMETRIC) == Photometric.MINISWHITE ? (byte)255 : (byte)0;
        for (var y = 0; y < Facts.Height; y++)
        {
            if (!tiff.ReadScanline(line, y)) return false;
            for (int x = 0, at = 0; x < Facts.Width; x++, at += 4)
            {
                if (samples == 3)
                {
                    (pixels[at], pixels[at + 1], pixels[at + 2]) = (line[(3 * x) + 2], line[(3 * x) + 1], line[3 * x]);
                    continue;
                }
                var grey = (byte)((bits == 1 ? ((line[x >> 3] >> (7 - (x & 7))) & 1) * 255 : line[x]) ^ turn);
                pixels[at] = pixels[at + 1] = pixels[at + 2] = grey;
            }
            row(pixels);
        }
        return true;
    }

    /// <summary>Strips, which the library gives with their last row first.</summary>
    private bool Strips(Tiff tiff, RowReceiver row)
    {
        if ((Orientation)Number(tiff, TiffTag.ORIENTATION, 1) != Orientation.TOPLEFT) return Oriented(tiff, row);
        // Where it does not say, all of it is one strip (TIFF 6.0, RowsPerStrip), of which the library gives no row.
        var height = Number(tiff, TiffTag.ROWSPERSTRIP);
        if (height <= 0 || height > Facts.Height) return Oriented(tiff, row);
        Demand((long)height * Facts.Width);
        var strip = new int[height * Facts.Width];
        for (var y = 0; y < Facts.Height; y += height)
        {
            if (!tiff.ReadRGBAStrip(y, strip)) return false;
            var rows = Math.Min(height, Facts.Height - y);
            for (var i = rows - 1; i >= 0; i--) Give(strip.AsSpan(i * Facts.Width, Facts.Width), row);
        }
        return true;
    }

    private bool Tiles(Tiff tiff, RowReceiver row)
    {
        if ((Orientation)Number(tiff, TiffTag.ORIENTATION, 1) != Orientation.TOPLEFT) return Oriented(tiff, row);
        int width = Number(tiff, TiffTag.TILEWIDTH), height = Number(tiff, TiffTag.TILELENGTH);
        if (width <= 0 || height <= 0) return false;
        Demand(((long)Facts.Width + width) * height);
        var tile = new int[width * height];
        var band = new int[Facts.Width * height];
        for (var y = 0; y < Facts.Height; y += height)
        {
            for (var x = 0; x < Facts.Width; x += width)
            {
                if (!tiff.ReadRGBATile(x, y, tile)) return false;
                for (var i = 0; i < height; i++) tile.AsSpan((height - 1 - i) * width, Math.Min(width, Facts.Width - x)).CopyTo(band.AsSpan((i * Facts.Width) + x));
            }
            for (var i = 0; i < Math.Min(height, Facts.Height - y); i++) Give(band.AsSpan(i * Facts.Width, Facts.Width), row);
        }
        return true;
    }

    private bool Oriented(Tiff tiff, RowReceiver row)
    {
        Demand((long)Facts.Width * Facts.Height);
        var all = new int[Facts.Width * Facts.Height];
        if (!tiff.ReadRGBAImageOriented(Facts.Width, Facts.Height, all, Orientation.TOPLEFT)) return false;
        for (var y = 0; y < Facts.Height; y++) Give(all.AsSpan(y * Facts.Width, Facts.Width), row);
        return true;
    }

    private static void Demand(long pixels)
    {
        if (pixels > MostTogether) throw new UnreadableException("The file keeps its points in one piece that is too large to be read. Save it with strips or tiles, or smaller.");
    }

    /// <summary>On white where it can be seen through; colours come multiplied with what covers.</summary>
    private static void Give(ReadOnlySpan<int> colours, RowReceiver row)
    {
        var pixels = new byte[4 * colours.Length];
        for (var i = 0; i < colours.Length; i++)
        {
            var white = 255 - Tiff.GetA(colours[i]);
            pixels[4 * i] = (byte)Math.Min(255, Tiff.GetB(colours[i]) + white);
            pixels[(4 * i) + 1] = (byte)Math.Min(255, Tiff.GetG(colours[i]) + white);
            pixels[(4 * i) + 2] = (byte)Math.Min(255, Tiff.GetR(colours[i]) + white);
        }
        row(pixels);
    }

    private static int Number(Tiff tiff, TiffTag tag, int otherwise = 0) => tiff.GetField(tag) is [var value, ..] ? value.ToInt() : otherwise;

    private static Tiff? Opened(byte[] file)
    {
        Tiff.SetErrorHandler(new Quiet());
        return Tiff.ClientOpen("file", "r", new MemoryStream(file, writable: false), new TiffStream());
    }

    /// <summary>What is wrong with a file is told by what can be read of it.</summary>
    private sealed class Quiet : TiffErrorHandler
    {
        public override void ErrorHandler(Tiff tif, string method, string format, params object[] args)
        {
        }

        public override void ErrorHandlerExt(Tiff tif, object clientData, string method, string format, params object[] args)
        {
        }

        public override void WarningHandler(Tiff tif, string method, string format, params object[] args)
        {
        }

        public override void WarningHandlerExt(Tiff tif, object clientData, string method, string format, params object[] args)
        {
        }
    }
}
