using System.ComponentModel.DataAnnotations;
using Froe.Core.Routing;
using Froe.Server.Changes;
using Froe.Server.SignIn;
using Froe.Store;
using Npgsql;

namespace Froe.Server.Administration;

/// <summary>Why somebody is barred, or let in again; for the record.</summary>
public sealed record BarringReason([property: MaxLength(4000)] string Reason);

/// <summary>Something that a person holds.</summary>
/// <param name="Name">What people call it.</param>
/// <param name="Link">Where it is looked at.</param>
public sealed record Held(string Name, string Link);

/// <summary>Things of one kind that a person holds.</summary>
/// <param name="Kind">seats, packages, documents, requests, questions, plans or deputies.</param>
/// <param name="Count">How many.</param>
/// <param name="First">The first of them.</param>
public sealed record HeldKind(string Kind, int Count, IReadOnlyList<Held> First);

/// <summary>Shutting people out and letting them in again. Nothing they did goes; what they hold is listed first, to be handed over.</summary>
public sealed class Barring(Database database, Sessions sessions, RightsBook rights, SecurityLog log, Announcements changes, TimeProvider clock)
{
    private const int MostListed = 20;

    /// <summary>What is counted, and how its first are named: $1 is the person, $2 how many.</summary>
    private static readonly (string Kind, string From, string Name, string Link, string Order)[] Kinds =
    [
        // Packages on their way are few, and each is looked at: going by numbers until twenty are met, or by whose seats they are, all that ever were are walked.
        ("seats", "(SELECT id, number, title FROM package WHERE ended_at IS NULL OFFSET 0) k, LATERAL (SELECT 1 FROM package_seat s WHERE s.person_id = $1 AND s.package_id = k.id OFFSET 0) s", "k.number || ' ' || k.title", "'/packages/' || k.id", "k.number"),
        ("packages", "package k WHERE k.originator = $1 AND k.ended_at IS NULL", "k.number || ' ' || k.title", "'/packages/' || k.id", "k.number"),
        ("documents", "document d WHERE d.originator = $1 AND d.standing IN ('in work', 'in review', 'returned')", "d.number || ' ' || d.title", "'/register/' || d.id", "d.number"),
        ("requests", "note n JOIN package k ON k.id = n.package_id WHERE n.author = $1 AND n.kind = 'request' AND n.standing IN ('open', 'answered') AND k.ended_at IS NULL", "k.number || ' / ' || n.number || ' ' || n.subject", "'/packages/' || k.id || '?note=' || n.number", "k.number"),
        ("questions", "advice a JOIN package k ON k.id = a.package_id WHERE a.asked_of = $1 AND a.answer IS NULL", "k.number || ' ' || k.title", "'/packages/' || k.id", "k.number"),
        ("plans", "plan p WHERE p.owner = $1 AND NOT p.retired", "p.name", "'/plans/' || p.id", "p.name"),
        ("deputies", "absence a JOIN person p ON p.id = a.person_id WHERE a.deputy = $1 AND a.back_at > now()", "p.name", "'/'", "p.name"),
    ];

    /// <summary>What a person holds that somebody else would have to take over.</summary>
    public async Task<IReadOnlyList<HeldKind>> HoldsAsync(Guid person, CancellationToken stop)
    {
        var all = new List<HeldKind>();
        foreach (var (kind, from, name, link, order) in Kinds)
        {
            var first = await database.ListAsync($"SELECT {name}, {link}, (count(*) OVER ())::int FROM {from} ORDER BY {order} LIMIT $2", r => (Held: new Held(r.GetString(0), r.GetString(1)), Of: r.GetInt32(2)), [person, MostListed], stop);
            if (first.Count > 0) all.Add(new HeldKind(kind, first[0].Of, first.ConvertAll(f => f.Held)));
        }
        return all;
    }

    /// <summary>Bars a person: their sessions end, they sign in no more, and no seat is filled with them.</summary>
    /// <exception cref="Refused">There is no such person, or nobody would be left to administer.</exception>
    public Task BarAsync(Who who, Guid person, string reason, CancellationToken stop) => person == who.Id
        ? throw Refused.Invalid("own-self", "Nobody bars themselves. Ask another administrator.")
        : SetAsync(who, person, reason, true, stop);

    /// <summary>Lets a person in again.</summary>
    public Task LetInAsync(Who who, Guid person, string reason, CancellationToken stop) => SetAsync(who, person, reason, false, stop);

    private async Task SetAsync(Who who, Guid person, string reason, bool bar, CancellationToken stop)
    {
        if (string.IsNullOrWhiteSpace(reason)) throw Refused.Invalid("missing-reason", "Say why: the reason goes into the record.");
        await using var act = await Act.BeginAsync(database, who.Id, clock.GetUtcNow(), stop);
        if (await People.LockAsync(act, person, stop) is not { } found) throw Refused.Missing("person");
        if (found.BarredAt is not null == bar) return;
        act.Write("UPDATE person SET barred_at = $2::timestamptz, barred_reason = $3 WHERE id = $1", person, bar ? act.At.UtcDateTime : null, bar ? reason.Trim() : "");
        if (bar) Sessions.EndAll(act, person);
        await act.AppendAsync(person, bar ? OfficeActs.PersonBarred : OfficeActs.PersonLetIn, reason.Trim(), new { found.Name, found.Login }, stop);
        DemandSomebodyLeft(act);
        try
        {
            await act.CommitAsync(stop);
        }
        catch (PostgresException e) when (e.SqlState == NobodyLeft)
        {
            throw LastOne();
        }
        sessions.Forget();
        rights.Forget();
        log.Write(bar ? SecurityEvents.Barred : SecurityEvents.LetIn, person, found.Login, reason.Trim());
        changes.Announce("session", person);
        changes.Announce("office", person);
    }

    /// <summary>What PostgreSQL says when nobody would be left to administer.</summary>
    internal const string NobodyLeft = "FR001";

    /// <summary>Fails the act when it leaves nobody to administer; raised inside the transaction, so that two at once cannot both pass.</summary>
    internal static void DemandSomebodyLeft(Act act)
    {
        act.Write("SELECT pg_advisory_xact_lock(7070)");
        act.Write(
            $"""
            DO $$ BEGIN IF NOT EXISTS (
                SELECT 1 FROM group_right r JOIN group_member m ON m.group_id = r.group_id JOIN person p ON p.id = m.person_id
                WHERE r.right_name = 'administer' AND p.barred_at IS NULL) THEN RAISE EXCEPTION 'nobody left' USING ERRCODE = '{NobodyLeft}'; END IF; END $$
            """);
    }

    /// <summary>The refusal of such an act.</summary>
    internal static Refused LastOne() => new(new Refusal("nobody-left", "Nobody would be left to administer. Give the right to somebody else first."));
}
