using Froe.Core.Draft;
using Froe.Core.Exchange;
using Froe.Formats.Pdf;
using SkiaSharp;

namespace Froe.Formats.Out;

/// <summary>Writes drafts with what lies on them.</summary>
public static class MarkedFile
{
    private const int PngPixels = 4000;

    /// <summary>Writes one.</summary>
    /// <param name="draft">The draft; of SVG and PNG the first sheet is written.</param>
    /// <param name="form">As what.</param>
    /// <param name="folder">Holds what its sheets are drawn from (<see cref="Prepare"/>).</param>
    /// <param name="name">What the PDF is called that an XFDF is for.</param>
    /// <param name="to">Is written to.</param>
    /// <exception cref="UnreadableException">It cannot be; the message is for whoever asked.</exception>
    public static MarkedOut Write(MarkedDraft draft, OutForm form, string folder, string name, Stream to)
    {
        ArgumentNullException.ThrowIfNull(draft);
        ArgumentNullException.ThrowIfNull(to);
        var source = new SheetSource(folder);
        var isOfPictures = false;
        switch (form)
        {
            case OutForm.Xfdf:
                XfdfFile.Write(name, Placed(draft, source.Pdf is not null), PagesOf([.. draft.Leaves.Select(l => l.Leaf)], folder), to);
                break;
            case OutForm.Svg or OutForm.Png:
                Picture(draft.Leaves[0], source, form, to);
                break;
            default:
                (var pdf, isOfPictures) = Pdf(draft, source, form == OutForm.FlatPdf);
                to.Write(pdf);
                break;
        }
        return new MarkedOut(isOfPictures);
    }

    /// <summary>Pictures that lie on sheets and are files of their own, and what each is called in the folder.</summary>
    public static IReadOnlyDictionary<string, string> PlacedPictures(IEnumerable<Leaf> leaves)
    {
        ArgumentNullException.ThrowIfNull(leaves);
        return leaves.SelectMany(l => (l.Frame as SheetFrame)?.Pictures ?? []).Select(p => p.File.ToLowerInvariant()).Distinct().ToDictionary(f => f, SheetSource.PictureName);
    }

    /// <summary>What a picture is called in the folder that somebody put on a draft.</summary>
    /// <param name="picture">What it is called by (<see cref="Core.Overlays.PastedPicture"/>).</param>
    public static string PastedName(string picture) => $"pasted-{picture}";

    /// <summary>Which files a draft's sheets are drawn from, and what they are called in the folder.</summary>
    /// <param name="leaves">Its sheets.</param>
    /// <param name="isFile">Whether the draft's own file is a PDF.</param>
    /// <returns>For each its name in the folder, and the form of which leaf it is; the draft's own file where that is null.</returns>
    public static IEnumerable<(string Name, int Position, string? Form)> Prepare(IEnumerable<Leaf> leaves, bool isFile)
    {
        ArgumentNullException.ThrowIfNull(leaves);
        var hasPages = false;
        foreach (var leaf in leaves)
        {
            // Of a model its views are drawn.
            if (leaf.Frame is SceneFrame)
                foreach (var form in (string[])[LeafForms.Scene, LeafForms.Meshes]) yield return (SheetSource.FormName(leaf.Position, form), leaf.Position, form);
            if (leaf.Frame is not SheetFrame frame) continue;
            if (frame.Surface is Surface.Strokes or Surface.Tiles)
            {
                var form = frame.Surface == Surface.Strokes ? LeafForms.Geometry : LeafForms.Tiles;
                yield return (SheetSource.FormName(leaf.Position, form), leaf.Position, form);
            }
            else if (!hasPages)
            {
                hasPages = true;
                yield return (SheetSource.FileName, leaf.Position, isFile ? null : LeafForms.Page);
            }
        }
    }

    private static (byte[] Pdf, bool IsOfPictures) Pdf(MarkedDraft draft, SheetSource source, bool isFlat)
    {
        if (source.Pdf is { } file && Tried(() => Checked(AnnotatedPdf.Write(file, Placed(draft, true), source.Pasted, isFlat), file)) is { } added) return (added, false);
        var made = Made(draft, source);
        var written = AnnotatedPdf.Write(made, Placed(draft, false), source.Pasted, isFlat) ?? throw new UnreadableException("The markups could not be put on the sheets.");
        return (written, source.Pdf is not null);
    }

