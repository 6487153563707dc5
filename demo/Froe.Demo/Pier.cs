using BitMiracle.LibTiff.Classic;
using SkiaSharp;

namespace Froe.Demo;

/// <summary>What came with the survey of the pier: a drawing in two sheets, the old drawing as it was scanned, a list of parts, and a photograph of the crack in question.</summary>
internal static class Pier
{
    private const double W = 420, H = 297;

    /// <summary>Cracks on the developed face: degrees round the pier from north, metres above the slab, and how they run.</summary>
    private static readonly (string Name, double Degrees, double Low, double High, string Wide)[] Cracks =
        [("C1", 24, 0.6, 2.1, "0.15"), ("C2", 96, 2.9, 4.4, "0.10"), ("C3", 171, 0.4, 1.5, "0.20"), ("C4", 262, 1.2, 4.9, "0.40"), ("C5", 318, 3.6, 4.6, "0.10")];

    public static void WriteAll(string folder)
    {
        Survey(Path.Combine(folder, "TO-1106_A1.pdf"));
        Scan(Path.Combine(folder, "TO-1101_A1.tif"));
        PartsList.Write(Path.Combine(folder, "TO-1107_A1.xlsx"));
        Photograph(Path.Combine(folder, "TO-1108_A1.jpg"));
    }

    private static void Survey(string file)
    {
        var pen = new PdfPen(["BORDER", "OUTLINE", "THIN", "CENTRE LINES", "SURVEY", "CRACKS", "DIMENSIONS", "TEXT", "TITLE BLOCK"]);
        pen.Sheet(
            W, H,
            new OutsideMark("Polygon", 274, 110, 310, 196, "Geir Amdal, survey", "20261019141200+01'00'", "Crack 4 is wider than in the spring: 0.40, was 0.25."),
            new OutsideMark("Text", 304, 188, 310, 194, "Ylva Torsrud, survey", "20261020083000+01'00'", "Measured again with the gauge: 0.40 it is.", 0),
            new OutsideMark("Text", 304, 188, 310, 194, "Ylva Torsrud, survey", "20261020083100+01'00'", "Accepted", 0, "Accepted"));
        Elevation(pen);
        Developed(pen);
        Frame.Draw(pen, W, H, new Title("TO-1106", "Pier, survey of cracks", "A.1", "1 : 50", "GA 10-19", "—", "C30/37", "1 / 2"), [("A.1", "Survey of 19 October", "10-20")], [], ["WIDTHS BY CRACK GAUGE, ± 0.05", "LEVELS FROM TOP OF SLAB", "SURVEYED DRY, 8 °C", "PARTS AND MATERIALS: TO-1107"]);
        pen.Sheet(W, H, new OutsideMark("Highlight", 207, 166, 250, 172, "Geir Amdal, survey", "20261019142000+01'00'", "The one to look at."));
        Levels(pen);
        Table(pen);
        Frame.Draw(pen, W, H, new Title("TO-1106", "Pier, survey of levels", "A.1", "1 : 50", "GA 10-19", "—", "C30/37", "2 / 2"), [("A.1", "Survey of 19 October", "10-20")], [], []);
        pen.Save(file, "TO-1106 Pier, survey of cracks and levels");
    }

    /// <summary>The pier seen from the north, a metre of it 20 mm of paper.</summary>
    private static void Elevation(Pen pen)
    {
        const double Cx = 95, Base = 92;
        pen.On("OUTLINE").Poly(true, Cx - 34, Base, Cx + 34, Base, Cx + 26, Base + 104, Cx - 26, Base + 104);
        pen.Rect(Cx - 32, Base + 104, Cx + 32, Base + 112);
        pen.Poly(false, Cx - 52, Base, Cx + 52, Base);
        for (var x = -50.0; x < 52; x += 6) pen.On("THIN").Line(Cx + x, Base, Cx + x - 4, Base - 4);
        pen.On("CENTRE LINES").Line(Cx, Base - 8, Cx, Base + 120);
        foreach (var i in Enumerable.Range(1, 5)) pen.On("THIN").Line(Cx - 34 + (i * 1.54), Base + (i * 20), Cx + 34 - (i * 1.54), Base + (i * 20));
        pen.Dimension(Cx - 34, Base, Cx + 34, Base, -14, "3400");
        pen.Dimension(Cx + 32, Base + 112, Cx + 32, Base, -18, "5600");
        pen.Dimension(Cx - 26, Base + 104, Cx + 26, Base + 104, 18, "2600");
        pen.Leader(Cx + 6, Base + 108, Cx + 34, Base + 136, "Cap, cast 1974");
        pen.On("TEXT").Text(Cx, Base - 26, 4, "VIEW FROM NORTH", 1);
    }

