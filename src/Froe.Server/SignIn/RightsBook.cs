using Froe.Core.Register;
using Froe.Store;

namespace Froe.Server.SignIn;

/// <summary>What a person may do, and the ids of the folders they may read (null for the whole register).</summary>
public sealed record Holding(Rights Rights, long[]? ReadFolders);

/// <summary>Who may do what, by their groups. What is read is kept for a second, or until any server says that groups, rights or folders changed.</summary>
public sealed class RightsBook(Database database, TimeProvider clock)
{
    private static readonly TimeSpan Fresh = TimeSpan.FromSeconds(1);
    private readonly Remembered<Guid, (long Read, Holding Holding)> kept = new();

    /// <summary>What a person may do.</summary>
    public async Task<Holding> OfAsync(Guid person, CancellationToken stop)
    {
        var (read, before) = (clock.GetTimestamp(), kept.Before);
        if (kept.TryGet(person, out var known) && clock.GetElapsedTime(known.Read) < Fresh) return known.Holding;
        var rights = new Rights(await database.ListAsync(
            "SELECT DISTINCT r.right_name, f.path FROM group_right r JOIN folder f ON f.id = r.folder_id JOIN group_member m ON m.group_id = r.group_id WHERE m.person_id = $1",
            r => new GrantedRight(Named(r.GetString(0)), r.GetString(1)), [person], stop));
        var holding = new Holding(rights, rights.Places(Right.Read) is { } places ? await VisibilitySql.FoldersAsync(database, places, stop) : null);
        kept.Keep(person, (read, holding), before);
        return holding;
    }

    /// <summary>Everybody who is not barred and has a right for each of these folders; null when that is everybody there is.</summary>
    public static async Task<IReadOnlySet<Guid>?> AllWithAsync(IReads reads, Right right, IEnumerable<string> folders, CancellationToken stop) => (await RightHolders.ReadAsync(reads, right, stop)).ForAll(folders);

    /// <summary>Forgets what was read: groups, rights or folders have changed.</summary>
    public void Forget() => kept.Forget();

    /// <summary>A right as the database keeps it.</summary>
    public static string Word(Right right) => Words.Of(right);

    /// <summary>A right by its word.</summary>
    public static Right Named(string word) => Words.Parse<Right>(word);
}

/// <summary>Who has a right, and where, at one moment.</summary>
public sealed class RightHolders
{
    private readonly int everybody;
    private readonly ILookup<Guid, string> places;

    private RightHolders(int everybody, ILookup<Guid, string> places) => (this.everybody, this.places) = (everybody, places);

    /// <summary>Reads who has a right; whoever is barred has none.</summary>
    public static async Task<RightHolders> ReadAsync(IReads reads, Right right, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(reads);
        var rows = await reads.ListAsync(
            """
            SELECT p.id, f.path FROM person p
            LEFT JOIN (group_member m JOIN group_right r ON r.group_id = m.group_id AND r.right_name = $1 JOIN folder f ON f.id = r.folder_id) ON m.person_id = p.id AND p.barred_at IS NULL
            """,
            r => (Person: r.GetGuid(0), Folder: r.TextOrNull(1)), [RightsBook.Word(right)], stop);
        return new RightHolders(rows.Select(r => r.Person).Distinct().Count(), rows.Where(r => r.Folder is not null).ToLookup(r => r.Person, r => r.Folder!));
    }

    /// <summary>Those who have it for each of these folders; null when that is everybody.</summary>
    public IReadOnlySet<Guid>? ForAll(IEnumerable<string> folders)
    {
        var wanted = folders.Distinct().ToList();
        var has = places.Where(p => wanted.TrueForAll(f => p.Any(place => Folders.Holds(place, f)))).Select(p => p.Key).ToHashSet();
        return has.Count == everybody ? null : has;
    }
}
