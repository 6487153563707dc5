using System.Globalization;
using UglyToad.PdfPig;
using UglyToad.PdfPig.Core;
using UglyToad.PdfPig.Tokenization.Scanner;
using UglyToad.PdfPig.Tokens;

namespace Froe.Formats.Pdf;

/// <summary>A field of a form as it lies on a page.</summary>
/// <param name="Appearance">How it looks; null where the file leaves that to whoever shows it.</param>
/// <param name="Placed">From the appearance's own space, after its matrix, to the page's (ISO 32000-2, 12.5.5, algorithm 8).</param>
/// <param name="Box">Its rectangle on the page, in units of the page.</param>
/// <param name="Value">What stands in it, where that is text.</param>
/// <param name="Size">How high its letters are, in units of the page; nought where the file leaves that open.</param>
/// <param name="Layer">The group or membership that it is on; null for none.</param>
internal sealed record PageField(StreamToken? Appearance, TransformationMatrix Placed, PdfRectangle Box, string Value, double Size, DictionaryToken? Layer);

/// <summary>The form of a document (ISO 32000-2, 12.7): what people or programs filled in belongs to the page and is read with it.</summary>
internal sealed class PageFields
{
    private const int Most = 5000, MostAbove = 16, LongestValue = 4000;

    /// <summary>Flags of an annotation (12.5.3) and of a field of text (12.7.5.3).</summary>
    private const int Hidden = 2, NotViewed = 32, Password = 8192;

    private static readonly NameToken Form = NameToken.Create("AcroForm"), Shared = NameToken.Create("DR"), Annotations = NameToken.Create("Annots"), Look = NameToken.Create("AP"),
        State = NameToken.Create("AS"), Flags = NameToken.Create("F"), FieldFlags = NameToken.Create("Ff"), Value = NameToken.Create("V"), Kind = NameToken.Create("FT"), Style = NameToken.Create("DA"), Group = NameToken.Create("OC");

    private DictionaryToken? form;

    /// <summary>What appearances may name without bringing it themselves; null for nothing.</summary>
    public DictionaryToken? Resources { get; private set; }

    /// <summary>The form of a document, which has no fields where it has none.</summary>
    public static PageFields Read(PdfDocument document)
    {
        var scanner = document.Structure.TokenScanner;
        if (!document.Structure.Catalog.CatalogDictionary.TryGet(Form, scanner, out DictionaryToken? form)) return new PageFields();
        return new PageFields { form = form, Resources = form!.TryGet(Shared, scanner, out DictionaryToken? shared) ? shared : null };
    }

    /// <summary>The fields that are to be seen on a page, in the order in which they are drawn.</summary>
    public IEnumerable<PageField> On(DictionaryToken page, IPdfTokenScanner scanner)
    {
        if (!page.TryGet(Annotations, scanner, out ArrayToken? annotations)) yield break;
        foreach (var item in annotations!.Data.Take(Most))
        {
            if (PdfTokens.Direct(item, scanner) is not DictionaryToken widget) continue;
            if (!widget.TryGet(NameToken.Subtype, scanner, out NameToken? type) || type!.Data != "Widget") continue;
            if (widget.TryGet(Flags, scanner, out NumericToken? flags) && (flags!.Int & (Hidden | NotViewed)) != 0) continue;
            if (Numbers(widget, NameToken.Rect, 4, scanner) is not { } r) continue;
            // One without a name is none of the form's, and no picture shows it.
            if (!IsNamed(widget, scanner)) continue;
            var box = new PdfRectangle(Math.Min(r[0], r[2]), Math.Min(r[1], r[3]), Math.Max(r[0], r[2]), Math.Max(r[1], r[3]));
            var appearance = AppearanceOf(widget, scanner);
            var placed = appearance is null ? null : Placing(appearance, box, scanner);
            if (appearance is not null && placed is null) continue;
            yield return new PageField(
                appearance, placed ?? TransformationMatrix.Identity, box, ValueOf(widget, scanner), SizeOf(widget, scanner), widget.TryGet(Group, scanner, out DictionaryToken? group) ? group : null);
        }
    }

    /// <summary>Its normal appearance, for the state that it is in.</summary>
    private static StreamToken? AppearanceOf(DictionaryToken widget, IPdfTokenScanner scanner)
    {
        if (!widget.TryGet(Look, scanner, out DictionaryToken? looks)) return null;
        if (looks!.TryGet(NameToken.N, scanner, out StreamToken? one)) return one;
        return looks.TryGet(NameToken.N, scanner, out DictionaryToken? states) && widget.TryGet(State, scanner, out NameToken? state) && states!.TryGet(state!, scanner, out StreamToken? its) ? its : null;
    }

