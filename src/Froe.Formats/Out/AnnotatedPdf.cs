using System.Globalization;
using System.Text;
using Froe.Core.Drawing;
using Froe.Core.Exchange;
using Froe.Formats.Pdf;
using SkiaSharp;
using UglyToad.PdfPig;
using UglyToad.PdfPig.Core;
using UglyToad.PdfPig.Tokens;

namespace Froe.Formats.Out;

/// <summary>
/// Puts markups on the pages of a PDF by an incremental update: as annotations, each with its appearance (ISO 32000-2, 12.5.5), or drawn into the pages for
/// good. The file stays a prefix of what is written.
/// </summary>
internal static class AnnotatedPdf
{
    private const int MostPages = 20_000;

    /// <summary>The file with the markups; null when it cannot be added to: it is encrypted or damaged.</summary>
    /// <param name="pictureOf">The pictures that people put on the draft, as PNG; null where one is not at hand.</param>
    /// <param name="isFlat">Whether they are drawn into the pages, to be changed by nobody.</param>
    public static byte[]? Write(byte[] file, IReadOnlyList<PagePlacing> sheets, Func<string, byte[]?> pictureOf, bool isFlat)
    {
        ArgumentNullException.ThrowIfNull(file);
        ArgumentNullException.ThrowIfNull(sheets);
        using var document = PdfDocument.Open(file, new ParsingOptions { UseLenientParsing = true, SkipMissingFonts = true });
        document.AddPageFactory<PageBasics, PageBasicsReading>();
        using var update = PdfUpdate.Begin(file, document);
        if (update is null) return null;
        var pages = Pages(document);
        var graphics = new Graphics(update, pictureOf);
        // Replies name what they answer by its object, wherever it lies.
        var objects = new Dictionary<string, string>();
        foreach (var sheet in sheets.Where(s => s.Drawn.Count > 0))
        {
            if (sheet.Page >= pages.Count) return null;
            var (reference, dictionary) = pages[sheet.Page];
            var shown = document.GetPage<PageBasics>(sheet.Page + 1).Shown;
            if (!(shown.Width > 0 && shown.Height > 0)) return null;
            var page = isFlat ? Flattened(update, document, dictionary, sheet, shown, graphics) : WithAnnotations(update, document, reference, dictionary, sheet, shown, graphics, objects);
            if (page is null) return null;
            update.Put((int)reference.ObjectNumber, reference.Generation, page);
        }
        return update.Finish();
    }

    /// <summary>How each page of a file lies on paper.</summary>
    /// <exception cref="UnreadableException">A page cannot be read.</exception>
    public static Func<int, ShownPage> PagesOf(byte[] file)
    {
        var document = PdfDocument.Open(file, new ParsingOptions { UseLenientParsing = true, SkipMissingFonts = true });
        document.AddPageFactory<PageBasics, PageBasicsReading>();
        return page =>
        {
            try
            {
                return document.GetPage<PageBasics>(page + 1).Shown;
            }
            catch (Exception e) when (e is not OutOfMemoryException)
            {
                // It throws all kinds of things at all kinds of files.
                throw new UnreadableException("The file is damaged: where its pages lie cannot be said. Take a PDF instead.");
            }
        };
    }

    /// <summary>Every page with how it is referred to, in order.</summary>
    private static List<(IndirectReference Reference, DictionaryToken Page)> Pages(PdfDocument document)
    {
        var (found, seen) = (new List<(IndirectReference, DictionaryToken)>(), new HashSet<IndirectReference>());
        var left = new Stack<IToken>();
        if (document.Structure.Catalog.CatalogDictionary.Data.TryGetValue("Pages", out var root)) left.Push(root);
        while (left.TryPop(out var next) && found.Count < MostPages)
        {
            if (next is not IndirectReferenceToken { Data: var reference } || !seen.Add(reference) || document.Structure.GetObject(reference).Data is not DictionaryToken node) continue;
            if (node.Data.TryGetValue("Kids", out var kids) && Resolved(document, kids) is ArrayToken array)
                foreach (var kid in array.Data.Reverse()) left.Push(kid);
            else found.Add((reference, node));
        }
        return found;
    }

    private static IToken Resolved(PdfDocument document, IToken token)
    {
        for (var depth = 0; token is IndirectReferenceToken reference && depth < 8; depth++) token = document.Structure.GetObject(reference.Data).Data;
        return token;
    }

