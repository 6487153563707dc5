using System.Collections.Immutable;
using System.Text.Json;
using Froe.Core.Register;
using Froe.Core.Routing;
using Froe.Server.Register;
using Froe.Server.SignIn;
using Froe.Store;

namespace Froe.Server.Packages;

/// <summary>A package held under its lock.</summary>
public sealed record HeldPackage(Slip Slip, string Number, string Title, Guid Originator, ImmutableArray<OpenRequest> Requests, int LastNote, string? Answer)
{
    /// <summary>The plan it was sent with.</summary>
    public Guid? Plan { get; init; }

    /// <summary>Who signs for whom at this moment.</summary>
    public required IReadOnlyDictionary<Guid, Guid> Deputies { get; init; }

    /// <summary>What a decision makes of it.</summary>
    public SlipChange After(Guid package, Decision decision, string reason) =>
        new(package, Number, Title, Slip, SlipRules.Replay(Slip, decision.Events), decision.Events, reason, Deputies) { Plan = Plan };
}

/// <summary>What a decision changed.</summary>
/// <param name="Before">The slip before it.</param>
/// <param name="Reason">For the record.</param>
/// <param name="Deputies">Who signs for whom at this moment.</param>
public sealed record SlipChange(
    Guid Package, string Number, string Title, Slip Before, Slip After, ImmutableArray<SlipEvent> Events, string Reason, IReadOnlyDictionary<Guid, Guid> Deputies)
{
    /// <summary>The plan the package was sent with; null when there was none to choose.</summary>
    public Guid? Plan { get; init; }
}

/// <summary>Loading a slip under lock and writing what a decision did to it: tables, ledger and messages in one transaction.</summary>
public sealed class SlipStore(Schedules schedules)
{
    /// <summary>A slip as the database keeps it.</summary>
    public static string Write(Slip slip) => JsonSerializer.Serialize(slip, Act.Json);

    /// <summary>A slip as the database keeps it.</summary>
    public static Slip Read(string json) => JsonSerializer.Deserialize<Slip>(json, Act.Json)!;

    /// <summary>A plan as the database keeps it.</summary>
    public static Plan ReadPlan(string json) => JsonSerializer.Deserialize<Plan>(json, Act.Json)!;

    /// <summary>Locks a package and reads, in one round trip, all that deciding needs; null when there is none.</summary>
    /// <param name="act">The act under way.</param>
    /// <param name="package">The package.</param>
    /// <param name="key">The request's key: a request seen before comes back with the answer it was given.</param>
    /// <param name="stop">Cancels.</param>
    public async Task<HeldPackage?> LockAsync(Act act, Guid package, Guid? key, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(act);
        HeldPackage? held = null;
        var requests = ImmutableArray.CreateBuilder<OpenRequest>();
        string? answer = null;
        var deputies = new Dictionary<Guid, Guid>();
        // A package whose chain the read below does not find has none yet.
        act.NewChain(package);
        await act.ReadAsync(
            [
                ("SELECT slip::text, number, title, originator, last_note, plan_id FROM package WHERE id = $1 FOR UPDATE", [package],
                    r => held = new HeldPackage(Read(r.GetString(0)), r.GetString(1), r.GetString(2), r.GetGuid(3), [], r.GetInt32(4), null) { Plan = r.IdOrNull(5), Deputies = deputies }),
                (Schedules.StandInsSql, [act.At.UtcDateTime], r => deputies.Add(r.GetGuid(0), r.GetGuid(1))),
                (Act.HeadSql, [package], act.Head),
                ("SELECT number, document_id, round, author, standing FROM note WHERE package_id = $1 AND kind = 'request' AND standing IN ('open', 'answered')", [package],
                    r => requests.Add(new OpenRequest(r.GetInt32(0), r.GetGuid(1), r.GetInt32(2), r.GetGuid(3), r.GetString(4) == "answered"))),
                ("SELECT answer FROM request_seen WHERE person_id = $1 AND key = $2", [act.Person, key ?? Guid.Empty], r => answer = r.GetString(0)),
            ],
            stop);
        return held is null ? null : held with { Requests = requests.ToImmutable(), Answer = answer };
    }

