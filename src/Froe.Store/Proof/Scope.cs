using System.Text.Json;

namespace Froe.Store.Proof;

/// <summary>A part of the ledger to prove at once: the chains between two ids, or some by name.</summary>
internal sealed record Scope(Guid After, Guid Until, Guid[]? Ids = null)
{
    /// <summary>The condition that a chain, or the row it is about, is of this part; ids are no text of anybody's, so they stand in it as they are.</summary>
    public string Holds(string column) => Ids is null
        ? $"{column} > '{After}' AND {column} <= '{Until}'"
        : $"{column} = ANY (ARRAY[{string.Join(',', Ids.Select(i => $"'{i}'"))}]::uuid[])";
}

/// <summary>An entry as its chain tells it, to be folded; the payload stays the bytes that were hashed.</summary>
internal sealed record ToldEntry(DateTimeOffset At, Guid? Person, string Action, string Reason, byte[] Payload);

/// <summary>What payloads of entries hold.</summary>
internal static class Payloads
{
    /// <summary>The id under a name; null where there is none, or none that is text.</summary>
    public static Guid? IdOrNull(this JsonElement payload, string name) => payload.TryGetProperty(name, out var id) && id.ValueKind == JsonValueKind.String ? id.GetGuid() : null;
}

/// <summary>The few words that come back millions of times, each made a string once.</summary>
internal sealed class KnownWords
{
    private readonly Dictionary<ulong, (byte[] Bytes, string Word)> known = [];

    public string Of(ReadOnlySpan<byte> bytes)
    {
        var hash = 14695981039346656037UL;
        foreach (var b in bytes) hash = (hash ^ b) * 1099511628211UL;
        if (known.TryGetValue(hash, out var found) && bytes.SequenceEqual(found.Bytes)) return found.Word;
        var word = System.Text.Encoding.UTF8.GetString(bytes);
        if (known.Count < 10_000) known[hash] = (bytes.ToArray(), word);
        return word;
    }
}

/// <summary>What was found wrong with one kind of thing, in words, with where.</summary>
internal sealed class Findings
{
    private const int Most = 1000;
    private readonly List<string> all = [];
    private long count;

    /// <summary>What people are called: whoever reads a finding knows nobody by an id.</summary>
    public IReadOnlyDictionary<Guid, string> Names { get; set; } = new Dictionary<Guid, string>();

    /// <summary>A person in words, with the id that tells two of one name apart.</summary>
    public string Called(Guid person) => Names.TryGetValue(person, out var name) ? $"“{name}” ({person})" : $"{person}";

    /// <summary>How many there are; more than are kept in words.</summary>
    public long Count => Interlocked.Read(ref count);

    /// <summary>The first of them.</summary>
    public IReadOnlyList<string> All
    {
        get
        {
            lock (all) return [.. all];
        }
    }

    public void Add(string finding)
    {
        Interlocked.Increment(ref count);
        lock (all)
            if (all.Count < Most) all.Add(finding);
    }

    /// <summary>Adds a finding where two things that must be alike are not.</summary>
    public void Alike<T>(string where, string what, T recorded, T found)
    {
        if (!EqualityComparer<T>.Default.Equals(recorded, found)) Add($"{where}: {what} is {Said(found)}; by the ledger it is {Said(recorded)}");
    }

    private string Said<T>(T value) => value switch
    {
        null => "nothing",
        Guid id => Called(id),
        string { Length: 0 } => "empty",
        string { Length: > 80 } much => $"“{much[..80]}…”",
        DateTimeOffset at => at.UtcDateTime.ToString("yyyy-MM-dd HH:mm:ss.ffffff", System.Globalization.CultureInfo.InvariantCulture) + " UTC",
        string text => $"“{text}”",
        _ => $"{value}",
    };
}
