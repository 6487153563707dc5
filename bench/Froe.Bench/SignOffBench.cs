using System.Diagnostics;
using System.Globalization;
using System.Net.Http.Json;
using System.Security.Cryptography;
using System.Text.Json;
using System.Text.RegularExpressions;
using Froe.Core.Routing;
using Froe.Server.SignIn;
using Froe.Store;

namespace Froe.Bench;

/// <summary>
/// Sign-offs per second through the HTTP endpoint of a server process, each on a package of its own, against pgbench
/// inserting one row of 300 bytes a transaction in the same PostgreSQL. The password is confirmed once for the batch,
/// as a person does who signs many packages: a grant lasts two minutes.
/// </summary>
internal static partial class SignOffBench
{
    public const int Seconds = 6;

    /// <summary>A server in use is warm: the runtime compiles a method well only after it has run often.</summary>
    public const int WarmUpSeconds = 25;
    public const int Clients = 16;
    public static async Task RunAsync()
    {
        await using var database = new Database(Figure.Env("FROE_DATABASE"));
        var (author, signers) = await AddPeopleAsync(database);
        using var server = BenchServer.Start(Figure.Env("FROE_DATABASE"), 5395);
        var seats = new List<Client>();
        foreach (var (i, id) in signers.Index()) seats.Add(new Client(id, await server.SignInAsync($"signer{i}")));
        var rate = await OursAsync(database, seats, author, WarmUpSeconds, 3000);
        foreach (var clients in new[] { 1, Clients })
        {
            List<double> ours = [], peers = [];
            for (var run = 0; run < 3; run++)
            {
                ours.Add(await OursAsync(database, seats[..clients], author, Seconds, Math.Max(rate * 3, 1000)));
                peers.Add(await PeerAsync(clients));
            }
            Figure.Print($"sign-offs per second, {clients} {(clients == 1 ? "client" : "clients")}", Figure.Median(ours), Figure.Median(peers), "/s", Figure.Median(ours) / Figure.Median(peers), 0.5);
        }
        // What a request costs that does nothing but prove who asks: the most that any sign-off could reach here.
        var empty = new List<double>();
        for (var run = 0; run < 3; run++) empty.Add(await EmptyAsync(seats));
        Figure.Print($"requests per second that do nothing, {Clients} clients", Figure.Median(empty), rate, "/s", Figure.Median(empty) / rate, null);
    }

    /// <summary>An author and people who sign.</summary>
    public static async Task<(Guid Author, Guid[] Signers)> AddPeopleAsync(Database database)
    {
        var author = Guid.CreateVersion7();
        var signers = Enumerable.Range(0, Clients).Select(_ => Guid.CreateVersion7()).ToArray();
        var people = new People(database);
        var hash = Passwords.Hash(BenchServer.Password);
        foreach (var (i, id) in signers.Index())
            await people.AddAsync(new Person(id, $"signer{i}", $"Signer {i}", "S", "", "s@bench.example", "UTC", false), hash, ["Staff"]);
        await people.AddAsync(new Person(author, "author", "Author", "A", "", "a@bench.example", "UTC", false), hash, ["Staff", "Originators"]);
        return (author, signers);
    }

    /// <summary>One person at their own browser.</summary>
    public sealed record Client(Guid Person, HttpClient Http);

    public static async Task<double> OursAsync(Database database, List<Client> clients, Guid author, int seconds, double mostPerSecond)
    {
        var packages = new List<List<(Guid Package, Guid Draft, string Sha256)>>();
        foreach (var (signer, _) in clients) packages.Add(await MakePackagesAsync(database, signer, author, (int)(mostPerSecond * seconds / clients.Count)));
        var grants = new List<string?>();
        foreach (var (_, http) in clients)
            grants.Add((await (await http.PostAsJsonAsync("/api/session/confirm", new { password = BenchServer.Password })).Content.ReadFromJsonAsync<JsonElement>()).GetProperty("grant").GetString());
        var done = 0;
        var watch = Stopwatch.StartNew();
        await Task.WhenAll(clients.Index().Select(async client =>
        {
            var (mine, http, grant, next) = (packages[client.Index], client.Item.Http, grants[client.Index], 0);
            while (watch.Elapsed.TotalSeconds < seconds)
            {
                if (next >= mine.Count) throw new InvalidOperationException("The bench made too few packages.");
                var (package, draft, sha256) = mine[next++];
                var body = new { key = Guid.NewGuid(), grant, seat = "seat", remark = "Looked at, fine.", verdicts = new[] { new { draft, sha256, verdict = "approve", reason = "" } } };
                using var answer = await http.PostAsJsonAsync($"/api/packages/{package}/sign-offs", body);
                answer.EnsureSuccessStatusCode();
                Interlocked.Increment(ref done);
            }
        }));
        return done / watch.Elapsed.TotalSeconds;
    }

