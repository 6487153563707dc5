using Froe.Core.Drawing;

namespace Froe.Formats.Dxf;

/// <summary>Which of a hatch's loops bound it, by its style (DXF reference, HATCH, group 75).</summary>
internal sealed class Islands
{
    /// <summary>Every second area counted from outside; only the outermost; all within, whatever lies there.</summary>
    private const int Outermost = 1, All = 2;

    /// <summary>Loops times corners that are looked at in a whole file to find how deep loops lie; beyond, every second area it is.</summary>
    private const long Most = 20_000_000;

    private long looked;

    /// <summary>The loops that even-odd filling takes for what the style asks.</summary>
    public List<List<PointXY>> Kept(List<List<PointXY>> loops, int style)
    {
        if (style is not (Outermost or All) || loops.Count < 2 || (looked += (long)loops.Count * loops.Sum(l => l.Count)) > Most) return loops;
        var boxes = loops.ConvertAll(l => l.Aggregate(Extents.Empty, (b, p) => b.With(p.X, p.Y)));
        var deepest = style == Outermost ? 1 : 0;
        var kept = new List<List<PointXY>>();
        for (var i = 0; i < loops.Count; i++)
        {
            var depth = 0;
            for (var other = 0; other < loops.Count && depth <= deepest; other++)
                if (other != i && IsIn(loops[i], boxes[i], loops[other], boxes[other])) depth++;
            if (depth <= deepest) kept.Add(loops[i]);
        }
        return kept.Count > 0 ? kept : loops;
    }

    /// <summary>Whether a loop lies in another: most of a few of its points do, since some may lie on the other's edge.</summary>
    private static bool IsIn(List<PointXY> loop, in Extents box, List<PointXY> other, in Extents around)
    {
        if (box.MinX < around.MinX || box.MaxX > around.MaxX || box.MinY < around.MinY || box.MaxY > around.MaxY || (box.Width >= around.Width && box.Height >= around.Height)) return false;
        int asked = Math.Min(5, loop.Count), inside = 0;
        for (var i = 0; i < asked; i++)
        {
            PointXY a = loop[i * loop.Count / asked], b = loop[((i * loop.Count / asked) + 1) % loop.Count];
            if (Filling.IsInside(new((a.X + b.X) / 2, (a.Y + b.Y) / 2), other)) inside++;
        }
        return 2 * inside > asked;
    }
}
