using Xunit;
using static Froe.Formats.Tests.SmallPdf;

namespace Froe.Formats.Tests;

/// <summary>PDF as other programs write it: what is unusual in it and drawn by the page engine is in our sheet as well, or said not to be.</summary>
public class PdfOthersTables
{
    [Theory]
    [InlineData("10 20 100 0 re f", 10, 20, 110, 20)] // a rule of a table that has no height
    [InlineData("10 20 0 50 re f*", 10, 20, 10, 70)]
    [InlineData("10 20 m 60 70 l 35 45 l h f", 10, 20, 60, 70)] // there and back
    [InlineData("60 70 m 10 20 l f", 60, 70, 10, 20)]
    [InlineData("150 20 100 0 re f", 150, 20, 200, 20)] // beyond the page's edge
    public void WhatIsFilledWithoutAnAreaIsALine(string operators, double x0, double y0, double x1, double y1) =>
        Assert.Equal((x0, y0, x1, y1), Assert.Single(Strokes(Open(Page(operators)).Geometry(0))));

    [Fact]
    public void WhatHasAnAreaIsNoLineHoweverThin()
    {
        var sheet = Open(Page("10 20 100 0.01 re f 10 20 m 10 20 l 10 20 l f")).Geometry(0);
        Assert.Empty(Strokes(sheet));
        Assert.NotEmpty(sheet.Triangles);
    }

    [Fact]
    public void AWordThatBeginsBeyondTheEdgeIsFoundAsFarAsItIsOnThePage()
    {
        Assert.Equal("BEFORE AND WITHIN", Assert.Single(Open(Page("BT /F 20 Tf -150 50 Td (BEFORE AND WITHIN) Tj ET")).Words(0)).Text);
        Assert.Empty(Open(Page("BT /F 20 Tf -450 50 Td (BEFORE ONLY) Tj ET")).Words(0));
    }

    /// <summary>A page with a second font, G.</summary>
    private static byte[] WithFont(string operators, string font, string letter = "") => Of(
        "<< /Type /Catalog /Pages 2 0 R >>", "<< /Type /Pages /Kids [3 0 R] /Count 1 >>",
        "<< /Type /Page /Parent 2 0 R /MediaBox [0 0 200 100] /Contents 4 0 R /Resources << /Font << /F 5 0 R /G 6 0 R >> >> >>", Stream(operators),
        "<< /Type /Font /Subtype /Type1 /BaseFont /Helvetica /Encoding /WinAnsiEncoding >>", font, Stream(letter));

    [Fact]
    public void WordsInADamagedFontAreCounted()
    {
        // Its encoding is no encoding.
        var pages = Open(WithFont("BT /G 10 Tf 10 50 Td (lost) Tj [(l) 20 (ost)] TJ /F 10 Tf (kept) Tj ET", "<< /Type /Font /Subtype /Type1 /BaseFont /Helvetica /Encoding << /Differences [0 /a (x)] >> >>"));
        Assert.Equal("kept", Assert.Single(pages.Words(0)).Text);
        Assert.Contains(pages.PictureOnly, p => p.Type == "damaged font");
    }

    [Fact]
    public void LettersThatAreDrawingsAreAsHighAsTheyAreWide()
    {
        // A font of which a unit is a fiftieth of a letter: its words are one run, ten points high or so.
        var pages = Open(WithFont(
            "BT /G 1 Tf 20 50 Td [(AB)-5(A)] TJ ET", "<< /Type /Font /Subtype /Type3 /FontBBox [0 0 500 700] /FontMatrix [0.02 0 0 0.02 0 0] /FirstChar 65 /LastChar 66 /Widths [500 500] /Encoding << /Differences [65 /A /B] >> /CharProcs << /A 7 0 R /B 7 0 R >> >>", "0 0 500 700 re f"));
        var word = Assert.Single(pages.Words(0));
        Assert.Equal("ABA", word.Text);
        Assert.InRange(word.Up.Y / Point, 8, 25);
    }

    [Fact]
    public void WhatAPdfCarriesBesideItsPagesIsSaid()
    {
        var pages = Open(Page(
            "10 10 m 60 10 l S", "/MediaBox [0 0 200 100] /Annots [9 0 R << /Subtype /FileAttachment /Rect [0 0 5 5] >> << /Subtype /Sound /Rect [0 0 5 5] >> << /Subtype /Square /Rect [0 0 5 5] >>]",
            catalogue: "/Names << /EmbeddedFiles << /Kids [6 0 R 6 0 R] >> >> /NeedsRendering true /AcroForm << /XFA 7 0 R /Fields [] >>", more:
            ["<< /Names [(a) 7 0 R (b) << /F (plain.txt) >>] /Kids [6 0 R] >>", "<< /F (sums.xlsx) /UF (Sums of loads.xlsx) >>", "<< >>", "<< /Subtype /3D /Rect [0 0 5 5] >>"]));
        _ = pages.Leaf(0);
        var said = pages.NotShown.ToDictionary(n => n.Type);
        Assert.Equal(["attached file", "form", "model on a page", "sound"], said.Keys.Order());
        Assert.StartsWith("“Sums of loads.xlsx”, “plain.txt”", said["attached file"].Why, StringComparison.Ordinal);
        Assert.Contains("XFA", said["form"].Why, StringComparison.Ordinal);
        // A tree of names that holds itself several times over is gone through once, and what hangs beside is found.
        var knot = Open(Page("", catalogue: "/Names << /EmbeddedFiles 6 0 R >>", more: ["<< /Kids [6 0 R 6 0 R 6 0 R 6 0 R 7 0 R 7 0 R] >>", "<< /Names [(a) << /F (one.txt) >>] >>"]));
        Assert.Equal(1, Assert.Single(knot.NotShown).Count);
        // A form whose fields are on its pages is shown, whatever else it brings.
        Assert.Empty(Open(Page("", catalogue: "/AcroForm << /XFA 6 0 R /Fields [] >>", more: ["<< >>"])).NotShown);
    }
}
