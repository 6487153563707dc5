using System.Collections.Immutable;
using Froe.Core.Draft;

namespace Froe.Core.Routing;

/// <summary>Signing, and changing one's mind.</summary>
public static partial class SlipRules
{
    private static Decision DecideSignOff(Slip slip, SignOff command, SlipContext context)
    {
        if (slip.Signatures.FirstOrDefault(s => s.Seat == command.Seat && s.Person == command.Person && s.For == command.For) is { } given)
            return command.Verdicts.All(v => given.Verdicts.Any(g => g with { Seen = v.Seen } == v))
                ? Decision.Of()
                : Decision.Refuse("already-signed", "You have signed in this seat already in this round.");
        if (slip.Standing != SlipStanding.InReview)
            return Decision.Refuse("not-in-review", "Nothing can be signed now: the package is " + Words(slip.Standing) + ".");
        if (slip.SeatOf(command.Seat) is not { } seat)
            return Decision.Refuse("no-such-seat", "The slip has no such seat.");
        var holder = command.For ?? command.Person;
        if (command.For is { } absent && (!context.Deputies.TryGetValue(absent, out var deputy) || deputy != command.Person))
            return Decision.Refuse("not-deputy", "You are not the deputy of this seat's holder now.");
        if (!seat.People.Contains(holder))
            return Decision.Refuse("not-your-seat", "This seat is not yours to sign.");
        if (context.Signers?.Contains(command.Person) == false)
            return Decision.Refuse("no-right", "You have no right to sign for these documents. Ask your administrator, or hand the seat to a colleague.");
        var step = slip.StepOf(seat.Key);
        if (!slip.Open.Contains(step.Key))
            return Decision.Refuse("step-not-open", slip.Passed.Contains(step.Key)
                ? $"Step “{step.Name}” has passed already."
                : $"Step “{step.Name}” is not open yet; the steps before it must pass first.");
        if (slip.IsSettled(seat))
            return Decision.Refuse("seat-settled", "This seat needs no further signature: the others were quicker.");
        if (step.BarsOriginator && command.Person == slip.Originator)
            return Decision.Refuse("own-work", "The originator may not sign in this step, as a deputy neither. Hand the seat to a colleague.");
        if (slip.Signatures.Any(s => s.Seat == seat.Key && (s.Holder == holder || s.Person == command.Person)))
            return Decision.Refuse("already-signed", "This seat bears your signature, or your deputy's, already.");
        if (!slip.MaySign(step, seat).Contains(holder) || (command.For is not null && step.OneSeatEach && slip.Signatures.Any(s => s.Person == command.Person && step.Seats.Any(x => x.Key == s.Seat))))
            return Decision.Refuse("one-seat-each", $"You have signed in another seat of “{step.Name}”, where nobody holds two.");
        if (VerdictFault(slip, command, holder, context) is { } fault) return new Decision([], fault);
        if (AnswerFault(step, command) is { } unanswered) return new Decision([], unanswered);
        if (FolderFault(slip, step, command, context) is { } unfiled) return new Decision([], unfiled);
        if (PickFault(slip, step, command) is { } unpicked) return new Decision([], unpicked);
        var stands = slip.Carried.Where(c => c.Seat == seat.Key && c.Holder == holder).SelectMany(c => c.Verdicts);
        // What the signer says of what they saw counts for nothing: it is told by what they had before them.
        var verdicts = command.Verdicts.Select(v => v with { Seen = step.SeenShare > 0 && context.Seen?.TryGetValue(v.Draft, out var share) == true ? share.Percent : null });
        var signature = new Signature(command.Seat, command.Person, [.. stands, .. verdicts]) { For = command.For, Answers = command.Answers, Picks = command.Picks, Folder = command.Folder };
        if (Stranded(Evolve(slip, new SignedOff(signature)), step) is { } stranded)
            return Decision.Refuse("seat-stranded", stranded.Key == seat.Key
                ? $"Each of {seat.Needed} people must sign in this seat, and you hold a place in it yourself: sign for yourself, and leave the other place to its holder or have it handed to a colleague."
                : $"If you signed here, too few people would be left for seat “{stranded.Role}” of this step{(slip.IsReturning ? ", which is needed when the returned items come again" : "")}. {(slip.IsSettled(slip.SeatOf(stranded.Key)!) ? "Let" : "Sign there, or let")} a colleague sign here.");
        return Follow(slip, [new SignedOff(signature) { Overlays = command.Overlays }], context);
    }

