using CsCheck;
using Froe.Core.Drawing;
using Froe.Core.Models;
using Xunit;

namespace Froe.Core.Tests;

/// <summary>Meshes, their faces and edges, their prepared form and their picture.</summary>
public static class ModelTables
{
    /// <summary>A box of twelve loose triangles, each with corners of its own, as an STL file has them.</summary>
    internal static Point3[] LooseBox(double x, double y, double z)
    {
        Point3 P(int i) => new((i & 1) * x, ((i >> 1) & 1) * y, ((i >> 2) & 1) * z);
        int[] corners = [0, 2, 1, 1, 2, 3, 4, 5, 6, 5, 7, 6, 0, 1, 4, 1, 5, 4, 2, 6, 3, 3, 6, 7, 0, 4, 2, 2, 4, 6, 1, 3, 5, 3, 7, 5];
        return [.. corners.Select(P)];
    }

    /// <summary>A rod of many sides along z, closed at both ends.</summary>
    private static Point3[] LooseRod(double radius, double height, int sides)
    {
        Point3 At(int i, double z) => new(radius * Math.Cos(2 * Math.PI * i / sides), radius * Math.Sin(2 * Math.PI * i / sides), z);
        return [.. Enumerable.Range(0, sides).SelectMany(i => (Point3[])[
            At(i, 0), At(i + 1, 0), At(i, height), At(i + 1, 0), At(i + 1, height), At(i, height),
            new(0, 0, 0), At(i + 1, 0), At(i, 0), new(0, 0, height), At(i, height), At(i + 1, height)])];
    }

    private static ShapedMesh Shaped(Point3[] points) => MeshShaping.Of(points);

    private static Scene SceneOf(params (Point3[] Points, Affine At)[] bodies)
    {
        var parts = bodies.Select(b =>
        {
            var shaped = Shaped(b.Points);
            return new Part("Body", "", new ModelColour(200, 60, 60), null, shaped.Mesh, [.. Enumerable.Repeat(Face.Unknown, shaped.Mesh.Faces)], shaped.Edges, null, 0);
        }).ToList();
        return new Scene(LengthUnit.Millimetre, [.. bodies.Select((b, i) => new Component("Body", "", "", -1, b.At, null, i))], parts);
    }

    [Fact]
    public static void ABoxHasSixFacesAndTwelveEdgesAndIsClosed()
    {
        var shaped = Shaped(LooseBox(10, 20, 30));
        Assert.Equal((6, 12, 24), (shaped.Mesh.Faces, shaped.Mesh.Triangles, shaped.Mesh.Points.Length));
        Assert.Equal((12, 0, 0), (shaped.Edges.Count, shaped.OpenEdges, shaped.Dropped));
        Assert.All(shaped.Edges, e => Assert.Equal(2, e.Points.Count));
        var mass = shaped.Mesh.Mass();
        Assert.Equal((6000, 2200), (mass.Volume!.Value, mass.Area));
        Assert.Equal(new Point3(5, 10, 15), mass.Centre);
    }

    [Fact]
    public static void ARodHasThreeFacesAndTwoEdgesThatGoRound()
    {
        var shaped = Shaped(LooseRod(10, 40, 36));
        Assert.Equal((3, 0), (shaped.Mesh.Faces, shaped.OpenEdges));
        Assert.Equal(2, shaped.Edges.Count);
        Assert.All(shaped.Edges, e => Assert.Equal(37, e.Points.Count));
        // Normals of its round face lie square to its axis.
        var round = Enumerable.Range(0, 3).Single(f => shaped.Mesh.FaceStarts[f + 1] - shaped.Mesh.FaceStarts[f] == 72);
        for (var t = shaped.Mesh.FaceStarts[round]; t < shaped.Mesh.FaceStarts[round + 1]; t++) Assert.Equal(0, shaped.Mesh.Normals[shaped.Mesh.Corners[3 * t]].Z, 9);
    }

    [Fact]
    public static void WhatIsOpenIsCountedAndWhatHasNoAreaIsLeftOut()
    {
        var box = LooseBox(1, 1, 1);
        var open = Shaped([.. box.Skip(3), new(0, 0, 0), new(0, 0, 0), new(1, 0, 0), new(double.NaN, 0, 0), new(1, 0, 0), new(0, 1, 0)]);
        Assert.Equal((11, 3, 2), (open.Mesh.Triangles, open.OpenEdges, open.Dropped));
        Assert.Equal(0, Shaped([]).Mesh.Triangles);
    }

