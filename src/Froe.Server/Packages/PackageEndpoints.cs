using System.Text.Json;
using Froe.Core.Register;
using Froe.Core.Routing;
using Froe.Server.Register;
using Froe.Server.SignIn;
using Froe.Store;
using Npgsql;

namespace Froe.Server.Packages;

/// <summary>A package in a list.</summary>
/// <param name="Due">When the reader's signature, or the slowest open one, is due; null when nothing is awaited.</param>
/// <param name="Draft">First item's draft, for the picture.</param>
public sealed record PackageRow(
    Guid Id, string Number, string Title, string Note, int Round, string Standing, Guid Originator, string OriginatorName, DateTimeOffset RoundAt, int Items,
    int OpenRequests, string? Step, DateTimeOffset? Since, DateTimeOffset? Due, Guid Draft, Slip Slip, IReadOnlyList<SignedSeat> Signed, string FirstNumber, DateTimeOffset SentAt);

/// <summary>A signature of the running round, for the strip in miniature.</summary>
public sealed record SignedSeat(string Seat, string Initials, DateTimeOffset At, bool Returns);

/// <summary>A package prepared and not sent yet.</summary>
/// <param name="Because">Why it was prepared by itself; empty when its sender put it aside.</param>
public sealed record PreparedRow(Guid Id, DateTimeOffset At, string Title, string Note, Guid? Plan, Guid[] Documents, Dictionary<string, string> Answers, string Because);

/// <summary>A package to put aside.</summary>
public sealed record NewPrepared(Guid Id, string Title, string Note, Guid? Plan, Guid[] Documents, Dictionary<string, string> Answers);

/// <summary>A person's desk, in groups of what is asked of them.</summary>
/// <param name="Opened">Drafts of the packages to sign that the person has had open.</param>
public sealed record DeskView(
    IReadOnlyList<PackageRow> ToSign, IReadOnlyList<PackageRow> ToAnswer, IReadOnlyList<PackageRow> ToAdvise, IReadOnlyList<PackageRow> Waiting, IReadOnlyList<PackageRow> Informed,
    IReadOnlyList<PreparedRow> Prepared, IReadOnlyList<Guid> Opened);

/// <summary>Packages, notes, plans and the desk.</summary>
internal static class PackageEndpoints
{
    private const string RowSql =
        """
        SELECT k.id, k.number, k.title, k.note, k.round, k.standing, k.originator, p.name, k.round_at, k.item_count,
               (SELECT count(*)::int FROM note n WHERE n.package_id = k.id AND n.kind = 'request' AND n.standing IN ('open', 'answered')),
               a.step, a.since, a.due, i.draft_id, k.slip::text, d.number,
               (SELECT coalesce(json_agg(json_build_object('seat', s.seat, 'initials', sp.initials, 'at', s.at,
                       'returns', EXISTS (SELECT 1 FROM verdict v WHERE v.sign_off_id = s.id AND v.verdict = 'returnForChanges'
                           AND v.draft_id IN (SELECT draft_id FROM package_item t WHERE t.package_id = k.id AND t.round = k.round))) ORDER BY s.at), '[]')::text
                FROM sign_off s JOIN person sp ON sp.id = s.person_id WHERE s.package_id = k.id AND s.stands),
               k.sent_at
        FROM package k
        JOIN person p ON p.id = k.originator
        JOIN package_item i ON i.package_id = k.id AND i.round = k.round AND i.position = 1
        JOIN document d ON d.id = i.document_id
        """;

