using System.Collections.Immutable;
using System.Text.Json.Serialization;

namespace Froe.Core.Routing;

/// <summary>Something that happened to a slip. The ledger keeps these.</summary>
[JsonPolymorphic(TypeDiscriminatorPropertyName = "event")]
[JsonDerivedType(typeof(PackageSent), "package sent")]
[JsonDerivedType(typeof(StepOpened), "step opened")]
[JsonDerivedType(typeof(WayTaken), "way taken")]
[JsonDerivedType(typeof(SignedOff), "signed off")]
[JsonDerivedType(typeof(SignatureTakenBack), "signature taken back")]
[JsonDerivedType(typeof(StepPassed), "step passed")]
[JsonDerivedType(typeof(StepReopened), "step reopened")]
[JsonDerivedType(typeof(StepReturned), "returned to a step")]
[JsonDerivedType(typeof(PackageReturned), "package returned")]
[JsonDerivedType(typeof(PackageSentAgain), "package sent again")]
[JsonDerivedType(typeof(PackageReleased), "package released")]
[JsonDerivedType(typeof(PackageStopped), "package stopped")]
[JsonDerivedType(typeof(SeatHandedOver), "seat handed over")]
[JsonDerivedType(typeof(SeatFilled), "seat filled")]
[JsonDerivedType(typeof(PlanAmended), "plan amended")]
[JsonDerivedType(typeof(ItemsSplitOff), "items split off")]
[JsonDerivedType(typeof(SplitFrom), "split from")]
[JsonDerivedType(typeof(NotedAnswered), "noted answered")]
[JsonDerivedType(typeof(OriginatorChanged), "originator changed")]
[JsonDerivedType(typeof(ItemTakenOut), "item taken out")]
public abstract record SlipEvent;

/// <summary>The package left the originator with its plan, its items and its seats filled.</summary>
public sealed record PackageSent(Guid Originator, Plan Plan, ImmutableArray<SlipItem> Items, ImmutableArray<FilledSeat> Seats) : SlipEvent
{
    /// <summary>What rules know of the package.</summary>
    public PackageFacts Facts { get; init; } = PackageFacts.None;
}

/// <summary>A step opened for signing.</summary>
public sealed record StepOpened(string Step) : SlipEvent;

/// <summary>A choice was reached and sent the package down a way.</summary>
/// <param name="Because">The rule in words, or who picked.</param>
public sealed record WayTaken(string Choice, string Way, string Because) : SlipEvent;

/// <summary>A person signed in a seat.</summary>
public sealed record SignedOff(Signature Signature) : SlipEvent
{
    /// <summary>What lay on the drafts that were judged.</summary>
    public ImmutableArray<SignedOverlay> Overlays { get; init; } = [];
}

/// <summary>A person changed their mind before the step passed. The signature stays in the ledger.</summary>
public sealed record SignatureTakenBack(string Seat, Guid Person) : SlipEvent;

/// <summary>Every seat of a step is signed and none returned.</summary>
public sealed record StepPassed(string Step) : SlipEvent
{
    /// <summary>The rule by which an automatic step passed unsigned, in words; empty when it was signed.</summary>
    public string ByRule { get; init; } = "";
}

/// <summary>A step that had passed is open again: its last signature was taken back before anybody signed after it.</summary>
/// <param name="Step">The step.</param>
/// <param name="Undone">Steps that are passed and open no more: it and all that come after it.</param>
/// <param name="Forgotten">Choices to be taken anew.</param>
public sealed record StepReopened(string Step, ImmutableArray<string> Undone, ImmutableArray<string> Forgotten) : SlipEvent;

/// <summary>The package goes back to an earlier step of the same round.</summary>
/// <param name="To">The step.</param>
/// <param name="Reopened">Steps that count as passed no more.</param>
/// <param name="Forgotten">Choices to be taken anew.</param>
/// <param name="Kept">The signatures that still stand.</param>
public sealed record StepReturned(string To, ImmutableArray<string> Reopened, ImmutableArray<string> Forgotten, ImmutableArray<Signature> Kept) : SlipEvent
{
    /// <summary>The steps in which it was returned; none in events from before this was kept.</summary>
    public ImmutableArray<string> From { get; init; } = [];

    /// <summary>Who returned it, and for whom.</summary>
    public ImmutableArray<Guid> By { get; init; } = [];

    /// <summary>The reasons they gave.</summary>
    public string Because { get; init; } = "";
}

/// <summary>Why a package is back with its originator.</summary>
public enum ReturnCause
{
    /// <summary>Somebody returned an item.</summary>
    Returned,

