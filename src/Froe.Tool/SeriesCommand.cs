using System.Text.Json;
using Froe.Core.Draft;
using Froe.Store;

namespace Froe.Tool;

/// <summary>
/// series: the server's child process for several small files, one after the other, because starting costs more than reading one of them.
/// Each line of standard input is a JSON array of what a child for that file alone would be called with; for each a line of standard output
/// says how it ended (<see cref="SeriesEnd"/>). Ends with its input, or when nothing more has come for a while.
/// </summary>
internal static class SeriesCommand
{
    private static readonly TimeSpan Idle = TimeSpan.FromSeconds(10);

    public static int Run()
    {
        using var asked = new StreamReader(Console.OpenStandardInput());
        using var answers = new StreamWriter(Console.OpenStandardOutput()) { AutoFlush = true };
        // The answers stand alone on their line, whatever a library prints.
        Console.SetOut(TextWriter.Null);
        while (NextOf(asked) is { } line)
        {
            using var said = new StringWriter();
            Console.SetError(said);
            var exit = JsonSerializer.Deserialize<string[]>(line) switch
            {
                ["prepare", var file, var folder, var name] => PrepareCommand.Run(file, folder, name),
                ["beside", var file, var folder, var name] => PrepareCommand.Beside(file, folder, name),
                _ => throw new InvalidOperationException("Only files are read in a series."),
            };
            answers.WriteLine(JsonSerializer.Serialize(new SeriesEnd(exit, said.ToString().Trim()), Act.JsonOfFiles));
        }
        return 0;
    }

    private static string? NextOf(StreamReader asked)
    {
        var line = asked.ReadLineAsync();
        return line.Wait(Idle) ? line.Result : null;
    }
}
