using System.ComponentModel.DataAnnotations;
using System.Text.Json;
using Froe.Core.Register;
using Froe.Core.Routing;
using Froe.Server.Changes;
using Froe.Server.SignIn;
using Froe.Store;
using Npgsql;

namespace Froe.Server.Register;

/// <summary>A folder of the register.</summary>
/// <param name="Documents">Documents filed in it that the reader may see, not counting folders beneath.</param>
/// <param name="HasInner">Whether there are folders in it.</param>
/// <param name="HasStandings">Whether it has standings of its own.</param>
public sealed record FolderRow(string Path, int Documents, bool HasInner, bool HasStandings);

/// <summary>A folder with what holds in it.</summary>
/// <param name="Standings">Its own standings in order; null when it follows a folder above.</param>
/// <param name="Follows">Path of the folder above whose standings hold here; null when it has its own or none does.</param>
/// <param name="Followed">That folder's standings.</param>
public sealed record FolderDetail(string Path, StandingOrder? Standings, string? Follows, StandingOrder? Followed);

/// <summary>A folder to make.</summary>
public sealed record NewFolder([property: MaxLength(Folders.Longest)] string Path);

/// <summary>A folder's new path.</summary>
public sealed record MovedFolder([property: MaxLength(Folders.Longest)] string Path, [property: MaxLength(Folders.Longest)] string To);

/// <summary>A folder's standings in order; null to follow the folder above.</summary>
/// <param name="Was">What they were when their change was begun: what somebody else changed since is not undone unseen. Null not to look.</param>
public sealed record FolderStandings(string Path, StandingOrder? Standings, StandingsWas? Was = null);

/// <summary>A folder's own standings as somebody saw them; null where it had none.</summary>
public sealed record StandingsWas(StandingOrder? Standings);

/// <summary>Documents to move along their folder's standings.</summary>
/// <param name="Reason">For the record.</param>
/// <param name="Message">To the people told; may be empty.</param>
/// <param name="People">Who is told of it: nobody is by itself.</param>
public sealed record StandingMoveWanted(Guid[] Documents, string To, string Reason, [property: MaxLength(4000)] string Message = "", [property: MaxLength(100)] Guid[]? People = null);

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
public sealed class Shelves(Database database, Announcements changes, TimeProvider clock)
{
    private const string MovingSql =
        """
        SELECT d.number, f.path, r.id, r.standing, r.stage,
               (SELECT count(*)::int FROM note n WHERE n.document_id = d.id AND n.kind = 'request' AND n.standing IN ('open', 'answered')),
               (SELECT coalesce(sum((x ->> 'count')::int), 0)::int FROM draft w, jsonb_array_elements(coalesce(w.report -> 'notShown', '[]')) x
                WHERE w.id = (SELECT id FROM draft WHERE revision_id = r.id ORDER BY ordinal DESC LIMIT 1))
        FROM document d JOIN folder f ON f.id = d.folder_id JOIN LATERAL (SELECT * FROM revision WHERE document_id = d.id ORDER BY ordinal DESC LIMIT 1) r ON true
        WHERE d.id = $1 FOR NO KEY UPDATE OF d
        """;

    /// <summary>Most documents that can be moved, or sent for use, at once; and that can be filed.</summary>
    private const int Most = 500, MostFiled = 10_000;

    /// <summary>Documents filed in one transaction: enough to be quick, few enough that nobody waits long for one of them.</summary>
    private const int FiledTogether = 500;

    private const int MostFound = 50;

    private sealed record Moving(string Folder, Guid Revision, MovingDocument Document);

    /// <summary>A folder in a sentence.</summary>
    public static string Named(string folder) => folder.Length == 0 ? "in the register's root" : $"in “{folder}”";

    /// <summary>The folders in a folder, by name; of those that a person may not read, the ones that lead to what they may.</summary>
    public Task<List<FolderRow>> InAsync(Who who, string path, CancellationToken stop) => database.ListAsync(
        """
        SELECT f.path, (SELECT count(*)::int FROM document d WHERE d.folder_id = f.id AND ($2::bigint[] IS NULL OR d.folder_id = ANY ($2))),
               EXISTS (SELECT 1 FROM folder i WHERE i.parent = f.path AND ($2::bigint[] IS NULL OR i.id = ANY ($2) OR i.path = ANY ($3))), f.standings IS NOT NULL
        FROM folder f WHERE (f.parent = $1 OR (f.path = '' AND $1 = '')) AND ($2::bigint[] IS NULL OR f.id = ANY ($2) OR f.path = ANY ($3)) ORDER BY f.path COLLATE reading_order
        """,
        r => new FolderRow(r.GetString(0), r.GetInt32(1), r.GetBoolean(2), r.GetBoolean(3)), [path, who.ReadFolders, LeadingTo(who)], stop);

