using System.Net.WebSockets;
using System.Text;
using System.Text.Json;
using Froe.Core.Routing;
using Froe.Store;
using Microsoft.AspNetCore.Mvc.Testing;
using Xunit;

namespace Froe.Server.Tests;

/// <summary>The live connection, as a browser holds it: who hears of what, and when it ends.</summary>
public class LiveTests(Office office)
{
    private const char End = '\u001e';

    /// <summary>A person's browser whose cookies can be seen, and its live connection.</summary>
    private sealed class Listener(HttpClient http, WebSocket socket) : IDisposable
    {
        private readonly StringBuilder heard = new();

        public HttpClient Http { get; } = http;

        /// <summary>Everything that was heard until this is; or until the time is over, or the connection.</summary>
        public async Task<string> UntilAsync(Func<string, bool> heardIt, int seconds = 60)
        {
            using var limit = new CancellationTokenSource(TimeSpan.FromSeconds(seconds));
            var buffer = new byte[8192];
            try
            {
                while (!heardIt(heard.ToString()) && socket.State == WebSocketState.Open)
                {
                    var part = await socket.ReceiveAsync(new ArraySegment<byte>(buffer), limit.Token);
                    if (part.MessageType == WebSocketMessageType.Close) break;
                    heard.Append(Encoding.UTF8.GetString(buffer, 0, part.Count));
                }
            }
            catch (Exception e) when (e is OperationCanceledException or WebSocketException or IOException)
            {
                // Over.
            }
            return heard.ToString();
        }

        public async Task<bool> EndsAsync()
        {
            await UntilAsync(_ => false);
            return socket.State != WebSocketState.Open;
        }

        public void Dispose()
        {
            socket.Dispose();
            Http.Dispose();
        }
    }

    private async Task<Listener> ListenAsync(string login, WebApplicationFactory<Program>? server = null)
    {
        var at = server ?? office;
        var http = at.CreateClient(new WebApplicationFactoryClientOptions { HandleCookies = false });
        var cookies = new Dictionary<string, string>();
        async Task<JsonElement> SendAsync(HttpMethod method, string path, object? body, string token)
        {
            using var request = new HttpRequestMessage(method, path) { Content = body is null ? null : System.Net.Http.Json.JsonContent.Create(body) };
            if (cookies.Count > 0) request.Headers.Add("Cookie", string.Join("; ", cookies.Select(c => $"{c.Key}={c.Value}")));
            request.Headers.Add("X-Froe-Form", token);
            using var answer = await http.SendAsync(request);
            if (answer.Headers.TryGetValues("Set-Cookie", out var set))
                foreach (var cookie in set.Select(c => c.Split(';')[0].Split('=', 2))) cookies[cookie[0]] = cookie[1];
            return JsonSerializer.Deserialize<JsonElement>(await answer.Content.ReadAsStringAsync());
        }

        var token = (await SendAsync(HttpMethod.Get, "/api/session", null, "")).GetProperty("formToken").GetString()!;
        await SendAsync(HttpMethod.Post, "/api/session", new { login, password = Office.Password }, token);
        var client = at.Server.CreateWebSocketClient();
        var header = string.Join("; ", cookies.Select(c => $"{c.Key}={c.Value}"));
        client.ConfigureRequest = request => request.Headers.Cookie = header;
        var socket = await client.ConnectAsync(new Uri(at.Server.BaseAddress, "live"), default);
        await socket.SendAsync(Encoding.UTF8.GetBytes("{\"protocol\":\"json\",\"version\":1}" + End), WebSocketMessageType.Text, true, default);
        http.DefaultRequestHeaders.Add("Cookie", header);
        http.DefaultRequestHeaders.Add("X-Froe-Form", (await SendAsync(HttpMethod.Get, "/api/session", null, "")).GetProperty("formToken").GetString());
        var listener = new Listener(http, socket);
        await listener.UntilAsync(h => h.Contains(End, StringComparison.Ordinal));
        // The hub knows of the connection a moment after it has answered.
        await Task.Delay(300);
        return listener;
    }

