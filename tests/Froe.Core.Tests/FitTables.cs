using Froe.Core.Overlays;
using Xunit;

namespace Froe.Core.Tests;

/// <summary>Limits of tolerance classes against what ISO 286-2:2010 tabulates, in micrometres.</summary>
public static class FitTables
{
    [Theory]
    [InlineData(62, "H7", 0, 30)]
    [InlineData(30, "H7", 0, 21)]
    [InlineData(30.1, "H7", 0, 25)]
    [InlineData(8, "F8", 13, 35)]
    [InlineData(25, "G6", 7, 20)]
    [InlineData(100, "E9", 72, 159)]
    [InlineData(10, "D10", 40, 98)]
    [InlineData(25, "JS7", -10.5, 10.5)]
    [InlineData(25, "K7", -15, 6)]
    [InlineData(25, "K6", -11, 2)]
    [InlineData(25, "K8", -23, 10)]
    [InlineData(25, "M7", -21, 0)]
    [InlineData(300, "M6", -41, -9)]
    [InlineData(300, "M7", -52, 0)]
    [InlineData(25, "N7", -28, -7)]
    [InlineData(25, "N9", -52, 0)]
    [InlineData(2, "N9", -29, -4)]
    [InlineData(25, "P7", -35, -14)]
    [InlineData(25, "P8", -55, -22)]
    [InlineData(2, "K7", -10, 0)]
    [InlineData(3, "h6", -6, 0)]
    [InlineData(50, "g6", -25, -9)]
    [InlineData(50, "f7", -50, -25)]
    [InlineData(50, "e8", -89, -50)]
    [InlineData(50, "d9", -142, -80)]
    [InlineData(50, "k6", 2, 18)]
    [InlineData(50, "k8", 0, 39)]
    [InlineData(50, "m6", 9, 25)]
    [InlineData(50, "n6", 17, 33)]
    [InlineData(50, "p6", 26, 42)]
    [InlineData(500, "js13", -485, 485)]
    public static void AsTheStandardTabulates(double size, string wanted, double lower, double upper)
    {
        var letters = new string([.. wanted.TakeWhile(char.IsLetter)]);
        var limits = Fit.Limits(size, letters, int.Parse(wanted[letters.Length..], System.Globalization.CultureInfo.InvariantCulture));
        Assert.NotNull(limits);
        Assert.Equal(lower, limits.Value.Lower * 1000, 6);
        Assert.Equal(upper, limits.Value.Upper * 1000, 6);
    }

    [Theory]
    [InlineData(501, "H", 7)]
    [InlineData(0, "H", 7)]
    [InlineData(50, "H", 4)]
    [InlineData(50, "H", 14)]
    [InlineData(50, "Q", 7)]
    [InlineData(50, "K", 9)]
    [InlineData(50, "Js", 7)]
    [InlineData(double.NaN, "H", 7)]
    public static void WhatIsNotTabulatedIsNotGuessed(double size, string letters, int grade) => Assert.Null(Fit.Limits(size, letters, grade));
}
