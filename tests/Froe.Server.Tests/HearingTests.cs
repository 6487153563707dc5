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

/// <summary>Who hears what, sees what they hear of, and holds what somebody else held: nobody is left untold. One story a point.</summary>
public class HearingTests(Office office) : LivedStories(office)
{
    [Fact]
    public async Task APackageThatIsBackHasADueTimeOfItsOwn()
    {
        var (author, checker) = (await Here.AsAsync("author"), await Here.AsAsync("checker"));
        var plan = await PlanAsync(new Plan("Answering", "", new Sequence([Look("one", "checker")])) { Answering = new Answering(2) { Reminders = [1], Tells = [new Telling(Moment.Late, [Here.Ids["bystander"]], [], false)] } });
        var package = await SendAsync(author, plan, await Office.RegisterAsync(author, "late answer"));
        await checker.NoteAsync(package, "request", "Longer.");
        await checker.SignAsync(package, "one-checker", "returnForChanges");
        Assert.True((await ViewAsync(author, package)).GetProperty("answerDue").GetDateTimeOffset() > DateTimeOffset.UtcNow);
        var row = (await author.GetAsync<JsonElement>("/api/desk")).GetProperty("toAnswer").EnumerateArray().Single(p => p.GetProperty("id").GetGuid() == package);
        Assert.Equal("the originator", row.GetProperty("waitsAt").GetString());
        Assert.NotEqual(JsonValueKind.Null, row.GetProperty("since").ValueKind);
        await Here.OwnerDb.RunAsync("UPDATE awaited_answer SET due = now() - interval '1 minute', nudge_at = now() - interval '3 days', since = now() - interval '9 days' WHERE package_id = $1", [package]);
        var nudging = Here.Services.GetServices<Microsoft.Extensions.Hosting.IHostedService>().OfType<Nudging>().Single();
        for (var i = 0; i < 50 && await nudging.NudgeOriginatorAsync(default); i++) continue;
        Assert.Equal(1, await ToldAsync("author", "is late: your answers were due", package));
        Assert.Equal(1, await ToldAsync("bystander", "its originator's answers are late", package));
        Assert.Contains(package, (await checker.GetAsync<JsonElement>("/api/packages/late")).EnumerateArray().Select(p => p.GetProperty("id").GetGuid()));
        Assert.Empty(await Here.ProofAsync(package));
    }

    [Fact]
    public async Task FilingUnderAFolderThatIsNotThereIsFoundAndASignerPicksOneThatIs()
    {
        var (author, koa) = (await Here.AsAsync("author"), await Here.AsAsync("coordinator"));
        await koa.PostAsync<JsonElement>("/api/folders", new { path = "Picked" });
        var findings = await koa.PostAsync<JsonElement>("/api/plans/check", JsonSerializer.SerializeToElement(new Plan("File", "", new Sequence([Look("one", "checker")])) { Closing = [new FileUnder("Nowhere / At all")] }, Act.Json));
        Assert.Contains("closing-folder-missing", findings.GetProperty("findings").EnumerateArray().Select(f => f.GetProperty("code").GetString()));
        // What stands twice in a plan is found, not stumbled over.
        var rule = new Rule(false, [new(Subject.Size, "", Comparison.AtLeast, "2")]);
        var twice = new Plan("Twice", "", new Sequence([new Choice("which", "Which?", [new("way", "One", rule, new([Look("one", "checker")])), new("way", "Two", rule, new([])), new("else", "Else", null, new([]))])]));
        findings = await koa.PostAsync<JsonElement>("/api/plans/check", JsonSerializer.SerializeToElement(twice, Act.Json));
        Assert.Contains("way-key-twice", findings.GetProperty("findings").EnumerateArray().Select(f => f.GetProperty("code").GetString()));
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
        await Here.OwnerDb.RunAsync("INSERT INTO group_right (group_id, right_name, folder_id) SELECT g.id, 'send', f.id FROM person_group g, folder f WHERE g.name = 'Coordinators' AND f.path = 'Picked' ON CONFLICT DO NOTHING", []);
        Here.Services.GetRequiredService<RightsBook>().Forget();
        await koa.PostAsync<JsonElement>($"/api/packages/{package}/sign-offs", await SignAsync("Picked"));
        Assert.Equal("Picked", await OneAsync<string>("SELECT f.path FROM document d JOIN folder f ON f.id = d.folder_id WHERE d.id = $1", document));
        Assert.Empty(await Here.ProofAsync(package, document));
    }

