using System.Diagnostics;
using System.Globalization;
using Froe.Formats.Tests;
using Froe.Server;

namespace Froe.Bench;

/// <summary>
/// Files made to harm, of every format, through the readers in children with a server's bounds on memory. A file that ends its child, or that
/// takes longer than it may, is named by its number: with that it can be made again.
/// </summary>
internal static class HostileBench
{
    /// <summary>Files of one child: what one of them leaves behind in its process is not the next one's fault.</summary>
    private const int Together = 40;

    private const int Longest = 10_000, Patience = 20_000;

    private sealed record Outcome(int Number, double Milliseconds, long Peak, string Fault);

    /// <summary>A child: reads the files from one number to another and says how each went.</summary>
    public static void Work(int from, int to, int step)
    {
        for (var number = from; number < to; number += step)
        {
            var (name, file) = Hostile.Make(number);
            Console.WriteLine(string.Create(CultureInfo.InvariantCulture, $"begins {number} {name}"));
            var watch = Stopwatch.GetTimestamp();
            var fault = "";
            try
            {
                Hostile.Read(name, file);
            }
#pragma warning disable CA1031 // Whatever is thrown is what is counted here.
            catch (Exception e)
            {
                fault = $"{e.GetType().Name}: {e.Message.ReplaceLineEndings(" ")} {(Environment.GetEnvironmentVariable("FROE_STACK") is null ? "" : e.StackTrace?.ReplaceLineEndings(" | "))}";
            }
#pragma warning restore CA1031
            Console.WriteLine(string.Create(CultureInfo.InvariantCulture, $"done {number} {Stopwatch.GetElapsedTime(watch).TotalMilliseconds:0.0} {Environment.WorkingSet >> 20} {fault}"));
        }
    }

    /// <param name="first">The number of the first file: other files, or models.</param>
    /// <param name="what">What they are, in words.</param>
    public static async Task RunAsync(int count, int first, string what)
    {
        var outcomes = await Task.WhenAll(Enumerable.Range(0, Environment.ProcessorCount).Select(c => WatchAsync(first + c, first + count, Environment.ProcessorCount)));
        var all = outcomes.SelectMany(o => o).ToList();
        // A machine that is busy makes any file slow: what was slow is read once more with nothing beside it, and that counts.
        for (var i = 0; i < all.Count; i++)
            if (all[i].Milliseconds > Longest) all[i] = (await WatchAsync(all[i].Number, all[i].Number + 1, 1))[0];
        foreach (var o in all.Where(o => o.Fault.Length > 0 || o.Milliseconds > Longest)) Console.WriteLine(string.Create(CultureInfo.InvariantCulture, $"  {o.Number} {Hostile.Make(o.Number).Name} {o.Milliseconds:0} ms {o.Fault}"));
        foreach (var o in all.OrderByDescending(o => o.Milliseconds).Take(3)) Console.WriteLine(string.Create(CultureInfo.InvariantCulture, $"  slow: {o.Number} {Hostile.Make(o.Number).Name} {o.Milliseconds:0} ms"));
        foreach (var o in all.OrderByDescending(o => o.Peak).Take(3)) Console.WriteLine(string.Create(CultureInfo.InvariantCulture, $"  large: {o.Number} {Hostile.Make(o.Number).Name} {o.Peak} MB"));
        Figure.Print($"{what}, {count}, that threw or ended their reader", all.Count(o => o.Fault.Length > 0), 0, "files", all.Count(o => o.Fault.Length > 0), 0, atMost: true);
        Figure.Print($"{what}, {count}, that took over 10 s", all.Count(o => o.Milliseconds > Longest), 0, "files", all.Count(o => o.Milliseconds > Longest), 0, atMost: true);
        Figure.Print($"{what}, slowest against the limit", all.Max(o => o.Milliseconds), Longest, "ms", all.Max(o => o.Milliseconds) / Longest, 1, atMost: true);
        var limit = new Settings().ReaderMemory >> 20;
        Figure.Print($"{what}, largest working set against the limit", all.Max(o => o.Peak), limit, "MB", (double)all.Max(o => o.Peak) / limit, 1, atMost: true);
    }

    private static async Task<List<Outcome>> WatchAsync(int from, int count, int step)
    {
        var outcomes = new List<Outcome>();
        for (var next = from; next < count;)
        {
            var start = new ProcessStartInfo(Environment.ProcessPath!) { RedirectStandardOutput = true, RedirectStandardError = true };
            foreach (var a in (string[])[typeof(HostileBench).Assembly.Location, "hostile-child", $"{next}", $"{Math.Min(count, next + (Together * step))}", $"{step}"]) start.ArgumentList.Add(a);
            start.Environment["DOTNET_GCHeapHardLimit"] = new Settings().ReaderMemory.ToString("X", CultureInfo.InvariantCulture);
            using var child = Process.Start(start)!;
            var said = child.StandardError.ReadToEndAsync();
            var begun = next;
            var isHung = false;
            while (true)
            {
                var reading = child.StandardOutput.ReadLineAsync();
                if (await Task.WhenAny(reading, Task.Delay(Patience)) != reading)
                {
                    isHung = true;
                    child.Kill(entireProcessTree: true);
                }
                if (isHung || await reading is not { } line) break;
                var words = line.Split(' ', 5);
                if (words[0] == "begins") begun = int.Parse(words[1], CultureInfo.InvariantCulture);
                else if (words[0] == "done")
                {
                    outcomes.Add(new Outcome(begun, double.Parse(words[2], CultureInfo.InvariantCulture), long.Parse(words[3], CultureInfo.InvariantCulture), words.Length > 4 ? words[4] : ""));
                    next = begun + step;
                }
            }
            await child.WaitForExitAsync();
            if (child.ExitCode == 0 && !isHung) continue;
            var fault = isHung ? "did not end" : $"ended its reader with {child.ExitCode}: {(await said).ReplaceLineEndings(" ").Trim()}";
            outcomes.Add(new Outcome(begun, isHung ? Patience : 0, 0, fault.Length <= 300 ? fault : fault[..300]));
            next = begun + step;
        }
        return outcomes;
    }
}
