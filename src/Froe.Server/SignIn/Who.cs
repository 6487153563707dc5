using System.Security.Claims;
using Froe.Core.Register;
using Froe.Store;

namespace Froe.Server.SignIn;

/// <summary>The person a request comes from, with what they may do now.</summary>
public sealed record Who(Guid Id, string Name, string Initials, bool IsGuest, Rights Rights)
{
    private const string SessionClaim = "session";

    /// <summary>The ids of the folders they may read; null for the whole register.</summary>
    public long[]? ReadFolders { get; init; } = Rights.Places(Right.Read) is null ? null : [];

    /// <summary>The session that asks; null outside of one.</summary>
    public Guid? Session { get; init; }

    /// <summary>Whether they belong to the office: those who do learn its people, groups, plans and absences; guests and people in no group do not.</summary>
    public bool IsOfOffice => !IsGuest && !Rights.Granted.IsEmpty;

    /// <summary>Whether they may send packages from anywhere in the register.</summary>
    public bool CanSend => Rights.Anywhere(Right.Send);

    /// <summary>Whether they may change how packages go on.</summary>
    public bool CanCoordinate => Rights.Anywhere(Right.Coordinate);

    /// <summary>Whether they build plans.</summary>
    public bool CanBuildPlans => Rights.Anywhere(Right.BuildPlans);

    /// <summary>Whether they keep people, groups, rights, calendars and folders.</summary>
    public bool CanAdminister => Rights.Anywhere(Right.Administer);

    /// <summary>From a person of the database.</summary>
    public static Who Of(Person person, Holding holding)
    {
        ArgumentNullException.ThrowIfNull(person);
        ArgumentNullException.ThrowIfNull(holding);
        return new(person.Id, person.Name, person.Initials, person.IsGuest, holding.Rights) { ReadFolders = holding.ReadFolders };
    }

    /// <summary>Lets endpoints take a <see cref="Who"/> as a parameter; rights are those of now, not of when the session began.</summary>
    public static async ValueTask<Who?> BindAsync(HttpContext context)
    {
        ArgumentNullException.ThrowIfNull(context);
        if (IdOf(context.User) is not { } id) return null;
        var holding = await context.RequestServices.GetRequiredService<RightsBook>().OfAsync(id, context.RequestAborted);
        return new Who(id, context.User.FindFirstValue(ClaimTypes.Name) ?? "", context.User.FindFirstValue("initials") ?? "", context.User.HasClaim("kind", "guest"), holding.Rights)
        {
            ReadFolders = holding.ReadFolders,
            Session = SessionOf(context.User),
        };
    }

    /// <summary>Whose session it is; null when nobody is signed in.</summary>
    public static Guid? IdOf(ClaimsPrincipal user) => IdIn(user, ClaimTypes.NameIdentifier);

    /// <summary>The session; null when nobody is signed in.</summary>
    public static Guid? SessionOf(ClaimsPrincipal user) => IdIn(user, SessionClaim);

    /// <summary>A session's person as claims: the cookie keeps the session's id, all else is read anew for each request.</summary>
    public static ClaimsPrincipal Principal(Signed signed)
    {
        ArgumentNullException.ThrowIfNull(signed);
        var claims = new List<Claim> { new(SessionClaim, signed.Session.ToString()), new(ClaimTypes.NameIdentifier, signed.Person.ToString()), new(ClaimTypes.Name, signed.Name), new("initials", signed.Initials) };
        if (signed.IsGuest) claims.Add(new("kind", "guest"));
        return new ClaimsPrincipal(new ClaimsIdentity(claims, "froe"));
    }

    private static Guid? IdIn(ClaimsPrincipal user, string claim)
    {
        ArgumentNullException.ThrowIfNull(user);
        return Guid.TryParse(user.FindFirstValue(claim), out var id) ? id : null;
    }
}
