using System.Runtime.CompilerServices;
using System.Runtime.InteropServices;

namespace Froe.Core.Drawing;

/// <summary>Raised when a drawing unfolds into more than Froe is willing to keep; the message says what and how much.</summary>
public sealed class SheetTooLargeException(string message) : Exception(message);

/// <summary>How an entity is to be drawn.</summary>
/// <param name="Handle">Its handle in the file, 0 if none.</param>
/// <param name="Layer">Index of its layer.</param>
/// <param name="Rgb">Colour as in the file, 0xRRGGBB.</param>
/// <param name="Weight">Line weight in hundredths of a millimetre.</param>
/// <param name="Dashes">Dash pattern in sheet units; empty for an unbroken line.</param>
/// <param name="Kind">What the file calls such an entity.</param>
/// <param name="IsArea">Whether it is an area, whose colour may be as pale as it likes; lines and letters are made to stand out from paper.</param>
public readonly record struct EntityLook(ulong Handle, int Layer, int Rgb, int Weight, double[] Dashes, string Kind, bool IsArea = false);

/// <summary>A stretch of a path that is a flattened curve: its points from one index to another lie on it, and only its two ends are the file's own.</summary>
/// <param name="From">Index of its first point.</param>
/// <param name="To">Index of its last point; the number of points where it ends at the first.</param>
/// <param name="Arc">The curve; null for one that is no arc of an ellipse.</param>
public readonly record struct CurvedStretch(int From, int To, EllipseArc? Arc);

/// <summary>Gathers the geometry of one sheet as a reader meets it, in world coordinates, and makes the <see cref="Sheet"/>.</summary>
/// <param name="mostSegments">Strokes and triangles beyond this are refused.</param>
public sealed partial class SheetBuilder(int mostSegments = SheetBuilder.UsualMost)
{
    /// <summary>Most strokes and triangles of a sheet unless told otherwise.</summary>
    public const int UsualMost = 8_000_000;

    private const int MostScales = 500;

    private ChunkedList<Segment> segments = new();
    private ChunkedList<double> triangles = new();
    private ChunkedList<int> triangleEntity = new();
    private readonly ChunkedList<ulong> handles = new();
    private readonly ChunkedList<ushort> entityStyles = new();
    private readonly List<StrokeStyle> styles = [];
    private readonly Dictionary<StrokeStyle, ushort> styleIndex = [];
    private readonly ChunkedList<ushort> entityKinds = new();
    private readonly List<string> kinds = [];
    private ChunkedList<SheetCurve> curves = new();
    private List<TextRun> texts = [];
    private readonly List<SheetScale> scales = [];
    private readonly List<PlacedPicture> pictures = [];
    private readonly List<PointXY> scratch = [];
    private readonly List<CurvedStretch> scratchCurves = [];
    private readonly (StrokeStyle Style, int Index)[] recentStyles = new (StrokeStyle, int)[256];
    private double[] dashes = [];
    private int entity = -1, kind = -1;
    private double left = double.PositiveInfinity, bottom = double.PositiveInfinity, right = double.NegativeInfinity, top = double.NegativeInfinity;
    private double farthest;

    /// <summary>Chords stay within this of their curves, in sheet units; a reader sets it when it learns the drawing's size.</summary>
    public double Tolerance { get; set; } = 0.01;

    /// <summary>Whether colours stay as the file has them; otherwise they are changed where they would not read on white paper (<see cref="PaperInk"/>).</summary>
    public bool KeepsInk { get; init; }

    /// <summary>Strokes so far.</summary>
    public int SegmentCount => segments.Count;

    /// <summary>What has been drawn so far covers this.</summary>
    public Extents Extents => new(left, bottom, right, top);

    /// <summary>Everything that follows belongs to this entity.</summary>
    public void Begin(in EntityLook look)
    {
        var style = new StrokeStyle(look.Layer, KeepsInk || (look.IsArea && look.Rgb != 0) ? look.Rgb : Ink(look.Rgb), look.Weight);
        // Layers come in turns in many files, so the last style of each is remembered before the table is asked.
        ref var recent = ref recentStyles[look.Layer & 255];
        if (recent.Index == 0 || style != recent.Style)
        {
            ref var index = ref CollectionsMarshal.GetValueRefOrAddDefault(styleIndex, style, out var known);
            if (!known)
            {
                if (styles.Count == ushort.MaxValue) throw new SheetTooLargeException("The drawing uses more than 65,535 different line styles.");
                index = (ushort)styles.Count;
                styles.Add(style);
            }
            recent = (style, index + 1);
        }
        dashes = look.Dashes;
        entity = handles.Count;
        handles.Add(look.Handle);
        entityStyles.Add((ushort)(recent.Index - 1));
        if (kind < 0 || !ReferenceEquals(kinds[kind], look.Kind))
        {
            kind = kinds.IndexOf(look.Kind);
            if (kind < 0)
            {
                // No format has so many; what a file made up beyond goes with the last.
                if (kinds.Count < MostKinds) kinds.Add(look.Kind);
                kind = kinds.Count - 1;
            }
        }
        entityKinds.Add((ushort)kind);
    }

