using System.Collections.Immutable;
using System.Text.Json;
using Froe.Core.Calendar;
using Froe.Core.Routing;
using Froe.Store;
using Microsoft.Extensions.Options;

namespace Froe.Server.Absences;

/// <summary>
/// When people work: the office's week, its holidays, each person's time zone and absences. What is read is kept for half a
/// minute, or until any server says that an absence or a calendar changed; who may sign is read anew every time.
/// </summary>
public sealed class Schedules(Database database, IOptions<Settings> settings, TimeProvider clock)
{
    private static readonly TimeSpan Fresh = TimeSpan.FromSeconds(30);
    private readonly Remembered<Guid, (DateTimeOffset Read, DateOnly From, Worker Worker, WorkingWeek Week)> kept = new();

    /// <summary>Working time of a calendar in a zone, shared by everybody there: two years of minutes are not laid out for each person.</summary>
    private readonly Remembered<(string Zone, Guid Calendar), (DateTimeOffset Read, DateOnly From, WorkingTime Time, WorkingWeek Week)> laid = new();

    /// <summary>Days that are laid out: from two months before today.</summary>
    private const int DaysBefore = 60, DaysLaidOut = 800;

    /// <summary>Forgets what was read: an absence, a calendar or a person has changed.</summary>
    public void Forget()
    {
        kept.Forget();
        laid.Forget();
    }

    /// <summary>Counts for a person how far off due times are, by their own calendar and clock.</summary>
    public async Task<Func<DateTimeOffset, TimeLeft>> LeftForAsync(Guid person, CancellationToken stop)
    {
        var now = clock.GetUtcNow();
        var worker = (await WorkersAsync([person], stop))[person];
        // Forgotten between the two, it is read once more.
        if (!kept.TryGet(person, out var known) || known.Worker != worker) return await LeftForAsync(person, stop);
        return due => TimeLeft.Of(known.Week, now, due);
    }

    /// <summary>When a person can work.</summary>
    public Task<IReadOnlyDictionary<Guid, Worker>> WorkersAsync(IEnumerable<Guid> people, CancellationToken stop) => WorkersAsync(database, people, stop);

    /// <summary>When a person can work, read through an act under way.</summary>
    public async Task<IReadOnlyDictionary<Guid, Worker>> WorkersAsync(IReads reads, IEnumerable<Guid> people, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(reads);
        var wanted = people.Distinct().ToList();
        var (before, laidBefore) = (kept.Before, laid.Before);
        var now = clock.GetUtcNow();
        var from = DateOnly.FromDateTime(now.UtcDateTime).AddDays(-DaysBefore);
        // Gathered here, not read back from what is kept: that may be forgotten at any moment.
        var workers = new Dictionary<Guid, Worker>();
        foreach (var person in wanted)
            if (kept.TryGet(person, out var known) && known.Read + Fresh > now && known.From == from) workers[person] = known.Worker;
        var missing = wanted.Where(p => !workers.ContainsKey(p)).ToArray();
        if (missing.Length > 0)
        {
            var weeks = await WeeksAsync(reads, stop);
            var places = (await reads.ListAsync("SELECT id, time_zone, calendar_id FROM person WHERE id = ANY ($1)", r => (Id: r.GetGuid(0), Zone: r.GetString(1), Calendar: r.IdOrNull(2)), [missing], stop)).ToDictionary(z => z.Id);
            var away = (await reads.ListAsync(
                "SELECT person_id, away_from, back_at FROM absence WHERE person_id = ANY ($1) AND deputy IS NULL AND back_at > now() - interval '90 days'",
                r => (Person: r.GetGuid(0), Absence: new Absence(r.Time(1), r.Time(2))), [missing], stop)).ToLookup(a => a.Person, a => a.Absence);
            foreach (var person in missing)
            {
                var place = places.GetValueOrDefault(person);
                var zone = TimeZoneInfo.TryFindSystemTimeZoneById(place.Zone ?? settings.Value.TimeZone, out var found) ? found : TimeZoneInfo.Utc;
                var (calendar, days, holidays) = weeks.Find(w => w.Calendar == place.Calendar) is { Days.IsDefault: false } own ? own : weeks[0];
                if (!laid.TryGet((zone.Id, calendar), out var there) || there.Read + Fresh <= now || there.From != from)
                {
                    var usual = new WorkingWeek(zone, days, holidays);
                    there = (now, from, new WorkingTime(usual, from, DaysLaidOut), usual);
                    laid.Keep((zone.Id, calendar), there, laidBefore);
                }
                var week = there.Week;
                var always = there.Time;
                var time = away[person].Any() ? new WorkingTime(week, from, DaysLaidOut, away[person]) : always;
                workers[person] = new Worker(time, always, week.MinutesADay);
                kept.Keep(person, (now, from, workers[person], week), before);
            }
        }
        return workers;
    }

