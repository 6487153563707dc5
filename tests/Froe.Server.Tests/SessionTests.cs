using System.Net;
using System.Text.Json;
using Froe.Server.SignIn;
using Froe.Store;
using Microsoft.AspNetCore.Hosting;
using Microsoft.Extensions.DependencyInjection;
using Xunit;

namespace Froe.Server.Tests;

/// <summary>Sessions begin and end; passwords change; links are good once.</summary>
public class SessionTests(Office office)
{
    private async Task<(Guid Id, string Login)> SomebodyAsync(params string[] groups)
    {
        var (id, login) = (Guid.CreateVersion7(), "session-" + Guid.NewGuid().ToString("n")[..10]);
        await new People(office.Db).AddAsync(new Person(id, login, login, "S", "", "s@office.example", "UTC", false), Office.PasswordHash, ["Staff", .. groups]);
        return (id, login);
    }

    [Fact]
    public async Task OnesOwnSessionsAreListedAndEndedAndANewPasswordEndsTheOthers()
    {
        var (id, login) = await SomebodyAsync();
        var (one, two, three) = (await office.AsAsync(login), await office.AsAsync(login), await office.AsAsync(login));
        var sessions = (await one.GetAsync<JsonElement>("/api/sessions")).EnumerateArray().ToList();
        Assert.Equal((3, 1), (sessions.Count, sessions.Count(s => s.GetProperty("isThis").GetBoolean())));
        var twos = (await two.GetAsync<JsonElement>("/api/sessions")).EnumerateArray().Single(s => s.GetProperty("isThis").GetBoolean()).GetProperty("id").GetGuid();
        // Another's session is nobody else's to end.
        Assert.Equal(HttpStatusCode.NotFound, (await (await office.AsAsync("lead")).SendAsync($"/api/sessions/{twos}", null, HttpMethod.Delete)).StatusCode);
        await one.DeleteAsync($"/api/sessions/{twos}");
        Assert.Equal(HttpStatusCode.Unauthorized, await two.StatusAsync("/api/desk"));

        Assert.Equal((422, "wrong-password"), await one.RefusedAsync("/api/session/password", new { now = "not it at all", @new = "a wholly new phrase" }, HttpMethod.Put));
        Assert.Equal((422, "short-password"), await one.RefusedAsync("/api/session/password", new { now = Office.Password, @new = "short" }, HttpMethod.Put));
        await one.PutAsync<JsonElement>("/api/session/password", new { now = Office.Password, @new = "a wholly new phrase" });
        Assert.Equal(HttpStatusCode.OK, await one.StatusAsync("/api/desk"));
        Assert.Equal(HttpStatusCode.Unauthorized, await three.StatusAsync("/api/desk"));
        await office.AsAsync(login, "a wholly new phrase");
        Assert.Contains("\"passwordSet\":true", (await office.Db.ListAsync("SELECT payload FROM ledger_entry WHERE chain = $1 AND action = 'person changed'", r => r.GetString(0), [id]))[0], StringComparison.Ordinal);
    }

    [Fact]
    public async Task WhatTheSecurityLogCutsIsStillTextAndHoldsNothingUp()
    {
        var ((id, _), admin) = (await SomebodyAsync(), await office.AsAsync("coordinator"));
        // The telescope is two units of UTF-16, and the cut falls between them.
        await admin.PutAsync<JsonElement>($"/api/people/{id}/barring", new { reason = new string('x', 399) + "\U0001F52D and more" });
        List<string> words = [];
        for (var i = 0; i < 600 && words.Count == 0; i++)
        {
            await Task.Delay(100);
            words = await office.Db.ListAsync("SELECT words FROM security_event WHERE person_id = $1 AND kind = 'person barred'", r => r.GetString(0), [id]);
        }
        Assert.Equal([new string('x', 399)], words);
    }

    [Fact]
    public async Task APasswordSetByAnAdministratorEndsEverySessionOfThatPerson()
    {
        var ((id, login), admin) = (await SomebodyAsync(), await office.AsAsync("coordinator"));
        var there = await office.AsAsync(login);
        await admin.PutAsync<JsonElement>($"/api/people/{id}", new { login, name = login, initials = "S", title = "", email = "s@office.example", timeZone = "UTC", isGuest = false, password = "set by somebody else" });
        Assert.Equal(HttpStatusCode.Unauthorized, await there.StatusAsync("/api/desk"));
    }