    /// <summary>The package of a note that a person may see; null when there is none. It is read before the package's lock and may be another under it.</summary>
    public async Task<Guid?> PackageOfAsync(Act act, Who who, Guid note, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(act);
        var packages = await act.ListAsync("SELECT package_id FROM note WHERE id = $1", r => r.GetGuid(0), [note], stop);
        return packages is [var package] && await Access.SeesAsync(act, who, package, stop) ? package : null;
    }

    /// <summary>Writes a decision: the slip, whose signature is awaited, the ledger, what release and return do to documents, and the messages.</summary>
    public async Task RecordAsync(Act act, SlipChange change, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(act);
        ArgumentNullException.ThrowIfNull(change);
        var (slip, package) = (change.After, change.Package);
        act.Write(
            "UPDATE package SET slip = $2::jsonb, round = $3, standing = $4, item_count = $6, held = $7, ended_at = CASE WHEN $4 IN ('released', 'stopped') THEN $5 ELSE ended_at END WHERE id = $1",
            package, Write(slip), slip.Round, Word(slip.Standing), act.At.UtcDateTime, slip.Items.Length, slip.IsHeld);
        if (!slip.Seats.SequenceEqual(change.Before.Seats)) WriteSeats(act, package, slip);
        await WriteAwaitedAsync(act, change, stop);
        WritePassages(act, change);
        var at = change.Before;
        foreach (var happened in change.Events)
        {
            await act.AppendAsync(package, Action(happened), happened is StepOpened or StepPassed or WayTaken ? "" : change.Reason, happened, stop);
            await EffectAsync(act, change, at, happened, stop);
            at = SlipRules.Evolve(at, happened);
        }
        if (slip.IsHeld && !change.Before.IsHeld)
            act.Tell(new Message(slip.Originator, $"{change.Number} waits for your answers: {change.Title}", "Everything is signed. What was approved as noted must be answered before it is released.", $"/packages/{package}"));
    }

    /// <summary>What an event does outside the slip.</summary>
    private static async Task EffectAsync(Act act, SlipChange change, Slip at, SlipEvent happened, CancellationToken stop)
    {
        var (slip, package) = (change.After, change.Package);
        var link = $"/packages/{package}";
        switch (happened)
        {
            case StepPassed passed:
                await TellAsync(act, change, passed.Step, Moment.Passage, "passed", stop);
                break;
            case SignedOff { Signature: { Returns: true } signature }:
                await TellAsync(act, change, slip.StepOf(signature.Seat).Key, Moment.Return, "was returned", stop);
                break;
            case SignatureTakenBack back:
                act.Write("UPDATE sign_off SET stands = false WHERE package_id = $1 AND seat = $2 AND person_id = $3 AND stands", package, back.Seat, back.Person);
                break;
            case StepReturned returned:
                KeepStanding(act, package, returned.Kept);
                break;
            case PackageSentAgain again:
                KeepStanding(act, package, again.Kept);
                break;
            case PackageReturned returned:
                // Pulled back without anybody's return, every document is the originator's to change.
                var documents = returned.Documents.IsEmpty ? slip.Items.Select(i => i.Document).ToArray() : [.. returned.Documents];
                Stand(act, change, "returned", documents);
                act.Tell(new Message(slip.Originator, $"{change.Number} came back: {change.Title}", "Changes are requested. Answer each request, upload the next drafts and send the package again.", link));
                break;
            case PackageStopped stopped:
                Stand(act, change, "in work", [.. slip.Items.Select(i => i.Document)]);
                foreach (var person in change.Before.Awaited().Select(a => a.Person).Append(slip.Originator).Distinct())
                    act.Tell(new Message(person, $"{change.Number} is {(stopped.Recalled ? "recalled" : "stopped")}: {change.Title}", $"Nothing is to be signed any more. {change.Reason}", link));
                break;
            case SeatHandedOver over:
                act.Tell(new Message(over.From, $"Your seat in {change.Number} was handed over: {change.Title}", change.Reason, link));
                // Where the step is open already, they are told that it waits for them.
                if (!slip.Open.Contains(slip.StepOf(over.Seat).Key))
                    act.Tell(new Message(over.To, $"You hold a seat in {change.Number} now: {change.Title}", $"Step “{slip.StepOf(over.Seat).Name}” is not open yet. {change.Reason}", link));
                break;
            case ItemsSplitOff split:
                await SplitOffAsync(act, change, at, split, stop);
                break;
            case PackageReleased released:
                await ReleaseAsync(act, change, released, stop);
                break;
        }
    }

