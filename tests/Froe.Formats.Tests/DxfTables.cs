using System.Diagnostics;
using System.Text;
using CsCheck;
using Froe.Core.Drawing;
using Froe.Formats.Dxf;
using SkiaSharp;
using Xunit;
using static Froe.Formats.Tests.SmallDxf;

namespace Froe.Formats.Tests;

/// <summary>The DXF reader on files small enough to be worked by hand, and on files meant to hurt.</summary>
public class DxfTables
{
    [Fact]
    public void ALineKeepsItsLayerColourUnitAndHandle()
    {
        var s = Sheet("0 LINE\n5 2A\n8 WALLS\n10 1\n20 2\n11 4\n21 6", "9 $INSUNITS\n70 6\n9 $ACADVER\n1 AC1032", "0 TABLE\n2 LAYER\n0 LAYER\n2 WALLS\n70 1\n62 1\n370 70\n0 ENDTAB");
        Assert.Equal([(1, 2, 4, 6)], Strokes(s));
        Assert.Equal(LengthUnit.Metre, s.Unit);
        Assert.Equal(0x2AUL, s.EntityHandle[0]);
        Assert.Equal(70, s.Styles[s.EntityStyle[0]].Weight);
        Assert.False(s.Layers.Single(l => l.Name == "WALLS").IsOn); // frozen
    }

    [Fact]
    public void NestedInsertsScaleTurnAndRepeat()
    {
        const string Blocks = "0 BLOCK\n2 UNIT\n10 1\n20 0\n0 LINE\n8 0\n10 1\n20 0\n11 2\n21 0\n0 ENDBLK\n0 BLOCK\n2 PAIR\n10 0\n20 0\n0 INSERT\n2 UNIT\n10 0\n20 0\n41 2\n42 2\n0 ENDBLK";
        var s = Sheet("0 INSERT\n8 L\n2 PAIR\n10 100\n20 50\n50 90\n70 2\n71 1\n44 10\n45 0", blocks: Blocks);
        // The unit line runs from the base point 2 long after scaling; turned by 90° it stands up; the columns run along the turned axis.
        Assert.Equal([(100, 50, 100, 52), (100, 60, 100, 62)], Strokes(s));
        // Layer 0 inside a block means the insertion's layer.
        Assert.Equal("L", s.Layers[s.Styles[s.EntityStyle[s.SegmentEntity[0]]].Layer].Name);
    }

    [Fact]
    public void AMirroringExtrusionTurnsAnArcOver()
    {
        var s = Sheet("0 ARC\n8 0\n10 -5\n20 0\n40 1\n50 0\n51 90\n210 0\n220 0\n230 -1");
        // In its own coordinates the centre is (-5, 0); seen from above x runs the other way.
        var strokes = Strokes(s);
        Assert.Equal((4, 0), (strokes[0].X0, strokes[0].Y0));
        Assert.Equal((5, 1), (strokes[^1].X1, strokes[^1].Y1));
    }

    [Fact]
    public void BulgesEllipsesAndSplinesAreDrawn()
    {
        var s = Sheet("0 LWPOLYLINE\n8 0\n90 2\n70 1\n10 0\n20 0\n42 1\n10 10\n20 0\n42 1\n0 ELLIPSE\n8 0\n10 50\n20 0\n11 10\n21 0\n40 0.5\n41 0\n42 6.283185307\n0 SPLINE\n8 0\n70 8\n71 2\n72 6\n73 3\n40 0\n40 0\n40 0\n40 1\n40 1\n40 1\n10 0\n20 100\n10 10\n20 120\n10 20\n20 100");
        Assert.Equal(-5, s.Extents.MinY, 1);
        Assert.Equal(60, s.Extents.MaxX, 3);
        Assert.Equal(110, s.Extents.MaxY, 1); // a parabola's top lies half way to its middle control point
    }

