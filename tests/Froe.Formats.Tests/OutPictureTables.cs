using System.Text.RegularExpressions;
using Froe.Core.Draft;
using Froe.Core.Drawing;
using Froe.Core.Exchange;
using Froe.Core.Overlays;
using Froe.Formats.In;
using Froe.Formats.Out;
using SkiaSharp;
using Xunit;

namespace Froe.Formats.Tests;

/// <summary>What goes out looks as it does on the screen: pictures that lie there, pens and dashes.</summary>
public sealed class OutPictureTables : SentOut
{
    [Fact]
    public void APictureThatLiesOnASheetGoesOutWithIt()
    {
        var leaf = StrokesOf();
        // Its left half is red, its right half blue; it stands on its side, and only its upper half, as it was drawn, is shown.
        using (var bitmap = new SKBitmap(40, 20))
        {
            for (var x = 0; x < 40; x++)
                for (var y = 0; y < 20; y++) bitmap.SetPixel(x, y, x < 20 ? SKColors.Red : SKColors.Blue);
            using var data = bitmap.Encode(SKEncodedImageFormat.Png, 90);
            File.WriteAllBytes(Path.Combine(Folder, MarkedFile.PlacedPictures([Placing(leaf)])["view.png"]), data.ToArray());
        }
        using var png = SKBitmap.Decode(Written(Draft(Placing(leaf)), OutForm.Png, out _));
        // 4000 pixels for 200 units: it lies from (140, 10) to (160, 50), turned by a quarter to the left, cut to its upper half, which is its left one now.
        SKColor At(double x, double y) => png.GetPixel((int)(x * 20), (int)((100 - y) * 20));
        Assert.Equal(SKColors.Red, At(145, 15));
        Assert.Equal(SKColors.Blue, At(145, 45));
        Assert.Equal(SKColors.White, At(155, 15));
        Assert.Equal(SKColors.White, At(130, 15));
        // Where its file is not at hand there is nothing, and nothing fails.
        File.Delete(Path.Combine(Folder, MarkedFile.PlacedPictures([Placing(leaf)])["view.png"]));
        using var without = SKBitmap.Decode(Written(Draft(Placing(leaf)), OutForm.Png, out _));
        Assert.Equal(SKColors.White, without.GetPixel(145 * 20, 85 * 20));

        static Leaf Placing(Leaf leaf) => leaf with
        {
            Frame = (SheetFrame)leaf.Frame with
            {
                Pictures = [new PlacedPicture("View.PNG", new(160, 10), new(0, 40), new(-20, 0), 0, [new(0, 0), new(1, 0), new(1, 0.5), new(0, 0.5)])],
            },
        };
    }

    [Theory]
    [InlineData(OutForm.Pdf)]
    [InlineData(OutForm.FlatPdf)]
    public void APictureThatSomebodyPutThereGoesOutWithTheSheet(OutForm form)
    {
        var leaf = StrokesOf();
        using var half = new SKBitmap(new SKImageInfo(40, 20, SKColorType.Rgba8888, SKAlphaType.Unpremul));
        for (var x = 0; x < 40; x++)
            for (var y = 0; y < 20; y++) half.SetPixel(x, y, x < 20 ? SKColors.Red : y < 10 ? SKColors.Blue : SKColors.Transparent);
        using var data = half.Encode(SKEncodedImageFormat.Png, 90);
        using var from = new MemoryStream(data.ToArray());
        var (png, size, fault) = PastedFile.Read(from);
        Assert.Null(fault);
        Assert.Equal(new PastedSize(40, 20), size);
        var name = Convert.ToHexStringLower(System.Security.Cryptography.SHA256.HashData(png!));
        File.WriteAllBytes(Path.Combine(Folder, MarkedFile.PastedName(name)), png!);
        var draft = Draft(leaf, Mark(new PastedPicture(new(120, 10), new(160, 30), name)), Mark(new PastedPicture(new(10, 60), new(30, 70), new string('0', 64))));
        var file = Path.Combine(Folder, "out.pdf");
        File.WriteAllBytes(file, Written(draft, form, out _));
        Assert.Contains("No syntax or stream encoding errors", Run("qpdf", "--check", file), StringComparison.Ordinal);
        Run("pdftoppm", "-r", "72", "-png", "-singlefile", file, Path.Combine(Folder, "out"));
        using var page = SKBitmap.Decode(Path.Combine(Folder, "out.png"));
        // A millimetre is 72 / 25.4 dots; the sheet is 200 by 100 millimetres.
        SKColor At(double x, double y) => page.GetPixel((int)(x * page.Width / 200), (int)((100 - y) * page.Height / 100));
        Assert.Equal(SKColors.Red, At(130, 20));
        Assert.Equal(SKColors.Blue, At(150, 26));
        Assert.Equal(SKColors.White, At(150, 14));
        using var drawn = SKBitmap.Decode(Written(draft, OutForm.Png, out _));
        Assert.Equal(SKColors.Blue, drawn.GetPixel(150 * 20, 74 * 20));
    }