    /// <summary>Paths of folders whose path holds each of some words; of all, the first, when there are none.</summary>
    /// <param name="filing">Only those into which they may file.</param>
    public async Task<List<string>> FindAsync(Who who, string? words, bool filing, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(who);
        var all = new Conditions();
        all.AddWords(words, "f.path ILIKE @1");
        if (who.ReadFolders is { } folders) all.Add("f.id = ANY (@1)", folders);
        if (filing && who.Rights.Places(Right.Send) is { } places) all.Add("f.id = ANY (@1)", await VisibilitySql.FoldersAsync(database, places, stop));
        return await database.SearchAsync($"SELECT f.path FROM folder f WHERE {all} ORDER BY f.path COLLATE reading_order LIMIT {MostFound}", r => r.GetString(0), all.Values, who.ReadFolders is not null, stop);
    }

    /// <summary>A folder with the standings that hold in it.</summary>
    public async Task<FolderDetail> DetailAsync(Who who, string path, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(who);
        var upwards = Folders.Upwards(path).ToArray();
        if (!Visibility.Sees(who.Rights, path) || !await database.AnyAsync("SELECT 1 FROM folder WHERE path = $1", [path], stop)) throw Refused.Missing("folder");
        var found = await database.ListAsync("SELECT path, standings::text FROM folder WHERE path = ANY ($1) AND standings IS NOT NULL ORDER BY length(path) DESC LIMIT 1", r => (Path: r.GetString(0), Standings: StandingsOf(r.GetString(1))), [upwards], stop);
        var (at, order) = found.FirstOrDefault();
        return at == path && order is not null ? new FolderDetail(path, order, null, null)
            // Of a folder above that they may not read, they learn what holds, not where it comes from.
            : new FolderDetail(path, null, order is null ? null : Visibility.Sees(who.Rights, at) ? at : "", order);
    }

