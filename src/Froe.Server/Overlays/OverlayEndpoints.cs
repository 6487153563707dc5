using Froe.Server.SignIn;

namespace Froe.Server.Overlays;

/// <summary>Overlays on drafts and what is drawn on them.</summary>
internal static class OverlayEndpoints
{
    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/drafts/{id:guid}/overlays", (Guid id, Who who, OverlayView view, CancellationToken stop) => view.OfDraftAsync(who, id, stop));
        api.MapPut("/drafts/{id:guid}/overlays/{overlay:guid}", async (Guid id, Guid overlay, OverlayWanted wanted, Who who, Overlaying overlaying, CancellationToken stop) =>
        {
            await overlaying.SetAsync(who, id, overlay, wanted, stop);
            return TypedResults.NoContent();
        });
        api.MapDelete("/drafts/{id:guid}/overlays/{overlay:guid}", async (Guid id, Guid overlay, Who who, Overlaying overlaying, CancellationToken stop) =>
        {
            await overlaying.RemoveAsync(who, id, overlay, stop);
            return TypedResults.NoContent();
        });
        api.MapGet("/drafts/{id:guid}/overlays/earlier", (Guid id, Who who, Overlaying overlaying, CancellationToken stop) => overlaying.EarlierAsync(who, id, stop));
        api.MapPost("/drafts/{id:guid}/overlays/{overlay:guid}/copied", (Guid id, Guid overlay, OverlayCopy wanted, Who who, Overlaying overlaying, CancellationToken stop) => overlaying.CopyAsync(who, id, overlay, wanted, stop));
        api.MapPost("/drafts/{id:guid}/markups", (Guid id, NewMarkupChanges wanted, Who who, Marking marking, CancellationToken stop) => marking.ChangeAsync(who, id, wanted, stop));
    }
}
