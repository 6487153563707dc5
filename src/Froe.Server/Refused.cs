using System.Globalization;
using Froe.Core.Routing;
using Froe.Server.SignIn;
using Froe.Store;
using Microsoft.AspNetCore.Diagnostics;
using Microsoft.AspNetCore.Mvc;
using Npgsql;

namespace Froe.Server;

/// <summary>Ends a request with a refusal that its reader can act on; the open transaction is rolled back on the way.</summary>
public sealed class Refused(Refusal refusal, int status = StatusCodes.Status409Conflict) : Exception(refusal.Reason)
{
    /// <summary>The refusal.</summary>
    public Refusal Refusal { get; } = refusal;

    /// <summary>HTTP status.</summary>
    public int Status { get; } = status;

    /// <summary>When it is worth trying again; null when it is not by waiting.</summary>
    public TimeSpan? RetryAfter { get; init; }

    /// <summary>Markups that have changed since they were looked at; null when it is not about that.</summary>
    public IReadOnlyList<Guid>? Stale { get; init; }

    /// <summary>What was asked for is not there, or is not for this person to know of.</summary>
    public static Refused Missing(string what) => new(new Refusal("not-found", $"There is no such {what}."), StatusCodes.Status404NotFound);

    /// <summary>The person may not do this.</summary>
    public static Refused Forbidden(string reason) => new(new Refusal("not-allowed", reason), StatusCodes.Status403Forbidden);

    /// <summary>What was sent cannot be used.</summary>
    public static Refused Invalid(string code, string reason) => new(new Refusal(code, reason), StatusCodes.Status422UnprocessableEntity);

    /// <summary>It is no more what somebody saw when they began to change it: what they do not know of would be undone.</summary>
    public static Refused ChangedMeanwhile(string what) => new(new Refusal("changed-meanwhile", $"Somebody else changed {what} since you opened it. Look at what it is now, and keep yours again."));

    /// <summary>It cannot be done just now.</summary>
    public static Refused Busy(string code, string reason, TimeSpan wait, int status = StatusCodes.Status503ServiceUnavailable) => new(new Refusal(code, reason), status) { RetryAfter = wait };
}

/// <summary>The one place where refusals become problem details (RFC 9457).</summary>
internal sealed class RefusalAnswers(IProblemDetailsService problems, SecurityLog log) : IExceptionHandler
{
    private static readonly TimeSpan Soon = TimeSpan.FromSeconds(5);

    /// <summary>Says where in a request Froe stopped reading, as far as that is known.</summary>
    private static string Unreadable(Exception? read) => read is System.Text.Json.JsonException { Path: { Length: > 2 } path }
        ? $"What was sent could not be read at “{path.TrimStart('$', '.')}”. Try again; if it fails again, tell your administrator."
        : "What was sent could not be read. Try again; if it fails again, tell your administrator.";

    private static string Waiting(TimeSpan wait) => wait.TotalSeconds < 90
        ? string.Create(CultureInfo.InvariantCulture, $"{Math.Max(1, Math.Ceiling(wait.TotalSeconds)):0} seconds")
        : string.Create(CultureInfo.InvariantCulture, $"{Math.Ceiling(wait.TotalMinutes):0} minutes");

