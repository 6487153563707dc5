using Froe.Server.Lists;
using Froe.Store;

namespace Froe.Server.Administration;

/// <summary>An entry of the security log.</summary>
/// <param name="Person">Whose doing it was, or whom it is about.</param>
/// <param name="Login">The name given, where somebody tried to sign in.</param>
public sealed record SecurityRow(Guid Id, DateTimeOffset At, string Kind, Guid? Person, string? PersonName, string Login, string Address, string Words);

/// <summary>Which entries are asked for; what is left out does not matter.</summary>
/// <param name="Search">Words of the name, the login, the address or what is said.</param>
internal sealed record SecurityAsked(string? Kind, Guid? Person, string? Search, string? Sort);

/// <summary>The security log as a list, for administrators.</summary>
internal sealed class SecurityList(Database database)
{
    private const int PageSize = 100, FilePageSize = 500;

    private static readonly Listing<SecurityRow> Columns = new(
        "-at",
        new("at", "When", (e, zone) => CsvFile.Time(e.At, zone), ListOrder.By<SecurityRow, DateTimeOffset, Guid>("e.at", e => e.At, "e.id", e => e.Id)),
        new("kind", "What", (e, _) => e.Kind),
        new("person", "Who", (e, _) => e.PersonName ?? ""),
        new("login", "Signs in as", (e, _) => e.Login),
        new("address", "Address", (e, _) => e.Address),
        new("words", "Said", (e, _) => e.Words));

    public Task<ListPage<SecurityRow>> PageAsync(SecurityAsked asked, string? after, CancellationToken stop) => PageAsync(asked, after, PageSize, stop);

    /// <summary>Everything asked for, as a file.</summary>
    public Task WriteAsync(SecurityAsked asked, string? columns, string? zone, HttpContext context) => CsvFile.WriteAsync(
        context, "security", Columns.Columns(columns), CsvFile.Zone(zone), after => PageAsync(asked, after, FilePageSize, context.RequestAborted));

    private Task<ListPage<SecurityRow>> PageAsync(SecurityAsked asked, string? after, int size, CancellationToken stop)
    {
        var all = new Conditions();
        if (!string.IsNullOrEmpty(asked.Kind)) all.Add("e.kind = @1", asked.Kind);
        if (asked.Person is { } person) all.Add("e.person_id = @1", person);
        all.AddWords(asked.Search, "e.login ILIKE @1 OR e.address ILIKE @1 OR e.words ILIKE @1 OR p.name ILIKE @1");
        return Columns.PageAsync(asked.Sort, after, all, size, (order, most) => database.SearchAsync(
            $"SELECT e.id, e.at, e.kind, e.person_id, p.name, e.login, e.address, e.words FROM security_event e LEFT JOIN person p ON p.id = e.person_id WHERE {all} ORDER BY {order} LIMIT {most}",
            r => new SecurityRow(r.GetGuid(0), r.Time(1), r.GetString(2), r.IdOrNull(3), r.TextOrNull(4), r.GetString(5), r.GetString(6), r.GetString(7)), all.Values, false, stop));
    }
}
