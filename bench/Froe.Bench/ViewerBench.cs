using System.Text.Json;
using Froe.Core.Drawing;
using Froe.Formats.Dxf;
using Froe.Formats.Pictures;

namespace Froe.Bench;

/// <summary>The front end's own viewer in headless Chromium with a software GPU, beside three's LineSegments in the same run.</summary>
internal static class ViewerBench
{
    public static async Task RunAsync()
    {
        var folder = Figure.Env("FROE_BENCH");
        var prepared = Path.Combine(folder, "large.sheet");
        if (!File.Exists(prepared))
        {
            await using var stream = File.OpenRead(await Figure.LargeDrawingAsync());
            var sheet = DxfReader.Read(stream).Drawing!.Sheets[0];
            await using (var to = File.Create(prepared)) PreparedSheet.WriteGeometry(sheet, to);
            await File.WriteAllBytesAsync(Path.Combine(folder, "large.png"), SheetPicture.Png(sheet, 2000));
        }
        var text = await Figure.RunAsync("node", ["viewer.mjs", folder, Path.Combine(Figure.Env("FROE_ROOT"), "web", "dist")], Path.Combine(Figure.Env("FROE_ROOT"), "bench", "node"));
        var found = JsonDocument.Parse(text).RootElement;
        double N(string name) => found.GetProperty(name).GetDouble();
        Figure.Print("frames while panning 1,000,000 lines", N("ourFrames"), N("peerFrames"), "/s", N("ourFrames") / N("peerFrames"), 10);
        Figure.Print("frames while a markup is dragged over 1,000,000 lines, against the sheet moved alone", N("ourDragged"), N("ourFrames"), "/s", N("ourDragged") / N("ourFrames"), 0.9);
        Figure.Print("first full picture of 1,000,000 lines", N("ourFirst"), N("peerFirst"), "s", N("ourFirst") / N("peerFirst"), null);
        Figure.Print("sharp again after panning (against one second)", N("ourSharp"), 1, "s", N("ourSharp"), 1, atMost: true);
        Figure.Print("lines drawn of those in view when zoomed in", N("ourLines"), N("allLines"), "lines", N("ourLines") / N("allLines"), 1);
    }
}
