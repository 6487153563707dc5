using CsCheck;
using Froe.Core.Drawing;
using Froe.Core.Models;
using Xunit;

namespace Froe.Core.Tests;

/// <summary>What is made of loose triangles, against what follows from looking at every two of them, and of meshes long enough for several processors.</summary>
public static class MeshShapingTables
{
    private static double Angle(Point3 at, Point3 one, Point3 other) => Math.Acos(Math.Clamp(Point3.Dot((one - at).Unit(), (other - at).Unit()), -1, 1));

    private static Point3 Normal(Point3[] t) => Point3.Cross(t[1] - t[0], t[2] - t[0]).Unit();

    [Fact]
    public static void ItIsWhatLookingAtEveryTwoTrianglesGives() =>
        Gen.Select(Gen.Int[0, 2], Gen.Int[0, 2], Gen.Int[0, 2]).Array[3].Array[1, 25].Select(Gen.Int[0, 30]).Sample((soup, nowhere) =>
        {
            var all = soup.Select(t => t.Select(p => new Point3(p.Item1, p.Item2, p.Item3)).ToArray()).ToList();
            if (nowhere < all.Count) all[nowhere][1] = new(double.NaN, 0, 0);
            // The span of the points is theirs, whatever the soup: two that are certainly there.
            all.Add([new(0, 0, 0), new(2, 2, 2), new(0, 0, 0)]);
            var kept = all.Where(t => t.All(p => double.IsFinite(p.X)) && t.Distinct().Count() == 3).ToList();
            bool Has(Point3[] t, Point3 a, Point3 b) => t.Contains(a) && t.Contains(b);
            var sides = kept.SelectMany(t => ((Point3, Point3)[])[(t[0], t[1]), (t[1], t[2]), (t[2], t[0])]).Select(s => (s.Item1.X, s.Item1.Y, s.Item1.Z).CompareTo((s.Item2.X, s.Item2.Y, s.Item2.Z)) <= 0 ? s : (s.Item2, s.Item1))
                .Distinct().Select(s => kept.Where(t => Has(t, s.Item1, s.Item2)).ToList()).ToList();
            // Faces: what hangs together over sides of two triangles that do not bend by more than thirty degrees.
            var face = kept.ToDictionary(t => t, t => kept.IndexOf(t));
            for (var again = true; again;)
            {
                again = false;
                foreach (var two in sides.Where(s => s.Count == 2 && Point3.Dot(Normal(s[0]), Normal(s[1])) > Math.Sqrt(3) / 2 && face[s[0]] != face[s[1]]))
                {
                    face[two[0]] = face[two[1]] = Math.Min(face[two[0]], face[two[1]]);
                    again = true;
                }
            }
            var shaped = MeshShaping.Of([.. all.SelectMany(t => t)]);
            Assert.Equal(all.Count - kept.Count, shaped.Dropped);
            Assert.Equal(sides.Count(s => s.Count == 1), shaped.OpenEdges);
            Assert.Equal(face.Values.Distinct().Count(), shaped.Mesh.Faces);
            Assert.Equal(kept.Count, shaped.Mesh.Triangles);
            var mesh = shaped.Mesh;
            var at = 0;
            foreach (var one in face.Values.Distinct().Order())
            {
                var own = kept.Where(t => face[t] == one).ToList();
                foreach (var t in own)
                {
                    for (var k = 0; k < 3; k++, at++)
                    {
                        Assert.Equal(t[k], mesh.Points[mesh.Corners[at]]);
                        var sum = own.SelectMany(o => Enumerable.Range(0, 3).Where(c => o[c] == t[k]).Select(c => Angle(o[c], o[(c + 1) % 3], o[(c + 2) % 3]) * Normal(o))).Aggregate((a, b) => a + b);
                        if (sum.Length() > 1e-6) Assert.Equal(0, (sum.Unit() - mesh.Normals[mesh.Corners[at]]).Length(), 1e-6);
                    }
                }
            }
            // What is given by its corners is the same as what is given loose.
            var points = all.SelectMany(t => t).Distinct().ToList();
            var indexed = MeshShaping.Of([.. points], [.. all.SelectMany(t => t).Select(p => points.IndexOf(p))]);
            Assert.Equal(mesh.Corners.ToArray(), indexed.Mesh.Corners.ToArray());
            Assert.Equal(mesh.Points.ToArray(), indexed.Mesh.Points.ToArray());
        }, iter: 300);

    private const int Around = 240, Along = 120;

