using System.Collections.Immutable;
using Froe.Core.Draft;

namespace Froe.Core.Routing;

/// <summary>One thing that follows from what happened to a slip, to be written down by whoever keeps the books. A value: nothing has been done yet.</summary>
public abstract record Consequence;

/// <summary>An entry of the package's chain in the ledger.</summary>
public sealed record Entered(string Action, string Reason, SlipEvent Happened) : Consequence;

/// <summary>People are told something.</summary>
public sealed record Told(Audience To, string Subject, string Body) : Consequence;

/// <summary>Seats have other people.</summary>
public sealed record SeatsChanged(ImmutableArray<Guid> People) : Consequence;

/// <summary>Whose signatures are awaited now.</summary>
/// <param name="All">Everybody, by seat; whoever else was awaited is no more.</param>
/// <param name="Anew">Those whose time begins now: their step opened, or they were not awaited before.</param>
public sealed record NowAwaited(ImmutableArray<(string Seat, Guid Person)> All, ImmutableArray<(Step Step, string Seat, Guid Person)> Anew) : Consequence;

/// <summary>Steps that opened, and steps that people passed: what forecasts draw from. Steps passed by rule say nothing of how long people take.</summary>
public sealed record StepsMoved(ImmutableArray<string> Opened, ImmutableArray<string> Passed) : Consequence;

/// <summary>The revisions of some documents of a round have another standing.</summary>
/// <param name="Round">The round whose revisions they are.</param>
public sealed record RevisionsStand(Standing Standing, ImmutableArray<Guid> Documents, int Round) : Consequence;

/// <summary>The package waits for its originator from now on, or does so no more.</summary>
/// <param name="Answering">How long they have; null when the plan says nothing.</param>
public sealed record OriginatorAwaited(bool IsAwaited, Answering? Answering) : Consequence;

/// <summary>The package, and those of its documents that were the former originator's, are somebody else's.</summary>
public sealed record OriginatorIs(Guid From, Guid To, ImmutableArray<Guid> Documents) : Consequence;

/// <summary>A document is in the package no more.</summary>
public sealed record ItemLeaves(SlipItem Item) : Consequence;

/// <summary>A signature stands no more.</summary>
public sealed record SignatureFalls(string Seat, Guid Person) : Consequence;

/// <summary>Of the signatures that stood, these stand still and no others.</summary>
public sealed record SignaturesKept(ImmutableArray<Signature> Kept) : Consequence;

/// <summary>Items leave the package and are one of their own, back with the originator, with a slip to begin with.</summary>
/// <param name="Drafts">Theirs that were judged, of earlier rounds too.</param>
public sealed record ItemsLeave(ImmutableArray<SlipItem> Items, ImmutableArray<Guid> Drafts, Slip Slip) : Consequence;

/// <summary>The revisions are released and locked, those before superseded.</summary>
public sealed record RevisionsReleased(ImmutableArray<SlipItem> Items) : Consequence;

/// <summary>Released documents are filed at a place.</summary>
public sealed record DocumentsFiled(ImmutableArray<Guid> Documents, string Folder, bool IsCopy) : Consequence;

/// <summary>A package is prepared for the originator to send.</summary>
public sealed record FollowUpPrepared(OpenFollowUp Next, string Title) : Consequence;

/// <summary>Who is told: people by name, and those whom only the books can name.</summary>
/// <param name="Groups">All members of these.</param>
/// <param name="LastEditors">Whoever uploaded the drafts under review.</param>
/// <param name="Informed">Whom the sender named to hear of the outcome.</param>
/// <param name="Asked">Whoever was asked for advice and has not given it.</param>
public sealed record Audience(ImmutableArray<Guid> People, ImmutableArray<Guid> Groups, bool LastEditors = false, bool Informed = false, bool Asked = false)
{
    /// <summary>One person.</summary>
    public static Audience Of(Guid person) => new([person], []);

    /// <summary>Whom tellings of a step name.</summary>
    public static Audience Of(Slip slip, IEnumerable<Telling> tellings)
    {
        ArgumentNullException.ThrowIfNull(slip);
        var all = tellings.ToList();
        return new(
            [.. all.SelectMany(t => t.Originator ? t.People.Append(slip.Originator) : t.People).Distinct()],
            [.. all.SelectMany(t => t.Groups).Distinct()],
            all.Exists(t => t.LastEditor));
    }
}

