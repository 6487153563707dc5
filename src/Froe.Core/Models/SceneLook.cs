using Froe.Core.Drawing;

namespace Froe.Core.Models;

/// <summary>A picture of points: three bytes each, red, green and blue, and how much they cover, row by row from the top.</summary>
public sealed record Pixels(int Width, int Height, byte[] Rgba);

/// <summary>
/// Draws a model without a graphics card, as the page does: matt, lit from above the eye's left shoulder, its edges in ink. A depth buffer of
/// twice the size, so that edges are smooth when it is made small.
/// </summary>
public static class SceneLook
{
    /// <summary>From where a model is first looked at: from the front, a little from the right and from above.</summary>
    public static Point3 Towards { get; } = new Point3(-0.62, 1, -0.62).Unit();

    private const int Finer = 2;

    /// <summary>So often the whole picture is drawn over at most.</summary>
    private const int MostLayers = 100;

    private const double Margin = 0.92;
    private static readonly (byte R, byte G, byte B) Ink = (0x23, 0x26, 0x29);
    private static readonly ModelColour Grey = new(0xB9, 0xB6, 0xAE);

    /// <summary>Draws some of a model.</summary>
    /// <param name="scene">The model.</param>
    /// <param name="placed">What of it.</param>
    /// <param name="width">Pixels.</param>
    /// <param name="height">Pixels.</param>
    public static Pixels Draw(Scene scene, IReadOnlyList<PlacedPart> placed, int width, int height)
    {
        ArgumentNullException.ThrowIfNull(scene);
        ArgumentNullException.ThrowIfNull(placed);
        var canvas = new Canvas(width * Finer, height * Finer);
        var (right, up) = Axes();
        double minX = double.PositiveInfinity, maxX = double.NegativeInfinity, minY = minX, maxY = maxX, minZ = minX, maxZ = maxX;
        foreach (var one in placed)
        {
            var part = scene.Parts[one.Part];
            foreach (var point in part.Mesh.Points) Grow(one.At.Apply(point));
            foreach (var edge in part.Edges)
                foreach (var point in edge.Points) Grow(one.At.Apply(point));
        }
        if (!(minX <= maxX)) return canvas.Smaller(Finer);
        var scale = Margin * Math.Min(canvas.Width / Math.Max(maxX - minX, 1e-9), canvas.Height / Math.Max(maxY - minY, 1e-9));
        double middleX = (minX + maxX) / 2, middleY = (minY + maxY) / 2;
        // Lines lie a little nearer than the faces they bound.
        var nearer = Math.Max((maxZ - minZ) * 0.002, 1e-9);
        foreach (var one in placed)
        {
            var part = scene.Parts[one.Part];
            var own = scene.Components[one.Component].Colour;
            var points = new Point3[part.Mesh.Points.Length];
            var light = new double[points.Length];
            for (var i = 0; i < points.Length; i++)
            {
                points[i] = Project(one.At.Apply(part.Mesh.Points[i]));
                light[i] = Light(one.At.ApplyVector(part.Mesh.Normals[i]).Unit());
            }
            for (var face = 0; face < part.Mesh.Faces; face++)
            {
                var colour = own ?? (face < part.Faces.Count ? part.Faces[face].Colour : null) ?? part.Colour ?? Grey;
                for (var t = part.Mesh.FaceStarts[face]; t < part.Mesh.FaceStarts[face + 1]; t++)
                {
                    int a = part.Mesh.Corners[3 * t], b = part.Mesh.Corners[(3 * t) + 1], c = part.Mesh.Corners[(3 * t) + 2];
                    canvas.Fill(points[a], points[b], points[c], light[a], light[b], light[c], colour);
                }
            }
            foreach (var edge in part.Edges)
            {
                if (edge.IsSmooth) continue;
                for (var i = 1; i < edge.Points.Count; i++) canvas.Stroke(Project(one.At.Apply(edge.Points[i - 1])), Project(one.At.Apply(edge.Points[i])), nearer, Ink);
            }
        }
        return canvas.Smaller(Finer);

        void Grow(Point3 p)
        {
            double x = Point3.Dot(p, right), y = Point3.Dot(p, up), z = Point3.Dot(p, Towards);
            if (!double.IsFinite(x + y + z)) return;
            (minX, maxX) = (Math.Min(minX, x), Math.Max(maxX, x));
            (minY, maxY) = (Math.Min(minY, y), Math.Max(maxY, y));
            (minZ, maxZ) = (Math.Min(minZ, z), Math.Max(maxZ, z));
        }

        Point3 Project(Point3 p) => new((canvas.Width / 2.0) + ((Point3.Dot(p, right) - middleX) * scale), (canvas.Height / 2.0) - ((Point3.Dot(p, up) - middleY) * scale), Point3.Dot(p, Towards));
    }

    private static (Point3 Right, Point3 Up) Axes()
    {
        var right = Point3.Cross(Towards, new(0, 0, 1)).Unit();
        return (right, Point3.Cross(right, Towards).Unit());
    }

    /// <summary>How bright what looks in a direction is, from 0 to 1.</summary>
    private static double Light(Point3 normal)
    {
        var (right, up) = Axes();
        // Faces turned away belong to meshes that are not closed: they are lit as from their other side.
        if (Point3.Dot(normal, Towards) > 0) normal = -1 * normal;
        var light = ((-0.35 * right) + (0.75 * up) - (0.9 * Towards)).Unit();
        return 0.62 + (0.38 * Math.Max(0, Point3.Dot(normal, light)));
    }

    private sealed class Canvas
    {
        private readonly float[] depth;
        private readonly byte[] rgba;

        /// <summary>Points that may still be looked at: what lies behind so many others is no longer worth the time.</summary>
        private long looks;

