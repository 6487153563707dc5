using System.Net;
using System.Net.Http.Json;
using System.Text;
using System.Text.Json;
using Froe.Server.Register;
using Froe.Store;
using Microsoft.AspNetCore.Mvc.Testing;
using Npgsql;
using Xunit;

namespace Froe.Server.Tests;

/// <summary>The edge towards the network: bounds on what comes in, words when something is away, files over slow lines.</summary>
public class EdgeTests(Office office)
{
    /// <summary>The law of bounds: every text that a request can bring has a length in the server's description, and a longer one is refused with its place.</summary>
    [Fact]
    public async Task EveryTextARequestBringsHasABound()
    {
        using var http = office.CreateClient();
        var api = await http.GetFromJsonAsync<JsonElement>("/openapi/v1.json");
        var unbounded = new List<string>();
        var seen = new HashSet<string>();
        void Look(JsonElement schema, string where)
        {
            if (schema.TryGetProperty("$ref", out var reference))
            {
                var name = reference.GetString()!.Split('/')[^1];
                if (seen.Add(name)) Look(api.GetProperty("components").GetProperty("schemas").GetProperty(name), name);
                return;
            }
            var isText = schema.TryGetProperty("type", out var type) && (type.ValueKind == JsonValueKind.String ? type.GetString() == "string" : type.EnumerateArray().Any(t => t.GetString() == "string"));
            if (isText && !schema.TryGetProperty("format", out _) && !schema.TryGetProperty("enum", out _) && !schema.TryGetProperty("const", out _) && !schema.TryGetProperty("maxLength", out _)) unbounded.Add(where);
            foreach (var several in new[] { "anyOf", "oneOf", "allOf" })
                if (schema.TryGetProperty(several, out var kinds)) foreach (var kind in kinds.EnumerateArray()) Look(kind, where);
            if (schema.TryGetProperty("properties", out var properties)) foreach (var property in properties.EnumerateObject()) Look(property.Value, $"{where}.{property.Name}");
            if (schema.TryGetProperty("items", out var items)) Look(items, where + "[]");
            if (schema.TryGetProperty("additionalProperties", out var more) && more.ValueKind == JsonValueKind.Object) Look(more, where + "{}");
        }

        foreach (var path in api.GetProperty("paths").EnumerateObject())
            foreach (var operation in path.Value.EnumerateObject())
            {
                if (operation.Value.TryGetProperty("requestBody", out var body) && body.GetProperty("content").TryGetProperty("application/json", out var json)) Look(json.GetProperty("schema"), path.Name);
                if (operation.Value.TryGetProperty("parameters", out var parameters))
                    foreach (var parameter in parameters.EnumerateArray().Where(p => p.GetProperty("in").GetString() == "query")) Look(parameter.GetProperty("schema"), $"{path.Name}?{parameter.GetProperty("name").GetString()}");
            }
        Assert.True(seen.Count > 40);
        Assert.Empty(unbounded);
    }

    [Fact]
    public async Task ALongTextIsRefusedWithItsPlace()
    {
        var (author, checker) = (await office.AsAsync("author"), await office.AsAsync("checker"));
        var package = await office.SendAsync(author, await Office.RegisterAsync(author, "bounded"));
        var item = (await checker.GetAsync<JsonElement>($"/api/packages/{package}")).GetProperty("items")[0];
        var answer = await checker.SendAsync($"/api/packages/{package}/sign-offs", JsonContent.Create(new
        {
            key = Guid.NewGuid(),
            grant = "x",
            seat = "check",
            remark = "",
            verdicts = new[] { new { draft = item.GetProperty("draft").GetGuid(), sha256 = item.GetProperty("sha256").GetString(), verdict = "approveAsNoted", reason = new string('x', 700_000) } },
        }));
        Assert.Equal(HttpStatusCode.UnprocessableEntity, answer.StatusCode);
        var problem = await answer.Content.ReadFromJsonAsync<JsonElement>();
        Assert.Equal("too-long", problem.GetProperty("code").GetString());
        Assert.Equal("“reason” may have 4,000 characters and has 700,000. Shorten it and try again.", problem.GetProperty("title").GetString());
        Assert.Equal((422, "too-long"), await author.RefusedAsync("/api/prepared", new { id = Guid.NewGuid(), title = "t", coveringNote = "", documents = Array.Empty<Guid>(), answers = new Dictionary<string, string> { ["field"] = new('x', 4001) } }, HttpMethod.Put));
        Assert.Equal(HttpStatusCode.UnprocessableEntity, await author.StatusAsync("/api/documents?search=" + new string('x', 2001)));
    }

