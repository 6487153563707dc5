using Froe.Core.Drawing;
using Froe.Formats.Pdf;
using Xunit;

namespace Froe.Formats.Tests;

/// <summary>PDF files small enough to be worked by hand.</summary>
internal static partial class SmallPdf
{
    public const double Point = 25.4 / 72;

    public static PdfPages Open(byte[] file)
    {
        var (pages, fault) = PdfPages.Open(file, new ReadLimits(PageSeconds: 3));
        Assert.True(pages is not null, fault?.ToString());
        return pages!;
    }

    /// <summary>Strokes in points of the page, rounded.</summary>
    public static List<(double X0, double Y0, double X1, double Y1)> Strokes(Sheet s, double point = Point) =>
        [.. SmallDxf.Strokes(s).Select(l => (Round(l.X0), Round(l.Y0), Round(l.X1), Round(l.Y1)))
            .Select(l => (Math.Round(l.Item1 / point, 1), Math.Round(l.Item2 / point, 1), Math.Round(l.Item3 / point, 1), Math.Round(l.Item4 / point, 1)))];

    private static double Round(double value) => Math.Abs(value) < 1e-3 ? 0 : value;
}
