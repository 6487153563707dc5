using System.Text.Json.Serialization;
using Froe.Core.Draft;
using Froe.Core.Review;
using Froe.Core.Routing;

namespace Froe.Core.Overlays;

/// <summary>A change of one markup.</summary>
/// <param name="Id">The markup.</param>
/// <param name="Version">The version of it that was changed; 0 when it is new.</param>
[JsonPolymorphic(TypeDiscriminatorPropertyName = "change")]
[JsonDerivedType(typeof(PutMarkup), "put")]
[JsonDerivedType(typeof(EraseMarkup), "erase")]
public abstract record MarkupChange(Guid Id, long Version);

/// <summary>A markup is to lie on an overlay like this: drawn, moved, reshaped, put back, or given to a note.</summary>
/// <param name="Overlay">One's own overlay; null for the first one, which is made when there is none.</param>
/// <param name="Note">The note whose place it marks: one's own.</param>
/// <param name="Tie">What ties it to others, by an id that its owner\'s page made; null for nothing.</param>
/// <param name="Rank">What is of a higher rank lies above; 0 unless it was put there.</param>
public sealed record PutMarkup(Guid Id, Guid? Overlay, Place Place, Shape Shape, Guid? Note = null, long Version = 0, Guid? Tie = null, int Rank = 0) : MarkupChange(Id, Version);

/// <summary>A markup is to go.</summary>
public sealed record EraseMarkup(Guid Id, long Version) : MarkupChange(Id, Version);

/// <summary>Where a draft stands for whoever marks it.</summary>
public enum DraftStanding
{
    /// <summary>It has not been sent.</summary>
    Unsent,

    /// <summary>It is under review in a package.</summary>
    UnderReview,

    /// <summary>It was under review, and is not now: its package came back or has ended, or went on with another draft.</summary>
    Reviewed,
}

/// <summary>What the rules know of a draft, its markups' notes and who marks.</summary>
/// <param name="Draft">Where the draft stands.</param>
/// <param name="HasSigned">Whether a signature of theirs stands on the draft.</param>
/// <param name="Leaves">The draft's leaves.</param>
/// <param name="Notes">The notes of its package that they wrote, with kind and standing.</param>
/// <param name="NewNote">The note among them that is being written now.</param>
public sealed record MarkupContext(
    DraftStanding Draft, bool HasSigned, IReadOnlyList<Leaf> Leaves, IReadOnlyDictionary<Guid, (NoteKind Kind, NoteStanding Standing)> Notes, Guid? NewNote = null);

/// <summary>What a change comes to.</summary>
/// <param name="After">The markup after it, its version still that before; null when nothing changes.</param>
/// <param name="IsStale">Whether the markup has changed since it was looked at.</param>
public sealed record MarkupOutcome(Markup? After, Refusal? Refusal = null, bool IsStale = false)
{
    /// <summary>Everything is as it was asked to be.</summary>
    public static MarkupOutcome Nothing { get; } = new((Markup?)null);
}

/// <summary>
/// Who may change a markup, and until when:
/// <list type="number">
/// <item>Only its overlay's owner changes it.</item>
/// <item>While its draft is under review, or has not been sent; what lay on a draft when its review ended stays.</item>
/// <item>What its owner signed with stays as long as the signature stands. What they draw afterwards is theirs to change.</item>
/// <item>The places of a note that was answered or settled stay; so do those of a request once its author has signed.</item>
/// <item>A change of a markup that somebody, in another window, has changed since is refused; asked again, the same change does nothing.</item>
/// </list>
/// </summary>
public static class MarkupRules
{
    /// <summary>Where a draft stands, by the package it was last sent in; null when there is none.</summary>
    public static DraftStanding Standing(Slip? slip, Guid draft) =>
        slip is null ? DraftStanding.Unsent : slip.Standing == SlipStanding.InReview && slip.ItemOf(draft) is not null ? DraftStanding.UnderReview : DraftStanding.Reviewed;

    /// <summary>What a change by somebody comes to.</summary>
    /// <param name="before">The markup of that id, erased ones too; null when there is none.</param>
    /// <param name="overlay">The overlay it lies on, or is to lie on.</param>
    /// <param name="isOwner">Whether the overlay is theirs.</param>
    /// <param name="signed">The overlay's version when its owner signed last; 0 when they never did.</param>
    public static MarkupOutcome Apply(Markup? before, MarkupChange change, Guid overlay, bool isOwner, long signed, MarkupContext context)
    {
        ArgumentNullException.ThrowIfNull(change);
        ArgumentNullException.ThrowIfNull(context);
        if (!isOwner) return Refuse("not-your-overlay", "Only whoever drew a markup changes it.");
        if (before is not null && before.Overlay != overlay) return Refuse("other-overlay", "A markup stays on its overlay. Draw it anew on the other.");
        var after = change switch
        {
            PutMarkup put => new Markup(put.Id, overlay, put.Place, put.Shape, put.Note, before?.Version ?? 0, Tie: put.Tie, Rank: Math.Clamp(put.Rank, -OverlayRules.MostRank, OverlayRules.MostRank)),
            _ => before is null ? null : before with { IsErased = true },
        };
        if (after is null || after == before) return MarkupOutcome.Nothing;
        if (Frozen(before, signed, context) is { } frozen) return new(null, frozen);
        if (change.Version != (before?.Version ?? 0)) return new(null, null, IsStale: true);
        if (change is not PutMarkup wanted) return new(after);
        if (!Fits(wanted, context)) return Refuse("markup-off-sheet", "The markup has no size or lies off its sheet or table. Draw it again.");
        // What was erased is put back as though it were new: its note may have been answered meanwhile.
        if (wanted.Note is not { } note || (before is { IsErased: false } && note == before.Note)) return new(after);
        if (!context.Notes.TryGetValue(note, out var told)) return Refuse("not-your-note", "Only whoever wrote a note says where it belongs.");
        if (told.Standing != NoteStanding.Open) return Refuse("note-answered", "This note has been answered or is settled; its places stay as they are.");
        if (told.Kind == NoteKind.Request && context.HasSigned && note != context.NewNote) return Refuse("already-signed", "You have signed with this request, so its places stay as they are.");
        return new(after);

        static MarkupOutcome Refuse(string code, string reason) => new(null, new Refusal(code, reason));
    }

    /// <summary>Why a markup can be changed by its owner no more, or a new one not be drawn; null when it can.</summary>
    /// <param name="markup">The markup; null when it is new.</param>
    public static Refusal? Frozen(Markup? markup, long signed, MarkupContext context)
    {
        ArgumentNullException.ThrowIfNull(context);
        if (context.Draft == DraftStanding.Reviewed) return new Refusal("not-under-review", "This draft is not under review any more; what was drawn on it stays.");
        if (markup is null or { IsErased: true }) return null;
        if (context.HasSigned && markup.Version <= signed) return new Refusal("already-signed", "You have signed with this markup, so it stays. Take your signature back to change it, or draw another.");
        if (markup.Note is not { } note) return null;
        return context.Notes.TryGetValue(note, out var told) && told.Standing == NoteStanding.Open ? null
            : new Refusal("note-answered", "Its note has been answered or is settled, so its places stay as they are.");
    }

    private static bool Fits(PutMarkup wanted, MarkupContext context) =>
        context.Leaves.FirstOrDefault(l => l.Position == wanted.Place.Leaf) is { } leaf && wanted.Shape.Fits(wanted.Place, leaf.Frame);
}
