using Xunit;
using static Froe.Formats.Tests.SmallDxf;

namespace Froe.Formats.Tests;

/// <summary>What hides what was drawn before it: wipeouts, white areas, grounds of texts, and the order things are drawn in.</summary>
public class DxfMaskTables
{
    private const string Lines = "0 LINE\n5 A1\n8 0\n10 0\n20 5\n11 30\n21 5";

    /// <summary>A wipeout over x from 10 to 20 and y from 0 to 10, which is a rectangle by two corners or a polygon by its own.</summary>
    private const string Wipe = "0 WIPEOUT\n5 B1\n8 0\n10 10\n20 0\n11 10\n21 0\n12 0\n22 10\n13 1\n23 1\n71 1\n91 2\n14 -0.5\n24 -0.5\n14 0.5\n24 0.5";

    private const string After = "0 LINE\n5 C1\n8 0\n10 0\n20 8\n11 30\n21 8";

    private const string Table = "0 TABLE\n2 BLOCK_RECORD\n0 BLOCK_RECORD\n5 1F\n2 *Model_Space\n0 ENDTAB";

    private static List<(double, double, double, double)> Drawn(string entities, string objects = "", string blocks = "") => [.. Strokes(Read(FileOf(entities, "", Table, blocks, objects)).Sheets[0]).Order()];

    [Fact]
    public void AWipeoutHidesWhatWasDrawnBeforeIt() =>
        Assert.Equal([(0, 5, 10, 5), (0, 8, 30, 8), (20, 5, 30, 5)], Drawn($"{Lines}\n{Wipe}\n{After}"));

    [Theory]
    // A triangle: its left half of the height is 5 wide at y = 5.
    [InlineData("71 2\n91 4\n14 -0.5\n24 0.5\n14 0.5\n24 0.5\n14 -0.5\n24 -0.5\n14 -0.5\n24 0.5", 10, 15)]
    // Two corners in the points of a picture, rows from the top down: its upper half is hidden, the line lies on its edge.
    [InlineData("71 1\n91 2\n14 -0.5\n24 -0.5\n14 0.5\n24 0", 30, 30)]
    [InlineData("71 1\n91 2\n14 -0.5\n24 -0.1\n14 0\n24 0.5", 10, 15)]
    public void ItHidesItsOwnShapeOnly(string corners, double from, double to)
    {
        var left = Drawn($"{Lines}\n0 WIPEOUT\n5 B1\n8 0\n10 10\n20 0\n11 10\n21 0\n12 0\n22 10\n13 1\n23 1\n{corners}");
        Assert.Equal(from == to ? [(0, 5, 30, 5)] : [(0, 5, from, 5), (to, 5, 30, 5)], left);
    }

    [Theory]
    [InlineData("0 SOLID\n8 0\n62 255\n10 10\n20 0\n11 20\n21 0\n12 10\n22 10\n13 20\n23 10", true)]
    [InlineData("0 SOLID\n8 0\n62 1\n10 10\n20 0\n11 20\n21 0\n12 10\n22 10\n13 20\n23 10", false)]
    [InlineData("0 HATCH\n8 0\n420 16777215\n62 7\n10 0\n20 0\n30 0\n2 SOLID\n70 1\n71 0\n91 1\n92 3\n72 0\n73 1\n93 4\n10 10\n20 0\n10 20\n20 0\n10 20\n20 10\n10 10\n20 10\n97 0\n75 0\n76 1\n98 0", true)]
    public void AWhiteAreaHidesAsPaperDoes(string area, bool hides) =>
        Assert.Equal(hides ? [(0, 5, 10, 5), (20, 5, 30, 5)] : [(0, 5, 30, 5)], Drawn($"{Lines}\n{area}"));

    [Theory]
    [InlineData("90 0", 1)]
    [InlineData("90 2", 2)]
    [InlineData("90 1\n63 255", 2)]
    public void TheGroundOfATextHidesWhatIsBeneath(string ground, int pieces) =>
        Assert.Equal(pieces, Drawn($"{Lines}\n0 MTEXT\n8 0\n10 10\n20 5\n40 3\n71 4\n1 MMM\n{ground}").Count);

    [Fact]
    public void ATextIsHiddenByItsLetters()
    {
        var sheet = Read(FileOf($"0 TEXT\n8 0\n10 0\n20 2\n40 5\n1 IIIIIIIIIIIIIIIIIIIIIIIIIIIIIIIIIIIIIIII\n{Wipe}\n0 TEXT\n8 0\n10 12\n20 2\n40 3\n1 ON\n0 LINE\n8 0\n10 0\n20 -20\n11 90\n21 -20")).Sheets[0];
        Assert.Equal(3, sheet.Texts.Count);
        Assert.Equal("ON", sheet.Texts[^1].Text);
        Assert.All(sheet.Texts.Take(2), t => Assert.True(t.Corners().All(c => c.X is <= 11 or >= 19), string.Join(' ', t.Corners().Select(c => c.X))));
    }

