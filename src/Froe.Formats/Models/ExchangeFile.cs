using System.Buffers.Text;
using System.Text;

namespace Froe.Formats.Models;

/// <summary>A reference to an instance of an exchange file: #12.</summary>
internal readonly record struct InstanceName(int Id);

/// <summary>A value with its type: LENGTH_MEASURE(2.5).</summary>
internal sealed record TypedValue(string Type, IReadOnlyList<object?> Values);

/// <summary>An instance of an exchange file.</summary>
/// <param name="Entity">Its entity; empty for a complex one.</param>
/// <param name="Parts">What each part of a complex one says, by entity; null for a simple one.</param>
internal sealed record Instance(string Entity, IReadOnlyList<object?> Values, IReadOnlyDictionary<string, IReadOnlyList<object?>>? Parts);

/// <summary>
/// An exchange file (ISO 10303-21) as bytes with an index of its instances, made in one pass; what an instance says is read only when it is
/// asked for. Damaged files are read as far as they can be: nothing here throws on what a file contains.
/// </summary>
internal sealed class ExchangeFile
{
    private const int MostInstances = 50_000_000, Deepest = 40;

    private readonly byte[] data;
    private readonly List<string> keywords = [];
    private readonly Dictionary<string, int> numbers = [];
    private Dictionary<int, int>? byId;
    private int[] ids = new int[1 << 12], starts = new int[1 << 12], kinds = new int[1 << 12];

    /// <summary>Reads the index.</summary>
    public ExchangeFile(byte[] data)
    {
        this.data = data;
        Schema = ReadSchema();
        Scan();
    }

    /// <summary>The schema that the file names first, as it stands there; empty where it names none.</summary>
    public string Schema { get; }

    /// <summary>How many instances.</summary>
    public int Count { get; private set; }

    /// <summary>How many instances there are of an entity, complex ones not counted.</summary>
    public int CountOf(string entity) => numbers.TryGetValue(entity, out var kind) ? kinds.AsSpan(0, Count).Count(kind) : 0;

    /// <summary>What the instances of an entity say, in the file's order.</summary>
    public IEnumerable<(int Id, IReadOnlyList<object?> Values)> Of(string entity)
    {
        if (!numbers.TryGetValue(entity, out var kind)) yield break;
        for (var i = 0; i < Count; i++)
            if (kinds[i] == kind) yield return (ids[i], ValuesAt(i));
    }

    /// <summary>The complex instances: what each of their parts says, by entity.</summary>
    public IEnumerable<(int Id, IReadOnlyDictionary<string, IReadOnlyList<object?>> Parts)> Complex()
    {
        for (var i = 0; i < Count; i++)
            if (kinds[i] < 0) yield return (ids[i], PartsAt(i));
    }

    /// <summary>What an instance says; null where the file has none of that name. Of several of one name, as damaged files have, it is the first.</summary>
    public Instance? Find(int id)
    {
        // Few ask, and of large files the index is large: it is made when somebody does.
        if (byId is null)
        {
            byId = new Dictionary<int, int>(Count);
            for (var i = 0; i < Count; i++) byId.TryAdd(ids[i], i);
        }
        if (!byId.TryGetValue(id, out var at)) return null;
        return kinds[at] < 0 ? new Instance("", [], PartsAt(at)) : new Instance(keywords[kinds[at]], ValuesAt(at), null);
    }

    /// <summary>What an instance of an entity says; null where it is of another.</summary>
    public IReadOnlyList<object?>? Find(int id, string entity) => Find(id) is { } found && found.Entity == entity ? found.Values : null;

    private string ReadSchema()
    {
        var at = data.AsSpan().IndexOf("FILE_SCHEMA"u8);
        if (at < 0) return "";
        at += data.AsSpan(at).IndexOf((byte)'\'');
        return at < data.Length && data[at] == '\'' ? Words(ref at) : "";
    }

    private void Scan()
    {
        var at = data.AsSpan().IndexOf("DATA"u8);
        if (at < 0) return;
        Span<char> word = stackalloc char[128];
        var alternate = numbers.GetAlternateLookup<ReadOnlySpan<char>>();
        for (at = Behind(at, (byte)';'); at < data.Length && Count < MostInstances;)
        {
            at = Skip(at);
            if (at >= data.Length) return;
            if (data[at] != '#')
            {
                at = data[at] == '\'' ? BehindWords(at) : at + 1;
                continue;
            }
            var id = 0;
            for (at++; at < data.Length && char.IsAsciiDigit((char)data[at]); at++) id = unchecked((id * 10) + data[at] - '0');
            at = Skip(at);
            if (at >= data.Length || data[at] != '=') continue;
            at = Skip(at + 1);
            var kind = -1;
            if (at < data.Length && data[at] != '(')
            {
                var length = 0;
                for (; at < data.Length && IsWord(data[at]); at++)
                    if (length < word.Length) word[length++] = char.ToUpperInvariant((char)data[at]);
                if (!alternate.TryGetValue(word[..length], out kind))
                {
                    kind = keywords.Count;
                    keywords.Add(word[..length].ToString());
                    numbers.Add(keywords[kind], kind);
                }
                at = Skip(at);
            }
            Add(id, at, kind);
            at = BehindInstance(at);
        }
    }

    private void Add(int id, int start, int kind)
    {
        if (Count == ids.Length)
        {
            Array.Resize(ref ids, Count * 2);
            Array.Resize(ref starts, Count * 2);
            Array.Resize(ref kinds, Count * 2);
        }
        (ids[Count], starts[Count], kinds[Count]) = (id, start, kind);
        Count++;
    }

