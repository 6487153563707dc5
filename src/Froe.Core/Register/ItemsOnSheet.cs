using Froe.Core.Draft;
using Froe.Core.Drawing;

namespace Froe.Core.Register;

/// <summary>Where a sheet speaks of something by its number.</summary>
/// <param name="Number">The number.</param>
/// <param name="Item">Its item number in the sheet's parts list; empty where it has none.</param>
/// <param name="Places">Where the number stands, and the balloons of its item.</param>
public sealed record ItemOnSheet(string Number, string Item, IReadOnlyList<FoundStretch> Places);

/// <summary>
/// Finds on a sheet what has a number: where the number itself is written, and, through the row of the parts list that it stands in, the
/// balloons of its item (ISO 6433, ISO 7573).
/// </summary>
public static class ItemsOnSheet
{
    private const int LongestItem = 4;

    /// <summary>Most places of numbers, lone numbers, and cells of a row that are looked at: no list is longer, and a sheet of nothing else is none.</summary>
    private const int MostNamed = 2000, MostLone = 5000, MostCells = 12;

    /// <summary>A frame's fields are lettered along the sheet's edges: what stands in this share of the sheet is no balloon.</summary>
    private const double Edge = 0.05;

    /// <summary>Finds them.</summary>
    /// <param name="written">What is written on the sheet.</param>
    /// <param name="numbers">The numbers that are looked for.</param>
    public static IReadOnlyList<ItemOnSheet> Of(IReadOnlyList<WrittenRun> written, IReadOnlySet<string> numbers)
    {
        ArgumentNullException.ThrowIfNull(written);
        ArgumentNullException.ThrowIfNull(numbers);
        var named = written.SelectMany((line, i) => Callouts.Among(line.Text, numbers).Select(c => (Line: i, c.Number, Place: WrittenPage.Stretch(line, c.From, c.End)))).Take(MostNamed).ToList();
        if (named.Count == 0) return [];
        var items = Items(written, named);
        var balloons = Balloons(written, [.. items.Values.Select(i => i.Line)], [.. items.Values.Select(i => i.Item)]);
        return [.. named.GroupBy(n => n.Number, StringComparer.Ordinal).OrderBy(g => g.Key, StringComparer.Ordinal).Select(g =>
        {
            var item = g.Select(n => items.TryGetValue(n.Line, out var found) ? found.Item : "").FirstOrDefault(i => i.Length > 0) ?? "";
            return new ItemOnSheet(g.Key, item, [.. g.Select(n => n.Place), .. balloons[item]]);
        })];
    }

    /// <summary>By the line of a number, the item number in its row, and that one's line.</summary>
    private static Dictionary<int, (string Item, int Line)> Items(IReadOnlyList<WrittenRun> written, List<(int Line, string Number, FoundStretch Place)> named)
    {
        var lone = written.Select((line, i) => (Line: i, Text: line.Text.Trim())).Where(l => IsItem(l.Text)).Take(MostLone).ToList();
        var rows = named.Select(n => n.Line).Distinct().Select(line => (Line: line, Cells: lone.Where(l => l.Line != line && IsInRow(written[line], written[l.Line]))
            .OrderBy(l => Math.Abs(written[l.Line].At.X - written[line].At.X) + Math.Abs(written[l.Line].At.Y - written[line].At.Y)).Take(MostCells).ToList())).Where(r => r.Cells.Count > 0).ToList();
        if (rows.Count == 0) return [];
        // Items stand below one another, and no two rows have the same; quantities do as well, but repeat. The leftmost of the fullest columns it is.
        var starts = rows.SelectMany(r => r.Cells).Select(c => written[c.Line]).DistinctBy(s => (long)(s.At.X / Math.Max(Long(s.Up), 1e-9))).Take(MostCells * MostCells);
        var column = starts.Select(start =>
        {
            var cells = rows.Select(r => (r.Line, Cell: r.Cells.Where(c => IsBelow(start, written[c.Line])).Select(c => ((int Line, string Text)?)c).FirstOrDefault())).Where(c => c.Cell is not null).ToList();
            return (Cells: cells, IsDistinct: cells.Select(c => c.Cell!.Value.Text).Distinct().Count() == cells.Count, Left: start.At.X);
        }).OrderByDescending(c => c.IsDistinct).ThenByDescending(c => c.Cells.Count).ThenBy(c => c.Left).First();
        return column.IsDistinct ? column.Cells.ToDictionary(c => c.Line, c => (c.Cell!.Value.Text, c.Cell.Value.Line)) : [];
    }

    private static ILookup<string, FoundStretch> Balloons(IReadOnlyList<WrittenRun> written, HashSet<int> inRows, HashSet<string> items)
    {
        var all = written.Aggregate(Extents.Empty, (e, l) => e.With(l.At.X, l.At.Y));
        bool IsWithin(PointXY p) => p.X > all.MinX + (Edge * all.Width) && p.X < all.MaxX - (Edge * all.Width) && p.Y > all.MinY + (Edge * all.Height) && p.Y < all.MaxY - (Edge * all.Height);
        var least = inRows.Count == 0 ? 0 : inRows.Min(i => Long(written[i].Up));
        return written.Select((line, i) => (Line: line, Index: i, Text: line.Text.Trim()))
            // Balloons are lettered larger than the list, ISO 6433: so that a quantity or a size is taken for none.
            .Where(l => items.Contains(l.Text) && !inRows.Contains(l.Index) && Long(l.Line.Up) > 1.2 * least && IsWithin(l.Line.At))
            .ToLookup(l => l.Text, l => WrittenPage.Stretch(l.Line, 0, l.Line.Text.Length), StringComparer.Ordinal);
    }

    private static bool IsItem(string text) => text.Length is > 0 and <= LongestItem && char.IsAsciiDigit(text[0]) && text.All(char.IsAsciiLetterOrDigit);

    /// <summary>Whether another line stands on the same baseline, within a height or so, and runs the same way.</summary>
    private static bool IsInRow(WrittenRun line, WrittenRun other)
    {
        double high = Long(line.Up), wide = Long(line.Along);
        if (!(high > 0) || !(wide > 0)) return false;
        double dx = other.At.X - line.At.X, dy = other.At.Y - line.At.Y;
        var off = Math.Abs((dx * line.Up.X) + (dy * line.Up.Y)) / high;
        var along = ((other.Along.X * line.Along.X) + (other.Along.Y * line.Along.Y)) / (wide * Long(other.Along));
        return off < 0.5 * high && along > 0.99;
    }

    /// <summary>Whether two cells stand in one column: they begin, or end, within a letter or two of one another.</summary>
    private static bool IsBelow(WrittenRun start, WrittenRun other)
    {
        var room = 1.5 * Long(start.Up);
        return Math.Abs(start.At.X - other.At.X) < room || Math.Abs(start.At.X + start.Along.X - other.At.X - other.Along.X) < room;
    }

    private static double Long(PointXY p) => Math.Sqrt((p.X * p.X) + (p.Y * p.Y));
}
