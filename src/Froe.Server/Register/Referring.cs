using Froe.Core.Draft;
using Froe.Core.Register;
using Froe.Formats;
using Froe.Server.Files;
using Froe.Server.SignIn;
using Froe.Store;

namespace Froe.Server.Register;

/// <summary>A draft by what people call it.</summary>
/// <param name="Label">Its revision and number, such as A.2.</param>
public sealed record DraftName(Guid Draft, Guid Document, string Number, string Title, string Label);

/// <summary>A document of the register that is named on a leaf of another.</summary>
/// <param name="Name">Its newest draft that whoever asks may see.</param>
/// <param name="Places">Where it is named.</param>
public sealed record NamedDocument(DraftName Name, IReadOnlyList<FoundStretch> Places);

/// <summary>A document of the register by its number.</summary>
/// <param name="Name">Its newest draft that whoever asks may see.</param>
/// <param name="Revision">That draft's revision.</param>
/// <param name="Standing">Of its revision; in work, its standing among its folder's.</param>
/// <param name="ChangeOrder">Number of the one that the last package with this revision carries out; empty where it carries out none, or who asks may not see the package.</param>
public sealed record NumberedDocument(DraftName Name, string Revision, string Standing, string Discipline, string ChangeOrder);

/// <summary>A model that shows what a document is about: one of its components has the document's number, or somebody said so.</summary>
/// <param name="Name">The newest draft of the model that whoever asks may see.</param>
/// <param name="Leaf">Which leaf of it.</param>
/// <param name="Number">The number or the name of the components that are meant; empty for all of the model.</param>
/// <param name="IsSet">Whether somebody said so.</param>
public sealed record ShownInModel(DraftName Name, int Leaf, string Number, bool IsSet);

/// <summary>The models that show what a document is about.</summary>
/// <param name="MayRelate">Whether who looks may say that others do.</param>
public sealed record ShownInModels(IReadOnlyList<ShownInModel> Models, bool MayRelate);

/// <summary>Another file that a draft consists of.</summary>
/// <param name="IsThere">Whether it was found; what is in it is missing otherwise.</param>
/// <param name="From">The draft that it was taken from; null for a file that came with the draft, and for one that who looks may not see.</param>
public sealed record ShownBeside(string Name, bool IsThere, DraftName? From);

/// <summary>From what is written on a leaf to the documents it names.</summary>
public sealed class Referring(Database database, Access access, Spool spool)
{
    private const int MostNumbers = 50_000, MostDocuments = 500, MostPlaces = 2000, MostModels = 20, MostLeaves = 20;

    private const string NamesSql =
        "SELECT w.id, d.id, d.number, d.title, r.label || '.' || w.ordinal FROM draft w JOIN revision r ON r.id = w.revision_id JOIN document d ON d.id = w.document_id";

    /// <summary>What else a list of documents by number says of each: $1 are the folders that who asks may read, whoever reads a document's sees its packages.</summary>
    private const string FactsSql =
        """
        SELECT w.id, d.id, d.number, d.title, r.label || '.' || w.ordinal, r.label, CASE WHEN d.standing = 'in work' AND r.stage <> '' THEN r.stage ELSE d.standing END, d.discipline,
               CASE WHEN $1::bigint[] IS NULL OR d.folder_id = ANY ($1) THEN coalesce((
                   SELECT k.change_order FROM package_item i JOIN package k ON k.id = i.package_id WHERE i.document_id = d.id AND i.revision_id = r.id ORDER BY k.sent_at DESC LIMIT 1), '') ELSE '' END
        """;

    private static NumberedDocument Numbered(Npgsql.NpgsqlDataReader r) => new(Name(r), r.GetString(5), r.GetString(6), r.GetString(7), r.GetString(8));

    private static DraftName Name(Npgsql.NpgsqlDataReader r) => new(r.GetGuid(0), r.GetGuid(1), r.GetString(2), r.GetString(3), r.GetString(4));

    /// <summary>What a draft is called.</summary>
    public async Task<DraftName> NameAsync(Who who, Guid draft, CancellationToken stop)
    {
        await access.DemandDraftAsync(who, draft, stop);
        return await database.FirstAsync(NamesSql + " WHERE w.id = $1", Name, [draft], stop) ?? throw Refused.Missing("draft");
    }

