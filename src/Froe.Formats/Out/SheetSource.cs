using System.Security.Cryptography;
using System.Text;
using Froe.Core.Draft;
using Froe.Core.Drawing;
using Froe.Core.Exchange;
using Froe.Formats.Pdf;
using Froe.Formats.Pictures;
using SkiaSharp;

namespace Froe.Formats.Out;

/// <summary>What a draft's sheets are drawn from on their way out: the file itself where its pages are shown from it, otherwise the forms it was prepared in.</summary>
/// <param name="folder">Holds <see cref="FileName"/>, or for each sheet its form, by <see cref="FormName"/>.</param>
internal sealed class SheetSource(string folder)
{
    /// <summary>The PDF whose pages the sheets are.</summary>
    public const string FileName = "source.pdf";

    /// <summary>Pixels on the longer side of a page that goes out as a picture, and of a picture at most.</summary>
    private const int PagePixels = 4000, MostPixels = 16_000;

    /// <summary>Pixels across a view of a model.</summary>
    private const int ViewPixels = 1600;

    private readonly Dictionary<ViewOfModel, SKImage> views = [];
    private PdfPages? pages;
    private DrawnModel? model;

    /// <summary>Whether a folder holds a PDF whose pages the sheets are.</summary>
    public static bool IsOfFile(string folder) => File.Exists(Path.Combine(folder, FileName));

    /// <summary>What a picture is called in the folder that lies on sheets and is a file of its own.</summary>
    /// <param name="file">That file's name.</param>
    public static string PictureName(string file)
    {
        ArgumentNullException.ThrowIfNull(file);
        // By its letters alone it might be a path.
        return $"placed-{Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(file.ToLowerInvariant())))[..32]}";
    }

    /// <summary>A picture that somebody put on a draft, as PNG; null where it is not at hand.</summary>
    /// <param name="picture">What it is called by.</param>
    public byte[]? Pasted(string picture)
    {
        var file = Path.Combine(folder, MarkedFile.PastedName(picture));
        return Core.Overlays.PastedPicture.IsName(picture) && File.Exists(file) ? File.ReadAllBytes(file) : null;
    }

    /// <summary>What a sheet's form is called in the folder.</summary>
    public static string FormName(int position, string form) => $"{position}.{form}";

    /// <summary>The PDF, where the sheets are its pages.</summary>
    public byte[]? Pdf { get; } = IsOfFile(folder) ? File.ReadAllBytes(Path.Combine(folder, FileName)) : null;

    /// <summary>Draws a sheet: its upper left corner at the origin, y down.</summary>
    /// <param name="leaf">The sheet.</param>
    /// <param name="frame">Its frame.</param>
    /// <param name="canvas">Is drawn on.</param>
    /// <param name="scale">Units of the canvas in one of the sheet.</param>
    /// <param name="hairline">The thinnest stroke, in the canvas's units.</param>
    /// <param name="asOutlines">Whether letters are drawn as shapes.</param>
    /// <exception cref="UnreadableException">It cannot be drawn.</exception>
    public void Draw(Leaf leaf, SheetFrame frame, SKCanvas canvas, double scale, double hairline, bool asOutlines)
    {
        var whole = new SKRect(0, 0, (float)(frame.Extents.Width * scale), (float)(frame.Extents.Height * scale));
        if (frame.Surface == Surface.Strokes)
        {
            var sheet = PreparedSheet.ReadGeometry(File.ReadAllBytes(Form(leaf, LeafForms.Geometry)));
            foreach (var picture in frame.Pictures ?? []) DrawPlaced(picture, sheet.Layers, frame, canvas, (float)scale);
            SheetPicture.Paint(sheet, canvas, scale, hairline, asOutlines);
        }
        else if (frame.Surface == Surface.Tiles)
        {
            DrawTiles(leaf, canvas, whole);
        }
        else
        {
            using var picture = SKImage.FromEncodedData(Page(leaf));
            canvas.DrawImage(picture, whole, new SKSamplingOptions(SKFilterMode.Linear, SKMipmapMode.Linear));
        }
    }

