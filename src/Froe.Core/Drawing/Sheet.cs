namespace Froe.Core.Drawing;

/// <summary>A layer of a drawing.</summary>
/// <param name="Name">Its name in the file.</param>
/// <param name="IsOn">Whether it is shown when the sheet is opened: on and not frozen.</param>
/// <param name="Rgb">Its own colour, 0xRRGGBB, as it is drawn on paper.</param>
public sealed record Layer(string Name, bool IsOn, int Rgb);

/// <summary>How strokes and fills are drawn: the layer that shows and hides them, their ink and their width.</summary>
/// <param name="Layer">Index into the sheet's layers.</param>
/// <param name="Rgb">Ink on paper, 0xRRGGBB.</param>
/// <param name="Weight">Line weight in hundredths of a millimetre; 0 for the thinnest.</param>
public readonly record struct StrokeStyle(int Layer, int Rgb, int Weight);

/// <summary>One line of text on a sheet.</summary>
/// <param name="Text">The words, without the file's own codes.</param>
/// <param name="At">Where the anchor stands.</param>
/// <param name="Along">Direction of writing; its length is the cap height times the width factor, in sheet units.</param>
/// <param name="Up">Upright direction; its length is the cap height, in sheet units.</param>
/// <param name="Anchor">Horizontal share of the text left of the anchor: 0 left, 0.5 centre, 1 right.</param>
/// <param name="Rise">Height of the anchor over the baseline, in cap heights: 0 baseline, 0.5 middle, 1 top.</param>
/// <param name="Entity">Index into the sheet's entities.</param>
public readonly record struct TextRun(string Text, PointXY At, PointXY Along, PointXY Up, float Anchor, float Rise, int Entity)
{
    /// <summary>The four corners of what it covers, in sheet coordinates.</summary>
    public PointXY[] Corners()
    {
        var width = Lettering.Width(Text);
        var run = this;
        return [Corner(0, 0), Corner(1, 0), Corner(0, 1), Corner(1, 1)];

        PointXY Corner(double u, double v)
        {
            double a = (u - run.Anchor) * width, b = v - run.Rise;
            return new(run.At.X + (a * run.Along.X) + (b * run.Up.X), run.At.Y + (a * run.Along.Y) + (b * run.Up.Y));
        }
    }
}

/// <summary>
/// One sheet: everything flattened to straight strokes, triangles and lines of text, with the entity each came from.
/// Coordinates are 32-bit offsets from a 64-bit origin, in the drawing's units, y up.
/// </summary>
public sealed class Sheet
{
    /// <summary>What the file calls it.</summary>
    public required string Name { get; init; }

    /// <summary>The unit of its coordinates.</summary>
    public required LengthUnit Unit { get; init; }

    /// <summary>What every offset is counted from.</summary>
    public required PointXY Origin { get; init; }

    /// <summary>What the drawn geometry covers; empty for a sheet with nothing on it.</summary>
    public required Extents Extents { get; init; }

    /// <summary>Whether its extents are a sheet of paper at its true size, so that line weights are as wide on it as they say.</summary>
    public bool IsPaper { get; init; }

    /// <summary>How large things are that are drawn on it, where the file says so; what lies in two areas is of the smaller one.</summary>
    public IReadOnlyList<SheetScale> Scales { get; init; } = [];

    /// <summary>Pictures that lie on it and are files of their own.</summary>
    public IReadOnlyList<PlacedPicture> Pictures { get; init; } = [];

    /// <summary>The farthest any chord lies from its curve, in the sheet's units.</summary>
    public required double Tolerance { get; init; }

    /// <summary>The layers, in the file's order.</summary>
    public required IReadOnlyList<Layer> Layers { get; init; }

    /// <summary>The distinct styles.</summary>
    public required IReadOnlyList<StrokeStyle> Styles { get; init; }

    /// <summary>Strokes: x0, y0, x1, y1 each.</summary>
    public required float[] Segments { get; init; }

    /// <summary>The entity of each stroke.</summary>
    public required int[] SegmentEntity { get; init; }

    /// <summary>Filled triangles: x0, y0, x1, y1, x2, y2 each.</summary>
    public required float[] Triangles { get; init; }

    /// <summary>The entity of each triangle.</summary>
    public required int[] TriangleEntity { get; init; }

    /// <summary>The handle of each entity in the file, 0 where it has none.</summary>
    public required ulong[] EntityHandle { get; init; }

    /// <summary>The style of each entity.</summary>
    public required ushort[] EntityStyle { get; init; }

