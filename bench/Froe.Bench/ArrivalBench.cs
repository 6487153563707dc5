using System.Diagnostics;
using Froe.Server;
using Froe.Server.Files;
using Microsoft.Extensions.Options;

namespace Froe.Bench;

/// <summary>Many small files of one person, read as the server reads them, against each of them by a process of its own.</summary>
internal static class ArrivalBench
{
    public static async Task RunAsync()
    {
        const int Files = 40;
        var drawings = new DirectoryInfo(Path.Combine(Figure.Env("FROE_ROOT"), "demo", "drawings")).GetFiles("*.dxf").OrderBy(f => f.Length).Take(8).Select(f => f.FullName).ToList();
        List<double> together = [], apart = [];
        for (var run = 0; run < Figure.Runs; run++)
        {
            using var child = new ReaderChild(Options.Create(new Settings { Reader = Figure.Env("FROE_TOOL") }));
            var person = Guid.NewGuid();
            together.Add(await RateAsync(arguments => child.RunInSeriesAsync(person, arguments, default)));
            apart.Add(await RateAsync(arguments => child.RunAsync(arguments, isBrief: true, default)));
        }
        Figure.Print($"{Files} small drawings that arrive together, against a process for each", Figure.Median(together), Figure.Median(apart), "files/s", Figure.Median(together) / Figure.Median(apart), 3);

        async Task<double> RateAsync(Func<IReadOnlyList<string>, Task<ChildEnd>> read)
        {
            var watch = Stopwatch.GetTimestamp();
            for (var i = 0; i < Files; i++)
            {
                var folder = Directory.CreateTempSubdirectory("froe-bench-arrival-");
                var drawing = drawings[i % drawings.Count];
                // What a drawing refers to is asked first, as for every file that may refer to others.
                foreach (var what in new[] { "beside", "prepare" })
                {
                    var end = await read([what, drawing, folder.FullName, Path.GetFileName(drawing)]);
                    if (end.ExitCode != 0) throw new InvalidOperationException($"{drawing}: {end.Line}");
                }
                folder.Delete(recursive: true);
            }
            return Files / Stopwatch.GetElapsedTime(watch).TotalSeconds;
        }
    }
}
