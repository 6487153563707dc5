using Froe.Core.Draft;
using Froe.Core.Drawing;
using Froe.Core.Exchange;
using Froe.Formats.Dxf;
using Xunit;
using static Froe.Formats.Tests.SmallDxf;

namespace Froe.Formats.Tests;

/// <summary>What is written on a DXF drawing: inline codes of MTEXT, lines under letters, leaders, tolerances and dimensions without a picture.</summary>
public class DxfWordsTables
{
    private static Sheet MText(string words, string more = "") => Sheet($"0 MTEXT\n8 0\n10 5\n20 50\n40 3\n71 1\n{more}1 {words}");

    /// <summary>Each run with the height of its letters, the height of its baseline over the attachment point, and its colour.</summary>
    private static IEnumerable<(string Text, double Height, double Base, int Rgb)> Runs(Sheet s) =>
        s.Texts.Select(t => (t.Text, Math.Round(t.Up.Y, 6), Math.Round(t.At.Y - (t.Rise * t.Up.Y) - 50, 6), s.Styles[s.EntityStyle[t.Entity]].Rgb));

    private static readonly int Red = PaperInk.OnPaper(PaperInk.FromColourNumber(1));

    [Fact]
    public void PiecesOfALineHaveTheirOwnHeightAndColour()
    {
        var sheet = MText("Weld {\\H2x;\\C1;a5} all round");
        Assert.Equal([("Weld ", 3, -6, PaperInk.Black), ("a5", 6, -6, Red), (" all round", 3, -6, PaperInk.Black)], Runs(sheet));
        Assert.True(sheet.Texts.Zip(sheet.Texts.Skip(1)).All(p => p.First.At.X < p.Second.At.X));
        Assert.Equal(sheet.Texts[0].At.X + (3 * Lettering.Width("Weld ")), sheet.Texts[1].At.X, 6);
    }

    [Fact]
    public void LinesStandApartByTheHighestOfTheirLetters()
    {
        // Five thirds of the height from base to base: 5 between lines of 3, 10 above one of 6.
        Assert.Equal([0.0 - 3, -8, -18], Runs(MText("one\\Ptwo\\P\\H6;three")).Select(r => r.Base));
        Assert.Equal([-3.0, -13], Runs(MText("one\\Ptwo", "44 2\n")).Select(r => r.Base));
    }

    [Fact]
    public void AStackIsTwoLinesOneAboveTheOther()
    {
        var sheet = MText("Ø40\\S+0.02^-0.01;");
        Assert.Equal(["Ø40", "+0.02", "-0.01"], sheet.Texts.Select(t => t.Text));
        Assert.True(sheet.Texts[1].At.Y > sheet.Texts[0].At.Y && sheet.Texts[2].At.Y < sheet.Texts[0].At.Y);
        Assert.Empty(Strokes(sheet));
        Assert.Single(Strokes(MText("3\\S1/4; inch")));
        Assert.Equal(["31/4 inch"], MText("3\\S1#4; inch").Texts.Select(t => t.Text));
    }

    [Fact]
    public void LinesUnderOverAndThroughLettersAreDrawn()
    {
        Assert.Equal(3, Strokes(MText("{\\LA\\l}B{\\OC}{\\KD}")).Count);
        var under = Assert.Single(Strokes(Sheet("0 TEXT\n8 0\n10 0\n20 0\n40 10\n1 AB%%uCD%%u%%c")));
        Assert.Equal((Math.Round(10 * Lettering.Width("AB"), 3), Math.Round(10 * Lettering.Width("ABCD"), 3), -2), (under.X0, under.X1, under.Y0));
    }

    [Fact]
    public void AParagraphIsAlignedInTheBoxOfItsText()
    {
        var right = Assert.Single(MText("\\pqr;x", "41 40\n").Texts);
        Assert.Equal((45, 1), (right.At.X, right.Anchor));
        var indented = MText("\\pi1,l2;word word word word", "41 20\n").Texts;
        Assert.True(indented.Count > 1);
        Assert.Equal([5.0 + 9, 5 + 6], indented.Take(2).Select(t => Math.Round(t.At.X, 6)));
    }

