using System.Net;
using System.Text;
using System.Text.Json;
using Froe.Server.Register;
using Microsoft.Extensions.DependencyInjection;
using SkiaSharp;
using Xunit;

namespace Froe.Server.Tests;

/// <summary>Pages and pictures through the interface between programs: what they are, what is asked of them, and what is found on them by whom.</summary>
public class SheetTests(Office office)
{
    /// <summary>A document of a page for each line, whose cross-references have to be found again.</summary>
    private static byte[] Pdf(params string[] lines) => Encoding.Latin1.GetBytes(
        "%PDF-1.7\n1 0 obj\n<< /Type /Catalog /Pages 2 0 R >>\nendobj\n"
        + $"2 0 obj\n<< /Type /Pages /Kids [{string.Join(' ', lines.Select((_, i) => $"{4 + (2 * i)} 0 R"))}] /Count {lines.Length} >>\nendobj\n"
        + "3 0 obj\n<< /Type /Font /Subtype /Type1 /BaseFont /Helvetica >>\nendobj\n"
        + string.Concat(lines.Select((l, i) => Page(4 + (2 * i), l))) + $"trailer\n<< /Root 1 0 R /Size {4 + (2 * lines.Length)} >>\n%%EOF\n");

    private static string Page(int number, string words)
    {
        var content = $"BT /F 12 Tf 20 40 Td ({words}) Tj ET 10 10 m 180 10 l S";
        return $"{number} 0 obj\n<< /Type /Page /Parent 2 0 R /MediaBox [0 0 200 100] /Contents {number + 1} 0 R /Resources << /Font << /F 3 0 R >> >> /Annots [<< /Type /Annot /Subtype /Square /Rect [1 1 9 9] /T (Ada) /Contents (Too thin) >>] >>\nendobj\n"
            + $"{number + 1} 0 obj\n<< /Length {content.Length} >>\nstream\n{content}\nendstream\nendobj\n";
    }

    private static async Task<(Guid Document, Guid Draft)> RegisterAsync(Browser author, string name, byte[] file)
    {
        var upload = await author.UploadAsync(name, file);
        var made = await author.PostAsync<JsonElement>("/api/documents", new { number = "S-" + Guid.NewGuid(), title = name, kind = "drawing", discipline = "test", upload, reason = "" });
        return (made.GetProperty("document").GetGuid(), made.GetProperty("draft").GetGuid());
    }

    private async Task GatherAsync(params Guid[] drafts)
    {
        var words = office.Services.GetRequiredService<WordIndex>();
        while ((await office.Db.ListAsync("SELECT 1 FROM draft WHERE id = ANY ($1) AND words_version < prepared", r => 0, [drafts])).Count > 0) await words.RunAsync(TestContext.Current.CancellationToken);
    }

    [Fact]
    public async Task APageIsASheetWithItsMarksAndItsFile()
    {
        var author = await office.AsAsync("author");
        var (_, draft) = await RegisterAsync(author, "two pages.pdf", Pdf("Pump house", "Valve " + Guid.NewGuid()));
        var leaves = (await author.GetAsync<JsonElement>($"/api/drafts/{draft}/leaves")).EnumerateArray().ToList();
        Assert.Equal(["Sheet 1", "Sheet 2"], leaves.Select(l => l.GetProperty("name").GetString()));
        Assert.Equal(("page", "millimetre"), (leaves[0].GetProperty("frame").GetProperty("surface").GetString(), leaves[0].GetProperty("frame").GetProperty("unit").GetString()));
        var page = await author.GetAsync<JsonElement>($"/api/drafts/{draft}/leaves/1/page");
        Assert.Equal((1, "Ada", "box"), (page.GetProperty("page").GetInt32(), page.GetProperty("marks")[0].GetProperty("author").GetString(), page.GetProperty("marks")[0].GetProperty("kind").GetString()));
        foreach (var form in (string[])["geometry", "details", "text", "picture", "small"]) Assert.Equal(HttpStatusCode.OK, await author.StatusAsync($"/api/drafts/{draft}/leaves/1/{form}"));
        Assert.Equal(HttpStatusCode.NotFound, await author.StatusAsync($"/api/drafts/{draft}/leaves/2/page"));
        Assert.Equal(HttpStatusCode.NotFound, await author.StatusAsync($"/api/drafts/{draft}/leaves/0/tiles"));
        Assert.Equal(HttpStatusCode.NotFound, await (await office.AsAsync("guest")).StatusAsync($"/api/drafts/{draft}/leaves/1/page"));
    }

