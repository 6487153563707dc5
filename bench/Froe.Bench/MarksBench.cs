using System.Diagnostics;
using System.Text.Json;
using Froe.Core.Drawing;
using Froe.Formats.Dxf;

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
        await RegionsAsync();
    }

    /// <summary>What lines enclose about a point, beside reading the prepared sheet that it is found on.</summary>
    private static async Task RegionsAsync()
    {
        using var file = File.OpenRead(await Figure.LargeDrawingAsync());
        var drawing = DxfReader.Read(file).Drawing ?? throw new InvalidOperationException("The drawing was not read.");
        using var form = new MemoryStream();
        PreparedSheet.WriteGeometry(drawing.Sheets[0], form);
        var (bytes, reading, finding) = (form.ToArray(), new List<double>(), new List<double>());
        for (var run = 0; run < Figure.Runs; run++)
        {
            var watch = Stopwatch.GetTimestamp();
            var sheet = PreparedSheet.ReadGeometry(bytes);
            reading.Add(Stopwatch.GetElapsedTime(watch).TotalMilliseconds);
            watch = Stopwatch.GetTimestamp();
            var regions = new Regions(sheet);
            for (var i = 1; i <= 3; i++) regions.About(new(sheet.Extents.MinX + (sheet.Extents.Width * i / 4.1), sheet.Extents.MinY + (sheet.Extents.Height * i / 4.3)), 1000);
            finding.Add(Stopwatch.GetElapsedTime(watch).TotalMilliseconds);
        }
        Figure.Print("what encloses three points among 1,000,000 lines, against reading the prepared sheet", Figure.Median(finding), Figure.Median(reading), "ms", Figure.Median(finding) / Figure.Median(reading), null);
    }
}
