using Froe.Server.SignIn;

namespace Froe.Server.Overlays;

/// <summary>Overlays on drafts and what is drawn on them.</summary>
internal static class OverlayEndpoints
{
    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/drafts/{id:guid}/overlays", (Guid id, Who who, OverlayView view, CancellationToken stop) => view.OfDraftAsync(who, id, stop));
        api.MapPut("/drafts/{id:guid}/overlays/{overlay:guid}", async (Guid id, Guid overlay, OverlayName wanted, Who who, Marking marking, CancellationToken stop) =>
        {
            await marking.NameAsync(who, id, overlay, wanted, stop);
            return TypedResults.NoContent();
        });
        api.MapPost("/drafts/{id:guid}/markups", (Guid id, NewMarkupChanges wanted, Who who, Marking marking, CancellationToken stop) => marking.ChangeAsync(who, id, wanted, stop));
    }
}
