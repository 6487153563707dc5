using System.Globalization;
using System.IO.Compression;
using System.Text;
using System.Text.Json;
using CsCheck;
using Froe.Core.Draft;
using Froe.Formats.Tables;
using Xunit;

namespace Froe.Formats.Tests;

/// <summary>Spreadsheets and lists of values as tables. Numbers are formatted as ISO/IEC 29500-1, 18.8.30 and 18.8.31 have it; worked by hand.</summary>
public class TableTables
{
    [Theory]
    [InlineData("General", 0.1 + 0.2, "0.3")]
    [InlineData("General", 1234567.891, "1234567.891")]
    [InlineData("General", 5.0263157894736841, "5.026315789")]
    [InlineData("General", 12345678901, "12345678901")]
    [InlineData("General", 0.02121177529641305, "0.021211775")]
    [InlineData("General", 12345678901234, "1.23457E+13")]
    [InlineData("General", 0.00001234, "1.234E-05")]
    [InlineData("General", -7, "-7")]
    [InlineData("0", 2.5, "3")]
    [InlineData("0.00", 1.005, "1.01")]
    [InlineData("0.00", -0.001, "0.00")]
    [InlineData("#,##0", 1234567, "1,234,567")]
    [InlineData("#,##0.00", -1234.5, "-1,234.50")]
    [InlineData("#,##0 ;(#,##0)", -1234, "(1,234)")]
    [InlineData("0.0,,", 12345678, "12.3")]
    [InlineData("00000", 42, "00042")]
    [InlineData("000-00-0000", 123456789, "123-45-6789")]
    [InlineData("0.0##", 3.1, "3.1")]
    [InlineData("#.##", 0.5, ".5")]
    [InlineData("0%", 0.125, "13%")]
    [InlineData("0.0\" kg\"", 12.34, "12.3 kg")]
    [InlineData("\\Ø 0", 40, "Ø 40")]
    [InlineData("[$€-407] #,##0.00", 5, "€ 5.00")]
    [InlineData("0.00E+00", 12345, "1.23E+04")]
    [InlineData("##0.0E+0", 12345, "12.3E+3")]
    [InlineData("0.00E-00", 0.00012, "1.20E-04")]
    [InlineData("# ?/?", 2.25, "2 1/4")]
    [InlineData("# ?/8", 1.5, "1 4/8")]
    [InlineData("# ??/??", 0.3125, "5/16")]
    [InlineData("[<1]0.00;[<100]0.0;0", 0.256, "0.26")]
    [InlineData("[<1]0.00;[<100]0.0;0", 25.61, "25.6")]
    [InlineData("[<1]0.00;[<100]0.0;0", 256.1, "256")]
    [InlineData("0;-0;\"none\"", 0, "none")]
    [InlineData("yyyy-mm-dd", 46000, "2025-12-09")]
    [InlineData("d/m/yy", 1, "1/1/00")]
    [InlineData("yyyy-mm-dd", 61, "1900-03-01")]
    [InlineData("d mmm yyyy", 46000, "9 Dec 2025")]
    [InlineData("dddd d mmmm", 46000, "Tuesday 9 December")]
    [InlineData("h:mm AM/PM", 0.75, "6:00 PM")]
    [InlineData("h:mm AM/PM", 0, "12:00 AM")]
    [InlineData("[h]:mm", 1.5, "36:00")]
    [InlineData("mm:ss.0", 0.0007, "01:00.5")]
    [InlineData("[hh]:mm:ss.000", 0.333333333, "08:00:00.000")]
    [InlineData("hh:mm:ss.0", 0.6666666, "16:00:00.0")]
    [InlineData("yyyy-mm-dd hh:mm:ss.00", 46000.99999999, "2025-12-10 00:00:00.00")]
    [InlineData("[h]:mm", -0.5, "-12:00")]
    [InlineData("[h]:mm;-[h]:mm", -1.25, "-30:00")]
    [InlineData("[mm]:ss", 0.6666666, "960:00")]
    [InlineData("h:mm", -0.5, "-0.5")]
    [InlineData("yyyy-mm-dd", -1, "-1")]
    [InlineData("AM/PM", 0.75, "PM")]
    [InlineData("?/?", 1e20, "100000000000000000000")]
    [InlineData("# ?/?", -0.01, "0")]
    [InlineData("# ?/?", -2.5, "-2 1/2")]
    [InlineData("h:mm:ss", 0.999999999, "0:00:00")]
    [InlineData("@", 12, "12")]
    public void ANumberIsWrittenAsItsFormatSays(string code, double value, string words) => Assert.Equal(words, NumberFormat.Parse(code).Of(value).Text);

