using System.Text;
using System.Text.Json;
using Xunit;

namespace Froe.Server.Tests;

/// <summary>How large things are on a sheet: what the file says, what its words suggest, and what somebody gave, by whom.</summary>
public class ScaleTests(Office office)
{
    private static readonly object FiveMetres = new { from = new { x = 0, y = 0 }, to = new { x = 100, y = 0 }, length = 5, unit = "metre" };

    private static string Scale(Guid draft, int leaf = 0) => $"/api/drafts/{draft}/leaves/{leaf}/scale";

    private async Task<(Guid Document, Guid Draft)> RegisterAsync(string name, byte[] file)
    {
        var author = await office.AsAsync("author");
        var upload = await author.UploadAsync(name, file);
        var made = await author.PostAsync<JsonElement>("/api/documents", new { number = "C-" + Guid.NewGuid(), title = name, kind = "drawing", discipline = "test", upload, reason = "" });
        return (made.GetProperty("document").GetGuid(), made.GetProperty("draft").GetGuid());
    }

    private static byte[] Drawing(string header, string words) => Encoding.ASCII.GetBytes(
        $"0\nSECTION\n2\nHEADER\n{header}0\nENDSEC\n0\nSECTION\n2\nENTITIES\n0\nLINE\n8\n0\n10\n0\n20\n0\n11\n841\n21\n594\n0\nTEXT\n8\n0\n10\n5\n20\n5\n40\n3\n1\n{words}\n0\nENDSEC\n0\nEOF\n");

    private const string Millimetres = "9\n$INSUNITS\n70\n4\n";

    private static async Task<JsonElement> LeafAsync(Browser who, Guid draft, int leaf = 0) => (await who.GetAsync<JsonElement>($"/api/drafts/{draft}/leaves")).EnumerateArray().ElementAt(leaf);

    private static string[] Words(JsonElement leaf) => [.. leaf.GetProperty("scales").EnumerateArray().Select(s => s.GetProperty("words").GetString()!)];

    private async Task<JsonElement> NamedAsync(Guid draft)
    {
        // What is written is gathered a moment after a draft is registered.
        var lead = await office.AsAsync("lead");
        for (var i = 0; i < 1200; i++)
        {
            var named = (await LeafAsync(lead, draft)).GetProperty("namedScales");
            if (named.GetArrayLength() > 0) return named;
            await Task.Delay(100);
        }
        throw new TimeoutException("No words were gathered.");
    }

    [Fact]
    public async Task WordsOnASheetSuggestAScaleThatSomebodyTakes()
    {
        var (document, draft) = await RegisterAsync("plan.dxf", Drawing(Millimetres, "Scale 1:50 " + Guid.NewGuid()));
        Assert.Equal(50, Assert.Single((await NamedAsync(draft)).EnumerateArray()).GetProperty("ratio").GetDouble());
        var lead = await office.AsAsync("lead");
        Assert.Empty(Words(await LeafAsync(lead, draft)));
        await lead.PutAsync<JsonElement>(Scale(draft), new { key = Guid.NewGuid(), scale = new { ratio = 50 } });

        var leaf = await LeafAsync(await office.AsAsync("checker"), draft);
        var held = Assert.Single(leaf.GetProperty("scales").EnumerateArray());
        Assert.Equal(("1:50", 50.0, "lead"), (held.GetProperty("words").GetString(), held.GetProperty("millimetres").GetDouble(), held.GetProperty("by").GetString()));
        Assert.Equal(0, leaf.GetProperty("namedScales").GetArrayLength());
        var told = (await office.Db.ListAsync("SELECT payload FROM ledger_entry WHERE chain = $1 AND action = 'scale set'", r => r.GetString(0), [document]))[0];
        Assert.Equal("1:50", JsonSerializer.Deserialize<JsonElement>(told).GetProperty("scale").GetString());
    }

