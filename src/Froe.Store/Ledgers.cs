using Froe.Core.Ledger;

namespace Froe.Store;

/// <summary>Reading and proving the ledger.</summary>
public sealed class Ledgers(Database database)
{
    private const string Columns = "chain, sequence, at, person_id, action, reason, payload, before, hash";

    /// <summary>The entries of one chain, in order.</summary>
    public Task<List<ChainedEntry>> ChainAsync(Guid chain, CancellationToken stop = default) =>
        database.ListAsync($"SELECT {Columns} FROM ledger_entry WHERE chain = $1 ORDER BY sequence", Entry, [chain], stop);

    /// <summary>Walks every chain and gives the first fault of each broken one; streams, so it does not matter how long the ledger is.</summary>
    public async Task<(long Entries, long Chains, List<ChainFault> Faults)> VerifyAsync(CancellationToken stop = default)
    {
        await using var connection = await database.OpenAsync(stop);
        await using var command = connection.Command($"SELECT {Columns} FROM ledger_entry ORDER BY chain, sequence", []);
        await using var reader = await command.ExecuteReaderAsync(stop);
        var chain = new List<ChainedEntry>();
        var faults = new List<ChainFault>();
        long entries = 0, chains = 0;
        while (await reader.ReadAsync(stop))
        {
            var entry = Entry(reader);
            if (chain.Count > 0 && chain[0].Entry.Chain != entry.Entry.Chain) Close();
            chain.Add(entry);
            entries++;
        }
        if (chain.Count > 0) Close();
        return (entries, chains, faults);

        void Close()
        {
            chains++;
            if (HashChain.Verify(chain) is { } fault) faults.Add(fault);
            chain.Clear();
        }
    }

    private static ChainedEntry Entry(Npgsql.NpgsqlDataReader r) => new(
        new LedgerEntry(r.GetGuid(0), r.GetInt64(1), r.Time(2), r.IsDBNull(3) ? null : r.GetGuid(3), r.GetString(4), r.GetString(5), r.GetString(6)),
        r.GetFieldValue<byte[]>(7), r.GetFieldValue<byte[]>(8));
}
