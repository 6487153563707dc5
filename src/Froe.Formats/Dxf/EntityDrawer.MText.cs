using System.Text;
using Froe.Core.Drawing;

namespace Froe.Formats.Dxf;

/// <summary>MTEXT: several lines whose pieces may look different.</summary>
internal sealed partial class EntityDrawer
{
    /// <summary>Line pitch of MTEXT: five thirds of the text height (DXF reference, MTEXT group 44).</summary>
    private const double LinePitch = 5 / 3.0;

    /// <summary>A line as it is laid out.</summary>
    /// <param name="Indent">From the left, in the drawing's units.</param>
    /// <param name="EndsColumn">Whether what follows stands in the next column.</param>
    private sealed record LaidLine(List<TextPiece> Pieces, char? Align, double Indent, bool EndsColumn = false)
    {
        public double Width => Pieces.Sum(p => p.Width);

        public double Height(double otherwise) => Pieces.Count == 0 ? otherwise : Pieces.Max(p => p.Look.Height);
    }

    private void MText(Record e, in Placement at)
    {
        var raw = new StringBuilder();
        for (var i = 0; i < e.Count; i++)
            if (e.Code(i) is 1 or 3) raw.Append(text.Decode(e.Text(i)));
        // The direction is a world vector, or else an angle; the text stands in the plane of its extrusion.
        var direction = e.Has(11) ? e.Point(11).Unit() : new Point3(Math.Cos(e.Get(50) * Degree), Math.Sin(e.Get(50) * Degree), 0);
        var normal = new Point3(e.Get(210), e.Get(220), e.Get(230, 1)).Unit();
        Paragraphs(
            raw.ToString(), new TextBlock(e.Point(10), direction, Point3.Cross(normal, direction), e.Get(40, 2.5), e.Get(41), e.Get(44, 1), Math.Clamp(e.GetInt(71, 1), 1, 9) - 1, tables.StyleOf(e, text).HasSigns),
            at.Map, GroundOf(e), e.Columns);
    }

    /// <summary>The colour behind a text; null where there is none.</summary>
    private static int? GroundOf(Record e)
    {
        // 1: of a colour; 2: of the window, which is the paper here.
        if ((e.GetInt(90) & 3) == 0) return null;
        if ((e.GetInt(90) & 2) != 0) return White;
        var rgb = e.Has(421) ? e.GetInt(421) & 0xFFFFFF : e.GetInt(63) is > 0 and < 256 and var colour ? PaperInk.FromColourNumber(colour) : 0xFFFFFF;
        return rgb == 0 ? null : rgb;
    }

    /// <summary>Where a text of several lines stands.</summary>
    /// <param name="At">Its attachment point.</param>
    /// <param name="Along">Direction of writing, of length 1.</param>
    /// <param name="Up">Across it, of length 1.</param>
    /// <param name="Height">Height of its letters.</param>
    /// <param name="Width">How wide it may be; 0 for no bound.</param>
    /// <param name="Spacing">Between lines, as a share of the usual.</param>
    /// <param name="Attachment">0 to 8: top, middle, bottom; in each left, centre, right.</param>
    private readonly record struct TextBlock(Point3 At, Point3 Along, Point3 Up, double Height, double Width, double Spacing, int Attachment, bool HasSigns);

    private void Paragraphs(string raw, TextBlock block, in Affine map, int? ground = null, TextColumns? columns = null)
    {
        var height = block.Height;
        if (!(height > 0) || !double.IsFinite(height)) return;
        if (columns is not null) block = block with { Width = columns.Width };
        var bound = block.Width > 0 ? block.Width : double.PositiveInfinity;
        var lines = FormattedText.Read(raw, height, block.HasSigns).SelectMany(p => Broken(p, bound, height)).ToList();
        while (lines.Count > 0 && lines[^1].Pieces.TrueForAll(p => p.Below is null && string.IsNullOrWhiteSpace(p.Words))) lines.RemoveAt(lines.Count - 1);
        if (lines.Count == 0) return;
        var pitch = LinePitch * (block.Spacing is > 0 and < 100 ? block.Spacing : 1);
        if (columns is not null)
        {
            Columns(columns, lines, pitch, block, map, ground);
            return;
        }
        Lines(lines, pitch, block, map, ground);
    }

