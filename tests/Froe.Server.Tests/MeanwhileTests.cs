using System.Text.Json;
using Xunit;

namespace Froe.Server.Tests;

/// <summary>Two administrators at one thing of the office: nobody undoes what they have not seen.</summary>
public sealed class MeanwhileTests(Office office)
{
    private static readonly object[][] Week = [.. Enumerable.Range(0, 7).Select(d => d is 0 or 6 ? Array.Empty<object>() : [new { from = 480, to = 960 }])];

    [Fact]
    public async Task OnlyWhoSawWhatAGroupIsChangesItAndNameMembersAndRightsAreOneAct()
    {
        var admin = await office.AsAsync("coordinator");
        var name = "Meanwhile " + Guid.NewGuid();
        object[] read = [new { right = "read", folder = "" }];
        var group = (await admin.PostAsync<JsonElement>("/api/groups", new { name, members = new[] { office.Ids["q1"] }, rights = read })).GetProperty("id").GetGuid();
        Assert.Equal(["group made", "rights given"], await ChainAsync(group));
        object Was(Guid[] members, object[] rights) => new { name, members, rights };
        var first = Was([office.Ids["q1"]], read);

        // Somebody adds a member; whoever does not know of it would take them out again.
        Guid[] both = [office.Ids["q1"], office.Ids["q2"]];
        await admin.PutAsync<JsonElement>($"/api/groups/{group}", new { name, members = both, rights = read, was = first });
        Assert.Equal((409, "changed-meanwhile"), await admin.RefusedAsync($"/api/groups/{group}", new { name = name + " 2", members = new[] { office.Ids["q1"] }, rights = read, was = first }, HttpMethod.Put));
        // And whoever does not know that a right was taken away would give it back.
        await admin.PutAsync<JsonElement>($"/api/groups/{group}", new { name, members = both, rights = Array.Empty<object>(), was = Was(both, read) });
        Assert.Equal((409, "changed-meanwhile"), await admin.RefusedAsync($"/api/groups/{group}", new { name, members = both, rights = read, was = Was(both, read) }, HttpMethod.Put));
        // Half of a change is none: the folder is not there, and the name stays.
        Assert.Equal((404, "not-found"), await admin.RefusedAsync($"/api/groups/{group}", new { name = name + " 2", members = both, rights = new[] { new { right = "read", folder = "No such " + name } }, was = Was([both[1], both[0]], []) }, HttpMethod.Put));
        Assert.Equal(["group made", "rights given", "group changed", "rights given"], await ChainAsync(group));
        Assert.Equal([name], await office.Db.ListAsync("SELECT name FROM person_group WHERE id = $1", r => r.GetString(0), [group]));

        // Of several at once who all saw the same, one changes it.
        var done = await Task.WhenAll(Enumerable.Range(0, 6).Select(i => admin.SendAsync($"/api/groups/{group}", System.Net.Http.Json.JsonContent.Create(new { name = $"{name} at once {i}", members = both, was = Was(both, []) }), HttpMethod.Put)));
        Assert.Equal([204, 409, 409, 409, 409, 409], done.Select(d => (int)d.StatusCode).Order());
        await admin.DeleteAsync($"/api/groups/{group}");
    }

    [Fact]
    public async Task OnlyWhoSawWhatAPersonIsChangesThem()
    {
        var admin = await office.AsAsync("coordinator");
        var login = "mw-" + Guid.NewGuid().ToString("n")[..8];
        Dictionary<string, object?> Person(string title, string zone = "UTC") => new() { ["login"] = login, ["name"] = login, ["initials"] = "M", ["title"] = title, ["email"] = "m@office.example", ["timeZone"] = zone, ["isGuest"] = false, ["calendar"] = null };
        Dictionary<string, object?> Change(Dictionary<string, object?> to, object was) => new(to) { ["was"] = was };
        var id = (await admin.PostAsync<JsonElement>("/api/people", new Dictionary<string, object?>(Person("")) { ["password"] = Office.Password })).GetProperty("id").GetGuid();
        await admin.PutAsync<JsonElement>($"/api/people/{id}", Change(Person("Checker"), Person("")));
        Assert.Equal((409, "changed-meanwhile"), await admin.RefusedAsync($"/api/people/{id}", Change(Person("", "Europe/Oslo"), Person("")), HttpMethod.Put));
        await admin.PutAsync<JsonElement>($"/api/people/{id}", Change(Person("Checker", "Europe/Oslo"), Person("Checker")));
        Assert.Equal(["Checker Europe/Oslo"], await office.Db.ListAsync("SELECT title || ' ' || time_zone FROM person WHERE id = $1", r => r.GetString(0), [id]));
        Assert.Equal(["person added", "person changed", "person changed"], await ChainAsync(id));
    }

