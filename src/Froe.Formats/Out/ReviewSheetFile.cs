using System.Globalization;
using Froe.Core.Draft;
using Froe.Core.Drawing;
using Froe.Core.Exchange;
using SkiaSharp;

namespace Froe.Formats.Out;

/// <summary>Writes a review sheet as PDF: each sheet, and each view of a model that was marked, with its numbered markups on a page of A4 or A3, then pages of A4 with what was said and decided.</summary>
public sealed class ReviewSheetFile : IDisposable
{
    /// <summary>In points: a page's margin, what the foot takes of it, and a place's picture.</summary>
    private const float Margin = 42, Foot = 30, PictureWidth = 170, PictureHeight = 118;

    /// <summary>Pixels on the longer side of the sheet that places' pictures are cut from, and a picture's pixels.</summary>
    private const int SheetPixels = 5000, PicturePixels = 680;

    /// <summary>How much of a sheet a place's picture shows at least, of its longer side, and of a view of a model.</summary>
    private const double LeastShown = 0.14, LeastOfView = 0.4;

    private const int Ink = 0x1D2A33, Soft = 0x566169, Rule = 0xB9B3A3;
    private static readonly SKSize A4 = new(595.28f, 841.89f), A3 = new(841.89f, 1190.55f);

    private readonly ReviewSheet sheet;
    private readonly Dictionary<Guid, SKImage> places = [];

    /// <summary>What each item's sheets are drawn from: a PDF is opened once, however many of its pages are drawn.</summary>
    private readonly SheetSource[] sources;
    private int page, pages;

    private ReviewSheetFile(ReviewSheet sheet, string folder) => (this.sheet, sources) = (sheet, [.. sheet.Items.Select((_, i) => new SheetSource(FolderOf(folder, i)))]);

    /// <summary>Where in the folder an item's sheets are drawn from.</summary>
    public static string FolderOf(string folder, int item) => Path.Combine(folder, item.ToString(CultureInfo.InvariantCulture));

    /// <summary>Writes one.</summary>
    /// <param name="sheet">What it says.</param>
    /// <param name="folder">Holds for each item what its sheets are drawn from (<see cref="FolderOf"/>, <see cref="MarkedFile.Prepare"/>).</param>
    /// <param name="to">Is written to.</param>
    /// <exception cref="UnreadableException">A sheet cannot be drawn; the message is for whoever asked.</exception>
    public static void Write(ReviewSheet sheet, string folder, Stream to)
    {
        ArgumentNullException.ThrowIfNull(sheet);
        using var file = new ReviewSheetFile(sheet, folder);
        file.CutPlaces();
        using var document = SKDocument.CreatePdf(to, new SKDocumentPdfMetadata { Title = $"{sheet.Number} {sheet.Title}", Creator = "Froe", Producer = "Froe", RasterDpi = SKDocumentPdfMetadata.DefaultRasterDpi, EncodingQuality = SKDocumentPdfMetadata.DefaultEncodingQuality });
        // Laid out once to know how many pages there are, then written.
        file.pages = sheet.Items.Sum(i => i.Leaves.Count);
        using (var recorder = new SKPictureRecorder())
        {
            file.page = file.pages;
            file.List(() => recorder.BeginRecording(SKRect.Create(A4)), () => recorder.EndRecording().Dispose());
            file.pages = file.page;
        }
        file.page = 0;
        for (var i = 0; i < sheet.Items.Count; i++)
            foreach (var leaf in sheet.Items[i].Leaves) file.Sheet(document, sheet.Items[i], leaf, file.sources[i]);
        file.List(() => document.BeginPage(A4.Width, A4.Height), document.EndPage);
        document.Close();
    }

    /// <inheritdoc/>
    public void Dispose()
    {
        foreach (var picture in places.Values) picture.Dispose();
        foreach (var source in sources) source.DropViews();
    }

    /// <summary>A sheet on a page, as large as it goes.</summary>
    private void Sheet(SKDocument document, ReviewedItem item, MarkedLeaf leaf, SheetSource source)
    {
        var frame = (SheetFrame)leaf.Leaf.Frame;
        var paper = Math.Max(frame.Extents.Width, frame.Extents.Height) * PagePlacing.MillimetresOf(frame) > 300 ? A3 : A4;
        if (frame.Extents.Width > frame.Extents.Height) paper = new SKSize(paper.Height, paper.Width);
        var canvas = document.BeginPage(paper.Width, paper.Height);
        float width = paper.Width - (2 * Margin), height = paper.Height - (2 * Margin) - Foot;
        var scale = Math.Min(width / Math.Max(frame.Extents.Width, 1e-9), height / Math.Max(frame.Extents.Height, 1e-9));
        float wide = (float)(frame.Extents.Width * scale), high = (float)(frame.Extents.Height * scale);
        canvas.Save();
        canvas.Translate(Margin + ((width - wide) / 2), Margin + ((height - high) / 2));
        Draw(canvas, leaf, frame, source, scale, 0.1, high);
        canvas.Restore();
        Footed(canvas, paper, $"{item.Name} {item.Title}, {leaf.Leaf.Name}", item.Sha256);
        document.EndPage();
    }

