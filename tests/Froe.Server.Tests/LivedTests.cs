using System.Collections.Immutable;
using System.Net;
using System.Text.Json;
using System.Text.Json.Nodes;
using Froe.Core.Routing;
using Microsoft.Extensions.DependencyInjection;
using Xunit;

namespace Froe.Server.Tests;

/// <summary>Routing as people live it: nothing asked for gets lost, nobody is stuck. One story a point.</summary>
public class LivedTests(Office office) : LivedStories(office)
{
    [Fact]
    public async Task WhatWasAskedBeforeARecallComesAlongWithTheDocumentUntilAReviewerSettlesIt()
    {
        var (author, checker) = (await Here.AsAsync("author"), await Here.AsAsync("checker"));
        var document = await Office.RegisterAsync(author, "recalled");
        var first = await Here.SendAsync(author, document);
        var request = await checker.NoteAsync(first, "request", "The wall is too thin.");
        await ActAsync(author, first, "recall");
        // Whoever sends it again is shown it, and so are the reviewers of the next package.
        var unsettled = (await author.PostAsync<JsonElement>("/api/requests/unsettled", new { documents = new[] { document } }))[0];
        Assert.Equal("The wall is too thin.", unsettled.GetProperty("body").GetString());
        var second = await Here.SendAsync(author, document);
        var note = (await ViewAsync(checker, second)).GetProperty("notes")[0];
        Assert.Equal((0, "open", "The wall is too thin."), (note.GetProperty("round").GetInt32(), note.GetProperty("standing").GetString(), note.GetProperty("body").GetString()));
        // It lies where it was drawn, on the draft under review as well.
        Assert.Equal(1, note.GetProperty("marks").GetArrayLength());
        Assert.Equal("carried over", await OneAsync<string>("SELECT standing FROM note WHERE id = $1", request));
        Assert.Equal((409, "request-open"), await checker.RefusedAsync($"/api/packages/{second}/sign-offs", await checker.SignOffAsync(second, "check")));
        var id = note.GetProperty("id").GetGuid();
        await author.PostAsync<JsonElement>($"/api/notes/{id}/acts", new { act = "answer", answer = "cannot", body = "It is cast.", key = Guid.NewGuid() });
        Assert.Equal((409, "closed-without-words"), await checker.RefusedAsync($"/api/notes/{id}/acts", new { act = "close", body = "" }));
        await checker.PostAsync<JsonElement>($"/api/notes/{id}/acts", new { act = "close", body = "Cast it is.", key = Guid.NewGuid() });
        await checker.SignAsync(second, "check");
        Assert.Equal(0, (await author.PostAsync<JsonElement>("/api/requests/unsettled", new { documents = new[] { document } })).GetArrayLength());
        Assert.Equal((409, "package-ended"), await checker.RefusedAsync($"/api/notes/{request}/acts", new { act = "close", body = "Too late." }));
        Assert.Empty(await Here.ProofAsync(first, second, document));
    }

