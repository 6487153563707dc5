using System.Net;
using System.Text;
using System.Text.Json;
using Froe.Store;
using Xunit;

namespace Froe.Server.Tests;

/// <summary>Lists: their orders and pages, as files, and as views that people keep.</summary>
public class ListTests(Office office)
{
    private const string Folder = "Lists";

    /// <summary>Documents under a mark of this test's own: titles in turn, several alike, changed in bunches; not one of them signed or sent.</summary>
    private async Task<string> FilledAsync(int count, params string[] titles)
    {
        var mark = "L" + Guid.NewGuid().ToString("n")[..8];
        object?[] values = [mark, count, titles, office.Ids["author"], office.Ids["checker"], Folder];
        await office.OwnerDb.RunAsync("INSERT INTO folder (path) VALUES ($1) ON CONFLICT DO NOTHING", [Folder]);
        await office.OwnerDb.RunAsync("INSERT INTO content (sha256, size, media_type) VALUES (decode(md5($1) || md5($1 || 'x'), 'hex'), 0, 'image/vnd.dxf')", [mark]);
        await office.OwnerDb.RunAsync(
            """
            INSERT INTO document (id, number, title, kind, discipline, originator, registered_at, folder_id)
            SELECT md5($1 || n)::uuid, $1 || '-' || n, ($3::text[])[1 + n % cardinality($3::text[])], (ARRAY['drawing', 'model'])[1 + n % 2], 'd' || n % 3, CASE WHEN n % 2 = 0 THEN $4::uuid ELSE $5::uuid END, now(), (SELECT id FROM folder WHERE path = CASE WHEN n % 5 = 0 THEN '' ELSE $6 END)
            FROM generate_series(0, $2 - 1) n
            """,
            values);
        await office.OwnerDb.RunAsync(
            "INSERT INTO revision (id, document_id, ordinal, label, standing) SELECT md5($1 || 'r' || n)::uuid, md5($1 || n)::uuid, 1, 'A', (ARRAY['in work', 'returned', 'withdrawn'])[1 + n % 3] FROM generate_series(0, $2 - 1) n", [mark, count]);
        await office.OwnerDb.RunAsync(
            """
            INSERT INTO draft (id, document_id, revision_id, ordinal, sha256, file_name, uploaded_by, uploaded_at, report, reader, prepared)
            SELECT md5($1 || 'w' || n)::uuid, md5($1 || n)::uuid, md5($1 || 'r' || n)::uuid, 1, decode(md5($1) || md5($1 || 'x'), 'hex'), 'a.dxf', $3, timestamptz '2026-03-01 10:00:00.123456+00' + n / 7 * interval '1 minute', '{}', 'made up', 2
            FROM generate_series(0, $2 - 1) n
            """,
            [mark, count, office.Ids["author"]]);
        return mark;
    }

    private static string Text(JsonElement row, string name) => row.GetProperty(name).GetString()!;

    [Theory]
    [InlineData("brücke süd", "BRÜCKE SÜD")]
    [InlineData("ЗАЗЕМЛЕНИЕ", "Заземление опоры")]
    [InlineData("ŁOŻYSKO", "łożysko")]
    public async Task SmallAndLargeLettersOfEveryScriptAreFoundForOneAnother(string typed, string found)
    {
        var mark = await FilledAsync(4, "BRÜCKE SÜD", "Заземление опоры", "łożysko", "plate");
        var rows = await (await office.AsAsync("author")).RowsAsync($"/api/documents?search={Uri.EscapeDataString($"{mark} {typed}")}");
        Assert.Equal(found, Text(Assert.Single(rows), "title"));
    }

    [Theory]
    [InlineData("number")]
    [InlineData("title")]
    [InlineData("kind")]
    [InlineData("discipline")]
    [InlineData("folder")]
    [InlineData("standing")]
    [InlineData("originator")]
    [InlineData("changed")]
    public async Task EveryOrderGoesThroughAllPagesOnceAndBackwardsAsWell(string order)
    {
        var mark = await FilledAsync(250, "Shaft", "shaft", "Pier", "Älmhult plate", "A\u030almhult plate", "Ålmhult plate", "Sheet 1", "Sheet 01", "");
        var author = await office.AsAsync("author");
        var path = $"/api/documents?search={mark}&sort=";
        var up = (await author.RowsAsync(path + order)).Select(r => Text(r, "number")).ToList();
        var down = (await author.RowsAsync(path + "-" + order)).Select(r => Text(r, "number")).ToList();
        Assert.Equal(250, up.ToHashSet().Count);
        Assert.Equal(250, up.Count);
        Assert.Equal(up, Enumerable.Reverse(down));
    }

