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
