using System.Net;
using System.Security.Cryptography;
using System.Text.Json;
using Froe.Core.Routing;
using Froe.Server.Packages;
using Froe.Store;
using Npgsql;
using Xunit;

namespace Froe.Server.Tests;

/// <summary>The loop through HTTP, on a real database, with what must never happen.</summary>
public class LoopTests(Office office)
{
    private async Task<T> OneAsync<T>(string sql, params object?[] values) => (await office.Db.ListAsync(sql, r => r.GetFieldValue<T>(0), values))[0];

    [Fact]
    public async Task FromSendingThroughAReturnToARelease()
    {
        var (author, checker, lead, q1, q2) = (await office.AsAsync("author"), await office.AsAsync("checker"), await office.AsAsync("lead"), await office.AsAsync("q1"), await office.AsAsync("q2"));
        var document = await Office.RegisterAsync(author, "first");
        var package = await office.SendAsync(author, document);
        Assert.Equal("in review", await OneAsync<string>("SELECT standing FROM revision WHERE document_id = $1", document));
        Assert.Equal("inReview", await checker.SignAsync(package, "check"));

        // Returning needs a request; then everyone who can sign does, and it goes back.
        Assert.Equal((409, "return-without-request"), await lead.RefusedAsync($"/api/packages/{package}/sign-offs", await lead.SignOffAsync(package, "lead", "returnForChanges")));
        var request = await lead.NoteAsync(package, "request", "Make it longer.");
        Assert.Equal("inReview", await lead.SignAsync(package, "lead", "returnForChanges"));
        Assert.Equal("inReview", await q1.SignAsync(package, "quality"));
        Assert.Equal("returned", await q2.SignAsync(package, "quality"));
        Assert.Equal("returned", await OneAsync<string>("SELECT standing FROM revision WHERE document_id = $1", document));
        Assert.Contains("came back", await OneAsync<string>("SELECT subject FROM message WHERE person_id = $1 ORDER BY at DESC LIMIT 1", office.Ids["author"]), StringComparison.Ordinal);

        // The same bytes and unanswered requests are refused.
        Assert.Equal((409, "same-bytes"), await author.RefusedAsync($"/api/packages/{package}/rounds", new { coveringNote = "" }));
        var upload = await author.UploadAsync("next.dxf", Office.Drawing("second"));
        await author.PostAsync<JsonElement>($"/api/documents/{document}/drafts", new { upload, reason = "longer" });
        Assert.Equal((409, "requests-unanswered"), await author.RefusedAsync($"/api/packages/{package}/rounds", new { coveringNote = "" }));
        Assert.Equal((409, "answer-without-words"), await author.RefusedAsync($"/api/notes/{request}/acts", new { act = "answer", answer = "cannot", body = "" }));
        await author.PostAsync<JsonElement>($"/api/notes/{request}/acts", new { act = "answer", answer = "done", body = "" });
        await author.PostAsync<JsonElement>($"/api/packages/{package}/rounds", new { coveringNote = "Done." });

        // The carried request is the lead's, who will surely sign after the others: it bars nobody but the lead, who closes it, with words.
        Assert.Equal((409, "not-yours-to-close"), await checker.RefusedAsync($"/api/notes/{request}/acts", new { act = "close", body = "Seen." }));
        await checker.SignAsync(package, "check");
        await q1.SignAsync(package, "quality");
        await q2.SignAsync(package, "quality");
        Assert.Equal((409, "request-open"), await lead.RefusedAsync($"/api/packages/{package}/sign-offs", await lead.SignOffAsync(package, "lead")));
        Assert.Equal((409, "closed-without-words"), await lead.RefusedAsync($"/api/notes/{request}/acts", new { act = "close", body = " " }));
        await lead.PostAsync<JsonElement>($"/api/notes/{request}/acts", new { act = "close", body = "It is longer." });
        Assert.Contains("is closed", await OneAsync<string>("SELECT subject FROM message WHERE person_id = $1 ORDER BY at DESC LIMIT 1", office.Ids["author"]), StringComparison.Ordinal);
        Assert.Equal("released", await lead.SignAsync(package, "lead"));
        Assert.Equal("released", await OneAsync<string>("SELECT standing FROM revision WHERE document_id = $1", document));
        Assert.Contains("is released", await OneAsync<string>("SELECT subject FROM message WHERE person_id = $1 ORDER BY at DESC LIMIT 1", office.Ids["bystander"]), StringComparison.Ordinal);

        // Replaying the ledger gives the stored slip, to the letter, and every signature names the released bytes.
        var events = (await new Ledgers(office.Db).ChainAsync(package)).Select(e => e.Entry).Where(e => e.Payload.Contains("\"event\":", StringComparison.Ordinal)).Select(e => JsonSerializer.Deserialize<SlipEvent>(e.Payload, Act.Json)!);
        var stored = SlipStore.Read(await OneAsync<string>("SELECT slip::text FROM package WHERE id = $1", package));
        Assert.Equal(SlipStore.Write(stored), SlipStore.Write(SlipRules.Replay(Slip.Blank, events)));
        var bytes = await OneAsync<byte[]>("SELECT sha256 FROM draft WHERE document_id = $1 AND ordinal = 2", document);
        Assert.Equal(4, await OneAsync<long>("SELECT count(*) FROM verdict v JOIN sign_off s ON s.id = v.sign_off_id WHERE s.package_id = $1 AND s.round = 2 AND v.sha256 = $2 AND v.verdict = 'approve'", package, bytes));

        // The next revision supersedes it when it is released in its turn.
        upload = await author.UploadAsync("b.dxf", Office.Drawing("revision b"));
        Assert.Equal((422, "missing-reason"), await author.RefusedAsync($"/api/documents/{document}/drafts", new { upload, reason = "" }));
        Assert.Equal("B", (await author.PostAsync<JsonElement>($"/api/documents/{document}/drafts", new { upload, reason = "Seal out of production" })).GetProperty("revision").GetString());
        var second = await office.SendAsync(author, document);
        await checker.SignAsync(second, "check");
        await q1.SignAsync(second, "quality");
        await q2.SignAsync(second, "quality");
        await lead.SignAsync(second, "lead");
        Assert.Equal(["superseded", "released"], await office.Db.ListAsync("SELECT standing FROM revision WHERE document_id = $1 ORDER BY ordinal", r => r.GetString(0), [document]));
        Assert.Empty(await office.ProofAsync(document, package, second));
    }

