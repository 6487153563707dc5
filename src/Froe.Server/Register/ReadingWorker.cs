using Froe.Server.Changes;
using Froe.Store;
using Microsoft.Extensions.Options;
using Npgsql;

namespace Froe.Server.Register;

/// <summary>Reads the files that arrive, a few at a time, each in a child process with bounds on time and memory.</summary>
public sealed class ReadingWorker(Uploads uploads, ReaderProcess reader, Announcements changes, IOptions<Settings> settings, TimeProvider clock, ILogger<ReadingWorker> log) : BackgroundService
{
    /// <summary>How long a file waits to be registered.</summary>
    private static readonly TimeSpan Unused = TimeSpan.FromDays(1), SweepEvery = TimeSpan.FromHours(1);
    private static readonly TimeSpan Idle = TimeSpan.FromSeconds(2);
    private readonly SemaphoreSlim arrived = new(0);

    /// <summary>How long a reader of any server may be silent before its file is given out again.</summary>
    public TimeSpan Silent => TimeSpan.FromSeconds(settings.Value.ReaderSeconds + 180);

    /// <summary>Looks at the queue at once.</summary>
    public void Wake() => arrived.Release();

    /// <inheritdoc/>
    protected override Task ExecuteAsync(CancellationToken stoppingToken) => Task.WhenAll(
        Enumerable.Range(0, settings.Value.Readers > 0 ? settings.Value.Readers : Math.Max(1, Environment.ProcessorCount - 1))
            .Select(_ => Steadily.RepeatAsync("Reading files", async stop => { if (!await ReadNextAsync(stop)) await arrived.WaitAsync(Idle, stop); }, Idle, log, stoppingToken))
            .Append(Steadily.RepeatAsync("Sweeping files", SweepAsync, Idle, log, stoppingToken)));

    private async Task SweepAsync(CancellationToken stop)
    {
        if (await uploads.SweepAsync(clock.GetUtcNow() - Unused, stop) is > 0 and var gone) log.LogInformation("{Count} files nobody registered are gone", gone);
        await Task.Delay(SweepEvery, stop);
    }

    /// <summary>Reads the next file of the queue; false when none waits.</summary>
    public async Task<bool> ReadNextAsync(CancellationToken stop)
    {
        if (await uploads.ClaimAsync(Silent, stop) is not { } upload) return false;
        try
        {
            var read = await reader.ReadAsync(Convert.FromHexString(upload.Sha256!), upload.FileName, upload.Person, [], true, stop);
            if (read.Prepared is { } prepared) await uploads.FinishAsync(upload.Id, prepared, read.Forms, read.Beside, stop);
            else if (read.IsOutside) await uploads.GiveBackAsync(upload.Id, read.Fault, stop);
            else await uploads.RefuseAsync(upload, read.Fault, stop);
        }
        catch (OperationCanceledException) when (stop.IsCancellationRequested)
        {
            // This server is going down; another reads it now, not after this one's silence.
            await uploads.GiveBackAsync(upload.Id, "The server was stopped while it read the file. Upload it again.", CancellationToken.None);
            throw;
        }
        catch (Exception e) when (e is not (OperationCanceledException or NpgsqlException))
        {
            log.LogError(e, "Reading upload {Upload} failed", upload.Id);
            await uploads.GiveBackAsync(upload.Id, "The server could not read the file just now. Upload it again; if that fails too, tell your administrator.", stop);
        }
        changes.AnnounceTo(upload.Person, "upload", upload.Id);
        return true;
    }
}
