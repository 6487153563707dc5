using System.Security.Cryptography;
using Froe.Core.Draft;
using Froe.Core.Overlays;
using Froe.Core.Routing;
using Npgsql;

namespace Froe.Store.Proof;

/// <summary>A markup of a note as the ledger tells it.</summary>
/// <param name="Id">The markup; null where one was named by its note only.</param>
internal sealed record ToldMark(Guid? Id, Place Place, Shape Shape);

/// <summary>
/// What lay on the drafts of some packages: whether every markup is what its changes make of it, and every overlay, as it was when somebody
/// signed with it, what their sign-off names.
/// </summary>
internal sealed class OverlayProof
{
    private sealed record Row(Guid Id, long Version, byte[] Sha256, Guid Owner, Guid Draft, long Signed);

    private sealed record MarkupNow(Guid Id, long Version, byte[] Sha256, bool IsErased, MarkupBody Body);

    private sealed record Change(Guid Overlay, long Version, Guid Markup, string? Body, byte[]? Sha256);

    private readonly Dictionary<Guid, Row> overlays;
    private readonly ILookup<Guid, Change> changes;
    private readonly ILookup<Guid, MarkupNow> markups;
    private readonly ILookup<Guid, Change> drawn;

    private readonly List<string> pictures;

    private OverlayProof(IEnumerable<Row> overlays, List<Change> changes, ILookup<Guid, MarkupNow> markups, List<string> pictures)
    {
        (this.overlays, this.changes, this.markups, this.pictures) = (overlays.ToDictionary(o => o.Id), changes.ToLookup(c => c.Overlay), markups, pictures);
        drawn = changes.Where(c => c.Body is not null).ToLookup(c => c.Markup);
    }

    /// <summary>Reads what lies, and lay, on the drafts of the packages of a part.</summary>
    public static async Task<OverlayProof> ReadAsync(NpgsqlConnection connection, Scope scope, CancellationToken stop)
    {
        // Items that were split off have left their package; what was said and signed of them has not. Ids are looked up before what hangs on
        // them: asked in one statement, the planner walks whole tables for each part.
        Guid[] drafts = [.. await connection.ListAsync(
            $"SELECT draft_id FROM package_item WHERE {scope.Holds("package_id")} UNION SELECT draft_id FROM note WHERE {scope.Holds("package_id")} AND draft_id IS NOT NULL UNION SELECT v.draft_id FROM sign_off s JOIN verdict v ON v.sign_off_id = s.id WHERE {scope.Holds("s.package_id")}",
            r => r.GetGuid(0), [], stop)];
        var rows = await connection.ListAsync("SELECT id, version, sha256, owner, draft_id, signed_version FROM overlay WHERE draft_id = ANY ($1)", r => new Row(r.GetGuid(0), r.GetInt64(1), r.GetFieldValue<byte[]>(2), r.GetGuid(3), r.GetGuid(4), r.GetInt64(5)), [drafts], stop);
        var ids = rows.Select(o => o.Id).ToArray();
        var changes = await connection.ListAsync(
            "SELECT overlay_id, version, markup_id, body FROM markup_change WHERE overlay_id = ANY ($1) ORDER BY overlay_id, version",
            r => new Change(r.GetGuid(0), r.GetInt64(1), r.GetGuid(2), r.TextOrNull(3), r.TextOrNull(3) is { } body ? MarkupBody.HashOf(body) : null), [ids], stop);
        var markups = await connection.ListAsync(
            "SELECT overlay_id, id, version, sha256, erased_at IS NOT NULL, json_build_object('place', place, 'shape', shape, 'note', note_id, 'tie', tie_id, 'rank', rank)::text FROM markup WHERE overlay_id = ANY ($1)",
            r => (Overlay: r.GetGuid(0), Markup: new MarkupNow(r.GetGuid(1), r.GetInt64(2), r.GetFieldValue<byte[]>(3), r.GetBoolean(4), MarkupBody.Read(r.GetString(5)))), [ids], stop);
        Guid[] pasted = [.. markups.Where(m => m.Markup is { IsErased: false, Body.Shape: PastedPicture }).Select(m => m.Markup.Id)];
        return new OverlayProof(rows, changes, markups.ToLookup(m => m.Overlay, m => m.Markup), await PicturesAsync(connection, drafts, pasted, stop));
    }

