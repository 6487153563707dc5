using CsCheck;
using Froe.Core.Drawing;
using Xunit;

namespace Froe.Core.Tests;

/// <summary>What the lines of a sheet enclose about a point.</summary>
public static class RegionTables
{
    private static Sheet Of(params (double X, double Y)[][] lines)
    {
        var builder = new SheetBuilder { Tolerance = 0.01 };
        foreach (var line in lines)
        {
            builder.Begin(new EntityLook(1, 0, 0, 25, [], "LINE"));
            for (var i = 1; i < line.Length; i++) builder.Line(new(line[i - 1].X, line[i - 1].Y), new(line[i].X, line[i].Y));
        }
        return builder.Build("Model", LengthUnit.Millimetre, [new Layer("0", true, 0)]);
    }

    private static (double X, double Y)[] Box(double x, double y, double w, double h) => [(x, y), (x + w, y), (x + w, y + h), (x, y + h), (x, y)];

    private static (double X, double Y)[] Circle(double x, double y, double r, int chords) =>
        [.. Enumerable.Range(0, chords + 1).Select(i => (x + (r * Math.Cos(2 * Math.PI * (i % chords) / chords)), y + (r * Math.Sin(2 * Math.PI * (i % chords) / chords))))];

    private static double AreaOf(IReadOnlyList<PointXY> p) => p.Count == 0 ? 0 : p.Select((a, i) => (a, b: p[(i + 1) % p.Count])).Sum(e => ((e.a.X - p[0].X) * (e.b.Y - p[0].Y)) - ((e.b.X - p[0].X) * (e.a.Y - p[0].Y))) / 2;

    private static double About(Sheet sheet, double x, double y) => AreaOf(new Regions(sheet).About(new(x, y), 1000));

    [Fact]
    public static void ABoxIsItsBoxAndOutsideOfItNothingIsClosed()
    {
        var sheet = Of(Box(10, 10, 100, 50));
        var outline = new Regions(sheet).About(new(50, 30), 1000);
        Assert.Equal(4, outline.Length);
        Assert.Equal(5000, AreaOf(outline), 1);
        Assert.Equal(0, About(sheet, 5, 30));
        Assert.Equal(0, About(sheet, 50, 90));
        Assert.Equal(0, About(Of(), 5, 5));
    }

    [Fact]
    public static void LinesThatCrossPartItWhereTheyDo()
    {
        // A box parted by a line that goes beyond it on both sides, and one that ends on that line.
        var sheet = Of(Box(0, 0, 100, 60), [(40, -20), (40, 90)], [(40, 30), (130, 30)]);
        Assert.Equal(40 * 60, About(sheet, 20, 40), 1);
        Assert.Equal(60 * 30, About(sheet, 70, 45), 1);
        Assert.Equal(60 * 30, About(sheet, 70, 15), 1);
    }

    [Fact]
    public static void WhatEndsWithinIsWalkedRoundAndTakesNothing()
    {
        var sheet = Of(Box(0, 0, 100, 60), [(0, 30), (60, 30), (60, 45)], [(100, 10), (80, 10)]);
        var outline = new Regions(sheet).About(new(20, 40), 1000);
        Assert.Equal(6000, AreaOf(outline), 1);
        Assert.Equal(4, outline.Length);
    }

    [Fact]
    public static void AnIslandToTheRightIsNotMistakenForTheBorder()
    {
        var sheet = Of(Box(0, 0, 100, 60), Box(60, 20, 20, 20), Box(65, 25, 5, 5));
        // What lies within is not taken off.
        Assert.Equal(6000, About(sheet, 30, 30), 1);
        Assert.Equal(400, About(sheet, 77, 30), 1);
        Assert.Equal(25, About(sheet, 67, 27), 1);
    }

