using System.Text.RegularExpressions;

namespace Froe.Core.Register;

/// <summary>What a file's name tells of its document.</summary>
/// <param name="Number">The number it begins with.</param>
/// <param name="Title">Words that follow; empty when there are none.</param>
public sealed record NamedFile(string Number, string Title);

/// <summary>Reads the names of files: a number first, then perhaps a revision or a draft, then perhaps a title, parted by blanks or underscores.</summary>
public static partial class FileNames
{
    /// <summary>Most letters of a document's number.</summary>
    public const int MostNumber = 40;

    private const int MostTitle = 200;

    /// <summary>Numbers that a file may be of, the longest first: its whole name, and every shorter piece that ends where a part of it does.</summary>
    public static IReadOnlyList<string> Numbers(string fileName)
    {
        var name = Bare(fileName);
        var ends = new List<int> { name.Length };
        for (var i = name.Length - 1; i > 0; i--)
            if (!char.IsLetterOrDigit(name[i]) && char.IsLetterOrDigit(name[i - 1])) ends.Add(i);
        return [.. ends.Select(e => name[..e].Trim()).Where(n => n.Length is > 0 and <= MostNumber).Distinct(StringComparer.Ordinal)];
    }

    /// <summary>The number and the title that a name suggests for a document that is not registered yet.</summary>
    public static NamedFile Read(string fileName)
    {
        var parts = Bare(fileName).Split(['_', ' '], StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries).Where(p => p.Trim('-', '–').Length > 0).ToList();
        if (parts.Count == 0) return new("", "");
        // A number has a digit; a name without any is a title.
        if (!parts[0].Any(char.IsDigit)) return new("", Cut(string.Join(' ', parts), MostTitle));
        var rest = parts.Skip(1).SkipWhile(p => Draft().IsMatch(p)).ToList();
        return new(Cut(parts[0], MostNumber), Cut(string.Join(' ', rest), MostTitle));
    }

    private static string Cut(string text, int most) => text.Length <= most ? text : text[..most];

    private static string Bare(string fileName)
    {
        ArgumentNullException.ThrowIfNull(fileName);
        var name = fileName[(fileName.LastIndexOfAny(['/', '\\']) + 1)..];
        var dot = name.LastIndexOf('.');
        return (dot > 0 ? name[..dot] : name).Trim();
    }

    /// <summary>A revision or a draft, such as A, A1, A.2, rev B or r3.</summary>
    [GeneratedRegex(@"^((rev\.?|r|v)?([A-Z]|[A-Z]{0,2}\.?\d{1,2})|rev\.?)$", RegexOptions.IgnoreCase | RegexOptions.NonBacktracking)]
    private static partial Regex Draft();
}
