using Froe.Core.Drawing;
using Froe.Core.Models;
using Xunit;

namespace Froe.Core.Tests;

/// <summary>Parts lists, worked by hand.</summary>
public static class PartsListTables
{
    private static readonly Dictionary<int, double> Unstated = [];

    private static PartFacts Part(string name, double? volume, double? density, string? material = null) => new(
        name, "", null, null, material, density, [0, 0, 0, 1, 1, 1], volume, 1, null, true, 0, null, new BlockFacts(0, 0, 0, 0, 0, 0, 0, false));

    private static ComponentFacts At(string name, int parent, int? part, string number = "") => new(name, number, "", parent, null, null, null, part);

    /// <summary>A stand of a plate, two equal brackets with two bolts each, a bolt of its own and a third bracket that lacks one.</summary>
    private static readonly SceneFacts Stand = new(
        LengthUnit.Millimetre, null,
        [
            At("Stand", -1, null),
            At("Plate", 0, 0, "ST-1"),
            At("Bracket", 0, null), At("Angle", 2, 1), At("Bolt", 2, 2), At("Bolt", 2, 2),
            At("Bracket", 0, null), At("Bolt", 6, 2), At("Angle", 6, 1), At("Bolt", 6, 2),
            At("Bolt", 0, 2),
            At("Bracket", 0, null), At("Angle", 11, 1), At("Bolt", 11, 2),
        ],
        [Part("Plate", 10_000, 7.85, "S235"), Part("Angle", 2000, 2.7, "AlMgSi1"), Part("Bolt", 1000, null)]);

    [Fact]
    public static void LevelsCountWhatLiesInEachAssemblyAndLikeAssembliesAreOneItem()
    {
        var rows = PartsList.Of(Stand, PartsListDepth.Levels, new Dictionary<int, double> { [2] = 8 });
        Assert.Equal(
            [
                ("1", 1, "Plate", 1), ("2", 1, "Bracket", 2), ("2.1", 2, "Angle", 1), ("2.2", 2, "Bolt", 2), ("3", 1, "Bolt", 1), ("4", 1, "Bracket", 1), ("4.1", 2, "Angle", 1), ("4.2", 2, "Bolt", 1),
            ],
            rows.Select(r => (r.Item, r.Level, r.Name, r.Quantity)));
        Assert.Equal("ST-1", rows[0].Number);
        // What stands for a row in the model: the bolts of both brackets.
        Assert.Equal([4, 5, 7, 9], rows[3].Components.Order());
        Assert.Equal([2, 6], rows[1].Components);
        Assert.Equal((78.5, 5.4 + 16, 8, 5.4 + 8), (Rounded(rows[0]), Rounded(rows[1]), Rounded(rows[4]), Rounded(rows[5])));
    }

    [Fact]
    public static void TheTopAloneAndPartsAlone()
    {
        Assert.Equal(["1 Plate 1", "2 Bracket 2", "3 Bolt 1", "4 Bracket 1"], PartsList.Of(Stand, PartsListDepth.Top, Unstated).Select(r => $"{r.Item} {r.Name} {r.Quantity}"));
        var parts = PartsList.Of(Stand, PartsListDepth.Parts, Unstated);
        Assert.Equal(["1 Plate 1", "2 Angle 3", "3 Bolt 6"], parts.Select(r => $"{r.Item} {r.Name} {r.Quantity}"));
        Assert.Equal(["S235", "AlMgSi1", ""], parts.Select(r => r.Material));
    }

    [Fact]
    public static void WhatWeighsNobodyKnowsWeighsNothingTold()
    {
        var rows = PartsList.Of(Stand, PartsListDepth.Levels, Unstated);
        Assert.Null(rows.Single(r => r.Item == "3").Mass);
        Assert.Null(rows.Single(r => r.Item == "2").Mass);
        Assert.NotNull(rows.Single(r => r.Item == "2.1").Mass);
        // Densities are per cubic centimetre: a model of no known unit has no masses.
        Assert.All(PartsList.Of(Stand with { Unit = LengthUnit.Unknown }, PartsListDepth.Parts, Unstated), r => Assert.Null(r.Mass));
    }

    private static double Rounded(PartsListRow row) => Math.Round(row.Mass!.Value, 9);

    [Fact]
    public static void ItemsOfADrawingAreThoseOfTheModelOrOfWhatTheDrawingIsAbout()
    {
        string Words(string number) => string.Join(", ", ModelItems.Of(Stand, number).Select(i => $"{i.Key} {i.Value}"));
        Assert.Equal("1 ST-1, 2 Bracket, 3 Bolt, 4 Bracket", Words("TO-9900"));
        Assert.Equal("1 Angle, 2 Bolt", Words("Bracket"));
        // A part has no list: its drawing's balloons are those of the whole.
        Assert.Equal(Words("TO-9900"), Words("ST-1"));
        var called = ModelItems.Called(Stand);
        Assert.Equal(["ST-1"], called.Numbers);
        Assert.Equal(["angle Angle", "bolt Bolt", "bracket Bracket", "plate ST-1", "stand Stand"], called.Names.Select(n => $"{n.Key} {n.Value}").Order(StringComparer.Ordinal));
        // One name of two things tells nothing.
        var twice = Stand with { Components = [.. Stand.Components, At("Plate", 0, 0, "ST-2")] };
        Assert.DoesNotContain("plate", ModelItems.Called(twice).Names.Keys);
    }
}
