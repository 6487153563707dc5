using System.Net.Http.Json;
using System.Text.Json;
using Froe.Store.Proof;
using Xunit;

namespace Froe.Server.Tests;

/// <summary>Many act on the same things at the same moment: whatever comes of it is what the ledger tells.</summary>
public class StormTests(Office office)
{
    private const int Loops = 8, Acts = 40;

    [Fact]
    public async Task WhatManyDoAtOnceIsProven()
    {
        var (admin, author, checker) = (await office.AsAsync("coordinator"), await office.AsAsync("author"), await office.AsAsync("checker"));
        var name = "storm " + Guid.NewGuid().ToString("n")[..12];
        var folders = new[] { name + " a", name + " b" };
        foreach (var path in folders) await admin.PostAsync<JsonElement>("/api/folders", new { path });
        var groups = new List<Guid>();
        for (var i = 0; i < 2; i++) groups.Add((await admin.PostAsync<JsonElement>("/api/groups", new { name = $"{name} {i}", members = new[] { office.Ids["lead"] } })).GetProperty("id").GetGuid());
        var documents = new List<Guid>();
        for (var i = 0; i < 3; i++) documents.Add(await Office.RegisterAsync(author, name));
        Guid[] packages = [await office.SendAsync(author, documents[0], documents[1]), await office.SendAsync(author, documents[2])];
        var drafts = await office.Db.ListAsync("SELECT id FROM draft WHERE document_id = ANY ($1)", r => r.GetGuid(0), [documents.ToArray()]);
        await Task.WhenAll(Enumerable.Range(0, Loops).Select(LoopAsync));
        Assert.Empty(await office.ProofAsync([.. documents, .. packages]));
        Assert.DoesNotContain((await new LedgerProof(office.Db).RunAsync(new ProofWanted())).Findings, f => f.Contains(name, StringComparison.Ordinal));
        foreach (var group in groups) await admin.DeleteAsync($"/api/groups/{group}");

        async Task LoopAsync(int seed)
        {
            var random = new Random(seed);
            T Any<T>(IReadOnlyList<T> of) => of[random.Next(of.Count)];
            Guid[] Some() => [.. new[] { "lead", "q1", "q2", "q3" }.Where(_ => random.Next(2) == 0).Select(n => office.Ids[n])];
            for (var i = 0; i < Acts; i++)
            {
                var (which, place) = (random.Next(groups.Count), random.Next(folders.Length));
                var package = Any(packages);
                var named = $"{name} {which}";
                switch (random.Next(8))
                {
                    case 0:
                        await DoAsync(admin, HttpMethod.Put, $"/api/groups/{groups[which]}", new { name = named, members = Some() });
                        break;
                    case 1:
                        await DoAsync(admin, HttpMethod.Put, $"/api/groups/{groups[which]}", new { name = named, members = Some(), rights = new[] { new { right = Any(["read", "sign"]), folder = folders[place] } } });
                        break;
                    case 2:
                        var to = $"{name} {Guid.NewGuid():n}";
                        if (await DoAsync(admin, HttpMethod.Put, "/api/folders", new { path = folders[place], to })) folders[place] = to;
                        break;
                    case 3:
                        await DoAsync(admin, HttpMethod.Post, "/api/documents/places", new { documents = new[] { Any(documents) }, folder = folders[place], copy = false, reason = "storm" });
                        break;
                    case 4:
                        await DoAsync(checker, HttpMethod.Post, $"/api/packages/{package}/notes", new { draft = Any(drafts), kind = Any(["request", "remark"]), body = "storm", marks = new[] { Drawn.Cloud() } });
                        break;
                    case 5:
                        foreach (var note in await office.Db.ListAsync("SELECT id FROM note WHERE package_id = $1 ORDER BY number DESC LIMIT 2", r => r.GetGuid(0), [package]))
                            await DoAsync(checker, HttpMethod.Post, $"/api/notes/{note}/acts", new { act = Any(["close", "reopen", "reply", "edit"]), answer = (string?)null, body = "storm " + i });
                        break;
                    case 6:
                        await DoAsync(checker, HttpMethod.Put, $"/api/drafts/{Any(drafts)}/leaves/0/scale", new { key = Guid.NewGuid(), scale = new { ratio = random.Next(10, 90) } });
                        break;
                    default:
                        await DoAsync(checker, HttpMethod.Post, $"/api/packages/{package}/advice", new { of = office.Ids["bystander"], question = "storm " + i });
                        break;
                }
            }
        }
    }

    /// <summary>Does it, or is refused; gives which. What comes too late is refused in words, never with a fault.</summary>
    private static async Task<bool> DoAsync(Browser who, HttpMethod how, string path, object body)
    {
        using var answer = await who.SendAsync(path, JsonContent.Create(body), how);
        Assert.True((int)answer.StatusCode < 500, $"{path}: {await answer.Content.ReadAsStringAsync()}");
        return answer.IsSuccessStatusCode;
    }
}
