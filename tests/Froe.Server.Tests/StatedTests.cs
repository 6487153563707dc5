using System.Net;
using System.Text.Json;
using Xunit;

namespace Froe.Server.Tests;

/// <summary>Which of a model's dimensions a package shows is chosen before it is sent, and holds from then on.</summary>
public class StatedTests(Office office)
{
    private static readonly string Plate = PlateIn(new DirectoryInfo(AppContext.BaseDirectory));

    private static string PlateIn(DirectoryInfo folder) => File.Exists(Path.Combine(folder.FullName, "Froe.slnx")) ? Path.Combine(folder.FullName, "tests", "cases", "drawn", "plate.stp") : PlateIn(folder.Parent!);

    [Fact]
    public async Task ThoseWhoMaySendChooseAndNobodyAfterwards()
    {
        var (author, checker, guest) = (await office.AsAsync("author"), await office.AsAsync("checker"), await office.AsAsync("guest"));
        var upload = await author.UploadAsync("plate.stp", await File.ReadAllBytesAsync(Plate, TestContext.Current.CancellationToken));
        var document = (await author.PostAsync<JsonElement>("/api/documents", new { number = "S-" + Guid.NewGuid(), title = "Plate", kind = "model", discipline = "test", upload, reason = "" })).GetProperty("document").GetGuid();
        var draft = (await office.Db.ListAsync("SELECT id FROM draft WHERE document_id = $1", r => r.GetGuid(0), [document]))[0];
        var url = $"/api/drafts/{draft}/leaves/0/stated";
        static (string? Shown, bool May) Said(JsonElement of) => (of.GetProperty("shown") is { ValueKind: JsonValueKind.Array } shown ? shown.ToString() : null, of.GetProperty("mayChoose").GetBoolean());
        var all = (await author.GetAsync<JsonElement>($"/api/drafts/{draft}/leaves/0/scene")).GetProperty("dimensions").GetArrayLength();
        Assert.Equal(1, all);
        Assert.Equal((null, true), Said(await author.GetAsync<JsonElement>(url)));
        Assert.Equal((null, false), Said(await checker.GetAsync<JsonElement>(url)));
        Assert.Equal(HttpStatusCode.NotFound, await guest.StatusAsync(url));

        object Choice(params int[] shown) => new { key = Guid.NewGuid(), shown };
        Assert.Equal(403, (await checker.RefusedAsync(url, Choice(0), HttpMethod.Put)).Status);
        Assert.Equal(404, (await guest.RefusedAsync(url, Choice(0), HttpMethod.Put)).Status);
        Assert.Equal((422, "not-stated"), await author.RefusedAsync(url, Choice(all), HttpMethod.Put));
        Assert.Equal((422, "not-stated"), await author.RefusedAsync(url, Choice(-1), HttpMethod.Put));
        foreach (var wrong in (object[])[new { key = Guid.NewGuid() }, new { key = Guid.NewGuid(), shown = (int[]?)null }, new { key = Guid.NewGuid(), shown = (string[])["a"] }])
            Assert.True((await author.RefusedAsync(url, wrong, HttpMethod.Put)).Status is 400 or 422, JsonSerializer.Serialize(wrong));
        await author.PutAsync<JsonElement>(url, Choice());
        var last = Choice(0, 0);
        await author.PutAsync<JsonElement>(url, last);
        await author.PutAsync<JsonElement>(url, last);
        Assert.Equal(("[0]", true), Said(await author.GetAsync<JsonElement>(url)));
        Assert.Equal(2, (await office.Db.ListAsync("SELECT 1 FROM ledger_entry WHERE chain = $1 AND action = 'dimensions chosen'", r => r.GetInt32(0), [document])).Count);

        // Sent, it holds: for whoever looks, and whoever would choose again.
        await office.SendAsync(author, document);
        Assert.Equal(("[0]", false), Said(await checker.GetAsync<JsonElement>(url)));
        Assert.Equal((409, "was-sent"), await author.RefusedAsync(url, Choice(), HttpMethod.Put));
        Assert.Equal("[0]", Said(await author.GetAsync<JsonElement>(url)).Shown);

        Assert.Empty(await office.ProofAsync(document));
        await office.OwnerDb.RunAsync("UPDATE draft_stated SET shown = '{}', words = '{}' WHERE draft_id = $1 AND shown = '{0}'", [draft]);
        Assert.Contains(await office.ProofAsync(document), f => f.Contains("not what was chosen", StringComparison.Ordinal));
        // Read otherwise, what says the same is found again; what says nothing of the kind is not shown.
        await office.OwnerDb.RunAsync("UPDATE draft_stated SET words = '{gone}', shown = '{0}' WHERE draft_id = $1", [draft]);
        Assert.Equal("[]", Said(await author.GetAsync<JsonElement>(url)).Shown);
    }
}
