namespace Froe.Store;

/// <summary>Pictures that people put on drafts: what is read and written of them. Nothing is decided here.</summary>
public static class PictureRows
{
    /// <summary>The drafts of the document of $1: what was put on one is seen on the next as well, where it lies there too.</summary>
    public const string DraftsSql = "SELECT o.id FROM draft h JOIN draft o ON o.document_id = h.document_id WHERE h.id = $1";

    /// <summary>The pictures of a draft's document, by the first bytes of what they are called by; all of them where none are given.</summary>
    public static Task<List<byte[]>> NamesAsync(IReads reads, Guid draft, byte[] first, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(reads);
        ArgumentNullException.ThrowIfNull(first);
        return reads.ListAsync($"SELECT DISTINCT sha256 FROM draft_picture WHERE draft_id IN ({DraftsSql}) AND substr(sha256, 1, $3) = $2", r => r.GetFieldValue<byte[]>(0), [draft, first, first.Length], stop);
    }

    /// <summary>A picture of a draft's document; null where there is none of that name.</summary>
    public static async Task<byte[]?> ReadAsync(IReads reads, Guid draft, byte[] sha256, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(reads);
        return (await reads.ListAsync($"SELECT png FROM draft_picture WHERE draft_id IN ({DraftsSql}) AND sha256 = $2 LIMIT 1", r => r.GetFieldValue<byte[]>(0), [draft, sha256], stop)).FirstOrDefault();
    }

    /// <summary>How many of some names are those of pictures of a draft's document.</summary>
    public static async Task<int> KnownAsync(IReads reads, Guid draft, byte[][] names, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(reads);
        return (await reads.ListAsync($"SELECT count(DISTINCT sha256)::int FROM draft_picture WHERE draft_id IN ({DraftsSql}) AND sha256 = ANY ($2)", r => r.GetInt32(0), [draft, names], stop))[0];
    }
}
