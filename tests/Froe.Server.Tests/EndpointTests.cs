using System.Net;
using System.Net.Http.Json;
using System.Text;
using System.Text.Json;
using System.Text.Json.Nodes;
using System.Text.RegularExpressions;
using Froe.Core.Routing;
using Froe.Store;
using Microsoft.AspNetCore.Hosting;
using Microsoft.Extensions.DependencyInjection;
using Xunit;

namespace Froe.Server.Tests;

/// <summary>Laws that hold for every endpoint there is, taken from the server's own description of itself.</summary>
public partial class EndpointTests(Office office)
{
    /// <param name="Body">The schema of what is sent; null when nothing is.</param>
    private sealed record Endpoint(HttpMethod Method, string Path, JsonElement? Body)
    {
        /// <summary>The path with ids filled in.</summary>
        public string With(Guid id) => Placeholder().Replace(Path, m => m.Groups[1].Value is "sheet" or "position" ? "0" : m.Groups[1].Value.Contains("sha", StringComparison.OrdinalIgnoreCase) ? new string('0', 64) : id.ToString());

        public override string ToString() => $"{Method} {Path}";
    }

    private JsonElement schemas;

    private async Task<List<Endpoint>> AllAsync()
    {
        using var http = office.CreateClient();
        var api = await http.GetFromJsonAsync<JsonElement>("/openapi/v1.json");
        schemas = api.GetProperty("components").GetProperty("schemas");
        var paths = api.GetProperty("paths");
        return [.. paths.EnumerateObject().SelectMany(p => p.Value.EnumerateObject().Select(m => new Endpoint(
            HttpMethod.Parse(m.Name.ToUpperInvariant()), p.Name,
            m.Value.TryGetProperty("requestBody", out var body) && body.GetProperty("content").TryGetProperty("application/json", out var json) ? json.GetProperty("schema") : null)))];
    }

    [Fact]
    public async Task NothingIsToldOrDoneWithoutASession()
    {
        var nobody = new Browser(office.CreateClient());
        await nobody.RefreshAsync();
        var endpoints = await AllAsync();
        Assert.True(endpoints.Count > 60);
        foreach (var endpoint in endpoints.Where(e => e.Path is not ("/api/session" or "/api/session/invitation") || e.Method == HttpMethod.Delete))
            Assert.True((await nobody.SendAsync(endpoint.With(Guid.NewGuid()), endpoint.Body is not null ? Json("{}") : null, endpoint.Method)).StatusCode == HttpStatusCode.Unauthorized, $"{endpoint} answers a stranger");
    }

    [Fact]
    public async Task NothingIsChangedWithoutTheFormToken()
    {
        var checker = await office.AsAsync("checker");
        checker.ForgetToken();
        foreach (var endpoint in (await AllAsync()).Where(e => e.Method != HttpMethod.Get))
            Assert.True((await checker.SendAsync(endpoint.With(Guid.NewGuid()), endpoint.Body is not null ? Json("{}") : null, endpoint.Method)).StatusCode == HttpStatusCode.BadRequest, $"{endpoint} takes a request of another page");
    }

