using System.Diagnostics;
using System.Text.Json;
using Froe.Core.Drawing;
using Froe.Formats.Dxf;
using Froe.Formats.Pictures;

namespace Froe.Tool;

/// <summary>
/// prepare FILE FOLDER: the server's child process. Reads a file, writes report.json and for each sheet n the files
/// n.sheet, n.webp (first look) and n-small.webp (lists). Exit code 3 with one line on standard error: the file cannot be read.
/// </summary>
internal static class PrepareCommand
{
    private const int PictureSize = 2000;
    private const int SmallSize = 320;

    public static int Run(string file, string folder)
    {
        var watch = Stopwatch.StartNew();
        using var stream = new FileStream(file, FileMode.Open, FileAccess.Read, FileShare.Read, 1 << 16);
        var result = DxfReader.Read(stream);
        if (result.Drawing is not { } drawing)
        {
            Console.Error.WriteLine(result.Fault);
            return 3;
        }
        for (var i = 0; i < drawing.Sheets.Count; i++)
        {
            var sheet = drawing.Sheets[i];
            using (var to = new FileStream(Path.Combine(folder, $"{i}.sheet"), FileMode.CreateNew, FileAccess.Write, FileShare.None, 1 << 16))
                PreparedSheet.Write(sheet, to);
            File.WriteAllBytes(Path.Combine(folder, $"{i}.webp"), SheetPicture.WebP(sheet, PictureSize));
            File.WriteAllBytes(Path.Combine(folder, $"{i}-small.webp"), SheetPicture.WebP(sheet, SmallSize));
        }
        File.WriteAllText(
            Path.Combine(folder, "report.json"),
            JsonSerializer.Serialize(Report.Of(drawing, stream.Length, watch.Elapsed, 0, null), JsonSerializerOptions.Web));
        return 0;
    }
}
