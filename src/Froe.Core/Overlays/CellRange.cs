using Froe.Core.Draft;
using Froe.Core.Drawing;

namespace Froe.Core.Overlays;

/// <summary>A range of a table's cells: a whole number of columns (x) and rows (y), both from 0, the last ones included.</summary>
/// <param name="From">The cell at its top left.</param>
/// <param name="To">The cell at its bottom right.</param>
public sealed record CellRange(PointXY From, PointXY To) : Shape
{
    /// <inheritdoc/>
    protected override Extents Reach => Extents.Empty.With(From.X, From.Y).With(To.X + 1, To.Y + 1);

    /// <inheritdoc/>
    protected override bool HasSize => true;

    /// <inheritdoc/>
    public override bool Fits(Place place, Frame frame) =>
        place is OnCells && frame is TableFrame table && Whole(From) && Whole(To) && From.X >= 0 && From.Y >= 0
        && From.X <= To.X && From.Y <= To.Y && To.X < table.Columns && To.Y < table.Rows;

    /// <inheritdoc/>
    /// <param name="detail">Is not asked: a range has no small parts.</param>
    public override Outline Outline(double detail)
    {
        var box = Reach;
        return new(
            [[new(box.MinX, box.MinY), new(box.MaxX, box.MinY), new(box.MaxX, box.MaxY), new(box.MinX, box.MaxY), new(box.MinX, box.MinY)]],
            OutlineFill.Tint, new(box.MaxX, box.MinY), new((box.MinX + box.MaxX) / 2, (box.MinY + box.MaxY) / 2));
    }

    /// <summary>What people call it: “B12”, “B12:D14”, “rows 12 to 14” where it goes right across, “columns B to D” where right down.</summary>
    public string Words(TableFrame table)
    {
        ArgumentNullException.ThrowIfNull(table);
        var (left, top, right, bottom) = ((int)From.X, (int)From.Y, (int)To.X, (int)To.Y);
        // Of a table of one row or one column, a cell is called a cell.
        if (left == 0 && right == table.Columns - 1 && table.Columns > 1) return top == bottom ? $"row {top + 1}" : $"rows {top + 1} to {bottom + 1}";
        if (top == 0 && bottom == table.Rows - 1 && table.Rows > 1) return left == right ? $"column {Letters(left)}" : $"columns {Letters(left)} to {Letters(right)}";
        return left == right && top == bottom ? $"{Letters(left)}{top + 1}" : $"{Letters(left)}{top + 1}:{Letters(right)}{bottom + 1}";
    }

    /// <summary>The letters of a column (ISO/IEC 29500-1, 18.18.7): A to Z, AA, AB …</summary>
    /// <param name="column">From 0.</param>
    public static string Letters(int column)
    {
        ArgumentOutOfRangeException.ThrowIfNegative(column);
        var letters = "";
        for (var left = column + 1; left > 0; left = (left - 1) / 26) letters = (char)('A' + ((left - 1) % 26)) + letters;
        return letters;
    }

    private static bool Whole(PointXY p) => double.IsInteger(p.X) && double.IsInteger(p.Y);
}
