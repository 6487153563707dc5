namespace Froe.Core.Drawing;

/// <summary>
/// Areas that hide what was drawn before them: what lies beneath is cut away, so that whoever draws the sheet need know nothing of them.
/// An area is some loops by the even-odd rule; what runs along its edge is not beneath it.
/// </summary>
internal sealed class Masks
{
    private const int Most = 20_000, Cells = 96, MostCellsOfOne = 400;

    /// <param name="Near">How near its edge something is on it.</param>
    private sealed record Mask(IReadOnlyList<IReadOnlyList<PointXY>> Loops, Extents Box, int Entity, double Near)
    {
        private const int MostRows = 64, EdgesOfRow = 32;
        private List<(PointXY A, PointXY B)>[]? rows;

        /// <summary>The edges that reach between two heights, some more than once: an outline may have thousands, and a stroke meets few.</summary>
        public IEnumerable<(PointXY A, PointXY B)> Edges(double from, double to)
        {
            rows ??= MakeRows();
            int first = RowOf(from, rows.Length), last = RowOf(to, rows.Length);
            for (var row = first; row <= last; row++)
                foreach (var edge in rows[row]) yield return edge;
        }

        private List<(PointXY A, PointXY B)>[] MakeRows()
        {
            // Most areas have four edges, and there may be thousands of areas: those are not parted.
            var made = new List<(PointXY, PointXY)>[Loops.Sum(l => l.Count) > EdgesOfRow ? MostRows : 1];
            for (var i = 0; i < made.Length; i++) made[i] = [];
            var near = Near;
            foreach (var loop in Loops)
                for (var i = 0; i < loop.Count; i++)
                {
                    PointXY a = loop[i], b = loop[(i + 1) % loop.Count];
                    for (var row = RowOf(Math.Min(a.Y, b.Y) - near, made.Length); row <= RowOf(Math.Max(a.Y, b.Y) + near, made.Length); row++) made[row].Add((a, b));
                }
            return made;
        }

        private int RowOf(double y, int of) => (int)Math.Clamp((y - Box.MinY) / Math.Max(Box.Height, 1e-300) * of, 0, of - 1);
    }

    private readonly List<Mask> masks = [];
    private List<int>[]? grid;
    private Extents all;

    public int Count => masks.Count;

    /// <summary>Puts an area over what is there.</summary>
    /// <param name="entity">The entity that it is: what was drawn before that is beneath.</param>
    /// <param name="near">How near its edge something is on it, at least.</param>
    public void Add(IReadOnlyList<IReadOnlyList<PointXY>> loops, int entity, double near = 0)
    {
        if (masks.Count >= Most || loops.Sum(l => l.Count) > 20_000) return;
        var kept = loops.Where(l => l.Count > 2 && l.All(p => double.IsFinite(p.X) && double.IsFinite(p.Y))).ToList();
        if (kept.Count == 0) return;
        var box = Box(kept);
        masks.Add(new Mask(kept, box, entity, Math.Max(near, Edge(box))));
        grid = null;
    }

    /// <summary>The area of each mask over a box, of those that an entity lies beneath.</summary>
    /// <param name="isBeneath">Whether the thing asked for was drawn before the entity of a mask.</param>
    private IEnumerable<Mask> Over(Extents box, Func<int, bool> isBeneath)
    {
        if (grid is null) MakeGrid();
        if (box.MinX > all.MaxX || box.MaxX < all.MinX || box.MinY > all.MaxY || box.MaxY < all.MinY) yield break;
        int x0 = Column(box.MinX), x1 = Column(box.MaxX), y0 = Row(box.MinY), y1 = Row(box.MaxY);
        var isWide = (x1 - x0 + 1) * (y1 - y0 + 1) > MostCellsOfOne;
        var seen = isWide ? null : new HashSet<int>();
        if (!isWide)
            for (var y = y0; y <= y1; y++)
                for (var x = x0; x <= x1; x++)
                    foreach (var i in grid![(y * Cells) + x]) seen!.Add(i);
        foreach (var i in isWide ? Enumerable.Range(0, masks.Count) : seen!)
            if (masks[i] is { Box: var b } mask && b.MinX < box.MaxX && b.MaxX > box.MinX && b.MinY < box.MaxY && b.MaxY > box.MinY && isBeneath(mask.Entity)) yield return mask;
    }

