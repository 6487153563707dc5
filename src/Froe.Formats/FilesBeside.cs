namespace Froe.Formats;

/// <summary>The other files that a file consists of, as far as they are there: models refer to their parts by the names of files.</summary>
public sealed class FilesBeside
{
    /// <summary>Most files that one file may consist of, and the longest name that is looked for.</summary>
    public const int Most = 500, LongestName = 200;

    /// <summary>In a reader's folder: where the others lie that are there, and the names that a file refers to, both as JSON.</summary>
    public const string IndexName = "beside.json", NamesName = "names.json";

    private readonly Dictionary<string, string> paths = new(StringComparer.OrdinalIgnoreCase);

    /// <param name="paths">Where each file lies, by its name; of several that differ in capitals alone, the first by their order.</param>
    public FilesBeside(IEnumerable<KeyValuePair<string, string>> paths)
    {
        foreach (var (name, path) in paths.OrderBy(p => p.Key, StringComparer.Ordinal)) this.paths.TryAdd(name, path);
    }

    /// <summary>No other files.</summary>
    public static FilesBeside None { get; } = new([]);

    /// <summary>All files of a folder.</summary>
    public static FilesBeside Of(string folder) => new(Directory.EnumerateFiles(folder).Select(f => KeyValuePair.Create(Path.GetFileName(f), f)));

    /// <summary>The name of a file by what another calls it, without folders: where it lay on another machine says nothing here. Empty for none.</summary>
    public static string NameOf(string reference)
    {
        ArgumentNullException.ThrowIfNull(reference);
        var name = reference[(reference.LastIndexOfAny(['/', '\\', ':']) + 1)..].Trim();
        return name.Length > LongestName || name.Any(char.IsControl) || name is "." or ".." ? "" : name;
    }

    /// <summary>Opens one of them; null where it is not there.</summary>
    public Stream? Open(string name) => paths.TryGetValue(name, out var path) ? new FileStream(path, FileMode.Open, FileAccess.Read, FileShare.Read, 1 << 16) : null;

    /// <summary>Whether one of them is there.</summary>
    public bool Has(string name) => paths.ContainsKey(name);
}
