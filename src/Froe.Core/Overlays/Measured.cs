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
    public static string? Words(Shape shape, IEnumerable<SheetScale> scales, LengthUnit unit)
    {
        double? At(PointXY p) => scales.FirstOrDefault(s => s.Area is not { } a || (p.X >= a.MinX && p.X <= a.MaxX && p.Y >= a.MinY && p.Y <= a.MaxY))?.Millimetres;
        switch (shape)
        {
            case Dimension d:
                var now = At(d.From);
                var value = Length(d.Length, now, unit);
                var was = IsSame(d.Factor, now) ? "" : $" (was {Length(d.Length, d.Factor, unit)})";
                return value + was + (d.Wanted.Length > 0 ? $" → {d.Wanted}{Checked(d.Length, now, d.Wanted)}" : "");
            case Area a: return Anew(factor => $"{Size(a.Size, factor, unit)}, around {Length(a.Around(), factor, unit)}", a.Factor, At(a.Points[0]));
            case Radius r:
                var length = Math.Sqrt(((r.To.X - r.From.X) * (r.To.X - r.From.X)) + ((r.To.Y - r.From.Y) * (r.To.Y - r.From.Y)));
                return Anew(factor => $"R {Length(length, factor, unit)}, Ø {Length(2 * length, factor, unit)}", r.Factor, At(r.From));
            case PathLength p: return Anew(factor => $"{Length(p.Along(), factor, unit)} along", p.Factor, At(p.Points[0]));
            case Coordinate c: return Anew(factor => $"x {Length(c.At.X - c.Origin.X, factor, unit).Split(' ')[0]}, y {Length(c.At.Y - c.Origin.Y, factor, unit)}", c.Factor, At(c.At));
            case Angle a: return $"{Plain(Math.Abs(a.Turn) * 180 / Math.PI, 2)}°";
            default: return null;
        }
    }

    /// <summary>Whether a length lies within what is asked for, where that states bounds and the scale is known.</summary>
    private static string Checked(double length, double? factor, string wanted) => factor is { } f && Tolerance.Read(wanted) is { } bounds ? $": {bounds.Verdict(length * f)}" : "";

    private static string Anew(Func<double?, string> words, double? factor, double? now) => IsSame(factor, now) ? words(now) : $"{words(now)} (was {words(factor)})";

    private static bool IsSame(double? a, double? b) => a is null || b is null ? a == b : Math.Abs((b.Value / a.Value) - 1) <= Same;

    private static string Length(double length, double? factor, LengthUnit unit) =>
        factor is { } f ? $"{Plain(length * f, Digits(Math.Abs(length * f)))} mm" : Short(unit) is { } name ? $"{Plain(length, Digits(Math.Abs(length)))} {name} on paper" : $"{Plain(length, 3)} units";

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
