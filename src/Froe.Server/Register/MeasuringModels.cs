using System.Text.Json;
using Froe.Core.Draft;
using Froe.Core.Models;
using Froe.Formats;
using Froe.Server.Files;
using Froe.Server.SignIn;

namespace Froe.Server.Register;

/// <summary>Two things of a model that are to be measured.</summary>
public sealed record BetweenAsked(PickedOnModel First, PickedOnModel Second);

/// <summary>Measures on models, by what is exactly known of them.</summary>
public sealed class MeasuringModels(Drafts drafts, Spool spool, Transfers transfers)
{
    /// <summary>How two faces or edges lie to one another.</summary>
    public async Task<BetweenTwo> BetweenAsync(Who who, Guid draft, int position, BetweenAsked asked, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(who);
        ArgumentNullException.ThrowIfNull(asked);
        // What is known of a large model takes room while it is looked at.
        using var place = transfers.Begin(who.Id);
        var scene = await FormAsync<SceneFacts>(who, draft, position, LeafForms.Scene, stop);
        var exact = await FormAsync<ExactFacts>(who, draft, position, LeafForms.Exact, stop);
        return BetweenTwo.Measure(scene, exact, asked.First, asked.Second)
            ?? throw Refused.Invalid("nothing-exact", "One of the two lies on nothing exact. Pick a flat or a round face, a straight edge or a circle.");
    }

    private async Task<T> FormAsync<T>(Who who, Guid draft, int position, string form, CancellationToken stop)
    {
        var (sha256, _) = await drafts.FormAsync(who, draft, position, form, stop);
        using var json = new MemoryStream();
        if (!await spool.CopyToAsync(sha256, json, stop)) throw Refused.Missing("model");
        return JsonSerializer.Deserialize<T>(json.GetBuffer().AsSpan(0, (int)json.Length), FormJson.Options)!;
    }
}
