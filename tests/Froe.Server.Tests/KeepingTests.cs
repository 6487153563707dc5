using System.Net;
using System.Net.Http.Json;
using System.Security.Cryptography;
using System.Security.Cryptography.X509Certificates;
using System.Text.Json;
using Froe.Core.Routing;
using Froe.Server.Desk;
using Froe.Store;
using Microsoft.AspNetCore.DataProtection.KeyManagement;
using Microsoft.Extensions.DependencyInjection;
using Xunit;

namespace Froe.Server.Tests;

/// <summary>What people and administrators keep for themselves and others: absences, messages, packages put aside, people, groups and calendars.</summary>
public class KeepingTests(Office office)
{
    /// <summary>Somebody of this test's own, so that others do not meet what it does to them.</summary>
    private async Task<(Guid Id, string Login)> SomebodyAsync(params string[] groups)
    {
        var (id, login) = (Guid.CreateVersion7(), "keep-" + Guid.NewGuid().ToString("n")[..10]);
        await new People(office.Db).AddAsync(new Person(id, login, login, "K", "", "keep@office.example", "UTC", false), Office.PasswordHash, ["Staff", .. groups]);
        return (id, login);
    }

    private static object Away(Guid person, int from, int to, Guid? deputy = null) => new { person, firstDay = DateOnly.FromDateTime(DateTime.UtcNow).AddDays(from), backDay = DateOnly.FromDateTime(DateTime.UtcNow).AddDays(to), deputy };

    private static List<Guid> Ids(JsonElement rows) => [.. rows.EnumerateArray().Select(r => r.GetProperty("id").GetGuid())];

    [Fact]
    public async Task AnAbsenceIsEnteredChangedAndRemovedByWhoeverItIsAndByCoordinators()
    {
        var ((me, login), (other, otherLogin)) = (await SomebodyAsync(), await SomebodyAsync());
        var (mine, theirs, coordinator, guest) = (await office.AsAsync(login), await office.AsAsync(otherLogin), await office.AsAsync("coordinator"), await office.AsAsync("guest"));
        Assert.Equal((422, "bad-dates"), await mine.RefusedAsync("/api/absences", Away(me, 5, 5 - 1)));
        Assert.Equal((422, "own-deputy"), await mine.RefusedAsync("/api/absences", Away(me, 1, 5, me)));
        Assert.Equal((404, "not-found"), await mine.RefusedAsync("/api/absences", Away(me, 1, 5, Guid.NewGuid())));
        Assert.Equal((403, "not-allowed"), await mine.RefusedAsync("/api/absences", Away(other, 1, 5)));
        Assert.Equal((403, "not-allowed"), await guest.RefusedAsync("/api/absences", Away(office.Ids["guest"], 1, 5)));
        Assert.Equal(HttpStatusCode.Forbidden, await guest.StatusAsync("/api/absences"));
        var absence = (await mine.PostAsync<JsonElement>("/api/absences", Away(me, 1, 5))).GetProperty("id").GetGuid();
        await coordinator.PostAsync<JsonElement>("/api/absences", Away(other, 1, 5, me));

        // Somebody else's absence is as good as not there.
        Assert.Equal((404, "not-found"), await theirs.RefusedAsync($"/api/absences/{absence}", new { deputy = other }, HttpMethod.Put));
        Assert.Equal((422, "own-deputy"), await mine.RefusedAsync($"/api/absences/{absence}", new { deputy = me }, HttpMethod.Put));
        Assert.Equal((404, "not-found"), await mine.RefusedAsync($"/api/absences/{absence}", new { deputy = Guid.NewGuid() }, HttpMethod.Put));
        await mine.PutAsync<JsonElement>($"/api/absences/{absence}", new { deputy = other });
        Assert.Equal(other, (await mine.GetAsync<JsonElement>("/api/absences")).EnumerateArray().Single(a => a.GetProperty("id").GetGuid() == absence).GetProperty("deputy").GetGuid());
        await coordinator.DeleteAsync($"/api/absences/{absence}");
        Assert.DoesNotContain(absence, Ids(await mine.GetAsync<JsonElement>("/api/absences")));

        await mine.PostAsync<JsonElement>("/api/absences/asked", new { person = other });
        Assert.Contains((await theirs.GetAsync<JsonElement>("/api/messages")).GetProperty("rows").EnumerateArray(), m => m.GetProperty("subject").GetString()!.EndsWith("asks you to name a deputy", StringComparison.Ordinal));
    }

