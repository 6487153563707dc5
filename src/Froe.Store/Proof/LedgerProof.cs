using System.Text;
using System.Text.Json;
using Froe.Core.Ledger;
using Npgsql;

namespace Froe.Store.Proof;

/// <summary>What is to be proven; all of it when nothing is named.</summary>
/// <param name="Number">Of one package or document, with the files of its drafts.</param>
/// <param name="SinceSeal">Only what was recorded after this seal.</param>
public sealed record ProofWanted(string? Number = null, long? SinceSeal = null);

/// <summary>How far it has come.</summary>
public sealed record ProofProgress(string What, long Done);

/// <summary>What was proven, and what was found wrong.</summary>
/// <param name="Count">How many findings there are; <paramref name="Findings"/> holds the first of each kind.</param>
public sealed record ProofResult(long Entries, long Chains, long Packages, long Documents, long Files, long Bytes, long Count, IReadOnlyList<string> Findings);

/// <summary>
/// Proves the database against its ledger:
/// <list type="number">
/// <item>every chain holds (<see cref="HashChain"/>);</item>
/// <item>every package, its slip, sign-offs, verdicts, notes, threads and advice are what its chain tells, and no more; so are every document, its revisions and drafts, and every published plan;</item>
/// <item>every markup is what its changes make of it, and what lay on a draft when it was signed is what the sign-off names;</item>
/// <item>whatever has a row has its chain, and whatever has a chain has its row;</item>
/// <item>everybody is called, and may come in, as their chain tells; groups, rights, absences and calendars are as the office made them;</item>
/// <item>every stored file is the bytes that its hash names.</item>
/// </list>
/// Parts of the ledger are proven at once, on two connections for each processor.
/// </summary>
public sealed class LedgerProof(Database database)
{
    private const int EntriesTogether = 20_000;
    // Kept apart, so that much that is wrong with one kind leaves room for the words of another.
    private readonly Findings findings = new(), planFindings = new(), personFindings = new(), officeFindings = new(), fileFindings = new();
    private long entries, chains, packages, documents, files, bytes;

    /// <summary>Proves what is wanted.</summary>
    /// <exception cref="ArgumentException">There is no such number, or no such seal.</exception>
    public async Task<ProofResult> RunAsync(ProofWanted wanted, IProgress<ProofProgress>? progress = null, CancellationToken stop = default)
    {
        ArgumentNullException.ThrowIfNull(wanted);
        var ids = await WantedAsync(wanted, stop);
        findings.Names = (await database.ListAsync("SELECT id, name FROM person", r => (Id: r.GetGuid(0), Name: r.GetString(1)), [], stop)).ToDictionary(p => p.Id, p => p.Name);
        await InPartsAsync(ids is null ? ScopesAsync(stop) : SomeAsync(ids), async scope =>
        {
            var proven = await ProveAsync(scope, stop);
            progress?.Report(new("entries", proven));
        }, stop);
        if (ids is null)
        {
            await PlansAsync(stop);
            await OfficeProof.RunAsync(database, officeFindings, stop);
        }
        await PersonProof.RunAsync(database, ids, personFindings, stop);
        await InPartsAsync(ContentPartsAsync(ids), async part =>
        {
            var (some, length) = await ContentProof.RunAsync(database, part, fileFindings, stop);
            Interlocked.Add(ref files, some);
            var proven = Interlocked.Add(ref bytes, length);
            progress?.Report(new("bytes of files", proven));
        }, stop);
        if (ids is null && await database.AnyAsync("SELECT 1 FROM content_chunk k WHERE NOT EXISTS (SELECT 1 FROM content c WHERE c.sha256 = k.sha256) LIMIT 1", [], stop)) fileFindings.Add("there are parts of files that no file is made of");
        return new ProofResult(entries, chains, packages, documents, files, bytes, findings.Count + planFindings.Count + personFindings.Count + officeFindings.Count + fileFindings.Count, [.. findings.All, .. planFindings.All, .. personFindings.All, .. officeFindings.All, .. fileFindings.All]);
    }