    [Fact]
    public void TextIsCleanedAndPlaced()
    {
        var d = Read(FileOf("0 TEXT\n8 0\n10 0\n20 0\n40 5\n1 %%c20 %%p0.1 %%d \\U+00B5m\n72 2\n73 3\n11 100\n21 50\n0 MTEXT\n8 0\n10 0\n20 0\n40 2\n71 1\n3 {\\fArial|b1;BREAK} EDGES\\P\n1 \\A1;H\\S+0.1^-0.2; \\{x\\}"));
        var texts = d.Sheets[0].Texts;
        Assert.Equal(["Ø20 ±0.1 ° µm", "BREAK EDGES", "H", "+0.1", "-0.2", " {x}"], texts.Select(t => t.Text));
        Assert.Equal((new PointXY(100, 50), 1f, 1f), (texts[0].At, texts[0].Anchor, texts[0].Rise));
        Assert.Equal(-2 * 5 / 3.0, texts[2].At.Y - texts[1].At.Y, 6);
    }

    [Theory]
    [InlineData("ANSI_1252", new byte[] { 0x4D, 0xFC, 0x6C, 0x6C }, "Müll")]
    [InlineData("ANSI_936", new byte[] { 0xD6, 0xD0 }, "中")]
    [InlineData("ANSI_1252", new byte[] { 0x4D, 0xC3, 0xBC, 0x6C, 0x6C }, "Müll")] // UTF-8 under an ANSI header
    [InlineData(null, new byte[] { 0xD6, 0xD0, 0xCE, 0xC4 }, "中文")] // no page stated
    [InlineData(null, new byte[] { 0x41, 0x00, 0x42 }, "A\uFFFDB")] // nothing keeps U+0000
    [InlineData("ANSI_1251", new byte[] { 0xC2, 0xE0, 0xEB }, "Вал")]
    public void CodePagesAreRead(string? page, byte[] bytes, string words)
    {
        var text = new DxfText();
        text.Declare(page, utf8Version: false);
        Assert.Equal(words, text.Decode(bytes));
    }

    [Theory]
    [InlineData("\\M+5D6D0", "中")]
    [InlineData("\\U+4E2D", "中")]
    [InlineData("a\\U+0000b\\U+D83D", "a\uFFFDb\uFFFD")]
    [InlineData("100%", "100%")]
    [InlineData("%%065", "A")]
    public void EscapesAreResolved(string raw, string words) => Assert.Equal(words, DxfText.Plain(raw));

    [Theory]
    [InlineData("12.5", 12.5)]
    [InlineData("12,5", 12.5)]
    [InlineData("-0.000001", -0.000001)]
    [InlineData("1e3", 1000)]
    [InlineData("+7", 7)]
    [InlineData("0.1234567890123456789", 0.12345678901234568)]
    [InlineData("123456789012345678901234567890", 1.2345678901234568e29)]
    [InlineData("5.", 5)]
    [InlineData("-.25", -0.25)]
    [InlineData("999999999999999", 999999999999999)]
    [InlineData("0000000000000000000000000000007.5", 7.5)]
    public void NumbersAreExact(string text, double value)
    {
        Assert.Equal(value, GroupReader.ParseNumber(Encoding.ASCII.GetBytes(text), 1));
        foreach (var read in InAFile(text)) Assert.Equal(value, read);
    }

    [Theory]
    [InlineData("")]
    [InlineData("-")]
    [InlineData(".")]
    [InlineData("1.2.3")]
    [InlineData("12 34")]
    [InlineData("--1")]
    [InlineData("0x10")]
    public void WhatIsNoNumberIsRefusedWhereverItStands(string text)
    {
        foreach (var tail in Tails) Assert.Equal(4, Assert.Throws<DxfFormatException>(() => NumberOf($"0\nLINE\n10\n{text}\n{tail}")).Line);
    }

    /// <summary>What follows a number: nothing, or enough that it is read in one pass.</summary>
    private static readonly string[] Tails = ["", "0\nEOF\n", $"20\n{new string('1', 12)}\n30\n0\n0\nEOF\n0\nEOF\n"];

