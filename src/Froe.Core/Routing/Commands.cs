using System.Collections.Immutable;
using Froe.Core.Draft;

namespace Froe.Core.Routing;

/// <summary>Something a person asks of a slip. <see cref="SlipRules.Decide"/> answers with events or a refusal.</summary>
public abstract record SlipCommand(Guid Person);

/// <summary>Send a package for the first time.</summary>
public sealed record Send(Guid Person, Plan Plan, ImmutableArray<SlipItem> Items) : SlipCommand(Person)
{
    /// <summary>The intake form and what is known of the documents.</summary>
    public PackageFacts Facts { get; init; } = PackageFacts.None;

    /// <summary>Whom the sender chose for the seats that let them choose.</summary>
    public ImmutableArray<ChosenPerson> Chosen { get; init; } = [];

    /// <summary>Whom the sender wants told, where the plan asks.</summary>
    public ImmutableArray<ToldPeople> Told { get; init; } = [];
}

/// <summary>A sender's answer to whom to tell at a moment of a step.</summary>
public sealed record ToldPeople(string Step, Moment At, ImmutableArray<Guid> People);

/// <summary>A sender's choice for a seat.</summary>
public sealed record ChosenPerson(string Seat, Guid Person);

/// <summary>Sign in a seat: a verdict on every item that does not keep one from the last round.</summary>
public sealed record SignOff(Guid Person, string Seat, ImmutableArray<ItemVerdict> Verdicts) : SlipCommand(Person)
{
    /// <summary>The absent person a deputy signs for; null when signing for oneself.</summary>
    public Guid? For { get; init; }

    /// <summary>Answers to the step's checkpoints.</summary>
    public ImmutableArray<CheckpointAnswer> Answers { get; init; } = [];

    /// <summary>Ways picked for the choices this step picks for.</summary>
    public ImmutableArray<WayPick> Picks { get; init; } = [];

    /// <summary>Where the documents are to be filed on release, in the step that picks it.</summary>
    public string? Folder { get; init; }

    /// <summary>What lay on the drafts that are judged.</summary>
    public ImmutableArray<SignedOverlay> Overlays { get; init; } = [];
}

/// <summary>Take a signature back: before its step has passed; or, the last one of a step that has, while nobody has signed after it.</summary>
public sealed record TakeBack(Guid Person, string Seat) : SlipCommand(Person)
{
    /// <summary>Whose it is, when a coordinator reopens a step that has passed; null for one's own.</summary>
    public Guid? Of { get; init; }
}

/// <summary>Open one's seat again, though its step has passed, because there is something more to ask for; where the plan lets signers do so.</summary>
public sealed record ReopenSeat(Guid Person, string Seat) : SlipCommand(Person);

/// <summary>Send a returned package again with the drafts of the next round: documents may be left out and others taken in.</summary>
public sealed record SendAgain(Guid Person, ImmutableArray<SlipItem> Items) : SlipCommand(Person)
{
    /// <summary>The form and what is known of the documents now; null when nothing changed.</summary>
    public PackageFacts? Facts { get; init; }
}

/// <summary>Give a package to another originator. For coordinators.</summary>
public sealed record HandPackage(Guid Person, Guid To) : SlipCommand(Person);

/// <summary>Take a document that is withdrawn out of the package, which goes on with the others. The right for it is the register's.</summary>
public sealed record TakeOut(Guid Person, Guid Document) : SlipCommand(Person);

/// <summary>Answer what a signer noted when approving. For the originator.</summary>
/// <param name="Signer">Who signed.</param>
/// <param name="Draft">The draft the verdict is on.</param>
/// <param name="Words">The answer; must not be empty.</param>
public sealed record AnswerNoted(Guid Person, string Seat, Guid Signer, Guid Draft, string Words) : SlipCommand(Person);

/// <summary>Hand a seat to a colleague; a coordinator may do it for the person.</summary>
/// <param name="From">Whose seat it is.</param>
public sealed record HandOver(Guid Person, string Seat, Guid From, Guid To) : SlipCommand(Person);

/// <summary>Fill a seat anew: the people given sign, so many of them. For coordinators.</summary>
public sealed record Refill(Guid Person, string Seat, ImmutableArray<Guid> People, int Needed) : SlipCommand(Person);

/// <summary>Ask for no further signature in a seat. For coordinators.</summary>
public sealed record Skip(Guid Person, string Seat) : SlipCommand(Person)
{
    /// <summary>Said in so many words: the package may be released by this though nobody has signed it.</summary>
    public bool WithoutSignatures { get; init; }
}

