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

    /// <summary>Words of two signs lead to a page by their pair; what is longer, shorter or of letters does not.</summary>
    [Theory]
    [InlineData("橋梁", true, "橋梁")]
    [InlineData("橋 梁", true, "橋梁")]
    [InlineData("ばね", true, null)]
    [InlineData("ピン", true, null)]
    [InlineData("ネジ", true, null)]
    [InlineData("ケル", true, "ケル")]
    [InlineData("ｹﾙ", true, "ケル")]
    [InlineData("교량", true, "교량")]
    [InlineData("𠮷野", true, "𠮷野")]
    [InlineData("橋梁図", true, null)]
    [InlineData("橋", false, null)]
    [InlineData("𠮷", false, null)]
    [InlineData("橋a", false, null)]
    [InlineData("ab", false, null)]
    [InlineData("äß", true, null)]
    [InlineData("abc", true, null)]
    [InlineData("", false, null)]
    public void TwoSignsTellAPageAndTwoLettersDoNot(string words, bool isTelling, string? pair)
    {
        var folded = WrittenPage.Fold(words);
        Assert.Equal((isTelling, pair), (WrittenPage.IsTelling(folded), WrittenPage.PairOf(folded)));
    }

    [Fact]
    public void APageHasThePairsOfItsLinesAndNoneAcrossThem() =>
        Assert.Equal(["図面", "梁図", "橋梁", "面図"], Page("橋梁図 1", "面 図面・橋梁 A 面", "flange").Pairs.Order(StringComparer.Ordinal));

    /// <summary>Whatever stands in a line is found by the same rule that gathers its pairs.</summary>
    [Fact]
    public void EveryPairThatStandsInALineIsGathered() => Gen.Int[0x4DFE, 0x4E06].Array[2, 12].Sample(signs =>
    {
        var line = string.Concat(signs.Select(s => char.ConvertFromUtf32(s)));
        var pairs = Page(line).Pairs;
        for (var i = 1; i < line.Length; i++) Assert.Equal(WrittenPage.PairOf(line[(i - 1)..(i + 1)]) is not null, pairs.Contains(line[(i - 1)..(i + 1)]));
    });

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
        // Counted without where it lies it is as much, in the same lines.
        var (count, first) = page.Count($"({words})", 1000, 2);
        Assert.Equal(found.Count, count);
        Assert.Equal(found.Select(f => f.Line).Distinct().Take(2), first);
    });
}
