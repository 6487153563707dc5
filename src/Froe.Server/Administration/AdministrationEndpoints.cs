using System.ComponentModel.DataAnnotations;
using System.Text.Json;
using Froe.Core.Calendar;
using Froe.Core.Register;
using Froe.Core.Routing;
using Froe.Core.SignIn;
using Froe.Server.Absences;
using Froe.Server.Changes;
using Froe.Server.SignIn;
using Froe.Store;
using Npgsql;

namespace Froe.Server.Administration;

/// <summary>A group as it should be.</summary>
/// <param name="Rights">What it may do; null to leave that as it is.</param>
/// <param name="Was">What it was when its change was begun: what somebody else changed since is not undone unseen. Null not to look.</param>
public sealed record GroupWanted([property: MaxLength(60)] string Name, Guid[] Members, GrantedRight[]? Rights = null, GroupWas? Was = null);

/// <summary>A group as somebody saw it.</summary>
public sealed record GroupWas([property: MaxLength(60)] string Name, Guid[] Members, GrantedRight[] Rights);

/// <summary>A right given to a group for a folder.</summary>
public sealed record GroupRight(Guid Group, Right Right, string Folder);

/// <summary>The rights a group should have.</summary>
public sealed record GroupRightsWanted(GrantedRight[] Rights);

/// <summary>A person as they should be.</summary>
/// <param name="Password">Set when given; must be given for a new person.</param>
/// <param name="Was">What they were when the change was begun: what somebody else changed since is not undone unseen. Null not to look.</param>
public sealed record PersonWanted(
    [property: MaxLength(60)] string Login, [property: MaxLength(120)] string Name, [property: MaxLength(4)] string Initials, [property: MaxLength(120)] string Title, [property: MaxLength(200)] string Email,
    [property: MaxLength(60)] string TimeZone, bool IsGuest, Guid? Calendar, [property: MaxLength(PasswordRules.Longest)] string? Password, PersonWas? Was = null);

/// <summary>A person as somebody saw them.</summary>
public sealed record PersonWas(
    [property: MaxLength(60)] string Login, [property: MaxLength(120)] string Name, [property: MaxLength(4)] string Initials, [property: MaxLength(120)] string Title, [property: MaxLength(200)] string Email,
    [property: MaxLength(60)] string TimeZone, bool IsGuest, Guid? Calendar);

/// <summary>A calendar: when an office works.</summary>
/// <param name="Week">Working parts of each day, Sunday first, in minutes from midnight.</param>
/// <param name="Holidays">Days that differ.</param>
public sealed record CalendarRow(Guid Id, string Name, IReadOnlyList<IReadOnlyList<DayPart>> Week, IReadOnlyList<HolidayRow> Holidays);

/// <summary>A holiday, or a half day.</summary>
/// <param name="Left">What is left of the day; empty for none.</param>
public sealed record HolidayRow(DateOnly Day, string Name, IReadOnlyList<DayPart> Left);

/// <summary>A calendar as it should be.</summary>
/// <param name="Was">What it was when its change was begun: what somebody else changed since is not undone unseen. Null not to look.</param>
public sealed record CalendarWanted(string Name, DayPart[][] Week, HolidayRow[] Holidays, CalendarWas? Was = null);

/// <summary>A calendar as somebody saw it.</summary>
public sealed record CalendarWas(string Name, DayPart[][] Week, HolidayRow[] Holidays);

/// <summary>Made, and its id.</summary>
public sealed record MadeId(Guid Id);

