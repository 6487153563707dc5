using System.Net;
using System.Text;
using System.Text.Json;
using Froe.Server.Register;
using Microsoft.Extensions.DependencyInjection;
using Xunit;

namespace Froe.Server.Tests;

/// <summary>Models on drafts: uploaded, shown to whoever sees the draft, pinned to, proven.</summary>
public class ModelTests(Office office)
{
    /// <summary>A block as OBJ, of a size that is its own.</summary>
    private static byte[] Block(int size)
    {
        var points = string.Concat(Enumerable.Range(0, 8).Select(i => $"v {(i & 1) * size} {((i >> 1) & 1) * size} {((i >> 2) & 1) * size}\n"));
        return Encoding.ASCII.GetBytes($"{points}o Block\nf 1 3 4 2\nf 5 6 8 7\nf 1 2 6 5\nf 3 7 8 4\nf 1 5 7 3\nf 2 4 8 6\n");
    }

    private async Task<(Guid Package, Guid Draft)> SentAsync(int size)
    {
        var author = await office.AsAsync("author");
        var upload = await author.UploadAsync("block.obj", Block(size));
        var document = (await author.PostAsync<JsonElement>("/api/documents", new { number = "M-" + Guid.NewGuid(), title = "Block", kind = "model", discipline = "test", upload, reason = "" })).GetProperty("document").GetGuid();
        var package = await office.SendAsync(author, document);
        return (package, (await author.GetAsync<JsonElement>($"/api/packages/{package}")).GetProperty("items")[0].GetProperty("draft").GetGuid());
    }

    private static async Task<string> RunAsync(string program, params string[] words)
    {
        using var child = System.Diagnostics.Process.Start(new System.Diagnostics.ProcessStartInfo(program, words) { RedirectStandardOutput = true })!;
        var said = await child.StandardOutput.ReadToEndAsync();
        await child.WaitForExitAsync();
        return said;
    }

    private static object Note(Guid draft, string on, object path, double x = 1, double along = 1) => new
    {
        draft,
        kind = "request",
        body = "This corner is to be rounded.",
        marks = new[]
        {
            new
            {
                id = Guid.NewGuid(),
                overlay = (Guid?)null,
                place = new { on, leaf = 0 },
                shape = new
                {
                    shape = "pin",
                    component = 0,
                    path,
                    face = 2,
                    at = new { x, y = 0, z = 0 },
                    normal = new { x = 1, y = 0, z = 0 },
                    eye = new { target = new { x = 0, y = 0, z = 0 }, turn = 0.5, tilt = 0.25, height = 40, isPerspective = false, hidden = new[] { 1, 2 }, sections = new[] { new { along = new { x = 0, y = 0, z = along }, at = 7.5 } } },
                },
                version = 0,
                rank = 0,
            },
        },
        key = Guid.NewGuid(),
    };

