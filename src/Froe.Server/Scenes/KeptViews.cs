using System.Text.Json;
using Froe.Core.Draft;
using Froe.Core.Overlays;
using Froe.Server.Register;
using Froe.Server.SignIn;
using Froe.Store;

namespace Froe.Server.Scenes;

/// <summary>A view to keep under a name; one of that name is replaced.</summary>
internal sealed record NewKeptView(string Name, KeptView View);

/// <summary>A view that is kept.</summary>
/// <param name="Draft">The draft it was kept on: what it hides and paints are that one's components.</param>
/// <param name="Label">That draft's revision and number.</param>
internal sealed record KeptViewRow(string Name, Guid Draft, string Label, DateTimeOffset KeptAt, KeptView View);

/// <summary>Everybody's own views of models, kept by name.</summary>
internal sealed class KeptViews(Database database, Access access, TimeProvider clock)
{
    private const int Most = 100, LongestName = 60, LongestView = 200_000;

    /// <summary>One's own of a draft and of the document's others, this draft's first.</summary>
    public async Task<IReadOnlyList<KeptViewRow>> OfAsync(Who who, Guid draft, int position, CancellationToken stop)
    {
        await access.DemandDraftAsync(who, draft, stop);
        return await database.ListAsync(
            """
            SELECT v.name, v.draft_id, r.label || '.' || w.ordinal, v.kept_at, v.view::text
            FROM draft here JOIN revision of ON of.id = here.revision_id JOIN revision r ON r.document_id = of.document_id
                 JOIN draft w ON w.revision_id = r.id JOIN kept_view v ON v.draft_id = w.id
            WHERE here.id = $1 AND v.person_id = $2 AND v.position = $3
            ORDER BY v.draft_id <> $1, v.kept_at DESC LIMIT 200
            """,
            r => new KeptViewRow(r.GetString(0), r.GetGuid(1), r.GetString(2), r.Time(3), JsonSerializer.Deserialize<KeptView>(r.GetString(4), Act.Json)!), [draft, who.Id, position], stop);
    }

    /// <summary>Keeps one.</summary>
    public async Task KeepAsync(Who who, Guid draft, int position, NewKeptView wanted, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(wanted);
        await access.DemandDraftAsync(who, draft, stop);
        var name = wanted.Name.Trim();
        if (name.Length is 0 or > LongestName) throw Refused.Invalid("bad-name", $"A view's name has 1 to {LongestName} characters.");
        if (wanted.View is null || !wanted.View.IsSound()) throw Refused.Invalid("bad-view", "This view holds something that cannot be shown again: look at the model anew and keep it then.");
        var frames = await database.ListAsync("SELECT frame::text FROM draft_leaf WHERE draft_id = $1 AND position = $2", r => Drafts.Frame(r.GetString(0)), [draft, position], stop);
        if (frames is not [SceneFrame]) throw Refused.Missing("model");
        var view = JsonSerializer.Serialize(wanted.View, Act.Json);
        if (view.Length > LongestView) throw Refused.Invalid("too-long", "This view hides and paints too many components to be kept. Show more of the model, or paint less of it, and keep it then.");
        var kept = await database.RunAsync(
            """
            INSERT INTO kept_view (person_id, draft_id, position, name, view, kept_at)
            SELECT $1, $2, $3, $4, $5::jsonb, $6 WHERE (SELECT count(*) FROM kept_view WHERE person_id = $1 AND draft_id = $2 AND name <> $4) < $7
            ON CONFLICT (draft_id, person_id, position, name) DO UPDATE SET view = excluded.view, kept_at = excluded.kept_at
            """,
            [who.Id, draft, position, name, view, clock.GetUtcNow(), Most], stop);
        if (kept == 0) throw Refused.Invalid("too-many", $"You keep {Most} views of this draft already. Remove one first.");
    }

    /// <summary>Removes one of one's own.</summary>
    public async Task RemoveAsync(Who who, Guid draft, int position, string name, CancellationToken stop)
    {
        await access.DemandDraftAsync(who, draft, stop);
        if (await database.RunAsync("DELETE FROM kept_view WHERE person_id = $1 AND draft_id = $2 AND position = $3 AND name = $4", [who.Id, draft, position, name], stop) == 0) throw Refused.Missing("view");
    }
}
