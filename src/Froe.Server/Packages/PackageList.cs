using System.Globalization;
using System.Text.Json;
using Froe.Core.Calendar;
using Froe.Core.Routing;
using Froe.Server.Absences;
using Froe.Server.Lists;
using Froe.Server.SignIn;
using Froe.Store;
using Npgsql;

namespace Froe.Server.Packages;

/// <summary>A package in a list.</summary>
/// <param name="WaitsAt">For what it waits: a step, several, or its originator; empty when for nothing.</param>
/// <param name="Since">Since when.</param>
/// <param name="Due">When the reader's signature, or the slowest open one, or the originator's answer is due; null when nothing is awaited, or the plan sets no time.</param>
/// <param name="Draft">First item's draft, for the picture.</param>
public sealed record PackageRow(
    Guid Id, string Number, string Title, string CoveringNote, int Round, string Standing, Guid Originator, string OriginatorName, DateTimeOffset RoundAt, int Items,
    int OpenRequests, string? Step, DateTimeOffset? Since, DateTimeOffset? Due, Guid Draft, Slip Slip, IReadOnlyList<SignedSeat> Signed, string FirstNumber, DateTimeOffset SentAt, string WaitsAt)
{
    /// <summary>How far off that is, for who looks.</summary>
    public TimeLeft? Left { get; init; }

    /// <summary>Number of the change order that it carries out; empty where it carries out none.</summary>
    public required string ChangeOrder { get; init; }

    /// <summary>Whether something is drawn on a draft of the running round.</summary>
    public required bool IsMarked { get; init; }

    /// <summary>Signers who picked different ways and have to agree.</summary>
    public required IReadOnlyList<Guid> MustAgree { get; init; }
}

/// <summary>A signature of the running round, for the strip in miniature.</summary>
public sealed record SignedSeat(string Seat, string Initials, DateTimeOffset At, bool Returns);

/// <summary>Which packages are asked for; what is left out does not matter.</summary>
/// <param name="Person">Their originator, or somebody who holds a seat in them.</param>
/// <param name="Step">They wait at this step.</param>
/// <param name="Late">Somebody's signature is overdue in them.</param>
/// <param name="Sort">A column, after a minus for the greatest first.</param>
internal sealed record PackagesAsked(string? Standing, Guid? Plan, Guid? Person, string? Search, string? Step, bool? Late, string? Sort);

/// <summary>Packages as lists show them, and the list of all, for turnaround.</summary>
internal sealed class PackageList(Database database, Schedules schedules)
{
    private const int PageSize = 50, FilePageSize = 500;

    // $1 is who looks.
    private const string RowSql =
        """
        SELECT k.id, k.number, k.title, k.covering_note, k.round, k.standing, k.originator, p.name, k.round_at, k.item_count,
               (SELECT count(*)::int FROM note n WHERE n.package_id = k.id AND n.kind = 'request' AND n.standing IN ('open', 'answered')),
               a.step, coalesce(a.since, b.since), coalesce(a.due, b.due), i.draft_id, k.slip::text, d.number,
               (SELECT coalesce(json_agg(json_build_object('seat', s.seat, 'initials', sp.initials, 'at', s.at,
                       'returns', EXISTS (SELECT 1 FROM verdict v WHERE v.sign_off_id = s.id AND v.verdict = 'return for changes'
                           AND v.draft_id IN (SELECT draft_id FROM package_item t WHERE t.package_id = k.id AND t.round = k.round))) ORDER BY s.at), '[]')::text
                FROM sign_off s JOIN person sp ON sp.id = s.person_id WHERE s.package_id = k.id AND s.stands),
               k.sent_at,
               coalesce((SELECT true FROM package_item t JOIN overlay o ON o.draft_id = t.draft_id JOIN markup m ON m.overlay_id = o.id AND m.erased_at IS NULL WHERE t.package_id = k.id AND t.round = k.round AND (NOT o.is_private OR o.owner = $1 OR m.note_id IS NOT NULL) LIMIT 1), false),
               k.change_order
        FROM package k
        JOIN person p ON p.id = k.originator
        JOIN package_item i ON i.package_id = k.id AND i.round = k.round AND i.position = 1
        JOIN document d ON d.id = i.document_id
        LEFT JOIN awaited_answer b ON b.package_id = k.id
        """;

