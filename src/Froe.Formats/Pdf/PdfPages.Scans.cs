using Froe.Formats.Pictures;

namespace Froe.Formats.Pdf;

/// <summary>Pages that are nothing but a picture of points.</summary>
internal sealed partial class PdfPages
{
    private static readonly TimeSpan AllTilesTime = TimeSpan.FromSeconds(40);
    private readonly HashSet<int> tiled = [];

    /// <summary>A smaller picture of the page whose tiles were made last.</summary>
    private (int Page, byte[] Pixels, int Width, int Height)? preview;

    private TimeSpan tileTime;

    /// <summary>Whether a page is nothing but a picture of points, and was cut into tiles.</summary>
    public bool IsTiled(int page) => tiled.Contains(page);

    /// <summary>
    /// Cuts a page that is nothing but a large picture of points into the tiles of its pyramid, as fine as the picture is; writes nothing for
    /// any other, which is drawn from the file. Such a picture takes the engine seconds to unpack wherever it is looked at.
    /// </summary>
    public void WriteTiles(int page, Stream to)
    {
        if (tileTime > AllTilesTime || Scan(page) is not var (width, height, isLine)) return;
        var (since, start) = (DateTime.UtcNow, to.Position);
        using var writer = new PyramidWriter(width, height, isLine, to);
        try
        {
            if (!EngineIsReady() || !engine!.Draw(page, width, height, PyramidWriter.Tile, Rows))
            {
                to.SetLength(start);
                return;
            }
            writer.End();
            preview = (page, writer.Preview.Bytes, writer.Preview.Width, writer.Preview.Height);
            tiled.Add(page);
        }
        catch (PageEngineException)
        {
            // It is drawn from the file then, where that can be done; that is tried next, and told.
            EndEngine();
            to.SetLength(start);
        }
        finally
        {
            tileTime += DateTime.UtcNow - since;
        }

        void Rows(ReadOnlySpan<byte> rows, int first)
        {
            for (; rows.Length > 0; rows = rows[(width * 4)..]) writer.Row(rows[..(width * 4)]);
        }
    }

    /// <summary>How large the picture of points is that a page is, in pixels; null where it shows anything else, or one that needs no tiles.</summary>
    private (int Width, int Height, bool IsLine)? Scan(int page)
    {
        const long LeastPixels = 4_000_000, MostPixels = 400_000_000;
        const int MostAcross = 60_000;
        if (Read(page) is not { Covering: { IsFinest: true } covering, HasFields: false } read || read.PictureOnly.Keys.Any(what => what != ReadPage.Image)) return null;
        if (read.Sheet.EntityHandle.Length > 0 || layers.OfFile.Count > 0 || Basics(page).Marks.Count > 0) return null;
        double width = Math.Round(Paper(page).Width / covering.Across), height = Math.Round(Paper(page).Height / covering.Down);
        return width is >= 1 and <= MostAcross && height is >= 1 and <= MostAcross && width * height is >= LeastPixels and <= MostPixels ? ((int)width, (int)height, covering.IsLine) : null;
    }
}