    private async Task<Guid[]?> WantedAsync(ProofWanted wanted, CancellationToken stop)
    {
        if (wanted.Number is { } number)
        {
            var found = await database.ListAsync("SELECT id FROM package WHERE number = $1 UNION ALL SELECT id FROM document WHERE number = $1", r => r.GetGuid(0), [number], stop);
            return found.Count > 0 ? [.. found] : throw new ArgumentException($"There is no package or document {number}.", nameof(wanted));
        }
        if (wanted.SinceSeal is not { } seal) return null;
        var at = await database.ListAsync("SELECT at FROM ledger_seal WHERE number = $1", r => r.Time(0), [seal], stop);
        if (at.Count == 0) throw new ArgumentException($"There is no seal {seal}.", nameof(wanted));
        // What was under way while the seal was made may bear an earlier time.
        return [.. await database.ListAsync("SELECT DISTINCT chain FROM ledger_entry WHERE at > $1", r => r.GetGuid(0), [at[0].AddHours(-1).UtcDateTime], stop)];
    }

    /// <summary>Half of a part's time is spent waiting for its rows; so twice as many are under way as there are processors.</summary>
    private static async Task InPartsAsync<T>(IAsyncEnumerable<T> parts, Func<T, Task> proveAsync, CancellationToken stop) =>
        await Parallel.ForEachAsync(parts, new ParallelOptions { MaxDegreeOfParallelism = Environment.ProcessorCount * 2, CancellationToken = stop }, async (part, _) => await proveAsync(part));

    /// <summary>The ids of all chains, packages and documents, cut into parts of about as many entries.</summary>
    private async IAsyncEnumerable<Scope> ScopesAsync([System.Runtime.CompilerServices.EnumeratorCancellation] CancellationToken stop)
    {
        var last = new Guid("ffffffff-ffff-ffff-ffff-ffffffffffff");
        for (var after = Guid.Empty; ;)
        {
            var next = await database.ListAsync("SELECT chain FROM ledger_entry WHERE chain > $1 ORDER BY chain, sequence OFFSET $2 LIMIT 1", r => r.GetGuid(0), [after, EntriesTogether], stop);
            yield return new Scope(after, next.Count > 0 ? next[0] : last);
            if (next.Count == 0) yield break;
            after = next[0];
        }
    }

    private static async IAsyncEnumerable<Scope> SomeAsync(Guid[] ids)
    {
        await Task.CompletedTask;
        foreach (var some in ids.Chunk(1000)) yield return new Scope(Guid.Empty, Guid.Empty, some);
    }

    private static async IAsyncEnumerable<string> ContentPartsAsync(Guid[]? ids)
    {
        await Task.CompletedTask;
        if (ids is null)
        {
            for (var first = 0; first < 256; first += 4)
                yield return $"c.sha256 >= '\\x{first:x2}'{(first + 4 < 256 ? $" AND c.sha256 < '\\x{first + 4:x2}'" : "")}";
            yield break;
        }
        foreach (var some in ids.Chunk(1000))
        {
            var drafts = $"SELECT id, sha256 FROM draft WHERE {new Scope(Guid.Empty, Guid.Empty, some).Holds("document_id")} OR id IN (SELECT draft_id FROM package_item WHERE {new Scope(Guid.Empty, Guid.Empty, some).Holds("package_id")})";
            yield return $"c.sha256 IN (SELECT sha256 FROM ({drafts}) d UNION SELECT f.sha256 FROM ({drafts}) d JOIN draft_form f ON f.draft_id = d.id UNION SELECT b.sha256 FROM ({drafts}) d JOIN draft_beside b ON b.draft_id = d.id)";
        }
    }

    /// <summary>Proves the chains of a part, and what they are about; gives how many entries were proven by now.</summary>
    private async Task<long> ProveAsync(Scope scope, CancellationToken stop)
    {
        await using var connection = await database.OpenAsync(stop);
        // One moment for chains and tables: what happens meanwhile is in neither.
        await using var transaction = await connection.BeginTransactionAsync(System.Data.IsolationLevel.RepeatableRead, stop);
        var packageRows = await connection.ListAsync($"{PackageProof.RowsSql} WHERE {scope.Holds("id")}", PackageProof.Row, [], stop);
        var documentRows = await connection.ListAsync($"{DocumentProof.RowsSql} WHERE {scope.Holds("id")}", DocumentProof.Row, [], stop);
        var about = packageRows.Select(p => p.Id).Concat(documentRows.Select(d => d.Id)).ToHashSet();
        var told = ReadChains(connection, scope, about);
        if (packageRows.Count > 0) await ProvePackagesAsync(connection, scope, packageRows, told, stop);
        if (documentRows.Count > 0) await ProveDocumentsAsync(connection, scope, documentRows, told, stop);
        return Interlocked.Read(ref entries);
    }

