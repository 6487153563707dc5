using Froe.Store;
using MailKit.Net.Smtp;
using Microsoft.Extensions.Options;
using MimeKit;
using Npgsql;

namespace Froe.Server.Post;

/// <summary>Sends the outbox. A mail server that is down puts mails off; it never holds up a sign-off.</summary>
public sealed class MailWorker(Store.Post post, IOptions<Settings> settings, ILogger<MailWorker> log) : BackgroundService
{
    private const int BatchSize = 50;
    private static readonly TimeSpan Idle = TimeSpan.FromSeconds(1);

    /// <inheritdoc/>
    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        if (settings.Value.MailHost.Length == 0) return;
        while (!stoppingToken.IsCancellationRequested)
            try
            {
                var mails = await post.ClaimAsync(BatchSize, stoppingToken);
                if (mails.Count == 0) await Task.Delay(Idle, stoppingToken);
                else await SendAsync(mails, stoppingToken);
            }
            catch (NpgsqlException e)
            {
                log.LogWarning(e, "The outbox cannot be reached and is tried again");
                await Task.Delay(Idle, stoppingToken).ConfigureAwait(ConfigureAwaitOptions.SuppressThrowing);
            }
            catch (OperationCanceledException) when (stoppingToken.IsCancellationRequested)
            {
                return;
            }
    }

    private async Task SendAsync(List<Mail> mails, CancellationToken stop)
    {
        using var client = new SmtpClient { Timeout = 10_000 };
        try
        {
            await client.ConnectAsync(settings.Value.MailHost, settings.Value.MailPort, MailKit.Security.SecureSocketOptions.Auto, stop);
        }
        catch (Exception e) when (IsMailFault(e))
        {
            log.LogWarning("The mail server does not answer ({Fault}); {Count} mails wait", e.Message, mails.Count);
            foreach (var mail in mails) await post.FailedAsync(mail.Id, e.Message, Wait(mail), stop);
            return;
        }
        foreach (var mail in mails)
            try
            {
                using var message = Compose(mail);
                await client.SendAsync(message, stop);
                await post.SentAsync(mail.Id, stop);
            }
            catch (Exception e) when (IsMailFault(e))
            {
                log.LogWarning("Mail {Mail} did not go out ({Fault}); tried again in {WaitSeconds} s", mail.Id, e.Message, Wait(mail).TotalSeconds);
                await post.FailedAsync(mail.Id, e.Message, Wait(mail), stop);
            }
        if (client.IsConnected) await client.DisconnectAsync(true, stop);
    }

    private static bool IsMailFault(Exception e) =>
        e is IOException or System.Net.Sockets.SocketException or SmtpCommandException or SmtpProtocolException or MailKit.ServiceNotConnectedException or MailKit.Security.SslHandshakeException or ParseException or TimeoutException;

    /// <summary>4 s, 8 s, 16 s … up to an hour between tries.</summary>
    private static TimeSpan Wait(Mail mail) => TimeSpan.FromSeconds(Math.Min(3600, 2 << Math.Min(mail.Attempts, 11)));

    private MimeMessage Compose(Mail mail) => new()
    {
        From = { MailboxAddress.Parse(settings.Value.MailFrom) },
        To = { new MailboxAddress(mail.Name, mail.Address) },
        Subject = mail.Subject,
        // The same mail retried carries the same id, so that a mail server can tell a repeat.
        MessageId = $"{mail.Id:N}@froe",
        Body = new TextPart("plain") { Text = $"{mail.Body}\n\n{settings.Value.Address}{mail.Link}\n" },
    };
}
