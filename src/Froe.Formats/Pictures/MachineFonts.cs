using System.Collections.Concurrent;
using SkiaSharp;

namespace Froe.Formats.Pictures;

/// <summary>
/// Fonts of this machine, for letters that the shipped lettering lacks: signs of mathematics and of form and position, other scripts. The
/// drawing engine is built without a library that finds fonts, so they are looked for where Debian keeps them.
/// </summary>
internal static class MachineFonts
{
    private const string Folder = "/usr/share/fonts";
    private const int MostFiles = 400;

    private static readonly Lazy<List<SKTypeface>> Faces = new(Load);
    private static readonly ConcurrentDictionary<int, SKTypeface?> Found = new();

    /// <summary>A font that has a letter; null when this machine has none.</summary>
    /// <param name="letter">Its number in Unicode.</param>
    public static SKTypeface? With(int letter) => Found.GetOrAdd(letter, l => Faces.Value.Find(f => f.GetGlyph(l) != 0));

    private static List<SKTypeface> Load()
    {
        try
        {
            var files = Directory.EnumerateFiles(Folder, "*", new EnumerationOptions { RecurseSubdirectories = true, IgnoreInaccessible = true, MaxRecursionDepth = 6 })
                .Where(f => Path.GetExtension(f).ToLowerInvariant() is ".ttf" or ".otf" or ".ttc")
                // Upright and plain first; the same everywhere, whatever order the disk has.
                .OrderBy(f => Path.GetFileName(f) == "DejaVuSans.ttf" ? 0 : Styled(f) ? 2 : 1).ThenBy(f => f, StringComparer.Ordinal).Take(MostFiles);
            return [.. files.Select(SKTypeface.FromFile).Where(f => f is not null)];
        }
        catch (IOException)
        {
            return [];
        }
    }

    private static readonly string[] Styles = ["Bold", "Italic", "Oblique", "Mono", "Condensed", "Light"];

    private static bool Styled(string file) => Styles.Any(s => Path.GetFileName(file).Contains(s, StringComparison.OrdinalIgnoreCase));
}
