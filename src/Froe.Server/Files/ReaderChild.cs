using System.Diagnostics;
using System.Globalization;
using Microsoft.Extensions.Options;

namespace Froe.Server.Files;

/// <summary>How a child ended.</summary>
/// <param name="ExitCode">Its exit code; null when it took too long and was stopped.</param>
/// <param name="Line">What it said on standard error.</param>
public readonly record struct ChildEnd(int? ExitCode, string Line);

/// <summary>Runs the program that touches files of strangers, with bounds on time and memory and nothing of the server's.</summary>
public sealed class ReaderChild(IOptions<Settings> settings) : IDisposable
{
    /// <summary>Most files that one process reads, and most processes that wait for another file of their person.</summary>
    private const int MostGiven = 100, MostIdle = 4;

    private readonly Dictionary<Guid, ReaderSeries> idle = [];
    private bool isOver;

    /// <summary>
    /// Reads a small file, by a process that has read others of the same person if there is one. What such a process cannot read, one of the
    /// file's own tries again: no file pays for those before it.
    /// </summary>
    /// <param name="person">Whose file it is.</param>
    /// <param name="arguments">What is to be done with it.</param>
    public async Task<ChildEnd> RunInSeriesAsync(Guid person, IReadOnlyList<string> arguments, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(arguments);
        var series = TakeOf(person) ?? new ReaderSeries(Starting(["series"], isBrief: true));
        var isFirst = series.Given == 0;
        using var limit = Limit(stop);
        ChildEnd end;
        try
        {
            end = await series.RunAsync(arguments, limit.Token);
        }
        catch (OperationCanceledException)
        {
            series.Dispose();
            stop.ThrowIfCancellationRequested();
            return new ChildEnd(null, "");
        }
        if (end.ExitCode == 0 || isFirst)
        {
            Keep(person, series);
            return end;
        }
        series.Dispose();
        return await RunAsync(arguments, isBrief: true, stop);
    }

    private ReaderSeries? TakeOf(Guid person)
    {
        lock (idle) return idle.Remove(person, out var series) ? series : null;
    }

    private void Keep(Guid person, ReaderSeries series)
    {
        var left = series;
        lock (idle)
        {
            if (!series.IsOver && series.Given < MostGiven && !isOver)
            {
                // Two of a person's files were read at once, each by a process of its own: one of them is kept.
                idle.Remove(person, out left);
                idle[person] = series;
                if (idle.Count > MostIdle) idle.Remove(idle.MinBy(i => i.Value.LastGiven).Key, out left);
            }
        }
        left?.Dispose();
    }

    /// <inheritdoc/>
    public void Dispose()
    {
        lock (idle)
        {
            isOver = true;
            foreach (var series in idle.Values) series.Dispose();
            idle.Clear();
        }
    }

    /// <summary>Runs it for one thing alone and waits.</summary>
    /// <param name="arguments">What it is to do.</param>
    /// <param name="isBrief">Whether there is so little to do that its loops would be well compiled for nothing.</param>
    public async Task<ChildEnd> RunAsync(IEnumerable<string> arguments, bool isBrief, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(arguments);
        using var child = Process.Start(Starting(arguments, isBrief)) ?? throw new InvalidOperationException("The reader did not start.");
        child.StandardInput.Close();
        using var limit = Limit(stop);
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
            return new ChildEnd(null, "");
        }
        await output;
        return new ChildEnd(child.ExitCode, (await fault).Trim());
    }
    private ProcessStartInfo Starting(IEnumerable<string> arguments, bool isBrief)
    {
        var start = new ProcessStartInfo("dotnet") { RedirectStandardError = true, RedirectStandardOutput = true, RedirectStandardInput = true };
        start.ArgumentList.Add(settings.Value.Reader);
        foreach (var argument in arguments) start.ArgumentList.Add(argument);
        // The child sees nothing of the server's: no connection strings, no keys.
        foreach (var name in start.Environment.Keys.Where(k => k is not ("PATH" or "HOME" or "DOTNET_ROOT" or "TMPDIR")).ToList()) start.Environment.Remove(name);
        if (isBrief) start.Environment["DOTNET_TC_CallCountingDelayMs"] = "64";
        start.Environment["DOTNET_GCHeapHardLimit"] = settings.Value.ReaderMemory.ToString("X", CultureInfo.InvariantCulture);
        return start;
    }

    private CancellationTokenSource Limit(CancellationToken stop)
    {
        var limit = CancellationTokenSource.CreateLinkedTokenSource(stop);
        limit.CancelAfter(TimeSpan.FromSeconds(settings.Value.ReaderSeconds));
        return limit;
    }
}
