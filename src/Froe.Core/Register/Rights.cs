using System.Collections.Immutable;

namespace Froe.Core.Register;

/// <summary>What somebody may do.</summary>
public enum Right
{
    /// <summary>See documents and packages.</summary>
    Read,

    /// <summary>Register documents, upload drafts, send packages.</summary>
    Send,

    /// <summary>Hold a seat and sign in it.</summary>
    Sign,

    /// <summary>Build and publish routing plans.</summary>
    BuildPlans,

    /// <summary>Change how a package on its way goes on, for anybody.</summary>
    Coordinate,

    /// <summary>Move documents along the folder's standings, besides whom these name.</summary>
    MoveStandings,

    /// <summary>Start the next revision of what is released.</summary>
    UnlockReleased,

    /// <summary>Withdraw revisions and documents.</summary>
    Withdraw,

    /// <summary>Keep people, groups, rights, calendars and folders.</summary>
    Administer,
}

/// <summary>A right, for a folder and everything beneath it.</summary>
/// <param name="Folder">The folder's path; empty for the whole register.</param>
public sealed record GrantedRight(Right Right, string Folder);

/// <summary>Everything a person may do.</summary>
public sealed class Rights(IEnumerable<GrantedRight> granted)
{
    /// <summary>Nothing.</summary>
    public static Rights None { get; } = new([]);

    /// <summary>All that was granted.</summary>
    public ImmutableArray<GrantedRight> Granted { get; } = [.. granted.Distinct()];

    /// <summary>Whether somebody has a right in any folder.</summary>
    public bool Anywhere(Right right) => Granted.Any(g => g.Right == right);

    /// <summary>Whether somebody has a right for a folder.</summary>
    public bool For(Right right, string folder) => Granted.Any(g => g.Right == right && Folders.Holds(g.Folder, folder));

    /// <summary>Whether somebody has a right for each of these folders.</summary>
    public bool ForAll(Right right, IEnumerable<string> folders) => folders.All(f => For(right, f));

    /// <summary>The folders a right was granted for, without those beneath another of them; null for the whole register.</summary>
    public string[]? Places(Right right)
    {
        var places = Granted.Where(g => g.Right == right).Select(g => g.Folder).ToHashSet();
        return places.Contains(Folders.Root) ? null : [.. places.Where(p => !places.Any(o => o != p && Folders.Holds(o, p))).Order(StringComparer.Ordinal)];
    }
}

/// <summary>The register's folder tree: a folder is its path, names separated by " / "; the root is the empty path.</summary>
public static class Folders
{
    /// <summary>The whole register.</summary>
    public const string Root = "";

    /// <summary>What stands between two names.</summary>
    public const string Separator = " / ";

    /// <summary>Longest path that is taken.</summary>
    public const int Longest = 400;

    /// <summary>Whether a folder is another or holds it.</summary>
    public static bool Holds(string folder, string inner)
    {
        ArgumentNullException.ThrowIfNull(folder);
        ArgumentNullException.ThrowIfNull(inner);
        return folder.Length == 0 || inner == folder || inner.StartsWith(folder + Separator, StringComparison.Ordinal);
    }

    /// <summary>A path as it is kept: names trimmed, empty ones dropped.</summary>
    public static string Normal(string path)
    {
        ArgumentNullException.ThrowIfNull(path);
        return string.Join(Separator, path.Split('/', StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries));
    }

    /// <summary>A folder and all that hold it, innermost first, ending with the root.</summary>
    public static IEnumerable<string> Upwards(string path)
    {
        ArgumentNullException.ThrowIfNull(path);
        for (var at = path; at.Length > 0; at = at.LastIndexOf(Separator, StringComparison.Ordinal) is > 0 and var cut ? at[..cut] : Root) yield return at;
        yield return Root;
    }
}
