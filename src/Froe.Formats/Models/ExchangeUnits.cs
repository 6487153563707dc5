namespace Froe.Formats.Models;

/// <summary>Measures of an exchange file with their units (ISO 10303-41).</summary>
internal static class ExchangeUnits
{
    private const int Deepest = 8;

    /// <summary>A measure in millimetres or degrees; null where it is none.</summary>
    public static (double Value, bool IsAngle)? Measure(ExchangeFile file, int id) => Measure(file, id, 0);

    /// <summary>A measure of a size of so many dimensions, in millimetres to that power: 2 for an area, 3 for a volume; null where it is none.</summary>
    public static double? Power(ExchangeFile file, int id, int power)
    {
        var (value, unit) = Said(file, id);
        if (value is not { } number || unit is not { } of || file.Find(of, "DERIVED_UNIT") is not [IReadOnlyList<object?> elements, ..]) return null;
        var factor = 1.0;
        var sum = 0.0;
        foreach (var element in elements.OfType<InstanceName>())
        {
            if (file.Find(element.Id, "DERIVED_UNIT_ELEMENT") is not [InstanceName one, double exponent, ..] || Unit(file, one.Id, 0) is not { IsAngle: false } length) return null;
            factor *= Math.Pow(length.Factor, exponent);
            sum += exponent;
        }
        return sum == power ? number * factor : null;
    }

    /// <summary>Millimetres in the unit of length that coordinates are in; 1 where the file does not say.</summary>
    public static double Length(ExchangeFile file)
    {
        foreach (var (_, parts) in file.Complex())
            if (parts.TryGetValue("GLOBAL_UNIT_ASSIGNED_CONTEXT", out var context) && context is [IReadOnlyList<object?> units, ..])
                foreach (var unit in units.OfType<InstanceName>())
                    if (Unit(file, unit.Id, 0) is { IsAngle: false } length) return length.Factor;
        return 1;
    }

    private static (double Value, bool IsAngle)? Measure(ExchangeFile file, int id, int depth)
    {
        if (depth > Deepest) return null;
        var (value, unit) = Said(file, id);
        return value is { } number && unit is { } of && Unit(file, of, depth + 1) is { } known ? (number * known.Factor, known.IsAngle) : null;
    }

    private static (double? Value, int? Unit) Said(ExchangeFile file, int id)
    {
        if (file.Find(id) is not { } found) return (null, null);
        var said = found.Parts is null ? found.Values : found.Parts.TryGetValue("MEASURE_WITH_UNIT", out var with) ? with : [];
        return (said.Select(v => v switch { double plain => plain, TypedValue { Values: [double typed, ..] } => typed, _ => (double?)null }).FirstOrDefault(v => v is not null),
            said.OfType<InstanceName>().Select(n => (int?)n.Id).FirstOrDefault());
    }

    private static (double Factor, bool IsAngle)? Unit(ExchangeFile file, int id, int depth)
    {
        if (file.Find(id)?.Parts is not { } parts) return null;
        var isAngle = parts.ContainsKey("PLANE_ANGLE_UNIT");
        if (!isAngle && !parts.ContainsKey("LENGTH_UNIT")) return null;
        if (parts.TryGetValue("CONVERSION_BASED_UNIT", out var based)) return based is [_, InstanceName measure, ..] && Measure(file, measure.Id, depth + 1) is { } one ? (one.Value, isAngle) : null;
        if (isAngle) return (180 / Math.PI, true);
        return parts.TryGetValue("SI_UNIT", out var si) && si is [var prefix, ..]
            ? ((prefix as string) switch { "MILLI" => 1, "CENTI" => 10, "DECI" => 100, "MICRO" => 0.001, "KILO" => 1e6, _ => 1000 }, false)
            : null;
    }
}
