using System.Globalization;
using Froe.Core.Draft;
using Froe.Core.Drawing;
using UglyToad.PdfPig;
using UglyToad.PdfPig.Core;
using UglyToad.PdfPig.Tokenization.Scanner;
using UglyToad.PdfPig.Tokens;

namespace Froe.Formats.Pdf;

/// <summary>The marks that lie on a page when it comes: annotations that somebody made (ISO 32000-2, 12.5.6), not links, fields and pop-ups.</summary>
internal static class PageMarks
{
    private const int Most = 5000, LongestWords = 4000, LongestName = 200;

    /// <summary>Reads a page's marks.</summary>
    /// <param name="annotations">The page's array of them.</param>
    /// <param name="page">How the page lies on paper.</param>
    /// <param name="scanner">Finds what is referred to.</param>
    public static IReadOnlyList<FileMark> Read(ArrayToken annotations, ShownPage page, IPdfTokenScanner scanner)
    {
        var names = new Dictionary<IndirectReference, string>();
        var found = new List<(DictionaryToken Mark, string Kind, string Id)>();
        foreach (var item in annotations.Data.Take(Most))
        {
            var reference = item as IndirectReferenceToken;
            if (PdfTokens.Direct(item, scanner) is not DictionaryToken mark || Kind(mark, scanner) is not { } kind) continue;
            var id = Text(mark, NameToken.Create("NM"), scanner) is { Length: > 0 } named ? named : $"#{found.Count + 1}";
            if (reference is not null) names[reference.Data] = id;
            found.Add((mark, kind, id));
        }
        return [.. found.Select(m => new FileMark(
            m.Id, m.Kind, Box(m.Mark, page, scanner), Text(m.Mark, NameToken.Create("T"), scanner), Time(Text(m.Mark, NameToken.M, scanner)), Text(m.Mark, NameToken.Contents, scanner, LongestWords),
            m.Mark.Data.GetValueOrDefault("IRT") is IndirectReferenceToken other ? names.GetValueOrDefault(other.Data) : null,
            Text(m.Mark, NameToken.Create("State"), scanner) is { Length: > 0 } state ? state : null))];
    }

    private static Extents Box(DictionaryToken mark, ShownPage page, IPdfTokenScanner scanner)
    {
        if (!mark.TryGet(NameToken.Rect, scanner, out ArrayToken? corners) || corners!.Data.Count < 4) return default;
        var at = corners.Data.Take(4).Select(c => PdfTokens.Direct(c, scanner) is NumericToken number ? number.Double : double.NaN).ToArray();
        PointXY a = page.Paper(at[0], at[1]), b = page.Paper(at[2], at[3]);
        return double.IsFinite(a.X + a.Y + b.X + b.Y) && Math.Abs(a.X) + Math.Abs(a.Y) + Math.Abs(b.X) + Math.Abs(b.Y) < 1e9 ? new Extents(a.X, a.Y, a.X, a.Y).With(b.X, b.Y) : default;
    }

    /// <summary>What people call it; null for what nobody marked.</summary>
    private static string? Kind(DictionaryToken mark, IPdfTokenScanner scanner)
    {
        var isCloud = mark.Data.ContainsKey("BE");
        return (mark.TryGet(NameToken.Subtype, scanner, out NameToken? type) ? type!.Data : "") switch
        {
            "" or "Link" or "Popup" or "Widget" or "PrinterMark" or "TrapNet" or "Watermark" => null,
            "Text" => "note",
            "FreeText" => "words",
            "Polygon" => isCloud ? "cloud" : "polygon",
            "Square" => isCloud ? "cloud" : "box",
            "Circle" => "ellipse",
            "PolyLine" => "polyline",
            "Line" => "line",
            "Ink" => "freehand",
            "Highlight" => "highlight",
            "StrikeOut" => "strike-through",
            "Underline" or "Squiggly" => "underline",
            "Stamp" => "stamp",
            "FileAttachment" => "file",
            _ => "mark",
        };
    }

    internal static string Text(DictionaryToken mark, NameToken key, IPdfTokenScanner scanner, int most = LongestName)
    {
        var text = TextString.Of(mark, key, scanner) ?? (mark.TryGet(key, scanner, out NameToken? name) ? name!.Data : "");
        return (text.Length <= most ? text : text[..most]).Trim();
    }

    /// <summary>A date as a file has it (7.9.4): D:20261125120000+01'00'.</summary>
    internal static DateTimeOffset? Time(string? words)
    {
        if (words is null || !words.StartsWith("D:", StringComparison.Ordinal)) return null;
        var digits = words[2..(2 + words[2..].TakeWhile(char.IsAsciiDigit).Count())];
        if (digits.Length is not (4 or 6 or 8 or 10 or 12 or 14)) return null;
        if (!DateTime.TryParseExact((digits + "00000101000000"[digits.Length..])[..14], "yyyyMMddHHmmss", CultureInfo.InvariantCulture, DateTimeStyles.None, out var at)) return null;
        var zone = words[(2 + digits.Length)..].Replace("'", "", StringComparison.Ordinal);
        var offset = zone.Length >= 5 && zone[0] is '+' or '-' && int.TryParse(zone.AsSpan(1, 2), out var hours) && int.TryParse(zone.AsSpan(3, 2), out var minutes) && hours < 14 && minutes < 60
            ? new TimeSpan(hours, minutes, 0) * (zone[0] == '-' ? -1 : 1) : TimeSpan.Zero;
        return new DateTimeOffset(at, offset).ToUniversalTime();
    }
}
