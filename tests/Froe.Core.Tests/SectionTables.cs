using CsCheck;
using Froe.Core.Drawing;
using Froe.Core.Models;
using Xunit;

namespace Froe.Core.Tests;

/// <summary>What a plane cuts of a model, against what it is by formula.</summary>
public static class SectionTables
{
    private static readonly IReadOnlySet<int> Nothing = new HashSet<int>();
    private static readonly int[] Ring = [0, 1, 2, 3];

    private static readonly Affine Upright = Affine.Identity;

    /// <summary>A scene of bodies as loose triangles, each a part placed once, with the meshes that it is cut as.</summary>
    private static (SceneFacts Scene, List<Mesh> Meshes) Bodies(params (Point3[] Points, Affine At)[] bodies)
    {
        var parts = bodies.Select(b =>
        {
            var shaped = MeshShaping.Of(b.Points, [.. Enumerable.Range(0, b.Points.Length)]);
            return new Part("Body", "", null, null, shaped.Mesh, [.. Enumerable.Repeat(Face.Unknown, shaped.Mesh.Faces)], shaped.Edges, null, 0);
        }).ToList();
        var scene = new Scene(LengthUnit.Millimetre, [.. bodies.Select((b, i) => new Component("Body", "", "", -1, b.At, null, i))], parts);
        return (PreparedScene.FactsOf(scene), [.. parts.Select(p => p.Mesh)]);
    }

    /// <summary>A square tube along z: outer and inner side, height.</summary>
    private static Point3[] Tube(double outer, double inner, double height)
    {
        Point3 At(double side, int i, double z) => new((i is 1 or 2 ? side : -side) / 2, (i is 2 or 3 ? side : -side) / 2, z);
        Point3[] Quad(Point3 a, Point3 b, Point3 c, Point3 d) => [a, b, c, a, c, d];
        return [.. Ring.SelectMany(i => (Point3[])[
            .. Quad(At(outer, i, 0), At(outer, (i + 1) % 4, 0), At(outer, (i + 1) % 4, height), At(outer, i, height)),
            .. Quad(At(inner, (i + 1) % 4, 0), At(inner, i, 0), At(inner, i, height), At(inner, (i + 1) % 4, height)),
            .. Quad(At(outer, (i + 1) % 4, 0), At(outer, i, 0), At(inner, i, 0), At(inner, (i + 1) % 4, 0)),
            .. Quad(At(outer, i, height), At(outer, (i + 1) % 4, height), At(inner, (i + 1) % 4, height), At(inner, i, height))])];
    }

    private static SectionCut Cut((SceneFacts Scene, List<Mesh> Meshes) of, Point3 along, double at, IReadOnlySet<int>? leftOut = null) =>
        SectionCut.Of(of.Scene, of.Meshes, new Section(along.Unit(), at), leftOut ?? Nothing);

    [Fact]
    public static void ABoxIsCutToARectangleSeenAsAnElevationOrAPlan()
    {
        var box = Bodies((ModelTables.LooseBox(10, 20, 30), Upright));
        // What the front half leaves is seen from the front: x to the right, z up.
        var front = Cut(box, new(0, -1, 0), -5);
        Assert.Equal((new Point3(1, 0, 0), new Point3(0, 0, 1), new Point3(0, 5, 0)), (front.Right, front.Up, front.Origin));
        var face = Assert.Single(front.Faces);
        Assert.Equal(300, face.Area!.Value, 9);
        var loop = Assert.Single(face.Loops);
        Assert.Empty(face.Open);
        Assert.Equal((0, 10), (loop.Where((_, i) => i % 2 == 0).Min(), loop.Where((_, i) => i % 2 == 0).Max()));
        Assert.Equal((0, 30), (loop.Where((_, i) => i % 2 == 1).Min(), loop.Where((_, i) => i % 2 == 1).Max()));
        // From above: x to the right, y up.
        var plan = Cut(box, new(0, 0, 1), 7);
        Assert.Equal((new Point3(1, 0, 0), new Point3(0, 1, 0)), (plan.Right, plan.Up));
        Assert.Equal(200, Assert.Single(plan.Faces).Area!.Value, 9);
        // From the right: y to the right.
        Assert.Equal(new Point3(0, 1, 0), Cut(box, new(1, 0, 0), 4).Right);
        Assert.Empty(Cut(box, new(0, 0, 1), 31).Faces);
        Assert.Empty(Cut(box, new(0, 0, 1), 7, new HashSet<int> { 0 }).Faces);
    }

    [Fact]
    public static void AHollowBodyHasAnOutlineWithinAnOutlineAndIsHatchedBetweenThem()
    {
        var face = Assert.Single(Cut(Bodies((Tube(40, 24, 100), Upright)), new(0, 0, 1), 50).Faces);
        Assert.Equal(2, face.Loops.Count);
        Assert.Equal((40 * 40) - (24 * 24), face.Area!.Value, 9);
        Assert.NotEmpty(face.Hatching);
        for (var i = 0; i < face.Hatching.Count; i += 4)
        {
            double x = (face.Hatching[i] + face.Hatching[i + 2]) / 2, y = (face.Hatching[i + 1] + face.Hatching[i + 3]) / 2;
            Assert.InRange(Math.Max(Math.Abs(x), Math.Abs(y)), 12 - 1e-9, 20 + 1e-9);
            Assert.Equal(1, (face.Hatching[i + 3] - face.Hatching[i + 1]) / (face.Hatching[i + 2] - face.Hatching[i]), 6);
        }
    }