    [Fact]
    public async Task AModelIsALeafWithItsTreeItsMeshesAndItsPicturesForWhoeverSeesTheDraft()
    {
        var (_, draft) = await SentAsync(21);
        var checker = await office.AsAsync("checker");
        var leaf = Assert.Single((await checker.GetAsync<JsonElement>($"/api/drafts/{draft}/leaves")).EnumerateArray());
        Assert.Equal(("scene", 12), (leaf.GetProperty("frame").GetProperty("kind").GetString(), leaf.GetProperty("frame").GetProperty("triangles").GetInt32()));
        var scene = await checker.GetAsync<JsonElement>($"/api/drafts/{draft}/leaves/0/scene");
        Assert.Equal(("Block", "unknown"), (scene.GetProperty("components")[0].GetProperty("name").GetString(), scene.GetProperty("unit").GetString()));
        var block = scene.GetProperty("parts")[0].GetProperty("block");
        Assert.Equal(block.GetProperty("length").GetInt64(), (await checker.BytesAsync($"/api/drafts/{draft}/leaves/0/meshes")).Length);
        Assert.Equal(6, (await checker.GetAsync<JsonElement>($"/api/drafts/{draft}/leaves/0/exact")).GetProperty("parts")[0].GetProperty("faces").GetArrayLength());
        // A mesh has nothing exact that could be measured from; how near its faces, its edges and their ends come is told all the same.
        var between = new { first = new { component = 0, face = 0, edge = (int?)null }, second = new { component = 0, face = 1, edge = (int?)null } };
        var least = await checker.PostAsync<JsonElement>($"/api/drafts/{draft}/leaves/0/between", between);
        Assert.Equal((JsonValueKind.Null, JsonValueKind.Object), (least.GetProperty("exact").ValueKind, least.GetProperty("least").ValueKind));
        var ends = Enumerable.Range(0, 12).Select(e => scene.GetProperty("parts")[0].GetProperty("block").GetProperty("lines").GetInt32() > e).Count(e => e);
        Assert.Equal(12, ends);
        // The corners at the origin and across from it, 21 away along each axis: of twelve edges at least one ends at each.
        var corners = new List<double>();
        for (var edge = 0; edge < ends; edge++)
        {
            var corner = await checker.PostAsync<JsonElement>($"/api/drafts/{draft}/leaves/0/between", new
            {
                first = new { component = 0, face = (int?)null, edge = (int?)edge, isCorner = true, at = new { x = 0, y = 0, z = 0 } },
                second = new { component = 0, face = (int?)null, edge = (int?)edge, isCorner = true, at = new { x = 21, y = 21, z = 21 } },
            });
            Assert.Equal(JsonValueKind.Null, corner.GetProperty("exact").ValueKind);
            corners.Add(corner.GetProperty("least").GetProperty("distance").GetDouble());
        }
        Assert.All(corners, c => Assert.Equal(21, c, 0.01));
        // Points that a section has cut are measured where they stand.
        static object Point(double y) => new { component = 0, face = (int?)0, edge = (int?)null, isPoint = true, at = new { x = 1, y, z = 0 } };
        var points = await checker.PostAsync<JsonElement>($"/api/drafts/{draft}/leaves/0/measured", new { pairs = new[] { new { first = Point(2), second = Point(20) } } });
        Assert.Equal(18, points[0].GetProperty("least").GetProperty("distance").GetDouble(), 9);
        Assert.Equal((422, "nothing-exact"), await checker.RefusedAsync($"/api/drafts/{draft}/leaves/0/between", new { first = new { component = 0, face = (int?)null, edge = 99 }, between.second }));
        Assert.Equal(404, (await (await office.AsAsync("guest")).RefusedAsync($"/api/drafts/{draft}/leaves/0/between", between)).Item1);
        foreach (var form in (string[])["picture", "small"]) Assert.Equal("RIFF"u8.ToArray(), (await checker.BytesAsync($"/api/drafts/{draft}/leaves/0/{form}"))[..4]);
        var outsider = await office.AsAsync("guest");
        foreach (var form in (string[])["scene", "meshes", "exact", "picture"]) Assert.Equal(HttpStatusCode.NotFound, await outsider.StatusAsync($"/api/drafts/{draft}/leaves/0/{form}"));
    }

    [Fact]
    public async Task ARequestIsPinnedToAModelAndProven()
    {
        var (package, draft) = await SentAsync(22);
        var checker = await office.AsAsync("checker");
        Assert.Equal(409, (await checker.RefusedAsync($"/api/packages/{package}/notes", Note(draft, "sheet", (string[])["Block"]))).Item1);
        Assert.Equal(409, (await checker.RefusedAsync($"/api/packages/{package}/notes", Note(draft, "scene", Array.Empty<string>()))).Item1);
        Assert.Equal(409, (await checker.RefusedAsync($"/api/packages/{package}/notes", Note(draft, "scene", (string[])[new string('a', 700)]))).Item1);
        Assert.Equal(409, (await checker.RefusedAsync($"/api/packages/{package}/notes", Note(draft, "scene", (string[])["Block"], along: 2))).Item1);
        await checker.PostAsync<JsonElement>($"/api/packages/{package}/notes", Note(draft, "scene", (string[])["Block"]));
        var note = (await checker.GetAsync<JsonElement>($"/api/packages/{package}")).GetProperty("notes")[0];
        var mark = note.GetProperty("marks")[0];
        Assert.Equal(("scene", "Block"), (mark.GetProperty("place").GetProperty("on").GetString(), mark.GetProperty("zone").GetString()));
        Assert.Equal(0.25, mark.GetProperty("shape").GetProperty("eye").GetProperty("tilt").GetDouble());
        Assert.Equal(7.5, mark.GetProperty("shape").GetProperty("eye").GetProperty("sections")[0].GetProperty("at").GetDouble());
        // On paper the model is a page as it was seen, cut as it was, with the spot and its number; the note has its picture.
        var paper = Path.GetTempFileName();
        await File.WriteAllBytesAsync(paper, await checker.BytesAsync($"/api/packages/{package}/review-sheet?zone=Europe/Vienna"));
        Assert.Contains("as it was seen for 1", await RunAsync("pdftotext", "-layout", paper, "-"), StringComparison.Ordinal);
        Assert.Equal(2, (await RunAsync("pdfimages", "-list", paper)).Split('\n').Count(l => l.Contains("image", StringComparison.Ordinal)));
        File.Delete(paper);
        Assert.Empty(await office.ProofAsync(package));
        await office.OwnerDb.RunAsync("UPDATE markup SET shape = jsonb_set(shape, '{face}', '3') WHERE shape ->> 'shape' = 'pin' AND overlay_id IN (SELECT id FROM overlay WHERE draft_id = $1)", [draft], default);
        Assert.Contains(await office.ProofAsync(package), f => f.Contains("is not as it was drawn", StringComparison.Ordinal));
    }

