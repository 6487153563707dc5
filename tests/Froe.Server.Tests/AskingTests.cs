using System.Text.Json;
using Froe.Core.Routing;
using Xunit;

namespace Froe.Server.Tests;

/// <summary>Whose request it is, as people meet it: closed with words by whoever asked or stands for them, carried with a seat, never lost from a return.</summary>
public class AskingTests(Office office)
{
    private async Task<T> OneAsync<T>(string sql, params object?[] values) => (await office.Db.ListAsync(sql, r => r.GetFieldValue<T>(0), values))[0];

    private static Task<JsonElement> ActAsync(Browser who, Guid note, string act, string body, string? answer = null) => who.PostAsync<JsonElement>($"/api/notes/{note}/acts", new { act, body, answer, key = Guid.NewGuid() });

    private static Task<(int Status, string? Code)> RefusedAsync(Browser who, Guid note, string act, string body) => who.RefusedAsync($"/api/notes/{note}/acts", new { act, body });

    private static async Task<string[]> MayAsync(Browser who, Guid package, Guid note) =>
        [.. (await who.GetAsync<JsonElement>($"/api/packages/{package}")).GetProperty("notes").EnumerateArray().Single(n => n.GetProperty("id").GetGuid() == note).GetProperty("may").EnumerateArray().Select(a => a.GetString()!)];

    /// <summary>A package in its second round, with a request of a quality inspector's that was answered.</summary>
    private async Task<(Guid Package, Guid Request)> AnsweredAsync()
    {
        var (author, checker, lead, q1) = (await office.AsAsync("author"), await office.AsAsync("checker"), await office.AsAsync("lead"), await office.AsAsync("q1"));
        var document = await Office.RegisterAsync(author, $"asked {Guid.NewGuid()}");
        var package = await office.SendAsync(author, document);
        await checker.SignAsync(package, "check");
        var request = await q1.NoteAsync(package, "request", "The wall is too thin.");
        await q1.SignAsync(package, "quality", "returnForChanges");
        await lead.SignAsync(package, "lead");
        var upload = await author.UploadAsync("next.dxf", Office.Drawing("thicker " + Guid.NewGuid()));
        await author.PostAsync<JsonElement>($"/api/documents/{document}/drafts", new { upload, reason = "" });
        await ActAsync(author, request, "answer", "", "done");
        await author.PostAsync<JsonElement>($"/api/packages/{package}/rounds", new { coveringNote = "" });
        return (package, request);
    }

    [Fact]
    public async Task ARequestIsClosedWithWordsByWhoeverAskedOrSharesTheirSeat()
    {
        var (package, request) = await AnsweredAsync();
        var (checker, lead, q1, q2) = (await office.AsAsync("checker"), await office.AsAsync("lead"), await office.AsAsync("q1"), await office.AsAsync("q2"));
        // Not by anybody who happens to be awaited: a wall that was too thin was once released so.
        Assert.Equal((409, "not-yours-to-close"), await RefusedAsync(checker, request, "close", "Looks thick."));
        Assert.Equal(["reopen", "reply"], await MayAsync(checker, package, request));
        Assert.Equal((409, "not-yours-to-close"), await RefusedAsync(lead, request, "close", "Looks thick."));
        Assert.Equal((409, "closed-without-words"), await RefusedAsync(q1, request, "close", ""));
        Assert.Contains("close", await MayAsync(q1, package, request));
        Assert.Contains("close", await MayAsync(q2, package, request));
        await ActAsync(q2, request, "close", "8 mm now, by the section.");
        Assert.Equal("closed", await OneAsync<string>("SELECT standing FROM note WHERE id = $1", request));
        foreach (var told in new[] { "q1", "author" })
            Assert.Contains("is closed", await OneAsync<string>("SELECT subject FROM message WHERE person_id = $1 AND link LIKE $2 ORDER BY at DESC LIMIT 1", office.Ids[told], $"/packages/{package}%"), StringComparison.Ordinal);
        Assert.Empty(await office.ProofAsync(package));
    }

