using System.Text.Json;

namespace Froe.Bench;

/// <summary>The front end as built, served by a server with the demo, in headless Chromium with its processor slowed four times.</summary>
internal static class WebBench
{
    public static async Task RunAsync()
    {
        var root = Figure.Env("FROE_ROOT");
        using var server = await DemoAsync(5398);
        var found = JsonDocument.Parse(await Figure.RunAsync("node", ["web.mjs", "http://127.0.0.1:5398"], Path.Combine(root, "bench", "node"))).RootElement;
        foreach (var place in found.GetProperty("places").EnumerateArray())
        {
            double N(string name) => place.GetProperty(name).GetDouble();
            var name = place.GetProperty("name").GetString();
            var isFirst = name is "sign-in" or "desk";
            Figure.Print($"script on the wire, {name}: first visit against repeat", N("script") / 1000, N("scriptAgain") / 1000, "kB", N("script") / 120_000, isFirst ? 1 : null, atMost: true);
            Figure.Print($"all on the wire, {name}: first visit against repeat", N("all") / 1000, N("allAgain") / 1000, "kB", N("all") / Math.Max(1, N("allAgain")), null);
            Figure.Print($"largest paint, {name}: repeat visit against 1.5 s", N("paint") / 1000, 1.5, "s", N("paint") / 1500, 1, atMost: true);
            Figure.Print($"shift of the layout, {name}: against 0.05", N("shift"), 0.05, "", N("shift") / 0.05, 1, atMost: true);
        }
        foreach (var press in found.GetProperty("presses").EnumerateArray())
        {
            var name = press.GetProperty("name").GetString();
            var (own, shown) = (press.GetProperty("own").GetDouble(), press.GetProperty("shown").GetDouble());
            Figure.Print($"press, {name}: script, layout and paint, against 200 ms", own, 200, "ms", own / 200, 1, atMost: true);
            // Without a graphics card a page waits for the frame before its own, which takes longer than all it does itself.
            Figure.Print($"press, {name}: until its frame is handed over, against 200 ms", shown, 200, "ms", shown / 200, null);
        }
        Figure.Print("a package opened from the desk: until its picture is there, against 1.5 s", found.GetProperty("opened").GetDouble() / 1000, 1.5, "s", found.GetProperty("opened").GetDouble() / 1500, null);
        var (first, last) = (found.GetProperty("heapBefore").GetDouble() / 1e6, found.GetProperty("heapAfter").GetDouble() / 1e6);
        Figure.Print("memory of the page after 200 packages were opened, against after ten", last, first, "MB", last / first, null);
    }

    /// <summary>A server with the demo that serves the front end as built, once it answers.</summary>
    internal static async Task<BenchServer> DemoAsync(int port)
    {
        var root = Figure.Env("FROE_ROOT");
        Environment.SetEnvironmentVariable("Froe__Database", Figure.Env("FROE_DATABASE"));
        Environment.SetEnvironmentVariable("Froe__Reader", Figure.Env("FROE_TOOL"));
        await Figure.RunAsync("dotnet", [Figure.Env("FROE_DEMO"), "load", Path.Combine(root, "demo", "drawings")], root);
        var server = BenchServer.Start(Figure.Env("FROE_DATABASE"), port, ("Froe__Web", Path.Combine(root, "web", "dist")));
        using var http = new HttpClient();
        for (var i = 0; i < 100; i++)
            try
            {
                await http.GetAsync(new Uri($"http://127.0.0.1:{port}/api/session"));
                break;
            }
            catch (HttpRequestException)
            {
                await Task.Delay(200);
            }
        return server;
    }
}
