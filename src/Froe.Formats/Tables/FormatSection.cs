using System.Globalization;
using System.Text;

namespace Froe.Formats.Tables;

/// <summary>One section of a number format (ISO/IEC 29500-1, 18.8.31).</summary>
internal sealed class FormatSection
{
    private enum Part
    {
        Literal,
        Digit,
        Point,
        Group,
        Percent,
        Exponent,
        Slash,
        Words,
        General,
        Date,
        Half,
    }

    /// <param name="Part">What it is.</param>
    /// <param name="Text">Letters that stand for themselves; a digit's sign; a date's letters.</param>
    private readonly record struct Token(Part Part, string Text);

    private const int MostDecimals = 30;

    private readonly List<Token> tokens = [];

    private FormatSection()
    {
    }

    /// <summary>The colour that is asked for; null for none.</summary>
    public string? Ink { get; private set; }

    /// <summary>For which numbers it is; null when it does not say.</summary>
    public Func<double, bool>? Condition { get; private set; }

    /// <summary>Whether it is for words.</summary>
    public bool IsText => tokens.Any(t => t.Part == Part.Words);

    private bool IsDate => tokens.Any(t => t.Part is Part.Date or Part.Half);

    /// <summary>Whether it counts hours, minutes or seconds beyond a day.</summary>
    private bool IsSpan => tokens.Any(t => t.Part == Part.Date && t.Text[0] == '[');

    public static FormatSection Parse(string code)
    {
        var section = new FormatSection();
        for (var i = 0; i < code.Length;) i = section.Read(code, i);
        return section;
    }

    /// <summary>A number without a format: as much of it as eleven characters hold.</summary>
    public static string GeneralOf(double value)
    {
        var size = Math.Abs(value);
        if (size is not (0 or (>= 1e-4 and < 1e11))) return value.ToString("0.#####E+00", NumberFormat.Plain);
        // Eleven characters hold what stands before the point, the point, and what is left behind it.
        var decimals = size < 1 ? 9 : Math.Max(0, 9 - (int)Math.Floor(Math.Log10(size)));
        return Math.Round((decimal)value, decimals, MidpointRounding.AwayFromZero).ToString("0." + new string('#', decimals), NumberFormat.Plain);
    }

    public string OfText(string words) => string.Concat(tokens.Select(t => t.Part == Part.Words ? words : t.Part == Part.Literal ? t.Text : ""));

    /// <param name="isBare">Whether a negative number is written without its sign.</param>
    public string Of(double value, bool isBare, bool from1904)
    {
        if (IsDate) return DateOf(value, isBare, from1904) ?? GeneralOf(value);
        var sign = value < 0 && !isBare ? "-" : "";
        var size = Math.Abs(value);
        if (tokens.Any(t => t.Part == Part.General)) return sign + string.Concat(tokens.Select(t => t.Part == Part.General ? GeneralOf(size) : t.Part == Part.Literal ? t.Text : ""));
        if (tokens.Any(t => t.Part == Part.Slash)) return FractionOf(size) is var fraction && fraction.AsSpan().ContainsAnyInRange('1', '9') ? sign + fraction : fraction;
        var percent = tokens.Count(t => t.Part == Part.Percent);
        size *= Math.Pow(100, percent);
        if (!double.IsFinite(size)) return GeneralOf(value);
        return tokens.Any(t => t.Part == Part.Exponent) ? sign + ScientificOf(size) : NumberOf(size, sign);
    }