    /// <summary>Odd requests of people of every kind, about things that are there and things that are not.</summary>
    [Fact]
    public async Task NothingFallsOverWhatItIsNotUsedTo()
    {
        var people = new People(office.Db);
        var hash = Office.PasswordHash;
        var ids = new Dictionary<string, Guid>();
        foreach (var (kind, groups) in new (string, string[])[] { ("guest", ["Guests"]), ("signer", ["Staff"]), ("author", ["Staff", "Originators"]), ("administrator", ["Staff", "Coordinators", "Administrators"]) })
            await people.AddAsync(new Person(ids[kind] = Guid.CreateVersion7(), $"odd-{kind}", $"Odd {kind}", "O", "", "odd@office.example", "UTC", kind == "guest"), hash, groups);
        var author = await office.AsAsync("odd-author");
        var plan = Guid.CreateVersion7();
        await office.AddPlanAsync(plan, new Plan("Odd", "", new([new Step("s", "Sign", "Sign.", 1, [new Seat("s", "Signer", new PersonHolder(ids["signer"]))])])));
        var document = await Office.RegisterAsync(author, "odd");
        var package = (await author.PostAsync<JsonElement>("/api/packages", new { key = Guid.NewGuid(), title = "Odd", coveringNote = "", plan, documents = new[] { document }, inform = Array.Empty<Guid>() })).GetProperty("id").GetGuid();
        var signer = await office.AsAsync("odd-signer");
        var note = await signer.NoteAsync(package, "request", "Odd");
        var draft = (await author.GetAsync<JsonElement>($"/api/packages/{package}")).GetProperty("items")[0].GetProperty("draft").GetGuid();
        known = [package, document, draft, plan, note, ids["signer"], ids["guest"]];

        var odd = new Random(20261124);
        var fell = new List<string>();
        foreach (var kind in ids.Keys)
        {
            var person = await office.AsAsync($"odd-{kind}");
            // A chain for the whole register would meet every other test.
            foreach (var endpoint in (await AllAsync()).Where(e => e.Path is not "/api/session" and not "/api/folders/standings"))
                foreach (var body in endpoint.Body is { } schema ? Unreadable.Concat(Enumerable.Range(0, Office.IsLong ? 30 : 8).Select(_ => Odd(schema, odd, 0)?.ToJsonString() ?? "null")) : new string?[Office.IsLong ? 5 : 3])
                {
                    var answer = await person.SendAsync(endpoint.With(odd.Next(5) == 0 ? Guid.NewGuid() : known[odd.Next(5)]), body is null ? null : Json(body), endpoint.Method);
                    var words = await answer.Content.ReadAsStringAsync();
                    if ((int)answer.StatusCode >= 500) fell.Add($"{endpoint} with {body}: {(int)answer.StatusCode}");
                    // Every refusal says in words what is wrong, for the page to show.
                    else if ((int)answer.StatusCode is 400 or 403 or 409 or 422 && JsonSerializer.Deserialize<JsonElement>(words).GetProperty("title").GetString() is not { Length: > 10 })
                        fell.Add($"{endpoint} with {body}: no words");
                }
        }
        Assert.True(fell.Count == 0, string.Join('\n', fell.Select(f => f[..Math.Min(400, f.Length)])));
    }

