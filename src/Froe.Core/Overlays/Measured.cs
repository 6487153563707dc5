using System.Globalization;
using Froe.Core.Drawing;

namespace Froe.Core.Overlays;

/// <summary>What kept measures say, in words. The page says the same (tests/cases/measures.json holds both to it).</summary>
public static class Measured
{
    /// <summary>How far two scales may differ and be called the same: what is written and read again.</summary>
    private const double Same = 1e-9;

    /// <summary>What a shape says besides its own words; null for one that measures nothing.</summary>
    /// <param name="shape">The shape.</param>
    /// <param name="scales">How large things are on its sheet now, the smallest area first.</param>
    /// <param name="unit">The sheet's.</param>
    /// <param name="fineness">What is told apart on it at the least, in its units; null where its coordinates are true.</param>
    /// <param name="note">What the note says whose place it is: a length with bounds that stands there is what is asked for, where nothing else is.</param>
    public static string? Words(Shape shape, IEnumerable<SheetScale> scales, LengthUnit unit, double? fineness = null, string note = "")
    {
        string Length(double length, double? factor, double share = 1) => Measured.Length(length, factor, unit, fineness * share);
        double? At(PointXY p) => scales.FirstOrDefault(s => s.Area is not { } a || (p.X >= a.MinX && p.X <= a.MaxX && p.Y >= a.MinY && p.Y <= a.MaxY))?.Millimetres;
        switch (shape)
        {
            case Dimension d:
                var now = At(d.From);
                var value = Length(d.Length, now);
                var was = IsSame(d.Factor, now) ? "" : $" (was {Length(d.Length, d.Factor)})";
                var wanted = d.Wanted.Length > 0 ? d.Wanted : Tolerance.Stated(note) ?? "";
                return value + was + (wanted.Length > 0 ? $" → {wanted}{Checked(d.Length, now, wanted)}" : "");
            case Area a: return Anew(factor => $"{Size(a.Size, factor, unit)}, around {Measured.Length(a.Around(), factor, unit, null)}", a.Factor, At(a.Points[0]));
            case Radius r:
                var length = Math.Sqrt(((r.To.X - r.From.X) * (r.To.X - r.From.X)) + ((r.To.Y - r.From.Y) * (r.To.Y - r.From.Y)));
                return Anew(factor => $"R {Length(length, factor)}, Ø {Length(2 * length, factor, 2)}", r.Factor, At(r.From));
            case PathLength p: return Anew(factor => $"{Length(p.Along(), factor, p.Points.Length - 1)} along", p.Factor, At(p.Points[0]));
            case Coordinate c: return Anew(factor => $"x {Length(c.At.X - c.Origin.X, factor).Split(' ')[0]}, y {Length(c.At.Y - c.Origin.Y, factor)}", c.Factor, At(c.At));
            case Angle a: return $"{Plain(Math.Abs(a.Turn) * 180 / Math.PI, 2)}°";
            default: return null;
        }
    }

    /// <summary>Whether a length lies within what is asked for, where that states bounds and the scale is known.</summary>
    private static string Checked(double length, double? factor, string wanted) => factor is { } f && Tolerance.Read(wanted) is { } bounds ? $": {bounds.Verdict(length * f)}" : "";

    private static string Anew(Func<double?, string> words, double? factor, double? now) => IsSame(factor, now) ? words(now) : $"{words(now)} (was {words(factor)})";

    private static bool IsSame(double? a, double? b) => a is null || b is null ? a == b : Math.Abs((b.Value / a.Value) - 1) <= Same;

    /// <summary>A length: no more exactly than what it lies on is, with how far it may be off.</summary>
    /// <param name="off">How far, in units of the sheet; null where its coordinates are true.</param>
    private static string Length(double length, double? factor, LengthUnit unit, double? off)
    {
        var (value, by) = factor is { } f ? (length * f, off * f) : (length, off);
        var digits = Short(unit) is null && factor is null ? 3 : Digits(Math.Abs(value));
        var about = "";
        if (by is { } within && within > 0)
        {
            var fine = DigitsOf(within);
            // What is stated more exactly than it is rounded to needs no word.
            if (fine <= digits) (digits, about) = (fine, $" ±{Plain(Math.Max(within, Math.Pow(10, -fine)), fine)}");
        }
        return Plain(value, digits) + (factor is not null ? $" mm{about}" : Short(unit) is { } name ? $" {name}{about} on paper" : $" units{about}");
    }

    /// <summary>Digits behind the point of the first figure of a number: none from 1 on.</summary>
    private static int DigitsOf(double small) => small >= 1 ? 0 : small >= 0.1 ? 1 : small >= 0.01 ? 2 : 3;

    private static string Size(double size, double? factor, LengthUnit unit)
    {
        if (factor is not { } f) return Short(unit) is { } name ? $"{Plain(size, 1)} {name}² on paper" : $"{Plain(size, 3)} square units";
        var square = size * f * f;
        return square < 1e6 ? $"{Plain(square, square < 100 ? 2 : 0)} mm²" : $"{Plain(square / 1e6, 3)} m²";
    }

    /// <summary>Digits of a length in millimetres: as many as drawings state, fewer the longer it is.</summary>
    private static int Digits(double millimetres) => millimetres < 10 ? 3 : millimetres < 100 ? 2 : millimetres < 10_000 ? 1 : 0;

    /// <summary>A number with so many digits behind its point at most.</summary>
    internal static string Plain(double value, int digits)
    {
        // To the nearest by all its digits, halves up: as the pages round.
        var text = value < 1e11 && double.IsFinite(value)
            ? Math.Round(decimal.Parse(value.ToString("F16", CultureInfo.InvariantCulture), CultureInfo.InvariantCulture), digits, MidpointRounding.AwayFromZero).ToString($"F{digits}", CultureInfo.InvariantCulture)
            : value.ToString($"F{digits}", CultureInfo.InvariantCulture);
        return text.Contains('.', StringComparison.Ordinal) ? text.TrimEnd('0').TrimEnd('.') : text;
    }

    private static string? Short(LengthUnit unit) => unit switch
    {
        LengthUnit.Millimetre => "mm",
        LengthUnit.Centimetre => "cm",
        LengthUnit.Metre => "m",
        LengthUnit.Inch => "in",
        LengthUnit.Foot => "ft",
        _ => null,
    };
}
