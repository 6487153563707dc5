using System.Numerics;

namespace Froe.Core.Drawing;

/// <summary>A running 64-bit sum of what something is (multiply, turn, multiply; no protection against those who want two things to agree).</summary>
internal static class Signature
{
    private const ulong Odd = 0x9E3779B185EBCA87, Other = 0xC2B2AE3D27D4EB4F;

    /// <summary>Coordinates that differ by less count as one, so that a file written anew by another program agrees.</summary>
    private const double PerUnit = 1e5;

    public static ulong With(ulong sum, ulong value) => BitOperations.RotateLeft(sum ^ (value * Odd), 31) * Other;

    public static ulong With(ulong sum, double coordinate)
    {
        // Beyond what a long holds at that fineness, the number itself stands for it.
        var fine = coordinate * PerUnit;
        return With(sum, Math.Abs(fine) < 9e18 ? (ulong)double.ConvertToIntegerNative<long>(Math.Round(fine)) : BitConverter.DoubleToUInt64Bits(coordinate));
    }

    public static ulong Of(string text, ulong sum)
    {
        foreach (var c in text) sum = With(sum, c);
        return With(sum, (ulong)text.Length);
    }
}
