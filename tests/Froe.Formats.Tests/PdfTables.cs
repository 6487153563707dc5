using System.IO.Compression;
using System.Text;
using Froe.Core.Draft;
using Froe.Core.Drawing;
using Froe.Formats.Pdf;
using SkiaSharp;
using Xunit;
using static Froe.Formats.Tests.SmallPdf;

namespace Froe.Formats.Tests;

/// <summary>Pages worked by hand: how they lie on paper, what goes into strokes, and what harmful ones do.</summary>
public class PdfTables
{
    private static SheetFrame Frame(PdfPages pages, int page = 0) => (SheetFrame)pages.Leaf(page).Frame;

    [Theory]
    [InlineData("/MediaBox [0 0 200 100]", 200, 100)]
    [InlineData("/MediaBox [0 0 200 100] /Rotate 90", 100, 200)]
    [InlineData("/MediaBox [0 0 200 100] /Rotate -90", 100, 200)]
    [InlineData("/MediaBox [0 0 200 100] /CropBox [20 10 120 60]", 100, 50)]
    [InlineData("/MediaBox [0 0 200 100] /UserUnit 2.5", 500, 250)]
    public void APageIsAsLargeAsItIsOnPaper(string page, double width, double height)
    {
        var frame = Frame(Open(Page("", page)));
        Assert.Equal(Surface.Page, frame.Surface);
        Assert.Equal((width * Point, height * Point), (frame.Extents.Width, frame.Extents.Height), (a, b) => Math.Abs(a.Item1 - b.Item1) + Math.Abs(a.Item2 - b.Item2) < 1e-3);
    }

    [Theory]
    // 72 points are 25.4 mm: at 0.01763889 m to the point, 1270 mm, which is 1:50.
    [InlineData("/MediaBox [0 0 200 100]", "/C 0.017638889 /U (m)", 50)]
    [InlineData("/MediaBox [0 0 200 100]", "/C 17.638889 /U (mm)", 50)]
    [InlineData("/MediaBox [0 0 200 100] /UserUnit 2", "/C 17.638889 /U (mm)", 25)]
    [InlineData("/MediaBox [0 0 200 100]", "/C 0.666666667 /U (in)", 48)]
    [InlineData("/MediaBox [0 0 200 100]", "/C 0.0555555556 /U <6674>", 48)]
    public void AMeasureOfTheFileIsAScaleWhereItHolds(string page, string format, double ratio)
    {
        var pages = Open(Page("10 10 m 50 10 l S", page + $" /VP [<< /Type /Viewport /BBox [20 10 120 60] /Measure << /Type /Measure /Subtype /RL /R (as stated) /X [<< {format} >>] >> >>]"));
        var scale = Assert.Single(Frame(pages).Scales!);
        Assert.Equal(ratio, scale.Millimetres, 4);
        var unit = Point * (page.Contains("UserUnit", StringComparison.Ordinal) ? 2 : 1);
        Assert.Equal((20 * unit, 10 * unit, 120 * unit, 60 * unit), (scale.Area!.Value.MinX, scale.Area.Value.MinY, scale.Area.Value.MaxX, scale.Area.Value.MaxY));
    }

    [Theory]
    [InlineData("/VP 7")]
    [InlineData("/VP [7 null << >>]")]
    [InlineData("/VP [<< /BBox [0 0 1] /Measure << /X [<< /C 1 /U (m) >>] >> >>]")]
    [InlineData("/VP [<< /BBox [0 0 9 9] /Measure << /Subtype /GEO /X [<< /C 1 /U (m) >>] >> >>]")]
    [InlineData("/VP [<< /BBox [0 0 9 9] /Measure << /X [] >> >>]")]
    [InlineData("/VP [<< /BBox [0 0 9 9] /Measure << /X [<< /C -1 /U (m) >>] >> >>]")]
    [InlineData("/VP [<< /BBox [0 0 9 9] /Measure << /X [<< /C 1 /U (paces) >>] >> >>]")]
    public void AMeasureThatIsNoneSaysNothing(string measure)
    {
        var pages = Open(Page("10 10 m 50 10 l S", "/MediaBox [0 0 200 100] " + measure));
        Assert.Null(Frame(pages).Scales);
    }

