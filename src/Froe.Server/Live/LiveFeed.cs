using System.Collections.Concurrent;
using System.Text.Json;
using System.Threading.Channels;
using Froe.Server.Absences;
using Froe.Server.Changes;
using Froe.Server.SignIn;
using Froe.Store;
using Microsoft.AspNetCore.SignalR;

namespace Froe.Server.Live;

/// <summary>A change as a browser hears of it.</summary>
/// <param name="IsMine">Whether it is of a package that its person takes part in: their desk may look different for it.</param>
public sealed record News(string Kind, Guid Id, bool IsMine);

/// <summary>The live connection of a browser.</summary>
public sealed class LiveHub(LiveConnections connections) : Hub
{
    /// <inheritdoc/>
    public override async Task OnConnectedAsync()
    {
        if (Who.IdOf(Context.User!) is { } person && Who.SessionOf(Context.User!) is { } session) connections.Add(Context.ConnectionId, person, session, Context.Abort);
        else Context.Abort();
        await base.OnConnectedAsync();
    }

    /// <inheritdoc/>
    public override Task OnDisconnectedAsync(Exception? exception)
    {
        connections.Remove(Context.ConnectionId);
        return base.OnDisconnectedAsync(exception);
    }
}

/// <summary>The browsers connected to this server, by whose session they are.</summary>
public sealed class LiveConnections
{
    private readonly ConcurrentDictionary<string, (Guid Person, Guid Session, Action Abort)> all = new();

    public ILookup<Guid, string> ByPerson => all.ToLookup(c => c.Value.Person, c => c.Key);

    public Guid[] Sessions => [.. all.Values.Select(c => c.Session).Distinct()];

    public void Add(string connection, Guid person, Guid session, Action abort) => all[connection] = (person, session, abort);

    public void Remove(string connection) => all.TryRemove(connection, out _);

    /// <summary>Ends the connections of all sessions but these.</summary>
    public void Keep(IReadOnlySet<Guid> sessions, IReadOnlySet<Guid> among)
    {
        foreach (var (id, connection) in all)
            if (among.Contains(connection.Session) && !sessions.Contains(connection.Session))
            {
                all.TryRemove(id, out _);
                connection.Abort();
            }
    }
}

/// <summary>
/// Passes the changes that any server announced (<see cref="Announcements"/>) on to the browsers of this one.
/// A change lost in a crash costs nothing: browsers ask for everything again when they reconnect, and are told to when this
/// server could not listen for a while.
/// </summary>
public sealed class LiveFeed(Database database, IServiceProvider services, LiveConnections connections, Sessions sessions, RightsBook rights, ILogger<LiveFeed> log) : BackgroundService
{
    private static readonly TimeSpan Pause = TimeSpan.FromSeconds(1);

    /// <summary>How soon a live connection ends after its session.</summary>
    private static readonly TimeSpan Look = TimeSpan.FromMilliseconds(500);

    /// <inheritdoc/>
    protected override Task ExecuteAsync(CancellationToken stoppingToken) => Task.WhenAll(
        Steadily.RepeatAsync("Hearing of changes", ListenAsync, Pause, log, stoppingToken),
        Steadily.RepeatAsync("Ending live connections", EndAsync, Pause, log, stoppingToken));

    private async Task ListenAsync(CancellationToken stop)
    {
        var heard = Channel.CreateUnbounded<Change[]>();
        await using var connection = await database.OpenAloneAsync(stop);
        connection.Notification += (_, e) => heard.Writer.TryWrite(JsonSerializer.Deserialize<Change[]>(e.Payload, JsonSerializerOptions.Web)!);
        await using (var listen = connection.Command($"LISTEN {Announcements.Channel}", [])) await listen.ExecuteNonQueryAsync(stop);
        // Whatever changed while nobody listened was not heard: everything kept here is read anew, and every screen asks again.
        ForgetAll();
        await services.GetRequiredService<IHubContext<LiveHub>>().Clients.All.SendAsync("again", stop);
        using var ended = CancellationTokenSource.CreateLinkedTokenSource(stop);
        var passing = Steadily.RepeatAsync("Passing on changes", s => PassAsync(heard.Reader, s), Pause, log, ended.Token);
        try
        {
            // A line that died without a word is found out by asking.
            while (!stop.IsCancellationRequested)
                if (!await connection.WaitAsync(TimeSpan.FromSeconds(15), stop))
                    await connection.ListAsync("SELECT 1", _ => 0, [], stop);
        }
        finally
        {
            await ended.CancelAsync();
            await passing;
        }
    }