    [Fact]
    public async Task WhatNobodyAnsweredIsWithdrawnNotClosed()
    {
        var author = await office.AsAsync("author");
        var package = await office.SendAsync(author, await Office.RegisterAsync(author, "unanswered"));
        var checker = await office.AsAsync("checker");
        var request = await checker.NoteAsync(package, "request", "Longer.");
        Assert.Equal((409, "not-answered"), await RefusedAsync(checker, request, "close", "Never mind."));
        Assert.Equal(["withdraw", "leave", "reply", "edit"], await MayAsync(checker, package, request));
        await ActAsync(checker, request, "withdraw", "");
    }

    [Fact]
    public async Task WhoReopensARequestClosesItAgain()
    {
        var (package, request) = await AnsweredAsync();
        var checker = await office.AsAsync("checker");
        await ActAsync(checker, request, "reopen", "Only on one side.");
        Assert.Contains("close", await MayAsync(checker, package, request));
        await ActAsync(checker, request, "close", "Seen the other side.");
        Assert.Empty(await office.ProofAsync(package));
    }

    [Fact]
    public async Task ACoordinatorClosesWhatItsAuthorLeftOrCannot()
    {
        var (package, request) = await AnsweredAsync();
        var (koa, q1) = (await office.AsAsync("coordinator"), await office.AsAsync("q1"));
        Assert.Equal((409, "not-yours-to-close"), await RefusedAsync(koa, request, "close", "It is done."));
        await ActAsync(q1, request, "leave", "");
        Assert.DoesNotContain("leave", await MayAsync(q1, package, request));
        Assert.Contains("close", await MayAsync(koa, package, request));
        await ActAsync(koa, request, "close", "Seen with the shop.");
        Assert.Equal(["request answered", "request left", "request closed"], (await office.Db.ListAsync("SELECT action FROM ledger_entry WHERE chain = $1 AND action LIKE 'request %' ORDER BY sequence", r => r.GetString(0), [package])).Skip(1));
        Assert.Empty(await office.ProofAsync(package));
    }

    [Fact]
    public async Task ARequestGoesOnWithASeatThatIsHandedOver()
    {
        var author = await office.AsAsync("author");
        var package = await office.SendAsync(author, await Office.RegisterAsync(author, "handed"));
        // Somebody whom no other test makes a deputy of the checker's meanwhile: then it would be their own request.
        var (checker, heir) = (await office.AsAsync("checker"), await office.SomebodyAsync());
        var bystander = await office.AsAsync(heir.Login);
        var request = await checker.NoteAsync(package, "request", "Longer.");
        await checker.PostAsync<JsonElement>($"/api/packages/{package}/acts", new { kind = "handOver", reason = "Away.", seat = "check", to = heir.Id, key = Guid.NewGuid() });
        // It bars the new holder's approval, counts for their return, and its last one stays while that is under way.
        Assert.Equal((409, "request-open"), await bystander.RefusedAsync($"/api/packages/{package}/sign-offs", await bystander.SignOffAsync(package, "check")));
        Assert.Contains("withdraw", await MayAsync(bystander, package, request));
        Assert.Equal((409, "withdrawn-without-words"), await RefusedAsync(bystander, request, "withdraw", ""));
        Assert.Equal("returned", await bystander.SignAsync(package, "check", "returnForChanges"));
        var document = await OneAsync<Guid>("SELECT document_id FROM package_item WHERE package_id = $1", package);
        var upload = await author.UploadAsync("next.dxf", Office.Drawing("longer " + Guid.NewGuid()));
        await author.PostAsync<JsonElement>($"/api/documents/{document}/drafts", new { upload, reason = "" });
        await ActAsync(author, request, "answer", "", "done");
        await author.PostAsync<JsonElement>($"/api/packages/{package}/rounds", new { coveringNote = "" });
        await ActAsync(bystander, request, "close", "It is longer.");
        await bystander.SignAsync(package, "check");
        Assert.Empty(await office.ProofAsync(package));
    }

