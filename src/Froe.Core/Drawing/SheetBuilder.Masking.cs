namespace Froe.Core.Drawing;

/// <summary>What hides what was drawn before it, and in which order things are drawn.</summary>
public sealed partial class SheetBuilder
{
    private const int MostOutline = 10_000;
    private readonly Masks masks = new();
    private readonly List<Together> together = [];

    /// <summary>Whether anything hides what was drawn before it.</summary>
    public bool HasMasks => masks.Count > 0;

    /// <summary>An area that hides what was drawn before the entity at hand, once that is asked for (<see cref="HideMasked"/>).</summary>
    /// <param name="loops">Its outlines, even-odd.</param>
    public void Mask(IReadOnlyList<IReadOnlyList<PointXY>> loops) => masks.Add(loops, entity);

    /// <summary>A coloured area that does the same. Its outline may be drawn as a line of its own, in chords of its own, and that stays.</summary>
    public void Cover(IReadOnlyList<IReadOnlyList<PointXY>> loops) => masks.Add(loops, entity, 2 * farthest);

    /// <summary>Entities one after another that are one thing in the order of drawing: a block, a view.</summary>
    /// <param name="From">The first.</param>
    /// <param name="End">The one behind the last.</param>
    /// <param name="Handle">Of the thing.</param>
    /// <param name="At">Its place among the entities, between two of them for one that is none itself; where no handles order them.</param>
    private readonly record struct Together(int From, int End, ulong Handle, double At);

    /// <summary>Says that the entities since one are one thing.</summary>
    /// <param name="from">The first of them.</param>
    /// <param name="handle">Of the thing.</param>
    /// <param name="at">Its place among the entities; between two of them for one that is none itself.</param>
    public void Join(int from, ulong handle, double at)
    {
        if (handles.Count > from) together.Add(new Together(from, handles.Count, handle, at));
    }

    /// <summary>Cuts away all that lies beyond an outline.</summary>
    /// <param name="outline">The outline, its first point not repeated.</param>
    /// <param name="area">What all of it lies within.</param>
    public void KeepWithin(IReadOnlyList<PointXY> outline, Extents area)
    {
        // What hides is a frame about all there is, with the outline for its hole.
        var all = outline.Aggregate(area, (e, p) => e.With(p.X, p.Y));
        var beyond = Math.Max(all.Width, all.Height) * 0.1;
        Begin(new EntityLook(0, 0, 0, 0, [], ""));
        Mask([[new(all.MinX - beyond, all.MinY - beyond), new(all.MaxX + beyond, all.MinY - beyond), new(all.MaxX + beyond, all.MaxY + beyond), new(all.MinX - beyond, all.MaxY + beyond)], outline]);
        HideMasked(null);
    }

    /// <summary>The outlines that entities are drawn as: where each of their strokes begins, in order.</summary>
    /// <param name="wanted">Handles of the entities.</param>
    public Dictionary<ulong, List<PointXY>> Outlines(IReadOnlySet<ulong> wanted)
    {
        ArgumentNullException.ThrowIfNull(wanted);
        var found = new Dictionary<ulong, List<PointXY>>();
        for (var i = 0; i < segments.Count; i++)
        {
            ref readonly var s = ref segments[i];
            if (!wanted.Contains(handles[s.Entity])) continue;
            if (!found.TryGetValue(handles[s.Entity], out var outline)) found.Add(handles[s.Entity], outline = []);
            if (outline.Count < MostOutline) outline.Add(new(s.X0, s.Y0));
        }
        return found;
    }

    /// <summary>Cuts away what lies beneath masks.</summary>
    /// <param name="order">Handles that things are ordered by instead of their own; null where they are drawn as they come.</param>
    public void HideMasked(IReadOnlyDictionary<ulong, ulong>? order)
    {
        if (masks.Count == 0) return;
        together.Sort((a, b) => a.From.CompareTo(b.From));
        Func<int, bool> Beneath(int of)
        {
            var place = Place(of, order);
            return mask => place.CompareTo(Place(mask, order)) < 0;
        }

        var (oldSegments, oldTriangles, oldOwners, oldCurves, oldTexts, now) = (segments, triangles, triangleEntity, curves, texts, entity);
        (segments, triangles, triangleEntity, curves, texts) = (new(), new(), new(), new(), []);
        for (var i = 0; i < oldSegments.Count; i++)
        {
            ref readonly var s = ref oldSegments[i];
            PointXY a = new(s.X0, s.Y0), b = new(s.X1, s.Y1);
            if (masks.Stroke(a, b, Beneath(s.Entity)) is not { } left)
            {
                segments.Add(s);
                continue;
            }
            if (KeepsPatterns) brokenPaths.Add(s.Entity);
            foreach (var (from, to) in left)
                segments.Add(new(a.X + ((b.X - a.X) * from), a.Y + ((b.Y - a.Y) * from), a.X + ((b.X - a.X) * to), a.Y + ((b.Y - a.Y) * to), s.Entity, s.Ends & ((from == 0 ? StrokeEnds.First : 0) | (to == 1 ? StrokeEnds.Second : 0))));
        }
        for (var i = 0; i < oldOwners.Count; i++)
        {
            entity = oldOwners[i];
            PointXY a = new(oldTriangles[6 * i], oldTriangles[(6 * i) + 1]), b = new(oldTriangles[(6 * i) + 2], oldTriangles[(6 * i) + 3]), c = new(oldTriangles[(6 * i) + 4], oldTriangles[(6 * i) + 5]);
            if (masks.Triangle(a, b, c, Beneath(entity)) is not { } left) Triangle(a, b, c);
            else if (left.Count > 0 && !Fill(left)) Triangle(a, b, c);
        }
        // A curve that is hidden in part is not the file's curve any more; its strokes stand for it.
        for (var i = 0; i < oldCurves.Count; i++)
        {
            var box = oldCurves[i].Box();
            if (!masks.Touches(box.Skip(1).Aggregate(new Extents(box[0].X, box[0].Y, box[0].X, box[0].Y), (e, p) => e.With(p.X, p.Y)), Beneath(oldCurves[i].Entity))) curves.Add(oldCurves[i]);
        }
        foreach (var run in oldTexts)
            if (masks.Words(run, Beneath(run.Entity)) is { } pieces) texts.AddRange(pieces);
            else texts.Add(run);
        entity = now;
        oldSegments.Release();
        oldTriangles.Release();
        oldOwners.Release();
        oldCurves.Release();
    }

    /// <summary>Where an entity stands in the order of drawing: by what it is a part of, and in that by its own place.</summary>
    private (double Of, int Own) Place(int of, IReadOnlyDictionary<ulong, ulong>? order)
    {
        int low = 0, high = together.Count - 1;
        while (low <= high)
        {
            var middle = (low + high) / 2;
            if (together[middle].From > of) high = middle - 1;
            else if (together[middle].End <= of) low = middle + 1;
            else return (order is null ? together[middle].At : order.GetValueOrDefault(together[middle].Handle, together[middle].Handle), of);
        }
        return (order is null ? of : order.GetValueOrDefault(handles[of], handles[of]), of);
    }
}