    /// <summary>The face of the pier rolled out, north at both ends.</summary>
    private static void Developed(PdfPen pen)
    {
        const double Left = 178, Base = 92, Wide = 150;
        pen.On("OUTLINE").Rect(Left, Base, Left + Wide, Base + 104);
        foreach (var (name, i) in ((string[])["N", "E", "S", "W", "N"]).Select((n, i) => (n, i)))
        {
            pen.On("THIN").Line(Left + (i * Wide / 4), Base - 3, Left + (i * Wide / 4), Base + 104);
            pen.On("TEXT").Text(Left + (i * Wide / 4), Base - 8, 3, name, 1);
        }
        foreach (var i in Enumerable.Range(1, 5))
        {
            pen.On("SURVEY").Line(Left, Base + (i * 20), Left + Wide, Base + (i * 20));
            pen.On("TEXT").Text(Left - 3, Base + (i * 20) - 1, 2, $"+{i}.0", 2);
        }
        foreach (var (name, degrees, low, high, wide) in Cracks)
        {
            var (x, y, rise) = (Left + (degrees / 360 * Wide), Base + (low * 20), (high - low) * 20);
            pen.On("CRACKS");
            pen.Curve(x, y, x + 3, y + (rise * 0.16), x - 3, y + (rise * 0.3), x + 1, y + (rise * 0.45), x + 4, y + (rise * 0.6), x - 1, y + (rise * 0.8), x + 2, y + rise);
            pen.Curve(x + 1, y + (rise * 0.45), x + 3, y + (rise * 0.5), x + 5, y + (rise * 0.5), x + 7, y + (rise * 0.62));
            pen.On("TEXT").Text(x + 6, y + (rise * 0.3), 2.5, $"{name}  {wide}");
        }
        pen.On("TEXT").Text(Left + (Wide / 2), Base - 26, 4, "FACE, ROLLED OUT", 1);
        pen.Dimension(Left, Base + 104, Left + Wide, Base + 104, 10, "9420 at mid height");
    }

    private static void Levels(PdfPen pen)
    {
        const double Cx = 110, Cy = 165;
        pen.On("OUTLINE").Circle(Cx, Cy, 68);
        pen.On("THIN").Circle(Cx, Cy, 52);
        pen.On("CENTRE LINES").Line(Cx - 78, Cy, Cx + 78, Cy);
        pen.Line(Cx, Cy - 78, Cx, Cy + 78);
        for (var i = 0; i < 12; i++)
        {
            var a = i * Math.PI / 6;
            double x = Cx + (60 * Math.Sin(a)), y = Cy + (60 * Math.Cos(a));
            pen.On("SURVEY").Line(x - 2, y, x + 2, y);
            pen.Line(x, y - 2, x, y + 2);
            pen.On("TEXT").Text(x + 2.5, y + 1, 2, $"{5.600 + (Math.Round(Math.Sin(i * 1.7) * 4) / 1000):0.000}".Replace(',', '.'));
        }
        pen.Leader(Cx + 48, Cy + 48, Cx + 78, Cy + 80, "Ø3400 at slab");
        pen.On("TEXT").Text(Cx, Cy - 88, 4, "TOP OF PIER, LEVELS", 1);
    }

