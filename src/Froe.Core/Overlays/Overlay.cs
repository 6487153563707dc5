using System.Security.Cryptography;
using Froe.Core.Draft;

namespace Froe.Core.Overlays;

/// <summary>A markup as it lies on its overlay, or lay there until it was erased.</summary>
/// <param name="Id">Made by whoever drew it, so that drawing it twice draws it once.</param>
/// <param name="Note">The note whose place it marks; null when it stands for itself.</param>
/// <param name="Version">Its overlay's version when it last changed.</param>
/// <param name="IsErased">Whether it lies there no more; it can be put back.</param>
/// <param name="Tie">Those of one tie are picked and moved together; null for none.</param>
/// <param name="Rank">What is of a higher rank lies above; of one rank, what was drawn later.</param>
public sealed record Markup(Guid Id, Guid Overlay, Place Place, Shape Shape, Guid? Note, long Version, bool IsErased = false, Guid? Tie = null, int Rank = 0);

/// <summary>Overlays: one person's markups on one draft, by names of their own.</summary>
public static class OverlayRules
{
    /// <summary>What the first one is called, until its owner calls it something else.</summary>
    public const string FirstName = "Marks";

    /// <summary>Longest name, in characters.</summary>
    public const int LongestName = 60;

    /// <summary>Overlays of one person on one draft.</summary>
    public const int MostOverlays = 20;

    /// <summary>Overlays of one person on one draft with those that were put away.</summary>
    public const int MostEver = 200;

    /// <summary>Markups on one overlay.</summary>
    public const int MostMarkups = 2000;

    /// <summary>The highest rank, and as far below 0 the lowest.</summary>
    public const int MostRank = 1_000_000;

    /// <summary>Changes at once.</summary>
    public const int MostChanges = 200;

    /// <summary>A name that none of some others has: itself, or with a number behind it.</summary>
    public static string FreeName(string name, IEnumerable<string> others)
    {
        ArgumentNullException.ThrowIfNull(name);
        var taken = others.ToHashSet(StringComparer.OrdinalIgnoreCase);
        var free = name;
        for (var i = 2; taken.Contains(free); i++) free = WithNumber(i);
        return free;

        string WithNumber(int number)
        {
            var behind = FormattableString.Invariant($" {number}");
            return name[..Math.Min(name.Length, LongestName - behind.Length)].TrimEnd() + behind;
        }
    }

    /// <summary>The id of a markup's copy on another draft: the same each time, so that copying twice copies once.</summary>
    public static Guid CopyOf(Guid markup, Guid draft)
    {
        var hash = SHA256.HashData([.. markup.ToByteArray(bigEndian: true), .. draft.ToByteArray(bigEndian: true)]);
        // As RFC 9562, 5.8 has ids of one's own making: version 8, variant 2.
        hash[6] = (byte)((hash[6] & 0x0F) | 0x80);
        hash[8] = (byte)((hash[8] & 0x3F) | 0x80);
        return new Guid(hash.AsSpan(0, 16), bigEndian: true);
    }

    /// <summary>
    /// What an overlay holds, as SHA-256 over its markups in the order of their ids (RFC 9562, 16 bytes, most significant first), each its id and the
    /// SHA-256 of what is written of it; so whoever has these can prove what lay on the draft.
    /// </summary>
    /// <param name="markups">Those that are not erased, with the SHA-256 of what is written of each.</param>
    public static byte[] Digest(IEnumerable<(Guid Id, byte[] Sha256)> markups)
    {
        using var hash = IncrementalHash.CreateHash(HashAlgorithmName.SHA256);
        foreach (var (id, sha256) in markups.Select(m => (Id: m.Id.ToByteArray(bigEndian: true), m.Sha256)).OrderBy(m => Convert.ToHexString(m.Id), StringComparer.Ordinal))
        {
            hash.AppendData(id);
            hash.AppendData(sha256);
        }
        return hash.GetHashAndReset();
    }
}