    [Fact]
    public async Task APictureIsServedTileByTileToWhoMaySeeIt()
    {
        var author = await office.AsAsync("author");
        using var bitmap = new SKBitmap(1200, 700);
        bitmap.Erase(new SKColor(10, 200, 30));
        bitmap.SetPixel((int)(Random.Shared.NextDouble() * 1000), 3, SKColors.Red);
        using var jpeg = bitmap.Encode(SKEncodedImageFormat.Jpeg, 90);
        var (_, draft) = await RegisterAsync(author, "wall.jpg", jpeg.ToArray());
        var pyramid = await author.GetAsync<JsonElement>($"/api/drafts/{draft}/leaves/0/tiles");
        Assert.Equal((1200, 3), (pyramid.GetProperty("width").GetInt32(), pyramid.GetProperty("levels").GetArrayLength()));
        Assert.Equal(HttpStatusCode.OK, await author.StatusAsync($"/api/drafts/{draft}/leaves/0/tiles/0/2/1"));
        foreach (var wrong in (string[])["0/3/0", "0/0/2", "3/0/0", "0/-1/0", "99999999999/0/0"]) Assert.Equal(HttpStatusCode.NotFound, await author.StatusAsync($"/api/drafts/{draft}/leaves/0/tiles/{wrong}"));
        Assert.Equal(HttpStatusCode.NotFound, await (await office.AsAsync("guest")).StatusAsync($"/api/drafts/{draft}/leaves/0/tiles/0/0/0"));
    }

    [Fact]
    public async Task AFontThatAFileLeavesOutIsLentToWhoeverIsSignedIn()
    {
        var guest = await office.AsAsync("guest");
        var lent = await guest.SendAsync("/api/page-fonts?face=MS-Gothic&charset=128&weight=400&italic=false", null, HttpMethod.Get);
        Assert.Equal((HttpStatusCode.OK, "NotoSansJP-Regular.otf"), (lent.StatusCode, lent.Headers.GetValues("X-Froe-Font").Single()));
        Assert.Equal("OTTO"u8.ToArray(), (await lent.Content.ReadAsByteArrayAsync(TestContext.Current.CancellationToken))[..4]);
        Assert.Equal(HttpStatusCode.NoContent, await guest.StatusAsync("/api/page-fonts?face=..%2F..%2Fetc%2Fpasswd&charset=0&weight=400&italic=false"));
        Assert.Equal(HttpStatusCode.BadRequest, await guest.StatusAsync("/api/page-fonts?face=Helvetica&charset=much&weight=400&italic=false"));
        Assert.Equal(HttpStatusCode.Unauthorized, await new Browser(office.CreateClient()).StatusAsync("/api/page-fonts?face=Helvetica&charset=0&weight=400&italic=false"));
    }

