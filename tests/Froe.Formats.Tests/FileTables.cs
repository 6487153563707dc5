using System.Text;
using CsCheck;
using Froe.Core.Drawing;
using Froe.Formats.Dxf;
using Xunit;
using static Froe.Formats.Tests.SmallDxf;

namespace Froe.Formats.Tests;

/// <summary>What a file says of itself, its sheets and its words; and how its bytes may arrive.</summary>
public class FileTables
{
    [Theory]
    [InlineData("AC1009", "R11/R12")]
    [InlineData("AC1012", "R13")]
    [InlineData("AC1014", "R14")]
    [InlineData("AC1015", "2000")]
    [InlineData("AC1018", "2004")]
    [InlineData("AC1021", "2007")]
    [InlineData("AC1024", "2010")]
    [InlineData("AC1027", "2013")]
    [InlineData("AC1032", "2018")]
    [InlineData("AC9999", "AC9999")]
    public void AVersionIsSaidAsPeopleSayIt(string code, string words) => Assert.Equal(words, Read(FileOf("0 POINT\n8 0\n10 0\n20 0", $"9 $ACADVER\n1 {code}")).Version);

    [Theory]
    [InlineData(0, LengthUnit.Unknown)]
    [InlineData(1, LengthUnit.Inch)]
    [InlineData(2, LengthUnit.Foot)]
    [InlineData(4, LengthUnit.Millimetre)]
    [InlineData(5, LengthUnit.Centimetre)]
    [InlineData(6, LengthUnit.Metre)]
    [InlineData(7, LengthUnit.Kilometre)]
    [InlineData(10, LengthUnit.Yard)]
    [InlineData(13, LengthUnit.Micrometre)]
    [InlineData(99, LengthUnit.Unknown)]
    public void AUnitIsTheOneTheHeaderNames(int code, LengthUnit unit) => Assert.Equal(unit, Sheet("0 POINT\n8 0\n10 0\n20 0", $"9 $INSUNITS\n70 {code}").Unit);

    [Fact]
    public void ABrokenHeaderValueIsPassedOver() => Assert.Equal(LengthUnit.Unknown, Sheet("0 POINT\n8 0\n10 0\n20 0", "9 $INSUNITS\n70 millimetres\n9 $LTSCALE\n40 -1").Unit);

    [Fact]
    public void APaperSheetHasTheNameItsLayoutGivesIt()
    {
        var d = Read(FileOf(
            "0 LINE\n8 0\n10 0\n20 0\n11 1\n21 0", "", "0 TABLE\n2 BLOCK_RECORD\n0 BLOCK_RECORD\n5 1F\n2 *Paper_Space\n0 BLOCK_RECORD\n5 2F\n2 *Paper_Space0\n0 ENDTAB",
            "0 BLOCK\n2 *Paper_Space\n10 0\n20 0\n0 LINE\n8 0\n10 0\n20 0\n11 420\n21 0\n0 ENDBLK\n0 BLOCK\n2 *Paper_Space0\n10 0\n20 0\n0 LINE\n8 0\n10 0\n20 0\n11 297\n21 0\n0 ENDBLK",
            "0 DICTIONARY\n5 C\n0 LAYOUT\n1 Plan of level 2\n330 1F\n0 LAYOUT\n1 Details\n330 2F\n0 LAYOUT\n1 Nowhere\n330 FF"));
        Assert.Equal(["Model", "Plan of level 2", "Details"], d.Sheets.Select(s => s.Name));
    }

    [Fact]
    public void AViewFromTheSideIsReportedAndTheOthersAreDrawn()
    {
        var d = Read(FileOf("0 LINE\n8 0\n10 0\n20 0\n11 1\n21 0\n0 VIEWPORT\n67 1\n8 0\n10 50\n20 50\n40 40\n41 20\n69 2\n12 0\n22 0\n45 10\n16 1\n26 0\n36 0"));
        Assert.Equal("VIEWPORT", d.NotShown.Single().Type);
    }