    [Fact]
    public async Task MessagesComeInPagesNewestFirstAndAreReadOneByOneOrAllAtOnce()
    {
        var (id, login) = await SomebodyAsync();
        var at = DateTime.UtcNow.AddHours(-3);
        // Several at the same instant: the page's key is the time and the id.
        await office.Db.RunAsync("INSERT INTO message (id, person_id, at, subject, body, link) SELECT gen_random_uuid(), $1, $2 + (n / 7) * interval '1 second', 'm' || n, '', '/' FROM generate_series(1, 120) n", [id, at]);
        var me = await office.AsAsync(login);
        var rows = await me.RowsAsync("/api/messages?");
        Assert.Equal(rows.Select(r => r.GetProperty("at").GetDateTime()).OrderDescending(), rows.Select(r => r.GetProperty("at").GetDateTime()));
        var seen = rows.ConvertAll(r => r.GetProperty("id").GetGuid());
        Assert.Equal((120, 120), (seen.Count, seen.Distinct().Count()));
        Assert.Equal(Enumerable.Reverse(seen), (await me.RowsAsync("/api/messages?sort=at")).Select(r => r.GetProperty("id").GetGuid()));
        Assert.Equal("m77", Assert.Single(await me.RowsAsync("/api/messages?search=7%20m77")).GetProperty("subject").GetString());

        async Task<int> UnreadAsync() => (await me.GetAsync<Counts>("/api/counts")).Unread;
        await me.PostAsync<JsonElement>("/api/messages/read", new { id = seen[0] });
        Assert.Equal(119, await UnreadAsync());
        Assert.DoesNotContain(seen[0], (await me.RowsAsync("/api/messages?unread=true")).Select(r => r.GetProperty("id").GetGuid()));
        // Another's message is not mine to read.
        await (await office.AsAsync("bystander")).PostAsync<JsonElement>("/api/messages/read", new { id = seen[1] });
        Assert.Equal(119, await UnreadAsync());
        await me.PostAsync<JsonElement>("/api/messages/read", new { id = (Guid?)null });
        Assert.Equal(0, await UnreadAsync());
        Assert.Empty(await me.RowsAsync("/api/messages?unread=true"));
    }

    [Fact]
    public async Task KeysOfSessionsLieEncryptedInTheDatabase()
    {
        var file = Path.Combine(Path.GetTempPath(), $"froe-{Guid.NewGuid()}.pem");
        using (var rsa = RSA.Create(2048))
        using (var made = new CertificateRequest("CN=froe", rsa, HashAlgorithmName.SHA256, RSASignaturePadding.Pkcs1).CreateSelfSigned(DateTimeOffset.UtcNow.AddDays(-1), DateTimeOffset.UtcNow.AddDays(1)))
            await File.WriteAllTextAsync(file, made.ExportCertificatePem() + "\n" + rsa.ExportPkcs8PrivateKeyPem());
        ServiceProvider Server(string certificate)
        {
            var services = new ServiceCollection().AddLogging();
            services.Configure<Settings>(s => s.Database = Environment.GetEnvironmentVariable("FROE_DATABASE")!);
            return services.AddFroe(new Settings { KeyCertificate = certificate }).BuildServiceProvider();
        }
        await using var with = Server(file);
        await using var without = Server("");
        // Used by nobody for a year: the tests beside this one know nothing of it.
        var key = with.GetRequiredService<IKeyManager>().CreateNewKey(DateTimeOffset.UtcNow.AddYears(1), DateTimeOffset.UtcNow.AddYears(2));
        try
        {
            var kept = Assert.Single(await office.Db.ListAsync("SELECT xml FROM server_key WHERE name = $1", r => r.GetString(0), [$"key-{key.KeyId}"]));
            Assert.Contains("<EncryptedData", kept, StringComparison.Ordinal);
            Assert.DoesNotContain("<masterKey", kept, StringComparison.Ordinal);
            IKey Again(ServiceProvider server) => server.GetRequiredService<IKeyManager>().GetAllKeys().Single(k => k.KeyId == key.KeyId);
            Assert.NotNull(Again(with).CreateEncryptor());
            Assert.Throws<CryptographicException>(() => Again(without).CreateEncryptor());
        }
        finally
        {
            await office.OwnerDb.RunAsync("DELETE FROM server_key WHERE name = $1", [$"key-{key.KeyId}"]);
            File.Delete(file);
        }
    }

