using System.Diagnostics;
using System.Text.Json;
using Froe.Core.Draft;
using Froe.Core.Drawing;
using Froe.Formats.Pictures;

namespace Froe.Formats.Dxf;

/// <summary>Reads ASCII DXF into drafts: a sheet for the model and for each layout.</summary>
internal sealed class DxfDraftReader : IReader
{
    /// <summary>Pixels on the longer side of the two pictures.</summary>
    private const int PictureSize = 2000, SmallSize = 320;

    public string Name => "dxf";

    // 2: sections, true ends and curves, what each entity is.
    public int Version => 2;

    public string Words => "ASCII DXF drawings";

    public IReadOnlyList<string> Extensions { get; } = [".dxf"];

    public string MediaType => "image/vnd.dxf";

    public (DraftContent? Content, ReadFault? Fault) Read(Stream stream, ReadLimits limits)
    {
        var watch = Stopwatch.StartNew();
        var result = DxfReader.Read(stream, limits);
        return result.Drawing is { } drawing
            ? (new DraftContent([.. drawing.Sheets.Select(OneLeaf)], Report(drawing, stream.CanSeek ? stream.Length : 0, watch.Elapsed)), null)
            : (null, result.Fault);
    }

    public (DrawingSurvey? Survey, ReadFault? Fault) Survey(Stream stream, ReadLimits limits) => DxfReader.Survey(stream, limits);

    private static ReadLeaf OneLeaf(Sheet sheet, int position) => new(
        new Leaf(position, sheet.Name, new SheetFrame(sheet.Unit, sheet.Extents)),
        [
            new ReadForm(LeafForms.Geometry, "application/vnd.froe.sheet", to => PreparedSheet.WriteGeometry(sheet, to)),
            new ReadForm(LeafForms.Details, "application/vnd.froe.sheet", to => PreparedSheet.WriteDetails(sheet, to)),
            new ReadForm(LeafForms.Picture, "image/webp", to => to.Write(SheetPicture.WebP(sheet, PictureSize))),
            new ReadForm(LeafForms.Small, "image/webp", to => to.Write(SheetPicture.WebP(sheet, SmallSize))),
        ]);

    /// <summary>What a drawing file holds, for people.</summary>
    internal static ReaderReport Report(DrawingFile drawing, long bytes, TimeSpan time) => new(
        drawing.Format, drawing.Version, drawing.Encoding, bytes, Math.Round(time.TotalSeconds, 3),
        [.. drawing.Sheets.Select(s => new LeafReport(
            s.Name, JsonNamingPolicy.CamelCase.ConvertName(s.Unit.ToString()), [s.Extents.MinX, s.Extents.MinY, s.Extents.MaxX, s.Extents.MaxY], s.Tolerance,
            s.EntityHandle.Length, s.SegmentEntity.Length, s.TriangleEntity.Length, s.Texts.Count))],
        [.. drawing.Sheets[0].Layers.Select(l => new LayerReport(l.Name, l.IsOn, $"#{l.Rgb:x6}"))],
        drawing.EntityCounts.OrderByDescending(c => c.Value).ToDictionary(c => c.Key, c => c.Value),
        drawing.NotShown);
}
