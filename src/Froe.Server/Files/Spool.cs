using System.Collections.Concurrent;
using System.IO.Compression;
using System.Security.Cryptography;
using Froe.Server.SignIn;
using Froe.Store;
using Microsoft.Extensions.Options;

namespace Froe.Server.Files;

/// <summary>A file at hand, as the database keeps it.</summary>
/// <param name="Path">Where it lies; open it before anything else is asked of the spool.</param>
/// <param name="Encoding">How it is compressed: <c>br</c>, or empty when it is not.</param>
/// <param name="Size">Length of the file itself, uncompressed.</param>
public sealed record Spooled(string Path, string Encoding, long Size);

/// <summary>Raised when stored bytes are not those that their hash names. Nobody gets them.</summary>
public sealed class AlteredContentException(string sha256) : Exception($"What is stored as {sha256} is not what its hash says.")
{
    /// <summary>The hash, 64 hex digits.</summary>
    public string Sha256 { get; } = sha256;
}

/// <summary>
/// Files on disk between the network and the database, so that no slow line holds a connection or a transaction: what arrives is
/// written here first, what leaves is fetched here at once, proven against its hash, and sent from here. What was fetched stays for
/// the next who asks, the longest unused going first.
/// </summary>
public sealed class Spool : IDisposable
{
    private const int BufferSize = 1 << 16;
    private readonly Contents contents;
    private readonly SecurityLog security;
    private readonly long most;
    private readonly DirectoryInfo folder;
    private readonly ConcurrentDictionary<string, SemaphoreSlim> fetching = new();
    private readonly Dictionary<string, (Spooled File, long Length, long Used)> kept = [];
    private long bytes, turn;

    public Spool(Contents contents, SecurityLog security, IOptions<Settings> settings)
    {
        (this.contents, this.security, most) = (contents, security, settings.Value.SpoolBytes);
        folder = settings.Value.Spool.Length == 0 ? Directory.CreateTempSubdirectory("froe-spool-") : Directory.CreateDirectory(Path.Combine(settings.Value.Spool, Guid.NewGuid().ToString("n")));
    }

    /// <summary>Bytes left on the disk that it lies on.</summary>
    public long Room() => new DriveInfo(folder.FullName).AvailableFreeSpace;

    /// <summary>Writes what arrives to disk.</summary>
    /// <param name="most">Most bytes; more raises <see cref="InvalidDataException"/>.</param>
    /// <returns>A stream at its beginning; the file goes when it is closed.</returns>
    public async Task<FileStream> ReceiveAsync(Stream from, long most, CancellationToken stop)
    {
        var file = new FileStream(Path.Combine(folder.FullName, Guid.NewGuid().ToString("n")), new FileStreamOptions { Mode = FileMode.CreateNew, Access = FileAccess.ReadWrite, Options = FileOptions.Asynchronous | FileOptions.DeleteOnClose, BufferSize = BufferSize });
        try
        {
            var buffer = new byte[BufferSize];
            for (int read; (read = await from.ReadAsync(buffer, stop)) > 0;)
            {
                if (file.Length + read > most) throw new InvalidDataException($"The file is longer than {most / 1_000_000:N0} MB, the most that can be uploaded.");
                await file.WriteAsync(buffer.AsMemory(0, read), stop);
            }
            await file.FlushAsync(stop);
            file.Position = 0;
            return file;
        }
        catch
        {
            await file.DisposeAsync();
            throw;
        }
    }

    /// <summary>Opens a stored file, fetched and proven if it is not at hand; null when there is none of this hash.</summary>
    /// <exception cref="AlteredContentException">The stored bytes are others.</exception>
    public async Task<(FileStream Stream, Spooled File)?> OpenAsync(byte[] sha256, CancellationToken stop)
    {
        var name = Convert.ToHexStringLower(sha256);
        var one = fetching.GetOrAdd(name, _ => new SemaphoreSlim(1, 1));
        await one.WaitAsync(stop);
        try
        {
            if (AtHand(name) is { } there) return there;
            if (await FetchAsync(name, sha256, stop) is not { } fetched) return null;
            var stream = Open(fetched.Path);
            Keep(name, fetched, stream.Length);
            return (stream, fetched);
        }
        finally
        {
            one.Release();
            if (fetching.Count > 10_000) fetching.Clear();
        }
    }

