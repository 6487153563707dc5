using System.Collections;
using Froe.Core.Draft;

namespace Froe.Store;

/// <summary>What people have seen of sheets, as the database keeps it.</summary>
public static class SeenRows
{
    /// <summary>How much of each draft a person has seen; drafts of which that is not known, such as those without sheets, are missing. $1 person, $2 drafts.</summary>
    private const string SharesSql =
        """
        SELECT l.draft_id, sum((l.frame ->> 'patches')::int), coalesce(sum(bit_count(s.patches)), 0)
        FROM draft w JOIN draft_leaf l ON l.draft_id = w.id
        LEFT JOIN seen s ON s.person_id = $1 AND s.draft_id = w.id AND s.position = l.position AND s.version = w.prepared
        WHERE w.id = ANY ($2) AND l.frame ->> 'patches' IS NOT NULL GROUP BY l.draft_id
        """;

    /// <summary>How much of each draft a person has seen; drafts of which that is not known, such as those without sheets, are missing.</summary>
    public static async Task<Dictionary<Guid, SeenShare>> SharesAsync(IReads reads, Guid person, IReadOnlyCollection<Guid> drafts, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(reads);
        var rows = await reads.ListAsync(SharesSql, r => (Draft: r.GetGuid(0), Share: new SeenShare((int)r.GetInt64(1), (int)r.GetDecimal(2))), [person, drafts.ToArray()], stop);
        return rows.ToDictionary(r => r.Draft, r => r.Share);
    }

    /// <summary>What a person has seen of a sheet, a bit for each patch; null when nothing of it as it is prepared now.</summary>
    public static async Task<BitArray?> OfLeafAsync(IReads reads, Guid person, Guid draft, int position, int version, CancellationToken stop) =>
        (await reads.ListAsync("SELECT patches FROM seen WHERE person_id = $1 AND draft_id = $2 AND position = $3 AND version = $4", r => r.GetFieldValue<BitArray>(0), [person, draft, position, version], stop)).FirstOrDefault();

    /// <summary>Adds to what a person has seen of a sheet, and gives all of it. Done in one statement: two windows that look at once each add theirs.</summary>
    public static async Task<BitArray?> AddAsync(Database database, Guid person, Guid draft, int position, int version, BitArray patches, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(database);
        var all = await database.ListAsync(
            """
            INSERT INTO seen (person_id, draft_id, position, version, patches) VALUES ($1, $2, $3, $4, $5)
            ON CONFLICT (person_id, draft_id, position) DO UPDATE SET version = excluded.version,
                patches = CASE WHEN seen.version = excluded.version THEN seen.patches | excluded.patches ELSE excluded.patches END
            WHERE seen.version <= excluded.version RETURNING patches
            """,
            r => r.GetFieldValue<BitArray>(0), [person, draft, position, version, patches], stop);
        return all.FirstOrDefault();
    }
}
