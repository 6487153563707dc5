using Xunit;
using static Froe.Formats.Tests.SmallDxf;

namespace Froe.Formats.Tests;

/// <summary>Curves, polylines of every kind, filled shapes and hatch outlines, each worked by hand.</summary>
public class CurveTables
{
    private static string Vertices(params string[] vertices) => string.Concat(vertices.Select(v => $"0 VERTEX\n8 0\n{v}\n")) + "0 SEQEND\n";

    private static string At(double x, double y) => FormattableString.Invariant($"10 {x}\n20 {y}");

    [Fact]
    public void AnOldPolylineTurnsItsBulgesLeftAndLeavesOutTheFrameOfAFittedCurve()
    {
        var s = Sheet("0 POLYLINE\n8 0\n66 1\n70 4\n" + Vertices($"{At(0, 0)}\n42 1", $"{At(3, 99)}\n70 16", At(10, 0)));
        // Half a circle about (5, 0), counter-clockwise from left to right: below. The frame's vertex at y = 99 is not part of it.
        Assert.Equal((-5, 0), (Math.Round(s.Extents.MinY, 2), Math.Round(s.Extents.MaxY, 2)));
        Assert.All(Strokes(s), k => Assert.Equal(5, Math.Sqrt(((k.X0 - 5) * (k.X0 - 5)) + (k.Y0 * k.Y0)), 2));
    }

    [Fact]
    public void APolylineInSpaceIsSeenFromAbove()
    {
        var s = Sheet("0 POLYLINE\n8 0\n66 1\n70 9\n" + Vertices($"{At(0, 0)}\n30 7\n42 1", $"{At(4, 0)}\n30 -7", $"{At(4, 3)}\n30 0"));
        Assert.Equal([(0, 0, 4, 0), (4, 0, 4, 3), (4, 3, 0, 0)], Strokes(s));
    }

    [Theory]
    [InlineData(16, 4)] // open both ways: two rows of one stroke, two columns of one
    [InlineData(17, 6)] // closed down the columns: two strokes more
    [InlineData(48, 6)] // closed along the rows
    [InlineData(49, 8)]
    public void AMeshIsDrawnAlongItsRowsAndColumns(int flags, int strokes)
    {
        var s = Sheet($"0 POLYLINE\n8 0\n66 1\n70 {flags}\n71 2\n72 2\n" + Vertices(At(0, 0), At(1, 0), At(0, 1), At(1, 1)));
        Assert.Equal(strokes, Strokes(s).Count);
        Assert.Contains((0, 0, 1, 0), Strokes(s));
        Assert.Contains((1, 0, 1, 1), Strokes(s));
    }

    [Fact]
    public void AMeshThatNamesMoreVerticesThanItHasIsReported()
    {
        var d = Read(FileOf("0 POLYLINE\n8 0\n66 1\n70 16\n71 200\n72 300\n" + Vertices(At(0, 0), At(1, 0))));
        Assert.Equal(("POLYLINE", 1), (d.NotShown.Single().Type, d.NotShown.Single().Count));
    }

    [Fact]
    public void AFaceOfMeshHidesTheEdgesItSaysTo()
    {
        var s = Sheet("0 POLYLINE\n8 0\n66 1\n70 64\n71 3\n72 1\n" + Vertices($"{At(0, 0)}\n70 192", $"{At(4, 0)}\n70 192", $"{At(4, 3)}\n70 192", $"{At(0, 0)}\n70 128\n71 1\n72 -2\n73 3"));
        // From the second corner to the third the edge is hidden.
        Assert.Equal([(0, 0, 4, 0), (4, 3, 0, 0)], Strokes(s));
    }

    [Fact]
    public void AWeightedSplineIsTheCircleItStandsFor()
    {
        var s = Sheet($"0 SPLINE\n8 0\n70 4\n71 2\n72 6\n73 3\n40 0\n40 0\n40 0\n40 1\n40 1\n40 1\n41 1\n41 0.70710678118654757\n41 1\n{At(1, 0)}\n{At(1, 1)}\n{At(0, 1)}");
        var strokes = Strokes(s);
        Assert.Equal(((1, 0), (0, 1)), ((strokes[0].X0, strokes[0].Y0), (strokes[^1].X1, strokes[^1].Y1)));
        Assert.All(strokes, k => Assert.Equal(1, Math.Sqrt((k.X0 * k.X0) + (k.Y0 * k.Y0)), 2));
    }

