using Froe.Server.Changes;
using Froe.Server.SignIn;
using Froe.Store;

namespace Froe.Server.Packages;

/// <summary>Somebody has a sheet before them, or has left.</summary>
/// <param name="Page">The page of theirs, by an id of its own.</param>
/// <param name="Draft">The draft; null when they have left the package.</param>
/// <param name="Leaf">Position of the sheet.</param>
public sealed record Here(Guid Page, Guid? Draft, int Leaf);

/// <summary>Somebody who has a sheet of the package before them now.</summary>
public sealed record PersonHere(Guid Person, string Name, string Initials, Guid Draft, int Leaf);

/// <summary>Who has which sheet of a package before them now. A page says so again every while; one that falls silent is gone.</summary>
public sealed class Presence(Database database, Access access, Announcements changes, TimeProvider clock)
{
    /// <summary>How long a page that says nothing more is taken to be there.</summary>
    public static readonly TimeSpan Silent = TimeSpan.FromSeconds(60);

    /// <summary>Who else is there, by name.</summary>
    public async Task<IReadOnlyList<PersonHere>> OfAsync(Who who, Guid package, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(who);
        await access.DemandPackageAsync(who, package, stop);
        return await database.ListAsync(
            """
            SELECT DISTINCT p.name, p.id, p.initials, h.draft_id, h.leaf FROM presence h JOIN person p ON p.id = h.person_id
            WHERE h.package_id = $1 AND h.at > $2 AND h.person_id <> $3 ORDER BY p.name, p.id, h.draft_id, h.leaf LIMIT 200
            """,
            r => new PersonHere(r.GetGuid(1), r.GetString(0), r.GetString(2), r.GetGuid(3), r.GetInt32(4)), [package, Since, who.Id], stop);
    }

    /// <summary>Notes where one's page is now.</summary>
    public async Task SayAsync(Who who, Guid package, Here here, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(who);
        ArgumentNullException.ThrowIfNull(here);
        await access.DemandPackageAsync(who, package, stop);
        if (here.Leaf < 0) throw Refused.Invalid("bad-sheet", "Say which sheet it is.");
        var before = await database.FirstAsync("SELECT draft_id, leaf, at FROM presence WHERE page = $1 AND person_id = $2", r => Tuple.Create(r.GetGuid(0), r.GetInt32(1), r.Time(2)), [here.Page, who.Id], stop);
        if (here.Draft is not { } draft)
        {
            if (await database.RunAsync("DELETE FROM presence WHERE page = $1 AND person_id = $2", [here.Page, who.Id], stop) > 0) changes.Announce("here", package);
            return;
        }
        var now = clock.GetUtcNow().UtcDateTime;
        var told = await database.RunAsync(
            """
            INSERT INTO presence AS h (page, person_id, package_id, draft_id, leaf, at)
            SELECT $1, $2, $3, $4, $5, $6 WHERE EXISTS (SELECT 1 FROM package_item WHERE package_id = $3 AND draft_id = $4)
            ON CONFLICT (page) DO UPDATE SET package_id = excluded.package_id, draft_id = excluded.draft_id, leaf = excluded.leaf, at = excluded.at WHERE h.person_id = excluded.person_id
            """,
            [here.Page, who.Id, package, draft, here.Leaf, now], stop);
        // What is said again tells nobody anything new, unless its page was taken to be gone.
        if (told == 0 || (before is var (was, leaf, at) && was == draft && leaf == here.Leaf && at.UtcDateTime > Since)) return;
        await database.RunAsync("DELETE FROM presence WHERE package_id = $1 AND at <= $2", [package, Since], stop);
        changes.Announce("here", package);
    }

    private DateTime Since => clock.GetUtcNow().UtcDateTime - Silent;
}
