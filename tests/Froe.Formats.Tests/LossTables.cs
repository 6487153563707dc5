using System.Text;
using DocumentFormat.OpenXml.Packaging;
using Froe.Core.Draft;
using Xunit;
using static Froe.Formats.Tests.ModelFiles;
using Over = DocumentFormat.OpenXml.Drawing.Spreadsheet;

namespace Froe.Formats.Tests;

/// <summary>What a file holds and its leaf does not show is told, whatever it is: nobody takes what they see for all there is.</summary>
public class LossTables
{
    private static (DraftContent Content, string Told) Read(string name, byte[] file)
    {
        var (content, fault) = Readers.For(name).Read(new MemoryStream(file), new ReadLimits());
        Assert.True(content is not null, fault?.ToString());
        return (content, string.Join(", ", content.Report().NotShown.Where(n => n.Type != "open side").Select(n => $"{n.Count} {n.Type}")));
    }

    private const string Tetrahedron = "<vertices><vertex x='0' y='0' z='0'/><vertex x='9' y='0' z='0'/><vertex x='0' y='9' z='0'/><vertex x='0' y='0' z='9'/></vertices>";

    private static string Model(string triangles, string more = "", string on = "") => $"""
        <?xml version="1.0"?><model unit="millimeter" xmlns="http://schemas.microsoft.com/3dmanufacturing/core/2015/02" xmlns:b="http://schemas.microsoft.com/3dmanufacturing/beamlattice/2017/02" xmlns:m="http://schemas.microsoft.com/3dmanufacturing/material/2015/02">
        <resources><m:colorgroup id="5"><m:color color="#FF0000FF"/><m:color color="#00FF00FF"/></m:colorgroup><object id="1" {on}><mesh>{Tetrahedron}<triangles>{triangles}</triangles>{more}</mesh></object></resources><build><item objectid="1"/></build></model>
        """;

    private static string Facets(params string[] of) => $"<triangle v1='0' v2='2' v3='1' {of[0]}/><triangle v1='0' v2='1' v3='3' {of[1]}/><triangle v1='1' v2='2' v3='3' {of[2]}/><triangle v1='2' v2='0' v3='3' {of[3]}/>";

    [Fact]
    public void ALatticeOfBeamsAndPicturesOnFacesOf3MfAreTold()
    {
        var plain = Facets("", "", "", "");
        Assert.Equal("", Read("a.3mf", ThreeMf(Model(plain))).Told);
        Assert.Equal("2 beam of a lattice", Read("a.3mf", ThreeMf(Model(plain, "<b:beamlattice radius='1'><b:beams><b:beam v1='0' v2='1'/><b:beam v1='1' v2='2'/></b:beams></b:beamlattice>"))).Told);
        Assert.Equal("1 picture on a face", Read("a.3mf", ThreeMf(Model(plain).Replace("<object", "<m:texture2d id='8' path='/t.png' contenttype='image/png'/><object", StringComparison.Ordinal))).Told);
        Assert.Equal("1 triangle", Read("a.3mf", ThreeMf(Model(plain + "<triangle v1='0' v2='1' v3='77'/>"))).Told);
    }

    [Theory]
    // One that is the object's, or of all triangles, is the part's; what differs is told.
    [InlineData("pid='5' pindex='0'", "", "", "", "", "#ff0000", "")]
    [InlineData("pid='5' pindex='0'", "p1='0'", "p1='1'", "pid='5' p1='1' p2='0' p3='1'", "", "#ff0000", "2 colour of a triangle")]
    [InlineData("", "pid='5' p1='1'", "pid='5' p1='1'", "pid='5' p1='1'", "pid='5' p1='1'", "#00ff00", "")]
    [InlineData("", "pid='5' p1='1'", "pid='5' p1='1'", "", "pid='5' p1='0'", "", "3 colour of a triangle")]
    [InlineData("pid='5' pindex='1'", "pid='6' p1='0'", "p1='9'", "", "", "#00ff00", "")]
    public void ColoursOfTrianglesOf3Mf(string on, string first, string second, string third, string fourth, string colour, string told)
    {
        var (content, said) = Read("a.3mf", ThreeMf(Model(Facets(first, second, third, fourth), on: on)));
        Assert.Equal(told, said);
        using var to = new MemoryStream();
        Assert.Single(content.Leaves).Forms.Single(f => f.Name == LeafForms.Scene).Write(to);
        var shown = Encoding.UTF8.GetString(to.ToArray());
        Assert.Equal(colour, string.Concat(new[] { "#ff0000", "#00ff00" }.Where(c => shown.Contains(c, StringComparison.Ordinal))));
    }

    [Theory]
    [InlineData("", "")]
    [InlineData("l 1 2 4\np 4\nl 2 3\n", "3 lines or points")]
    [InlineData("cstype bezier\ndeg 3\ncurv 0 1 1 2 3 4\nend\n", "1 curve or surface")]
    [InlineData("v 5 5 5 1 0 0\nv 5 5 5 0.2 0.2 0.2\nv 5 5 5 1.0\n", "2 colour of a point")]
    // Three numbers are three, however far apart.
    [InlineData("v   5.0     5.0     5.0\nv\t5\t\t5\t\t5\nl\t1 2\n", "1 lines or points")]
    [InlineData("f 1 2 99\n", "1 face")]
    public void WhatAnObjFileHoldsBesidesFacesIsTold(string more, string told) =>
        Assert.Equal(told, Read("a.obj", Encoding.UTF8.GetBytes("v 0 0 0\nv 1 0 0\nv 0 1 0\nv 0 0 1\nf 1 2 3\nf 1 2 4\n" + more)).Told);

    [Fact]
    public void WhatLiesOverCellsIsTold()
    {
        using var made = SmallWorkbook.Of([("Data", "<sheetData><row r=\"1\"><c r=\"A1\"><v>1</v></c></row></sheetData>", "visible")]);
        using var file = new MemoryStream();
        made.CopyTo(file);
        using (var workbook = SpreadsheetDocument.Open(file, true))
        {
            var over = workbook.WorkbookPart!.WorksheetParts.Single().AddNewPart<DrawingsPart>();
            over.WorksheetDrawing = new Over.WorksheetDrawing(new Over.TwoCellAnchor(new Over.Shape(), new Over.ClientData()), new Over.TwoCellAnchor(new Over.ConnectionShape(), new Over.ClientData()));
        }
        Assert.Equal("2 shape", Read("a.xlsx", file.ToArray()).Told);
    }
}
