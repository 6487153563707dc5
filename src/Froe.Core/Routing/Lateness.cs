using System.Collections.Immutable;

namespace Froe.Core.Routing;

/// <summary>A moment at which somebody hears that a signature is awaited.</summary>
/// <param name="At">When.</param>
/// <param name="IsLate">Whether the due time has passed by then; otherwise it is a reminder to the signer.</param>
/// <param name="Days">Working days until the due time, or since it.</param>
public sealed record Nudge(DateTimeOffset At, bool IsLate, int Days);

/// <summary>Reminders before a signature is due, and who hears when it is late, by working time. Nothing is ever approved by lapse of time.</summary>
public static class Lateness
{
    /// <summary>When a signature awaited since a moment is due.</summary>
    public static DateTimeOffset Due(Step step, DateTimeOffset since, Worker worker)
    {
        ArgumentNullException.ThrowIfNull(step);
        ArgumentNullException.ThrowIfNull(worker);
        return Due(step.WorkingDays, since, worker);
    }

    /// <summary>When something with so many working days is due that has waited since a moment.</summary>
    public static DateTimeOffset Due(decimal workingDays, DateTimeOffset since, Worker worker)
    {
        ArgumentNullException.ThrowIfNull(worker);
        return worker.Always.Add(since, TimeSpan.FromMinutes((double)(workingDays * worker.MinutesADay)));
    }

    /// <summary>The moments for one person's seat, in order: each reminder, the due time itself, and each later time at which the plan tells somebody.</summary>
    /// <param name="step">The step.</param>
    /// <param name="since">When their signature came to be awaited; a reminder that would come before is left out.</param>
    /// <param name="due">When it is due.</param>
    /// <param name="worker">When the person can work.</param>
    public static ImmutableArray<Nudge> Of(Step step, DateTimeOffset since, DateTimeOffset due, Worker worker)
    {
        ArgumentNullException.ThrowIfNull(step);
        return Of(step.Reminders, step.Tells, since, due, worker);
    }

    /// <summary>The same for the originator, while a package waits for them.</summary>
    public static ImmutableArray<Nudge> Of(Answering answering, DateTimeOffset since, DateTimeOffset due, Worker worker)
    {
        ArgumentNullException.ThrowIfNull(answering);
        return Of(answering.Reminders, answering.Tells, since, due, worker);
    }

    private static ImmutableArray<Nudge> Of(ImmutableArray<int> reminded, ImmutableArray<Telling> tells, DateTimeOffset since, DateTimeOffset due, Worker worker)
    {
        ArgumentNullException.ThrowIfNull(worker);
        TimeSpan Days(int days) => TimeSpan.FromMinutes((double)days * worker.MinutesADay);
        var reminders = reminded.Where(d => d > 0).Distinct().Select(d => new Nudge(worker.Always.Back(due, Days(d)), false, d)).Where(n => n.At > since && n.At < due);
        var late = tells.Where(t => t.At == Moment.Late).Select(t => Math.Max(0, t.AfterDays)).Append(0).Distinct().Select(d => new Nudge(worker.Always.Add(due, Days(d)), true, d));
        return [.. reminders.Concat(late).OrderBy(n => n.At)];
    }

    /// <summary>The first moment after an instant; null when none is left.</summary>
    public static Nudge? Next(ImmutableArray<Nudge> nudges, DateTimeOffset after) => nudges.FirstOrDefault(n => n.At > after);
}
