using System.Diagnostics;
using System.Globalization;
using System.Text.RegularExpressions;
using CsvHelper;
using CsvHelper.Configuration;
using Froe.Core.Draft;
using Froe.Core.Drawing;
using Froe.Formats.Texts;

namespace Froe.Formats.Tables;

/// <summary>Reads values parted by commas, semicolons, bars or tabs (RFC 4180 and its kin) into drafts of one table.</summary>
internal sealed partial class ListDraftReader : IReader
{
    private const long MostBytes = 256L << 20;
    private const int MostColumns = 16_384, RowsForWidths = 1000;
    private const double LeastWidth = 40, MostWidth = 420;

    public string Name => "list";

    public int Version => 1;

    public string Words => "lists of values";

    public IReadOnlyList<string> Extensions { get; } = [".csv", ".tsv"];

    public string MediaType => "text/csv";

    public (DraftContent? Content, ReadFault? Fault) Read(Stream stream, ReadLimits limits)
    {
        ArgumentNullException.ThrowIfNull(limits);
        var watch = Stopwatch.StartNew();
        var (text, encoding, length, fault) = TextFile.Read(stream, Math.Min(limits.MostBytes, MostBytes));
        if (text is null) return (null, fault);
        if (string.IsNullOrWhiteSpace(text)) return (null, new ReadFault(null, "The file is empty."));
        var table = new TableBuilder("Table", new TableBudget());
        int plain = table.Style(new CellStyle()), number = table.Style(new CellStyle(Across: CellAcross.Right)), head = table.Style(new CellStyle(IsBold: true));
        int row = 0, cutRows = 0;
        foreach (var values in Rows(text))
        {
            if (values.Length > MostColumns) cutRows++;
            // A first row of words alone is the head of the columns.
            var isHead = row == 0 && values.Length > 1 && values.All(v => v.Trim().Length > 0 && !Numeric().IsMatch(v));
            if (isHead) table.FrozenRows = 1;
            var cells = new List<TableCell>();
            for (var column = 0; column < Math.Min(values.Length, MostColumns); column++)
            {
                var value = values[column];
                if (value.Length == 0) continue;
                if (row < RowsForWidths) table.Widths[column] = Math.Max(table.Widths.GetValueOrDefault(column, LeastWidth), Math.Min(MostWidth, (value.Length * 7.5) + 14));
                cells.Add(new TableCell(column, value, isHead ? head : Numeric().IsMatch(value) ? number : plain));
            }
            table.Row(row++, cells, height: null, isHidden: false);
        }
        var losses = new WorkbookLosses();
        losses.Add("rest of a row", $"Only the first {MostColumns:N0} values of a row are shown.", cutRows);
        if (table.IsCut) losses.Add("rest of the table", TableBudget.CutWords);
        if (table.IsPartlyWritten) losses.Add("words of a cell", TableBudget.WrittenWords);
        var leaf = table.Leaf(0);
        var report = new ReaderReport(
            "list of values", "", encoding, length, Math.Round(watch.Elapsed.TotalSeconds, 3), [table.Report(leaf)], [], new Dictionary<string, int> { ["cell"] = table.Cells }, losses.All);
        return (new DraftContent([leaf], () => report), null);
    }

    public (DrawingSurvey? Survey, ReadFault? Fault) Survey(Stream stream, ReadLimits limits)
    {
        ArgumentNullException.ThrowIfNull(limits);
        var (text, encoding, _, fault) = TextFile.Read(stream, Math.Min(limits.MostBytes, MostBytes));
        return text is null ? (null, fault) : (new DrawingSurvey("list of values", "", encoding, LengthUnit.Unknown, [], 0, new Dictionary<string, int> { ["row"] = Rows(text).Count() }), null);
    }

    private static IEnumerable<string[]> Rows(string text)
    {
        // Some programs say in a first line what parts the values.
        string? stated = null;
        if (text.StartsWith("sep=", StringComparison.OrdinalIgnoreCase) && text.Length > 5 && text[5] is '\r' or '\n')
        {
            stated = text.Substring(4, 1);
            text = text[6..].TrimStart('\n');
        }
        var configuration = new CsvConfiguration(CultureInfo.InvariantCulture)
        {
            HasHeaderRecord = false,
            IgnoreBlankLines = false,
            BadDataFound = null,
            MissingFieldFound = null,
            DetectDelimiter = stated is null,
            DetectDelimiterValues = [",", ";", "\t", "|"],
            Delimiter = stated ?? ",",
        };
        using var parser = new CsvParser(new StringReader(text), configuration);
        while (parser.Read()) yield return parser.Record ?? [];
    }

    /// <summary>A number as people of any country write it.</summary>
    [GeneratedRegex(@"^\s*[+\-\u2212]?[\d.,'\u00a0\u202f ]*\d\s?[%€$£]?\s*$", RegexOptions.NonBacktracking)]
    private static partial Regex Numeric();
}
