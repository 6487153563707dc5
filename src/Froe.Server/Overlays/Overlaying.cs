using System.ComponentModel.DataAnnotations;
using Froe.Core.Draft;
using Froe.Core.Overlays;
using Froe.Core.Review;
using Froe.Core.Routing;
using Froe.Server.Absences;
using Froe.Server.Changes;
using Froe.Server.Packages;
using Froe.Server.Register;
using Froe.Server.SignIn;
using Froe.Store;

namespace Froe.Server.Overlays;

/// <summary>How an overlay of one's own is to be.</summary>
/// <param name="IsPrivate">Whether what lies on it without a note is for oneself alone until one signs; null leaves it as it is.</param>
/// <param name="Look">How what lies on it is drawn; null leaves it as it is.</param>
/// <param name="KeepsLook">Whether one's new overlays are to have this look from now on.</param>
public sealed record OverlayWanted(string Name, bool? IsPrivate = null, OverlayLook? Look = null, bool KeepsLook = false);

/// <summary>An overlay whose markups are to be drawn again.</summary>
/// <param name="From">One's own on an earlier draft of the document.</param>
/// <param name="Name">What the copy is to be called, if the draft has no such overlay.</param>
public sealed record OverlayCopy(Guid From, [property: MaxLength(OverlayRules.LongestName)] string? Name = null);

/// <summary>Markups were drawn again.</summary>
/// <param name="Left">How many were not: this draft has no such sheet, they lie off it, or what they measure was not found again.</param>
public sealed record OverlayCopied(int Drawn, int Left);

/// <summary>An overlay of one's own on an earlier draft.</summary>
/// <param name="Draft">Of which draft, such as “B.1”.</param>
/// <param name="Count">How many markups lie on it that belong to no note: those of notes go along by themselves.</param>
public sealed record EarlierOverlay(Guid Id, string Name, string Draft, int Count);

/// <summary>One's overlays as wholes: made, named, shared, put away, and copied to the next draft.</summary>
public sealed class Overlaying(Database database, Access access, MeasuresAgain measures, Announcements changes, TimeProvider clock)
{
    /// <summary>Makes an overlay of one's own, or changes its name or who sees it.</summary>
    public async Task SetAsync(Who who, Guid draft, Guid id, OverlayWanted wanted, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(who);
        ArgumentNullException.ThrowIfNull(wanted);
        var name = wanted.Name.Trim();
        if (name.Length == 0) throw Refused.Invalid("no-name", "Give the overlay a name.");
        if (name.Length > OverlayRules.LongestName) throw Refused.Invalid("too-long", $"The name may have {OverlayRules.LongestName} characters.");
        await access.DemandDraftAsync(who, draft, stop);
        await using var act = await Act.BeginAsync(database, who.Id, clock.GetUtcNow(), stop);
        var (_, slip) = await HoldPackageAsync(act, draft, stop);
        await DemandThereAsync(act, draft, stop);
        var own = await OverlayRows.HoldAsync(act, draft, who.Id, stop);
        var live = own.Where(o => !o.IsRemoved).ToList();
        var isReviewed = MarkupRules.Standing(slip, draft) == DraftStanding.Reviewed;
        if (own.Find(o => o.Id == id) is { } held)
        {
            if (held.Name != name)
            {
                if (isReviewed) throw Closed();
                if (live.Exists(o => o.Id != id && string.Equals(o.Name, name, StringComparison.OrdinalIgnoreCase))) throw NameTaken(name);
                OverlayRows.Rename(act, id, name);
            }
            if (wanted.Look is { } look && look != held.Look)
            {
                if (isReviewed) throw Closed();
                OverlayRows.Paint(act, id, look);
            }
            if (wanted.IsPrivate is { } isPrivate && isPrivate != held.IsPrivate) await ShareAsync(act, slip, draft, held, isPrivate, stop);
        }
        else
        {
            if (isReviewed) throw Closed();
            if (live.Count >= OverlayRules.MostOverlays || own.Count >= OverlayRules.MostEver) throw new Refused(new Refusal("too-many-overlays", $"You have {OverlayRules.MostOverlays} overlays on this draft already. Draw on one of them."));
            // An id that is somebody else's is refused with the same word as a name that is taken: it says nothing of theirs.
            if ((await MakeAsync(act, id, draft, slip, name, wanted.IsPrivate, stop)).Count == 0)
            {
                // Asked for twice at once, it was made meanwhile.
                if (!(await OverlayRows.HoldAsync(act, draft, who.Id, stop)).Exists(o => o.Id == id && o.Name == name)) throw NameTaken(name);
                return;
            }
            if (wanted.Look is { } look) OverlayRows.Paint(act, id, look);
        }
        if (wanted is { KeepsLook: true, Look: { } kept }) OverlayRows.KeepLook(act, who.Id, kept);
        await act.CommitAsync(stop);
        changes.Announce("overlay", draft);
    }

