using Froe.Core.Draft;
using Froe.Core.Register;
using Froe.Core.Routing;
using Froe.Formats;
using Froe.Server.Changes;
using Froe.Server.SignIn;
using Froe.Store;
using Npgsql;

namespace Froe.Server.Register;

/// <summary>A document to be registered with its first draft.</summary>
/// <param name="Number">Unique in the register.</param>
/// <param name="Title">What it shows.</param>
/// <param name="Kind">drawing, model or supporting file.</param>
/// <param name="Discipline">Whose field it is, such as mechanical.</param>
/// <param name="Upload">The file, uploaded and read.</param>
/// <param name="Reason">Why, for the record; may be empty.</param>
/// <param name="Folder">Where it is filed; the register's root when missing.</param>
public sealed record NewDocument(string Number, string Title, string Kind, string Discipline, Guid Upload, string Reason, string? Folder = null);

/// <summary>The next draft of a document.</summary>
public sealed record NewDraft(Guid Upload, string Reason);

/// <summary>What was registered.</summary>
public sealed record Registered(Guid Document, Guid Draft, string Revision, int Ordinal);

/// <summary>Registering documents and their drafts.</summary>
public sealed class Registering(Database database, Announcements changes, PreparingAnew anew, TimeProvider clock)
{
    /// <summary>Registers a document in revision A with draft A.1.</summary>
    public async Task<Registered> AddDocumentAsync(Who who, NewDocument wanted, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(wanted);
        await using var act = await Act.BeginAsync(database, who.Id, clock.GetUtcNow(), stop);
        var registered = await NewDocumentAsync(act, who, wanted, stop);
        await CommitNewAsync(act, who, [wanted.Number.Trim()], stop);
        changes.Announce("document", registered.Document);
        anew.Wake();
        return registered;
    }

    /// <summary>Adds the next draft; a released document gets its next revision with it.</summary>
    public async Task<Registered> AddDraftAsync(Who who, Guid document, NewDraft wanted, CancellationToken stop)
    {
        await using var act = await Act.BeginAsync(database, who.Id, clock.GetUtcNow(), stop);
        var registered = await NextDraftAsync(act, who, document, wanted, stop);
        await act.CommitAsync(stop);
        changes.Announce("document", document);
        anew.Wake();
        return registered;
    }

    /// <summary>Commits new documents; one of a number that is taken is refused.</summary>
    /// <param name="numbers">Theirs.</param>
    internal async Task CommitNewAsync(Act act, Who who, IReadOnlyCollection<string> numbers, CancellationToken stop)
    {
        try
        {
            await act.CommitAsync(stop);
        }
        catch (PostgresException e) when (e.SqlState == PostgresErrorCodes.UniqueViolation && e.ConstraintName is "document_number_key" or "document_same_number")
        {
            var taken = await TakenAsync(database, numbers, stop);
            throw new Refused(await IsTakenAsync(who, numbers.FirstOrDefault(taken.Contains) ?? numbers.First(), stop));
        }
    }

    /// <summary>The numbers among these that documents have, by whatever case of their letters.</summary>
    internal static async Task<HashSet<string>> TakenAsync(IReads reads, IReadOnlyCollection<string> numbers, CancellationToken stop) => (await reads.ListAsync(
        """
        SELECT n FROM unnest($1::text[]) n
        JOIN LATERAL (SELECT FROM document WHERE number = n UNION ALL SELECT FROM document WHERE same_number = same_number(n) LIMIT 1) taken ON true
        """,
        r => r.GetString(0), [numbers.ToArray()], stop)).ToHashSet(StringComparer.Ordinal);

    /// <summary>Where a number's document is, and what, is told only to whoever may see it.</summary>
    internal async Task<Refusal> IsTakenAsync(Who who, string number, CancellationToken stop)
    {
        var open = (await database.ListAsync("SELECT number FROM document WHERE (number = $1 OR same_number = same_number($1)) AND ($2::bigint[] IS NULL OR folder_id = ANY ($2))", r => r.GetString(0), [number, who.ReadFolders], stop)).FirstOrDefault();
        return new Refusal("number-taken", open is not null
            ? $"Number {open} is registered already. Choose another, or open that document and upload the next draft there."
            : $"Number {number} cannot be given. Choose another, or ask your document coordinator.");
    }