    [Theory]
    [InlineData("""{ "planId": null, "documents": [], "plan": { "name": "x", "purpose": "", "root": { "blocks": [ { "key": "s" } ] } } }""")]
    [InlineData("""{ "planId": null, "documents": [], "plan": { "name": "x", "purpose": "", "root": { "blocks": [ { "block": "circle" } ] } } }""")]
    public async Task AKindThatIsNotNamedOrNotKnownIsTheRequestsFault(string body)
    {
        using var json = new StringContent(body, Encoding.UTF8, "application/json");
        Assert.Equal(HttpStatusCode.BadRequest, (await (await office.AsAsync("author")).SendAsync("/api/plans/preview", json)).StatusCode);
    }

    [Fact]
    public async Task ADatabaseThatIsAwayIsSaidInWords()
    {
        await using var away = office.WithWebHostBuilder(b => b.UseSetting("Froe:Database", "Host=127.0.0.1;Port=1;Database=x;Username=x;Password=x;Timeout=2"));
        using var http = away.CreateClient();
        foreach (var path in new[] { "/api/session", "/api/desk" })
        {
            http.DefaultRequestHeaders.Remove("Cookie");
            var answer = await http.GetAsync(new Uri(path, UriKind.Relative));
            if (path == "/api/desk" && answer.StatusCode == HttpStatusCode.Unauthorized) continue;
            Assert.Equal(HttpStatusCode.ServiceUnavailable, answer.StatusCode);
            Assert.Equal("5", Assert.Single(answer.Headers.GetValues("Retry-After")));
            Assert.Equal("database-away", (await answer.Content.ReadFromJsonAsync<JsonElement>()).GetProperty("code").GetString());
            Assert.StartsWith("default-src 'none'", Assert.Single(answer.Headers.GetValues("Content-Security-Policy")), StringComparison.Ordinal);
            Assert.True(answer.Headers.CacheControl?.NoStore);
        }
        Assert.Equal(HttpStatusCode.OK, (await http.GetAsync(new Uri("/health/live", UriKind.Relative))).StatusCode);
        var ready = await http.GetAsync(new Uri("/health/ready", UriKind.Relative));
        Assert.Equal((HttpStatusCode.ServiceUnavailable, "The database does not answer."), (ready.StatusCode, await ready.Content.ReadAsStringAsync()));
    }

