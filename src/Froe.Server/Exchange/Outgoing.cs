using System.Globalization;
using Froe.Core.Draft;
using Froe.Core.Exchange;
using Froe.Server.Files;
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
public sealed class Outgoing(Database database, Access access, LyingOnDrafts lyingOn, Errands errands, Transfers transfers)
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
        var marked = new MarkedDraft($"{name} {title}", await lyingOn.LeavesAsync(who.Id, draft, document, leaves, await lyingOn.NotesAsync(who, draft, stop), asked.Without, asked.Carried != false, stop));
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
}
