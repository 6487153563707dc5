using System.Collections;
using Froe.Core.Draft;
using Froe.Formats.Pictures;
using Froe.Server.Files;
using Froe.Server.SignIn;
using Froe.Store;

namespace Froe.Server.Register;

/// <summary>What one person has seen of a sheet.</summary>
/// <param name="Columns">Patches side by side.</param>
/// <param name="Rows">Patches one below another.</param>
/// <param name="Patches">A character for each, along the rows from the upper left: “0” nothing lies there, “1” not seen, “2” seen at a legible size.</param>
/// <param name="Percent">How much of what lies on the sheet was seen, in whole hundredths.</param>
/// <param name="Seconds">How long a view must rest on the screen to be told.</param>
public sealed record SeenSheet(int Columns, int Rows, string Patches, int Percent, double Seconds = Seeing.LeastSeconds);

/// <summary>What of a sheet was on somebody's screen without moving for the time that <see cref="Seeing"/> asks.</summary>
/// <param name="Views">At most 100.</param>
public sealed record NewlySeen(SeenView[] Views);

/// <summary>Keeps what people see of sheets.</summary>
public sealed class SeenSheets(Database database, Access access, Spool spool)
{
    private const int Most = 100;

    private sealed record Sheet(PatchGrid Grid, SheetFrame Frame, int Version);

    /// <summary>What a person has seen of a sheet.</summary>
    public async Task<SeenSheet> OfAsync(Who who, Guid draft, int position, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(who);
        var sheet = await FindAsync(who, draft, position, stop);
        return Shown(sheet, await SeenRows.OfLeafAsync(database, who.Id, draft, position, sheet.Version, stop));
    }

    /// <summary>Adds what was on a person's screen.</summary>
    public async Task<SeenSheet> AddAsync(Who who, Guid draft, int position, NewlySeen newly, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(who);
        ArgumentNullException.ThrowIfNull(newly);
        if (newly.Views is not { Length: > 0 and <= Most }) throw Refused.Invalid("bad-views", $"Say between 1 and {Most} views of the sheet.");
        var sheet = await FindAsync(who, draft, position, stop);
        var bits = new BitArray(sheet.Grid.Needs.Count);
        Seeing.Mark(bits, sheet.Grid, sheet.Frame.Extents, newly.Views);
        return Shown(sheet, bits.HasAnySet()
            ? await SeenRows.AddAsync(database, who.Id, draft, position, sheet.Version, bits, stop)
            : await SeenRows.OfLeafAsync(database, who.Id, draft, position, sheet.Version, stop));
    }

    private async Task<Sheet> FindAsync(Who who, Guid draft, int position, CancellationToken stop)
    {
        await access.DemandDraftAsync(who, draft, stop);
        var forms = await database.ListAsync(
            """
            SELECT f.sha256, l.frame::text, w.prepared FROM draft w JOIN draft_form f ON f.draft_id = w.id AND f.version = w.prepared JOIN draft_leaf l ON l.draft_id = w.id AND l.position = f.position
            WHERE w.id = $1 AND f.position = $2 AND f.form = $3
            """,
            r => (Sha256: r.GetFieldValue<byte[]>(0), Frame: Drafts.Frame(r.GetString(1)), Version: r.GetInt32(2)), [draft, position, LeafForms.Patches], stop);
        using var json = new MemoryStream();
        if (forms is not [{ Frame: SheetFrame frame } form] || !await spool.CopyToAsync(form.Sha256, json, stop)) throw Refused.Missing("sheet of which it is known what is to be seen");
        return new Sheet(SheetPatches.Read(json.ToArray()), frame, form.Version);
    }

    private static SeenSheet Shown(Sheet sheet, BitArray? seen)
    {
        var (grid, patches) = (sheet.Grid, new char[sheet.Grid.Needs.Count]);
        for (var i = 0; i < patches.Length; i++) patches[i] = grid.Needs[i] <= 0 ? '0' : seen is not null && i < seen.Length && seen[i] ? '2' : '1';
        return new SeenSheet(grid.Columns, grid.Rows, new string(patches), new SeenShare(grid.Held, patches.Count(p => p == '2')).Percent);
    }
}
