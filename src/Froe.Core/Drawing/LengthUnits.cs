namespace Froe.Core.Drawing;

/// <summary>How long units of length are.</summary>
public static class LengthUnits
{
    /// <summary>Millimetres in a unit; null for one that is not known.</summary>
    public static double? MillimetresIn(LengthUnit unit) => unit switch
    {
        LengthUnit.Millimetre => 1,
        LengthUnit.Centimetre => 10,
        LengthUnit.Metre => 1000,
        LengthUnit.Kilometre => 1e6,
        LengthUnit.Inch => 25.4,
        LengthUnit.Foot => 304.8,
        LengthUnit.Yard => 914.4,
        LengthUnit.Mile => 1_609_344,
        LengthUnit.Micrometre => 1e-3,
        _ => null,
    };
}
