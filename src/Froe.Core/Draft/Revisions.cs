namespace Froe.Core.Draft;

/// <summary>Where a revision of a document is.</summary>
public enum Standing
{
    /// <summary>Being made; drafts may be added.</summary>
    InWork,

    /// <summary>Under way on a slip; no draft may be added.</summary>
    InReview,

    /// <summary>Back with its originator; the next draft may be added.</summary>
    Returned,

    /// <summary>Signed and locked.</summary>
    Released,

    /// <summary>Was released until a later revision took its place.</summary>
    Superseded,

    /// <summary>Taken out of use.</summary>
    Withdrawn,
}

/// <summary>The words for where a revision is: one for the database, the ledger, the interface between programs, and the screen.</summary>
public static class StandingWords
{
    private static readonly (Standing Standing, string Word)[] All =
    [
        (Standing.InWork, "in work"), (Standing.InReview, "in review"), (Standing.Returned, "returned"),
        (Standing.Released, "released"), (Standing.Superseded, "superseded"), (Standing.Withdrawn, "withdrawn"),
    ];

    /// <summary>The word.</summary>
    public static string Word(this Standing standing) => All[(int)standing].Word;

    /// <summary>The standing that a word is for.</summary>
    /// <exception cref="ArgumentException">There is none.</exception>
    public static Standing Parse(string word) => All.FirstOrDefault(a => a.Word == word) is { Word: not null } found ? found.Standing : throw new ArgumentException($"“{word}” is no standing of a revision.", nameof(word));
}

/// <summary>When a revision takes another draft.</summary>
public static class RevisionRules
{
    /// <summary>Whether a draft may be added to a revision as it stands; a released one is followed by the next revision instead.</summary>
    /// <param name="isBack">Whether the package it is in is back with its originator: then any of its items may change, also those that nobody returned.</param>
    public static bool TakesDrafts(Standing standing, bool isBack) => standing is Standing.InWork or Standing.Returned || (standing == Standing.InReview && isBack);

    /// <summary>Whether a revision is being made or reviewed; a document has at most one of these.</summary>
    public static bool IsActive(Standing standing) => standing is Standing.InWork or Standing.InReview or Standing.Returned;

    /// <summary>Whether the next draft begins the next revision.</summary>
    public static bool IsLocked(Standing standing) => standing is Standing.Released or Standing.Superseded or Standing.Withdrawn;
}

/// <summary>Revision letters as ASME Y14.35 gives them: A, B, C … without I, O, Q, S, X, Z; after Y comes AA.</summary>
public static class RevisionLabel
{
    private const string Letters = "ABCDEFGHJKLMNPRTUVWY";

    /// <summary>The first revision.</summary>
    public const string First = "A";

    /// <summary>The label after <paramref name="label"/>: the next letter, or the next number for a numeric scheme.</summary>
    /// <exception cref="ArgumentException">The label is neither letters of the scheme nor a number.</exception>
    public static string Next(string label)
    {
        ArgumentException.ThrowIfNullOrEmpty(label);
        if (int.TryParse(label, out var number)) return (number + 1).ToString();
        if (!IsValid(label)) throw new ArgumentException($"“{label}” is not a revision letter.", nameof(label));
        var digits = label.Select(c => Letters.IndexOf(c, StringComparison.Ordinal)).ToArray();
        for (var i = digits.Length - 1; i >= 0; i--)
        {
            if (++digits[i] < Letters.Length) return Word(digits);
            digits[i] = 0;
        }
        return Letters[0] + Word(digits);

        static string Word(IEnumerable<int> digits) => string.Concat(digits.Select(d => Letters[d]));
    }

    /// <summary>Whether a label belongs to either scheme: one to three letters without I, O, Q, S, X, Z, or a number.</summary>
    public static bool IsValid(string label)
    {
        ArgumentNullException.ThrowIfNull(label);
        return label.Length is >= 1 and <= 3 && (label.All(char.IsAsciiDigit) || label.All(c => Letters.Contains(c, StringComparison.Ordinal)));
    }
}