    [Fact]
    public void AFontOfSignsShowsSignsDrawn()
    {
        // Position is a circle of 24 chords and a cross; the M in a circle keeps its letter.
        var sheet = MText("{\\Fgdt;j}0.1{\\Fgdt;m}");
        Assert.Equal(24 + 2 + 24, Strokes(sheet).Count);
        Assert.Equal(["0.1", "M"], sheet.Texts.Select(t => t.Text));
        var styled = Read(FileOf("0 TEXT\n8 0\n7 SIGNS\n10 0\n20 0\n40 3\n1 b", tables: "0 TABLE\n2 STYLE\n70 1\n0 STYLE\n2 SIGNS\n70 0\n3 gdt.shx\n0 ENDTAB")).Sheets[0];
        Assert.Equal([(0, 0, 3, 0), (1.5, 0, 1.5, 3)], Strokes(styled).Order());
        Assert.Equal("⌖⟂", string.Concat("jb".Select(ToleranceSigns.Of)));
    }

    [Fact]
    public void AVerticalStyleSetsLettersOneBelowTheOther()
    {
        var texts = Read(FileOf("0 TEXT\n8 0\n7 DOWN\n10 0\n20 0\n40 3\n1 ABC", tables: "0 TABLE\n2 STYLE\n70 1\n0 STYLE\n2 DOWN\n70 4\n3 txt\n0 ENDTAB")).Sheets[0].Texts;
        Assert.Equal(["A", "B", "C"], texts.Select(t => t.Text));
        Assert.True(texts[0].At.Y > texts[1].At.Y && texts[1].At.Y > texts[2].At.Y && texts[0].At.X == texts[2].At.X);
    }

    [Fact]
    public void CodesThatBreakOffLoseNoLetters()
    {
        foreach (var raw in (string[])["\\H", "\\H;x", "\\Hnan;x", "{{{x", "}}x", "\\S", "\\S1", "\\C999;x", "\\c;x", "\\Q1e9;x", "\\W0;x", "\\p;x", "\\pqz,ix;x", "x\\", "^", "\\H1e300;x", "\\H-5;x"])
        {
            var pieces = FormattedText.Read(raw, 2.5).SelectMany(p => p.Pieces).ToList();
            if (raw.Contains('x', StringComparison.Ordinal)) Assert.Contains("x", string.Concat(pieces.Select(p => p.Words)), StringComparison.Ordinal);
            Assert.All(pieces, p => Assert.True(double.IsFinite(p.Width) && p.Look.Height > 0));
        }
    }

    private const string Style = "0 TABLE\n2 DIMSTYLE\n70 1\n0 DIMSTYLE\n2 D\n40 2\n140 2\n41 1.5\n42 0.5\n44 1\n147 0.5\n271 1\n78 0\n0 ENDTAB";

    private static Sheet WithStyle(string entity) => Read(FileOf(entity, tables: Style)).Sheets[0];

    [Fact]
    public void ADimensionWithoutAPictureIsDrawnFromWhatItMeasures()
    {
        // From (0, 0) to (30, 5), level at y = 20: extension lines begin 1 off and end 2 beyond, the value has one decimal.
        var sheet = WithStyle("0 DIMENSION\n8 0\n3 D\n70 0\n10 30\n20 20\n13 0\n23 0\n14 30\n24 5\n50 0");
        Assert.Equal([(0, 1, 0, 22), (0, 20, 30, 20), (30, 6, 30, 22)], Strokes(sheet).Order());
        var value = Assert.Single(sheet.Texts);
        Assert.Equal(("30.0", 4), (value.Text, Math.Round(value.Up.Y, 6)));
        Assert.Equal(2, sheet.TriangleEntity.Length);
    }

