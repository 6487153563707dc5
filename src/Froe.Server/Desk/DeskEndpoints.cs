using System.Text.Json;
using Froe.Core.Register;
using Froe.Core.Review;
using Froe.Server.Absences;
using Froe.Server.Packages;
using Froe.Server.SignIn;
using Froe.Store;

namespace Froe.Server.Desk;

/// <summary>A package prepared and not sent yet.</summary>
/// <param name="Because">Why it was prepared by itself; empty when its sender put it aside.</param>
public sealed record PreparedRow(Guid Id, DateTimeOffset At, string Title, string CoveringNote, Guid? Plan, Guid[] Documents, Dictionary<string, string> Answers, string Because, string ChangeOrder);

/// <summary>A package to put aside.</summary>
public sealed record NewPrepared(Guid Id, string Title, string CoveringNote, Guid? Plan, Guid[] Documents, Dictionary<string, string> Answers, string? ChangeOrder = null);

/// <summary>A person's desk, in groups of what is asked of them.</summary>
/// <param name="Opened">Drafts of the packages to sign that the person has had open.</param>
/// <param name="Seen">How much the person has seen of those where a step asks for a share.</param>
/// <param name="Cut">Groups that hold more than is listed, by their property's name.</param>
public sealed record DeskView(
    IReadOnlyList<PackageRow> ToSign, IReadOnlyList<PackageRow> ToAnswer, IReadOnlyList<PackageRow> ToAdvise, IReadOnlyList<PackageRow> Waiting, IReadOnlyList<PackageRow> Informed,
    IReadOnlyList<PreparedRow> Prepared, IReadOnlyList<Guid> Opened, IReadOnlyList<SeenItem> Seen, IReadOnlyList<string> Cut);

/// <summary>How much waits for a person.</summary>
/// <param name="Desk">Packages to sign, to answer or to advise on.</param>
/// <param name="Unread">Messages not read.</param>
public sealed record Counts(int Desk, int Unread);

