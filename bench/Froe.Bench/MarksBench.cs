using System.Text.Json;

namespace Froe.Bench;

/// <summary>The hand on a sheet: points of the file caught under the pointer, and a markup picked among many, in the page's own code.</summary>
internal static class MarksBench
{
    public static async Task RunAsync()
    {
        // Where what runs the page's TypeScript outside a browser is at hand.
        var tests = Path.Combine(Figure.Env("FROE_ROOT"), "tests", "pages");
        var found = JsonDocument.Parse(await Figure.RunAsync("node", ["--import", "tsx", "../../bench/node/marks.ts"], tests)).RootElement;
        double Of(string sheet, string what) => found.GetProperty(sheet).GetProperty(what).GetDouble();
        foreach (var (words, what) in new[] { ("zoomed in", "near"), ("the whole sheet in view", "whole") })
        {
            Figure.Print($"a point caught among 1,000,000 strokes, {words} (aim: 2 ms)", Of("many", what), 2, "ms", Of("many", what) / 2, 1, atMost: true);
            Figure.Print($"the same against 10,000 strokes, {words}", Of("many", what), Of("few", what), "ms", Of("many", what) / Of("few", what), null);
        }
        Figure.Print("strokes made ready to be caught (a million against ten thousand)", Of("many", "built"), Of("few", "built"), "ms", Of("many", "built") / Of("few", "built"), null);
        Figure.Print("a markup picked among 10,000 (aim: 4 ms)", found.GetProperty("picking").GetDouble(), 4, "ms", found.GetProperty("picking").GetDouble() / 4, 1, atMost: true);
    }
}
