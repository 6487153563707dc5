using System.Text.Json;
using System.Text.Json.Nodes;
using Froe.Core.Routing;
using Froe.Server.Changes;
using Froe.Server.Packages;
using Froe.Server.Post;
using Froe.Server.SignIn;
using Froe.Store;
using Microsoft.Extensions.DependencyInjection;
using Xunit;

namespace Froe.Server.Tests;

/// <summary>Reminders, advice, many at once, item by item, what is noted, and what comes after release.</summary>
public class PassageTests(Office office)
{
    private async Task<T> OneAsync<T>(string sql, params object?[] values) => (await office.Db.ListAsync(sql, r => r.GetFieldValue<T>(0), values))[0];

    private Task<List<string>> SubjectsAsync(string name, Guid package) =>
        office.Db.ListAsync("SELECT subject FROM message WHERE person_id = $1 AND link LIKE $2 ORDER BY at, id", r => r.GetString(0), [office.Ids[name], $"/packages/{package}%"]);

    private Step Single(string key, string who, params Telling[] tells) => new(key, key, "Look.", 1, [new Seat(key, key, new PersonHolder(office.Ids[who]))]) { Tells = [.. tells], Reminders = [1] };

    private async Task<Guid> PlanAsync(Func<Plan, Plan> with, params Block[] blocks)
    {
        var id = Guid.CreateVersion7();
        await office.AddPlanAsync(id, with(new Plan("Passage " + id, "", new Sequence([.. blocks]))));
        return id;
    }

    private static async Task<Guid> SendAsync(Browser author, Guid plan, object? told, params Guid[] documents) => (await author.PostAsync<JsonElement>(
        "/api/packages", new { key = Guid.NewGuid(), title = "Passage", coveringNote = "", plan, documents, inform = Array.Empty<Guid>(), told })).GetProperty("id").GetGuid();

    private async Task NudgeAsync(Guid package, string due)
    {
        // Time is turned by moving what is due, not by waiting for it.
        await office.Db.RunAsync($"UPDATE awaited SET since = now() - interval '30 days', due = now() + interval '{due}', nudge_at = now() - interval '20 days' WHERE package_id = $1", [package]);
        for (var i = 0; i < 200; i++)
        {
            await office.Services.GetRequiredService<Nudging>().NudgeNextAsync(default);
            if ((await office.Db.ListAsync("SELECT 1 FROM awaited WHERE package_id = $1 AND nudge_at <= now()", r => r.GetInt32(0), [package])).Count == 0) return;
        }
        throw new TimeoutException("The reminder did not come.");
    }

    [Fact]
    public async Task SignersAreRemindedThenThePlansPeopleToldAndNothingIsApprovedByTime()
    {
        var author = await office.AsAsync("author");
        var plan = await PlanAsync(p => p, Single("check", "checker", new Telling(Moment.Late, [office.Ids["lead"]], [], true), new Telling(Moment.Late, [office.Ids["coordinator"]], [], false) { AfterDays = 3 }));
        var package = await SendAsync(author, plan, null, await Office.RegisterAsync(author, "late"));
        await NudgeAsync(package, "1 hour");
        Assert.Contains(await SubjectsAsync("checker", package), s => s.StartsWith("Reminder: ", StringComparison.Ordinal));
        Assert.DoesNotContain(await SubjectsAsync("lead", package), s => s.Contains("is late", StringComparison.Ordinal));
        await NudgeAsync(package, "-1 hour");
        Assert.Single(await SubjectsAsync("checker", package), s => s.Contains("is late", StringComparison.Ordinal));
        Assert.Single(await SubjectsAsync("lead", package), s => s.Contains("is late", StringComparison.Ordinal));
        Assert.Single(await SubjectsAsync("author", package), s => s.Contains("is late", StringComparison.Ordinal));
        Assert.Empty(await SubjectsAsync("coordinator", package));
        await NudgeAsync(package, "-8 days");
        Assert.Single(await SubjectsAsync("coordinator", package), s => s.Contains("late by 3 working days", StringComparison.Ordinal));
        Assert.Single(await SubjectsAsync("lead", package), s => s.Contains("is late", StringComparison.Ordinal));
        Assert.Equal("in review", await OneAsync<string>("SELECT standing FROM package WHERE id = $1", package));
        Assert.Equal(2, await OneAsync<long>("SELECT count(*) FROM ledger_entry WHERE chain = $1 AND action = 'step late'", package));
    }

