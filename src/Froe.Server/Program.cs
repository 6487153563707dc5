using System.Collections;
using System.Net;
using System.Text.Json;
using System.Text.Json.Serialization;
using System.Text.Json.Serialization.Metadata;
using Froe.Server;
using Froe.Server.Absences;
using Froe.Server.Administration;
using Froe.Server.Desk;
using Froe.Server.Exchange;
using Froe.Server.Files;
using Froe.Server.Ledger;
using Froe.Server.Lists;
using Froe.Server.Live;
using Froe.Server.Notes;
using Froe.Server.Overlays;
using Froe.Server.Packages;
using Froe.Server.Plans;
using Froe.Server.Post;
using Froe.Server.Register;
using Froe.Server.Scenes;
using Froe.Server.SignIn;
using Microsoft.AspNetCore.Antiforgery;
using Microsoft.AspNetCore.Diagnostics.HealthChecks;
using Microsoft.AspNetCore.HttpOverrides;
using Microsoft.Extensions.FileProviders;
using Microsoft.Extensions.Options;
using Microsoft.OpenApi;
using Serilog;
using Serilog.Events;
using Serilog.Formatting.Json;

const string SessionCookie = "froe";
var builder = WebApplication.CreateBuilder(args);
builder.Services.Configure<Settings>(builder.Configuration.GetSection("Froe"));
builder.Services.AddFroe(builder.Configuration.GetSection("Froe").Get<Settings>() ?? new Settings());
builder.Services.AddSerilog(log => log
    .MinimumLevel.Information()
    .MinimumLevel.Override("Microsoft", LogEventLevel.Warning)
    .MinimumLevel.Override("System.Net", LogEventLevel.Warning)
    .WriteTo.Console(new JsonFormatter(renderMessage: true)));
builder.WebHost.ConfigureKestrel((context, kestrel) =>
{
    kestrel.AddServerHeader = false;
    kestrel.Limits.MaxRequestBodySize = 1 << 20;
});
builder.Services.ConfigureHttpJsonOptions(json =>
{
    json.SerializerOptions.Converters.Add(new JsonStringEnumConverter(System.Text.Json.JsonNamingPolicy.CamelCase, allowIntegerValues: false));
    json.SerializerOptions.AllowOutOfOrderMetadataProperties = true;
    json.SerializerOptions.NumberHandling = JsonNumberHandling.Strict;
    // What the types call given is given: a request that leaves it out is refused at the door.
    json.SerializerOptions.RespectNullableAnnotations = true;
    json.SerializerOptions.RespectRequiredConstructorParameters = true;
    json.SerializerOptions.TypeInfoResolverChain.Insert(0, new DefaultJsonTypeInfoResolver { Modifiers = { ReadStrictly, TextBounds.Keep } });
});
builder.Services.Configure<RouteHandlerOptions>(o => o.ThrowOnBadRequest = true);
builder.Services.AddProblemDetails();
builder.Services.AddExceptionHandler<RefusalAnswers>();
// What is asked after the question mark is described as pages write it.
builder.Services.AddOpenApi(o => o.AddOperationTransformer((operation, _, _) =>
{
    foreach (var parameter in operation.Parameters?.OfType<OpenApiParameter>() ?? []) parameter.Name = JsonNamingPolicy.CamelCase.ConvertName(parameter.Name!);
    return Task.CompletedTask;
}).AddDocumentTransformer(TextBounds.DescribeAsync).AddDocumentTransformer(KindsTold.DescribeAsync));
builder.Services.AddSignalR();
builder.Services.AddHealthChecks().AddCheck<Readiness>("ready");
builder.Services.AddResponseCompression(o =>
{
    o.EnableForHttps = true;
    o.MimeTypes = ["application/json", "application/vnd.froe.sheet", "text/html", "text/css", "text/javascript", "image/svg+xml", "font/woff2"];
});
builder.Services.AddAuthentication("froe").AddCookie("froe", cookie =>
{
    cookie.Cookie.Name = SessionCookie;
    cookie.Cookie.SameSite = SameSiteMode.Strict;
    cookie.Cookie.HttpOnly = true;
    // Whether a session goes on is said by its row; the cookie only names it.
    cookie.ExpireTimeSpan = TimeSpan.FromDays(7);
    cookie.Events.OnValidatePrincipal = async context =>
    {
        var signed = Who.SessionOf(context.Principal!) is { } id ? await context.HttpContext.RequestServices.GetRequiredService<Sessions>().FindAsync(id, context.HttpContext.RequestAborted) : null;
        if (signed is null) context.RejectPrincipal();
        else context.ReplacePrincipal(Who.Principal(signed));
    };
    cookie.Events.OnRedirectToLogin = context => Answer(context.Response, StatusCodes.Status401Unauthorized);
    cookie.Events.OnRedirectToAccessDenied = context => Answer(context.Response, StatusCodes.Status403Forbidden);
});
builder.Services.AddAuthorization();
builder.Services.AddAntiforgery(o =>
{
    o.HeaderName = "X-Froe-Form";
    o.Cookie.Name = "froe-form";
    o.Cookie.SameSite = SameSiteMode.Strict;
});
builder.Services.AddHsts(o => o.MaxAge = TimeSpan.FromDays(365));
builder.Services.Configure<ForwardedHeadersOptions>(o =>
{
    o.ForwardedHeaders = ForwardedHeaders.XForwardedFor | ForwardedHeaders.XForwardedProto;
    o.KnownProxies.Clear();
    o.KnownIPNetworks.Clear();
    foreach (var proxy in (builder.Configuration.GetSection("Froe").Get<Settings>() ?? new Settings()).Proxies.Split(',', StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries))
        if (proxy.Contains('/', StringComparison.Ordinal)) o.KnownIPNetworks.Add(System.Net.IPNetwork.Parse(proxy));
        else o.KnownProxies.Add(IPAddress.Parse(proxy));
});

