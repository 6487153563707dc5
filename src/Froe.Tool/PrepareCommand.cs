using System.Text.Json;
using Froe.Core.Draft;
using Froe.Formats;
using Froe.Store;

namespace Froe.Tool;

/// <summary>
/// prepare FILE FOLDER NAME: the server's child process. Reads a file by the reader for its name, writes each form of each leaf into a file
/// of the folder, and <see cref="PreparedDraft.FileName"/> that lists them. Exit code 3 with one line on standard error: the file cannot be read.
/// </summary>
internal static class PrepareCommand
{
    public static int Run(string file, string folder, string name)
    {
        if (Readers.For(name) is not { } reader)
        {
            Console.Error.WriteLine($"Froe reads {Readers.Words}.");
            return 3;
        }
        using var stream = new FileStream(file, FileMode.Open, FileAccess.Read, FileShare.Read, 1 << 16);
        var (content, fault) = reader.Read(stream, new ReadLimits());
        if (content is null)
        {
            Console.Error.WriteLine(fault);
            return 3;
        }
        var prepared = new PreparedDraft(reader.Name, reader.Version, [.. content.Leaves.Select(leaf => new PreparedLeaf(leaf.Leaf, [.. leaf.Forms.Select(form => Write(leaf.Leaf, form))]))], content.Report);
        File.WriteAllText(Path.Combine(folder, PreparedDraft.FileName), JsonSerializer.Serialize(prepared, Act.Json));
        return 0;

        PreparedForm Write(Leaf leaf, ReadForm form)
        {
            var written = new PreparedForm(form.Name, form.MediaType, $"{leaf.Position}.{form.Name}");
            using var to = new FileStream(Path.Combine(folder, written.File), FileMode.CreateNew, FileAccess.Write, FileShare.None, 1 << 16);
            form.Write(to);
            return written;
        }
    }
}
