using System.Collections.Immutable;
using System.Diagnostics;
using Froe.Core.Calendar;
using Froe.Core.Routing;
using Parallel = Froe.Core.Routing.Parallel;

namespace Froe.Bench;

/// <summary>The routing engine on one core: decisions a second on a plan of 12 steps, 3 branches and 20 seats, and a forecast of 10,000 runs.</summary>
internal static class RoutingBench
{
    private static readonly Guid[] People = [.. Enumerable.Range(0, 20).Select(_ => Guid.CreateVersion7())];

    private static Step Step(int number, params int[] people) =>
        new($"step{number}", $"Step {number}", "Look.", 2, [.. people.Select(p => new Seat($"seat{number}-{p}", "Seat", new PersonHolder(People[p])))]);

    private static Plan Plan() => new("Bench", "", new Sequence(
    [
        Step(1, 0, 1), Step(2, 2),
        new Parallel([new Sequence([Step(3, 3, 4), Step(4, 5)]), new Sequence([Step(5, 6, 7), Step(6, 8)]), new Sequence([Step(7, 9, 10), Step(8, 11)])]),
        Step(9, 12, 13), Step(10, 14, 15), Step(11, 16, 17), Step(12, 18, 19),
    ]));

    public static Task RunAsync()
    {
        var plan = Plan();
        var item = new SlipItem(Guid.CreateVersion7(), Guid.CreateVersion7(), new string('a', 64));
        ImmutableArray<ItemVerdict> verdicts = [new ItemVerdict(item.Draft, item.Sha256, Verdict.Approve, "")];
        var rates = new List<double>();
        for (var run = 0; run < 5; run++)
        {
            var (watch, decisions) = (Stopwatch.StartNew(), 0);
            while (watch.Elapsed.TotalSeconds < 2)
            {
                var slip = SlipRules.Replay(Slip.Blank, SlipRules.Decide(Slip.Blank, new Send(People[0], plan, [item]), SlipContext.Empty).Events);
                for (decisions++; slip.Standing == SlipStanding.InReview; decisions++)
                {
                    var (_, seat, person) = slip.Awaited().First();
                    slip = SlipRules.Replay(slip, SlipRules.Decide(slip, new SignOff(person, seat.Key, verdicts), SlipContext.Empty).Events);
                }
            }
            rates.Add(decisions / watch.Elapsed.TotalSeconds);
        }
        // A sign-off over HTTP needs one decision; this is how many of them the engine could feed.
        Figure.Print("routing, decide and evolve on one core", Figure.Median(rates), 1000, "/s", Figure.Median(rates) / 1000, null);

        var week = WorkingWeek.Usual(TimeZoneInfo.Utc);
        var time = new WorkingTime(week, new DateOnly(2026, 11, 1), 800);
        var past = plan.Steps().ToDictionary(s => s.Key, _ => Enumerable.Range(1, 200).Select(i => i * 7.0).ToImmutableArray());
        var input = new ForecastInput(
            plan, [.. plan.Seats().Select(s => new FilledSeat(s.Seat.Key, [((PersonHolder)s.Seat.Holder).Person], 1))], PackageFacts.None, new DateTimeOffset(2026, 11, 23, 9, 0, 0, TimeSpan.Zero), _ => new Worker(time, time, 480), past);
        var seconds = new List<double>();
        for (var run = 0; run < 5; run++)
        {
            var watch = Stopwatch.StartNew();
            if (Forecast.Of(input, 10_000, 1).Runs != 10_000) throw new InvalidOperationException("The forecast drew nothing.");
            seconds.Add(watch.Elapsed.TotalSeconds);
        }
        Figure.Print("routing, forecast of 10,000 runs (against a tenth of a second)", Figure.Median(seconds), 0.1, "s", Figure.Median(seconds) / 0.1, null);
        return Task.CompletedTask;
    }
}
