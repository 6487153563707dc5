using System.Text.Json;
using Froe.Core.Routing;
using Froe.Store;
using Microsoft.AspNetCore.Mvc.Testing;
using Npgsql;
using Xunit;

namespace Froe.Server.Tests;

/// <summary>What every act keeps to: one connection, once for each key, what is under its lock and not what was read before.</summary>
public class ActTests(Office office)
{
    private async Task<T> OneAsync<T>(string sql, params object?[] values) => (await office.Db.ListAsync(sql, r => r.GetFieldValue<T>(0), values))[0];

    private static object Note(Guid draft, string kind, string body, Guid? key = null) => new { draft, kind, body, key, marks = new[] { Drawn.Arrow() } };

    private async Task<Guid> DraftAsync(Guid package) => await OneAsync<Guid>("SELECT draft_id FROM package_item WHERE package_id = $1 LIMIT 1", package);

    /// <summary>An act that took a second connection while it held its locks would wait for the others, and they for it.</summary>
    [Fact]
    public async Task SixteenActsAtOnceShareFourConnections()
    {
        await using var narrow = office.WithWebHostBuilder(b => b.UseSetting("Froe:Database", new NpgsqlConnectionStringBuilder(Environment.GetEnvironmentVariable("FROE_DATABASE")) { MaxPoolSize = 4, Timeout = 10 }.ConnectionString));
        async Task<Browser> AsAsync(string login)
        {
            var browser = new Browser(narrow.CreateClient(new WebApplicationFactoryClientOptions { BaseAddress = new Uri("http://localhost") }));
            await browser.RefreshAsync();
            await browser.PostAsync<JsonElement>("/api/session", new { login, password = Office.Password });
            await browser.RefreshAsync();
            return browser;
        }

        var (author, checker, coordinator) = (await AsAsync("author"), await AsAsync("checker"), await AsAsync("coordinator"));
        var documents = new List<Guid>();
        for (var i = 0; i < 16; i++) documents.Add(await Office.RegisterAsync(author, $"narrow {i}"));
        var packages = await Task.WhenAll(documents.Select(d => office.SendAsync(author, d)));
        var drafts = await Task.WhenAll(packages.Select(DraftAsync));
        var folder = "Narrow " + Guid.NewGuid().ToString("n")[..8];
        await coordinator.PostAsync<JsonElement>("/api/folders", new { path = folder });
        await Task.WhenAll(packages.Zip(drafts, (p, d) => checker.PostAsync<JsonElement>($"/api/packages/{p}/notes", Note(d, "remark", "At once."))));
        await Task.WhenAll(packages.Select(p => coordinator.PostAsync<JsonElement>($"/api/packages/{p}/acts", new { kind = "handOver", reason = "At once.", seat = "lead", from = office.Ids["lead"], to = office.Ids["bystander"] })));
        await Task.WhenAll(packages.Select(p => checker.PostAsync<JsonElement>($"/api/packages/{p}/advice", new { of = office.Ids["bystander"], question = "At once?" })));
        await Task.WhenAll(documents.Select(d => coordinator.PostAsync<JsonElement>("/api/documents/places", new { documents = new[] { d }, folder, copy = true, reason = "At once." })));
        await Task.WhenAll(packages.Select(p => checker.SignAsync(p, "check")));
        Assert.Equal(16, await OneAsync<int>("SELECT count(*)::int FROM sign_off WHERE package_id = ANY ($1)", (object)packages));
    }

    [Fact]
    public async Task WhatIsAskedTwiceIsDoneOnce()
    {
        var (author, checker, coordinator) = (await office.AsAsync("author"), await office.AsAsync("checker"), await office.AsAsync("coordinator"));
        var package = await office.SendAsync(author, await Office.RegisterAsync(author, "once"));
        var draft = await DraftAsync(package);
        Task<JsonElement[]> Twice(Browser who, string path, object body) => Task.WhenAll(Enumerable.Range(0, 4).Select(_ => who.PostAsync<JsonElement>(path, body)));

        var notes = await Twice(checker, $"/api/packages/{package}/notes", Note(draft, "question", "Once?", Guid.NewGuid()));
        Assert.Single(notes.Select(n => n.GetProperty("id").GetGuid()).Distinct());
        Assert.Equal(1, await OneAsync<int>("SELECT count(*)::int FROM note WHERE package_id = $1", package));
        await Twice(author, $"/api/notes/{notes[0].GetProperty("id").GetGuid()}/acts", new { act = "answer", answer = (string?)null, body = "Once.", key = Guid.NewGuid() });
        Assert.Equal(1, await OneAsync<int>("SELECT count(*)::int FROM note_act WHERE note_id = $1", notes[0].GetProperty("id").GetGuid()));
        var asked = await Twice(checker, $"/api/packages/{package}/advice", new { of = office.Ids["bystander"], question = "Once?", key = Guid.NewGuid() });
        await Twice(await office.AsAsync("bystander"), $"/api/advice/{asked[0].GetProperty("id").GetGuid()}", new { words = "Once.", key = Guid.NewGuid() });
        Assert.Equal(1, await OneAsync<int>("SELECT count(*)::int FROM advice WHERE package_id = $1", package));
        // A step is not given two days twice.
        await Twice(coordinator, $"/api/packages/{package}/acts", new { kind = "extend", reason = "More time.", step = "check", days = 2, key = Guid.NewGuid() });
        Assert.Equal(1, await OneAsync<int>("SELECT count(*)::int FROM ledger_entry WHERE chain = $1 AND action = 'plan amended'", package));
        var away = await Twice(checker, "/api/absences", new { person = office.Ids["checker"], firstDay = "2090-01-01", backDay = "2090-01-05", deputy = (Guid?)null, key = Guid.NewGuid() });
        Assert.Single(away.Select(a => a.GetProperty("id").GetGuid()).Distinct());
        await checker.DeleteAsync($"/api/absences/{away[0].GetProperty("id").GetGuid()}");
        // Without a key each is its own.
        await checker.PostAsync<JsonElement>($"/api/packages/{package}/notes", Note(draft, "remark", "Twice."));
        await checker.PostAsync<JsonElement>($"/api/packages/{package}/notes", Note(draft, "remark", "Twice."));
        Assert.Equal(3, await OneAsync<int>("SELECT count(*)::int FROM note WHERE package_id = $1", package));
    }