    [Fact]
    public async Task HowPeopleSignInAndAreReachedIsForAdministrators()
    {
        async Task<bool> TellsAsync(string who) => (await (await office.AsAsync(who)).GetAsync<JsonElement>("/api/people")).EnumerateArray().Any(p => p.GetProperty("login").GetString() + p.GetProperty("email").GetString() != "");
        Assert.True(await TellsAsync("coordinator"));
        Assert.False(await TellsAsync("checker"));
        Assert.False(await TellsAsync("guest"));
    }

    [Fact]
    public async Task AGuestLearnsTheNamesOfThoseTheyMeetInAPackageOnly()
    {
        var (author, guestPerson) = (await office.AsAsync("author"), Guid.CreateVersion7());
        var login = "guest-" + Guid.NewGuid().ToString("n")[..8];
        await new People(office.Db).AddAsync(new Person(guestPerson, login, login, "G", "", "g@office.example", "UTC", true), Office.PasswordHash, ["Guests"]);
        var guest = await office.AsAsync(login);
        async Task<string[]> MetAsync() => [.. (await guest.GetAsync<JsonElement>("/api/people")).EnumerateArray().Select(p => p.GetProperty("name").GetString()!)];
        Assert.Equal([login], await MetAsync());
        Assert.Equal(0, (await guest.GetAsync<JsonElement>("/api/groups")).GetArrayLength());
        await author.PostAsync<JsonElement>("/api/packages", new { key = Guid.NewGuid(), title = "For a guest", coveringNote = "", plan = office.Plan, documents = new[] { await Office.RegisterAsync(author, login) }, inform = new[] { guestPerson } });
        Assert.Equal(["author", "checker", login, "lead", "q1", "q2", "q3"], await MetAsync());
    }

    [Fact]
    public async Task MailHoursAreKeptAndNonsenseIsRefused()
    {
        var (_, login) = await SomebodyAsync();
        var me = await office.AsAsync(login);
        var usual = await me.GetAsync<JsonElement>("/api/post-hours");
        Assert.Equal((422, "bad-hours"), await me.RefusedAsync("/api/post-hours", new { mode = "daily", digestAt = 1440, quietFrom = 0, quietTo = 0 }, HttpMethod.Put));
        Assert.Equal(usual.GetRawText(), (await me.GetAsync<JsonElement>("/api/post-hours")).GetRawText());
        await me.PutAsync<JsonElement>("/api/post-hours", new { mode = "daily", digestAt = 450, quietFrom = 1200, quietTo = 360 });
        var kept = await me.GetAsync<JsonElement>("/api/post-hours");
        Assert.Equal(("daily", 450, 1200, 360), (kept.GetProperty("mode").GetString(), kept.GetProperty("digestAt").GetInt32(), kept.GetProperty("quietFrom").GetInt32(), kept.GetProperty("quietTo").GetInt32()));
    }

