using System.Collections.Immutable;
using System.Text.Json;
using Froe.Core.Calendar;
using Froe.Core.Routing;
using Froe.Store;

namespace Froe.Server.Packages;

/// <summary>A package held under its lock.</summary>
public sealed record HeldPackage(Slip Slip, string Number, string Title, Guid Originator, ImmutableArray<OpenRequest> Requests, int LastNote, string? Answer);

/// <summary>What a decision changed.</summary>
/// <param name="Reason">For the record.</param>
public sealed record SlipChange(Guid Package, string Number, string Title, Slip After, ImmutableArray<SlipEvent> Events, string Reason);

/// <summary>Loading a slip under lock and writing what a decision did to it: tables, ledger and messages in one transaction.</summary>
public sealed class SlipStore(WorkingCalendar calendar)
{
    /// <summary>A slip as the database keeps it.</summary>
    public static string Write(Slip slip) => JsonSerializer.Serialize(slip, Act.Json);

    /// <summary>A slip as the database keeps it.</summary>
    public static Slip Read(string json) => JsonSerializer.Deserialize<Slip>(json, Act.Json)!;

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
        // A package whose chain the read below does not find has none yet.
        act.NewChain(package);
        await act.ReadAsync(
            [
                ("SELECT slip::text, number, title, originator, last_note FROM package WHERE id = $1 FOR UPDATE", [package],
                    r => held = new HeldPackage(Read(r.GetString(0)), r.GetString(1), r.GetString(2), r.GetGuid(3), [], r.GetInt32(4), null)),
                (Act.HeadSql, [package], act.Head),
                ("SELECT number, document_id, round, author, standing FROM note WHERE package_id = $1 AND kind = 'request' AND standing IN ('open', 'answered')", [package],
                    r => requests.Add(new OpenRequest(r.GetInt32(0), r.GetGuid(1), r.GetInt32(2), r.GetGuid(3), r.GetString(4) == "answered"))),
                ("SELECT answer FROM request_seen WHERE person_id = $1 AND key = $2", [act.Person, key ?? Guid.Empty], r => answer = r.GetString(0)),
            ],
            stop);
        return held is null ? null : held with { Requests = requests.ToImmutable(), Answer = answer };
    }

    /// <summary>The answer given to a request of this key before, or null.</summary>
    public async Task<T?> SeenAsync<T>(Act act, Guid key, CancellationToken stop)
        where T : class
    {
        ArgumentNullException.ThrowIfNull(act);
        // Two requests of one key at once: the second waits here until the first has committed or failed.
        await act.ListAsync("SELECT pg_advisory_xact_lock(hashtextextended($1::text, 0))::text", r => r.GetString(0), [key], stop);
        var seen = await act.ListAsync("SELECT answer FROM request_seen WHERE person_id = $1 AND key = $2", r => r.GetString(0), [act.Person, key], stop);
        return seen.Count > 0 ? JsonSerializer.Deserialize<T>(seen[0], Act.Json) : null;
    }

    /// <summary>Keeps the answer to a request.</summary>
    public void Remember<T>(Act act, Guid key, T answer)
    {
        ArgumentNullException.ThrowIfNull(act);
        act.Write("INSERT INTO request_seen (person_id, key, at, answer) VALUES ($1, $2, $3, $4)", act.Person, key, act.At.UtcDateTime, JsonSerializer.Serialize(answer, Act.Json));
    }

    /// <summary>Writes a decision: the slip, whose signature is awaited, the ledger, what release and return do to documents, and the messages.</summary>
    public async Task RecordAsync(Act act, SlipChange change, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(act);
        ArgumentNullException.ThrowIfNull(change);
        var (slip, package) = (change.After, change.Package);
        act.Write(
            "UPDATE package SET slip = $2::jsonb, round = $3, standing = $4, ended_at = CASE WHEN $4 = 'released' THEN $5 ELSE ended_at END WHERE id = $1",
            package, Write(slip), slip.Round, Word(slip.Standing), act.At.UtcDateTime);
        WriteAwaited(act, change);
        foreach (var happened in change.Events)
        {
            await act.AppendAsync(package, Action(happened), happened is StepOpened or StepPassed ? "" : change.Reason, happened, stop);
            switch (happened)
            {
                case PackageReturned returned:
                    act.Write(
                        "UPDATE revision SET standing = 'returned' WHERE id IN (SELECT revision_id FROM package_item WHERE package_id = $1 AND round = $2 AND document_id = ANY ($3))",
                        package, slip.Round, returned.Documents.ToArray());
                    act.Tell(new Message(slip.Originator, $"{change.Number} came back: {change.Title}", "Changes are requested. Answer each request, upload the next drafts and send the package again.", $"/packages/{package}"));
                    break;
                case PackageReleased released:
                    await ReleaseAsync(act, change, released, stop);
                    break;
            }
        }
    }

    private async Task ReleaseAsync(Act act, SlipChange change, PackageReleased released, CancellationToken stop)
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
        foreach (var row in rows)
        {
            var item = released.Items.First(i => i.Document == row.Document);
            await act.AppendAsync(row.Document, "revision released", change.Reason, new { Package = change.Number, Revision = row.Label, item.Draft, item.Sha256 }, stop);
            if (row.Earlier is { } earlier) await act.AppendAsync(row.Document, "revision superseded", change.Reason, new { Revision = earlier, By = row.Label }, stop);
        }
        var informed = await act.ListAsync("SELECT person_id FROM package_informed WHERE package_id = $1", r => r.GetGuid(0), [change.Package], stop);
        foreach (var person in informed.Append(change.After.Originator))
            act.Tell(new Message(person, $"{change.Number} is released: {change.Title}", "Every signature is in. The revisions are locked and can be used; earlier ones are superseded.", $"/packages/{change.Package}"));
    }

    private void WriteAwaited(Act act, SlipChange change)
    {
        var awaited = change.After.Awaited().ToList();
        act.Write(
            "DELETE FROM awaited WHERE package_id = $1 AND (seat, person_id) NOT IN (SELECT * FROM unnest($2::text[], $3::uuid[]))",
            change.Package, awaited.Select(a => a.Seat.Key).ToArray(), awaited.Select(a => a.Person).ToArray());
        var opened = change.Events.OfType<StepOpened>().Select(e => e.Step).ToHashSet();
        var news = awaited.Where(a => opened.Contains(a.Step.Key)).ToList();
        if (news.Count == 0) return;
        act.Write(
            """
            INSERT INTO awaited (person_id, package_id, seat, step, since, due)
            SELECT person, $1, seat, step, $2, due FROM unnest($3::uuid[], $4::text[], $5::text[], $6::timestamptz[]) AS a (person, seat, step, due)
            """,
            change.Package, act.At.UtcDateTime, news.Select(a => a.Person).ToArray(), news.Select(a => a.Seat.Key).ToArray(), news.Select(a => a.Step.Key).ToArray(),
            news.Select(a => calendar.Due(act.At, a.Step.WorkingDays).UtcDateTime).ToArray());
        foreach (var (step, _, person) in news)
            act.Tell(new Message(person, $"{change.Number} waits for your signature: {change.Title}", $"Step “{step.Name}”. {step.Instruction}", $"/packages/{change.Package}"));
    }

    private static string Word(SlipStanding standing) => standing switch
    {
        SlipStanding.Running => "running",
        SlipStanding.Returned => "returned",
        SlipStanding.Released => "released",
        _ => throw new InvalidOperationException("A package that was not sent is not stored."),
    };

    private static string Action(SlipEvent happened) => happened switch
    {
        PackageSent => "package sent",
        StepOpened => "step opened",
        SignedOff { Signature.Returns: true } => "signed, returning",
        SignedOff => "signed",
        StepPassed => "step passed",
        PackageReturned => "package returned",
        PackageSentAgain => "package sent again",
        _ => "package released",
    };
}
