using System.Diagnostics;
using System.Text.RegularExpressions;
using Froe.Core.Draft;
using Froe.Core.Drawing;

namespace Froe.Formats.Texts;

/// <summary>Reads plain text and Markdown (CommonMark's headings, lists, quotes, code and rules) into drafts: sheets of paper to be read, searched and marked.</summary>
internal sealed partial class TextDraftReader : IReader
{
    private const int PictureSize = 1400, SmallSize = 320, MostBytes = 16 << 20;

    public string Name => "text";

    public int Version => 2;

    public string Words => "text";

    public IReadOnlyList<string> Extensions { get; } = [".txt", ".md"];

    public string MediaType => "text/plain";

    public (DraftContent? Content, ReadFault? Fault) Read(Stream stream, ReadLimits limits)
    {
        ArgumentNullException.ThrowIfNull(limits);
        var watch = Stopwatch.StartNew();
        var (text, encoding, length, fault) = Open(stream, limits);
        if (text is null) return (null, fault);
        var layout = new TextLayout(limits.MostLeaves);
        // A text is taken as Markdown where it has its signs; plain text has them at most by accident, and reads the same.
        Lay(text, layout);
        var sheets = layout.Sheets();
        IReadOnlyList<NotShown> lost = layout.IsCut ? [new NotShown("rest of the text", 1, $"only the first {limits.MostLeaves:N0} sheets of it are shown")] : [];
        return (new DraftContent([.. sheets.Select((s, i) => DrawnLeaf.Of(s, i, PictureSize, SmallSize))], () => new ReaderReport(
            "text", "", encoding, length, Math.Round(watch.Elapsed.TotalSeconds, 3),
            [.. sheets.Select(s => new LeafReport(s.Name, "millimetre", [s.Extents.MinX, s.Extents.MinY, s.Extents.MaxX, s.Extents.MaxY], 0, s.EntityHandle.Length, s.SegmentEntity.Length, 0, s.Texts.Count))],
            [], new Dictionary<string, int> { ["line"] = sheets.Sum(s => s.Texts.Count) }, lost)), null);
    }

    public (DrawingSurvey? Survey, ReadFault? Fault) Survey(Stream stream, ReadLimits limits)
    {
        ArgumentNullException.ThrowIfNull(limits);
        var (text, encoding, _, fault) = Open(stream, limits);
        return text is null ? (null, fault) : (new DrawingSurvey("text", "", encoding, LengthUnit.Millimetre, [], 0, new Dictionary<string, int> { ["line"] = text.Split('\n').Length }), null);
    }

    private static (string? Text, string Encoding, long Length, ReadFault? Fault) Open(Stream stream, ReadLimits limits)
    {
        var (text, encoding, length, fault) = TextFile.Read(stream, Math.Min(limits.MostBytes, MostBytes));
        return (text is null ? null : Clean(text), encoding, length, fault);
    }

    private static string Clean(string text) => text.Replace("\r\n", "\n", StringComparison.Ordinal).Replace('\r', '\n').Replace("\t", "    ", StringComparison.Ordinal).Replace('\f', '\n').Replace('\0', ' ');

    private static void Lay(string text, TextLayout layout)
    {
        var inCode = false;
        foreach (var line in text.Split('\n'))
        {
            var bare = line.TrimStart();
            var indent = Math.Min(60, (line.Length - bare.Length) * 1.2);
            if (bare.StartsWith("```", StringComparison.Ordinal)) inCode = !inCode;
            else if (inCode) layout.Line(line.TrimEnd(), 0.9, 6);
            else if (Heading().Match(bare) is { Success: true } heading) layout.Line(Plain(heading.Groups[2].Value), heading.Groups[1].Length switch { 1 => 2, 2 => 1.6, 3 => 1.3, _ => 1.1 }, 0, 0.6);
            else if (Ruled().IsMatch(bare)) layout.Rule();
            else if (Bullet().Match(bare) is { Success: true } bullet) layout.Line("•  " + Plain(bullet.Groups[1].Value), 1, indent + 3);
            else if (bare.StartsWith("> ", StringComparison.Ordinal)) layout.Line(Plain(bare[2..]), 1, indent + 8);
            else layout.Line(Plain(bare.TrimEnd()), 1, indent);
            if (layout.IsCut) return;
        }
    }

    /// <summary>Words without the signs that make them bold, slanted or code; a link's address stands behind its words.</summary>
    private static string Plain(string words) => words.Length > 10_000 ? words : Link().Replace(Strong().Replace(words, "$2"), "$1 ($2)");

    [GeneratedRegex(@"^(#{1,6}) +(.*?)[ #]*$", RegexOptions.NonBacktracking)]
    private static partial Regex Heading();

    [GeneratedRegex(@"^(\*{3,}|-{3,}|_{3,}) *$", RegexOptions.NonBacktracking)]
    private static partial Regex Ruled();

    [GeneratedRegex(@"^[-*+] +(.*)$", RegexOptions.NonBacktracking)]
    private static partial Regex Bullet();

    [GeneratedRegex(@"(\*\*|__|`)([^*_`]+)(\*\*|__|`)", RegexOptions.NonBacktracking)]
    private static partial Regex Strong();

    [GeneratedRegex(@"\[([^\]]+)\]\(([^)\s]+)\)", RegexOptions.NonBacktracking)]
    private static partial Regex Link();
}
