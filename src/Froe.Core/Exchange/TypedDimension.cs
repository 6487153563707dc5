using System.Collections.Immutable;
using System.Globalization;
using System.Text.RegularExpressions;
using Froe.Core.Draft;
using Froe.Core.Drawing;

namespace Froe.Core.Exchange;

/// <summary>A dimension of a drawing whose words were typed over its value.</summary>
/// <param name="Position">The sheet that it lies on.</param>
/// <param name="At">The middle of its words, in the sheet's units.</param>
/// <param name="Height">The height of their letters, in the sheet's units.</param>
/// <param name="Words">What was typed.</param>
/// <param name="Measured">What the drawing measures there: in its units times what the dimension multiplies by, or in degrees.</param>
/// <param name="IsAngle">Whether it measures degrees.</param>
public sealed record TypedDimension(int Position, PointXY At, double Height, string Words, double Measured, bool IsAngle);

/// <summary>The dimensions of a draft's file that were typed over are to be found.</summary>
/// <param name="Leaves">The draft's leaves.</param>
public sealed record TypedDimensionsErrand(IReadOnlyList<Leaf> Leaves);

/// <summary>What is to be thought of words that were typed over a value.</summary>
public enum TypedVerdict
{
    /// <summary>A number among them is not what is measured.</summary>
    Differs,

    /// <summary>They hold no number.</summary>
    NoNumber,

    /// <summary>A number among them is what is measured by another scale than that of most: in a detail drawn larger, it may be right.</summary>
    OtherScale,

    /// <summary>A number among them is what is measured, as exactly as it is written.</summary>
    Agrees,
}

/// <summary>A dimension with what is to be thought of it.</summary>
/// <param name="Measured">What it measures by the scale that most dimensions of the sheet are typed by.</param>
public sealed record JudgedDimension(TypedDimension Dimension, double Measured, TypedVerdict Verdict);

/// <summary>Compares what was typed over dimensions with what they measure.</summary>
public static partial class TypedDimensions
{
    /// <summary>Dimensions of one drawing that are told.</summary>
    public const int Most = 2000;

    /// <summary>The scales of drawings (ISO 5455, table 1), as what a length on the sheet is multiplied by; true to size comes first.</summary>
    private static readonly ImmutableArray<double> Scales = [1, .. new[] { 2, 5, 10, 20, 50, 100, 200, 500, 1000, 2000, 5000, 10_000 }.SelectMany(s => s <= 50 ? [s, 1.0 / s] : new[] { (double)s })];

    /// <summary>
    /// Judges them, those that want looking at first. Whoever draws on a sheet at a scale and types the true lengths has typed over every value: so what most
    /// of a sheet's dimensions are typed by counts as its scale.
    /// </summary>
    public static IReadOnlyList<JudgedDimension> Judge(IEnumerable<TypedDimension> dimensions)
    {
        ArgumentNullException.ThrowIfNull(dimensions);
        return [.. dimensions.GroupBy(d => d.Position).SelectMany(JudgeSheet).OrderBy(j => j.Verdict).ThenBy(j => j.Dimension.Position).ThenByDescending(j => j.Dimension.At.Y).ThenBy(j => j.Dimension.At.X)];
    }

    private static IEnumerable<JudgedDimension> JudgeSheet(IEnumerable<TypedDimension> sheet)
    {
        var all = sheet.Select(d => (Dimension: d, Numbers: Read(d.Words))).ToList();
        // The first of the most is taken: true to size where that is one of them.
        var scale = Scales.MaxBy(s => all.Count(d => !d.Dimension.IsAngle && Holds(d.Numbers, d.Dimension.Measured * s)));
        foreach (var (d, numbers) in all)
        {
            var measured = d.IsAngle ? d.Measured : d.Measured * scale;
            yield return new(d, measured, numbers.Count == 0 ? TypedVerdict.NoNumber
                : Holds(numbers, measured) ? TypedVerdict.Agrees
                : !d.IsAngle && Scales.Any(s => Holds(numbers, d.Measured * s)) ? TypedVerdict.OtherScale
                : TypedVerdict.Differs);
        }
    }

    private static List<(double Value, double Half)> Read(string words) => [.. Numbers().Matches(words).Select(m => Number(m.Value))];

    /// <summary>A number as it is written, and half of its last digit.</summary>
    private static (double Value, double Half) Number(string written)
    {
        var plain = written.Replace(" ", "", StringComparison.Ordinal).Replace(',', '.');
        var point = plain.IndexOf('.', StringComparison.Ordinal);
        return (double.Parse(plain, CultureInfo.InvariantCulture), 0.5 * Math.Pow(10, -(point < 0 ? 0 : plain.Length - point - 1)));
    }

    private static bool Holds(List<(double Value, double Half)> numbers, double measured) => numbers.Exists(n => Math.Abs(n.Value - measured) <= n.Half + (1e-6 * Math.Max(1, Math.Abs(measured))));

    [GeneratedRegex(@"(?<![0-9])[0-9]{1,3}(?: [0-9]{3})+(?:[.,][0-9]+)?(?![0-9])|[0-9]+(?:[.,][0-9]+)?")]
    private static partial Regex Numbers();
}