    /// <summary>
    /// A seat of a step for which too few people are left; null when there are enough for all. A seat that a return has
    /// settled counts with what it lacks: it wants the rest again once the returned items are split off or come again.
    /// </summary>
    private static Seat? Stranded(Slip slip, Step step)
    {
        var left = step.Seats.Select(s => (Seat: s, Filled: slip.SeatOf(s.Key)!, Signed: slip.SignaturesIn(s.Key).Count()))
            .Where(s => !s.Filled.Skipped && s.Signed < s.Filled.Needed && s.Filled.People.Length > 0)
            .Select(s => (s.Seat, Left: s.Filled with { People = [.. slip.MaySign(step, s.Filled)], Needed = s.Filled.Needed - s.Signed })).ToList();
        return left.Find(s => s.Left.People.Length < s.Left.Needed).Seat
            ?? (step.OneSeatEach && !SeatMatching.Fits([.. left.Select(s => s.Left)]) ? left[^1].Seat : null);
    }

    private static Decision DecideTakeBack(Slip slip, TakeBack command, SlipContext context)
    {
        var (whose, isOwn) = (command.Of ?? command.Person, command.Of is null || command.Of == command.Person);
        if (!isOwn && !context.MayCoordinate) return new Decision([], NotCoordinator);
        if (slip.Standing != SlipStanding.InReview)
            return Decision.Refuse("not-in-review", "A signature can be taken back only while the package is in review; this one is " + Words(slip.Standing) + ".");
        if (slip.SeatOf(command.Seat) is null || !slip.Signatures.Any(s => s.Seat == command.Seat && s.Person == whose))
            return Decision.Refuse("not-signed", isOwn ? "There is no signature of yours in this seat." : "There is no signature of theirs in this seat.");
        var step = slip.StepOf(command.Seat);
        var back = new SignatureTakenBack(command.Seat, whose);
        if (slip.Open.Contains(step.Key))
            return isOwn || slip.Differing().Any(d => d.Step == step.Key) ? Follow(slip, [back], context) : Decision.Refuse("step-open", $"Step “{step.Name}” is open still: whoever signed takes their signature back themselves.");
        bool IsAfter(string key) => PlanShape.Between(slip.Plan, key, step.Key) == PlanShape.Order.After;
        if (slip.Signatures.Any(s => IsAfter(slip.StepOf(s.Seat).Key)))
            return Decision.Refuse("signed-after", $"Step “{step.Name}” has passed and somebody has signed after it, so its signatures stand. Ask the coordinator to pull the package back.");
        var last = slip.Signatures.Last(s => slip.StepOf(s.Seat).Key == step.Key);
        if (last.Seat != command.Seat || last.Person != whose)
            return Decision.Refuse("not-last", $"Step “{step.Name}” has passed, so only its last signature can be taken back, by whoever gave it or by a coordinator.");
        string[] undone = [step.Key, .. slip.Plan.Steps().Select(s => s.Key).Where(IsAfter)];
        return Follow(slip, [back, new StepReopened(step.Key, [.. undone], [.. slip.Plan.Choices().Select(c => c.Key).Where(IsAfter)])], context);
    }

