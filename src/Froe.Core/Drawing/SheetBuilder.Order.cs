namespace Froe.Core.Drawing;

/// <summary>Where the drawing is, and its strokes in an order in which neighbours on paper are neighbours in memory.</summary>
public sealed partial class SheetBuilder
{
    private const int Sampled = 256;

    /// <summary>
    /// Where the drawing is: its extents, unless some of what is drawn lies so far off that what is written as an offset in 32 bits would
    /// lose more than the eye and the hand can tell. A point left at the origin does that to a site in its country's coordinates.
    /// </summary>
    private Extents Bulk(Extents extents)
    {
        var (xs, ys) = (new List<double>(2 * Sampled), new List<double>(2 * Sampled));
        for (var i = 0; i < segments.Count; i += 1 + (segments.Count / Sampled)) Take((segments[i].X0 + segments[i].X1) / 2, (segments[i].Y0 + segments[i].Y1) / 2);
        for (var i = 0; i < triangleEntity.Count; i += 1 + (triangleEntity.Count / Sampled)) Take(triangles[6 * i], triangles[(6 * i) + 1]);
        for (var i = 0; i < texts.Count; i += 1 + (texts.Count / Sampled)) Take(texts[i].At.X, texts[i].At.Y);
        if (xs.Count < 2) return extents;
        xs.Sort();
        ys.Sort();
        var (x, y) = (Middle(xs), Middle(ys));
        // What lies within four times the reach of the middle half is near.
        var reach = 4 * Math.Max(x.Half, y.Half);
        var near = new Extents(x.At - reach, y.At - reach, x.At + reach, y.At + reach);
        return reach > 0 && Math.Max(extents.Width, extents.Height) > 50 * reach ? near : extents;

        void Take(double atX, double atY)
        {
            xs.Add(atX);
            ys.Add(atY);
        }

        static (double At, double Half) Middle(List<double> sorted) => (sorted[sorted.Count / 2], Math.Max(sorted[3 * sorted.Count / 4] - sorted[sorted.Count / 2], sorted[sorted.Count / 2] - sorted[sorted.Count / 4]));
    }

    /// <summary>
    /// The cell of a 64 × 64 grid that each stroke's middle lies in, cells in rows to and fro, and where the first of each cell comes to
    /// stand when strokes are sorted by it. Few strokes stay as they were drawn: all in one cell.
    /// </summary>
    private (ushort[] Cells, int[] Starts) SpatialCells(Extents extents)
    {
        const int Grid = 64;
        var cells = new ushort[segments.Count];
        var starts = new int[(Grid * Grid) + 1];
        if (cells.Length < 4096) return (cells, starts);
        double sx = Grid / Math.Max(extents.Width, 1e-300), sy = Grid / Math.Max(extents.Height, 1e-300);
        var i = 0;
        for (var part = 0; part < segments.Parts; part++)
            foreach (ref readonly var s in segments.Part(part))
            {
                // What lies beyond whole numbers lies in some cell at the edge: any will do.
                var x = Math.Clamp(double.ConvertToIntegerNative<int>((((s.X0 + s.X1) / 2) - extents.MinX) * sx), 0, Grid - 1);
                var y = Math.Clamp(double.ConvertToIntegerNative<int>((((s.Y0 + s.Y1) / 2) - extents.MinY) * sy), 0, Grid - 1);
                var cell = (y * Grid) + ((y & 1) == 0 ? x : Grid - 1 - x);
                cells[i++] = (ushort)cell;
                starts[cell + 1]++;
            }
        for (var c = 0; c < Grid * Grid; c++) starts[c + 1] += starts[c];
        return (cells, starts);
    }
}