    [Fact]
    public async Task AnEmptyDatabaseIsNotReadyAndOneOfThisShapeIs()
    {
        using var here = office.CreateClient();
        Assert.Equal(HttpStatusCode.OK, (await here.GetAsync(new Uri("/health/ready", UriKind.Relative))).StatusCode);
        var super = Environment.GetEnvironmentVariable("FROE_SUPER") ?? throw new InvalidOperationException("Run the tests with ./froe test.");
        await using var all = new Database(super);
        var name = "froe_empty_" + Guid.NewGuid().ToString("n")[..10];
        await all.RunAsync($"CREATE DATABASE {name} OWNER froe_owner", []);
        try
        {
            await using var empty = office.WithWebHostBuilder(b => b.UseSetting("Froe:Database", new NpgsqlConnectionStringBuilder(Environment.GetEnvironmentVariable("FROE_DATABASE")) { Database = name, Pooling = false }.ConnectionString));
            using var http = empty.CreateClient();
            var ready = await http.GetAsync(new Uri("/health/ready", UriKind.Relative));
            Assert.Equal(HttpStatusCode.ServiceUnavailable, ready.StatusCode);
            Assert.Contains("./froe migrate", await ready.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        }
        finally
        {
            NpgsqlConnection.ClearAllPools();
            await all.RunAsync($"DROP DATABASE {name} WITH (FORCE)", []);
        }
    }

    [Fact]
    public async Task WhoIsSignedInIsServedThePageThoughTheDatabaseHasGoneAway()
    {
        var web = Directory.CreateTempSubdirectory("froe-web").FullName;
        await File.WriteAllTextAsync(Path.Combine(web, "index.html"), "<!doctype html>");
        var super = Environment.GetEnvironmentVariable("FROE_SUPER") ?? throw new InvalidOperationException("Run the tests with ./froe test.");
        var mine = new NpgsqlConnectionStringBuilder(Environment.GetEnvironmentVariable("FROE_DATABASE"));
        var name = "froe_leaving_" + Guid.NewGuid().ToString("n")[..10];
        await using var all = new Database(new NpgsqlConnectionStringBuilder(super) { Database = mine.Database }.ConnectionString);
        await all.RunAsync($"CREATE ROLE {name} LOGIN PASSWORD 'leaving' IN ROLE {mine.Username}", []);
        try
        {
            var leaving = new NpgsqlConnectionStringBuilder(mine.ConnectionString) { Username = name, Password = "leaving" }.ConnectionString;
            await using var server = office.WithWebHostBuilder(b => b.UseSetting("Froe:Web", web).UseSetting("Froe:Database", leaving));
            using var http = server.CreateClient();
            async Task<string> TokenAsync() => (await http.GetFromJsonAsync<JsonElement>("/api/session")).GetProperty("formToken").GetString()!;
            http.DefaultRequestHeaders.Add("X-Froe-Form", await TokenAsync());
            Assert.True((await http.PostAsJsonAsync("/api/session", new { login = "author", password = Office.Password })).IsSuccessStatusCode);
            Assert.True((await http.GetAsync(new Uri("/api/desk", UriKind.Relative))).IsSuccessStatusCode);
            await all.RunAsync($"ALTER ROLE {name} NOLOGIN", []);
            await all.RunAsync("SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE usename = $1", [name]);
            // For a moment the server still knows who this is.
            await Task.Delay(TimeSpan.FromSeconds(1.5));
            using var desk = await http.GetAsync(new Uri("/api/desk", UriKind.Relative));
            Assert.Equal((HttpStatusCode.ServiceUnavailable, "database-away"), (desk.StatusCode, (await desk.Content.ReadFromJsonAsync<JsonElement>()).GetProperty("code").GetString()));
            foreach (var place in new[] { "/", "/register", $"/packages/{Guid.CreateVersion7()}" })
                Assert.Equal("<!doctype html>", await http.GetStringAsync(new Uri(place, UriKind.Relative)));
        }
        finally
        {
            await all.RunAsync($"DROP ROLE {name}", []);
        }
    }

    [Fact]
    public async Task WhatTheDatabaseCannotDoIsSaidInWords()
    {
        await using var super = new Database(new NpgsqlConnectionStringBuilder(Environment.GetEnvironmentVariable("FROE_SUPER")!) { Database = new NpgsqlConnectionStringBuilder(Environment.GetEnvironmentVariable("FROE_DATABASE")).Database }.ConnectionString);
        var name = "full_" + Guid.NewGuid().ToString("n")[..10];
        // The error that a view's name ends in, for views of this test alone.
        await super.RunAsync($"CREATE FUNCTION {name}() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN IF NEW.name LIKE '{name} %' THEN RAISE EXCEPTION 'made up' USING ERRCODE = right(NEW.name, 5); END IF; RETURN NEW; END $$", []);
        await super.RunAsync($"CREATE TRIGGER {name} BEFORE INSERT ON saved_view FOR EACH ROW EXECUTE FUNCTION {name}()", []);
        try
        {
            var me = await office.AsAsync("author");
            foreach (var (state, code, words) in new[] { ("53100", "no-room", "no room left"), ("25006", "database-away", "try again"), ("57P03", "database-away", "try again"), ("53300", "database-away", "try again") })
            {
                using var answer = await me.SendAsync("/api/views/register", JsonContent.Create(new { name = $"{name} {state}", query = "" }), HttpMethod.Put);
                var said = await answer.Content.ReadFromJsonAsync<JsonElement>();
                Assert.Equal((HttpStatusCode.ServiceUnavailable, code), (answer.StatusCode, said.GetProperty("code").GetString()));
                Assert.Contains(words, said.GetProperty("title").GetString(), StringComparison.Ordinal);
                Assert.NotNull(answer.Headers.RetryAfter);
            }
        }
        finally
        {
            await super.RunAsync($"DROP TRIGGER {name} ON saved_view", []);
            await super.RunAsync($"DROP FUNCTION {name}()", []);
        }
    }

    /// <summary>Bytes that come so slowly that each upload lasts as long as the test.</summary>
    private sealed class Drops(byte[] file, TaskCompletionSource end) : Stream
    {
        private int at;

        public override async ValueTask<int> ReadAsync(Memory<byte> buffer, CancellationToken cancellationToken = default)
        {
            if (at == file.Length / 2) await end.Task.WaitAsync(cancellationToken);
            if (at == file.Length) return 0;
            buffer.Span[0] = file[at++];
            return 1;
        }

        public override bool CanRead => true;

        public override bool CanSeek => false;

        public override bool CanWrite => false;

        public override long Length => throw new NotSupportedException();

        public override long Position { get => at; set => throw new NotSupportedException(); }

        public override void Flush()
        {
        }

        public override int Read(byte[] buffer, int offset, int count) => throw new NotSupportedException();

        public override long Seek(long offset, SeekOrigin origin) => throw new NotSupportedException();

        public override void SetLength(long value) => throw new NotSupportedException();

        public override void Write(byte[] buffer, int offset, int count) => throw new NotSupportedException();
    }

    [Fact]
    public async Task SlowLinesHoldNoConnectionAndTooManyOfOnePersonAreAskedToWait()
    {
        await using var narrow = office.WithWebHostBuilder(b => b
            .UseSetting("Froe:Database", new NpgsqlConnectionStringBuilder(Environment.GetEnvironmentVariable("FROE_DATABASE")) { MaxPoolSize = 3, Timeout = 5 }.ConnectionString).UseSetting("Froe:TransfersEach", "6"));
        // What follows redirections keeps a copy of what is sent, and would have all of it first.
        var author = new Browser(narrow.CreateClient(new WebApplicationFactoryClientOptions { BaseAddress = new Uri("http://localhost"), AllowAutoRedirect = false }));
        await author.RefreshAsync();
        await author.PostAsync<JsonElement>("/api/session", new { login = "author", password = Office.Password });
        await author.RefreshAsync();
        var end = new TaskCompletionSource();
        var slow = Enumerable.Range(0, 6).Select(i => author.SendAsync($"/api/uploads?name=slow{i}.dxf", new StreamContent(new Drops(Office.Drawing($"slow {i}"), end)))).ToList();
        await Task.Delay(500);
        Assert.DoesNotContain(slow, s => s.IsCompleted);
        // Six creep along; the office goes on, with three connections for all of it.
        for (var i = 0; i < 5; i++) Assert.Equal(HttpStatusCode.OK, await author.StatusAsync("/api/desk"));
        using var seventh = new ByteArrayContent(Office.Drawing("seventh"));
        var refused = await author.SendAsync("/api/uploads?name=seventh.dxf", seventh);
        Assert.True(refused.StatusCode == (HttpStatusCode)429, await refused.Content.ReadAsStringAsync());
        Assert.Equal("3", Assert.Single(refused.Headers.GetValues("Retry-After")));
        end.SetResult();
        Assert.All(await Task.WhenAll(slow), a => Assert.Equal(HttpStatusCode.OK, a.StatusCode));
        await author.UploadAsync("eighth.dxf", Office.Drawing("eighth"));
    }

    [Fact]
    public async Task AFileIsSentCompressedWhereThatIsTakenAndSaysHowLongItIs()
    {
        var author = await office.AsAsync("author");
        var upload = await author.UploadAsync("long.dxf", Office.Drawing(string.Join(' ', Enumerable.Repeat("long words", 400))));
        var document = (await author.PostAsync<JsonElement>("/api/documents", new { number = "T-" + Guid.NewGuid(), title = "long", kind = "drawing", discipline = "test", upload, reason = "" })).GetProperty("document").GetGuid();
        var draft = (await office.Db.ListAsync("SELECT id FROM draft WHERE document_id = $1", r => r.GetGuid(0), [document]))[0];
        var plain = await author.SendAsync($"/api/drafts/{draft}/file", null, HttpMethod.Get);
        var bytes = await plain.Content.ReadAsByteArrayAsync();
        Assert.Equal(bytes.Length.ToString(System.Globalization.CultureInfo.InvariantCulture), Assert.Single(plain.Headers.GetValues("X-Froe-Size")));
        Assert.Empty(plain.Content.Headers.ContentEncoding);
        Assert.Equal(bytes.Length, plain.Content.Headers.ContentLength);
        Assert.Equal((await office.Db.ListAsync("SELECT sha256 FROM draft WHERE id = $1", r => r.GetFieldValue<byte[]>(0), [draft]))[0], System.Security.Cryptography.SHA256.HashData(bytes));
        Assert.Equal("br", (await office.Db.ListAsync("SELECT encoding FROM content c JOIN draft d USING (sha256) WHERE d.id = $1", r => r.GetString(0), [draft]))[0]);
    }

    [Theory]
    [InlineData(3, "Line 8: there is no number.", "Line 8: there is no number.")]
    [InlineData(134, "Unhandled exception. System.OutOfMemoryException", "The file needs more memory")]
    [InlineData(134, "Unhandled exception. System.NullReferenceException", "The reader broke down over this file.")]
    [InlineData(139, "", "The reader broke down over this file.")]
    public void HowAReaderEndedIsSaidAsItWas(int exitCode, string line, string words) => Assert.StartsWith(words, ReaderProcess.Words(exitCode, line), StringComparison.Ordinal);
}

/// <summary>The order in which files are read.</summary>
[Collection(Alone.Name)]
public class QueueTests(Office office)
{
    private static readonly TimeSpan Silent = TimeSpan.FromMinutes(5);

