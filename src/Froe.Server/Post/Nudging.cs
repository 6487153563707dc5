using Froe.Core.Routing;
using Froe.Server.Absences;
using Froe.Server.Changes;
using Froe.Server.Packages;
using Froe.Store;

namespace Froe.Server.Post;

/// <summary>Reminds signers before they are late, and tells whom the plan names when they are. It never decides anything: nothing is approved by lapse of time.</summary>
public sealed class Nudging(Database database, Schedules schedules, Announcements changes, TimeProvider clock, ILogger<Nudging> log) : BackgroundService
{
    private static readonly TimeSpan Idle = TimeSpan.FromSeconds(5);

    private sealed record Due(Guid Person, string Seat, string Step, DateTimeOffset Since, DateTimeOffset At, DateTimeOffset NudgeAt);

    /// <inheritdoc/>
    protected override Task ExecuteAsync(CancellationToken stoppingToken) => Steadily.RepeatAsync(
        "Reminding",
        async stop =>
        {
            // One after the other, so that neither kind waits for all of the other.
            var (signers, originators) = (await NudgeNextAsync(stop), await NudgeOriginatorAsync(stop));
            if (!signers && !originators) await Task.Delay(Idle, stop);
        },
        Idle, log, stoppingToken);

    /// <summary>Does what is due on one package; false when nothing is, or another server is at it.</summary>
    public async Task<bool> NudgeNextAsync(CancellationToken stop)
    {
        await using var act = await Act.BeginAsync(database, Guid.Empty, clock.GetUtcNow(), stop);
        // The package's row is the lock, as for a sign-off: a signature given meanwhile ends the reminder.
        var packages = await act.ListAsync(
            """
            SELECT k.id, k.number, k.title, k.slip::text FROM package k
            WHERE k.id = (SELECT package_id FROM awaited WHERE nudge_at <= $1 ORDER BY nudge_at LIMIT 1) FOR NO KEY UPDATE SKIP LOCKED
            """,
            r => (Id: r.GetGuid(0), Number: r.GetString(1), Title: r.GetString(2), Slip: SlipStore.Read(r.GetString(3))), [act.At.UtcDateTime], stop);
        if (packages.Count == 0) return false;
        var (package, number, title, slip) = packages[0];
        var rows = await act.ListAsync(
            "SELECT person_id, seat, step, since, due, nudge_at FROM awaited WHERE package_id = $1 AND nudge_at <= $2",
            r => new Due(r.GetGuid(0), r.GetString(1), r.GetString(2), r.Time(3), r.Time(4), r.Time(5)), [package, act.At.UtcDateTime], stop);
        var workers = await schedules.WorkersAsync(act, rows.Select(r => r.Person), stop);
        var deputies = await Schedules.DeputiesAsync(act, stop);
        foreach (var row in rows)
        {
            // A row of a step that the slip's plan has no more wakes nobody again.
            if (slip.Plan.Steps().FirstOrDefault(s => s.Key == row.Step) is not { } step)
            {
                act.Write("UPDATE awaited SET nudge_at = NULL WHERE package_id = $1 AND seat = $2 AND person_id = $3", package, row.Seat, row.Person);
                continue;
            }
            var nudges = Lateness.Of(step, row.Since, row.At, workers[row.Person]);
            foreach (var nudge in nudges.Where(n => n.At >= row.NudgeAt && n.At <= act.At))
            {
                if (!nudge.IsLate || nudge.Days == 0)
                    foreach (var person in deputies.TryGetValue(row.Person, out var deputy) ? new[] { row.Person, deputy } : [row.Person])
                        act.Tell(Message.OfPackage(
                            package, person, nudge.IsLate ? $"{number} is late: your signature was due: {title}" : $"Reminder: {number} is due in {nudge.Days} working {(nudge.Days == 1 ? "day" : "days")}: {title}",
                            $"Step “{step.Name}”. {step.Instruction}"));
                if (nudge.IsLate) await LateAsync(act, package, number, title, slip, step, row, nudge.Days, stop);
            }
            act.Write("UPDATE awaited SET nudge_at = $4::timestamptz WHERE package_id = $1 AND seat = $2 AND person_id = $3", package, row.Seat, row.Person, Lateness.Next(nudges, act.At)?.At.UtcDateTime);
        }
        await act.CommitAsync(stop);
        changes.Announce(act, "package", package);
        return true;
    }

