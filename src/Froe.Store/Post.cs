namespace Froe.Store;

/// <summary>A message as its reader sees it.</summary>
public sealed record PostedMessage(Guid Id, DateTimeOffset At, string Subject, string Body, string Link, DateTimeOffset? ReadAt);

/// <summary>A mail to go out.</summary>
/// <param name="Zone">The reader's time zone.</param>
/// <param name="Mode">How they want mail; null when they never said.</param>
/// <param name="PutOff">Whether it waited for their digest or the end of their quiet hours.</param>
public sealed record Mail(Guid Id, Guid Person, string Name, string Address, string Subject, string Body, string Link, int Attempts, string Zone, string? Mode, int DigestAt, int QuietFrom, int QuietTo, bool PutOff);

/// <summary>Messages and the outbox of mails.</summary>
public sealed class Post(Database database)
{
    /// <summary>How many messages a person has not read.</summary>
    public async Task<int> UnreadAsync(Guid person, CancellationToken stop = default) =>
        (await database.ListAsync("SELECT count(*)::int FROM message WHERE person_id = $1 AND read_at IS NULL", r => r.GetInt32(0), [person], stop))[0];

    /// <summary>Marks messages of a person as read: one, or all.</summary>
    public Task ReadAsync(Guid person, Guid? id, DateTimeOffset at, CancellationToken stop = default) => database.RunAsync(
        "UPDATE message SET read_at = $3 WHERE person_id = $1 AND read_at IS NULL AND ($2::uuid IS NULL OR id = $2)", [person, id, at.UtcDateTime], stop);

    /// <summary>Takes mails that are due, putting each off by two minutes: should this server die, another sends them then.</summary>
    public Task<List<Mail>> ClaimAsync(int count, CancellationToken stop = default) => database.ListAsync(
        """
        WITH due AS (
            UPDATE outbox SET next_at = now() + interval '2 minutes', attempts = attempts + 1
            WHERE message_id IN (SELECT message_id FROM outbox WHERE sent_at IS NULL AND next_at <= now() ORDER BY next_at LIMIT $1 FOR UPDATE SKIP LOCKED)
            RETURNING message_id, attempts, put_off_to)
        SELECT m.id, p.id, p.name, p.email, m.subject, m.body, m.link, due.attempts, p.time_zone, h.mode, coalesce(h.digest_at, 0), coalesce(h.quiet_from, 0), coalesce(h.quiet_to, 0), due.put_off_to IS NOT NULL
        FROM due JOIN message m ON m.id = due.message_id JOIN person p ON p.id = m.person_id LEFT JOIN post_hours h ON h.person_id = p.id ORDER BY m.at
        """,
        r => new Mail(r.GetGuid(0), r.GetGuid(1), r.GetString(2), r.GetString(3), r.GetString(4), r.GetString(5), r.GetString(6), r.GetInt32(7), r.GetString(8), r.TextOrNull(9), r.GetInt32(10), r.GetInt32(11), r.GetInt32(12), r.GetBoolean(13)), [count], stop);

    /// <summary>A mail waits for a time at which its reader wants it.</summary>
    public Task PutOffAsync(Guid id, DateTimeOffset to, CancellationToken stop = default) =>
        database.RunAsync("UPDATE outbox SET next_at = $2, put_off_to = $2, attempts = 0 WHERE message_id = $1", [id, to.UtcDateTime], stop);

    /// <summary>A mail is not wanted by its reader, who has the message in the app.</summary>
    public Task NotWantedAsync(Guid id, CancellationToken stop = default) =>
        database.RunAsync("UPDATE outbox SET sent_at = now(), fault = 'not wanted by mail' WHERE message_id = $1", [id], stop);

    /// <summary>A mail went out.</summary>
    public Task SentAsync(Guid id, CancellationToken stop = default) =>
        database.RunAsync("UPDATE outbox SET sent_at = now(), fault = NULL WHERE message_id = $1", [id], stop);

    /// <summary>A mail did not go out; it is tried again after <paramref name="wait"/>.</summary>
    public Task FailedAsync(Guid id, string fault, TimeSpan wait, CancellationToken stop = default) =>
        database.RunAsync("UPDATE outbox SET next_at = now() + $3, fault = $2 WHERE message_id = $1", [id, fault, wait], stop);
}
