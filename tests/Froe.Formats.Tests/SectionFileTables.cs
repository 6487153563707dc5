using System.Text;
using System.Xml.Linq;
using Froe.Core.Drawing;
using Froe.Core.Models;
using Froe.Formats.Out;
using Xunit;

namespace Froe.Formats.Tests;

/// <summary>Sections of models as drawings for others: what goes out is read again as what was cut.</summary>
public class SectionFileTables
{
    /// <summary>A square frame of 20 about one of 10, with two strokes of hatching, and a line that does not close.</summary>
    private static readonly SectionCut Frame = new(default, new(1, 0, 0), new(0, 0, 1),
    [
        new CutFace(0, [[0, 0, 20, 0, 20, 20, 0, 20], [5, 5, 5, 15, 15, 15, 15, 5]], [], 300, [], [0, 5, 5, 10, 0, 15, 5, 20]),
        new CutFace(3, [], [[30, 0, 30.5, 12.25, 31, 0]], null, [], []),
    ]);

    private static Sheet Read(LengthUnit unit)
    {
        using var file = new MemoryStream();
        SectionFile.WriteDxf(Frame, unit, file);
        file.Position = 0;
        return Assert.Single(Dxf.DxfReader.Read(file).Drawing!.Sheets);
    }

    [Fact]
    public void ADxfHasOutlinesAndHatchingOnLayersOfTheirOwnAtTrueSize()
    {
        var sheet = Read(LengthUnit.Millimetre);
        Assert.Equal(LengthUnit.Millimetre, sheet.Unit);
        Assert.Equal((0, 0, 31, 20), (sheet.Extents.MinX, sheet.Extents.MinY, sheet.Extents.MaxX, sheet.Extents.MaxY));
        int On(string layer) => sheet.SegmentEntity.Count(e => sheet.Layers[sheet.Styles[sheet.EntityStyle[e]].Layer].Name == layer);
        Assert.Equal((10, 2), (On("OUTLINES"), On("HATCHING")));
        Assert.Equal(LengthUnit.Unknown, Read(LengthUnit.Unknown).Unit);
    }

    [Fact]
    public void AnSvgIsAsLargeAsTheSectionWithUpUp()
    {
        using var file = new MemoryStream();
        SectionFile.WriteSvg(Frame, LengthUnit.Millimetre, "Section of <A> & B\u0001", file);
        var svg = XDocument.Parse(Encoding.UTF8.GetString(file.ToArray())).Root!;
        XNamespace names = "http://www.w3.org/2000/svg";
        var box = ((string)svg.Attribute("viewBox")!).Split(' ').Select(n => double.Parse(n, System.Globalization.CultureInfo.InvariantCulture)).ToArray();
        Assert.Equal($"{box[2]}mm", (string)svg.Attribute("width")!);
        Assert.True(box[0] < 0 && box[1] < -20 && box[2] > 31 && box[3] > 20);
        Assert.Equal("Section of <A> & B", (string)svg.Element(names + "title")!);
        var paths = svg.Descendants(names + "path").Select(p => (string)p.Attribute("d")!).ToList();
        Assert.Equal("M0 0L20 0L20 -20L0 -20ZM5 -5L5 -15L15 -15L15 -5Z", paths[1]);
        Assert.Equal("M30 0L30.5 -12.25L31 0", paths[2]);
    }

    [Fact]
    public void LaidFlatItIsASheetOfTheModelsUnit()
    {
        var sheet = SectionSheet.Of(Frame, LengthUnit.Millimetre);
        Assert.Equal((12, 2), (sheet.SegmentEntity.Length, sheet.Layers.Count));
        Assert.Equal(1, Assert.Single(sheet.Scales).Millimetres);
        Assert.Empty(SectionSheet.Of(Frame, LengthUnit.Unknown).Scales);
    }
}
