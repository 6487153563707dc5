namespace Froe.Formats.Dxf;

/// <summary>Columns that a text of several lines stands in.</summary>
/// <param name="Count">How many there are at least.</param>
/// <param name="Width">How wide each is.</param>
/// <param name="Gutter">Between two of them.</param>
/// <param name="Heights">How high each is, the last for all that follow; of none, only the text says where one ends.</param>
/// <param name="IsFromRight">Whether the first is the one at the right.</param>
internal sealed record TextColumns(int Count, double Width, double Gutter, IReadOnlyList<double> Heights, bool IsFromRight)
{
    private const int Most = 100;

    /// <summary>The columns in the object behind an MTEXT since 2018 (DXF reference, MTEXT, “Embedded Object”); earlier files write each column as a text of its own.</summary>
    public static TextColumns? Of(Record e)
    {
        var from = 0;
        while (from < e.Count && e.Code(from) != 101) from++;
        int kind = 0, count = 0;
        double width = 0, gutter = 0, whole = 0;
        var (isAlike, isFromRight) = (false, false);
        List<double> heights = [];
        for (var i = from; i < e.Count; i++)
            switch (e.Code(i))
            {
                case 41: whole = e.Number(i); break;
                case 44: width = e.Number(i); break;
                case 45: gutter = e.Number(i); break;
                case 46: if (heights.Count < Most) heights.Add(e.Number(i)); break;
                case 71: kind = Whole(e.Number(i)); break;
                case 72: count = Whole(e.Number(i)); break;
                case 73: isAlike = e.Number(i) != 0; break;
                case 74: isFromRight = e.Number(i) != 0; break;
            }
        // 1: as many as it says, all of one height; 2: as many as are needed, of one height or each of its own.
        if (kind is not (1 or 2) || !(width > 0) || !double.IsFinite(width) || !double.IsFinite(gutter)) return null;
        if (kind == 1 || isAlike || heights.Count == 0) heights = whole > 0 ? [whole] : [];
        return new TextColumns(Math.Clamp(count, 1, Most), width, gutter, heights, isFromRight);

        static int Whole(double number) => (int)Math.Clamp(number, -1, 10_000);
    }

    /// <summary>Which lines stand in which column.</summary>
    /// <param name="lines">The height of each, and whether it ends its column.</param>
    /// <param name="pitch">From a line to the next, as a share of the next one's height.</param>
    public List<(int From, int Count)> Flow(IReadOnlyList<(double Height, bool EndsColumn)> lines, double pitch)
    {
        List<(int, int)> parts = [];
        var from = 0;
        var used = 0.0;
        for (var i = 0; i < lines.Count; i++)
        {
            var needs = i == from ? lines[i].Height : pitch * lines[i].Height;
            // A column takes a line at least; the last that there may be takes all the rest.
            if (i > from && used + needs > Height(parts.Count) * (1 + 1e-9) && parts.Count < Most - 1)
            {
                parts.Add((from, i - from));
                (from, used, needs) = (i, 0, lines[i].Height);
            }
            used += needs;
            if (!lines[i].EndsColumn || parts.Count >= Most - 1) continue;
            parts.Add((from, i + 1 - from));
            (from, used) = (i + 1, 0);
        }
        if (from < lines.Count) parts.Add((from, lines.Count - from));
        return parts;
    }

    private double Height(int column) => Heights.Count == 0 ? double.PositiveInfinity : Heights[Math.Min(column, Heights.Count - 1)] is > 0 and var high ? high : double.PositiveInfinity;
}
