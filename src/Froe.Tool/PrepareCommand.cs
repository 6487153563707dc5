using System.Text.Json;
using Froe.Core.Draft;
using Froe.Formats;
using Froe.Formats.Pictures;
using Froe.Store;

namespace Froe.Tool;

/// <summary>
/// prepare FILE FOLDER NAME: the server's child process. Reads a file by the reader for its name, with the others that the folder's
/// <see cref="FilesBeside.IndexName"/> names, writes each form of each leaf into a file of the folder, and <see cref="PreparedDraft.FileName"/> that
/// lists them. Exit code 3 with one line on standard error: the file cannot be read.
/// beside FILE FOLDER NAME writes the names of the others that a file consists of into <see cref="FilesBeside.NamesName"/>.
/// </summary>
internal static class PrepareCommand
{
    private const int Unreadable = 3;

    public static int Beside(string file, string folder, string name)
    {
        using var stream = new FileStream(file, FileMode.Open, FileAccess.Read, FileShare.Read, 1 << 16);
        File.WriteAllText(Path.Combine(folder, FilesBeside.NamesName), JsonSerializer.Serialize(Readers.For(name).NamesBeside(stream).Take(FilesBeside.Most), Act.JsonOfFiles));
        return 0;
    }

    public static int Run(string file, string folder, string name)
    {
        var reader = Readers.For(name);
        using var stream = new FileStream(file, FileMode.Open, FileAccess.Read, FileShare.Read, 1 << 16);
        var (content, fault) = reader.Read(stream, new ReadLimits(), In(folder));
        if (content is null) return Refuse(fault!.ToString());
        try
        {
            var leaves = content.Leaves.Select(leaf => WithPatches(Prepared(leaf, folder), folder)).ToList();
            File.WriteAllText(Path.Combine(folder, PreparedDraft.FileName), JsonSerializer.Serialize(new PreparedDraft(reader.Name, reader.Version, leaves, content.Report() with { TitleBlock = Block(leaves, folder) }), Act.JsonOfFiles));
            return 0;
        }
        catch (UnreadableException e)
        {
            return Refuse(e.Message);
        }
    }

    private static FilesBeside In(string folder)
    {
        var index = Path.Combine(folder, FilesBeside.IndexName);
        return File.Exists(index)
            ? new FilesBeside(JsonSerializer.Deserialize<Dictionary<string, string>>(File.ReadAllText(index), Act.Json)!.Select(f => KeyValuePair.Create(f.Key, Path.Combine(folder, f.Value))))
            : FilesBeside.None;
    }

    private static PreparedLeaf Prepared(ReadLeaf read, string folder)
    {
        var forms = read.Forms.Select(form => Write(read.Leaf, form, folder)).OfType<PreparedForm>().ToList();
        return new PreparedLeaf(read is { Shown: { } shown, Leaf.Frame: SheetFrame frame } ? read.Leaf with { Frame = shown(frame) } : read.Leaf, forms);
    }

    /// <summary>What the first sheet's title block says, from the words that were just written.</summary>
    private static TitleBlock? Block(List<PreparedLeaf> leaves, string folder) =>
        leaves is [{ Leaf.Frame: SheetFrame } first, ..] && Texts(first, folder) is { } texts ? TitleBlocks.Of(texts) : null;

    /// <summary>A sheet with what of it is to be seen, from the picture and the words that were just written.</summary>
    private static PreparedLeaf WithPatches(PreparedLeaf leaf, string folder)
    {
        if (leaf.Leaf.Frame is not SheetFrame frame || FileOf(leaf, LeafForms.Picture, folder) is not { } picture) return leaf;
        if (SheetPatches.Of(frame, File.ReadAllBytes(picture), Texts(leaf, folder) ?? []) is not { } grid) return leaf;
        var form = Write(leaf.Leaf, new ReadForm(LeafForms.Patches, "application/json", to => SheetPatches.Write(grid, to)), folder);
        return new PreparedLeaf(leaf.Leaf with { Frame = frame with { Patches = grid.Held } }, [.. leaf.Forms, form!]);
    }

    private static IReadOnlyList<WrittenRun>? Texts(PreparedLeaf leaf, string folder)
    {
        if (FileOf(leaf, LeafForms.Text, folder) is not { } text) return null;
        using var json = File.OpenRead(text);
        return WrittenForm.Read(json);
    }

    private static string? FileOf(PreparedLeaf leaf, string form, string folder) => leaf.Forms.FirstOrDefault(f => f.Name == form) is { } found ? Path.Combine(folder, found.File) : null;

    /// <returns>Null where there is no such form after all.</returns>
    private static PreparedForm? Write(Leaf leaf, ReadForm form, string folder)
    {
        var written = new PreparedForm(form.Name, form.MediaType, $"{leaf.Position}.{form.Name}");
        var path = Path.Combine(folder, written.File);
        // Another process may have begun on the file and ended halfway: what it wrote is written anew.
        using (var to = new FileStream(path, FileMode.Create, FileAccess.Write, FileShare.None, 1 << 16))
        {
            form.Write(to);
            if (to.Length > 0) return written;
        }
        File.Delete(path);
        return null;
    }

    private static int Refuse(string why)
    {
        Console.Error.WriteLine(why);
        return Unreadable;
    }
}
