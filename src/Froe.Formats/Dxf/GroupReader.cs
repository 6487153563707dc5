using System.Buffers.Text;
using System.Runtime.CompilerServices;
using System.Runtime.InteropServices;

namespace Froe.Formats.Dxf;

/// <summary>Raised inside the reader where the file breaks; becomes a <see cref="ReadFault"/> at its door.</summary>
internal sealed class DxfFormatException(long line, string message) : Exception(message)
{
    public long Line { get; } = line;
}

/// <summary>
/// Reads the pairs of lines a DXF file is made of: a group code, then its value. Works in one buffer, makes no string.
/// </summary>
internal sealed class GroupReader(Stream stream)
{
    /// <summary>Longest line; DXF writers break text at 250 bytes, but some forget.</summary>
    private const int LongestLine = 1 << 18;

    private byte[] buffer = new byte[1 << 16];
    private int start;
    private int end;
    private int valueStart;
    private int valueLength;
    private byte terminator = (byte)'\n';
    private bool ended;
    private bool held;
    private bool parsed;
    private double number;

    /// <summary>Number of the line that holds the current value.</summary>
    public long Line { get; private set; }

    /// <summary>Code of the current group.</summary>
    public int Code { get; private set; }

    /// <summary>What the current group's value is.</summary>
    public GroupKind Kind { get; private set; }

    /// <summary>Value of the current group, without the line's end; valid until the next read.</summary>
    public ReadOnlySpan<byte> Value => buffer.AsSpan(valueStart, valueLength);

    /// <summary>The value without surrounding blanks.</summary>
    public ReadOnlySpan<byte> Word
    {
        get
        {
            var value = Value;
            // Most words stand alone on their line, and then there is nothing to look for.
            return value.Length > 0 && value[0] > ' ' && value[^1] > ' ' ? value : value.Trim(" \t"u8);
        }
    }

    /// <summary>Goes to the next group; false at the end of the file.</summary>
    public bool Read()
    {
        if (held)
        {
            held = false;
            return true;
        }
        if (!PlainCode())
        {
            if (!NextLine()) return false;
            // Blank lines at the very end are common and harmless.
            while (Word.IsEmpty)
                if (!NextLine()) return false;
            UnusualCode();
        }
        else if (Kind == GroupKind.Number && PlainNumber()) return true;
        parsed = false;
        if (!NextLine()) throw new DxfFormatException(Line, "The file ends in the middle of a pair of lines; it was probably cut off. Export it again.");
        return true;
    }

    /// <summary>Reads the code's line when it is nothing but blanks and one to four digits, as nearly all are; else leaves it unread.</summary>
    private bool PlainCode()
    {
        const int Longest = 12;
        if (end - start < Longest || terminator != '\n') return false;
        // Six blanks, four digits, a return and a line feed at most: no byte beyond the twelve is looked at.
        ref var line = ref Unsafe.Add(ref MemoryMarshal.GetArrayDataReference(buffer), start);
        nint i = 0;
        while (i < 6 && Unsafe.Add(ref line, i) == ' ') i++;
        var code = Unsafe.Add(ref line, i++) - '0';
        if ((uint)code > 9) return false;
        for (var last = i + 3; i < last; i++)
        {
            var digit = Unsafe.Add(ref line, i) - (uint)'0';
            if (digit > 9) break;
            code = (code * 10) + (int)digit;
        }
        if (code > 1071) return false;
        if (Unsafe.Add(ref line, i) == '\r') i++;
        if (Unsafe.Add(ref line, i) != '\n') return false;
        start += (int)i + 1;
        Line++;
        (Code, Kind) = (code, GroupKinds.Of(code));
        return true;
    }

    /// <summary>Reads a number's line in one pass when it is nothing but blanks, a sign, at most 15 digits and a point, as nearly all are; else leaves it unread.</summary>
    private bool PlainNumber()
    {
        const int Longest = 32;
        if (end - start < Longest) return false;
        // No byte beyond the thirty-two is looked at.
        ref var line = ref Unsafe.Add(ref MemoryMarshal.GetArrayDataReference(buffer), start);
        nint i = 0;
        while (i < 8 && Unsafe.Add(ref line, i) == ' ') i++;
        var negative = Unsafe.Add(ref line, i) == '-';
        if (negative) i++;
        var first = i;
        ulong digits = 0;
        nint point = 0;
        for (; i < Longest - 2; i++)
        {
            uint c = Unsafe.Add(ref line, i);
            if (c - '0' <= 9) digits = (digits * 10) + (c - '0');
            else if (c == '.' && point == 0) point = i + 1;
            else break;
        }
        // More digits than a double holds exactly are for the slow way; too many have wrapped round by now.
        var count = i - first - (point > 0 ? 1 : 0);
        if (count is 0 or > 15) return false;
        var length = (int)i;
        if (Unsafe.Add(ref line, i) == '\r') i++;
        if (Unsafe.Add(ref line, i) != '\n') return false;
        number = point > 0 && length > point ? digits / Powers[length - point] : digits;
        if (negative) number = -number;
        (valueStart, valueLength, parsed) = (start, length, true);
        start += (int)i + 1;
        Line++;
        return true;
    }

