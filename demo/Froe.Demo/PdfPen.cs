using System.Globalization;
using System.IO.Compression;
using System.Text;
using SkiaSharp;

namespace Froe.Demo;

/// <summary>A mark that somebody outside put on a page before it came.</summary>
internal sealed record OutsideMark(string Kind, double X0, double Y0, double X1, double Y1, string Author, string At, string Words, int? ReplyTo = null, string State = "");

/// <summary>Writes sheets as PDF (1.7): a page each, layers as optional content, words as text in the house's lettering, marks as annotations.</summary>
internal sealed class PdfPen(string[] layers) : Pen
{
    private const double Point = 72 / 25.4;

    /// <summary>Objects that every file has, before its layers' groups: catalogue, pages, font, its descriptor, its file.</summary>
    private const int Catalogue = 1, Pages = 2, Font = 3, Descriptor = 4, FontFile = 5, FirstGroup = 6;

    private readonly List<(double Width, double Height, StringBuilder Operators, List<OutsideMark> Marks)> sheets = [];
    private string open = "";

    private StringBuilder Out => sheets[^1].Operators;

    public void Sheet(double width, double height, params OutsideMark[] marks)
    {
        EndLayer();
        sheets.Add((width, height, new StringBuilder(Format($"{Point} 0 0 {Point} 0 0 cm 1 J 1 j\n")), [.. marks]));
    }

    public override void Line(double x0, double y0, double x1, double y1) => Draw($"{x0} {y0} m {x1} {y1} l S\n");

    public override void Poly(bool closed, params double[] xy)
    {
        Draw($"{xy[0]} {xy[1]} m");
        for (var i = 2; i < xy.Length; i += 2) Out.Append(Format($" {xy[i]} {xy[i + 1]} l"));
        Out.Append(closed ? " s\n" : " S\n");
    }

    public override void Circle(double x, double y, double r)
    {
        // Four cubics, 0.03 % of the radius from the circle.
        var k = r * 0.5523;
        Draw($"{x + r} {y} m {x + r} {y + k} {x + k} {y + r} {x} {y + r} c {x - k} {y + r} {x - r} {y + k} {x - r} {y} c ");
        Out.Append(Format($"{x - r} {y - k} {x - k} {y - r} {x} {y - r} c {x + k} {y - r} {x + r} {y - k} {x + r} {y} c s\n"));
    }

    public override void Solid(double x0, double y0, double x1, double y1, double x2, double y2) => Draw($"{x0} {y0} m {x1} {y1} l {x2} {y2} l f\n");

    /// <summary>A filled outline in a grey, for what is cut.</summary>
    public void Fill(double grey, params double[] xy)
    {
        Draw($"{grey} g {xy[0]} {xy[1]} m");
        for (var i = 2; i < xy.Length; i += 2) Out.Append(Format($" {xy[i]} {xy[i + 1]} l"));
        Out.Append(" f 0 g\n");
    }

    /// <summary>A curve through points by cubics, as a hand draws it.</summary>
    public void Curve(params double[] xy)
    {
        Draw($"{xy[0]} {xy[1]} m");
        for (var i = 2; i + 5 < xy.Length; i += 6) Out.Append(Format($" {xy[i]} {xy[i + 1]} {xy[i + 2]} {xy[i + 3]} {xy[i + 4]} {xy[i + 5]} c"));
        Out.Append(" S\n");
    }

    public override void Text(double x, double y, double size, string words, int align = 0, double turn = 0)
    {
        var height = size / Lettering.CapHeight;
        var width = Lettering.Widths(words).Sum() / 1000.0 * height;
        var (sin, cos) = Math.SinCos(turn * Math.PI / 180);
        var back = align switch { 1 or 4 => width / 2, 2 => width, _ => 0 };
        var down = align == 4 ? size / 2 : 0;
        Draw($"BT /F {height} Tf {cos} {sin} {-sin} {cos} {x - (back * cos) + (down * sin)} {y - (back * sin) - (down * cos)} Tm <{Convert.ToHexString(Lettering.Bytes(words))}> Tj ET\n");
    }

    private void Draw(FormattableString operators)
    {
        if (open != Layer)
        {
            EndLayer();
            Out.Append(CultureInfo.InvariantCulture, $"/OC /L{Array.IndexOf(layers, Layer)} BDC {Look(Layer)}\n");
            open = Layer;
        }
        Out.Append(Format(operators));
    }

    private void EndLayer()
    {
        if (open.Length > 0) Out.Append("EMC\n");
        open = "";
    }

