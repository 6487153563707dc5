using System.Collections.Immutable;

namespace Froe.Core.Routing;

/// <summary>
/// The routing engine: pure functions, no clock, no ids made inside.
/// <para>Invariants, which the property tests hold it to:</para>
/// <list type="number">
/// <item>Released only when every seat on the way taken has as many signatures as it needs or was skipped by a coordinator, each
/// on the very bytes released; where a step's rule lets earlier signatures stand (<see cref="SignAgain.ReturnedAndAfter"/>), those who
/// returned and those after them have signed the very bytes.</item>
/// <item>Only a person who fills a seat, or the deputy of one who is away, signs in it, once, while its step is open.</item>
/// <item>From every reachable standing but a stopped one some sequence of commands ends in <see cref="SlipStanding.Released"/>.</item>
/// <item>Folding <see cref="Evolve"/> over the events gives the slip again.</item>
/// <item>A command repeated changes nothing.</item>
/// <item>No request is open on a document when it is released.</item>
/// </list>
/// </summary>
public static partial class SlipRules
{
    /// <summary>Decides what a command does to a slip.</summary>
    public static Decision Decide(Slip slip, SlipCommand command, SlipContext context)
    {
        ArgumentNullException.ThrowIfNull(slip);
        ArgumentNullException.ThrowIfNull(context);
        return command switch
        {
            Send send => DecideSend(slip, send, context),
            SignOff signOff => DecideSignOff(slip, signOff, context),
            TakeBack back => DecideTakeBack(slip, back, context),
            ReopenSeat reopen => DecideReopenSeat(slip, reopen, context),
            HandPackage hand => DecideHandPackage(slip, hand, context),
            TakeOut takeOut => DecideTakeOut(slip, takeOut, context),
            SendAgain again => DecideSendAgain(slip, again, context),
            AnswerNoted answer => DecideAnswerNoted(slip, answer, context),
            HandOver over => DecideHandOver(slip, over, context),
            Refill refill => DecideRefill(slip, refill, context),
            Skip skip => DecideSkip(slip, skip, context),
            Amend amend => DecideAmend(slip, amend, context),
            Recall recall => DecideRecall(slip, recall, context),
            PullBack pull => DecidePullBack(slip, pull, context),
            Stop => DecideStop(slip, context),
            _ => throw new ArgumentException($"Unknown command {command?.GetType().Name}.", nameof(command)),
        };
    }

