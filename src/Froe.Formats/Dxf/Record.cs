using System.Runtime.CompilerServices;
using Froe.Core.Drawing;

namespace Froe.Formats.Dxf;

/// <summary>
/// The groups of one entity in file order, numbers already parsed. One record is filled over and over for the entities
/// drawn as they are met; those of a block are copied, for a block is drawn as often as it is inserted.
/// </summary>
internal sealed class Record
{
    private int[] codes = new int[32];
    private double[] numbers = new double[32];
    private byte[] text = new byte[256];
    private int textLength;

    /// <summary>The entity's type, such as LINE.</summary>
    public string Type { get; private set; } = "";

    /// <summary>Line of the file it begins on.</summary>
    public long Line { get; private set; }

    /// <summary>Groups held.</summary>
    public int Count { get; private set; }

    /// <summary>Vertices or attributes that belong to it; null when none.</summary>
    public List<Record>? Parts { get; set; }

    public void Start(string type, long line)
    {
        (Type, Line, Count, textLength, Parts, Columns) = (type, line, 0, 0, null, null);
    }

    /// <summary>Whether something is to be read of its application data.</summary>
    public bool HasData => Type is "VIEWPORT" or "LEADER" or "DIMENSION" or "TOLERANCE" or "LAYER";

    /// <summary>Adds the reader's current group. Values that matter to nobody (application data) are left out.</summary>
    public void Add(GroupReader reader)
    {
        if (reader.Kind == GroupKind.Number) Add(reader.Code, reader.Number());
        else if (reader.Kind == GroupKind.Text) Add(reader.Code, reader.Value);
        // Before release 13 a view stood in what is application data otherwise; what departs from a style of dimensions still does.
        else if (reader.Code >= 1000 && HasData)
        {
            if (reader.Code is 1000 or 1001 or 1003 or 1005) Add(reader.Code, reader.Value);
            else if (reader.Code is 1010 or 1020 or 1040 or 1070 or 1071) Add(reader.Code, reader.Number());
        }
    }

    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    public void Add(int code, double number)
    {
        if ((uint)Count >= (uint)codes.Length) Grow();
        codes[Count] = code;
        numbers[Count] = number;
        Count++;
    }

    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    public void Add(int code, ReadOnlySpan<byte> value)
    {
        if (textLength + value.Length > text.Length) Array.Resize(ref text, Math.Max(text.Length * 2, textLength + value.Length));
        value.CopyTo(text.AsSpan(textLength));
        // Where the value lies, in the place of a number: never looked at as one.
        Add(code, BitConverter.Int64BitsToDouble(((long)textLength << 32) | (uint)value.Length));
        textLength += value.Length;
    }

    private void Grow()
    {
        Array.Resize(ref codes, Count * 2);
        Array.Resize(ref numbers, Count * 2);
    }

    /// <summary>A copy that keeps no more than it needs.</summary>
    public Record Copy() => new()
    {
        codes = codes[..Count],
        numbers = numbers[..Count],
        text = text[..textLength],
        textLength = textLength,
        Type = Type,
        Line = Line,
        Count = Count,
        Parts = Parts,
        Columns = Columns,
    };

    public int Code(int i) => codes[i];

    public double Number(int i) => numbers[i];

    public ReadOnlySpan<byte> Text(int i)
    {
        var packed = BitConverter.DoubleToInt64Bits(numbers[i]);
        return text.AsSpan((int)(packed >> 32), (int)packed);
    }

    /// <summary>A text without surrounding blanks.</summary>
    public ReadOnlySpan<byte> Word(int i) => GroupReader.Trimmed(Text(i));

    /// <summary>The columns that it stands in; null when it has none, or is no text of several lines.</summary>
    public TextColumns? Columns { get; private set; }

    /// <summary>Forgets the object that follows it (group 101), but for the columns in it. May be asked twice: a block is drawn as often as it is inserted.</summary>
    public void EndAtObject()
    {
        var at = codes.AsSpan(0, Count).IndexOf(101);
        if (at < 0) return;
        if (Type == "MTEXT") Columns = TextColumns.Of(this);
        Count = at;
    }

    /// <summary>The first number under a code, or a default.</summary>
    public double Get(int code, double otherwise = 0)
    {
        for (var i = 0; i < Count; i++)
            if (codes[i] == code) return numbers[i];
        return otherwise;
    }

    public int GetInt(int code, int otherwise = 0)
    {
        var value = Get(code, otherwise);
        return Math.Abs(value) < int.MaxValue ? (int)value : otherwise;
    }

    public bool Has(int code) => codes.AsSpan(0, Count).Contains(code);

    /// <summary>The first text under a code, without surrounding blanks; empty when there is none.</summary>
    public ReadOnlySpan<byte> GetText(int code) => GroupReader.Trimmed(Raw(code));

    /// <summary>The first text under a code as it stands; empty when there is none.</summary>
    public ReadOnlySpan<byte> Raw(int code)
    {
        for (var i = 0; i < Count; i++)
            if (codes[i] == code) return Text(i);
        return default;
    }

    /// <summary>The point under codes c, c + 10, c + 20.</summary>
    public Point3 Point(int code) => new(Get(code), Get(code + 10), Get(code + 20));
}
