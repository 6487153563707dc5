using System.Text.Json;
using Froe.Core.Draft;
using Froe.Core.Drawing;
using Froe.Server.Changes;
using Froe.Server.SignIn;
using Froe.Store;

namespace Froe.Server.Register;

/// <summary>How large things are on a sheet.</summary>
/// <param name="Millimetres">Millimetres of the thing itself in one unit of the sheet.</param>
/// <param name="Words">As ISO 5455 writes it.</param>
/// <param name="Area">Where on the sheet; null for all of it.</param>
/// <param name="Given">From what somebody gave it; null where the file says so.</param>
/// <param name="By">Who gave it.</param>
/// <param name="At">When.</param>
public sealed record ShownScale(double Millimetres, string Words, Extents? Area = null, GivenScale? Given = null, string? By = null, DateTimeOffset? At = null);

/// <summary>A scale of a sheet, or that none is given any more.</summary>
/// <param name="Key">Made by the page once for this act.</param>
/// <param name="Scale">Null takes back what somebody gave.</param>
public sealed record NewScale(Guid Key, GivenScale? Scale);

/// <summary>The scales that people give to sheets.</summary>
public sealed class Scaling(Database database, Access access, Announcements changes, TimeProvider clock)
{
    private sealed record Kept;

    private sealed record Given(int Position, double Millimetres, GivenScale Scale, string By, DateTimeOffset At);

    /// <summary>What holds on each leaf: what a person gave, otherwise what the file says, the smallest area first.</summary>
    public async Task<IReadOnlyList<IReadOnlyList<ShownScale>>> HoldAsync(Guid draft, IReadOnlyList<Leaf> leaves, CancellationToken stop)
    {
        var given = (await database.ListAsync(
            """
            SELECT DISTINCT ON (s.position) s.position, coalesce(s.millimetres, 0), s.given::text, p.name, s.at
            FROM draft_scale s JOIN person p ON p.id = s.person_id WHERE s.draft_id = $1 ORDER BY s.position, s.id DESC
            """,
            r => new Given(r.GetInt32(0), r.GetDouble(1), JsonSerializer.Deserialize<GivenScale>(r.GetString(2), Act.Json)!, r.GetString(3), r.Time(4)), [draft], stop))
            .Where(g => g.Millimetres > 0).ToDictionary(g => g.Position);
        return [.. leaves.Select(IReadOnlyList<ShownScale> (l) =>
            l.Frame is SceneFrame ? given.TryGetValue(l.Position, out var of) ? [new ShownScale(of.Millimetres, ScaleRules.Words(of.Millimetres, LengthUnit.Unknown), null, of.Scale, of.By, of.At)] : []
            : l.Frame is not SheetFrame sheet ? []
            : given.TryGetValue(l.Position, out var g) ? [new ShownScale(g.Millimetres, ScaleRules.Words(g.Millimetres, sheet.Unit), null, g.Scale, g.By, g.At)]
            : [.. (sheet.Scales ?? []).Select(s => new ShownScale(s.Millimetres, ScaleRules.Words(s.Millimetres, sheet.Unit), s.Area))])];
    }

    /// <summary>The scales that the words on a draft's sheets name, by leaf.</summary>
    public async Task<ILookup<int, NamedScale>> NamedAsync(Guid draft, CancellationToken stop)
    {
        var lines = (await database.ListAsync(
            "SELECT t.position, l FROM leaf_text t CROSS JOIN unnest(t.lines) l WHERE t.draft_id = $1 AND l ~ '[0-9] ?[:/∶] ?[0-9]' LIMIT 5000",
            r => (Position: r.GetInt32(0), Line: r.GetString(1)), [draft], stop)).ToLookup(l => l.Position, l => l.Line);
        return lines.SelectMany(l => ScaleRules.Named(l).Select(n => (l.Key, Named: n))).ToLookup(n => n.Key, n => n.Named);
    }

    /// <summary>What a person said that a model is counted in whose file does not; unknown where nobody did.</summary>
    public async Task<LengthUnit> UnitAsync(Guid draft, int position, CancellationToken stop)
    {
        var given = await database.FirstAsync(
            "SELECT CASE WHEN millimetres IS NULL THEN '{}' ELSE given::text END FROM draft_scale WHERE draft_id = $1 AND position = $2 ORDER BY id DESC LIMIT 1",
            r => JsonSerializer.Deserialize<GivenScale>(r.GetString(0), Act.Json)!, [draft, position], stop);
        return given?.Unit ?? LengthUnit.Unknown;
    }

    /// <summary>Gives a sheet a scale, or a model a unit, or takes back what was given.</summary>
    public async Task SetAsync(Who who, Guid draft, int position, NewScale wanted, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(who);
        ArgumentNullException.ThrowIfNull(wanted);
        await access.DemandDraftAsync(who, draft, stop);
        if (!MaySet(who)) throw Refused.Forbidden("Guests see the scale of a sheet; somebody of the office sets it.");
        await using var act = await Act.BeginAsync(database, who.Id, clock.GetUtcNow(), stop);
        if (await act.SeenAsync<Kept>(wanted.Key, stop) is not null) return;
        // The document's row is the lock of its chain.
        var document = await act.ListAsync("SELECT id FROM document WHERE id = (SELECT document_id FROM draft WHERE id = $1) FOR NO KEY UPDATE", r => r.GetGuid(0), [draft], stop);
        if (document is not [var chain]) throw Refused.Missing("draft");
        if ((await Drafts.LeavesAsync(act, draft, stop)).Find(l => l.Position == position) is not { Frame: SheetFrame or SceneFrame } leaf) throw Refused.Missing("sheet");
        var unit = leaf.Frame is SheetFrame own ? own.Unit : LengthUnit.Unknown;
        double? millimetres = null;
        if (wanted.Scale is { } given)
        {
            var (found, fault) = leaf.Frame is SheetFrame sheet ? ScaleRules.Of(given, sheet) : ScaleRules.Of(given, (SceneFrame)leaf.Frame);
            if (fault is not null) throw Refused.Invalid("bad-scale", fault);
            millimetres = found;
        }
        act.Write(
            "INSERT INTO draft_scale (draft_id, position, millimetres, given, person_id, at) VALUES ($1, $2, $3, $4::jsonb, $5, $6)",
            draft, position, millimetres, JsonSerializer.Serialize(wanted.Scale ?? new GivenScale(), Act.Json), who.Id, act.At.UtcDateTime);
        await act.AppendAsync(chain, wanted.Scale is null ? "scale taken back" : "scale set", "", new { Draft = draft, Leaf = position, Sheet = leaf.Name, Scale = millimetres is { } m ? ScaleRules.Words(m, unit) : "", Millimetres = millimetres, Given = wanted.Scale }, stop);
        act.Remember(wanted.Key, new Kept());
        await act.CommitAsync(stop);
        changes.Announce("sheets", draft);
    }

    /// <summary>Whether a person may give sheets that they see a scale.</summary>
    public static bool MaySet(Who who) => !who.IsGuest;
}
