using System.Globalization;
using Froe.Formats.Out;
using Froe.Server.Lists;
using Froe.Server.Packages;
using Froe.Server.SignIn;
using Froe.Store;

namespace Froe.Server.Exchange;

/// <summary>The notes of a package, with all that was said to them, as a file.</summary>
public sealed class NotesFile(Access access, PackageViews packages)
{
    private sealed record Column(string Title, double Width, Func<NoteRow, PackageItem?, TimeZoneInfo, object?> Cell);

    private static readonly Column[] Columns =
    [
        new("Number", 9, (n, _, _) => n.Number),
        new("Kind", 10, (n, _, _) => Words.Of(n.Kind)),
        new("Document", 18, (_, i, _) => i?.Number),
        new("Title", 32, (_, i, _) => i?.Title),
        new("Draft", 8, (n, i, _) => i is null ? "" : string.Create(CultureInfo.InvariantCulture, $"{i.Revision}.{OrdinalOf(n.Draft, i)}")),
        new("Place", 12, (n, _, _) => n.Terms.OnPackage ? "the package" : n.Marks.Count == 0 ? "the whole" : string.Join(", ", n.Marks.Select(m => m.Zone ?? "on the sheet").Distinct())),
        new("Round", 8, (n, _, _) => n.Round),
        new("Words", 60, (n, _, _) => n.Body),
        new("By", 22, (n, _, _) => n.AuthorName),
        new("Written", 17, (n, _, zone) => Clock(n.At, zone)),
        new("Urgent", 9, (n, _, _) => n.Terms.Urgent ? "urgent" : ""),
        new("Wanted by", 12, (n, _, _) => n.Terms.Due?.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture)),
        new("Tags", 20, (n, _, _) => string.Join(", ", n.Terms.Tags)),
        new("Standing", 12, (n, _, _) => Words.Of(n.Standing)),
        new("Answer", 12, (n, _, _) => n.Answer is { } answer ? Words.Of(answer) : ""),
        new("What was said to it", 70, (n, _, zone) => string.Join('\n', n.Acts.Select(a => $"{CsvFile.Time(a.At, zone)} {a.Name}, {a.Act}{(a.Body.Length > 0 ? ": " + a.Body : "")}"))),
    ];

    /// <summary>Writes them as the answer.</summary>
    /// <param name="isWorkbook">Whether as a workbook (ISO/IEC 29500-1) rather than as comma-separated values (RFC 4180).</param>
    /// <param name="zone">The reader's, by its IANA name.</param>
    public async Task SendAsync(HttpContext context, Who who, Guid package, bool isWorkbook, string? zone)
    {
        ArgumentNullException.ThrowIfNull(context);
        var stop = context.RequestAborted;
        await access.DemandPackageAsync(who, package, stop);
        var place = CsvFile.Zone(zone);
        var view = await packages.FindAsync(package, who, stop) ?? throw Refused.Missing("package");
        var items = view.Items.ToDictionary(i => i.Document);
        var rows = view.Notes.Select(n => Columns.Select(c => c.Cell(n, items.GetValueOrDefault(n.Document), place)).ToList()).ToList();
        using var file = new MemoryStream();
        if (isWorkbook) WorkbookFile.Write($"Notes of {view.Number}", [.. Columns.Select(c => new WorkbookColumn(c.Title, c.Width))], rows, file);
        else CsvFile.Write(file, [Columns.Select(c => c.Title), .. rows.Select(r => r.Select(v => v is DateTime at ? at.ToString("yyyy-MM-dd HH:mm", CultureInfo.InvariantCulture) : Convert.ToString(v, CultureInfo.InvariantCulture) ?? ""))]);
        context.Response.ContentType = isWorkbook ? WorkbookFile.MediaType : "text/csv; charset=utf-8";
        context.Response.Headers.ContentDisposition = $"attachment; filename*=UTF-8''{Uri.EscapeDataString($"{view.Number} notes.{(isWorkbook ? "xlsx" : "csv")}")}";
        file.Position = 0;
        await file.CopyToAsync(context.Response.Body, stop);
    }

    private static int OrdinalOf(Guid draft, PackageItem item) => item.EarlierDrafts.FirstOrDefault(e => e.Draft == draft)?.Ordinal ?? item.Ordinal;

    private static DateTime Clock(DateTimeOffset at, TimeZoneInfo zone) => TimeZoneInfo.ConvertTime(at, zone).DateTime;
}
