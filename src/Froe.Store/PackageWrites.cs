using System.Collections.Immutable;
using System.Text.Json;
using Froe.Core.Draft;
using Froe.Core.Routing;

namespace Froe.Store;

/// <summary>What is written to the tables of packages, their signatures and what they do to revisions. Each gathers writes of an act; none decides anything.</summary>
public static class PackageWrites
{
    /// <summary>The slip, and what lists look for in it.</summary>
    public static void Slip(Act act, Guid package, Slip slip)
    {
        ArgumentNullException.ThrowIfNull(act);
        ArgumentNullException.ThrowIfNull(slip);
        act.Write(
            "UPDATE package SET slip = $2::jsonb, round = $3, standing = $4, item_count = $6, held = $7, ended_at = CASE WHEN $4 IN ('released', 'stopped') THEN $5 ELSE ended_at END WHERE id = $1",
            package, JsonSerializer.Serialize(slip, Act.Json), slip.Round, Word(slip.Standing), act.At.UtcDateTime, slip.Items.Length, slip.IsHeld);
    }

    /// <summary>Who holds a seat, open or to come: how packages are found by person.</summary>
    public static void Seats(Act act, Guid package, IEnumerable<Guid> people)
    {
        ArgumentNullException.ThrowIfNull(act);
        var all = people.ToArray();
        act.Write("DELETE FROM package_seat WHERE package_id = $1 AND person_id <> ALL ($2)", package, all);
        act.Write("INSERT INTO package_seat (package_id, person_id) SELECT $1, unnest($2::uuid[]) ON CONFLICT DO NOTHING", package, all);
    }

    /// <summary>Somebody awaited from now on.</summary>
    public sealed record Awaited(Guid Person, string Seat, string Step, DateTimeOffset Due, DateTimeOffset? NudgeAt);

    /// <summary>Whose signatures are awaited: these and no others.</summary>
    /// <param name="anew">Those of them whose time begins now.</param>
    public static void Awaits(Act act, Guid package, ImmutableArray<(string Seat, Guid Person)> all, IReadOnlyList<Awaited> anew)
    {
        ArgumentNullException.ThrowIfNull(act);
        ArgumentNullException.ThrowIfNull(anew);
        act.Write(
            "DELETE FROM awaited WHERE package_id = $1 AND (seat, person_id) NOT IN (SELECT * FROM unnest($2::text[], $3::uuid[]))",
            package, all.Select(a => a.Seat).ToArray(), all.Select(a => a.Person).ToArray());
        if (anew.Count == 0) return;
        act.Write(
            """
            INSERT INTO awaited (person_id, package_id, seat, step, since, due, nudge_at)
            SELECT person, $1, seat, step, $2, due, nudge FROM unnest($3::uuid[], $4::text[], $5::text[], $6::timestamptz[], $7::timestamptz[]) AS a (person, seat, step, due, nudge)
            ON CONFLICT (package_id, seat, person_id) DO UPDATE SET step = excluded.step, since = excluded.since, due = excluded.due, nudge_at = excluded.nudge_at
            """,
            package, act.At.UtcDateTime, anew.Select(a => a.Person).ToArray(), anew.Select(a => a.Seat).ToArray(), anew.Select(a => a.Step).ToArray(),
            anew.Select(a => a.Due.UtcDateTime).ToArray(), anew.Select(a => a.NudgeAt?.UtcDateTime).ToArray());
    }

    /// <summary>The package waits for its originator from now on, or does so no more.</summary>
    /// <param name="due">When it is due; null when the plan says nothing, or nothing is awaited.</param>
    public static void AnswerAwaited(Act act, Guid package, bool isAwaited, DateTimeOffset? due, DateTimeOffset? nudgeAt)
    {
        ArgumentNullException.ThrowIfNull(act);
        if (isAwaited)
            act.Write(
                """
                INSERT INTO awaited_answer (package_id, since, due, nudge_at) VALUES ($1, $2, $3::timestamptz, $4::timestamptz)
                ON CONFLICT (package_id) DO UPDATE SET since = excluded.since, due = excluded.due, nudge_at = excluded.nudge_at
                """,
                package, act.At.UtcDateTime, due?.UtcDateTime, nudgeAt?.UtcDateTime);
        else act.Write("DELETE FROM awaited_answer WHERE package_id = $1", package);
    }

