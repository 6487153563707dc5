using System.Collections.Immutable;
using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using Froe.Core.Routing;
using Froe.Server.SignIn;
using Froe.Server.Tests;
using Froe.Store;
using Froe.Store.Proof;
using Microsoft.AspNetCore.Hosting;
using Microsoft.AspNetCore.Mvc.Testing;
using Xunit;
using Parallel = Froe.Core.Routing.Parallel;

[assembly: AssemblyFixture(typeof(Office))]

namespace Froe.Server.Tests;

/// <summary>A server on a real PostgreSQL, with people and a plan: check, then structures beside two of three of quality.</summary>
public sealed class Office : WebApplicationFactory<Program>, IAsyncLifetime
{
    public const string Password = "a long enough password";

    /// <summary>Under ./froe test --long everything is tried; otherwise part of it, which finds the same faults a little less surely.</summary>
    public static readonly bool IsLong = Environment.GetEnvironmentVariable("FROE_LONG") == "1";

    /// <summary>Of passwords that guard nothing: a whole one takes a good part of a second, hundreds of times.</summary>
    public const int PasswordRounds = 1000;
    public static readonly string PasswordHash = Passwords.Hash(Password, PasswordRounds);
    private readonly string owner, app;

    public Office()
        : this(
            Environment.GetEnvironmentVariable("FROE_OWNER") ?? throw new InvalidOperationException("Run the tests with ./froe test: they need its PostgreSQL (FROE_OWNER is not set)."),
            Environment.GetEnvironmentVariable("FROE_DATABASE") ?? throw new InvalidOperationException("FROE_DATABASE is not set."))
    {
    }

    /// <summary>An office in a database of its own.</summary>
    internal Office(string owner, string app) => (this.owner, this.app) = (owner, app);

    public Database Db { get; private set; } = null!;

    public Database OwnerDb { get; private set; } = null!;

    /// <summary>The owner's door where the tables of a schema stand before the office's of the same name.</summary>
    public Database OwnerDbIn(string schema) => new($"{owner};Search Path={schema},public");

    public Guid Plan { get; } = Guid.CreateVersion7();

    /// <summary>The quality group: q1, q2 and q3.</summary>
    public Guid Quality { get; } = Guid.CreateVersion7();

    public Dictionary<string, Guid> Ids { get; } = [];

    public async ValueTask InitializeAsync()
    {
        Migrator.Migrate(owner);
        Db = new Database(app);
        OwnerDb = new Database(owner);
        var people = new People(Db);
        var hash = PasswordHash;
        foreach (var name in new[] { "author", "checker", "lead", "q1", "q2", "q3", "guest", "bystander", "coordinator" })
        {
            Ids[name] = Guid.CreateVersion7();
            await people.AddAsync(new Person(Ids[name], name, name, name[..1].ToUpperInvariant(), "", $"{name}@office.example", "UTC", name == "guest"), hash,
                name switch { "guest" => ["Guests"], "author" => ["Staff", "Originators"], "coordinator" => ["Staff", "Coordinators", "Administrators"], _ => ["Staff"] });
        }
        var group = new PersonGroup(Quality, "Quality", [Ids["q1"], Ids["q2"], Ids["q3"]]);
        await people.AddGroupAsync(group);
        var plan = new Plan("Test", "", new Sequence(
        [
            new Step("check", "Check", "Check it.", 2, [new Seat("check", "Check", new PersonHolder(Ids["checker"]))]),
            new Parallel(
            [
                new Sequence([new Step("lead", "Lead", "Sign it.", 1, [new Seat("lead", "Lead", new PersonHolder(Ids["lead"]))])]),
                new Sequence([new Step("quality", "Quality", "Inspect it.", 1, [new Seat("quality", "Quality", new GroupHolder(group.Id, 2))])]),
            ]),
        ]));
        await AddPlanAsync(Plan, plan);
    }

    /// <summary>Somebody whom no other test knows.</summary>
    public async Task<(Guid Id, string Login)> SomebodyAsync(string zone = "UTC")
    {
        var (id, login) = (Guid.CreateVersion7(), "act-" + Guid.NewGuid().ToString("n")[..10]);
        await new People(Db).AddAsync(new Person(id, login, login, "A", "", "a@office.example", zone, false), PasswordHash, ["Staff"]);
        return (id, login);
    }

    /// <summary>Adds a plan with its first edition.</summary>
    public Task AddPlanAsync(Guid id, Plan plan) => Db.RunAsync(
        "WITH made AS (INSERT INTO plan (id, name, purpose, body, edition) VALUES ($1, $3, '', $2::jsonb, 1)) INSERT INTO plan_edition (plan_id, edition, body, published_at) VALUES ($1, 1, $2::jsonb, now())",
        [id, JsonSerializer.Serialize(plan, Act.Json), plan.Name]);