    [Fact]
    public async Task AMeasureAndWhatIsDrawnOnAViewAreKeptAndFoundAgainOnTheNextDraft()
    {
        var (package, draft) = await SentAsync(26);
        var (author, checker) = (await office.AsAsync("author"), await office.AsAsync("checker"));
        static object Spot(int component, int? face = 0, int? edge = null) => new { component, path = (string[])["Block"], face, edge, at = new { x = 1, y = 2, z = 0 }, normal = new { x = 0, y = 0, z = -1 } };
        static object Eye(double height = 40) => new { target = new { x = 0, y = 0, z = 0 }, turn = 0.5, tilt = 0.25, height, isPerspective = false, hidden = (int[])[0] };
        static object Measure(params object[] of) => new { shape = "modelMeasure", of, eye = Eye() };
        static object Drawn(object drawn, double height = 40) => new { shape = "onView", eye = Eye(height), drawn };
        static object Between(string shape, double size) => new { shape, from = new { x = 0, y = 0 }, to = new { x = size, y = size } };
        object Put(object shape, string on = "scene") => new { changes = new[] { new { change = "put", id = Guid.NewGuid(), overlay = (Guid?)null, place = new { on, leaf = 0 }, shape, note = (Guid?)null, version = 0 } }, key = Guid.NewGuid() };
        foreach (var wrong in (object[])
            [Put(Measure()), Put(Measure(Spot(0), Spot(0), Spot(0))), Put(Measure(Spot(0), Spot(0, null))), Put(Measure(Spot(0, 1, 1))), Put(Measure(Spot(-1))), Put(Measure(Spot(0)), "sheet"),
             Put(Drawn(Between("cloud", 4)), "sheet"), Put(Drawn(Between("cloud", 900))), Put(Drawn(Drawn(Between("cloud", 4)))), Put(Drawn(Measure(Spot(0)))), Put(Drawn(Between("cloud", 4), 0)),
             Put(Drawn(new { shape = "picture", picture = new string('a', 64), from = new { x = 0, y = 0 }, to = new { x = 4, y = 4 } }))])
            Assert.True(await checker.RefusedAsync($"/api/drafts/{draft}/markups", wrong) is (409 or 422, _), JsonSerializer.Serialize(wrong));
        await checker.PostAsync<JsonElement>($"/api/drafts/{draft}/markups", Put(Measure(Spot(0), Spot(0, 1))));
        await checker.PostAsync<JsonElement>($"/api/drafts/{draft}/markups", Put(Drawn(Between("cloud", 4))));
        var lies = (await checker.GetAsync<JsonElement>($"/api/drafts/{draft}/overlays")).GetProperty("overlays")[0].GetProperty("markups").EnumerateArray().ToList();
        Assert.Equal([("modelMeasure", "Block"), ("onView", "a view")], lies.Select(m => (m.GetProperty("shape").GetProperty("shape").GetString()!, m.GetProperty("zone").GetString()!)).Order());
        Assert.Empty(await office.ProofAsync(package));

        // The same faces on the same draft are the same; whoever does not see the draft finds nothing out by it.
        var asked = new { draft, leaf = 0, picked = new[] { new { component = 0, face = 0, edge = (int?)null, at = new { x = 1, y = 2, z = 0 } } } };
        var found = (await checker.PostAsync<JsonElement>($"/api/drafts/{draft}/leaves/0/found", asked))[0];
        Assert.Equal(("same", 0), (found.GetProperty("how").GetString(), found.GetProperty("component").GetInt32()));
        Assert.Equal(404, (await (await office.AsAsync("guest")).RefusedAsync($"/api/drafts/{draft}/leaves/0/found", asked)).Status);
        Assert.Equal(422, (await checker.RefusedAsync($"/api/drafts/{draft}/leaves/0/found", new { asked.draft, asked.leaf, picked = Enumerable.Repeat(asked.picked[0], 501) })).Status);

        // On the next draft, a block a little larger, the measure can be drawn again: what it measures is surely found. What was drawn on the view too.
        await checker.PostAsync<JsonElement>($"/api/packages/{package}/notes", Note(draft, "scene", (string[])["Block"]));
        await checker.SignAsync(package, "check", "returnForChanges");
        var seen = await author.GetAsync<JsonElement>($"/api/packages/{package}");
        await author.PostAsync<JsonElement>($"/api/notes/{seen.GetProperty("notes")[0].GetProperty("id").GetGuid()}/acts", new { key = Guid.NewGuid(), act = "answer", body = "Done.", answer = "done" });
        var upload = await author.UploadAsync("block.obj", Block(27));
        await author.PostAsync<JsonElement>($"/api/documents/{seen.GetProperty("items")[0].GetProperty("document").GetGuid()}/drafts", new { upload, reason = "" });
        await author.PostAsync<JsonElement>($"/api/packages/{package}/rounds", new { coveringNote = "" });
        var next = (await author.GetAsync<JsonElement>($"/api/packages/{package}")).GetProperty("items")[0].GetProperty("draft").GetGuid();
        Assert.NotEqual(draft, next);
        var again = (await checker.PostAsync<JsonElement>($"/api/drafts/{next}/leaves/0/found", asked))[0];
        Assert.Equal(("same", 0, 0), (again.GetProperty("how").GetString(), again.GetProperty("component").GetInt32(), again.GetProperty("face").GetInt32()));
        var earlier = Assert.Single((await checker.GetAsync<JsonElement>($"/api/drafts/{next}/overlays/earlier")).EnumerateArray()).GetProperty("id").GetGuid();
        var copied = await checker.PostAsync<JsonElement>($"/api/drafts/{next}/overlays/{Guid.NewGuid()}/copied", new { from = earlier });
        Assert.Equal((2, 0), (copied.GetProperty("drawn").GetInt32(), copied.GetProperty("left").GetInt32()));
        var measure = (await checker.GetAsync<JsonElement>($"/api/drafts/{next}/overlays")).GetProperty("overlays").EnumerateArray().SelectMany(o => o.GetProperty("markups").EnumerateArray()).Single(m => m.GetProperty("shape").GetProperty("shape").GetString() == "modelMeasure");
        var pair = measure.GetProperty("shape").GetProperty("of").EnumerateArray().ToArray();
        Assert.Equal(0, (await checker.PostAsync<JsonElement>($"/api/drafts/{next}/leaves/0/measured", new { pairs = new[] { new { first = pair[0], second = pair[1] } } }))[0].GetProperty("least").GetProperty("distance").GetDouble());
        Assert.Empty(await office.ProofAsync(package));
    }

