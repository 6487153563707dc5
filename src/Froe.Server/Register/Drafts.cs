using System.Text.Json;
using Froe.Core.Draft;
using Froe.Server.SignIn;
using Froe.Store;

namespace Froe.Server.Register;

/// <summary>What a draft holds: its leaves, and the forms that they are prepared in.</summary>
public sealed class Drafts(Database database, Access access)
{
    /// <summary>The leaves of a draft, in order.</summary>
    public async Task<IReadOnlyList<Leaf>> LeavesAsync(Who who, Guid draft, CancellationToken stop)
    {
        await access.DemandDraftAsync(who, draft, stop);
        return await LeavesAsync(database, draft, stop);
    }

    /// <summary>The leaves of a draft, in order, whoever asks.</summary>
    internal static Task<List<Leaf>> LeavesAsync(IReads reads, Guid draft, CancellationToken stop) => reads.ListAsync(
        "SELECT position, name, frame::text FROM draft_leaf WHERE draft_id = $1 ORDER BY position",
        r => new Leaf(r.GetInt32(0), r.GetString(1), JsonSerializer.Deserialize<Frame>(r.GetString(2), Act.Json)!), [draft], stop);

    /// <summary>Which file a form of a leaf is, and its media type.</summary>
    public async Task<(byte[] Sha256, string MediaType)> FormAsync(Who who, Guid draft, int position, string form, CancellationToken stop)
    {
        await access.DemandDraftAsync(who, draft, stop);
        var found = await database.ListAsync(
            "SELECT c.sha256, c.media_type FROM draft w JOIN draft_form f ON f.draft_id = w.id AND f.version = w.prepared JOIN content c ON c.sha256 = f.sha256 WHERE w.id = $1 AND f.position = $2 AND f.form = $3",
            r => (r.GetFieldValue<byte[]>(0), r.GetString(1)), [draft, position, form], stop);
        return found.Count > 0 ? found[0] : throw Refused.Missing("form of a sheet");
    }
}
