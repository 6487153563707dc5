using System.Text;
using Froe.Core.Draft;
using Froe.Formats.Texts;
using Xunit;

namespace Froe.Formats.Tests;

/// <summary>Texts laid out on sheets of paper, and files of which nothing is shown.</summary>
public class TextTables
{
    private static DraftContent Read(byte[] file)
    {
        var (content, fault) = new TextDraftReader().Read(new MemoryStream(file), new ReadLimits());
        Assert.True(content is not null, fault?.ToString());
        return content!;
    }

    private static List<WrittenRun> Lines(DraftContent content) => [.. content.Leaves.SelectMany(l =>
    {
        var to = new MemoryStream();
        l.Forms.Single(f => f.Name == LeafForms.Text).Write(to);
        to.Position = 0;
        return WrittenForm.Read(to);
    })];

    private static string[] Words(string text) => [.. Lines(Read(Encoding.UTF8.GetBytes(text))).Select(l => l.Text)];

    [Fact]
    public void MarkdownIsReadWithoutItsSigns() => Assert.Equal(
        ["Bill of changes", "•  the bolts", "two grades", "see list (a.csv)", "x = 1"], Words("# Bill of changes\n\n- the **bolts**\n> two `grades`\n[see list](a.csv)\n---\n```\nx = 1\n```\n"));

    [Fact]
    public void ALineIsBrokenBetweenWordsAndKeepsWithinTheSheet()
    {
        var lines = Lines(Read(Encoding.UTF8.GetBytes(string.Join(' ', Enumerable.Range(0, 200).Select(i => $"word{i}")) + "\n" + new string('W', 500))));
        Assert.True(lines.Count > 10);
        Assert.All(lines, l => Assert.InRange(l.At.X + l.Along.X, 20, 190.5));
        Assert.Equal(Enumerable.Range(0, 200).Select(i => $"word{i}"), lines.Where(l => l.Text[0] == 'w').SelectMany(l => l.Text.Split(' ')));
        Assert.Equal(500, lines.Where(l => l.Text[0] == 'W').Sum(l => l.Text.Length));
    }

    [Fact]
    public void ALongTextHasSeveralSheetsAndNothingIsLost()
    {
        var content = Read(Encoding.UTF8.GetBytes(string.Join('\n', Enumerable.Range(0, 500).Select(i => $"line {i}"))));
        Assert.InRange(content.Leaves.Count, 6, 14);
        Assert.Equal(Enumerable.Range(0, 500).Select(i => $"line {i}"), Lines(content).Select(l => l.Text));
        Assert.All(Lines(content), l => Assert.InRange(l.At.Y, 19, 277));
        Assert.Equal((210, 297), (((SheetFrame)content.Leaves[0].Leaf.Frame).Extents.Width, ((SheetFrame)content.Leaves[0].Leaf.Frame).Extents.Height));
    }

    [Fact]
    public void MoreSheetsThanADraftHoldsAreSaid()
    {
        var (content, _) = new TextDraftReader().Read(new MemoryStream(Encoding.UTF8.GetBytes(new string('\n', 100_000))), new ReadLimits(MostLeaves: 3));
        Assert.Equal((3, "rest of the text"), (content!.Leaves.Count, Assert.Single(content.Report().NotShown).Type));
    }

    [Theory]
    [InlineData(new byte[] { 0xEF, 0xBB, 0xBF, 0xC3, 0xA6 }, "æ")]
    [InlineData(new byte[] { 0xFF, 0xFE, 0xE6, 0x00 }, "æ")]
    [InlineData(new byte[] { (byte)'a', 0xE6 }, "aæ")]
    [InlineData(new byte[] { (byte)'a', (byte)'\t', (byte)'b' }, "a    b")]
    public void TextIsReadAsItIsEncoded(byte[] file, string words) => Assert.Equal(words, Assert.Single(Lines(Read(file))).Text);

    [Fact]
    public void BytesThatAreNoTextAreRefused() => Assert.Contains("no text", new TextDraftReader().Read(new MemoryStream([1, 0, 2]), new ReadLimits()).Fault!.What, StringComparison.Ordinal);

    [Theory]
    [InlineData("list.zip", "supporting")]
    [InlineData("no ending", "supporting")]
    [InlineData("A.PDF", "pdf")]
    [InlineData("a.dxf.tif", "picture")]
    [InlineData("read me.md", "text")]
    public void AFilesNameChoosesItsReader(string name, string reader) => Assert.Equal(reader, Readers.For(name).Name);

    [Fact]
    public void OfASupportingFileNothingIsShown()
    {
        var (content, _) = Readers.Supporting.Read(new MemoryStream([1, 2, 3]), new ReadLimits());
        Assert.Empty(content!.Leaves);
        Assert.Equal(3, content.Report().Bytes);
        Assert.NotNull(Readers.Supporting.Read(new MemoryStream([]), new ReadLimits()).Fault);
    }
}