    private static void Table(PdfPen pen)
    {
        const double Left = 206, Top = 205;
        string[] heads = ["Crack", "Face", "From", "To", "Wide, mm", "Spring"];
        double[] at = [0, 22, 52, 80, 108, 144, 172];
        var spring = new[] { "0.15", "0.10", "0.20", "0.25", "—" };
        for (var row = 0; row <= Cracks.Length; row++)
        {
            var y = Top - (8 * row);
            if (row == 4) pen.Fill(0.93, Left, y - 8, Left + 172, y - 8, Left + 172, y, Left, y);
            pen.On(row is 0 or 1 ? "OUTLINE" : "THIN").Line(Left, y, Left + 172, y);
            string[] cells = row == 0 ? heads : [Cracks[row - 1].Name, $"{Cracks[row - 1].Degrees:0}°", Metres(Cracks[row - 1].Low), Metres(Cracks[row - 1].High), Cracks[row - 1].Wide, spring[row - 1]];
            for (var i = 0; i < cells.Length; i++) pen.On("TEXT").Text(Left + at[i] + 2, y - 5.6, row == 0 ? 2.5 : 3, cells[i]);
        }
        pen.On("OUTLINE").Line(Left, Top - (8 * (Cracks.Length + 1)), Left + 172, Top - (8 * (Cracks.Length + 1)));
        foreach (var x in at) pen.On("THIN").Line(Left + x, Top, Left + x, Top - (8 * (Cracks.Length + 1)));
        pen.On("TEXT").Text(Left, Top + 4, 4, "CRACKS WIDER THAN 0.05");

        static string Metres(double value) => "+" + value.ToString("0.0", System.Globalization.CultureInfo.InvariantCulture);
    }

    /// <summary>The drawing of 1974 as a scanner saw it: a little askew, with dirt, in one bit at 200 points an inch.</summary>
    private static void Scan(string file)
    {
        const double Dpi = 200;
        int width = (int)(W / 25.4 * Dpi), height = (int)(H / 25.4 * Dpi);
        using var bitmap = new SKBitmap(new SKImageInfo(width, height, SKColorType.Gray8, SKAlphaType.Opaque));
        using (var canvas = new SKCanvas(bitmap))
        {
            canvas.Clear(SKColors.White);
            canvas.RotateDegrees(0.35f, width / 2f, height / 2f);
            canvas.Scale((float)(Dpi / 25.4));
            using var pen = new InkPen(canvas, H);
            Elevation(pen);
            Reinforcement(pen);
            Frame.Draw(pen, W, H, new Title("TO-1101", "Telescope pier, reinforcement", "0", "1 : 50", "E.L. 1974", "—", "B300"), [("0", "As built", "1974")], [], ["BARS KS 40", "COVER 50", "POUR IN ONE LIFT"]);
        }
        Dirt(bitmap);
        using var tiff = Tiff.Open(file, "w");
        tiff.SetField(TiffTag.IMAGEWIDTH, width);
        tiff.SetField(TiffTag.IMAGELENGTH, height);
        tiff.SetField(TiffTag.BITSPERSAMPLE, 1);
        tiff.SetField(TiffTag.SAMPLESPERPIXEL, 1);
        tiff.SetField(TiffTag.ROWSPERSTRIP, height);
        tiff.SetField(TiffTag.PHOTOMETRIC, Photometric.MINISWHITE);
        tiff.SetField(TiffTag.COMPRESSION, Compression.CCITTFAX4);
        tiff.SetField(TiffTag.XRESOLUTION, Dpi);
        tiff.SetField(TiffTag.YRESOLUTION, Dpi);
        tiff.SetField(TiffTag.RESOLUTIONUNIT, ResUnit.INCH);
        var row = new byte[(width + 7) / 8];
        var pixels = bitmap.Bytes;
        for (var y = 0; y < height; y++)
        {
            Array.Clear(row);
            for (var x = 0; x < width; x++)
                if (pixels[(y * bitmap.RowBytes) + x] < 140) row[x >> 3] |= (byte)(0x80 >> (x & 7));
            tiff.WriteScanline(row, y);
        }
    }

