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

/// <summary>From what is written on a leaf to the documents it names.</summary>
public sealed class Referring(Database database, Access access, Spool spool)
{
    private const int MostNumbers = 50_000, MostDocuments = 500, MostPlaces = 2000;

    private const string NamesSql =
        "SELECT w.id, d.id, d.number, d.title, r.label || '.' || w.ordinal FROM draft w JOIN revision r ON r.id = w.revision_id JOIN document d ON d.id = w.document_id";

    private static DraftName Name(Npgsql.NpgsqlDataReader r) => new(r.GetGuid(0), r.GetGuid(1), r.GetString(2), r.GetString(3), r.GetString(4));

    /// <summary>What a draft is called.</summary>
    public async Task<DraftName> NameAsync(Who who, Guid draft, CancellationToken stop)
    {
        await access.DemandDraftAsync(who, draft, stop);
        return await database.FirstAsync(NamesSql + " WHERE w.id = $1", Name, [draft], stop) ?? throw Refused.Missing("draft");
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
        var drafts = await database.ListAsync(
            $"""
            {NamesSql} WHERE d.id IN (SELECT id FROM document WHERE number = ANY ($1) AND id <> (SELECT document_id FROM draft WHERE id = $2) LIMIT {MostDocuments})
            ORDER BY d.number, r.ordinal DESC, w.ordinal DESC
            """, Name, [named, draft], stop);
        if (who.ReadFolders is { } folders)
        {
            var seen = await Access.DraftsAmongAsync(database, who.Id, folders, [.. drafts.Select(d => d.Draft)], stop);
            drafts = [.. drafts.Where(d => seen.Contains(d.Draft))];
        }
        var newest = drafts.DistinctBy(d => d.Document).ToDictionary(d => d.Number);
        if (newest.Count == 0) return [];
        var form = await database.FirstAsync(
            "SELECT f.sha256 FROM draft w JOIN draft_form f ON f.draft_id = w.id AND f.version = w.prepared WHERE w.id = $1 AND f.position = $2 AND f.form = $3",
            r => r.GetFieldValue<byte[]>(0), [draft, position, LeafForms.Text], stop);
        using var json = new MemoryStream();
        if (form is null || !await spool.CopyToAsync(form, json, stop)) return [];
        json.Position = 0;
        var numbers = newest.Keys.ToHashSet(StringComparer.Ordinal);
        return [.. WrittenForm.Read(json)
            .SelectMany(l => Callouts.Among(l.Text, numbers).Select(c => (c.Number, Place: WrittenPage.Stretch(l, c.From, c.End)))).Take(MostPlaces)
            .GroupBy(p => p.Number).Select(p => new NamedDocument(newest[p.Key], [.. p.Select(x => x.Place)])).OrderBy(n => n.Name.Number, StringComparer.Ordinal)];
    }
}