    /// <summary>Documents by their numbers, each with its newest draft that somebody may see; that of the draft which names them is none of them.</summary>
    public async Task<IReadOnlyList<NumberedDocument>> ByNumberAsync(Who who, Guid draft, string[] numbers, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(who);
        ArgumentNullException.ThrowIfNull(numbers);
        var drafts = await database.ListAsync(
            $"""
            {FactsSql}
            FROM draft w JOIN revision r ON r.id = w.revision_id JOIN document d ON d.id = w.document_id
            WHERE d.id IN (SELECT id FROM document WHERE number = ANY ($2) AND id <> (SELECT document_id FROM draft WHERE id = $3) LIMIT {MostDocuments})
            ORDER BY d.number, r.ordinal DESC, w.ordinal DESC
            """, Numbered, [who.ReadFolders, numbers, draft], stop);
        return [.. (await SeenAsync(who, drafts, d => d.Name.Draft, stop)).DistinctBy(d => d.Name.Document)];
    }

    /// <summary>The models that show what the document of a draft is about: those that somebody named, then those whose components have its number.</summary>
    public async Task<ShownInModels> ModelsAsync(Who who, Guid draft, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(who);
        var own = await NameAsync(who, draft, stop);
        var models = await database.SearchAsync(
            $"""
            SELECT w.id, d.id, d.number, d.title, r.label || '.' || w.ordinal, t.position, t.lines
            FROM leaf_text t JOIN draft w ON w.id = t.draft_id JOIN document d ON d.id = w.document_id JOIN revision r ON r.id = w.revision_id
            JOIN draft_leaf l ON l.draft_id = t.draft_id AND l.position = t.position
            WHERE t.folded LIKE $1 AND l.frame ->> 'kind' = 'scene' AND d.id <> $2
            ORDER BY d.number, r.ordinal DESC, w.ordinal DESC LIMIT {MostDocuments}
            """,
            r => (Name: Name(r), Leaf: r.GetInt32(5), Lines: r.GetFieldValue<string[]>(6)), [Finder.Within(WrittenPage.Fold(own.Number)), own.Document], who.ReadFolders is not null, stop);
        var numbers = new HashSet<string>([own.Number], StringComparer.Ordinal);
        var named = (await SeenAsync(who, models, m => m.Name.Draft, stop)).DistinctBy(m => m.Name.Document)
            .Where(m => m.Lines.Any(line => Callouts.Among(line, numbers).Any())).Take(MostModels).Select(m => new ShownInModel(m.Name, m.Leaf, own.Number, false));
        var set = await database.ListAsync(
            """
            SELECT w.id, d.id, d.number, d.title, r.label || '.' || w.ordinal, l.position, s.component
            FROM document_shown s JOIN document d ON d.id = s.model_id JOIN draft w ON w.document_id = d.id JOIN revision r ON r.id = w.revision_id
            JOIN draft_leaf l ON l.draft_id = w.id AND l.frame ->> 'kind' = 'scene'
            WHERE s.document_id = $1 ORDER BY d.number, r.ordinal DESC, w.ordinal DESC, l.position
            """,
            r => new ShownInModel(Name(r), r.GetInt32(5), r.GetString(6), true), [own.Document], stop);
        var said = (await SeenAsync(who, set, m => m.Name.Draft, stop)).DistinctBy(m => m.Name.Document).ToList();
        return new ShownInModels([.. said, .. named.Where(m => said.All(s => s.Name.Document != m.Name.Document))], Relating.MaySet(who));
    }

    /// <summary>Documents of which somebody said that a model shows what they are about, each with its newest draft that somebody may see, and which components are meant.</summary>
    public async Task<IReadOnlyList<(NumberedDocument Document, string Component)>> RelatedAsync(Who who, Guid model, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(who);
        var drafts = await database.ListAsync(
            $"""
            {FactsSql}, s.component
            FROM document_shown s JOIN document d ON d.id = s.document_id JOIN draft w ON w.document_id = d.id JOIN revision r ON r.id = w.revision_id
            WHERE s.model_id = (SELECT document_id FROM draft WHERE id = $2) ORDER BY d.number, r.ordinal DESC, w.ordinal DESC LIMIT {MostDocuments}
            """,
            r => (Document: Numbered(r), Component: r.GetString(9)), [who.ReadFolders, model], stop);
        return [.. (await SeenAsync(who, drafts, d => d.Document.Name.Draft, stop)).DistinctBy(d => d.Document.Name.Document)];
    }

