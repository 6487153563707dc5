using System.Collections.Immutable;
using System.Globalization;
using System.Text.RegularExpressions;
using Froe.Core.Drawing;
using Froe.Core.Exchange;
using Froe.Formats.Pdf;
using UglyToad.PdfPig;
using UglyToad.PdfPig.Content;
using UglyToad.PdfPig.Core;
using UglyToad.PdfPig.Filters;
using UglyToad.PdfPig.Geometry;
using UglyToad.PdfPig.Graphics.Operations;
using UglyToad.PdfPig.Outline.Destinations;
using UglyToad.PdfPig.Parser;
using UglyToad.PdfPig.Tokenization.Scanner;
using UglyToad.PdfPig.Tokens;

namespace Froe.Formats.In;

/// <summary>The annotations of a page as they lie in its user space, and how the page lies on paper.</summary>
internal sealed record AnnotatedPage(ShownPage Shown, IReadOnlyList<Annotation> Annotations);

/// <summary>Reads the annotations of pages that somebody marked (ISO 32000-2, 12.5.6): links, fields and pop-ups are none.</summary>
internal sealed partial class PdfAnnotations(IPdfTokenScanner scanner, IResourceStore resources, ILookupFilterProvider filters, IPageContentParser parser, ParsingOptions options)
    : BasePageFactory<AnnotatedPage>(scanner, resources, filters, parser, options), IPageFactory<AnnotatedPage>
{
    /// <summary>Most annotations of a page, most points of one, longest words.</summary>
    internal const int Most = 5000, MostPoints = 20_000, LongestWords = 4000;

    /// <summary>Capitals as a share of a letter's size: of most fonts.</summary>
    internal const double Capitals = 0.7;

    /// <inheritdoc/>
    AnnotatedPage IPageFactory<AnnotatedPage>.Create(int number, DictionaryToken dictionary, PageTreeMembers pageTreeMembers, NamedDestinations annotationProvider)
    {
        var box = GetCropBox(dictionary, pageTreeMembers, GetMediaBox(number, dictionary, pageTreeMembers)).Bounds;
        var shown = ShownPage.Of(box, dictionary, pageTreeMembers, ShownPage.UnitOf(dictionary, PdfScanner), PdfScanner);
        return new AnnotatedPage(shown, dictionary.TryGet(NameToken.Create("Annots"), PdfScanner, out ArrayToken? all) ? Read(all!) : []);
    }

    /// <inheritdoc/>
    protected override AnnotatedPage ProcessPage(
        int pageNumber, DictionaryToken dictionary, NamedDestinations namedDestinations, MediaBox mediaBox, CropBox cropBox, UserSpaceUnit userSpaceUnit,
        PageRotationDegrees rotation, TransformationMatrix initialMatrix, IReadOnlyList<IGraphicsStateOperation> operations) => throw new NotSupportedException();

    private List<Annotation> Read(ArrayToken all)
    {
        var names = new Dictionary<IndirectReference, string>();
        var found = new List<(DictionaryToken Token, AnnotationKind Kind, string Id)>();
        foreach (var item in all.Data.Take(Most))
        {
            var reference = item as IndirectReferenceToken;
            if ((reference is null ? item : PdfScanner.Get(reference.Data)?.Data) is not DictionaryToken token) continue;
            if (!token.TryGet(NameToken.Subtype, PdfScanner, out NameToken? type) || Kind(type!.Data) is not { } kind) continue;
            var id = Words(token, "NM") is { Length: > 0 } named ? named : reference is null ? "" : string.Create(CultureInfo.InvariantCulture, $"object {reference.Data.ObjectNumber}");
            if (reference is not null) names[reference.Data] = id;
            found.Add((token, kind, id));
        }
        return [.. found.Select(f => One(f.Token, f.Kind, f.Id, names))];
    }

    private Annotation One(DictionaryToken token, AnnotationKind kind, string id, Dictionary<IndirectReference, string> names)
    {
        var covered = Numbers(token, "Rect") is { Length: >= 4 } r ? new Extents(r[0], r[1], r[0], r[1]).With(r[2], r[3]) : default;
        if (kind is AnnotationKind.Square or AnnotationKind.Circle or AnnotationKind.FreeText && Numbers(token, "RD") is { Length: 4 } d)
            covered = new Extents(covered.MinX + d[0], covered.MinY + d[1], Math.Max(covered.MinX + d[0], covered.MaxX - d[2]), Math.Max(covered.MinY + d[1], covered.MaxY - d[3]));
        var ends = token.TryGet(NameToken.Create("LE"), PdfScanner, out ArrayToken? both) ? both!.Data.OfType<NameToken>().Select(n => n.Data).ToArray() : [];
        return new Annotation(id, kind, Points(token, kind, covered), covered, Words(token, "T", 200), PageMarks.Time(Words(token, "M", 60)), Words(token, "Contents", LongestWords))
        {
            IsCloudy = token.TryGet(NameToken.Create("BE"), PdfScanner, out DictionaryToken? border) && border!.TryGet(NameToken.Create("S"), PdfScanner, out NameToken? style) && style!.Data == "C",
            HasArrow = ends.Any(e => e.Contains("Arrow", StringComparison.Ordinal)),
            Intent = Words(token, "IT", 60),
            LeaderLength = Number(token, "LL"),
            LetterHeight = kind == AnnotationKind.FreeText ? (LetterSize(Words(token, "DA", 400)) ?? 10) * Capitals : 0,
            ReplyTo = token.Data.GetValueOrDefault("IRT") is IndirectReferenceToken other ? names.GetValueOrDefault(other.Data, "") : null,
            State = Words(token, "State", 40) is { Length: > 0 } state ? state : null,
            Subject = Words(token, "Subj", 200),
        };
    }

    private ImmutableArray<ImmutableArray<PointXY>> Points(DictionaryToken token, AnnotationKind kind, Extents covered) => kind switch
    {
        AnnotationKind.Square or AnnotationKind.Circle => [[new(covered.MinX, covered.MaxY), new(covered.MaxX, covered.MinY)]],
        AnnotationKind.Line => [Paired(Numbers(token, "L"))],
        AnnotationKind.Polygon or AnnotationKind.PolyLine => [Paired(Numbers(token, "Vertices"))],
        AnnotationKind.Highlight or AnnotationKind.StrikeOut => [.. Paired(Numbers(token, "QuadPoints")).Chunk(4).Where(q => q.Length == 4).Select(q => q.ToImmutableArray())],
        AnnotationKind.Ink when token.TryGet(NameToken.Create("InkList"), PdfScanner, out ArrayToken? rows) =>
            [.. rows!.Data.Take(1000).Select(row => PdfTokens.Direct(row, PdfScanner) is ArrayToken array ? Paired(Numbers(array)) : []).Where(p => p.Length > 0)],
        AnnotationKind.FreeText when Numbers(token, "CL") is { Length: >= 4 } line => [Paired(line)],
        _ => [],
    };

    private string Words(DictionaryToken token, string key, int most = 200) => PageMarks.Text(token, NameToken.Create(key), PdfScanner, most);

    private double Number(DictionaryToken token, string key) => token.TryGet(NameToken.Create(key), PdfScanner, out NumericToken? number) && double.IsFinite(number!.Double) ? number.Double : 0;

    private double[] Numbers(DictionaryToken token, string key) => token.TryGet(NameToken.Create(key), PdfScanner, out ArrayToken? array) ? Numbers(array!) : [];

    private double[] Numbers(ArrayToken array) => [.. array.Data.Take(2 * MostPoints).Select(n => PdfTokens.Direct(n, PdfScanner) is NumericToken number ? number.Double : double.NaN)];

    private static ImmutableArray<PointXY> Paired(double[] numbers) => [.. numbers.Chunk(2).Where(p => p.Length == 2 && double.IsFinite(p[0] + p[1])).Select(p => new PointXY(p[0], p[1]))];

    /// <summary>The size of letters in an appearance's words, such as “/Helv 12 Tf 1 0 0 rg”; null where they say none.</summary>
    internal static double? LetterSize(string words) =>
        SizeOfFont().Match(words) is { Success: true } found && double.TryParse(found.Groups[1].Value, CultureInfo.InvariantCulture, out var size) && size is > 0 and < 10_000 ? size : null;

    private static AnnotationKind? Kind(string type) => type is not ("Popup" or "Link" or "Widget") && Enum.TryParse<AnnotationKind>(type, out var kind) && Enum.IsDefined(kind) ? kind : null;

    [GeneratedRegex(@"([0-9]*\.?[0-9]+)\s+Tf", RegexOptions.NonBacktracking)]
    private static partial Regex SizeOfFont();
}
