using System.Diagnostics;
using System.Text.Json;
using Froe.Core.Draft;
using Froe.Store;

namespace Froe.Server.Files;

/// <summary>A reader's process that reads small files one after the other.</summary>
public sealed class ReaderSeries : IDisposable
{
    private readonly Process child;
    private readonly Task<string> fault;

    /// <summary>Starts it.</summary>
    /// <param name="start">A reader that is told to read a series, with all three streams redirected.</param>
    public ReaderSeries(ProcessStartInfo start)
    {
        child = Process.Start(start) ?? throw new InvalidOperationException("The reader did not start.");
        fault = child.StandardError.ReadToEndAsync();
    }

    /// <summary>Files it has been given.</summary>
    public int Given { get; private set; }

    /// <summary>When it was last given one, in ticks of this machine's clock.</summary>
    public long LastGiven { get; private set; }

    /// <summary>Whether it can be given no more.</summary>
    public bool IsOver { get; private set; }

    /// <summary>Gives it a file and waits; never ends with 0 unless it says so itself.</summary>
    /// <exception cref="OperationCanceledException">It took too long: the child is of no more use.</exception>
    public async Task<ChildEnd> RunAsync(IEnumerable<string> arguments, CancellationToken stop)
    {
        (Given, LastGiven) = (Given + 1, Environment.TickCount64);
        if (await AnswerAsync(JsonSerializer.Serialize(arguments), stop) is { } end) return new ChildEnd(end.ExitCode, end.Line);
        IsOver = true;
        if (!child.HasExited) EndInput();
        await child.WaitForExitAsync(stop);
        return new ChildEnd(child.ExitCode == 0 ? -1 : child.ExitCode, (await fault).Trim());
    }

    /// <summary>What it says of a file; null where it says nothing, or nothing that can be understood.</summary>
    private async Task<SeriesEnd?> AnswerAsync(string asked, CancellationToken stop)
    {
        try
        {
            await child.StandardInput.WriteLineAsync(asked.AsMemory(), stop);
            await child.StandardInput.FlushAsync(stop);
            return await child.StandardOutput.ReadLineAsync(stop) is { } line ? JsonSerializer.Deserialize<SeriesEnd>(line, Act.Json) : null;
        }
        catch (Exception e) when (e is IOException or JsonException)
        {
            return null;
        }
    }

    /// <summary>Tells it that there is no more.</summary>
    private void EndInput()
    {
        try
        {
            child.StandardInput.Close();
        }
        catch (IOException)
        {
            // It reads no more, though it has not ended yet: what it was not given stays in the writer until then.
        }
    }

    /// <inheritdoc/>
    public void Dispose()
    {
        IsOver = true;
        if (!child.HasExited) child.Kill(entireProcessTree: true);
        child.Dispose();
    }
}
