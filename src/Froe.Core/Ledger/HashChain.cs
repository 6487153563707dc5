using System.Security.Cryptography;
using System.Text;

namespace Froe.Core.Ledger;

/// <summary>One act in the ledger.</summary>
/// <param name="Chain">The chain it belongs to: one per package, one per document.</param>
/// <param name="Sequence">1, 2, 3 … within the chain, without a gap.</param>
/// <param name="At">When, UTC, to the microsecond.</param>
/// <param name="Person">Who; null for what Froe did by itself.</param>
/// <param name="Action">What was done, in words.</param>
/// <param name="Reason">Why, for the record; may be empty.</param>
/// <param name="Payload">The event as JSON text, kept to the letter because it is hashed.</param>
public sealed record LedgerEntry(Guid Chain, long Sequence, DateTimeOffset At, Guid? Person, string Action, string Reason, string Payload);

/// <summary>An entry as read back, with the two hashes stored beside it (32 bytes each).</summary>
public sealed record ChainedEntry(LedgerEntry Entry, byte[] Before, byte[] Hash);

/// <summary>Where a chain breaks, and how.</summary>
public sealed record ChainFault(Guid Chain, long Sequence, string What);

/// <summary>
/// The ledger's hash chain. For every chain:
/// <list type="number">
/// <item>sequence numbers run 1, 2, 3 … without a gap;</item>
/// <item>the first entry's "before" is 32 zero bytes, every other's is the hash of the entry before it;</item>
/// <item>an entry's hash is SHA-256 over its "before" and all its fields, each with its length in front, so no two entries share an encoding.</item>
/// </list>
/// </summary>
public static class HashChain
{
    /// <summary>What stands before the first entry of a chain: 32 zero bytes.</summary>
    public static byte[] Start => new byte[SHA256.HashSizeInBytes];

    /// <summary>The hash of an entry that follows <paramref name="before"/>.</summary>
    public static byte[] HashOf(LedgerEntry entry, ReadOnlySpan<byte> before)
    {
        ArgumentNullException.ThrowIfNull(entry);
        var walk = new ChainWalk();
        var hash = new byte[SHA256.HashSizeInBytes];
        Span<byte> ids = stackalloc byte[32];
        walk.HashOf(Raw(entry, before, default, ids), hash);
        return hash;
    }

    /// <summary>A time as the ledger keeps it: UTC, cut to the microsecond that PostgreSQL stores.</summary>
    public static DateTimeOffset Cut(DateTimeOffset at) => new(at.UtcTicks - (at.UtcTicks % TimeSpan.TicksPerMicrosecond), TimeSpan.Zero);

    /// <summary>The first fault of one chain, given in order of sequence; null when it holds.</summary>
    public static ChainFault? Verify(IEnumerable<ChainedEntry> chain)
    {
        ArgumentNullException.ThrowIfNull(chain);
        var walk = new ChainWalk();
        Span<byte> ids = stackalloc byte[32];
        foreach (var (entry, before, hash) in chain)
            if (walk.Next(Raw(entry, before, hash, ids)) is { } fault) return fault;
        return null;
    }

    private static RawEntry Raw(LedgerEntry entry, ReadOnlySpan<byte> before, ReadOnlySpan<byte> hash, Span<byte> ids)
    {
        entry.Chain.TryWriteBytes(ids, bigEndian: true, out _);
        (entry.Person ?? Guid.Empty).TryWriteBytes(ids[16..], bigEndian: true, out _);
        return new RawEntry(ids[..16], entry.Sequence, Microseconds(entry.At), ids[16..], Encoding.UTF8.GetBytes(entry.Action), Encoding.UTF8.GetBytes(entry.Reason), Encoding.UTF8.GetBytes(entry.Payload), before, hash);
    }

    /// <summary>A time as it is hashed: microseconds since 1970, UTC.</summary>
    internal static long Microseconds(DateTimeOffset at) => (at.UtcTicks - DateTimeOffset.UnixEpoch.UtcTicks) / TimeSpan.TicksPerMicrosecond;
}
