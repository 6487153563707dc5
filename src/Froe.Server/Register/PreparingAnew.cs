using System.Text.Json;
using Froe.Core.Draft;
using Froe.Core.Register;
using Froe.Formats;
using Froe.Server.Changes;
using Froe.Server.Files;
using Froe.Store;
using Npgsql;

namespace Froe.Server.Register;

/// <summary>
/// When a reader's version rises, drafts that an earlier one prepared are prepared anew, one at a time: those that somebody looked at last
/// come first. When a file comes that was missing in a model, the model is prepared anew with it, unless somebody has judged it as it was.
/// What was shown before stays stored, and the ledger says when it changed.
/// </summary>
public sealed class PreparingAnew(Database database, ReaderProcess reader, BesideFiles besideFiles, Announcements changes, TimeProvider clock, ILogger<PreparingAnew> log) : BackgroundService
{
    private const int Together = 200, MostAttempts = 3;
    private static readonly TimeSpan Idle = TimeSpan.FromMinutes(1), Silent = TimeSpan.FromMinutes(15);

    /// <summary>What stands in the place of a reader's version when a draft is claimed for being completed.</summary>
    private const int Completing = 0;

    private readonly SemaphoreSlim arrived = new(0);

    /// <inheritdoc/>
    protected override Task ExecuteAsync(CancellationToken stoppingToken) => Steadily.RepeatAsync(
        "Preparing drafts anew", WorkAsync, Idle, log, stoppingToken);

    private async Task WorkAsync(CancellationToken stop)
    {
        if (await RunAsync(stop) > 0) return;
        await arrived.WaitAsync(Idle, stop);
        // However many have come, it is looked once for all of them.
        while (arrived.Wait(0, CancellationToken.None)) { }
    }

    /// <summary>Looks at once: drafts have come that may be missing in others.</summary>
    public void Wake() => arrived.Release();

    /// <inheritdoc/>
    public override void Dispose()
    {
        arrived.Dispose();
        base.Dispose();
    }

    /// <summary>Prepares those that are next; gives how many were looked at.</summary>
    public async Task<int> RunAsync(CancellationToken stop)
    {
        var done = 0;
        foreach (var kind in Readers.All)
            foreach (var old in await NextAsync(kind, stop))
            {
                if (await ClaimAsync(old.Draft, kind.Version, stop)) await OneAsync(old, kind.Version, stop);
                done++;
            }
        foreach (var incomplete in await BesideRows.IncompleteAsync(database, Together, stop))
            if (await ClaimAsync(incomplete.Draft, Completing, stop) && await CompleteAsync(incomplete, stop)) done++;
        return done;
    }

    private Task<List<IncompleteDraft>> NextAsync(IReader kind, CancellationToken stop) => database.ListAsync(
        """
        SELECT w.id, w.document_id, w.uploaded_by, w.sha256, w.file_name FROM draft w
        WHERE w.reader = $1 AND w.prepared - w.completed < $2
          AND NOT EXISTS (SELECT 1 FROM draft_anew a WHERE a.draft_id = w.id AND a.version = $2 AND (a.fault IS NOT NULL OR a.claimed_at > $3))
        ORDER BY (SELECT max(at) FROM draft_opened o WHERE o.draft_id = w.id) DESC NULLS LAST, w.id DESC LIMIT $4
        """,
        r => new IncompleteDraft(r.GetGuid(0), r.GetGuid(1), r.GetGuid(2), r.GetFieldValue<byte[]>(3), r.GetString(4)), [kind.Name, kind.Version, (clock.GetUtcNow() - Silent).UtcDateTime, Together], stop);

    /// <summary>Takes a draft, unless another server has; one that ended its reader time after time is left as it is.</summary>
    private async Task<bool> ClaimAsync(Guid draft, int version, CancellationToken stop)
    {
        var now = clock.GetUtcNow();
        var taken = await database.ListAsync(
            """
            INSERT INTO draft_anew (draft_id, version, claimed_at) VALUES ($1, $2, $3)
            ON CONFLICT (draft_id, version) DO UPDATE SET claimed_at = excluded.claimed_at, attempts = draft_anew.attempts + 1,
                fault = CASE WHEN draft_anew.attempts >= $5 THEN 'It has ended its reader several times.' END
            WHERE draft_anew.fault IS NULL AND draft_anew.claimed_at <= $4 RETURNING fault IS NULL
            """,
            r => r.GetBoolean(0), [draft, version, now.UtcDateTime, (now - Silent).UtcDateTime, MostAttempts], stop);
        return taken is [true];
    }

