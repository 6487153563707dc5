using System.Security.Cryptography;
using CsCheck;
using Froe.Core.Ledger;
using Xunit;

namespace Froe.Core.Tests;

/// <summary>The tree over the ends of chains, and the seals that follow from one another.</summary>
public class SealTables
{
    private static readonly DateTimeOffset Noon = new(2026, 3, 1, 12, 0, 0, TimeSpan.Zero);

    private static byte[] Hashed(string words) => SHA256.HashData(System.Text.Encoding.UTF8.GetBytes(words));

    private static ChainHead Head(int n, string words = "x") => new(new Guid(n, 0, 0, new byte[8]), n + 1, Hashed($"{words}{n}"));

    /// <summary>RFC 9162 clause 2.1.1 to the letter: split at the greatest power of two below the count.</summary>
    private static byte[] ByDefinition(ReadOnlySpan<byte[]> leaves)
    {
        if (leaves.Length == 0) return SHA256.HashData([]);
        if (leaves.Length == 1) return SHA256.HashData([0, .. leaves[0]]);
        var k = 1;
        while (k * 2 < leaves.Length) k *= 2;
        return SHA256.HashData([1, .. ByDefinition(leaves[..k]), .. ByDefinition(leaves[k..])]);
    }

    [Theory]
    [InlineData(0, "e3b0c44298fc1c149afbf4c8996fb92427ae41e4649b934ca495991b7852b855")]
    [InlineData(1, "6e340b9cffb37a989ca544e6bb780a2c78901d3fb33738768511a30617afa01d")]
    public void TheSmallestTreesHaveTheirKnownRoots(int leaves, string root) =>
        Assert.Equal(root, Convert.ToHexStringLower(MerkleTree.Root(Enumerable.Repeat(Array.Empty<byte>(), leaves))));

    [Fact]
    public void TheStreamGivesTheRootOfTheDefinition() => Gen.Byte.Array[0, 4].Array[0, 70].Sample(
        leaves => Assert.Equal(ByDefinition(leaves), MerkleTree.Root(leaves)), iter: 2_000);

    [Fact]
    public void NoTwoListsOfEndsShareARoot() => Gen.Select(Gen.Int[0, 30], Gen.Int[0, 30], Gen.Bool).Sample((count, at, swap) =>
    {
        var ends = Enumerable.Range(0, count).Select(n => Head(n)).ToArray();
        var root = MerkleTree.Root(ends.Select(e => e.Leaf()));
        if (at >= count) return;
        var other = ends.ToArray();
        if (swap && at > 0) (other[at], other[at - 1]) = (other[at - 1], other[at]);
        else other[at] = Head(at, "y");
        Assert.NotEqual(root, MerkleTree.Root(other.Select(e => e.Leaf())));
        Assert.NotEqual(root, MerkleTree.Root(ends.Where((_, i) => i != at).Select(e => e.Leaf())));
    });

    [Fact]
    public void ASealThatFollowsHasNoFaultAndEveryChangeShows()
    {
        ChainHead[] ends = [Head(0), Head(3), Head(8)];
        var first = new Seal(1, Noon, 3, MerkleTree.Root(ends.Select(e => e.Leaf())), HashChain.Start);
        var second = new Seal(2, Noon.AddHours(1), 3, first.Root, first.Hash());
        Assert.Null(first.FaultAfter(null, first.Hash(), ends));
        Assert.Null(second.FaultAfter(first, second.Hash(), ends));

        Assert.Equal("seal 1 is missing; seal 2 stands in its place", second.FaultAfter(null, second.Hash(), ends));
        Assert.Equal("does not follow from the seal before it", second.FaultAfter(first with { At = Noon.AddSeconds(1) }, second.Hash(), ends));
        foreach (var forged in new[] { second with { At = Noon.AddHours(2) }, second with { Heads = 4 }, second with { Root = Hashed("other") } })
            Assert.Equal("has been altered: its contents do not match its hash", forged.FaultAfter(first, second.Hash(), ends));
        foreach (var forged in new ChainHead[][] { [.. ends[..2]], [.. ends, Head(9)], [ends[1], ends[0], ends[2]], [ends[0] with { Sequence = 7 }, ends[1], ends[2]] })
            Assert.Equal("the ends of chains that it covers have been altered", second.FaultAfter(first, second.Hash(), forged));
    }
}
