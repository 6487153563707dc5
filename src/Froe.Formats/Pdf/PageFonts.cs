namespace Froe.Formats.Pdf;

/// <summary>
/// The fonts that stand in where a PDF leaves out its own: the page engine has letters of Western languages only, so that without these what
/// is written in others, and Greek letters and signs of mathematics among Western ones, would be missing from pages. Which one stands in for
/// which is decided here for every engine, in the sandbox and in the browser.
/// </summary>
public static class PageFonts
{
    /// <summary>Sets of characters as the engine names them (as Windows does: SHIFTJIS_CHARSET and so on).</summary>
    private const int Japanese = 128, Korean = 129, SimplifiedChinese = 134, TraditionalChinese = 136;

    /// <summary>From this weight on letters are bold.</summary>
    private const int Bold = 600;

    private static string Folder => Path.Combine(AppContext.BaseDirectory, "page-fonts");

    /// <summary>The file that stands in for a font; null where the engine has better ones of its own.</summary>
    /// <param name="face">The font's name, of the standard 14 fonts (ISO 32000-2, 9.6.2.2) where it is one of theirs under another name.</param>
    /// <param name="charset">The set of characters that is needed.</param>
    /// <param name="weight">400 is regular, 700 bold.</param>
    public static string? FileFor(string face, int charset, int weight, bool isItalic)
    {
        ArgumentNullException.ThrowIfNull(face);
        return charset switch
        {
            Japanese => "NotoSansJP-Regular.otf",
            Korean => "NotoSansKR-Regular.otf",
            SimplifiedChinese => "NotoSansHans-Regular.otf",
            TraditionalChinese => "NotoSansHant-Regular.otf",
            _ when Family(face) is { } family => $"{family}_{(weight >= Bold ? "700Bold" : "400Regular")}{(isItalic ? "_Italic" : "")}.ttf",
            _ => null,
        };
    }

    /// <summary>Where the fonts of Eastern scripts are.</summary>
    public static IEnumerable<string> Eastern() => new[] { Japanese, Korean, SimplifiedChinese, TraditionalChinese }.Select(charset => PathOf(FileFor("", charset, 0, false)!));

    /// <summary>Where a font's file is.</summary>
    /// <param name="file">As <see cref="FileFor"/> gave it.</param>
    public static string PathOf(string file) => Path.Combine(Folder, Path.GetFileName(file));

    /// <summary>The family that is as wide, letter by letter, as one of the standard fonts.</summary>
    private static string? Family(string face) =>
        face.StartsWith("Helvetica", StringComparison.Ordinal) ? "Arimo"
        : face.StartsWith("Times", StringComparison.Ordinal) ? "Tinos"
        : face.StartsWith("Courier", StringComparison.Ordinal) ? "Cousine"
        : null;
}
