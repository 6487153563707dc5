using System.Globalization;
using System.Text;
using System.Xml;
using Froe.Core.Draft;

namespace Froe.Formats.Tables;

/// <summary>What is not shown of a workbook, counted.</summary>
internal sealed class WorkbookLosses
{
    private readonly Dictionary<(string Type, string Why), int> counts = [];

    public void Add(string type, string why, int count = 1)
    {
        if (count > 0) counts[(type, why)] = counts.GetValueOrDefault((type, why)) + count;
    }

    public IReadOnlyList<NotShown> All => [.. counts.Select(c => new NotShown(c.Key.Type, c.Value, c.Key.Why))];
}

/// <summary>Reads the cells of one worksheet as they pass by (ISO/IEC 29500-1, 18.3.1): no sheet is ever held whole as XML.</summary>
internal sealed class WorksheetReading(TableBuilder table, WorkbookStyles styles, IReadOnlyList<string> words, bool from1904, WorkbookLosses losses)
{
    private const int MostRows = 1_048_576, MostColumns = 16_384, MostMerges = 50_000;
    private const double PixelsInPoint = 96.0 / 72;

    private readonly Dictionary<(int Format, CellAcross Usual, string? Ink), int> numbers = [];
    private readonly List<(int From, int To, int Style)> columnLooks = [];
    private readonly HashSet<string> over = [];
    private int lastRow = -1;

    public void Read(XmlReader xml)
    {
        while (xml.Read())
        {
            if (xml.NodeType != XmlNodeType.Element) continue;
            switch (xml.LocalName)
            {
                case "sheetView": table.HasGrid = xml.GetAttribute("showGridLines") is not ("0" or "false"); break;
                case "pane" when xml.GetAttribute("state") is "frozen" or "frozenSplit": Freeze(xml); break;
                case "sheetFormatPr": Defaults(xml); break;
                case "col": Column(xml); break;
                case "row": Row(xml); break;
                case "mergeCell": Merge(xml); break;
                case "conditionalFormatting": losses.Add("colour by condition", "Cells look as they do without conditions."); break;
                case "sparkline": losses.Add("chart in a cell", "Charts are not drawn."); break;
                // Written twice, for programs that know the newer way of it and for those that do not.
                case "oleObject" when over.Add(xml.GetAttribute("shapeId") ?? ""): losses.Add("embedded object", "What another program keeps over the cells is not drawn."); break;
                case "control" when over.Add(xml.GetAttribute("shapeId") ?? ""): losses.Add("button or box", "What is pressed or filled in over the cells is not drawn."); break;
            }
        }
    }

    private void Freeze(XmlReader xml)
    {
        table.FrozenRows = (int)Math.Clamp(Number(xml, "ySplit") ?? 0, 0, 100);
        table.FrozenColumns = (int)Math.Clamp(Number(xml, "xSplit") ?? 0, 0, 50);
    }

    private void Defaults(XmlReader xml)
    {
        if (Number(xml, "defaultRowHeight") is { } height and > 0 and < 410) table.RowHeight = Math.Round(height * PixelsInPoint, 1);
        if (Number(xml, "defaultColWidth") is { } width and > 0 and < 256) table.ColumnWidth = Pixels(width);
        else if (Number(xml, "baseColWidth") is { } letters and > 0 and < 256) table.ColumnWidth = (letters * 7) + 8;
    }

    /// <summary>A width in letters of the usual font, seven pixels each (18.3.1.13).</summary>
    private static double Pixels(double letters) => Math.Truncate(((256 * letters) + Math.Truncate(128 / 7.0)) / 256 * 7);

    private void Column(XmlReader xml)
    {
        int from = (int)Math.Clamp(Number(xml, "min") ?? 0, 1, MostColumns) - 1, to = (int)Math.Clamp(Number(xml, "max") ?? 0, 1, MostColumns) - 1;
        var isHidden = xml.GetAttribute("hidden") is "1" or "true";
        var width = Number(xml, "width") is { } letters and > 0 and < 256 ? Pixels(letters) : table.ColumnWidth;
        if (Number(xml, "style") is { } style and > 0) columnLooks.Add((from, to, (int)Math.Min(style, int.MaxValue)));
        for (var column = from; column <= to && table.Widths.Count < MostColumns; column++)
        {
            table.Widths[column] = width;
            if (isHidden) table.HiddenColumns.Add(column);
        }
    }