    /// <summary>When the originator is reminded next; null when not any more.</summary>
    public static void NudgeAnswer(Act act, Guid package, DateTimeOffset? at)
    {
        ArgumentNullException.ThrowIfNull(act);
        act.Write("UPDATE awaited_answer SET nudge_at = $2::timestamptz WHERE package_id = $1", package, at?.UtcDateTime);
    }

    /// <summary>The package is another originator's, with what waits for them, and so are those of some documents that were the former one's.</summary>
    /// <returns>The documents that changed hands, held until the act ends.</returns>
    public static async Task<List<Guid>> OriginatorAsync(Act act, Guid package, OriginatorIs now, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(act);
        ArgumentNullException.ThrowIfNull(now);
        var handed = await act.ListAsync("SELECT id FROM document WHERE id = ANY ($1) AND originator = $2 ORDER BY id FOR NO KEY UPDATE", r => r.GetGuid(0), [now.Documents.ToArray(), now.From], stop);
        act.Write("UPDATE package SET originator = $2 WHERE id = $1", package, now.To);
        act.Write("UPDATE note SET asked_of = $3 WHERE package_id = $1 AND asked_of = $2 AND standing IN ('open', 'answered')", package, now.From, now.To);
        act.Write("UPDATE document SET originator = $2 WHERE id = ANY ($1)", handed.ToArray(), now.To);
        return handed;
    }

    /// <summary>A document leaves a package's round; the others keep their order.</summary>
    public static void ItemLeaves(Act act, Guid package, int round, Guid document)
    {
        ArgumentNullException.ThrowIfNull(act);
        act.Write("DELETE FROM package_item WHERE package_id = $1 AND round = $2 AND document_id = $3", package, round, document);
        Renumber(act, package, round);
    }

    /// <summary>The first item's place is what lists look for.</summary>
    private static void Renumber(Act act, Guid package, int round)
    {
        act.Write(
            """
            UPDATE package_item i SET position = -n.position FROM (SELECT document_id, row_number() OVER (ORDER BY position) AS position FROM package_item WHERE package_id = $1 AND round = $2) n
            WHERE i.package_id = $1 AND i.round = $2 AND i.document_id = n.document_id
            """,
            package, round);
        act.Write("UPDATE package_item SET position = -position WHERE package_id = $1 AND round = $2", package, round);
    }

    /// <summary>When steps opened and were passed.</summary>
    public static void Passages(Act act, Guid package, Guid? plan, int round, StepsMoved moved)
    {
        ArgumentNullException.ThrowIfNull(act);
        ArgumentNullException.ThrowIfNull(moved);
        if (moved.Opened.Length > 0)
            act.Write(
                """
                INSERT INTO step_passage (package_id, round, step, plan_id, opened_at) SELECT $1, $2, unnest($3::text[]), $4::uuid, $5
                ON CONFLICT (package_id, round, step) DO UPDATE SET opened_at = excluded.opened_at, passed_at = NULL
                """,
                package, round, moved.Opened.ToArray(), plan, act.At.UtcDateTime);
        if (moved.Passed.Length > 0)
            act.Write("UPDATE step_passage SET passed_at = $4 WHERE package_id = $1 AND round = $2 AND step = ANY ($3)", package, round, moved.Passed.ToArray(), act.At.UtcDateTime);
    }

    /// <summary>The revisions that some documents of a package's round are in.</summary>
    public static void Revisions(Act act, Guid package, int round, Standing standing, IEnumerable<Guid> documents)
    {
        ArgumentNullException.ThrowIfNull(act);
        act.Write(
            "UPDATE revision SET standing = $4 WHERE id IN (SELECT revision_id FROM package_item WHERE package_id = $1 AND round = $2 AND document_id = ANY ($3))",
            package, round, documents.ToArray(), standing.Word());
    }

