using System.Globalization;
using System.Text;
using CsvHelper;
using CsvHelper.Configuration;

namespace Froe.Server.Lists;

/// <summary>A list as a file of comma-separated values (RFC 4180), in UTF-8, its first line the headings.</summary>
internal static class CsvFile
{
    // What a spreadsheet would run as a formula is written with an apostrophe before it: titles and names come from people.
    private static readonly CsvConfiguration Form = new(CultureInfo.InvariantCulture) { NewLine = "\r\n", InjectionOptions = InjectionOptions.Escape };

    /// <summary>The reader's time zone by its IANA name.</summary>
    /// <exception cref="Refused">There is none of that name.</exception>
    public static TimeZoneInfo Zone(string? name) => string.IsNullOrEmpty(name) ? TimeZoneInfo.Utc
        : TimeZoneInfo.TryFindSystemTimeZoneById(name, out var zone) ? zone
        : throw Refused.Invalid("no-such-zone", "There is no time zone of that name. Leave it out for UTC.");

    /// <summary>A time in the reader's zone, as spreadsheets understand it.</summary>
    public static string Time(DateTimeOffset at, TimeZoneInfo zone) => TimeZoneInfo.ConvertTime(at, zone).ToString("yyyy-MM-dd HH:mm", CultureInfo.InvariantCulture);

    /// <summary>Writes a whole list, page by page, as the answer; a reader who goes away ends it.</summary>
    public static async Task WriteAsync<T>(HttpContext context, string name, IReadOnlyList<ListColumn<T>> columns, TimeZoneInfo zone, Func<string?, Task<ListPage<T>>> page)
    {
        var stop = context.RequestAborted;
        string? after = null;
        do
        {
            var part = await page(after);
            if (after is null)
            {
                context.Response.ContentType = "text/csv; charset=utf-8";
                context.Response.Headers.ContentDisposition = $"attachment; filename=\"{name}.csv\"";
                // Spreadsheets know UTF-8 by its mark.
                await context.Response.Body.WriteAsync(Encoding.UTF8.Preamble.ToArray(), stop);
            }
            using var text = new StringWriter(CultureInfo.InvariantCulture);
            await using (var csv = new CsvWriter(text, Form))
            {
                if (after is null) Line(csv, columns.Select(c => c.Title));
                foreach (var row in part.Rows) Line(csv, columns.Select(c => c.Cell(row, zone)));
            }
            await context.Response.WriteAsync(text.ToString(), stop);
            after = part.Next;
        }
        while (after is not null);
    }

    /// <summary>Writes lines that are there already.</summary>
    public static void Write(Stream to, IEnumerable<IEnumerable<string>> lines)
    {
        // With its mark before it: spreadsheets know UTF-8 by that.
        using var text = new StreamWriter(to, new UTF8Encoding(encoderShouldEmitUTF8Identifier: true), leaveOpen: true);
        using var csv = new CsvWriter(text, Form);
        foreach (var line in lines) Line(csv, line);
    }

    private static void Line(CsvWriter csv, IEnumerable<string> cells)
    {
        foreach (var cell in cells) csv.WriteField(cell);
        csv.NextRecord();
    }
}