/// <summary>What a decision changed.</summary>
/// <param name="Number">The package's number.</param>
/// <param name="Title">Its title.</param>
/// <param name="Before">The slip before.</param>
/// <param name="Events">What happened.</param>
/// <param name="Reason">For the record.</param>
/// <param name="Deputies">Who signs for whom at this moment: the deputy by the absent person.</param>
public sealed record SlipChange(string Number, string Title, Slip Before, ImmutableArray<SlipEvent> Events, string Reason, IReadOnlyDictionary<Guid, Guid> Deputies)
{
    /// <summary>The sender's words with the round under way.</summary>
    public string CoveringNote { get; init; } = "";

    /// <summary>The slip after.</summary>
    public Slip After { get; } = SlipRules.Replay(Before, Events);
}

/// <summary>
/// What follows from what happened to a slip: who is awaited and told, in which words; where revisions stand; what is entered in the ledger;
/// what a release does. The one place that says so, whoever writes it down.
/// </summary>
public static class Consequences
{
    /// <summary>All that follows from a change, in the order in which it is to be written down.</summary>
    public static IReadOnlyList<Consequence> Of(SlipChange change)
    {
        ArgumentNullException.ThrowIfNull(change);
        var (before, after) = (change.Before, change.After);
        var all = new List<Consequence>();
        if (!after.Seats.SequenceEqual(before.Seats)) all.Add(new SeatsChanged([.. after.Seated()]));
        all.AddRange(Awaiting(change));
        all.AddRange(Passages(change));
        if (WaitsForOriginator(after) != WaitsForOriginator(before) || after.Round != before.Round || change.Events.Any(e => e is OriginatorChanged)) all.Add(new OriginatorAwaited(WaitsForOriginator(after), after.Plan.Answering));
        var at = before;
        foreach (var happened in change.Events)
        {
            all.Add(new Entered(Action(happened), happened is StepOpened or StepPassed or WayTaken ? "" : change.Reason, happened));
            all.AddRange(Of(change, at, happened));
            at = SlipRules.Evolve(at, happened);
        }
        var differed = before.Differing().Select(d => d.Choice).ToHashSet();
        foreach (var differing in after.Differing().Where(d => !differed.Contains(d.Choice)))
            all.Add(new Told(
                new Audience([.. differing.Picked.Select(p => p.Person).Append(after.Originator).Distinct()], []), $"{change.Number}: the signers picked different ways: {change.Title}",
                $"“{after.Plan.Choices().First(c => c.Key == differing.Choice).Name}” was answered in different ways, so the step waits until they agree. Whoever changes their mind takes their signature back and signs again; a coordinator can take one back for them."));
        if (after.IsHeld && !before.IsHeld)
            all.Add(new Told(Audience.Of(after.Originator), $"{change.Number} waits for your answers: {change.Title}", "Everything is signed. What was approved as noted must be answered before it is released."));
        return all;
    }

    /// <summary>Whether a package is its originator's to go on with.</summary>
    public static bool WaitsForOriginator(Slip slip)
    {
        ArgumentNullException.ThrowIfNull(slip);
        return slip.Standing == SlipStanding.Returned || slip.IsHeld;
    }

    /// <summary>Who is waited for, in which seat: whoever is to sign, and whoever must agree on a way with the other signers of their step.</summary>
    public static IEnumerable<(Step Step, string Seat, Guid Person)> WaitedFor(Slip slip)
    {
        ArgumentNullException.ThrowIfNull(slip);
        return slip.Awaited().Select(a => (a.Step, a.Seat.Key, a.Person)).Union(Differing(slip));
    }

