using Froe.Core.Draft;
using Froe.Core.Drawing;
using Froe.Core.Overlays;
using Froe.Core.Review;
using Froe.Core.Routing;
using Froe.Server.Changes;
using Froe.Server.Register;
using Froe.Server.SignIn;
using Froe.Store;

namespace Froe.Server.Overlays;

/// <summary>Changes of markups on a draft: all of them are made, or none.</summary>
/// <param name="Key">Made by the page once for these changes.</param>
public sealed record NewMarkupChanges(IReadOnlyList<MarkupChange> Changes, Guid? Key = null);

/// <summary>Changes were made.</summary>
/// <param name="Markups">The markups that were named and lie on the draft, as they are now.</param>
/// <param name="Erased">Those that do not.</param>
public sealed record MarkupsChanged(IReadOnlyList<DrawnMarkup> Markups, IReadOnlyList<ErasedMarkup> Erased);

/// <summary>A markup that lies on its overlay no more.</summary>
/// <param name="Version">Which is named when it is put back.</param>
public sealed record ErasedMarkup(Guid Id, long Version);

/// <summary>Drawing on one's overlays: one transaction for each batch of changes.</summary>
public sealed class Marking(Database database, Access access, Announcements changes, TimeProvider clock)
{
    /// <summary>Changes markups on a draft.</summary>
    public async Task<MarkupsChanged> ChangeAsync(Who who, Guid draft, NewMarkupChanges wanted, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(who);
        ArgumentNullException.ThrowIfNull(wanted);
        Demand(wanted.Changes);
        await access.DemandDraftAsync(who, draft, stop);
        await using var act = await Act.BeginAsync(database, who.Id, clock.GetUtcNow(), stop);
        if (await act.SeenAsync<MarkupsChanged>(wanted.Key, stop) is { } before) return before;
        var (package, slip) = await Overlaying.HoldPackageAsync(act, draft, stop);
        var board = new Board(act, draft, slip, await OverlayView.OwnNotesAsync(act, package, who.Id, stop), null);
        var rows = await board.ApplyAsync(wanted.Changes, stop);
        var answer = new MarkupsChanged(
            [.. rows.Where(r => !r.Markup.IsErased).Select(r => board.Drawn(r))],
            [.. rows.Where(r => r.Markup.IsErased).Select(r => new ErasedMarkup(r.Markup.Id, r.Markup.Version))]);
        act.Remember(wanted.Key, answer);
        await act.CommitAsync(stop);
        changes.Announce("overlay", draft);
        // Notes show their places.
        if (package is { } of && board.TouchesNotes) changes.Announce("notes", of);
        return answer;
    }

    /// <summary>The changes that a new note brings, made in its own act.</summary>
    /// <param name="note">The note being written.</param>
    internal static async Task<IReadOnlyList<MarkupRow>> PlaceAsync(Act act, Guid draft, Slip slip, Guid note, NoteKind kind, IReadOnlyList<PutMarkup> marks, CancellationToken stop)
    {
        if (marks.Count == 0) return [];
        Demand(marks);
        var board = new Board(act, draft, slip, new Dictionary<Guid, (NoteKind, NoteStanding)> { [note] = (kind, NoteStanding.Open) }, note);
        return await board.ApplyAsync([.. marks.Select(m => m with { Note = note })], stop);
    }

    /// <summary>Draws what was drawn elsewhere, without notes, in an act.</summary>
    internal static Task<IReadOnlyList<MarkupRow>> DrawAsync(Act act, Guid draft, Slip? slip, IReadOnlyList<PutMarkup> marks, CancellationToken stop) =>
        new Board(act, draft, slip, new Dictionary<Guid, (NoteKind, NoteStanding)>(), null).ApplyAsync(marks, stop);

    /// <summary>The markups that come with several new notes, or with none, made in the act that writes those.</summary>
    /// <param name="notes">The notes being written.</param>
    internal static async Task<IReadOnlyList<MarkupRow>> PlaceAsync(Act act, Guid draft, Slip slip, IReadOnlyDictionary<Guid, (NoteKind, NoteStanding)> notes, IReadOnlyList<PutMarkup> marks, CancellationToken stop) =>
        marks.Count == 0 ? [] : await new Board(act, draft, slip, notes, null).ApplyAsync(marks, stop);

