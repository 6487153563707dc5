using System.Collections.Immutable;
using System.Globalization;
using CsCheck;
using Froe.Core.Calendar;
using Froe.Core.Routing;
using Xunit;

namespace Froe.Core.Tests;

/// <summary>When people are reminded, told and written to, worked by hand.</summary>
public class PostTables
{
    private static readonly TimeZoneInfo Oslo = TimeZoneInfo.FindSystemTimeZoneById("Europe/Oslo");

    private static readonly WorkingTime Time = new(
        WorkingWeek.Usual(Oslo) with { Exceptions = new Dictionary<DateOnly, ImmutableArray<DayPart>> { [new(2026, 12, 24)] = [new(510, 720)], [new(2026, 12, 25)] = [] } }, new DateOnly(2026, 1, 1), 800);

    private static readonly Worker Worker = new(Time, Time, 480);

    private static DateTimeOffset At(string iso) => DateTimeOffset.Parse(iso, CultureInfo.InvariantCulture);

    [Theory]
    [InlineData("2026-11-24T11:00+01:00", 2, "2026-11-24T09:00+01:00")]
    [InlineData("2026-11-24T14:00+01:00", 2, "2026-11-24T11:00+01:00")] // over lunch
    [InlineData("2026-11-24T09:30+01:00", 2, "2026-11-23T16:30+01:00")] // over night
    [InlineData("2026-11-30T09:30+01:00", 2, "2026-11-27T16:30+01:00")] // over the weekend
    [InlineData("2026-12-28T09:30+01:00", 2, "2026-12-24T11:00+01:00")] // over a holiday and a half day
    [InlineData("2026-11-29T12:00+01:00", 1, "2026-11-27T16:30+01:00")] // from a Sunday
    [InlineData("2026-03-30T09:30+02:00", 2, "2026-03-27T16:30+01:00")] // clocks went forward
    public void WorkingTimeIsTakenBack(string to, double hours, string from) => Assert.Equal(At(from).ToUniversalTime(), Time.Back(At(to), TimeSpan.FromHours(hours)));

    [Fact]
    public void BackAndForthIsTheSameAmountOfWork() => Gen.Select(Gen.Int[200_000, 500_000], Gen.Int[1, 30_000]).Sample(t =>
    {
        var to = At("2026-01-05T00:00Z").AddMinutes(t.Item1);
        Assert.Equal(TimeSpan.FromMinutes(t.Item2), Time.Between(Time.Back(to, TimeSpan.FromMinutes(t.Item2)), to));
    }, iter: 5000);

    private static Step Step(int[] reminders, params int[] late) => new("s", "Sign", "", 3, [])
    {
        Reminders = [.. reminders],
        Tells = [.. late.Select(d => new Telling(Moment.Late, [], [], true) { AfterDays = d }), new Telling(Moment.Passage, [], [], true)],
    };

    [Fact]
    public void RemindersComeBeforeTheDueTimeAndTheNextPersonIsToldAfterIt()
    {
        // Due on Wednesday evening: a day before is Wednesday morning, when people are there to read it, not Tuesday evening.
        var (since, due) = (At("2026-11-23T08:30+01:00"), At("2026-11-25T17:30+01:00"));
        var nudges = Lateness.Of(Step([1, 2], 0, 2), since, due, Worker);
        Assert.Equal(
            [(At("2026-11-24T08:30+01:00").ToUniversalTime(), false, 2), (At("2026-11-25T08:30+01:00").ToUniversalTime(), false, 1), (due.ToUniversalTime(), true, 0), (At("2026-11-27T17:30+01:00").ToUniversalTime(), true, 2)],
            nudges.Select(n => (n.At.ToUniversalTime(), n.IsLate, n.Days)));
        Assert.Equal(nudges[2], Lateness.Next(nudges, At("2026-11-25T10:00Z")));
        Assert.Null(Lateness.Next(nudges, At("2026-12-01T00:00Z")));
        // A reminder that would come before the step opened is none; being late is told of in any case.
        Assert.Equal([1, 0], Lateness.Of(Step([1, 5]), since, due, Worker).Select(n => n.Days));
    }

    [Theory]
    [InlineData(MailMode.AtOnce, 0, 0, 0, "2026-11-23T12:00+01:00", "2026-11-23T12:00+01:00")]
    [InlineData(MailMode.AtOnce, 0, 1140, 420, "2026-11-23T12:00+01:00", "2026-11-23T12:00+01:00")] // quiet from 19 to 7
    [InlineData(MailMode.AtOnce, 0, 1140, 420, "2026-11-23T19:00+01:00", "2026-11-24T07:00+01:00")]
    [InlineData(MailMode.AtOnce, 0, 1140, 420, "2026-11-24T06:59+01:00", "2026-11-24T07:00+01:00")]
    [InlineData(MailMode.AtOnce, 0, 720, 780, "2026-11-24T12:30+01:00", "2026-11-24T13:00+01:00")] // a quiet lunch
    [InlineData(MailMode.Daily, 450, 0, 0, "2026-11-23T07:00+01:00", "2026-11-23T07:30+01:00")]
    [InlineData(MailMode.Daily, 450, 0, 0, "2026-11-23T07:30+01:00", "2026-11-24T07:30+01:00")]
    [InlineData(MailMode.Daily, 150, 0, 0, "2026-03-28T12:00+01:00", "2026-03-29T03:00+02:00")] // 2:30 is skipped that night
    [InlineData(MailMode.None, 0, 0, 0, "2026-11-23T12:00+01:00", null)]
    public void MailGoesOutWhenItsReaderWantsIt(MailMode mode, int digest, int from, int to, string now, string? goes) =>
        Assert.Equal(goes is null ? null : At(goes).ToUniversalTime(), new PostHours(mode, digest, from, to).Next(At(now), Oslo)?.ToUniversalTime());

    /// <summary>Whatever the step: reminders fall between opening and due time, what is late after it, all in order, and each is met once by asking for the next.</summary>
    [Fact]
    public void NudgesComeInOrderAndEachOnce() => Gen.Select(Gen.Int[0, 200_000], Gen.Int[1, 4000], Gen.Int[0, 9].Array[0, 4], Gen.Int[0, 9].Array[0, 4]).Sample(t =>
    {
        var since = At("2026-02-02T00:00Z").AddMinutes(t.Item1);
        var due = Time.Add(since, TimeSpan.FromMinutes(t.Item2));
        var nudges = Lateness.Of(Step(t.Item3, t.Item4), since, due, Worker);
        Assert.Equal(nudges.OrderBy(n => n.At), nudges);
        Assert.All(nudges, n => Assert.True(n.IsLate ? n.At >= due : n.At > since && n.At < due));
        Assert.Contains(nudges, n => n is { IsLate: true, Days: 0 });
        var met = new List<Nudge>();
        for (var at = since; Lateness.Next(nudges, at) is { } next; at = next.At) met.Add(next);
        Assert.Equal(nudges.Select(n => n.At).Distinct(), met.Select(n => n.At));
    }, iter: 3000);
}
