using Froe.Core.Drawing;
using Xunit;
using static Froe.Formats.Tests.SmallDxf;

namespace Froe.Formats.Tests;

/// <summary>Islands and passages of colour in hatches, patterns on paper, columns of text and drawings far off; each worked by hand.</summary>
public class DxfFillTables
{
    private static string Square(double from, double to) =>
        FormattableString.Invariant($"92 3\n72 0\n73 1\n93 4\n10 {from}\n20 {from}\n10 {to}\n20 {from}\n10 {to}\n20 {to}\n10 {from}\n20 {to}\n97 0\n");

    private static string Nested(int style) => $"0 HATCH\n8 0\n62 1\n10 0\n20 0\n30 0\n210 0\n220 0\n230 1\n2 SOLID\n70 1\n71 0\n91 3\n{Square(0, 30)}{Square(5, 25)}{Square(10, 20)}75 {style}\n76 1\n98 0";

    [Theory]
    // Every second area: 900 - 400 + 100. The outermost only: 900 - 400. All within: 900.
    [InlineData(0, 600)]
    [InlineData(1, 500)]
    [InlineData(2, 900)]
    [InlineData(77, 600)]
    public void AHatchFillsWhatItsStyleSays(int style, double area) => Assert.Equal(area, Area(Sheet(Nested(style))), 3);

    [Fact]
    public void LoopsBesideEachOtherAreAllKept()
    {
        var hatch = $"0 HATCH\n8 0\n2 SOLID\n70 1\n91 3\n{Square(0, 10)}{Square(20, 30)}{Square(22, 24)}75 1\n98 0";
        Assert.Equal(100 + 100 - 4, Area(Sheet(hatch)), 3);
        // Which lies in which is a hatch's own affair: the same square twice lies in neither.
        Assert.Equal(0, Area(Sheet($"0 HATCH\n8 0\n2 SOLID\n70 1\n91 2\n{Square(0, 10)}{Square(0, 10)}75 1\n98 0")), 3);
    }

    private static string Passage(string name, string rest = "") =>
        $"0 HATCH\n8 0\n62 3\n2 SOLID\n70 1\n91 1\n{Square(0, 32)}75 0\n98 0\n450 1\n451 0\n460 0\n461 0\n452 0\n462 0\n453 2\n463 0\n63 5\n421 255\n463 1\n63 1\n421 16711680\n{rest}470 {name}";

    /// <summary>The colour on top at a place.</summary>
    private static int ColourAt(Sheet sheet, double x, double y)
    {
        var rgb = -1;
        for (var i = 0; i < sheet.TriangleEntity.Length; i++)
        {
            var corners = Enumerable.Range(0, 3).Select(c => new PointXY(sheet.Triangles[(6 * i) + (2 * c)] + sheet.Origin.X, sheet.Triangles[(6 * i) + (2 * c) + 1] + sheet.Origin.Y)).ToList();
            if (Filling.IsInside(new(x, y), corners)) rgb = sheet.Styles[sheet.EntityStyle[sheet.TriangleEntity[i]]].Rgb;
        }
        return rgb;
    }

    [Fact]
    public void ALinearPassageGoesFromTheFirstColourToTheSecond()
    {
        var sheet = Sheet(Passage("LINEAR"));
        // Thirty-two bands of one unit, each under all that come after: 32 · (32 + 31 + … + 1). The first is half a band from pure blue.
        Assert.Equal(32 * 528, Area(sheet), 2);
        Assert.Equal((0x0400FB, 0xFB0004), (ColourAt(sheet, 0.5, 7.7), ColourAt(sheet, 31.5, 7.7)));
        Assert.Equal((0x0400FB, 0xFB0004), (ColourAt(Sheet(Passage("INVLINEAR")), 31.5, 7.7), ColourAt(Sheet(Passage("INVLINEAR")), 0.5, 7.7)));
    }

    [Fact]
    public void ACylinderHasItsSecondColourInTheMiddleAndASphereToo()
    {
        var cylinder = Sheet(Passage("CYLINDER"));
        Assert.Equal((0x0800F7, 0xF70008, 0x0800F7), (ColourAt(cylinder, 0.5, 7.7), ColourAt(cylinder, 15.5, 7.7), ColourAt(cylinder, 31.5, 7.7)));
        var sphere = Sheet(Passage("SPHERICAL"));
        Assert.Equal((0x0000FF, 0xFB0004), (ColourAt(sphere, 0.05, 0.02), ColourAt(sphere, 16.1, 16.05)));
        Assert.True(ColourAt(sphere, 1, 16.1) is > 0 and < 0xFB0004);
    }

