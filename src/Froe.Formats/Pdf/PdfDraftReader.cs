using System.Diagnostics;
using System.Text.Json;
using Froe.Core.Draft;
using Froe.Core.Drawing;
using Froe.Formats.Pictures;

namespace Froe.Formats.Pdf;

/// <summary>Reads PDF (ISO 32000-2) into drafts: a sheet for each page, which is shown from the file itself.</summary>
internal sealed class PdfDraftReader : IReader
{
    /// <summary>Pixels on the longer side of a page's picture.</summary>
    internal const int PictureSize = 2000;

    private const int SmallSize = 320;

    public string Name => "pdf";

    // 2: scales. 5: how fine a page is. 8: tiles of scans. 9: tiles of pages that draw much.
    public int Version => 9;

    public string Words => "PDF";

    public IReadOnlyList<string> Extensions { get; } = [".pdf"];

    public string MediaType => "application/pdf";

    public (DraftContent? Content, ReadFault? Fault) Read(Stream stream, ReadLimits limits)
    {
        ArgumentNullException.ThrowIfNull(stream);
        ArgumentNullException.ThrowIfNull(limits);
        var watch = Stopwatch.StartNew();
        var (file, fault) = WholeFile.Read(stream, limits.MostBytes);
        if (file is null) return (null, fault);
        var (pages, refused) = PdfPages.Open(file, limits);
        if (pages is null) return (null, refused);
        return (new DraftContent([.. Enumerable.Range(0, pages.Count).Select(page => OneLeaf(pages, page))], () => Report(pages, file.Length, watch.Elapsed)), null);
    }

    public (DrawingSurvey? Survey, ReadFault? Fault) Survey(Stream stream, ReadLimits limits)
    {
        ArgumentNullException.ThrowIfNull(limits);
        var (file, fault) = WholeFile.Read(stream, limits.MostBytes);
        if (file is null) return (null, fault);
        var (pages, refused) = PdfPages.Open(file, limits);
        return pages is null
            ? (null, refused)
            : (new DrawingSurvey("PDF", pages.Version, Encoding(pages), LengthUnit.Millimetre, [.. pages.Layers.Select(l => l.Name)], 0, new Dictionary<string, int> { ["page"] = pages.Count }), null);
    }

    internal static ReadLeaf OneLeaf(PdfPages pages, int page, bool isDerived = false) => new(
        pages.Leaf(page),
        [
            new ReadForm(LeafForms.Geometry, PreparedSheet.MediaType, to => PreparedSheet.WriteGeometry(pages.Geometry(page), to)),
            new ReadForm(LeafForms.Details, PreparedSheet.MediaType, to => PreparedSheet.WriteDetails(pages.Geometry(page), to)),
            new ReadForm(LeafForms.Text, "application/json", to => WrittenForm.Write(pages.Words(page), to)),
            new ReadForm(LeafForms.Facts, "application/json", to => JsonSerializer.Serialize(to, pages.Facts(page, isDerived), FormJson.Options)),
            // Before the smaller pictures, which are made of them.
            new ReadForm(LeafForms.Tiles, TilePack.MediaType, to => pages.WriteTiles(page, to)),
            new ReadForm(LeafForms.Picture, "image/webp", to => to.Write(pages.Picture(page, PictureSize))),
            new ReadForm(LeafForms.Small, "image/webp", to => to.Write(pages.Picture(page, SmallSize))),
        ],
        frame => frame with { Fineness = pages.Fineness(page), Surface = pages.SurfaceOf(page) });

    internal static ReaderReport Report(PdfPages pages, long bytes, TimeSpan time) => new(
        "PDF", pages.Version, Encoding(pages), bytes, Math.Round(time.TotalSeconds, 3), [.. Enumerable.Range(0, pages.Count).Select(pages.Report)],
        [.. pages.Layers.Select(l => new LayerReport(l.Name, l.IsOn, "#1d2a33"))], pages.Entities.OrderByDescending(e => e.Value).ToDictionary(e => e.Key, e => e.Value),
        pages.NotShown)
    { PictureOnly = pages.PictureOnly };

    private static string Encoding(PdfPages pages) => pages.IsEncrypted ? "encrypted, no password needed" : "not encrypted";
}