    private int BehindInstance(int at)
    {
        while (at < data.Length)
        {
            var step = data.AsSpan(at).IndexOfAny((byte)';', (byte)'\'', (byte)'/');
            if (step < 0) return data.Length;
            at += step;
            if (data[at] == ';') return at + 1;
            at = data[at] == '\'' ? BehindWords(at) : at + 1 < data.Length && data[at + 1] == '*' ? Skip(at) : at + 1;
        }
        return at;
    }

    private int BehindWords(int at) => Behind(at + 1, (byte)'\'');

    private int Behind(int at, byte sign) => at >= data.Length ? data.Length : data.AsSpan(at).IndexOf(sign) is var step and >= 0 ? at + step + 1 : data.Length;

    private static bool IsWord(byte sign) => char.IsAsciiLetterOrDigit((char)sign) || sign == '_';

    /// <summary>Over blanks and comments.</summary>
    private int Skip(int at)
    {
        while (at < data.Length)
        {
            if (data[at] <= 32) at++;
            else if (data[at] == '/' && at + 1 < data.Length && data[at + 1] == '*') at = data.AsSpan(at + 2).IndexOf("*/"u8) is var step and >= 0 ? at + step + 4 : data.Length;
            else break;
        }
        return at;
    }

    private List<object?> ValuesAt(int i)
    {
        var at = starts[i];
        return List(ref at, 0);
    }

    private Dictionary<string, IReadOnlyList<object?>> PartsAt(int i)
    {
        var parts = new Dictionary<string, IReadOnlyList<object?>>();
        for (var at = Skip(starts[i] + 1); at < data.Length && IsWord(data[at]); at = Skip(at))
        {
            var word = Word(ref at).ToUpperInvariant();
            at = Skip(at);
            parts[word] = List(ref at, 0);
        }
        return parts;
    }

    private string Word(ref int at)
    {
        var from = at;
        while (at < data.Length && IsWord(data[at])) at++;
        return Encoding.ASCII.GetString(data, from, at - from);
    }

    private List<object?> List(ref int at, int depth)
    {
        at = Skip(at);
        if (at >= data.Length || data[at] != '(' || depth > Deepest) return [];
        var values = new List<object?>();
        for (at = Skip(at + 1); at < data.Length && data[at] is not ((byte)')' or (byte)';'); at = Skip(at))
        {
            if (data[at] == ',') at++;
            else values.Add(Value(ref at, depth));
        }
        at++;
        return values;
    }

    private object? Value(ref int at, int depth)
    {
        switch (data[at])
        {
            case (byte)'#':
                var id = 0;
                for (at++; at < data.Length && char.IsAsciiDigit((char)data[at]); at++) id = unchecked((id * 10) + data[at] - '0');
                return new InstanceName(id);
            case (byte)'\'': return Words(ref at);
            case (byte)'(': return List(ref at, depth + 1);
            case (byte)'.':
                at++;
                var word = Word(ref at);
                at++;
                return word;
            case (byte)'"':
                at = Behind(at + 1, (byte)'"');
                return null;
        }
        if (data[at] == '+') at++;
        if (at < data.Length && Utf8Parser.TryParse(data.AsSpan(at), out double number, out var length))
        {
            at += length;
            return number;
        }
        if (at >= data.Length || !IsWord(data[at]))
        {
            at++;
            return null;
        }
        var name = Word(ref at).ToUpperInvariant();
        at = Skip(at);
        return at < data.Length && data[at] == '(' ? new TypedValue(name, List(ref at, depth + 1)) : name;
    }

    /// <summary>A string with its control directives (ISO 10303-21, 6.4.3) turned into the letters they stand for.</summary>
    private string Words(ref int at)
    {
        var from = ++at;
        while (at < data.Length)
        {
            at = Behind(at, (byte)'\'');
            if (at < data.Length && data[at] == '\'') at++;
            else break;
        }
        var raw = data.AsSpan(from, Math.Max(0, at - 1 - from));
        string text;
        try
        {
            text = new UTF8Encoding(false, true).GetString(raw);
        }
        catch (DecoderFallbackException)
        {
            text = Encoding.Latin1.GetString(raw);
        }
        text = text.Replace("''", "'", StringComparison.Ordinal);
        if (!text.Contains('\\', StringComparison.Ordinal)) return text;
        var said = new StringBuilder();
        for (var i = 0; i < text.Length; i++)
        {
            var rest = text.AsSpan(i);
            if (rest.StartsWith("\\X2\\") || rest.StartsWith("\\X4\\"))
            {
                var digits = rest[2] == '2' ? 4 : 8;
                for (i += 4; i + digits <= text.Length && text[i] != '\\'; i += digits)
                    if (int.TryParse(text.AsSpan(i, digits), System.Globalization.NumberStyles.HexNumber, null, out var letter) && letter <= 0x10FFFF)
                        said.Append(digits == 4 ? ((char)letter).ToString() : Rune.IsValid(letter) ? new Rune(letter).ToString() : "");
                i += 3;
            }
            else if (rest.StartsWith("\\X\\") && rest.Length >= 5)
            {
                if (byte.TryParse(rest.Slice(3, 2), System.Globalization.NumberStyles.HexNumber, null, out var letter)) said.Append((char)letter);
                i += 4;
            }
            else if (rest.StartsWith("\\S\\") && rest.Length >= 4)
            {
                said.Append((char)(rest[3] + 128));
                i += 3;
            }
            else if (rest.Length > 3 && rest[1] == 'P' && rest[3] == '\\') i += 3;
            else if (rest.StartsWith("\\\\")) said.Append(text[i++]);
            else said.Append(text[i]);
        }
        return said.ToString();
    }
}