    [Fact]
    public async Task APackagePutAsideIsItsOwnersAlone()
    {
        var ((_, login), (_, otherLogin)) = (await SomebodyAsync("Originators"), await SomebodyAsync("Originators"));
        var (mine, theirs) = (await office.AsAsync(login), await office.AsAsync(otherLogin));
        var id = Guid.NewGuid();
        object Prepared(string title) => new { id, title, coveringNote = "later", plan = office.Plan, documents = Array.Empty<Guid>(), answers = new Dictionary<string, string> { ["q"] = "a" } };
        await mine.PutAsync<JsonElement>("/api/prepared", Prepared("first"));
        await mine.PutAsync<JsonElement>("/api/prepared", Prepared("second"));
        Assert.Equal((404, "not-found"), await theirs.RefusedAsync("/api/prepared", Prepared("stolen"), HttpMethod.Put));
        Assert.Empty((await theirs.GetAsync<JsonElement>("/api/prepared")).EnumerateArray());
        Assert.Equal(HttpStatusCode.NotFound, (await theirs.SendAsync($"/api/prepared/{id}", null, HttpMethod.Delete)).StatusCode);
        Assert.Equal("second", Assert.Single((await mine.GetAsync<JsonElement>("/api/prepared")).EnumerateArray().ToList()).GetProperty("title").GetString());
        Assert.Equal((422, "too-long"), await mine.RefusedAsync("/api/prepared", Prepared(new string('x', 201)), HttpMethod.Put));
        await mine.DeleteAsync($"/api/prepared/{id}");
        Assert.Empty((await mine.GetAsync<JsonElement>("/api/prepared")).EnumerateArray());
        Assert.Equal((403, "not-allowed"), await (await office.AsAsync("checker")).RefusedAsync("/api/prepared", Prepared("no right"), HttpMethod.Put));
    }

    [Fact]
    public async Task PeopleAreAddedWithANameOfTheirOwnAndTheirPasswordIsChangedOnlyWhenGiven()
    {
        var admin = await office.AsAsync("coordinator");
        var login = "new-" + Guid.NewGuid().ToString("n")[..8];
        object Wanted(string? password, string zone = "Europe/Oslo", string mail = "new@office.example", string name = "New Person") => new { login, name, initials = "NP", title = "", email = mail, timeZone = zone, isGuest = false, password };
        Assert.Equal((422, "short-password"), await admin.RefusedAsync("/api/people", Wanted("short")));
        Assert.Equal((422, "short-password"), await admin.RefusedAsync("/api/people", Wanted(null)));
        Assert.Equal((422, "bad-zone"), await admin.RefusedAsync("/api/people", Wanted(Office.Password, zone: "Europe/Atlantis")));
        Assert.Equal((422, "bad-email"), await admin.RefusedAsync("/api/people", Wanted(Office.Password, mail: "nowhere")));
        Assert.Equal((422, "bad-name"), await admin.RefusedAsync("/api/people", Wanted(Office.Password, name: " ")));
        var id = (await admin.PostAsync<JsonElement>("/api/people", Wanted(Office.Password))).GetProperty("id").GetGuid();
        Assert.Equal((409, "login-taken"), await admin.RefusedAsync("/api/people", Wanted(Office.Password)));
        await admin.PutAsync<JsonElement>($"/api/people/{id}", Wanted(null, name: "Renamed Person"));
        await office.AsAsync(login);
        await admin.PutAsync<JsonElement>($"/api/people/{id}", Wanted("another long password"));
        await office.AsAsync(login, "another long password");
        Assert.Equal((422, "short-password"), await admin.RefusedAsync($"/api/people/{id}", Wanted("short"), HttpMethod.Put));
        Assert.Equal((422, "common-password"), await admin.RefusedAsync($"/api/people/{id}", Wanted("password12345"), HttpMethod.Put));
        Assert.Equal((404, "not-found"), await admin.RefusedAsync($"/api/people/{Guid.NewGuid()}", Wanted(null, name: "Nobody at all"), HttpMethod.Put));
    }

