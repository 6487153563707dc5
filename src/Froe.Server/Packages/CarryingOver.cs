using System.ComponentModel.DataAnnotations;
using Froe.Core.Review;
using Froe.Core.Routing;
using Froe.Server.SignIn;
using Froe.Store;

namespace Froe.Server.Packages;

/// <summary>A request on a document that no reviewer settled before its package ended or went on without the document.</summary>
/// <param name="Package">The package it was asked in.</param>
/// <param name="Author">Who asked.</param>
public sealed record UnsettledRequest(Guid Id, Guid Package, string PackageNumber, int Number, Guid Document, Guid Draft, string Body, Guid Author, string AuthorName, DateTimeOffset At)
{
    /// <summary>The absent person for whom a deputy wrote it.</summary>
    public Guid? For { get; init; }

    /// <summary>What it says besides its words.</summary>
    internal NoteTerms Terms { get; init; } = NoteTerms.None;

    /// <summary>The request as it was first written.</summary>
    internal Guid Origin { get; init; }
}

/// <summary>Documents of which somebody asks what waits with them.</summary>
public sealed record UnsettledAsked([property: MaxLength(500)] Guid[] Documents);

/// <summary>
/// Nothing asked for gets lost: what was asked of a document in a package that ended without release, or went on without the document,
/// stays with the document and is brought along into the next package that holds it. What speaks of several documents stays where one of them
/// is still under way.
/// </summary>
public static class CarryingOver
{
    private const string UnsettledSql =
        """
        WITH about AS (
            SELECT id FROM note WHERE document_id = ANY ($1)
            UNION SELECT n.id FROM draft w JOIN overlay o ON o.draft_id = w.id JOIN markup m ON m.overlay_id = o.id AND m.erased_at IS NULL JOIN note n ON n.id = m.note_id WHERE w.document_id = ANY ($1)
            UNION SELECT n.id FROM draft w JOIN overlay o ON o.draft_id = w.id JOIN markup m ON m.overlay_id = o.id AND m.erased_at IS NULL JOIN note n ON n.origin = m.note_id WHERE w.document_id = ANY ($1))
        SELECT n.id, n.package_id, k.number, n.number, n.document_id, n.draft_id, n.body, n.author, p.name, n.at, n.for_person, coalesce(n.origin, n.id), n.urgent, n.due, n.tags
        FROM about JOIN note n ON n.id = about.id JOIN package k ON k.id = n.package_id JOIN person p ON p.id = n.author
        WHERE n.kind = 'request' AND n.standing IN ('open', 'answered') AND n.package_id <> $2
        AND (k.standing = 'stopped' OR NOT EXISTS (
            SELECT 1 FROM package_item i WHERE i.package_id = k.id AND i.round = k.round AND (i.document_id = n.document_id OR i.document_id IN (
                SELECT w.document_id FROM markup m JOIN overlay o ON o.id = m.overlay_id JOIN draft w ON w.id = o.draft_id WHERE m.note_id = coalesce(n.origin, n.id) AND m.erased_at IS NULL))))
        ORDER BY n.at, n.id
        """;

    /// <summary>What waits with some documents for their next package, oldest first; of documents that a person does not see, nothing.</summary>
    public static async Task<IReadOnlyList<UnsettledRequest>> OfAsync(IReads reads, Who who, Guid[] documents, CancellationToken stop) =>
        await FindAsync(reads, [.. await Access.DocumentsAmongAsync(reads, who, documents, stop)], Guid.Empty, stop);

    /// <summary>Holds the packages in which something on these documents is unsettled, so that their chains can be written to; before the documents are held.</summary>
    public static Task HoldAsync(Act act, Guid[] documents, Guid package, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(act);
        return act.ListAsync($"SELECT id FROM package WHERE id IN (SELECT u.package_id FROM ({UnsettledSql}) u) ORDER BY id FOR NO KEY UPDATE", r => r.GetGuid(0), [documents, package], stop);
    }

    /// <summary>What is to be brought along into a package, once its documents and the packages it comes from are held.</summary>
    /// <param name="package">The package; empty for a new one.</param>
    public static Task<List<UnsettledRequest>> FindAsync(IReads reads, Guid[] documents, Guid package, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(reads);
        return reads.ListAsync(
            UnsettledSql,
            r => new UnsettledRequest(r.GetGuid(0), r.GetGuid(1), r.GetString(2), r.GetInt32(3), r.GetGuid(4), r.GetGuid(5), r.GetString(6), r.GetGuid(7), r.GetString(8), r.Time(9)) { For = r.IdOrNull(10), Origin = r.GetGuid(11), Terms = NoteTermsRows.Read(r, 12) },
            [documents, package], stop);
    }

    /// <summary>The requests as routing sees them in the package they come into.</summary>
    /// <param name="last">Number of the package's last note.</param>
    public static IEnumerable<OpenRequest> Open(IEnumerable<UnsettledRequest> requests, int last) =>
        requests.Select((r, i) => new OpenRequest(last + i + 1, r.Document, 0, r.For ?? r.Author, false));

    /// <summary>Brings them along: each is a note of round 0 in the package it comes into, and goes on there from where it was asked.</summary>
    /// <param name="number">The number of the package they come into.</param>
    /// <param name="last">Number of its last note.</param>
    public static async Task BringAsync(Act act, Guid package, string number, Guid originator, int last, IReadOnlyList<UnsettledRequest> requests, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(act);
        ArgumentNullException.ThrowIfNull(requests);
        if (requests.Count == 0) return;
        foreach (var request in requests)
        {
            var (id, from, to) = (Guid.CreateVersion7(), $"{request.PackageNumber}, request {request.Number}", $"{number}, request {++last}");
            act.Write(
                """
                INSERT INTO note (id, package_id, number, document_id, draft_id, round, kind, standing, author, at, body, asked_of, for_person, origin, urgent, due, tags, subject)
                SELECT $1, $2, $3, document_id, draft_id, 0, kind, 'open', author, at, body, $4, for_person, $5, urgent, due, tags, subject FROM note WHERE id = $6
                """,
                id, package, last, originator, request.Origin, request.Id);
            act.Write("UPDATE note SET standing = 'carried over' WHERE id = $1", request.Id);
            Say(act, id, "brought along", from);
            Say(act, request.Id, "carried over", to);
            await act.AppendAsync(package, "request brought along", request.Body, new { Note = last, From = from, request.Document, request.Draft, request.Author, request.At, request.For, Of = originator, Terms = request.Terms.Written() }, stop);
            await act.AppendAsync(request.Package, "request carried over", "", new { Note = request.Number, To = to }, stop);
        }
        act.Write("UPDATE package SET last_note = $2 WHERE id = $1", package, last);
    }

    private static void Say(Act act, Guid note, string what, string words) => act.Write(
        "INSERT INTO note_act (note_id, sequence, person_id, at, act, body) SELECT $1, coalesce(max(sequence), 0) + 1, $2, $3, $4, $5 FROM note_act WHERE note_id = $1",
        note, act.Person, act.At.UtcDateTime, what, words);
}
