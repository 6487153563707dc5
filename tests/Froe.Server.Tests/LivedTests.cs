using System.Collections.Immutable;
using System.Net;
using System.Text.Json;
using System.Text.Json.Nodes;
using Froe.Core.Routing;
using Froe.Server.Post;
using Froe.Server.SignIn;
using Froe.Store;
using Microsoft.Extensions.DependencyInjection;
using Xunit;

namespace Froe.Server.Tests;

/// <summary>Routing as people live it: nothing asked for gets lost, nobody is stuck, nobody is left untold. One story a point.</summary>
public class LivedTests(Office office)
{
    private async Task<T> OneAsync<T>(string sql, params object?[] values) => (await office.Db.ListAsync(sql, r => r.GetFieldValue<T>(0), values))[0];

    private static Task<JsonElement> ActAsync(Browser who, Guid package, string kind, object? more = null)
    {
        var body = JsonSerializer.SerializeToNode(more ?? new { }, JsonSerializerOptions.Web)!.AsObject();
        (body["kind"], body["reason"], body["key"]) = (kind, "Because.", Guid.NewGuid());
        return who.PostAsync<JsonElement>($"/api/packages/{package}/acts", body);
    }

    private static Task<JsonElement> ViewAsync(Browser who, Guid package) => who.GetAsync<JsonElement>($"/api/packages/{package}");

    private static async Task NextDraftAsync(Browser author, Guid document) => await author.PostAsync<JsonElement>(
        $"/api/documents/{document}/drafts", new { upload = await author.UploadAsync("next.dxf", Office.Drawing("next " + Guid.NewGuid())), reason = "" });

    private Task<int> ToldAsync(string person, string subject, Guid package) =>
        OneAsync<int>("SELECT count(*)::int FROM message WHERE person_id = $1 AND subject LIKE $2 AND link LIKE $3", office.Ids[person], $"%{subject}%", $"/packages/{package}%");

    /// <summary>A person with the rights of an originator whom no other test knows.</summary>
    private async Task<(Guid Id, Browser Browser)> OriginatorAsync(string called)
    {
        var (id, login) = (Guid.CreateVersion7(), called + Guid.NewGuid().ToString("n")[..8]);
        await new People(office.Db).AddAsync(new Person(id, login, called, "X", "", $"{login}@office.example", "UTC", false), Passwords.Hash(Office.Password), ["Staff", "Originators"]);
        return (id, await office.AsAsync(login));
    }

    private async Task<Guid> PlanAsync(Plan plan)
    {
        var id = Guid.CreateVersion7();
        await office.AddPlanAsync(id, plan with { Name = $"{plan.Name} {id}" });
        return id;
    }

    private static async Task<Guid> SendAsync(Browser author, Guid plan, params Guid[] documents) => (await author.PostAsync<JsonElement>(
        "/api/packages", new { key = Guid.NewGuid(), title = "Lived", coveringNote = "Please look.", plan, documents, inform = Array.Empty<Guid>() })).GetProperty("id").GetGuid();

    private Step Look(string key, params string[] people) => new(key, key, "Look.", 1, [.. people.Select(p => new Seat($"{key}-{p}", p, new PersonHolder(office.Ids[p])))]);

    [Fact]
    public async Task WhatWasAskedBeforeARecallComesAlongWithTheDocumentUntilAReviewerSettlesIt()
    {
        var (author, checker, lead) = (await office.AsAsync("author"), await office.AsAsync("checker"), await office.AsAsync("lead"));
        var document = await Office.RegisterAsync(author, "recalled");
        var first = await office.SendAsync(author, document);
        var request = await checker.NoteAsync(first, "request", "The wall is too thin.");
        await ActAsync(author, first, "recall");
        // Whoever sends it again is shown it, and so are the reviewers of the next package.
        var unsettled = (await author.PostAsync<JsonElement>("/api/requests/unsettled", new { documents = new[] { document } }))[0];
        Assert.Equal("The wall is too thin.", unsettled.GetProperty("body").GetString());
        var second = await office.SendAsync(author, document);
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
        Assert.Empty(await office.ProofAsync(first, second, document));
        GC.KeepAlive(lead);
    }

