using System.Net;
using System.Net.Sockets;
using System.Text;

namespace Froe.MailSink;

/// <summary>As much of SMTP (RFC 5321) as a sender needs: EHLO, MAIL, RCPT, DATA, RSET, NOOP, QUIT.</summary>
internal sealed class SmtpListener(IPAddress address, int port, MailFolder mails) : BackgroundService
{
    private const int LongestMail = 10 << 20;

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        using var listener = new TcpListener(address, port);
        listener.Start();
        while (!stoppingToken.IsCancellationRequested)
        {
            var client = await listener.AcceptTcpClientAsync(stoppingToken);
            _ = Task.Run(() => ServeAsync(client, stoppingToken), stoppingToken);
        }
    }

    private async Task ServeAsync(TcpClient client, CancellationToken stop)
    {
        using (client)
            try
            {
                var stream = client.GetStream();
                using var reader = new StreamReader(stream, Encoding.Latin1);
                await using var writer = new StreamWriter(stream, Encoding.ASCII) { NewLine = "\r\n", AutoFlush = true };
                await writer.WriteLineAsync("220 mail sink");
                while (await reader.ReadLineAsync(stop) is { } line)
                {
                    var verb = line.Split(' ', ':')[0].ToUpperInvariant();
                    if (verb == "DATA")
                    {
                        await writer.WriteLineAsync("354 end with a dot alone");
                        var mail = await ReadMailAsync(reader, stop);
                        if (mail is not null) mails.Keep(mail);
                        await writer.WriteLineAsync(mail is null ? "552 too long" : "250 kept");
                        continue;
                    }
                    await writer.WriteLineAsync(verb switch
                    {
                        "EHLO" => "250-mail sink\r\n250 8BITMIME",
                        "HELO" or "MAIL" or "RCPT" or "RSET" or "NOOP" => "250 ok",
                        "QUIT" => "221 bye",
                        _ => "502 not known here",
                    });
                    if (verb == "QUIT") return;
                }
            }
            catch (Exception e) when (e is IOException or SocketException or OperationCanceledException)
            {
                // The sender went away; what it had finished sending is kept.
            }
    }

    /// <summary>Lines up to a dot alone, doubled dots undone (RFC 5321, 4.5.2); null when too long.</summary>
    private static async Task<byte[]?> ReadMailAsync(StreamReader reader, CancellationToken stop)
    {
        var mail = new StringBuilder();
        while (await reader.ReadLineAsync(stop) is { } line && line != ".")
            if (mail.Length <= LongestMail) mail.Append(line.StartsWith('.') ? line[1..] : line).Append("\r\n");
        return mail.Length <= LongestMail ? Encoding.Latin1.GetBytes(mail.ToString()) : null;
    }
}
