using System.Net;
using System.Text;
using System.Text.Json;
using System.Text.RegularExpressions;
using System.Xml.Linq;
using Xunit;

namespace Froe.Server.Tests;

/// <summary>Drafts go out with what lies on them, and what others wrote on them comes back: who may, twice, at once, and what can be proven of it.</summary>
public class ExchangeTests(Office office)
{
    private static Guid Id(JsonElement row) => row.GetProperty("id").GetGuid();

    private async Task<Guid> DraftAsync(Guid document) => (await office.Db.ListAsync("SELECT id FROM draft WHERE document_id = $1 ORDER BY ordinal DESC LIMIT 1", r => r.GetGuid(0), [document]))[0];

    /// <summary>A package of one drawing with a request at a place, and a markup without words.</summary>
    private async Task<(Guid Package, Guid Draft, Guid Note)> MarkedAsync()
    {
        var author = await office.AsAsync("author");
        var document = await Office.RegisterAsync(author, $"out {Guid.NewGuid()}");
        var package = await office.SendAsync(author, document);
        var draft = await DraftAsync(document);
        var checker = await office.AsAsync("checker");
        var note = await checker.PostAsync<JsonElement>($"/api/packages/{package}/notes", new { draft, kind = "request", body = "Bore to Ø 52 H7", marks = new[] { Drawn.Cloud() }, key = Guid.NewGuid() });
        await checker.PostAsync<JsonElement>($"/api/drafts/{draft}/markups", new { changes = new[] { Drawn.Arrow() }, key = Guid.NewGuid() });
        return (package, draft, Id(note));
    }

    private static async Task<XDocument> OutAsync(Browser who, Guid draft) => XDocument.Parse(Encoding.UTF8.GetString(await who.BytesAsync($"/api/drafts/{draft}/marked?as=xfdf")).TrimStart('\uFEFF'));

    private static XElement Answer(XDocument xfdf, string to, string words, string name, string author = "Kai Ohm") => new(
        xfdf.Root!.Name.Namespace + "text", new XAttribute("page", "0"), new XAttribute("rect", "10,10,20,20"), new XAttribute("name", name), new XAttribute("title", author),
        new XAttribute("date", "D:20261126120000Z"), new XAttribute("inreplyto", to), new XElement(xfdf.Root.Name.Namespace + "contents", words));

    private static XElement Annots(XDocument xfdf) => xfdf.Root!.Elements().Single(e => e.Name.LocalName == "annots");

    private static async Task<JsonElement> BringAsync(Browser who, Guid draft, XDocument xfdf, Guid? key = null)
    {
        using var response = await who.SendAsync($"/api/drafts/{draft}/brought?key={key ?? Guid.NewGuid()}", new ByteArrayContent(Encoding.UTF8.GetBytes(xfdf.ToString())));
        var answer = await response.Content.ReadAsStringAsync();
        Assert.True(response.IsSuccessStatusCode, answer);
        return JsonSerializer.Deserialize<JsonElement>(answer);
    }

    private static (int Replies, int Remarks, int Markups, int Already) Counts(JsonElement taken) =>
        (taken.GetProperty("replies").GetInt32(), taken.GetProperty("remarks").GetInt32(), taken.GetProperty("markups").GetInt32(), taken.GetProperty("already").GetInt32());

    private static async Task<List<JsonElement>> NotesAsync(Browser who, Guid package) => [.. (await who.GetAsync<JsonElement>($"/api/packages/{package}")).GetProperty("notes").EnumerateArray()];

