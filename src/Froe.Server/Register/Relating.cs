using Froe.Server.Changes;
using Froe.Server.SignIn;
using Froe.Store;

namespace Froe.Server.Register;

/// <summary>That a model shows what a document is about, or that it does not.</summary>
/// <param name="Key">Made by the page once for this act.</param>
/// <param name="Model">The model's document.</param>
/// <param name="Component">Number or name of the components in it; empty for all of it.</param>
/// <param name="IsShown">Whether it does.</param>
public sealed record NewRelation(Guid Key, Guid Model, string Component, bool IsShown);

/// <summary>Relations that people set between documents and the models that show what they are about.</summary>
public sealed class Relating(Database database, Access access, Announcements changes, TimeProvider clock)
{
    /// <summary>Most models of a document, and the longest name of a component.</summary>
    private const int Most = 50, LongestName = 200;

    private sealed record Kept;

    /// <summary>Whether somebody may set relations between documents that they see.</summary>
    public static bool MaySet(Who who)
    {
        ArgumentNullException.ThrowIfNull(who);
        return !who.IsGuest;
    }

    /// <summary>Sets a relation of a draft's document, or takes it away.</summary>
    public async Task SetAsync(Who who, Guid draft, NewRelation wanted, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(who);
        ArgumentNullException.ThrowIfNull(wanted);
        await access.DemandDraftAsync(who, draft, stop);
        if (!MaySet(who)) throw Refused.Forbidden("Guests see which models show a document; somebody of the office says it.");
        var component = (wanted.Component ?? "").Trim();
        if (component.Length > LongestName) throw Refused.Invalid("long-name", $"The component's number or name is longer than {LongestName} characters.");
        if ((await Access.DocumentsAmongAsync(database, who, [wanted.Model], stop)).Count == 0) throw Refused.Missing("model");
        await using var act = await Act.BeginAsync(database, who.Id, clock.GetUtcNow(), stop);
        if (await act.SeenAsync<Kept>(wanted.Key, stop) is not null) return;
        // The document's row is the lock of its chain.
        var found = await act.ListAsync("SELECT id FROM document WHERE id = (SELECT document_id FROM draft WHERE id = $1) FOR NO KEY UPDATE", r => r.GetGuid(0), [draft], stop);
        if (found is not [var document]) throw Refused.Missing("draft");
        var before = await act.ListAsync("SELECT model_id, component FROM document_shown WHERE document_id = $1", r => (Model: r.GetGuid(0), Component: r.GetString(1)), [document], stop);
        var was = before.FirstOrDefault(b => b.Model == wanted.Model);
        if (wanted.IsShown ? was.Model == wanted.Model && was.Component == component : was.Model == Guid.Empty) return;
        if (wanted.IsShown)
        {
            if (wanted.Model == document) throw Refused.Invalid("itself", "A document cannot be shown in itself. Choose the model that shows it.");
            if (before.Count >= Most && was.Model == Guid.Empty) throw Refused.Invalid("too-many", $"At most {Most} models are related to a document. Take one away first.");
            if (!await act.AnyAsync("SELECT 1 FROM draft w JOIN draft_leaf l ON l.draft_id = w.id WHERE w.document_id = $1 AND l.frame ->> 'kind' = 'scene'", [wanted.Model], stop))
                throw Refused.Invalid("no-model", "This document is no model: none of its drafts has a shape. Choose another.");
            act.Write(
                "INSERT INTO document_shown (document_id, model_id, component, person_id, at) VALUES ($1, $2, $3, $4, $5) ON CONFLICT (document_id, model_id) DO UPDATE SET component = excluded.component, person_id = excluded.person_id, at = excluded.at",
                document, wanted.Model, component, who.Id, act.At.UtcDateTime);
        }
        else
        {
            act.Write("DELETE FROM document_shown WHERE document_id = $1 AND model_id = $2", document, wanted.Model);
        }
        var number = (await act.ListAsync("SELECT number FROM document WHERE id = $1", r => r.GetString(0), [wanted.Model], stop))[0];
        await act.AppendAsync(document, wanted.IsShown ? "model related" : "relation taken away", "", new { wanted.Model, Number = number, Component = component }, stop);
        act.Remember(wanted.Key, new Kept());
        await act.CommitAsync(stop);
        changes.Announce("sheets", draft);
    }
}