    [Fact]
    public async Task TwoWhoFinishTheLastTwoSeatsAtOnceMakeOnePassage()
    {
        var (author, checker, lead, q1, q2, q3) = (await office.AsAsync("author"), await office.AsAsync("checker"), await office.AsAsync("lead"), await office.AsAsync("q1"), await office.AsAsync("q2"), await office.AsAsync("q3"));
        for (var i = 0; i < 5; i++)
        {
            var package = await office.SendAsync(author, await Office.RegisterAsync(author, $"race {i}"));
            await checker.SignAsync(package, "check");
            var all = new[] { (lead, "lead"), (q1, "quality"), (q2, "quality"), (q3, "quality") };
            var bodies = await Task.WhenAll(all.Select(a => a.Item1.SignOffAsync(package, a.Item2)));
            var answers = await Task.WhenAll(all.Zip(bodies, (a, body) => a.Item1.SendAsync($"/api/packages/{package}/sign-offs", System.Net.Http.Json.JsonContent.Create(body))));
            // Three of the four are needed; the slowest of the group hears that the others were quicker.
            Assert.Equal(1, answers.Count(a => a.StatusCode == HttpStatusCode.Conflict));
            Assert.Equal(1, await OneAsync<long>("SELECT count(*) FROM ledger_entry WHERE chain = $1 AND action = 'package released'", package));
            Assert.Equal(4, await OneAsync<long>("SELECT count(*) FROM sign_off WHERE package_id = $1", package));
            Assert.Equal(0, await OneAsync<long>("SELECT count(*) FROM awaited WHERE package_id = $1", package));
        }
    }