    /// <summary>A ring of 57,600 triangles, closed and round everywhere.</summary>
    private static List<Point3[]> Ring()
    {
        Point3 At(int i, int k)
        {
            double u = 2 * Math.PI * (i % Around) / Around, v = 2 * Math.PI * (k % Along) / Along;
            return new((100 + (30 * Math.Cos(v))) * Math.Cos(u), (100 + (30 * Math.Cos(v))) * Math.Sin(u), 30 * Math.Sin(v));
        }
        return [.. Enumerable.Range(0, Around * Along).SelectMany(n => (n / Along, n % Along) is var (i, k)
            ? (Point3[][])[[At(i, k), At(i + 1, k), At(i + 1, k + 1)], [At(i, k), At(i + 1, k + 1), At(i, k + 1)]] : [])];
    }

    /// <summary>In the order of the file, backwards, and as if shuffled: neighbours then lie in different stretches.</summary>
    [Theory]
    [InlineData(1)]
    [InlineData(-1)]
    [InlineData(7919)]
    public static void ALongMeshIsOneWhateverTheOrderOfItsTriangles(int step)
    {
        var ring = Ring();
        Point3[] loose = [.. Enumerable.Range(0, ring.Count).SelectMany(i => ring[(int)((((long)i * step) % ring.Count + ring.Count) % ring.Count)])];
        var shaped = MeshShaping.Of(loose);
        Assert.Equal((1, 0, 0, 0), (shaped.Mesh.Faces, shaped.OpenEdges, shaped.Dropped, shaped.Edges.Count));
        Assert.Equal((Around * Along, 2 * Around * Along), (shaped.Mesh.Points.Length, shaped.Mesh.Triangles));
        for (var i = 0; i < loose.Length; i++) Assert.Equal(loose[i], shaped.Mesh.Points[shaped.Mesh.Corners[i]]);
        for (var i = 0; i < shaped.Mesh.Points.Length; i++)
        {
            // A ring looks away from the circle that it lies round.
            var (p, n) = (shaped.Mesh.Points[i], shaped.Mesh.Normals[i]);
            var along = new Point3(p.X, p.Y, 0).Unit();
            Assert.Equal(0, ((p - (100 * along)).Unit() - n).Length(), 0.02);
            Assert.Equal(1, n.Length(), 1e-9);
        }
    }

    [Fact]
    public static void ALongMeshWithBendsAndAGapHasItsFacesAndItsOpenSides()
    {
        // A strip of 40,000 triangles that bends by a right angle every hundred squares; one square is missing.
        const int Squares = 20_000, Each = 100;
        var corners = new List<Point3>();
        Point3 At(int i, double y)
        {
            int whole = i / Each, rest = i % Each;
            return new(((whole + 1) / 2 * Each) + (whole % 2 == 0 ? rest : 0), y, (whole / 2 * Each) + (whole % 2 == 1 ? rest : 0));
        }
        for (var i = 0; i < Squares; i++)
        {
            if (i == 12_345) continue;
            corners.AddRange([At(i, 0), At(i + 1, 0), At(i + 1, 1), At(i, 0), At(i + 1, 1), At(i, 1)]);
        }
        var shaped = MeshShaping.Of([.. corners]);
        // The gap parts one of the two hundred faces.
        Assert.Equal(201, shaped.Mesh.Faces);
        Assert.Equal((2 * (Squares - 1)) + 4, shaped.OpenEdges);
        Assert.Equal(199, shaped.Edges.Count(e => e.Second >= 0));
        Assert.All(shaped.Edges.Where(e => e.Second >= 0), e => Assert.Equal((1, 2), (Math.Abs(e.First - e.Second), e.Points.Count)));
    }

    [Fact]
    public static void NothingIsMadeOfNothing()
    {
        Assert.Equal((0, 0), (MeshShaping.Of([]).Mesh.Triangles, MeshShaping.Of([]).Dropped));
        Assert.Equal((0, 1), (MeshShaping.Of([new(0, 0, double.NaN), new(double.PositiveInfinity, 0, 0), new(double.NaN, 1, 2)]).Mesh.Triangles, MeshShaping.Of([new(1, 1, 1), new(1, 1, 1), new(1, 1, 1)]).Dropped));
        // The widest that numbers go: its diagonal has no length that could be written down.
        Assert.InRange(MeshShaping.Of([new(-1e308, 0, 0), new(1e308, 0, 0), new(0, 1e308, 0)]).Mesh.Triangles, 0, 1);
    }
}