    /// <summary>The folders above what a person may read.</summary>
    private static string[] LeadingTo(Who who) => [.. (who.Rights.Places(Right.Read) ?? []).SelectMany(Folders.Upwards).Distinct()];

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
        await FoldersAlike.DemandNoneAsync(act, normal, null, stop);
        act.Write("INSERT INTO folder (path) SELECT unnest($1::text[]) ON CONFLICT DO NOTHING", [Folders.Upwards(normal).ToArray()]);
        await act.AppendAsync(OfficeActs.Folders, OfficeActs.FolderMade, "", new { Path = normal }, stop);
        await act.CommitAsync(stop);
        changes.Announce("office", Guid.Empty);
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
        await FoldersAlike.DemandNoneAsync(act, to, wanted.Path, stop);
        act.Write("INSERT INTO folder (path) SELECT unnest($1::text[]) ON CONFLICT DO NOTHING", [Folders.Upwards(to).Skip(1).ToArray()]);
        act.Write("UPDATE folder SET path = $2 || substr(path, length($1) + 1) WHERE path = $1 OR starts_with(path, $1 || ' / ')", wanted.Path, to);
        await act.AppendAsync(OfficeActs.Folders, OfficeActs.FolderMoved, "", new { wanted.Path, To = to }, stop);
        await act.CommitAsync(stop);
        changes.Announce("office", Guid.Empty);
    }

    /// <summary>Removes an empty folder.</summary>
    public async Task RemoveAsync(Who who, string path, CancellationToken stop)
    {
        DemandAdministrator(who);
        if (path.Length == 0) throw Refused.Invalid("root-stays", "The register itself cannot be removed.");
        await using var act = await LockFoldersAsync(who, stop);
        if (await act.ListAsync("SELECT path FROM folder WHERE path = $1 OR starts_with(path, $1 || ' / ') LIMIT 2", r => r.GetString(0), [path], stop) is not [var only] || only != path)
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
        changes.Announce("office", Guid.Empty);
    }

    /// <summary>Sets a folder's standings.</summary>
    public async Task SetStandingsAsync(Who who, FolderStandings wanted, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(wanted);
        DemandAdministrator(who);
        if (wanted.Standings is { } order && StandingRules.Check(order) is { } fault) throw Refused.Invalid(fault.Code, fault.Reason);
        await using var act = await LockFoldersAsync(who, stop);
        var there = await act.ListAsync("SELECT standings::text FROM folder WHERE path = $1", r => r.IsDBNull(0) ? null : r.GetString(0), [wanted.Path], stop);
        if (there is not [var now]) throw Refused.Missing("folder");
        if (wanted.Was is { } was && Told(was.Standings) != Told(StandingsOf(now))) throw Refused.ChangedMeanwhile("these standings");
        act.Write("UPDATE folder SET standings = $2::jsonb WHERE path = $1", wanted.Path, wanted.Standings is null ? null : JsonSerializer.Serialize(wanted.Standings, Act.Json));
        await act.AppendAsync(OfficeActs.Folders, OfficeActs.StandingsSet, "", new { wanted.Path, wanted.Standings }, stop);
        await act.CommitAsync(stop);
        changes.Announce("office", Guid.Empty);

        static string Told(StandingOrder? order) => JsonSerializer.Serialize(order, Act.Json);
    }

    /// <summary>Moves documents along their standings, each by itself: what one lacks holds up no other.</summary>
    public async Task<List<OneOfMany>> MoveStandingsAsync(Who who, StandingMoveWanted wanted, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(who);
        ArgumentNullException.ThrowIfNull(wanted);
        var reason = Reason(wanted.Reason);
        var groups = (await database.ListAsync("SELECT group_id FROM group_member WHERE person_id = $1", r => r.GetGuid(0), [who.Id], stop)).ToHashSet();
        var done = new List<OneOfMany>();
        var told = await database.ListAsync("SELECT id FROM person WHERE id = ANY ($1) AND barred_at IS NULL", r => r.GetGuid(0), [wanted.People ?? []], stop);
        if (told.Count < (wanted.People ?? []).Distinct().Count()) throw Refused.Missing("person");
        var readers = await RightHolders.ReadAsync(database, Right.Read, stop);
        foreach (var id in Bounded(wanted.Documents, Most))
        {
            await using var act = await Act.BeginAsync(database, who.Id, clock.GetUtcNow(), stop);
            if (await FindAsync(act, who, id, stop) is not { } at)
            {
                done.Add(NoSuch(id));
                continue;
            }
            if (await StandingsAsync(act, at.Folder, stop) is not { } order)
            {
                done.Add(new(id, at.Document.Number, $"{at.Document.Number}: {Named(at.Folder)} documents have no standings to move along."));
                continue;
            }
            var (passages, refusal) = StandingRules.Move(order, at.Document, wanted.To, groups, who.Rights.For(Right.MoveStandings, at.Folder));
            // Whoever may not see a document would be led to nothing: it is not told of, nor is it moved without a word to them.
            if (refusal is null && readers.ForAll([at.Folder]) is { } seeing && !told.TrueForAll(seeing.Contains))
                refusal = new Refusal("told-cannot-see", $"{at.Document.Number}: somebody who is to be told may not see documents {Named(at.Folder)}. Tell somebody else, or send it for use to them.");
            done.Add(new(id, at.Document.Number, refusal?.Reason));
            if (refusal is not null || passages.IsEmpty) continue;
            act.Write("UPDATE revision SET stage = $2 WHERE id = $1", at.Revision, wanted.To);
            foreach (var (from, to) in passages) await act.AppendAsync(id, "standing moved", reason, new { From = from, To = to }, stop);
            foreach (var person in told)
                act.Tell(new Message(person, $"{at.Document.Number} is {wanted.To} now", wanted.Message.Trim().Length > 0 ? $"{who.Name} writes: {wanted.Message.Trim()}" : reason, $"/register/{id}"));
            await act.CommitAsync(stop);
            changes.Announce("document", id);
        }
        return done;
    }

    /// <summary>Files documents in a folder, each with its own entry in its ledger: what one lacks holds up no other.</summary>
    public async Task<List<OneOfMany>> FileAsync(Who who, Filing wanted, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(who);
        ArgumentNullException.ThrowIfNull(wanted);
        var (reason, folder) = (Reason(wanted.Reason), Folders.Normal(wanted.Folder));
        var done = new Dictionary<Guid, OneOfMany>();
        // In the order of their ids, as everything locks documents.
        foreach (var together in Bounded(wanted.Documents, MostFiled).Order().Chunk(FiledTogether))
        {
            await using var act = await Act.BeginAsync(database, who.Id, clock.GetUtcNow(), stop);
            var there = (await act.ListAsync(
                "SELECT d.id, d.number, f.path FROM document d JOIN folder f ON f.id = d.folder_id WHERE d.id = ANY ($1) ORDER BY d.id FOR NO KEY UPDATE OF d",
                r => (Id: r.GetGuid(0), Number: r.GetString(1), Folder: r.GetString(2)), [together], stop)).Where(d => Visibility.Sees(who.Rights, d.Folder)).ToDictionary(d => d.Id);
            if (!Visibility.Sees(who.Rights, folder) || !await act.AnyAsync("SELECT 1 FROM folder WHERE path = $1", [folder], stop)) throw Refused.Missing("folder");
            var may = new List<Guid>();
            foreach (var id in together)
            {
                if (!there.TryGetValue(id, out var at)) done[id] = NoSuch(id);
                else if (!who.Rights.ForAll(Right.Send, [at.Folder, folder]) && !who.Rights.ForAll(Right.Coordinate, [at.Folder, folder]))
                    done[id] = new(id, at.Number, $"{at.Number}: filing takes the right to send, or to coordinate, both {Named(at.Folder)} and {Named(folder)}.");
                else
                {
                    may.Add(id);
                    done[id] = new(id, at.Number, null);
                }
            }
            if (may.Count == 0) continue;
            await FileAsync(act, [.. may], folder, wanted.Copy, reason, null, stop);
            await act.CommitAsync(stop);
            foreach (var id in may) changes.Announce("document", id);
        }
        return [.. wanted.Documents.Distinct().Select(id => done[id])];
    }

    /// <summary>Files documents as part of an act that holds their rows; the folder is made when it is missing.</summary>
    public static async Task FileAsync(Act act, Guid[] documents, string folder, bool copy, string reason, string? package, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(act);
        act.Write("INSERT INTO folder (path) SELECT unnest($1::text[]) ON CONFLICT DO NOTHING", [Folders.Upwards(folder).ToArray()]);
        if (copy)
            act.Write("INSERT INTO document_place (document_id, folder_id) SELECT d.id, f.id FROM document d, folder f WHERE d.id = ANY ($1) AND f.path = $2 AND d.folder_id <> f.id ON CONFLICT DO NOTHING", documents, folder);
        else
        {
            act.Write("UPDATE document SET folder_id = f.id FROM folder f WHERE document.id = ANY ($1) AND f.path = $2 AND document.folder_id <> f.id", documents, folder);
            act.Write("DELETE FROM document_place p USING folder f WHERE p.document_id = ANY ($1) AND p.folder_id = f.id AND f.path = $2", documents, folder);
        }
        await act.HeadsAsync(documents, stop);
        foreach (var document in documents) await act.AppendAsync(document, copy ? "filed as a copy" : "filed", reason, new { Folder = folder, Package = package }, stop);
    }

    /// <summary>Sends documents for use on site: all of them, or none when one is not fit for it.</summary>
    public async Task SendForUseAsync(Who who, SendForUse wanted, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(who);
        ArgumentNullException.ThrowIfNull(wanted);
        var reason = Reason(wanted.Reason);
        if (wanted.Message.Length > 4000) throw Refused.Invalid("too-long", "The message may have 4,000 characters.");
        await using var act = await Act.BeginAsync(database, who.Id, clock.GetUtcNow(), stop);
        var (numbers, revisions) = (new List<string>(), new List<Guid>());
        foreach (var id in Bounded(wanted.Documents, Most).Order())
        {
            var at = await FindAsync(act, who, id, stop) ?? throw Refused.Missing("document");
            if (!who.Rights.For(Right.Send, at.Folder) && !who.Rights.For(Right.Coordinate, at.Folder)) throw Refused.Forbidden($"You have no right to send documents {Named(at.Folder)}.");
            if (StandingRules.UseFault(await StandingsAsync(act, at.Folder, stop), at.Document) is { } fault) throw new Refused(fault);
            await act.AppendAsync(id, "sent for use", reason, new { wanted.People, wanted.Groups, at.Revision }, stop);
            numbers.Add(at.Document.Number);
            revisions.Add(at.Revision);
        }
        if (numbers.Count == 0) throw Refused.Invalid("no-document", "Choose at least one document.");
        var people = await act.ListAsync("SELECT id FROM person WHERE id = ANY ($1) AND barred_at IS NULL UNION SELECT person_id FROM group_member WHERE group_id = ANY ($2)", r => r.GetGuid(0), [wanted.People, wanted.Groups], stop);
        if (people.Count == 0) throw Refused.Invalid("nobody-told", "Choose people or a group who are to use them.");
        // Whoever gets them may see them, and is told when they are superseded or withdrawn.
        act.Write("INSERT INTO revision_use (revision_id, person_id, at) SELECT r, p, $3 FROM unnest($1::uuid[]) r, unnest($2::uuid[]) p ON CONFLICT DO NOTHING", revisions.ToArray(), people.ToArray(), act.At.UtcDateTime);
        foreach (var person in people) act.Tell(new Message(person, $"For use: {string.Join(", ", numbers.Take(3))}{(numbers.Count > 3 ? $" and {numbers.Count - 3} more" : "")}", wanted.Message.Trim().Length > 0 ? wanted.Message.Trim() : reason, $"/register/{wanted.Documents[0]}"));
        await act.CommitAsync(stop);
        foreach (var person in people) changes.Announce("message", person);
    }

    /// <summary>Each document once; too many are refused, and none is left out without a word.</summary>
    private static List<Guid> Bounded(Guid[] documents, int most) =>
        documents.Distinct().ToList() is var each && each.Count <= most ? each : throw Refused.Invalid("too-many", $"At most {most:N0} documents can be taken at once. Choose fewer, then the rest.");

    /// <summary>A document under its lock; null when there is none that this person may read.</summary>
    private static async Task<Moving?> FindAsync(Act act, Who who, Guid id, CancellationToken stop)
    {
        var found = await act.ListAsync(MovingSql, r => new Moving(r.GetString(1), r.GetGuid(2), new MovingDocument(r.GetString(0), r.GetString(3), r.GetString(4), r.GetInt32(5), r.GetInt32(6))), [id], stop);
        return found.Count > 0 && who.Rights.For(Right.Read, found[0].Folder) ? found[0] : null;
    }

    /// <summary>One of many that is not there: the others are done all the same, and this one has its word.</summary>
    private static OneOfMany NoSuch(Guid id) => new(id, "", "There is no such document.");

    /// <summary>The standings that hold in a folder: its own, or those of the nearest folder above that has some.</summary>
    private static async Task<StandingOrder?> StandingsAsync(Act act, string folder, CancellationToken stop)
    {
        var found = await act.ListAsync(
            "SELECT standings::text FROM folder WHERE path = ANY ($1) AND standings IS NOT NULL ORDER BY length(path) DESC LIMIT 1", r => StandingsOf(r.GetString(0)), [Folders.Upwards(folder).ToArray()], stop);
        return found.Count > 0 ? found[0] : null;
    }

    private static StandingOrder? StandingsOf(string? json) => json is null ? null : JsonSerializer.Deserialize<StandingOrder>(json, Act.Json);

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
        if (!who.Rights.Anywhere(Right.Administer)) throw Refused.Forbidden("Only administrators change folders and their standings.");
    }
}

/// <summary>Folders, filing and standings over HTTP.</summary>
internal static class ShelfEndpoints
{
    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/folders", async (string? @in, Who who, Shelves shelves, CancellationToken stop) => (await shelves.InAsync(who, @in ?? "", stop)).AsReadOnly());
        api.MapGet("/folders/found", async (string? words, bool? filing, Who who, Shelves shelves, CancellationToken stop) => (await shelves.FindAsync(who, words, filing == true, stop)).AsReadOnly());
        api.MapGet("/folders/one", (string? path, Who who, Shelves shelves, CancellationToken stop) => shelves.DetailAsync(who, path ?? "", stop));
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
        api.MapPut("/folders/standings", async (FolderStandings wanted, Who who, Shelves shelves, CancellationToken stop) =>
        {
            await shelves.SetStandingsAsync(who, wanted, stop);
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