    [Fact]
    public async Task AModelIsCutLaidFlatAndGoesOutAsADrawingForWhoeverSeesIt()
    {
        var (_, draft) = await SentAsync(23);
        var checker = await office.AsAsync("checker");
        var leaf = $"/api/drafts/{draft}/leaves/0";
        var cut = await checker.GetAsync<JsonElement>($"{leaf}/section?x=0&y=0&z=1&at=10");
        var face = Assert.Single(cut.GetProperty("faces").EnumerateArray());
        Assert.Equal(23 * 23, face.GetProperty("area").GetDouble(), 0.05);
        Assert.Single(face.GetProperty("loops").EnumerateArray());
        // The second time it is at hand, and still only for whoever may see it.
        Assert.Equal(cut.ToString(), (await checker.GetAsync<JsonElement>($"{leaf}/section?x=0&y=0&z=1&at=10")).ToString());
        var outsider = await office.AsAsync("guest");
        foreach (var form in (string[])["section", "section/geometry", "section/details", "section.svg", "section.dxf"])
            Assert.Equal(HttpStatusCode.NotFound, await outsider.StatusAsync($"{leaf}/{form}?x=0&y=0&z=1&at=10"));
        foreach (var form in (string[])["parts", "parts.csv", "parts.xlsx", "parts/0/picture", "views"]) Assert.Equal(HttpStatusCode.NotFound, await outsider.StatusAsync($"{leaf}/{form}"));
        Assert.Empty((await checker.GetAsync<JsonElement>($"{leaf}/section?x=0&y=0&z=1&at=10&without=0-4,9")).GetProperty("faces").EnumerateArray());
        Assert.Equal("FRSH"u8.ToArray(), (await checker.BytesAsync($"{leaf}/section/geometry?x=0&y=0&z=1&at=10"))[..4]);
        Assert.Contains("<svg", Encoding.UTF8.GetString(await checker.BytesAsync($"{leaf}/section.svg?x=0&y=0&z=1&at=10")), StringComparison.Ordinal);
        Assert.Contains("POLYLINE", Encoding.UTF8.GetString(await checker.BytesAsync($"{leaf}/section.dxf?x=0&y=0&z=1&at=10")), StringComparison.Ordinal);
        foreach (var bad in (string[])["x=0&y=0&z=2&at=10", "x=0&y=0&z=1&at=NaN", "x=0&y=0&z=1&at=1&without=a", "x=0&y=0&z=1&at=1&without=1-2-3", $"x=0&y=0&z=1&at=1&without={string.Concat(Enumerable.Repeat("1,", 2001))}"])
            Assert.Equal(HttpStatusCode.UnprocessableEntity, await checker.StatusAsync($"{leaf}/section?{bad}"));
        // One part comes as near to itself as can be; what is no part to nothing.
        static object Whole(int first, int second) => new { first = new { component = first, face = (int?)null, edge = (int?)null }, second = new { component = second, face = (int?)null, edge = (int?)null } };
        Assert.Equal(0, (await checker.PostAsync<JsonElement>($"{leaf}/between", Whole(0, 0))).GetProperty("least").GetProperty("distance").GetDouble());
        Assert.Equal((422, "no-mesh"), await checker.RefusedAsync($"{leaf}/between", Whole(0, 7)));
        var measured = await checker.PostAsync<JsonElement>($"{leaf}/measured", new { pairs = new[] { Whole(0, 7), Whole(0, 0) } });
        Assert.Equal([JsonValueKind.Null, JsonValueKind.Object], measured.EnumerateArray().Select(m => m.GetProperty("least").ValueKind));
        Assert.Equal(422, (await checker.RefusedAsync($"{leaf}/measured", new { pairs = Enumerable.Repeat(Whole(0, 0), 61) })).Status);
        Assert.Equal(404, (await outsider.RefusedAsync($"{leaf}/between", Whole(0, 0))).Status);
        Assert.Equal(404, (await outsider.RefusedAsync($"{leaf}/measured", new { pairs = new[] { Whole(0, 0) } })).Status);
        // A drawing of nothing is none.
        Assert.Equal(HttpStatusCode.UnprocessableEntity, await checker.StatusAsync($"{leaf}/section.dxf?x=0&y=0&z=1&at=1000"));
    }

