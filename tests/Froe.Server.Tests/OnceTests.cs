using System.Net;
using System.Net.Http.Headers;
using System.Net.Http.Json;
using System.Text.Json;
using Froe.Core.Routing;
using Froe.Server.Desk;
using Froe.Store;
using Microsoft.AspNetCore.Mvc.Testing;
using Xunit;

namespace Froe.Server.Tests;

/// <summary>What is asked for twice is done once; what a page counts and is served.</summary>
public class OnceTests(Office office)
{
    private sealed class Keyed(HttpClient http)
    {
        public async Task<HttpResponseMessage> SendAsync(HttpMethod method, string path, object? body, Guid? key)
        {
            using var request = new HttpRequestMessage(method, path) { Content = body is null ? null : JsonContent.Create(body) };
            if (key is { } once) request.Headers.Add("Idempotency-Key", once.ToString());
            return await http.SendAsync(request);
        }
    }

    private async Task<Keyed> AsAsync(string login)
    {
        var http = office.CreateClient(new WebApplicationFactoryClientOptions { BaseAddress = new Uri("http://localhost") });
        async Task<string> TokenAsync() => (await http.GetFromJsonAsync<JsonElement>("/api/session")).GetProperty("formToken").GetString()!;
        http.DefaultRequestHeaders.Add("X-Froe-Form", await TokenAsync());
        Assert.True((await http.PostAsJsonAsync("/api/session", new { login, password = Office.Password })).IsSuccessStatusCode);
        var token = await TokenAsync();
        http.DefaultRequestHeaders.Remove("X-Froe-Form");
        http.DefaultRequestHeaders.Add("X-Froe-Form", token);
        return new Keyed(http);
    }

    private static object Group(string name) => new { name, members = Array.Empty<Guid>() };

    [Fact]
    public async Task ARequestOfOneKeyIsDoneOnceHoweverOftenItIsSent()
    {
        var admin = await AsAsync("coordinator");
        var (key, name) = (Guid.NewGuid(), "once " + Guid.NewGuid().ToString("n")[..8]);
        var first = await admin.SendAsync(HttpMethod.Post, "/api/groups", Group(name), key);
        var again = await admin.SendAsync(HttpMethod.Post, "/api/groups", Group(name), key);
        Assert.Equal((HttpStatusCode.OK, HttpStatusCode.OK), (first.StatusCode, again.StatusCode));
        Assert.Equal(await first.Content.ReadAsStringAsync(), await again.Content.ReadAsStringAsync());
        Assert.Equal(first.Content.Headers.ContentType, again.Content.Headers.ContentType);
        Assert.Equal(HttpStatusCode.Conflict, (await admin.SendAsync(HttpMethod.Post, "/api/groups", Group(name), null)).StatusCode);
        Assert.Single(await office.Db.ListAsync("SELECT id FROM person_group WHERE name = $1", r => r.GetGuid(0), [name]));
        // Another thing is not asked for with this key.
        Assert.Equal(HttpStatusCode.UnprocessableEntity, (await admin.SendAsync(HttpMethod.Post, "/api/folders", new { path = name }, key)).StatusCode);
    }

    [Fact]
    public async Task TwoOfOneKeyAtOnceMakeOne()
    {
        var admin = await AsAsync("coordinator");
        for (var i = 0; i < 10; i++)
        {
            var (key, name) = (Guid.NewGuid(), "at once " + Guid.NewGuid().ToString("n")[..8]);
            var answers = await Task.WhenAll(Enumerable.Range(0, 4).Select(_ => admin.SendAsync(HttpMethod.Post, "/api/groups", Group(name), key)));
            // Those that came while it was being done are told so; none is told that it failed.
            foreach (var answer in answers.Where(a => !a.IsSuccessStatusCode))
                Assert.Contains("under-way", await answer.Content.ReadAsStringAsync(), StringComparison.Ordinal);
            Assert.Contains(answers, a => a.IsSuccessStatusCode);
            Assert.Single(await office.Db.ListAsync("SELECT id FROM person_group WHERE name = $1", r => r.GetGuid(0), [name]));
        }
    }

    [Fact]
    public async Task WhatWasRefusedMayBeAskedForAgainUnderItsKey()
    {
        var admin = await AsAsync("coordinator");
        var (key, name) = (Guid.NewGuid(), "again " + Guid.NewGuid().ToString("n")[..8]);
        Assert.Equal(HttpStatusCode.UnprocessableEntity, (await admin.SendAsync(HttpMethod.Post, "/api/groups", Group(" "), key)).StatusCode);
        Assert.Equal(HttpStatusCode.OK, (await admin.SendAsync(HttpMethod.Post, "/api/groups", Group(name), key)).StatusCode);
        // A key is its person's own.
        var author = await AsAsync("author");
        Assert.Equal(HttpStatusCode.Forbidden, (await author.SendAsync(HttpMethod.Post, "/api/groups", Group(name), key)).StatusCode);
    }

    [Fact]
    public async Task APlanCopiedByManyAtOnceIsCopiedAsOften()
    {
        var admin = await AsAsync("coordinator");
        var name = "copied " + Guid.NewGuid().ToString("n")[..8];
        var plan = JsonSerializer.SerializeToElement(new Plan(name, "", new Sequence([])), Act.Json);
        var answers = await Task.WhenAll(Enumerable.Range(0, 8).Select(_ => admin.SendAsync(HttpMethod.Post, "/api/plans", plan, null)));
        Assert.All(answers, a => Assert.Equal(HttpStatusCode.OK, a.StatusCode));
        Assert.Equal(8, (await office.Db.ListAsync("SELECT DISTINCT name FROM plan WHERE name LIKE $1 || '%'", r => r.GetString(0), [name])).Count);
        // Each bears its own name, so that whoever goes on with it can save it.
        Assert.Empty(await office.Db.ListAsync("SELECT name FROM plan WHERE name LIKE $1 || '%' AND body ->> 'name' <> name", r => r.GetString(0), [name]));
    }