    [Fact]
    public void WhatIsByBlockComesFromTheInsertion()
    {
        const string Tables = "0 TABLE\n2 LAYER\n0 LAYER\n2 A\n62 1\n370 35\n0 LAYER\n2 B\n62 5\n370 70\n0 ENDTAB";
        const string Block = "0 BLOCK\n2 X\n10 0\n20 0\n0 LINE\n8 A\n62 0\n370 -2\n10 0\n20 0\n11 1\n21 0\n0 LINE\n8 A\n10 0\n20 1\n11 1\n21 1\n0 LINE\n8 0\n10 0\n20 2\n11 1\n21 2\n0 ENDBLK";
        var s = Sheet("0 INSERT\n8 B\n2 X\n62 3\n370 50\n10 0\n20 0", tables: Tables, blocks: Block);
        var looks = s.SegmentEntity.Select(e => s.Styles[s.EntityStyle[e]]).ToList();
        // By block: the insertion's own green and weight, on its own layer A. By layer: A's. On layer 0: everything of B, the insertion's layer.
        Assert.Equal(["A", "A", "B"], looks.Select(l => s.Layers[l.Layer].Name));
        Assert.Equal([50, 35, 70], looks.Select(l => l.Weight));
        Assert.Equal([PaperInk.OnPaper(PaperInk.FromColourNumber(3)), PaperInk.OnPaper(PaperInk.FromColourNumber(1)), PaperInk.OnPaper(PaperInk.FromColourNumber(5))], looks.Select(l => l.Rgb));
    }

    [Fact]
    public void AnInvisibleEntityAndAHiddenAttributeAreNotDrawn()
    {
        var s = Sheet("0 LINE\n8 0\n60 1\n10 0\n20 0\n11 9\n21 0\n0 INSERT\n8 0\n2 X\n66 1\n10 0\n20 0\n0 ATTRIB\n8 0\n10 0\n20 0\n40 2\n1 seen\n2 T\n70 0\n0 ATTRIB\n8 0\n10 0\n20 0\n40 2\n1 unseen\n2 U\n70 1\n0 SEQEND",
            blocks: "0 BLOCK\n2 X\n10 0\n20 0\n0 ATTDEF\n8 0\n10 0\n20 0\n1 prompt\n2 T\n0 ENDBLK");
        Assert.Empty(s.Segments);
        Assert.Equal(["seen"], s.Texts.Select(t => t.Text));
    }

    // ---- words ----

    [Fact]
    public void ParagraphsStandAboutTheirAttachmentPoint()
    {
        // Two lines, 2 high, five thirds of that apart, about the middle: as far above it as below.
        var s = Sheet("0 MTEXT\n8 0\n10 10\n20 20\n40 2\n71 5\n1 one\\Ptwo");
        Assert.Equal([20 + (2 / 3.0), 20 - (8 / 3.0)], s.Texts.Select(t => t.At.Y), (a, b) => Math.Abs(a - b) < 1e-9);
        Assert.All(s.Texts, t => Assert.Equal((10, 0.5f, 0f), (t.At.X, t.Anchor, t.Rise)));
        // Turned by its direction, the second line lies to the right of the first.
        var turned = Sheet("0 MTEXT\n8 0\n10 0\n20 0\n11 0\n21 1\n31 0\n40 3\n71 1\n1 one\\Ptwo");
        Assert.Equal(5, turned.Texts[1].At.X - turned.Texts[0].At.X, 9);
    }

    [Fact]
    public void ParagraphsBreakBetweenWordsWithinTheirWidth()
    {
        var lines = Sheet("0 MTEXT\n8 0\n10 0\n20 0\n40 2\n41 16\n71 1\n1 all welds continuous unless stated otherwise").Texts;
        Assert.True(lines.Count > 1);
        Assert.Equal("all welds continuous unless stated otherwise", string.Join(' ', lines.Select(l => l.Text)));
        Assert.All(lines, l => Assert.True(Lettering.Width(l.Text) * 2 <= 16 || !l.Text.Contains(' ', StringComparison.Ordinal)));
    }

