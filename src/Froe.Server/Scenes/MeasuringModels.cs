using Froe.Core.Models;
using Froe.Server.Files;
using Froe.Server.SignIn;

namespace Froe.Server.Scenes;

/// <summary>Two things of a model that are to be measured.</summary>
public sealed record BetweenAsked(PickedOnModel First, PickedOnModel Second);

/// <summary>What was measured between two things of a model.</summary>
/// <param name="Exact">Between what they exactly lie on; null where one of them lies on nothing of the kind.</param>
/// <param name="Least">How near they come by their meshes; null where one of them has none of its own.</param>
public sealed record BetweenFound(BetweenTwo? Exact, Clearance? Least);

/// <summary>Pairs of things of a model that are to be measured.</summary>
public sealed record MeasuresAsked(IReadOnlyList<BetweenAsked> Pairs)
{
    /// <summary>Most of them at once.</summary>
    public const int Most = 60;
}

/// <summary>What was picked on a model and is looked for on another draft of it.</summary>
/// <param name="Draft">The draft that it was picked on.</param>
/// <param name="Leaf">Which model of that draft.</param>
public sealed record FindAsked(Guid Draft, int Leaf, IReadOnlyList<PickedOnModel> Picked);

/// <summary>Measures on models: by what is exactly known of them, and how near parts come by their meshes.</summary>
public sealed class MeasuringModels(PreparedModels models, Transfers transfers)
{
    /// <summary>How two faces, edges or components lie to one another.</summary>
    public async Task<BetweenFound> BetweenAsync(Who who, Guid draft, int position, BetweenAsked asked, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(who);
        ArgumentNullException.ThrowIfNull(asked);
        // What is known of a large model takes room while it is looked at.
        using var place = transfers.Begin(who.Id);
        var model = await models.OfAsync(who, draft, position, stop);
        var exact = IsOfFaces(asked) ? BetweenTwo.Measure(model.Facts, await models.ExactAsync(who, draft, position, stop), asked.First, asked.Second) : null;
        var least = Clearance.Between(model.Facts, model.Meshes, model.LinesOf, asked.First, asked.Second);
        if (exact is not null || least is not null) return new BetweenFound(exact, least);
        throw IsOfFaces(asked)
            ? Refused.Invalid("nothing-exact", "One of the two lies on nothing exact. Pick a face, a straight edge or a circle.")
            : Refused.Invalid("no-mesh", "One of the two is no part with a shape of its own. Pick two parts.");
    }

    /// <summary>How the two of each of several pairs lie to one another: exactly where that can be told, else by their meshes.</summary>
    /// <returns>One for each, in their order; nothing is told of what cannot be measured.</returns>
    public async Task<IReadOnlyList<BetweenFound>> MeasuredAsync(Who who, Guid draft, int position, MeasuresAsked asked, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(who);
        ArgumentNullException.ThrowIfNull(asked);
        if (asked.Pairs.Count > MeasuresAsked.Most) throw Refused.Invalid("too-many-pairs", $"{MeasuresAsked.Most} pairs can be measured at once.");
        using var place = transfers.Begin(who.Id);
        var model = await models.OfAsync(who, draft, position, stop);
        var known = asked.Pairs.Any(IsOfFaces) ? await models.ExactAsync(who, draft, position, stop) : new ExactFacts([]);
        var all = new List<BetweenFound>();
        foreach (var pair in asked.Pairs)
        {
            stop.ThrowIfCancellationRequested();
            if (IsOfFaces(pair) && BetweenTwo.Measure(model.Facts, known, pair.First, pair.Second) is { } exact) all.Add(new BetweenFound(exact, null));
            else all.Add(new BetweenFound(null, Clearance.Between(model.Facts, model.Meshes, model.LinesOf, pair.First, pair.Second)));
        }
        return all;
    }

    private static bool IsOfFaces(BetweenAsked asked) => ((PickedOnModel[])[asked.First, asked.Second]).Any(p => p.Face is not null || p.Edge is not null || p.IsPoint);

    /// <summary>The smallest box about a part, by its mesh.</summary>
    public async Task<TurnedBox> BoxAsync(Who who, Guid draft, int position, int part, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(who);
        using var place = transfers.Begin(who.Id);
        var model = await models.OfAsync(who, draft, position, stop);
        return ((uint)part < (uint)model.Meshes.Count ? TurnedBox.Of(model.Meshes[part]) : null) ?? throw Refused.Missing("part with a mesh");
    }

    /// <summary>Finds what was picked on one draft of a model on another.</summary>
    /// <returns>One for each, in their order.</returns>
    public async Task<IReadOnlyList<FoundAgain>> FindAsync(Who who, Guid draft, int position, FindAsked asked, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(who);
        ArgumentNullException.ThrowIfNull(asked);
        if (asked.Picked.Count > FoundAgain.Most) throw Refused.Invalid("too-many-spots", $"{FoundAgain.Most} things can be looked for at once.");
        using var place = transfers.Begin(who.Id);
        var finding = new FindingAgain(await BothAsync(who, asked.Draft, asked.Leaf, stop), await BothAsync(who, draft, position, stop), (await models.OfAsync(who, draft, position, stop)).Meshes);
        return [.. asked.Picked.Select(finding.Find)];
    }

    private async Task<(SceneFacts Facts, ExactFacts Exact)> BothAsync(Who who, Guid draft, int position, CancellationToken stop) =>
        (await models.FactsAsync(who, draft, position, stop), await models.ExactAsync(who, draft, position, stop));
}
