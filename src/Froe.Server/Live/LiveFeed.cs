using System.Text.Json;
using System.Threading.Channels;
using Froe.Server.Packages;
using Froe.Server.SignIn;
using Froe.Store;
using Microsoft.AspNetCore.SignalR;

namespace Froe.Server.Live;

/// <summary>Something changed; screens that show it ask again. Carries no contents, so it needs no rights of its own.</summary>
/// <param name="Kind">package, note, document, upload or message.</param>
/// <param name="Id">Of the package, document or person.</param>
public sealed record Change(string Kind, Guid Id);

/// <summary>The live connection of a browser.</summary>
internal sealed class LiveHub : Hub;

/// <summary>
/// Passes changes to every browser of every server instance through PostgreSQL's NOTIFY.
/// They are sent after the commit, gathered for a moment, on a connection of their own: a NOTIFY inside the
/// transaction would take a lock over all commits of the database and so undo group commit.
/// A change lost in a crash costs nothing: browsers ask again when they reconnect.
/// </summary>
public sealed class LiveFeed(Database database, IServiceProvider services, ILogger<LiveFeed> log) : BackgroundService
{
    private static readonly TimeSpan Gather = TimeSpan.FromMilliseconds(30);
    private static readonly TimeSpan Pause = TimeSpan.FromSeconds(1);
    private readonly Channel<Change> changes = Channel.CreateBounded<Change>(new BoundedChannelOptions(10_000) { FullMode = BoundedChannelFullMode.DropOldest });

    /// <summary>Tells every open screen.</summary>
    public void Announce(string kind, Guid id) => changes.Writer.TryWrite(new Change(kind, id));

    /// <inheritdoc/>
    protected override Task ExecuteAsync(CancellationToken stoppingToken) => Task.WhenAll(
        Steadily.RepeatAsync("Telling other servers of changes", SendAsync, Pause, log, stoppingToken),
        Steadily.RepeatAsync("Hearing of changes", ListenAsync, Pause, log, stoppingToken));

    private async Task SendAsync(CancellationToken stop)
    {
        while (await changes.Reader.WaitToReadAsync(stop))
        {
            await Task.Delay(Gather, stop);
            var gathered = new HashSet<Change>();
            while (gathered.Count < 60 && changes.Reader.TryRead(out var change)) gathered.Add(change);
            await database.RunAsync("SELECT pg_notify('froe', $1)", [JsonSerializer.Serialize(gathered, JsonSerializerOptions.Web)], stop);
        }
    }

    private async Task ListenAsync(CancellationToken stop)
    {
        var hub = services.GetRequiredService<IHubContext<LiveHub>>();
        await using var connection = await database.OpenAsync(stop);
        connection.Notification += (_, e) =>
        {
            var news = JsonSerializer.Deserialize<Change[]>(e.Payload, JsonSerializerOptions.Web)!;
            if (news.Any(c => c.Kind == "office")) services.GetRequiredService<RightsBook>().Forget();
            if (news.Any(c => c.Kind is "office" or "absence")) services.GetRequiredService<Schedules>().Forget();
            _ = hub.Clients.All.SendAsync("changes", news, stop);
        };
        await using (var listen = connection.Command("LISTEN froe", [])) await listen.ExecuteNonQueryAsync(stop);
        while (!stop.IsCancellationRequested) await connection.WaitAsync(stop);
    }
}