    [Fact]
    public async Task ARequestRepeatedWithItsKeyIsCarriedOutOnce()
    {
        var (author, checker) = (await office.AsAsync("author"), await office.AsAsync("checker"));
        var package = await office.SendAsync(author, await Office.RegisterAsync(author, "twice"));
        var body = await checker.SignOffAsync(package, "check");
        var answers = await Task.WhenAll(Enumerable.Range(0, 6).Select(_ => checker.PostAsync<JsonElement>($"/api/packages/{package}/sign-offs", body)));
        Assert.Single(answers.Select(a => a.GetProperty("signOff").GetGuid()).Distinct());
        Assert.Equal(1, await OneAsync<long>("SELECT count(*) FROM sign_off WHERE package_id = $1", package));

        var document = await Office.RegisterAsync(author, "sent twice");
        var wanted = new { key = Guid.NewGuid(), title = "Once", coveringNote = "", plan = office.Plan, documents = new[] { document }, inform = Array.Empty<Guid>() };
        var sent = await Task.WhenAll(Enumerable.Range(0, 4).Select(_ => author.PostAsync<JsonElement>("/api/packages", wanted)));
        Assert.Single(sent.Select(s => s.GetProperty("id").GetGuid()).Distinct());
    }

    [Fact]
    public async Task OnlyTheRightPersonWithTheRightPasswordSigns()
    {
        var (author, checker, lead) = (await office.AsAsync("author"), await office.AsAsync("checker"), await office.AsAsync("lead"));
        var package = await office.SendAsync(author, await Office.RegisterAsync(author, "rights"));
        Assert.Equal((422, "wrong-password"), await checker.RefusedAsync("/api/session/confirm", new { password = "not it" }));
        Assert.Equal((409, "not-your-seat"), await lead.RefusedAsync($"/api/packages/{package}/sign-offs", await lead.SignOffAsync(package, "check")));
        // A grant is its person's own.
        var others = await lead.SignOffAsync(package, "check");
        Assert.Equal((422, "confirm-again"), await checker.RefusedAsync($"/api/packages/{package}/sign-offs", others));
        Assert.Equal((409, "not-reviewing"), await lead.RefusedAsync($"/api/packages/{package}/notes", await NoteBody(lead, package, "request")));
        Assert.Equal((403, "not-allowed"), await checker.RefusedAsync("/api/documents", new { number = "X", title = "X", kind = "drawing", discipline = "x", upload = Guid.NewGuid(), reason = "" }));
        checker.ForgetToken();
        Assert.Equal((400, "stale-page"), await checker.RefusedAsync("/api/session/confirm", new { password = Office.Password }));
    }

    private static async Task<object> NoteBody(Browser who, Guid package, string kind) => new
    {
        draft = (await who.GetAsync<JsonElement>($"/api/packages/{package}")).GetProperty("items")[0].GetProperty("draft").GetGuid(),
        kind,
        body = "words",
        marks = new[] { Drawn.Arrow() },
    };