    [Theory]
    [InlineData("/MediaBox [0 0 200 100]", 10, 20, 50, 20)]
    [InlineData("/MediaBox [0 0 200 100] /Rotate 90", 20, 190, 20, 150)]
    [InlineData("/MediaBox [0 0 200 100] /Rotate 180", 190, 80, 150, 80)]
    [InlineData("/MediaBox [0 0 200 100] /Rotate 270", 80, 10, 80, 50)]
    [InlineData("/MediaBox [0 0 200 100] /CropBox [5 10 120 60]", 5, 10, 45, 10)]
    public void ALineLiesWhereThePageIsShown(string page, double x0, double y0, double x1, double y1) =>
        Assert.Equal((x0, y0, x1, y1), Assert.Single(Strokes(Open(Page("10 20 m 50 20 l S", page)).Geometry(0))));

    [Fact]
    public void AUserUnitMakesEverythingLarger() => Assert.Equal((10, 20, 50, 20), Assert.Single(Strokes(Open(Page("10 20 m 50 20 l S", "/MediaBox [0 0 200 100] /UserUnit 3")).Geometry(0), 3 * Point)));

    [Fact]
    public void AWidthIsScaledByWhatTheMatrixDoesToAnArea()
    {
        var sheet = Open(Page("q 4 0 0 1 0 0 cm 3 w 1 2 m 5 2 l S Q")).Geometry(0);
        Assert.Equal((int)Math.Round(3 * 2 * Point * 100), Assert.Single(sheet.Styles).Weight);
    }

    [Fact]
    public void DashesRunAsTheFileSays() => Assert.Equal([(0, 50, 6, 50), (9, 50, 15, 50), (18, 50, 20, 50)], Strokes(Open(Page("[6 3] 0 d 0 50 m 20 50 l S")).Geometry(0)));

    [Fact]
    public void AClosedBoxIsFourLinesAndColoursStayAsTheyAre()
    {
        var sheet = Open(Page("1 1 0 RG 10 10 20 30 re S")).Geometry(0);
        Assert.Equal(4, sheet.SegmentEntity.Length);
        Assert.Equal(0xFFFF00, sheet.Styles[0].Rgb);
    }

    [Fact]
    public void ACurveKeepsToItsTolerance()
    {
        // A quarter of a circle of radius 80 points, by the usual four-point curve.
        var sheet = Open(Page("100 10 m 144.1828 10 180 45.8172 180 90 c S")).Geometry(0);
        foreach (var (x0, y0, x1, y1) in SmallDxf.Strokes(sheet))
        {
            var (x, y) = ((x0 + x1) / 2 / Point, (y0 + y1) / 2 / Point);
            Assert.InRange(Math.Sqrt(((x - 100) * (x - 100)) + ((y - 90) * (y - 90))), 79.9, 80.1);
        }
        Assert.Equal(2, sheet.SegmentEnds.Sum(e => int.PopCount((int)e)));
    }

    [Theory]
    [InlineData("f", 10000 - 2500)]
    [InlineData("f*", 10000 - 2500)]
    [InlineData("f", 10000, "40 40 50 50 re")]
    [InlineData("f*", 10000 - 2500, "40 40 50 50 re")]
    public void WhatIsInsideIsToldByItsRule(string paint, double area, string inner = "40 40 m 40 90 l 90 90 l 90 40 l h")
    {
        var sheet = Open(Page($"10 10 100 100 re {inner} {paint}", "/MediaBox [0 0 200 200]")).Geometry(0);
        Assert.Equal(area, SmallDxf.Area(sheet) / Point / Point, 1.0);
    }

    [Fact]
    public void ABoxClipsWhatFollowsUntilItsStateEnds()
    {
        var pages = Open(Page("q 20 0 60 100 re W n 0 50 m 200 50 l S 10 10 20 20 re f Q 0 60 m 200 60 l S"));
        Assert.Equal([(20, 50, 80, 50), (0, 60, 200, 60)], Strokes(pages.Geometry(0)).OrderBy(s => s.Y0));
        Assert.Equal(200, SmallDxf.Area(pages.Geometry(0)) / Point / Point, 0.5);
        Assert.Empty(pages.PictureOnly);
    }

