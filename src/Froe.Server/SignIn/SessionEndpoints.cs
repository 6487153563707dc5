using System.ComponentModel.DataAnnotations;
using System.Security.Cryptography;
using System.Text;
using Froe.Core.Calendar;
using Froe.Core.Register;
using Froe.Core.Routing;
using Froe.Core.SignIn;
using Froe.Server.Changes;
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
/// <param name="IsEmpty">Whether the database knows nobody yet, so that nobody can sign in.</param>
/// <param name="Dates">How they read dates.</param>
public sealed record Session(Person? Person, IReadOnlyList<GrantedRight> Rights, string FormToken, DemoSignIn? Demo, bool IsEmpty, DateManner Dates);

/// <summary>How somebody wants to read dates.</summary>
public sealed record WantedDates([property: MaxLength(DateManner.LongestTag)] string Language, ClockHours Hours, WeekBegins WeekBegins);

/// <summary>What the demo's sign-in page shows.</summary>
public sealed record DemoSignIn(string Password, IReadOnlyList<Person> People);

/// <summary>A name and a password.</summary>
public sealed record SignInRequest([property: MaxLength(60)] string Login, [property: MaxLength(PasswordRules.Longest)] string Password);

/// <summary>A password, again.</summary>
public sealed record ConfirmRequest([property: MaxLength(PasswordRules.Longest)] string Password);

/// <summary>Good for signing for two minutes.</summary>
public sealed record SigningGrant(string Grant);

/// <summary>One's own password, and the new one.</summary>
public sealed record PasswordChange([property: MaxLength(PasswordRules.Longest)] string Now, [property: MaxLength(PasswordRules.Longest)] string New);

/// <summary>A link's key, and the password it sets.</summary>
public sealed record InvitationAnswer([property: MaxLength(100)] string Key, [property: MaxLength(PasswordRules.Longest)] string Password);