    /// <summary>Working minutes that each step of a plan took, the latest two hundred passages of each.</summary>
    public async Task<IReadOnlyDictionary<string, ImmutableArray<double>>> PastAsync(Guid plan, IEnumerable<string> steps, Worker office, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(office);
        var rows = await database.ListAsync(
            """
            SELECT s.step, p.opened_at, p.passed_at FROM unnest($2::text[]) AS s (step), LATERAL (
                SELECT opened_at, passed_at FROM step_passage
                WHERE plan_id = $1 AND step = s.step AND passed_at IS NOT NULL AND passed_at > now() - interval '2 years' ORDER BY passed_at DESC LIMIT 200) p
            """,
            r => (Step: r.GetString(0), Minutes: office.Always.Between(r.Time(1), r.Time(2)).TotalMinutes), [plan, steps.ToArray()], stop);
        return rows.GroupBy(r => r.Step).ToDictionary(g => g.Key, g => g.Select(r => Math.Max(1, r.Minutes)).ToImmutableArray());
    }

    /// <summary>Every calendar's week and the days that differ, the office's own first.</summary>
    private async Task<List<(Guid Calendar, ImmutableArray<ImmutableArray<DayPart>> Days, Dictionary<DateOnly, ImmutableArray<DayPart>> Holidays)>> WeeksAsync(IReads reads, CancellationToken stop)
    {
        var holidays = (await reads.ListAsync(
            "SELECT calendar_id, day, left_of_day FROM holiday", r => (Calendar: r.GetGuid(0), Day: r.GetFieldValue<DateOnly>(1), Left: r.GetFieldValue<int[]>(2)), [], stop)).ToLookup(h => h.Calendar);
        return await reads.ListAsync(
            "SELECT id, week::text FROM calendar ORDER BY name <> 'Office', name",
            r => (r.GetGuid(0), JsonSerializer.Deserialize<ImmutableArray<ImmutableArray<DayPart>>>(r.GetString(1), Act.Json), holidays[r.GetGuid(0)].ToDictionary(h => h.Day, h => h.Left.Chunk(2).Where(p => p.Length == 2 && p[1] > p[0]).Select(p => new DayPart(p[0], p[1])).ToImmutableArray())),
            [], stop);
    }

    /// <summary>Who stands in for whom at a moment: the absent person, then the deputy. The one rule for desks, lists and signing is the function it asks.</summary>
    public const string StandInsSql = "SELECT person_id, deputy FROM stand_ins($1)";

    /// <summary>The day it is in the office.</summary>
    public DateOnly Today() => DateOnly.FromDateTime(TimeZoneInfo.ConvertTime(clock.GetUtcNow(), TimeZoneInfo.TryFindSystemTimeZoneById(settings.Value.TimeZone, out var found) ? found : TimeZoneInfo.Utc).DateTime);

    /// <summary>Who stands in for whom at the moment of an act: the deputy by the absent person.</summary>
    public static Task<IReadOnlyDictionary<Guid, Guid>> DeputiesAsync(Act act, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(act);
        return DeputiesAsync(act, act.At, stop);
    }

    /// <summary>Which of some people are away at a moment, with a deputy or without.</summary>
    public static async Task<IReadOnlySet<Guid>> AwayAsync(IReads reads, IEnumerable<Guid> people, DateTimeOffset at, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(reads);
        return (await reads.ListAsync("SELECT person_id FROM absence WHERE person_id = ANY ($1) AND away_from <= $2 AND back_at > $2 UNION SELECT id FROM person WHERE id = ANY ($1) AND barred_at IS NOT NULL", r => r.GetGuid(0), [people.ToArray(), at.UtcDateTime], stop)).ToHashSet();
    }

    /// <summary>Who stands in for whom at a moment.</summary>
    public static async Task<IReadOnlyDictionary<Guid, Guid>> DeputiesAsync(IReads reads, DateTimeOffset at, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(reads);
        return (await reads.ListAsync(StandInsSql, r => (r.GetGuid(0), r.GetGuid(1)), [at.UtcDateTime], stop)).ToDictionary(r => r.Item1, r => r.Item2);
    }
}
