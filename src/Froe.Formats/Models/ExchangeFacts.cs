namespace Froe.Formats.Models;

/// <summary>What Froe's own scan of a STEP file says of it, to be held against what the library gave.</summary>
/// <param name="Schema">The schema in words.</param>
/// <param name="Unit">The file's unit of length in a word; empty where it states none.</param>
/// <param name="Products">Number of each product, by name.</param>
/// <param name="Uses">How often a product is used in another.</param>
/// <param name="Faces">Faces of exact shapes.</param>
/// <param name="Outside">Its products that are in other files.</param>
internal sealed record ExchangeFacts(string Schema, string Unit, IReadOnlyDictionary<string, string> Products, int Uses, int Faces, IReadOnlyList<OutsideProduct> Outside)
{
    public static ExchangeFacts Of(ExchangeFile file)
    {
        var products = new Dictionary<string, string>();
        foreach (var (_, values) in file.Of("PRODUCT"))
        {
            // ISO 10303-41: a product's id is its number, its name what it is called.
            if (values is not [string number, string name, ..] || name.Length == 0) continue;
            if (!products.TryAdd(name, number) && products[name] != number) products[name] = "";
        }
        return new ExchangeFacts(
            SchemaWords(file.Schema), UnitOf(file), products, file.CountOf("NEXT_ASSEMBLY_USAGE_OCCURRENCE"), file.CountOf("ADVANCED_FACE") + file.CountOf("FACE_SURFACE"), ExchangeOutside.Of(file));
    }

    private static string SchemaWords(string schema)
    {
        var name = schema.Split(' ', '{')[0].ToUpperInvariant();
        return name.StartsWith("AP242", StringComparison.Ordinal) ? "AP242"
            : name.StartsWith("AUTOMOTIVE_DESIGN", StringComparison.Ordinal) ? "AP214"
            : name.StartsWith("CONFIG_CONTROL_DESIGN", StringComparison.Ordinal) || name.StartsWith("AP203", StringComparison.Ordinal) ? "AP203"
            : name;
    }

    private static string UnitOf(ExchangeFile file)
    {
        var unit = "";
        foreach (var (_, parts) in file.Complex())
        {
            if (!parts.ContainsKey("LENGTH_UNIT")) continue;
            if (parts.TryGetValue("CONVERSION_BASED_UNIT", out var based) && based is [string name, ..]) return name.ToLowerInvariant();
            if (unit.Length == 0 && parts.TryGetValue("SI_UNIT", out var si) && si is [var prefix, ..]) unit = $"{(prefix as string)?.ToLowerInvariant()}metre";
        }
        return unit;
    }
}
