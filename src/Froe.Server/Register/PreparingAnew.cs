using System.Text.Json;
using Froe.Core.Draft;
using Froe.Formats;
using Froe.Server.Files;
using Froe.Store;
using Npgsql;

namespace Froe.Server.Register;

/// <summary>
/// When a reader's version rises, drafts that an earlier one prepared are prepared anew, one at a time: those that somebody looked at last
/// come first. What was shown before stays stored, and the ledger says when it changed.
/// </summary>
public sealed class PreparingAnew(Database database, ReaderProcess reader, TimeProvider clock, ILogger<PreparingAnew> log) : BackgroundService
{
    private const int Together = 200, MostAttempts = 3;
    private static readonly TimeSpan Idle = TimeSpan.FromMinutes(1), Silent = TimeSpan.FromMinutes(15);

    private sealed record Old(Guid Draft, Guid Document, byte[] Sha256, string FileName);

    /// <inheritdoc/>
    protected override Task ExecuteAsync(CancellationToken stoppingToken) => Steadily.RepeatAsync(
        "Preparing drafts anew", async stop => { if (await RunAsync(stop) == 0) await Task.Delay(Idle, stop); }, Idle, log, stoppingToken);

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
        return done;
    }

    private Task<List<Old>> NextAsync(IReader kind, CancellationToken stop) => database.ListAsync(
        """
        SELECT w.id, w.document_id, w.sha256, w.file_name FROM draft w
        WHERE w.reader = $1 AND w.prepared < $2
          AND NOT EXISTS (SELECT 1 FROM draft_anew a WHERE a.draft_id = w.id AND a.version = $2 AND (a.fault IS NOT NULL OR a.claimed_at > $3))
        ORDER BY (SELECT max(at) FROM draft_opened o WHERE o.draft_id = w.id) DESC NULLS LAST, w.id DESC LIMIT $4
        """,
        r => new Old(r.GetGuid(0), r.GetGuid(1), r.GetFieldValue<byte[]>(2), r.GetString(3)), [kind.Name, kind.Version, (clock.GetUtcNow() - Silent).UtcDateTime, Together], stop);

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

    private async Task OneAsync(Old old, int version, CancellationToken stop)
    {
        Reading read;
        try
        {
            read = await reader.ReadAsync(old.Sha256, old.FileName, stop);
        }
        catch (AlteredContentException)
        {
            // The spool has told the administrators; asking again and again would tell them nothing new.
            read = new Reading(null, [], "What is stored of it is no longer what was uploaded.", false);
        }
        catch (Exception e) when (e is not (OperationCanceledException or NpgsqlException))
        {
            log.LogError(e, "Preparing draft {Draft} anew failed", old.Draft);
            return;
        }
        if (read.IsOutside) return;
        var fault = read.Prepared is null ? read.Fault : await KeepAsync(old, read.Prepared, read.Forms, stop);
        if (fault is not null)
        {
            log.LogWarning("Draft {Draft} stays as an earlier reader prepared it: {Fault}", old.Draft, fault);
            await database.RunAsync("UPDATE draft_anew SET fault = $3 WHERE draft_id = $1 AND version = $2", [old.Draft, version, fault], stop);
        }
    }

    /// <summary>Puts the new forms in the place of the old; says why not where that would move what stands on the leaves.</summary>
    private async Task<string?> KeepAsync(Old old, PreparedDraft prepared, IReadOnlyList<StoredForm> forms, CancellationToken stop)
    {
        await using var act = await Act.BeginAsync(database, Guid.Empty, clock.GetUtcNow(), stop);
        // The document's row is the lock of its chain.
        await act.ListAsync("SELECT id FROM document WHERE id = $1 FOR UPDATE", r => r.GetGuid(0), [old.Document], stop);
        var before = (await act.ListAsync("SELECT prepared FROM draft WHERE id = $1", r => r.GetInt32(0), [old.Draft], stop))[0];
        if (before >= prepared.Version) return null;
        var leaves = await Drafts.LeavesAsync(act, old.Draft, stop);
        if (leaves.Count > prepared.Leaves.Count || leaves.Zip(prepared.Leaves).Any(l => l.First.Name != l.Second.Leaf.Name))
            return "The reader of today sees other sheets in it; what was written on the old ones would lose its place.";
        act.Write(
            """
            INSERT INTO draft_leaf (draft_id, position, name, frame) SELECT $1, * FROM unnest($2::int[], $3::text[], $4::jsonb[])
            ON CONFLICT (draft_id, position) DO UPDATE SET frame = excluded.frame
            """,
            old.Draft, prepared.Leaves.Select(l => l.Leaf.Position).ToArray(), prepared.Leaves.Select(l => l.Leaf.Name).ToArray(), prepared.Leaves.Select(l => JsonSerializer.Serialize(l.Leaf.Frame, Act.Json)).ToArray());
        act.Write(
            "INSERT INTO draft_form (draft_id, position, form, version, sha256) SELECT $1, f.position, f.form, $2, f.sha256 FROM unnest($3::int[], $4::text[], $5::bytea[]) f (position, form, sha256)",
            old.Draft, prepared.Version, forms.Select(f => f.Position).ToArray(), forms.Select(f => f.Form).ToArray(), forms.Select(f => Convert.FromHexString(f.Sha256)).ToArray());
        act.Write("UPDATE draft SET prepared = $2, report = $3::jsonb WHERE id = $1", old.Draft, prepared.Version, JsonSerializer.Serialize(prepared.Report, Act.Json));
        act.Write("DELETE FROM draft_anew WHERE draft_id = $1", old.Draft);
        await act.AppendAsync(old.Document, "draft prepared anew", "", new { old.Draft, prepared.Reader, prepared.Version, Forms = forms }, stop);
        await act.CommitAsync(stop);
        return null;
    }
}