    /// <summary>How wide lines of a layer are, and their ink.</summary>
    private static string Look(string layer) => layer switch
    {
        "BORDER" or "OUTLINE" => "0.5 w 0 0 0 RG",
        "CRACKS" => "0.35 w 0.7 0.1 0.05 RG",
        "SURVEY" => "0.18 w 0 0.3 0.5 RG",
        _ => "0.18 w 0 0 0 RG",
    };

    public void Save(string file, string title)
    {
        EndLayer();
        var objects = new List<byte[]>();
        int page = FirstGroup + layers.Length;
        var starts = new List<int>();
        foreach (var sheet in sheets)
        {
            starts.Add(page);
            page += 2 + (2 * sheet.Marks.Count);
        }
        var groups = string.Join(' ', layers.Select((_, i) => $"{FirstGroup + i} 0 R"));
        Add($"<< /Type /Catalog /Pages {Pages} 0 R /OCProperties << /OCGs [{groups}] /D << /Order [{groups}] >> >> >>");
        Add($"<< /Type /Pages /Kids [{string.Join(' ', starts.Select(s => $"{s} 0 R"))}] /Count {sheets.Count} >>");
        Add($"<< /Type /Font /Subtype /TrueType /BaseFont /BarlowSemiCondensed-Medium /FirstChar 32 /LastChar 255 /Widths [{string.Join(' ', Lettering.AllWidths)}] /Encoding /WinAnsiEncoding /FontDescriptor {Descriptor} 0 R >>");
        Add($"<< /Type /FontDescriptor /FontName /BarlowSemiCondensed-Medium /Flags 32 /FontBBox [-200 -250 1100 1000] /ItalicAngle 0 /Ascent 1000 /Descent -200 /CapHeight 700 /StemV 90 /FontFile2 {FontFile} 0 R >>");
        Packed(Lettering.File, $"/Length1 {Lettering.File.Length}");
        foreach (var layer in layers) Add($"<< /Type /OCG /Name ({layer}) >>");
        var properties = string.Concat(layers.Select((_, i) => $"/L{i} {FirstGroup + i} 0 R "));
        foreach (var ((width, height, operators, marks), at) in sheets.Zip(starts))
        {
            var annotations = string.Join(' ', marks.Select((_, i) => $"{at + 2 + (2 * i)} 0 R"));
            Add(Format($"<< /Type /Page /Parent {Pages} 0 R /MediaBox [0 0 {width * Point} {height * Point}] /Contents {at + 1} 0 R /Annots [{annotations}] /Resources << /Font << /F {Font} 0 R >> /Properties << {properties}>> >> >>"));
            Packed(Encoding.Latin1.GetBytes(operators.ToString()), "");
            foreach (var (mark, i) in marks.Select((m, i) => (m, i)))
            {
                double x0 = mark.X0 * Point, y0 = mark.Y0 * Point, x1 = mark.X1 * Point, y1 = mark.Y1 * Point;
                var box = Format($"[{x0} {y0} {x1} {y1}]");
                var reply = mark.ReplyTo is { } to ? $"/IRT {at + 2 + (2 * to)} 0 R " : "";
                var state = mark.State.Length > 0 ? $"/StateModel (Review) /State ({mark.State}) " : "";
                var look = mark.Kind switch { "Polygon" => Format($"/Vertices [{x0} {y0} {x1} {y0} {x1} {y1} {x0} {y1}] /BE << /S /C /I 1 >> /C [0.75 0.35 0] "), "Highlight" => Format($"/QuadPoints [{x0} {y1} {x1} {y1} {x0} {y0} {x1} {y0}] /C [1 0.9 0] "), _ => "/Name /Comment /F 30 " };
                Add($"<< /Type /Annot /Subtype /{mark.Kind} /Rect {box} /NM (mark-{i}) /T ({mark.Author}) /M (D:{mark.At}) /Contents ({mark.Words}) {reply}{state}{look}/AP << /N {at + 3 + (2 * i)} 0 R >> >>");
                var picture = mark.Kind switch { "Polygon" => Scallops(x0 + 4, y0 + 4, x1 - 4, y1 - 4), "Highlight" => Format($"/G gs 1 0.9 0 rg {x0} {y0} {x1 - x0} {y1 - y0} re f"), _ => "" };
                Packed(Encoding.Latin1.GetBytes(picture), $"/Type /XObject /Subtype /Form /BBox {box} /Resources << /ExtGState << /G << /BM /Multiply >> >> >>");
            }
        }
        Write(file, objects, title);

        void Add(string body) => objects.Add(Encoding.Latin1.GetBytes(body));
        void Packed(byte[] content, string more)
        {
            var packed = new MemoryStream();
            using (var z = new ZLibStream(packed, CompressionLevel.SmallestSize, leaveOpen: true)) z.Write(content);
            objects.Add([.. Encoding.Latin1.GetBytes($"<< {more} /Filter /FlateDecode /Length {packed.Length} >>\nstream\n"), .. packed.ToArray(), .. "\nendstream"u8]);
        }
    }

