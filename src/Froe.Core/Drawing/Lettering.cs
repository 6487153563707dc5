namespace Froe.Core.Drawing;

/// <summary>Widths of the lettering Froe draws text with (Barlow Semi Condensed Medium), for wrapping and fitting without a font engine.</summary>
public static class Lettering
{
    /// <summary>Cap height as a share of the em.</summary>
    public const double CapHeight = 0.7;

    /// <summary>Advance widths of U+0020 to U+007E in thousandths of the em.</summary>
    private static ReadOnlySpan<short> Advances =>
    [
        200, 295, 286, 634, 495, 808, 619, 141, 272, 272, 379, 468, 227, 360, 238, 395, 507, 309, 480, 471, 505, 471, 472, 431, 478, 463,
        291, 260, 468, 468, 468, 438, 791, 533, 540, 530, 544, 515, 487, 535, 560, 240, 507, 541, 488, 623, 587, 542, 522, 516, 533, 507,
        507, 559, 529, 762, 526, 514, 476, 355, 395, 355, 432, 445, 202, 471, 492, 470, 492, 478, 326, 483, 487, 233, 227, 467, 213, 742,
        487, 490, 497, 497, 341, 437, 322, 485, 445, 659, 449, 432, 408, 313, 169, 313, 492,
    ];

    /// <summary>Width of a text in cap heights, at width factor 1. Letters beyond ASCII count as an average one, East Asian ones as a full em.</summary>
    public static double Width(ReadOnlySpan<char> text)
    {
        var sum = 0;
        foreach (var c in text)
            sum += c is >= ' ' and <= '~' ? Advances[c - ' '] : c >= 0x2E80 ? 1000 : 520;
        return sum / 1000.0 / CapHeight;
    }
}