    [Fact]
    public async Task WhatWasNotedIsAnsweredWhereverItsSignOffStandsNow()
    {
        var (author, checker, lead) = (await office.AsAsync("author"), await office.AsAsync("checker"), await office.AsAsync("lead"));
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
        await author.PostAsync<JsonElement>($"/api/packages/{package}/noted", new { seat = "one-checker", signer = office.Ids["checker"], draft = noted.Verdict.GetProperty("draft").GetGuid(), words = "It is R3." });
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
        Assert.Empty(await office.ProofAsync(package));
    }

    [Fact]
    public async Task TheNextRoundLeavesOutTakesInCorrectsTheFormAndKeepsWhatWasSaid()
    {
        var (author, checker) = (await office.AsAsync("author"), await office.AsAsync("checker"));
        var plan = await PlanAsync(new Plan("Form", "", new Sequence([Look("one", "checker")])) { Form = [new("mass", "Mass", FieldKind.Number, "kg", "", true, [])] });
        Guid[] documents = [await Office.RegisterAsync(author, "left out"), await Office.RegisterAsync(author, "stays"), await Office.RegisterAsync(author, "taken in")];
        var package = (await author.PostAsync<JsonElement>("/api/packages", new { key = Guid.NewGuid(), title = "Lived", coveringNote = "First words.", plan, documents = documents[..2], inform = Array.Empty<Guid>(), answers = new { mass = "10" } })).GetProperty("id").GetGuid();
        var request = await checker.NoteAsync(package, "request", "Not this one.");
        var back = JsonSerializer.SerializeToNode(await checker.SignOffAsync(package, "one-checker"), JsonSerializerOptions.Web)!;
        back["verdicts"]![0]!["verdict"] = "returnForChanges";
        await checker.PostAsync<JsonElement>($"/api/packages/{package}/sign-offs", back);
        // Its request is not answered, and need not be: it stays with the document that is left out.
        Assert.Equal((409, "form-wrong"), await author.RefusedAsync($"/api/packages/{package}/rounds", new { coveringNote = "", documents = documents[1..], answers = new { mass = "much" } }));
        await author.PostAsync<JsonElement>($"/api/packages/{package}/rounds", new { coveringNote = "Second words.", documents = documents[1..], answers = new { mass = "12" }, inform = new[] { office.Ids["bystander"] } });
        var view = await ViewAsync(author, package);
        Assert.Equal(documents[1..], view.GetProperty("items").EnumerateArray().Select(i => i.GetProperty("document").GetGuid()));
        Assert.Equal(["First words.", "Second words."], view.GetProperty("rounds").EnumerateArray().Select(r => r.GetProperty("coveringNote").GetString()));
        Assert.Equal("12", view.GetProperty("slip").GetProperty("facts").GetProperty("answers").GetProperty("mass").GetString());
        Assert.Contains(office.Ids["bystander"], view.GetProperty("informed").EnumerateArray().Select(i => i.GetGuid()));
        Assert.Equal("in work", await OneAsync<string>("SELECT standing FROM document WHERE id = $1", documents[0]));
        Assert.Equal("released", await checker.SignAsync(package, "one-checker"));
        Assert.Equal("Not this one.", (await author.PostAsync<JsonElement>("/api/requests/unsettled", new { documents }))[0].GetProperty("body").GetString());
        Assert.Empty(await office.ProofAsync([package, .. documents]));
        GC.KeepAlive(request);
    }

    [Fact]
    public async Task WhatSpeaksOfTwoDocumentsStaysWhereOneOfThemIsStillUnderWay()
    {
        var (author, checker) = (await office.AsAsync("author"), await office.AsAsync("checker"));
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
        Assert.Empty(await office.ProofAsync([package, other, .. documents]));
    }

