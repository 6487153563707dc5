using Npgsql;

namespace Froe.Store;

/// <summary>A file on its way in.</summary>
/// <param name="State">waiting, reading, read, refused or used.</param>
/// <param name="Fault">Why it was refused.</param>
/// <param name="Report">What the reader saw, JSON.</param>
/// <param name="Sheets">The prepared sheets, JSON (array of <see cref="UploadSheet"/>).</param>
public sealed record Upload(Guid Id, Guid Person, string Sha256, string FileName, string State, string? Fault, string? Report, string? Sheets);

/// <summary>A prepared sheet of an upload; the hashes name content.</summary>
public sealed record UploadSheet(string Name, string Unit, double[] Extents, string Geometry, string Picture, string Small);

/// <summary>The queue of files to be read. A crash loses no work: a claim that is not finished in time is given out again.</summary>
public sealed class Uploads(Database database)
{
    /// <summary>Times a file is tried before it is given up.</summary>
    private const int MostAttempts = 3;

    /// <summary>Puts a stored file in the queue.</summary>
    public Task AddAsync(Guid id, Guid person, byte[] sha256, string fileName, DateTimeOffset at, CancellationToken stop = default) => database.RunAsync(
        "INSERT INTO upload (id, person_id, sha256, file_name, at, state) VALUES ($1, $2, $3, $4, $5, 'waiting')",
        [id, person, sha256, fileName, at.UtcDateTime], stop);

    /// <summary>An upload, or null.</summary>
    public Task<Upload?> FindAsync(Guid id, CancellationToken stop = default) => database.FirstAsync(
        "SELECT id, person_id, sha256, file_name, state, fault, report::text, sheets::text FROM upload WHERE id = $1", Row, [id], stop);

    /// <summary>Takes the oldest file that waits, or one whose reader has been silent for five minutes.</summary>
    public Task<Upload?> ClaimAsync(CancellationToken stop = default) => database.FirstAsync(
        """
        UPDATE upload SET state = 'reading', claimed_at = now(), attempts = attempts + 1
        WHERE id = (
            SELECT id FROM upload
            WHERE state = 'waiting' OR (state = 'reading' AND claimed_at < now() - interval '5 minutes')
            ORDER BY at LIMIT 1 FOR UPDATE SKIP LOCKED)
        RETURNING id, person_id, sha256, file_name, state, fault, report::text, sheets::text
        """,
        Row, [], stop);

    /// <summary>The file was read.</summary>
    public Task FinishAsync(Guid id, string report, string sheets, CancellationToken stop = default) => database.RunAsync(
        "UPDATE upload SET state = 'read', report = $2::jsonb, sheets = $3::jsonb WHERE id = $1 AND state = 'reading'", [id, report, sheets], stop);

    /// <summary>The file cannot be read.</summary>
    public Task RefuseAsync(Guid id, string fault, CancellationToken stop = default) => database.RunAsync(
        "UPDATE upload SET state = 'refused', fault = $2 WHERE id = $1 AND state = 'reading'", [id, fault], stop);

    /// <summary>The reader failed for a reason that is not the file's; tried again, up to a bound.</summary>
    public Task GiveBackAsync(Guid id, string fault, CancellationToken stop = default) => database.RunAsync(
        "UPDATE upload SET state = CASE WHEN attempts < $3 THEN 'waiting' ELSE 'refused' END, fault = $2 WHERE id = $1 AND state = 'reading'",
        [id, fault, MostAttempts], stop);

    /// <summary>Drops uploads nobody used within a day; their content stays only if something else names it.</summary>
    public Task SweepAsync(CancellationToken stop = default) => database.RunAsync("DELETE FROM upload WHERE at < now() - interval '1 day'", [], stop);

    private static Upload Row(NpgsqlDataReader r) => new(
        r.GetGuid(0), r.GetGuid(1), r.Hash(2), r.GetString(3), r.GetString(4), r.TextOrNull(5), r.TextOrNull(6), r.TextOrNull(7));
}