    [Fact]
    public async Task WhatWasNotedIsAnsweredWhereverItsSignOffStandsNow()
    {
        var (author, checker, lead) = (await Here.AsAsync("author"), await Here.AsAsync("checker"), await Here.AsAsync("lead"));
        var plan = await PlanAsync(new Plan("Held", "", new Sequence([Look("one", "checker"), Look("two", "lead") with { SignAgain = SignAgain.ChangedItems }])) { HoldsNoted = true });
        Guid[] documents = [await Office.RegisterAsync(author, "changes"), await Office.RegisterAsync(author, "stays")];
        var package = await SendAsync(author, plan, documents);
        var sign = JsonSerializer.SerializeToNode(await checker.SignOffAsync(package, "one-checker"), JsonSerializerOptions.Web)!;
        (sign["verdicts"]![1]!["verdict"], sign["verdicts"]![1]!["reason"]) = ("approveAsNoted", "Mind the radius.");
        await checker.PostAsync<JsonElement>($"/api/packages/{package}/sign-offs", sign);
        var request = await lead.NoteAsync(package, "request", "Longer.");
        var back = JsonSerializer.SerializeToNode(await lead.SignOffAsync(package, "two-lead"), JsonSerializerOptions.Web)!;
        back["verdicts"]![0]!["verdict"] = "returnForChanges";
        await lead.PostAsync<JsonElement>($"/api/packages/{package}/sign-offs", back);
        await author.PostAsync<JsonElement>($"/api/notes/{request}/acts", new { act = "answer", answer = "done", body = "", key = Guid.NewGuid() });
        await NextDraftAsync(author, documents[0]);
        await author.PostAsync<JsonElement>($"/api/packages/{package}/rounds", new { coveringNote = "Again." });
        // The checker's verdict on the other item is carried over; what they noted waits for its answer here.
        var noted = (await ViewAsync(author, package)).GetProperty("signOffs").EnumerateArray().SelectMany(s => s.GetProperty("verdicts").EnumerateArray().Select(v => (SignOff: s, Verdict: v)))
            .Single(v => v.Verdict.GetProperty("verdict").GetString() == "approveAsNoted");
        Assert.True(noted.Verdict.GetProperty("stands").GetBoolean() && noted.Verdict.GetProperty("wantsAnswer").GetBoolean());
        await author.PostAsync<JsonElement>($"/api/packages/{package}/noted", new { seat = "one-checker", signer = Here.Ids["checker"], draft = noted.Verdict.GetProperty("draft").GetGuid(), words = "It is R3." });
        async Task SignChangedAsync(Browser who, string seat)
        {
            var rest = JsonSerializer.SerializeToNode(await who.SignOffAsync(package, seat), JsonSerializerOptions.Web)!;
            rest["verdicts"]!.AsArray().RemoveAt(1);
            await who.PostAsync<JsonElement>($"/api/packages/{package}/sign-offs", rest);
        }
        await SignChangedAsync(checker, "one-checker");
        await lead.PostAsync<JsonElement>($"/api/notes/{request}/acts", new { act = "close", body = "Seen.", key = Guid.NewGuid() });
        await SignChangedAsync(lead, "two-lead");
        var released = await ViewAsync(author, package);
        Assert.Equal("released", released.GetProperty("standing").GetString());
        // Every approval of what was released stands, whichever round it was given in.
        Assert.All(released.GetProperty("signOffs").EnumerateArray().SelectMany(s => s.GetProperty("verdicts").EnumerateArray())
            .Where(v => released.GetProperty("items").EnumerateArray().Any(i => i.GetProperty("sha256").GetString() == v.GetProperty("sha256").GetString())), v => Assert.True(v.GetProperty("stands").GetBoolean()));
        Assert.Empty(await Here.ProofAsync(package));
    }

    [Fact]
    public async Task TheNextRoundLeavesOutTakesInCorrectsTheFormAndKeepsWhatWasSaid()
    {
        var (author, checker) = (await Here.AsAsync("author"), await Here.AsAsync("checker"));
        var plan = await PlanAsync(new Plan("Form", "", new Sequence([Look("one", "checker")])) { Form = [new("mass", "Mass", FieldKind.Number, "kg", "", true, [])] });
        Guid[] documents = [await Office.RegisterAsync(author, "left out"), await Office.RegisterAsync(author, "stays"), await Office.RegisterAsync(author, "taken in")];
        var package = (await author.PostAsync<JsonElement>("/api/packages", new { key = Guid.NewGuid(), title = "Lived", coveringNote = "First words.", plan, documents = documents[..2], inform = Array.Empty<Guid>(), answers = new { mass = "10" } })).GetProperty("id").GetGuid();
        await checker.NoteAsync(package, "request", "Not this one.");
        var back = JsonSerializer.SerializeToNode(await checker.SignOffAsync(package, "one-checker"), JsonSerializerOptions.Web)!;
        back["verdicts"]![0]!["verdict"] = "returnForChanges";
        await checker.PostAsync<JsonElement>($"/api/packages/{package}/sign-offs", back);
        // Its request is not answered, and need not be: it stays with the document that is left out.
        Assert.Equal((409, "form-wrong"), await author.RefusedAsync($"/api/packages/{package}/rounds", new { coveringNote = "", documents = documents[1..], answers = new { mass = "much" } }));
        await author.PostAsync<JsonElement>($"/api/packages/{package}/rounds", new { coveringNote = "Second words.", documents = documents[1..], answers = new { mass = "12" }, inform = new[] { Here.Ids["bystander"] } });
        var view = await ViewAsync(author, package);
        Assert.Equal(documents[1..], view.GetProperty("items").EnumerateArray().Select(i => i.GetProperty("document").GetGuid()));
        Assert.Equal(["First words.", "Second words."], view.GetProperty("rounds").EnumerateArray().Select(r => r.GetProperty("coveringNote").GetString()));
        Assert.Equal("12", view.GetProperty("slip").GetProperty("facts").GetProperty("answers").GetProperty("mass").GetString());
        Assert.Contains(Here.Ids["bystander"], view.GetProperty("informed").EnumerateArray().Select(i => i.GetGuid()));
        Assert.Equal("in work", await OneAsync<string>("SELECT standing FROM document WHERE id = $1", documents[0]));
        Assert.Equal("released", await checker.SignAsync(package, "one-checker"));
        Assert.Equal("Not this one.", (await author.PostAsync<JsonElement>("/api/requests/unsettled", new { documents }))[0].GetProperty("body").GetString());
        Assert.Empty(await Here.ProofAsync([package, .. documents]));
    }

