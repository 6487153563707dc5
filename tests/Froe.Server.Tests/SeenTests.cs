using System.Net;
using System.Text.Json;
using Froe.Core.Routing;
using Xunit;

namespace Froe.Server.Tests;

/// <summary>What of a sheet somebody has had before them: kept for each person, and asked for by a step.</summary>
public class SeenTests(Office office)
{
    /// <summary>All of <see cref="Office.Drawing"/>, 100 wide with text 3 high, at some pixels a unit.</summary>
    private static object All(double scale) => new { views = new[] { new { area = new { minX = -5.0, minY = -5.0, maxX = 105.0, maxY = 55.0 }, scale } } };

    private static object Part(double minX, double maxX) => new { views = new[] { new { area = new { minX, minY = -5.0, maxX, maxY = 55.0 }, scale = 200.0 } } };

    private static string At(Guid draft, int leaf = 0) => $"/api/drafts/{draft}/leaves/{leaf}/seen";

    private async Task<Guid> DraftAsync(Guid document) => (await office.Db.ListAsync("SELECT id FROM draft WHERE document_id = $1", r => r.GetGuid(0), [document]))[0];

    private async Task<(Guid Package, Guid Draft)> SentAsync(int seenShare = 0)
    {
        var author = await office.AsAsync("author");
        var document = await Office.RegisterAsync(author, "seen " + Guid.NewGuid());
        if (seenShare == 0) return (await office.SendAsync(author, document), await DraftAsync(document));
        var plan = Guid.CreateVersion7();
        Step Of(string key, string person) => new(key, key, "", 1, [new Seat(key, key, new PersonHolder(office.Ids[person]))]);
        await office.AddPlanAsync(plan, new Plan("Seen " + plan, "", new([Of("check", "checker") with { SeenShare = seenShare }, Of("lead", "lead")])));
        var package = (await author.PostAsync<JsonElement>("/api/packages", new { key = Guid.NewGuid(), title = "Seen", coveringNote = "", plan, documents = new[] { document }, inform = Array.Empty<Guid>() })).GetProperty("id").GetGuid();
        return (package, await DraftAsync(document));
    }

    private static async Task<int> PercentAsync(Browser who, Guid package) => Assert.Single((await who.GetAsync<JsonElement>($"/api/packages/{package}/seen")).EnumerateArray()).GetProperty("percent").GetInt32();

    [Fact]
    public async Task WhatSomebodySeesIsTheirOwnAndOnlyGrows()
    {
        var (package, draft) = await SentAsync();
        var (checker, lead) = (await office.AsAsync("checker"), await office.AsAsync("lead"));
        var before = await checker.GetAsync<JsonElement>(At(draft));
        var patches = before.GetProperty("patches").GetString()!;
        Assert.Equal((64, 0), (before.GetProperty("columns").GetInt32(), before.GetProperty("percent").GetInt32()));
        Assert.Equal(64 * before.GetProperty("rows").GetInt32(), patches.Length);
        // A line from corner to corner and some words: most of the sheet is empty.
        Assert.InRange(patches.Count(p => p == '1'), 60, 300);
        Assert.Equal(0, await PercentAsync(checker, package));

        // A patch is 100 / 64 wide, and 8 pixels of it are 5.12 a unit.
        Assert.Equal(0, (await checker.PostAsync<JsonElement>(At(draft), All(5.11))).GetProperty("percent").GetInt32());
        var all = await checker.PostAsync<JsonElement>(At(draft), All(5.13));
        Assert.Equal(100, all.GetProperty("percent").GetInt32());
        Assert.DoesNotContain('1', all.GetProperty("patches").GetString()!);
        // A part seen again takes nothing away.
        Assert.Equal(100, (await checker.PostAsync<JsonElement>(At(draft), Part(0, 10))).GetProperty("percent").GetInt32());
        Assert.Equal(100, await PercentAsync(checker, package));
        Assert.Equal(0, await PercentAsync(lead, package));
        Assert.Contains('1', (await lead.GetAsync<JsonElement>(At(draft))).GetProperty("patches").GetString()!);
    }

    [Fact]
    public async Task TwoWindowsThatLookAtOnceEachAddTheirs()
    {
        var (package, draft) = await SentAsync();
        var windows = await Task.WhenAll(office.AsAsync("checker"), office.AsAsync("checker"));
        await Task.WhenAll(Enumerable.Range(0, 10).Select(i => windows[i % 2].PostAsync<JsonElement>(At(draft), Part((i * 10) - 2, (i * 10) + 12))));
        Assert.Equal(100, await PercentAsync(windows[0], package));
    }