    private void Row(XmlReader xml)
    {
        var row = Number(xml, "r") is { } stated ? (int)Math.Clamp(stated, 0, int.MaxValue) - 1 : lastRow + 1;
        if (row <= lastRow || row >= MostRows)
        {
            losses.Add("row", "It stands out of order, or beyond the last row that a table can have.");
            xml.Skip();
            return;
        }
        lastRow = row;
        var height = Number(xml, "ht") is { } points and > 0 and < 410 ? points * PixelsInPoint : (double?)null;
        var isHidden = xml.GetAttribute("hidden") is "1" or "true";
        // A row that is hidden by having no height is shown like others.
        if (isHidden && height < 4) height = null;
        var rowLook = xml.GetAttribute("customFormat") is "1" or "true" && Number(xml, "s") is { } look ? (int)look : 0;
        var cells = new List<TableCell>();
        if (!xml.IsEmptyElement)
        {
            var depth = xml.Depth;
            // Reading a cell leaves the reader behind it, which may be on the next.
            for (var more = xml.Read(); more && xml.Depth > depth;)
            {
                if (xml.NodeType == XmlNodeType.Element && xml.LocalName == "c") Cell(xml, cells, rowLook);
                else more = xml.Read();
            }
        }
        table.Row(row, cells, height, isHidden);
    }

    private void Cell(XmlReader xml, List<TableCell> cells, int rowLook)
    {
        var last = cells.Count > 0 ? cells[^1].Column : -1;
        var column = ColumnOf(xml.GetAttribute("r")) ?? last + 1;
        int format = (int)(Number(xml, "s") ?? 0);
        var type = xml.GetAttribute("t") ?? "n";
        string? value = null, formula = null;
        StringBuilder? inline = null;
        if (xml.IsEmptyElement) xml.Read();
        else
        {
            var depth = xml.Depth;
            for (var more = xml.Read(); more && xml.Depth > depth;)
            {
                if (xml.NodeType != XmlNodeType.Element)
                {
                    more = xml.Read();
                    continue;
                }
                switch (xml.LocalName)
                {
                    case "v": value = xml.ReadElementContentAsString(); break;
                    case "f": formula = xml.ReadElementContentAsString(); break;
                    case "t": (inline ??= new()).Append(xml.ReadElementContentAsString()); break;
                    case "rPh": xml.Skip(); break;
                    default: more = xml.Read(); break;
                }
            }
            xml.Read();
        }
        if (column <= last || column >= MostColumns)
        {
            losses.Add("cell", "It stands out of order, or beyond the last column that a table can have.");
            return;
        }
        FillUpTo(column, cells, rowLook);
        if (value is null && inline is null && formula is not null) losses.Add("formula", "The file keeps no value of it. Open it in the program it was written with, save it, and upload it again.");
        var (text, usual, ink) = Shown(type, value, inline?.ToString(), styles.FormatOf(format));
        if (text.Length > 0 || IsSeen(styles.LookOf(format))) cells.Add(new TableCell(column, text, StyleNumber(format, usual, ink)));
    }

    /// <summary>Cells that the file leaves out look as their row says, or their column.</summary>
    private void FillUpTo(int column, List<TableCell> cells, int rowLook)
    {
        if (rowLook == 0 && columnLooks.Count == 0) return;
        for (var at = cells.Count > 0 ? cells[^1].Column + 1 : 0; at < column; at++)
        {
            var look = rowLook != 0 ? rowLook : columnLooks.FirstOrDefault(c => c.From <= at && at <= c.To).Style;
            if (look != 0 && IsSeen(styles.LookOf(look))) cells.Add(new TableCell(at, "", StyleNumber(look, CellAcross.Left, null)));
        }
    }