    /// <summary>Somebody who may read another folder only, and a guest of nothing: whatever they ask, they hear nothing of what is here, and whatever they try, it stays as it is.</summary>
    [Theory]
    [InlineData("elsewhere")]
    [InlineData("guest")]
    public async Task NothingIsToldToOrDoneByWhoHasNoRightToIt(string kind)
    {
        var mark = "Hidden" + Guid.NewGuid().ToString("n")[..10];
        var (outsider, login) = (Guid.CreateVersion7(), $"{kind}-{Guid.NewGuid():n}");
        await new People(office.Db).AddAsync(new Person(outsider, login, login, "O", "", "o@office.example", "UTC", kind == "guest"), Office.PasswordHash, kind == "guest" ? ["Guests"] : []);
        if (kind == "elsewhere")
        {
            await office.OwnerDb.RunAsync("INSERT INTO folder (path) VALUES ('Elsewhere') ON CONFLICT DO NOTHING", []);
            var group = new PersonGroup(Guid.CreateVersion7(), login, [outsider]);
            await new People(office.Db).AddGroupAsync(group);
            await office.OwnerDb.RunAsync("INSERT INTO group_right (group_id, right_name, folder_id) SELECT $1, r, f.id FROM unnest(ARRAY['read', 'sign', 'send', 'coordinate', 'moveStandings']) r, folder f WHERE f.path = 'Elsewhere'", [group.Id]);
        }
        var (author, checker) = (await office.AsAsync("author"), await office.AsAsync("checker"));
        var document = await Office.RegisterAsync(author, mark);
        var package = (await author.PostAsync<JsonElement>("/api/packages", new { key = Guid.NewGuid(), title = mark, coveringNote = mark, plan = office.Plan, documents = new[] { document }, inform = Array.Empty<Guid>() })).GetProperty("id").GetGuid();
        var note = await checker.NoteAsync(package, "request", mark);
        var draft = (await author.GetAsync<JsonElement>($"/api/packages/{package}")).GetProperty("items")[0].GetProperty("draft").GetGuid();
        var upload = await author.UploadAsync($"{mark}.dxf", Office.Drawing(mark));
        async Task<string> AllOfItAsync() => string.Join('\n', await office.Db.ListAsync(
            """
            SELECT to_jsonb(k)::text FROM package k WHERE id = $1 UNION ALL SELECT to_jsonb(d)::text FROM document d WHERE id = $2
            UNION ALL SELECT to_jsonb(n)::text FROM note n WHERE package_id = $1 UNION ALL SELECT to_jsonb(u)::text FROM upload u WHERE id = $3
            UNION ALL SELECT chain || sequence::text FROM ledger_entry WHERE chain IN ($1, $2) UNION ALL SELECT to_jsonb(a)::text FROM awaited a WHERE package_id = $1 ORDER BY 1
            """,
            r => r.GetString(0), [package, document, upload]));
        var before = await AllOfItAsync();
        Assert.Contains(mark, before, StringComparison.Ordinal);

        known = [package, document, draft, note, upload];
        var stranger = await office.AsAsync(login);
        var odd = new Random(20261125);
        var told = new List<string>();
        foreach (var endpoint in (await AllAsync()).Where(e => e.Path != "/api/session"))
            foreach (var id in endpoint.Path.Contains('{', StringComparison.Ordinal) ? known : [Guid.Empty])
                foreach (var body in endpoint.Body is { } schema ? Enumerable.Range(0, 8).Select(string? (_) => Odd(schema, odd, 0)?.ToJsonString() ?? "null") : new string?[1])
                {
                    var answer = await stranger.SendAsync(endpoint.With(id), body is null ? null : Json(body), endpoint.Method);
                    if ((await answer.Content.ReadAsStringAsync()).Contains(mark, StringComparison.Ordinal)) told.Add($"{endpoint} with {body}");
                }
        foreach (var path in new[] { $"/api/documents?search={mark}", $"/api/packages?search={mark}", $"/api/packages/late?search={mark}", $"/api/documents.csv?search={mark}", $"/api/packages.csv?search={mark}", $"/api/messages.csv?search={mark}" })
            if ((await (await stranger.SendAsync(path, null, HttpMethod.Get)).Content.ReadAsStringAsync()).Contains(mark, StringComparison.Ordinal)) told.Add(path);
        foreach (var path in new[] { "file", "sheets/0/prepared", "sheets/0/picture", "sheets/0/small" })
            if (await stranger.StatusAsync($"/api/drafts/{draft}/{path}") != HttpStatusCode.NotFound) told.Add(path);
        Assert.Empty(told);
        Assert.Equal(before, await AllOfItAsync());
    }

    [Theory]
    [InlineData("""{ "documents": [null], "planId": null }""", 400, "unreadable", "documents")]
    [InlineData("""{ "documents": ["no id"] }""", 400, "unreadable", "documents[0]")]
    [InlineData("""{ "planId": "x" """, 400, "unreadable", "planId")]
    [InlineData("""{ "documents": [], "plan": { "name": 7 } }""", 400, "unreadable", "plan.name")]
    public async Task AnUnreadableRequestIsToldItsPlace(string body, int status, string code, string place)
    {
        var answer = await (await office.AsAsync("author")).SendAsync("/api/plans/preview", Json(body));
        var problem = await answer.Content.ReadFromJsonAsync<JsonElement>();
        Assert.Equal((status, code), ((int)answer.StatusCode, problem.GetProperty("code").GetString()));
        Assert.Contains($"“{place}", problem.GetProperty("title").GetString(), StringComparison.Ordinal);
    }