    private static IEnumerable<double> InAFile(string text) =>
        from tail in Tails
        from end in new[] { "\n", "\r\n" }
        from before in new[] { "", "  ", "          " }
        from after in new[] { "", " " }
        select NumberOf($"0{end}LINE{end} 10{end}{before}{text}{after}{end}{tail}");

    private static double NumberOf(string file)
    {
        var reader = new GroupReader(new MemoryStream(Encoding.ASCII.GetBytes(file)));
        var record = new Dxf.Record();
        // Entities are read so: plain groups in one loop, the others one by one. The first read fills the buffer.
        Assert.True(reader.Read());
        Assert.Equal("LINE", Encoding.ASCII.GetString(reader.Word));
        reader.ReadPlain(record);
        if (record.Count == 0)
        {
            Assert.True(reader.Read());
            record.Add(reader);
        }
        Assert.Equal(10, record.Code(0));
        return record.Number(0);
    }

    [Fact]
    public void NumbersReadAsTheRuntimeReadsThem() => Gen.Double.Where(double.IsFinite).Sample(d =>
    {
        var text = d.ToString("R", System.Globalization.CultureInfo.InvariantCulture);
        return GroupReader.ParseNumber(Encoding.ASCII.GetBytes(text), 1) == d && InAFile(text).All(read => read == d);
    });

    [Fact]
    public void HatchesFillAndLineTheirArea()
    {
        const string Square = "91 1\n92 2\n72 0\n73 1\n93 4\n10 0\n20 0\n10 10\n20 0\n10 10\n20 10\n10 0\n20 10\n97 0\n75 0\n76 1\n";
        var s = Sheet($"0 HATCH\n8 0\n10 0\n20 0\n2 SOLID\n70 1\n71 0\n{Square}98 0\n0 HATCH\n8 0\n10 0\n20 0\n2 LINE\n70 0\n71 0\n{Square}52 0\n41 1\n77 0\n78 1\n53 0\n43 0\n44 0.5\n45 0\n46 1\n79 0\n98 0");
        Assert.Equal(2, s.TriangleEntity.Length);
        Assert.Equal(10, s.SegmentEntity.Length);
    }

    [Fact]
    public void APaperSheetShowsTheModelThroughItsViewportCutToItsEdge()
    {
        var d = Read(FileOf("0 LINE\n8 0\n10 -100\n20 0\n11 100\n21 0\n0 LINE\n67 1\n8 0\n10 0\n20 0\n11 297\n21 0\n0 VIEWPORT\n67 1\n8 0\n10 100\n20 100\n40 40\n41 20\n69 2\n12 0\n22 0\n45 10"));
        Assert.Equal(["Paper", "Model"], d.Sheets.Select(s => s.Name));
        // 20 high for 10 of model: twice the size, centred on (100, 100), 40 wide.
        Assert.Contains((80, 100, 120, 100), Strokes(d.Sheets[0]));
    }

    [Fact]
    public void DimensionsShowTheirBlockAndUnknownEntitiesAreReported()
    {
        var d = Read(FileOf("0 DIMENSION\n8 0\n2 *D1\n70 33\n0 DIMENSION\n8 0\n2 *D9\n70 33\n0 3DSOLID\n8 0\n1 abc", blocks: "0 BLOCK\n2 *D1\n10 0\n20 0\n0 LINE\n8 0\n10 0\n20 0\n11 5\n21 0\n0 ENDBLK"));
        Assert.Equal([(0, 0, 5, 0)], Strokes(d.Sheets[0]));
        Assert.Equal(["3DSOLID", "DIMENSION"], d.NotShown.Select(n => n.Type));
        Assert.Equal(2, d.EntityCounts["DIMENSION"]);
    }

    [Fact]
    public void DashesRunOnRoundCorners()
    {
        var s = Sheet("0 LWPOLYLINE\n8 0\n6 DASH\n90 3\n70 0\n10 0\n20 0\n10 3\n20 0\n10 3\n20 5", tables: "0 TABLE\n2 LTYPE\n0 LTYPE\n2 DASH\n49 2\n49 -2\n0 ENDTAB");
        // Drawn 0–2, gap 2–4, drawn 4–6, gap 6–8 along the run; the corner is at 3.
        Assert.Equal([(0, 0, 2, 0), (3, 1, 3, 3)], Strokes(s));
    }

