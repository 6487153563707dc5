using System.Globalization;
using System.Text;
using System.Text.Json.Serialization;
using Froe.Core.Drawing;

namespace Froe.Core.Draft;

/// <summary>Where words were found: the line they stand in, and what of it they cover; two lines when a hyphen divides them.</summary>
/// <param name="Line">The first line, whole.</param>
/// <param name="Covers">Of each line touched: where the words begin, along them, and across.</param>
public sealed record FoundWords(string Line, IReadOnlyList<FoundStretch> Covers);

/// <summary>A stretch of a line on a sheet: where it begins on the baseline, the way to its end, the way across.</summary>
public readonly record struct FoundStretch([property: JsonRequired] PointXY At, [property: JsonRequired] PointXY Along, [property: JsonRequired] PointXY Up);

/// <summary>
/// What is written on a sheet, made to be looked through. Letters are compared without case, accents, ligatures and blanks (so that
/// “M 12” is found as “m12”), dashes are one dash, every sign for a diameter is one, kana of both widths are one, and a word divided by a hyphen
/// at a line’s end is whole.
/// </summary>
public sealed class WrittenPage
{
    /// <summary>Most letters of a page that are looked through.</summary>
    public const int MostLetters = 8_000_000;

    /// <summary>Fewest letters that tell a page from others.</summary>
    private const int ShortestTelling = 3;

    /// <summary>Most pairs of a page: more than a language uses.</summary>
    private const int MostPairs = 100_000;

    private readonly IReadOnlyList<WrittenRun> lines;
    private readonly List<(int Line, int Letter)> from = [];

    public WrittenPage(IReadOnlyList<WrittenRun> lines)
    {
        ArgumentNullException.ThrowIfNull(lines);
        this.lines = lines;
        var text = new StringBuilder();
        for (var i = 0; i < lines.Count && text.Length < MostLetters; i++)
        {
            if (i > 0 && !Joins(lines[i - 1].Text, lines[i].Text))
            {
                text.Append('\n');
                from.Add((i, 0));
            }
            else if (i > 0)
            {
                text.Length--;
                from.RemoveAt(from.Count - 1);
            }
            Fold(lines[i].Text, (folded, letter) =>
            {
                text.Append(folded);
                for (var k = 0; k < folded.Length; k++) from.Add((i, letter));
            });
        }
        Folded = text.ToString();
    }

    /// <summary>Everything on the page as it is compared, lines apart.</summary>
    public string Folded { get; }

    /// <summary>
    /// Pairs of neighbouring signs on the page, each once, as they are compared: words of Chinese, Japanese and Korean are mostly no longer than two
    /// signs, which a text in three letters does not lead to.
    /// </summary>
    public IReadOnlyCollection<string> Pairs => PairsOf(Folded);

    /// <summary>Whether words, as they are compared, are long enough to be looked for on all pages at once: shorter ones of an alphabet stand everywhere.</summary>
    public static bool IsTelling(string folded) => LettersOf(folded) >= ShortestTelling || PairOf(folded) is not null;

    /// <summary>The pair of signs that words, as they are compared, are; null where they are more, fewer or other letters.</summary>
    public static string? PairOf(string folded) => LettersOf(folded) == 2 && PairsOf(folded) is { Count: 1 } ? folded : null;

    private static int LettersOf(string folded)
    {
        ArgumentNullException.ThrowIfNull(folded);
        return folded.EnumerateRunes().Count();
    }

    private static HashSet<string> PairsOf(string folded)
    {
        var pairs = new HashSet<string>(StringComparer.Ordinal);
        Rune? before = null;
        foreach (var rune in folded.EnumerateRunes())
        {
            var sign = IsSign(rune) ? rune : (Rune?)null;
            if (before is { } first && sign is not null && pairs.Count < MostPairs) pairs.Add($"{first}{sign}");
            before = sign;
        }
        return pairs;
    }