    [Fact]
    public async Task APartsListIsShownGoesOutAndHasPictures()
    {
        var (_, draft) = await SentAsync(24);
        var checker = await office.AsAsync("checker");
        var leaf = $"/api/drafts/{draft}/leaves/0";
        foreach (var depth in (string[])["levels", "top", "parts"])
        {
            var row = Assert.Single((await checker.GetAsync<JsonElement>($"{leaf}/parts?depth={depth}")).EnumerateArray());
            Assert.Equal(("1", "Block", 1), (row.GetProperty("item").GetString(), row.GetProperty("name").GetString(), row.GetProperty("quantity").GetInt32()));
        }
        Assert.Contains("1,,Block,1", Encoding.UTF8.GetString(await checker.BytesAsync($"{leaf}/parts.csv?depth=parts")), StringComparison.Ordinal);
        Assert.Equal("PK"u8.ToArray(), (await checker.BytesAsync($"{leaf}/parts.xlsx"))[..2]);
        Assert.Equal("RIFF"u8.ToArray(), (await checker.BytesAsync($"{leaf}/parts/0/picture"))[..4]);
        Assert.Equal(HttpStatusCode.NotFound, await checker.StatusAsync($"{leaf}/parts/1/picture"));
        Assert.Equal([24.0, 24, 24], (await checker.GetAsync<JsonElement>($"{leaf}/parts/0/box")).GetProperty("sizes").EnumerateArray().Select(s => Math.Round(s.GetDouble(), 2)));
        Assert.Equal(HttpStatusCode.NotFound, await checker.StatusAsync($"{leaf}/parts/1/box"));
        Assert.Equal(HttpStatusCode.NotFound, await (await office.AsAsync("guest")).StatusAsync($"{leaf}/parts/0/box"));
        Assert.Equal(HttpStatusCode.UnprocessableEntity, await checker.StatusAsync($"{leaf}/parts?depth=deep"));
        foreach (var bad in (string[])["0:-1", "0:26", "0", "a:1", "0:NaN"]) Assert.Equal(HttpStatusCode.UnprocessableEntity, await checker.StatusAsync($"{leaf}/parts?densities={bad}"));
    }

