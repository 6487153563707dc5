using System.Collections.Concurrent;
using System.Text.Json;
using Froe.Core.Register;
using Froe.Store;

namespace Froe.Server.SignIn;

/// <summary>Who may do what, by their groups. What is read is kept for ten seconds, or until any server says that groups or rights changed.</summary>
public sealed class RightsBook(Database database, TimeProvider clock)
{
    private static readonly TimeSpan Fresh = TimeSpan.FromSeconds(10);
    private readonly ConcurrentDictionary<Guid, (DateTimeOffset Read, Rights Rights)> kept = new();

    /// <summary>What a person may do.</summary>
    public async Task<Rights> OfAsync(Guid person, CancellationToken stop)
    {
        if (kept.TryGetValue(person, out var known) && known.Read + Fresh > clock.GetUtcNow()) return known.Rights;
        var rows = await database.ListAsync(
            "SELECT DISTINCT r.right_name, r.folder FROM group_right r JOIN group_member m ON m.group_id = r.group_id WHERE m.person_id = $1",
            r => new GrantedRight(Named(r.GetString(0)), r.GetString(1)), [person], stop);
        var rights = new Rights(rows);
        kept[person] = (clock.GetUtcNow(), rights);
        return rights;
    }

    /// <summary>Everybody with a right for each of these folders; null when everybody has it for the whole register.</summary>
    public async Task<IReadOnlySet<Guid>?> AllWithAsync(Right right, IEnumerable<string> folders, CancellationToken stop)
    {
        var rows = await database.ListAsync(
            "SELECT p.id, r.folder FROM person p LEFT JOIN (group_member m JOIN group_right r ON r.group_id = m.group_id AND r.right_name = $1) ON m.person_id = p.id",
            r => (Person: r.GetGuid(0), Folder: r.TextOrNull(1)), [Word(right)], stop);
        var places = folders.Distinct().ToList();
        var has = rows.GroupBy(r => r.Person).Where(g => places.TrueForAll(f => g.Any(r => r.Folder is not null && Folders.Holds(r.Folder, f)))).Select(g => g.Key).ToHashSet();
        return rows.TrueForAll(r => has.Contains(r.Person)) ? null : has;
    }

    /// <summary>Forgets what was read: groups or rights have changed.</summary>
    public void Forget() => kept.Clear();

    /// <summary>A right as the database keeps it.</summary>
    public static string Word(Right right) => JsonNamingPolicy.CamelCase.ConvertName(right.ToString());

    /// <summary>A right by its word.</summary>
    public static Right Named(string word) => Enum.Parse<Right>(word, ignoreCase: true);
}
