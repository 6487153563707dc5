using System.Net;
using System.Text.Json;
using Froe.Store;
using Xunit;

namespace Froe.Server.Tests;

/// <summary>The ledger as one list: what is in it, in which order, who may read it, and the proof of a chain.</summary>
public class LedgerListTests(Office office)
{
    private static string Text(JsonElement row, string name) => row.GetProperty(name).GetString()!;

    private async Task<(Guid Person, string Login)> SomebodyAsync(string right, string folder)
    {
        var (person, group, login) = (Guid.CreateVersion7(), Guid.CreateVersion7(), "ledger-" + Guid.NewGuid().ToString("n")[..8]);
        var people = new People(office.Db);
        await people.AddAsync(new Person(person, login, login, "L", "", "l@office.example", "UTC", false), Office.PasswordHash, []);
        await people.AddGroupAsync(new PersonGroup(group, login, [person]));
        await office.OwnerDb.RunAsync("INSERT INTO folder (path) VALUES ($1) ON CONFLICT DO NOTHING", [folder]);
        await office.OwnerDb.RunAsync("INSERT INTO group_right (group_id, right_name, folder_id) SELECT $1, $2, id FROM folder WHERE path = $3", [group, right, folder]);
        return (person, login);
    }

    [Fact]
    public async Task APackagesStoryStandsInOrderAndIsSaidInWords()
    {
        var (author, checker) = (await office.AsAsync("author"), await office.AsAsync("checker"));
        var mark = "ledger " + Guid.NewGuid().ToString("n")[..8];
        var package = (await author.PostAsync<JsonElement>("/api/packages", new { key = Guid.NewGuid(), title = mark, coveringNote = "Please look.", plan = office.Plan, documents = new[] { await Office.RegisterAsync(author, "a sheet") }, inform = Array.Empty<Guid>() })).GetProperty("id").GetGuid();
        await checker.NoteAsync(package, "request", "Longer.");
        Assert.Equal("returned", await checker.SignAsync(package, "check", "returnForChanges"));
        var up = await checker.RowsAsync($"/api/ledger?chain={package}&sort=at");
        Assert.Equal(Enumerable.Range(1, up.Count), up.Select(e => e.GetProperty("sequence").GetInt32()));
        Assert.Equal(["package sent", "step opened", "request written", "signed, returning"], up.Take(4).Select(e => Text(e, "action")));
        Assert.Equal(["", "Check", "1", ""], up.Take(4).Select(e => Text(e, "about")));
        Assert.Equal(["author", "author", "checker", "checker"], up.Take(4).Select(e => Text(e, "personName")));
        Assert.All(up, e => Assert.Equal(("package", mark), (Text(e, "subject"), Text(e, "subjectTitle"))));
        Assert.Equal(up.Select(e => Text(e, "id")), (await checker.RowsAsync($"/api/ledger?chain={package}&sort=-at")).Select(e => Text(e, "id")).Reverse());
        // Each says what stands before it.
        Assert.Equal(up.SkipLast(1).Select(e => Text(e, "hash")), up.Skip(1).Select(e => Text(e, "before")));
        // By its title, its number, by who acted and when.
        Assert.Equal(up.Count, (await checker.RowsAsync($"/api/ledger?search={Uri.EscapeDataString(mark.ToUpperInvariant())}")).Count);
        Assert.Equal(up.Count, (await checker.RowsAsync($"/api/ledger?search={Text(up[0], "subjectNumber")}&subject=package")).Count);
        Assert.Equal("request written", Text(Assert.Single(await checker.RowsAsync($"/api/ledger?chain={package}&person={office.Ids["checker"]}&until={Uri.EscapeDataString(Text(up[3], "at"))}")), "action"));
        Assert.Equal(up.Count, (await checker.RowsAsync($"/api/ledger?search=%20{Text(up[0], "subjectNumber").ToLowerInvariant()}%20")).Count);
        Assert.Empty(await checker.RowsAsync($"/api/ledger?chain={package}&subject=document"));
        Assert.Empty(await checker.RowsAsync($"/api/ledger?chain={package}&from=2099-01-01T00:00:00Z"));
        Assert.Equal(HttpStatusCode.NotFound, await checker.StatusAsync("/api/ledger?subject=weather"));
        var file = await (await checker.SendAsync($"/api/ledger.csv?chain={package}&sort=at&columns=person,action,about,subject,sequence", null, HttpMethod.Get)).Content.ReadAsStringAsync();
        Assert.StartsWith($"Who,What,On,Of what,Number in its chain\r\nauthor,package sent,,{Text(up[0], "subjectNumber")},1\r\nauthor,step opened,Check,", file, StringComparison.Ordinal);
    }