    [Fact]
    public async Task ATableIsServedBlockByBlockAndANoteStandsAtItsCells()
    {
        var author = await office.AsAsync("author");
        var word = "bracket" + Guid.NewGuid().ToString("N");
        var rows = "number,title,mass\n" + string.Concat(Enumerable.Range(1, 450).Select(i => $"{i},{(i == 433 ? word : "plate")},{i}.5\n"));
        var (document, draft) = await RegisterAsync(author, "parts.csv", Encoding.UTF8.GetBytes(rows));
        var frame = (await author.GetAsync<JsonElement>($"/api/drafts/{draft}/leaves"))[0].GetProperty("frame");
        Assert.Equal(("table", 451, 3), (frame.GetProperty("kind").GetString(), frame.GetProperty("rows").GetInt32(), frame.GetProperty("columns").GetInt32()));
        var facts = await author.GetAsync<JsonElement>($"/api/drafts/{draft}/leaves/0/cells");
        Assert.Equal((451, 200, 1), (facts.GetProperty("rows").GetInt32(), facts.GetProperty("rowsInBlock").GetInt32(), facts.GetProperty("frozenRows").GetInt32()));
        var last = await author.GetAsync<JsonElement>($"/api/drafts/{draft}/leaves/0/cells/2");
        Assert.Equal((400, word), (last.GetProperty("rows")[0].GetProperty("row").GetInt32(), last.GetProperty("rows")[33].GetProperty("cells")[1].GetProperty("text").GetString()));
        foreach (var wrong in (string[])["leaves/0/cells/3", "leaves/0/cells/-1", "leaves/0/page", "leaves/0/tiles", "leaves/0/geometry", "leaves/1/cells"])
            Assert.Equal(HttpStatusCode.NotFound, await author.StatusAsync($"/api/drafts/{draft}/{wrong}"));
        foreach (var form in (string[])["text", "picture", "small"]) Assert.Equal(HttpStatusCode.OK, await author.StatusAsync($"/api/drafts/{draft}/leaves/0/{form}"));
        var guest = await office.AsAsync("guest");
        Assert.Equal(HttpStatusCode.NotFound, await guest.StatusAsync($"/api/drafts/{draft}/leaves/0/cells"));
        Assert.Equal(HttpStatusCode.NotFound, await guest.StatusAsync($"/api/drafts/{draft}/leaves/0/cells/0"));
        var found = await author.GetAsync<JsonElement>($"/api/drafts/{draft}/find?words={word}");
        Assert.Equal(433, found.GetProperty("leaves")[0].GetProperty("places")[0].GetProperty("covers")[0].GetProperty("at").GetProperty("y").GetDouble());

        var package = await office.SendAsync(author, document);
        object Note(object place, object shape) => new { draft, kind = "remark", body = "Too heavy", key = Guid.NewGuid(), marks = new[] { new { id = Guid.NewGuid(), overlay = (Guid?)null, place, shape, version = 0 } } };
        object Cells(int left, int top, int right, int bottom) => new { shape = "cells", from = new { x = left, y = top }, to = new { x = right, y = bottom } };
        var on = new { on = "cells", leaf = 0 };
        Assert.Equal((409, "markup-off-sheet"), await author.RefusedAsync($"/api/packages/{package}/notes", Note(on, Cells(0, 11, 3, 13))));
        Assert.Equal((409, "markup-off-sheet"), await author.RefusedAsync($"/api/packages/{package}/notes", Note(new { on = "sheet", leaf = 0 }, Cells(0, 11, 2, 13))));
        Assert.Equal((409, "markup-off-sheet"), await author.RefusedAsync($"/api/packages/{package}/notes", Note(on, new { shape = "cloud", from = new { x = 0, y = 0 }, to = new { x = 2, y = 2 } })));
        await author.PostAsync<JsonElement>($"/api/packages/{package}/notes", Note(on, Cells(0, 11, 2, 13)));
        var note = (await author.GetAsync<JsonElement>($"/api/packages/{package}")).GetProperty("notes")[0];
        Assert.Equal("rows 12 to 14", note.GetProperty("marks")[0].GetProperty("zone").GetString());
        Assert.Empty(await office.ProofAsync(package, document));
    }

