using CsCheck;
using Froe.Core.Draft;
using Froe.Core.Drawing;
using Xunit;

namespace Froe.Core.Tests;

/// <summary>Words as they are compared, and where they are found.</summary>
public class FindingTables
{
    private static WrittenRun Line(string text, double y = 0) => new(text, new(0, y), new(100, 0), new(0, 5));

    private static WrittenPage Page(params string[] lines) => new([.. lines.Select((l, i) => Line(l, -10 * i))]);

    [Theory]
    [InlineData("M 12", "m12")]
    [InlineData("Ø 14 H7", "ø14h7")]
    [InlineData("%%c14", "ø14")]
    [InlineData("⌀14", "ø14")]
    [InlineData("90%%d ±", "90°±")]
    [InlineData("ﬁtting", "fitting")]
    [InlineData("Brandvåg", "brandvag")]
    [InlineData("so\u00ADdium", "sodium")]
    [InlineData("A–A", "a-a")]
    [InlineData("A−A", "a-a")]
    [InlineData("3 × 4", "3x4")]
    [InlineData("STRAßE", "strasse")]
    [InlineData("Łódź, Ẽ, Ά", "łodz,e,α")]
    [InlineData("e\u0301", "e")]
    [InlineData("１２", "12")]
    [InlineData("ﾍﾞｱﾘﾝｸﾞ", "ヘ\u3099アリンク\u3099")]
    [InlineData("ベアリング", "ヘ\u3099アリンク\u3099")]
    [InlineData("ヘ\u3099アリンク\u3099", "ヘ\u3099アリンク\u3099")]
    [InlineData("ﾎﾟﾝﾌﾟ, ぽんぷ", "ホ\u309Aンフ\u309A,ほ\u309Aんふ\u309A")]
    [InlineData("∆ 0.02", "δ0.02")]
    [InlineData("\t \u00A0", "")]
    public void LettersAreComparedWithoutWhatDoesNotMatter(string written, string folded) => Assert.Equal(folded, WrittenPage.Fold(written));

    [Theory]
    [InlineData("bolt hole", 2)]
    [InlineData("BOLTHOLE", 2)]
    [InlineData("hole 14", 0)]
    [InlineData("%%c14", 1)]
    [InlineData("", 0)]
    [InlineData("  ", 0)]
    public void WordsAreFoundInLinesAndNotAcrossThem(string words, int count) => Assert.Equal(count, Page("Bolt hole", "14 × bolthole Ø14").Find(words, 100).Count());

    [Fact]
    public void AWordDividedAtALinesEndIsWholeAndCoversBoth()
    {
        var found = Assert.Single(Page("Break all sharp cor-", "ners 0.5").Find("corners", 10));
        Assert.Equal("Break all sharp cor-", found.Line);
        Assert.Equal([0, -10], found.Covers.Select(c => c.At.Y));
        Assert.Empty(Page("Section A-", "B of sheet").Find("AB", 10));
    }

    [Fact]
    public void APlaceCoversItsShareOfTheLine()
    {
        var found = Assert.Single(Page("iiiiWWWW").Find("wwww", 10)).Covers.Single();
        var share = Lettering.Width("iiii") / Lettering.Width("iiiiWWWW") * 100;
        Assert.Equal((share, 100 - share), (found.At.X, found.Along.X), (a, b) => Math.Abs(a.Item1 - b.Item1) + Math.Abs(a.Item2 - b.Item2) < 1e-9);
    }

    [Fact]
    public void NoMoreIsGivenThanAskedFor() => Assert.Equal(7, Page(new string('a', 50)).Find("a", 7).Count());

    [Fact]
    public void WhateverStandsInALineIsFoundThere() => Gen.Select(Gen.String[0, 12].Array[0, 6], Gen.String[1, 6], Gen.Int[0, 5]).Sample((lines, words, at) =>
    {
        if (WrittenPage.Fold(words).Length == 0 || lines.Length == 0) return;
        var line = at % lines.Length;
        lines[line] = $"({words})";
        var page = Page(lines);
        var found = page.Find($"({words})", 1000).ToList();
        Assert.NotEmpty(found);
        Assert.All(found, f => Assert.NotEmpty(f.Covers));
        Assert.Contains(found, f => f.Line == lines[line]);
    });
}