    [Fact]
    public async Task AWholeNumberMeansThatOneAndWordsForTooManyAreRefused()
    {
        var author = await office.AsAsync("author");
        var mark = "W" + Guid.NewGuid().ToString("n")[..6].ToUpperInvariant();
        await office.OwnerDb.RunAsync(
            "INSERT INTO document (id, number, title, kind, discipline, originator, registered_at) SELECT md5($1 || n)::uuid, $1 || '-' || n, 'Many', 'drawing', 'd', $2, now() FROM generate_series(1, 501) n", [mark, office.Ids["author"]]);
        await office.OwnerDb.RunAsync("INSERT INTO ledger_entry (chain, sequence, at, person_id, action, reason, payload, before, hash) SELECT id, 1, now(), originator, 'filed', '', '{}', '', '' FROM document WHERE number IN ($1 || '-5', $1 || '-50')", [mark]);
        try
        {
            Assert.Equal($"{mark}-5", Text(Assert.Single(await author.RowsAsync($"/api/ledger?search={mark.ToLowerInvariant()}-5")), "subjectNumber"));
            Assert.Equal(2, (await author.RowsAsync($"/api/ledger?search={mark}-5%20many")).Count);
            Assert.Equal(HttpStatusCode.UnprocessableEntity, await author.StatusAsync($"/api/ledger?search={mark}"));
        }
        finally
        {
            await office.OwnerDb.RunAsync("DELETE FROM ledger_entry WHERE chain IN (SELECT id FROM document WHERE starts_with(number, $1))", [mark]);
            await office.OwnerDb.RunAsync("DELETE FROM document WHERE starts_with(number, $1)", [mark]);
        }
    }

    [Fact]
    public async Task ManyEntriesOfOneMomentAreEachListedOnce()
    {
        var author = await office.AsAsync("author");
        var document = await Office.RegisterAsync(author, "many entries");
        await office.OwnerDb.RunAsync(
            "INSERT INTO ledger_entry (chain, sequence, at, person_id, action, reason, payload, before, hash) SELECT $1, n, timestamptz '2026-02-01 08:00+00', $2, 'filed', '', '{\"folder\": \"A\"}', '', '' FROM generate_series(100, 599) n",
            [document, office.Ids["author"]]);
        var rows = await author.RowsAsync($"/api/ledger?chain={document}&until=2026-03-01T00:00:00Z");
        Assert.Equal(Enumerable.Range(100, 500).Reverse(), rows.Select(r => r.GetProperty("sequence").GetInt32()));
        Assert.All(rows, r => Assert.Equal("A", Text(r, "about")));
        // A document's own page holds the newest, and says that there are more.
        Assert.Equal((500, true), await HistoryAsync());
        // A chain with a gap, and hashes that are none, does not hold.
        var proof = await author.GetAsync<JsonElement>($"/api/ledger/{document}/proof");
        Assert.Equal("entry 3 is missing; entry 100 stands in its place", proof.GetProperty("fault").GetProperty("what").GetString());
        await office.OwnerDb.RunAsync("DELETE FROM ledger_entry WHERE chain = $1 AND sequence >= 100", [document]);
        proof = await author.GetAsync<JsonElement>($"/api/ledger/{document}/proof");
        Assert.Equal((2, JsonValueKind.Null), (proof.GetProperty("entries").GetInt32(), proof.GetProperty("fault").ValueKind));
        Assert.Equal((2, false), await HistoryAsync());

        async Task<(int, bool)> HistoryAsync()
        {
            var detail = await author.GetAsync<JsonElement>($"/api/documents/{document}");
            return (detail.GetProperty("history").GetArrayLength(), detail.GetProperty("historyGoesOn").GetBoolean());
        }
    }

