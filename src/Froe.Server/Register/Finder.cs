using Froe.Core.Draft;
using Froe.Core.Register;
using Froe.Formats;
using Froe.Server.Files;
using Froe.Server.Lists;
using Froe.Server.SignIn;
using Froe.Store;

namespace Froe.Server.Register;

/// <summary>Words found on a leaf that is at hand.</summary>
/// <param name="Leaf">The leaf's position.</param>
public sealed record FoundOnLeaf(Guid Draft, int Leaf, string LeafName, IReadOnlyList<FoundWords> Places);

/// <summary>What was found in some drafts.</summary>
/// <param name="IsAll">False when there is more than is shown.</param>
public sealed record FoundInDrafts(IReadOnlyList<FoundOnLeaf> Leaves, bool IsAll);

/// <summary>A leaf in the register that words were found on.</summary>
/// <param name="Standing">Of its revision; in work, its standing among its folder's.</param>
/// <param name="Count">How often they stand there.</param>
/// <param name="Lines">The first lines they stand in.</param>
public sealed record FoundInRegister(Guid Document, string Number, string Title, string Revision, string Standing, Guid Draft, int Leaf, string LeafName, int Count, IReadOnlyList<string> Lines);

/// <summary>Finds words on leaves.</summary>
public sealed class Finder(Database database, Access access, Spool spool, WordIndex index)
{
    private const int Longest = 200, MostPlaces = 500, MostLeaves = 200, PageSize = 40, MostLines = 3;

    /// <summary>Words in one draft, where they stand.</summary>
    public async Task<FoundInDrafts> InDraftAsync(Who who, Guid draft, string words, CancellationToken stop)
    {
        await access.DemandDraftAsync(who, draft, stop);
        return await InAsync([draft], words, stop);
    }

    /// <summary>Words in all drafts under review in a package.</summary>
    public async Task<FoundInDrafts> InPackageAsync(Who who, Guid package, string words, CancellationToken stop)
    {
        await access.DemandPackageAsync(who, package, stop);
        return await InAsync(await database.ListAsync("SELECT draft_id FROM package_item WHERE package_id = $1 AND round = (SELECT max(round) FROM package_item WHERE package_id = $1) ORDER BY position", r => r.GetGuid(0), [package], stop), words, stop);
    }

    private async Task<FoundInDrafts> InAsync(List<Guid> drafts, string words, CancellationToken stop)
    {
        var wanted = Demand(words);
        await index.HaveAsync(drafts, stop);
        // The whole text is in the database; where it stands is in the form, which is read of the leaves that have it.
        var leaves = await database.SearchAsync(
            """
            SELECT t.draft_id, t.position, l.name, f.sha256 FROM leaf_text t
            JOIN draft w ON w.id = t.draft_id JOIN draft_leaf l ON l.draft_id = t.draft_id AND l.position = t.position
            JOIN draft_form f ON f.draft_id = t.draft_id AND f.position = t.position AND f.version = w.prepared AND f.form = 'text'
            WHERE t.draft_id = ANY ($1) AND strpos(t.folded, $2) > 0 ORDER BY array_position($1, t.draft_id), t.position LIMIT $3
            """,
            r => (Draft: r.GetGuid(0), Position: r.GetInt32(1), Name: r.GetString(2), Sha256: r.GetFieldValue<byte[]>(3)), [drafts.ToArray(), wanted, MostLeaves + 1], false, stop);
        var found = new List<FoundOnLeaf>();
        var left = MostPlaces;
        foreach (var leaf in leaves.Take(MostLeaves))
        {
            if (left == 0) break;
            using var json = new MemoryStream();
            if (!await spool.CopyToAsync(leaf.Sha256, json, stop)) continue;
            json.Position = 0;
            var places = new WrittenPage(WrittenForm.Read(json)).Find(words, left).ToList();
            left -= places.Count;
            found.Add(new FoundOnLeaf(leaf.Draft, leaf.Position, leaf.Name, places));
        }
        return new FoundInDrafts(found, leaves.Count <= MostLeaves && left > 0);
    }

