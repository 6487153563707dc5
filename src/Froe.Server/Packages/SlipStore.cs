using System.Collections.Immutable;
using System.Text.Json;
using Froe.Core.Review;
using Froe.Core.Routing;
using Froe.Server.Absences;
using Froe.Server.SignIn;
using Froe.Store;

namespace Froe.Server.Packages;

/// <summary>A package held under its lock.</summary>
public sealed record HeldPackage(Slip Slip, string Number, string Title, Guid Originator, ImmutableArray<OpenRequest> Requests, int LastNote, string? Answer)
{
    /// <summary>The plan it was sent with.</summary>
    public Guid? Plan { get; init; }

    /// <summary>The sender's words with the round under way.</summary>
    public string CoveringNote { get; init; } = "";

    /// <summary>Who signs for whom at this moment.</summary>
    public required IReadOnlyDictionary<Guid, Guid> Deputies { get; init; }

    /// <summary>The documents of the drafts of earlier rounds on which a verdict stands.</summary>
    public IReadOnlyDictionary<Guid, Guid> EarlierDrafts { get; init; } = SlipContext.Empty.EarlierDrafts;

    /// <summary>What the rules know of it; whoever changes its people adds the groups.</summary>
    public SlipContext Context => new(SlipContext.Empty.Groups, Requests) { Deputies = Deputies, EarlierDrafts = EarlierDrafts };

    /// <summary>What a decision makes of it.</summary>
    public SlipChange After(Decision decision, string reason) => new(Number, Title, Slip, decision.Events, reason, Deputies) { CoveringNote = CoveringNote };
}

/// <summary>Slips as the database keeps them, and packages held under their lock.</summary>
public static class SlipStore
{
    /// <summary>A slip as the database keeps it.</summary>
    public static string Write(Slip slip) => JsonSerializer.Serialize(slip, Act.Json);

    /// <summary>A slip as the database keeps it.</summary>
    public static Slip Read(string json) => JsonSerializer.Deserialize<Slip>(json, Act.Json)!;

    /// <summary>A plan as the database keeps it.</summary>
    public static Plan ReadPlan(string json) => JsonSerializer.Deserialize<Plan>(json, Act.Json)!;

    /// <summary>The requests of a package that no reviewer has closed, once for each document they speak of: a drawing and its model go back together.</summary>
    private const string RequestsSql =
        """
        WITH asked AS (SELECT coalesce(origin, id) AS id, number, document_id, round, coalesce(for_person, author) AS author, standing, answer FROM note WHERE package_id = $1 AND kind = 'request' AND standing IN ('open', 'answered'))
        SELECT number, document_id, round, author, standing, answer FROM asked
        UNION SELECT a.number, w.document_id, a.round, a.author, a.standing, a.answer
        FROM asked a JOIN markup m ON m.note_id = a.id JOIN overlay o ON o.id = m.overlay_id JOIN draft w ON w.id = o.draft_id WHERE m.erased_at IS NULL
        """;

    /// <summary>Locks a package and reads all that deciding needs, in one round trip, or two where a verdict stands on a draft of an earlier round; null when there is none.</summary>
    /// <param name="act">The act under way.</param>
    /// <param name="package">The package.</param>
    /// <param name="key">The request's key: a request seen before comes back with the answer it was given.</param>
    /// <param name="stop">Cancels.</param>
    public static async Task<HeldPackage?> LockAsync(Act act, Guid package, Guid? key, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(act);
        HeldPackage? held = null;
        var requests = ImmutableArray.CreateBuilder<OpenRequest>();
        string? answer = null;
        var deputies = new Dictionary<Guid, Guid>();
        // A package whose chain the read below does not find has none yet.
        act.NewChain(package);
        await act.ReadAsync(
            [
                ("SELECT slip::text, number, title, originator, last_note, plan_id, covering_note FROM package WHERE id = $1 FOR NO KEY UPDATE", [package],
                    r => held = new HeldPackage(Read(r.GetString(0)), r.GetString(1), r.GetString(2), r.GetGuid(3), [], r.GetInt32(4), null) { Plan = r.IdOrNull(5), CoveringNote = r.GetString(6), Deputies = deputies }),
                (Schedules.StandInsSql, [act.At.UtcDateTime], r => deputies.Add(r.GetGuid(0), r.GetGuid(1))),
                (Act.HeadSql, [package], act.Head),
                (RequestsSql, [package],
                    r => requests.Add(new OpenRequest(r.GetInt32(0), r.GetGuid(1), r.GetInt32(2), r.GetGuid(3), r.GetString(4) == "answered") { ChangesNothing = NoteRules.ChangesNothing(r.TextOrNull(5) is { } given ? Words.Parse<AnswerKind>(given) : null) })),
                ("SELECT answer FROM request_seen WHERE person_id = $1 AND key = $2", [act.Person, key ?? Guid.Empty], r => answer = r.GetString(0)),
            ],
            stop);
        if (held is null) return null;
        return held with { Requests = requests.ToImmutable(), Answer = answer, EarlierDrafts = await EarlierDraftsAsync(act, held.Slip, stop) };
    }

    /// <summary>The documents of a slip's drafts of earlier rounds on which a verdict stands; of most packages there are none, and nothing is read.</summary>
    public static async Task<IReadOnlyDictionary<Guid, Guid>> EarlierDraftsAsync(IReads reads, Slip slip, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(slip);
        ArgumentNullException.ThrowIfNull(reads);
        var earlier = slip.JudgedEarlier().ToArray();
        if (earlier.Length == 0) return SlipContext.Empty.EarlierDrafts;
        return (await reads.ListAsync("SELECT id, document_id FROM draft WHERE id = ANY ($1)", r => (Draft: r.GetGuid(0), Document: r.GetGuid(1)), [earlier], stop)).ToDictionary(d => d.Draft, d => d.Document);
    }

    /// <summary>The package of a note that a person may see; null when there is none. It is read before the package's lock and may be another under it.</summary>
    public static async Task<Guid?> PackageOfAsync(Act act, Who who, Guid note, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(act);
        var packages = await act.ListAsync("SELECT package_id FROM note WHERE id = $1", r => r.GetGuid(0), [note], stop);
        return packages is [var package] && await Access.SeesAsync(act, who, package, stop) ? package : null;
    }

    /// <summary>The next package's number; a preview takes none, for numbers do not come back.</summary>
    public static async Task<string> NextNumberAsync(Act act, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(act);
        if (act.IsPreview) return "PK";
        return "PK-" + (await act.ListAsync("SELECT nextval('package_number')", r => r.GetInt64(0), [], stop))[0].ToString("0000", System.Globalization.CultureInfo.InvariantCulture);
    }
}
