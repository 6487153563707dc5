using System.Text;
using System.Text.Json;
using Xunit;

namespace Froe.Server.Tests;

/// <summary>Many files registered in one act.</summary>
public class ArrivalTests(Office office)
{
    private static byte[] Text(string words) => Encoding.UTF8.GetBytes($"{words} {Guid.NewGuid()}\n");

    [Fact]
    public async Task ANewDocumentIsSortedLikeThoseNextToIt()
    {
        var author = await office.AsAsync("author");
        var series = "NX" + Guid.NewGuid().ToString("N")[..6].Replace('0', 'a') + "x-";
        foreach (var last in new[] { "1101", "1105" })
            await author.PostAsync<JsonElement>("/api/documents", new { number = series + last, title = "Bracket", kind = "drawing", discipline = "Optics", upload = await author.UploadAsync("a.txt", Text(last)), reason = "" });
        async Task<JsonElement> MatchAsync(Browser who, string name) => (await who.PostAsync<JsonElement>("/api/uploads/matches", new { files = new[] { new { name } } }))[0];
        var match = await MatchAsync(author, series + "1103_Cover.txt");
        Assert.Equal(("drawing", "Optics"), (match.GetProperty("kind").GetString(), match.GetProperty("discipline").GetString()));
        // Of another series nothing is told, nor to whoever may not see its documents, nor of one that is registered.
        Assert.Equal(JsonValueKind.Null, (await MatchAsync(author, series + "1203.txt")).GetProperty("discipline").ValueKind);
        Assert.Equal(JsonValueKind.Null, (await MatchAsync(await office.AsAsync("guest"), series + "1103.txt")).GetProperty("discipline").ValueKind);
        Assert.Equal(JsonValueKind.Null, (await MatchAsync(author, series + "1101.txt")).GetProperty("discipline").ValueKind);
    }

