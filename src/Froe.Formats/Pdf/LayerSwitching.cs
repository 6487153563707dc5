using System.Globalization;
using System.Text;
using Froe.Core.Draft;
using UglyToad.PdfPig;

namespace Froe.Formats.Pdf;

/// <summary>Makes the update that switches a document's layers.</summary>
internal static class LayerSwitching
{
    /// <summary>A larger catalogue is no catalogue of a drawing; the update goes with every page's facts.</summary>
    private const int MostCatalogue = 200_000;

    /// <summary>The update for a document; null when its layers cannot be switched that way: it is encrypted, or its cross-references are broken.</summary>
    public static LayerSwitch? For(ReadOnlyMemory<byte> file, PdfDocument document, IReadOnlyList<PageLayer> layers)
    {
        if (layers.Count == 0 || document.IsEncrypted || Previous(file.Span) is not { } previous) return null;
        var references = string.Join(' ', layers.SelectMany(l => l.Groups));
        var root = document.Structure.Trailer.Root;
        var catalogue = new StringBuilder("<< ");
        foreach (var (key, value) in document.Structure.Catalog.CatalogDictionary.Data)
        {
            if (key == "OCProperties") continue;
            if (!PdfTokens.Write(catalogue.Append('/').Append(PdfTokens.Name(key)).Append(' '), value, 0) || catalogue.Length > MostCatalogue) return null;
            catalogue.Append(' ');
        }
        // Everything else about the layers' states goes: what is to be seen is said here.
        var head = $"\n{root.ObjectNumber} {root.Generation} obj\n{catalogue}/OCProperties << /OCGs [{references}] /D << /BaseState /ON /OFF [";
        const string Closing = "] >> >> >>\nendobj\n";
        long body = file.Length + 1, start = file.Length + head.Length + references.Length + Closing.Length;
        var size = document.Structure.Trailer.Size + 1;
        var isTable = file.Span[(int)previous] == 'x';
        // A cross-reference stream is an object too, and lists itself.
        var tail = isTable
            ? Invariant($"xref\n{root.ObjectNumber} 1\n{body:0000000000} {root.Generation:00000} n \ntrailer\n<< /Size {size} /Root {root.ObjectNumber} {root.Generation} R /Prev {previous} >>\n")
            : Invariant($"{size} 0 obj\n<< /Type /XRef /W [1 8 2] /Index [{root.ObjectNumber} 1 {size} 1] /Size {size + 1} /Root {root.ObjectNumber} {root.Generation} R /Prev {previous} /Length 44 /Filter /ASCIIHexDecode >>\nstream\n")
                + Row(body, root.Generation) + Row(start, 0) + "\nendstream\nendobj\n";
        return new LayerSwitch(head, references.Length, $"{Closing}{tail}startxref\n{start}\n%%EOF\n");
    }

    /// <summary>The document with some of its layers hidden, as the page makes it.</summary>
    public static byte[] Hide(ReadOnlySpan<byte> file, LayerSwitch change, IEnumerable<string> groups)
    {
        ArgumentNullException.ThrowIfNull(change);
        return [.. file, .. Encoding.Latin1.GetBytes(change.Head + string.Join(' ', groups).PadRight(change.Room) + change.Tail)];
    }

    private static string Row(long at, int generation) => Invariant($"01{at:X16}{generation:X4}");

    private static string Invariant(FormattableString text) => text.ToString(CultureInfo.InvariantCulture);

    /// <summary>Where the last cross-references of a file begin; null when they are not where the file says.</summary>
    internal static long? Previous(ReadOnlySpan<byte> file)
    {
        var tail = Encoding.Latin1.GetString(file[Math.Max(0, file.Length - 2048)..]);
        var at = tail.LastIndexOf("startxref", StringComparison.Ordinal);
        if (at < 0) return null;
        var digits = tail[(at + 9)..].TrimStart();
        digits = digits[..digits.TakeWhile(char.IsAsciiDigit).Count()];
        return long.TryParse(digits, CultureInfo.InvariantCulture, out var offset) && offset > 0 && offset < file.Length - 8 && (file[(int)offset] == 'x' || char.IsAsciiDigit((char)file[(int)offset])) ? offset : null;
    }
}