    [Fact]
    public async Task AGuestSeesNothingThatIsNotTheirs()
    {
        var (author, guest) = (await office.AsAsync("author"), await office.AsAsync("guest"));
        var document = await Office.RegisterAsync(author, "secret");
        var package = await office.SendAsync(author, document);
        var draft = await OneAsync<Guid>("SELECT id FROM draft WHERE document_id = $1", document);
        foreach (var path in new[] { $"/api/packages/{package}", $"/api/packages/{package}/ledger", $"/api/documents/{document}", $"/api/drafts/{draft}/leaves", $"/api/drafts/{draft}/file", $"/api/drafts/{draft}/leaves/0/geometry" })
            Assert.Equal(HttpStatusCode.NotFound, await guest.StatusAsync(path));
        // Nor can a guest act on what they may not see: it is as though it were not there.
        var note = await (await office.AsAsync("checker")).NoteAsync(package, "request", "Make it longer.");
        Assert.Equal((404, "not-found"), await guest.RefusedAsync($"/api/notes/{note}/acts", new { act = "close", body = "" }));
        Assert.Equal((404, "not-found"), await guest.RefusedAsync($"/api/packages/{package}/notes", new { draft, kind = "remark", body = "x", marks = new[] { Drawn.Arrow() } }));
        Assert.Empty((await guest.GetAsync<JsonElement>("/api/documents")).GetProperty("rows").EnumerateArray());
        await office.Db.RunAsync("INSERT INTO package_informed VALUES ($1, $2)", [package, office.Ids["guest"]]);
        Assert.Equal(HttpStatusCode.OK, await guest.StatusAsync($"/api/packages/{package}"));
        Assert.Equal(HttpStatusCode.OK, await guest.StatusAsync($"/api/drafts/{draft}/file"));
    }

    [Fact]
    public async Task ABadFileIsToldClearlyAndLeavesNothing()
    {
        var author = await office.AsAsync("author");
        var broken = "0\nSECTION\n2\nENTITIES\n0\nLINE\n10\nabc\n"u8.ToArray();
        var fault = await Assert.ThrowsAsync<InvalidDataException>(() => author.UploadAsync("broken.dxf", broken));
        Assert.StartsWith("Line 8:", fault.Message, StringComparison.Ordinal);
        var other = await author.UploadAsync("sheet.bin", "\u0001\u0002"u8.ToArray());
        Assert.Equal((422, "not-shown"), await author.RefusedAsync("/api/documents", new { number = "T-" + Guid.NewGuid(), title = "no drawing", kind = "drawing", discipline = "test", upload = other, reason = "" }));
        // Other tests register documents meanwhile: what these files would have left is looked for by their names and bytes.
        Assert.Equal(0, await OneAsync<long>("SELECT count(*) FROM draft WHERE file_name IN ('broken.dxf', 'sheet.bin')"));
        Assert.Equal(0, await OneAsync<long>("SELECT count(*) FROM content WHERE sha256 = ANY ($1)", (object)new[] { SHA256.HashData(broken) }));
    }

    [Fact]
    public async Task AFileNobodyRegistersGoesAfterADayAndNothingElseDoes()
    {
        var author = await office.AsAsync("author");
        var kept = await Office.RegisterAsync(author, "registered");
        var upload = await author.UploadAsync("left.dxf", Office.Drawing("left lying"));
        var left = (byte[][])[SHA256.HashData(Office.Drawing("left lying")), SHA256.HashData(Office.Drawing("registered"))];
        // These alone: other tests have drafts altered meanwhile, as nobody may, whose files then seem to be named by nothing.
        await office.Db.RunAsync("UPDATE upload SET at = at - interval '2 days' WHERE sha256 = ANY ($1)", [(object)left]);
        // Sheets of a file being read are not named yet, so the sweep waits while other tests have one read.
        for (var i = 0; i < 1200 && await OneAsync<long>("SELECT count(*) FROM content WHERE sha256 = $1", left[0]) > 0; i++)
        {
            await new Uploads(office.Db).SweepAsync(DateTimeOffset.UtcNow.AddDays(-1));
            await Task.Delay(50);
        }
        Assert.Equal(1, await OneAsync<long>("SELECT count(*) FROM content WHERE sha256 = ANY ($1)", (object)left));
        Assert.Equal((404, "not-found"), await author.RefusedAsync("/api/documents", new { number = "T-" + Guid.NewGuid(), title = "late", kind = "drawing", discipline = "test", upload, reason = "" }));
        var draft = await OneAsync<Guid>("SELECT id FROM draft WHERE document_id = $1", kept);
        Assert.Equal(HttpStatusCode.OK, await author.StatusAsync($"/api/drafts/{draft}/file"));
        Assert.Equal(HttpStatusCode.OK, await author.StatusAsync($"/api/drafts/{draft}/leaves/0/geometry"));
        // The server's role may ask for that, and only that.
        Assert.Equal(PostgresErrorCodes.InsufficientPrivilege, (await Assert.ThrowsAsync<PostgresException>(() => office.Db.RunAsync("DELETE FROM content WHERE sha256 = $1", [left[1]]))).SqlState);
        await office.Db.RunAsync("SELECT discard_content($1)", [(object)left]);
        Assert.Equal(1, await OneAsync<long>("SELECT count(*) FROM content WHERE sha256 = ANY ($1)", (object)left));
    }

