using CsCheck;
using Froe.Core.Drawing;
using Xunit;

namespace Froe.Core.Tests;

/// <summary>How finely a page states its numbers.</summary>
public static class FinenessTables
{
    private static Sheet Of(IEnumerable<(PointXY From, PointXY To)> lines)
    {
        var builder = new SheetBuilder { Tolerance = 0.01 };
        builder.Begin(new EntityLook(1, 0, 0, 25, [], "LINE"));
        foreach (var (from, to) in lines) builder.Line(from, to);
        return builder.Build("Page 1", LengthUnit.Millimetre, [new Layer("0", true, 0)]);
    }

    [Theory]
    [InlineData(0.01)]
    [InlineData(0.0254)]
    [InlineData(0.035)]
    public static void APageOfManyLinesTellsTheStepOfItsNumbers(double step) => Gen.Int[1, 8000].Array[400].Sample(
        steps =>
        {
            var at = steps.Select(s => s * step).ToArray();
            var told = Fineness.Of(Of(Enumerable.Range(0, 100).Select(i => (new PointXY(at[4 * i], at[(4 * i) + 1]), new PointXY(at[(4 * i) + 2] + step, at[(4 * i) + 3] + step)))));
            Assert.NotNull(told);
            // Of so many some lie a few steps apart, and none lies nearer than one.
            Assert.InRange(told.Value, step * 0.98, Math.Max(step * 8, 0.05));
        },
        iter: 50);

    [Fact]
    public static void WithoutLinesNothingIsToldAndWithFewNoMoreThanAPenIsBroad()
    {
        Assert.Null(Fineness.Of(Of([])));
        Assert.Equal(0.05, Fineness.Of(Of([(new(10, 10), new(200, 100))])));
        // What was reckoned twice is one number.
        Assert.Equal(0.05, Fineness.Of(Of([(new(10, 10), new(200, 100)), (new(10.00002, 10), new(200, 100.00003))])));
    }
}