    private const int MostKinds = 1000;

    private int inkFrom = -1;
    private int ink;

    private int Ink(int rgb)
    {
        if (rgb != inkFrom) (inkFrom, ink) = (rgb, PaperInk.OnPaper(rgb));
        return ink;
    }

    /// <summary>A straight line.</summary>
    public void Line(PointXY a, PointXY b)
    {
        if (dashes.Length == 0)
        {
            Stroke(a, b, StrokeEnds.Both);
            return;
        }
        scratch.Clear();
        scratch.Add(a);
        scratch.Add(b);
        Path(scratch, closed: false);
    }

    /// <summary>A run of lines, dashed as the entity asks, the pattern running on round the corners.</summary>
    /// <param name="curved">Its stretches that are flattened curves, in order; null when all of it is straight.</param>
    public void Path(List<PointXY> points, bool closed, List<CurvedStretch>? curved = null)
    {
        ArgumentNullException.ThrowIfNull(points);
        var count = closed ? points.Count : points.Count - 1;
        if (KeepsPatterns && dashes.Length > 0) KeepWhole(points, closed);
        if (curved is not null)
            foreach (var stretch in curved)
                if (stretch.Arc is { } arc) AddCurve(SheetCurve.Of(arc, entity));
        var run = 0.0;
        for (int i = 0, next = 0; i < count; i++)
        {
            PointXY a = points[i], b = points[i + 1 == points.Count ? 0 : i + 1];
            while (curved is not null && next < curved.Count && curved[next].To <= i) next++;
            var inCurve = curved is not null && next < curved.Count && curved[next].From <= i;
            var ends = !inCurve ? StrokeEnds.Both : (i == curved![next].From ? StrokeEnds.First : 0) | (i + 1 == curved[next].To ? StrokeEnds.Second : 0);
            if (dashes.Length == 0)
            {
                Stroke(a, b, ends);
                continue;
            }
            Dashed(a, b, ends, ref run);
        }
    }

    /// <summary>One stretch of a dashed run. Its dashes end nowhere that the file names; so the line itself is kept beside them.</summary>
    private void Dashed(PointXY a, PointXY b, StrokeEnds ends, ref double run)
    {
        var length = Math.Sqrt(((b.X - a.X) * (b.X - a.X)) + ((b.Y - a.Y) * (b.Y - a.Y)));
        // A pattern finer than could ever be seen would only cost: such a line is drawn unbroken.
        if (!(length > 0) || !Dashing.Along(0, length, -run, dashes, 20_000, 0, (s, e) => Stroke(Between(a, b, s / length), Between(a, b, e / length), 0)))
            Stroke(a, b, ends);
        else if (ends == StrokeEnds.Both)
            AddCurve(SheetCurve.Straight(a, b, entity));
        run += length;

        static PointXY Between(PointXY a, PointXY b, double t) => new(a.X + ((b.X - a.X) * t), a.Y + ((b.Y - a.Y) * t));
    }

    private void AddCurve(in SheetCurve curve)
    {
        if (curve.IsFinite) curves.Add(curve);
    }

    /// <summary>An arc of an ellipse.</summary>
    public void Arc(in EllipseArc arc)
    {
        scratch.Clear();
        Curves.Flatten(arc, CurveTolerance(arc), scratch);
        scratchCurves.Clear();
        scratchCurves.Add(new CurvedStretch(0, scratch.Count - 1, arc));
        Path(scratch, closed: false, scratchCurves);
    }

    /// <summary>The tolerance a curve is flattened with, noted for the sheet's own statement.</summary>
    public double CurveTolerance(in EllipseArc arc)
    {
        var radius = Math.Sqrt(Math.Max((arc.Major.X * arc.Major.X) + (arc.Major.Y * arc.Major.Y), (arc.Minor.X * arc.Minor.X) + (arc.Minor.Y * arc.Minor.Y)));
        // Of a drawing that does not say how large it is the tolerance is known by its curves only; what is no curve needs none.
        var tolerance = double.IsFinite(radius) && radius > 0 ? Math.Min(Tolerance, radius / 1000) : double.IsFinite(Tolerance) ? Tolerance : 0;
        farthest = Math.Max(farthest, tolerance);
        return tolerance;
    }

