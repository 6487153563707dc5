using System.Globalization;
using System.Text.Json;
using Froe.Core.Ledger;
using Froe.Server.Lists;
using Froe.Server.Packages;
using Froe.Server.SignIn;
using Froe.Store;
using Npgsql;

namespace Froe.Server.Ledger;

/// <summary>What a chain of the ledger is about.</summary>
public enum SubjectKind
{
    /// <summary>A package.</summary>
    Package,

    /// <summary>A document.</summary>
    Document,

    /// <summary>A routing plan.</summary>
    Plan,

    /// <summary>People, groups, rights, folders and calendars.</summary>
    Office,
}

/// <summary>An entry of the ledger, of whatever chain.</summary>
/// <param name="Id">The chain and the number in it.</param>
/// <param name="Person">Who; null for what Froe did by itself.</param>
/// <param name="SubjectNumber">The package's or document's number; empty for what has none.</param>
/// <param name="About">What the act was on, in words: a step's name, a note's number, a folder; empty when the action says it all.</param>
/// <param name="Payload">What was recorded, to the letter.</param>
/// <param name="Before">The hash of the entry before, 64 hex digits; so is the hash.</param>
public sealed record ListedEntry(
    string Id, Guid Chain, long Sequence, DateTimeOffset At, Guid? Person, string? PersonName, string Action, string Reason, SubjectKind Subject, string SubjectNumber, string SubjectTitle, string About, string Payload, string Before, string Hash);

/// <summary>Which entries are asked for; what is left out does not matter.</summary>
/// <param name="Subject">One of <see cref="SubjectKind"/>.</param>
/// <param name="Search">Words of the number, title or name of what they are about.</param>
/// <param name="From">Not before.</param>
/// <param name="Until">Before.</param>
/// <param name="Chain">Of this chain only.</param>
internal sealed record EntriesAsked(string? Subject, Guid? Person, string? Search, DateTimeOffset? From, DateTimeOffset? Until, Guid? Chain, string? Sort);

/// <summary>Whether one chain holds.</summary>
/// <param name="Fault">The number of the first entry that breaks it and how; null when it holds.</param>
public sealed record ChainProof(long Entries, DateTimeOffset From, DateTimeOffset Until, string Head, ChainFault? Fault);

/// <summary>The ledger as one list, for whoever has to answer what happened.</summary>
internal sealed class LedgerList(Database database, Ledgers ledgers)
{
    private const int PageSize = 50, FilePageSize = 500;

    /// <summary>The most things that words may stand for; whoever means more looks for fewer.</summary>
    private const int MostSubjects = 500;

    /// <summary>So many chains at most have their entries gathered; of more, going by time soon meets some. A document's are fewer than a package's, and rarer.</summary>
    private const int FewChains = 500, FewDocuments = 2_000;

    /// <summary>So many chains at most are looked up by hash; of more, each entry's own is asked after.</summary>
    private const int ManyChains = 20_000;

    private const string RowSql =
        """
        SELECT e.chain, e.sequence, e.at, e.person_id, p.name, e.action, e.reason,
               CASE WHEN k.id IS NOT NULL THEN 0 WHEN d.id IS NOT NULL THEN 1 WHEN l.id IS NOT NULL THEN 2 ELSE 3 END,
               coalesce(k.number, d.number, ''), coalesce(k.title, d.title, l.name, g.name, o.name, c.name, e.payload::json ->> 'name', nullif(e.payload::json ->> 'path', ''), CASE WHEN e.payload::jsonb ? 'path' THEN 'the register' END, ''), e.payload, e.before, e.hash, CASE WHEN e.payload::jsonb ? 'step' THEN k.slip::text END
        FROM unnest($1::uuid[], $2::bigint[]) WITH ORDINALITY AS w (chain, sequence, place)
        JOIN ledger_entry e ON e.chain = w.chain AND e.sequence = w.sequence
        LEFT JOIN person p ON p.id = e.person_id
        LEFT JOIN package k ON k.id = e.chain
        LEFT JOIN document d ON d.id = e.chain
        LEFT JOIN plan l ON l.id = e.chain
        LEFT JOIN person_group g ON g.id = e.chain
        LEFT JOIN person o ON o.id = e.chain
        LEFT JOIN calendar c ON c.id = e.chain
        ORDER BY w.place
        """;

