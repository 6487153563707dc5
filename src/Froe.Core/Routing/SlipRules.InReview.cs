using System.Collections.Immutable;

namespace Froe.Core.Routing;

/// <summary>What can be done to a slip on its way besides signing.</summary>
public static partial class SlipRules
{
    private static readonly Refusal NotCoordinator = new("not-coordinator", "Only a coordinator of this package can do that.");

    private static bool IsOnItsWay(Slip slip) => slip.Standing is SlipStanding.InReview or SlipStanding.Returned;

    /// <summary>Whether a person acts as the originator: they are, or stand in for who is and is away.</summary>
    public static bool IsOriginator(Slip slip, Guid person, IReadOnlyDictionary<Guid, Guid> deputies)
    {
        ArgumentNullException.ThrowIfNull(slip);
        ArgumentNullException.ThrowIfNull(deputies);
        return slip.Originator == person || (deputies.TryGetValue(slip.Originator, out var deputy) && deputy == person);
    }

    /// <summary>The absent originator for whom a person acts; null when they are the originator.</summary>
    private static Guid? For(Slip slip, Guid person) => slip.Originator == person ? null : slip.Originator;

    private static Decision DecideHandPackage(Slip slip, HandPackage command, SlipContext context)
    {
        if (!context.MayCoordinate) return new Decision([], NotCoordinator);
        if (!IsOnItsWay(slip)) return Decision.Refuse("not-in-review", "Only a package on its way changes hands; this one is " + Words(slip.Standing) + ".");
        if (slip.Originator == command.To) return Decision.Of();
        // Nobody signs their own work, neither before nor after it became theirs.
        foreach (var (step, seat) in slip.Plan.Seats().Where(s => s.Step.BarsOriginator))
            if (slip.SignaturesIn(seat.Key).Any(s => s.Person == command.To || s.Holder == command.To) || (!slip.Passed.Contains(step.Key) && slip.SeatOf(seat.Key)!.People.Contains(command.To)))
                return Decision.Refuse("own-work", $"They hold a seat in step “{step.Name}”, where the originator may not sign. Give that seat to somebody else first, or name another person.");
        var change = new OriginatorChanged(slip.Originator, command.To);
        // The originator's seats go along, where they wait still.
        var seats = slip.Plan.Seats().Where(s => s.Seat.Holder is OriginatorHolder && !slip.Passed.Contains(s.Step.Key)).Select(s => slip.SeatOf(s.Seat.Key)!)
            .Where(s => s.People.Contains(slip.Originator) && !s.People.Contains(command.To) && !slip.SignaturesIn(s.Key).Any(g => g.Holder == slip.Originator));
        var decided = ImmutableArray.Create<SlipEvent>([change, .. seats.Select(s => new SeatHandedOver(s.Key, slip.Originator, command.To))]);
        if (slip.Plan.Steps().FirstOrDefault(s => !slip.Passed.Contains(s.Key) && Stranded(Replay(slip, decided), s) is not null) is { } stranded)
            return Decision.Refuse("seat-stranded", $"Too few people would be left for step “{stranded.Name}”. Name another person, or fill its seats first.");
        return slip.Standing == SlipStanding.InReview ? Follow(slip, decided, context) : Decision.Of(decided);
    }

    /// <summary>A withdrawn document leaves the package at once; what is signed on the others stands. Without any other it ends.</summary>
    private static Decision DecideTakeOut(Slip slip, TakeOut command, SlipContext context)
    {
        if (!IsOnItsWay(slip) || slip.Items.FirstOrDefault(i => i.Document == command.Document) is not { } item) return Decision.Of();
        if (slip.Items.Length == 1) return Decision.Of(new PackageStopped(Recalled: false));
        var taken = new ItemTakenOut(item) { Drafts = DraftsOf(slip, [item], context) };
        return slip.Standing == SlipStanding.InReview ? Follow(slip, [taken], context) : Decision.Of(taken);
    }