/// <summary>People, groups, rights and calendars, for administrators.</summary>
internal static class AdministrationEndpoints
{
    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/rights", Rights);
        api.MapPut("/groups/{id:guid}/rights", SetRights);
        api.MapPost("/groups", AddGroup);
        api.MapPut("/groups/{id:guid}", SetGroup);
        api.MapDelete("/groups/{id:guid}", RemoveGroup);
        api.MapPost("/people", AddPerson);
        api.MapPut("/people/{id:guid}", SetPerson);
        api.MapGet("/people/{id:guid}/holds", async (Guid id, Who who, Barring barring, CancellationToken stop) =>
        {
            Demand(who);
            return await barring.HoldsAsync(id, stop);
        });
        api.MapPut("/people/{id:guid}/barring", async (Guid id, BarringReason wanted, Who who, Barring barring, CancellationToken stop) =>
        {
            Demand(who);
            await barring.BarAsync(who, id, wanted.Reason, stop);
            return TypedResults.NoContent();
        });
        api.MapPost("/people/{id:guid}/letting-in", async (Guid id, BarringReason wanted, Who who, Barring barring, CancellationToken stop) =>
        {
            Demand(who);
            await barring.LetInAsync(who, id, wanted.Reason, stop);
            return TypedResults.NoContent();
        });
        api.MapGet("/security", ([AsParameters] SecurityAsked asked, string? after, Who who, SecurityList list, CancellationToken stop) =>
        {
            Demand(who);
            return list.PageAsync(asked, after, stop);
        });
        api.MapGet("/security.csv", ([AsParameters] SecurityAsked asked, string? columns, string? zone, Who who, SecurityList list, HttpContext context) =>
        {
            Demand(who);
            return list.WriteAsync(asked, columns, zone, context);
        }).Produces(StatusCodes.Status200OK, contentType: "text/csv").DisableRequestTimeout();
        api.MapGet("/calendars", Calendars);
        api.MapPost("/calendars", AddCalendar);
        api.MapPut("/calendars/{id:guid}", SetCalendar);
        api.MapDelete("/calendars/{id:guid}", RemoveCalendar);
    }

    private static void Demand(Who who)
    {
        if (!who.CanAdminister) throw Refused.Forbidden("Only administrators keep people, groups, rights and calendars.");
    }

    // ---- groups and rights ----

    private static async Task<IReadOnlyList<GroupRight>> Rights(Who who, Database database, CancellationToken stop)
    {
        Demand(who);
        return await database.ListAsync("SELECT r.group_id, r.right_name, f.path FROM group_right r JOIN folder f ON f.id = r.folder_id ORDER BY 1, 2, 3", r => new GroupRight(r.GetGuid(0), RightsBook.Named(r.GetString(1)), r.GetString(2)), [], stop);
    }

    private static async Task<IResult> SetRights(Guid id, GroupRightsWanted wanted, Who who, Database database, RightsBook book, SecurityLog log, Announcements changes, TimeProvider clock, CancellationToken stop)
    {
        Demand(who);
        await using var act = await Act.BeginAsync(database, who.Id, clock.GetUtcNow(), stop);
        await LockAsync(act, id, stop);
        await GiveAsync(act, id, wanted.Rights, stop);
        await CommitAsync(act, who, "rights of a group", book, log, changes, stop);
        return TypedResults.NoContent();
    }

    private static async Task GiveAsync(Act act, Guid group, GrantedRight[] rights, CancellationToken stop)
    {
        var paths = rights.Select(r => Folders.Normal(r.Folder)).ToArray();
        // Held, so that none of them is removed meanwhile.
        var there = await act.ListAsync("SELECT path FROM folder WHERE path = ANY ($1) FOR KEY SHARE", r => r.GetString(0), [paths], stop);
        if (Array.Find(paths, p => !there.Contains(p)) is not null) throw Refused.Missing("folder");
        act.Write("DELETE FROM group_right WHERE group_id = $1", group);
        act.Write(
            "INSERT INTO group_right (group_id, right_name, folder_id) SELECT $1, w.name, f.id FROM unnest($2::text[], $3::text[]) AS w (name, path) JOIN folder f USING (path) ON CONFLICT DO NOTHING",
            group, rights.Select(r => RightsBook.Word(r.Right)).ToArray(), paths);
        await act.AppendAsync(group, OfficeActs.RightsGiven, "", new { Rights = rights }, stop);
    }

    private static async Task<MadeId> AddGroup(GroupWanted wanted, Who who, Database database, RightsBook book, SecurityLog log, Announcements changes, TimeProvider clock, CancellationToken stop)
    {
        Demand(who);
        var id = Guid.CreateVersion7();
        await using var act = await Act.BeginAsync(database, who.Id, clock.GetUtcNow(), stop);
        await People.AddGroupAsync(act, new PersonGroup(id, Name(wanted.Name, 60), [.. wanted.Members]), stop);
        if (wanted.Rights is { Length: > 0 } rights) await GiveAsync(act, id, rights, stop);
        await CommitAsync(act, who, "a group made", book, log, changes, stop);
        return new MadeId(id);
    }

    private static async Task<IResult> SetGroup(Guid id, GroupWanted wanted, Who who, Database database, RightsBook book, SecurityLog log, Announcements changes, TimeProvider clock, CancellationToken stop)
    {
        Demand(who);
        await using var act = await Act.BeginAsync(database, who.Id, clock.GetUtcNow(), stop);
        var now = await LockAsync(act, id, stop);
        if (wanted.Was is { } was && !IsSame(was, now)) throw Refused.ChangedMeanwhile("this group");
        if (wanted.Name.Trim() != now.Name || !now.Members.ToHashSet().SetEquals(wanted.Members))
        {
            act.Write("UPDATE person_group SET name = $2 WHERE id = $1", id, Name(wanted.Name, 60));
            act.Write("DELETE FROM group_member WHERE group_id = $1 AND person_id <> ALL ($2)", id, wanted.Members);
            act.Write("INSERT INTO group_member (group_id, person_id) SELECT $1, unnest($2::uuid[]) ON CONFLICT DO NOTHING", id, wanted.Members.Distinct().ToArray());
            await act.AppendAsync(id, OfficeActs.GroupChanged, "", new { wanted.Name, wanted.Members }, stop);
        }
        if (wanted.Rights is { } rights && !Given(now.Rights).SetEquals(Given(rights))) await GiveAsync(act, id, rights, stop);
        await CommitAsync(act, who, "a group changed", book, log, changes, stop);
        return TypedResults.NoContent();
    }

    private static async Task<IResult> RemoveGroup(Guid id, Who who, Database database, RightsBook book, SecurityLog log, Announcements changes, TimeProvider clock, CancellationToken stop)
    {
        Demand(who);
        await using var act = await Act.BeginAsync(database, who.Id, clock.GetUtcNow(), stop);
        await LockAsync(act, id, stop);
        var plans = await act.ListAsync("SELECT p.name FROM plan p LEFT JOIN plan_edition e ON e.plan_id = p.id AND e.edition = p.edition WHERE NOT p.retired AND (p.body::text LIKE '%' || $1 || '%' OR e.body::text LIKE '%' || $1 || '%')", r => r.GetString(0), [id.ToString()], stop);
        if (plans.Count > 0) throw new Refused(new Refusal("group-in-plan", $"Plan “{plans[0]}” has a seat or a message for this group. Change the plan first."));
        var name = await act.ListAsync("SELECT name FROM person_group WHERE id = $1", r => r.GetString(0), [id], stop);
        act.Write("DELETE FROM group_member WHERE group_id = $1", id);
        act.Write("DELETE FROM person_group WHERE id = $1", id);
        await act.AppendAsync(id, OfficeActs.GroupRemoved, "", new { Name = name[0] }, stop);
        await CommitAsync(act, who, "a group removed", book, log, changes, stop);
        return TypedResults.NoContent();
    }

    /// <summary>A group as it stands, held until the act ends.</summary>
    private static async Task<GroupWas> LockAsync(Act act, Guid group, CancellationToken stop)
    {
        var name = await act.ListAsync("SELECT name FROM person_group WHERE id = $1 FOR UPDATE", r => r.GetString(0), [group], stop);
        if (name.Count == 0) throw Refused.Missing("group");
        var members = await act.ListAsync("SELECT person_id FROM group_member WHERE group_id = $1", r => r.GetGuid(0), [group], stop);
        var rights = await act.ListAsync("SELECT r.right_name, f.path FROM group_right r JOIN folder f ON f.id = r.folder_id WHERE r.group_id = $1", r => new GrantedRight(RightsBook.Named(r.GetString(0)), r.GetString(1)), [group], stop);
        return new GroupWas(name[0], [.. members], [.. rights]);
    }

    private static bool IsSame(GroupWas a, GroupWas b) => a.Name == b.Name && a.Members.ToHashSet().SetEquals(b.Members) && Given(a.Rights).SetEquals(Given(b.Rights));

    private static HashSet<(Right, string)> Given(GrantedRight[] rights) => [.. rights.Select(r => (r.Right, Folders.Normal(r.Folder)))];

    /// <summary>Commits a change of groups or rights, unless it would leave nobody to administer.</summary>
    private static async Task CommitAsync(Act act, Who who, string what, RightsBook book, SecurityLog log, Announcements changes, CancellationToken stop)
    {
        Barring.DemandSomebodyLeft(act);
        try
        {
            await act.CommitAsync(stop);
        }
        catch (PostgresException e)
        {
            throw e.SqlState switch
            {
                Barring.NobodyLeft => Barring.LastOne(),
                PostgresErrorCodes.UniqueViolation => new Refused(new Refusal("name-taken", "There is a group of this name already. Choose another.")),
                PostgresErrorCodes.ForeignKeyViolation => Refused.Missing("person"),
                _ => e,
            };
        }
        book.Forget();
        log.Write(SecurityEvents.RightsChanged, who.Id, "", what);
        changes.Announce("office", who.Id);
    }

    // ---- people ----

    private static async Task<MadeId> AddPerson(PersonWanted wanted, Who who, Database database, Passwords passwords, RightsBook book, Announcements changes, TimeProvider clock, CancellationToken stop)
    {
        Demand(who);
        var person = PersonOf(Guid.CreateVersion7(), wanted);
        if (PasswordRules.Fault(wanted.Password ?? "", person.Login) is { } fault) throw Refused.Invalid(fault.Code, fault.Reason);
        await using var act = await Act.BeginAsync(database, who.Id, clock.GetUtcNow(), stop);
        try
        {
            await People.AddAsync(act, person, passwords.HashOf(wanted.Password!), [wanted.IsGuest ? "Guests" : "Staff"], stop);
            await act.CommitAsync(stop);
        }
        catch (PostgresException e) when (e.SqlState == PostgresErrorCodes.UniqueViolation)
        {
            throw new Refused(new Refusal("login-taken", $"Somebody signs in as “{person.Login}” already. Choose another name."));
        }
        book.Forget();
        changes.Announce("office", person.Id);
        return new MadeId(person.Id);
    }

    private static async Task<IResult> SetPerson(Guid id, PersonWanted wanted, Who who, Database database, Passwords passwords, Schedules schedules, Sessions sessions, RightsBook book, SecurityLog log, Announcements changes, TimeProvider clock, CancellationToken stop)
    {
        Demand(who);
        var p = PersonOf(id, wanted);
        if (!string.IsNullOrEmpty(wanted.Password) && PasswordRules.Fault(wanted.Password, p.Login) is { } fault) throw Refused.Invalid(fault.Code, fault.Reason);
        var hash = string.IsNullOrEmpty(wanted.Password) ? null : passwords.HashOf(wanted.Password);
        await using var act = await Act.BeginAsync(database, who.Id, clock.GetUtcNow(), stop);
        if (await People.LockAsync(act, id, stop) is not { } was) throw Refused.Missing("person");
        if (wanted.Was is { } seen && seen != new PersonWas(was.Login, was.Name, was.Initials, was.Title, was.Email, was.TimeZone, was.IsGuest, was.Calendar)) throw Refused.ChangedMeanwhile("this person");
        act.Write(
            "UPDATE person SET login = $2, name = $3, initials = $4, title = $5, email = $6, time_zone = $7, calendar_id = $8::uuid, password_hash = coalesce($9, password_hash), is_guest = $10 WHERE id = $1",
            id, p.Login, p.Name, p.Initials, p.Title, p.Email, p.TimeZone, p.Calendar, hash, p.IsGuest);
        if (p.IsGuest != was.IsGuest)
        {
            // A guest has what guests have, and no more of what everybody in the office has; rights given besides are other groups'.
            act.Write("DELETE FROM group_member m USING person_group g WHERE g.id = m.group_id AND m.person_id = $1 AND g.name = $2", id, p.IsGuest ? "Staff" : "Guests");
            act.Write("INSERT INTO group_member (group_id, person_id) SELECT id, $1 FROM person_group WHERE name = $2 ON CONFLICT DO NOTHING", id, p.IsGuest ? "Guests" : "Staff");
        }
        if (hash is not null) Sessions.EndAll(act, id, id == who.Id ? who.Session : null);
        // Who signs in as whom is what a signature stands on: a password set by somebody else is never passed over. How somebody is
        // reached is theirs: that it changed is recorded, not to what.
        string[] changed =
        [
            .. new[] { ("initials", p.Initials != was.Initials), ("title", p.Title != was.Title), ("email", p.Email != was.Email), ("time zone", p.TimeZone != was.TimeZone), ("calendar", p.Calendar != was.Calendar), (p.IsGuest ? OfficeActs.GuestFromNowOn : OfficeActs.GuestNoMore, p.IsGuest != was.IsGuest) }
                .Where(c => c.Item2).Select(c => c.Item1),
        ];
        await act.AppendAsync(id, OfficeActs.PersonChanged, "", new { p.Name, p.Login, Former = new { was.Name, was.Login }, PasswordSet = hash is not null, AlsoChanged = changed }, stop);
        try
        {
            await act.CommitAsync(stop);
        }
        catch (PostgresException e) when (e.SqlState == PostgresErrorCodes.UniqueViolation)
        {
            throw new Refused(new Refusal("login-taken", $"Somebody signs in as “{p.Login}” already. Choose another name."));
        }
        schedules.Forget();
        sessions.Forget();
        book.Forget();
        if (hash is not null) log.Write(SecurityEvents.PasswordChanged, id, p.Login, $"by {who.Name}");
        if (p.IsGuest != was.IsGuest) log.Write(SecurityEvents.RightsChanged, id, p.Login, p.IsGuest ? OfficeActs.GuestFromNowOn : OfficeActs.GuestNoMore);
        changes.Announce("session", id);
        changes.Announce("office", id);
        return TypedResults.NoContent();
    }

    private static Person PersonOf(Guid id, PersonWanted wanted)
    {
        if (!TimeZoneInfo.TryFindSystemTimeZoneById(wanted.TimeZone, out _)) throw Refused.Invalid("bad-zone", $"There is no time zone “{wanted.TimeZone}”. Write it like Europe/Oslo.");
        if (!wanted.Email.Contains('@', StringComparison.Ordinal)) throw Refused.Invalid("bad-email", "The mail address has no @.");
        return new Person(id, Name(wanted.Login, 60).ToLowerInvariant(), Name(wanted.Name, 120), Name(wanted.Initials, 4), wanted.Title.Trim(), Name(wanted.Email, 200), wanted.TimeZone, wanted.IsGuest, wanted.Calendar);
    }

    private static string Name(string text, int longest) =>
        text.Trim() is { Length: > 0 } name && name.Length <= longest ? name : throw Refused.Invalid("bad-name", $"“{text}” is empty or longer than {longest} characters.");

    // ---- calendars ----

    private static async Task<IReadOnlyList<CalendarRow>> Calendars(Who who, Database database, CancellationToken stop)
    {
        if (!who.IsOfOffice) throw Refused.Forbidden("Guests see no calendars.");
        var holidays = (await database.ListAsync(
            "SELECT calendar_id, day, name, left_of_day FROM holiday ORDER BY day",
            r => (Calendar: r.GetGuid(0), Row: Holiday(r, 1)), [], stop)).ToLookup(h => h.Calendar, h => h.Row);
        return await database.ListAsync(
            "SELECT id, name, week::text FROM calendar ORDER BY name",
            r => new CalendarRow(r.GetGuid(0), r.GetString(1), JsonSerializer.Deserialize<DayPart[][]>(r.GetString(2), Act.Json)!, [.. holidays[r.GetGuid(0)]]), [], stop);
    }

    private static async Task<MadeId> AddCalendar(CalendarWanted wanted, Who who, Database database, Schedules schedules, Announcements changes, TimeProvider clock, CancellationToken stop)
    {
        Demand(who);
        var id = Guid.CreateVersion7();
        await WriteAsync(id, true, wanted, who, database, schedules, changes, clock, stop);
        return new MadeId(id);
    }

    private static async Task<IResult> SetCalendar(Guid id, CalendarWanted wanted, Who who, Database database, Schedules schedules, Announcements changes, TimeProvider clock, CancellationToken stop)
    {
        Demand(who);
        await WriteAsync(id, false, wanted, who, database, schedules, changes, clock, stop);
        return TypedResults.NoContent();
    }

    private static async Task<IResult> RemoveCalendar(Guid id, Who who, Database database, Announcements changes, TimeProvider clock, CancellationToken stop)
    {
        Demand(who);
        await using var act = await Act.BeginAsync(database, who.Id, clock.GetUtcNow(), stop);
        // All are locked, so that the last two are not removed at once.
        var names = await act.ListAsync("SELECT id, name FROM calendar ORDER BY id FOR UPDATE", r => (Id: r.GetGuid(0), Name: r.GetString(1)), [], stop);
        if (names.Count < 2 || names.Find(c => c.Id == id) is not { Name: { } name }) throw new Refused(new Refusal("last-calendar", "There is no such calendar, or it is the last one."));
        act.Write("DELETE FROM calendar WHERE id = $1", id);
        await act.AppendAsync(id, OfficeActs.CalendarRemoved, "", new { Name = name }, stop);
        try
        {
            await act.CommitAsync(stop);
        }
        catch (PostgresException e) when (e.SqlState == PostgresErrorCodes.ForeignKeyViolation)
        {
            throw new Refused(new Refusal("calendar-used", "People work by this calendar. Give them another one first."));
        }
        changes.Announce("office", id);
        return TypedResults.NoContent();
    }

    private static async Task WriteAsync(Guid id, bool isNew, CalendarWanted wanted, Who who, Database database, Schedules schedules, Announcements changes, TimeProvider clock, CancellationToken stop)
    {
        if (wanted.Week.Length != 7) throw Refused.Invalid("bad-week", "A week has seven days.");
        foreach (var (day, parts) in wanted.Week.Concat(wanted.Holidays.Select(h => h.Left.ToArray())).Index())
            if (parts.Any(p => p.From < 0 || p.To > 1440 || p.To <= p.From) || parts.OrderBy(p => p.From).Zip(parts.OrderBy(p => p.From).Skip(1)).Any(p => p.Second.From < p.First.To))
                throw Refused.Invalid("bad-hours", $"{(day < 7 ? $"{(DayOfWeek)day}" : wanted.Holidays[day - 7].Name)}: each part of a day ends after it begins, within the day, and before the next begins.");
        if (wanted.Week.All(d => d.Length == 0)) throw Refused.Invalid("no-work", "At least one day of the week is worked.");
        if (wanted.Holidays.Select(h => h.Day).Distinct().Count() < wanted.Holidays.Length) throw Refused.Invalid("holiday-twice", "A holiday is there twice.");
        await using var act = await Act.BeginAsync(database, who.Id, clock.GetUtcNow(), stop);
        if (!isNew)
        {
            var there = await act.ListAsync("SELECT name, week::text FROM calendar WHERE id = $1 FOR UPDATE", r => (Name: r.GetString(0), Week: r.GetString(1)), [id], stop);
            if (there is not [var now]) throw Refused.Missing("calendar");
            if (wanted.Was is { } was && Told(was) != Told(new CalendarWas(now.Name, JsonSerializer.Deserialize<DayPart[][]>(now.Week, Act.Json)!, [.. await HolidaysAsync(act, id, stop)]))) throw Refused.ChangedMeanwhile("this calendar");
        }
        act.Write("INSERT INTO calendar (id, name, week) VALUES ($1, $2, $3::jsonb) ON CONFLICT (id) DO UPDATE SET name = excluded.name, week = excluded.week", id, Name(wanted.Name, 60), JsonSerializer.Serialize(wanted.Week, Act.Json));
        act.Write("DELETE FROM holiday WHERE calendar_id = $1", id);
        foreach (var h in wanted.Holidays)
            act.Write("INSERT INTO holiday (calendar_id, day, name, left_of_day) VALUES ($1, $2, $3, $4)", id, h.Day, Name(h.Name, 80), h.Left.SelectMany(p => new[] { p.From, p.To }).ToArray());
        await act.AppendAsync(id, isNew ? OfficeActs.CalendarMade : OfficeActs.CalendarChanged, "", new { wanted.Name, wanted.Week, wanted.Holidays }, stop);
        try
        {
            await act.CommitAsync(stop);
        }
        catch (PostgresException e) when (e.SqlState == PostgresErrorCodes.UniqueViolation)
        {
            throw new Refused(new Refusal("name-taken", "There is a calendar of this name already. Choose another."));
        }
        schedules.Forget();
        changes.Announce("office", id);

        // Two calendars are the same when they are written the same.
        static string Told(CalendarWas calendar) => JsonSerializer.Serialize(calendar with { Holidays = [.. calendar.Holidays.OrderBy(h => h.Day)] }, Act.Json);
    }

    private static Task<List<HolidayRow>> HolidaysAsync(Act act, Guid calendar, CancellationToken stop) =>
        act.ListAsync("SELECT day, name, left_of_day FROM holiday WHERE calendar_id = $1 ORDER BY day", r => Holiday(r, 0), [calendar], stop);

    private static HolidayRow Holiday(NpgsqlDataReader r, int from) =>
        new(r.GetFieldValue<DateOnly>(from), r.GetString(from + 1), [.. r.GetFieldValue<int[]>(from + 2).Chunk(2).Select(p => new DayPart(p[0], p[1]))]);
}
