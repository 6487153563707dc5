using System.Collections.Immutable;
using Froe.Core.Routing;

namespace Froe.Core.Register;

/// <summary>Standings that documents of a folder pass through outside packages, such as in work, self-checked, fit for use.</summary>
/// <param name="Stages">In order; a document in work begins with the first.</param>
/// <param name="Moves">Who may move from where to where; what is not listed is nobody's but those with the right to move standings.</param>
public sealed record StandingOrder(ImmutableArray<Stage> Stages, ImmutableArray<StageMove> Moves);

/// <summary>One of the standings.</summary>
/// <param name="Name">What people call it.</param>
/// <param name="ForUse">Whether what stands here may be sent for use on site.</param>
/// <param name="NeedsAnswers">Whether nothing may arrive here with a request still open.</param>
/// <param name="NeedsWholeFile">Whether nothing may arrive here whose file could not be shown whole.</param>
public sealed record Stage(string Name, bool ForUse = false, bool NeedsAnswers = false, bool NeedsWholeFile = false);

/// <summary>A move that a group's members may make, forwards or back.</summary>
public sealed record StageMove(string From, string To, ImmutableArray<Guid> Groups);

/// <summary>What is known of a document that is to move.</summary>
/// <param name="Number">For words.</param>
/// <param name="Standing">Its revision's standing.</param>
/// <param name="Stage">Its standing among them; empty for the first.</param>
/// <param name="OpenRequests">Requests on it that no reviewer has closed.</param>
/// <param name="NotShown">Entities of its newest draft that could not be shown.</param>
public sealed record MovingDocument(string Number, string Standing, string Stage, int OpenRequests, int NotShown);

/// <summary>Moving documents along their folder's standings.</summary>
public static class StandingRules
{
    /// <summary>What is wrong with a folder's standings; null when they can be used.</summary>
    public static Refusal? Check(StandingOrder order)
    {
        ArgumentNullException.ThrowIfNull(order);
        if (order.Stages.Length < 2) return new("order-short", "A folder has at least two standings, or none of its own.");
        if (order.Stages.Length > 20) return new("order-long", "A folder has at most 20 standings.");
        if (order.Stages.Any(s => string.IsNullOrWhiteSpace(s.Name) || s.Name.Length > 40)) return new("standing-without-name", "Every standing has a name of at most 40 characters.");
        if (order.Stages.Select(s => s.Name.Trim().ToUpperInvariant()).Distinct().Count() < order.Stages.Length) return new("standing-twice", "Two standings have the same name.");
        if (order.Stages[0].ForUse) return new("first-for-use", "What is only just in work cannot be fit for use: the first standing comes before that.");
        return order.Moves.Any(m => m.From == m.To || Index(order, m.From) < 0 || Index(order, m.To) < 0)
            ? new("move-unknown", "A move leads from or to a standing that is not in the order.")
            : null;
    }

    /// <summary>
    /// The passages from where a document stands to another standing, one after the other, so that a jump over several records
    /// every one; or a refusal that says what is missing.
    /// </summary>
    /// <param name="groups">The groups of whoever moves it.</param>
    /// <param name="mayMoveAny">Whether they have the right to move standings.</param>
    public static (ImmutableArray<(string From, string To)> Passages, Refusal? Refusal) Move(
        StandingOrder order, MovingDocument document, string to, IReadOnlySet<Guid> groups, bool mayMoveAny)
    {
        ArgumentNullException.ThrowIfNull(order);
        ArgumentNullException.ThrowIfNull(document);
        ArgumentNullException.ThrowIfNull(groups);
        var at = Math.Max(0, Index(order, document.Stage));
        var goal = Index(order, to);
        if (goal < 0) return ([], new("no-such-standing", $"The folder has no standing “{to}”."));
        if (document.Standing is not ("in work" or "returned"))
            return ([], new("not-in-work", $"{document.Number} is {document.Standing}; only a revision in work moves along the order."));
        if (at == goal) return ([], null);
        var passages = ImmutableArray.CreateBuilder<(string, string)>();
        for (var i = at; i != goal; i += Math.Sign(goal - at))
        {
            var (from, next) = (order.Stages[i], order.Stages[i + Math.Sign(goal - at)]);
            var allowed = mayMoveAny || order.Moves.Any(m => m.From == from.Name && m.To == next.Name && m.Groups.Any(groups.Contains));
            if (!allowed) return ([], new("move-not-yours", $"{document.Number}: you may not move from {from.Name} to {next.Name}. It takes a member of the groups that the folder names for it."));
            if (goal > at && next.NeedsAnswers && document.OpenRequests > 0)
                return ([], new("requests-open", $"{document.Number}: {next.Name} is missing that every request is closed; {document.OpenRequests} {(document.OpenRequests == 1 ? "is" : "are")} open."));
            if (goal > at && next.NeedsWholeFile && document.NotShown > 0)
                return ([], new("file-not-whole", $"{document.Number}: {next.Name} is missing that its file is shown whole; {document.NotShown} of its objects are not."));
            passages.Add((from.Name, next.Name));
        }
        return (passages.ToImmutable(), null);
    }

    /// <summary>Why a document cannot be sent for use on site; null when it can.</summary>
    public static Refusal? UseFault(StandingOrder? order, MovingDocument document)
    {
        ArgumentNullException.ThrowIfNull(document);
        if (document.Standing == "released") return null;
        var stage = order?.Stages.FirstOrDefault(s => s.Name == document.Stage);
        return document.Standing == "in work" && stage is { ForUse: true }
            ? null
            : new("not-for-use", $"{document.Number} is {(stage is null || document.Standing != "in work" ? document.Standing : stage.Name)}, so it cannot be sent for use on site. Have it released first.");
    }

    private static int Index(StandingOrder order, string name) => order.Stages.ToList().FindIndex(s => s.Name == name);
}
