using CsCheck;
using Froe.Core.Drawing;
using Froe.Core.Ledger;
using Xunit;

namespace Froe.Core.Tests;

/// <summary>Geometry, calendar and hash chain.</summary>
public class DrawingTables
{
    [Fact]
    public void ChordsStayWithinTheToleranceOfTheirArc() => Gen.Select(Gen.Double[0.1, 500], Gen.Double[0.1, 6.2], Gen.Double[0.001, 0.1]).Sample((radius, sweep, tolerance) =>
    {
        var points = new List<PointXY>();
        Curves.Flatten(new EllipseArc(new(3, 4), new(radius, 0), new(0, radius), 0.3, 0.3 + sweep), tolerance, points);
        foreach (var (a, b) in points.Zip(points.Skip(1)))
        {
            double mx = ((a.X + b.X) / 2) - 3, my = ((a.Y + b.Y) / 2) - 4;
            Assert.InRange(radius - Math.Sqrt((mx * mx) + (my * my)), -1e-9, tolerance * 1.0001);
        }
    });

    [Theory]
    [InlineData(1, -5)]
    [InlineData(-1, 5)]
    public void ABulgeOfOneIsAHalfCircleOnItsSide(double bulge, double farthest)
    {
        var arc = Curves.FromBulge(new(0, 0), new(10, 0), bulge);
        Assert.NotNull(arc);
        var points = new List<PointXY>();
        Curves.Flatten(arc.Value, 0.001, points);
        Assert.Equal(0, points[0].X, 9);
        Assert.Equal(10, points[^1].X, 9);
        Assert.Equal(farthest, points.MaxBy(p => Math.Abs(p.Y)).Y, 2);
    }

    [Fact]
    public void ASplineOfDegreeOneIsItsControlPolygon()
    {
        var points = new List<PointXY>();
        Assert.True(Curves.Flatten(1, [0, 0, 1, 2, 2], [new(0, 0), new(5, 5), new(10, 0)], [], 0.01, points));
        Assert.Equal([new(0, 0), new(5, 5), new(10, 0)], points);
        Assert.False(Curves.Flatten(3, [0, 0, 1], [new(0, 0)], [], 0.01, points));
    }

    [Fact]
    public void AFilledSquareWithAHoleHasTheAreaBetweenThem()
    {
        var triangles = new List<PointXY>();
        Assert.True(Filling.Triangulate([[new(0, 0), new(10, 0), new(10, 10), new(0, 10)], [new(3, 3), new(7, 3), new(7, 7), new(3, 7)]], triangles));
        var area = 0.0;
        for (var i = 0; i < triangles.Count; i += 3)
            area += Math.Abs(((triangles[i + 1].X - triangles[i].X) * (triangles[i + 2].Y - triangles[i].Y)) - ((triangles[i + 2].X - triangles[i].X) * (triangles[i + 1].Y - triangles[i].Y))) / 2;
        Assert.Equal(100 - 16, area, 9);
    }

    [Fact]
    public void HatchLinesStopAtTheHole()
    {
        var strokes = new List<PointXY>();
        Assert.True(Filling.Hatch([[new(0, 0), new(10, 0), new(10, 10), new(0, 10)], [new(3, 3), new(7, 3), new(7, 7), new(3, 7)]], new(0, 0.5), 0, new(0, 1), [], 1000, strokes));
        // Lines at 0.5 … 9.5; the four at 3.5 … 6.5 are cut in two.
        Assert.Equal(10 + 4, strokes.Count / 2);
        Assert.Equal((6 * 10) + (4 * 6), strokes.Chunk(2).Sum(s => Math.Abs(s[1].X - s[0].X)), 9);
    }

    [Theory]
    [InlineData(10, 410, "A1")]
    [InlineData(584, 10, "H10")]
    [InlineData(300, 200, "E6")]
    [InlineData(700, 10, null)]
    public void ZonesFollowTheSheetsGrid(double x, double y, string? zone) =>
        Assert.Equal(zone, Zones.Of(new(x, y), new Extents(0, 0, 594, 420), LengthUnit.Millimetre));

    [Fact]
    public void EveryColourNumberReadsOnPaper()
    {
        // 255 is white, which is the paper's own.
        for (var i = 1; i < 255; i++)
        {
            var ink = PaperInk.OnPaper(PaperInk.FromColourNumber(i));
            Assert.True(1.05 / (Luminance(ink) + 0.05) >= 2.95, $"colour {i} becomes {ink:x6}");
        }

        static double Luminance(int rgb)
        {
            double L(int c) => c / 255.0 <= 0.04045 ? c / 255.0 / 12.92 : Math.Pow(((c / 255.0) + 0.055) / 1.055, 2.4);
            return (0.2126 * L((rgb >> 16) & 255)) + (0.7152 * L((rgb >> 8) & 255)) + (0.0722 * L(rgb & 255));
        }
    }

    private static List<ChainedEntry> Chain(int length)
    {
        var chain = new List<ChainedEntry>();
        var before = HashChain.Start;
        for (var i = 1; i <= length; i++)
        {
            var entry = new LedgerEntry(Guid.Empty, i, DateTimeOffset.UnixEpoch.AddSeconds(i), null, "act", $"reason {i}", "{}");
            var hash = HashChain.HashOf(entry, before);
            chain.Add(new ChainedEntry(entry, before, hash));
            before = hash;
        }
        return chain;
    }

    [Fact]
    public void AnyChangeToAChainIsFoundWhereItWasMade() => Gen.Select(Gen.Int[1, 12], Gen.Int[0, 4], Gen.Int[0, 11]).Sample((length, change, at) =>
    {
        var chain = Chain(length);
        Assert.Null(HashChain.Verify(chain));
        at %= length;
        var (entry, before, hash) = chain[at];
        var expected = at + 1L;
        switch (change)
        {
            case 0: chain[at] = new(entry with { Reason = "another" }, before, hash); break;
            case 1: chain[at] = new(entry with { At = entry.At.AddTicks(10) }, before, hash); break;
            case 2: chain[at] = new(entry with { Person = Guid.NewGuid() }, before, hash); break;
            case 3 when length > 1 && at < length - 1: chain.RemoveAt(at); break;
            default:
                // The entry is rewritten with a fitting hash: the one after it no longer follows.
                var forged = entry with { Payload = "{\"forged\":true}" };
                chain[at] = new(forged, before, HashChain.HashOf(forged, before));
                if (at == length - 1) return;
                expected = at + 2;
                break;
        }
        Assert.Equal(expected, HashChain.Verify(chain)?.Sequence);
    });

    [Fact]
    public void FieldsCannotBeShiftedIntoOneAnother()
    {
        var a = new LedgerEntry(Guid.Empty, 1, DateTimeOffset.UnixEpoch, null, "ab", "c", "");
        Assert.NotEqual(HashChain.HashOf(a, HashChain.Start), HashChain.HashOf(a with { Action = "a", Reason = "bc" }, HashChain.Start));
    }
}