    [Theory]
    [InlineData("hello\nworld\n", 1, "does not look like a DXF")]
    [InlineData("0\nSECTION\n2\nENTITIES\n0\nLINE\n10\nabc\n", 8, "A number was expected")]
    [InlineData("0\nSECTION\n2\nENTITIES\n0\nLINE\n10\n1\n", 8, "ends inside an entity")]
    [InlineData("0\nSECTION\n2\nENTITIES\n0\nENDSEC\n", 6, "end mark")]
    [InlineData("0\nSECTION\n2\nHEADER\n0\nENDSEC\n0\nEOF\n", 8, "no ENTITIES")]
    [InlineData("0\nSECTION\n2\nENTITIES\n0\nLINE\nxx\n", 7, "group code")]
    public void ABrokenFileIsToldByLineAndRemedy(string file, int line, string what)
    {
        var fault = DxfReader.Read(new MemoryStream(Encoding.ASCII.GetBytes(file))).Fault;
        Assert.NotNull(fault);
        Assert.Equal(line, fault.Line);
        Assert.Contains(what, fault.What, StringComparison.Ordinal);
        Assert.Equal(fault, DxfReader.Survey(new MemoryStream(Encoding.ASCII.GetBytes(file))).Fault);
    }

    [Theory]
    [InlineData("%PDF-1.7 …", "PDF")]
    [InlineData("AC1032\0\0", "binary drawing")]
    [InlineData("", "empty")]
    [InlineData("0\nSEC\0TION", "binary")]
    public void AForeignFileIsToldByKind(string file, string what) =>
        Assert.Contains(what, DxfReader.Read(new MemoryStream(Encoding.Latin1.GetBytes(file))).Fault?.What, StringComparison.Ordinal);

    [Fact]
    public void NestingAndRepetitionBombsAreRefusedQuickly()
    {
        var deep = string.Concat(Enumerable.Range(0, 30).Select(i => $"0 BLOCK\n2 B{i}\n10 0\n20 0\n" + string.Concat(Enumerable.Repeat($"0 INSERT\n2 B{i + 1}\n10 0\n20 0\n", 10)) + "0 ENDBLK\n"));
        var watch = Stopwatch.StartNew();
        foreach (var (file, what) in new[]
        {
            (FileOf("0 INSERT\n2 SELF\n10 0\n20 0", blocks: "0 BLOCK\n2 SELF\n10 0\n20 0\n0 INSERT\n2 SELF\n10 0\n20 0\n0 ENDBLK"), "nested"),
            (FileOf("0 INSERT\n2 B0\n10 0\n20 0", blocks: deep), "nested"),
            (FileOf("0 INSERT\n2 A\n10 0\n20 0\n70 30000\n71 30000", blocks: "0 BLOCK\n2 A\n10 0\n20 0\n0 ENDBLK"), "multiply"),
        })
            Assert.Contains(what, DxfReader.Read(new MemoryStream(file)).Fault?.What, StringComparison.Ordinal);
        Assert.True(watch.Elapsed < TimeSpan.FromMinutes(1));
    }

    [Fact]
    public void AnyBytesGiveASheetOrAnError() => Gen.OneOf(
        Gen.Byte.Array[0, 2000],
        Gen.Select(Gen.Int[0, 4000], Gen.Byte, (at, b) =>
        {
            var file = Sample();
            file[at % file.Length] = b;
            return file;
        })).Sample(
        file =>
        {
            var result = DxfReader.Read(new MemoryStream(file));
            var (survey, fault) = DxfReader.Survey(new MemoryStream(file));
            // Whatever can be drawn can be surveyed; a fault that only drawing meets is the one way to differ.
            return result.Drawing is null != result.Fault is null && survey is null != fault is null && (result.Drawing is null || survey is not null);
        }, iter: 4000);