    [Theory]
    [InlineData("70 1\n10 0\n20 10\n13 0\n23 0\n14 30\n24 40", "50.0")]
    [InlineData("70 4\n10 0\n20 0\n15 3\n25 4", "R5.0")]
    [InlineData("70 3\n10 -3\n20 -4\n15 3\n25 4", "Ø10.0")]
    [InlineData("70 5\n10 5\n20 5\n13 10\n23 0\n14 0\n24 10\n15 0\n25 0", "90.0°")]
    [InlineData("70 2\n13 0\n23 0\n14 10\n24 0\n15 0\n25 0\n10 0\n20 10\n16 5\n26 5", "90.0°")]
    [InlineData("70 70\n10 5\n20 0\n13 25\n23 3\n14 25\n24 20", "20.0")]
    [InlineData("70 1\n1 4 × <> H7\n10 0\n20 10\n13 0\n23 0\n14 30\n24 0", "4 × 30.0 H7")]
    [InlineData("70 1\n1 see note\n10 0\n20 10\n13 0\n23 0\n14 30\n24 0", "see note")]
    public void EveryKindOfDimensionSaysItsValue(string groups, string words) => Assert.Equal(words, Assert.Single(WithStyle($"0 DIMENSION\n8 0\n3 D\n{groups}").Texts).Text);

    private static IReadOnlyList<TypedDimension> TypedOver(byte[] file, params string[] sheets)
    {
        var (found, fault) = DxfReader.FindTypedDimensions(new MemoryStream(file), [.. sheets.Select((name, i) => new Leaf(i, name, new SheetFrame(LengthUnit.Millimetre, new(0, 0, 1, 1))))]);
        Assert.Null(fault);
        return found!;
    }

    [Theory]
    [InlineData("70 0\n1 31\n10 30\n20 20\n13 0\n23 0\n14 30\n24 5\n50 0", "31", 30, false)]
    [InlineData("70 1\n1 50\n10 0\n20 10\n13 0\n23 0\n14 30\n24 40", "50", 50, false)]
    [InlineData("70 32\n1 {\\fArial|b1;%%c10} H7\n10 30\n20 20\n13 0\n23 0\n14 30\n24 5\n50 90", "Ø10 H7", 5, false)]
    [InlineData("70 4\n1 R6\n10 0\n20 0\n15 3\n25 4", "R6", 5, false)]
    [InlineData("70 3\n1 %%c10\n10 -3\n20 -4\n15 3\n25 4", "Ø10", 10, false)]
    [InlineData("70 5\n1 45%%d\n10 5\n20 5\n13 10\n23 0\n14 0\n24 10\n15 0\n25 0", "45°", 90, true)]
    [InlineData("70 70\n1 21\n10 5\n20 0\n13 25\n23 3\n14 25\n24 20", "21", 20, false)]
    public void WhatWasTypedOverAValueIsFoundWithWhatIsMeasured(string groups, string words, double measured, bool isAngle)
    {
        var found = Assert.Single(TypedOver(FileOf($"0 DIMENSION\n8 0\n3 D\n11 7\n21 8\n{groups}", tables: Style), "Model"));
        Assert.Equal((words, Math.Round(measured, 6), isAngle, 7.0, 8.0, 4.0), (found.Words, Math.Round(found.Measured, 6), found.IsAngle, found.At.X, found.At.Y, found.Height));
    }

    [Fact]
    public void AValueThatStandsIsNotTypedOverAndWhatLiesOnNoSheetIsLeftOut()
    {
        const string Points = "10 30\n20 20\n13 0\n23 0\n14 30\n24 5\n50 0";
        var file = FileOf($"0 DIMENSION\n8 0\n3 D\n70 0\n{Points}\n0 DIMENSION\n8 0\n3 D\n70 0\n1 4 × <>\n{Points}\n0 DIMENSION\n8 0\n67 1\n70 0\n1 31\n{Points}\n0 DIMENSION\n8 0\n70 2\n1 31", tables: Style);
        Assert.Empty(TypedOver(file, "Model"));
        // Where the file does not say where the words stand, they stand in the middle of the line.
        var found = Assert.Single(TypedOver(FileOf($"0 DIMENSION\n8 0\n70 0\n1 31\n{Points}"), "Model"));
        Assert.Equal((15.0, 20.0), (Math.Round(found.At.X, 9), Math.Round(found.At.Y, 9)));
        Assert.Equal(1, Assert.Single(TypedOver(file, "Model", "Paper")).Position);
    }

