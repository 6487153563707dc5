using Froe.Core.Drawing;
using Xunit;
using static Froe.Formats.Tests.SmallDxf;

namespace Froe.Formats.Tests;

/// <summary>DXF as programs write it that are not of the house: each fault met in such a file, in one of a few lines.</summary>
public class DxfOthersTables
{
    private const string View = "0 VIEWPORT\n67 1\n8 0\n10 50\n20 50\n40 40\n41 40\n68 2\n69 2\n45 40";

    private static Sheet Paper(string model, string view, string tables = "") => Read(FileOf(model + "\n0 LINE\n67 1\n8 0\n10 0\n20 0\n11 100\n21 0\n" + view, tables: tables)).Sheets[0];

    private static IEnumerable<(double X0, double Y0, double X1, double Y1)> Viewed(Sheet s) => Strokes(s).Where(l => l != (0, 0, 100, 0));

    [Fact]
    public void AnEmbeddedObjectEndsAText()
    {
        var run = Assert.Single(Sheet("0 MTEXT\n8 0\n10 5\n20 5\n40 3\n71 1\n44 1\n1 Words\n101 Embedded Object\n70 1\n10 0\n20 1\n11 100\n21 200\n44 9\n40 77").Texts);
        Assert.Equal((3, 0), (Math.Round(run.Along.X, 6), Math.Round(run.Along.Y, 6)));
    }

    [Theory]
    [InlineData("69 0")]
    [InlineData("69 2\n90 131072")]
    [InlineData("69 2\n68 0")]
    public void AViewThatIsOffShowsNothing(string off)
    {
        var paper = Read(FileOf($"0 LINE\n8 0\n10 0\n20 0\n11 5\n21 5\n0 LINE\n67 1\n8 0\n10 0\n20 0\n11 100\n21 0\n0 VIEWPORT\n67 1\n8 0\n10 50\n20 50\n40 40\n41 40\n45 40\n12 0\n22 0\n{off}")).Sheets.Single(s => s.Name == "Paper");
        Assert.Single(paper.SegmentEntity);
    }

    [Fact]
    public void AFillIsCutAtTheViewsEdge()
    {
        // A solid from -30 to 30, of which the view shows -20 to 20.
        var paper = Paper("0 SOLID\n8 0\n10 -30\n20 -5\n11 30\n21 -5\n12 -30\n22 5\n13 30\n23 5", View + "\n12 0\n22 0");
        Assert.Equal(40 * 10, Area(paper), 0.5);
    }

    // A view of 40 by 40 about (50, 50), one to one, of a line through its middle and one 8 above; cut to a circle of 10, to a square on its
    // corner of 14.142, to a star whose dents reach in to 5, or to nothing that is there.
    [Theory]
    [InlineData("0 CIRCLE\n5 A1\n67 1\n8 0\n10 50\n20 50\n40 10", 20, 12)]
    [InlineData("0 LWPOLYLINE\n5 A1\n67 1\n8 0\n90 4\n70 1\n10 40\n20 50\n10 50\n20 40\n10 60\n20 50\n10 50\n20 60", 20, 4)]
    [InlineData("0 LWPOLYLINE\n5 A1\n67 1\n8 0\n90 8\n70 1\n10 35\n20 35\n10 50\n20 45\n10 65\n20 35\n10 55\n20 50\n10 65\n20 65\n10 50\n20 55\n10 35\n20 65\n10 45\n20 50", 10, 11.667)]
    [InlineData("0 CIRCLE\n5 A2\n67 1\n8 0\n10 50\n20 50\n40 10", 40, 40)]
    public void AViewIsCutToItsOutline(string outline, double middle, double above)
    {
        const string Lines = "0 LINE\n8 0\n10 -100\n20 0\n11 100\n21 0\n0 LINE\n8 0\n10 -100\n20 8\n11 100\n21 8";
        // The view may stand before its outline.
        foreach (var view in new[] { $"{outline}\n{View}\n12 0\n22 0\n90 65536\n340 A1", $"{View}\n12 0\n22 0\n90 65536\n340 A1\n{outline}" })
        {
            var drawn = Strokes(Paper(Lines, view));
            double At(double y) => drawn.Where(l => Math.Abs(l.Y0 - y) < 1e-4 && Math.Abs(l.Y1 - y) < 1e-4).Sum(l => Math.Abs(l.X1 - l.X0));
            // A circle is cut by its chords.
            Assert.Equal(middle, At(50), 0.1);
            Assert.Equal(above, At(58), 0.25);
        }
    }

