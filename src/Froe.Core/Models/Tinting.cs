namespace Froe.Core.Models;

/// <summary>By what the components of a model are tinted.</summary>
public enum TintBy
{
    /// <summary>What they are made of.</summary>
    Material,

    /// <summary>What one weighs.</summary>
    Mass,

    /// <summary>The discipline of the document of their number.</summary>
    Discipline,

    /// <summary>Its revision.</summary>
    Revision,

    /// <summary>Where it stands.</summary>
    Standing,

    /// <summary>The change order that the last package with its revision carries out.</summary>
    ChangeOrder,
}

/// <summary>Components that are alike in something.</summary>
/// <param name="Value">In what, in words; empty where it is not known.</param>
/// <param name="Components">By their places in the scene's list; parts alone, for an assembly is what lies in it.</param>
public sealed record TintGroup(string Value, IReadOnlyList<int> Components);

/// <summary>The components of a model, grouped by something that is known of some of them.</summary>
/// <param name="IsOrdered">Whether the groups go from less to more; else the largest comes first.</param>
public sealed record Tint(TintBy By, bool IsOrdered, IReadOnlyList<TintGroup> Groups);

/// <summary>What is known of the document that a component's number names.</summary>
public sealed record NumberedFacts(string Discipline, string Revision, string Standing, string ChangeOrder);

/// <summary>Groups the components of a model by what is known of them.</summary>
public static class Tinting
{
    /// <summary>Classes of masses, each up to so many grams.</summary>
    private static readonly (double Grams, string Words)[] Masses = [(10, "under 10 g"), (100, "10 to 100 g"), (1000, "100 g to 1 kg"), (10_000, "1 to 10 kg"), (100_000, "10 to 100 kg"), (double.PositiveInfinity, "over 100 kg")];

    /// <summary>Groups them in every way in which something is known.</summary>
    /// <param name="documents">Of documents by number. A part stands for its own number's, or that of the nearest it lies in.</param>
    /// <param name="densities">In g/cm³ by part, where somebody stated what the file does not.</param>
    public static IReadOnlyList<Tint> Of(SceneFacts scene, IReadOnlyDictionary<string, NumberedFacts> documents, IReadOnlyDictionary<int, double> densities)
    {
        ArgumentNullException.ThrowIfNull(scene);
        ArgumentNullException.ThrowIfNull(documents);
        ArgumentNullException.ThrowIfNull(densities);
        var numbered = new NumberedFacts?[scene.Components.Count];
        for (var i = 0; i < numbered.Length; i++)
        {
            var c = scene.Components[i];
            numbered[i] = documents.TryGetValue(c.Number, out var own) ? own : c.Parent < 0 ? null : numbered[c.Parent];
        }
        List<Tint?> all =
        [
            Grouped(scene, TintBy.Material, c => scene.Parts[scene.Components[c].Part!.Value].Material ?? ""),
            ByMass(scene, densities),
            Grouped(scene, TintBy.Discipline, c => numbered[c]?.Discipline ?? ""),
            Grouped(scene, TintBy.Revision, c => numbered[c]?.Revision ?? ""),
            Grouped(scene, TintBy.Standing, c => numbered[c]?.Standing ?? ""),
            Grouped(scene, TintBy.ChangeOrder, c => numbered[c]?.ChangeOrder ?? ""),
        ];
        return [.. all.OfType<Tint>()];
    }

    private static IEnumerable<int> Pieces(SceneFacts scene) => Enumerable.Range(0, scene.Components.Count).Where(c => scene.Components[c].Part is not null);

    /// <summary>Null where nothing is known of any.</summary>
    private static Tint? Grouped(SceneFacts scene, TintBy by, Func<int, string> valueOf)
    {
        var groups = Pieces(scene).GroupBy(valueOf, StringComparer.Ordinal).Select(g => new TintGroup(g.Key, [.. g]))
            .OrderBy(g => g.Value.Length == 0).ThenByDescending(g => g.Components.Count).ThenBy(g => g.Value, StringComparer.Ordinal).ToList();
        return groups.Exists(g => g.Value.Length > 0) ? new Tint(by, false, groups) : null;
    }

    private static Tint? ByMass(SceneFacts scene, IReadOnlyDictionary<int, double> densities)
    {
        int ClassOf(int component)
        {
            var part = scene.Components[component].Part!.Value;
            return scene.Parts[part].Grams(scene.Unit, densities.TryGetValue(part, out var stated) ? stated : null) is { } grams ? Array.FindIndex(Masses, m => grams < m.Grams) : Masses.Length;
        }
        var groups = Pieces(scene).GroupBy(ClassOf).OrderBy(g => g.Key).Select(g => new TintGroup(g.Key < Masses.Length ? Masses[g.Key].Words : "", [.. g])).ToList();
        return groups.Exists(g => g.Value.Length > 0) ? new Tint(TintBy.Mass, true, groups) : null;
    }
}