    /// <summary>Walks the chains of a part; gives the entries of those that are about a package or a document.</summary>
    private Dictionary<Guid, List<ToldEntry>> ReadChains(NpgsqlConnection connection, Scope scope, HashSet<Guid> about)
    {
        var told = new Dictionary<Guid, List<ToldEntry>>();
        var (walk, words) = (new ChainWalk(), new KnownWords());
        using var rows = new CopyReader(connection, $"SELECT chain, sequence, at, person_id, action, reason, payload, before, hash FROM ledger_entry WHERE {scope.Holds("chain")} ORDER BY chain, sequence", 9);
        Span<byte> nobody = stackalloc byte[16];
        nobody.Clear();
        long read = 0;
        while (rows.Read())
        {
            read++;
            var entry = new RawEntry(rows.Bytes(0), rows.Number(1), rows.Microseconds(2), rows.IsNull(3) ? nobody : rows.Bytes(3), rows.Bytes(4), rows.Bytes(5), rows.Bytes(6), rows.Bytes(7), rows.Bytes(8));
            if (walk.Next(entry) is { } fault) findings.Add($"chain {fault.Chain}, entry {fault.Sequence}: {fault.What}");
            var chain = new Guid(entry.Chain, bigEndian: true);
            if (about.Contains(chain))
            {
                if (!told.TryGetValue(chain, out var list)) told[chain] = list = [];
                list.Add(new ToldEntry(
                    rows.Time(2), rows.IsNull(3) ? null : new Guid(entry.Person, bigEndian: true),
                    words.Of(entry.Action), Encoding.UTF8.GetString(entry.Reason), entry.Payload.ToArray()));
            }
            else if (entry.Sequence == 1 && (entry.Action.SequenceEqual("package sent"u8) || entry.Action.SequenceEqual("split off"u8) || entry.Action.SequenceEqual("document registered"u8)))
            {
                findings.Add($"chain {chain}: the {(entry.Action.SequenceEqual("document registered"u8) ? "document" : "package")} that it is about is gone");
            }
        }
        Interlocked.Add(ref entries, read);
        Interlocked.Add(ref chains, walk.Chains);
        return told;
    }

    private async Task ProvePackagesAsync(NpgsqlConnection connection, Scope scope, List<PackageProof.PackageRow> rows, Dictionary<Guid, List<ToldEntry>> told, CancellationToken stop)
    {
        var tables = await PackageTables.ReadAsync(connection, scope, stop);
        var noteIds = await NoteIdsAsync(connection, scope, stop);
        tables.Overlays.CompareAll(findings);
        foreach (var row in rows)
        {
            if (!told.TryGetValue(row.Id, out var chain))
            {
                findings.Add($"package {row.Number}: its chain of the ledger is gone");
                continue;
            }
            await TryAsync($"package {row.Number}", async () =>
            {
                // What came along from another package was written there.
                var before = row.SplitFrom is { } from ? await BeforeAsync(connection, from, chain[0].At, stop) : null;
                PackageProof.Of(chain, before, noteIds[row.Id]).Compare(row, tables, findings);
            });
        }
        Interlocked.Add(ref packages, rows.Count);
    }

    private async Task ProveDocumentsAsync(NpgsqlConnection connection, Scope scope, List<DocumentProof.DocumentRow> rows, Dictionary<Guid, List<ToldEntry>> told, CancellationToken stop)
    {
        var tables = await DocumentTables.ReadAsync(connection, scope, stop);
        var moves = await FolderMove.AllAsync(connection, stop);
        foreach (var row in rows)
            if (told.TryGetValue(row.Id, out var chain)) await TryAsync($"document {row.Number}", () =>
            {
                DocumentProof.Of(chain).Compare(row, tables, moves, findings);
                return Task.CompletedTask;
            });
            else findings.Add($"document {row.Number}: its chain of the ledger is gone");
        Interlocked.Add(ref documents, rows.Count);
    }

    /// <summary>What a package told until items were split off from it; others may have acted before that whose requests came after its own.</summary>
    /// <param name="at">When they were split off.</param>
    private static async Task<PackageProof> BeforeAsync(NpgsqlConnection connection, Guid package, DateTimeOffset at, CancellationToken stop)
    {
        var chain = await connection.ListAsync(
            "SELECT at, person_id, action, reason, payload FROM ledger_entry WHERE chain = $1 AND sequence <= (SELECT max(sequence) FROM ledger_entry WHERE chain = $1 AND at = $2) ORDER BY sequence",
            r => new ToldEntry(r.Time(0), r.IdOrNull(1), r.GetString(2), r.GetString(3), Encoding.UTF8.GetBytes(r.GetString(4))), [package, at.UtcDateTime], stop);
        var from = (await connection.ListAsync("SELECT split_from FROM package WHERE id = $1", r => r.IdOrNull(0), [package], stop)).FirstOrDefault();
        return PackageProof.Of(chain, from is { } earlier && chain.Count > 0 ? await BeforeAsync(connection, earlier, chain[0].At, stop) : null, (await NoteIdsAsync(connection, new Scope(Guid.Empty, Guid.Empty, [package]), stop))[package]);
    }

