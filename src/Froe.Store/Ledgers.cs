using Froe.Core.Ledger;

namespace Froe.Store;

/// <summary>Reading and proving the ledger.</summary>
public sealed class Ledgers(Database database)
{
    private const string Columns = "chain, sequence, at, person_id, action, reason, payload, before, hash";

    /// <summary>The entries of one chain, in order.</summary>
    public Task<List<ChainedEntry>> ChainAsync(Guid chain, CancellationToken stop = default) =>
        database.ListAsync($"SELECT {Columns} FROM ledger_entry WHERE chain = $1 ORDER BY sequence", Entry, [chain], stop);

    private static ChainedEntry Entry(Npgsql.NpgsqlDataReader r) => new(
        new LedgerEntry(r.GetGuid(0), r.GetInt64(1), r.Time(2), r.IsDBNull(3) ? null : r.GetGuid(3), r.GetString(4), r.GetString(5), r.GetString(6)),
        r.GetFieldValue<byte[]>(7), r.GetFieldValue<byte[]>(8));
}
