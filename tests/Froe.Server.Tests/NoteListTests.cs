using System.Net;
using System.Text.Json;
using Froe.Store;
using Xunit;

namespace Froe.Server.Tests;

/// <summary>The notes of all packages as one list: found, sorted, filtered, and whose turn each says it is.</summary>
public class NoteListTests(Office office)
{
    private static string Text(JsonElement row, string name) => row.GetProperty(name).GetString()!;

    /// <summary>A package of one document with a request of the checker's, and copies of that note under a mark of this test's own.</summary>
    private async Task<(string Mark, Guid Package, Guid Request)> FilledAsync(int copies)
    {
        var mark = "N" + Guid.NewGuid().ToString("n")[..8];
        var (author, checker) = (await office.AsAsync("author"), await office.AsAsync("checker"));
        var package = await office.SendAsync(author, await Office.RegisterAsync(author, "subject " + mark));
        var request = await checker.NoteAsync(package, "request", "Make it longer.");
        await office.OwnerDb.RunAsync(
            """
            INSERT INTO note (id, package_id, number, document_id, draft_id, round, kind, standing, author, at, body, asked_of, subject)
            SELECT md5($2 || n)::uuid, package_id, 10 + n, document_id, draft_id, round, (ARRAY['request', 'request', 'question', 'remark'])[1 + n % 4], (ARRAY['open', 'answered', 'closed', 'withdrawn', 'closed'])[1 + n % 5],
                   CASE WHEN n % 3 = 0 THEN $3::uuid ELSE author END, timestamptz '2026-03-01 10:00:00.123456+00' + n / 7 * interval '1 minute', 'Wall ' || n || CASE WHEN n % 10 = 4 THEN ' thicker' ELSE '' END, asked_of, subject
            FROM note, generate_series(0, $4 - 1) n WHERE id = $1
            """,
            [request, mark, office.Ids["lead"], copies]);
        return (mark, package, request);
    }

    [Fact]
    public async Task EveryOrderGoesThroughAllPagesOnceAndBackwardsAsWell()
    {
        var (mark, _, _) = await FilledAsync(240);
        var reader = await office.AsAsync("bystander");
        foreach (var order in new[] { "asked", "document" })
        {
            var up = (await reader.RowsAsync($"/api/notes?search={mark}&sort={order}")).Select(r => Text(r, "id")).ToList();
            var down = (await reader.RowsAsync($"/api/notes?search={mark}&sort=-{order}")).Select(r => Text(r, "id")).ToList();
            Assert.Equal(121, up.ToHashSet().Count);
            Assert.Equal(up, Enumerable.Reverse(down));
        }
    }

    [Fact]
    public async Task FiltersLeaveWhatFitsThemAll()
    {
        var (mark, package, _) = await FilledAsync(120);
        var reader = await office.AsAsync("coordinator");
        var number = Text(await reader.GetAsync<JsonElement>($"/api/packages/{package}"), "number");
        async Task<List<int>> NumbersAsync(string query) => [.. (await reader.RowsAsync($"/api/notes?search={mark}{query}")).Select(r => r.GetProperty("number").GetInt32() - 10).Where(n => n >= 0).Order()];
        static IEnumerable<int> Those(Func<int, bool> fit) => Enumerable.Range(0, 120).Where(fit);
        Assert.Equal(Those(n => n % 4 < 2), await NumbersAsync(""));
        Assert.Equal(Those(n => n % 4 == 2), await NumbersAsync("&kind=question"));
        Assert.Equal(Those(n => n % 4 < 2 && n % 5 < 2), await NumbersAsync("&standing=unsettled"));
        Assert.Equal(Those(n => n % 4 < 2 && n % 5 == 3), await NumbersAsync("&standing=withdrawn"));
        Assert.Equal(Those(n => n % 4 < 2 && n % 3 == 0), await NumbersAsync($"&author={office.Ids["lead"]}"));
        Assert.Equal(Those(n => n % 4 < 2 && n % 3 == 0), await NumbersAsync($"&person={office.Ids["lead"]}"));
        Assert.Equal(Those(n => n % 4 < 2), await NumbersAsync($"&person={office.Ids["author"]}"));
        Assert.Equal([], await NumbersAsync($"&originator={office.Ids["lead"]}"));
        // Words of the note, of its document, and the package's number, in whatever order and case.
        Assert.Equal(Those(n => n % 4 < 2 && n % 10 == 4), await NumbersAsync("%20THICKER%20subject"));
        Assert.Equal(Those(n => n % 4 < 2 && n % 10 == 4), await NumbersAsync($"%20thicker%20{number.ToLowerInvariant()}"));
        Assert.Equal([], await NumbersAsync("%20PK-0"));
    }