    private static void Stand(Act act, SlipChange change, string standing, Guid[] documents) => act.Write(
        "UPDATE revision SET standing = $4 WHERE id IN (SELECT revision_id FROM package_item WHERE package_id = $1 AND round = $2 AND document_id = ANY ($3))",
        change.Package, change.After.Round, documents, standing);

    private static void KeepStanding(Act act, Guid package, ImmutableArray<Signature> kept) => act.Write(
        "UPDATE sign_off SET stands = false WHERE package_id = $1 AND stands AND (seat, person_id) NOT IN (SELECT * FROM unnest($2::text[], $3::uuid[]))",
        package, kept.Select(k => k.Seat).ToArray(), kept.Select(k => k.Person).ToArray());

    /// <summary>Returned items become a package of their own, back with the originator, with their requests.</summary>
    private static async Task SplitOffAsync(Act act, SlipChange change, Slip at, ItemsSplitOff split, CancellationToken stop)
    {
        var id = Guid.CreateVersion7();
        var number = await NextNumberAsync(act, stop);
        var slip = SlipRules.SplitOff(at, split.Items);
        var documents = split.Items.Select(i => i.Document).ToArray();
        act.NewChain(id);
        act.Write(
            """
            INSERT INTO package (id, number, title, note, originator, sent_at, round_at, round, standing, slip, item_count, plan_id, edition, last_note, split_from)
            SELECT $2, $3, title, note, originator, $4, $4, $5, 'returned', $6::jsonb, $7, plan_id, edition, last_note, id FROM package WHERE id = $1
            """,
            change.Package, id, number, act.At.UtcDateTime, slip.Round, Write(slip), split.Items.Length);
        act.Write("INSERT INTO package_informed SELECT $2, person_id FROM package_informed WHERE package_id = $1", change.Package, id);
        act.Write(
            """
            WITH gone AS (DELETE FROM package_item WHERE package_id = $1 AND round = $3 AND document_id = ANY ($4) RETURNING document_id, revision_id, draft_id, position)
            INSERT INTO package_item (package_id, round, position, document_id, revision_id, draft_id) SELECT $2, $3, row_number() OVER (ORDER BY position), document_id, revision_id, draft_id FROM gone
            """,
            change.Package, id, change.After.Round, documents);
        // The first item's place is what lists look for.
        act.Write(
            """
            UPDATE package_item i SET position = -n.position FROM (SELECT document_id, row_number() OVER (ORDER BY position) AS position FROM package_item WHERE package_id = $1 AND round = $2) n
            WHERE i.package_id = $1 AND i.round = $2 AND i.document_id = n.document_id
            """,
            change.Package, change.After.Round);
        act.Write("UPDATE package_item SET position = -position WHERE package_id = $1 AND round = $2", change.Package, change.After.Round);
        WriteSeats(act, id, slip);
        // What was said of these items is shown where they are now; the signatures stay in the package they were given in as well.
        var drafts = split.Items.Select(i => i.Draft).ToArray();
        act.Write(
            """
            INSERT INTO sign_off (id, package_id, round, seat, person_id, at, statement, remark, for_person, answers)
            SELECT md5(id::text || $2::text)::uuid, $2, round, seat, person_id, at, statement, remark, for_person, answers FROM sign_off s
            WHERE package_id = $1 AND stands AND EXISTS (SELECT 1 FROM verdict v WHERE v.sign_off_id = s.id AND v.draft_id = ANY ($3))
            """,
            change.Package, id, drafts);
        act.Write(
            """
            INSERT INTO verdict (sign_off_id, draft_id, sha256, verdict, reason)
            SELECT md5(s.id::text || $2::text)::uuid, v.draft_id, v.sha256, v.verdict, v.reason FROM verdict v JOIN sign_off s ON s.id = v.sign_off_id
            WHERE s.package_id = $1 AND s.stands AND v.draft_id = ANY ($3)
            """,
            change.Package, id, drafts);
        act.Write("UPDATE note SET package_id = $2 WHERE package_id = $1 AND document_id = ANY ($3)", change.Package, id, documents);
        act.Write("UPDATE advice SET package_id = $1 WHERE note_id IN (SELECT id FROM note WHERE package_id = $1)", id);
        act.Write("UPDATE revision SET standing = 'returned' WHERE id IN (SELECT revision_id FROM package_item WHERE package_id = $1)", id);
        await act.AppendAsync(id, "split off", change.Reason, new SplitFrom(change.Number, slip) as SlipEvent, stop);
        act.Tell(new Message(slip.Originator, $"{number} came back: {change.Title}", $"{(documents.Length == 1 ? "An item" : $"{documents.Length} items")} of {change.Number} came back as a package of their own; the others go on. Answer each request, upload the next drafts and send it again.", $"/packages/{id}"));
    }

