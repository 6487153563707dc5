using SkiaSharp;

namespace Froe.Bench;

/// <summary>How far two pictures of the same thing agree in where there is ink.</summary>
internal static class Ink
{
    private const int Dark = 200;

    /// <summary>Pixels at the edges that are not looked at: what lies on the edge itself is drawn in half, or not at all.</summary>
    private const int Edge = 4;

    /// <summary>
    /// The lesser of two shares: of the one's ink that has ink of the other within some pixels, and of the other's that has ink of the one.
    /// Two pictures without any ink agree.
    /// </summary>
    public static double Overlap(byte[] one, byte[] other, int within)
    {
        using var a = SKBitmap.Decode(one);
        using var b = SKBitmap.Decode(other);
        int width = Math.Min(a.Width, b.Width), height = Math.Min(a.Height, b.Height);
        if (Math.Abs(a.Width - b.Width) > 2 || Math.Abs(a.Height - b.Height) > 2) throw new InvalidOperationException($"Pictures of {a.Width} × {a.Height} and {b.Width} × {b.Height} pixels are not of the same thing.");
        var (inkA, inkB) = (Of(a, width, height), Of(b, width, height));
        return Math.Min(Share(inkA, inkB), Share(inkB, inkA));

        double Share(bool[] ink, bool[] near)
        {
            long all = 0, met = 0;
            for (var y = Edge; y < height - Edge; y++)
                for (var x = Edge; x < width - Edge; x++)
                {
                    if (!ink[(y * width) + x]) continue;
                    all++;
                    if (IsNear(near, x, y)) met++;
                }
            return all == 0 ? 1 : (double)met / all;
        }

        bool IsNear(bool[] ink, int x, int y)
        {
            for (var v = Math.Max(0, y - within); v <= Math.Min(height - 1, y + within); v++)
                for (var u = Math.Max(0, x - within); u <= Math.Min(width - 1, x + within); u++)
                    if (ink[(v * width) + u]) return true;
            return false;
        }
    }

    private static bool[] Of(SKBitmap picture, int width, int height)
    {
        var ink = new bool[width * height];
        for (var y = 0; y < height; y++)
            for (var x = 0; x < width; x++)
            {
                var c = picture.GetPixel(x, y);
                ink[(y * width) + x] = (0.299 * c.Red) + (0.587 * c.Green) + (0.114 * c.Blue) < Dark;
            }
        return ink;
    }
}