    [Fact]
    public async Task OnlyWhoSawWhatACalendarIsChangesIt()
    {
        var admin = await office.AsAsync("coordinator");
        var name = "Meanwhile " + Guid.NewGuid();
        object Day(string day, string called) => new { day, name = called, left = Array.Empty<object>() };
        var (bare, christmas, both) = (Array.Empty<object>(), new[] { Day("2026-12-25", "Christmas") }, new[] { Day("2027-01-01", "New Year"), Day("2026-12-25", "Christmas") });
        object Was(object[] holidays) => new { name, week = Week, holidays };
        var id = (await admin.PostAsync<JsonElement>("/api/calendars", Was(bare))).GetProperty("id").GetGuid();
        await admin.PutAsync<JsonElement>($"/api/calendars/{id}", new { name, week = Week, holidays = christmas, was = Was(bare) });
        Assert.Equal((409, "changed-meanwhile"), await admin.RefusedAsync($"/api/calendars/{id}", new { name = name + " 2", week = Week, holidays = bare, was = Was(bare) }, HttpMethod.Put));
        await admin.PutAsync<JsonElement>($"/api/calendars/{id}", new { name, week = Week, holidays = both, was = Was(christmas) });
        // In whatever order the days were sent.
        await admin.PutAsync<JsonElement>($"/api/calendars/{id}", new { name = name + " 3", week = Week, holidays = both, was = Was([both[1], both[0]]) });
        Assert.Equal(["calendar made", "calendar changed", "calendar changed", "calendar changed"], await ChainAsync(id));
        await admin.DeleteAsync($"/api/calendars/{id}");
    }

    [Fact]
    public async Task OnlyWhoSawAFoldersStandingsChangesThem()
    {
        var admin = await office.AsAsync("coordinator");
        var path = "Meanwhile " + Guid.NewGuid();
        await admin.PostAsync<JsonElement>("/api/folders", new { path });
        object Order(string last) => new { stages = new[] { new { name = "in work", forUse = false, needsAnswers = false, needsWholeFile = false }, new { name = last, forUse = true, needsAnswers = false, needsWholeFile = false } }, moves = Array.Empty<object>() };
        object Change(object? to, object? was) => new { path, standings = to, was = new { standings = was } };
        await admin.PutAsync<JsonElement>("/api/folders/standings", Change(Order("shared"), null));
        Assert.Equal((409, "changed-meanwhile"), await admin.RefusedAsync("/api/folders/standings", Change(Order("issued"), null), HttpMethod.Put));
        await admin.PutAsync<JsonElement>("/api/folders/standings", Change(Order("issued"), Order("shared")));
        Assert.Equal((409, "changed-meanwhile"), await admin.RefusedAsync("/api/folders/standings", Change(null, Order("shared")), HttpMethod.Put));
        await admin.PutAsync<JsonElement>("/api/folders/standings", Change(null, Order("issued")));
        Assert.Equal((404, "not-found"), await admin.RefusedAsync("/api/folders/standings", new { path = path + " 2", standings = (object?)null, was = new { standings = (object?)null } }, HttpMethod.Put));
    }

    private async Task<List<string>> ChainAsync(Guid chain) => await office.Db.ListAsync("SELECT action FROM ledger_entry WHERE chain = $1 ORDER BY sequence", r => r.GetString(0), [chain]);
}
