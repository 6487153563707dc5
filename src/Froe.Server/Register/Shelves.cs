using System.Text.Json;
using Froe.Core.Register;
using Froe.Core.Routing;
using Froe.Server.Live;
using Froe.Server.SignIn;
using Froe.Store;
using Npgsql;

namespace Froe.Server.Register;

/// <summary>A folder of the register.</summary>
/// <param name="Documents">Documents filed in it, not counting folders beneath.</param>
/// <param name="Chain">Its own chain of standings; null when it follows the folder above.</param>
/// <param name="Follows">Path of the folder whose chain holds here; null when none has one.</param>
public sealed record FolderRow(string Path, int Documents, StandingChain? Chain, string? Follows);

/// <summary>A folder to make.</summary>
public sealed record NewFolder(string Path);

/// <summary>A folder's new path.</summary>
public sealed record MovedFolder(string Path, string To);

/// <summary>A folder's chain of standings; null to follow the folder above.</summary>
public sealed record FolderChain(string Path, StandingChain? Chain);

/// <summary>Documents to move along their folder's chain.</summary>
public sealed record StandingMoveWanted(Guid[] Documents, string To, string Reason);

/// <summary>Documents to file in a folder.</summary>
/// <param name="Copy">They stay where they are and are found there as well.</param>
public sealed record Filing(Guid[] Documents, string Folder, bool Copy, string Reason);

/// <summary>Documents to send for use on site.</summary>
/// <param name="Message">To the people who get them.</param>
public sealed record SendForUse(Guid[] Documents, Guid[] People, Guid[] Groups, string Reason, string Message);

/// <summary>What became of one of many.</summary>
/// <param name="Refusal">Why it was not done; null when it was.</param>
public sealed record OneOfMany(Guid Id, string Name, string? Refusal);

/// <summary>The register's folders, what is filed where, and where documents stand outside packages.</summary>
public sealed class Shelves(Database database, LiveFeed live, TimeProvider clock)
{
    private const string MovingSql =
        """
        SELECT d.number, d.folder, r.id, r.standing, r.stage,
               (SELECT count(*)::int FROM note n WHERE n.document_id = d.id AND n.kind = 'request' AND n.standing IN ('open', 'answered')),
               (SELECT coalesce(sum((x ->> 'count')::int), 0)::int FROM draft w, jsonb_array_elements(coalesce(w.report -> 'notShown', '[]')) x
                WHERE w.id = (SELECT id FROM draft WHERE revision_id = r.id ORDER BY ordinal DESC LIMIT 1))
        FROM document d JOIN LATERAL (SELECT * FROM revision WHERE document_id = d.id ORDER BY ordinal DESC LIMIT 1) r ON true
        WHERE d.id = $1 FOR UPDATE OF d
        """;

    private sealed record Moving(string Folder, Guid Revision, MovingDocument Document);

    /// <summary>A folder in a sentence.</summary>
    public static string Named(string folder) => folder.Length == 0 ? "in the register's root" : $"in “{folder}”";

    /// <summary>Every folder a person may read in, by path.</summary>
    public async Task<List<FolderRow>> ListAsync(Who who, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(who);
        var rows = await database.ListAsync(
            "SELECT f.path, (SELECT count(*)::int FROM document d WHERE d.folder = f.path), f.chain::text FROM folder f ORDER BY f.path",
            r => new FolderRow(r.GetString(0), r.GetInt32(1), ChainOf(r.TextOrNull(2)), null), [], stop);
        var own = rows.Where(r => r.Chain is not null).Select(r => r.Path).ToHashSet();
        return [.. rows.Where(r => who.Rights.For(Right.Read, r.Path) || who.Rights.Granted.Any(g => g.Right == Right.Read && Folders.Holds(r.Path, g.Folder)))
            .Select(r => r with { Follows = Folders.Upwards(r.Path).FirstOrDefault(own.Contains) })];
    }

