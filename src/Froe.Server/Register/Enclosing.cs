using System.ComponentModel.DataAnnotations;
using Froe.Core.Draft;
using Froe.Core.Drawing;
using Froe.Core.Overlays;
using Froe.Core.Routing;
using Froe.Server.Files;
using Froe.Server.SignIn;
using Froe.Store;

namespace Froe.Server.Register;

/// <summary>A point whose surroundings are asked for.</summary>
/// <param name="At">In the sheet's units.</param>
/// <param name="LayersOn">Which layers are looked at; null for those that the file shows.</param>
public sealed record EnclosedAsked(PointXY At, [property: MaxLength(10_000)] bool[]? LayersOn = null);

/// <summary>What a sheet's lines enclose about a point.</summary>
/// <param name="Points">Corners, against the clock.</param>
public sealed record Enclosed(IReadOnlyList<PointXY> Points);

/// <summary>Finds what the lines of a sheet enclose.</summary>
public sealed class Enclosing(Database database, Drafts drafts, Spool spool, Transfers transfers)
{
    /// <summary>About a point.</summary>
    public async Task<Enclosed> AboutAsync(Who who, Guid draft, int position, EnclosedAsked asked, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(who);
        ArgumentNullException.ThrowIfNull(asked);
        if (!double.IsFinite(asked.At.X) || !double.IsFinite(asked.At.Y)) throw Refused.Invalid("no-point", "Press where the region is.");
        if ((await Drafts.LeavesAsync(database, draft, stop)).Find(l => l.Position == position)?.Frame is SheetFrame { Surface: Surface.Tiles or Surface.Scan })
            throw Refused.Invalid("no-lines", "A picture has no lines that could enclose anything. Measure the area by its corners instead.");
        var (sha256, _) = await drafts.FormAsync(who, draft, position, LeafForms.Geometry, stop);
        // A large sheet's lines take room while they are looked at.
        using var place = transfers.Begin(who.Id);
        using var form = new MemoryStream();
        if (!await spool.CopyToAsync(sha256, form, stop)) throw Refused.Missing("sheet");
        var points = await Task.Run(() => new Regions(PreparedSheet.ReadGeometry(form.GetBuffer().AsSpan(0, (int)form.Length)), asked.LayersOn).About(asked.At, PointPath.Most), stop);
        return points.Length >= 3 ? new Enclosed(points)
            : throw new Refused(new Refusal("not-enclosed", "No lines close round this point without a gap. Measure the area by its corners instead."));
    }
}