    private static readonly ListOrder<ListedEntry> ByTime = new(["e.at", "e.chain", "e.sequence"], e => [e.At, e.Chain, e.Sequence], [typeof(DateTimeOffset), typeof(Guid), typeof(long)]);

    private static readonly Listing<ListedEntry> Columns = new(
        "-at",
        new("at", "When", (e, zone) => CsvFile.Time(e.At, zone), ByTime),
        new("person", "Who", (e, _) => e.PersonName ?? "Froe"),
        new("action", "What", (e, _) => e.Action),
        new("about", "On", (e, _) => e.About),
        new("subject", "Of what", (e, _) => e.SubjectNumber),
        new("title", "Title", (e, _) => e.SubjectTitle),
        new("reason", "Reason", (e, _) => e.Reason),
        new("chain", "Chain", (e, _) => e.Chain.ToString()),
        new("sequence", "Number in its chain", (e, _) => e.Sequence.ToString(CultureInfo.InvariantCulture)),
        new("hash", "Hash", (e, _) => e.Hash),
        new("recorded", "As recorded", (e, _) => e.Payload));

    public Task<ListPage<ListedEntry>> PageAsync(Who who, EntriesAsked asked, string? after, CancellationToken stop) => PageAsync(who, asked, after, PageSize, stop);

    /// <summary>Everything asked for, as a file.</summary>
    public Task WriteAsync(Who who, EntriesAsked asked, string? columns, string? zone, HttpContext context) => CsvFile.WriteAsync(
        context, "ledger", Columns.Columns(columns), CsvFile.Zone(zone), after => PageAsync(who, asked, after, FilePageSize, context.RequestAborted));

    /// <summary>Walks one chain from its first entry to its last.</summary>
    /// <exception cref="Refused">There is none, or none that this person may see.</exception>
    public async Task<ChainProof> ProveAsync(Who who, Guid chain, CancellationToken stop)
    {
        if ((await PageAsync(who, new EntriesAsked(null, null, null, null, null, chain, null), null, 1, stop)).Rows.Count == 0) throw Refused.Missing("chain");
        var entries = await ledgers.ChainAsync(chain, stop);
        return new ChainProof(entries.Count, entries[0].Entry.At, entries[^1].Entry.At, Convert.ToHexStringLower(entries[^1].Hash), HashChain.Verify(entries));
    }

    private async Task<ListPage<ListedEntry>> PageAsync(Who who, EntriesAsked asked, string? after, int size, CancellationToken stop)
    {
        if (!who.IsOfOffice) throw Refused.Forbidden("Guests see the ledger of the packages they take part in, on the bench.");
        var all = new Conditions();
        SubjectKind? kind = string.IsNullOrEmpty(asked.Subject) ? null
            : Enum.TryParse<SubjectKind>(asked.Subject, ignoreCase: true, out var parsed) && Enum.IsDefined(parsed) ? parsed : throw Refused.Missing("kind of subject");
        var parts = await PartsAsync(all, who, kind, stop);
        if (parts.Count == 0) return new ListPage<ListedEntry>([], null);
        if (asked.Chain is { } chain) all.Add("e.chain = @1", chain);
        if (asked.Person is { } by) all.Add("e.person_id = @1", by);
        if (asked.From is { } from) all.Add("e.at >= @1", from.UtcDateTime);
        if (asked.Until is { } until) all.Add("e.at < @1", until.UtcDateTime);
        // What the words stand for is looked up first: the ledger is then read by its chains, however long it is.
        if (Conditions.Words(asked.Search) is { Length: > 0 }) all.Add("e.chain = ANY (@1)", await SubjectsAsync(who, asked.Search!, stop));
        return await Columns.PageAsync(asked.Sort, after, all, size, async (order, most) =>
        {
            var each = parts.Select(p => $"(SELECT e.at, e.chain, e.sequence FROM {p.From} e WHERE {all} AND {p.Which} ORDER BY {order} LIMIT {most})");
            var ids = await database.SearchAsync($"SELECT e.chain, e.sequence FROM ({string.Join(" UNION ALL ", each)}) e ORDER BY {order} LIMIT {most}", r => (Chain: r.GetGuid(0), Sequence: r.GetInt64(1)), all.Values, who.ReadFolders is not null, stop);
            return ids.Count == 0 ? [] : await database.ListAsync(RowSql, Row, [ids.Select(i => i.Chain).ToArray(), ids.Select(i => i.Sequence).ToArray()], stop);
        });
    }