    private static string? WithAnnotations(
        PdfUpdate update, PdfDocument document, IndirectReference page, DictionaryToken dictionary, PagePlacing sheet, in ShownPage shown, Graphics graphics, Dictionary<string, string> objects)
    {
        var before = dictionary.Data.TryGetValue("Annots", out var there) && Resolved(document, there) is ArrayToken array ? array.Data : [];
        var all = new StringBuilder("[");
        foreach (var one in before)
        {
            all.Append(' ');
            if (!PdfTokens.Write(all, one, 0)) return null;
        }
        foreach (var drawn in sheet.Drawn) all.Append(' ').Append(Annotation(update, page, drawn, sheet, shown, graphics, objects));
        return Rewritten(dictionary, ("Annots", all.Append(']').ToString()));
    }

    private static string Annotation(PdfUpdate update, IndirectReference page, DrawnAnnotation drawn, PagePlacing sheet, ShownPage shown, Graphics graphics, Dictionary<string, string> objects)
    {
        var a = drawn.Annotation.Mapped(p => sheet.User(p, shown), sheet.Scale(shown));
        var (content, box, resources) = Appearance([drawn], sheet, shown, graphics);
        // A stamp is as large as its rectangle; of others the rectangle takes in their lines, and says by how much where it can.
        var rect = box.IsEmpty || a.Kind == AnnotationKind.Stamp ? a.Rect : box.With(a.Rect.MinX, a.Rect.MinY).With(a.Rect.MaxX, a.Rect.MaxY);
        // What answers and what gives a state is for lists only: it has no picture, and hides the sign that readers would put in its place.
        var isShown = drawn.Outline is not null;
        var body = new StringBuilder(
            $"<< /Type /Annot /Subtype /{a.Kind} /Rect [{Box(rect)}] /F {(isShown ? 4 : 30)} /P {Reference(page)} /NM {PdfTokens.Text(a.Id)} /T {PdfTokens.Text(a.Author)} /Contents {PdfTokens.Text(a.Contents)} /C [{Colour(a.Rgb)}]");
        if (a.At is { } at) body.Append(CultureInfo.InvariantCulture, $" /M {PdfTokens.Time(at)}{(a.Kind is AnnotationKind.Text && a.State is not null ? "" : $" /CreationDate {PdfTokens.Time(at)}")}");
        if (a.Subject.Length > 0) body.Append(" /Subj ").Append(PdfTokens.Text(a.Subject));
        if (a.Intent.Length > 0) body.Append(" /IT /").Append(a.Intent);
        if (a.IsCloudy) body.Append(" /BE << /S /C /I 1 >>");
        var first = a.Points.IsDefaultOrEmpty ? [] : a.Points[0];
        body.Append(a.Kind switch
        {
            AnnotationKind.Line => $" /L [{Points(first)}]{(a.HasArrow ? " /LE [/None /OpenArrow]" : "")}{(a.LeaderLength != 0 ? $" /LL {PdfTokens.Number(a.LeaderLength)}" : "")}",
            AnnotationKind.Polygon or AnnotationKind.PolyLine => $" /Vertices [{Points(first)}]",
            AnnotationKind.Ink => $" /InkList [{string.Concat(a.Points.Select(row => $"[{Points(row)}]"))}]",
            AnnotationKind.Highlight or AnnotationKind.StrikeOut => $" /QuadPoints [{string.Join(' ', a.Points.Select(row => Points(row)))}]",
            AnnotationKind.Square or AnnotationKind.Circle => Differences(a.Rect, rect),
            AnnotationKind.FreeText => $" /DA (/Helv {PdfTokens.Number(a.LetterHeight / 0.7)} Tf {Colour(a.Rgb)} rg){(first.Length > 1 ? $" /CL [{Points(first)}]" : "")}{Differences(a.Rect, rect)}",
            AnnotationKind.Text => " /Name /Comment",
            _ => "",
        });
        if (a.ReplyTo is { } to && objects.TryGetValue(to, out var answered)) body.Append(" /IRT ").Append(answered).Append(" /RT /R");
        if (a.State is { } state) body.Append(" /StateModel (Review) /State (").Append(state).Append(')');
        if (isShown) body.Append(" /AP << /N ").Append(update.AddStream($"/Type /XObject /Subtype /Form /BBox [{Box(rect)}] /Resources {resources}", content)).Append(" >>");
        return objects[a.Id] = update.Add(body.Append(" >>").ToString());
    }

