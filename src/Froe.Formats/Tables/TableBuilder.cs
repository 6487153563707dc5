using System.Text.Json;
using Froe.Core.Draft;

namespace Froe.Formats.Tables;

/// <summary>How much of a file's tables may still be taken, over all of them.</summary>
internal sealed class TableBudget
{
    /// <summary>Most cells of a file.</summary>
    public const int MostCells = 5_000_000;

    /// <summary>Most cells of a file whose words can be found.</summary>
    private const int MostWritten = 200_000;

    /// <summary>What is said where a file has more of them.</summary>
    public static string WrittenWords { get; } = $"The words of a file's first {MostWritten:N0} cells, or {WrittenPage.MostLetters / 1_000_000} million letters, can be found; others are only seen.";

    /// <summary>What is said where a file has more cells than are shown.</summary>
    public static string CutWords { get; } = $"A file's tables are shown up to {MostCells:N0} cells.";

    private int letters = WrittenPage.MostLetters;
    private int written = MostWritten;

    public int Cells { get; set; } = MostCells;

    /// <summary>Takes the words of a cell in to be found; false when there is no more room.</summary>
    public bool Write(string words)
    {
        if (written == 0 || letters < words.Length) return false;
        (written, letters) = (written - 1, letters - words.Length);
        return true;
    }
}

/// <summary>Takes a table in row by row, and makes its leaf.</summary>
internal sealed class TableBuilder(string name, TableBudget budget)
{
    public const double UsualWidth = 64, UsualHeight = 20;

    private const int RowsInBlock = 200, LookAfterWords = 50, PictureRows = 80, LongestText = 32_767;

    private readonly Dictionary<CellStyle, int> styleNumbers = [];
    private readonly List<CellStyle> styles = [];
    private readonly List<byte[]> blocks = [];
    private readonly List<TableRow> rowsOfBlock = [];
    private readonly List<TableRow> first = [];
    private readonly List<WrittenRun> written = [];
    private readonly List<RowHeight> heights = [];
    private readonly List<RowSpan> hidden = [];
    private int lastWords = -1, lastLook = -1, widestWords = -1, widestLook = -1;

    /// <summary>Width of each column that is not as wide as most, in CSS pixels.</summary>
    public SortedDictionary<int, double> Widths { get; } = [];

    public double ColumnWidth { get; set; } = UsualWidth;

    public double RowHeight { get; set; } = UsualHeight;

    public int FrozenRows { get; set; }

    public int FrozenColumns { get; set; }

    public bool HasGrid { get; set; } = true;

    public List<int> HiddenColumns { get; } = [];

    public List<MergedCells> Merges { get; } = [];

    /// <summary>How many cells hold something.</summary>
    public int Cells { get; private set; }

    /// <summary>Whether cells had to be left out because the file has too many.</summary>
    public bool IsCut { get; private set; }

    /// <summary>Whether words of some cells cannot be found.</summary>
    public bool IsPartlyWritten { get; private set; }

    public int Style(CellStyle style)
    {
        if (styleNumbers.TryGetValue(style, out var number)) return number;
        styles.Add(style);
        return styleNumbers[style] = styles.Count - 1;
    }

    /// <summary>A row; rows come in order, empty ones may be left out.</summary>
    /// <param name="cells">In order.</param>
    /// <param name="height">How high the file says it is; null where it does not.</param>
    public void Row(int row, List<TableCell> cells, double? height, bool isHidden)
    {
        if (isHidden) Hide(row);
        // What is cut is cut at one place: rows behind it would stand there as though nothing were missing.
        if (IsCut || cells.Count > budget.Cells)
        {
            IsCut = true;
            return;
        }
        budget.Cells -= cells.Count;
        var high = height ?? HeightOf(cells);
        if (Math.Abs(high - RowHeight) > 0.5) heights.Add(new(row, Math.Round(high, 1)));
        if (cells.Count == 0) return;
        for (var i = 0; i < cells.Count; i++)
        {
            var (column, text, _) = cells[i];
            if (text.Length == 0)
            {
                (lastLook, widestLook) = (Math.Max(lastLook, row), Math.Max(widestLook, column));
                continue;
            }
            if (text.Length > LongestText) cells[i] = cells[i] with { Text = text[..LongestText] };
            (lastWords, widestWords) = (Math.Max(lastWords, row), Math.Max(widestWords, column));
            Cells++;
            if (budget.Write(text)) written.Add(new WrittenRun(text, new(column, row), new(1, 0), new(0, 1)));
            else IsPartlyWritten = true;
        }
        while (blocks.Count < row / RowsInBlock) EndBlock();
        var one = new TableRow(row, cells);
        rowsOfBlock.Add(one);
        if (row < PictureRows) first.Add(one);
    }

