using System.Net;
using System.Text.Json;
using Froe.Core.Routing;
using Froe.Store;
using Xunit;

namespace Froe.Server.Tests;

/// <summary>Drawing on overlays: who may, until when, twice, at once, and what can be proven of it afterwards.</summary>
public class MarkingTests(Office office)
{
    private static Guid Id(JsonElement row) => row.GetProperty("id").GetGuid();

    private async Task<Guid> DraftAsync(Guid document) => (await office.Db.ListAsync("SELECT id FROM draft WHERE document_id = $1 ORDER BY ordinal DESC LIMIT 1", r => r.GetGuid(0), [document]))[0];

    /// <summary>A package of some documents, with its drafts.</summary>
    private async Task<(Guid Package, Guid[] Drafts)> SentAsync(int documents = 1)
    {
        var author = await office.AsAsync("author");
        var all = new List<Guid>();
        for (var i = 0; i < documents; i++) all.Add(await Office.RegisterAsync(author, $"marked {Guid.NewGuid()}"));
        var package = await office.SendAsync(author, [.. all]);
        return (package, await Task.WhenAll(all.Select(DraftAsync)));
    }

    private static async Task<JsonElement[]> DrawAsync(Browser who, Guid draft, params object[] changes) =>
        [.. (await who.PostAsync<JsonElement>($"/api/drafts/{draft}/markups", new { changes, key = Guid.NewGuid() })).GetProperty("markups").EnumerateArray()];

    private static async Task<List<JsonElement>> OverlaysAsync(Browser who, Guid draft) => [.. (await who.GetAsync<JsonElement>($"/api/drafts/{draft}/overlays")).GetProperty("overlays").EnumerateArray()];

    private static async Task<List<JsonElement>> MarkupsAsync(Browser who, Guid draft) => [.. (await OverlaysAsync(who, draft)).SelectMany(o => o.GetProperty("markups").EnumerateArray())];

    [Fact]
    public async Task AMarkupIsDrawnMovedErasedAndPutBack()
    {
        var (package, drafts) = await SentAsync();
        var checker = await office.AsAsync("checker");
        var id = Guid.NewGuid();
        var drawn = Assert.Single(await DrawAsync(checker, drafts[0], Drawn.Cloud(id)));
        Assert.Equal((1, true), (drawn.GetProperty("version").GetInt64(), drawn.GetProperty("mayChange").GetBoolean()));
        var moved = Assert.Single(await DrawAsync(checker, drafts[0], Drawn.Cloud(id, x: 20, version: 1)));
        Assert.Equal((2, 20), (moved.GetProperty("version").GetInt64(), moved.GetProperty("shape").GetProperty("from").GetProperty("x").GetDouble()));
        var gone = await checker.PostAsync<JsonElement>($"/api/drafts/{drafts[0]}/markups", new { changes = new[] { Drawn.Erased(id, 2) } });
        Assert.Equal((0, id, 3), (gone.GetProperty("markups").GetArrayLength(), Id(gone.GetProperty("erased")[0]), gone.GetProperty("erased")[0].GetProperty("version").GetInt64()));
        Assert.Empty(await MarkupsAsync(checker, drafts[0]));
        Assert.Equal(4, Assert.Single(await DrawAsync(checker, drafts[0], Drawn.Cloud(id, x: 20, version: 3))).GetProperty("version").GetInt64());
        // Everybody who sees the draft sees it; only its owner may change it.
        var lead = await office.AsAsync("lead");
        var seen = Assert.Single(await MarkupsAsync(lead, drafts[0]));
        Assert.Equal((id, false), (Id(seen), seen.GetProperty("mayChange").GetBoolean()));
        Assert.Equal((409, "not-your-overlay"), await lead.RefusedAsync($"/api/drafts/{drafts[0]}/markups", new { changes = new[] { Drawn.Erased(id, 4) } }));
        Assert.Equal((409, "not-your-overlay"), await lead.RefusedAsync($"/api/drafts/{drafts[0]}/markups", new { changes = new[] { Drawn.Cloud(overlay: seen.GetProperty("overlay").GetGuid()) } }));
        Assert.Empty(await office.ProofAsync(package));
    }