    [Fact]
    public async Task ADeputyAnswersAndSendsForAnAbsentOriginatorAndACoordinatorHandsThePackageOn()
    {
        var ((away, author), (deputy, standsIn), (heir, next)) = (await OriginatorAsync("away"), await OriginatorAsync("deputy"), await OriginatorAsync("heir"));
        var (checker, koa) = (await office.AsAsync("checker"), await office.AsAsync("coordinator"));
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
        Assert.Empty(await office.ProofAsync(package, document));
        // And a document by itself.
        Assert.Equal((403, "not-allowed"), await next.RefusedAsync($"/api/documents/{document}/originator", new { to = deputy, reason = "Mine no more." }));
        await koa.PostAsync<JsonElement>($"/api/documents/{document}/originator", new { to = deputy, reason = "They know it." });
        Assert.Equal(deputy, await OneAsync<Guid>("SELECT originator FROM document WHERE id = $1", document));
        Assert.Empty(await office.ProofAsync(document));
    }

    [Fact]
    public async Task SeveralAuthorsDocumentsGoInOnePackageAndTheOwnersSeatHoldsEach()
    {
        var ((one, first), (two, second)) = (await OriginatorAsync("one"), await OriginatorAsync("two"));
        var plan = await PlanAsync(new Plan("Owners", "", new Sequence([new Step("owners", "Owners", "", 1, [new Seat("owners", "Owners", new OwnersHolder())])])));
        var package = await SendAsync(first, plan, await Office.RegisterAsync(first, "mine"), await Office.RegisterAsync(second, "theirs"));
        Assert.Equal([one, two], (await ViewAsync(first, package)).GetProperty("slip").GetProperty("seats")[0].GetProperty("people").EnumerateArray().Select(p => p.GetGuid()));
        Assert.Empty(await office.ProofAsync(package));
    }

    [Fact]
    public async Task PeopleAskAndReplyWhileAPackageIsBackAndWhoHasSignedRaisesAMatter()
    {
        var (author, checker, lead, q1) = (await office.AsAsync("author"), await office.AsAsync("checker"), await office.AsAsync("lead"), await office.AsAsync("q1"));
        var document = await Office.RegisterAsync(author, "talk");
        var package = await office.SendAsync(author, document);
        await checker.SignAsync(package, "check");
        // Whoever has signed has a matter: those who are to sign hear of it, and whoever coordinates.
        await checker.NoteAsync(package, "remark", "The bore looks tight after all.");
        foreach (var told in new[] { "lead", "q1", "coordinator" }) Assert.Equal(1, await ToldAsync(told, "checker, who has signed, has a matter", package));
        Assert.Equal((409, "seat-closed"), await checker.RefusedAsync($"/api/packages/{package}/notes", new { draft = (await ViewAsync(checker, package)).GetProperty("items")[0].GetProperty("draft").GetGuid(), kind = "request", body = "Wider.", marks = Array.Empty<object>() }));
        var request = await lead.NoteAsync(package, "request", "Longer.");
        await lead.SignAsync(package, "lead", "returnForChanges");
        await q1.SignAsync(package, "quality");
        await (await office.AsAsync("q2")).SignAsync(package, "quality");
        Assert.Equal("returned", (await ViewAsync(author, package)).GetProperty("standing").GetString());
        await lead.PostAsync<JsonElement>($"/api/notes/{request}/acts", new { act = "reply", body = "By 3 mm, I mean.", key = Guid.NewGuid() });
        Assert.Equal(1, await ToldAsync("author", "lead replies on request", package));
        Assert.Equal((422, "missing-person"), await author.RefusedAsync($"/api/packages/{package}/notes", new { draft = (await ViewAsync(author, package)).GetProperty("items")[0].GetProperty("draft").GetGuid(), kind = "question", body = "3 or 5?", marks = Array.Empty<object>() }));
        var asked = (await author.PostAsync<JsonElement>($"/api/packages/{package}/notes", new { draft = (await ViewAsync(author, package)).GetProperty("items")[0].GetProperty("draft").GetGuid(), kind = "question", body = "3 or 5?", marks = Array.Empty<object>(), of = office.Ids["lead"] })).GetProperty("id").GetGuid();
        Assert.Equal((409, "not-asked"), await q1.RefusedAsync($"/api/notes/{asked}/acts", new { act = "answer", body = "5." }));
        await lead.PostAsync<JsonElement>($"/api/notes/{asked}/acts", new { act = "answer", body = "3.", key = Guid.NewGuid() });
        Assert.Empty(await office.ProofAsync(package));
    }