    /// <summary>Registers a document within an act that does more.</summary>
    internal async Task<Registered> NewDocumentAsync(Act act, Who who, NewDocument wanted, CancellationToken stop)
    {
        var folder = Folders.Normal(wanted.Folder ?? "");
        // A folder that somebody may neither read nor send from is, to them, not there.
        if (!who.Rights.For(Right.Send, folder))
            throw Visibility.Sees(who.Rights, folder) ? Refused.Forbidden($"You have no right to register documents {Shelves.Named(folder)}. Choose another folder, or ask your administrator.") : Refused.Missing("folder");
        Demand(wanted.Number, "number", FileNames.MostNumber);
        Demand(wanted.Title, "title", 200);
        Demand(wanted.Discipline, "discipline", 60);
        if (wanted.Kind is not ("drawing" or "model" or "supporting file")) throw Refused.Invalid("bad-kind", "The kind is drawing, model or supporting file.");
        var (document, revision) = (Guid.CreateVersion7(), Guid.CreateVersion7());
        if (await act.ListAsync("SELECT id FROM folder WHERE path = $1 FOR KEY SHARE", r => r.GetInt64(0), [folder], stop) is not [var place]) throw Refused.Missing("folder");
        act.NewChain(document);
        act.Write(
            "INSERT INTO document (id, number, title, kind, discipline, originator, registered_at, folder_id) VALUES ($1, $2, $3, $4, $5, $6, $7, $8)",
            document, wanted.Number.Trim(), wanted.Title.Trim(), wanted.Kind, wanted.Discipline.Trim(), who.Id, act.At.UtcDateTime, place);
        act.Write("INSERT INTO revision (id, document_id, ordinal, label, standing) VALUES ($1, $2, 1, $3, 'in work')", revision, document, RevisionLabel.First);
        await act.AppendAsync(document, "document registered", wanted.Reason, new { wanted.Number, wanted.Title, wanted.Kind, wanted.Discipline, Folder = folder }, stop);
        var draft = await AddDraftAsync(act, document, wanted.Kind, revision, RevisionLabel.First, 1, wanted.Upload, wanted.Reason, stop);
        return new Registered(document, draft, RevisionLabel.First, 1);
    }

