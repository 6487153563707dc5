using System.Diagnostics;
using System.Globalization;
using System.Net.Http.Json;
using System.Security.Cryptography;
using System.Text.Json;
using System.Text.RegularExpressions;
using Froe.Core.Ledger;
using Froe.Core.Routing;
using Froe.Server.SignIn;
using Froe.Store;

namespace Froe.Bench;

/// <summary>
/// A large company's database (200,000 documents in 5,000 folders, 100,000 packages, 1,000,000 notes, 5,000,000 ledger entries, 1,000
/// people) against a hundredth of it: every page, for four kinds of people, and the heavy acts. Two databases, two servers, asked in turn.
/// </summary>
internal static partial class SizeBench
{
    private const int Requests = 24;
    private static readonly string[] Kinds = ["signer", "coordinator", "many", "guest"];

    private sealed record Side(string Name, int Scale, BenchServer Server, Dictionary<string, HttpClient> People, string Connection);

    public static async Task RunAsync()
    {
        var sides = new List<Side>();
        foreach (var (name, port, scale) in new[] { ("FROE_DATABASE", 5395, 1), ("FROE_DATABASE_LARGE", 5396, 100) })
        {
            await using (var owner = new Database(Figure.Env(name.Replace("DATABASE", "OWNER", StringComparison.Ordinal)) + ";Command Timeout=3600"))
            {
                var indexes = await owner.ListAsync(
                    "SELECT indexname, indexdef FROM pg_indexes i WHERE schemaname = 'public' AND NOT EXISTS (SELECT 1 FROM pg_constraint c WHERE c.conname = i.indexname) AND indexdef NOT LIKE 'CREATE UNIQUE%'",
                    r => (Name: r.GetString(0), Definition: r.GetString(1)), []);
                foreach (var index in indexes) await owner.RunAsync($"DROP INDEX \"{index.Name}\"", []);
                await FillAsync(owner, scale);
                foreach (var index in indexes) await owner.RunAsync(index.Definition, []);
                await owner.RunAsync("VACUUM ANALYZE", []);
            }
            var server = BenchServer.Start(Figure.Env(name), port);
            var people = new Dictionary<string, HttpClient>();
            foreach (var kind in Kinds) people[kind] = (await server.SignInAsync(kind)).Http;
            sides.Add(new Side(name, scale, server, people, Figure.Env(name)));
            Console.Error.WriteLine($"the database of scale {scale} is there");
        }
        try
        {
            await PagesAsync(sides);
            await ActsAsync(sides);
        }
        finally
        {
            foreach (var side in sides) side.Server.Dispose();
        }
        await VerifyAsync(sides[1]);
    }

    private static async Task PagesAsync(List<Side> sides)
    {
        var api = await sides[0].People["signer"].GetFromJsonAsync<JsonElement>("/openapi/v1.json");
        var paths = api.GetProperty("paths").EnumerateObject().Where(p => p.Value.TryGetProperty("get", out _) && !p.Name.EndsWith(".csv", StringComparison.Ordinal) && !p.Name.Contains("/uploads/", StringComparison.Ordinal)).Select(p => p.Name)
            .Concat(["/api/documents?search=shaft%20journal", "/api/documents?sort=-changed", "/api/documents?folder=F%200%20%2F%20S%201", "/api/packages?search=lot%207%3B", "/api/packages?standing=running&sort=package", "/api/notes?standing=unsettled&sort=document", "/api/notes?search=radius%20spanner", "/api/ledger?subject=document", "/api/folders?in=F%200"]).ToList();
        foreach (var kind in Kinds)
        {
            var worst = new List<(string Path, double Small, double Large)>();
            foreach (var path in paths)
            {
                var times = sides.ConvertAll(_ => new List<double>());
                var answered = true;
                for (var run = -3; run < Requests && answered; run++)
                    for (var s = 0; s < sides.Count && answered; s++)
                    {
                        var watch = Stopwatch.GetTimestamp();
                        using var answer = await sides[s].People[kind].GetAsync(new Uri(Filled(path, Math.Abs(run) % 20), UriKind.Relative));
                        await answer.Content.ReadAsStringAsync();
                        if ((int)answer.StatusCode >= 500) throw new InvalidOperationException($"{path} answered {kind} with {(int)answer.StatusCode}.");
                        answered = answer.IsSuccessStatusCode;
                        if (run >= 0) times[s].Add(Stopwatch.GetElapsedTime(watch).TotalMilliseconds);
                    }
                if (answered) worst.Add((path, P95(times[0]), P95(times[1])));
            }
            foreach (var (path, small, large) in worst.OrderByDescending(w => w.Large).Take(6))
                Figure.Print($"{kind}: {path}, p95, large against small (aim: 1.5 or under 50 ms)", large, small, "ms", large <= 50 ? Math.Min(1, large / small) : large / small, 1.5, atMost: true);
            Figure.Print($"{kind}: {worst.Count} pages, those over 1.5 and over 50 ms", worst.Count(w => w.Large > 50 && w.Large > 1.5 * w.Small), 0, "pages", worst.Count(w => w.Large > 50 && w.Large > 1.5 * w.Small), 0, atMost: true);
        }
    }

