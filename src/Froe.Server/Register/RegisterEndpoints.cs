using System.Text.Json;
using Froe.Core.Draft;
using Froe.Core.Models;
using Froe.Core.Register;
using Froe.Formats;
using Froe.Formats.Pdf;
using Froe.Server.Files;
using Froe.Server.SignIn;
using Froe.Store;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.Extensions.Options;

namespace Froe.Server.Register;

/// <summary>A draft of a document.</summary>
public sealed record DraftRow(
    Guid Id, string Revision, int Ordinal, string Standing, string Sha256, string FileName, string UploadedBy, DateTimeOffset UploadedAt,
    DateTimeOffset? ReleasedAt, ReaderReport Report);

/// <summary>A document with its drafts and history.</summary>
public sealed record DocumentDetail(DocumentRow Document, IReadOnlyList<DraftRow> Drafts, IReadOnlyList<HistoryEntry> History, IReadOnlyList<PackageRef> Packages)
{
    /// <summary>Whether more happened than the history holds: the ledger has it all.</summary>
    public bool HistoryGoesOn { get; init; }

    /// <summary>What who looks may do with it.</summary>
    public required DocumentMay May { get; init; }
}

/// <summary>What a person may do with a document as it stands.</summary>
/// <param name="Upload">Whether its next draft is theirs to upload now.</param>
/// <param name="Send">Whether it is theirs to send for review now.</param>
/// <param name="Withdraw">Whether they may withdraw it.</param>
/// <param name="HandOver">Whether they may give it to another originator.</param>
public sealed record DocumentMay(bool Upload, bool Send, bool Withdraw, bool HandOver);

/// <summary>A package a document was in.</summary>
public sealed record PackageRef(Guid Id, string Number, string Title, string Standing);

/// <summary>A kind of file that Froe reads.</summary>
/// <param name="Words">What people call such files.</param>
/// <param name="Extensions">Endings of its files' names, with the dot.</param>
public sealed record FileFormat(string Words, IReadOnlyList<string> Extensions);

/// <summary>How far an upload has come.</summary>
/// <param name="Place">Its place in the queue, 1 when it is next; 0 when it does not wait.</param>
public sealed record UploadState(Guid Id, string FileName, string State, string? Fault, ReaderReport? Report, int Place);

/// <summary>The register, uploads and drafts.</summary>
internal static class RegisterEndpoints
{
    // The values of an index, hopped through one by one: their number is what it costs, not that of the documents.
    private const string Disciplines =
        """
        WITH RECURSIVE v AS (
            (SELECT discipline FROM document ORDER BY discipline COLLATE reading_order LIMIT 1)
            UNION ALL
            SELECT (SELECT d.discipline FROM document d WHERE d.discipline COLLATE reading_order > v.discipline COLLATE reading_order ORDER BY d.discipline COLLATE reading_order LIMIT 1) FROM v WHERE v.discipline IS NOT NULL)
        SELECT discipline FROM v WHERE discipline IS NOT NULL
        """;

    private const string DisciplinesIn = "SELECT DISTINCT discipline COLLATE reading_order FROM document WHERE folder_id = ANY ($1) ORDER BY 1";

