using System.Text.Json;
using Froe.Core.Draft;
using Npgsql;

namespace Froe.Store.Proof;

/// <summary>A draft as the ledger tells it.</summary>
/// <param name="Forms">The forms of its leaves, of every version; null where an earlier program did not record them.</param>
internal sealed record ToldDraft(Guid Id, string Revision, int Ordinal, string Sha256, string FileName, Guid By, DateTimeOffset At, HashSet<(int Version, StoredForm Form)>? Forms)
{
    /// <summary>The version whose forms are shown.</summary>
    public int Prepared { get; set; }

    /// <summary>The other files that it consists of, by name; null where it is missing.</summary>
    public Dictionary<string, string?> Beside { get; set; } = [];
}

/// <summary>What a document's chain tells, and whether the tables say the same.</summary>
internal sealed class DocumentProof
{
    private readonly List<ToldDraft> drafts = [];
    private readonly List<(Guid Draft, ScaleRow Row)> scales = [];
    private readonly List<(Guid Draft, StatedRow Row)> stated = [];
    private readonly Dictionary<string, (DateTimeOffset? ReleasedAt, bool IsSuperseded)> revisions = [];
    private string number = "", title = "", kind = "", discipline = "", last = "", stage = "";
    private Guid originator;
    private readonly HashSet<string> withdrawn = [];
    private readonly Dictionary<Guid, string> shownIn = [];
    private readonly HashSet<(string Package, int Round, Guid Draft)> sent = [];
    private DateTimeOffset registeredAt;
    private (string Path, DateTimeOffset At)? filed;

    /// <summary>Tells the whole chain.</summary>
    public static DocumentProof Of(IEnumerable<ToldEntry> chain)
    {
        var told = new DocumentProof();
        foreach (var entry in chain) told.Tell(entry);
        return told;
    }

    private void Tell(ToldEntry entry)
    {
        using var json = JsonDocument.Parse(entry.Payload);
        var payload = json.RootElement;
        string Text(string name) => payload.GetProperty(name).GetString() ?? "";
        switch (entry.Action)
        {
            case "document registered":
                (number, title, kind, discipline, originator) = (Text("number").Trim(), Text("title").Trim(), Text("kind"), Text("discipline").Trim(), entry.Person ?? Guid.Empty);
                registeredAt = entry.At;
                if (payload.TryGetProperty("folder", out var folder)) filed = (folder.GetString() ?? "", entry.At);
                revisions[last = RevisionLabel.First] = default;
                break;
            case "revision started":
                revisions[last = Text("revision")] = default;
                stage = "";
                break;
            case "draft uploaded":
                var version = payload.TryGetProperty("version", out var told) ? told.GetInt32() : 1;
                drafts.Add(new ToldDraft(
                    payload.GetProperty("draft").GetGuid(), Text("revision"), payload.GetProperty("ordinal").GetInt32(), Text("sha256"), Text("fileName"), entry.Person ?? Guid.Empty, entry.At,
                    Forms(payload) is { } forms ? [.. forms.Select(f => (version, f))] : null)
                { Prepared = version, Beside = Beside(payload) });
                stage = "";
                break;
            case "draft prepared anew":
                var anew = drafts.First(d => d.Id == payload.GetProperty("draft").GetGuid());
                anew.Prepared = payload.GetProperty("version").GetInt32();
                anew.Beside = Beside(payload);
                anew.Forms?.UnionWith(Forms(payload)!.Select(f => (anew.Prepared, f)));
                break;
            case "scale set" or "scale taken back":
                scales.Add((payload.GetProperty("draft").GetGuid(), new ScaleRow(payload.GetProperty("leaf").GetInt32(), payload.GetProperty("millimetres") is { ValueKind: JsonValueKind.Number } mm ? mm.GetDouble() : null, entry.Person ?? Guid.Empty, entry.At)));
                break;
            case "dimensions chosen":
                stated.Add((payload.GetProperty("draft").GetGuid(), new StatedRow(payload.GetProperty("leaf").GetInt32(), payload.GetProperty("shown").Deserialize<int[]>(Act.Json)!, payload.GetProperty("words").Deserialize<string[]>(Act.Json)!, entry.Person ?? Guid.Empty, entry.At)));
                break;
            case "model related":
                shownIn[payload.GetProperty("model").GetGuid()] = Text("component");
                break;
            case "relation taken away":
                shownIn.Remove(payload.GetProperty("model").GetGuid());
                break;
            case "revision released":
                revisions[Text("revision")] = (entry.At, false);
                break;
            case "revision superseded":
                revisions[Text("revision")] = (revisions.GetValueOrDefault(Text("revision")).ReleasedAt, true);
                break;
            case "revision withdrawn":
                withdrawn.Add(Text("revision"));
                break;
            case "originator changed":
                originator = payload.GetProperty("to").GetGuid();
                break;
            case "filed":
                filed = (Text("folder"), entry.At);
                break;
            case "sent for review":
                sent.Add((Text("package"), 1, payload.GetProperty("draft").GetGuid()));
                break;
            case "sent for review again":
                sent.Add((Text("package"), payload.GetProperty("round").GetInt32(), payload.GetProperty("draft").GetGuid()));
                break;
            case "standing moved":
                stage = Text("to");
                break;
        }
    }

