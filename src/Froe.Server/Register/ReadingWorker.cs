using System.Diagnostics;
using System.Text.Json;
using Froe.Server.Live;
using Froe.Store;
using Microsoft.Extensions.Options;
using Npgsql;

namespace Froe.Server.Register;

/// <summary>Reads the files that arrive, one at a time, each in a child process with bounds on time and memory.</summary>
public sealed class ReadingWorker(Uploads uploads, Contents contents, LiveFeed live, IOptions<Settings> settings, TimeProvider clock, ILogger<ReadingWorker> log) : BackgroundService
{
    /// <summary>How long a file waits to be registered.</summary>
    private static readonly TimeSpan Unused = TimeSpan.FromDays(1), SweepEvery = TimeSpan.FromHours(1);
    private static readonly TimeSpan Idle = TimeSpan.FromMilliseconds(250);
    private readonly SemaphoreSlim arrived = new(0, 1);

    /// <summary>Looks at the queue at once.</summary>
    public void Wake()
    {
        if (arrived.CurrentCount == 0) arrived.Release();
    }

    /// <inheritdoc/>
    protected override Task ExecuteAsync(CancellationToken stoppingToken)
    {
        var swept = DateTimeOffset.MinValue;
        return Steadily.RepeatAsync(
            "Reading files",
            async stop =>
            {
                if (clock.GetUtcNow() - swept > SweepEvery)
                {
                    swept = clock.GetUtcNow();
                    if (await uploads.SweepAsync(swept - Unused, stop) is > 0 and var gone) log.LogInformation("{Count} files nobody registered are gone", gone);
                }
                if (!await ReadNextAsync(stop)) await arrived.WaitAsync(Idle * 8, stop);
            },
            TimeSpan.FromSeconds(1), log, stoppingToken);
    }

    /// <summary>Reads the next file of the queue; false when none waits.</summary>
    public async Task<bool> ReadNextAsync(CancellationToken stop)
    {
        if (await uploads.ClaimAsync(stop) is not { } upload) return false;
        var folder = Directory.CreateTempSubdirectory("froe-reading-");
        try
        {
            await ReadAsync(upload, folder.FullName, stop);
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
        live.Announce("upload", upload.Id);
        return true;
    }

    private async Task ReadAsync(Upload upload, string folder, CancellationToken stop)
    {
        var file = Path.Combine(folder, "in");
        await using (var to = File.Create(file)) await contents.WriteToAsync(Convert.FromHexString(upload.Sha256!), to, stop);
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
        if (child.ExitCode != 0)
        {
            var line = (await fault).Trim();
            log.LogInformation("Upload {Upload} refused with {ExitCode}: {Fault}", upload.Id, child.ExitCode, line);
            await uploads.RefuseAsync(upload, child.ExitCode == 3 && line.Length > 0 ? line : "The file needs more memory than a drawing may. Remove what is not needed and export it again.", stop);
            return;
        }
        await StoreAsync(upload, folder, stop);
    }

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
                await Keep($"{n}.sheet", "application/vnd.froe.sheet"), await Keep($"{n}.png", "image/png"), await Keep($"{n}-small.png", "image/png")));
        }
        await uploads.FinishAsync(upload.Id, report, JsonSerializer.Serialize(sheets, JsonSerializerOptions.Web), stop);

        async Task<string> Keep(string name, string type)
        {
            await using var from = File.OpenRead(Path.Combine(folder, name));
            return Convert.ToHexStringLower((await contents.StoreAsync(from, type, long.MaxValue, stop: stop)).Sha256);
        }
    }
}
