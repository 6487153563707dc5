using System.Collections.Immutable;
using System.Text.Json;
using Froe.Core.Register;
using Froe.Core.Routing;
using Froe.Server.Absences;
using Froe.Server.Changes;
using Froe.Server.Register;
using Froe.Server.SignIn;
using Froe.Store;
using Npgsql;

namespace Froe.Server.Packages;

/// <summary>A package to be sent.</summary>
/// <param name="Key">Made by the sender's page once for this package, so that sending twice sends once.</param>
/// <param name="Inform">People to hear of the outcome.</param>
/// <param name="Answers">The plan's intake form, by field key.</param>
/// <param name="Chosen">Whom the sender chose, by seat key.</param>
/// <param name="Told">Whom the sender wants told, where the plan asks.</param>
/// <param name="Prepared">The prepared package that this was; it is gone once sent.</param>
/// <param name="ChangeOrder">Number of the change order that it carries out, if it does.</param>
public sealed record NewPackage(
    Guid Key, string Title, string CoveringNote, Guid Plan, Guid[] Documents, Guid[] Inform, Dictionary<string, string>? Answers = null, Dictionary<string, Guid>? Chosen = null, ToldPeople[]? Told = null, Guid? Prepared = null, Saying? Say = null, string? ChangeOrder = null);

/// <summary>The next round of a returned package.</summary>
/// <param name="Key">Made by the page once for this round.</param>
/// <param name="Documents">What it holds; the same as before when missing. Documents may be left out and others taken in.</param>
/// <param name="Answers">The plan's intake form as corrected; as it was when missing.</param>
/// <param name="Inform">People besides those who are informed already.</param>
/// <param name="ChangeOrder">Number of the change order that it carries out, as corrected; as it was when missing.</param>
public sealed record NextRound(string CoveringNote, Guid? Key = null, Guid[]? Documents = null, Dictionary<string, string>? Answers = null, Guid[]? Inform = null, Saying? Say = null, string? ChangeOrder = null);

/// <summary>A package that was sent.</summary>
public sealed record SentPackage(Guid Id, string Number, int Round);

/// <summary>Sending packages, first and again.</summary>
public sealed class Sending(Database database, Recording recording, Announcements changes, TimeProvider clock)
{
    private const string LatestDraftSql =
        """
        SELECT d.id, r.id, w.id, w.sha256, r.standing, d.number, d.originator, d.kind, d.discipline, w.file_name, f.path
        FROM document d
        JOIN folder f ON f.id = d.folder_id
        JOIN LATERAL (SELECT * FROM revision WHERE document_id = d.id ORDER BY ordinal DESC LIMIT 1) r ON true
        JOIN LATERAL (SELECT * FROM draft WHERE revision_id = r.id ORDER BY ordinal DESC LIMIT 1) w ON true
        WHERE d.id = ANY ($1) ORDER BY array_position($1, d.id)
        """;

    private sealed record Latest(Guid Document, Guid Revision, Guid Draft, string Sha256, string Standing, string Number, Guid Originator, DocumentFacts Facts, string Folder);

    /// <summary>Sends documents for review.</summary>
    public async Task<SentPackage> SendAsync(Who who, NewPackage wanted, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(who);
        ArgumentNullException.ThrowIfNull(wanted);
        if (!who.CanSend) throw Refused.Forbidden("You have no right to send packages. Ask your document coordinator.");
        if (string.IsNullOrWhiteSpace(wanted.Title)) throw Refused.Invalid("missing-title", "Give the package a title that says what it is for.");
        if (wanted.Title.Length > 200 || wanted.CoveringNote.Length > 4000) throw Refused.Invalid("too-long", "The title may have 200 characters and the covering note 4,000.");
        await using var act = await Act.BeginAsync(database, who.Id, clock.GetUtcNow(), stop);
        var sent = await RunAsync(act, who, wanted, stop);
        changes.Announce(act, "package", sent.Id);
        return sent;
    }

    /// <summary>Who would be told if a package were sent.</summary>
    public async Task<IReadOnlyCollection<Guid>> ToldAsync(Who who, NewPackage wanted, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(who);
        ArgumentNullException.ThrowIfNull(wanted);
        if (!who.CanSend) throw Refused.Forbidden("You have no right to send packages. Ask your document coordinator.");
        await using var act = await Act.BeginAsync(database, who.Id, clock.GetUtcNow(), true, stop);
        await RunAsync(act, who, wanted, stop);
        return act.Told;
    }

