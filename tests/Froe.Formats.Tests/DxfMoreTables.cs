using Froe.Core.Drawing;
using Xunit;
using static Froe.Formats.Tests.SmallDxf;

namespace Froe.Formats.Tests;

/// <summary>Entities that only some programs write, each in a file of a few lines; places worked by hand.</summary>
public class DxfMoreTables
{
    private const string Frame = "0 LINE\n8 0\n10 0\n20 0\n11 100\n21 0\n0 LINE\n8 0\n10 0\n20 0\n11 0\n21 100\n";

    [Fact]
    public void ALineWithoutEndCrossesTheDrawingAndALittleMore()
    {
        // The drawing's diagonal is 141.4, so lines go 7.07 beyond it.
        var line = Strokes(Sheet(Frame + "0 XLINE\n8 0\n10 50\n20 50\n11 1\n21 0")).Single(s => s.Y0 == 50);
        Assert.Equal((-7.071, 107.071), (Math.Round(line.X0, 3), Math.Round(line.X1, 3)));
        var ray = Strokes(Sheet(Frame + "0 RAY\n8 0\n10 50\n20 50\n11 0\n21 -1")).Single(s => s.X0 == 50);
        Assert.Equal((50, -7.071), (ray.Y0, Math.Round(ray.Y1, 3)));
        Assert.Equal(2, Sheet("0 XLINE\n8 0\n10 5\n20 5\n11 1\n21 0\n0 RAY\n8 0\n10 9\n20 5\n11 0\n21 1").SegmentEntity.Length);
        Assert.DoesNotContain(Strokes(Sheet("0 POINT\n8 0\n10 0\n20 0\n0 XLINE\n8 0\n10 1e300\n20 5\n11 0\n21 0")), s => s.X0 > 1e3);
    }

    [Fact]
    public void LinesSideBySideRunWhereTheirMitresSay()
    {
        var sheet = Sheet(
            "0 MLINE\n8 0\n72 2\n73 2\n71 1\n10 0\n20 0\n11 0\n21 0\n12 1\n22 0\n13 0\n23 1\n74 2\n41 0\n41 0\n75 0\n74 2\n41 -4\n41 0\n75 0\n11 50\n21 0\n12 1\n22 0\n13 0\n23 1\n74 2\n41 0\n41 0\n75 0\n74 2\n41 -4\n41 0\n75 0");
        Assert.Equal([(0, -4, 50, -4), (0, 0, 50, 0)], Strokes(sheet).Order());
    }

    private static string Leader(string data) => $"0 LEADER\n8 0\n3 S\n71 1\n72 0\n76 2\n10 0\n20 0\n10 100\n20 0\n{data}";

    private const string Styles = "0 TABLE\n2 DIMSTYLE\n0 DIMSTYLE\n105 1\n2 S\n40 2\n41 3\n0 ENDTAB\n0 TABLE\n2 BLOCK_RECORD\n0 BLOCK_RECORD\n5 AB\n2 _Dot\n0 ENDTAB";

    [Fact]
    public void ALeadersHeadIsOfItsStyleUnlessItSaysOtherwise()
    {
        // A head of length l and a third of that wide has an area of l² / 6; the style's length is 3, and all of it twice as large.
        Assert.Equal(6 * 6 / 6.0, Area(Sheet(Leader(""), tables: Styles)), 3);
        Assert.Equal(12 * 12 / 6.0, Area(Sheet(Leader("1001 ACAD\n1000 DSTYLE\n1002 {\n1070 41\n1040 6\n1002 }"), tables: Styles)), 3);
        Assert.Equal(9 * 9 / 6.0, Area(Sheet(Leader("1001 ACAD\n1000 DSTYLE\n1002 {\n1070 40\n1040 1\n1070 41\n1040 9\n1002 }"), tables: Styles)), 3);
        // What another application keeps there says nothing of it.
        Assert.Equal(6, Area(Sheet(Leader("1001 OTHER\n1000 NOTE\n1070 41\n1040 50"), tables: Styles)), 3);
    }

    [Fact]
    public void ALeadersHeadMayBeABlockThatPointsAlongIt()
    {
        const string Dot = "0 BLOCK\n8 0\n2 _Dot\n10 0\n20 0\n0 LINE\n8 0\n10 0\n20 0\n11 -1\n21 0.5\n0 ENDBLK";
        var sheet = Sheet(Leader("1001 ACAD\n1000 DSTYLE\n1002 {\n1070 341\n1005 AB\n1002 }"), tables: Styles, blocks: Dot);
        // The leader comes from the right, so its head points to the left: a step back and half a step up, six long, turned about.
        Assert.Equal([(0, 0, 6, -3), (0, 0, 100, 0)], Strokes(sheet).Order());
        Assert.Equal(0, Area(sheet));
    }

