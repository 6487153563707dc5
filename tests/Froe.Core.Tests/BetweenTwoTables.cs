using CsCheck;
using Froe.Core.Drawing;
using Froe.Core.Models;
using Xunit;

namespace Froe.Core.Tests;

/// <summary>How two things of a model lie to one another, worked by hand.</summary>
public static class BetweenTwoTables
{
    private static Face Plane(Point3 at, Point3 along) => Face.Unknown with { Surface = SurfaceKind.Plane, At = at, Along = along };

    private static Face Bore(Point3 at, Point3 along, double radius) => Face.Unknown with { Surface = SurfaceKind.Cylinder, At = at, Along = along, Radius = radius, IsHollow = true };

    private static Edge Line(Point3 at, Point3 along) => new(0, 1, false, CurveKind.Line, at, along, 0, 1, false, []);

    /// <summary>A part with some faces and edges, placed by an assembly and twice in it.</summary>
    private static (SceneFacts Scene, ExactFacts Exact) Of(Affine inner, Face[] faces, params Edge[] edges)
    {
        var mesh = Mesh.Empty;
        var part = new Part("Part", "", null, null, mesh, faces, edges, null, 0);
        var scene = new Scene(
            LengthUnit.Millimetre,
            [new Component("All", "", "", -1, Affine.Identity with { O = new(1000, 0, 0) }, null, null), new Component("One", "", "", 0, Affine.Identity, null, 0), new Component("Other", "", "", 0, inner, null, 0)],
            [part]);
        return (PreparedScene.FactsOf(scene), PreparedScene.ExactOf(scene));
    }

    private static readonly Affine Moved = Affine.Identity with { O = new(30, 40, 0) };

    /// <summary>A quarter turn about z, and 100 up.</summary>
    private static readonly Affine Turned = new(new(0, 1, 0), new(-1, 0, 0), new(0, 0, 1), new(0, 0, 100));

    [Fact]
    public static void TwoBoresAlongOneDirectionAreAsFarApartAsTheirAxes()
    {
        var (scene, exact) = Of(Moved, [Bore(new(0, 0, 5), new(0, 0, 1), 31)]);
        var between = BetweenTwo.Measure(scene, exact, new(1, 0, null), new(2, 0, null))!;
        Assert.Equal((0.0, true, 50.0, "axis to axis"), (between.Angle!.Value, between.IsParallel, between.Distance!.Value, between.Of));
        Assert.Equal([30, 40, 0], between.Along!);
    }

    [Fact]
    public static void AxesThatPassEachOtherHaveAnAngleAndALeastDistance()
    {
        var (scene, exact) = Of(Turned, [Bore(new(0, 0, 0), new(1, 0, 0), 5)]);
        var between = BetweenTwo.Measure(scene, exact, new(1, 0, null), new(2, 0, null))!;
        Assert.Equal((90.0, false), (Math.Round(between.Angle!.Value, 9), between.IsParallel));
        Assert.Equal(100, between.Distance!.Value, 9);
        Assert.Equal(100, between.Along![2], 9);
    }

    [Fact]
    public static void PlanesAreParallelWithADistanceOrMeetAtAnAngle()
    {
        var (scene, exact) = Of(Moved, [Plane(new(0, 0, 0), new(0, 0, -1)), Plane(new(0, 0, 12.5), new(0, 0, 1)), Plane(default, new Point3(0, 1, 1).Unit())]);
        var thick = BetweenTwo.Measure(scene, exact, new(1, 0, null), new(1, 1, null))!;
        Assert.Equal((0.0, true, 12.5, "face to face"), (thick.Angle!.Value, thick.IsParallel, thick.Distance!.Value, thick.Of));
        Assert.Equal([0, 0, 12.5], thick.Along!);
        Assert.Equal([0, 0, -12.5], BetweenTwo.Measure(scene, exact, new(1, 1, null), new(1, 0, null))!.Along!);
        var sloped = BetweenTwo.Measure(scene, exact, new(1, 1, null), new(2, 2, null))!;
        Assert.Equal((45.0, false, null), (Math.Round(sloped.Angle!.Value, 9), sloped.IsParallel, sloped.Distance));
    }

    [Fact]
    public static void AnEdgeAndAnAxisStandToAPlaneAtTheAngleBetweenThemAndIt()
    {
        var (scene, exact) = Of(Moved, [Plane(default, new(0, 0, 1)), Bore(new(0, 0, 7), new(1, 0, 0), 3)], Line(new(0, 0, 9), new Point3(1, 0, 1).Unit()));
        var along = BetweenTwo.Measure(scene, exact, new(1, 0, null), new(1, 1, null))!;
        Assert.Equal((0.0, true, 7.0, "face to axis"), (along.Angle!.Value, along.IsParallel, along.Distance!.Value, along.Of));
        Assert.Equal([0, 0, -7], BetweenTwo.Measure(scene, exact, new(1, 1, null), new(1, 0, null))!.Along!);
        Assert.Equal(45, BetweenTwo.Measure(scene, exact, new(1, null, 0), new(1, 0, null))!.Angle!.Value, 9);
    }