    [Theory]
    [InlineData(3)] // aligned: as high as it must be
    [InlineData(5)] // fitted: as wide as it must be
    public void TextBetweenTwoPointsReachesFromOneToTheOther(int across)
    {
        var text = Sheet($"0 TEXT\n8 0\n10 0\n20 0\n11 30\n21 40\n40 7\n72 {across}\n1 BETWEEN").Texts.Single();
        var along = Math.Sqrt((text.Along.X * text.Along.X) + (text.Along.Y * text.Along.Y));
        Assert.Equal(50, Lettering.Width("BETWEEN") * along, 6);
        Assert.Equal(4 / 3.0, text.Along.Y / text.Along.X, 9);
        var up = Math.Sqrt((text.Up.X * text.Up.X) + (text.Up.Y * text.Up.Y));
        Assert.Equal(across == 3 ? along : 7, up, 6);
    }

    [Theory]
    [InlineData(2, -5, 5)] // backwards
    [InlineData(4, 5, -5)] // upside down
    [InlineData(6, -5, -5)]
    public void TextIsMirroredAsItSays(int mirrored, double along, double up)
    {
        var text = Sheet($"0 TEXT\n8 0\n10 0\n20 0\n40 5\n71 {mirrored}\n1 AMBULANCE").Texts.Single();
        Assert.Equal((along, up), (text.Along.X, text.Up.Y));
    }

    [Theory]
    [InlineData("\\C1;red \\c255;\\H2x;tall\\H0.5x;", "red tall")]
    [InlineData("a\\~b", "a\u00A0b")]
    [InlineData("\\Lunder\\l \\Oover\\o \\Kstruck\\k", "under over struck")]
    [InlineData("1\\S1/2;", "11/2")]
    [InlineData("\\S7#8;", "7/8")]
    [InlineData("tab^Ihere^ caret", "tab here^caret")]
    [InlineData("\\pi-3,l3,t3;item", "item")]
    [InlineData("never closed \\fArial", "never closed ")]
    [InlineData("back\\\\slash \\{brace\\}", "back\\slash {brace}")]
    [InlineData("%%uunder%%u %%% %%176", "under % °")]
    public void InlineCodesAreTakenOut(string raw, string words) => Assert.Equal(words, string.Join('|', FormattedText.Read(raw, 1).Select(p => string.Concat(p.Pieces.Select(x => x.Below is null ? x.Words : $"{x.Words}/{x.Below}")))));

    [Theory]
    [InlineData("one\\Ptwo\\Xthree^Jfour", "one|two|three|four")]
    public void BreaksAreKept(string raw, string words) => Assert.Equal(words, string.Join('|', FormattedText.Read(raw, 1).Select(p => string.Concat(p.Pieces.Select(x => x.Below is null ? x.Words : $"{x.Words}/{x.Below}")))));

    // ---- bytes ----

    [Theory]
    [InlineData("\n")]
    [InlineData("\r\n")]
    [InlineData("\r")]
    public void LinesMayEndAnyWay(string end)
    {
        var file = Encoding.ASCII.GetString(FileOf("0 LINE\n8 0\n10 1\n20 2\n11 4\n21 6\n0 TEXT\n8 0\n10 0\n20 0\n40 2\n1 a b")).Replace("\n", end, StringComparison.Ordinal);
        var sheet = Read(Encoding.ASCII.GetBytes(file)).Sheets[0];
        Assert.Equal([(1, 2, 4, 6)], Strokes(sheet));
        Assert.Equal("a b", sheet.Texts.Single().Text);
    }

    [Fact]
    public void AFileThatBeginsWithAByteOrderMarkIsRead() =>
        Assert.Single(Strokes(Read([0xEF, 0xBB, 0xBF, .. FileOf("0 LINE\n8 0\n10 1\n20 2\n11 4\n21 6")]).Sheets[0]));

    [Fact]
    public void AFileLongerThanIsReadIsRefusedWhetherItsLengthIsKnownOrNot()
    {
        var file = FileOf("0 POINT\n8 0\n10 0\n20 0");
        Assert.Contains("can be read", DxfReader.Read(new MemoryStream(file), new ReadLimits(MostBytes: 50)).Fault?.What, StringComparison.Ordinal);
        Assert.Contains("longer than", DxfReader.Read(new Dripping(file, 20), new ReadLimits(MostBytes: 50)).Fault?.What, StringComparison.Ordinal);
    }

