using System.Collections.Immutable;

namespace Froe.Core.Routing;

/// <summary>Where a package stands on its route.</summary>
public enum SlipStanding
{
    /// <summary>Nothing has been sent yet.</summary>
    Unsent,

    /// <summary>Seats are open and wait for signatures.</summary>
    InReview,

    /// <summary>The package is back with the originator.</summary>
    Returned,

    /// <summary>Every signature is in; the revisions are released.</summary>
    Released,

    /// <summary>Ended without release: recalled or stopped.</summary>
    Stopped,
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
public sealed record FilledSeat(string Key, ImmutableArray<Guid> People, int Needed)
{
    /// <summary>A coordinator asks for no further signature here.</summary>
    public bool Skipped { get; init; }

    /// <summary>Who handed a place in it to whom, in order.</summary>
    public ImmutableArray<HandedPlace> Handed { get; init; } = [];

    /// <summary>Whether a person sits here, or sat here until they handed their place on.</summary>
    public bool Held(Guid person) => People.Contains(person) || Handed.Any(h => h.From == person);

    /// <summary>Whether the place that one person has now was another's before, over whomever it came.</summary>
    public bool CameFrom(Guid person, Guid to)
    {
        var places = new List<List<Guid>>();
        foreach (var handed in Handed)
        {
            if (places.Find(p => p[^1] == handed.From) is not { } place) places.Add(place = [handed.From]);
            place.Add(handed.To);
        }
        return person != to && places.Exists(p => p[^1] == to && p.Contains(person));
    }
}

/// <summary>A place in a seat went from one person to another.</summary>
public sealed record HandedPlace(Guid From, Guid To);

/// <summary>A way picked by a signer for a choice further on.</summary>
public sealed record WayPick(string Choice, string Way);

/// <summary>An answer to a checkpoint: yes or no, a number with a decimal point, or text.</summary>
public sealed record CheckpointAnswer(string Checkpoint, string Value);

/// <summary>The originator's answer to what a signer noted when approving.</summary>
public sealed record NotedAnswer(string Seat, Guid Signer, Guid Draft, string Words);

/// <summary>A step to which a return in the round under way led back.</summary>
/// <param name="To">The step that looks again.</param>
/// <param name="From">The steps in which it was returned.</param>
/// <param name="By">Who returned it, and for whom.</param>
/// <param name="Because">The reasons they gave; empty when their requests say it all.</param>
public sealed record CameBack(string To, ImmutableArray<string> From, ImmutableArray<Guid> By, string Because);

/// <summary>A way that somebody picked who has signed.</summary>
public sealed record PickedWay(string Seat, Guid Person, string Way);

/// <summary>A choice for which the signers of an open step picked different ways: the step waits until they agree.</summary>
public sealed record PicksDiffer(string Step, string Choice, ImmutableArray<PickedWay> Picked);

/// <summary>The way a choice sent the package.</summary>
public sealed record TakenWay(string Choice, string Way, string Because);

/// <summary>One person's verdict on one item, bound to the bytes that were looked at.</summary>
/// <param name="Draft">The draft judged.</param>
/// <param name="Sha256">SHA-256 of the bytes judged.</param>
/// <param name="Verdict">The judgement.</param>
/// <param name="Reason">Why, for the record; must be given when approving as noted.</param>
public sealed record ItemVerdict(Guid Draft, string Sha256, Verdict Verdict, string Reason)
{
    /// <summary>How much of its sheets the signer had seen at a legible size, in hundredths, where the step asks for it; null where it does not, or the item has no sheets.</summary>
    public int? Seen { get; init; }
}

/// <summary>An overlay as a sign-off was given with it.</summary>
/// <param name="Version">Its version then: every change counts one.</param>
/// <param name="Sha256">The digest of what it held then, 64 lower-case hex digits.</param>
public sealed record SignedOverlay(Guid Overlay, long Version, string Sha256)
{
    /// <summary>Whose it is; null where it was signed with before this was recorded, and so is <see cref="Draft"/>.</summary>
    public Guid? Owner { get; init; }

    /// <summary>The draft it lies on.</summary>
    public Guid? Draft { get; init; }
}

/// <summary>One person's signature in a seat.</summary>
/// <param name="Person">Who signed.</param>
public sealed record Signature(string Seat, Guid Person, ImmutableArray<ItemVerdict> Verdicts)
{
    /// <summary>
    /// What a signature means; shown before signing and kept with it. The proof finds whatever else is kept with one: other words, once there
    /// are any, have to be known to it beside these.
    /// </summary>
    public const string Statement =
        "I have looked at each draft listed here, in exactly the bytes its hash names, and give these verdicts in my own name. This electronic signature stands for my handwritten one.";