    private static void Reinforcement(Pen pen)
    {
        const double Cx = 260, Cy = 160;
        pen.On("OUTLINE").Circle(Cx, Cy, 62);
        pen.On("THIN").Circle(Cx, Cy, 56);
        for (var i = 0; i < 24; i++)
        {
            var a = i * Math.PI / 12;
            pen.On("OUTLINE").Circle(Cx + (53 * Math.Cos(a)), Cy + (53 * Math.Sin(a)), 1.6);
        }
        pen.Leader(Cx + 37.5, Cy + 37.5, Cx + 70, Cy + 74, "24 Ø25");
        pen.Leader(Cx + 56, Cy, Cx + 82, Cy - 10, "Ø12 c/c 200");
        pen.On("CENTRE LINES").Line(Cx - 70, Cy, Cx + 70, Cy);
        pen.Line(Cx, Cy - 70, Cx, Cy + 70);
        pen.On("TEXT").Text(Cx, Cy - 84, 4, "SECTION +2.0", 1);
    }

    private static void Dirt(SKBitmap bitmap)
    {
        var random = new Random(1974);
        using var canvas = new SKCanvas(bitmap);
        using var dark = new SKPaint { Color = new SKColor(60, 60, 60) };
        for (var i = 0; i < 900; i++) canvas.DrawCircle(random.Next(bitmap.Width), random.Next(bitmap.Height), (float)(random.NextDouble() * 1.3), dark);
        using var fold = new SKPaint { Color = new SKColor(120, 120, 120), StrokeWidth = 1.2f, Style = SKPaintStyle.Stroke };
        for (var y = 0; y < bitmap.Height; y += 9) canvas.DrawLine((bitmap.Width / 2f) + random.Next(-1, 2), y, (bitmap.Width / 2f) + random.Next(-1, 2), y + random.Next(2, 7), fold);
    }

    /// <summary>Crack 4 on the north-west face: a wall of concrete in slanting light, a crack, and the gauge laid beside it.</summary>
    private static void Photograph(string file)
    {
        const int Width = 1800, Height = 1200;
        using var bitmap = new SKBitmap(new SKImageInfo(Width, Height, SKColorType.Bgra8888, SKAlphaType.Opaque));
        using (var canvas = new SKCanvas(bitmap))
        {
            using var wall = new SKPaint { Shader = SKShader.CreateLinearGradient(new SKPoint(0, 0), new SKPoint(Width, Height), [new SKColor(176, 172, 163), new SKColor(122, 118, 110)], SKShaderTileMode.Clamp) };
            canvas.DrawRect(0, 0, Width, Height, wall);
            Grain(canvas, 0.004f, 90, Width, Height);
            Grain(canvas, 0.03f, 60, Width, Height);
            Grain(canvas, 0.25f, 70, Width, Height);
            Crack(canvas);
            Gauge(canvas);
            using var corner = new SKPaint { Shader = SKShader.CreateRadialGradient(new SKPoint(Width / 2f, Height / 2f), 1150, [SKColors.Transparent, new SKColor(0, 0, 0, 120)], [0.55f, 1], SKShaderTileMode.Clamp) };
            canvas.DrawRect(0, 0, Width, Height, corner);
        }
        using var data = bitmap.Encode(SKEncodedImageFormat.Jpeg, 82);
        File.WriteAllBytes(file, data.ToArray());
    }

    private static void Grain(SKCanvas canvas, float frequency, byte strength, int width, int height)
    {
        using var grain = new SKPaint { Shader = SKShader.CreatePerlinNoiseFractalNoise(frequency, frequency, 3, 4), BlendMode = SKBlendMode.SoftLight, Color = new SKColor(255, 255, 255, strength) };
        using var grey = SKColorFilter.CreateColorMatrix([0.33f, 0.33f, 0.33f, 0, 0, 0.33f, 0.33f, 0.33f, 0, 0, 0.33f, 0.33f, 0.33f, 0, 0, 0, 0, 0, 0, 1]);
        grain.ColorFilter = grey;
        canvas.DrawRect(0, 0, width, height, grain);
    }