    private void UnusualCode()
    {
        var word = Word;
        if (Line == 1 && word.StartsWith((ReadOnlySpan<byte>)[0xEF, 0xBB, 0xBF])) word = word[3..];
        if (!Utf8Parser.TryParse(word, out int code, out var used) || used != word.Length || code is < -5 or > 1071)
            throw new DxfFormatException(Line, Line <= 2
                ? "This does not look like a DXF file. Export the drawing as ASCII DXF and upload that."
                : $"A group code was expected here, but the line reads “{Shown(word)}”. The file is damaged; export it again.");
        (Code, Kind) = (code, GroupKinds.Of(code));
    }

    /// <summary>Makes the next <see cref="Read"/> give the current group once more.</summary>
    public void Hold() => held = true;

    /// <summary>The value as a number.</summary>
    public double Number() => parsed ? number : ParseNumber(Word, Line);

    /// <summary>Reads a decimal number exactly as double arithmetic allows; a decimal comma counts as a point.</summary>
    /// <exception cref="DxfFormatException">It is no number.</exception>
    internal static double ParseNumber(ReadOnlySpan<byte> text, long line)
    {
        // Up to 15 digits fit a double exactly and so do powers of ten up to 22: one division is then correctly rounded (Clinger 1990).
        ulong digits = 0;
        var i = 0;
        var negative = false;
        if (i < text.Length && text[i] is (byte)'-' or (byte)'+') negative = text[i++] == '-';
        var count = text.Length - i;
        if (count is 0 or > 16) return Slow(text, line);
        var scale = 0;
        for (uint digit; i < text.Length; i++)
        {
            if ((digit = text[i] - (uint)'0') <= 9) digits = (digits * 10) + digit;
            else if (scale == 0 && text[i] is (byte)'.' or (byte)',') scale = text.Length - i;
            else return Slow(text, line);
        }
        // With a point there is one digit less than there are characters, and one place less than remained when it was met.
        if (scale == 0 ? count > 15 : count == 1) return Slow(text, line);
        var value = scale > 1 ? digits / Powers[scale - 1] : digits;
        return negative ? -value : value;
    }

    private static readonly double[] Powers =
        [1e0, 1e1, 1e2, 1e3, 1e4, 1e5, 1e6, 1e7, 1e8, 1e9, 1e10, 1e11, 1e12, 1e13, 1e14, 1e15, 1e16, 1e17, 1e18, 1e19, 1e20, 1e21, 1e22];

    private static double Slow(ReadOnlySpan<byte> text, long line)
    {
        Span<byte> plain = stackalloc byte[64];
        if (text.Length is > 0 and <= 64)
        {
            var length = 0;
            foreach (var c in text.TrimStart((byte)'+')) plain[length++] = c == ',' ? (byte)'.' : c;
            if (Utf8Parser.TryParse(plain[..length], out double value, out var used) && used == length && double.IsFinite(value)) return value;
        }
        throw new DxfFormatException(line, $"A number was expected here, but the line reads “{Shown(text)}”. The file is damaged; export it again.");
    }

    /// <summary>A bit of the file, fit to be shown in a message.</summary>
    internal static string Shown(ReadOnlySpan<byte> text)
    {
        var shown = new string([.. text[..Math.Min(text.Length, 24)].ToArray().Select(b => b is >= 32 and < 127 ? (char)b : '·')]);
        return text.Length > 24 ? shown + "…" : shown;
    }

    private bool NextLine()
    {
        while (true)
        {
            var rest = buffer.AsSpan(start, end - start);
            var at = rest.IndexOf(terminator);
            if (at >= 0 || (ended && !rest.IsEmpty))
            {
                var length = at >= 0 ? at : rest.Length;
                valueStart = start;
                start += length + (at >= 0 ? 1 : 0);
                valueLength = length > 0 && rest[length - 1] == '\r' ? length - 1 : length;
                Line++;
                return true;
            }
            if (ended) return false;
            if (rest.Length > LongestLine)
                throw new DxfFormatException(Line + 1, "This line is longer than any DXF line may be; the file is damaged or of another kind.");
            Fill();
            // Lines end with a line feed, with or without a carriage return before it; a few old files have the return alone.
            if (Line == 0 && !buffer.AsSpan(start, end - start).Contains((byte)'\n') && buffer.AsSpan(start, end - start).Contains((byte)'\r')) terminator = (byte)'\r';
        }
    }

    private void Fill()
    {
        if (start > 0)
        {
            Buffer.BlockCopy(buffer, start, buffer, 0, end - start);
            end -= start;
            start = 0;
        }
        if (end == buffer.Length) Array.Resize(ref buffer, buffer.Length * 2);
        var read = stream.Read(buffer, end, buffer.Length - end);
        if (read == 0) ended = true;
        end += read;
    }
}
