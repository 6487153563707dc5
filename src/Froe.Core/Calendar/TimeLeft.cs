namespace Froe.Core.Calendar;

/// <summary>How far off a due time is, as people say it: in working days of whoever looks.</summary>
/// <param name="Days">Working days after today up to the day it is due: 0 today, and where only free days lie between; negative when that day has passed.</param>
/// <param name="IsToday">Whether it is due on this day of theirs.</param>
/// <param name="IsLate">Whether the time has passed; what is due later today is not late.</param>
public sealed record TimeLeft(int Days, bool IsToday, bool IsLate)
{
    /// <summary>Beyond this many days nobody counts; what is so far off is told by its date.</summary>
    private const int Most = 2000;

    /// <summary>Counts by a working week: its zone says which day it is, its parts which days are worked.</summary>
    public static TimeLeft Of(WorkingWeek week, DateTimeOffset now, DateTimeOffset due)
    {
        ArgumentNullException.ThrowIfNull(week);
        DateOnly today = DayOf(week, now), day = DayOf(week, due);
        var (from, to) = today <= day ? (today, day) : (day, today);
        var days = 0;
        for (var i = 1; i <= Math.Min(Most, to.DayNumber - from.DayNumber); i++)
            if (!week.PartsOf(from.AddDays(i)).IsEmpty) days++;
        return new TimeLeft(today <= day ? days : -days, today == day, due < now);
    }

    private static DateOnly DayOf(WorkingWeek week, DateTimeOffset at) => DateOnly.FromDateTime(TimeZoneInfo.ConvertTime(at, week.Zone).DateTime);
}