    /// <summary>Lines one below the other, each column beside the one before, all with their upper edges level.</summary>
    private void Columns(TextColumns columns, List<LaidLine> lines, double pitch, TextBlock block, in Affine map, int? ground)
    {
        var parts = columns.Flow(lines.ConvertAll(l => (l.Height(block.Height), l.EndsColumn)), pitch);
        var all = Math.Max(parts.Count, columns.Count);
        var wide = (all * columns.Width) + ((all - 1) * columns.Gutter);
        var tallest = parts.Max(p => lines.GetRange(p.From, p.Count) is { Count: > 0 } part ? part[0].Height(block.Height) + part.Skip(1).Sum(l => pitch * l.Height(block.Height)) : 0);
        var left = -(block.Attachment % 3 / 2.0) * wide;
        var top = (block.Attachment / 3) switch { 0 => 0, 1 => tallest / 2, _ => tallest };
        for (var i = 0; i < parts.Count; i++)
        {
            var along = left + ((columns.IsFromRight ? all - 1 - i : i) * (columns.Width + columns.Gutter));
            if (parts[i].Count > 0) Lines(lines.GetRange(parts[i].From, parts[i].Count), pitch, block with { At = block.At + (along * block.Along) + (top * block.Up), Attachment = 0 }, map, ground);
        }
    }

    private void Lines(List<LaidLine> lines, double pitch, in TextBlock block, in Affine map, int? ground)
    {
        var height = block.Height;
        var rise = lines[0].Height(height) + lines.Skip(1).Sum(l => pitch * l.Height(height));
        // From the attachment point up to the top of the first line.
        var top = (block.Attachment / 3) switch { 0 => 0, 1 => rise / 2, _ => rise };
        var share = block.Attachment % 3 / 2.0;
        var wide = block.Width > 0 ? block.Width : lines.Max(l => l.Width);
        if (ground is { } rgb) Ground(rgb, block, map, new(-share * wide, top - rise, ((1 - share) * wide), top));
        var y = top;
        for (var i = 0; i < lines.Count; i++)
        {
            var line = lines[i];
            y -= i == 0 ? line.Height(height) : pitch * line.Height(height);
            // What says for itself how it is aligned is aligned in the box of the text.
            var anchor = block.Width > 0 ? line.Align switch { 'l' => 0, 'c' => 0.5, 'r' => 1, _ => share } : share;
            Line(line, ((anchor - share) * wide) + ((1 - anchor) * line.Indent), y, anchor, block, map);
        }
        builder.Begin(Look);
    }

    private void Ground(int rgb, in TextBlock block, in Affine map, Extents box)
    {
        var place = block;
        var to = map;
        PointXY At(double x, double y) => Flat(to, place.At + (x * place.Along) + (y * place.Up));
        var margin = 0.25 * block.Height;
        PointXY a = At(box.MinX - margin, box.MinY - margin), b = At(box.MaxX + margin, box.MinY - margin), c = At(box.MaxX + margin, box.MaxY + margin), d = At(box.MinX - margin, box.MaxY + margin);
        builder.Begin(Look with { Rgb = rgb });
        builder.Mask([[a, b, c, d]]);
        builder.Triangle(a, b, c);
        builder.Triangle(a, c, d);
        builder.Begin(Look);
    }

    /// <summary>A line on its baseline.</summary>
    private void Line(LaidLine line, double x, double y, double anchor, in TextBlock block, in Affine map)
    {
        var place = block;
        var to = map;
        PointXY At(double along, double up) => Flat(to, place.At + (along * place.Along) + (up * place.Up));
        // A line in one look keeps its anchor: the lettering that it is shown in may be wider or narrower than was reckoned.
        if (line.Pieces.Count == 1 && line.Pieces[0] is { Below: null } only)
        {
            Begin(only.Look);
            Put(only.Words, only.Look, x, y, 1, anchor, place, to);
            Rules(only.Look, x - (anchor * only.Width), y, only.Width);
            return;
        }
        var from = x - (anchor * line.Width);
        foreach (var piece in line.Pieces)
        {
            Begin(piece.Look);
            if (piece.Below is null) Put(piece.Words, piece.Look, from, y, 1, 0, place, to);
            else
            {
                var h = piece.Look.Height;
                Put(piece.Words, piece.Look, from, y + (TextPiece.AboveBy * h), TextPiece.StackHeight, 0, place, to);
                Put(piece.Below, piece.Look, from, y - (TextPiece.BelowBy * h), TextPiece.StackHeight, 0, place, to);
                if (piece.HasBar) builder.Hatching(At(from, y + (0.5 * h)), At(from + piece.Width, y + (0.5 * h)));
            }
            Rules(piece.Look, from, y, piece.Width);
            from += piece.Width;
        }

        void Begin(TextLook look) => builder.Begin(look.Rgb is { } rgb ? Look with { Rgb = rgb } : Look);

        void Rules(TextLook look, double at, double baseline, double wide)
        {
            void Rule(double up) => builder.Hatching(At(at, baseline + (up * look.Height)), At(at + wide, baseline + (up * look.Height)));
            if (look.IsUnderlined) Rule(-0.2);
            if (look.IsOverlined) Rule(1.2);
            if (look.IsStruck) Rule(0.4);
        }
    }

