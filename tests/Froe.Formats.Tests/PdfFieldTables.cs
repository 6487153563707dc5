using SkiaSharp;
using Xunit;
using static Froe.Formats.Tests.SmallPdf;

namespace Froe.Formats.Tests;

/// <summary>Fields of forms on pages of PDF: what was filled in is seen, measured and found like what the page draws itself.</summary>
public class PdfFieldTables
{
    private const string Catalogue = "/AcroForm << /Fields [6 0 R] /DA (/F 10 Tf 0 g) /DR << /Font << /F 5 0 R >> >> >>";

    private static byte[] With(string widget, params string[] more) => Page("", "/MediaBox [0 0 200 100] /Annots [6 0 R]", catalogue: Catalogue, more: [$"<< /Type /Annot /Subtype /Widget /T (f) {widget} >>", .. more]);

    private static string Look(string operators, string dictionary = "/BBox [0 0 10 10]") => Stream(operators, $"/Type /XObject /Subtype /Form {dictionary}");

    /// <summary>The least rectangle, in points from the lower left, that is dark in the picture; null for a page that is white.</summary>
    private static (int Left, int Bottom, int Right, int Top)? Dark(byte[] file)
    {
        using var bitmap = SKBitmap.Decode(Open(file).Picture(0, 200));
        var dark = Enumerable.Range(0, 200 * 100).Where(i => bitmap.GetPixel(i % 200, i / 200).Red < 100).Select(i => (X: i % 200, Y: 99 - (i / 200))).ToList();
        return dark.Count == 0 ? null : (dark.Min(p => p.X), dark.Min(p => p.Y), dark.Max(p => p.X) + 1, dark.Max(p => p.Y) + 1);
    }

    [Fact]
    public void AnAppearanceFillsTheFieldsRectangle()
    {
        // A box of ten by ten on one of forty by twenty: what is drawn in its right upper quarter is there four times as wide and twice as high.
        var file = With("/FT /Tx /Rect [100 40 140 60] /AP << /N 7 0 R >>", Look("5 5 5 5 re f"));
        Assert.Equal((120, 50, 140, 60), Dark(file));
        Assert.Equal([120.0, 50, 140, 60], Around(file));
        // Turned by its own matrix: the quarter that was above is then to the left.
        var turned = With("/FT /Tx /Rect [100 40 140 60] /AP << /N 7 0 R >>", Look("5 5 5 5 re f", "/BBox [0 0 10 10] /Matrix [0 1 -1 0 0 0]"));
        Assert.Equal((100, 50, 120, 60), Dark(turned));
        Assert.Equal([100.0, 50, 120, 60], Around(turned));
        // On a page that is shown turned by a quarter: what was 120 to 140 from the left is 60 to 80 from below.
        var page = Page("", "/MediaBox [0 0 200 100] /Rotate 90 /Annots [6 0 R]", catalogue: Catalogue, more: ["<< /Type /Annot /Subtype /Widget /T (f) /FT /Tx /Rect [100 40 140 60] /AP << /N 7 0 R >> >>", Look("5 5 5 5 re f")]);
        Assert.Equal([50.0, 60, 60, 80], Around(page));
    }

    /// <summary>The rectangle about what is filled, in points.</summary>
    private static double[] Around(byte[] file)
    {
        var sheet = Open(file).Geometry(0);
        double[] x = [.. sheet.Triangles.Where((_, i) => i % 2 == 0).Select(v => v + sheet.Origin.X)], y = [.. sheet.Triangles.Where((_, i) => i % 2 == 1).Select(v => v + sheet.Origin.Y)];
        return [.. new[] { x.Min(), y.Min(), x.Max(), y.Max() }.Select(v => Math.Round(v / Point, 1))];
    }

