using System.Net;
using System.Text;
using System.Text.Json;
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

    private static object Note(Guid draft, string on, object path, double x = 1) => new
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
                    eye = new { target = new { x = 0, y = 0, z = 0 }, turn = 0.5, tilt = 0.25, height = 40, isPerspective = false, hidden = new[] { 1, 2 } },
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
        // A mesh has nothing exact that could be measured from.
        var between = new { first = new { component = 0, face = 0, edge = (int?)null }, second = new { component = 0, face = 1, edge = (int?)null } };
        Assert.Equal((422, "nothing-exact"), await checker.RefusedAsync($"/api/drafts/{draft}/leaves/0/between", between));
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
        await checker.PostAsync<JsonElement>($"/api/packages/{package}/notes", Note(draft, "scene", (string[])["Block"]));
        var note = (await checker.GetAsync<JsonElement>($"/api/packages/{package}")).GetProperty("notes")[0];
        var mark = note.GetProperty("marks")[0];
        Assert.Equal(("scene", "Block"), (mark.GetProperty("place").GetProperty("on").GetString(), mark.GetProperty("zone").GetString()));
        Assert.Equal(0.25, mark.GetProperty("shape").GetProperty("eye").GetProperty("tilt").GetDouble());
        Assert.Empty(await office.ProofAsync(package));
        await office.OwnerDb.RunAsync("UPDATE markup SET shape = jsonb_set(shape, '{face}', '3') WHERE shape ->> 'shape' = 'pin' AND overlay_id IN (SELECT id FROM overlay WHERE draft_id = $1)", [draft], default);
        Assert.Contains(await office.ProofAsync(package), f => f.Contains("is not as it was drawn", StringComparison.Ordinal));
    }

    [Fact]
    public async Task WhatIsNoModelIsRefusedInWords()
    {
        var author = await office.AsAsync("author");
        foreach (var (name, file) in ((string, byte[])[])[("a.stp", "hello"u8.ToArray()), ("a.stl", "hello"u8.ToArray()), ("a.glb", "hello"u8.ToArray()), ("a.3mf", "hello"u8.ToArray()), ("a.igs", "hello"u8.ToArray()), ("a.obj", "v 1 2 3"u8.ToArray())])
            Assert.True((await Assert.ThrowsAsync<InvalidDataException>(() => author.UploadAsync(name, file))).Message.Length > 20, name);
    }
}
