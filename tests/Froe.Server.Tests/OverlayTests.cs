using System.Text.Json;
using Froe.Core.Routing;
using Xunit;

namespace Froe.Server.Tests;

/// <summary>Overlays as wholes: for oneself alone, shared, put away, and copied to the next draft.</summary>
public class OverlayTests(Office office)
{
    private static Guid Id(JsonElement row) => row.GetProperty("id").GetGuid();

    private async Task<Guid> DraftAsync(Guid document) => (await office.Db.ListAsync("SELECT id FROM draft WHERE document_id = $1 ORDER BY ordinal DESC LIMIT 1", r => r.GetGuid(0), [document]))[0];

    private static async Task<JsonElement> AllAsync(Browser who, Guid draft) => await who.GetAsync<JsonElement>($"/api/drafts/{draft}/overlays");

    private static async Task<List<(string Name, bool IsPrivate, int Markups)>> OverlaysAsync(Browser who, Guid draft) =>
        [.. (await AllAsync(who, draft)).GetProperty("overlays").EnumerateArray().Select(o => (o.GetProperty("name").GetString()!, o.GetProperty("isPrivate").GetBoolean(), o.GetProperty("markups").GetArrayLength()))];

    private static Task<JsonElement> DrawAsync(Browser who, Guid draft, params object[] changes) => who.PostAsync<JsonElement>($"/api/drafts/{draft}/markups", new { changes, key = Guid.NewGuid() });

    /// <summary>A package in a step where two sign at once, and a third afterwards.</summary>
    private async Task<(Guid Package, Guid Document, Guid Draft)> SentAsync(bool apart)
    {
        var author = await office.AsAsync("author");
        var document = await Office.RegisterAsync(author, "overlays " + Guid.NewGuid());
        var plan = Guid.CreateVersion7();
        Step Of(string key, params string[] people) => new(key, key, "", 1, [.. people.Select(p => new Seat(p, p, new PersonHolder(office.Ids[p])))]) { MarksApart = apart };
        await office.AddPlanAsync(plan, new Plan("Overlays " + plan, "", new([Of("both", "checker", "lead")])));
        var package = Id(await author.PostAsync<JsonElement>("/api/packages", new { key = Guid.NewGuid(), title = "Overlays " + plan, coveringNote = "", plan, documents = new[] { document }, inform = Array.Empty<Guid>() }));
        return (package, document, await DraftAsync(document));
    }

    [Fact]
    public async Task WhatIsForOneselfIsSeenByOthersOnceItsOwnerHasSigned()
    {
        var (package, document, draft) = await SentAsync(apart: false);
        var (checker, lead) = (await office.AsAsync("checker"), await office.AsAsync("lead"));
        var mine = Guid.NewGuid();
        await checker.PutAsync<JsonElement>($"/api/drafts/{draft}/overlays/{mine}", new { name = "First look", isPrivate = true });
        await DrawAsync(checker, draft, Drawn.Cloud(overlay: mine), Drawn.Arrow(overlay: mine));
        Assert.Equal([("First look", true, 2)], await OverlaysAsync(checker, draft));
        Assert.Empty(await OverlaysAsync(lead, draft));
        // Nor does it show in a list, nor go out of the house by another's hand.
        async Task<(bool List, bool Item, bool Register, string Out)> SeenAsync(Browser who)
        {
            var view = await who.GetAsync<JsonElement>($"/api/packages/{package}");
            var row = Assert.Single((await who.GetAsync<JsonElement>($"/api/packages?search={view.GetProperty("number").GetString()}")).GetProperty("rows").EnumerateArray());
            var registered = Assert.Single((await who.GetAsync<JsonElement>($"/api/documents?search={view.GetProperty("items")[0].GetProperty("number").GetString()}")).GetProperty("rows").EnumerateArray(), r => Id(r) == document);
            return (row.GetProperty("isMarked").GetBoolean(), view.GetProperty("items")[0].GetProperty("marked").ValueKind != JsonValueKind.Null, registered.GetProperty("markedIn").ValueKind != JsonValueKind.Null,
                System.Text.Encoding.UTF8.GetString(await who.BytesAsync($"/api/drafts/{draft}/marked?as=xfdf")));
        }
        Assert.Equal((false, false, false), await SeenAsync(lead) is var (l, i, r, o) && !o.Contains("First look", StringComparison.Ordinal) ? (l, i, r) : (true, true, true));
        Assert.Contains("<square", (await SeenAsync(checker)).Out, StringComparison.Ordinal);
        Assert.DoesNotContain("<square", (await SeenAsync(lead)).Out, StringComparison.Ordinal);
        Assert.Equal((true, true, true), await SeenAsync(checker) is var mineSeen ? (mineSeen.List, mineSeen.Item, mineSeen.Register) : default);

        // The place of a note is seen with its note, on whichever overlay it lies.
        await checker.PostAsync<JsonElement>($"/api/packages/{package}/notes", new { draft, kind = "remark", body = "Seen at once.", marks = new[] { Drawn.Cloud(overlay: mine, x: 40) } });
        Assert.Equal([("First look", true, 1)], await OverlaysAsync(lead, draft));
        // What the other signs with is what they saw.
        await lead.SignAsync(package, "lead");
        var signed = Assert.Single(await office.Db.ListAsync("SELECT payload FROM ledger_entry WHERE chain = $1 AND person_id = $2", r => r.GetString(0), [package, office.Ids["lead"]]));
        Assert.Contains("sha256", signed, StringComparison.OrdinalIgnoreCase);
        Assert.DoesNotContain(mine.ToString(), signed, StringComparison.Ordinal);

        await checker.SignAsync(package, "checker");
        Assert.Equal([("First look", false, 3)], await OverlaysAsync(lead, draft));
        Assert.Equal((409, "already-signed"), await checker.RefusedAsync($"/api/drafts/{draft}/overlays/{mine}", new { name = "First look", isPrivate = true }, HttpMethod.Put));
        Assert.True((await SeenAsync(lead)).Register);
        Assert.Empty(await office.ProofAsync(package));
    }