    [Theory]
    [InlineData("/AS /Yes", true)]
    [InlineData("/AS /Off", false)]
    [InlineData("/AS /Yes /F 2", false)] // hidden
    [InlineData("/AS /Yes /F 32", false)] // not to be viewed
    [InlineData("/AS /Yes /F 4", true)] // to be printed
    public void ABoxIsTickedAsItsStateSays(string state, bool isSeen)
    {
        var file = With($"/FT /Btn /Rect [100 40 140 60] /AP << /N << /Yes 7 0 R /Off 8 0 R >> >> {state}", Look("0 0 10 10 re f"), Look(""));
        Assert.Equal(isSeen, Dark(file) is not null);
        Assert.Equal(isSeen, Open(file).Geometry(0).Triangles.Length > 0);
    }

    [Fact]
    public void WhatStandsInAFieldIsFound()
    {
        // The fonts are the form's, not the appearance's own.
        var file = With("/FT /Tx /V (TD-14) /Rect [100 40 140 60] /AP << /N 7 0 R >>", Look("BT /F 10 Tf 2 6 Td (TD-14) Tj ET", "/BBox [0 0 40 20]"));
        var word = Assert.Single(Open(file).Words(0));
        Assert.Equal(("TD-14", 102.0, 46.0), (word.Text, Math.Round(word.At.X / Point, 1), Math.Round(word.At.Y / Point, 1)));
        // Without looks of its own it is written by whoever shows it; its value may be a parent's.
        var plain = With("/Parent 7 0 R /Rect [100 40 180 60]", "<< /FT /Tx /V (Checked by) /T (c) /Kids [6 0 R] >>");
        Assert.Equal("Checked by", Assert.Single(Open(plain).Words(0)).Text);
        Assert.NotNull(Dark(plain));
        // A password is nobody's to read: the picture has stars.
        Assert.Empty(Open(With("/FT /Tx /Ff 8192 /V (secret) /Rect [100 40 180 60]")).Words(0));
        var lines = With("/FT /Tx /V (one\\ntwo) /Ff 4096 /Rect [100 40 180 80]");
        Assert.Equal(["one", "two"], Open(lines).Words(0).Select(w => w.Text));
    }

    [Fact]
    public void WhatIsNoFieldOfTheFormIsNeitherSeenNorFound()
    {
        var file = Page("", "/MediaBox [0 0 200 100] /Annots [6 0 R]", catalogue: Catalogue, more: ["<< /Type /Annot /Subtype /Widget /FT /Tx /V (ghost) /Rect [100 40 180 60] >>"]);
        Assert.Null(Dark(file));
        Assert.Empty(Open(file).Words(0));
    }

    [Fact]
    public void AFieldThatIsBrokenWithinKeepsThePageFromNothing()
    {
        var file = Page("10 10 m 60 10 l S", "/MediaBox [0 0 200 100] /Annots [6 0 R 7 0 R 99 0 R 8 0 R]", catalogue: Catalogue, more:
        [
            "<< /Type /Annot /Subtype /Widget /T (a) /FT /Tx /Rect [100 40 140 60] /AP << /N 9 0 R >> >>", "<< /Type /Annot /Subtype /Widget /T (b) /FT /Tx /Rect [1 2 (x) 4] >>",
            "<< /Type /Annot /Subtype /Widget /FT /Tx /V (x) /Rect [1 2 3 4] /Parent 8 0 R >>", Look("q Q Q Q Q /None Do BT /Nowhere 10 Tf (a) Tj ET 1 0 0 1"),
        ]);
        Assert.Equal((10.0, 10.0, 60.0, 10.0), Assert.Single(Strokes(Open(file).Geometry(0))));
        // A page that leaves its own state turned about leaves the field where it belongs.
        var left = Page("0 1 -1 0 50 50 cm q q 1 0 0 rg", "/MediaBox [0 0 200 100] /Annots [6 0 R]", catalogue: Catalogue, more: ["<< /Type /Annot /Subtype /Widget /T (f) /FT /Tx /Rect [100 40 140 60] /AP << /N 7 0 R >> >>", Look("5 5 5 5 re f")]);
        Assert.Equal([120.0, 50, 140, 60], Around(left));
    }
}
