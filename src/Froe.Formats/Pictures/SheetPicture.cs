using System.Collections.Concurrent;
using System.Text;
using Froe.Core.Drawing;
using SkiaSharp;

namespace Froe.Formats.Pictures;

/// <summary>Pictures of a sheet for places where no browser draws: lists, mails, the command line, and a first look on the bench.</summary>
public static class SheetPicture
{
    /// <summary>The thinnest stroke of a picture, in pixels; letters of less than one are not drawn.</summary>
    private const double Hairline = 0.7;

    internal static SKTypeface Face { get; } = LoadFace();

    /// <summary>Draws a sheet on white paper.</summary>
    /// <param name="sheet">The sheet.</param>
    /// <param name="longest">Pixels on the longer side, 16 to 8192.</param>
    /// <returns>A PNG. It covers exactly the sheet's extents.</returns>
    public static byte[] Png(Sheet sheet, int longest)
    {
        using var image = Draw(sheet, longest);
        using var data = image.Encode(SKEncodedImageFormat.Png, 90);
        return data.ToArray();
    }

    /// <summary>The same as a WebP without loss, which takes a third of the room for lines on paper.</summary>
    public static byte[] WebP(Sheet sheet, int longest)
    {
        using var image = Draw(sheet, longest);
        using var pixels = image.PeekPixels();
        using var data = pixels!.Encode(new SKWebpEncoderOptions(SKWebpEncoderCompression.Lossless, 30));
        return data!.ToArray();
    }

    /// <summary>A picture of any kind as a PNG.</summary>
    public static byte[] ToPng(byte[] picture)
    {
        using var bitmap = SKBitmap.Decode(picture);
        using var data = bitmap.Encode(SKEncodedImageFormat.Png, 90);
        return data.ToArray();
    }

    private static SKImage Draw(Sheet sheet, int longest)
    {
        ArgumentNullException.ThrowIfNull(sheet);
        ArgumentOutOfRangeException.ThrowIfLessThan(longest, 16);
        ArgumentOutOfRangeException.ThrowIfGreaterThan(longest, 8192);
        double width = sheet.Extents.Width, height = sheet.Extents.Height;
        var scale = longest / Math.Max(Math.Max(width, height), 1e-300);
        if (!double.IsFinite(scale) || width + height == 0) scale = 1;
        int w = Math.Max(1, (int)Math.Ceiling(width * scale)), h = Math.Max(1, (int)Math.Ceiling(height * scale));
        using var surface = SKSurface.Create(new SKImageInfo(w, h, SKColorType.Rgba8888, SKAlphaType.Opaque));
        var canvas = surface.Canvas;
        canvas.Clear(SKColors.White);
        Paint(sheet, canvas, scale);
        return surface.Snapshot();
    }

    /// <summary>Draws a sheet: its extents' upper left corner at the origin, y down.</summary>
    /// <param name="scale">Units of the canvas in one of the sheet.</param>
    /// <param name="hairline">The thinnest stroke, in the canvas's units.</param>
    /// <param name="asOutlines">Whether letters are drawn as shapes, for whoever lacks the lettering.</param>
    internal static void Paint(Sheet sheet, SKCanvas canvas, double scale, double hairline = Hairline, bool asOutlines = false)
    {
        // From offsets (y up) to the canvas's units (y down).
        double left = sheet.Extents.MinX - sheet.Origin.X, top = sheet.Extents.MaxY - sheet.Origin.Y;
        float X(double x) => (float)((x - left) * scale);
        float Y(double y) => (float)((top - y) * scale);
        Fills(sheet, canvas, X, Y);
        Strokes(sheet, canvas, X, Y, scale * MillimetresIn(sheet), hairline);
        Texts(sheet, canvas, X, Y, scale, hairline, asOutlines);
    }

    /// <summary>Sheet units in a millimetre of paper. A sheet larger than paper is a site or a building: its longer side then stands for an A1 sheet's.</summary>
    public static double MillimetresIn(Sheet sheet)
    {
        ArgumentNullException.ThrowIfNull(sheet);
        if (sheet.IsPaper) return 1;
        var longer = Math.Max(sheet.Extents.Width, sheet.Extents.Height);
        return sheet.Unit is LengthUnit.Millimetre or LengthUnit.Unknown && longer is > 100 and < 1300 ? 1 : longer / 841;
    }

    private static void Fills(Sheet sheet, SKCanvas canvas, Func<double, float> x, Func<double, float> y)
    {
        using var paint = new SKPaint { IsAntialias = true, Style = SKPaintStyle.Fill };
        using var path = new SKPath();
        var style = -1;
        for (var i = 0; i < sheet.TriangleEntity.Length; i++)
        {
            int next = sheet.EntityStyle[sheet.TriangleEntity[i]];
            if (!Shown(sheet, next)) continue;
            if (next != style) Flush();
            style = next;
            var t = sheet.Triangles.AsSpan(6 * i, 6);
            path.MoveTo(x(t[0]), y(t[1]));
            path.LineTo(x(t[2]), y(t[3]));
            path.LineTo(x(t[4]), y(t[5]));
            path.Close();
        }
        Flush();

        void Flush()
        {
            if (style >= 0 && !path.IsEmpty)
            {
                paint.Color = Ink(sheet.Styles[style].Rgb);
                canvas.DrawPath(path, paint);
            }
            path.Reset();
        }
    }