    [Fact]
    public async Task TextStandsAsPeopleReadIt()
    {
        var mark = await FilledAsync(6, "Sheet 10", "sheet 9", "Älg bracket", "alarm", "Zinc", "Sheet 9a");
        var author = await office.AsAsync("author");
        async Task<List<string>> ByAsync(string sort, string column) => [.. (await author.RowsAsync($"/api/documents?search={mark}&sort={sort}")).Select(r => Text(r, column))];
        Assert.Equal(["alarm", "Älg bracket", "sheet 9", "Sheet 9a", "Sheet 10", "Zinc"], await ByAsync("title", "title"));
        var many = await FilledAsync(12, "A");
        Assert.Equal(Enumerable.Range(0, 12).Select(n => $"{many}-{n}"), (await author.RowsAsync($"/api/documents?search={many}")).Select(r => Text(r, "number")));
        // What is alike stands by number; times are kept to the microsecond.
        Assert.Equal("2026-03-01T10:00:00.123456+00:00", await OneAsync<string>($"SELECT to_char(changed_at AT TIME ZONE 'UTC', 'YYYY-MM-DD\"T\"HH24:MI:SS.US') || '+00:00' FROM document WHERE number = '{mark}-0'"));
    }

    [Fact]
    public async Task FiltersLeaveWhatFitsThemAll()
    {
        var mark = await FilledAsync(60, "Shaft");
        var author = await office.AsAsync("author");
        async Task<List<int>> NumbersAsync(string query) => [.. (await author.RowsAsync($"/api/documents?search={mark}{query}")).Select(r => int.Parse(Text(r, "number").Split('-')[1], System.Globalization.CultureInfo.InvariantCulture))];
        Assert.Equal(Enumerable.Range(0, 60).Where(n => n % 3 == 1), await NumbersAsync("&standing=returned"));
        Assert.Equal(Enumerable.Range(0, 60).Where(n => n % 6 == 4), await NumbersAsync($"&standing=returned&kind=drawing&originator={office.Ids["author"]}&discipline=d1"));
        Assert.Equal([], await NumbersAsync("&discipline=none"));
        Assert.Contains("d2", (await author.GetAsync<JsonElement>("/api/disciplines")).EnumerateArray().Select(d => d.GetString()));
    }

    [Theory]
    [InlineData("/api/documents?sort=revision", "no-such-order")]
    [InlineData("/api/packages?sort=waits", "no-such-order")]
    [InlineData("/api/documents?after=zz", "no-such-page")]
    [InlineData("/api/documents?after=00", "no-such-page")]
    [InlineData("/api/documents.csv?columns=number,secret", "no-such-column")]
    [InlineData("/api/documents.csv?zone=Nowhere/Else", "no-such-zone")]
    public async Task WhatAListDoesNotHaveIsRefusedInWords(string path, string code)
    {
        var answer = await (await office.AsAsync("coordinator")).SendAsync(path, null, HttpMethod.Get);
        Assert.Equal(HttpStatusCode.UnprocessableEntity, answer.StatusCode);
        Assert.Equal(code, JsonSerializer.Deserialize<JsonElement>(await answer.Content.ReadAsStringAsync()).GetProperty("code").GetString());
    }

