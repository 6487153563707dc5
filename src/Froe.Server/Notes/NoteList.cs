using System.Globalization;
using System.Text.Json;
using Froe.Core.Review;
using Froe.Core.Routing;
using Froe.Server.Absences;
using Froe.Server.Lists;
using Froe.Server.Packages;
using Froe.Server.SignIn;
using Froe.Store;
using Npgsql;

namespace Froe.Server.Notes;

/// <summary>A note as it stands in a list of many packages' notes, with its thread.</summary>
/// <param name="Round">The round it was written in.</param>
/// <param name="Originator">Who sent the package: who is asked.</param>
/// <param name="Revision">Of the draft it was written on, as is the ordinal.</param>
/// <param name="Sheet">Position of the sheet that its first place lies on; null when it has none.</param>
/// <param name="WaitsFor">Whose turn it is.</param>
/// <param name="Terms">What it says besides its words.</param>
/// <param name="Presses">Whether it comes before other things now.</param>
public sealed record ListedNote(
    Guid Id, Guid Package, string PackageNumber, string PackageTitle, string PackageStanding, int Round, int Number, NoteKind Kind, NoteStanding Standing, AnswerKind? Answer,
    Guid Author, string AuthorName, DateTimeOffset At, Guid Originator, string OriginatorName, Guid Document, string DocumentNumber, string DocumentTitle,
    string Revision, int Ordinal, Guid Draft, int? Sheet, string? Zone, string Body, IReadOnlyList<NoteActRow> Acts, NoteWait WaitsFor, NoteTerms Terms, bool Presses);

/// <summary>Which notes are asked for; what is left out does not matter.</summary>
/// <param name="Kind">Requests, when it is left out; <c>all</c> for every kind.</param>
/// <param name="Package">Of one package.</param>
/// <param name="Standing">One of a note's standings, <c>unsettled</c>: open or answered, or <c>pressing</c>: unsettled, and urgent or late.</param>
/// <param name="Author">Who asked.</param>
/// <param name="Originator">Who is asked.</param>
/// <param name="Person">Who asked or is asked.</param>
/// <param name="Search">Words of the note or of its document's number or title, or a package's number.</param>
/// <param name="Sort">A column, after a minus for the greatest first.</param>
internal sealed record NotesAsked(string? Kind, string? Standing, Guid? Author, Guid? Originator, Guid? Person, Guid? Document, Guid? Package, string? Search, string? Sort);

/// <summary>The notes of all packages as a list: above all what is asked for and not settled.</summary>
internal sealed class NoteList(Database database, Schedules schedules)
{
    private const int PageSize = 50, FilePageSize = 500;

    private const string RowSql =
        """
        SELECT n.id, n.package_id, k.number, k.title, k.standing, n.round, n.number, n.kind, n.standing, n.answer, n.author, a.name, n.at, n.asked_of, o.name,
               n.document_id, d.number, d.title, r.label, w.ordinal, n.draft_id, m.sheet, m.zone, n.body, n.urgent, n.due, n.tags, n.on_package,
               (SELECT coalesce(json_agg(json_build_object('name', p.name, 'at', t.at, 'act', t.act, 'body', t.body) ORDER BY t.sequence), '[]')::text
                FROM note_act t JOIN person p ON p.id = t.person_id WHERE t.note_id = n.id)
        FROM note n
        JOIN package k ON k.id = n.package_id
        JOIN person a ON a.id = n.author
        JOIN person o ON o.id = n.asked_of
        JOIN document d ON d.id = n.document_id
        JOIN draft w ON w.id = n.draft_id
        JOIN revision r ON r.id = w.revision_id
        LEFT JOIN LATERAL (
            SELECT (x.place ->> 'leaf')::int AS sheet, x.zone FROM markup x JOIN overlay y ON y.id = x.overlay_id
            WHERE x.note_id = coalesce(n.origin, n.id) AND y.draft_id = n.draft_id AND x.erased_at IS NULL ORDER BY x.changed_at, x.id LIMIT 1) m ON true
        WHERE n.id = ANY ($1) ORDER BY array_position($1, n.id)
        """;

