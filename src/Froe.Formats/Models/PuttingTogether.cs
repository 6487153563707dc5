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
    public static Scene? Of(Scene own, IReadOnlyDictionary<int, string> places, IReadOnlyDictionary<string, Scene> others)
    {
        if (places.Count == 0) return own;
        var parts = new List<Part>();
        var dimensions = new List<ModelDimension>();
        var ownParts = Taken(own, p => !places.ContainsKey(p));
        var partsOf = new Dictionary<string, int[]>(StringComparer.OrdinalIgnoreCase);
        var components = new List<Component>();
        var moved = new int[own.Components.Count];
        for (var i = 0; i < moved.Length; i++)
        {
            var component = own.Components[i];
            var parent = component.Parent < 0 ? -1 : moved[component.Parent];
            moved[i] = components.Count;
            if (components.Count > MostComponents) return null;
            if (component.Part is not { } part) components.Add(component with { Parent = parent });
            else if (!places.TryGetValue(part, out var name)) components.Add(component with { Parent = parent, Part = ownParts[part] });
            else if (!others.TryGetValue(name, out var other)) components.Add(component with { Parent = parent, Part = null, MissingFile = name });
            else
            {
                if (!partsOf.TryGetValue(name, out var taken)) partsOf[name] = taken = Taken(other, _ => true);
                if (components.Count + other.Components.Count > MostComponents) return null;
                Put(component with { Parent = parent }, other, taken);
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
        void Put(Component place, Scene other, int[] taken)
        {
            var at = components.Count;
            var roots = other.Components.Count(c => c.Parent < 0);
            var map = new int[other.Components.Count];
            if (roots != 1) components.Add(place with { Part = null });
            for (var i = 0; i < map.Length; i++)
            {
                var component = other.Components[i];
                var part = component.Part is { } p ? taken[p] : (int?)null;
                map[i] = components.Count;
                components.Add(component.Parent >= 0 ? component with { Parent = map[component.Parent], Part = part }
                    : roots != 1 ? component with { Parent = at, Part = part }
                    : place with { Placement = place.Placement.After(component.Placement), Colour = place.Colour ?? component.Colour, Part = part, Number = place.Number.Length > 0 ? place.Number : component.Number, MissingFile = component.MissingFile });
            }
        }
    }
}
