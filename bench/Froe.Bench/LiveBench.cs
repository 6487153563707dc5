using System.Diagnostics;
using System.Net.Http.Json;
using System.Net.WebSockets;
using System.Text;
using System.Text.Json;
using Froe.Server.SignIn;
using Froe.Store;

namespace Froe.Bench;

/// <summary>
/// Sign-offs, ten a second, while 500 pages are open that hear of each and ask anew as the front end does (freshness.ts), against the
/// same sign-offs with no page open. A fifth of the pages shows the list of all packages, the others the desk.
/// </summary>
internal static class LiveBench
{
    private const int Pages = 500, People = 50, ActsASecond = 10, Seconds = 30;
    private const char End = '\u001e';

    public static async Task RunAsync()
    {
        await using var database = new Database(Figure.Env("FROE_DATABASE"));
        var (author, signers) = await SignOffBench.AddPeopleAsync(database);
        var hash = Passwords.Hash(BenchServer.Password);
        for (var i = 0; i < People; i++) await new People(database).AddAsync(new Person(Guid.CreateVersion7(), $"looks{i}", $"Looks {i}", "L", "", "l@bench.example", "UTC", false), hash, ["Staff"]);
        using var server = BenchServer.Start(Figure.Env("FROE_DATABASE"), 5396);
        var seats = new List<SignOffBench.Client>();
        foreach (var (i, id) in signers.Index()) seats.Add(new SignOffBench.Client(id, await server.SignInAsync($"signer{i}")));
        await SignOffBench.OursAsync(database, seats, author, 15, 1500);
        var (alone, aloneLate) = await ActsAsync(database, seats, author);
        using var stop = new CancellationTokenSource();
        var asked = new Counter();
        var open = new List<Task>();
        var people = new List<BenchServer.SignedIn>(seats.Select(s => s.At));
        for (var i = 0; i < People; i++) people.Add(await server.SignInAsync($"looks{i}"));
        for (var i = 0; i < Pages; i++) open.Add(PageAsync(people[i % people.Count], i % 5 == 0, i, asked, stop.Token));
        await Task.Delay(5000);
        var before = asked.Value;
        var (beside, besideLate) = await ActsAsync(database, seats, author);
        var requests = asked.Value - before;
        await stop.CancelAsync();
        await Task.WhenAll(open.Select(o => o.ContinueWith(_ => { }, TaskScheduler.Default)));
        Figure.Print($"a sign-off, median, with {Pages} open pages at {ActsASecond} acts a second, against with none", beside, alone, "ms", beside / alone, 2, atMost: true);
        Figure.Print("the same, p95", besideLate, aloneLate, "ms", besideLate / aloneLate, null);
        Figure.Print("requests of a page for each act of others (against one)", requests / (double)(Pages * ActsASecond * Seconds), 1, "requests", requests / (double)(Pages * ActsASecond * Seconds), 1, atMost: true);
    }

    private sealed class Counter
    {
        private int value;

        public int Value => value;

        public void Add() => Interlocked.Increment(ref value);
    }

    /// <summary>Sign-offs at an even pace; gives the median and the p95 of how long one takes, in milliseconds.</summary>
    private static async Task<(double Median, double P95)> ActsAsync(Database database, List<SignOffBench.Client> seats, Guid author)
    {
        const int Count = ActsASecond * Seconds;
        var each = Count / seats.Count + 1;
        var packages = new List<List<(Guid Package, Guid Draft, string Sha256)>>();
        var grants = new List<string?>();
        foreach (var (signer, at) in seats)
        {
            packages.Add(await SignOffBench.MakePackagesAsync(database, signer, author, each));
            grants.Add((await (await at.Http.PostAsJsonAsync("/api/session/confirm", new { password = BenchServer.Password })).Content.ReadFromJsonAsync<JsonElement>()).GetProperty("grant").GetString());
        }
        var times = new double[Count];
        var begun = Stopwatch.StartNew();
        var all = new List<Task>();
        for (var i = 0; i < Count; i++)
        {
            var wait = TimeSpan.FromSeconds(i / (double)ActsASecond) - begun.Elapsed;
            if (wait > TimeSpan.Zero) await Task.Delay(wait);
            var (n, seat) = (i, i % seats.Count);
            var (package, draft, sha256) = packages[seat][i / seats.Count];
            all.Add(Task.Run(async () =>
            {
                var watch = Stopwatch.GetTimestamp();
                var body = new { key = Guid.NewGuid(), grant = grants[seat], seat = "seat", remark = "Looked at, fine.", verdicts = new[] { new { draft, sha256, verdict = "approve", reason = "" } } };
                using var answer = await seats[seat].At.Http.PostAsJsonAsync($"/api/packages/{package}/sign-offs", body);
                answer.EnsureSuccessStatusCode();
                times[n] = Stopwatch.GetElapsedTime(watch).TotalMilliseconds;
            }));
        }
        await Task.WhenAll(all);
        var sorted = times.Order().ToArray();
        return (sorted[Count / 2], sorted[(int)(Count * 0.95)]);
    }

    /// <summary>A page as the front end has it: told of a change, it asks for what that touches, at most every two to three seconds.</summary>
    private static async Task PageAsync(BenchServer.SignedIn at, bool showsAll, int seed, Counter asked, CancellationToken stop)
    {
        var random = new Random(seed);
        using var socket = new ClientWebSocket();
        socket.Options.SetRequestHeader("Cookie", at.Cookie);
        await socket.ConnectAsync(new Uri($"ws://{at.Http.BaseAddress!.Authority}/live"), stop);
        await socket.SendAsync(Encoding.UTF8.GetBytes("{\"protocol\":\"json\",\"version\":1}" + End), WebSocketMessageType.Text, true, stop);
        var (isOld, isMine) = (false, false);
        async Task AskAsync()
        {
            while (!stop.IsCancellationRequested)
            {
                await Task.Delay(TimeSpan.FromMilliseconds(2000 + random.Next(1000)), stop);
                if (!isOld) continue;
                var paths = new List<string>();
                if (isMine) paths.AddRange(["/api/counts", .. showsAll ? [] : new[] { "/api/desk" }]);
                if (showsAll) paths.Add("/api/packages?standing=in%20review");
                (isOld, isMine) = (false, false);
                foreach (var path in paths)
                {
                    asked.Add();
                    using var answer = await at.Http.GetAsync(new Uri(path, UriKind.Relative), stop);
                    await answer.Content.ReadAsByteArrayAsync(stop);
                }
            }
        }
        var asking = AskAsync();
        var buffer = new byte[16384];
        while (!stop.IsCancellationRequested)
        {
            var part = await socket.ReceiveAsync(new ArraySegment<byte>(buffer), stop);
            var text = Encoding.UTF8.GetString(buffer, 0, part.Count);
            if (!text.Contains("\"changes\"", StringComparison.Ordinal)) continue;
            isOld = true;
            isMine |= text.Contains("\"isMine\":true", StringComparison.Ordinal);
        }
        await asking;
    }
}
