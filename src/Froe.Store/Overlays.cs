using System.Collections.Immutable;
using System.Security.Cryptography;
using System.Text;
using System.Text.Json;
using System.Text.Json.Serialization;
using Froe.Core.Draft;
using Froe.Core.Overlays;
using Froe.Core.Routing;
using Npgsql;

namespace Froe.Store;

/// <summary>An overlay as it is kept.</summary>
/// <param name="Signed">Its version when its owner signed last; 0 when they never did.</param>
/// <param name="IsPrivate">Whether only its owner sees what lies on it and belongs to no note.</param>
/// <param name="IsRemoved">Whether its owner has put it away, with nothing on it.</param>
/// <param name="Round">The round of its package in which it was made; 0 before that was sent, null when it is not known.</param>
/// <param name="Look">How what lies on it is drawn.</param>
public sealed record OverlayRow(Guid Id, Guid Draft, Guid Owner, string Name, DateTimeOffset MadeAt, long Version, byte[] Sha256, long Signed, bool IsPrivate, bool IsRemoved, int? Round, OverlayLook Look)
{
    /// <summary>Whether somebody sees what lies on it without a note.</summary>
    public bool IsSeenBy(Guid person) => !IsPrivate || Owner == person;
}

/// <summary>A markup as it is kept.</summary>
/// <param name="Zone">Where it lies in words; null when its sheet has no zones.</param>
public sealed record MarkupRow(Markup Markup, string? Zone);

/// <summary>A place of a note.</summary>
public sealed record NoteMark(Guid Note, Guid Id, Guid Draft, Guid Document, Place Place, Shape Shape, string? Zone, Guid Overlay);

/// <summary>The first markup on a draft, by sheet and by when it was drawn.</summary>
/// <param name="Count">How many there are.</param>
public sealed record FirstMarkup(Guid Id, Place Place, Shape Shape, int Count);

/// <summary>What is written of a markup, to the letter: what its overlay's digest is made of.</summary>
public sealed record MarkupBody(
    [property: JsonPropertyOrder(0)] Place Place, [property: JsonPropertyOrder(1)] Shape Shape, [property: JsonPropertyOrder(2)] Guid? Note,
    // Left out where there is none, so that what was written before there were any is written alike.
    [property: JsonPropertyOrder(3), JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] Guid? Tie = null,
    [property: JsonPropertyOrder(4), JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingDefault)] int Rank = 0)
{
    /// <summary>As it is written.</summary>
    public string Written() => JsonSerializer.Serialize(this, Act.Json);

    /// <summary>As it was written.</summary>
    public static MarkupBody Read(string written) => JsonSerializer.Deserialize<MarkupBody>(written, Act.Json)!;

    /// <summary>The SHA-256 of what is written.</summary>
    public static byte[] HashOf(string written) => SHA256.HashData(Encoding.UTF8.GetBytes(written));
}

/// <summary>Overlays and their markups: what is read and written of them. Nothing is decided here.</summary>
public static class OverlayRows
{
    private const string OverlaySql = "SELECT id, draft_id, owner, name, made_at, version, sha256, signed_version, is_private, removed_at IS NOT NULL, round, look::text FROM overlay";
    private const string MarkupSql = "SELECT m.id, m.overlay_id, m.place::text, m.shape::text, m.note_id, m.version, m.erased_at IS NOT NULL, m.zone, m.tie_id, m.rank FROM markup m";

    /// <summary>The overlays on some drafts, for <see cref="Act.ReadAsync"/> with <see cref="Overlay"/>.</summary>
    public const string OfDraftsSql = OverlaySql + " WHERE draft_id = ANY ($1) ORDER BY made_at, id";

    /// <summary>An overlay's row.</summary>
    public static OverlayRow Overlay(NpgsqlDataReader r) => new(r.GetGuid(0), r.GetGuid(1), r.GetGuid(2), r.GetString(3), r.Time(4), r.GetInt64(5), r.GetFieldValue<byte[]>(6), r.GetInt64(7), r.GetBoolean(8), r.GetBoolean(9), r.IsDBNull(10) ? null : r.GetInt32(10), LookOf(r.TextOrNull(11)));