    private async Task<Guid[]> SubjectsAsync(Who who, string typed, CancellationToken stop)
    {
        // A whole number means that one, and not every other that begins with it.
        var whole = typed.Trim();
        var exact = await database.ListAsync(
            "SELECT id FROM package WHERE number = ANY ($1) UNION ALL SELECT id FROM document WHERE number = ANY ($1)", r => r.GetGuid(0), [new[] { whole, whole.ToUpperInvariant() }], stop);
        if (exact.Count > 0) return [.. exact];
        var words = Conditions.Patterns(typed);
        var found = new List<Guid>();
        foreach (var (table, text) in new[] { ("package", "number ILIKE @1 OR title ILIKE @1"), ("document", "number ILIKE @1 OR title ILIKE @1"), ("plan", "name ILIKE @1"), ("person_group", "name ILIKE @1"), ("person", "name ILIKE @1"), ("calendar", "name ILIKE @1") })
        {
            var all = new Conditions();
            foreach (var word in words) all.Add(text, word);
            found.AddRange(await database.SearchAsync($"SELECT id FROM {table} WHERE {all} LIMIT {MostSubjects + 1}", r => r.GetGuid(0), all.Values, who.ReadFolders is not null, stop));
        }
        return found.Count <= MostSubjects ? [.. found] : throw Refused.Invalid("too-many-found", $"These words stand for more than {MostSubjects} packages and documents. Add another word, or a whole number.");
    }

    /// <summary>A part of what a person may read: no entry is of two.</summary>
    private sealed record Part(string From, string Which);

    /// <summary>
    /// What a person may read of: packages and documents as everywhere; plans, all but guests; the office's own acts, administrators. Each
    /// part is looked at by its own index; of one kind, nothing is asked that is for another.
    /// </summary>
    private async Task<List<Part>> PartsAsync(Conditions all, Who who, SubjectKind? kind, CancellationToken stop)
    {
        const string Ledger = "ledger_entry";
        var parts = new List<Part>();
        if (who.ReadFolders is null)
        {
            if (kind is null) return [new Part(Ledger, who.CanAdminister ? "true" : $"e.action NOT IN {OfficeActs.Sql}")];
            if (kind is SubjectKind.Package or SubjectKind.Document) return [new Part(Ledger, $"e.chain IN (SELECT id FROM {(kind == SubjectKind.Package ? "package" : "document")})")];
        }
        else if (kind is null or SubjectKind.Package or SubjectKind.Document)
        {
            parts.Add(await ChainsAsync(all, who, who.ReadFolders, kind, stop));
        }
        if (kind is null or SubjectKind.Plan) parts.Add(new Part(Ledger, $"e.action IN {OfficeActs.PlanSql}"));
        if (who.CanAdminister && kind is null or SubjectKind.Office) parts.Add(new Part(Ledger, $"e.action IN {OfficeActs.Sql}"));
        return parts;
    }