    [Fact]
    public async Task GuessingPasswordsIsSlowedDownInWords()
    {
        // From an address of its own: guesses of other tests are counted at theirs.
        await using var wary = office.WithWebHostBuilder(b => b.UseSetting("Froe:FreeGuesses", "3").ConfigureServices(s => s.AddSingleton<IStartupFilter>(new FromAddress(IPAddress.Parse($"198.51.{Random.Shared.Next(256)}.{Random.Shared.Next(256)}")))));
        var login = "guessed-" + Guid.NewGuid().ToString("n")[..8];
        await new People(office.Db).AddAsync(new Person(Guid.CreateVersion7(), login, login, "G", "", "g@office.example", "UTC", false), Office.PasswordHash, ["Staff"]);
        var owner = new Browser(wary.CreateClient());
        await owner.RefreshAsync();
        await owner.PostAsync<JsonElement>("/api/session", new { login, password = Office.Password });
        var guesser = new Browser(wary.CreateClient());
        await guesser.RefreshAsync();
        for (var i = 0; i < 3; i++) Assert.Equal((422, "wrong-sign-in"), await guesser.RefusedAsync("/api/session", new { login, password = $"guess {i}" }));
        // The right one comes too late, too; nothing tells that it was right.
        Assert.Equal((429, "too-many-attempts"), await guesser.RefusedAsync("/api/session", new { login, password = Office.Password }));
        // The account's owner, at the browser they have used before, is not kept out by it.
        await owner.RefreshAsync();
        await owner.PostAsync<JsonElement>("/api/session", new { login, password = Office.Password });
    }

    [Fact]
    public async Task EveryAnswerForbidsWhatAPageOfFroeNeverDoes()
    {
        using var http = office.CreateClient();
        foreach (var path in new[] { "/api/session", "/api/desk", "/health/live", "/no/such/place" })
        {
            var answer = await http.GetAsync(new Uri(path, UriKind.Relative));
            var policy = Assert.Single(answer.Headers.GetValues("Content-Security-Policy"));
            Assert.StartsWith("default-src 'none'; script-src 'self' 'wasm-unsafe-eval';", policy, StringComparison.Ordinal);
            // The page engine may be compiled; no text ever becomes a program.
            Assert.DoesNotContain("'unsafe-eval'", policy, StringComparison.Ordinal);
            if (path == "/health/live") Assert.Equal(HttpStatusCode.OK, answer.StatusCode);
            Assert.Equal("nosniff", Assert.Single(answer.Headers.GetValues("X-Content-Type-Options")));
        }
    }

    /// <summary>What PostgreSQL refuses when a statement is bound would cost the connection, and whoever comes after it on that connection.</summary>
    [Fact]
    public async Task TextThatCannotBeKeptIsRefusedBeforeTheDatabaseSeesIt()
    {
        var (author, coordinator) = (await office.AsAsync("author"), await office.AsAsync("coordinator"));
        var title = "Kept whole or not at all " + Guid.NewGuid();
        for (var i = 0; i < 5; i++)
        {
            Assert.Equal((422, "unstorable-text"), await coordinator.RefusedAsync("/api/folders", new { path = "a\0b" }));
            Assert.Equal((422, "unstorable-text"), await author.RefusedAsync("/api/prepared", new { id = Guid.NewGuid(), title, coveringNote = "", documents = Array.Empty<Guid>(), answers = new Dictionary<string, string> { ["field"] = "a\0b" } }, HttpMethod.Put));
            Assert.Equal(HttpStatusCode.UnprocessableEntity, await author.StatusAsync("/api/documents?search=a%00b"));
            Assert.Equal(HttpStatusCode.OK, await author.StatusAsync("/api/documents?search=a"));
        }
        Assert.Equal(0, (await office.Db.ListAsync("SELECT count(*) FROM prepared_package WHERE title = $1", r => r.GetInt64(0), [title]))[0]);
    }