var app = builder.Build();
var settings = app.Services.GetRequiredService<IOptions<Settings>>().Value;
if (settings.PasswordRounds < Passwords.Rounds && app.Environment.IsProduction() && !settings.Demo)
    throw new InvalidOperationException($"Froe__PasswordRounds is {settings.PasswordRounds}; people's passwords need {Passwords.Rounds} or more. Leave it out.");
if (settings.Proxies.Length > 0) app.UseForwardedHeaders();
app.UseHsts();
app.Use(SecureHeaders);
app.UseExceptionHandler();
app.UseResponseCompression();
app.Use(TextBounds.DemandAddress);
if (settings.Web.Length > 0)
{
    var files = new PhysicalFileProvider(Path.GetFullPath(settings.Web));
    app.Use(BuiltFiles.ChooseCompressed(files));
    app.UseStaticFiles(BuiltFiles.Served(files));
}
app.UseRouting();
app.UseAuthentication();
app.UseAuthorization();
app.Use(DemandFormToken);
app.Use(Once.RunAsync);

var api = app.MapGroup("/api").RequireAuthorization();
SessionEndpoints.Map(api);
AdministrationEndpoints.Map(api);
RegisterEndpoints.Map(api);
SceneEndpoints.Map(api);
PackageEndpoints.Map(api);
NoteEndpoints.Map(api);
PhraseEndpoints.Map(api);
OverlayEndpoints.Map(api);
ExchangeEndpoints.Map(api);
DeskEndpoints.Map(api);
Pins.Map(api);
PlanEndpoints.Map(api);
AbsenceEndpoints.Map(api);
PostEndpoints.Map(api);
ViewEndpoints.Map(api);
LedgerEndpoints.Map(api);
api.MapFallback(() => TypedResults.NotFound()).ExcludeFromDescription();
app.MapHub<LiveHub>("/live").RequireAuthorization();
app.MapOpenApi();
// Live: this process answers. Ready: it can do its work, and if not, why.
app.MapHealthChecks("/health/live", new HealthCheckOptions { Predicate = _ => false }).AllowAnonymous();
app.MapHealthChecks("/health/ready", new HealthCheckOptions { ResponseWriter = (context, report) => context.Response.WriteAsync(report.Entries.Values.FirstOrDefault().Description ?? report.Status.ToString()) }).AllowAnonymous();
if (settings.Web.Length > 0)
    // Nobody need be known for it, nor the database be there: the page says itself what is wrong.
    app.MapFallbackToFile("index.html", BuiltFiles.Page(new PhysicalFileProvider(Path.GetFullPath(settings.Web)), SessionCookie)).ShortCircuit();
await app.RunAsync();

// What may be null may be left out; what a list or a table holds may not be null, though annotations are looked at for properties only.
static void ReadStrictly(JsonTypeInfo type)
{
    foreach (var property in type.Properties)
        if (property.IsRequired && (property.IsSetNullable || property.AssociatedParameter is { IsNullable: true })) property.IsRequired = false;
    if (type.Kind is JsonTypeInfoKind.Enumerable or JsonTypeInfoKind.Dictionary && type.ElementType is { IsValueType: false })
        type.OnDeserialized = values =>
        {
            if (values is IDictionary table ? table.Values.Cast<object?>().Contains(null) : ((IEnumerable)values).Cast<object?>().Contains(null)) throw new JsonException();
        };
}

static Task Answer(HttpResponse response, int status)
{
    response.StatusCode = status;
    return Task.CompletedTask;
}

static Task SecureHeaders(HttpContext context, RequestDelegate next)
{
    // When the answer begins, so that errors bear them as well.
    context.Response.OnStarting(() =>
    {
        var headers = context.Response.Headers;
        headers.ContentSecurityPolicy =
            "default-src 'none'; script-src 'self' 'wasm-unsafe-eval'; style-src 'self' 'unsafe-inline'; img-src 'self' data: blob:; font-src 'self'; connect-src 'self'; worker-src 'self'; base-uri 'none'; form-action 'self'; frame-ancestors 'none'";
        headers.XContentTypeOptions = "nosniff";
        headers["Referrer-Policy"] = "no-referrer";
        headers["Cross-Origin-Opener-Policy"] = "same-origin";
        // What people are told is for them alone: nothing on the way keeps it, unless an endpoint says that it may.
        if (context.Request.Path.StartsWithSegments("/api") && headers.CacheControl.Count == 0) headers.CacheControl = "no-store";
        return Task.CompletedTask;
    });
    return next(context);
}

static async Task DemandFormToken(HttpContext context, RequestDelegate next)
{
    var changes = !HttpMethods.IsGet(context.Request.Method) && !HttpMethods.IsHead(context.Request.Method);
    if (changes && context.Request.Path.StartsWithSegments("/api"))
    {
        // Where the body is a file it has its own bound, and the token is in a header.
        if (context.GetEndpoint()?.Metadata.GetMetadata<TakesFile>() is not null && context.Features.Get<Microsoft.AspNetCore.Http.Features.IHttpMaxRequestBodySizeFeature>() is { IsReadOnly: false } size)
            size.MaxRequestBodySize = context.RequestServices.GetRequiredService<IOptions<Settings>>().Value.MostUploadBytes + 1;
        await context.RequestServices.GetRequiredService<IAntiforgery>().ValidateRequestAsync(context);
    }
    await next(context);
}