    /// <summary>Draws a view of a model where its frame lies.</summary>
    /// <exception cref="UnreadableException">It cannot be drawn.</exception>
    public void DrawView(ViewOfModel view, SheetFrame frame, SKCanvas canvas, double scale)
    {
        if (!views.TryGetValue(view, out var picture))
        {
            if (model?.Leaf != view.Leaf) model = new DrawnModel(view.Leaf, folder);
            views[view] = picture = model.Picture(view.Eye, ViewPixels, (int)Math.Ceiling(ViewPixels * frame.Extents.Height / frame.Extents.Width));
        }
        var whole = new SKRect(0, 0, (float)(frame.Extents.Width * scale), (float)(frame.Extents.Height * scale));
        canvas.DrawImage(picture, whole, new SKSamplingOptions(SKFilterMode.Linear, SKMipmapMode.Linear));
    }

    /// <summary>A picture that lies on the sheet, beneath its lines: nothing where its file is not at hand, as on the screen.</summary>
    private void DrawPlaced(PlacedPicture picture, IReadOnlyList<Layer> layers, SheetFrame frame, SKCanvas canvas, float scale)
    {
        var file = Path.Combine(folder, PictureName(picture.File));
        if (!File.Exists(file) || (picture.Layer < layers.Count && !layers[picture.Layer].IsOn)) return;
        using var image = SKImage.FromEncodedData(file);
        if (image is null) return;
        var (at, along, up) = (picture.At, picture.Along, picture.Up);
        float left = (float)(at.X + up.X - frame.Extents.MinX), above = (float)(frame.Extents.MaxY - at.Y - up.Y);
        canvas.Save();
        if (picture.Window is { } window)
            canvas.ClipRect(new SKRect((float)(window.MinX - frame.Extents.MinX) * scale, (float)(frame.Extents.MaxY - window.MaxY) * scale, (float)(window.MaxX - frame.Extents.MinX) * scale, (float)(frame.Extents.MaxY - window.MinY) * scale));
        canvas.Concat(new SKMatrix(
            (float)along.X * scale / image.Width, (float)-up.X * scale / image.Height, left * scale,
            (float)-along.Y * scale / image.Width, (float)up.Y * scale / image.Height, above * scale, 0, 0, 1));
        if (picture.Clip is { Count: > 2 } clip)
        {
            using var outline = new SKPath();
            outline.AddPoly([.. clip.Select(p => new SKPoint((float)p.X * image.Width, (float)p.Y * image.Height))]);
            canvas.ClipPath(outline, antialias: true);
        }
        canvas.DrawImage(image, 0, 0, new SKSamplingOptions(SKFilterMode.Linear, SKMipmapMode.Linear));
        canvas.Restore();
    }

    private byte[] Page(Leaf leaf)
    {
        if (pages is null)
        {
            var (opened, fault) = PdfPages.Open(Pdf ?? throw new UnreadableException("The file of these pages is missing."), new ReadLimits());
            pages = opened ?? throw new UnreadableException(fault!.ToString());
        }
        return pages.Picture(leaf.Position, PagePixels);
    }

    private void DrawTiles(Leaf leaf, SKCanvas canvas, SKRect whole)
    {
        using var pack = File.OpenRead(Form(leaf, LeafForms.Tiles));
        var pyramid = TilePack.Read(pack);
        var number = Enumerable.Range(0, pyramid.Levels.Count).First(i => i == pyramid.Levels.Count - 1 || Math.Max(pyramid.Levels[i].Width, pyramid.Levels[i].Height) <= MostPixels);
        var level = pyramid.Levels[number];
        float across = whole.Width / level.Width, down = whole.Height / level.Height;
        for (var row = 0; row < level.Rows; row++)
            for (var column = 0; column < level.Columns; column++)
            {
                using var tile = SKImage.FromEncodedData(TilePack.Tile(pack, pyramid, number, column, row) ?? throw new UnreadableException("A part of the picture is missing."));
                float x = column * pyramid.Tile, y = row * pyramid.Tile;
                canvas.DrawImage(tile, new SKRect(x * across, y * down, (x + tile.Width) * across, (y + tile.Height) * down), new SKSamplingOptions(SKFilterMode.Nearest));
            }
    }

    /// <summary>Gives back what was drawn of models.</summary>
    public void DropViews()
    {
        foreach (var picture in views.Values) picture.Dispose();
        views.Clear();
    }

    private string Form(Leaf leaf, string form) => Path.Combine(folder, FormName(leaf.Position, form));
}