    [Fact]
    public async Task ComponentsAreKnownByTheirNumbersAndSheetsLeadToThemForWhoeverSeesBoth()
    {
        var (author, checker, guest) = (await office.AsAsync("author"), await office.AsAsync("checker"), await office.AsAsync("guest"));
        var folder = new DirectoryInfo(AppContext.BaseDirectory);
        while (!File.Exists(Path.Combine(folder.FullName, "Froe.slnx"))) folder = folder.Parent!;
        async Task<Guid> RegisterAsync(string number, string name, byte[] file, string kind)
        {
            var upload = await author.UploadAsync(name, file);
            return (await author.PostAsync<JsonElement>("/api/documents", new { number, title = number, kind, discipline = "Mechanical", upload, reason = "" })).GetProperty("document").GetGuid();
        }
        async Task<Guid> DraftAsync(Guid document) => (await office.Db.ListAsync("SELECT id FROM draft WHERE document_id = $1", r => r.GetGuid(0), [document]))[0];
        var model = await DraftAsync(await RegisterAsync("M-" + Guid.NewGuid(), "mount.stp", await File.ReadAllBytesAsync(Path.Combine(folder.FullName, "demo", "drawings", "TO-3300_A2.stp")), "model"));
        var drawing = await RegisterAsync("TO-3314", "bush.dxf", Office.Drawing("Bush TO-3314, IN HUB TO-3316"), "drawing");
        var sheet = await DraftAsync(drawing);
        var words = office.Services.GetRequiredService<WordIndex>();
        while (await words.RunAsync(default) > 0) { }

        var data = await checker.GetAsync<JsonElement>($"/api/drafts/{model}/leaves/0/data");
        var known = Assert.Single(data.GetProperty("documents").EnumerateArray());
        Assert.Equal((drawing, 2), (known.GetProperty("document").GetProperty("name").GetProperty("document").GetGuid(), known.GetProperty("components").GetArrayLength()));
        Assert.Equal(["material", "mass", "discipline", "revision", "standing"], data.GetProperty("tints").EnumerateArray().Select(t => t.GetProperty("by").GetString()));
        Assert.Equal("CuSn12", data.GetProperty("tints")[0].GetProperty("groups").EnumerateArray().Single(g => g.GetProperty("components").EnumerateArray().Select(c => c.GetInt32()).SequenceEqual(known.GetProperty("components").EnumerateArray().Select(c => c.GetInt32()))).GetProperty("value").GetString());
        var scene = await checker.GetAsync<JsonElement>($"/api/drafts/{model}/leaves/0/scene");
        Assert.Equal(["Ø62 +0.03 / 0", "Ø44 -0.009 / -0.025", "parallelism 0.02 to A", "datum A"], scene.GetProperty("dimensions").EnumerateArray().Select(d => d.GetProperty("words").GetString()));

        // The components of a document are tinted by the change order that its package carries out.
        await author.PostAsync<JsonElement>("/api/packages", new { key = Guid.NewGuid(), title = "Bush", coveringNote = "", plan = office.Plan, documents = new[] { drawing }, inform = Array.Empty<Guid>(), changeOrder = "CO-9" });
        var orders = (await checker.GetAsync<JsonElement>($"/api/drafts/{model}/leaves/0/data")).GetProperty("tints").EnumerateArray().Single(t => t.GetProperty("by").GetString() == "changeOrder");
        Assert.Equal(
            known.GetProperty("components").EnumerateArray().Select(c => c.GetInt32()),
            orders.GetProperty("groups").EnumerateArray().Single(g => g.GetProperty("value").GetString() == "CO-9").GetProperty("components").EnumerateArray().Select(c => c.GetInt32()));

        // From the sheet to the components it names, and to the models that have its number.
        var items = await checker.GetAsync<JsonElement>($"/api/drafts/{sheet}/leaves/0/items?model={model}&leaf=0");
        Assert.Equal(["TO-3314", "TO-3316"], items.EnumerateArray().Select(i => i.GetProperty("number").GetString()));
        var shown = Assert.Single((await checker.GetAsync<JsonElement>($"/api/drafts/{sheet}/models")).GetProperty("models").EnumerateArray());
        Assert.Equal((model, "TO-3314"), (shown.GetProperty("name").GetProperty("draft").GetGuid(), shown.GetProperty("number").GetString()));
        // The model itself names the document, and is found by the names of its components.
        Assert.Equal("TO-3314", Assert.Single((await checker.GetAsync<JsonElement>($"/api/drafts/{model}/leaves/0/named")).EnumerateArray()).GetProperty("name").GetProperty("number").GetString());
        Assert.Contains((await checker.GetAsync<JsonElement>($"/api/drafts/{model}/find?words=encoder")).GetProperty("leaves").EnumerateArray(), l => l.GetProperty("leaf").GetInt32() == 0);

        foreach (var url in (string[])[$"drafts/{model}/leaves/0/data", $"drafts/{sheet}/leaves/0/items?model={model}&leaf=0", $"drafts/{sheet}/models"])
            Assert.Equal(HttpStatusCode.NotFound, await guest.StatusAsync($"/api/{url}"));
        Assert.Equal(HttpStatusCode.NotFound, await checker.StatusAsync($"/api/drafts/{sheet}/leaves/0/data"));
        Assert.Equal(HttpStatusCode.NotFound, await checker.StatusAsync($"/api/drafts/{sheet}/leaves/0/items?model={sheet}&leaf=0"));
        Assert.Equal(HttpStatusCode.UnprocessableEntity, await checker.StatusAsync($"/api/drafts/{model}/leaves/0/data?densities=x"));
        // What a file says it is counted in holds.
        Assert.Equal((422, "bad-scale"), await checker.RefusedAsync($"/api/drafts/{model}/leaves/0/scale", new { key = Guid.NewGuid(), scale = new { unit = "inch" } }, HttpMethod.Put));
        Assert.False((await checker.GetAsync<JsonElement>($"/api/drafts/{model}/leaves"))[0].GetProperty("maySetScale").GetBoolean());
    }