    private static Decision DecideHandOver(Slip slip, HandOver command, SlipContext context)
    {
        if (command.Person != command.From && !context.MayCoordinate) return new Decision([], NotCoordinator);
        if (SeatFault(slip, command.Seat, out var seat, out var step) is { } fault) return new Decision([], fault);
        if (!seat.People.Contains(command.From))
            return seat.People.Contains(command.To) ? Decision.Of() : Decision.Refuse("not-your-seat", "This seat is not theirs to hand over.");
        if (command.From == command.To) return Decision.Of();
        if (seat.People.Contains(command.To)) return Decision.Refuse("holds-seat", "They hold this seat already.");
        if (slip.SignaturesIn(seat.Key).Any(s => s.Holder == command.From)) return Decision.Refuse("already-signed", "The seat is signed for already; take the signature back first.");
        if (Barred(slip, step, [command.To], context) is { } barred) return new Decision([], barred);
        return Changed(slip, step, new SeatHandedOver(seat.Key, command.From, command.To), context);
    }

    private static Decision DecideRefill(Slip slip, Refill command, SlipContext context)
    {
        if (!context.MayCoordinate) return new Decision([], NotCoordinator);
        if (SeatFault(slip, command.Seat, out var seat, out var step) is { } fault) return new Decision([], fault);
        var people = command.People.Distinct().ToImmutableArray();
        if (seat.People.ToHashSet().SetEquals(people) && seat.Needed == command.Needed && !seat.Skipped) return Decision.Of();
        var signed = slip.SignaturesIn(seat.Key).Select(s => s.Holder).ToList();
        if (!signed.TrueForAll(people.Contains)) return Decision.Refuse("signed-by-other", "Whoever has signed in this seat must keep it.");
        if (command.Needed < 1 || command.Needed > people.Length || command.Needed < signed.Count)
            return Decision.Refuse("seat-unfillable", $"The seat would need {command.Needed} of {people.Length}. Name at least as many people as must sign.");
        if (Barred(slip, step, people, context) is { } barred) return new Decision([], barred);
        return Changed(slip, step, new SeatFilled(seat with { People = people, Needed = command.Needed, Skipped = false }), context);
    }

    /// <summary>A seat changes hands, unless that would leave too few people for the seats of its step.</summary>
    private static Decision Changed(Slip slip, Step step, SlipEvent change, SlipContext context)
    {
        var after = Evolve(slip, change);
        if (Stranded(after, step) is { } stranded)
            return Decision.Refuse("seat-stranded", $"Too few people would be left for seat “{stranded.Role}” of step “{step.Name}”. Name somebody else.");
        return slip.Standing == SlipStanding.InReview ? Follow(slip, [change], context) : Decision.Of(change);
    }

    private static Decision DecideSkip(Slip slip, Skip command, SlipContext context)
    {
        if (!context.MayCoordinate) return new Decision([], NotCoordinator);
        if (slip.SeatOf(command.Seat)?.Skipped == true) return Decision.Of();
        if (SeatFault(slip, command.Seat, out var seat, out _) is { } fault) return new Decision([], fault);
        if (slip.SignaturesIn(seat.Key).Any(s => s.Returns)) return Decision.Refuse("seat-returned", "An item was returned in this seat; that cannot be skipped.");
        var skipped = new SeatFilled(seat with { Skipped = true });
        if (slip.Standing != SlipStanding.InReview) return Decision.Of(skipped);
        var decision = Follow(slip, [skipped], context);
        return !command.WithoutSignatures && decision is { IsRefused: false } && Replay(slip, decision.Events) is { Standing: SlipStanding.Released, Signatures.IsEmpty: true }
            ? Decision.Refuse("releases-unsigned", "Nobody has signed, and with this seat skipped the package would be released without any signature. Fill the seat with somebody, stop the package, or say that it is to be released without signatures.")
            : decision;
    }

