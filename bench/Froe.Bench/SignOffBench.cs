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
            for (var run = 0; run < Figure.Runs; run++)
            {
                ours.Add(await OursAsync(database, seats[..clients], author, Seconds, Math.Max(rate * 3, 1000)));
                peers.Add(await OneRowAsync(clients));
            }
            Figure.Print($"sign-offs per second, {clients} {(clients == 1 ? "client" : "clients")}", Figure.Median(ours), Figure.Median(peers), "/s", Figure.Median(ours) / Figure.Median(peers), 0.5);
        }
        // The two bounds of any sign-off here: the same rows written by pgbench itself, in turn, and a request that does nothing but prove who asks.
        List<double> signed = [], sameRows = [], empty = [], oneRow = [];
        for (var run = 0; run < Figure.Runs; run++)
        {
            signed.Add(await OursAsync(database, seats, author, Seconds, Math.Max(rate * 3, 1000)));
            sameRows.Add(await SameRowsAsync(database, signers, author));
            empty.Add(await EmptyAsync(seats));
            oneRow.Add(await OneRowAsync(Clients));
        }
        Figure.Print($"sign-offs per second, {Clients} clients, against pgbench writing the same rows", Figure.Median(signed), Figure.Median(sameRows), "/s", Figure.Median(signed.Zip(sameRows, (a, b) => a / b).ToList()), 0.8);
        Figure.Print($"pgbench writing the rows of a sign-off, {Clients} clients, against its one row", Figure.Median(sameRows), Figure.Median(oneRow), "/s", Figure.Median(sameRows) / Figure.Median(oneRow), null);
        Figure.Print($"requests that do nothing, {Clients} clients, against pgbench's one row", Figure.Median(empty), Figure.Median(oneRow), "/s", Figure.Median(empty) / Figure.Median(oneRow), null);
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
    public sealed record Client(Guid Person, BenchServer.SignedIn At);

    public static async Task<double> OursAsync(Database database, List<Client> clients, Guid author, int seconds, double mostPerSecond)
    {
        var packages = new List<List<(Guid Package, Guid Draft, string Sha256)>>();
        foreach (var (signer, _) in clients) packages.Add(await MakePackagesAsync(database, signer, author, (int)(mostPerSecond * seconds / clients.Count)));
        var grants = new List<string?>();
        foreach (var (_, at) in clients)
            grants.Add((await (await at.Http.PostAsJsonAsync("/api/session/confirm", new { password = BenchServer.Password })).Content.ReadFromJsonAsync<JsonElement>()).GetProperty("grant").GetString());
        var done = 0;
        var watch = Stopwatch.StartNew();
        await Task.WhenAll(clients.Index().Select(client => OnItsOwnThread(() =>
        {
            var (mine, lean, grant, next) = (packages[client.Index], client.Item.At.Lean, grants[client.Index], 0);
            while (watch.Elapsed.TotalSeconds < seconds)
            {
                if (next >= mine.Count) throw new InvalidOperationException("The bench made too few packages.");
                var (package, draft, sha256) = mine[next++];
                var body = new { key = Guid.NewGuid(), grant, seat = "seat", remark = "Looked at, fine.", verdicts = new[] { new { draft, sha256, verdict = "approve", reason = "" } } };
                var status = lean.Post($"/api/packages/{package}/sign-offs", JsonSerializer.Serialize(body));
                if (status != 200) throw new InvalidOperationException($"A sign-off was answered with {status}.");
                Interlocked.Increment(ref done);
            }
        })));
        return done / watch.Elapsed.TotalSeconds;
    }

    private static async Task<double> EmptyAsync(List<Client> clients)
    {
        var done = 0;
        var watch = Stopwatch.StartNew();
        await Task.WhenAll(clients.Select(client => OnItsOwnThread(() =>
        {
            while (watch.Elapsed.TotalSeconds < Seconds)
            {
                client.At.Lean.Post("/api/nothing", JsonSerializer.Serialize(new { key = Guid.NewGuid(), seat = "seat" }));
                Interlocked.Increment(ref done);
            }
        })));
        return done / watch.Elapsed.TotalSeconds;
    }

    private static Task OnItsOwnThread(Action work) => Task.Factory.StartNew(work, CancellationToken.None, TaskCreationOptions.LongRunning, TaskScheduler.Default);

    /// <summary>Packages with one document whose first of two steps waits for the signer, written straight to the tables: how they came is not measured.</summary>
    public static async Task<List<(Guid Package, Guid Draft, string Sha256)>> MakePackagesAsync(Database database, Guid signer, Guid author, int count)
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
                w AS (INSERT INTO draft (id, document_id, revision_id, ordinal, sha256, file_name, uploaded_by, uploaded_at, report, reader, prepared, words_version) SELECT w, d, r, 1, h, 'x', $7, now(), '{}', 'made up', 2, 2 FROM i),
                k AS (INSERT INTO package (id, number, title, covering_note, originator, sent_at, round_at, round, standing, slip, item_count) SELECT k, k::text, 'Bench', '', $7, now(), now(), 1, 'in review', s::jsonb, 1 FROM i),
                p AS (INSERT INTO package_item SELECT k, 1, 1, d, r, w FROM i),
                o AS (INSERT INTO draft_opened SELECT $8, w, now() FROM i)
                INSERT INTO awaited SELECT $8, k, 'seat', 'step', now(), now() FROM i
                """,
                [rows.Select(r => r.Package).ToArray(), rows.Select(r => r.Document).ToArray(), rows.Select(r => r.Revision).ToArray(), rows.Select(r => r.Draft).ToArray(), rows.Select(r => r.Hash).ToArray(), rows.Select(r => r.Slip).ToArray(), author, signer]);
            made.AddRange(rows.Select(r => (r.Package, r.Draft, Convert.ToHexStringLower(r.Hash))));
        }
        return made;
    }

    private static async Task<double> OneRowAsync(int clients)
    {
        var script = Path.Combine(Figure.Env("FROE_BENCH"), "insert.sql");
        await File.WriteAllTextAsync(script, "INSERT INTO bench_row (body) VALUES (repeat('x', 300));\n");
        await OwnerAsync("CREATE TABLE IF NOT EXISTS bench_row (id bigserial PRIMARY KEY, body text)");
        return await PgbenchAsync(script, clients);
    }

    private static async Task<double> SameRowsAsync(Database database, Guid[] signers, Guid author)
    {
        foreach (var signer in signers) await MakePackagesAsync(database, signer, author, 4000 * Seconds / signers.Length);
        await OwnerAsync(
            """
            DROP TABLE IF EXISTS bench_package;
            DROP SEQUENCE IF EXISTS bench_package_next;
            CREATE TABLE bench_package AS SELECT row_number() OVER (ORDER BY random()) AS n, a.package_id AS package, a.person_id AS person, i.draft_id AS draft
            FROM awaited a JOIN package_item i USING (package_id) WHERE a.seat = 'seat';
            CREATE UNIQUE INDEX ON bench_package (n);
            CREATE SEQUENCE bench_package_next CACHE 100;
            ANALYZE bench_package
            """);
        return await PgbenchAsync(Path.Combine(Figure.Env("FROE_ROOT"), "bench", "Froe.Bench", "sign-off-rows.sql"), Clients);
    }

    private static Task<string> OwnerAsync(string sql) => Figure.RunAsync("psql", [.. Owner(out var name), "-d", name, "-qc", sql]);

    private static async Task<double> PgbenchAsync(string script, int clients)
    {
        var text = await Figure.RunAsync(Figure.Env("FROE_PGBENCH"), [.. Owner(out var name), "-n", "-f", script, "-c", $"{clients}", "-j", "2", "-T", $"{Seconds}", "-M", "prepared", name]);
        return double.Parse(TransactionsPerSecond().Match(text).Groups[1].Value, CultureInfo.InvariantCulture);
    }

    /// <summary>How PostgreSQL's own programs reach the bench's database as its owner.</summary>
    private static string[] Owner(out string database)
    {
        var parts = Figure.Env("FROE_OWNER").Split(';').Select(p => p.Split('=', 2)).ToDictionary(p => p[0], p => p[1]);
        Environment.SetEnvironmentVariable("PGPASSWORD", parts["Password"]);
        database = parts["Database"];
        return ["-h", parts["Host"], "-p", parts["Port"], "-U", parts["Username"]];
    }

    [GeneratedRegex(@"tps = ([0-9.]+)")]
    private static partial Regex TransactionsPerSecond();
}