    private const string SlowestSql = " LEFT JOIN LATERAL (SELECT step, since, due FROM awaited WHERE package_id = k.id ORDER BY due LIMIT 1) a ON true ";

    private static readonly Listing<PackageRow> Columns = new(
        "-sent",
        new("number", "Number", (k, _) => k.Number),
        new("package", "Package", (k, _) => k.Title, ListOrder.By<PackageRow, string, Guid>("k.title COLLATE reading_order", k => k.Title, "k.id", k => k.Id)),
        new("round", "Round", (k, _) => Said(k.Round)),
        new("items", "Items", (k, _) => Said(k.Items)),
        new("requests", "Open requests", (k, _) => Said(k.OpenRequests)),
        new("from", "From", (k, _) => k.OriginatorName),
        new("sent", "Sent", (k, zone) => CsvFile.Time(k.SentAt, zone), ListOrder.By<PackageRow, DateTimeOffset, Guid>("k.sent_at", k => k.SentAt, "k.id", k => k.Id)),
        new("standing", "Standing", (k, _) => k.Standing),
        new("change", "Change order", (k, _) => k.ChangeOrder),
        new("plan", "Plan", (k, _) => k.Slip.Plan.Name),
        new("route", "Steps passed", (k, _) => $"{k.Slip.Passed.Length} of {k.Slip.Plan.Steps().Count()}"),
        new("waits", "Waits at", (k, _) => k.WaitsAt),
        new("since", "Since", (k, zone) => k.Since is { } since ? CsvFile.Time(since, zone) : ""),
        new("due", "Due", (k, zone) => k.Due is { } due ? CsvFile.Time(due, zone) : ""));

    /// <summary>Running and finished packages, in pages by key.</summary>
    public Task<ListPage<PackageRow>> PageAsync(Who who, PackagesAsked asked, string? after, CancellationToken stop) => PageAsync(who, asked, after, PageSize, stop);

    /// <summary>What is late, longest first: the first fifty, which are enough to act on.</summary>
    public async Task<IReadOnlyList<PackageRow>> LateAsync(Who who, PackagesAsked asked, CancellationToken stop)
    {
        var all = await ConditionsAsync(who, asked with { Late = false }, stop);
        // The index of due times, which no page's key follows, is walked until there are enough; a package may wait for several
        // people, so a few more are taken than are shown.
        var ids = await database.SearchAsync(
            $"SELECT id FROM ((SELECT k.id, w.due FROM awaited w JOIN package k ON k.id = w.package_id WHERE w.due < now() AND {all} ORDER BY w.due LIMIT {PageSize * 8}) UNION ALL (SELECT k.id, w.due FROM awaited_answer w JOIN package k ON k.id = w.package_id WHERE w.due < now() AND {all} ORDER BY w.due LIMIT {PageSize})) l GROUP BY id ORDER BY min(due) LIMIT {PageSize}",
            r => r.GetGuid(0), all.Values, who.ReadFolders is not null, stop);
        return await RowsAsync(who, ids, stop);
    }

    /// <summary>Everything asked for, as a file.</summary>
    public Task WriteAsync(Who who, PackagesAsked asked, string? columns, string? zone, HttpContext context) => CsvFile.WriteAsync(
        context, "packages", Columns.Columns(columns), CsvFile.Zone(zone), after => PageAsync(who, asked, after, FilePageSize, context.RequestAborted));

