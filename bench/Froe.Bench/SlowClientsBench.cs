using System.Diagnostics;
using System.Net.Sockets;
using System.Text;
using Froe.Server.SignIn;
using Froe.Store;

namespace Froe.Bench;

/// <summary>The desk's p95 while 60 uploads and 60 downloads of ten people creep along at 400 bytes a second, against the desk by itself.</summary>
internal static class SlowClientsBench
{
    private const int People = 10, Each = 6, BytesASecond = 400, Requests = 300;
    private static readonly TimeSpan Creep = TimeSpan.FromSeconds(60);

    public static async Task RunAsync()
    {
        await using var database = new Database(Figure.Env("FROE_DATABASE"));
        var hash = Passwords.Hash(BenchServer.Password);
        for (var i = 0; i < People; i++) await new People(database).AddAsync(new Person(Guid.CreateVersion7(), $"slow{i}", $"Slow {i}", "S", "", "s@bench.example", "UTC", false), hash, ["Staff", "Originators"]);
        using var server = BenchServer.Start(Figure.Env("FROE_DATABASE"), 5397, ("Froe__TransfersEach", "20"));
        var reader = await server.SignInAsync("slow0");
        var draft = await DraftAsync(database, reader.Http);
        var alone = await DeskAsync(reader.Http);
        using var stop = new CancellationTokenSource(Creep);
        var creeping = new List<Task>();
        for (var i = 0; i < People; i++)
        {
            var signed = await server.SignInAsync($"slow{i}");
            for (var j = 0; j < Each; j++)
            {
                creeping.Add(UploadAsync(signed, $"slow-{i}-{j}.dxf", stop.Token));
                creeping.Add(DownloadAsync(signed, draft, stop.Token));
            }
        }
        await Task.Delay(3000);
        var beside = await DeskAsync(reader.Http);
        await stop.CancelAsync();
        await Task.WhenAll(creeping.Select(c => c.ContinueWith(_ => { }, TaskScheduler.Default)));
        Figure.Print($"the desk, p95, while {People * Each} uploads and {People * Each} downloads creep, against by itself (aim: under 500 ms)", beside, alone, "ms", beside / 500, 1, atMost: true);
    }

    private static async Task<double> DeskAsync(HttpClient http)
    {
        var times = new double[Requests];
        for (var i = -20; i < Requests; i++)
        {
            var watch = Stopwatch.GetTimestamp();
            using var answer = await http.GetAsync(new Uri("/api/desk", UriKind.Relative));
            answer.EnsureSuccessStatusCode();
            await answer.Content.ReadAsStringAsync();
            if (i >= 0) times[i] = Stopwatch.GetElapsedTime(watch).TotalMilliseconds;
        }
        return times.Order().ElementAt((int)(Requests * 0.95));
    }

    /// <summary>A draft of some megabytes that do not compress, so that a download lasts.</summary>
    private static async Task<Guid> DraftAsync(Database database, HttpClient http)
    {
        var bytes = new byte[4 << 20];
        new Random(1).NextBytes(bytes);
        using var file = new MemoryStream(bytes);
        var (sha256, _) = await new Contents(database).StoreAsync(file, "image/vnd.dxf");
        var (document, revision, draft) = (Guid.CreateVersion7(), Guid.CreateVersion7(), Guid.CreateVersion7());
        await database.RunAsync(
            """
            WITH d AS (INSERT INTO document (id, number, title, kind, discipline, originator, registered_at) SELECT $1, $1::text, 'Slow', 'drawing', 'bench', id, now() FROM person WHERE login = 'slow0'),
            r AS (INSERT INTO revision (id, document_id, ordinal, label, standing) VALUES ($2, $1, 1, 'A', 'in work'))
            INSERT INTO draft (id, document_id, revision_id, ordinal, sha256, file_name, uploaded_by, uploaded_at, report, reader, prepared) SELECT $3, $1, $2, 1, $4, 'slow.dxf', id, now(), '{}', 'made up', 2 FROM person WHERE login = 'slow0'
            """, [document, revision, draft, sha256]);
        (await http.GetAsync(new Uri($"/api/drafts/{draft}/leaves", UriKind.Relative))).EnsureSuccessStatusCode();
        return draft;
    }

    private static async Task UploadAsync(BenchServer.SignedIn at, string name, CancellationToken stop)
    {
        using var client = await ConnectAsync(at, $"POST /api/uploads?name={name} HTTP/1.1", "Content-Type: application/octet-stream\r\nContent-Length: 100000000\r\n", stop);
        var drop = new byte[BytesASecond / 4];
        for (; ; await Task.Delay(250, stop)) await client.GetStream().WriteAsync(drop, stop);
    }

    private static async Task DownloadAsync(BenchServer.SignedIn at, Guid draft, CancellationToken stop)
    {
        using var client = await ConnectAsync(at, $"GET /api/drafts/{draft}/file HTTP/1.1", "", stop);
        var drop = new byte[BytesASecond / 4];
        for (; await client.GetStream().ReadAsync(drop, stop) > 0;) await Task.Delay(250, stop);
    }

    private static async Task<TcpClient> ConnectAsync(BenchServer.SignedIn at, string request, string headers, CancellationToken stop)
    {
        var (host, port) = (at.Http.BaseAddress!.Host, at.Http.BaseAddress.Port);
        var client = new TcpClient { ReceiveBufferSize = 4096 };
        await client.ConnectAsync(host, port, stop);
        await client.GetStream().WriteAsync(Encoding.ASCII.GetBytes($"{request}\r\nHost: {host}:{port}\r\nCookie: {at.Cookie}\r\nX-Froe-Form: {at.Token}\r\n{headers}\r\n"), stop);
        return client;
    }
}