    [Fact]
    public static void ARoughSurfaceIsOneFaceWithoutEdges()
    {
        // Flakes that touch nowhere.
        Point3 At(int i, double x, double y) => new((i % 150 * 3) + x, (i / 150 * 3) + y, 0);
        var points = Enumerable.Range(0, 21_000).SelectMany(i => (Point3[])[At(i, 0, 0), At(i, 1, 0), At(i, 0, 1)]).ToArray();
        Assert.Equal(1, Shaped(points).Mesh.Faces);
    }

    /// <summary>Volume and area do not change when a body is turned and moved, and its centre goes along.</summary>
    [Fact]
    public static void MassGoesWithTheBody() =>
        Gen.Select(Gen.Double[1, 100], Gen.Double[1, 100], Gen.Double[1, 100], Gen.Double[0, 6.28], Gen.Double[0, 6.28], Gen.Double[-1000, 1000]).Sample((x, y, z, turn, tilt, move) =>
        {
            var about = new Affine(new(Math.Cos(turn), Math.Sin(turn), 0), new(-Math.Sin(turn), Math.Cos(turn), 0), new(0, 0, 1), new(move, -move, 2 * move));
            var over = new Affine(new(1, 0, 0), new(0, Math.Cos(tilt), Math.Sin(tilt)), new(0, -Math.Sin(tilt), Math.Cos(tilt)), default);
            var at = about.After(over);
            var (was, now) = (Shaped(LooseBox(x, y, z)).Mesh.Mass(), Shaped([.. LooseBox(x, y, z).Select(at.Apply)]).Mesh.Mass());
            Assert.Equal(x * y * z, was.Volume!.Value, was.Volume.Value * 1e-9);
            Assert.Equal(was.Volume.Value, now.Volume!.Value, was.Volume.Value * 1e-6);
            Assert.Equal(was.Area, now.Area, was.Area * 1e-6);
            Assert.True((at.Apply(was.Centre!.Value) - now.Centre!.Value).Length() < 1e-3);
        }, iter: 200);

    [Fact]
    public static void APartComesBackFromItsPreparedFormAsNearAsAStepOfItsBox()
    {
        foreach (var size in (double[])[50, 20_000])
        {
            var scene = SceneOf((LooseRod(size, size * 2, 24), Affine.Identity), (LooseBox(3, 4, 5), Affine.Identity with { O = new(100, 0, 0) }));
            var facts = PreparedScene.FactsOf(scene);
            using var to = new MemoryStream();
            PreparedScene.WriteMeshes(scene, to);
            Assert.Equal(to.Length, facts.Parts.Sum(p => p.Block.Length));
            for (var i = 0; i < scene.Parts.Count; i++)
            {
                var (part, block) = (scene.Parts[i], facts.Parts[i].Block);
                Assert.Equal(size > PreparedScene.Wide && i == 0, block.IsWide);
                var (mesh, lines) = PreparedScene.ReadPart(facts.Parts[i], to.ToArray().AsSpan((int)block.At, (int)block.Length));
                Assert.Equal(part.Mesh.Corners.ToArray(), mesh.Corners.ToArray());
                Assert.Equal(part.Mesh.FaceStarts.ToArray(), mesh.FaceStarts.ToArray());
                var step = block.IsWide ? size * 1e-6 : part.Mesh.Box.Diagonal / 65535;
                for (var k = 0; k < mesh.Points.Length; k++)
                {
                    Assert.True((part.Mesh.Points[k] - mesh.Points[k]).Length() <= step);
                    Assert.True(Point3.Dot(part.Mesh.Normals[k], mesh.Normals[k]) > 0.999);
                }
                Assert.Equal(part.Edges.Select(e => e.Points.Count), lines.Select(l => l.Points.Length));
                Assert.Throws<InvalidDataException>(() => PreparedScene.ReadPart(facts.Parts[i], to.ToArray().AsSpan(0, (int)block.Length - 4)));
            }
        }
    }