    private static IEnumerable<Consequence> Awaiting(SlipChange change)
    {
        var mustSign = change.After.Awaited().Select(a => (a.Step, Seat: a.Seat.Key, a.Person)).ToList();
        // Whoever must agree on a way is told so apart.
        var awaited = WaitedFor(change.After).ToList();
        // A step that opens anew begins its time anew, though the same people be awaited.
        var opened = change.Events.OfType<StepOpened>().Select(e => e.Step).ToHashSet();
        var before = WaitedFor(change.Before).Select(a => (a.Seat, a.Person)).ToHashSet();
        var anew = awaited.Where(a => opened.Contains(a.Step.Key) || !before.Contains((a.Seat, a.Person))).ToImmutableArray();
        yield return new NowAwaited([.. awaited.Select(a => (a.Seat, a.Person))], anew);
        foreach (var step in opened) yield return Tellings(change, step, Moment.Arrival, "is open");
        var back = change.Events.OfType<StepReturned>().Where(e => !e.From.IsEmpty).ToDictionary(e => e.To);
        foreach (var (step, _, person) in anew.Where(mustSign.Contains))
        {
            var (body, subject) = (Asks(change, step), "waits for your signature");
            if (back.TryGetValue(step.Key, out var returned))
                (body, subject) = ($"{CameBackFrom(change.After, returned)} {body}", "came back to you, and waits for your signature");
            yield return new Told(Audience.Of(person), $"{change.Number} {subject}: {change.Title}", body);
            if (change.Deputies.TryGetValue(person, out var deputy))
                yield return new Told(Audience.Of(deputy), $"{change.Number} {subject} as deputy: {change.Title}", body);
        }
    }

    /// <summary>Signatures of open steps whose people must agree on a way.</summary>
    private static IEnumerable<(Step Step, string Seat, Guid Person)> Differing(Slip slip) =>
        slip.Differing().SelectMany(d => d.Picked).Select(p => (slip.StepOf(p.Seat), p.Seat, p.Person)).Distinct();

    /// <summary>What a signer is told who is asked to sign: the round, the sender's words with it, what the step asks, and what was noted so far.</summary>
    private static string Asks(SlipChange change, Step step)
    {
        var words = change.CoveringNote.Trim() is { Length: > 0 } said ? $" “{said}”" : "";
        var noted = change.After.InForce().SelectMany(s => s.Verdicts).Where(v => v.Verdict == Verdict.ApproveAsNoted).Select(v => v.Reason.Trim()).Where(r => r.Length > 0).Distinct().ToList();
        return $"Round {change.After.Round}.{words} Step “{step.Name}”. {step.Instruction}".TrimEnd() + (noted.Count > 0 ? $" Noted so far: {string.Join(" ", noted.Select(n => $"“{n}”"))}" : "");
    }

    private static string CameBackFrom(Slip slip, StepReturned returned) =>
        $"It came back from {string.Join(" and ", returned.From.Select(k => $"“{slip.Plan.Steps().First(s => s.Key == k).Name}”"))}{(returned.Because.Length > 0 ? $", because: {returned.Because}" : "; the requests on it say why.")}";

    private static IEnumerable<Consequence> Passages(SlipChange change)
    {
        var opened = change.Events.OfType<StepOpened>().Select(e => e.Step).ToImmutableArray();
        var passed = change.Events.OfType<StepPassed>().Where(e => e.ByRule.Length == 0).Select(e => e.Step).Except(opened).ToImmutableArray();
        if (opened.Length + passed.Length > 0) yield return new StepsMoved(opened, passed);
    }

    private static Told Tellings(SlipChange change, string step, Moment moment, string what)
    {
        var about = change.After.Plan.Steps().First(s => s.Key == step);
        return new Told(Audience.Of(change.After, about.Tells.Where(t => t.At == moment)), $"{change.Number}: step “{about.Name}” {what}: {change.Title}", change.Reason);
    }

