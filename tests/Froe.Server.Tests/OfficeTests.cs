using System.Text.Json;
using Froe.Core.Register;
using Xunit;

namespace Froe.Server.Tests;

/// <summary>Rights by group and folder, folders, their standings, calendars, through HTTP on a real database.</summary>
public class OfficeTests(Office office)
{
    private async Task<T> OneAsync<T>(string sql, params object?[] values) => (await office.Db.ListAsync(sql, r => r.GetFieldValue<T>(0), values))[0];

    private static async Task<Guid> RegisterAsync(Browser author, string folder)
    {
        var upload = await author.UploadAsync("sheet.dxf", Office.Drawing(Guid.NewGuid().ToString()));
        return (await author.PostAsync<JsonElement>("/api/documents", new { number = "F-" + Guid.NewGuid(), title = "Filed", kind = "drawing", discipline = "test", upload, reason = "", folder })).GetProperty("document").GetGuid();
    }

    [Fact]
    public async Task RightsAreGivenToGroupsForFoldersAndHoldOnTheNextRequest()
    {
        var (admin, author) = (await office.AsAsync("coordinator"), await office.AsAsync("author"));
        var (folder, other) = ("Rights " + Guid.NewGuid(), "Other " + Guid.NewGuid());
        Assert.Equal((403, "not-allowed"), await author.RefusedAsync("/api/folders", new { path = folder }));
        foreach (var path in new[] { folder + "/Deep/Deeper", other }) await admin.PostAsync<JsonElement>("/api/folders", new { path });
        var (login, password) = ("newcomer-" + Guid.NewGuid().ToString("n")[..8], "first password");
        var person = (await admin.PostAsync<JsonElement>("/api/people", new { login, name = "New Comer", initials = "NC", title = "", email = "n@office.example", timeZone = "Europe/Oslo", isGuest = true, password })).GetProperty("id").GetGuid();
        var newcomer = await office.AsAsync(login, password);
        var (inside, outside) = (await RegisterAsync(author, folder + " / Deep"), await RegisterAsync(author, other));

        Assert.Empty((await newcomer.GetAsync<JsonElement>("/api/documents")).GetProperty("rows").EnumerateArray());
        var group = (await admin.PostAsync<JsonElement>("/api/groups", new { name = "Readers " + login, members = new[] { person } })).GetProperty("id").GetGuid();
        await admin.PutAsync<JsonElement>($"/api/groups/{group}/rights", new { rights = new[] { new { right = "read", folder = folder } } });
        Assert.Equal([inside], (await newcomer.GetAsync<JsonElement>("/api/documents")).GetProperty("rows").EnumerateArray().Select(r => r.GetProperty("id").GetGuid()));
        Assert.Equal(System.Net.HttpStatusCode.NotFound, await newcomer.StatusAsync($"/api/documents/{outside}"));
        var draft = await OneAsync<Guid>("SELECT id FROM draft WHERE document_id = $1", outside);
        Assert.Equal(System.Net.HttpStatusCode.NotFound, await newcomer.StatusAsync($"/api/drafts/{draft}/file"));

        // A right taken away is gone with the next request; the last administrator cannot be.
        await admin.PutAsync<JsonElement>($"/api/groups/{group}/rights", new { rights = Array.Empty<object>() });
        Assert.Equal(System.Net.HttpStatusCode.NotFound, await newcomer.StatusAsync($"/api/documents/{inside}"));
        var administrators = await OneAsync<Guid>("SELECT id FROM person_group WHERE name = 'Administrators'");
        Assert.Equal(409, (int)(await admin.SendAsync($"/api/groups/{administrators}/rights", System.Net.Http.Json.JsonContent.Create(new { rights = Array.Empty<object>() }), HttpMethod.Put)).StatusCode);
        Assert.Equal(1, await OneAsync<long>("SELECT count(*) FROM group_right WHERE group_id = $1", administrators));
    }

