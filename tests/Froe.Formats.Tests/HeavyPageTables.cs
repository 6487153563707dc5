using System.Globalization;
using System.Text;
using Froe.Core.Draft;
using Froe.Formats.Pdf;
using Froe.Formats.Pictures;
using SkiaSharp;
using Xunit;
using static Froe.Formats.Tests.SmallPdf;

namespace Froe.Formats.Tests;

/// <summary>Pages that draw so much that they are cut into tiles as well, and pages that do not.</summary>
public class HeavyPageTables
{
    private const string Size = "/MediaBox [0 0 600 400]";

    /// <summary>Strokes in the lower half, and one thin line above them, by itself.</summary>
    private static string Strokes(int count)
    {
        var operators = new StringBuilder("0 w 100 350 m 500 350 l S\n");
        for (var i = 1; i < count; i++) operators.Append(CultureInfo.InvariantCulture, $"{i % 500 + 20} {i / 500} m {i % 500 + 21} {i / 500} l\n");
        return operators.Append('S').ToString();
    }

    private static (Dictionary<string, MemoryStream> Forms, Surface Surface) Read(PdfPages pages)
    {
        var leaf = PdfDraftReader.OneLeaf(pages, 0);
        var forms = leaf.Forms.ToDictionary(f => f.Name, f => { var to = new MemoryStream(); f.Write(to); return to; });
        return (forms, leaf.Shown!((SheetFrame)leaf.Leaf.Frame).Surface);
    }

    [Fact]
    public void APageOfManyStrokesIsCutInSizesThatAreEachDrawn()
    {
        var (forms, surface) = Read(Open(Page(Strokes(100_000), Size)));
        var pack = forms[LeafForms.Tiles];
        var pyramid = TilePack.Read(pack);
        Assert.Equal((Surface.HeavyPage, "image/webp"), (surface, pyramid.MediaType));
        Assert.Equal([(4000, 2667), (2000, 1334), (1000, 667), (500, 334)], pyramid.Levels.Select(l => (l.Width, l.Height)));
        // A thin line is as dark in each size that is drawn, a pixel's worth; made of a larger one it would fade to half.
        for (var size = 0; size < 3; size++) Assert.InRange(Darkness(pack, pyramid, size, 0.5, 0.125), 200, 300);
        Assert.InRange(Darkness(pack, pyramid, 3, 0.5, 0.125), 60, 200);
        Assert.Equal(0, Darkness(pack, pyramid, 0, 0.5, 0.25));
        // One of them is the picture that is there before any tile, point for point.
        using var picture = SKBitmap.Decode(forms[LeafForms.Picture].ToArray());
        Assert.Equal((2000, 1334), (picture.Width, picture.Height));
        for (var row = 0; row < 3; row++)
        {
            using var tile = SKBitmap.Decode(TilePack.Tile(pack, pyramid, 1, 1, row));
            for (var y = 0; y < tile.Height; y += 3)
                for (var x = 0; x < tile.Width; x += 5) Assert.Equal(picture.GetPixel(512 + x, (512 * row) + y), tile.GetPixel(x, y));
        }
    }

    /// <summary>How much ink there is in a column of seven pixels about a place, 255 for a black one.</summary>
    private static int Darkness(Stream pack, TilePyramid pyramid, int size, double across, double down)
    {
        var level = pyramid.Levels[size];
        var (x, middle, ink) = ((int)(across * level.Width), (int)(down * level.Height), 0);
        for (var y = middle - 3; y <= middle + 3; y++)
        {
            using var tile = SKBitmap.Decode(TilePack.Tile(pack, pyramid, size, x / 512, y / 512));
            ink += 255 - tile.GetPixel(x % 512, y % 512).Green;
        }
        return ink;
    }

    [Fact]
    public void APageOfFewerIsDrawnFromItsFileAlone()
    {
        var (forms, surface) = Read(Open(Page(Strokes(99_999), Size)));
        Assert.Equal((Surface.Page, 0), (surface, forms[LeafForms.Tiles].Length));
    }

    /// <summary>More than is read into strokes: its picture can be looked at all the same, and from tiles.</summary>
    [Fact]
    public void APageThatIsTooMuchForItsGeometryIsCutToo()
    {
        var (pages, _) = PdfPages.Open(Page(Strokes(3000), Size), new ReadLimits(MostSegments: 2000));
        var (forms, surface) = Read(pages!);
        Assert.Equal(Surface.HeavyPage, surface);
        Assert.InRange(Darkness(forms[LeafForms.Tiles], TilePack.Read(forms[LeafForms.Tiles]), 0, 0.5, 0.125), 200, 300);
        Assert.Empty(pages!.Geometry(0).EntityHandle);
    }

    [Theory]
    [InlineData(2, Surface.HeavyPage)]
    [InlineData(1, Surface.Page)]
    public void LargePicturesUnderLinesAreMuchToo(int pictures, Surface expected)
    {
        var image = Stream(new string('\x55', 2400 / 8 * 2000), "/Type /XObject /Subtype /Image /Width 2400 /Height 2000 /ColorSpace /DeviceGray /BitsPerComponent 1");
        var placed = string.Concat(Enumerable.Range(0, pictures).Select(i => $"q 300 0 0 300 {300 * i} 50 cm /I Do Q "));
        var (forms, surface) = Read(Open(Page(placed + "0 0 m 600 400 l S", Size, "/XObject << /I 6 0 R >>", more: image)));
        Assert.Equal(expected, surface);
        if (surface == Surface.HeavyPage) Assert.Equal("image/jpeg", TilePack.Read(forms[LeafForms.Tiles]).MediaType);
    }

    /// <summary>What lies on it is in its tiles as the file shows it: they stand in for it until somebody leaves marks or layers out.</summary>
    [Fact]
    public void ItsMarksAreOnItsTiles()
    {
        var mark = "<< /Type /Annot /Subtype /Square /Rect [290 290 310 310] /C [0 0 0] /IC [0 0 0] /AP << /N 7 0 R >> >>";
        var look = Stream("0 0 20 20 re f", "/Type /XObject /Subtype /Form /BBox [0 0 20 20]");
        var (forms, surface) = Read(Open(Page(Strokes(100_000), $"{Size} /Annots [6 0 R]", more: [mark, look])));
        Assert.Equal(Surface.HeavyPage, surface);
        Assert.Equal(7 * 255, Darkness(forms[LeafForms.Tiles], TilePack.Read(forms[LeafForms.Tiles]), 0, 0.5, 0.25));
    }
}
