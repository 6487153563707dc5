using System.Globalization;
using System.Text.RegularExpressions;
using Froe.Core.Drawing;

namespace Froe.Core.Draft;

/// <summary>A scale that somebody gave: by two points of the sheet and how far apart they are, or in words.</summary>
/// <param name="From">One point of the sheet.</param>
/// <param name="To">Another.</param>
/// <param name="Length">How far they are apart in the world.</param>
/// <param name="Unit">What the length is counted in.</param>
/// <param name="Ratio">Of 1:50, 50; instead of the points and their length.</param>
public sealed record GivenScale(PointXY? From = null, PointXY? To = null, double? Length = null, LengthUnit? Unit = null, double? Ratio = null);

/// <summary>A scale that the words on a sheet name: a suggestion, until somebody takes it.</summary>
/// <param name="Ratio">Of 1:50, 50.</param>
/// <param name="Line">The line that it stands in.</param>
public sealed record NamedScale(double Ratio, string Line);

/// <summary>What scales mean, and which hold.</summary>
public static partial class ScaleRules
{
    /// <summary>The smallest and the largest scale that a person may give: millimetres of the world in a millimetre of paper, or in a unit that is not known.</summary>
    private const double Least = 1e-6, Most = 1e9;

    private const int MostNamed = 5, LongestLine = 120;

    /// <summary>How near a ratio must be to a whole number to be read as one.</summary>
    private const double Near = 5e-4;

    /// <summary>What a given scale comes to on a sheet; otherwise why it cannot be one, in words.</summary>
    public static (double Millimetres, string? Fault) Of(GivenScale given, SheetFrame sheet)
    {
        if (given.Ratio is { } ratio)
        {
            if (LengthUnits.MillimetresIn(sheet.Unit) is not { } unit) return (0, "The size of this sheet is not known, so no ratio says how large things are. Give two points and how far they are apart.");
            return Bounded(ratio * unit, unit);
        }
        if (given is not { From: { } from, To: { } to, Length: { } length, Unit: { } of }) return (0, "Give two points and how far they are apart.");
        if (LengthUnits.MillimetresIn(of) is not { } millimetres) return (0, "Say what the length is counted in.");
        var apart = Math.Sqrt(Square(to.X - from.X) + Square(to.Y - from.Y));
        // Whoever points at a screen cannot be surer of two points than this.
        if (!double.IsFinite(apart) || apart <= Math.Max(sheet.Extents.Width, sheet.Extents.Height) * 1e-6) return (0, "The two points are one. Choose points that lie farther apart.");
        if (!(length > 0) || !double.IsFinite(length)) return (0, "A length is more than nothing.");
        return Bounded(length * millimetres / apart, LengthUnits.MillimetresIn(sheet.Unit) ?? 1);
    }

    /// <summary>What a unit that somebody gave to a model comes to, in millimetres; otherwise why it cannot be given, in words.</summary>
    public static (double Millimetres, string? Fault) Of(GivenScale given, SceneFrame scene)
    {
        ArgumentNullException.ThrowIfNull(given);
        ArgumentNullException.ThrowIfNull(scene);
        if (scene.Unit != LengthUnit.Unknown) return (0, "The file says what the model is counted in, and that holds.");
        if (given is not { Unit: { } unit, From: null, To: null, Length: null, Ratio: null } || LengthUnits.MillimetresIn(unit) is not { } millimetres) return (0, "Say what the model is counted in: millimetres, metres, inches.");
        return (millimetres, null);
    }

    private static (double Millimetres, string? Fault) Bounded(double millimetres, double unit) =>
        millimetres / unit is >= Least and <= Most ? (millimetres, null) : (0, "No drawing has such a scale. Look at the length again, and at its unit.");

    private static double Square(double a) => a * a;

    /// <summary>A scale in words, as ISO 5455 writes it: 1:50, 2:1; of a sheet whose unit is not known, what one unit is.</summary>
    public static string Words(double millimetres, LengthUnit unit)
    {
        if (LengthUnits.MillimetresIn(unit) is not { } one) return $"1 unit = {Number(millimetres)} mm";
        var ratio = millimetres / one;
        return ratio >= 1 - Near ? $"1:{Number(ratio)}" : $"{Number(1 / ratio)}:1";
    }

    private static string Number(double value)
    {
        var whole = Math.Round(value);
        if (whole >= 1 && Math.Abs(value - whole) <= whole * Near) return whole.ToString("0", CultureInfo.InvariantCulture);
        // Four digits that count: a scale is measured no better.
        var places = Math.Clamp(3 - (int)Math.Floor(Math.Log10(value)), 0, 12);
        return Math.Round(value, places).ToString("0.############", CultureInfo.InvariantCulture);
    }

    /// <summary>The scales that words on a sheet name, each once: those that say that they are scales, or where none does, all that look like one.</summary>
    /// <param name="lines">What is written on the sheet, line by line.</param>
    public static IReadOnlyList<NamedScale> Named(IEnumerable<string> lines)
    {
        var (said, looking) = (new List<NamedScale>(), new List<NamedScale>());
        foreach (var line in lines)
            foreach (Match found in Ratios().Matches(line))
            {
                var digits = found.Groups["of"].Value.Replace(" ", "", StringComparison.Ordinal).Replace(".", "", StringComparison.Ordinal).Replace(",", "", StringComparison.Ordinal).Replace("\u00a0", "", StringComparison.Ordinal);
                if (!double.TryParse(digits, NumberStyles.None, CultureInfo.InvariantCulture, out var of) || !double.TryParse(found.Groups["one"].Value, NumberStyles.None, CultureInfo.InvariantCulture, out var one)) continue;
                // Scales of drawings enlarge to 50:1 or reduce to 1 to a million, and one side of them is 1 (ISO 5455).
                if (!(one == 1 && of is >= 1 and <= 1e6) && !(of == 1 && one is > 1 and <= 1000)) continue;
                var named = new NamedScale(of / one, line.Length <= LongestLine ? line.Trim() : line[..LongestLine].Trim());
                var to = found.Groups["said"].Success ? said : looking;
                if (!to.Exists(n => n.Ratio == named.Ratio)) to.Add(named);
            }
        return [.. (said.Count > 0 ? said : looking).Take(MostNamed)];
    }

    // “Scale 1:50”, “M 1:50”, “Maßstab 1 : 1 000”, “1/50” only where it is called a scale; not 12:30:15, 1:50:2 or 1.1:50.
    [GeneratedRegex(@"(?<said>\b(?:scale|maßstab|massstab|échelle|echelle|escala|scala|schaal|skala|skale|målestok|målestokk|mittakaava|měřítko|skala|M)\b\.?\s*[:=]?\s*)?(?<![\d.,:/-])(?<one>\d{1,4})\s?(?:[:∶]|(?(said)/|(?!)))\s?(?<of>\d{1,3}(?:[ \u00a0.,]\d{3}(?![\p{L}\d]))+|\d{1,7})(?![\d:/]|[.,]\d)", RegexOptions.IgnoreCase | RegexOptions.CultureInvariant, 1000)]
    private static partial Regex Ratios();
}
