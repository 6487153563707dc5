using System.Text.Json;
using Froe.Formats;
using Froe.Server.Register;
using Microsoft.Extensions.DependencyInjection;
using Xunit;

namespace Froe.Server.Tests;

/// <summary>A newer reader prepares drafts anew that an earlier one prepared, and the ledger says so.</summary>
public class PreparingAnewTests(Office office)
{
    private static readonly int Now = Readers.All.Single(r => r.Name == "dxf").Version;

    private async Task<T> OneAsync<T>(string sql, params object?[] values) => (await office.Db.ListAsync(sql, r => r.GetFieldValue<T>(0), values))[0];

    /// <summary>A draft as though the reader before today's had prepared it: its forms of that version are the same bytes.</summary>
    /// <param name="isWhole">Whether its file is there; one that is not calls for content of which a part is missing.</param>
    private async Task<(Guid Document, Guid Draft)> OldAsync(string words, string leaf = "Model", bool isWhole = true)
    {
        var document = await Office.RegisterAsync(await office.AsAsync("author"), words + Guid.NewGuid());
        var draft = await OneAsync<Guid>("SELECT id FROM draft WHERE document_id = $1", document);
        // Another program wrote this part of the ledger; only what is compared is told as it would have told it.
        await office.OwnerDb.RunAsync("UPDATE draft_form SET version = 1 WHERE draft_id = $1", [draft]);
        await office.OwnerDb.RunAsync("DELETE FROM draft_form WHERE draft_id = $1 AND form IN ('details', 'text', 'patches')", [draft]);
        await office.OwnerDb.RunAsync("UPDATE draft_leaf SET name = $2 WHERE draft_id = $1", [draft, leaf]);
        if (!isWhole)
        {
            var part = await OneAsync<byte[]>("INSERT INTO content (sha256, size, media_type) VALUES (sha256(convert_to($1, 'UTF8')), 1, 'image/vnd.dxf') RETURNING sha256", draft.ToString());
            await office.OwnerDb.RunAsync("UPDATE draft SET sha256 = $2 WHERE id = $1", [draft, part]);
        }
        // Last: from here on the server's own worker may take it.
        await office.OwnerDb.RunAsync("UPDATE draft SET prepared = 1 WHERE id = $1", [draft]);
        return (document, draft);
    }

    /// <summary>Runs until a draft is done with; the server's own worker may have taken it, and is waited for.</summary>
    private async Task RunAsync(Guid draft)
    {
        var worker = office.Services.GetRequiredService<PreparingAnew>();
        for (var i = 0; i < 3000; i++)
        {
            await worker.RunAsync(TestContext.Current.CancellationToken);
            if (await OneAsync<bool>("SELECT prepared >= $2 OR EXISTS (SELECT 1 FROM draft_anew WHERE draft_id = $1 AND fault IS NOT NULL) FROM draft WHERE id = $1", draft, Now)) return;
            await Task.Delay(20, TestContext.Current.CancellationToken);
        }
        Assert.Fail("The draft was not prepared anew within a minute.");
    }

    [Fact]
    public async Task AnEarlierReadersFormsAreMadeAnewAndItStandsInTheLedger()
    {
        var (document, draft) = await OldAsync("anew ");
        await RunAsync(draft);
        Assert.Equal(Now, await OneAsync<int>("SELECT prepared FROM draft WHERE id = $1", draft));
        Assert.Equal(["details", "geometry", "patches", "picture", "small", "text"], await office.Db.ListAsync("SELECT form FROM draft_form WHERE draft_id = $1 AND version = $2 ORDER BY 1", r => r.GetString(0), [draft, Now]));
        // What was shown before is there still.
        Assert.Equal(3, await OneAsync<long>("SELECT count(*) FROM draft_form WHERE draft_id = $1 AND version = 1", draft));
        var told = JsonSerializer.Deserialize<JsonElement>(await OneAsync<string>("SELECT payload FROM ledger_entry WHERE chain = $1 AND action = 'draft prepared anew'", document));
        Assert.Equal((draft, Now, 6), (told.GetProperty("draft").GetGuid(), told.GetProperty("version").GetInt32(), told.GetProperty("forms").GetArrayLength()));
        var author = await office.AsAsync("author");
        Assert.Equal(System.Net.HttpStatusCode.OK, await author.StatusAsync($"/api/drafts/{draft}/leaves/0/details"));
    }

    [Fact]
    public async Task WhereTheLeavesWouldBeOthersThingsStayAsTheyAre()
    {
        var (_, draft) = await OldAsync("other leaves ", leaf: "Another name");
        await RunAsync(draft);
        Assert.Equal(1, await OneAsync<int>("SELECT prepared FROM draft WHERE id = $1", draft));
        Assert.Contains("lose its place", await OneAsync<string>("SELECT fault FROM draft_anew WHERE draft_id = $1", draft), StringComparison.Ordinal);
        await IsNotTriedAgainAsync(draft);
    }

    [Fact]
    public async Task WhatIsNoLongerWhatWasUploadedStaysAsItIsAndIsNotTriedAgain()
    {
        var (_, draft) = await OldAsync("gone bad ", isWhole: false);
        await RunAsync(draft);
        Assert.Equal("What is stored of it is no longer what was uploaded.", await OneAsync<string>("SELECT fault FROM draft_anew WHERE draft_id = $1", draft));
        await IsNotTriedAgainAsync(draft);
    }

    private async Task IsNotTriedAgainAsync(Guid draft)
    {
        var before = await OneAsync<int>("SELECT attempts FROM draft_anew WHERE draft_id = $1", draft);
        await office.OwnerDb.RunAsync("UPDATE draft_anew SET claimed_at = claimed_at - interval '1 day' WHERE draft_id = $1", [draft]);
        await office.Services.GetRequiredService<PreparingAnew>().RunAsync(TestContext.Current.CancellationToken);
        Assert.Equal(before, await OneAsync<int>("SELECT attempts FROM draft_anew WHERE draft_id = $1", draft));
    }

    [Fact]
    public async Task ManyAtOnceMakeItOnce()
    {
        var (document, draft) = await OldAsync("once ");
        await Task.WhenAll(Enumerable.Range(0, 4).Select(_ => RunAsync(draft)));
        Assert.Equal(1, await OneAsync<long>("SELECT count(*) FROM ledger_entry WHERE chain = $1 AND action = 'draft prepared anew'", document));
    }

    [Fact]
    public async Task WhatWasMadeAnewIsProven()
    {
        // In a kept database of an earlier program the ledger told the forms of its time: see MigrationTests; here, what today's tells.
        var (document, draft) = await OldAsync("proven ");
        await RunAsync(draft);
        // The entry of its upload names version 2 already, which the test has turned into 1: made right again, nothing is left to find.
        await office.OwnerDb.RunAsync("DELETE FROM draft_form WHERE draft_id = $1 AND version = 1", [draft]);
        Assert.Empty(await office.ProofAsync(document));
        await office.OwnerDb.RunAsync("UPDATE draft_form SET sha256 = (SELECT sha256 FROM draft WHERE id = $1) WHERE draft_id = $1 AND form IN ('details', 'text', 'patches')", [draft]);
        Assert.Contains(await office.ProofAsync(document), f => f.Contains("its sheets are not those that were read from it", StringComparison.Ordinal));
    }
}
