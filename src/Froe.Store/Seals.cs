using System.Security.Cryptography;
using System.Security.Cryptography.X509Certificates;
using Froe.Core.Ledger;
using Npgsql;

namespace Froe.Store;

/// <summary>A seal as it is kept.</summary>
/// <param name="Signature">By the key named; null when the server had none.</param>
public sealed record KeptSeal(Seal Seal, byte[] Hash, byte[]? Signature, string? Key);

/// <summary>What proving the seals found.</summary>
/// <param name="Last">The newest; null when there is none.</param>
/// <param name="Unproven">Seals whose signature could not be checked: made without a key, or with another one.</param>
/// <param name="Faults">In words, each naming its seal.</param>
public sealed record SealProof(long Seals, KeptSeal? Last, long Unproven, IReadOnlyList<string> Faults);

/// <summary>Making and proving seals.</summary>
public sealed class Seals(Database database)
{
    private const string Columns = "number, at, heads, root, before, hash, signature, key";

    /// <summary>How long an act may take from the moment it names to its commit; what took longer is found once a day, when all chains are looked at.</summary>
    private static readonly TimeSpan LongestAct = TimeSpan.FromHours(1);

    private static readonly TimeSpan LookAtAllAfter = TimeSpan.FromHours(20);

    /// <summary>The newest seal; null when there is none.</summary>
    public async Task<KeptSeal?> LastAsync(CancellationToken stop = default) => await database.FirstAsync($"SELECT {Columns} FROM ledger_seal ORDER BY number DESC LIMIT 1", Row, [], stop);

    /// <summary>Seals what was recorded since the last seal; null when nothing was, or when that seal is younger than <paramref name="every"/>.</summary>
    /// <param name="at">Now.</param>
    /// <param name="every">How often seals are made; several servers make one between them.</param>
    /// <param name="key">Signs it (RSASSA-PSS, RFC 8017 clause 8.1, with SHA-256); null for no signature.</param>
    public async Task<KeptSeal?> MakeAsync(DateTimeOffset at, TimeSpan every, X509Certificate2? key, CancellationToken stop = default)
    {
        await using var connection = await database.OpenAsync(stop);
        await using var transaction = await connection.BeginTransactionAsync(stop);
        await connection.ListAsync("SELECT pg_advisory_xact_lock(7072)", _ => 0, [], stop);
        var last = (await connection.ListAsync($"SELECT {Columns}, (SELECT max(at) FROM ledger_seal WHERE looked_at_all) FROM ledger_seal ORDER BY number DESC LIMIT 1", r => (Kept: Row(r), AllAt: r.TimeOrNull(8)), [], stop)).FirstOrDefault();
        if (last.Kept is { } young && at - young.Seal.At < every) return null;
        var all = last.AllAt is not { } allAt || at - allAt >= LookAtAllAfter;
        var number = (last.Kept?.Seal.Number ?? 0) + 1;
        var grown = all ? "true" : "e.chain IN (SELECT chain FROM ledger_entry WHERE at > $2)";
        await using (var fill = connection.Command(
            $"""
            INSERT INTO ledger_seal_head (chain, sequence, seal, hash)
            SELECT chain, sequence, $1, hash FROM (SELECT DISTINCT ON (e.chain) e.chain, e.sequence, e.hash FROM ledger_entry e WHERE {grown} ORDER BY e.chain, e.sequence DESC) head
            ON CONFLICT DO NOTHING
            """,
            all ? [number] : [number, (last.Kept!.Seal.At - LongestAct).UtcDateTime])) await fill.ExecuteNonQueryAsync(stop);
        long heads = 0;
        var root = MerkleTree.Root(Heads(connection, number).Select(h =>
        {
            heads++;
            return h.Leaf();
        }));
        if (heads == 0) return null;
        var seal = new Seal(number, HashChain.Cut(at), heads, root, last.Kept?.Hash ?? HashChain.Start);
        var kept = new KeptSeal(seal, seal.Hash(), Sign(seal, key), key is null ? null : NameOf(key));
        await using (var insert = connection.Command(
            $"INSERT INTO ledger_seal ({Columns}, looked_at_all) VALUES ($1, $2, $3, $4, $5, $6, $7::bytea, $8::text, $9)",
            [number, seal.At.UtcDateTime, heads, root, seal.Before, kept.Hash, kept.Signature, kept.Key, all])) await insert.ExecuteNonQueryAsync(stop);
        await transaction.CommitAsync(stop);
        return kept;
    }