    [Fact]
    public async Task APagesMarkIsOfItsOwnOrder()
    {
        var mark = await FilledAsync(120, "Shaft");
        var author = await office.AsAsync("author");
        var next = (await author.GetAsync<JsonElement>($"/api/documents?search={mark}&sort=title")).GetProperty("next").GetString();
        Assert.Equal(HttpStatusCode.OK, await author.StatusAsync($"/api/documents?search={mark}&sort=title&after={next}"));
        foreach (var other in new[] { "-title", "changed", "number" })
            Assert.Equal(HttpStatusCode.UnprocessableEntity, await author.StatusAsync($"/api/documents?search={mark}&sort={other}&after={next}"));
        // One made by hand, of this order's name and another one's values.
        var forged = Convert.ToHexStringLower(Encoding.UTF8.GetBytes("changed\u001fnever\u001fx"));
        Assert.Equal(HttpStatusCode.UnprocessableEntity, await author.StatusAsync($"/api/documents?sort=changed&after={forged}"));
    }

    private static async Task<string[]> FileAsync(Browser reader, string path)
    {
        var answer = await reader.SendAsync(path, null, HttpMethod.Get);
        Assert.Equal("text/csv", answer.EnsureSuccessStatusCode().Content.Headers.ContentType!.MediaType);
        Assert.Equal("attachment", answer.Content.Headers.ContentDisposition!.DispositionType);
        var bytes = await answer.Content.ReadAsByteArrayAsync();
        Assert.Equal(Encoding.UTF8.Preamble.ToArray(), bytes[..3]);
        return Encoding.UTF8.GetString(bytes[3..]).Split("\r\n");
    }

    [Fact]
    public async Task AFileHoldsTheWholeListAndWhatPeopleTypedIsNoFormula()
    {
        var mark = await FilledAsync(1100, "=HYPERLINK(1)", "Rail, \"long\"\nsecond line", "Ünder");
        var author = await office.AsAsync("author");
        var rows = await FileAsync(author, $"/api/documents.csv?search={mark}&sort=-number&columns=number,title,changed&zone=Asia/Tokyo");
        Assert.Equal("Number,Title,Changed", rows[0]);
        Assert.Equal($"{mark}-1098,\"'=HYPERLINK(1)\",2026-03-01 21:36", rows.Single(r => r.StartsWith($"{mark}-1098", StringComparison.Ordinal)));
        Assert.StartsWith($"{mark}-1099,", rows[1], StringComparison.Ordinal);
        Assert.Contains("\"Rail, \"\"long\"\"\nsecond line\"", string.Join("\r\n", rows), StringComparison.Ordinal);
        Assert.Equal(1100, rows.Count(r => r.StartsWith(mark, StringComparison.Ordinal)));
        Assert.Equal("", rows[^1]);

        var packages = await FileAsync(await office.AsAsync("coordinator"), "/api/packages.csv?search=nothing-of-this-name");
        Assert.Equal(["Number,Package,Round,Items,Open requests,From,Sent,Standing,Change order,Plan,Steps passed,Waits at,Since,Due", ""], packages);
        Assert.Equal(HttpStatusCode.Forbidden, await (await office.AsAsync("guest")).StatusAsync("/api/packages.csv"));
    }

    [Fact]
    public async Task AFileHoldsOnlyWhatItsReaderMayRead()
    {
        var mark = await FilledAsync(20, "Shaft");
        var (group, person, login) = (Guid.CreateVersion7(), Guid.CreateVersion7(), "list-" + Guid.NewGuid().ToString("n")[..8]);
        var people = new People(office.Db);
        await people.AddAsync(new Person(person, login, login, "L", "", "l@office.example", "UTC", false), Office.PasswordHash, []);
        await people.AddGroupAsync(new PersonGroup(group, login, [person]));
        await office.OwnerDb.RunAsync("INSERT INTO group_right (group_id, right_name, folder_id) SELECT $1, 'read', id FROM folder WHERE path = $2", [group, Folder]);
        var rows = await FileAsync(await office.AsAsync(login), $"/api/documents.csv?search={mark}");
        Assert.Equal(Enumerable.Range(0, 20).Where(n => n % 5 != 0).Select(n => $"{mark}-{n}"), rows[1..^1].Select(r => r.Split(',')[0]));
    }