    /// <summary>Completes a draft by what has come; gives whether anything has.</summary>
    private async Task<bool> CompleteAsync(IncompleteDraft one, CancellationToken stop)
    {
        var began = clock.GetUtcNow();
        var found = false;
        foreach (var missing in await BesideRows.OfAsync(database, false, one.Draft, stop))
            found = found || (missing.Sha256 is null && await besideFiles.FindAsync(one.UploadedBy, missing.Name, stop) is not null);
        // What failed for a reason outside of the files is tried again, once the claim is old.
        if (found && !await OneAsync(one, Completing, stop)) return false;
        await database.RunAsync("UPDATE draft_beside SET looked_at = $2 WHERE draft_id = $1", [one.Draft, began.UtcDateTime], stop);
        await database.RunAsync("DELETE FROM draft_anew WHERE draft_id = $1 AND version = $2 AND fault IS NULL", [one.Draft, Completing], stop);
        return found;
    }

    /// <summary>Prepares a draft anew; gives whether that is over with, whatever came of it.</summary>
    private async Task<bool> OneAsync(IncompleteDraft old, int version, CancellationToken stop)
    {
        Reading read;
        try
        {
            read = await reader.ReadAsync(old.Sha256, old.FileName, old.UploadedBy, await BesideRows.OfAsync(database, false, old.Draft, stop), version == Completing, stop);
        }
        catch (AlteredContentException)
        {
            // The spool has told the administrators; asking again and again would tell them nothing new.
            read = new Reading(null, [], "What is stored of it is no longer what was uploaded.", false, []);
        }
        catch (Exception e) when (e is not (OperationCanceledException or NpgsqlException))
        {
            log.LogError(e, "Preparing draft {Draft} anew failed", old.Draft);
            return false;
        }
        if (read.IsOutside) return false;
        var fault = read.Prepared is null ? read.Fault : await KeepAsync(old, read.Prepared, read, version == Completing, stop);
        if (fault is not null)
        {
            log.LogWarning("Draft {Draft} stays as an earlier reader prepared it: {Fault}", old.Draft, fault);
            // Another file of a missing one's name may be better than the one that came.
            if (version != Completing) await database.RunAsync("UPDATE draft_anew SET fault = $3 WHERE draft_id = $1 AND version = $2", [old.Draft, version, fault], stop);
        }
        return true;
    }

