using System.Security.Cryptography;
using Froe.Core.Exchange;
using Froe.Core.Overlays;
using Froe.Core.Routing;
using Froe.Server.Files;
using Froe.Server.Overlays;
using Froe.Server.Packages;
using Froe.Server.SignIn;
using Froe.Store;

namespace Froe.Server.Exchange;

/// <summary>A picture is kept.</summary>
/// <param name="Picture">What it is called by: 64 hexadecimal digits.</param>
/// <param name="Width">In pixels.</param>
/// <param name="Height">In pixels.</param>
public sealed record PictureKept(string Picture, int Width, int Height);

/// <summary>Pictures that people put on drafts from somewhere else, as markups and in notes.</summary>
public sealed class DraftPictures(Database database, Access access, Errands errands, Spool spool, Transfers transfers, TimeProvider clock)
{
    private const long MostBytes = 20_000_000;

    /// <summary>Keeps a picture for a draft; the same one is kept once.</summary>
    public async Task<PictureKept> KeepAsync(Who who, Guid draft, Stream body, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(who);
        await access.DemandDraftAsync(who, draft, stop);
        if (!await database.AnyAsync("SELECT 1 FROM draft WHERE id = $1", [draft], stop)) throw Refused.Missing("draft");
        // Where nothing more is drawn and said, nothing is put either.
        if ((await database.ListAsync(OverlayView.PackageSql, r => SlipStore.Read(r.GetString(1)), [draft], stop)) is [{ Standing: not (SlipStanding.InReview or SlipStanding.Returned) }])
            throw new Refused(new Refusal("package-ended", "The package has ended; nothing more is drawn or said in it."));
        if ((await database.ListAsync("SELECT count(*) FROM draft_picture WHERE draft_id = $1", r => r.GetInt64(0), [draft], stop))[0] >= PastedPicture.Most)
            throw new Refused(new Refusal("too-many-pictures", $"A draft has room for {PastedPicture.Most} pictures, and so many were put on this one."));
        using var place = transfers.Begin(who.Id);
        await using var received = await spool.ReceiveAsync(body, MostBytes, stop);
        var folder = Directory.CreateTempSubdirectory("froe-errand-");
        try
        {
            var file = Path.Combine(folder.FullName, ErrandFiles.File);
            await using (var to = File.Create(file)) await received.CopyToAsync(to, stop);
            var size = await errands.RunAsync<PastedErrand, PastedSize>("pasted", folder, new PastedErrand(), stop);
            var png = await File.ReadAllBytesAsync(file, stop);
            var sha256 = SHA256.HashData(png);
            await database.RunAsync(
                "INSERT INTO draft_picture (draft_id, sha256, png, width, height, put_by, put_at) VALUES ($1, $2, $3, $4, $5, $6, $7) ON CONFLICT DO NOTHING",
                [draft, sha256, png, size.Width, size.Height, who.Id, clock.GetUtcNow().UtcDateTime], stop);
            return new PictureKept(Convert.ToHexStringLower(sha256), size.Width, size.Height);
        }
        finally
        {
            folder.Delete(recursive: true);
        }
    }

    /// <summary>Sends a picture that was put on a draft, or on another of its document.</summary>
    /// <param name="name">What it is called by, or its first sixteen digits, as notes name it.</param>
    public async Task<IResult> SendAsync(HttpContext context, Who who, Guid draft, string name, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(context);
        ArgumentNullException.ThrowIfNull(who);
        await access.DemandDraftAsync(who, draft, stop);
        if (name is not { Length: PastedPicture.Digits or 16 } || !name.All(char.IsAsciiHexDigitLower)) throw Refused.Missing("picture");
        var found = await PictureRows.NamesAsync(database, draft, Convert.FromHexString(name), stop);
        if (found is not [var sha256] || await PictureRows.ReadAsync(database, draft, sha256, stop) is not { } png) throw Refused.Missing("picture");
        // What is shown is what was put there, or nothing is.
        if (!SHA256.HashData(png).AsSpan().SequenceEqual(sha256)) throw new InvalidOperationException($"The picture {Convert.ToHexStringLower(sha256)} is not what was kept.");
        context.Response.Headers.CacheControl = "private, max-age=31536000, immutable";
        return TypedResults.Bytes(png, "image/png");
    }
}
