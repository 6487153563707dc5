using System.Text.Json;
using Xunit;

namespace Froe.Server.Tests;

/// <summary>What notes say besides their words, whom they name, and the wordings people keep.</summary>
public class NoteTermsTests(Office office)
{
    private static Guid Id(JsonElement row) => row.GetProperty("id").GetGuid();

    private static string Day(int days) => DateTime.UtcNow.AddDays(days).ToString("yyyy-MM-dd", System.Globalization.CultureInfo.InvariantCulture);

    private async Task<(Guid Package, Guid Draft)> SentAsync()
    {
        var author = await office.AsAsync("author");
        var package = await office.SendAsync(author, await Office.RegisterAsync(author, "terms " + Guid.NewGuid()));
        var view = await author.GetAsync<JsonElement>($"/api/packages/{package}");
        return (package, view.GetProperty("items")[0].GetProperty("draft").GetGuid());
    }

    private static object Note(Guid draft, string kind, string body, object? terms = null, params Guid[] mentions) => new { draft, kind, body, marks = Array.Empty<object>(), key = Guid.NewGuid(), terms, mentions };

    private static async Task<JsonElement> FoundAsync(Browser who, Guid package, int number) =>
        (await who.GetAsync<JsonElement>($"/api/packages/{package}")).GetProperty("notes").EnumerateArray().Single(n => n.GetProperty("number").GetInt32() == number);

    [Fact]
    public async Task WhatPressesIsListedFoundByItsTagsAndProven()
    {
        var (package, draft) = await SentAsync();
        var checker = await office.AsAsync("checker");
        var tag = "t" + Guid.NewGuid().ToString("N")[..12];
        await checker.PostAsync<JsonElement>($"/api/packages/{package}/notes", Note(draft, "request", "Mind the seams.", new { urgent = true, due = Day(3), tags = new[] { " " + tag.ToUpperInvariant(), "seams" }, onPackage = false }));
        await checker.PostAsync<JsonElement>($"/api/packages/{package}/notes", Note(draft, "remark", "Well drawn.", new { urgent = false, due = (string?)null, tags = Array.Empty<string>(), onPackage = true }));
        await checker.PostAsync<JsonElement>($"/api/packages/{package}/notes", Note(draft, "request", "Plain."));
        var terms = (await FoundAsync(checker, package, 1)).GetProperty("terms");
        Assert.Equal((true, Day(3), tag), (terms.GetProperty("urgent").GetBoolean(), terms.GetProperty("due").GetString(), terms.GetProperty("tags")[0].GetString()));
        Assert.True((await FoundAsync(checker, package, 1)).GetProperty("presses").GetBoolean());
        Assert.True((await FoundAsync(checker, package, 2)).GetProperty("terms").GetProperty("onPackage").GetBoolean());

        async Task<string> ListedAsync(string query) => string.Join(" ", (await checker.RowsAsync("/api/notes?" + query)).Select(n => n.GetProperty("number").GetInt32()).Order());
        Assert.Equal("1", await ListedAsync("search=" + tag));
        // A word may be a tag, a package's number or neither; each is looked for as what it is.
        var number = (await checker.GetAsync<JsonElement>($"/api/packages/{package}")).GetProperty("number").GetString()!;
        Assert.Equal("1", await ListedAsync($"search={number.ToLowerInvariant()}%20SEAMS%20{tag}%20mind"));
        Assert.Equal("", await ListedAsync($"search={tag}%20PK-0"));
        Assert.Equal("1", await ListedAsync($"package={package}&standing=pressing"));
        Assert.Equal("1 2 3", await ListedAsync($"package={package}&kind=all"));
        Assert.Contains(tag, System.Text.Encoding.UTF8.GetString(await checker.BytesAsync($"/api/packages/{package}/notes.csv")), StringComparison.Ordinal);

        Task<(int, string?)> RefusedAsync(string kind, object terms) => checker.RefusedAsync($"/api/packages/{package}/notes", Note(draft, kind, "No.", terms));
        Assert.Equal((422, "due-passed"), await RefusedAsync("request", new { urgent = false, due = Day(-2), tags = Array.Empty<string>(), onPackage = false }));
        Assert.Equal((422, "remark-waits"), await RefusedAsync("remark", new { urgent = true, due = (string?)null, tags = Array.Empty<string>(), onPackage = false }));
        Assert.Equal((422, "note-has-place"), await checker.RefusedAsync($"/api/packages/{package}/notes", new { draft, kind = "remark", body = "No.", marks = new[] { Drawn.Cloud() }, terms = new { urgent = false, due = (string?)null, tags = Array.Empty<string>(), onPackage = true } }));

        Assert.Empty(await office.ProofAsync(package));
        // Whoever can write to the database and makes it wait longer is found out.
        await office.OwnerDb.RunAsync("UPDATE note SET due = due + 30 WHERE package_id = $1 AND number = 1", [package], default);
        Assert.Contains(await office.ProofAsync(package), f => f.Contains("note 1", StringComparison.Ordinal) && f.Contains("besides", StringComparison.Ordinal));
        await office.OwnerDb.RunAsync("UPDATE note SET due = due - 30 WHERE package_id = $1 AND number = 1", [package], default);
    }