    /// <summary>A path with ids that are there in both databases.</summary>
    private static string Filled(string path, int n) => Placeholder().Replace(path, m => m.Value switch
    {
        "{list}" => "register",
        "{position}" => "0",
        _ => Id(path.Contains("/documents/", StringComparison.Ordinal) ? "d" : path.Contains("/drafts/", StringComparison.Ordinal) ? "w" : path.Contains("/plans/", StringComparison.Ordinal) ? "l" : path.Contains("/people/", StringComparison.Ordinal) ? "p" : "k", n),
    });

#pragma warning disable CA5351 // The same ids as PostgreSQL's md5 makes in the filling; nothing is kept secret by them.
    private static string Id(string prefix, int n) => new Guid(MD5.HashData(System.Text.Encoding.ASCII.GetBytes(string.Create(CultureInfo.InvariantCulture, $"{prefix}{n}"))), bigEndian: true).ToString();
#pragma warning restore CA5351

    private static double P95(List<double> times) => times.Order().ElementAt((int)(times.Count * 0.95));

    private static async Task ActsAsync(List<Side> sides)
    {
        foreach (var (words, body, path, method) in new (string, Func<int, object>, string, HttpMethod)[]
        {
            ("10,000 documents filed (2,000 in the small one)", s => new { documents = Enumerable.Range(0, s == 1 ? 2_000 : 10_000).Select(n => Id("d", n)), folder = "F 1", copy = false, reason = "Bench" }, "/api/documents/places", HttpMethod.Post),
            ("a high folder renamed", _ => new { path = "F 0", to = "F zero" }, "/api/folders", HttpMethod.Put),
            ("500 seats handed over", _ => new { from = Id("p", 3), to = Id("p", 4), reason = "Bench" }, "/api/hand-overs", HttpMethod.Post),
        })
        {
            var took = new List<double>();
            foreach (var side in sides)
            {
                using var request = new HttpRequestMessage(method, path) { Content = JsonContent.Create(body(side.Scale)) };
                var watch = Stopwatch.GetTimestamp();
                using var answer = await side.People["coordinator"].SendAsync(request);
                var said = await answer.Content.ReadAsStringAsync();
                if (!answer.IsSuccessStatusCode) throw new InvalidOperationException($"{words}: {said[..Math.Min(400, said.Length)]}");
                took.Add(Stopwatch.GetElapsedTime(watch).TotalSeconds);
            }
            Figure.Print(words + ", large against small", took[1], took[0], "s", took[1] / took[0], null);
        }
    }