    [Fact]
    public async Task WhatIsAskedTwiceIsDoneOnceAndWhatIsStaleIsNamed()
    {
        var (_, drafts) = await SentAsync();
        var checker = await office.AsAsync("checker");
        var (a, b, c) = (Guid.NewGuid(), Guid.NewGuid(), Guid.NewGuid());
        var asked = new { changes = new[] { Drawn.Cloud(a), Drawn.Arrow(b) }, key = Guid.NewGuid() };
        for (var i = 0; i < 3; i++) await checker.PostAsync<JsonElement>($"/api/drafts/{drafts[0]}/markups", asked);
        // Another key, the same markups: the answer was lost and the page was loaded anew.
        await DrawAsync(checker, drafts[0], Drawn.Cloud(a), Drawn.Arrow(b));
        Assert.Equal([1, 1], (await MarkupsAsync(checker, drafts[0])).Select(m => m.GetProperty("version").GetInt64()));
        await DrawAsync(checker, drafts[0], Drawn.Cloud(a, x: 20, version: 1));
        // Of several, all or none: the stale one is named, the others are not done.
        using var response = await checker.SendAsync($"/api/drafts/{drafts[0]}/markups", System.Net.Http.Json.JsonContent.Create(new { changes = new[] { Drawn.Cloud(a, x: 30, version: 1), Drawn.Arrow(b, x: 5, version: 1), Drawn.Cloud(c) } }));
        Assert.Equal(HttpStatusCode.Conflict, response.StatusCode);
        var problem = JsonSerializer.Deserialize<JsonElement>(await response.Content.ReadAsStringAsync());
        Assert.Equal(("stale-markups", a), (problem.GetProperty("code").GetString(), problem.GetProperty("stale")[0].GetGuid()));
        Assert.Equal(1, problem.GetProperty("stale").GetArrayLength());
        Assert.Equal([1, 2], (await MarkupsAsync(checker, drafts[0])).Select(m => m.GetProperty("version").GetInt64()).Order());
        Assert.Equal((422, "changed-twice"), await checker.RefusedAsync($"/api/drafts/{drafts[0]}/markups", new { changes = new[] { Drawn.Cloud(c), Drawn.Erased(c, 0) } }));
        Assert.Equal((422, "too-many-changes"), await checker.RefusedAsync($"/api/drafts/{drafts[0]}/markups", new { changes = Enumerable.Range(0, 201).Select(_ => Drawn.Cloud()).ToArray() }));
        Assert.Equal((409, "markup-off-sheet"), await checker.RefusedAsync($"/api/drafts/{drafts[0]}/markups", new { changes = new[] { Drawn.Cloud(c), Drawn.Cloud(x: 1e9) } }));
        Assert.Equal((404, "not-found"), await checker.RefusedAsync($"/api/drafts/{Guid.NewGuid()}/markups", new { changes = new[] { Drawn.Cloud() } }));
        Assert.Equal(2, (await MarkupsAsync(checker, drafts[0])).Count);
    }

    [Fact]
    public async Task TwoWindowsThatDrawFirstAtOnceDrawOnOneOverlay()
    {
        var (package, drafts) = await SentAsync();
        var windows = await Task.WhenAll(Enumerable.Range(0, 6).Select(_ => office.AsAsync("checker")));
        await Task.WhenAll(windows.Select(w => DrawAsync(w, drafts[0], Drawn.Cloud(), Drawn.Arrow())));
        var overlay = Assert.Single(await OverlaysAsync(windows[0], drafts[0]));
        Assert.Equal("Marks", overlay.GetProperty("name").GetString());
        Assert.Equal(12, overlay.GetProperty("markups").GetArrayLength());
        Assert.Empty(await office.ProofAsync(package));
    }

