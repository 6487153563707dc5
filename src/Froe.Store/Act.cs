using System.Text.Json;
using System.Text.Json.Serialization;
using Froe.Core.Ledger;
using Npgsql;

namespace Froe.Store;

/// <summary>A message to a person, in the app and by mail.</summary>
public sealed record Message(Guid Person, string Subject, string Body, string Link)
{
    /// <summary>The package it is about, which whoever is told of it may see from then on; null when it is about none.</summary>
    public Guid? Package { get; private init; }

    /// <summary>A message about a package.</summary>
    /// <param name="note">Number of the note it leads to.</param>
    public static Message OfPackage(Guid package, Guid person, string subject, string body, int? note = null) =>
        new(person, subject, body, $"/packages/{package}{(note is null ? "" : $"?note={note}")}") { Package = package };
}

/// <summary>
/// One act of a person: one transaction. Reads lock what they read; writes and ledger entries are gathered
/// and go to the database together with the commit, in a single round trip.
/// </summary>
public sealed class Act : IReads, IAsyncDisposable
{
    private readonly NpgsqlConnection connection;
    private readonly NpgsqlTransaction transaction;
    private readonly List<NpgsqlBatchCommand> writes = [];
    private readonly Dictionary<Guid, (long Sequence, byte[] Hash)> heads = [];
    private readonly List<(LedgerEntry Entry, byte[] Before, byte[] Hash)> entries = [];
    private readonly List<Message> messages = [];

    private string saying = "";

    private Act(NpgsqlConnection connection, NpgsqlTransaction transaction, Guid person, DateTimeOffset at, bool isPreview)
    {
        IsPreview = isPreview;
        (this.connection, this.transaction, Person, At) = (connection, transaction, person, HashChain.Cut(at));
    }

    /// <summary>How values are written as JSON, in the database and in the ledger.</summary>
    public static JsonSerializerOptions Json { get; } = new(JsonSerializerDefaults.Web)
    {
        Converters = { new JsonStringEnumConverter(JsonNamingPolicy.CamelCase), new StorableText() },
        // jsonb keeps keys in its own order, so a discriminator may come late.
        AllowOutOfOrderMetadataProperties = true,
    };

    /// <summary>The same for what is read of a file: a letter that cannot be kept is replaced and does not refuse the file.</summary>
    public static JsonSerializerOptions JsonOfFiles { get; } = new(JsonSerializerDefaults.Web)
    {
        Converters = { new JsonStringEnumConverter(JsonNamingPolicy.CamelCase), new StorableText(replaces: true) },
        AllowOutOfOrderMetadataProperties = true,
    };

    /// <summary>Who acts.</summary>
    public Guid Person { get; }

    /// <summary>When, to the microsecond.</summary>
    public DateTimeOffset At { get; }

    /// <summary>Whether it is only asked what would come of it: then nothing is kept.</summary>
    public bool IsPreview { get; }

    /// <summary>Who would be told, or is.</summary>
    public IReadOnlyCollection<Guid> Told => [.. messages.Select(m => m.Person).Distinct()];

    /// <summary>Begins.</summary>
    public static Task<Act> BeginAsync(Database database, Guid person, DateTimeOffset at, CancellationToken stop = default) => BeginAsync(database, person, at, false, stop);

    /// <summary>Begins.</summary>
    /// <param name="isPreview">Whether it is only asked what would come of it: then nothing is kept.</param>
    public static async Task<Act> BeginAsync(Database database, Guid person, DateTimeOffset at, bool isPreview, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(database);
        var connection = await database.OpenAsync(stop);
        try
        {
            return new Act(connection, await connection.BeginTransactionAsync(stop), person, at, isPreview);
        }
        catch
        {
            await connection.DisposeAsync();
            throw;
        }
    }

    /// <summary>Reads rows inside the transaction.</summary>
    public Task<List<T>> ListAsync<T>(string sql, Func<NpgsqlDataReader, T> map, object?[] values, CancellationToken stop = default) =>
        connection.ListAsync(sql, map, values, stop);