    /// <summary>The overlays on a draft, oldest first.</summary>
    public static Task<List<OverlayRow>> OfDraftAsync(IReads reads, Guid draft, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(reads);
        return reads.ListAsync(OfDraftsSql, Overlay, [new[] { draft }], stop);
    }

    /// <summary>One overlay, or null.</summary>
    public static async Task<OverlayRow?> FindAsync(IReads reads, Guid id, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(reads);
        return (await reads.ListAsync(OverlaySql + " WHERE id = $1", Overlay, [id], stop)).FirstOrDefault();
    }

    /// <summary>A person's overlays on a draft, oldest first and those put away last, held until the act ends.</summary>
    public static Task<List<OverlayRow>> HoldAsync(Act act, Guid draft, Guid owner, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(act);
        return act.ListAsync(OverlaySql + " WHERE draft_id = $1 AND owner = $2 ORDER BY removed_at IS NOT NULL, made_at, id FOR UPDATE", Overlay, [draft, owner], stop);
    }

    /// <summary>Makes an overlay with nothing on it; one of the same id, or that name of the same person on the draft, stays.</summary>
    public static Task<List<Guid>> MakeAsync(Act act, Guid id, Guid draft, Guid owner, string name, bool isPrivate, int round, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(act);
        return act.ListAsync(
            """
            INSERT INTO overlay (id, draft_id, owner, name, made_at, version, sha256, is_private, round, look)
            VALUES ($1, $2, $3, $4, $5, 0, $6, $7, $8, (SELECT look FROM overlay_manner WHERE person_id = $3)) ON CONFLICT DO NOTHING RETURNING id
            """,
            r => r.GetGuid(0), [id, draft, owner, name, act.At.UtcDateTime, OverlayRules.Digest([]), isPrivate, round], stop);
    }

    /// <summary>Calls an overlay something else.</summary>
    public static void Rename(Act act, Guid id, string name)
    {
        ArgumentNullException.ThrowIfNull(act);
        act.Write("UPDATE overlay SET name = $2 WHERE id = $1", id, name);
    }

    /// <summary>Shows an overlay to its owner alone, or to all who see the draft.</summary>
    public static void Share(Act act, Guid id, bool isPrivate)
    {
        ArgumentNullException.ThrowIfNull(act);
        act.Write("UPDATE overlay SET is_private = $2 WHERE id = $1", id, isPrivate);
    }

    /// <summary>Puts away an overlay on which nothing lies.</summary>
    public static void Remove(Act act, Guid id)
    {
        ArgumentNullException.ThrowIfNull(act);
        act.Write("UPDATE overlay SET removed_at = $2 WHERE id = $1", id, act.At.UtcDateTime);
    }

    /// <summary>Takes an overlay up again that was put away, by a name that no other has.</summary>
    public static void TakeUp(Act act, Guid id, string name)
    {
        ArgumentNullException.ThrowIfNull(act);
        act.Write("UPDATE overlay SET removed_at = NULL, name = $2 WHERE id = $1", id, name);
    }

    /// <summary>Notes that a person signs with their overlays on some drafts as they are; from then on everybody sees them.</summary>
    public static void Sign(Act act, Guid owner, Guid[] drafts)
    {
        ArgumentNullException.ThrowIfNull(act);
        act.Write("UPDATE overlay SET signed_version = version, is_private = false WHERE owner = $1 AND draft_id = ANY ($2)", owner, drafts);
    }

    /// <summary>Gives an overlay another look.</summary>
    public static void Paint(Act act, Guid id, OverlayLook look)
    {
        ArgumentNullException.ThrowIfNull(act);
        act.Write("UPDATE overlay SET look = $2::jsonb WHERE id = $1", id, JsonSerializer.Serialize(look, Act.Json));
    }

    /// <summary>Keeps the look that a person's new overlays have.</summary>
    public static void KeepLook(Act act, Guid person, OverlayLook look)
    {
        ArgumentNullException.ThrowIfNull(act);
        act.Write("INSERT INTO overlay_manner (person_id, look) VALUES ($1, $2::jsonb) ON CONFLICT (person_id) DO UPDATE SET look = excluded.look", person, JsonSerializer.Serialize(look, Act.Json));
    }