    [Fact]
    public async Task AGroupThatAPlanNeedsStaysAndOneThatNoneNeedsGoes()
    {
        var admin = await office.AsAsync("coordinator");
        var name = "Group " + Guid.NewGuid();
        var group = (await admin.PostAsync<JsonElement>("/api/groups", new { name, members = new[] { office.Ids["q1"], office.Ids["q1"] } })).GetProperty("id").GetGuid();
        Assert.Equal((409, "name-taken"), await admin.RefusedAsync("/api/groups", new { name, members = Array.Empty<Guid>() }));
        Assert.Equal((404, "not-found"), await admin.RefusedAsync($"/api/groups/{group}", new { name, members = new[] { Guid.NewGuid() } }, HttpMethod.Put));
        Assert.Equal((404, "not-found"), await admin.RefusedAsync($"/api/groups/{group}/rights", new { rights = new[] { new { right = "read", folder = "No such folder " + name } } }, HttpMethod.Put));
        var plan = Guid.CreateVersion7();
        await office.AddPlanAsync(plan, new Plan(name, "", new([new Step("s", "Sign", "Sign.", 1, [new Seat("s", "Any", new GroupHolder(group, 1))])])));
        var refused = await admin.SendAsync($"/api/groups/{group}", null, HttpMethod.Delete);
        Assert.Equal(HttpStatusCode.Conflict, refused.StatusCode);
        Assert.Contains(name, (await refused.Content.ReadFromJsonAsync<JsonElement>()).GetProperty("title").GetString(), StringComparison.Ordinal);
        await office.Db.RunAsync("UPDATE plan SET retired = true WHERE id = $1", [plan]);
        await admin.DeleteAsync($"/api/groups/{group}");
        Assert.DoesNotContain(group, Ids(await admin.GetAsync<JsonElement>("/api/groups")));
        // Its chain keeps what was done to it.
        Assert.Equal(["group made", "group removed"], await office.Db.ListAsync("SELECT action FROM ledger_entry WHERE chain = $1 ORDER BY sequence", r => r.GetString(0), [group]));
    }

    [Fact]
    public async Task ACalendarNobodyWorksByGoesWithItsHolidays()
    {
        var admin = await office.AsAsync("coordinator");
        var week = Enumerable.Range(0, 7).Select(d => d is 0 or 6 ? [] : new[] { new { from = 480, to = 960 } }).ToArray();
        object Calendar(object[] holidays, object[][]? other = null) => new { name = "Calendar " + Guid.NewGuid(), week = other ?? week, holidays };
        object Day(string day, params object[] left) => new { day, name = "Half", left };
        Assert.Equal((422, "bad-week"), await admin.RefusedAsync("/api/calendars", Calendar([], [[], []])));
        Assert.Equal((422, "no-work"), await admin.RefusedAsync("/api/calendars", Calendar([], [[], [], [], [], [], [], []])));
        // A part without an end is no part that ends at midnight.
        Assert.Equal((400, "unreadable"), await admin.RefusedAsync("/api/calendars", Calendar([Day("2026-12-24", new { from = 480 })])));
        Assert.Equal((422, "holiday-twice"), await admin.RefusedAsync("/api/calendars", Calendar([Day("2026-12-24"), Day("2026-12-24")])));
        Assert.Equal((422, "bad-hours"), await admin.RefusedAsync("/api/calendars", Calendar([Day("2026-12-24", new { from = 480, to = 720 }, new { from = 700, to = 800 })])));
        var id = (await admin.PostAsync<JsonElement>("/api/calendars", Calendar([Day("2026-12-24", new { from = 480, to = 720 }), Day("2026-12-25")]))).GetProperty("id").GetGuid();
        var made = (await admin.GetAsync<JsonElement>("/api/calendars")).EnumerateArray().Single(c => c.GetProperty("id").GetGuid() == id);
        Assert.Equal([1, 0], made.GetProperty("holidays").EnumerateArray().Select(h => h.GetProperty("left").GetArrayLength()));
        Assert.Equal((404, "not-found"), await admin.RefusedAsync($"/api/calendars/{Guid.NewGuid()}", Calendar([]), HttpMethod.Put));
        await admin.DeleteAsync($"/api/calendars/{id}");
        Assert.Equal(HttpStatusCode.Conflict, (await admin.SendAsync($"/api/calendars/{id}", null, HttpMethod.Delete)).StatusCode);
    }
}
