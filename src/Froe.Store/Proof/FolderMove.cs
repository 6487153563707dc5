using System.Text.Json;
using Froe.Core.Register;
using Npgsql;

namespace Froe.Store.Proof;

/// <summary>A folder that was moved or called otherwise, with all that it holds.</summary>
internal sealed record FolderMove(DateTimeOffset At, string From, string To)
{
    /// <summary>Where a folder is after it.</summary>
    public string Of(string path) => Folders.Holds(From, path) ? To + path[From.Length..] : path;

    /// <summary>
    /// All of them, in their order, in one moment with what else is read on the connection: folders may be moved meanwhile.
    /// An entry that cannot be read is found where its chain is proven.
    /// </summary>
    public static async Task<IReadOnlyList<FolderMove>> AllAsync(NpgsqlConnection connection, CancellationToken stop) =>
    [
        .. (await connection.ListAsync(
            $"SELECT at, payload FROM ledger_entry WHERE chain = $1 AND action = '{OfficeActs.FolderMoved}' ORDER BY sequence",
            r => Read(r.Time(0), r.GetString(1)), [OfficeActs.Folders], stop)).OfType<FolderMove>(),
    ];

    /// <summary>
    /// Where a folder is that was called so at a time: first as the times say, then as it may be, for acts bear the time of their request and
    /// may have waited for each other. Of a move and another act within a minute, either may have come first.
    /// </summary>
    /// <param name="moves">All of them, in their order.</param>
    public static string[] Now(string path, DateTimeOffset at, IReadOnlyList<FolderMove> moves) =>
        [.. new[] { 0, -1, 1 }.Select(minutes => moves.Where(m => m.At > at.AddMinutes(minutes)).Aggregate(path, (now, move) => move.Of(now)))];

    private static FolderMove? Read(DateTimeOffset at, string payload)
    {
        try
        {
            using var json = JsonDocument.Parse(payload);
            return new FolderMove(at, json.RootElement.GetProperty("path").GetString()!, json.RootElement.GetProperty("to").GetString()!);
        }
        catch (Exception e) when (e is JsonException or KeyNotFoundException or InvalidOperationException)
        {
            return null;
        }
    }
}