    [Fact]
    public async Task AFileOfAnotherKindTravelsAsASupportingFileOnly()
    {
        var author = await office.AsAsync("author");
        var bytes = Encoding.UTF8.GetBytes("PK" + Guid.NewGuid());
        var upload = await author.UploadAsync("loads.zip", bytes);
        object Document(string kind) => new { number = "S-" + Guid.NewGuid(), title = "Loads", kind, discipline = "test", upload, reason = "" };
        Assert.Equal((422, "not-shown"), await author.RefusedAsync("/api/documents", Document("drawing")));
        var made = await author.PostAsync<JsonElement>("/api/documents", Document("supporting file"));
        var draft = made.GetProperty("draft").GetGuid();
        Assert.Equal(0, (await author.GetAsync<JsonElement>($"/api/drafts/{draft}/leaves")).GetArrayLength());
        Assert.Equal(HttpStatusCode.OK, await author.StatusAsync($"/api/drafts/{draft}/file"));
        var package = await office.SendAsync(author, made.GetProperty("document").GetGuid());
        Assert.Equal("Loads", (await author.GetAsync<JsonElement>($"/api/packages/{package}")).GetProperty("items")[0].GetProperty("title").GetString());
        Assert.Empty(await office.ProofAsync(package, made.GetProperty("document").GetGuid()));
    }

    [Fact]
    public async Task WhatWasReadIsShownToItsOwnerBeforeItIsRegistered()
    {
        var author = await office.AsAsync("author");
        var upload = await author.UploadAsync("a.pdf", Pdf("before " + Guid.NewGuid()));
        Assert.Equal(HttpStatusCode.OK, await author.StatusAsync($"/api/uploads/{upload}/picture"));
        Assert.Equal(HttpStatusCode.NotFound, await (await office.AsAsync("coordinator")).StatusAsync($"/api/uploads/{upload}/picture"));
    }

    [Fact]
    public async Task WordsAreFoundInTheDraftThePackageAndTheRegister()
    {
        var author = await office.AsAsync("author");
        var rare = "Q" + Guid.NewGuid().ToString("n")[..10];
        var (paged, draft) = await RegisterAsync(author, "two pages.pdf", Pdf("Pump house", $"Valve {rare} DN 80"));
        var drawn = await Office.RegisterAsync(author, $"Flange {rare}");
        var other = (await office.Db.ListAsync("SELECT id FROM draft WHERE document_id = $1", r => r.GetGuid(0), [drawn]))[0];

        // At once: nobody waits for what is gathered a moment later, and the second to ask finds the same.
        var asked = await Task.WhenAll(Enumerable.Range(0, 4).Select(_ => author.GetAsync<JsonElement>($"/api/drafts/{draft}/find?words={rare}")));
        Assert.All(asked, found => Assert.Single(found.GetProperty("leaves").EnumerateArray()));
        var inDraft = await author.GetAsync<JsonElement>($"/api/drafts/{draft}/find?words={rare.ToUpperInvariant()}%20dn80");
        var place = Assert.Single(inDraft.GetProperty("leaves").EnumerateArray());
        Assert.Equal(1, place.GetProperty("leaf").GetInt32());
        var covers = place.GetProperty("places")[0].GetProperty("covers")[0];
        Assert.InRange(covers.GetProperty("at").GetProperty("x").GetDouble(), 20 * 25.4 / 72, 90 * 25.4 / 72);

        var package = await office.SendAsync(author, paged, drawn);
        var inPackage = await author.GetAsync<JsonElement>($"/api/packages/{package}/find?words={rare}");
        Assert.Equal([draft, other], inPackage.GetProperty("leaves").EnumerateArray().Select(l => l.GetProperty("draft").GetGuid()));

        var inRegister = (await author.GetAsync<JsonElement>($"/api/find?words={rare}")).GetProperty("rows").EnumerateArray().ToList();
        Assert.Equal(new[] { paged, drawn }.Order(), inRegister.Select(r => r.GetProperty("document").GetGuid()).Order());
        Assert.All(inRegister, r => Assert.Contains(rare, r.GetProperty("lines")[0].GetString(), StringComparison.Ordinal));

        var guest = await office.AsAsync("guest");
        Assert.Empty((await guest.GetAsync<JsonElement>($"/api/find?words={rare}")).GetProperty("rows").EnumerateArray());
        Assert.Equal(HttpStatusCode.NotFound, await guest.StatusAsync($"/api/drafts/{draft}/find?words={rare}"));
        Assert.Equal(HttpStatusCode.NotFound, await guest.StatusAsync($"/api/packages/{package}/find?words={rare}"));
    }