    /// <summary>The note's package is read again under the lock: an act that waited while its item was split off lands where the item is now.</summary>
    [Fact]
    public async Task AnActOnANoteLandsInThePackageTheNoteIsIn()
    {
        var (author, checker) = (await office.AsAsync("author"), await office.AsAsync("checker"));
        var (old, next) = (await office.SendAsync(author, await Office.RegisterAsync(author, "old")), await office.SendAsync(author, await Office.RegisterAsync(author, "next")));
        var note = await checker.NoteAsync(old, "remark", "It moves.");
        await checker.PostAsync<JsonElement>($"/api/packages/{old}/advice", new { of = office.Ids["bystander"], question = "Where?", note });
        var advice = await OneAsync<Guid>("SELECT id FROM advice WHERE package_id = $1", old);
        await using (var connection = await office.OwnerDb.OpenAsync())
        {
            await using var moving = await connection.BeginTransactionAsync();
            await connection.ListAsync("SELECT 1 FROM package WHERE id = $1 FOR UPDATE", _ => 0, [old]);
            var closing = checker.PostAsync<JsonElement>($"/api/notes/{note}/acts", new { act = "close", answer = (string?)null, body = "" });
            var answering = (await office.AsAsync("bystander")).PostAsync<JsonElement>($"/api/advice/{advice}", new { words = "Here." });
            await Task.Delay(500);
            Assert.False(closing.IsCompleted || answering.IsCompleted);
            await connection.ListAsync("UPDATE note SET package_id = $2, number = 77 WHERE id = $1", _ => 0, [note, next]);
            await connection.ListAsync("UPDATE advice SET package_id = $2 WHERE id = $1", _ => 0, [advice, next]);
            await moving.CommitAsync();
            await closing;
            await answering;
        }
        Assert.Equal([next, next], await office.Db.ListAsync("SELECT chain FROM ledger_entry WHERE chain IN ($1, $2) AND action IN ('remark closed', 'advice given') ORDER BY action", r => r.GetGuid(0), [old, next]));
    }

    [Fact]
    public async Task NothingIsSignedThatWasNotOpened()
    {
        var (author, checker) = (await office.AsAsync("author"), await office.AsAsync("checker"));
        var package = await office.SendAsync(author, await Office.RegisterAsync(author, "unopened"));
        var sign = await checker.SignOffAsync(package, "check");
        await office.Db.RunAsync("DELETE FROM draft_opened WHERE person_id = $1 AND draft_id = $2", [office.Ids["checker"], await DraftAsync(package)]);
        Assert.Equal((409, "not-opened"), await checker.RefusedAsync($"/api/packages/{package}/sign-offs", sign));
        await checker.SignAsync(package, "check");
    }

