using System.Diagnostics;
using System.Text.Json;
using Froe.Server.Files;
using Froe.Server.Live;
using Froe.Store;
using Microsoft.Extensions.Options;
using Npgsql;

namespace Froe.Server.Register;

/// <summary>Reads the files that arrive, a few at a time, each in a child process with bounds on time and memory.</summary>
public sealed class ReadingWorker(Uploads uploads, Contents contents, Spool spool, LiveFeed live, IOptions<Settings> settings, TimeProvider clock, ILogger<ReadingWorker> log) : BackgroundService
{
    /// <summary>Exit codes of a child: the file cannot be read (its own); ended by a signal (128 and the signal's number).</summary>
    private const int Unreadable = 3, Aborted = 134, Killed = 137;

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
        var folder = Directory.CreateTempSubdirectory("froe-reading-");
        try
        {
            await ReadAsync(upload, folder.FullName, stop);
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
        finally
        {
            folder.Delete(recursive: true);
        }
        live.AnnounceTo(upload.Person, "upload", upload.Id);
        return true;
    }

    private async Task ReadAsync(Upload upload, string folder, CancellationToken stop)
    {
        var file = Path.Combine(folder, "in");
        await using (var to = File.Create(file))
            if (!await spool.CopyToAsync(Convert.FromHexString(upload.Sha256!), to, stop)) throw new InvalidOperationException("The file is not stored.");
        var start = new ProcessStartInfo("dotnet") { RedirectStandardError = true, RedirectStandardOutput = true, RedirectStandardInput = true };
        foreach (var argument in (string[])[settings.Value.Reader, "prepare", file, folder]) start.ArgumentList.Add(argument);
        // The child sees nothing of the server's: no connection strings, no keys.
        foreach (var name in start.Environment.Keys.Where(k => k is not ("PATH" or "HOME" or "DOTNET_ROOT" or "TMPDIR")).ToList()) start.Environment.Remove(name);
        start.Environment["DOTNET_GCHeapHardLimit"] = settings.Value.ReaderMemory.ToString("X", System.Globalization.CultureInfo.InvariantCulture);
        using var child = Process.Start(start) ?? throw new InvalidOperationException("The reader did not start.");
        child.StandardInput.Close();
        using var limit = CancellationTokenSource.CreateLinkedTokenSource(stop);
        limit.CancelAfter(TimeSpan.FromSeconds(settings.Value.ReaderSeconds));
        var output = child.StandardOutput.ReadToEndAsync(CancellationToken.None);
        var fault = child.StandardError.ReadToEndAsync(CancellationToken.None);
        try
        {
            await child.WaitForExitAsync(limit.Token);
        }
        catch (OperationCanceledException)
        {
            child.Kill(entireProcessTree: true);
            stop.ThrowIfCancellationRequested();
            await uploads.RefuseAsync(upload, $"Reading took longer than {settings.Value.ReaderSeconds} seconds and was stopped. Split the drawing or remove what is not needed.", stop);
            return;
        }
        await output;
        if (child.ExitCode == 0)
        {
            await StoreAsync(upload, folder, stop);
            return;
        }
        var line = (await fault).Trim();
        log.LogInformation("Upload {Upload} ended its reader with {ExitCode}: {Fault}", upload.Id, child.ExitCode, line.Length <= 1000 ? line : line[..1000]);
        if (child.ExitCode == Killed)
            await uploads.GiveBackAsync(upload.Id, "The reader was ended from outside while it read the file. Upload it again; if it happens again, tell your administrator.", stop);
        else
            await uploads.RefuseAsync(upload, Words(child.ExitCode, line), stop);
    }

    /// <summary>What a child's end says of its file.</summary>
    public static string Words(int exitCode, string line) => exitCode switch
    {
        Unreadable when line.Length > 0 => line,
        Aborted when line.Contains("OutOfMemory", StringComparison.Ordinal) || line.Contains("Out of memory", StringComparison.Ordinal) =>
            "The file needs more memory than a drawing may. Remove what is not needed and export it again.",
        _ => "The reader broke down over this file. Export it again, as another version if you can; if that fails too, tell your administrator.",
    };

    private async Task StoreAsync(Upload upload, string folder, CancellationToken stop)
    {
        var report = await File.ReadAllTextAsync(Path.Combine(folder, "report.json"), stop);
        using var parsed = JsonDocument.Parse(report);
        var sheets = new List<UploadSheet>();
        foreach (var sheet in parsed.RootElement.GetProperty("sheets").EnumerateArray())
        {
            var n = sheets.Count;
            sheets.Add(new UploadSheet(
                sheet.GetProperty("name").GetString()!, sheet.GetProperty("unit").GetString()!,
                [.. sheet.GetProperty("extents").EnumerateArray().Select(x => x.GetDouble())],
                await KeepAsync($"{n}.sheet", "application/vnd.froe.sheet"), await KeepAsync($"{n}.webp", "image/webp"), await KeepAsync($"{n}-small.webp", "image/webp")));
        }
        await uploads.FinishAsync(upload.Id, report, JsonSerializer.Serialize(sheets, JsonSerializerOptions.Web), stop);

        async Task<string> KeepAsync(string name, string type)
        {
            await using var from = File.OpenRead(Path.Combine(folder, name));
            return Convert.ToHexStringLower((await contents.StoreAsync(from, type, stop: stop)).Sha256);
        }
    }
}
