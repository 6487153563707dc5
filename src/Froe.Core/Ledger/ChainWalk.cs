using System.Buffers.Binary;
using System.Security.Cryptography;

namespace Froe.Core.Ledger;

/// <summary>An entry as it was stored, its texts in UTF-8: what is hashed, without a copy.</summary>
/// <param name="chain">16 bytes, big-endian.</param>
/// <param name="person">16 bytes, big-endian; zeros for nobody.</param>
public readonly ref struct RawEntry(ReadOnlySpan<byte> chain, long sequence, long microseconds, ReadOnlySpan<byte> person, ReadOnlySpan<byte> action, ReadOnlySpan<byte> reason, ReadOnlySpan<byte> payload, ReadOnlySpan<byte> before, ReadOnlySpan<byte> hash)
{
    /// <summary>The chain's id, 16 bytes.</summary>
    public ReadOnlySpan<byte> Chain { get; } = chain;

    /// <summary>1, 2, 3 … within the chain.</summary>
    public long Sequence { get; } = sequence;

    /// <summary>When, in microseconds since 1970, UTC.</summary>
    public long Microseconds { get; } = microseconds;

    /// <summary>Who.</summary>
    public ReadOnlySpan<byte> Person { get; } = person;

    /// <summary>What.</summary>
    public ReadOnlySpan<byte> Action { get; } = action;

    /// <summary>Why.</summary>
    public ReadOnlySpan<byte> Reason { get; } = reason;

    /// <summary>The event as JSON.</summary>
    public ReadOnlySpan<byte> Payload { get; } = payload;

    /// <summary>The stored hash of the entry before.</summary>
    public ReadOnlySpan<byte> Before { get; } = before;

    /// <summary>The stored hash.</summary>
    public ReadOnlySpan<byte> Hash { get; } = hash;
}

/// <summary>
/// Walks entries in the order of their chains and numbers and finds the first fault of each chain (<see cref="HashChain"/>, rules 1 to 3).
/// Holds one hash, however long the ledger is.
/// </summary>
public sealed class ChainWalk
{
    private byte[] whole = new byte[4096];
    private readonly byte[] chain = new byte[16];
    private readonly byte[] before = new byte[SHA256.HashSizeInBytes];
    private long expected;
    private bool broken;

    /// <summary>How many chains began.</summary>
    public long Chains { get; private set; }

    /// <summary>Looks at the next entry; gives what is wrong when it is the first fault of its chain.</summary>
    public ChainFault? Next(in RawEntry entry)
    {
        if (expected == 0 || !entry.Chain.SequenceEqual(chain))
        {
            entry.Chain.CopyTo(chain);
            before.AsSpan().Clear();
            (expected, broken) = (1, false);
            Chains++;
        }
        if (broken) return null;
        var what = Fault(entry);
        if (what is not null)
        {
            broken = true;
            return new ChainFault(new Guid(chain, bigEndian: true), entry.Sequence == expected ? entry.Sequence : expected, what);
        }
        entry.Hash.CopyTo(before);
        expected++;
        return null;
    }

    private string? Fault(in RawEntry entry)
    {
        if (entry.Sequence != expected) return $"entry {expected} is missing; entry {entry.Sequence} stands in its place";
        if (!entry.Before.SequenceEqual(before)) return "does not follow from the entry before it";
        Span<byte> computed = stackalloc byte[SHA256.HashSizeInBytes];
        HashOf(entry, computed);
        return computed.SequenceEqual(entry.Hash) ? null : "has been altered: its contents do not match its hash";
    }

    /// <summary>The hash of an entry over its stored "before".</summary>
    public void HashOf(in RawEntry entry, Span<byte> into)
    {
        var length = Mark.Length + entry.Before.Length + entry.Chain.Length + (5 * sizeof(long)) + entry.Person.Length + entry.Action.Length + entry.Reason.Length + entry.Payload.Length;
        if (whole.Length < length) whole = new byte[Math.Max(length, whole.Length * 2)];
        // Put together first and hashed at one stroke: a call for each field would cost as much as the hashing.
        var at = 0;
        Bytes(Mark, ref at);
        Bytes(entry.Before, ref at);
        Bytes(entry.Chain, ref at);
        Number(entry.Sequence, ref at);
        Number(entry.Microseconds, ref at);
        Bytes(entry.Person, ref at);
        Text(entry.Action, ref at);
        Text(entry.Reason, ref at);
        Text(entry.Payload, ref at);
        SHA256.HashData(whole.AsSpan(0, at), into);
    }

    private static ReadOnlySpan<byte> Mark => "froe-ledger-1"u8;

    private void Bytes(ReadOnlySpan<byte> bytes, ref int at)
    {
        bytes.CopyTo(whole.AsSpan(at));
        at += bytes.Length;
    }

    private void Number(long number, ref int at)
    {
        BinaryPrimitives.WriteInt64BigEndian(whole.AsSpan(at), number);
        at += sizeof(long);
    }

    private void Text(ReadOnlySpan<byte> text, ref int at)
    {
        Number(text.Length, ref at);
        Bytes(text, ref at);
    }
}