    [Fact]
    public static void BetweenTwoOverlappingCirclesIsTheirLens()
    {
        // Radius 20, 20 apart: 2 r² acos(d / 2r) − d / 2 · √(4 r² − d²).
        var sheet = Of(Circle(40, 40, 20, 720), Circle(60, 40, 20, 720));
        var lens = (2 * 400 * Math.Acos(0.5)) - (10 * Math.Sqrt(1600 - 400));
        Assert.Equal(lens, About(sheet, 50, 40), 0);
        Assert.Equal((Math.PI * 400) - lens, About(sheet, 30, 40), 0);
    }

    [Fact]
    public static void AnOutlineOfVeryManyCornersIsDrawnByAsManyAsThereIsRoomFor()
    {
        var outline = new Regions(Of(Circle(100, 100, 80, 20_000))).About(new(100, 100), 1000);
        Assert.InRange(outline.Length, 100, 1000);
        Assert.InRange(AreaOf(outline) / (Math.PI * 6400), 0.999, 1.001);
    }

    [Fact]
    public static void LayersThatAreOutDoNotCount()
    {
        var builder = new SheetBuilder { Tolerance = 0.01 };
        foreach (var (layer, x) in new[] { (0, 100.0), (1, 50.0) })
        {
            builder.Begin(new EntityLook(1, layer, 0, 25, [], "LINE"));
            var box = Box(0, 0, x, 60);
            for (var i = 1; i < 5; i++) builder.Line(new(box[i - 1].X, box[i - 1].Y), new(box[i].X, box[i].Y));
        }
        var sheet = builder.Build("Model", LengthUnit.Millimetre, [new Layer("0", true, 0), new Layer("1", true, 0)]);
        Assert.Equal(3000, AreaOf(new Regions(sheet).About(new(20, 20), 1000)), 1);
        Assert.Equal(6000, AreaOf(new Regions(sheet, [true, false]).About(new(20, 20), 1000)), 1);
    }

    [Fact]
    public static void ASheetWhoseLinesAllLieInOnePlaceComesToAnEnd()
    {
        // A fan of lines through one point, far from closed, a thousand to a cell; and a box about all of it.
        var fan = Enumerable.Range(0, 3000).Select(i => new[] { (500.0, 500.0), (500 + Math.Cos(i), 500 + Math.Sin(i)) });
        var sheet = Of([Box(0, 0, 1000, 1000), .. fan]);
        _ = new Regions(sheet).About(new(499.2, 500.3), 1000);
        Assert.Equal(1e6, About(sheet, 20, 30), 0);
    }

    /// <summary>Laws: in a grid of random spacings every cell is its own; turned and moved its size stays.</summary>
    [Fact]
    public static void EveryCellOfAGridIsItsOwnHoweverItLies() =>
        Gen.Select(Gen.Double[1, 20].Array[6], Gen.Double[1, 20].Array[5], Gen.Double[0, 6.28], Gen.Int[0, 5], Gen.Int[0, 4], Gen.Double[-5000, 5000]).Sample(
            t =>
            {
                var (widths, heights, angle, column, row, away) = t;
                double[] xs = [0, .. Sums(widths)], ys = [0, .. Sums(heights)];
                var (sin, cos) = Math.SinCos(angle);
                (double, double) Turned(double x, double y) => ((x * cos) - (y * sin) + away, (x * sin) + (y * cos) - away);
                var lines = xs.Select(x => new[] { Turned(x, ys[0]), Turned(x, ys[^1]) }).Concat(ys.Select(y => new[] { Turned(xs[0], y), Turned(xs[^1], y) })).ToArray();
                var (px, py) = Turned((xs[column] + xs[column + 1]) / 2, (ys[row] + ys[row + 1]) / 2);
                var size = widths[column] * heights[row];
                Assert.InRange(About(Of(lines), px, py) / size, 0.999, 1.001);
            },
            iter: 300);

    private static IEnumerable<double> Sums(double[] steps)
    {
        var sum = 0.0;
        foreach (var step in steps) yield return sum += step;
    }
}