    /// <summary>The next package's number.</summary>
    public static async Task<string> NextNumberAsync(Act act, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(act);
        return "PK-" + (await act.ListAsync("SELECT nextval('package_number')", r => r.GetInt64(0), [], stop))[0].ToString("0000", System.Globalization.CultureInfo.InvariantCulture);
    }

    /// <summary>Tells whom a step names for a moment.</summary>
    private static async Task TellAsync(Act act, SlipChange change, string step, Moment moment, string what, CancellationToken stop)
    {
        var about = change.After.Plan.Steps().First(s => s.Key == step);
        foreach (var person in await ToldAsync(act, change.After, about.Tells.Where(t => t.At == moment), stop))
            act.Tell(new Message(person, $"{change.Number}: step “{about.Name}” {what}: {change.Title}", change.Reason, $"/packages/{change.Package}"));
    }

    /// <summary>Whom tellings of a step name.</summary>
    public static async Task<IEnumerable<Guid>> ToldAsync(Act act, Slip slip, IEnumerable<Telling> tellings, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(act);
        ArgumentNullException.ThrowIfNull(slip);
        var people = new HashSet<Guid>();
        foreach (var telling in tellings)
        {
            people.UnionWith(telling.People);
            if (telling.Originator) people.Add(slip.Originator);
            if (!telling.Groups.IsEmpty) people.UnionWith(await act.ListAsync("SELECT person_id FROM group_member WHERE group_id = ANY ($1)", r => r.GetGuid(0), [telling.Groups.ToArray()], stop));
            if (telling.LastEditor) people.UnionWith(await act.ListAsync("SELECT DISTINCT uploaded_by FROM draft WHERE id = ANY ($1)", r => r.GetGuid(0), [slip.Items.Select(i => i.Draft).ToArray()], stop));
        }
        return people;
    }