/// <summary>Change this slip's plan: a newer edition, a step more, more time. For coordinators; must fit what was passed and signed.</summary>
public sealed record Amend(Guid Person, Plan Plan) : SlipCommand(Person);

/// <summary>Recall a package nobody has signed yet in its round. For its originator.</summary>
public sealed record Recall(Guid Person) : SlipCommand(Person);

/// <summary>Give a package in review back to its originator. For coordinators.</summary>
/// <param name="SignAgain">Whether everybody signs again; else signatures on what does not change stand.</param>
public sealed record PullBack(Guid Person, bool SignAgain = false) : SlipCommand(Person);

/// <summary>End a package without release. For coordinators.</summary>
public sealed record Stop(Guid Person) : SlipCommand(Person);

/// <summary>A request as routing sees it.</summary>
/// <param name="Number">Its number in the package.</param>
/// <param name="Document">The document it is on.</param>
/// <param name="Round">The round in which it was raised.</param>
/// <param name="By">Who raised it.</param>
/// <param name="Answered">Whether the originator has answered it since it was raised or last reopened.</param>
public sealed record OpenRequest(int Number, Guid Document, int Round, Guid By, bool Answered)
{
    /// <summary>Whether the answer says that nothing is changed: it cannot be, or is so already.</summary>
    public bool ChangesNothing { get; init; }
}

/// <summary>What <see cref="SlipRules.Decide"/> needs to know of the world outside the slip.</summary>
/// <param name="Groups">Members of every group the plan names.</param>
/// <param name="OpenRequests">Every request of the package that no reviewer has closed.</param>
public sealed record SlipContext(
    IReadOnlyDictionary<Guid, ImmutableArray<Guid>> Groups,
    IReadOnlyList<OpenRequest> OpenRequests)
{
    /// <summary>Who is away now and has named a deputy: the deputy by the absent person.</summary>
    public IReadOnlyDictionary<Guid, Guid> Deputies { get; init; } = new Dictionary<Guid, Guid>();

    /// <summary>Who has the right to sign for these documents; null when everybody has.</summary>
    public IReadOnlySet<Guid>? Signers { get; init; }

    /// <summary>The folders into which who acts may file; null when that is not asked.</summary>
    public IReadOnlySet<string>? Folders { get; init; }

    /// <summary>The document of every draft of an earlier round on which a verdict stands (<see cref="Slip.JudgedEarlier"/>): when a document leaves the package, they leave with it.</summary>
    public IReadOnlyDictionary<Guid, Guid> EarlierDrafts { get; init; } = new Dictionary<Guid, Guid>();

    /// <summary>The drafts that who signs has had open before them; null when that is not asked, as in a preview.</summary>
    public IReadOnlySet<Guid>? Opened { get; init; }

    /// <summary>How much of each draft's sheets who signs has seen at a legible size; drafts without sheets are missing. Null when that is not asked, as in a preview.</summary>
    public IReadOnlyDictionary<Guid, SeenShare>? Seen { get; init; }

    /// <summary>Whether a signature was given in the round under way that stands; null to go by whether any stands.</summary>
    public bool? SignedThisRound { get; init; }

    /// <summary>Whether who acts has a coordinator's right over this package.</summary>
    public bool MayCoordinate { get; init; }

    /// <summary>No groups and no requests.</summary>
    public static SlipContext Empty { get; } = new(new Dictionary<Guid, ImmutableArray<Guid>>(), []);
}

/// <summary>Why a command was not carried out, for a person to read.</summary>
/// <param name="Code">Stable, for programs.</param>
/// <param name="Reason">What is wrong and what to do, one or two sentences.</param>
public sealed record Refusal(string Code, string Reason);

/// <summary>What <see cref="SlipRules.Decide"/> answers: events, possibly none for a repeated command, or a refusal.</summary>
public readonly record struct Decision(ImmutableArray<SlipEvent> Events, Refusal? Refusal)
{
    /// <summary>Whether the command was refused.</summary>
    public bool IsRefused => Refusal is not null;

    /// <summary>The command is carried out as these events.</summary>
    public static Decision Of(params ImmutableArray<SlipEvent> events) => new(events, null);

    /// <summary>The command is refused.</summary>
    public static Decision Refuse(string code, string reason) => new([], new Refusal(code, reason));
}