    [Fact]
    public async Task WhereAStepAsksForItEverybodyLooksForThemselvesUntilTheySign()
    {
        var (package, _, draft) = await SentAsync(apart: true);
        var (checker, lead, author) = (await office.AsAsync("checker"), await office.AsAsync("lead"), await office.AsAsync("author"));
        await DrawAsync(checker, draft, Drawn.Cloud());
        await DrawAsync(lead, draft, Drawn.Arrow());
        // Whoever signs nothing here may show at once what they draw.
        await DrawAsync(author, draft, Drawn.Arrow());
        Assert.Equal((false, true), ((await AllAsync(checker, draft)).GetProperty("mayShare").GetBoolean(), (await AllAsync(author, draft)).GetProperty("mayShare").GetBoolean()));
        Assert.Equal([("Marks", true, 1), ("Marks", false, 1)], await OverlaysAsync(checker, draft));
        var mine = Id((await AllAsync(checker, draft)).GetProperty("overlays")[0]);
        Assert.Equal((409, "marks-apart"), await checker.RefusedAsync($"/api/drafts/{draft}/overlays/{mine}", new { name = "Marks", isPrivate = false }, HttpMethod.Put));
        // What was shared before the step began is seen, so nothing more is drawn there; a place of a note may be.
        var shared = (await office.Db.ListAsync("INSERT INTO overlay (id, draft_id, owner, name, made_at, version, sha256) VALUES (gen_random_uuid(), $1, $2, 'Seen', now() - interval '1 day', 0, $3) RETURNING id", r => r.GetGuid(0), [draft, office.Ids["lead"], Froe.Core.Overlays.OverlayRules.Digest([])]))[0];
        Assert.Equal((409, "marks-apart"), await lead.RefusedAsync($"/api/drafts/{draft}/markups", new { changes = new[] { Drawn.Cloud(overlay: shared) } }));
        await lead.PostAsync<JsonElement>($"/api/packages/{package}/notes", new { draft, kind = "remark", body = "Seen at once.", marks = new[] { Drawn.Cloud(overlay: shared) } });
        await DrawAsync(lead, draft, Drawn.Cloud());
        Assert.Equal([("Seen", false, 1), ("Marks", true, 2), ("Marks", false, 1)], (await OverlaysAsync(lead, draft)).OrderBy(o => (o.Name == "Seen" ? 0 : 1, !o.IsPrivate)));
        await checker.SignAsync(package, "checker");
        // The one who signed is seen; the other's is still their own.
        Assert.Equal(3, (await OverlaysAsync(author, draft)).Count);
        Assert.Equal(4, (await OverlaysAsync(lead, draft)).Count);
        Assert.Equal([("Seen", false, 1), ("Marks", false, 1), ("Marks", false, 1)], await OverlaysAsync(checker, draft));
    }