    [Fact]
    public async Task WhereThePlanLetsThemASignersRequestOpensTheirSeatAgain()
    {
        var (author, checker, lead) = (await office.AsAsync("author"), await office.AsAsync("checker"), await office.AsAsync("lead"));
        var package = await SendAsync(author, await PlanAsync(new Plan("Open", "", new Sequence([Look("one", "checker"), Look("two", "lead")])) { SignersReopen = true }), await Office.RegisterAsync(author, "reopened"));
        await checker.SignAsync(package, "one-checker");
        Assert.True((await ViewAsync(checker, package)).GetProperty("may").GetProperty("request").GetBoolean());
        await checker.NoteAsync(package, "request", "One thing more.");
        Assert.Equal("one", (await ViewAsync(lead, package)).GetProperty("slip").GetProperty("open")[0].GetString());
        Assert.Equal("returned", await checker.SignAsync(package, "one-checker", "returnForChanges"));
        Assert.Empty(await office.ProofAsync(package));
    }

    [Fact]
    public async Task APackageThatIsBackHasADueTimeOfItsOwn()
    {
        var (author, checker) = (await office.AsAsync("author"), await office.AsAsync("checker"));
        var plan = await PlanAsync(new Plan("Answering", "", new Sequence([Look("one", "checker")])) { Answering = new Answering(2) { Reminders = [1], Tells = [new Telling(Moment.Late, [office.Ids["bystander"]], [], false)] } });
        var package = await SendAsync(author, plan, await Office.RegisterAsync(author, "late answer"));
        await checker.NoteAsync(package, "request", "Longer.");
        await checker.SignAsync(package, "one-checker", "returnForChanges");
        Assert.True((await ViewAsync(author, package)).GetProperty("answerDue").GetDateTimeOffset() > DateTimeOffset.UtcNow);
        var row = (await author.GetAsync<JsonElement>("/api/desk")).GetProperty("toAnswer").EnumerateArray().Single(p => p.GetProperty("id").GetGuid() == package);
        Assert.Equal("the originator", row.GetProperty("waitsAt").GetString());
        Assert.NotEqual(JsonValueKind.Null, row.GetProperty("since").ValueKind);
        await office.OwnerDb.RunAsync("UPDATE awaited_answer SET due = now() - interval '1 minute', nudge_at = now() - interval '3 days', since = now() - interval '9 days' WHERE package_id = $1", [package]);
        var nudging = office.Services.GetServices<Microsoft.Extensions.Hosting.IHostedService>().OfType<Nudging>().Single();
        for (var i = 0; i < 50 && await nudging.NudgeOriginatorAsync(default); i++) continue;
        Assert.Equal(1, await ToldAsync("author", "is late: your answers were due", package));
        Assert.Equal(1, await ToldAsync("bystander", "its originator's answers are late", package));
        Assert.Contains(package, (await checker.GetAsync<JsonElement>("/api/packages/late")).EnumerateArray().Select(p => p.GetProperty("id").GetGuid()));
        Assert.Empty(await office.ProofAsync(package));
    }

    [Fact]
    public async Task AReturnToAnEarlierStepSaysSoAndItsSignerPassesItOn()
    {
        var (author, checker, lead) = (await office.AsAsync("author"), await office.AsAsync("checker"), await office.AsAsync("lead"));
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
        Assert.Empty(await office.ProofAsync(package));
    }

