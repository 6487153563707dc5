using Froe.Core.Models;
using Froe.Core.Register;
using Froe.Core.Routing;
using Froe.Server.Changes;
using Froe.Server.SignIn;
using Froe.Store;

namespace Froe.Server.Scenes;

/// <summary>Which of a model's dimensions and notes are shown when it is opened.</summary>
/// <param name="Shown">By their places in the scene's list; null where nobody chose.</param>
/// <param name="By">Who chose.</param>
/// <param name="MayChoose">Whether who looks may choose: before the draft is sent.</param>
public sealed record ChosenStated(IReadOnlyList<int>? Shown, string? By, DateTimeOffset? At, bool MayChoose);

/// <summary>A choice of a model's dimensions and notes.</summary>
/// <param name="Key">Made by the page once for this act.</param>
/// <param name="Shown">By their places in the scene's list; empty for none.</param>
public sealed record NewStated(Guid Key, IReadOnlyList<int> Shown);

/// <summary>What a package shows of the dimensions and notes in its models: chosen by whoever sends it, before it is sent.</summary>
public sealed class ChoosingStated(Database database, Access access, PreparedModels models, Announcements changes, TimeProvider clock)
{
    private sealed record Kept;

    private sealed record Row(int[] Shown, string[] Words, string By, DateTimeOffset At);

    /// <summary>What was chosen, and whether more may be.</summary>
    public async Task<ChosenStated> OfAsync(Who who, Guid draft, int position, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(who);
        await access.DemandDraftAsync(who, draft, stop);
        var row = await database.FirstAsync(
            "SELECT s.shown, s.words, p.name, s.at FROM draft_stated s JOIN person p ON p.id = s.person_id WHERE s.draft_id = $1 AND s.position = $2 ORDER BY s.id DESC LIMIT 1",
            r => new Row(r.GetFieldValue<int[]>(0), r.GetFieldValue<string[]>(1), r.GetString(2), r.Time(3)), [draft, position], stop);
        var mayChoose = await MayChooseAsync(database, who, draft, stop);
        if (row is null) return new ChosenStated(null, null, null, mayChoose);
        var stated = (await models.FactsAsync(who, draft, position, stop)).Dimensions ?? [];
        return new ChosenStated(Again(stated, row.Shown, row.Words), row.By, row.At, mayChoose);
    }

    /// <summary>Chooses.</summary>
    public async Task SetAsync(Who who, Guid draft, int position, NewStated wanted, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(who);
        ArgumentNullException.ThrowIfNull(wanted);
        var stated = (await models.FactsAsync(who, draft, position, stop)).Dimensions ?? [];
        var shown = wanted.Shown.Distinct().Order().ToArray();
        if (shown.Any(i => (uint)i >= (uint)stated.Count)) throw Refused.Invalid("not-stated", "The model states no such dimension. Load it again, and choose anew.");
        await using var act = await Act.BeginAsync(database, who.Id, clock.GetUtcNow(), stop);
        if (await act.SeenAsync<Kept>(wanted.Key, stop) is not null) return;
        // The document's row is the lock of its chain, and sending takes it: what is sent is what was chosen before.
        var found = await act.ListAsync("SELECT id FROM document WHERE id = (SELECT document_id FROM draft WHERE id = $1) FOR NO KEY UPDATE", r => r.GetGuid(0), [draft], stop);
        if (found is not [var chain]) throw Refused.Missing("draft");
        if (!await MayChooseAsync(act, who, draft, stop))
            throw await WasSentAsync(act, draft, stop)
                ? new Refused(new Refusal("was-sent", "This draft has been sent: what is shown of its dimensions was chosen before. Choose for its next draft."))
                : Refused.Forbidden("Whoever made the draft, or may send it, chooses what is shown of its dimensions.");
        var words = shown.Select(i => stated[i].Words).ToArray();
        act.Write("INSERT INTO draft_stated (draft_id, position, shown, words, person_id, at) VALUES ($1, $2, $3, $4, $5, $6)", draft, position, shown, words, who.Id, act.At.UtcDateTime);
        await act.AppendAsync(chain, "dimensions chosen", "", new { Draft = draft, Leaf = position, Shown = shown, Words = words }, stop);
        act.Remember(wanted.Key, new Kept());
        await act.CommitAsync(stop);
        changes.Announce("sheets", draft);
    }

    /// <summary>The places of what was chosen in what is read now: what says the same, at the same place where it can be.</summary>
    internal static IReadOnlyList<int> Again(IReadOnlyList<ModelDimension> stated, int[] shown, string[] words) =>
        [.. shown.Zip(words).Select(s => s.First < stated.Count && stated[s.First].Words == s.Second ? s.First : Enumerable.Range(0, stated.Count).FirstOrDefault(i => stated[i].Words == s.Second, -1)).Where(i => i >= 0).Distinct().Order()];

    private static Task<bool> WasSentAsync(IReads reads, Guid draft, CancellationToken stop) => reads.AnyAsync("SELECT 1 FROM package_item WHERE draft_id = $1", [draft], stop);

    private static async Task<bool> MayChooseAsync(IReads reads, Who who, Guid draft, CancellationToken stop)
    {
        var of = (await reads.ListAsync("SELECT d.originator, f.path FROM draft w JOIN document d ON d.id = w.document_id JOIN folder f ON f.id = d.folder_id WHERE w.id = $1", r => (Originator: r.GetGuid(0), Folder: r.GetString(1)), [draft], stop)).FirstOrDefault();
        return of.Folder is not null && (of.Originator == who.Id || who.Rights.For(Right.Send, of.Folder)) && !await WasSentAsync(reads, draft, stop);
    }
}
