using System.Text.Json;

namespace Froe.Bench;

/// <summary>Reading a file whole, each run in a process of its own: ours through froe read, the peer's in Node.</summary>
internal static class DxfBench
{
    public static async Task RunAsync()
    {
        var large = await Figure.LargeDrawingAsync();
        var demo = new DirectoryInfo(Path.Combine(Figure.Env("FROE_ROOT"), "demo", "drawings")).GetFiles("*.dxf").MaxBy(f => f.Length)!.FullName;
        await CompareAsync("1,000,000 lines", large, 3, memoryAim: true);
        await CompareAsync("largest demo sheet", demo, 5, memoryAim: false);
    }

    private static async Task CompareAsync(string name, string file, int runs, bool memoryAim)
    {
        var megabytes = new FileInfo(file).Length / 1e6;
        List<double> ours = [], peers = [], ourPeak = [], peerPeak = [];
        for (var i = 0; i < runs; i++)
        {
            var us = JsonDocument.Parse(await Figure.RunAsync("dotnet", [Figure.Env("FROE_TOOL"), "read", file])).RootElement;
            ours.Add(megabytes / us.GetProperty("seconds").GetDouble());
            ourPeak.Add(us.GetProperty("peakMegabytes").GetDouble());
            var them = JsonDocument.Parse(await Figure.RunAsync("node", ["--max-old-space-size=8000", "read-dxf.mjs", file], Path.Combine(Figure.Env("FROE_ROOT"), "bench", "node"))).RootElement;
            peers.Add(megabytes / them.GetProperty("seconds").GetDouble());
            peerPeak.Add(them.GetProperty("peakMegabytes").GetDouble());
        }
        Figure.Print($"dxf speed, {name}", Figure.Median(ours), Figure.Median(peers), "MB/s", Figure.Median(ours) / Figure.Median(peers), 10);
        Figure.Print($"dxf peak memory, {name}", Figure.Median(ourPeak), Figure.Median(peerPeak), "MB", Figure.Median(ourPeak) / Figure.Median(peerPeak), 1, atMost: true);
        if (memoryAim) Figure.Print($"dxf peak memory over file size, {name}", Figure.Median(ourPeak), megabytes, "MB", Figure.Median(ourPeak) / megabytes, 3, atMost: true);
    }
}