    [Fact]
    public void ASplineWithoutControlPointsRunsThroughItsFitPointsAndOneWithNeitherIsReported()
    {
        var d = Read(FileOf("0 SPLINE\n8 0\n70 1\n71 3\n74 3\n11 0\n21 0\n11 4\n21 0\n11 4\n21 3\n0 SPLINE\n8 0\n71 3\n40 0\n40 1\n10 0\n20 0"));
        var strokes = Strokes(d.Sheets[0]);
        Assert.Equal(((0, 0), (0, 0)), ((strokes[0].X0, strokes[0].Y0), (strokes[^1].X1, strokes[^1].Y1)));
        Assert.Contains(strokes, k => (k.X1, k.Y1) == (4, 0));
        Assert.Contains(strokes, k => (k.X1, k.Y1) == (4, 3));
        Assert.True(strokes.Count > 10);
        Assert.Equal("SPLINE", d.NotShown.Single().Type);
    }

    [Theory]
    [InlineData("", 5)]
    [InlineData("210 0\n220 0\n230 -1\n", -5)] // turned over, its minor axis points the other way
    public void AQuarterOfAnEllipseEndsOnItsMinorAxis(string extrusion, double y)
    {
        var strokes = Strokes(Sheet($"0 ELLIPSE\n8 0\n{At(0, 0)}\n11 10\n21 0\n{extrusion}40 0.5\n41 0\n42 1.5707963267948966"));
        Assert.Equal(((10, 0), (0, y)), ((strokes[0].X0, strokes[0].Y0), (strokes[^1].X1, strokes[^1].Y1)));
    }

    [Fact]
    public void AnArcThatEndsBeforeItBeginsRunsThroughZero()
    {
        var s = Sheet($"0 ARC\n8 0\n{At(0, 0)}\n40 2\n50 270\n51 90");
        Assert.Equal((0, 2), (Math.Round(s.Extents.MinX, 3), Math.Round(s.Extents.MaxX, 3)));
    }

    [Fact]
    public void WideStretchesAreFilledAndTaperAsTheySay()
    {
        var band = Sheet($"0 LWPOLYLINE\n8 0\n90 2\n70 0\n43 2\n{At(0, 0)}\n{At(10, 0)}");
        Assert.Empty(band.Segments);
        Assert.Equal(20, Area(band), 3);
        Assert.Equal((-1, 1), (band.Extents.MinY, band.Extents.MaxY));
        var head = Sheet($"0 LWPOLYLINE\n8 0\n90 2\n70 0\n{At(0, 0)}\n40 2\n41 0\n{At(10, 0)}");
        Assert.Equal(10, Area(head), 3);
        // Half a ring round (0, 0), radii 4 and 6.
        var ring = Sheet($"0 LWPOLYLINE\n8 0\n90 2\n70 0\n43 2\n{At(5, 0)}\n42 1\n{At(-5, 0)}");
        Assert.Equal(Math.PI * (36 - 16) / 2, Area(ring), 1);
    }

    [Fact]
    public void ASolidGivesItsLastCornersCrosswiseAndAFaceInTurn()
    {
        const string Corners = "10 0\n20 0\n11 10\n21 0\n12 0\n22 5\n13 10\n23 5";
        Assert.Equal(50, Area(Sheet($"0 SOLID\n8 0\n{Corners}")), 3);
        Assert.Equal(50, Area(Sheet($"0 TRACE\n8 0\n{Corners}")), 3);
        Assert.Equal(25, Area(Sheet("0 SOLID\n8 0\n10 0\n20 0\n11 10\n21 0\n12 0\n22 5")), 3);
        Assert.Equal([(0, 0, 10, 0), (10, 0, 0, 5), (0, 5, 10, 5), (10, 5, 0, 0)], Strokes(Sheet($"0 3DFACE\n8 0\n{Corners}")));
    }

    [Fact]
    public void ALeaderHasAnArrowHeadUnlessItSaysNot()
    {
        var s = Sheet($"0 LEADER\n8 0\n71 1\n{At(0, 0)}\n{At(80, 0)}\n{At(80, 20)}");
        Assert.Equal([(0, 0, 80, 0), (80, 0, 80, 20)], Strokes(s));
        // As long as the usual style has it, 2.5, and a third of that wide.
        Assert.Equal(2.5 * (2.5 / 3) / 2, Area(s), 3);
        Assert.Empty(Sheet($"0 LEADER\n8 0\n71 0\n{At(0, 0)}\n{At(80, 0)}").Triangles);
    }