    private static async Task ReleaseAsync(Act act, SlipChange change, PackageReleased released, CancellationToken stop)
    {
        var documents = released.Items.Select(i => i.Document).ToArray();
        var rows = await act.ListAsync(
            """
            SELECT i.document_id, i.revision_id, r.label, (SELECT o.label FROM revision o WHERE o.document_id = i.document_id AND o.standing = 'released')
            FROM package_item i JOIN revision r ON r.id = i.revision_id
            WHERE i.package_id = $1 AND i.round = $2 AND i.document_id IN (SELECT id FROM document WHERE id = ANY ($3) ORDER BY id FOR UPDATE)
            """,
            r => (Document: r.GetGuid(0), Revision: r.GetGuid(1), Label: r.GetString(2), Earlier: r.TextOrNull(3)), [change.Package, change.After.Round, documents], stop);
        act.Write("UPDATE revision SET standing = 'superseded' WHERE document_id = ANY ($1) AND standing = 'released'", documents);
        act.Write("UPDATE revision SET standing = 'released', released_at = $2 WHERE id = ANY ($1)", rows.Select(r => r.Revision).ToArray(), act.At.UtcDateTime);
        await act.HeadsAsync(documents, stop);
        foreach (var row in rows)
        {
            var item = released.Items.First(i => i.Document == row.Document);
            await act.AppendAsync(row.Document, "revision released", change.Reason, new { Package = change.Number, Revision = row.Label, item.Draft, item.Sha256 }, stop);
            if (row.Earlier is { } earlier) await act.AppendAsync(row.Document, "revision superseded", change.Reason, new { Revision = earlier, By = row.Label }, stop);
        }
        var informed = await act.ListAsync("SELECT person_id FROM package_informed WHERE package_id = $1", r => r.GetGuid(0), [change.Package], stop);
        var plan = change.After.Plan;
        var groups = plan.Closing.OfType<InformGroup>().Select(c => c.Group).ToArray();
        if (groups.Length > 0) informed.AddRange(await act.ListAsync("SELECT person_id FROM group_member WHERE group_id = ANY ($1)", r => r.GetGuid(0), [groups], stop));
        foreach (var place in plan.Closing.OfType<FileUnder>())
            await Shelves.FileAsync(act, documents, Folders.Normal(place.Folder), place.Copy, "", change.Number, stop);
        foreach (var next in plan.Closing.OfType<OpenFollowUp>())
        {
            var prepared = Guid.CreateVersion7();
            act.Write(
                """
                INSERT INTO prepared_package (id, person_id, at, title, note, plan_id, documents, answers, because)
                SELECT $2, k.originator, $3, $4, k.note, (SELECT id FROM plan WHERE id = $5), '{}', $6::jsonb, $7 FROM package k WHERE k.id = $1
                """,
                change.Package, prepared, act.At.UtcDateTime, next.Title.Trim().Length > 0 ? next.Title.Trim() : change.Title, next.Plan, JsonSerializer.Serialize(change.After.Facts.Answers, Act.Json), $"Follows {change.Number}, which is released.");
            await act.AppendAsync(change.Package, "next package prepared", "", new { next.Title, next.Plan }, stop);
            act.Tell(new Message(change.After.Originator, $"A package is prepared for you: {(next.Title.Trim().Length > 0 ? next.Title.Trim() : change.Title)}", $"It follows {change.Number}. Choose its documents and send it.", $"/send?prepared={prepared}"));
        }
        foreach (var person in informed.Append(change.After.Originator).Distinct())
            act.Tell(new Message(person, $"{change.Number} is released: {change.Title}", "Every signature is in. The revisions are locked and can be used; earlier ones are superseded.", $"/packages/{change.Package}"));
    }

    private async Task WriteAwaitedAsync(Act act, SlipChange change, CancellationToken stop)
    {
        var awaited = change.After.Awaited().ToList();
        act.Write(
            "DELETE FROM awaited WHERE package_id = $1 AND (seat, person_id) NOT IN (SELECT * FROM unnest($2::text[], $3::uuid[]))",
            change.Package, awaited.Select(a => a.Seat.Key).ToArray(), awaited.Select(a => a.Person).ToArray());
        // A step that opens anew begins its time anew, though the same people be awaited.
        var opened = change.Events.OfType<StepOpened>().Select(e => e.Step).ToHashSet();
        var before = change.Before.Awaited().Select(a => (a.Seat.Key, a.Person)).ToHashSet();
        var news = awaited.Where(a => opened.Contains(a.Step.Key) || !before.Contains((a.Seat.Key, a.Person))).ToList();
        foreach (var step in opened) await TellAsync(act, change, step, Moment.Arrival, "is open", stop);
        if (news.Count == 0) return;
        var workers = await schedules.WorkersAsync(act, news.Select(n => n.Person), stop);
        var dues = news.Select(a => DueOf(a.Step, act.At, workers[a.Person])).ToList();
        act.Write(
            """
            INSERT INTO awaited (person_id, package_id, seat, step, since, due, nudge_at)
            SELECT person, $1, seat, step, $2, due, nudge FROM unnest($3::uuid[], $4::text[], $5::text[], $6::timestamptz[], $7::timestamptz[]) AS a (person, seat, step, due, nudge)
            ON CONFLICT (package_id, seat, person_id) DO UPDATE SET step = excluded.step, since = excluded.since, due = excluded.due, nudge_at = excluded.nudge_at
            """,
            change.Package, act.At.UtcDateTime, news.Select(a => a.Person).ToArray(), news.Select(a => a.Seat.Key).ToArray(), news.Select(a => a.Step.Key).ToArray(),
            dues.Select(d => d.UtcDateTime).ToArray(), news.Select((a, i) => (DateTime?)Lateness.Next(Lateness.Of(a.Step, act.At, dues[i], workers[a.Person]), act.At)?.At.UtcDateTime).ToArray());
        foreach (var (step, _, person) in news)
        {
            act.Tell(new Message(person, $"{change.Number} waits for your signature: {change.Title}", $"Step “{step.Name}”. {step.Instruction}", $"/packages/{change.Package}"));
            if (change.Deputies.TryGetValue(person, out var deputy))
                act.Tell(new Message(deputy, $"{change.Number} waits for your signature as deputy: {change.Title}", $"Step “{step.Name}”. {step.Instruction}", $"/packages/{change.Package}"));
        }
    }