    /// <summary>Against the calendar and the rounding of the platform's own numbers: each of its random days, times, spans and decimals.</summary>
    [Fact]
    public void DatesSpansAndDecimalsAgreeWithThePlatforms()
    {
        string Of(string code, double value) => NumberFormat.Parse(code).Of(value).Text;
        var seconds = from day in Gen.Int[61, 2_958_464] from part in Gen.Int[0, 86_399_999] select (Day: day, Milliseconds: part);
        seconds.Sample(t =>
        {
            var value = t.Day + (t.Milliseconds / 86_400_000.0);
            var exact = new DateTime(1899, 12, 30, 0, 0, 0, DateTimeKind.Unspecified).AddDays(t.Day).AddMilliseconds(t.Milliseconds);
            // To the second, halves upwards; a double of five figures of days tells a millisecond, and no more.
            var nearest = t.Milliseconds % 1000 == 500 ? (DateTime?)null : exact.AddMilliseconds(500).AddTicks(-(exact.AddMilliseconds(500).Ticks % TimeSpan.TicksPerSecond));
            if (nearest is { } second)
            {
                Assert.Equal(second.ToString("yyyy-MM-dd HH:mm:ss", CultureInfo.InvariantCulture), Of("yyyy-mm-dd hh:mm:ss", value));
                Assert.Equal(second.ToString("dddd d MMM yy h:mm tt", CultureInfo.InvariantCulture), Of("dddd d mmm yy h:mm AM/PM", value));
                var all = (second - new DateTime(1899, 12, 30, 0, 0, 0, DateTimeKind.Unspecified)).Ticks / TimeSpan.TicksPerSecond;
                Assert.Equal(string.Create(CultureInfo.InvariantCulture, $"{all / 3600}:{all / 60 % 60:00}:{all % 60:00}"), Of("[h]:mm:ss", value));
                Assert.Equal(string.Create(CultureInfo.InvariantCulture, $"-{all / 60}:{all % 60:00}"), Of("[m]:ss", -value));
            }
            Assert.Equal(exact.ToString("HH:mm:ss.fff", CultureInfo.InvariantCulture), Of("hh:mm:ss.000", value));
        }, iter: 20_000);
        var decimals = from whole in Gen.Long[-9_999_999_999, 9_999_999_999] from scale in Gen.Int[0, 5] from places in Gen.Int[0, 5] select (Value: new decimal(whole) / (decimal)Math.Pow(10, scale), Places: places);
        decimals.Sample(d =>
        {
            var rounded = Math.Round(d.Value, d.Places, MidpointRounding.AwayFromZero);
            var zeros = d.Places == 0 ? "" : "." + new string('0', d.Places);
            Assert.Equal(rounded.ToString("0" + zeros, CultureInfo.InvariantCulture), Of("0" + zeros, (double)d.Value));
            Assert.Equal(rounded.ToString("#,##0" + zeros, CultureInfo.InvariantCulture), Of("#,##0" + zeros, (double)d.Value));
            Assert.Equal(Math.Abs(rounded).ToString("0" + zeros, CultureInfo.InvariantCulture), Of($"0{zeros};0{zeros}", (double)d.Value));
        }, iter: 20_000);
    }

    [Fact]
    public void AFormatSaysItsColourAndWhatItMakesOfWords()
    {
        var format = NumberFormat.Parse("0;[Red]-0;0;\"see \"@");
        Assert.Equal(("-5", "#ff0000"), format.Of(-5));
        Assert.Equal(("see page 2", (string?)null), format.Of("page 2"));
        Assert.Equal("1904-01-01", NumberFormat.Parse("yyyy-mm-dd").Of(0, from1904: true).Text);
    }

    [Fact]
    public void EveryFormatGivesWordsForEveryNumber()
    {
        var random = new Random(7);
        const string Letters = "0#?.,%E+-/@;[]\"\\_*yмmdhs AP<>=15 general$";
        for (var i = 0; i < 3_000; i++)
        {
            var code = new string([.. Enumerable.Range(0, random.Next(1, 14)).Select(_ => Letters[random.Next(Letters.Length)])]);
            var format = NumberFormat.Parse(code);
            foreach (var value in (double[])[0, -1.5, 1e300, -1e-300, 46000.25, double.NaN, double.MaxValue, -1]) Assert.NotNull(format.Of(value).Text);
            Assert.NotNull(format.Of("words").Text);
        }
    }