    [Fact]
    public async Task ADraftGoesOutAsEveryKindOfFile()
    {
        var (package, draft, _) = await MarkedAsync();
        var lead = await office.AsAsync("lead");
        var pdf = await lead.BytesAsync($"/api/drafts/{draft}/marked?as=pdf");
        Assert.StartsWith("%PDF-", Encoding.Latin1.GetString(pdf), StringComparison.Ordinal);
        Assert.Equal(2, Regex.Count(Encoding.Latin1.GetString(pdf), "/Type /Annot /Subtype /(Square|Line)"));
        Assert.DoesNotContain("/Type /Annot", Encoding.Latin1.GetString(await lead.BytesAsync($"/api/drafts/{draft}/marked?as=flatPdf")), StringComparison.Ordinal);
        Assert.Equal([137, 80, 78, 71], (await lead.BytesAsync($"/api/drafts/{draft}/marked?as=png&leaf=0"))[..4]);
        Assert.Contains("<svg", Encoding.UTF8.GetString(await lead.BytesAsync($"/api/drafts/{draft}/marked?as=SVG")), StringComparison.Ordinal);
        var xfdf = await OutAsync(lead, draft);
        Assert.Equal(["square", "line"], Annots(xfdf).Elements().Select(e => e.Name.LocalName));
        Assert.Equal("Bore to Ø 52 H7", Annots(xfdf).Elements().First().Value);
        // An overlay that is left out stays here.
        var overlay = Id((await lead.GetAsync<JsonElement>($"/api/drafts/{draft}/overlays")).GetProperty("overlays")[0]);
        Assert.Empty(Annots(XDocument.Parse(Encoding.UTF8.GetString(await lead.BytesAsync($"/api/drafts/{draft}/marked?as=xfdf&without={overlay}")).TrimStart('\uFEFF'))).Elements());
        Assert.Contains("Bore to Ø 52 H7", Encoding.UTF8.GetString(await lead.BytesAsync($"/api/packages/{package}/notes.csv?zone=Europe/Vienna")), StringComparison.Ordinal);
        Assert.StartsWith("%PDF-", Encoding.Latin1.GetString(await lead.BytesAsync($"/api/packages/{package}/review-sheet?zone=Europe/Vienna")), StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.UnprocessableEntity, await lead.StatusAsync($"/api/packages/{package}/review-sheet?zone=Nowhere"));
        Assert.Equal("PK"u8.ToArray(), (await lead.BytesAsync($"/api/packages/{package}/notes.xlsx"))[..2]);
        Assert.Equal(HttpStatusCode.UnprocessableEntity, await lead.StatusAsync($"/api/drafts/{draft}/marked?as=doc"));
        Assert.Equal(HttpStatusCode.UnprocessableEntity, await lead.StatusAsync($"/api/drafts/{draft}/marked?as=1"));
        Assert.Equal(HttpStatusCode.NotFound, await lead.StatusAsync($"/api/drafts/{draft}/marked?as=png&leaf=7"));
        Assert.Equal(HttpStatusCode.NotFound, await lead.StatusAsync($"/api/drafts/{Guid.NewGuid()}/marked?as=pdf"));
    }

    [Fact]
    public async Task WhatIsAnsweredOutsideStandsUnderItsNoteOnceHoweverOftenItComes()
    {
        var (package, draft, note) = await MarkedAsync();
        var checker = await office.AsAsync("checker");
        var xfdf = await OutAsync(checker, draft);
        var cloud = Annots(xfdf).Elements().First().Attribute("name")!.Value;
        var space = xfdf.Root!.Name.Namespace;
        Annots(xfdf).Add(
            Answer(xfdf, cloud, "Only with new bolts – Ø ✓", "k-1"), Answer(xfdf, "k-1", "Agreed", "k-2", "Ida Moe"),
            new XElement(space + "square", new XAttribute("page", "0"), new XAttribute("rect", "30,20,60,40"), new XAttribute("name", "k-3"), new XAttribute("title", "Kai Ohm"), new XElement(space + "contents", "Sharp edge")),
            new XElement(space + "circle", new XAttribute("page", "0"), new XAttribute("rect", "30,50,60,60"), new XAttribute("name", "k-4"), new XAttribute("title", "Kai Ohm")));
        var key = Guid.NewGuid();
        var taken = await BringAsync(checker, draft, xfdf, key);
        Assert.Equal((2, 1, 2, 2), Counts(taken));
        // The answer was lost on its way, and then the same file is brought in once more by somebody else.
        Assert.Equal(taken.ToString(), (await BringAsync(checker, draft, xfdf, key)).ToString());
        Assert.Equal((0, 0, 0, 6), Counts(await BringAsync(await office.AsAsync("author"), draft, xfdf)));
        var notes = await NotesAsync(checker, package);
        var request = Assert.Single(notes, n => Id(n) == note);
        Assert.Equal(
            ["Kai Ohm, from outside, 26 November 2026: Only with new bolts – Ø ✓", "Ida Moe, from outside, 26 November 2026: Agreed"],
            request.GetProperty("acts").EnumerateArray().Select(a => a.GetProperty("body").GetString()));
        var remark = Assert.Single(notes, n => Id(n) != note);
        Assert.Equal(("remark", "Kai Ohm, from outside: Sharp edge", 1), (remark.GetProperty("kind").GetString(), remark.GetProperty("body").GetString(), remark.GetProperty("marks").GetArrayLength()));
        Assert.Contains((await checker.GetAsync<JsonElement>($"/api/drafts/{draft}/overlays")).GetProperty("overlays").EnumerateArray(), o => o.GetProperty("name").GetString() == "From Kai Ohm" && o.GetProperty("markups").GetArrayLength() == 2);
        // Sent out again it is Froe's own, and brings nothing.
        Assert.Equal((0, 0, 0), Counts(await BringAsync(checker, draft, await OutAsync(checker, draft))) is var (r, m, d, _) ? (r, m, d) : default);
        Assert.Empty(await office.ProofAsync(package));
    }

