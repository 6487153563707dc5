using Froe.Store;

namespace Froe.Server.SignIn;

/// <summary>Who may see what (<see cref="Froe.Core.Register.Visibility"/>), asked of the database.</summary>
public sealed class Access(Database database)
{
    /// <summary>Refuses, as though there were none, when a person may not see a package.</summary>
    public async Task DemandPackageAsync(Who who, Guid package, CancellationToken stop)
    {
        if (!await SeesAsync(database, who, package, stop)) throw Refused.Missing("package");
    }

    /// <summary>Whether a person may see a package; of one that is not there, everybody with the whole register may.</summary>
    public static async Task<bool> SeesAsync(IReads reads, Who who, Guid package, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(who);
        return who.ReadFolders is not { } folders || await reads.AnyAsync(VisibilitySql.OnePackageSql("$1", "$2", "$3"), [package, folders, who.Id], stop);
    }

    /// <summary>Which of some packages a person may see who reads these folders only.</summary>
    public static Task<List<Guid>> SeenAmongAsync(IReads reads, Guid person, long[] folders, Guid[] packages, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(reads);
        return reads.ListAsync($"SELECT i.id FROM unnest($1::uuid[]) AS i (id) WHERE EXISTS ({VisibilitySql.OnePackageSql("i.id", "$2", "$3")})", r => r.GetGuid(0), [packages, folders, person], stop);
    }

    /// <summary>Who takes part in which of some packages, deputies with them.</summary>
    public static Task<List<(Guid Person, Guid Package)>> PartInAsync(IReads reads, Guid[] packages, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(reads);
        return reads.ListAsync(VisibilitySql.TakingPartSql("$1"), r => (r.GetGuid(0), r.GetGuid(1)), [packages], stop);
    }

    /// <summary>Which of some documents a person may see, in no order: for their folders, or in a package they may see.</summary>
    public static Task<List<Guid>> DocumentsAmongAsync(IReads reads, Who who, Guid[] documents, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(reads);
        ArgumentNullException.ThrowIfNull(who);
        return who.ReadFolders is not { } folders
            ? reads.ListAsync("SELECT id FROM document WHERE id = ANY ($1)", r => r.GetGuid(0), [documents], stop)
            : reads.ListAsync("SELECT id FROM document WHERE id = ANY ($1) AND (folder_id = ANY ($2) OR originator = $3 OR id IN (SELECT r.document_id FROM revision_use u JOIN revision r ON r.id = u.revision_id WHERE u.person_id = $3))", r => r.GetGuid(0), [documents, folders, who.Id], stop);
    }

    /// <summary>Refuses, as though there were none, when a person may not see a draft.</summary>
    public async Task DemandDraftAsync(Who who, Guid draft, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(who);
        if (who.ReadFolders is not { } folders) return;
        if ((await DraftsAmongAsync(database, who.Id, folders, [draft], stop)).Count == 0) throw Refused.Missing("draft");
    }

    /// <summary>Which of some drafts a person may see who reads these folders only: for their document's folder, or in a package they may see.</summary>
    public static async Task<IReadOnlyCollection<Guid>> DraftsAmongAsync(IReads reads, Guid person, long[] folders, Guid[] drafts, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(reads);
        var seen = (await reads.ListAsync("SELECT w.id FROM draft w JOIN document d ON d.id = w.document_id WHERE w.id = ANY ($1) AND (d.folder_id = ANY ($2) OR w.revision_id IN (SELECT revision_id FROM revision_use WHERE person_id = $3))", r => r.GetGuid(0), [drafts, folders, person], stop)).ToHashSet();
        var others = drafts.Where(d => !seen.Contains(d)).ToArray();
        if (others.Length == 0) return seen;
        var sent = await reads.ListAsync("SELECT DISTINCT draft_id, package_id FROM package_item WHERE draft_id = ANY ($1)", r => (Draft: r.GetGuid(0), Package: r.GetGuid(1)), [others], stop);
        var packages = (await SeenAmongAsync(reads, person, folders, [.. sent.Select(s => s.Package).Distinct()], stop)).ToHashSet();
        seen.UnionWith(sent.Where(s => packages.Contains(s.Package)).Select(s => s.Draft));
        return seen;
    }

    /// <summary>Leaves of a list of packages, or of what is in them, what a person may see.</summary>
    /// <param name="id">The package's id in the statement.</param>
    internal static async Task LimitAsync(IReads reads, Conditions all, Who who, string id, CancellationToken stop)
    {
        if (who.ReadFolders is not { } folders) return;
        var count = await VisibilitySql.CountAsync(reads, folders, who.Id, stop);
        if (count <= VisibilitySql.FewPackages) all.Add($"{id} = ANY (@1)", await VisibilitySql.PackagesAsync(reads, folders, who.Id, stop));
        else if (count <= VisibilitySql.ManyPackages) all.Add($"({id} IN ({VisibilitySql.PackagesSql("@1", "@2")})) IS TRUE", folders, who.Id);
        else all.Add($"EXISTS ({VisibilitySql.OnePackageSql(id, "@1", "@2")})", folders, who.Id);
    }
}