    [Fact]
    public void WordsAndFillsOfAViewAreCutToItsOutlineAsWell()
    {
        var paper = Paper("0 SOLID\n8 0\n10 -30\n20 -5\n11 30\n21 -5\n12 -30\n22 5\n13 30\n23 5\n0 TEXT\n8 0\n10 0\n20 8\n40 2\n1 MMMMMMMMMM",
            "0 LWPOLYLINE\n5 A1\n67 1\n8 0\n90 4\n70 1\n10 40\n20 35\n10 60\n20 35\n10 60\n20 65\n10 40\n20 65\n" + View + "\n12 0\n22 0\n90 65536\n340 A1");
        Assert.Equal(20 * 10, Area(paper), 0.5);
        Assert.All(Assert.Single(paper.Texts).Corners(), c => Assert.InRange(c.X, 49, 62));
    }

    [Fact]
    public void AViewOfAnEarlierReleaseIsToldByItsExtendedData()
    {
        // Of the model 20 high about (100, 50), looked at from above, a quarter turned; layer HID is not to be seen.
        const string Old = "0 VIEWPORT\n67 1\n8 0\n10 50\n20 50\n40 40\n41 40\n68 2\n69 2\n1001 ACAD\n1000 MVIEW\n1002 {\n1070 16\n1010 100\n1020 50\n1030 0\n1010 0\n1020 0\n1030 1\n1040 90\n1040 20\n1040 0\n1040 0\n1040 50\n1040 0\n1040 0\n1070 0\n1002 {\n1003 HID\n1002 }\n1002 }";
        const string Model = "0 LINE\n8 0\n10 100\n20 50\n11 105\n21 50\n0 LINE\n8 HID\n10 100\n20 51\n11 105\n21 51";
        var (x0, y0, x1, y1) = Assert.Single(Viewed(Paper(Model, Old)));
        Assert.Equal((50, 50, 50, 60), (Math.Round(x0, 3), Math.Round(y0, 3), Math.Round(x1, 3), Math.Round(y1, 3)));
        // From the side it is said.
        var side = Read(FileOf($"{Model}\n0 LINE\n67 1\n8 0\n10 0\n20 0\n11 100\n21 0\n{Old.Replace("1010 0\n1020 0\n1030 1", "1010 1\n1020 0\n1030 0", StringComparison.Ordinal)}"));
        Assert.Equal("VIEWPORT", Assert.Single(side.NotShown).Type);
    }

    [Fact]
    public void ALineOfTextIsCutAtTheViewsEdgeByItsLetters()
    {
        var paper = Paper("0 TEXT\n8 0\n10 0\n20 0\n40 5\n1 MMMMMMMMMM", View + "\n12 0\n22 0");
        var run = Assert.Single(paper.Texts);
        Assert.InRange(run.Text.Length, 4, 6);
        Assert.All(run.Corners(), c => Assert.InRange(c.X, 49, 74));
    }

    [Fact]
    public void ATurnedViewTurnsRoundItsTarget()
    {
        // Turned by a quarter: the model's x runs up the paper; the view's middle is (7, 0) on the display.
        var paper = Paper("0 LINE\n8 0\n10 0\n20 0\n11 10\n21 0", View + "\n12 7\n22 0\n51 90");
        Assert.Equal((43, 50, 43, 60), Assert.Single(Viewed(paper)));
    }

    [Fact]
    public void ALayerFrozenInAViewIsHiddenThere()
    {
        const string Layers = "0 TABLE\n2 LAYER\n0 LAYER\n5 A1\n2 axes\n70 0\n62 7\n0 LAYER\n5 A2\n2 walls\n70 0\n62 7\n0 ENDTAB";
        var paper = Paper("0 LINE\n8 axes\n10 0\n20 0\n11 5\n21 0\n0 LINE\n8 walls\n10 0\n20 1\n11 5\n21 1", View + "\n12 0\n22 0\n331 A2", Layers);
        Assert.Equal((50, 50, 55, 50), Assert.Single(Viewed(paper)));
    }

    [Fact]
    public void LayoutsStandInTheOrderOfTheirTabs()
    {
        var d = Read(FileOf(
            "0 LINE\n8 0\n10 0\n20 0\n11 1\n21 0", "", "0 TABLE\n2 BLOCK_RECORD\n0 BLOCK_RECORD\n5 1F\n2 *Paper_Space\n0 BLOCK_RECORD\n5 2F\n2 *Paper_Space0\n0 ENDTAB",
            "0 BLOCK\n2 *Paper_Space\n10 0\n20 0\n0 LINE\n8 0\n10 0\n20 0\n11 420\n21 0\n0 ENDBLK\n0 BLOCK\n2 *Paper_Space0\n10 0\n20 0\n0 LINE\n8 0\n10 0\n20 0\n11 297\n21 0\n0 ENDBLK",
            "0 LAYOUT\n1 Second\n71 2\n330 1F\n0 LAYOUT\n1 First\n71 1\n330 2F"));
        Assert.Equal(["Model", "First", "Second"], d.Sheets.Select(s => s.Name));
    }

