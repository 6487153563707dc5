using Froe.Core.Draft;
using Froe.Core.Drawing;
using Froe.Core.Exchange;
using Froe.Formats.Pdf;

namespace Froe.Formats.Out;

/// <summary>A sheet of a draft as it lies on a page's paper.</summary>
/// <param name="Page">From 0.</param>
/// <param name="Least">The lower left corner of the sheet, in its own coordinates.</param>
/// <param name="Millimetres">Of paper in a unit of the sheet.</param>
internal sealed record PlacedLeaf(Leaf Leaf, SheetFrame Frame, int Page, PointXY Least, double Millimetres);

/// <summary>A sheet of a draft on its page of a PDF, with what is drawn on it.</summary>
/// <param name="Page">From 0.</param>
/// <param name="Least">The lower left corner of the sheet, in its own coordinates.</param>
/// <param name="Millimetres">Of paper in a unit of the sheet.</param>
/// <param name="Detail">How long the small parts of its markups are, in its units.</param>
internal sealed record PagePlacing(int Page, PointXY Least, double Millimetres, double Detail, IReadOnlyList<DrawnAnnotation> Drawn)
{
    /// <summary>The longest side that a page may have, in points (ISO 32000-1, annex C).</summary>
    private const double LongestPage = 14_400;

    /// <summary>How long small parts are on paper at least, in millimetres; and as a share of the sheet's diagonal.</summary>
    private const double LeastDetail = 2, DetailShare = 1 / 220.0;

    /// <summary>Millimetres of paper in a unit of a sheet that becomes a page: true to size where it is paper, and no larger than pages may be.</summary>
    public static double MillimetresOf(SheetFrame frame)
    {
        var longer = Math.Max(Math.Max(frame.Extents.Width, frame.Extents.Height), 1e-9);
        // A sheet larger than paper is a site or a building: its longer side then stands for an A1 sheet's, as in its picture.
        var isPaper = frame.Surface != Surface.Strokes || (frame.Unit is LengthUnit.Millimetre or LengthUnit.Unknown && longer is > 100 and < 1300);
        return isPaper ? Math.Min(1, LongestPage * PageBounds.Point / longer) : 841 / longer;
    }

    /// <summary>How long small parts are on a sheet, in its units.</summary>
    public static double DetailOf(SheetFrame frame, double millimetres) => Math.Max(LeastDetail / millimetres, frame.Extents.Diagonal * DetailShare);

    /// <summary>A point of the sheet in a page's user space.</summary>
    public PointXY User(PointXY p, in ShownPage page) => FromLeast(new(p.X - Least.X, p.Y - Least.Y), page);

    /// <summary>The same of a point counted from the sheet's lower left corner.</summary>
    public PointXY FromLeast(PointXY p, in ShownPage page) => page.User(new(p.X * Millimetres, p.Y * Millimetres));

    /// <summary>Units of user space in one of the sheet.</summary>
    public double Scale(in ShownPage page) => Millimetres / page.Millimetres;
}