    /// <summary>The absent person for whom a deputy signed; null when nobody was absent.</summary>
    public Guid? For { get; init; }

    /// <summary>Answers to the step's checkpoints.</summary>
    public ImmutableArray<CheckpointAnswer> Answers { get; init; } = [];

    /// <summary>Ways picked.</summary>
    public ImmutableArray<WayPick> Picks { get; init; } = [];

    /// <summary>Where the documents are to be filed on release, where their step picks it.</summary>
    public string? Folder { get; init; }

    /// <summary>Whose place in the seat it fills.</summary>
    public Guid Holder => For ?? Person;

    /// <summary>Whether any item was sent back.</summary>
    public bool Returns => Verdicts.Any(v => v.Verdict == Verdict.ReturnForChanges);
}

/// <summary>One package's own copy of the plan, filled in as it goes. A value: <see cref="SlipRules.Evolve"/> makes the next.</summary>
/// <param name="Plan">This slip's copy of the plan.</param>
/// <param name="Originator">Who sent it.</param>
/// <param name="Round">1 for the first sending; each return to the originator and sending again adds one.</param>
/// <param name="Standing">Where the package stands.</param>
/// <param name="Items">The drafts under review in this round.</param>
/// <param name="Seats">Every seat of the plan, filled.</param>
/// <param name="Open">Keys of the steps now open.</param>
/// <param name="Passed">Keys of the steps passed in this round.</param>
/// <param name="Signatures">The signatures that stand in this round, in order.</param>
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

    /// <summary>What rules know of the package.</summary>
    public PackageFacts Facts { get; init; } = PackageFacts.None;

    /// <summary>The ways taken in this round.</summary>
    public ImmutableArray<TakenWay> Taken { get; init; } = [];

    /// <summary>Verdicts of earlier rounds that stand on untouched items, until their people sign for the others.</summary>
    public ImmutableArray<Signature> Carried { get; init; } = [];

    /// <summary>Steps to which returns of this round led back, in order.</summary>
    public ImmutableArray<CameBack> CameBack { get; init; } = [];

    /// <summary>The seat as filled, or null when the plan has no such seat.</summary>
    public FilledSeat? SeatOf(string key) => Seats.FirstOrDefault(s => s.Key == key);

    /// <summary>The step a seat stands in.</summary>
    public Step StepOf(string seat) => Plan.Steps().First(s => s.Seats.Any(x => x.Key == seat));

    private Step StepOfKey(string key) => Plan.Steps().First(s => s.Key == key);

    /// <summary>The way a choice took in this round; null when it was not reached.</summary>
    public Way? WayOf(Choice choice)
    {
        ArgumentNullException.ThrowIfNull(choice);
        return Taken.FirstOrDefault(t => t.Choice == choice.Key) is { } taken ? choice.Ways.First(w => w.Key == taken.Way) : null;
    }

    /// <summary>Answers to what was noted when approving.</summary>
    public ImmutableArray<NotedAnswer> NotedAnswers { get; init; } = [];

    /// <summary>The signatures that stand, and the verdicts of the last round that stand while their people have not signed again.</summary>
    public IEnumerable<Signature> InForce() => Signatures.Concat(Carried.Where(c => !Signatures.Any(s => s.Seat == c.Seat && s.Holder == c.Holder)));

    /// <summary>Verdicts approved as noted whose note the originator has not answered, those carried over from the last round among them.</summary>
    public IEnumerable<(Signature Signature, ItemVerdict Verdict)> UnansweredNoted() =>
        from s in InForce()
        from v in s.Verdicts
        where v.Verdict == Verdict.ApproveAsNoted && !NotedAnswers.Any(a => a.Seat == s.Seat && a.Signer == s.Person && a.Draft == v.Draft)
        select (s, v);

    /// <summary>Whether everything is signed and the release waits for answers to what was noted.</summary>
    public bool IsHeld => Standing == SlipStanding.InReview && Open.IsEmpty && Plan.HoldsNoted && UnansweredNoted().Any();

    /// <summary>The choices for which signers of open steps picked different ways.</summary>
    public IEnumerable<PicksDiffer> Differing()
    {
        if (Standing != SlipStanding.InReview) yield break;
        foreach (var choice in Plan.Choices().Where(c => c.PickedAt is { } at && Open.Contains(at)))
        {
            var step = StepOfKey(choice.PickedAt!);
            var picked = Signatures.Where(s => step.Seats.Any(x => x.Key == s.Seat))
                .Select(s => (Signature: s, Pick: s.Picks.LastOrDefault(p => p.Choice == choice.Key))).Where(s => s.Pick is not null)
                .Select(s => new PickedWay(s.Signature.Seat, s.Signature.Person, s.Pick!.Way)).ToImmutableArray();
            if (picked.Select(p => p.Way).Distinct().Count() > 1) yield return new PicksDiffer(step.Key, choice.Key, picked);
        }
    }

