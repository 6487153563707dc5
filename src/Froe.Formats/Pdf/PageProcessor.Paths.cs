using Froe.Core.Drawing;
using UglyToad.PdfPig.Core;
using UglyToad.PdfPig.Graphics.Colors;

namespace Froe.Formats.Pdf;

/// <summary>Paths: built, clipped, stroked and filled (ISO 32000-2, 8.5).</summary>
internal sealed partial class PageProcessor
{
    private const int MostChords = 200;

    private readonly List<Subpath> path = [];
    private readonly Stack<Extents> clips = new();
    private readonly List<PointXY> cutting = [];
    private Extents clip;
    private bool clipNext;
    private PdfPoint start;

    private sealed class Subpath
    {
        public List<PointXY> Points { get; } = [];

        public List<CurvedStretch> Curved { get; } = [];

        public bool IsClosed { get; set; }
    }

    /// <inheritdoc/>
    public override void PushState()
    {
        clips.Push(clip);
        base.PushState();
    }

    /// <inheritdoc/>
    public override void PopState()
    {
        EndRun();
        if (clips.Count > 0) clip = clips.Pop();
        base.PopState();
    }

    /// <inheritdoc/>
    public override void BeginSubpath()
    {
        // The next MoveTo begins it.
    }

    /// <inheritdoc/>
    public override void MoveTo(double x, double y)
    {
        var next = new Subpath();
        next.Points.Add(At(x, y));
        path.Add(next);
        CurrentPosition = start = new(x, y);
    }

    /// <inheritdoc/>
    public override void LineTo(double x, double y)
    {
        Continue(x, y).Points.Add(At(x, y));
        CurrentPosition = new(x, y);
    }

    /// <summary>The subpath that goes on: after a closed one, one that begins where that began.</summary>
    private Subpath Continue(double x, double y)
    {
        if (path.Count == 0) MoveTo(x, y);
        if (path[^1].IsClosed) MoveTo(start.X, start.Y);
        return path[^1];
    }

    /// <inheritdoc/>
    public override void BezierCurveTo(double x2, double y2, double x3, double y3) => BezierCurveTo(CurrentPosition.X, CurrentPosition.Y, x2, y2, x3, y3);

    /// <inheritdoc/>
    public override void BezierCurveTo(double x1, double y1, double x2, double y2, double x3, double y3)
    {
        var sub = Continue(x1, y1);
        PointXY a = sub.Points[^1], b = At(x1, y1), c = At(x2, y2), d = At(x3, y3);
        // A cubic lies no farther from n equal chords of its parameter than 3/4 of its greatest second difference over n squared.
        double dx = Math.Max(Math.Abs(a.X - (2 * b.X) + c.X), Math.Abs(b.X - (2 * c.X) + d.X));
        double dy = Math.Max(Math.Abs(a.Y - (2 * b.Y) + c.Y), Math.Abs(b.Y - (2 * c.Y) + d.Y));
        var wanted = Math.Sqrt(0.75 * Math.Sqrt((dx * dx) + (dy * dy)) / sheet.Tolerance);
        var chords = wanted < MostChords ? Math.Max(1, (int)Math.Ceiling(wanted)) : MostChords;
        sub.Curved.Add(new CurvedStretch(sub.Points.Count - 1, sub.Points.Count - 1 + chords, null));
        for (var i = 1; i <= chords; i++)
        {
            double t = (double)i / chords, u = 1 - t, ua = u * u * u, ub = 3 * u * u * t, uc = 3 * u * t * t, ud = t * t * t;
            sub.Points.Add(new((ua * a.X) + (ub * b.X) + (uc * c.X) + (ud * d.X), (ua * a.Y) + (ub * b.Y) + (uc * c.Y) + (ud * d.Y)));
        }
        CurrentPosition = new(x3, y3);
    }

