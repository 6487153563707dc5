using CsCheck;
using Froe.Core.Drawing;
using Froe.Core.Models;
using Froe.Core.Overlays;
using Xunit;

namespace Froe.Core.Tests;

/// <summary>What was picked on one draft of a model is found on the next, worked by hand.</summary>
public static class FindingAgainTables
{
    private sealed record Bore(double X, double Radius);

    /// <summary>A plate of 200 × 100 at z = 0, its faces the plate and bores through it, in the order that is asked for.</summary>
    private static Part Plate(string number, IReadOnlyList<Bore> bores, bool isPlateLast = false, bool isExact = true)
    {
        var faces = new List<(Face Face, Point3[] Loose)>();
        var plane = (Face.Unknown with { Surface = SurfaceKind.Plane, Along = new(0, 0, 1) }, (Point3[])[new(-100, -50, 0), new(100, -50, 0), new(100, 50, 0), new(-100, -50, 0), new(100, 50, 0), new(-100, 50, 0)]);
        if (!isPlateLast) faces.Add(plane);
        foreach (var bore in bores)
        {
            const int Sides = 360;
            Point3 On(int i, double z) => new(bore.X + (bore.Radius * Math.Cos(i * 2 * Math.PI / Sides)), bore.Radius * Math.Sin(i * 2 * Math.PI / Sides), z);
            faces.Add((
                Face.Unknown with { Surface = SurfaceKind.Cylinder, At = new(bore.X, 0, 0), Along = new(0, 0, 1), Radius = bore.Radius, IsHollow = true },
                [.. Enumerable.Range(0, Sides).SelectMany(i => (Point3[])[On(i, 0), On(i, -20), On(i + 1, 0), On(i + 1, 0), On(i, -20), On(i + 1, -20)])]));
        }
        if (isPlateLast) faces.Add(plane);
        Point3[] points = [.. faces.SelectMany(f => f.Loose)];
        var starts = faces.Aggregate(new List<int> { 0 }, (all, f) => [.. all, all[^1] + (f.Loose.Length / 3)]);
        var edges = bores.Select(b => new Edge(-1, -1, false, CurveKind.Circle, new(b.X, 0, 0), new(0, 0, 1), b.Radius, 2 * Math.PI * b.Radius, false, [])).ToList();
        return new Part("Plate", number, null, null, new Mesh(points, points, [.. Enumerable.Range(0, points.Length)], [.. starts]), [.. faces.Select(f => isExact ? f.Face : Face.Unknown)], edges, null, 0.001);
    }

    private static ((SceneFacts, ExactFacts) Facts, List<Mesh> Meshes) Of(IReadOnlyList<Component> components, params Part[] parts)
    {
        var scene = new Scene(LengthUnit.Millimetre, components, parts);
        return ((PreparedScene.FactsOf(scene), PreparedScene.ExactOf(scene)), [.. parts.Select(p => p.Mesh)]);
    }

    private static Component At(string number, double x, int parent = 0, int? part = 0, string instance = "") => new("Plate", number, instance, parent, Affine.Identity with { O = new(x, 0, 0) }, null, part);

    private static Component Whole(string name = "Mount") => new(name, "M-1", "", -1, Affine.Identity, null, null);

    private static FoundAgain Find(((SceneFacts, ExactFacts) Facts, List<Mesh> Meshes) was, ((SceneFacts, ExactFacts) Facts, List<Mesh> Meshes) now, PickedOnModel picked) =>
        new FindingAgain(was.Facts, now.Facts, now.Meshes).Find(picked);

    private static readonly Bore Left = new(-50, 30), Right = new(50, 30);

    [Fact]
    public static void ABoreThatGrewIsFoundWhereverItStandsInTheList()
    {
        var was = Of([Whole(), At("P-1", 0)], Plate("P-1", [Left, Right]));
        var now = Of([Whole(), At("P-2", 300), At("P-1", 0)], Plate("P-1", [new(50, 30), new(-50, 31)], isPlateLast: true));
        var found = Find(was, now, new(1, 1, null, new(-50, 30, -5)));
        Assert.Equal((FoundHow.Changed, 2, 1, null), (found.How, found.Component, found.Face, found.Edge));
        Assert.Equal(31, Math.Sqrt(Math.Pow(found.At.X + 50, 2) + Math.Pow(found.At.Y, 2)), 2);
        // The other is what it was, under another number.
        Assert.Equal((FoundHow.Same, 0), (Find(was, now, new(1, 2, null, new(50, 30, -5))) is var other ? (other.How, other.Face) : default));
        // Its rim too, and the plate.
        Assert.Equal((FoundHow.Changed, 1), (Find(was, now, new(1, null, 0, new(-50, 30, 0))) is var rim ? (rim.How, rim.Edge) : default));
        Assert.Equal((FoundHow.Same, 2), (Find(was, now, new(1, 0, null, new(0, 20, 0), new(0, 0, 1))) is var plate ? (plate.How, plate.Face) : default));
    }

