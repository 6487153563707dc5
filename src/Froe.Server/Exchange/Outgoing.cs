using System.Globalization;
using Froe.Core.Draft;
using Froe.Core.Drawing;
using Froe.Core.Exchange;
using Froe.Core.Overlays;
using Froe.Core.Review;
using Froe.Server.Files;
using Froe.Server.Overlays;
using Froe.Server.Packages;
using Froe.Server.Register;
using Froe.Server.SignIn;
using Froe.Store;

namespace Froe.Server.Exchange;

/// <summary>As what a draft is to go out.</summary>
/// <param name="As">Which kind of file.</param>
/// <param name="Without">Overlays that are to stay here.</param>
/// <param name="Carried">Whether places of notes on earlier drafts that lie here too go with it; they do unless it is said that they do not.</param>
/// <param name="Leaf">The sheet, of SVG and PNG; the first one when none is named.</param>
public sealed record OutAsked(OutForm As, Guid[]? Without, bool? Carried, int? Leaf);

/// <summary>Sends drafts out of the house with what lies on them.</summary>
public sealed class Outgoing(Database database, Access access, PackageViews packages, Scaling scaling, Errands errands, Transfers transfers)
{
    /// <summary>Says that a file's pages are pictures, because the draft's own file takes nothing more.</summary>
    private const string PicturesHeader = "X-Froe-Pages";

    /// <summary>Writes a draft as the answer.</summary>
    public async Task SendAsync(HttpContext context, Who who, Guid draft, OutAsked asked)
    {
        ArgumentNullException.ThrowIfNull(context);
        ArgumentNullException.ThrowIfNull(who);
        ArgumentNullException.ThrowIfNull(asked);
        var stop = context.RequestAborted;
        await access.DemandDraftAsync(who, draft, stop);
        var (number, title, revision, ordinal, document) = await database.FirstAsync(
            "SELECT d.number, d.title, r.label, w.ordinal, d.id FROM draft w JOIN document d ON d.id = w.document_id JOIN revision r ON r.id = w.revision_id WHERE w.id = $1",
            r => Tuple.Create(r.GetString(0), r.GetString(1), r.GetString(2), r.GetInt32(3), r.GetGuid(4)), [draft], stop) ?? throw Refused.Missing("draft");
        var leaves = (await Drafts.LeavesAsync(database, draft, stop)).Where(l => l.Frame is SheetFrame).ToList();
        if (leaves.Count == 0) throw Refused.Invalid("no-sheets", "Only sheets go out with what is drawn on them. Take the file itself, and the notes as a list.");
        var isOne = asked.As is OutForm.Svg or OutForm.Png;
        if (isOne) leaves = [leaves.Find(l => l.Position == (asked.Leaf ?? leaves[0].Position)) ?? throw Refused.Missing("sheet")];
        var name = string.Create(CultureInfo.InvariantCulture, $"{number} {revision}.{ordinal}");
        using var place = transfers.Begin(who.Id);
        var marked = new MarkedDraft($"{name} {title}", await LeavesAsync(who, draft, document, leaves, asked, stop));
        var folder = await errands.FolderAsync(draft, leaves, stop);
        try
        {
            var how = await errands.RunAsync<SendOutErrand, MarkedOut>("send-out", folder, new SendOutErrand(marked, asked.As, $"{name} marked.pdf"), stop);
            await using var file = File.OpenRead(Path.Combine(folder.FullName, ErrandFiles.File));
            var (type, ending) = asked.As switch
            {
                OutForm.Pdf => ("application/pdf", " marked.pdf"),
                OutForm.FlatPdf => ("application/pdf", " marked, flat.pdf"),
                OutForm.Xfdf => ("application/vnd.adobe.xfdf", " marked.xfdf"),
                OutForm.Svg => ("image/svg+xml", $" {leaves[0].Name}.svg"),
                _ => ("image/png", $" {leaves[0].Name}.png"),
            };
            context.Response.ContentType = type;
            context.Response.ContentLength = file.Length;
            context.Response.Headers.ContentDisposition = $"attachment; filename*=UTF-8''{Uri.EscapeDataString(name + ending)}";
            if (how.IsOfPictures) context.Response.Headers[PicturesHeader] = "pictures";
            await file.CopyToAsync(context.Response.Body, stop);
        }
        finally
        {
            folder.Delete(recursive: true);
        }
    }