    private const string Styles = """
        <numFmts count="1"><numFmt numFmtId="164" formatCode="0.0&quot; kg&quot;"/></numFmts>
        <fonts count="2"><font><sz val="11"/></font><font><b/><sz val="14"/><color rgb="FF112233"/></font></fonts>
        <fills count="3"><fill><patternFill patternType="none"/></fill><fill><patternFill patternType="gray125"/></fill><fill><patternFill patternType="solid"><fgColor rgb="FFFFEEAA"/></patternFill></fill></fills>
        <borders count="2"><border/><border><left/><right/><top/><bottom style="medium"><color indexed="10"/></bottom></border></borders>
        <cellXfs count="4"><xf/><xf fontId="1" fillId="2" borderId="1"><alignment horizontal="center" vertical="top" wrapText="1" textRotation="135"/></xf><xf numFmtId="164"/><xf numFmtId="14"/></cellXfs>
        """;

    private static (DraftContent Content, List<TableFacts> Facts, List<List<TableRow>> Rows) Read(Stream file, string name)
    {
        var (content, fault) = Readers.For(name).Read(file, new ReadLimits());
        Assert.Null(fault);
        var facts = new List<TableFacts>();
        var rows = new List<List<TableRow>>();
        foreach (var leaf in content!.Leaves)
        {
            using var pack = new MemoryStream();
            leaf.Forms.Single(f => f.Name == LeafForms.Cells).Write(pack);
            facts.Add(CellPack.Facts(pack));
            rows.Add([.. Enumerable.Range(0, CellPack.Blocks(pack)).SelectMany(i => JsonSerializer.Deserialize<TableBlock>(CellPack.Block(pack, i)!, FormJson.Options)!.Rows)]);
            Assert.Null(CellPack.Block(pack, CellPack.Blocks(pack)));
        }
        return (content, facts, rows);
    }

    [Fact]
    public void WhatLiesOverCellsOrIsDrawnInThemIsToldAndCountedOnce()
    {
        using var file = SmallWorkbook.Of(
            [
                ("Rates", """
                    <sheetData><row><c><v>1</v></c></row></sheetData>
                    <oleObjects><mc:AlternateContent xmlns:mc="http://schemas.openxmlformats.org/markup-compatibility/2006"><mc:Choice Requires="x14"><oleObject progId="P" shapeId="1025"/></mc:Choice><mc:Fallback><oleObject progId="P" shapeId="1025"/></mc:Fallback></mc:AlternateContent></oleObjects>
                    <controls><control shapeId="1026" name="Go"/></controls>
                    <extLst><ext uri="{05C60535-1F16-4fd2-B633-F4F36F0B64E0}" xmlns:x14="urn:more"><x14:sparklineGroups><x14:sparklineGroup><x14:sparklines><x14:sparkline/><x14:sparkline/></x14:sparklines></x14:sparklineGroup></x14:sparklineGroups></ext></extLst>
                    """, "visible"),
            ]);
        var (content, _, _) = Read(file, "rates.xlsx");
        Assert.Equal([("button or box", 1), ("chart in a cell", 2), ("embedded object", 1)], content.Report().NotShown.Select(n => (n.Type, n.Count)).Order());
    }

