using System.Diagnostics;
using Froe.Core.Draft;
using Froe.Core.Drawing;
using SkiaSharp;

namespace Froe.Formats.Pictures;

/// <summary>Reads pictures of points into drafts: a sheet for each page, as large as it is on paper where the file says how large.</summary>
internal sealed class PictureDraftReader : IReader
{
    private const int PictureSize = 2000, SmallSize = 320;
    private const double Inch = 25.4;

    public string Name => "picture";

    public int Version => 5;

    public string Words => "pictures";

    public IReadOnlyList<string> Extensions { get; } = [".png", ".jpg", ".jpeg", ".tif", ".tiff", ".webp", ".bmp", ".gif"];

    public string MediaType => "application/octet-stream";

    public (DraftContent? Content, ReadFault? Fault) Read(Stream stream, ReadLimits limits)
    {
        var watch = Stopwatch.StartNew();
        var (pages, length, fault) = Open(stream, limits);
        if (fault is not null) return (null, fault);
        return (new DraftContent([.. pages.Select(p => new Page(p)).Select(OneLeaf)], () => Report(pages, length, watch.Elapsed)), null);
    }

    public (DrawingSurvey? Survey, ReadFault? Fault) Survey(Stream stream, ReadLimits limits)
    {
        var (pages, _, fault) = Open(stream, limits);
        return fault is not null
            ? (null, fault)
            : (new DrawingSurvey("picture", pages[0].Facts.Words, "", Unit(pages[0].Facts), [], 0, new Dictionary<string, int> { ["page"] = pages.Count }), null);
    }

    private static (List<IRasterSource> Pages, long Length, ReadFault? Fault) Open(Stream stream, ReadLimits limits)
    {
        ArgumentNullException.ThrowIfNull(stream);
        ArgumentNullException.ThrowIfNull(limits);
        var (file, tooLong) = WholeFile.Read(stream, limits.MostBytes);
        if (file is null) return ([], 0, tooLong);
        // What a file is shows in its first bytes; its name only says what its owner believes.
        if (file.AsSpan().StartsWith("II*\0"u8) || file.AsSpan().StartsWith("MM\0*"u8) || file.AsSpan().StartsWith("II+\0"u8) || file.AsSpan().StartsWith("MM\0+"u8))
        {
            var (pages, why) = TiffSource.Open(file, limits.MostLeaves);
            return ([.. pages], file.Length, why is null ? null : new ReadFault(null, why));
        }
        var (source, fault) = SkiaSource.Open(file);
        return source is null ? ([], 0, new ReadFault(null, fault!)) : ([source], file.Length, null);
    }

    private static ReadLeaf OneLeaf(Page page, int position) => new(
        new Leaf(position, $"Sheet {position + 1}", new SheetFrame(Unit(page.Source.Facts), Extents(page.Source.Facts), Surface.Tiles, Fineness: Pixel(page.Source.Facts))),
        [
            new ReadForm(LeafForms.Tiles, TilePack.MediaType, page.WriteTiles),
            new ReadForm(LeafForms.Picture, "image/webp", to => to.Write(page.Picture(PictureSize))),
            new ReadForm(LeafForms.Small, "image/webp", to => to.Write(page.Picture(SmallSize))),
        ]);

    /// <summary>Millimetres of paper where the file says how large it is; otherwise points, until somebody says.</summary>
    private static LengthUnit Unit(RasterFacts facts) => facts.Resolution is null ? LengthUnit.Unknown : LengthUnit.Millimetre;

    private static double Pixel(RasterFacts facts) => facts.Resolution is var (across, down) ? Inch / Math.Min(across, down) : 1;

    private static Extents Extents(RasterFacts facts) => facts.Resolution is var (across, down)
        ? new Extents(0, 0, facts.Width / across * Inch, facts.Height / down * Inch)
        : new Extents(0, 0, facts.Width, facts.Height);

    private static ReaderReport Report(List<IRasterSource> pages, long bytes, TimeSpan time)
    {
        var lost = new List<NotShown>();
        if (pages[0] is SkiaSource { MoreFrames: > 0 and var more }) lost.Add(new NotShown("frame", more, "Only the first picture of a moving one is shown."));
        return new ReaderReport(
            "picture", pages[0].Facts.Words, "", bytes, Math.Round(time.TotalSeconds, 3),
            [.. pages.Select((p, i) => new LeafReport($"Sheet {i + 1}", Unit(p.Facts) == LengthUnit.Millimetre ? "millimetre" : "unknown", Box(p.Facts), 0, 0, 0, 0, 0))], [], new Dictionary<string, int> { ["picture"] = pages.Count }, lost);

        static double[] Box(RasterFacts facts)
        {
            var e = Extents(facts);
            return [e.MinX, e.MinY, e.MaxX, e.MaxY];
        }
    }

    /// <summary>A page whose tiles are made once; its smaller pictures come from what is left of that.</summary>
    private sealed class Page(IRasterSource source)
    {
        private SKBitmap? preview;

        public IRasterSource Source => source;

        public void WriteTiles(Stream to)
        {
            using var writer = new PyramidWriter(source.Facts.Width, source.Facts.Height, source.Facts.IsLine, to);
            if (!source.Rows(writer.Row)) throw new UnreadableException("The picture breaks off before its end, or is damaged within. Scan or export it again.");
            writer.End();
            preview?.Dispose();
            preview = writer.Preview.Copy();
        }

        public byte[] Picture(int longest)
        {
            if (preview is null) WriteTiles(Stream.Null);
            var whole = preview!;
            // As it lies on paper: points need not be square.
            var shown = Extents(source.Facts);
            var scale = Math.Min(longest, Math.Max(whole.Width, whole.Height)) / Math.Max(shown.Width, shown.Height);
            using var sized = whole.Resize(new SKImageInfo(Math.Max(1, (int)Math.Round(shown.Width * scale)), Math.Max(1, (int)Math.Round(shown.Height * scale)), SKColorType.Bgra8888, SKAlphaType.Opaque), new SKSamplingOptions(SKFilterMode.Linear, SKMipmapMode.Linear));
            using var map = sized.PeekPixels();
            using var data = map.Encode(source.Facts.IsLine ? new SKWebpEncoderOptions(SKWebpEncoderCompression.Lossless, 30) : new SKWebpEncoderOptions(SKWebpEncoderCompression.Lossy, 85));
            return data!.ToArray();
        }
    }
}