    /// <summary>The signatures that stand in a seat.</summary>
    public IEnumerable<Signature> SignaturesIn(string seat) => Signatures.Where(s => s.Seat == seat);

    /// <summary>Whether a seat needs nobody any more: enough signed, it was skipped, or someone returned an item where that ends the seat.</summary>
    public bool IsSettled(FilledSeat seat)
    {
        ArgumentNullException.ThrowIfNull(seat);
        if (seat.Skipped) return true;
        var given = SignaturesIn(seat.Key).ToList();
        return given.Count >= seat.Needed || (given.Exists(s => s.Returns) && !Plan.Seats().First(x => x.Seat.Key == seat.Key).Seat.WaitsForRest);
    }

    /// <summary>Whether anyone has sent an item back; then no further step opens.</summary>
    public bool IsReturning => Signatures.Any(s => s.Returns);

    /// <summary>Who may still sign in a seat: its people who have not, less those barred because they signed in another seat of a step of one seat each.</summary>
    public IEnumerable<Guid> MaySign(Step step, FilledSeat seat)
    {
        ArgumentNullException.ThrowIfNull(step);
        ArgumentNullException.ThrowIfNull(seat);
        return seat.People.Where(p =>
            !Signatures.Any(g => g.Seat == seat.Key && (g.Holder == p || g.Person == p)) &&
            !(step.OneSeatEach && Signatures.Any(g => (g.Person == p || g.Holder == p) && g.Seat != seat.Key && step.Seats.Any(x => x.Key == g.Seat))));
    }

    /// <summary>Everybody who holds a seat, open or to come, each once.</summary>
    public IEnumerable<Guid> Seated() => Seats.SelectMany(s => s.People).Distinct();

    /// <summary>Who may still sign, and where: every unsettled seat of the open steps with each person who may.</summary>
    public IEnumerable<(Step Step, FilledSeat Seat, Guid Person)> Awaited()
    {
        if (Standing != SlipStanding.InReview) yield break;
        foreach (var step in Plan.Steps().Where(s => Open.Contains(s.Key)))
            foreach (var seat in step.Seats.Select(s => SeatOf(s.Key)!).Where(s => !IsSettled(s)))
                foreach (var person in MaySign(step, seat))
                    yield return (step, seat, person);
    }

    /// <summary>The slip as lists show it: its strip, and what the open steps ask; a hundred of them are sent at once.</summary>
    public Slip ForLists() => this with
    {
        Plan = Plan.WithSteps(s => Open.Contains(s.Key) ? s with { Tells = [] } : s with { Instruction = "", Checkpoints = [], Tells = [] }) with { Purpose = "", Form = [], Closing = [], Fits = null },
        Signatures = [],
        Carried = [],
        CameBack = [],
        NotedAnswers = [],
        Facts = PackageFacts.None,
    };

    /// <summary>The item with this draft in the round under way, or null.</summary>
    public SlipItem? ItemOf(Guid draft) => Items.FirstOrDefault(i => i.Draft == draft);

    /// <summary>Drafts of earlier rounds on which a verdict stands: a signature that is not given again names what it was given on.</summary>
    public IEnumerable<Guid> JudgedEarlier() => Signatures.Concat(Carried).SelectMany(s => s.Verdicts).Select(v => v.Draft).Distinct().Except(Items.Select(i => i.Draft));

    /// <summary>The items a person must give a verdict on when signing in a seat: those on which no verdict of theirs stands from the last round.</summary>
    public IEnumerable<SlipItem> ToJudge(string seat, Guid holder)
    {
        var kept = Carried.Where(c => c.Seat == seat && c.Holder == holder).SelectMany(c => c.Verdicts).ToLookup(v => v.Draft, v => v.Sha256);
        // Two documents may have the same bytes: a verdict is on one of them. Those carried over by earlier programs may name the draft of the round before.
        var drafts = Items.Select(i => i.Draft).ToHashSet();
        var bytes = kept.Where(k => !drafts.Contains(k.Key)).SelectMany(k => k).ToHashSet();
        return Items.Where(i => !kept.Contains(i.Draft) && !bytes.Contains(i.Sha256));
    }
}
