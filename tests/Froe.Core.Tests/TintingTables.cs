using Froe.Core.Drawing;
using Froe.Core.Models;
using Xunit;

namespace Froe.Core.Tests;

/// <summary>Components of a model grouped by what is known of them, worked by hand.</summary>
public static class TintingTables
{
    private static SceneFacts Scene(LengthUnit unit = LengthUnit.Millimetre)
    {
        // 1 cm³ a part, of 7.85 g, of 500 g (stated), of nothing known.
        static Part Of(string name, Material? material) => new(name, "", null, material, Mesh.Empty, [], [], new Mass(1000, 600, default(Point3)), 0);
        static Component At(string number, int parent, int? part) => new("c", number, "", parent, Affine.Identity, null, part);
        return PreparedScene.FactsOf(new Scene(
            unit,
            [At("M-1", -1, null), At("M-2", 0, null), At("", 1, 0), At("M-3", 1, 1), At("", 0, 2), At("", 0, 0)],
            [Of("Rod", new Material("Steel", 7.85)), Of("Block", new Material("Steel", null)), Of("Foil", null)]));
    }

    private static string Told(Tint tint) => $"{tint.By}: {string.Join("; ", tint.Groups.Select(g => $"{(g.Value.Length == 0 ? "?" : g.Value)} {string.Join(',', g.Components)}"))}";

    [Fact]
    public static void TheyAreGroupedByMaterialMassAndTheDocumentOfTheNearestNumber()
    {
        var documents = new Dictionary<string, NumberedFacts> { ["M-1"] = new("Mechanical", "A", "in review", ""), ["M-3"] = new("Mechanical", "B", "released", "CO-7"), ["M-9"] = new("Civil", "C", "in work", "CO-8") };
        var tints = Tinting.Of(Scene(), documents, new Dictionary<int, double> { [1] = 25 });
        Assert.Equal(
            ["Material: Steel 2,3,5; ? 4", "Mass: under 10 g 2,5; 10 to 100 g 3; ? 4", "Discipline: Mechanical 2,3,4,5", "Revision: A 2,4,5; B 3", "Standing: in review 2,4,5; released 3", "ChangeOrder: CO-7 3; ? 2,4,5"],
            tints.Select(Told));
        Assert.Equal([TintBy.Mass], tints.Where(t => t.IsOrdered).Select(t => t.By));
    }

    [Fact]
    public static void InWhatNothingIsKnownTheyAreNotGrouped()
    {
        Assert.Equal(["Material: Steel 2,3,5; ? 4", "Mass: under 10 g 2,5; ? 3,4"], Tinting.Of(Scene(), new Dictionary<string, NumberedFacts>(), new Dictionary<int, double>()).Select(Told));
        // Of an unknown unit no mass is known.
        Assert.Equal([TintBy.Material], Tinting.Of(Scene(LengthUnit.Unknown), new Dictionary<string, NumberedFacts>(), new Dictionary<int, double>()).Select(t => t.By));
    }

    [Fact]
    public static void MassesAreClassedByTheirUpperBound()
    {
        foreach (var (density, words) in ((double, string)[])[(9.999, "under 10 g"), (10, "10 to 100 g"), (100, "100 g to 1 kg")])
            Assert.Contains(Tinting.Of(Scene(), new Dictionary<string, NumberedFacts>(), new Dictionary<int, double> { [2] = density }).Single(t => t.By == TintBy.Mass).Groups, g => g.Value == words && g.Components.Contains(4));
    }
}
