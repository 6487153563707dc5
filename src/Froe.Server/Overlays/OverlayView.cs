using Froe.Core.Draft;
using Froe.Core.Overlays;
using Froe.Core.Review;
using Froe.Core.Routing;
using Froe.Server.Absences;
using Froe.Server.Packages;
using Froe.Server.Register;
using Froe.Server.SignIn;
using Froe.Store;

namespace Froe.Server.Overlays;

/// <summary>A markup as it lies on a draft.</summary>
/// <param name="Note">The note whose place it marks.</param>
/// <param name="Zone">Where it lies in words, such as “D3”.</param>
/// <param name="Version">Which is named when it is changed.</param>
/// <param name="MayChange">Whether who looks may change it.</param>
/// <param name="Tie">Those of one tie are picked and moved together.</param>
/// <param name="Rank">What is of a higher rank lies above.</param>
public sealed record DrawnMarkup(Guid Id, Guid Overlay, Place Place, Shape Shape, Guid? Note, string? Zone, long Version, bool MayChange, Guid? Tie, int Rank);

/// <summary>An overlay of somebody on a draft.</summary>
/// <param name="IsPrivate">Whether only its owner sees what lies on it and belongs to no note; others are shown the places of notes alone.</param>
/// <param name="Round">The round in which it was made; null before its package was sent, or when it is not known.</param>
/// <param name="Look">How what lies on it is drawn.</param>
public sealed record DraftOverlay(Guid Id, Guid Owner, string OwnerName, string Name, bool IsPrivate, int? Round, OverlayLook Look, IReadOnlyList<DrawnMarkup> Markups);

/// <summary>All that lies on a draft, oldest overlay first.</summary>
/// <param name="MayDraw">Whether who looks may draw on it.</param>
/// <param name="MayShare">Whether who looks may share what they draw before they sign.</param>
public sealed record DraftOverlays(bool MayDraw, bool MayShare, IReadOnlyList<DraftOverlay> Overlays);

/// <summary>Reads what lies on drafts, for people to see.</summary>
public sealed class OverlayView(Database database, Access access, TimeProvider clock)
{
    /// <summary>The package that a draft was last sent in, with its slip: the one it is under review in, else the one it came back from, else the newest.</summary>
    internal const string PackageSql =
        """
        SELECT k.id, k.slip::text FROM package k WHERE k.id = (
            SELECT p.id FROM package_item i JOIN package p ON p.id = i.package_id WHERE i.draft_id = $1
            ORDER BY p.standing = 'in review' DESC, p.standing = 'returned' DESC, p.sent_at DESC LIMIT 1)
        """;

    /// <summary>The overlays on a draft.</summary>
    public async Task<DraftOverlays> OfDraftAsync(Who who, Guid draft, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(who);
        await access.DemandDraftAsync(who, draft, stop);
        var leaves = await Drafts.LeavesAsync(database, draft, stop);
        if (leaves.Count == 0) throw Refused.Missing("draft");
        var (package, slip) = (await database.ListAsync(PackageSql, r => ((Guid?)r.GetGuid(0), (Slip?)SlipStore.Read(r.GetString(1))), [draft], stop)).FirstOrDefault();
        var notes = await OwnNotesAsync(database, package, who.Id, stop);
        var context = new MarkupContext(MarkupRules.Standing(slip, draft), Reviewing.HasSigned(slip, who.Id, draft), leaves, notes);
        var overlays = await OverlayRows.OfDraftAsync(database, draft, stop);
        var names = (await database.ListAsync("SELECT id, name FROM person WHERE id = ANY ($1)", r => (r.GetGuid(0), r.GetString(1)), [overlays.Select(o => o.Owner).Distinct().ToArray()], stop)).ToDictionary(n => n.Item1, n => n.Item2);
        var markups = (await OverlayRows.OnAsync(database, overlays.Select(o => o.Id), stop)).ToLookup(m => m.Markup.Overlay);
        var isApart = slip?.Plan.Steps().Any(s => s.MarksApart) == true && Reviewing.MarksApart(slip, who.Id, await Schedules.DeputiesAsync(database, clock.GetUtcNow(), stop));
        return new DraftOverlays(
            MarkupRules.Frozen(null, 0, context) is null,
            !isApart,
            [.. from o in overlays
                let seen = markups[o.Id].Where(m => m.Markup.Note is not null || o.IsSeenBy(who.Id)).ToList()
                // Of what is somebody else's alone, and of what was put away, not even the name is told.
                where seen.Count > 0 || (o.IsSeenBy(who.Id) && !o.IsRemoved)
                select new DraftOverlay(o.Id, o.Owner, names[o.Owner], o.Name, o.IsPrivate, o.Round is 0 ? null : o.Round, o.Look, [.. seen.Select(m => Drawn(m, o, who.Id, context))])]);
    }

    /// <summary>The notes of a package that somebody wrote: those they may give places.</summary>
    internal static async Task<Dictionary<Guid, (NoteKind, NoteStanding)>> OwnNotesAsync(IReads reads, Guid? package, Guid author, CancellationToken stop) => package is null
        ? []
        : (await reads.ListAsync("SELECT id, kind, standing FROM note WHERE package_id = $1 AND author = $2", r => (Id: r.GetGuid(0), Kind: Words.Parse<NoteKind>(r.GetString(1)), Standing: Words.Parse<NoteStanding>(r.GetString(2))), [package, author], stop))
            .ToDictionary(n => n.Id, n => (n.Kind, n.Standing));

    internal static DrawnMarkup Drawn(MarkupRow row, OverlayRow overlay, Guid person, MarkupContext context)
    {
        var m = row.Markup;
        return new(m.Id, m.Overlay, m.Place, m.Shape, m.Note, row.Zone, m.Version, overlay.Owner == person && MarkupRules.Frozen(m, overlay.Signed, context) is null, m.Tie, m.Rank);
    }
}
