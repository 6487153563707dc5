using System.Collections.Immutable;

namespace Froe.Store;

/// <summary>A person as the program knows them.</summary>
/// <param name="Calendar">The calendar they work by; null for the office's first.</param>
/// <param name="BarredAt">Since when they are shut out; null when they are not.</param>
public sealed record Person(Guid Id, string Login, string Name, string Initials, string Title, string Email, string TimeZone, bool IsGuest, Guid? Calendar = null, DateTimeOffset? BarredAt = null);

/// <summary>A group and its members.</summary>
public sealed record PersonGroup(Guid Id, string Name, Guid[] Members);

/// <summary>People and groups.</summary>
public sealed class People(Database database)
{
    private const string Columns = "id, login, name, initials, title, email, time_zone, is_guest, calendar_id";

    private const string Read = Columns + ", barred_at";

    /// <summary>Everyone, by name.</summary>
    public Task<List<Person>> AllAsync(CancellationToken stop = default) =>
        database.ListAsync($"SELECT {Read} FROM person ORDER BY name", Row, [], stop);

    /// <summary>Who takes part in a package that a person takes part in, and the person, by name.</summary>
    public async Task<List<Person>> MetAsync(Guid person, CancellationToken stop = default)
    {
        // The packages first: in one statement, the planner takes them for many and reads all packages there are.
        var shared = await database.ListAsync(VisibilitySql.TakenPartSql("$1"), r => r.GetGuid(0), [person], stop);
        return await database.ListAsync(
            $"""
            SELECT {Read} FROM person WHERE id = $1 OR id IN (
                SELECT originator FROM package WHERE id = ANY ($2)
                UNION SELECT person_id FROM package_informed WHERE package_id = ANY ($2)
                UNION SELECT person_id FROM package_seat WHERE package_id = ANY ($2)
                UNION SELECT person_id FROM sign_off WHERE package_id = ANY ($2)
                UNION SELECT author FROM note WHERE package_id = ANY ($2)
                UNION SELECT unnest(ARRAY[asked_by, asked_of]) FROM advice WHERE package_id = ANY ($2))
            ORDER BY name
            """,
            Row, [person, shared.ToArray()], stop);
    }

    /// <summary>Whether the database knows nobody yet.</summary>
    public async Task<bool> IsNobodyThereAsync(CancellationToken stop = default) => !await database.AnyAsync("SELECT 1 FROM person LIMIT 1", [], stop);

    /// <summary>Every group with its members.</summary>
    public Task<List<PersonGroup>> GroupsAsync(CancellationToken stop = default) => database.ListAsync(
        """
        SELECT g.id, g.name, coalesce(array_agg(m.person_id ORDER BY m.person_id) FILTER (WHERE m.person_id IS NOT NULL), '{}')
        FROM person_group g LEFT JOIN group_member m ON m.group_id = g.id GROUP BY g.id ORDER BY g.name
        """,
        r => new PersonGroup(r.GetGuid(0), r.GetString(1), r.GetFieldValue<Guid[]>(2)), [], stop);

    /// <summary>Every group with its members, who are not barred, for filling seats.</summary>
    public static async Task<Dictionary<Guid, ImmutableArray<Guid>>> FillingAsync(IReads reads, CancellationToken stop) => (await reads.ListAsync(
        """
        SELECT g.id, coalesce(array_agg(p.id ORDER BY p.id) FILTER (WHERE p.id IS NOT NULL), '{}')
        FROM person_group g LEFT JOIN group_member m ON m.group_id = g.id LEFT JOIN person p ON p.id = m.person_id AND p.barred_at IS NULL GROUP BY g.id
        """,
        r => (Id: r.GetGuid(0), Members: r.GetFieldValue<Guid[]>(1).ToImmutableArray()), [], stop)).ToDictionary(g => g.Id, g => g.Members);