    /// <inheritdoc/>
    public override void Rectangle(double x, double y, double width, double height)
    {
        MoveTo(x, y);
        LineTo(x + width, y);
        LineTo(x + width, y + height);
        LineTo(x, y + height);
        ClosePath();
    }

    /// <inheritdoc/>
    public override PdfPoint? CloseSubpath()
    {
        ClosePath();
        return start;
    }

    /// <inheritdoc/>
    public override void ClosePath()
    {
        if (path.Count == 0) return;
        path[^1].IsClosed = true;
        CurrentPosition = start;
    }

    /// <inheritdoc/>
    public override void EndPath() => Painted();

    /// <inheritdoc/>
    public override void StrokePath(bool close) => Paint(null, stroke: true, close);

    /// <inheritdoc/>
    public override void FillPath(FillingRule fillingRule, bool close) => Paint(fillingRule, stroke: false, close);

    /// <inheritdoc/>
    public override void FillStrokePath(FillingRule fillingRule, bool close) => Paint(fillingRule, stroke: true, close);

    /// <inheritdoc/>
    public override void ModifyClippingIntersect(FillingRule clippingRule) => clipNext = true;

    /// <inheritdoc/>
    protected override void ClipToRectangle(PdfRectangle rectangle, FillingRule clippingRule) =>
        ClipTo([.. new[] { rectangle.BottomLeft, rectangle.BottomRight, rectangle.TopRight, rectangle.TopLeft }.Select(p => At(p.X, p.Y))]);

    private void Paint(FillingRule? rule, bool stroke, bool close)
    {
        if (close) ClosePath();
        if (path.Count > 0)
        {
            EndRun();
            if (rule is { } filled) Fill(filled);
            if (stroke) Stroke();
        }
        Painted();
    }

    private void Painted()
    {
        if (clipNext && path.Count > 0)
        {
            if (path.Count > 1 || !IsBox(path[0].Points)) OnlyInPicture("clip that is no box");
            ClipTo([.. path.SelectMany(p => p.Points)]);
        }
        clipNext = false;
        path.Clear();
    }

    private void Stroke()
    {
        var state = GetCurrentState();
        var scale = Scale();
        if (state.CurrentStrokingColor is PatternColor) OnlyInPicture("pattern");
        if (state.AlphaConstantStroking < 1 || state.SoftMask is not null) OnlyInPicture("transparency");
        var lengths = state.LineDashPattern.Array;
        // Drawn and left out in turns; an odd number of lengths goes round twice (8.4.3.6).
        var dashes = lengths is { Count: > 0 } && lengths.All(l => l >= 0 && double.IsFinite(l)) && lengths.Sum() * scale > 0.05
            ? Enumerable.Range(0, lengths.Count * (1 + (lengths.Count % 2))).Select(i => lengths[i % lengths.Count] * scale * (i % 2 == 0 ? 1 : -1)).ToArray()
            : [];
        var width = state.LineWidth * scale * 100;
        Begin(state.CurrentStrokingColor, width < 5000 ? (int)Math.Round(Math.Max(0, width)) : 5000, dashes, "PATH");
        foreach (var sub in path)
        {
            var points = sub.Points;
            if (IsWithin(points)) sheet.Path(points, sub.IsClosed, sub.Curved);
            else
                for (var i = 0; i + (sub.IsClosed ? 0 : 1) < points.Count; i++)
                {
                    PointXY a = points[i], b = points[(i + 1) % points.Count];
                    if (Cutting.ToBox(ref a, ref b, clip)) sheet.Line(a, b);
                }
        }
    }

