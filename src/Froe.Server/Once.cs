using System.Text.Json;
using Froe.Server.SignIn;
using Froe.Store;

namespace Froe.Server;

/// <summary>
/// Does what a page asks for once, however often it is sent: a request that changes something bears a key of its own in
/// Idempotency-Key (draft-ietf-httpapi-idempotency-key-header, clause 2), and a second of the same key gets the answer of the first.
/// Acts that carry their key in their body keep it in their own transaction (<see cref="Act.SeenAsync"/>); this is for all others,
/// whose second doing their own rules refuse or make harmless: between a commit and this answer's keeping a server may die.
/// </summary>
internal sealed class Once(Database database, TimeProvider clock)
{
    private const string Header = "Idempotency-Key";

    /// <summary>The longest answer that is kept, in bytes; none of those that bear a key comes near it.</summary>
    private const int MostBytes = 256 * 1024;

    /// <summary>After this a request whose server died is taken for never begun.</summary>
    private static readonly TimeSpan Forgotten = TimeSpan.FromMinutes(2);

    /// <summary>An answer as it is kept.</summary>
    private sealed record Kept(string What, int Status, string? Type, string Body);

    /// <summary>Runs the rest of the pipeline for the first request of a key only.</summary>
    public static async Task RunAsync(HttpContext context, RequestDelegate next)
    {
        if (!Guid.TryParse(context.Request.Headers[Header], out var key) || Who.IdOf(context.User) is not { } person || HttpMethods.IsGet(context.Request.Method))
        {
            await next(context);
            return;
        }
        await context.RequestServices.GetRequiredService<Once>().RunAsync(context, next, person, key);
    }

    private static string What(HttpRequest request) => $"{request.Method} {request.Path}{request.QueryString}";

    private async Task RunAsync(HttpContext context, RequestDelegate next, Guid person, Guid key)
    {
        var stop = context.RequestAborted;
        var now = clock.GetUtcNow().UtcDateTime;
        var isFirst = await database.RunAsync(
            """
            INSERT INTO request_seen (person_id, key, at, answer) VALUES ($1, $2, $3, '')
            ON CONFLICT (person_id, key) DO UPDATE SET at = excluded.at WHERE request_seen.answer = '' AND request_seen.at < $4
            """,
            [person, key, now, now - Forgotten], stop) > 0;
        if (!isFirst)
        {
            var before = await database.FirstAsync("SELECT answer FROM request_seen WHERE person_id = $1 AND key = $2", r => r.GetString(0), [person, key], stop);
            if (string.IsNullOrEmpty(before)) throw Refused.Busy("under-way", "This is still being done. Wait a moment, then look.", TimeSpan.FromSeconds(2), StatusCodes.Status409Conflict);
            var kept = JsonSerializer.Deserialize<Kept>(before, Act.Json)!;
            if (kept.What != What(context.Request)) throw Refused.Invalid("key-used", "Something else was asked for with this key. Open the page again and repeat what you did.");
            context.Response.StatusCode = kept.Status;
            context.Response.ContentType = kept.Type;
            if (kept.Body.Length > 0) await context.Response.WriteAsync(kept.Body, stop);
            return;
        }
        var answer = context.Response.Body;
        using var held = new MemoryStream();
        var isKept = false;
        context.Response.Body = held;
        try
        {
            await next(context);
            if (context.Response.StatusCode is >= 200 and < 300 && held.Length <= MostBytes)
            {
                // Whoever asked may be gone by now; what was done is done.
                var body = new Kept(What(context.Request), context.Response.StatusCode, context.Response.ContentType, System.Text.Encoding.UTF8.GetString(held.GetBuffer(), 0, (int)held.Length));
                await database.RunAsync("UPDATE request_seen SET answer = $3 WHERE person_id = $1 AND key = $2", [person, key, JsonSerializer.Serialize(body, Act.Json)], CancellationToken.None);
                isKept = true;
            }
        }
        finally
        {
            context.Response.Body = answer;
            // What was refused, or went wrong, may be asked for again.
            if (!isKept) await database.RunAsync("DELETE FROM request_seen WHERE person_id = $1 AND key = $2 AND answer = ''", [person, key], CancellationToken.None);
        }
        held.Position = 0;
        await held.CopyToAsync(answer, stop);
    }
}
