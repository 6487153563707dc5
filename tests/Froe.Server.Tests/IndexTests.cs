using Froe.Store;
using Xunit;

namespace Froe.Server.Tests;

/// <summary>A law over the schema: what refers to something that a large office has by the hundred thousand is found by an index.</summary>
public class IndexTests(Office office)
{
    private static readonly string[] Many = ["document", "revision", "draft", "package", "note", "overlay", "markup", "message", "sign_off"];

    /// <summary>References that nothing is looked up by, each with why.</summary>
    private static readonly Dictionary<string, string> NeverAsked = new()
    {
        ["note.draft_id"] = "notes are found by their package or document",
        ["markup_change.markup_id"] = "changes are found by their overlay, and written with each stroke",
        ["pin.package_id"] = "one's own few pins are found by their person",
        ["pin.document_id"] = "one's own few pins are found by their person",
        ["brought_in.note_id"] = "what was brought in is found by its document",
        ["presence.draft_id"] = "as many rows as people are looking",
        ["upload_beside.from_draft"] = "found by its upload",
        ["draft_beside.from_draft"] = "found by its draft",
    };

    [Fact]
    public async Task WhatRefersToWhatThereIsMuchOfIsFoundByAnIndexOfAllItsRows()
    {
        var without = (await office.OwnerDb.ListAsync(
            """
            SELECT c.conrelid::regclass::text, a.attname::text
            FROM pg_constraint c JOIN pg_attribute a ON a.attrelid = c.conrelid AND a.attnum = c.conkey[1]
            WHERE c.contype = 'f' AND c.confrelid::regclass::text = ANY ($1) AND NOT EXISTS (
                SELECT 1 FROM pg_index i WHERE i.indrelid = c.conrelid AND i.indkey[0] = c.conkey[1]
                AND (i.indpred IS NULL OR pg_get_expr(i.indpred, i.indrelid) = format('(%I IS NOT NULL)', a.attname)))
            """,
            r => $"{r.GetString(0).Trim('"')}.{r.GetString(1)}", [Many.SelectMany(m => new[] { m, $"\"{m}\"" }).ToArray()])).ToHashSet();
        Assert.Empty(without.Except(NeverAsked.Keys));
        // What has got its index meanwhile is an exception no more.
        Assert.Empty(NeverAsked.Keys.Except(without));
    }

    /// <summary>Each alone: an index whose rows some statement of the same table does not ask for leads nowhere (as names of overlays that are there did).</summary>
    [Theory]
    [InlineData("SELECT id FROM overlay WHERE draft_id = ANY ($1)")]
    [InlineData("SELECT 1 FROM package_item WHERE revision_id = ANY ($1)")]
    [InlineData("UPDATE advice SET package_id = package_id WHERE note_id = ANY ($1)")]
    public async Task ByItsIndexAndNotThroughTheTable(string sql)
    {
        await using var connection = await office.OwnerDb.OpenAsync(TestContext.Current.CancellationToken);
        await using var transaction = await connection.BeginTransactionAsync(TestContext.Current.CancellationToken);
        // In a small table walking it is cheaper: that is ruled out, as it is in a large one.
        await connection.ListAsync("SELECT set_config('enable_seqscan', 'off', true)", r => 0, []);
        var plan = string.Join('\n', await connection.ListAsync("EXPLAIN " + sql.Replace("$1", "ARRAY['00000000-0000-0000-0000-000000000000'::uuid]", StringComparison.Ordinal), r => r.GetString(0), []));
        Assert.DoesNotContain("Seq Scan", plan, StringComparison.Ordinal);
        Assert.Contains("Index Cond", plan, StringComparison.Ordinal);
        await transaction.RollbackAsync(TestContext.Current.CancellationToken);
    }
}