    [Fact]
    public async Task WhatAPredecessorAskedIsWithdrawnWithWordsAndThePredecessorHearsOfIt()
    {
        var author = await office.AsAsync("author");
        var package = await office.SendAsync(author, await Office.RegisterAsync(author, "handed on"));
        // Somebody whom no other test makes a deputy of the checker's meanwhile: then it would be their own request.
        var (checker, heir) = (await office.AsAsync("checker"), await office.SomebodyAsync());
        var bystander = await office.AsAsync(heir.Login);
        var request = await checker.NoteAsync(package, "request", "Longer.");
        await checker.PostAsync<JsonElement>($"/api/packages/{package}/acts", new { kind = "handOver", reason = "Away.", seat = "check", to = heir.Id, key = Guid.NewGuid() });
        await ActAsync(bystander, request, "withdraw", "It is long enough by the standard.");
        Assert.Equal(1, await OneAsync<long>("SELECT count(*) FROM message WHERE person_id = $1 AND subject LIKE '%request 1 is withdrawn%' AND link LIKE $2", office.Ids["checker"], $"/packages/{package}%"));
        await bystander.SignAsync(package, "check");
        Assert.Empty(await office.ProofAsync(package));
    }

    [Fact]
    public async Task TheLastRequestOfAReturnIsNeitherWithdrawnNorClosedWhileOthersStillSign()
    {
        var author = await office.AsAsync("author");
        var package = await office.SendAsync(author, await Office.RegisterAsync(author, "under way"));
        await (await office.AsAsync("checker")).SignAsync(package, "check");
        var (q1, q2) = (await office.AsAsync("q1"), await office.AsAsync("q2"));
        var request = await q2.NoteAsync(package, "request", "Too thin.");
        var other = await q1.NoteAsync(package, "request", "And too short.");
        await q1.SignAsync(package, "quality", "returnForChanges");
        // q2's own may go, as long as q1's stands; q1's may not.
        await ActAsync(q2, request, "withdraw", "");
        Assert.Equal((409, "holds-return"), await RefusedAsync(q1, other, "withdraw", ""));
        Assert.Equal((409, "holds-return"), await RefusedAsync(q2, other, "close", "It is not."));
        Assert.Empty(await office.ProofAsync(package));
    }

    [Fact]
    public async Task WhatCannotBeDoneGoesOutAgainAsItIsAndSaysWhy()
    {
        var (author, checker) = (await office.AsAsync("author"), await office.AsAsync("checker"));
        var package = await office.SendAsync(author, await Office.RegisterAsync(author, "as it is"));
        var request = await checker.NoteAsync(package, "request", "Longer.");
        await checker.SignAsync(package, "check", "returnForChanges");
        await ActAsync(author, request, "answer", "", "done");
        Assert.Equal((409, "same-bytes"), await author.RefusedAsync($"/api/packages/{package}/rounds", new { coveringNote = "" }));
        Assert.Equal((409, "answer-without-words"), await author.RefusedAsync($"/api/notes/{request}/acts", new { act = "answer", answer = "alreadySo", body = "" }));
        await ActAsync(author, request, "answer", "See section B-B.", "alreadySo");
        await author.PostAsync<JsonElement>($"/api/packages/{package}/rounds", new { coveringNote = "" });
        var item = (await checker.GetAsync<JsonElement>($"/api/packages/{package}")).GetProperty("items")[0];
        Assert.Equal("See section B-B.", item.GetProperty("unchanged")[0].GetString());
        await ActAsync(checker, request, "close", "So it is.");
        await checker.SignAsync(package, "check");
        Assert.Empty(await office.ProofAsync(package));
    }

