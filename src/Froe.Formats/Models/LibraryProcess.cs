using System.Collections.Concurrent;
using System.Diagnostics;
using System.Globalization;

namespace Froe.Formats.Models;

/// <summary>
/// A program that has Open CASCADE loaded, and splits off a process for each file that it is given (native/model-reader.cpp). It waits for the
/// next one as long as this program runs. Where that is killed, it ends as well, for its input does.
/// </summary>
internal sealed class LibraryProcess : IDisposable
{
    /// <summary>Those that wait, by their program.</summary>
    private static readonly ConcurrentDictionary<string, ConcurrentBag<LibraryProcess>> Waiting = EndedWithThisProgram();

    private readonly string program;
    private readonly Process process;
    private bool isReading;

    private LibraryProcess(string program)
    {
        this.program = program;
        var start = new ProcessStartInfo(Path.Combine(AppContext.BaseDirectory, program)) { RedirectStandardInput = true, RedirectStandardOutput = true };
        process = Process.Start(start) ?? throw new InvalidOperationException("The reader of models did not start.");
    }

    /// <summary>Its number among the processes of the system.</summary>
    public int Id => process.Id;

    /// <summary>One that waits, or a new one.</summary>
    public static LibraryProcess Take(string program)
    {
        while (Of(program).TryTake(out var waiting))
        {
            if (!waiting.process.HasExited) return waiting;
            waiting.process.Dispose();
        }
        return new LibraryProcess(program);
    }

    private static ConcurrentBag<LibraryProcess> Of(string program) => Waiting.GetOrAdd(program, _ => []);

    /// <summary>Begins to read the file “in” of a folder.</summary>
    public void Begin(string folder, int megabytes)
    {
        isReading = true;
        try
        {
            process.StandardInput.WriteLine(string.Create(CultureInfo.InvariantCulture, $"{megabytes} {folder}"));
            process.StandardInput.Flush();
        }
        catch (IOException)
        {
            // It has ended: so says its output.
        }
    }

    /// <summary>Waits until the file is read; false where that takes too long.</summary>
    /// <param name="code">How its process ended; -1 where nothing is known of it.</param>
    public bool HasEnded(TimeSpan most, out int code)
    {
        code = -1;
        var line = process.StandardOutput.ReadLineAsync();
        if (!line.Wait(most)) return false;
        isReading = line.Result is null || !int.TryParse(line.Result, CultureInfo.InvariantCulture, out code);
        return true;
    }

    /// <summary>What still waits when this program ends is ended before, and asked after: where nobody asks after processes whose parent is gone, each would stay in the system's table.</summary>
    private static ConcurrentDictionary<string, ConcurrentBag<LibraryProcess>> EndedWithThisProgram()
    {
        var all = new ConcurrentDictionary<string, ConcurrentBag<LibraryProcess>>();
        AppDomain.CurrentDomain.ProcessExit += (_, _) =>
        {
            foreach (var waiting in all.Values.SelectMany(bag => bag))
            {
                waiting.process.Kill();
                waiting.process.WaitForExit();
            }
        };
        return all;
    }

    /// <summary>Lets it wait for another file, or ends it where it still reads one.</summary>
    public void Dispose()
    {
        if (!isReading)
        {
            Of(program).Add(this);
            return;
        }
        process.Kill(entireProcessTree: true);
        process.WaitForExit();
        process.Dispose();
    }
}
