using System.Collections.Concurrent;
using System.Diagnostics;
using System.Net.Http.Json;
using System.Net.Sockets;
using System.Security.Cryptography;
using System.Text.Json;
using Froe.Core.Register;
using Froe.Core.Routing;
using Froe.Server.Packages;
using Froe.Server.SignIn;
using Froe.Store;
using Microsoft.Extensions.DependencyInjection;
using Xunit;

namespace Froe.Server.Tests;

/// <summary>Tests that run while no other does: they change what others count, and want the machine to themselves.</summary>
[CollectionDefinition(Name, DisableParallelization = true)]
public sealed class Alone
{
    public const string Name = "alone";
}

/// <summary>
/// Two real server processes on one database, killed in turn without warning while eight people sign; and the same with
/// PostgreSQL itself killed. Whoever got no answer asks
/// again with the same key, as the page does. Afterwards no acknowledged sign-off is missing, none is there twice, and every
/// ledger replayed is what the tables hold.
/// </summary>
[Collection(Alone.Name)]
public sealed class CrashTests(Office office) : IDisposable
{
    private const int Signers = 8;

    /// <summary>Sign-offs of each that go on while something starts again.</summary>
    private const int MostAhead = 3;

    private readonly Process?[] servers = new Process?[2];
    private readonly Random random = new(20261123);

    private static string Address(int server) => $"http://127.0.0.1:{5461 + server}";

    [Fact]
    public Task KillsOfServersLoseNoAcknowledgedActDoubleNoneAndLeaveNoHalfState() => RunAsync("server", Office.IsLong ? 1200 : 120, Office.IsLong ? 50 : 4, async kill =>
    {
        servers[kill % 2]!.Kill(entireProcessTree: true);
        await servers[kill % 2]!.WaitForExitAsync();
        await StartAsync(kill % 2);
    });

    [Fact]
    public async Task KillsOfPostgreSqlLoseNoAcknowledgedActDoubleNoneAndLeaveNoHalfState()
    {
        var script = Environment.GetEnvironmentVariable("FROE_CRASH_POSTGRES") ?? throw new InvalidOperationException("Run the tests through ./froe test.");
        await RunAsync("postgres", Office.IsLong ? 400 : 120, Office.IsLong ? 10 : 3, async _ =>
        {
            using var crash = Process.Start(new ProcessStartInfo("bash", script))!;
            await crash.WaitForExitAsync();
            Assert.Equal(0, crash.ExitCode);
            await Task.Delay(500);
        });
        // What the kills broke leaves the pools before another test is given it.
        foreach (var database in new[] { office.Db, office.OwnerDb })
            await Task.WhenAll(Enumerable.Range(0, 60).Select(async _ =>
            {
                try
                {
                    await database.RunAsync("SELECT pg_sleep(0.2)", []);
                }
                catch (Npgsql.NpgsqlException)
                {
                    // That was one of them.
                }
            }));
    }