    private static FileStream Open(string path) => new(path, FileMode.Open, FileAccess.Read, FileShare.Read | FileShare.Delete, BufferSize, FileOptions.Asynchronous | FileOptions.SequentialScan);

    /// <summary>Copies a stored file, uncompressed, to a stream; false when there is none of this hash.</summary>
    public async Task<bool> CopyToAsync(byte[] sha256, Stream to, CancellationToken stop)
    {
        if (await OpenAsync(sha256, stop) is not { } opened) return false;
        await using var stream = opened.Stream;
        await using var plain = Plain(stream, opened.File.Encoding);
        await plain.CopyToAsync(to, stop);
        return true;
    }

    /// <summary>The file itself, out of how it is kept.</summary>
    public static Stream Plain(Stream kept, string encoding) => encoding.Length == 0 ? kept : new BrotliStream(kept, CompressionMode.Decompress, leaveOpen: true);

    private async Task<Spooled?> FetchAsync(string name, byte[] sha256, CancellationToken stop)
    {
        var path = Path.Combine(folder.FullName, name);
        var arriving = path + "." + Guid.NewGuid().ToString("n");
        try
        {
            string encoding;
            long size;
            await using (var file = new FileStream(arriving, FileMode.CreateNew, FileAccess.ReadWrite, FileShare.None, BufferSize, FileOptions.Asynchronous))
            {
                if (await contents.WriteToAsync(sha256, file, stop) is not { } found) return null;
                (encoding, size) = found;
                file.Position = 0;
                if (!await IsAsync(file, encoding, sha256, size, stop))
                {
                    security.Write(SecurityEvents.Altered, null, "", name);
                    throw new AlteredContentException(name);
                }
            }
            File.Move(arriving, path, overwrite: true);
            return new Spooled(path, encoding, size);
        }
        finally
        {
            File.Delete(arriving);
        }
    }

    private static async Task<bool> IsAsync(Stream file, string encoding, byte[] sha256, long size, CancellationToken stop)
    {
        using var hash = IncrementalHash.CreateHash(HashAlgorithmName.SHA256);
        await using var plain = Plain(file, encoding);
        var buffer = new byte[BufferSize];
        long length = 0;
        try
        {
            for (int read; (read = await plain.ReadAsync(buffer, stop)) > 0; length += read)
            {
                if (length + read > size) return false;
                hash.AppendData(buffer, 0, read);
            }
        }
        catch (Exception e) when (e is InvalidDataException or InvalidOperationException)
        {
            // The decoder found that it was never packed like this.
            return false;
        }
        return length == size && hash.GetHashAndReset().AsSpan().SequenceEqual(sha256);
    }

    /// <summary>Opens what is at hand before the lock is given back: an open file survives being swept away for another.</summary>
    private (FileStream Stream, Spooled File)? AtHand(string name)
    {
        lock (kept)
        {
            if (!kept.TryGetValue(name, out var known) || !File.Exists(known.File.Path)) return null;
            kept[name] = known with { Used = ++turn };
            return (Open(known.File.Path), known.File);
        }
    }

    private void Keep(string name, Spooled file, long length)
    {
        lock (kept)
        {
            if (kept.Remove(name, out var before)) bytes -= before.Length;
            kept[name] = (file, length, ++turn);
            bytes += length;
            if (bytes <= most) return;
            foreach (var (old, entry) in kept.OrderBy(k => k.Value.Used).ToList())
            {
                if (bytes <= most * 3 / 4 || old == name) break;
                kept.Remove(old);
                bytes -= entry.Length;
                File.Delete(entry.File.Path);
            }
        }
    }

    /// <inheritdoc/>
    public void Dispose()
    {
        try
        {
            folder.Delete(recursive: true);
        }
        catch (IOException)
        {
            // Somebody is still being sent a file; the system's own sweeping takes the rest.
        }
    }
}
