using CsCheck;
using Froe.Core.Drawing;
using Froe.Core.Models;
using Xunit;

namespace Froe.Core.Tests;

/// <summary>How near two parts come to one another, against what it is by formula and by looking at everything.</summary>
public static class ClearanceTables
{
    private static (SceneFacts Scene, List<Mesh> Meshes) Two((Point3[] Points, Affine At, double Deviation) a, (Point3[] Points, Affine At, double Deviation) b)
    {
        var parts = new[] { a, b }.Select(body =>
        {
            var shaped = MeshShaping.Of(body.Points, [.. Enumerable.Range(0, body.Points.Length)]);
            return new Part("Body", "", null, null, shaped.Mesh, [.. Enumerable.Repeat(Face.Unknown, shaped.Mesh.Faces)], shaped.Edges, null, body.Deviation);
        }).ToList();
        var scene = new Scene(LengthUnit.Millimetre, [new("A", "", "", -1, a.At, null, 0), new("B", "", "", -1, b.At, null, 1), new("None", "", "", -1, Affine.Identity, null, null)], parts);
        return (PreparedScene.FactsOf(scene), [.. parts.Select(p => p.Mesh)]);
    }

    private static readonly Func<int, IReadOnlyList<PartLine>> NoLines = _ => [];

    private static Affine Moved(double x, double y, double z) => Affine.Identity with { O = new(x, y, z) };

    private static Clearance Of(Affine a, Affine b, double deviation = 0)
    {
        var (scene, meshes) = Two((ModelTables.LooseBox(10, 20, 30), a, deviation), (ModelTables.LooseBox(10, 20, 30), b, deviation));
        return Clearance.Between(scene, meshes, NoLines, new(0, null, null), new(1, null, null))!;
    }

    [Fact]
    public static void FaceToFaceEdgeToEdgeAndCornerToCorner()
    {
        var face = Of(Affine.Identity, Moved(13, 1, 1), 0.01);
        Assert.Equal((3, 0.02), (face.Distance, face.Deviation));
        Assert.Equal((10, 13), (face.From.X, face.To.X));
        Assert.Equal(5, Of(Affine.Identity, Moved(13, 24, 5)).Distance, 9);
        var corner = Of(Affine.Identity, Moved(12, 23, 36));
        Assert.Equal(7, corner.Distance, 9);
        Assert.Equal(((10, 20, 30), (12, 23, 36)), ((corner.From.X, corner.From.Y, corner.From.Z), (corner.To.X, corner.To.Y, corner.To.Z)));
    }

    [Fact]
    public static void WhatTouchesOrOverlapsIsNotApartAndWhatLiesWithinIsMeasuredToItsHull()
    {
        Assert.Equal(0, Of(Affine.Identity, Moved(10, 3, 3)).Distance, 9);
        Assert.Equal(0, Of(Affine.Identity, Moved(5, 5, 5)).Distance);
        // A small one within a large one: surfaces are what is measured between.
        var small = new Affine(new(0.1, 0, 0), new(0, 0.1, 0), new(0, 0, 0.1), new(4, 9, 13));
        Assert.Equal(4, Of(Affine.Identity, small).Distance, 9);
    }

    [Fact]
    public static void SheetsThatLieAlongsideEverywhereAreToldAsAtMost()
    {
        // Two waved sheets of 200,000 triangles, a thousandth apart all over.
        static Mesh Sheet(double z)
        {
            const int Side = 317;
            var points = Enumerable.Range(0, Side * Side).Select(i => new Point3(i % Side, i / Side, z + (3 * Math.Sin(i % Side * 0.7) * Math.Cos(i / Side * 0.9)))).ToArray();
            int[] corners = [.. Enumerable.Range(0, (Side - 1) * (Side - 1)).SelectMany(n => (n / (Side - 1) * Side) + (n % (Side - 1)) is var i ? (int[])[i, i + 1, i + Side, i + 1, i + Side + 1, i + Side] : [])];
            return new Mesh(points, points, corners, [0, corners.Length / 3]);
        }
        var facts = Two((ModelTables.LooseBox(1, 1, 1), Affine.Identity, 0), (ModelTables.LooseBox(1, 1, 1), Affine.Identity, 0)).Scene;
        var found = Clearance.Between(facts, [Sheet(0), Sheet(0.001)], NoLines, new(0, null, null), new(1, null, null))!;
        Assert.InRange(found.Distance, 1e-9, 0.001 + 1e-9);
        Assert.Equal(found.Distance, (found.To - found.From).Length(), 9);
        Assert.False(Of(Affine.Identity, Moved(13, 1, 1)).IsAtMost);
    }

