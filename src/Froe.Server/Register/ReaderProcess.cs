using System.Text.Json;
using Froe.Core.Draft;
using Froe.Server.Files;
using Froe.Store;
using Microsoft.Extensions.Options;

namespace Froe.Server.Register;

/// <summary>How reading a file ended.</summary>
/// <param name="Prepared">What it holds, with its forms stored; null when it could not be read.</param>
/// <param name="Fault">Why not, in words for its owner.</param>
/// <param name="IsOutside">Whether the fault is not the file's: it may be tried again.</param>
/// <param name="Beside">The other files that it consists of.</param>
public readonly record struct Reading(PreparedDraft? Prepared, IReadOnlyList<StoredForm> Forms, string Fault, bool IsOutside, IReadOnlyList<BesideRow> Beside);

/// <summary>Reads a file in a child process, with bounds on time and memory and nothing of the server's, and stores what it prepared.</summary>
public sealed class ReaderProcess(Contents contents, Spool spool, BesideFiles besideFiles, ReaderChild child, IOptions<Settings> settings, ILogger<ReaderProcess> log)
{
    /// <summary>Files below this many bytes take less to read than a process takes to start: their person's are read by one, one after the other.</summary>
    private const int SmallFile = 1 << 19;

    /// <summary>Exit codes of a child: the file cannot be read (its own); ended by a signal (128 and the signal's number).</summary>
    private const int Unreadable = 3, Aborted = 134, Killed = 137;

    /// <summary>Reads a stored file.</summary>
    /// <param name="sha256">The file.</param>
    /// <param name="fileName">What its owner calls it: the reader is chosen by it.</param>
    /// <param name="owner">Whose it is: what else it consists of is looked for among what they may see.</param>
    /// <param name="known">What of that was found before.</param>
    /// <param name="looks">Whether the rest of it is looked for.</param>
    public async Task<Reading> ReadAsync(byte[] sha256, string fileName, Guid owner, IReadOnlyList<BesideRow> known, bool looks, CancellationToken stop)
    {
        var folder = Directory.CreateTempSubdirectory("froe-reading-");
        try
        {
            return await ReadAsync(sha256, fileName, owner, known, looks, folder.FullName, stop);
        }
        finally
        {
            folder.Delete(recursive: true);
        }
    }

    private async Task<Reading> ReadAsync(byte[] sha256, string fileName, Guid owner, IReadOnlyList<BesideRow> known, bool looks, string folder, CancellationToken stop)
    {
        var file = Path.Combine(folder, "in");
        await using (var to = File.Create(file))
            if (!await spool.CopyToAsync(sha256, to, stop)) throw new InvalidOperationException("The file is not stored.");
        var beside = await besideFiles.GatherAsync(owner, file, fileName, folder, known, looks, stop);
        string[] asked = ["prepare", file, folder, fileName];
        var (exit, line) = await (new FileInfo(file).Length < SmallFile ? child.RunInSeriesAsync(owner, asked, stop) : child.RunAsync(asked, isBrief: false, stop));
        if (exit is not { } code) return Failed($"Reading took longer than {settings.Value.ReaderSeconds} seconds and was stopped. Split the drawing or remove what is not needed.");
        if (code == 0) return await StoreAsync(folder, beside, stop);
        log.LogInformation("File {Sha256} ended its reader with {ExitCode}: {Fault}", Convert.ToHexStringLower(sha256), code, line.Length <= 1000 ? line : line[..1000]);
        return code == Killed
            ? new Reading(null, [], "The reader was ended from outside while it read the file. Upload it again; if it happens again, tell your administrator.", true, [])
            : Failed(Words(code, line));
    }

    private static Reading Failed(string fault) => new(null, [], fault, false, []);

    /// <summary>What a child's end says of its file.</summary>
    public static string Words(int exitCode, string line) => exitCode switch
    {
        Unreadable when line.Length > 0 => line,
        Aborted when line.Contains("OutOfMemory", StringComparison.Ordinal) || line.Contains("Out of memory", StringComparison.Ordinal) =>
            "The file needs more memory than a drawing may. Remove what is not needed and export it again.",
        _ => "The reader broke down over this file. Export it again, as another version if you can; if that fails too, tell your administrator.",
    };

    private async Task<Reading> StoreAsync(string folder, IReadOnlyList<BesideRow> beside, CancellationToken stop)
    {
        var prepared = JsonSerializer.Deserialize<PreparedDraft>(await File.ReadAllTextAsync(Path.Combine(folder, PreparedDraft.FileName), stop), Act.Json)!;
        var forms = new List<StoredForm>();
        foreach (var (leaf, made) in prepared.Leaves)
            foreach (var form in made)
            {
                await using var from = File.OpenRead(Path.Combine(folder, Path.GetFileName(form.File)));
                forms.Add(new StoredForm(leaf.Position, form.Name, Convert.ToHexStringLower((await contents.StoreAsync(from, form.MediaType, stop: stop)).Sha256)));
            }
        return new Reading(prepared, forms, "", false, beside);
    }
}