    private static void Draw(SKCanvas canvas, MarkedLeaf leaf, SheetFrame frame, SheetSource source, double scale, double hairline, double high)
    {
        var detail = PagePlacing.DetailOf(frame, PagePlacing.MillimetresOf(frame));
        if (leaf.View is { } view) source.DrawView(view, frame, canvas, scale);
        else source.Draw(leaf.Leaf, frame, canvas, scale, hairline, asOutlines: false);
        foreach (var one in Annotations.On(leaf with { Loose = [] }, new HashSet<Guid>(), detail)) MarkedFile.Put(canvas, one, detail, frame, source, scale);
    }

    private void Footed(SKCanvas canvas, SKSize paper, string words, string sha256)
    {
        page++;
        using var line = new SKPaint { Color = new SKColor((uint)Rule | 0xFF000000), StrokeWidth = 0.6f };
        var y = paper.Height - Margin - Foot + 8;
        canvas.DrawLine(Margin, y, paper.Width - Margin, y, line);
        var number = string.Create(CultureInfo.InvariantCulture, $"{page} / {pages}");
        PaperText.Draw(canvas, $"{sheet.Number}  {words}", Margin, y + 5, paper.Width - (2 * Margin) - 60, 8.5f, Ink);
        PaperText.Draw(canvas, number, paper.Width - Margin - 40, y + 5, 60, 8.5f, Ink);
        if (sha256.Length > 0) PaperText.Draw(canvas, $"SHA-256 {sha256}", Margin, y + 18, paper.Width - (2 * Margin), 7, Soft);
    }

    /// <summary>What was decided and said, page after page.</summary>
    private void List(Func<SKCanvas> begin, Action end)
    {
        var width = A4.Width - (2 * Margin);
        var canvas = begin();
        var y = Margin;
        void Need(float height)
        {
            if (y + height <= A4.Height - Margin - Foot || y == Margin) return;
            Footed(canvas, A4, sheet.Title, "");
            end();
            canvas = begin();
            y = Margin;
        }
        void Say(string words, float size, int rgb, float inset = 0)
        {
            // Longer than a page: paragraph by paragraph, and those in parts that fit.
            foreach (var part in Parts(words))
            {
                Need(PaperText.Height(part, width - inset, size));
                y += PaperText.Draw(canvas, part, Margin + inset, y, width - inset, size, rgb);
            }
        }
        void Heading(string words)
        {
            y += 14;
            Need(40);
            Say(words, 12.5f, Ink);
            y += 3;
        }
        Say($"{sheet.Number}  {sheet.Title}", 17, Ink);
        foreach (var line in sheet.Head) Say(line, 9.5f, Soft);
        Heading("Items");
        foreach (var item in sheet.Items)
        {
            Need(34);
            Say($"{item.Name}  {item.Title}", 10, Ink);
            Say($"{item.FileName}, SHA-256 {item.Sha256}", 7.5f, Soft);
            y += 3;
        }
        Heading("Signed");
        if (sheet.Signed.Count == 0) Say("Nobody has signed.", 10, Soft);
        foreach (var line in sheet.Signed) Say(line.Words, line.IsVerdict ? 9.5f : 10, line.IsVerdict ? Soft : Ink, line.IsVerdict ? 14 : 0);
        Heading("Notes");
        if (sheet.Notes.Count == 0) Say("Nothing was noted.", 10, Soft);
        foreach (var note in sheet.Notes) Noted(note, ref y, ref canvas, Need, width);
        Footed(canvas, A4, sheet.Title, "");
        end();
    }

