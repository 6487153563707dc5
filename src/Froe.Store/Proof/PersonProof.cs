using System.Text.Json;

namespace Froe.Store.Proof;

/// <summary>
/// Whether the people whose names stand under what was signed are those that the ledger tells of: called so, signing in as that, guests or
/// not, barred or not. Of people whom somebody put into the database without an act the ledger knows nothing but what was done since.
/// </summary>
internal static class PersonProof
{
    private sealed record Told(string? Name = null, string? Login = null, bool? IsGuest = null, string? BarredReason = null);

    private sealed record Row(Guid Id, string Name, string Login, bool IsGuest, string? BarredReason);

    /// <summary>Proves people in one moment: those who did something in some chains, or whom these are about; all there are when none are named.</summary>
    public static async Task RunAsync(Database database, Guid[]? chains, Findings findings, CancellationToken stop)
    {
        await using var connection = await database.OpenAsync(stop);
        await using var transaction = await connection.BeginTransactionAsync(System.Data.IsolationLevel.RepeatableRead, stop);
        var only = chains is null ? null : (await connection.ListAsync("SELECT person_id FROM ledger_entry WHERE chain = ANY ($1) AND person_id IS NOT NULL UNION SELECT unnest($1)", r => r.GetGuid(0), [chains], stop)).ToArray();
        string Among(string column) => only is null ? "true" : $"{column} = ANY ($1)";
        object?[] values = only is null ? [] : [only];
        var told = new Dictionary<Guid, Told>();
        foreach (var (chain, action, reason, payload) in await connection.ListAsync(
            $"SELECT chain, action, reason, payload FROM ledger_entry WHERE action IN {OfficeActs.PeopleSql} AND {Among("chain")} ORDER BY chain, sequence", r => (r.GetGuid(0), r.GetString(1), r.GetString(2), r.GetString(3)), values, stop))
        {
            try
            {
                using var json = JsonDocument.Parse(payload);
                told[chain] = After(told.GetValueOrDefault(chain) ?? new(), action, reason, json.RootElement);
            }
            catch (Exception e) when (e is JsonException or KeyNotFoundException or InvalidOperationException)
            {
                findings.Add($"person {chain}: their ledger cannot be told: {e.Message}");
            }
        }
        foreach (var row in await connection.ListAsync(
            $"SELECT id, name, login, is_guest, CASE WHEN barred_at IS NOT NULL THEN barred_reason END FROM person WHERE {Among("id")}", r => new Row(r.GetGuid(0), r.GetString(1), r.GetString(2), r.GetBoolean(3), r.TextOrNull(4)), values, stop))
        {
            told.Remove(row.Id, out var known);
            Compare(row, known ?? new(), findings);
        }
        foreach (var gone in told.Values) findings.Add($"person “{gone.Name}”: they are gone");
    }

    private static Told After(Told before, string action, string reason, JsonElement payload)
    {
        var now = before with { Name = payload.GetProperty("name").GetString(), Login = payload.GetProperty("login").GetString() };
        switch (action)
        {
            case OfficeActs.PersonAdded: return now with { IsGuest = payload.GetProperty("isGuest").GetBoolean() };
            case OfficeActs.PersonBarred: return now with { BarredReason = reason };
            case OfficeActs.PersonLetIn: return now with { BarredReason = null };
        }
        if (!payload.TryGetProperty("alsoChanged", out var also)) return now;
        foreach (var what in also.EnumerateArray().Select(w => w.GetString()))
            now = what switch
            {
                OfficeActs.GuestFromNowOn => now with { IsGuest = true },
                OfficeActs.GuestNoMore => now with { IsGuest = false },
                // From the command line, which lets in who was barred.
                OfficeActs.NowAdministrator => now with { BarredReason = null },
                _ => now,
            };
        return now;
    }

    private static void Compare(Row row, Told told, Findings findings)
    {
        var where = $"person {row.Id}";
        if (told.Name is not null) findings.Alike(where, "their name", told.Name, row.Name);
        if (told.Login is not null) findings.Alike(where, "what they sign in as", told.Login, row.Login);
        if (told.IsGuest is { } guest && guest != row.IsGuest) findings.Add($"{where}: they are {(row.IsGuest ? "a guest" : "no guest")}, and by the ledger {(guest ? "a guest" : "none")}");
        findings.Alike(where, "why they are barred", told.BarredReason, row.BarredReason);
    }
}
