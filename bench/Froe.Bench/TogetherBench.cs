using System.Text.Json;

namespace Froe.Bench;

/// <summary>Two people on one sheet, each in a browser window of their own: how long until one sees what the other drew; and what many markups cost when a bench is opened.</summary>
internal static class TogetherBench
{
    public static async Task RunAsync()
    {
        using var server = await WebBench.DemoAsync(5395);
        var found = JsonDocument.Parse(await Figure.RunAsync("node", ["together.mjs", "http://127.0.0.1:5395"], Path.Combine(Figure.Env("FROE_ROOT"), "bench", "node"))).RootElement;
        double N(string name) => found.GetProperty(name).GetDouble();
        Figure.Print("from letting go of a markup until the other sees it, median, against 150 ms", N("median"), 150, "ms", N("median") / 150, 1, atMost: true);
        Figure.Print("the same, p95", N("p95"), 150, "ms", N("p95") / 150, 1, atMost: true);
        Figure.Print("a bench opened with 10,000 markups in its package, against with none", N("many"), N("none"), "s", N("many") / N("none"), 1.5, atMost: true);
        Figure.Print("the same until the markups of its first sheet are there", N("shown"), N("none"), "s", N("shown") / N("none"), null);
    }
}