    /// <summary>How far the thing itself lies within what it covers with its line (RD).</summary>
    private static string Differences(Extents inner, Extents outer) =>
        $" /RD [{PdfTokens.Numbers(Math.Max(0, inner.MinX - outer.MinX), Math.Max(0, inner.MinY - outer.MinY), Math.Max(0, outer.MaxX - inner.MaxX), Math.Max(0, outer.MaxY - inner.MaxY))}]";

    /// <summary>A page with the markups behind what it draws.</summary>
    private static string? Flattened(PdfUpdate update, PdfDocument document, DictionaryToken dictionary, PagePlacing sheet, in ShownPage shown, Graphics graphics)
    {
        var (content, box, own) = Appearance(sheet.Drawn, sheet, shown, graphics);
        if (box.IsEmpty) return Rewritten(dictionary);
        var form = update.AddStream($"/Type /XObject /Subtype /Form /BBox [{Box(box)}] /Resources {own}", content);
        var resources = Inherited(document, dictionary, "Resources") as DictionaryToken;
        var objects = resources?.Data.TryGetValue("XObject", out var x) == true && Resolved(document, x) is DictionaryToken named ? named : null;
        var name = "FroeMarks";
        while (objects?.Data.ContainsKey(name) == true) name += "1";
        var all = new StringBuilder("<< ");
        foreach (var (key, value) in resources?.Data ?? new Dictionary<string, IToken>())
        {
            if (key == "XObject") continue;
            if (!PdfTokens.Write(all.Append('/').Append(PdfTokens.Name(key)).Append(' '), value, 0)) return null;
            all.Append(' ');
        }
        all.Append("/XObject << ");
        foreach (var (key, value) in objects?.Data ?? new Dictionary<string, IToken>())
        {
            if (!PdfTokens.Write(all.Append('/').Append(PdfTokens.Name(key)).Append(' '), value, 0)) return null;
            all.Append(' ');
        }
        all.Append(CultureInfo.InvariantCulture, $"/{name} {form} >> >>");
        var contents = new StringBuilder($"[{update.AddStream("", "q ")} ");
        if (dictionary.Data.TryGetValue("Contents", out var drawn))
            foreach (var part in drawn is IndirectReferenceToken && Resolved(document, drawn) is ArrayToken listed ? listed.Data : drawn is ArrayToken array ? array.Data : [drawn])
            {
                if (part is not IndirectReferenceToken || !PdfTokens.Write(contents, part, 0)) return null;
                contents.Append(' ');
            }
        contents.Append(update.AddStream("", $"\nQ q /{name} Do Q\n")).Append(']');
        return Rewritten(dictionary, ("Resources", all.ToString()), ("Contents", contents.ToString()));
    }

    private static IToken? Inherited(PdfDocument document, DictionaryToken page, string key)
    {
        for (var depth = 0; depth < 60; depth++)
        {
            if (page.Data.TryGetValue(key, out var found)) return Resolved(document, found);
            if (!page.Data.TryGetValue("Parent", out var parent) || Resolved(document, parent) is not DictionaryToken above) return null;
            page = above;
        }
        return null;
    }

    private static string? Rewritten(DictionaryToken dictionary, params (string Key, string Value)[] anew)
    {
        var page = new StringBuilder("<< ");
        foreach (var (key, value) in dictionary.Data)
        {
            if (anew.Any(a => a.Key == key)) continue;
            if (!PdfTokens.Write(page.Append('/').Append(PdfTokens.Name(key)).Append(' '), value, 0)) return null;
            page.Append(' ');
        }
        foreach (var (key, value) in anew) page.Append('/').Append(key).Append(' ').Append(value).Append(' ');
        return page.Append(">>").ToString();
    }