    [Fact]
    public void APassageOfOneColourGoesToItsTint()
    {
        var sheet = Sheet(Passage("LINEAR").Replace("452 0\n462 0", "452 1\n462 1", StringComparison.Ordinal));
        Assert.Equal((0x0404FF, 0xFBFBFF), (ColourAt(sheet, 0.5, 7.7), ColourAt(sheet, 31.5, 7.7)));
    }

    [Fact]
    public void APaleAreaStaysPaleAndAPaleLineStandsOut()
    {
        const string Pale = "8 0\n420 16777164\n";
        Assert.Equal(0xFFFFCC, Sheet($"0 HATCH\n{Pale}2 SOLID\n70 1\n91 1\n{Square(0, 10)}75 0\n98 0").Styles[0].Rgb);
        Assert.NotEqual(0xFFFFCC, Sheet($"0 LINE\n{Pale}10 0\n20 0\n11 5\n21 5").Styles[0].Rgb);
    }

    private static string Filled(string colour) => $"0 LINE\n8 0\n10 -5\n20 5\n11 15\n21 5\n0 HATCH\n8 F\n{colour}\n2 SOLID\n70 1\n91 1\n{Square(0, 10)}75 0\n98 0\n0 LINE\n8 0\n10 -5\n20 6\n11 15\n21 6";

    [Theory]
    [InlineData("62 3", "", true)]
    [InlineData("62 3\n440 33554687", "", true)]
    [InlineData("62 3\n440 33554559", "", false)]
    [InlineData("62 3", "1001 AcCmTransparency\n1071 33554559", false)]
    [InlineData("62 3\n440 33554687", "1001 AcCmTransparency\n1071 33554559", true)]
    [InlineData("62 3", "1001 OTHER\n1071 33554559", true)]
    public void AnAreaHidesWhatWasDrawnBeforeItUnlessItCanBeSeenThrough(string colour, string layer, bool hides)
    {
        var strokes = Strokes(Sheet(Filled(colour), tables: $"0 TABLE\n2 LAYER\n0 LAYER\n2 F\n70 0\n62 7\n{layer}\n0 ENDTAB"));
        Assert.Equal(hides ? [(-5, 5, 0, 5), (-5, 6, 15, 6), (10, 5, 15, 5)] : [(-5, 5, 15, 5), (-5, 6, 15, 6)], strokes.Order());
    }

    [Fact]
    public void TheOutlineOfAnAreaStaysAlsoWhereItIsRound()
    {
        const string Round = "0 CIRCLE\n8 0\n10 50\n20 50\n40 30\n0 HATCH\n8 0\n62 3\n2 SOLID\n70 1\n91 1\n92 1\n93 1\n72 2\n10 50\n20 50\n40 30\n50 7\n51 367\n73 1\n97 0\n75 0\n98 0";
        var length = Strokes(Sheet(Round)).Sum(s => Math.Sqrt(((s.X1 - s.X0) * (s.X1 - s.X0)) + ((s.Y1 - s.Y0) * (s.Y1 - s.Y0))));
        Assert.Equal(2 * Math.PI * 30, length, 0.2);
    }

    private const string Dashed = "0 TABLE\n2 LTYPE\n0 LTYPE\n2 DASH\n49 10\n49 -10\n0 ENDTAB";

    private static List<(double, double, double, double)> Viewed(string entities, string header) =>
        [.. Strokes(Read(FileOf(entities + "\n0 LINE\n67 1\n8 0\n10 0\n20 90\n11 100\n21 90\n0 VIEWPORT\n67 1\n8 0\n10 50\n20 50\n40 40\n41 40\n68 2\n69 2\n45 400\n12 0\n22 0", header, Dashed)).Sheets[0]).Where(s => s.Y0 != 90).Order()];

    [Fact]
    public void DashesInAViewAreAsLongOnPaperAsTheirTypeSays()
    {
        // The view is a tenth of the model; the line goes through it, from before its edge.
        const string Line = "0 LINE\n8 0\n6 DASH\n10 -300\n20 0\n11 150\n21 0";
        Assert.Equal([(30, 50, 40, 50), (50, 50, 60, 50)], Viewed(Line.Replace("-300", "-400", StringComparison.Ordinal), "9 $PSLTSCALE\n70 1"));
        Assert.Equal([(40, 50, 50, 50), (60, 50, 65, 50)], Viewed(Line, "9 $PSLTSCALE\n70 1"));
        // As the file does not say otherwise.
        Assert.Equal(2, Viewed(Line, "").Count);
        // Dashes of the model: 1 long on paper, from -200 to 150.
        var ofModel = Viewed(Line, "9 $PSLTSCALE\n70 0");
        Assert.Equal(18, ofModel.Count);
        Assert.Equal((30, 50, 31, 50), ofModel[0]);
    }