    [Fact]
    public async Task SearchingFindsEveryWordInAnyOrderAndTakesSignsAsLetters()
    {
        var author = await office.AsAsync("author");
        var mark = Guid.NewGuid().ToString("N")[..8];
        var upload = await author.UploadAsync("find.dxf", Office.Drawing("find"));
        await author.PostAsync<JsonElement>("/api/documents", new { number = $"F_{mark}-10%", title = "Turnbuckle for the shutter rail", kind = "drawing", discipline = "test", upload, reason = "" });
        async Task<int> Found(string words) => (await author.GetAsync<JsonElement>("/api/documents?search=" + Uri.EscapeDataString(words))).GetProperty("rows").GetArrayLength();
        foreach (var words in new[] { mark, $"rail turnb {mark}", $"  {mark.ToUpperInvariant()}   SHUTTER ", $"{mark}-10%", $"_{mark}", $"{mark} author" }) Assert.Equal((words, 1), (words, await Found(words)));
        foreach (var words in new[] { $"{mark} rails", $"{mark}_10", $"{mark}%10", $"{mark} lead" }) Assert.Equal((words, 0), (words, await Found(words)));
    }

    [Fact]
    public async Task TheServersRoleCannotTouchTheLedgerAndVerifyFindsWhoDid()
    {
        var author = await office.AsAsync("author");
        var document = await Office.RegisterAsync(author, "tampered");
        foreach (var sql in new[] { "UPDATE ledger_entry SET reason = 'x' WHERE chain = $1", "DELETE FROM ledger_entry WHERE chain = $1", "UPDATE sign_off SET remark = 'x' WHERE package_id = $1", "DELETE FROM content_chunk WHERE sha256 = $1::text::bytea" })
            Assert.Equal(PostgresErrorCodes.InsufficientPrivilege, (await Assert.ThrowsAsync<PostgresException>(() => office.Db.RunAsync(sql, [document]))).SqlState);
        await office.OwnerDb.RunAsync("UPDATE ledger_entry SET reason = 'forged' WHERE chain = $1 AND sequence = 2", [document]);
        Assert.Equal($"chain {document}, entry 2: has been altered: its contents do not match its hash", Assert.Single(await office.ProofAsync(document)));
        await office.OwnerDb.RunAsync("UPDATE ledger_entry SET reason = '' WHERE chain = $1 AND sequence = 2", [document]);
    }

    [Fact]
    public async Task ADeadMailServerHoldsUpNoOneAndMailsWait()
    {
        var author = await office.AsAsync("author");
        await office.SendAsync(author, await Office.RegisterAsync(author, "mail"));
        for (var i = 0; i < 600; i++)
        {
            if (await OneAsync<long>("SELECT count(*) FROM outbox WHERE sent_at IS NULL AND attempts > 0 AND fault IS NOT NULL AND next_at > now()") > 0) return;
            await Task.Delay(100);
        }
        Assert.Fail("the mail was neither tried nor put off");
    }
}