    private static DrawingFile Drawn(string entities, string objects = "", string unit = "4") => Read(FileOf(
        entities, $"9 $INSUNITS\n70 {unit}", "0 TABLE\n2 BLOCK_RECORD\n0 BLOCK_RECORD\n5 1F\n2 *Paper_Space\n0 ENDTAB", "0 BLOCK\n2 *Paper_Space\n10 0\n20 0\n0 ENDBLK", objects));

    [Theory]
    // A view 40 high that shows 2000 of the model; in metres, 2.
    [InlineData("4", "45 2000", 50)]
    [InlineData("6", "45 2", 50)]
    [InlineData("5", "45 40", 10)]
    [InlineData("4", "45 20", 0.5)]
    public void AViewTellsTheScaleOfWhatItShows(string unit, string height, double ratio)
    {
        var paper = Drawn($"0 LINE\n8 0\n10 0\n20 0\n11 5\n21 5\n0 LINE\n67 1\n8 0\n10 0\n20 0\n11 100\n21 0\n0 VIEWPORT\n67 1\n8 0\n10 50\n20 60\n40 80\n41 40\n68 2\n69 2\n12 0\n22 0\n{height}", "0 LAYOUT\n1 One\n72 1\n71 1\n330 1F", unit).Sheets.Single(s => s.Name == "One");
        var scale = Assert.Single(paper.Scales);
        Assert.Equal((LengthUnit.Millimetre, new Extents(10, 40, 90, 80)), (paper.Unit, scale.Area));
        Assert.Equal(ratio, scale.Millimetres, 9);
    }

    [Theory]
    [InlineData("72 1", LengthUnit.Millimetre)]
    [InlineData("72 0", LengthUnit.Inch)]
    // An inch of paper for 25.4 units.
    [InlineData("142 1\n143 25.4\n72 0", LengthUnit.Millimetre)]
    [InlineData("142 1\n143 100\n72 1", LengthUnit.Metre)]
    [InlineData("142 0\n143 0\n72 1", LengthUnit.Metre)]
    [InlineData("72 2", LengthUnit.Metre)]
    [InlineData("71 1", LengthUnit.Metre)]
    public void ALayoutIsInTheUnitOfItsPaper(string paper, LengthUnit unit) =>
        Assert.Equal(unit, Drawn("0 LINE\n67 1\n8 0\n10 0\n20 0\n11 100\n21 0", $"0 LAYOUT\n1 One\n{paper}\n330 1F", "6").Sheets[0].Unit);

    [Theory]
    [InlineData("6", 100, 1000.0)]
    [InlineData("0", 100, null)]
    // A sheet of paper drawn as a model: how large things are, only its words can tell.
    [InlineData("4", 841, null)]
    [InlineData("6", 841, 1000.0)]
    public void AModelIsAsLargeAsItIsDrawn(string unit, double width, double? millimetres)
    {
        var model = Read(FileOf($"0 LINE\n8 0\n10 0\n20 0\n11 {width}\n21 594", $"9 $INSUNITS\n70 {unit}")).Sheets[0];
        Assert.Equal(millimetres, model.Scales.Count == 0 ? null : Assert.Single(model.Scales).Millimetres);
    }

    [Fact]
    public void AViewInTheModelItselfShowsNothing() =>
        Assert.Single(Sheet("0 LINE\n8 0\n10 0\n20 0\n11 9\n21 9\n0 VIEWPORT\n67 -9223372036854775807\n8 0\n10 5\n20 5\n40 40\n41 40\n68 2\n69 2\n45 40\n12 0\n22 0").SegmentEntity);

    [Theory]
    [InlineData("-1e308")]
    [InlineData("1e308")]
    [InlineData("-359")]
    public void AnArcOfAHatchEndsAtWhateverAngle(string end)
    {
        var area = Area(Sheet($"0 HATCH\n8 0\n2 SOLID\n70 1\n91 1\n92 1\n93 1\n72 2\n10 0\n20 0\n40 10\n50 0\n51 {end}\n73 1\n97 0\n75 0\n98 0"));
        // From 0 to -359 is a sliver of one degree; the rest is the circle.
        Assert.InRange(area, end == "-359" ? 0 : 313, end == "-359" ? 0.1 : 314.2);
    }