    [Fact]
    public void WhatDoesNotGoIntoStrokesIsCounted()
    {
        var pages = Open(Page(
            "/G gs 0 0 10 10 re f /Im Do 50 50 m 60 60 l 70 50 l h W n 0 0 200 100 re f /S sh", resources: "/ExtGState << /G << /ca 0.5 >> >> /XObject << /Im 6 0 R >> /Shading << /S << /ShadingType 2 /ColorSpace /DeviceGray /Coords [0 0 1 1] /Function << /FunctionType 2 /Domain [0 1] /N 1 >> >> >>",
            more: [Stream("\u00ff", "/Type /XObject /Subtype /Image /Width 1 /Height 1 /BitsPerComponent 8 /ColorSpace /DeviceGray")]));
        _ = pages.Geometry(0);
        Assert.Equal(["clip that is no box", "image", "shading", "transparency"], pages.PictureOnly.Select(n => n.Type));
    }

    [Fact]
    public void GlyphsBecomeWordsWhereTheyStand()
    {
        var pages = Open(Page("BT /F 10 Tf 20 30 Td [(Pump) -600 (house)] TJ 0 -12 Td 3 Tc (SPREAD) Tj ET BT 3 Tr /F 10 Tf 20 70 Td (unseen) Tj ET BT 0 Tr /F 10 Tf 0 1 -1 0 150 20 Tm (turned) Tj ET"));
        Assert.Equal(["Pump house", "SPREAD", "unseen", "turned"], pages.Words(0).Select(w => w.Text));
        Assert.Equal(["Pump house", "SPREAD", "turned"], pages.Geometry(0).Texts.Select(t => t.Text));
        var (_, at, along, up) = pages.Words(0)[0];
        Assert.Equal((20, 30), (Math.Round(at.X / Point, 1), Math.Round(at.Y / Point, 1)));
        Assert.Equal((0, 10), (Math.Round(along.Y / Point, 1), Math.Round(up.Y / Point, 1)));
        Assert.InRange(along.X / Point, 55, 65);
        var turned = pages.Words(0)[3];
        Assert.True(turned.Along.Y > 5 && Math.Abs(turned.Along.X) < 1e-6);
    }

    private static byte[] Layered(string state) => Page(
        "/OC /A BDC 10 50 m 190 50 l S EMC /OC /B BDC 10 30 180 10 re f EMC", resources: "/Properties << /A 6 0 R /B 7 0 R >>",
        catalogue: $"/OCProperties << /OCGs [6 0 R 7 0 R] /D << {state} >> >>", more: ["<< /Type /OCG /Name (Axes) >>", "<< /Type /OCG /Name <FEFF00570061006C006C0073> >>"]);

    [Fact]
    public void LayersAreThoseOfTheFileAndOffWhereItSaysSo()
    {
        var pages = Open(Layered("/OFF [7 0 R]"));
        Assert.Equal([("Axes", true), ("Walls", false)], pages.Layers.Select(l => (l.Name, l.IsOn)));
        var sheet = pages.Geometry(0);
        Assert.Equal("Axes", sheet.Layers[sheet.Styles[sheet.EntityStyle[sheet.SegmentEntity[0]]].Layer].Name);
        Assert.Equal([("Axes", false), ("Walls", true)], Open(Layered("/BaseState /OFF /ON [7 0 R]")).Layers.Select(l => (l.Name, l.IsOn)));
    }

    /// <summary>ISO 32000-2, 7.9.2.2; and UTF-16 with the lower byte first, which others write; and an end that only some writers mark.</summary>
    [Theory]
    [InlineData("(Axes)", "Axes")]
    [InlineData("<FEFF004100780065201300730000>", "Axe\u2013s")]
    [InlineData("<FFFE41007800650013207300>", "Axe\u2013s")]
    [InlineData("(\\377\\376A\\000x\\000)", "Ax")]
    [InlineData("<EFBBBF417865E28093>", "Axe\u2013")]
    [InlineData("(\\357\\273\\277Axe\\342\\200\\223)", "Axe\u2013")]
    [InlineData("(Axes\\000)", "Axes")]
    public void ALayersNameIsReadAsItIsWritten(string written, string read) => Assert.Equal(read, Open(Page(
        "/OC /A BDC 10 50 m 190 50 l S EMC", resources: "/Properties << /A 6 0 R >>",
        catalogue: "/OCProperties << /OCGs [6 0 R] /D << >> >>", more: [$"<< /Type /OCG /Name {written} >>"])).Layers.Single().Name);