    [Fact]
    public static void ComponentsStandWhereTheirAssembliesPutThem()
    {
        var turned = new Affine(new(0, 1, 0), new(-1, 0, 0), new(0, 0, 1), new(10, 0, 0));
        var part = SceneOf((LooseBox(1, 1, 1), Affine.Identity)).Parts[0];
        var scene = new Scene(
            LengthUnit.Millimetre,
            [new Component("All", "", "", -1, turned, null, null), new Component("One", "", "", 0, Affine.Identity with { O = new(5, 0, 0) }, null, 0), new Component("Other", "", "", 0, Affine.Identity, null, 0)],
            [part]);
        Assert.Equal([1, 2], scene.Placed().Select(p => p.Component));
        Assert.Equal(new Point3(10, 5, 0), scene.Placed().First().At.Apply(default));
        Assert.Equal(new Box(new(9, 0, 0), new(10, 6, 1)), scene.Box());
    }

    [Fact]
    public static void APictureShowsTheBodyInItsColourWithItsEdgesInInkAndNothingElse()
    {
        var scene = SceneOf((LooseBox(10, 10, 10), Affine.Identity));
        var pixels = SceneLook.Draw(scene, [.. scene.Placed()], 80, 60);
        var seen = Enumerable.Range(0, 80 * 60).Select(i => pixels.Rgba.AsSpan(4 * i, 4).ToArray()).ToList();
        Assert.Equal(0, seen[0][3]);
        Assert.Equal(255, seen[(30 * 80) + 40][3]);
        Assert.Contains(seen, p => p[3] == 255 && p[0] > 150 && p[1] < 90);
        Assert.Contains(seen, p => p[3] == 255 && p[0] < 60 && p[1] < 60);
        // Three faces are seen, each lit otherwise.
        Assert.True(seen.Where(p => p[3] == 255 && p[0] > 90).Select(p => p[0] / 12).Distinct().Count() >= 3);
        Assert.All(SceneLook.Draw(scene, [], 8, 6).Rgba, b => Assert.Equal(0, b));
    }

    [Fact]
    public static void WhatIsBlackIsDrawnSoThatItsFormCanBeTold()
    {
        Assert.Equal(new ModelColour(0x58, 0x58, 0x58), new ModelColour(0, 0, 0).AsDrawn());
        Assert.Equal(new ModelColour(0x58, 0x38, 0x38, 0.5), new ModelColour(0x20, 0, 0, 0.5).AsDrawn());
        Assert.Equal(new ModelColour(200, 0, 0), new ModelColour(200, 0, 0).AsDrawn());
        var scene = SceneOf((LooseBox(10, 10, 10), Affine.Identity));
        var black = scene with { Parts = [.. scene.Parts.Select(p => p with { Colour = new ModelColour(0, 0, 0) })] };
        var pixels = SceneLook.Draw(black, [.. black.Placed()], 80, 60);
        var faces = Enumerable.Range(0, 80 * 60).Where(i => pixels.Rgba[(4 * i) + 3] == 255).GroupBy(i => pixels.Rgba[4 * i]).Where(g => g.Count() > 100).Select(g => (int)g.Key).ToList();
        Assert.Equal(3, faces.Count);
        Assert.True(faces.Max() - faces.Min() > 20);
        Assert.Equal("#585858", PreparedScene.FactsOf(black).Parts[0].Colour);
    }

    [Fact]
    public static void APileOfSheetsIsDrawnAsFarAsItIsSeen()
    {
        // A quarter of a million squares behind one another: all of them would take minutes.
        var points = Enumerable.Range(0, 1_000_000).Select(i => new Point3((i & 1) * 100, i / 4 * 1e-4, ((i >> 1) & 1) * 100)).ToArray();
        var corners = Enumerable.Range(0, 250_000).SelectMany(i => (int[])[4 * i, (4 * i) + 1, (4 * i) + 2, (4 * i) + 1, (4 * i) + 3, (4 * i) + 2]).ToArray();
        var mesh = new Mesh(points, [.. points.Select(_ => new Point3(0, -1, 0))], corners, [0, corners.Length / 3]);
        var scene = new Scene(LengthUnit.Millimetre, [new Component("Pile", "", "", -1, Affine.Identity, null, 0)], [new Part("Pile", "", new ModelColour(200, 60, 60), null, mesh, [Face.Unknown], [], null, 0)]);
        Assert.Contains(SceneLook.Draw(scene, [.. scene.Placed()], 300, 225).Rgba, b => b == 255);
    }