    [Fact]
    public async Task PackagesAreSortedByTitleAndBySendingInPages()
    {
        var (author, coordinator) = (await office.AsAsync("author"), await office.AsAsync("coordinator"));
        var mark = "List " + Guid.NewGuid().ToString("n")[..8];
        foreach (var title in new[] { "b 10", "B 9", "a" })
            await author.PostAsync<JsonElement>("/api/packages", new { key = Guid.NewGuid(), title = $"{mark} {title}", coveringNote = "", plan = office.Plan, documents = new[] { await Office.RegisterAsync(author, title) }, inform = Array.Empty<Guid>() });
        async Task<List<string>> TitlesAsync(string sort) => [.. (await coordinator.RowsAsync($"/api/packages?search={Uri.EscapeDataString(mark)}&sort={sort}")).Select(r => Text(r, "title")[(mark.Length + 1)..])];
        Assert.Equal(["a", "B 9", "b 10"], await TitlesAsync("package"));
        Assert.Equal(["b 10", "B 9", "a"], await TitlesAsync("-package"));
        Assert.Equal(["b 10", "B 9", "a"], await TitlesAsync("sent"));
        Assert.Equal(["a", "B 9", "b 10"], await TitlesAsync(""));
        // Many more than a page, and all of them at the same moment: the key tells them apart.
        await office.OwnerDb.RunAsync(
            """
            WITH k AS (
                INSERT INTO package (id, number, title, covering_note, originator, plan_id, edition, round, standing, slip, sent_at, round_at, item_count)
                SELECT gen_random_uuid(), $1 || n, $1, '', originator, plan_id, edition, round, standing, slip, '2026-01-01', round_at, item_count FROM package, generate_series(1, 120) n WHERE title = $2 RETURNING id)
            INSERT INTO package_item (package_id, round, position, document_id, draft_id, revision_id) SELECT k.id, i.round, i.position, i.document_id, i.draft_id, i.revision_id FROM k, package_item i JOIN package o ON o.id = i.package_id WHERE o.title = $2
            """,
            [mark + "x", mark + " a"]);
        foreach (var sort in new[] { "sent", "-package" })
            Assert.Equal(120, (await coordinator.RowsAsync($"/api/packages?search={Uri.EscapeDataString(mark + "x")}&sort={sort}")).Select(r => Text(r, "id")).ToHashSet().Count);

        // More are late than the fifty that head the monitor: the list and its file hold them all.
        await office.OwnerDb.RunAsync("INSERT INTO awaited (person_id, package_id, seat, step, since, due) SELECT $2, id, 'x', 'x', now(), now() - interval '1 second' FROM package WHERE starts_with(number, $1) AND number <> $1 || '7'", [mark + "x", office.Ids["bystander"]]);
        var late = $"search={Uri.EscapeDataString(mark + "x")}&late=true";
        Assert.Equal(119, (await coordinator.RowsAsync($"/api/packages?{late}")).Count);
        Assert.Equal(121, (await FileAsync(coordinator, $"/api/packages.csv?{late}&columns=number")).Length);
        Assert.Equal(50, (await coordinator.GetAsync<JsonElement>($"/api/packages/late?{late}")).GetArrayLength());
        await office.OwnerDb.RunAsync("DELETE FROM awaited WHERE step = 'x' AND person_id = $1", [office.Ids["bystander"]]);
    }

    [Fact]
    public async Task ADocumentsRowFollowsItsNewestRevisionWhateverHappens()
    {
        var author = await office.AsAsync("author");
        var document = await Office.RegisterAsync(author, "followed");
        var before = await OneAsync<DateTime>($"SELECT changed_at FROM document WHERE id = '{document}'");
        var upload = await author.UploadAsync("next.dxf", Office.Drawing("followed, next"));
        await author.PostAsync<JsonElement>($"/api/documents/{document}/drafts", new { upload, reason = "" });
        Assert.True(await OneAsync<DateTime>($"SELECT changed_at FROM document WHERE id = '{document}'") > before);
        await office.SendAsync(author, document);
        Assert.Equal("in review", await OneAsync<string>($"SELECT standing FROM document WHERE id = '{document}'"));
        // Every test's documents, in whatever way they came to stand where they do.
        Assert.Empty(await office.Db.ListAsync(
            """
            SELECT d.number FROM document d
            JOIN LATERAL (SELECT * FROM revision WHERE document_id = d.id ORDER BY ordinal DESC LIMIT 1) r ON true
            JOIN LATERAL (SELECT * FROM draft WHERE revision_id = r.id ORDER BY ordinal DESC LIMIT 1) w ON true
            WHERE (d.standing, d.changed_at) IS DISTINCT FROM (r.standing, greatest(w.uploaded_at, r.released_at))
            """,
            r => r.GetString(0), []));
    }