    [Fact]
    public void WhatIsNoPictureIsRefusedInWordsAndALargeOneIsKeptSmaller()
    {
        static (byte[]? Png, PastedSize Size, string? Fault) Read(byte[] file)
        {
            using var from = new MemoryStream(file);
            return PastedFile.Read(from);
        }
        Assert.NotNull(Read("no picture"u8.ToArray()).Fault);
        Assert.NotNull(Read([]).Fault);
        Assert.NotNull(Read(System.Text.Encoding.ASCII.GetBytes("<svg xmlns='http://www.w3.org/2000/svg'/>")).Fault);
        using var wide = new SKBitmap(5000, 100);
        using var data = wide.Encode(SKEncodedImageFormat.Jpeg, 80);
        Assert.Equal(new PastedSize(2000, 40), Read(data.ToArray()).Size);
        // What was cut off is as much of a picture as there is of it, or none; it never ends the reader.
        for (var length = 1; length < data.Size; length += 97) _ = Read(data.ToArray()[..length]);
    }

    [Fact]
    public void LinesGoOutAsTheirOverlayDrawsThemAndWhatWasCarriedIsDashed()
    {
        var leaf = StrokesOf();
        var box = new Box(new(20, 20), new(120, 80));
        string Written(OverlayLook look, bool isCarried = false)
        {
            var pdf = this.Written(Draft(leaf, Mark(box) with { Look = look, IsCarried = isCarried }), OutForm.Pdf, out _);
            using var document = UglyToad.PdfPig.PdfDocument.Open(pdf);
            var stream = document.Structure.CrossReferenceTable.ObjectOffsets.Keys.Select(k => document.Structure.GetObject(k).Data).OfType<UglyToad.PdfPig.Tokens.StreamToken>()
                .Single(t => t.StreamDictionary.Data.ContainsKey("BBox"));
            var data = stream.Data.ToArray();
            using var packed = new System.IO.Compression.ZLibStream(new MemoryStream(data), System.IO.Compression.CompressionMode.Decompress);
            using var reader = new StreamReader(stream.StreamDictionary.Data.ContainsKey("Filter") ? packed : new MemoryStream(data));
            return reader.ReadToEnd();
        }
        double Width(string content) => double.Parse(Regex.Match(content, @"([\d.]+) w \[").Groups[1].Value, System.Globalization.CultureInfo.InvariantCulture);
        var usual = Written(OverlayLook.Usual);
        Assert.Contains("[] 0 d", usual, StringComparison.Ordinal);
        Assert.Contains("f\n", usual, StringComparison.Ordinal);
        var other = Written(new OverlayLook(Ink.Plum, PenLine.Dotted, PenWidth.Bold, false, LetterSize.Medium));
        Assert.Matches(@"0\.478\d* 0\.18\d* 0\.388\d* RG", other);
        Assert.Matches(@"\[[\d.]+ [\d.]+\] 0 d", other);
        Assert.DoesNotContain("f\n", other, StringComparison.Ordinal);
        Assert.Equal(1.75, Width(other) / Width(usual), 2);
        Assert.Matches(@"\[[\d.]+ [\d.]+\] 0 d", Written(OverlayLook.Usual, isCarried: true));
    }

    [Fact]
    public void PicturesShowTheSheetAndWhatLiesOnIt()
    {
        var draft = Draft(StrokesOf(), Mark(new Box(new(20, 10), new(50, 30)), Note(12, "Look")));
        using var png = SKBitmap.Decode(Written(draft, OutForm.Png, out _));
        Assert.Equal((4000, 2000), (png.Width, png.Height));
        // On the box's left side, and on the line from corner to corner.
        Assert.Contains(Enumerable.Range(380, 40), x => png.GetPixel(x, 1600) is { Red: > 140, Green: < 110, Blue: < 80 });
        Assert.Contains(Enumerable.Range(1980, 40), y => png.GetPixel(2000, 1000 + y - 2000).Red < 100);
        var svg = System.Text.Encoding.UTF8.GetString(Written(draft, OutForm.Svg, out _));
        Assert.Contains("<svg", svg, StringComparison.Ordinal);
        // Letters are shapes: no reader needs the lettering.
        Assert.DoesNotContain("<text", svg, StringComparison.Ordinal);
        Assert.DoesNotContain("href", svg, StringComparison.Ordinal);
    }
}