    /// <summary>The table's leaf.</summary>
    public ReadLeaf Leaf(int position)
    {
        if (rowsOfBlock.Count > 0) EndBlock();
        foreach (var merge in Merges) (lastWords, widestWords) = Reached(merge);
        int rows = 1 + Math.Max(0, Math.Max(lastWords, Math.Min(lastLook, lastWords + LookAfterWords)));
        int columns = 1 + Math.Max(0, Math.Max(widestWords, Math.Min(widestLook, widestWords + LookAfterWords)));
        var facts = new TableFacts(
            rows, [.. Enumerable.Range(0, columns).Select(c => Math.Round(Widths.GetValueOrDefault(c, ColumnWidth), 1))], RowHeight, [.. heights.Where(h => h.Row < rows)],
            Math.Min(FrozenRows, rows - 1), Math.Min(FrozenColumns, columns - 1), [.. hidden.Where(h => h.From < rows).Select(h => h with { To = Math.Min(h.To, rows - 1) })],
            [.. HiddenColumns.Where(c => c < columns)], HasGrid, Merges, styles, RowsInBlock);
        byte[] Picture(int longest) => TablePicture.WebP(facts, first, longest);
        return new(
            new Leaf(position, name, new TableFrame(rows, columns)),
            [
                new ReadForm(LeafForms.Cells, CellPack.MediaType, to => CellPack.Write(facts, blocks, to)),
                new ReadForm(LeafForms.Text, "application/json", to => WrittenForm.Write(written, to)),
                new ReadForm(LeafForms.Picture, "image/webp", to => to.Write(Picture(1400))),
                new ReadForm(LeafForms.Small, "image/webp", to => to.Write(Picture(320))),
            ]);
    }

    /// <summary>What is said of it.</summary>
    public LeafReport Report(ReadLeaf leaf)
    {
        var frame = (TableFrame)leaf.Leaf.Frame;
        return new LeafReport(name, "cell", [0, 0, frame.Columns, frame.Rows], 0, Cells, 0, 0, Cells);
    }

    /// <summary>A merged range reaches no farther than what looks like something: whole columns are merged where nothing stands.</summary>
    private (int Row, int Column) Reached(MergedCells merge) =>
        merge.Row > lastWords || merge.Column > widestWords ? (lastWords, widestWords)
        : (Math.Max(lastWords, Math.Min(merge.Row + merge.Rows - 1, Math.Max(lastLook, lastWords + LookAfterWords))),
            Math.Max(widestWords, Math.Min(merge.Column + merge.Columns - 1, Math.Max(widestLook, widestWords + LookAfterWords))));

    private void Hide(int row)
    {
        if (hidden.Count > 0 && hidden[^1].To == row - 1) hidden[^1] = hidden[^1] with { To = row };
        else hidden.Add(new(row, row));
    }

    /// <summary>How high a row must be for its words, where the file leaves it to whoever shows it.</summary>
    private double HeightOf(List<TableCell> cells)
    {
        var high = RowHeight;
        foreach (var (column, text, number) in cells)
        {
            if (text.Length == 0) continue;
            var style = styles[number];
            var letter = style.Size * 96 / 72;
            var lines = 1.0;
            if (style.Wraps && style.Turn == 0)
            {
                var fits = Math.Max(1, (Widths.GetValueOrDefault(column, ColumnWidth) - 6) / (letter * 0.48));
                lines = text.Split('\n').Sum(l => Math.Max(1, Math.Ceiling(l.Length / fits)));
            }
            high = Math.Max(high, Math.Min(546, Math.Max(lines * letter * 1.3, letter * 1.36)));
        }
        return high;
    }

    private void EndBlock()
    {
        blocks.Add(JsonSerializer.SerializeToUtf8Bytes(new TableBlock(rowsOfBlock), FormJson.Options));
        rowsOfBlock.Clear();
    }
}
