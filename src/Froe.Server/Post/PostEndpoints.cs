using Froe.Core.Calendar;
using Froe.Server.SignIn;
using Froe.Store;

namespace Froe.Server.Post;

/// <summary>Marks one message, or all, as read.</summary>
public sealed record ReadMessages(Guid? Id);

/// <summary>A person's messages.</summary>
internal static class PostEndpoints
{
    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/messages", ([AsParameters] MessagesAsked asked, string? after, Who who, MessageList list, CancellationToken stop) => list.PageAsync(who, asked, after, stop));
        api.MapGet("/messages.csv", ([AsParameters] MessagesAsked asked, string? columns, string? zone, Who who, MessageList list, HttpContext context) => list.WriteAsync(who, asked, columns, zone, context))
            .Produces(StatusCodes.Status200OK, contentType: "text/csv").DisableRequestTimeout();
        api.MapPost("/messages/read", async (ReadMessages wanted, Who who, Store.Post post, TimeProvider clock, CancellationToken stop) =>
        {
            await post.ReadAsync(who.Id, wanted.Id, clock.GetUtcNow(), stop);
            return TypedResults.NoContent();
        });
        api.MapGet("/post-hours", async (Who who, Database database, CancellationToken stop) => await database.FirstAsync(
            "SELECT mode, digest_at, quiet_from, quiet_to FROM post_hours WHERE person_id = $1",
            r => new PostHours(Words.Parse<MailMode>(r.GetString(0)), r.GetInt32(1), r.GetInt32(2), r.GetInt32(3)), [who.Id], stop) ?? PostHours.Usual);
        api.MapPut("/post-hours", async (PostHours wanted, Who who, Database database, CancellationToken stop) =>
        {
            if (new[] { wanted.DigestAt, wanted.QuietFrom, wanted.QuietTo }.Any(m => m is < 0 or >= 1440)) throw Refused.Invalid("bad-hours", "An hour lies between 0:00 and 23:59.");
            await database.RunAsync(
                "INSERT INTO post_hours VALUES ($1, $2, $3, $4, $5) ON CONFLICT (person_id) DO UPDATE SET mode = excluded.mode, digest_at = excluded.digest_at, quiet_from = excluded.quiet_from, quiet_to = excluded.quiet_to",
                [who.Id, Words.Of(wanted.Mode), wanted.DigestAt, wanted.QuietFrom, wanted.QuietTo], stop);
            return TypedResults.NoContent();
        });
    }
}