        public Canvas(int width, int height)
        {
            (Width, Height) = (width, height);
            depth = new float[width * height];
            looks = (long)MostLayers * width * height;
            rgba = new byte[width * height * 4];
            Array.Fill(depth, float.PositiveInfinity);
        }

        public int Width { get; }

        public int Height { get; }

        public void Fill(Point3 a, Point3 b, Point3 c, double lightA, double lightB, double lightC, ModelColour colour)
        {
            var area = ((b.X - a.X) * (c.Y - a.Y)) - ((c.X - a.X) * (b.Y - a.Y));
            if (area == 0 || !double.IsFinite(area)) return;
            int left = Math.Max(0, (int)Math.Ceiling(Math.Min(a.X, Math.Min(b.X, c.X)) - 0.5)), right = Math.Min(Width - 1, (int)Math.Floor(Math.Max(a.X, Math.Max(b.X, c.X)) - 0.5));
            int top = Math.Max(0, (int)Math.Ceiling(Math.Min(a.Y, Math.Min(b.Y, c.Y)) - 0.5)), bottom = Math.Min(Height - 1, (int)Math.Floor(Math.Max(a.Y, Math.Max(b.Y, c.Y)) - 0.5));
            var part = 1 / area;
            for (var y = top; y <= bottom && looks > 0; y++)
            {
                var py = y + 0.5;
                // Each share of a corner grows evenly along a row: where one is less than nought, the row is outside.
                double from = left, to = right;
                var (firstStep, firstAt) = ((b.Y - c.Y) * part, ((b.X * (c.Y - py)) - (c.X * (b.Y - py))) * part);
                var (secondStep, secondAt) = ((c.Y - a.Y) * part, ((c.X * (a.Y - py)) - (a.X * (c.Y - py))) * part);
                Within(firstStep, firstAt, ref from, ref to);
                Within(secondStep, secondAt, ref from, ref to);
                Within(-firstStep - secondStep, 1 - firstAt - secondAt, ref from, ref to);
                int begin = Math.Max(left, (int)Math.Ceiling(from)), end = Math.Min(right, (int)Math.Floor(to));
                looks -= Math.Max(0, end - begin) + 1;
                for (var x = begin; x <= end; x++)
                {
                    var px = x + 0.5;
                    var first = (firstStep * px) + firstAt;
                    var second = (secondStep * px) + secondAt;
                    var third = 1 - first - second;
                    var share = (first * lightA) + (second * lightB) + (third * lightC);
                    Put(x, y, (float)((first * a.Z) + (second * b.Z) + (third * c.Z)), (Byte(colour.Red * share), Byte(colour.Green * share), Byte(colour.Blue * share)));
                }
            }
        }

        /// <summary>Narrows a row of points to where step times (x + 1/2) and at together are not less than nought.</summary>
        private static void Within(double step, double at, ref double from, ref double to)
        {
            if (step > 0) from = Math.Max(from, (-at / step) - 0.5);
            else if (step < 0) to = Math.Min(to, (-at / step) - 0.5);
            else if (at < 0) to = double.NegativeInfinity;
        }

        private static byte Byte(double value) => (byte)Math.Clamp(value, 0, 255);

        public void Stroke(Point3 a, Point3 b, double nearer, (byte R, byte G, byte B) colour)
        {
            var steps = Math.Ceiling(Math.Max(Math.Abs(b.X - a.X), Math.Abs(b.Y - a.Y)));
            if (!double.IsFinite(steps) || steps > 100_000) return;
            looks -= (long)steps;
            for (var i = 0; i <= steps && looks > 0; i++)
            {
                var share = steps == 0 ? 0 : i / steps;
                int x = (int)Math.Round(a.X + ((b.X - a.X) * share) - 0.5), y = (int)Math.Round(a.Y + ((b.Y - a.Y) * share) - 0.5);
                var z = (float)(a.Z + ((b.Z - a.Z) * share) - nearer);
                foreach (var (dx, dy) in ((int, int)[])[(0, 0), (1, 0), (0, 1)])
                    if (x + dx >= 0 && x + dx < Width && y + dy >= 0 && y + dy < Height) Put(x + dx, y + dy, z, colour);
            }
        }

        private void Put(int x, int y, float z, (byte R, byte G, byte B) colour)
        {
            var at = (y * Width) + x;
            if (!(z <= depth[at])) return;
            depth[at] = z;
            (rgba[4 * at], rgba[(4 * at) + 1], rgba[(4 * at) + 2], rgba[(4 * at) + 3]) = (colour.R, colour.G, colour.B, 255);
        }

        /// <summary>Every square of points as one, by how much each covers.</summary>
        public Pixels Smaller(int by)
        {
            int width = Width / by, height = Height / by;
            var small = new byte[width * height * 4];
            for (var y = 0; y < height; y++)
            {
                for (var x = 0; x < width; x++)
                {
                    int r = 0, g = 0, b = 0, a = 0;
                    for (var j = 0; j < by; j++)
                    {
                        for (var i = 0; i < by; i++)
                        {
                            var from = 4 * ((((y * by) + j) * Width) + (x * by) + i);
                            if (rgba[from + 3] == 0) continue;
                            (r, g, b, a) = (r + rgba[from], g + rgba[from + 1], b + rgba[from + 2], a + 1);
                        }
                    }
                    if (a == 0) continue;
                    var to = 4 * ((y * width) + x);
                    (small[to], small[to + 1], small[to + 2], small[to + 3]) = ((byte)(r / a), (byte)(g / a), (byte)(b / a), (byte)(255 * a / (by * by)));
                }
            }
            return new Pixels(width, height, small);
        }
    }
}