    [Theory]
    [InlineData("62 7", PaperInk.Black)]
    [InlineData("62 255", 0xFFFFFF)]
    [InlineData("62 7\n420 16777215", 0xFFFFFF)]
    [InlineData("62 1", 0xFF0000)]
    public void WhiteIsPaperAndSevenIsInk(string colour, int rgb) => Assert.Equal(rgb, Sheet($"0 LINE\n8 0\n{colour}\n10 0\n20 0\n11 5\n21 5").Styles[0].Rgb);

    [Theory]
    [InlineData("62 7\n420 16777215", PaperInk.Black)]
    [InlineData("62 255\n420 16777215", 0xFFFFFF)]
    public void ALayerOfSevenThatIsSaidToBeWhiteAsWellIsInk(string colour, int rgb) =>
        Assert.Equal(rgb, Sheet("0 LINE\n8 W\n10 0\n20 0\n11 5\n21 5", tables: $"0 TABLE\n2 LAYER\n0 LAYER\n2 W\n70 0\n{colour}\n0 ENDTAB").Styles[0].Rgb);

    [Theory]
    [InlineData("-2147483648")]
    [InlineData("1e300")]
    [InlineData("-1e300")]
    public void AColourOutOfAllBoundsIsSomeColour(string number) => Assert.Single(Strokes(Sheet($"0 LINE\n8 0\n62 {number}\n420 {number}\n370 {number}\n10 0\n20 0\n11 5\n21 5")));

    [Theory]
    [InlineData("2 Defpoints\n70 0\n62 7")]
    [InlineData("2 Help\n70 0\n62 7\n290 0")]
    [InlineData("2 Help\n70 1\n62 7")]
    [InlineData("2 Help\n70 0\n62 -7")]
    public void WhatIsNotPlottedIsOff(string layer)
    {
        var name = layer[2..layer.IndexOf('\n', StringComparison.Ordinal)];
        Assert.False(Sheet($"0 LINE\n8 {name}\n10 0\n20 0\n11 5\n21 5", "", $"0 TABLE\n2 LAYER\n0 LAYER\n{layer}\n0 ENDTAB").Layers.Single(l => l.Name == name).IsOn);
    }

    [Fact]
    public void AFrozenLayerHidesAnInsertionWithAllThatIsInIt()
    {
        const string Layers = "0 TABLE\n2 LAYER\n0 LAYER\n2 ice\n70 1\n62 7\n0 LAYER\n2 water\n70 0\n62 7\n0 ENDTAB";
        const string Block = "0 BLOCK\n2 b\n10 0\n20 0\n0 LINE\n8 water\n10 0\n20 0\n11 5\n21 0\n0 ENDBLK";
        var d = Read(FileOf("0 INSERT\n8 ice\n2 b\n10 0\n20 0\n0 LINE\n8 water\n10 0\n20 9\n11 5\n21 9", "", Layers, Block));
        Assert.Equal((0, 9, 5, 9), Assert.Single(Strokes(d.Sheets[0])));
        Assert.Contains("frozen", Assert.Single(d.NotShown).Why, StringComparison.Ordinal);
    }

    [Theory]
    [InlineData(1, 0)]
    [InlineData(2, 2)]
    [InlineData(3, 2)]
    [InlineData(4, 1)]
    [InlineData(64 + 2, 6)]
    public void APointLooksAsTheDrawingSays(int mode, int strokes) => Assert.Equal(strokes, Sheet("0 POINT\n8 0\n10 5\n20 5", $"9 $PDMODE\n70 {mode}\n9 $PDSIZE\n40 2").SegmentEntity.Length);

    [Fact]
    public void HiddenEdgesOfAFaceAreNotDrawn() => Assert.Equal([(0, 0, 4, 0), (4, 4, 0, 4)], Strokes(Sheet("0 3DFACE\n8 0\n10 0\n20 0\n11 4\n21 0\n12 4\n22 4\n13 0\n23 4\n70 10")).OrderBy(s => s.Y0));

    [Fact]
    public void ADefinitionOfAnAttributeShowsItsNameWhenLooseAndItsWordsWhenConstant()
    {
        const string Block = "0 BLOCK\n2 b\n10 0\n20 0\n0 ATTDEF\n8 0\n10 0\n20 0\n40 2\n1 fixed words\n2 TAG1\n70 2\n0 ATTDEF\n8 0\n10 0\n20 3\n40 2\n1 to be filled\n2 TAG2\n70 0\n0 ENDBLK";
        var s = Read(FileOf("0 ATTDEF\n8 0\n10 0\n20 9\n40 2\n1 default\n2 LOOSE\n70 0\n0 INSERT\n8 0\n2 b\n10 0\n20 0", "", "", Block)).Sheets[0];
        Assert.Equal(["LOOSE", "fixed words"], s.Texts.Select(t => t.Text));
    }