    [Fact]
    public async Task WhomTheSenderNamesIsToldWhereThePlanAsks()
    {
        var (author, checker) = (await office.AsAsync("author"), await office.AsAsync("checker"));
        var plan = await PlanAsync(p => p, Single("check", "checker", new Telling(Moment.Passage, [], [], false) { AsksSender = true, LastEditor = true }), Single("lead", "lead"));
        var package = await SendAsync(author, plan, new[] { new { step = "check", at = "passage", people = new[] { office.Ids["bystander"] } }, new { step = "lead", at = "passage", people = new[] { office.Ids["q1"] } } }, await Office.RegisterAsync(author, "told"));
        await checker.SignAsync(package, "check");
        Assert.Contains(await SubjectsAsync("bystander", package), s => s.Contains("passed", StringComparison.Ordinal));
        Assert.Contains(await SubjectsAsync("author", package), s => s.Contains("passed", StringComparison.Ordinal));
        Assert.Empty(await SubjectsAsync("q1", package));
        Assert.DoesNotContain(await SubjectsAsync("checker", package), s => s.Contains("passed", StringComparison.Ordinal));
    }

    [Fact]
    public async Task AdviceIsAskedOfSomebodyWithoutASeatAndJoinsTheThread()
    {
        var (author, checker, guest, lead) = (await office.AsAsync("author"), await office.AsAsync("checker"), await office.AsAsync("guest"), await office.AsAsync("lead"));
        var package = await office.SendAsync(author, await Office.RegisterAsync(author, "advice"));
        var note = await checker.NoteAsync(package, "remark", "Is this wall thick enough?");
        Assert.Equal((409, "not-signer"), await lead.RefusedAsync($"/api/packages/{package}/advice", new { of = office.Ids["guest"], question = "Well?" }));
        Assert.Equal((409, "has-seat"), await checker.RefusedAsync($"/api/packages/{package}/advice", new { of = office.Ids["checker"], question = "Well?" }));
        Assert.Equal(System.Net.HttpStatusCode.NotFound, await guest.StatusAsync($"/api/packages/{package}"));
        var advice = (await checker.PostAsync<JsonElement>($"/api/packages/{package}/advice", new { of = office.Ids["guest"], question = "Does 18 mm pour?", note })).GetProperty("id").GetGuid();
        // Who is asked sees the package, and finds it on the desk; the seat stays the checker's.
        Assert.Contains(package, (await guest.GetAsync<JsonElement>("/api/desk")).GetProperty("toAdvise").EnumerateArray().Select(r => r.GetProperty("id").GetGuid()));
        Assert.Equal((409, "not-your-seat"), await guest.RefusedAsync($"/api/packages/{package}/sign-offs", await guest.SignOffAsync(package, "check")));
        Assert.Equal((404, "not-found"), await lead.RefusedAsync($"/api/advice/{advice}", new { words = "Mine" }));
        await guest.PostAsync<JsonElement>($"/api/advice/{advice}", new { words = "From 16 mm on." });
        Assert.Equal((409, "answered"), await guest.RefusedAsync($"/api/advice/{advice}", new { words = "Or 20." }));
        var view = await checker.GetAsync<JsonElement>($"/api/packages/{package}");
        Assert.Equal(["advice asked", "advice given"], view.GetProperty("notes")[0].GetProperty("acts").EnumerateArray().Select(a => a.GetProperty("act").GetString()));
        Assert.Equal("From 16 mm on.", view.GetProperty("advice")[0].GetProperty("answer").GetString());
        Assert.Contains(await SubjectsAsync("checker", package), s => s.Contains("gave advice", StringComparison.Ordinal));
    }

