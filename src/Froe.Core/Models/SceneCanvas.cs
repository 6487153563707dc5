using Froe.Core.Drawing;

namespace Froe.Core.Models;

/// <summary>Points with how far each is away: what is nearer covers what is farther.</summary>
internal sealed class SceneCanvas
{
    /// <summary>So often the whole picture is drawn over at most.</summary>
    private const int MostLayers = 100;

    private readonly float[] depth;
    private readonly byte[] rgba;

    /// <summary>Points that may still be looked at: what lies behind so many others is no longer worth the time.</summary>
    private long looks;

    public SceneCanvas(int width, int height)
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
        if (!double.IsFinite(a.X + a.Y + a.Z + b.X + b.Y + b.Z)) return;
        // As much of it as lies on the canvas: seen from near, most of a long one does not.
        double begin = 0, end = 1;
        void Within(double from, double along, double most)
        {
            if (along == 0 && (from < -1 || from > most)) (begin, end) = (1, 0);
            else if (along > 0) (begin, end) = (Math.Max(begin, (-1 - from) / along), Math.Min(end, (most - from) / along));
            else if (along < 0) (begin, end) = (Math.Max(begin, (most - from) / along), Math.Min(end, (-1 - from) / along));
        }
        Within(a.X, b.X - a.X, Width + 1);
        Within(a.Y, b.Y - a.Y, Height + 1);
        if (begin > end) return;
        var steps = Math.Ceiling(Math.Max(Math.Abs(b.X - a.X), Math.Abs(b.Y - a.Y)) * (end - begin));
        looks -= (long)steps;
        for (var i = 0; i <= steps && looks > 0; i++)
        {
            var share = steps == 0 ? begin : begin + ((end - begin) * i / steps);
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
