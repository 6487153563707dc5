using Froe.Core.Register;
using Froe.Core.Routing;
using Froe.Server.Absences;
using Froe.Server.Register;
using Froe.Store;

namespace Froe.Server.Packages;

/// <summary>Writes down what follows from a decision (<see cref="Consequences"/>): tables, ledger and messages in one transaction. It decides nothing.</summary>
public sealed class Recording(Schedules schedules)
{
    /// <summary>Writes a change down.</summary>
    /// <param name="plan">The plan the package was sent with; null when there was none to choose.</param>
    public async Task RecordAsync(Act act, Guid package, Guid? plan, SlipChange change, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(act);
        ArgumentNullException.ThrowIfNull(change);
        PackageWrites.Slip(act, package, change.After);
        foreach (var consequence in Consequences.Of(change)) await WriteAsync(act, package, plan, change, consequence, stop);
    }

    private async Task WriteAsync(Act act, Guid package, Guid? plan, SlipChange change, Consequence consequence, CancellationToken stop)
    {
        var slip = change.After;
        switch (consequence)
        {
            case Entered entry:
                await act.AppendAsync(package, entry.Action, entry.Reason, entry.Happened, stop);
                break;
            case Told told:
                await TellAsync(act, package, slip, told, stop);
                break;
            case SeatsChanged seats:
                PackageWrites.Seats(act, package, seats.People);
                break;
            case NowAwaited awaited:
                await AwaitAsync(act, package, awaited, stop);
                break;
            case StepsMoved moved:
                PackageWrites.Passages(act, package, plan, slip.Round, moved);
                break;
            case RevisionsStand stand:
                PackageWrites.Revisions(act, package, stand.Round, stand.Standing, stand.Documents);
                break;
            case OriginatorAwaited answering:
                await AnswerAsync(act, package, slip, answering, stop);
                break;
            case OriginatorIs now:
                await OriginatorAsync(act, package, change, now, stop);
                break;
            case ItemLeaves leaving:
                PackageWrites.ItemLeaves(act, package, slip.Round, leaving.Item.Document);
                break;
            case SignatureFalls falls:
                PackageWrites.SignatureFalls(act, package, falls.Seat, falls.Person);
                break;
            case SignaturesKept kept:
                PackageWrites.SignaturesKept(act, package, kept.Kept);
                break;
            case ItemsLeave left:
                await SplitOffAsync(act, package, change, left, stop);
                break;
            case RevisionsReleased released:
                await ReleaseAsync(act, package, change, released, stop);
                break;
            case DocumentsFiled filed:
                await Shelves.FileAsync(act, [.. filed.Documents], Folders.Normal(filed.Folder), filed.IsCopy, "", change.Number, stop);
                break;
            case FollowUpPrepared next:
                await PrepareAsync(act, package, change, next, stop);
                break;
            default: throw new InvalidOperationException($"Nobody writes down a {consequence.GetType().Name}.");
        }
    }

    private static async Task TellAsync(Act act, Guid package, Slip slip, Told told, CancellationToken stop)
    {
        var people = await PackageWrites.PeopleAsync(act, package, slip, told.To, stop);
        foreach (var person in people) act.Tell(Message.OfPackage(package, person, told.Subject, told.Body));
    }

    /// <summary>The originator's time begins, by the plan's days and their own working time; or nothing is awaited of them any more.</summary>
    private async Task AnswerAsync(Act act, Guid package, Slip slip, OriginatorAwaited awaited, CancellationToken stop)
    {
        if (awaited is not { IsAwaited: true, Answering: { } answering })
        {
            PackageWrites.AnswerAwaited(act, package, awaited.IsAwaited, null, null);
            return;
        }
        var worker = (await schedules.WorkersAsync(act, [slip.Originator], stop))[slip.Originator];
        var due = Lateness.Due(answering.WorkingDays, act.At, worker);
        PackageWrites.AnswerAwaited(act, package, true, due, Lateness.Next(Lateness.Of(answering, act.At, due, worker), act.At)?.At);
    }

