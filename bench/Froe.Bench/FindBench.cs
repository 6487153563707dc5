using System.Diagnostics;
using System.Globalization;
using System.Text.Json;
using Froe.Core.Draft;
using Froe.Server.SignIn;
using Froe.Store;

namespace Froe.Bench;

/// <summary>
/// Finding words on the sheets of the register: 10,000 sheets with a hundred lines of words each. Beside it stands what an index of trigrams
/// over the lines gives by itself in the same database, without rights, newest drafts, pages, or words parted by blanks and hyphens.
/// </summary>
internal static class FindBench
{
    private const int Sheets = 10_000, LinesEach = 100, Requests = 60;
    private const double MostMilliseconds = 200;

    /// <summary>What is looked for, and on how many sheets it stands.</summary>
    private static readonly (string Words, string On)[] Asked =
    [
        ("gudgeon 4711", "one sheet"), ("turnbuckle", "a hundred sheets"), ("weld 6 both sides", "every sheet"), ("12 × Ø14", "every tenth sheet"), ("护罩", "a hundred sheets"), ("电缆", "every other sheet"), ("flibbertigibbet", "none"),
    ];

    public static async Task RunAsync()
    {
        await using var owner = new Database(Figure.Env("FROE_OWNER") + ";Command Timeout=1800");
        await using var database = new Database(Figure.Env("FROE_DATABASE") + ";Command Timeout=1800");
        var reader = Guid.CreateVersion7();
        await new People(database).AddAsync(new Person(reader, "finder", "finder", "F", "", "f@bench.example", "UTC", false), Passwords.Hash(BenchServer.Password), ["Staff"]);
        await FillAsync(database, owner, reader);
        using var server = BenchServer.Start(Figure.Env("FROE_DATABASE"), 5395);
        var http = (await server.SignInAsync("finder")).Http;
        var all = new List<double>();
        foreach (var (words, on) in Asked)
        {
            var (ours, plain) = (new double[Requests], new double[Requests]);
            for (var run = -5; run < Requests; run++)
            {
                var watch = Stopwatch.GetTimestamp();
                using var answer = await http.GetAsync(new Uri("/api/find?words=" + Uri.EscapeDataString(words), UriKind.Relative));
                var rows = (await JsonSerializer.DeserializeAsync<JsonElement>(await answer.EnsureSuccessStatusCode().Content.ReadAsStreamAsync())).GetProperty("rows").GetArrayLength();
                if (run >= 0) ours[run] = Stopwatch.GetElapsedTime(watch).TotalMilliseconds;
                if (rows == 0 != (on == "none")) throw new InvalidOperationException($"“{words}” was found on {rows} sheets.");
                watch = Stopwatch.GetTimestamp();
                await database.SearchAsync("SELECT number, line FROM bench_line WHERE line ILIKE $1 ORDER BY number LIMIT 41", r => r.GetString(1), [$"%{words}%"], false);
                if (run >= 0) plain[run] = Stopwatch.GetElapsedTime(watch).TotalMilliseconds;
            }
            all.AddRange(ours);
            Figure.Print($"finding “{words}”, on {on} of {Sheets:N0}, p95 against plain trigrams", P95(ours), P95(plain), "ms", P95(ours) / P95(plain), null);
        }
        Figure.Print(string.Create(CultureInfo.InvariantCulture, $"finding words among {Sheets * LinesEach:N0} texts, p95 of all against {MostMilliseconds} ms"), P95(all), MostMilliseconds, "ms", P95(all) / MostMilliseconds, 1, atMost: true);
        await owner.RunAsync("DROP TABLE bench_line", []);
    }

    private static double P95(IEnumerable<double> values)
    {
        var sorted = values.Order().ToArray();
        return sorted[(int)Math.Ceiling(sorted.Length * 0.95) - 1];
    }

