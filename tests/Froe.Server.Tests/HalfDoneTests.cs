using System.Net.Http.Json;
using System.Text.Json;
using Froe.Server.Register;
using Froe.Store;
using Microsoft.Extensions.DependencyInjection;
using Npgsql;
using Xunit;

namespace Froe.Server.Tests;

/// <summary>
/// Whichever of its writes fails, an act does nothing; and asked again, it is done once. In a database of its own, where every table can
/// be told to refuse what is written to it.
/// </summary>
public sealed class HalfDoneTests : IAsyncLifetime
{
    /// <summary>What others write meanwhile, or what is no part of an act: who is signed in, what waits for the mail worker.</summary>
    private static readonly string[] Besides = ["session", "guess", "security_event", "outbox", "froe_refusing", "froe_written", "schemaversions"];

    private readonly string name = "froe_half_" + Guid.NewGuid().ToString("n")[..10];
    private readonly Database all = new(Environment.GetEnvironmentVariable("FROE_SUPER") ?? throw new InvalidOperationException("Run the tests with ./froe test."));
    private Office office = null!;
    private List<string> tables = [];

    public async ValueTask InitializeAsync()
    {
        await all.RunAsync($"CREATE DATABASE {name} OWNER froe_owner", []);
        string In(string variable) => new NpgsqlConnectionStringBuilder(Environment.GetEnvironmentVariable(variable)!) { Database = name }.ConnectionString;
        office = new Office(In("FROE_OWNER"), In("FROE_DATABASE"));
        await office.InitializeAsync();
        tables = await office.OwnerDb.ListAsync("SELECT tablename FROM pg_tables WHERE schemaname = 'public' AND tablename <> ALL ($1) ORDER BY 1", r => r.GetString(0), [Besides]);
        await office.OwnerDb.RunAsync("CREATE TABLE froe_refusing (name text NOT NULL); CREATE TABLE froe_written (name text PRIMARY KEY); GRANT SELECT, INSERT ON froe_refusing, froe_written TO froe_app", []);
        await office.OwnerDb.RunAsync(
            """
            CREATE FUNCTION refuse() RETURNS trigger LANGUAGE plpgsql AS $$
            BEGIN
                IF EXISTS (SELECT 1 FROM froe_refusing WHERE name = TG_TABLE_NAME) THEN RAISE EXCEPTION 'this table refuses'; END IF;
                INSERT INTO froe_written VALUES (TG_TABLE_NAME) ON CONFLICT DO NOTHING;
                RETURN NULL;
            END $$
            """, []);
        // By rows: a worker that looks for something to do, and finds nothing, has written nothing.
        foreach (var table in tables) await office.OwnerDb.RunAsync($"CREATE TRIGGER refuses AFTER INSERT OR UPDATE OR DELETE ON {table} FOR EACH ROW EXECUTE FUNCTION refuse()", []);
    }

    public async ValueTask DisposeAsync()
    {
        await office.DisposeAsync();
        NpgsqlConnection.ClearAllPools();
        await all.RunAsync($"DROP DATABASE {name} WITH (FORCE)", []);
        await all.DisposeAsync();
    }

    /// <summary>Everything the database says, table by table.</summary>
    private async Task<string[]> StateAsync()
    {
        var state = new List<string>();
        foreach (var table in tables) state.AddRange(await office.OwnerDb.ListAsync($"SELECT '{table} ' || coalesce(md5(string_agg(t::text, '|' ORDER BY t::text)), '') FROM {table} t", r => r.GetString(0), []));
        return [.. state];
    }

    /// <summary>Somebody's act: what is posted where; the same each time it is asked.</summary>
    private sealed record Asked(Browser By, string Path, object Body, HttpMethod? Method = null)
    {
        public async Task<int> DoAsync() => (int)(await By.SendAsync(Path, JsonContent.Create(Body), Method)).StatusCode;
    }