    /// <summary>Begins an act on the folders: one at a time, for they share a chain of the ledger.</summary>
    private async Task<Act> LockFoldersAsync(Who who, CancellationToken stop)
    {
        var act = await Act.BeginAsync(database, who.Id, clock.GetUtcNow(), stop);
        try
        {
            await act.ListAsync("SELECT pg_advisory_xact_lock(7071)", _ => 0, [], stop);
            return act;
        }
        catch
        {
            await act.DisposeAsync();
            throw;
        }
    }

    /// <summary>Makes a folder, and those that hold it.</summary>
    public async Task AddAsync(Who who, string path, CancellationToken stop)
    {
        DemandAdministrator(who);
        var normal = Path(path);
        await using var act = await LockFoldersAsync(who, stop);
        if ((await act.ListAsync("SELECT path FROM folder WHERE path = $1", r => r.GetString(0), [normal], stop)).Count > 0)
            throw new Refused(new Refusal("folder-there", $"The folder “{normal}” is there already."));
        act.Write("INSERT INTO folder (path) SELECT unnest($1::text[]) ON CONFLICT DO NOTHING", [Folders.Upwards(normal).ToArray()]);
        await act.AppendAsync(OfficeActs.Folders, OfficeActs.FolderMade, "", new { Path = normal }, stop);
        await act.CommitAsync(stop);
        live.Announce("office", Guid.Empty);
    }

    /// <summary>Moves or renames a folder with everything beneath it.</summary>
    public async Task MoveAsync(Who who, MovedFolder wanted, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(wanted);
        DemandAdministrator(who);
        var to = Path(wanted.To);
        if (wanted.Path.Length == 0) throw Refused.Invalid("root-stays", "The register itself cannot be moved.");
        if (Folders.Holds(wanted.Path, to)) throw Refused.Invalid("into-itself", "A folder cannot be moved into itself.");
        await using var act = await LockFoldersAsync(who, stop);
        if ((await act.ListAsync("SELECT path FROM folder WHERE path = $1 FOR UPDATE", r => r.GetString(0), [wanted.Path], stop)).Count == 0) throw Refused.Missing("folder");
        if ((await act.ListAsync("SELECT path FROM folder WHERE path = $1", r => r.GetString(0), [to], stop)).Count > 0) throw new Refused(new Refusal("folder-there", $"The folder “{to}” is there already. Choose another name."));
        act.Write("INSERT INTO folder (path) SELECT unnest($1::text[]) ON CONFLICT DO NOTHING", [Folders.Upwards(to).Skip(1).ToArray()]);
        act.Write("UPDATE folder SET path = $2 || substr(path, length($1) + 1) WHERE path = $1 OR starts_with(path, $1 || ' / ')", wanted.Path, to);
        await act.AppendAsync(OfficeActs.Folders, OfficeActs.FolderMoved, "", new { wanted.Path, To = to }, stop);
        await act.CommitAsync(stop);
        live.Announce("office", Guid.Empty);
    }

    /// <summary>Removes an empty folder.</summary>
    public async Task RemoveAsync(Who who, string path, CancellationToken stop)
    {
        DemandAdministrator(who);
        if (path.Length == 0) throw Refused.Invalid("root-stays", "The register itself cannot be removed.");
        await using var act = await LockFoldersAsync(who, stop);
        if ((await act.ListAsync("SELECT path FROM folder WHERE path = $1 OR starts_with(path, $1 || ' / ')", r => r.GetString(0), [path], stop)) is not [var only] || only != path)
            throw new Refused(new Refusal("folder-holds", "There is no such folder, or it holds others. Remove those first."));
        act.Write("DELETE FROM folder WHERE path = $1", path);
        await act.AppendAsync(OfficeActs.Folders, OfficeActs.FolderRemoved, "", new { Path = path }, stop);
        try
        {
            await act.CommitAsync(stop);
        }
        catch (PostgresException e) when (e.SqlState == PostgresErrorCodes.ForeignKeyViolation)
        {
            throw new Refused(new Refusal("folder-holds", "Documents are filed here, or rights are given for it. Move the documents and take the rights away first."));
        }
        live.Announce("office", Guid.Empty);
    }