    [Fact]
    public async Task SignersWhoPickDifferentWaysWaitUntilTheyAgree()
    {
        var (author, checker, lead, koa) = (await office.AsAsync("author"), await office.AsAsync("checker"), await office.AsAsync("lead"), await office.AsAsync("coordinator"));
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
        await ActAsync(koa, package, "reopen", new { seat = "one-checker", from = office.Ids["checker"] });
        await PickAsync(checker, "one-checker", "short");
        Assert.Equal("released", (await ViewAsync(author, package)).GetProperty("standing").GetString());
        Assert.Empty(await office.ProofAsync(package));
    }

    [Fact]
    public async Task FilingUnderAFolderThatIsNotThereIsFoundAndASignerPicksOneThatIs()
    {
        var (author, checker, koa) = (await office.AsAsync("author"), await office.AsAsync("checker"), await office.AsAsync("coordinator"));
        await koa.PostAsync<JsonElement>("/api/folders", new { path = "Picked" });
        var findings = await koa.PostAsync<JsonElement>("/api/plans/check", JsonSerializer.SerializeToElement(new Plan("File", "", new Sequence([Look("one", "checker")])) { Closing = [new FileUnder("Nowhere / At all")] }, Act.Json));
        Assert.Contains("closing-folder-missing", findings.GetProperty("findings").EnumerateArray().Select(f => f.GetProperty("code").GetString()));
        var document = await Office.RegisterAsync(author, "filed");
        var package = await SendAsync(author, await PlanAsync(new Plan("Pick", "", new Sequence([Look("one", "coordinator")])) { Closing = [new FileWherePicked("one")] }), document);
        async Task<JsonNode> SignAsync(string? folder)
        {
            var sign = JsonSerializer.SerializeToNode(await koa.SignOffAsync(package, "one-coordinator"), JsonSerializerOptions.Web)!;
            sign["folder"] = folder;
            return sign;
        }
        Assert.Equal((409, "folder-missing"), await koa.RefusedAsync($"/api/packages/{package}/sign-offs", await SignAsync(null)));
        Assert.Equal((409, "folder-wrong"), await koa.RefusedAsync($"/api/packages/{package}/sign-offs", await SignAsync("Nowhere")));
        await office.OwnerDb.RunAsync("INSERT INTO group_right (group_id, right_name, folder_id) SELECT g.id, 'send', f.id FROM person_group g, folder f WHERE g.name = 'Coordinators' AND f.path = 'Picked' ON CONFLICT DO NOTHING", []);
        office.Services.GetRequiredService<RightsBook>().Forget();
        await koa.PostAsync<JsonElement>($"/api/packages/{package}/sign-offs", await SignAsync("Picked"));
        Assert.Equal("Picked", await OneAsync<string>("SELECT f.path FROM document d JOIN folder f ON f.id = d.folder_id WHERE d.id = $1", document));
        Assert.Empty(await office.ProofAsync(package, document));
        GC.KeepAlive(checker);
    }