    [Fact]
    public async Task AWithdrawnDocumentLeavesItsPackageAndWhoeverHasItIsTold()
    {
        var (author, checker, koa) = (await Here.AsAsync("author"), await Here.AsAsync("checker"), await Here.AsAsync("coordinator"));
        await Here.OwnerDb.RunAsync("INSERT INTO group_right (group_id, right_name, folder_id) SELECT g.id, 'withdraw', f.id FROM person_group g, folder f WHERE g.name = 'Coordinators' AND f.path = '' ON CONFLICT DO NOTHING", []);
        Here.Services.GetRequiredService<RightsBook>().Forget();
        var plan = await PlanAsync(new Plan("One", "", new Sequence([Look("one", "checker")])));
        Guid[] documents = [await Office.RegisterAsync(author, "withdrawn"), await Office.RegisterAsync(author, "goes on")];
        Assert.Equal("released", await checker.SignAsync(await SendAsync(author, plan, documents[0]), "one-checker"));
        // A guest got it for use on site, and sees it for that.
        await author.PostAsync<JsonElement>("/api/documents/use", new { documents = documents[..1], people = new[] { Here.Ids["guest"] }, groups = Array.Empty<Guid>(), reason = "Build it.", message = "" });
        var guest = await Here.AsAsync("guest");
        Assert.Equal(HttpStatusCode.OK, await guest.StatusAsync($"/api/documents/{documents[0]}"));
        Assert.Equal(HttpStatusCode.NotFound, await guest.StatusAsync($"/api/documents/{documents[1]}"));
        Assert.Equal((403, "not-allowed"), await author.RefusedAsync($"/api/documents/{documents[0]}/withdrawals", new { reason = "No.", revision = (string?)null }));
        // Its next revision is under review with another document.
        await NextRevisionAsync(author, documents[0]);
        var package = await SendAsync(author, plan, documents);
        await koa.PostAsync<JsonElement>($"/api/documents/{documents[0]}/withdrawals", new { reason = "It cracked." });
        var view = await ViewAsync(author, package);
        Assert.Equal([documents[1]], view.GetProperty("items").EnumerateArray().Select(i => i.GetProperty("document").GetGuid()));
        Assert.Equal(["withdrawn", "withdrawn"], await Here.Db.ListAsync("SELECT standing FROM revision WHERE document_id = $1 ORDER BY ordinal", r => r.GetString(0), [documents[0]]));
        Assert.Equal(1, await OneAsync<int>("SELECT count(*)::int FROM message WHERE person_id = $1 AND link = $2 AND body LIKE '%It cracked.'", Here.Ids["guest"], $"/register/{documents[0]}"));
        Assert.Equal((1, 1), (await ToldAsync("checker", "without a document that is withdrawn", package), await ToldAsync("checker", "is withdrawn", package)));
        Assert.Equal("released", await checker.SignAsync(package, "one-checker"));
        Assert.Equal("withdrawn", await OneAsync<string>("SELECT standing FROM document WHERE id = $1", documents[0]));
        Assert.Empty(await Here.ProofAsync([package, .. documents]));

        async Task NextRevisionAsync(Browser who, Guid document) => await who.PostAsync<JsonElement>($"/api/documents/{document}/drafts", new { upload = await who.UploadAsync("b.dxf", Office.Drawing("rev " + Guid.NewGuid())), reason = "Stronger." });
    }

