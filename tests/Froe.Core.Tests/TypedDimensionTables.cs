using Froe.Core.Exchange;
using Xunit;

namespace Froe.Core.Tests;

/// <summary>What was typed over dimensions against what they measure, by tables worked by hand.</summary>
public class TypedDimensionTables
{
    private static TypedDimension Of(string words, double measured, bool isAngle = false, int position = 0) => new(position, new(0, 0), 3.5, words, measured, isAngle);

    private static TypedVerdict Verdict(string words, double measured, bool isAngle = false) => Assert.Single(TypedDimensions.Judge([Of("30", 30), Of("40", 40), Of(words, measured, isAngle)]), j => j.Dimension.Words == words).Verdict;

    [Theory]
    [InlineData("80", 80.4, TypedVerdict.Agrees)]
    [InlineData("80.0", 80.4, TypedVerdict.Differs)]
    [InlineData("80,4", 80.36, TypedVerdict.Agrees)]
    [InlineData("Ø264 H7", 264, TypedVerdict.Agrees)]
    [InlineData("12 × Ø14", 14, TypedVerdict.Agrees)]
    [InlineData("6 000", 6000, TypedVerdict.Agrees)]
    [InlineData("2 × 45", 45, TypedVerdict.Agrees)]
    [InlineData("82", 80, TypedVerdict.Differs)]
    [InlineData("8 +0.1", 16, TypedVerdict.OtherScale)]
    [InlineData("see note 3", 3, TypedVerdict.Agrees)]
    [InlineData("as built", 3, TypedVerdict.NoNumber)]
    public void ANumberIsAsExactAsItIsWritten(string words, double measured, TypedVerdict verdict) => Assert.Equal(verdict, Verdict(words, measured));

    [Fact]
    public void AnAngleHasNoScale()
    {
        Assert.Equal(TypedVerdict.Agrees, Verdict("90°", 90, isAngle: true));
        Assert.Equal(TypedVerdict.Differs, Verdict("45°", 90, isAngle: true));
    }

    [Fact]
    public void WhatMostAreTypedByIsTheSheetsScaleAndWhatWantsLookingAtComesFirst()
    {
        // A sheet drawn 1:2, with a detail drawn 2:1 and one number that is wrong; and one that is true to size.
        var judged = TypedDimensions.Judge([Of("420", 210), Of("370", 185), Of("130", 64), Of("8", 16), Of("52", 26), Of("20", 20, position: 1), Of("21", 20, position: 1)]);
        Assert.Equal(["130", "21", "8", "420", "370", "52", "20"], judged.Select(j => j.Dimension.Words));
        Assert.Equal([128, 20, 32], judged.Take(3).Select(j => j.Measured));
        Assert.Empty(TypedDimensions.Judge([]));
    }
}
