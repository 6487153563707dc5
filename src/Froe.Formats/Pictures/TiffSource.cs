using BitMiracle.LibTiff.Classic;

namespace Froe.Formats.Pictures;

/// <summary>A page of a TIFF file (TIFF 6.0), set upright: its samples row by row (<see cref="TiffSamples"/>), what else there is as the library turns it into colours.</summary>
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
        if (TiffSamples.Of(tiff) is not null || tiff.RGBAImageOK(out _)) return null;
        var bits = Number(tiff, TiffTag.BITSPERSAMPLE, 1);
        return $"Its points are numbers of a kind that is not read{(bits is > 0 and <= 64 ? $" ({bits} bits each)" : "")}. Save it again with 8 bits for each colour, or as PNG.";
    }

    public bool Rows(RowReceiver row)
    {
        try
        {
            using var tiff = Opened(file);
            if (tiff is null || !tiff.SetDirectory(directory)) return false;
            int width = Number(tiff, TiffTag.IMAGEWIDTH), height = Number(tiff, TiffTag.IMAGELENGTH);
            bool Stored(RowReceiver to) => TiffSamples.Of(tiff) is { } samples ? samples.Rows(to) : ByLibrary(tiff, width, height, to);
            var orientation = Turning.Known(Number(tiff, TiffTag.ORIENTATION, Turning.Upright));
            if (orientation == Turning.Upright) return Stored(row);
            var turning = new Turning(width, height, orientation);
            if (!Stored(turning.Take)) return false;
            turning.Give(row);
            return true;
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
        if (Turning.IsOnItsSide(Turning.Known(Number(tiff, TiffTag.ORIENTATION, Turning.Upright)))) (width, height, across, down) = (height, width, down, across);
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

    /// <summary>What is left to the library: old JPEG, colours by lightness and difference, and the like, in strips or tiles as they are stored.</summary>
    private static bool ByLibrary(Tiff tiff, int width, int height, RowReceiver row)
    {
        var stored = (Orientation)Number(tiff, TiffTag.ORIENTATION, 1);
        // Where it does not say how high strips are, all of it is one (TIFF 6.0, RowsPerStrip), of which the library gives no row;
        // strips of old JPEG hang together, and the library loses them when it is asked for one.
        var high = Number(tiff, TiffTag.ROWSPERSTRIP);
        if (stored != Orientation.TOPLEFT || (Compression)Number(tiff, TiffTag.COMPRESSION, 1) == Compression.OJPEG || (!tiff.IsTiled() && (high <= 0 || high > height)))
            return Together(tiff, width, height, stored, row);
        return tiff.IsTiled() ? Tiles(tiff, width, height, row) : Strips(tiff, width, height, high, row);
    }

    /// <summary>Strips, which the library gives with their last row first.</summary>
    private static bool Strips(Tiff tiff, int width, int height, int high, RowReceiver row)
    {
        Demand((long)high * width);
        var strip = new int[high * width];
        for (var y = 0; y < height; y += high)
        {
            if (!tiff.ReadRGBAStrip(y, strip)) return false;
            var rows = Math.Min(high, height - y);
            for (var i = rows - 1; i >= 0; i--) Give(strip.AsSpan(i * width, width), row);
        }
        return true;
    }

    private static bool Tiles(Tiff tiff, int width, int height, RowReceiver row)
    {
        int wide = Number(tiff, TiffTag.TILEWIDTH), high = Number(tiff, TiffTag.TILELENGTH);
        if (wide <= 0 || high <= 0) return false;
        Demand(((long)width + wide) * high);
        var tile = new int[wide * high];
        var band = new int[width * high];
        for (var y = 0; y < height; y += high)
        {
            for (var x = 0; x < width; x += wide)
            {
                if (!tiff.ReadRGBATile(x, y, tile)) return false;
                for (var i = 0; i < high; i++) tile.AsSpan((high - 1 - i) * wide, Math.Min(wide, width - x)).CopyTo(band.AsSpan((i * width) + x));
            }
            for (var i = 0; i < Math.Min(high, height - y); i++) Give(band.AsSpan(i * width, width), row);
        }
        return true;
    }

    /// <summary>All of it at once, in the order in which it is stored: that asked for is that which it has.</summary>
    private static bool Together(Tiff tiff, int width, int height, Orientation stored, RowReceiver row)
    {
        Demand((long)width * height);
        var all = new int[width * height];
        if (!tiff.ReadRGBAImageOriented(width, height, all, stored, true))
            return (Compression)Number(tiff, TiffTag.COMPRESSION, 1) == Compression.OJPEG
                ? throw new UnreadableException("It is packed in an old kind of JPEG that cannot be read here (TIFF 6.0, section 22). Save it again with LZW or Deflate, or as PNG.")
                : false;
        for (var y = 0; y < height; y++) Give(all.AsSpan(y * width, width), row);
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

    internal static int Number(Tiff tiff, TiffTag tag, int otherwise = 0) => tiff.GetField(tag) is [var value, ..] ? value.ToInt() : otherwise;

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
