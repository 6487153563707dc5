using System.Globalization;
using System.Text;
using Froe.Core.Drawing;

namespace Froe.Formats.Dxf;

/// <summary>How a piece of an MTEXT looks, by its inline codes (DXF reference, MTEXT).</summary>
/// <param name="Height">Height of its letters, in the drawing's units.</param>
/// <param name="Factor">Width of its letters, as a share of the usual.</param>
/// <param name="Slant">Degrees that they lean to the right.</param>
/// <param name="Rgb">Its colour, 0xRRGGBB; null for the entity's own.</param>
/// <param name="IsSymbols">Whether its font holds signs for form and position instead of letters.</param>
internal sealed record TextLook(double Height, double Factor = 1, double Slant = 0, int? Rgb = null, bool IsUnderlined = false, bool IsOverlined = false, bool IsStruck = false, bool IsSymbols = false)
{
    /// <summary>How wide words are in this look, in the drawing's units.</summary>
    public double Width(string words) => (IsSymbols ? ToleranceSigns.Width(words) : Lettering.Width(words)) * Height * Factor;
}

/// <summary>A piece of a line.</summary>
/// <param name="Words">Its words; of a stack those above.</param>
/// <param name="Below">Words beneath them, when it is a stack.</param>
/// <param name="HasBar">Whether a bar parts the two.</param>
internal sealed record TextPiece(string Words, TextLook Look, string? Below = null, bool HasBar = false)
{
    /// <summary>Height of a stack's letters, as a share of those round it.</summary>
    public const double StackHeight = 0.7;

    /// <summary>How far the lower line of a stack lies below the line's own, as a share of the height, and the upper above.</summary>
    public const double BelowBy = 0.3, AboveBy = 0.6;

    public double Width => Below is null ? Look.Width(Words) : StackHeight * Math.Max(Look.Width(Words), Look.Width(Below));
}

/// <summary>A paragraph.</summary>
/// <param name="Align">l, r or c where it says; otherwise as the entity is attached.</param>
/// <param name="First">How far its first line stands in from the left, in text heights.</param>
/// <param name="Left">How far the others do.</param>
/// <param name="EndsColumn">Whether what follows stands in the next column.</param>
internal sealed record TextParagraph(List<TextPiece> Pieces, char? Align, double First, double Left, bool EndsColumn = false);

/// <summary>Reads the inline codes of an MTEXT.</summary>
internal sealed class FormattedText
{
    private readonly string raw;
    private readonly List<TextParagraph> paragraphs = [];
    private readonly Stack<TextLook> outer = [];
    private readonly StringBuilder words = new();
    private readonly double height;
    private List<TextPiece> pieces = [];
    private TextLook look;
    private char? align;
    private double first, left;
    private int at;

    private FormattedText(string raw, double height, bool isSymbols)
    {
        (this.raw, this.height) = (raw, height);
        look = new TextLook(height, IsSymbols: isSymbols);
    }

    /// <summary>The paragraphs of a text whose letters are as high as the entity says unless they say otherwise.</summary>
    /// <param name="isSymbols">Whether the font of its style holds signs.</param>
    public static List<TextParagraph> Read(string raw, double height, bool isSymbols = false)
    {
        var text = new FormattedText(raw, height, isSymbols);
        text.Read();
        return text.paragraphs;
    }

    private void Read()
    {
        for (at = 0; at < raw.Length; at++)
        {
            var c = raw[at];
            if (DxfText.TryEscape(raw, ref at, words)) continue;
            switch (c)
            {
                case '{':
                    outer.Push(look);
                    break;
                case '}':
                    if (outer.TryPop(out var before)) Change(before);
                    break;
                case '^' when at + 1 < raw.Length:
                    at++;
                    if (raw[at] == 'J') Break();
                    else words.Append(raw[at] == ' ' ? '^' : ' ');
                    break;
                case '\n': Break(); break;
                case '\\' when at + 1 < raw.Length:
                    at++;
                    Code(raw[at]);
                    break;
                default: words.Append(look.IsSymbols ? ToleranceSigns.Of(c) : c.ToString()); break;
            }
        }
        Break();
    }