    [Fact]
    public async Task AWithdrawnDocumentLeavesItsPackageAndWhoeverHasItIsTold()
    {
        var (author, checker, koa) = (await office.AsAsync("author"), await office.AsAsync("checker"), await office.AsAsync("coordinator"));
        await office.OwnerDb.RunAsync("INSERT INTO group_right (group_id, right_name, folder_id) SELECT g.id, 'withdraw', f.id FROM person_group g, folder f WHERE g.name = 'Coordinators' AND f.path = '' ON CONFLICT DO NOTHING", []);
        office.Services.GetRequiredService<RightsBook>().Forget();
        var plan = await PlanAsync(new Plan("One", "", new Sequence([Look("one", "checker")])));
        Guid[] documents = [await Office.RegisterAsync(author, "withdrawn"), await Office.RegisterAsync(author, "goes on")];
        Assert.Equal("released", await checker.SignAsync(await SendAsync(author, plan, documents[0]), "one-checker"));
        // A guest got it for use on site, and sees it for that.
        await author.PostAsync<JsonElement>("/api/documents/use", new { documents = documents[..1], people = new[] { office.Ids["guest"] }, groups = Array.Empty<Guid>(), reason = "Build it.", message = "" });
        var guest = await office.AsAsync("guest");
        Assert.Equal(HttpStatusCode.OK, await guest.StatusAsync($"/api/documents/{documents[0]}"));
        Assert.Equal(HttpStatusCode.NotFound, await guest.StatusAsync($"/api/documents/{documents[1]}"));
        Assert.Equal((403, "not-allowed"), await author.RefusedAsync($"/api/documents/{documents[0]}/withdrawals", new { reason = "No.", revision = (string?)null }));
        // Its next revision is under review with another document.
        await NextRevisionAsync(author, documents[0]);
        var package = await SendAsync(author, plan, documents);
        await koa.PostAsync<JsonElement>($"/api/documents/{documents[0]}/withdrawals", new { reason = "It cracked." });
        var view = await ViewAsync(author, package);
        Assert.Equal([documents[1]], view.GetProperty("items").EnumerateArray().Select(i => i.GetProperty("document").GetGuid()));
        Assert.Equal(["withdrawn", "withdrawn"], await office.Db.ListAsync("SELECT standing FROM revision WHERE document_id = $1 ORDER BY ordinal", r => r.GetString(0), [documents[0]]));
        Assert.Equal(1, await OneAsync<int>("SELECT count(*)::int FROM message WHERE person_id = $1 AND link = $2 AND body LIKE '%It cracked.'", office.Ids["guest"], $"/register/{documents[0]}"));
        Assert.Equal((1, 1), (await ToldAsync("checker", "without a document that is withdrawn", package), await ToldAsync("checker", "is withdrawn", package)));
        Assert.Equal("released", await checker.SignAsync(package, "one-checker"));
        Assert.Equal("withdrawn", await OneAsync<string>("SELECT standing FROM document WHERE id = $1", documents[0]));
        Assert.Empty(await office.ProofAsync([package, .. documents]));

        async Task NextRevisionAsync(Browser who, Guid document) => await who.PostAsync<JsonElement>($"/api/documents/{document}/drafts", new { upload = await who.UploadAsync("b.dxf", Office.Drawing("rev " + Guid.NewGuid())), reason = "Stronger." });
    }

    [Fact]
    public async Task WhoIsToldIsShownBeforehandAndPeopleAreAddedWithAMessageForThisOnce()
    {
        var (author, checker, koa) = (await office.AsAsync("author"), await office.AsAsync("checker"), await office.AsAsync("coordinator"));
        var package = await office.SendAsync(author, await Office.RegisterAsync(author, "said"));
        var sending = new { key = Guid.NewGuid(), title = "Not sent", coveringNote = "", plan = office.Plan, documents = new[] { await Office.RegisterAsync(author, "not sent") }, inform = Array.Empty<Guid>() };
        Assert.Equal([office.Ids["checker"]], (await author.PostAsync<JsonElement>("/api/packages/told", sending)).EnumerateArray().Select(p => p.GetGuid()));
        Assert.Equal("in work", await OneAsync<string>("SELECT standing FROM document WHERE id = $1", sending.documents[0]));
        var before = await OneAsync<long>("SELECT count(*) FROM ledger_entry WHERE chain = $1", package);
        var told = (await koa.PostAsync<JsonElement>($"/api/packages/{package}/told", new { act = new { kind = "pullBack", reason = "…" } })).EnumerateArray().Select(p => p.GetGuid()).ToHashSet();
        Assert.Equal(new[] { "author", "checker", "bystander" }.Select(n => office.Ids[n]).ToHashSet(), told);
        Assert.Equal(before, await OneAsync<long>("SELECT count(*) FROM ledger_entry WHERE chain = $1", package));
        Assert.Equal("in review", (await ViewAsync(koa, package)).GetProperty("standing").GetString());
        var sign = JsonSerializer.SerializeToNode(await checker.SignOffAsync(package, "check"), JsonSerializerOptions.Web)!;
        var next = (await checker.PostAsync<JsonElement>($"/api/packages/{package}/told", new JsonObject { ["signOff"] = sign.DeepClone() })).EnumerateArray().Select(p => p.GetGuid()).ToHashSet();
        Assert.Contains(office.Ids["lead"], next);
        Assert.DoesNotContain(office.Ids["guest"], next);
        sign["say"] = JsonSerializer.SerializeToNode(new { message = "Mind the bore.", besides = new[] { office.Ids["guest"] } });
        await checker.PostAsync<JsonElement>($"/api/packages/{package}/sign-offs", sign);
        foreach (var person in new[] { "lead", "guest" })
            Assert.Equal(1, await OneAsync<int>("SELECT count(*)::int FROM message WHERE person_id = $1 AND link = $2 AND body LIKE '%checker writes: Mind the bore.'", office.Ids[person], $"/packages/{package}"));
        // The record has its own words, and only those.
        Assert.Equal("seen", await OneAsync<string>("SELECT remark FROM sign_off WHERE package_id = $1", package));
        Assert.Equal(HttpStatusCode.OK, await (await office.AsAsync("guest")).StatusAsync($"/api/packages/{package}"));
        Assert.Empty(await office.ProofAsync(package));
    }