    /// <summary>
    /// Numbers of the notes that advice was asked on, by their ids, for each package of a part: its own, and those of all that was split
    /// off from it or from where it came. A note keeps its number wherever it goes.
    /// </summary>
    private static async Task<ILookup<Guid, (Guid Id, int Number)>> NoteIdsAsync(NpgsqlConnection connection, Scope scope, CancellationToken stop) => (await connection.ListAsync(
        $"""
        WITH p AS MATERIALIZED (SELECT id, split_from FROM package WHERE {scope.Holds("id")}), family AS (
            SELECT id AS of, id FROM p
            UNION SELECT id, split_from FROM p WHERE split_from IS NOT NULL
            UNION SELECT p.id, k.id FROM p JOIN package k ON k.split_from = p.id
            UNION SELECT p.id, k.id FROM p JOIN package k ON k.split_from = p.split_from)
        SELECT DISTINCT f.of, n.id, n.number FROM family f JOIN advice a ON a.package_id = f.id JOIN note n ON n.id = a.note_id
        """,
        r => (Of: r.GetGuid(0), Id: r.GetGuid(1), Number: r.GetInt32(2)), [], stop)).ToLookup(n => n.Of, n => (n.Id, n.Number));

    /// <summary>What cannot be told at all is a finding, and holds up no other.</summary>
    private async Task TryAsync(string where, Func<Task> work)
    {
        try
        {
            await work();
        }
        catch (Exception e) when (e is JsonException or KeyNotFoundException or InvalidOperationException or FormatException or NullReferenceException or ArgumentException)
        {
            findings.Add($"{where}: its ledger cannot be told: {e.Message}");
        }
    }

    /// <summary>Published plans: each edition is what was published, by whom and when, and none is there besides.</summary>
    private async Task PlansAsync(CancellationToken stop)
    {
        await using var connection = await database.OpenAsync(stop);
        await using var transaction = await connection.BeginTransactionAsync(System.Data.IsolationLevel.RepeatableRead, stop);
        var told = new Dictionary<(Guid Plan, int Edition), (string Body, Guid? By, DateTimeOffset At)>();
        foreach (var (chain, payload, by, at) in await connection.ListAsync("SELECT chain, payload, person_id, at FROM ledger_entry WHERE action = 'plan published'", r => (r.GetGuid(0), r.GetString(1), r.IdOrNull(2), r.Time(3)), [], stop))
        {
            try
            {
                using var json = JsonDocument.Parse(payload);
                told[(chain, json.RootElement.GetProperty("edition").GetInt32())] = (json.RootElement.GetProperty("plan").GetRawText(), by, at);
            }
            catch (Exception e) when (e is JsonException or KeyNotFoundException or InvalidOperationException or FormatException)
            {
                planFindings.Add($"plan {chain}: its ledger cannot be told: {e.Message}");
            }
        }
        foreach (var (plan, name, edition, body, by, at) in await connection.ListAsync(
            "SELECT p.id, p.name, e.edition, e.body::text, e.published_by, e.published_at FROM plan_edition e JOIN plan p ON p.id = e.plan_id",
            r => (r.GetGuid(0), r.GetString(1), r.GetInt32(2), r.GetString(3), r.IdOrNull(4), r.Time(5)), [], stop))
        {
            var which = $"plan “{name}”, edition {edition}";
            if (!told.Remove((plan, edition), out var published))
            {
                if (by is not null) planFindings.Add($"{which}: the ledger knows nothing of its publishing");
            }
            else if (!IsSame(published.Body, body)) planFindings.Add($"{which}: it is not the plan that was published");
            else if ((published.By, published.At) != (by, at)) planFindings.Add($"{which}: somebody else published it, or at another time");
        }
        foreach (var (plan, edition) in told.Keys) planFindings.Add($"plan {plan}: its edition {edition} is gone");
    }

    private static bool IsSame(string told, string row)
    {
        using var ours = JsonDocument.Parse(told);
        using var theirs = JsonDocument.Parse(row);
        return JsonElement.DeepEquals(ours.RootElement, theirs.RootElement);
    }
}
