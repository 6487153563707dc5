using System.Collections;
using System.Collections.Immutable;
using CsCheck;
using Froe.Core.Draft;
using Froe.Core.Drawing;
using Froe.Core.Routing;
using Xunit;

namespace Froe.Core.Tests;

/// <summary>What of a sheet counts as seen, and what a step makes of it.</summary>
public class SeeingTables
{
    /// <summary>An A3 sheet, not at the origin; a patch of it is 420 / 64 = 6.5625 mm.</summary>
    private static readonly Extents Paper = new(100, 200, 520, 497);

    private static SheetFrame Frame(LengthUnit unit = LengthUnit.Millimetre, Surface surface = Surface.Strokes) => new(unit, Paper, surface);

    /// <summary>A line of text that begins in a patch (column, row), a tenth of it in from its lower left corner.</summary>
    private static WrittenRun Text(int column, int row, double height, double length, double angle = 0)
    {
        var (sin, cos) = Math.SinCos(angle);
        PointXY at = new(100 + ((column + 0.1) * 6.5625), 497 - ((row + 0.9) * 6.5625));
        return new WrittenRun("words", at, new(length * cos, length * sin), new(-height * sin, height * cos));
    }

    private static List<int> Seen(PatchGrid grid, SeenView view) => [.. Seeing.In(grid, Paper, view)];

    [Theory]
    [InlineData(420, 297, 64, 46)]
    [InlineData(297, 420, 46, 64)]
    [InlineData(1000, 1000, 64, 64)]
    [InlineData(1e6, 1, 64, 1)]
    [InlineData(0, 5, 1, 64)]
    public void TheLongerSideHasSixtyFourPatches(double width, double height, int columns, int rows)
    {
        var divided = Seeing.Divided(new Extents(-5, 7, -5 + width, 7 + height));
        Assert.Equal((columns, rows), (divided!.Value.Columns, divided.Value.Rows));
    }

    [Fact]
    public void ASheetOfNoSizeIsNotDivided()
    {
        Assert.Null(Seeing.Divided(Extents.Empty));
        Assert.Null(Seeing.Divided(new Extents(3, 3, 3, 3)));
        Assert.Null(Seeing.Divided(new Extents(0, 0, double.PositiveInfinity, 1)));
        Assert.Null(Seeing.Of(new SheetFrame(LengthUnit.Metre, new Extents(3, 3, 3, 3)), (_, _) => true, []));
    }

    // 8 pixels for a patch of 6.5625 mm are 1.219 a millimetre; letters of 2.5 mm are 7 pixels high at 2.8 a millimetre, those of
    // 0.1 mm at 70, which is more than the 320 pixels a patch that are asked at most: 48.76.
    [Theory]
    [InlineData(LengthUnit.Millimetre, Surface.Strokes, 0, 1.219)]
    [InlineData(LengthUnit.Millimetre, Surface.Strokes, 7, 1.219)]
    [InlineData(LengthUnit.Millimetre, Surface.Strokes, 2.5, 2.8)]
    [InlineData(LengthUnit.Millimetre, Surface.Strokes, 0.1, 48.762)]
    [InlineData(LengthUnit.Millimetre, Surface.Page, 0, 2.8)]
    [InlineData(LengthUnit.Millimetre, Surface.Page, 1.75, 4)]
    [InlineData(LengthUnit.Millimetre, Surface.Tiles, 0, 2.8)]
    [InlineData(LengthUnit.Unknown, Surface.Tiles, 0, 1.219)]
    [InlineData(LengthUnit.Unknown, Surface.Page, 0, 1.219)]
    public void APatchNeedsAsManyPixelsAsItsSmallestText(LengthUnit unit, Surface surface, double height, double needed)
    {
        var texts = height > 0 ? new[] { Text(4, 5, height, 3), Text(4, 5, 20, 3) } : [];
        var grid = Seeing.Of(Frame(unit, surface), (column, row) => column == 4 && row == 5, texts)!;
        Assert.Equal(1, grid.Held);
        Assert.Equal(needed, grid.Needs[(5 * 64) + 4], 3);
    }