    /// <summary>Puts the new forms in the place of the old; says why not where that would move what stands on the leaves.</summary>
    private async Task<string?> KeepAsync(IncompleteDraft old, PreparedDraft prepared, Reading read, bool isCompletion, CancellationToken stop)
    {
        await using var act = await Act.BeginAsync(database, Guid.Empty, clock.GetUtcNow(), stop);
        // Nobody signs meanwhile for what they had before them: packages first, as signing locks them.
        if (isCompletion) await act.ListAsync("SELECT id FROM package WHERE id IN (SELECT package_id FROM package_item WHERE draft_id = $1) ORDER BY id FOR NO KEY UPDATE", r => r.GetGuid(0), [old.Draft], stop);
        // The document's row is the lock of its chain.
        await act.ListAsync("SELECT id FROM document WHERE id = $1 FOR NO KEY UPDATE", r => r.GetGuid(0), [old.Document], stop);
        var (before, completed) = (await act.ListAsync("SELECT prepared, completed FROM draft WHERE id = $1", r => (r.GetInt32(0), r.GetInt32(1)), [old.Draft], stop))[0];
        if (!isCompletion && before - completed >= prepared.Version) return null;
        var known = await BesideRows.OfAsync(act, false, old.Draft, stop);
        // What was missing when it was judged stays missing in it.
        if (isCompletion && await act.AnyAsync(BesideRows.JudgedSql("$1"), [old.Draft], stop)) return null;
        if (isCompletion && !read.Beside.Any(b => b.Sha256 is not null && known.Find(k => k.Name.Equals(b.Name, StringComparison.OrdinalIgnoreCase))?.Sha256 is null)) return null;
        var leaves = await Drafts.LeavesAsync(act, old.Draft, stop);
        if (leaves.Count > prepared.Leaves.Count || leaves.Zip(prepared.Leaves).Any(l => l.First.Name != l.Second.Leaf.Name))
            return "The reader of today sees other sheets in it; what was written on the old ones would lose its place.";
        if (isCompletion) completed++;
        var version = prepared.Version + completed;
        act.Write(
            """
            INSERT INTO draft_leaf (draft_id, position, name, frame) SELECT $1, * FROM unnest($2::int[], $3::text[], $4::jsonb[])
            ON CONFLICT (draft_id, position) DO UPDATE SET frame = excluded.frame
            """,
            old.Draft, prepared.Leaves.Select(l => l.Leaf.Position).ToArray(), prepared.Leaves.Select(l => l.Leaf.Name).ToArray(), prepared.Leaves.Select(l => JsonSerializer.Serialize(l.Leaf.Frame, Act.Json)).ToArray());
        act.Write(
            "INSERT INTO draft_form (draft_id, position, form, version, sha256) SELECT $1, f.position, f.form, $2, f.sha256 FROM unnest($3::int[], $4::text[], $5::bytea[]) f (position, form, sha256)",
            old.Draft, version, read.Forms.Select(f => f.Position).ToArray(), read.Forms.Select(f => f.Form).ToArray(), read.Forms.Select(f => Convert.FromHexString(f.Sha256)).ToArray());
        var named = read.Beside.SelectMany(b => FileNames.Numbers(b.Name).Select(n => (b.Name, Number: n))).ToList();
        act.Write(
            """
            INSERT INTO draft_beside (draft_id, name, numbers, sha256, from_draft, looked_at)
            SELECT $1, b.name, coalesce((SELECT array_agg(n.number) FROM unnest($5::text[], $6::text[]) n (name, number) WHERE n.name = b.name), '{}'), b.sha256, b.from_draft, $7 FROM unnest($2::text[], $3::bytea[], $4::uuid[]) b (name, sha256, from_draft)
            ON CONFLICT (draft_id, name) DO UPDATE SET sha256 = excluded.sha256, from_draft = excluded.from_draft, looked_at = excluded.looked_at
            """,
            old.Draft, read.Beside.Select(b => b.Name).ToArray(), read.Beside.Select(b => b.Sha256).ToArray(), read.Beside.Select(b => b.FromDraft).ToArray(),
            named.Select(n => n.Name).ToArray(), named.Select(n => n.Number).ToArray(), isCompletion ? act.At.UtcDateTime : DateTime.UnixEpoch);
        act.Write("UPDATE draft SET prepared = $2, completed = $3, report = $4::jsonb WHERE id = $1", old.Draft, version, completed, JsonSerializer.Serialize(prepared.Report, Act.Json));
        act.Write("DELETE FROM draft_anew WHERE draft_id = $1", old.Draft);
        // Whoever had it open saw it without what has come: it is to be opened again before it is signed.
        if (isCompletion) act.Write("DELETE FROM draft_opened WHERE draft_id = $1", old.Draft);
        IReadOnlyList<BesideRow> told = [.. read.Beside, .. known.Where(k => !read.Beside.Any(b => b.Name == k.Name))];
        await act.AppendAsync(
            old.Document, "draft prepared anew", isCompletion ? "Files that were missing in it have come." : "",
            new { old.Draft, prepared.Reader, Version = version, read.Forms, Beside = told.Count == 0 ? null : told.Select(b => b.Told()) }, stop);
        await act.CommitAsync(stop);
        if (isCompletion) changes.Announce("document", old.Document);
        changes.Announce("sheets", old.Draft);
        return null;
    }
}
