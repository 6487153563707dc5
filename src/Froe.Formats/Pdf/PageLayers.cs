using Froe.Core.Draft;
using Froe.Core.Drawing;
using UglyToad.PdfPig;
using UglyToad.PdfPig.Tokenization.Scanner;
using UglyToad.PdfPig.Tokens;

namespace Froe.Formats.Pdf;

/// <summary>
/// The layers of a document: its optional content groups (ISO 32000-2, 8.11), those of one name together. What belongs to several at once
/// (a membership) counts to the first of them; the picture follows the file's rule.
/// </summary>
internal sealed class PageLayers
{
    /// <summary>More names than any drawing has; what is beyond counts as on no layer.</summary>
    private const int Most = 5000;

    private static readonly NameToken Groups = NameToken.Create("OCGs"), Properties = NameToken.Create("OCProperties"), Off = NameToken.Create("OFF"), On = NameToken.Create("ON"), BaseState = NameToken.Create("BaseState");

    private readonly List<Layer> all = [new("", true, 0)];
    private readonly List<List<string>> groups = [[]];
    private readonly Dictionary<string, int> byName = [];

    /// <summary>All layers, the first for what is on none.</summary>
    public IReadOnlyList<Layer> All => all;

    /// <summary>The file's own, with its groups.</summary>
    public IReadOnlyList<PageLayer> OfFile => [.. all.Skip(1).Select((l, i) => new PageLayer(l.Name, l.IsOn, groups[i + 1])).Where(l => l.Groups.Count > 0)];

    /// <summary>The layers that a document declares.</summary>
    public static PageLayers Read(PdfDocument document)
    {
        var layers = new PageLayers();
        var scanner = document.Structure.TokenScanner;
        if (!document.Structure.Catalog.CatalogDictionary.TryGet(Properties, scanner, out DictionaryToken? properties) || !properties!.TryGet(Groups, scanner, out ArrayToken? declared)) return layers;
        properties.TryGet(NameToken.D, scanner, out DictionaryToken? standard);
        var isOn = !(standard is not null && standard.TryGet(BaseState, scanner, out NameToken? state) && state!.Data == "OFF");
        var others = References(standard, isOn ? Off : On, scanner);
        foreach (var reference in declared!.Data.OfType<IndirectReferenceToken>())
        {
            if (scanner.Get(reference.Data)?.Data is not DictionaryToken group || Name(group, scanner) is not { } name || layers.IndexOf(name, isOn != others.Contains(Words(reference))) is not { } index) continue;
            layers.groups[index].Add(Words(reference));
        }
        return layers;
    }

    /// <summary>Which layer a group or membership stands for; null for none.</summary>
    public int? Of(DictionaryToken? group, IPdfTokenScanner scanner)
    {
        if (group is null) return null;
        if (Name(group, scanner) is { } name) return IndexOf(name, true);
        if (group.TryGet(Groups, scanner, out DictionaryToken? one)) return Name(one!, scanner) is { } its ? IndexOf(its, true) : null;
        return group.TryGet(Groups, scanner, out ArrayToken? several)
            ? several!.Data.OfType<IndirectReferenceToken>().Select(r => scanner.Get(r.Data)?.Data as DictionaryToken).Select(d => d is null ? null : Name(d, scanner)).FirstOrDefault(n => n is not null) is { } first ? IndexOf(first, true) : null
            : null;
    }

    private int? IndexOf(string name, bool isOn)
    {
        if (byName.TryGetValue(name, out var known)) return known;
        if (all.Count > Most) return null;
        byName[name] = all.Count;
        all.Add(new Layer(name, isOn, 0));
        groups.Add([]);
        return all.Count - 1;
    }

    private static string? Name(DictionaryToken group, IPdfTokenScanner scanner)
    {
        var name = TextString.Of(group, NameToken.Name, scanner);
        return string.IsNullOrWhiteSpace(name) ? null : name.Length <= 200 ? name : name[..200];
    }

    private static HashSet<string> References(DictionaryToken? dictionary, NameToken key, IPdfTokenScanner scanner) =>
        dictionary is not null && dictionary.TryGet(key, scanner, out ArrayToken? listed) ? [.. listed!.Data.OfType<IndirectReferenceToken>().Select(Words)] : [];

    private static string Words(IndirectReferenceToken reference) => $"{reference.Data.ObjectNumber} {reference.Data.Generation} R";
}