    [Fact]
    public async Task AChangeOrderTravelsWithThePackageIsCorrectedFoundAndOffered()
    {
        var (author, checker) = (await Here.AsAsync("author"), await Here.AsAsync("checker"));
        var plan = await PlanAsync(new Plan("Carries out", "", new Sequence([Look("one", "checker")])));
        var number = "CO-" + Guid.NewGuid().ToString("n")[..8];
        var document = await Office.RegisterAsync(author, "changed");
        object Sent(string? changeOrder) => new { key = Guid.NewGuid(), title = "Seals", coveringNote = "", plan, documents = new[] { document }, inform = Array.Empty<Guid>(), changeOrder };
        Assert.Equal((409, "change-order-wrong"), await author.RefusedAsync("/api/packages", Sent(new string('9', 61))));
        Assert.Equal((409, "change-order-wrong"), await author.RefusedAsync("/api/packages", Sent("CO-1\nand a story")));
        // Put aside and taken up again, it is still there.
        var aside = Guid.NewGuid();
        await author.PutAsync<JsonElement>("/api/prepared", new { id = aside, title = "Seals", coveringNote = "", plan, documents = new[] { document }, answers = new Dictionary<string, string>(), changeOrder = number });
        Assert.Equal(number, (await author.GetAsync<JsonElement>("/api/prepared")).EnumerateArray().Single(p => p.GetProperty("id").GetGuid() == aside).GetProperty("changeOrder").GetString());

        var package = (await author.PostAsync<JsonElement>("/api/packages", Sent($" {number}x "))).GetProperty("id").GetGuid();
        Assert.Equal(number + "x", (await ViewAsync(checker, package)).GetProperty("slip").GetProperty("facts").GetProperty("changeOrder").GetString());
        await checker.NoteAsync(package, "request", "Wider.");
        await checker.SignAsync(package, "one-checker", "returnForChanges");
        await author.PostAsync<JsonElement>($"/api/notes/{(await ViewAsync(author, package)).GetProperty("notes")[0].GetProperty("id").GetGuid()}/acts", new { act = "answer", answer = "done", body = "", key = Guid.NewGuid() });
        await NextDraftAsync(author, document);
        await author.PostAsync<JsonElement>($"/api/packages/{package}/rounds", new { coveringNote = "", changeOrder = number });

        var found = Assert.Single((await author.GetAsync<JsonElement>($"/api/packages?search={number.ToUpperInvariant()}")).GetProperty("rows").EnumerateArray());
        Assert.Equal((package, number), (found.GetProperty("id").GetGuid(), found.GetProperty("changeOrder").GetString()));
        Assert.Contains(number, (await author.GetAsync<string[]>("/api/packages/change-orders")).Take(5));
        Assert.Equal(HttpStatusCode.Forbidden, await (await Here.AsAsync("guest")).StatusAsync("/api/packages/change-orders"));
        Assert.Empty(await Here.ProofAsync(package, document));
    }