    [Fact]
    public async Task NobodySignsOrSendsWithoutTheRightForTheFolder()
    {
        var (admin, author) = (await office.AsAsync("coordinator"), await office.AsAsync("author"));
        var folder = "Sealed " + Guid.NewGuid();
        await admin.PostAsync<JsonElement>("/api/folders", new { path = folder });
        var document = await RegisterAsync(author, folder);
        var staff = await OneAsync<Guid>("SELECT id FROM person_group WHERE name = 'Staff'");
        // From here on the staff may sign in one other folder only; the fixture's other tests must not see that, so a group of one's own is used.
        var group = (await admin.PostAsync<JsonElement>("/api/groups", new { name = "Narrow " + folder, members = Array.Empty<Guid>() })).GetProperty("id").GetGuid();
        await admin.PutAsync<JsonElement>($"/api/groups/{group}/rights", new { rights = new[] { new { right = "sign", folder }, new { right = "send", folder } } });
        var login = "narrow-" + Guid.NewGuid().ToString("n")[..8];
        var person = (await admin.PostAsync<JsonElement>("/api/people", new { login, name = "Nar Row", initials = "NR", title = "", email = "n@office.example", timeZone = "UTC", isGuest = false, password = Office.Password })).GetProperty("id").GetGuid();
        await office.Db.RunAsync("DELETE FROM group_member WHERE person_id = $1 AND group_id = $2", [person, staff]);
        var plan = Guid.CreateVersion7();
        await office.AddPlanAsync(plan, new Froe.Core.Routing.Plan("Narrow " + login, "", new([new Froe.Core.Routing.Step("s", "Sign", "Sign.", 1, [new Froe.Core.Routing.Seat("s", "Signer", new Froe.Core.Routing.PersonHolder(person))])])));
        object Package(Guid of) => new { key = Guid.NewGuid(), title = "Narrow", coveringNote = "", plan, documents = new[] { of }, inform = Array.Empty<Guid>() };

        Assert.Equal((409, "seat-unfillable"), await author.RefusedAsync("/api/packages", Package(document)));
        var stalls = (await author.PostAsync<JsonElement>("/api/plans/preview", new { planId = plan, documents = new[] { document } })).GetProperty("stalls").EnumerateArray().ToList();
        Assert.Contains(stalls, s => s.GetProperty("code").GetString() == "seat-unfillable" && s.GetProperty("says").GetString()!.Contains("lack the right", StringComparison.Ordinal) && s.GetProperty("remedies").GetArrayLength() > 0);
        await admin.PutAsync<JsonElement>($"/api/groups/{group}", new { name = "Narrow " + folder, members = new[] { person } });
        var package = (await author.PostAsync<JsonElement>("/api/packages", Package(document))).GetProperty("id").GetGuid();
        // The right ends between sending and signing.
        await admin.PutAsync<JsonElement>($"/api/groups/{group}", new { name = "Narrow " + folder, members = Array.Empty<Guid>() });
        var narrow = await office.AsAsync(login);
        Assert.Equal((409, "no-right"), await narrow.RefusedAsync($"/api/packages/{package}/sign-offs", await narrow.SignOffAsync(package, "s")));
        await admin.PutAsync<JsonElement>($"/api/groups/{group}", new { name = "Narrow " + folder, members = new[] { person } });
        Assert.Equal("released", await narrow.SignAsync(package, "s"));
    }