    private async Task RunAsync(string name, int count, int kills, Func<int, Task> crashAsync)
    {
        var (people, packages) = await PrepareAsync(name, count);
        for (var i = 0; i < servers.Length; i++) await StartAsync(i);
        var acknowledged = new ConcurrentDictionary<(Guid Package, Guid Person), bool>();
        var (asked, unanswered, restarting, done) = (0, 0, false, false);
        var signing = people.Select((person, i) => Task.Run(() => SignAllAsync(person, i))).ToList();
        var killedAtWork = 0;
        for (var kill = 0; kill < kills; kill++)
        {
            await Task.Delay(random.Next(100, 500));
            var before = Volatile.Read(ref unanswered);
            Volatile.Write(ref restarting, true);
            await crashAsync(kill);
            Volatile.Write(ref restarting, false);
            if (Volatile.Read(ref unanswered) > before) killedAtWork++;
        }
        Volatile.Write(ref done, true);
        await Task.WhenAll(signing);
        await MendPoolAsync();

        Assert.True(killedAtWork >= kills / 2, $"only {killedAtWork} kills met a request under way; {asked} asked, {acknowledged.Count} acknowledged");
        var rows = await office.Db.ListAsync("SELECT package_id, person_id FROM sign_off WHERE package_id = ANY ($1)", r => (r.GetGuid(0), r.GetGuid(1)), [packages.ToArray()]);
        Assert.Equal(rows.Count, rows.Distinct().Count());
        Assert.Empty(acknowledged.Keys.Except(rows));
        var ledgers = new Ledgers(office.Db);
        foreach (var package in packages)
        {
            var chain = await ledgers.ChainAsync(package);
            Assert.Null(Froe.Core.Ledger.HashChain.Verify(chain));
            var events = chain.Where(e => e.Entry.Payload.Contains("\"event\":", StringComparison.Ordinal)).Select(e => JsonSerializer.Deserialize<SlipEvent>(e.Entry.Payload, Act.Json)!);
            var replayed = SlipRules.Replay(Slip.Blank, events);
            Assert.Equal(SlipStore.Write(SlipStore.Read((await office.Db.ListAsync("SELECT slip::text FROM package WHERE id = $1", r => r.GetString(0), [package]))[0])), SlipStore.Write(replayed));
            var awaited = await office.Db.ListAsync("SELECT seat, person_id FROM awaited WHERE package_id = $1", r => (r.GetString(0), r.GetGuid(1)), [package]);
            Assert.Equal(replayed.Awaited().Select(a => (a.Seat.Key, a.Person)).Order(), awaited.Order());
            Assert.Equal(replayed.Signatures.Select(s => s.Person).Order(), rows.Where(r => r.Item1 == package).Select(r => r.Item2).Order());
        }

        async Task SignAllAsync((Guid Id, string Login) person, int number)
        {
            using var http = new HttpClient { Timeout = TimeSpan.FromSeconds(5) };
            var (server, grant, ahead) = (number % 2, "", 0);
            foreach (var package in packages)
            {
                var key = Guid.NewGuid();
                while (!Volatile.Read(ref done))
                    try
                    {
                        if (grant.Length == 0) grant = await SignInAsync(http, Address(server), person.Login);
                        Interlocked.Increment(ref asked);
                        var body = new { key, grant, seat = "seat", remark = "", verdicts = new[] { new { draft = drafts[package].Draft, sha256 = Convert.ToHexStringLower(drafts[package].Sha256), verdict = "approve", reason = "" } } };
                        using var answer = await http.PostAsJsonAsync($"{Address(server)}/api/packages/{package}/sign-offs", body);
                        if (answer.IsSuccessStatusCode)
                        {
                            acknowledged[(package, person.Id)] = true;
                            // Spread over the kills, so that most of them meet somebody signing, however long a start takes: a few go on
                            // meanwhile, on the other server, and the rest waits.
                            ahead = Volatile.Read(ref restarting) ? ahead + 1 : 0;
                            do await Task.Delay(40);
                            while (ahead >= MostAhead && Volatile.Read(ref restarting) && !Volatile.Read(ref done));
                            break;
                        }
                        var text = await answer.Content.ReadAsStringAsync();
                        Assert.True(text.Contains("confirm-again", StringComparison.Ordinal) || text.Contains("stale-page", StringComparison.Ordinal) || (int)answer.StatusCode >= 500, text);
                        if ((int)answer.StatusCode >= 500) Interlocked.Increment(ref unanswered);
                        grant = "";
                    }
                    catch (Exception e) when (e is HttpRequestException or TaskCanceledException or IOException or SocketException)
                    {
                        // Killed under way, or not up yet: the other one may be. A connection that dies as it is made comes as it is, unwrapped.
                        Interlocked.Increment(ref unanswered);
                        (server, grant) = (1 - server, "");
                        await Task.Delay(50);
                    }
            }
        }
    }

    /// <summary>Connections that a crash broke are found out and replaced when they are used.</summary>
    private async Task MendPoolAsync()
    {
        for (var i = 0; i < 5; i++)
            await Task.WhenAll(Enumerable.Range(0, 60).Select(async _ =>
            {
                try
                {
                    await office.Db.RunAsync("SELECT pg_sleep(0.05)", []);
                    await office.Services.GetRequiredService<Database>().RunAsync("SELECT pg_sleep(0.05)", []);
                }
                catch (Npgsql.NpgsqlException)
                {
                    // That one was broken.
                }
            }));
    }

    private readonly Dictionary<Guid, (Guid Draft, byte[] Sha256)> drafts = [];