    private static byte[] Sample() => FileOf(
        "0 INSERT\n8 0\n2 A\n10 5\n20 5\n66 1\n0 ATTRIB\n8 0\n10 1\n20 1\n40 2\n1 TAG\n2 T\n70 0\n0 SEQEND\n0 POLYLINE\n8 0\n66 1\n70 1\n0 VERTEX\n8 0\n10 0\n20 0\n42 0.5\n0 VERTEX\n8 0\n10 5\n20 0\n0 SEQEND\n0 HATCH\n8 0\n70 0\n91 1\n92 1\n93 2\n72 1\n10 0\n20 0\n11 5\n21 5\n72 2\n10 1\n20 1\n40 3\n50 0\n51 180\n73 1\n97 0\n75 0\n76 1\n78 1\n53 45\n43 0\n44 0\n45 0\n46 1\n79 2\n49 1\n49 -1\n0 SOLID\n8 0\n10 0\n20 0\n11 1\n21 0\n12 0\n22 1\n13 1\n23 1",
        "9 $EXTMIN\n10 0\n20 0\n9 $EXTMAX\n10 10\n20 10", "0 TABLE\n2 LAYER\n0 LAYER\n2 0\n62 7\n0 ENDTAB", "0 BLOCK\n2 A\n10 0\n20 0\n0 CIRCLE\n8 0\n10 0\n20 0\n40 3\n0 ENDBLK");

    [Fact]
    public void EveryDemoDrawingIsReadWhole()
    {
        var folder = new DirectoryInfo(AppContext.BaseDirectory);
        while (!File.Exists(Path.Combine(folder.FullName, "Froe.slnx"))) folder = folder.Parent!;
        var files = Directory.GetFiles(Path.Combine(folder.FullName, "demo", "drawings"), "*.dxf");
        Assert.True(files.Length >= 8);
        foreach (var file in files)
        {
            using var stream = File.OpenRead(file);
            var drawing = DxfReader.Read(stream).Drawing;
            Assert.NotNull(drawing);
            Assert.Empty(drawing.NotShown);
            Assert.InRange(drawing.EntityCounts.Values.Sum(), 100, 6000);
            // Surveyed, it holds the same, though nothing was drawn.
            stream.Position = 0;
            var survey = DxfReader.Survey(stream).Survey;
            Assert.NotNull(survey);
            Assert.Equal(drawing.EntityCounts.OrderBy(c => c.Key, StringComparer.Ordinal), survey.EntityCounts.OrderBy(c => c.Key, StringComparer.Ordinal));
            Assert.Equal((drawing.Version, drawing.Encoding, drawing.Sheets[0].Unit), (survey.Version, survey.Encoding, survey.Unit));
            Assert.Equal(drawing.Sheets[0].Layers.Select(l => l.Name), survey.Layers);
            using var prepared = new MemoryStream();
            PreparedSheet.WriteGeometry(drawing.Sheets[0], prepared);
            Assert.Equal("FRSH"u8.ToArray(), prepared.ToArray()[..4]);
            Assert.True(Pictures.SheetPicture.Png(drawing.Sheets[0], 200).Length > 1000);
        }
    }

    /// <summary>A red solid across the sheet is red in either file format, not its blue mirror: both hold the very same points.</summary>
    [Fact]
    public void A_picture_has_the_colours_of_the_sheet_in_both_of_its_formats()
    {
        var sheet = SmallDxf.Sheet("0 SOLID\n8 0\n62 1\n10 0\n20 0\n11 200\n21 0\n12 0\n22 100\n13 200\n23 100");
        using var png = SKBitmap.Decode(Pictures.SheetPicture.Png(sheet, 64));
        using var webp = SKBitmap.Decode(Pictures.SheetPicture.WebP(sheet, 64));
        Assert.Equal((png.Width, png.Height), (webp.Width, webp.Height));
        Assert.Equal(png.Pixels, webp.Pixels);
        var middle = webp.GetPixel(webp.Width / 2, webp.Height / 2);
        Assert.True(middle.Red > middle.Blue + 60, middle.ToString());
    }
}