    private static string Line(int sheet, int line) => (line % 10) switch
    {
        0 => string.Create(CultureInfo.InvariantCulture, $"{line + 1} WELD 6 BOTH SIDES {sheet % 997}"),
        1 => string.Create(CultureInfo.InvariantCulture, $"FRM-{sheet * 7 % 10_000:0000}-{line:00}"),
        2 => sheet % 10 == 3 ? "12 × Ø14 ON Ø280" : string.Create(CultureInfo.InvariantCulture, $"{line} × Ø{sheet % 40} ON Ø{sheet % 500}"),
        3 => sheet % 100 == 42 && line == 3 ? "TURNBUCKLE M16, GALVANISED" : "HEXAGON BOLT M" + (line % 30).ToString(CultureInfo.InvariantCulture),
        4 => sheet == 4711 && line == 4 ? "GUDGEON 4711" : "SHAFT JOURNAL " + (sheet % 700).ToString(CultureInfo.InvariantCulture),
        5 => "DEBURR ALL EDGES, SURFACES Ra 3.2 UNLESS STATED",
        6 => (sheet * 31 % 5000 + line).ToString(CultureInfo.InvariantCulture),
        7 => "SEE DRAWING TO-" + (1000 + (sheet * 13 % 9000)).ToString(CultureInfo.InvariantCulture),
        8 when sheet % 100 == 7 && line == 8 => "联轴器护罩",
        8 when sheet % 2 == 0 => "与电缆桥架保持净空 " + (line * 10).ToString(CultureInfo.InvariantCulture),
        8 => "KEEP CLEAR OF THE CABLE TRAY AT " + (line * 10).ToString(CultureInfo.InvariantCulture),
        _ => "EN 10025-2 S355J2, THICKNESS " + (sheet % 60).ToString(CultureInfo.InvariantCulture),
    };

    private static async Task FillAsync(Database database, Database owner, Guid reader)
    {
        await database.RunAsync(
            """
            WITH i AS (SELECT md5('fd' || n)::uuid AS d, md5('fr' || n)::uuid AS r, md5('fw' || n)::uuid AS w, decode(md5('fh' || n) || md5('fi' || n), 'hex') AS h, n FROM generate_series(0, $1 - 1) n),
            c AS (INSERT INTO content SELECT h, 1, 'x' FROM i),
            d AS (INSERT INTO document SELECT d, 'F-' || n, 'Sheet ' || n, 'drawing', 'bench', $2, now() FROM i),
            r AS (INSERT INTO revision SELECT r, d, 1, 'A', 'released' FROM i),
            w AS (INSERT INTO draft (id, document_id, revision_id, ordinal, sha256, file_name, uploaded_by, uploaded_at, report, reader, prepared, words_version) SELECT w, d, r, 1, h, 'x.dxf', $2, now(), '{}', 'made up', 2, 2 FROM i)
            INSERT INTO draft_leaf (draft_id, position, name, frame) SELECT w, 0, 'Model', '{"kind": "table", "rows": 1, "columns": 1}' FROM i
            """,
            [Sheets, reader]);
        await owner.RunAsync("CREATE TABLE bench_line (number text, line text)", []);
        await owner.RunAsync("GRANT SELECT, INSERT ON bench_line TO froe_app", []);
        foreach (var some in Enumerable.Range(0, Sheets).Chunk(200))
        {
            var pages = some.Select(sheet => (Sheet: sheet, Lines: Enumerable.Range(0, LinesEach).Select(line => Line(sheet, line)).ToArray())).ToList();
            foreach (var (sheet, lines) in pages)
            {
                var page = new WrittenPage([.. lines.Select(l => new WrittenRun(l, default, default, default))]);
                await database.RunAsync("INSERT INTO leaf_text (draft_id, position, folded, pairs, lines) VALUES (md5('fw' || $1::int)::uuid, 0, $2, $3, $4)", [sheet, page.Folded, page.Pairs.ToArray(), lines]);
            }
            await database.RunAsync("INSERT INTO bench_line SELECT 'F-' || s, l FROM unnest($1::int[], $2::text[]) x (s, l)",
                [pages.SelectMany(p => p.Lines.Select(_ => p.Sheet)).ToArray(), pages.SelectMany(p => p.Lines).ToArray()]);
        }
        await owner.RunAsync("CREATE INDEX ON bench_line USING gin (line gin_trgm_ops)", []);
        await owner.RunAsync("VACUUM ANALYZE", []);
        Console.Error.WriteLine(string.Create(CultureInfo.InvariantCulture, $"{Sheets * LinesEach:N0} texts are there"));
    }
}