    private void Fill(FillingRule rule)
    {
        var state = GetCurrentState();
        if (state.CurrentNonStrokingColor is PatternColor)
        {
            OnlyInPicture("pattern");
            return;
        }
        if (state.AlphaConstantNonStroking < 1 || state.SoftMask is not null) OnlyInPicture("transparency");
        var loops = new List<List<PointXY>>();
        var lines = new List<(PointXY From, PointXY To)>();
        foreach (var sub in path)
        {
            if (AsLine(sub.Points) is { } line)
            {
                if (Cutting.ToBox(ref line.From, ref line.To, clip)) lines.Add(line);
                continue;
            }
            if (sub.Points.Count < 3) continue;
            var loop = IsWithin(sub.Points) ? sub.Points : Cutting.LoopToBox(sub.Points, clip);
            if (loop.Count > 2) loops.Add(loop);
        }
        if (lines.Count > 0)
        {
            Begin(state.CurrentNonStrokingColor, 0, [], "FILL");
            foreach (var (from, to) in lines) sheet.Line(from, to);
        }
        if (loops.Count == 0 || IsPaper(loops, state.CurrentNonStrokingColor)) return;
        Begin(state.CurrentNonStrokingColor, 0, [], "FILL");
        if (!sheet.Fill(loops, rule == FillingRule.NonZeroWinding ? FillRule.NonZero : FillRule.EvenOdd)) OnlyInPicture("very large fill");
    }

    /// <summary>White over the whole page before anything else is the paper, which programs paint as well; nobody catches its edge.</summary>
    private bool IsPaper(List<List<PointXY>> loops, IColor? colour)
    {
        const double Near = 0.1;
        return painted == 0 && pictureOnly.Count == 0 && points == 0 && Rgb(colour) == 0xFFFFFF && loops is [var loop] && IsBox(loop)
            && loop.Min(p => p.X) < paper.MinX + Near && loop.Min(p => p.Y) < paper.MinY + Near && loop.Max(p => p.X) > paper.MaxX - Near && loop.Max(p => p.Y) > paper.MaxY - Near;
    }

    /// <summary>What is filled without enclosing anything is seen as the thinnest line (8.5.3.3.1), as which programs write the rules of tables; null for what has an area.</summary>
    private static (PointXY From, PointXY To)? AsLine(List<PointXY> points)
    {
        const double Flat = 1e-6;
        if (points.Count < 2) return null;
        var from = points[0];
        double least = 0, most = 0, x = 0, y = 0, length = 0;
        foreach (var p in points)
        {
            double px = p.X - from.X, py = p.Y - from.Y;
            if (length == 0)
            {
                // The first that lies elsewhere says which way the line would go.
                (x, y, length) = (px, py, Math.Sqrt((px * px) + (py * py)));
                most = length;
                continue;
            }
            if (!(Math.Abs((x * py) - (y * px)) <= Flat * length)) return null;
            var along = ((x * px) + (y * py)) / length;
            (least, most) = (Math.Min(least, along), Math.Max(most, along));
        }
        return length > 0 ? (new(from.X + (x / length * least), from.Y + (y / length * least)), new(from.X + (x / length * most), from.Y + (y / length * most))) : null;
    }

    private bool IsWithin(List<PointXY> points)
    {
        foreach (var p in points)
            if (!(p.X >= clip.MinX && p.X <= clip.MaxX && p.Y >= clip.MinY && p.Y <= clip.MaxY)) return false;
        return true;
    }

    /// <summary>Cuts what follows to a box too. Any other shape is kept as the box round it.</summary>
    private void ClipTo(List<PointXY> points) => clip = new(
        Math.Max(clip.MinX, points.Min(p => p.X)), Math.Max(clip.MinY, points.Min(p => p.Y)), Math.Min(clip.MaxX, points.Max(p => p.X)), Math.Min(clip.MaxY, points.Max(p => p.Y)));

    private static bool IsBox(List<PointXY> points)
    {
        const double Near = 1e-3;
        var count = points.Count == 5 && points[0] == points[4] ? 4 : points.Count;
        if (count != 4) return false;
        for (var i = 0; i < 4; i++)
        {
            PointXY a = points[i], b = points[(i + 1) % 4];
            if (Math.Abs(a.X - b.X) > Near && Math.Abs(a.Y - b.Y) > Near) return false;
        }
        return true;
    }
}