    [Fact]
    public async Task ItSaysWhoseTurnItIs()
    {
        var (author, checker) = (await office.AsAsync("author"), await office.AsAsync("checker"));
        var mark = "N" + Guid.NewGuid().ToString("n")[..8];
        var document = await Office.RegisterAsync(author, mark);
        var package = await office.SendAsync(author, document);
        var request = await checker.NoteAsync(package, "request", "Longer.");
        async Task<(string Standing, string WaitsFor, string? Answer)> SaidAsync()
        {
            var row = Assert.Single(await checker.RowsAsync($"/api/notes?search={mark}"));
            return (Text(row, "standing"), Text(row, "waitsFor"), row.GetProperty("answer").GetString());
        }
        Assert.Equal(("open", "reviewers", null), await SaidAsync());
        Assert.Equal("returned", await checker.SignAsync(package, "check", "returnForChanges"));
        Assert.Equal(("open", "originator", null), await SaidAsync());
        await author.PostAsync<JsonElement>($"/api/notes/{request}/acts", new { act = "answer", answer = "doneDifferently", body = "Wider." });
        Assert.Equal(("answered", "originator", "doneDifferently"), await SaidAsync());
        var upload = await author.UploadAsync("next.dxf", Office.Drawing(mark + " wider"));
        await author.PostAsync<JsonElement>($"/api/documents/{document}/drafts", new { upload, reason = "wider" });
        await author.PostAsync<JsonElement>($"/api/packages/{package}/rounds", new { coveringNote = "" });
        Assert.Equal(("answered", "author", "doneDifferently"), await SaidAsync());
        // Whoever reopens it says what is missing; then it stands as before the answer.
        Assert.Equal((409, "reopened-without-words"), await checker.RefusedAsync($"/api/notes/{request}/acts", new { act = "reopen", body = " " }));
        await checker.PostAsync<JsonElement>($"/api/notes/{request}/acts", new { act = "reopen", body = "Wider does not do: the rail is 12 mm away." });
        Assert.Equal("reviewers", (await SaidAsync()).WaitsFor);
        await checker.PostAsync<JsonElement>($"/api/notes/{request}/acts", new { act = "close", body = "Seen." });
        Assert.Equal("nobody", (await SaidAsync()).WaitsFor);
        var row = Assert.Single(await checker.RowsAsync($"/api/notes?search={mark}"));
        Assert.Equal(["done differently", "reopen", "close"], row.GetProperty("acts").EnumerateArray().Select(a => Text(a, "act")));
        Assert.Equal("A.1", Text(row, "revision") + "." + row.GetProperty("ordinal").GetInt32());
        var file = await (await checker.SendAsync($"/api/notes.csv?search={mark}&columns=number,note,by,of,standing,answer,words,waits", null, HttpMethod.Get)).Content.ReadAsStringAsync();
        Assert.Equal(["Number,Note,Asked by,Asked of,Standing,Answer,Last words,Waits for", $"{Text(row, "packageNumber")} / 1,Longer.,checker,author,closed,done differently,Seen.,", ""], file.Split("\r\n"));
    }

    [Fact]
    public async Task NobodyIsShownNotesOfPackagesTheyMayNotSee()
    {
        var (mark, package, _) = await FilledAsync(3);
        var (group, person, login) = (Guid.CreateVersion7(), Guid.CreateVersion7(), "notes-" + Guid.NewGuid().ToString("n")[..8]);
        var people = new People(office.Db);
        await people.AddAsync(new Person(person, login, login, "N", "", "n@office.example", "UTC", false), Office.PasswordHash, []);
        await people.AddGroupAsync(new PersonGroup(group, login, [person]));
        await office.OwnerDb.RunAsync("INSERT INTO folder (path) VALUES ('Notes') ON CONFLICT DO NOTHING", []);
        await office.OwnerDb.RunAsync("INSERT INTO group_right (group_id, right_name, folder_id) SELECT $1, 'read', id FROM folder WHERE path = 'Notes'", [group]);
        var reader = await office.AsAsync(login);
        Assert.Empty(await reader.RowsAsync($"/api/notes?search={mark}"));
        // Filed where they may read; then only a seat in it, as someone who signs.
        await office.OwnerDb.RunAsync("UPDATE document SET folder_id = (SELECT id FROM folder WHERE path = 'Notes') WHERE id = (SELECT document_id FROM package_item WHERE package_id = $1)", [package]);
        Assert.Equal(3, (await reader.RowsAsync($"/api/notes?search={mark}")).Count);
        await office.OwnerDb.RunAsync("UPDATE document SET folder_id = (SELECT id FROM folder WHERE path = '') WHERE id = (SELECT document_id FROM package_item WHERE package_id = $1)", [package]);
        await office.OwnerDb.RunAsync("INSERT INTO package_seat (package_id, person_id) VALUES ($1, $2)", [package, person]);
        Assert.Equal(3, (await reader.RowsAsync($"/api/notes?search={mark}")).Count);
        Assert.Equal(HttpStatusCode.Forbidden, await (await office.AsAsync("guest")).StatusAsync("/api/notes"));
    }
}