    [Fact]
    public void WhereNothingIsDrawnNothingIsToBeRead()
    {
        // On a layer that is off; white on white; of no height.
        var grid = Seeing.Of(Frame(), (column, _) => column == 0, [Text(9, 9, 2.5, 40), Text(0, 3, 0, 4), Text(0, 4, double.NaN, 4)])!;
        Assert.Equal(46, grid.Held);
        Assert.All(Enumerable.Range(0, 46), row => Assert.Equal(1.219, grid.Needs[row * 64], 3));
    }

    [Fact]
    public void ATextNeedsItsPixelsInEveryPatchThatItTouches()
    {
        var along = Seeing.Of(Frame(), (_, _) => true, [Text(10, 20, 2.5, 5 * 6.5625)])!;
        Assert.Equal([10, 11, 12, 13, 14, 15], Enumerable.Range(0, 64 * 46).Where(i => along.Needs[i] > 2).Select(i => i - (20 * 64)));
        var upwards = Seeing.Of(Frame(), (_, _) => true, [Text(10, 20, 2.5, 5 * 6.5625, Math.PI / 2)])!;
        Assert.Equal([15, 16, 17, 18, 19, 20], Enumerable.Range(0, 64 * 46).Where(i => upwards.Needs[i] > 2 && i % 64 == 10).Select(i => i / 64));
    }

    [Fact]
    public void APatchIsSeenWhereItLiesWhollyOnTheScreenAndIsLargeEnough()
    {
        var grid = Seeing.Of(Frame(), (_, _) => true, [Text(10, 20, 2.5, 1)])!;
        Assert.Equal(64 * 46, Seen(grid, new(Paper, 3)).Count);
        Assert.Equal((64 * 46) - 1, Seen(grid, new(Paper, 2)).Count);
        Assert.Empty(Seen(grid, new(Paper, 1.2)));
        // From the upper left corner of patch (2, 3) to the middle of (5, 7): that row and that column are cut.
        double side = 6.5625, left = 100 + (2 * side), top = 497 - (3 * side);
        var some = Seen(grid, new(new Extents(left, 497 - (7.5 * side), 100 + (5.5 * side), top), 3));
        Assert.Equal(from row in new[] { 3, 4, 5, 6 } from column in new[] { 2, 3, 4 } select (row * 64) + column, some);
        // The lowest row reaches over the paper's edge; what is paper of it is enough.
        Assert.Equal(64, Seen(grid, new(new Extents(100, 200, 520, 497 - (45 * side)), 3)).Count);
        Assert.Empty(Seen(grid, new(Extents.Empty, 3)));
        foreach (var scale in new[] { double.NaN, double.PositiveInfinity, 0, -1 }) Assert.Empty(Seen(grid, new(Paper, scale)));
    }

    [Fact]
    public void WhoeverPansOverAllOfASheetHasSeenIt() =>
        Gen.Select(Gen.Double[30, 3000], Gen.Double[30, 3000], Gen.Int[300, 1600], Gen.Int[300, 1000], Gen.Double[0.5, 40]).Sample((width, height, w, h, text) =>
        {
            var frame = new SheetFrame(LengthUnit.Millimetre, new Extents(-7, 3, width - 7, height + 3));
            var at = new WrittenRun("x", new(width / 3, height / 2), new(text * 4, 0), new(0, text));
            var grid = Seeing.Of(frame, (column, row) => (column + row) % 3 > 0, [at])!;
            var seen = new BitArray(grid.Needs.Count);
            var scale = grid.Needs.Max();
            // Steps of the window less a patch, so that none is cut by every view.
            var side = Seeing.Divided(frame.Extents)!.Value.Side;
            double stepX = (w / scale) - side, stepY = (h / scale) - side;
            if (stepX <= 0 || stepY <= 0) return;
            for (var x = -7.0; x < width - 7; x += stepX)
                for (var y = 3.0; y < height + 3; y += stepY) Seeing.Mark(seen, grid, frame.Extents, [new(new(x, y, x + (w / scale), y + (h / scale)), scale)]);
            Assert.Equal(grid.Held, seen.Cast<bool>().Count(b => b));
        }, iter: 60);

