using System.Globalization;
using System.Text;
using Froe.Core.Drawing;

namespace Froe.Formats.Dxf;

/// <summary>Views of the model on paper sheets.</summary>
internal sealed partial class EntityDrawer
{
    private const int ViewportClipped = 0x10000;

    /// <summary>Strokes that are looked at, all together, for views that are cut to outlines.</summary>
    private const long MostCut = 10_000_000;

    private long cutting;

    /// <summary>A view as the file tells it (DXF reference, VIEWPORT; before release 13 in its extended data, under MVIEW).</summary>
    /// <param name="Target">What the model is turned about, in the world's coordinates.</param>
    /// <param name="Middle">What stands in the view's middle, on the display after the turn.</param>
    /// <param name="Height">How much of the model is as high as the view.</param>
    /// <param name="Twist">The turn, in degrees.</param>
    /// <param name="FromAbove">Whether the model is looked at from above.</param>
    /// <param name="Frozen">Layers that are not to be seen in it.</param>
    private sealed record ModelView(PointXY Target, PointXY Middle, double Height, double Twist, bool FromAbove, IReadOnlySet<int> Frozen);

    private void DrawViews()
    {
        var outlines = Outlines();
        foreach (var (paper, viewport, at) in viewports)
        {
            var from = paper.EntityCount;
            DrawView(paper, viewport, ClipHandle(viewport) is not 0 and var clip && outlines.TryGetValue((paper, clip), out var outline) ? outline : null);
            paper.Join(from, Handle(viewport), at - 0.5);
        }
    }

    /// <summary>The outlines that views are cut to, as they are drawn on their sheets.</summary>
    private Dictionary<(SheetBuilder Paper, ulong Handle), List<PointXY>> Outlines()
    {
        var found = new Dictionary<(SheetBuilder, ulong), List<PointXY>>();
        foreach (var views in viewports.Where(v => ClipHandle(v.Viewport) > 0).GroupBy(v => v.Paper))
            foreach (var (handle, outline) in views.Key.Outlines(views.Select(v => ClipHandle(v.Viewport)).ToHashSet()))
                if (outline.Count > 2) found[(views.Key, handle)] = outline;
        return found;
    }

    private static ulong ClipHandle(Record v) =>
        (v.GetInt(90) & ViewportClipped) != 0 && ulong.TryParse(v.GetText(340), NumberStyles.AllowHexSpecifier, CultureInfo.InvariantCulture, out var handle) ? handle : 0;

    /// <summary>A view of the model on a paper sheet, seen from above; cut to an outline where it has one, to its rectangle otherwise.</summary>
    private void DrawView(SheetBuilder paper, Record v, List<PointXY>? outline)
    {
        builder = paper;
        double width = v.Get(40), height = v.Get(41);
        if (ViewOf(v) is not { } view) return;
        var k = height / view.Height;
        if (!(k > 0) || !double.IsFinite(k)) return;
        if (!view.FromAbove)
        {
            Skip("VIEWPORT", "it looks at the model from the side; views from above are drawn");
            return;
        }
        var centre = v.Point(10);
        var (sin, cos) = Math.SinCos(view.Twist * Degree);
        var area = new Extents(centre.X - (width / 2), centre.Y - (height / 2), centre.X + (width / 2), centre.Y + (height / 2));
        if (LengthUnits.MillimetresIn(unit) is { } millimetres) paper.Scale(new SheetScale(millimetres / k, area));
        PointXY OnPaper(PointXY p)
        {
            double x = p.X - view.Target.X, y = p.Y - view.Target.Y;
            return new(centre.X + (k * ((cos * x) - (sin * y) - view.Middle.X)), centre.Y + (k * ((sin * x) + (cos * y) - view.Middle.Y)));
        }

        if (outline is not null && (cutting += model.SegmentCount) > MostCut)
        {
            Skip("VIEWPORT", "so much lies in views that are not rectangles that this one is shown with its whole rectangle");
            outline = null;
        }
        if (outline is null)
        {
            paper.View(model, OnPaper, area, view.Frozen.Contains, tables.PatternsOnPaper);
            return;
        }
        // By itself first, and what lies beyond the outline is taken away from that.
        var alone = new SheetBuilder(limits.MostSegments) { Tolerance = tolerance };
        alone.View(model, OnPaper, area, view.Frozen.Contains, tables.PatternsOnPaper);
        alone.KeepWithin(outline, area);
        paper.View(alone, p => p, area);
    }

    private static bool HasOldView(Record v)
    {
        for (var i = 0; i < v.Count; i++)
            if (v.Code(i) == 1000 && v.Word(i).SequenceEqual("MVIEW"u8)) return true;
        return false;
    }

    private ModelView? ViewOf(Record v)
    {
        var frozen = new HashSet<int>();
        if (v.Has(45))
        {
            for (var i = 0; i < v.Count; i++)
                if (v.Code(i) is 331 or 341 && tables.LayerOfHandle.TryGetValue(Encoding.ASCII.GetString(v.Word(i)), out var layer)) frozen.Add(layer);
            // The view's centre is counted on the display, after the turn (12 is in display coordinates, 17 in the world's).
            return new(new(v.Get(17), v.Get(27)), new(v.Get(12), v.Get(22)), v.Get(45), v.Get(51), Math.Abs(v.Get(16)) <= 1e-6 && Math.Abs(v.Get(26)) <= 1e-6, frozen);
        }
        // In order: target and direction (1010), then twist, height and centre of the view (1040); names of frozen layers (1003).
        var (points, numbers, isView) = (new List<PointXY>(), new List<double>(), false);
        for (var i = 0; i < v.Count; i++)
            switch (v.Code(i))
            {
                case 1000: isView = v.Word(i).SequenceEqual("MVIEW"u8); break;
                case 1010 when isView: points.Add(new(v.Number(i), 0)); break;
                case 1020 when isView && points.Count > 0: points[^1] = points[^1] with { Y = v.Number(i) }; break;
                case 1040 when isView: numbers.Add(v.Number(i)); break;
                case 1003 when isView: frozen.Add(tables.LayerOf(text.Decode(v.Text(i)))); break;
            }
        return points.Count < 2 || numbers.Count < 4 ? null
            : new(points[0], new(numbers[2], numbers[3]), numbers[1], numbers[0], Math.Abs(points[1].X) <= 1e-6 && Math.Abs(points[1].Y) <= 1e-6, frozen);
    }
}
