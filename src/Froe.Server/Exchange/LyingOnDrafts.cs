using Froe.Core.Draft;
using Froe.Core.Drawing;
using Froe.Core.Exchange;
using Froe.Core.Overlays;
using Froe.Core.Review;
using Froe.Server.Overlays;
using Froe.Server.Packages;
using Froe.Server.Register;
using Froe.Server.SignIn;
using Froe.Store;

namespace Froe.Server.Exchange;

/// <summary>What lies on drafts, as it goes out of the house.</summary>
public sealed class LyingOnDrafts(Database database, PackageViews packages, Scaling scaling)
{
    /// <summary>Sheets of a draft with what lies on them.</summary>
    /// <param name="person">Who asks: what others keep to themselves does not go out.</param>
    /// <param name="notes">Of its package, as far as whoever asks may see them.</param>
    /// <param name="without">Overlays that are left out.</param>
    /// <param name="carried">Whether places on earlier drafts of notes that lie here too are among them.</param>
    public async Task<IReadOnlyList<MarkedLeaf>> LeavesAsync(Guid person, Guid draft, Guid document, IReadOnlyList<Leaf> leaves, IReadOnlyList<NoteRow> notes, Guid[]? without, bool carried, CancellationToken stop)
    {
        var marks = await MarksAsync(person, draft, notes, without, stop);
        var (scales, sent) = (await scaling.HoldAsync(draft, leaves, stop), notes.ToDictionary(n => n.Id, Sent));
        var here = marks.Concat(!carried ? [] : Carried(notes, document, draft, sent)).ToLookup(m => m.Leaf, m => m.Mark);
        // What is about the whole stands on the first sheet.
        var loose = notes.Where(n => n.Draft == draft && n.Marks.Count == 0).Select(n => sent[n.Id]).ToList();
        return [.. leaves.Select((l, i) =>
        {
            var (frame, known) = ((SheetFrame)l.Frame, scales[i].Select(s => new SheetScale(s.Millimetres, s.Area)).ToList());
            return new MarkedLeaf(l, [.. here[l.Position].Select(m => m with { Value = Measured.Words(m.Shape, known, frame.Unit, frame.Fineness, m.Note?.Body ?? "") })], i == 0 ? loose : []);
        })];
    }

    /// <summary>What was marked on a draft, each with the leaf it lies on, as it was marked.</summary>
    public async Task<IReadOnlyList<(int Leaf, SentMark Mark)>> MarksAsync(Guid person, Guid draft, IReadOnlyList<NoteRow> notes, Guid[]? without, CancellationToken stop)
    {
        var overlays = (await OverlayRows.OfDraftAsync(database, draft, stop)).Where(o => without?.Contains(o.Id) != true).ToDictionary(o => o.Id);
        var owners = (await database.ListAsync("SELECT id, name FROM person WHERE id = ANY ($1)", r => (r.GetGuid(0), r.GetString(1)), [overlays.Values.Select(o => o.Owner).Distinct().ToArray()], stop)).ToDictionary(o => o.Item1, o => o.Item2);
        var drawn = (await database.ListAsync("SELECT id, changed_at FROM markup WHERE overlay_id = ANY ($1)", r => (r.GetGuid(0), r.Time(1)), [overlays.Keys.ToArray()], stop)).ToDictionary(m => m.Item1, m => m.Item2);
        var sent = notes.ToDictionary(n => n.Id, Sent);
        return [.. (await OverlayRows.OnAsync(database, overlays.Keys, stop)).Select(m => m.Markup).Where(m => m.Note is not null || overlays[m.Overlay].IsSeenBy(person))
            .Select(m => (m.Place.Leaf, Mark: new SentMark(m.Id, m.Shape, null, owners[overlays[m.Overlay].Owner], drawn[m.Id], overlays[m.Overlay].Name, m.Note is { } note ? sent.GetValueOrDefault(note) : null, overlays[m.Overlay].Look)))];
    }

    /// <summary>The notes of the package that the draft was last sent in, as far as who asks may see it.</summary>
    public async Task<IReadOnlyList<NoteRow>> NotesAsync(Who who, Guid draft, CancellationToken stop)
    {
        var package = (await database.ListAsync(OverlayView.PackageSql, r => (Guid?)r.GetGuid(0), [draft], stop)).FirstOrDefault();
        return package is { } id && await Access.SeesAsync(database, who, id, stop) && await packages.FindAsync(id, who, stop) is { } view ? view.Notes : [];
    }

    /// <summary>Places on earlier drafts of notes that lie on this one, too.</summary>
    private static IEnumerable<(int Leaf, SentMark Mark)> Carried(IReadOnlyList<NoteRow> notes, Guid document, Guid draft, Dictionary<Guid, SentNote> sent) =>
        from note in notes
        where note.Places.Any(p => p.Draft == draft && p.How == Carriage.Carried)
        from mark in note.Marks
        where mark.Document == document && mark.Draft != draft && mark.Place is OnSheet
        select (mark.Place.Leaf, new SentMark(mark.Id, mark.Shape, null, note.AuthorName, note.At, "Carried from earlier drafts", sent[note.Id], OverlayLook.Usual, IsCarried: true));

    /// <summary>A note on its way out.</summary>
    public static SentNote Sent(NoteRow n) => new(
        n.Id, n.Number, n.Kind, n.Standing, n.Answer, n.AuthorName, n.At, n.Body, [.. n.Acts.Select((a, i) => new SentReply(i + 1, a.Name, a.At, a.Act, a.Body))]);
}
