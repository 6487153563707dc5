using Froe.Core.Draft;
using Froe.Core.Register;
using Xunit;

namespace Froe.Core.Tests;

/// <summary>Numbers on a sheet, the rows of its parts list that they stand in, and the balloons of those.</summary>
public static class ItemsOnSheetTables
{
    private static WrittenRun At(string text, double x, double y, double height = 2.4) => new(text, new(x, y), new(text.Length * height * 0.7, 0), new(0, height));

    /// <summary>A frame lettered at its edges, a list of three rows, and what lies in the drawing.</summary>
    private static List<WrittenRun> Sheet(params WrittenRun[] more) =>
    [
        At("1", 40, 2, 3), At("2", 120, 2, 3), At("3", 200, 2, 3), At("A", 2, 100, 3), At("2", 120, 295, 3), At("3", 418, 200, 3), At("B", 418, 295, 3),
        At("Item", 242, 60), At("Part", 256, 60), At("No.", 397, 60),
        At("2", 242, 66), At("Fork arm TO-3311", 256, 66), At("EN-GJS-400", 337, 66), At("2", 397, 66),
        At("3", 242, 72), At("Bush TO-3314", 256, 72), At("CuSn12", 337, 72), At("2", 397, 72),
        At("12", 242, 78), At("Cap TO‑3315", 256, 78), At("S355", 337, 78), At("4", 397, 78),
        .. more,
    ];

    private static readonly HashSet<string> Numbers = ["TO-3311", "TO-3314", "TO-3315", "TO-9999"];

    private static IReadOnlyList<ItemOnSheet> Of(List<WrittenRun> written, HashSet<string> numbers) => Of(written, new Called(numbers, new Dictionary<string, string>()), []);

    private static IReadOnlyList<ItemOnSheet> Of(List<WrittenRun> written, Called called, Dictionary<string, string> elsewhere) =>
        ItemsOnSheet.OfAsync(written, called, () => Task.FromResult<IReadOnlyDictionary<string, string>>(elsewhere)).GetAwaiter().GetResult();

    [Fact]
    public static void ANumberLeadsThroughItsRowToItsBalloons()
    {
        var found = Of(Sheet(At("3", 220, 240, 3.5), At("3", 90, 150, 3.5), At("12", 220, 200, 3.5), At("TO-3311", 262, 20, 5)), Numbers);
        Assert.Equal([("TO-3311", "2", 2), ("TO-3314", "3", 3), ("TO-3315", "12", 2)], found.Select(f => (f.Number, f.Item, f.Places.Count)));
        Assert.Equal([(220.0, 240.0), (90.0, 150.0)], found[1].Places.Skip(1).Select(p => (p.At.X, p.At.Y)));
        // Only the number is the place, not the words before it.
        Assert.InRange(found[1].Places[0].At.X, 256 + 5, 256 + 12);
    }

    [Fact]
    public static void SizesQuantitiesAndTheFrameAreNoBalloons()
    {
        var found = Of(Sheet(At("2", 150, 120, 2.4), At("2x", 150, 140, 3.5), At("23", 150, 160, 3.5)), Numbers);
        Assert.All(found, f => Assert.Single(f.Places));
    }

    [Fact]
    public static void AListWithItsQuantitiesFirstStillHasItsItems()
    {
        List<WrittenRun> sheet = [At("4", 10, 50), At("1", 20, 50), At("A-100 Plate", 30, 50), At("4", 10, 56), At("2", 20, 56), At("A-200 Rod", 30, 56), At("4", 10, 62), At("3", 20, 62), At("A-300 Pin", 30, 62), At("x", 400, 280), At("2", 200, 150, 5)];
        var found = Of(sheet, new HashSet<string> { "A-100", "A-200", "A-300" });
        Assert.Equal([("A-100", "1", 1), ("A-200", "2", 2), ("A-300", "3", 1)], found.Select(f => (f.Number, f.Item, f.Places.Count)));
    }