    [Fact]
    public async Task AnOverlayOnWhichNothingLiesIsPutAwayAndComesBackWithWhatIsDrawnThere()
    {
        var (_, _, draft) = await SentAsync(apart: false);
        var (checker, lead) = (await office.AsAsync("checker"), await office.AsAsync("lead"));
        var (first, second, mark) = (Guid.NewGuid(), Guid.NewGuid(), Guid.NewGuid());
        string At(Guid overlay) => $"/api/drafts/{draft}/overlays/{overlay}";
        await checker.PutAsync<JsonElement>(At(first), new { name = "Safety" });
        await DrawAsync(checker, draft, Drawn.Cloud(mark, overlay: first));
        Assert.Equal((409, "overlay-not-empty"), await checker.RefusedAsync(At(first), new { }, HttpMethod.Delete));
        Assert.Equal((404, "not-found"), await lead.RefusedAsync(At(first), new { }, HttpMethod.Delete));
        await DrawAsync(checker, draft, Drawn.Erased(mark, 1));
        await checker.DeleteAsync(At(first));
        await checker.DeleteAsync(At(first));
        Assert.Empty(await OverlaysAsync(checker, draft));
        // Its name is free; put back, what was erased brings the first back by another.
        await checker.PutAsync<JsonElement>(At(second), new { name = "Safety" });
        await DrawAsync(checker, draft, Drawn.Cloud(mark, overlay: first, version: 2));
        Assert.Equal([("Safety 2", false, 1), ("Safety", false, 0)], await OverlaysAsync(checker, draft));
        // With all put away, what is drawn makes one anew.
        await DrawAsync(checker, draft, Drawn.Erased(mark, 3));
        foreach (var overlay in new[] { first, second }) await checker.DeleteAsync(At(overlay));
        await DrawAsync(checker, draft, Drawn.Arrow());
        Assert.Equal([("Marks", false, 1)], await OverlaysAsync(checker, draft));
    }

    [Fact]
    public async Task AnOverlayThatIsAskedForTwiceAtOnceIsMadeOnceAndNobodyIsRefused()
    {
        var (_, _, draft) = await SentAsync(apart: false);
        var checker = await office.AsAsync("checker");
        for (var round = 0; round < 6; round++)
        {
            var (id, name) = (Guid.NewGuid(), $"Twice {round}");
            await Task.WhenAll(Enumerable.Range(0, 4).Select(_ => checker.PutAsync<JsonElement>($"/api/drafts/{draft}/overlays/{id}", new { name })));
            Assert.Equal((409, "name-taken"), await checker.RefusedAsync($"/api/drafts/{draft}/overlays/{Guid.NewGuid()}", new { name }, HttpMethod.Put));
        }
    }

    [Fact]
    public async Task OnesOverlayIsCopiedToTheNextDraftOnPurposeOnce()
    {
        var (package, document, draft) = await SentAsync(apart: false);
        var (author, checker, lead) = (await office.AsAsync("author"), await office.AsAsync("checker"), await office.AsAsync("lead"));
        var (first, copy, again) = (Guid.NewGuid(), Guid.NewGuid(), Guid.NewGuid());
        await checker.PutAsync<JsonElement>($"/api/drafts/{draft}/overlays/{first}", new { name = "Dimensions" });
        await DrawAsync(checker, draft, Drawn.Cloud(overlay: first), Drawn.Arrow(overlay: first));
        // Its place goes along by itself.
        await checker.PostAsync<JsonElement>($"/api/packages/{package}/notes", new { draft, kind = "request", body = "Make it right.", marks = new[] { Drawn.Cloud(overlay: first, x: 40) } });
        await checker.SignAsync(package, "checker", "returnForChanges");
        await lead.SignAsync(package, "lead");
        var request = Id((await author.GetAsync<JsonElement>($"/api/packages/{package}")).GetProperty("notes")[0]);
        await author.PostAsync<JsonElement>($"/api/notes/{request}/acts", new { key = Guid.NewGuid(), act = "answer", body = "Done.", answer = "done" });
        var upload = await author.UploadAsync("next.dxf", Office.Drawing("next " + Guid.NewGuid()));
        await author.PostAsync<JsonElement>($"/api/documents/{document}/drafts", new { upload, reason = "" });
        await author.PostAsync<JsonElement>($"/api/packages/{package}/rounds", new { coveringNote = "" });
        var next = await DraftAsync(document);

        var earlier = Assert.Single((await checker.GetAsync<JsonElement>($"/api/drafts/{next}/overlays/earlier")).EnumerateArray());
        Assert.Equal(("Dimensions", 2), (earlier.GetProperty("name").GetString(), earlier.GetProperty("count").GetInt32()));
        Assert.Empty((await lead.GetAsync<JsonElement>($"/api/drafts/{next}/overlays/earlier")).EnumerateArray());
        string At(Guid overlay) => $"/api/drafts/{next}/overlays/{overlay}/copied";
        Assert.Equal((404, "not-found"), await lead.RefusedAsync(At(copy), new { from = first }));
        async Task<(int, int)> CopyAsync(Guid overlay) => await checker.PostAsync<JsonElement>(At(overlay), new { from = first }) is var done ? (done.GetProperty("drawn").GetInt32(), done.GetProperty("left").GetInt32()) : default;
        Assert.Equal((2, 0), await CopyAsync(copy));
        Assert.Equal((0, 0), await CopyAsync(copy));
        var here = Assert.Single((await AllAsync(checker, next)).GetProperty("overlays").EnumerateArray());
        Assert.Equal(("Dimensions", 2, 2), (here.GetProperty("name").GetString(), here.GetProperty("markups").GetArrayLength(), here.GetProperty("round").GetInt32()));
        // What was erased of it since is not drawn again by another press.
        var gone = here.GetProperty("markups")[0];
        await DrawAsync(checker, next, Drawn.Erased(Id(gone), gone.GetProperty("version").GetInt64()));
        Assert.Equal((0, 0), await CopyAsync(again));
        Assert.Equal([("Dimensions", false, 1)], await OverlaysAsync(checker, next));
        Assert.Empty(await office.ProofAsync(package));
    }