    [Fact]
    public async Task FilesAreMatchedByTheirNamesAndRegisteredAllOrNone()
    {
        var author = await office.AsAsync("author");
        var number = "AR-" + Guid.NewGuid().ToString("N")[..8];
        var first = await author.PostAsync<JsonElement>("/api/documents", new { number, title = "Bracket", kind = "drawing", discipline = "test", upload = await author.UploadAsync("a.txt", Text("one")), reason = "" });
        var document = first.GetProperty("document").GetGuid();
        var matches = await author.PostAsync<JsonElement>("/api/uploads/matches", new { files = new[] { new { name = $"{number}_A2.txt" }, new { name = $"{number}-7 Cover plate.txt" }, new { name = "notes.txt" } } });
        Assert.Equal([(number, "Bracket", "A.2"), (number, "Bracket", "A.2"), ("", "notes", "")], matches.EnumerateArray().Select(m => (m.GetProperty("number").GetString()!, m.GetProperty("title").GetString()!, m.GetProperty("draft").GetString()!)));
        // Systems that write names small mean the same document; and it is registered once.
        var small = (await author.PostAsync<JsonElement>("/api/uploads/matches", new { files = new[] { new { name = $"{number.ToLowerInvariant()}_a2.txt" } } }))[0];
        Assert.Equal((document, number), (small.GetProperty("document").GetGuid(), small.GetProperty("number").GetString()));
        // To whoever may not see a document, its number is one like any other.
        var guest = await office.AsAsync("guest");
        Assert.Equal(JsonValueKind.Null, (await guest.PostAsync<JsonElement>("/api/uploads/matches", new { files = new[] { new { name = $"{number}_A2.txt" } } }))[0].GetProperty("document").ValueKind);

        var (second, third) = (await author.UploadAsync("b.txt", Text("two")), await author.UploadAsync("c.txt", Text("three")));
        object Row(Guid upload, Guid? of, string no) => new { upload, document = of, number = no, title = "Cover plate", kind = "drawing", discipline = "test" };
        object Together(params object[] rows) => new { rows, reason = "Together" };
        // One fault, and nothing is done: neither the draft, nor the good new document.
        var faults = await author.PostAsync<JsonElement>("/api/documents/together", Together(Row(second, document, ""), Row(third, null, number)));
        Assert.Equal(0, faults.GetProperty("registered").GetArrayLength());
        Assert.Equal(1, faults.GetProperty("faults")[0].GetProperty("row").GetInt32());
        Assert.Contains("registered already", faults.GetProperty("faults")[0].GetProperty("words").GetString(), StringComparison.Ordinal);
        foreach (var wrong in new[]
        {
            Together(Row(second, document, ""), Row(second, null, number + "-8")), Together(Row(second, document, ""), Row(third, document, "")),
            Together(Row(second, null, number + "-8"), Row(third, null, number + "-8")), Together(Row(second, null, number + "-8a"), Row(third, null, number + "-8A")),
            Together(Row(second, document, ""), Row(third, null, number.ToLowerInvariant())), Together(Row(second, document, ""), Row(third, null, " ")),
            Together(Row(second, document, ""), Row(Guid.NewGuid(), null, number + "-8")),
        })
            Assert.Equal(1, (await author.PostAsync<JsonElement>("/api/documents/together", wrong)).GetProperty("faults").GetArrayLength());
        Assert.Equal(1, (await author.GetAsync<JsonElement>($"/api/documents/{document}")).GetProperty("drafts").GetArrayLength());

        var done = await author.PostAsync<JsonElement>("/api/documents/together", Together(Row(second, document, ""), Row(third, null, number + "-7")));
        Assert.Equal([("A", 2), ("A", 1)], done.GetProperty("registered").EnumerateArray().Select(r => (r.GetProperty("revision").GetString()!, r.GetProperty("ordinal").GetInt32())));
        Assert.Equal(2, (await author.GetAsync<JsonElement>($"/api/documents/{document}")).GetProperty("drafts").GetArrayLength());
        // The same act again finds its files used.
        Assert.Equal(2, (await author.PostAsync<JsonElement>("/api/documents/together", Together(Row(second, document, ""), Row(third, null, number + "-7")))).GetProperty("faults").GetArrayLength());
        Assert.Empty(await office.ProofAsync(document, done.GetProperty("registered")[1].GetProperty("document").GetGuid()));
        Assert.Equal((422, "too-many"), await author.RefusedAsync("/api/documents/together", new { rows = Array.Empty<object>(), reason = "" }));
        var again = new { number = number.ToLowerInvariant(), title = "Bracket", kind = "drawing", discipline = "test", upload = await author.UploadAsync("d.txt", Text("four")), reason = "" };
        Assert.Equal((409, "number-taken"), await author.RefusedAsync("/api/documents", again));
        Assert.Equal((400, "unreadable"), await author.RefusedAsync("/api/documents/together", new { rows = new object?[] { null }, reason = "" }));
        Assert.Equal((400, "unreadable"), await author.RefusedAsync("/api/uploads/matches", new { files = new object?[] { null } }));
    }

    /// <summary>A drawing with a title block in its corner.</summary>
    private static byte[] Drawing(string number, string title, string revision)
    {
        var texts = new (string Words, int X, int Y, double High)[]
        {
            ("Title", 600, 60, 2), (title, 600, 54, 3.5), ("Drawing no.", 600, 44, 2), (number, 600, 36, 5), ("Rev.", 760, 44, 2), (revision, 760, 36, 5), ("PLAN", 100, 500, 5), (Guid.NewGuid().ToString(), 10, 580, 1),
        };
        return Encoding.ASCII.GetBytes("0\nSECTION\n2\nENTITIES\n" + string.Concat(texts.Select(t => FormattableString.Invariant($"0\nTEXT\n8\n0\n10\n{t.X}\n20\n{t.Y}\n40\n{t.High}\n1\n{t.Words}\n"))) + "0\nENDSEC\n0\nEOF\n");
    }