    [Fact]
    public async Task EverybodysFirstFileComesBeforeAnybodysSecondAndTheSmallerSooner()
    {
        // In a table of their own: the office's reader takes whatever waits in its own.
        const string Shadow = "queue_of_its_own";
        await office.OwnerDb.RunAsync($"CREATE SCHEMA {Shadow}", []);
        await office.OwnerDb.RunAsync($"CREATE TABLE {Shadow}.upload (LIKE public.upload INCLUDING DEFAULTS)", []);
        try
        {
            await using var queue = office.OwnerDbIn(Shadow);
            var uploads = new Uploads(queue);
            var made = new Dictionary<Guid, string>();
            async Task AddAsync(string name, string person, int second, long megabytes)
            {
                var id = Guid.NewGuid();
                made[id] = name;
                await queue.RunAsync("INSERT INTO upload (id, person_id, size, file_name, at, state) VALUES ($1, $2, $3, $4, timestamptz '2026-01-01' + make_interval(secs => $5), 'waiting')", [id, office.Ids[person], megabytes * 1_000_000, name, second]);
            }

            for (var i = 0; i < 4; i++) await AddAsync($"many {i}", "author", i, 1);
            await AddAsync("large", "lead", 0, 300);
            await AddAsync("small", "lead", 30, 1);
            await AddAsync("single", "q1", 60, 1);
            var places = new Dictionary<string, int>();
            foreach (var (id, name) in made) places[name] = await uploads.PlaceAsync(id, Silent);
            // Of two minutes at most is a large file put back.
            string[] order = ["many 0", "small", "single", "many 1", "large", "many 2", "many 3"];
            Assert.Equal(order, places.OrderBy(p => p.Value).Select(p => p.Key));
            var claimed = new List<string>();
            while (await uploads.ClaimAsync(Silent) is { } next) claimed.Add(next.FileName);
            Assert.Equal(order, claimed);
        }
        finally
        {
            await office.OwnerDb.RunAsync($"DROP SCHEMA {Shadow} CASCADE", []);
        }
    }

    [Fact]
    public async Task AFileThatEndsItsReadersIsGivenUp()
    {
        var id = Guid.NewGuid();
        await office.OwnerDb.RunAsync("INSERT INTO upload (id, person_id, sha256, size, file_name, at, state, claimed_at, attempts) VALUES ($1, $2, NULL, 1, 'deadly.dxf', now() - interval '1 day', 'reading', now() - interval '1 hour', 3)", [id, office.Ids["author"]]);
        for (var i = 0; i < 1200; i++)
        {
            await new Uploads(office.Db).ClaimAsync(Silent);
            if ((await office.Db.ListAsync("SELECT state FROM upload WHERE id = $1", r => r.GetString(0), [id]))[0] == "refused") return;
            await Task.Delay(50);
        }
        Assert.Fail("It is tried for ever.");
    }
}