    /// <summary>Whether a letter is a sign of Chinese, Japanese or Korean (Unicode 15: Han, Hiragana, Katakana, Hangul syllables, and the marks that repeat or lengthen them).</summary>
    private static bool IsSign(Rune rune) =>
        rune.Value is (>= 0x3005 and <= 0x3007) or (>= 0x3041 and <= 0x30FF and not 0x30FB) or (>= 0x3400 and <= 0x4DBF) or (>= 0x4E00 and <= 0x9FFF) or (>= 0xAC00 and <= 0xD7A3) or (>= 0xF900 and <= 0xFAFF) or (>= 0x20000 and <= 0x3FFFF);

    /// <summary>Words as they are compared; what is typed for signs as in DXF (%%c, %%d, %%p) is the sign.</summary>
    public static string Fold(string words)
    {
        ArgumentNullException.ThrowIfNull(words);
        var text = new StringBuilder();
        Fold(
            words.Replace("%%c", "Ø", StringComparison.OrdinalIgnoreCase).Replace("%%d", "°", StringComparison.OrdinalIgnoreCase).Replace("%%p", "±", StringComparison.OrdinalIgnoreCase),
            (folded, _) => text.Append(folded));
        return text.ToString();
    }

    /// <summary>Every place where words stand, in the order of the file.</summary>
    /// <param name="words">As somebody typed them.</param>
    /// <param name="most">Most places.</param>
    public IEnumerable<FoundWords> Find(string words, int most)
    {
        var wanted = Fold(words);
        return Places(wanted, most).Select(at => new FoundWords(lines[from[at].Line].Text, Covers(at, at + wanted.Length - 1)));
    }

    /// <summary>How often words stand on the page, and the first lines that they stand in, each once: nothing of where on the sheet that is.</summary>
    /// <param name="words">As somebody typed them.</param>
    /// <param name="most">Most places that are counted.</param>
    /// <param name="mostLines">Most lines.</param>
    public (int Count, IReadOnlyList<string> Lines) Count(string words, int most, int mostLines)
    {
        var places = Places(Fold(words), most).ToList();
        return (places.Count, [.. places.Select(at => lines[from[at].Line].Text).Distinct().Take(mostLines)]);
    }

    /// <summary>Where words begin in what is written as it is compared; nowhere where they are none.</summary>
    private IEnumerable<int> Places(string wanted, int most)
    {
        if (wanted.Length == 0) yield break;
        for (int at = Folded.IndexOf(wanted, StringComparison.Ordinal), found = 0; at >= 0 && found < most; at = Folded.IndexOf(wanted, at + wanted.Length, StringComparison.Ordinal), found++)
            yield return at;
    }

    private List<FoundStretch> Covers(int first, int last)
    {
        var covers = new List<FoundStretch>();
        for (var at = first; at <= last;)
        {
            var line = from[at].Line;
            var until = at;
            while (until < last && from[until + 1].Line == line) until++;
            covers.Add(Stretch(lines[line], from[at].Letter, from[until].Letter + 1));
            at = until + 1;
        }
        return covers;
    }

    /// <summary>Letters of a line by their share of its width in our own lettering: the file's may differ by a letter's part.</summary>
    /// <param name="line">The line.</param>
    /// <param name="first">The first of them.</param>
    /// <param name="end">The one behind the last.</param>
    public static FoundStretch Stretch(WrittenRun line, int first, int end)
    {
        var whole = Lettering.Width(line.Text);
        double before = whole > 0 ? Lettering.Width(line.Text.AsSpan(0, first)) / whole : 0, until = whole > 0 ? Lettering.Width(line.Text.AsSpan(0, Math.Min(end, line.Text.Length))) / whole : 1;
        return new FoundStretch(
            new(line.At.X + (line.Along.X * before), line.At.Y + (line.Along.Y * before)), new(line.Along.X * (until - before), line.Along.Y * (until - before)), line.Up);
    }

