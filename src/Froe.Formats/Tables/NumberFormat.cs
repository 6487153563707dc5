using System.Globalization;
using System.Text;

namespace Froe.Formats.Tables;

/// <summary>
/// A number format of a spreadsheet (ISO/IEC 29500-1, 18.8.30 and 18.8.31): up to four sections for positive, negative, zero and text, or
/// sections with conditions of their own.
/// </summary>
internal sealed class NumberFormat
{
    private const int MostSections = 4, LongestCode = 1000;

    private readonly List<FormatSection> sections;

    private NumberFormat(List<FormatSection> sections) => this.sections = sections;

    /// <summary>Numbers as they are, to eleven digits.</summary>
    public static NumberFormat General { get; } = new([FormatSection.Parse("General")]);

    /// <summary>Reads a format; what cannot be understood is taken as letters that stand for themselves.</summary>
    public static NumberFormat Parse(string code)
    {
        ArgumentNullException.ThrowIfNull(code);
        return code.Length is 0 or > LongestCode ? General : new([.. Split(code).Take(MostSections).Select(FormatSection.Parse)]);
    }

    /// <summary>The code of a format that a file names by number only (18.8.30); null when there is none.</summary>
    /// <remarks>14 and 22 follow whoever reads, so they are written as in ISO 8601, which nobody takes for another day.</remarks>
    public static string? BuiltIn(int id) => id switch
    {
        0 => "General",
        1 => "0",
        2 => "0.00",
        3 => "#,##0",
        4 => "#,##0.00",
        9 => "0%",
        10 => "0.00%",
        11 => "0.00E+00",
        12 => "# ?/?",
        13 => "# ??/??",
        14 => "yyyy-mm-dd",
        15 => "d-mmm-yy",
        16 => "d-mmm",
        17 => "mmm-yy",
        18 => "h:mm AM/PM",
        19 => "h:mm:ss AM/PM",
        20 => "h:mm",
        21 => "h:mm:ss",
        22 => "yyyy-mm-dd h:mm",
        37 => "#,##0 ;(#,##0)",
        38 => "#,##0 ;[Red](#,##0)",
        39 => "#,##0.00;(#,##0.00)",
        40 => "#,##0.00;[Red](#,##0.00)",
        45 => "mm:ss",
        46 => "[h]:mm:ss",
        47 => "mm:ss.0",
        48 => "##0.0E+0",
        49 => "@",
        _ => null,
    };

    /// <summary>A number as it is read, and the colour that the format gives it.</summary>
    /// <param name="value">The number; of a date, days and parts of a day.</param>
    /// <param name="from1904">Whether days are counted from 1904 (18.17.4.1).</param>
    public (string Text, string? Ink) Of(double value, bool from1904 = false)
    {
        if (!double.IsFinite(value)) return ("#NUM!", null);
        var (section, isBare) = SectionFor(value);
        if (section is null) return (FormatSection.GeneralOf(value), null);
        return (section.IsText ? section.OfText(FormatSection.GeneralOf(value)) : section.Of(value, isBare, from1904), section.Ink);
    }

    /// <summary>Words as they are read.</summary>
    public (string Text, string? Ink) Of(string words)
    {
        var section = sections.Count == MostSections ? sections[3] : sections.FirstOrDefault(s => s.IsText);
        return section is null ? (words, null) : (section.OfText(words), section.Ink);
    }

    /// <summary>The section for a number, and whether its sign is already said by the section.</summary>
    private (FormatSection? Section, bool IsBare) SectionFor(double value)
    {
        var numeric = sections.Count == MostSections ? 3 : sections.Count;
        if (numeric > 1 && sections.Count < MostSections && sections[^1].IsText) numeric--;
        if (sections.Take(numeric).Any(s => s.Condition is not null))
        {
            for (var i = 0; i < numeric; i++)
            {
                if (sections[i].Condition is not { } holds) return (sections[i], false);
                // A section for negative numbers alone says so itself.
                if (holds(value)) return (sections[i], value < 0 && !holds(1) && !holds(0));
            }
            return (null, false);
        }
        return numeric switch
        {
            1 => (sections[0], false),
            2 => value < 0 ? (sections[1], true) : (sections[0], false),
            _ => value > 0 ? (sections[0], false) : value < 0 ? (sections[1], true) : (sections[2], false),
        };
    }

    /// <summary>Sections are parted by semicolons that stand neither in quotes nor behind a backslash.</summary>
    private static IEnumerable<string> Split(string code)
    {
        var section = new StringBuilder();
        var isQuoted = false;
        for (var i = 0; i < code.Length; i++)
        {
            if (code[i] == '\\' && !isQuoted && i + 1 < code.Length) section.Append(code[i++]);
            else if (code[i] == '"') isQuoted = !isQuoted;
            else if (code[i] == ';' && !isQuoted)
            {
                yield return section.ToString();
                section.Clear();
                continue;
            }
            section.Append(code[i]);
        }
        yield return section.ToString();
    }

    /// <summary>Days and parts of a day as a date; null when there is no such day.</summary>
    internal static DateTime? Date(double days, bool from1904)
    {
        var counted = from1904 ? days + 1462 : days;
        // The counting of days from 1900 has a 29 February 1900, which never was (18.17.4.1).
        var real = !from1904 && counted < 60 ? counted + 1 : counted;
        if (real is < 0 or >= 2_958_466) return null;
        return new DateTime(1899, 12, 30, 0, 0, 0, DateTimeKind.Unspecified).AddMilliseconds(Math.Round(real * 86_400_000));
    }

    internal static CultureInfo Plain => CultureInfo.InvariantCulture;
}