    /// <summary>Applies one event. Never fails on events that <see cref="Decide"/> gave.</summary>
    public static Slip Evolve(Slip slip, SlipEvent happened)
    {
        ArgumentNullException.ThrowIfNull(slip);
        return happened switch
        {
            PackageSent e => Slip.Blank with
            {
                Plan = e.Plan,
                Originator = e.Originator,
                Round = 1,
                Standing = SlipStanding.InReview,
                Items = e.Items,
                Seats = e.Seats,
                Facts = e.Facts,
            },
            StepOpened e => slip with { Open = slip.Open.Add(e.Step) },
            WayTaken e => slip with { Taken = slip.Taken.Add(new(e.Choice, e.Way, e.Because)) },
            SignedOff e => slip with { Signatures = slip.Signatures.Add(e.Signature) },
            SignatureTakenBack e => slip with
            {
                Signatures = slip.Signatures.RemoveAll(s => s.Seat == e.Seat && s.Person == e.Person),
                NotedAnswers = AnswersTo(slip, slip.Signatures.Where(s => s.Seat != e.Seat || s.Person != e.Person)),
            },
            StepPassed e => slip with { Open = slip.Open.Remove(e.Step), Passed = slip.Passed.Add(e.Step) },
            StepReopened e => slip with
            {
                Open = slip.Open.RemoveAll(s => e.Undone.Contains(s)),
                Passed = slip.Passed.RemoveAll(s => e.Undone.Contains(s)),
                Taken = slip.Taken.RemoveAll(t => e.Forgotten.Contains(t.Choice)),
            },
            StepReturned e => slip with
            {
                Open = slip.Open.RemoveAll(s => e.Reopened.Contains(s)),
                Passed = slip.Passed.RemoveAll(s => e.Reopened.Contains(s)),
                Taken = slip.Taken.RemoveAll(t => e.Forgotten.Contains(t.Choice)),
                Signatures = e.Kept,
                NotedAnswers = AnswersTo(slip, e.Kept),
                CameBack = e.From.IsEmpty ? slip.CameBack : slip.CameBack.RemoveAll(b => b.To == e.To).Add(new(e.To, e.From, e.By, e.Because)),
            },
            ItemsSplitOff e => Remaining(slip, e),
            ItemTakenOut e => Without(slip, e.Item, e.Drafts ?? [e.Item.Draft]),
            SplitFrom e => e.Slip,
            OriginatorChanged e => slip with { Originator = e.To },
            NotedAnswered { Answer: var a } => slip with { NotedAnswers = slip.NotedAnswers.RemoveAll(x => x.Seat == a.Seat && x.Signer == a.Signer && x.Draft == a.Draft).Add(a) },
            PackageReturned { SignAgain: true } => slip with { Standing = SlipStanding.Returned, Open = [], Signatures = [], Carried = [], NotedAnswers = [] },
            PackageReturned => slip with { Standing = SlipStanding.Returned, Open = [] },
            PackageSentAgain e => slip with
            {
                Round = e.Round,
                Standing = SlipStanding.InReview,
                Items = e.Items,
                Open = [],
                Passed = [],
                Taken = [],
                CameBack = [],
                Signatures = e.Kept,
                Carried = e.Carried,
                NotedAnswers = e.Answers ?? slip.NotedAnswers.RemoveAll(a => !e.Kept.Any(k => k.Seat == a.Seat && k.Person == a.Signer)),
                Facts = e.Facts ?? slip.Facts,
            },
            PackageReleased => slip with { Standing = SlipStanding.Released, Open = [] },
            PackageStopped => slip with { Standing = SlipStanding.Stopped, Open = [] },
            SeatHandedOver e => slip with { Seats = [.. slip.Seats.Select(s => s.Key == e.Seat ? s with { People = s.People.Replace(e.From, e.To), Handed = s.Handed.Add(new(e.From, e.To)) } : s)] },
            SeatFilled e => slip with { Seats = [.. slip.Seats.Select(s => s.Key == e.Seat.Key ? Handed(slip, e.Seat) : s)] },
            PlanAmended e => slip with { Plan = e.Plan, Seats = [.. e.Seats.Select(s => Handed(slip, s))] },
            _ => throw new ArgumentException($"Unknown event {happened?.GetType().Name}.", nameof(happened)),
        };
    }

    /// <summary>A seat as filled anew, with the places that were handed on in it: events from before slips kept these say nothing of them.</summary>
    private static FilledSeat Handed(Slip slip, FilledSeat seat) => seat with { Handed = slip.SeatOf(seat.Key)?.Handed ?? [] };

    /// <summary>Applies events in order.</summary>
    public static Slip Replay(Slip slip, IEnumerable<SlipEvent> happened) => happened.Aggregate(slip, Evolve);

    // ---- what follows by itself ----