    [Fact]
    public static void WhatHasSeveralThatItCouldBeIsUnsure()
    {
        var was = Of([Whole(), At("P-1", 0)], Plate("P-1", [Left]));
        // Two small ones to either side of where it was.
        var now = Of([Whole(), At("P-1", 0)], Plate("P-1", [new(-65, 5), new(-35, 5)]));
        Assert.Equal(FoundHow.Unsure, Find(was, now, new(1, 1, null, new(-50, 30, -5))).How);
        // No bore at all: what lies nearest is shown, for somebody to say.
        Assert.Equal((FoundHow.Unsure, 0), (Find(was, Of([Whole(), At("P-1", 0)], Plate("P-1", [])), new(1, 1, null, new(-50, 30, -5))) is var none ? (none.How, none.Face) : default));
    }

    [Fact]
    public static void OfSeveralCalledAlikeItIsTheNearestAndOfAnotherWayItIsUnsure()
    {
        var was = Of([Whole(), At("P-1", 0), At("P-1", 500)], Plate("P-1", [Left]));
        var now = Of([Whole(), At("P-1", 503), At("P-1", 900), At("P-1", 2)], Plate("P-1", [Left]));
        Assert.Equal((FoundHow.Same, 1), (Find(was, now, new(2, null, null, default)) is var second ? (second.How, second.Component) : default));
        Assert.Equal((FoundHow.Same, 3), (Find(was, now, new(1, null, null, default)) is var first ? (first.How, first.Component) : default));
        var renamed = Of([Whole("Mount, new"), At("P-1", 0)], Plate("P-1", [Left]));
        Assert.Equal((FoundHow.Unsure, 1), (Find(was, renamed, new(1, 1, null, new(-50, 30, -5))) is var other ? (other.How, other.Component) : default));
        Assert.Equal((FoundHow.Gone, null), (Find(was, Of([Whole(), At("P-9", 0)], Plate("P-9", [Left])), new(1, 1, null, default)) is var gone ? (gone.How, gone.Component) : default));
        foreach (var wrong in (int[])[-1, 9]) Assert.Equal(FoundHow.Gone, Find(was, now, new(wrong, 0, null, default)).How);
    }

    [Fact]
    public static void WhatIsPickedOfAModelIsFoundOnTheSameOneAsItWas() =>
        Gen.Select(Gen.Double[-90, 90], Gen.Double[-45, 45], Gen.Int[1, 359], Gen.Double[-19, -1], Gen.Int[0, 2], Gen.Bool).Sample((x, y, side, z, face, isExact) =>
        {
            var plate = Of([Whole(), At("P-1", 7)], Plate("P-1", [Left, Right], isExact: isExact));
            var angle = (side + 0.5) * 2 * Math.PI / 360;
            var on = face == 0 ? new Point3(x, y, 0) : new Point3((face == 1 ? -50 : 50) + (30 * Math.Cos(Math.PI / 360) * Math.Cos(angle)), 30 * Math.Cos(Math.PI / 360) * Math.Sin(angle), z);
            var found = Find(plate, plate, new(1, face, null, on));
            Assert.Equal((FoundHow.Same, 1, face), (found.How, found.Component, found.Face));
            Assert.Equal(0, (found.At - on).Length(), 6);
        });

