using System.Threading.Channels;
using Froe.Store;

namespace Froe.Server.SignIn;

/// <summary>What the security log calls what happens at the doors.</summary>
public static class SecurityEvents
{
    public const string
        SignedIn = "signed in", SignInFailed = "sign-in failed", SignedOut = "signed out", SessionsEnded = "sessions ended", ConfirmFailed = "confirmation failed",
        Slowed = "slowed down", Refused = "refused", PasswordChanged = "password changed", RightsChanged = "rights changed", Barred = "person barred", LetIn = "person let in again", Altered = "content altered";
}

/// <summary>
/// The security log: failures, throttles, refusals and changes of rights, for administrators and for whatever watches the server's own
/// log. It is written beside requests: a log that cannot be written never fails one, and says so where the server's log goes.
/// </summary>
public sealed class SecurityLog(Database database, IHttpContextAccessor requests, TimeProvider clock, ILogger<SecurityLog> log) : BackgroundService
{
    private const int MostGathered = 500;

    /// <summary>How long events are gathered before they are written together, and how long is waited after a failure.</summary>
    private static readonly TimeSpan Gather = TimeSpan.FromMilliseconds(200), Pause = TimeSpan.FromSeconds(5);

    private readonly Channel<Entry> entries = Channel.CreateBounded<Entry>(new BoundedChannelOptions(20_000) { FullMode = BoundedChannelFullMode.DropWrite });

    private sealed record Entry(Guid Id, DateTimeOffset At, string Kind, Guid? Person, string Login, string Address, string Words);

    /// <summary>Notes what happened; the address is that of the request under way.</summary>
    /// <param name="kind">One of <see cref="SecurityEvents"/>.</param>
    /// <param name="person">Whose doing it was, or whom it is about; null when nobody is known.</param>
    /// <param name="login">The name given, where somebody tried to sign in.</param>
    /// <param name="words">What is worth knowing of it.</param>
    public void Write(string kind, Guid? person, string login, string words)
    {
        var address = requests.HttpContext?.Connection.RemoteIpAddress?.ToString() ?? "";
        entries.Writer.TryWrite(new Entry(Guid.CreateVersion7(), clock.GetUtcNow(), kind, person, Cut(login, 60), address, Cut(words, 400)));
        log.Log(kind is SecurityEvents.SignInFailed or SecurityEvents.ConfirmFailed or SecurityEvents.Slowed or SecurityEvents.Altered ? LogLevel.Warning : LogLevel.Information, "{SecurityEvent} {Person} {Address} {Words}", kind, person, address, words);
    }

    /// <summary>A text as PostgreSQL takes it: one that it refused would be tried for ever, and hold up all that come after it. A letter of two units is cut as one.</summary>
    private static string Cut(string text, int longest)
    {
        var end = text.Length <= longest ? text.Length : char.IsHighSurrogate(text[longest - 1]) ? longest - 1 : longest;
        return string.Concat(text[..end].EnumerateRunes().Where(r => r.Value != 0));
    }

    /// <inheritdoc/>
    protected override Task ExecuteAsync(CancellationToken stoppingToken) => Steadily.RepeatAsync("Keeping the security log", KeepAsync, Pause, log, stoppingToken);

    /// <summary>Writes down what was gathered; what could not be written is tried again.</summary>
    private async Task KeepAsync(CancellationToken stop)
    {
        while (await entries.Reader.WaitToReadAsync(stop))
        {
            await Task.Delay(Gather, clock, stop);
            var gathered = new List<Entry>();
            while (gathered.Count < MostGathered && entries.Reader.TryRead(out var entry)) gathered.Add(entry);
            try
            {
                await database.RunAsync(
                    "INSERT INTO security_event (id, at, kind, person_id, login, address, words) SELECT * FROM unnest($1::uuid[], $2::timestamptz[], $3::text[], $4::uuid[], $5::text[], $6::text[], $7::text[])",
                    [gathered.Select(e => e.Id).ToArray(), gathered.Select(e => e.At.UtcDateTime).ToArray(), gathered.Select(e => e.Kind).ToArray(), gathered.Select(e => e.Person).ToArray(), gathered.Select(e => e.Login).ToArray(), gathered.Select(e => e.Address).ToArray(), gathered.Select(e => e.Words).ToArray()], stop);
            }
            catch
            {
                foreach (var entry in gathered) entries.Writer.TryWrite(entry);
                throw;
            }
        }
    }
}
