using Froe.Core.Register;
using Froe.Core.Routing;
using Froe.Store;
using Microsoft.AspNetCore.Antiforgery;
using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.Extensions.Options;

namespace Froe.Server.SignIn;

/// <summary>The session: who is signed in, and what the page needs to speak to the server.</summary>
/// <param name="Person">Who is signed in; null for nobody.</param>
/// <param name="FormToken">Goes back in the header X-Froe-Form of every request that changes something.</param>
/// <param name="Rights">What they may do, and where.</param>
/// <param name="Demo">The people of the demo, for the sign-in page; null outside it.</param>
public sealed record Session(Person? Person, IReadOnlyList<GrantedRight> Rights, string FormToken, DemoSignIn? Demo);

/// <summary>What the demo's sign-in page shows.</summary>
public sealed record DemoSignIn(string Password, IReadOnlyList<Person> People);

/// <summary>A name and a password.</summary>
public sealed record SignInRequest(string Login, string Password);

/// <summary>A password, again.</summary>
public sealed record ConfirmRequest(string Password);

/// <summary>Good for signing for two minutes.</summary>
public sealed record SigningGrant(string Grant);

/// <summary>Signing in and out.</summary>
internal static class SessionEndpoints
{
    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/session", Get).AllowAnonymous();
        api.MapPost("/session", SignIn).AllowAnonymous().RequireRateLimiting("sign-in");
        api.MapDelete("/session", (Delegate)SignOut);
        api.MapPost("/session/confirm", Confirm).RequireRateLimiting("sign-in");
        // Names are for everybody; how somebody signs in and is reached is for those who keep it.
        api.MapGet("/people", async (Who who, People people, CancellationToken stop) =>
            (await (who.IsGuest ? people.MetAsync(who.Id, stop) : people.AllAsync(stop))).ConvertAll(p => who.Rights.Anywhere(Right.Administer) ? p : p with { Login = "", Email = "" }).AsReadOnly());
        api.MapGet("/groups", async (Who who, People people, CancellationToken stop) => who.IsGuest ? (IReadOnlyList<PersonGroup>)[] : (await people.GroupsAsync(stop)).AsReadOnly());
    }

    private static async Task<Session> Get(HttpContext context, People people, RightsBook rights, IAntiforgery antiforgery, IOptions<Settings> settings, CancellationToken stop)
    {
        var person = Who.IdOf(context.User) is { } id ? (await people.ByIdAsync(id, stop))?.Person : null;
        var demo = settings.Value.Demo && person is null ? new DemoSignIn(settings.Value.DemoPassword, await people.AllAsync(stop)) : null;
        return new Session(person, person is null ? [] : (await rights.OfAsync(person.Id, stop)).Granted, antiforgery.GetAndStoreTokens(context).RequestToken!, demo);
    }

    private static async Task<Session> SignIn(SignInRequest request, HttpContext context, Passwords passwords, RightsBook rights, IAntiforgery antiforgery, CancellationToken stop)
    {
        var person = await passwords.CheckAsync(request.Login.Trim(), request.Password, stop)
            ?? throw new Refused(new Refusal("wrong-sign-in", "That name and password do not go together. Check both and try again."), StatusCodes.Status422UnprocessableEntity);
        context.User = Who.Principal(person);
        await context.SignInAsync(context.User);
        return new Session(person, (await rights.OfAsync(person.Id, stop)).Granted, antiforgery.GetAndStoreTokens(context).RequestToken!, null);
    }

    private static async Task<NoContent> SignOut(HttpContext context)
    {
        await context.SignOutAsync();
        return TypedResults.NoContent();
    }

    private static async Task<SigningGrant> Confirm(ConfirmRequest request, Who who, Passwords passwords, CancellationToken stop) =>
        new(await passwords.GrantAsync(who.Id, request.Password, stop));
}
