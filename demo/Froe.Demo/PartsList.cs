using System.Globalization;
using DocumentFormat.OpenXml;
using DocumentFormat.OpenXml.Packaging;
using DocumentFormat.OpenXml.Spreadsheet;

namespace Froe.Demo;

/// <summary>What is needed to mend the pier: a workbook of two tabs, with masses that add up and days of delivery.</summary>
internal static class PartsList
{
    private enum Look : uint
    {
        Plain,
        Title,
        Head,
        Words,
        Number,
        Mass,
        Day,
        Late,
        Sum,
        SumMass,
    }

    private sealed record Part(string Number, string Name, int Count, string Unit, string Material, double Each, string Of, int Days, string Remark);

    private static readonly Part[] Parts =
    [
        new("TO-1105", "Foundation, reinforcement cage", 1, "pc", "B500B", 412.6, "Cage shop", 4, "As released, A.1"),
        new("TO-1107-01", "Injection resin, crack C4", 6, "kg", "EP 2-part", 1, "Stores", 2, "0.40 mm and wider only"),
        new("TO-1107-02", "Injection packer, Ø 10", 24, "pc", "Brass", 0.041, "Stores", 2, "Every 200 mm along the crack"),
        new("TO-1107-03", "Surface filler", 4, "kg", "EP, thixotropic", 1, "Stores", 2, ""),
        new("TO-1107-04", "Anchor rod M24 × 600", 12, "pc", "8.8, hot-dip galvanised", 2.318, "Bolt shop", 9, "With certificate 3.1"),
        new("TO-1107-05", "Anchor plate 120 × 120 × 20", 12, "pc", "S355J2", 2.261, "Own", 6, ""),
        new("TO-1107-06", "Levelling nut M24", 24, "pc", "8", 0.107, "Bolt shop", 9, ""),
        new("TO-1107-07", "Grout, non-shrink", 14, "bag", "R4, 25 kg", 25, "Stores", 3, "Shelf life 6 months"),
        new("TO-1107-08", "Pier cap plate, machined", 1, "pc", "S355J2+N", 386.4, "Machine shop", 16, "After the survey of levels"),
        new("TO-1107-09", "Shim 0.5", 8, "pc", "1.4301", 0.038, "Stores", 3, ""),
        new("TO-1107-10", "Shim 1.0", 8, "pc", "1.4301", 0.076, "Stores", 3, ""),
        new("TO-1107-11", "Earth strap 50 mm²", 3, "m", "Cu, tinned", 0.45, "Electrical", 5, "Leaves at the north face"),
        new("TO-1107-12", "Joint seal, inflatable", 1, "set", "Silicone, 60 Shore A", 3.2, "Seal shop", 21, "≈ 11.2 m round, Ø 3400"),
        new("TO-1107-13", "Drain pipe DN 50", 2, "m", "PE-HD", 0.8, "Site", 2, ""),
        new("TO-1107-14", "Crack gauge, glued", 5, "pc", "PMMA", 0.02, "Survey", 1, "C1 to C5, read weekly"),
    ];

    public static void Write(string file)
    {
        using var document = SpreadsheetDocument.Create(file, SpreadsheetDocumentType.Workbook);
        var book = document.AddWorkbookPart();
        book.AddNewPart<WorkbookStylesPart>().Stylesheet = Styles();
        var sheets = new Sheets();
        Add(book, sheets, "Parts", PartsTab());
        Add(book, sheets, "Deliveries", DeliveriesTab());
        book.Workbook = new Workbook(sheets);
    }

    private static void Add(WorkbookPart book, Sheets sheets, string name, Worksheet sheet)
    {
        var part = book.AddNewPart<WorksheetPart>();
        part.Worksheet = sheet;
        sheets.Append(new Sheet { Name = name, SheetId = (uint)sheets.Count() + 1, Id = book.GetIdOfPart(part) });
    }

    private static Worksheet PartsTab()
    {
        var rows = new SheetData();
        rows.Append(RowOf(28, Cell("TO-1107  Pier refit, parts and materials", Look.Title)));
        rows.Append(RowOf(18, Cell("Draft A.1 · masses in kg · delivery to the site", Look.Plain)));
        rows.Append(RowOf(32, [.. new[] { "Item", "Number", "Designation", "Count", "Unit", "Material", "Mass each", "Mass", "From", "On site", "Remark" }.Select(h => Cell(h, Look.Head))]));
        for (var i = 0; i < Parts.Length; i++)
        {
            var p = Parts[i];
            var day = new DateTime(2026, 12, 1, 0, 0, 0, DateTimeKind.Unspecified).AddDays(p.Days);
            rows.Append(RowOf(
                null, Cell(i + 1, Look.Number), Cell(p.Number, Look.Words), Cell(p.Name, Look.Words), Cell(p.Count, Look.Number), Cell(p.Unit, Look.Words), Cell(p.Material, Look.Words),
                Cell(p.Each, Look.Mass), Cell(p.Count * p.Each, Look.Mass), Cell(p.Of, Look.Words), Cell(day.ToOADate(), p.Days > 14 ? Look.Late : Look.Day), Cell(p.Remark, Look.Words)));
        }
        rows.Append(RowOf(
            22, Cell("Sum", Look.Sum), Cell("", Look.Sum), Cell("", Look.Sum), Cell(Parts.Sum(p => p.Count), Look.Sum), Cell("", Look.Sum), Cell("", Look.Sum), Cell("", Look.Sum),
            Cell(Parts.Sum(p => p.Count * p.Each), Look.SumMass), Cell("", Look.Sum), Cell("", Look.Sum), Cell("", Look.Sum)));
        return Laid(rows, [6, 14, 30, 7, 6, 23, 11, 11, 13, 12, 30], 3, 2, new MergeCells(new MergeCell { Reference = "A1:K1" }, new MergeCell { Reference = "A2:K2" }));
    }