    [Fact]
    public async Task WhatAModelIsCountedInIsAskedWhereItsFileDoesNotSay()
    {
        var (package, draft) = await SentAsync(28);
        var checker = await office.AsAsync("checker");
        var leaf = $"/api/drafts/{draft}/leaves/0";
        async Task<JsonElement> ShownAsync() => (await checker.GetAsync<JsonElement>($"/api/drafts/{draft}/leaves"))[0];
        async Task<double?> MassAsync() => (await checker.GetAsync<JsonElement>($"{leaf}/parts?depth=parts&densities=0:1"))[0].GetProperty("mass") is { ValueKind: JsonValueKind.Number } mass ? Math.Round(mass.GetDouble(), 2) : null;
        Assert.True((await ShownAsync()).GetProperty("maySetScale").GetBoolean());
        Assert.Null(await MassAsync());
        foreach (var wrong in (object[])[new { }, new { unit = "unknown" }, new { ratio = 50 }, new { unit = "metre", ratio = 50 }])
            Assert.Equal((422, "bad-scale"), await checker.RefusedAsync($"{leaf}/scale", new { key = Guid.NewGuid(), scale = wrong }, HttpMethod.Put));
        Assert.Equal(404, (await (await office.AsAsync("guest")).RefusedAsync($"{leaf}/scale", new { key = Guid.NewGuid(), scale = new { unit = "metre" } }, HttpMethod.Put)).Status);

        // A block of 28: in centimetres 21 952 cm³, of 1 g/cm³ as many grams.
        await checker.PutAsync<JsonElement>($"{leaf}/scale", new { key = Guid.NewGuid(), scale = new { unit = "centimetre" } });
        Assert.Equal("centimetre", (await ShownAsync()).GetProperty("scales")[0].GetProperty("given").GetProperty("unit").GetString());
        Assert.Equal(21952.0, await MassAsync());
        Assert.Matches(@"\$INSUNITS\s+70\s+5\s", Encoding.UTF8.GetString(await checker.BytesAsync($"{leaf}/section.dxf?x=0&y=0&z=1&at=10")));
        Assert.Contains("mm\"", Encoding.UTF8.GetString(await checker.BytesAsync($"{leaf}/section.svg?x=0&y=0&z=1&at=10")), StringComparison.Ordinal);
        await checker.PutAsync<JsonElement>($"{leaf}/scale", new { key = Guid.NewGuid(), scale = new { unit = "inch" } });
        Assert.Equal(Math.Round(21952 * 2.54 * 2.54 * 2.54, 2), await MassAsync());
        await checker.PutAsync<JsonElement>($"{leaf}/scale", new { key = Guid.NewGuid(), scale = (object?)null });
        Assert.Null(await MassAsync());
        Assert.Empty(await office.ProofAsync(package));
    }