    /// <summary>What comes of a file that somebody else's program wrote; null when that is nothing.</summary>
    private static byte[]? Tried(Func<byte[]?> write)
    {
        try
        {
            return write();
        }
        catch (Exception e) when (e is not (OutOfMemoryException or UnreadableException))
        {
            // The second reader throws all kinds of things at all kinds of files. The pages go out as pictures then.
            return null;
        }
    }

    /// <summary>The file, if the engine still finds every page of it.</summary>
    private static byte[]? Checked(byte[]? written, byte[] before)
    {
        if (written is null) return null;
        using var engine = PageEngine.Start(512L << 20, TimeSpan.FromSeconds(20));
        if (engine.Open(before) is not null) return null;
        var pages = engine.Pages;
        using var again = PageEngine.Start(512L << 20, TimeSpan.FromSeconds(20));
        return again.Open(written) is null && again.Pages == pages ? written : null;
    }

    /// <summary>A PDF of the sheets, each a page.</summary>
    private static byte[] Made(MarkedDraft draft, SheetSource source)
    {
        using var to = new MemoryStream();
        using (var document = SKDocument.CreatePdf(to, new SKDocumentPdfMetadata { Title = draft.Title, Creator = "Froe", Producer = "Froe", RasterDpi = SKDocumentPdfMetadata.DefaultRasterDpi, EncodingQuality = SKDocumentPdfMetadata.DefaultEncodingQuality }))
        {
            foreach (var (leaf, frame, _, _, millimetres) in Sheets(draft.Leaves.Select(l => l.Leaf), false))
            {
                var scale = millimetres / PageBounds.Point;
                using var canvas = document.BeginPage((float)Math.Max(1, frame.Extents.Width * scale), (float)Math.Max(1, frame.Extents.Height * scale));
                source.Draw(leaf, frame, canvas, scale, 0.1, asOutlines: false);
                document.EndPage();
            }
            document.Close();
        }
        return to.ToArray();
    }

    /// <summary>Where a draft's sheets lie on pages: of its own file where it is one of pages, otherwise of one that is made of them.</summary>
    private static IEnumerable<PlacedLeaf> Sheets(IEnumerable<Leaf> leaves, bool areOfFile)
    {
        var number = 0;
        foreach (var leaf in leaves)
        {
            if (leaf.Frame is not SheetFrame frame) continue;
            yield return areOfFile ? new PlacedLeaf(leaf, frame, leaf.Position, default, 1)
                : new PlacedLeaf(leaf, frame, number++, new(frame.Extents.MinX, frame.Extents.MinY), PagePlacing.MillimetresOf(frame));
        }
    }

    /// <summary>The sheet that lies on a page; null for none.</summary>
    /// <param name="folder">Holds what the sheets are drawn from.</param>
    internal static PlacedLeaf? SheetOf(IReadOnlyList<Leaf> leaves, string folder, int page) => Sheets(leaves, SheetSource.IsOfFile(folder)).FirstOrDefault(s => s.Page == page);

    /// <summary>What is drawn on each page.</summary>
    private static List<PagePlacing> Placed(MarkedDraft draft, bool areOfFile)
    {
        var told = new HashSet<Guid>();
        return [.. Sheets(draft.Leaves.Select(l => l.Leaf), areOfFile).Zip(draft.Leaves.Where(l => l.Leaf.Frame is SheetFrame), (sheet, leaf) =>
        {
            var detail = PagePlacing.DetailOf(sheet.Frame, sheet.Millimetres);
            return new PagePlacing(sheet.Page, sheet.Least, sheet.Millimetres, detail, Annotations.On(leaf, told, detail));
        })];
    }

    /// <summary>How each page lies on paper.</summary>
    internal static Func<int, ShownPage> PagesOf(IReadOnlyList<Leaf> leaves, string folder)
    {
        if (SheetSource.IsOfFile(folder)) return AnnotatedPdf.PagesOf(new SheetSource(folder).Pdf!);
        var sheets = Sheets(leaves, false).ToDictionary(s => s.Page);
        return page =>
        {
            var (extents, points) = (sheets[page].Frame.Extents, sheets[page].Millimetres / PageBounds.Point);
            return new ShownPage(0, 0, extents.Width * points, extents.Height * points, 0, PageBounds.Point);
        };
    }