    private async Task<IReadOnlyList<MarkedLeaf>> LeavesAsync(Who who, Guid draft, Guid document, IReadOnlyList<Leaf> leaves, OutAsked asked, CancellationToken stop)
    {
        var notes = await NotesAsync(who, draft, stop);
        var overlays = (await OverlayRows.OfDraftAsync(database, draft, stop)).Where(o => asked.Without?.Contains(o.Id) != true).ToDictionary(o => o.Id);
        var owners = (await database.ListAsync("SELECT id, name FROM person WHERE id = ANY ($1)", r => (r.GetGuid(0), r.GetString(1)), [overlays.Values.Select(o => o.Owner).Distinct().ToArray()], stop)).ToDictionary(o => o.Item1, o => o.Item2);
        var drawn = (await database.ListAsync("SELECT id, changed_at FROM markup WHERE overlay_id = ANY ($1)", r => (r.GetGuid(0), r.Time(1)), [overlays.Keys.ToArray()], stop)).ToDictionary(m => m.Item1, m => m.Item2);
        var scales = await scaling.HoldAsync(draft, leaves, stop);
        var sent = notes.ToDictionary(n => n.Id, Sent);
        var marks = (await OverlayRows.OnAsync(database, overlays.Keys, stop)).Select(m => m.Markup)
            .Select(m => (m.Place.Leaf, Mark: new SentMark(m.Id, m.Shape, null, owners[overlays[m.Overlay].Owner], drawn[m.Id], overlays[m.Overlay].Name, m.Note is { } note ? sent.GetValueOrDefault(note) : null)))
            .Concat(asked.Carried == false ? [] : Carried(notes, document, draft, sent)).ToLookup(m => m.Leaf, m => m.Mark);
        // What is about the whole stands on the first sheet.
        var loose = notes.Where(n => n.Draft == draft && n.Marks.Count == 0).Select(n => sent[n.Id]).ToList();
        return [.. leaves.Select((l, i) =>
        {
            var (frame, known) = ((SheetFrame)l.Frame, scales[i].Select(s => new SheetScale(s.Millimetres, s.Area)).ToList());
            return new MarkedLeaf(l, [.. marks[l.Position].Select(m => m with { Value = Measured.Words(m.Shape, known, frame.Unit) })], i == 0 ? loose : []);
        })];
    }

    /// <summary>The notes of the package that the draft was last sent in, as far as who asks may see it.</summary>
    private async Task<IReadOnlyList<NoteRow>> NotesAsync(Who who, Guid draft, CancellationToken stop)
    {
        var package = (await database.ListAsync(OverlayView.PackageSql, r => (Guid?)r.GetGuid(0), [draft], stop)).FirstOrDefault();
        return package is { } id && await Access.SeesAsync(database, who, id, stop) && await packages.FindAsync(id, who, stop) is { } view ? view.Notes : [];
    }

    /// <summary>Places on earlier drafts of notes that lie on this one, too.</summary>
    private static IEnumerable<(int Leaf, SentMark Mark)> Carried(IReadOnlyList<NoteRow> notes, Guid document, Guid draft, Dictionary<Guid, SentNote> sent) =>
        from note in notes
        where note.Places.Any(p => p.Draft == draft && p.How == Carriage.Carried)
        from mark in note.Marks
        where mark.Document == document && mark.Draft != draft && mark.Shape is not CellRange
        select (mark.Place.Leaf, new SentMark(mark.Id, mark.Shape, null, note.AuthorName, note.At, "Carried from earlier drafts", sent[note.Id]));

    private static SentNote Sent(NoteRow n) => new(
        n.Id, n.Number, n.Kind, n.Standing, n.Answer, n.AuthorName, n.At, n.Body, [.. n.Acts.Select((a, i) => new SentReply(i + 1, a.Name, a.At, a.Act, a.Body))]);
}
