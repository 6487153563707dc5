using Froe.Formats.Out;
using Froe.Server.SignIn;
using Microsoft.AspNetCore.Http.HttpResults;

namespace Froe.Server.Scenes;

/// <summary>What is asked of a model beyond its prepared forms.</summary>
internal static class SceneEndpoints
{
    private const string Leaf = "/drafts/{id:guid}/leaves/{position:int}";

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapPost($"{Leaf}/between", (Guid id, int position, BetweenAsked asked, Who who, MeasuringModels measuring, CancellationToken stop) => measuring.BetweenAsync(who, id, position, asked, stop));
        api.MapPost($"{Leaf}/measured", (Guid id, int position, MeasuresAsked asked, Who who, MeasuringModels measuring, CancellationToken stop) => measuring.MeasuredAsync(who, id, position, asked, stop));
        api.MapPost($"{Leaf}/found", (Guid id, int position, FindAsked asked, Who who, MeasuringModels measuring, CancellationToken stop) => measuring.FindAsync(who, id, position, asked, stop));
        api.MapGet($"{Leaf}/section", (Guid id, int position, [AsParameters] SectionAsked asked, Who who, Sectioning sectioning, CancellationToken stop) => sectioning.OfAsync(who, id, position, asked, stop));
        api.MapGet($"{Leaf}/section/geometry", (Guid id, int position, [AsParameters] SectionAsked asked, Who who, Sectioning sectioning, HttpContext context) => sectioning.SheetAsync(who, id, position, asked, false, context)).ExcludeFromDescription();
        api.MapGet($"{Leaf}/section/details", (Guid id, int position, [AsParameters] SectionAsked asked, Who who, Sectioning sectioning, HttpContext context) => sectioning.SheetAsync(who, id, position, asked, true, context)).ExcludeFromDescription();
        api.MapGet($"{Leaf}/section.svg", (Guid id, int position, [AsParameters] SectionAsked asked, Who who, Sectioning sectioning, HttpContext context) => sectioning.FileAsync(who, id, position, asked, false, context))
            .Produces(StatusCodes.Status200OK, contentType: SectionFile.SvgType);
        api.MapGet($"{Leaf}/section.dxf", (Guid id, int position, [AsParameters] SectionAsked asked, Who who, Sectioning sectioning, HttpContext context) => sectioning.FileAsync(who, id, position, asked, true, context))
            .Produces(StatusCodes.Status200OK, contentType: SectionFile.DxfType);
        api.MapGet($"{Leaf}/parts", (Guid id, int position, string? depth, string? densities, Who who, PartsLists lists, CancellationToken stop) => lists.OfAsync(who, id, position, depth, densities, stop));
        api.MapGet($"{Leaf}/parts.csv", (Guid id, int position, string? depth, string? densities, Who who, PartsLists lists, HttpContext context) => lists.FileAsync(who, id, position, depth, densities, false, context))
            .Produces(StatusCodes.Status200OK, contentType: "text/csv");
        api.MapGet($"{Leaf}/parts.xlsx", (Guid id, int position, string? depth, string? densities, Who who, PartsLists lists, HttpContext context) => lists.FileAsync(who, id, position, depth, densities, true, context))
            .Produces(StatusCodes.Status200OK, contentType: WorkbookFile.MediaType);
        api.MapGet($"{Leaf}/data", (Guid id, int position, string? densities, Who who, SceneData data, CancellationToken stop) => data.OfAsync(who, id, position, densities, stop));
        api.MapGet($"{Leaf}/items", (Guid id, int position, Guid model, int leaf, Who who, SceneData data, CancellationToken stop) => data.ItemsAsync(who, id, position, model, leaf, stop));
        api.MapGet($"{Leaf}/views", (Guid id, int position, Who who, KeptViews views, CancellationToken stop) => views.OfAsync(who, id, position, stop));
        api.MapPut($"{Leaf}/views", async (Guid id, int position, NewKeptView wanted, Who who, KeptViews views, CancellationToken stop) =>
        {
            await views.KeepAsync(who, id, position, wanted, stop);
            return TypedResults.NoContent();
        });
        api.MapDelete($"{Leaf}/views", async (Guid id, int position, string name, Who who, KeptViews views, CancellationToken stop) =>
        {
            await views.RemoveAsync(who, id, position, name, stop);
            return TypedResults.NoContent();
        });
        api.MapGet($"{Leaf}/stated", (Guid id, int position, Who who, ChoosingStated stated, CancellationToken stop) => stated.OfAsync(who, id, position, stop));
        api.MapPut($"{Leaf}/stated", async (Guid id, int position, NewStated wanted, Who who, ChoosingStated stated, CancellationToken stop) =>
        {
            await stated.SetAsync(who, id, position, wanted, stop);
            return TypedResults.NoContent();
        });
        api.MapGet($"{Leaf}/parts/{{part:int}}/box", (Guid id, int position, int part, Who who, MeasuringModels measuring, CancellationToken stop) => measuring.BoxAsync(who, id, position, part, stop));
        api.MapGet($"{Leaf}/parts/{{part:int}}/picture", Picture).ExcludeFromDescription();
    }

    private static async Task<FileContentHttpResult> Picture(Guid id, int position, int part, Who who, PartsLists lists, HttpContext context, CancellationToken stop)
    {
        var (bytes, type) = await lists.PictureAsync(who, id, position, part, stop);
        context.Response.Headers.CacheControl = "private, max-age=86400";
        return TypedResults.Bytes(bytes, type);
    }
}