    private int Read(string code, int at)
    {
        var c = code[at];
        switch (c)
        {
            case '"':
                var end = code.IndexOf('"', at + 1);
                if (end < 0) end = code.Length;
                Literal(code[(at + 1)..end]);
                return end + 1;
            case '\\':
                if (at + 1 < code.Length) Literal(code.Substring(at + 1, 1));
                return at + 2;
            case '_':
                Literal(" ");
                return at + 2;
            case '*':
                return at + 2;
            case '[':
                return Bracket(code, at);
            case '0' or '#' or '?':
                tokens.Add(new(Part.Digit, c.ToString()));
                return at + 1;
            case '.':
                // Behind seconds, it begins parts of one.
                if (tokens.Count > 0 && tokens[^1] is { Part: Part.Date } last && last.Text[^1] is 's' or ']' && at + 1 < code.Length && code[at + 1] == '0')
                {
                    var length = 1;
                    while (at + length < code.Length && code[at + length] == '0') length++;
                    tokens.Add(new(Part.Date, code.Substring(at, Math.Min(length, 4))));
                    return at + length;
                }
                tokens.Add(new(Part.Point, "."));
                return at + 1;
            case ',':
                tokens.Add(new(Part.Group, ","));
                return at + 1;
            case '%':
                tokens.Add(new(Part.Percent, "%"));
                return at + 1;
            case '@':
                tokens.Add(new(Part.Words, "@"));
                return at + 1;
            case '/':
                if (IsDate || !tokens.Any(t => t.Part == Part.Digit)) Literal("/");
                else tokens.Add(new(Part.Slash, "/"));
                return at + 1;
            case 'E' or 'e' when at + 1 < code.Length && code[at + 1] is '+' or '-' && tokens.Any(t => t.Part == Part.Digit):
                tokens.Add(new(Part.Exponent, code.Substring(at, 2)));
                return at + 2;
        }
        if (Starts(code, at, "General"))
        {
            tokens.Add(new(Part.General, ""));
            return at + 7;
        }
        foreach (var half in (string[])["AM/PM", "A/P"])
            if (Starts(code, at, half))
            {
                tokens.Add(new(Part.Half, half));
                return at + half.Length;
            }
        if (char.ToLowerInvariant(c) is var letter && letter is 'y' or 'm' or 'd' or 'h' or 's' or 'e' or 'b' or 'g')
        {
            var length = 1;
            while (at + length < code.Length && char.ToLowerInvariant(code[at + length]) == letter) length++;
            tokens.Add(new(Part.Date, new string(letter, length)));
            return at + length;
        }
        Literal(c.ToString());
        return at + 1;
    }

    /// <summary>A colour, a condition, time beyond a day, or a currency with a place.</summary>
    private int Bracket(string code, int at)
    {
        var end = code.IndexOf(']', at);
        if (end < 0)
        {
            Literal("[");
            return at + 1;
        }
        var inside = code[(at + 1)..end];
        if (inside.StartsWith('$')) Literal(inside[1..].Split('-')[0]);
        else if (inside.Length > 0 && inside.ToLowerInvariant() is var letters && letters.All(c => c == letters[0]) && letters[0] is 'h' or 'm' or 's') tokens.Add(new(Part.Date, $"[{letters}]"));
        else if (Colours.TryGetValue(inside, out var ink)) Ink = ink;
        else if (inside.Length > 1 && inside[0] is '<' or '>' or '=') Condition = ConditionOf(inside) ?? Condition;
        return end + 1;
    }

    private static Func<double, bool>? ConditionOf(string words)
    {
        var sign = words[..(words.Length > 1 && words[1] is '=' or '>' ? 2 : 1)];
        if (!double.TryParse(words[sign.Length..], NumberStyles.Float, NumberFormat.Plain, out var than)) return null;
        return sign switch
        {
            "<" => x => x < than,
            "<=" => x => x <= than,
            ">" => x => x > than,
            ">=" => x => x >= than,
            "<>" => x => x != than,
            _ => x => x == than,
        };
    }

    private void Literal(string text) => tokens.Add(new(Part.Literal, text));

    private static bool Starts(string code, int at, string word) => string.Compare(code, at, word, 0, word.Length, StringComparison.OrdinalIgnoreCase) == 0;

