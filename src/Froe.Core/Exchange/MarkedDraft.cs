using Froe.Core.Draft;
using Froe.Core.Overlays;
using Froe.Core.Review;

namespace Froe.Core.Exchange;

/// <summary>A draft with what lies on it, on its way out of the house.</summary>
/// <param name="Title">What stands at its head: the document's number, title and draft.</param>
/// <param name="Leaves">Its sheets, in order.</param>
public sealed record MarkedDraft(string Title, IReadOnlyList<MarkedLeaf> Leaves);

/// <summary>A sheet with what lies on it.</summary>
/// <param name="Marks">Its markups, in the order they were drawn.</param>
/// <param name="Loose">Notes that are about the whole draft; they stand on its first sheet.</param>
public sealed record MarkedLeaf(Leaf Leaf, IReadOnlyList<SentMark> Marks, IReadOnlyList<SentNote> Loose)
{
    /// <summary>The view of a model that it is a picture of; null for a sheet of its own.</summary>
    public ViewOfModel? View { get; init; }
}

/// <summary>A model as somebody saw it who marked it: it goes out as a sheet whose coordinates are those of the plane that the eye looks at.</summary>
/// <param name="Leaf">The model's place among the draft's leaves.</param>
public sealed record ViewOfModel(int Leaf, PinEye Eye);

/// <summary>A markup on its way out.</summary>
/// <param name="Value">What it says besides its own words, such as a measured length; null for nothing.</param>
/// <param name="Overlay">The name of its overlay.</param>
/// <param name="Note">The note whose place it marks; null when it stands for itself.</param>
/// <param name="Look">How its overlay is drawn.</param>
/// <param name="IsCarried">Whether it was drawn on an earlier draft.</param>
public sealed record SentMark(Guid Id, Shape Shape, string? Value, string Author, DateTimeOffset At, string Overlay, SentNote? Note, OverlayLook Look, bool IsCarried = false);

/// <summary>A note on its way out.</summary>
public sealed record SentNote(
    Guid Id, int Number, NoteKind Kind, NoteStanding Standing, AnswerKind? Answer, string Author, DateTimeOffset At, string Body, IReadOnlyList<SentReply> Replies);

/// <summary>An act on a note on its way out.</summary>
/// <param name="Act">What was done, in a word: answered, closed, replied …</param>
/// <param name="Words">What was said with it.</param>
public sealed record SentReply(int Sequence, string Author, DateTimeOffset At, string Act, string Words);