    /// <summary>The lines of text.</summary>
    public required IReadOnlyList<TextRun> Texts { get; init; }

    /// <summary>Which ends of each stroke are points of the file: ends and corners, not where a curve was cut into chords or a line into dashes.</summary>
    public required StrokeEnds[] SegmentEnds { get; init; }

    /// <summary>The true arcs and ellipses that strokes were made of, and the lines that were drawn dashed.</summary>
    public required SheetCurve[] Curves { get; init; }

    /// <summary>What the file calls its entities, each word once.</summary>
    public required IReadOnlyList<string> Kinds { get; init; }

    /// <summary>The kind of each entity: an index into <see cref="Kinds"/>.</summary>
    public required ushort[] EntityKind { get; init; }

    /// <summary>A number for each entity that is the same in two drafts where the entity is.</summary>
    public required ulong[] EntitySignature { get; init; }
}

/// <summary>How large what is drawn is in the world.</summary>
/// <param name="Millimetres">Millimetres of the thing itself in one unit of the sheet.</param>
/// <param name="Area">Where on the sheet that holds, in its own coordinates; null for all of it.</param>
public sealed record SheetScale(double Millimetres, Extents? Area = null);

/// <summary>Ends of a stroke.</summary>
[Flags]
public enum StrokeEnds : byte
{
    /// <summary>Neither.</summary>
    None = 0,

    /// <summary>The first.</summary>
    First = 1,

    /// <summary>The second.</summary>
    Second = 2,

    /// <summary>Both: the stroke is a whole straight line of the file, and has a middle.</summary>
    Both = 3,
}

/// <summary>A curve, or a whole line, that strokes stand for; points in sheet units.</summary>
/// <param name="Entity">Index into the sheet's entities.</param>
/// <param name="IsStraight">Whether it is a line: from the centre by the major vector.</param>
/// <param name="Arc">The arc; of a line only the centre (where it begins) and the major vector (where it leads) are used.</param>
public readonly record struct SheetCurve(int Entity, bool IsStraight, EllipseArc Arc)
{
    /// <summary>An arc of an ellipse.</summary>
    public static SheetCurve Of(in EllipseArc arc, int entity) => new(entity, false, arc);

    /// <summary>A line from a to b.</summary>
    public static SheetCurve Straight(PointXY a, PointXY b, int entity) => new(entity, true, new EllipseArc(a, new(b.X - a.X, b.Y - a.Y), default, 0, 0));

    /// <summary>Whether all its numbers can be drawn.</summary>
    public bool IsFinite => double.IsFinite(Arc.Centre.X + Arc.Centre.Y + Arc.Major.X + Arc.Major.Y + Arc.Minor.X + Arc.Minor.Y + Arc.Start + Arc.End);

    /// <summary>Points that hold it between them: the corners of the whole ellipse's frame, or a line's two ends.</summary>
    internal PointXY[] Box()
    {
        var (c, a, b) = (Arc.Centre, Arc.Major, Arc.Minor);
        return IsStraight
            ? [c, new(c.X + a.X, c.Y + a.Y)]
            : [new(c.X + a.X + b.X, c.Y + a.Y + b.Y), new(c.X + a.X - b.X, c.Y + a.Y - b.Y), new(c.X - a.X + b.X, c.Y - a.Y + b.Y), new(c.X - a.X - b.X, c.Y - a.Y - b.Y)];
    }

    /// <summary>Its image under an affine map.</summary>
    internal SheetCurve Mapped(Func<PointXY, PointXY> map, Func<PointXY, PointXY> vector, int entity) =>
        new(entity, IsStraight, new EllipseArc(map(Arc.Centre), vector(Arc.Major), vector(Arc.Minor), Arc.Start, Arc.End));
}

/// <summary>Units of length a drawing can be in.</summary>
public enum LengthUnit
{
    /// <summary>The file does not say.</summary>
    Unknown,

    /// <summary>Millimetres.</summary>
    Millimetre,

    /// <summary>Centimetres.</summary>
    Centimetre,

    /// <summary>Metres.</summary>
    Metre,

    /// <summary>Kilometres.</summary>
    Kilometre,

    /// <summary>Inches of 25.4 mm.</summary>
    Inch,

    /// <summary>Feet of 304.8 mm.</summary>
    Foot,

    /// <summary>Yards of 914.4 mm.</summary>
    Yard,

    /// <summary>Miles of 1609.344 m.</summary>
    Mile,

    /// <summary>Micrometres.</summary>
    Micrometre,
}