    [Fact]
    public void ALineWithoutEndIsRefused() =>
        Assert.Contains("longer than any DXF line", DxfReader.Read(new MemoryStream([.. "0\nSECTION\n2\nENTITIES\n0\nLINE\n8\n"u8, .. Enumerable.Repeat((byte)'x', 300_000)])).Fault?.What, StringComparison.Ordinal);

    /// <summary>However its bytes arrive, and however a writer pads its lines, a file is the same drawing: the quick way of reading and the careful one agree.</summary>
    [Fact]
    public void AFileIsTheSameDrawingHoweverItsBytesArrive()
    {
        var number = Gen.OneOf(
            Gen.Int[-9999, 9999].Select(n => n.ToString(System.Globalization.CultureInfo.InvariantCulture)),
            Gen.Double[-1e4, 1e4].Select(n => n.ToString("R", System.Globalization.CultureInfo.InvariantCulture)),
            Gen.Double[-1e4, 1e4].Select(n => n.ToString("0.000", System.Globalization.CultureInfo.InvariantCulture)),
            Gen.Double[-1e4, 1e4].Select(n => n.ToString("E6", System.Globalization.CultureInfo.InvariantCulture)));
        string[] names = ["0", "WALLS", "Wände", "A layer name longer than thirty-two letters, as some are", ""];
        var name = Gen.Int[0, names.Length - 1].Select(i => names[i]);
        var line = Gen.Select(name, number, number, number, number).Select((l, a, b, c, d) => $"0\nLINE\n5\n1F\n8\n{l}\n100\nAcDbLine\n10\n{a}\n20\n{b}\n11\n{c}\n21\n{d}\n");
        var text = Gen.Select(name, number, number, Gen.String[Gen.Char[' ', '~'], 0, 60]).Select((l, a, b, t) => $"0\nTEXT\n8\n{l}\n10\n{a}\n20\n{b}\n40\n2.5\n1\nx{t}\n1001\nAPP\n1000\n{t}\n");
        var arc = Gen.Select(name, number, number).Select((l, a, b) => $"0\nCIRCLE\n8\n{l}\n62\n1\n10\n{a}\n20\n{b}\n40\n5\n");
        Gen.Select(Gen.OneOf(line, text, arc).Array[0, 40], Gen.Int[1, 300], Gen.Bool, Gen.Bool).Sample((entities, piece, padded, returns) =>
        {
            var file = $"0\nSECTION\n2\nENTITIES\n{string.Concat(entities)}0\nENDSEC\n0\nEOF\n";
            if (padded) file = string.Concat(file.Split('\n')[..^1].Chunk(2).Select(p => $"{p[0],3}\n{(p[1].Length > 0 && (char.IsAsciiDigit(p[1][0]) || p[1][0] == '-') ? "  " + p[1] : p[1])}\n"));
            if (returns) file = file.Replace("\n", "\r\n", StringComparison.Ordinal);
            var bytes = Encoding.UTF8.GetBytes(file);
            var whole = Read(bytes);
            var slowly = DxfReader.Read(new Dripping(bytes, piece)).Drawing!;
            Assert.Equal(whole.EntityCounts.OrderBy(c => c.Key, StringComparer.Ordinal), slowly.EntityCounts.OrderBy(c => c.Key, StringComparer.Ordinal));
            var (a, b) = (whole.Sheets[0], slowly.Sheets[0]);
            Assert.Equal(a.Segments, b.Segments);
            Assert.Equal(a.SegmentEntity, b.SegmentEntity);
            Assert.Equal(a.EntityHandle, b.EntityHandle);
            Assert.Equal(a.Texts, b.Texts);
            Assert.Equal(a.Layers, b.Layers);
            Assert.Equal(a.Origin, b.Origin);
        }, iter: 300);
    }

    /// <summary>Gives a few bytes at a time, as a slow connection does.</summary>
    private sealed class Dripping(byte[] bytes, int piece) : MemoryStream(bytes)
    {
        public override bool CanSeek => false;

        public override int Read(byte[] buffer, int offset, int count) => base.Read(buffer, offset, Math.Min(count, piece));
    }
}
