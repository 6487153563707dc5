using System.Collections.Immutable;

namespace Froe.Core.Routing;

/// <summary>
/// The routing engine: pure functions, no clock, no ids made inside.
/// <para>Invariants, which the property tests hold it to:</para>
/// <list type="number">
/// <item>Released only when every seat has as many signatures as it needs, each on the very bytes released.</item>
/// <item>Only a person who fills a seat signs in it, once a round, while its step is open.</item>
/// <item>From every reachable standing some sequence of commands ends in <see cref="SlipStanding.Released"/>.</item>
/// <item>Folding <see cref="Evolve"/> over the events gives the slip again.</item>
/// <item>A command repeated changes nothing.</item>
/// <item>No request is open on a document when it is released.</item>
/// </list>
/// </summary>
public static class SlipRules
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
            SendAgain again => DecideSendAgain(slip, again, context),
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
                Standing = SlipStanding.Running,
                Items = e.Items,
                Seats = e.Seats,
            },
            StepOpened e => slip with { Open = slip.Open.Add(e.Step) },
            SignedOff e => slip with { Signatures = slip.Signatures.Add(e.Signature) },
            StepPassed e => slip with { Open = slip.Open.Remove(e.Step), Passed = slip.Passed.Add(e.Step) },
            PackageReturned => slip with { Standing = SlipStanding.Returned, Open = [] },
            PackageSentAgain e => slip with
            {
                Round = e.Round,
                Standing = SlipStanding.Running,
                Items = e.Items,
                Open = [],
                Passed = [],
                Signatures = [],
            },
            PackageReleased => slip with { Standing = SlipStanding.Released, Open = [] },
            _ => throw new ArgumentException($"Unknown event {happened?.GetType().Name}.", nameof(happened)),
        };
    }

    /// <summary>Applies events in order.</summary>
    public static Slip Replay(Slip slip, IEnumerable<SlipEvent> happened) => happened.Aggregate(slip, Evolve);

    /// <summary>Finds what keeps a plan from being sent: no step, a seat without a role, a k that a group cannot meet.</summary>
    public static Refusal? Check(Plan plan, SlipContext context)
    {
        ArgumentNullException.ThrowIfNull(plan);
        ArgumentNullException.ThrowIfNull(context);
        var steps = plan.Steps().ToList();
        if (steps.Count == 0) return new Refusal("plan-empty", "The plan has no step. Add one before sending.");
        if (EmptyBranch(plan.Root)) return new Refusal("branch-empty", "A branch of the plan has no step. Add one or remove the branch.");
        if (steps.Select(s => s.Key).Distinct().Count() != steps.Count)
            return new Refusal("step-key-twice", "Two steps of the plan have the same key.");
        var seats = steps.SelectMany(s => s.Seats).ToList();
        if (seats.Select(s => s.Key).Distinct().Count() != seats.Count)
            return new Refusal("seat-key-twice", "Two seats of the plan have the same key.");
        foreach (var step in steps)
        {
            if (step.Seats.Length == 0) return new Refusal("step-without-seat", $"Step “{step.Name}” has no seat, so nobody could sign it.");
            if (step.WorkingDays <= 0) return new Refusal("step-without-time", $"Step “{step.Name}” allows no working time.");
            foreach (var seat in step.Seats)
            {
                if (seat.Holder is not GroupHolder group) continue;
                var members = context.Groups.TryGetValue(group.Group, out var found) ? found.Length : 0;
                if (group.Needed < 1 || group.Needed > members)
                    return new Refusal("seat-unfillable", $"Seat “{seat.Role}” needs {group.Needed} of a group of {members}. Add people to the group or ask for fewer.");
            }
        }
        return null;
    }

    private static bool EmptyBranch(Block block) => block switch
    {
        Sequence s => s.Blocks.Any(EmptyBranch),
        Parallel p => p.Branches.Length == 0 || p.Branches.Any(b => b.Blocks.Length == 0 || EmptyBranch(b)),
        _ => false,
    };

    private static Decision DecideSend(Slip slip, Send send, SlipContext context)
    {
        if (slip.Standing != SlipStanding.Unsent)
        {
            var repeated = slip.Round == 1 && slip.Originator == send.Person && SameItems(slip.Items, send.Items);
            return repeated ? Decision.Of() : Decision.Refuse("already-sent", "This package has been sent already.");
        }
        if (Check(send.Plan, context) is { } fault) return new Decision([], fault);
        if (ItemFault(send.Items) is { } bad) return new Decision([], bad);
        var seats = send.Plan.Seats().Select(s => Fill(s.Seat, send.Person, context)).ToImmutableArray();
        return Decision.Of([new PackageSent(send.Person, send.Plan, send.Items, seats), .. Opening(send.Plan.Root)]);
    }

    private static Decision DecideSendAgain(Slip slip, SendAgain again, SlipContext context)
    {
        if (again.Person != slip.Originator)
            return Decision.Refuse("not-originator", "Only the originator can send the next round.");
        if (slip.Standing == SlipStanding.Running && slip.Round > 1 && SameItems(slip.Items, again.Items)) return Decision.Of();
        if (slip.Standing != SlipStanding.Returned)
            return Decision.Refuse("not-returned", "Only a returned package can be sent again; this one is " + Words(slip.Standing) + ".");
        if (ItemFault(again.Items) is { } bad) return new Decision([], bad);
        var returned = ReturnedDocuments(slip);
        if (!again.Items.Select(i => i.Document).ToHashSet().SetEquals(slip.Items.Select(i => i.Document)))
            return Decision.Refuse("items-changed", "The next round carries the same documents as the one before.");
        foreach (var item in again.Items.Where(i => returned.Contains(i.Document)))
            if (slip.Items.Any(i => i.Document == item.Document && i.Sha256 == item.Sha256))
                return Decision.Refuse("same-bytes", "A returned document has not changed since. Upload its next draft first.");
        var unanswered = context.OpenRequests.Where(r => !r.Answered).Select(r => r.Number).Order().ToList();
        if (unanswered.Count > 0)
            return Decision.Refuse("requests-unanswered", $"{Listed("Request", unanswered)} still {(unanswered.Count == 1 ? "wants" : "want")} an answer: done, done differently, or cannot, because.");
        return Decision.Of([new PackageSentAgain(slip.Round + 1, again.Items), .. Opening(slip.Plan.Root)]);
    }

    private static Decision DecideSignOff(Slip slip, SignOff command, SlipContext context)
    {
        var signature = new Signature(command.Seat, command.Person, command.Verdicts);
        if (slip.Signatures.FirstOrDefault(s => s.Seat == command.Seat && s.Person == command.Person) is { } given)
            return SameVerdicts(given.Verdicts, command.Verdicts)
                ? Decision.Of()
                : Decision.Refuse("already-signed", "You have signed in this seat already in this round.");
        if (slip.Standing != SlipStanding.Running)
            return Decision.Refuse("not-running", "Nothing can be signed now: the package is " + Words(slip.Standing) + ".");
        if (slip.SeatOf(command.Seat) is not { } seat)
            return Decision.Refuse("no-such-seat", "The slip has no such seat.");
        if (!seat.People.Contains(command.Person))
            return Decision.Refuse("not-your-seat", "This seat is not yours to sign.");
        var step = slip.Plan.Steps().First(s => s.Seats.Any(p => p.Key == seat.Key));
        if (!slip.Open.Contains(step.Key))
            return Decision.Refuse("step-not-open", slip.Passed.Contains(step.Key)
                ? $"Step “{step.Name}” has passed already."
                : $"Step “{step.Name}” is not open yet; the steps before it must pass first.");
        if (slip.IsSettled(seat))
            return Decision.Refuse("seat-settled", "This seat needs no further signature: the others were quicker.");
        if (VerdictFault(slip, command, context) is { } fault) return new Decision([], fault);

        var events = ImmutableArray.CreateBuilder<SlipEvent>();
        events.Add(new SignedOff(signature));
        var after = Evolve(slip, events[0]);
        var passed = step.Seats.All(s => after.IsSettled(after.SeatOf(s.Key)!)) && !step.Seats.Any(s => after.SignaturesIn(s.Key).Any(g => g.Returns));
        if (passed)
        {
            events.Add(new StepPassed(step.Key));
            after = Evolve(after, events[^1]);
            if (!after.IsReturning) AddOpened(after, events);
        }
        after = Replay(slip, events);
        if (after.IsReturning && !after.Awaited().Any()) events.Add(new PackageReturned([.. ReturnedDocuments(after)]));
        else if (after.Plan.Steps().All(s => after.Passed.Contains(s.Key))) events.Add(new PackageReleased(after.Items));
        return new Decision(events.ToImmutable(), null);
    }

    private static Refusal? VerdictFault(Slip slip, SignOff command, SlipContext context)
    {
        if (command.Verdicts.Length != slip.Items.Length || command.Verdicts.Select(v => v.Draft).Distinct().Count() != command.Verdicts.Length)
            return new Refusal("verdict-missing", $"Give a verdict on each of the {slip.Items.Length} items before signing.");
        foreach (var verdict in command.Verdicts)
        {
            if (slip.ItemOf(verdict.Draft) is not { } item || item.Sha256 != verdict.Sha256)
                return new Refusal("other-bytes", "An item has changed since you looked at it. Reload the bench and look again before signing.");
            var open = context.OpenRequests.Where(r => r.Document == item.Document).ToList();
            switch (verdict.Verdict)
            {
                // An earlier round's request, reopened by anyone, stands as well as a new one of one's own.
                case Verdict.ReturnForChanges when !open.Exists(r => r.By == command.Person || (r.Round < slip.Round && !r.Answered)):
                    return new Refusal("return-without-request", "Returning an item needs at least one request on it that says what to change.");
                case Verdict.ApproveAsNoted when string.IsNullOrWhiteSpace(verdict.Reason):
                    return new Refusal("noted-without-note", "Approving as noted needs the note: say in the reason what you noted.");
                case Verdict.Approve or Verdict.ApproveAsNoted:
                    var mine = open.Where(r => !AnswersFor(slip, command, r)).Select(r => r.Number).Order().ToList();
                    if (mine.Count > 0)
                        return new Refusal("request-open", $"{Listed("Request", mine)} on this item {(mine.Count == 1 ? "is" : "are")} not closed. Close {(mine.Count == 1 ? "it" : "them")}, or return the item.");
                    break;
            }
        }
        return null;
    }

    /// <summary>
    /// A request raised in this round by someone who must still sign is theirs to close or to return with;
    /// every other open request stands in the way of whoever approves. So none is open at release.
    /// </summary>
    private static bool AnswersFor(Slip slip, SignOff command, OpenRequest request)
    {
        if (request.By == command.Person || request.Round != slip.Round) return false;
        var returned = slip.Signatures.Any(s => s.Person == request.By && s.Verdicts.Any(v =>
            v.Verdict == Verdict.ReturnForChanges && slip.ItemOf(v.Draft)?.Document == request.Document));
        if (returned) return true;
        var given = Evolve(slip, new SignedOff(new Signature(command.Seat, command.Person, command.Verdicts)));
        // A member of a k-of-n seat may never have to sign, so only a seat that waits for all its remaining people counts.
        return given.Awaited().GroupBy(a => a.Seat).Any(g =>
            g.Any(a => a.Person == request.By) && g.Count() == g.Key.Needed - given.SignaturesIn(g.Key.Key).Count());
    }

    private static FilledSeat Fill(Seat seat, Guid originator, SlipContext context) => seat.Holder switch
    {
        PersonHolder person => new FilledSeat(seat.Key, [person.Person], 1),
        GroupHolder group => new FilledSeat(seat.Key, [.. context.Groups[group.Group].Distinct()], group.Needed),
        OriginatorHolder => new FilledSeat(seat.Key, [originator], 1),
        _ => throw new NotSupportedException($"A seat held by {seat.Holder.GetType().Name} is not known."),
    };

    private static IEnumerable<SlipEvent> Opening(Block block) => FirstSteps(block).Select(s => new StepOpened(s.Key));

    private static IEnumerable<Step> FirstSteps(Block block) => block switch
    {
        Step step => [step],
        Sequence sequence => sequence.Blocks.Length == 0 ? [] : FirstSteps(sequence.Blocks[0]),
        Parallel parallel => parallel.Branches.SelectMany(FirstSteps),
        _ => [],
    };

    private static void AddOpened(Slip slip, ImmutableArray<SlipEvent>.Builder events)
    {
        foreach (var step in Ready(slip.Plan.Root).Where(s => !slip.Open.Contains(s.Key)))
            events.Add(new StepOpened(step.Key));

        IEnumerable<Step> Ready(Block block) => block switch
        {
            Step step => slip.Passed.Contains(step.Key) ? [] : [step],
            Sequence sequence => sequence.Blocks.FirstOrDefault(b => !HasPassed(b)) is { } next ? Ready(next) : [],
            Parallel parallel => parallel.Branches.SelectMany(Ready),
            _ => [],
        };

        bool HasPassed(Block block) => block switch
        {
            Step step => slip.Passed.Contains(step.Key),
            Sequence sequence => sequence.Blocks.All(HasPassed),
            Parallel parallel => parallel.Branches.All(HasPassed),
            _ => true,
        };
    }

    private static HashSet<Guid> ReturnedDocuments(Slip slip) =>
        [.. from s in slip.Signatures
            from v in s.Verdicts
            where v.Verdict == Verdict.ReturnForChanges
            select slip.ItemOf(v.Draft)!.Document];

    private static Refusal? ItemFault(ImmutableArray<SlipItem> items)
    {
        if (items.Length == 0) return new Refusal("package-empty", "The package holds no document. Choose at least one.");
        if (items.Select(i => i.Document).Distinct().Count() != items.Length)
            return new Refusal("document-twice", "A document is in the package twice.");
        return items.Any(i => i.Sha256.Length != 64) ? new Refusal("hash-missing", "A draft has no hash, so it cannot be signed.") : null;
    }

    private static bool SameItems(ImmutableArray<SlipItem> a, ImmutableArray<SlipItem> b) => a.ToHashSet().SetEquals(b);

    private static bool SameVerdicts(ImmutableArray<ItemVerdict> a, ImmutableArray<ItemVerdict> b) => a.ToHashSet().SetEquals(b);

    private static string Words(SlipStanding standing) => standing switch
    {
        SlipStanding.Unsent => "not sent yet",
        SlipStanding.Running => "in review",
        SlipStanding.Returned => "back with its originator",
        _ => "released",
    };

    private static string Listed(string noun, List<int> numbers) => numbers.Count == 1
        ? $"{noun} {numbers[0]}"
        : $"{noun}s {string.Join(", ", numbers.Take(numbers.Count - 1))} and {numbers[^1]}";
}
