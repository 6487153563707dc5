using System.Diagnostics.CodeAnalysis;
using System.Globalization;
using Npgsql;

namespace Froe.Store;

/// <summary>
/// What can be read from: the database, each read on a connection of its own, or an act under way, on the act's. Whatever an act reads
/// while it holds locks it reads through itself: a second connection would be waited for by as many acts as there are connections.
/// </summary>
public interface IReads
{
    /// <summary>Every row a query gives.</summary>
    Task<List<T>> ListAsync<T>(string sql, Func<NpgsqlDataReader, T> map, object?[] values, CancellationToken stop = default);
}

/// <summary>The one door to PostgreSQL: plain ADO.NET with positional parameters.</summary>
public sealed class Database : IReads, IAsyncDisposable
{
    /// <summary>Longest that a search may take before PostgreSQL ends it, in milliseconds.</summary>
    private const int LongestSearch = 10_000;

    /// <summary>Statements here take milliseconds; where PostgreSQL takes one for costly, compiling it takes longer than running it.</summary>
    private const string NotCompiled = "-c jit=off";

    /// <summary>What a connection of its own calls itself.</summary>
    public const string ListeningName = "froe listening";

    private readonly NpgsqlDataSource source;
    private readonly NpgsqlDataSource alone;
    private readonly NpgsqlDataSource searching;
    private readonly NpgsqlDataSource searchingPart;

    /// <summary>Opens a pool for a connection string; statements used more than once are prepared by themselves.</summary>
    public Database(string connectionString)
    {
        var builder = new NpgsqlDataSourceBuilder(connectionString);
        builder.ConnectionStringBuilder.MaxAutoPrepare = 200;
        builder.ConnectionStringBuilder.AutoPrepareMinUsages = 2;
        // Nothing here changes a session's settings, makes temporary tables or keeps session locks, so there is nothing
        // to reset when a connection goes back to the pool; resetting is seven statements parsed anew each time.
        builder.ConnectionStringBuilder.NoResetOnClose = true;
        // An act's reads and writes follow one another at once; one that stops in between holds locks that others wait for.
        builder.ConnectionStringBuilder.Options = $"{NotCompiled} -c idle_in_transaction_session_timeout=60000";
        source = builder.Build();
        builder.ConnectionStringBuilder.MaxAutoPrepare = 0;
        builder.ConnectionStringBuilder.Options = null;
        builder.ConnectionStringBuilder.Pooling = false;
        // Whoever looks at PostgreSQL's connections knows these from those that come and go.
        var name = builder.ConnectionStringBuilder.ApplicationName;
        builder.ConnectionStringBuilder.ApplicationName = ListeningName;
        alone = builder.Build();
        builder.ConnectionStringBuilder.ApplicationName = name;
        builder.ConnectionStringBuilder.Pooling = true;
        builder.ConnectionStringBuilder.Options = string.Create(CultureInfo.InvariantCulture, $"{NotCompiled} -c statement_timeout={LongestSearch}");
        builder.ConnectionStringBuilder.MaxPoolSize = 10;
        searching = builder.Build();
        builder.ConnectionStringBuilder.MaxPoolSize = 4;
        searchingPart = builder.Build();
    }

    /// <summary>A connection from the pool.</summary>
    public ValueTask<NpgsqlConnection> OpenAsync(CancellationToken stop = default) => source.OpenConnectionAsync(stop);

    /// <summary>A connection of its own for what stays connected, such as listening: it takes none from the pool, and none back to it.</summary>
    public ValueTask<NpgsqlConnection> OpenAloneAsync(CancellationToken stop = default) => alone.OpenConnectionAsync(stop);

    /// <summary>Every row a query gives.</summary>
    public async Task<List<T>> ListAsync<T>(string sql, Func<NpgsqlDataReader, T> map, object?[] values, CancellationToken stop = default)
    {
        await using var connection = await OpenAsync(stop);
        return await connection.ListAsync(sql, map, values, stop);
    }

    /// <summary>
    /// Every row a search gives. Each is planned for its own words and never prepared: the plan PostgreSQL would keep for any words
    /// walks a million rows to find a rare one.
    /// </summary>
    /// <param name="part">Whether it is for somebody who may see some folders only. Such searches cost more and have connections of their own, so that they stand in nobody else's way.</param>
    public async Task<List<T>> SearchAsync<T>(string sql, Func<NpgsqlDataReader, T> map, object?[] values, bool part, CancellationToken stop = default)
    {
        await using var connection = await (part ? searchingPart : searching).OpenConnectionAsync(stop);
        return await connection.ListAsync(sql, map, values, stop);
    }

