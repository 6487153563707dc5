using System.Buffers;

namespace Froe.Core.Drawing;

/// <summary>A list that grows without copying what it holds: a doubling array would need three times its size at the worst moment. Its parts are borrowed.</summary>
internal sealed class ChunkedList<T>
{
    private const int Bits = 13;
    private readonly List<T[]> chunks = [];
    private T[] last = [];
    private int used = 1 << Bits;

    public int Count { get; private set; }

    public ref readonly T this[int i] => ref chunks[i >> Bits][i & ((1 << Bits) - 1)];

    /// <summary>In how many parts it lies.</summary>
    public int Parts => chunks.Count;

    /// <summary>What a part holds, in order.</summary>
    public ReadOnlySpan<T> Part(int part) => chunks[part].AsSpan(0, Math.Min(1 << Bits, Count - (part << Bits)));

    public void Add(T value)
    {
        if (used == 1 << Bits)
        {
            chunks.Add(last = ArrayPool<T>.Shared.Rent(1 << Bits));
            used = 0;
        }
        last[used++] = value;
        Count++;
    }

    public T[] ToArray()
    {
        var all = GC.AllocateUninitializedArray<T>(Count);
        for (var i = 0; i < chunks.Count; i++) Part(i).CopyTo(all.AsSpan(i << Bits));
        return all;
    }

    /// <summary>Gives back what was borrowed; the list is empty after.</summary>
    public void Release()
    {
        foreach (var chunk in chunks) ArrayPool<T>.Shared.Return(chunk);
        chunks.Clear();
        (last, used, Count) = ([], 1 << Bits, 0);
    }
}
