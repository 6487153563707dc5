using Froe.Core.Drawing;
using UglyToad.PdfPig;
using UglyToad.PdfPig.Tokenization.Scanner;
using UglyToad.PdfPig.Tokens;

namespace Froe.Formats.Pdf;

/// <summary>How large things are on a page, where its file says so: viewports with rectilinear measures (ISO 32000-2, 12.9).</summary>
internal static class PageMeasures
{
    private const int Most = 200;
    private static readonly NameToken Viewports = NameToken.Create("VP"), Measure = NameToken.Create("Measure"), Box = NameToken.Bbox, Across = NameToken.Create("X"), Factor = NameToken.C, Unit = NameToken.U;

    /// <summary>Reads them; what is no measure of lengths is left out.</summary>
    /// <param name="dictionary">The page's.</param>
    /// <param name="page">How the page lies on paper.</param>
    /// <param name="scanner">Finds what is referred to.</param>
    public static IReadOnlyList<SheetScale> Read(DictionaryToken dictionary, ShownPage page, IPdfTokenScanner scanner)
    {
        if (!dictionary.TryGet(Viewports, scanner, out ArrayToken? views)) return [];
        var found = new List<SheetScale>();
        foreach (var item in views!.Data.Take(Most))
        {
            if (PdfTokens.Direct(item, scanner) is not DictionaryToken view || !view.TryGet(Measure, scanner, out DictionaryToken? measure) || Area(view, page, scanner) is not { } area) continue;
            if (measure!.TryGet(NameToken.Subtype, scanner, out NameToken? kind) && kind!.Data != "RL") continue;
            if (!measure.TryGet(Across, scanner, out ArrayToken? formats) || formats!.Data.Count == 0 || PdfTokens.Direct(formats.Data[0], scanner) is not DictionaryToken format) continue;
            if (!format.TryGet(Factor, scanner, out NumericToken? factor) || Millimetres(Text(format, scanner)) is not { } unit) continue;
            var millimetres = factor!.Double * unit / page.Millimetres;
            if (millimetres > 0 && double.IsFinite(millimetres)) found.Add(new SheetScale(millimetres, area));
        }
        return [.. found.OrderBy(s => s.Area!.Value.Width * s.Area.Value.Height)];
    }

    private static Extents? Area(DictionaryToken view, ShownPage page, IPdfTokenScanner scanner)
    {
        if (!view.TryGet(Box, scanner, out ArrayToken? corners) || corners!.Data.Count < 4) return null;
        var at = corners.Data.Take(4).Select(c => PdfTokens.Direct(c, scanner) is NumericToken number ? number.Double : double.NaN).ToArray();
        PointXY a = page.Paper(at[0], at[1]), b = page.Paper(at[2], at[3]);
        return double.IsFinite(a.X + a.Y + b.X + b.Y) ? new Extents(a.X, a.Y, a.X, a.Y).With(b.X, b.Y) : null;
    }

    private static string Text(DictionaryToken format, IPdfTokenScanner scanner) => TextString.Of(format, Unit, scanner) ?? "";

    /// <summary>Millimetres in a unit by its label; files write what they like there, these are what they like.</summary>
    private static double? Millimetres(string label) => label.Trim().TrimEnd('.').ToUpperInvariant() switch
    {
        "MM" or "MILLIMETER" or "MILLIMETERS" or "MILLIMETRE" or "MILLIMETRES" => 1,
        "CM" or "CENTIMETER" or "CENTIMETERS" or "CENTIMETRE" or "CENTIMETRES" => 10,
        "M" or "METER" or "METERS" or "METRE" or "METRES" => 1000,
        "KM" or "KILOMETER" or "KILOMETERS" or "KILOMETRE" or "KILOMETRES" => 1e6,
        "IN" or "\"" or "''" or "”" or "″" or "INCH" or "INCHES" => 25.4,
        "FT" or "'" or "’" or "′" or "FOOT" or "FEET" => 304.8,
        "YD" or "YARD" or "YARDS" => 914.4,
        "MI" or "MILE" or "MILES" => 1_609_344,
        "PT" or "POINT" or "POINTS" => 25.4 / 72,
        _ => null,
    };
}
