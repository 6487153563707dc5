using Froe.Core.Models;

namespace Froe.Formats.Models;

/// <summary>Puts the models of other files into the places that an assembly has for them.</summary>
internal static class PuttingTogether
{
    /// <summary>Most components of a whole model: files that use one another many times make many of few.</summary>
    public const int MostComponents = 200_000;

    /// <summary>Puts them together; null where that is more than a model may have.</summary>
    /// <param name="own">The assembly as its own file has it.</param>
    /// <param name="places">Which of its parts, by their places in its list, are in other files, and in which.</param>
    /// <param name="others">The models of those files that are there, by their names.</param>
    /// <remarks>The assembly's own components keep their places in the list, what lies in others follows: what was said of them stays true when another file comes.</remarks>
    public static Scene? Of(Scene own, IReadOnlyDictionary<int, string> places, IReadOnlyDictionary<string, Scene> others)
    {
        if (places.Count == 0) return own;
        var parts = new List<Part>();
        var dimensions = new List<ModelDimension>();
        var ownParts = Taken(own, p => !places.ContainsKey(p));
        var partsOf = new Dictionary<string, int[]>(StringComparer.OrdinalIgnoreCase);
        List<Component> components = [.. own.Components];
        for (var i = 0; i < own.Components.Count; i++)
        {
            if (own.Components[i].Part is not { } part) continue;
            if (!places.TryGetValue(part, out var name)) components[i] = components[i] with { Part = ownParts[part] };
            else if (!others.TryGetValue(name, out var other)) components[i] = components[i] with { Part = null, MissingFile = name };
            else
            {
                if (components.Count + other.Components.Count > MostComponents) return null;
                if (!partsOf.TryGetValue(name, out var taken)) partsOf[name] = taken = Taken(other, _ => true);
                Put(i, other, taken);
            }
        }
        return own with { Components = components, Parts = parts, Dimensions = dimensions };

        int[] Taken(Scene from, Func<int, bool> isWanted)
        {
            var at = new int[from.Parts.Count];
            for (var p = 0; p < at.Length; p++)
            {
                at[p] = isWanted(p) ? parts.Count : -1;
                if (at[p] >= 0) parts.Add(from.Parts[p]);
            }
            dimensions.AddRange(from.Dimensions.Where(d => at[d.Part] >= 0).Select(d => d with { Part = at[d.Part] }));
            return at;
        }

        // A file has one thing at its top as a rule, and that is the component itself: no level is added for it.
        void Put(int at, Scene other, int[] taken)
        {
            var place = components[at];
            var isOne = other.Components.Count(c => c.Parent < 0) == 1;
            var map = new int[other.Components.Count];
            if (!isOne) components[at] = place with { Part = null };
            for (var i = 0; i < map.Length; i++)
            {
                var component = other.Components[i];
                var part = component.Part is { } p ? taken[p] : (int?)null;
                if (component.Parent < 0 && isOne)
                {
                    map[i] = at;
                    components[at] = place with
                    {
                        Placement = place.Placement.After(component.Placement),
                        Colour = place.Colour ?? component.Colour,
                        Part = part,
                        Number = place.Number.Length > 0 ? place.Number : component.Number,
                        MissingFile = component.MissingFile,
                    };
                    continue;
                }
                map[i] = components.Count;
                components.Add(component with { Parent = component.Parent < 0 ? at : map[component.Parent], Part = part });
            }
        }
    }
}