    [Fact]
    public async Task DocumentsMoveAlongTheirFoldersStandingsAndAJumpRecordsEveryPassage()
    {
        var (admin, author, checker) = (await office.AsAsync("coordinator"), await office.AsAsync("author"), await office.AsAsync("checker"));
        var folder = "Standings " + Guid.NewGuid();
        await admin.PostAsync<JsonElement>("/api/folders", new { path = folder + " / Inner" });
        var originators = await OneAsync<Guid>("SELECT id FROM person_group WHERE name = 'Originators'");
        object Standings(params string[] names) => new
        {
            path = folder,
            standings = new
            {
                stages = names.Select((n, i) => new { name = n, forUse = i == names.Length - 1 && i > 0, needsAnswers = i == 1 }),
                moves = names.Take(names.Length - 2).Select((n, i) => new { from = n, to = names[i + 1], groups = new[] { originators } }),
            },
        };
        Assert.Equal(422, (int)(await admin.SendAsync("/api/folders/standings", System.Net.Http.Json.JsonContent.Create(Standings("alone")), HttpMethod.Put)).StatusCode);
        await admin.PutAsync<JsonElement>("/api/folders/standings", Standings("in work", "self-checked", "shared", "fit for use"));
        var (one, two) = (await RegisterAsync(author, folder + " / Inner"), await RegisterAsync(author, folder));
        async Task<List<string?>> MoveAsync(Browser who, string to) => [.. (await who.PostAsync<JsonElement>("/api/documents/standings", new { documents = new[] { one, two }, to, reason = "Checked against the list" })).EnumerateArray().Select(r => r.GetProperty("refusal").GetString())];

        Assert.Equal((409, "not-for-use"), await author.RefusedAsync("/api/documents/use", new { documents = new[] { one }, people = new[] { office.Ids["bystander"] }, groups = Array.Empty<Guid>(), reason = "Build", message = "" }));
        Assert.All(await MoveAsync(checker, "self-checked"), r => Assert.Contains("you may not move from in work to self-checked", r, StringComparison.Ordinal));
        // One that is not there has its word; the others move.
        var mixed = (await author.PostAsync<JsonElement>("/api/documents/standings", new { documents = new[] { Guid.NewGuid(), one }, to = "self-checked", reason = "Mixed" })).EnumerateArray().Select(r => r.GetProperty("refusal").GetString());
        Assert.Equal(["There is no such document.", null], mixed);
        Assert.All(await MoveAsync(author, "shared"), Assert.Null);
        Assert.Equal(2, await OneAsync<long>("SELECT count(*) FROM ledger_entry WHERE chain = $1 AND action = 'standing moved'", one));
        Assert.All(await MoveAsync(author, "fit for use"), r => Assert.Contains("from shared to fit for use", r, StringComparison.Ordinal));
        Assert.All(await MoveAsync(admin, "fit for use"), Assert.Null);
        await author.PostAsync<JsonElement>("/api/documents/use", new { documents = new[] { one, two }, people = new[] { office.Ids["bystander"] }, groups = Array.Empty<Guid>(), reason = "Build", message = "Pour on Monday." });
        Assert.Equal("Pour on Monday.", await OneAsync<string>("SELECT body FROM message WHERE person_id = $1 ORDER BY at DESC LIMIT 1", office.Ids["bystander"]));

        // Other bytes were not checked: the next draft begins anew.
        var upload = await author.UploadAsync("next.dxf", Office.Drawing("next"));
        await author.PostAsync<JsonElement>($"/api/documents/{one}/drafts", new { upload, reason = "" });
        Assert.Equal("", (await author.GetAsync<JsonElement>($"/api/documents/{one}")).GetProperty("document").GetProperty("stage").GetString());
    }

