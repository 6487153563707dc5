using Froe.Server.Changes;
using Froe.Server.SignIn;
using Froe.Store;
using Npgsql;

namespace Froe.Server.Absences;

/// <summary>A person's time away.</summary>
/// <param name="Deputy">Who signs for them; null for nobody.</param>
/// <param name="FirstDay">First day away, where the absent person lives.</param>
/// <param name="BackDay">First day back, where the absent person lives.</param>
public sealed record AbsenceRow(Guid Id, Guid Person, DateTimeOffset From, DateTimeOffset To, Guid? Deputy, DateOnly FirstDay, DateOnly BackDay);

/// <summary>An absence to enter, by days where the absent person lives: whoever enters it may live elsewhere.</summary>
/// <param name="Person">Oneself; a coordinator may enter it for others.</param>
/// <param name="FirstDay">First day away.</param>
/// <param name="BackDay">First day back.</param>
/// <param name="Key">Made by the page once for this absence, so that entering it twice enters it once.</param>
public sealed record NewAbsence(Guid Person, DateOnly FirstDay, DateOnly BackDay, Guid? Deputy, Guid? Key = null);

/// <summary>Who signs during an absence; null for nobody.</summary>
public sealed record AbsenceDeputy(Guid? Deputy);

/// <summary>Somebody to be asked to name a deputy.</summary>
public sealed record AskForDeputy(Guid Person);

