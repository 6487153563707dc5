namespace Froe.Core.Models;

/// <summary>How deep a parts list goes.</summary>
public enum PartsListDepth
{
    /// <summary>Assemblies with what lies in them, level by level.</summary>
    Levels,

    /// <summary>What the model is put together from, and nothing of what lies in that.</summary>
    Top,

    /// <summary>Parts alone, each with how often it stands in the whole model.</summary>
    Parts,
}

/// <summary>A row of a parts list.</summary>
/// <param name="Item">Its item number: 2.1 is the first of what lies in 2 (ISO 7573).</param>
/// <param name="Level">How deep it lies, from 1.</param>
/// <param name="Number">Its number; empty where the file has none apart from the name.</param>
/// <param name="Name">What it is called.</param>
/// <param name="Quantity">How many of it lie in the one above.</param>
/// <param name="Material">What it is made of; empty where that is not known, and for assemblies.</param>
/// <param name="Mass">Of one, in grams; null where volume or density is not known.</param>
/// <param name="IsExact">Whether the mass is that of the exact shape.</param>
/// <param name="Part">The part, by its place in the scene's list; null for an assembly.</param>
/// <param name="Components">All that stand for the row in the model.</param>
public sealed record PartsListRow(
    string Item, int Level, string Number, string Name, int Quantity, string Material, double? Mass, bool IsExact, int? Part, IReadOnlyList<int> Components);

/// <summary>The parts list of a model.</summary>
public static class PartsList
{
    /// <summary>Lists it.</summary>
    /// <param name="scene">The model.</param>
    /// <param name="depth">How deep.</param>
    /// <param name="densities">In g/cm³ by part, where somebody stated what the file does not.</param>
    public static IReadOnlyList<PartsListRow> Of(SceneFacts scene, PartsListDepth depth, IReadOnlyDictionary<int, double> densities)
    {
        ArgumentNullException.ThrowIfNull(scene);
        ArgumentNullException.ThrowIfNull(densities);
        var inside = new List<int>[scene.Components.Count];
        for (var i = 0; i < inside.Length; i++) inside[i] = [];
        var roots = new List<int>();
        for (var i = 0; i < inside.Length; i++) (scene.Components[i].Parent < 0 ? roots : inside[scene.Components[i].Parent]).Add(i);
        var kinds = Kinds(scene, inside);
        var rows = new List<PartsListRow>();
        if (depth == PartsListDepth.Parts)
        {
            // What is missing is a part as well, as far as anybody can tell.
            foreach (var (i, group) in Enumerable.Range(0, inside.Length).Where(c => scene.Components[c] is { Part: not null } or { MissingFile: not null }).GroupBy(c => kinds[c]).Index()) rows.Add(Row($"{i + 1}", 1, [.. group], group.Count()));
            return rows;
        }
        // One assembly that holds everything is the model itself, and no item of its own.
        var top = roots is [var only] && inside[only].Count > 0 ? inside[only] : roots;
        Add("", 1, [top]);
        return rows;

        // Every parent of a row holds the same: what lies in the first is listed, what lies in all stands for it.
        void Add(string above, int level, IReadOnlyList<List<int>> parents)
        {
            var item = 0;
            foreach (var group in parents[0].GroupBy(c => kinds[c]))
            {
                var own = above.Length == 0 ? $"{++item}" : $"{above}.{++item}";
                List<int> all = [.. parents.SelectMany(p => p).Where(c => kinds[c] == group.Key)];
                rows.Add(Row(own, level, all, group.Count()));
                if (depth == PartsListDepth.Levels && inside[all[0]].Count > 0) Add(own, level + 1, [.. all.Select(c => inside[c])]);
            }
        }

        PartsListRow Row(string item, int level, List<int> all, int quantity)
        {
            var component = scene.Components[all[0]];
            var part = component.Part is { } index ? scene.Parts[index] : null;
            var name = component.Name.Length > 0 ? component.Name : part?.Name ?? "";
            var number = component.Number.Length > 0 ? component.Number : part?.Number ?? "";
            var (mass, isExact) = MassOf(all[0]);
            return new PartsListRow(item, level, number == name ? "" : number, name, quantity, part?.Material ?? "", mass, isExact, component.Part, all);
        }

        (double? Mass, bool IsExact) MassOf(int component)
        {
            if (scene.Components[component].Part is { } index)
            {
                var part = scene.Parts[index];
                return (part.Grams(scene.Unit, densities.TryGetValue(index, out var stated) ? stated : null), part.IsExact);
            }
            // An assembly weighs what its parts do; where one of them is not known, nor is it.
            var (sum, isExact) = ((double?)0, true);
            foreach (var child in inside[component])
            {
                var (mass, exact) = MassOf(child);
                (sum, isExact) = (sum + mass, isExact && exact);
            }
            return (inside[component].Count == 0 ? null : sum, isExact);
        }
    }

    /// <summary>Components of one kind are the same part, or assemblies of one name and number that hold the same.</summary>
    private static int[] Kinds(SceneFacts scene, List<int>[] inside)
    {
        var kinds = new int[inside.Length];
        var known = new Dictionary<string, int>();
        // Children stand behind their parents.
        for (var i = inside.Length - 1; i >= 0; i--)
        {
            var c = scene.Components[i];
            var key = c.Part is { } part ? $"{part}" : $"{c.Name}\n{c.Number}\n{string.Join(' ', inside[i].Select(k => kinds[k]).Order())}";
            if (!known.TryGetValue(key, out kinds[i])) known[key] = kinds[i] = known.Count;
        }
        return kinds;
    }
}
