using System.Net;
using System.Net.Http.Json;
using Froe.Core.Register;
using Froe.Store;
using Xunit;

namespace Froe.Server.Tests;

/// <summary>Which folders lie in some places, as the database finds them, is what <see cref="Folders.Holds"/> says.</summary>
public class FoldersHeldTests(Office office)
{
    [Fact]
    public async Task TheDatabaseFindsWhatTheRuleSays()
    {
        var random = new Random(20261130);
        var mark = $"H{Guid.NewGuid():n}"[..9];
        // Names that begin with one another, and that mean something where texts are compared by a pattern.
        string[] names = ["A", "AB", "A B", "A_B", "A%", "Ä"];
        var coordinator = await office.AsAsync("coordinator");
        var made = new HashSet<string> { mark, mark + " more" };
        for (var i = 0; i < 40; i++) made.Add(string.Join(" / ", [mark, .. Enumerable.Range(0, random.Next(1, 5)).Select(_ => names[random.Next(names.Length)])]));
        foreach (var path in made) await coordinator.SendAsync("/api/folders", JsonContent.Create(new { path }));
        var all = (await office.Db.ListAsync("SELECT id, path FROM folder", r => (Id: r.GetInt64(0), Path: r.GetString(1)), [])).ToDictionary(f => f.Id, f => f.Path);
        var mine = all.Values.Where(p => p.StartsWith(mark, StringComparison.Ordinal)).Order(StringComparer.Ordinal).ToArray();
        Assert.True(mine.Length > 40);

        for (var round = 0; round < 60; round++)
        {
            string[] places = [.. random.GetItems(mine, random.Next(1, 6)).Distinct(), .. round % 5 == 0 ? ["there is none"] : Array.Empty<string>()];
            var found = await VisibilitySql.FoldersAsync(office.Db, places, TestContext.Current.CancellationToken);
            Assert.Equal(found.Length, found.Distinct().Count());
            Assert.Equal(all.Values.Where(p => places.Any(place => Folders.Holds(place, p))).Order(StringComparer.Ordinal), found.Select(f => all[f]).Order(StringComparer.Ordinal));
        }
        Assert.Empty(await VisibilitySql.FoldersAsync(office.Db, [], TestContext.Current.CancellationToken));
        // What is filed in the register itself lies in none of its folders.
        Assert.Equal([Folders.Root], (await VisibilitySql.FoldersAsync(office.Db, [Folders.Root], TestContext.Current.CancellationToken)).Select(f => all[f]));
    }

    /// <summary>A folder in other letters is no other folder; it can be written otherwise, as a whole.</summary>
    [Fact]
    public async Task NoFolderIsMadeBesideOneThatDiffersInTheCaseOfItsLettersOnly()
    {
        var coordinator = await office.AsAsync("coordinator");
        var mark = $"H{Guid.NewGuid():n}"[..9].ToUpperInvariant();
        await coordinator.SendAsync("/api/folders", JsonContent.Create(new { path = $"{mark} / Brücken" }));
        await coordinator.SendAsync("/api/folders", JsonContent.Create(new { path = $"{mark} / Plates" }));
        foreach (var path in new[] { $"{mark} / BRÜCKEN", $"{mark.ToLowerInvariant()} / Else", $"{mark} / brücken / Inside" })
            Assert.Equal((409, "folder-alike"), await coordinator.RefusedAsync("/api/folders", new { path }));
        Assert.Equal(HttpStatusCode.Conflict, (await MoveAsync("Plates", "brücken")).StatusCode);
        Assert.True((await MoveAsync("Brücken", "BRÜCKEN")).IsSuccessStatusCode);
        Assert.True((await coordinator.SendAsync("/api/folders", JsonContent.Create(new { path = $"{mark} / BRÜCKEN / Inside" }))).IsSuccessStatusCode);
        Assert.Equal([mark, $"{mark} / BRÜCKEN", $"{mark} / BRÜCKEN / Inside", $"{mark} / Plates"], await office.Db.ListAsync("SELECT path FROM folder WHERE starts_with(lower(path), lower($1)) ORDER BY path", r => r.GetString(0), [mark]));

        Task<HttpResponseMessage> MoveAsync(string from, string to) => coordinator.SendAsync("/api/folders", JsonContent.Create(new { path = $"{mark} / {from}", to = $"{mark} / {to}" }), HttpMethod.Put);
    }
}