    /// <summary>A signature stands no more.</summary>
    public static void SignatureFalls(Act act, Guid package, string seat, Guid person)
    {
        ArgumentNullException.ThrowIfNull(act);
        act.Write("UPDATE sign_off SET stands = false WHERE package_id = $1 AND seat = $2 AND person_id = $3 AND stands", package, seat, person);
    }

    /// <summary>Of the signatures that stand, only these go on.</summary>
    public static void SignaturesKept(Act act, Guid package, ImmutableArray<Signature> kept)
    {
        ArgumentNullException.ThrowIfNull(act);
        act.Write(
            "UPDATE sign_off SET stands = false WHERE package_id = $1 AND stands AND (seat, person_id) NOT IN (SELECT * FROM unnest($2::text[], $3::uuid[]))",
            package, kept.Select(k => k.Seat).ToArray(), kept.Select(k => k.Person).ToArray());
    }

    /// <summary>Items leave a package and are one of their own, with what was said of them and the signatures that stand on them.</summary>
    public static void SplitOff(Act act, Guid package, Guid id, string number, int round, ItemsLeave left)
    {
        ArgumentNullException.ThrowIfNull(act);
        ArgumentNullException.ThrowIfNull(left);
        var (documents, drafts) = (left.Items.Select(i => i.Document).ToArray(), left.Drafts.ToArray());
        act.Write(
            """
            INSERT INTO package (id, number, title, covering_note, originator, sent_at, round_at, round, standing, slip, item_count, plan_id, edition, last_note, split_from)
            SELECT $2, $3, title, covering_note, originator, $4, $4, $5, 'returned', $6::jsonb, $7, plan_id, edition, last_note, id FROM package WHERE id = $1
            """,
            package, id, number, act.At.UtcDateTime, left.Slip.Round, JsonSerializer.Serialize(left.Slip, Act.Json), left.Items.Length);
        act.Write("INSERT INTO package_informed SELECT $2, person_id FROM package_informed WHERE package_id = $1", package, id);
        act.Write(
            """
            WITH gone AS (DELETE FROM package_item WHERE package_id = $1 AND round = $3 AND document_id = ANY ($4) RETURNING document_id, revision_id, draft_id, position)
            INSERT INTO package_item (package_id, round, position, document_id, revision_id, draft_id) SELECT $2, $3, row_number() OVER (ORDER BY position), document_id, revision_id, draft_id FROM gone
            """,
            package, id, round, documents);
        Renumber(act, package, round);
        act.Write("INSERT INTO awaited_answer (package_id, since) VALUES ($1, $2)", id, act.At.UtcDateTime);
        Seats(act, id, left.Slip.Seated());
        // What was said of these items is shown where they are now; the signatures stay in the package they were given in as well.
        act.Write(
            """
            INSERT INTO sign_off (id, package_id, round, seat, person_id, at, statement, remark, for_person, answers)
            SELECT md5(id::text || $2::text)::uuid, $2, round, seat, person_id, at, statement, remark, for_person, answers FROM sign_off s
            WHERE package_id = $1 AND stands AND EXISTS (SELECT 1 FROM verdict v WHERE v.sign_off_id = s.id AND v.draft_id = ANY ($3))
            """,
            package, id, drafts);
        act.Write(
            """
            INSERT INTO verdict (sign_off_id, draft_id, sha256, verdict, reason, seen)
            SELECT md5(s.id::text || $2::text)::uuid, v.draft_id, v.sha256, v.verdict, v.reason, v.seen FROM verdict v JOIN sign_off s ON s.id = v.sign_off_id
            WHERE s.package_id = $1 AND s.stands AND v.draft_id = ANY ($3)
            """,
            package, id, drafts);
        act.Write("UPDATE note SET package_id = $2 WHERE package_id = $1 AND document_id = ANY ($3)", package, id, documents);
        act.Write("UPDATE advice SET package_id = $1 WHERE note_id IN (SELECT id FROM note WHERE package_id = $1)", id);
        act.Write("UPDATE revision SET standing = 'returned' WHERE id IN (SELECT revision_id FROM package_item WHERE package_id = $1)", id);
    }