    [Fact]
    public static void WhatLiesOnNothingExactOrIsNotThereIsNotMeasured()
    {
        var (scene, exact) = Of(Moved, [Face.Unknown, Plane(default, new(0, 0, 1)), Face.Unknown with { Surface = SurfaceKind.Sphere, At = new(0, 0, 4) }]);
        foreach (var wrong in (PickedOnModel[])[new(1, 0, null), new(0, 1, null), new(9, 1, null), new(-1, 1, null), new(1, 9, null), new(1, null, 0), new(1, null, null)])
            Assert.Null(BetweenTwo.Measure(scene, exact, wrong, new(1, 1, null)));
        Assert.Equal((4.0, "face to centre"), (BetweenTwo.Measure(scene, exact, new(1, 1, null), new(1, 2, null)) is { } m ? (m.Distance!.Value, m.Of) : default));
        Assert.Equal(50, BetweenTwo.Measure(scene, exact, new(1, 2, null), new(2, 2, null))!.Distance!.Value, 9);
    }

    [Fact]
    public static void TheEndsOfEdgesArePoints()
    {
        var edge = Line(new(0, 0, 9), new(1, 0, 0)) with { Points = [new(0, 0, 9), new(2, 0, 9), new(8, 0, 9)] };
        var (scene, exact) = Of(Moved, [Plane(default, new(0, 0, 1))], edge);
        var exactly = scene with { Parts = [.. scene.Parts.Select(p => p with { IsExact = true })] };
        PickedOnModel End(int component, double x) => new(component, null, 0, new(x, 0, 9), null, true);
        var span = BetweenTwo.Measure(exactly, exact, End(1, 1), End(2, 7))!;
        Assert.Equal("point to point", span.Of);
        Assert.Equal(Math.Sqrt((38 * 38) + (40 * 40)), span.Distance!.Value, 9);
        Assert.Equal([38, 40, 0], span.Along!);
        Assert.Equal(("point to face", 9.0), (BetweenTwo.Measure(exactly, exact, End(1, 1), new(2, 0, null)) is { } m ? (m.Of, m.Distance!.Value) : default));
        // Of a mesh its points are as exact as itself, and no more.
        Assert.Null(BetweenTwo.Measure(scene, exact, End(1, 1), End(2, 7)));
    }

    private static double OffIt(Point3 way, Point3 along, bool isPlane) => isPlane ? Point3.Dot(way, along) : Point3.Cross(way, along).Length();

    [Fact]
    public static void ADistanceBeginsWhereItWasPicked()
    {
        var (scene, exact) = Of(Moved, [Plane(new(0, 0, 0), new(0, 0, -1)), Plane(new(0, 0, 12.5), new(0, 0, 1)), Bore(new(5, 5, 0), new(0, 0, 1), 4)]);
        var thick = BetweenTwo.Measure(scene, exact, new(1, 0, null, new(3, 4, 0)), new(1, 1, null, new(9, 9, 12.5)))!;
        Assert.Equal((new Point3(1003, 4, 0), new Point3(1003, 4, 12.5)), (thick.From, thick.To));
        var bores = BetweenTwo.Measure(scene, exact, new(1, 2, null, new(9, 5, 7)), new(2, 2, null, new(1, 5, 100)))!;
        Assert.Equal((new Point3(1005, 5, 7), new Point3(1035, 45, 7)), (bores.From, bores.To));
    }

    /// <summary>Where the whole model stands does not matter, and from the second to the first it is as far the other way.</summary>
    [Fact]
    public static void MeasuringIsTheSameBothWays()
    {
        var direction = Gen.Select(Gen.Double[-1, 1], Gen.Double[-1, 1], Gen.Double[-1, 1]).Where(t => Math.Abs(t.Item1) + Math.Abs(t.Item2) > 0.1).Select(t => new Point3(t.Item1, t.Item2, t.Item3).Unit());
        var point = Gen.Select(Gen.Double[-100, 100], Gen.Double[-100, 100], Gen.Double[-100, 100]).Select(t => new Point3(t.Item1, t.Item2, t.Item3));
        Gen.Select(point, direction, point, direction, Gen.Bool, Gen.Bool).Sample((p, d, q, e, isPlane, isOtherPlane) =>
        {
            var (scene, exact) = Of(Moved, [isPlane ? Plane(p, d) : Bore(p, d, 1), isOtherPlane ? Plane(q, e) : Bore(q, e, 1)]);
            var there = BetweenTwo.Measure(scene, exact, new(1, 0, null), new(2, 1, null))!;
            var back = BetweenTwo.Measure(scene, exact, new(2, 1, null), new(1, 0, null))!;
            Assert.Equal(there.Angle!.Value, back.Angle!.Value, 6);
            // What counts as parallel may be off by a ten-millionth of what lies between the points: some hundreds here.
            const double Off = 1e-4;
            Assert.Equal(there.Distance ?? -1, back.Distance ?? -1, Off);
            Assert.Equal(there.Distance is null, there.From is null || there.To is null);
            if (there is { From: { } from, To: { } to })
            {
                // The ends lie on what was measured, which the whole model has moved by 1000, and the other by 30 and 40 more.
                Assert.Equal(there.Distance!.Value, (to - from).Length(), Off);
                Assert.Equal(0, OffIt(from - new Point3(1000, 0, 0) - p, d, isPlane), Off);
                Assert.Equal(0, OffIt(to - new Point3(1030, 40, 0) - q, e, isOtherPlane), Off);
            }
            if (there.Along is { } way) for (var k = 0; k < 3; k++) Assert.Equal(way[k], -back.Along![k], Off);
        }, iter: 5_000);
    }
}
