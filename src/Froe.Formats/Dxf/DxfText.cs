using System.Globalization;
using System.Text;

namespace Froe.Formats.Dxf;

/// <summary>Text as DXF files carry it: code pages, escapes, the control codes of TEXT and the inline codes of MTEXT.</summary>
internal sealed class DxfText
{
    private static readonly UTF8Encoding Utf8 = new(false, true);

    /// <summary>Double-byte encodings that \M+n names by number (DXF reference, "\M+nxxxx").</summary>
    private static readonly int[] DoubleByte = [0, 932, 950, 949, 1361, 936];

    static DxfText() => System.Text.Encoding.RegisterProvider(CodePagesEncodingProvider.Instance);

    private Encoding? declared;
    private bool unicodeVersion;

    /// <summary>The encoding met so far, in words.</summary>
    public string Name { get; private set; } = "ASCII";

    /// <summary>Notes what the header says: $DWGCODEPAGE such as ANSI_1252, and whether the version writes UTF-8 (2007 and later).</summary>
    public void Declare(string? codePage, bool utf8Version)
    {
        unicodeVersion |= utf8Version;
        if (codePage is null) return;
        var digits = new string([.. codePage.Where(char.IsAsciiDigit)]);
        if (!int.TryParse(digits, out var number)) return;
        try
        {
            declared = System.Text.Encoding.GetEncoding(number);
        }
        catch (Exception e) when (e is NotSupportedException or ArgumentException)
        {
            // An unknown page falls back to guessing below.
        }
    }

    /// <summary>Decodes bytes of the file.</summary>
    /// <remarks>
    /// Tried in order, because files lie about themselves: ASCII; valid UTF-8, whatever the header says (a stray match is
    /// all but impossible in real text); the declared page; GBK when every high byte comes in its pairs; Windows-1252.
    /// </remarks>
    public string Decode(ReadOnlySpan<byte> bytes) => Written(bytes).Replace('\0', Unwritten);

    /// <summary>Stands where a file has what is no character: nothing that comes after keeps U+0000.</summary>
    private const char Unwritten = '\uFFFD';

    private string Written(ReadOnlySpan<byte> bytes)
    {
        if (System.Text.Ascii.IsValid(bytes)) return System.Text.Encoding.ASCII.GetString(bytes);
        try
        {
            var text = Utf8.GetString(bytes);
            Name = "UTF-8";
            return text;
        }
        catch (DecoderFallbackException)
        {
            var page = !unicodeVersion && declared is not null ? declared
                : LooksLikeGbk(bytes) ? System.Text.Encoding.GetEncoding(936)
                : declared ?? System.Text.Encoding.GetEncoding(1252);
            Name = page.WebName;
            return page.GetString(bytes);
        }
    }

    private static bool LooksLikeGbk(ReadOnlySpan<byte> bytes)
    {
        for (var i = 0; i < bytes.Length; i++)
        {
            if (bytes[i] < 0x80) continue;
            if (bytes[i] is < 0x81 or 0xFF || i + 1 >= bytes.Length || bytes[i + 1] is < 0x40 or 0x7F or 0xFF) return false;
            i++;
        }
        return true;
    }

    /// <summary>The words of a TEXT or ATTRIB: %%c, %%d, %%p, %%nnn, \U+XXXX and \M+nXXXX resolved.</summary>
    public static string Plain(string raw)
    {
        if (!raw.Contains('%', StringComparison.Ordinal) && !raw.Contains('\\', StringComparison.Ordinal)) return raw;
        var text = new StringBuilder(raw.Length);
        for (var i = 0; i < raw.Length; i++)
            if (!TryEscape(raw, ref i, text)) text.Append(raw[i]);
        return text.ToString();
    }

    /// <summary>Where the lines of %%u, %%o or %%k begin and end in the plain words of a TEXT: each code turns its line on, or off again.</summary>
    public static IEnumerable<(int From, int To)> Ruled(string raw, char code)
    {
        if (!raw.Contains("%%", StringComparison.Ordinal)) yield break;
        var text = new StringBuilder(raw.Length);
        int? from = null;
        for (var i = 0; i < raw.Length; i++)
        {
            if (i + 2 < raw.Length && raw[i] == '%' && raw[i + 1] == '%' && char.ToLowerInvariant(raw[i + 2]) == code)
            {
                if (from is { } begun && text.Length > begun) yield return (begun, text.Length);
                from = from is null ? text.Length : null;
            }
            if (!TryEscape(raw, ref i, text)) text.Append(raw[i]);
        }
        if (from is { } open && text.Length > open) yield return (open, text.Length);
    }

    /// <summary>Resolves the code at a place, if one is there, and goes on to its last letter.</summary>
    public static bool TryEscape(string raw, ref int i, StringBuilder text)
    {
        var rest = raw.AsSpan(i);
        if (rest.StartsWith("%%", StringComparison.Ordinal) && rest.Length > 2)
        {
            switch (char.ToLowerInvariant(rest[2]))
            {
                case 'c': text.Append('Ø'); i += 2; return true;
                case 'd': text.Append('°'); i += 2; return true;
                case 'p': text.Append('±'); i += 2; return true;
                case '%': text.Append('%'); i += 2; return true;
                case 'u' or 'o' or 'k': i += 2; return true;
            }
            if (rest.Length >= 5 && int.TryParse(rest.Slice(2, 3), NumberStyles.None, CultureInfo.InvariantCulture, out var code) && code is >= 32 and < 256)
            {
                text.Append((char)code);
                i += 4;
                return true;
            }
            return false;
        }
        if (rest.StartsWith("\\U+", StringComparison.OrdinalIgnoreCase) && rest.Length >= 7
            && int.TryParse(rest.Slice(3, 4), NumberStyles.AllowHexSpecifier, CultureInfo.InvariantCulture, out var point))
        {
            text.Append(point == 0 || char.IsSurrogate((char)point) ? Unwritten : (char)point);
            i += 6;
            return true;
        }
        if (rest.StartsWith("\\M+", StringComparison.OrdinalIgnoreCase) && rest.Length >= 8 && rest[3] is >= '1' and <= '5'
            && ushort.TryParse(rest.Slice(4, 4), NumberStyles.AllowHexSpecifier, CultureInfo.InvariantCulture, out var pair))
        {
            text.Append(System.Text.Encoding.GetEncoding(DoubleByte[rest[3] - '0']).GetString([(byte)(pair >> 8), (byte)pair]));
            i += 7;
            return true;
        }
        return false;
    }
}
