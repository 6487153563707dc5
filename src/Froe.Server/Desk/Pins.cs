using Froe.Server.SignIn;
using Froe.Store;
using Microsoft.AspNetCore.Http.HttpResults;

namespace Froe.Server.Desk;

/// <summary>What can be pinned.</summary>
public enum PinKind
{
    /// <summary>A package.</summary>
    Package,

    /// <summary>A document.</summary>
    Document,
}

/// <summary>A package or a document that somebody wants at hand.</summary>
public sealed record Pinned(PinKind Kind, Guid Id, string Number, string Title);

/// <summary>What people have pinned: the last pinned first. What they may see no longer is not shown.</summary>
internal static class Pins
{
    /// <summary>More than one keeps at hand.</summary>
    private const int Most = 30;

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/pins", Of);
        foreach (var (kind, path) in new[] { (PinKind.Package, "packages"), (PinKind.Document, "documents") })
        {
            api.MapPut($"/pins/{path}/{{id:guid}}", (Guid id, Who who, Database database, TimeProvider clock, CancellationToken stop) => PinAsync(kind, id, who, database, clock, stop));
            // The pin can be taken off what one sees no longer as well.
            api.MapDelete($"/pins/{path}/{{id:guid}}", async (Guid id, Who who, Database database, CancellationToken stop) =>
            {
                await database.RunAsync($"DELETE FROM pin WHERE person_id = $1 AND {Column(kind)} = $2", [who.Id, id], stop);
                return TypedResults.NoContent();
            });
        }
    }

    private static async Task<IReadOnlyList<Pinned>> Of(Who who, Database database, CancellationToken stop)
    {
        var all = await database.ListAsync(
            """
            SELECT p.package_id IS NOT NULL, coalesce(p.package_id, p.document_id), coalesce(k.number, d.number), coalesce(k.title, d.title)
            FROM pin p LEFT JOIN package k ON k.id = p.package_id LEFT JOIN document d ON d.id = p.document_id
            WHERE p.person_id = $1 ORDER BY p.at DESC
            """,
            r => new Pinned(r.GetBoolean(0) ? PinKind.Package : PinKind.Document, r.GetGuid(1), r.GetString(2), r.GetString(3)), [who.Id], stop);
        var seen = (await SeenAsync(database, who, PinKind.Package, [.. all.Where(p => p.Kind == PinKind.Package).Select(p => p.Id)], stop))
            .Concat(await SeenAsync(database, who, PinKind.Document, [.. all.Where(p => p.Kind == PinKind.Document).Select(p => p.Id)], stop)).ToHashSet();
        return all.FindAll(p => seen.Contains(p.Id)).AsReadOnly();
    }

    private static async Task<NoContent> PinAsync(PinKind kind, Guid id, Who who, Database database, TimeProvider clock, CancellationToken stop)
    {
        if (!(await SeenAsync(database, who, kind, [id], stop)).Contains(id)) throw Refused.Missing(Words.Of(kind));
        var kept = await database.RunAsync(
            $"""
            INSERT INTO pin (person_id, {Column(kind)}, at)
            SELECT $1, $2, $3 WHERE (SELECT count(*) FROM pin WHERE person_id = $1) < $4 OR EXISTS (SELECT 1 FROM pin WHERE person_id = $1 AND {Column(kind)} = $2)
            ON CONFLICT DO NOTHING
            """,
            [who.Id, id, clock.GetUtcNow().UtcDateTime, Most], stop);
        return kept == 0 && !await database.AnyAsync($"SELECT 1 FROM pin WHERE person_id = $1 AND {Column(kind)} = $2", [who.Id, id], stop)
            ? throw Refused.Invalid("too-many", $"You have pinned {Most} already. Take one off first.")
            : TypedResults.NoContent();
    }

    private static async Task<List<Guid>> SeenAsync(Database reads, Who who, PinKind kind, Guid[] ids, CancellationToken stop) =>
        ids.Length == 0 ? []
        : kind == PinKind.Document ? await Access.DocumentsAmongAsync(reads, who, ids, stop)
        : who.ReadFolders is { } folders ? await Access.SeenAmongAsync(reads, who.Id, folders, ids, stop)
        : await reads.ListAsync("SELECT id FROM package WHERE id = ANY ($1)", r => r.GetGuid(0), [ids], stop);

    private static string Column(PinKind kind) => kind == PinKind.Package ? "package_id" : "document_id";
}
