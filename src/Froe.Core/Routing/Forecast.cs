using System.Collections.Immutable;
using Froe.Core.Calendar;

namespace Froe.Core.Routing;

/// <summary>When a person can work.</summary>
/// <param name="Time">Their working time, less the absences nobody stands in for.</param>
/// <param name="Always">Their working time if they were never away.</param>
/// <param name="MinutesADay">What one day of allowed time means to them.</param>
public sealed record Worker(WorkingTime Time, WorkingTime Always, int MinutesADay);

/// <summary>What is known before a forecast.</summary>
/// <param name="Plan">The plan.</param>
/// <param name="Seats">Its seats, filled.</param>
/// <param name="Facts">What rules know of the package.</param>
/// <param name="Start">When it is sent, or when the forecast is made of one on its way.</param>
/// <param name="Worker">When each person can work.</param>
/// <param name="Past">Working minutes that each step took in past packages, by step key.</param>
public sealed record ForecastInput(
    Plan Plan, ImmutableArray<FilledSeat> Seats, PackageFacts Facts, DateTimeOffset Start, Func<Guid, Worker> Worker, IReadOnlyDictionary<string, ImmutableArray<double>> Past)
{
    /// <summary>The slip, when the package is on its way; null before sending.</summary>
    public Slip? Slip { get; init; }

    /// <summary>When each open step opened.</summary>
    public IReadOnlyDictionary<string, DateTimeOffset> Opened { get; init; } = new Dictionary<string, DateTimeOffset>();
}

/// <summary>How a forecast sees a step.</summary>
public enum Prospect
{
    /// <summary>Will be signed.</summary>
    Signed,

    /// <summary>Will pass by its rule.</summary>
    Automatic,

    /// <summary>Stands in a way not taken.</summary>
    NotTaken,

    /// <summary>Has passed.</summary>
    Passed,
}

/// <summary>A step in a forecast.</summary>
/// <param name="Step">Its key.</param>
/// <param name="Prospect">What will happen to it.</param>
/// <param name="Because">Why it passes by itself or is not taken; else empty.</param>
/// <param name="Arrives">When it opens if everyone takes the time allowed.</param>
/// <param name="Finishes">When it passes if everyone takes the time allowed.</param>
/// <param name="IsCritical">Whether a day more here is a day more for the package.</param>
/// <param name="Half">When it has passed in half of the runs; null without past packages.</param>
/// <param name="NineTenths">When it has passed in nine runs out of ten.</param>
public sealed record StepForecast(
    string Step, Prospect Prospect, string Because, DateTimeOffset Arrives, DateTimeOffset Finishes, bool IsCritical, DateTimeOffset? Half, DateTimeOffset? NineTenths);

/// <summary>When a package will be through.</summary>
/// <param name="Runs">Runs of the simulation; 0 when no past package says how long its steps take.</param>
/// <param name="Samples">Past passages of steps the runs draw from.</param>
public sealed record ForecastResult(
    ImmutableArray<StepForecast> Steps, DateTimeOffset Finishes, DateTimeOffset? Half, DateTimeOffset? NineTenths, int Runs, int Samples);

/// <summary>Projects a package along its plan: by the times allowed, and by simulation from what steps took in the past.</summary>
public sealed class Forecast
{
    /// <summary>Fewer past passages than this say nothing of a step; its allowed time is taken instead.</summary>
    public const int FewestSamples = 3;

    private readonly ForecastInput input;
    private readonly Dictionary<string, (DateTimeOffset Arrives, DateTimeOffset Finishes)> times = [];
    private readonly Dictionary<string, (Prospect Prospect, string Because)> fates = [];
    private readonly Dictionary<string, WorkingTime> pace = [];
    private readonly HashSet<string> critical = [];

    private Forecast(ForecastInput input) => this.input = input;

    /// <summary>Makes a forecast.</summary>
    /// <param name="input">What is known.</param>
    /// <param name="runs">Runs of the simulation.</param>
    /// <param name="seed">The same seed gives the same ranges.</param>
    public static ForecastResult Of(ForecastInput input, int runs, ulong seed)
    {
        ArgumentNullException.ThrowIfNull(input);
        return new Forecast(input).Run(runs, seed);
    }