    /// <summary>
    /// Adds to events already decided what follows from them without anybody's doing: steps that pass, ways taken,
    /// steps that open, and the return or release of the package.
    /// </summary>
    private static Decision Follow(Slip before, ImmutableArray<SlipEvent> decided, SlipContext context)
    {
        var events = decided.ToBuilder();
        var slip = Replay(before, decided);
        while (Next(slip, slip.Plan.Root, !slip.IsReturning) is { } next)
        {
            events.Add(next);
            slip = Evolve(slip, next);
        }
        if (slip.IsReturning && !slip.Awaited().Any())
        {
            if (slip.Plan.ItemByItem && ReturnedDocuments(slip) is var sentBack && slip.Items.Any(i => !sentBack.Contains(i.Document)))
            {
                ImmutableArray<SlipItem> leaving = [.. slip.Items.Where(i => sentBack.Contains(i.Document))];
                return Follow(before, events.ToImmutable().Add(new ItemsSplitOff(leaving) { Drafts = DraftsOf(slip, leaving, context) }), context);
            }
            foreach (var back in Returns(slip))
            {
                events.Add(back);
                slip = Evolve(slip, back);
            }
            if (slip.Standing == SlipStanding.InReview) return Follow(before, events.ToImmutable(), context);
        }
        else if (IsDone(slip, slip.Plan.Root) && !(slip.Plan.HoldsNoted && slip.UnansweredNoted().Any()))
        {
            var open = context.OpenRequests.Where(r => slip.Items.Any(i => i.Document == r.Document)).Select(r => r.Number).Distinct().Order().ToList();
            if (open.Count > 0)
                return Decision.Refuse("request-open", $"{Listed("Request", open)} {(open.Count == 1 ? "is" : "are")} not closed, and this would release the package. Close {(open.Count == 1 ? "it" : "them")} first, or return the item.");
            events.Add(new PackageReleased(slip.Items));
        }
        return new Decision(events.ToImmutable(), null);
    }

    /// <summary>The first thing that happens by itself in a block; null when it waits for somebody.</summary>
    private static SlipEvent? Next(Slip slip, Block block, bool mayOpen)
    {
        switch (block)
        {
            case Step step:
                if (slip.Passed.Contains(step.Key)) return null;
                if (slip.Open.Contains(step.Key))
                    return step.Seats.All(s => slip.IsSettled(slip.SeatOf(s.Key)!) && !slip.SignaturesIn(s.Key).Any(g => g.Returns)) && !slip.Differing().Any(d => d.Step == step.Key) ? new StepPassed(step.Key) : null;
                if (!mayOpen) return null;
                if (step.PassesWhen is { } rule && rule.Holds(slip.Facts)) return new StepPassed(step.Key) { ByRule = RuleWords.Say(rule, slip.Plan.Form) };
                return step.Seats.Select(s => SignersNow(slip, step, s)).FirstOrDefault(e => e is not null) ?? (SlipEvent)new StepOpened(step.Key);
            case Choice choice:
                if (slip.WayOf(choice) is { } way) return Next(slip, way.Blocks, mayOpen);
                return mayOpen ? Take(slip, choice) : null;
            case Sequence sequence:
                return sequence.Blocks.FirstOrDefault(b => !IsDone(slip, b)) is { } first ? Next(slip, first, mayOpen) : null;
            case Parallel parallel:
                return parallel.Branches.Select(b => Next(slip, b, mayOpen)).FirstOrDefault(e => e is not null);
            default:
                return null;
        }
    }

    /// <summary>Whether a block has nothing left to wait for.</summary>
    private static bool IsDone(Slip slip, Block block) => block switch
    {
        Step step => slip.Passed.Contains(step.Key),
        Choice choice => slip.WayOf(choice) is { } way && IsDone(slip, way.Blocks),
        _ => PlanShape.Children(block).All(b => IsDone(slip, b)),
    };

    private static WayTaken Take(Slip slip, Choice choice)
    {
        if (choice.PickedAt is { } at)
        {
            var seats = slip.Plan.Steps().First(s => s.Key == at).Seats.Select(s => s.Key).ToList();
            var picked = slip.Signatures.Where(s => seats.Contains(s.Seat)).SelectMany(s => s.Picks).LastOrDefault(p => p.Choice == choice.Key);
            return picked is null ? new(choice.Key, choice.Otherwise.Key, "nobody picked a way") : new(choice.Key, picked.Way, "picked by a signer");
        }
        var way = choice.Ways.FirstOrDefault(w => w.Rule?.Holds(slip.Facts) == true);
        return way is null ? new(choice.Key, choice.Otherwise.Key, "no rule holds") : new(choice.Key, way.Key, RuleWords.Say(way.Rule!, slip.Plan.Form));
    }

