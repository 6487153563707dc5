using Froe.Formats.Pdf;
using Froe.Formats.Pictures;
using SkiaSharp;
using Xunit;
using static Froe.Formats.Tests.SmallPdf;

namespace Froe.Formats.Tests;

/// <summary>Fonts that a PDF leaves out: what is written in them is seen all the same, and found.</summary>
public class PdfFontTables
{
    private const string Descriptor = "/Type /FontDescriptor /FontBBox [0 -200 1000 900] /ItalicAngle 0 /Ascent 800 /Descent -200 /CapHeight 700 /StemV 80";

    private static readonly string Widths = string.Join(' ', Enumerable.Repeat(1000, 224));

    /// <summary>ISO 32000-2, 9.7.5.2: the encodings that need no font in the file, one for each script.</summary>
    [Theory]
    [InlineData("MS-Gothic", "90ms-RKSJ-H", "Japan1", "907D96CA94D48D86", "図面番号")]
    [InlineData("HeiseiMin-W3", "UniJIS-UCS2-H", "Japan1", "7D447ACB56F3", "組立図")]
    [InlineData("STSong-Light", "UniGB-UCS2-H", "GB1", "56FE7EB87F1653F7", "图纸编号")]
    [InlineData("HYSMyeongJo-Medium", "KSCms-UHC-H", "Korea1", "B5B5B8E9B9F8C8A3", "도면번호")]
    [InlineData("MSung-Light", "ETen-B5-H", "CNS1", "B9CFADB1BD73B8B9", "圖面編號")]
    public void WhatIsWrittenInEasternScriptsIsSeenAndFound(string font, string encoding, string ordering, string written, string read) => IsSeen(written, read,
        $"<< /Type /Font /Subtype /Type0 /BaseFont /{font} /Encoding /{encoding} /DescendantFonts [7 0 R] >>",
        $"<< /Type /Font /Subtype /CIDFontType0 /BaseFont /{font} /CIDSystemInfo << /Registry (Adobe) /Ordering ({ordering}) /Supplement 2 >> /DW 1000 /FontDescriptor 8 0 R >>",
        $"<< {Descriptor} /FontName /{font} /Flags 4 >>");

    /// <summary>Fonts of Western names with letters and signs that the engine's own have not.</summary>
    [Theory]
    [InlineData("TrueType", "ArialMT", 32)]
    [InlineData("TrueType", "Arial,Bold", 32)]
    [InlineData("TrueType", "TimesNewRomanPS-ItalicMT", 98)]
    [InlineData("TrueType", "CourierNewPSMT", 33)]
    [InlineData("TrueType", "ISOCPEUR", 32)]
    [InlineData("Type1", "Helvetica", 32)]
    [InlineData("TrueType", "SomeSerif", 34)]
    public void GreekCyrillicAndSignsAreSeenAndFound(string kind, string font, int flags) => IsSeen("A2C0C1C2C3C4C5", "ДАБВΩ≤Δ",
        $"<< /Type /Font /Subtype /{kind} /BaseFont /{font} /FirstChar 32 /LastChar 255 /Widths [{Widths}] /FontDescriptor 7 0 R"
        + " /Encoding << /Type /Encoding /BaseEncoding /WinAnsiEncoding /Differences [162 /afii10021 192 /afii10017 /afii10018 /afii10019 /Omega /lessequal /Delta] >> >>",
        $"<< {Descriptor} /FontName /{font} /Flags {flags} >>");

    /// <summary>Each letter in its own em has ink, where nothing is written there is none, and nothing is told to be missing.</summary>
    private static void IsSeen(string written, string read, params string[] objects)
    {
        const int Em = 20, Left = 20, Wide = 200;
        var pages = Open(Page($"BT /F {Em} Tf {Left} 40 Td <{written}> Tj ET", resources: "/Font << /F 6 0 R >>", more: objects));
        using var picture = SKBitmap.Decode(pages.Picture(0, Wide * 4));
        int Ink(int cell) => Enumerable.Range(0, Em * 4 * Em * 6).Count(i => picture.GetPixel((((Left + (cell * Em)) * 4) + (i % (Em * 4))), ((100 - 40 - Em) * 4) + (i / (Em * 4))).Red < 128);
        for (var i = 0; i < read.Length; i++) Assert.True(Ink(i) > 100, $"{read[i]} is not seen");
        Assert.Equal(0, Ink(read.Length));
        Assert.Equal(read, string.Concat(pages.Geometry(0).Texts.Select(t => t.Text)).Replace("\u2126", "\u03a9", StringComparison.Ordinal).Replace("\u2206", "\u0394", StringComparison.Ordinal));
        Assert.Empty(pages.NotShown);
    }

    /// <summary>Whatever the machine has: words of a drawing, and notes on a review sheet.</summary>
    [Theory]
    [InlineData("図面番号")]
    [InlineData("图纸编号")]
    [InlineData("도면번호")]
    [InlineData("圖面編號")]
    [InlineData("ДΩ≤Δ")]
    public void LettersThatTheLetteringLacksAreInAnotherFont(string words)
    {
        using var lettering = new SKFont(SheetPicture.Face, 10);
        Assert.All(SheetPicture.Pieces(words, lettering), piece => Assert.True(piece.Font.ContainsGlyphs(piece.Words), piece.Words));
    }

    [Theory]
    [InlineData("Helvetica-Oblique", 0, 400, true, "Arimo_400Regular_Italic.ttf")]
    [InlineData("Times-Bold", 0, 700, false, "Tinos_700Bold.ttf")]
    [InlineData("MS-Mincho", 128, 700, true, "NotoSansJP-Regular.otf")]
    [InlineData("Symbol", 2, 400, false, null)]
    [InlineData("../../etc/passwd", 0, 400, false, null)]
    public void OneRuleSaysWhichStandsIn(string face, int charset, int weight, bool isItalic, string? file)
    {
        Assert.Equal(file, PageFonts.FileFor(face, charset, weight, isItalic));
        if (file is not null) Assert.True(new FileInfo(PageFonts.PathOf(file)).Length > 100_000);
    }
}