    [Fact]
    public async Task NobodyReadsWhatTheyMayNotSee()
    {
        var author = await office.AsAsync("author");
        var document = await Office.RegisterAsync(author, "secret");
        var package = await office.SendAsync(author, document);
        var (person, login) = await SomebodyAsync("read", "Ledger");
        var reader = await office.AsAsync(login);
        async Task<bool> SeesAsync(Guid chain)
        {
            var sees = (await reader.RowsAsync($"/api/ledger?chain={chain}")).Count > 0;
            Assert.Equal(sees ? HttpStatusCode.OK : HttpStatusCode.NotFound, await reader.StatusAsync($"/api/ledger/{chain}/proof"));
            return sees;
        }
        Assert.Equal((false, false), (await SeesAsync(document), await SeesAsync(package)));
        await office.OwnerDb.RunAsync("UPDATE document SET folder_id = (SELECT id FROM folder WHERE path = 'Ledger') WHERE id = $1", [document]);
        Assert.Equal((true, true), (await SeesAsync(document), await SeesAsync(package)));
        await office.OwnerDb.RunAsync("UPDATE document SET folder_id = (SELECT id FROM folder WHERE path = '') WHERE id = $1", [document]);
        await office.OwnerDb.RunAsync("INSERT INTO package_seat (package_id, person_id) VALUES ($1, $2)", [package, person]);
        Assert.Equal((false, true), (await SeesAsync(document), await SeesAsync(package)));
        Assert.Equal(HttpStatusCode.Forbidden, await (await office.AsAsync("guest")).StatusAsync("/api/ledger"));
    }

    /// <summary>For whoever it is: what is asked for by kind is what is of that kind among everything, neither more nor less.</summary>
    [Fact]
    public async Task EachKindAloneIsThatKindOfAll()
    {
        var author = await office.AsAsync("author");
        await office.OwnerDb.RunAsync("INSERT INTO folder (path) VALUES ('Kinds') ON CONFLICT DO NOTHING", []);
        var (person, login) = await SomebodyAsync("read", "Kinds");
        var (seen, other) = (await Office.RegisterAsync(author, "kinds seen"), await Office.RegisterAsync(author, "kinds unseen"));
        var (package, unseen) = (await office.SendAsync(author, seen), await office.SendAsync(author, other));
        await office.OwnerDb.RunAsync("UPDATE document SET folder_id = (SELECT id FROM folder WHERE path = 'Kinds') WHERE id = $1", [seen]);
        var reader = await office.AsAsync(login);
        foreach (var who in new[] { reader, author, await office.AsAsync("coordinator") })
        {
            foreach (var chain in new[] { seen, other, package, unseen, person })
            {
                async Task<List<string>> OfAsync(string kind) => [.. (await who.RowsAsync($"/api/ledger?chain={chain}{kind}")).Select(r => $"{Text(r, "subject")} {Text(r, "id")}")];
                var all = await OfAsync("");
                foreach (var kind in new[] { "package", "document", "plan", "office" })
                    Assert.Equal(all.Where(r => r.StartsWith(kind, StringComparison.OrdinalIgnoreCase)), await OfAsync($"&subject={kind}"));
            }
        }
        Assert.Equal(HttpStatusCode.NotFound, await author.StatusAsync("/api/ledger?subject=7"));

        // However many documents somebody may see, and so in whatever way their entries are found, they read the same of these.
        async Task<List<string>> ReadAsync()
        {
            var read = new List<string>();
            foreach (var kind in new[] { "", "&subject=package", "&subject=document" })
                foreach (var sort in new[] { "at", "-at" })
                    foreach (var chain in new[] { seen, other, package, unseen })
                        read.AddRange((await reader.RowsAsync($"/api/ledger?chain={chain}&sort={sort}{kind}")).Select(r => $"{kind} {sort} {Text(r, "id")}"));
            return read;
        }
        var few = await ReadAsync();
        Assert.Contains(few, r => r.Contains(package.ToString(), StringComparison.Ordinal));
        Assert.Contains(few, r => r.Contains(seen.ToString(), StringComparison.Ordinal));
        try
        {
            foreach (var (from, to) in new[] { (1, 2_100), (2_101, 20_100) })
            {
                await office.OwnerDb.RunAsync(
                    "INSERT INTO document (id, number, title, kind, discipline, originator, registered_at, folder_id) SELECT md5('kinds' || n)::uuid, 'KINDS-' || n, 'Kinds', 'drawing', 'd', $3, now(), (SELECT id FROM folder WHERE path = 'Kinds') FROM generate_series($1::int, $2::int) n",
                    [from, to, office.Ids["author"]]);
                Assert.Equal(few, await ReadAsync());
            }
        }
        finally
        {
            await office.OwnerDb.RunAsync("DELETE FROM document WHERE starts_with(number, 'KINDS-')", []);
        }
    }