    [Fact]
    public void AWorkbookIsItsTabsWithWhatStandsInTheirCells()
    {
        var file = SmallWorkbook.Of(
            [
                ("Parts", """
                    <sheetViews><sheetView showGridLines="0" workbookViewId="0"><pane xSplit="1" ySplit="2" state="frozen"/></sheetView></sheetViews>
                    <cols><col min="2" max="2" width="20" customWidth="1"/><col min="3" max="3" width="10" hidden="1"/></cols>
                    <sheetData>
                      <row r="1" ht="30"><c r="A1" s="1" t="s"><v>0</v></c></row>
                      <row r="2"><c r="A2" t="inlineStr"><is><t>Mass</t></is></c><c r="B2" s="2"><v>12.34</v></c><c r="D2" s="3"><v>46000</v></c></row>
                      <row r="4" hidden="1"><c r="A4" t="b"><v>1</v></c><c r="B4" t="e"><v>#DIV/0!</v></c><c r="C4"><f>1+1</f></c><c r="D4" t="str"><f>A2</f><v>so</v></c></row>
                    </sheetData><mergeCells><mergeCell ref="A1:D1"/></mergeCells><conditionalFormatting sqref="A1"/>
                    """, "visible"),
                ("Old", "<sheetData><row><c><v>1</v></c><c><v>2</v></c></row></sheetData>", "hidden"),
            ], Styles, "<si><r><t>Rail </t></r><r><rPr><b/></rPr><t>list</t></r><rPh><t>no</t></rPh></si>");
        var (content, layouts, rows) = Read(file, "list.XLSX");
        Assert.Equal([("Parts", new TableFrame(4, 4)), ("Old (hidden in the file)", new TableFrame(1, 2))], content.Leaves.Select(l => (l.Leaf.Name, (TableFrame)l.Leaf.Frame)));
        var facts = layouts[0];
        Assert.Equal((2, 1, false), (facts.FrozenRows, facts.FrozenColumns, facts.HasGrid));
        Assert.Equal([64, 140, 70, 64], facts.Widths);
        Assert.Equal([new RowHeight(0, 40)], facts.Heights);
        Assert.Equal([2], facts.HiddenColumns);
        Assert.Equal([new RowSpan(3, 3)], facts.HiddenRows);
        Assert.Equal([new MergedCells(0, 0, 1, 4)], facts.Merges);
        Assert.Equal(["Rail list", "Mass", "12.3 kg", "2025-12-09", "TRUE", "#DIV/0!", "so"], rows[0].SelectMany(r => r.Cells).Select(c => c.Text));
        Assert.Equal([0, 1, 3], rows[0][1].Cells.Select(c => c.Column));
        Assert.Equal(
            new CellStyle("#112233", "#ffeeaa", true, Size: 14, Across: CellAcross.Centre, Down: CellDown.Top, Wraps: true, Turn: -45, Bottom: new CellLine(2, CellDash.Solid, "#ff0000")),
            facts.Styles[rows[0][0].Cells[0].Style]);
        Assert.Equal([CellAcross.Left, CellAcross.Right, CellAcross.Right], rows[0][1].Cells.Select(c => facts.Styles[c.Style].Across));
        Assert.Equal([("colour by condition", 1), ("formula", 1)], content.Report().NotShown.Select(n => (n.Type, n.Count)).Order());
        // Words are found where their cells are: columns across, rows down.
        using var text = new MemoryStream();
        content.Leaves[0].Forms.Single(f => f.Name == LeafForms.Text).Write(text);
        text.Position = 0;
        var mass = WrittenForm.Read(text).Single(l => l.Text == "Mass");
        Assert.Equal((0, 1, 1, 1), ((int)mass.At.X, (int)mass.At.Y, (int)mass.Along.X, (int)mass.Up.Y));
    }

    [Fact]
    public void ARelationToAPartThatIsMissingIsNoFault()
    {
        var file = SmallWorkbook.Of([("T", "<sheetData><row><c><v>7</v></c></row></sheetData><legacyDrawing/>", "visible")]);
        using (var zip = new ZipArchive(file, ZipArchiveMode.Update, true))
        {
            using var to = new StreamWriter(zip.CreateEntry("xl/worksheets/_rels/sheet0.xml.rels").Open());
            to.Write("""<?xml version="1.0"?><Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="v1" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/vmlDrawing" Target="../drawings/gone.vml"/></Relationships>""");
        }
        file.Position = 0;
        Assert.Equal("7", Read(file, "t.xlsx").Rows[0][0].Cells[0].Text);
    }