    /// <summary>A released revision, and the label of the one that it supersedes.</summary>
    public sealed record ReleasedRevision(Guid Document, Guid Revision, string Label, string? Earlier);

    /// <summary>Releases the revisions of a package's round, under their documents' locks, and supersedes those before.</summary>
    public static async Task<List<ReleasedRevision>> ReleaseAsync(Act act, Guid package, int round, Guid[] documents, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(act);
        var rows = await act.ListAsync(
            """
            SELECT i.document_id, i.revision_id, r.label, (SELECT o.label FROM revision o WHERE o.document_id = i.document_id AND o.standing = 'released')
            FROM package_item i JOIN revision r ON r.id = i.revision_id
            WHERE i.package_id = $1 AND i.round = $2 AND i.document_id IN (SELECT id FROM document WHERE id = ANY ($3) ORDER BY id FOR NO KEY UPDATE)
            """,
            r => new ReleasedRevision(r.GetGuid(0), r.GetGuid(1), r.GetString(2), r.TextOrNull(3)), [package, round, documents], stop);
        act.Write("UPDATE revision SET standing = 'superseded' WHERE document_id = ANY ($1) AND standing = 'released'", documents);
        act.Write("UPDATE revision SET standing = 'released', released_at = $2 WHERE id = ANY ($1)", rows.Select(r => r.Revision).ToArray(), act.At.UtcDateTime);
        return rows;
    }

    /// <summary>A package put aside for its originator to send, with the covering note and the form of the one it follows.</summary>
    public static void Prepare(Act act, Guid package, Guid prepared, FollowUpPrepared next, IReadOnlyDictionary<string, string> answers, string because)
    {
        ArgumentNullException.ThrowIfNull(act);
        ArgumentNullException.ThrowIfNull(next);
        act.Write(
            """
            INSERT INTO prepared_package (id, person_id, at, title, covering_note, plan_id, documents, answers, because, change_order)
            SELECT $2, k.originator, $3, $4, k.covering_note, (SELECT id FROM plan WHERE id = $5), '{}', $6::jsonb, $7, k.change_order FROM package k WHERE k.id = $1
            """,
            package, prepared, act.At.UtcDateTime, next.Title, next.Next.Plan, JsonSerializer.Serialize(answers, Act.Json), because);
    }

    /// <summary>Everybody of an audience, each once.</summary>
    public static async Task<IReadOnlyList<Guid>> PeopleAsync(Act act, Guid package, Slip slip, Audience audience, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(act);
        ArgumentNullException.ThrowIfNull(slip);
        ArgumentNullException.ThrowIfNull(audience);
        var people = new List<Guid>();
        if (audience.Informed) people.AddRange(await act.ListAsync("SELECT person_id FROM package_informed WHERE package_id = $1", r => r.GetGuid(0), [package], stop));
        people.AddRange(audience.People);
        if (audience.Asked) people.AddRange(await act.ListAsync("SELECT asked_of FROM advice WHERE package_id = $1 AND answer IS NULL", r => r.GetGuid(0), [package], stop));
        if (!audience.Groups.IsEmpty) people.AddRange(await act.ListAsync("SELECT person_id FROM group_member WHERE group_id = ANY ($1)", r => r.GetGuid(0), [audience.Groups.ToArray()], stop));
        if (audience.LastEditors) people.AddRange(await act.ListAsync("SELECT DISTINCT uploaded_by FROM draft WHERE id = ANY ($1)", r => r.GetGuid(0), [slip.Items.Select(i => i.Draft).ToArray()], stop));
        return [.. people.Distinct()];
    }

    private static string Word(SlipStanding standing) => standing == SlipStanding.Unsent
        ? throw new InvalidOperationException("A package that was not sent is not stored.")
        : Words.Of(standing);
}