    /// <summary>Signatures given after it stand: their bytes are the same, and what is asked for bars the release in any case.</summary>
    private static Decision DecideReopenSeat(Slip slip, ReopenSeat command, SlipContext context)
    {
        if (slip.Standing != SlipStanding.InReview) return Decision.Refuse("not-in-review", "A seat opens again only while the package is in review; this one is " + Words(slip.Standing) + ".");
        if (slip.SeatOf(command.Seat) is null || !slip.Signatures.Any(s => s.Seat == command.Seat && s.Person == command.Person)) return Decision.Refuse("not-signed", "There is no signature of yours in this seat.");
        var step = slip.StepOf(command.Seat);
        var back = new SignatureTakenBack(command.Seat, command.Person);
        if (slip.Open.Contains(step.Key)) return Follow(slip, [back], context);
        if (!slip.Plan.SignersReopen) return Decision.Refuse("seat-closed", $"Step “{step.Name}” has passed, and the plan does not let its signers open it again. Leave a note: the coordinator and whoever is to sign are told of it.");
        bool IsAfter(string key) => PlanShape.Between(slip.Plan, key, step.Key) == PlanShape.Order.After;
        string[] undone = [step.Key, .. slip.Plan.Steps().Select(s => s.Key).Where(IsAfter)];
        return Follow(slip, [back, new StepReopened(step.Key, [.. undone], [.. slip.Plan.Choices().Select(c => c.Key).Where(IsAfter)])], context);
    }

    private static Decision DecideAnswerNoted(Slip slip, AnswerNoted command, SlipContext context)
    {
        if (!IsOriginator(slip, command.Person, context.Deputies)) return Decision.Refuse("not-originator", "Only the originator answers what was noted.");
        if (slip.Standing != SlipStanding.InReview) return Decision.Refuse("not-in-review", "Notes of an approval are answered while the package is in review; this one is " + Words(slip.Standing) + ".");
        var answer = new NotedAnswer(command.Seat, command.Signer, command.Draft, command.Words.Trim());
        if (slip.NotedAnswers.Contains(answer)) return Decision.Of();
        if (!slip.InForce().Any(s => s.Seat == command.Seat && s.Person == command.Signer && s.Verdicts.Any(v => v.Draft == command.Draft && v.Verdict == Verdict.ApproveAsNoted)))
            return Decision.Refuse("nothing-noted", "Nothing waits for an answer there any more.");
        return answer.Words.Length switch
        {
            0 => Decision.Refuse("answer-without-words", "Write the answer."),
            > 4000 => Decision.Refuse("too-long", "The answer may have 4,000 characters."),
            _ => Follow(slip, [new NotedAnswered(answer) { For = For(slip, command.Person) }], context),
        };
    }

    private static Refusal? VerdictFault(Slip slip, SignOff command, Guid holder, SlipContext context)
    {
        var wanted = slip.ToJudge(command.Seat, holder).ToList();
        if (command.Verdicts.Length != wanted.Count || command.Verdicts.Select(v => v.Draft).Distinct().Count() != command.Verdicts.Length)
            return new Refusal("verdict-missing", $"Give a verdict on each of the {wanted.Count} items before signing.");
        if (command.Verdicts.Any(v => wanted.Find(i => i.Draft == v.Draft) is not { } judged || judged.Sha256 != v.Sha256))
            return new Refusal("other-bytes", "An item has changed since you looked at it. Look at it again, then sign.");
        if (context.Opened is { } opened && wanted.Count(i => !opened.Contains(i.Draft) && !MaySignUnopened(slip, i)) is > 0 and var unseen)
            return new Refusal("not-opened", $"{unseen} of the {wanted.Count} {(wanted.Count == 1 ? "item was" : "items were")} not opened by you. Open {(unseen == 1 ? "it" : "them")} on the bench first: your name stands for having looked.");
        if (SeenFault(slip, command, context) is { } fault) return fault;
        foreach (var verdict in command.Verdicts)
        {
            var item = wanted.Find(i => i.Draft == verdict.Draft)!;
            var open = context.OpenRequests.Where(r => r.Document == item.Document).ToList();
            switch (verdict.Verdict)
            {
                // One's own, that of whoever held the place before, one of an earlier round, reopened by anyone, or one that came back
                // to this step with a return; what is answered asks for nothing.
                case Verdict.ReturnForChanges when !open.Exists(r => !r.Answered && (r.Round < slip.Round || IsTheirs(slip, command, r) || CameWithReturn(slip, command, r))):
                    return new Refusal("return-without-request", "Returning an item needs at least one request on it that says what to change.");
                case Verdict.ApproveAsNoted when string.IsNullOrWhiteSpace(verdict.Reason):
                    return new Refusal("noted-without-note", "Approving as noted needs the note: say in the reason what you noted.");
                case Verdict.Approve or Verdict.ApproveAsNoted:
                    var mine = open.Where(r => !AnotherAnswersFor(slip, command, r)).Select(r => r.Number).Order().ToList();
                    if (mine.Count > 0)
                        return new Refusal("request-open", $"{Listed("Request", mine)} on this item {(mine.Count == 1 ? "is" : "are")} not closed. Close {(mine.Count == 1 ? "it" : "them")}, or return the item.");
                    break;
            }
        }
        return null;
    }

