using System.Globalization;
using Froe.Server.SignIn;
using Microsoft.Net.Http.Headers;

namespace Froe.Server.Files;

/// <summary>Stored files as answers: proven before the first byte leaves, sent from disk, compressed where the browser takes it.</summary>
public sealed class FileAnswer(Spool spool, Transfers transfers)
{
    /// <summary>How long the file is when it has been unpacked: what progress is counted against.</summary>
    private const string SizeHeader = "X-Froe-Size";

    /// <summary>Sends a file.</summary>
    /// <exception cref="Refused">There is none, or too many are on their way.</exception>
    public async Task SendAsync(HttpContext context, Who who, byte[] sha256, string type)
    {
        ArgumentNullException.ThrowIfNull(context);
        ArgumentNullException.ThrowIfNull(who);
        var stop = context.RequestAborted;
        using var place = transfers.Begin(who.Id);
        if (await spool.OpenAsync(sha256, stop) is not { } opened) throw Refused.Missing("file");
        await using var stream = opened.Stream;
        var response = context.Response;
        response.ContentType = type;
        response.Headers[SizeHeader] = opened.File.Size.ToString(CultureInfo.InvariantCulture);
        if (opened.File.Encoding.Length == 0)
        {
            response.ContentLength = opened.File.Size;
            await stream.CopyToAsync(response.Body, stop);
            return;
        }
        response.Headers.Append(HeaderNames.Vary, HeaderNames.AcceptEncoding);
        if (Takes(context.Request, opened.File.Encoding))
        {
            response.Headers.ContentEncoding = opened.File.Encoding;
            response.ContentLength = stream.Length;
            await stream.CopyToAsync(response.Body, stop);
            return;
        }
        response.ContentLength = opened.File.Size;
        await using var plain = Spool.Plain(stream, opened.File.Encoding);
        await plain.CopyToAsync(response.Body, stop);
    }

    private static bool Takes(HttpRequest request, string encoding) =>
        StringWithQualityHeaderValue.TryParseList(request.Headers.AcceptEncoding, out var wanted) && wanted.Any(w => w.Value == encoding && w.Quality is not 0);
}