    private static readonly Listing<ListedNote> Columns = new(
        "-asked",
        new("number", "Number", (n, _) => $"{n.PackageNumber} / {Said(n.Number)}"),
        new("note", "Note", (n, _) => n.Body),
        new("kind", "Kind", (n, _) => Words.Of(n.Kind)),
        new("document", "Document", (n, _) => n.DocumentNumber, ListOrder.By<ListedNote, string, Guid>("n.subject COLLATE reading_order", n => $"{n.DocumentNumber} {n.DocumentTitle}", "n.id", n => n.Id)),
        new("title", "Title", (n, _) => n.DocumentTitle),
        new("place", "Draft and zone", (n, _) => $"{n.Revision}.{Said(n.Ordinal)}{(n.Zone is null ? "" : " " + n.Zone)}"),
        new("by", "Asked by", (n, _) => n.AuthorName),
        new("asked", "Asked", (n, zone) => CsvFile.Time(n.At, zone), ListOrder.By<ListedNote, DateTimeOffset, Guid>("n.at", n => n.At, "n.id", n => n.Id)),
        new("of", "Asked of", (n, _) => n.OriginatorName),
        new("due", "Wanted by", (n, _) => n.Terms.Due is { } due ? due.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture) : ""),
        new("urgent", "Urgent", (n, _) => n.Terms.Urgent ? "urgent" : ""),
        new("tags", "Tags", (n, _) => string.Join(", ", n.Terms.Tags)),
        new("standing", "Standing", (n, _) => Words.Of(n.Standing)),
        new("answer", "Answer", (n, _) => n.Answer is { } answer ? Words.Of(answer) : ""),
        new("words", "Last words", (n, _) => n.Acts.LastOrDefault(a => a.Body.Length > 0)?.Body ?? ""),
        new("waits", "Waits for", (n, _) => n.WaitsFor switch { NoteWait.Originator => n.OriginatorName, NoteWait.Reviewers => "the reviewers", NoteWait.Author => n.AuthorName, _ => "" }),
        new("package", "Package", (n, _) => n.PackageTitle),
        new("round", "Round", (n, _) => Said(n.Round)));

    public Task<ListPage<ListedNote>> PageAsync(Who who, NotesAsked asked, string? after, CancellationToken stop) => PageAsync(who, asked, after, PageSize, stop);

    /// <summary>Everything asked for, as a file.</summary>
    public Task WriteAsync(Who who, NotesAsked asked, string? columns, string? zone, HttpContext context) => CsvFile.WriteAsync(
        context, "requests", Columns.Columns(columns), CsvFile.Zone(zone), after => PageAsync(who, asked, after, FilePageSize, context.RequestAborted));

    private async Task<ListPage<ListedNote>> PageAsync(Who who, NotesAsked asked, string? after, int size, CancellationToken stop)
    {
        if (!who.IsOfOffice) throw Refused.Forbidden("Guests see the notes of the packages they take part in, on the bench.");
        var all = new Conditions();
        if (asked.Kind != "all") all.Add("n.kind = @1", string.IsNullOrEmpty(asked.Kind) ? Words.Of(NoteKind.Request) : asked.Kind);
        if (asked.Package is { } @in) all.Add("n.package_id = @1", @in);
        if (asked.Standing == "unsettled") all.Add("n.standing IN ('open', 'answered')");
        else if (asked.Standing == "pressing") all.Add("n.standing IN ('open', 'answered') AND (n.urgent OR n.due < @1)", schedules.Today());
        else if (!string.IsNullOrEmpty(asked.Standing)) all.Add("n.standing = @1", asked.Standing);
        if (asked.Author is { } by) all.Add("n.author = @1", by);
        if (asked.Originator is { } of) all.Add("n.asked_of = @1", of);
        if (asked.Person is { } either) all.Add("n.author = @1 OR n.asked_of = @1", either);
        if (asked.Document is { } about) all.Add("n.document_id = @1", about);
        await SearchAsync(all, asked.Search, stop);
        await Access.LimitAsync(database, all, who, "n.package_id", stop);
        return await Columns.PageAsync(asked.Sort, after, all, size, async (order, most) =>
        {
            var ids = await database.SearchAsync($"SELECT n.id FROM note n WHERE {all} ORDER BY {order} LIMIT {most}", r => r.GetGuid(0), all.Values, who.ReadFolders is not null, stop);
            var today = schedules.Today();
            return ids.Count == 0 ? [] : await database.ListAsync(RowSql, r => Row(r, today), [ids.ToArray()], stop);
        });
    }

    /// <summary>
    /// Whether a word is a tag or a package's number is looked up first: of a word that is neither, PostgreSQL would take half a note in a
    /// hundred to bear it as a tag, and would walk through all notes for a rare one.
    /// </summary>
    private async Task SearchAsync(Conditions all, string? search, CancellationToken stop)
    {
        var words = Conditions.Words(search);
        if (words.Length == 0) return;
        var known = (await database.ListAsync(
            """
            SELECT w, (SELECT k.id FROM package k WHERE k.number = upper(w)), t.is_tag
            FROM unnest($1::text[]) w, LATERAL (WITH tagged AS MATERIALIZED (SELECT 1 FROM note WHERE tags @> ARRAY[lower(w)]) SELECT EXISTS (SELECT 1 FROM tagged) AS is_tag) t
            """,
            r => (Word: r.GetString(0), Package: r.IdOrNull(1), IsTag: r.GetBoolean(2)), [words], stop)).ToLookup(k => k.Word);
        foreach (var (pattern, word) in Conditions.Patterns(search).Zip(words))
        {
            var (_, package, isTag) = known[word].First();
            var (sql, values) = ("n.body ILIKE @1 OR n.subject ILIKE @1", new List<object?> { pattern });
            if (isTag)
            {
                values.Add(word);
                sql += string.Create(CultureInfo.InvariantCulture, $" OR n.tags @> ARRAY[lower(@{values.Count})]");
            }
            if (package is { } id)
            {
                values.Add(id);
                sql += string.Create(CultureInfo.InvariantCulture, $" OR n.package_id = @{values.Count}");
            }
            all.Add(sql, [.. values]);
        }
    }

    private static string Said(int number) => number.ToString(CultureInfo.InvariantCulture);

    private static ListedNote Row(NpgsqlDataReader r, DateOnly today)
    {
        var (kind, standing) = (Words.Parse<NoteKind>(r.GetString(7)), Words.Parse<NoteStanding>(r.GetString(8)));
        var terms = NoteTermsRows.Read(r, 24);
        return new ListedNote(
            r.GetGuid(0), r.GetGuid(1), r.GetString(2), r.GetString(3), r.GetString(4), r.GetInt32(5), r.GetInt32(6), kind, standing,
            r.IsDBNull(9) ? null : Words.Parse<AnswerKind>(r.GetString(9)), r.GetGuid(10), r.GetString(11), r.Time(12), r.GetGuid(13), r.GetString(14),
            r.GetGuid(15), r.GetString(16), r.GetString(17), r.GetString(18), r.GetInt32(19), r.GetGuid(20), r.IsDBNull(21) ? null : r.GetInt32(21), r.TextOrNull(22), r.GetString(23),
            JsonSerializer.Deserialize<NoteActRow[]>(r.GetString(28), JsonSerializerOptions.Web)!, NoteRules.WaitsFor(kind, standing, Words.Parse<SlipStanding>(r.GetString(4))), terms, terms.Presses(standing, today));
    }
}