    public async ValueTask<bool> TryHandleAsync(HttpContext httpContext, Exception exception, CancellationToken cancellationToken)
    {
        var refused = exception switch
        {
            Refused r => r,
            Microsoft.AspNetCore.Antiforgery.AntiforgeryValidationException when !Causes(exception).Any(e => e is NpgsqlException) =>
                new Refused(new Refusal("stale-page", "This page is from an earlier session. Sign in again; what you typed stays here."), StatusCodes.Status400BadRequest),
            TooManyGuessesException e => Refused.Busy("too-many-attempts", $"Too many attempts. Wait {Waiting(e.Wait)}, then try again.", e.Wait, StatusCodes.Status429TooManyRequests),
            InvalidDataException e => Refused.Invalid("bad-file", e.Message),
            UnstorableTextException e => Refused.Invalid("unstorable-text", e.Message),
            BadHttpRequestException { StatusCode: StatusCodes.Status413PayloadTooLarge } => new Refused(new Refusal("unreadable", "That is more than can be sent at once. Send less, or in parts."), StatusCodes.Status413PayloadTooLarge),
            BadHttpRequestException { InnerException: System.Text.Json.JsonException { Data: var data } } when data["why"] is string why => Refused.Invalid("too-long", why),
            BadHttpRequestException e => new Refused(new Refusal("unreadable", Unreadable(e.InnerException)), e.StatusCode),
            // A kind of thing that is not named, or not known, is the request's fault.
            NotSupportedException { Source: "System.Text.Json" } or System.Text.Json.JsonException => new Refused(new Refusal("unreadable", Unreadable(exception)), StatusCodes.Status400BadRequest),
            Files.AlteredContentException => new Refused(new Refusal("content-altered", "The stored file is not what its hash says, so it is not given out. Tell your administrator: ./froe verify says more."), StatusCodes.Status500InternalServerError),
            // Whatever it is wrapped in on its way: keys of sessions are read from there as well.
            _ when Causes(exception).OfType<PostgresException>().FirstOrDefault() is { } told => ByState(told),
            _ when Causes(exception).Any(e => e is NpgsqlException or TimeoutException) => Away(),
            _ => null,
        };
        if (refused is null) return false;
        if (refused.Status == StatusCodes.Status403Forbidden) log.Write(SecurityEvents.Refused, Who.IdOf(httpContext.User), "", $"{httpContext.Request.Method} {httpContext.Request.Path}: {refused.Message}");
        httpContext.Response.StatusCode = refused.Status;
        if (refused.RetryAfter is { } wait) httpContext.Response.Headers.RetryAfter = string.Create(CultureInfo.InvariantCulture, $"{Math.Max(1, Math.Ceiling(wait.TotalSeconds)):0}");
        var more = new Dictionary<string, object?> { ["code"] = refused.Refusal.Code };
        if (refused.Stale is { } stale) more["stale"] = stale;
        // What an endpoint had said of its own answer, such as how it may be kept, is not said of a refusal.
        return await problems.TryWriteAsync(new ProblemDetailsContext
        {
            HttpContext = httpContext,
            ProblemDetails = new ProblemDetails
            {
                Status = refused.Status,
                Title = refused.Refusal.Reason,
                Extensions = more,
            },
        });
    }

    private static IEnumerable<Exception> Causes(Exception? exception)
    {
        for (; exception is not null; exception = exception.InnerException) yield return exception;
    }

    /// <summary>What the database's own error means to who asked (PostgreSQL, Appendix A); null for what is a fault of Froe's.</summary>
    private static Refused? ByState(PostgresException told) => told.SqlState switch
    {
        PostgresErrorCodes.QueryCanceled => Refused.Busy("too-much-asked", "This search takes longer than is good for everybody. Add another word or a filter and try again.", Soon),
        PostgresErrorCodes.DiskFull => Refused.Busy("no-room", "There is no room left where Froe keeps its data. Nothing was done and what you typed stays here; tell your administrator.", Soon),
        // It stops or starts; another stands in for it that takes no writes yet; or it lets the server in no more.
        PostgresErrorCodes.AdminShutdown or PostgresErrorCodes.CrashShutdown or PostgresErrorCodes.CannotConnectNow or PostgresErrorCodes.ReadOnlySqlTransaction
            or PostgresErrorCodes.InvalidAuthorizationSpecification or PostgresErrorCodes.InvalidPassword or PostgresErrorCodes.InvalidCatalogName => Away(),
        _ => told.IsTransient ? Away() : null,
    };

    private static Refused Away() => Refused.Busy("database-away", "Froe cannot reach its database just now. Nothing was done and what you typed stays here; try again in a moment.", Soon);
}