    private static Worksheet DeliveriesTab()
    {
        var rows = new SheetData();
        rows.Append(RowOf(24, [.. new[] { "On site", "From", "What comes", "Mass" }.Select(h => Cell(h, Look.Head))]));
        foreach (var load in Parts.GroupBy(p => (p.Days, p.Of)).OrderBy(g => g.Key.Days))
        {
            var day = new DateTime(2026, 12, 1, 0, 0, 0, DateTimeKind.Unspecified).AddDays(load.Key.Days);
            rows.Append(RowOf(null, Cell(day.ToOADate(), load.Key.Days > 14 ? Look.Late : Look.Day), Cell(load.Key.Of, Look.Words), Cell(string.Join(", ", load.Select(p => p.Name)), Look.Words), Cell(load.Sum(p => p.Count * p.Each), Look.Mass)));
        }
        return Laid(rows, [12, 14, 78, 11], 1, 0, null);
    }

    private static Worksheet Laid(SheetData rows, double[] widths, int frozenRows, int frozenColumns, MergeCells? merges)
    {
        var pane = new Pane { VerticalSplit = frozenRows, State = PaneStateValues.Frozen, TopLeftCell = $"{(char)('A' + frozenColumns)}{frozenRows + 1}", ActivePane = frozenColumns > 0 ? PaneValues.BottomRight : PaneValues.BottomLeft };
        if (frozenColumns > 0) pane.HorizontalSplit = frozenColumns;
        var sheet = new Worksheet(
            new SheetViews(new SheetView(pane) { WorkbookViewId = 0, ShowGridLines = false }), new SheetFormatProperties { DefaultRowHeight = 16.5 },
            new Columns(widths.Select((w, i) => new Column { Min = (uint)i + 1, Max = (uint)i + 1, Width = w, CustomWidth = true })), rows);
        if (merges is not null) sheet.Append(merges);
        return sheet;
    }

    private static Row RowOf(double? height, params Cell[] cells)
    {
        var row = new Row(cells.Cast<OpenXmlElement>());
        if (height is { } points) (row.Height, row.CustomHeight) = (points, true);
        return row;
    }

    private static Cell Cell(string words, Look look) => new(new InlineString(new Text(words) { Space = SpaceProcessingModeValues.Preserve })) { DataType = CellValues.InlineString, StyleIndex = (uint)look };

    private static Cell Cell(double number, Look look) => new(new CellValue(number.ToString("R", CultureInfo.InvariantCulture))) { StyleIndex = (uint)look };

    private static Stylesheet Styles()
    {
        static Font Face(double size, bool bold = false, string? colour = null)
        {
            var font = new Font();
            if (bold) font.Append(new Bold());
            font.Append(new FontSize { Val = size });
            if (colour is not null) font.Append(new Color { Rgb = colour });
            return font;
        }
        static Fill Ground(string colour) => new(new PatternFill(new ForegroundColor { Rgb = colour }) { PatternType = PatternValues.Solid });
        static Border Lines(BorderStyleValues top, BorderStyleValues bottom) => new(
            new LeftBorder(), new RightBorder(), new TopBorder(new Color { Rgb = "FF3A4650" }) { Style = top }, new BottomBorder(new Color { Rgb = bottom == BorderStyleValues.Hair ? "FF9AA4AB" : "FF3A4650" }) { Style = bottom }, new DiagonalBorder());
        static CellFormat Format(uint font, uint fill, uint border, uint number = 0, HorizontalAlignmentValues? across = null, bool wraps = false) => new(
            new Alignment { Horizontal = across ?? HorizontalAlignmentValues.General, Vertical = VerticalAlignmentValues.Center, WrapText = wraps })
        { FontId = font, FillId = fill, BorderId = border, NumberFormatId = number, ApplyFont = true, ApplyFill = true, ApplyBorder = true, ApplyNumberFormat = true, ApplyAlignment = true };
        var none = BorderStyleValues.None;
        return new Stylesheet(
            new NumberingFormats(new NumberingFormat { NumberFormatId = 164, FormatCode = "#,##0.0##" }, new NumberingFormat { NumberFormatId = 165, FormatCode = "ddd d mmm" }),
            new Fonts(Face(11), Face(15, true), Face(10, true), Face(11, true, "FF9C2A10")),
            new Fills(new Fill(new PatternFill { PatternType = PatternValues.None }), new Fill(new PatternFill { PatternType = PatternValues.Gray125 }), Ground("FFE3E8E6"), Ground("FFF9E7DC")),
            new Borders(Lines(none, none), Lines(BorderStyleValues.Medium, BorderStyleValues.Thin), Lines(none, BorderStyleValues.Hair), Lines(BorderStyleValues.Thin, BorderStyleValues.Medium)),
            new CellStyleFormats(new CellFormat()),
            new CellFormats(
                Format(0, 0, 0), Format(1, 0, 0), Format(2, 2, 1, across: HorizontalAlignmentValues.Center, wraps: true), Format(0, 0, 2), Format(0, 0, 2, across: HorizontalAlignmentValues.Center),
                Format(0, 0, 2, 164), Format(0, 0, 2, 165, HorizontalAlignmentValues.Right), Format(3, 3, 2, 165, HorizontalAlignmentValues.Right), Format(2, 2, 3, across: HorizontalAlignmentValues.Center), Format(2, 2, 3, 164)));
    }
}
