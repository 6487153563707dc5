using System.Diagnostics;
using System.Text;
using Froe.Core.Draft;
using Froe.Formats.Svg;
using SkiaSharp;
using Xunit;

namespace Froe.Formats.Tests;

/// <summary>SVG as a sheet, and SVG made to harm.</summary>
public class SvgTables
{
    private static (DraftContent? Content, ReadFault? Fault) Read(string svg) => new SvgDraftReader().Read(new MemoryStream(Encoding.UTF8.GetBytes(svg)), new ReadLimits());

    private static byte[] Form(DraftContent content, string name)
    {
        var to = new MemoryStream();
        content.Leaves[0].Forms.Single(f => f.Name == name).Write(to);
        return to.ToArray();
    }

    [Fact]
    public void ItIsAsLargeAsItSaysAndItsWordsAreFound()
    {
        var (content, fault) = Read("<svg xmlns='http://www.w3.org/2000/svg' width='120mm' height='60mm' viewBox='0 0 120 60'><line x1='10' y1='50' x2='110' y2='50' stroke='black'/><text x='10' y='30' font-size='8'>Pump house</text></svg>");
        Assert.True(content is not null, fault?.ToString());
        var frame = (SheetFrame)content.Leaves[0].Leaf.Frame;
        Assert.Equal((Surface.Page, 120, 60), (frame.Surface, Math.Round(frame.Extents.Width, 1), Math.Round(frame.Extents.Height, 1)));
        Assert.Equal("Pump house", Assert.Single(WrittenForm.Read(new MemoryStream(Form(content, LeafForms.Text)))).Text);
        Assert.True(Form(content, LeafForms.Page).AsSpan().StartsWith("%PDF"u8));
        using var picture = SKBitmap.Decode(Form(content, LeafForms.Picture));
        Assert.Contains(picture.Pixels, p => p.Red < 100);
    }

    /// <summary>The program that draws it takes time by the square of what it draws, where it is let.</summary>
    [Fact]
    public void FortyThousandLinesAreDrawnWithinWhatAFileOfTheirLengthMayTake()
    {
        var lines = string.Concat(Enumerable.Range(0, 40_000).Select(i => $"<path d='M{i % 200 * 4} {i / 200 * 3}l3 2' fill='none' stroke='#123'/>\n"));
        var (content, fault) = Read($"<svg xmlns='http://www.w3.org/2000/svg' width='840mm' height='600mm' viewBox='0 0 840 600'>{lines}</svg>");
        Assert.True(content is not null, fault?.ToString());
        Form(content, LeafForms.Geometry);
        // The paper that is painted below is no part of the drawing.
        var report = Assert.Single(content.Report().Leaves);
        Assert.Equal((40_000, 0), (report.Strokes, report.Triangles));
    }

    [Theory]
    [InlineData("")]
    [InlineData("<html/>")]
    [InlineData("<svg xmlns='http://www.w3.org/2000/svg'")]
    public void WhatIsNoSvgIsRefusedInWords(string svg) => Assert.Contains("SVG", Read(svg).Fault!.What, StringComparison.Ordinal);

    [Fact]
    public void NothingBesideTheFileIsRead()
    {
        var secret = Path.GetTempFileName();
        try
        {
            File.WriteAllText(secret, "topsecret");
            var (content, _) = Read($"<!DOCTYPE svg [<!ENTITY x SYSTEM 'file://{secret}'>]><svg xmlns='http://www.w3.org/2000/svg' xmlns:xlink='http://www.w3.org/1999/xlink' width='100' height='100'><text y='20'>&x;words</text><image xlink:href='file://{secret}' width='50' height='50'/></svg>");
            if (content is not null) Assert.DoesNotContain("topsecret", Encoding.UTF8.GetString(Form(content, LeafForms.Text)), StringComparison.Ordinal);
        }
        finally
        {
            File.Delete(secret);
        }
    }

    private const string Around = "<svg xmlns='http://www.w3.org/2000/svg' xmlns:xlink='http://www.w3.org/1999/xlink' width='100' height='100'><rect width='9' height='9'/>";

