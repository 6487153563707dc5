using System.Text.Json;
using Froe.Core.Draft;
using Froe.Formats;
using Froe.Server.Changes;
using Froe.Server.Files;
using Froe.Store;

namespace Froe.Server.Register;

/// <summary>Keeps what is written on the leaves of drafts where it can be found, a moment after they are registered or prepared anew.</summary>
public sealed class WordIndex(Database database, Spool spool, Announcements changes, TimeProvider clock, ILogger<WordIndex> log) : BackgroundService
{
    private const int Together = 20, LongestLine = 2000, MostLines = 200_000;
    private static readonly TimeSpan Idle = TimeSpan.FromSeconds(2);

    private sealed record Missing(Guid Draft, int Version);

    /// <inheritdoc/>
    protected override Task ExecuteAsync(CancellationToken stoppingToken) => Steadily.RepeatAsync(
        "Gathering words", async stop => { if (await RunAsync(stop) == 0) await Task.Delay(Idle, stop); }, Idle, log, stoppingToken);

    /// <summary>Gathers the words of drafts whose words are missing; gives how many there were.</summary>
    public async Task<int> RunAsync(CancellationToken stop)
    {
        var missing = await database.ListAsync(
            "SELECT id, prepared FROM draft WHERE words_version < prepared ORDER BY id DESC LIMIT $1", r => new Missing(r.GetGuid(0), r.GetInt32(1)), [Together], stop);
        foreach (var one in missing) await OneAsync(one, stop);
        return missing.Count;
    }

    /// <summary>Gathers the words of these drafts now if they are missing, so that who looks in them is not told of nothing a moment too early.</summary>
    public async Task HaveAsync(IReadOnlyList<Guid> drafts, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(drafts);
        var missing = await database.ListAsync(
            "SELECT id, prepared FROM draft WHERE id = ANY ($1) AND words_version < prepared", r => new Missing(r.GetGuid(0), r.GetInt32(1)), [drafts.ToArray()], stop);
        foreach (var one in missing) await OneAsync(one, stop);
    }

    private async Task OneAsync(Missing one, CancellationToken stop)
    {
        var forms = await database.ListAsync(
            "SELECT position, sha256 FROM draft_form WHERE draft_id = $1 AND version = $2 AND form = $3 ORDER BY position",
            r => (Position: r.GetInt32(0), Sha256: r.GetFieldValue<byte[]>(1)), [one.Draft, one.Version, LeafForms.Text], stop);
        var pages = new List<(int Position, string Folded, string[] Pairs, string[] Lines)>();
        foreach (var (position, sha256) in forms)
        {
            var lines = await LinesAsync(one.Draft, sha256, stop);
            if (lines.Count == 0) continue;
            var page = new WrittenPage(lines);
            pages.Add((position, page.Folded, [.. page.Pairs], [.. lines.Select(l => l.Text)]));
        }
        await using var act = await Act.BeginAsync(database, Guid.Empty, clock.GetUtcNow(), stop);
        // Two servers may gather the same: the row is the lock, and the second finds nothing to do.
        var still = await act.ListAsync("SELECT 1 FROM draft WHERE id = $1 AND words_version < $2 AND prepared = $2 FOR NO KEY UPDATE", r => r.GetInt32(0), [one.Draft, one.Version], stop);
        if (still.Count == 0) return;
        act.Write("DELETE FROM leaf_text WHERE draft_id = $1", one.Draft);
        foreach (var (position, folded, pairs, lines) in pages)
            act.Write("INSERT INTO leaf_text (draft_id, position, folded, pairs, lines) VALUES ($1, $2, $3, $4, $5)", one.Draft, position, folded, pairs, lines);
        act.Write("UPDATE draft SET words_version = $2 WHERE id = $1", one.Draft, one.Version);
        await act.CommitAsync(stop);
        // What is written may name a sheet's scale.
        changes.Announce("sheets", one.Draft);
    }

    /// <summary>The lines of a form; none where it cannot be read, for one such draft must not keep the others from being found.</summary>
    private async Task<List<WrittenRun>> LinesAsync(Guid draft, byte[] sha256, CancellationToken stop)
    {
        try
        {
            using var json = new MemoryStream();
            if (!await spool.CopyToAsync(sha256, json, stop)) return [];
            json.Position = 0;
            var letters = 0;
            return [.. WrittenForm.Read(json).Take(MostLines).Select(l => l with { Text = Storable(l.Text) }).TakeWhile(l => (letters += l.Text.Length) <= WrittenPage.MostLetters)];
        }
        catch (Exception e) when (e is JsonException or InvalidOperationException or IndexOutOfRangeException or FormatException or AlteredContentException)
        {
            log.LogError(e, "The words of draft {Draft} cannot be read", draft);
            return [];
        }
    }

    /// <summary>PostgreSQL keeps neither U+0000 nor half a surrogate pair.</summary>
    private static string Storable(string text)
    {
        var cut = text.Length <= LongestLine ? text : text[..LongestLine];
        return cut.Any(c => c == '\0' || char.IsSurrogate(c)) ? string.Concat(cut.EnumerateRunes().Where(r => r.Value != 0).Select(r => r.ToString())) : cut;
    }
}