    private static Decision DecideAmend(Slip slip, Amend command, SlipContext context)
    {
        if (!context.MayCoordinate) return new Decision([], NotCoordinator);
        if (!IsOnItsWay(slip)) return Decision.Refuse("not-in-review", "The plan of a package that is " + Words(slip.Standing) + " cannot change.");
        if (PlanCheck.Check(command.Plan, context.Groups).FirstOrDefault(f => f.Stops) is { } wrong) return Decision.Refuse(wrong.Code, wrong.Says);
        if (Misfit(slip, command.Plan) is { } misfit) return Decision.Refuse("does-not-fit", misfit);
        var send = new Send(slip.Originator, command.Plan, slip.Items) { Facts = slip.Facts };
        var old = slip.Plan.Seats().ToDictionary(s => s.Seat.Key, s => s.Seat);
        var seats = ImmutableArray.CreateBuilder<FilledSeat>();
        foreach (var (step, seat) in command.Plan.Seats())
        {
            // A seat whose holder did not change keeps the people it has, handed over or refilled as they may be.
            if (old.TryGetValue(seat.Key, out var before) && before.Holder == seat.Holder) seats.Add(slip.SeatOf(seat.Key)!);
            else if (seat.Holder is SignerOfHolder) seats.Add(new FilledSeat(seat.Key, [], 1));
            else if (FillSeat(step, seat, send, context, out var unfilled) is { } made) seats.Add(made);
            else return new Decision([], unfilled);
        }
        // Whom the sender named where the old plan asked is told by the new one, too, where it asks.
        var told = slip.Plan.Steps().SelectMany(s => s.Tells.Where(t => t.AsksSender).Select(t => new ToldPeople(s.Key, t.At, t.People))).ToImmutableArray();
        var amended = new PlanAmended(Telling(command.Plan, told), seats.ToImmutable());
        var after = Evolve(slip, amended);
        // The same plan by what it says, not by which copy of it is at hand: asked for twice, it changes once.
        if (PlanShape.Same(after.Plan, slip.Plan)) return Decision.Of();
        var front = new HashSet<string>(Front(after, after.Plan.Root));
        if (after.Open.FirstOrDefault(s => !front.Contains(s)) is { } overtaken)
            return Decision.Refuse("does-not-fit", $"Step “{slip.Plan.Steps().First(s => s.Key == overtaken).Name}” is open already, and the new plan has something before it. Pull the package back first, or put the new step after it.");
        foreach (var step in after.Plan.Steps().Where(s => !after.Passed.Contains(s.Key)))
            if (Stranded(after, step) is { } stranded)
                return Decision.Refuse("seat-stranded", $"By the new plan too few people are left for seat “{stranded.Role}” of step “{step.Name}”, after those who have signed there. Add people to it, or give up its rule of one seat each.");
        return slip.Standing == SlipStanding.InReview ? Follow(slip, [amended], context) : Decision.Of(amended);
    }

    /// <summary>What was passed, signed or taken and is not the same in another plan; null when that plan fits.</summary>
    private static string? Misfit(Slip slip, Plan plan)
    {
        var steps = plan.Steps().ToDictionary(s => s.Key);
        foreach (var key in slip.Passed.Concat(slip.Open))
        {
            var old = slip.Plan.Steps().First(s => s.Key == key);
            if (!steps.TryGetValue(key, out var step)) return $"Step “{old.Name}” was reached already and is not in the new plan.";
            if (slip.Passed.Contains(key) && !step.Seats.Select(s => (s.Key, s.Holder)).SequenceEqual(old.Seats.Select(s => (s.Key, s.Holder))))
                return $"Step “{old.Name}” has passed with other seats than it has in the new plan.";
        }
        foreach (var signature in slip.Signatures)
        {
            var old = slip.Plan.Seats().First(s => s.Seat.Key == signature.Seat);
            if (!steps.TryGetValue(old.Step.Key, out var step) || !step.Seats.Any(s => s.Key == signature.Seat && s.Holder == old.Seat.Holder))
                return $"Seat “{old.Seat.Role}” of step “{old.Step.Name}” is signed and is not the same in the new plan.";
        }
        foreach (var taken in slip.Taken)
            if (!plan.Choices().Any(c => c.Key == taken.Choice && c.Ways.Any(w => w.Key == taken.Way)))
                return $"The choice “{slip.Plan.Choices().First(c => c.Key == taken.Choice).Name}” was made already and is not in the new plan.";
        return null;
    }