    private static void Picture(MarkedLeaf leaf, SheetSource source, OutForm form, Stream to)
    {
        var frame = leaf.Leaf.Frame as SheetFrame ?? throw new UnreadableException("Only sheets go out as pictures.");
        var detail = PagePlacing.DetailOf(frame, PagePlacing.MillimetresOf(frame));
        var drawn = Annotations.On(leaf, new HashSet<Guid>(), detail);
        var scale = form == OutForm.Png ? PngPixels / Math.Max(Math.Max(frame.Extents.Width, frame.Extents.Height), 1e-9) : PagePlacing.MillimetresOf(frame) / PageBounds.Point;
        double width = Math.Max(1, frame.Extents.Width * scale), height = Math.Max(1, frame.Extents.Height * scale);
        void Draw(SKCanvas canvas)
        {
            source.Draw(leaf.Leaf, frame, canvas, scale, form == OutForm.Png ? 0.7 : 0.1, asOutlines: form == OutForm.Svg);
            foreach (var one in drawn) Put(canvas, one, detail, frame, source, scale);
        }
        if (form == OutForm.Svg)
        {
            using var canvas = SKSvgCanvas.Create(new SKRect(0, 0, (float)width, (float)height), to);
            Draw(canvas);
            return;
        }
        using var surface = SKSurface.Create(new SKImageInfo((int)Math.Ceiling(width), (int)Math.Ceiling(height), SKColorType.Rgba8888, SKAlphaType.Opaque));
        surface.Canvas.Clear(SKColors.White);
        Draw(surface.Canvas);
        using var image = surface.Snapshot();
        using var data = image.Encode(SKEncodedImageFormat.Png, 90);
        data.SaveTo(to);
    }

    /// <summary>Draws a markup on a canvas whose y goes down from the sheet's upper left corner.</summary>
    internal static void Put(SKCanvas canvas, DrawnAnnotation drawn, double detail, SheetFrame frame, SheetSource source, double scale)
    {
        var height = frame.Extents.Height * scale;
        if (drawn.Outline is { Picture: { } name } outline && source.Pasted(name) is { } png)
        {
            using var image = SKImage.FromEncodedData(png);
            var box = outline.Lines[0].Aggregate(Core.Drawing.Extents.Empty, (all, p) => all.With(p.X, p.Y));
            float X(double x) => (float)((x - frame.Extents.MinX) * scale);
            float Y(double y) => (float)((frame.Extents.MaxY - y) * scale);
            canvas.DrawImage(image, new SKRect(X(box.MinX), Y(box.MaxY), X(box.MaxX), Y(box.MinY)), new SKSamplingOptions(SKFilterMode.Linear, SKMipmapMode.Linear));
        }
        foreach (var path in InkedPath.Of(drawn, detail, new(frame.Extents.MinX, frame.Extents.MinY)))
        {
            using (path) Ink(canvas, path, scale, height);
        }
    }

    private static void Ink(SKCanvas canvas, InkedPath path, double scale, double height)
    {
        using var dashes = path.Dashes is { } dash ? SKPathEffect.CreateDash([(float)(dash.On * scale), (float)(dash.Off * scale)], 0) : null;
        using var paint = new SKPaint
        {
            IsAntialias = true,
            Color = new SKColor((uint)path.Rgb | 0xFF000000).WithAlpha((byte)Math.Round(path.Opacity * 255)),
            Style = path.Width > 0 ? SKPaintStyle.Stroke : SKPaintStyle.Fill,
            StrokeWidth = (float)(path.Width * scale),
            StrokeCap = SKStrokeCap.Round,
            StrokeJoin = SKStrokeJoin.Round,
            PathEffect = dashes,
            BlendMode = path.Multiplies ? SKBlendMode.Multiply : SKBlendMode.SrcOver,
        };
        path.Path.Transform(new SKMatrix((float)scale, 0, 0, 0, (float)-scale, (float)height, 0, 0, 1));
        canvas.DrawPath(path.Path, paint);
    }
}