    [Fact]
    public static void WhatHasNoMeshIsNotMeasured()
    {
        var (scene, meshes) = Two((ModelTables.LooseBox(1, 1, 1), Affine.Identity, 0), (ModelTables.LooseBox(1, 1, 1), Affine.Identity, 0));
        Assert.Null(Clearance.Between(scene, meshes, NoLines, new(0, null, null), new(2, null, null)));
        Assert.Null(Clearance.Between(scene, meshes, NoLines, new(0, null, null), new(99, null, null)));
        Assert.Null(Clearance.Between(scene, [meshes[0], Mesh.Empty], NoLines, new(0, null, null), new(1, null, null)));
    }

    [Fact]
    public static void OfOneFaceOnlyThatFaceIsMeasured()
    {
        var (scene, meshes) = Two((ModelTables.LooseBox(10, 20, 30), Affine.Identity, 0), (ModelTables.LooseBox(10, 20, 30), Moved(13, 1, 1), 0));
        // Whichever face of the first lies at x = 0 is a block's width farther from the second.
        var far = Enumerable.Range(0, meshes[0].Faces).Single(f => Enumerable.Range(3 * meshes[0].FaceStarts[f], 3 * (meshes[0].FaceStarts[f + 1] - meshes[0].FaceStarts[f])).All(c => meshes[0].Points[meshes[0].Corners[c]].X == 0));
        Assert.Equal(13, Clearance.Between(scene, meshes, NoLines, new(0, far, null), new(1, null, null))!.Distance, 9);
        Assert.Equal(3, Enumerable.Range(0, meshes[0].Faces).Min(f => Clearance.Between(scene, meshes, NoLines, new(0, f, null), new(1, null, null))!.Distance), 9);
        Assert.Null(Clearance.Between(scene, meshes, NoLines, new(0, 99, null), new(1, null, null)));
        Assert.Null(Clearance.Between(scene, meshes, NoLines, new(0, null, 0), new(1, null, null)));
    }

    [Fact]
    public static void EdgesAndTheirEndsAreMeasuredAsTheyAreDrawn()
    {
        // Over a block of 10 × 20 × 30 at the origin: an arc that is drawn by three points, and a line off to the side.
        var (scene, meshes) = Two((ModelTables.LooseBox(10, 20, 30), Affine.Identity, 0.5), (ModelTables.LooseBox(1, 1, 1), Moved(0, 0, 100), 0.25));
        IReadOnlyList<PartLine> lines = [new(false, [new(-5, 5, -60), new(5, 5, -66), new(15, 5, -60)]), new(false, [new(14, 25, -90), new(14, 25, -80)]), new(false, [])];
        Clearance? To(PickedOnModel second, PickedOnModel? first = null) => Clearance.Between(scene, meshes, p => p == 1 ? lines : [], first ?? new(0, null, null), second);
        var arc = To(new(1, null, 0))!;
        Assert.Equal((4, 0.75), (Math.Round(arc.Distance, 9), arc.Deviation));
        Assert.Equal((5, 5, 34), (arc.To.X, arc.To.Y, Math.Round(arc.To.Z, 9)));
        // The line stands from z = 10 to 20, 4 off in x and 5 in y; its ends are points.
        Assert.Equal(Math.Sqrt(41), To(new(1, null, 1))!.Distance, 9);
        Assert.Equal((14, 25, 20), To(new(1, null, 1, new(0, 0, -70), null, true))!.To is var end ? ((int)end.X, (int)end.Y, (int)end.Z) : default);
        Assert.Equal((14, 25, 10), To(new(1, null, 1, new(0, 0, -100), null, true))!.To is var start ? ((int)start.X, (int)start.Y, (int)start.Z) : default);
        Assert.Equal(10, To(new(1, null, 1, new(0, 0, -70), null, true), new(1, null, 1, new(0, 0, -100), null, true))!.Distance, 9);
        Assert.Null(To(new(1, null, 2)));
        Assert.Null(To(new(1, null, 2, null, null, true)));
        Assert.Null(To(new(1, null, 9)));
    }