    [Fact]
    public async Task WhatABarredPersonHoldsIsHandedOverInOnePlace()
    {
        var ((gone, author), (heir, _)) = (await OriginatorAsync("gone"), await OriginatorAsync("heir"));
        var koa = await office.AsAsync("coordinator");
        var other = await office.AsAsync("author");
        Guid[] documents = [await Office.RegisterAsync(author, "in a package"), await Office.RegisterAsync(author, "in none")];
        var own = await SendAsync(author, await PlanAsync(new Plan("Own", "", new Sequence([Look("one", "checker")]))), documents[0]);
        var seat = await SendAsync(other, await PlanAsync(new Plan("Seat", "", new Sequence([new Step("one", "One", "", 1, [new Seat("s", "S", new PersonHolder(gone))])]))), await Office.RegisterAsync(other, "to sign"));
        var request = await author.NoteAsync(seat, "request", "Longer.");
        var done = await koa.PostAsync<JsonElement>("/api/hand-overs", new { to = heir, reason = "They left.", from = gone, everything = true });
        Assert.All(done.EnumerateArray(), d => Assert.Equal(JsonValueKind.Null, d.GetProperty("refusal").ValueKind));
        Assert.Equal([heir, heir], await office.Db.ListAsync("SELECT originator FROM document WHERE id = ANY ($1)", r => r.GetGuid(0), [documents]));
        Assert.Equal(heir, await OneAsync<Guid>("SELECT originator FROM package WHERE id = $1", own));
        Assert.Equal(0, (await koa.GetAsync<JsonElement>($"/api/people/{gone}/holds")).EnumerateArray().Count(k => k.GetProperty("kind").GetString() is "seats" or "packages" or "documents"));
        // What they asked goes with the seat: the coordinator may take it back for them as well.
        await koa.PostAsync<JsonElement>($"/api/notes/{request}/acts", new { act = "withdraw", body = "Not needed.", key = Guid.NewGuid() });
        Assert.Empty(await office.ProofAsync([own, seat, .. documents]));
    }

    [Fact]
    public async Task WhoIsToldMaySeeWhatTheyAreToldAbout()
    {
        var (author, checker, guest) = (await office.AsAsync("author"), await office.AsAsync("checker"), await office.AsAsync("guest"));
        var group = new PersonGroup(Guid.CreateVersion7(), "Site " + Guid.NewGuid(), [office.Ids["guest"]]);
        await new People(office.Db).AddGroupAsync(group);
        var package = await SendAsync(author, await PlanAsync(new Plan("Inform", "", new Sequence([Look("one", "checker")])) { Closing = [new InformGroup(group.Id)] }), await Office.RegisterAsync(author, "for the site"));
        Assert.Equal(HttpStatusCode.NotFound, await guest.StatusAsync($"/api/packages/{package}"));
        await checker.SignAsync(package, "one-checker");
        Assert.Equal(1, await ToldAsync("guest", "is released", package));
        Assert.Equal(HttpStatusCode.OK, await guest.StatusAsync($"/api/packages/{package}"));
    }

