using System.Globalization;
using System.Text;
using DocumentFormat.OpenXml;
using DocumentFormat.OpenXml.Packaging;
using DocumentFormat.OpenXml.Spreadsheet;

namespace Froe.Formats.Out;

/// <summary>A column of a table that goes out.</summary>
/// <param name="Title">Its heading.</param>
/// <param name="Width">In letters.</param>
public sealed record WorkbookColumn(string Title, double Width);

/// <summary>Writes a table as a workbook (ISO/IEC 29500-1): headings that stay in sight and filter, numbers and dates as such.</summary>
public static class WorkbookFile
{
    /// <summary>Most letters of a cell.</summary>
    private const int LongestCell = 32_767;

    /// <summary>What a workbook is.</summary>
    public const string MediaType = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet";

    /// <summary>Writes one.</summary>
    /// <param name="tab">What its tab is called.</param>
    /// <param name="columns">Its columns.</param>
    /// <param name="rows">For each column a number, a <see cref="DateTime"/> as clocks show it, or text: nothing is run as a formula.</param>
    /// <param name="to">Is written to; can be sought in.</param>
    public static void Write(string tab, IReadOnlyList<WorkbookColumn> columns, IEnumerable<IReadOnlyList<object?>> rows, Stream to)
    {
        ArgumentNullException.ThrowIfNull(columns);
        ArgumentNullException.ThrowIfNull(rows);
        using var document = SpreadsheetDocument.Create(to, SpreadsheetDocumentType.Workbook);
        var book = document.AddWorkbookPart();
        var part = book.AddNewPart<WorksheetPart>();
        book.AddNewPart<WorkbookStylesPart>().Stylesheet = Styles();
        var data = new SheetData(new Row(columns.Select(c => Cell(c.Title, Heading))));
        foreach (var row in rows) data.Append(new Row(row.Select(v => Cell(v, v is DateTime ? Moment : Plain))));
        var last = $"{Letters(columns.Count)}{Math.Max(2, data.ChildElements.Count).ToString(CultureInfo.InvariantCulture)}";
        part.Worksheet = new Worksheet(
            new SheetViews(new SheetView(new Pane { VerticalSplit = 1, TopLeftCell = "A2", ActivePane = PaneValues.BottomLeft, State = PaneStateValues.Frozen }) { WorkbookViewId = 0 }),
            new Columns(columns.Select((c, i) => new Column { Min = (uint)i + 1, Max = (uint)i + 1, Width = c.Width, CustomWidth = true })),
            data,
            new AutoFilter { Reference = $"A1:{last}" });
        book.Workbook = new Workbook(new Sheets(new DocumentFormat.OpenXml.Spreadsheet.Sheet { Name = Tab(tab), SheetId = 1, Id = book.GetIdOfPart(part) }));
    }

    private const uint Plain = 0, Heading = 1, Moment = 2;

    private static Stylesheet Styles() => new(
        new NumberingFormats(new NumberingFormat { NumberFormatId = 164, FormatCode = "yyyy\\-mm\\-dd hh:mm" }) { Count = 1 },
        new Fonts(new Font(), new Font(new Bold())) { Count = 2 },
        new Fills(new Fill(new PatternFill { PatternType = PatternValues.None }), new Fill(new PatternFill { PatternType = PatternValues.Gray125 })) { Count = 2 },
        new Borders(new Border()) { Count = 1 },
        new CellStyleFormats(new CellFormat()) { Count = 1 },
        new CellFormats(
            new CellFormat(new Alignment { WrapText = true, Vertical = VerticalAlignmentValues.Top }) { ApplyAlignment = true },
            new CellFormat { FontId = 1, ApplyFont = true },
            new CellFormat(new Alignment { Vertical = VerticalAlignmentValues.Top }) { NumberFormatId = 164, ApplyNumberFormat = true, ApplyAlignment = true })
        { Count = 3 },
        new CellStyles(new CellStyle { Name = "Normal", FormatId = 0, BuiltinId = 0 }) { Count = 1 });

    private static Cell Cell(object? value, uint style) => value switch
    {
        null or "" => new Cell { StyleIndex = style },
        int number => new Cell(new CellValue(number)) { DataType = CellValues.Number, StyleIndex = style },
        DateTime moment => new Cell(new CellValue(moment.ToOADate().ToString(CultureInfo.InvariantCulture))) { DataType = CellValues.Number, StyleIndex = style },
        _ => new Cell(new InlineString(new Text(Sound(value.ToString()!)) { Space = SpaceProcessingModeValues.Preserve })) { DataType = CellValues.InlineString, StyleIndex = style },
    };

    private static string Letters(int column) => column <= 26 ? ((char)('A' + column - 1)).ToString() : Letters((column - 1) / 26) + Letters(((column - 1) % 26) + 1);

    /// <summary>A tab's name without what names may not hold, and no longer than they may be.</summary>
    private static string Tab(string name)
    {
        var sound = string.Concat(name.Select(c => c is '[' or ']' or ':' or '*' or '?' or '/' or '\\' or '\'' ? ' ' : c));
        return sound.Length <= 31 ? sound : sound[..31];
    }

    /// <summary>Words without what XML cannot hold, cut to what a cell may.</summary>
    private static string Sound(string words)
    {
        var sound = new StringBuilder(Math.Min(words.Length, LongestCell));
        foreach (var rune in words.EnumerateRunes())
        {
            if (sound.Length + rune.Utf16SequenceLength > LongestCell) break;
            sound.Append(rune.Value is '\t' or '\n' or (>= 0x20 and not (0xFFFE or 0xFFFF)) ? rune.ToString() : rune.Value == '\r' ? "" : "\uFFFD");
        }
        return sound.ToString();
    }
}