    [Theory]
    [InlineData(1000, 999, 99)]
    [InlineData(1000, 1000, 100)]
    [InlineData(3, 1, 33)]
    [InlineData(0, 0, 100)]
    [InlineData(4096, 0, 0)]
    public void AllIsSeenOnlyWhenNothingIsLeft(int held, int seen, int percent) => Assert.Equal(percent, new SeenShare(held, seen).Percent);

    [Theory]
    [InlineData(0, 10, Verdict.Approve, null, null)]
    [InlineData(90, 89, Verdict.Approve, "not-seen", null)]
    [InlineData(90, 89, Verdict.ReturnForChanges, null, 89)]
    [InlineData(90, 89, Verdict.ApproveAsNoted, "not-seen", null)]
    [InlineData(90, 90, Verdict.Approve, null, 90)]
    [InlineData(90, -1, Verdict.Approve, null, null)]
    public void AStepThatAsksForItIsSignedByWhoeverHasSeenEnough(int asked, int seen, Verdict verdict, string? code, int? recorded)
    {
        Guid originator = Guid.NewGuid(), ann = Guid.NewGuid();
        var item = new SlipItem(Guid.NewGuid(), Guid.NewGuid(), new string('a', 64));
        var step = new Step("one", "One", "", 1, [new Seat("a", "A", new PersonHolder(ann))]) { SeenShare = asked };
        var slip = SlipRules.Replay(Slip.Blank, SlipRules.Decide(Slip.Blank, new Send(originator, new Plan("P", "", new([step])), [item]), SlipContext.Empty).Events);
        var shares = seen < 0 ? new Dictionary<Guid, SeenShare>() : new() { [item.Draft] = new(100, seen) };
        var context = new SlipContext(SlipContext.Empty.Groups, verdict == Verdict.ReturnForChanges ? [new OpenRequest(1, item.Document, 1, ann, false)] : []) { Seen = shares };
        // What the signer says of themselves is not what is recorded.
        var decision = SlipRules.Decide(slip, new SignOff(ann, "a", [new ItemVerdict(item.Draft, item.Sha256, verdict, "noted") { Seen = 100 }]), context);
        Assert.Equal(code, decision.Refusal?.Code);
        if (code is not null)
        {
            Assert.Contains("90 %", decision.Refusal!.Reason, StringComparison.Ordinal);
            Assert.Contains("89 %", decision.Refusal!.Reason, StringComparison.Ordinal);
            return;
        }
        Assert.Equal(recorded, Assert.Single(decision.Events.OfType<SignedOff>().Single().Signature.Verdicts).Seen);
        // The same again does it once, though the page does not know what was recorded.
        var signed = SlipRules.Replay(slip, decision.Events.Where(e => e is SignedOff));
        Assert.Empty(SlipRules.Decide(signed, new SignOff(ann, "a", [new ItemVerdict(item.Draft, item.Sha256, verdict, "noted")]), context).Events);
    }

    [Theory]
    [InlineData(-1, true)]
    [InlineData(0, false)]
    [InlineData(100, false)]
    [InlineData(101, true)]
    public void AShareIsOneOfAHundred(int asked, bool found)
    {
        var step = new Step("one", "One", "", 1, [new Seat("a", "A", new PersonHolder(Guid.NewGuid()))]) { SeenShare = asked };
        Assert.Equal(found, PlanCheck.Check(new Plan("P", "", new([step])), ImmutableDictionary<Guid, ImmutableArray<Guid>>.Empty).Any(f => f is { Code: "seen-share-wrong", Stops: true }));
    }
}