    private static Dictionary<string, string?> Beside(JsonElement payload) =>
        payload.TryGetProperty("beside", out var beside) && beside.ValueKind == JsonValueKind.Array ? beside.Deserialize<ToldBeside[]>(Act.Json)!.ToDictionary(b => b.Name, b => b.Sha256) : [];

    /// <summary>The forms an entry names; before leaves had any number of them, three of each sheet were named in one row.</summary>
    private static IEnumerable<StoredForm>? Forms(JsonElement payload)
    {
        if (payload.TryGetProperty("forms", out var forms)) return forms.Deserialize<StoredForm[]>(Act.Json);
        string[] three = [LeafForms.Geometry, LeafForms.Picture, LeafForms.Small];
        return payload.TryGetProperty("sheets", out var sheets) && sheets.ValueKind == JsonValueKind.Array
            ? sheets.EnumerateArray().Select((s, i) => new StoredForm(i / 3, three[i % 3], s.GetString()!))
            : null;
    }

    public const string RowsSql =
        """
        SELECT id, number, title, kind, discipline, originator, registered_at, standing, changed_at, originator_name, (SELECT f.path FROM folder f WHERE f.id = document.folder_id), (SELECT p.name FROM person p WHERE p.id = document.originator),
               CASE WHEN same_number IS NULL THEN EXISTS (SELECT 1 FROM document o WHERE o.same_number = same_number(document.number)) ELSE same_number = same_number(number) END
        FROM document
        """;

    /// <summary>A document as its row says.</summary>
    /// <param name="Folder">Where it is filed.</param>
    /// <param name="OriginatorIsCalled">What its originator is called.</param>
    public sealed record DocumentRow(
        Guid Id, string Number, string Title, string Kind, string Discipline, Guid Originator, DateTimeOffset RegisteredAt, string Standing, DateTimeOffset ChangedAt, string OriginatorName, string? Folder, string? OriginatorIsCalled)
    {
        /// <summary>Whether no other document can be given its number.</summary>
        public bool HasItsNumber { get; init; }
    }

    public static DocumentRow Row(NpgsqlDataReader r) => new(
        r.GetGuid(0), r.GetString(1), r.GetString(2), r.GetString(3), r.GetString(4), r.GetGuid(5), r.Time(6), r.GetString(7), r.Time(8), r.GetString(9), r.TextOrNull(10), r.TextOrNull(11))
    {
        HasItsNumber = r.GetBoolean(12),
    };

