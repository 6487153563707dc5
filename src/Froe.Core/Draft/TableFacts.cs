namespace Froe.Core.Draft;

/// <summary>How a table is laid out: everything of it but its cells, which come in blocks of rows.</summary>
/// <param name="Rows">How many rows.</param>
/// <param name="Widths">How wide each column is, in CSS pixels at full size; there are as many as columns.</param>
/// <param name="RowHeight">How high a row is that is not among <paramref name="Heights"/>, in CSS pixels at full size.</param>
/// <param name="Heights">Rows of another height, in order.</param>
/// <param name="FrozenRows">How many rows stay at the top.</param>
/// <param name="FrozenColumns">How many columns stay at the left.</param>
/// <param name="HiddenRows">Rows that the file hides, in order. Froe shows them, and says so.</param>
/// <param name="HiddenColumns">Columns that the file hides, in order.</param>
/// <param name="HasGrid">Whether thin lines part the cells that have no lines of their own.</param>
/// <param name="Merges">Ranges of cells that are one.</param>
/// <param name="Styles">How cells look, by number.</param>
/// <param name="RowsInBlock">How many rows a block holds; the first block begins with row 0.</param>
public sealed record TableFacts(
    int Rows, IReadOnlyList<double> Widths, double RowHeight, IReadOnlyList<RowHeight> Heights, int FrozenRows, int FrozenColumns,
    IReadOnlyList<RowSpan> HiddenRows, IReadOnlyList<int> HiddenColumns, bool HasGrid, IReadOnlyList<MergedCells> Merges, IReadOnlyList<CellStyle> Styles, int RowsInBlock);

/// <summary>A row that is not as high as most.</summary>
/// <param name="Row">From 0.</param>
/// <param name="Height">In CSS pixels at full size.</param>
public sealed record RowHeight(int Row, double Height);

/// <summary>Rows one after another.</summary>
/// <param name="From">The first, from 0.</param>
/// <param name="To">The last.</param>
public sealed record RowSpan(int From, int To);

/// <summary>A range of cells that are shown as one, with the content of the first.</summary>
/// <param name="Row">The first, from 0.</param>
/// <param name="Column">The first, from 0.</param>
/// <param name="Rows">How many.</param>
/// <param name="Columns">How many.</param>
public sealed record MergedCells(int Row, int Column, int Rows, int Columns);

/// <summary>The cells of some rows.</summary>
/// <param name="Rows">Those that hold something, in order.</param>
public sealed record TableBlock(IReadOnlyList<TableRow> Rows);

/// <summary>A row.</summary>
/// <param name="Row">From 0.</param>
/// <param name="Cells">Those that hold something or look like something, in order.</param>
public sealed record TableRow(int Row, IReadOnlyList<TableCell> Cells);

/// <summary>A cell.</summary>
/// <param name="Column">From 0.</param>
/// <param name="Text">As it is read: a number in its format.</param>
/// <param name="Style">Which of the table's styles.</param>
public sealed record TableCell(int Column, string Text, int Style);

/// <summary>How a cell looks.</summary>
/// <param name="Ink">Colour of its letters, #rrggbb; null for the usual one.</param>
/// <param name="Fill">Colour of its ground, #rrggbb; null for none.</param>
/// <param name="Size">Height of its letters' line, in points.</param>
/// <param name="Across">Where its text stands between left and right.</param>
/// <param name="Down">Where it stands between top and bottom.</param>
/// <param name="Wraps">Whether its text is broken into lines.</param>
/// <param name="Indent">Steps from the side where its text begins.</param>
/// <param name="Turn">Degrees that its text is turned by, anticlockwise, -90 to 90; <see cref="Upright"/> for letters one below the other.</param>
/// <param name="Left">Its line there, and so on; null for none.</param>
public sealed record CellStyle(
    string? Ink = null, string? Fill = null, bool IsBold = false, bool IsItalic = false, bool IsUnderlined = false, bool IsStruck = false, double Size = 11,
    CellAcross Across = CellAcross.Left, CellDown Down = CellDown.Bottom, bool Wraps = false, int Indent = 0, int Turn = 0,
    CellLine? Left = null, CellLine? Top = null, CellLine? Right = null, CellLine? Bottom = null)
{
    /// <summary>Letters one below the other.</summary>
    public const int Upright = 255;
}

/// <summary>Where text stands in a cell from left to right.</summary>
public enum CellAcross
{
    /// <summary>At the left.</summary>
    Left,

    /// <summary>In the middle.</summary>
    Centre,

    /// <summary>At the right.</summary>
    Right,

    /// <summary>Again and again until the cell is full.</summary>
    Fill,
}

/// <summary>Where text stands in a cell from top to bottom.</summary>
public enum CellDown
{
    /// <summary>At the top.</summary>
    Top,

    /// <summary>In the middle.</summary>
    Middle,

    /// <summary>At the bottom.</summary>
    Bottom,
}

/// <summary>A line at a cell's side.</summary>
/// <param name="Width">In CSS pixels at full size.</param>
/// <param name="Dash">How it is drawn.</param>
/// <param name="Colour">#rrggbb.</param>
public sealed record CellLine(double Width, CellDash Dash, string Colour);

/// <summary>How a cell's line is drawn.</summary>
public enum CellDash
{
    /// <summary>Without gaps.</summary>
    Solid,

    /// <summary>In dashes.</summary>
    Dashed,

    /// <summary>In dots.</summary>
    Dotted,

    /// <summary>As two.</summary>
    Double,
}