    [Fact]
    public async Task WhoIsToldIsShownBeforehandAndPeopleAreAddedWithAMessageForThisOnce()
    {
        var (author, checker, koa) = (await Here.AsAsync("author"), await Here.AsAsync("checker"), await Here.AsAsync("coordinator"));
        var package = await Here.SendAsync(author, await Office.RegisterAsync(author, "said"));
        var sending = new { key = Guid.NewGuid(), title = "Not sent", coveringNote = "", plan = Here.Plan, documents = new[] { await Office.RegisterAsync(author, "not sent") }, inform = Array.Empty<Guid>() };
        Assert.Equal([Here.Ids["checker"]], (await author.PostAsync<JsonElement>("/api/packages/told", sending)).EnumerateArray().Select(p => p.GetGuid()));
        Assert.Equal("in work", await OneAsync<string>("SELECT standing FROM document WHERE id = $1", sending.documents[0]));
        var before = await OneAsync<long>("SELECT count(*) FROM ledger_entry WHERE chain = $1", package);
        var told = (await koa.PostAsync<JsonElement>($"/api/packages/{package}/told", new { act = new { kind = "pullBack", reason = "…" } })).EnumerateArray().Select(p => p.GetGuid()).ToHashSet();
        Assert.Equal(new[] { "author", "checker", "bystander" }.Select(n => Here.Ids[n]).ToHashSet(), told);
        Assert.Equal(before, await OneAsync<long>("SELECT count(*) FROM ledger_entry WHERE chain = $1", package));
        Assert.Equal("in review", (await ViewAsync(koa, package)).GetProperty("standing").GetString());
        var sign = JsonSerializer.SerializeToNode(await checker.SignOffAsync(package, "check"), JsonSerializerOptions.Web)!;
        var next = (await checker.PostAsync<JsonElement>($"/api/packages/{package}/told", new JsonObject { ["signOff"] = sign.DeepClone() })).EnumerateArray().Select(p => p.GetGuid()).ToHashSet();
        Assert.Contains(Here.Ids["lead"], next);
        Assert.DoesNotContain(Here.Ids["guest"], next);
        sign["say"] = JsonSerializer.SerializeToNode(new { message = "Mind the bore.", besides = new[] { Here.Ids["guest"] } });
        await checker.PostAsync<JsonElement>($"/api/packages/{package}/sign-offs", sign);
        foreach (var person in new[] { "lead", "guest" })
            Assert.Equal(1, await OneAsync<int>("SELECT count(*)::int FROM message WHERE person_id = $1 AND link = $2 AND body LIKE '%checker writes: Mind the bore.'", Here.Ids[person], $"/packages/{package}"));
        // The record has its own words, and only those.
        Assert.Equal("seen", await OneAsync<string>("SELECT remark FROM sign_off WHERE package_id = $1", package));
        Assert.Equal(HttpStatusCode.OK, await (await Here.AsAsync("guest")).StatusAsync($"/api/packages/{package}"));
        Assert.Empty(await Here.ProofAsync(package));
    }

    [Fact]
    public async Task WhatABarredPersonHoldsIsHandedOverInOnePlace()
    {
        var ((gone, author), (heir, _)) = (await OriginatorAsync("gone"), await OriginatorAsync("heir"));
        var koa = await Here.AsAsync("coordinator");
        var other = await Here.AsAsync("author");
        Guid[] documents = [await Office.RegisterAsync(author, "in a package"), await Office.RegisterAsync(author, "in none")];
        var own = await SendAsync(author, await PlanAsync(new Plan("Own", "", new Sequence([Look("one", "checker")]))), documents[0]);
        var seat = await SendAsync(other, await PlanAsync(new Plan("Seat", "", new Sequence([new Step("one", "One", "", 1, [new Seat("s", "S", new PersonHolder(gone))])]))), await Office.RegisterAsync(other, "to sign"));
        var request = await author.NoteAsync(seat, "request", "Longer.");
        var done = await koa.PostAsync<JsonElement>("/api/hand-overs", new { to = heir, reason = "They left.", from = gone, everything = true });
        Assert.All(done.EnumerateArray(), d => Assert.Equal(JsonValueKind.Null, d.GetProperty("refusal").ValueKind));
        Assert.Equal([heir, heir], await Here.Db.ListAsync("SELECT originator FROM document WHERE id = ANY ($1)", r => r.GetGuid(0), [documents]));
        Assert.Equal(heir, await OneAsync<Guid>("SELECT originator FROM package WHERE id = $1", own));
        Assert.Equal(0, (await koa.GetAsync<JsonElement>($"/api/people/{gone}/holds")).EnumerateArray().Count(k => k.GetProperty("kind").GetString() is "seats" or "packages" or "documents"));
        // What they asked goes with the seat: the coordinator may take it back for them as well.
        await koa.PostAsync<JsonElement>($"/api/notes/{request}/acts", new { act = "withdraw", body = "Not needed.", key = Guid.NewGuid() });
        Assert.Empty(await Here.ProofAsync([own, seat, .. documents]));
    }