    /// <summary>Whether a word goes on from one line to the next: a letter and a hyphen at the end, a small letter at the beginning.</summary>
    private static bool Joins(string above, string below) =>
        above.Length > 1 && above[^1] is '-' or '\u2010' && char.IsLetter(above[^2]) && below.Length > 0 && char.IsLower(below[0]);

    private static void Fold(string text, Action<string, int> give)
    {
        var at = 0;
        foreach (var rune in text.EnumerateRunes())
        {
            if (FoldOne(rune) is { Length: > 0 } folded) give(folded, at);
            at += rune.Utf16SequenceLength;
        }
    }

    private static string FoldOne(Rune rune)
    {
        switch (rune.Value)
        {
            case < 0x80: return Ascii[rune.Value];
            case 0xAD or 0x200B or 0x200C or 0x200D or 0xFEFF: return ""; // soft hyphen and what has no width
            case 0xD8 or 0xF8 or 0x2300 or 0x2205 or 0x3A6 or 0x3C6: return "ø"; // signs for a diameter
            case 0xD7 or 0x2A2F: return "x";
            case Voiced or 0xFF9E: return VoicedMark;
            case HalfVoiced or 0xFF9F: return HalfVoicedMark;
            case >= 0x2010 and <= 0x2015 or 0x2212: return "-";
        }
        if (Rune.IsWhiteSpace(rune) || Rune.GetUnicodeCategory(rune) is UnicodeCategory.NonSpacingMark or UnicodeCategory.Format) return "";
        if (rune.Value is >= 0xFF01 and <= 0xFF5E) return FoldOne(new Rune(rune.Value - 0xFEE0)); // full-width letters and digits
        if (rune.Value is >= 0xFF65 and <= 0xFF9D) return HalfWidth.Substring(rune.Value - 0xFF65, 1);
        if (Spelt.TryGetValue(rune.Value, out var spelt)) return spelt;
        var small = Rune.ToLowerInvariant(rune);
        return small.IsBmp && Bare.TryGetValue((char)small.Value, out var bare) ? bare : small.ToString();
    }

    /// <summary>Letters of ASCII as they are compared: nearly all that is written, so none is made anew for each.</summary>
    private static readonly string[] Ascii =
        [.. Enumerable.Range(0, 0x80).Select(c => char.IsWhiteSpace((char)c) || char.IsControl((char)c) ? "" : char.ToLowerInvariant((char)c).ToString())];

    /// <summary>Marks behind a kana that make another of it; unlike accents they tell words apart.</summary>
    private const int Voiced = 0x3099, HalfVoiced = 0x309A;

    private const string VoicedMark = "\u3099", HalfVoicedMark = "\u309A";

    /// <summary>The kana that are written half as wide from U+FF65 on, as they are otherwise; their marks stand behind them as letters.</summary>
    private const string HalfWidth = "・ヲァィゥェォャュョッーアイウエオカキクケコサシスセソタチツテトナニヌネノハヒフヘホマミムメモヤユヨラリルレロワン";

    /// <summary>Kana with a mark, behind the one that they are made of (Unicode 15, canonical decompositions).</summary>
    private static readonly (string Bare, string Mark, string Marked)[] Kana =
    [
        ("カキクケコサシスセソタチツテトハヒフヘホウワヰヱヲヽ", VoicedMark, "ガギグゲゴザジズゼゾダヂヅデドバビブベボヴヷヸヹヺヾ"),
        ("ハヒフヘホ", HalfVoicedMark, "パピプペポ"),
        ("かきくけこさしすせそたちつてとはひふへほうゝ", VoicedMark, "がぎぐげござじずぜぞだぢづでどばびぶべぼゔゞ"),
        ("はひふへほ", HalfVoicedMark, "ぱぴぷぺぽ"),
    ];