    private const string SlowestSql = " LEFT JOIN LATERAL (SELECT step, since, due FROM awaited WHERE package_id = k.id ORDER BY due LIMIT 1) a ON true ";

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/desk", Desk);
        api.MapPost("/packages", (NewPackage wanted, Who who, Sending sending, CancellationToken stop) => sending.SendAsync(who, wanted, stop));
        api.MapGet("/packages/{id:guid}", Get);
        api.MapGet("/packages/{id:guid}/ledger", Ledger);
        api.MapPost("/packages/{id:guid}/rounds", async (Guid id, NextRound wanted, Who who, Access access, Sending sending, CancellationToken stop) =>
        {
            await access.DemandPackageAsync(who, id, stop);
            return await sending.SendAgainAsync(who, id, wanted, stop);
        });
        api.MapPost("/packages/{id:guid}/sign-offs", async (Guid id, NewSignOff wanted, Who who, Access access, Signing signing, CancellationToken stop) =>
        {
            await access.DemandPackageAsync(who, id, stop);
            return await signing.SignAsync(who, id, wanted, stop);
        });
        api.MapPost("/packages/{id:guid}/acts", async (Guid id, NewSlipAct wanted, Who who, Access access, SlipActs acts, CancellationToken stop) =>
        {
            await access.DemandPackageAsync(who, id, stop);
            await acts.DoAsync(who, id, wanted, stop);
            return TypedResults.NoContent();
        });
        api.MapGet("/packages", Monitor);
        api.MapPost("/packages/{id:guid}/noted", async (Guid id, NewNotedAnswer wanted, Who who, Access access, Signing signing, CancellationToken stop) =>
        {
            await access.DemandPackageAsync(who, id, stop);
            await signing.AnswerNotedAsync(who, id, wanted, stop);
            return TypedResults.NoContent();
        });
        api.MapPost("/packages/{id:guid}/advice", async (Guid id, NewAdvice wanted, Who who, Access access, Advising advising, CancellationToken stop) =>
        {
            await access.DemandPackageAsync(who, id, stop);
            return await advising.AskAsync(who, id, wanted, stop);
        });
        api.MapPost("/advice/{id:guid}", async (Guid id, AdviceAnswer wanted, Who who, Advising advising, CancellationToken stop) =>
        {
            await advising.AnswerAsync(who, id, wanted, stop);
            return TypedResults.NoContent();
        });
        api.MapPost("/sign-offs", async (SignMany wanted, Who who, Many many, CancellationToken stop) => (await many.SignAsync(who, wanted, stop)).AsReadOnly());
        api.MapPost("/hand-overs", async (HandOverAll wanted, Who who, Many many, CancellationToken stop) => (await many.HandOverAllAsync(who, wanted, stop)).AsReadOnly());
        api.MapPost("/drafts/{id:guid}/opened", async (Guid id, Who who, Access access, Database database, TimeProvider clock, CancellationToken stop) =>
        {
            await access.DemandDraftAsync(who, id, stop);
            await database.RunAsync("INSERT INTO draft_opened SELECT $1, id, $3 FROM draft WHERE id = $2 ON CONFLICT DO NOTHING", [who.Id, id, clock.GetUtcNow().UtcDateTime], stop);
            return TypedResults.NoContent();
        });
        api.MapGet("/prepared", async (Who who, Database database, CancellationToken stop) => (await PreparedAsync(who, database, stop)).AsReadOnly());
        api.MapPut("/prepared", Prepare);
        api.MapDelete("/prepared/{id:guid}", async (Guid id, Who who, Database database, CancellationToken stop) =>
        {
            if (await database.RunAsync("DELETE FROM prepared_package WHERE id = $1 AND person_id = $2", [id, who.Id], stop) == 0) throw Refused.Missing("prepared package");
            return TypedResults.NoContent();
        });
        api.MapPost("/packages/{id:guid}/notes", async (Guid id, NewNote wanted, Who who, Access access, Noting noting, CancellationToken stop) =>
        {
            await access.DemandPackageAsync(who, id, stop);
            return await noting.AddAsync(who, id, wanted, stop);
        });
        api.MapPost("/notes/{id:guid}/acts", async (Guid id, NewNoteAct wanted, Who who, Noting noting, CancellationToken stop) =>
        {
            await noting.ActAsync(who, id, wanted, stop);
            return TypedResults.NoContent();
        });
    }

    private static async Task<PackageView> Get(Guid id, Who who, Access access, PackageViews views, CancellationToken stop)
    {
        await access.DemandPackageAsync(who, id, stop);
        return await views.FindAsync(id, who.Id, stop) ?? throw Refused.Missing("package");
    }

    private static async Task<IReadOnlyList<HistoryEntry>> Ledger(Guid id, Who who, Access access, Database database, CancellationToken stop)
    {
        await access.DemandPackageAsync(who, id, stop);
        return await database.ListAsync(
            """
            SELECT e.at, p.name, e.action, e.reason, e.payload, k.number, e.sequence, e.hash
            FROM ledger_entry e JOIN package k ON k.id = e.chain LEFT JOIN person p ON p.id = e.person_id
            WHERE e.chain = $1 ORDER BY e.sequence
            """,
            History, [id], stop);
    }

    /// <summary>A ledger entry as people read it.</summary>
    internal static HistoryEntry History(NpgsqlDataReader r) => new(
        r.Time(0), r.TextOrNull(1), r.GetString(2), r.GetString(3), JsonDocument.Parse(r.GetString(4)).RootElement, r.TextOrNull(5), r.GetInt64(6), r.Hash(7)[..12]);

    /// <summary>Running and finished packages, newest first, in pages by key; late ones only when asked.</summary>
    private static async Task<IReadOnlyList<PackageRow>> Monitor(
        Who who, Database database, CancellationToken stop, string? standing = null, Guid? plan = null, Guid? person = null, string? search = null, string? step = null, bool late = false, DateTimeOffset? beforeTime = null, Guid? beforeId = null)
    {
        if (who.IsGuest) throw Refused.Forbidden("Guests see the packages they take part in, on their desk.");
        const int Most = 50;
        var asked = new Conditions();
        if (standing is not null) asked.Add("k.standing = @1", standing);
        if (plan is { } along) asked.Add("k.plan_id = @1", along);
        if (person is { } of) asked.Add("(k.originator = @1 OR k.id IN (SELECT package_id FROM package_seat WHERE person_id = @1))", of);
        asked.AddWords(search, "k.number ILIKE @1 OR k.title ILIKE @1");
        if (step is not null) asked.Add("EXISTS (SELECT 1 FROM awaited w WHERE w.package_id = k.id AND w.step = @1)", step);
        if (beforeTime is { } before && beforeId is { } beforeOne) asked.Add("(k.sent_at, k.id) < (@1, @2)", before.UtcDateTime, beforeOne);
        if (who.Rights.Places(Right.Read) is { } places)
            asked.Add(
                """
                (k.originator = @2 OR EXISTS (SELECT 1 FROM package_seat w WHERE w.package_id = k.id AND w.person_id = @2)
                 OR EXISTS (SELECT 1 FROM package_item pi JOIN document pd ON pd.id = pi.document_id, unnest(@1::text[]) f WHERE pi.package_id = k.id AND (pd.folder = f OR starts_with(pd.folder, f || ' / '))))
                """,
                places, who.Id);
        // Late ones come by their due time, which no page's key follows: the first fifty are enough to act on. The index of due times is
        // walked until there are enough; a package may wait for several people, so a few more are taken than are shown.
        var ids = await database.SearchAsync(
            late
                ? $"SELECT id FROM (SELECT k.id, w.due FROM awaited w JOIN package k ON k.id = w.package_id WHERE w.due < now() AND {asked} ORDER BY w.due LIMIT {Most * 8}) l GROUP BY id ORDER BY min(due) LIMIT {Most}"
                : $"SELECT k.id FROM package k WHERE {asked} ORDER BY k.sent_at DESC, k.id DESC LIMIT {Most}",
            r => r.GetGuid(0), asked.Values, stop);
        return await RowsAsync(database, ids, stop);
    }

    /// <summary>Packages as lists show them, in the order asked for: ids are found by an index first, and only those rows are read whole.</summary>
    private static async Task<List<PackageRow>> RowsAsync(Database database, IEnumerable<Guid> ids, CancellationToken stop)
    {
        var wanted = ids.Distinct().ToArray();
        return wanted.Length == 0 ? [] : await database.ListAsync($"{RowSql}{SlowestSql} WHERE k.id = ANY ($1) ORDER BY array_position($1, k.id)", Row, [wanted], stop);
    }

    private static Task<List<PreparedRow>> PreparedAsync(Who who, Database database, CancellationToken stop) => database.ListAsync(
        "SELECT id, at, title, note, plan_id, documents, answers::text, because FROM prepared_package WHERE person_id = $1 ORDER BY at DESC LIMIT 100",
        r => new PreparedRow(r.GetGuid(0), r.Time(1), r.GetString(2), r.GetString(3), r.IsDBNull(4) ? null : r.GetGuid(4), r.GetFieldValue<Guid[]>(5), JsonSerializer.Deserialize<Dictionary<string, string>>(r.GetString(6))!, r.GetString(7)), [who.Id], stop);

    /// <summary>Puts a package aside as it stands: nothing typed is lost, nothing is checked yet.</summary>
    private static async Task<IResult> Prepare(NewPrepared wanted, Who who, Database database, TimeProvider clock, CancellationToken stop)
    {
        if (!who.CanSend) throw Refused.Forbidden("You have no right to send packages. Ask your document coordinator.");
        if (wanted.Title.Length > 200 || wanted.Note.Length > 4000 || wanted.Documents.Length > 500 || wanted.Answers.Sum(a => a.Value.Length) > 100_000) throw Refused.Invalid("too-long", "The title may have 200 characters, the note 4,000.");
        var kept = await database.RunAsync(
            """
            INSERT INTO prepared_package (id, person_id, at, title, note, plan_id, documents, answers, because) VALUES ($1, $2, $3, $4, $5, (SELECT id FROM plan WHERE id = $6::uuid), $7, $8::jsonb, '')
            ON CONFLICT (id) DO UPDATE SET at = excluded.at, title = excluded.title, note = excluded.note, plan_id = excluded.plan_id, documents = excluded.documents, answers = excluded.answers
            WHERE prepared_package.person_id = $2
            """,
            [wanted.Id, who.Id, clock.GetUtcNow().UtcDateTime, wanted.Title, wanted.Note, wanted.Plan, wanted.Documents, JsonSerializer.Serialize(wanted.Answers)], stop);
        return kept == 0 ? throw Refused.Missing("prepared package") : TypedResults.NoContent();
    }

    private static async Task<DeskView> Desk(Who who, Database database, CancellationToken stop)
    {
        const int Most = 200;
        // One's own seats, and those of whoever is away and named one as deputy.
        var mine = (await database.ListAsync(
            """
            SELECT package_id, step, since, due FROM (
                SELECT DISTINCT ON (package_id) package_id, step, since, due FROM awaited
                WHERE person_id = ANY (ARRAY(SELECT $1 UNION ALL SELECT person_id FROM absence WHERE deputy = $1 AND away_from <= now() AND back_at > now()))
                ORDER BY package_id, due) a
            ORDER BY due LIMIT $2
            """,
            r => (Id: r.GetGuid(0), Step: r.GetString(1), Since: r.Time(2), Due: r.Time(3)), [who.Id, Most], stop)).ToDictionary(m => m.Id);
        Task<List<Guid>> IdsAsync(string sql) => database.ListAsync(sql, r => r.GetGuid(0), [who.Id, Most], stop);
        var answer = await IdsAsync("SELECT id FROM package WHERE originator = $1 AND ended_at IS NULL AND (standing = 'returned' OR held) ORDER BY round_at LIMIT $2");
        var advise = await IdsAsync("SELECT package_id FROM advice WHERE asked_of = $1 AND answer IS NULL ORDER BY at LIMIT $2");
        var waiting = await IdsAsync(
            "SELECT id FROM package k WHERE originator = $1 AND ended_at IS NULL AND standing = 'running' AND NOT held ORDER BY (SELECT min(due) FROM awaited WHERE package_id = k.id) LIMIT $2");
        var informed = await IdsAsync(
            """
            SELECT k.id FROM package k WHERE k.id IN (
                (SELECT package_id FROM package_informed WHERE person_id = $1 ORDER BY package_id DESC LIMIT 20)
                UNION (SELECT id FROM package WHERE originator = $1 AND ended_at IS NOT NULL ORDER BY ended_at DESC LIMIT 20))
            ORDER BY k.round_at DESC LIMIT least($2, 20)
            """);
        var rows = (await RowsAsync(database, mine.Keys.Concat(answer).Concat(advise).Concat(waiting).Concat(informed), stop)).ToDictionary(r => r.Id);
        var shown = mine.Keys.Concat(advise).ToHashSet();
        List<PackageRow> Of(IEnumerable<Guid> ids) => [.. ids.Where(rows.ContainsKey).Select(id => rows[id])];
        var toSign = mine.Values.Where(m => rows.ContainsKey(m.Id)).OrderBy(m => m.Due).Select(m => rows[m.Id] with { Step = m.Step, Since = m.Since, Due = m.Due }).ToList();
        var opened = await database.ListAsync(
            "SELECT draft_id FROM draft_opened WHERE person_id = $1 AND draft_id = ANY ($2)", r => r.GetGuid(0), [who.Id, toSign.SelectMany(p => p.Slip.Items).Select(i => i.Draft).Distinct().ToArray()], stop);
        return new DeskView(toSign, Of(answer), Of(advise.Where(a => !mine.ContainsKey(a))), Of(waiting.Where(w => !shown.Contains(w))), Of(informed.Where(i => !shown.Contains(i))), await PreparedAsync(who, database, stop), opened);
    }

    private static PackageRow Row(NpgsqlDataReader r) => new(
        r.GetGuid(0), r.GetString(1), r.GetString(2), r.GetString(3), r.GetInt32(4), r.GetString(5), r.GetGuid(6), r.GetString(7), r.Time(8), r.GetInt32(9), r.GetInt32(10),
        r.TextOrNull(11), r.TimeOrNull(12), r.TimeOrNull(13), r.GetGuid(14), SlipStore.Read(r.GetString(15)),
        JsonSerializer.Deserialize<SignedSeat[]>(r.GetString(17), JsonSerializerOptions.Web)!, r.GetString(16), r.Time(18));
}