    private Guid[] known = [];

    private static readonly string?[] Unreadable = ["{}", "[]", "null", "\"text\"", "{\"broken"];

    /// <summary>Something of the right shape with odd things in it: nothing, too much, what databases and pages trip over.</summary>
    private JsonNode? Odd(JsonElement schema, Random odd, int depth)
    {
        if (schema.TryGetProperty("$ref", out var reference)) return Odd(schemas.GetProperty(reference.GetString()!.Split('/')[^1]), odd, depth + 1);
        foreach (var several in new[] { "anyOf", "oneOf" })
            if (schema.TryGetProperty(several, out var kinds)) return Odd(kinds[odd.Next(kinds.GetArrayLength())], odd, depth + 1);
        if (schema.TryGetProperty("enum", out var words)) return JsonNode.Parse(words[odd.Next(words.GetArrayLength())].GetRawText());
        if (schema.TryGetProperty("const", out var word)) return JsonNode.Parse(word.GetRawText());
        var types = !schema.TryGetProperty("type", out var type) ? ["object"] : type.ValueKind == JsonValueKind.Array ? type.EnumerateArray().Select(t => t.GetString()!).ToArray() : [type.GetString()!];
        switch (types[odd.Next(types.Length)])
        {
            case "null": return null;
            case "boolean": return odd.Next(2) == 0;
            case "integer": return (int[])[0, -1, 1, 3, int.MaxValue, int.MinValue] is var whole ? whole[odd.Next(whole.Length)] : 0;
            case "number": return (double[])[0, -1, 0.5, 1e300, 1e-300, 100] is var numbers ? numbers[odd.Next(numbers.Length)] : 0;
            case "array":
                var items = new JsonArray();
                for (var i = depth > 12 ? 0 : odd.Next(3); i > 0; i--) items.Add(odd.Next(40) > 0 && schema.TryGetProperty("items", out var item) ? Odd(item, odd, depth + 1) : null);
                return items;
            case "object":
                var made = new JsonObject();
                if (schema.TryGetProperty("properties", out var properties))
                    foreach (var property in properties.EnumerateObject()) made[property.Name] = Odd(property.Value, odd, depth + 1);
                if (schema.TryGetProperty("additionalProperties", out var more) && more.ValueKind == JsonValueKind.Object && odd.Next(2) == 0) made[odd.Next(20) == 0 ? "odd\0" : "odd"] = odd.Next(6) > 0 ? Odd(more, odd, depth + 1) : null;
                return made;
            default:
                return schema.TryGetProperty("format", out var format) ? format.GetString() switch
                {
                    "uuid" => (odd.Next(10) switch { 0 => Guid.Empty, 1 => Guid.NewGuid(), _ => known[odd.Next(known.Length)] }).ToString(),
                    "date-time" => odd.Next(30) == 0 ? "2026-02-30T00:00:00Z" : ((string[])["2026-01-01T00:00:00Z", "0001-01-01T00:00:00Z", "9999-12-31T23:59:59Z", "2026-12-24T10:00:00+14:00"])[odd.Next(4)],
                    "date" => ((string[])["2026-01-01", "0001-01-01", "9999-12-31"])[odd.Next(3)],
                    _ => "odd",
                }
                : odd.Next(80) == 0 ? "nul\0nul" : ((string[])["", " ", "a", "s", "key", "12:30", new string('x', 5000), "😀\ud800", "%_\\'\"<b>", "Quality", "A / B", "UTC"])[odd.Next(12)];
        }
    }

    private static StringContent Json(string body) => new(body, Encoding.UTF8, "application/json");

    [GeneratedRegex(@"\{([a-zA-Z0-9]+)[^}]*\}")]
    private static partial Regex Placeholder();
}