    private static void Demand(IReadOnlyList<MarkupChange> wanted)
    {
        if (wanted.Count > OverlayRules.MostChanges) throw Refused.Invalid("too-many-changes", $"{OverlayRules.MostChanges} markups can be changed at once.");
    }

    /// <summary>The places of a note that is withdrawn go with it.</summary>
    /// <returns>The drafts they lay on.</returns>
    internal static async Task<IReadOnlyList<Guid>> WithdrawAsync(Act act, Guid note, CancellationToken stop)
    {
        var overlays = await OverlayRows.HoldOfNoteAsync(act, note, stop);
        foreach (var overlay in overlays)
        {
            var marks = (await OverlayRows.OnAsync(act, [overlay.Id], stop)).Where(m => m.Markup.Note == note);
            await OverlayRows.WriteAsync(act, overlay, [.. marks.Select(m => m with { Markup = m.Markup with { IsErased = true } })], stop);
        }
        return [.. overlays.Select(o => o.Draft).Distinct()];
    }

    /// <summary>A person's overlays on a draft while they are drawn on.</summary>
    private sealed class Board(Act act, Guid draft, Slip? slip, IReadOnlyDictionary<Guid, (NoteKind, NoteStanding)> notes, Guid? newNote)
    {
        private MarkupContext context = new(DraftStanding.Reviewed, true, [], notes, newNote);
        private Dictionary<Guid, OverlayRow> own = [];
        private bool isApart;

        /// <summary>Whether places of notes have changed.</summary>
        public bool TouchesNotes { get; private set; }

        public DrawnMarkup Drawn(MarkupRow row) => OverlayView.Drawn(row, own[row.Markup.Overlay], act.Person, context);

        public async Task<IReadOnlyList<MarkupRow>> ApplyAsync(IReadOnlyList<MarkupChange> wanted, CancellationToken stop)
        {
            if (wanted.Select(c => c.Id).Distinct().Count() < wanted.Count) throw Refused.Invalid("changed-twice", "A markup is named twice in one set of changes.");
            own = (await OverlayRows.HoldAsync(act, draft, act.Person, stop)).ToDictionary(o => o.Id);
            context = new MarkupContext(MarkupRules.Standing(slip, draft), Reviewing.HasSigned(slip, act.Person, draft), await Drafts.LeavesAsync(act, draft, stop), notes, newNote);
            if (context.Leaves.Count == 0) throw Refused.Missing("draft");
            isApart = await Overlaying.MustBePrivateAsync(act, draft, slip, stop);
            await DemandPicturesAsync(wanted, stop);
            var before = (await OverlayRows.MarkupsAsync(act, [.. wanted.Select(c => c.Id)], stop)).ToDictionary(m => m.Markup.Id);
            var (after, stale) = (new Dictionary<Guid, MarkupRow>(before), new List<Guid>());
            var changed = new List<MarkupRow>();
            foreach (var change in wanted)
            {
                var was = before.GetValueOrDefault(change.Id)?.Markup;
                var overlay = (change as PutMarkup)?.Overlay ?? was?.Overlay ?? await FirstAsync(change, stop);
                if (overlay is not { } on) continue;
                var outcome = MarkupRules.Apply(was, change, on, own.ContainsKey(on), own.GetValueOrDefault(on)?.Signed ?? 0, context);
                if (outcome.Refusal is { } refusal) throw new Refused(refusal);
                if (outcome.IsStale) stale.Add(change.Id);
                if (outcome.After is not { } now) continue;
                if (isApart && now is { Note: null, IsErased: false } && !own[on].IsPrivate)
                    throw new Refused(new Refusal("marks-apart", $"In your step everybody looks for themselves, and others see “{own[on].Name}”. Draw on an overlay that is yours alone, or write a note."));
                TouchesNotes |= now.Note is not null || was?.Note is not null;
                changed.Add(after[change.Id] = new MarkupRow(now, ZoneOf(now)));
            }
            if (stale.Count > 0) throw new Refused(new Refusal("stale-markups", stale.Count == 1 ? "The markup has changed since, in another window. It is shown as it is now." : "Markups have changed since, in another window. They are shown as they are now.")) { Stale = stale };
            foreach (var on in changed.GroupBy(c => c.Markup.Overlay)) await WriteAsync(own[on.Key], [.. on], before, after, stop);
            return [.. wanted.Where(c => after.ContainsKey(c.Id)).Select(c => after[c.Id])];
        }