    private string NumberOf(double size, string sign)
    {
        var (whole, after) = Halves(tokens);
        var last = whole.FindLastIndex(t => t.Part == Part.Digit);
        // Commas behind the last digit take thousands off; one among the digits parts them.
        var scaled = tokens.Skip(tokens.FindLastIndex(t => t.Part == Part.Digit) + 1).TakeWhile(t => t.Part == Part.Group).Count();
        var isParted = whole.Take(Math.Max(0, last)).Any(t => t.Part == Part.Group);
        if (last < 0 && after.All(t => t.Part != Part.Digit)) return sign + string.Concat(tokens.Where(t => t.Part is Part.Literal or Part.Percent).Select(t => t.Text));
        var decimals = Math.Min(MostDecimals, after.Count(t => t.Part == Part.Digit));
        var (ints, decs) = Digits(size / Math.Pow(1000, scaled), decimals);
        // What is rounded to nothing has no sign.
        if (ints.Trim('0').Length == 0 && decs.Trim('0').Length == 0) sign = "";
        return sign + Whole(whole, ints, isParted) + (after.Count > 0 || tokens.Any(t => t.Part == Part.Point) ? "." + Decimals(after, decs) : "");
    }

    private string ScientificOf(double size)
    {
        var at = tokens.FindIndex(t => t.Part == Part.Exponent);
        var (whole, after) = Halves(tokens.GetRange(0, at));
        var step = Math.Max(1, whole.Count(t => t.Part == Part.Digit));
        var decimals = Math.Min(MostDecimals, after.Count(t => t.Part == Part.Digit));
        var exponent = size == 0 ? 0 : (int)(Math.Floor(Math.Floor(Math.Log10(size)) / step) * step);
        var (ints, decs) = Digits(size / Math.Pow(10, exponent), decimals);
        if (ints.Length > step)
        {
            exponent += step;
            (ints, decs) = Digits(size / Math.Pow(10, exponent), decimals);
        }
        var places = tokens.Skip(at + 1).Count(t => t.Part == Part.Digit);
        var sign = exponent < 0 ? "-" : tokens[at].Text[1] == '+' ? "+" : "";
        var rest = string.Concat(tokens.Skip(at + 1).Where(t => t.Part is Part.Literal or Part.Percent).Select(t => t.Text));
        return Whole(whole, ints, false) + (after.Count > 0 ? "." + Decimals(after, decs) : "") + tokens[at].Text[..1] + sign
            + Math.Abs(exponent).ToString(NumberFormat.Plain).PadLeft(places, '0') + rest;
    }

    /// <summary>A number as a whole and a fraction, or as a fraction alone.</summary>
    private string FractionOf(double size)
    {
        // Numbers as large as that have no parts.
        if (size >= 1e15) return size.ToString("F0", NumberFormat.Plain);
        var slash = tokens.FindIndex(t => t.Part == Part.Slash);
        var above = slash - 1;
        while (above >= 0 && tokens[above].Part == Part.Digit) above--;
        var below = tokens.Skip(slash + 1).TakeWhile(t => t.Part == Part.Digit || (t.Part == Part.Literal && t.Text.Length > 0 && t.Text.All(char.IsAsciiDigit))).ToList();
        var stated = string.Concat(below.Select(t => t.Text));
        var hasWhole = tokens.Take(above + 1).Any(t => t.Part == Part.Digit);
        var whole = hasWhole ? Math.Floor(size) : 0;
        var rest = size - whole;
        long numerator, denominator;
        if (stated.Any(c => c is >= '1' and <= '9') && long.TryParse(stated, NumberStyles.None, NumberFormat.Plain, out denominator)) numerator = (long)Math.Round(rest * denominator, MidpointRounding.AwayFromZero);
        else (numerator, denominator) = Nearest(rest, (int)Math.Pow(10, Math.Clamp(below.Count, 1, 4)) - 1);
        if (hasWhole && numerator == denominator) (whole, numerator) = (whole + 1, 0);
        var width = slash - above - 1;
        if (hasWhole && numerator == 0) return whole.ToString("F0", NumberFormat.Plain);
        var fraction = $"{numerator.ToString(NumberFormat.Plain).PadLeft(width, '\u2007')}/{denominator.ToString(NumberFormat.Plain).PadRight(below.Count, '\u2007')}".Trim('\u2007');
        return hasWhole && whole > 0 ? $"{whole.ToString("F0", NumberFormat.Plain)} {fraction}" : fraction;
    }