    /// <summary>Whoever approves where the plan asks for it has seen enough of each item; whoever returns one has seen what they ask for.</summary>
    private static Refusal? SeenFault(Slip slip, SignOff command, SlipContext context)
    {
        var asked = slip.StepOf(command.Seat).SeenShare;
        if (asked <= 0 || context.Seen is not { } seen) return null;
        var approved = command.Verdicts.Where(v => v.Verdict != Verdict.ReturnForChanges).ToList();
        SeenShare? Of(ItemVerdict v) => seen.TryGetValue(v.Draft, out var share) ? share : null;
        var less = approved.Where(v => !Seeing.Suffices(Of(v), asked)).Select(v => Of(v)!.Value.Percent).ToList();
        if (less.Count == 0) return null;
        var which = approved.Count == 1 ? "the item" : less.Count == 1 ? $"one of the {approved.Count} items" : $"{less.Count} of the {approved.Count} items";
        return new Refusal("not-seen", $"This step asks that {asked} % of each item was before you at a legible size; of {which} it was {(less.Count == 1 ? $"{less[0]} %" : $"less, of one {less.Min()} %")}. Have the rest shaded on the bench, and look at what is shaded.");
    }

    /// <summary>Whether a request is the signer's own: they wrote it, or the person they sign for did, or whoever held that place in the seat before.</summary>
    private static bool IsTheirs(Slip slip, SignOff command, OpenRequest request) =>
        request.By == command.Person || request.By == command.For || slip.SeatOf(command.Seat)?.CameFrom(request.By, command.For ?? command.Person) == true;

    /// <summary>Whether a request came to the signer's step with a return from a later one: they may pass it on.</summary>
    private static bool CameWithReturn(Slip slip, SignOff command, OpenRequest request) =>
        slip.StepOf(command.Seat).Key is var step && slip.CameBack.Any(b => b.To == step && b.By.Contains(request.By));

    /// <summary>
    /// Whether a request is not for this signer to settle before they approve:
    /// <list type="number">
    /// <item>their own, or their predecessor's in the seat, always is;</item>
    /// <item>a colleague's is not while the colleague will surely sign after or beside them, in whichever round it was raised: it bars the colleague's approval;</item>
    /// <item>nor is it once the colleague has returned the item with it;</item>
    /// <item>nor while the signer returns another item of a package that comes back whole: all of it is looked at again.</item>
    /// </list>
    /// So none is open at release, which is refused besides.
    /// </summary>
    private static bool AnotherAnswersFor(Slip slip, SignOff command, OpenRequest request)
    {
        if (IsTheirs(slip, command, request)) return false;
        if (!slip.Plan.ItemByItem && command.Verdicts.Any(v => v.Verdict == Verdict.ReturnForChanges)) return true;
        var returned = slip.Signatures.Any(s => s.Person == request.By && s.Verdicts.Any(v =>
            v.Verdict == Verdict.ReturnForChanges && slip.ItemOf(v.Draft)?.Document == request.Document));
        if (returned) return true;
        var given = Evolve(slip, new SignedOff(new Signature(command.Seat, command.Person, command.Verdicts) { For = command.For }));
        // A member of a k-of-n seat may never have to sign, so only a seat that waits for all its remaining people counts;
        // and a step is certain only while it is open, or stands in no way of a choice that was not taken yet.
        return given.Plan.Seats()
            .Where(s => given.Open.Contains(s.Step.Key) || (!given.Passed.Contains(s.Step.Key) && s.Step.PassesWhen is null && IsCertain(given, s.Step)))
            .Select(s => (s.Step, Seat: given.SeatOf(s.Seat.Key)!))
            .Where(s => !given.IsSettled(s.Seat))
            .Any(s => given.MaySign(s.Step, s.Seat).ToList() is var left && left.Contains(request.By) && left.Count == s.Seat.Needed - given.SignaturesIn(s.Seat.Key).Count());
    }

