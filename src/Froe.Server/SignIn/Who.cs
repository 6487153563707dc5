using System.Security.Claims;
using Froe.Core.Register;
using Froe.Store;

namespace Froe.Server.SignIn;

/// <summary>The person a request comes from, as their session cookie says, with what they may do now.</summary>
public sealed record Who(Guid Id, string Name, string Initials, bool IsGuest, Rights Rights)
{
    /// <summary>Whether they may send packages from anywhere in the register.</summary>
    public bool CanSend => Rights.Anywhere(Right.Send);

    /// <summary>Whether they may change how packages go on.</summary>
    public bool CanCoordinate => Rights.Anywhere(Right.Coordinate);

    /// <summary>Whether they build plans.</summary>
    public bool CanBuildPlans => Rights.Anywhere(Right.BuildPlans);

    /// <summary>From a person of the database.</summary>
    public static Who Of(Person person, Rights rights)
    {
        ArgumentNullException.ThrowIfNull(person);
        return new(person.Id, person.Name, person.Initials, person.IsGuest, rights);
    }

    /// <summary>Lets endpoints take a <see cref="Who"/> as a parameter; rights are those of now, not of when the session began.</summary>
    public static async ValueTask<Who?> BindAsync(HttpContext context)
    {
        ArgumentNullException.ThrowIfNull(context);
        if (IdOf(context.User) is not { } id) return null;
        var rights = await context.RequestServices.GetRequiredService<RightsBook>().OfAsync(id, context.RequestAborted);
        return new Who(id, context.User.FindFirstValue(ClaimTypes.Name) ?? "", context.User.FindFirstValue("initials") ?? "", context.User.HasClaim("kind", "guest"), rights);
    }

    /// <summary>Whose session it is; null when nobody is signed in.</summary>
    public static Guid? IdOf(ClaimsPrincipal user)
    {
        ArgumentNullException.ThrowIfNull(user);
        return user.FindFirstValue(ClaimTypes.NameIdentifier) is { } id ? Guid.Parse(id) : null;
    }

    /// <summary>A person as claims for the session cookie.</summary>
    public static ClaimsPrincipal Principal(Person person)
    {
        ArgumentNullException.ThrowIfNull(person);
        var claims = new List<Claim> { new(ClaimTypes.NameIdentifier, person.Id.ToString()), new(ClaimTypes.Name, person.Name), new("initials", person.Initials) };
        if (person.IsGuest) claims.Add(new("kind", "guest"));
        return new ClaimsPrincipal(new ClaimsIdentity(claims, "froe"));
    }
}
