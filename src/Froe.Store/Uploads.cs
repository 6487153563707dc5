using System.Text.Json;
using Froe.Core.Draft;
using Npgsql;

namespace Froe.Store;

/// <summary>A file on its way in.</summary>
/// <param name="Sha256">Of its bytes; null once they were refused and discarded.</param>
/// <param name="State">waiting, reading, read, refused or used.</param>
/// <param name="Fault">Why it was refused.</param>
/// <param name="Report">What the reader saw.</param>
public sealed record Upload(Guid Id, Guid Person, string? Sha256, string FileName, string State, string? Fault, ReaderReport? Report);

/// <summary>The queue of files to be read. A crash loses no work: a claim that is not finished in time is given out again.</summary>
public sealed class Uploads(Database database)
{
    /// <summary>Times a file is tried before it is given up.</summary>
    private const int MostAttempts = 3;

    /// <summary>Puts a file in the queue, in the transaction that stores it.</summary>
    public static async Task AddAsync(NpgsqlConnection connection, Guid id, Guid person, byte[] sha256, long size, string fileName, DateTimeOffset at, CancellationToken stop = default)
    {
        await using var command = connection.Command(
            "INSERT INTO upload (id, person_id, sha256, size, file_name, at, state) VALUES ($1, $2, $3, $4, $5, $6, 'waiting')", [id, person, sha256, size, fileName, at.UtcDateTime]);
        await command.ExecuteNonQueryAsync(stop);
    }

    /// <summary>An upload, or null.</summary>
    public Task<Upload?> FindAsync(Guid id, CancellationToken stop = default) => database.FirstAsync(
        "SELECT id, person_id, sha256, file_name, state, fault, report::text FROM upload WHERE id = $1", Row, [id], stop);

    /// <summary>
    /// The order in which files are read: everybody's first file before anybody's second, counting those being read; among one
    /// person's, and in one turn, the smaller sooner, a second for each megabyte and two minutes at most, so that none waits for ever.
    /// </summary>
    private const string QueueSql =
        """
        SELECT id, row_number() OVER (ORDER BY turn, due, id) AS place FROM (
            SELECT u.id, d.due, row_number() OVER (PARTITION BY u.person_id ORDER BY d.due, u.id) + coalesce(r.reading, 0) AS turn
            FROM upload u
            CROSS JOIN LATERAL (SELECT u.at + least(u.size / 1e6, 120) * interval '1 second' AS due) d
            LEFT JOIN (SELECT person_id, count(*) AS reading FROM upload WHERE state = 'reading' AND claimed_at >= now() - $1::interval GROUP BY person_id) r ON r.person_id = u.person_id
            WHERE u.state = 'waiting' OR (u.state = 'reading' AND u.claimed_at < now() - $1::interval)) q
        """;

    /// <summary>Takes the next file: one that waits, or one whose reader has been silent too long.</summary>
    /// <param name="silent">How long a reader may be silent.</param>
    public async Task<Upload?> ClaimAsync(TimeSpan silent, CancellationToken stop = default)
    {
        while (await database.FirstAsync(
            $"""
            UPDATE upload SET state = 'reading', claimed_at = now(), attempts = attempts + 1
            WHERE id = (
                SELECT u.id FROM upload u JOIN ({QueueSql}) q USING (id)
                WHERE u.state = 'waiting' OR (u.state = 'reading' AND u.claimed_at < now() - $1::interval)
                ORDER BY q.place LIMIT 1 FOR UPDATE OF u SKIP LOCKED)
            RETURNING id, person_id, sha256, file_name, state, fault, report::text, attempts
            """,
            r => Tuple.Create(Row(r), r.GetInt32(7)), [silent], stop) is { } claimed)
        {
            if (claimed.Item2 <= MostAttempts) return claimed.Item1;
            // Whoever read it was never heard of again, time after time: it is the file's doing.
            await RefuseAsync(claimed.Item1, "Reading this file has ended its reader several times. Export it again, with less in it if you can; if that fails too, tell your administrator.", stop);
        }
        return null;
    }

    /// <summary>How many files are read before this one and with it: 1 when it is next; 0 when it does not wait.</summary>
    public async Task<int> PlaceAsync(Guid id, TimeSpan silent, CancellationToken stop = default) =>
        (await database.ListAsync($"SELECT place::int FROM ({QueueSql}) q WHERE id = $2", r => r.GetInt32(0), [silent, id], stop)).FirstOrDefault();

