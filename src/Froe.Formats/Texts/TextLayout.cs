using Froe.Core.Drawing;

namespace Froe.Formats.Texts;

/// <summary>Lays lines of text out on sheets of paper: A4 upright, a margin all round, lines broken between words.</summary>
internal sealed class TextLayout
{
    private const double Width = 210, Height = 297, Margin = 20, Letter = 2.5, Pitch = 1.9;
    private const int Ink = 0x000000;

    private readonly int mostSheets;
    private readonly List<SheetBuilder> sheets = [];
    private double y;

    public TextLayout(int mostSheets)
    {
        this.mostSheets = mostSheets;
        Turn();
    }

    /// <summary>Whether there was more than the sheets hold.</summary>
    public bool IsCut { get; private set; }

    /// <summary>A line, broken into as many as it needs.</summary>
    /// <param name="words">Its words.</param>
    /// <param name="size">Height of its letters, as a share of the usual.</param>
    /// <param name="indent">Millimetres from the margin.</param>
    /// <param name="space">Room before it, in lines.</param>
    public void Line(string words, double size = 1, double indent = 0, double space = 0)
    {
        var height = Letter * size;
        y -= space * Letter * Pitch;
        foreach (var part in Broken(words, (Width - (2 * Margin) - indent) / height))
        {
            if (y - height < Margin && !Turn()) return;
            y -= height;
            if (part.Length > 0)
            {
                var sheet = sheets[^1];
                sheet.Begin(new EntityLook(0, 0, Ink, 0, [], "LINE OF TEXT"));
                sheet.Text(new TextRun(part, new(Margin + indent, y), new(height, 0), new(0, height), 0, 0, 0));
            }
            y -= height * (Pitch - 1);
        }
    }

    /// <summary>A rule across the sheet.</summary>
    public void Rule()
    {
        y -= Letter;
        var sheet = sheets[^1];
        sheet.Begin(new EntityLook(0, 0, Ink, 18, [], "RULE"));
        sheet.Line(new(Margin, y), new(Width - Margin, y));
        y -= Letter;
    }

    /// <summary>The sheets, in order.</summary>
    public IReadOnlyList<Sheet> Sheets() => [.. sheets.Select((s, i) => s.Build($"Sheet {i + 1}", LengthUnit.Millimetre, [new Layer("Text", true, PaperInk.Black)], new Extents(0, 0, Width, Height)))];

    private bool Turn()
    {
        if (IsCut || sheets.Count == mostSheets) return !(IsCut = true);
        sheets.Add(new SheetBuilder());
        y = Height - Margin;
        return true;
    }

    /// <summary>Between words; a word longer than a line within itself.</summary>
    private static IEnumerable<string> Broken(string words, double width)
    {
        for (var from = 0; ;)
        {
            int fits = 0, blank = -1;
            var used = 0.0;
            for (var i = from; i < words.Length && (used += Lettering.Width(words.AsSpan(i, 1))) <= width; i++)
            {
                fits = i - from + 1;
                if (words[i] == ' ') blank = i - from;
            }
            if (from + fits >= words.Length)
            {
                yield return words[from..];
                yield break;
            }
            fits = Math.Max(1, fits);
            var length = blank > 0 ? blank : char.IsHighSurrogate(words[from + fits - 1]) && fits > 1 ? fits - 1 : fits;
            yield return words.Substring(from, length);
            from += length;
            while (from < words.Length && words[from] == ' ') from++;
        }
    }
}
