using Froe.Core.Draft;
using Froe.Formats.Pictures;

namespace Froe.Formats.Pdf;

/// <summary>Pages that are cut into tiles: those that are nothing but a picture of points, and those that draw so much that it takes seconds wherever they are looked at.</summary>
internal sealed partial class PdfPages
{
    private static readonly TimeSpan AllTilesTime = TimeSpan.FromSeconds(40), AllHeavyTime = TimeSpan.FromSeconds(20);

    /// <summary>Once a file has taken so long, its heavy pages are not cut: what must be read of the others comes first.</summary>
    private static readonly TimeSpan MostBefore = TimeSpan.FromSeconds(60);

    /// <summary>Points of a picture that a page engine can have room for.</summary>
    internal const long MostPixels = 400_000_000;

    /// <summary>Strokes and triangles, and points of pictures, from which on a page is heavy.</summary>
    private const int LeastStrokes = 100_000, LeastPoints = 8_000_000;

    /// <summary>Points of pictures up to which tiles of a heavy page are kept without loss: a drawing's emblem.</summary>
    private const int MostEmblem = 1_000_000;

    /// <summary>Pixels on the longer side of the largest size that a heavy page is cut in: twice a picture's, so that one of its sizes is that picture.</summary>
    private const int HeavySize = 2 * PdfDraftReader.PictureSize;

    /// <summary>How many sizes of a heavy page are drawn. To draw them shows thin lines as they are; made of larger ones they would fade.</summary>
    private const int HeavyDrawn = 3;

    private readonly Dictionary<int, Surface> tiled = [];
    private readonly HashSet<int> tooMuch = [];

    /// <summary>A smaller picture of the page whose tiles were made last.</summary>
    private (int Page, byte[] Pixels, int Width, int Height)? preview;

    private TimeSpan tileTime, heavyTime;

    /// <summary>What a page is drawn from, once its tiles were asked for.</summary>
    public Surface SurfaceOf(int page) => tiled.GetValueOrDefault(page, Surface.Page);

    /// <summary>
    /// Cuts a page that is nothing but a large picture of points into the tiles of its pyramid, as fine as the picture is, and one that draws
    /// much into tiles as fine as serves most of looking; writes nothing for any other, which is drawn from the file. Either takes the engine
    /// seconds wherever it is looked at.
    /// </summary>
    public void WriteTiles(int page, Stream to)
    {
        var start = to.Position;
        if (Scan(page) is var (width, height, isLine))
        {
            if (tileTime > AllTilesTime) return;
            using var writer = new PyramidWriter(width, height, isLine, to);
            if (Cut(page, writer, 1, PyramidWriter.Tile, AllTilesTime * 2, ref tileTime))
            {
                preview = (page, writer.Preview.Bytes, writer.Preview.Width, writer.Preview.Height);
                tiled[page] = Surface.Scan;
            }
        }
        else if (IsHeavy(page) && heavyTime < AllHeavyTime && geometryTime + pictureTime + tileTime + heavyTime < MostBefore)
        {
            var (across, down) = Pixels(page, HeavySize);
            using var writer = new PyramidWriter(across, down, Points(page) < MostEmblem, to, HeavyDrawn);
            // Not in bands: all that the page draws is gone through for each.
            if (Cut(page, writer, HeavyDrawn, HeavySize, AllHeavyTime, ref heavyTime))
            {
                Looked(page, writer.Preview.Bytes, writer.Preview.Width, writer.Preview.Height);
                tiled[page] = Surface.HeavyPage;
            }
        }
        // No pack that breaks off. The page is drawn from the file then, where that can be done; that is tried next, and told.
        if (!tiled.ContainsKey(page)) to.SetLength(start);
    }

    /// <summary>
    /// Draws a page in sizes of a pyramid, the smallest of them first; false where that does not go or takes too long. Where it does not even
    /// in the smallest of several, nor would a picture of it, and none is tried.
    /// </summary>
    /// <param name="sizes">How many, from the largest.</param>
    /// <param name="high">Rows drawn at a time.</param>
    /// <param name="most">For this page.</param>
    /// <param name="time">What all of its kind took.</param>
    private bool Cut(int page, PyramidWriter writer, int sizes, int high, TimeSpan most, ref TimeSpan time)
    {
        var since = DateTime.UtcNow;
        var size = sizes;
        try
        {
            while (size-- > 0)
            {
                var (width, height) = writer.Sizes[size];
                if (!EngineIsReady() || !engine!.Draw(page, width, height, Math.Min(high, height), (rows, _) => Rows(rows, width * 4, size))) return false;
                // The others take longer.
                if (sizes > 1 && size == sizes - 1 && DateTime.UtcNow - since > most / 4) return false;
            }
            writer.End();
            return true;
        }
        catch (PageEngineException e)
        {
            EndEngine();
            if (sizes > 1 && size == sizes - 1)
            {
                NotDrawn(page, e.Message);
                Looked(page, null, 0, 0);
            }
            return false;
        }
        finally
        {
            time += DateTime.UtcNow - since;
        }

        void Rows(ReadOnlySpan<byte> rows, int stride, int size)
        {
            for (; rows.Length > 0; rows = rows[stride..]) writer.Row(size, rows[..stride]);
            if (DateTime.UtcNow - since > most) throw new PageEngineException("It took longer than a page may.");
        }
    }

    /// <summary>Whether a page draws so much that it takes long to: many strokes, more of them than are read, or large pictures.</summary>
    private bool IsHeavy(int page) =>
        Read(page) is { } read ? read.Sheet.SegmentEntity.Length + read.Sheet.TriangleEntity.Length >= LeastStrokes || read.Points >= LeastPoints : tooMuch.Contains(page);

    private long Points(int page) => Read(page)?.Points ?? 0;

    /// <summary>How large the picture of points is that a page is, in pixels; null where it shows anything else, or one that needs no tiles.</summary>
    private (int Width, int Height, bool IsLine)? Scan(int page)
    {
        const long LeastPixels = 4_000_000;
        const int MostAcross = 60_000;
        if (Read(page) is not { Covering: { IsFinest: true } covering, HasFields: false } read || read.PictureOnly.Keys.Any(what => what != ReadPage.Image)) return null;
        if (read.Sheet.EntityHandle.Length > 0 || layers.OfFile.Count > 0 || Basics(page).Marks.Count > 0) return null;
        double width = Math.Round(Paper(page).Width / covering.Across), height = Math.Round(Paper(page).Height / covering.Down);
        return width is >= 1 and <= MostAcross && height is >= 1 and <= MostAcross && width * height is >= LeastPixels and <= MostPixels ? ((int)width, (int)height, covering.IsLine) : null;
    }
}