    /// <summary>Several reads in one round trip; each map is given its own result.</summary>
    public async Task ReadAsync((string Sql, object?[] Values, Action<NpgsqlDataReader> Row)[] reads, CancellationToken stop = default)
    {
        ArgumentNullException.ThrowIfNull(reads);
        await using var batch = new NpgsqlBatch(connection, transaction);
        foreach (var (sql, values, _) in reads) batch.BatchCommands.Add(BatchCommand(sql, values));
        await using var reader = await batch.ExecuteReaderAsync(stop);
        foreach (var (_, _, row) in reads)
        {
            while (await reader.ReadAsync(stop)) row(reader);
            await reader.NextResultAsync(stop);
        }
    }

    /// <summary>The statement that finds where a chain ends, for <see cref="ReadAsync"/> with <see cref="Head"/>.</summary>
    public const string HeadSql = "SELECT chain, sequence, hash FROM ledger_entry WHERE chain = $1 ORDER BY sequence DESC LIMIT 1";

    /// <summary>Notes where a chain ends.</summary>
    public void Head(NpgsqlDataReader reader)
    {
        ArgumentNullException.ThrowIfNull(reader);
        heads[reader.GetGuid(0)] = (reader.GetInt64(1), reader.GetFieldValue<byte[]>(2));
    }

    /// <summary>Gathers a write.</summary>
    public void Write(string sql, params object?[] values) => writes.Add(BatchCommand(sql, values));

    /// <summary>
    /// Appends to a chain. The caller holds the lock of what the chain is about (its package or document row),
    /// so nobody else appends meanwhile; the primary key would refuse a second entry of the same number in any case.
    /// </summary>
    public async Task AppendAsync<T>(Guid chain, string action, string reason, T payload, CancellationToken stop = default)
    {
        if (!heads.TryGetValue(chain, out var head))
        {
            head = (0, HashChain.Start);
            foreach (var found in await ListAsync(HeadSql, r => (Sequence: r.GetInt64(1), Hash: r.GetFieldValue<byte[]>(2)), [chain], stop)) head = found;
        }
        var entry = new LedgerEntry(chain, head.Sequence + 1, At, Person == Guid.Empty ? null : Person, action, reason, JsonSerializer.Serialize(payload, Json));
        var hash = HashChain.HashOf(entry, head.Hash);
        entries.Add((entry, head.Hash, hash));
        heads[chain] = (entry.Sequence, hash);
    }

    /// <summary>Finds where many chains end, in one statement, before each is appended to.</summary>
    public async Task HeadsAsync(IEnumerable<Guid> chains, CancellationToken stop = default)
    {
        ArgumentNullException.ThrowIfNull(chains);
        var missing = chains.Distinct().Where(c => !heads.ContainsKey(c)).ToArray();
        foreach (var chain in missing) NewChain(chain);
        await ReadAsync([("SELECT c, h.sequence, h.hash FROM unnest($1::uuid[]) c, LATERAL (SELECT sequence, hash FROM ledger_entry WHERE chain = c ORDER BY sequence DESC LIMIT 1) h", [missing], Head)], stop);
    }

    /// <summary>
    /// The answer given before to a request of this key, or null: what is asked twice, by a double press or a lost answer, is done once.
    /// Two requests of one key at once: the second waits here until the first has committed or failed.
    /// </summary>
    public async Task<T?> SeenAsync<T>(Guid? key, CancellationToken stop = default)
        where T : class
    {
        if (key is null) return null;
        // The lock is taken before anything else of the act is, so that two of one key cannot wait for each other.
        await ListAsync("SELECT pg_advisory_xact_lock(hashtextextended($1::text, 0))::text", r => r.GetString(0), [key], stop);
        var seen = await ListAsync("SELECT answer FROM request_seen WHERE person_id = $1 AND key = $2", r => r.GetString(0), [Person, key], stop);
        return seen.Count > 0 ? JsonSerializer.Deserialize<T>(seen[0], Json) : null;
    }

