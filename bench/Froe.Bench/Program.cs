using System.Globalization;
using Froe.Bench;

if (args is ["hostile-child", var from, var to, var step])
{
    HostileBench.Work(int.Parse(from, CultureInfo.InvariantCulture), int.Parse(to, CultureInfo.InvariantCulture), int.Parse(step, CultureInfo.InvariantCulture));
    return 0;
}
if (args is ["hostile-file", var one, var folder])
{
    var (name, made) = Froe.Formats.Tests.Hostile.Make(int.Parse(one, CultureInfo.InvariantCulture));
    await File.WriteAllBytesAsync(Path.Combine(folder, $"{one}-{name}"), made);
    return 0;
}
if (args is ["geometry-child", var how, var file])
{
    PdfBench.Geometry(how, file);
    return 0;
}
var asked = args.Select(a => int.TryParse(a, CultureInfo.InvariantCulture, out var n) ? n : 0).DefaultIfEmpty().Max();
var benches = new (string Name, string What, Func<Task> Run)[]
{
    ("dxf", "DXF reader against dxf-parser in Node: speed and peak memory", DxfBench.RunAsync),
    ("arrival", "small drawings that arrive together against a process for each", ArrivalBench.RunAsync),
    ("sign-off", "durable sign-offs through HTTP against pgbench's inserts", SignOffBench.RunAsync),
    ("routing", "the routing engine: decisions a second, and a forecast of 10,000 runs", RoutingBench.RunAsync),
    ("ledger", "sign-offs with 1,000,000 ledger entries in the database against none", LedgerBench.RunAsync),
    ("desk", "the desk's and turnaround's pages with 1,000,000 packages against 1,000", DeskBench.RunAsync),
    ("live", "sign-offs, ten a second, with 500 open pages that hear of them against with none", LiveBench.RunAsync),
    ("together", "two people mark one sheet: how soon the other sees it; a bench with 10,000 markups against one with none", TogetherBench.RunAsync),
    ("web", "the front end: bytes of each place, how soon and how steadily it shows, presses, requests, memory", WebBench.RunAsync),
    ("slow", "the desk while 60 uploads and 60 downloads creep at 400 bytes a second", SlowClientsBench.RunAsync),
    ("size", "every page, and heavy acts, with a large company's database against a hundredth of it", SizeBench.RunAsync),
    ("model", "the routing engine beside its naive model, over N random commands (model N; 100,000 when none is given)", () => ModelBench.Run(asked > 0 ? asked : 100_000)),
    ("find", "words on the sheets of the register among 1,000,000 texts against plain trigrams", FindBench.RunAsync),
    ("hostile", "files made to harm, of every format, through the readers (hostile N; 20,000 when none is given)", () => HostileBench.RunAsync(asked > 0 ? asked : 20_000, 0, "hostile files")),
    ("models", "models made to harm, of every format, through the readers (models N; 5,000 when none is given)", () => HostileBench.RunAsync(asked > 0 ? asked : 5000, Froe.Formats.Tests.Hostile.Models, "hostile models")),
    ("pdf", "pages of PDF: in the browser against pdf.js, their geometry against PdfPig's own reading, their ink against the page engine's", PdfBench.RunAsync),
    ("scenes", "models: STEP against the same library in Node, STL and GLB against three's loaders, sections, volumes, bytes sent", SceneBench.RunAsync),
    ("ink", "made DXF files of each kind of entity: our ink against an independent renderer's", InkBench.RunAsync),
    ("viewer", "a sheet of 1,000,000 lines in the browser against drawing every line every frame", ViewerBench.RunAsync),
    ("marks", "points of a sheet of 1,000,000 strokes caught under the hand, and a markup picked among 10,000", MarksBench.RunAsync),
};
if (args is ["--list"])
{
    foreach (var (title, what, _) in benches) Console.WriteLine($"{title,-10} {what}");
    return 0;
}
var chosen = args.Length == 0 ? benches : [.. benches.Where(b => args.Contains(b.Name))];
if (chosen.Length == 0)
{
    Console.Error.WriteLine($"froe bench: there is no {string.Join(", ", args)}; --list names them");
    return 2;
}
Console.WriteLine("name · ours · peer's · ratio · aim · met or short");
foreach (var (_, _, run) in chosen) await run();
return 0;