    /// <summary>Supporting files may be passed over unopened where the plan says so.</summary>
    private static bool MaySignUnopened(Slip slip, SlipItem item) =>
        slip.Plan.SupportingUnopened && slip.Facts.Documents.FirstOrDefault(d => d.Document == item.Document)?.Kind == "supporting file";

    private static bool IsCertain(Slip slip, Step step) => PlanShape.PathTo(slip.Plan, step.Key)!.All(p => p.Parent is not Choice choice || slip.WayOf(choice) == choice.Ways[p.Index]);

    private static Refusal? AnswerFault(Step step, SignOff command)
    {
        foreach (var point in step.Checkpoints)
        {
            var answer = command.Answers.LastOrDefault(a => a.Checkpoint == point.Key)?.Value.Trim() ?? "";
            if (answer.Length == 0)
            {
                // Whoever returns says with their requests what is missing.
                if (point.Must && !command.Verdicts.Any(v => v.Verdict == Verdict.ReturnForChanges)) return new Refusal("checkpoint-missing", $"“{point.Text}” must be answered before signing.");
                continue;
            }
            if (point.Kind == CheckpointKind.Number && !Condition.Number(answer, out _))
                return new Refusal("checkpoint-wrong", $"“{point.Text}” wants a number{(point.Unit.Length > 0 ? " in " + point.Unit : "")}.");
            if (point.Kind == CheckpointKind.YesNo && answer is not ("yes" or "no"))
                return new Refusal("checkpoint-wrong", $"“{point.Text}” wants yes or no.");
            if (answer.Length > 4000) return new Refusal("checkpoint-wrong", $"The answer to “{point.Text}” may have 4,000 characters.");
        }
        return null;
    }

    /// <summary>Whoever approves in the step that picks where the documents are filed must pick a folder, unless a colleague of the step has.</summary>
    private static Refusal? FolderFault(Slip slip, Step step, SignOff command, SlipContext context)
    {
        if (!slip.Plan.Closing.OfType<FileWherePicked>().Any(f => f.Step == step.Key))
            return command.Folder is null ? null : new Refusal("folder-not-asked", "Where the documents are filed is not picked in this step any more. Look at the step again, then sign.");
        if (command.Folder is { } folder)
            return context.Folders?.Contains(folder) == false ? new Refusal("folder-wrong", $"You cannot file into “{folder}”: it is not there, or not yours to file into. Pick another folder.") : null;
        return command.Verdicts.Any(v => v.Verdict == Verdict.ReturnForChanges) || slip.Signatures.Any(s => s.Folder is not null && step.Seats.Any(x => x.Key == s.Seat))
            ? null
            : new Refusal("folder-missing", "Pick the folder into which the documents are filed on release.");
    }

    /// <summary>Whoever approves in a step that picks must pick, unless a colleague of the step has.</summary>
    private static Refusal? PickFault(Slip slip, Step step, SignOff command)
    {
        foreach (var choice in slip.Plan.Choices().Where(c => c.PickedAt == step.Key))
        {
            var pick = command.Picks.LastOrDefault(p => p.Choice == choice.Key);
            var returns = command.Verdicts.Any(v => v.Verdict == Verdict.ReturnForChanges);
            if (pick is null && !returns && !slip.Signatures.Any(s => step.Seats.Any(x => x.Key == s.Seat) && s.Picks.Any(p => p.Choice == choice.Key)))
                return new Refusal("pick-missing", $"Pick how the package goes on: “{choice.Name}”.");
            if (pick is not null && !choice.Ways.Any(w => w.Key == pick.Way))
                return new Refusal("pick-wrong", $"“{choice.Name}” has no such way any more. Pick again.");
        }
        return null;
    }
}
