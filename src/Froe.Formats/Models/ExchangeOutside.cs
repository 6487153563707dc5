namespace Froe.Formats.Models;

/// <summary>A product of an exchange file whose shape is in another file.</summary>
/// <param name="Product">What it is called.</param>
/// <param name="File">The other file's name; empty where the file says nothing of it but that it is one.</param>
internal sealed record OutsideProduct(string Product, string Number, string File);

/// <summary>Products whose shapes are in other files (ISO 10303-41: document_file, applied_document_reference, external identification).</summary>
internal static class ExchangeOutside
{
    /// <summary>The products, each with its file; files that no product refers to come with an empty product.</summary>
    public static IReadOnlyList<OutsideProduct> Of(ExchangeFile file)
    {
        var names = NamesOf(file);
        if (names.Count == 0) return [];
        var documents = DocumentsOf(file, names);
        var found = new List<OutsideProduct>();
        foreach (var entity in (string[])["APPLIED_DOCUMENT_REFERENCE", "CC_DESIGN_SPECIFICATION_REFERENCE"])
            foreach (var (_, values) in file.Of(entity))
            {
                if (values is not [InstanceName document, _, IReadOnlyList<object?> items, ..] || !documents.TryGetValue(document.Id, out var name)) continue;
                foreach (var item in items.OfType<InstanceName>())
                    if (ProductOf(file, item.Id) is var (product, number)) found.Add(new OutsideProduct(product, number, name));
            }
        var used = found.Select(f => f.File).ToHashSet(StringComparer.OrdinalIgnoreCase);
        return [.. found.Distinct(), .. names.Values.Where(n => !used.Contains(n)).Distinct(StringComparer.OrdinalIgnoreCase).Select(n => new OutsideProduct("", "", n))];
    }

    /// <summary>The names of models among the files that are referred to, by the instance that stands for the file.</summary>
    private static Dictionary<int, string> NamesOf(ExchangeFile file)
    {
        var names = new Dictionary<int, string>();
        foreach (var (_, values) in file.Of("APPLIED_EXTERNAL_IDENTIFICATION_ASSIGNMENT"))
            if (values is [string said, _, _, IReadOnlyList<object?> items, ..] && IsModel(said))
                foreach (var item in items.OfType<InstanceName>()) names.TryAdd(item.Id, FilesBeside.NameOf(said));
        foreach (var (id, values) in file.Of("DOCUMENT_FILE"))
            if (values is [string said, ..] && IsModel(said)) names.TryAdd(id, FilesBeside.NameOf(said));
        return names;
    }

    /// <summary>What may be referred to in the place of a file: itself, or the document of which it is a version's definition.</summary>
    private static Dictionary<int, string> DocumentsOf(ExchangeFile file, Dictionary<int, string> names)
    {
        var documents = new Dictionary<int, string>(names);
        var formations = new Dictionary<int, string>();
        foreach (var (_, values) in file.Of("PRODUCT_DEFINITION_WITH_ASSOCIATED_DOCUMENTS"))
            if (values is [_, _, InstanceName formation, _, IReadOnlyList<object?> files, ..] && files.OfType<InstanceName>().Select(f => names.GetValueOrDefault(f.Id)).FirstOrDefault(n => n is not null) is { } name)
                formations.TryAdd(formation.Id, name);
        foreach (var (_, values) in file.Of("DOCUMENT_PRODUCT_EQUIVALENCE"))
            if (values is [_, _, InstanceName document, InstanceName product, ..] && formations.TryGetValue(product.Id, out var name)) documents.TryAdd(document.Id, name);
        return documents;
    }

    /// <summary>The product that a definition, its shape or its version is of.</summary>
    private static (string Name, string Number)? ProductOf(ExchangeFile file, int id)
    {
        for (var steps = 0; steps < 4; steps++)
        {
            var next = file.Find(id) switch
            {
                { Entity: "PRODUCT", Values: [string number, string name, ..] } => (-1, Product: ((string, string)?)(name.Length > 0 ? name : number, number)),
                { Entity: "PRODUCT_DEFINITION_SHAPE", Values: [_, _, InstanceName of, ..] } => (of.Id, null),
                { Entity: "PRODUCT_DEFINITION" or "PRODUCT_DEFINITION_WITH_ASSOCIATED_DOCUMENTS" or "PRODUCT_DEFINITION_FORMATION" or "PRODUCT_DEFINITION_FORMATION_WITH_SPECIFIED_SOURCE", Values: [_, _, InstanceName of, ..] } => (of.Id, null),
                _ => (-1, null),
            };
            if (next.Item1 < 0) return next.Product;
            id = next.Item1;
        }
        return null;
    }

    private static bool IsModel(string said) => FilesBeside.NameOf(said).Length > 0 && Readers.For(said) is ModelDraftReader;
}
