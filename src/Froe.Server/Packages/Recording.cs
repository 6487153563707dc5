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
                PackageWrites.Revisions(act, package, slip.Round, stand.Standing, stand.Documents);
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
        foreach (var person in await PackageWrites.PeopleAsync(act, package, slip, told.To, stop)) act.Tell(new Message(person, told.Subject, told.Body, $"/packages/{package}"));
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