    /// <summary>Sets a folder's chain of standings.</summary>
    public async Task SetChainAsync(Who who, FolderChain wanted, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(wanted);
        DemandAdministrator(who);
        if (wanted.Chain is { } chain && StandingRules.Check(chain) is { } fault) throw Refused.Invalid(fault.Code, fault.Reason);
        await using var act = await LockFoldersAsync(who, stop);
        if ((await act.ListAsync("SELECT path FROM folder WHERE path = $1", r => r.GetString(0), [wanted.Path], stop)).Count == 0) throw Refused.Missing("folder");
        act.Write("UPDATE folder SET chain = $2::jsonb WHERE path = $1", wanted.Path, wanted.Chain is null ? null : JsonSerializer.Serialize(wanted.Chain, Act.Json));
        await act.AppendAsync(OfficeActs.Folders, OfficeActs.ChainSet, "", wanted, stop);
        await act.CommitAsync(stop);
        live.Announce("office", Guid.Empty);
    }

    /// <summary>Moves documents along their chains, each by itself: what one lacks holds up no other.</summary>
    public async Task<List<OneOfMany>> MoveStandingsAsync(Who who, StandingMoveWanted wanted, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(who);
        ArgumentNullException.ThrowIfNull(wanted);
        var reason = Reason(wanted.Reason);
        var groups = (await database.ListAsync("SELECT group_id FROM group_member WHERE person_id = $1", r => r.GetGuid(0), [who.Id], stop)).ToHashSet();
        var done = new List<OneOfMany>();
        foreach (var id in wanted.Documents.Distinct().Take(500))
        {
            await using var act = await Act.BeginAsync(database, who.Id, clock.GetUtcNow(), stop);
            if (await FindAsync(act, who, id, stop) is not { } at)
            {
                done.Add(NoSuch(id));
                continue;
            }
            if (await ChainAsync(act, at.Folder, stop) is not { } chain)
            {
                done.Add(new(id, at.Document.Number, $"{at.Document.Number}: {Named(at.Folder)} documents have no chain of standings."));
                continue;
            }
            var (passages, refusal) = StandingRules.Move(chain, at.Document, wanted.To, groups, who.Rights.For(Right.MoveStandings, at.Folder));
            done.Add(new(id, at.Document.Number, refusal?.Reason));
            if (refusal is not null || passages.IsEmpty) continue;
            act.Write("UPDATE revision SET stage = $2 WHERE id = $1", at.Revision, wanted.To);
            foreach (var (from, to) in passages) await act.AppendAsync(id, "standing moved", reason, new { From = from, To = to }, stop);
            await act.CommitAsync(stop);
            live.Announce("document", id);
        }
        return done;
    }

    /// <summary>Files documents in a folder, each with its own entry in its ledger.</summary>
    public async Task<List<OneOfMany>> FileAsync(Who who, Filing wanted, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(who);
        ArgumentNullException.ThrowIfNull(wanted);
        var (reason, folder) = (Reason(wanted.Reason), Folders.Normal(wanted.Folder));
        var done = new List<OneOfMany>();
        foreach (var id in wanted.Documents.Distinct().Take(500))
        {
            await using var act = await Act.BeginAsync(database, who.Id, clock.GetUtcNow(), stop);
            if (await FindAsync(act, who, id, stop) is not { } at)
            {
                done.Add(NoSuch(id));
                continue;
            }
            if ((await act.ListAsync("SELECT path FROM folder WHERE path = $1", r => r.GetString(0), [folder], stop)).Count == 0) throw Refused.Missing("folder");
            if (!who.Rights.ForAll(Right.Send, [at.Folder, folder]) && !who.Rights.ForAll(Right.Coordinate, [at.Folder, folder]))
            {
                done.Add(new(id, at.Document.Number, $"{at.Document.Number}: filing takes the right to send, or to coordinate, both {Named(at.Folder)} and {Named(folder)}."));
                continue;
            }
            await FileAsync(act, id, folder, wanted.Copy, reason, null, stop);
            await act.CommitAsync(stop);
            done.Add(new(id, at.Document.Number, null));
            live.Announce("document", id);
        }
        return done;
    }