    /// <summary>Letters that only a font outside of the file has, such as these, are painted by a page and missing in its picture.</summary>
    [Theory]
    [InlineData("BT /F 20 Tf 20 40 Td (Bearing) Tj ET", 0, "")]
    [InlineData("BT /G 20 Tf 20 40 Td <00010002> Tj ET", 1, "नर")]
    [InlineData("BT /F 20 Tf 20 40 Td (Bearing) Tj ET 0.9 g 10 30 180 40 re f", 1, "Bearing")]
    [InlineData("1 g BT /F 20 Tf 20 40 Td (Bearing) Tj ET", 0, "")]
    [InlineData("BT 3 Tr /F 20 Tf 20 40 Td (Bearing) Tj ET", 0, "")]
    [InlineData("BT /F 20 Tf 20 40 Td (Bearing) Tj ET BT /G 20 Tf 20 70 Td <00010002> Tj 0 -60 Td <00020001> Tj ET", 2, "नर")]
    public void WordsThatAPictureDoesNotShowAreTold(string paints, int lines, string first)
    {
        var pages = Open(Page(paints, resources: "/Font << /F 6 0 R /G 7 0 R >>", more:
        [
            "<< /Type /Font /Subtype /Type1 /BaseFont /Helvetica >>",
            "<< /Type /Font /Subtype /Type0 /BaseFont /Elsewhere /Encoding /Identity-H /DescendantFonts [8 0 R] /ToUnicode 10 0 R >>",
            "<< /Type /Font /Subtype /CIDFontType2 /BaseFont /Elsewhere /CIDSystemInfo << /Registry (Adobe) /Ordering (Identity) /Supplement 0 >> /FontDescriptor 9 0 R /DW 600 >>",
            "<< /Type /FontDescriptor /FontName /Elsewhere /Flags 32 /FontBBox [0 -200 1000 800] /ItalicAngle 0 /Ascent 800 /Descent -200 /CapHeight 700 /StemV 80 >>",
            Map,
        ]));
        Assert.NotEmpty(pages.Picture(0, 1000));
        Assert.NotEmpty(pages.Picture(0, 200));
        var told = pages.NotShown.SingleOrDefault(n => n.Type == "line of words");
        Assert.Equal(lines, told?.Count ?? 0);
        if (told is not null) Assert.Contains($"“{first}”", told.Why, StringComparison.Ordinal);
    }

    /// <summary>Lines as large as the page, one over the other, under a box of one grey: each costs a look at all of it, so only some are looked for.</summary>
    [Fact]
    public void LinesThatLieOverOneAnotherWithoutEndAreLookedForOnlySoFar()
    {
        const int Lines = 100_000, Side = 1000;
        var builder = new SheetBuilder { KeepsInk = true };
        for (var i = 0; i < Lines; i++)
        {
            builder.Begin(new EntityLook((ulong)i + 1, 0, 0, 0, [], "TEXT"));
            builder.Text(new TextRun("BB", new(5, 5), new(90 / Lettering.Width("BB"), 0), new(0, 90), 0, 0, 0));
        }
        var sheet = builder.Build("Sheet", LengthUnit.Millimetre, [new Layer("Page", true, 0)], new Extents(0, 0, 100, 100));
        var grey = new byte[Side * Side * 4];
        Array.Fill(grey, (byte)230);
        Assert.InRange(UnseenWords.Of(sheet, grey, Side, Side, 10).Count(), 30, 60);
    }

    private const string ToLetters = "/CIDInit /ProcSet findresource begin 12 dict begin begincmap /CMapName /M def /CMapType 2 def 1 begincodespacerange <0000> <FFFF> endcodespacerange 2 beginbfchar <0001> <0928> <0002> <0930> endbfchar endcmap end end";

    private static readonly string Map = $"<< /Length {ToLetters.Length} >>\nstream\n{ToLetters}\nendstream";