    /// <summary>What lies on overlays, the lowest first: by rank, and in the order it was drawn.</summary>
    public static Task<List<MarkupRow>> OnAsync(IReads reads, IEnumerable<Guid> overlays, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(reads);
        return reads.ListAsync(MarkupSql + " WHERE m.overlay_id = ANY ($1) AND m.erased_at IS NULL ORDER BY m.rank, m.changed_at, m.id", Markup, [overlays.ToArray()], stop);
    }

    /// <summary>Markups by their ids, erased ones too.</summary>
    public static Task<List<MarkupRow>> MarkupsAsync(IReads reads, Guid[] ids, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(reads);
        return reads.ListAsync(MarkupSql + " WHERE m.id = ANY ($1)", Markup, [ids], stop);
    }

    /// <summary>The places of the notes of a package, in the order they were drawn.</summary>
    public static Task<List<NoteMark>> OfNotesAsync(IReads reads, Guid package, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(reads);
        return reads.ListAsync(
            """
            SELECT n.id, m.id, o.draft_id, w.document_id, m.place::text, m.shape::text, m.zone, m.overlay_id
            FROM note n JOIN markup m ON m.note_id = coalesce(n.origin, n.id) JOIN overlay o ON o.id = m.overlay_id JOIN draft w ON w.id = o.draft_id
            WHERE n.package_id = $1 AND m.erased_at IS NULL ORDER BY o.draft_id <> n.draft_id, m.changed_at, m.id
            """,
            r => new NoteMark(r.GetGuid(0), r.GetGuid(1), r.GetGuid(2), r.GetGuid(3), PlaceOf(r.GetString(4)), ShapeOf(r.GetString(5)), r.TextOrNull(6), r.GetGuid(7)), [package], stop);
    }

    /// <summary>The first markup on each of some drafts that somebody sees, by sheet and by when it was drawn, and how many there are.</summary>
    public static async Task<Dictionary<Guid, FirstMarkup>> FirstAsync(IReads reads, Guid person, Guid[] drafts, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(reads);
        return (await reads.ListAsync(
            """
            SELECT DISTINCT ON (o.draft_id) o.draft_id, m.id, m.place::text, m.shape::text, count(*) OVER (PARTITION BY o.draft_id)::int
            FROM overlay o JOIN markup m ON m.overlay_id = o.id AND m.erased_at IS NULL WHERE o.draft_id = ANY ($1) AND (o.owner = $2 OR NOT o.is_private OR m.note_id IS NOT NULL)
            ORDER BY o.draft_id, (m.place ->> 'leaf')::int, m.changed_at, m.id
            """,
            r => (Draft: r.GetGuid(0), First: new FirstMarkup(r.GetGuid(1), PlaceOf(r.GetString(2)), ShapeOf(r.GetString(3)), r.GetInt32(4))), [drafts, person], stop)).ToDictionary(m => m.Draft, m => m.First);
    }

    /// <summary>The overlays on which places of a note lie, held until the act ends.</summary>
    public static Task<List<OverlayRow>> HoldOfNoteAsync(Act act, Guid note, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(act);
        return act.ListAsync(OverlaySql + " WHERE id IN (SELECT overlay_id FROM markup WHERE note_id = $1 AND erased_at IS NULL) ORDER BY id FOR UPDATE", Overlay, [note], stop);
    }

