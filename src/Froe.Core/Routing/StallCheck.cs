using System.Collections.Immutable;

namespace Froe.Core.Routing;

/// <summary>A seat that would keep a package waiting.</summary>
/// <param name="Step">Its step's key.</param>
/// <param name="Seat">Its key.</param>
/// <param name="Says">What would happen, for a person.</param>
/// <param name="Until">When enough people are there again.</param>
/// <param name="Away">Who is away without a deputy.</param>
public sealed record Stall(string Step, string Seat, string Says, DateTimeOffset Until, ImmutableArray<Guid> Away);

/// <summary>Finds the seats that nobody, or too few, can fill when the package arrives.</summary>
public static class StallCheck
{
    /// <summary>Every stall along a forecast.</summary>
    public static ImmutableArray<Stall> Of(ForecastInput input, ForecastResult forecast)
    {
        ArgumentNullException.ThrowIfNull(input);
        ArgumentNullException.ThrowIfNull(forecast);
        var stalls = ImmutableArray.CreateBuilder<Stall>();
        foreach (var step in forecast.Steps.Where(s => s.Prospect == Prospect.Signed))
            foreach (var seat in input.Plan.Steps().First(s => s.Key == step.Step).Seats)
            {
                if (input.Seats.FirstOrDefault(s => s.Key == seat.Key) is not { People.Length: > 0, Skipped: false } filled) continue;
                // A minute's work shows when a person is first at their table.
                var moment = TimeSpan.FromMinutes(1);
                var allowed = input.Plan.Steps().First(s => s.Key == step.Step).WorkingDays;
                var people = filled.People.Select(p => (Person: p, Worker: input.Worker(p))).Select(p => (
                    p.Person,
                    There: p.Worker.Time.Add(step.Arrives, moment),
                    Due: p.Worker.Always.Add(step.Arrives, TimeSpan.FromMinutes((double)(allowed * p.Worker.MinutesADay))))).OrderBy(p => p.There).ToList();
                var last = people[filled.Needed - 1];
                // Whoever is back within the time allowed holds nobody up.
                if (last.There <= last.Due) continue;
                var away = people.Where(p => p.There > p.Due).Select(p => p.Person).ToImmutableArray();
                var count = filled.People.Length == 1 ? "its only signer is away" : $"{filled.Needed} of {filled.People.Length} are needed and {away.Length} are away";
                stalls.Add(new Stall(step.Step, seat.Key, $"{seat.Role}: {count} when the package arrives, without a deputy.", last.There, away));
            }
        return stalls.ToImmutable();
    }
}