    [Fact]
    public async Task WhoIsToldMaySeeWhatTheyAreToldAbout()
    {
        var (author, checker, guest) = (await Here.AsAsync("author"), await Here.AsAsync("checker"), await Here.AsAsync("guest"));
        var group = new PersonGroup(Guid.CreateVersion7(), "Site " + Guid.NewGuid(), [Here.Ids["guest"]]);
        await new People(Here.Db).AddGroupAsync(group);
        var package = await SendAsync(author, await PlanAsync(new Plan("Inform", "", new Sequence([Look("one", "checker")])) { Closing = [new InformGroup(group.Id)] }), await Office.RegisterAsync(author, "for the site"));
        Assert.Equal(HttpStatusCode.NotFound, await guest.StatusAsync($"/api/packages/{package}"));
        await checker.SignAsync(package, "one-checker");
        Assert.Equal(1, await ToldAsync("guest", "is released", package));
        Assert.Equal(HttpStatusCode.OK, await guest.StatusAsync($"/api/packages/{package}"));
    }

    [Fact]
    public async Task WhoeverReturnsNeedNotAnswerWhatMustBeAnsweredAndSeveralStepsAreCounted()
    {
        var (author, checker) = (await Here.AsAsync("author"), await Here.AsAsync("checker"));
        var point = new Checkpoint("ok", "Does it fit?", CheckpointKind.YesNo, "", true);
        var plan = await PlanAsync(new Plan("Beside", "", new Sequence([new Core.Routing.Parallel([new Sequence([Look("left", "checker") with { Checkpoints = [point] }]), new Sequence([Look("right", "lead")])])])));
        var package = await SendAsync(author, plan, await Office.RegisterAsync(author, "two at once"));
        var row = (await checker.GetAsync<JsonElement>("/api/desk")).GetProperty("toSign").EnumerateArray().Single(p => p.GetProperty("id").GetGuid() == package);
        Assert.Equal("2 steps: left, right", row.GetProperty("waitsAt").GetString());
        // Approving asks for the answer; returning, which says with its request what is wrong, does not.
        Assert.Equal((409, "checkpoint-missing"), await checker.RefusedAsync($"/api/packages/{package}/sign-offs", await checker.SignOffAsync(package, "left-checker")));
        await checker.NoteAsync(package, "request", "It does not.");
        await checker.SignAsync(package, "left-checker", "returnForChanges");
        Assert.Equal((409, "form-wrong"), await author.RefusedAsync("/api/packages", new { key = Guid.NewGuid(), title = "x", coveringNote = "", plan = await PlanAsync(new Plan("Person", "", new Sequence([Look("one", "checker")])) { Form = [new("who", "Who", FieldKind.Person, "", "", false, [])] }), documents = new[] { await Office.RegisterAsync(author, "nobody") }, inform = Array.Empty<Guid>(), answers = new { who = Guid.NewGuid() } }));
        Assert.Empty(await Here.ProofAsync(package));
    }

    [Fact]
    public async Task WhoLosesGetsOrSharesASeatOrGetsMoreTimeHearsItWithTheSendersWords()
    {
        var (author, koa) = (await Here.AsAsync("author"), await Here.AsAsync("coordinator"));
        var package = await Here.SendAsync(author, await Office.RegisterAsync(author, "seats"));
        Assert.Equal(1, await OneAsync<int>("SELECT count(*)::int FROM message WHERE person_id = $1 AND link = $2 AND body LIKE 'Round 1. “Please look.”%'", Here.Ids["checker"], $"/packages/{package}"));
        await ActAsync(koa, package, "extend", new { step = "check", days = 2 });
        Assert.Equal(1, await ToldAsync("checker", "you have more time", package));
        await ActAsync(koa, package, "refill", new { seat = "check", people = new[] { Here.Ids["checker"], Here.Ids["q3"] }, needed = 1 });
        Assert.Equal((1, 1), (await ToldAsync("checker", "you share your seat now", package), await ToldAsync("q3", "waits for your signature", package)));
        await ActAsync(koa, package, "refill", new { seat = "check", people = new[] { Here.Ids["q3"] }, needed = 1 });
        Assert.Equal(1, await ToldAsync("checker", "you hold a seat no more", package));
        // Whoever was asked for advice hears that it is not needed any more, and it leaves their desk.
        var q3 = await Here.AsAsync("q3");
        await q3.PostAsync<JsonElement>($"/api/packages/{package}/advice", new { of = Here.Ids["bystander"], question = "Is it strong enough?", key = Guid.NewGuid() });
        var bystander = await Here.AsAsync("bystander");
        async Task<bool> IsAskedAsync() => (await bystander.GetAsync<JsonElement>("/api/desk")).GetProperty("toAdvise").EnumerateArray().Any(p => p.GetProperty("id").GetGuid() == package);
        Assert.True(await IsAskedAsync());
        await ActAsync(koa, package, "stop");
        Assert.False(await IsAskedAsync());
        Assert.Equal(1, await ToldAsync("bystander", "your advice is not needed any more", package));
        Assert.Empty(await Here.ProofAsync(package));
    }

