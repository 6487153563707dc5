using CsCheck;
using Froe.Core.Drawing;
using Xunit;

namespace Froe.Core.Tests;

/// <summary>Cutting to a box, and filling what outlines bound.</summary>
public class CuttingTables
{
    private static readonly Extents Box = new(-10, -5, 10, 5);
    private static readonly Gen<PointXY> Point = Gen.Select(Gen.Double[-30, 30], Gen.Double[-30, 30]).Select((x, y) => new PointXY(x, y));

    private static bool Inside(PointXY p) => p.X >= Box.MinX - 1e-9 && p.X <= Box.MaxX + 1e-9 && p.Y >= Box.MinY - 1e-9 && p.Y <= Box.MaxY + 1e-9;

    private static double Area(IReadOnlyList<PointXY> loop) => Math.Abs(Enumerable.Range(0, loop.Count).Sum(i => (loop[i].X * loop[(i + 1) % loop.Count].Y) - (loop[(i + 1) % loop.Count].X * loop[i].Y)) / 2);

    private static double Filled(FillRule rule, params List<PointXY>[] loops)
    {
        var triangles = new List<PointXY>();
        Assert.True(Filling.Triangulate(loops, triangles, rule));
        return triangles.Chunk(3).Sum(t => Area(t));
    }

    private static List<PointXY> Square(double x, double y, double side, bool clockwise = false)
    {
        List<PointXY> square = [new(x, y), new(x + side, y), new(x + side, y + side), new(x, y + side)];
        if (clockwise) square.Reverse();
        return square;
    }

    [Fact]
    public void WhatIsKeptOfAStrokeLiesWithinAndOnTheStroke() => Gen.Select(Point, Point).Sample((a, b) =>
    {
        var (from, to) = (a, b);
        if (!Cutting.ToBox(ref from, ref to, Box))
        {
            // Then no point of it lies within.
            for (var t = 0.0; t <= 1; t += 0.05) Assert.False(new PointXY(a.X + ((b.X - a.X) * t), a.Y + ((b.Y - a.Y) * t)) is { X: > -10 and < 10, Y: > -5 and < 5 });
            return;
        }
        foreach (var p in (PointXY[])[from, to])
        {
            Assert.True(Inside(p));
            Assert.InRange(Math.Abs(((b.X - a.X) * (p.Y - a.Y)) - ((b.Y - a.Y) * (p.X - a.X))), 0, 1e-6);
        }
    });

    [Fact]
    public void WhatIsKeptOfATriangleIsAsLargeAsWhatOfItLiesWithin() => Gen.Select(Point, Point, Point).Sample((a, b, c) =>
    {
        var kept = Cutting.LoopToBox([a, b, c], Box);
        Assert.All(kept, p => Assert.True(Inside(p)));
        // The rest of it are the parts beyond each side in turn.
        var rest = 0.0;
        List<PointXY> left = [a, b, c];
        foreach (var (beyond, within) in new[]
        {
            (new Extents(-1e3, -1e3, -10, 1e3), new Extents(-10, -1e3, 1e3, 1e3)), (new(10, -1e3, 1e3, 1e3), new(-1e3, -1e3, 10, 1e3)),
            (new(-1e3, -1e3, 1e3, -5), new(-1e3, -5, 1e3, 1e3)), (new(-1e3, 5, 1e3, 1e3), new(-1e3, -1e3, 1e3, 5)),
        })
        {
            rest += Area(Cutting.LoopToBox(left, beyond));
            left = Cutting.LoopToBox(left, within);
        }
        Assert.Equal(Area([a, b, c]), Area(kept) + rest, 1e-6 * (1 + Area([a, b, c])));
    });

    [Theory]
    [InlineData(FillRule.EvenOdd, false, 100 - 16)]
    [InlineData(FillRule.EvenOdd, true, 100 - 16)]
    [InlineData(FillRule.NonZero, false, 100)]
    [InlineData(FillRule.NonZero, true, 100 - 16)]
    public void AnOutlineWithinAnotherIsAHoleByTheRule(FillRule rule, bool clockwise, double area) => Assert.Equal(area, Filled(rule, Square(0, 0, 10), Square(3, 3, 4, clockwise)), 1e-9);

    [Fact]
    public void OutlinesApartFromOneAnotherAreFilledEachForItself() => Gen.Select(Gen.Int[1, 40], Gen.Bool).Sample((count, clockwise) =>
        Assert.Equal(4.0 * count, Filled(FillRule.NonZero, [.. Enumerable.Range(0, count).Select(i => Square(3 * i, i % 3, 2, clockwise))]), 1e-9));

    [Fact]
    public void FillingManyOutlinesMakesNoMoreTrianglesThanTheyNeed()
    {
        var triangles = new List<PointXY>();
        // Each lies a little higher than the one before: cut by each other's corners they would be some thousands.
        Assert.True(Filling.Triangulate([.. Enumerable.Range(0, 500).Select(i => Square(3 * i, i * 0.001, 2))], triangles));
        Assert.Equal(500 * 2 * 3, triangles.Count);
    }

    [Fact]
    public void ACombOfSlantingTeethIsGivenUpAndLeavesNothing()
    {
        var comb = new List<PointXY>();
        for (var i = 0; i < 60_000; i++) comb.Add(new(i, i % 2 == 0 ? 0 : 1000 + (i * 0.001)));
        var triangles = new List<PointXY>();
        Assert.False(Filling.Triangulate([comb], triangles));
        Assert.Empty(triangles);
    }

    [Fact]
    public void ALineOfTextKeepsTheLettersWhoseMiddlesLieWithin()
    {
        var run = new TextRun("MMMMMMMM", new(-12, 0), new(2, 0), new(0, 2), 0, 0, 0);
        var kept = Cutting.TextToBox(run, Box)!.Value;
        Assert.InRange(kept.Text.Length, 6, 7);
        Assert.True(kept.At.X >= -12 + 0.5 && kept.At.X < -9);
        Assert.Null(Cutting.TextToBox(run with { At = new(40, 0) }, Box));
        Assert.Equal(run with { At = new(-9, 0) }, Cutting.TextToBox(run with { At = new(-9, 0) }, new Extents(-100, -100, 100, 100)));
    }
}
