using System.Collections.Immutable;
using System.Text.Json.Serialization;

namespace Froe.Core.Routing;

/// <summary>Something a person asks of a slip. <see cref="SlipRules.Decide"/> answers with events or a refusal.</summary>
public abstract record SlipCommand(Guid Person);

/// <summary>Send a package for the first time.</summary>
public sealed record Send(Guid Person, Plan Plan, ImmutableArray<SlipItem> Items) : SlipCommand(Person);

/// <summary>Sign in a seat: a verdict on every item.</summary>
public sealed record SignOff(Guid Person, string Seat, ImmutableArray<ItemVerdict> Verdicts) : SlipCommand(Person);

/// <summary>Send a returned package again with the drafts of the next round.</summary>
public sealed record SendAgain(Guid Person, ImmutableArray<SlipItem> Items) : SlipCommand(Person);

/// <summary>A request as routing sees it.</summary>
/// <param name="Number">Its number in the package.</param>
/// <param name="Document">The document it is on.</param>
/// <param name="Round">The round in which it was raised.</param>
/// <param name="By">Who raised it.</param>
/// <param name="Answered">Whether the originator has answered it since it was raised or last reopened.</param>
public sealed record OpenRequest(int Number, Guid Document, int Round, Guid By, bool Answered);

/// <summary>What <see cref="SlipRules.Decide"/> needs to know of the world outside the slip.</summary>
/// <param name="Groups">Members of every group the plan names.</param>
/// <param name="OpenRequests">Every request of the package that no reviewer has closed.</param>
public sealed record SlipContext(
    IReadOnlyDictionary<Guid, ImmutableArray<Guid>> Groups,
    IReadOnlyList<OpenRequest> OpenRequests)
{
    /// <summary>No groups and no requests.</summary>
    public static SlipContext Empty { get; } = new(new Dictionary<Guid, ImmutableArray<Guid>>(), []);
}

/// <summary>Something that happened to a slip. The ledger keeps these.</summary>
[JsonPolymorphic(TypeDiscriminatorPropertyName = "event")]
[JsonDerivedType(typeof(PackageSent), "package sent")]
[JsonDerivedType(typeof(StepOpened), "step opened")]
[JsonDerivedType(typeof(SignedOff), "signed off")]
[JsonDerivedType(typeof(StepPassed), "step passed")]
[JsonDerivedType(typeof(PackageReturned), "package returned")]
[JsonDerivedType(typeof(PackageSentAgain), "package sent again")]
[JsonDerivedType(typeof(PackageReleased), "package released")]
public abstract record SlipEvent;

/// <summary>The package left the originator with its plan, its items and its seats filled.</summary>
public sealed record PackageSent(Guid Originator, Plan Plan, ImmutableArray<SlipItem> Items, ImmutableArray<FilledSeat> Seats) : SlipEvent;

/// <summary>A step opened for signing.</summary>
public sealed record StepOpened(string Step) : SlipEvent;

/// <summary>A person signed in a seat.</summary>
public sealed record SignedOff(Signature Signature) : SlipEvent;

/// <summary>Every seat of a step is signed and none returned.</summary>
public sealed record StepPassed(string Step) : SlipEvent;

/// <summary>Everyone who could sign has, someone returned an item: the package goes back to the originator.</summary>
public sealed record PackageReturned(ImmutableArray<Guid> Documents) : SlipEvent;

/// <summary>The originator sent the next round.</summary>
public sealed record PackageSentAgain(int Round, ImmutableArray<SlipItem> Items) : SlipEvent;

/// <summary>The last signature is in; exactly these bytes are released.</summary>
public sealed record PackageReleased(ImmutableArray<SlipItem> Items) : SlipEvent;

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
