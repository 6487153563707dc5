using Froe.Core.Exchange;
using Froe.Server.Files;
using Froe.Server.SignIn;

namespace Froe.Server.Exchange;

/// <summary>Drafts on their way out with what lies on them, and marked files that come back.</summary>
internal static class ExchangeEndpoints
{
    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/drafts/{id:guid}/marked", (Guid id, string @as, Guid[]? without, bool? carried, int? leaf, Who who, Outgoing outgoing, HttpContext context) =>
            outgoing.SendAsync(context, who, id, new OutAsked(FormOf(@as), without, carried, leaf))).ExcludeFromDescription().DisableRequestTimeout();
        api.MapGet("/drafts/{id:guid}/typed-dimensions", (Guid id, Who who, DimensionsTyped dimensions, CancellationToken stop) => dimensions.FindAsync(who, id, stop));
        api.MapPost("/drafts/{id:guid}/brought", (Guid id, Guid? key, Who who, HttpRequest request, Incoming incoming, CancellationToken stop) => incoming.TakeAsync(who, id, request.Body, key, stop))
            .WithMetadata(new TakesFile()).DisableRequestTimeout();
        api.MapPost("/drafts/{id:guid}/brought/own", (Guid id, Guid? key, Who who, Incoming incoming, CancellationToken stop) => incoming.TakeAsync(who, id, null, key, stop)).DisableRequestTimeout();
        api.MapPost("/drafts/{id:guid}/pictures", (Guid id, Who who, HttpRequest request, DraftPictures pictures, CancellationToken stop) => pictures.KeepAsync(who, id, request.Body, stop))
            .WithMetadata(new TakesFile()).DisableRequestTimeout();
        api.MapGet("/drafts/{id:guid}/pictures/{name}", (Guid id, string name, Who who, DraftPictures pictures, HttpContext context, CancellationToken stop) => pictures.SendAsync(context, who, id, name, stop))
            .ExcludeFromDescription();
        api.MapGet("/packages/{id:guid}/review-sheet", (Guid id, string? zone, Who who, ReviewSheets sheets, HttpContext context) => sheets.SendAsync(context, who, id, zone)).ExcludeFromDescription().DisableRequestTimeout();
        api.MapGet("/packages/{id:guid}/notes.csv", (Guid id, string? zone, Who who, NotesFile notes, HttpContext context) => notes.SendAsync(context, who, id, false, zone)).ExcludeFromDescription();
        api.MapGet("/packages/{id:guid}/notes.xlsx", (Guid id, string? zone, Who who, NotesFile notes, HttpContext context) => notes.SendAsync(context, who, id, true, zone)).ExcludeFromDescription();
    }

    private static OutForm FormOf(string name) => Enum.TryParse<OutForm>(name, ignoreCase: true, out var form) && Enum.IsDefined(form) && !char.IsAsciiDigit(name[0]) ? form
        : throw Refused.Invalid("no-such-form", $"Say as what it goes out: {string.Join(", ", Enum.GetNames<OutForm>())}.");
}
