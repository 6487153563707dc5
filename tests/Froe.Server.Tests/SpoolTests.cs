using System.Security.Cryptography;
using Froe.Server.Files;
using Froe.Server.SignIn;
using Froe.Store;
using Microsoft.Extensions.DependencyInjection;
using Microsoft.Extensions.Options;
using Xunit;

namespace Froe.Server.Tests;

/// <summary>Files at hand, with less room than they need.</summary>
public class SpoolTests(Office office)
{
    [Fact]
    public async Task AFileIsWholeForWhoeverAsksWhileOthersSweepItAway()
    {
        var contents = office.Services.GetRequiredService<Contents>();
        var files = new List<byte[]>();
        for (var i = 0; i < 5; i++)
        {
            using var file = new MemoryStream(RandomNumberGenerator.GetBytes(50_000));
            files.Add((await contents.StoreAsync(file, "image/png")).Sha256);
        }
        // Room for two of the five: nearly every file that is fetched sends another away.
        using var spool = new Spool(contents, office.Services.GetRequiredService<SecurityLog>(), Options.Create(new Settings { SpoolBytes = 120_000 }));
        await Task.WhenAll(Enumerable.Range(0, 8).Select(async person =>
        {
            var random = new Random(person);
            for (var i = 0; i < 150; i++)
            {
                var wanted = files[random.Next(files.Count)];
                using var got = new MemoryStream();
                Assert.True(await spool.CopyToAsync(wanted, got, default));
                Assert.Equal(wanted, SHA256.HashData(got.ToArray()));
            }
        }));
    }
}