    /// <summary>Compares what was told with a document's rows.</summary>
    /// <param name="moves">How folders were moved, by time.</param>
    public void Compare(DocumentRow row, DocumentTables tables, IReadOnlyList<FolderMove> moves, Findings findings)
    {
        var where = $"document {row.Number}";
        findings.Alike(where, "its number", number, row.Number);
        if (!row.HasItsNumber) findings.Add($"{where}: another document could be given its number");
        findings.Alike(where, "its title", title, row.Title);
        findings.Alike(where, "its kind", kind, row.Kind);
        findings.Alike(where, "its discipline", discipline, row.Discipline);
        findings.Alike(where, "its originator", originator, row.Originator);
        findings.Alike(where, "when it was registered", registeredAt, row.RegisteredAt);
        // Documents registered before there were folders say nothing of where they are, until they are filed.
        if (filed is { } at && FolderMove.Now(at.Path, at.At, moves) is var now && !now.Contains(row.Folder)) findings.Alike(where, "the folder it is filed in", now[0], row.Folder);
        CompareListed(where, row, tables, findings);
        foreach (var item in tables.Sent[row.Id].Where(s => !sent.Contains(s))) findings.Add($"{where}: it was never sent in round {item.Round} of package {item.Package} with draft {item.Draft}");
        if (!shownIn.ToHashSet().SetEquals(tables.ShownIn[row.Id])) findings.Add($"{where}: the models that show it are not those that were named");
        var rows = tables.Drafts[row.Id].ToDictionary(d => d.Id);
        foreach (var told in drafts)
        {
            var which = $"{where}, draft {told.Revision}.{told.Ordinal}";
            if (!rows.Remove(told.Id, out var draft))
            {
                findings.Add($"{which} is gone");
                continue;
            }
            findings.Alike(which, "its revision and number", $"{told.Revision}.{told.Ordinal}", $"{draft.Revision}.{draft.Ordinal}");
            findings.Alike(which, "the hash of its bytes", told.Sha256, draft.Sha256);
            findings.Alike(which, "its file's name", told.FileName, draft.FileName);
            findings.Alike(which, "who uploaded it", told.By, draft.By);
            findings.Alike(which, "when it was uploaded", told.At, draft.At);
            findings.Alike(which, "the version of its forms", told.Prepared, draft.Prepared);
            if (!scales.Where(s => s.Draft == told.Id).Select(s => s.Row).SequenceEqual(tables.Scales[told.Id])) findings.Add($"{which}: the scales of its sheets are not those that were given");
            if (!stated.Where(s => s.Draft == told.Id).Select(s => s.Row).SequenceEqual(tables.Stated[told.Id])) findings.Add($"{which}: what is shown of its dimensions is not what was chosen");
            if (!told.Beside.ToHashSet().SetEquals(tables.Beside[told.Id].Select(b => KeyValuePair.Create(b.Name, b.Sha256)))) findings.Add($"{which}: the other files that it consists of are not those it was read with");
            if (told.Forms is { } forms && !forms.SetEquals(tables.Forms[told.Id])) findings.Add($"{which}: its sheets are not those that were read from it");
        }
        foreach (var draft in rows.Values) findings.Add($"{where}: draft {draft.Revision}.{draft.Ordinal} was never uploaded");
        CompareRevisions(where, row.Id, tables, findings);
    }

    /// <summary>What lists show of it: where its last revision stands, when it changed, and whose it is.</summary>
    private static void CompareListed(string where, DocumentRow row, DocumentTables tables, Findings findings)
    {
        findings.Alike(where, "what its originator is called", row.OriginatorIsCalled, row.OriginatorName);
        if (tables.Revisions[row.Id].OrderByDescending(r => r.Ordinal).Select(r => ((Guid Id, string Label, string Standing, DateTimeOffset? ReleasedAt)?)(r.Id, r.Label, r.Standing, r.ReleasedAt)).FirstOrDefault() is not { } revision) return;
        findings.Alike(where, "its standing in lists", revision.Standing, row.Standing);
        DateTimeOffset?[] times = [tables.Drafts[row.Id].Where(d => d.Revision == revision.Label).OrderByDescending(d => d.Ordinal).Select(d => (DateTimeOffset?)d.At).FirstOrDefault(), revision.ReleasedAt];
        findings.Alike(where, "when it changed last", times.Max() ?? row.RegisteredAt, row.ChangedAt);
    }

    private void CompareRevisions(string where, Guid document, DocumentTables tables, Findings findings)
    {
        var rows = tables.Revisions[document].ToDictionary(r => r.Label);
        var order = 0;
        foreach (var (label, told) in revisions)
        {
            order++;
            var which = $"{where}, revision {label}";
            if (!rows.Remove(label, out var revision))
            {
                findings.Add($"{which} is gone");
                continue;
            }
            findings.Alike(which, "its place among the others", order, revision.Ordinal);
            // What is not released stands where the package stands that it is in.
            var standing = withdrawn.Contains(label) ? "withdrawn" : told.IsSuperseded ? "superseded" : told.ReleasedAt is not null ? "released" : tables.InPackages.GetValueOrDefault(revision.Id, "in work");
            findings.Alike(which, "its standing", standing, revision.Standing);
            findings.Alike(which, "when it was released", told.ReleasedAt, revision.ReleasedAt);
            if (label == last) findings.Alike(which, "its standing in the folder", stage, revision.Stage);
        }
        foreach (var label in rows.Keys) findings.Add($"{where}: revision {label} was never started");
    }
}