    /// <summary>Adds the next draft of a document within an act that does more.</summary>
    internal async Task<Registered> NextDraftAsync(Act act, Who who, Guid document, NewDraft wanted, CancellationToken stop)
    {
        // The document's row is the lock: two uploads at once get two numbers.
        var owners = await act.ListAsync("SELECT d.originator, f.path, d.kind FROM document d JOIN folder f ON f.id = d.folder_id WHERE d.id = $1 FOR NO KEY UPDATE OF d", r => (Originator: r.GetGuid(0), Folder: r.GetString(1), Kind: r.GetString(2)), [document], stop);
        var isTheirs = owners.Count > 0 && (owners[0].Originator == who.Id || (await Absences.Schedules.DeputiesAsync(act, stop)).GetValueOrDefault(owners[0].Originator) == who.Id || await SentByAsync(act, who, document, stop));
        if (owners.Count == 0 || (!isTheirs && !Visibility.Sees(who.Rights, owners[0].Folder))) throw Refused.Missing("document");
        if (!isTheirs) throw Refused.Forbidden("Only the originator of a document, or who stands in for them or sent it in a package, can upload its next draft.");
        var last = (await act.ListAsync(
            """
            SELECT r.id, r.label, r.standing, r.ordinal, coalesce(max(d.ordinal), 0)
            FROM revision r LEFT JOIN draft d ON d.revision_id = r.id WHERE r.document_id = $1
            GROUP BY r.id ORDER BY r.ordinal DESC LIMIT 1
            """,
            r => (Id: r.GetGuid(0), Label: r.GetString(1), Standing: r.GetString(2), Ordinal: r.GetInt32(3), Drafts: r.GetInt32(4)), [document], stop))[0];
        var standing = StandingWords.Parse(last.Standing);
        if (RevisionRules.IsLocked(standing))
        {
            if (!who.Rights.For(Right.UnlockReleased, owners[0].Folder)) throw Refused.Forbidden("This revision is released and locked. Starting the next one takes the right to unlock; ask your document coordinator.");
            if (string.IsNullOrWhiteSpace(wanted.Reason)) throw Refused.Invalid("missing-reason", "Say why the released revision is to change: the reason goes into the record.");
            last = (Guid.CreateVersion7(), RevisionLabel.Next(last.Label), "in work", last.Ordinal + 1, 0);
            act.Write("INSERT INTO revision (id, document_id, ordinal, label, standing) VALUES ($1, $2, $3, $4, 'in work')", last.Id, document, last.Ordinal, last.Label);
            await act.AppendAsync(document, "revision started", wanted.Reason, new { Revision = last.Label }, stop);
        }
        else if (!RevisionRules.TakesDrafts(standing, await IsBackAsync(act, last.Id, stop)))
        {
            throw new Refused(new Refusal("in-review", "This revision is in review; its next draft can be uploaded when the package comes back."));
        }
        var draft = await AddDraftAsync(act, document, owners[0].Kind, last.Id, last.Label, last.Drafts + 1, wanted.Upload, wanted.Reason, stop);
        return new Registered(document, draft, last.Label, last.Drafts + 1);
    }

    /// <summary>Whether the package on its way that holds a document is a person's, who then answers for all that is in it.</summary>
    private static Task<bool> SentByAsync(Act act, Who who, Guid document, CancellationToken stop) => act.AnyAsync(
        "SELECT 1 FROM package_item i JOIN package k ON k.id = i.package_id AND k.round = i.round WHERE i.document_id = $1 AND k.ended_at IS NULL AND (k.originator = $2 OR k.originator IN (SELECT person_id FROM stand_ins(now()) WHERE deputy = $2))", [document, who.Id], stop);

    /// <summary>Whether the package that a revision is in is back with its originator. Sending again takes the document's lock as well, so what is read here under it holds.</summary>
    private static async Task<bool> IsBackAsync(Act act, Guid revision, CancellationToken stop) =>
        (await act.ListAsync("SELECT 1 FROM package_item i JOIN package k ON k.id = i.package_id AND k.round = i.round WHERE i.revision_id = $1 AND k.standing = 'returned'", r => r.GetInt32(0), [revision], stop)).Count > 0;