    /// <summary>One line of a hatching: it fills, and its ends are no points that anybody drew.</summary>
    public void Hatching(PointXY a, PointXY b) => Stroke(a, b, StrokeEnds.None);

    /// <summary>A point, drawn as a small cross so that it can be seen at all.</summary>
    public void Point(PointXY p, double arm)
    {
        Stroke(new(p.X - arm, p.Y), new(p.X + arm, p.Y), StrokeEnds.None);
        Stroke(new(p.X, p.Y - arm), new(p.X, p.Y + arm), StrokeEnds.None);
        AddCurve(SheetCurve.Straight(p, p, entity));
    }

    /// <summary>A filled area. False when its outline has too many edges.</summary>
    public bool Fill(IReadOnlyList<List<PointXY>> loops, FillRule rule = FillRule.EvenOdd)
    {
        scratch.Clear();
        if (!Filling.Triangulate(loops, scratch, rule)) return false;
        for (var i = 0; i + 2 < scratch.Count; i += 3) Triangle(scratch[i], scratch[i + 1], scratch[i + 2]);
        return true;
    }

    /// <summary>A filled triangle.</summary>
    public void Triangle(PointXY a, PointXY b, PointXY c)
    {
        if (!Finite(a) || !Finite(b) || !Finite(c)) return;
        Guard();
        ReadOnlySpan<PointXY> corners = [a, b, c];
        foreach (var p in corners)
        {
            triangles.Add(p.X);
            triangles.Add(p.Y);
            Cover(p.X, p.Y);
        }
        triangleEntity.Add(entity);
    }

    /// <summary>A line of text; <see cref="TextRun.Entity"/> is filled in here.</summary>
    public void Text(in TextRun run)
    {
        if (!Finite(run.At) || !Finite(run.Along) || !Finite(run.Up) || string.IsNullOrWhiteSpace(run.Text)) return;
        if (texts.Count >= 1_000_000) throw new SheetTooLargeException("The drawing holds more than 1,000,000 lines of text.");
        texts.Add(run with { Entity = entity });
        foreach (var corner in run.Corners()) Cover(corner.X, corner.Y);
    }

    /// <summary>Entities so far.</summary>
    public int EntityCount => handles.Count;

    /// <summary>Says how large things are on the sheet, or on a part of it; of more than are worth telling, the first.</summary>
    public void Scale(SheetScale scale)
    {
        if (scale.Millimetres > 0 && double.IsFinite(scale.Millimetres) && scales.Count < MostScales) scales.Add(scale);
    }

    /// <summary>A picture that is a file of its own; of more than are worth showing, the first.</summary>
    public void Picture(PlacedPicture picture)
    {
        if (pictures.Count < PlacedPicture.Most && Finite(picture.At) && Finite(picture.Along) && Finite(picture.Up)) pictures.Add(picture);
    }

    /// <summary>Makes the sheet and ends the gathering: picks the origin, sorts the strokes so that neighbours on paper are neighbours in memory.</summary>
    /// <param name="paper">What the sheet covers where its file says so; otherwise what is drawn tells.</param>
    public Sheet Build(string name, LengthUnit unit, IReadOnlyList<Layer> layers, Extents? paper = null)
    {
        var extents = paper ?? Extents;
        var bulk = extents.IsEmpty ? extents : Bulk(extents);
        var origin = extents.IsEmpty ? default : new PointXY((bulk.MinX + bulk.MaxX) / 2, (bulk.MinY + bulk.MaxY) / 2);
        var (cells, next) = SpatialCells(bulk);
        // Every place of these is written below.
        var coords = GC.AllocateUninitializedArray<float>(4 * cells.Length);
        var owners = GC.AllocateUninitializedArray<int>(cells.Length);
        var ends = GC.AllocateUninitializedArray<StrokeEnds>(cells.Length);
        var drawn = 0;
        for (var part = 0; part < segments.Parts; part++)
            foreach (ref readonly var s in segments.Part(part))
            {
                var at = next[cells[drawn++]]++;
                var four = coords.AsSpan(4 * at, 4);
                four[0] = (float)(s.X0 - origin.X);
                four[1] = (float)(s.Y0 - origin.Y);
                four[2] = (float)(s.X1 - origin.X);
                four[3] = (float)(s.Y1 - origin.Y);
                owners[at] = s.Entity;
                ends[at] = s.Ends;
            }
        var fills = new float[triangles.Count];
        for (var i = 0; i < fills.Length; i++) fills[i] = (float)(triangles[i] - ((i & 1) == 0 ? origin.X : origin.Y));
        var sheet = new Sheet
        {
            Name = name,
            Unit = unit,
            IsPaper = paper is not null,
            Scales = [.. scales.OrderBy(s => s.Area is { } a ? a.Width * a.Height : double.PositiveInfinity)],
            Pictures = pictures,
            Origin = origin,
            Extents = extents.IsEmpty ? new Extents(0, 0, 0, 0) : extents,
            Tolerance = farthest,
            Layers = layers,
            Styles = styles,
            Segments = coords,
            SegmentEntity = owners,
            Triangles = fills,
            TriangleEntity = triangleEntity.ToArray(),
            EntityHandle = handles.ToArray(),
            EntityStyle = entityStyles.ToArray(),
            Texts = texts,
            SegmentEnds = ends,
            Curves = curves.ToArray(),
            Kinds = kinds,
            EntityKind = entityKinds.ToArray(),
            EntitySignature = Signatures(layers),
        };
        segments.Release();
        triangles.Release();
        triangleEntity.Release();
        handles.Release();
        entityStyles.Release();
        entityKinds.Release();
        curves.Release();
        return sheet;
    }