    [Fact]
    public async Task ManyAreSignedAtOnceOnlyWhenEachItemWasOpened()
    {
        var (author, checker) = (await office.AsAsync("author"), await office.AsAsync("checker"));
        var packages = new List<Guid>();
        for (var i = 0; i < 3; i++) packages.Add(await office.SendAsync(author, await Office.RegisterAsync(author, $"many {i}")));
        foreach (var package in packages.Take(2))
            await checker.PostAsync<JsonElement>($"/api/drafts/{await OneAsync<Guid>("SELECT draft_id FROM package_item WHERE package_id = $1", package)}/opened", new { });
        var grant = (await checker.PostAsync<JsonElement>("/api/session/confirm", new { password = Office.Password })).GetProperty("grant").GetString();
        var wanted = new { grant, remark = "All alike.", packages = packages.Select(p => new { package = p, seat = "check", key = Guid.NewGuid() }).ToArray() };
        var done = (await checker.PostAsync<JsonElement>("/api/sign-offs", wanted)).EnumerateArray().Select(r => r.GetProperty("refusal").GetString()).ToList();
        Assert.Equal([null, null], done[..2]);
        Assert.Contains("not opened", done[2], StringComparison.Ordinal);
        // Each has its own entry, and a double click signs nothing twice.
        await checker.PostAsync<JsonElement>("/api/sign-offs", wanted);
        foreach (var package in packages.Take(2)) Assert.Equal(1, await OneAsync<long>("SELECT count(*) FROM ledger_entry WHERE chain = $1 AND action = 'signed'", package));
        Assert.Equal(0, await OneAsync<long>("SELECT count(*) FROM sign_off WHERE package_id = $1", packages[2]));
    }

    [Fact]
    public async Task EverySeatIsHandedOverAtOnceOpenOrToCome()
    {
        var author = await office.AsAsync("author");
        var admin = await office.AsAsync("coordinator");
        var login = "leaver-" + Guid.NewGuid().ToString("n")[..8];
        var leaver = (await admin.PostAsync<JsonElement>("/api/people", new { login, name = "Lea Ver", initials = "LV", title = "", email = "l@office.example", timeZone = "UTC", isGuest = false, password = Office.Password })).GetProperty("id").GetGuid();
        var plan = await PlanAsync(p => p, new Step("a", "a", "Look.", 1, [new Seat("a", "a", new PersonHolder(leaver))]), Single("b", "lead"), new Step("c", "c", "Look.", 1, [new Seat("c", "c", new PersonHolder(leaver))]));
        var package = await SendAsync(author, plan, null, await Office.RegisterAsync(author, "leaver"));
        var browser = await office.AsAsync(login);
        Assert.Equal((403, "not-allowed"), await author.RefusedAsync("/api/hand-overs", new { to = office.Ids["q1"], reason = "Not mine", from = leaver }));
        Assert.Equal((422, "missing-reason"), await browser.RefusedAsync("/api/hand-overs", new { to = office.Ids["q1"], reason = "" }));
        var done = await browser.PostAsync<JsonElement>("/api/hand-overs", new { to = office.Ids["q1"], reason = "Leaving on Friday" });
        Assert.Equal(2, done.GetArrayLength());
        Assert.Equal([office.Ids["q1"]], await office.Db.ListAsync("SELECT person_id FROM awaited WHERE package_id = $1", r => r.GetGuid(0), [package]));
        Assert.Empty(await office.Db.ListAsync("SELECT 1 FROM package_seat WHERE package_id = $1 AND person_id = $2", r => r.GetInt32(0), [package, leaver]));
    }