    /// <summary>Who holds a seat, open or to come: how packages are found by person.</summary>
    private static void WriteSeats(Act act, Guid package, Slip slip)
    {
        var people = slip.Seats.SelectMany(s => s.People).Distinct().ToArray();
        act.Write("DELETE FROM package_seat WHERE package_id = $1 AND person_id <> ALL ($2)", package, people);
        act.Write("INSERT INTO package_seat (package_id, person_id) SELECT $1, unnest($2::uuid[]) ON CONFLICT DO NOTHING", package, people);
    }

    /// <summary>When a signature awaited since a moment is due.</summary>
    public static DateTimeOffset DueOf(Step step, DateTimeOffset since, Worker worker)
    {
        ArgumentNullException.ThrowIfNull(step);
        ArgumentNullException.ThrowIfNull(worker);
        return worker.Always.Add(since, TimeSpan.FromMinutes((double)(step.WorkingDays * worker.MinutesADay)));
    }

    /// <summary>Notes when steps open and pass: what forecasts draw from. Steps passed by rule say nothing of how long people take.</summary>
    private static void WritePassages(Act act, SlipChange change)
    {
        var opened = change.Events.OfType<StepOpened>().Select(e => e.Step).ToArray();
        var passed = change.Events.OfType<StepPassed>().Where(e => e.ByRule.Length == 0).Select(e => e.Step).Except(opened).ToArray();
        if (opened.Length > 0)
            act.Write(
                """
                INSERT INTO step_passage (package_id, round, step, plan_id, opened_at) SELECT $1, $2, unnest($3::text[]), $4::uuid, $5
                ON CONFLICT (package_id, round, step) DO UPDATE SET opened_at = excluded.opened_at, passed_at = NULL
                """,
                change.Package, change.After.Round, opened, change.Plan, act.At.UtcDateTime);
        if (passed.Length > 0)
            act.Write("UPDATE step_passage SET passed_at = $4 WHERE package_id = $1 AND round = $2 AND step = ANY ($3)", change.Package, change.After.Round, passed, act.At.UtcDateTime);
    }

    private static string Word(SlipStanding standing) => standing switch
    {
        SlipStanding.Running => "running",
        SlipStanding.Returned => "returned",
        SlipStanding.Released => "released",
        SlipStanding.Stopped => "stopped",
        _ => throw new InvalidOperationException("A package that was not sent is not stored."),
    };

    private static string Action(SlipEvent happened) => happened switch
    {
        PackageSent => "package sent",
        StepOpened => "step opened",
        WayTaken => "way taken",
        SignedOff { Signature: { Returns: true, For: not null } } => "signed as deputy, returning",
        SignedOff { Signature.Returns: true } => "signed, returning",
        SignedOff { Signature.For: not null } => "signed as deputy",
        SignedOff => "signed",
        SignatureTakenBack => "signature taken back",
        StepPassed { ByRule.Length: > 0 } => "step passed by rule",
        StepPassed => "step passed",
        StepReturned => "returned to a step",
        PackageReturned { Documents.IsEmpty: true } => "package pulled back",
        PackageReturned => "package returned",
        PackageSentAgain => "package sent again",
        PackageStopped { Recalled: true } => "package recalled",
        PackageStopped => "package stopped",
        SeatHandedOver => "seat handed over",
        SeatFilled { Seat.Skipped: true } => "seat skipped",
        SeatFilled => "seat filled",
        PlanAmended => "plan amended",
        ItemsSplitOff => "items split off",
        NotedAnswered => "noted answered",
        _ => "package released",
    };
}
