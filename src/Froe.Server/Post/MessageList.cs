using Froe.Server.Lists;
using Froe.Server.SignIn;
using Froe.Store;

namespace Froe.Server.Post;

/// <summary>Which messages are asked for; what is left out does not matter.</summary>
/// <param name="Search">Words of the subject or the text.</param>
/// <param name="Unread">Only what was not read yet.</param>
/// <param name="Sort">A column, after a minus for the greatest first.</param>
internal sealed record MessagesAsked(string? Search, bool? Unread, string? Sort);

/// <summary>A person's messages as a list.</summary>
internal sealed class MessageList(Database database)
{
    private const int PageSize = 50, FilePageSize = 500;

    private static readonly Listing<PostedMessage> Columns = new(
        "-at",
        new("at", "At", (m, zone) => CsvFile.Time(m.At, zone), ListOrder.By<PostedMessage, DateTimeOffset, Guid>("m.at", m => m.At, "m.id", m => m.Id)),
        new("subject", "Subject", (m, _) => m.Subject),
        new("text", "Text", (m, _) => m.Body),
        new("read", "Read", (m, zone) => m.ReadAt is { } read ? CsvFile.Time(read, zone) : ""));

    public Task<ListPage<PostedMessage>> PageAsync(Who who, MessagesAsked asked, string? after, CancellationToken stop) => PageAsync(who, asked, after, PageSize, stop);

    /// <summary>Everything asked for, as a file.</summary>
    public Task WriteAsync(Who who, MessagesAsked asked, string? columns, string? zone, HttpContext context) => CsvFile.WriteAsync(
        context, "messages", Columns.Columns(columns), CsvFile.Zone(zone), after => PageAsync(who, asked, after, FilePageSize, context.RequestAborted));

    private Task<ListPage<PostedMessage>> PageAsync(Who who, MessagesAsked asked, string? after, int size, CancellationToken stop)
    {
        var all = new Conditions();
        all.Add("m.person_id = @1", who.Id);
        all.AddWords(asked.Search, "m.subject ILIKE @1 OR m.body ILIKE @1");
        if (asked.Unread == true) all.Add("m.read_at IS NULL");
        return Columns.PageAsync(asked.Sort, after, all, size, (order, most) => database.SearchAsync(
            $"SELECT m.id, m.at, m.subject, m.body, m.link, m.read_at FROM message m WHERE {all} ORDER BY {order} LIMIT {most}",
            r => new PostedMessage(r.GetGuid(0), r.Time(1), r.GetString(2), r.GetString(3), r.GetString(4), r.TimeOrNull(5)), all.Values, false, stop));
    }
}
