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
    private static readonly SceneEye First = new(default, Math.Atan2(0.62, 1), Math.Asin(0.62 / Math.Sqrt(1 + (2 * 0.62 * 0.62))), 1, false);

    private const int Finer = 2;

    private const double Margin = 0.92;

    /// <summary>How much nearer lines lie than the faces they bound, of how deep the model is.</summary>
    private const double Nearer = 0.002;

    private static readonly (byte R, byte G, byte B) Ink = (0x23, 0x26, 0x29);
    private static readonly ModelColour Grey = new(0xB9, 0xB6, 0xAE);

    /// <summary>Draws some of a model as it is first looked at, as large as it goes.</summary>
    /// <param name="scene">The model.</param>
    /// <param name="placed">What of it.</param>
    /// <param name="width">Pixels.</param>
    /// <param name="height">Pixels.</param>
    public static Pixels Draw(Scene scene, IReadOnlyList<PlacedPart> placed, int width, int height)
    {
        ArgumentNullException.ThrowIfNull(scene);
        ArgumentNullException.ThrowIfNull(placed);
        var (right, up, back) = First.Axes();
        var seen = Around(scene, placed, right, up, back);
        if (!(seen.Min.X <= seen.Max.X)) return new SceneCanvas(width * Finer, height * Finer).Smaller(Finer);
        var size = seen.Max - seen.Min;
        var unitsHigh = Math.Max(Math.Max(size.Y, 1e-9), Math.Max(size.X, 1e-9) * height / width) / Margin;
        var middle = 0.5 * (seen.Min + seen.Max);
        return Draw(scene, placed, First with { Target = (middle.X * right) + (middle.Y * up) + (middle.Z * back), Height = unitsHigh }, [], width, height);
    }

    /// <summary>Draws some of a model as an eye sees it.</summary>
    /// <param name="scene">The model.</param>
    /// <param name="placed">What of it.</param>
    /// <param name="eye">From where.</param>
    /// <param name="sections">Planes that cut it, with what they cut.</param>
    /// <param name="width">Pixels.</param>
    /// <param name="height">Pixels.</param>
    public static Pixels Draw(Scene scene, IReadOnlyList<PlacedPart> placed, SceneEye eye, IReadOnlyList<(Section Plane, SectionCut Cut)> sections, int width, int height)
    {
        ArgumentNullException.ThrowIfNull(scene);
        ArgumentNullException.ThrowIfNull(placed);
        ArgumentNullException.ThrowIfNull(sections);
        var canvas = new SceneCanvas(width * Finer, height * Finer);
        var view = new View(eye, canvas, [.. sections.Select(s => s.Plane)]);
        var (right, up, back) = eye.Axes();
        var seen = Around(scene, placed, right, up, back);
        var nearer = Math.Max((seen.Max.Z - seen.Min.Z) * Nearer, 1e-9);
        foreach (var one in placed)
        {
            var part = scene.Parts[one.Part];
            var own = scene.Components[one.Component].Colour;
            var points = new Point3[part.Mesh.Points.Length];
            var light = new double[points.Length];
            for (var i = 0; i < points.Length; i++)
            {
                points[i] = one.At.Apply(part.Mesh.Points[i]);
                // What nothing cuts is placed once for all triangles that meet there.
                if (!view.IsCut) points[i] = view.Seen(points[i]);
                light[i] = Light(one.At.ApplyVector(part.Mesh.Normals[i]).Unit(), right, up, back);
            }
            for (var face = 0; face < part.Mesh.Faces; face++)
            {
                var colour = (own ?? (face < part.Faces.Count ? part.Faces[face].Colour : null) ?? part.Colour ?? Grey).AsDrawn();
                for (var t = part.Mesh.FaceStarts[face]; t < part.Mesh.FaceStarts[face + 1]; t++)
                {
                    int a = part.Mesh.Corners[3 * t], b = part.Mesh.Corners[(3 * t) + 1], c = part.Mesh.Corners[(3 * t) + 2];
                    if (view.IsCut) view.Fill(new(points[a], light[a]), new(points[b], light[b]), new(points[c], light[c]), colour, null);
                    else canvas.Fill(points[a], points[b], points[c], light[a], light[b], light[c], colour);
                }
            }
            foreach (var edge in part.Edges)
            {
                if (edge.IsSmooth) continue;
                for (var i = 1; i < edge.Points.Count; i++) view.Stroke(one.At.Apply(edge.Points[i - 1]), one.At.Apply(edge.Points[i]), nearer, Ink, null);
            }
        }
        for (var i = 0; i < sections.Count; i++)
            foreach (var face in sections[i].Cut.Faces) Cut(view, sections[i].Plane, sections[i].Cut, face, ColourOf(scene, face.Component), nearer, i);
        return canvas.Smaller(Finer);
    }

    /// <summary>A face that a section has cut: filled, hatched and outlined.</summary>
    private static void Cut(View view, Section plane, SectionCut cut, CutFace face, ModelColour colour, double nearer, int own)
    {
        Point3 At(IReadOnlyList<double> numbers, int i) => (plane.At * plane.Along) + (numbers[2 * i] * cut.Right) + (numbers[(2 * i) + 1] * cut.Up);
        for (var i = 0; i + 2 < face.Fill.Count / 2; i += 3) view.Fill(new(At(face.Fill, i), 1), new(At(face.Fill, i + 1), 1), new(At(face.Fill, i + 2), 1), colour, own);
        for (var i = 0; i + 1 < face.Hatching.Count / 2; i += 2) view.Stroke(At(face.Hatching, i), At(face.Hatching, i + 1), nearer, Ink, own);
        foreach (var line in face.Loops)
            for (var i = 0; i < line.Count / 2; i++) view.Stroke(At(line, i), At(line, (i + 1) % (line.Count / 2)), nearer, Ink, own);
        foreach (var line in face.Open)
            for (var i = 1; i < line.Count / 2; i++) view.Stroke(At(line, i - 1), At(line, i), nearer, Ink, own);
    }

    private static ModelColour ColourOf(Scene scene, int component)
    {
        var of = scene.Components[component];
        return (of.Colour ?? (of.Part is { } part ? scene.Parts[part].Colour : null) ?? Grey).AsDrawn();
    }

    /// <summary>What covers all of it along three axes; empty, with its least above its greatest, for nothing.</summary>
    private static Box Around(Scene scene, IReadOnlyList<PlacedPart> placed, Point3 right, Point3 up, Point3 back)
    {
        double minX = double.PositiveInfinity, maxX = double.NegativeInfinity, minY = minX, maxY = maxX, minZ = minX, maxZ = maxX;
        void Grow(Point3 p)
        {
            double x = Point3.Dot(p, right), y = Point3.Dot(p, up), z = Point3.Dot(p, back);
            if (!double.IsFinite(x + y + z)) return;
            (minX, maxX) = (Math.Min(minX, x), Math.Max(maxX, x));
            (minY, maxY) = (Math.Min(minY, y), Math.Max(maxY, y));
            (minZ, maxZ) = (Math.Min(minZ, z), Math.Max(maxZ, z));
        }
        foreach (var one in placed)
        {
            var part = scene.Parts[one.Part];
            foreach (var point in part.Mesh.Points) Grow(one.At.Apply(point));
            foreach (var edge in part.Edges)
                foreach (var point in edge.Points) Grow(one.At.Apply(point));
        }
        return new Box(new(minX, minY, minZ), new(maxX, maxY, maxZ));
    }

    /// <summary>How bright what looks in a direction is, from 0 to 1.</summary>
    private static double Light(Point3 normal, Point3 right, Point3 up, Point3 back)
    {
        // Faces turned away belong to meshes that are not closed: they are lit as from their other side.
        if (Point3.Dot(normal, back) < 0) normal = -1 * normal;
        var light = ((-0.35 * right) + (0.75 * up) + (0.9 * back)).Unit();
        return 0.62 + (0.38 * Math.Max(0, Point3.Dot(normal, light)));
    }

    /// <summary>A corner of what is drawn, in the model's coordinates, with how bright it is.</summary>
    private readonly record struct Corner(Point3 At, double Light)
    {
        public Corner To(Corner other, double share) => new(At + (share * (other.At - At)), Light + (share * (other.Light - Light)));
    }

    /// <summary>An eye before a canvas, with what takes away what it would see.</summary>
    private sealed class View(SceneEye eye, SceneCanvas canvas, IReadOnlyList<Section> planes)
    {
        /// <summary>In perspective nothing is drawn that is nearer to the eye than this share of how far its target is.</summary>
        private const double Nearest = 1e-3;

        private readonly double scale = canvas.Height / eye.Height;
        private readonly (Point3 Right, Point3 Up, Point3 Back) axes = eye.Axes();
        private readonly List<Corner> left = [], next = [];

        /// <summary>Whether anything is taken away.</summary>
        public bool IsCut => planes.Count > 0;

        /// <param name="own">The plane that it lies on, which does not cut it; null for none.</param>
        public void Fill(Corner a, Corner b, Corner c, ModelColour colour, int? own)
        {
            left.Clear();
            left.AddRange([a, b, c]);
            for (var i = 0; i < planes.Count && left.Count > 0; i++)
            {
                if (i != own) Keep(p => -planes[i].Before(p));
                if (planes[i].Thickness is { } thickness) Keep(p => planes[i].Before(p) + thickness);
            }
            for (var i = 2; i < left.Count; i++) canvas.Fill(Seen(left[0].At), Seen(left[i - 1].At), Seen(left[i].At), left[0].Light, left[i - 1].Light, left[i].Light, colour);
        }

        /// <param name="own">The plane that it lies on, which does not cut it; null for none.</param>
        public void Stroke(Point3 from, Point3 to, double nearer, (byte R, byte G, byte B) colour, int? own)
        {
            double begin = 0, end = 1;
            void Within(double atFrom, double atTo)
            {
                if (atFrom < 0 && atTo < 0) (begin, end) = (1, 0);
                else if (atFrom < 0) begin = Math.Max(begin, atFrom / (atFrom - atTo));
                else if (atTo < 0) end = Math.Min(end, atFrom / (atFrom - atTo));
            }
            for (var i = 0; i < planes.Count; i++)
            {
                if (i != own) Within(-planes[i].Before(from), -planes[i].Before(to));
                if (planes[i].Thickness is { } thickness) Within(planes[i].Before(from) + thickness, planes[i].Before(to) + thickness);
            }
            if (begin >= end) return;
            var (a, b) = (from + (begin * (to - from)), from + (end * (to - from)));
            // Depths in perspective are turned round: as much nearer is less of them the farther it is.
            var by = eye.IsPerspective ? nearer / (eye.Distance() * eye.Distance()) : nearer;
            canvas.Stroke(Seen(a), Seen(b), by, colour);
        }

        /// <summary>Keeps of what is left where something is not less than nought.</summary>
        private void Keep(Func<Point3, double> of)
        {
            next.Clear();
            for (var i = 0; i < left.Count; i++)
            {
                var (a, b) = (left[i], left[(i + 1) % left.Count]);
                var (atA, atB) = (of(a.At), of(b.At));
                if (atA >= 0) next.Add(a);
                if (atA >= 0 != atB >= 0) next.Add(a.To(b, atA / (atA - atB)));
            }
            left.Clear();
            left.AddRange(next);
        }

        /// <summary>Where a point is seen, with a depth that grows evenly over the canvas; nowhere, not a number, for what is at the eye or behind it.</summary>
        public Point3 Seen(Point3 p)
        {
            var (at, away) = eye.Place(p, axes);
            if (eye.IsPerspective && !(away > eye.Distance() * Nearest)) return new(double.NaN, double.NaN, double.NaN);
            return new((canvas.Width / 2.0) + (at.X * scale), (canvas.Height / 2.0) - (at.Y * scale), eye.IsPerspective ? -1 / away : away);
        }
    }
}