    /// <summary>What stands for several letters, or for one in another place (compatibility decompositions of the Unicode standard, chapter 3.7).</summary>
    private static readonly Dictionary<int, string> Spelt = new(Kana.SelectMany(k => k.Bare.Zip(k.Marked, (bare, marked) => KeyValuePair.Create((int)marked, bare + k.Mark))))
    {
        [0xFB00] = "ff",
        [0xFB01] = "fi",
        [0xFB02] = "fl",
        [0xFB03] = "ffi",
        [0xFB04] = "ffl",
        [0xFB05] = "st",
        [0xFB06] = "st",
        [0xDF] = "ss",
        [0xE6] = "ae",
        [0xC6] = "ae",
        [0x153] = "oe",
        [0x152] = "oe",
        [0xB2] = "2",
        [0xB3] = "3",
        [0xB9] = "1",
        [0x2070] = "0",
        [0x2074] = "4",
        [0x2075] = "5",
        [0x2076] = "6",
        [0x2077] = "7",
        [0x2078] = "8",
        [0x2079] = "9",
        [0xBC] = "1/4",
        [0xBD] = "1/2",
        [0xBE] = "3/4",
        [0x2044] = "/",
        [0x2026] = "...",
        [0x2122] = "tm",
        [0x2116] = "no",
        [0x3BC] = "µ",
        [0x2126] = "ω",
        [0x2206] = "δ",
        [0x212B] = "a",
        [0x2018] = "'",
        [0x2019] = "'",
        [0x201C] = "\"",
        [0x201D] = "\"",
        [0x2032] = "'",
        [0x2033] = "\"",
    };

    /// <summary>
    /// Letters without their accents: a bare letter, then those that are it with marks (Unicode 15, canonical decompositions of Latin, Greek
    /// and Cyrillic). Written out because the machine that Froe runs on may have no library that knows.
    /// </summary>
    private static readonly Dictionary<char, string> Bare = MakeBare(
    [
        "aàáâãäåāăąǎǟǡǻȁȃȧḁạảấầẩẫậắằẳẵặ",
        "bḃḅḇ",
        "cçćĉċčḉ",
        "dďḋḍḏḑḓ",
        "eèéêëēĕėęěȅȇȩḕḗḙḛḝẹẻẽếềểễệ",
        "fḟ",
        "gĝğġģǧǵḡ",
        "hĥȟḣḥḧḩḫẖ",
        "iìíîïĩīĭįǐȉȋḭḯỉị",
        "jĵǰ",
        "kķǩḱḳḵ",
        "lĺļľḷḹḻḽ",
        "mḿṁṃ",
        "nñńņňǹṅṇṉṋ",
        "oòóôõöōŏőơǒǫǭȍȏȫȭȯȱṍṏṑṓọỏốồổỗộớờởỡợ",
        "pṕṗ",
        "rŕŗřȑȓṙṛṝṟ",
        "sśŝşšſșṡṣṥṧṩẛ",
        "tţťțṫṭṯṱẗ",
        "uùúûüũūŭůűųưǔǖǘǚǜȕȗṳṵṷṹṻụủứừửữự",
        "vṽṿ",
        "wŵẁẃẅẇẉẘ",
        "xẋẍ",
        "yýÿŷȳẏẙỳỵỷỹ",
        "zźżžẑẓẕ",
        "æǣǽ",
        "øǿ",
        "ʒǯ",
        "αά",
        "βϐ",
        "εέϵ",
        "ηή",
        "θϑ",
        "ιΐίϊ",
        "κϰ",
        "οό",
        "πϖ",
        "ρϱ",
        "ςϲ",
        "υΰϋύ",
        "φϕ",
        "ωώ",
        "аӑӓ",
        "гѓ",
        "еѐёӗ",
        "жӂӝ",
        "зӟ",
        "ийѝӣӥ",
        "кќ",
        "оӧ",
        "уўӯӱӳ",
        "чӵ",
        "ыӹ",
        "эӭ",
        "ії",
        "ѵѷ",
        "әӛ",
        "өӫ",
    ]);

    private static Dictionary<char, string> MakeBare(string[] groups) =>
        groups.SelectMany(g => g.Skip(1).Select(marked => (Marked: marked, Bare: g[..1]))).ToDictionary(p => p.Marked, p => p.Bare);
}