    /// <summary>Eight people, and packages sent through the server's own service along a plan in which all of them sign.</summary>
    private async Task<(List<(Guid Id, string Login)> People, List<Guid> Packages)> PrepareAsync(string name, int count)
    {
        var hash = Office.PasswordHash;
        var people = new List<(Guid Id, string Login)>();
        for (var i = 0; i < Signers; i++)
        {
            people.Add((Guid.CreateVersion7(), $"{name}{i}"));
            await new People(office.Db).AddAsync(new Person(people[i].Id, people[i].Login, people[i].Login, $"S{i}", "", "", "UTC", false), hash, ["Staff"]);
        }
        var author = new Who(office.Ids["author"], "author", "A", false, new Rights([new GrantedRight(Right.Send, "")]));
        var group = new PersonGroup(Guid.CreateVersion7(), "Crash " + name, [.. people.Select(p => p.Id)]);
        await new People(office.Db).AddGroupAsync(group);
        var plan = Guid.CreateVersion7();
        await office.AddPlanAsync(plan, new Plan("Crash " + name, "", new Sequence([new Step("all", "All", "Sign.", 1, [new Seat("seat", "Seat", new GroupHolder(group.Id, 0))])])));
        var sending = office.Services.GetRequiredService<Sending>();
        var packages = new List<Guid>();
        for (var i = 0; i < count; i++)
        {
            var (document, revision, draft) = (Guid.CreateVersion7(), Guid.CreateVersion7(), Guid.CreateVersion7());
            var sha256 = SHA256.HashData(document.ToByteArray());
            await office.Db.RunAsync(
                """
                WITH c AS (INSERT INTO content VALUES ($4, 1, 'x')),
                d AS (INSERT INTO document (id, number, title, kind, discipline, originator, registered_at) VALUES ($1, $1::text, 'Crash', 'drawing', 'test', $5, now())),
                r AS (INSERT INTO revision (id, document_id, ordinal, label, standing) VALUES ($2, $1, 1, 'A', 'in work'))
                INSERT INTO draft (id, document_id, revision_id, ordinal, sha256, file_name, uploaded_by, uploaded_at, report, reader, prepared) VALUES ($3, $1, $2, 1, $4, 'x.dxf', $5, now(), '{}', 'made up', 2)
                """,
                [document, revision, draft, sha256, author.Id]);
            await office.Db.RunAsync("INSERT INTO draft_opened SELECT p, $2, now() FROM unnest($1::uuid[]) p", [people.Select(p => p.Id).ToArray(), draft]);
            var package = (await sending.SendAsync(author, new NewPackage(Guid.NewGuid(), "Crash", "", plan, [document], []), default)).Id;
            packages.Add(package);
            drafts[package] = (draft, sha256);
        }
        return (people, packages);
    }

    private async Task StartAsync(int number)
    {
        var folder = AppContext.BaseDirectory.Replace("tests/Froe.Server.Tests", "src/Froe.Server", StringComparison.Ordinal);
        var start = new ProcessStartInfo("dotnet") { WorkingDirectory = folder, RedirectStandardOutput = true, RedirectStandardError = true };
        foreach (var a in (string[])[Path.Combine(folder, "Froe.Server.dll"), "--urls", Address(number)]) start.ArgumentList.Add(a);
        start.Environment["Froe__Database"] = Environment.GetEnvironmentVariable("FROE_DATABASE");
        start.Environment["Froe__FreeGuesses"] = "100000";
        // Only beside a production server are passwords hashed by fewer rounds.
        start.Environment["DOTNET_ENVIRONMENT"] = "Development";
        start.Environment["Froe__PasswordRounds"] = $"{Office.PasswordRounds}";
        var server = servers[number] = Process.Start(start)!;
        server.BeginOutputReadLine();
        server.BeginErrorReadLine();
        using var http = new HttpClient { Timeout = TimeSpan.FromSeconds(2) };
        for (var i = 0; i < 1200; i++)
            try
            {
                if ((await http.GetAsync(new Uri(Address(number) + "/health/live"))).IsSuccessStatusCode) return;
            }
            catch (Exception e) when (e is HttpRequestException or TaskCanceledException or IOException or SocketException)
            {
                await Task.Delay(50);
            }
        throw new TimeoutException("The server did not come up.");
    }

    private static async Task<string> SignInAsync(HttpClient http, string address, string login)
    {
        async Task TokenAsync()
        {
            var session = await http.GetFromJsonAsync<JsonElement>(address + "/api/session");
            http.DefaultRequestHeaders.Remove("X-Froe-Form");
            http.DefaultRequestHeaders.Add("X-Froe-Form", session.GetProperty("formToken").GetString());
        }

        await TokenAsync();
        (await http.PostAsJsonAsync(address + "/api/session", new { login, password = Office.Password })).EnsureSuccessStatusCode();
        await TokenAsync();
        var confirmed = await (await http.PostAsJsonAsync(address + "/api/session/confirm", new { password = Office.Password })).EnsureSuccessStatusCode().Content.ReadFromJsonAsync<JsonElement>();
        return confirmed.GetProperty("grant").GetString()!;
    }

    public void Dispose()
    {
        foreach (var server in servers) server?.Kill(entireProcessTree: true);
    }
}
