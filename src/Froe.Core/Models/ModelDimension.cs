using System.Globalization;

namespace Froe.Core.Models;

/// <summary>What is stated of a part in its model.</summary>
public enum ModelDimensionKind
{
    /// <summary>A size: a diameter, a width.</summary>
    Size,

    /// <summary>How far, or at which angle, two things lie from one another.</summary>
    Location,

    /// <summary>A tolerance of form, direction, place or run-out (ISO 1101).</summary>
    Tolerance,

    /// <summary>A datum (ISO 5459).</summary>
    Datum,

    /// <summary>A note, or something else that is drawn and of which no more is known.</summary>
    Note,
}

/// <summary>A dimension, tolerance or datum that a model states.</summary>
/// <param name="Name">What it is called; empty where it has no name.</param>
/// <param name="Words">What it says, as it would stand on a drawing.</param>
/// <param name="Part">The part it speaks of, by its place in the scene's list.</param>
/// <param name="Faces">The faces it speaks of, by their places in the part's list; none where that is not known for sure.</param>
public sealed record ModelDimension(ModelDimensionKind Kind, string Name, string Words, int Part, IReadOnlyList<int> Faces)
{
    /// <summary>How the file has drawn it; null where it has not.</summary>
    public DrawnOnModel? Drawn { get; init; }

    /// <summary>A size or a location in words: Ø62 +0.03 / 0.</summary>
    /// <param name="sign">What goes before the value: Ø, R, or nothing.</param>
    /// <param name="value">In millimetres, or degrees; null where the file states none.</param>
    /// <param name="lower">How far it may lie below, as a number to be added; null for no limits.</param>
    /// <param name="upper">How far above.</param>
    /// <param name="fit">A tolerance class such as H7 (ISO 286-1); empty for none.</param>
    public static string Said(string sign, double? value, bool isAngle, double? lower, double? upper, string fit)
    {
        var words = value is { } v ? $"{sign}{Told(v)}{(isAngle ? "°" : "")}" : sign;
        if (fit.Length > 0) words = $"{words} {fit}".Trim();
        if (lower is not { } low || upper is not { } up) return words;
        return Math.Abs(low + up) < 1e-9 && up > 0 ? $"{words} ±{Told(up)}" : $"{words} {Signed(up)} / {Signed(low)}";
    }

    /// <summary>A tolerance in words: parallelism 0.02 to A, B.</summary>
    public static string Said(string kind, double? magnitude, IReadOnlyList<string> datums)
    {
        ArgumentNullException.ThrowIfNull(datums);
        var words = magnitude is { } m ? $"{kind} {Told(m)}" : kind;
        return datums.Count == 0 ? words : $"{words} to {string.Join(", ", datums)}";
    }

    // What rounds to nothing has no sign.
    private static string Told(double value) => (Math.Round(value, 4) + 0.0).ToString("0.####", CultureInfo.InvariantCulture);

    private static string Signed(double value) => Told(value) is var told && told is "0" ? told : value > 0 ? $"+{told}" : told;
}

/// <summary>Something drawn in space, on the plane that it was drawn on, in its part's coordinates.</summary>
/// <param name="Lines">Lines through points: x, y, z one behind the other.</param>
/// <param name="Areas">Filled triangles: nine numbers each.</param>
public sealed record DrawnOnModel(IReadOnlyList<IReadOnlyList<double>> Lines, IReadOnlyList<double> Areas)
{
    /// <summary>Both of two.</summary>
    public DrawnOnModel With(DrawnOnModel other)
    {
        ArgumentNullException.ThrowIfNull(other);
        return new DrawnOnModel([.. Lines, .. other.Lines], [.. Areas, .. other.Areas]);
    }
}