    /// <summary>Runs a statement by itself; gives the rows touched.</summary>
    public async Task<int> RunAsync(string sql, object?[] values, CancellationToken stop = default)
    {
        await using var connection = await OpenAsync(stop);
        await using var command = connection.Command(sql, values);
        return await command.ExecuteNonQueryAsync(stop);
    }

    /// <inheritdoc/>
    public async ValueTask DisposeAsync()
    {
        await source.DisposeAsync();
        await alone.DisposeAsync();
        await searching.DisposeAsync();
        await searchingPart.DisposeAsync();
    }
}

/// <summary>Short forms for commands with positional parameters ($1, $2 …).</summary>
public static class Commands
{
    /// <summary>A parameter whose type PostgreSQL infers when the value is null.</summary>
    /// <exception cref="UnstorableTextException">It is text that PostgreSQL cannot keep.</exception>
    public static NpgsqlParameter Parameter(object? value) => new() { Value = StorableText.Checked(value) ?? DBNull.Value };

    /// <summary>A command with its values.</summary>
    [SuppressMessage("Security", "CA2100", Justification = "Every statement is a constant of this project; values are parameters.")]
    public static NpgsqlCommand Command(this NpgsqlConnection connection, string sql, object?[] values)
    {
        ArgumentNullException.ThrowIfNull(values);
        var command = new NpgsqlCommand(sql, connection);
        foreach (var value in values) command.Parameters.Add(Parameter(value));
        return command;
    }

    /// <summary>Every row a query gives.</summary>
    public static async Task<List<T>> ListAsync<T>(this NpgsqlConnection connection, string sql, Func<NpgsqlDataReader, T> map, object?[] values, CancellationToken stop = default)
    {
        ArgumentNullException.ThrowIfNull(map);
        await using var command = connection.Command(sql, values);
        await using var reader = await command.ExecuteReaderAsync(stop);
        var rows = new List<T>();
        while (await reader.ReadAsync(stop)) rows.Add(map(reader));
        return rows;
    }

    /// <summary>The first row a query gives, or null.</summary>
    public static async Task<T?> FirstAsync<T>(this IReads reads, string sql, Func<NpgsqlDataReader, T> map, object?[] values, CancellationToken stop = default)
        where T : class
    {
        ArgumentNullException.ThrowIfNull(reads);
        var rows = await reads.ListAsync(sql, map, values, stop);
        return rows.Count > 0 ? rows[0] : null;
    }

    /// <summary>Whether a query gives any row.</summary>
    public static async Task<bool> AnyAsync(this IReads reads, string sql, object?[] values, CancellationToken stop = default)
    {
        ArgumentNullException.ThrowIfNull(reads);
        return (await reads.ListAsync(sql, _ => true, values, stop)).Count > 0;
    }

    /// <summary>An id that may be missing.</summary>
    public static Guid? IdOrNull(this NpgsqlDataReader reader, int column)
    {
        ArgumentNullException.ThrowIfNull(reader);
        return reader.IsDBNull(column) ? null : reader.GetGuid(column);
    }

    /// <summary>A time of the database, UTC.</summary>
    public static DateTimeOffset Time(this NpgsqlDataReader reader, int column)
    {
        ArgumentNullException.ThrowIfNull(reader);
        return new(reader.GetDateTime(column), TimeSpan.Zero);
    }

    /// <summary>A text that may be missing.</summary>
    public static string? TextOrNull(this NpgsqlDataReader reader, int column)
    {
        ArgumentNullException.ThrowIfNull(reader);
        return reader.IsDBNull(column) ? null : reader.GetString(column);
    }

    /// <summary>A time that may be missing.</summary>
    public static DateTimeOffset? TimeOrNull(this NpgsqlDataReader reader, int column)
    {
        ArgumentNullException.ThrowIfNull(reader);
        return reader.IsDBNull(column) ? null : reader.Time(column);
    }

    /// <summary>A hash as 64 lower-case hex digits.</summary>
    public static string Hash(this NpgsqlDataReader reader, int column)
    {
        ArgumentNullException.ThrowIfNull(reader);
        return Convert.ToHexStringLower(reader.GetFieldValue<byte[]>(column));
    }
}
