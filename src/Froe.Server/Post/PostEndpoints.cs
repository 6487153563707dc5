using Froe.Server.SignIn;
using Froe.Store;

namespace Froe.Server.Post;

/// <summary>A page of messages.</summary>
public sealed record MessagePage(IReadOnlyList<PostedMessage> Messages, int Unread, bool More);

/// <summary>Marks one message, or all, as read.</summary>
public sealed record ReadMessages(Guid? Id);

/// <summary>A person's messages.</summary>
internal static class PostEndpoints
{
    private const int PageSize = 50;

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/messages", async (Who who, Store.Post post, DateTimeOffset? before, Guid? beforeId, CancellationToken stop) =>
        {
            var messages = await post.ListAsync(who.Id, before ?? DateTimeOffset.MaxValue.AddDays(-2), beforeId ?? Guid.Empty, PageSize + 1, stop);
            return new MessagePage(messages.Take(PageSize).ToList(), await post.UnreadAsync(who.Id, stop), messages.Count > PageSize);
        });
        api.MapPost("/messages/read", async (ReadMessages wanted, Who who, Store.Post post, TimeProvider clock, CancellationToken stop) =>
        {
            await post.ReadAsync(who.Id, wanted.Id, clock.GetUtcNow(), stop);
            return TypedResults.NoContent();
        });
    }
}
