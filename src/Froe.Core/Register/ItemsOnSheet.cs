using Froe.Core.Draft;
using Froe.Core.Drawing;

namespace Froe.Core.Register;

/// <summary>Where a sheet speaks of something that is looked for.</summary>
/// <param name="Number">Its number, or its name where it has none.</param>
/// <param name="Item">Its item number; empty where it has none.</param>
/// <param name="IsElsewhere">Whether the parts list that has the item stands elsewhere than on the sheet.</param>
/// <param name="Places">Where the number or the name stands, and the balloons of its item.</param>
public sealed record ItemOnSheet(string Number, string Item, bool IsElsewhere, IReadOnlyList<FoundStretch> Places);

/// <summary>What is looked for on sheets.</summary>
/// <param name="Numbers">By numbers, wherever they are written.</param>
/// <param name="Names">By names as <see cref="WrittenPage.Fold(string)"/> leaves them, for lines that say nothing else: the number, or the name itself, of what is called so.</param>
public sealed record Called(IReadOnlySet<string> Numbers, IReadOnlyDictionary<string, string> Names);

/// <summary>
/// Finds on a sheet what has a number or a name: where that itself is written, and, through the row of the parts list that it stands in, the
/// balloons of its item (ISO 6433, ISO 7573). A sheet without a list has its balloons by one that stands elsewhere.
/// </summary>
public static class ItemsOnSheet
{
    private const int LongestItem = 4;

    /// <summary>Most places of numbers, lone numbers, and cells of a row that are looked at: no list is longer, and a sheet of nothing else is none.</summary>
    private const int MostNamed = 2000, MostLone = 5000, MostCells = 12;

    /// <summary>Rows that make a list, and balloons that make a sheet one of a list that stands elsewhere.</summary>
    private const int Fewest = 2;

    /// <summary>A frame's fields are lettered along the sheet's edges: what stands in this share of the sheet is no balloon.</summary>
    private const double Edge = 0.05;

    /// <summary>Finds them.</summary>
    /// <param name="written">What is written on the sheet.</param>
    /// <param name="called">What is looked for.</param>
    /// <param name="elsewhere">By item, what it is in a parts list that stands elsewhere: asked for where the sheet has none.</param>
    public static async Task<IReadOnlyList<ItemOnSheet>> OfAsync(IReadOnlyList<WrittenRun> written, Called called, Func<Task<IReadOnlyDictionary<string, string>>> elsewhere)
    {
        ArgumentNullException.ThrowIfNull(written);
        ArgumentNullException.ThrowIfNull(called);
        ArgumentNullException.ThrowIfNull(elsewhere);
        var named = Named(written, called);
        var items = Items(written, named);
        var places = named.ToLookup(n => n.Number, n => n.Place, StringComparer.Ordinal);
        Dictionary<string, string> itemOf = new(StringComparer.Ordinal);
        foreach (var n in named)
            if (items.TryGetValue(n.Line, out var found)) itemOf.TryAdd(n.Number, found.Item);
        var balloons = Balloons(written, [.. items.Values.Select(i => i.Line)], [.. items.Values.Select(i => i.Item)], items.Values.Select(i => Long(written[i.Line].Up)).DefaultIfEmpty(0).Min());
        // One row may be the title block's, with the number of its sheet for an item.
        var isElsewhere = false;
        if (items.Count < Fewest && written.Any(l => IsItem(l.Text.Trim())))
        {
            var list = await elsewhere();
            var others = Balloons(written, [], [.. list.Keys.Where(IsItem)], Usual(written));
            // A lone figure is soon found: of a sheet with balloons there are several.
            isElsewhere = others.Count >= Fewest && others.Count > balloons.Count;
            if (isElsewhere) balloons = others;
            if (isElsewhere) itemOf = list.Where(l => balloons.Contains(l.Key)).DistinctBy(l => l.Value).ToDictionary(l => l.Value, l => l.Key, StringComparer.Ordinal);
        }
        return [.. places.Select(p => p.Key).Union(itemOf.Keys, StringComparer.Ordinal).Order(StringComparer.Ordinal)
            .Select(number => (Number: number, Item: itemOf.GetValueOrDefault(number, "")))
            .Select(n => new ItemOnSheet(n.Number, n.Item, isElsewhere && n.Item.Length > 0, n.Item.Length > 0 ? [.. places[n.Number], .. balloons[n.Item]] : [.. places[n.Number]]))];
    }

    /// <summary>The parts list of a sheet: by item, what it is; empty where it has none.</summary>
    public static IReadOnlyDictionary<string, string> ListOn(IReadOnlyList<WrittenRun> written, Called called)
    {
        ArgumentNullException.ThrowIfNull(written);
        ArgumentNullException.ThrowIfNull(called);
        var named = Named(written, called);
        var items = Items(written, named);
        var list = new Dictionary<string, string>(StringComparer.Ordinal);
        foreach (var n in named)
            if (items.TryGetValue(n.Line, out var found)) list.TryAdd(found.Item, n.Number);
        return list;
    }

    /// <summary>Where what is looked for is written.</summary>
    private static List<(int Line, string Number, FoundStretch Place)> Named(IReadOnlyList<WrittenRun> written, Called called) =>
        [.. written.SelectMany((line, i) => called.Names.TryGetValue(WrittenPage.Fold(line.Text).Trim(), out var whole)
            ? [(Line: i, Number: whole, Place: WrittenPage.Stretch(line, 0, line.Text.Length))]
            : Callouts.Among(line.Text, called.Numbers).Select(c => (Line: i, c.Number, Place: WrittenPage.Stretch(line, c.From, c.End)))).Take(MostNamed)];

    /// <summary>How high most of what is written is, items apart.</summary>
    private static double Usual(IReadOnlyList<WrittenRun> written)
    {
        var heights = written.Where(l => !IsItem(l.Text.Trim())).Select(l => Long(l.Up)).Order().ToList();
        return heights.Count == 0 ? 0 : heights[heights.Count / 2];
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

    /// <param name="least">How high the list is lettered, or most of the sheet where there is none.</param>
    private static ILookup<string, FoundStretch> Balloons(IReadOnlyList<WrittenRun> written, HashSet<int> inRows, HashSet<string> items, double least)
    {
        var all = written.Aggregate(Extents.Empty, (e, l) => e.With(l.At.X, l.At.Y));
        bool IsWithin(PointXY p) => p.X > all.MinX + (Edge * all.Width) && p.X < all.MaxX - (Edge * all.Width) && p.Y > all.MinY + (Edge * all.Height) && p.Y < all.MaxY - (Edge * all.Height);
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