    [Fact]
    public void ACircleOfNoRadiusInADrawingOfNoSizeIsNoFault()
    {
        var s = Sheet("0 CIRCLE\n8 0\n10 0\n20 0\n40 0\n0 LINE\n8 0\n10 0\n20 0\n11 5\n21 5");
        Assert.True(double.IsFinite(s.Tolerance));
        PreparedSheet.WriteGeometry(s, Stream.Null);
    }

    [Fact]
    public void DashesFarFromTheOriginEnd()
    {
        const string Dashed = "0 TABLE\n2 LTYPE\n0 LTYPE\n2 D\n70 0\n73 2\n40 3\n49 2\n49 -1\n0 ENDTAB";
        Assert.NotEmpty(Sheet("0 LINE\n8 0\n6 D\n10 1e14\n20 0\n11 1.0000001e14\n21 0", "", Dashed).Segments);
        var strokes = 0;
        Assert.True(Dashing.Along(1e17, 1e17 + 64, 0, [1, -1], 1000, 0, (_, _) => strokes++));
        Assert.InRange(strokes, 1, 1000);
    }

    /// <summary>A file of lines in binary: codes of one or two bytes, values by their code.</summary>
    private static byte[] Binary(byte[] lines, bool wide)
    {
        var to = new List<byte>([.. new byte[15], .. "DXF\r\n\u001A\0"u8]);
        var groups = System.Text.Encoding.Latin1.GetString(lines).Split('\n');
        for (var i = 0; i + 1 < groups.Length; i += 2)
        {
            var code = int.Parse(groups[i], System.Globalization.CultureInfo.InvariantCulture);
            if (!wide && code >= 255) to.Add(255);
            if (wide || code >= 255) to.AddRange(BitConverter.GetBytes((short)code));
            else to.Add((byte)code);
            if (code is (>= 10 and < 60) or (>= 210 and < 240)) to.AddRange(BitConverter.GetBytes(double.Parse(groups[i + 1], System.Globalization.CultureInfo.InvariantCulture)));
            else if (code is (>= 60 and < 80) or (>= 370 and < 390)) to.AddRange(BitConverter.GetBytes(short.Parse(groups[i + 1], System.Globalization.CultureInfo.InvariantCulture)));
            else if (code is >= 420 and < 430) to.AddRange(BitConverter.GetBytes(int.Parse(groups[i + 1], System.Globalization.CultureInfo.InvariantCulture)));
            else to.AddRange([.. System.Text.Encoding.Latin1.GetBytes(groups[i + 1]), 0]);
        }
        return [.. to];
    }

    [Theory]
    [InlineData(true)]
    [InlineData(false)]
    public void BinaryIsReadAsLinesAre(bool wide)
    {
        var lines = FileOf("0 LINE\n8 walls\n62 1\n420 255\n370 35\n10 0.1\n20 -7.25\n11 1e5\n21 3\n0 TEXT\n8 0\n10 5\n20 5\n40 2.5\n1 Ø 12 words\n0 CIRCLE\n8 0\n10 1\n20 2\n40 3", "9 $INSUNITS\n70 4");
        Sheet a = Read(lines).Sheets[0], b = Read(Binary(lines, wide)).Sheets[0];
        Assert.Equal(a.Segments, b.Segments);
        Assert.Equal((a.Unit, a.Styles.Count, a.Texts[0].Text), (b.Unit, b.Styles.Count, b.Texts[0].Text));
        Assert.Equal(a.EntitySignature, b.EntitySignature);
    }

    [Fact]
    public void BinaryThatIsCutOrAlteredGivesASheetOrOneClearLine()
    {
        var good = Binary(FileOf("0 LINE\n8 0\n10 0\n20 0\n11 1\n21 3\n0 TEXT\n8 0\n10 5\n20 5\n40 2.5\n1 words"), wide: true);
        var random = new Random(5);
        for (var i = 0; i < 2000; i++)
        {
            var bad = (byte[])good.Clone();
            if (i % 3 == 0) bad = bad[..random.Next(Math.Max(23, bad.Length))];
            else bad[22 + random.Next(bad.Length - 22)] = (byte)random.Next(256);
            var result = Dxf.DxfReader.Read(new MemoryStream(bad));
            Assert.True(result.Drawing is not null || !string.IsNullOrWhiteSpace(result.Fault?.What));
        }
    }
}
