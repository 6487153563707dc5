using System.Diagnostics;
using System.Text.Json;
using Froe.Formats.Dxf;

namespace Froe.Bench;

/// <summary>
/// Reading a file whole, each run in a process of its own: ours through froe read, the peer's in Node. The peer turns the file into
/// entities and stops there, so its rate is set against the same of ours; what a reader of drawings waits for stands beside it.
/// </summary>
internal static class DxfBench
{
    public static async Task RunAsync()
    {
        var large = await Figure.LargeDrawingAsync();
        var demo = new DirectoryInfo(Path.Combine(Figure.Env("FROE_ROOT"), "demo", "drawings")).GetFiles("*.dxf").MaxBy(f => f.Length)!.FullName;
        await CompareAsync("1,000,000 lines", large, 3);
        await CompareWarmAsync("largest demo sheet", demo);
    }

    /// <summary>
    /// A small file takes less time than either runtime takes to warm up, so both read it for five seconds first. Then they read it
    /// in turn, 300 times a turn: what else the machine does meanwhile meets both.
    /// </summary>
    private static async Task CompareWarmAsync(string name, string file)
    {
        const int Turns = 5, Times = 300, WarmSeconds = 5;
        var megabytes = new FileInfo(file).Length / 1e6;
        List<double> alone = [], ours = [], peers = [];
        for (var turn = 0; turn < Turns; turn++)
        {
            var warm = turn == 0 ? WarmSeconds : 0;
            alone.Add(Rate(stream => DxfReader.Survey(stream).Survey is not null, warm));
            var them = JsonDocument.Parse(await Figure.RunAsync("node", ["read-dxf.mjs", file, $"{Times}", $"{WarmSeconds}"], Path.Combine(Figure.Env("FROE_ROOT"), "bench", "node"))).RootElement;
            peers.Add(megabytes / them.GetProperty("seconds").GetDouble());
            ours.Add(Rate(stream => DxfReader.Read(stream).Drawing is not null, warm));
        }

        double Rate(Func<Stream, bool> read, int warmSeconds)
        {
            var rates = new List<double>();
            var begun = Stopwatch.GetTimestamp();
            while (rates.Count < Times)
            {
                var watch = Stopwatch.GetTimestamp();
                // The peer opens the file each time, and so do we.
                using (var stream = new FileStream(file, FileMode.Open, FileAccess.Read, FileShare.Read, bufferSize: 0))
                    if (!read(stream)) throw new InvalidOperationException($"{file} was not read.");
                if (Stopwatch.GetElapsedTime(begun).TotalSeconds >= warmSeconds) rates.Add(megabytes / Stopwatch.GetElapsedTime(watch).TotalSeconds);
            }
            return Figure.Median(rates);
        }

        Figure.Print($"dxf speed, {name}, warm, reading as the peer does", Figure.Median(alone), Figure.Median(peers), "MB/s", Figure.Median(alone) / Figure.Median(peers), 10);
        Figure.Print($"dxf speed, {name}, warm, reading and drawing its sheets, which the peer does not", Figure.Median(ours), Figure.Median(peers), "MB/s", Figure.Median(ours) / Figure.Median(peers), 10);
        var us = JsonDocument.Parse(await Figure.RunAsync("dotnet", [Figure.Env("FROE_TOOL"), "read", file])).RootElement;
        var once = JsonDocument.Parse(await Figure.RunAsync("node", ["read-dxf.mjs", file], Path.Combine(Figure.Env("FROE_ROOT"), "bench", "node"))).RootElement;
        double ourPeak = us.GetProperty("peakMegabytes").GetDouble(), peerPeak = once.GetProperty("peakMegabytes").GetDouble();
        Figure.Print($"dxf peak memory, {name}", ourPeak, peerPeak, "MB", ourPeak / peerPeak, 1, atMost: true);
    }

    private static async Task CompareAsync(string name, string file, int runs)
    {
        var megabytes = new FileInfo(file).Length / 1e6;
        List<double> alone = [], ours = [], peers = [], ourPeak = [], peerPeak = [];
        for (var i = 0; i < runs; i++)
        {
            var read = JsonDocument.Parse(await Figure.RunAsync("dotnet", [Figure.Env("FROE_TOOL"), "read", "--survey", file])).RootElement;
            alone.Add(megabytes / read.GetProperty("seconds").GetDouble());
            var us = JsonDocument.Parse(await Figure.RunAsync("dotnet", [Figure.Env("FROE_TOOL"), "read", file])).RootElement;
            ours.Add(megabytes / us.GetProperty("seconds").GetDouble());
            ourPeak.Add(us.GetProperty("peakMegabytes").GetDouble());
            var them = JsonDocument.Parse(await Figure.RunAsync("node", ["--max-old-space-size=8000", "read-dxf.mjs", file], Path.Combine(Figure.Env("FROE_ROOT"), "bench", "node"))).RootElement;
            peers.Add(megabytes / them.GetProperty("seconds").GetDouble());
            peerPeak.Add(them.GetProperty("peakMegabytes").GetDouble());
        }
        Figure.Print($"dxf speed, {name}, reading as the peer does", Figure.Median(alone), Figure.Median(peers), "MB/s", Figure.Median(alone) / Figure.Median(peers), 10);
        Figure.Print($"dxf speed, {name}, reading and drawing its sheets, which the peer does not", Figure.Median(ours), Figure.Median(peers), "MB/s", Figure.Median(ours) / Figure.Median(peers), 10);
        Figure.Print($"dxf peak memory, {name}", Figure.Median(ourPeak), Figure.Median(peerPeak), "MB", Figure.Median(ourPeak) / Figure.Median(peerPeak), 1, atMost: true);
        Figure.Print($"dxf peak memory over file size, {name}", Figure.Median(ourPeak), megabytes, "MB", Figure.Median(ourPeak) / megabytes, 3, atMost: true);
    }
}
