namespace Froe.Store;

/// <summary>Another file that a draft or an upload consists of.</summary>
/// <param name="Sha256">Of its bytes; null while it is missing.</param>
/// <param name="FromDraft">The draft that it was taken from; null for a file that came with the other.</param>
public sealed record BesideRow(string Name, byte[]? Sha256, Guid? FromDraft)
{
    /// <summary>As the ledger tells it.</summary>
    public ToldBeside Told() => new(Name, Sha256 is null ? null : Convert.ToHexStringLower(Sha256));
}

/// <summary>Another file that a draft consists of, as the ledger tells it.</summary>
/// <param name="Sha256">Of its bytes, 64 lower-case hex digits; null where it was missing.</param>
public sealed record ToldBeside(string Name, string? Sha256);

/// <summary>A draft in which files are missing that have come since.</summary>
public sealed record IncompleteDraft(Guid Draft, Guid Document, Guid UploadedBy, byte[] Sha256, string FileName);

/// <summary>The other files that drafts consist of.</summary>
public static class BesideRows
{
    /// <summary>Commits follow the moment that they bear.</summary>
    private const string Margin = "interval '1 minute'";

    /// <summary>What is kept of a draft or an upload.</summary>
    public static Task<List<BesideRow>> OfAsync(IReads reads, bool isUpload, Guid id, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(reads);
        return reads.ListAsync(
            $"SELECT name, sha256, from_draft FROM {(isUpload ? "upload_beside WHERE upload_id" : "draft_beside WHERE draft_id")} = $1 ORDER BY name",
            r => new BesideRow(r.GetString(0), r.IsDBNull(1) ? null : r.GetFieldValue<byte[]>(1), r.IsDBNull(2) ? null : r.GetGuid(2)), [id], stop);
    }

    /// <summary>The file that somebody uploaded under a name of late; null for none.</summary>
    public static Task<byte[]?> UploadedAsync(IReads reads, Guid person, string name, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(reads);
        return reads.FirstAsync(
            "SELECT sha256 FROM upload WHERE person_id = $1 AND lower(file_name) = lower($2) AND sha256 IS NOT NULL AND state IN ('waiting', 'reading', 'read') ORDER BY at DESC, id DESC LIMIT 1",
            r => r.GetFieldValue<byte[]>(0), [person, name], stop);
    }

    /// <summary>Drafts in the register that a name may mean, by their file's name or their document's number: those of that name first, then the newest.</summary>
    public static Task<List<(BesideRow Row, string FileName, string Folder, Guid Originator)>> RegisteredAsync(IReads reads, string name, string[] numbers, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(reads);
        return reads.ListAsync(
            """
            SELECT w.sha256, w.id, w.file_name, f.path, d.originator FROM (
                SELECT id FROM (SELECT id FROM draft WHERE lower(file_name) = lower($1) ORDER BY id DESC LIMIT 50) n
                UNION SELECT w.id FROM document d CROSS JOIN LATERAL (SELECT id FROM draft WHERE document_id = d.id ORDER BY uploaded_at DESC, id DESC LIMIT 1) w WHERE d.number = ANY ($2)) c
            JOIN draft w USING (id) JOIN document d ON d.id = w.document_id JOIN folder f ON f.id = d.folder_id
            ORDER BY lower(w.file_name) = lower($1) DESC, w.uploaded_at DESC, w.id DESC
            """,
            r => (new BesideRow(name, r.GetFieldValue<byte[]>(0), r.GetGuid(1)), r.GetString(2), r.GetString(3), r.GetGuid(4)), [name, numbers], stop);
    }

    /// <summary>Whether a draft was judged, or its revision moved on: both were for what it showed then.</summary>
    public static string JudgedSql(string draft) =>
        $"""
        SELECT 1 FROM package_item i JOIN sign_off s ON s.package_id = i.package_id JOIN verdict v ON v.sign_off_id = s.id AND v.draft_id = i.draft_id WHERE i.draft_id = {draft}
        UNION ALL SELECT 1 FROM draft j JOIN revision r ON r.id = j.revision_id WHERE j.id = {draft} AND (r.stage <> '' OR r.released_at IS NOT NULL)
        """;

    /// <summary>
    /// Drafts in which files are missing that may have come since they were looked for. What somebody has judged stays as they saw it.
    /// </summary>
    public static Task<List<IncompleteDraft>> IncompleteAsync(IReads reads, int most, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(reads);
        return reads.ListAsync(
            $"""
            SELECT w.id, w.document_id, w.uploaded_by, w.sha256, w.file_name FROM draft w WHERE w.id IN (
                SELECT b.draft_id FROM draft_beside b WHERE b.sha256 IS NULL AND (
                    EXISTS (SELECT 1 FROM draft n WHERE lower(n.file_name) = lower(b.name) AND n.uploaded_at > b.looked_at - {Margin} AND n.id <> b.draft_id)
                    OR EXISTS (SELECT 1 FROM document d JOIN draft n ON n.document_id = d.id WHERE d.number = ANY (b.numbers) AND n.uploaded_at > b.looked_at - {Margin} AND n.id <> b.draft_id)))
              AND NOT EXISTS ({JudgedSql("w.id")})
              AND NOT EXISTS (SELECT 1 FROM draft_anew a WHERE a.draft_id = w.id AND (a.claimed_at > now() - interval '15 minutes' OR (a.version = 0 AND a.fault IS NOT NULL)))
            LIMIT $1
            """,
            r => new IncompleteDraft(r.GetGuid(0), r.GetGuid(1), r.GetGuid(2), r.GetFieldValue<byte[]>(3), r.GetString(4)), [most], stop);
    }
}
