using System.Collections.Immutable;
using System.Globalization;
using CsCheck;
using Froe.Core.Calendar;
using Froe.Core.Routing;
using Xunit;
using Parallel = Froe.Core.Routing.Parallel;

namespace Froe.Core.Tests;

/// <summary>Working time and forecasts worked by hand.</summary>
public class TimeTables
{
    private static readonly Guid A = new(1, 0, 0, new byte[8]), B = new(2, 0, 0, new byte[8]), C = new(3, 0, 0, new byte[8]);

    private static DateTimeOffset At(string iso) => DateTimeOffset.Parse(iso, CultureInfo.InvariantCulture);

    private static WorkingWeek Week(string zone, params (string Day, DayPart[] Parts)[] exceptions) => WorkingWeek.Usual(TimeZoneInfo.FindSystemTimeZoneById(zone)) with
    {
        Exceptions = exceptions.ToDictionary(e => DateOnly.Parse(e.Day, CultureInfo.InvariantCulture), e => e.Parts.ToImmutableArray()),
    };

    private static WorkingTime Time(WorkingWeek week, params Absence[] away) => new(week, new DateOnly(2026, 1, 1), 800, away);

    [Theory]
    // Monday to Friday, 8:30 to 12:00 and 13:00 to 17:30, in Oslo.
    [InlineData("2026-11-23T09:00+01:00", 2, "2026-11-23T11:00+01:00")]
    [InlineData("2026-11-23T11:00+01:00", 2, "2026-11-23T14:00+01:00")] // over lunch
    [InlineData("2026-11-23T16:30+01:00", 2, "2026-11-24T09:30+01:00")] // over night
    [InlineData("2026-11-27T16:30+01:00", 2, "2026-11-30T09:30+01:00")] // over the weekend
    [InlineData("2026-11-28T10:00+01:00", 8, "2026-11-30T17:30+01:00")] // sent on Saturday: the whole of Monday
    [InlineData("2026-11-23T08:30+01:00", 8, "2026-11-23T17:30+01:00")] // a day's work ends that evening
    [InlineData("2026-12-23T16:30+01:00", 2, "2026-12-24T09:30+01:00")]
    [InlineData("2026-12-24T11:00+01:00", 2, "2026-12-28T09:30+01:00")] // half day, then two holidays (Friday) and a weekend
    [InlineData("2026-03-27T16:30+01:00", 2, "2026-03-30T09:30+02:00")] // clocks go forward on Sunday
    [InlineData("2026-10-23T16:30+02:00", 2, "2026-10-26T09:30+01:00")] // clocks go back on Sunday
    public void WorkingTimeIsAdded(string from, double hours, string to) => Assert.Equal(
        At(to).ToUniversalTime(),
        Time(Week("Europe/Oslo", ("2026-12-24", [new DayPart(510, 720)]), ("2026-12-25", []))).Add(At(from), TimeSpan.FromHours(hours)));

    [Fact]
    public void ANightShiftAcrossTheChangeOfClocksIsAsLongAsItReallyWas()
    {
        ImmutableArray<DayPart> night = [new(0, 360)];
        var week = new WorkingWeek(TimeZoneInfo.FindSystemTimeZoneById("Europe/Oslo"), [night, night, night, night, night, night, night], new Dictionary<DateOnly, ImmutableArray<DayPart>>());
        var time = new WorkingTime(week, new DateOnly(2026, 1, 1), 365);
        // Midnight to six: five hours when the clock jumps from two to three, seven when it shows the hour from two to three twice.
        Assert.Equal(TimeSpan.FromHours(5), time.Between(At("2026-03-29T00:00+01:00"), At("2026-03-29T12:00+02:00")));
        Assert.Equal(TimeSpan.FromHours(7), time.Between(At("2026-10-25T00:00+02:00"), At("2026-10-25T12:00+01:00")));
        Assert.Equal(TimeSpan.FromHours(6), time.Between(At("2026-06-01T00:00+02:00"), At("2026-06-01T12:00+02:00")));
    }

    [Theory]
    // The same moment, Monday 16:00 in Oslo, four hours of work: Oslo has an hour and a half left, Denver begins half an hour later, Tokyo is asleep.
    [InlineData("Europe/Oslo", "2026-11-24T10:00+01:00")]
    [InlineData("America/Denver", "2026-11-23T13:30-07:00")]
    [InlineData("Asia/Tokyo", "2026-11-24T13:30+09:00")]
    public void PeopleInDifferentZonesFinishAtDifferentTimes(string zone, string to) =>
        Assert.Equal(At(to).ToUniversalTime(), Time(Week(zone)).Add(At("2026-11-23T16:00+01:00"), TimeSpan.FromHours(zone == "Europe/Oslo" ? 3 : 4)));

    [Fact]
    public void AnAbsenceIsCutOutToTheMinute()
    {
        var time = Time(Week("Europe/Oslo"), new Absence(At("2026-11-23T10:00+01:00"), At("2026-11-23T11:00+01:00")), new Absence(At("2026-11-24T00:00+01:00"), At("2026-11-26T00:00+01:00")));
        Assert.Equal(At("2026-11-23T11:30+01:00").ToUniversalTime(), time.Add(At("2026-11-23T09:30+01:00"), TimeSpan.FromHours(1)));
        Assert.Equal(At("2026-11-26T09:30+01:00").ToUniversalTime(), time.Add(At("2026-11-23T16:30+01:00"), TimeSpan.FromHours(2)));
    }

