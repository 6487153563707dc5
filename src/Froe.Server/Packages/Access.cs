using Froe.Core.Register;
using Froe.Server.SignIn;
using Froe.Store;

namespace Froe.Server.Packages;

/// <summary>
/// Who may see what. With the right to read, a person sees packages with a document in one of their folders; anybody sees the packages
/// they sent, hold a seat in, are informed of or were asked for advice on, and what is in them. A guest has no folders.
/// </summary>
public sealed class Access(Database database)
{
    private const string PartSql =
        """
        SELECT 1 FROM package k WHERE k.id = $1 AND (
            k.originator = $2
            OR EXISTS (SELECT 1 FROM package_informed i WHERE i.package_id = k.id AND i.person_id = $2)
            OR EXISTS (SELECT 1 FROM package_seat s WHERE s.package_id = k.id AND s.person_id = $2)
            OR EXISTS (SELECT 1 FROM package_seat s JOIN absence a ON a.person_id = s.person_id WHERE s.package_id = k.id AND a.deputy = $2 AND a.away_from <= now() AND a.back_at > now())
            OR EXISTS (SELECT 1 FROM advice a WHERE a.package_id = k.id AND a.asked_of = $2)
            OR EXISTS (SELECT 1 FROM package_item i JOIN document d ON d.id = i.document_id, unnest($3::text[]) f
                       WHERE i.package_id = k.id AND (d.folder = f OR starts_with(d.folder, f || ' / '))))
        """;

    /// <summary>Refuses, as though there were none, when a person may not see a package.</summary>
    public async Task DemandPackageAsync(Who who, Guid package, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(who);
        if (who.Rights.Places(Right.Read) is { } places && !await IsPartAsync(who, package, places, stop)) throw Refused.Missing("package");
    }

    /// <summary>Refuses, as though there were none, when a person may not see a draft.</summary>
    public async Task DemandDraftAsync(Who who, Guid draft, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(who);
        if (who.Rights.Places(Right.Read) is not { } places) return;
        var folders = await database.ListAsync("SELECT d.folder FROM draft w JOIN document d ON d.id = w.document_id WHERE w.id = $1", r => r.GetString(0), [draft], stop);
        if (folders.Count > 0 && who.Rights.For(Right.Read, folders[0])) return;
        foreach (var package in await database.ListAsync("SELECT DISTINCT package_id FROM package_item WHERE draft_id = $1", r => r.GetGuid(0), [draft], stop))
            if (await IsPartAsync(who, package, places, stop)) return;
        throw Refused.Missing("draft");
    }

    /// <summary>Whether a package may be seen: @1 are the folders that a person may read, @2 is the person.</summary>
    /// <param name="id">The package's id in the statement.</param>
    /// <param name="originator">Who sent it.</param>
    internal static string SeenSql(string id, string originator) =>
        $"""
        ({originator} = @2 OR EXISTS (SELECT 1 FROM package_seat w WHERE w.package_id = {id} AND w.person_id = @2)
         OR EXISTS (SELECT 1 FROM package_item pi JOIN document pd ON pd.id = pi.document_id, unnest(@1::text[]) f WHERE pi.package_id = {id} AND (pd.folder = f OR starts_with(pd.folder, f || ' / '))))
        """;

    /// <summary>Leaves of a list of packages, or of what is in them, what a person may see.</summary>
    internal static void Limit(Conditions all, Who who, string id, string originator)
    {
        if (who.Rights.Places(Right.Read) is { } places) all.Add(SeenSql(id, originator), places, who.Id);
    }

    private async Task<bool> IsPartAsync(Who who, Guid package, string[] places, CancellationToken stop) =>
        (await database.ListAsync(PartSql, r => r.GetInt32(0), [package, who.Id, places], stop)).Count > 0;
}