    public static void Map(IEndpointRouteBuilder api)
    {
        ShelfEndpoints.Map(api);
        api.MapGet("/documents", ([AsParameters] DocumentsAsked asked, string? after, Who who, DocumentList list, CancellationToken stop) => list.PageAsync(who, asked, after, stop));
        api.MapGet("/documents.csv", ([AsParameters] DocumentsAsked asked, string? columns, string? zone, Who who, DocumentList list, HttpContext context) => list.WriteAsync(who, asked, columns, zone, context))
            .Produces(StatusCodes.Status200OK, contentType: "text/csv").DisableRequestTimeout();
        api.MapGet("/disciplines", async (Who who, Database database, CancellationToken stop) =>
            (await (who.ReadFolders is { } folders ? database.SearchAsync(DisciplinesIn, r => r.GetString(0), [folders], true, stop) : database.ListAsync(Disciplines, r => r.GetString(0), [], stop))).AsReadOnly());
        api.MapPost("/documents", (NewDocument wanted, Who who, Registering registering, CancellationToken stop) => registering.AddDocumentAsync(who, wanted, stop));
        api.MapGet("/documents/{id:guid}", Get);
        api.MapPost("/documents/{id:guid}/drafts", (Guid id, NewDraft wanted, Who who, Registering registering, CancellationToken stop) => registering.AddDraftAsync(who, id, wanted, stop));
        api.MapPost("/documents/together", (ArrivalsWanted wanted, Who who, Arrivals arrivals, CancellationToken stop) => arrivals.RegisterAsync(who, wanted, stop));
        api.MapPost("/uploads/matches", (FilesAsked asked, Who who, Arrivals arrivals, CancellationToken stop) => arrivals.MatchAsync(who, asked, stop));
        api.MapPost("/uploads", Upload).WithMetadata(new TakesFile()).DisableRequestTimeout();
        api.MapGet("/uploads/{id:guid}", GetUpload);
        api.MapGet("/uploads/{id:guid}/picture", UploadPicture).ExcludeFromDescription();
        api.MapGet("/formats", () => TypedResults.Ok(Readers.All.Select(r => new FileFormat(r.Words, r.Extensions))));
        api.MapGet("/drafts/{id:guid}", (Guid id, Who who, Referring referring, CancellationToken stop) => referring.NameAsync(who, id, stop));
        api.MapGet("/drafts/{id:guid}/models", (Guid id, Who who, Referring referring, CancellationToken stop) => referring.ModelsAsync(who, id, stop));
        api.MapPut("/drafts/{id:guid}/models", async (Guid id, NewRelation wanted, Who who, Relating relating, CancellationToken stop) =>
        {
            await relating.SetAsync(who, id, wanted, stop);
            return TypedResults.NoContent();
        });
        api.MapGet("/drafts/{id:guid}/leaves/{position:int}/named", (Guid id, int position, Who who, Referring referring, CancellationToken stop) => referring.OnLeafAsync(who, id, position, stop));
        api.MapGet("/drafts/{id:guid}/leaves", (Guid id, Who who, Drafts drafts, CancellationToken stop) => drafts.LeavesAsync(who, id, stop));
        api.MapPut("/drafts/{id:guid}/leaves/{position:int}/scale", (Guid id, int position, NewScale wanted, Who who, Scaling scaling, CancellationToken stop) => scaling.SetAsync(who, id, position, wanted, stop));
        api.MapPost("/drafts/{id:guid}/leaves/{position:int}/enclosed", (Guid id, int position, EnclosedAsked asked, Who who, Enclosing enclosing, CancellationToken stop) => enclosing.AboutAsync(who, id, position, asked, stop));
        api.MapGet("/drafts/{id:guid}/leaves/{position:int}/seen", (Guid id, int position, Who who, SeenSheets seen, CancellationToken stop) => seen.OfAsync(who, id, position, stop));
        api.MapPost("/drafts/{id:guid}/leaves/{position:int}/seen", (Guid id, int position, NewlySeen newly, Who who, SeenSheets seen, CancellationToken stop) => seen.AddAsync(who, id, position, newly, stop));
        api.MapGet("/drafts/{id:guid}/leaves/{position:int}/page", (Guid id, int position, Who who, Drafts drafts, CancellationToken stop) => drafts.PageAsync(who, id, position, stop));
        api.MapGet("/drafts/{id:guid}/leaves/{position:int}/tiles", (Guid id, int position, Who who, Drafts drafts, CancellationToken stop) => drafts.PyramidAsync(who, id, position, stop));
        api.MapGet("/drafts/{id:guid}/leaves/{position:int}/tiles/{level:int}/{column:int}/{row:int}", Tile).ExcludeFromDescription();
        api.MapGet("/drafts/{id:guid}/leaves/{position:int}/cells", (Guid id, int position, Who who, Drafts drafts, CancellationToken stop) => drafts.TableAsync(who, id, position, stop));
        api.MapGet("/drafts/{id:guid}/leaves/{position:int}/cells/{block:int}", Cells).Produces<TableBlock>();
        api.MapGet("/drafts/{id:guid}/leaves/{position:int}/scene", Scene).Produces<SceneFacts>();
        api.MapGet("/drafts/{id:guid}/leaves/{position:int}/exact", Exact).Produces<ExactFacts>();
        api.MapGet("/drafts/{id:guid}/leaves/{position:int}/{form}", LeafForm).ExcludeFromDescription();
        api.MapGet("/find", (string words, string? after, Who who, Finder finder, CancellationToken stop) => finder.InRegisterAsync(who, words, after, stop));
        api.MapGet("/drafts/{id:guid}/find", (Guid id, string words, Who who, Finder finder, CancellationToken stop) => finder.InDraftAsync(who, id, words, stop));
        api.MapGet("/packages/{id:guid}/find", (Guid id, string words, Who who, Finder finder, CancellationToken stop) => finder.InPackageAsync(who, id, words, stop));
        api.MapGet("/drafts/{id:guid}/file", DraftFile).ExcludeFromDescription();
        api.MapGet("/page-fonts", PageFont).ExcludeFromDescription();
        api.MapGet("/drafts/{id:guid}/beside", (Guid id, Who who, Referring referring, CancellationToken stop) => referring.BesideAsync(who, id, stop));
        api.MapGet("/drafts/{id:guid}/beside/{name}", BesideFile).ExcludeFromDescription();
    }