    [Fact]
    public async Task WhatTheOfficeDoesIsRecordedForAdministrators()
    {
        var (admin, checker) = (await office.AsAsync("coordinator"), await office.AsAsync("checker"));
        var mark = Guid.NewGuid().ToString("n")[..8];
        object Wanted(string name, string? password) => new { login = "led" + mark, name, initials = "L", title = "", email = "l@office.example", timeZone = "UTC", isGuest = false, password };
        var person = (await admin.PostAsync<JsonElement>("/api/people", Wanted("Led " + mark, Office.Password))).GetProperty("id").GetGuid();
        Assert.Equal((409, "login-taken"), await admin.RefusedAsync("/api/people", Wanted("Twice " + mark, Office.Password)));
        await admin.PutAsync<JsonElement>($"/api/people/{person}", Wanted("Renamed " + mark, "another long password"));
        var absence = (await admin.PostAsync<JsonElement>("/api/absences", new { person, firstDay = "2030-01-01", backDay = "2030-01-08", deputy = office.Ids["checker"] })).GetProperty("id").GetGuid();
        await admin.PutAsync<JsonElement>($"/api/absences/{absence}", new { deputy = office.Ids["lead"] });
        Assert.Equal((422, "own-deputy"), await admin.RefusedAsync($"/api/absences/{absence}", new { deputy = person }, HttpMethod.Put));
        await admin.DeleteAsync($"/api/absences/{absence}");
        var acts = await admin.RowsAsync($"/api/ledger?chain={person}&subject=office&sort=at");
        Assert.Equal([OfficeActs.PersonAdded, OfficeActs.PersonChanged, OfficeActs.AbsenceEntered, OfficeActs.DeputyNamed, OfficeActs.AbsenceRemoved], acts.Select(a => Text(a, "action")));
        Assert.All(acts, a => Assert.Equal(("coordinator", "Renamed " + mark), (Text(a, "personName"), Text(a, "subjectTitle"))));
        // That a password was set is recorded; the password is not.
        Assert.Contains("\"passwordSet\":true", Text(acts[1], "payload"), StringComparison.Ordinal);
        Assert.All(acts, a => Assert.DoesNotContain("password\"", Text(a, "payload"), StringComparison.OrdinalIgnoreCase));
        Assert.All(acts, a => Assert.DoesNotContain("@office.example", Text(a, "payload"), StringComparison.Ordinal));
        Assert.Equal(JsonValueKind.Null, (await admin.GetAsync<JsonElement>($"/api/ledger/{person}/proof")).GetProperty("fault").ValueKind);

        var group = (await admin.PostAsync<JsonElement>("/api/groups", new { name = "Group " + mark, members = new[] { person } })).GetProperty("id").GetGuid();
        await admin.DeleteAsync($"/api/groups/{group}");
        await admin.PostAsync<JsonElement>("/api/folders", new { path = $"F {mark}" });
        await admin.PutAsync<JsonElement>("/api/folders/standings", new { path = $"F {mark}", standings = (object?)null });
        await admin.PutAsync<JsonElement>("/api/folders", new { path = $"F {mark}", to = $"G {mark}" });
        await admin.DeleteAsync($"/api/folders?path={Uri.EscapeDataString($"G {mark}")}");
        var calendar = (await admin.PostAsync<JsonElement>("/api/calendars", Calendar("C " + mark))).GetProperty("id").GetGuid();
        await admin.PutAsync<JsonElement>($"/api/calendars/{calendar}", Calendar("D " + mark));
        await admin.DeleteAsync($"/api/calendars/{calendar}");
        var told = (await admin.RowsAsync("/api/ledger?subject=office&sort=at")).Where(e => Text(e, "payload").Contains(mark, StringComparison.Ordinal) && e.GetProperty("chain").GetGuid() != person).Select(e => (Text(e, "action"), Text(e, "subjectTitle"))).ToList();
        Assert.Equal(
            [(OfficeActs.GroupMade, "Group " + mark), (OfficeActs.GroupRemoved, "Group " + mark), (OfficeActs.FolderMade, "F " + mark), (OfficeActs.StandingsSet, "F " + mark), (OfficeActs.FolderMoved, "F " + mark), (OfficeActs.FolderRemoved, "G " + mark), (OfficeActs.CalendarMade, "C " + mark), (OfficeActs.CalendarChanged, "D " + mark), (OfficeActs.CalendarRemoved, "D " + mark)],
            told);
        // None of it is for others to read.
        Assert.Empty(await checker.RowsAsync($"/api/ledger?chain={person}"));
        Assert.Empty(await checker.RowsAsync("/api/ledger?subject=office"));
        Assert.Equal(HttpStatusCode.NotFound, await checker.StatusAsync($"/api/ledger/{person}/proof"));
    }