    private ForecastResult Run(int runs, ulong seed)
    {
        var steps = input.Plan.Steps().ToList();
        var end = Walk(input.Plan.Root, input.Start, Allowed);
        Mark(input.Plan.Root);
        var samples = steps.Where(s => fates[s.Key].Prospect == Prospect.Signed).Sum(s => PastOf(s.Key).Length);
        var ranges = new Dictionary<string, long[]>();
        var ends = Array.Empty<long>();
        if (samples > 0)
        {
            // The plan's walk by allowed times stays as it is; each run overwrites it in turn and is read off.
            var allowed = times.ToDictionary(t => t.Key, t => t.Value);
            var random = new SplitMix(seed);
            ends = new long[runs];
            foreach (var step in steps) ranges[step.Key] = new long[runs];
            for (var run = 0; run < runs; run++)
            {
                ends[run] = Walk(input.Plan.Root, input.Start, (step, arrives) => Drawn(step, arrives, random)).UtcTicks;
                foreach (var step in steps) ranges[step.Key][run] = times.TryGetValue(step.Key, out var t) ? t.Finishes.UtcTicks : 0;
            }
            foreach (var (key, value) in allowed) times[key] = value;
        }
        return new ForecastResult(
            [.. steps.Select(s =>
            {
                var (arrives, finishes) = times.GetValueOrDefault(s.Key, (input.Start, input.Start));
                var isRange = samples > 0 && fates[s.Key].Prospect == Prospect.Signed;
                return new StepForecast(s.Key, fates[s.Key].Prospect, fates[s.Key].Because, arrives, finishes, critical.Contains(s.Key), isRange ? At(ranges[s.Key], 0.5) : null, isRange ? At(ranges[s.Key], 0.9) : null);
            })],
            end, samples > 0 ? At(ends, 0.5) : null, samples > 0 ? At(ends, 0.9) : null, samples > 0 ? runs : 0, samples);
    }

    /// <summary>The smallest value that so large a share of the runs does not exceed.</summary>
    private static DateTimeOffset At(long[] values, double share)
    {
        var sorted = values.Order().ToArray();
        return new DateTimeOffset(sorted[Math.Clamp((int)Math.Ceiling(share * sorted.Length) - 1, 0, sorted.Length - 1)], TimeSpan.Zero);
    }

    private ImmutableArray<double> PastOf(string step) => input.Past.TryGetValue(step, out var past) && past.Length >= FewestSamples ? past : [];

    private DateTimeOffset Walk(Block block, DateTimeOffset at, Func<Step, DateTimeOffset, DateTimeOffset> finish)
    {
        switch (block)
        {
            case Sequence sequence:
                foreach (var part in sequence.Blocks) at = Walk(part, at, finish);
                return at;
            case Parallel parallel:
                return parallel.Branches.Max(b => Walk(b, at, finish));
            case Choice choice:
                var taken = WayOf(choice, out var because);
                foreach (var way in choice.Ways.Where(w => w != taken)) Pass(way.Blocks, because);
                return Walk(taken.Blocks, at, finish);
            case Step step:
                if (input.Slip?.Passed.Contains(step.Key) == true)
                {
                    fates[step.Key] = (Prospect.Passed, "");
                    return at;
                }
                var arrives = input.Opened.TryGetValue(step.Key, out var opened) ? opened : at;
                if (step.PassesWhen is { } rule && rule.Holds(input.Facts))
                {
                    fates[step.Key] = (Prospect.Automatic, RuleWords.Say(rule, input.Plan.Form));
                    times[step.Key] = (arrives, arrives);
                    return at;
                }
                fates[step.Key] = (Prospect.Signed, "");
                // What is late already cannot finish in the past.
                var done = finish(step, arrives);
                if (done < input.Start) done = input.Start;
                times[step.Key] = (arrives, done);
                return done;
            default:
                return at;
        }
    }

    private void Pass(Block block, string because)
    {
        foreach (var step in new Plan("", "", new Sequence([block])).Steps()) fates[step.Key] = (Prospect.NotTaken, because);
    }

