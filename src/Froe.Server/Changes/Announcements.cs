using System.Diagnostics;
using System.Text.Json;
using System.Threading.Channels;
using Froe.Store;

namespace Froe.Server.Changes;

/// <summary>Something changed; screens that show it ask again. Carries no contents, and goes only to whoever may see what it names.</summary>
/// <param name="Kind">package, notes (of a package), here (who has a package before them), document, overlay, sheets, upload, message, office, absence, plan or session.</param>
/// <param name="Id">Of the package, document, draft (of an overlay, or of sheets), upload, plan or person.</param>
/// <param name="To">The only person it is for; null when it is for whoever may see what it names.</param>
public sealed record Change(string Kind, Guid Id, Guid? To = null);

/// <summary>
/// Announces what changed to every server instance through PostgreSQL's NOTIFY. Changes are sent after the commit, gathered for a moment,
/// on a connection of their own: a NOTIFY inside the transaction would take a lock over all commits of the database and so undo group commit.
/// </summary>
public sealed class Announcements(Database database, ILogger<Announcements> log) : BackgroundService
{
    /// <summary>The name of the channel in PostgreSQL.</summary>
    public const string Channel = "froe";

    private const int MostTogether = 60;
    private static readonly TimeSpan Gather = TimeSpan.FromMilliseconds(30), Pause = TimeSpan.FromSeconds(1);

    /// <summary>After a quiet time what one act announces is gathered, and no more: whoever watches another draw waits for it.</summary>
    private static readonly TimeSpan Quiet = TimeSpan.FromMilliseconds(100), OfOneAct = TimeSpan.FromMilliseconds(5);

    private readonly Channel<Change> changes = System.Threading.Channels.Channel.CreateBounded<Change>(new BoundedChannelOptions(10_000) { FullMode = BoundedChannelFullMode.DropOldest });

    /// <summary>What is on its way; it stays here until PostgreSQL has taken it.</summary>
    private readonly HashSet<Change> gathered = [];

    /// <summary>Tells every open screen of whoever may see it.</summary>
    public void Announce(string kind, Guid id) => changes.Writer.TryWrite(new Change(kind, id));

    /// <summary>Tells every open screen of whoever may see it, and those whom the act told that they have a message.</summary>
    public void Announce(Act act, string kind, Guid id)
    {
        ArgumentNullException.ThrowIfNull(act);
        Announce(kind, id);
        foreach (var person in act.Told) Announce("message", person);
    }

    /// <summary>Tells one person's screens.</summary>
    public void AnnounceTo(Guid person, string kind, Guid id) => changes.Writer.TryWrite(new Change(kind, id, person));

    /// <inheritdoc/>
    protected override Task ExecuteAsync(CancellationToken stoppingToken) => Steadily.RepeatAsync("Telling other servers of changes", SendAsync, Pause, log, stoppingToken);

    private async Task SendAsync(CancellationToken stop)
    {
        var sent = 0L;
        while (gathered.Count > 0 || await changes.Reader.WaitToReadAsync(stop))
        {
            if (gathered.Count == 0) await Task.Delay(Stopwatch.GetElapsedTime(sent) > Quiet ? OfOneAct : Gather, stop);
            while (gathered.Count < MostTogether && changes.Reader.TryRead(out var change)) gathered.Add(change);
            await database.RunAsync($"SELECT pg_notify('{Channel}', $1)", [JsonSerializer.Serialize(gathered, JsonSerializerOptions.Web)], stop);
            gathered.Clear();
            sent = Stopwatch.GetTimestamp();
        }
    }
}
