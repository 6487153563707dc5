using System.Text.Json;
using Froe.Core.Draft;
using Froe.Core.Exchange;
using Froe.Formats.Out;
using Froe.Server.Files;
using Froe.Server.Overlays;
using Froe.Store;
using Microsoft.Extensions.Options;

namespace Froe.Server.Exchange;

/// <summary>Lets a child process write a draft's files and read those that come back: what it touches are files of strangers.</summary>
public sealed class Errands(Database database, Spool spool, ReaderChild child, IOptions<Settings> settings, ILogger<Errands> log) : IDisposable
{
    /// <summary>Exit code of a child whose file cannot be read or written, with the words for whoever asked.</summary>
    private const int Unreadable = 3;

    /// <summary>As many at once as leave the office its answers.</summary>
    private readonly SemaphoreSlim places = new(Math.Max(1, Environment.ProcessorCount - 1));

    /// <summary>A folder for an errand, with all that a draft's sheets are drawn from.</summary>
    /// <param name="leaves">The sheets.</param>
    public async Task<DirectoryInfo> FolderAsync(Guid draft, IReadOnlyList<Leaf> leaves, CancellationToken stop)
    {
        var folder = Directory.CreateTempSubdirectory("froe-errand-");
        try
        {
            await FillAsync(folder, draft, leaves, stop);
            return folder;
        }
        catch
        {
            folder.Delete(recursive: true);
            throw;
        }
    }

    /// <summary>Puts all that a draft's sheets are drawn from into a folder.</summary>
    public async Task FillAsync(DirectoryInfo folder, Guid draft, IReadOnlyList<Leaf> leaves, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(folder);
        var (file, type) = await database.FirstAsync("SELECT w.sha256, c.media_type FROM draft w JOIN content c ON c.sha256 = w.sha256 WHERE w.id = $1", r => Tuple.Create(r.GetFieldValue<byte[]>(0), r.GetString(1)), [draft], stop) ?? throw Refused.Missing("draft");
        await AddPastedAsync(folder, draft, stop);
        var forms = (await database.ListAsync(
            "SELECT f.position, f.form, f.sha256 FROM draft w JOIN draft_form f ON f.draft_id = w.id AND f.version = w.prepared WHERE w.id = $1", r => (r.GetInt32(0), r.GetString(1), r.GetFieldValue<byte[]>(2)), [draft], stop))
            .ToDictionary(f => (f.Item1, f.Item2), f => f.Item3);
        foreach (var (name, position, form) in MarkedFile.Prepare(leaves, type == "application/pdf"))
        {
            var sha256 = form is null ? file : forms.GetValueOrDefault((position, form)) ?? throw Refused.Missing("form of a sheet");
            await using var to = File.Create(Path.Combine(folder.FullName, name));
            if (!await spool.CopyToAsync(sha256, to, stop)) throw Refused.Missing("file");
        }
        await AddPlacedAsync(folder, draft, leaves, stop);
    }

    /// <summary>Puts the pictures into a folder that people put on a draft and on earlier ones of its document.</summary>
    private async Task AddPastedAsync(DirectoryInfo folder, Guid draft, CancellationToken stop)
    {
        foreach (var sha256 in await PictureRows.NamesAsync(database, draft, [], stop))
        {
            if (await PictureRows.ReadAsync(database, draft, sha256, stop) is { } png) await File.WriteAllBytesAsync(Path.Combine(folder.FullName, MarkedFile.PastedName(Convert.ToHexStringLower(sha256))), png, stop);
        }
    }

    /// <summary>Puts the pictures into a folder that lie on a draft's sheets and travel in the package it was last sent in.</summary>
    private async Task AddPlacedAsync(DirectoryInfo folder, Guid draft, IReadOnlyList<Leaf> leaves, CancellationToken stop)
    {
        var placed = MarkedFile.PlacedPictures(leaves);
        if (placed.Count == 0) return;
        var found = await database.ListAsync(
            $"""
            SELECT lower(w.file_name), f.sha256 FROM ({OverlayView.PackageSql}) k JOIN package p ON p.id = k.id JOIN package_item i ON i.package_id = p.id AND i.round = p.round
            JOIN draft w ON w.id = i.draft_id JOIN draft_form f ON f.draft_id = w.id AND f.version = w.prepared AND f.position = 0 AND f.form = '{LeafForms.Picture}'
            WHERE lower(w.file_name) = ANY ($2)
            """,
            r => (File: r.GetString(0), Sha256: r.GetFieldValue<byte[]>(1)), [draft, placed.Keys.ToArray()], stop);
        foreach (var (file, sha256) in found.DistinctBy(f => f.File))
        {
            await using var to = File.Create(Path.Combine(folder.FullName, placed[file]));
            if (!await spool.CopyToAsync(sha256, to, stop)) throw Refused.Missing("file");
        }
    }

    /// <summary>Puts a draft's own file into a folder, as the file that an errand is about.</summary>
    public async Task AddFileAsync(DirectoryInfo folder, Guid draft, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(folder);
        var sha256 = await database.FirstAsync("SELECT sha256 FROM draft WHERE id = $1", r => r.GetFieldValue<byte[]>(0), [draft], stop) ?? throw Refused.Missing("draft");
        await using var to = File.Create(Path.Combine(folder.FullName, ErrandFiles.File));
        if (!await spool.CopyToAsync(sha256, to, stop)) throw Refused.Missing("file");
    }

    /// <summary>Has an errand done.</summary>
    /// <param name="what">“send-out”, “review-sheet”, “bring-in”, “typed-dimensions” or “pasted”.</param>
    /// <exception cref="Refused">It cannot be.</exception>
    public async Task<TAnswer> RunAsync<TErrand, TAnswer>(string what, DirectoryInfo folder, TErrand errand, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(folder);
        await File.WriteAllTextAsync(Path.Combine(folder.FullName, ErrandFiles.Errand), JsonSerializer.Serialize(errand, Act.Json), stop);
        await places.WaitAsync(stop);
        ChildEnd end;
        try
        {
            end = await child.RunAsync([what, folder.FullName], isBrief: true, stop);
        }
        finally
        {
            places.Release();
        }
        if (end.ExitCode == 0) return JsonSerializer.Deserialize<TAnswer>(await File.ReadAllTextAsync(Path.Combine(folder.FullName, ErrandFiles.Answer), stop), Act.Json)!;
        log.LogInformation("{Errand} ended with {ExitCode}: {Fault}", what, end.ExitCode, end.Line.Length <= 1000 ? end.Line : end.Line[..1000]);
        throw Refused.Invalid("unreadable-file", end switch
        {
            { ExitCode: null } => $"It took longer than {settings.Value.ReaderSeconds} seconds and was stopped. Take fewer sheets, or another kind of file.",
            { ExitCode: Unreadable, Line.Length: > 0 } => end.Line,
            _ => "The file could not be worked on. Take another kind of file; if that fails too, tell your administrator.",
        });
    }

    /// <inheritdoc/>
    public void Dispose() => places.Dispose();
}