    private void Code(char code)
    {
        switch (code)
        {
            case 'P' or 'X': Break(); break;
            case 'N': Break(endsColumn: true); break;
            case '~': words.Append('\u00A0'); break;
            case '\\' or '{' or '}': words.Append(code); break;
            case 'L' or 'l': Change(look with { IsUnderlined = code == 'L' }); break;
            case 'O' or 'o': Change(look with { IsOverlined = code == 'O' }); break;
            case 'K' or 'k': Change(look with { IsStruck = code == 'K' }); break;
            case 'S': Stack(Until()); break;
            case 'H': Change(look with { Height = Scaled(Until(), look.Height) }); break;
            case 'W': Change(look with { Factor = Math.Clamp(Scaled(Until(), look.Factor), 0.1, 10) }); break;
            case 'Q': Change(look with { Slant = Math.Clamp(Number(Until()) ?? 0, -85, 85) }); break;
            case 'C': Change(look with { Rgb = Number(Until()) is { } colour and >= 1 and <= 255 ? PaperInk.FromColourNumber((int)colour) : null }); break;
            // True colours are written with blue first.
            case 'c': Change(look with { Rgb = Number(Until()) is { } bgr and >= 0 and <= 0xFFFFFF ? Turned((int)bgr) : null }); break;
            case 'f' or 'F': Change(look with { IsSymbols = ToleranceSigns.Are(Until()) }); break;
            case 'p': Paragraph(Until()); break;
            case 'T' or 'A': Until(); break;
            default: words.Append(code); break;
        }
    }

    private string Until()
    {
        var stop = raw.IndexOf(';', at + 1);
        if (stop < 0) stop = raw.Length;
        var inside = raw[Math.Min(raw.Length, at + 1)..stop];
        at = stop;
        return inside;
    }

    /// <summary>A size of its own, or with an x behind it a multiple of the present one; kept within what can be read.</summary>
    private double Scaled(string words, double now)
    {
        var isShare = words.EndsWith('x') || words.EndsWith('X');
        var size = Number(isShare ? words[..^1] : words) is { } number and > 0 ? isShare ? number * now : number : now;
        return ReferenceEquals(words, "") || !double.IsFinite(size) ? now : Math.Clamp(size, height * 1e-3, Math.Max(height, 1) * 1e3);
    }

    private static double? Number(string words) => double.TryParse(words, NumberStyles.Float, CultureInfo.InvariantCulture, out var number) && double.IsFinite(number) ? number : null;

    private static int Turned(int bgr) => ((bgr & 0xFF) << 16) | (bgr & 0xFF00) | (bgr >> 16);

    private void Stack(string inside)
    {
        var part = inside.IndexOfAny(['^', '/', '#']);
        if (part < 0 || inside[part] == '#')
        {
            words.Append(inside.Replace('#', '/'));
            return;
        }
        Flush();
        pieces.Add(new TextPiece(Plain(inside[..part]), look, Plain(inside[(part + 1)..]), inside[part] == '/'));

        string Plain(string of) => look.IsSymbols ? string.Concat(of.Select(ToleranceSigns.Of)) : DxfText.Plain(of.Trim());
    }

    /// <summary>Indents and alignment: “pi-2,l3,qc”; a star stands for what is not set.</summary>
    private void Paragraph(string inside)
    {
        foreach (var part in inside.Split(',', StringSplitOptions.RemoveEmptyEntries))
        {
            var rest = part[1..];
            switch (part[0])
            {
                case 'i': first = Math.Clamp(Number(rest) ?? 0, -100, 100); break;
                case 'l': left = Math.Clamp(Number(rest) ?? 0, -100, 100); break;
                case 'q': align = rest.Length > 0 && rest[0] is 'l' or 'r' or 'c' ? rest[0] : null; break;
                case 'x' when rest.Length > 0 && rest[0] == 'q': align = rest.Length > 1 && rest[1] is 'l' or 'r' or 'c' ? rest[1] : null; break;
            }
        }
    }

    private void Change(TextLook next)
    {
        if (next == look) return;
        Flush();
        look = next;
    }

    private void Flush()
    {
        if (words.Length == 0) return;
        pieces.Add(new TextPiece(words.ToString(), look));
        words.Clear();
    }

    private void Break(bool endsColumn = false)
    {
        Flush();
        paragraphs.Add(new TextParagraph(pieces, align, first, left, endsColumn));
        pieces = [];
    }
}
