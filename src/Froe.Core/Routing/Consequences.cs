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

/// <summary>The revisions in review of some documents have another standing.</summary>
public sealed record RevisionsStand(Standing Standing, ImmutableArray<Guid> Documents) : Consequence;

/// <summary>A signature stands no more.</summary>
public sealed record SignatureFalls(string Seat, Guid Person) : Consequence;

/// <summary>Of the signatures that stood, these stand still and no others.</summary>
public sealed record SignaturesKept(ImmutableArray<Signature> Kept) : Consequence;

/// <summary>Items leave the package and are one of their own, back with the originator, with a slip to begin with.</summary>
public sealed record ItemsLeave(ImmutableArray<SlipItem> Items, Slip Slip) : Consequence;

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
public sealed record Audience(ImmutableArray<Guid> People, ImmutableArray<Guid> Groups, bool LastEditors = false, bool Informed = false)
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
        if (!after.Seats.SequenceEqual(before.Seats)) all.Add(new SeatsChanged([.. after.Seats.SelectMany(s => s.People).Distinct()]));
        all.AddRange(Awaiting(change));
        all.AddRange(Passages(change));
        var at = before;
        foreach (var happened in change.Events)
        {
            all.Add(new Entered(Action(happened), happened is StepOpened or StepPassed or WayTaken ? "" : change.Reason, happened));
            all.AddRange(Of(change, at, happened));
            at = SlipRules.Evolve(at, happened);
        }
        if (after.IsHeld && !before.IsHeld)
            all.Add(new Told(Audience.Of(after.Originator), $"{change.Number} waits for your answers: {change.Title}", "Everything is signed. What was approved as noted must be answered before it is released."));
        return all;
    }

    private static IEnumerable<Consequence> Awaiting(SlipChange change)
    {
        var awaited = change.After.Awaited().Select(a => (a.Step, Seat: a.Seat.Key, a.Person)).ToList();
        // A step that opens anew begins its time anew, though the same people be awaited.
        var opened = change.Events.OfType<StepOpened>().Select(e => e.Step).ToHashSet();
        var before = change.Before.Awaited().Select(a => (a.Seat.Key, a.Person)).ToHashSet();
        var anew = awaited.Where(a => opened.Contains(a.Step.Key) || !before.Contains((a.Seat, a.Person))).ToImmutableArray();
        yield return new NowAwaited([.. awaited.Select(a => (a.Seat, a.Person))], anew);
        foreach (var step in opened) yield return Tellings(change, step, Moment.Arrival, "is open");
        foreach (var (step, _, person) in anew)
        {
            var body = $"Step “{step.Name}”. {step.Instruction}";
            yield return new Told(Audience.Of(person), $"{change.Number} waits for your signature: {change.Title}", body);
            if (change.Deputies.TryGetValue(person, out var deputy))
                yield return new Told(Audience.Of(deputy), $"{change.Number} waits for your signature as deputy: {change.Title}", body);
        }
    }

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
            SignedOff { Signature: { Returns: true } signature } => [Tellings(change, slip.StepOf(signature.Seat).Key, Moment.Return, "was returned")],
            SignatureTakenBack back => [new SignatureFalls(back.Seat, back.Person), .. TakenBack(change, at, back)],
            StepReturned returned => [new SignaturesKept(returned.Kept)],
            PackageSentAgain again => [new SignaturesKept(again.Kept)],
            PackageReturned returned => Return(change, at, returned),
            PackageStopped stopped =>
            [
                new RevisionsStand(Standing.InWork, [.. slip.Items.Select(i => i.Document)]),
                new Told(
                    Concerned(change, at) with { Informed = true },
                    $"{change.Number} is {(stopped.Recalled ? "recalled" : "stopped")}: {change.Title}", $"Nothing is to be signed any more. {change.Reason}"),
            ],
            SeatHandedOver over => HandedOver(change, over),
            ItemsSplitOff split => [new ItemsLeave(split.Items, SlipRules.SplitOff(at, split.Items))],
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

    /// <summary>The originator, whoever was to sign and whoever has.</summary>
    private static Audience Concerned(SlipChange change, Slip at) =>
        new([.. change.Before.Awaited().Select(a => a.Person).Concat(at.Signatures.Select(s => s.Person)).Append(at.Originator).Distinct()], []);

    private static IEnumerable<Consequence> Return(SlipChange change, Slip at, PackageReturned returned)
    {
        // When nobody returned anything, every document is the originator's to change.
        yield return new RevisionsStand(Standing.Returned, returned.Documents.IsEmpty ? [.. at.Items.Select(i => i.Document)] : returned.Documents);
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
        foreach (var next in closing.OfType<OpenFollowUp>()) yield return new FollowUpPrepared(next, next.Title.Trim().Length > 0 ? next.Title.Trim() : change.Title);
        yield return new Told(
            new Audience([change.After.Originator, .. change.After.Signatures.Select(s => s.Person).Distinct().Where(p => p != change.After.Originator)], [.. closing.OfType<InformGroup>().Select(c => c.Group)], Informed: true),
            $"{change.Number} is released: {change.Title}", (change.After.Signatures.IsEmpty ? $"Released without signatures. {(change.Reason.Length > 0 ? change.Reason : change.After.Plan.NeedsNoSignature)}".TrimEnd() + " " : "Every signature is in. ")
                + "The revisions are locked and can be used; earlier ones are superseded.");
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