/// <summary>A scale that somebody gave a sheet; without millimetres, one was taken back.</summary>
internal sealed record ScaleRow(int Leaf, double? Millimetres, Guid By, DateTimeOffset At);

/// <summary>What somebody chose to be shown of a model's dimensions.</summary>
/// <param name="Shown">Their places, and <paramref name="Words"/> what they say.</param>
internal sealed record StatedRow(int Leaf, int[] Shown, string[] Words, Guid By, DateTimeOffset At)
{
    public bool Equals(StatedRow? other) =>
        other is not null && (Leaf, By, At) == (other.Leaf, other.By, other.At) && Shown.AsSpan().SequenceEqual(other.Shown) && Words.AsSpan().SequenceEqual(other.Words);

    public override int GetHashCode() => HashCode.Combine(Leaf, By, At);
}

/// <summary>The rows that belong to some documents.</summary>
internal sealed class DocumentTables
{
    public required ILookup<Guid, (Guid Id, string Revision, int Ordinal, string Sha256, string FileName, Guid By, DateTimeOffset At, int Prepared)> Drafts { get; init; }

    public required ILookup<Guid, (int Version, StoredForm Form)> Forms { get; init; }

    /// <summary>The models that each document was said to be shown in, and as which component.</summary>
    public required ILookup<Guid, KeyValuePair<Guid, string>> ShownIn { get; init; }

    /// <summary>The other files that each draft consists of.</summary>
    public required ILookup<Guid, ToldBeside> Beside { get; init; }

    /// <summary>Of each draft, in the order they were given.</summary>
    public required ILookup<Guid, ScaleRow> Scales { get; init; }

    /// <summary>Of each draft, in the order they were chosen.</summary>
    public required ILookup<Guid, StatedRow> Stated { get; init; }

    public required ILookup<Guid, (Guid Id, string Label, string Standing, DateTimeOffset? ReleasedAt, string Stage, int Ordinal)> Revisions { get; init; }

    /// <summary>The rounds that each document was sent in. The number of a package that was split off is told from its next round on.</summary>
    public required ILookup<Guid, (string Package, int Round, Guid Draft)> Sent { get; init; }

    /// <summary>How a revision stands by the latest package it is in; each package is proven by its own chain.</summary>
    public required IReadOnlyDictionary<Guid, string> InPackages { get; init; }