    [Fact]
    public async Task OverlaysAreNamedByTheirOwner()
    {
        var (_, drafts) = await SentAsync();
        var (checker, lead) = (await office.AsAsync("checker"), await office.AsAsync("lead"));
        var (first, safety) = (Guid.NewGuid(), Guid.NewGuid());
        string At(Guid overlay) => $"/api/drafts/{drafts[0]}/overlays/{overlay}";
        foreach (var (overlay, name) in new[] { (first, " First look "), (safety, "Safety"), (safety, "Safety"), (safety, "Safety, again") }) await checker.PutAsync<JsonElement>(At(overlay), new { name });
        Assert.Equal(["First look", "Safety, again"], (await OverlaysAsync(lead, drafts[0])).Select(o => o.GetProperty("name").GetString()));
        Assert.Equal((409, "name-taken"), await checker.RefusedAsync(At(safety), new { name = "first LOOK" }, HttpMethod.Put));
        Assert.Equal((409, "name-taken"), await checker.RefusedAsync(At(Guid.NewGuid()), new { name = "first look" }, HttpMethod.Put));
        Assert.Equal((409, "name-taken"), await lead.RefusedAsync(At(safety), new { name = "Mine" }, HttpMethod.Put));
        Assert.Equal((422, "no-name"), await checker.RefusedAsync(At(safety), new { name = " " }, HttpMethod.Put));
        Assert.Equal((422, "too-long"), await checker.RefusedAsync(At(safety), new { name = new string('x', 61) }, HttpMethod.Put));
        // Drawn on the one that is named, or on the oldest.
        await DrawAsync(checker, drafts[0], Drawn.Cloud(overlay: safety), Drawn.Arrow());
        Assert.Equal([1, 1], (await OverlaysAsync(checker, drafts[0])).Select(o => o.GetProperty("markups").GetArrayLength()));
        for (var i = 2; i < 20; i++) await checker.PutAsync<JsonElement>(At(Guid.NewGuid()), new { name = $"Overlay {i}" });
        Assert.Equal((409, "too-many-overlays"), await checker.RefusedAsync(At(Guid.NewGuid()), new { name = "One more" }, HttpMethod.Put));
        Assert.Equal((404, "not-found"), await checker.RefusedAsync($"/api/drafts/{Guid.NewGuid()}/overlays/{Guid.NewGuid()}", new { name = "Nowhere" }, HttpMethod.Put));
    }

    [Fact]
    public async Task AFullOverlayTakesNoMoreAndWhatLiesOnItIsStillMoved()
    {
        var (package, drafts) = await SentAsync();
        var checker = await office.AsAsync("checker");
        var ids = Enumerable.Range(0, 2000).Select(_ => Guid.NewGuid()).ToArray();
        foreach (var some in ids.Chunk(200)) await DrawAsync(checker, drafts[0], [.. some.Select(id => Drawn.Cloud(id))]);
        Assert.Equal((409, "overlay-full"), await checker.RefusedAsync($"/api/drafts/{drafts[0]}/markups", new { changes = new[] { Drawn.Cloud() } }));
        Assert.Equal(11, Assert.Single(await DrawAsync(checker, drafts[0], Drawn.Cloud(ids[0], x: 20, version: 1))).GetProperty("version").GetInt64());
        await DrawAsync(checker, drafts[0], Drawn.Erased(ids[1], 1));
        await DrawAsync(checker, drafts[0], Drawn.Cloud());
        Assert.Equal((409, "overlay-full"), await checker.RefusedAsync($"/api/drafts/{drafts[0]}/markups", new { changes = new[] { Drawn.Cloud(ids[1], version: 12) } }));
        Assert.Empty(await office.ProofAsync(package));
    }

    [Fact]
    public async Task WhatWasSignedWithStaysUntilTheSignatureIsTakenBackAndStandsInTheLedger()
    {
        var (package, drafts) = await SentAsync();
        var (checker, lead) = (await office.AsAsync("checker"), await office.AsAsync("lead"));
        var (mine, later, others) = (Guid.NewGuid(), Guid.NewGuid(), Guid.NewGuid());
        await DrawAsync(checker, drafts[0], Drawn.Cloud(mine));
        await DrawAsync(lead, drafts[0], Drawn.Arrow(others));
        await checker.SignAsync(package, "check");
        // Step “check” has passed: its signatures stand. Whoever has not signed yet draws on.
        Assert.Equal((409, "already-signed"), await checker.RefusedAsync($"/api/drafts/{drafts[0]}/markups", new { changes = new[] { Drawn.Erased(mine, 1) } }));
        Assert.Equal((409, "already-signed"), await checker.RefusedAsync($"/api/drafts/{drafts[0]}/markups", new { changes = new[] { Drawn.Cloud(mine, x: 20, version: 1) } }));
        Assert.False((await MarkupsAsync(checker, drafts[0])).Single(m => Id(m) == mine).GetProperty("mayChange").GetBoolean());
        await DrawAsync(lead, drafts[0], Drawn.Arrow(others, x: 5, version: 1));
        // What is drawn afterwards is no part of what was signed.
        await DrawAsync(checker, drafts[0], Drawn.Cloud(later, x: 50));
        await DrawAsync(checker, drafts[0], Drawn.Erased(later, 2));
        var signed = (await office.Db.ListAsync(
            "SELECT payload FROM ledger_entry WHERE chain = $1 AND action = 'signed'", r => (SignedOff)JsonSerializer.Deserialize<SlipEvent>(r.GetString(0), Act.Json)!, [package])).Single();
        Assert.Equal([1, 1], signed.Overlays.Select(o => o.Version));
        Assert.Empty(await office.ProofAsync(package));
        // Whoever alters what lay there then is found out, though it has changed since.
        await office.OwnerDb.RunAsync("UPDATE markup_change SET body = replace(body, '\"x\":9', '\"x\":8') WHERE markup_id = $1 AND version = 1", [others]);
        Assert.Contains(await office.ProofAsync(package), f => f.Contains("is not what it was given with", StringComparison.Ordinal));
    }

