using System.Globalization;
using Froe.Core.Draft;
using Froe.Core.Models;

namespace Froe.Formats.Models;

/// <summary>
/// What a STEP file says of itself so that whoever reads it can check it: the volumes and areas of its parts (geometric validation
/// properties), held against what was read.
/// </summary>
internal static class ExchangeChecks
{
    /// <summary>How far what was read may be off, as a share: programs reckon to a thousandth or so.</summary>
    private const double Share = 2e-3;

    private const int MostNamed = 3;

    /// <summary>What differs, in words; nothing where all holds or the file says nothing of it.</summary>
    public static IReadOnlyList<NotShown> Of(ExchangeFile file, Scene scene)
    {
        var parts = new ExchangeParts(file, scene);
        var representations = file.Of("PROPERTY_DEFINITION_REPRESENTATION").Where(r => r.Values is [InstanceName, InstanceName, ..]).ToLookup(r => ((InstanceName)r.Values[0]!).Id, r => ((InstanceName)r.Values[1]!).Id);
        var (volumes, areas) = (new List<string>(), new List<string>());
        foreach (var (id, said) in file.Of("PROPERTY_DEFINITION"))
        {
            if (said is not [string name, _, InstanceName of, ..] || !name.Equals("geometric validation property", StringComparison.OrdinalIgnoreCase)) continue;
            if ((parts.OfShape(of.Id) ?? parts.OfDefinition(of.Id)) is not { } part) continue;
            foreach (var item in representations[id].SelectMany(r => file.Find(r) is { Values: [_, IReadOnlyList<object?> items, ..] } ? items.OfType<InstanceName>() : []))
            {
                var own = scene.Parts[part];
                if (ExchangeUnits.Power(file, item.Id, 3) is { } volume) Hold(volumes, own, own.Exact?.Volume, volume, "mm³");
                else if (ExchangeUnits.Power(file, item.Id, 2) is { } area) Hold(areas, own, own.Exact?.Area, area, "mm²");
            }
        }
        return [.. Told("volume", volumes), .. Told("area", areas)];
    }

    private static void Hold(List<string> found, Part part, double? read, double said, string unit)
    {
        if (read is { } own && Math.Abs(own - said) > Share * Math.Max(Math.Abs(said), 1e-9))
            found.Add(string.Create(CultureInfo.InvariantCulture, $"{part.Name} has {own:0.###} {unit} where the file says {said:0.###}"));
    }

    private static IEnumerable<NotShown> Told(string what, List<string> found) =>
        found.Count == 0 ? [] : [new NotShown($"{what} of a part that differs", found.Count, $"{string.Join("; ", found.Take(MostNamed))}{(found.Count > MostNamed ? "; and more" : "")}. The file may be damaged: compare it with its source.")];
}
