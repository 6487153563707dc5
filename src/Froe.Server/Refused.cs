using Froe.Core.Routing;
using Froe.Store;
using Microsoft.AspNetCore.Diagnostics;
using Microsoft.AspNetCore.Mvc;

namespace Froe.Server;

/// <summary>Ends a request with a refusal that its reader can act on; the open transaction is rolled back on the way.</summary>
public sealed class Refused(Refusal refusal, int status = StatusCodes.Status409Conflict) : Exception(refusal.Reason)
{
    /// <summary>The refusal.</summary>
    public Refusal Refusal { get; } = refusal;

    /// <summary>HTTP status.</summary>
    public int Status { get; } = status;

    /// <summary>What was asked for is not there, or is not for this person to know of.</summary>
    public static Refused Missing(string what) => new(new Refusal("not-found", $"There is no such {what}."), StatusCodes.Status404NotFound);

    /// <summary>The person may not do this.</summary>
    public static Refused Forbidden(string reason) => new(new Refusal("not-allowed", reason), StatusCodes.Status403Forbidden);

    /// <summary>What was sent cannot be used.</summary>
    public static Refused Invalid(string code, string reason) => new(new Refusal(code, reason), StatusCodes.Status422UnprocessableEntity);
}

/// <summary>The one place where refusals become problem details (RFC 9457).</summary>
internal sealed class RefusalAnswers(IProblemDetailsService problems) : IExceptionHandler
{
    /// <summary>Says where in a request Froe stopped reading, as far as that is known.</summary>
    private static string Unreadable(BadHttpRequestException e) => e.StatusCode switch
    {
        StatusCodes.Status413PayloadTooLarge => "That is more than can be sent at once. Send less, or in parts.",
        _ when e.InnerException is System.Text.Json.JsonException { Path: { Length: > 2 } path } => $"What was sent could not be read at “{path.TrimStart('$', '.')}”. Reload the page and try again.",
        _ => "What was sent could not be read. Reload the page and try again.",
    };

    public async ValueTask<bool> TryHandleAsync(HttpContext httpContext, Exception exception, CancellationToken cancellationToken)
    {
        var refused = exception switch
        {
            Refused r => r,
            Microsoft.AspNetCore.Antiforgery.AntiforgeryValidationException =>
                new Refused(new Refusal("stale-page", "This page is from an earlier session. Reload it; what you typed stays here."), StatusCodes.Status400BadRequest),
            InvalidDataException e => Refused.Invalid("bad-file", e.Message),
            UnstorableTextException e => Refused.Invalid("unstorable-text", e.Message),
            BadHttpRequestException e => new Refused(new Refusal("unreadable", Unreadable(e)), e.StatusCode),
            _ => null,
        };
        if (refused is null) return false;
        httpContext.Response.StatusCode = refused.Status;
        return await problems.TryWriteAsync(new ProblemDetailsContext
        {
            HttpContext = httpContext,
            ProblemDetails = new ProblemDetails
            {
                Status = refused.Status,
                Title = refused.Refusal.Reason,
                Extensions = { ["code"] = refused.Refusal.Code },
            },
        });
    }
}
