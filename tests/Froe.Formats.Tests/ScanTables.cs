using System.Text;
using Froe.Core.Draft;
using Froe.Core.Drawing;
using Froe.Formats.Out;
using Froe.Formats.Pdf;
using Froe.Formats.Pictures;
using SkiaSharp;
using Xunit;
using static Froe.Formats.Tests.SmallPdf;

namespace Froe.Formats.Tests;

/// <summary>Pages that are nothing but a picture of points: cut into tiles that have it point for point; and pages that are more than that.</summary>
public class ScanTables
{
    private const int Wide = 2600, High = 2000;

    /// <summary>Whether a point is black: a frame, and bars of different widths that none of its turns has too.</summary>
    private static bool IsInk(int x, int y) => x < 3 || y < 5 || (x / 7 % 5 == 1 && y > 300 && y < 1700) || (y - (2 * x) is > 0 and < 40);

    private static string Image(int wide = Wide, int high = High, string more = "")
    {
        var rows = new StringBuilder();
        for (var y = 0; y < high; y++)
            for (var x = 0; x < wide; x += 8)
            {
                var bits = 0;
                for (var i = 0; i < 8; i++) bits |= IsInk(x + i, y) ? 0 : 0x80 >> i;
                rows.Append((char)bits);
            }
        return Stream(rows.ToString(), $"/Type /XObject /Subtype /Image /Width {wide} /Height {high} /ColorSpace /DeviceGray /BitsPerComponent 1 {more}");
    }

    private const string Placed = "q 650 0 0 500 0 0 cm /I Do Q";

    private static (TilePyramid? Pyramid, MemoryStream Pack, Surface Surface) Tiles(byte[] file)
    {
        var leaf = PdfDraftReader.OneLeaf(Open(file), 0);
        var pack = new MemoryStream();
        foreach (var form in leaf.Forms) form.Write(form.Name == LeafForms.Tiles ? pack : new MemoryStream());
        return (pack.Length == 0 ? null : TilePack.Read(pack), pack, leaf.Shown!((SheetFrame)leaf.Leaf.Frame).Surface);
    }

    [Theory]
    [InlineData("", Wide, High)]
    [InlineData("/Rotate 90", High, Wide)]
    [InlineData("/Rotate 180", Wide, High)]
    public void AScanHasATileForEachOfItsPoints(string turned, int wide, int high)
    {
        var (pyramid, pack, surface) = Tiles(Page(Placed, $"/MediaBox [0 0 650 500] {turned}", "/XObject << /I 6 0 R >>", more: Image()));
        Assert.Equal((Surface.Scan, wide, high, "image/webp"), (surface, pyramid!.Width, pyramid.Height, pyramid.MediaType));
        for (var row = 0; row < pyramid.Levels[0].Rows; row++)
            for (var column = 0; column < pyramid.Levels[0].Columns; column++)
            {
                using var tile = SKBitmap.Decode(TilePack.Tile(pack, pyramid, 0, column, row));
                for (var y = 0; y < tile.Height; y += 3)
                    for (var x = 0; x < tile.Width; x += 2)
                    {
                        int u = (512 * column) + x, v = (512 * row) + y;
                        // Turned clockwise by a quarter, its left edge comes to lie above.
                        var isInk = turned switch { "/Rotate 90" => IsInk(v, High - 1 - u), "/Rotate 180" => IsInk(Wide - 1 - u, High - 1 - v), _ => IsInk(u, v) };
                        Assert.True(tile.GetPixel(x, y).Green == (isInk ? 0 : 255), $"{u}, {v} is {tile.GetPixel(x, y)}");
                    }
            }
    }

    [Fact]
    public void WordsThatLieUnderAScanUnseenAreFoundAndDoNotKeepItFromBeingOne()
    {
        var file = Page("BT 3 Tr /F 12 Tf 50 400 Td (Pump house) Tj ET " + Placed, "/MediaBox [0 0 650 500]", "/XObject << /I 6 0 R >>", more: Image());
        Assert.Equal(Surface.Scan, Tiles(file).Surface);
        Assert.Equal("Pump house", Assert.Single(Open(file).Words(0)).Text);
    }

    [Theory]
    [InlineData("10 10 m 600 400 l S", "", "", "")]
    [InlineData("BT /F 12 Tf 50 400 Td (Pump house) Tj ET", "", "", "")]
    [InlineData("0.5 g 10 10 50 50 re f", "", "", "")]
    [InlineData("/Sh sh", "", "", "")]
    [InlineData("", "/Annots [7 0 R]", "<< /Type /Annot /Subtype /Square /Rect [10 10 60 60] /C [1 0 0] >>", "")]
    [InlineData("", "/Annots [7 0 R]", "<< /Type /Annot /Subtype /Widget /FT /Tx /T (f) /V (7) /DA (/Helv 9 Tf) /Rect [10 10 60 60] >>", "/AcroForm << /Fields [7 0 R] >>")]
    [InlineData("", "", "<< /Type /OCG /Name (Axes) >>", "/OCProperties << /OCGs [7 0 R] /D << >> >>")]
    public void APageThatShowsMoreIsDrawnFromItsFile(string more, string page, string thing, string catalogue)
    {
        var (pyramid, _, surface) = Tiles(Page($"{Placed} {more}", $"/MediaBox [0 0 650 500] {page}", "/XObject << /I 6 0 R >>", catalogue, [Image(), .. thing.Length > 0 ? [thing] : Array.Empty<string>()]));
        Assert.Equal((null, Surface.Page), (pyramid, surface));
    }