    [Fact]
    public static void AMeasureIsTakenAgainWhereAllOfItIsSurelyFound()
    {
        var eye = new PinEye(default, 0, 0, 100, false, []);
        ModelSpot Spot(bool isPoint) => new(0, ["Plate"], 1, null, new(1, 0, 0), new(0, 0, 1), IsPoint: isPoint);
        ModelMeasure Of(bool isPoint) => new([Spot(isPoint), Spot(isPoint)], eye);
        FoundAgain Found(FoundHow how) => new(how, how == FoundHow.Gone ? null : 3, 2, null, new(5, 0, 0));
        var again = Of(false).Again([Found(FoundHow.Same), Found(FoundHow.Changed)])!;
        Assert.Equal([(3, 2, 5.0), (3, 2, 5.0)], again.Of.Select(s => (s.Component, s.Face!.Value, s.At.X)));
        // A face that has changed is the face still; a point of it is nobody knows which.
        Assert.Null(Of(true).Again([Found(FoundHow.Same), Found(FoundHow.Changed)]));
        Assert.True(Of(true).Again([Found(FoundHow.Same), Found(FoundHow.Same)])!.Of.All(s => s.IsPoint));
        foreach (var how in (FoundHow[])[FoundHow.Unsure, FoundHow.Gone]) Assert.Null(Of(false).Again([Found(FoundHow.Same), Found(how)]));
        Assert.False((Spot(true) with { Face = null, Edge = 1 }).IsSound());
        Assert.False((Spot(true) with { Face = null }).IsWhole());
        Assert.NotEqual(Spot(true), Spot(false));
    }

    /// <summary>As it is said: of each face the nearest point that looks the same way, of one that has none so the nearest; looked at one by one.</summary>
    private static (int Face, Point3 Foot) Plainly(Mesh mesh, Point3 at, Point3 normal) =>
        Enumerable.Range(0, mesh.Faces).Where(f => mesh.FaceStarts[f + 1] > mesh.FaceStarts[f]).Select(f => (Face: f, Foot: Enumerable.Range(mesh.FaceStarts[f], mesh.FaceStarts[f + 1] - mesh.FaceStarts[f])
            .Select(t => (A: mesh.Points[mesh.Corners[3 * t]], B: mesh.Points[mesh.Corners[(3 * t) + 1]], C: mesh.Points[mesh.Corners[(3 * t) + 2]]))
            .Select(t => (Near: Clearance.Between(Alone(t), [One(t)], _ => [], new(0, null, null), new(0, null, null, at, IsPoint: true))!.From, IsTurned: Point3.Dot(Point3.Cross(t.B - t.A, t.C - t.A).Unit(), normal) < 0.5))
            .OrderBy(t => t.IsTurned).ThenBy(t => (t.Near - at).Length()).First().Near))
            .OrderBy(f => (f.Foot - at).Length()).First();

    private static Mesh One((Point3 A, Point3 B, Point3 C) t) => new([t.A, t.B, t.C], [t.A, t.B, t.C], [0, 1, 2], [0, 1]);

    private static SceneFacts Alone((Point3 A, Point3 B, Point3 C) t) =>
        PreparedScene.FactsOf(new Scene(LengthUnit.Millimetre, [new Component("", "", "", -1, Affine.Identity, null, 0)], [new Part("", "", null, null, One(t), [], [], null, 0)]));

    [Fact]
    public static void WhateverFacesAMeshHasTheNearestIsThatOfLookingAtAll() =>
        // Faces of one to two hundred triangles, anywhere and looking anywhere, some of none.
        Gen.Select(Gen.Int[0, 200].Array[1, 6], Gen.Int[1, int.MaxValue], Gen.Double[-60, 60], Gen.Double[-60, 60]).Sample(
            (sizes, seed, x, y) =>
            {
                var random = new Random(seed);
                Point3 Any(double size) => new((random.NextDouble() - 0.5) * size, (random.NextDouble() - 0.5) * size, (random.NextDouble() - 0.5) * size);
                Point3[] points = [.. Enumerable.Range(0, sizes.Sum()).SelectMany(_ => Any(100) is var at ? (Point3[])[at + Any(9), at + Any(9), at + Any(9)] : [])];
                if (points.Length == 0) return;
                var mesh = new Mesh(points, points, [.. Enumerable.Range(0, points.Length)], [.. sizes.Aggregate(new List<int> { 0 }, (all, s) => [.. all, all[^1] + s])]);
                var part = new Part("Heap", "P-1", null, null, mesh, [.. sizes.Select(_ => Face.Unknown)], [], null, 0);
                var heap = Of([Whole(), At("P-1", 0)], part);
                var (at, normal) = (new Point3(x, y, 10), Any(1).Unit());
                var (face, foot) = Plainly(mesh, at, normal);
                var found = Find(heap, heap, new(1, 0, null, at, normal));
                Assert.Equal((foot - at).Length(), (found.At - at).Length(), 9);
                Assert.Equal(face, found.Face);
            }, iter: 60);
}
