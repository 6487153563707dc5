using System.Collections.Immutable;
using System.Globalization;
using System.Xml;
using System.Xml.Linq;
using Froe.Core.Drawing;
using Froe.Core.Exchange;
using Froe.Formats.Out;
using Froe.Formats.Pdf;

namespace Froe.Formats.In;

/// <summary>Reads the annotations of an XFDF (ISO 19444-1).</summary>
internal static class XfdfAnnotations
{
    private static readonly Dictionary<string, AnnotationKind> Kinds = Enum.GetValues<AnnotationKind>().ToDictionary(XfdfFile.NameOf);

    /// <summary>Reads a file.</summary>
    /// <returns>Each with its page, from 0; or why the file cannot be read.</returns>
    public static (IReadOnlyList<(int Page, Annotation Annotation)>? Annotations, string? Fault) Read(Stream from)
    {
        XDocument xml;
        try
        {
            // No entity is resolved and nothing fetched: the file is a stranger's.
            using var reader = XmlReader.Create(from, new XmlReaderSettings { DtdProcessing = DtdProcessing.Prohibit, XmlResolver = null, MaxCharactersInDocument = 64 << 20 });
            xml = XDocument.Load(reader);
        }
        catch (XmlException e)
        {
            return (null, $"The file is no whole XFDF: line {e.LineNumber} cannot be read. Export it again.");
        }
        if (xml.Root?.Name.LocalName != "xfdf") return (null, "The file holds no annotations: it does not begin with “xfdf”. Export them again as XFDF.");
        var found = new List<(int, Annotation)>();
        foreach (var element in xml.Root.Elements().Where(e => e.Name.LocalName == "annots").Elements())
        {
            if (!Kinds.TryGetValue(element.Name.LocalName, out var kind)) continue;
            if (found.Count >= MostAnnotations) return (null, $"The file holds more than {MostAnnotations:N0} annotations. Split it.");
            var page = int.TryParse(Said(element, "page"), CultureInfo.InvariantCulture, out var number) && number is >= 0 and < 100_000 ? number : 0;
            found.Add((page, One(element, kind)));
        }
        return (found, null);
    }

    private const int MostAnnotations = 20_000;

    private static Annotation One(XElement e, AnnotationKind kind)
    {
        var rect = Numbers(Said(e, "rect")) is { Length: >= 4 } r ? new Extents(r[0], r[1], r[0], r[1]).With(r[2], r[3]) : default;
        if (Numbers(Said(e, "fringe")) is { Length: 4 } d && kind is AnnotationKind.Square or AnnotationKind.Circle or AnnotationKind.FreeText)
            rect = new Extents(rect.MinX + d[0], rect.MinY + d[1], Math.Max(rect.MinX + d[0], rect.MaxX - d[2]), Math.Max(rect.MinY + d[1], rect.MaxY - d[3]));
        var contents = Child(e, "contents")?.Value ?? string.Join('\n', Child(e, "contents-richtext")?.Descendants().Where(p => p.Name.LocalName == "p").Select(p => p.Value) ?? []);
        return new Annotation(Cut(Said(e, "name"), 200), kind, Points(e, kind, rect), rect, Cut(Said(e, "title"), 200), PageMarks.Time(Said(e, "date")), Cut(contents.Trim(), PdfAnnotations.LongestWords))
        {
            IsCloudy = Said(e, "style") == "cloudy",
            HasArrow = Said(e, "head").Contains("Arrow", StringComparison.Ordinal) || Said(e, "tail").Contains("Arrow", StringComparison.Ordinal),
            Intent = Cut(Said(e, "IT"), 60),
            LeaderLength = double.TryParse(Said(e, "leaderLength"), CultureInfo.InvariantCulture, out var length) && double.IsFinite(length) ? length : 0,
            LetterHeight = kind == AnnotationKind.FreeText ? (PdfAnnotations.LetterSize(Child(e, "defaultappearance")?.Value ?? "") ?? 10) * PdfAnnotations.Capitals : 0,
            ReplyTo = Said(e, "inreplyto") is { Length: > 0 } to ? Cut(to, 200) : null,
            State = Said(e, "state") is { Length: > 0 } state ? Cut(state, 40) : null,
            Subject = Cut(Said(e, "subject"), 200),
        };
    }

    private static ImmutableArray<ImmutableArray<PointXY>> Points(XElement e, AnnotationKind kind, Extents rect) => kind switch
    {
        AnnotationKind.Square or AnnotationKind.Circle => [[new(rect.MinX, rect.MaxY), new(rect.MaxX, rect.MinY)]],
        AnnotationKind.Line => [Paired($"{Said(e, "start")};{Said(e, "end")}")],
        AnnotationKind.Polygon or AnnotationKind.PolyLine => [Paired(Child(e, "vertices")?.Value ?? Said(e, "vertices"))],
        AnnotationKind.Ink => [.. Child(e, "inklist")?.Elements().Take(1000).Select(g => Paired(g.Value)).Where(p => p.Length > 0) ?? []],
        AnnotationKind.Highlight or AnnotationKind.StrikeOut => [.. Paired(Said(e, "coords")).Chunk(4).Where(q => q.Length == 4).Select(q => q.ToImmutableArray())],
        AnnotationKind.FreeText when Paired(Said(e, "callout")) is { Length: >= 2 } line => [line],
        _ => [],
    };

    private static XElement? Child(XElement e, string name) => e.Elements().FirstOrDefault(c => c.Name.LocalName == name);

    private static string Said(XElement e, string name) => e.Attributes().FirstOrDefault(a => a.Name.LocalName == name)?.Value ?? "";

    private static string Cut(string words, int most) => words.Length <= most ? words : words[..most];

    private static double[] Numbers(string row) => [.. row.Split([',', ';', ' ', '\n', '\r', '\t'], StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries).Take(2 * PdfAnnotations.MostPoints)
        .Select(n => double.TryParse(n, NumberStyles.Float, CultureInfo.InvariantCulture, out var number) ? number : double.NaN)];

    private static ImmutableArray<PointXY> Paired(string row) => [.. Numbers(row).Chunk(2).Where(p => p.Length == 2 && double.IsFinite(p[0] + p[1])).Select(p => new PointXY(p[0], p[1]))];
}