    [Fact]
    public async Task WhatSpeaksOfTwoDocumentsStaysWhereOneOfThemIsStillUnderWay()
    {
        var (author, checker) = (await Here.AsAsync("author"), await Here.AsAsync("checker"));
        var plan = await PlanAsync(new Plan("Two", "", new Sequence([Look("one", "checker")])));
        Guid[] documents = [await Office.RegisterAsync(author, "drawing"), await Office.RegisterAsync(author, "its model")];
        var package = await SendAsync(author, plan, documents);
        var request = await checker.NoteAsync(package, "request", "They differ.");
        var model = (await ViewAsync(checker, package)).GetProperty("items")[1].GetProperty("draft").GetGuid();
        await checker.PostAsync<JsonElement>($"/api/drafts/{model}/markups", new { changes = new[] { Drawn.Cloud(note: request) }, key = Guid.NewGuid() });
        await checker.SignAsync(package, "one-checker", "returnForChanges");
        await author.PostAsync<JsonElement>($"/api/notes/{request}/acts", new { act = "answer", answer = "cannot", body = "Only in paper.", key = Guid.NewGuid() });
        await author.PostAsync<JsonElement>($"/api/packages/{package}/rounds", new { coveringNote = "", documents = documents[1..] });
        // The drawing goes another way; what is asked of its model is not lost with it.
        var other = await SendAsync(author, plan, documents[0]);
        Assert.Equal(0, (await ViewAsync(checker, other)).GetProperty("notes").GetArrayLength());
        Assert.Equal((409, "request-open"), await checker.RefusedAsync($"/api/packages/{package}/sign-offs", await checker.SignOffAsync(package, "one-checker")));
        await checker.PostAsync<JsonElement>($"/api/notes/{request}/acts", new { act = "close", body = "So be it.", key = Guid.NewGuid() });
        Assert.Equal("released", await checker.SignAsync(package, "one-checker"));
        Assert.Empty(await Here.ProofAsync([package, other, .. documents]));
    }

    [Fact]
    public async Task ADeputyAnswersAndSendsForAnAbsentOriginatorAndACoordinatorHandsThePackageOn()
    {
        var ((away, author), (deputy, standsIn), (heir, next)) = (await OriginatorAsync("away"), await OriginatorAsync("deputy"), await OriginatorAsync("heir"));
        var (checker, koa) = (await Here.AsAsync("checker"), await Here.AsAsync("coordinator"));
        var document = await Office.RegisterAsync(author, "absent");
        var package = await SendAsync(author, await PlanAsync(new Plan("One", "", new Sequence([Look("one", "checker")]))), document);
        var request = await checker.NoteAsync(package, "request", "Longer.");
        await checker.SignAsync(package, "one-checker", "returnForChanges");
        Assert.Equal((403, "not-allowed"), await standsIn.RefusedAsync($"/api/documents/{document}/drafts", new { upload = Guid.NewGuid(), reason = "" }));
        await author.PostAsync<JsonElement>("/api/absences", new { person = away, firstDay = DateOnly.FromDateTime(DateTime.UtcNow), backDay = DateOnly.FromDateTime(DateTime.UtcNow.AddDays(9)), deputy, key = Guid.NewGuid() });
        Assert.Equal(1, await OneAsync<int>("SELECT count(*)::int FROM message WHERE person_id = $1 AND subject = 'You stand in for away'", deputy));
        Assert.Contains(package, (await standsIn.GetAsync<JsonElement>("/api/desk")).GetProperty("toAnswer").EnumerateArray().Select(p => p.GetProperty("id").GetGuid()));
        await standsIn.PostAsync<JsonElement>($"/api/notes/{request}/acts", new { act = "answer", answer = "done", body = "", key = Guid.NewGuid() });
        await NextDraftAsync(standsIn, document);
        await standsIn.PostAsync<JsonElement>($"/api/packages/{package}/rounds", new { coveringNote = "For them." });
        Assert.Equal(1, await OneAsync<int>("SELECT count(*)::int FROM ledger_entry WHERE chain = $1 AND action = 'package sent again' AND person_id = $2 AND payload::jsonb ->> 'for' = $3", package, deputy, away.ToString()));
        // The originator left for good: the package and its document are somebody else's.
        await ActAsync(koa, package, "handPackage", new { to = heir });
        Assert.Equal((heir, heir), (await OneAsync<Guid>("SELECT originator FROM package WHERE id = $1", package), await OneAsync<Guid>("SELECT originator FROM document WHERE id = $1", document)));
        Assert.Equal((409, "not-originator"), await standsIn.RefusedAsync($"/api/packages/{package}/acts", new { kind = "recall", reason = "No." }));
        await ActAsync(next, package, "recall");
        await ActAsync(koa, package, "stop");
        Assert.Empty(await Here.ProofAsync(package, document));
        // And a document by itself.
        Assert.Equal((403, "not-allowed"), await next.RefusedAsync($"/api/documents/{document}/originator", new { to = deputy, reason = "Mine no more." }));
        await koa.PostAsync<JsonElement>($"/api/documents/{document}/originator", new { to = deputy, reason = "They know it." });
        Assert.Equal(deputy, await OneAsync<Guid>("SELECT originator FROM document WHERE id = $1", document));
        Assert.Empty(await Here.ProofAsync(document));
    }

