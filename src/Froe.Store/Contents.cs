using System.Security.Cryptography;
using Npgsql;

namespace Froe.Store;

/// <summary>Files, stored once by their SHA-256 in chunks, never changed.</summary>
public sealed class Contents(Database database)
{
    private const int ChunkSize = 1 << 20;

    /// <summary>Stores a stream while it arrives.</summary>
    /// <param name="from">What to store.</param>
    /// <param name="mediaType">Its media type.</param>
    /// <param name="most">Most bytes; more raises <see cref="InvalidDataException"/> and stores nothing.</param>
    /// <param name="named">Writes down, in the same transaction, what the file is for; a file nothing names may be discarded at any moment.</param>
    /// <param name="stop">Cancels, storing nothing.</param>
    public async Task<(byte[] Sha256, long Size)> StoreAsync(Stream from, string mediaType, long most, Func<NpgsqlConnection, byte[], Task>? named = null, CancellationToken stop = default)
    {
        ArgumentNullException.ThrowIfNull(from);
        // The hash is known only at the end, so the parts go to a large temporary table of this transaction first.
        await using var connection = await database.OpenAsync(stop);
        await using var transaction = await connection.BeginTransactionAsync(stop);
        await Run("CREATE TEMP TABLE IF NOT EXISTS arriving (part int, bytes bytea) ON COMMIT DELETE ROWS", []);
        using var hash = IncrementalHash.CreateHash(HashAlgorithmName.SHA256);
        var chunk = new byte[ChunkSize];
        long size = 0;
        for (var part = 0; ; part++)
        {
            var read = await from.ReadAtLeastAsync(chunk, ChunkSize, throwOnEndOfStream: false, stop);
            if (read == 0) break;
            size += read;
            if (size > most) throw new InvalidDataException($"The file is longer than {most / 1_000_000:N0} MB, the most that can be uploaded.");
            hash.AppendData(chunk, 0, read);
            await Run("INSERT INTO arriving VALUES ($1, $2)", [part, chunk[..read]]);
            if (read < ChunkSize) break;
        }
        var sha256 = hash.GetHashAndReset();
        // Two people may upload the same file at once: the second finds the row and adds no parts.
        var isNew = await Run("INSERT INTO content (sha256, size, media_type) VALUES ($1, $2, $3) ON CONFLICT DO NOTHING", [sha256, size, mediaType]);
        if (isNew == 1) await Run("INSERT INTO content_chunk (sha256, part, bytes) SELECT $1, part, bytes FROM arriving", [sha256]);
        if (named is not null) await named(connection, sha256);
        await transaction.CommitAsync(stop);
        return (sha256, size);

        async Task<int> Run(string sql, object?[] values)
        {
            await using var command = connection.Command(sql, values);
            return await command.ExecuteNonQueryAsync(stop);
        }
    }

    /// <summary>Writes a file out, part by part; false when there is none of this hash.</summary>
    public async Task<bool> WriteToAsync(byte[] sha256, Stream to, CancellationToken stop = default)
    {
        ArgumentNullException.ThrowIfNull(to);
        await using var connection = await database.OpenAsync(stop);
        await using var command = connection.Command("SELECT bytes FROM content_chunk WHERE sha256 = $1 ORDER BY part", [sha256]);
        await using var reader = await command.ExecuteReaderAsync(System.Data.CommandBehavior.SequentialAccess, stop);
        var any = false;
        while (await reader.ReadAsync(stop))
        {
            any = true;
            await using var part = await reader.GetStreamAsync(0, stop);
            await part.CopyToAsync(to, stop);
        }
        return any;
    }
}
