using System.Text.Json;
using System.Text.Json.Serialization;
using Froe.Core.Draft;
using Froe.Core.Drawing;
using Froe.Core.Overlays;
using Froe.Core.Routing;
using Xunit;

namespace Froe.Core.Tests;

/// <summary>What the pages work out as well: both read the same cases (tests/cases; tests/pages has the other half).</summary>
public class SharedCases
{
    private static readonly string Folder = Path.Combine(AppContext.BaseDirectory[..AppContext.BaseDirectory.IndexOf("Froe.Core.Tests", StringComparison.Ordinal)], "cases");

    private static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web) { Converters = { new JsonStringEnumConverter(JsonNamingPolicy.CamelCase) }, WriteIndented = true };

    private sealed record EyeOf(double[] Target, double Turn, double Tilt, double Height, bool IsPerspective);

    private sealed record EyeCase(string Says, EyeOf Eye, double[] Point, double X, double Y, double NearerThanTarget);

    [Fact]
    public void EyesSeeAlike()
    {
        var cases = JsonSerializer.Deserialize<EyeCase[]>(File.ReadAllText(Path.Combine(Folder, "eyes.json")), Json)!;
        Assert.NotEmpty(cases);
        foreach (var (says, eye, point, x, y, nearer) in cases)
        {
            var from = new Models.SceneEye(new(eye.Target[0], eye.Target[1], eye.Target[2]), eye.Turn, eye.Tilt, eye.Height, eye.IsPerspective);
            var (at, away) = from.Place(new(point[0], point[1], point[2]));
            Assert.True(Math.Abs(at.X - x) < 1e-9 && Math.Abs(at.Y - y) < 1e-9 && Math.Abs(from.Distance() - away - nearer) < 1e-9, $"{says}: {at}, {from.Distance() - away} nearer");
        }
    }

    private sealed record PlanCase(string Says, Plan Plan, string[] Steps, Dictionary<string, string[]> SurelyBefore);

    [Fact]
    public void PlansAreReadAlike()
    {
        foreach (var one in JsonSerializer.Deserialize<PlanCase[]>(File.ReadAllText(Path.Combine(Folder, "plans.json")), Json)!)
        {
            Assert.Equal((one.Says, string.Join(' ', one.Steps)), (one.Says, string.Join(' ', one.Plan.Steps().Select(s => s.Key))));
            foreach (var (at, before) in one.SurelyBefore)
                Assert.Equal((one.Says, at, string.Join(' ', before)), (one.Says, at, string.Join(' ', one.Plan.Steps().Select(s => s.Key).Where(k => PlanShape.SurelyBefore(one.Plan, k, at)))));
        }
    }

    /// <summary>A sheet with a line, a circle, a dashed line, a filled triangle and words, on two layers.</summary>
    private static Sheet Sample()
    {
        var builder = new SheetBuilder { Tolerance = 0.1 };
        builder.Begin(new EntityLook(0x2A, 0, 0, 25, [], "LINE"));
        builder.Line(new(0, 0), new(100, 50));
        builder.Begin(new EntityLook(0x2B, 1, 0xFF0000, 50, [], "CIRCLE"));
        builder.Arc(new EllipseArc(new(50, 25), new(10, 0), new(0, 10), 0, 2 * Math.PI));
        builder.Begin(new EntityLook(0x2C, 1, 0, 13, [6, -2], "LINE"));
        builder.Line(new(0, 10), new(20, 10));
        builder.Begin(new EntityLook(0x2D, 0, 0, 25, [], "SOLID"));
        builder.Triangle(new(80, 0), new(90, 0), new(80, 10));
        builder.Begin(new EntityLook(0x2E, 0, 0, 25, [], "TEXT"));
        builder.Text(new TextRun("Ø 20", new(60, 40), new(3, 0), new(0, 3), 0, 0, 0));
        return builder.Build("Model", LengthUnit.Millimetre, [new Layer("0", true, 0), new Layer("Centre", false, 0xFF0000)]);
    }

    private sealed record SheetCase(string Geometry, string Details);

    /// <summary>The prepared forms are to the byte what the pages are tested to read; a new layout is a new version and a new case (FROE_WRITE_CASES=1).</summary>
    [Fact]
    public void APreparedSheetIsWhatThePagesRead()
    {
        static string Written(Action<Stream> write)
        {
            using var to = new MemoryStream();
            write(to);
            return Convert.ToBase64String(to.ToArray());
        }
        var sheet = Sample();
        var now = new SheetCase(Written(to => PreparedSheet.WriteGeometry(sheet, to)), Written(to => PreparedSheet.WriteDetails(sheet, to)));
        var file = Path.Combine(Folder, "sheet.json");
        if (Environment.GetEnvironmentVariable("FROE_WRITE_CASES") == "1") File.WriteAllText(file, JsonSerializer.Serialize(now, Json) + "\n");
        Assert.Equal(JsonSerializer.Deserialize<SheetCase>(File.ReadAllText(file), Json), now);
    }

    private sealed record ShapeCase(string Says, Shape Shape, double Detail, double[][] Lines, OutlineFill Fill, PointXY Label, PointXY Anchor, OutlineWords? Words);

    /// <summary>A shape is drawn by the page as it is drawn here (FROE_WRITE_CASES=1 writes the cases anew).</summary>
    [Fact]
    public void ShapesAreDrawnAlike()
    {
        ShapeCase Case(string says, Shape shape, double detail)
        {
            var outline = shape.Outline(detail);
            return new(says, shape, detail, [.. outline.Lines.Select(l => l.SelectMany(p => new[] { p.X, p.Y }).ToArray())], outline.Fill, outline.Label, outline.Anchor, outline.Words);
        }
        ShapeCase[] now =
        [
            Case("a cloud drawn downwards", new Cloud(new(10, 40), new(60, 10)), 16),
            Case("a cloud drawn from the other corner, far off, with large scallops", new Cloud(new(-100_060.5, 20_010), new(-100_010, 20_040.25)), 31),
            Case("a cloud smaller than a scallop", new Cloud(new(0, 0), new(1, 2)), 16),
            Case("an arrow up", new Arrow(new(1, 1), new(5, 9)), 11),
            Case("an arrow to the left", new Arrow(new(5, 5), new(-40, 5)), 3),
            Case("a cloud round a corner, points going round clockwise", new CloudPath([new(0, 0), new(0, 40), new(80, 40), new(80, 30), new(10, 30), new(10, 0)]), 7),
            Case("the same cloud, points going round the other way", new CloudPath([new(10, 0), new(10, 30), new(80, 30), new(80, 40), new(0, 40), new(0, 0)]), 7),
            Case("a box", new Box(new(40, 10), new(-5, 30)), 1),
            Case("an ellipse drawn upwards", new Ellipse(new(1000, 10), new(1100, 42)), 1),
            Case("a highlight", new Highlight(new(1, 2), new(3, 9)), 1),
            Case("a line", new Line(new(1, 2), new(-3, 9)), 1),
            Case("a strike that falls", new Strike(new(10, 40), new(60, 5)), 6),
            Case("a line through points", new Polyline([new(1, 2), new(4, 4), new(4, 8), new(-2, 8)]), 1),
            Case("what a hand drew", new Freehand([new(0, 0), new(4, 4), new(9, 3), new(12, -6), new(20, 0)]), 1),
            Case("two points by hand", new Freehand([new(0, 0), new(4, 4)]), 1),
            Case("words", new WrittenWords(new(12, 30), "Is this\nthe new one?", 3.5), 1),
            Case("a picture that was put there", new PastedPicture(new(60, 10), new(20, 40), new string('a', 64)), 1),
            Case("words broken at a width", new WrittenWords(new(12, 30), "The bore is to be 62 H7, as on\nthe sheet before; see Kettenradabdeckungsbefestigung.", 3.5, 41), 1),
            Case("words on lines of one letter", new WrittenWords(new(12, 30), "a𝛼 b", 3.5, 1), 1),
            Case("a leader to the right", new Leader(new(10, 10), new(40, 30), "M10, not M8", 2.5), 11),
            Case("a leader to the left", new Leader(new(10, 10), new(-40, 30), "M10,\nnot M8", 2.5), 11),
            Case("a dimension above its points", new Dimension(new(10, 10), new(60, 10), 12, 50, "2500", 3.5), 6),
            Case("a slanting dimension, its line to the right of its way", new Dimension(new(10, 10), new(40, 50), -8, null, "", 3.5), 6),
            Case("an area with a bay, far from the origin", new Area([new(1_000_000, 500), new(1_000_040, 500), new(1_000_040, 530), new(1_000_020, 510), new(1_000_000, 530)], 20, 3.5), 1),
            Case("an angle to the left", new Angle(new(40, 10), new(20, 50), new(10, 10), 3.5), 1),
            Case("an angle to the right, over the half turn", new Angle(new(-30, 12), new(-30, 8), new(10, 10), 3.5), 1),
            Case("a length along a path", new PathLength([new(1, 2), new(4, 4), new(4, 8), new(-2, 8)], 20, 3.5), 1),
            Case("where a point lies", new Coordinate(new(40, -50), new(10, 10), null, 3.5), 14),
            Case("a radius", new Radius(new(10, 10), new(40, 50), null, 3.5), 11),
            Case("a stamp of two lines", new Stamp(new(100, 200), "SEEN\nMaren Aas, 27 November 2026", 3.5), 1),
            Case("a count of one digit", new Count(new(10, 20), 7, 3.5), 1),
            Case("a count of three digits", new Count(new(-10, 20), 128, 2), 1),
            Case("a range of cells", new CellRange(new(1, 11), new(3, 13)), 1),
        ];
        var file = Path.Combine(Folder, "shapes.json");
        if (Environment.GetEnvironmentVariable("FROE_WRITE_CASES") == "1") File.WriteAllText(file, JsonSerializer.Serialize(now, Json) + "\n");
        var kept = JsonSerializer.Deserialize<ShapeCase[]>(File.ReadAllText(file), Json)!;
        foreach (var (was, drawn) in kept.Zip(now))
        {
            Assert.Equal((was.Says, was.Shape, was.Fill), (drawn.Says, drawn.Shape, drawn.Fill));
            Near(was.Label, drawn.Label);
            Near(was.Anchor, drawn.Anchor);
            Assert.Equal((was.Words?.Text, was.Words?.EndsThere, was.Words?.Height), (drawn.Words?.Text, drawn.Words?.EndsThere, drawn.Words?.Height));
            if (was.Words is { } words) Near(words.At, drawn.Words!.At);
            Assert.All(was.Lines.Zip(drawn.Lines), l => Assert.All(l.First.Zip(l.Second), x => Assert.Equal(x.First, x.Second, 9)));
        }
        Assert.Equal(kept.Select(k => k.Lines.Select(l => l.Length)), now.Select(k => k.Lines.Select(l => l.Length)));

        static void Near(PointXY a, PointXY b)
        {
            Assert.Equal(a.X, b.X, 9);
            Assert.Equal(a.Y, b.Y, 9);
        }
    }

    private sealed record MeasureCase(string Says, Shape Shape, LengthUnit Unit, SheetScale[] Scales, double? Fineness, string Note, string? Words);

    /// <summary>A kept measure says on the page what it says here (FROE_WRITE_CASES=1 writes the cases anew).</summary>
    [Fact]
    public void MeasuresAreSaidAlike()
    {
        SheetScale[] fifty = [new(50)], regions = [new(2, new Extents(0, 0, 100, 100)), new(50)];
        (string Says, Shape Shape, LengthUnit Unit, SheetScale[] Scales)[] exact =
        [
            ("a length by the scale it was measured with", new Dimension(new(10, 10), new(60, 10), 12, 50, "", 3.5), LengthUnit.Millimetre, fifty),
            ("a length with what is asked for", new Dimension(new(10, 10), new(60, 10), 12, 50, "2510 ±2", 3.5), LengthUnit.Millimetre, fifty),
            .. new[] { "2500 ±0.5", "Ø 2499 +1/0", "2500 +0,2/-0,1", "2490 +2 -1", "max 2499.5", "≥ 2500", "2501 min.", "2500 h9", "R2500 −3/−1", "2500mm +/- 1 mm", "0.5 ±.1" }
                .Select(w => ($"a length within bounds or not: {w}", (Shape)new Dimension(new(10, 10), new(60, 10), 12, 50, w, 3.5), LengthUnit.Millimetre, fifty)),
            .. new[] { "62 H7", "Ø62h6", "62 g6", "62 JS9", "62 K8", "62 P7", "62 N9", "62 m6", "62 H99", "62 H4", "62 K9" }
                .Select(w => ($"a length within the limits of its class or not: {w}", (Shape)new Dimension(new(10, 10), new(72.02, 10), 12, 1, w, 3.5), LengthUnit.Millimetre, new SheetScale[] { new(1) })),
            ("bounds without a scale", new Dimension(new(10, 10), new(60, 10), 12, null, "40 ±1", 3.5), LengthUnit.Millimetre, []),
            ("a length whose scale is another now", new Dimension(new(10, 10), new(60, 10), 12, 20, "", 3.5), LengthUnit.Millimetre, fifty),
            ("a length without a scale", new Dimension(new(0, 0), new(1.0 / 3, 0), 0, null, "", 3.5), LengthUnit.Inch, []),
            ("a length in no unit", new Dimension(new(0, 0), new(100, 0), 0, null, "", 3.5), LengthUnit.Unknown, []),
            ("a long length", new Dimension(new(0, 0), new(12_345.678, 0), 0, 1, "", 3.5), LengthUnit.Millimetre, [new(1)]),
            ("in the smaller of two areas", new Dimension(new(10, 10), new(60.125, 10), 12, 2, "", 3.5), LengthUnit.Millimetre, regions),
            ("beside it", new Dimension(new(110, 10), new(160, 10), 12, 2, "", 3.5), LengthUnit.Millimetre, regions),
            ("an area above a square metre", new Area([new(0, 0), new(100, 0), new(100, 50), new(0, 50)], 50, 3.5), LengthUnit.Millimetre, fifty),
            ("a small area, its scale unknown by then", new Area([new(0, 0), new(10, 0), new(10, 1.2345), new(0, 1.2345)], null, 3.5), LengthUnit.Millimetre, [new(1)]),
            ("an angle", new Angle(new(40, 10), new(20, 50), new(10, 10), 3.5), LengthUnit.Millimetre, fifty),
            ("an angle to the other side", new Angle(new(20, 50), new(40, 10), new(10, 10), 3.5), LengthUnit.Millimetre, fifty),
            ("a radius", new Radius(new(10, 10), new(40, 50), null, 3.5), LengthUnit.Centimetre, []),
            ("a length along a path, its scale said anew", new PathLength([new(0, 0), new(3, 4), new(3, 14)], 20, 3.5), LengthUnit.Millimetre, fifty),
            ("where a point lies, left of the origin and below", new Coordinate(new(10, 10), new(60.5, 12.25), 50, 3.5), LengthUnit.Millimetre, fifty),
            ("where a point lies, without a scale", new Coordinate(new(10, 10), new(0, 0), null, 3.5), LengthUnit.Millimetre, []),
            ("a box measures nothing", new Box(new(0, 0), new(1, 1)), LengthUnit.Millimetre, fifty),
        ];
        (string Says, Shape Shape, LengthUnit Unit, SheetScale[] Scales, double? Fineness, string Note)[] measures =
        [
            .. exact.Select(m => (m.Says, m.Shape, m.Unit, m.Scales, (double?)null, "")),
            .. new[] { "Must be 50 ±0.1 here.", "Grow it to Ø 50,2 H7, please", "(max 49.9)", "See 12 and 13.", "Between 2 and 3 mm" }
                .Select(n => ($"a length that a note asks for or not: {n}", (Shape)new Dimension(new(10, 10), new(60, 10), 12, 1, "", 3.5), LengthUnit.Millimetre, new SheetScale[] { new(1) }, (double?)null, n)),
            ("what the length itself asks for comes first", new Dimension(new(10, 10), new(60, 10), 12, 1, "51 ±0.1", 3.5), LengthUnit.Millimetre, [new(1)], null, "50 ±0.1"),
            ("a length on a scan of 300 dots an inch", new Dimension(new(10, 10), new(60.1234, 10), 12, 10, "501 ±1", 3.5), LengthUnit.Millimetre, [new(10)], 25.4 / 300, ""),
            ("a length on a page whose numbers have two digits", new Dimension(new(10, 10), new(60.1234, 10), 12, 1, "", 3.5), LengthUnit.Millimetre, [new(1)], 0.02, ""),
            ("a length on a page that is finer than it is said", new Dimension(new(10, 10), new(60.1234, 10), 12, 1, "", 3.5), LengthUnit.Millimetre, [new(1)], 0.0005, ""),
            ("a length on a scan of no known size", new Dimension(new(0, 0), new(100.4, 0), 0, null, "", 3.5), LengthUnit.Unknown, [], 1, ""),
            ("a length on a coarse scan, its scale said anew", new Dimension(new(0, 0), new(100.4, 0), 0, 20, "", 3.5), LengthUnit.Millimetre, fifty, 0.254, ""),
            ("a circle on a scan", new Radius(new(10, 10), new(40, 50), 1, 3.5), LengthUnit.Millimetre, [new(1)], 0.0847, ""),
            ("a path on a scan: each of its sides may be off", new PathLength([new(0, 0), new(3, 4), new(3, 14)], 1, 3.5), LengthUnit.Millimetre, [new(1)], 0.0847, ""),
            ("where a point lies on a scan", new Coordinate(new(10, 10), new(60.5, 12.25), 1, 3.5), LengthUnit.Millimetre, [new(1)], 0.0847, ""),
        ];
        var now = measures.Select(m => new MeasureCase(m.Says, m.Shape, m.Unit, m.Scales, m.Fineness, m.Note, Measured.Words(m.Shape, m.Scales, m.Unit, m.Fineness, m.Note))).ToArray();
        var file = Path.Combine(Folder, "measures.json");
        if (Environment.GetEnvironmentVariable("FROE_WRITE_CASES") == "1") File.WriteAllText(file, JsonSerializer.Serialize(now, Json) + "\n");
        Assert.Equal(JsonSerializer.Deserialize<MeasureCase[]>(File.ReadAllText(file), Json)!.Select(c => (c.Says, c.Words)), now.Select(c => (c.Says, c.Words)));
    }

    private sealed record RangeCase(int Left, int Top, int Right, int Bottom, int Rows, int Columns, string Words);

    /// <summary>A range of cells is called by the page as it is called here (FROE_WRITE_CASES=1 writes the cases anew).</summary>
    [Fact]
    public void RangesAreCalledAlike()
    {
        (int Left, int Top, int Right, int Bottom, int Rows, int Columns)[] ranges =
        [
            (1, 11, 1, 11, 20, 5), (1, 11, 3, 13, 20, 5), (0, 11, 4, 13, 20, 5), (0, 4, 4, 4, 20, 5), (1, 0, 2, 19, 20, 5), (3, 0, 3, 19, 20, 5), (0, 0, 4, 19, 20, 5),
            (0, 0, 0, 0, 1, 1), (0, 2, 0, 2, 9, 1), (2, 0, 2, 0, 1, 9), (0, 0, 0, 8, 9, 1), (25, 0, 26, 1, 900, 16_384), (701, 4, 16_383, 4, 900, 16_384),
        ];
        var now = ranges.Select(r => new RangeCase(r.Left, r.Top, r.Right, r.Bottom, r.Rows, r.Columns, new CellRange(new(r.Left, r.Top), new(r.Right, r.Bottom)).Words(new TableFrame(r.Rows, r.Columns)))).ToArray();
        var file = Path.Combine(Folder, "ranges.json");
        if (Environment.GetEnvironmentVariable("FROE_WRITE_CASES") == "1") File.WriteAllText(file, JsonSerializer.Serialize(now, Json) + "\n");
        Assert.Equal(JsonSerializer.Deserialize<RangeCase[]>(File.ReadAllText(file), Json), now);
    }
}