    /// <summary>Keeps the answer to a request; one without a key is not kept.</summary>
    public void Remember<T>(Guid? key, T answer)
    {
        if (key is not null)
            Write("INSERT INTO request_seen (person_id, key, at, answer) VALUES ($1, $2, $3, $4)", Person, key, At.UtcDateTime, JsonSerializer.Serialize(answer, Json));
    }

    /// <summary>Starts a chain that has no entry yet, sparing the look for its end.</summary>
    public void NewChain(Guid chain) => heads[chain] = (0, HashChain.Start);

    /// <summary>Tells a person; what people do themselves is not announced to them.</summary>
    public void Tell(Message message)
    {
        ArgumentNullException.ThrowIfNull(message);
        if (message.Person != Person && !messages.Exists(m => m.Person == message.Person && m.Subject == message.Subject)) messages.Add(message);
    }

    /// <summary>Adds words to every message of the act, after what each says itself.</summary>
    public void Say(string words) => saying = words.Trim();

    /// <summary>Sends everything gathered and commits; a preview keeps nothing. A failure leaves nothing behind.</summary>
    public async Task CommitAsync(CancellationToken stop = default)
    {
        if (IsPreview) return;
        if (entries.Count > 0)
            Write(
                """
                INSERT INTO ledger_entry (chain, sequence, at, person_id, action, reason, payload, before, hash)
                SELECT chain, sequence, $3, $4, action, reason, payload, before, hash
                FROM unnest($1::uuid[], $2::bigint[], $5::text[], $6::text[], $7::text[], $8::bytea[], $9::bytea[])
                     AS e (chain, sequence, action, reason, payload, before, hash)
                """,
                entries.Select(e => e.Entry.Chain).ToArray(), entries.Select(e => e.Entry.Sequence).ToArray(), At.UtcDateTime,
                entries[0].Entry.Person, entries.Select(e => e.Entry.Action).ToArray(), entries.Select(e => e.Entry.Reason).ToArray(),
                entries.Select(e => e.Entry.Payload).ToArray(), entries.Select(e => e.Before).ToArray(), entries.Select(e => e.Hash).ToArray());
        if (messages.Count > 0)
            Write(
                """
                WITH told AS (
                    INSERT INTO message (id, person_id, at, subject, body, link)
                    SELECT id, person, $1, subject, body, link
                    FROM unnest($2::uuid[], $3::uuid[], $4::text[], $5::text[], $6::text[]) AS m (id, person, subject, body, link)
                    RETURNING id),
                seeing AS (
                    INSERT INTO package_told (person_id, package_id)
                    SELECT person, package FROM unnest($3::uuid[], $7::uuid[]) AS s (person, package) WHERE package IS NOT NULL ON CONFLICT DO NOTHING)
                INSERT INTO outbox (message_id, next_at) SELECT id, $1 FROM told
                """,
                At.UtcDateTime, messages.Select(_ => Guid.CreateVersion7()).ToArray(), messages.Select(m => m.Person).ToArray(),
                messages.Select(m => m.Subject).ToArray(), messages.Select(m => saying.Length == 0 ? m.Body : $"{m.Body}\n{saying}".Trim()).ToArray(), messages.Select(m => m.Link).ToArray(), messages.Select(m => m.Package).ToArray());
        Write("COMMIT");
        await using var batch = new NpgsqlBatch(connection);
        foreach (var write in writes) batch.BatchCommands.Add(write);
        await batch.ExecuteNonQueryAsync(stop);
    }

    /// <inheritdoc/>
    public async ValueTask DisposeAsync()
    {
        await transaction.DisposeAsync();
        await connection.DisposeAsync();
    }

    private static NpgsqlBatchCommand BatchCommand(string sql, object?[] values)
    {
        var command = new NpgsqlBatchCommand(sql);
        foreach (var value in values) command.Parameters.Add(Commands.Parameter(value));
        return command;
    }
}
