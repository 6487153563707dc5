using System.Text.Json;

namespace Froe.Store;

/// <summary>One act in a history.</summary>
/// <param name="Package">Number of the package it happened in, if any.</param>
/// <param name="Hash">First 12 hex digits of the entry's hash.</param>
public sealed record HistoryEntry(DateTimeOffset At, string? Person, string Action, string Reason, JsonElement Payload, string? Package, long Sequence, string Hash);

/// <summary>What the ledger tells of packages and documents, for people to read.</summary>
public static class Histories
{
    private const int MostOfDocument = 500;

    /// <summary>All that happened to a package, in order.</summary>
    public static Task<List<HistoryEntry>> OfPackageAsync(IReads reads, Guid package, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(reads);
        return reads.ListAsync($"{Sql} WHERE e.chain = $1 ORDER BY e.sequence", Row, [package], stop);
    }

    /// <summary>What happened to a document and to the packages it was in, newest first; and whether there is more than is given.</summary>
    public static async Task<(IReadOnlyList<HistoryEntry> Newest, bool GoesOn)> OfDocumentAsync(IReads reads, Guid document, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(reads);
        var found = await reads.ListAsync(
            $"{Sql} WHERE e.chain = ANY (ARRAY(SELECT $1 UNION ALL SELECT package_id FROM package_item WHERE document_id = $1)) ORDER BY e.at DESC, e.sequence DESC LIMIT {MostOfDocument + 1}",
            Row, [document], stop);
        return (found.Count > MostOfDocument ? found[..MostOfDocument] : found, found.Count > MostOfDocument);
    }

    private const string Sql =
        """
        SELECT e.at, p.name, e.action, e.reason, e.payload, k.number, e.sequence, e.hash
        FROM ledger_entry e LEFT JOIN person p ON p.id = e.person_id LEFT JOIN package k ON k.id = e.chain
        """;

    private static HistoryEntry Row(Npgsql.NpgsqlDataReader r) => new(
        r.Time(0), r.TextOrNull(1), r.GetString(2), r.GetString(3), JsonDocument.Parse(r.GetString(4)).RootElement, r.TextOrNull(5), r.GetInt64(6), string.Concat(r.Hash(7).Take(12)));
}
