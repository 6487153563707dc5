using Froe.Core.Draft;
using Froe.Core.Drawing;
using Froe.Core.Exchange;
using Froe.Formats.Out;
using Froe.Formats.Pdf;
using UglyToad.PdfPig;

namespace Froe.Formats.In;

/// <summary>Reads the annotations of a PDF or an XFDF that speaks of a draft.</summary>
public static class BroughtFile
{
    private const int MostBytes = 256 << 20, MostAnnotations = 20_000;

    /// <summary>Reads one.</summary>
    /// <param name="leaves">The draft's leaves.</param>
    /// <param name="folder">Holds what its sheets are drawn from (<see cref="MarkedFile.Prepare"/>), for what is written in user space of their pages.</param>
    /// <param name="from">The file.</param>
    /// <returns>Its annotations on the draft's sheets, but for those that lay on the draft's own file and those of pages that the draft has not; or why it cannot be read.</returns>
    public static (IReadOnlyList<BroughtAnnotation>? Annotations, string? Fault) Read(IReadOnlyList<Leaf> leaves, string folder, Stream from)
    {
        ArgumentNullException.ThrowIfNull(leaves);
        var (file, tooLarge) = WholeFile.Read(from, MostBytes);
        if (file is null) return (null, tooLarge!.ToString());
        try
        {
            var (found, fault) = IsXml(file) ? Xfdf(leaves, folder, file) : Pdf(leaves, folder, file);
            if (found is null) return (null, fault);
            var own = OwnOf(leaves, folder).Select(Sign).ToHashSet();
            found.RemoveAll(f => own.Contains(Sign(f)));
            return found.Count > MostAnnotations ? (null, $"The file holds more than {MostAnnotations:N0} annotations. Split it.") : (found, null);
        }
        catch (Exception e) when (e is not OutOfMemoryException)
        {
            // The second reader throws all kinds of things at all kinds of files.
            return (null, "The file cannot be read: it is damaged, or neither PDF nor XFDF. Export it again.");
        }
    }

    /// <summary>What lay on the draft's own file when it came: it is shown as such, and is not new.</summary>
    /// <returns>None for a file that is no PDF, or whose annotations cannot be read.</returns>
    public static IReadOnlyList<BroughtAnnotation> OwnOf(IReadOnlyList<Leaf> leaves, string folder)
    {
        ArgumentNullException.ThrowIfNull(leaves);
        try
        {
            return new SheetSource(folder).Pdf is { } source && Pdf(leaves, folder, source).Item1 is { } own ? own : [];
        }
        catch (Exception e) when (e is not OutOfMemoryException)
        {
            // The second reader throws all kinds of things at all kinds of files; the page shows what it could read of them.
            return [];
        }
    }

    /// <summary>By what an annotation is known again after another program has saved its file: names of objects may be others then.</summary>
    private static (int, AnnotationKind, string, string, double, double) Sign(BroughtAnnotation a) => (
        a.Position, a.Annotation.Kind, a.Annotation.Author, string.Join(' ', a.Annotation.Contents.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries)),
        Math.Round(a.Annotation.Rect.MinX), Math.Round(a.Annotation.Rect.MaxY));

    private static bool IsXml(ReadOnlySpan<byte> file) => (file.StartsWith("\uFEFF"u8) ? file[3..] : file).TrimStart(" \t\r\n"u8).StartsWith("<"u8);

    private static (List<BroughtAnnotation>?, string?) Xfdf(IReadOnlyList<Leaf> leaves, string folder, byte[] file)
    {
        using var stream = new MemoryStream(file);
        var (found, fault) = XfdfAnnotations.Read(stream);
        if (found is null) return (null, fault);
        var pageOf = MarkedFile.PagesOf(leaves, folder);
        return ([.. found.SelectMany(f => OnSheet(leaves, folder, f.Page, f.Annotation, pageOf))], null);
    }

    private static (List<BroughtAnnotation>?, string?) Pdf(IReadOnlyList<Leaf> leaves, string folder, byte[] file)
    {
        if (file.AsSpan(0, Math.Min(1024, file.Length)).IndexOf("%PDF-"u8) < 0)
            return (null, "The file is neither PDF nor XFDF. Bring in the PDF that was marked, or its annotations as XFDF.");
        using var document = PdfDocument.Open(file, new ParsingOptions { UseLenientParsing = true, SkipMissingFonts = true });
        document.AddPageFactory<AnnotatedPage, PdfAnnotations>();
        var all = new List<BroughtAnnotation>();
        for (var page = 0; page < document.NumberOfPages && all.Count <= MostAnnotations; page++)
        {
            if (MarkedFile.SheetOf(leaves, folder, page) is null) continue;
            var read = document.GetPage<AnnotatedPage>(page + 1);
            foreach (var annotation in read.Annotations) all.AddRange(OnSheet(leaves, folder, page, annotation, _ => read.Shown));
        }
        return (all, null);
    }

    private static IEnumerable<BroughtAnnotation> OnSheet(IReadOnlyList<Leaf> leaves, string folder, int page, Annotation annotation, Func<int, ShownPage> pageOf)
    {
        if (MarkedFile.SheetOf(leaves, folder, page) is not { } sheet) yield break;
        var shown = pageOf(page);
        if (!(shown.Millimetres > 0)) yield break;
        yield return new BroughtAnnotation(sheet.Leaf.Position, annotation.Mapped(p => Sheet(shown.Paper(p.X, p.Y), sheet), shown.Millimetres / sheet.Millimetres));

        static PointXY Sheet(PointXY paper, PlacedLeaf sheet) => new((paper.X / sheet.Millimetres) + sheet.Least.X, (paper.Y / sheet.Millimetres) + sheet.Least.Y);
    }
}
