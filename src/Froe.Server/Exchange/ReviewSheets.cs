using System.Globalization;
using Froe.Core.Draft;
using Froe.Core.Exchange;
using Froe.Formats.Out;
using Froe.Server.Files;
using Froe.Server.Lists;
using Froe.Server.Packages;
using Froe.Server.Register;
using Froe.Server.SignIn;
using Froe.Store;

namespace Froe.Server.Exchange;

/// <summary>A package on paper: its sheets with numbered markups, what was said to them and decided.</summary>
public sealed class ReviewSheets(Database database, Access access, PackageViews packages, LyingOnDrafts lyingOn, ViewsOfModels views, Errands errands, Transfers transfers, TimeProvider clock)
{
    /// <summary>Most sheets of one; more take longer than anybody waits for, and than a child may take.</summary>
    private const int MostSheets = 200;

    /// <summary>Writes one as the answer.</summary>
    /// <param name="zone">The reader's, by its IANA name.</param>
    public async Task SendAsync(HttpContext context, Who who, Guid package, string? zone)
    {
        ArgumentNullException.ThrowIfNull(context);
        ArgumentNullException.ThrowIfNull(who);
        var stop = context.RequestAborted;
        await access.DemandPackageAsync(who, package, stop);
        var place = CsvFile.Zone(zone);
        var view = await packages.FindAsync(package, who, stop) ?? throw Refused.Missing("package");
        using var transfer = transfers.Begin(who.Id);
        var folder = Directory.CreateTempSubdirectory("froe-errand-");
        try
        {
            var (items, leftOut) = (new List<ReviewedItem>(), 0);
            foreach (var item in view.Items)
            {
                var all = await Drafts.LeavesAsync(database, item.Draft, stop);
                var leaves = all.Where(l => l.Frame is SheetFrame).ToList();
                var seen = new List<MarkedLeaf>();
                foreach (var model in all.Where(l => l.Frame is SceneFrame))
                {
                    var (own, more) = await views.OfAsync(who, item.Draft, item.Document, model, view.Notes, stop);
                    seen.AddRange(own);
                    leftOut += more;
                }
                if (items.Sum(i => i.Leaves.Count) + leaves.Count + seen.Count > MostSheets)
                    throw Refused.Invalid("too-many-sheets", $"The package has more than {MostSheets} sheets and marked views of models; a review sheet takes no more. Take the drafts one by one, and the notes as a list.");
                List<Leaf> drawn = [.. leaves, .. all.Where(l => seen.Any(s => s.View?.Leaf == l.Position))];
                await errands.FillAsync(Directory.CreateDirectory(ReviewSheetFile.FolderOf(folder.FullName, items.Count)), item.Draft, drawn, stop);
                items.Add(new ReviewedItem(NameOf(item), item.Title, item.FileName, item.Sha256, [.. await lyingOn.LeavesAsync(who.Id, item.Draft, item.Document, leaves, view.Notes, null, true, stop), .. seen]));
            }
            await errands.RunAsync<ReviewSheetErrand, MarkedOut>("review-sheet", folder, new ReviewSheetErrand(SheetOf(view, items, leftOut, place)), stop);
            await using var file = File.OpenRead(Path.Combine(folder.FullName, ErrandFiles.File));
            context.Response.ContentType = "application/pdf";
            context.Response.ContentLength = file.Length;
            context.Response.Headers.ContentDisposition = $"attachment; filename*=UTF-8''{Uri.EscapeDataString($"{view.Number} review sheet.pdf")}";
            await file.CopyToAsync(context.Response.Body, stop);
        }
        finally
        {
            folder.Delete(recursive: true);
        }
    }

    private ReviewSheet SheetOf(PackageView view, List<ReviewedItem> items, int leftOut, TimeZoneInfo zone)
    {
        var drafts = view.Items.ToDictionary(i => i.Draft);
        string[] head =
        [
            $"Sent {CsvFile.Time(view.SentAt, zone)} by {view.OriginatorName}; round {Said(view.Round)}, {view.Standing}",
            .. view.Slip.Facts.ChangeOrder.Length > 0 ? [$"Carries out change order {view.Slip.Facts.ChangeOrder}"] : Array.Empty<string>(),
            $"Made {CsvFile.Time(clock.GetUtcNow(), zone)}, times in {zone.Id}",
            .. leftOut > 0 ? [$"{(leftOut == 1 ? "One marked view" : $"{Said(leftOut)} marked views")} of large models would take too long to draw: the notes stand without pictures of them."] : Array.Empty<string>(),
            .. view.Statement.Length > 0 ? [view.Statement] : Array.Empty<string>(),
        ];
        var signed = view.SignOffs.SelectMany(s => s.Verdicts.Select(v => new SignedLine(
                $"{(drafts.TryGetValue(v.Draft, out var i) ? NameOf(i) : $"an earlier draft, SHA-256 {v.Sha256[..12]} …")}: {Words.Of(v.Verdict)}{(v.Reason.Length > 0 ? $", {v.Reason}" : "")}{(v.Answer is { } answer ? $" · answered: {answer}" : "")}", true))
            .Prepend(new SignedLine($"{s.Name}, {SeatWords(view, s.Seat)}, {CsvFile.Time(s.At, zone)}, round {Said(s.Round)}{(s.Stands ? "" : ", does not stand any more")}{(s.Remark.Length > 0 ? $": {s.Remark}" : "")}", false)));
        return new ReviewSheet(view.Number, view.Title, head, items, [.. signed], [.. view.Notes.Select(n => NoteOf(n, view, items, zone))]);
    }

    private static ReviewedNote NoteOf(NoteRow note, PackageView view, List<ReviewedItem> items, TimeZoneInfo zone)
    {
        var kind = Words.Of(note.Kind);
        var at = view.Items.Select((i, n) => (Item: i, Number: n)).FirstOrDefault(i => i.Item.Document == note.Document);
        // The place as it lies on what is under review; what lies on a table has no picture.
        var mark = note.Marks.FirstOrDefault(m => m.Place is OnSheet or OnScene && at.Item is not null && items[at.Number].Leaves.Any(l => l.Marks.Any(s => s.Id == m.Id)));
        var zones = string.Join(", ", note.Marks.Select(m => m.Zone).Where(z => z is not null).Distinct());
        return new ReviewedNote(
            note.Number, $"{char.ToUpperInvariant(kind[0])}{kind[1..]} {Said(note.Number)}, {Words.Of(note.Standing)}",
            $"{(at.Item is null ? "another document" : NameOf(at.Item))}{(zones.Length > 0 ? $", {zones}" : note.Marks.Count == 0 ? ", the whole" : "")}",
            $"{note.AuthorName}, {CsvFile.Time(note.At, zone)}, round {Said(note.Round)}", note.Body,
            [.. note.Acts.Select(a => $"{CsvFile.Time(a.At, zone)}  {a.Name}, {a.Act}{(a.Body.Length > 0 ? $": {a.Body}" : "")}")],
            mark is null ? null : at.Number, mark?.Id);
    }

    private static string SeatWords(PackageView view, string seat) => view.Slip.Plan.Steps().SelectMany(s => s.Seats).FirstOrDefault(s => s.Key == seat)?.Role ?? seat;

    private static string NameOf(PackageItem item) => string.Create(CultureInfo.InvariantCulture, $"{item.Number} {item.Revision}.{item.Ordinal}");

    private static string Said(int number) => number.ToString(CultureInfo.InvariantCulture);
}
