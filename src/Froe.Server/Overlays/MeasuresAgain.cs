using Froe.Core.Models;
using Froe.Core.Overlays;
using Froe.Server.Scenes;
using Froe.Server.SignIn;
using Froe.Store;

namespace Froe.Server.Overlays;

/// <summary>Measures on models as they are on another draft.</summary>
public sealed class MeasuresAgain(Database database, MeasuringModels models)
{
    /// <summary>Those of an overlay that belong to no note, by their markups, as they are on a draft: where all that they measure was surely found again.</summary>
    public async Task<IReadOnlyDictionary<Guid, ModelMeasure>> OfAsync(Who who, Guid draft, Guid overlay, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(who);
        var found = new Dictionary<Guid, ModelMeasure>();
        if (await OverlayRows.FindAsync(database, overlay, stop) is not { } on) return found;
        var all = from row in await OverlayRows.OnAsync(database, [overlay], stop)
                  where row.Markup is { Note: null, Shape: ModelMeasure }
                  select (row.Markup.Id, row.Markup.Place.Leaf, Shape: (ModelMeasure)row.Markup.Shape);
        foreach (var (leaf, measures) in all.GroupBy(m => m.Leaf).Select(g => (g.Key, g.ToList())))
        {
            foreach (var some in measures.Chunk(FoundAgain.Most / 2))
            {
                var spots = some.SelectMany(m => m.Shape.Of).Select(s => s.Picked()).ToList();
                if (await FindAsync(who, draft, leaf, new FindAsked(on.Draft, leaf, spots), stop) is not { } again) continue;
                var at = 0;
                foreach (var (id, _, shape) in some)
                {
                    if (shape.Again([.. again.Skip(at).Take(shape.Of.Length)]) is { } measure) found[id] = measure;
                    at += shape.Of.Length;
                }
            }
        }
        return found;
    }

    /// <summary>Null where the draft has no such model.</summary>
    private async Task<IReadOnlyList<FoundAgain>?> FindAsync(Who who, Guid draft, int leaf, FindAsked asked, CancellationToken stop)
    {
        try
        {
            return await models.FindAsync(who, draft, leaf, asked, stop);
        }
        catch (Refused refused) when (refused.Status == StatusCodes.Status404NotFound)
        {
            return null;
        }
    }
}
