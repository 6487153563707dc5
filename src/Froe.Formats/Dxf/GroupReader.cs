using System.Buffers.Text;
using System.Numerics;
using System.Runtime.CompilerServices;
using System.Runtime.InteropServices;
using System.Runtime.Intrinsics;

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

    private byte[] buffer = GC.AllocateUninitializedArray<byte>(1 << 16);
    private int start;
    private int end;
    private int valueStart;
    private int valueLength;
    private byte terminator = (byte)'\n';
    private bool ended;
    private bool held;

    /// <summary>Number of the line that holds the current value.</summary>
    public long Line { get; private set; }

    /// <summary>Code of the current group.</summary>
    public int Code { get; private set; }

    /// <summary>What the current group's value is.</summary>
    public GroupKind Kind { get; private set; }

    /// <summary>Value of the current group, without the line's end; valid until the next read.</summary>
    public ReadOnlySpan<byte> Value => buffer.AsSpan(valueStart, valueLength);

    /// <summary>The value without surrounding blanks.</summary>
    public ReadOnlySpan<byte> Word => Trimmed(Value);

    /// <summary>A value without surrounding blanks. Most words stand alone on their line, and then there is nothing to look for.</summary>
    public static ReadOnlySpan<byte> Trimmed(ReadOnlySpan<byte> value) => value.Length > 0 && value[0] > ' ' && value[^1] > ' ' ? value : value.Trim(" \t"u8);

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
        if (!NextLine()) throw new DxfFormatException(Line, "The file ends in the middle of a pair of lines; it was probably cut off. Export it again.");
        return true;
    }

    /// <summary>
    /// Reads the groups that follow into a record for as long as they are written plainly, as nearly all are, in one loop that keeps its
    /// place in registers. Stops before a group 0, and before whatever wants the closer look of <see cref="Read"/>.
    /// </summary>
    public void ReadPlain(Record record)
    {
        if (held || terminator != '\n') return;
        ref var first = ref MemoryMarshal.GetArrayDataReference(buffer);
        var (at, last, lines) = (start, end - LongestPlainCode - LongestPlainValue, 0L);
        while (at <= last)
        {
            var value = at + PlainCode(ref Unsafe.Add(ref first, at), out var code);
            if (value == at || code == 0) break;
            var kind = GroupKinds.Of(code);
            if (kind == GroupKind.Number)
            {
                var length = PlainNumber(ref Unsafe.Add(ref first, value), out var number);
                if (length == 0) break;
                record.Add(code, number);
                at = value + length;
            }
            else
            {
                var ends = Vector256.Equals(Vector256.LoadUnsafe(ref first, (nuint)value), Vector256.Create((byte)'\n')).ExtractMostSignificantBits();
                if (ends == 0) break;
                var length = BitOperations.TrailingZeroCount(ends);
                at = value + length + 1;
                if (length > 0 && Unsafe.Add(ref first, at - 2) == '\r') length--;
                if (kind == GroupKind.Text) record.Add(code, buffer.AsSpan(value, length));
            }
            lines += 2;
        }
        start = at;
        Line += lines;
    }

    /// <summary>Bytes that may be looked at for a code and for its value, line ends and all, when both are plain.</summary>
    private const int LongestPlainCode = 12, LongestPlainValue = 32;

    /// <summary>Reads the code's line when it is plain; else leaves it unread.</summary>
    private bool PlainCode()
    {
        if (end - start < LongestPlainCode || terminator != '\n') return false;
        var length = PlainCode(ref Unsafe.Add(ref MemoryMarshal.GetArrayDataReference(buffer), start), out var code);
        if (length == 0) return false;
        start += length;
        Line++;
        (Code, Kind) = (code, GroupKinds.Of(code));
        return true;
    }

    /// <summary>Reads a line of nothing but blanks and one to four digits; gives its length with its end, or 0 when it is anything else.</summary>
    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    private static int PlainCode(ref byte line, out int code)
    {
        // Six blanks, four digits, a return and a line feed at most: no byte beyond the twelve is looked at.
        nint i = 0;
        while (i < 6 && Unsafe.Add(ref line, i) == ' ') i++;
        code = Unsafe.Add(ref line, i++) - '0';
        if ((uint)code > 9) return 0;
        for (var last = i + 3; i < last; i++)
        {
            var digit = Unsafe.Add(ref line, i) - (uint)'0';
            if (digit > 9) break;
            code = (code * 10) + (int)digit;
        }
        if (code > 1071) return 0;
        if (Unsafe.Add(ref line, i) == '\r') i++;
        return Unsafe.Add(ref line, i) == '\n' ? (int)i + 1 : 0;
    }

    /// <summary>Reads a line of nothing but blanks, a sign, at most 15 digits and a point; gives its length with its end, or 0 when it is anything else.</summary>
    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    private static int PlainNumber(ref byte line, out double number)
    {
        number = 0;
        // No byte beyond the thirty-two is looked at.
        nint i = 0;
        while (i < 8 && Unsafe.Add(ref line, i) == ' ') i++;
        var negative = Unsafe.Add(ref line, i) == '-';
        if (negative) i++;
        var first = i;
        ulong digits = 0;
        nint point = 0;
        for (; i < LongestPlainValue - 2; i++)
        {
            uint c = Unsafe.Add(ref line, i);
            if (c - '0' <= 9) digits = (digits * 10) + (c - '0');
            else if (c == '.' && point == 0) point = i + 1;
            else break;
        }
        // More digits than a double holds exactly are for the slow way; too many have wrapped round by now.
        var count = i - first - (point > 0 ? 1 : 0);
        if (count is 0 or > 15) return 0;
        var length = i;
        if (Unsafe.Add(ref line, i) == '\r') i++;
        if (Unsafe.Add(ref line, i) != '\n') return 0;
        // Up to 15 digits fit a double exactly and so do powers of ten up to 22: one division is then correctly rounded (Clinger 1990).
        number = point > 0 && length > point ? digits / Powers[length - point] : digits;
        if (negative) number = -number;
        return (int)i + 1;
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
    public double Number() => ParseNumber(Word, Line);

    /// <summary>Reads a decimal number exactly as double arithmetic allows; a decimal comma counts as a point.</summary>
    /// <exception cref="DxfFormatException">It is no number.</exception>
    internal static double ParseNumber(ReadOnlySpan<byte> text, long line)
    {
        // As in PlainNumber: up to 15 digits, and one division.
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
            var at = LineEnd(rest);
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
            if (Line == 0 && EndsWithReturns(buffer.AsSpan(start, end - start))) terminator = (byte)'\r';
        }
    }

    /// <summary>
    /// Lines end with a line feed, with or without a carriage return before it; a few old files have the return alone. While a return is
    /// the last byte that has come, its line feed may be on its way.
    /// </summary>
    private bool EndsWithReturns(ReadOnlySpan<byte> read) =>
        !read.Contains((byte)'\n') && read.IndexOf((byte)'\r') is >= 0 and var at && (at < read.Length - 1 || ended);

    /// <summary>Where the line ends, or -1. Most lines end within the first sixteen bytes, so these are looked at first and here.</summary>
    private int LineEnd(ReadOnlySpan<byte> rest)
    {
        if (rest.Length >= Vector128<byte>.Count)
        {
            var ends = Vector128.Equals(Vector128.Create(rest), Vector128.Create(terminator)).ExtractMostSignificantBits();
            if (ends != 0) return BitOperations.TrailingZeroCount(ends);
        }
        return rest.IndexOf(terminator);
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