    /// <summary>Fills a seat for the signers of an earlier step, as its own step is about to open; null when that is done or there is nothing to fill.</summary>
    private static SeatFilled? SignersNow(Slip slip, Step step, Seat seat)
    {
        if (seat.Holder is not SignerOfHolder holder) return null;
        var now = slip.SeatOf(seat.Key)!;
        if (now.Skipped || !now.People.IsEmpty) return null;
        var source = slip.Plan.Steps().First(s => s.Key == holder.Step).Seats.Select(s => s.Key).ToHashSet();
        var people = slip.Signatures.Where(s => source.Contains(s.Seat)).Select(s => s.Person).Distinct().Where(p => !(step.BarsOriginator && p == slip.Originator)).ToImmutableArray();
        // A step skipped whole has no signers: then those who held its seats are asked.
        if (people.IsEmpty) people = [.. slip.Seats.Where(s => source.Contains(s.Key)).SelectMany(s => s.People).Distinct()];
        if (people.IsEmpty) people = [slip.Originator];
        return new(now with { People = people, Needed = people.Length });
    }

    private static List<SlipEvent> Returns(Slip slip)
    {
        var from = slip.Signatures.Where(s => s.Returns).Select(s => slip.StepOf(s.Seat)).Distinct().ToList();
        if (from.Exists(s => s.ReturnsTo is null)) return [new PackageReturned([.. ReturnedDocuments(slip)])];
        var targets = from.Select(s => s.ReturnsTo!).Distinct().ToList();
        var events = new List<SlipEvent>();
        var returning = slip.Signatures.Where(s => s.Returns).ToList();
        var because = string.Join(" ", returning.SelectMany(s => s.Verdicts).Where(v => v.Verdict == Verdict.ReturnForChanges).Select(v => v.Reason.Trim()).Where(r => r.Length > 0).Distinct());
        foreach (var to in targets.Where(t => !targets.Exists(o => PlanShape.Between(slip.Plan, o, t) == PlanShape.Order.Before)))
        {
            bool Again(string key) => PlanShape.Between(slip.Plan, key, to) is PlanShape.Order.Same or PlanShape.Order.After;
            var all = from.Exists(s => s.SignAgain == SignAgain.All);
            var kept = slip.Signatures.Where(s => slip.StepOf(s.Seat).Key is var step && (!Again(step) || (!all && !s.Returns && step != to))).ToImmutableArray();
            var back = new StepReturned(to, [.. slip.Plan.Steps().Select(s => s.Key).Where(Again)], [.. slip.Plan.Choices().Select(c => c.Key).Where(Again)], kept)
            {
                From = [.. from.Select(s => s.Key)],
                By = [.. returning.SelectMany(s => new[] { s.Person, s.Holder }).Distinct()],
                Because = because,
            };
            events.Add(back);
            slip = Evolve(slip, back);
        }
        return events;
    }

    private static HashSet<Guid> ReturnedDocuments(Slip slip) =>
        [.. from s in slip.Signatures
            from v in s.Verdicts
            where v.Verdict == Verdict.ReturnForChanges
            select slip.ItemOf(v.Draft)!.Document];

    /// <summary>The drafts of items that leave: those under review, and those of earlier rounds on which a verdict stands.</summary>
    private static ImmutableArray<Guid> DraftsOf(Slip slip, ImmutableArray<SlipItem> leaving, SlipContext context) =>
        [.. leaving.Select(i => i.Draft), .. slip.JudgedEarlier().Where(d => leaving.Any(i => i.Document == DocumentOf(slip, d, context)))];

    /// <summary>What goes on when items were split off.</summary>
    private static Slip Remaining(Slip slip, ItemsSplitOff split)
    {
        ImmutableArray<SlipItem> items = [.. slip.Items.Except(split.Items)];
        if (split.Drafts is null) return Part(slip, items, items.Select(i => i.Draft).ToHashSet().Contains);
        var gone = split.Drafts.Value.ToHashSet();
        return Part(slip, items, d => !gone.Contains(d));
    }

    /// <summary>A slip without one of its items and what was judged of it.</summary>
    private static Slip Without(Slip slip, SlipItem item, ImmutableArray<Guid> drafts) => Part(slip, slip.Items.Remove(item), d => !drafts.Contains(d)) with
    {
        Facts = slip.Facts with { Documents = slip.Facts.Documents.RemoveAll(d => d.Document == item.Document) },
    };