    [Theory]
    [InlineData("checker")]
    [InlineData("author")]
    [InlineData("guest")]
    public async Task TheRailCountsWhatTheDeskLists(string login)
    {
        var author = await office.AsAsync("author");
        await office.SendAsync(author, await Office.RegisterAsync(author, "counted"));
        var me = await office.AsAsync(login);
        // Others work at the same time: both are asked for until they are of one moment.
        for (var tries = 0; ; tries++)
        {
            var desk = await me.GetAsync<JsonElement>("/api/desk");
            var ids = new[] { "toSign", "toAnswer", "toAdvise" }.SelectMany(g => desk.GetProperty(g).EnumerateArray()).Select(r => r.GetProperty("id").GetGuid()).Distinct().Count();
            var counted = (await me.GetAsync<Counts>("/api/counts")).Desk;
            if (counted == ids || desk.GetProperty("cut").GetArrayLength() > 0) return;
            if (tries == 20) Assert.Equal(ids, counted);
        }
    }

    [Fact]
    public async Task BuiltFilesComeAsSmallAsTheBrowserCanReadThem()
    {
        var web = Directory.CreateTempSubdirectory("froe-web").FullName;
        Directory.CreateDirectory(Path.Combine(web, "assets"));
        await File.WriteAllTextAsync(Path.Combine(web, "index.html"), "<!doctype html>");
        await File.WriteAllTextAsync(Path.Combine(web, "assets", "a-1.js"), "plain");
        await File.WriteAllTextAsync(Path.Combine(web, "assets", "a-1.js.br"), "by brotli");
        await File.WriteAllTextAsync(Path.Combine(web, "assets", "a-1.js.gz"), "by gzip");
        await File.WriteAllTextAsync(Path.Combine(web, "assets", "b-1.css"), "plain only");
        await using var server = office.WithWebHostBuilder(b => b.UseSetting("Froe:Web", web));
        using var http = server.CreateDefaultClient();
        async Task<(string Body, string Encoding, string? Type)> GetAsync(string path, params string[] accepted)
        {
            using var request = new HttpRequestMessage(HttpMethod.Get, path);
            foreach (var a in accepted) request.Headers.AcceptEncoding.Add(StringWithQualityHeaderValue.Parse(a));
            using var answer = await http.SendAsync(request);
            Assert.Equal(HttpStatusCode.OK, answer.StatusCode);
            Assert.Contains("immutable", answer.Headers.CacheControl!.ToString(), StringComparison.Ordinal);
            Assert.Contains("Accept-Encoding", string.Join(',', answer.Headers.Vary), StringComparison.Ordinal);
            return (await answer.Content.ReadAsStringAsync(), string.Join(',', answer.Content.Headers.ContentEncoding), answer.Content.Headers.ContentType?.MediaType);
        }
        Assert.Equal(("by brotli", "br", "text/javascript"), await GetAsync("/assets/a-1.js", "gzip", "deflate", "br"));
        Assert.Equal(("by gzip", "gzip", "text/javascript"), await GetAsync("/assets/a-1.js", "gzip"));
        Assert.Equal(("by gzip", "gzip", "text/javascript"), await GetAsync("/assets/a-1.js", "br;q=0", "gzip"));
        Assert.Equal(("plain", "", "text/javascript"), await GetAsync("/assets/a-1.js"));
        Assert.Equal("plain only", (await GetAsync("/assets/b-1.css", "identity")).Body);
        Assert.Equal(HttpStatusCode.NotFound, (await http.GetAsync(new Uri("/assets/gone-2.js", UriKind.Relative))).StatusCode);
    }

    [Fact]
    public async Task ThePageNamesWhatItsPlaceAsksFirst()
    {
        var web = Directory.CreateTempSubdirectory("froe-web").FullName;
        await File.WriteAllTextAsync(Path.Combine(web, "index.html"), "<!doctype html>");
        await using var server = office.WithWebHostBuilder(b => b.UseSetting("Froe:Web", web));
        using var http = server.CreateDefaultClient();
        async Task<string?> NamedAsync(string path, bool isSignedIn)
        {
            using var request = new HttpRequestMessage(HttpMethod.Get, path);
            if (isSignedIn) request.Headers.Add("Cookie", "froe=whether-it-holds-is-asked-later");
            using var answer = await http.SendAsync(request);
            Assert.Equal((HttpStatusCode.OK, "<!doctype html>"), (answer.StatusCode, await answer.Content.ReadAsStringAsync()));
            Assert.True(answer.Headers.CacheControl!.NoCache);
            return answer.Headers.TryGetValues("Link", out var links) ? Assert.Single(links) : null;
        }
        var package = Guid.CreateVersion7();
        Assert.Equal("</api/desk>; rel=preload; as=fetch; crossorigin=anonymous", await NamedAsync("/", true));
        Assert.Equal($"</api/packages/{package}>; rel=preload; as=fetch; crossorigin=anonymous", await NamedAsync($"/packages/{package}?item=1", true));
        Assert.Null(await NamedAsync("/packages/%3E;%20rel=stylesheet", true));
        Assert.Null(await NamedAsync("/register", true));
        // Whoever is not signed in is asked to, and has no desk.
        Assert.Null(await NamedAsync("/", false));
    }
}
