using Froe.Core.Draft;
using Froe.Formats.Pictures;
using SkiaSharp;

namespace Froe.Formats.Tables;

/// <summary>A picture of a table's top left, for lists and for a first look.</summary>
internal static class TablePicture
{
    private const double MostWidth = 1100, MostHeight = 800;

    /// <param name="first">Its first rows.</param>
    /// <param name="longest">Pixels on the longer side.</param>
    public static byte[] WebP(TableFacts facts, IReadOnlyList<TableRow> first, int longest)
    {
        var lefts = Sums(facts.Widths, MostWidth);
        var heights = facts.Heights.Where(h => h.Row < 1000).ToDictionary(h => h.Row, h => h.Height);
        var tops = Sums(Enumerable.Range(0, Math.Min(facts.Rows, 1000)).Select(r => heights.GetValueOrDefault(r, facts.RowHeight)), MostHeight);
        var (width, height) = (Math.Max(8, Math.Min(MostWidth, lefts[^1])), Math.Max(8, Math.Min(MostHeight, tops[^1])));
        var scale = (float)(longest / Math.Max(width, height));
        var info = new SKImageInfo(Math.Max(1, (int)Math.Ceiling(width * scale)), Math.Max(1, (int)Math.Ceiling(height * scale)), SKColorType.Rgba8888, SKAlphaType.Opaque);
        using var surface = SKSurface.Create(info);
        var canvas = surface.Canvas;
        canvas.Clear(SKColors.White);
        canvas.Scale(scale);
        using var paint = new SKPaint { IsAntialias = true };
        if (facts.HasGrid) Grid(canvas, paint, lefts, tops);
        foreach (var row in first.Where(r => r.Row < tops.Count - 1))
            for (var i = 0; i < row.Cells.Count; i++) Cell(canvas, paint, facts, row, i, lefts, tops);
        using var image = surface.Snapshot();
        using var pixels = image.PeekPixels();
        using var data = pixels.Encode(new SKWebpEncoderOptions(SKWebpEncoderCompression.Lossless, 30));
        return data!.ToArray();
    }

    /// <summary>Where each begins, and where the last ends, as far as the picture reaches.</summary>
    private static List<double> Sums(IEnumerable<double> sizes, double most)
    {
        List<double> sums = [0];
        foreach (var size in sizes)
        {
            sums.Add(sums[^1] + size);
            if (sums[^1] >= most) break;
        }
        return sums;
    }

    private static void Grid(SKCanvas canvas, SKPaint paint, List<double> lefts, List<double> tops)
    {
        paint.Color = new SKColor(0xDD, 0xDA, 0xD2);
        paint.StrokeWidth = 1;
        foreach (var x in lefts) canvas.DrawLine((float)x, 0, (float)x, (float)tops[^1], paint);
        foreach (var y in tops) canvas.DrawLine(0, (float)y, (float)lefts[^1], (float)y, paint);
    }

    private static void Cell(SKCanvas canvas, SKPaint paint, TableFacts facts, TableRow row, int at, List<double> lefts, List<double> tops)
    {
        var (column, text, number) = row.Cells[at];
        if (column >= lefts.Count - 1) return;
        var merge = facts.Merges.FirstOrDefault(m => m.Row == row.Row && m.Column == column);
        var right = Math.Min(lefts.Count - 1, column + (merge?.Columns ?? 1));
        var bottom = Math.Min(tops.Count - 1, row.Row + (merge?.Rows ?? 1));
        var style = facts.Styles[number];
        var box = new SKRect((float)lefts[column], (float)tops[row.Row], (float)lefts[right], (float)tops[bottom]);
        if (style.Fill is { } fill)
        {
            paint.Color = SKColor.Parse(fill);
            canvas.DrawRect(box, paint);
        }
        Line(style.Left, box.Left, box.Top, box.Left, box.Bottom);
        Line(style.Right, box.Right, box.Top, box.Right, box.Bottom);
        Line(style.Top, box.Left, box.Top, box.Right, box.Top);
        Line(style.Bottom, box.Left, box.Bottom, box.Right, box.Bottom);
        if (text.Length == 0) return;
        var letter = (float)(style.Size * 96 / 72);
        using var font = new SKFont(SheetPicture.Face, letter) { Embolden = style.IsBold, SkewX = style.IsItalic ? -0.2f : 0 };
        paint.Color = style.Ink is { } ink ? SKColor.Parse(ink) : SKColors.Black;
        var words = text.Length > 200 ? text[..200] : text;
        var wide = font.MeasureText(words);
        // Words that nothing stands beside run on over empty cells.
        var until = box.Right;
        if (style.Across == CellAcross.Left && !style.Wraps && (at + 1 >= row.Cells.Count || row.Cells[at + 1].Column > right)) until = (float)lefts[at + 1 < row.Cells.Count ? Math.Min(lefts.Count - 1, row.Cells[at + 1].Column) : lefts.Count - 1];
        var x = style.Across switch { CellAcross.Right => Math.Max(box.Left + 2, box.Right - 4 - wide), CellAcross.Centre => Math.Max(box.Left + 2, box.MidX - (wide / 2)), _ => box.Left + 4 + (style.Indent * 9) };
        var y = style.Down switch { CellDown.Top => box.Top + letter, CellDown.Middle => box.MidY + (letter * 0.36f), _ => box.Bottom - (letter * 0.28f) };
        canvas.Save();
        canvas.ClipRect(new SKRect(box.Left, box.Top, until, box.Bottom));
        canvas.DrawText(words.ReplaceLineEndings(" "), x, y, SKTextAlign.Left, font, paint);
        canvas.Restore();

        void Line(CellLine? line, float x0, float y0, float x1, float y1)
        {
            if (line is null) return;
            paint.Color = SKColor.Parse(line.Colour);
            paint.StrokeWidth = (float)line.Width;
            canvas.DrawLine(x0, y0, x1, y1, paint);
        }
    }
}