    /// <summary>Reads them on one connection.</summary>
    public static async Task<DocumentTables> ReadAsync(NpgsqlConnection connection, Scope scope, CancellationToken stop)
    {
        var of = scope.Holds("x.document_id");
        async Task<ILookup<Guid, T>> LookAsync<T>(string sql, Func<NpgsqlDataReader, T> map, params object[] parameters) =>
            (await connection.ListAsync(sql, r => (Key: r.GetGuid(0), Value: map(r)), parameters, stop)).ToLookup(r => r.Key, r => r.Value);
        var revisions = await LookAsync($"SELECT x.document_id, x.id, x.label, x.standing, x.released_at, x.stage, x.ordinal FROM revision x WHERE {of}", r => (Id: r.GetGuid(1), Label: r.GetString(2), r.GetString(3), r.TimeOrNull(4), r.GetString(5), r.GetInt32(6)));
        // A draft under another document's revision has none of its own.
        var labels = revisions.SelectMany(r => r).ToDictionary(r => r.Id, r => r.Label);
        var drafts = await LookAsync(
            $"SELECT x.document_id, x.id, x.revision_id, x.ordinal, x.sha256, x.file_name, x.uploaded_by, x.uploaded_at, x.prepared FROM draft x WHERE {of}",
            r => (Id: r.GetGuid(1), labels.GetValueOrDefault(r.GetGuid(2), "?"), r.GetInt32(3), r.Hash(4), r.GetString(5), r.GetGuid(6), r.Time(7), r.GetInt32(8)));
        // By ids: joined, the planner walks what all drafts have, for each part.
        var ids = drafts.SelectMany(d => d).Select(d => d.Id).ToArray();
        return new DocumentTables
        {
            Drafts = drafts,
            Revisions = revisions,
            Forms = await LookAsync("SELECT draft_id, version, position, form, sha256 FROM draft_form WHERE draft_id = ANY ($1)", r => (r.GetInt32(1), new StoredForm(r.GetInt32(2), r.GetString(3), r.Hash(4))), ids),
            ShownIn = await LookAsync($"SELECT x.document_id, x.model_id, x.component FROM document_shown x WHERE {of}", r => KeyValuePair.Create(r.GetGuid(1), r.GetString(2))),
            Beside = await LookAsync("SELECT draft_id, name, sha256 FROM draft_beside WHERE draft_id = ANY ($1)", r => new ToldBeside(r.GetString(1), r.IsDBNull(2) ? null : r.Hash(2)), ids),
            Scales = await LookAsync(
                "SELECT draft_id, position, millimetres, person_id, at FROM draft_scale WHERE draft_id = ANY ($1) ORDER BY id",
                r => new ScaleRow(r.GetInt32(1), r.IsDBNull(2) ? null : r.GetDouble(2), r.GetGuid(3), r.Time(4)), ids),
            Stated = await LookAsync(
                "SELECT draft_id, position, shown, words, person_id, at FROM draft_stated WHERE draft_id = ANY ($1) ORDER BY id",
                r => new StatedRow(r.GetInt32(1), r.GetFieldValue<int[]>(2), r.GetFieldValue<string[]>(3), r.GetGuid(4), r.Time(5)), ids),
            Sent = await SentAsync(connection, of, stop),
            InPackages = (await connection.ListAsync(
                $"""
                SELECT DISTINCT ON (x.revision_id) x.revision_id, x.document_id, k.standing,
                       CASE WHEN k.standing = 'returned' THEN (SELECT e.payload FROM ledger_entry e WHERE e.chain = k.id AND e.action IN ('package returned', 'package pulled back', 'package recalled', 'split off') ORDER BY e.sequence DESC LIMIT 1) END
                FROM package_item x JOIN package k ON k.id = x.package_id AND k.round = x.round WHERE {of} ORDER BY x.revision_id, k.sent_at DESC, k.id DESC
                """,
                r => (Revision: r.GetGuid(0), Standing: Standing(r.GetGuid(1), r.GetString(2), r.TextOrNull(3))), [], stop)).ToDictionary(p => p.Revision, p => p.Standing),
        };
    }

    private static async Task<ILookup<Guid, (string Package, int Round, Guid Draft)>> SentAsync(NpgsqlConnection connection, string of, CancellationToken stop)
    {
        var items = await connection.ListAsync($"SELECT x.document_id, x.package_id, x.round, x.draft_id FROM package_item x WHERE {of}", r => (Document: r.GetGuid(0), Package: r.GetGuid(1), Round: r.GetInt32(2), Draft: r.GetGuid(3)), [], stop);
        var packages = (await connection.ListAsync(
            "SELECT id, number, CASE WHEN split_from IS NULL THEN 0 ELSE (SELECT min(i.round) FROM package_item i WHERE i.package_id = package.id) END FROM package WHERE id = ANY ($1)",
            r => (Id: r.GetGuid(0), Number: r.GetString(1), NotIn: r.GetInt32(2)), [items.Select(i => i.Package).Distinct().ToArray()], stop)).ToDictionary(p => p.Id);
        return items.Where(i => packages.TryGetValue(i.Package, out var package) && i.Round != package.NotIn).ToLookup(i => i.Document, i => (packages[i.Package].Number, i.Round, i.Draft));
    }

    private static string Standing(Guid document, string package, string? returned)
    {
        switch (package)
        {
            case "in review": return package;
            case "returned":
                try
                {
                    using var json = JsonDocument.Parse(returned ?? "{}");
                    return !json.RootElement.TryGetProperty("documents", out var some) || some.GetArrayLength() == 0 || some.EnumerateArray().Any(d => d.GetGuid() == document) ? "returned" : "in review";
                }
                catch (Exception e) when (e is JsonException or InvalidOperationException or FormatException)
                {
                    // An entry that cannot be read is found where its package is proven.
                    return package;
                }

            default: return "in work";
        }
    }
}