    /// <summary>Proves every seal: that they follow from one another, are signed, and that every entry they cover is there unchanged.</summary>
    /// <param name="key">The certificate that signatures are checked with; null when they cannot be.</param>
    public async Task<SealProof> ProveAsync(X509Certificate2? key, CancellationToken stop = default)
    {
        await using var connection = await database.OpenAsync(stop);
        // One moment for all of it: a seal made meanwhile is not half seen.
        await using var transaction = await connection.BeginTransactionAsync(System.Data.IsolationLevel.RepeatableRead, stop);
        var seals = await connection.ListAsync($"SELECT {Columns} FROM ledger_seal ORDER BY number", Row, [], stop);
        var faults = new List<string>();
        KeptSeal? before = null;
        long unproven = 0;
        foreach (var kept in seals)
        {
            if (kept.Seal.FaultAfter(before?.Seal, kept.Hash, Heads(connection, kept.Seal.Number)) is { } fault) faults.Add($"seal {kept.Seal.Number}: {fault}");
            if (kept.Signature is null || key is null || kept.Key != NameOf(key)) unproven++;
            else if (!IsSigned(kept, key)) faults.Add($"seal {kept.Seal.Number}: its signature is not by this server's key");
            before = kept;
        }
        faults.AddRange(await connection.ListAsync(
            "SELECT h.seal, h.chain, h.sequence, e.hash IS NULL FROM ledger_seal_head h LEFT JOIN ledger_entry e ON e.chain = h.chain AND e.sequence = h.sequence WHERE e.hash IS DISTINCT FROM h.hash ORDER BY h.seal, h.chain LIMIT 1000",
            r => $"seal {r.GetInt64(0)}: entry {r.GetInt64(2)} of chain {r.GetGuid(1)} {(r.GetBoolean(3) ? "is gone" : "is not the one that was sealed")}", [], stop));
        return new SealProof(seals.Count, before, unproven, faults);
    }

    /// <summary>How many chains have an entry from before a moment that no seal covers.</summary>
    public async Task<long> UnsealedAsync(DateTimeOffset before, CancellationToken stop = default) => (await database.ListAsync(
        """
        SELECT count(*) FROM (SELECT chain, max(sequence) AS sequence FROM ledger_entry WHERE at < $1 GROUP BY chain) e
        WHERE NOT EXISTS (SELECT 1 FROM ledger_seal_head h WHERE h.chain = e.chain AND h.sequence >= e.sequence)
        """,
        r => r.GetInt64(0), [before.UtcDateTime], stop))[0];

    /// <summary>What is wrong with a seal that somebody kept elsewhere, as number:hash; null when it is here as they kept it.</summary>
    public async Task<string?> FaultOfAsync(string kept, CancellationToken stop = default)
    {
        ArgumentNullException.ThrowIfNull(kept);
        var parts = kept.Split(':');
        if (parts.Length != 2 || !long.TryParse(parts[0], out var number)) return $"“{kept}” is no seal: it is written NUMBER:HASH.";
        var found = await database.ListAsync("SELECT hash FROM ledger_seal WHERE number = $1", r => r.Hash(0), [number], stop);
        return found.Count == 0 ? $"seal {number} is gone; somebody kept it"
            : string.Equals(found[0], parts[1], StringComparison.OrdinalIgnoreCase) ? null
            : $"seal {number} is not the one that somebody kept";
    }

    /// <summary>The ends that a seal covers, as a stream: the first seal of an old ledger covers every chain.</summary>
    private static IEnumerable<ChainHead> Heads(NpgsqlConnection connection, long seal)
    {
        using var command = connection.Command("SELECT chain, sequence, hash FROM ledger_seal_head WHERE seal = $1 ORDER BY chain", [seal]);
        using var reader = command.ExecuteReader();
        while (reader.Read()) yield return new ChainHead(reader.GetGuid(0), reader.GetInt64(1), reader.GetFieldValue<byte[]>(2));
    }

    private static byte[]? Sign(Seal seal, X509Certificate2? key)
    {
        using var secret = key?.GetRSAPrivateKey();
        return secret?.SignData(seal.Hash(), HashAlgorithmName.SHA256, RSASignaturePadding.Pss);
    }

    private static bool IsSigned(KeptSeal kept, X509Certificate2 key)
    {
        using var open = key.GetRSAPublicKey();
        return open?.VerifyData(kept.Seal.Hash(), kept.Signature!, HashAlgorithmName.SHA256, RSASignaturePadding.Pss) == true;
    }

    private static string NameOf(X509Certificate2 key) => Convert.ToHexStringLower(key.GetCertHash(HashAlgorithmName.SHA256));

    private static KeptSeal Row(NpgsqlDataReader r) => new(
        new Seal(r.GetInt64(0), r.Time(1), r.GetInt64(2), r.GetFieldValue<byte[]>(3), r.GetFieldValue<byte[]>(4)), r.GetFieldValue<byte[]>(5), r.IsDBNull(6) ? null : r.GetFieldValue<byte[]>(6), r.TextOrNull(7));
}