    /// <summary>A time that stands still.</summary>
    private sealed class StillClock(DateTimeOffset now) : TimeProvider
    {
        public override DateTimeOffset GetUtcNow() => now;
    }

    /// <summary>An act bears the time of its request, which may then wait for a connection or its package while others act.</summary>
    [Fact]
    public async Task WhatWasWrittenBeforeASplitIsProvenThoughTheSplitBeganEarlier()
    {
        var (author, checker) = (await office.AsAsync("author"), await office.AsAsync("checker"));
        var plan = await PlanAsync(p => p with { ItemByItem = true }, Single("check", "checker"), Single("lead", "lead"));
        var (first, second) = (await Office.RegisterAsync(author, "first"), await Office.RegisterAsync(author, "second"));
        var package = await SendAsync(author, plan, null, first, second);
        var began = DateTimeOffset.UtcNow;
        await checker.NoteAsync(package, "request", "Mend the first.");
        var sign = JsonSerializer.SerializeToNode(await checker.SignOffAsync(package, "check"))!;
        sign["verdicts"]![0]!["verdict"] = "returnForChanges";
        var services = office.Services;
        var signing = new Signing(office.Db, services.GetRequiredService<Recording>(), services.GetRequiredService<Passwords>(), services.GetRequiredService<Announcements>(), new StillClock(began));
        var person = office.Ids["checker"];
        var who = new Who(person, "", "", false, (await services.GetRequiredService<RightsBook>().OfAsync(person, default)).Rights);
        await signing.SignAsync(who, package, sign.Deserialize<NewSignOff>(Act.Json)!, default);
        var off = await OneAsync<Guid>("SELECT id FROM package WHERE split_from = $1", package);
        Assert.Equal(1, await OneAsync<int>("SELECT count(*)::int FROM note WHERE package_id = $1", off));
        Assert.Empty(await office.ProofAsync(first, package, off));
    }

    [Fact]
    public async Task ItemByItemTheApprovedGoOnAndTheReturnedComeBackAsAPackageOfTheirOwn()
    {
        var (author, checker, lead) = (await office.AsAsync("author"), await office.AsAsync("checker"), await office.AsAsync("lead"));
        var plan = await PlanAsync(p => p with { ItemByItem = true }, Single("check", "checker"), Single("lead", "lead"));
        var (first, second) = (await Office.RegisterAsync(author, "first"), await Office.RegisterAsync(author, "second"));
        var package = await SendAsync(author, plan, null, first, second);
        await checker.NoteAsync(package, "request", "Mend the first.");
        var sign = JsonSerializer.SerializeToNode(await checker.SignOffAsync(package, "check"))!;
        sign["verdicts"]![0]!["verdict"] = "returnForChanges";
        Assert.Equal("inReview", (await checker.PostAsync<JsonElement>($"/api/packages/{package}/sign-offs", sign)).GetProperty("standing").GetString());
        var off = await OneAsync<Guid>("SELECT id FROM package WHERE split_from = $1", package);
        // Lists show no return in the package that goes on; the one that came back shows who sent it back and why.
        var rows = (await (await office.AsAsync("coordinator")).GetAsync<JsonElement>("/api/packages?search=Passage")).GetProperty("rows").EnumerateArray().ToDictionary(r => r.GetProperty("id").GetGuid());
        Assert.False(rows[package].GetProperty("signed")[0].GetProperty("returns").GetBoolean());
        Assert.True(rows[off].GetProperty("signed")[0].GetProperty("returns").GetBoolean());
        var said = (await author.GetAsync<JsonElement>($"/api/packages/{off}")).GetProperty("signOffs")[0];
        Assert.Equal((office.Ids["checker"], 1), (said.GetProperty("person").GetGuid(), said.GetProperty("verdicts").GetArrayLength()));
        Assert.Equal("released", await lead.SignAsync(package, "lead"));
        Assert.Equal(["returned", "released"], await office.Db.ListAsync("SELECT standing FROM revision WHERE document_id = ANY ($1) ORDER BY array_position($1, document_id)", r => r.GetString(0), [new[] { first, second }]));

        // The request went with its item; once answered and mended, the item goes its way from the first step.
        var view = await author.GetAsync<JsonElement>($"/api/packages/{off}");
        var request = view.GetProperty("notes")[0].GetProperty("id").GetGuid();
        var upload = await author.UploadAsync("mended.dxf", Office.Drawing("mended"));
        await author.PostAsync<JsonElement>($"/api/documents/{first}/drafts", new { upload, reason = "" });
        await author.PostAsync<JsonElement>($"/api/notes/{request}/acts", new { act = "answer", answer = "done", body = "" });
        await author.PostAsync<JsonElement>($"/api/packages/{off}/rounds", new { coveringNote = "" });
        await checker.PostAsync<JsonElement>($"/api/notes/{request}/acts", new { act = "close", body = "Seen." });
        await checker.SignAsync(off, "check");
        Assert.Equal("released", await lead.SignAsync(off, "lead"));
        Assert.Empty(await office.ProofAsync(first, package, off));
        foreach (var id in new[] { package, off })
        {
            var events = (await office.Db.ListAsync("SELECT payload FROM ledger_entry WHERE chain = $1 AND payload LIKE '%\"event\":%' ORDER BY sequence", r => JsonSerializer.Deserialize<SlipEvent>(r.GetString(0), Act.Json)!, [id]));
            Assert.Equal(
                SlipStore.Write(SlipStore.Read(await OneAsync<string>("SELECT slip::text FROM package WHERE id = $1", id))),
                SlipStore.Write(SlipRules.Replay(Slip.Blank, events)));
        }
    }