    [Fact]
    public async Task WhoWroteANoteChangesWhatItSaysBesidesUntilItIsAnswered()
    {
        var (package, draft) = await SentAsync();
        var (checker, lead) = (await office.AsAsync("checker"), await office.AsAsync("lead"));
        object Terms(bool urgent, string? due, params string[] tags) => new { urgent, due, tags, onPackage = false };
        await checker.PostAsync<JsonElement>($"/api/packages/{package}/notes", Note(draft, "request", "Mind the seams.", Terms(false, null, "seams")));
        var note = Id(await FoundAsync(checker, package, 1));
        object Edit(string body, object? terms) => new { act = "edit", answer = (string?)null, body, key = Guid.NewGuid(), terms };
        async Task<(bool, string?, int)> NowAsync() => (await FoundAsync(checker, package, 1)) is var n && n.GetProperty("terms") is var t
            ? (t.GetProperty("urgent").GetBoolean(), t.GetProperty("due").GetString(), n.GetProperty("acts").GetArrayLength()) : default;
        Task ActAsync(Browser who, object what) => who.PostAsync<JsonElement>($"/api/notes/{note}/acts", what);

        await ActAsync(checker, Edit("Mind the seams.", Terms(true, Day(5), "SEAMS")));
        Assert.Equal((true, Day(5), 1), await NowAsync());
        Assert.Empty(await office.ProofAsync(package));
        // The same again does nothing; words alone leave the rest; both at once are one act.
        await ActAsync(checker, Edit("Mind the seams.", Terms(true, Day(5), "seams")));
        Assert.Equal((true, Day(5), 1), await NowAsync());
        await ActAsync(checker, Edit("Mind every seam.", null));
        Assert.Equal((true, Day(5), 2), await NowAsync());
        await ActAsync(checker, Edit("Mind each seam.", Terms(false, null)));
        Assert.Equal((false, null, 3), await NowAsync());
        Assert.Empty(await office.ProofAsync(package));

        Assert.Equal((422, "due-passed"), await checker.RefusedAsync($"/api/notes/{note}/acts", Edit("Mind each seam.", Terms(false, Day(-3)))));
        Assert.Equal((409, "not-author"), await lead.RefusedAsync($"/api/notes/{note}/acts", Edit("Mind each seam.", Terms(true, null))));
        // A day that has passed meanwhile does not hold up another change.
        await ActAsync(checker, Edit("Mind each seam.", Terms(false, Day(1))));
        await office.OwnerDb.RunAsync("UPDATE note SET due = $2 WHERE id = $1", [note, DateOnly.FromDateTime(DateTime.UtcNow.AddDays(-3))], default);
        await ActAsync(checker, Edit("Mind each seam.", Terms(true, Day(-3))));
        Assert.Equal((true, Day(-3), 5), await NowAsync());
        await checker.SignAsync(package, "check", "returnForChanges");
        Assert.Equal((409, "with-originator"), await checker.RefusedAsync($"/api/notes/{note}/acts", Edit("Mind each seam.", Terms(false, null))));
    }

