using System.Collections.Immutable;
using Froe.Core.Calendar;
using Xunit;

namespace Froe.Core.Tests;

/// <summary>Working days left, worked by hand on the calendar of November and December 2026.</summary>
public class TimeLeftTables
{
    private static readonly TimeZoneInfo Oslo = TimeZoneInfo.FindSystemTimeZoneById("Europe/Oslo");

    /// <summary>Monday to Friday; 25 December is free.</summary>
    private static readonly WorkingWeek Office = WorkingWeek.Usual(Oslo) with { Exceptions = new Dictionary<DateOnly, ImmutableArray<DayPart>> { [new(2026, 12, 25)] = [] } };

    /// <summary>Monday 23 November, noon in Oslo.</summary>
    private static readonly DateTimeOffset Monday = new(2026, 11, 23, 12, 0, 0, TimeSpan.FromHours(1));

    private static DateTimeOffset At(string local) => new(DateTime.Parse(local, System.Globalization.CultureInfo.InvariantCulture), TimeSpan.FromHours(1));

    [Theory]
    [InlineData("2026-11-23 17:00", 0, true, false)]
    [InlineData("2026-11-23 09:00", 0, true, true)]
    [InlineData("2026-11-24 09:00", 1, false, false)]
    [InlineData("2026-11-27 09:00", 4, false, false)]
    [InlineData("2026-11-28 09:00", 4, false, false)]
    [InlineData("2026-11-30 09:00", 5, false, false)]
    [InlineData("2026-11-20 17:00", -1, false, true)]
    [InlineData("2026-11-21 17:00", -1, false, true)]
    [InlineData("2026-11-16 09:00", -5, false, true)]
    [InlineData("2026-12-24 09:00", 23, false, false)]
    [InlineData("2026-12-25 09:00", 23, false, false)]
    [InlineData("2026-12-28 09:00", 24, false, false)]
    public void DaysAreCountedByTheWeekAndItsFreeDays(string due, int days, bool isToday, bool isLate) =>
        Assert.Equal(new TimeLeft(days, isToday, isLate), TimeLeft.Of(Office, Monday, At(due)));

    [Fact]
    public void WhatIsDueAtAWeekendIsNotOverBeforeAWorkingDayHasPassed()
    {
        var sunday = At("2026-11-29 12:00");
        Assert.Equal(new TimeLeft(0, false, true), TimeLeft.Of(Office, sunday, At("2026-11-28 09:00")));
        Assert.Equal(new TimeLeft(-1, false, true), TimeLeft.Of(Office, At("2026-11-30 12:00"), At("2026-11-28 09:00")));
    }

    [Fact]
    public void TheDayIsThatOfWhoeverLooks()
    {
        // 23:30 in Oslo is the next day in Tokyo.
        var late = At("2026-11-23 23:30");
        var tokyo = WorkingWeek.Usual(TimeZoneInfo.FindSystemTimeZoneById("Asia/Tokyo"));
        Assert.False(TimeLeft.Of(tokyo, Monday, late).IsToday);
        Assert.Equal(1, TimeLeft.Of(tokyo, Monday, late).Days);
        Assert.True(TimeLeft.Of(Office, Monday, late).IsToday);
    }

    [Fact]
    public void WhatIsVeryFarOffIsCountedNoFurther() => Assert.InRange(TimeLeft.Of(Office, Monday, Monday.AddYears(900)).Days, 1000, 2000);
}
