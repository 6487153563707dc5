using System.Net;
using System.Text.Json;
using Xunit;

namespace Froe.Server.Tests;

/// <summary>What people keep for themselves: how they read dates, and what they want at hand.</summary>
public class HandTests(Office office)
{
    [Fact]
    public async Task HowOnePersonReadsDatesIsTheirs()
    {
        var (_, login) = await office.SomebodyAsync();
        var one = await office.AsAsync(login);
        static string Of(JsonElement session) => session.GetProperty("dates").GetRawText();
        const string Usual = """{"language":"","hours":"byLanguage","weekBegins":"byLanguage"}""";
        Assert.Equal(Usual, Of(await one.GetAsync<JsonElement>("/api/session")));
        await one.PutAsync<JsonElement>("/api/session/dates", new { language = "de-CH", hours = "twentyFour", weekBegins = "sunday" });
        await one.PutAsync<JsonElement>("/api/session/dates", new { language = "de-CH", hours = "twelve", weekBegins = "monday" });
        Assert.Equal("""{"language":"de-CH","hours":"twelve","weekBegins":"monday"}""", Of(await one.GetAsync<JsonElement>("/api/session")));
        // Another window of theirs has it with its signing in.
        Assert.Equal("""{"language":"de-CH","hours":"twelve","weekBegins":"monday"}""", Of(await (await office.AsAsync(login)).GetAsync<JsonElement>("/api/session")));
        Assert.Equal(Usual, Of(await (await office.AsAsync("checker")).GetAsync<JsonElement>("/api/session")));
        foreach (var language in new[] { "German (Switzerland)", "d", "de_CH", "de-", new string('a', 9), "de\n" })
            Assert.Equal((422, "bad-language"), await one.RefusedAsync("/api/session/dates", new { language, hours = "twelve", weekBegins = "monday" }, HttpMethod.Put));
        Assert.Equal(422, (await one.RefusedAsync("/api/session/dates", new { language = "de-" + string.Join('-', Enumerable.Repeat("abcd", 8)), hours = "twelve", weekBegins = "monday" }, HttpMethod.Put)).Status);
    }

    [Fact]
    public async Task WhatIsPinnedIsAtHandAndNothingThatOneMayNotSee()
    {
        var author = await office.AsAsync("author");
        var document = await Office.RegisterAsync(author, "pin");
        var package = await office.SendAsync(author, document);
        var (_, login) = await office.SomebodyAsync();
        var one = await office.AsAsync(login);
        async Task<List<Guid>> PinsAsync() => [.. (await one.GetAsync<JsonElement>("/api/pins")).EnumerateArray().Select(p => p.GetProperty("id").GetGuid())];
        Assert.Empty(await PinsAsync());
        await one.PutAsync<JsonElement>($"/api/pins/documents/{document}", new { });
        await one.PutAsync<JsonElement>($"/api/pins/packages/{package}", new { });
        // Pressed twice, in two windows: it is pinned once, and where it was.
        await Task.WhenAll(Enumerable.Range(0, 6).Select(_ => one.PutAsync<JsonElement>($"/api/pins/documents/{document}", new { })));
        Assert.Equal([package, document], await PinsAsync());
        await one.DeleteAsync($"/api/pins/packages/{package}");
        await one.DeleteAsync($"/api/pins/packages/{package}");
        Assert.Equal([document], await PinsAsync());
        Assert.Empty((await author.GetAsync<JsonElement>("/api/pins")).EnumerateArray());

        Assert.Equal(404, (await one.RefusedAsync($"/api/pins/packages/{Guid.NewGuid()}", new { }, HttpMethod.Put)).Status);
        Assert.Equal(404, (await one.RefusedAsync($"/api/pins/packages/{document}", new { }, HttpMethod.Put)).Status);
        var guest = await GuestAsync();
        Assert.Equal(404, (await guest.RefusedAsync($"/api/pins/documents/{document}", new { }, HttpMethod.Put)).Status);
        Assert.Equal(404, (await guest.RefusedAsync($"/api/pins/packages/{package}", new { }, HttpMethod.Put)).Status);
        // What was pinned while it could be seen is not shown when it cannot be any more.
        var seen = (await guest.GetAsync<JsonElement>("/api/session")).GetProperty("person").GetProperty("id").GetGuid();
        await office.OwnerDb.RunAsync("INSERT INTO pin (person_id, document_id, at) VALUES ($1, $2, now())", [seen, document]);
        Assert.Empty((await guest.GetAsync<JsonElement>("/api/pins")).EnumerateArray());
        Assert.Equal(HttpStatusCode.OK, await guest.StatusAsync("/api/pins"));
    }

    [Fact]
    public async Task NobodyPinsWithoutEnd()
    {
        var (id, login) = await office.SomebodyAsync();
        var one = await office.AsAsync(login);
        await office.OwnerDb.RunAsync("INSERT INTO pin (person_id, document_id, at) SELECT $1, id, now() FROM document LIMIT 29", [id]);
        var author = await office.AsAsync("author");
        var held = await office.OwnerDb.ListAsync("SELECT count(*) FROM pin WHERE person_id = $1", r => r.GetInt64(0), [id]);
        for (var more = held[0]; more < 30; more++) await one.PutAsync<JsonElement>($"/api/pins/documents/{await Office.RegisterAsync(author, $"pin {more}")}", new { });
        Assert.Equal((422, "too-many"), await one.RefusedAsync($"/api/pins/documents/{await Office.RegisterAsync(author, "one pin more")}", new { }, HttpMethod.Put));
    }

    private async Task<Browser> GuestAsync()
    {
        var login = "pin-" + Guid.NewGuid().ToString("n")[..10];
        await new Froe.Store.People(office.Db).AddAsync(new Froe.Store.Person(Guid.CreateVersion7(), login, login, "P", "", "p@office.example", "UTC", true), Office.PasswordHash, ["Guests"]);
        return await office.AsAsync(login);
    }
}