    /// <summary>Packages as lists show them, in the order asked for: ids are found by an index first, and only those rows are read whole.</summary>
    public async Task<List<PackageRow>> RowsAsync(Who who, IEnumerable<Guid> ids, CancellationToken stop)
    {
        var wanted = ids.Distinct().ToArray();
        if (wanted.Length == 0) return [];
        var left = await schedules.LeftForAsync(who.Id, stop);
        var rows = await database.ListAsync($"{RowSql}{SlowestSql} WHERE k.id = ANY ($2) ORDER BY array_position($2, k.id)", Row, [who.Id, wanted], stop);
        return rows.ConvertAll(r => r.Due is { } due ? r with { Left = left(due) } : r);
    }

    /// <summary>Numbers of the change orders that packages carried out lately, the last first: who sends the next one writes the same.</summary>
    public async Task<IReadOnlyList<string>> ChangeOrdersAsync(Who who, CancellationToken stop)
    {
        var all = await ConditionsAsync(who, new PackagesAsked(null, null, null, null, null, null, null), stop);
        return await database.SearchAsync(
            $"SELECT change_order FROM (SELECT k.change_order, k.sent_at FROM package k WHERE k.change_order <> '' AND {all} ORDER BY k.sent_at DESC LIMIT 500) l GROUP BY change_order ORDER BY max(sent_at) DESC LIMIT {PageSize}",
            r => r.GetString(0), all.Values, who.ReadFolders is not null, stop);
    }

    private async Task<ListPage<PackageRow>> PageAsync(Who who, PackagesAsked asked, string? after, int size, CancellationToken stop)
    {
        var all = await ConditionsAsync(who, asked, stop);
        return await Columns.PageAsync(asked.Sort, after, all, size, async (order, most) =>
            await RowsAsync(who, await database.SearchAsync($"SELECT k.id FROM package k WHERE {all} ORDER BY {order} LIMIT {most}", r => r.GetGuid(0), all.Values, who.ReadFolders is not null, stop), stop));
    }

    private async Task<Conditions> ConditionsAsync(Who who, PackagesAsked asked, CancellationToken stop)
    {
        if (!who.IsOfOffice) throw Refused.Forbidden("Guests see the packages they take part in, on their desk.");
        var all = new Conditions();
        if (!string.IsNullOrEmpty(asked.Standing)) all.Add("k.standing = @1", asked.Standing);
        if (asked.Plan is { } along) all.Add("k.plan_id = @1", along);
        if (asked.Person is { } of) all.Add("(k.originator = @1 OR k.id IN (SELECT package_id FROM package_seat WHERE person_id = @1))", of);
        all.AddWords(asked.Search, "k.number ILIKE @1 OR k.title ILIKE @1 OR k.change_order ILIKE @1");
        if (!string.IsNullOrEmpty(asked.Step)) all.Add("EXISTS (SELECT 1 FROM awaited w WHERE w.package_id = k.id AND w.step = @1)", asked.Step);
        if (asked.Late == true) all.Add("k.id IN (SELECT package_id FROM awaited WHERE due < now() UNION SELECT package_id FROM awaited_answer WHERE due < now())");
        await Access.LimitAsync(database, all, who, "k.id", stop);
        return all;
    }

    private static string Said(int number) => number.ToString(CultureInfo.InvariantCulture);

    private static PackageRow Row(NpgsqlDataReader r) => Row(r, SlipStore.Read(r.GetString(15)));

    private static PackageRow Row(NpgsqlDataReader r, Slip slip) => new(
        r.GetGuid(0), r.GetString(1), r.GetString(2), r.GetString(3), r.GetInt32(4), r.GetString(5), r.GetGuid(6), r.GetString(7), r.Time(8), r.GetInt32(9), r.GetInt32(10),
        r.TextOrNull(11), r.TimeOrNull(12), r.TimeOrNull(13), r.GetGuid(14), slip.ForLists(),
        JsonSerializer.Deserialize<SignedSeat[]>(r.GetString(17), JsonSerializerOptions.Web)!, r.GetString(16), r.Time(18), WaitingWords.Of(slip))
    {
        IsMarked = r.GetBoolean(19),
        ChangeOrder = r.GetString(20),
        MustAgree = [.. slip.Differing().SelectMany(d => d.Picked).Select(p => p.Person).Distinct()],
    };
}
