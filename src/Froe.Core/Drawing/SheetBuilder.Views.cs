namespace Froe.Core.Drawing;

/// <summary>Views: another sheet's geometry, mapped and cut to a window.</summary>
public sealed partial class SheetBuilder
{
    /// <summary>Points of dashed lines kept whole; where there are more, none is, and patterns are as the model has them.</summary>
    private const int MostKept = 4_000_000;

    private readonly List<WholePath> wholePaths = [];
    private readonly HashSet<int> brokenPaths = [];
    private int kept;

    /// <summary>Whether dashed lines are kept whole beside their dashes, so that a view may dash them anew.</summary>
    public bool KeepsPatterns { get; init; }

    /// <summary>A dashed line before it was dashed.</summary>
    private sealed record WholePath(int Entity, PointXY[] Points, bool IsClosed, double[] Dashes);

    private void KeepWhole(List<PointXY> points, bool closed)
    {
        if (kept > MostKept) return;
        kept += points.Count;
        if (kept > MostKept) wholePaths.Clear();
        else wholePaths.Add(new WholePath(entity, [.. points], closed, dashes));
    }

    /// <summary>Dashed lines that nothing hides in part: of the others only their dashes are known.</summary>
    private List<WholePath> WholePaths() => wholePaths.FindAll(p => !brokenPaths.Contains(p.Entity));

    /// <summary>Dashes a line as it lies on this sheet, and only where the window shows it.</summary>
    private void DashedWithin(WholePath path, Func<PointXY, PointXY> map, Extents window)
    {
        var run = 0.0;
        var count = path.IsClosed ? path.Points.Length : path.Points.Length - 1;
        for (var i = 0; i < count; i++)
        {
            PointXY from = map(path.Points[i]), to = map(path.Points[i + 1 == path.Points.Length ? 0 : i + 1]);
            var length = Length(from, to);
            var (a, b) = (from, to);
            if (length > 0 && Cutting.ToBox(ref a, ref b, window))
            {
                var (start, stop) = (Length(from, a), Length(from, b));
                if (!Dashing.Along(start, stop, -run, path.Dashes, 20_000, 0, Dash)) Stroke(a, b, 0);

                // A dash that only touches the window's edge is no dot.
                void Dash(double s, double e)
                {
                    if (e > s || (s > start && e < stop)) Stroke(At(s), At(e), 0);
                }
            }
            run += length;

            PointXY At(double along) => new(from.X + ((to.X - from.X) * (along / length)), from.Y + ((to.Y - from.Y) * (along / length)));
        }

        static double Length(PointXY a, PointXY b) => Math.Sqrt(((b.X - a.X) * (b.X - a.X)) + ((b.Y - a.Y) * (b.Y - a.Y)));
    }

    /// <summary>
    /// Copies another sheet's geometry in, mapped and cut to a window: a view of the model on a paper sheet.
    /// </summary>
    /// <param name="hides">Whether a layer is not to be seen in this view.</param>
    /// <param name="patternsOnPaper">Whether dashes are as long here as their lines ask for, whatever the view's scale; for that the model <see cref="KeepsPatterns"/>.</param>
    public void View(SheetBuilder model, Func<PointXY, PointXY> map, Extents window, Func<int, bool>? hides = null, bool patternsOnPaper = false)
    {
        ArgumentNullException.ThrowIfNull(model);
        ArgumentNullException.ThrowIfNull(map);
        var entities = new Dictionary<int, int>();
        var whole = patternsOnPaper ? model.WholePaths() : [];
        var ofWhole = whole.Select(p => p.Entity).ToHashSet();
        for (var i = 0; i < model.SegmentCount; i++)
        {
            ref readonly var s = ref model.segments[i];
            if (Hidden(s.Entity) || (ofWhole.Count > 0 && ofWhole.Contains(s.Entity))) continue;
            PointXY a = map(new(s.X0, s.Y0)), b = map(new(s.X1, s.Y1));
            var (from, to) = (a, b);
            if (!Cutting.ToBox(ref a, ref b, window)) continue;
            Take(s.Entity);
            // Where the window cuts a line is no end of it.
            Stroke(a, b, s.Ends & ((a == from ? StrokeEnds.First : 0) | (b == to ? StrokeEnds.Second : 0)));
        }
        foreach (var path in whole)
        {
            if (Hidden(path.Entity)) continue;
            Take(path.Entity);
            DashedWithin(path, map, window);
        }
        var zero = map(default);
        for (var i = 0; i < model.curves.Count; i++)
        {
            ref readonly var c = ref model.curves[i];
            // A curve that the window cuts is not the file's curve any more; its strokes stand for it.
            if (Hidden(c.Entity) || !c.Box().All(p => Inside(map(p)))) continue;
            Take(c.Entity);
            AddCurve(c.Mapped(map, Vector, entity));
        }
        for (var i = 0; i < model.triangleEntity.Count; i++)
        {
            if (Hidden(model.triangleEntity[i])) continue;
            PointXY a = At(6 * i), b = At((6 * i) + 2), c = At((6 * i) + 4);
            if (Inside(a) && Inside(b) && Inside(c))
            {
                Take(model.triangleEntity[i]);
                Triangle(a, b, c);
                continue;
            }
            // What of it lies within is convex, so a fan from any corner fills it.
            var kept = Cutting.LoopToBox([a, b, c], window);
            if (kept.Count < 3) continue;
            Take(model.triangleEntity[i]);
            for (var k = 1; k + 1 < kept.Count; k++) Triangle(kept[0], kept[k], kept[k + 1]);
        }
        foreach (var run in model.texts)
        {
            if (Hidden(run.Entity) || Cutting.TextToBox(run with { At = map(run.At), Along = Vector(run.Along), Up = Vector(run.Up) }, window) is not { } kept) continue;
            Take(run.Entity);
            Text(kept);
        }

        foreach (var picture in model.pictures)
        {
            if (hides is not null && hides(picture.Layer)) continue;
            Picture(picture with { At = map(picture.At), Along = Vector(picture.Along), Up = Vector(picture.Up), Window = picture.Window is { } own ? Common(own, window) : window });
        }

        static Extents Common(Extents a, Extents b) => new(Math.Max(a.MinX, b.MinX), Math.Max(a.MinY, b.MinY), Math.Min(a.MaxX, b.MaxX), Math.Min(a.MaxY, b.MaxY));

        bool Hidden(int of) => hides is not null && hides(model.styles[model.entityStyles[of]].Layer);

        PointXY At(int i) => map(new(model.triangles[i], model.triangles[i + 1]));
        bool Inside(PointXY p) => p.X >= window.MinX && p.X <= window.MaxX && p.Y >= window.MinY && p.Y <= window.MaxY;
        PointXY Vector(PointXY v)
        {
            var moved = map(v);
            return new(moved.X - zero.X, moved.Y - zero.Y);
        }

        void Take(int from)
        {
            if (!entities.TryGetValue(from, out var taken))
            {
                var style = model.styles[model.entityStyles[from]];
                Begin(new EntityLook(model.handles[from], style.Layer, style.Rgb, style.Weight, [], model.kinds[model.entityKinds[from]]));
                entities.Add(from, taken = entity);
            }
            entity = taken;
        }
    }
}
