using System.Text.Json;
using Froe.Core.Register;
using Froe.Formats;
using Froe.Server.Files;
using Froe.Server.SignIn;
using Froe.Store;

namespace Froe.Server.Register;

/// <summary>
/// Finds the other files that a file consists of: among what its owner has uploaded of late, then in the register, by file name or number, as
/// far as its owner may see it. What was found once stays: a newer draft of a part does not change what an assembly showed.
/// </summary>
public sealed class BesideFiles(Database database, RightsBook rights, ReaderChild child, Spool spool)
{
    /// <summary>Most bytes of them together.</summary>
    private const long MostBytes = 1L << 30;

    /// <summary>The file that a name means to somebody; null where there is none.</summary>
    public async Task<BesideRow?> FindAsync(Guid person, string name, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(name);
        if (await BesideRows.UploadedAsync(database, person, name, stop) is { } uploaded) return new BesideRow(name, uploaded, null);
        var holding = await rights.OfAsync(person, stop);
        // What is shown of a model comes from models alone; other files are meant by their own names only.
        var isModel = IsModel(name);
        foreach (var (row, fileName, folder, originator) in await BesideRows.RegisteredAsync(database, name, isModel ? [.. FileNames.Numbers(name)] : [], stop))
            if ((!isModel || IsModel(fileName)) && (originator == person || Visibility.Sees(holding.Rights, folder))) return row;
        return null;
    }

    private static bool IsModel(string fileName) => Readers.For(fileName).MediaType.StartsWith("model/", StringComparison.Ordinal);

    /// <summary>Puts the other files of a file into its reader's folder, those of the others too, and says where they lie.</summary>
    /// <param name="person">Whose file it is.</param>
    /// <param name="file">Where it lies.</param>
    /// <param name="fileName">What it is called.</param>
    /// <param name="folder">The reader's folder.</param>
    /// <param name="known">What was found before.</param>
    /// <param name="looks">Whether the rest is looked for; otherwise it is missing.</param>
    /// <returns>All of them, found or missing.</returns>
    public async Task<IReadOnlyList<BesideRow>> GatherAsync(Guid person, string file, string fileName, string folder, IReadOnlyList<BesideRow> known, bool looks, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(known);
        var all = new Dictionary<string, BesideRow>(StringComparer.OrdinalIgnoreCase);
        var lying = new Dictionary<string, string>();
        var room = MostBytes;
        var waiting = new Queue<(string File, string Name)>([(file, fileName)]);
        while (waiting.TryDequeue(out var next))
        {
            if (!Readers.For(next.Name).HasFilesBeside) continue;
            foreach (var name in await NamesAsync(person, next.File, next.Name, folder, stop))
            {
                if (name.Length == 0 || all.Count >= FilesBeside.Most || all.ContainsKey(name) || name.Equals(fileName, StringComparison.OrdinalIgnoreCase)) continue;
                var row = known.FirstOrDefault(k => k.Sha256 is not null && k.Name.Equals(name, StringComparison.OrdinalIgnoreCase)) ?? (looks ? await FindAsync(person, name, stop) : null);
                var path = $"beside.{all.Count}";
                if (row is not null && await CopyAsync(row.Sha256!, Path.Combine(folder, path), room, stop) is { } size)
                {
                    room -= size;
                    lying[name] = path;
                    all[name] = row;
                    waiting.Enqueue((Path.Combine(folder, path), name));
                }
                else
                {
                    all[name] = new BesideRow(name, null, null);
                }
            }
        }
        if (lying.Count > 0) await File.WriteAllTextAsync(Path.Combine(folder, FilesBeside.IndexName), JsonSerializer.Serialize(lying, Act.Json), stop);
        return [.. all.Values];
    }

    /// <summary>Gives how long the file is; null where it does not lie there any more, or is longer than there is room.</summary>
    private async Task<long?> CopyAsync(byte[] sha256, string to, long room, CancellationToken stop)
    {
        if (await database.ListAsync("SELECT size FROM content WHERE sha256 = $1", r => r.GetInt64(0), [sha256], stop) is not [var size] || size > room) return null;
        await using var file = File.Create(to);
        return await spool.CopyToAsync(sha256, file, stop) ? size : null;
    }

    /// <summary>The names that a file refers to, as its reader's process tells; none where it breaks down over it.</summary>
    private async Task<IReadOnlyList<string>> NamesAsync(Guid person, string file, string fileName, string folder, CancellationToken stop)
    {
        var said = Path.Combine(folder, FilesBeside.NamesName);
        var (exit, _) = await child.RunInSeriesAsync(person, ["beside", file, folder, fileName], stop);
        if (exit != 0) return [];
        var names = JsonSerializer.Deserialize<string[]>(await File.ReadAllTextAsync(said, stop), Act.Json) ?? [];
        File.Delete(said);
        return names;
    }
}