    /// <summary>Puts away an overlay of one's own on which nothing lies.</summary>
    public async Task RemoveAsync(Who who, Guid draft, Guid id, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(who);
        await access.DemandDraftAsync(who, draft, stop);
        await using var act = await Act.BeginAsync(database, who.Id, clock.GetUtcNow(), stop);
        var (_, slip) = await HoldPackageAsync(act, draft, stop);
        if ((await OverlayRows.HoldAsync(act, draft, who.Id, stop)).Find(o => o.Id == id) is not { } held) throw Refused.Missing("overlay");
        if (held.IsRemoved) return;
        if (MarkupRules.Standing(slip, draft) == DraftStanding.Reviewed) throw Closed();
        if ((await OverlayRows.OnAsync(act, [id], stop)).Count > 0) throw new Refused(new Refusal("overlay-not-empty", $"Something lies on “{held.Name}”. Move it to another overlay, or erase it, first."));
        OverlayRows.Remove(act, id);
        await act.CommitAsync(stop);
        changes.Announce("overlay", draft);
    }

    /// <summary>One's own overlays on earlier drafts of the document, the newest draft first, with what belongs to no note.</summary>
    public async Task<IReadOnlyList<EarlierOverlay>> EarlierAsync(Who who, Guid draft, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(who);
        await access.DemandDraftAsync(who, draft, stop);
        return await database.ListAsync(
            """
            SELECT o.id, o.name, r.label || '.' || w.ordinal, count(m.id)::int
            FROM draft here JOIN revision hr ON hr.id = here.revision_id
            JOIN draft w ON w.document_id = here.document_id JOIN revision r ON r.id = w.revision_id
            JOIN overlay o ON o.draft_id = w.id AND o.owner = $2 JOIN markup m ON m.overlay_id = o.id AND m.erased_at IS NULL AND m.note_id IS NULL
            WHERE here.id = $1 AND (r.ordinal, w.ordinal) < (hr.ordinal, here.ordinal)
            GROUP BY o.id, o.name, o.made_at, r.label, r.ordinal, w.ordinal ORDER BY r.ordinal DESC, w.ordinal DESC, o.made_at, o.id LIMIT 50
            """,
            r => new EarlierOverlay(r.GetGuid(0), r.GetString(1), r.GetString(2), r.GetInt32(3)), [draft, who.Id], stop);
    }