    [Fact]
    public async Task OnlyTheNewestDraftIsFoundInTheRegisterAndItsSheetsOnePageAfterAnother()
    {
        var author = await office.AsAsync("author");
        var rare = "R" + Guid.NewGuid().ToString("n")[..10];
        var (document, first) = await RegisterAsync(author, "a.pdf", Pdf($"{rare} old", $"{rare} old"));
        var upload = await author.UploadAsync("a.pdf", Pdf($"{rare} new", "nothing"));
        await author.PostAsync<JsonElement>($"/api/documents/{document}/drafts", new { upload, reason = "again" });
        var drafts = await office.Db.ListAsync("SELECT id FROM draft WHERE document_id = $1 ORDER BY ordinal", r => r.GetGuid(0), [document]);
        await GatherAsync([.. drafts]);
        var row = Assert.Single((await author.GetAsync<JsonElement>($"/api/find?words={rare}")).GetProperty("rows").EnumerateArray());
        Assert.Equal((drafts[1], 0), (row.GetProperty("draft").GetGuid(), row.GetProperty("leaf").GetInt32()));
        Assert.NotEqual(first, drafts[1]);

        var same = "P" + Guid.NewGuid().ToString("n")[..10];
        var several = new List<Guid>();
        for (var i = 0; i < 3; i++) several.Add((await RegisterAsync(author, $"{i}.pdf", Pdf([.. Enumerable.Range(0, 15).Select(n => $"{same} {i} {n}")]))).Draft);
        await GatherAsync([.. several]);
        var pages = new List<JsonElement>();
        for (string? after = ""; after is not null;)
        {
            var page = await author.GetAsync<JsonElement>($"/api/find?words={same}&after={Uri.EscapeDataString(after)}");
            pages.AddRange(page.GetProperty("rows").EnumerateArray());
            after = page.GetProperty("next").GetString();
        }
        Assert.Equal(45, pages.Select(p => (p.GetProperty("draft").GetGuid(), p.GetProperty("leaf").GetInt32())).Distinct().Count());
        Assert.Equal(45, pages.Count);
    }

    [Fact]
    public async Task AWordOfTwoSignsIsFoundInTheRegisterAndNotTurnedRoundOrAcrossLines()
    {
        var author = await office.AsAsync("author");
        string Sign() => char.ConvertFromUtf32(Random.Shared.Next(0x4E00, 0x9FFF));
        var (first, second, third) = (Sign(), Sign(), Sign());
        var (document, draft) = await RegisterAsync(author, "notes.md", Encoding.UTF8.GetBytes($"{first}{second}図\n\n{third}\n"));
        await GatherAsync([draft]);
        async Task<IEnumerable<Guid>> FoundAsync(string words) =>
            (await author.GetAsync<JsonElement>($"/api/find?words={Uri.EscapeDataString(words)}")).GetProperty("rows").EnumerateArray().Select(r => r.GetProperty("document").GetGuid());
        foreach (var words in (string[])[first + second, $"{first} {second}", second + "図", first + second + "図"]) Assert.Contains(document, await FoundAsync(words));
        foreach (var words in (string[])[second + first, "図" + third]) Assert.DoesNotContain(document, await FoundAsync(words));
        Assert.Equal(422, (int)await author.StatusAsync($"/api/find?words={Uri.EscapeDataString(first)}"));
    }