    [Fact]
    public async Task TheIndexOfTheOfficesActsIsOfAllOfThem()
    {
        var index = (await office.OwnerDb.ListAsync("SELECT indexdef FROM pg_indexes WHERE indexname IN ('ledger_office', 'ledger_plan') ORDER BY 1", r => r.GetString(0), [])).ConvertAll(d => d[d.IndexOf("WHERE", StringComparison.Ordinal)..]);
        var named = OfficeActs.Sql.Split('\'').Where((_, i) => i % 2 == 1).ToArray();
        Assert.Equal(18, named.Length);
        Assert.All(named, action => Assert.Contains($"'{action}'::text", index.Single(i => i.Contains("rights given", StringComparison.Ordinal)), StringComparison.Ordinal));
        // The planner takes it for what the list asks, however long the ledger is.
        await using var connection = await office.OwnerDb.OpenAsync();
        await using var transaction = await connection.BeginTransactionAsync();
        await connection.ListAsync("SELECT set_config('enable_seqscan', 'off', true)", _ => 0, []);
        foreach (var (asked, expected) in new[] { (OfficeActs.Sql, "ledger_office"), (OfficeActs.PlanSql, "ledger_plan") })
            Assert.Contains(expected, string.Join('\n', await connection.ListAsync($"EXPLAIN SELECT e.chain FROM ledger_entry e WHERE e.action IN {asked} ORDER BY e.at DESC, e.chain DESC, e.sequence DESC LIMIT 51", r => r.GetString(0), [])), StringComparison.Ordinal);
    }

    private static object Calendar(string name) => new { name, week = Enumerable.Range(0, 7).Select(d => d < 5 ? new[] { new { from = 480, to = 960 } } : []).ToArray(), holidays = Array.Empty<object>() };
}
