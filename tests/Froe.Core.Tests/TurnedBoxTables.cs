using CsCheck;
using Froe.Core.Drawing;
using Froe.Core.Models;
using Xunit;

namespace Froe.Core.Tests;

/// <summary>The smallest box about a part, against boxes that were turned and bodies of known size.</summary>
public static class TurnedBoxTables
{
    private static Mesh Of(Point3[] points, Affine at) => new([.. points.Select(at.Apply)], [.. points], [.. Enumerable.Range(0, points.Length)], [0, points.Length / 3]);

    private static Affine Turned(double x, double y, double z, Point3 to)
    {
        static Affine About(double angle, int axis)
        {
            var (c, s) = (Math.Cos(angle), Math.Sin(angle));
            return axis switch
            {
                0 => new(new(1, 0, 0), new(0, c, s), new(0, -s, c), default),
                1 => new(new(c, 0, -s), new(0, 1, 0), new(s, 0, c), default),
                _ => new(new(c, s, 0), new(-s, c, 0), new(0, 0, 1), default),
            };
        }
        return (Affine.Identity with { O = to }).After(About(x, 0)).After(About(y, 1)).After(About(z, 2));
    }

    [Fact]
    public static void ABoxThatWasTurnedIsItsOwnBox() =>
        Gen.Select(Gen.Double[0, 6.28], Gen.Double[0, 6.28], Gen.Double[0, 6.28], Gen.Double[-1000, 1000]).Sample((x, y, z, far) =>
        {
            var at = Turned(x, y, z, new(far, 2 * far, -far));
            var box = TurnedBox.Of(Of(ModelTables.LooseBox(10, 20, 35), at))!;
            foreach (var (size, found) in new[] { 35.0, 20, 10 }.Zip(box.Sizes)) Assert.Equal(size, found, 1e-6);
            foreach (var (axis, found) in new[] { at.Z, at.Y, at.X }.Zip(box.Axes)) Assert.Equal(1, Math.Abs(Point3.Dot(axis, found)), 1e-6);
        });

    [Fact]
    public static void AWedgeLiesOnItsSlopeWhereThatIsSmaller()
    {
        // A rod of triangles 3, 4, 5: laid on the longest side it takes 5 × 2.4 = 12, on the others 3 × 4 = 12 as well; the axes come first.
        Point3 A(double z) => new(0, 0, z);
        Point3 B(double z) => new(4, 0, z);
        Point3 C(double z) => new(0, 3, z);
        Point3[] rod = [A(0), C(0), B(0), A(100), B(100), C(100), A(0), B(0), B(100), A(0), B(100), A(100), B(0), C(0), C(100), B(0), C(100), B(100), C(0), A(0), A(100), C(0), A(100), C(100)];
        Assert.Equal([100, 4, 3], TurnedBox.Of(Of(rod, Affine.Identity))!.Sizes.Select(s => Math.Round(s, 9)));
        // Turned about its length it is still no larger.
        Assert.Equal(1200, TurnedBox.Of(Of(rod, Turned(0, 0, 0.7, default)))!.Volume(), 1e-6);
        Assert.Null(TurnedBox.Of(Mesh.Empty));
        Assert.Equal([0.0, 0, 0], TurnedBox.Of(new Mesh([new(5, 5, 5)], [new(0, 0, 1)], [], [0]))!.Sizes);
    }

    [Fact]
    public static void ItHoldsAllPointsAndIsNoLargerThanTheBoxAlongTheAxes() =>
        Gen.Double[-10, 10].Array[9 * 8].Sample(n =>
        {
            Point3[] points = [.. Enumerable.Range(0, n.Length / 3).Select(i => new Point3(n[3 * i], n[(3 * i) + 1], n[(3 * i) + 2]))];
            var mesh = Of(points, Affine.Identity);
            var box = TurnedBox.Of(mesh)!;
            var size = mesh.Box.Max - mesh.Box.Min;
            Assert.True(box.Volume() <= (size.X * size.Y * size.Z * (1 + 1e-9)) + 1e-9);
            for (var k = 0; k < 3; k++)
            {
                var along = points.Select(p => Point3.Dot(p, box.Axes[k])).ToList();
                Assert.Equal(box.Sizes[k], along.Max() - along.Min(), 1e-6);
            }
        });
}