    [Fact]
    public async Task ARenamedOriginatorStandsInTheirNewPlace()
    {
        var mark = await FilledAsync(4, "Shaft");
        var people = new People(office.Db);
        var (id, login) = (Guid.CreateVersion7(), "renamed-" + Guid.NewGuid().ToString("n")[..8]);
        var person = new Person(id, login, "Zoltan " + mark, "Z", "", "z@office.example", "UTC", false);
        await people.AddAsync(person, Office.PasswordHash, []);
        await office.OwnerDb.RunAsync("UPDATE document SET originator = $1 WHERE number = $2 || '-1'", [id, mark]);
        var (coordinator, path) = (await office.AsAsync("coordinator"), $"/api/documents?search={mark}&sort=originator");
        Assert.Equal($"{mark}-1", Text((await coordinator.RowsAsync(path))[^1], "number"));
        await coordinator.PutAsync<JsonElement>($"/api/people/{id}", new { login, name = "Aada " + mark, initials = "A", title = "", email = "a@office.example", timeZone = "UTC", isGuest = false });
        var first = (await coordinator.RowsAsync(path))[0];
        Assert.Equal(($"{mark}-1", "Aada " + mark), (Text(first, "number"), Text(first, "originatorName")));
        Assert.Empty(await office.Db.ListAsync("SELECT d.number FROM document d JOIN person p ON p.id = d.originator WHERE p.name <> d.originator_name", r => r.GetString(0), []));
    }

    [Fact]
    public async Task ViewsAreKeptReplacedAndRemovedByTheirOwnerAlone()
    {
        var (mine, theirs) = (await office.AsAsync("q1"), await office.AsAsync("q2"));
        async Task<List<string>> OfAsync(Browser who, string list = "register") => [.. (await who.GetAsync<JsonElement>($"/api/views/{list}")).EnumerateArray().Select(v => $"{Text(v, "name")}?{Text(v, "query")}")];
        await mine.PutAsync<JsonElement>("/api/views/register", new { name = "  View 10 ", query = "sort=title" });
        await mine.PutAsync<JsonElement>("/api/views/register", new { name = "view 9", query = "kind=model" });
        await mine.PutAsync<JsonElement>("/api/views/register", new { name = "View 10", query = "sort=-title" });
        Assert.Equal(["view 9?kind=model", "View 10?sort=-title"], await OfAsync(mine));
        Assert.Empty(await OfAsync(mine, "turnaround"));
        Assert.Empty(await OfAsync(theirs));
        Assert.Equal(HttpStatusCode.NotFound, (await theirs.SendAsync("/api/views/register?name=view%209", null, HttpMethod.Delete)).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, await mine.StatusAsync("/api/views/somewhere"));
        Assert.Equal((422, "bad-name"), await mine.RefusedAsync("/api/views/register", new { name = " ", query = "" }, HttpMethod.Put));
        Assert.Equal((422, "too-long"), await mine.RefusedAsync("/api/views/register", new { name = "x", query = new string('x', 2001) }, HttpMethod.Put));
        for (var n = 0; n < 48; n++) await mine.PutAsync<JsonElement>("/api/views/register", new { name = $"more {n}", query = "" });
        Assert.Equal((422, "too-many"), await mine.RefusedAsync("/api/views/register", new { name = "one too many", query = "" }, HttpMethod.Put));
        await mine.PutAsync<JsonElement>("/api/views/register", new { name = "view 9", query = "kind=drawing" });
        await mine.DeleteAsync("/api/views/register?name=view%209");
        Assert.DoesNotContain(await OfAsync(mine), v => v.StartsWith("view 9", StringComparison.Ordinal));
    }

    private async Task<T> OneAsync<T>(string sql) => (await office.Db.ListAsync(sql, r => r.GetFieldValue<T>(0), []))[0];
}