    [Fact]
    public async Task FilesAreMatchedByTheirTitleBlocksOnceTheyAreRead()
    {
        var author = await office.AsAsync("author");
        var number = "TB-" + Guid.NewGuid().ToString("N")[..8];
        async Task<JsonElement> MatchAsync(Browser who, object file) => (await who.PostAsync<JsonElement>("/api/uploads/matches", new { files = new[] { file } }))[0];
        var first = await author.UploadAsync("scan0001.dxf", Drawing(number, "Pier cap", "A"));
        // It is new: what the block says is filled in, and shown before it is registered.
        var match = await MatchAsync(author, new { name = "scan0001.dxf", upload = first });
        Assert.Equal((number, "Pier cap"), (match.GetProperty("number").GetString(), match.GetProperty("title").GetString()));
        var block = (await author.GetAsync<JsonElement>($"/api/uploads/{first}")).GetProperty("report").GetProperty("titleBlock");
        Assert.Equal(["number " + number, "title Pier cap", "revision A"], block.GetProperty("fields").EnumerateArray().Select(f => $"{f.GetProperty("kind").GetString()} {f.GetProperty("words").GetString()}"));
        Assert.DoesNotContain("PLAN", block.GetProperty("lines").EnumerateArray().Select(l => l.GetString()));

        var document = (await author.PostAsync<JsonElement>("/api/documents", new { number, title = "Pier cap", kind = "drawing", discipline = "test", upload = first, reason = "" })).GetProperty("document").GetGuid();
        var next = await author.UploadAsync("scan0002.dxf", Drawing(number, "Pier cap", "B"));
        match = await MatchAsync(author, new { name = "scan0002.dxf", upload = next });
        Assert.Equal((document, "A.2", "Its title block says revision B."), (match.GetProperty("document").GetGuid(), match.GetProperty("draft").GetString(), match.GetProperty("doubt").GetString()));
        // Somebody chose a document: what the block says of another is told.
        var other = await Office.RegisterAsync(author, "other " + Guid.NewGuid());
        Assert.Equal($"Its title block says {number}.", (await MatchAsync(author, new { name = "scan0002.dxf", upload = next, document = other })).GetProperty("doubt").GetString());
        // To others an upload is nothing but its name.
        Assert.Equal(JsonValueKind.Null, (await MatchAsync(await office.AsAsync("lead"), new { name = "scan0002.dxf", upload = next })).GetProperty("document").ValueKind);
    }

    [Fact]
    public async Task TwoWhoRegisterTheSameDocumentsInOppositeOrderDoNotStandInEachOthersWay()
    {
        var author = await office.AsAsync("author");
        async Task<Guid> DocumentAsync() => (await author.PostAsync<JsonElement>("/api/documents", new { number = "AR-" + Guid.NewGuid(), title = "x", kind = "drawing", discipline = "test", upload = await author.UploadAsync("a.txt", Text("a")), reason = "" })).GetProperty("document").GetGuid();
        var (one, two) = (await DocumentAsync(), await DocumentAsync());
        async Task<object> TogetherAsync(params Guid[] documents)
        {
            var rows = new List<object>();
            foreach (var document in documents) rows.Add(new { upload = await author.UploadAsync("n.txt", Text("n")), document, number = "", title = "", kind = "drawing", discipline = "" });
            return new { rows, reason = "" };
        }
        var acts = new[] { await TogetherAsync(one, two), await TogetherAsync(two, one), await TogetherAsync(one, two), await TogetherAsync(two, one) };
        var done = await Task.WhenAll(acts.Select(a => author.PostAsync<JsonElement>("/api/documents/together", a)));
        Assert.All(done, d => Assert.Equal(2, d.GetProperty("registered").GetArrayLength()));
        foreach (var document in new[] { one, two }) Assert.Equal(5, (await author.GetAsync<JsonElement>($"/api/documents/{document}")).GetProperty("drafts").GetArrayLength());
        Assert.Empty(await office.ProofAsync(one, two));
    }
}