    /// <summary>Moves and scales what the appearance's box has become so that it fills the rectangle; null where either has no extent.</summary>
    private static TransformationMatrix? Placing(StreamToken appearance, PdfRectangle to, IPdfTokenScanner scanner)
    {
        if (Numbers(appearance.StreamDictionary, NameToken.Bbox, 4, scanner) is not { } b) return null;
        var own = Numbers(appearance.StreamDictionary, NameToken.Matrix, 6, scanner) is { } m ? TransformationMatrix.FromValues(m[0], m[1], m[2], m[3], m[4], m[5]) : TransformationMatrix.Identity;
        PdfPoint[] corners = [own.Transform(new PdfPoint(b[0], b[1])), own.Transform(new PdfPoint(b[2], b[1])), own.Transform(new PdfPoint(b[2], b[3])), own.Transform(new PdfPoint(b[0], b[3]))];
        double left = corners.Min(c => c.X), right = corners.Max(c => c.X), bottom = corners.Min(c => c.Y), top = corners.Max(c => c.Y);
        if (!(right - left > 0) || !(top - bottom > 0)) return null;
        double across = to.Width / (right - left), up = to.Height / (top - bottom);
        return double.IsFinite(across + up) ? TransformationMatrix.FromValues(across, 0, 0, up, to.Left - (left * across), to.Bottom - (bottom * up)) : null;
    }

    /// <summary>What stands in a field of text or of choice; nothing of a password, of which pictures show stars.</summary>
    private string ValueOf(DictionaryToken widget, IPdfTokenScanner scanner)
    {
        if (Inherited(widget, Kind, scanner) is not NameToken { Data: "Tx" or "Ch" } kind) return "";
        if (kind.Data == "Tx" && Inherited(widget, FieldFlags, scanner) is NumericToken flags && (flags.Int & Password) != 0) return "";
        var text = Inherited(widget, Value, scanner) is { } value ? TextString.Of(value) ?? "" : "";
        return text.Length <= LongestValue ? text : text[..LongestValue];
    }

    /// <summary>The size that its style names (12.7.4.3): the number before Tf.</summary>
    private double SizeOf(DictionaryToken widget, IPdfTokenScanner scanner)
    {
        var words = ((Inherited(widget, Style, scanner) is { } style ? TextString.Of(style) : null) ?? "").Split((char[])[' ', '\r', '\n', '\t'], StringSplitOptions.RemoveEmptyEntries);
        var at = Array.IndexOf(words, "Tf");
        return at > 0 && double.TryParse(words[at - 1], NumberStyles.Float, CultureInfo.InvariantCulture, out var size) && size is > 0 and < 1000 ? size : 0;
    }

    private static bool IsNamed(DictionaryToken field, IPdfTokenScanner scanner) => Upwards(field, scanner).Any(f => TextString.Of(f, NameToken.T, scanner) is { Length: > 0 });

    /// <summary>What a field has of its own, from the fields above it or from the form.</summary>
    private IToken? Inherited(DictionaryToken field, NameToken key, IPdfTokenScanner scanner)
    {
        foreach (var one in form is null ? Upwards(field, scanner) : Upwards(field, scanner).Append(form))
            if (one.Data.TryGetValue(key.Data, out var its)) return PdfTokens.Direct(its, scanner);
        return null;
    }

    /// <summary>A field and those that it lies in.</summary>
    private static IEnumerable<DictionaryToken> Upwards(DictionaryToken field, IPdfTokenScanner scanner)
    {
        for (var i = 0; i < MostAbove; i++)
        {
            yield return field;
            if (!field.TryGet(NameToken.Parent, scanner, out DictionaryToken? above)) yield break;
            field = above!;
        }
    }

    private static double[]? Numbers(DictionaryToken of, NameToken key, int count, IPdfTokenScanner scanner)
    {
        if (!of.TryGet(key, scanner, out ArrayToken? listed) || listed!.Data.Count < count) return null;
        var numbers = listed.Data.Take(count).Select(n => PdfTokens.Direct(n, scanner) is NumericToken number ? number.Double : double.NaN).ToArray();
        return numbers.All(n => Math.Abs(n) < 1e9) ? numbers : null;
    }
}
