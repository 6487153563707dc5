using Froe.Core.Draft;
using Froe.Core.Drawing;
using Froe.Formats.Pictures;
using SkiaSharp;
using Xunit;

namespace Froe.Formats.Tests;

public sealed class PatchTables
{
    /// <summary>Every point of a picture belongs to the patch that its middle lies in; any ink in a patch makes it one to be seen.</summary>
    [Fact]
    public void A_patch_is_to_be_seen_where_any_point_in_it_is_darker_than_faint()
    {
        var random = new Random(20);
        for (var round = 0; round < 300; round++)
        {
            // Wide, high, and of fewer points than patches.
            int width = random.Next(1, 200), height = random.Next(1, 200);
            var frame = new SheetFrame(LengthUnit.Millimetre, new Extents(0, 0, random.Next(1, 500), random.Next(1, 500)));
            using var bitmap = new SKBitmap(new SKImageInfo(width, height, SKColorType.Bgra8888, SKAlphaType.Premul));
            bitmap.Erase(random.Next(2) == 0 ? SKColors.White : SKColors.Transparent);
            for (var i = random.Next(0, 30); i > 0; i--)
            {
                // Grey from what is faint to what is dark, and halves of colours.
                var tone = (byte)random.Next(256);
                bitmap.SetPixel(random.Next(width), random.Next(height), random.Next(2) == 0 ? new SKColor(tone, tone, 255) : new SKColor(0, 0, 0, tone));
            }
            var (columns, rows, side) = Seeing.Divided(frame.Extents)!.Value;
            var ink = new HashSet<(int, int)>();
            for (var y = 0; y < height; y++)
                for (var x = 0; x < width; x++)
                {
                    var c = bitmap.GetPixel(x, y);
                    var darkest = c.Alpha - (Math.Min(c.Red, Math.Min(c.Green, c.Blue)) * c.Alpha / 255.0);
                    // What is faint by the width of a rounding may be either.
                    if (Math.Abs(darkest - 24.5) < 1) bitmap.SetPixel(x, y, SKColors.White);
                    else if (darkest > 24.5) ink.Add((At(x, width, frame.Extents.Width, side, columns), At(y, height, frame.Extents.Height, side, rows)));
                }
            using var data = bitmap.Encode(SKEncodedImageFormat.Png, 100);
            var grid = SheetPatches.Of(frame, data.ToArray(), []);
            Assert.NotNull(grid);
            Assert.Equal((columns, rows), (grid.Columns, grid.Rows));
            for (var row = 0; row < rows; row++)
                for (var column = 0; column < columns; column++) Assert.Equal(ink.Contains((column, row)), grid.Needs[(row * columns) + column] > 0);
        }

        static int At(int pixel, int pixels, double length, double side, int count) => Math.Min(count - 1, (int)((pixel + 0.5) * (length / side / pixels)));
    }
}