    [Fact]
    public void AMeshShowsTheEdgesOfItsCageOnce()
    {
        var sheet = Sheet("0 MESH\n8 0\n71 2\n72 0\n91 0\n92 6\n10 0\n20 0\n30 0\n10 10\n20 0\n30 0\n10 10\n20 10\n30 0\n10 0\n20 10\n30 0\n10 20\n20 0\n30 0\n10 20\n20 10\n30 0\n93 10\n90 4\n90 0\n90 1\n90 2\n90 3\n90 4\n90 1\n90 4\n90 5\n90 2\n94 0\n95 0");
        Assert.Equal(7, Strokes(sheet).Count);
    }

    [Fact]
    public void APictureBesideTheDrawingIsAFrameWithItsName()
    {
        var drawing = Read(FileOf("0 IMAGE\n8 0\n10 5\n20 5\n11 0.1\n21 0\n12 0\n22 0.1\n13 200\n23 100\n340 AF", objects: "0 IMAGEDEF\n5 AF\n1 C:\\\\site\\\\wall.png"));
        var sheet = drawing.Sheets[0];
        Assert.Equal([(5, 5, 25, 5), (5, 15, 5, 5), (25, 5, 25, 15), (25, 15, 5, 15)], Strokes(sheet).Order());
        Assert.Equal("wall.png", Assert.Single(sheet.Texts).Text);
        Assert.Equal("IMAGE", Assert.Single(drawing.NotShown).Type);
    }

    private const string Wall = "0 IMAGEDEF\n5 AF\n1 C:\\\\site\\\\wall.png";

    [Fact]
    public void APictureIsToldWithItsPlaceAndWhatIsShownOfIt()
    {
        // Two hundred by a hundred points of a tenth each, turned by a quarter; shown is the left half: points -0.5 to 99.5.
        var sheet = Read(FileOf("0 IMAGE\n8 0\n10 5\n20 5\n11 0\n21 0.1\n12 -0.1\n22 0\n13 200\n23 100\n340 AF\n280 1\n71 1\n91 2\n14 -0.5\n24 -0.5\n14 99.5\n24 99.5", objects: Wall)).Sheets[0];
        var picture = Assert.Single(sheet.Pictures);
        Assert.Equal(("wall.png", new PointXY(5, 5), 0, 20, -10, 0), (picture.File, picture.At, Math.Round(picture.Along.X, 9), Math.Round(picture.Along.Y, 9), Math.Round(picture.Up.X, 9), Math.Round(picture.Up.Y, 9)));
        Assert.Equal([new(0, 0), new(0.5, 0), new(0.5, 1), new(0, 1)], picture.Clip);
        Assert.Null(picture.Window);
        // What is cut off is not asked for where cutting is switched off.
        Assert.Null(Read(FileOf("0 IMAGE\n8 0\n10 5\n20 5\n11 0\n21 0.1\n12 -0.1\n22 0\n13 200\n23 100\n340 AF\n280 0\n71 1\n91 2\n14 -0.5\n24 -0.5\n14 99.5\n24 99.5", objects: Wall)).Sheets[0].Pictures[0].Clip);
    }

    [Fact]
    public void APictureInAViewIsCutToTheView()
    {
        var paper = Read(FileOf("0 IMAGE\n8 0\n10 0\n20 0\n11 1\n21 0\n12 0\n22 1\n13 100\n23 50\n340 AF\n0 LINE\n67 1\n8 0\n10 0\n20 0\n11 100\n21 0\n0 VIEWPORT\n67 1\n8 0\n10 50\n20 50\n40 40\n41 40\n68 2\n69 2\n45 400\n12 0\n22 0", objects: Wall)).Sheets.Single(s => s.Name == "Paper");
        var picture = Assert.Single(paper.Pictures);
        Assert.Equal((new PointXY(50, 50), 10, 5, new Extents(30, 30, 70, 70)), (picture.At, Math.Round(picture.Along.X, 9), Math.Round(picture.Up.Y, 9), picture.Window));
    }

    [Fact]
    public void ATableStandsWhereItSaysTurnedAsItSays()
    {
        const string Block = "0 BLOCK\n8 0\n2 *T1\n10 0\n20 0\n0 LINE\n8 0\n10 0\n20 0\n11 10\n21 0\n0 ENDBLK";
        Assert.Equal((40, 30, 40, 40), Assert.Single(Strokes(Read(FileOf("0 ACAD_TABLE\n8 0\n2 *T1\n10 40\n20 30\n11 0\n21 1\n31 0", blocks: Block)).Sheets[0])));
    }