    [Fact]
    public async Task TwoWhoBringTheSameFileAtOnceBringItOnce()
    {
        var (package, draft, note) = await MarkedAsync();
        var (checker, author) = (await office.AsAsync("checker"), await office.AsAsync("author"));
        var xfdf = await OutAsync(checker, draft);
        Annots(xfdf).Add(Answer(xfdf, Annots(xfdf).Elements().First().Attribute("name")!.Value, "Once", "k-1"));
        var both = await Task.WhenAll(BringAsync(checker, draft, xfdf), BringAsync(author, draft, xfdf));
        Assert.Equal(1, both.Sum(t => Counts(t).Replies));
        Assert.Single(Assert.Single(await NotesAsync(checker, package), n => Id(n) == note).GetProperty("acts").EnumerateArray());
        Assert.Empty(await office.ProofAsync(package));
    }

    [Fact]
    public async Task OnlyWhoHasAPartBringsFilesInAndOnlySoundOnes()
    {
        var (package, draft, _) = await MarkedAsync();
        var xfdf = await OutAsync(await office.AsAsync("checker"), draft);
        async Task<(HttpStatusCode, string?)> Refused(Browser who, Guid of, byte[] file)
        {
            using var response = await who.SendAsync($"/api/drafts/{of}/brought", new ByteArrayContent(file));
            return (response.StatusCode, JsonSerializer.Deserialize<JsonElement>(await response.Content.ReadAsStringAsync()).GetProperty("code").GetString());
        }
        var sound = Encoding.UTF8.GetBytes(xfdf.ToString());
        var somebody = await office.AsAsync((await office.SomebodyAsync()).Login);
        var stranger = await Refused(somebody, draft, sound);
        Assert.Contains(stranger, new (HttpStatusCode, string?)[] { (HttpStatusCode.NotFound, "not-found"), (HttpStatusCode.Conflict, "no-part") });
        var checker = await office.AsAsync("checker");
        Assert.Equal((HttpStatusCode.UnprocessableEntity, "unreadable-file"), await Refused(checker, draft, "neither"u8.ToArray()));
        Assert.Equal((HttpStatusCode.UnprocessableEntity, "unreadable-file"), await Refused(checker, draft, []));
        Assert.Equal((HttpStatusCode.UnprocessableEntity, "unreadable-file"), await Refused(checker, draft, Encoding.UTF8.GetBytes("<!DOCTYPE a [<!ENTITY b SYSTEM \"file:///etc/passwd\">]><xfdf>&b;</xfdf>")));
        // Of a draft that was not sent there is no package for the notes.
        var author = await office.AsAsync("author");
        var unsent = await DraftAsync(await Office.RegisterAsync(author, $"unsent {Guid.NewGuid()}"));
        Assert.Equal((HttpStatusCode.Conflict, "not-sent"), await Refused(author, unsent, sound));
        Assert.Single(await NotesAsync(checker, package));
        // Nor does whoever may not see the package get it as a file.
        foreach (var file in new[] { "review-sheet", "notes.csv", "notes.xlsx" })
            Assert.Equal(await somebody.StatusAsync($"/api/packages/{package}") == HttpStatusCode.OK ? HttpStatusCode.OK : HttpStatusCode.NotFound, await somebody.StatusAsync($"/api/packages/{package}/{file}"));
        Assert.Equal(stranger.Item1 == HttpStatusCode.NotFound ? HttpStatusCode.NotFound : HttpStatusCode.OK, await somebody.StatusAsync($"/api/drafts/{draft}/marked?as=pdf"));
        Assert.False((await somebody.StatusAsync($"/api/packages/{package}")) == HttpStatusCode.OK && (await somebody.GetAsync<JsonElement>($"/api/packages/{package}")).GetProperty("may").GetProperty("bringIn").GetBoolean());
        Assert.True((await checker.GetAsync<JsonElement>($"/api/packages/{package}")).GetProperty("may").GetProperty("bringIn").GetBoolean());
    }

    [Fact]
    public async Task WhatAnswersANoteThatIsWithdrawnIsKeptAsARemark()
    {
        var (package, draft, note) = await MarkedAsync();
        var checker = await office.AsAsync("checker");
        var xfdf = await OutAsync(checker, draft);
        Annots(xfdf).Add(Answer(xfdf, Annots(xfdf).Elements().First().Attribute("name")!.Value, "Too late", "k-1"));
        await checker.PostAsync<JsonElement>($"/api/notes/{note}/acts", new { act = "withdraw", body = "", key = Guid.NewGuid() });
        // The note's own markup went with it; what it said is no answer to anything any more, either.
        var taken = await BringAsync(checker, draft, xfdf);
        Assert.Equal((0, 1, 0, 2), Counts(taken));
        Assert.Contains(await NotesAsync(checker, package), n => n.GetProperty("body").GetString() == "Kai Ohm, from outside, 26 November 2026: Too late");
        Assert.Empty(await office.ProofAsync(package));
    }
}