    /// <summary>Reminds the originator of one package that waits for their answers, and tells whom the plan names when it is late; false when nothing is due.</summary>
    public async Task<bool> NudgeOriginatorAsync(CancellationToken stop)
    {
        await using var act = await Act.BeginAsync(database, Guid.Empty, clock.GetUtcNow(), stop);
        var packages = await act.ListAsync(
            """
            SELECT k.id, k.number, k.title, k.slip::text, a.since, a.due, a.nudge_at FROM package k JOIN awaited_answer a ON a.package_id = k.id
            WHERE k.id = (SELECT package_id FROM awaited_answer WHERE nudge_at <= $1 ORDER BY nudge_at LIMIT 1) AND a.due IS NOT NULL FOR NO KEY UPDATE OF k SKIP LOCKED
            """,
            r => (Id: r.GetGuid(0), Number: r.GetString(1), Title: r.GetString(2), Slip: SlipStore.Read(r.GetString(3)), Since: r.Time(4), Due: r.Time(5), NudgeAt: r.Time(6)), [act.At.UtcDateTime], stop);
        if (packages.Count == 0) return false;
        var (package, number, title, slip, since, due, nudgeAt) = packages[0];
        if (slip.Plan.Answering is not { } answering)
        {
            // The plan was changed meanwhile, and sets no time any more.
            PackageWrites.NudgeAnswer(act, package, null);
            await act.CommitAsync(stop);
            return true;
        }
        var worker = (await schedules.WorkersAsync(act, [slip.Originator], stop))[slip.Originator];
        var nudges = Lateness.Of(answering, since, due, worker);
        var deputies = await Schedules.DeputiesAsync(act, stop);
        foreach (var nudge in nudges.Where(n => n.At >= nudgeAt && n.At <= act.At))
        {
            if (!nudge.IsLate || nudge.Days == 0)
                foreach (var person in deputies.TryGetValue(slip.Originator, out var deputy) ? new[] { slip.Originator, deputy } : [slip.Originator])
                    act.Tell(Message.OfPackage(
                        package, person, nudge.IsLate ? $"{number} is late: your answers were due: {title}" : $"Reminder: your answers on {number} are due in {nudge.Days} working {(nudge.Days == 1 ? "day" : "days")}: {title}",
                        "Answer each request, upload the next drafts and send the package again."));
            if (nudge.IsLate)
            {
                var people = await PackageWrites.PeopleAsync(act, package, slip, Audience.Of(slip, answering.Tells.Where(t => t.At == Moment.Late && Math.Max(0, t.AfterDays) == nudge.Days)), stop);
                if (people.Count == 0) continue;
                await act.AppendAsync(package, "answers late", "", new { nudge.Days, Told = people }, stop);
                foreach (var person in people)
                    act.Tell(Message.OfPackage(package, person, $"{number}: its originator's answers are late{(nudge.Days > 0 ? $" by {nudge.Days} working {(nudge.Days == 1 ? "day" : "days")}" : "")}: {title}", "It stays with its originator until they send it again, or a coordinator gives it to somebody else."));
            }
        }
        PackageWrites.NudgeAnswer(act, package, Lateness.Next(nudges, act.At)?.At);
        await act.CommitAsync(stop);
        changes.Announce(act, "package", package);
        return true;
    }

    /// <summary>Tells whom the plan names so many days after the due time: once for a step, however many are late.</summary>
    private static async Task LateAsync(Act act, Guid package, string number, string title, Slip slip, Step step, Due row, int days, CancellationToken stop)
    {
        var first = await act.ListAsync(
            """
            INSERT INTO step_late (package_id, round, step, days, opened_at)
            VALUES ($1, $2, $3, $4, coalesce((SELECT opened_at FROM step_passage WHERE package_id = $1 AND round = $2 AND step = $3), $5)) ON CONFLICT DO NOTHING RETURNING days
            """,
            r => r.GetInt32(0), [package, slip.Round, step.Key, days, row.Since.UtcDateTime], stop);
        if (first.Count == 0) return;
        var people = await PackageWrites.PeopleAsync(act, package, slip, Audience.Of(slip, step.Tells.Where(t => t.At == Moment.Late && Math.Max(0, t.AfterDays) == days)), stop);
        await act.AppendAsync(package, "step late", "", new { Step = step.Key, Days = days, Told = people }, stop);
        foreach (var person in people)
            act.Tell(Message.OfPackage(
                package, person, $"{number}: step “{step.Name}” is late{(days > 0 ? $" by {days} working {(days == 1 ? "day" : "days")}" : "")}: {title}", "A signature is still awaited. It stays awaited until somebody gives it or the seat is handed over."));
    }
}