    [Fact]
    public void ASplineOfPointsRunsThroughThemRound()
    {
        // Through five points of a circle of radius 100: a polygon leaves it by 29 at the middle of a side, the curve by less than 3.
        var points = string.Concat(Enumerable.Range(0, 5).Select(i => FormattableString.Invariant($"11 {100 * Math.Cos(i * Math.PI / 4):R}\n21 {100 * Math.Sin(i * Math.PI / 4):R}\n")));
        var sheet = Sheet($"0 SPLINE\n8 0\n70 8\n71 3\n74 5\n12 0\n22 1\n13 0\n23 -1\n{points}".TrimEnd('\n'));
        var strokes = Strokes(sheet).ToList();
        Assert.True(strokes.Count > 20);
        Assert.All(strokes, s => Assert.InRange(Math.Sqrt((s.X0 * s.X0) + (s.Y0 * s.Y0)), 97, 103));
    }

    [Fact]
    public void AHelixIsTheCurveItSaysItIs()
    {
        const string Curve = "0 HELIX\n8 0\n70 0\n71 3\n72 8\n73 4\n40 0\n40 0\n40 0\n40 0\n40 1\n40 1\n40 1\n40 1\n10 0\n20 0\n10 0\n20 5\n10 10\n20 5\n10 10\n20 0\n100 AcDbHelix\n10 99\n20 99\n11 88\n21 88\n12 0\n22 0\n32 1\n40 5\n41 3\n42 1";
        Assert.All(Strokes(Sheet(Curve)), s => Assert.InRange(s.X1, 0, 10));
    }

    [Theory]
    [InlineData("1e17")]
    [InlineData("-1e300")]
    [InlineData("1e9")]
    public void AnArcFromAnAngleOutOfAllBoundsEnds(string angle) => Assert.NotNull(Sheet($"0 ARC\n8 0\n10 0\n20 0\n40 5\n50 {angle}\n51 10"));

    /// <summary>Whatever groups such an entity has, in whatever order, it is drawn or counted, in a moment, and never thrown over.</summary>
    [Theory]
    [InlineData("XLINE")]
    [InlineData("RAY")]
    [InlineData("MLINE")]
    [InlineData("MESH")]
    [InlineData("IMAGE")]
    [InlineData("HELIX")]
    [InlineData("SPLINE")]
    [InlineData("MULTILEADER")]
    [InlineData("TOLERANCE")]
    [InlineData("DIMENSION")]
    [InlineData("LEADER")]
    [InlineData("MTEXT")]
    [InlineData("ACAD_TABLE")]
    public void AnyGroupsMakeAnEntityThatIsDrawnOrCounted(string type)
    {
        var random = new Random(type.Sum(c => c));
        int[] codes = [1, 3, 7, 10, 20, 30, 11, 21, 31, 12, 22, 13, 23, 14, 24, 15, 25, 16, 26, 40, 41, 42, 43, 44, 50, 63, 70, 71, 72, 73, 74, 75, 90, 92, 93, 94, 140, 170, 171, 210, 220, 230, 290, 300, 301, 302, 303, 304, 305, 340];
        string[] numbers = ["0", "1", "2", "3", "5", "-1", "16", "0.5", "-7.25", "1e9", "1e-12", "-1e300", "1e300", "2147483647", "-2147483648", "400"];
        string[] words = ["}", "LEADER{", "LEADER_LINE{", "CONTEXT_DATA{", "%%v%%v", "{\\Fgdt;j}%%v^J", "\\H0;x\\S1^2;", "<>", "a\\Pb", "\\pi-9,l9,qr;w w w"];
        for (var round = 0; round < 400; round++)
        {
            var groups = string.Concat(Enumerable.Range(0, random.Next(1, 40)).Select(_ => codes[random.Next(codes.Length)] is var c && c is 1 or 3 or 7 or (>= 300 and <= 340) ? $"\n{c} {words[random.Next(words.Length)]}" : $"\n{c} {numbers[random.Next(numbers.Length)]}"));
            var (drawing, fault) = Dxf.DxfReader.Read(new MemoryStream(FileOf($"0 {type}\n8 0{groups}")), new ReadLimits(MostSegments: 200_000));
            Assert.True(drawing is not null || fault is not null);
            foreach (var sheet in drawing?.Sheets ?? []) PreparedSheet.WriteGeometry(sheet, Stream.Null);
        }
    }
}