    [Fact]
    public async Task ASessionEndsUnusedAndAtLastInAnyCase()
    {
        var (id, login) = await SomebodyAsync();
        foreach (var change in new[] { "seen_at = now() - interval '9 hours'", "ends_at = now() - interval '1 second'" })
        {
            var there = await office.AsAsync(login);
            Assert.Equal(HttpStatusCode.OK, await there.StatusAsync("/api/desk"));
            await office.Db.RunAsync($"UPDATE session SET {change} WHERE person_id = $1", [id]);
            await Task.Delay(600);
            Assert.Equal(HttpStatusCode.Unauthorized, await there.StatusAsync("/api/desk"));
        }
    }

    [Fact]
    public async Task AGuestIsMadeAndUnmadeAndLosesWhatEverybodyInTheOfficeHas()
    {
        var ((id, login), admin) = (await SomebodyAsync(), await office.AsAsync("coordinator"));
        var there = await office.AsAsync(login);
        object Wanted(bool isGuest) => new { login, name = login, initials = "S", title = "", email = "s@office.example", timeZone = "UTC", isGuest };
        Assert.Equal(HttpStatusCode.OK, await there.StatusAsync("/api/plans"));
        await admin.PutAsync<JsonElement>($"/api/people/{id}", Wanted(true));
        Assert.True((await there.GetAsync<JsonElement>("/api/session")).GetProperty("person").GetProperty("isGuest").GetBoolean());
        Assert.Equal(HttpStatusCode.Forbidden, await there.StatusAsync("/api/plans"));
        await admin.PutAsync<JsonElement>($"/api/people/{id}", Wanted(false));
        Assert.Equal(HttpStatusCode.OK, await there.StatusAsync("/api/plans"));
        Assert.Contains("guest from now on", (await office.Db.ListAsync("SELECT payload FROM ledger_entry WHERE chain = $1 ORDER BY sequence", r => r.GetString(0), [id]))[0], StringComparison.Ordinal);
    }

    [Fact]
    public async Task WhatSomebodyHoldsIsListedBeforeTheyAreBarred()
    {
        var ((id, login), admin) = (await SomebodyAsync("Originators"), await office.AsAsync("coordinator"));
        var author = await office.AsAsync(login);
        Assert.Empty((await admin.GetAsync<JsonElement>($"/api/people/{id}/holds")).EnumerateArray());
        await office.SendAsync(author, await Office.RegisterAsync(author, "held"));
        await Office.RegisterAsync(author, "held as well");
        var holds = (await admin.GetAsync<JsonElement>($"/api/people/{id}/holds")).EnumerateArray().ToDictionary(h => h.GetProperty("kind").GetString()!, h => h.GetProperty("count").GetInt32());
        Assert.Equal((1, 2), (holds["packages"], holds["documents"]));
        Assert.Equal((403, "not-allowed"), await (await office.AsAsync("lead")).RefusedAsync($"/api/people/{id}/barring", new { reason = "x" }, HttpMethod.Put));
        Assert.Equal((422, "own-self"), await admin.RefusedAsync($"/api/people/{office.Ids["coordinator"]}/barring", new { reason = "x" }, HttpMethod.Put));
    }

    [Fact]
    public async Task ALinkSetsAPasswordOnce()
    {
        var (id, login) = await SomebodyAsync();
        var key = Guid.NewGuid().ToString("n");
        await office.Db.RunAsync("INSERT INTO invitation (sha256, person_id, ends_at) VALUES (sha256(convert_to($1, 'UTF8')), $2, now() + interval '1 day'), (sha256(convert_to($1 || 'old', 'UTF8')), $2, now() - interval '1 second')", [key, id]);
        var stranger = new Browser(office.CreateClient());
        await stranger.RefreshAsync();
        Assert.Equal((422, "invitation-over"), await stranger.RefusedAsync("/api/session/invitation", new { key = key + "old", password = "a phrase of my own" }));
        Assert.Equal((422, "common-password"), await stranger.RefusedAsync("/api/session/invitation", new { key, password = "password1234" }));
        Assert.Equal(login, (await stranger.PostAsync<JsonElement>("/api/session/invitation", new { key, password = "a phrase of my own" })).GetProperty("person").GetProperty("login").GetString());
        await stranger.RefreshAsync();
        Assert.Equal(HttpStatusCode.OK, await stranger.StatusAsync("/api/desk"));
        var second = new Browser(office.CreateClient());
        await second.RefreshAsync();
        Assert.Equal((422, "invitation-over"), await second.RefusedAsync("/api/session/invitation", new { key, password = "a phrase of theirs" }));
        await office.AsAsync(login, "a phrase of my own");
    }