    protected override void ConfigureWebHost(IWebHostBuilder builder)
    {
        ArgumentNullException.ThrowIfNull(builder);
        var tool = Path.Combine(AppContext.BaseDirectory.Replace("tests/Froe.Server.Tests", "src/Froe.Tool", StringComparison.Ordinal), "Froe.Tool.dll");
        builder.UseSetting("Froe:Database", app).UseSetting("Froe:Reader", tool).UseSetting("Froe:FreeGuesses", "10000").UseSetting("Froe:PasswordRounds", $"{PasswordRounds}").UseSetting("Froe:TransfersEach", "1000").UseSetting("Froe:TransfersInAll", "1000").UseSetting("Froe:SealMinutes", "0").UseSetting("Froe:Readers", "2")
            .UseSetting("Froe:MailHost", "127.0.0.1").UseSetting("Froe:MailPort", "1");
    }

    /// <summary>A signed-in person's browser, as far as the server can tell.</summary>
    public async Task<Browser> AsAsync(string name, string password = Password)
    {
        var browser = new Browser(CreateClient(new WebApplicationFactoryClientOptions { BaseAddress = new Uri("http://localhost") }));
        await browser.RefreshAsync();
        await browser.PostAsync<JsonElement>("/api/session", new { login = name, password });
        await browser.RefreshAsync();
        return browser;
    }

    /// <summary>Registers a document from a small drawing that differs with its words.</summary>
    public static async Task<Guid> RegisterAsync(Browser author, string words)
    {
        var upload = await author.UploadAsync("sheet.dxf", Drawing(words));
        return (await author.PostAsync<JsonElement>("/api/documents", new { number = "T-" + Guid.NewGuid(), title = words, kind = "drawing", discipline = "test", upload, reason = "" })).GetProperty("document").GetGuid();
    }

    public async Task<Guid> SendAsync(Browser author, params Guid[] documents) => (await author.PostAsync<JsonElement>(
        "/api/packages", new { key = Guid.NewGuid(), title = "Test package", coveringNote = "Please look.", plan = Plan, documents, inform = new[] { Ids["bystander"] } })).GetProperty("id").GetGuid();

    /// <summary>What proving these packages and documents against their ledger finds.</summary>
    public async Task<List<string>> ProofAsync(params Guid[] ids)
    {
        var found = new List<string>();
        foreach (var number in await Db.ListAsync("SELECT number FROM package WHERE id = ANY ($1) UNION ALL SELECT number FROM document WHERE id = ANY ($1)", r => r.GetString(0), [ids]))
            found.AddRange((await new LedgerProof(Db).RunAsync(new ProofWanted(number))).Findings);
        return found;
    }

    public static byte[] Drawing(string words) => System.Text.Encoding.UTF8.GetBytes(
        $"0\nSECTION\n2\nENTITIES\n0\nLINE\n8\n0\n10\n0\n20\n0\n11\n100\n21\n50\n0\nTEXT\n8\n0\n10\n5\n20\n5\n40\n3\n1\n{words}\n0\nENDSEC\n0\nEOF\n");

    public override async ValueTask DisposeAsync()
    {
        await base.DisposeAsync();
        await Db.DisposeAsync();
        await OwnerDb.DisposeAsync();
    }
}

/// <summary>An HTTP client that carries its form token.</summary>
public sealed class Browser(HttpClient http)
{
    private string token = "";

    public async Task RefreshAsync() => token = (await http.GetFromJsonAsync<JsonElement>("/api/session")).GetProperty("formToken").GetString()!;

    public void ForgetToken() => token = "";

    public async Task<T> GetAsync<T>(string path) => await ReadAsync<T>(await http.GetAsync(new Uri(path, UriKind.Relative)));

    public async Task<byte[]> BytesAsync(string path)
    {
        using var response = await http.GetAsync(new Uri(path, UriKind.Relative));
        var bytes = await response.Content.ReadAsByteArrayAsync();
        Assert.True(response.IsSuccessStatusCode, $"{(int)response.StatusCode}: {System.Text.Encoding.UTF8.GetString(bytes)}");
        return bytes;
    }

    /// <summary>Every row of a list, page after page; the path already holds its question mark.</summary>
    public async Task<List<JsonElement>> RowsAsync(string path)
    {
        var rows = new List<JsonElement>();
        for (string? after = ""; after is not null;)
        {
            var page = await GetAsync<JsonElement>(path + "&after=" + after);
            rows.AddRange(page.GetProperty("rows").EnumerateArray());
            after = page.GetProperty("next").GetString();
        }
        return rows;
    }

    public async Task<HttpStatusCode> StatusAsync(string path) => (await http.GetAsync(new Uri(path, UriKind.Relative))).StatusCode;

    public async Task<T> PostAsync<T>(string path, object body) => await ReadAsync<T>(await SendAsync(path, JsonContent.Create(body)));

    /// <summary>The refusal's code and status.</summary>
    public async Task<(int Status, string? Code)> RefusedAsync(string path, object body, HttpMethod? method = null)
    {
        var response = await SendAsync(path, JsonContent.Create(body), method);
        Assert.False(response.IsSuccessStatusCode, "it was not refused");
        var text = await response.Content.ReadAsStringAsync();
        return ((int)response.StatusCode, text.Length > 0 && JsonSerializer.Deserialize<JsonElement>(text).TryGetProperty("code", out var code) ? code.GetString() : null);
    }