    [Fact]
    public void AddingWhatIsBetweenComesBack()
    {
        var time = Time(Week("Europe/Oslo", ("2026-12-24", [new DayPart(510, 720)])), new Absence(At("2026-06-01T00:00Z"), At("2026-06-20T00:00Z")));
        Gen.Select(Gen.Int[0, 400_000], Gen.Int[1, 60_000]).Sample(t =>
        {
            var from = At("2026-01-05T00:00Z").AddMinutes(t.Item1);
            var work = TimeSpan.FromMinutes(t.Item2);
            Assert.Equal(work, time.Between(from, time.Add(from, work)));
        }, iter: 5000);
    }

    // ---- forecasts ----

    private static readonly DateTimeOffset Monday = At("2026-11-23T08:30+01:00");

    private static Worker Worker(params Absence[] away) => new(Time(Week("Europe/Oslo"), away), Time(Week("Europe/Oslo")), 480);

    private static Step Step(string key, decimal days, params Guid[] people) => new(key, key, "", days, [.. people.Select((p, i) => new Seat($"{key}{i}", key, new PersonHolder(p)))]);

    private static ForecastInput Input(Plan plan, Dictionary<Guid, Worker>? workers = null, Dictionary<string, ImmutableArray<double>>? past = null) => new(
        plan, [.. plan.Seats().Select(s => s.Seat.Holder is GroupHolder g ? new FilledSeat(s.Seat.Key, [A, B, C], g.Needed) : new FilledSeat(s.Seat.Key, [((PersonHolder)s.Seat.Holder).Person], 1))],
        PackageFacts.None, Monday, p => workers?.GetValueOrDefault(p) ?? Worker(), past ?? []);

    [Fact]
    public void AllowedTimesGiveDatesAndTheCriticalPath()
    {
        var plan = new Plan("P", "", new Sequence([Step("check", 1, A), new Parallel([new Sequence([Step("long", 3, A)]), new Sequence([Step("short", 2, B)])]), Step("chief", 0.5m, C)]));
        var forecast = Forecast.Of(Input(plan), 1000, 1);
        Assert.Equal(0, forecast.Runs);
        Assert.Null(forecast.Half);
        Assert.Equal(["check", "long", "chief"], forecast.Steps.Where(s => s.IsCritical).Select(s => s.Step));
        Assert.Equal(At("2026-11-26T17:30+01:00").ToUniversalTime(), forecast.Steps[1].Finishes);
        Assert.Equal(At("2026-11-25T17:30+01:00").ToUniversalTime(), forecast.Steps[2].Finishes);
        Assert.Equal(At("2026-11-27T13:30+01:00").ToUniversalTime(), forecast.Finishes);
    }

    [Fact]
    public void TwoOfThreeWaitForTheSecondAndAStallNamesWhoIsAway()
    {
        var plan = new Plan("P", "", new Sequence([new Step("lift", "lift", "", 1, [new Seat("s", "Lifting", new GroupHolder(Guid.NewGuid(), 2))])]));
        var away = Worker(new Absence(At("2026-11-20T00:00Z"), At("2026-11-30T00:00Z")));
        var input = Input(plan, new() { [B] = away, [C] = away });
        var forecast = Forecast.Of(input, 10, 1);
        Assert.Equal(At("2026-11-30T17:30+01:00").ToUniversalTime(), forecast.Finishes);
        var stall = Assert.Single(StallCheck.Of(input, forecast));
        Assert.Equal([B, C], stall.Away.Order());
        Assert.Equal([(RemedyKind.NameDeputy, B), (RemedyKind.NameDeputy, C)], stall.Remedies.Take(2).Select(r => (r.Kind, r.Person!.Value)));
        Assert.Empty(StallCheck.Of(Input(plan, new() { [B] = away }), Forecast.Of(Input(plan, new() { [B] = away }), 10, 1)));
    }

    [Fact]
    public void RangesComeFromThePastAndTheSameSeedGivesThemAgain()
    {
        var plan = new Plan("P", "", new Sequence([Step("check", 5, A)]));
        // Nine in ten took an hour, one took 24 hours of work.
        var past = new Dictionary<string, ImmutableArray<double>> { ["check"] = [60, 60, 60, 60, 60, 60, 60, 60, 60, 1440] };
        var forecast = Forecast.Of(Input(plan, past: past), 10_000, 7);
        Assert.Equal((10_000, 10), (forecast.Runs, forecast.Samples));
        Assert.Equal(At("2026-11-23T09:30+01:00").ToUniversalTime(), forecast.Half);
        Assert.True(forecast.NineTenths <= At("2026-11-25T17:30+01:00"));
        Assert.Equal(forecast.NineTenths, Forecast.Of(Input(plan, past: past), 10_000, 7).NineTenths);
        // Two samples say nothing.
        Assert.Equal(0, Forecast.Of(Input(plan, past: new() { ["check"] = [60, 60] }), 10_000, 7).Runs);
    }

    [Fact]
    public void AStepThatUsuallyTakesLongerThanItAllowsIsOverItsTimeBeforeItBegins()
    {
        var plan = new Plan("P", "", new Sequence([Step("check", 1, A)]));
        // Half of the past took 600 working minutes or more: a day and a quarter, so a day and a half is proposed.
        var input = Input(plan, past: new() { ["check"] = [480, 600, 900] });
        var stall = Assert.Single(StallCheck.Of(input, Forecast.Of(input, 100, 1)));
        Assert.Equal(("slow", RemedyKind.AllowTime, 1.5m), (stall.Code, stall.Remedies[0].Kind, stall.Remedies[0].Days!.Value));
        Assert.Contains("It allows 1 working day, and in half of 3 past packages it took 1.5 or more", stall.Says, StringComparison.Ordinal);
        var swift = Input(plan, past: new() { ["check"] = [60, 480, 900] });
        Assert.Empty(StallCheck.Of(swift, Forecast.Of(swift, 100, 1)));
    }
}