    [Theory]
    [InlineData("ab", 422)]
    [InlineData("%25%25%25", 200)]
    [InlineData("___", 200)]
    [InlineData("a%5Cb", 200)]
    public async Task SignsOfPatternsAreLettersAndShortWordsAreRefused(string words, int status)
    {
        var author = await office.AsAsync("author");
        Assert.Equal(status, (int)await author.StatusAsync($"/api/find?words={words}"));
        if (status == 200) Assert.Empty((await author.GetAsync<JsonElement>($"/api/find?words={words}")).GetProperty("rows").EnumerateArray());
    }

    [Fact]
    public async Task ALeafLeadsToTheDocumentsItNamesThatWhoeverAsksMaySee()
    {
        var author = await office.AsAsync("author");
        var mark = Guid.NewGuid().ToString("n")[..8].ToUpperInvariant();
        async Task<(Guid Document, Guid Draft)> NumberedAsync(string number, byte[] file)
        {
            var upload = await author.UploadAsync(number + ".pdf", file);
            var made = await author.PostAsync<JsonElement>("/api/documents", new { number, title = "Of " + number, kind = "drawing", discipline = "test", upload, reason = "" });
            return (made.GetProperty("document").GetGuid(), made.GetProperty("draft").GetGuid());
        }

        var (part, first) = await NumberedAsync($"{mark}-1", Pdf("Part"));
        var (_, draft) = await NumberedAsync($"{mark}-2", Pdf($"{mark}-2: see {mark}-1 and {mark}-11", "Nothing"));
        await GatherAsync(draft);
        var named = Assert.Single((await author.GetAsync<JsonElement>($"/api/drafts/{draft}/leaves/0/named")).EnumerateArray());
        Assert.Equal((part, first, $"{mark}-1", "A.1"), (named.GetProperty("name").GetProperty("document").GetGuid(), named.GetProperty("name").GetProperty("draft").GetGuid(), named.GetProperty("name").GetProperty("number").GetString(), named.GetProperty("name").GetProperty("label").GetString()));
        // It stands behind “…-2: see ”, right of where the line begins (20 points).
        Assert.True(Assert.Single(named.GetProperty("places").EnumerateArray()).GetProperty("at").GetProperty("x").GetDouble() > 20 * 25.4 / 72 * 2);
        Assert.Empty((await author.GetAsync<JsonElement>($"/api/drafts/{draft}/leaves/1/named")).EnumerateArray());
        Assert.Equal($"{mark}-2", (await author.GetAsync<JsonElement>($"/api/drafts/{draft}")).GetProperty("number").GetString());

        // The newest draft is led to.
        var upload = await author.UploadAsync("next.pdf", Pdf("Part, longer"));
        var next = await author.PostAsync<JsonElement>($"/api/documents/{part}/drafts", new { upload, reason = "longer" });
        named = Assert.Single((await author.GetAsync<JsonElement>($"/api/drafts/{draft}/leaves/0/named")).EnumerateArray());
        Assert.Equal(next.GetProperty("draft").GetGuid(), named.GetProperty("name").GetProperty("draft").GetGuid());

        // A guest learns of neither, nor, in a package with the one, of the other.
        var guest = await office.AsAsync("guest");
        foreach (var path in (string[])[$"/api/drafts/{draft}", $"/api/drafts/{draft}/leaves/0/named", $"/api/drafts/{first}"]) Assert.Equal(HttpStatusCode.NotFound, await guest.StatusAsync(path));
        await office.OwnerDb.RunAsync("INSERT INTO revision_use (person_id, revision_id, at) SELECT $1, revision_id, now() FROM draft WHERE id = $2", [office.Ids["guest"], draft]);
        Assert.Equal(HttpStatusCode.OK, await guest.StatusAsync($"/api/drafts/{draft}"));
        Assert.Empty((await guest.GetAsync<JsonElement>($"/api/drafts/{draft}/leaves/0/named")).EnumerateArray());
    }
}
