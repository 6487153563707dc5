using System.Collections.Immutable;

namespace Froe.Core.Routing;

/// <summary>Where a package stands on its route.</summary>
public enum SlipStanding
{
    /// <summary>Nothing has been sent yet.</summary>
    Unsent,

    /// <summary>Seats are open and wait for signatures.</summary>
    Running,

    /// <summary>The package is back with the originator.</summary>
    Returned,

    /// <summary>Every signature is in; the revisions are released.</summary>
    Released,
}

/// <summary>What a seat says of one item.</summary>
public enum Verdict
{
    /// <summary>Good as it is.</summary>
    Approve,

    /// <summary>Good, with a remark that need not come back.</summary>
    ApproveAsNoted,

    /// <summary>Changes must be made; needs at least one request.</summary>
    ReturnForChanges,
}

/// <summary>One document of a package in one round, pinned to its bytes.</summary>
/// <param name="Document">The document.</param>
/// <param name="Draft">The draft under review.</param>
/// <param name="Sha256">SHA-256 of the draft's bytes, 64 lower-case hex digits.</param>
public sealed record SlipItem(Guid Document, Guid Draft, string Sha256);

/// <summary>A seat as filled for one package: the people who may sign and how many must.</summary>
/// <param name="Key">The plan's seat key.</param>
/// <param name="People">Who may sign, fixed when the package is sent.</param>
/// <param name="Needed">How many of them must; 1 to the number of people.</param>
public sealed record FilledSeat(string Key, ImmutableArray<Guid> People, int Needed);

/// <summary>One person's verdict on one item, bound to the bytes that were looked at.</summary>
/// <param name="Draft">The draft judged.</param>
/// <param name="Sha256">SHA-256 of the bytes judged.</param>
/// <param name="Verdict">The judgement.</param>
/// <param name="Reason">Why, for the record; must be given when approving as noted.</param>
public sealed record ItemVerdict(Guid Draft, string Sha256, Verdict Verdict, string Reason);

/// <summary>One person's signature in a seat, in the round now running.</summary>
public sealed record Signature(string Seat, Guid Person, ImmutableArray<ItemVerdict> Verdicts)
{
    /// <summary>Whether any item was sent back.</summary>
    public bool Returns => Verdicts.Any(v => v.Verdict == Verdict.ReturnForChanges);
}

/// <summary>One package's own copy of the plan, filled in as it goes. A value: <see cref="SlipRules.Evolve"/> makes the next.</summary>
/// <param name="Plan">The plan as it was when the package was sent.</param>
/// <param name="Originator">Who sent it.</param>
/// <param name="Round">1 for the first sending; each return and sending again adds one.</param>
/// <param name="Standing">Where the package stands.</param>
/// <param name="Items">The drafts under review in this round.</param>
/// <param name="Seats">Every seat of the plan, filled.</param>
/// <param name="Open">Keys of the steps now open.</param>
/// <param name="Passed">Keys of the steps passed in this round.</param>
/// <param name="Signatures">The signatures of this round, in order.</param>
public sealed record Slip(
    Plan Plan,
    Guid Originator,
    int Round,
    SlipStanding Standing,
    ImmutableArray<SlipItem> Items,
    ImmutableArray<FilledSeat> Seats,
    ImmutableArray<string> Open,
    ImmutableArray<string> Passed,
    ImmutableArray<Signature> Signatures)
{
    /// <summary>A slip before anything happened.</summary>
    public static Slip Blank { get; } = new(
        new Plan("", "", new Sequence([])), Guid.Empty, 0, SlipStanding.Unsent, [], [], [], [], []);

    /// <summary>The seat as filled, or null when the plan has no such seat.</summary>
    public FilledSeat? SeatOf(string key) => Seats.FirstOrDefault(s => s.Key == key);

    /// <summary>The signatures given in a seat in this round.</summary>
    public IEnumerable<Signature> SignaturesIn(string seat) => Signatures.Where(s => s.Seat == seat);

    /// <summary>Whether a seat needs nobody any more: enough signed, or someone returned an item.</summary>
    public bool IsSettled(FilledSeat seat)
    {
        ArgumentNullException.ThrowIfNull(seat);
        var given = SignaturesIn(seat.Key).ToList();
        return given.Count >= seat.Needed || given.Exists(s => s.Returns);
    }

    /// <summary>Whether anyone has sent an item back in this round; then no further step opens.</summary>
    public bool IsReturning => Signatures.Any(s => s.Returns);

    /// <summary>Who may still sign, and where: every unsettled seat of the open steps with each person who has not signed in it.</summary>
    public IEnumerable<(Step Step, FilledSeat Seat, Guid Person)> Awaited()
    {
        if (Standing != SlipStanding.Running) yield break;
        foreach (var step in Plan.Steps().Where(s => Open.Contains(s.Key)))
            foreach (var seat in step.Seats.Select(s => SeatOf(s.Key)!).Where(s => !IsSettled(s)))
                foreach (var person in seat.People.Where(p => !Signatures.Any(g => g.Seat == seat.Key && g.Person == p)))
                    yield return (step, seat, person);
    }

    /// <summary>The item with this draft in the round now running, or null.</summary>
    public SlipItem? ItemOf(Guid draft) => Items.FirstOrDefault(i => i.Draft == draft);
}