    [Fact]
    public static void PlacedTurnedAndMirroredBodiesAreCutWhereTheyStandAndNeighboursAreHatchedOtherwise()
    {
        var box = ModelTables.LooseBox(10, 20, 30);
        var turned = new Affine(new(0, 1, 0), new(-1, 0, 0), new(0, 0, 1), new(100, 0, 0));
        var mirrored = new Affine(new(-2, 0, 0), new(0, 2, 0), new(0, 0, 2), new(-50, 0, 0));
        var cut = Cut(Bodies((box, Upright), (box, turned), (box, mirrored)), new(0, 0, 1), 15);
        Assert.Equal(3, cut.Faces.Count);
        Assert.Equal([200.0, 200, 800], cut.Faces.Select(f => Math.Round(f.Area!.Value, 6)));
        Assert.Equal((80, 100), (cut.Faces[1].Loops[0].Where((_, i) => i % 2 == 0).Min(), cut.Faces[1].Loops[0].Where((_, i) => i % 2 == 0).Max()));
        double Lean(CutFace f) => Math.Sign((f.Hatching[2] - f.Hatching[0]) * (f.Hatching[3] - f.Hatching[1]));
        Assert.NotEqual(Lean(cut.Faces[0]), Lean(cut.Faces[1]));
    }

    [Fact]
    public static void WhatHasAGapIsToldAndNotFilledAndASmallOneIsBridged()
    {
        var box = ModelTables.LooseBox(10, 20, 30);
        // Without one of the two triangles of the side at x = 10, the outline at z = 15 does not close.
        var open = Assert.Single(Cut(Bodies(([.. box[..30], .. box[33..]], Upright)), new(0, 0, 1), 15).Faces);
        Assert.Empty(open.Loops);
        Assert.Null(open.Area);
        Assert.Single(open.Open);
        Assert.Empty(open.Hatching);
        // The whole side a hair away: ends that all but meet are one.
        var moved = box.Select((p, i) => i >= 30 ? p + new Point3(0.0005, 0, 0) : p).ToArray();
        var face = Assert.Single(Cut(Bodies((moved, Upright)), new(0, 0, 1), 15).Faces);
        Assert.Single(face.Loops);
        Assert.Equal(200, face.Area!.Value, 1);
    }

    [Fact]
    public static void APlaneThroughCornersAndAlongFacesLeavesNoLooseEnds()
    {
        var box = Bodies((ModelTables.LooseBox(10, 10, 10), Upright));
        // Through two opposite edges.
        var across = Assert.Single(Cut(box, new(1, -1, 0), 0).Faces);
        Assert.Empty(across.Open);
        Assert.Equal(100 * Math.Sqrt(2), across.Area!.Value, 6);
        // In the plane of the top: what lies behind it is all of the box.
        Assert.Equal(100, Assert.Single(Cut(box, new(0, 0, 1), 10).Faces).Area!.Value, 9);
        // In the plane of the bottom nothing lies behind.
        Assert.Empty(Cut(box, new(0, 0, 1), 0).Faces);
    }

    [Fact]
    public static void AnyPlaneThroughABoxLeavesTheAreaThatItsVolumeGrowsBy() => Gen.Select(Gen.Double[-1, 1], Gen.Double[-1, 1], Gen.Double[-1, 1], Gen.Double[0.1, 0.9], Gen.Double[1, 50]).Sample((x, y, z, share, size) =>
    {
        if (Math.Min(Math.Abs(x), Math.Min(Math.Abs(y), Math.Abs(z))) < 0.02) return;
        var along = new Point3(x, y, z).Unit();
        double a = Math.Abs(along.X) * size, b = Math.Abs(along.Y) * size * 2, c = Math.Abs(along.Z) * size * 3;
        var reach = a + b + c;
        // From the corner that lies farthest behind the plane: the cube's section is the second difference of the square of the distance.
        var s = share * reach;
        double Half(double d) => d > 0 ? d * d : 0;
        var sum = Half(s) - Half(s - a) - Half(s - b) - Half(s - c) + Half(s - a - b) + Half(s - a - c) + Half(s - b - c) - Half(s - a - b - c);
        var wanted = sum / (2 * Math.Abs(along.X * along.Y * along.Z));
        var least = Math.Min(0, along.X * size) + Math.Min(0, along.Y * size * 2) + Math.Min(0, along.Z * size * 3);
        var cut = Cut(Bodies((ModelTables.LooseBox(size, size * 2, size * 3), Upright)), along, least + s);
        var face = Assert.Single(cut.Faces);
        Assert.Single(face.Loops);
        Assert.Equal(1, face.Area!.Value / wanted, 6);
    });

    [Fact]
    public static void OnlyASoundPlaneCuts()
    {
        Assert.True(new Section(new(0, 0, 1), 3, 2).IsSound());
        Assert.False(new Section(new(0, 0, 2), 3).IsSound());
        Assert.False(new Section(default, 3).IsSound());
        Assert.False(new Section(new(0, 0, 1), double.NaN).IsSound());
        Assert.False(new Section(new(0, 0, 1), 3, 0).IsSound());
        Assert.Equal(2, new Section(new(0, 0, 1), 3).Before(new(9, 9, 5)));
    }
}
