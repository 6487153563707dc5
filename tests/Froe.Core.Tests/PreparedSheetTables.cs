using System.Text;
using System.Text.Json;
using CsCheck;
using Froe.Core.Drawing;
using Xunit;

namespace Froe.Core.Tests;

/// <summary>What is written of a sheet for those who draw it, catch its points and compare it.</summary>
public class PreparedSheetTables
{
    private static readonly Layer[] Layers = [new("0", true, 0), new("Centre", true, 0xFF0000)];

    private static Sheet Drawn(Action<SheetBuilder> draw, double[]? dashes = null)
    {
        var builder = new SheetBuilder();
        builder.Begin(new EntityLook(0x1F, 0, 0, 25, dashes ?? [], "LINE"));
        draw(builder);
        return builder.Build("Model", LengthUnit.Millimetre, Layers);
    }

    private static Dictionary<string, byte[]> Sections(byte[] form)
    {
        Assert.Equal("FRSH", Encoding.ASCII.GetString(form, 0, 4));
        Assert.Equal(2, BitConverter.ToInt32(form, 4));
        var found = new Dictionary<string, byte[]>();
        for (var i = 0; i < BitConverter.ToInt32(form, 8); i++)
        {
            var (at, length) = (BitConverter.ToInt32(form, 12 + (12 * i) + 4), BitConverter.ToInt32(form, 12 + (12 * i) + 8));
            Assert.Equal(0, at % 8);
            found.Add(Encoding.ASCII.GetString(form, 12 + (12 * i), 4), form[at..(at + length)]);
        }
        return found;
    }

    private static Dictionary<string, byte[]> Geometry(Sheet sheet)
    {
        using var to = new MemoryStream();
        PreparedSheet.WriteGeometry(sheet, to);
        return Sections(to.ToArray());
    }

    private static Dictionary<string, byte[]> Details(Sheet sheet)
    {
        using var to = new MemoryStream();
        PreparedSheet.WriteDetails(sheet, to);
        return Sections(to.ToArray());
    }

    private static float Float(byte[] section, int i) => BitConverter.ToSingle(section, 4 * i);

    [Fact]
    public void TheGeometryHoldsWhatIsDrawn()
    {
        var sheet = Drawn(b =>
        {
            b.Line(new(0, 0), new(10, 0));
            b.Triangle(new(0, 0), new(4, 0), new(0, 4));
        });
        var sections = Geometry(sheet);
        Assert.Equal(["HEAD", "STRK", "STRE", "TRIA", "TRIE", "HAND", "STYL"], sections.Keys);
        // The origin is the middle of what is covered: 5, 2.
        Assert.Equal([-5, -2, 5, -2], Enumerable.Range(0, 4).Select(i => Float(sections["STRK"], i)));
        Assert.Equal([-5, -2, -1, -2, -5, 2], Enumerable.Range(0, 6).Select(i => Float(sections["TRIA"], i)));
        Assert.Equal(0x1FUL, BitConverter.ToUInt64(sections["HAND"]));
        var head = JsonSerializer.Deserialize<JsonElement>(sections["HEAD"]);
        Assert.Equal(("millimetre", 1, 1), (head.GetProperty("unit").GetString(), head.GetProperty("segments").GetInt32(), head.GetProperty("triangles").GetInt32()));
    }

    [Fact]
    public void OnlyPointsOfTheFileAreEnds()
    {
        // A rounded corner: straight, a quarter of a circle in chords, straight.
        var arc = new EllipseArc(new(10, 5), new(0, -5), new(5, 0), 0, Math.PI / 2);
        List<PointXY> points = [new(0, 0)];
        var from = points.Count;
        Curves.Flatten(arc, 0.1, points);
        var to = points.Count - 1;
        points.Add(new(15, 20));
        var sheet = Drawn(b => b.Path(points, closed: false, [new CurvedStretch(from, to, arc)]));
        var ends = sheet.SegmentEnds;
        Assert.Equal((StrokeEnds.Both, StrokeEnds.Both), (ends[0], ends[^1]));
        Assert.Equal(StrokeEnds.First, ends[1]);
        Assert.Equal(StrokeEnds.Second, ends[^2]);
        Assert.All(ends[2..^2], e => Assert.Equal(StrokeEnds.None, e));
        Assert.Equal(ends.Length, Details(sheet)["SNAP"].Length);
    }