    private Dictionary<string, Func<Task<Asked>>> Acts() => new()
    {
        ["a package is sent"] = async () =>
        {
            var author = await office.AsAsync("author");
            var document = await Office.RegisterAsync(author, "half " + Guid.NewGuid());
            return new Asked(author, "/api/packages", new { key = Guid.NewGuid(), title = "Half", coveringNote = "", plan = office.Plan, documents = new[] { document }, inform = new[] { office.Ids["bystander"] } });
        },
        ["a package is signed, and a step passes"] = async () =>
        {
            var package = await SentAsync();
            var checker = await office.AsAsync("checker");
            return new Asked(checker, $"/api/packages/{package}/sign-offs", await checker.SignOffAsync(package, "check"));
        },
        ["a package is returned"] = async () =>
        {
            var package = await SentAsync();
            var checker = await office.AsAsync("checker");
            await checker.NoteAsync(package, "request", "Longer.");
            return new Asked(checker, $"/api/packages/{package}/sign-offs", await checker.SignOffAsync(package, "check", "returnForChanges"));
        },
        ["a package is released"] = async () =>
        {
            var package = await SentAsync();
            var (checker, lead, q1, q2) = (await office.AsAsync("checker"), await office.AsAsync("lead"), await office.AsAsync("q1"), await office.AsAsync("q2"));
            await checker.SignAsync(package, "check");
            await lead.SignAsync(package, "lead");
            await q1.SignAsync(package, "quality");
            return new Asked(q2, $"/api/packages/{package}/sign-offs", await q2.SignOffAsync(package, "quality"));
        },
        ["a request is written"] = async () =>
        {
            var package = await SentAsync();
            var checker = await office.AsAsync("checker");
            var draft = (await checker.GetAsync<JsonElement>($"/api/packages/{package}")).GetProperty("items")[0].GetProperty("draft").GetGuid();
            return new Asked(checker, $"/api/packages/{package}/notes", new { draft, kind = "request", body = "Longer.", marks = new[] { Drawn.Cloud() }, key = Guid.NewGuid() });
        },
        ["a question is answered"] = async () =>
        {
            var package = await SentAsync();
            var question = await (await office.AsAsync("checker")).NoteAsync(package, "question", "Why?");
            return new Asked(await office.AsAsync("author"), $"/api/notes/{question}/acts", new { act = "answer", body = "So.", key = Guid.NewGuid() });
        },
        ["advice is asked"] = async () => new Asked(await office.AsAsync("checker"), $"/api/packages/{await SentAsync()}/advice", new { of = office.Ids["bystander"], question = "Is it?", key = Guid.NewGuid() }),
        ["a seat is handed over"] = async () => new Asked(await office.AsAsync("checker"), $"/api/packages/{await SentAsync()}/acts", new { kind = "handOver", reason = "Away.", seat = "check", to = office.Ids["bystander"], key = Guid.NewGuid() }),
        ["a package is recalled"] = async () => new Asked(await office.AsAsync("author"), $"/api/packages/{await SentAsync()}/acts", new { kind = "recall", reason = "Wrong file.", key = Guid.NewGuid() }),
        ["a document is registered"] = async () =>
        {
            var author = await office.AsAsync("author");
            var upload = await author.UploadAsync("half.dxf", Office.Drawing("half " + Guid.NewGuid()));
            return new Asked(author, "/api/documents", new { number = "H-" + Guid.NewGuid(), title = "Half", kind = "drawing", discipline = "test", upload, reason = "" });
        },
        ["somebody is barred"] = async () =>
        {
            var admin = await office.AsAsync("coordinator");
            var made = await admin.PostAsync<JsonElement>("/api/people", new { login = "h" + Guid.NewGuid().ToString("n")[..10], name = "Half", initials = "H", title = "", email = "h@office.example", timeZone = "UTC", isGuest = false, password = "a long enough password" });
            return new Asked(admin, $"/api/people/{made.GetProperty("id").GetGuid()}/barring", new { reason = "Gone." }, HttpMethod.Put);
        },
    };

    private async Task<Guid> SentAsync()
    {
        var author = await office.AsAsync("author");
        return await office.SendAsync(author, await Office.RegisterAsync(author, "half " + Guid.NewGuid()));
    }

    /// <summary>What is gathered from drafts a moment after they are registered is no part of the act, but would change the state beside it.</summary>
    private async Task GatherAsync()
    {
        var words = office.Services.GetRequiredService<WordIndex>();
        while ((await office.Db.ListAsync("SELECT 1 FROM draft WHERE words_version < prepared LIMIT 1", r => 0, [])).Count > 0) await words.RunAsync(TestContext.Current.CancellationToken);
    }

    [Fact]
    public async Task WhicheverWriteFailsNothingIsHalfDoneAndAskedAgainItIsDone()
    {
        foreach (var (words, make) in Acts())
        {
            // Which tables an act writes to is learnt from doing it.
            var first = await make();
            await GatherAsync();
            await office.OwnerDb.RunAsync("TRUNCATE froe_written", []);
            Assert.InRange(await first.DoAsync(), 200, 299);
            var written = await office.OwnerDb.ListAsync("SELECT name FROM froe_written WHERE name <> 'leaf_text' ORDER BY 1", r => r.GetString(0), []);
            Assert.True(written.Count >= 2, $"{words}: only {string.Join(", ", written)}");
            var asked = await make();
            await GatherAsync();
            var before = await StateAsync();
            foreach (var table in written)
            {
                await office.OwnerDb.RunAsync("INSERT INTO froe_refusing VALUES ($1)", [table]);
                Assert.Equal((words, table, 500), (words, table, await asked.DoAsync()));
                await office.OwnerDb.RunAsync("TRUNCATE froe_refusing", []);
                Assert.Equal(before, await StateAsync());
            }
            Assert.InRange(await asked.DoAsync(), 200, 299);
            Assert.NotEqual(before, await StateAsync());
        }
        Assert.Empty((await new Froe.Store.Proof.LedgerProof(office.Db).RunAsync(new Froe.Store.Proof.ProofWanted())).Findings);
    }
}