    [Fact]
    public async Task TwoPointsAndALengthHoldUntilTheyAreTakenBack()
    {
        var (document, draft) = await RegisterAsync("no unit.dxf", Drawing("", "no unit " + Guid.NewGuid()));
        var lead = await office.AsAsync("lead");
        await lead.PutAsync<JsonElement>(Scale(draft), new { key = Guid.NewGuid(), scale = FiveMetres });
        Assert.Equal(["1 unit = 50 mm"], Words(await LeafAsync(lead, draft)));
        // The last one holds, whoever gave it; asked twice, it is given once.
        var again = new { key = Guid.NewGuid(), scale = new { from = new { x = 0, y = 0 }, to = new { x = 0, y = 100 }, length = 1, unit = "foot" } };
        var checker = await office.AsAsync("checker");
        await checker.PutAsync<JsonElement>(Scale(draft), again);
        await checker.PutAsync<JsonElement>(Scale(draft), again);
        Assert.Equal(["1 unit = 3.048 mm"], Words(await LeafAsync(lead, draft)));
        await lead.PutAsync<JsonElement>(Scale(draft), new { key = Guid.NewGuid(), scale = (object?)null });
        Assert.Empty(Words(await LeafAsync(lead, draft)));
        Assert.Equal(["scale set", "scale set", "scale taken back"], await office.Db.ListAsync("SELECT action FROM ledger_entry WHERE chain = $1 AND action LIKE 'scale%' ORDER BY sequence", r => r.GetString(0), [document]));
        Assert.Empty(await office.ProofAsync(document));
    }

    [Fact]
    public async Task WhatTheFileSaysHoldsWhereNobodySaysOtherwise()
    {
        var (_, draft) = await RegisterAsync("metres.dxf", Drawing("9\n$INSUNITS\n70\n6\n", "metres " + Guid.NewGuid()));
        var lead = await office.AsAsync("lead");
        Assert.Equal(["1:1"], Words(await LeafAsync(lead, draft)));
        await lead.PutAsync<JsonElement>(Scale(draft), new { key = Guid.NewGuid(), scale = FiveMetres });
        Assert.Equal(["20:1"], Words(await LeafAsync(lead, draft)));
        await lead.PutAsync<JsonElement>(Scale(draft), new { key = Guid.NewGuid(), scale = (object?)null });
        Assert.Equal(["1:1"], Words(await LeafAsync(lead, draft)));
    }

    [Fact]
    public async Task WhatIsNoScaleIsRefusedAndNobodyElseSetsOne()
    {
        var (_, draft) = await RegisterAsync("refused.dxf", Drawing("", "refused " + Guid.NewGuid()));
        var lead = await office.AsAsync("lead");
        foreach (var scale in new object[] { new { ratio = 50 }, new { }, new { from = new { x = 1, y = 1 }, to = new { x = 1, y = 1 }, length = 5, unit = "metre" } })
            Assert.Equal((422, "bad-scale"), await lead.RefusedAsync(Scale(draft), new { key = Guid.NewGuid(), scale }, HttpMethod.Put));
        Assert.Equal((404, "not-found"), await lead.RefusedAsync(Scale(draft, 7), new { key = Guid.NewGuid(), scale = FiveMetres }, HttpMethod.Put));
        Assert.Equal((404, "not-found"), await lead.RefusedAsync(Scale(Guid.NewGuid()), new { key = Guid.NewGuid(), scale = FiveMetres }, HttpMethod.Put));
        Assert.Equal((404, "not-found"), await (await office.AsAsync("guest")).RefusedAsync(Scale(draft), new { key = Guid.NewGuid(), scale = FiveMetres }, HttpMethod.Put));
        Assert.Equal(0, await office.Db.ListAsync("SELECT count(*) FROM draft_scale WHERE draft_id = $1", r => r.GetInt64(0), [draft]) is [var none] ? none : -1);
    }

    [Fact]
    public async Task TwoAtOnceAreBothKeptAndTold()
    {
        var (document, draft) = await RegisterAsync("both.dxf", Drawing("", "both " + Guid.NewGuid()));
        var people = await Task.WhenAll(Enumerable.Range(0, 6).Select(i => office.AsAsync(i % 2 == 0 ? "lead" : "checker")));
        await Task.WhenAll(people.Select(p => p.PutAsync<JsonElement>(Scale(draft), new { key = Guid.NewGuid(), scale = FiveMetres })));
        Assert.Equal([6], await office.Db.ListAsync("SELECT count(*) FROM draft_scale WHERE draft_id = $1", r => r.GetInt64(0), [draft]));
        Assert.Empty(await office.ProofAsync(document));
    }
}