    private static void Strokes(Sheet sheet, SKCanvas canvas, Func<double, float> x, Func<double, float> y, double millimetre, double hairline)
    {
        // One list of points a style: a sheet has few styles and many strokes.
        var counts = new int[sheet.Styles.Count];
        foreach (var entity in sheet.SegmentEntity) counts[sheet.EntityStyle[entity]]++;
        var points = counts.Select(c => new SKPoint[2 * c]).ToArray();
        Array.Clear(counts);
        for (var i = 0; i < sheet.SegmentEntity.Length; i++)
        {
            var style = sheet.EntityStyle[sheet.SegmentEntity[i]];
            var at = 2 * counts[style]++;
            points[style][at] = new(x(sheet.Segments[4 * i]), y(sheet.Segments[(4 * i) + 1]));
            points[style][at + 1] = new(x(sheet.Segments[(4 * i) + 2]), y(sheet.Segments[(4 * i) + 3]));
        }
        using var paint = new SKPaint { IsAntialias = true, Style = SKPaintStyle.Stroke, StrokeCap = SKStrokeCap.Round };
        for (var s = 0; s < points.Length; s++)
        {
            if (!Shown(sheet, s)) continue;
            paint.Color = Ink(sheet.Styles[s].Rgb);
            paint.StrokeWidth = (float)Math.Max(hairline, sheet.Styles[s].Weight / 100.0 * millimetre);
            canvas.DrawPoints(SKPointMode.Lines, points[s], paint);
        }
    }

    private static void Texts(Sheet sheet, SKCanvas canvas, Func<double, float> x, Func<double, float> y, double scale, double hairline, bool asOutlines)
    {
        using var paint = new SKPaint { IsAntialias = true };
        using var font = new SKFont(Face, 100) { Subpixel = true };
        var em = 100 * Lettering.CapHeight;
        foreach (var text in sheet.Texts)
        {
            var style = sheet.EntityStyle[text.Entity];
            if (!Shown(sheet, style)) continue;
            var height = Math.Sqrt((text.Up.X * text.Up.X) + (text.Up.Y * text.Up.Y)) * scale;
            if (height < hairline / Hairline) continue;
            paint.Color = Ink(sheet.Styles[style].Rgb);
            canvas.Save();
            var matrix = new SKMatrix(
                (float)(text.Along.X * scale / em), (float)(-text.Up.X * scale / em), x(text.At.X - sheet.Origin.X),
                (float)(-text.Along.Y * scale / em), (float)(text.Up.Y * scale / em), y(text.At.Y - sheet.Origin.Y), 0, 0, 1);
            canvas.Concat(in matrix);
            var pieces = Pieces(text.Text, font);
            var at = -pieces.Sum(p => p.Width) * text.Anchor;
            foreach (var (words, shown, width) in pieces)
            {
                if (asOutlines)
                {
                    using var letters = shown.GetTextPath(words, new SKPoint(at, text.Rise * (float)em));
                    canvas.DrawPath(letters, paint);
                }
                else
                {
                    canvas.DrawText(words, at, text.Rise * (float)em, SKTextAlign.Left, shown, paint);
                }
                at += width;
            }
            canvas.Restore();
        }
    }

    /// <summary>Fonts for letters that ours lacks, as they were found; none where there is none.</summary>
    private static readonly ConcurrentDictionary<int, SKFont?> Others = new();

    /// <summary>A text in pieces of one font each: our own lettering, and other fonts for what it lacks.</summary>
    internal static List<(string Words, SKFont Font, float Width)> Pieces(string text, SKFont font)
    {
        if (font.ContainsGlyphs(text)) return [(text, font, font.MeasureText(text))];
        var pieces = new List<(string, SKFont, float)>();
        var words = new StringBuilder();
        var now = font;
        foreach (var rune in text.EnumerateRunes())
        {
            var wanted = font.GetGlyph(rune.Value) != 0 ? font : Others.GetOrAdd(rune.Value, r => OtherFonts.With(r) is { } face ? new SKFont(face, 95) { Subpixel = true } : null) ?? font;
            if (!ReferenceEquals(wanted.Typeface, now.Typeface) && words.Length > 0) Flush();
            now = wanted;
            words.Append(rune.ToString());
        }
        if (words.Length > 0) Flush();
        return pieces;

        void Flush()
        {
            pieces.Add((words.ToString(), now, now.MeasureText(words.ToString())));
            words.Clear();
        }
    }

    private static bool Shown(Sheet sheet, int style) => sheet.Layers[sheet.Styles[style].Layer].IsOn;

    private static SKColor Ink(int rgb) => new((uint)rgb | 0xFF000000);

    private static SKTypeface LoadFace()
    {
        using var stream = typeof(SheetPicture).Assembly.GetManifestResourceStream("Froe.Formats.fonts.BarlowSemiCondensed-Medium.ttf")
            ?? throw new InvalidOperationException("The lettering is missing from the build.");
        using var data = SKData.Create(stream);
        return SKTypeface.FromData(data);
    }
}