    [Fact]
    public async Task WhoMayNotSeeADraftIsToldNothingAndWhatIsTooMuchIsRefused()
    {
        var (_, draft) = await SentAsync();
        var (guest, checker) = (await office.AsAsync("guest"), await office.AsAsync("checker"));
        Assert.Equal(HttpStatusCode.NotFound, await guest.StatusAsync(At(draft)));
        Assert.Equal((404, "not-found"), await guest.RefusedAsync(At(draft), All(9)));
        Assert.Equal(HttpStatusCode.NotFound, await checker.StatusAsync(At(draft, 1)));
        var view = new { area = new { minX = 0.0, minY = 0.0, maxX = 1.0, maxY = 1.0 }, scale = 1.0 };
        Assert.Equal((422, "bad-views"), await checker.RefusedAsync(At(draft), new { views = Enumerable.Repeat(view, 101) }));
        Assert.Equal((422, "bad-views"), await checker.RefusedAsync(At(draft), new { views = Array.Empty<object>() }));
        Assert.Equal(0, (await checker.PostAsync<JsonElement>(At(draft), new { views = new[] { view with { scale = -1 } } })).GetProperty("percent").GetInt32());
    }

    [Fact]
    public async Task ASheetThatIsPreparedAnewIsToBeSeenAnew()
    {
        var (package, draft) = await SentAsync();
        var checker = await office.AsAsync("checker");
        await checker.PostAsync<JsonElement>(At(draft), All(200));
        await office.OwnerDb.RunAsync("UPDATE seen SET version = version - 1 WHERE draft_id = $1", [draft]);
        Assert.Equal(0, await PercentAsync(checker, package));
        Assert.Equal(0, (await checker.GetAsync<JsonElement>(At(draft))).GetProperty("percent").GetInt32());
        var half = (await checker.PostAsync<JsonElement>(At(draft), Part(-5, 50))).GetProperty("percent").GetInt32();
        Assert.InRange(half, 10, 90);
        Assert.Equal(half, await PercentAsync(checker, package));
    }

    [Fact]
    public async Task AStepThatAsksForAShareIsSignedOnceItWasSeenAndTheShareIsProven()
    {
        var (package, draft) = await SentAsync(95);
        var checker = await office.AsAsync("checker");
        var half = (await checker.PostAsync<JsonElement>(At(draft), Part(-5, 50))).GetProperty("percent").GetInt32();
        var sign = await checker.SignOffAsync(package, "check");
        Assert.Equal((409, "not-seen"), await checker.RefusedAsync($"/api/packages/{package}/sign-offs", sign));
        Assert.InRange(half, 10, 90);
        // The desk says so before several are signed at once, which is no way round it.
        var desk = await checker.GetAsync<JsonElement>("/api/desk");
        Assert.Equal(half, desk.GetProperty("seen").EnumerateArray().Single(s => s.GetProperty("draft").GetGuid() == draft).GetProperty("percent").GetInt32());
        var grant = (await checker.PostAsync<JsonElement>("/api/session/confirm", new { password = Office.Password })).GetProperty("grant").GetString();
        var many = await checker.PostAsync<JsonElement>("/api/sign-offs", new { grant, remark = "", packages = new[] { new { package, seat = "check", key = Guid.NewGuid() } } });
        Assert.Contains("95 %", many[0].GetProperty("refusal").GetString()!, StringComparison.Ordinal);

        await checker.PostAsync<JsonElement>(At(draft), All(200));
        await checker.PostAsync<JsonElement>($"/api/packages/{package}/sign-offs", sign);
        // The next step does not ask, so nothing is recorded there.
        await (await office.AsAsync("lead")).SignAsync(package, "lead");
        var signOffs = (await checker.GetAsync<JsonElement>($"/api/packages/{package}")).GetProperty("signOffs").EnumerateArray().ToDictionary(s => s.GetProperty("seat").GetString()!, s => s.GetProperty("verdicts")[0].GetProperty("seen"));
        Assert.Equal(100, signOffs["check"].GetInt32());
        Assert.Equal(JsonValueKind.Null, signOffs["lead"].ValueKind);
        Assert.Contains("\"seen\":100", (await office.Db.ListAsync("SELECT payload FROM ledger_entry WHERE chain = $1 AND action = 'signed' ORDER BY sequence", r => r.GetString(0), [package]))[0], StringComparison.Ordinal);
        Assert.Empty(await office.ProofAsync(package));
        await office.OwnerDb.RunAsync("UPDATE verdict v SET seen = 40 FROM sign_off s WHERE s.id = v.sign_off_id AND s.package_id = $1 AND s.seat = 'check'", [package]);
        Assert.Contains("its verdicts are not those that were given", Assert.Single(await office.ProofAsync(package)), StringComparison.Ordinal);
    }
}