    /// <summary>What of a picture is seen at a place of it, its middle at nought; null for nothing.</summary>
    private static (int Red, int Green, int Blue)? Seen(Pixels pixels, int x, int y)
    {
        var at = 4 * ((((pixels.Height / 2) - y) * pixels.Width) + (pixels.Width / 2) + x);
        return pixels.Rgba[at + 3] < 255 ? null : (pixels.Rgba[at], pixels.Rgba[at + 1], pixels.Rgba[at + 2]);
    }

    [Fact]
    public static void AnEyeSeesWhatLiesBeforeItAndNotWhatASectionTookAway()
    {
        // A cube of 10 from the origin, from the front: 40 units are 80 pixels high, so that it is 20 wide.
        var scene = SceneOf((LooseBox(10, 10, 10), Affine.Identity));
        var front = new SceneEye(new(5, 5, 5), 0, 0, 40, false);
        List<PlacedPart> placed = [.. scene.Placed()];
        var whole = SceneLook.Draw(scene, placed, front, [], 120, 80);
        Assert.NotNull(Seen(whole, 0, 0));
        Assert.NotNull(Seen(whole, 8, 8));
        Assert.Null(Seen(whole, 13, 0));
        Assert.Null(Seen(whole, 0, 13));
        // Nearer to the eye it is larger: the face that is seen lies 5 before what is looked at, 0.9283 of the way.
        var wider = SceneLook.Draw(scene, placed, front with { IsPerspective = true, Height = 37.32 }, [], 112, 75);
        Assert.NotNull(Seen(wider, 10, 0));
        Assert.Null(Seen(SceneLook.Draw(scene, placed, front with { Height = 37.32 }, [], 112, 75), 11, 0));
        // What lies to the right of x = 5 is taken away; looked at from the right, the face that is cut is hatched in ink on its own colour.
        var section = new Section(new(1, 0, 0), 5);
        var facts = PreparedScene.FactsOf(scene);
        var cut = SectionCut.Of(facts, [.. scene.Parts.Select(p => p.Mesh)], section, new HashSet<int>());
        var half = SceneLook.Draw(scene, placed, front, [(section, cut)], 120, 80);
        Assert.NotNull(Seen(half, -5, 0));
        Assert.Null(Seen(half, 5, 0));
        var face = SceneLook.Draw(scene, placed, front with { Turn = Math.PI / 2 }, [(section, cut)], 240, 160);
        var row = Enumerable.Range(-17, 34).Select(x => Seen(face, x, 3)).ToList();
        Assert.All(row, p => Assert.NotNull(p));
        Assert.Contains(row, p => p!.Value.Red < 80);
        Assert.Contains(row, p => p!.Value.Red > 120);
        // A slice of thickness 2: from the front a strip from 3 to 5 is left.
        var slice = section with { Thickness = 2 };
        var strip = SceneLook.Draw(scene, placed, front, [(slice, cut)], 120, 80);
        Assert.NotNull(Seen(strip, -2, 0));
        Assert.Null(Seen(strip, -7, 0));
        Assert.Null(Seen(strip, 3, 0));
        // From so near that an edge is a hundred million pixels long, what of it is on the picture is drawn all the same.
        var near = SceneLook.Draw(scene, placed, front with { Target = new(5, 0, 10), Height = 1e-6 }, [], 60, 40);
        Assert.Contains(Enumerable.Range(-19, 39), y => Seen(near, 0, y) is { Red: < 80 });
        // What lies behind an eye in perspective is not seen.
        Assert.DoesNotContain(SceneLook.Draw(scene, placed, new SceneEye(new(5, 300, 5), 0, 0, 40, true), [], 60, 40).Rgba, b => b > 0);
    }

    [Fact]
    public static void AModelIsDrawnAgainFromItsForms()
    {
        var scene = SceneOf((LooseBox(10, 6, 4), Affine.Identity), (LooseRod(4, 12, 24), Affine.Identity with { O = new(14, 0, 0) }));
        using var to = new MemoryStream();
        PreparedScene.WriteMeshes(scene, to);
        var again = PreparedScene.Whole(PreparedScene.FactsOf(scene), to.ToArray());
        Pixels Of(Scene s) => SceneLook.Draw(s, [.. s.Placed()], 80, 60);
        var (was, now) = (Of(scene).Rgba, Of(again).Rgba);
        // Points are kept in steps: here and there one at a rim is another.
        Assert.InRange(was.Zip(now).Count(p => Math.Abs(p.First - p.Second) > 40), 0, was.Length / 50);
        Assert.Contains(now, b => b == 255);
    }
}