    [Fact]
    public async Task WhileAPackageIsBackAnyOfItsItemsMayChange()
    {
        var (author, checker) = (await office.AsAsync("author"), await office.AsAsync("checker"));
        Guid[] documents = [await Office.RegisterAsync(author, "returned"), await Office.RegisterAsync(author, "not returned")];
        var package = await office.SendAsync(author, documents);
        async Task<(int, string?)> RefusedAsync(Guid document) => await author.RefusedAsync($"/api/documents/{document}/drafts", new { upload = await author.UploadAsync("next.dxf", Office.Drawing("more " + Guid.NewGuid())), reason = "" });
        Assert.Equal((409, "in-review"), await RefusedAsync(documents[1]));
        var request = await checker.NoteAsync(package, "request", "Longer.");
        var sign = JsonSerializer.SerializeToNode(await checker.SignOffAsync(package, "check"), JsonSerializerOptions.Web)!;
        sign["verdicts"]![0]!["verdict"] = "returnForChanges";
        await checker.PostAsync<JsonElement>($"/api/packages/{package}/sign-offs", sign);
        await ActAsync(author, request, "answer", "", "done");
        foreach (var document in documents)
            await author.PostAsync<JsonElement>($"/api/documents/{document}/drafts", new { upload = await author.UploadAsync("next.dxf", Office.Drawing("more " + Guid.NewGuid())), reason = "" });
        await author.PostAsync<JsonElement>($"/api/packages/{package}/rounds", new { coveringNote = "Both." });
        Assert.Equal([2, 2], (await author.GetAsync<JsonElement>($"/api/packages/{package}")).GetProperty("items").EnumerateArray().Select(i => i.GetProperty("ordinal").GetInt32()));
        Assert.Equal((409, "in-review"), await RefusedAsync(documents[1]));
        Assert.Empty(await office.ProofAsync([package, .. documents]));
    }

    [Theory]
    [InlineData(false)]
    [InlineData(true)]
    public async Task APackageIsPulledBackAndGoesOnWithItsSignaturesKeptUnlessTheCoordinatorSaysOtherwise(bool signAgain)
    {
        var (author, checker, lead, koa) = (await office.AsAsync("author"), await office.AsAsync("checker"), await office.AsAsync("lead"), await office.AsAsync("coordinator"));
        var package = await office.SendAsync(author, await Office.RegisterAsync(author, "pulled back"));
        await checker.SignAsync(package, "check");
        await koa.PostAsync<JsonElement>($"/api/packages/{package}/acts", new { kind = "pullBack", reason = "The client is on holiday.", signAgain, key = Guid.NewGuid() });
        // Whoever had a part hears of it with the reason, and so does who was to be kept informed.
        foreach (var told in new[] { "author", "checker", "lead", "bystander" })
            Assert.Equal(1, await OneAsync<int>("SELECT count(*)::int FROM message WHERE person_id = $1 AND link = $2 AND subject LIKE '%pulled back%' AND body LIKE '%on holiday.'", office.Ids[told], $"/packages/{package}"));
        await author.PostAsync<JsonElement>($"/api/packages/{package}/rounds", new { coveringNote = "Go on." });
        if (signAgain)
        {
            Assert.Equal((409, "step-not-open"), await lead.RefusedAsync($"/api/packages/{package}/sign-offs", await lead.SignOffAsync(package, "lead")));
            await checker.SignAsync(package, "check");
        }
        await lead.SignAsync(package, "lead");
        Assert.Empty(await office.ProofAsync(package));
    }

    [Fact]
    public async Task ARoundIsRecalledUntilItsFirstSignatureThoughEarlierOnesStand()
    {
        var (author, checker, lead, koa) = (await office.AsAsync("author"), await office.AsAsync("checker"), await office.AsAsync("lead"), await office.AsAsync("coordinator"));
        var package = await office.SendAsync(author, await Office.RegisterAsync(author, "recalled"));
        await checker.SignAsync(package, "check");
        Assert.Equal((409, "signed"), await author.RefusedAsync($"/api/packages/{package}/acts", new { kind = "recall", reason = "Wrong file.", key = Guid.NewGuid() }));
        await koa.PostAsync<JsonElement>($"/api/packages/{package}/acts", new { kind = "pullBack", reason = "A moment.", key = Guid.NewGuid() });
        await author.PostAsync<JsonElement>($"/api/packages/{package}/rounds", new { coveringNote = "" });
        Assert.True((await author.GetAsync<JsonElement>($"/api/packages/{package}")).GetProperty("may").GetProperty("recall").GetBoolean());
        await author.PostAsync<JsonElement>($"/api/packages/{package}/acts", new { kind = "recall", reason = "Wrong file.", key = Guid.NewGuid() });
        Assert.Equal("package recalled", await OneAsync<string>("SELECT action FROM ledger_entry WHERE chain = $1 ORDER BY sequence DESC LIMIT 1", package));
        await author.PostAsync<JsonElement>($"/api/packages/{package}/rounds", new { coveringNote = "" });
        await lead.SignAsync(package, "lead");
        Assert.Equal((409, "signed"), await author.RefusedAsync($"/api/packages/{package}/acts", new { kind = "recall", reason = "Wrong file.", key = Guid.NewGuid() }));
        Assert.Empty(await office.ProofAsync(package));
    }