    /// <summary>What an event does outside the slip.</summary>
    /// <param name="at">The slip just before it.</param>
    private static IEnumerable<Consequence> Of(SlipChange change, Slip at, SlipEvent happened)
    {
        var slip = change.After;
        return happened switch
        {
            StepPassed passed => [Tellings(change, passed.Step, Moment.Passage, "passed")],
            SignedOff { Signature: var signature } => Signed(change, signature),
            SignatureTakenBack back => [new SignatureFalls(back.Seat, back.Person), .. TakenBack(change, at, back)],
            StepReturned returned => [new SignaturesKept(returned.Kept), .. BackToStep(change, at, returned)],
            PackageSentAgain again => [new SignaturesKept(again.Kept), .. LeftOut(at, again)],
            OriginatorChanged handed => Handed(change, at, handed),
            ItemTakenOut taken =>
            [
                new ItemLeaves(taken.Item),
                new Told(Concerned(change, at) with { Informed = true }, $"{change.Number} goes on without a document that is withdrawn: {change.Title}", $"What was signed on its other documents stands. {change.Reason}".TrimEnd()),
            ],
            PackageReturned returned => Return(change, at, returned),
            PackageStopped stopped =>
            [
                new RevisionsStand(Standing.InWork, [.. slip.Items.Select(i => i.Document)], slip.Round),
                new Told(
                    Concerned(change, at) with { Informed = true },
                    $"{change.Number} is {(stopped.Recalled ? "recalled" : "stopped")}: {change.Title}", $"Nothing is to be signed any more. {change.Reason}"),
                NoAdvice(change, stopped.Recalled ? "is recalled" : "is stopped"),
            ],
            SeatHandedOver over => HandedOver(change, over),
            SeatFilled filled => Filled(change, at, filled.Seat),
            PlanAmended amended => MoreTime(change, at, amended),
            ItemsSplitOff split => [new ItemsLeave(split.Items, split.Leaving, SlipRules.SplitOff(at, split))],
            PackageReleased released => Release(change, released),
            _ => [],
        };
    }

    /// <summary>Whose signature a coordinator took back to reopen a step hears of it; what people do themselves they are not told.</summary>
    private static IEnumerable<Told> TakenBack(SlipChange change, Slip at, SignatureTakenBack back)
    {
        var step = at.StepOf(back.Seat);
        if (at.Passed.Contains(step.Key))
            yield return new Told(Audience.Of(back.Person), $"{change.Number}: step “{step.Name}” is open again, and waits for you: {change.Title}", $"Your signature was taken back. {change.Reason}".TrimEnd());
    }

    private static IEnumerable<Told> Signed(SlipChange change, Signature signature)
    {
        var step = change.After.StepOf(signature.Seat);
        if (signature.Returns) yield return Tellings(change, step.Key, Moment.Return, "was returned");
        if (signature.For is { } absent)
            yield return new Told(Audience.Of(absent), $"{change.Number} is signed for you: {change.Title}", $"Your deputy signed in step “{step.Name}”{(signature.Returns ? ", returning it" : "")}. {change.Reason}".TrimEnd());
    }

    /// <summary>A return to an earlier step: its signers are told as they are asked to sign again; the originator, and whose signature fell, here.</summary>
    private static IEnumerable<Told> BackToStep(SlipChange change, Slip at, StepReturned returned)
    {
        var to = at.Plan.Steps().First(s => s.Key == returned.To);
        var subject = $"{change.Number} went back to step “{to.Name}”: {change.Title}";
        var why = returned.From.IsEmpty ? change.Reason : CameBackFrom(change.After, returned);
        yield return new Told(Audience.Of(at.Originator), subject, why);
        var asked = change.After.Awaited().Select(a => a.Person).ToHashSet();
        var fell = at.Signatures.Except(returned.Kept).Where(s => !s.Returns).Select(s => s.Person).Where(p => !asked.Contains(p)).Distinct().ToImmutableArray();
        if (!fell.IsEmpty) yield return new Told(new Audience(fell, []), subject, $"Your signature stands no more; you are asked again when it comes to you. {why}");
    }

    /// <summary>Documents that the next round leaves out are their originators' again.</summary>
    private static IEnumerable<Consequence> LeftOut(Slip at, PackageSentAgain again)
    {
        var left = at.Items.Select(i => i.Document).Except(again.Items.Select(i => i.Document)).ToImmutableArray();
        if (!left.IsEmpty) yield return new RevisionsStand(Standing.InWork, left, at.Round);
    }

    private static IEnumerable<Consequence> Handed(SlipChange change, Slip at, OriginatorChanged handed)
    {
        yield return new OriginatorIs(handed.From, handed.To, [.. at.Items.Select(i => i.Document)]);
        yield return new Told(Audience.Of(handed.To), $"{change.Number} is yours now: {change.Title}", $"You are its originator from now on{(at.Standing == SlipStanding.Returned ? ", and it waits for your answers" : "")}. {change.Reason}");
        yield return new Told(Audience.Of(handed.From), $"{change.Number} is somebody else's now: {change.Title}", $"It has another originator from now on. {change.Reason}");
    }

