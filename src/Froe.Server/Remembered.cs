using System.Collections.Concurrent;
using System.Diagnostics.CodeAnalysis;

namespace Froe.Server;

/// <summary>
/// What was read of the database and need not be read for each request. What is forgotten while it is being read is not kept: it may have been
/// read before the change that it is forgotten for.
/// </summary>
/// <typeparam name="TKey">Whose it is.</typeparam>
/// <typeparam name="TValue">What was read, and when.</typeparam>
public sealed class Remembered<TKey, TValue>
    where TKey : notnull
{
    private const int Most = 20_000;
    private readonly ConcurrentDictionary<TKey, TValue> kept = new();
    private readonly Lock changing = new();
    private long forgotten;

    /// <summary>To be asked before something is read, and given when it is kept.</summary>
    public long Before => Interlocked.Read(ref forgotten);

    /// <summary>What is kept; whether it is still fresh is for whoever kept it to say.</summary>
    public bool TryGet(TKey key, [MaybeNullWhen(false)] out TValue value) => kept.TryGetValue(key, out value);

    /// <summary>Keeps what was read, unless all was forgotten since.</summary>
    /// <param name="before">What <see cref="Before"/> was before it was read.</param>
    public void Keep(TKey key, TValue value, long before)
    {
        lock (changing)
        {
            if (forgotten != before) return;
            if (kept.Count > Most) kept.Clear();
            kept[key] = value;
        }
    }

    /// <summary>Forgets everything: something has changed.</summary>
    public void Forget()
    {
        lock (changing)
        {
            Interlocked.Increment(ref forgotten);
            kept.Clear();
        }
    }
}