    /// <summary>
    /// What an entity is, as a number: of its kind, layer and ink, and its geometry where it lies, to a hundred-thousandth of a unit. Two
    /// drafts of a drawing hold the same entity where they hold the same number.
    /// </summary>
    private ulong[] Signatures(IReadOnlyList<Layer> layers)
    {
        var all = new ulong[handles.Count];
        var ofStyle = styles.ConvertAll(s => Signature.Of(s.Layer < layers.Count ? layers[s.Layer].Name : "", ((ulong)s.Rgb << 16) | (ushort)s.Weight));
        var ofKind = kinds.ConvertAll(k => Signature.Of(k, 0));
        for (var i = 0; i < all.Length; i++) all[i] = Signature.With(ofStyle[entityStyles[i]], ofKind[entityKinds[i]]);
        // An entity's strokes follow one another, so its sum is written once for all of a run.
        var (of, sum) = (-1, 0UL);
        for (var part = 0; part < segments.Parts; part++)
            foreach (ref readonly var s in segments.Part(part))
            {
                if (s.Entity != of)
                {
                    if (of >= 0) all[of] = sum;
                    (of, sum) = (s.Entity, all[s.Entity]);
                }
                sum = Signature.With(Signature.With(Signature.With(Signature.With(sum, s.X0), s.Y0), s.X1), s.Y1);
            }
        if (of >= 0) all[of] = sum;
        for (var i = 0; i < triangles.Count; i++) all[triangleEntity[i / 6]] = Signature.With(all[triangleEntity[i / 6]], triangles[i]);
        foreach (var t in texts)
            all[t.Entity] = Signature.Of(t.Text, Signature.With(Signature.With(Signature.With(Signature.With(Signature.With(Signature.With(all[t.Entity], t.At.X), t.At.Y), t.Along.X), t.Along.Y), t.Up.X), t.Up.Y));
        return all;
    }

    private readonly record struct Segment(double X0, double Y0, double X1, double Y1, int Entity, StrokeEnds Ends);

    private void Stroke(PointXY a, PointXY b, StrokeEnds ends)
    {
        if (!Finite(a) || !Finite(b)) return;
        Guard();
        segments.Add(new(a.X, a.Y, b.X, b.Y, entity, ends));
        Cover(a.X, a.Y);
        Cover(b.X, b.Y);
    }

    /// <summary>Widens what is covered; comparing beats Math.Min here, for the numbers are known to be finite.</summary>
    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    private void Cover(double x, double y)
    {
        if (x < left) left = x;
        if (x > right) right = x;
        if (y < bottom) bottom = y;
        if (y > top) top = y;
    }

    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    private void Guard()
    {
        if (segments.Count + triangleEntity.Count >= mostSegments) throw TooMany();
    }

    private SheetTooLargeException TooMany() => new($"The drawing unfolds into more than {mostSegments:N0} strokes; blocks nested or repeated without bound are the usual cause.");

    /// <summary>Numbers beyond any drawing would overflow 32-bit offsets.</summary>
    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    private static bool Finite(PointXY p) => Math.Abs(p.X) < 1e15 && Math.Abs(p.Y) < 1e15;
}