    [Fact]
    public void ATableEndsWithItsWordsHoweverFarItsLooksReach()
    {
        var rows = string.Concat(Enumerable.Range(1, 5000).Select(r => $"<row r=\"{r}\"><c r=\"A{r}\" s=\"1\"/></row>"));
        var (content, _, _) = Read(SmallWorkbook.Of([("T", $"<sheetData>{rows.Replace("<c r=\"A3\" s=\"1\"/>", "<c r=\"A3\"><v>3</v></c>", StringComparison.Ordinal)}</sheetData><mergeCells><mergeCell ref=\"A1:XFD1\"/></mergeCells>", "visible")], Styles), "t.xlsx");
        Assert.InRange(((TableFrame)content.Leaves[0].Leaf.Frame).Rows, 3, 53);
        Assert.InRange(((TableFrame)content.Leaves[0].Leaf.Frame).Columns, 1, 51);
    }

    [Theory]
    [InlineData("a;b\n1,5;2\n", ';')]
    [InlineData("a,b\n\"x, y\",\"say \"\"so\"\"\"\n", ',')]
    [InlineData("a\tb\n1\t2\n", '\t')]
    [InlineData("sep=|\na|b\n1|2\n", '|')]
    public void AListIsPartedByWhateverPartsIt(string text, char by)
    {
        var (content, layouts, rows) = Read(new MemoryStream(Encoding.UTF8.GetBytes(text)), by == '\t' ? "x.tsv" : "x.csv");
        Assert.Equal(new TableFrame(2, 2), content.Leaves[0].Leaf.Frame);
        Assert.Equal(["a", "b"], rows[0][0].Cells.Select(c => c.Text));
        Assert.Equal(1, layouts[0].FrozenRows);
        if (by == ',') Assert.Equal(["x, y", "say \"so\""], rows[0][1].Cells.Select(c => c.Text));
    }

    [Fact]
    public void AHundredThousandRowsComeInBlocks()
    {
        var text = new StringBuilder("number,title,mass\n");
        for (var i = 1; i < 100_000; i++) text.Append(i).Append(",Bracket ").Append(i % 977).Append(',').Append(i % 31).Append(".5\n");
        var (content, layouts, rows) = Read(new MemoryStream(Encoding.UTF8.GetBytes(text.ToString())), "big.csv");
        Assert.Equal(new TableFrame(100_000, 3), content.Leaves[0].Leaf.Frame);
        Assert.Equal((200, 3), (layouts[0].RowsInBlock, layouts[0].Widths.Count));
        Assert.Equal("99999", rows[0][^1].Cells[0].Text);
    }

    [Fact]
    public void WhatIsNoWorkbookIsRefusedInWords()
    {
        string Fault(byte[] file)
        {
            var (content, fault) = Readers.For("x.xlsx").Read(new MemoryStream(file), new ReadLimits());
            Assert.Null(content);
            return fault!.ToString();
        }
        Assert.Contains("password", Fault([0xD0, 0xCF, 0x11, 0xE0, 1, 2, 3]), StringComparison.Ordinal);
        Assert.Contains("damaged", Fault([1, 2, 3]), StringComparison.Ordinal);
        var whole = SmallWorkbook.Of([("T", "<sheetData><row><c><v>1</v></c></row></sheetData>", "visible")]).ToArray();
        Assert.Contains("damaged", Fault(whole[..^30]), StringComparison.Ordinal);
        Assert.Contains("damaged", Fault(SmallWorkbook.Of([("T", "<sheetData><row>&undeclared;</row></sheetData>", "visible")]).ToArray()), StringComparison.Ordinal);
        // A part that says of itself that it unpacks to four gigabytes (APPNOTE 4.3.12: the size stands 24 bytes into its entry in the directory).
        var bomb = (byte[])whole.Clone();
        ((ReadOnlySpan<byte>)[0xF0, 0xFF, 0xFF, 0xFF]).CopyTo(bomb.AsSpan(bomb.AsSpan().LastIndexOf("PK\x01\x02"u8) + 24));
        Assert.Contains("unpacks to more", Fault(bomb), StringComparison.Ordinal);
        var (_, empty) = Readers.For("x.csv").Read(new MemoryStream("  \n"u8.ToArray()), new ReadLimits());
        Assert.Contains("empty", empty!.ToString(), StringComparison.Ordinal);
    }

    [Fact]
    public void AlteredWorkbooksNeverThrow()
    {
        var whole = SmallWorkbook.Of([("T", "<cols><col min=\"1\" max=\"3\" width=\"9\" style=\"1\"/></cols><sheetData><row r=\"1\"><c r=\"A1\" t=\"s\"><v>0</v></c><c r=\"C1\"><v>1e5</v></c></row></sheetData><mergeCells><mergeCell ref=\"A1:B2\"/></mergeCells>", "visible")], Styles, "<si><t>x</t></si>");
        var parts = new Dictionary<string, byte[]>();
        using (var zip = new ZipArchive(whole, ZipArchiveMode.Read))
            foreach (var entry in zip.Entries)
            {
                using var part = new MemoryStream();
                using var from = entry.Open();
                from.CopyTo(part);
                parts[entry.FullName] = part.ToArray();
            }
        var random = new Random(11);
        for (var round = 0; round < 300; round++)
        {
            using var altered = new MemoryStream();
            using (var zip = new ZipArchive(altered, ZipArchiveMode.Create, true))
                foreach (var (name, bytes) in parts)
                {
                    var now = (byte[])bytes.Clone();
                    if (name.StartsWith("xl/", StringComparison.Ordinal))
                        for (var i = random.Next(4); i > 0; i--) now[random.Next(now.Length)] = (byte)"0123456789<>/\"=Az-:&"[random.Next(20)];
                    using var to = zip.CreateEntry(name).Open();
                    to.Write(now);
                }
            altered.Position = 0;
            var (content, fault) = Readers.For("x.xlsx").Read(altered, new ReadLimits());
            Assert.True(content is null != fault is null);
            foreach (var form in content?.Leaves.SelectMany(l => l.Forms) ?? []) form.Write(Stream.Null);
        }
    }
}