    [Fact]
    public async Task ASignatureTakenBackFreesItsMarkups()
    {
        var (package, drafts) = await SentAsync();
        await (await office.AsAsync("checker")).SignAsync(package, "check");
        var q1 = await office.AsAsync("q1");
        var mine = Guid.NewGuid();
        await DrawAsync(q1, drafts[0], Drawn.Cloud(mine));
        await q1.SignAsync(package, "quality");
        Assert.Equal((409, "already-signed"), await q1.RefusedAsync($"/api/drafts/{drafts[0]}/markups", new { changes = new[] { Drawn.Erased(mine, 1) } }));
        await q1.PostAsync<JsonElement>($"/api/packages/{package}/acts", new { kind = "takeBack", reason = "", seat = "quality", key = Guid.NewGuid() });
        Assert.Empty(await DrawAsync(q1, drafts[0], Drawn.Erased(mine, 1)));
        Assert.Empty(await office.ProofAsync(package));
    }

    [Fact]
    public async Task ANoteHasNoPlaceOneOrManyAndItsPlacesStayOnceItIsAnswered()
    {
        var (package, drafts) = await SentAsync(2);
        var (checker, lead, author) = (await office.AsAsync("checker"), await office.AsAsync("lead"), await office.AsAsync("author"));
        async Task<JsonElement> NoteAsync(int number) => (await checker.GetAsync<JsonElement>($"/api/packages/{package}")).GetProperty("notes").EnumerateArray().Single(n => n.GetProperty("number").GetInt32() == number);
        // None.
        await checker.PostAsync<JsonElement>($"/api/packages/{package}/notes", new { draft = drafts[0], kind = "remark", body = "The whole of it.", marks = Array.Empty<object>() });
        Assert.Equal((0, 1), ((await NoteAsync(1)).GetProperty("marks").GetArrayLength(), (await NoteAsync(1)).GetProperty("places").GetArrayLength()));
        // Of a mark that was drawn before.
        var mark = Guid.NewGuid();
        await DrawAsync(checker, drafts[0], Drawn.Cloud(mark));
        var question = Id(await checker.PostAsync<JsonElement>($"/api/packages/{package}/notes", new { draft = drafts[0], kind = "question", body = "What is it?", marks = new[] { Drawn.Cloud(mark, version: 1) } }));
        // Another place, on another document; then a third.
        await DrawAsync(checker, drafts[1], Drawn.Arrow(note: question));
        await DrawAsync(checker, drafts[0], Drawn.Arrow(note: question));
        Assert.Equal([drafts[0], drafts[0], drafts[1]], (await NoteAsync(2)).GetProperty("marks").EnumerateArray().Select(m => m.GetProperty("draft").GetGuid()));
        Assert.Equal(drafts.Order(), (await NoteAsync(2)).GetProperty("places").EnumerateArray().Select(m => m.GetProperty("draft").GetGuid()).Order());
        // Only its author says where it belongs.
        Assert.Equal((409, "not-your-note"), await lead.RefusedAsync($"/api/drafts/{drafts[0]}/markups", new { changes = new[] { Drawn.Cloud(note: question) } }));
        await author.PostAsync<JsonElement>($"/api/notes/{question}/acts", new { act = "answer", body = "A flange." });
        Assert.Equal((409, "note-answered"), await checker.RefusedAsync($"/api/drafts/{drafts[0]}/markups", new { changes = new[] { Drawn.Erased(mark, 2) } }));
        Assert.Equal((409, "note-answered"), await checker.RefusedAsync($"/api/drafts/{drafts[0]}/markups", new { changes = new[] { Drawn.Cloud(note: question) } }));
        // A note that is withdrawn takes its places along.
        var request = await checker.NoteAsync(package, "request", "Longer.");
        await checker.PostAsync<JsonElement>($"/api/notes/{request}/acts", new { act = "withdraw", body = "" });
        Assert.Equal(3, (await MarkupsAsync(checker, drafts[0])).Count + (await MarkupsAsync(checker, drafts[1])).Count);
        Assert.Empty(await office.ProofAsync(package));
    }

