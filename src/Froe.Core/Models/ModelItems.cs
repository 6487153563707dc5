using Froe.Core.Draft;
using Froe.Core.Register;

namespace Froe.Core.Models;

/// <summary>What sheets call the components of a model: their numbers and names, and the items of its parts list.</summary>
public static class ModelItems
{
    /// <summary>Shorter names are not looked for: too much is written that is no name.</summary>
    private const int ShortestName = 3;

    /// <summary>The numbers of the components, and their names as far as each is of one thing alone.</summary>
    public static Called Called(SceneFacts scene)
    {
        ArgumentNullException.ThrowIfNull(scene);
        var numbers = scene.Components.Select(c => c.Number).Where(n => n.Length > 0).ToHashSet(StringComparer.Ordinal);
        var names = scene.Components.Where(c => c.Name.Trim().Length >= ShortestName && !numbers.Contains(c.Name))
            .GroupBy(c => WrittenPage.Fold(c.Name).Trim(), StringComparer.Ordinal)
            .Select(g => (Name: g.Key, Meant: g.Select(Word).Distinct(StringComparer.Ordinal).Take(2).ToList()))
            .Where(n => n.Meant.Count == 1).ToDictionary(n => n.Name, n => n.Meant[0], StringComparer.Ordinal);
        return new Called(numbers, names);
    }

    /// <summary>
    /// By item, what it is in the parts list of what has a number: of the component of that number where the model has one, of the whole model
    /// otherwise.
    /// </summary>
    public static IReadOnlyDictionary<string, string> Of(SceneFacts scene, string number)
    {
        var rows = PartsList.Of(scene, PartsListDepth.Levels, new Dictionary<int, double>());
        var own = rows.FirstOrDefault(r => r.Number == number || r.Name == number);
        var isOwn = own is not null && rows.Any(r => IsIn(r, own));
        return rows.Where(r => isOwn ? IsIn(r, own!) : r.Level == 1)
            .GroupBy(r => r.Item[(r.Item.LastIndexOf('.') + 1)..], StringComparer.Ordinal)
            .ToDictionary(g => g.Key, g => Word(scene.Components[g.First().Components[0]]), StringComparer.Ordinal);
    }

    private static bool IsIn(PartsListRow row, PartsListRow above) => row.Level == above.Level + 1 && row.Item.StartsWith(above.Item + ".", StringComparison.Ordinal);

    private static string Word(ComponentFacts c) => c.Number.Length > 0 ? c.Number : c.Name;
}