/// <summary>Signing in and out.</summary>
internal static class SessionEndpoints
{
    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/session", Get).AllowAnonymous();
        api.MapPost("/session", SignIn).AllowAnonymous();
        api.MapPost("/session/invitation", Accept).AllowAnonymous();
        api.MapDelete("/session", SignOut);
        api.MapPost("/session/confirm", Confirm);
        api.MapPut("/session/password", ChangePassword);
        api.MapPut("/session/dates", async (WantedDates wanted, Who who, DateManners manners, CancellationToken stop) =>
        {
            var manner = new DateManner(wanted.Language, wanted.Hours, wanted.WeekBegins);
            if (!DateManner.IsWellFormed(manner)) throw Refused.Invalid("bad-language", $"“{wanted.Language}” is not a language. Write it like de-CH.");
            await manners.KeepAsync(who.Id, manner, stop);
            return TypedResults.NoContent();
        });
        api.MapGet("/sessions", async (Who who, Sessions sessions, CancellationToken stop) => (await sessions.OfAsync(who.Id, who.Session, stop)).AsReadOnly());
        api.MapDelete("/sessions/{id:guid}", async (Guid id, Who who, Sessions sessions, SecurityLog log, Announcements changes, CancellationToken stop) =>
        {
            if (!await sessions.EndAsync(who.Id, id, stop)) throw Refused.Missing("session");
            log.Write(SecurityEvents.SessionsEnded, who.Id, "", "one, by its person");
            changes.Announce("session", who.Id);
            return TypedResults.NoContent();
        });
        // Names are for everybody of the office; how somebody signs in and is reached is for those who keep it.
        api.MapGet("/people", async (Who who, People people, CancellationToken stop) =>
            (await (who.IsOfOffice ? people.AllAsync(stop) : people.MetAsync(who.Id, stop))).ConvertAll(p => who.CanAdminister ? p : p with { Login = "", Email = "" }).AsReadOnly());
        api.MapGet("/groups", async (Who who, People people, CancellationToken stop) => who.IsOfOffice ? (await people.GroupsAsync(stop)).AsReadOnly() : (IReadOnlyList<PersonGroup>)[]);
    }

    private static async Task<Session> Get(HttpContext context, People people, RightsBook rights, DateManners manners, IAntiforgery antiforgery, IOptions<Settings> settings, CancellationToken stop)
    {
        var person = Who.IdOf(context.User) is { } id ? (await people.ByIdAsync(id, stop))?.Person : null;
        var demo = settings.Value.Demo && person is null ? new DemoSignIn(settings.Value.DemoPassword, (await people.AllAsync(stop)).FindAll(p => p.BarredAt is null)) : null;
        return new Session(person, person is null ? [] : (await rights.OfAsync(person.Id, stop)).Rights.Granted, antiforgery.GetAndStoreTokens(context).RequestToken!, demo, person is null && await people.IsNobodyThereAsync(stop),
            person is null ? DateManner.Usual : await manners.OfAsync(person.Id, stop));
    }

    private static async Task<Session> SignIn(SignInRequest request, HttpContext context, Passwords passwords, Sessions sessions, Doors doors, RightsBook rights, DateManners manners, SecurityLog log, IAntiforgery antiforgery, CancellationToken stop)
    {
        var login = request.Login.Trim().ToLowerInvariant();
        var tried = await doors.TryAsync(context, login, stop);
        var person = await passwords.CheckAsync(login, request.Password, stop);
        if (person is null)
        {
            log.Write(SecurityEvents.SignInFailed, null, login, "");
            throw new Refused(new Refusal("wrong-sign-in", "That name and password do not go together. Check both and try again."), StatusCodes.Status422UnprocessableEntity);
        }
        await doors.OpenedAsync(tried, stop);
        doors.Remember(context, login);
        return await BeginAsync(person, context, sessions, rights, manners, log, antiforgery, stop);
    }

    private static async Task<Session> BeginAsync(Person person, HttpContext context, Sessions sessions, RightsBook rights, DateManners manners, SecurityLog log, IAntiforgery antiforgery, CancellationToken stop)
    {
        // A session is never carried over into another person's, nor into one's own next: the old one ends.
        if (Who.SessionOf(context.User) is { } before && Who.IdOf(context.User) is { } owner) await sessions.EndAsync(owner, before, stop);
        var id = await sessions.BeginAsync(person.Id, context.Connection.RemoteIpAddress?.ToString() ?? "", context.Request.Headers.UserAgent.ToString(), stop);
        context.User = Who.Principal(new Signed(id, person.Id, person.Name, person.Initials, person.IsGuest));
        await context.SignInAsync(context.User);
        log.Write(SecurityEvents.SignedIn, person.Id, person.Login, "");
        return new Session(person, (await rights.OfAsync(person.Id, stop)).Rights.Granted, antiforgery.GetAndStoreTokens(context).RequestToken!, null, false, await manners.OfAsync(person.Id, stop));
    }

    private static async Task<NoContent> SignOut(HttpContext context, Who who, Sessions sessions, SecurityLog log, Announcements changes, CancellationToken stop)
    {
        if (who.Session is { } session) await sessions.EndAsync(who.Id, session, stop);
        log.Write(SecurityEvents.SignedOut, who.Id, "", "");
        changes.Announce("session", who.Id);
        await context.SignOutAsync();
        return TypedResults.NoContent();
    }

    private static async Task<SigningGrant> Confirm(ConfirmRequest request, Who who, Passwords passwords, Doors doors, SecurityLog log, CancellationToken stop)
    {
        var tried = await doors.TryAsync(who.Id, stop);
        try
        {
            var grant = await passwords.GrantAsync(who.Id, request.Password, stop);
            await doors.OpenedAsync(tried, stop);
            return new(grant);
        }
        catch (Refused)
        {
            log.Write(SecurityEvents.ConfirmFailed, who.Id, "", "");
            throw;
        }
    }

    /// <summary>Changes one's own password; the other sessions end, this one goes on.</summary>
    private static async Task<NoContent> ChangePassword(PasswordChange wanted, Who who, Database database, Passwords passwords, Sessions sessions, Doors doors, SecurityLog log, Announcements changes, TimeProvider clock, CancellationToken stop)
    {
        var tried = await doors.TryAsync(who.Id, stop);
        if (!await passwords.IsOfAsync(who.Id, wanted.Now, stop))
        {
            log.Write(SecurityEvents.ConfirmFailed, who.Id, "", "changing the password");
            throw new Refused(new Refusal("wrong-password", "That is not your password now. Nothing was changed; try again."), StatusCodes.Status422UnprocessableEntity);
        }
        await doors.OpenedAsync(tried, stop);
        await using var act = await Act.BeginAsync(database, who.Id, clock.GetUtcNow(), stop);
        var me = await People.LockAsync(act, who.Id, stop) ?? throw Refused.Missing("person");
        if (PasswordRules.Fault(wanted.New, me.Login) is { } fault) throw Refused.Invalid(fault.Code, fault.Reason);
        act.Write("UPDATE person SET password_hash = $2 WHERE id = $1", who.Id, passwords.HashOf(wanted.New));
        Sessions.EndAll(act, who.Id, who.Session);
        await act.AppendAsync(who.Id, OfficeActs.PersonChanged, "", new { me.Name, me.Login, Former = new { me.Name, me.Login }, PasswordSet = true, AlsoChanged = Array.Empty<string>() }, stop);
        await act.CommitAsync(stop);
        sessions.Forget();
        log.Write(SecurityEvents.PasswordChanged, who.Id, me.Login, "by its person");
        changes.Announce("session", who.Id);
        return TypedResults.NoContent();
    }

    /// <summary>Sets the password that a link is for, once, and signs in.</summary>
    private static async Task<Session> Accept(InvitationAnswer wanted, HttpContext context, Database database, People people, Passwords passwords, Sessions sessions, Doors doors, RightsBook rights, DateManners manners, SecurityLog log, IAntiforgery antiforgery, TimeProvider clock, CancellationToken stop)
    {
        await doors.TryAsync(context, "", stop);
        await using (var act = await Act.BeginAsync(database, Guid.Empty, clock.GetUtcNow(), stop))
        {
            var found = await act.ListAsync(
                "SELECT i.person_id, p.login, p.name FROM invitation i JOIN person p ON p.id = i.person_id WHERE i.sha256 = $1 AND i.used_at IS NULL AND i.ends_at > $2 AND p.barred_at IS NULL FOR UPDATE",
                r => (Person: r.GetGuid(0), Login: r.GetString(1), Name: r.GetString(2)), [SHA256.HashData(Encoding.UTF8.GetBytes(wanted.Key)), act.At.UtcDateTime], stop);
            if (found is not [var invited]) throw new Refused(new Refusal("invitation-over", "This link has been used, or is too old. Have another one made with ./froe admin."), StatusCodes.Status422UnprocessableEntity);
            if (PasswordRules.Fault(wanted.Password, invited.Login) is { } fault) throw Refused.Invalid(fault.Code, fault.Reason);
            act.Write("UPDATE person SET password_hash = $2 WHERE id = $1", invited.Person, passwords.HashOf(wanted.Password));
            act.Write("UPDATE invitation SET used_at = $2 WHERE person_id = $1 AND used_at IS NULL", invited.Person, act.At.UtcDateTime);
            Sessions.EndAll(act, invited.Person);
            await act.AppendAsync(invited.Person, OfficeActs.PersonChanged, "", new { invited.Name, invited.Login, Former = new { invited.Name, invited.Login }, PasswordSet = true, AlsoChanged = Array.Empty<string>() }, stop);
            await act.CommitAsync(stop);
            sessions.Forget();
            log.Write(SecurityEvents.PasswordChanged, invited.Person, invited.Login, "by a link");
            return await BeginAsync((await people.ByIdAsync(invited.Person, stop))!.Value.Person, context, sessions, rights, manners, log, antiforgery, stop);
        }
    }
}