    private async Task<SentPackage> RunAsync(Act act, Who who, NewPackage wanted, CancellationToken stop)
    {
        if (await act.SeenAsync<SentPackage>(wanted.Key, stop) is { } sent) return sent;
        await CarryingOver.HoldAsync(act, wanted.Documents, Guid.Empty, stop);
        // The documents' rows are locked in one order, so that two packages for one document exclude each other without a deadlock.
        await act.ListAsync("SELECT id FROM document WHERE id = ANY ($1) ORDER BY id FOR NO KEY UPDATE", r => r.GetGuid(0), [wanted.Documents], stop);
        var latest = await LatestAsync(act, wanted.Documents, stop);
        // What is not there, or not for this person to know of, is never left out without a word.
        if (wanted.Documents.Distinct().Count() is var asked && latest.Count(l => l.Originator == who.Id || Visibility.Sees(who.Rights, l.Folder)) < asked) throw Refused.Missing(asked == 1 ? "document" : "document among these");
        await DemandSendableAsync(act, who, latest, stop);
        var plans = await act.ListAsync(
            "SELECT e.body::text, e.edition FROM plan p JOIN plan_edition e ON e.plan_id = p.id AND e.edition = p.edition WHERE p.id = $1 AND NOT p.retired",
            r => (Plan: JsonSerializer.Deserialize<Plan>(r.GetString(0), Act.Json)!, Edition: r.GetInt32(1)), [wanted.Plan], stop);
        if (plans.Count == 0) throw Refused.Missing("plan");
        await DemandPeopleAsync(act, plans[0].Plan, wanted.Answers, stop);
        var groups = await People.FillingAsync(act, stop);
        var unsettled = await CarryingOver.FindAsync(act, wanted.Documents, Guid.Empty, stop);
        var items = latest.Select(l => new SlipItem(l.Document, l.Draft, l.Sha256)).ToImmutableArray();
        var decision = SlipRules.Decide(Slip.Blank, new Send(who.Id, plans[0].Plan, items) { Facts = FactsOf(wanted.Answers, latest) with { Title = wanted.Title.Trim(), ChangeOrder = (wanted.ChangeOrder ?? "").Trim() }, Chosen = [.. (wanted.Chosen ?? []).Select(c => new ChosenPerson(c.Key, c.Value))], Told = [.. wanted.Told ?? []] },
            new SlipContext(groups, [.. CarryingOver.Open(unsettled, 0)]) { Signers = await RightsBook.AllWithAsync(act, Right.Sign, latest.Select(l => l.Folder), stop) });
        if (decision.Refusal is { } refusal) throw new Refused(refusal);
        var slip = SlipRules.Replay(Slip.Blank, decision.Events);

        var id = Guid.CreateVersion7();
        var number = await SlipStore.NextNumberAsync(act, stop);
        act.NewChain(id);
        act.Write(
            """
            INSERT INTO package (id, number, title, covering_note, originator, sent_at, round_at, round, standing, slip, item_count, plan_id, edition)
            VALUES ($1, $2, $3, $4, $5, $6, $6, 1, 'in review', $7::jsonb, $8, $9, $10)
            """,
            id, number, wanted.Title.Trim(), wanted.CoveringNote.Trim(), who.Id, act.At.UtcDateTime, SlipStore.Write(slip), items.Length, wanted.Plan, plans[0].Edition);
        act.Write("INSERT INTO package_informed SELECT $1, unnest($2::uuid[]) ON CONFLICT DO NOTHING", id, wanted.Inform.Where(p => p != who.Id).ToArray());
        WriteItems(act, id, 1, latest);
        if (wanted.Prepared is { } prepared) act.Write("DELETE FROM prepared_package WHERE id = $1 AND person_id = $2", prepared, who.Id);
        await recording.RecordAsync(act, id, wanted.Plan, new SlipChange(number, wanted.Title.Trim(), Slip.Blank, decision.Events, wanted.CoveringNote.Trim(), await Schedules.DeputiesAsync(act, stop)) { CoveringNote = wanted.CoveringNote.Trim() }, stop);
        await CarryingOver.BringAsync(act, id, number, who.Id, 0, unsettled, stop);
        await act.HeadsAsync(latest.Select(l => l.Document), stop);
        foreach (var item in latest)
            await act.AppendAsync(item.Document, "sent for review", wanted.CoveringNote.Trim(), new { Package = number, item.Draft, item.Sha256 }, stop);
        var answer = new SentPackage(id, number, 1);
        if (wanted.Say is { } say) await say.AddAsync(act, who, id, $"{number} is sent for review: {wanted.Title.Trim()}", wanted.CoveringNote.Trim(), stop);
        act.Remember(wanted.Key, answer);
        await act.CommitAsync(stop);
        return answer;
    }

    /// <summary>Sends the next round of a returned package with the newest drafts of its documents.</summary>
    public async Task<SentPackage> SendAgainAsync(Who who, Guid package, NextRound wanted, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(who);
        ArgumentNullException.ThrowIfNull(wanted);
        await using var act = await Act.BeginAsync(database, who.Id, clock.GetUtcNow(), stop);
        var sent = await RunAsync(act, who, package, wanted, stop);
        changes.Announce(act, "package", package);
        return sent;
    }

