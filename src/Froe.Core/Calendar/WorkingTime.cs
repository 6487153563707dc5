using System.Collections.Immutable;
using System.Text.Json.Serialization;

namespace Froe.Core.Calendar;

/// <summary>A stretch of a local day, in minutes from midnight; To is greater than From and at most 1440.</summary>
[method: JsonConstructor]
public readonly record struct DayPart(int From, int To);

/// <summary>A person's time away.</summary>
/// <param name="From">First moment away.</param>
/// <param name="To">First moment back.</param>
public readonly record struct Absence(DateTimeOffset From, DateTimeOffset To);

/// <summary>When people of one place work.</summary>
/// <param name="Zone">The time zone their clocks show.</param>
/// <param name="Week">The working parts of each day, Sunday first (as <see cref="DayOfWeek"/> counts); seven of them.</param>
/// <param name="Exceptions">Days that differ: none for a holiday, fewer parts for a half day.</param>
public sealed record WorkingWeek(TimeZoneInfo Zone, ImmutableArray<ImmutableArray<DayPart>> Week, IReadOnlyDictionary<DateOnly, ImmutableArray<DayPart>> Exceptions)
{
    /// <summary>Monday to Friday, 8:30 to 12:00 and 13:00 to 17:30: eight hours.</summary>
    public static WorkingWeek Usual(TimeZoneInfo zone)
    {
        ImmutableArray<DayPart> day = [new(510, 720), new(780, 1050)];
        return new(zone, [[], day, day, day, day, day, []], new Dictionary<DateOnly, ImmutableArray<DayPart>>());
    }

    /// <summary>The working parts of a local day.</summary>
    public ImmutableArray<DayPart> PartsOf(DateOnly day) => Exceptions.TryGetValue(day, out var parts) ? parts : Week[(int)day.DayOfWeek];

    /// <summary>What "one working day" of allowed time means: the longest day of the week, in minutes.</summary>
    public int MinutesADay => Math.Max(1, Week.Max(d => d.Sum(p => p.To - p.From)));
}

/// <summary>
/// Working time as one line of minutes over a span of days: adding and measuring are two binary searches.
/// Exact across daylight saving: a part of a day that spans a change is as long as the clock on the wall was not.
/// </summary>
public sealed class WorkingTime
{
    private readonly long[] starts;
    private readonly long[] ends;

    /// <summary>Working ticks before each stretch; one more than there are stretches.</summary>
    private readonly long[] before;

    /// <summary>Lays out a span of local days.</summary>
    /// <param name="week">When the place works.</param>
    /// <param name="from">First local day.</param>
    /// <param name="days">How many days; adding beyond them gives the end of the last.</param>
    /// <param name="absences">Time away, in any order; none counts as working.</param>
    public WorkingTime(WorkingWeek week, DateOnly from, int days, IEnumerable<Absence>? absences = null)
    {
        ArgumentNullException.ThrowIfNull(week);
        var stretches = new List<(long From, long To)>();
        for (var i = 0; i < days; i++)
        {
            var day = from.AddDays(i);
            foreach (var part in week.PartsOf(day))
            {
                long a = Instant(week.Zone, day, part.From), b = Instant(week.Zone, day, part.To);
                if (b > a) stretches.Add((a, b));
            }
        }
        foreach (var away in absences ?? []) stretches = [.. stretches.SelectMany(s => Without(s, away.From.UtcTicks, away.To.UtcTicks))];
        (starts, ends) = ([.. stretches.Select(s => s.From)], [.. stretches.Select(s => s.To)]);
        before = new long[starts.Length + 1];
        for (var i = 0; i < starts.Length; i++) before[i + 1] = before[i] + ends[i] - starts[i];
    }

    /// <summary>The instant at which so much working time has gone by since <paramref name="from"/>.</summary>
    public DateTimeOffset Add(DateTimeOffset from, TimeSpan time)
    {
        if (starts.Length == 0) return from + time;
        var wanted = Elapsed(from.UtcTicks) + time.Ticks;
        // The first stretch that reaches it: work that ends with a day ends that evening, not the next morning.
        var low = 0;
        var high = starts.Length - 1;
        while (low < high)
        {
            var middle = (low + high) / 2;
            if (before[middle + 1] >= wanted) high = middle;
            else low = middle + 1;
        }
        var at = Math.Min(ends[low], starts[low] + (wanted - before[low]));
        // No time at all from a moment outside working hours is that moment itself.
        return new DateTimeOffset(time <= TimeSpan.Zero ? from.UtcTicks : Math.Max(at, from.UtcTicks), TimeSpan.Zero);
    }

    /// <summary>The latest instant from which so much working time goes by until <paramref name="to"/>; no earlier than the first day laid out.</summary>
    public DateTimeOffset Back(DateTimeOffset to, TimeSpan time)
    {
        if (starts.Length == 0) return to - time;
        var wanted = Elapsed(to.UtcTicks) - time.Ticks;
        // The last stretch that begins before it: a day before Monday morning's end is Friday, not Saturday.
        var low = 0;
        var high = starts.Length - 1;
        while (low < high)
        {
            var middle = (low + high + 1) / 2;
            if (before[middle] <= wanted) low = middle;
            else high = middle - 1;
        }
        return new DateTimeOffset(Math.Min(to.UtcTicks, Math.Max(starts[0], Math.Min(ends[low], starts[low] + (wanted - before[low])))), TimeSpan.Zero);
    }

    /// <summary>Working time between two instants; negative when the second is earlier.</summary>
    public TimeSpan Between(DateTimeOffset from, DateTimeOffset to) => TimeSpan.FromTicks(Elapsed(to.UtcTicks) - Elapsed(from.UtcTicks));

    private long Elapsed(long at)
    {
        var i = Array.BinarySearch(starts, at);
        if (i < 0) i = ~i - 1;
        return i < 0 ? 0 : before[i] + Math.Min(at, ends[i]) - starts[i];
    }

    /// <summary>What is left of a stretch when another is taken out.</summary>
    private static IEnumerable<(long From, long To)> Without((long From, long To) stretch, long from, long to)
    {
        if (to <= stretch.From || from >= stretch.To || to <= from) return [stretch];
        (long From, long To)[] left = [(stretch.From, from), (to, stretch.To)];
        return left.Where(s => s.To > s.From);
    }

    /// <summary>The instant of a local time. A time the clocks skip is the instant they jump at; of a time they show twice, the first.</summary>
    private static long Instant(TimeZoneInfo zone, DateOnly day, int minute)
    {
        var local = day.ToDateTime(TimeOnly.MinValue).AddMinutes(minute);
        while (zone.IsInvalidTime(local)) local = local.AddMinutes(1);
        var offset = zone.IsAmbiguousTime(local) ? zone.GetAmbiguousTimeOffsets(local).Max() : zone.GetUtcOffset(local);
        return (local - offset).Ticks;
    }
}
