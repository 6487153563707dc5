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