    private static Told NoAdvice(SlipChange change, string ended) =>
        new(new Audience([], [], Asked: true), $"{change.Number}: your advice is not needed any more: {change.Title}", $"The package {ended}, so the question asked of you falls away.");

    /// <summary>A seat that was filled anew or skipped: who lost it, who got it, and who shares it now.</summary>
    private static IEnumerable<Told> Filled(SlipChange change, Slip at, FilledSeat seat)
    {
        // Filled by itself as its step opened: its people are told that it waits for them.
        if (at.SeatOf(seat.Key) is not { People.IsEmpty: false } before) yield break;
        var (step, after) = (change.After.StepOf(seat.Key), change.After);
        var signed = at.SignaturesIn(seat.Key).Select(s => s.Holder).ToHashSet();
        Told To(IEnumerable<Guid> people, string subject, string body) => new(new Audience([.. people], []), $"{change.Number}: {subject}: {change.Title}", $"{body} {change.Reason}".TrimEnd());
        if (seat.Skipped)
        {
            yield return To(before.People.Where(p => !signed.Contains(p)), "your signature is not needed any more", $"Step “{step.Name}” goes on without it.");
            yield break;
        }
        yield return To(before.People.Except(seat.People), "you hold a seat no more", $"Somebody else signs in step “{step.Name}”.");
        var joined = seat.People.Except(before.People).ToList();
        if (!after.Open.Contains(step.Key)) yield return To(joined, "you hold a seat now", $"Step “{step.Name}” is not open yet.");
        if (joined.Count > 0) yield return To(before.People.Intersect(seat.People).Where(p => !signed.Contains(p)), "you share your seat now", $"In step “{step.Name}”, {seat.Needed} of {seat.People.Length} must sign.");
    }

    /// <summary>Whoever is awaited in an open step hears that it has more time.</summary>
    private static IEnumerable<Told> MoreTime(SlipChange change, Slip at, PlanAmended amended)
    {
        foreach (var step in amended.Plan.Steps().Where(s => change.After.Open.Contains(s.Key) && at.Plan.Steps().FirstOrDefault(o => o.Key == s.Key) is { } old && old.WorkingDays < s.WorkingDays))
            yield return new Told(
                new Audience([.. change.After.Awaited().Where(a => a.Step.Key == step.Key).Select(a => a.Person).Distinct()], []), $"{change.Number}: you have more time: {change.Title}",
                $"Step “{step.Name}” has {step.WorkingDays:0.##} working days now. {change.Reason}".TrimEnd());
    }

    /// <summary>The originator, whoever was to sign, or for them, and whoever has.</summary>
    private static Audience Concerned(SlipChange change, Slip at) =>
        new([.. change.Before.Awaited().Select(a => a.Person).SelectMany(p => change.Deputies.TryGetValue(p, out var deputy) ? new[] { p, deputy } : [p]).Concat(at.Signatures.Select(s => s.Person)).Append(at.Originator).Distinct()], []);

    private static IEnumerable<Consequence> Return(SlipChange change, Slip at, PackageReturned returned)
    {
        // When nobody returned anything, every document is the originator's to change.
        yield return new RevisionsStand(Standing.Returned, returned.Documents.IsEmpty ? [.. at.Items.Select(i => i.Document)] : returned.Documents, at.Round);
        if (returned.SignAgain) yield return new SignaturesKept([]);
        var (subject, toOriginator, toOthers) = returned.Cause switch
        {
            ReturnCause.PulledBack => ($"{change.Number} is pulled back: {change.Title}", $"A coordinator gave it back to you. {change.Reason}", $"A coordinator gave it back to its originator; nothing is to be signed until it comes again. {change.Reason}"),
            ReturnCause.Recalled => ($"{change.Number} is recalled: {change.Title}", "", $"Its originator took it back; nothing is to be signed until it comes again. {change.Reason}"),
            _ => ($"{change.Number} came back: {change.Title}", "Changes are requested. Answer each request, upload the next drafts and send the package again.", $"Changes are requested; it is with its originator. {change.Reason}"),
        };
        if (toOriginator.Length > 0) yield return new Told(Audience.Of(at.Originator), subject, toOriginator);
        yield return new Told(Concerned(change, at) with { Informed = true }, subject, toOthers.TrimEnd());
    }

