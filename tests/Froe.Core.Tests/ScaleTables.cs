using CsCheck;
using Froe.Core.Draft;
using Froe.Core.Drawing;
using Xunit;

namespace Froe.Core.Tests;

/// <summary>What scales come to, how they are written, and which the words on a sheet name.</summary>
public class ScaleTables
{
    private static readonly SheetFrame A1 = new(LengthUnit.Millimetre, new Extents(0, 0, 841, 594));
    private static readonly SheetFrame Scan = new(LengthUnit.Unknown, new Extents(0, 0, 3000, 2000));

    private static GivenScale Between(double x, double y, double length, LengthUnit unit = LengthUnit.Metre) => new(new(100, 100), new(100 + x, 100 + y), length, unit);

    [Theory]
    // 60 mm of paper are 3 m: 1:50.
    [InlineData(60, 0, 3, LengthUnit.Metre, 50)]
    [InlineData(0, -60, 300, LengthUnit.Centimetre, 50)]
    // 30, 40: 50 mm of paper are 1 m.
    [InlineData(30, 40, 1, LengthUnit.Metre, 20)]
    [InlineData(25.4, 0, 1, LengthUnit.Inch, 1)]
    [InlineData(25.4, 0, 4, LengthUnit.Foot, 48)]
    [InlineData(100, 0, 10, LengthUnit.Millimetre, 0.1)]
    public void TwoPointsAndALengthAreAScale(double x, double y, double length, LengthUnit unit, double millimetres)
    {
        var (found, fault) = ScaleRules.Of(Between(x, y, length, unit), A1);
        Assert.Null(fault);
        Assert.Equal(millimetres, found, 9);
    }

    [Fact]
    public void AModelIsGivenAUnitAndNothingElse()
    {
        var scene = new SceneFrame(LengthUnit.Unknown, null, 1, 1, 12);
        Assert.Equal((25.4, null), ScaleRules.Of(new GivenScale(Unit: LengthUnit.Inch), scene));
        foreach (var wrong in (GivenScale[])[new(), new(Unit: LengthUnit.Unknown), new(Ratio: 50), new(Unit: LengthUnit.Metre, Ratio: 2), new(Unit: LengthUnit.Metre, Length: 2)])
            Assert.NotNull(ScaleRules.Of(wrong, scene).Fault);
        Assert.Contains("the file says", ScaleRules.Of(new GivenScale(Unit: LengthUnit.Inch), scene with { Unit = LengthUnit.Millimetre }).Fault, StringComparison.OrdinalIgnoreCase);
    }

    [Fact]
    public void APictureOfUnknownSizeIsMeasuredInItsPoints() => Assert.Equal(12.5, ScaleRules.Of(Between(800, 0, 10), Scan).Millimetres, 9);

    [Fact]
    public void ARatioIsOfTheSheetsUnit()
    {
        Assert.Equal(50, ScaleRules.Of(new GivenScale(Ratio: 50), A1).Millimetres);
        Assert.Equal(48 * 25.4, ScaleRules.Of(new GivenScale(Ratio: 48), A1 with { Unit = LengthUnit.Inch }).Millimetres, 9);
        Assert.Contains("two points", ScaleRules.Of(new GivenScale(Ratio: 50), Scan).Fault, StringComparison.Ordinal);
    }

    [Theory]
    [InlineData(0, 0, 3)]
    [InlineData(1e-5, 0, 3)]
    [InlineData(60, 0, 0)]
    [InlineData(60, 0, -1)]
    [InlineData(60, 0, double.NaN)]
    [InlineData(60, 0, double.PositiveInfinity)]
    [InlineData(double.NaN, 0, 1)]
    [InlineData(1e300, 1e300, 1)]
    [InlineData(60, 0, 1e12)]
    [InlineData(60, 0, 1e-9)]
    public void WhatIsNoScaleIsRefusedInWords(double x, double y, double length) => Assert.NotNull(ScaleRules.Of(Between(x, y, length), A1).Fault);

