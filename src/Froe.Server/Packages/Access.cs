using Froe.Server.SignIn;
using Froe.Store;

namespace Froe.Server.Packages;

/// <summary>Who may see what. Staff see the whole register; a guest sees the packages they sign in or are informed of, and what is in them.</summary>
public sealed class Access(Database database)
{
    private const string GuestSql =
        """
        SELECT 1 FROM package k WHERE k.id = $1 AND (
            EXISTS (SELECT 1 FROM package_informed i WHERE i.package_id = k.id AND i.person_id = $2)
            OR EXISTS (SELECT 1 FROM jsonb_path_query(k.slip, '$.seats[*].people[*]') p WHERE p #>> '{}' = $2::text))
        """;

    /// <summary>Refuses, as though there were none, when a person may not see a package.</summary>
    public async Task DemandPackageAsync(Who who, Guid package, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(who);
        if (who.IsGuest && (await database.ListAsync(GuestSql, r => r.GetInt32(0), [package, who.Id], stop)).Count == 0) throw Refused.Missing("package");
    }

    /// <summary>Refuses, as though there were none, when a person may not see a draft.</summary>
    public async Task DemandDraftAsync(Who who, Guid draft, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(who);
        if (!who.IsGuest) return;
        foreach (var package in await database.ListAsync("SELECT DISTINCT package_id FROM package_item WHERE draft_id = $1", r => r.GetGuid(0), [draft], stop))
            if ((await database.ListAsync(GuestSql, r => r.GetInt32(0), [package, who.Id], stop)).Count > 0) return;
        throw Refused.Missing("draft");
    }
}
