using System.Collections.Immutable;
using System.Globalization;
using Froe.Core.Routing;

namespace Froe.Core.Review;

/// <summary>What a note says besides its words.</summary>
/// <param name="Urgent">Whether it comes before other things.</param>
/// <param name="Due">The day by whose end it is wanted; null when the package's own times are enough.</param>
/// <param name="Tags">Words it is found by again, each once.</param>
/// <param name="OnPackage">Whether it is about all of the package rather than one item.</param>
public sealed record NoteTerms(bool Urgent, DateOnly? Due, ImmutableArray<string> Tags, bool OnPackage)
{
    /// <summary>Tags of one note.</summary>
    public const int MostTags = 8;

    /// <summary>Longest tag, in characters.</summary>
    public const int LongestTag = 30;

    /// <summary>Nothing besides its words.</summary>
    public static NoteTerms None { get; } = new(false, null, [], false);

    /// <summary>The same with its tags as they are kept: in small letters, without blanks around, none empty, none twice.</summary>
    public NoteTerms Tidied() => this with
    {
        Tags = Tags.IsDefaultOrEmpty ? [] : [.. Tags.Select(t => string.Join(' ', t.Split(' ', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries)).ToLowerInvariant()).Where(t => t.Length > 0).Distinct()],
    };

    /// <summary>Why a note of a kind cannot have these; null when it can.</summary>
    /// <param name="today">The day it is where the note is written.</param>
    public Refusal? Fault(NoteKind kind, DateOnly today)
    {
        if (kind == NoteKind.Remark && (Urgent || Due is not null)) return new("remark-waits", "A remark waits for nobody, so it is neither urgent nor due. Ask a question, or request a change.");
        if (kind == NoteKind.Request && OnPackage) return new("request-needs-item", "A request asks for a change of something: write it on the item that must change.");
        if (Due < today) return new("due-passed", "The day by which it is wanted has passed. Choose today or a later day.");
        if (Due > today.AddYears(5)) return new("due-far", "The day by which it is wanted is more than five years away. Choose an earlier one.");
        if (!Tags.IsDefaultOrEmpty && Tags.Length > MostTags) return new("too-many-tags", $"A note has up to {MostTags} tags.");
        if (!Tags.IsDefaultOrEmpty && Tags.FirstOrDefault(t => t.Length > LongestTag) is { } tag) return new("too-long", $"A tag may have {LongestTag} characters; “{tag[..LongestTag]}…” has more.");
        return null;
    }

    /// <summary>Whether it is wanted before anything else, or late: while it is not settled.</summary>
    public bool Presses(NoteStanding standing, DateOnly today) => standing is NoteStanding.Open or NoteStanding.Answered && (Urgent || Due < today);

    /// <summary>As the ledger tells it; null when there is nothing besides the words.</summary>
    public string? Written()
    {
        var parts = new List<string>();
        if (Urgent) parts.Add("urgent");
        if (Due is { } due) parts.Add("due " + due.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture));
        if (OnPackage) parts.Add("on the package");
        if (!Tags.IsDefaultOrEmpty) parts.Add("tags " + string.Join(" | ", Tags));
        return parts.Count == 0 ? null : string.Join("; ", parts);
    }
}