    [Fact]
    public async Task ADeputyRequestsClosesAndReturnsAsTheAbsentPersonDoes()
    {
        var (absent, deputy) = (await office.SomebodyAsync(), await office.SomebodyAsync());
        var plan = Guid.CreateVersion7();
        await office.AddPlanAsync(plan, new Plan("Deputy " + plan, "", new([new Step("one", "One", "", 1, [new Seat("one", "One", new PersonHolder(absent.Id))])])));
        var (author, away, there) = (await office.AsAsync("author"), await office.AsAsync(absent.Login), await office.AsAsync(deputy.Login));
        var package = (await author.PostAsync<JsonElement>("/api/packages", new { key = Guid.NewGuid(), title = "Deputy", coveringNote = "", plan, documents = new[] { await Office.RegisterAsync(author, "deputy") }, inform = Array.Empty<Guid>() })).GetProperty("id").GetGuid();
        var own = await away.NoteAsync(package, "request", "Mine, before I left.");
        var today = DateOnly.FromDateTime(DateTime.UtcNow);
        await away.PostAsync<JsonElement>("/api/absences", new { person = absent.Id, firstDay = today.AddDays(-1), backDay = today.AddDays(2), deputy = deputy.Id });
        // Of two absences at once one says who stands in, on the desk and in signing alike: the one that began last.
        var other = await office.SomebodyAsync();
        await away.PostAsync<JsonElement>("/api/absences", new { person = absent.Id, firstDay = today.AddDays(-9), backDay = today.AddDays(2), deputy = other.Id });
        async Task<bool> OnDeskAsync(Browser of) => (await of.GetAsync<JsonElement>("/api/desk")).GetProperty("toSign").EnumerateArray().Any(r => r.GetProperty("id").GetGuid() == package);
        Assert.True(await OnDeskAsync(there));
        Assert.False(await OnDeskAsync(await office.AsAsync(other.Login)));

        var request = await there.NoteAsync(package, "request", "And one more.");
        Assert.Contains(absent.Id.ToString(), await OneAsync<string>("SELECT payload FROM ledger_entry WHERE chain = $1 AND action = 'request written' AND person_id = $2", package, deputy.Id), StringComparison.Ordinal);
        Assert.Equal((409, "request-open"), await there.RefusedAsync($"/api/packages/{package}/sign-offs", await there.SignOffAsync(package, "one", absent: absent.Id)));
        await there.PostAsync<JsonElement>($"/api/notes/{own}/acts", new { act = "withdraw", answer = (string?)null, body = "Seen to." });
        await there.PostAsync<JsonElement>($"/api/packages/{package}/sign-offs", await there.SignOffAsync(package, "one", "returnForChanges", absent: absent.Id));
        Assert.Equal("returned", await OneAsync<string>("SELECT standing FROM package WHERE id = $1", package));
        Assert.Equal("open", await OneAsync<string>("SELECT standing FROM note WHERE id = $1", request));
        Assert.Empty(await office.ProofAsync(package));
    }

    [Fact]
    public async Task ADayAwayBeginsWhereTheAbsentPersonLives()
    {
        var absent = await office.SomebodyAsync("Pacific/Auckland");
        var row = await (await office.AsAsync("coordinator")).PostAsync<JsonElement>("/api/absences", new { person = absent.Id, firstDay = "2090-07-01", backDay = "2090-07-08", deputy = (Guid?)null });
        Assert.Equal((new DateTimeOffset(2090, 6, 30, 12, 0, 0, TimeSpan.Zero), "2090-07-01", "2090-07-08"), (row.GetProperty("from").GetDateTimeOffset(), row.GetProperty("firstDay").GetString(), row.GetProperty("backDay").GetString()));
        var shown = (await (await office.AsAsync("lead")).GetAsync<JsonElement>("/api/absences")).EnumerateArray().Single(a => a.GetProperty("person").GetGuid() == absent.Id);
        Assert.Equal("2090-07-08", shown.GetProperty("backDay").GetString());
    }

    [Fact]
    public async Task ADocumentThatIsNotThereIsNeverLeftOutWithoutAWord()
    {
        var author = await office.AsAsync("author");
        var document = await Office.RegisterAsync(author, "one of two");
        Assert.Equal((404, "not-found"), await author.RefusedAsync("/api/packages", new { key = Guid.NewGuid(), title = "Two", coveringNote = "", plan = office.Plan, documents = new[] { document, Guid.NewGuid() }, inform = Array.Empty<Guid>() }));
        Assert.Equal((422, "too-many"), await (await office.AsAsync("coordinator")).RefusedAsync("/api/documents/standings", new { documents = Enumerable.Range(0, 501).Select(_ => Guid.NewGuid()), to = "x", reason = "x" }));
    }

    [Fact]
    public async Task ASecondQuestionWaitsAndAFourthIsRefused()
    {
        var (author, checker) = (await office.AsAsync("author"), await office.AsAsync("checker"));
        var package = await office.SendAsync(author, await Office.RegisterAsync(author, "asked"));
        for (var i = 0; i < 3; i++) await checker.PostAsync<JsonElement>($"/api/packages/{package}/advice", new { of = office.Ids["bystander"], question = $"Question {i}?" });
        Assert.Equal((409, "asked-already"), await checker.RefusedAsync($"/api/packages/{package}/advice", new { of = office.Ids["bystander"], question = "And?" }));
        var other = await office.SomebodyAsync();
        for (var i = 0; i < 3; i++) await checker.PostAsync<JsonElement>("/api/absences/asked", new { person = other.Id });
        Assert.Equal(1, await OneAsync<int>("SELECT count(*)::int FROM message WHERE person_id = $1", other.Id));
    }
}
