using System.Buffers.Binary;
using System.Security.Cryptography;

namespace Froe.Core.Ledger;

/// <summary>Where a chain ended when a seal was made.</summary>
/// <param name="Hash">The last entry's, 32 bytes.</param>
public sealed record ChainHead(Guid Chain, long Sequence, byte[] Hash)
{
    /// <summary>The head as a leaf of the seal's tree: chain (16 bytes, big-endian), sequence (8, big-endian), hash (32).</summary>
    public byte[] Leaf()
    {
        var leaf = new byte[56];
        Chain.TryWriteBytes(leaf, bigEndian: true, out _);
        BinaryPrimitives.WriteInt64BigEndian(leaf.AsSpan(16), Sequence);
        Hash.CopyTo(leaf, 24);
        return leaf;
    }
}

/// <summary>
/// A seal over the ledger: the root of a tree over the ends of all chains that grew since the seal before it, and the hash of
/// that seal. A hash chain alone does not show that its last entries were taken away, nor that a whole chain was; a seal
/// shows both, and whoever keeps the newest seal's hash elsewhere holds a proof of all that was recorded until then.
/// </summary>
/// <param name="Number">1, 2, 3 … without a gap.</param>
/// <param name="At">When, UTC, to the microsecond.</param>
/// <param name="Heads">How many chains it covers.</param>
/// <param name="Root">Of the tree over their ends, in the order of their ids, 32 bytes.</param>
/// <param name="Before">The hash of the seal before; 32 zero bytes for the first.</param>
public sealed record Seal(long Number, DateTimeOffset At, long Heads, byte[] Root, byte[] Before)
{
    /// <summary>SHA-256 over a name of its own and all fields in fixed lengths. This is what is signed.</summary>
    public byte[] Hash()
    {
        using var hash = IncrementalHash.CreateHash(HashAlgorithmName.SHA256);
        hash.AppendData("froe-seal-1"u8);
        hash.AppendData(Before);
        Span<byte> numbers = stackalloc byte[24];
        BinaryPrimitives.WriteInt64BigEndian(numbers, Number);
        BinaryPrimitives.WriteInt64BigEndian(numbers[8..], HashChain.Microseconds(At));
        BinaryPrimitives.WriteInt64BigEndian(numbers[16..], Heads);
        hash.AppendData(numbers);
        hash.AppendData(Root);
        return hash.GetHashAndReset();
    }

    /// <summary>What is wrong with a seal as read back, or null.</summary>
    /// <param name="before">The seal before it; null for the first.</param>
    /// <param name="hash">The hash stored beside it.</param>
    /// <param name="heads">The ends it covers, as stored, in the order of their chains' ids.</param>
    public string? FaultAfter(Seal? before, ReadOnlySpan<byte> hash, IEnumerable<ChainHead> heads)
    {
        ArgumentNullException.ThrowIfNull(heads);
        if (Number != (before?.Number ?? 0) + 1) return $"seal {(before?.Number ?? 0) + 1} is missing; seal {Number} stands in its place";
        if (!Before.AsSpan().SequenceEqual(before?.Hash() ?? HashChain.Start)) return "does not follow from the seal before it";
        if (!Hash().AsSpan().SequenceEqual(hash)) return "has been altered: its contents do not match its hash";
        long count = 0;
        var root = MerkleTree.Root(heads.Select(head =>
        {
            count++;
            return head.Leaf();
        }));
        return count == Heads && root.AsSpan().SequenceEqual(Root) ? null : "the ends of chains that it covers have been altered";
    }
}
