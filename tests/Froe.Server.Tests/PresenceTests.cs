using System.Text.Json;
using Froe.Server.Packages;
using Xunit;

namespace Froe.Server.Tests;

/// <summary>Who has which sheet of a package before them.</summary>
public class PresenceTests(Office office)
{
    private static async Task<List<(string Name, int Leaf)>> HereAsync(Browser who, Guid package) =>
        [.. (await who.GetAsync<JsonElement>($"/api/packages/{package}/here")).EnumerateArray().Select(p => (p.GetProperty("name").GetString()!, p.GetProperty("leaf").GetInt32()))];

    [Fact]
    public async Task OthersSeeWhoIsThereUntilTheyLeaveOrFallSilent()
    {
        var (author, checker, lead) = (await office.AsAsync("author"), await office.AsAsync("checker"), await office.AsAsync("lead"));
        var document = await Office.RegisterAsync(author, "here " + Guid.NewGuid());
        var package = await office.SendAsync(author, document);
        var draft = (await office.Db.ListAsync("SELECT id FROM draft WHERE document_id = $1", r => r.GetGuid(0), [document]))[0];
        var (page, other) = (Guid.NewGuid(), Guid.NewGuid());
        async Task SayAsync(Browser who, Guid page, Guid? draft, int leaf) => await who.PostAsync<JsonElement>($"/api/packages/{package}/here", new { page, draft, leaf });
        await SayAsync(checker, page, draft, 0);
        await SayAsync(checker, page, draft, 2);
        await SayAsync(checker, other, draft, 2);
        Assert.Equal([("checker", 2)], await HereAsync(lead, package));
        Assert.Empty(await HereAsync(checker, package));
        // Nobody speaks for another's page, nor of a draft of another package.
        await SayAsync(lead, page, draft, 5);
        await SayAsync(lead, Guid.NewGuid(), Guid.NewGuid(), 0);
        Assert.Empty(await HereAsync(checker, package));
        Assert.Equal([("checker", 2)], await HereAsync(lead, package));
        await SayAsync(checker, other, null, 0);
        Assert.Equal([("checker", 2)], await HereAsync(lead, package));
        await office.OwnerDb.RunAsync("UPDATE presence SET at = at - make_interval(secs => $2) WHERE page = $1", [page, Presence.Silent.TotalSeconds + 1], default);
        Assert.Empty(await HereAsync(lead, package));
        Assert.Equal((422, "bad-sheet"), await checker.RefusedAsync($"/api/packages/{package}/here", new { page, draft, leaf = -1 }));
        Assert.Equal((404, "not-found"), await (await office.AsAsync("guest")).RefusedAsync($"/api/packages/{package}/here", new { page, draft, leaf = 0 }));
    }
}