    /// <summary>A signature that is not given again names the drafts of its round; whichever way its documents go, what it noted on them goes along.</summary>
    [Fact]
    public async Task WhatWasNotedInAnEarlierRoundGoesWithItsDocumentWhenItemsAreSplitOff()
    {
        var (author, checker, lead) = (await office.AsAsync("author"), await office.AsAsync("checker"), await office.AsAsync("lead"));
        var plan = await PlanAsync(p => p with { ItemByItem = true, HoldsNoted = true }, Single("check", "checker"), Single("lead", "lead") with { SignAgain = SignAgain.ReturnedAndAfter });
        Guid[] documents = [await Office.RegisterAsync(author, "kept"), await Office.RegisterAsync(author, "returned")];
        var package = await SendAsync(author, plan, null, documents);
        var noted = await SignNodeAsync(checker, "check", "approveAsNoted");
        foreach (var verdict in noted["verdicts"]!.AsArray()) verdict!["reason"] = "Burr on the edge.";
        await checker.PostAsync<JsonElement>($"/api/packages/{package}/sign-offs", noted);
        var judged = noted["verdicts"]!.AsArray().Select(v => v!["draft"]!.GetValue<Guid>()).ToArray();
        await RequestAsync(0, "Mend the first.");
        await RequestAsync(1, "Mend the second.");
        Assert.Equal("returned", await lead.SignAsync(package, "lead", "returnForChanges"));
        foreach (var document in documents)
        {
            var upload = await author.UploadAsync("mended.dxf", Office.Drawing("mended" + document));
            await author.PostAsync<JsonElement>($"/api/documents/{document}/drafts", new { upload, reason = "" });
        }
        foreach (var note in (await author.GetAsync<JsonElement>($"/api/packages/{package}")).GetProperty("notes").EnumerateArray())
            await author.PostAsync<JsonElement>($"/api/notes/{note.GetProperty("id").GetGuid()}/acts", new { act = "answer", answer = "done", body = "" });
        await author.PostAsync<JsonElement>($"/api/packages/{package}/rounds", new { coveringNote = "" });

        // The first is good now, the second is not: it leaves.
        var notes = (await lead.GetAsync<JsonElement>($"/api/packages/{package}")).GetProperty("notes").EnumerateArray().Select(n => n.GetProperty("id").GetGuid()).ToArray();
        await lead.PostAsync<JsonElement>($"/api/notes/{notes[0]}/acts", new { act = "close", body = "Seen." });
        await lead.PostAsync<JsonElement>($"/api/notes/{notes[1]}/acts", new { act = "reopen", body = "It is not mended." });
        var sign = await SignNodeAsync(lead, "lead", "approve");
        sign["verdicts"]![1]!["verdict"] = "returnForChanges";
        Assert.Equal("inReview", (await lead.PostAsync<JsonElement>($"/api/packages/{package}/sign-offs", sign)).GetProperty("standing").GetString());
        var off = await OneAsync<Guid>("SELECT id FROM package WHERE split_from = $1", package);
        Assert.Equal([judged[1]], await office.Db.ListAsync("SELECT v.draft_id FROM sign_off s JOIN verdict v ON v.sign_off_id = s.id WHERE s.package_id = $1 AND s.seat = 'check'", r => r.GetGuid(0), [off]));
        Assert.Empty(await office.ProofAsync(documents[0], documents[1], package, off));

        // What was noted on the first holds its release until it is answered; the second no longer does.
        var waits = Assert.Single((await author.GetAsync<JsonElement>($"/api/packages/{package}")).GetProperty("signOffs").EnumerateArray().SelectMany(s => s.GetProperty("verdicts").EnumerateArray()), v => v.GetProperty("wantsAnswer").GetBoolean());
        Assert.Equal(judged[0], waits.GetProperty("draft").GetGuid());
        await author.PostAsync<JsonElement>($"/api/packages/{package}/noted", new { seat = "check", signer = office.Ids["checker"], draft = judged[0], words = "Broken by 0.2." });
        Assert.Equal("released", await OneAsync<string>("SELECT standing FROM package WHERE id = $1", package));
        Assert.Empty(await office.ProofAsync(documents[0], documents[1], package, off));

        async Task<JsonNode> SignNodeAsync(Browser who, string seat, string verdict) => JsonSerializer.SerializeToNode(await who.SignOffAsync(package, seat, verdict))!;

        async Task RequestAsync(int item, string body) => await lead.PostAsync<JsonElement>(
            $"/api/packages/{package}/notes", new { draft = judged[item], kind = "request", body, marks = new[] { Drawn.Cloud() } });
    }