    [Fact]
    public void SwitchingALayerTakesItOutOfThePicture()
    {
        var file = Layered("/OFF [7 0 R]");
        var change = Open(file).Facts(0).Switch!;
        var (asItIs, all, none, onlyWalls) = (Ink(file), Ink(LayerSwitching.Hide(file, change, [])), Ink(LayerSwitching.Hide(file, change, ["6 0 R", "7 0 R"])), Ink(LayerSwitching.Hide(file, change, ["6 0 R"])));
        Assert.Equal(0, none);
        Assert.True(asItIs > 100 && onlyWalls > 1000);
        Assert.Equal(asItIs + onlyWalls, all);
    }

    private static int Ink(byte[] file)
    {
        using var bitmap = SKBitmap.Decode(Open(file).Picture(0, 400));
        return bitmap.Pixels.Count(p => p.Red < 128);
    }

    [Fact]
    public void PagesHaveTheLabelsThatTheFileGivesThem() => Assert.Equal(
        ["Sheet A-1", "Sheet 2"],
        Enumerable.Range(0, 2).Select(Open(Of(
            "<< /Type /Catalog /Pages 2 0 R /PageLabels << /Nums [0 << /S /D /P (A-) >> 1 << /S /D /St 2 >>] >> >>", "<< /Type /Pages /Kids [3 0 R 4 0 R] /Count 2 >>",
            "<< /Type /Page /Parent 2 0 R /MediaBox [0 0 10 10] >>", "<< /Type /Page /Parent 2 0 R /MediaBox [0 0 10 10] >>")).Leaf).Select(l => l.Name));

    [Fact]
    public void MarksOfTheFileComeWithWhoSaidWhatAndWhatItAnswers()
    {
        var marks = Open(Page(
            "", "/MediaBox [0 0 200 100] /Rotate 90 /Annots [6 0 R 7 0 R 8 0 R 9 0 R]", more:
            [
                "<< /Type /Annot /Subtype /Polygon /Rect [10 20 50 60] /BE << /S /C >> /NM (one) /T (Ada) /M (D:20261103140500+02'00') /Contents (Too thin) >>",
                "<< /Type /Annot /Subtype /Text /Rect [10 20 30 40] /IRT 6 0 R /T (Bo) /Contents (Agreed) >>",
                "<< /Type /Annot /Subtype /Text /Rect [10 20 30 40] /IRT 6 0 R /T (Bo) /State (Accepted) /StateModel (Review) >>",
                "<< /Type /Annot /Subtype /Link /Rect [0 0 5 5] >>",
            ])).Facts(0).Marks;
        Assert.Equal([("cloud", "Ada", "Too thin", null), ("note", "Bo", "Agreed", "one"), ("note", "Bo", "", "one")], marks.Select(m => (m.Kind, m.Author, m.Words, m.ReplyTo)));
        Assert.Equal(("Accepted", new DateTimeOffset(2026, 11, 3, 12, 5, 0, TimeSpan.Zero)), (marks[2].State, marks[0].At));
        // Turned by a quarter: what was 10 to 50 from the left is 150 to 190 from the bottom.
        var box = marks[0].Box;
        Assert.Equal([20, 150, 60, 190], new[] { box.MinX, box.MinY, box.MaxX, box.MaxY }.Select(v => Math.Round(v / Point, 1)));
    }

    [Theory]
    [InlineData("D:2026", "2026-01-01T00:00:00Z")]
    [InlineData("D:20261103", "2026-11-03T00:00:00Z")]
    [InlineData("D:20261103140500Z", "2026-11-03T14:05:00Z")]
    [InlineData("D:20261103140500-05'30'", "2026-11-03T19:35:00Z")]
    [InlineData("D:20261399", null)]
    [InlineData("yesterday", null)]
    public void ADateIsReadAsFarAsItIsStated(string words, string? at) => Assert.Equal(at is null ? null : DateTimeOffset.Parse(at, System.Globalization.CultureInfo.InvariantCulture), PageMarks.Time(words));