    private async Task<(Guid Id, string Login)> SomebodyAsync(bool guest = false, params string[] groups)
    {
        var (id, login) = (Guid.CreateVersion7(), "live-" + Guid.NewGuid().ToString("n")[..10]);
        await new People(office.Db).AddAsync(new Person(id, login, login, "L", "", "live@office.example", "UTC", guest), Office.PasswordHash, [guest ? "Guests" : "Staff", .. groups]);
        return (id, login);
    }

    [Fact]
    public async Task AChangeIsHeardByWhoMaySeeItAndByNobodyElse()
    {
        var (guest, guestLogin) = await SomebodyAsync(guest: true);
        var (_, staffLogin) = await SomebodyAsync();
        using var outside = await ListenAsync(guestLogin);
        using var inside = await ListenAsync(staffLogin);
        var author = await office.AsAsync("author");
        var hidden = await office.SendAsync(author, await Office.RegisterAsync(author, "not for guests"));
        Assert.Contains(hidden.ToString(), await inside.UntilAsync(h => h.Contains(hidden.ToString(), StringComparison.Ordinal)), StringComparison.Ordinal);
        var shown = (await author.PostAsync<JsonElement>("/api/packages", new { key = Guid.NewGuid(), title = "For a guest", coveringNote = "", plan = office.Plan, documents = new[] { await Office.RegisterAsync(author, "for guests") }, inform = new[] { guest } })).GetProperty("id").GetGuid();
        var heard = await outside.UntilAsync(h => h.Contains(shown.ToString(), StringComparison.Ordinal));
        Assert.Contains(shown.ToString(), heard, StringComparison.Ordinal);
        Assert.DoesNotContain(hidden.ToString(), heard, StringComparison.Ordinal);
        // So are overlays, by their draft.
        async Task<string> DrawnAsync(Guid package)
        {
            var draft = (await author.GetAsync<JsonElement>($"/api/packages/{package}")).GetProperty("items")[0].GetProperty("draft").GetString()!;
            await author.PostAsync<JsonElement>($"/api/drafts/{draft}/markups", new { changes = new[] { Drawn.Cloud() } });
            return draft;
        }
        var (unseen, seen) = (await DrawnAsync(hidden), await DrawnAsync(shown));
        Assert.Contains(unseen, await inside.UntilAsync(h => h.Contains(unseen, StringComparison.Ordinal)), StringComparison.Ordinal);
        heard = await outside.UntilAsync(h => h.Contains(seen, StringComparison.Ordinal));
        Assert.Contains(seen, heard, StringComparison.Ordinal);
        Assert.DoesNotContain(unseen, heard, StringComparison.Ordinal);
        // What is nobody's but its person's is heard by them alone.
        Assert.DoesNotContain("\"kind\":\"upload\"", heard, StringComparison.Ordinal);
    }

    [Fact]
    public async Task NewsSayWhetherTheyAreOfAPackageThatOneTakesPartIn()
    {
        var (_, beside) = await SomebodyAsync();
        var (signer, login) = await SomebodyAsync();
        var plan = Guid.CreateVersion7();
        await office.AddPlanAsync(plan, new Plan("News " + plan, "", new Sequence([new Step("s", "Step", "Sign it.", 1, [new Seat("s", "Signer", new PersonHolder(signer))])])));
        using var mine = await ListenAsync(login);
        using var others = await ListenAsync(beside);
        var author = await office.AsAsync("author");
        var package = (await author.PostAsync<JsonElement>("/api/packages", new { key = Guid.NewGuid(), title = "News", coveringNote = "", plan, documents = new[] { await Office.RegisterAsync(author, "news") }, inform = Array.Empty<Guid>() })).GetProperty("id").GetGuid();
        string Of(bool isMine) => $$"""{"kind":"package","id":"{{package}}","isMine":{{(isMine ? "true" : "false")}}}""";
        Assert.Contains(Of(true), await mine.UntilAsync(h => h.Contains(Of(true), StringComparison.Ordinal)), StringComparison.Ordinal);
        Assert.Contains(Of(false), await others.UntilAsync(h => h.Contains(Of(false), StringComparison.Ordinal)), StringComparison.Ordinal);
        // Whom an act told of something hears that there is a message; nobody else does.
        Assert.Contains($"\"kind\":\"message\",\"id\":\"{signer}\"", await mine.UntilAsync(h => h.Contains("\"message\"", StringComparison.Ordinal)), StringComparison.Ordinal);
        var view = await author.GetAsync<JsonElement>($"/api/packages/{package}");
        await author.PostAsync<JsonElement>($"/api/packages/{package}/notes", new { draft = view.GetProperty("items")[0].GetProperty("draft").GetGuid(), kind = "remark", body = "Look here.", marks = Array.Empty<object>(), key = Guid.NewGuid() });
        // Others write notes at the same time: theirs are not this one.
        var news = $$"""{"kind":"notes","id":"{{package}}","isMine":false}""";
        var heard = await others.UntilAsync(h => h.Contains(news, StringComparison.Ordinal));
        Assert.Contains(news, heard, StringComparison.Ordinal);
        Assert.DoesNotContain("\"kind\":\"message\"", heard, StringComparison.Ordinal);
    }