    [Fact]
    public async Task SeveralAuthorsDocumentsGoInOnePackageAndTheOwnersSeatHoldsEach()
    {
        var ((one, first), (two, second)) = (await OriginatorAsync("one"), await OriginatorAsync("two"));
        var plan = await PlanAsync(new Plan("Owners", "", new Sequence([new Step("owners", "Owners", "", 1, [new Seat("owners", "Owners", new OwnersHolder())])])));
        var package = await SendAsync(first, plan, await Office.RegisterAsync(first, "mine"), await Office.RegisterAsync(second, "theirs"));
        Assert.Equal([one, two], (await ViewAsync(first, package)).GetProperty("slip").GetProperty("seats")[0].GetProperty("people").EnumerateArray().Select(p => p.GetGuid()));
        Assert.Empty(await Here.ProofAsync(package));
    }

    [Fact]
    public async Task PeopleAskAndReplyWhileAPackageIsBackAndWhoHasSignedRaisesAMatter()
    {
        var (author, checker, lead, q1) = (await Here.AsAsync("author"), await Here.AsAsync("checker"), await Here.AsAsync("lead"), await Here.AsAsync("q1"));
        var document = await Office.RegisterAsync(author, "talk");
        var package = await Here.SendAsync(author, document);
        await checker.SignAsync(package, "check");
        // Whoever has signed has a matter: those who are to sign hear of it, and whoever coordinates.
        await checker.NoteAsync(package, "remark", "The bore looks tight after all.");
        foreach (var told in new[] { "lead", "q1", "coordinator" }) Assert.Equal(1, await ToldAsync(told, "checker, who has signed, has a matter", package));
        Assert.Equal((409, "seat-closed"), await checker.RefusedAsync($"/api/packages/{package}/notes", new { draft = (await ViewAsync(checker, package)).GetProperty("items")[0].GetProperty("draft").GetGuid(), kind = "request", body = "Wider.", marks = Array.Empty<object>() }));
        var request = await lead.NoteAsync(package, "request", "Longer.");
        await lead.SignAsync(package, "lead", "returnForChanges");
        await q1.SignAsync(package, "quality");
        await (await Here.AsAsync("q2")).SignAsync(package, "quality");
        Assert.Equal("returned", (await ViewAsync(author, package)).GetProperty("standing").GetString());
        await lead.PostAsync<JsonElement>($"/api/notes/{request}/acts", new { act = "reply", body = "By 3 mm, I mean.", key = Guid.NewGuid() });
        Assert.Equal(1, await ToldAsync("author", "lead replies on request", package));
        Assert.Equal((422, "missing-person"), await author.RefusedAsync($"/api/packages/{package}/notes", new { draft = (await ViewAsync(author, package)).GetProperty("items")[0].GetProperty("draft").GetGuid(), kind = "question", body = "3 or 5?", marks = Array.Empty<object>() }));
        var asked = (await author.PostAsync<JsonElement>($"/api/packages/{package}/notes", new { draft = (await ViewAsync(author, package)).GetProperty("items")[0].GetProperty("draft").GetGuid(), kind = "question", body = "3 or 5?", marks = Array.Empty<object>(), of = Here.Ids["lead"] })).GetProperty("id").GetGuid();
        Assert.Equal((409, "not-asked"), await q1.RefusedAsync($"/api/notes/{asked}/acts", new { act = "answer", body = "5." }));
        await lead.PostAsync<JsonElement>($"/api/notes/{asked}/acts", new { act = "answer", body = "3.", key = Guid.NewGuid() });
        Assert.Empty(await Here.ProofAsync(package));
    }

    [Fact]
    public async Task WhereThePlanLetsThemASignersRequestOpensTheirSeatAgain()
    {
        var (author, checker, lead) = (await Here.AsAsync("author"), await Here.AsAsync("checker"), await Here.AsAsync("lead"));
        var package = await SendAsync(author, await PlanAsync(new Plan("Open", "", new Sequence([Look("one", "checker"), Look("two", "lead")])) { SignersReopen = true }), await Office.RegisterAsync(author, "reopened"));
        await checker.SignAsync(package, "one-checker");
        Assert.True((await ViewAsync(checker, package)).GetProperty("may").GetProperty("request").GetBoolean());
        await checker.NoteAsync(package, "request", "One thing more.");
        Assert.Equal("one", (await ViewAsync(lead, package)).GetProperty("slip").GetProperty("open")[0].GetString());
        Assert.Equal("returned", await checker.SignAsync(package, "one-checker", "returnForChanges"));
        Assert.Empty(await Here.ProofAsync(package));
    }

