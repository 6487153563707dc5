using Microsoft.AspNetCore.StaticFiles;
using Microsoft.Extensions.FileProviders;
using Microsoft.Net.Http.Headers;

namespace Froe.Server;

/// <summary>The pages' built files, which lie beside their compressed forms: a file of the name with .br (RFC 7932) or .gz (RFC 1952).</summary>
internal static class BuiltFiles
{
    /// <summary>The encodings there may be, the smaller first, by their names in HTTP (RFC 9110, clause 8.4.1) and the endings of the files.</summary>
    private static readonly (string Name, string Ending)[] Encodings = [("br", ".br"), ("gzip", ".gz")];

    /// <summary>What the path was when the browser asked, where a compressed form was chosen for it.</summary>
    private static readonly object Chosen = new();

    /// <summary>Leads a request to the smallest form of the file that the browser can read.</summary>
    public static Func<HttpContext, RequestDelegate, Task> ChooseCompressed(PhysicalFileProvider files) => (context, next) =>
    {
        var request = context.Request;
        if (!request.Path.StartsWithSegments("/assets") || !(HttpMethods.IsGet(request.Method) || HttpMethods.IsHead(request.Method))) return next(context);
        var accepted = request.GetTypedHeaders().AcceptEncoding;
        foreach (var (name, ending) in Encodings)
            if (accepted.Any(a => a.Value.Equals(name, StringComparison.OrdinalIgnoreCase) && a.Quality is null or > 0) && files.GetFileInfo(request.Path + ending).Exists)
            {
                context.Items[Chosen] = (name, request.Path);
                request.Path += ending;
                break;
            }
        return next(context);
    };

    /// <summary>How the files are served: each as what it is before it was compressed.</summary>
    public static StaticFileOptions Served(PhysicalFileProvider files)
    {
        var types = new FileExtensionContentTypeProvider();
        foreach (var (_, ending) in Encodings) types.Mappings[ending] = "application/octet-stream";
        return new StaticFileOptions
        {
            FileProvider = files,
            ContentTypeProvider = types,
            OnPrepareResponse = file =>
            {
                var headers = file.Context.Response.Headers;
                // Built files carry their hash in their name; the page that names them does not.
                var isBuilt = file.Context.Request.Path.StartsWithSegments("/assets");
                headers.CacheControl = isBuilt ? "public, max-age=31536000, immutable" : "no-cache";
                if (!isBuilt) return;
                headers.Append(HeaderNames.Vary, HeaderNames.AcceptEncoding);
                if (file.Context.Items[Chosen] is not (string encoding, PathString asked)) return;
                headers.ContentEncoding = encoding;
                if (types.TryGetContentType(asked, out var type)) headers.ContentType = type;
            },
        };
    }

    /// <summary>How the page is served, whatever place of it an address names.</summary>
    /// <param name="session">the cookie of whoever is signed in; whether it still holds, its first question will say</param>
    public static StaticFileOptions Page(PhysicalFileProvider files, string session) => new()
    {
        FileProvider = files,
        OnPrepareResponse = page =>
        {
            var context = page.Context;
            // It names the built files, so it is asked for anew each time.
            context.Response.Headers.CacheControl = "no-cache";
            if (context.Request.Cookies.ContainsKey(session) && AskedFirst(context.GetRouteValue("path") as string ?? "") is { } first)
                context.Response.Headers.Append(HeaderNames.Link, $"<{first}>; rel=preload; as=fetch; crossorigin=anonymous");
        },
    };

    /// <summary>
    /// What the place of an address asks first (<c>firstAsked.ts</c>): named with the page, its answer is there before the page's script
    /// (RFC 8288; the link type “preload” of WHATWG HTML). What is not asked for after all costs one answer, and what is not named comes a little later.
    /// </summary>
    private static string? AskedFirst(string place) => place.Split('/') switch
    {
        [""] => "/api/desk",
        ["packages", var id] when Guid.TryParse(id, out var package) => $"/api/packages/{package}",
        _ => null,
    };
}