    /// <summary>A cloud's outline round a box, half circles outward.</summary>
    private static string Scallops(double x0, double y0, double x1, double y1)
    {
        const double Wide = 9, K = 0.5523;
        var path = new StringBuilder("0.75 0.35 0 RG 1.2 w ");
        double[] corners = [x0, y0, x1, y0, x1, y1, x0, y1, x0, y0];
        for (var i = 0; i < 8; i += 2)
        {
            double ax = corners[i], ay = corners[i + 1], bx = corners[i + 2], by = corners[i + 3], length = Math.Abs(bx - ax) + Math.Abs(by - ay);
            var count = Math.Max(1, (int)Math.Round(length / Wide));
            double h = length / count / 2, ux = (bx - ax) / length, uy = (by - ay) / length;
            if (i == 0) path.Append(Format($"{ax} {ay} m "));
            for (var k = 0; k < count; k++)
            {
                double sx = ax + (ux * 2 * h * k), sy = ay + (uy * 2 * h * k);
                path.Append(To(0, K)).Append(To(1 - K, 1)).Append(To(1, 1)).Append("c ").Append(To(1 + K, 1)).Append(To(2, K)).Append(To(2, 0)).Append("c ");

                string To(double along, double out_) => Format($"{sx + (ux * along * h) + (uy * out_ * h)} {sy + (uy * along * h) - (ux * out_ * h)} ");
            }
        }
        return path.Append('s').ToString();
    }

    private static void Write(string file, List<byte[]> objects, string title)
    {
        using var to = new MemoryStream();
        to.Write("%PDF-1.7\n%\u00e2\u00e3\u00cf\u00d3\n"u8);
        var at = new List<long>();
        objects.Add(Encoding.Latin1.GetBytes($"<< /Title ({title}) >>"));
        foreach (var (body, i) in objects.Select((o, i) => (o, i)))
        {
            at.Add(to.Position);
            to.Write(Encoding.Latin1.GetBytes($"{i + 1} 0 obj\n"));
            to.Write(body);
            to.Write("\nendobj\n"u8);
        }
        var start = to.Position;
        to.Write(Encoding.Latin1.GetBytes($"xref\n0 {objects.Count + 1}\n0000000000 65535 f \n{string.Concat(at.Select(a => $"{a:0000000000} 00000 n \n"))}"));
        to.Write(Encoding.Latin1.GetBytes($"trailer\n<< /Size {objects.Count + 1} /Root {Catalogue} 0 R /Info {objects.Count} 0 R >>\nstartxref\n{start}\n%%EOF\n"));
        File.WriteAllBytes(file, to.ToArray());
    }

    /// <summary>Numbers as a page has them.</summary>
    private static string Format(FormattableString text) => string.Format(CultureInfo.InvariantCulture, text.Format, [.. text.GetArguments().Select(a => a is double d ? Math.Round(d, 4).ToString("0.####", CultureInfo.InvariantCulture) : a)]);

    /// <summary>The house's lettering, in the encoding that pages have.</summary>
    private static class Lettering
    {
        public const double CapHeight = Core.Drawing.Lettering.CapHeight;

        private static readonly Encoding Windows = MakeEncoding();

        public static byte[] File { get; } = Read();

        public static int[] AllWidths { get; } = Measure();

        public static byte[] Bytes(string words) => Windows.GetBytes(words);

        public static IEnumerable<int> Widths(string words) => Bytes(words).Select(b => b < 32 ? 0 : AllWidths[b - 32]);

        private static Encoding MakeEncoding()
        {
            Encoding.RegisterProvider(CodePagesEncodingProvider.Instance);
            return Encoding.GetEncoding(1252);
        }

        private static byte[] Read()
        {
            using var from = typeof(Froe.Formats.Readers).Assembly.GetManifestResourceStream("Froe.Formats.fonts.BarlowSemiCondensed-Medium.ttf")!;
            using var all = new MemoryStream();
            from.CopyTo(all);
            return all.ToArray();
        }

        private static int[] Measure()
        {
            using var data = SKData.CreateCopy(File);
            using var face = SKTypeface.FromData(data);
            using var font = new SKFont(face, 1000);
            return [.. Enumerable.Range(32, 224).Select(b => (int)Math.Round(font.MeasureText(Windows.GetString([(byte)b]))))];
        }
    }
}