    /// <summary>The entries of packages and documents that somebody may see who reads these folders, found in the way that their number asks for.</summary>
    private async Task<Part> ChainsAsync(Conditions all, Who who, long[] folders, SubjectKind? kind, CancellationToken stop)
    {
        string Seen(string of, string by)
        {
            var (packages, documents) = (VisibilitySql.PackagesSql(of, by), $"SELECT id FROM document WHERE folder_id = ANY ({of})");
            return kind switch { SubjectKind.Package => packages, SubjectKind.Document => documents, _ => $"{packages} UNION ALL {documents}" };
        }
        // PostgreSQL counts far quicker than it hands out: ids are asked for only when they are few.
        var count = (await database.SearchAsync($"SELECT count(*) FROM ({Seen("$1", "$2")} LIMIT {ManyChains + 1}) c", r => r.GetInt64(0), [folders, who.Id], true, stop))[0];
        if (count <= (kind == SubjectKind.Document ? FewDocuments : FewChains))
        {
            // Of few their entries are gathered, chain by chain, before they are put in order: going by time would meet one of them in
            // thousands. PostgreSQL is left no choice, for it takes all chains to be as long as a few very long ones make them.
            var chains = await database.SearchAsync(Seen("$1", "$2"), r => r.GetGuid(0), [folders, who.Id], true, stop);
            return new Part($"(SELECT l.* FROM unnest({all.Value(chains.Distinct().ToArray())}::uuid[]) c CROSS JOIN LATERAL (SELECT * FROM ledger_entry WHERE chain = c OFFSET 0) l OFFSET 0)", "true");
        }
        var (of, by) = (all.Value(folders), all.Value(who.Id));
        // IS TRUE keeps what is asked a look into a hash, which goes along with the index of times: as a join all entries would be put in order.
        if (count <= ManyChains) return new Part("ledger_entry", $"(e.chain IN ({Seen(of, by)})) IS TRUE");
        var package = $"EXISTS ({VisibilitySql.OnePackageSql("e.chain", of, by)})";
        var document = $"EXISTS (SELECT 1 FROM document d WHERE d.id = e.chain AND d.folder_id = ANY ({of}))";
        return new Part("ledger_entry", kind switch { SubjectKind.Package => package, SubjectKind.Document => document, _ => $"({package} OR {document})" });
    }

    private static ListedEntry Row(NpgsqlDataReader r) => new(
        $"{r.GetGuid(0)}/{r.GetInt64(1)}", r.GetGuid(0), r.GetInt64(1), r.Time(2), r.IsDBNull(3) ? null : r.GetGuid(3), r.TextOrNull(4), r.GetString(5), r.GetString(6), (SubjectKind)r.GetInt32(7), r.GetString(8), r.GetString(9),
        About(r.GetString(5), JsonDocument.Parse(r.GetString(10)).RootElement, r.TextOrNull(13)), r.GetString(10), r.Hash(11), r.Hash(12));

    private static string About(string action, JsonElement payload, string? slip)
    {
        if (payload.ValueKind != JsonValueKind.Object) return "";
        string? Text(string name) => payload.TryGetProperty(name, out var value) && value.ValueKind == JsonValueKind.String ? value.GetString() : null;
        if (Text("step") is { } step) return (slip is null ? null : SlipStore.Read(slip).Plan.Steps().FirstOrDefault(s => s.Key == step)?.Name) ?? step;
        if (payload.TryGetProperty("note", out var note) && note.ValueKind == JsonValueKind.Number) return note.GetRawText();
        if (action == "standing moved") return $"from {Text("from")} to {Text("to")}";
        if (Text("scale") is { } scale) return $"{scale} {Text("sheet")}".Trim();
        if (action == OfficeActs.FolderMoved) return $"to {Text("to")}";
        return Text("folder") ?? (Text("revision") is { } revision ? payload.TryGetProperty("ordinal", out var ordinal) ? $"{revision}.{ordinal}" : revision : "");
    }
}
