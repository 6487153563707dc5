using Froe.Core.Models;
using Froe.Server.Files;
using Froe.Server.SignIn;

namespace Froe.Server.Scenes;

/// <summary>Two things of a model that are to be measured.</summary>
public sealed record BetweenAsked(PickedOnModel First, PickedOnModel Second);

/// <summary>Two components of a model, by their places in the scene's list.</summary>
public sealed record ClearanceAsked(int First, int Second);

/// <summary>Measures on models: by what is exactly known of them, and how near parts come by their meshes.</summary>
public sealed class MeasuringModels(PreparedModels models, Transfers transfers)
{
    /// <summary>How two faces or edges lie to one another.</summary>
    public async Task<BetweenTwo> BetweenAsync(Who who, Guid draft, int position, BetweenAsked asked, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(who);
        ArgumentNullException.ThrowIfNull(asked);
        // What is known of a large model takes room while it is looked at.
        using var place = transfers.Begin(who.Id);
        return BetweenTwo.Measure(await models.FactsAsync(who, draft, position, stop), await models.ExactAsync(who, draft, position, stop), asked.First, asked.Second)
            ?? throw Refused.Invalid("nothing-exact", "One of the two lies on nothing exact. Pick a flat or a round face, a straight edge or a circle.");
    }

    /// <summary>How near two components come to one another.</summary>
    public async Task<Clearance> ClearanceAsync(Who who, Guid draft, int position, ClearanceAsked asked, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(who);
        ArgumentNullException.ThrowIfNull(asked);
        using var place = transfers.Begin(who.Id);
        var model = await models.OfAsync(who, draft, position, stop);
        return Clearance.Between(model.Facts, model.Meshes, asked.First, asked.Second)
            ?? throw Refused.Invalid("no-mesh", "One of the two is no part with a shape of its own. Pick two parts.");
    }
}