    /// <summary>
    /// Draws what lies on an overlay of one's own on an earlier draft on this one: what belongs to no note, for the places of notes go along by
    /// themselves. A copy is a markup of its own; the same is copied once, however often it is asked for.
    /// </summary>
    /// <param name="id">The overlay of the copies, made by the page; it is made when it is not there.</param>
    public async Task<OverlayCopied> CopyAsync(Who who, Guid draft, Guid id, OverlayCopy wanted, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(who);
        ArgumentNullException.ThrowIfNull(wanted);
        if ((await EarlierAsync(who, draft, stop)).FirstOrDefault(e => e.Id == wanted.From) is not { } earlier) throw Refused.Missing("overlay");
        // Models are read before anything is held: what is drawn on them meanwhile is left.
        var found = await measures.OfAsync(who, draft, wanted.From, stop);
        await using var act = await Act.BeginAsync(database, who.Id, clock.GetUtcNow(), stop);
        var (_, slip) = await HoldPackageAsync(act, draft, stop);
        if (MarkupRules.Standing(slip, draft) == DraftStanding.Reviewed) throw Closed();
        var own = await OverlayRows.HoldAsync(act, draft, who.Id, stop);
        var leaves = (await Drafts.LeavesAsync(act, draft, stop)).ToDictionary(l => l.Position);
        var lie = (await OverlayRows.OnAsync(act, [wanted.From], stop)).Select(m => m.Markup).Where(m => m.Note is null).ToList();
        lie = [.. lie.Select(m => m.Shape is not ModelMeasure ? m : found.TryGetValue(m.Id, out var shape) ? m with { Shape = shape } : m with { Place = new OnScene(-1) })];
        var fit = lie.Where(m => leaves.TryGetValue(m.Place.Leaf, out var leaf) && m.Shape.Fits(m.Place, leaf.Frame)).ToList();
        var copies = fit.Select(m => new PutMarkup(OverlayRules.CopyOf(m.Id, draft), id, m.Place, m.Shape, Tie: m.Tie is { } tie ? OverlayRules.CopyOf(tie, draft) : null, Rank: m.Rank)).ToList();
        // What was copied before, moved since or erased, is not drawn a second time.
        var known = (await OverlayRows.MarkupsAsync(act, [.. copies.Select(c => c.Id)], stop)).Select(m => m.Markup.Id).ToHashSet();
        copies.RemoveAll(c => known.Contains(c.Id));
        if (copies.Count == 0) return new OverlayCopied(0, lie.Count - fit.Count);
        if (!own.Exists(o => o.Id == id))
        {
            if (own.Count(o => !o.IsRemoved) >= OverlayRules.MostOverlays || own.Count >= OverlayRules.MostEver) throw new Refused(new Refusal("too-many-overlays", $"You have {OverlayRules.MostOverlays} overlays on this draft already. Put one away first."));
            var name = OverlayRules.FreeName(wanted.Name is { Length: > 0 } asked ? asked.Trim() : earlier.Name, own.Where(o => !o.IsRemoved).Select(o => o.Name));
            if ((await MakeAsync(act, id, draft, slip, name, null, stop)).Count == 0) throw NameTaken(name);
        }
        var drawn = await Marking.DrawAsync(act, draft, slip, copies, stop);
        await act.CommitAsync(stop);
        changes.Announce("overlay", draft);
        return new OverlayCopied(drawn.Count, lie.Count - fit.Count);
    }

    /// <summary>Makes an overlay of whoever acts: their own until they sign where their step asks for that, or where they want it so.</summary>
    internal static async Task<List<Guid>> MakeAsync(Act act, Guid id, Guid draft, Slip? slip, string name, bool? isPrivate, CancellationToken stop) =>
        await OverlayRows.MakeAsync(act, id, draft, act.Person, name, isPrivate == true || await MustBePrivateAsync(act, draft, slip, stop), slip?.Round ?? 0, stop);

    /// <summary>The package that a draft was last sent in, held against signing and routing until the act ends; nothing when it was not sent.</summary>
    internal static async Task<(Guid? Package, Slip? Slip)> HoldPackageAsync(Act act, Guid draft, CancellationToken stop) =>
        (await act.ListAsync(OverlayView.PackageSql + " FOR SHARE OF k", r => ((Guid?)r.GetGuid(0), SlipStore.Read(r.GetString(1))), [draft], stop)) is [var found] ? found : (null, null);

    private static async Task ShareAsync(Act act, Slip? slip, Guid draft, OverlayRow held, bool isPrivate, CancellationToken stop)
    {
        if (isPrivate && Reviewing.HasSigned(slip, held.Owner, draft)) throw new Refused(new Refusal("already-signed", "You have signed with this overlay, so everybody sees it. Draw on another."));
        if (!isPrivate && await MustBePrivateAsync(act, draft, slip, stop)) throw new Refused(new Refusal("marks-apart", "In your step everybody looks for themselves: what you draw is shown to the others when you sign. Write a note where they must know now."));
        OverlayRows.Share(act, held.Id, isPrivate);
    }

    /// <summary>Whether what whoever acts draws now is kept from others until they sign, because their step asks for it.</summary>
    internal static async Task<bool> MustBePrivateAsync(Act act, Guid draft, Slip? slip, CancellationToken stop) =>
        MarkupRules.Standing(slip, draft) == DraftStanding.UnderReview && slip!.Plan.Steps().Any(s => s.MarksApart)
        && Reviewing.MarksApart(slip, act.Person, await Schedules.DeputiesAsync(act, stop));

    private static async Task DemandThereAsync(Act act, Guid draft, CancellationToken stop)
    {
        if (!await act.AnyAsync("SELECT 1 FROM draft WHERE id = $1", [draft], stop)) throw Refused.Missing("draft");
    }

    private static Refused Closed() => new(new Refusal("not-under-review", "This draft is not under review any more; its overlays stay as they are."));

    private static Refused NameTaken(string name) => new(new Refusal("name-taken", $"You have an overlay “{name}” on this draft already. Draw on it, or choose another name."));
}