    /// <summary>The left part and the right one may be the same file; what is said of one is not said of the other.</summary>
    [Fact]
    public async Task TwoDocumentsWithTheSameBytesAreJudgedAndAnsweredEachForItself()
    {
        var (author, checker, lead) = (await office.AsAsync("author"), await office.AsAsync("checker"), await office.AsAsync("lead"));
        var plan = await PlanAsync(p => p with { HoldsNoted = true }, Single("check", "checker"), Single("lead", "lead") with { SignAgain = SignAgain.ChangedItems });
        Guid[] documents = [await Office.RegisterAsync(author, "changes"), await Office.RegisterAsync(author, "both"), await Office.RegisterAsync(author, "both")];
        var package = await SendAsync(author, plan, null, documents);
        var noted = JsonSerializer.SerializeToNode(await checker.SignOffAsync(package, "check", "approve"))!;
        foreach (var at in new[] { 1, 2 }) (noted["verdicts"]![at]!["verdict"], noted["verdicts"]![at]!["reason"]) = ("approveAsNoted", $"Note {at}.");
        await checker.PostAsync<JsonElement>($"/api/packages/{package}/sign-offs", noted);
        await lead.NoteAsync(package, "request", "Mend the first.");
        var sign = JsonSerializer.SerializeToNode(await lead.SignOffAsync(package, "lead"))!;
        sign["verdicts"]![0]!["verdict"] = "returnForChanges";
        Assert.Equal("returned", (await lead.PostAsync<JsonElement>($"/api/packages/{package}/sign-offs", sign)).GetProperty("standing").GetString());
        var request = (await author.GetAsync<JsonElement>($"/api/packages/{package}")).GetProperty("notes")[0].GetProperty("id").GetGuid();
        await author.PostAsync<JsonElement>($"/api/documents/{documents[0]}/drafts", new { upload = await author.UploadAsync("mended.dxf", Office.Drawing("mended")), reason = "" });
        await author.PostAsync<JsonElement>($"/api/notes/{request}/acts", new { act = "answer", answer = "done", body = "" });
        await author.PostAsync<JsonElement>($"/api/packages/{package}/rounds", new { coveringNote = "" });

        // What is the same is not judged again; each of its two notes waits for an answer of its own.
        Assert.Equal([documents[0]], (await office.Db.ListAsync("SELECT slip::text FROM package WHERE id = $1", r => SlipStore.Read(r.GetString(0)), [package]))[0].ToJudge("check", office.Ids["checker"]).Select(i => i.Document));
        Assert.Equal([("Note 1.", true), ("Note 2.", true)], await WaitAsync());
        await AnswerAsync(1);
        Assert.Equal([("Note 1.", false), ("Note 2.", true)], await WaitAsync());
        await AnswerAsync(2);
        Assert.Equal([("Note 1.", false), ("Note 2.", false)], await WaitAsync());
        await lead.PostAsync<JsonElement>($"/api/notes/{request}/acts", new { act = "close", body = "Seen." });
        await SignFirstAsync(checker, "check");
        Assert.Equal("released", await SignFirstAsync(lead, "lead"));
        Assert.Empty(await office.ProofAsync([package, .. documents]));

        async Task<string> SignFirstAsync(Browser who, string seat)
        {
            var first = JsonSerializer.SerializeToNode(await who.SignOffAsync(package, seat))!;
            first["verdicts"] = new JsonArray(first["verdicts"]![0]!.DeepClone());
            return (await who.PostAsync<JsonElement>($"/api/packages/{package}/sign-offs", first)).GetProperty("standing").GetString()!;
        }

        async Task<IEnumerable<JsonElement>> NotedAsync() => (await author.GetAsync<JsonElement>($"/api/packages/{package}")).GetProperty("signOffs").EnumerateArray()
            .SelectMany(s => s.GetProperty("verdicts").EnumerateArray()).Where(v => v.GetProperty("verdict").GetString() == "approveAsNoted").OrderBy(v => v.GetProperty("reason").GetString(), StringComparer.Ordinal);

        async Task<IEnumerable<(string, bool)>> WaitAsync() => (await NotedAsync()).Select(v => (v.GetProperty("reason").GetString()!, v.GetProperty("wantsAnswer").GetBoolean()));

        async Task AnswerAsync(int at) => await author.PostAsync<JsonElement>(
            $"/api/packages/{package}/noted", new { seat = "check", signer = office.Ids["checker"], draft = (await NotedAsync()).ElementAt(at - 1).GetProperty("standsUnder").GetGuid(), words = "Done." });
    }