    /// <summary>verify over the large database, against SHA-256 over as many bytes as it reads.</summary>
    private static async Task VerifyAsync(Side side)
    {
        await using var database = new Database(side.Connection);
        var bytes = (await database.ListAsync("SELECT (SELECT sum(length(payload) + length(reason) + length(action) + 88) FROM ledger_entry)::bigint + (SELECT coalesce(sum(size), 0) FROM content WHERE EXISTS (SELECT 1 FROM content_chunk k WHERE k.sha256 = content.sha256))::bigint", r => r.GetInt64(0), []))[0];
        var start = new ProcessStartInfo("dotnet") { RedirectStandardOutput = true, RedirectStandardError = true };
        foreach (var argument in (string[])[Figure.Env("FROE_TOOL"), "verify"]) start.ArgumentList.Add(argument);
        start.Environment["FROE_DATABASE"] = side.Connection;
        var watch = Stopwatch.GetTimestamp();
        using var child = Process.Start(start)!;
        var output = child.StandardOutput.ReadToEndAsync();
        _ = child.StandardError.ReadToEndAsync();
        await child.WaitForExitAsync();
        await output;
        var ours = bytes / 1e6 / Stopwatch.GetElapsedTime(watch).TotalSeconds;
        var chunk = new byte[64 << 20];
        watch = Stopwatch.GetTimestamp();
        for (var i = 0; i < 8; i++) SHA256.HashData(chunk);
        var peers = 8 * chunk.Length / 1e6 / Stopwatch.GetElapsedTime(watch).TotalSeconds;
        Figure.Print("verify over the large ledger, replaying it, against SHA-256 of the same bytes on one core", ours, peers, "MB/s", ours / peers, 0.5);
    }

