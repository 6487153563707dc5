using Froe.Core.Register;
using Froe.Server.Lists;
using Froe.Server.SignIn;
using Froe.Store;
using Npgsql;

namespace Froe.Server.Register;

/// <summary>A row of the register.</summary>
/// <param name="Draft">Newest draft.</param>
/// <param name="Ordinal">Number of the newest draft within its revision.</param>
/// <param name="Folder">Where it is filed.</param>
/// <param name="MarkedIn">The package that the newest draft was last sent in, where something is drawn on it; null otherwise.</param>
/// <param name="Stage">Where its revision in work stands among its folder's; empty for the first standing.</param>
public sealed record DocumentRow(
    Guid Id, string Number, string Title, string Kind, string Discipline, Guid Originator, string OriginatorName,
    string Revision, int Ordinal, Guid Draft, string Standing, DateTimeOffset ChangedAt, string Folder, string Stage, Guid? MarkedIn);

/// <summary>Which documents are asked for; what is left out does not matter.</summary>
/// <param name="Search">Words of the number, the title or the originator's name.</param>
/// <param name="Folder">In it, beneath it, or found there as well.</param>
/// <param name="Sort">A column, after a minus for the greatest first.</param>
internal sealed record DocumentsAsked(string? Search, string? Folder, Guid? Originator, string? Standing, string? Kind, string? Discipline, string? Sort);

/// <summary>The register as a list.</summary>
internal sealed class DocumentList(Database database)
{
    private const int PageSize = 100, FilePageSize = 500;

    /// <summary>
    /// Documents as the list shows them. What is drawn on each is looked up one by one: of EXISTS the planner makes a hash of all
    /// markups there are, for it reckons with every document and not with a page of them.
    /// </summary>
    /// <param name="me">What stands for whoever looks: what they have drawn for themselves alone shows to them.</param>
    public static string RowSql(string me) =>
        $"""
        SELECT d.id, d.number, d.title, d.kind, d.discipline, d.originator, d.originator_name, r.label, w.ordinal, w.id, d.standing, d.changed_at, f.path, r.stage,
               CASE WHEN (SELECT true FROM overlay o JOIN markup m ON m.overlay_id = o.id AND m.erased_at IS NULL WHERE o.draft_id = w.id AND (NOT o.is_private OR o.owner = {me} OR m.note_id IS NOT NULL) LIMIT 1)
                   THEN (SELECT k.id FROM package_item i JOIN package k ON k.id = i.package_id WHERE i.draft_id = w.id ORDER BY k.sent_at DESC LIMIT 1) END
        FROM document d
        JOIN folder f ON f.id = d.folder_id
        JOIN LATERAL (SELECT * FROM revision WHERE document_id = d.id ORDER BY ordinal DESC LIMIT 1) r ON true
        JOIN LATERAL (SELECT * FROM draft WHERE revision_id = r.id ORDER BY ordinal DESC LIMIT 1) w ON true
        """;

    private static readonly Listing<DocumentRow> Columns = new(
        "number",
        new("number", "Number", (d, _) => d.Number, By("d.number COLLATE reading_order", d => d.Number)),
        new("title", "Title", (d, _) => d.Title, By("d.title COLLATE reading_order", d => d.Title)),
        new("kind", "Kind", (d, _) => d.Kind, By("d.kind", d => d.Kind)),
        new("discipline", "Discipline", (d, _) => d.Discipline, By("d.discipline COLLATE reading_order", d => d.Discipline)),
        new("folder", "Folder", (d, _) => d.Folder, By("f.path COLLATE reading_order", d => d.Folder)),
        new("revision", "Revision", (d, _) => $"{d.Revision}.{d.Ordinal}"),
        new("standing", "Standing", (d, _) => d is { Standing: "in work", Stage.Length: > 0 } ? d.Stage : d.Standing, By("d.standing", d => d.Standing)),
        new("originator", "Originator", (d, _) => d.OriginatorName, By("d.originator_name COLLATE reading_order", d => d.OriginatorName)),
        new("changed", "Changed", (d, zone) => CsvFile.Time(d.ChangedAt, zone), By("d.changed_at", d => d.ChangedAt)));