    private static string Filled(string boundary, int loops = 1) => $"0 HATCH\n8 0\n10 0\n20 0\n230 1\n2 SOLID\n70 1\n71 0\n91 {loops}\n{boundary}\n75 0\n76 1\n98 0";

    private static string Square(double from, double to) => $"92 2\n72 0\n73 1\n93 4\n{At(from, from)}\n{At(to, from)}\n{At(to, to)}\n{At(from, to)}\n97 0\n";

    private static readonly string Clockwise = $"92 1\n93 2\n72 1\n{At(5, 0)}\n11 -5\n21 0\n72 2\n{At(0, 0)}\n40 5\n50 180\n51 360\n73 0\n97 0";

    public static TheoryData<string, string, double> Outlines => new()
    {
        { "lines and a half circle", $"92 1\n93 2\n72 1\n{At(-5, 0)}\n11 5\n21 0\n72 2\n{At(0, 0)}\n40 5\n50 0\n51 180\n73 1\n97 0", Math.PI * 25 / 2 },
        { "a half circle counted clockwise", Clockwise, Math.PI * 25 / 2 },
        { "an ellipse", $"92 1\n93 1\n72 3\n{At(0, 0)}\n11 10\n21 0\n40 0.5\n50 0\n51 360\n73 1\n97 0", Math.PI * 50 },
        { "a spline of straight pieces", $"92 1\n93 1\n72 4\n94 1\n73 0\n74 0\n95 6\n96 4\n40 0\n40 0\n40 1\n40 2\n40 3\n40 3\n{At(0, 0)}\n{At(10, 0)}\n{At(0, 10)}\n{At(0, 0)}\n97 0", 50 },
        { "two bulges", $"92 2\n72 1\n73 1\n93 2\n{At(0, 0)}\n42 1\n{At(10, 0)}\n42 1\n97 0", Math.PI * 25 },
    };

    [Theory]
    [MemberData(nameof(Outlines))]
    public void AHatchFillsWhatItsOutlineHolds(string outline, string boundary, double area) =>
        Assert.True(Math.Abs(Area(Sheet(Filled(boundary))) - area) < area / 200, $"{outline}: {Area(Sheet(Filled(boundary)))} for {area}");

    [Fact]
    public void AHatchLeavesItsIslandsFree() => Assert.Equal(100 - 16, Area(Sheet(Filled(Square(0, 10) + Square(3, 7), loops: 2))), 3);

    [Fact]
    public void AClockwiseHalfCircleLiesOnTheSideItRunsThrough()
    {
        var s = Sheet(Filled(Clockwise));
        Assert.Equal((0, 5), (Math.Round(s.Extents.MinY, 3), Math.Round(s.Extents.MaxY, 3)));
    }

    private static string Lined(string families) => $"0 HATCH\n8 0\n10 0\n20 0\n2 PATTERN\n70 0\n71 0\n91 1\n{Square(0, 10)}75 0\n76 1\n52 0\n41 1\n77 0\n{families}\n98 0";

    [Fact]
    public void AHatchOfDashesDrawsEachDashOnce()
    {
        // Ten lines, one unit apart; along each a unit drawn, a unit left.
        var strokes = Strokes(Sheet(Lined("78 1\n53 0\n43 0\n44 0.5\n45 0\n46 1\n79 2\n49 1\n49 -1")));
        Assert.Equal(50, strokes.Count);
        Assert.All(strokes, k => Assert.Equal(1, k.X1 - k.X0, 2));
        // Two families cross.
        var crossed = Strokes(Sheet(Lined("78 2\n53 0\n43 0\n44 0.5\n45 0\n46 1\n79 0\n53 90\n43 0.5\n44 0\n45 -1\n46 0\n79 0")));
        Assert.Equal((10, 10), (crossed.Count(k => k.Y0 == k.Y1), crossed.Count(k => k.X0 == k.X1)));
    }

    [Fact]
    public void AHatchTooFineToDrawShowsItsOutlineAndIsReported()
    {
        var d = Read(FileOf(Lined("78 1\n53 0\n43 0\n44 0\n45 0\n46 0.0000001\n79 0")));
        Assert.Equal(4, Strokes(d.Sheets[0]).Count);
        Assert.Equal("HATCH", d.NotShown.Single().Type);
    }
}