    [Fact]
    public void ACircleIsKeptAsItIs()
    {
        var sheet = Drawn(b => b.Arc(new EllipseArc(new(100, 50), new(12.5, 0), new(0, 12.5), 0, 2 * Math.PI)));
        var curves = Details(sheet)["CURV"];
        Assert.Equal(40, curves.Length);
        Assert.Equal((0, 1), (BitConverter.ToInt32(curves, 0), BitConverter.ToInt32(curves, 4)));
        Assert.Equal((100, 50), (Math.Round(Float(curves, 2) + sheet.Origin.X, 5), Math.Round(Float(curves, 3) + sheet.Origin.Y, 5)));
        Assert.Equal([12.5f, 0, 0, 12.5f, 0, (float)(2 * Math.PI)], Enumerable.Range(4, 6).Select(i => Float(curves, i)));
        // A circle begins and ends where its program began it.
        Assert.Equal((StrokeEnds.First, StrokeEnds.Second), (sheet.SegmentEnds[0], sheet.SegmentEnds[^1]));
    }

    [Fact]
    public void ADashedLineIsCaughtAtItsOwnEndsAndNotAtItsDashes()
    {
        var sheet = Drawn(b => b.Line(new(0, 0), new(20, 0)), [3, -1]);
        Assert.True(sheet.SegmentEnds.Length > 3);
        Assert.All(sheet.SegmentEnds, e => Assert.Equal(StrokeEnds.None, e));
        var curve = Assert.Single(sheet.Curves);
        Assert.Equal((true, new PointXY(0, 0), new PointXY(20, 0)), (curve.IsStraight, curve.Arc.Centre, curve.Arc.Major));
    }

    [Fact]
    public void HatchingAndTheArmsOfAPointAreNotCaught()
    {
        var sheet = Drawn(b =>
        {
            b.Hatching(new(0, 0), new(5, 5));
            b.Point(new(7, 8), 0.5);
        });
        Assert.All(sheet.SegmentEnds, e => Assert.Equal(StrokeEnds.None, e));
        Assert.Equal((new PointXY(7, 8), new PointXY(0, 0)), (sheet.Curves.Single().Arc.Centre, sheet.Curves.Single().Arc.Major));
    }

    [Fact]
    public void AnEntityHasItsKindItsBoxAndItsSignature()
    {
        var builder = new SheetBuilder();
        builder.Begin(new EntityLook(1, 0, 0, 25, [], "LINE"));
        builder.Line(new(0, 0), new(10, 4));
        builder.Begin(new EntityLook(2, 1, 0, 25, [], "CIRCLE"));
        builder.Arc(new EllipseArc(new(5, 5), new(1, 0), new(0, 1), 0, 2 * Math.PI));
        builder.Begin(new EntityLook(3, 1, 0, 25, [], "INSERT"));
        var sheet = builder.Build("Model", LengthUnit.Millimetre, Layers);
        var sections = Details(sheet);
        Assert.Equal(["LINE", "CIRCLE", "INSERT"], JsonSerializer.Deserialize<string[]>(sections["KIND"])!);
        var rows = sections["ENTS"];
        Assert.Equal(3 * 32, rows.Length);
        Assert.Equal([0, 1, 2], Enumerable.Range(0, 3).Select(i => BitConverter.ToInt32(rows, (32 * i) + 24)));
        Assert.Equal([0, 0, 10, 4], Enumerable.Range(0, 4).Select(i => Math.Round(Float(rows, i) + (i % 2 == 0 ? sheet.Origin.X : sheet.Origin.Y), 4)));
        Assert.Equal([4, 4, 6, 6], Enumerable.Range(0, 4).Select(i => Math.Round(Float(rows, 8 + i) + (i % 2 == 0 ? sheet.Origin.X : sheet.Origin.Y), 1)));
        // What draws nothing has a box turned inside out.
        Assert.True(Float(rows, 16) > Float(rows, 18));
    }

