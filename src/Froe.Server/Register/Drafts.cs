using System.Text.Json;
using Froe.Core.Draft;
using Froe.Core.Drawing;
using Froe.Formats.Pictures;
using Froe.Formats.Tables;
using Froe.Server.Files;
using Froe.Server.SignIn;
using Froe.Store;

namespace Froe.Server.Register;

/// <summary>A leaf with what follows from its frame.</summary>
/// <param name="Grid">The fields that places on a sheet are named by; null when it is of no size that has fields.</param>
/// <param name="Scales">How large things are on a sheet, the smallest area first; empty where nobody has said.</param>
/// <param name="NamedScales">What the words on a sheet say of its scale, to be taken or not; told only where its scale is not known.</param>
/// <param name="MaySetScale">Whether who looks may give it a scale.</param>
/// <param name="Prepared">Which of its preparations is shown: it rises when the draft is prepared anew.</param>
public sealed record ShownLeaf(int Position, string Name, Frame Frame, ZoneGrid? Grid, IReadOnlyList<ShownScale> Scales, IReadOnlyList<NamedScale> NamedScales, bool MaySetScale, int Prepared);

/// <summary>What a draft holds: its leaves, and the forms that they are prepared in.</summary>
public sealed class Drafts(Database database, Access access, Spool spool, Scaling scaling)
{
    /// <summary>The leaves of a draft, in order.</summary>
    public async Task<IReadOnlyList<ShownLeaf>> LeavesAsync(Who who, Guid draft, CancellationToken stop)
    {
        await access.DemandDraftAsync(who, draft, stop);
        var prepared = (await database.ListAsync("SELECT prepared FROM draft WHERE id = $1", r => r.GetInt32(0), [draft], stop)).FirstOrDefault();
        var leaves = await LeavesAsync(database, draft, stop);
        var scales = await scaling.HoldAsync(draft, leaves, stop);
        var named = scales.Any(s => s.Count == 0) ? await scaling.NamedAsync(draft, stop) : null;
        return [.. leaves.Select((l, i) => new ShownLeaf(
            l.Position, l.Name, l.Frame, l.Frame is SheetFrame sheet ? Zones.Grid(sheet.Extents, sheet.Unit) : null, scales[i],
            l.Frame is SheetFrame { Unit: not LengthUnit.Unknown } && scales[i].Count == 0 ? [.. named?[l.Position] ?? []] : [], l.Frame is SheetFrame or SceneFrame { Unit: LengthUnit.Unknown } && Scaling.MaySet(who), prepared))];
    }

    /// <summary>The leaves of a draft, in order, whoever asks.</summary>
    internal static Task<List<Leaf>> LeavesAsync(IReads reads, Guid draft, CancellationToken stop) => reads.ListAsync(
        "SELECT position, name, frame::text FROM draft_leaf WHERE draft_id = $1 ORDER BY position",
        r => new Leaf(r.GetInt32(0), r.GetString(1), Frame(r.GetString(2))), [draft], stop);

    /// <summary>A frame as the database keeps it.</summary>
    internal static Frame Frame(string json) => JsonSerializer.Deserialize<Frame>(json, Act.Json)!;

    /// <summary>Which file a form of a leaf is, and its media type.</summary>
    public async Task<(byte[] Sha256, string MediaType)> FormAsync(Who who, Guid draft, int position, string form, CancellationToken stop)
    {
        await access.DemandDraftAsync(who, draft, stop);
        var found = await database.ListAsync(
            "SELECT c.sha256, c.media_type FROM draft w JOIN draft_form f ON f.draft_id = w.id AND f.version = w.prepared JOIN content c ON c.sha256 = f.sha256 WHERE w.id = $1 AND f.position = $2 AND f.form = $3",
            r => (r.GetFieldValue<byte[]>(0), r.GetString(1)), [draft, position, form], stop);
        return found.Count > 0 ? found[0] : throw Refused.Missing("form of a sheet");
    }

    /// <summary>What the view of a page needs besides its file.</summary>
    public async Task<PageFacts> PageAsync(Who who, Guid draft, int position, CancellationToken stop)
    {
        var (sha256, _) = await FormAsync(who, draft, position, LeafForms.Facts, stop);
        using var json = new MemoryStream();
        if (!await spool.CopyToAsync(sha256, json, stop)) throw Refused.Missing("page");
        return JsonSerializer.Deserialize<PageFacts>(json.ToArray(), Act.Json)!;
    }

    /// <summary>The tiles that a picture is cut into.</summary>
    public async Task<TilePyramid> PyramidAsync(Who who, Guid draft, int position, CancellationToken stop)
    {
        await using var pack = await PackAsync(who, draft, position, LeafForms.Tiles, stop);
        return TilePack.Read(pack);
    }

    /// <summary>One of them, and its media type.</summary>
    public async Task<(byte[] Bytes, string MediaType)> TileAsync(Who who, Guid draft, int position, int level, int column, int row, CancellationToken stop)
    {
        await using var pack = await PackAsync(who, draft, position, LeafForms.Tiles, stop);
        var pyramid = TilePack.Read(pack);
        return (TilePack.Tile(pack, pyramid, level, column, row) ?? throw Refused.Missing("tile"), pyramid.MediaType);
    }

    /// <summary>How a table is laid out.</summary>
    public async Task<TableFacts> TableAsync(Who who, Guid draft, int position, CancellationToken stop)
    {
        await using var pack = await PackAsync(who, draft, position, LeafForms.Cells, stop);
        return CellPack.Facts(pack);
    }

    /// <summary>The cells of some of its rows, as JSON (<see cref="TableBlock"/>).</summary>
    public async Task<byte[]> CellsAsync(Who who, Guid draft, int position, int block, CancellationToken stop)
    {
        await using var pack = await PackAsync(who, draft, position, LeafForms.Cells, stop);
        return CellPack.Block(pack, block) ?? throw Refused.Missing("block of cells");
    }

    /// <summary>A pack is kept as it is, so that one tile or block can be read without the others.</summary>
    private async Task<FileStream> PackAsync(Who who, Guid draft, int position, string form, CancellationToken stop)
    {
        var (sha256, _) = await FormAsync(who, draft, position, form, stop);
        return (await spool.OpenAsync(sha256, stop) ?? throw Refused.Missing("form of a sheet")).Stream;
    }
}
