using Froe.Core.Draft;
using UglyToad.PdfPig;
using UglyToad.PdfPig.Core;
using UglyToad.PdfPig.Tokenization.Scanner;
using UglyToad.PdfPig.Tokens;

namespace Froe.Formats.Pdf;

/// <summary>What a PDF carries beside its pages, which no picture of them shows: whoever signs them is told of it.</summary>
internal static class CarriedParts
{
    private const int Most = 1000, Deepest = 20, MostNamed = 5, LongestName = 80;

    private const string Attached = "attached file";

    private static readonly NameToken Names = NameToken.Create("Names"), Files = NameToken.Create("EmbeddedFiles"), Kids = NameToken.Create("Kids"), Form = NameToken.Create("AcroForm"),
        NeedsRendering = NameToken.Create("NeedsRendering"), OtherForm = NameToken.Create("XFA"), Unicode = NameToken.Create("UF"), File = NameToken.Create("F");

    /// <summary>What the document itself carries: files in it (ISO 32000-2, 7.11.4), and a form that another program lays out (12.7.8).</summary>
    public static IEnumerable<NotShown> Of(PdfDocument document)
    {
        var (catalogue, scanner) = (document.Structure.Catalog.CatalogDictionary, document.Structure.TokenScanner);
        var files = new List<string>();
        if (catalogue.TryGet(Names, scanner, out DictionaryToken? names) && names!.TryGet(Files, scanner, out DictionaryToken? tree)) Collect(tree!, 0, files, [], scanner);
        if (files.Count > 0)
        {
            var named = string.Join(", ", files.Where(f => f.Length > 0).Take(MostNamed).Select(f => $"“{(f.Length <= LongestName ? f : f[..LongestName] + "…")}”"));
            yield return new NotShown(Attached, files.Count, $"{(named.Length > 0 ? named + ": w" : "W")}hat is attached within a PDF is not shown. Ask for it as a file of its own.");
        }
        if (catalogue.TryGet(NeedsRendering, scanner, out BooleanToken? needs) && needs!.Data && catalogue.TryGet(Form, scanner, out DictionaryToken? form) && form!.ContainsKey(OtherForm))
            yield return new NotShown("form", 1, "It is laid out by a program of its own (XFA); the pages show what it says to all others. Print it to PDF and upload that.");
    }

    /// <summary>What an annotation of a kind carries; null for one that is shown whole.</summary>
    private static NotShown? Of(string subtype) => subtype switch
    {
        "FileAttachment" => new(Attached, 1, "What is attached within a PDF is not shown. Ask for it as a file of its own."),
        "3D" => new("model on a page", 1, "Only its picture is shown. Ask for it as STEP or glTF."),
        "RichMedia" or "Movie" or "Screen" => new("film or model on a page", 1, "Only its picture is shown. Ask for it as a file of its own."),
        "Sound" => new("sound", 1, "It cannot be heard here. Ask for it as a file of its own."),
        _ => null,
    };

    /// <summary>What the annotations of a page carry.</summary>
    public static IReadOnlyList<NotShown> On(ArrayToken annotations, IPdfTokenScanner scanner) =>
        [.. annotations.Data.Take(Most).Select(a => PdfTokens.Direct(a, scanner) is DictionaryToken mark && mark.TryGet(NameToken.Subtype, scanner, out NameToken? kind) ? Of(kind!.Data) : null).OfType<NotShown>()];

    /// <summary>The leaves of a tree of names (7.9.6): pairs of a name and what it stands for.</summary>
    /// <param name="node">The tree, or a part of it.</param>
    /// <param name="depth">How many it lies in.</param>
    /// <param name="to">Receives the names of files.</param>
    /// <param name="seen">The parts that were gone through: a damaged tree may hold itself.</param>
    /// <param name="scanner">Finds what is referred to.</param>
    private static void Collect(DictionaryToken node, int depth, List<string> to, HashSet<IndirectReference> seen, IPdfTokenScanner scanner)
    {
        if (depth > Deepest) return;
        if (node.TryGet(Names, scanner, out ArrayToken? pairs))
            for (var i = 1; i < pairs!.Length && to.Count < Most; i += 2)
                if (PdfTokens.Direct(pairs.Data[i], scanner) is DictionaryToken file)
                    to.Add(TextString.Of(file, Unicode, scanner) ?? TextString.Of(file, File, scanner) ?? "");
        if (!node.TryGet(Kids, scanner, out ArrayToken? kids)) return;
        foreach (var kid in kids!.Data.OfType<IndirectReferenceToken>())
        {
            if (to.Count >= Most || seen.Count >= Most) return;
            if (seen.Add(kid.Data) && scanner.Get(kid.Data)?.Data is DictionaryToken below) Collect(below, depth + 1, to, seen, scanner);
        }
    }
}