    [Fact]
    public void WhatAWindowCutsHasNoEndThere()
    {
        var model = new SheetBuilder();
        model.Begin(new EntityLook(1, 0, 0, 25, [], "LINE"));
        model.Line(new(0, 5), new(10, 5));
        model.Line(new(1, 1), new(3, 7));
        model.Arc(new EllipseArc(new(4, 4), new(1, 0), new(0, 1), 0, 2 * Math.PI));
        model.Arc(new EllipseArc(new(8, 5), new(3, 0), new(0, 3), 0, 2 * Math.PI));
        var paper = new SheetBuilder();
        paper.View(model, p => new(p.X * 2, p.Y * 2), new Extents(0, 0, 16, 16));
        var sheet = paper.Build("Layout", LengthUnit.Millimetre, Layers);
        var line = Enumerable.Range(0, sheet.SegmentEnds.Length).Single(i => sheet.Segments[(4 * i) + 1] == sheet.Segments[(4 * i) + 3] && Math.Abs(sheet.Segments[4 * i] - sheet.Segments[(4 * i) + 2]) == 16);
        Assert.Equal(StrokeEnds.First, sheet.SegmentEnds[line]);
        Assert.Contains(StrokeEnds.Both, sheet.SegmentEnds);
        // Of two circles the one that lies whole in the window is a circle still, twice as large.
        Assert.Equal((new PointXY(8, 8), new PointXY(2, 0)), (sheet.Curves.Single().Arc.Centre, sheet.Curves.Single().Arc.Major));
    }

    /// <summary>Whatever stands around an entity, and in whatever order, its signature is its own; moved by a thousandth it has another.</summary>
    [Fact]
    public void ASignatureIsTheEntitysOwn() =>
        Gen.Select(Gen.Double[-1e4, 1e4], Gen.Double[-1e4, 1e4], Gen.Double[-50, 50], Gen.Double[-50, 50]).Array[2, 40].Sample(lines =>
        {
            Sheet Of(IEnumerable<int> order, double moved = 0)
            {
                var builder = new SheetBuilder();
                foreach (var i in order)
                {
                    var (x, y, dx, dy) = lines[i];
                    builder.Begin(new EntityLook((ulong)i + 1, 0, 0, 25, [], "LINE"));
                    builder.Line(new(x + moved, y), new(x + moved + dx, y + dy));
                }
                return builder.Build("Model", LengthUnit.Millimetre, Layers);
            }
            static Dictionary<ulong, ulong> By(Sheet sheet) => sheet.EntityHandle.Zip(sheet.EntitySignature).ToDictionary(e => e.First, e => e.Second);
            var (one, other, away) = (By(Of(Enumerable.Range(0, lines.Length))), By(Of(Enumerable.Range(0, lines.Length).Reverse())), By(Of(Enumerable.Range(0, lines.Length), 0.001)));
            return one.Keys.All(h => one[h] == other[h] && one[h] != away[h]);
        });

    [Fact]
    public void ASignatureKnowsWordsLayerInkAndKind()
    {
        static ulong Of(string words = "Ø 12", int layer = 0, int rgb = 0, string kind = "TEXT")
        {
            var builder = new SheetBuilder();
            builder.Begin(new EntityLook(1, layer, rgb, 25, [], kind));
            builder.Text(new TextRun(words, new(1, 1), new(3, 0), new(0, 3), 0, 0, 0));
            return builder.Build("Model", LengthUnit.Millimetre, Layers).EntitySignature[0];
        }
        ulong[] all = [Of(), Of(words: "Ø 13"), Of(layer: 1), Of(rgb: 0xCC0000), Of(kind: "MTEXT")];
        Assert.Equal(all.Length, all.Distinct().Count());
        Assert.Equal(all[0], Of());
    }
}