    [Fact]
    public async Task WhatIsNotedHoldsTheReleaseUntilAnsweredAndANextPackageIsPrepared()
    {
        var (author, checker) = (await office.AsAsync("author"), await office.AsAsync("checker"));
        var next = await PlanAsync(p => p, Single("again", "lead"));
        var plan = await PlanAsync(p => p with { HoldsNoted = true, Closing = [new FileUnder("Noted " + Guid.NewGuid()) { Copy = true }, new OpenFollowUp(next, "As-built check")] }, Single("check", "checker"));
        var document = await Office.RegisterAsync(author, "noted");
        var package = await SendAsync(author, plan, null, document);
        var sign = JsonSerializer.SerializeToNode(await checker.SignOffAsync(package, "check", "approveAsNoted"))!;
        sign["verdicts"]![0]!["reason"] = "Burr on the edge, please break it.";
        Assert.Equal("inReview", (await checker.PostAsync<JsonElement>($"/api/packages/{package}/sign-offs", sign)).GetProperty("standing").GetString());
        Assert.Contains(package, (await author.GetAsync<JsonElement>("/api/desk")).GetProperty("toAnswer").EnumerateArray().Select(r => r.GetProperty("id").GetGuid()));
        var draft = sign["verdicts"]![0]!["draft"]!.GetValue<Guid>();
        var answer = new { seat = "check", signer = office.Ids["checker"], draft, words = "Broken by 0.2." };
        Assert.Equal((409, "not-originator"), await checker.RefusedAsync($"/api/packages/{package}/noted", answer));
        Assert.Equal((409, "answer-without-words"), await author.RefusedAsync($"/api/packages/{package}/noted", answer with { words = " " }));
        await author.PostAsync<JsonElement>($"/api/packages/{package}/noted", answer);
        Assert.Equal("released", await OneAsync<string>("SELECT standing FROM package WHERE id = $1", package));
        Assert.Equal(1, await OneAsync<long>("SELECT count(*) FROM document_place WHERE document_id = $1", document));
        Assert.Equal("", await OneAsync<string>("SELECT f.path FROM document d JOIN folder f ON f.id = d.folder_id WHERE d.id = $1", document));

        var prepared = (await author.GetAsync<JsonElement>("/api/prepared")).EnumerateArray().First(p => p.GetProperty("plan").GetGuid() == next);
        Assert.Equal("As-built check", prepared.GetProperty("title").GetString());
        await author.PostAsync<JsonElement>("/api/packages", new { key = Guid.NewGuid(), title = "As-built check", coveringNote = "", plan = next, documents = new[] { await Office.RegisterAsync(author, "as built") }, inform = Array.Empty<Guid>(), prepared = prepared.GetProperty("id").GetGuid() });
        Assert.DoesNotContain((await author.GetAsync<JsonElement>("/api/prepared")).EnumerateArray(), p => p.GetProperty("id").GetGuid() == prepared.GetProperty("id").GetGuid());
    }