    private void ForgetAll()
    {
        rights.Forget();
        sessions.Forget();
        services.GetRequiredService<Schedules>().Forget();
    }

    private async Task PassAsync(ChannelReader<Change[]> heard, CancellationToken stop)
    {
        await foreach (var news in heard.ReadAllAsync(stop))
        {
            if (news.Any(c => c.Kind == "office")) rights.Forget();
            if (news.Any(c => c.Kind is "office" or "absence")) services.GetRequiredService<Schedules>().Forget();
            if (news.Any(c => c.Kind is "session" or "office")) sessions.Forget();
            if (news.Any(c => c.Kind == "session")) await EndOnceAsync(stop);
            await TellAsync(news, stop);
        }
    }

    /// <summary>Gives each connected person what they may know of.</summary>
    private async Task TellAsync(Change[] news, CancellationToken stop)
    {
        var hub = services.GetRequiredService<IHubContext<LiveHub>>();
        var packages = news.Where(c => c is { Kind: "package" or "notes" or "here", To: null }).Select(c => c.Id).Distinct().ToArray();
        var documents = news.Where(c => c is { Kind: "document", To: null }).Select(c => c.Id).Distinct().ToArray();
        var drafts = news.Where(c => c is { Kind: "overlay" or "sheets", To: null }).Select(c => c.Id).Distinct().ToArray();
        var partIn = packages.Length == 0 ? null : (await Access.PartInAsync(database, packages, stop)).ToLookup(p => p.Person, p => p.Package);
        foreach (var person in connections.ByPerson)
        {
            var holding = await rights.OfAsync(person.Key, stop);
            HashSet<Guid>? seen = holding.ReadFolders is { } folders ? await SeenAsync(person.Key, folders, packages, documents, drafts, stop) : null;
            var told = news.Where(c => c.To is { } to ? to == person.Key : c.Kind switch
            {
                "package" or "notes" or "here" or "document" or "overlay" or "sheets" => seen is null || seen.Contains(c.Id),
                "office" or "absence" or "plan" => c.Id == person.Key || !holding.Rights.Granted.IsEmpty,
                _ => c.Id == person.Key,
            }).Select(c => new News(c.Kind, c.Id, partIn?[person.Key].Contains(c.Id) == true)).ToArray();
            if (told.Length > 0) await hub.Clients.Clients([.. person]).SendAsync("changes", told, stop);
        }
    }

    private async Task<HashSet<Guid>> SeenAsync(Guid person, long[] folders, Guid[] packages, Guid[] documents, Guid[] drafts, CancellationToken stop)
    {
        HashSet<Guid> seen = [];
        if (packages.Length > 0) seen.UnionWith(await Access.SeenAmongAsync(database, person, folders, packages, stop));
        if (documents.Length > 0) seen.UnionWith(await database.ListAsync("SELECT id FROM document WHERE id = ANY ($1) AND folder_id = ANY ($2)", r => r.GetGuid(0), [documents, folders], stop));
        if (drafts.Length > 0) seen.UnionWith(await Access.DraftsAmongAsync(database, person, folders, drafts, stop));
        return seen;
    }

    private async Task EndAsync(CancellationToken stop)
    {
        await Task.Delay(Look, stop);
        await EndOnceAsync(stop);
    }

    private async Task EndOnceAsync(CancellationToken stop)
    {
        var open = connections.Sessions;
        if (open.Length > 0) connections.Keep(await sessions.GoingOnAsync(open, stop), open.ToHashSet());
    }
}
