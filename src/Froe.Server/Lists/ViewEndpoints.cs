using Froe.Server.SignIn;
using Froe.Store;

namespace Froe.Server.Lists;

/// <summary>A list as somebody likes to see it.</summary>
/// <param name="Query">Its filters, order and columns, as they stand in the page's address after the question mark.</param>
public sealed record SavedView(string Name, string Query);

/// <summary>Everybody's own views of the lists.</summary>
internal static class ViewEndpoints
{
    private const int Most = 50;
    private static readonly string[] Lists = ["desk", "register", "turnaround", "notes", "ledger", "post"];

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/views/{list}", async (string list, Who who, Database database, CancellationToken stop) => (await database.ListAsync(
            "SELECT name, query FROM saved_view WHERE person_id = $1 AND list = $2 ORDER BY name COLLATE reading_order",
            r => new SavedView(r.GetString(0), r.GetString(1)), [who.Id, Known(list)], stop)).AsReadOnly());
        api.MapPut("/views/{list}", async (string list, SavedView wanted, Who who, Database database, CancellationToken stop) =>
        {
            var name = wanted.Name.Trim();
            if (name.Length is 0 or > 60) throw Refused.Invalid("bad-name", "A view's name has 1 to 60 characters.");
            if (wanted.Query.Length > 2000) throw Refused.Invalid("too-long", "This view asks for too much to be kept. Leave out some of its filters.");
            var kept = await database.RunAsync(
                """
                INSERT INTO saved_view (person_id, list, name, query)
                SELECT $1, $2, $3, $4 WHERE (SELECT count(*) FROM saved_view WHERE person_id = $1 AND list = $2 AND name <> $3) < $5
                ON CONFLICT (person_id, list, name) DO UPDATE SET query = excluded.query
                """,
                [who.Id, Known(list), name, wanted.Query, Most], stop);
            return kept == 0 ? throw Refused.Invalid("too-many", $"You have {Most} views of this list already. Remove one first.") : TypedResults.NoContent();
        });
        api.MapDelete("/views/{list}", async (string list, string name, Who who, Database database, CancellationToken stop) =>
            await database.RunAsync("DELETE FROM saved_view WHERE person_id = $1 AND list = $2 AND name = $3", [who.Id, Known(list), name], stop) == 0 ? throw Refused.Missing("view") : TypedResults.NoContent());
    }

    private static string Known(string list) => Lists.Contains(list) ? list : throw Refused.Missing("list");
}