    /// <summary>The file was read.</summary>
    public Task FinishAsync(Guid id, PreparedDraft prepared, IReadOnlyList<StoredForm> forms, IReadOnlyList<BesideRow> beside, CancellationToken stop = default)
    {
        ArgumentNullException.ThrowIfNull(prepared);
        ArgumentNullException.ThrowIfNull(forms);
        ArgumentNullException.ThrowIfNull(beside);
        return database.RunAsync(
            """
            WITH u AS (UPDATE upload SET state = 'read', report = $2::jsonb, leaves = $3::jsonb, reader = $4, version = $5 WHERE id = $1 AND state = 'reading' RETURNING id),
            b AS (INSERT INTO upload_beside (upload_id, name, sha256, from_draft) SELECT u.id, f.* FROM u, unnest($9::text[], $10::bytea[], $11::uuid[]) f)
            INSERT INTO upload_form (upload_id, position, form, sha256) SELECT u.id, f.* FROM u, unnest($6::int[], $7::text[], $8::bytea[]) f
            """,
            [
                id, JsonSerializer.Serialize(prepared.Report, Act.Json), JsonSerializer.Serialize(prepared.Leaves.Select(l => l.Leaf), Act.Json), prepared.Reader, prepared.Version,
                forms.Select(f => f.Position).ToArray(), forms.Select(f => f.Form).ToArray(), forms.Select(f => Convert.FromHexString(f.Sha256)).ToArray(),
                beside.Select(b => b.Name).ToArray(), beside.Select(b => b.Sha256).ToArray(), beside.Select(b => b.FromDraft).ToArray(),
            ], stop);
    }

    /// <summary>The file cannot be read: why is kept for whoever uploaded it, its bytes are not.</summary>
    public async Task RefuseAsync(Upload upload, string fault, CancellationToken stop = default)
    {
        ArgumentNullException.ThrowIfNull(upload);
        await using var connection = await database.OpenAsync(stop);
        await using var transaction = await connection.BeginTransactionAsync(stop);
        var refused = await connection.ListAsync("UPDATE upload SET state = 'refused', fault = $2, sha256 = NULL WHERE id = $1 AND state = 'reading' RETURNING 1", r => 1, [upload.Id, fault], stop);
        if (refused.Count > 0 && upload.Sha256 is { } sha256) await DiscardAsync(connection, [Convert.FromHexString(sha256)], stop);
        await transaction.CommitAsync(stop);
    }

    /// <summary>The reader failed for a reason that is not the file's; tried again, up to a bound.</summary>
    public Task GiveBackAsync(Guid id, string fault, CancellationToken stop = default) => database.RunAsync(
        "UPDATE upload SET state = CASE WHEN attempts < $3 THEN 'waiting' ELSE 'refused' END, fault = $2 WHERE id = $1 AND state = 'reading'",
        [id, fault, MostAttempts], stop);

    /// <summary>Drops uploads nobody used within a day, with what they brought unless something else names it; gives how many files went.</summary>
    public async Task<int> SweepAsync(DateTimeOffset before, CancellationToken stop = default)
    {
        await using var connection = await database.OpenAsync(stop);
        await using var transaction = await connection.BeginTransactionAsync(stop);
        // While a file is read its forms are stored before they are named.
        if ((await connection.ListAsync("SELECT 1 FROM upload WHERE state = 'reading' LIMIT 1", r => 1, [], stop)).Count > 0) return 0;
        var old = await connection.ListAsync(
            """
            WITH swept AS (DELETE FROM upload WHERE at < $1 RETURNING id, sha256),
            -- The same bytes uploaded again have the same forms, named only once they are read.
            old AS (SELECT * FROM swept WHERE sha256 IS NULL OR NOT EXISTS (SELECT 1 FROM upload u WHERE u.sha256 = swept.sha256 AND u.at >= $1))
            SELECT sha256 FROM old WHERE sha256 IS NOT NULL
            UNION SELECT f.sha256 FROM old JOIN upload_form f ON f.upload_id = old.id
            UNION SELECT f.sha256 FROM old JOIN upload_beside f ON f.upload_id = old.id WHERE f.sha256 IS NOT NULL
            """,
            r => r.GetFieldValue<byte[]>(0), [before.UtcDateTime], stop);
        var gone = await DiscardAsync(connection, [.. old], stop);
        await transaction.CommitAsync(stop);
        return gone;
    }

    private static async Task<int> DiscardAsync(NpgsqlConnection connection, byte[][] candidates, CancellationToken stop) =>
        candidates.Length == 0 ? 0 : (await connection.ListAsync("SELECT discard_content($1)", r => r.GetInt32(0), [candidates], stop))[0];

    private static Upload Row(NpgsqlDataReader r) => new(
        r.GetGuid(0), r.GetGuid(1), r.IsDBNull(2) ? null : r.Hash(2), r.GetString(3), r.GetString(4), r.TextOrNull(5), r.IsDBNull(6) ? null : JsonSerializer.Deserialize<ReaderReport>(r.GetString(6), Act.Json));
}