    private static void Crack(SKCanvas canvas)
    {
        var random = new Random(4);
        foreach (var (x0, y0, length, wide) in new[] { (870f, -20f, 1240, 7f), (905f, 640f, 330, 3.5f) })
        {
            using var path = new SKPath();
            path.MoveTo(x0, y0);
            float x = x0, y = y0, lean = x0 > 880 ? 0.55f : 0.05f;
            while (y < y0 + length)
            {
                x += (float)((random.NextDouble() - 0.5) * 22) + (lean * 10);
                y += 6 + random.Next(12);
                path.LineTo(x, y);
            }
            foreach (var (shift, colour, width) in new[] { (3f, new SKColor(205, 200, 190, 120), wide), (0f, new SKColor(38, 35, 32), wide), (-1f, new SKColor(12, 11, 10), wide * 0.5f) })
            {
                using var ink = new SKPaint { Style = SKPaintStyle.Stroke, StrokeWidth = width, StrokeJoin = SKStrokeJoin.Miter, Color = colour, IsAntialias = true };
                canvas.Save();
                canvas.Translate(shift, shift);
                canvas.DrawPath(path, ink);
                canvas.Restore();
            }
        }
    }

    /// <summary>A strip with graded lines, 0.05 to 0.50 mm, as held beside a crack.</summary>
    private static void Gauge(SKCanvas canvas)
    {
        canvas.Save();
        canvas.Translate(1010, 300);
        canvas.RotateDegrees(-4);
        using var shadow = new SKPaint { Color = new SKColor(0, 0, 0, 90), ImageFilter = SKImageFilter.CreateBlur(9, 9) };
        canvas.DrawRect(10, 12, 470, 150, shadow);
        using var card = new SKPaint { Color = new SKColor(238, 236, 226) };
        canvas.DrawRect(0, 0, 470, 150, card);
        using var ink = new SKPaint { Color = new SKColor(20, 20, 20), IsAntialias = true };
        using var font = new SKFont(SKTypeface.Default, 22);
        for (var i = 1; i <= 10; i++)
        {
            var x = 20 + (i * 40);
            canvas.DrawRect(x, 18, i * 1.0f, 70, ink);
            canvas.DrawText($"{i * 5:00}", x - 8, 122, SKTextAlign.Left, font, ink);
        }
        canvas.Restore();
    }

    /// <summary>Draws with ink on paper that a scanner sees.</summary>
    private sealed class InkPen(SKCanvas canvas, double height) : Pen, IDisposable
    {
        private readonly SKPaint ink = new() { Style = SKPaintStyle.Stroke, StrokeCap = SKStrokeCap.Round, IsAntialias = true, Color = new SKColor(25, 25, 25) };
        private readonly SKPaint fill = new() { Style = SKPaintStyle.Fill, IsAntialias = true, Color = new SKColor(25, 25, 25) };

        public void Dispose()
        {
            ink.Dispose();
            fill.Dispose();
        }

        public override void Line(double x0, double y0, double x1, double y1) => canvas.DrawLine((float)x0, Y(y0), (float)x1, Y(y1), Inked());

        public override void Circle(double x, double y, double r) => canvas.DrawCircle((float)x, Y(y), (float)r, Inked());

        public override void Poly(bool closed, params double[] xy)
        {
            using var path = Path(xy);
            if (closed) path.Close();
            canvas.DrawPath(path, Inked());
        }

        public override void Solid(double x0, double y0, double x1, double y1, double x2, double y2)
        {
            using var path = Path([x0, y0, x1, y1, x2, y2]);
            canvas.DrawPath(path, fill);
        }

        public override void Text(double x, double y, double size, string words, int align = 0, double turn = 0)
        {
            using var font = new SKFont(SKTypeface.Default, (float)(size / 0.73));
            canvas.Save();
            canvas.Translate((float)x, Y(y));
            canvas.RotateDegrees((float)-turn);
            canvas.DrawText(words, 0, align == 4 ? (float)(size / 2) : 0, align switch { 1 or 4 => SKTextAlign.Center, 2 => SKTextAlign.Right, _ => SKTextAlign.Left }, font, fill);
            canvas.Restore();
        }

        private float Y(double y) => (float)(height - y);

        private SKPaint Inked()
        {
            ink.StrokeWidth = Layer is "OUTLINE" or "BORDER" ? 0.55f : 0.22f;
            return ink;
        }

        private SKPath Path(double[] xy)
        {
            var path = new SKPath();
            path.MoveTo((float)xy[0], Y(xy[1]));
            for (var i = 2; i < xy.Length; i += 2) path.LineTo((float)xy[i], Y(xy[i + 1]));
            return path;
        }
    }
}
