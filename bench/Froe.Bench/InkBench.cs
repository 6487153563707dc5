using System.Globalization;
using Froe.Formats.Dxf;
using Froe.Formats.Pictures;

namespace Froe.Bench;

/// <summary>Small files that another program writes, one for each kind of entity: where our picture has ink and where that of an independent renderer (ezdxf with matplotlib, from Debian) has.</summary>
internal static class InkBench
{
    private const int Size = 1000;

    /// <summary>Pixels that the two may differ by: the other draws each line a little wider than ours.</summary>
    private const int Within = 2;

    /// <summary>The system's own: its packages are Debian's.</summary>
    private const string Python = "/usr/bin/python3";

    public static async Task RunAsync()
    {
        List<double> all = [];
        var (scripts, folder) = (Path.Combine(Figure.Env("FROE_ROOT"), "bench", "python"), Path.Combine(Figure.Env("FROE_BENCH"), "ink"));
        Directory.CreateDirectory(folder);
        foreach (var name in (await Figure.RunAsync(Python, [Path.Combine(scripts, "make-dxf.py"), folder])).Split('\n', StringSplitOptions.RemoveEmptyEntries))
        {
            var file = Path.Combine(folder, name + ".dxf");
            await using var stream = File.OpenRead(file);
            var sheet = DxfReader.Read(stream).Drawing!.Sheets[0];
            var ours = SheetPicture.Png(sheet, Size);
            var scale = Size / Math.Max(sheet.Extents.Width, sheet.Extents.Height);
            var (wide, high) = ((int)Math.Ceiling(sheet.Extents.Width * scale), (int)Math.Ceiling(sheet.Extents.Height * scale));
            var png = Path.ChangeExtension(file, ".png");
            var (box, number) = (sheet.Extents, CultureInfo.InvariantCulture);
            await Figure.RunAsync(Python, [Path.Combine(scripts, "draw-dxf.py"), file, png, .. new[] { box.MinX, box.MinY, box.MaxX, box.MaxY }.Select(n => n.ToString("R", number)), $"{wide}", $"{high}"]);
            var overlap = Ink.Overlap(ours, await File.ReadAllBytesAsync(png), Within);
            all.Add(overlap);
            // Kept beside the other's, for whoever wants to see where they part.
            await File.WriteAllBytesAsync(Path.Combine(folder, $"{name} ours.png"), ours);
            Figure.Print($"ink beside an independent renderer, {name}", overlap, 1, "", overlap, 0.97);
        }
        Figure.Print("ink beside an independent renderer, least of all", all.Min(), 1, "", all.Min(), 0.97);
    }
}