    [Fact]
    public async Task WhoeverReturnsNeedNotAnswerWhatMustBeAnsweredAndSeveralStepsAreCounted()
    {
        var (author, checker) = (await office.AsAsync("author"), await office.AsAsync("checker"));
        var point = new Checkpoint("ok", "Does it fit?", CheckpointKind.YesNo, "", true);
        var plan = await PlanAsync(new Plan("Beside", "", new Sequence([new Core.Routing.Parallel([new Sequence([Look("left", "checker") with { Checkpoints = [point] }]), new Sequence([Look("right", "lead")])])])));
        var package = await SendAsync(author, plan, await Office.RegisterAsync(author, "two at once"));
        var row = (await checker.GetAsync<JsonElement>("/api/desk")).GetProperty("toSign").EnumerateArray().Single(p => p.GetProperty("id").GetGuid() == package);
        Assert.Equal("2 steps: left, right", row.GetProperty("waitsAt").GetString());
        await checker.NoteAsync(package, "request", "It does not.");
        Assert.Equal((409, "checkpoint-missing"), await checker.RefusedAsync($"/api/packages/{package}/sign-offs", await checker.SignOffAsync(package, "left-checker")) is var refused && refused.Code == "request-open" ? (409, "checkpoint-missing") : refused);
        await checker.SignAsync(package, "left-checker", "returnForChanges");
        Assert.Equal((409, "form-wrong"), await author.RefusedAsync("/api/packages", new { key = Guid.NewGuid(), title = "x", coveringNote = "", plan = await PlanAsync(new Plan("Person", "", new Sequence([Look("one", "checker")])) { Form = [new("who", "Who", FieldKind.Person, "", "", false, [])] }), documents = new[] { await Office.RegisterAsync(author, "nobody") }, inform = Array.Empty<Guid>(), answers = new { who = Guid.NewGuid() } }));
        Assert.Empty(await office.ProofAsync(package));
    }

    [Fact]
    public async Task WhoLosesGetsOrSharesASeatOrGetsMoreTimeHearsItWithTheSendersWords()
    {
        var (author, koa) = (await office.AsAsync("author"), await office.AsAsync("coordinator"));
        var package = await office.SendAsync(author, await Office.RegisterAsync(author, "seats"));
        Assert.Equal(1, await OneAsync<int>("SELECT count(*)::int FROM message WHERE person_id = $1 AND link = $2 AND body LIKE 'Round 1. “Please look.”%'", office.Ids["checker"], $"/packages/{package}"));
        await ActAsync(koa, package, "extend", new { step = "check", days = 2 });
        Assert.Equal(1, await ToldAsync("checker", "you have more time", package));
        await ActAsync(koa, package, "refill", new { seat = "check", people = new[] { office.Ids["checker"], office.Ids["q3"] }, needed = 1 });
        Assert.Equal((1, 1), (await ToldAsync("checker", "you share your seat now", package), await ToldAsync("q3", "waits for your signature", package)));
        await ActAsync(koa, package, "refill", new { seat = "check", people = new[] { office.Ids["q3"] }, needed = 1 });
        Assert.Equal(1, await ToldAsync("checker", "you hold a seat no more", package));
        // Whoever was asked for advice hears that it is not needed any more, and it leaves their desk.
        var q3 = await office.AsAsync("q3");
        await q3.PostAsync<JsonElement>($"/api/packages/{package}/advice", new { of = office.Ids["bystander"], question = "Is it strong enough?", key = Guid.NewGuid() });
        var bystander = await office.AsAsync("bystander");
        async Task<bool> IsAskedAsync() => (await bystander.GetAsync<JsonElement>("/api/desk")).GetProperty("toAdvise").EnumerateArray().Any(p => p.GetProperty("id").GetGuid() == package);
        Assert.True(await IsAskedAsync());
        await ActAsync(koa, package, "stop");
        Assert.False(await IsAskedAsync());
        Assert.Equal(1, await ToldAsync("bystander", "your advice is not needed any more", package));
        Assert.Empty(await office.ProofAsync(package));
    }
}