    /// <summary>What of a stroke is left, as shares of its way; null when nothing of it is hidden.</summary>
    public List<(double From, double To)>? Stroke(PointXY a, PointXY b, Func<int, bool> isBeneath)
    {
        List<(double From, double To)>? left = null;
        foreach (var mask in Over(Box(a, b), isBeneath))
        {
            var cuts = new List<double> { 0, 1 };
            foreach (var (c, d) in mask.Edges(Math.Min(a.Y, b.Y), Math.Max(a.Y, b.Y)))
                if (Crossing(a, b, c, d) is { } t) cuts.Add(t);
            cuts.Sort();
            var near = mask.Near;
            for (var i = 0; i + 1 < cuts.Count; i++)
            {
                var (from, to) = (cuts[i], cuts[i + 1]);
                if (to - from < 1e-12 || !IsInside(mask, Along(a, b, (from + to) / 2), near)) continue;
                left = Without(left ?? [(0, 1)], from, to);
            }
            if (left is { Count: 0 }) break;
        }
        return left;
    }

    /// <summary>The loops that fill what of a triangle is left, by the even-odd rule; null when nothing of it is hidden, empty when all is.</summary>
    public List<List<PointXY>>? Triangle(PointXY a, PointXY b, PointXY c, Func<int, bool> isBeneath)
    {
        List<List<PointXY>>? loops = null;
        foreach (var mask in Over(Box(Box(a, b), c), isBeneath))
        {
            var box = Box(Box(a, b), c);
            if (!mask.Edges(box.MinY, box.MaxY).Any(e => Box(e.A, e.B) is var edge && edge.MinX <= box.MaxX && edge.MaxX >= box.MinX && edge.MinY <= box.MaxY && edge.MaxY >= box.MinY))
            {
                // No edge comes near: all of it is beneath, or nothing.
                if (IsInside(mask, new((a.X + b.X + c.X) / 3, (a.Y + b.Y + c.Y) / 3), mask.Near)) return [];
                continue;
            }
            var hidden = mask.Loops.Select(l => Within(l, a, b, c)).Where(l => l.Count > 2).ToList();
            if (hidden.Count == 0) continue;
            if (mask.Loops.Count == 1 && Math.Abs(Area(hidden[0])) >= Math.Abs(Area([a, b, c])) * (1 - 1e-9)) return [];
            loops ??= [[a, b, c]];
            // Of two masks that lie over one another on one triangle the second would show again what the first hides.
            if (loops.Count > 1) continue;
            loops.AddRange(hidden);
        }
        return loops;
    }

    /// <summary>The pieces of a line of words that are left, by the middles of its letters; null when nothing of it is hidden.</summary>
    public List<TextRun>? Words(in TextRun run, Func<int, bool> isBeneath)
    {
        var corners = run.Corners();
        var over = Over(Box(Box(corners[0], corners[3]), corners[1], corners[2]), isBeneath).ToList();
        return over.Count == 0 ? null : Cutting.Letters(run, p => !over.Exists(m => IsInside(m, p, m.Near)));
    }

    /// <summary>Whether any mask lies over some of a box.</summary>
    public bool Touches(Extents box, Func<int, bool> isBeneath) => Over(box, isBeneath).Any();

    private void MakeGrid()
    {
        all = masks.Aggregate(masks[0].Box, (box, m) => new Extents(Math.Min(box.MinX, m.Box.MinX), Math.Min(box.MinY, m.Box.MinY), Math.Max(box.MaxX, m.Box.MaxX), Math.Max(box.MaxY, m.Box.MaxY)));
        grid = [.. Enumerable.Range(0, Cells * Cells).Select(_ => new List<int>())];
        for (var i = 0; i < masks.Count; i++)
        {
            var b = masks[i].Box;
            for (var y = Row(b.MinY); y <= Row(b.MaxY); y++)
                for (var x = Column(b.MinX); x <= Column(b.MaxX); x++) grid[(y * Cells) + x].Add(i);
        }
    }

    private int Column(double x) => (int)Math.Clamp((x - all.MinX) / Math.Max(all.Width, 1e-300) * Cells, 0, Cells - 1);

    private int Row(double y) => (int)Math.Clamp((y - all.MinY) / Math.Max(all.Height, 1e-300) * Cells, 0, Cells - 1);

    /// <summary>How near an edge is on it.</summary>
    private static double Edge(Extents box) => (box.Width + box.Height) * 1e-7;