    /// <summary>What is wrong with the pictures that people put on the drafts: each is called by its SHA-256.</summary>
    /// <param name="pasted">The markups that show one.</param>
    private static async Task<List<string>> PicturesAsync(NpgsqlConnection connection, Guid[] drafts, Guid[] pasted, CancellationToken stop)
    {
        var altered = await connection.ListAsync(
            "SELECT draft_id, sha256, png FROM draft_picture WHERE draft_id = ANY ($1)",
            r => SHA256.HashData(r.GetFieldValue<byte[]>(2)).AsSpan().SequenceEqual(r.GetFieldValue<byte[]>(1)) ? null : $"draft {r.GetGuid(0)}: picture {Convert.ToHexStringLower(r.GetFieldValue<byte[]>(1))} is not what was put there", [drafts], stop);
        var gone = pasted.Length == 0 ? [] : await connection.ListAsync(
            """
            SELECT m.id, m.shape ->> 'picture' FROM markup m JOIN overlay o ON o.id = m.overlay_id
            WHERE m.id = ANY ($1) AND NOT EXISTS (SELECT 1 FROM draft h JOIN draft d ON d.document_id = h.document_id JOIN draft_picture p ON p.draft_id = d.id WHERE h.id = o.draft_id AND encode(p.sha256, 'hex') = m.shape ->> 'picture')
            """,
            r => $"markup {r.GetGuid(0)}: its picture {r.GetString(1)} is gone", [pasted], stop);
        return [.. altered.OfType<string>(), .. gone];
    }

    /// <summary>Whether overlays and markups are what their changes make of them.</summary>
    public void CompareAll(Findings findings)
    {
        foreach (var picture in pictures) findings.Add(picture);
        foreach (var overlay in overlays.Values)
        {
            var where = $"overlay {overlay.Id}";
            if (overlay.Version != changes[overlay.Id].Select(c => c.Version).DefaultIfEmpty(0).Max()) findings.Add($"{where}: it has changed more often, or less, than is written down");
            if (!overlay.Sha256.AsSpan().SequenceEqual(DigestAt(overlay.Id, overlay.Version))) findings.Add($"{where}: its digest is not that of what lies on it");
            var last = new Dictionary<Guid, Change>();
            foreach (var change in changes[overlay.Id]) last[change.Markup] = change;
            foreach (var markup in markups[overlay.Id])
            {
                if (!last.Remove(markup.Id, out var change)) findings.Add($"{where}: markup {markup.Id} was never drawn");
                else if (change.Version != markup.Version || (change.Body is null) != markup.IsErased || (change.Body is { } body && (MarkupBody.Read(body) != markup.Body || !markup.Sha256.AsSpan().SequenceEqual(change.Sha256))))
                    findings.Add($"{where}: markup {markup.Id} is not as it was drawn");
            }
            foreach (var gone in last.Values.Where(c => c.Body is not null)) findings.Add($"{where}: markup {gone.Markup} is gone");
        }
    }

    /// <summary>Whether what a sign-off was given with is what lay there then.</summary>
    /// <param name="person">Who gave it.</param>
    public void CompareSigned(string where, Guid person, IEnumerable<SignedOverlay> told, Findings findings)
    {
        foreach (var signed in told)
        {
            if (!overlays.TryGetValue(signed.Overlay, out var overlay)) findings.Add($"{where}: overlay {signed.Overlay}, with which it was given, is gone");
            else if (overlay.Version < signed.Version || signed.Sha256 != Convert.ToHexStringLower(DigestAt(overlay.Id, signed.Version)))
                findings.Add($"{where}: what lay on overlay {signed.Overlay} is not what it was given with");
            else if ((signed.Owner ?? overlay.Owner, signed.Draft ?? overlay.Draft) != (overlay.Owner, overlay.Draft))
                findings.Add($"{where}: overlay {signed.Overlay}, with which it was given, is somebody else's, or lies on another draft");
            else if (signed.Owner == person && overlay.Signed < signed.Version)
                findings.Add($"{where}: overlay {signed.Overlay}, with which it was given, is kept as one never signed with");
        }
    }

    /// <summary>Whether a note's places were once drawn as the ledger tells; they may have been moved since.</summary>
    /// <param name="legacy">The markup of a note that the ledger tells of without one.</param>
    /// <param name="author">Who wrote the note: its places are on an overlay of theirs.</param>
    public void CompareMarks(string where, Guid note, Guid legacy, Guid author, IEnumerable<ToldMark> told, Findings findings)
    {
        foreach (var mark in told)
        {
            var places = drawn[mark.Id ?? legacy].Where(c => MarkupBody.Read(c.Body!) is var b && b.Place == mark.Place && b.Shape == mark.Shape && b.Note == note).ToList();
            if (places.Count == 0) findings.Add($"{where}: its markup is not the one that was drawn");
            else if (!places.Exists(c => overlays[c.Overlay].Owner == author)) findings.Add($"{where}: its markup is on an overlay of somebody else's");
        }
    }

    private byte[] DigestAt(Guid overlay, long version)
    {
        var lies = new Dictionary<Guid, byte[]>();
        foreach (var change in changes[overlay].TakeWhile(c => c.Version <= version))
        {
            if (change.Sha256 is { } hash) lies[change.Markup] = hash;
            else lies.Remove(change.Markup);
        }
        return OverlayRules.Digest(lies.Select(l => (l.Key, l.Value)));
    }
}
