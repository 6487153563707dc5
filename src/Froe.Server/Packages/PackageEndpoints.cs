using System.Text.Json;
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

/// <summary>A person's desk, in groups of what is asked of them.</summary>
public sealed record DeskView(IReadOnlyList<PackageRow> ToSign, IReadOnlyList<PackageRow> ToAnswer, IReadOnlyList<PackageRow> Waiting, IReadOnlyList<PackageRow> Informed);

/// <summary>Packages, notes, plans and the desk.</summary>
internal static class PackageEndpoints
{
    private const string RowSql =
        """
        SELECT k.id, k.number, k.title, k.note, k.round, k.standing, k.originator, p.name, k.round_at, k.item_count,
               (SELECT count(*)::int FROM note n WHERE n.package_id = k.id AND n.kind = 'request' AND n.standing IN ('open', 'answered')),
               a.step, a.since, a.due, i.draft_id, k.slip::text, d.number,
               (SELECT coalesce(json_agg(json_build_object('seat', s.seat, 'initials', sp.initials, 'at', s.at,
                       'returns', EXISTS (SELECT 1 FROM verdict v WHERE v.sign_off_id = s.id AND v.verdict = 'returnForChanges')) ORDER BY s.at), '[]')::text
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
        Who who, Database database, CancellationToken stop, string? standing = null, Guid? plan = null, Guid? person = null, string? search = null, bool late = false, DateTimeOffset? beforeTime = null, Guid? beforeId = null)
    {
        if (who.IsGuest) throw Refused.Forbidden("Guests see the packages they take part in, on their desk.");
        const int Most = 50;
        return await database.ListAsync(
            RowSql + SlowestSql +
            """
             WHERE ($1::text IS NULL OR k.standing = $1)
               AND ($2::uuid IS NULL OR k.plan_id = $2)
               AND ($3::uuid IS NULL OR k.originator = $3 OR EXISTS (SELECT 1 FROM awaited w WHERE w.package_id = k.id AND w.person_id = $3))
               AND ($4::text IS NULL OR k.number ILIKE '%' || $4 || '%' OR k.title ILIKE '%' || $4 || '%')
               AND (NOT $5 OR k.id IN (SELECT package_id FROM awaited WHERE due < now()))
               AND ($6::timestamptz IS NULL OR (k.sent_at, k.id) < ($6, $7::uuid))
             ORDER BY k.sent_at DESC, k.id DESC LIMIT $8
            """,
            Row, [standing, plan, person, string.IsNullOrWhiteSpace(search) ? null : search.Trim().Replace("%", "\\%", StringComparison.Ordinal).Replace("_", "\\_", StringComparison.Ordinal), late, beforeTime?.UtcDateTime, beforeId, Most], stop);
    }

    private static async Task<DeskView> Desk(Who who, Database database, CancellationToken stop)
    {
        const int Most = 200;
        var toSign = await database.ListAsync(
            RowSql + " JOIN (SELECT DISTINCT ON (package_id) package_id, step, since, due FROM awaited WHERE person_id = $1 OR person_id IN (SELECT person_id FROM absence WHERE deputy = $1 AND away_from <= now() AND back_at > now()) ORDER BY package_id, due) a ON a.package_id = k.id ORDER BY a.due LIMIT $2",
            Row, [who.Id, Most], stop);
        var toAnswer = await database.ListAsync(RowSql + SlowestSql + " WHERE k.originator = $1 AND k.ended_at IS NULL AND k.standing = 'returned' ORDER BY k.round_at LIMIT $2", Row, [who.Id, Most], stop);
        var waiting = await database.ListAsync(
            RowSql + SlowestSql + " WHERE k.originator = $1 AND k.ended_at IS NULL AND k.standing = 'running' ORDER BY a.due LIMIT $2", Row, [who.Id, Most], stop);
        var informed = await database.ListAsync(
            RowSql + SlowestSql + " WHERE k.id IN (SELECT package_id FROM package_informed WHERE person_id = $1) OR (k.originator = $1 AND k.ended_at IS NOT NULL) ORDER BY k.round_at DESC LIMIT 20",
            Row, [who.Id], stop);
        var shown = toSign.Select(p => p.Id).ToHashSet();
        return new DeskView(toSign, toAnswer, waiting.Where(p => !shown.Contains(p.Id)).ToList(), informed.Where(p => !shown.Contains(p.Id)).ToList());
    }

    private static PackageRow Row(NpgsqlDataReader r) => new(
        r.GetGuid(0), r.GetString(1), r.GetString(2), r.GetString(3), r.GetInt32(4), r.GetString(5), r.GetGuid(6), r.GetString(7), r.Time(8), r.GetInt32(9), r.GetInt32(10),
        r.TextOrNull(11), r.TimeOrNull(12), r.TimeOrNull(13), r.GetGuid(14), SlipStore.Read(r.GetString(15)),
        JsonSerializer.Deserialize<SignedSeat[]>(r.GetString(17), JsonSerializerOptions.Web)!, r.GetString(16), r.Time(18));
}
