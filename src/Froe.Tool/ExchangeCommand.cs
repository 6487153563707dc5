using System.Text.Json;
using Froe.Core.Exchange;
using Froe.Formats;
using Froe.Formats.Dxf;
using Froe.Formats.In;
using Froe.Formats.Out;
using Froe.Store;

namespace Froe.Tool;

/// <summary>
/// send-out FOLDER, review-sheet FOLDER, bring-in FOLDER, typed-dimensions FOLDER, pasted FOLDER: the server's child process for drafts that go out with what lies on them, for marked
/// files that come back, for dimensions that were typed over, and for pictures that are put on drafts (<see cref="ErrandFiles"/>). Exit code 3 with one line on standard error: the file cannot be written or read.
/// </summary>
internal static class ExchangeCommand
{
    private const int Unreadable = 3;

    public static int SendOut(string folder)
    {
        var errand = Errand<SendOutErrand>(folder);
        return Write(folder, to => MarkedFile.Write(errand.Draft, errand.Form, folder, errand.Name, to));
    }

    public static int ReviewSheet(string folder)
    {
        var errand = Errand<ReviewSheetErrand>(folder);
        return Write(folder, to =>
        {
            ReviewSheetFile.Write(errand.Sheet, folder, to);
            return new MarkedOut(false);
        });
    }

    private static int Write(string folder, Func<Stream, MarkedOut> write)
    {
        try
        {
            using var to = new FileStream(Path.Combine(folder, ErrandFiles.File), FileMode.CreateNew, FileAccess.ReadWrite, FileShare.None, 1 << 16);
            return Answer(folder, write(to));
        }
        catch (UnreadableException e)
        {
            return Refuse(e.Message);
        }
    }

    public static int BringIn(string folder)
    {
        var errand = Errand<BringInErrand>(folder);
        if (errand.IsOwn) return Answer(folder, BroughtFile.OwnOf(errand.Leaves, folder));
        using var from = File.OpenRead(Path.Combine(folder, ErrandFiles.File));
        var (annotations, fault) = BroughtFile.Read(errand.Leaves, folder, from);
        return annotations is null ? Refuse(fault!) : Answer(folder, annotations);
    }

    /// <summary>What is kept of a picture takes the place of its file.</summary>
    public static int Pasted(string folder)
    {
        var file = Path.Combine(folder, ErrandFiles.File);
        using var from = File.OpenRead(file);
        var (png, size, fault) = PastedFile.Read(from);
        if (png is null) return Refuse(fault!);
        from.Dispose();
        File.WriteAllBytes(file, png);
        return Answer(folder, size);
    }

    public static int TypedDimensions(string folder)
    {
        var errand = Errand<TypedDimensionsErrand>(folder);
        using var from = File.OpenRead(Path.Combine(folder, ErrandFiles.File));
        var (found, fault) = DxfReader.FindTypedDimensions(from, errand.Leaves);
        return found is null ? Refuse(fault!.ToString()) : Answer(folder, found);
    }

    private static T Errand<T>(string folder) => JsonSerializer.Deserialize<T>(File.ReadAllText(Path.Combine(folder, ErrandFiles.Errand)), Act.Json)!;

    private static int Answer<T>(string folder, T answer)
    {
        File.WriteAllText(Path.Combine(folder, ErrandFiles.Answer), JsonSerializer.Serialize(answer, Act.JsonOfFiles));
        return 0;
    }

    private static int Refuse(string why)
    {
        Console.Error.WriteLine(why);
        return Unreadable;
    }
}
