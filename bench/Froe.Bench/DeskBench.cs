using System.Diagnostics;
using System.Globalization;
using System.Text.Json;
using Froe.Core.Routing;
using Froe.Server.SignIn;
using Froe.Store;

namespace Froe.Bench;

/// <summary>
/// The desk's and the monitor's pages with 1,000 and with 1,000,000 packages in the database: two databases and two servers, asked
/// in turn. The reader's own desk is the same in both; what grows is everything else, as in a company over the years.
/// </summary>
internal static class DeskBench
{
    private const int Small = 1_000, Large = 1_000_000, Requests = 300, Colleagues = 400;

    private static readonly Guid Reader = Guid.CreateVersion7();

    private static readonly string[] Pages =
    [
        "/api/desk", "/api/packages", "/api/packages?standing=in%20review", "/api/packages/late", "/api/packages?standing=in%20review&sort=package", "/api/packages?search=lot%207%3B", "/api/packages?search=shaft%20turnbuckle", "/api/documents?search=shaft%20journal", "/api/documents?sort=-changed", "/api/documents?sort=originator", "/api/messages",
        "/api/notes?standing=unsettled", "/api/notes?standing=unsettled&sort=document", "/api/notes?sort=document", "/api/notes?standing=withdrawn", "/api/notes?search=radius%20spanner", "/api/notes?search=pk-93%20radius", "/api/notes?person=READER&sort=document",
        "/api/ledger", "/api/ledger?person=READER", "/api/ledger?search=pk-93", "/api/ledger?search=shaft%20turnbuckle", "/api/ledger?subject=document", "/api/ledger?subject=plan",
    ];

    public static async Task RunAsync()
    {
        var sides = new List<(BenchServer Server, HttpClient Reader, double[][] Times)>();
        foreach (var (name, port, packages) in new[] { ("FROE_DATABASE", 5395, Small), ("FROE_DATABASE_LARGE", 5396, Large) })
        {
            await using (var owner = new Database(Figure.Env(name.Replace("DATABASE", "OWNER", StringComparison.Ordinal)) + ";Command Timeout=1800"))
            {
                // Indexes are made anew after the filling, which is not what is measured.
                var indexes = await owner.ListAsync(
                    "SELECT indexname, indexdef FROM pg_indexes i WHERE schemaname = 'public' AND NOT EXISTS (SELECT 1 FROM pg_constraint c WHERE c.conname = i.indexname) AND indexdef NOT LIKE 'CREATE UNIQUE%'",
                    r => (Name: r.GetString(0), Definition: r.GetString(1)), []);
                foreach (var index in indexes) await owner.RunAsync($"DROP INDEX \"{index.Name}\"", []);
                await using (var database = new Database(Figure.Env(name) + ";Command Timeout=1800")) await FillAsync(database, packages);
                foreach (var index in indexes) await owner.RunAsync(index.Definition, []);
                await owner.RunAsync("VACUUM ANALYZE", []);
            }
            var server = BenchServer.Start(Figure.Env(name), port);
            sides.Add((server, (await server.SignInAsync("reader")).Http, [.. Pages.Select(_ => new double[Requests])]));
        }
        for (var run = -40; run < Requests; run++)
            foreach (var (_, reader, times) in sides)
                for (var page = 0; page < Pages.Length; page++)
                {
                    var watch = Stopwatch.GetTimestamp();
                    using var answer = await reader.GetAsync(new Uri(Pages[page].Replace("READER", Reader.ToString(), StringComparison.Ordinal), UriKind.Relative));
                    var text = await answer.EnsureSuccessStatusCode().Content.ReadAsStringAsync();
                    if (text.Length < 100) throw new InvalidOperationException($"{Pages[page]} gave nothing.");
                    if (run >= 0) times[page][run] = Stopwatch.GetElapsedTime(watch).TotalMilliseconds;
                }
        for (var page = 0; page < Pages.Length; page++)
        {
            var (small, large) = (P95(sides[0].Times[page]), P95(sides[1].Times[page]));
            Figure.Print($"{Pages[page]}, p95 with {Large:N0} packages against {Small:N0}", large, small, "ms", large / small, 1.5, atMost: true);
        }
        foreach (var (server, _, _) in sides) server.Dispose();
    }

    private static double P95(double[] times) => times.Order().ElementAt((int)(times.Length * 0.95));

