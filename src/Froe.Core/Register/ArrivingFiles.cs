using Froe.Core.Draft;

namespace Froe.Core.Register;

/// <summary>A document whose number stands next to another's.</summary>
public sealed record Neighbour(string Number, string Kind, string Discipline);

/// <summary>What a file that arrives tells of its document: by its name, and by its title block.</summary>
public static class ArrivingFiles
{
    private const int MostTitle = 200;

    /// <summary>Numbers of documents that the file may be a draft of, the surest first: what its title block calls a number, what its name begins with, what looks like a number in the block.</summary>
    public static IReadOnlyList<string> Numbers(string fileName, TitleBlock? block) =>
        [.. Stated(block).Concat(FileNames.Numbers(fileName)).Concat(block?[TitleFieldKind.Number] is { } looking ? Begun(looking.Words) : []).Distinct(StringComparer.Ordinal)];

    /// <summary>The number and the title that a document gets which is not registered yet.</summary>
    public static NamedFile Suggest(string fileName, TitleBlock? block)
    {
        var named = FileNames.Read(fileName);
        var (number, title) = (block?[TitleFieldKind.Number], block?[TitleFieldKind.Title]);
        return new(
            number is { IsLabelled: true } || named.Number.Length == 0 ? Cut(number?.Words, FileNames.MostNumber) ?? named.Number : named.Number,
            title is { IsLabelled: true } || named.Title.Length == 0 ? Cut(title?.Words, MostTitle) ?? named.Title : named.Title);
    }

    /// <summary>The series a number stands in: all of it but its last two digits and what follows them, so TO-11 for TO-1107. Empty where it has no digit, or nothing stands before them.</summary>
    public static string Series(string number)
    {
        ArgumentNullException.ThrowIfNull(number);
        var end = number.Length - 1;
        while (end >= 0 && !char.IsAsciiDigit(number[end])) end--;
        if (end > 0 && char.IsAsciiDigit(number[end - 1])) end--;
        return end <= 0 ? "" : number[..end];
    }

    /// <summary>Kind and discipline that a new document likely has: those of the documents next to it in its series, where they agree; null where there are none or they do not.</summary>
    public static (string? Kind, string? Discipline) Alike(string number, IEnumerable<Neighbour> neighbours)
    {
        ArgumentNullException.ThrowIfNull(neighbours);
        var series = Series(number);
        if (series.Length == 0) return (null, null);
        var near = neighbours.Where(n => Series(n.Number) == series).ToList();
        string? Agreed(Func<Neighbour, string> of) => near.Select(of).Distinct().ToList() is [var one] ? one : null;
        return (Agreed(n => n.Kind), Agreed(n => n.Discipline));
    }

    /// <summary>What a file's title block says that does not go with what it becomes; null where nothing is odd.</summary>
    /// <param name="number">The number of its document.</param>
    /// <param name="label">The revision it becomes a draft of, such as B.</param>
    /// <param name="ordinal">Which draft.</param>
    public static string? Doubt(TitleBlock? block, string number, string label, int ordinal)
    {
        if (block?[TitleFieldKind.Number] is { IsLabelled: true, Words: var said } && !Stated(block).Contains(number, StringComparer.OrdinalIgnoreCase)) return $"Its title block says {said}.";
        if (block?[TitleFieldKind.Revision] is { IsLabelled: true, Words: var revision } && Revision(revision) is var plain && !string.Equals(plain, label, StringComparison.OrdinalIgnoreCase) && !string.Equals(plain, $"{label}.{ordinal}", StringComparison.OrdinalIgnoreCase))
            return $"Its title block says revision {revision}.";
        return null;
    }

    /// <summary>The number of a block, whole, and what stands before a sheet or a revision in it.</summary>
    private static IEnumerable<string> Stated(TitleBlock? block) => block?[TitleFieldKind.Number] is { IsLabelled: true, Words: var words } ? Begun(words) : [];

    private static IEnumerable<string> Begun(string words) => Callouts.In(words).Where(c => c.From == 0).Select(c => c.Number).Prepend(words.Trim()).Distinct(StringComparer.Ordinal);

    private static string Revision(string words)
    {
        var plain = words.Trim();
        foreach (var word in (string[])["revision", "rev.", "rev"])
            if (plain.StartsWith(word, StringComparison.OrdinalIgnoreCase)) return plain[word.Length..].Trim(' ', ':', '.');
        return plain;
    }

    private static string? Cut(string? text, int most) => text is null || text.Length <= most ? text : text[..most];
}