    /// <summary>Fills a database straight through its tables; what it holds is as much times the scale.</summary>
    private static async Task FillAsync(Database owner, int scale)
    {
        int documents = 2_000 * scale, packages = 1_000 * scale, notes = 10 * packages, entries = 50_000 * scale, people = Math.Max(20, 10 * scale), folders = 50 * scale;
        await owner.RunAsync(
            """
            INSERT INTO person (id, login, name, initials, title, email, time_zone, password_hash, is_guest)
            SELECT md5('p' || n)::uuid, CASE n WHEN 0 THEN 'signer' WHEN 1 THEN 'coordinator' WHEN 2 THEN 'many' WHEN 5 THEN 'guest' ELSE 'p' || n END, 'Person ' || n, 'P', '', 'p@bench.example', 'UTC', $2, n = 5 FROM generate_series(0, $1 - 1) n
            """, [people, Passwords.Hash(BenchServer.Password)]);
        await owner.RunAsync("INSERT INTO group_member SELECT g.id, p.id FROM person_group g, person p WHERE g.name = 'Staff' AND p.login NOT IN ('guest', 'many') OR g.name IN ('Coordinators', 'Administrators', 'Originators') AND p.login = 'coordinator' OR g.name = 'Guests' AND p.login = 'guest'", []);
        // Half of the folders lie in the first high one.
        await owner.RunAsync("INSERT INTO folder (path) SELECT DISTINCT 'F ' || h FROM generate_series(0, 9) h", []);
        await owner.RunAsync("INSERT INTO folder (path) SELECT 'F ' || CASE WHEN n % 2 = 0 THEN 0 ELSE n % 10 END || ' / S ' || n FROM generate_series(1, $1) n", [folders]);
        // Somebody in fifty groups, each for a folder; a guest with three.
        await owner.RunAsync("INSERT INTO person_group (id, name) SELECT md5('g' || n)::uuid, 'Group ' || n FROM generate_series(0, 49) n", []);
        await owner.RunAsync("INSERT INTO group_member SELECT md5('g' || n)::uuid, md5('p2')::uuid FROM generate_series(0, 49) n UNION ALL SELECT md5('g' || n)::uuid, md5('p5')::uuid FROM generate_series(0, 2) n", []);
        await owner.RunAsync("INSERT INTO group_right (group_id, right_name, folder_id) SELECT md5('g' || f.n)::uuid, r, f.id FROM (SELECT id, row_number() OVER (ORDER BY md5(path)) - 1 AS n FROM folder WHERE path LIKE '% / %') f, unnest(ARRAY['read', 'sign']) r WHERE f.n < 50", []);
        var plan = new Plan("Bench", "", new Sequence([new Step("step", "Step", "Sign.", 2, [new Seat("seat", "Seat", new PersonHolder(Guid.Parse(Id("p", 0))))]), new Step("last", "Last", "Sign.", 1, [new Seat("last", "Last", new PersonHolder(Guid.Parse(Id("p", 3))))])]));
        await owner.RunAsync("INSERT INTO plan (id, name, purpose, body, edition, owner) SELECT md5('l' || n)::uuid, 'Plan ' || n, '', $1::jsonb, 1, md5('p1')::uuid FROM generate_series(0, 19) n", [JsonSerializer.Serialize(plan, Act.Json)]);
        await owner.RunAsync("INSERT INTO plan_edition (plan_id, edition, body, published_at) SELECT id, 1, body, now() FROM plan", []);
        await owner.RunAsync(
            """
            WITH f AS (SELECT id, row_number() OVER (ORDER BY id) - 1 AS n FROM folder WHERE path LIKE '% / %'),
            i AS (SELECT md5('d' || n)::uuid AS d, md5('r' || n)::uuid AS r, md5('w' || n)::uuid AS w, decode(md5('h' || n) || md5('i' || n), 'hex') AS h, n FROM generate_series(0, $1 - 1) n),
            c AS (INSERT INTO content (sha256, size, media_type) SELECT h, 1, 'x' FROM i),
            d AS (INSERT INTO document (id, number, title, kind, discipline, originator, registered_at, folder_id) SELECT d, 'B-' || i.n, 'Shaft ' || i.n || CASE WHEN i.n IN (7, 50, 93) THEN ' journal' ELSE '' END, 'drawing', 'D' || i.n % 12, md5('p' || i.n % 20)::uuid, now(), f.id FROM i JOIN f ON f.n = i.n % $2),
            r AS (INSERT INTO revision SELECT r, d, 1, 'A', CASE WHEN n % 3 = 0 THEN 'in work' ELSE 'released' END FROM i)
            INSERT INTO draft SELECT w, d, r, 1, h, 'x.dxf', md5('p' || n % 20)::uuid, now(), '{"notShown": []}' FROM i
            """, [documents, folders]);
        await owner.RunAsync("INSERT INTO draft_sheet SELECT md5('w' || n)::uuid, 0, 'Model', 'millimetre', '{0,0,1,1}', h, h, h FROM (SELECT n, decode(md5('h' || n) || md5('i' || n), 'hex') AS h FROM generate_series(0, $1 - 1) n) i", [documents]);
        for (var from = 0; from < packages; from += 10_000)
        {
            var slips = Slip(plan);
            await owner.RunAsync(
                """
                WITH i AS (SELECT md5('k' || n)::uuid AS k, n, n < 1000 AND n % 2 = 0 OR n % 500 = 0 AS runs, now() - make_interval(mins => n * 10) AS at, md5('p' || CASE WHEN n % 20 = 5 THEN 15 ELSE n % 20 END)::uuid AS who FROM generate_series($1::int, least($2::int, $1::int + 9999)) n),
                k AS (INSERT INTO package (id, number, title, note, originator, sent_at, round_at, round, standing, slip, item_count, ended_at, plan_id, edition)
                      SELECT k, 'PK-' || n, 'Counterweight shaft ' || n || ', lot ' || n % 20 || ';', 'A note of usual length.', who, at, at, 1, CASE WHEN runs THEN 'running' ELSE 'released' END, $3::jsonb, 2, CASE WHEN runs THEN NULL ELSE at END, md5('l' || n % 20)::uuid, 1 FROM i),
                s AS (INSERT INTO package_seat (package_id, person_id) SELECT k, unnest(ARRAY[md5('p0')::uuid, md5('p3')::uuid]) FROM i WHERE runs),
                a AS (INSERT INTO awaited (person_id, package_id, seat, step, since, due) SELECT md5('p' || CASE WHEN n < 80 THEN 0 ELSE 6 END)::uuid, k, 'seat', 'step', at, at + interval '2 days' FROM i WHERE runs),
                g AS (INSERT INTO sign_off (id, package_id, round, seat, person_id, at, statement, remark) SELECT md5('s' || n)::uuid, k, 1, 'seat', who, at, 'x', 'Fine.' FROM i WHERE NOT runs),
                o AS (INSERT INTO step_passage SELECT k, 1, 'step', md5('l' || n % 20)::uuid, at, at + interval '1 day' FROM i WHERE NOT runs),
                m AS (INSERT INTO message (id, person_id, at, subject, body, link) SELECT md5('m' || n)::uuid, who, at, 'PK waits for your signature', 'Step.', '/packages/' || k FROM i)
                INSERT INTO package_item (package_id, round, position, document_id, revision_id, draft_id) SELECT k, 1, p, md5('d' || n * 2 + p - 1)::uuid, md5('r' || n * 2 + p - 1)::uuid, md5('w' || n * 2 + p - 1)::uuid FROM i, generate_series(1, 2) p
                """, [from, packages - 1, slips]);
        }
        // A guest is informed of fifty.
        await owner.RunAsync("INSERT INTO package_informed (package_id, person_id) SELECT md5('k' || n)::uuid, md5('p5')::uuid FROM generate_series(0, 49) n", []);
        for (var from = 0; from < notes; from += 100_000)
            await owner.RunAsync(
                """
                INSERT INTO note (id, package_id, number, document_id, draft_id, sheet, round, kind, standing, author, at, body, shape, zone, originator, subject)
                SELECT md5('o' || n)::uuid, md5('k' || n / 10)::uuid, n % 10 + 1, md5('d' || n / 10 * 2)::uuid, md5('w' || n / 10 * 2)::uuid, 0, 1, (ARRAY['request', 'request', 'question', 'remark'])[1 + n % 4], CASE WHEN n < 5000 AND n % 3 = 0 THEN 'open' ELSE 'closed' END,
                       md5('p' || n % 20)::uuid, now() - make_interval(mins => n), 'Radius ' || n % 50 || ' at the shoulder to 2.5' || CASE WHEN n IN (77, 505, 903) THEN ', for the spanner' ELSE '' END, '{"shape": "cloud", "from": {"x": 0, "y": 0}, "to": {"x": 1, "y": 1}}', 'B4', md5('p' || n / 10 % 20)::uuid, 'B-' || n / 10 * 2 || ' Shaft ' || n / 10 * 2
                FROM generate_series($1::int, least($2::int, $1::int + 99999)) n
                """, [from, notes - 1]);
        await FillLedgerAsync(owner, entries, packages, documents);
    }

