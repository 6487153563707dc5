namespace Froe.Core.Calendar;

/// <summary>When people work: Monday to Friday in one time zone, less the holidays.</summary>
/// <param name="Zone">The time zone the working day is counted in.</param>
/// <param name="Holidays">Days on which nobody works.</param>
public sealed record WorkingCalendar(TimeZoneInfo Zone, IReadOnlySet<DateOnly> Holidays)
{
    /// <summary>The hour of the local day until which work due "that day" may be done.</summary>
    private static readonly TimeOnly Close = new(17, 0);

    /// <summary>The instant by which work is due that opens at <paramref name="opened"/> and may take <paramref name="days"/> working days.</summary>
    /// <remarks>
    /// Counting starts with the first working day after the day of opening; a part of a day rounds up.
    /// The due time is the close of business, local time, so a daylight-saving change moves the instant, not the hour.
    /// </remarks>
    public DateTimeOffset Due(DateTimeOffset opened, decimal days)
    {
        ArgumentOutOfRangeException.ThrowIfNegativeOrZero(days);
        var day = DateOnly.FromDateTime(TimeZoneInfo.ConvertTime(opened, Zone).DateTime);
        for (var left = (int)Math.Ceiling(days); left > 0;)
        {
            day = day.AddDays(1);
            if (IsWorkingDay(day)) left--;
        }
        var local = day.ToDateTime(Close);
        return new DateTimeOffset(local, Zone.GetUtcOffset(local)).ToUniversalTime();
    }

    /// <summary>Whole working days from one instant's local day to another's: 0 on the same day, negative when late.</summary>
    public int DaysBetween(DateTimeOffset from, DateTimeOffset to)
    {
        var a = DateOnly.FromDateTime(TimeZoneInfo.ConvertTime(from, Zone).DateTime);
        var b = DateOnly.FromDateTime(TimeZoneInfo.ConvertTime(to, Zone).DateTime);
        var sign = a <= b ? 1 : -1;
        if (sign < 0) (a, b) = (b, a);
        var count = 0;
        for (var day = a.AddDays(1); day <= b; day = day.AddDays(1))
            if (IsWorkingDay(day)) count++;
        return sign * count;
    }

    private bool IsWorkingDay(DateOnly day) =>
        day.DayOfWeek is not (DayOfWeek.Saturday or DayOfWeek.Sunday) && !Holidays.Contains(day);
}