    [Fact]
    public static void BetweenClustersOfTrianglesItIsTheLeastOfAllPairs() => Gen.Select(Gen.Double[-10, 10].Array[9 * 30], Gen.Double[-10, 10].Array[9 * 30], Gen.Double[0, 25]).Sample((a, b, away) =>
    {
        static Point3[] Points(double[] n, double shift) => [.. Enumerable.Range(0, n.Length / 3).Select(i => new Point3((n[3 * i] / (i % 3 == 0 ? 1 : 4)) + shift, n[(3 * i) + 1], n[(3 * i) + 2]))];
        var (first, second) = (Points(a, 0), Points(b, away));
        Mesh Loose(Point3[] p) => new(p, p, [.. Enumerable.Range(0, p.Length)], [0, p.Length / 3]);
        var facts = Two((ModelTables.LooseBox(1, 1, 1), Affine.Identity, 0), (ModelTables.LooseBox(1, 1, 1), Affine.Identity, 0)).Scene;
        var found = Clearance.Between(facts, [Loose(first), Loose(second)], NoLines, new(0, null, null), new(1, null, null))!;
        var least = Enumerable.Range(0, 30).Min(i => Enumerable.Range(0, 30).Min(k => TrianglePair.Nearest((first[3 * i], first[(3 * i) + 1], first[(3 * i) + 2]), (second[3 * k], second[(3 * k) + 1], second[(3 * k) + 2])).Distance));
        Assert.Equal(least, found.Distance, 6);
        Assert.Equal(found.Distance, (found.To - found.From).Length(), 9);
    }, iter: 60);

    [Fact]
    public static void BetweenTwoTrianglesNoPointsOfThemAreNearer() => Gen.Double[-5, 5].Array[18].Select(Gen.Double[0, 1].Array[40]).Sample((n, s) =>
    {
        Point3 P(int i) => new(n[3 * i], n[(3 * i) + 1], n[(3 * i) + 2]);
        var (first, second) = ((P(0), P(1), P(2)), (P(3), P(4), P(5)));
        var found = TrianglePair.Nearest(first, second).Distance;
        static Point3 On((Point3 A, Point3 B, Point3 C) t, double u, double v) => u + v > 1 ? On(t, 1 - u, 1 - v) : t.A + (u * (t.B - t.A)) + (v * (t.C - t.A));
        for (var i = 0; i + 3 < s.Length; i += 4) Assert.True((On(first, s[i], s[i + 1]) - On(second, s[i + 2], s[i + 3])).Length() >= found - 1e-9);
    });

    [Fact]
    public static void PointsAreMeasuredWhereTheyStandOnTheirComponents()
    {
        // Two blocks; the second stands 13 along x, turned by a quarter about z.
        var turned = new Affine(new(0, 1, 0), new(-1, 0, 0), new(0, 0, 1), new(13, 0, 0));
        var (scene, meshes) = Two((ModelTables.LooseBox(10, 20, 30), Affine.Identity, 0.5), (ModelTables.LooseBox(10, 20, 30), turned, 0.25));
        Clearance? Of(PickedOnModel first, PickedOnModel second) => Clearance.Between(scene, meshes, NoLines, first, second);
        PickedOnModel At(int component, double x, double y, double z, int? face = 0) => new(component, face, null, new(x, y, z), IsPoint: true);
        // (3, 4, 5) of the second stands at (13 - 4, 3, 5).
        var found = Of(At(0, 9, 0, 1), At(1, 3, 4, 5))!;
        Assert.Equal((5, 0.75, new Point3(9, 0, 1), new Point3(9, 3, 5)), (found.Distance, found.Deviation, found.From, found.To));
        Assert.Equal(5, Of(At(0, 9, 0, 1, null), At(1, 3, 4, 5, null))!.Distance);
        // To all of a block it is as far as to its nearest face, and there is no place for a point that is nowhere.
        Assert.Equal(6, Of(At(0, 16, 10, 10), new(0, null, null))!.Distance, 9);
        Assert.Null(Of(At(0, 0, 0, 0), new(1, 0, null, null, IsPoint: true)));
        // It is a point of the mesh: nothing exact is said of it.
        Assert.Null(BetweenTwo.Measure(scene, new ExactFacts([]), At(0, 1, 1, 1), At(0, 2, 2, 2)));
    }
}