        /// <summary>Demands that the pictures among the markups were put on the document.</summary>
        private async Task DemandPicturesAsync(IReadOnlyList<MarkupChange> wanted, CancellationToken stop)
        {
            var named = wanted.OfType<PutMarkup>().Select(p => p.Shape).OfType<PastedPicture>().Select(p => p.Picture).Where(PastedPicture.IsName).Distinct().Select(Convert.FromHexString).ToArray();
            if (named.Length > 0 && await PictureRows.KnownAsync(act, draft, named, stop) < named.Length) throw Refused.Invalid("no-such-picture", "The picture was not put on this document. Paste it here again.");
        }

        private async Task WriteAsync(OverlayRow overlay, IReadOnlyList<MarkupRow> changed, Dictionary<Guid, MarkupRow> before, Dictionary<Guid, MarkupRow> after, CancellationToken stop)
        {
            // What lies there already takes no more room by being moved.
            var more = changed.Count(c => !c.Markup.IsErased && before.GetValueOrDefault(c.Markup.Id) is not { Markup.IsErased: false });
            if (more > 0 && await CountAsync(overlay.Id, stop) + more > OverlayRules.MostMarkups)
                throw new Refused(new Refusal("overlay-full", $"An overlay holds {OverlayRules.MostMarkups:N0} markups; “{overlay.Name}” is full. Draw on another."));
            var version = await OverlayRows.WriteAsync(act, overlay, changed, stop);
            if (overlay.IsRemoved && more > 0) OverlayRows.TakeUp(act, overlay.Id, OverlayRules.FreeName(overlay.Name, own.Values.Where(o => !o.IsRemoved).Select(o => o.Name)));
            own[overlay.Id] = overlay with { Version = version, IsRemoved = overlay.IsRemoved && more == 0 };
            foreach (var row in changed) after[row.Markup.Id] = row with { Markup = row.Markup with { Version = version } };
        }

        private async Task<long> CountAsync(Guid overlay, CancellationToken stop) => (await act.ListAsync("SELECT count(*) FROM markup WHERE overlay_id = $1 AND erased_at IS NULL", r => r.GetInt64(0), [overlay], stop))[0];

        /// <summary>The overlay that is drawn on when none is named: the oldest, which is made when there is none.</summary>
        private async Task<Guid?> FirstAsync(MarkupChange change, CancellationToken stop)
        {
            if (change is EraseMarkup) return null;
            bool IsFit(OverlayRow o) => !o.IsRemoved && (!isApart || o.IsPrivate);
            if (!own.Values.Any(IsFit))
            {
                var name = OverlayRules.FreeName(OverlayRules.FirstName, own.Values.Where(o => !o.IsRemoved).Select(o => o.Name));
                await Overlaying.MakeAsync(act, Guid.CreateVersion7(), draft, slip, name, null, stop);
                // Another window may have made it just now.
                own = (await OverlayRows.HoldAsync(act, draft, act.Person, stop)).ToDictionary(o => o.Id);
            }
            return own.Values.Where(IsFit).MinBy(o => (o.MadeAt, o.Id))!.Id;
        }

        private string? ZoneOf(Markup markup) => context.Leaves.FirstOrDefault(l => l.Position == markup.Place.Leaf)?.Frame switch
        {
            SheetFrame sheet => Zones.Of(markup.Shape.Outline(sheet.Extents.Diagonal / 100).Anchor, sheet.Extents, sheet.Unit),
            SceneFrame when markup.Shape is Pin pin => pin.Words(),
            SceneFrame when markup.Shape is ModelMeasure measure => measure.Words(),
            SceneFrame => "a view",
            TableFrame table when markup.Shape is CellRange range => range.Words(table),
            _ => null,
        };
    }
}
