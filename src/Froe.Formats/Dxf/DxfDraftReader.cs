using System.Diagnostics;
using System.Text.Json;
using Froe.Core.Draft;

namespace Froe.Formats.Dxf;

/// <summary>Reads DXF into drafts: a sheet for the model and for each layout.</summary>
internal sealed class DxfDraftReader : IReader
{
    /// <summary>Pixels on the longer side of the two pictures.</summary>
    private const int PictureSize = 2000, SmallSize = 320;

    public string Name => "dxf";

    // 2: sections, true ends and curves, what each entity is. 3: words in a form of their own,
    // views cut at their edges, what is not plotted off. 5: scales, and layouts in the unit of their paper.
    public int Version => 7;

    public string Words => "DXF drawings";

    public IReadOnlyList<string> Extensions { get; } = [".dxf"];

    public string MediaType => "image/vnd.dxf";

    public (DraftContent? Content, ReadFault? Fault) Read(Stream stream, ReadLimits limits)
    {
        var watch = Stopwatch.StartNew();
        var result = DxfReader.Read(stream, limits);
        if (result.Drawing is not { } drawing) return (null, result.Fault);
        var report = Report(drawing, stream.CanSeek ? stream.Length : 0, watch.Elapsed);
        return (new DraftContent([.. drawing.Sheets.Select((s, i) => DrawnLeaf.Of(s, i, PictureSize, SmallSize))], () => report), null);
    }

    public (DrawingSurvey? Survey, ReadFault? Fault) Survey(Stream stream, ReadLimits limits) => DxfReader.Survey(stream, limits);

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