    /// <summary>Files a document as part of an act; the folder is made when it is missing.</summary>
    public static async Task FileAsync(Act act, Guid document, string folder, bool copy, string reason, string? package, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(act);
        act.Write("INSERT INTO folder (path) SELECT unnest($1::text[]) ON CONFLICT DO NOTHING", [Folders.Upwards(folder).ToArray()]);
        if (copy) act.Write("INSERT INTO document_place (document_id, folder) SELECT $1, $2 WHERE NOT EXISTS (SELECT 1 FROM document WHERE id = $1 AND folder = $2) ON CONFLICT DO NOTHING", document, folder);
        else
        {
            act.Write("UPDATE document SET folder = $2 WHERE id = $1", document, folder);
            act.Write("DELETE FROM document_place WHERE document_id = $1 AND folder = $2", document, folder);
        }
        await act.AppendAsync(document, copy ? "filed as a copy" : "filed", reason, new { Folder = folder, Package = package }, stop);
    }

    /// <summary>Sends documents for use on site: all of them, or none when one is not fit for it.</summary>
    public async Task SendForUseAsync(Who who, SendForUse wanted, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(who);
        ArgumentNullException.ThrowIfNull(wanted);
        var reason = Reason(wanted.Reason);
        if (wanted.Message.Length > 4000) throw Refused.Invalid("too-long", "The message may have 4,000 characters.");
        await using var act = await Act.BeginAsync(database, who.Id, clock.GetUtcNow(), stop);
        var numbers = new List<string>();
        foreach (var id in wanted.Documents.Distinct().Order().Take(500))
        {
            var at = await FindAsync(act, who, id, stop) ?? throw Refused.Missing("document");
            if (!who.Rights.For(Right.Send, at.Folder) && !who.Rights.For(Right.Coordinate, at.Folder)) throw Refused.Forbidden($"You have no right to send documents {Named(at.Folder)}.");
            if (StandingRules.UseFault(await ChainAsync(act, at.Folder, stop), at.Document) is { } fault) throw new Refused(fault);
            await act.AppendAsync(id, "sent for use", reason, new { wanted.People, wanted.Groups, at.Revision }, stop);
            numbers.Add(at.Document.Number);
        }
        if (numbers.Count == 0) throw Refused.Invalid("no-document", "Choose at least one document.");
        var people = await act.ListAsync("SELECT id FROM person WHERE id = ANY ($1) UNION SELECT person_id FROM group_member WHERE group_id = ANY ($2)", r => r.GetGuid(0), [wanted.People, wanted.Groups], stop);
        if (people.Count == 0) throw Refused.Invalid("nobody-told", "Choose people or a group who are to use them.");
        foreach (var person in people) act.Tell(new Message(person, $"For use: {string.Join(", ", numbers.Take(3))}{(numbers.Count > 3 ? $" and {numbers.Count - 3} more" : "")}", wanted.Message.Trim().Length > 0 ? wanted.Message.Trim() : reason, $"/register/{wanted.Documents[0]}"));
        await act.CommitAsync(stop);
        live.Announce("message", Guid.Empty);
    }

    /// <summary>A document under its lock; null when there is none that this person may read.</summary>
    private static async Task<Moving?> FindAsync(Act act, Who who, Guid id, CancellationToken stop)
    {
        var found = await act.ListAsync(MovingSql, r => new Moving(r.GetString(1), r.GetGuid(2), new MovingDocument(r.GetString(0), r.GetString(3), r.GetString(4), r.GetInt32(5), r.GetInt32(6))), [id], stop);
        return found.Count > 0 && who.Rights.For(Right.Read, found[0].Folder) ? found[0] : null;
    }

