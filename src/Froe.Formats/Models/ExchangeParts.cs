using Froe.Core.Models;

namespace Froe.Formats.Models;

/// <summary>Which part of a model something in its exchange file is of (ISO 10303-41).</summary>
internal sealed class ExchangeParts(ExchangeFile file, Scene scene)
{
    /// <summary>The part whose shape a product definition shape is, by its product: the only one of its name, or of its name and number. Null where there is none.</summary>
    public int? OfShape(int shape) =>
        file.Find(shape, "PRODUCT_DEFINITION_SHAPE") is [_, _, InstanceName definition, ..] ? OfDefinition(definition.Id) : null;

    /// <summary>The part that a product definition is of.</summary>
    public int? OfDefinition(int definition)
    {
        if (file.Find(definition) is not { Values: [_, _, InstanceName formation, ..] }
            || file.Find(formation.Id) is not { Values: [_, _, InstanceName product, ..] }
            || file.Find(product.Id, "PRODUCT") is not [string number, string name, ..]) return null;
        var called = Enumerable.Range(0, scene.Parts.Count).Where(p => scene.Parts[p].Name == name).ToList();
        if (called.Count > 1) called = [.. called.Where(p => scene.Parts[p].Number == number)];
        return called.Count == 1 ? called[0] : null;
    }
}