    /// <summary>The fraction nearest to a number among those with denominators up to a greatest.</summary>
    private static (long Numerator, long Denominator) Nearest(double value, int most)
    {
        long best = 1, above = (long)Math.Round(value);
        for (var d = 1; d <= most && Math.Abs(value - ((double)above / best)) > 1e-12; d++)
        {
            var n = (long)Math.Round(value * d, MidpointRounding.AwayFromZero);
            if (Math.Abs(value - ((double)n / d)) < Math.Abs(value - ((double)above / best)) - 1e-15) (above, best) = (n, d);
        }
        return (above, best);
    }

    private static (List<Token> Whole, List<Token> After) Halves(List<Token> all)
    {
        var point = all.FindIndex(t => t.Part == Part.Point);
        return point < 0 ? (all, []) : (all.GetRange(0, point), all.GetRange(point + 1, all.Count - point - 1));
    }

    /// <summary>
    /// A number's digits before and after the point, rounded. Numbers are rounded as the fifteen digits that a spreadsheet keeps, half away
    /// from zero: 1.005 to two places is 1.01, though as a binary fraction it is a little less.
    /// </summary>
    private static (string Whole, string After) Digits(double size, int decimals)
    {
        var written = size < 7.9e27 && decimal.TryParse(size.ToString("G15", NumberFormat.Plain), NumberStyles.Float, NumberFormat.Plain, out var exact)
            ? Math.Round(exact, Math.Min(decimals, 28), MidpointRounding.AwayFromZero).ToString($"F{decimals}", NumberFormat.Plain)
            : size.ToString($"F{decimals}", NumberFormat.Plain);
        var point = written.IndexOf('.', StringComparison.Ordinal);
        return point < 0 ? (written, "") : (written[..point], written[(point + 1)..]);
    }

    private static string Whole(List<Token> form, string digits, bool isParted)
    {
        var left = digits == "0" ? "" : digits;
        var first = form.FindIndex(t => t.Part == Part.Digit);
        if (first < 0) return string.Concat(form.Where(t => t.Part is Part.Literal or Part.Percent).Select(t => t.Text)) + left;
        var written = new List<string>();
        int at = left.Length, count = 0;
        void Put(string digit)
        {
            if (isParted && count > 0 && count % 3 == 0) written.Add(",");
            written.Add(digit);
            count++;
        }
        for (var i = form.Count - 1; i >= 0; i--)
        {
            var token = form[i];
            if (token.Part is Part.Literal or Part.Percent) written.Add(token.Text);
            if (token.Part != Part.Digit) continue;
            if (at > 0) Put(left[--at].ToString());
            else if (token.Text != "#") Put(token.Text == "0" ? "0" : "\u2007");
            if (i == first) while (at > 0) Put(left[--at].ToString());
        }
        written.Reverse();
        return string.Concat(written);
    }

    private static string Decimals(List<Token> form, string digits)
    {
        var significant = digits.TrimEnd('0').Length;
        var at = 0;
        var text = new StringBuilder();
        foreach (var token in form)
        {
            if (token.Part is Part.Literal or Part.Percent) text.Append(token.Text);
            if (token.Part != Part.Digit || at >= digits.Length) continue;
            if (at < significant || token.Text == "0") text.Append(digits[at]);
            else if (token.Text == "?") text.Append('\u2007');
            at++;
        }
        return text.ToString();
    }