    [Fact]
    public async Task AMoveAlongTheStandingsTellsWhoIsNamedAndNobodyWhoMayNotSeeIt()
    {
        var (author, koa) = (await Here.AsAsync("author"), await Here.AsAsync("coordinator"));
        var path = "Stood " + Guid.NewGuid().ToString("n")[..8];
        await koa.PostAsync<JsonElement>("/api/folders", new { path });
        await koa.PutAsync<JsonElement>("/api/folders/standings", new { path, standings = new { stages = new[] { new { name = "begun", forUse = false, needsAnswers = false, needsWholeFile = false }, new { name = "checked", forUse = true, needsAnswers = false, needsWholeFile = false } }, moves = Array.Empty<object>() } });
        var document = await Office.RegisterAsync(author, "moves");
        await Here.OwnerDb.RunAsync("UPDATE document SET folder_id = (SELECT id FROM folder WHERE path = $2) WHERE id = $1", [document, path]);
        async Task<JsonElement> MoveAsync(string person) => (await koa.PostAsync<JsonElement>("/api/documents/standings", new { documents = new[] { document }, to = "checked", reason = "Looked through.", message = "Have a look.", people = new[] { Here.Ids[person] } }))[0];
        Assert.Contains("may not see", (await MoveAsync("guest")).GetProperty("refusal").GetString(), StringComparison.Ordinal);
        Assert.Equal("", await OneAsync<string>("SELECT stage FROM revision WHERE document_id = $1", document));
        Assert.Equal(JsonValueKind.Null, (await MoveAsync("lead")).GetProperty("refusal").ValueKind);
        Assert.Equal("coordinator writes: Have a look.", await OneAsync<string>("SELECT body FROM message WHERE person_id = $1 AND link = $2", Here.Ids["lead"], $"/register/{document}"));
        Assert.Equal("Looked through.", await OneAsync<string>("SELECT reason FROM ledger_entry WHERE chain = $1 AND action = 'standing moved'", document));
    }

    [Fact]
    public async Task WhatADocumentOffersIsWhatItsReaderMayDo()
    {
        var (author, checker, lead) = (await Here.AsAsync("author"), await Here.AsAsync("checker"), await Here.AsAsync("lead"));
        var document = await Office.RegisterAsync(author, "offers");
        async Task<(bool, bool, bool, bool)> MayAsync(Browser who) => (await who.GetAsync<JsonElement>($"/api/documents/{document}")).GetProperty("may") is var may
            ? (may.GetProperty("upload").GetBoolean(), may.GetProperty("send").GetBoolean(), may.GetProperty("withdraw").GetBoolean(), may.GetProperty("handOver").GetBoolean()) : default;
        Assert.Equal((true, true, false, false), await MayAsync(author));
        Assert.Equal((false, false, false, false), await MayAsync(lead));
        var package = await SendAsync(author, await PlanAsync(new Plan("Offers", "", new Sequence([Look("one", "checker")]))), document);
        Assert.Equal((false, false, false, false), await MayAsync(author));
        await checker.SignAsync(package, "one-checker");
        // The next revision of what is released takes the right to unlock, which originators here have.
        Assert.Equal((true, false, false, false), await MayAsync(author));
        await Here.OwnerDb.RunAsync("UPDATE document SET originator = $2 WHERE id = $1", [document, Here.Ids["lead"]]);
        Assert.Equal((false, false, false, false), await MayAsync(lead));
    }
}