    /// <summary>Words on the newest drafts of the documents that somebody may read, by the documents' numbers.</summary>
    public async Task<ListPage<FoundInRegister>> InRegisterAsync(Who who, string words, string? after, CancellationToken stop)
    {
        if (!who.Rights.Anywhere(Right.Read)) return new ListPage<FoundInRegister>([], null);
        var wanted = Demand(words);
        if (!WrittenPage.IsTelling(wanted)) throw Refused.Invalid("too-short", "Type at least three letters to find them in the register, or two signs of Chinese, Japanese or Korean.");
        var (number, leaf) = Mark(after);
        // How many leaves have a pair the planner knows; of part of a word it always takes them for few. So what has such words is put in order
        // first, and whether it is the newest is asked only until a page is full.
        var (isThere, sought, first) = WrittenPage.PairOf(wanted) is { } pair
            ? ("t.pairs @> ARRAY[$1]", pair, "")
            : ("t.folded LIKE $1", Within(wanted), "ORDER BY d.number, t.position OFFSET 0");
        var rows = await database.SearchAsync(
            $"""
            SELECT m.id, m.number, m.title, r.label, CASE WHEN m.standing = 'in work' AND r.stage <> '' THEN r.stage ELSE m.standing END, m.draft, m.position, l.name, m.lines
            FROM (SELECT d.id, d.number, d.title, d.standing, w.id AS draft, w.revision_id, w.ordinal, t.position, t.lines
                  FROM leaf_text t JOIN draft w ON w.id = t.draft_id JOIN document d ON d.id = w.document_id
                  WHERE {isThere} AND ($2::bigint[] IS NULL OR d.folder_id = ANY ($2)) AND (d.number, t.position) > ($3, $4)
                  {first}) m
            JOIN revision r ON r.id = m.revision_id JOIN draft_leaf l ON l.draft_id = m.draft AND l.position = m.position
            WHERE NOT EXISTS (SELECT 1 FROM draft later JOIN revision v ON v.id = later.revision_id WHERE later.document_id = m.id AND (v.ordinal, later.ordinal) > (r.ordinal, m.ordinal))
            ORDER BY m.number, m.position LIMIT $5
            """,
            r => (new FoundInRegister(r.GetGuid(0), r.GetString(1), r.GetString(2), r.GetString(3), r.GetString(4), r.GetGuid(5), r.GetInt32(6), r.GetString(7), 0, []), Lines: r.GetFieldValue<string[]>(8)),
            [sought, who.ReadFolders, number, leaf, PageSize + 1], who.ReadFolders is not null, stop);
        var found = rows.Take(PageSize).Select(row =>
        {
            var (count, lines) = new WrittenPage([.. row.Lines.Select(l => new WrittenRun(l, default, default, default))]).Count(words, MostPlaces, MostLines);
            return row.Item1 with { Count = count, Lines = lines };
        }).ToList();
        return new ListPage<FoundInRegister>(found, rows.Count > PageSize ? $"{found[^1].Leaf} {found[^1].Number}" : null);
    }

    /// <summary>Where the page before ended.</summary>
    private static (string Number, int Leaf) Mark(string? after)
    {
        if (string.IsNullOrEmpty(after)) return ("", -1);
        var blank = after.IndexOf(' ', StringComparison.Ordinal);
        return blank > 0 && int.TryParse(after.AsSpan(0, blank), out var leaf) ? (after[(blank + 1)..], leaf) : throw Refused.Invalid("bad-mark", "This is no mark of a page of what was found. Search again.");
    }

    /// <summary>The pattern of what has some words in it, for LIKE.</summary>
    internal static string Within(string folded) =>
        $"%{folded.Replace("\\", "\\\\", StringComparison.Ordinal).Replace("%", "\\%", StringComparison.Ordinal).Replace("_", "\\_", StringComparison.Ordinal)}%";

    private static string Demand(string words)
    {
        if (words.Length > Longest) throw Refused.Invalid("too-long", $"Search for at most {Longest} letters.");
        return WrittenPage.Fold(words) is { Length: > 0 } wanted ? wanted : throw Refused.Invalid("too-short", "Type what to find.");
    }
}