    [Fact]
    public async Task ALiveConnectionEndsWithItsSession()
    {
        var (_, login) = await SomebodyAsync();
        using var there = await ListenAsync(login);
        using var here = await ListenAsync(login);
        // Signing out ends that session, and only that.
        Assert.True((await there.Http.DeleteAsync(new Uri("/api/session", UriKind.Relative))).IsSuccessStatusCode);
        Assert.True(await there.EndsAsync());
        Assert.Equal(System.Net.HttpStatusCode.Unauthorized, (await there.Http.GetAsync(new Uri("/api/desk", UriKind.Relative))).StatusCode);
        Assert.Equal(System.Net.HttpStatusCode.OK, (await here.Http.GetAsync(new Uri("/api/desk", UriKind.Relative))).StatusCode);
    }

    [Fact]
    public async Task WhoeverIsBarredIsOutWithinASecond()
    {
        var ((id, login), admin) = (await SomebodyAsync(), await office.AsAsync("coordinator"));
        using var there = await ListenAsync(login);
        Assert.Equal((422, "missing-reason"), await admin.RefusedAsync($"/api/people/{id}/barring", new { reason = " " }, HttpMethod.Put));
        await admin.PutAsync<JsonElement>($"/api/people/{id}/barring", new { reason = "Left the company." });
        var began = DateTime.UtcNow;
        Assert.True(await there.EndsAsync());
        // A second where nothing else runs; it is not the thirty of a ping, nor the minutes of a session.
        Assert.True(DateTime.UtcNow - began < TimeSpan.FromSeconds(20));
        Assert.Equal(System.Net.HttpStatusCode.Unauthorized, (await there.Http.GetAsync(new Uri("/api/desk", UriKind.Relative))).StatusCode);
        var again = new Browser(office.CreateClient());
        await again.RefreshAsync();
        Assert.Equal((422, "wrong-sign-in"), await again.RefusedAsync("/api/session", new { login, password = Office.Password }));
        await admin.PostAsync<JsonElement>($"/api/people/{id}/letting-in", new { reason = "Came back." });
        await office.AsAsync(login);
        Assert.Equal(["person barred", "person let in again"], await office.Db.ListAsync("SELECT action FROM ledger_entry WHERE chain = $1 ORDER BY sequence", r => r.GetString(0), [id]));
    }

    [Fact]
    public async Task ScreensAreToldToAskAgainWhenTheServerCouldNotListen()
    {
        var (_, login) = await SomebodyAsync();
        using var listener = await ListenAsync(login);
        // Only once listening has begun anew is anything told again; that is what makes the screen right.
        var ended = await office.Db.ListAsync("SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE application_name = $1 AND datname = current_database() AND usename = current_user", r => r.GetBoolean(0), [Database.ListeningName]);
        Assert.NotEmpty(ended);
        Assert.Contains("\"target\":\"again\"", await listener.UntilAsync(h => h.Contains("\"again\"", StringComparison.Ordinal)), StringComparison.Ordinal);
        var author = await office.AsAsync("author");
        var package = await office.SendAsync(author, await Office.RegisterAsync(author, "after the break"));
        Assert.Contains(package.ToString(), await listener.UntilAsync(h => h.Contains(package.ToString(), StringComparison.Ordinal)), StringComparison.Ordinal);
    }
}
