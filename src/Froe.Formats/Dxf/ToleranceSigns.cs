using System.Text;
using Froe.Core.Drawing;

namespace Froe.Formats.Dxf;

/// <summary>
/// Fonts of signs for form and position: their letters stand for the signs of ISO 1101, table 3, and of ISO 129-1. Few machines have a font
/// with these signs, so they are drawn (proportions as in ISO 7083).
/// </summary>
internal static class ToleranceSigns
{
    /// <summary>How wide a sign is with the room beside it, in heights.</summary>
    private const double Advance = 1.15;

    /// <summary>A sign: lines in its square from 0 to 1, circles as centre and radius, and a letter in a circle.</summary>
    internal sealed record Sign(double[][] Lines, (double X, double Y, double Radius)[] Circles, string Letter = "");

    private static readonly Dictionary<char, (string Character, Sign Sign)> Signs = new()
    {
        ['a'] = ("∠", new([[1, 0, 0, 0, 0.9, 0.9]], [])),
        ['b'] = ("⟂", new([[0, 0, 1, 0], [0.5, 0, 0.5, 1]], [])),
        ['c'] = ("⏥", new([[0, 0.2, 0.7, 0.2, 1, 0.8, 0.3, 0.8, 0, 0.2]], [])),
        ['d'] = ("⌓", new([Half(), [0, 0.25, 1, 0.25]], [])),
        ['e'] = ("○", new([], [(0.5, 0.5, 0.45)])),
        ['f'] = ("∥", new([[0.1, 0, 0.6, 1], [0.4, 0, 0.9, 1]], [])),
        ['g'] = ("⌭", new([[0, 0, 0.45, 1], [0.55, 0, 1, 1]], [(0.5, 0.5, 0.28)])),
        ['h'] = ("↗", new([[0.05, 0.05, 0.95, 0.95], [0.6, 0.9, 0.95, 0.95, 0.9, 0.6]], [])),
        ['i'] = ("⌯", new([[0.2, 0.2, 0.8, 0.2], [0, 0.5, 1, 0.5], [0.2, 0.8, 0.8, 0.8]], [])),
        ['j'] = ("⌖", new([[0, 0.5, 1, 0.5], [0.5, 0, 0.5, 1]], [(0.5, 0.5, 0.3)])),
        ['k'] = ("⌒", new([Half()], [])),
        ['l'] = ("Ⓛ", new([], [(0.5, 0.5, 0.5)], "L")),
        ['m'] = ("Ⓜ", new([], [(0.5, 0.5, 0.5)], "M")),
        ['n'] = ("Ø", new([[0.15, 0, 0.85, 1]], [(0.5, 0.5, 0.36)])),
        ['p'] = ("Ⓟ", new([], [(0.5, 0.5, 0.5)], "P")),
        ['r'] = ("◎", new([], [(0.5, 0.5, 0.24), (0.5, 0.5, 0.48)])),
        ['s'] = ("Ⓢ", new([], [(0.5, 0.5, 0.5)], "S")),
        ['t'] = ("⌰", new([[0, 0.05, 0.55, 0.05], [0, 0.05, 0.45, 0.95], [0.55, 0.05, 1, 0.95], [0.2, 0.8, 0.45, 0.95, 0.45, 0.65], [0.75, 0.8, 1, 0.95, 1, 0.65]], [])),
        ['u'] = ("⏤", new([[0, 0.5, 1, 0.5]], [])),
        ['v'] = ("⌴", new([[0.05, 0.8, 0.05, 0.2, 0.95, 0.2, 0.95, 0.8]], [])),
        ['w'] = ("⌵", new([[0.05, 0.9, 0.5, 0.1, 0.95, 0.9]], [])),
        ['x'] = ("↧", new([[0.1, 1, 0.9, 1], [0.5, 1, 0.5, 0], [0.3, 0.3, 0.5, 0, 0.7, 0.3]], [])),
    };

    private static readonly Dictionary<string, Sign> ByCharacter = Signs.Values.ToDictionary(s => s.Character, s => s.Sign);

    /// <summary>Whether a font is one of signs, by its name.</summary>
    public static bool Are(string font) => font.Contains("gdt", StringComparison.OrdinalIgnoreCase);

    /// <summary>The sign that a letter stands for, as a character; others stand for themselves.</summary>
    public static string Of(char letter) => Signs.TryGetValue(char.ToLowerInvariant(letter), out var sign) ? sign.Character : letter.ToString();

    /// <summary>How a character is drawn; null when it is an ordinary letter.</summary>
    public static Sign? Drawn(string character) => ByCharacter.GetValueOrDefault(character);

    /// <summary>How wide signs and letters are, in heights.</summary>
    public static double Width(string words) => words.EnumerateRunes().Sum(WidthOf);

    /// <summary>How wide one is, in heights.</summary>
    public static double WidthOf(Rune rune) => ByCharacter.ContainsKey(rune.ToString()) ? Advance : Lettering.Width(rune.ToString());

    private static double[] Half() => [.. Enumerable.Range(0, 13).SelectMany(i => (double[])[0.5 - (0.5 * Math.Cos(i * Math.PI / 12)), 0.25 + (0.5 * Math.Sin(i * Math.PI / 12))])];
}