/// <summary>The desk, and packages put aside.</summary>
internal static class DeskEndpoints
{
    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/desk", Desk);
        api.MapGet("/counts", CountsAsync);
        api.MapGet("/prepared", async (Who who, Database database, CancellationToken stop) => (await PreparedAsync(who, database, stop)).AsReadOnly());
        api.MapPut("/prepared", Prepare);
        api.MapDelete("/prepared/{id:guid}", async (Guid id, Who who, Database database, CancellationToken stop) =>
        {
            if (await database.RunAsync("DELETE FROM prepared_package WHERE id = $1 AND person_id = $2", [id, who.Id], stop) == 0) throw Refused.Missing("prepared package");
            return TypedResults.NoContent();
        });
    }

    /// <summary>The ids of a person and of those they stand in for now, of $1.</summary>
    private const string StandingForSql = "ARRAY(SELECT $1 UNION ALL SELECT person_id FROM stand_ins(now()) WHERE deputy = $1)";

    /// <summary>Packages that wait for answers of a person, of $1.</summary>
    private const string ToAnswerSql = $"originator = ANY ({StandingForSql}) AND ended_at IS NULL AND (standing = 'returned' OR held)";

    /// <summary>Advice that waits for a person, of $1, with its package as k.</summary>
    private const string ToAdviseSql = "a.asked_of = $1 AND a.answer IS NULL AND k.ended_at IS NULL";

    private static Task<List<PreparedRow>> PreparedAsync(Who who, Database database, CancellationToken stop) => database.ListAsync(
        "SELECT id, at, title, covering_note, plan_id, documents, answers::text, because, change_order FROM prepared_package WHERE person_id = $1 ORDER BY at DESC LIMIT 100",
        r => new PreparedRow(r.GetGuid(0), r.Time(1), r.GetString(2), r.GetString(3), r.IsDBNull(4) ? null : r.GetGuid(4), r.GetFieldValue<Guid[]>(5), JsonSerializer.Deserialize<Dictionary<string, string>>(r.GetString(6))!, r.GetString(7), r.GetString(8)), [who.Id], stop);

    /// <summary>Puts a package aside as it stands: nothing typed is lost, nothing is checked yet.</summary>
    private static async Task<IResult> Prepare(NewPrepared wanted, Who who, Database database, TimeProvider clock, CancellationToken stop)
    {
        if (!who.CanSend) throw Refused.Forbidden("You have no right to send packages. Ask your document coordinator.");
        if (wanted.Title.Length > 200 || wanted.CoveringNote.Length > 4000 || wanted.Documents.Length > 500 || wanted.ChangeOrder?.Length > 200 || wanted.Answers.Sum(a => a.Value.Length) > 100_000) throw Refused.Invalid("too-long", "The title and the change order's number may have 200 characters, the note 4,000.");
        var kept = await database.RunAsync(
            """
            INSERT INTO prepared_package (id, person_id, at, title, covering_note, plan_id, documents, answers, because, change_order)
            VALUES ($1, $2, $3, $4, $5, (SELECT id FROM plan WHERE id = $6::uuid), $7, $8::jsonb, '', $9)
            ON CONFLICT (id) DO UPDATE SET at = excluded.at, title = excluded.title, covering_note = excluded.covering_note, plan_id = excluded.plan_id, documents = excluded.documents, answers = excluded.answers, change_order = excluded.change_order
            WHERE prepared_package.person_id = $2
            """,
            [wanted.Id, who.Id, clock.GetUtcNow().UtcDateTime, wanted.Title, wanted.CoveringNote, wanted.Plan, wanted.Documents, JsonSerializer.Serialize(wanted.Answers, Act.Json), wanted.ChangeOrder ?? ""], stop);
        return kept == 0 ? throw Refused.Missing("prepared package") : TypedResults.NoContent();
    }

    /// <summary>Which packages a person could sign: as a deputy not their own work, nor a seat that bears their signature already; and nothing where they lack the right.</summary>
    private static async Task<HashSet<Guid>> SignableAsync(Who who, Database database, DateTimeOffset at, PackageRow[] waiting, CancellationToken stop)
    {
        var deputies = await Schedules.DeputiesAsync(database, at, stop);
        return await RightfulAsync(who, database, waiting.Where(p => Reviewing.IsAwaited(p.Slip, who.Id, deputies) || p.MustAgree.Contains(who.Id)).Select(p => p.Id).ToHashSet(), stop);
    }

    /// <summary>Those of some packages whose documents all lie where a person has the right to sign.</summary>
    private static async Task<HashSet<Guid>> RightfulAsync(Who who, Database database, HashSet<Guid> packages, CancellationToken stop)
    {
        if (packages.Count == 0 || who.Rights.For(Right.Sign, Folders.Root)) return packages;
        var folders = (await database.ListAsync(
            "SELECT DISTINCT i.package_id, f.path FROM package_item i JOIN package k ON k.id = i.package_id AND k.round = i.round JOIN document d ON d.id = i.document_id JOIN folder f ON f.id = d.folder_id WHERE i.package_id = ANY ($1)",
            r => (Package: r.GetGuid(0), Path: r.GetString(1)), [packages.ToArray()], stop)).ToLookup(f => f.Package, f => f.Path);
        packages.RemoveWhere(p => !who.Rights.ForAll(Right.Sign, folders[p]));
        return packages;
    }

    /// <summary>Counts what the desk would list: one's own seats by their rows, and only where one stands in for somebody the packages themselves.</summary>
    private static async Task<Counts> CountsAsync(Who who, Database database, PackageList list, Store.Post post, TimeProvider clock, CancellationToken stop)
    {
        var awaited = await database.ListAsync(
            $"SELECT package_id, bool_or(person_id = $1) FROM awaited WHERE person_id = ANY ({StandingForSql}) GROUP BY package_id LIMIT 1000",
            r => (Package: r.GetGuid(0), IsOwn: r.GetBoolean(1)), [who.Id], stop);
        var own = await RightfulAsync(who, database, awaited.Where(a => a.IsOwn).Select(a => a.Package).ToHashSet(), stop);
        var others = await list.RowsAsync(who, awaited.Where(a => !a.IsOwn).Select(a => a.Package), stop);
        var signable = others.Count == 0 ? [] : await SignableAsync(who, database, clock.GetUtcNow(), [.. others], stop);
        var asked = await database.ListAsync(
            $"SELECT id FROM package WHERE {ToAnswerSql} UNION ALL (SELECT a.package_id FROM advice a JOIN package k ON k.id = a.package_id WHERE {ToAdviseSql} LIMIT 1000)", r => r.GetGuid(0), [who.Id], stop);
        return new Counts(own.Concat(signable).Concat(asked).Distinct().Count(), await post.UnreadAsync(who.Id, stop));
    }

    private static async Task<DeskView> Desk(Who who, Database database, PackageList list, Schedules schedules, TimeProvider clock, CancellationToken stop)
    {
        // What is asked of the person is listed far; what they only wait for, as far as anybody looks down.
        const int Most = 200, MostWaiting = 60, MostInformed = 20;
        // One's own seats, and those of whoever is away and named one as deputy.
        var mine = (await database.ListAsync(
            $"""
            SELECT package_id, step, since, due FROM (
                SELECT DISTINCT ON (package_id) package_id, step, since, due FROM awaited
                WHERE person_id = ANY ({StandingForSql})
                ORDER BY package_id, due) a
            ORDER BY due LIMIT $2
            """,
            r => (Id: r.GetGuid(0), Step: r.GetString(1), Since: r.Time(2), Due: r.Time(3)), [who.Id, Most + 1], stop)).ToDictionary(m => m.Id);
        var cut = new List<string>();
        if (mine.Count > Most)
        {
            cut.Add("toSign");
            mine.Remove(mine.Values.MaxBy(m => m.Due).Id);
        }
        async Task<List<Guid>> IdsAsync(string group, string sql, int most)
        {
            var ids = await database.ListAsync(sql, r => r.GetGuid(0), [who.Id, most + 1], stop);
            if (ids.Count > most) cut.Add(group);
            return [.. ids.Take(most)];
        }
        var answer = await IdsAsync("toAnswer", $"SELECT id FROM package WHERE {ToAnswerSql} ORDER BY round_at LIMIT $2", Most);
        var advise = await IdsAsync("toAdvise", $"SELECT a.package_id FROM advice a JOIN package k ON k.id = a.package_id WHERE {ToAdviseSql} ORDER BY a.at LIMIT $2", Most);
        var waiting = await IdsAsync(
            "waiting", "SELECT id FROM package k WHERE originator = $1 AND ended_at IS NULL AND standing = 'in review' AND NOT held ORDER BY (SELECT min(due) FROM awaited WHERE package_id = k.id) LIMIT $2", MostWaiting);
        // The latest that came for information; the others are where all packages are.
        var informed = await IdsAsync(
            "informed",
            """
            SELECT k.id FROM package k WHERE k.id IN (
                (SELECT package_id FROM package_informed WHERE person_id = $1 ORDER BY package_id DESC LIMIT $2)
                UNION (SELECT id FROM package WHERE originator = $1 AND ended_at IS NOT NULL ORDER BY ended_at DESC LIMIT $2))
            ORDER BY k.round_at DESC LIMIT $2
            """,
            MostInformed);
        var rows = (await list.RowsAsync(who, mine.Keys.Concat(answer).Concat(advise).Concat(waiting).Concat(informed), stop)).ToDictionary(r => r.Id);
        var shown = mine.Keys.Concat(advise).ToHashSet();
        List<PackageRow> Of(IEnumerable<Guid> ids) => [.. ids.Where(rows.ContainsKey).Select(id => rows[id])];
        var signable = await SignableAsync(who, database, clock.GetUtcNow(), [.. mine.Keys.Where(rows.ContainsKey).Select(id => rows[id])], stop);
        var left = await schedules.LeftForAsync(who.Id, stop);
        var toSign = mine.Values.Where(m => signable.Contains(m.Id)).OrderBy(m => m.Due).Select(m => rows[m.Id] with { Step = m.Step, Since = m.Since, Due = m.Due, Left = left(m.Due) }).ToList();
        var opened = await database.ListAsync(
            "SELECT draft_id FROM draft_opened WHERE person_id = $1 AND draft_id = ANY ($2)", r => r.GetGuid(0), [who.Id, toSign.SelectMany(p => p.Slip.Items).Select(i => i.Draft).Distinct().ToArray()], stop);
        // Few plans ask for a share; where none does nothing is looked up.
        var asks = toSign.Where(p => p.Slip.Plan.Steps().Any(s => s.SeenShare > 0)).SelectMany(p => p.Slip.Items).Select(i => i.Draft).Distinct().ToList();
        var seen = asks.Count == 0 ? [] : (await SeenRows.SharesAsync(database, who.Id, asks, stop)).Select(s => new SeenItem(s.Key, s.Value.Percent)).ToList();
        return new DeskView(toSign, Of(answer), Of(advise.Where(a => !mine.ContainsKey(a))), Of(waiting.Where(w => !shown.Contains(w))), Of(informed.Where(i => !shown.Contains(i))), await PreparedAsync(who, database, stop), opened, seen, cut);
    }
}
