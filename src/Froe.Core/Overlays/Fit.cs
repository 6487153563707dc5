using System.Collections.Immutable;
using System.Globalization;
using System.Text.Json;

namespace Froe.Core.Overlays;

/// <summary>
/// Limits of sizes by their tolerance class, such as H7 (ISO 286-1:2010), for sizes up to 500 mm. The page reckons the same from the same numbers (fits.json).
/// </summary>
public static class Fit
{
    private sealed record Numbers(
        ImmutableArray<double> Sizes, ImmutableDictionary<string, ImmutableArray<double>> Grades, ImmutableDictionary<string, ImmutableArray<double>> Clearance,
        ImmutableDictionary<string, ImmutableArray<double>> Interference);

    private static readonly Numbers Told = Read();

    /// <summary>How far a size may lie below and above what it is called.</summary>
    /// <param name="size">What it is called, in millimetres.</param>
    /// <param name="letters">Of its class: capitals for a hole, small ones for a shaft.</param>
    /// <param name="grade">The number behind them.</param>
    /// <returns>In millimetres; null for a class or a size that is not known here.</returns>
    public static (double Lower, double Upper)? Limits(double size, string letters, int grade)
    {
        ArgumentNullException.ThrowIfNull(letters);
        if (!(size > 0) || Band(size) is not { } band || Width(grade, band) is not { } width) return null;
        return letters switch
        {
            "js" or "JS" => (-width / 2000, width / 2000),
            _ when Told.Clearance.TryGetValue(letters, out var shaft) => Downwards(-shaft[band], width),
            _ when Told.Interference.TryGetValue(letters, out var tight) => Upwards(letters == "k" && grade > 7 ? 0 : tight[band], width),
            _ when Told.Clearance.TryGetValue(letters.ToLowerInvariant(), out var hole) => Upwards(hole[band], width),
            _ when Told.Interference.TryGetValue(letters.ToLowerInvariant(), out var narrow) && Highest(letters, grade, band, narrow[band], width) is { } highest => Downwards(highest, width),
            _ => null,
        };
    }

    /// <summary>The upper limit deviation of a tight hole, in micrometres: that of the shaft with Δ taken back (4.3.2.5).</summary>
    private static double? Highest(string letters, int grade, int band, double shaft, double width)
    {
        if (grade < 6 || (letters is "K" or "M" && grade > 8)) return null;
        if (letters == "N" && grade > 8) return band == 0 ? -shaft : 0;
        // The one that the table gives otherwise.
        if (letters == "M" && grade == 6 && band == 10) return -9;
        var hasStep = band > 0 && grade <= (letters == "P" ? 7 : 8);
        return -shaft + (hasStep ? width - Width(grade - 1, band)!.Value : 0);
    }

    private static (double, double)? Upwards(double from, double width) => (from / 1000, (from + width) / 1000);

    private static (double, double)? Downwards(double from, double width) => ((from - width) / 1000, from / 1000);

    private static int? Band(double size)
    {
        var band = Told.Sizes.TakeWhile(most => size > most).Count();
        return band < Told.Sizes.Length ? band : null;
    }

    private static double? Width(int grade, int band) => Told.Grades.TryGetValue(grade.ToString(CultureInfo.InvariantCulture), out var widths) ? widths[band] : null;

    private static Numbers Read()
    {
        using var json = typeof(Fit).Assembly.GetManifestResourceStream("fits.json")!;
        return JsonSerializer.Deserialize<Numbers>(json, JsonSerializerOptions.Web)!;
    }
}