    /// <summary>A note with the picture of its place beside it.</summary>
    private void Noted(ReviewedNote note, ref float y, ref SKCanvas canvas, Action<float> need, float width)
    {
        var picture = note.Mark is { } mark ? places.GetValueOrDefault(mark) : null;
        var inset = picture is null ? 0 : PictureWidth + 12;
        (string Words, float Size, int Rgb)[] lines =
        [
            (note.Head, 10.5f, Ink), ($"{note.Where} · {note.By}", 8.5f, Soft), .. Parts(note.Body).Select(p => (p, 10f, Ink)), .. note.Said.SelectMany(Parts).Select(p => (p, 9f, Soft)),
        ];
        need((picture is null ? 0 : PictureHeight) + 10);
        y += 6;
        var top = y;
        if (picture is not null)
        {
            using var edge = new SKPaint { Color = new SKColor((uint)Rule | 0xFF000000), Style = SKPaintStyle.Stroke, StrokeWidth = 0.6f };
            var box = SKRect.Create(Margin, y, PictureWidth, PictureHeight);
            canvas.DrawImage(picture, box, new SKSamplingOptions(SKFilterMode.Linear, SKMipmapMode.Linear));
            canvas.DrawRect(box, edge);
        }
        var isFirstPage = true;
        foreach (var (words, size, rgb) in lines)
        {
            var before = y;
            need(PaperText.Height(words, width - inset, size));
            if (y < before) isFirstPage = false;
            y += PaperText.Draw(canvas, words, Margin + inset, y, width - inset, size, rgb);
        }
        if (isFirstPage && picture is not null) y = Math.Max(y, top + PictureHeight);
        y += 6;
    }

    /// <summary>Words in parts that fit on a page for sure.</summary>
    private static IEnumerable<string> Parts(string words)
    {
        const int Longest = 600;
        foreach (var paragraph in words.Replace("\r", "", StringComparison.Ordinal).Split('\n'))
        {
            var left = paragraph;
            while (left.Length > Longest)
            {
                var cut = left.LastIndexOf(' ', Longest) is var blank and > 0 ? blank : char.IsHighSurrogate(left[Longest - 1]) ? Longest - 1 : Longest;
                yield return left[..cut];
                left = left[cut..].TrimStart();
            }
            yield return left;
        }
    }

    /// <summary>Draws each sheet once, and cuts the places of notes out of it.</summary>
    private void CutPlaces()
    {
        foreach (var of in sheet.Notes.Where(n => n is { Item: not null, Mark: not null }).GroupBy(n => n.Item!.Value))
            foreach (var leaf in sheet.Items[of.Key].Leaves)
            {
                var marks = leaf.Marks.Where(m => of.Any(n => n.Mark == m.Id)).ToList();
                if (marks.Count == 0) continue;
                var frame = (SheetFrame)leaf.Leaf.Frame;
                var longer = Math.Max(Math.Max(frame.Extents.Width, frame.Extents.Height), 1e-9);
                var scale = SheetPixels / longer;
                int width = Math.Max(1, (int)Math.Ceiling(frame.Extents.Width * scale)), height = Math.Max(1, (int)Math.Ceiling(frame.Extents.Height * scale));
                using var surface = SKSurface.Create(new SKImageInfo(width, height, SKColorType.Rgba8888, SKAlphaType.Opaque));
                surface.Canvas.Clear(SKColors.White);
                Draw(surface.Canvas, leaf, frame, sources[of.Key], scale, 0.7, frame.Extents.Height * scale);
                using var whole = surface.Snapshot();
                foreach (var mark in marks) places[mark.Id] = Cut(whole, Around(mark, longer, leaf.View is null ? LeastShown : LeastOfView), frame, scale);
            }
    }

    /// <summary>What lies about a place.</summary>
    private static Extents Around(SentMark mark, double longer, double least)
    {
        var box = mark.Shape.Outline(longer / 200).Lines.SelectMany(l => l).Append(mark.Shape.Outline(longer / 200).Anchor).Aggregate(Extents.Empty, (e, p) => e.With(p.X, p.Y));
        double wide = Math.Max(box.Width * 1.5, longer * least) / 2, high = box.Height * 0.75, x = (box.MinX + box.MaxX) / 2, y = (box.MinY + box.MaxY) / 2;
        return new Extents(x - wide, y - high, x + wide, y + high);
    }

    /// <summary>Some of a sheet, and as much about it as a picture's sides ask for.</summary>
    private static SKImage Cut(SKImage whole, Extents box, SheetFrame frame, double scale)
    {
        var wide = Math.Max(box.Width, box.Height * PictureWidth / PictureHeight);
        var high = wide * PictureHeight / PictureWidth;
        double left = ((box.MinX + box.MaxX - wide) / 2) - frame.Extents.MinX, top = frame.Extents.MaxY - ((box.MinY + box.MaxY + high) / 2);
        using var surface = SKSurface.Create(new SKImageInfo(PicturePixels, (int)(PicturePixels * PictureHeight / PictureWidth), SKColorType.Rgba8888, SKAlphaType.Opaque));
        surface.Canvas.Clear(SKColors.White);
        surface.Canvas.DrawImage(whole, SKRect.Create((float)(left * scale), (float)(top * scale), (float)(wide * scale), (float)(high * scale)), SKRect.Create(surface.Canvas.LocalClipBounds.Size), new SKSamplingOptions(SKFilterMode.Linear, SKMipmapMode.Linear));
        return surface.Snapshot();
    }
}
