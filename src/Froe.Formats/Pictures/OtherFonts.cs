using System.Collections.Concurrent;
using Froe.Formats.Pdf;
using SkiaSharp;

namespace Froe.Formats.Pictures;

/// <summary>
/// Fonts for letters that the lettering lacks: signs of mathematics and of form and position, other scripts. First those of this machine; the
/// drawing engine is built without a library that finds fonts, so they are looked for where Debian keeps them. Then those that are shipped for
/// pages, which have the scripts of the East.
/// </summary>
internal static class OtherFonts
{
    private const string Folder = "/usr/share/fonts";
    private const int MostFiles = 400;

    private static readonly Lazy<List<SKTypeface>> Faces = new(Load);
    private static readonly ConcurrentDictionary<int, SKTypeface?> Found = new();

    /// <summary>A font that has a letter; null when there is none.</summary>
    /// <param name="letter">Its number in Unicode.</param>
    public static SKTypeface? With(int letter) => Found.GetOrAdd(letter, l => Faces.Value.Find(f => f.GetGlyph(l) != 0));

    // Each by its name alone: behind a method’s bare name its second parameter, which of a file’s fonts is meant, would be the place in the list.
    private static List<SKTypeface> Load() => [.. OfMachine().Concat(PageFonts.Eastern()).Select(f => SKTypeface.FromFile(f)).Where(f => f is not null)];

    private static List<string> OfMachine()
    {
        try
        {
            return
            [
                .. Directory.EnumerateFiles(Folder, "*", new EnumerationOptions { RecurseSubdirectories = true, IgnoreInaccessible = true, MaxRecursionDepth = 6 })
                    .Where(f => Path.GetExtension(f).ToLowerInvariant() is ".ttf" or ".otf" or ".ttc")
                    // Upright and plain first; the same everywhere, whatever order the disk has.
                    .OrderBy(f => Path.GetFileName(f) == "DejaVuSans.ttf" ? 0 : Styled(f) ? 2 : 1).ThenBy(f => f, StringComparer.Ordinal).Take(MostFiles),
            ];
        }
        catch (IOException)
        {
            return [];
        }
    }

    private static readonly string[] Styles = ["Bold", "Italic", "Oblique", "Mono", "Condensed", "Light"];

    private static bool Styled(string file) => Styles.Any(s => Path.GetFileName(file).Contains(s, StringComparison.OrdinalIgnoreCase));
}
