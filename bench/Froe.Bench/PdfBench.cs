using System.Diagnostics;
using System.Globalization;
using System.Text.Json;
using Froe.Formats;
using Froe.Formats.Pdf;
using Froe.Formats.Pictures;
using UglyToad.PdfPig;

namespace Froe.Bench;

/// <summary>Pages of PDF: on the bench against pdf.js in the same Chromium, their geometry against PdfPig's own reading, our sheet's ink against the page engine's.</summary>
internal static class PdfBench
{
    public static async Task RunAsync()
    {
        (string Name, string File, bool IsHeavy)[] pages =
        [
            ("simple page", await PdfFiles.SimpleAsync(), false), ("100,000 strokes on A0", await PdfFiles.StrokesAsync(100_000), true),
            ("1,000,000 strokes on A0", await PdfFiles.StrokesAsync(1_000_000), true), ("A0 scan at 300 dpi", await PdfFiles.ScanAsync(), true),
        ];
        var before = await PreparedAsync(pages[0].File);
        foreach (var (name, file, isHeavy) in pages) await BrowserAsync(name, [pages[0].File, before, file, await PreparedAsync(file)], isHeavy);
        foreach (var (name, file, _) in pages[..3]) await GeometryAsync(name, file);
        Faithful(await PdfFiles.ShapesAsync(), isLettered: false);
        Faithful(pages[0].File, isLettered: true);
        Faithful(Path.Combine(Figure.Env("FROE_ROOT"), "demo", "drawings", "TO-1106_A1.pdf"), isLettered: true);
    }

    private static async Task<string> PreparedAsync(string file)
    {
        var folder = Path.ChangeExtension(file, ".prepared");
        if (Directory.Exists(folder)) Directory.Delete(folder, true);
        Directory.CreateDirectory(folder);
        await Figure.RunAsync("dotnet", [Figure.Env("FROE_TOOL"), "prepare", file, folder, Path.GetFileName(file)]);
        return folder;
    }

    /// <param name="files">What both show before, and what it was prepared as; then what is measured.</param>
    private static async Task BrowserAsync(string name, string[] files, bool isHeavy)
    {
        var root = Figure.Env("FROE_ROOT");
        var found = JsonDocument.Parse(await Figure.RunAsync("node", ["pages.mjs", Path.Combine(root, "web", "dist"), $"{Figure.Runs}", .. files], Path.Combine(root, "bench", "node"))).RootElement;
        var (ours, peer) = (found.GetProperty("ours"), found.GetProperty("peer"));
        if (ours.TryGetProperty("failed", out var why)) throw new InvalidOperationException($"{name}: {why}");
        if (peer.TryGetProperty("failed", out why)) Console.WriteLine($"  pdf.js, {name}: {why.GetString()?.ReplaceLineEndings(" ")}");
        double N(JsonElement of, string what) => of.TryGetProperty(what, out var n) ? n.GetDouble() : double.NaN;
        // Higher is better: how many times as quick, as little.
        double? quick = isHeavy ? 2 : null;
        Figure.Print($"prepared picture after its bytes, {name}", N(ours, "pictured"), 0.5, "s", N(ours, "pictured") / 0.5, 1, atMost: true);
        Figure.Print($"first picture, which is the prepared one, {name}", N(ours, "shown"), N(peer, "first"), "s", N(peer, "first") / N(ours, "shown"), quick);
        Figure.Print($"first sharp picture, {name}", N(ours, "first"), N(peer, "first"), "s", N(peer, "first") / N(ours, "first"), quick);
        Figure.Print($"sharp again after zooming by four, {name}", N(ours, "zoom"), N(peer, "zoom"), "s", N(peer, "zoom") / N(ours, "zoom"), quick);
        Figure.Print($"tiles of 512 pixels after zooming, {name}", N(ours, "tiles"), N(peer, "tiles"), "/s", N(ours, "tiles") / N(peer, "tiles"), null);
        Figure.Print($"memory that opening it takes, {name}", N(ours, "memory"), N(peer, "memory"), "MB", N(ours, "memory") / N(peer, "memory"), isHeavy ? 0.25 : null, atMost: true);
    }

    /// <summary>A child: reads the geometry of a file's first page, ours or as PdfPig alone does, and says how long that took and at most how much memory.</summary>
    public static void Geometry(string how, string file)
    {
        var bytes = File.ReadAllBytes(file);
        // The engine that pages are opened with is made ready once, when the program is installed.
        if (how == "ours") _ = PdfPages.Open(bytes, new ReadLimits());
        var watch = Stopwatch.GetTimestamp();
        long count;
        if (how == "ours")
        {
            var (pages, fault) = PdfPages.Open(bytes, new ReadLimits(PageSeconds: 600));
            count = (pages ?? throw new InvalidOperationException(fault?.ToString())).Geometry(0).SegmentEntity.Length;
        }
        else
        {
            using var document = PdfDocument.Open(bytes);
            var page = document.GetPage(1);
            count = page.Paths.Sum(p => p.Sum(s => s.Commands.Count)) + page.Letters.Count;
        }
        using var self = Process.GetCurrentProcess();
        Console.WriteLine(string.Create(CultureInfo.InvariantCulture, $"{Stopwatch.GetElapsedTime(watch).TotalSeconds} {self.PeakWorkingSet64 / 1e6} {count}"));
    }

    private static async Task GeometryAsync(string name, string file)
    {
        var (ours, stock) = (new List<double[]>(), new List<double[]>());
        for (var run = 0; run < Figure.Runs; run++)
        {
            ours.Add(await ChildAsync("ours"));
            stock.Add(await ChildAsync("stock"));
        }
        double M(List<double[]> of, int what) => Figure.Median(of.Select(f => f[what]));
        Figure.Print($"geometry read, {name}, against PdfPig's own reading", M(ours, 0), M(stock, 0), "s", M(stock, 0) / M(ours, 0), null);
        Figure.Print($"geometry's peak memory, {name}", M(ours, 1), M(stock, 1), "MB", M(ours, 1) / M(stock, 1), null, atMost: true);

        async Task<double[]> ChildAsync(string how) =>
            [.. (await Figure.RunAsync(Environment.ProcessPath!, [typeof(PdfBench).Assembly.Location, "geometry-child", how, file])).Trim().Split(' ').Select(w => double.Parse(w, CultureInfo.InvariantCulture))];
    }

    /// <summary>Our sheet of each page against the engine's picture of it, as large. Where there are letters ours are of another face, so there it is only told.</summary>
    private static void Faithful(string file, bool isLettered)
    {
        const int Size = 2000;
        var (pages, fault) = PdfPages.Open(File.ReadAllBytes(file), new ReadLimits());
        if (pages is null) throw new InvalidOperationException(fault?.ToString());
        for (var page = 0; page < pages.Count; page++)
        {
            var (ours, engine) = (SheetPicture.Png(pages.Geometry(page), Size), pages.Picture(page, Size));
            var overlap = Ink.Overlap(ours, engine, 1);
            // Kept, for whoever wants to see where they part.
            var name = Path.Combine(Figure.Env("FROE_BENCH"), FormattableString.Invariant($"{Path.GetFileNameWithoutExtension(file)}-{page + 1}"));
            File.WriteAllBytes(name + " ours.png", ours);
            File.WriteAllBytes(name + " engine.png", SheetPicture.ToPng(engine));
            Figure.Print($"ink of our sheet against the page engine's, {Path.GetFileNameWithoutExtension(file)}, page {page + 1}{(isLettered ? ", letters of two faces" : "")}", overlap, 1, "", overlap, isLettered ? null : 0.97);
        }
    }
}
