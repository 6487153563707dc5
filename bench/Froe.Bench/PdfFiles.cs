using System.Globalization;
using System.IO.Compression;
using System.Text;

namespace Froe.Bench;

/// <summary>Made-up PDF pages of known weight, written once into the bench's folder.</summary>
internal static class PdfFiles
{
    /// <summary>A0 in points, and a scan of it in pixels at 300 an inch.</summary>
    private const int A0Wide = 3370, A0High = 2384, ScanWide = 14043, ScanHigh = 9933;

    /// <summary>A page of a title, a table and some shapes.</summary>
    public static Task<string> SimpleAsync() => MadeAsync("simple.pdf", () =>
    {
        var page = new StringBuilder("0.8 w 40 40 762 515 re S BT /F 20 Tf 60 500 Td (Pump house, general arrangement) Tj ET\n");
        for (var row = 0; row < 24; row++)
            page.Append(CultureInfo.InvariantCulture, $"60 {460 - (row * 16)} m 360 {460 - (row * 16)} l S BT /F 9 Tf 64 {448 - (row * 16)} Td (Item {row + 1}: bolt M{6 + row}, length {20 + (5 * row)}) Tj ET\n");
        for (var i = 0; i < 8; i++) page.Append(CultureInfo.InvariantCulture, $"{420 + (40 * i)} 120 m {420 + (40 * i)} 300 {520 + (20 * i)} 380 {700 - (10 * i)} 400 c S\n");
        return Page(842, 595, Deflated(Encoding.ASCII.GetBytes(page.ToString())), "");
    });

    /// <summary>A page of lines, dashes, curves and areas without any letters: those our sheet keeps as words, in lettering of its own.</summary>
    public static Task<string> ShapesAsync() => MadeAsync("shapes.pdf", () =>
    {
        var page = new StringBuilder("0.8 w 40 40 762 515 re S\n");
        for (var row = 0; row < 24; row++) page.Append(CultureInfo.InvariantCulture, $"{0.2 + (row * 0.1):0.##} w [{row % 4 * 3} {2 + (row % 3)}] 0 d 60 {460 - (row * 16)} m 360 {470 - (row * 14)} l S\n");
        page.Append("[] 0 d\n");
        for (var i = 0; i < 8; i++) page.Append(CultureInfo.InvariantCulture, $"{420 + (40 * i)} 120 m {420 + (40 * i)} 300 {520 + (20 * i)} 380 {700 - (10 * i)} 400 c S\n");
        page.Append("0.4 g 420 420 m 480 500 l 560 430 l 500 460 l h f 600 420 80 60 re 620 440 40 20 re f* 0.2 0.3 0.8 rg 720 450 m 720 472 702 490 680 490 c 700 470 700 460 720 450 c f\n");
        return Page(842, 595, Deflated(Encoding.ASCII.GetBytes(page.Replace("[0 ", "[3 ").ToString())), "");
    });

    /// <summary>An A0 page of so many straight strokes, in runs of ten as plotters write them.</summary>
    public static Task<string> StrokesAsync(int count) => MadeAsync($"strokes-{count}.pdf", () =>
    {
        var random = new Random(1);
        var page = new StringBuilder("0.2 w\n");
        for (var run = 0; run < count / 10; run++)
        {
            double x = 20 + (random.NextDouble() * (A0Wide - 40)), y = 20 + (random.NextDouble() * (A0High - 40));
            page.Append(CultureInfo.InvariantCulture, $"{x:0.##} {y:0.##} m");
            for (var k = 0; k < 10; k++)
            {
                (x, y) = (Math.Clamp(x + ((random.NextDouble() - 0.5) * 24), 10, A0Wide - 10), Math.Clamp(y + ((random.NextDouble() - 0.5) * 24), 10, A0High - 10));
                page.Append(CultureInfo.InvariantCulture, $" {x:0.##} {y:0.##} l");
            }
            page.Append(" S\n");
        }
        return Page(A0Wide, A0High, Deflated(Encoding.ASCII.GetBytes(page.ToString())), "");
    });

    /// <summary>An A0 page that is a scan of one bit at 300 dpi: ruled lines, blots and noise.</summary>
    public static Task<string> ScanAsync() => MadeAsync("scan.pdf", () =>
    {
        const int Row = (ScanWide + 7) / 8;
        var pixels = new byte[Row * ScanHigh];
        Array.Fill(pixels, (byte)0xFF);
        var random = new Random(2);
        for (var y = 200; y < ScanHigh; y += 97) Array.Fill(pixels, (byte)0, y * Row, Row);
        for (var x = 40; x < Row; x += 23)
            for (var y = 0; y < ScanHigh; y++) pixels[(y * Row) + x] &= 0xC7;
        for (var i = 0; i < 400_000; i++) pixels[random.Next(pixels.Length)] &= (byte)~(1 << random.Next(8));
        var image = Deflated(pixels);
        return Page(A0Wide, A0High, Deflated(Encoding.ASCII.GetBytes(FormattableString.Invariant($"{A0Wide} 0 0 {A0High} 0 0 cm /I Do"))), FormattableString.Invariant($"/XObject << /I 6 0 R >>"), ("/Type /XObject /Subtype /Image /ColorSpace /DeviceGray /BitsPerComponent 1 " + FormattableString.Invariant($"/Width {ScanWide} /Height {ScanHigh}"), image));
    });

    private static async Task<string> MadeAsync(string name, Func<byte[]> make)
    {
        var file = Path.Combine(Figure.Env("FROE_BENCH"), name);
        if (!File.Exists(file)) await File.WriteAllBytesAsync(file, make());
        return file;
    }

    private static byte[] Deflated(byte[] bytes)
    {
        using var to = new MemoryStream();
        using (var zip = new ZLibStream(to, CompressionLevel.Optimal)) zip.Write(bytes);
        return to.ToArray();
    }

    private static byte[] Page(int width, int height, byte[] content, string resources, params (string Dictionary, byte[] Bytes)[] more)
    {
        var file = new MemoryStream();
        var at = new List<long>();
        void Write(string words) => file.Write(Encoding.ASCII.GetBytes(words));
        void Object(string dictionary, byte[]? stream = null)
        {
            at.Add(file.Length);
            Write(FormattableString.Invariant($"{at.Count} 0 obj\n<< {dictionary} "));
            if (stream is null) Write(">>\nendobj\n");
            else
            {
                Write(FormattableString.Invariant($"/Filter /FlateDecode /Length {stream.Length} >>\nstream\n"));
                file.Write(stream);
                Write("\nendstream\nendobj\n");
            }
        }
        Write("%PDF-1.7\n");
        Object("/Type /Catalog /Pages 2 0 R");
        Object("/Type /Pages /Kids [3 0 R] /Count 1");
        Object(FormattableString.Invariant($"/Type /Page /Parent 2 0 R /MediaBox [0 0 {width} {height}] /Contents 4 0 R /Resources << /Font << /F 5 0 R >> {resources} >>"));
        Object("", content);
        Object("/Type /Font /Subtype /Type1 /BaseFont /Helvetica /Encoding /WinAnsiEncoding");
        foreach (var (dictionary, bytes) in more) Object(dictionary, bytes);
        var start = file.Length;
        Write(FormattableString.Invariant($"xref\n0 {at.Count + 1}\n0000000000 65535 f \n"));
        foreach (var offset in at) Write(FormattableString.Invariant($"{offset:0000000000} 00000 n \n"));
        Write(FormattableString.Invariant($"trailer\n<< /Size {at.Count + 1} /Root 1 0 R >>\nstartxref\n{start}\n%%EOF\n"));
        return file.ToArray();
    }
}