    /// <summary>Who would be told of the next round.</summary>
    public async Task<IReadOnlyCollection<Guid>> ToldAsync(Who who, Guid package, NextRound wanted, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(who);
        ArgumentNullException.ThrowIfNull(wanted);
        await using var act = await Act.BeginAsync(database, who.Id, clock.GetUtcNow(), true, stop);
        await RunAsync(act, who, package, wanted, stop);
        return act.Told;
    }

    private async Task<SentPackage> RunAsync(Act act, Who who, Guid package, NextRound wanted, CancellationToken stop)
    {
        if (wanted.CoveringNote.Length > 4000) throw Refused.Invalid("too-long", "The covering note may have 4,000 characters.");
        if (await act.SeenAsync<SentPackage>(wanted.Key, stop) is { } sent) return sent;
        var held = await SlipStore.LockAsync(act, package, null, stop) ?? throw Refused.Missing("package");
        var before = held.Slip.Items.Select(i => i.Document).ToArray();
        var documents = wanted.Documents?.Distinct().ToArray() ?? before;
        var taken = documents.Except(before).ToArray();
        if (taken.Length > 0) await CarryingOver.HoldAsync(act, taken, package, stop);
        // Those left out are held as well: they are somebody's again.
        await act.ListAsync("SELECT id FROM document WHERE id = ANY ($1) ORDER BY id FOR NO KEY UPDATE", r => r.GetGuid(0), [documents.Union(before).ToArray()], stop);
        var latest = await LatestAsync(act, documents, stop);
        // What is taken in anew is sent like the first time.
        var added = latest.FindAll(l => taken.Contains(l.Document));
        if (added.Count(l => l.Originator == who.Id || Visibility.Sees(who.Rights, l.Folder)) < taken.Length) throw Refused.Missing(taken.Length == 1 ? "document" : "document among these");
        await DemandSendableAsync(act, who, added, stop);
        if (wanted.Answers is not null) await DemandPeopleAsync(act, held.Slip.Plan, wanted.Answers, stop);
        var unsettled = taken.Length > 0 ? await CarryingOver.FindAsync(act, taken, package, stop) : [];
        var facts = held.Slip.Facts with
        {
            Answers = wanted.Answers is { } corrected ? corrected.ToImmutableSortedDictionary(a => a.Key, a => a.Value.Trim()) : held.Slip.Facts.Answers,
            Documents = [.. latest.Select(l => l.Facts)],
            ChangeOrder = (wanted.ChangeOrder ?? held.Slip.Facts.ChangeOrder).Trim(),
        };
        var items = latest.Select(l => new SlipItem(l.Document, l.Draft, l.Sha256)).ToImmutableArray();
        var decision = SlipRules.Decide(held.Slip, new SendAgain(who.Id, items) { Facts = facts }, held.Context with { Signers = taken.Length == 0 ? null : await RightsBook.AllWithAsync(act, Right.Sign, latest.Select(l => l.Folder), stop) });
        if (decision.Refusal is { } refusal) throw new Refused(refusal);
        if (decision.Events.Length == 0) return new SentPackage(package, held.Number, held.Slip.Round);
        var change = held.After(decision, wanted.CoveringNote.Trim()) with { CoveringNote = wanted.CoveringNote.Trim() };
        var slip = change.After;
        act.Write("UPDATE package SET round_at = $2, covering_note = CASE WHEN $3 = '' THEN covering_note ELSE $3 END WHERE id = $1", package, act.At.UtcDateTime, wanted.CoveringNote.Trim());
        WriteItems(act, package, slip.Round, latest);
        if (wanted.Inform is { Length: > 0 } more) act.Write("INSERT INTO package_informed SELECT $1, id FROM person WHERE id = ANY ($2) AND barred_at IS NULL ON CONFLICT DO NOTHING", package, more);
        await recording.RecordAsync(act, package, held.Plan, change, stop);
        // Brought along last: what it is told in has been sent by then.
        await CarryingOver.BringAsync(act, package, held.Number, held.Originator, held.LastNote, unsettled, stop);
        foreach (var left in before.Except(documents)) await act.AppendAsync(left, "left out of package", wanted.CoveringNote.Trim(), new { Package = held.Number, slip.Round }, stop);
        await act.HeadsAsync(latest.Select(l => l.Document), stop);
        foreach (var item in latest)
            await act.AppendAsync(item.Document, "sent for review again", wanted.CoveringNote.Trim(), new { Package = held.Number, slip.Round, item.Draft, item.Sha256 }, stop);
        var answer = new SentPackage(package, held.Number, slip.Round);
        if (wanted.Say is { } say) await say.AddAsync(act, who, package, $"{held.Number}: round {slip.Round} is sent: {held.Title}", wanted.CoveringNote.Trim(), stop);
        act.Remember(wanted.Key, answer);
        await act.CommitAsync(stop);
        return answer;
    }