    [Fact]
    public async Task MailWaitsForTheDigestAndTheEndOfQuietHours()
    {
        var (author, q2) = (await office.AsAsync("author"), await office.AsAsync("q2"));
        var minute = (int)DateTime.UtcNow.TimeOfDay.TotalMinutes;
        await q2.PutAsync<JsonElement>("/api/post-hours", new { mode = "daily", digestAt = (minute + 120) % 1440, quietFrom = 0, quietTo = 0 });
        var plan = await PlanAsync(p => p, Single("check", "q2"));
        var package = await SendAsync(author, plan, null, await Office.RegisterAsync(author, "digest"));
        var worker = office.Services.GetRequiredService<MailWorker>();
        for (var i = 0; i < 600; i++)
        {
            // The test's mail server does not answer, so what is wanted now stays in the outbox; what is put off has its time.
            await worker.WantedNowAsync(await office.Services.GetRequiredService<Froe.Store.Post>().ClaimAsync(50), default);
            var put = await office.Db.ListAsync(
                "SELECT o.put_off_to FROM outbox o JOIN message m ON m.id = o.message_id WHERE m.person_id = $1 AND m.link = $2 AND o.put_off_to IS NOT NULL", r => r.GetDateTime(0), [office.Ids["q2"], $"/packages/{package}"]);
            if (put.Count == 0)
            {
                await Task.Delay(100);
                continue;
            }
            Assert.InRange((put[0] - DateTime.UtcNow).TotalMinutes, 117, 121);
            return;
        }
        Assert.Fail("The mail was not put off.");
    }
}
