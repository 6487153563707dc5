using System.Globalization;
using System.Text;
using UglyToad.PdfPig.Tokenization.Scanner;
using UglyToad.PdfPig.Tokens;

namespace Froe.Formats.Pdf;

/// <summary>What was read of a file, as it stands in one (ISO 32000-2, 7.3).</summary>
internal static class PdfTokens
{
    /// <summary>What is meant: the object itself where another is referred to (7.3.10); null where there is none.</summary>
    public static IToken? Direct(IToken token, IPdfTokenScanner scanner) => token is IndirectReferenceToken reference ? scanner.Get(reference.Data)?.Data : token;

    /// <summary>A name as it stands behind its slash (ISO 32000-2, 7.3.5).</summary>
    public static string Name(string name) => string.Concat(Encoding.Latin1.GetBytes(name).Select(b => b is < 33 or > 126 || "#/()<>[]{}%".Contains((char)b, StringComparison.Ordinal) ? $"#{b:X2}" : ((char)b).ToString()));

    /// <summary>Writes a value as it stands in a file; false for what cannot stand in a dictionary.</summary>
    public static bool Write(StringBuilder to, IToken token, int depth)
    {
        if (depth > 40) return false;
        switch (token)
        {
            case NumericToken number: to.Append(number.Double.ToString("0.######", CultureInfo.InvariantCulture)); return true;
            case NameToken name: to.Append('/').Append(Name(name.Data)); return true;
            case BooleanToken boolean: to.Append(boolean.Data ? "true" : "false"); return true;
            case NullToken: to.Append("null"); return true;
            case IndirectReferenceToken reference: to.Append(CultureInfo.InvariantCulture, $"{reference.Data.ObjectNumber} {reference.Data.Generation} R"); return true;
            case StringToken text: to.Append('<').Append(Convert.ToHexString(text.GetBytes())).Append('>'); return true;
            case HexToken hex: to.Append('<').Append(Convert.ToHexString(hex.Bytes.ToArray())).Append('>'); return true;
            case ArrayToken array:
                to.Append("[ ");
                foreach (var item in array.Data)
                {
                    if (!Write(to, item, depth + 1)) return false;
                    to.Append(' ');
                }
                to.Append(']');
                return true;
            case DictionaryToken dictionary:
                to.Append("<< ");
                foreach (var (key, value) in dictionary.Data)
                {
                    if (!Write(to.Append('/').Append(Name(key)).Append(' '), value, depth + 1)) return false;
                    to.Append(' ');
                }
                to.Append(">>");
                return true;
            default: return false;
        }
    }

    /// <summary>Words as a text string in UTF-16 (7.9.2.2).</summary>
    public static string Text(string words) => $"<FEFF{Convert.ToHexString(Encoding.BigEndianUnicode.GetBytes(words))}>";

    /// <summary>A number, to a ten-thousandth.</summary>
    public static string Number(double value) => Math.Round(value, 4).ToString("0.####", CultureInfo.InvariantCulture);

    /// <summary>Numbers beside each other.</summary>
    public static string Numbers(params IEnumerable<double> values) => string.Join(' ', values.Select(Number));

    /// <summary>A moment (7.9.4).</summary>
    public static string Time(DateTimeOffset at) => $"({at.ToUniversalTime().ToString("'D:'yyyyMMddHHmmss'Z'", CultureInfo.InvariantCulture)})";
}