    [Fact]
    public async Task AnOverlayHasALookOfItsOwnAndOnesNewOnesTheLookThatOneKeeps()
    {
        var (_, _, draft) = await SentAsync(apart: false);
        var author = await office.AsAsync("author");
        var (first, second) = (Guid.NewGuid(), Guid.NewGuid());
        string At(Guid overlay) => $"/api/drafts/{draft}/overlays/{overlay}";
        var plum = new { ink = "plum", line = "dotted", width = "bold", isTinted = false, letters = "large" };
        async Task<List<string>> InksAsync(Browser who) => [.. (await AllAsync(who, draft)).GetProperty("overlays").EnumerateArray().Select(o => o.GetProperty("name").GetString() + " " + o.GetProperty("look").GetProperty("ink").GetString())];

        await author.PutAsync<JsonElement>(At(first), new { name = "Safety" });
        Assert.Equal(["Safety spruce"], await InksAsync(author));
        await author.PutAsync<JsonElement>(At(first), new { name = "Safety", look = plum, keepsLook = true });
        // What one has kept is for one's own new ones, others' stay as they are.
        await author.PutAsync<JsonElement>(At(second), new { name = "Dimensions" });
        Assert.Equal(["Safety plum", "Dimensions plum"], await InksAsync(author));
        await (await office.AsAsync("checker")).PutAsync<JsonElement>(At(Guid.NewGuid()), new { name = "Mine" });
        Assert.Equal(["Safety plum", "Dimensions plum", "Mine spruce"], await InksAsync(author));
        await author.PutAsync<JsonElement>(At(second), new { name = "Dimensions", look = plum with { ink = "moss" }, keepsLook = false });
        Assert.Equal(["Safety plum", "Dimensions moss", "Mine spruce"], await InksAsync(author));
        Assert.Equal(400, (await author.RefusedAsync(At(second), new { name = "Dimensions", look = plum with { ink = "99" } }, HttpMethod.Put)).Item1);
        // It goes out as it is drawn.
        await DrawAsync(author, draft, Drawn.Cloud(overlay: second));
        var sent = System.Text.Encoding.UTF8.GetString(await author.BytesAsync($"/api/drafts/{draft}/marked?as=xfdf"));
        Assert.Contains("#47601A", sent, StringComparison.OrdinalIgnoreCase);
    }

    [Fact]
    public async Task TiesAndWhatLiesAboveTheOthersAreKeptAndCopiedAlong()
    {
        var (package, _, draft) = await SentAsync(apart: false);
        var checker = await office.AsAsync("checker");
        var (a, b, tie) = (Guid.NewGuid(), Guid.NewGuid(), Guid.NewGuid());
        await DrawAsync(checker, draft, Drawn.Cloud(a), Drawn.Arrow(b));
        await DrawAsync(checker, draft, Drawn.Cloud(a, version: 1, tie: tie, rank: 3), Drawn.Arrow(b, version: 1, tie: tie));
        var lie = (await AllAsync(checker, draft)).GetProperty("overlays")[0].GetProperty("markups").EnumerateArray().Select(m => (Id(m), m.GetProperty("tie").GetGuid(), m.GetProperty("rank").GetInt32())).ToList();
        Assert.Equal([(b, tie, 0), (a, tie, 3)], lie);
        Assert.Empty(await office.ProofAsync(package));
        // Nobody puts anything above all for good: there is an end to it.
        await DrawAsync(checker, draft, Drawn.Cloud(a, version: 2, rank: int.MaxValue));
        Assert.Equal(1_000_000, (await AllAsync(checker, draft)).GetProperty("overlays")[0].GetProperty("markups")[1].GetProperty("rank").GetInt32());
        await office.OwnerDb.RunAsync("UPDATE markup SET rank = 0 WHERE id = $1", [a], default);
        Assert.NotEmpty(await office.ProofAsync(package));
        await office.OwnerDb.RunAsync("UPDATE markup SET rank = 1000000 WHERE id = $1", [a], default);
        Assert.Empty(await office.ProofAsync(package));
    }
}