/// <summary>Absences and deputies.</summary>
internal static class AbsenceEndpoints
{
    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/absences", async (Who who, Database database, CancellationToken stop) => !who.IsOfOffice
            ? throw Refused.Forbidden("Guests do not see who is away.")
            : (await database.ListAsync($"{RowSql} WHERE a.back_at > now() ORDER BY a.away_from", Row, [], stop)).AsReadOnly());
        api.MapPost("/absences", Add);
        api.MapPut("/absences/{id:guid}", async (Guid id, AbsenceDeputy wanted, Who who, Database database, Schedules schedules, Announcements changes, TimeProvider clock, CancellationToken stop) =>
        {
            await using var act = await Act.BeginAsync(database, who.Id, clock.GetUtcNow(), stop);
            var was = await LockAsync(act, id, who, stop);
            act.Write("UPDATE absence SET deputy = $2::uuid WHERE id = $1", id, wanted.Deputy);
            await act.AppendAsync(was.Person, OfficeActs.DeputyNamed, "", new { Absence = id, was.From, was.To, Former = was.Deputy, wanted.Deputy }, stop);
            if (wanted.Deputy is { } named && named != was.Deputy) await TellDeputyAsync(act, named, was, stop);
            await CommitAsync(act, stop);
            Changed(schedules, changes, who.Id);
            return TypedResults.NoContent();
        });
        api.MapPost("/absences/asked", async (AskForDeputy wanted, Who who, Database database, Announcements changes, TimeProvider clock, CancellationToken stop) =>
        {
            if (!who.IsOfOffice) throw Refused.Forbidden("Guests do not see who is away.");
            await using var act = await Act.BeginAsync(database, who.Id, clock.GetUtcNow(), stop);
            if (await People.LockAsync(act, wanted.Person, stop) is null) throw Refused.Missing("person");
            // Asked once a day is asked.
            var subject = $"{who.Name} asks you to name a deputy";
            if (await act.AnyAsync("SELECT 1 FROM message WHERE person_id = $1 AND at > $2 AND subject = $3", [wanted.Person, act.At.AddDays(-1).UtcDateTime, subject], stop)) return TypedResults.NoContent();
            act.Tell(new Message(wanted.Person, subject, "A package would wait for your signature while you are away. Name a deputy under your initials, at “Absences and deputies”.", "/"));
            await act.CommitAsync(stop);
            changes.Announce("message", wanted.Person);
            return TypedResults.NoContent();
        });
        api.MapDelete("/absences/{id:guid}", async (Guid id, Who who, Database database, Schedules schedules, Announcements changes, TimeProvider clock, CancellationToken stop) =>
        {
            await using var act = await Act.BeginAsync(database, who.Id, clock.GetUtcNow(), stop);
            var was = await LockAsync(act, id, who, stop);
            act.Write("DELETE FROM absence WHERE id = $1", id);
            await act.AppendAsync(was.Person, OfficeActs.AbsenceRemoved, "", was, stop);
            await CommitAsync(act, stop);
            Changed(schedules, changes, who.Id);
            return TypedResults.NoContent();
        });
    }

    /// <summary>An absence that somebody may change, held with its person until the act ends.</summary>
    private static async Task<AbsenceRow> LockAsync(Act act, Guid id, Who who, CancellationToken stop)
    {
        var found = await act.ListAsync(
            $"{RowSql} WHERE a.id = $1 AND (a.person_id = $2 OR $3) FOR NO KEY UPDATE", Row, [id, who.Id, who.CanCoordinate], stop);
        return found.Count > 0 ? found[0] : throw Refused.Missing("absence");
    }

    /// <summary>Commits; a deputy there is not, or who is the absent person, is refused.</summary>
    private static async Task CommitAsync(Act act, CancellationToken stop)
    {
        try
        {
            await act.CommitAsync(stop);
        }
        catch (PostgresException e) when (e.SqlState == PostgresErrorCodes.CheckViolation)
        {
            throw Refused.Invalid("own-deputy", "Nobody can be their own deputy. Choose a colleague.");
        }
        catch (PostgresException e) when (e.SqlState == PostgresErrorCodes.ForeignKeyViolation)
        {
            throw Refused.Missing("person");
        }
    }

    /// <summary>A deputy hears that they are one, for whom and for how long; and the absent person, when somebody else entered it.</summary>
    private static async Task TellDeputyAsync(Act act, Guid deputy, AbsenceRow absence, CancellationToken stop)
    {
        var name = (await act.ListAsync("SELECT name FROM person WHERE id = $1", r => r.GetString(0), [absence.Person], stop))[0];
        act.Tell(new Message(deputy, $"You stand in for {name}", $"From {absence.FirstDay:yyyy-MM-dd} until the day before {absence.BackDay:yyyy-MM-dd}. What waits for them waits for you as well, on your desk.", "/"));
        act.Tell(new Message(absence.Person, "A deputy is named for you", $"For your absence from {absence.FirstDay:yyyy-MM-dd} until the day before {absence.BackDay:yyyy-MM-dd}.", "/"));
    }

    /// <summary>Forecasts made from here on know of it, on this server at once and on the others as soon as they hear.</summary>
    private static void Changed(Schedules schedules, Announcements changes, Guid person)
    {
        schedules.Forget();
        changes.Announce("absence", person);
    }

    private static async Task<AbsenceRow> Add(NewAbsence wanted, Who who, Database database, Schedules schedules, Announcements changes, TimeProvider clock, CancellationToken stop)
    {
        if (!who.IsOfOffice) throw Refused.Forbidden("Guests enter no absences.");
        if (wanted.Person != who.Id && !who.CanCoordinate) throw Refused.Forbidden("Only a coordinator enters an absence for somebody else.");
        if (wanted.BackDay <= wanted.FirstDay) throw Refused.Invalid("bad-dates", "The day back must come after the first day away.");
        if (wanted.FirstDay.Year < 2000 || wanted.BackDay.Year > 2200) throw Refused.Invalid("bad-dates", "These days lie too far away.");
        if (wanted.Deputy == wanted.Person) throw Refused.Invalid("own-deputy", "Nobody can be their own deputy. Choose a colleague.");
        await using var act = await Act.BeginAsync(database, who.Id, clock.GetUtcNow(), stop);
        if (await act.SeenAsync<AbsenceRow>(wanted.Key, stop) is { } before) return before;
        if (await People.LockAsync(act, wanted.Person, stop) is not { } person) throw Refused.Missing("person");
        var row = await AbsentDays.EnterAsync(act, person.Id, person.TimeZone, wanted.FirstDay, wanted.BackDay, wanted.Deputy, stop);
        if (row.Deputy is { } deputy) await TellDeputyAsync(act, deputy, row, stop);
        act.Remember(wanted.Key, row);
        await CommitAsync(act, stop);
        Changed(schedules, changes, wanted.Person);
        return row;
    }

    private const string RowSql = "SELECT a.id, a.person_id, a.away_from, a.back_at, a.deputy, p.time_zone FROM absence a JOIN person p ON p.id = a.person_id";

    private static AbsenceRow Row(NpgsqlDataReader r)
    {
        var zone = AbsentDays.ZoneOf(r.GetString(5));
        return new(r.GetGuid(0), r.GetGuid(1), r.Time(2), r.Time(3), r.IdOrNull(4), Day(r.Time(2), zone), Day(r.Time(3), zone));
    }

    private static DateOnly Day(DateTimeOffset at, TimeZoneInfo zone) => DateOnly.FromDateTime(TimeZoneInfo.ConvertTime(at, zone).DateTime);
}