    public async Task<T> PutAsync<T>(string path, object body) => await ReadAsync<T>(await SendAsync(path, JsonContent.Create(body), HttpMethod.Put));

    public async Task DeleteAsync(string path) => await ReadAsync<JsonElement>(await SendAsync(path, null, HttpMethod.Delete));

    public async Task<Guid> UploadAsync(string name, byte[] file)
    {
        var state = await ReadAsync<JsonElement>(await SendAsync("/api/uploads?name=" + Uri.EscapeDataString(name), new ByteArrayContent(file)));
        var id = state.GetProperty("id").GetGuid();
        // A busy machine has its time: what matters is that the file is read, not how soon.
        for (var i = 0; i < 2400; i++)
        {
            state = await GetAsync<JsonElement>($"/api/uploads/{id}");
            if (state.GetProperty("state").GetString() == "read") return id;
            if (state.GetProperty("state").GetString() == "refused") throw new InvalidDataException(state.GetProperty("fault").GetString());
            await Task.Delay(50);
        }
        throw new TimeoutException("The upload was not read.");
    }

    public async Task<HttpResponseMessage> SendAsync(string path, HttpContent? content, HttpMethod? method = null)
    {
        using var request = new HttpRequestMessage(method ?? HttpMethod.Post, path) { Content = content };
        if (token.Length > 0) request.Headers.Add("X-Froe-Form", token);
        return await http.SendAsync(request);
    }

    /// <summary>What this person would post to sign every item of a package alike.</summary>
    public async Task<object> SignOffAsync(Guid package, string seat, string verdict = "approve", Guid? key = null, Guid? absent = null, object[]? answers = null)
    {
        var view = await GetAsync<JsonElement>($"/api/packages/{package}");
        foreach (var item in view.GetProperty("items").EnumerateArray()) await PostAsync<JsonElement>($"/api/drafts/{item.GetProperty("draft").GetGuid()}/opened", new { });
        var grant = (await PostAsync<JsonElement>("/api/session/confirm", new { password = Office.Password })).GetProperty("grant").GetString();
        return new
        {
            key = key ?? Guid.NewGuid(),
            grant,
            seat,
            remark = "seen",
            @for = absent,
            answers = answers ?? [],
            verdicts = view.GetProperty("items").EnumerateArray().Select(i => new { draft = i.GetProperty("draft").GetGuid(), sha256 = i.GetProperty("sha256").GetString(), verdict, reason = "" }).ToImmutableArray(),
        };
    }

    public async Task<string> SignAsync(Guid package, string seat, string verdict = "approve") =>
        (await PostAsync<JsonElement>($"/api/packages/{package}/sign-offs", await SignOffAsync(package, seat, verdict))).GetProperty("standing").GetString()!;

    public async Task<Guid> NoteAsync(Guid package, string kind, string body)
    {
        var item = (await GetAsync<JsonElement>($"/api/packages/{package}")).GetProperty("items")[0];
        return (await PostAsync<JsonElement>($"/api/packages/{package}/notes", new
        {
            draft = item.GetProperty("draft").GetGuid(),
            kind,
            body,
            marks = new[] { Drawn.Cloud() },
        })).GetProperty("id").GetGuid();
    }

    private static async Task<T> ReadAsync<T>(HttpResponseMessage response)
    {
        var text = await response.Content.ReadAsStringAsync();
        Assert.True(response.IsSuccessStatusCode, $"{(int)response.StatusCode}: {text}");
        return text.Length == 0 ? default! : JsonSerializer.Deserialize<T>(text, JsonSerializerOptions.Web)!;
    }
}

/// <summary>A markup as the page draws it on the first sheet of a drawing of <see cref="Office.Drawing"/>.</summary>
internal static class Drawn
{
    public static object Cloud(Guid? id = null, double x = 10, Guid? overlay = null, Guid? note = null, long version = 0, Guid? tie = null, int rank = 0) =>
        Put(new { shape = "cloud", from = new { x, y = 10 }, to = new { x = x + 30, y = 30 } }, id, overlay, note, version, tie, rank);

    public static object Arrow(Guid? id = null, double x = 1, Guid? overlay = null, Guid? note = null, long version = 0, Guid? tie = null) =>
        Put(new { shape = "arrow", from = new { x, y = 1 }, to = new { x = x + 8, y = 9 } }, id, overlay, note, version, tie, 0);

    public static object Erased(Guid id, long version) => new { change = "erase", id, version };

    private static object Put(object shape, Guid? id, Guid? overlay, Guid? note, long version, Guid? tie, int rank) =>
        new { change = "put", id = id ?? Guid.NewGuid(), overlay, place = new { on = "sheet", leaf = 0 }, shape, note, version, tie, rank };
}