    /// <summary>A coordinator pulled it back.</summary>
    PulledBack,

    /// <summary>Its originator recalled it, in a round after the first.</summary>
    Recalled,
}

/// <summary>The package goes back to the originator.</summary>
/// <param name="Documents">What was returned; empty when nothing was, and then all of it is the originator's to change.</param>
public sealed record PackageReturned(ImmutableArray<Guid> Documents) : SlipEvent
{
    /// <summary>Why; of events from before this was kept, the ledger's word says it.</summary>
    public ReturnCause Cause { get; init; }

    /// <summary>Whether everybody signs again, also what does not change: no signature stands any more.</summary>
    public bool SignAgain { get; init; }

    /// <summary>The absent originator for whom a deputy recalled it.</summary>
    public Guid? For { get; init; }
}

/// <summary>The originator sent the next round.</summary>
public sealed record PackageSentAgain(int Round, ImmutableArray<SlipItem> Items) : SlipEvent
{
    /// <summary>Signatures of the last round that stand.</summary>
    public ImmutableArray<Signature> Kept { get; init; } = [];

    /// <summary>Verdicts of the last round on items that did not change: their people sign again for the others only.</summary>
    public ImmutableArray<Signature> Carried { get; init; } = [];

    /// <summary>What rules know of the documents now; null when nothing changed.</summary>
    public PackageFacts? Facts { get; init; }

    /// <summary>Answers to what was noted in verdicts that stand; null in events from before this was kept: those to signatures that stand whole.</summary>
    public ImmutableArray<NotedAnswer>? Answers { get; init; }

    /// <summary>The absent originator for whom a deputy sent it.</summary>
    public Guid? For { get; init; }
}

/// <summary>The last signature is in; exactly these bytes are released.</summary>
public sealed record PackageReleased(ImmutableArray<SlipItem> Items) : SlipEvent;

/// <summary>The package ended without release: recalled by its originator or stopped by a coordinator.</summary>
public sealed record PackageStopped(bool Recalled) : SlipEvent
{
    /// <summary>The absent originator for whom a deputy recalled it.</summary>
    public Guid? For { get; init; }
}

/// <summary>A person handed their seat to a colleague.</summary>
public sealed record SeatHandedOver(string Seat, Guid From, Guid To) : SlipEvent;

/// <summary>A seat has other people, or none: refilled or skipped by a coordinator, or filled as its step opened.</summary>
public sealed record SeatFilled(FilledSeat Seat) : SlipEvent;

/// <summary>This slip's copy of the plan changed: a newer edition, a step more, more time.</summary>
/// <param name="Plan">The plan from here on.</param>
/// <param name="Seats">Its seats, filled; those that stood before keep their people.</param>
public sealed record PlanAmended(Plan Plan, ImmutableArray<FilledSeat> Seats) : SlipEvent;

/// <summary>Returned items leave the package, which goes on without them; they are a package of their own from here.</summary>
public sealed record ItemsSplitOff(ImmutableArray<SlipItem> Items) : SlipEvent
{
    /// <summary>
    /// Their drafts, those of earlier rounds on which a verdict stands among them. Null in events from before this was kept: then both
    /// packages lost what was judged of earlier rounds.
    /// </summary>
    public ImmutableArray<Guid>? Drafts { get; init; }

    /// <summary>The drafts whose verdicts go along.</summary>
    [JsonIgnore]
    public ImmutableArray<Guid> Leaving => Drafts ?? [.. Items.Select(i => i.Draft)];
}

/// <summary>The first event of a package made of items split off: where it stands then.</summary>
/// <param name="Package">Number of the package they were in.</param>
/// <param name="Slip">The slip it begins with, back with its originator.</param>
public sealed record SplitFrom(string Package, Slip Slip) : SlipEvent;

/// <summary>The originator answered what a signer noted when approving.</summary>
public sealed record NotedAnswered(NotedAnswer Answer) : SlipEvent
{
    /// <summary>The absent originator for whom a deputy answered.</summary>
    public Guid? For { get; init; }
}

/// <summary>The package has another originator.</summary>
public sealed record OriginatorChanged(Guid From, Guid To) : SlipEvent;

/// <summary>A document was withdrawn, and the package goes on without it.</summary>
public sealed record ItemTakenOut(SlipItem Item) : SlipEvent
{
    /// <summary>Its drafts, those of earlier rounds on which a verdict stands among them. Null in events from before this was kept: then only its last was forgotten.</summary>
    public ImmutableArray<Guid>? Drafts { get; init; }
}
