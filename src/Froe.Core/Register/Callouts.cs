namespace Froe.Core.Register;

/// <summary>What in a line of words may be a document's number.</summary>
/// <param name="Number">As a register would have it: dashes are hyphens, blanks one blank.</param>
/// <param name="From">Its first letter in the line.</param>
/// <param name="End">The letter behind its last.</param>
public readonly record struct Callout(string Number, int From, int End);

/// <summary>
/// Finds the numbers of documents in what is written on a leaf: callouts of details, lists of parts, references in title blocks. A number
/// has a digit, stands apart from what is before and behind it, and may have up to two blanks in it.
/// </summary>
public static class Callouts
{
    private const int Shortest = 3, MostWords = 3;

    /// <summary>All that may be numbers, at each beginning the longest first.</summary>
    public static IEnumerable<Callout> In(string line)
    {
        ArgumentNullException.ThrowIfNull(line);
        var words = Words(line);
        for (var first = 0; first < words.Count; first++)
            for (var last = Math.Min(first + MostWords, words.Count) - 1; last >= first; last--)
            {
                if (!OneBlank(line, words, first, last)) continue;
                var (from, end) = (words[first].From, words[last].End);
                foreach (var until in Ends(line, words[last].From, end))
                {
                    var number = Plain(line, from, until);
                    if (number.Length is >= Shortest and <= FileNames.MostNumber && number.Any(char.IsDigit)) yield return new Callout(number, from, until);
                }
            }
    }

    /// <summary>Those that are numbers of a register, none over another: what begins first goes first, and of two that begin there the longer.</summary>
    public static IEnumerable<Callout> Among(string line, IReadOnlySet<string> numbers)
    {
        ArgumentNullException.ThrowIfNull(numbers);
        var free = 0;
        foreach (var callout in In(line))
        {
            if (callout.From < free || !numbers.Contains(callout.Number)) continue;
            free = callout.End;
            yield return callout;
        }
    }

    /// <summary>Pieces of letters, digits and what joins them within a number.</summary>
    private static List<(int From, int End)> Words(string line)
    {
        var words = new List<(int, int)>();
        for (var i = 0; i < line.Length;)
        {
            if (!char.IsLetterOrDigit(line[i]))
            {
                i++;
                continue;
            }
            var from = i;
            while (i < line.Length && (char.IsLetterOrDigit(line[i]) || Joins(line[i]))) i++;
            var end = i;
            while (!char.IsLetterOrDigit(line[end - 1])) end--;
            words.Add((from, end));
        }
        return words;
    }

    private static bool Joins(char c) => c is '-' or '.' or '/' or '_' or '+' or '‐' or '‑' or '–';

    private static bool OneBlank(string line, List<(int From, int End)> words, int first, int last)
    {
        for (var i = first; i < last; i++)
            if (words[i + 1].From - words[i].End != 1 || line[words[i].End] is not (' ' or '\u00a0')) return false;
        return true;
    }

    /// <summary>Where a number may end in its last word: at the word's end, and before every joint in it, for a sheet or a revision may follow.</summary>
    private static IEnumerable<int> Ends(string line, int from, int end)
    {
        yield return end;
        for (var i = end - 1; i > from; i--)
            if (Joins(line[i]) && char.IsLetterOrDigit(line[i - 1])) yield return i;
    }

    private static string Plain(string line, int from, int end) => string.Create(end - from, (line, from), static (to, at) =>
    {
        for (var i = 0; i < to.Length; i++) to[i] = at.line[at.from + i] switch { '‐' or '‑' or '–' => '-', '\u00a0' => ' ', var c => c };
    });
}
