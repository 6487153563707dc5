using Froe.Store;

namespace Froe.Server.Absences;

/// <summary>Days of absence: they begin and end at the absent person's midnight.</summary>
public static class AbsentDays
{
    /// <summary>Enters an absence as part of an act, with an entry in the ledger.</summary>
    /// <param name="timeZone">The person's (IANA).</param>
    /// <param name="backDay">The first day on which they are there again.</param>
    public static async Task<AbsenceRow> EnterAsync(Act act, Guid person, string timeZone, DateOnly firstDay, DateOnly backDay, Guid? deputy, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(act);
        var zone = ZoneOf(timeZone);
        var row = new AbsenceRow(Guid.CreateVersion7(), person, Midnight(firstDay, zone), Midnight(backDay, zone), deputy, firstDay, backDay);
        act.Write("INSERT INTO absence (id, person_id, away_from, back_at, deputy) VALUES ($1, $2, $3, $4, $5::uuid)", row.Id, row.Person, row.From.UtcDateTime, row.To.UtcDateTime, row.Deputy);
        await act.AppendAsync(row.Person, OfficeActs.AbsenceEntered, "", row, stop);
        return row;
    }

    internal static TimeZoneInfo ZoneOf(string name) => TimeZoneInfo.TryFindSystemTimeZoneById(name, out var zone) ? zone : TimeZoneInfo.Utc;

    /// <summary>The first moment of a day in a zone; where clocks leap over midnight, the first there is.</summary>
    private static DateTimeOffset Midnight(DateOnly day, TimeZoneInfo zone)
    {
        var local = day.ToDateTime(TimeOnly.MinValue);
        while (zone.IsInvalidTime(local)) local = local.AddMinutes(15);
        // Of a midnight that comes twice, the first is meant: the greater offset from UTC.
        var offset = zone.IsAmbiguousTime(local) ? zone.GetAmbiguousTimeOffsets(local).Max() : zone.GetUtcOffset(local);
        return new DateTimeOffset(local, offset).ToUniversalTime();
    }
}