    /// <summary>People, documents and packages, straight to the tables: a hundred of the newest thousand are running and a few old ones; the reader awaits 20 of them.</summary>
    private static async Task FillAsync(Database database, int packages)
    {
        var reader = Reader;
        var people = new People(database);
        await people.AddAsync(new Person(reader, "reader", "Reader", "R", "", "r@bench.example", "UTC", false), Passwords.Hash(BenchServer.Password), ["Staff", "Coordinators"]);
        await database.RunAsync(
            """
            WITH p AS (INSERT INTO person (id, login, name, initials, title, email, time_zone, password_hash, is_guest)
                       SELECT md5('p' || n)::uuid, 'p' || n, 'Person ' || n, 'P', '', 'p@bench.example', 'UTC', 'x', false FROM generate_series(0, $1 - 1) n RETURNING id)
            INSERT INTO group_member (group_id, person_id) SELECT g.id, p.id FROM person_group g, p WHERE g.name = 'Staff'
            """,
            [Colleagues]);
        var plan = new Plan("Bench", "", new Sequence([new Step("step", "Step", "Sign.", 2, [new Seat("seat", "Seat", new PersonHolder(reader))]), new Step("last", "Last", "Sign.", 1, [new Seat("last", "Last", new PersonHolder(reader))])]));
        var item = new SlipItem(Guid.Empty, Guid.Empty, new string('a', 64));
        var slip = JsonSerializer.Serialize(SlipRules.Replay(Slip.Blank, SlipRules.Decide(Slip.Blank, new Send(reader, plan, [item]), SlipContext.Empty).Events), Act.Json);
        await database.RunAsync(
            """
            WITH i AS (SELECT md5('d' || n)::uuid AS d, md5('r' || n)::uuid AS r, md5('w' || n)::uuid AS w, decode(md5('h' || n) || md5('i' || n), 'hex') AS h, n FROM generate_series(0, $1 / 10) n),
            c AS (INSERT INTO content SELECT h, 1, 'x' FROM i),
            d AS (INSERT INTO document SELECT d, 'B-' || n, 'Shaft ' || n || CASE WHEN n IN (7, 50, 93) THEN ' journal' ELSE '' END, 'drawing', 'bench', $2, now() FROM i),
            r AS (INSERT INTO revision SELECT r, d, 1, 'A', 'released' FROM i)
            INSERT INTO draft (id, document_id, revision_id, ordinal, sha256, file_name, uploaded_by, uploaded_at, report, reader, prepared, words_version) SELECT w, d, r, 1, h, 'x.dxf', $2, now(), '{}', 'made up', 2, 2 FROM i
            """,
            [packages, reader]);
        // The newest are the running ones; the reader's are the same twenty in both databases.
        for (var from = 0; from < packages; from += 100_000)
            await database.RunAsync(
                """
                WITH i AS (SELECT md5('k' || n)::uuid AS k, n, (n < 1000 AND n % 10 = 0) OR n % 500 = 0 AS runs, now() - make_interval(mins => n * 10) AS at, md5('p' || n % $4)::uuid AS who, n / 10 AS d FROM generate_series($1::int, least($2::int, $1::int + 99999)) n),
                k AS (INSERT INTO package (id, number, title, covering_note, originator, sent_at, round_at, round, standing, slip, item_count, ended_at)
                      SELECT k, 'PK-' || n, 'Counterweight shaft ' || n || ', lot ' || n % 20 || CASE WHEN n IN (77, 505, 903) THEN ' turnbuckle' ELSE ';' END, 'A note of usual length about what it is for.', who, at, at, 1, CASE WHEN runs THEN 'in review' ELSE 'released' END, $3::jsonb, 1, CASE WHEN runs THEN NULL ELSE at END FROM i),
                s AS (INSERT INTO package_seat (package_id, person_id) SELECT k, who FROM i),
                g AS (INSERT INTO sign_off (id, package_id, round, seat, person_id, at, statement, remark) SELECT md5('s' || n)::uuid, k, 1, 'seat', who, at, 'x', 'Fine.' FROM i WHERE NOT runs),
                a AS (INSERT INTO awaited (person_id, package_id, seat, step, since, due) SELECT CASE WHEN n < 1000 AND n % 50 = 0 THEN $5 ELSE who END, k, 'seat', 'step', at, at + interval '2 days' FROM i WHERE runs),
                m AS (INSERT INTO message (id, person_id, at, subject, body, link) SELECT md5('m' || n)::uuid, CASE WHEN n < 300 THEN $5 ELSE who END, at, 'PK waits for your signature', 'Step.', '/packages/' || k FROM i),
                o AS (INSERT INTO note (id, package_id, number, document_id, draft_id, round, kind, standing, author, at, body, asked_of, subject)
                      SELECT md5('o' || n)::uuid, k, 1, md5('d' || d)::uuid, md5('w' || d)::uuid, 1, 'request', CASE WHEN runs THEN 'open' WHEN n < 1000 AND n % 100 = 55 THEN 'withdrawn' ELSE 'closed' END,
                             CASE WHEN n < 300 THEN $5 ELSE who END, at, 'Radius ' || n % 50 || ' at the shoulder to 2.5' || CASE WHEN n IN (77, 505, 903) THEN ', for the spanner' ELSE '' END, who, 'B-' || d || ' Shaft ' || d FROM i),
                e AS (INSERT INTO ledger_entry (chain, sequence, at, person_id, action, reason, payload, before, hash)
                      SELECT k, 1, at, CASE WHEN n < 300 THEN $5 ELSE who END, 'package sent', 'First issue.', '{"event": "sent"}', ''::bytea, ''::bytea FROM i
                      UNION ALL SELECT md5('d' || d)::uuid, 1, at, who, 'document registered', '', '{}', ''::bytea, ''::bytea FROM i WHERE n % 10 = 0
                      UNION ALL SELECT md5('l' || n)::uuid, 1, at, who, 'plan published', '', '{"name": "Parts"}', ''::bytea, ''::bytea FROM i WHERE n < 1000 AND n % 20 = 0)
                INSERT INTO package_item (package_id, round, position, document_id, revision_id, draft_id) SELECT k, 1, 1, md5('d' || d)::uuid, md5('r' || d)::uuid, md5('w' || d)::uuid FROM i
                """,
                [from, packages - 1, slip, Colleagues, reader]);
        Console.Error.WriteLine(string.Create(CultureInfo.InvariantCulture, $"{packages:N0} packages are there"));
    }
}