    private static async Task<double> EmptyAsync(List<Client> clients)
    {
        var done = 0;
        var watch = Stopwatch.StartNew();
        await Task.WhenAll(clients.Select(async client =>
        {
            while (watch.Elapsed.TotalSeconds < Seconds)
            {
                using var answer = await client.Http.PostAsJsonAsync("/api/nothing", new { key = Guid.NewGuid(), seat = "seat" });
                Interlocked.Increment(ref done);
            }
        }));
        return done / watch.Elapsed.TotalSeconds;
    }

    /// <summary>Packages with one document whose first of two steps waits for the signer, written straight to the tables: how they came is not measured.</summary>
    private static async Task<List<(Guid Package, Guid Draft, string Sha256)>> MakePackagesAsync(Database database, Guid signer, Guid author, int count)
    {
        var plan = new Plan("Bench", "", new Sequence(
        [
            new Step("step", "Step", "Sign.", 1, [new Seat("seat", "Seat", new PersonHolder(signer))]),
            new Step("last", "Last", "Sign.", 1, [new Seat("last", "Last", new PersonHolder(signer))]),
        ]));
        var made = new List<(Guid, Guid, string)>();
        for (var from = 0; from < count; from += 1000)
        {
            var rows = Enumerable.Range(0, Math.Min(1000, count - from)).Select(_ =>
            {
                var (package, document, revision, draft) = (Guid.CreateVersion7(), Guid.CreateVersion7(), Guid.CreateVersion7(), Guid.CreateVersion7());
                var sha256 = SHA256.HashData(package.ToByteArray());
                var item = new SlipItem(document, draft, Convert.ToHexStringLower(sha256));
                var slip = SlipRules.Replay(Slip.Blank, SlipRules.Decide(Slip.Blank, new Send(author, plan, [item]), SlipContext.Empty).Events);
                return (Package: package, Document: document, Revision: revision, Draft: draft, Hash: sha256, Slip: JsonSerializer.Serialize(slip, Act.Json));
            }).ToList();
            await database.RunAsync(
                """
                WITH i AS (SELECT * FROM unnest($1::uuid[], $2::uuid[], $3::uuid[], $4::uuid[], $5::bytea[], $6::text[]) AS x (k, d, r, w, h, s)),
                c AS (INSERT INTO content SELECT h, 1, 'x' FROM i),
                d AS (INSERT INTO document SELECT d, d::text, 'Bench', 'drawing', 'bench', $7, now() FROM i),
                r AS (INSERT INTO revision SELECT r, d, 1, 'A', 'in review' FROM i),
                w AS (INSERT INTO draft SELECT w, d, r, 1, h, 'x', $7, now(), '{}' FROM i),
                k AS (INSERT INTO package (id, number, title, note, originator, sent_at, round_at, round, standing, slip, item_count) SELECT k, k::text, 'Bench', '', $7, now(), now(), 1, 'running', s::jsonb, 1 FROM i),
                p AS (INSERT INTO package_item SELECT k, 1, 1, d, r, w FROM i)
                INSERT INTO awaited SELECT $8, k, 'seat', 'step', now(), now() FROM i
                """,
                [rows.Select(r => r.Package).ToArray(), rows.Select(r => r.Document).ToArray(), rows.Select(r => r.Revision).ToArray(), rows.Select(r => r.Draft).ToArray(), rows.Select(r => r.Hash).ToArray(), rows.Select(r => r.Slip).ToArray(), author, signer]);
            made.AddRange(rows.Select(r => (r.Package, r.Draft, Convert.ToHexStringLower(r.Hash))));
        }
        return made;
    }

    private static async Task<double> PeerAsync(int clients)
    {
        var script = Path.Combine(Figure.Env("FROE_BENCH"), "insert.sql");
        await File.WriteAllTextAsync(script, "INSERT INTO bench_row (body) VALUES (repeat('x', 300));\n");
        var parts = Figure.Env("FROE_OWNER").Split(';').Select(p => p.Split('=', 2)).ToDictionary(p => p[0], p => p[1]);
        Environment.SetEnvironmentVariable("PGPASSWORD", parts["Password"]);
        string[] where = ["-h", parts["Host"], "-p", parts["Port"], "-U", parts["Username"]];
        await Figure.RunAsync("psql", [.. where, "-d", parts["Database"], "-qc", "CREATE TABLE IF NOT EXISTS bench_row (id bigserial PRIMARY KEY, body text)"]);
        var text = await Figure.RunAsync(Figure.Env("FROE_PGBENCH"), [.. where, "-n", "-f", script, "-c", $"{clients}", "-j", "2", "-T", $"{Seconds}", "-M", "prepared", parts["Database"]]);
        return double.Parse(TransactionsPerSecond().Match(text).Groups[1].Value, CultureInfo.InvariantCulture);
    }

    [GeneratedRegex(@"tps = ([0-9.]+)")]
    private static partial Regex TransactionsPerSecond();
}