    [Fact]
    public async Task AReturnToAnEarlierStepSaysSoAndItsSignerPassesItOn()
    {
        var (author, checker, lead) = (await Here.AsAsync("author"), await Here.AsAsync("checker"), await Here.AsAsync("lead"));
        var package = await SendAsync(author, await PlanAsync(new Plan("Back", "", new Sequence([Look("one", "checker"), Look("two", "lead") with { ReturnsTo = "one" }]))), await Office.RegisterAsync(author, "back a step"));
        await checker.SignAsync(package, "one-checker");
        await lead.NoteAsync(package, "request", "Longer.");
        var back = JsonSerializer.SerializeToNode(await lead.SignOffAsync(package, "two-lead"), JsonSerializerOptions.Web)!;
        (back["verdicts"]![0]!["verdict"], back["verdicts"]![0]!["reason"]) = ("returnForChanges", "Too short for the hook.");
        await lead.PostAsync<JsonElement>($"/api/packages/{package}/sign-offs", back);
        Assert.Equal(1, await ToldAsync("checker", "came back to you", package));
        Assert.Equal(1, await ToldAsync("author", "went back to step “one”", package));
        var cameBack = (await ViewAsync(checker, package)).GetProperty("slip").GetProperty("cameBack")[0];
        Assert.Equal(("two", "Too short for the hook."), (cameBack.GetProperty("from")[0].GetString(), cameBack.GetProperty("because").GetString()));
        // The lead's request goes along: the checker need not write another.
        Assert.Equal("returned", await checker.SignAsync(package, "one-checker", "returnForChanges"));
        Assert.Empty(await Here.ProofAsync(package));
    }

    [Fact]
    public async Task SignersWhoPickDifferentWaysWaitUntilTheyAgree()
    {
        var (author, checker, lead, koa) = (await Here.AsAsync("author"), await Here.AsAsync("checker"), await Here.AsAsync("lead"), await Here.AsAsync("coordinator"));
        var ways = ImmutableArray.Create(new Way("long", "Long", null, new Sequence([Look("more", "q1")])), new Way("short", "Short", null, new Sequence([])));
        var package = await SendAsync(author, await PlanAsync(new Plan("Pick", "", new Sequence([Look("one", "checker", "lead"), new Choice("how", "How far?", ways) { PickedAt = "one" }]))), await Office.RegisterAsync(author, "picked"));
        async Task PickAsync(Browser who, string seat, string way)
        {
            var sign = JsonSerializer.SerializeToNode(await who.SignOffAsync(package, seat), JsonSerializerOptions.Web)!;
            sign["picks"] = new JsonArray(new JsonObject { ["choice"] = "how", ["way"] = way });
            await who.PostAsync<JsonElement>($"/api/packages/{package}/sign-offs", sign);
        }
        await PickAsync(checker, "one-checker", "long");
        await PickAsync(lead, "one-lead", "short");
        var view = await ViewAsync(author, package);
        Assert.Equal("in review", view.GetProperty("standing").GetString());
        Assert.Equal(2, view.GetProperty("differing")[0].GetProperty("picked").GetArrayLength());
        foreach (var told in new[] { "checker", "author" }) Assert.Equal(1, await ToldAsync(told, "the signers picked different ways", package));
        Assert.Contains(package, (await checker.GetAsync<JsonElement>("/api/desk")).GetProperty("toSign").EnumerateArray().Select(p => p.GetProperty("id").GetGuid()));
        Assert.Contains("signers differ", (await koa.RowsAsync("/api/packages?search=Lived")).Single(p => p.GetProperty("id").GetGuid() == package).GetProperty("waitsAt").GetString(), StringComparison.Ordinal);
        // A coordinator takes one back for them, so that nobody is stuck.
        await ActAsync(koa, package, "reopen", new { seat = "one-checker", from = Here.Ids["checker"] });
        await PickAsync(checker, "one-checker", "short");
        Assert.Equal("released", (await ViewAsync(author, package)).GetProperty("standing").GetString());
        Assert.Empty(await Here.ProofAsync(package));
    }
}