    private static async Task OriginatorAsync(Act act, Guid package, SlipChange change, OriginatorIs now, CancellationToken stop)
    {
        var documents = await PackageWrites.OriginatorAsync(act, package, now, stop);
        await act.HeadsAsync(documents, stop);
        foreach (var document in documents) await act.AppendAsync(document, "originator changed", change.Reason, new { now.From, now.To, Package = change.Number }, stop);
    }

    private async Task AwaitAsync(Act act, Guid package, NowAwaited awaited, CancellationToken stop)
    {
        var workers = awaited.Anew.IsEmpty ? null : await schedules.WorkersAsync(act, awaited.Anew.Select(n => n.Person), stop);
        PackageWrites.Awaits(act, package, awaited.All, [.. awaited.Anew.Select(a =>
        {
            var worker = workers![a.Person];
            var due = Lateness.Due(a.Step, act.At, worker);
            return new PackageWrites.Awaited(a.Person, a.Seat, a.Step.Key, due, Lateness.Next(Lateness.Of(a.Step, act.At, due, worker), act.At)?.At);
        })]);
    }

    /// <summary>Returned items become a package of their own, back with the originator, with their requests.</summary>
    private static async Task SplitOffAsync(Act act, Guid package, SlipChange change, ItemsLeave left, CancellationToken stop)
    {
        var id = Guid.CreateVersion7();
        var number = await SlipStore.NextNumberAsync(act, stop);
        act.NewChain(id);
        PackageWrites.SplitOff(act, package, id, number, change.After.Round, left);
        SlipEvent began = new SplitFrom(change.Number, left.Slip);
        await act.AppendAsync(id, Consequences.Action(began), change.Reason, began, stop);
        await TellAsync(act, id, left.Slip, Consequences.CameBack(change, left, number), stop);
    }

    private static async Task ReleaseAsync(Act act, Guid package, SlipChange change, RevisionsReleased released, CancellationToken stop)
    {
        var documents = released.Items.Select(i => i.Document).ToArray();
        var rows = await PackageWrites.ReleaseAsync(act, package, change.After.Round, documents, stop);
        // Read before the writes of this act are sent: what is released still is what is superseded by it.
        var users = await act.ListAsync(
            "SELECT DISTINCT u.person_id, r.document_id, d.number, r.label FROM revision r JOIN revision_use u ON u.revision_id = r.id JOIN document d ON d.id = r.document_id WHERE r.document_id = ANY ($1) AND r.standing = 'released'",
            r => (Person: r.GetGuid(0), Document: r.GetGuid(1), Number: r.GetString(2), Label: r.GetString(3)), [documents], stop);
        foreach (var user in users)
            act.Tell(new Message(user.Person, $"{user.Number}: revision {user.Label} is superseded", $"Revision {rows.Find(r => r.Document == user.Document)?.Label} is released, and takes the place of the one you got for use.", $"/register/{user.Document}"));
        await act.HeadsAsync(documents, stop);
        foreach (var row in rows)
        {
            var item = released.Items.First(i => i.Document == row.Document);
            await act.AppendAsync(row.Document, "revision released", change.Reason, new { Package = change.Number, Revision = row.Label, item.Draft, item.Sha256 }, stop);
            if (row.Earlier is { } earlier) await act.AppendAsync(row.Document, "revision superseded", change.Reason, new { Revision = earlier, By = row.Label }, stop);
        }
    }

    private static async Task PrepareAsync(Act act, Guid package, SlipChange change, FollowUpPrepared next, CancellationToken stop)
    {
        var prepared = Guid.CreateVersion7();
        PackageWrites.Prepare(act, package, prepared, next, change.After.Facts.Answers, $"Follows {change.Number}, which is released.");
        await act.AppendAsync(package, "next package prepared", "", new { next.Next.Title, next.Next.Plan }, stop);
        act.Tell(new Message(change.After.Originator, $"A package is prepared for you: {next.Title}", $"It follows {change.Number}. Choose its documents and send it.", $"/send?prepared={prepared}"));
    }
}