    /// <summary>A person and their password's hash by the name they sign in with.</summary>
    public async Task<(Person Person, string PasswordHash)?> ByLoginAsync(string login, CancellationToken stop = default)
    {
        var found = await database.ListAsync($"SELECT {Read}, password_hash FROM person WHERE login = $1", r => (Row(r), r.GetString(10)), [login], stop);
        return found.Count > 0 ? found[0] : null;
    }

    /// <summary>A person and their password's hash.</summary>
    public async Task<(Person Person, string PasswordHash)?> ByIdAsync(Guid id, CancellationToken stop = default)
    {
        var found = await database.ListAsync($"SELECT {Read}, password_hash FROM person WHERE id = $1", r => (Row(r), r.GetString(10)), [id], stop);
        return found.Count > 0 ? found[0] : null;
    }

    /// <summary>A person as they stand, held until the act ends; null when there is none.</summary>
    public static async Task<Person?> LockAsync(Act act, Guid id, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(act);
        return (await act.ListAsync($"SELECT {Read} FROM person WHERE id = $1 FOR NO KEY UPDATE", Row, [id], stop)).FirstOrDefault();
    }

    private const string AddSql =
        $"""
        WITH made AS (INSERT INTO person ({Columns}, password_hash) VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9::uuid, $10) RETURNING id)
        INSERT INTO group_member (group_id, person_id) SELECT g.id, made.id FROM person_group g, made WHERE g.name = ANY ($11)
        """;

    private static object?[] AddValues(Person p, string passwordHash, string[] groups) => [p.Id, p.Login, p.Name, p.Initials, p.Title, p.Email, p.TimeZone, p.IsGuest, p.Calendar, passwordHash, groups];

    /// <summary>Adds a person, as a member of groups by their names: Staff, Originators, Coordinators, Administrators and Guests are always there.</summary>
    public Task AddAsync(Person p, string passwordHash, string[] groups, CancellationToken stop = default)
    {
        ArgumentNullException.ThrowIfNull(p);
        return database.RunAsync(AddSql, AddValues(p, passwordHash, groups), stop);
    }

    /// <summary>Adds a person as part of an act, with an entry in the ledger: who they are, not how they are reached, for nothing is ever taken out of it.</summary>
    public static async Task AddAsync(Act act, Person p, string passwordHash, string[] groups, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(act);
        ArgumentNullException.ThrowIfNull(p);
        act.Write(AddSql, AddValues(p, passwordHash, groups));
        act.NewChain(p.Id);
        await act.AppendAsync(p.Id, OfficeActs.PersonAdded, "", new { p.Name, p.Login, p.IsGuest, Groups = groups }, stop);
    }

    /// <summary>Adds a group with its members, which Froe itself makes.</summary>
    public async Task AddGroupAsync(PersonGroup g, CancellationToken stop = default)
    {
        await using var act = await Act.BeginAsync(database, Guid.Empty, DateTimeOffset.UtcNow, stop);
        await AddGroupAsync(act, g, stop);
        await act.CommitAsync(stop);
    }

    /// <summary>Adds a group with its members as part of an act, with an entry in the ledger.</summary>
    public static async Task AddGroupAsync(Act act, PersonGroup g, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(act);
        ArgumentNullException.ThrowIfNull(g);
        act.Write("INSERT INTO person_group (id, name) VALUES ($1, $2)", g.Id, g.Name);
        act.Write("INSERT INTO group_member (group_id, person_id) SELECT $1, unnest($2::uuid[])", g.Id, g.Members.Distinct().ToArray());
        act.NewChain(g.Id);
        await act.AppendAsync(g.Id, OfficeActs.GroupMade, "", new { g.Name, g.Members }, stop);
    }

    private static Person Row(Npgsql.NpgsqlDataReader r) => new(
        r.GetGuid(0), r.GetString(1), r.GetString(2), r.GetString(3), r.GetString(4), r.GetString(5), r.GetString(6), r.GetBoolean(7), r.IdOrNull(8), r.TimeOrNull(9));
}
