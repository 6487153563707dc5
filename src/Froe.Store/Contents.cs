using System.IO.Compression;
using System.Security.Cryptography;
using Npgsql;

namespace Froe.Store;

/// <summary>
/// Files, stored once by their SHA-256 in chunks, never changed. What shrinks by it is kept compressed (Brotli, RFC 7932); the hash and
/// the size are always of the file itself.
/// </summary>
public sealed class Contents(Database database)
{
    private const int ChunkSize = 1 << 20;

    /// <summary>Media types that are compressed already, or of which parts are asked for.</summary>
    private static bool Shrinks(string mediaType) => mediaType is not ("image/png" or "image/webp" or "image/jpeg" or "application/vnd.froe.tiles" or "application/vnd.froe.cells");

    /// <summary>Stores a file that is at hand, in one short transaction.</summary>
    /// <param name="from">The file, at its beginning; it is read twice.</param>
    /// <param name="mediaType">Its media type.</param>
    /// <param name="named">Writes down, in the same transaction, what the file is for; a file nothing names may be discarded at any moment.</param>
    /// <param name="stop">Cancels, storing nothing.</param>
    public async Task<(byte[] Sha256, long Size)> StoreAsync(Stream from, string mediaType, Func<NpgsqlConnection, byte[], long, Task>? named = null, CancellationToken stop = default)
    {
        ArgumentNullException.ThrowIfNull(from);
        // Everything slow comes before the transaction: hashing, and compressing to a file beside.
        var start = from.Position;
        var sha256 = await SHA256.HashDataAsync(from, stop);
        var size = from.Position - start;
        from.Position = start;
        var isThere = await database.AnyAsync("SELECT 1 FROM content WHERE sha256 = $1", [sha256], stop);
        await using var compressed = isThere || !Shrinks(mediaType) ? null : await CompressAsync(from, stop);
        var shrank = compressed is not null && compressed.Length < size * 9 / 10;
        var kept = shrank ? compressed! : from;
        if (!shrank) from.Position = start;

        await using var connection = await database.OpenAsync(stop);
        await using var transaction = await connection.BeginTransactionAsync(stop);
        // Two people may store the same file at once: the second finds the row and adds no parts.
        if (await RunAsync(connection, "INSERT INTO content (sha256, size, media_type, encoding) VALUES ($1, $2, $3, $4) ON CONFLICT DO NOTHING", [sha256, size, mediaType, shrank ? "br" : ""], stop) == 1)
        {
            var chunk = new byte[ChunkSize];
            for (var part = 0; await kept.ReadAtLeastAsync(chunk, ChunkSize, throwOnEndOfStream: false, stop) is > 0 and var read; part++)
                await RunAsync(connection, "INSERT INTO content_chunk (sha256, part, bytes) VALUES ($1, $2, $3)", [sha256, part, chunk[..read]], stop);
        }
        if (named is not null) await named(connection, sha256, size);
        await transaction.CommitAsync(stop);
        return (sha256, size);
    }

    /// <summary>Writes a file out as it is kept, part by part; gives how, and the file's own size; null when there is none of this hash.</summary>
    public async Task<(string Encoding, long Size)?> WriteToAsync(byte[] sha256, Stream to, CancellationToken stop = default)
    {
        ArgumentNullException.ThrowIfNull(to);
        await using var connection = await database.OpenAsync(stop);
        var found = await connection.ListAsync("SELECT encoding, size FROM content WHERE sha256 = $1", r => (r.GetString(0), r.GetInt64(1)), [sha256], stop);
        if (found.Count == 0) return null;
        await using var command = connection.Command("SELECT bytes FROM content_chunk WHERE sha256 = $1 ORDER BY part", [sha256]);
        await using var reader = await command.ExecuteReaderAsync(System.Data.CommandBehavior.SequentialAccess, stop);
        while (await reader.ReadAsync(stop))
        {
            await using var part = await reader.GetStreamAsync(0, stop);
            await part.CopyToAsync(to, stop);
        }
        return found[0];
    }

    private static async Task<FileStream> CompressAsync(Stream from, CancellationToken stop)
    {
        var file = new FileStream(Path.Combine(Path.GetTempPath(), "froe-" + Path.GetRandomFileName()), new FileStreamOptions { Mode = FileMode.CreateNew, Access = FileAccess.ReadWrite, Options = FileOptions.Asynchronous | FileOptions.DeleteOnClose });
        try
        {
            await using (var brotli = new BrotliStream(file, CompressionLevel.Optimal, leaveOpen: true)) await from.CopyToAsync(brotli, stop);
            file.Position = 0;
            return file;
        }
        catch
        {
            await file.DisposeAsync();
            throw;
        }
    }

    private static async Task<int> RunAsync(NpgsqlConnection connection, string sql, object?[] values, CancellationToken stop)
    {
        await using var command = connection.Command(sql, values);
        return await command.ExecuteNonQueryAsync(stop);
    }
}
