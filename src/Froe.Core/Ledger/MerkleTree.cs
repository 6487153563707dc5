using System.Security.Cryptography;

namespace Froe.Core.Ledger;

/// <summary>The hash of an ordered list, as RFC 9162 clause 2.1.1 defines it: leaves and nodes are told apart by a byte in front, so no node passes for a leaf.</summary>
public static class MerkleTree
{
    /// <summary>The root over leaves in their order, 32 bytes; of no leaves, the hash of nothing. Holds one hash per level, however long the list.</summary>
    public static byte[] Root(IEnumerable<byte[]> leaves)
    {
        ArgumentNullException.ThrowIfNull(leaves);
        // Whole trees of falling size, as the digits of the count in base two.
        var whole = new Stack<(int Level, byte[] Hash)>();
        foreach (var leaf in leaves)
        {
            var (level, hash) = (0, SHA256.HashData([0, .. leaf]));
            for (; whole.TryPeek(out var left) && left.Level == level; level++) hash = Node(whole.Pop().Hash, hash);
            whole.Push((level, hash));
        }
        if (whole.Count == 0) return SHA256.HashData([]);
        var root = whole.Pop().Hash;
        while (whole.TryPop(out var left)) root = Node(left.Hash, root);
        return root;
    }

    private static byte[] Node(byte[] left, byte[] right) => SHA256.HashData([1, .. left, .. right]);
}