    /// <summary>One of many that is not there: the others are done all the same, and this one has its word.</summary>
    private static OneOfMany NoSuch(Guid id) => new(id, "", "There is no such document.");

    /// <summary>The chain that holds in a folder: its own, or that of the nearest folder above that has one.</summary>
    private static async Task<StandingChain?> ChainAsync(Act act, string folder, CancellationToken stop)
    {
        var chains = await act.ListAsync(
            "SELECT chain::text FROM folder WHERE path = ANY ($1) AND chain IS NOT NULL ORDER BY length(path) DESC LIMIT 1", r => ChainOf(r.GetString(0)), [Folders.Upwards(folder).ToArray()], stop);
        return chains.Count > 0 ? chains[0] : null;
    }

    private static StandingChain? ChainOf(string? json) => json is null ? null : JsonSerializer.Deserialize<StandingChain>(json, Act.Json);

    private static string Reason(string reason)
    {
        if (string.IsNullOrWhiteSpace(reason)) throw Refused.Invalid("missing-reason", "Say why: the reason goes into the record.");
        return reason.Trim().Length <= 4000 ? reason.Trim() : throw Refused.Invalid("too-long", "The reason may have 4,000 characters.");
    }

    private static string Path(string path)
    {
        var normal = Folders.Normal(path);
        if (normal.Length == 0) throw Refused.Invalid("folder-without-name", "Give the folder a name.");
        return normal.Length <= Folders.Longest ? normal : throw Refused.Invalid("long-folder", $"A folder's path may have {Folders.Longest} characters.");
    }

    private static void DemandAdministrator(Who who)
    {
        ArgumentNullException.ThrowIfNull(who);
        if (!who.Rights.Anywhere(Right.Administer)) throw Refused.Forbidden("Only administrators change folders and their chains.");
    }
}

/// <summary>Folders, filing and standings over HTTP.</summary>
internal static class ShelfEndpoints
{
    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/folders", async (Who who, Shelves shelves, CancellationToken stop) => (await shelves.ListAsync(who, stop)).AsReadOnly());
        api.MapPost("/folders", async (NewFolder wanted, Who who, Shelves shelves, CancellationToken stop) =>
        {
            await shelves.AddAsync(who, wanted.Path, stop);
            return TypedResults.NoContent();
        });
        api.MapPut("/folders", async (MovedFolder wanted, Who who, Shelves shelves, CancellationToken stop) =>
        {
            await shelves.MoveAsync(who, wanted, stop);
            return TypedResults.NoContent();
        });
        api.MapDelete("/folders", async (string path, Who who, Shelves shelves, CancellationToken stop) =>
        {
            await shelves.RemoveAsync(who, path, stop);
            return TypedResults.NoContent();
        });
        api.MapPut("/folders/chain", async (FolderChain wanted, Who who, Shelves shelves, CancellationToken stop) =>
        {
            await shelves.SetChainAsync(who, wanted, stop);
            return TypedResults.NoContent();
        });
        api.MapPost("/documents/standings", async (StandingMoveWanted wanted, Who who, Shelves shelves, CancellationToken stop) => (await shelves.MoveStandingsAsync(who, wanted, stop)).AsReadOnly());
        api.MapPost("/documents/places", async (Filing wanted, Who who, Shelves shelves, CancellationToken stop) => (await shelves.FileAsync(who, wanted, stop)).AsReadOnly());
        api.MapPost("/documents/use", async (SendForUse wanted, Who who, Shelves shelves, CancellationToken stop) =>
        {
            await shelves.SendForUseAsync(who, wanted, stop);
            return TypedResults.NoContent();
        });
    }
}