    /// <summary>Chains of packages and documents, ten entries each, and more of others; linked as the ledger links them.</summary>
    private static async Task FillLedgerAsync(Database owner, int entries, int packages, int documents)
    {
        await using var connection = await owner.OpenAsync();
        await using var rows = await connection.BeginBinaryImportAsync("COPY ledger_entry (chain, sequence, at, person_id, action, reason, payload, before, hash) FROM STDIN (FORMAT BINARY)");
        var people = Enumerable.Range(0, 20).Select(n => Guid.Parse(Id("p", n))).ToArray();
        var (now, payload, before) = (HashChain.Cut(DateTimeOffset.UtcNow), $$"""{"words": "{{new string('x', 300)}}"}""", HashChain.Start);
        for (var n = 0; n < entries; n++)
        {
            var chain = n / 10 < packages ? Id("k", n / 10) : n / 10 < packages + documents ? Id("d", (n / 10) - packages) : Id("x", n / 10);
            if (n % 10 == 0) before = HashChain.Start;
            // Whatever a chain is about, it is of the same two years.
            var entry = new LedgerEntry(Guid.Parse(chain), (n % 10) + 1, now.AddMinutes(-(n / 10 % packages) * 10).AddSeconds(n % 10), people[n % 20], "signed", "Looked at, fine.", payload);
            var hash = HashChain.HashOf(entry, before);
            await rows.StartRowAsync();
            await rows.WriteAsync(entry.Chain);
            await rows.WriteAsync(entry.Sequence);
            await rows.WriteAsync(entry.At.UtcDateTime, NpgsqlTypes.NpgsqlDbType.TimestampTz);
            await rows.WriteAsync(people[n % 20]);
            await rows.WriteAsync(entry.Action);
            await rows.WriteAsync(entry.Reason);
            await rows.WriteAsync(entry.Payload);
            await rows.WriteAsync(before);
            await rows.WriteAsync(hash);
            before = hash;
        }
        await rows.CompleteAsync();
    }

    private static string Slip(Plan plan)
    {
        SlipItem[] items = [new(Guid.NewGuid(), Guid.NewGuid(), new string('a', 64)), new(Guid.NewGuid(), Guid.NewGuid(), new string('b', 64))];
        return JsonSerializer.Serialize(SlipRules.Replay(Froe.Core.Routing.Slip.Blank, SlipRules.Decide(Froe.Core.Routing.Slip.Blank, new Send(Guid.Parse(Id("p", 1)), plan, [.. items]), SlipContext.Empty).Events), Act.Json);
    }

    [GeneratedRegex(@"\{[a-zA-Z]+[^}]*\}")]
    private static partial Regex Placeholder();
}