    private static async Task<DocumentDetail> Get(Guid id, Who who, Database database, TimeProvider clock, CancellationToken stop)
    {
        var row = await database.FirstAsync(DocumentList.RowSql("$2") + " WHERE d.id = $1", DocumentList.Row, [id, who.Id], stop) ?? throw Refused.Missing("document");
        var reads = who.Rights.For(Right.Read, row.Folder);
        // Whoever got a revision for use sees that, and nothing else of the document.
        var got = reads ? [] : await database.ListAsync("SELECT r.id FROM revision_use u JOIN revision r ON r.id = u.revision_id WHERE u.person_id = $1 AND r.document_id = $2", r => r.GetGuid(0), [who.Id, id], stop);
        if (!Visibility.Sees(who.Rights, row.Folder, got.Count > 0)) throw Refused.Missing("document");
        var drafts = await database.ListAsync(
            """
            SELECT w.id, r.label, w.ordinal, r.standing, w.sha256, w.file_name, p.name, w.uploaded_at, r.released_at, w.report::text,
                   w.ordinal = max(w.ordinal) OVER (PARTITION BY r.id)
            FROM draft w JOIN revision r ON r.id = w.revision_id JOIN person p ON p.id = w.uploaded_by
            WHERE w.document_id = $1 AND ($2 OR r.id = ANY ($3)) ORDER BY r.ordinal DESC, w.ordinal DESC
            """,
            r => new DraftRow(r.GetGuid(0), r.GetString(1), r.GetInt32(2), r.GetBoolean(10) ? r.GetString(3) : "earlier draft", r.Hash(4), r.GetString(5), r.GetString(6), r.Time(7),
                r.GetBoolean(10) ? r.TimeOrNull(8) : null, JsonSerializer.Deserialize<ReaderReport>(r.GetString(9), Act.Json)!), [id, reads, got.ToArray()], stop);
        if (!reads) return new DocumentDetail(row, drafts, [], []) { May = new(false, false, false, false) };
        var (history, goesOn) = await Histories.OfDocumentAsync(database, id, stop);
        // Whoever may read the document's folder sees every package it was in (Visibility).
        var packages = await database.ListAsync(
            "SELECT id, number, title, standing FROM package WHERE id = ANY (ARRAY(SELECT package_id FROM package_item WHERE document_id = $1)) ORDER BY sent_at DESC",
            r => new PackageRef(r.GetGuid(0), r.GetString(1), r.GetString(2), r.GetString(3)), [id], stop);
        var inPackage = packages.Find(k => k.Standing is "in review" or "returned" && row.Standing is "in review" or "returned");
        var standsIn = (await Absences.Schedules.DeputiesAsync(database, clock.GetUtcNow(), stop)).GetValueOrDefault(row.Originator) == who.Id;
        var answers = inPackage is { Standing: "returned" } && await database.AnyAsync("SELECT 1 FROM package WHERE id = $1 AND (originator = $2 OR originator IN (SELECT person_id FROM stand_ins(now()) WHERE deputy = $2))", [inPackage.Id, who.Id], stop);
        var standing = StandingWords.Parse(row.Standing);
        return new DocumentDetail(row, drafts, history, packages)
        {
            HistoryGoesOn = goesOn,
            May = new DocumentMay(
                Upload: (row.Originator == who.Id || standsIn || answers) && (RevisionRules.IsLocked(standing) ? who.Rights.For(Right.UnlockReleased, row.Folder) : RevisionRules.TakesDrafts(standing, inPackage?.Standing == "returned")),
                Send: row.Standing is "in work" or "returned" && inPackage is null && who.Rights.For(Right.Send, row.Folder),
                Withdraw: who.Rights.For(Right.Withdraw, row.Folder) && row.Standing is not ("withdrawn" or "superseded"),
                HandOver: who.Rights.For(Right.Coordinate, row.Folder) && inPackage is null),
        };
    }