    [Fact]
    public async Task WhoIsNamedIsToldIfTheyTakePart()
    {
        var (package, draft) = await SentAsync();
        var checker = await office.AsAsync("checker");
        var stranger = await office.SomebodyAsync();
        async Task<List<string>> ToldAsync(Guid person) => await office.Db.ListAsync("SELECT subject FROM message WHERE person_id = $1 AND strpos(link, $2::text) > 0 AND subject LIKE '%names you%'", r => r.GetString(0), [person, package]);
        await checker.PostAsync<JsonElement>($"/api/packages/{package}/notes", Note(draft, "request", "@Lead: look.", null, office.Ids["lead"], office.Ids["checker"], stranger.Id, Guid.NewGuid()));
        Assert.Contains("names you in request 1", Assert.Single(await ToldAsync(office.Ids["lead"])), StringComparison.Ordinal);
        Assert.Empty(await ToldAsync(office.Ids["checker"]));
        Assert.Empty(await ToldAsync(stranger.Id));
        var note = Id(await FoundAsync(checker, package, 1));
        var reply = new { act = "reply", answer = (string?)null, body = "@Author, too.", key = Guid.NewGuid(), mentions = new[] { office.Ids["author"] } };
        for (var i = 0; i < 2; i++) await checker.PostAsync<JsonElement>($"/api/notes/{note}/acts", reply);
        Assert.Single(await ToldAsync(office.Ids["author"]));
        Assert.Empty(await office.ProofAsync(package));
    }

    [Fact]
    public async Task WordingsAreOnesOwnOrTheOffices()
    {
        var (checker, lead, admin) = (await office.AsAsync("checker"), await office.AsAsync("lead"), await office.AsAsync("coordinator"));
        var (own, shared, words) = (Guid.NewGuid(), Guid.NewGuid(), "Bore to Ø ___ H7 " + Guid.NewGuid());
        static async Task<List<(Guid, bool)>> AllAsync(Browser who) => [.. (await who.GetAsync<JsonElement>("/api/phrases")).EnumerateArray().Select(p => (p.GetProperty("id").GetGuid(), p.GetProperty("isOffice").GetBoolean()))];
        for (var i = 0; i < 2; i++) await checker.PutAsync<JsonElement>($"/api/phrases/{own}", new { words, isOffice = false });
        Assert.Equal((409, "phrase-there"), await checker.RefusedAsync($"/api/phrases/{Guid.NewGuid()}", new { words = words + " ", isOffice = false }, HttpMethod.Put));
        Assert.Equal((403, "not-allowed"), await checker.RefusedAsync($"/api/phrases/{shared}", new { words, isOffice = true }, HttpMethod.Put));
        await admin.PutAsync<JsonElement>($"/api/phrases/{shared}", new { words, isOffice = true });
        Assert.Contains((own, false), await AllAsync(checker));
        Assert.Contains((shared, true), await AllAsync(lead));
        Assert.DoesNotContain((own, false), await AllAsync(lead));
        // Another's wording is neither changed nor taken out.
        Assert.Equal((409, "phrase-there"), await lead.RefusedAsync($"/api/phrases/{own}", new { words = "mine", isOffice = false }, HttpMethod.Put));
        Assert.Equal((404, "not-found"), await lead.RefusedAsync($"/api/phrases/{own}", new { }, HttpMethod.Delete));
        Assert.Equal((404, "not-found"), await lead.RefusedAsync($"/api/phrases/{shared}", new { }, HttpMethod.Delete));
        Assert.Equal((422, "no-words"), await checker.RefusedAsync($"/api/phrases/{own}", new { words = " ", isOffice = false }, HttpMethod.Put));
        await checker.DeleteAsync($"/api/phrases/{own}");
        await admin.DeleteAsync($"/api/phrases/{shared}");
        Assert.DoesNotContain((shared, true), await AllAsync(lead));
    }
}