    /// <summary>Changes markups of an overlay that is held, and counts its version up by one.</summary>
    /// <param name="changed">The markups as they are to be, erased ones too.</param>
    /// <returns>The version.</returns>
    public static async Task<long> WriteAsync(Act act, OverlayRow overlay, IReadOnlyList<MarkupRow> changed, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(act);
        ArgumentNullException.ThrowIfNull(overlay);
        ArgumentNullException.ThrowIfNull(changed);
        var version = overlay.Version + 1;
        var held = (await act.ListAsync("SELECT id, sha256 FROM markup WHERE overlay_id = $1 AND erased_at IS NULL", r => (Id: r.GetGuid(0), Sha256: r.GetFieldValue<byte[]>(1)), [overlay.Id], stop))
            .ToDictionary(m => m.Id, m => m.Sha256);
        var bodies = changed.Select(c => new MarkupBody(c.Markup.Place, c.Markup.Shape, c.Markup.Note, c.Markup.Tie, c.Markup.Rank).Written()).ToArray();
        var hashes = bodies.Select(MarkupBody.HashOf).ToArray();
        for (var i = 0; i < changed.Count; i++)
        {
            if (changed[i].Markup.IsErased) held.Remove(changed[i].Markup.Id);
            else held[changed[i].Markup.Id] = hashes[i];
        }
        var ids = changed.Select(c => c.Markup.Id).ToArray();
        act.Write(
            """
            INSERT INTO markup (id, overlay_id, place, shape, note_id, zone, version, sha256, changed_at, erased_at, tie_id, rank)
            SELECT id, $1, place::jsonb, shape::jsonb, note, zone, $2, sha256, $3, CASE WHEN erased THEN $3 END, tie, rank
            FROM unnest($4::uuid[], $5::text[], $6::text[], $7::uuid[], $8::text[], $9::bytea[], $10::bool[], $11::uuid[], $12::int[])
                AS c (id, place, shape, note, zone, sha256, erased, tie, rank)
            ON CONFLICT (id) DO UPDATE SET place = excluded.place, shape = excluded.shape, note_id = excluded.note_id, zone = excluded.zone,
                version = excluded.version, sha256 = excluded.sha256, changed_at = excluded.changed_at, erased_at = excluded.erased_at,
                tie_id = excluded.tie_id, rank = excluded.rank
            """,
            overlay.Id, version, act.At.UtcDateTime, ids,
            changed.Select(c => JsonSerializer.Serialize(c.Markup.Place, Act.Json)).ToArray(), changed.Select(c => JsonSerializer.Serialize(c.Markup.Shape, Act.Json)).ToArray(),
            changed.Select(c => c.Markup.Note).ToArray(), changed.Select(c => c.Zone).ToArray(), hashes, changed.Select(c => c.Markup.IsErased).ToArray(),
            changed.Select(c => c.Markup.Tie).ToArray(), changed.Select(c => c.Markup.Rank).ToArray());
        act.Write(
            "INSERT INTO markup_change (overlay_id, version, markup_id, at, body) SELECT $1, $2, id, $3, body FROM unnest($4::uuid[], $5::text[]) AS c (id, body)",
            overlay.Id, version, act.At.UtcDateTime, ids, bodies.Select((b, i) => changed[i].Markup.IsErased ? null : b).ToArray());
        act.Write("UPDATE overlay SET version = $2, sha256 = $3 WHERE id = $1", overlay.Id, version, OverlayRules.Digest(held.Select(h => (h.Key, h.Value))));
        return version;
    }

    /// <summary>What a sign-off is given with: the overlays that were ever drawn on.</summary>
    public static ImmutableArray<SignedOverlay> Signed(IEnumerable<OverlayRow> overlays) =>
        [.. overlays.Where(o => o.Version > 0).Select(o => new SignedOverlay(o.Id, o.Version, Convert.ToHexStringLower(o.Sha256)) { Owner = o.Owner, Draft = o.Draft })];

    private static MarkupRow Markup(NpgsqlDataReader r) => new(
        new Markup(r.GetGuid(0), r.GetGuid(1), PlaceOf(r.GetString(2)), ShapeOf(r.GetString(3)), r.IdOrNull(4), r.GetInt64(5), r.GetBoolean(6), r.IdOrNull(8), r.GetInt32(9)), r.TextOrNull(7));

    private static OverlayLook LookOf(string? json) => json is null ? OverlayLook.Usual : JsonSerializer.Deserialize<OverlayLook>(json, Act.Json)!;

    private static Place PlaceOf(string json) => JsonSerializer.Deserialize<Place>(json, Act.Json)!;

    private static Shape ShapeOf(string json) => JsonSerializer.Deserialize<Shape>(json, Act.Json)!;
}