    [Theory]
    [InlineData("", "")]
    [InlineData("<image xlink:href='photo.jpg' width='5' height='5'/><image href='http://example.org/a.png' width='5' height='5'/>", "2 picture")]
    [InlineData("<image xlink:href='data:image/png;base64,iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mP8z8BQDwAEhQGAhKmMIQAAAABJRU5ErkJggg==' width='5' height='5'/>", "")]
    [InlineData("<defs><g id='a'><path d='M0 0h5'/></g></defs><use xlink:href='#a'/><use href='symbols.svg#valve'/><a xlink:href='http://example.org'><rect width='3' height='3'/></a>", "1 part of another file")]
    [InlineData("<rect width='5' height='5' style='fill: url(#p); stroke: url( \"other.svg#q\" )'/><rect width='5' height='5' clip-path='url(clips.svg#c)'/>", "2 part of another file")]
    [InlineData("<style>@import url('house.css'); @font-face { font-family: x; src: url(x.woff) } rect { fill: url(#in) }</style>", "1 style sheet, 1 font")]
    [InlineData("<style><![CDATA[ @import 'house.css'; ]]></style>", "1 style sheet")]
    [InlineData("<script>alert(1)</script><rect width='5' height='5'><animate attributeName='x' to='9' dur='1s'/></rect>", "1 script, 1 movement")]
    [InlineData("<foreignObject width='5' height='5'><p xmlns='http://www.w3.org/1999/xhtml'>words</p></foreignObject>", "1 content of another kind")]
    [InlineData("<switch><g><foreignObject width='5' height='5'/></g><text y='9'>words</text></switch><switch><foreignObject width='5' height='5'/><text y='9'>words</text></switch>", "1 content of another kind")]
    public void WhatIsNotDrawnIsCounted(string inside, string told)
    {
        var (content, fault) = Read(Around + inside + "</svg>");
        Assert.True(content is not null, fault?.ToString());
        var losses = content.Report().NotShown;
        Assert.Equal(told, string.Join(", ", losses.Select(l => $"{l.Count} {l.Type}")));
        Assert.All(losses, l => Assert.EndsWith(".", l.Why, StringComparison.Ordinal));
    }

    [Fact]
    public void LossesAreToldOfFilesWithEntitiesAndOfSuchAsAreNoWholeXml()
    {
        static string Of(string svg) => string.Join(", ", SvgLosses.Of(Encoding.UTF8.GetBytes(svg)).Select(l => $"{l.Count} {l.Type}"));
        Assert.Equal("1 style sheet, 1 picture", Of("<?xml-stylesheet type='text/css' href='house.css'?><!DOCTYPE svg [<!ENTITY ns 'http://www.w3.org/1999/xlink'>]><svg xmlns='http://www.w3.org/2000/svg' xmlns:xlink='&ns;'><image xlink:href='a.png'/></svg>"));
        Assert.Equal("1 picture", Of("<svg xmlns='http://www.w3.org/2000/svg'><image href='a.png'/><rect"));
        Assert.Equal("", Of("no XML"));
        Assert.Equal("", Of(""));
        Assert.Equal("", Of("<?xml version='1.0' encoding='of our own'?><svg/>"));
        Assert.Empty(SvgLosses.Of([0, 0, 0xFF, 0xFE, 0, 0, 0]));
        // Entities that multiply end it; they are no reason to wait.
        var laughs = "<!DOCTYPE svg [<!ENTITY a0 'ha ha ha ha '>" + string.Concat(Enumerable.Range(1, 20).Select(i => $"<!ENTITY a{i} '&a{i - 1};&a{i - 1};&a{i - 1};&a{i - 1};'>")) + "]><svg xmlns='http://www.w3.org/2000/svg'><image href='a.png'/><text>&a20;</text></svg>";
        var watch = Stopwatch.StartNew();
        Assert.Equal("1 picture", Of(laughs));
        Assert.InRange(watch.Elapsed, TimeSpan.Zero, TimeSpan.FromSeconds(20));
    }

    [Fact]
    public void ASheetThatDrawsItselfWithoutEndEnds()
    {
        var uses = string.Concat(Enumerable.Range(0, 24).Select(i => $"<g id='g{i + 1}'><use href='#g{i}'/><use href='#g{i}' x='1'/><use href='#g{i}' y='1'/></g>"));
        var since = Stopwatch.StartNew();
        var (content, fault) = Read($"<svg xmlns='http://www.w3.org/2000/svg' width='100' height='100'><defs><rect id='g0' width='1' height='1'/>{uses}</defs><use href='#g24'/></svg>");
        Assert.True(content is not null || fault is not null);
        Assert.True(since.Elapsed < TimeSpan.FromMinutes(2), $"it took {since.Elapsed}");
    }
}
