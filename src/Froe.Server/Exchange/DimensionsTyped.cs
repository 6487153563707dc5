using Froe.Core.Drawing;
using Froe.Core.Exchange;
using Froe.Server.Files;
using Froe.Server.Register;
using Froe.Server.SignIn;
using Froe.Store;

namespace Froe.Server.Exchange;

/// <summary>A dimension whose words were typed over its value.</summary>
/// <param name="At">The middle of its words, in the sheet's units.</param>
/// <param name="Height">The height of their letters, in the sheet's units.</param>
/// <param name="Measured">What the drawing measures there by the scale that most dimensions of the sheet are typed by, in its units or in degrees.</param>
public sealed record TypedOverRow(int Position, PointXY At, double Height, string Words, double Measured, bool IsAngle, TypedVerdict Verdict);

/// <summary>The dimensions of a draft that were typed over.</summary>
/// <param name="IsKnown">Whether its file holds dimensions as such: otherwise none can be found.</param>
public sealed record TypedOverRows(bool IsKnown, IReadOnlyList<TypedOverRow> Dimensions);

/// <summary>Finds, in a child process, dimensions that say another number than the drawing measures.</summary>
public sealed class DimensionsTyped(Database database, Access access, Errands errands, Transfers transfers)
{
    /// <summary>Those of a draft.</summary>
    public async Task<TypedOverRows> FindAsync(Who who, Guid draft, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(who);
        await access.DemandDraftAsync(who, draft, stop);
        var type = await database.FirstAsync("SELECT c.media_type FROM draft w JOIN content c ON c.sha256 = w.sha256 WHERE w.id = $1", r => r.GetString(0), [draft], stop) ?? throw Refused.Missing("draft");
        if (type != "image/vnd.dxf") return new(false, []);
        var leaves = await Drafts.LeavesAsync(database, draft, stop);
        using var place = transfers.Begin(who.Id);
        var folder = await errands.FolderAsync(draft, [], stop);
        try
        {
            await errands.AddFileAsync(folder, draft, stop);
            var found = await errands.RunAsync<TypedDimensionsErrand, List<TypedDimension>>("typed-dimensions", folder, new TypedDimensionsErrand(leaves), stop);
            return new(true, [.. TypedDimensions.Judge(found).Select(j => new TypedOverRow(j.Dimension.Position, j.Dimension.At, j.Dimension.Height, j.Dimension.Words, j.Measured, j.Dimension.IsAngle, j.Verdict))]);
        }
        finally
        {
            folder.Delete(recursive: true);
        }
    }
}
