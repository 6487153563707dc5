using System.Globalization;
using System.Security.Cryptography;
using Froe.Core.SignIn;
using Froe.Store;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.Extensions.Options;

namespace Froe.Server.SignIn;

/// <summary>Raised when somebody must wait before they try again; becomes 429 with Retry-After (RFC 6585 clause 4).</summary>
public sealed class TooManyGuessesException(TimeSpan wait) : Exception("Too many attempts. Wait, then try again.")
{
    /// <summary>How long to wait.</summary>
    public TimeSpan Wait { get; } = wait;
}

/// <summary>
/// Slows down guessing, by account and by address, on all servers together. A browser that has signed in with an account before is
/// counted by itself, so that whoever guesses at an account from elsewhere, or in the same office, does not keep its owner out.
/// </summary>
public sealed class Doors(Database database, SecurityLog log, IDataProtectionProvider protection, IOptions<Settings> settings, TimeProvider clock)
{
    private const string KnownCookie = "froe-known";
    private readonly IDataProtector known = protection.CreateProtector("froe.known-browser.1");

    private int Free => settings.Value.FreeGuesses;

    /// <summary>Counts an attempt to sign in; call <see cref="OpenedAsync"/> with what it gives when the password was right.</summary>
    /// <exception cref="TooManyGuessesException">There were too many.</exception>
    public async Task<string[]> TryAsync(HttpContext context, string login, CancellationToken stop)
    {
        var keys = KnownBrowser(context, login) is { } browser
            ? [($"browser {browser}", GuessLimit.Own(Free))]
            : new[] { ($"account {login}", GuessLimit.Account(Free)), ($"address {context.Connection.RemoteIpAddress}", GuessLimit.Address(Free)) };
        await ChargeAsync(keys, "signing in", null, login, stop);
        return [.. keys.Select(k => k.Item1)];
    }

    /// <summary>Counts an attempt to confirm a password in somebody's own session: nobody else's guesses count for it.</summary>
    public async Task<string[]> TryAsync(Guid person, CancellationToken stop)
    {
        var key = $"confirming {person}";
        await ChargeAsync([(key, GuessLimit.Own(Free))], "confirming", person, "", stop);
        return [key];
    }

    /// <summary>
    /// The password was right: what was counted is forgotten, but for the address, which others use as well. The rows are locked in the
    /// order in which they are counted: windows that sign in at once would otherwise wait for one another.
    /// </summary>
    public Task OpenedAsync(string[] keys, CancellationToken stop) => database.RunAsync(
        """
        WITH held AS (SELECT at FROM guess WHERE at = ANY ($1) ORDER BY at FOR UPDATE),
        own AS (DELETE FROM guess g USING held WHERE g.at = held.at AND g.at NOT LIKE 'address %')
        UPDATE guess g SET wrong = greatest(0, wrong - 1) FROM held WHERE g.at = held.at AND g.at LIKE 'address %'
        """,
        [keys],
        stop);

    /// <summary>Remembers this browser as one that the account signs in with.</summary>
    public void Remember(HttpContext context, string login)
    {
        if (KnownBrowser(context, login) is not null) return;
        var value = known.Protect($"{Convert.ToHexStringLower(RandomNumberGenerator.GetBytes(16))} {login}");
        context.Response.Cookies.Append(KnownCookie, value, new CookieOptions { HttpOnly = true, SameSite = SameSiteMode.Strict, Secure = context.Request.IsHttps, MaxAge = TimeSpan.FromDays(365), Path = "/api/session", IsEssential = true });
    }

    private string? KnownBrowser(HttpContext context, string login)
    {
        if (context.Request.Cookies[KnownCookie] is not { } cookie) return null;
        try
        {
            return known.Unprotect(cookie).Split(' ', 2) is [var browser, var of] && of == login ? browser : null;
        }
        catch (CryptographicException)
        {
            return null;
        }
    }

    private async Task ChargeAsync((string At, GuessLimit Limit)[] keys, string what, Guid? person, string login, CancellationToken stop)
    {
        var now = clock.GetUtcNow();
        await using var act = await Act.BeginAsync(database, Guid.Empty, now, stop);
        var names = keys.Select(k => k.At).ToArray();
        // Made and locked in one order, so that guesses at once are counted one after another and none waits for itself.
        await act.ListAsync("INSERT INTO guess (at, wrong, last_at) SELECT k, 0, $2 FROM unnest($1::text[]) k ORDER BY k ON CONFLICT (at) DO UPDATE SET wrong = guess.wrong RETURNING 1", _ => 0, [names, now.UtcDateTime], stop);
        var made = (await act.ListAsync("SELECT at, wrong, last_at FROM guess WHERE at = ANY ($1)", r => (At: r.GetString(0), Guesses: new Guesses(r.GetInt32(1), r.Time(2))), [names], stop)).ToDictionary(g => g.At, g => g.Guesses);
        var wait = keys.Max(k => Guessing.Wait(made[k.At], k.Limit, now));
        if (wait > TimeSpan.Zero)
        {
            log.Write(SecurityEvents.Slowed, person, login, string.Create(CultureInfo.InvariantCulture, $"{what}: {wait.TotalSeconds:0} s to wait"));
            throw new TooManyGuessesException(wait);
        }
        foreach (var (at, limit) in keys)
        {
            var next = Guessing.Another(made[at], limit, now);
            act.Write("UPDATE guess SET wrong = $2, last_at = $3 WHERE at = $1", at, next.Wrong, next.Last.UtcDateTime);
        }
        await act.CommitAsync(stop);
    }
}