    /// <summary>Keys of the steps that may be open now: no step before them is left.</summary>
    private static IEnumerable<string> Front(Slip slip, Block block) => block switch
    {
        Step step => slip.Passed.Contains(step.Key) ? [] : [step.Key],
        Choice choice => slip.WayOf(choice) is { } way ? Front(slip, way.Blocks) : [],
        Sequence sequence => sequence.Blocks.FirstOrDefault(b => !IsDone(slip, b)) is { } first ? Front(slip, first) : [],
        _ => PlanShape.Children(block).SelectMany(b => Front(slip, b)),
    };

    private static Decision DecideRecall(Slip slip, Recall command, SlipContext context)
    {
        if (!IsOriginator(slip, command.Person, context.Deputies)) return Decision.Refuse("not-originator", "Only the originator can recall a package.");
        if (slip.Standing == SlipStanding.Stopped) return Decision.Of();
        if (slip.Standing != SlipStanding.InReview) return Decision.Refuse("not-in-review", "Only a package in review can be recalled; this one is " + Words(slip.Standing) + ".");
        if (context.SignedThisRound ?? (!slip.Signatures.IsEmpty || !slip.Carried.IsEmpty)) return Decision.Refuse("signed", "It bears a signature of this round already, so it can no longer be recalled. Ask the coordinator to pull it back.");
        return slip.Round == 1
            ? Decision.Of(new PackageStopped(Recalled: true) { For = For(slip, command.Person) })
            : Decision.Of(new PackageReturned([]) { Cause = ReturnCause.Recalled, For = For(slip, command.Person) });
    }

    private static Decision DecidePullBack(Slip slip, PullBack command, SlipContext context)
    {
        if (!context.MayCoordinate) return new Decision([], NotCoordinator);
        return slip.Standing switch
        {
            SlipStanding.Returned => Decision.Of(),
            SlipStanding.InReview => Decision.Of(new PackageReturned([.. ReturnedDocuments(slip)]) { Cause = ReturnCause.PulledBack, SignAgain = command.SignAgain }),
            _ => Decision.Refuse("not-in-review", "Only a package in review can be pulled back; this one is " + Words(slip.Standing) + "."),
        };
    }

    private static Decision DecideStop(Slip slip, SlipContext context)
    {
        if (!context.MayCoordinate) return new Decision([], NotCoordinator);
        if (slip.Standing == SlipStanding.Stopped) return Decision.Of();
        return IsOnItsWay(slip)
            ? Decision.Of(new PackageStopped(Recalled: false))
            : Decision.Refuse("not-in-review", "Only a package on its way can be stopped; this one is " + Words(slip.Standing) + ".");
    }

    /// <summary>Finds a seat that can still change hands.</summary>
    private static Refusal? SeatFault(Slip slip, string key, out FilledSeat seat, out Step step)
    {
        (seat, step) = (null!, null!);
        if (!IsOnItsWay(slip)) return new Refusal("not-in-review", "Nothing can change now: the package is " + Words(slip.Standing) + ".");
        if (slip.SeatOf(key) is not { } found) return new Refusal("no-such-seat", "The slip has no such seat.");
        (seat, step) = (found, slip.StepOf(key));
        return slip.Passed.Contains(step.Key) ? new Refusal("step-passed", $"Step “{step.Name}” has passed; its seats cannot change hands.") : null;
    }

    /// <summary>Why some of these people may not sit in a step.</summary>
    private static Refusal? Barred(Slip slip, Step step, ImmutableArray<Guid> people, SlipContext context)
    {
        if (context.Signers is { } signers && !people.All(signers.Contains))
            return new Refusal("no-right", "They have no right to sign for these documents. Name somebody else, or have them given the right.");
        if (step.BarsOriginator && people.Contains(slip.Originator))
            return new Refusal("own-work", $"The originator may not sign in step “{step.Name}”. Name somebody else.");
        return step.OneSeatEach && people.Length == 1 && slip.Signatures.Any(s => s.Holder == people[0] && step.Seats.Any(x => x.Key == s.Seat))
            ? new Refusal("one-seat-each", $"They have signed in another seat of “{step.Name}”, where nobody holds two.")
            : null;
    }
}