    /// <summary>Takes the file as the request's body, onto the disk first: however slow the line, no connection to the database waits for it.</summary>
    private static async Task<UploadState> Upload(string name, Who who, HttpRequest request, Spool spool, Transfers transfers, Contents contents, Uploads uploads, ReadingWorker reading, TimeProvider clock, IOptions<Settings> settings, CancellationToken stop)
    {
        if (!who.CanSend) throw Refused.Forbidden("You have no right to upload drawings. Ask your document coordinator.");
        var fileName = Path.GetFileName(name.Replace('\\', '/')).Trim();
        if (fileName.Length is 0 or > 200) throw Refused.Invalid("bad-name", "The file's name is empty or longer than 200 characters. Rename it and upload it again.");
        var reader = Readers.For(fileName);
        var id = Guid.CreateVersion7();
        using var place = transfers.Begin(who.Id);
        await using var file = await spool.ReceiveAsync(request.Body, settings.Value.MostUploadBytes, stop);
        await contents.StoreAsync(file, reader.MediaType, (connection, sha256, size) => Uploads.AddAsync(connection, id, who.Id, sha256, size, fileName, clock.GetUtcNow(), stop), stop);
        reading.Wake();
        return new UploadState(id, fileName, "waiting", null, null, await uploads.PlaceAsync(id, reading.Silent, stop));
    }

    private static async Task<UploadState> GetUpload(Guid id, Who who, Uploads uploads, ReadingWorker reading, CancellationToken stop)
    {
        var upload = await uploads.FindAsync(id, stop);
        if (upload is null || upload.Person != who.Id) throw Refused.Missing("upload");
        return new UploadState(id, upload.FileName, upload.State, upload.Fault, upload.Report, upload.State == "waiting" ? await uploads.PlaceAsync(id, reading.Silent, stop) : 0);
    }

    /// <summary>The picture of the first sheet of an upload, to its owner alone: nobody else knows of it yet.</summary>
    private static async Task<EmptyHttpResult> UploadPicture(Guid id, Who who, Database database, FileAnswer files, HttpContext context, CancellationToken stop)
    {
        var found = await database.ListAsync(
            "SELECT c.sha256, c.media_type FROM upload u JOIN upload_form f ON f.upload_id = u.id JOIN content c ON c.sha256 = f.sha256 WHERE u.id = $1 AND u.person_id = $2 AND f.position = 0 AND f.form = $3",
            r => (Sha256: r.GetFieldValue<byte[]>(0), Type: r.GetString(1)), [id, who.Id, LeafForms.Picture], stop);
        if (found.Count == 0) throw Refused.Missing("picture");
        context.Response.Headers.CacheControl = "private, max-age=86400";
        await files.SendAsync(context, who, found[0].Sha256, found[0].Type);
        return TypedResults.Empty;
    }

    private static async Task<Results<EmptyHttpResult, StatusCodeHttpResult>> LeafForm(Guid id, int position, string form, Who who, Drafts drafts, FileAnswer files, HttpContext context, CancellationToken stop)
    {
        var (hash, type) = await drafts.FormAsync(who, id, position, form, stop);
        var tag = $"\"{Convert.ToHexStringLower(hash)}\"";
        // A draft never changes, but a newer reader may prepare it anew: the form is asked for by its tag after a day.
        context.Response.Headers.CacheControl = "private, max-age=86400";
        context.Response.Headers.ETag = tag;
        if (context.Request.Headers.IfNoneMatch == tag) return TypedResults.StatusCode(StatusCodes.Status304NotModified);
        await files.SendAsync(context, who, hash, type);
        return TypedResults.Empty;
    }

