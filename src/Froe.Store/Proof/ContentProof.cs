using System.Globalization;
using System.IO.Compression;
using System.Security.Cryptography;

namespace Froe.Store.Proof;

/// <summary>Whether stored files are what their hashes name: every chunk there, none more, in order, and the bytes those of the hash.</summary>
internal static class ContentProof
{
    /// <summary>Proves the files that a condition on <c>c.sha256</c> holds for; gives how many, and their bytes.</summary>
    public static async Task<(long Files, long Bytes)> RunAsync(Database database, string holds, Findings findings, CancellationToken stop)
    {
        await using var connection = await database.OpenAsync(stop);
        using var rows = new CopyReader(connection, $"SELECT c.sha256, c.size, c.encoding, k.part, k.bytes FROM content c LEFT JOIN content_chunk k ON k.sha256 = c.sha256 WHERE {holds} ORDER BY c.sha256, k.part", 5);
        using var file = new OneFile();
        long files = 0, bytes = 0;
        var more = rows.Read();
        while (more)
        {
            stop.ThrowIfCancellationRequested();
            var sha256 = rows.Bytes(0).ToArray();
            var size = rows.Number(1);
            file.Begin(rows.Bytes(2).SequenceEqual("br"u8));
            var (next, ordered) = (0L, true);
            do
            {
                if (rows.IsNull(3)) continue;
                ordered &= rows.Number(3) == next++;
                if (ordered) file.Add(rows.Bytes(4));
            }
            while ((more = rows.Read()) && rows.Bytes(0).SequenceEqual(sha256));
            var where = $"file {Convert.ToHexStringLower(sha256)}";
            if (!ordered) findings.Add($"{where}: a part of it is missing, or there is one too many");
            else if (file.End(out var hash) is var length && (length != size || !hash.AsSpan().SequenceEqual(sha256)))
                findings.Add(string.Create(CultureInfo.InvariantCulture, $"{where}: its bytes are not those that its hash names{(length != size ? $"; {length:N0} of {size:N0} are there" : "")}"));
            files++;
            bytes += size;
        }
        return (files, bytes);
    }

    /// <summary>A file as its parts come in, unpacked where it is kept compressed.</summary>
    private sealed class OneFile : IDisposable
    {
        private readonly IncrementalHash hash = IncrementalHash.CreateHash(HashAlgorithmName.SHA256);
        private readonly byte[] unpacked = new byte[1 << 18];
        private BrotliDecoder decoder;
        private bool compressed, failed;
        private byte[] left = [];
        private long length;

        public void Begin(bool isCompressed)
        {
            decoder.Dispose();
            (decoder, compressed, failed, left, length) = (default, isCompressed, false, [], 0);
        }

        public void Add(ReadOnlySpan<byte> part)
        {
            if (!compressed)
            {
                hash.AppendData(part);
                length += part.Length;
                return;
            }
            // What the decoder could not use yet goes before what comes.
            ReadOnlySpan<byte> given = left.Length == 0 ? part : (byte[])[.. left, .. part];
            while (!failed)
            {
                var status = decoder.Decompress(given, unpacked, out var used, out var made);
                hash.AppendData(unpacked, 0, made);
                length += made;
                given = given[used..];
                if (status == System.Buffers.OperationStatus.DestinationTooSmall) continue;
                failed = status == System.Buffers.OperationStatus.InvalidData || (status == System.Buffers.OperationStatus.Done && given.Length > 0);
                break;
            }
            left = given.ToArray();
        }

        public long End(out byte[] sha256)
        {
            sha256 = hash.GetHashAndReset();
            return failed ? -1 : length;
        }

        public void Dispose()
        {
            hash.Dispose();
            decoder.Dispose();
        }
    }
}