    /// <summary>A drawing and its model go back together.</summary>
    [Fact]
    public async Task ARequestWithPlacesOnTwoDocumentsStandsOnBoth()
    {
        var (package, drafts) = await SentAsync(2);
        var (checker, lead) = (await office.AsAsync("checker"), await office.AsAsync("lead"));
        var request = await checker.NoteAsync(package, "request", "The flange is too thin, here and there.");
        async Task<(int, string?)> SignedAsync(string first, string second) => await checker.RefusedAsync($"/api/packages/{package}/sign-offs", await VerdictsAsync(checker, package, first, second));
        Assert.Equal((409, "return-without-request"), await SignedAsync("returnForChanges", "returnForChanges"));
        await DrawAsync(checker, drafts[1], Drawn.Cloud(note: request));
        Assert.Equal((409, "request-open"), await SignedAsync("returnForChanges", "approve"));
        Assert.Equal((409, "request-open"), await SignedAsync("approve", "returnForChanges"));
        await checker.PostAsync<JsonElement>($"/api/packages/{package}/sign-offs", await VerdictsAsync(checker, package, "returnForChanges", "returnForChanges"));
        Assert.Equal("returned", (await lead.GetAsync<JsonElement>($"/api/packages/{package}")).GetProperty("standing").GetString());
        Assert.Empty(await office.ProofAsync(package));
    }

    private static async Task<object> VerdictsAsync(Browser who, Guid package, string first, string second)
    {
        var asked = JsonSerializer.SerializeToNode(await who.SignOffAsync(package, "check"), JsonSerializerOptions.Web)!;
        (asked["verdicts"]![0]!["verdict"], asked["verdicts"]![1]!["verdict"]) = (first, second);
        return asked;
    }

    [Fact]
    public async Task ADraftThatWasNotSentIsMarkedByWhoeverSeesItAndStaysAsItIsOnceItsReviewIsOver()
    {
        var author = await office.AsAsync("author");
        var document = await Office.RegisterAsync(author, "marked before it is sent");
        var draft = await DraftAsync(document);
        var mark = Guid.NewGuid();
        await DrawAsync(author, draft, Drawn.Cloud(mark));
        var guest = await office.AsAsync("guest");
        Assert.Equal((404, "not-found"), await guest.RefusedAsync($"/api/drafts/{draft}/markups", new { changes = new[] { Drawn.Cloud() } }));
        Assert.Equal((404, "not-found"), await guest.RefusedAsync($"/api/drafts/{draft}/overlays/{Guid.NewGuid()}", new { name = "Mine" }, HttpMethod.Put));
        Assert.Equal(HttpStatusCode.NotFound, await guest.StatusAsync($"/api/drafts/{draft}/overlays"));
        var package = await office.SendAsync(author, document);
        var checker = await office.AsAsync("checker");
        Assert.Equal(mark, Id(Assert.Single(await MarkupsAsync(checker, draft))));
        await DrawAsync(author, draft, Drawn.Cloud(mark, x: 20, version: 1));
        await author.PostAsync<JsonElement>($"/api/packages/{package}/acts", new { kind = "recall", reason = "Wrong file.", key = Guid.NewGuid() });
        Assert.Equal((409, "not-under-review"), await author.RefusedAsync($"/api/drafts/{draft}/markups", new { changes = new[] { Drawn.Erased(mark, 2) } }));
        Assert.Equal((409, "not-under-review"), await checker.RefusedAsync($"/api/drafts/{draft}/markups", new { changes = new[] { Drawn.Cloud() } }));
        Assert.Equal((409, "not-under-review"), await checker.RefusedAsync($"/api/drafts/{draft}/overlays/{Guid.NewGuid()}", new { name = "Late" }, HttpMethod.Put));
        Assert.False((await checker.GetAsync<JsonElement>($"/api/drafts/{draft}/overlays")).GetProperty("mayDraw").GetBoolean());
        // Sent again, it is under review again.
        await office.SendAsync(author, document);
        await DrawAsync(author, draft, Drawn.Erased(mark, 2));
    }