    /// <summary>What is finer than the picture that covers the page would be lost in tiles as fine as that one.</summary>
    [Theory]
    [InlineData("q 100 0 0 80 20 20 cm /D Do Q", "<< /Type /XObject /Subtype /Image /Width 800 /Height 640 /ColorSpace /DeviceGray /BitsPerComponent 1 /Length 0 >>\nstream\n\nendstream")]
    [InlineData("q 100 0 0 80 20 20 cm BI /W 8 /H 2 /BPC 1 /CS /G ID ab EI Q", "<< >>")]
    [InlineData("q 100 0 0 80 20 20 cm /D Do Q", "<< /Type /XObject /Subtype /Image /ColorSpace /DeviceGray /BitsPerComponent 1 /Length 0 >>\nstream\n\nendstream")]
    public void AFinerPictureOnTheScanKeepsThePageDrawnFromItsFile(string more, string detail) => Assert.Equal(
        Surface.Page, Tiles(Page($"{Placed} {more}", "/MediaBox [0 0 650 500]", "/XObject << /I 6 0 R /D 7 0 R >>", more: [Image(), detail])).Surface);

    /// <summary>A coarse picture over the whole page, and what is written on it in its mask, which is finer.</summary>
    [Theory]
    [InlineData("/Mask")]
    [InlineData("/SMask")]
    public void TilesAreAsFineAsTheMaskOfAPicture(string kind)
    {
        var mask = Stream(new string('a', Wide / 8 * High), $"/Type /XObject /Subtype /Image {(kind == "/Mask" ? "/ImageMask true" : "/ColorSpace /DeviceGray")} /Width {Wide} /Height {High} /BitsPerComponent 1");
        var coarse = Stream("abcd", $"/Type /XObject /Subtype /Image /Width 2 /Height 2 /ColorSpace /DeviceGray /BitsPerComponent 8 {kind} 7 0 R");
        var (pyramid, _, surface) = Tiles(Page(Placed, "/MediaBox [0 0 650 500]", "/XObject << /I 6 0 R >>", more: [coarse, mask]));
        Assert.Equal((Surface.Scan, Wide, High, "image/jpeg"), (surface, pyramid!.Width, pyramid.Height, pyramid.MediaType));
    }

    /// <summary>Small enough to be drawn in no time; a stamp on an empty page; larger than anybody's memory.</summary>
    [Theory]
    [InlineData(1600, 1200, "q 650 0 0 500 0 0 cm /I Do Q", "")]
    [InlineData(Wide, High, "q 200 0 0 150 0 0 cm /I Do Q", "")]
    [InlineData(8, 8, Placed, "/Width 100000 /Height 100000")]
    public void APictureThatNeedsNoTilesHasNone(int wide, int high, string placed, string stated)
    {
        var image = Image(wide, high);
        if (stated.Length > 0) image = image.Replace("/Width 8 /Height 8", stated, StringComparison.Ordinal);
        var (pyramid, _, surface) = Tiles(Page(placed, "/MediaBox [0 0 650 500]", "/XObject << /I 6 0 R >>", more: image));
        Assert.Equal((null, Surface.Page), (pyramid, surface));
    }

    /// <summary>Its markups go onto the pages of the file that was signed, not onto a picture of them.</summary>
    [Fact]
    public void WhatIsMadeOfAScanIsMadeOfItsFile() => Assert.Equal(
        [(SheetSource.FileName, 0, (string?)null)],
        MarkedFile.Prepare([new Leaf(0, "Sheet 1", new SheetFrame(LengthUnit.Millimetre, new Extents(0, 0, 200, 100), Surface.Scan))], isFile: true));

    /// <summary>A picture that cannot be unpacked leaves a page that can still be looked at, and no pack that breaks off.</summary>
    [Theory]
    [InlineData("/Filter /DCTDecode")]
    [InlineData("/Filter /FlateDecode")]
    [InlineData("/Filter /JBIG2Decode")]
    [InlineData("/Filter /CCITTFaxDecode /DecodeParms << /K -1 /Columns 2600 /Rows 2000 >>")]
    public void ADamagedPictureHarmsNothingElse(string filter)
    {
        var leaf = PdfDraftReader.OneLeaf(Open(Page(Placed, "/MediaBox [0 0 650 500]", "/XObject << /I 6 0 R >>", more: Image(more: filter))), 0);
        var written = leaf.Forms.ToDictionary(f => f.Name, f => { var to = new MemoryStream(); f.Write(to); return to; });
        using var picture = SKBitmap.Decode(written[LeafForms.Picture].ToArray());
        Assert.True(picture.Width > 300);
        if (written[LeafForms.Tiles].Length > 0) Assert.Equal((Wide, High), (TilePack.Read(written[LeafForms.Tiles]).Width, TilePack.Read(written[LeafForms.Tiles]).Height));
    }
}