    [Fact]
    public async Task APasswordKeptByFewerRoundsIsKeptAnewAtSignIn()
    {
        var (id, login) = await SomebodyAsync();
        var old = Passwords.Hash(Office.Password, Office.PasswordRounds / 2);
        await office.Db.RunAsync("UPDATE person SET password_hash = $2 WHERE id = $1", [id, old]);
        await office.AsAsync(login);
        var now = (await office.Db.ListAsync("SELECT password_hash FROM person WHERE id = $1", r => r.GetString(0), [id]))[0];
        Assert.NotEqual(old, now);
        Assert.Equal(Office.PasswordRounds, System.Buffers.Binary.BinaryPrimitives.ReadInt32BigEndian(Convert.FromBase64String(now).AsSpan(5)));
    }

    [Fact]
    public void PeoplesPasswordsAreNotHashedByFewerRoundsThanAreAskedFor()
    {
        Assert.Equal(210_000, new Settings().PasswordRounds);
        using var house = office.WithWebHostBuilder(b => b.UseEnvironment("Production"));
        Assert.Contains("210000", Assert.Throws<InvalidOperationException>(() => house.CreateClient()).Message, StringComparison.Ordinal);
    }

    [Fact]
    public async Task WhatHappensAtTheDoorsIsInTheSecurityLog()
    {
        var ((id, login), admin) = (await SomebodyAsync(), await office.AsAsync("coordinator"));
        var there = new Browser(office.CreateClient());
        await there.RefreshAsync();
        Assert.Equal((422, "wrong-sign-in"), await there.RefusedAsync("/api/session", new { login, password = "not it at all" }));
        var me = await office.AsAsync(login);
        Assert.Equal((422, "wrong-password"), await me.RefusedAsync("/api/session/confirm", new { password = "not it at all" }));
        Assert.Equal((403, "not-allowed"), await me.RefusedAsync("/api/groups", new { name = "x", members = Array.Empty<Guid>() }));
        await me.DeleteAsync("/api/session");
        List<string?> kinds = [];
        for (var i = 0; i < 600 && kinds.Count < 5; i++)
        {
            await Task.Delay(100);
            kinds = [.. (await admin.RowsAsync($"/api/security?sort=at&person={id}")).Concat(await admin.RowsAsync($"/api/security?search={login}&kind=sign-in%20failed")).Select(r => r.GetProperty("kind").GetString())];
        }
        Assert.Equal(["signed in", "confirmation failed", "refused", "signed out", "sign-in failed"], kinds);
        Assert.Equal(HttpStatusCode.Forbidden, await (await office.AsAsync("lead")).StatusAsync("/api/security"));
    }

    [Fact]
    public async Task WindowsThatSignInAtOnceDoNotWaitForOneAnother()
    {
        var (doors, login) = (office.Services.GetRequiredService<Doors>(), "at-once-" + Guid.NewGuid().ToString("n")[..8]);
        await Task.WhenAll(Enumerable.Range(0, 8).Select(_ => Task.Run(async () =>
        {
            // One request's context is for one thread: each window has its own.
            var there = new Microsoft.AspNetCore.Http.DefaultHttpContext { Connection = { RemoteIpAddress = IPAddress.Parse("192.0.2.77") } };
            for (var i = 0; i < 60; i++) await doors.OpenedAsync(await doors.TryAsync(there, login, default), default);
        })));
        // Each counted once at the address, and was taken back once; of the account nothing is left.
        Assert.Equal([("address 192.0.2.77", 0)], await office.Db.ListAsync("SELECT at, wrong FROM guess WHERE at = ANY ($1)", r => (r.GetString(0), r.GetInt32(1)), [new[] { $"account {login}", "address 192.0.2.77" }]));
    }

    [Fact]
    public async Task OldKeysOfRequestsCountsAndSessionsAreSwept()
    {
        var (id, _) = await SomebodyAsync();
        await office.Db.RunAsync("INSERT INTO request_seen VALUES ($1, gen_random_uuid(), now() - interval '8 days', '{}'), ($1, gen_random_uuid(), now() - interval '6 days', '{}')", [id]);
        await office.Db.RunAsync("INSERT INTO session VALUES (gen_random_uuid(), $1, now() - interval '91 days', now(), now(), NULL, '', ''), (gen_random_uuid(), $1, now() - interval '89 days', now(), now(), NULL, '', '')", [id]);
        await new Sweeping(office.Db, office.Services.GetRequiredService<Sessions>(), TimeProvider.System, Microsoft.Extensions.Logging.Abstractions.NullLogger<Sweeping>.Instance).SweepAsync(default);
        Assert.Equal([1, 1], await office.Db.ListAsync("SELECT (SELECT count(*) FROM request_seen WHERE person_id = $1)::int UNION ALL SELECT (SELECT count(*) FROM session WHERE person_id = $1)::int", r => r.GetInt32(0), [id]));
    }
}
