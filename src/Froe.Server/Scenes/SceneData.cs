using Froe.Core.Models;
using Froe.Core.Register;
using Froe.Server.Register;
using Froe.Server.SignIn;

namespace Froe.Server.Scenes;

/// <summary>A document of the register that components of a model have the number of, or of which somebody said that they show it.</summary>
/// <param name="Components">By their places in the scene's list.</param>
public sealed record ComponentsOfDocument(NumberedDocument Document, IReadOnlyList<int> Components);

/// <summary>What is known of the components of a model besides their shapes.</summary>
public sealed record ComponentData(IReadOnlyList<Tint> Tints, IReadOnlyList<ComponentsOfDocument> Documents);

/// <summary>Tells what is known of the components of models.</summary>
public sealed class SceneData(PreparedModels models, Referring referring)
{
    /// <summary>Groups them by it, and gives the documents of their numbers.</summary>
    public async Task<ComponentData> OfAsync(Who who, Guid draft, int position, string? densities, CancellationToken stop)
    {
        var scene = await models.FactsAsync(who, draft, position, stop);
        var numbered = Enumerable.Range(0, scene.Components.Count).Where(c => scene.Components[c].Number.Length > 0).ToLookup(c => scene.Components[c].Number);
        var documents = numbered.Count == 0 ? [] : await referring.ByNumberAsync(who, draft, [.. numbered.Select(n => n.Key)], stop);
        var related = await referring.RelatedAsync(who, draft, stop);
        return new ComponentData(
            Tinting.Of(scene, documents.ToDictionary(d => d.Name.Number, d => new NumberedFacts(d.Discipline, d.Revision, d.Standing, d.ChangeOrder)), PartsLists.Densities(densities)),
            [.. documents.Select(d => new ComponentsOfDocument(d, [.. numbered[d.Name.Number]])), .. related.Where(r => documents.All(d => d.Name.Document != r.Document.Name.Document)).Select(r => new ComponentsOfDocument(r.Document, Meant(scene, r.Component)))]);
    }

    /// <summary>The components of a number or name; with none, all that lie in no other.</summary>
    private static IReadOnlyList<int> Meant(SceneFacts scene, string component) =>
        [.. Enumerable.Range(0, scene.Components.Count).Where(c => scene.Components[c] is var own && (component.Length == 0 ? own.Parent < 0 : own.Number == component || own.Name == component))];

    /// <summary>Where a leaf of a draft speaks of the components of a model.</summary>
    /// <param name="draft">The draft that speaks of them.</param>
    /// <param name="model">The model's draft.</param>
    public async Task<IReadOnlyList<ItemOnSheet>> ItemsAsync(Who who, Guid draft, int position, Guid model, int leaf, CancellationToken stop)
    {
        var scene = await models.FactsAsync(who, model, leaf, stop);
        return await referring.ItemsAsync(who, draft, position, ModelItems.Called(scene), number => ModelItems.Of(scene, number), stop);
    }
}
