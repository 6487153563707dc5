using System.Security.Claims;
using Froe.Store;

namespace Froe.Server.SignIn;

/// <summary>The person a request comes from, as their session cookie says.</summary>
public sealed record Who(Guid Id, string Name, string Initials, bool IsGuest, bool CanSend, bool CanCoordinate)
{
    /// <summary>From a person of the database.</summary>
    public static Who Of(Person person)
    {
        ArgumentNullException.ThrowIfNull(person);
        return new(person.Id, person.Name, person.Initials, person.IsGuest, person.CanSend, person.CanCoordinate);
    }

    /// <summary>Lets endpoints take a <see cref="Who"/> as a parameter.</summary>
    public static ValueTask<Who?> BindAsync(HttpContext context)
    {
        ArgumentNullException.ThrowIfNull(context);
        return ValueTask.FromResult(From(context.User));
    }

    /// <summary>From a session's claims; null when nobody is signed in.</summary>
    public static Who? From(ClaimsPrincipal user)
    {
        ArgumentNullException.ThrowIfNull(user);
        return user.FindFirstValue(ClaimTypes.NameIdentifier) is { } id
            ? new Who(Guid.Parse(id), user.FindFirstValue(ClaimTypes.Name) ?? "", user.FindFirstValue("initials") ?? "", user.HasClaim("right", "guest"), user.HasClaim("right", "send"), user.HasClaim("right", "coordinate"))
            : null;
    }

    /// <summary>As claims for the session cookie.</summary>
    public ClaimsPrincipal ToPrincipal()
    {
        var claims = new List<Claim> { new(ClaimTypes.NameIdentifier, Id.ToString()), new(ClaimTypes.Name, Name), new("initials", Initials) };
        if (IsGuest) claims.Add(new("right", "guest"));
        if (CanSend) claims.Add(new("right", "send"));
        if (CanCoordinate) claims.Add(new("right", "coordinate"));
        return new ClaimsPrincipal(new ClaimsIdentity(claims, "froe"));
    }
}