    /// <summary>The operators that draw markups in user space, what they cover, and what they refer to.</summary>
    private static (string Content, Extents Box, string Resources) Appearance(IEnumerable<DrawnAnnotation> drawn, PagePlacing sheet, ShownPage shown, Graphics graphics)
    {
        var (content, box, scale) = (new StringBuilder("1 J 1 j\n"), Extents.Empty, sheet.Scale(shown));
        var (states, pictures) = (new SortedDictionary<string, string>(), new SortedDictionary<string, string>());
        foreach (var one in drawn)
        {
            if (one.Outline is { Picture: { } picture } outline && graphics.Picture(picture) is var (name, known))
            {
                pictures[name] = known;
                // Its corners are those of its line, clockwise from the upper left one.
                var corners = outline.Lines[0].Select(p => sheet.User(p, shown)).ToArray();
                var (above, beyond, from) = (corners[0], corners[2], corners[3]);
                foreach (var corner in corners) box = box.With(corner.X, corner.Y);
                content.Append(CultureInfo.InvariantCulture, $"q {PdfTokens.Numbers(beyond.X - from.X, beyond.Y - from.Y, above.X - from.X, above.Y - from.Y, from.X, from.Y)} cm /{name} Do Q\n");
            }
            foreach (var path in InkedPath.Of(one, sheet.Detail, sheet.Least))
            {
                using (path)
                {
                    var (state, reference) = graphics.State(path);
                    states[state] = reference;
                    var dashes = path.Dashes is { } dash ? PdfTokens.Numbers(dash.On * scale, dash.Off * scale) : "";
                    content.Append(CultureInfo.InvariantCulture, $"/{state} gs {Colour(path.Rgb)} {(path.Width > 0 ? $"RG {PdfTokens.Number(path.Width * scale)} w [{dashes}] 0 d" : "rg")}\n");
                    box = Draw(content, path.Path, p => sheet.FromLeast(p, shown), path.Width * scale / 2, box);
                    content.Append(path.Width > 0 ? "S\n" : "f\n");
                }
            }
        }
        static string Named(SortedDictionary<string, string> all) => string.Join(' ', all.Select(u => $"/{u.Key} {u.Value}"));
        return (content.ToString(), box, $"<< /ExtGState << {Named(states)} >>{(pictures.Count > 0 ? $" /XObject << {Named(pictures)} >>" : "")} >>");
    }

    private static Extents Draw(StringBuilder to, SKPath path, Func<PointXY, PointXY> map, double beside, Extents box)
    {
        using var steps = path.CreateRawIterator();
        var points = new SKPoint[4];
        PointXY At(SKPoint p)
        {
            var at = map(new(p.X, p.Y));
            box = box.With(at.X - beside, at.Y - beside).With(at.X + beside, at.Y + beside);
            return at;
        }
        string Said(SKPoint p) => At(p) is var at ? PdfTokens.Numbers(at.X, at.Y) : "";
        for (SKPathVerb verb; (verb = steps.Next(points)) != SKPathVerb.Done;)
        {
            switch (verb)
            {
                case SKPathVerb.Move: to.Append(Said(points[0])).Append(" m\n"); break;
                case SKPathVerb.Line: to.Append(Said(points[1])).Append(" l\n"); break;
                // Letters are quadratic curves; the standard has cubic ones only.
                case SKPathVerb.Quad or SKPathVerb.Conic: to.Append(Said(Third(points[0], points[1]))).Append(' ').Append(Said(Third(points[2], points[1]))).Append(' ').Append(Said(points[2])).Append(" c\n"); break;
                case SKPathVerb.Cubic: to.Append(Said(points[1])).Append(' ').Append(Said(points[2])).Append(' ').Append(Said(points[3])).Append(" c\n"); break;
                case SKPathVerb.Close: to.Append("h\n"); break;
            }
        }
        return box;

        static SKPoint Third(SKPoint end, SKPoint control) => new(end.X + ((control.X - end.X) * 2 / 3), end.Y + ((control.Y - end.Y) * 2 / 3));
    }

    private static string Box(Extents b) => PdfTokens.Numbers(b.MinX, b.MinY, b.MaxX, b.MaxY);

    private static string Points(IEnumerable<PointXY> row) => PdfTokens.Numbers(row.SelectMany(p => new[] { p.X, p.Y }));

    private static string Colour(int rgb) => PdfTokens.Numbers(((rgb >> 16) & 255) / 255.0, ((rgb >> 8) & 255) / 255.0, (rgb & 255) / 255.0);

    private static string Reference(IndirectReference to) => string.Create(CultureInfo.InvariantCulture, $"{to.ObjectNumber} {to.Generation} R");
}