    [Fact]
    public void HalfAScaleIsNone()
    {
        Assert.NotNull(ScaleRules.Of(new GivenScale(), A1).Fault);
        Assert.NotNull(ScaleRules.Of(Between(60, 0, 3) with { To = null }, A1).Fault);
        Assert.NotNull(ScaleRules.Of(Between(60, 0, 3, LengthUnit.Unknown), A1).Fault);
        Assert.NotNull(ScaleRules.Of(new GivenScale(Ratio: -50), A1).Fault);
    }

    [Theory]
    [InlineData(50, LengthUnit.Millimetre, "1:50")]
    [InlineData(50.02, LengthUnit.Millimetre, "1:50")]
    [InlineData(49.7, LengthUnit.Millimetre, "1:49.7")]
    [InlineData(1, LengthUnit.Millimetre, "1:1")]
    [InlineData(0.5, LengthUnit.Millimetre, "2:1")]
    [InlineData(0.05, LengthUnit.Millimetre, "20:1")]
    [InlineData(1000, LengthUnit.Metre, "1:1")]
    [InlineData(48 * 25.4, LengthUnit.Inch, "1:48")]
    [InlineData(12.5, LengthUnit.Unknown, "1 unit = 12.5 mm")]
    [InlineData(0.084667, LengthUnit.Unknown, "1 unit = 0.08467 mm")]
    [InlineData(2500, LengthUnit.Millimetre, "1:2500")]
    public void ScalesAreWrittenAsPeopleWriteThem(double millimetres, LengthUnit unit, string words) => Assert.Equal(words, ScaleRules.Words(millimetres, unit));

    [Fact]
    public void WhateverAScaleIsItsWordsSayItWithinAThousandth() => Gen.Double[-5, 8].Sample(power =>
    {
        var millimetres = Math.Pow(10, power);
        var sides = ScaleRules.Words(millimetres, LengthUnit.Millimetre).Split(':').Select(s => double.Parse(s, System.Globalization.CultureInfo.InvariantCulture)).ToArray();
        Assert.InRange(sides[1] / sides[0] / millimetres, 0.999, 1.001);
    });

    [Theory]
    [InlineData("Scale 1:50", 50)]
    [InlineData("Scale 1:50 155ab9c4", 50)]
    [InlineData("Scale 1:50 1550", 50)]
    [InlineData("Scale 1:50 155", 50155)]
    [InlineData("M 1 : 100", 100)]
    [InlineData("Maßstab: 1:1.000", 1000)]
    [InlineData("Échelle 1/200", 200)]
    [InlineData("SCALE 1:2 500", 2500)]
    [InlineData("PLAN  1 : 20", 20)]
    [InlineData("Detail 5:1", 0.2)]
    [InlineData("A3 1∶10 mm", 10)]
    public void AScaleIsFoundInWords(string line, double ratio) => Assert.Equal(ratio, Assert.Single(ScaleRules.Named([line])).Ratio);

    [Theory]
    [InlineData("12:30:15")]
    [InlineData("at 12:30")]
    [InlineData("slope 1:1.5")]
    [InlineData("mix 1:2:4")]
    [InlineData("EN 1992-1-1:2004")]
    [InlineData("sheet 1/2")]
    [InlineData("ISO 128-2:2022")]
    [InlineData("1:0")]
    [InlineData("Scale as shown")]
    public void WhatIsNoScaleIsNone(string line) => Assert.Empty(ScaleRules.Named([line]));

    [Fact]
    public void WhatIsCalledAScaleGoesBeforeWhatLooksLikeOne() =>
        Assert.Equal([new NamedScale(50, "Scale 1:50"), new NamedScale(20, "and scale 1:20")], ScaleRules.Named(["embankment 1:2", "Scale 1:50", "and scale 1:20", "Scale 1:50 again"]));
}