    [Fact]
    public async Task AMisClickIsUndoneWhileNobodyHasSignedAfterIt()
    {
        var (author, checker, lead, koa) = (await office.AsAsync("author"), await office.AsAsync("checker"), await office.AsAsync("lead"), await office.AsAsync("coordinator"));
        var package = await office.SendAsync(author, await Office.RegisterAsync(author, "mis-click"));
        var acts = $"/api/packages/{package}/acts";
        await checker.SignAsync(package, "check");
        // By who signed, without asking anybody; the others are awaited no more until it is signed again.
        await checker.PostAsync<JsonElement>(acts, new { kind = "takeBack", reason = "", seat = "check", key = Guid.NewGuid() });
        Assert.Equal([office.Ids["checker"]], await office.Db.ListAsync("SELECT person_id FROM awaited WHERE package_id = $1", r => r.GetGuid(0), [package]));
        Assert.Equal((409, "step-not-open"), await lead.RefusedAsync($"/api/packages/{package}/sign-offs", await lead.SignOffAsync(package, "lead")));
        await checker.SignAsync(package, "check");
        // By a coordinator, with a reason; whoever signed hears of it.
        Assert.Equal((409, "not-coordinator"), await lead.RefusedAsync(acts, new { kind = "reopen", reason = "Mine.", seat = "check", from = office.Ids["checker"] }));
        var may = (await koa.GetAsync<JsonElement>($"/api/packages/{package}")).GetProperty("may").GetProperty("reopen");
        Assert.Equal("check", Assert.Single(may.EnumerateArray()).GetProperty("seat").GetString());
        await koa.PostAsync<JsonElement>(acts, new { kind = "reopen", reason = "She pressed the wrong key.", seat = "check", from = office.Ids["checker"], key = Guid.NewGuid() });
        Assert.Contains("is open again", await OneAsync<string>("SELECT string_agg(subject, ' ') FROM message WHERE person_id = $1 AND link = $2", office.Ids["checker"], $"/packages/{package}"), StringComparison.Ordinal);
        Assert.Equal(2, await OneAsync<long>("SELECT count(*) FROM ledger_entry WHERE chain = $1 AND action = 'step reopened'", package));
        await checker.SignAsync(package, "check");
        await lead.SignAsync(package, "lead");
        Assert.Equal((409, "signed-after"), await checker.RefusedAsync(acts, new { kind = "takeBack", reason = "", seat = "check" }));
        Assert.Empty(await office.ProofAsync(package));
    }

    [Fact]
    public async Task AReleaseWithoutSignaturesIsMeantAndSaysWhoseItIs()
    {
        var (author, koa) = (await office.AsAsync("author"), await office.AsAsync("coordinator"));
        var plan = Guid.CreateVersion7();
        await office.AddPlanAsync(plan, new Plan("Skipped " + plan, "", new([new Step("one", "One", "", 1, [new Seat("one", "One", new PersonHolder(office.Ids["lead"]))])])));
        var package = (await author.PostAsync<JsonElement>("/api/packages", new { key = Guid.NewGuid(), title = "Skipped", coveringNote = "", plan, documents = new[] { await Office.RegisterAsync(author, "skipped") }, inform = Array.Empty<Guid>() })).GetProperty("id").GetGuid();
        var acts = $"/api/packages/{package}/acts";
        Assert.Equal((409, "releases-unsigned"), await koa.RefusedAsync(acts, new { kind = "skip", reason = "Overtaken.", seat = "one" }));
        await koa.PostAsync<JsonElement>(acts, new { kind = "skip", reason = "Overtaken.", seat = "one", withoutSignatures = true, key = Guid.NewGuid() });
        var unsigned = (await author.GetAsync<JsonElement>($"/api/packages/{package}")).GetProperty("unsigned");
        Assert.Equal(("coordinator", "Overtaken."), (unsigned.GetProperty("by").GetString(), unsigned.GetProperty("reason").GetString()));
        Assert.Empty(await office.ProofAsync(package));
    }