    private (string Text, CellAcross Usual, string? Ink) Shown(string type, string? value, string? inline, NumberFormat format)
    {
        switch (type)
        {
            case "s":
                if (value is null) return ("", CellAcross.Left, null);
                if (!int.TryParse(value, NumberStyles.None, CultureInfo.InvariantCulture, out var number) || number >= words.Count)
                {
                    losses.Add("cell", "It names words that the file does not have.");
                    return ("", CellAcross.Left, null);
                }
                return Words(words[number], format);
            case "inlineStr" or "str": return Words(inline ?? value ?? "", format);
            case "b": return (value is "1" or "true" ? "TRUE" : value is null ? "" : "FALSE", CellAcross.Centre, null);
            case "e": return (value ?? "", CellAcross.Centre, null);
            case "d":
                return DateTime.TryParse(value, CultureInfo.InvariantCulture, DateTimeStyles.RoundtripKind, out var date)
                    ? Numbered((date - new DateTime(1899, 12, 30, 0, 0, 0, DateTimeKind.Unspecified)).TotalDays - (from1904 ? 1462 : 0), format) : (value ?? "", CellAcross.Right, null);
        }
        if (string.IsNullOrEmpty(value)) return inline is null ? ("", CellAcross.Left, null) : Words(inline, format);
        return double.TryParse(value, NumberStyles.Float, CultureInfo.InvariantCulture, out var size) ? Numbered(size, format) : (value, CellAcross.Left, null);
    }

    private static (string Text, CellAcross Usual, string? Ink) Words(string text, NumberFormat format)
    {
        var (shown, ink) = format.Of(text);
        return (shown, CellAcross.Left, ink);
    }

    private (string Text, CellAcross Usual, string? Ink) Numbered(double value, NumberFormat format)
    {
        var (shown, ink) = format.Of(value, from1904);
        return (shown, CellAcross.Right, ink);
    }

    private void Merge(XmlReader xml)
    {
        if (xml.GetAttribute("ref")?.Split(':') is not { Length: 2 } ends || CellOf(ends[0]) is not var (top, left) || CellOf(ends[1]) is not var (bottom, right)) return;
        if (bottom < top || right < left || (bottom == top && right == left)) return;
        if (table.Merges.Count >= MostMerges)
        {
            losses.Add("merged range", $"Only the first {MostMerges:N0} of a table are shown as one cell.");
            return;
        }
        table.Merges.Add(new(top, left, bottom - top + 1, right - left + 1));
    }

    private int StyleNumber(int format, CellAcross usual, string? ink)
    {
        if (!numbers.TryGetValue((format, usual, ink), out var number)) numbers[(format, usual, ink)] = number = table.Style(styles.LookOf(format, usual, ink));
        return number;
    }

    private static bool IsSeen(CellStyle look) => look.Fill is not null || look.Left is not null || look.Top is not null || look.Right is not null || look.Bottom is not null;

    private static double? Number(XmlReader xml, string name) =>
        double.TryParse(xml.GetAttribute(name), NumberStyles.Float, CultureInfo.InvariantCulture, out var number) && double.IsFinite(number) ? number : null;

    private static int? ColumnOf(string? reference)
    {
        if (string.IsNullOrEmpty(reference)) return null;
        int column = 0, at = 0;
        while (at < reference.Length && at < 4 && char.IsAsciiLetter(reference[at])) column = (column * 26) + (char.ToUpperInvariant(reference[at++]) - 'A' + 1);
        return at == 0 ? null : column - 1;
    }

    private static (int Row, int Column)? CellOf(string reference)
    {
        var plain = reference.Replace("$", "", StringComparison.Ordinal);
        if (ColumnOf(plain) is not { } column || column >= MostColumns) return null;
        return int.TryParse(plain.AsSpan(plain.AsSpan().IndexOfAnyInRange('0', '9') is var at and > 0 ? at : 0), NumberStyles.None, CultureInfo.InvariantCulture, out var row) && row is >= 1 and <= MostRows ? (row - 1, column) : null;
    }
}
