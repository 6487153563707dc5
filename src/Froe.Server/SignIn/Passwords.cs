using System.Security.Cryptography;
using Froe.Core.Routing;
using Froe.Store;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.AspNetCore.Identity;

namespace Froe.Server.SignIn;

/// <summary>Checking passwords, and the short-lived grants that a checked password gives for signing.</summary>
public sealed class Passwords(People people, IDataProtectionProvider protection)
{
    /// <summary>How long a confirmed password is good for signing: long enough to sign a batch, too short to walk away from.</summary>
    private static readonly TimeSpan GrantLife = TimeSpan.FromMinutes(2);

    private static readonly PasswordHasher<Person> Hasher = new();

    /// <summary>Checked in place of an unknown person's, so that the answer takes as long either way.</summary>
    private static readonly string NobodysHash = Hasher.HashPassword(null!, Convert.ToHexString(RandomNumberGenerator.GetBytes(16)));

    private readonly ITimeLimitedDataProtector grants = protection.CreateProtector("froe.signing-grant.1").ToTimeLimitedDataProtector();

    /// <summary>The hash to store for a password.</summary>
    public static string Hash(string password) => Hasher.HashPassword(null!, password);

    /// <summary>The person who signs in with this name and password, or null.</summary>
    public async Task<Person?> CheckAsync(string login, string password, CancellationToken stop)
    {
        var found = await people.ByLoginAsync(login, stop);
        return Matches(found, password) ? found!.Value.Person : null;
    }

    /// <summary>A grant to sign, for the right password of a signed-in person.</summary>
    /// <exception cref="Refused">The password is wrong.</exception>
    public async Task<string> GrantAsync(Guid person, string password, CancellationToken stop)
    {
        if (!Matches(await people.ByIdAsync(person, stop), password))
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

    private static bool Matches((Person Person, string PasswordHash)? found, string password) =>
        Hasher.VerifyHashedPassword(null!, found?.PasswordHash ?? NobodysHash, password) != PasswordVerificationResult.Failed && found is not null;
}