    [Fact]
    public void AFillIsCutToWhatIsSeen()
    {
        // A square of 20 by 10, half of it under the wipeout.
        var sheet = Read(FileOf($"0 SOLID\n8 0\n62 1\n10 0\n20 0\n11 20\n21 0\n12 0\n22 10\n13 20\n23 10\n{Wipe}")).Sheets[0];
        Assert.Equal(100, Area(sheet), 3);
    }

    [Fact]
    public void ThingsPutBehindAWipeoutAreHiddenAndThingsPutBeforeItAreNot()
    {
        // The wipeout takes the last place: both lines are beneath it. Then the first: neither is.
        Assert.Equal([(0, 5, 10, 5), (0, 8, 10, 8), (20, 5, 30, 5), (20, 8, 30, 8)], Drawn($"{Lines}\n{Wipe}\n{After}", "0 SORTENTSTABLE\n5 99\n330 C\n330 1F\n331 B1\n5 C1\n331 C1\n5 B1"));
        Assert.Equal([(0, 5, 30, 5), (0, 8, 30, 8)], Drawn($"{Lines}\n{Wipe}\n{After}", "0 SORTENTSTABLE\n5 99\n330 C\n330 1F\n331 B1\n5 A1\n331 A1\n5 B1"));
    }

    [Fact]
    public void ABlockIsOneThingInTheOrderAndItsOwnWipeoutsHideWithinIt()
    {
        const string Block = "0 BLOCK\n2 b\n10 0\n20 0\n0 LINE\n5 D1\n8 0\n10 0\n20 5\n11 30\n21 5\n0 WIPEOUT\n5 D2\n8 0\n10 10\n20 0\n11 10\n21 0\n12 0\n22 10\n13 1\n23 1\n71 1\n91 2\n14 -0.5\n24 -0.5\n14 0.5\n24 0.5\n0 LINE\n5 D3\n8 0\n10 0\n20 6\n11 30\n21 6\n0 ENDBLK";
        Assert.Equal([(0, 2, 10, 2), (0, 5, 10, 5), (0, 6, 30, 6), (20, 2, 30, 2), (20, 5, 30, 5)], Drawn("0 LINE\n5 A1\n8 0\n10 0\n20 2\n11 30\n21 2\n0 INSERT\n5 B1\n8 0\n2 b\n10 0\n20 0", "", Block));
        // The line beneath is put before the whole block.
        Assert.Equal([(0, 2, 30, 2), (0, 5, 10, 5), (0, 6, 30, 6), (20, 5, 30, 5)], Drawn("0 LINE\n5 A1\n8 0\n10 0\n20 2\n11 30\n21 2\n0 INSERT\n5 B1\n8 0\n2 b\n10 0\n20 0", "0 SORTENTSTABLE\n5 99\n330 1F\n331 A1\n5 B1\n331 B1\n5 A1", Block));
    }

    [Fact]
    public void AnOutlineAlongTheEdgeOfAWhiteAreaStays() => Assert.Equal(4, Drawn(
        "0 LWPOLYLINE\n5 A1\n8 0\n90 4\n70 1\n10 10\n20 0\n10 20\n20 0\n10 20\n20 10\n10 10\n20 10\n0 SOLID\n5 B1\n8 0\n62 255\n10 10\n20 0\n11 20\n21 0\n12 10\n22 10\n13 20\n23 10").Count);

    [Fact]
    public void WhatIsHiddenInTheModelIsHiddenInAView()
    {
        var paper = Read(FileOf($"{Lines}\n{Wipe}\n0 LINE\n67 1\n8 0\n10 0\n20 0\n11 100\n21 0\n0 VIEWPORT\n67 1\n8 0\n10 50\n20 50\n40 40\n41 40\n68 2\n69 2\n45 40\n12 15\n22 5")).Sheets[0];
        Assert.Equal([(0, 0, 100, 0), (35, 50, 45, 50), (55, 50, 65, 50)], Strokes(paper).Order());
    }

    [Fact]
    public void AWipeoutOnThePaperHidesWhatAViewShows()
    {
        const string View = "0 VIEWPORT\n5 F0\n67 1\n8 0\n10 15\n20 5\n40 40\n41 40\n68 2\n69 2\n45 40\n12 15\n22 5";
        var wipe = Wipe.Replace("5 B1\n8 0", "5 B1\n67 1\n8 0", StringComparison.Ordinal);
        Assert.Equal([(0, 5, 10, 5), (20, 5, 30, 5)], Strokes(Read(FileOf($"{Lines}\n{View}\n{wipe}")).Sheets[0]).Order());
        Assert.Equal([(0, 5, 30, 5)], Strokes(Read(FileOf($"{Lines}\n{wipe}\n{View}")).Sheets[0]).Order());
    }

    [Theory]
    [InlineData("14 1e300\n24 -1e300\n14 1e308\n24 0\n14 0\n24 0")]
    [InlineData("91 3\n14 0\n24 0\n14 0\n24 0\n14 0\n24 0")]
    [InlineData("91 0\n13 0\n23 0")]
    public void AWipeoutThatIsNoneHidesNothing(string broken) => Assert.Equal([(0, 5, 30, 5)], Drawn($"{Lines}\n0 WIPEOUT\n5 B1\n8 0\n10 10\n20 0\n11 10\n21 0\n12 0\n22 10\n71 2\n{broken}"));
}