    private static PointXY Along(PointXY a, PointXY b, double t) => new(a.X + ((b.X - a.X) * t), a.Y + ((b.Y - a.Y) * t));

    private static List<(double From, double To)> Without(List<(double From, double To)> left, double from, double to)
    {
        var kept = new List<(double, double)>();
        foreach (var (f, t) in left)
        {
            if (t <= from || f >= to)
            {
                kept.Add((f, t));
                continue;
            }
            if (f < from) kept.Add((f, from));
            if (t > to) kept.Add((to, t));
        }
        return kept;
    }

    /// <summary>Where a stroke crosses an edge, as a share of the stroke's way.</summary>
    private static double? Crossing(PointXY a, PointXY b, PointXY c, PointXY d)
    {
        double rx = b.X - a.X, ry = b.Y - a.Y, sx = d.X - c.X, sy = d.Y - c.Y, cross = (rx * sy) - (ry * sx);
        if (cross == 0) return null;
        double t = (((c.X - a.X) * sy) - ((c.Y - a.Y) * sx)) / cross, u = (((c.X - a.X) * ry) - ((c.Y - a.Y) * rx)) / cross;
        return t is > 0 and < 1 && u is >= 0 and <= 1 ? t : null;
    }

    private static bool IsInside(Mask mask, PointXY p, double near)
    {
        var inside = false;
        foreach (var (a, b) in mask.Edges(p.Y, p.Y))
        {
            if (Far(p, a, b) <= near) return false;
            if (a.Y > p.Y != b.Y > p.Y && p.X < a.X + ((p.Y - a.Y) / (b.Y - a.Y) * (b.X - a.X))) inside = !inside;
        }
        return inside;
    }

    private static double Far(PointXY p, PointXY a, PointXY b)
    {
        double dx = b.X - a.X, dy = b.Y - a.Y, long2 = (dx * dx) + (dy * dy);
        var t = long2 > 0 ? Math.Clamp((((p.X - a.X) * dx) + ((p.Y - a.Y) * dy)) / long2, 0, 1) : 0;
        double ex = p.X - a.X - (t * dx), ey = p.Y - a.Y - (t * dy);
        return Math.Sqrt((ex * ex) + (ey * ey));
    }

    /// <summary>Sutherland and Hodgman's cut of a loop to a triangle.</summary>
    private static List<PointXY> Within(IReadOnlyList<PointXY> loop, PointXY a, PointXY b, PointXY c)
    {
        var kept = new List<PointXY>(loop);
        var turn = Area([a, b, c]) < 0 ? -1 : 1;
        ReadOnlySpan<PointXY> corners = [a, b, c];
        for (var side = 0; side < 3 && kept.Count > 0; side++)
        {
            PointXY from = corners[side], to = corners[(side + 1) % 3];
            var next = new List<PointXY>(kept.Count + 3);
            for (var i = 0; i < kept.Count; i++)
            {
                PointXY p = kept[i], q = kept[(i + 1) % kept.Count];
                double dp = Side(p), dq = Side(q);
                if (dp >= 0) next.Add(p);
                if (dp >= 0 != dq >= 0) next.Add(Along(p, q, dp / (dp - dq)));
            }
            kept = next;

            double Side(PointXY p) => turn * (((to.X - from.X) * (p.Y - from.Y)) - ((to.Y - from.Y) * (p.X - from.X)));
        }
        return kept;
    }

    private static double Area(List<PointXY> loop)
    {
        var sum = 0.0;
        for (var i = 0; i < loop.Count; i++)
        {
            PointXY a = loop[i], b = loop[(i + 1) % loop.Count];
            sum += (a.X * b.Y) - (b.X * a.Y);
        }
        return sum / 2;
    }

    private static Extents Box(PointXY a, PointXY b) => new(Math.Min(a.X, b.X), Math.Min(a.Y, b.Y), Math.Max(a.X, b.X), Math.Max(a.Y, b.Y));

    private static Extents Box(Extents box, params ReadOnlySpan<PointXY> more)
    {
        foreach (var p in more) box = box.With(p.X, p.Y);
        return box;
    }

    private static Extents Box(List<IReadOnlyList<PointXY>> loops) => loops.SelectMany(l => l).Aggregate(new Extents(loops[0][0].X, loops[0][0].Y, loops[0][0].X, loops[0][0].Y), (box, p) => box.With(p.X, p.Y));
}
