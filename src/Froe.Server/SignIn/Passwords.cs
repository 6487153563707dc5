using System.Security.Cryptography;
using Froe.Core.Routing;
using Froe.Store;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.AspNetCore.Identity;
using Microsoft.Extensions.Options;

namespace Froe.Server.SignIn;

/// <summary>Checking passwords, and the short-lived grants that a checked password gives for signing.</summary>
public sealed class Passwords(People people, Database database, IDataProtectionProvider protection, IOptions<Settings> settings)
{
    /// <summary>Rounds of PBKDF2 with HMAC-SHA-512 that OWASP's Password Storage Cheat Sheet asks for.</summary>
    public const int Rounds = 210_000;

    /// <summary>How long a confirmed password is good for signing: long enough to sign a batch, too short to walk away from.</summary>
    private static readonly TimeSpan GrantLife = TimeSpan.FromMinutes(2);

    private readonly PasswordHasher<Person> hasher = HasherOf(settings.Value.PasswordRounds);

    /// <summary>Checked in place of an unknown person's, so that the answer takes as long either way.</summary>
    private readonly string nobodysHash = Hash(Convert.ToHexString(RandomNumberGenerator.GetBytes(16)), settings.Value.PasswordRounds);

    private readonly ITimeLimitedDataProtector grants = protection.CreateProtector("froe.signing-grant.1").ToTimeLimitedDataProtector();

    /// <summary>The hash to store for a password.</summary>
    public static string Hash(string password, int rounds = Rounds) => HasherOf(rounds).HashPassword(null!, password);

    /// <summary>The hash to store for a password, by as many rounds as this server is set to.</summary>
    public string HashOf(string password) => hasher.HashPassword(null!, password);

    /// <summary>The person who signs in with this name and password, or null; one who is barred is nobody.</summary>
    public async Task<Person?> CheckAsync(string login, string password, CancellationToken stop)
    {
        var found = await people.ByLoginAsync(login, stop);
        return await MatchesAsync(found, password, stop) && found!.Value.Person.BarredAt is null ? found.Value.Person : null;
    }

    /// <summary>Whether this is a person's password.</summary>
    public async Task<bool> IsOfAsync(Guid person, string password, CancellationToken stop) => await MatchesAsync(await people.ByIdAsync(person, stop), password, stop);

    /// <summary>A grant to sign, for the right password of a signed-in person.</summary>
    /// <exception cref="Refused">The password is wrong.</exception>
    public async Task<string> GrantAsync(Guid person, string password, CancellationToken stop)
    {
        if (!await IsOfAsync(person, password, stop))
            throw new Refused(new Refusal("wrong-password", "That is not your password. Nothing was signed; try again."), StatusCodes.Status422UnprocessableEntity);
        return grants.Protect(person.ToString(), GrantLife);
    }

    /// <summary>Checks a grant.</summary>
    /// <exception cref="Refused">It is not this person's or has run out.</exception>
    public void Demand(Guid person, string grant)
    {
        try
        {
            if (grants.Unprotect(grant) == person.ToString()) return;
        }
        catch (CryptographicException)
        {
            // Told below.
        }
        throw new Refused(new Refusal("confirm-again", "Your confirmation has run out. Enter your password again; nothing was signed."), StatusCodes.Status422UnprocessableEntity);
    }

    private async Task<bool> MatchesAsync((Person Person, string PasswordHash)? found, string password, CancellationToken stop)
    {
        var result = hasher.VerifyHashedPassword(null!, found?.PasswordHash ?? nobodysHash, password);
        if (found is null || result == PasswordVerificationResult.Failed) return false;
        // Kept by fewer rounds than are asked for now: only here is the password at hand to keep it anew. Another hash set meanwhile stays.
        if (result == PasswordVerificationResult.SuccessRehashNeeded)
            await database.RunAsync("UPDATE person SET password_hash = $3 WHERE id = $1 AND password_hash = $2", [found.Value.Person.Id, found.Value.PasswordHash, HashOf(password)], stop);
        return true;
    }

    private static PasswordHasher<Person> HasherOf(int rounds) => new(Options.Create(new PasswordHasherOptions { IterationCount = rounds }));
}