    [Fact]
    public async Task FoldersMoveWithAllThatIsInThemAndACopyIsFoundInBoth()
    {
        var (admin, author) = (await office.AsAsync("coordinator"), await office.AsAsync("author"));
        var (from, to, copy) = ("From " + Guid.NewGuid(), "To " + Guid.NewGuid(), "Copy " + Guid.NewGuid());
        foreach (var path in new[] { from + " / In", copy }) await admin.PostAsync<JsonElement>("/api/folders", new { path });
        var document = await RegisterAsync(author, from + " / In");
        Assert.Equal(422, (int)(await admin.SendAsync("/api/folders", System.Net.Http.Json.JsonContent.Create(new { path = from, to = from + " / In / Deeper" }), HttpMethod.Put)).StatusCode);
        await admin.PutAsync<JsonElement>("/api/folders", new { path = from, to });
        await author.PostAsync<JsonElement>("/api/documents/places", new { documents = new[] { document }, folder = copy, copy = true, reason = "Found here, too" });
        foreach (var folder in new[] { to, to + " / In", copy })
            Assert.Equal([document], (await author.GetAsync<JsonElement>("/api/documents?folder=" + Uri.EscapeDataString(folder))).GetProperty("rows").EnumerateArray().Select(r => r.GetProperty("id").GetGuid()));
        Assert.Equal(to + " / In", await OneAsync<string>("SELECT f.path FROM document d JOIN folder f ON f.id = d.folder_id WHERE d.id = $1", document));
        Assert.Equal(409, (int)(await admin.SendAsync("/api/folders?path=" + Uri.EscapeDataString(to + " / In"), null, HttpMethod.Delete)).StatusCode);
    }

    [Fact]
    public async Task ACalendarIsCheckedAndDueTimesFollowIt()
    {
        var (admin, author) = (await office.AsAsync("coordinator"), await office.AsAsync("author"));
        object Calendar(string name, params object[] holidays) => new { name, week = Enumerable.Range(0, 7).Select(_ => new[] { new { from = 0, to = 1440 } }), holidays };
        Assert.Equal((422, "bad-hours"), await admin.RefusedAsync("/api/calendars", new { name = "Bad", week = Enumerable.Range(0, 7).Select(_ => new[] { new { from = 600, to = 500 } }), holidays = Array.Empty<object>() }));
        Assert.Equal((403, "not-allowed"), await author.RefusedAsync("/api/calendars", Calendar("Not theirs")));
        var name = "Round the clock " + Guid.NewGuid();
        var today = DateOnly.FromDateTime(DateTime.UtcNow);
        object[] closed = [.. Enumerable.Range(0, 3).Select(d => (object)new { day = today.AddDays(d), name = "Closed", left = Array.Empty<object>() })];
        var calendar = (await admin.PostAsync<JsonElement>("/api/calendars", Calendar(name, closed))).GetProperty("id").GetGuid();
        await admin.PutAsync<JsonElement>("/api/people/" + office.Ids["q3"], new { login = "q3", name = "q3", initials = "Q", title = "", email = "q3@office.example", timeZone = "UTC", isGuest = false, calendar });
        var plan = Guid.CreateVersion7();
        await office.AddPlanAsync(plan, new Froe.Core.Routing.Plan(name, "", new([new Froe.Core.Routing.Step("s", "Sign", "Sign.", 0.5m, [new Froe.Core.Routing.Seat("s", "Signer", new Froe.Core.Routing.PersonHolder(office.Ids["q3"]))])])));
        // What is known of when people work is kept for half a minute; this server has not asked for q3 with the new calendar yet.
        var package = (await author.PostAsync<JsonElement>("/api/packages", new { key = Guid.NewGuid(), title = "x", coveringNote = "", plan, documents = new[] { await RegisterAsync(author, "") }, inform = Array.Empty<Guid>() })).GetProperty("id").GetGuid();
        var due = await OneAsync<DateTime>("SELECT due FROM awaited WHERE package_id = $1", package);
        Assert.Equal(today.AddDays(3).ToDateTime(new TimeOnly(12, 0), DateTimeKind.Utc), due);
        Assert.Equal(409, (int)(await admin.SendAsync($"/api/calendars/{calendar}", null, HttpMethod.Delete)).StatusCode);
    }

    [Theory]
    [InlineData("", "A", true)]
    [InlineData("A", "A", true)]
    [InlineData("A", "A / B", true)]
    [InlineData("A", "AB", false)]
    [InlineData("A / B", "A", false)]
    public void AFolderHoldsWhatIsBeneathIt(string folder, string inner, bool holds) => Assert.Equal(holds, Folders.Holds(folder, inner));
}
