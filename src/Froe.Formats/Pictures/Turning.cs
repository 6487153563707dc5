namespace Froe.Formats.Pictures;

/// <summary>
/// Sets a picture upright that is stored as the camera or the scanner was held (TIFF 6.0, Orientation; Exif 2.32, 4.6.4 A, the same numbers):
/// takes its rows as they are stored and gives them as they are looked at.
/// </summary>
internal sealed class Turning
{
    /// <summary>The first row lies above and the first column to the left: nothing is to be done.</summary>
    public const int Upright = 1;

    /// <summary>From here on rows are columns.</summary>
    private const int FirstOnItsSide = 5, Last = 8;

    /// <summary>Most bytes that are held at once: rows without colour take a byte a pixel, others three.</summary>
    private const long MostTogether = 500_000_000;

    private const int Colours = 3;

    private readonly int width, height, orientation;
    private readonly byte[][] rows;
    private int taken;
    private long held;

    /// <param name="width">Pixels of a row as stored.</param>
    /// <param name="height">Rows as stored.</param>
    /// <param name="orientation">2 to 8.</param>
    public Turning(int width, int height, int orientation)
    {
        (this.width, this.height, this.orientation) = (width, height, orientation);
        rows = new byte[height][];
    }

    /// <summary>What a file states, and upright where that is no orientation.</summary>
    public static int Known(int stated) => stated is >= Upright and <= Last ? stated : Upright;

    /// <summary>Whether what is stored as a row is looked at as a column.</summary>
    public static bool IsOnItsSide(int orientation) => orientation >= FirstOnItsSide;

    /// <summary>Takes the next row as stored.</summary>
    public void Take(ReadOnlySpan<byte> pixels)
    {
        var isGrey = true;
        for (var at = 0; at < pixels.Length && isGrey; at += 4) isGrey = pixels[at] == pixels[at + 1] && pixels[at] == pixels[at + 2];
        var each = isGrey ? 1 : Colours;
        held += (long)each * width;
        if (held > MostTogether) throw new UnreadableException("The picture is stored turned and is too large to be set upright. Save it upright, or smaller.");
        var row = rows[taken++] = new byte[each * width];
        for (var x = 0; x < width; x++) pixels.Slice(4 * x, each).CopyTo(row.AsSpan(each * x));
    }

    /// <summary>Gives all of them as they are looked at, from above.</summary>
    public void Give(RowReceiver row)
    {
        var (across, down) = IsOnItsSide(orientation) ? (height, width) : (width, height);
        var pixels = new byte[4 * across];
        for (var y = 0; y < down; y++)
        {
            for (var x = 0; x < across; x++)
            {
                var (column, line) = Stored(x, y);
                var from = rows[line];
                if (from.Length == width) pixels.AsSpan(4 * x, Colours).Fill(from[column]);
                else from.AsSpan(Colours * column, Colours).CopyTo(pixels.AsSpan(4 * x));
            }
            row(pixels);
        }
    }

    /// <summary>Where that which is looked at here is stored.</summary>
    private (int Column, int Line) Stored(int x, int y) => orientation switch
    {
        2 => (width - 1 - x, y),
        3 => (width - 1 - x, height - 1 - y),
        4 => (x, height - 1 - y),
        5 => (y, x),
        6 => (y, height - 1 - x),
        7 => (width - 1 - y, height - 1 - x),
        8 => (width - 1 - y, x),
        _ => (x, y),
    };
}