    /// <summary>The way a choice takes or will take; where a person picks, the first.</summary>
    private Way WayOf(Choice choice, out string because)
    {
        var way = input.Slip?.WayOf(choice) ?? (choice.PickedAt is null ? choice.Ways.FirstOrDefault(w => w.Rule?.Holds(input.Facts) == true) ?? choice.Otherwise : choice.Ways[0]);
        because = input.Slip?.WayOf(choice) is null && choice.PickedAt is not null
            ? $"“{way.Name}” is assumed until somebody picks"
            : way.Rule is { } rule ? RuleWords.Say(rule, input.Plan.Form) : $"goes “{way.Name}”";
        return way;
    }

    private DateTimeOffset Allowed(Step step, DateTimeOffset arrives)
    {
        var latest = arrives;
        WorkingTime? slowest = null;
        foreach (var seat in step.Seats)
        {
            var people = PeopleOf(seat);
            if (people.Count == 0 || input.Slip?.SeatOf(seat.Key)?.Skipped == true) continue;
            var done = people.Select(p => input.Worker(p)).Select(w => (w.Time, At: w.Time.Add(arrives, TimeSpan.FromMinutes((double)(step.WorkingDays * w.MinutesADay))))).OrderBy(d => d.At).ToList();
            var needed = Math.Clamp(NeededOf(seat, people.Count), 1, people.Count);
            if (slowest is not null && done[needed - 1].At <= latest) continue;
            (slowest, latest) = done[needed - 1];
        }
        if (slowest is not null) pace[step.Key] = slowest;
        return latest;
    }

    private DateTimeOffset Drawn(Step step, DateTimeOffset arrives, SplitMix random)
    {
        var past = PastOf(step.Key);
        if (past.IsEmpty || !pace.TryGetValue(step.Key, out var time)) return Allowed(step, arrives);
        return time.Add(arrives, TimeSpan.FromMinutes(past[random.Below(past.Length)]));
    }

    private List<Guid> PeopleOf(Seat seat)
    {
        var filled = input.Seats.FirstOrDefault(s => s.Key == seat.Key);
        if (filled is { People.Length: > 0 }) return [.. filled.People];
        // Who will sign an earlier step is not known yet; whoever may is taken.
        return seat.Holder is SignerOfHolder of
            ? [.. input.Plan.Steps().First(s => s.Key == of.Step).Seats.SelectMany(s => input.Seats.Where(f => f.Key == s.Key)).SelectMany(f => f.People).Distinct()]
            : [];
    }

    private int NeededOf(Seat seat, int people) => seat.Holder is SignerOfHolder ? people : input.Seats.FirstOrDefault(s => s.Key == seat.Key)?.Needed ?? 1;

    /// <summary>Marks the chain of steps that the end hangs on: of parallel branches, the one that ends last.</summary>
    private void Mark(Block block)
    {
        switch (block)
        {
            case Step step when fates[step.Key].Prospect == Prospect.Signed: critical.Add(step.Key); break;
            case Sequence sequence:
                foreach (var part in sequence.Blocks) Mark(part);
                break;
            case Parallel parallel: Mark(parallel.Branches.MaxBy(End)!); break;
            case Choice choice: Mark(WayOf(choice, out _).Blocks); break;
        }
    }

    private DateTimeOffset End(Block block) => new Plan("", "", new Sequence([block])).Steps().Where(s => times.ContainsKey(s.Key)).Select(s => times[s.Key].Finishes).DefaultIfEmpty(DateTimeOffset.MinValue).Max();

    /// <summary>A small random generator whose numbers never change between versions (Steele, Lea and Flood, 2014).</summary>
    private sealed class SplitMix(ulong state)
    {
        public int Below(int n)
        {
            state += 0x9E3779B97F4A7C15;
            var z = state;
            z = (z ^ (z >> 30)) * 0xBF58476D1CE4E5B9;
            z = (z ^ (z >> 27)) * 0x94D049BB133111EB;
            return (int)(((z ^ (z >> 31)) >> 33) % (ulong)n);
        }
    }
}