    [Fact]
    public async Task TheDeskShowsADeputyNothingTheyCouldNotSign()
    {
        var (author, holder) = (await office.AsAsync("author"), await office.SomebodyAsync());
        var away = await office.AsAsync(holder.Login);
        var plan = Guid.CreateVersion7();
        await office.AddPlanAsync(plan, new Plan("Own work " + plan, "", new([new Step("one", "One", "", 1, [new Seat("one", "One", new PersonHolder(holder.Id))]) { BarsOriginator = true }])));
        var package = (await author.PostAsync<JsonElement>("/api/packages", new { key = Guid.NewGuid(), title = "Own work", coveringNote = "", plan, documents = new[] { await Office.RegisterAsync(author, "own work") }, inform = Array.Empty<Guid>() })).GetProperty("id").GetGuid();
        var today = DateOnly.FromDateTime(DateTime.UtcNow);
        await away.PostAsync<JsonElement>("/api/absences", new { person = holder.Id, firstDay = today.AddDays(-1), backDay = today.AddDays(2), deputy = office.Ids["author"] });
        async Task<bool> OnDeskAsync(Browser of) => (await of.GetAsync<JsonElement>("/api/desk")).GetProperty("toSign").EnumerateArray().Any(r => r.GetProperty("id").GetGuid() == package);
        Assert.False(await OnDeskAsync(author));
        Assert.True(await OnDeskAsync(away));
    }

    [Fact]
    public async Task ANoteIsWordedAnewUntilItIsAnsweredAndItsEarlierWordsStay()
    {
        var (author, checker) = (await office.AsAsync("author"), await office.AsAsync("checker"));
        var document = await Office.RegisterAsync(author, $"worded {Guid.NewGuid()}");
        var package = await office.SendAsync(author, document);
        var note = await checker.NoteAsync(package, "question", "Which bolt?");
        var asked = new { act = "edit", body = "Which bolt, M8 or M10?", key = Guid.NewGuid() };
        for (var i = 0; i < 2; i++) await checker.PostAsync<JsonElement>($"/api/notes/{note}/acts", asked);
        // The same words again change nothing.
        await ActAsync(checker, note, "edit", " Which bolt, M8 or M10? ");
        var row = (await checker.GetAsync<JsonElement>($"/api/packages/{package}")).GetProperty("notes").EnumerateArray().Single(n => n.GetProperty("id").GetGuid() == note);
        Assert.Equal("Which bolt, M8 or M10?", row.GetProperty("body").GetString());
        var act = Assert.Single(row.GetProperty("acts").EnumerateArray());
        Assert.Equal(("edit", "Which bolt?"), (act.GetProperty("act").GetString(), act.GetProperty("body").GetString()));
        Assert.Equal((409, "not-author"), await RefusedAsync(author, note, "edit", "None"));
        Assert.Equal((409, "note-empty"), await RefusedAsync(checker, note, "edit", " "));
        Assert.Equal((422, "too-long"), await RefusedAsync(checker, note, "edit", new string('x', 4001)));
        await ActAsync(author, note, "answer", "M10.");
        Assert.Equal((409, "note-answered"), await RefusedAsync(checker, note, "edit", "Which nut?"));
        Assert.DoesNotContain("edit", await MayAsync(checker, package, note));
        Assert.Empty(await office.ProofAsync(package));
        // Words altered behind the ledger's back are found, the earlier ones too.
        await office.Db.RunAsync("UPDATE note SET body = 'Which bolt?' WHERE id = $1", [note]);
        Assert.Contains(await office.ProofAsync(package), f => f.Contains("its words", StringComparison.Ordinal));
        await office.Db.RunAsync("UPDATE note SET body = 'Which bolt, M8 or M10?' WHERE id = $1", [note]);
        Assert.Empty(await office.ProofAsync(package));
    }
}
