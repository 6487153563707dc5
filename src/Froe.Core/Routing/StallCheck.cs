using System.Collections.Immutable;
using System.Globalization;

namespace Froe.Core.Routing;

/// <summary>What can be done about a stall.</summary>
public enum RemedyKind
{
    /// <summary>A person who is away names a deputy.</summary>
    NameDeputy,

    /// <summary>The sender chooses somebody else for the seat.</summary>
    ChooseOther,

    /// <summary>The sender chooses another plan.</summary>
    ChoosePlan,

    /// <summary>The plan allows the step more time.</summary>
    AllowTime,

    /// <summary>People join the seat's group.</summary>
    ExtendGroup,
}

/// <summary>Something to do about a stall.</summary>
/// <param name="Person">Who names a deputy.</param>
/// <param name="Days">Working days to allow.</param>
/// <param name="Group">The group to extend.</param>
public sealed record Remedy(RemedyKind Kind, Guid? Person = null, decimal? Days = null, Guid? Group = null);

/// <summary>Something that would keep a package waiting.</summary>
/// <param name="Code">seat-unfillable, seat-not-chosen, away or slow.</param>
/// <param name="Step">Its step's key.</param>
/// <param name="Seat">Its seat's key; empty for the whole step.</param>
/// <param name="Says">What would happen, for a person.</param>
/// <param name="Until">When enough people are there again; null when time alone does not mend it.</param>
/// <param name="Away">Who is away without a deputy.</param>
/// <param name="Remedies">What to do, the best first; at least one.</param>
public sealed record Stall(string Code, string Step, string Seat, string Says, DateTimeOffset? Until, ImmutableArray<Guid> Away, ImmutableArray<Remedy> Remedies);

/// <summary>Finds what would keep a package waiting: seats that nobody, or too few, can fill when it arrives, and steps that never keep their time.</summary>
public static class StallCheck
{
    /// <summary>Seats that cannot be filled at all: empty groups, groups smaller than needed, the originator excluded, people without the right.</summary>
    public static ImmutableArray<Stall> OfSeats(Plan plan, Send send, SlipContext context) =>
        [.. SlipRules.Unfilled(plan, send, context).Select(u => new Stall(u.Why.Code, u.Step.Key, u.Seat.Key, u.Why.Reason, null, [], Remedies(u.Seat)))];

    private static ImmutableArray<Remedy> Remedies(Seat seat) => seat.Holder switch
    {
        ChosenHolder => [new Remedy(RemedyKind.ChooseOther), new Remedy(RemedyKind.ChoosePlan)],
        GroupHolder g => [new Remedy(RemedyKind.ExtendGroup, Group: g.Group), new Remedy(RemedyKind.ChoosePlan)],
        _ => [new Remedy(RemedyKind.ChoosePlan)],
    };

    /// <summary>Every stall along a forecast.</summary>
    public static ImmutableArray<Stall> Of(ForecastInput input, ForecastResult forecast)
    {
        ArgumentNullException.ThrowIfNull(input);
        ArgumentNullException.ThrowIfNull(forecast);
        var stalls = ImmutableArray.CreateBuilder<Stall>();
        foreach (var foreseen in forecast.Steps.Where(s => s.Prospect == Prospect.Signed))
        {
            var step = input.Plan.Steps().First(s => s.Key == foreseen.Step);
            foreach (var seat in step.Seats)
                if (Away(input, foreseen, step, seat) is { } away) stalls.Add(away);
            if (Slow(input, step) is { } slow) stalls.Add(slow);
        }
        return stalls.ToImmutable();
    }

    private static Stall? Away(ForecastInput input, StepForecast foreseen, Step step, Seat seat)
    {
        if (input.Seats.FirstOrDefault(s => s.Key == seat.Key) is not { People.Length: > 0, Skipped: false } filled) return null;
        // A minute's work shows when a person is first at their table.
        var moment = TimeSpan.FromMinutes(1);
        var people = filled.People.Select(p => (Person: p, Worker: input.Worker(p))).Select(p => (
            p.Person,
            There: p.Worker.Time.Add(foreseen.Arrives, moment),
            Due: p.Worker.Always.Add(foreseen.Arrives, TimeSpan.FromMinutes((double)(step.WorkingDays * p.Worker.MinutesADay))))).OrderBy(p => p.There).ToList();
        var last = people[Math.Min(filled.Needed, people.Count) - 1];
        // Whoever is back within the time allowed holds nobody up.
        if (last.There <= last.Due) return null;
        var away = people.Where(p => p.There > p.Due).Select(p => p.Person).ToImmutableArray();
        var count = filled.People.Length == 1 ? "its only signer is away" : $"{filled.Needed} of {filled.People.Length} are needed and {away.Length} are away";
        var remedies = away.Select(p => new Remedy(RemedyKind.NameDeputy, p)).ToImmutableArray();
        return new Stall("away", step.Key, seat.Key, $"{seat.Role}: {count} when the package arrives, without a deputy.", last.There, away,
            seat.Holder is ChosenHolder ? remedies.Add(new(RemedyKind.ChooseOther)) : seat.Holder is GroupHolder g ? remedies.Add(new(RemedyKind.ExtendGroup, Group: g.Group)) : remedies);
    }

    /// <summary>A step that is over its time before it begins: half of the past packages took longer than it allows.</summary>
    private static Stall? Slow(ForecastInput input, Step step)
    {
        if (!input.Past.TryGetValue(step.Key, out var past) || past.Length < Forecast.FewestSamples) return null;
        var day = input.Seats.Where(s => step.Seats.Any(x => x.Key == s.Key)).SelectMany(s => s.People).Select(p => input.Worker(p).MinutesADay).FirstOrDefault(480);
        var usual = Math.Ceiling((decimal)past.Order().ElementAt(past.Length / 2) / day * 2) / 2;
        return usual <= step.WorkingDays ? null : new Stall(
            "slow", step.Key, "", string.Create(CultureInfo.InvariantCulture, $"{step.Name}: over its time before it begins. It allows {step.WorkingDays:0.##} working {(step.WorkingDays == 1 ? "day" : "days")}, and in half of {past.Length} past packages it took {usual:0.##} or more."),
            null, [], [new Remedy(RemedyKind.AllowTime, Days: usual)]);
    }
}
