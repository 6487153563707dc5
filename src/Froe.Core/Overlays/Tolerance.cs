using System.Globalization;
using System.Text.RegularExpressions;

namespace Froe.Core.Overlays;

/// <summary>A length that is asked for with what it may differ by, as people write it. The page reads the same (tests/cases/measures.json holds both to it).</summary>
/// <param name="Least">The least it may be, in millimetres; null for no bound.</param>
/// <param name="Most">The most it may be, in millimetres; null for no bound.</param>
public sealed partial record Tolerance(double? Least, double? Most)
{
    /// <summary>Reads “40 ±0.1”, “Ø 40 +0.2/-0.1”, “40 +0.2/0”, “max 40”, “≥ 40”, “Ø 40 H7” and the like, with a comma or a point; null for what states no bounds.</summary>
    public static Tolerance? Read(string text)
    {
        ArgumentNullException.ThrowIfNull(text);
        var plain = text.Trim().Replace(',', '.').Replace('−', '-').Replace('–', '-');
        if (Even().Match(plain) is { Success: true } even)
        {
            var (nominal, by) = (Number(even, 1), Number(even, 2));
            return new(nominal - by, nominal + by);
        }
        if (Uneven().Match(plain) is { Success: true } uneven)
        {
            double nominal = Number(uneven, 1), a = Number(uneven, 2), b = Number(uneven, 3);
            return new(nominal + Math.Min(a, b), nominal + Math.Max(a, b));
        }
        var (before, behind) = (BoundBefore().Match(plain), BoundBehind().Match(plain));
        if (before.Success) return Bound(before.Groups[1].Value, Number(before, 2));
        if (behind.Success) return Bound(behind.Groups[2].Value, Number(behind, 1));
        if (Class().Match(plain) is { Success: true } fit && Fit.Limits(Number(fit, 1), fit.Groups[2].Value, int.Parse(fit.Groups[3].Value, CultureInfo.InvariantCulture)) is var (lower, upper))
            return new(Number(fit, 1) + lower, Number(fit, 1) + upper);
        return null;
    }

    /// <summary>The first length with bounds that stands in a text, as it stands there; null where there is none.</summary>
    public static string? Stated(string text)
    {
        ArgumentNullException.ThrowIfNull(text);
        var words = text.Split([' ', '\n', '\t', '\r'], StringSplitOptions.RemoveEmptyEntries);
        for (var first = 0; first < words.Length; first++)
            for (var count = Math.Min(MostWords, words.Length - first); count > 0; count--)
            {
                var part = string.Join(' ', words.Skip(first).Take(count)).Trim('(', ')', '“', '”', '"', '.', ',', ';', ':', '!', '?');
                if (part.Length <= LongestStated && Read(part) is not null) return part;
            }
        return null;
    }

    /// <summary>Words that a length with bounds takes at most, and characters.</summary>
    private const int MostWords = 5, LongestStated = 40;

    /// <summary>What is to be said of a length: that it lies inside, or by how much it does not.</summary>
    /// <param name="millimetres">The length.</param>
    public string Verdict(double millimetres) =>
        Most is { } most && millimetres > most + Slack ? $"{Measured.Plain(millimetres - most, 3)} over"
        : Least is { } least && millimetres < least - Slack ? $"{Measured.Plain(least - millimetres, 3)} under"
        : "inside";

    /// <summary>What numbers lose on their way, in millimetres: not what lies on a bound.</summary>
    private const double Slack = 1e-6;

    private static Tolerance Bound(string word, double value) => word[0] is 'm' or 'M' && word[1] is 'a' or 'A' || word[0] == '≤' ? new(null, value) : new(value, null);

    private static double Number(Match match, int group) => double.Parse(match.Groups[group].Value.Replace(" ", "", StringComparison.Ordinal), CultureInfo.InvariantCulture);

    [GeneratedRegex(@"^[ØR⌀]? ?([0-9]+(?:\.[0-9]+)?) ?(?:mm)? ?(?:±|\+/-) ?([0-9]*\.?[0-9]+) ?(?:mm)?$")]
    private static partial Regex Even();

    [GeneratedRegex(@"^[ØR⌀]? ?([0-9]+(?:\.[0-9]+)?) ?(?:mm)? ?([+-] ?[0-9]*\.?[0-9]+|0) ?[/ ] ?([+-] ?[0-9]*\.?[0-9]+|0) ?(?:mm)?$")]
    private static partial Regex Uneven();

    [GeneratedRegex(@"^[ØR⌀]? ?([0-9]+(?:\.[0-9]+)?) ?(?:mm)? ?(JS|js|[D-HKMNPd-hkmnp]) ?([0-9]{1,2})$")]
    private static partial Regex Class();

    [GeneratedRegex(@"^(max\.?|min\.?|≤|≥) ?[ØR⌀]? ?([0-9]+(?:\.[0-9]+)?) ?(?:mm)?$", RegexOptions.IgnoreCase)]
    private static partial Regex BoundBefore();

    [GeneratedRegex(@"^[ØR⌀]? ?([0-9]+(?:\.[0-9]+)?) ?(?:mm)? ?(max\.?|min\.?)$", RegexOptions.IgnoreCase)]
    private static partial Regex BoundBehind();
}