    [Fact]
    public static void ASheetOfNothingButNumbersIsLookedAtForNoLongerThanOneOfAList()
    {
        // All in one row, as nobody draws it.
        List<WrittenRun> sheet = [.. Enumerable.Range(0, 30_000).Select(i => At(i % 2 == 0 ? "A-100" : $"{i % 1000}", i, 50))];
        Assert.Equal(2000, Assert.Single(Of(sheet, new HashSet<string> { "A-100" })).Places.Count);
    }

    [Fact]
    public static void WhereNoItemsCanBeToldTheNumbersAloneAreFound()
    {
        Assert.Empty(Of(Sheet(), new HashSet<string> { "TO-9999" }));
        Assert.Empty(Of([], Numbers));
        // Two rows of one item: nobody can say which is meant.
        var twice = Of([At("1", 10, 50), At("A-100", 30, 50), At("1", 10, 56), At("A-200", 30, 56), At("1", 200, 150, 5), At("x", 400, 280)], new HashSet<string> { "A-100", "A-200" });
        Assert.Equal([("A-100", "", 1), ("A-200", "", 1)], twice.Select(f => (f.Number, f.Item, f.Places.Count)));
        Assert.Equal([("A-100", "", 2)], Of([At("SEE A-100 AND A-100", 10, 50)], new HashSet<string> { "A-100" }).Select(f => (f.Number, f.Item, f.Places.Count)));
    }
    private static readonly Dictionary<string, string> Names = new() { [WrittenPage.Fold("Fork arm")] = "TO-3311", [WrittenPage.Fold("Bush")] = "TO-3314", [WrittenPage.Fold("Cap")] = "Cap" };

    [Fact]
    public static void RowsOfNamesAloneLeadToTheirBalloonsToo()
    {
        var found = Of(
            [At("Item", 10, 44), At("1", 10, 50), At("Fork arm", 30, 50), At("2", 10, 56), At("BUSH", 30, 56), At("3", 10, 62), At("Cap", 30, 62), At("3", 200, 150, 5), At("x", 400, 280), At("o", 2, 2)],
            new Called(Numbers, Names), []);
        Assert.Equal([("Cap", "3", false, 2), ("TO-3311", "1", false, 1), ("TO-3314", "2", false, 1)], found.Select(f => (f.Number, f.Item, f.IsElsewhere, f.Places.Count)));
    }

    [Fact]
    public static void ASheetWithoutAListHasItsBalloonsByOneThatStandsElsewhere()
    {
        // A title block with the drawing's number beside the number of its sheet; sizes as they are lettered; the frame's fields.
        List<WrittenRun> sheet = [At("TO-3310", 300, 20), At("1", 380, 20), At("40", 100, 100), At("Ø12", 120, 120), At("60", 140, 90), At("1", 2, 100, 5), At("o", 418, 295), At("o", 0, 0)];
        Called called = new(new HashSet<string> { "TO-3310", "TO-3311", "TO-3314" }, Names);
        Dictionary<string, string> list = new() { ["1"] = "TO-3311", ["2"] = "TO-3314", ["3"] = "Cap", ["60"] = "TO-9999" };
        var found = Of([.. sheet, At("1", 220, 240, 5), At("3", 90, 150, 5), At("3", 95, 190, 5)], called, list);
        Assert.Equal([("Cap", "3", true, 2), ("TO-3310", "", false, 1), ("TO-3311", "1", true, 1)], found.Select(f => (f.Number, f.Item, f.IsElsewhere, f.Places.Count)));
        // One alone may be anything; a list of the sheet's own goes first.
        Assert.Equal(["TO-3310"], Of([.. sheet, At("3", 90, 150, 5)], called, list).Select(f => f.Number));
        Assert.All(Of(Sheet(At("3", 220, 240, 3.5)), called, list), f => Assert.False(f.IsElsewhere));
    }

    [Fact]
    public static void TheListOfAnotherSheetIsByItem()
    {
        Assert.Equal([("12", "TO-3315"), ("2", "TO-3311"), ("3", "TO-3314")], ItemsOnSheet.ListOn(Sheet(), new Called(Numbers, Names)).OrderBy(l => l.Key, StringComparer.Ordinal).Select(l => (l.Key, l.Value)));
        Assert.Empty(ItemsOnSheet.ListOn([At("TO-3311", 10, 50)], new Called(Numbers, Names)));
    }
}
