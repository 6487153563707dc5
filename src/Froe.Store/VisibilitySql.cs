namespace Froe.Store;

/// <summary>
/// The one rule of who sees what (<see cref="Froe.Core.Register.Visibility"/>), as SQL. What somebody may read is given as the ids of
/// their folders, resolved first: what is filed in them is then found by an index, however many folders there are.
/// </summary>
public static class VisibilitySql
{
    /// <summary>The ids of folders given by path, and of all beneath them.</summary>
    public static async Task<long[]> FoldersAsync(IReads reads, string[] places, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(reads);
        ArgumentNullException.ThrowIfNull(places);
        // From each to those that it holds, by an index: every path compared with every place takes seventy milliseconds where both are many.
        // What is filed in the register itself is filed in none of its folders.
        return places.Length == 0 ? [] : [.. await reads.ListAsync(
            "WITH RECURSIVE held AS (SELECT id, path FROM folder WHERE path = ANY ($1) UNION SELECT f.id, f.path FROM held h JOIN folder f ON f.parent = h.path WHERE h.path <> '') SELECT id FROM held",
            r => r.GetInt64(0), [places], stop)];
    }

    /// <summary>The packages somebody takes part in: those they sent, hold a seat in or stand in for, are informed of, were asked about or told of.</summary>
    /// <param name="person">The person, in the statement.</param>
    public static string TakenPartSql(string person) => string.Join(" UNION ", TakenPart(person));

    private static string[] TakenPart(string person) =>
    [
        $"SELECT id FROM package WHERE originator = {person}",
        $"SELECT package_id FROM package_seat WHERE person_id = {person}",
        $"SELECT package_id FROM package_informed WHERE person_id = {person}",
        $"SELECT package_id FROM advice WHERE asked_of = {person}",
        $"SELECT package_id FROM package_told WHERE person_id = {person}",
        $"SELECT s.package_id FROM stand_ins(now()) a JOIN package_seat s ON s.person_id = a.person_id WHERE a.deputy = {person}",
        $"SELECT k.id FROM stand_ins(now()) a JOIN package k ON k.originator = a.person_id WHERE a.deputy = {person}",
    ];

    /// <summary>Who takes part in some packages, as <see cref="TakenPartSql"/> has it: a person and a package in each row.</summary>
    /// <param name="packages">The packages' ids, in the statement.</param>
    public static string TakingPartSql(string packages) =>
        $"""
        WITH part (person_id, package_id, stands_in) AS (
            SELECT originator, id, true FROM package WHERE id = ANY ({packages})
            UNION ALL SELECT person_id, package_id, true FROM package_seat WHERE package_id = ANY ({packages})
            UNION ALL SELECT person_id, package_id, false FROM package_informed WHERE package_id = ANY ({packages})
            UNION ALL SELECT asked_of, package_id, false FROM advice WHERE package_id = ANY ({packages})
            UNION ALL SELECT person_id, package_id, false FROM package_told WHERE package_id = ANY ({packages}))
        SELECT person_id, package_id FROM part
        UNION SELECT a.deputy, p.package_id FROM part p JOIN stand_ins(now()) a USING (person_id) WHERE p.stands_in
        """;

    /// <summary>
    /// So many packages at most are given to a list by their ids, which tell PostgreSQL how many there are. Of more, up to
    /// <see cref="ManyPackages"/>, it makes a hash by itself; of still more it soon finds one, and asks after each that it comes by.
    /// </summary>
    public const int FewPackages = 1_000, ManyPackages = 10_000;

    /// <summary>The packages somebody may see who reads these folders: for them, or by taking part.</summary>
    public static async Task<Guid[]> PackagesAsync(IReads reads, long[] folders, Guid person, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(reads);
        return [.. (await reads.ListAsync(PackagesSql("$1", "$2"), r => r.GetGuid(0), [folders, person], stop)).Distinct()];
    }

    /// <summary>How many those are about, for some count more than once; one more than <see cref="ManyPackages"/> where there are more. PostgreSQL counts far quicker than it hands out.</summary>
    public static async Task<long> CountAsync(IReads reads, long[] folders, Guid person, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(reads);
        return (await reads.ListAsync($"SELECT count(*) FROM ({PackagesSql("$1", "$2")} LIMIT {ManyPackages + 1}) c", r => r.GetInt64(0), [folders, person], stop))[0];
    }

    /// <summary>The packages that somebody may see who reads some folders, as <see cref="PackagesAsync"/> has them; some stand there more than once.</summary>
    /// <param name="folders">The ids of the folders that may be read, in the statement.</param>
    /// <param name="person">The person, in the statement.</param>
    public static string PackagesSql(string folders, string person) =>
        string.Join(" UNION ALL ", [$"SELECT package_id FROM package_folder WHERE folder_id = ANY ({folders})", .. TakenPart(person)]);

    /// <summary>Whether one package at hand may be seen, which is looked at by its own keys.</summary>
    /// <param name="id">The package's id, in the statement.</param>
    /// <param name="folders">The ids of the folders that may be read, in the statement.</param>
    /// <param name="person">The person, in the statement.</param>
    public static string OnePackageSql(string id, string folders, string person) =>
        $"""
        SELECT 1 FROM package one WHERE one.id = {id} AND (
            one.originator = {person}
            OR EXISTS (SELECT 1 FROM package_folder f WHERE f.package_id = one.id AND f.folder_id = ANY ({folders}))
            OR EXISTS (SELECT 1 FROM package_seat s WHERE s.package_id = one.id AND s.person_id = {person})
            OR EXISTS (SELECT 1 FROM package_informed i WHERE i.package_id = one.id AND i.person_id = {person})
            OR EXISTS (SELECT 1 FROM advice a WHERE a.package_id = one.id AND a.asked_of = {person})
            OR EXISTS (SELECT 1 FROM package_told t WHERE t.package_id = one.id AND t.person_id = {person})
            OR EXISTS (SELECT 1 FROM stand_ins(now()) a JOIN package_seat s ON s.person_id = a.person_id WHERE a.deputy = {person} AND s.package_id = one.id)
            OR EXISTS (SELECT 1 FROM stand_ins(now()) a WHERE a.deputy = {person} AND a.person_id = one.originator))
        """;
}