    private static ListOrder<DocumentRow> By<T>(string sql, Func<DocumentRow, T> value)
        where T : notnull => ListOrder.By(sql, value, "d.number", d => d.Number);

    public Task<ListPage<DocumentRow>> PageAsync(Who who, DocumentsAsked asked, string? after, CancellationToken stop) => PageAsync(who, asked, after, PageSize, stop);

    /// <summary>Everything asked for, as a file.</summary>
    public Task WriteAsync(Who who, DocumentsAsked asked, string? columns, string? zone, HttpContext context) => CsvFile.WriteAsync(
        context, "register", Columns.Columns(columns), CsvFile.Zone(zone), after => PageAsync(who, asked, after, FilePageSize, context.RequestAborted));

    private async Task<ListPage<DocumentRow>> PageAsync(Who who, DocumentsAsked asked, string? after, int size, CancellationToken stop)
    {
        if (!who.Rights.Anywhere(Right.Read)) return new ListPage<DocumentRow>([], null);
        var all = new Conditions();
        var words = Conditions.Patterns(asked.Search);
        // Whose name a word is part of is looked up first: the database then knows whether it leads to many documents or to none.
        var named = words.Length == 0 ? null : (await database.ListAsync("SELECT w, p.id FROM unnest($1::text[]) w JOIN person p ON p.name ILIKE w", r => (Word: r.GetString(0), Id: r.GetGuid(1)), [words], stop)).ToLookup(n => n.Word, n => n.Id);
        foreach (var word in words)
        {
            if (named![word].ToArray() is { Length: > 0 } people) all.Add("d.number ILIKE @1 OR d.title ILIKE @1 OR d.originator = ANY (@2)", word, people);
            else all.Add("d.number ILIKE @1 OR d.title ILIKE @1", word);
        }
        if (!string.IsNullOrEmpty(asked.Folder))
        {
            // What is filed there besides is looked up first: PostgreSQL then knows how few there are, and goes by the folder's index.
            var within = await VisibilitySql.FoldersAsync(database, [asked.Folder], stop);
            var besides = await database.ListAsync("SELECT DISTINCT document_id FROM document_place WHERE folder_id = ANY ($1)", r => r.GetGuid(0), [within], stop);
            if (besides.Count == 0) all.Add("d.folder_id = ANY (@1)", within);
            else all.Add("d.folder_id = ANY (@1) OR d.id = ANY (@2)", within, besides.ToArray());
        }
        if (who.ReadFolders is { } folders) all.Add("d.folder_id = ANY (@1)", folders);
        if (asked.Originator is { } by) all.Add("d.originator = @1", by);
        if (!string.IsNullOrEmpty(asked.Standing)) all.Add("d.standing = @1", asked.Standing);
        if (!string.IsNullOrEmpty(asked.Kind)) all.Add("d.kind = @1", asked.Kind);
        if (!string.IsNullOrEmpty(asked.Discipline)) all.Add("d.discipline = @1", asked.Discipline);
        var rows = RowSql(all.Value(who.Id));
        return await Columns.PageAsync(asked.Sort, after, all, size, (order, most) => database.SearchAsync($"{rows} WHERE {all} ORDER BY {order} LIMIT {most}", Row, all.Values, who.ReadFolders is not null, stop));
    }

    public static DocumentRow Row(NpgsqlDataReader r) => new(
        r.GetGuid(0), r.GetString(1), r.GetString(2), r.GetString(3), r.GetString(4), r.GetGuid(5), r.GetString(6), r.GetString(7), r.GetInt32(8), r.GetGuid(9), r.GetString(10), r.Time(11), r.GetString(12), r.GetString(13), r.IdOrNull(14));
}