    [Fact]
    public void OurStrokesCoverWhatTheEngineDraws()
    {
        var pages = Open(Page("2 w 10 10 m 180 80 l S 3 w 40 20 100 60 re S 1 w 100 50 m 122 50 140 68 140 90 c S 0 0 1 rg 150 10 40 40 re f"));
        using var engine = SKBitmap.Decode(pages.Picture(0, 1000));
        using var ours = SKBitmap.Decode(Pictures.SheetPicture.Png(pages.Geometry(0), 1000));
        var (both, either) = (0, 0);
        for (var y = 0; y < Math.Min(engine.Height, ours.Height); y++)
            for (var x = 0; x < 1000; x++)
            {
                bool a = engine.GetPixel(x, y).Red < 128, b = ours.GetPixel(x, y).Red < 128;
                both += a && b ? 1 : 0;
                either += a || b ? 1 : 0;
            }
        // Edges are smoothed by two programs: what is left of the difference is less than a pixel's rim.
        Assert.InRange((double)both / either, 0.95, 1);
    }

    [Theory]
    [InlineData("")]
    [InlineData("%PDF-1.7\nnothing else")]
    [InlineData("a text")]
    public void WhatIsNoDocumentIsRefusedInWords(string file)
    {
        var (pages, fault) = PdfPages.Open(Encoding.Latin1.GetBytes(file), new ReadLimits());
        Assert.Null(pages);
        Assert.Contains("PDF", fault!.What, StringComparison.Ordinal);
    }

    [Fact]
    public void ALoopOfPagesEnds()
    {
        var (pages, fault) = PdfPages.Open(Of("<< /Type /Catalog /Pages 2 0 R >>", "<< /Type /Pages /Kids [2 0 R] /Count 1 >>"), new ReadLimits());
        Assert.True(fault is not null || pages!.Report(0) is not null);
    }

    [Fact]
    public void FormsThatDoubleWithoutEndAreGivenUp()
    {
        var forms = Enumerable.Range(6, 40).Select(i => Stream($"/N Do /N Do 0 {i} m 9 {i} l S", $"/Type /XObject /Subtype /Form /BBox [0 0 200 100] /Resources << /XObject << /N {i + 1} 0 R >> >>")).ToArray();
        var pages = Open(Page("/N Do", resources: "/XObject << /N 6 0 R >>", more: [.. forms, Stream("0 1 m 9 1 l S", "/Type /XObject /Subtype /Form /BBox [0 0 200 100]")]));
        Assert.Contains("Sheet 1", Assert.Throws<UnreadableException>(() => pages.Picture(0, 200)).Message, StringComparison.Ordinal);
    }

    [Fact]
    public void AStreamThatUnpacksIntoGigabytesIsNotUnpacked()
    {
        var zeros = new MemoryStream();
        using (var z = new ZLibStream(zeros, CompressionLevel.SmallestSize, leaveOpen: true))
            for (var i = 0; i < 300; i++) z.Write(Enumerable.Repeat((byte)' ', 1 << 20).ToArray());
        var pages = Open(Of(
            "<< /Type /Catalog /Pages 2 0 R >>", "<< /Type /Pages /Kids [3 0 R] /Count 1 >>", "<< /Type /Page /Parent 2 0 R /MediaBox [0 0 200 100] /Contents 4 0 R >>",
            Stream(Encoding.Latin1.GetString(zeros.ToArray()), "/Filter /FlateDecode")));
        Assert.Empty(pages.Geometry(0).Segments);
        Assert.Contains("unpacks", pages.NotShown.Single().Why, StringComparison.Ordinal);
    }

    [Fact]
    public void AnyBytesGivePagesOrOneClearLine()
    {
        var good = Layered("/OFF [7 0 R]");
        var random = new Random(7);
        for (var i = 0; i < 150; i++)
        {
            var bad = (byte[])good.Clone();
            for (var k = random.Next(1, 12); k > 0; k--) bad[random.Next(bad.Length)] = (byte)random.Next(256);
            if (random.Next(4) == 0) bad = bad[..random.Next(bad.Length)];
            var (content, fault) = new PdfDraftReader().Read(new MemoryStream(bad), new ReadLimits());
            if (content is null)
            {
                Assert.False(string.IsNullOrWhiteSpace(fault!.What));
                continue;
            }
            try
            {
                foreach (var form in content.Leaves.SelectMany(l => l.Forms)) form.Write(System.IO.Stream.Null);
                Assert.NotNull(content.Report());
            }
            catch (UnreadableException e)
            {
                Assert.Contains("cannot be shown", e.Message, StringComparison.Ordinal);
            }
        }
    }
}
