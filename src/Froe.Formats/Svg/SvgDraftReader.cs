using System.Diagnostics;
using System.IO.Compression;
using Froe.Core.Draft;
using Froe.Core.Drawing;
using Froe.Formats.Pdf;

namespace Froe.Formats.Svg;

/// <summary>Reads SVG (W3C, SVG 2) into drafts: one sheet, drawn from a page that is made of it.</summary>
internal sealed class SvgDraftReader : IReader
{
    private const long MostBytes = 64 << 20;

    public string Name => "svg";

    public int Version => 5;

    public string Words => "SVG";

    public IReadOnlyList<string> Extensions { get; } = [".svg", ".svgz"];

    public string MediaType => "application/octet-stream";

    public (DraftContent? Content, ReadFault? Fault) Read(Stream stream, ReadLimits limits)
    {
        var watch = Stopwatch.StartNew();
        var (opened, fault) = Open(stream, limits);
        if (opened is null) return (null, fault);
        var leaf = PdfDraftReader.OneLeaf(opened.Pages, 0, isDerived: true);
        var forms = leaf with { Leaf = leaf.Leaf with { Name = "Sheet 1" }, Forms = [.. leaf.Forms, new ReadForm(LeafForms.Page, "application/pdf", to => to.Write(opened.Pdf))] };
        return (new DraftContent([forms], () => Report(opened, watch.Elapsed)), null);
    }

    public (DrawingSurvey? Survey, ReadFault? Fault) Survey(Stream stream, ReadLimits limits)
    {
        var (opened, fault) = Open(stream, limits);
        return opened is null ? (null, fault) : (new DrawingSurvey("SVG", "", "", LengthUnit.Millimetre, [], 0, new Dictionary<string, int> { ["page"] = 1 }), null);
    }

    private static ReaderReport Report(Opened opened, TimeSpan took)
    {
        var report = PdfDraftReader.Report(opened.Pages, opened.Length, took);
        return report with { Format = "SVG", Version = "", Encoding = "", NotShown = [.. SvgLosses.Of(opened.Svg), .. report.NotShown] };
    }

    /// <param name="Svg">The file's words, unpacked.</param>
    /// <param name="Pdf">The page that was made of them.</param>
    /// <param name="Length">The file's bytes.</param>
    private sealed record Opened(PdfPages Pages, byte[] Svg, byte[] Pdf, long Length);

    private static (Opened? Opened, ReadFault? Fault) Open(Stream stream, ReadLimits limits)
    {
        ArgumentNullException.ThrowIfNull(stream);
        ArgumentNullException.ThrowIfNull(limits);
        var most = Math.Min(limits.MostBytes, MostBytes);
        var (file, tooLong) = WholeFile.Read(stream, most);
        if (file is null) return (null, tooLong);
        var (svg, unpackFault) = file.AsSpan().StartsWith((ReadOnlySpan<byte>)[0x1F, 0x8B]) ? Unpacked(file, most) : (file, null);
        if (svg is null) return (null, unpackFault);
        var (pdf, drawFault) = SvgConversion.ToPdf(svg);
        if (pdf is null) return (null, drawFault);
        var (pages, refused) = PdfPages.Open(pdf, limits);
        return pages is null ? (null, refused) : (new Opened(pages, svg, pdf, file.LongLength), null);
    }

    private static (byte[]? File, ReadFault? Fault) Unpacked(byte[] file, long most)
    {
        try
        {
            using var gzip = new GZipStream(new MemoryStream(file), CompressionMode.Decompress);
            return WholeFile.Read(gzip, most);
        }
        catch (InvalidDataException)
        {
            return (null, new ReadFault(null, "This is no whole compressed SVG. Save it again as .svg."));
        }
    }
}