    /// <summary>Refuses documents that this person may not send, or that cannot be sent now.</summary>
    private static async Task DemandSendableAsync(Act act, Who who, List<Latest> latest, CancellationToken stop)
    {
        foreach (var item in latest)
        {
            // Whoever has the right for the folder sends what several authors made in one package; the owners' seats hold each of them.
            if (!who.Rights.For(Right.Send, item.Folder)) throw Refused.Forbidden($"You have no right to send documents {Shelves.Named(item.Folder)}, where {item.Number} is filed.");
            if (item.Standing is not ("in work" or "returned"))
                throw new Refused(new Refusal("not-in-work", $"{item.Number} is {item.Standing}. Only a revision in work can be sent; upload its next draft first."));
        }
        var elsewhere = await act.ListAsync(
            "SELECT k.number FROM package k JOIN package_item i ON i.package_id = k.id AND i.round = k.round WHERE k.ended_at IS NULL AND i.document_id = ANY ($1)",
            r => r.GetString(0), [latest.Select(l => l.Document).ToArray()], stop);
        if (elsewhere.Count > 0) throw new Refused(new Refusal("in-other-package", $"A document of these is in package {elsewhere[0]} already. Send that one again instead."));
    }

    /// <summary>Refuses a form whose fields for people or documents name some that are not there.</summary>
    private static async Task DemandPeopleAsync(Act act, Plan plan, Dictionary<string, string>? answers, CancellationToken stop)
    {
        foreach (var field in plan.Form.Where(f => f.Kind is FieldKind.Person or FieldKind.Document))
            if (answers?.GetValueOrDefault(field.Key) is { Length: > 0 } given && Guid.TryParse(given, out var id)
                && !await act.AnyAsync(field.Kind == FieldKind.Person ? "SELECT 1 FROM person WHERE id = $1 AND barred_at IS NULL" : "SELECT 1 FROM document WHERE id = $1", [id], stop))
                throw new Refused(new Refusal("form-wrong", $"The form's field “{field.Label}” names a {(field.Kind == FieldKind.Person ? "person" : "document")} that is not there. Choose from the list."));
    }

    private static PackageFacts FactsOf(Dictionary<string, string>? answers, List<Latest> latest) =>
        new((answers ?? []).ToImmutableSortedDictionary(a => a.Key, a => a.Value.Trim()), [.. latest.Select(l => l.Facts)]);

    /// <summary>What rules would know of documents if they were sent now, and who has the right to sign for them.</summary>
    public async Task<(PackageFacts Facts, IReadOnlySet<Guid>? Signers)> FactsAsync(Who who, Dictionary<string, string>? answers, Guid[] documents, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(who);
        var latest = (await database.ListAsync(LatestDraftSql, Row, [documents], stop)).FindAll(l => l.Originator == who.Id || Visibility.Sees(who.Rights, l.Folder));
        if (latest.Count < documents.Distinct().Count()) throw Refused.Missing("document");
        return (FactsOf(answers, latest), await RightsBook.AllWithAsync(database, Right.Sign, latest.Select(l => l.Folder).DefaultIfEmpty(Folders.Root), stop));
    }

    private static Task<List<Latest>> LatestAsync(Act act, Guid[] documents, CancellationToken stop) => act.ListAsync(LatestDraftSql, Row, [documents], stop);

    private static Latest Row(NpgsqlDataReader r) => new(
        r.GetGuid(0), r.GetGuid(1), r.GetGuid(2), r.Hash(3), r.GetString(4), r.GetString(5), r.GetGuid(6),
        new DocumentFacts(r.GetGuid(0), r.GetString(5), r.GetString(7), r.GetString(8), Path.GetExtension(r.GetString(9)).TrimStart('.').ToLowerInvariant(), r.GetGuid(6)), r.GetString(10));

    private static void WriteItems(Act act, Guid package, int round, List<Latest> latest)
    {
        act.Write(
            """
            INSERT INTO package_item (package_id, round, position, document_id, revision_id, draft_id)
            SELECT $1, $2, position, document, revision, draft
            FROM unnest($3::uuid[], $4::uuid[], $5::uuid[]) WITH ORDINALITY AS i (document, revision, draft, position)
            """,
            package, round, latest.Select(l => l.Document).ToArray(), latest.Select(l => l.Revision).ToArray(), latest.Select(l => l.Draft).ToArray());
        act.Write("UPDATE revision SET standing = 'in review' WHERE id = ANY ($1)", latest.Select(l => l.Revision).ToArray());
    }
}