    /// <summary>Whoever signs while others draw: each sign-off names exactly what lay there at its moment.</summary>
    [Fact]
    public async Task SigningAndDrawingNeverPassEachOtherUnseen()
    {
        var (package, drafts) = await SentAsync();
        await (await office.AsAsync("checker")).SignAsync(package, "check");
        var signers = await Task.WhenAll(new[] { "lead", "q1", "q2" }.Select(n => office.AsAsync(n)));
        var asked = await Task.WhenAll(signers.Zip(["lead", "quality", "quality"]).Select(s => s.First.SignOffAsync(package, s.Second)));
        var drawing = Enumerable.Range(0, 24).Select(async i => await DrawAsync(signers[i % 3], drafts[0], Drawn.Cloud(x: i)) is not null);
        var signing = signers.Zip(asked).Select(async s =>
        {
            await Task.Delay(Random.Shared.Next(60));
            await s.First.PostAsync<JsonElement>($"/api/packages/{package}/sign-offs", s.Second);
            return true;
        });
        // The last signature releases it, and then nobody draws.
        await Task.WhenAll(drawing.Concat(signing).Select(async t =>
        {
            try
            {
                await t;
            }
            catch (Exception e) when (e.Message.Contains("not under review", StringComparison.Ordinal))
            {
            }
        }));
        Assert.Empty(await office.ProofAsync(package));
    }

    [Fact]
    public async Task WhatIsDrawnOnBearsASignInEveryListAndTheSignLeadsToTheFirst()
    {
        var (package, drafts) = await SentAsync(2);
        var checker = await office.AsAsync("checker");
        var title = (await checker.GetAsync<JsonElement>($"/api/packages/{package}")).GetProperty("number").GetString();
        async Task<(bool Package, bool Desk, Guid? Document)> Signs()
        {
            var number = (await office.Db.ListAsync("SELECT d.number FROM draft w JOIN document d ON d.id = w.document_id WHERE w.id = $1", r => r.GetString(0), [drafts[1]]))[0];
            var row = Assert.Single((await checker.GetAsync<JsonElement>($"/api/documents?search={Uri.EscapeDataString(number)}")).GetProperty("rows").EnumerateArray(), r => r.GetProperty("draft").GetGuid() == drafts[1]);
            var desk = (await checker.GetAsync<JsonElement>("/api/desk")).GetProperty("toSign").EnumerateArray().Single(r => Id(r) == package);
            return (
                Assert.Single((await checker.GetAsync<JsonElement>($"/api/packages?search={title}")).GetProperty("rows").EnumerateArray(), r => Id(r) == package).GetProperty("isMarked").GetBoolean(),
                desk.GetProperty("isMarked").GetBoolean(), row.GetProperty("markedIn").ValueKind == JsonValueKind.Null ? null : row.GetProperty("markedIn").GetGuid());
        }
        Assert.Equal((false, false, null), await Signs());
        var (first, second) = (Guid.NewGuid(), Guid.NewGuid());
        await DrawAsync(checker, drafts[1], Drawn.Arrow(first));
        await DrawAsync(checker, drafts[1], Drawn.Cloud(second));
        Assert.Equal((true, true, package), await Signs());
        var items = (await checker.GetAsync<JsonElement>($"/api/packages/{package}")).GetProperty("items").EnumerateArray().ToList();
        Assert.Equal(JsonValueKind.Null, items[0].GetProperty("marked").ValueKind);
        Assert.Equal((first, 2), (Id(items[1].GetProperty("marked")), items[1].GetProperty("marked").GetProperty("count").GetInt32()));
        // Erased, and nothing is said of it any more.
        foreach (var id in new[] { first, second }) await checker.PostAsync<JsonElement>($"/api/drafts/{drafts[1]}/markups", new { changes = new[] { Drawn.Erased(id, (await MarkupsAsync(checker, drafts[1])).Single(m => Id(m) == id).GetProperty("version").GetInt64()) } });
        Assert.Equal((false, false, null), await Signs());
    }
}