    /// <summary>The other files that a draft consists of; where each was taken from is told to whoever may see it.</summary>
    public async Task<IReadOnlyList<ShownBeside>> BesideAsync(Who who, Guid draft, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(who);
        await access.DemandDraftAsync(who, draft, stop);
        var rows = await BesideRows.OfAsync(database, false, draft, stop);
        var from = rows.Select(r => r.FromDraft).OfType<Guid>().Distinct().ToArray();
        var names = from.Length == 0 ? [] : await database.ListAsync(NamesSql + " WHERE w.id = ANY ($1)", Name, [from], stop);
        var seen = (await SeenAsync(who, names, n => n.Draft, stop)).ToDictionary(n => n.Draft);
        return [.. rows.Select(r => new ShownBeside(r.Name, r.Sha256 is not null, r.FromDraft is { } of ? seen.GetValueOrDefault(of) : null))];
    }

    /// <summary>
    /// Where a leaf speaks of what is looked for, by its number, its name or its item: in the leaf's parts list, in that of another leaf of the draft, or
    /// in another that is given.
    /// </summary>
    /// <param name="otherwise">By the number of the draft's document, a list that holds where the draft has none.</param>
    public async Task<IReadOnlyList<ItemOnSheet>> ItemsAsync(Who who, Guid draft, int position, Called called, Func<string, IReadOnlyDictionary<string, string>> otherwise, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(otherwise);
        var own = await NameAsync(who, draft, stop);
        return await ItemsOnSheet.OfAsync(await WrittenAsync(draft, position, stop), called, async () =>
        {
            var others = await database.ListAsync($"SELECT position FROM draft_leaf WHERE draft_id = $1 AND position <> $2 ORDER BY position LIMIT {MostLeaves}", r => r.GetInt32(0), [draft, position], stop);
            foreach (var other in others)
                if (ItemsOnSheet.ListOn(await WrittenAsync(draft, other, stop), called) is { Count: > 0 } list) return list;
            return otherwise(own.Number);
        });
    }

    /// <summary>What is written on a leaf; nothing where nothing is.</summary>
    private async Task<IReadOnlyList<WrittenRun>> WrittenAsync(Guid draft, int position, CancellationToken stop)
    {
        var form = await database.FirstAsync(
            "SELECT f.sha256 FROM draft w JOIN draft_form f ON f.draft_id = w.id AND f.version = w.prepared WHERE w.id = $1 AND f.position = $2 AND f.form = $3",
            r => r.GetFieldValue<byte[]>(0), [draft, position, LeafForms.Text], stop);
        using var json = new MemoryStream();
        if (form is null || !await spool.CopyToAsync(form, json, stop)) return [];
        json.Position = 0;
        return WrittenForm.Read(json);
    }

    /// <summary>Those of some rows whose drafts somebody may see.</summary>
    private async Task<IReadOnlyList<T>> SeenAsync<T>(Who who, List<T> rows, Func<T, Guid> draftOf, CancellationToken stop)
    {
        if (who.ReadFolders is not { } folders) return rows;
        var seen = await Access.DraftsAmongAsync(database, who.Id, folders, [.. rows.Select(draftOf)], stop);
        return [.. rows.Where(r => seen.Contains(draftOf(r)))];
    }

    /// <summary>The documents that a leaf names, and where; its own is none of them.</summary>
    public async Task<IReadOnlyList<NamedDocument>> OnLeafAsync(Who who, Guid draft, int position, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(who);
        await access.DemandDraftAsync(who, draft, stop);
        // The words come from the database; only of a leaf that names something is the form read for where they stand.
        var lines = await database.FirstAsync("SELECT lines FROM leaf_text WHERE draft_id = $1 AND position = $2", r => r.GetFieldValue<string[]>(0), [draft, position], stop);
        if (lines is null) return [];
        var named = lines.SelectMany(Callouts.In).Select(c => c.Number).Distinct(StringComparer.Ordinal).Take(MostNumbers).ToArray();
        if (named.Length == 0) return [];
        var newest = (await ByNumberAsync(who, draft, named, stop)).ToDictionary(d => d.Name.Number, d => d.Name);
        if (newest.Count == 0) return [];
        var numbers = newest.Keys.ToHashSet(StringComparer.Ordinal);
        return [.. (await WrittenAsync(draft, position, stop))
            .SelectMany(l => Callouts.Among(l.Text, numbers).Select(c => (c.Number, Place: WrittenPage.Stretch(l, c.From, c.End)))).Take(MostPlaces)
            .GroupBy(p => p.Number).Select(p => new NamedDocument(newest[p.Key], [.. p.Select(x => x.Place)])).OrderBy(n => n.Name.Number, StringComparer.Ordinal)];
    }
}