    [Fact]
    public void ADashedLineThatIsHiddenInPartStaysHidden()
    {
        const string Wipe = "0 WIPEOUT\n8 0\n10 -50\n20 -50\n11 100\n21 0\n12 0\n22 100\n13 1\n23 1\n14 -0.5\n24 -0.5\n14 0.5\n24 0.5";
        var drawn = Viewed($"0 LINE\n8 0\n6 DASH\n10 -300\n20 0\n11 150\n21 0\n{Wipe}", "");
        Assert.NotEmpty(drawn);
        Assert.DoesNotContain(drawn, s => s.Item3 > 45.01 && s.Item1 < 54.99);
    }

    private static string Columns(string words, string inside) =>
        $"0 MTEXT\n8 0\n10 0\n20 100\n30 0\n40 3\n41 20\n71 1\n72 5\n1 {words}\n7 STANDARD\n73 1\n44 1.0\n101 Embedded Object\n70 1\n10 1\n20 0\n30 0\n11 0\n21 100\n31 0\n40 20\n{inside}";

    [Fact]
    public void ATextStandsInItsColumns()
    {
        // Letters of 3 on a pitch of 5: two lines (3 + 5) in a height of 9.
        var texts = Sheet(Columns(@"A\PB\PC\PD\PE", "41 9\n42 45\n43 9\n71 1\n72 2\n44 20\n45 5\n73 0\n74 0")).Texts;
        Assert.Equal([("A", 0, 97), ("B", 0, 92), ("C", 25, 97), ("D", 25, 92), ("E", 50, 97)], texts.Select(t => (t.Text, Math.Round(t.At.X, 3), Math.Round(t.At.Y, 3))));
        // Each of its own height, and a break where the text says so.
        texts = Sheet(Columns(@"A\NB\PC\PD", "41 0\n42 45\n43 9\n71 2\n72 2\n44 20\n45 5\n73 0\n74 0\n46 20\n46 9")).Texts;
        Assert.Equal([("A", 0.0, 97.0), ("B", 25, 97), ("C", 25, 92), ("D", 50, 97)], texts.Select(t => (t.Text, Math.Round(t.At.X, 3), Math.Round(t.At.Y, 3))));
        // From the right.
        texts = Sheet(Columns(@"A\NB", "41 9\n71 1\n72 2\n44 20\n45 5\n73 1\n74 1")).Texts;
        Assert.Equal([("A", 25.0), ("B", 0)], texts.Select(t => (t.Text, Math.Round(t.At.X, 3))));
    }

    [Fact]
    public void ColumnsInABlockStandInEveryInsertionOfIt()
    {
        var block = "0 BLOCK\n8 0\n2 B\n10 0\n20 0\n" + Columns(@"A\PB\PC", "41 9\n71 1\n72 2\n44 20\n45 5\n73 0\n74 0") + "\n0 ENDBLK";
        var texts = Sheet("0 INSERT\n8 0\n2 B\n10 0\n20 0\n0 INSERT\n8 0\n2 B\n10 200\n20 0", blocks: block).Texts;
        Assert.Equal([0.0, 0, 25, 200, 200, 225], texts.Select(t => Math.Round(t.At.X, 3)));
    }

    [Fact]
    public void ADrawingFarOffKeepsAMicrometreBesideAPointAtTheOrigin()
    {
        // A site of some metres in millimetres of its country's net, and a point that somebody left.
        var lines = string.Concat(Enumerable.Range(0, 40).Select(i => FormattableString.Invariant($"0 LINE\n8 0\n10 {3_500_000_000 + (i * 100) + 0.123}\n20 5_400_000_000\n11 {3_500_000_000 + (i * 100) + 50.123}\n21 5400000000.456\n").Replace("_", "", StringComparison.Ordinal)));
        var sheet = Sheet(lines + "0 POINT\n8 0\n10 0\n20 0");
        var worst = 0.0;
        foreach (var c in sheet.Segments.Chunk(4).Where(c => c[0] + sheet.Origin.X > 1e9))
        {
            double x = c[0] + sheet.Origin.X - 3_500_000_000, y = c[3] + sheet.Origin.Y - 5_400_000_000;
            worst = Math.Max(worst, Math.Max(Math.Abs((x % 100) - 0.123), Math.Abs(y - 0.456)));
        }
        Assert.True(worst < 1e-3, $"{worst} mm off");
        // The point is where it was left, as well as it can be told from so far.
        Assert.Contains(Strokes(sheet), s => Math.Abs(s.X0) < 1000 && Math.Abs(s.Y0) < 1000);
    }
}
