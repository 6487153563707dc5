using System.Security.Cryptography;
using System.Security.Cryptography.X509Certificates;
using System.Text.Json;
using Froe.Store;
using Xunit;

namespace Froe.Server.Tests;

/// <summary>Seals over the ledger: what hash chains alone do not show.</summary>
public class SealTests(Office office)
{
    private static X509Certificate2 Key()
    {
        using var rsa = RSA.Create(2048);
        return new CertificateRequest("CN=seals", rsa, HashAlgorithmName.SHA256, RSASignaturePadding.Pkcs1).CreateSelfSigned(DateTimeOffset.UtcNow.AddDays(-1), DateTimeOffset.UtcNow.AddDays(1));
    }

    [Fact]
    public async Task WhatIsTakenFromTheEndOfAChainOrAltogetherIsMissed()
    {
        var author = await office.AsAsync("author");
        var document = await Office.RegisterAsync(author, "sealed");
        var (seals, ledgers) = (new Seals(office.Db), new Ledgers(office.Db));
        using var key = Key();
        var made = await seals.MakeAsync(DateTimeOffset.UtcNow, TimeSpan.Zero, key);
        Assert.NotNull(made);
        // Not again before its time, whichever server asks.
        Assert.Null(await seals.MakeAsync(DateTimeOffset.UtcNow, TimeSpan.FromHours(1), key));
        // Only what grew is in the next one.
        var other = await Office.RegisterAsync(author, "sealed later");
        var next = await seals.MakeAsync(DateTimeOffset.UtcNow, TimeSpan.Zero, key);
        Assert.Equal(made.Seal.Number + 1, next!.Seal.Number);
        async Task<long[]> InAsync(Guid chain) => [.. await office.Db.ListAsync("SELECT seal FROM ledger_seal_head WHERE chain = $1 ORDER BY seal", r => r.GetInt64(0), [chain])];
        Assert.Equal([made.Seal.Number], await InAsync(document));
        Assert.Equal([next.Seal.Number], await InAsync(other));
        async Task<string[]> FaultsAsync() => [.. (await seals.ProveAsync(key)).Faults.Where(f => f.Contains(document.ToString(), StringComparison.Ordinal))];
        Assert.Empty(await FaultsAsync());

        // The last entry goes: every hash still holds, and the seal knows. Then the whole chain.
        var entries = (await ledgers.ChainAsync(document)).Count;
        foreach (var from in new[] { entries, 1 })
        {
            await office.OwnerDb.RunAsync("CREATE TABLE IF NOT EXISTS taken AS SELECT * FROM ledger_entry WITH NO DATA", []);
            await office.OwnerDb.RunAsync("WITH t AS (DELETE FROM ledger_entry WHERE chain = $1 AND sequence >= $2 RETURNING *) INSERT INTO taken SELECT * FROM t", [document, (long)from]);
            try
            {
                Assert.DoesNotContain(await office.ProofAsync(document), f => f.StartsWith("chain ", StringComparison.Ordinal));
                Assert.Equal([$"seal {made.Seal.Number}: entry {entries} of chain {document} is gone"], await FaultsAsync());
            }
            finally
            {
                await office.OwnerDb.RunAsync("INSERT INTO ledger_entry SELECT * FROM taken", []);
                await office.OwnerDb.RunAsync("DROP TABLE taken", []);
            }
        }
        Assert.Empty(await FaultsAsync());

        // A seal is inserted only, is followed by the next, signed, and known to whoever kept its line.
        foreach (var sql in new[] { "DELETE FROM ledger_seal", "UPDATE ledger_seal SET root = hash", "DELETE FROM ledger_seal_head" })
            Assert.Equal("42501", (await Assert.ThrowsAsync<Npgsql.PostgresException>(() => office.Db.RunAsync(sql, []))).SqlState);
        var line = $"{made.Seal.Number}:{Convert.ToHexStringLower(made.Hash)}";
        Assert.Null(await seals.FaultOfAsync(line));
        Assert.Equal($"seal {made.Seal.Number} is not the one that somebody kept", await seals.FaultOfAsync(line[..^1] + (line[^1] == '0' ? '1' : '0')));
        Assert.Equal("seal 999999 is gone; somebody kept it", await seals.FaultOfAsync("999999:00"));
        Assert.Contains("NUMBER:HASH", await seals.FaultOfAsync("nonsense"), StringComparison.Ordinal);
        using var stranger = Key();
        Assert.Equal((await seals.ProveAsync(stranger)).Seals, (await seals.ProveAsync(stranger)).Unproven);
        await office.OwnerDb.RunAsync("UPDATE ledger_seal SET signature = $2 WHERE number = $1", [made.Seal.Number, new byte[256]]);
        try
        {
            Assert.Contains($"seal {made.Seal.Number}: its signature is not by this server's key", (await seals.ProveAsync(key)).Faults);
        }
        finally
        {
            await office.OwnerDb.RunAsync("UPDATE ledger_seal SET signature = $2 WHERE number = $1", [made.Seal.Number, made.Signature]);
        }
        var newest = (await author.GetAsync<JsonElement>("/api/ledger/seal")).GetProperty("newest");
        Assert.True(newest.GetProperty("number").GetInt64() >= next.Seal.Number);
        Assert.True(newest.GetProperty("isSigned").GetBoolean());
    }
}