    private void Put(string words, TextLook look, double x, double y, double scale, double anchor, in TextBlock block, in Affine map)
    {
        if (words.Length == 0) return;
        var size = look.Height * scale;
        if (look.IsSymbols)
        {
            PutSigns(words, look, x - (anchor * scale * look.Width(words)), y, size, block, map);
            return;
        }
        var lean = Math.Tan(look.Slant * Degree);
        builder.Text(new TextRun(
            words, Flat(map, block.At + (x * block.Along) + (y * block.Up)), FlatVector(map, size * look.Factor * block.Along), FlatVector(map, size * (block.Up + (lean * block.Along))), (float)anchor, 0, 0));
    }

    /// <summary>Breaks a paragraph between words so that its lines keep within a width.</summary>
    private static IEnumerable<LaidLine> Broken(TextParagraph paragraph, double width, double height)
    {
        double first = (paragraph.Left + paragraph.First) * height, left = paragraph.Left * height;
        var line = new List<TextPiece>();
        var isFirst = true;
        if (paragraph.Pieces.Sum(p => p.Width) + first <= width * (1 + 1e-9))
        {
            yield return new LaidLine(paragraph.Pieces, paragraph.Align, first, paragraph.EndsColumn);
            yield break;
        }
        var used = 0.0;
        foreach (var word in Words(paragraph.Pieces))
        {
            var wide = word.Sum(p => p.Width);
            var bare = wide - (word[^1] is { Below: null } last ? last.Look.Width(last.Words) - last.Look.Width(last.Words.TrimEnd(' ')) : 0);
            if (line.Count > 0 && used + bare + (isFirst ? first : left) > width)
            {
                yield return new LaidLine(Joined(line), paragraph.Align, isFirst ? first : left);
                (line, used, isFirst) = ([], 0, false);
            }
            line.AddRange(word);
            used += wide;
        }
        yield return new LaidLine(Joined(line), paragraph.Align, isFirst ? first : left, paragraph.EndsColumn);
    }

    /// <summary>Words with the blanks behind them, each in its pieces.</summary>
    private static IEnumerable<List<TextPiece>> Words(List<TextPiece> pieces)
    {
        var word = new List<TextPiece>();
        foreach (var piece in pieces)
        {
            if (piece.Below is not null)
            {
                word.Add(piece);
                continue;
            }
            for (int from = 0, blank; from < piece.Words.Length; from = blank)
            {
                blank = piece.Words.IndexOf(' ', from);
                var ends = blank >= 0;
                for (blank = ends ? blank : piece.Words.Length; blank < piece.Words.Length && piece.Words[blank] == ' '; blank++)
                {
                }
                word.Add(piece with { Words = piece.Words[from..blank] });
                if (!ends) continue;
                yield return word;
                word = [];
            }
        }
        if (word.Count > 0) yield return word;
    }

    /// <summary>Neighbours that look alike as one, and no blanks at the end.</summary>
    private static List<TextPiece> Joined(List<TextPiece> line)
    {
        var joined = new List<TextPiece>();
        foreach (var piece in line)
        {
            if (joined.Count > 0 && joined[^1] is { Below: null } last && piece.Below is null && last.Look == piece.Look) joined[^1] = last with { Words = last.Words + piece.Words };
            else joined.Add(piece);
        }
        if (joined.Count > 0 && joined[^1] is { Below: null } end) joined[^1] = end with { Words = end.Words.TrimEnd(' ') };
        return joined;
    }

    /// <summary>Signs for form and position as strokes, with what letters stand between them.</summary>
    private void PutSigns(string words, TextLook look, double x, double y, double size, in TextBlock block, in Affine map)
    {
        var (place, to) = (block, map);
        var plain = look with { IsSymbols = false };
        foreach (var rune in words.EnumerateRunes())
        {
            var wide = ToleranceSigns.WidthOf(rune) * size * look.Factor;
            PointXY At(double u, double v) => Flat(to, place.At + ((x + (u * size * look.Factor)) * place.Along) + ((y + (v * size)) * place.Up));
            if (ToleranceSigns.Drawn(rune.ToString()) is { } sign)
            {
                foreach (var line in sign.Lines)
                    for (var i = 0; i + 3 < line.Length; i += 2) builder.Hatching(At(line[i], line[i + 1]), At(line[i + 2], line[i + 3]));
                foreach (var (cx, cy, radius) in sign.Circles)
                {
                    PointXY On(int step) => At(cx + (radius * Math.Cos(step * Math.PI / 12)), cy + (radius * Math.Sin(step * Math.PI / 12)));
                    for (var i = 0; i < 24; i++) builder.Hatching(On(i), On(i + 1));
                }
                if (sign.Letter.Length > 0) Put(sign.Letter, plain, x + (0.5 * size * look.Factor), y + (0.2 * size), 0.6 * size / look.Height, 0.5, block, map);
            }
            else Put(rune.ToString(), plain, x, y, size / look.Height, 0, block, map);
            x += wide;
        }
    }
}
