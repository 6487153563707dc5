using Froe.Core.Calendar;
using Froe.Store;
using MailKit.Net.Smtp;
using Microsoft.Extensions.Options;
using MimeKit;

namespace Froe.Server.Post;

/// <summary>Sends the outbox. A mail server that is down puts mails off; it never holds up a sign-off.</summary>
public sealed class MailWorker(Store.Post post, IOptions<Settings> settings, TimeProvider clock, ILogger<MailWorker> log) : BackgroundService
{
    private const int BatchSize = 50;
    private static readonly TimeSpan Idle = TimeSpan.FromSeconds(1);

    /// <summary>Whether the mail server answered when last asked: a change is worth a line in the log, each try is not.</summary>
    private bool answers = true;

    /// <inheritdoc/>
    protected override Task ExecuteAsync(CancellationToken stoppingToken) => settings.Value.MailHost.Length == 0 ? Task.CompletedTask : Steadily.RepeatAsync(
        "Sending mail",
        async stop =>
        {
            var mails = await post.ClaimAsync(BatchSize, stop);
            if (mails.Count == 0) await Task.Delay(Idle, stop);
            else if (await WantedNowAsync(mails, stop) is { Count: > 0 } wanted) await SendAsync(wanted, stop);
        },
        Idle, log, stoppingToken);

    /// <summary>The mails whose readers want them now; the others are put off to their digest or the end of their quiet hours.</summary>
    public async Task<List<Mail>> WantedNowAsync(IReadOnlyList<Mail> mails, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(mails);
        var now = clock.GetUtcNow();
        var wanted = new List<Mail>();
        foreach (var mail in mails)
        {
            var zone = TimeZoneInfo.TryFindSystemTimeZoneById(mail.Zone, out var found) ? found : TimeZoneInfo.Utc;
            var next = mail.PutOff ? now : HoursOf(mail).Next(now, zone);
            if (next is null) await post.NotWantedAsync(mail.Id, stop);
            else if (next > now) await post.PutOffAsync(mail.Id, next.Value, stop);
            else wanted.Add(mail);
        }
        return wanted;
    }

    private static PostHours HoursOf(Mail mail) =>
        mail.Mode is null ? PostHours.Usual : new PostHours(Words.Parse<MailMode>(mail.Mode), mail.DigestAt, mail.QuietFrom, mail.QuietTo);

    private async Task SendAsync(List<Mail> mails, CancellationToken stop)
    {
        using var client = new SmtpClient { Timeout = 10_000 };
        try
        {
            await client.ConnectAsync(settings.Value.MailHost, settings.Value.MailPort, MailKit.Security.SecureSocketOptions.Auto, stop);
        }
        catch (Exception e) when (IsMailFault(e))
        {
            log.Log(answers ? LogLevel.Warning : LogLevel.Debug, "The mail server {Host} does not answer ({Fault}); mails wait and are tried again", settings.Value.MailHost, e.Message);
            answers = false;
            foreach (var mail in mails) await post.FailedAsync(mail.Id, e.Message, Wait(mail), stop);
            return;
        }
        if (!answers) log.LogInformation("The mail server {Host} answers again", settings.Value.MailHost);
        answers = true;
        // A digest is one mail of all that waited for it; anything else goes out by itself.
        foreach (var together in mails.GroupBy(m => m is { PutOff: true, Mode: "daily" } ? m.Person : m.Id))
            try
            {
                using var message = Compose([.. together]);
                await client.SendAsync(message, stop);
                foreach (var mail in together) await post.SentAsync(mail.Id, stop);
            }
            catch (Exception e) when (IsMailFault(e))
            {
                log.LogWarning("Mail {Mail} did not go out ({Fault}); tried again in {WaitSeconds} s", together.First().Id, e.Message, Wait(together.First()).TotalSeconds);
                foreach (var mail in together) await post.FailedAsync(mail.Id, e.Message, Wait(mail), stop);
            }
        if (client.IsConnected) await client.DisconnectAsync(true, stop);
    }

    private static bool IsMailFault(Exception e) =>
        e is IOException or System.Net.Sockets.SocketException or SmtpCommandException or SmtpProtocolException or MailKit.ServiceNotConnectedException or MailKit.Security.SslHandshakeException or ParseException or TimeoutException;

    /// <summary>4 s, 8 s, 16 s … up to an hour between tries.</summary>
    private static TimeSpan Wait(Mail mail) => TimeSpan.FromSeconds(Math.Min(3600, 2 << Math.Min(mail.Attempts, 11)));

    private MimeMessage Compose(IReadOnlyList<Mail> mails) => new()
    {
        From = { MailboxAddress.Parse(settings.Value.MailFrom) },
        To = { new MailboxAddress(mails[0].Name, mails[0].Address) },
        Subject = mails.Count == 1 ? mails[0].Subject : $"{mails.Count} messages of today",
        // The same mail retried carries the same id, so that a mail server can tell a repeat.
        MessageId = $"{mails[0].Id:N}@froe",
        Body = new TextPart("plain") { Text = string.Join("\n", mails.Select(m => mails.Count == 1 ? $"{m.Body}\n\n{settings.Value.Address}{m.Link}\n" : $"{m.Subject}\n{m.Body}\n{settings.Value.Address}{m.Link}\n")) },
    };
}