    /// <summary>The slip that items split off begin with: back with the originator, with the verdicts given on them.</summary>
    /// <param name="before">The slip they were in, just before they left it.</param>
    /// <param name="split">What left it.</param>
    public static Slip SplitOff(Slip before, ItemsSplitOff split)
    {
        ArgumentNullException.ThrowIfNull(before);
        ArgumentNullException.ThrowIfNull(split);
        return Part(before, split.Items, split.Leaving.ToHashSet().Contains) with { Standing = SlipStanding.Returned, Open = [], Passed = [], Taken = [] };
    }

    /// <summary>A slip with some of its items only, and the verdicts on some of the drafts that were judged; a signature with none of these goes.</summary>
    private static Slip Part(Slip slip, ImmutableArray<SlipItem> items, Func<Guid, bool> keeps)
    {
        return slip with
        {
            Items = items,
            Signatures = Cut(slip.Signatures),
            Carried = Cut(slip.Carried),
            NotedAnswers = slip.NotedAnswers.RemoveAll(a => !keeps(a.Draft)),
            Facts = slip.Facts with { Documents = slip.Facts.Documents.RemoveAll(d => !items.Any(i => i.Document == d.Document)) },
        };

        ImmutableArray<Signature> Cut(ImmutableArray<Signature> signatures) =>
            [.. signatures.Select(s => s with { Verdicts = [.. s.Verdicts.Where(v => keeps(v.Draft))] }).Where(s => s.Verdicts.Length > 0)];
    }

    /// <summary>The answers to what was noted in verdicts that stand: in these signatures, or carried over from the last round.</summary>
    private static ImmutableArray<NotedAnswer> AnswersTo(Slip slip, IEnumerable<Signature> kept) =>
        [.. slip.NotedAnswers.Where(a => kept.Concat(slip.Carried).Any(k => k.Seat == a.Seat && k.Person == a.Signer && k.Verdicts.Any(v => v.Draft == a.Draft && v.Verdict == Verdict.ApproveAsNoted)))];

    /// <summary>The same for the next round, in which a draft with the same bytes may be another.</summary>
    private static ImmutableArray<NotedAnswer> AnswersNext(Slip slip, IEnumerable<Signature> standing, ImmutableArray<SlipItem> next, SlipContext context) =>
    [
        .. from a in slip.NotedAnswers
           from k in standing
           where k.Seat == a.Seat && k.Person == a.Signer
           let now = next.FirstOrDefault(i => i.Document == DocumentOf(slip, a.Draft, context))?.Draft
           from v in k.Verdicts
           where (v.Draft == a.Draft || v.Draft == now) && v.Verdict == Verdict.ApproveAsNoted
           select a with { Draft = v.Draft },
    ];

    /// <summary>The document of a draft that is under review, or on which a verdict of an earlier round stands; null of any other.</summary>
    public static Guid? DocumentOf(Slip slip, Guid draft, SlipContext context)
    {
        ArgumentNullException.ThrowIfNull(slip);
        ArgumentNullException.ThrowIfNull(context);
        return slip.ItemOf(draft)?.Document ?? (context.EarlierDrafts.TryGetValue(draft, out var document) ? document : null);
    }

    private static bool SameItems(ImmutableArray<SlipItem> a, ImmutableArray<SlipItem> b) => a.ToHashSet().SetEquals(b);

    private static string Words(SlipStanding standing) => standing switch
    {
        SlipStanding.Unsent => "not sent yet",
        SlipStanding.InReview => "in review",
        SlipStanding.Returned => "back with its originator",
        SlipStanding.Stopped => "stopped",
        _ => "released",
    };

    private static string Listed(string noun, List<int> numbers) => numbers.Count == 1
        ? $"{noun} {numbers[0]}"
        : $"{noun}s {string.Join(", ", numbers.Take(numbers.Count - 1))} and {numbers[^1]}";
}
