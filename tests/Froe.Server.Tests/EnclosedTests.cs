using System.Text;
using System.Text.Json;
using Xunit;

namespace Froe.Server.Tests;

/// <summary>What the lines of a sheet enclose, through HTTP.</summary>
public class EnclosedTests(Office office)
{
    [Fact]
    public async Task WhatLinesEncloseAboutAPointIsFoundAndWhatIsOpenIsSaid()
    {
        var author = await office.AsAsync("author");
        string Line(int x, int y, int x2, int y2) => $"0\nLINE\n8\n0\n10\n{x}\n20\n{y}\n11\n{x2}\n21\n{y2}\n";
        var file = Encoding.UTF8.GetBytes($"0\nSECTION\n2\nENTITIES\n{Line(0, 0, 100, 0)}{Line(100, 0, 100, 60)}{Line(100, 60, 0, 60)}{Line(0, 60, 0, 0)}{Line(40, -10, 40, 70)}{Line(150, 0, 150, 60)}0\nENDSEC\n0\nEOF\n");
        var upload = await author.UploadAsync("boxes.dxf", file);
        var document = (await author.PostAsync<JsonElement>("/api/documents", new { number = "E-" + Guid.NewGuid(), title = "Boxes", kind = "drawing", discipline = "test", upload, reason = "" })).GetProperty("document").GetGuid();
        var draft = (await office.Db.ListAsync("SELECT id FROM draft WHERE document_id = $1", r => r.GetGuid(0), [document]))[0];
        string At(int position = 0) => $"/api/drafts/{draft}/leaves/{position}/enclosed";
        var points = (await author.PostAsync<JsonElement>(At(), new { at = new { x = 70, y = 30 } })).GetProperty("points").EnumerateArray().Select(p => (Math.Round(p.GetProperty("x").GetDouble(), 3), Math.Round(p.GetProperty("y").GetDouble(), 3))).Order();
        Assert.Equal([(40, 0), (40, 60), (100, 0), (100, 60)], points);
        Assert.Equal((409, "not-enclosed"), await author.RefusedAsync(At(), new { at = new { x = 120, y = 30 } }));
        // With its layer put out there is nothing that closes.
        Assert.Equal((409, "not-enclosed"), await author.RefusedAsync(At(), new { at = new { x = 70, y = 30 }, layersOn = new[] { false } }));
        Assert.Equal((404, "not-found"), await author.RefusedAsync(At(7), new { at = new { x = 70, y = 30 } }));
    }

    [Fact]
    public async Task OfAPictureItIsSaidThatItHasNoLines()
    {
        var author = await office.AsAsync("author");
        // One red pixel by another, as PNG.
        var upload = await author.UploadAsync("scan.png", Convert.FromBase64String("iVBORw0KGgoAAAANSUhEUgAAAAQAAAACCAIAAADwyuo0AAAAEElEQVR4nGP4z8AARwzIHABvqgf5gNwAKAAAAABJRU5ErkJggg=="));
        var document = (await author.PostAsync<JsonElement>("/api/documents", new { number = "E-" + Guid.NewGuid(), title = "Scan", kind = "drawing", discipline = "test", upload, reason = "" })).GetProperty("document").GetGuid();
        var draft = (await office.Db.ListAsync("SELECT id FROM draft WHERE document_id = $1", r => r.GetGuid(0), [document]))[0];
        Assert.Equal((422, "no-lines"), await author.RefusedAsync($"/api/drafts/{draft}/leaves/0/enclosed", new { at = new { x = 1, y = 1 } }));
    }
}
