using Microsoft.AspNetCore.OpenApi;
using Microsoft.OpenApi;

namespace Froe.Server;

/// <summary>In the server's description of itself, each kind of a thing must say which it is: without that it could be none of them, and the pages' types tell them apart by it.</summary>
internal static class KindsTold
{
    public static Task DescribeAsync(OpenApiDocument document, OpenApiDocumentTransformerContext context, CancellationToken stop)
    {
        var schemas = document.Components?.Schemas ?? new Dictionary<string, IOpenApiSchema>();
        foreach (var told in schemas.Values.OfType<OpenApiSchema>().Select(s => s.Discriminator).OfType<OpenApiDiscriminator>())
            foreach (var kind in told.Mapping?.Values ?? [])
                if (kind.Reference.Id is { } id && schemas.TryGetValue(id, out var schema) && schema is OpenApiSchema one)
                    (one.Required ??= new HashSet<string>()).Add(told.PropertyName!);
        return Task.CompletedTask;
    }
}
