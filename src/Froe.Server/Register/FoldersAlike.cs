using Froe.Core.Register;
using Froe.Core.Routing;
using Froe.Store;

namespace Froe.Server.Register;

/// <summary>Folders whose names differ in the case of their letters only would be taken for one another, and half of what belongs together filed in each.</summary>
internal static class FoldersAlike
{
    /// <summary>Refuses a path of which some part is there already in other letters; the folders are locked.</summary>
    /// <param name="moved">The folder that is called so from now on; null for a new one. It and what lies in it are no others.</param>
    public static async Task DemandNoneAsync(Act act, string path, string? moved, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(act);
        var found = await act.ListAsync(
            """
            SELECT f.path FROM unnest($1::text[]) u JOIN folder f ON lower(f.path) = lower(u)
            WHERE NOT EXISTS (SELECT 1 FROM folder e WHERE e.path = u) AND ($2::text IS NULL OR NOT (f.path = $2 OR starts_with(f.path, $2 || ' / ')))
            ORDER BY length(f.path) LIMIT 1
            """,
            r => r.GetString(0), [Folders.Upwards(path).ToArray(), moved], stop);
        if (found is [var alike]) throw new Refused(new Refusal("folder-alike", $"There is a folder “{alike}”, which differs in small and large letters only. Use that one, or choose another name."));
    }
}
