using Froe.Store;
using Microsoft.Extensions.Options;

namespace Froe.Server.SignIn;

/// <summary>A session as its person sees it in the list of their own.</summary>
/// <param name="Browser">What the browser says of itself.</param>
/// <param name="IsThis">Whether it is the one that asks.</param>
public sealed record OwnSession(Guid Id, DateTimeOffset BeganAt, DateTimeOffset SeenAt, DateTimeOffset EndsAt, string Address, string Browser, bool IsThis);

/// <summary>Whose session a request belongs to, as they stand now.</summary>
public sealed record Signed(Guid Session, Guid Person, string Name, string Initials, bool IsGuest);

/// <summary>
/// Sessions are rows. One ends when its person signs out, is barred, or has a new password; when nothing was asked in it for long, and
/// at last in any case. Whether it goes on is looked up for each request; what was found holds for half a second, on every server.
/// </summary>
public sealed class Sessions(Database database, IOptions<Settings> settings, TimeProvider clock)
{
    private static readonly TimeSpan Fresh = TimeSpan.FromMilliseconds(500), SeenEvery = TimeSpan.FromMinutes(1);
    private readonly Remembered<Guid, (long At, Signed? Signed)> looked = new();

    /// <summary>Begins one.</summary>
    public async Task<Guid> BeginAsync(Guid person, string address, string browser, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(browser);
        var (id, now) = (Guid.NewGuid(), clock.GetUtcNow());
        await database.RunAsync(
            "INSERT INTO session (id, person_id, began_at, seen_at, ends_at, address, browser) VALUES ($1, $2, $3, $3, $4, $5, $6)",
            [id, person, now.UtcDateTime, now.AddHours(settings.Value.SessionHours).UtcDateTime, address, browser.Length <= 200 ? browser : browser[..200]], stop);
        return id;
    }

    /// <summary>Who a session belongs to; null when it has ended.</summary>
    public async Task<Signed?> FindAsync(Guid id, CancellationToken stop)
    {
        var (ticks, before) = (clock.GetTimestamp(), looked.Before);
        if (looked.TryGet(id, out var known) && clock.GetElapsedTime(known.At) < Fresh) return known.Signed;
        var now = clock.GetUtcNow();
        var found = await database.ListAsync(
            $"SELECT s.id, p.id, p.name, p.initials, p.is_guest, s.seen_at FROM session s JOIN person p ON p.id = s.person_id WHERE s.id = $1 AND {GoesOnSql}",
            r => (Signed: new Signed(r.GetGuid(0), r.GetGuid(1), r.GetString(2), r.GetString(3), r.GetBoolean(4)), Seen: r.Time(5)), [id, now.UtcDateTime, Idle], stop);
        var signed = found.Count > 0 ? found[0].Signed : null;
        if (signed is not null && now - found[0].Seen > SeenEvery) await database.RunAsync("UPDATE session SET seen_at = $2 WHERE id = $1 AND seen_at < $2", [id, now.UtcDateTime], stop);
        looked.Keep(id, (ticks, signed), before);
        return signed;
    }

    /// <summary>Which of these sessions go on.</summary>
    public async Task<HashSet<Guid>> GoingOnAsync(Guid[] ids, CancellationToken stop) =>
        [.. await database.ListAsync($"SELECT s.id FROM session s JOIN person p ON p.id = s.person_id WHERE s.id = ANY ($1) AND {GoesOnSql}", r => r.GetGuid(0), [ids, clock.GetUtcNow().UtcDateTime, Idle], stop)];

    /// <summary>A person's sessions that go on, the latest used first.</summary>
    public Task<List<OwnSession>> OfAsync(Guid person, Guid? current, CancellationToken stop) => database.ListAsync(
        $"SELECT s.id, s.began_at, s.seen_at, s.ends_at, s.address, s.browser FROM session s JOIN person p ON p.id = s.person_id WHERE s.person_id = $1 AND {GoesOnSql} ORDER BY s.seen_at DESC LIMIT 100",
        r => new OwnSession(r.GetGuid(0), r.Time(1), r.Time(2), r.Time(3), r.GetString(4), r.GetString(5), r.GetGuid(0) == current), [person, clock.GetUtcNow().UtcDateTime, Idle], stop);

    /// <summary>Ends one of a person's sessions; false when they have none such.</summary>
    public async Task<bool> EndAsync(Guid person, Guid id, CancellationToken stop)
    {
        var ended = await database.RunAsync("UPDATE session SET ended_at = $3 WHERE id = $1 AND person_id = $2 AND ended_at IS NULL", [id, person, clock.GetUtcNow().UtcDateTime], stop) > 0;
        Forget();
        return ended;
    }

    /// <summary>Ends a person's sessions as part of an act, all or all but one: whatever the act changes, nobody goes on under what was before.</summary>
    public static void EndAll(Act act, Guid person, Guid? butThis = null)
    {
        ArgumentNullException.ThrowIfNull(act);
        act.Write("UPDATE session SET ended_at = $2 WHERE person_id = $1 AND ended_at IS NULL AND id IS DISTINCT FROM $3::uuid", person, act.At.UtcDateTime, butThis);
    }

    /// <summary>Looks anew from here on.</summary>
    public void Forget() => looked.Forget();

    /// <summary>Drops what ended long ago.</summary>
    public Task<int> SweepAsync(CancellationToken stop) => database.RunAsync(
        "DELETE FROM session WHERE began_at < $1", [clock.GetUtcNow().AddDays(-90).UtcDateTime], stop);

    private TimeSpan Idle => TimeSpan.FromHours(settings.Value.IdleHours);

    /// <summary>Whether a session goes on: $2 is now, $3 how long it may lie unused.</summary>
    private const string GoesOnSql = "s.ended_at IS NULL AND s.ends_at > $2 AND s.seen_at > $2 - $3::interval AND p.barred_at IS NULL";
}

/// <summary>Drops what nobody needs any more: old sessions, counts of guesses, keys of requests.</summary>
public sealed class Sweeping(Database database, Sessions sessions, TimeProvider clock, ILogger<Sweeping> log) : BackgroundService
{
    private static readonly TimeSpan Every = TimeSpan.FromHours(1);

    /// <summary>How long a repeated request is known as one.</summary>
    private static readonly TimeSpan KeysKept = TimeSpan.FromDays(7);

    /// <inheritdoc/>
    protected override Task ExecuteAsync(CancellationToken stoppingToken) => Steadily.RepeatAsync(
        "Sweeping",
        async stop =>
        {
            await SweepAsync(stop);
            await Task.Delay(Every, clock, stop);
        },
        Every / 10, log, stoppingToken);

    /// <summary>Does it once.</summary>
    public async Task SweepAsync(CancellationToken stop)
    {
        await sessions.SweepAsync(stop);
        await database.RunAsync("DELETE FROM request_seen WHERE at < $1", [(clock.GetUtcNow() - KeysKept).UtcDateTime], stop);
        await database.RunAsync("DELETE FROM guess WHERE last_at < $1", [clock.GetUtcNow().AddDays(-1).UtcDateTime], stop);
    }
}