    /// <summary>The tree and the parts of a model, as they are stored.</summary>
    /// <param name="prepared">The preparation that is meant: its answer is none that a browser has kept of another.</param>
    private static Task<Results<EmptyHttpResult, StatusCodeHttpResult>> Scene(Guid id, int position, int? prepared, Who who, Drafts drafts, FileAnswer files, HttpContext context, CancellationToken stop) =>
        LeafForm(id, position, LeafForms.Scene, who, drafts, files, context, stop);

    /// <summary>What is exactly known of a model's faces and edges, as it is stored.</summary>
    /// <param name="prepared">As of the scene.</param>
    private static Task<Results<EmptyHttpResult, StatusCodeHttpResult>> Exact(Guid id, int position, int? prepared, Who who, Drafts drafts, FileAnswer files, HttpContext context, CancellationToken stop) =>
        LeafForm(id, position, LeafForms.Exact, who, drafts, files, context, stop);

    /// <summary>A tile of a picture: of this draft for ever, unless a newer reader cuts it anew; whoever asks names the preparation in the address, so that none is shown that a browser has kept of another.</summary>
    private static async Task<FileContentHttpResult> Tile(Guid id, int position, int level, int column, int row, Who who, Drafts drafts, HttpContext context, CancellationToken stop)
    {
        var (bytes, type) = await drafts.TileAsync(who, id, position, level, column, row, stop);
        context.Response.Headers.CacheControl = "private, max-age=86400";
        return TypedResults.Bytes(bytes, type);
    }

    /// <summary>The cells of some rows of a table, as they are stored.</summary>
    private static async Task<FileContentHttpResult> Cells(Guid id, int position, int block, Who who, Drafts drafts, HttpContext context, CancellationToken stop)
    {
        var bytes = await drafts.CellsAsync(who, id, position, block, stop);
        context.Response.Headers.CacheControl = "private, max-age=86400";
        return TypedResults.Bytes(bytes, "application/json");
    }

    /// <summary>The font that stands in where a PDF leaves out its own; no content where the page engine has better ones.</summary>
    private static Results<PhysicalFileHttpResult, NoContent> PageFont(string face, int charset, int weight, bool italic, HttpContext context)
    {
        context.Response.Headers.CacheControl = "private, max-age=86400";
        if (PageFonts.FileFor(face, charset, weight, italic) is not { } file) return TypedResults.NoContent();
        context.Response.Headers["X-Froe-Font"] = file;
        return TypedResults.PhysicalFile(PageFonts.PathOf(file), "font/sfnt");
    }

    /// <summary>The file itself, always as a download: what people upload is never shown as a page.</summary>
    private static async Task DraftFile(Guid id, Who who, Access access, Database database, FileAnswer files, HttpContext context, CancellationToken stop)
    {
        await access.DemandDraftAsync(who, id, stop);
        // A draft's bytes never change: the page of a PDF asks for them once.
        context.Response.Headers.CacheControl = "private, max-age=86400";
        var draft = await database.FirstAsync("SELECT sha256, file_name FROM draft WHERE id = $1", r => Tuple.Create(r.GetFieldValue<byte[]>(0), r.GetString(1)), [id], stop) ?? throw Refused.Missing("draft");
        context.Response.Headers.ContentDisposition = $"attachment; filename*=UTF-8''{Uri.EscapeDataString(draft.Item2)}";
        await files.SendAsync(context, who, draft.Item1, "application/octet-stream");
    }

    /// <summary>One of the other files that a draft consists of, as it was when the draft was read.</summary>
    private static async Task BesideFile(Guid id, string name, Who who, Access access, Database database, FileAnswer files, HttpContext context, CancellationToken stop)
    {
        await access.DemandDraftAsync(who, id, stop);
        var found = (await BesideRows.OfAsync(database, false, id, stop)).Find(b => b.Name == name);
        if (found?.Sha256 is not { } sha256) throw Refused.Missing("file");
        context.Response.Headers.ContentDisposition = $"attachment; filename*=UTF-8''{Uri.EscapeDataString(found.Name)}";
        await files.SendAsync(context, who, sha256, "application/octet-stream");
    }
}
