using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using Xunit;

namespace Froe.Server.Tests;

/// <summary>Pictures that people put on drafts and into notes.</summary>
public class PictureTests(Office office)
{
    /// <summary>A red picture of four by two pixels, as PNG.</summary>
    private static readonly byte[] Red = Convert.FromBase64String("iVBORw0KGgoAAAANSUhEUgAAAAQAAAACCAIAAADwyuo0AAAAEElEQVR4nGP4z8AARwzIHABvqgf5gNwAKAAAAABJRU5ErkJggg==");

    private async Task<(Guid Package, Guid Draft)> SentAsync()
    {
        var author = await office.AsAsync("author");
        var package = await office.SendAsync(author, await Office.RegisterAsync(author, "picture " + Guid.NewGuid()));
        return (package, (await author.GetAsync<JsonElement>($"/api/packages/{package}")).GetProperty("items")[0].GetProperty("draft").GetGuid());
    }

    private static async Task<JsonElement> PutAsync(Browser who, Guid draft, byte[] file)
    {
        using var response = await who.SendAsync($"/api/drafts/{draft}/pictures", new ByteArrayContent(file));
        Assert.True(response.IsSuccessStatusCode, await response.Content.ReadAsStringAsync());
        return await response.Content.ReadFromJsonAsync<JsonElement>();
    }

    private static async Task<(int Status, string? Code)> RefusedAsync(Browser who, Guid draft, byte[] file)
    {
        using var response = await who.SendAsync($"/api/drafts/{draft}/pictures", new ByteArrayContent(file));
        return ((int)response.StatusCode, (await response.Content.ReadFromJsonAsync<JsonElement>()).GetProperty("code").GetString());
    }

    private static object Drawn(Guid id, string picture) => new
    {
        changes = new[] { new { change = "put", id, overlay = (Guid?)null, place = new { on = "sheet", leaf = 0 }, shape = new { shape = "picture", from = new { x = 10, y = 10 }, to = new { x = 50, y = 30 }, picture }, note = (Guid?)null, version = 0, rank = 0 } },
        key = Guid.NewGuid(),
    };

    [Fact]
    public async Task APictureIsKeptOnceSeenByWhoSeesTheDraftAndProven()
    {
        var (package, draft) = await SentAsync();
        var (checker, lead) = (await office.AsAsync("checker"), await office.AsAsync("lead"));
        Assert.Equal((422, "no-such-picture"), await checker.RefusedAsync($"/api/drafts/{draft}/markups", Drawn(Guid.NewGuid(), new string('0', 64))));
        var kept = await PutAsync(checker, draft, Red);
        var name = kept.GetProperty("picture").GetString()!;
        Assert.Equal((4, 2, 64), (kept.GetProperty("width").GetInt32(), kept.GetProperty("height").GetInt32(), name.Length));
        Assert.Equal(name, (await PutAsync(checker, draft, Red)).GetProperty("picture").GetString());
        await checker.PostAsync<JsonElement>($"/api/drafts/{draft}/markups", Drawn(Guid.NewGuid(), name));
        // Notes name it by its first digits.
        Assert.Equal(await lead.BytesAsync($"/api/drafts/{draft}/pictures/{name}"), await lead.BytesAsync($"/api/drafts/{draft}/pictures/{name[..16]}"));
        Assert.Contains("/Subtype /Image", System.Text.Encoding.Latin1.GetString(await lead.BytesAsync($"/api/drafts/{draft}/marked?as=pdf")), StringComparison.Ordinal);

        // It is of this document and of no other, and nobody sees it who does not see the draft.
        var (_, other) = await SentAsync();
        foreach (var path in new[] { $"/api/drafts/{other}/pictures/{name}", $"/api/drafts/{draft}/pictures/{new string('1', 64)}", $"/api/drafts/{draft}/pictures/..%2F..", $"/api/drafts/{Guid.NewGuid()}/pictures/{name}" })
            Assert.Equal(HttpStatusCode.NotFound, await checker.StatusAsync(path));
        Assert.Equal((422, "no-such-picture"), await checker.RefusedAsync($"/api/drafts/{other}/markups", Drawn(Guid.NewGuid(), name)));

        Assert.Empty(await office.ProofAsync(package));
        await office.OwnerDb.RunAsync("UPDATE draft_picture SET png = set_byte(png, 50, (get_byte(png, 50) + 1) % 256) WHERE draft_id = $1", [draft], default);
        Assert.Contains(await office.ProofAsync(package), f => f.Contains("is not what was put there", StringComparison.Ordinal));
        Assert.Equal(HttpStatusCode.InternalServerError, await checker.StatusAsync($"/api/drafts/{draft}/pictures/{name}"));
        // The same picture on another document does not stand in for it.
        await PutAsync(checker, other, Red);
        await office.OwnerDb.RunAsync("DELETE FROM draft_picture WHERE draft_id = $1", [draft], default);
        Assert.Contains(await office.ProofAsync(package), f => f.Contains("is gone", StringComparison.Ordinal));
    }

    [Fact]
    public async Task WhereNothingMoreIsSaidNothingIsPutAndWhatWasPutIsStillSeen()
    {
        var (package, draft) = await SentAsync();
        var (author, checker) = (await office.AsAsync("author"), await office.AsAsync("checker"));
        var name = (await PutAsync(checker, draft, Red)).GetProperty("picture").GetString()!;
        await author.PostAsync<JsonElement>($"/api/packages/{package}/acts", new { kind = "recall", reason = "Wrong file.", key = Guid.NewGuid() });
        Assert.Equal((409, "package-ended"), await RefusedAsync(checker, draft, Red));
        Assert.NotEmpty(await checker.BytesAsync($"/api/drafts/{draft}/pictures/{name}"));
    }

    [Fact]
    public async Task WhatIsNoPictureIsRefusedInWords()
    {
        var (_, draft) = await SentAsync();
        var checker = await office.AsAsync("checker");
        Assert.Equal((422, "unreadable-file"), await RefusedAsync(checker, draft, "<svg xmlns='http://www.w3.org/2000/svg'><script>alert(1)</script></svg>"u8.ToArray()));
        Assert.Equal((422, "unreadable-file"), await RefusedAsync(checker, draft, []));
        Assert.Equal(0, (await office.Db.ListAsync("SELECT count(*)::int FROM draft_picture WHERE draft_id = $1", r => r.GetInt32(0), [draft]))[0]);
    }
}