    private static IEnumerable<Consequence> HandedOver(SlipChange change, SeatHandedOver over)
    {
        yield return new Told(Audience.Of(over.From), $"Your seat in {change.Number} was handed over: {change.Title}", change.Reason);
        // Where the step is open already, they are told that it waits for them.
        if (change.After.StepOf(over.Seat) is var step && !change.After.Open.Contains(step.Key))
            yield return new Told(Audience.Of(over.To), $"You hold a seat in {change.Number} now: {change.Title}", $"Step “{step.Name}” is not open yet. {change.Reason}");
    }

    private static IEnumerable<Consequence> Release(SlipChange change, PackageReleased released)
    {
        var closing = change.After.Plan.Closing;
        yield return new RevisionsReleased(released.Items);
        foreach (var place in closing.OfType<FileUnder>()) yield return new DocumentsFiled([.. released.Items.Select(i => i.Document)], place.Folder, place.Copy);
        foreach (var picked in closing.OfType<FileWherePicked>())
            if (change.After.Signatures.LastOrDefault(s => s.Folder is not null && change.After.StepOf(s.Seat).Key == picked.Step)?.Folder is { } folder)
                yield return new DocumentsFiled([.. released.Items.Select(i => i.Document)], folder, picked.Copy);
        foreach (var next in closing.OfType<OpenFollowUp>()) yield return new FollowUpPrepared(next, next.Title.Trim().Length > 0 ? next.Title.Trim() : change.Title);
        yield return new Told(
            new Audience([change.After.Originator, .. change.After.Signatures.Select(s => s.Person).Distinct().Where(p => p != change.After.Originator)], [.. closing.OfType<InformGroup>().Select(c => c.Group)], Informed: true),
            $"{change.Number} is released: {change.Title}", (change.After.Signatures.IsEmpty ? $"Released without signatures. {(change.Reason.Length > 0 ? change.Reason : change.After.Plan.NeedsNoSignature)}".TrimEnd() + " " : "Every signature is in. ")
                + "The revisions are locked and can be used; earlier ones are superseded.");
        yield return NoAdvice(change, "is released");
    }

    /// <summary>What the ledger calls an event.</summary>
    public static string Action(SlipEvent happened) => happened switch
    {
        PackageSent => "package sent",
        StepOpened => "step opened",
        WayTaken => "way taken",
        SignedOff { Signature: { Returns: true, For: not null } } => "signed as deputy, returning",
        SignedOff { Signature.Returns: true } => "signed, returning",
        SignedOff { Signature.For: not null } => "signed as deputy",
        SignedOff => "signed",
        SignatureTakenBack => "signature taken back",
        StepReopened => "step reopened",
        StepPassed { ByRule.Length: > 0 } => "step passed by rule",
        StepPassed => "step passed",
        StepReturned => "returned to a step",
        PackageReturned { Cause: ReturnCause.PulledBack } => "package pulled back",
        PackageReturned { Cause: ReturnCause.Recalled } => "package recalled",
        PackageReturned => "package returned",
        PackageSentAgain => "package sent again",
        PackageReleased => "package released",
        PackageStopped { Recalled: true } => "package recalled",
        PackageStopped => "package stopped",
        SeatHandedOver => "seat handed over",
        SeatFilled { Seat.Skipped: true } => "seat skipped",
        SeatFilled => "seat filled",
        PlanAmended => "plan amended",
        ItemsSplitOff => "items split off",
        SplitFrom => "split off",
        NotedAnswered => "noted answered",
        OriginatorChanged => "originator changed",
        ItemTakenOut => "item taken out",
        _ => throw new ArgumentException($"There is no word for {happened?.GetType().Name}.", nameof(happened)),
    };

    /// <summary>What its originator is told of items that came back as a package of their own.</summary>
    /// <param name="number">Its number.</param>
    public static Told CameBack(SlipChange change, ItemsLeave left, string number)
    {
        ArgumentNullException.ThrowIfNull(change);
        ArgumentNullException.ThrowIfNull(left);
        return new Told(
            Audience.Of(left.Slip.Originator), $"{number} came back: {change.Title}",
            $"{(left.Items.Length == 1 ? "An item" : $"{left.Items.Length} items")} of {change.Number} came back as a package of their own; the others go on. Answer each request, upload the next drafts and send it again.");
    }
}