    [Fact]
    public async Task AViewIsKeptByNameForWhoeverKeptIt()
    {
        var (_, draft) = await SentAsync(25);
        var checker = await office.AsAsync("checker");
        var views = $"/api/drafts/{draft}/leaves/0/views";
        static object View(double at, string colour = "#c9a227") => new
        {
            eye = new { target = new { x = 0, y = 0, z = 0 }, turn = 0.5, tilt = 0.25, height = 40, isPerspective = false, hidden = (int[])[0], sections = new[] { new { along = new { x = 0, y = 0, z = 1 }, at } } },
            ghost = Array.Empty<int>(),
            painted = new[] { new { component = 0, colour } },
            apart = 0.5,
            sections = new[] { new { name = "A–A", plane = new { along = new { x = 0, y = 0, z = 1 }, at, thickness = (double?)3 }, isOn = true } },
            isVeiled = true,
        };
        await checker.PutAsync<JsonElement>(views, new { name = " The bore ", view = View(10) });
        await checker.PutAsync<JsonElement>(views, new { name = "The bore", view = View(11) });
        var kept = Assert.Single((await checker.GetAsync<JsonElement>(views)).EnumerateArray());
        Assert.Equal(("The bore", draft), (kept.GetProperty("name").GetString(), kept.GetProperty("draft").GetGuid()));
        Assert.Equal((11, 3), (kept.GetProperty("view").GetProperty("eye").GetProperty("sections")[0].GetProperty("at").GetDouble(), kept.GetProperty("view").GetProperty("sections")[0].GetProperty("plane").GetProperty("thickness").GetDouble()));
        Assert.Empty((await (await office.AsAsync("author")).GetAsync<JsonElement>(views)).EnumerateArray());
        Assert.Equal(404, (await (await office.AsAsync("guest")).RefusedAsync(views, new { name = "Mine", view = View(1) }, HttpMethod.Put)).Status);
        foreach (var (name, view) in ((string, object)[])[("", View(1)), (new string('a', 61), View(1)), ("Red", View(1, "red"))])
            Assert.Equal(422, (await checker.RefusedAsync(views, new { name, view }, HttpMethod.Put)).Status);
        await checker.DeleteAsync($"{views}?name=The%20bore");
        Assert.Empty((await checker.GetAsync<JsonElement>(views)).EnumerateArray());
    }

    [Fact]
    public async Task WhatIsNoModelIsRefusedInWords()
    {
        var author = await office.AsAsync("author");
        foreach (var (name, file) in ((string, byte[])[])[("a.stp", "hello"u8.ToArray()), ("a.stl", "hello"u8.ToArray()), ("a.glb", "hello"u8.ToArray()), ("a.3mf", "hello"u8.ToArray()), ("a.igs", "hello"u8.ToArray()), ("a.obj", "v 1 2 3"u8.ToArray())])
            Assert.True((await Assert.ThrowsAsync<InvalidDataException>(() => author.UploadAsync(name, file))).Message.Length > 20, name);
    }
}