    [Fact]
    public void ADimensionInABlockIsFoundWhereTheBlockIsInserted()
    {
        const string Dimension = "0 DIMENSION\n8 0\n3 D\n70 0\n1 31\n11 7\n21 8\n10 30\n20 20\n13 0\n23 0\n14 30\n24 5\n50 0";
        var blocks = $"0 BLOCK\n2 PART\n10 1\n20 2\n{Dimension}\n0 ENDBLK\n0 BLOCK\n2 GROUP\n10 0\n20 0\n0 INSERT\n8 0\n2 PART\n10 10\n20 0\n41 2\n42 2\n0 ENDBLK";
        // Turned by a quarter about (100, 50): what lay at (10 + 2·6, 2·6) lies at (100 − 12, 50 + 22).
        var found = Assert.Single(TypedOver(FileOf("0 INSERT\n8 0\n2 GROUP\n10 100\n20 50\n50 90", tables: Style, blocks: blocks), "Model"));
        Assert.Equal(("31", 30.0, 88.0, 72.0, 8.0), (found.Words, Math.Round(found.Measured, 6), Math.Round(found.At.X, 6), Math.Round(found.At.Y, 6), Math.Round(found.Height, 6)));
        // A block that nobody inserts is on no sheet; one that holds itself comes to an end.
        Assert.Empty(TypedOver(FileOf("0 LINE\n8 0\n10 0\n20 0\n11 1\n21 0", tables: Style, blocks: blocks), "Model"));
        var loop = $"0 BLOCK\n2 L\n10 0\n20 0\n{Dimension}\n0 INSERT\n8 0\n2 L\n10 1\n20 0\n0 INSERT\n8 0\n2 L\n10 0\n20 1\n0 ENDBLK";
        Assert.NotEmpty(TypedOver(FileOf("0 INSERT\n8 0\n2 L\n10 0\n20 0", tables: Style, blocks: loop), "Model"));
    }

    [Fact]
    public void ATextOfOneBlankKeepsADimensionWithoutWords()
    {
        var file = System.Text.Encoding.Latin1.GetString(FileOf("0 DIMENSION\n8 0\n3 D\n70 1\n1 BLANK\n10 0\n20 10\n13 0\n23 0\n14 30\n24 0", tables: Style)).Replace("BLANK", " ", StringComparison.Ordinal);
        Assert.Empty(Read(System.Text.Encoding.Latin1.GetBytes(file)).Sheets[0].Texts);
    }

    [Fact]
    public void AToleranceIsAFrameOfCompartments()
    {
        var sheet = WithStyle("0 TOLERANCE\n8 0\n3 D\n10 0\n20 0\n1 {\\Fgdt;j}%%v{\\Fgdt;n}0.1%%vA%%v%%v");
        Assert.Equal("0.1A", string.Concat(sheet.Texts.Select(t => t.Text)));
        // Three compartments of four sides, the sign of position and that of a diameter.
        Assert.Equal(12 + 26 + 25, Strokes(sheet).Count);
    }

    [Fact]
    public void ALeadersHeadIsAsLongAsItsStyleSays()
    {
        var sheet = WithStyle("0 LEADER\n8 0\n3 D\n71 1\n10 0\n20 0\n10 30\n20 0");
        Assert.Equal(3, sheet.Triangles.Where((_, i) => i % 2 == 0).Max() - sheet.Triangles.Where((_, i) => i % 2 == 0).Min(), 3);
    }

    [Fact]
    public void ALeaderOfSeveralLinesSaysItsWords()
    {
        var sheet = Sheet(
            "0 MULTILEADER\n8 0\n300 CONTEXT_DATA{\n10 20\n20 10\n41 2.5\n140 2\n304 Break edges\n12 21\n22 11\n13 1\n23 0\n43 0\n171 1\n302 LEADER{\n10 18\n20 10\n11 1\n21 0\n40 2\n304 LEADER_LINE{\n10 0\n20 0\n305 }\n304 LEADER_LINE{\n10 0\n20 20\n305 }\n303 }\n301 }");
        Assert.Equal([(0, 0, 18, 10), (0, 20, 18, 10), (18, 10, 20, 10), (18, 10, 20, 10)], Strokes(sheet).Order());
        Assert.Equal("Break edges", Assert.Single(sheet.Texts).Text);
        Assert.Equal(2, sheet.TriangleEntity.Length);
    }
}
