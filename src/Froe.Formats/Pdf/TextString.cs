using System.Text;
using UglyToad.PdfPig;
using UglyToad.PdfPig.Tokenization.Scanner;
using UglyToad.PdfPig.Tokens;

namespace Froe.Formats.Pdf;

/// <summary>
/// Text strings (ISO 32000-2, 7.9.2.2): by the mark they begin with in UTF-16 or UTF-8, otherwise in the document's own encoding. UTF-16 with
/// the lower byte first is none of the standard's, but is written.
/// </summary>
internal static class TextString
{
    /// <summary>What stands under a key; null where that is no string. U+0000, which ends a text for some writers, is left out.</summary>
    public static string? Of(DictionaryToken dictionary, NameToken key, IPdfTokenScanner scanner)
    {
        ArgumentNullException.ThrowIfNull(dictionary);
        return dictionary.TryGet(key, scanner, out StringToken? plain) ? Of(plain) : dictionary.TryGet(key, scanner, out HexToken? hex) ? Of(hex) : null;
    }

    /// <summary>What a string says; null for what is none.</summary>
    public static string? Of(IToken? token) => token switch
    {
        StringToken plain => (Marked(Latin(plain)) ?? plain.Data).Replace("\0", "", StringComparison.Ordinal),
        HexToken hex => (Marked(hex.Bytes) ?? hex.Data).Replace("\0", "", StringComparison.Ordinal),
        _ => null,
    };

    /// <summary>A string's own bytes, where the library read them as letters of one byte each.</summary>
    private static byte[] Latin(StringToken text) => text.EncodedWith is StringToken.Encoding.Iso88591 or StringToken.Encoding.PdfDocEncoding ? text.GetBytes() : [];

    private static string? Marked(ReadOnlySpan<byte> bytes) =>
        bytes.StartsWith<byte>([0xFE, 0xFF]) ? Encoding.BigEndianUnicode.GetString(bytes[2..])
        : bytes.StartsWith<byte>([0xFF, 0xFE]) ? Encoding.Unicode.GetString(bytes[2..])
        : bytes.StartsWith<byte>([0xEF, 0xBB, 0xBF]) ? Encoding.UTF8.GetString(bytes[3..])
        : null;
}