    private static async Task<Guid> AddDraftAsync(Act act, Guid document, string kind, Guid revision, string label, int ordinal, Guid uploadId, string reason, CancellationToken stop)
    {
        var uploads = await act.ListAsync(
            "SELECT coalesce(sha256, ''), file_name, state, reader, version FROM upload WHERE id = $1 AND person_id = $2 FOR UPDATE",
            r => (Sha256: r.GetFieldValue<byte[]>(0), FileName: r.GetString(1), State: r.GetString(2), Reader: r.TextOrNull(3), Version: r.IsDBNull(4) ? 0 : r.GetInt32(4)), [uploadId, act.Person], stop);
        if (uploads.Count == 0) throw Refused.Missing("upload");
        var upload = uploads[0];
        if (upload.State == "used") throw new Refused(new Refusal("upload-used", "This file has been registered already."));
        if (upload.State != "read") throw new Refused(new Refusal("upload-not-read", "The file has not been read yet. Wait until it is, then register it."));
        if (upload.Reader == Readers.SupportingName && kind != "supporting file")
            throw Refused.Invalid("not-shown", $"“{upload.FileName}” cannot be shown, so nobody could review it here: it can be a draft of a supporting file only. As a drawing, upload one of {Readers.Words}.");
        var same = await act.ListAsync("SELECT ordinal FROM draft WHERE revision_id = $1 AND ordinal = $2 AND sha256 = $3", r => r.GetInt32(0), [revision, ordinal - 1, upload.Sha256], stop);
        var beside = await BesideRows.OfAsync(act, true, uploadId, stop);
        // What a file shows that consists of others is not told by its own bytes, and it is by those that verdicts stand.
        if (beside.Count > 0) same = await act.ListAsync("SELECT ordinal FROM draft WHERE revision_id = $1 AND sha256 = $2 UNION ALL SELECT -1 FROM draft WHERE document_id = $3 AND revision_id <> $1 AND sha256 = $2", r => r.GetInt32(0), [revision, upload.Sha256, document], stop);
        if (beside.Count > 0 && same.Count > 0) throw new Refused(new Refusal("same-bytes", "This is the same file, byte for byte, as an earlier draft. Where other files that it consists of have changed, export it again. Nothing was uploaded."));
        if (same.Count > 0) throw new Refused(new Refusal("same-bytes", $"This is the same file, byte for byte, as draft {label}.{ordinal - 1}. Nothing was uploaded."));
        var draft = Guid.CreateVersion7();
        act.Write(
            """
            INSERT INTO draft (id, document_id, revision_id, ordinal, sha256, file_name, uploaded_by, uploaded_at, report, reader, prepared)
            SELECT $1, $2, $3, $4, sha256, file_name, $5, $6, report, reader, version FROM upload WHERE id = $7
            """,
            draft, document, revision, ordinal, act.Person, act.At.UtcDateTime, uploadId);
        act.Write("INSERT INTO draft_leaf (draft_id, position, name, frame) SELECT $1, (l ->> 'position')::int, l ->> 'name', l -> 'frame' FROM upload, jsonb_array_elements(leaves) l WHERE id = $2", draft, uploadId);
        act.Write("INSERT INTO draft_form (draft_id, position, form, version, sha256) SELECT $1, f.position, f.form, u.version, f.sha256 FROM upload u JOIN upload_form f ON f.upload_id = u.id WHERE u.id = $2", draft, uploadId);
        act.Write(
            "INSERT INTO draft_beside (draft_id, name, numbers, sha256, from_draft, looked_at) SELECT $1, b.name, coalesce((SELECT array_agg(n.number) FROM unnest($3::text[], $4::text[]) n (name, number) WHERE n.name = b.name), '{}'), b.sha256, b.from_draft, coalesce(u.claimed_at, u.at) FROM upload u JOIN upload_beside b ON b.upload_id = u.id WHERE u.id = $2",
            draft, uploadId, beside.SelectMany(b => FileNames.Numbers(b.Name).Select(_ => b.Name)).ToArray(), beside.SelectMany(b => FileNames.Numbers(b.Name)).ToArray());
        var forms = await act.ListAsync(
            "SELECT position, form, sha256 FROM upload_form WHERE upload_id = $1 ORDER BY position, form", r => new StoredForm(r.GetInt32(0), r.GetString(1), r.Hash(2)), [uploadId], stop);
        act.Write("UPDATE upload SET state = 'used' WHERE id = $1", uploadId);
        // What was checked were other bytes: its standings begin anew.
        act.Write("UPDATE revision SET stage = '' WHERE id = $1", revision);
        await act.AppendAsync(document, "draft uploaded", reason, new { Draft = draft, Revision = label, Ordinal = ordinal, Sha256 = Convert.ToHexStringLower(upload.Sha256), upload.FileName, upload.Reader, upload.Version, Forms = forms, Beside = beside.Count == 0 ? null : beside.ConvertAll(b => b.Told()) }, stop);
        return draft;
    }

    private static void Demand(string value, string what, int longest)
    {
        if (string.IsNullOrWhiteSpace(value)) throw Refused.Invalid("missing-" + what, $"Give the document a {what}.");
        if (value.Trim().Length > longest) throw Refused.Invalid("long-" + what, $"The {what} is longer than {longest} characters.");
    }
}