    /// <summary>A date, a time of day or a span of time; null when there is no such day.</summary>
    private string? DateOf(double days, bool isBare, bool from1904)
    {
        var sign = days < 0 && IsSpan && !isBare ? "-" : "";
        if (isBare || IsSpan) days = Math.Abs(days);
        // No day is before the first; counted from 1904, those before are told.
        if (days < 0 && !from1904) return null;
        var hasHalf = tokens.Any(t => t.Part == Part.Half);
        // The nearest second is shown, or the nearest of its parts that are shown: all else follows from that.
        var parts = tokens.Where(t => t.Part == Part.Date && t.Text[0] == '.').Select(t => Math.Min(3, t.Text.Length - 1)).DefaultIfEmpty().Max();
        var seconds = Math.Round(days * 86_400 * Math.Pow(10, parts), MidpointRounding.AwayFromZero) / Math.Pow(10, parts);
        if (NumberFormat.Date(seconds / 86_400, from1904) is not { } date) return null;
        var text = new StringBuilder();
        for (var i = 0; i < tokens.Count; i++)
        {
            var (part, word) = tokens[i];
            text.Append(part switch
            {
                Part.Date => DatePart(i, word, date, seconds, hasHalf),
                Part.Half => word.Length == 3 ? (date.Hour < 12 ? "A" : "P") : date.Hour < 12 ? "AM" : "PM",
                Part.Words or Part.General or Part.Exponent => "",
                _ => word,
            });
        }
        return sign + text;
    }

    private string DatePart(int at, string word, DateTime date, double seconds, bool hasHalf)
    {
        string Padded(long number, int places) => number.ToString(NumberFormat.Plain).PadLeft(places, '0');
        var hour = hasHalf ? ((date.Hour + 11) % 12) + 1 : date.Hour;
        return word[0] switch
        {
            '[' => Padded((long)Math.Floor(word[1] switch { 'h' => seconds / 3600, 'm' => seconds / 60, _ => seconds }), word.Length - 2),
            '.' => "." + Padded(date.Millisecond, 3)[..Math.Min(3, word.Length - 1)],
            'y' or 'e' => word.Length < 3 && word[0] == 'y' ? date.ToString("yy", NumberFormat.Plain) : date.ToString("yyyy", NumberFormat.Plain),
            'm' when IsMinutes(at) => Padded(date.Minute, Math.Min(2, word.Length)),
            'm' => word.Length switch { 1 => Padded(date.Month, 1), 2 => Padded(date.Month, 2), 3 => date.ToString("MMM", NumberFormat.Plain), 5 => date.ToString("MMMM", NumberFormat.Plain)[..1], _ => date.ToString("MMMM", NumberFormat.Plain) },
            'd' => word.Length switch { 1 => Padded(date.Day, 1), 2 => Padded(date.Day, 2), 3 => date.ToString("ddd", NumberFormat.Plain), _ => date.ToString("dddd", NumberFormat.Plain) },
            'h' => Padded(hour, Math.Min(2, word.Length)),
            's' => Padded(date.Second, Math.Min(2, word.Length)),
            _ => "",
        };
    }

    /// <summary>An m behind hours or before seconds counts minutes.</summary>
    private bool IsMinutes(int at)
    {
        var before = tokens.Take(at).LastOrDefault(t => t.Part == Part.Date).Text;
        var after = tokens.Skip(at + 1).FirstOrDefault(t => t.Part == Part.Date).Text;
        return before is ['h', ..] or ['[', 'h', ..] || after is ['s', ..] or ['[', 's', ..];
    }

    /// <summary>The colours that formats name.</summary>
    private static readonly Dictionary<string, string> Colours = new(StringComparer.OrdinalIgnoreCase)
    {
        ["Black"] = "#000000",
        ["White"] = "#ffffff",
        ["Red"] = "#ff0000",
        ["Green"] = "#00ff00",
        ["Blue"] = "#0000ff",
        ["Yellow"] = "#ffff00",
        ["Magenta"] = "#ff00ff",
        ["Cyan"] = "#00ffff",
    };
}
