using System.Globalization;
using Froe.Core.Drawing;

namespace Froe.Formats.Dxf;

/// <summary>What is said about a drawing in it: leaders, tolerances of form and position, and dimensions that bring no picture of their own.</summary>
internal sealed partial class EntityDrawer
{
    private void Leader(Record e, in Placement at)
    {
        points.Clear();
        for (var i = 0; i < e.Count; i++)
            if (e.Code(i) == 10) points.Add(Flat(at.Map, Following(e, i)));
        if (points.Count < 2) return;
        builder.Path(points, closed: false);
        if (e.GetInt(71, 1) == 0) return;
        var style = tables.DimensionStyleOf(e, text);
        Head(points[0], points[1], style.Arrow * ScaleOf(at.Map), style.LeaderHead, at);
    }

    /// <summary>The head of a leader: a block of length 1 that points to the right with its tip at the origin, where the style names one.</summary>
    private void Head(PointXY tip, PointXY from, double size, string handle, in Placement at)
    {
        if (handle.Length == 0 || !tables.BlockOfHandle.TryGetValue(handle, out var name) || !tables.Blocks.TryGetValue(name, out var block))
        {
            Arrow(tip, from, size);
            return;
        }
        double dx = tip.X - from.X, dy = tip.Y - from.Y, length = Math.Sqrt((dx * dx) + (dy * dy));
        if (!(length > 0) || !(size > 0) || at.Depth >= limits.MostDepth || ++inserts > limits.MostInserts) return;
        var (cos, sin) = (size * dx / length, size * dy / length);
        var map = new Affine(new(cos, sin, 0), new(-sin, cos, 0), new(0, 0, size), new(tip.X, tip.Y, 0));
        var inside = new Placement(map with { O = map.O - map.ApplyVector(block.Base) }, Look.Layer, Look.Rgb, Look.Weight, Pattern, at.Depth + 1);
        foreach (var entity in block.Entities) Draw(entity, inside);
    }

    /// <summary>A filled head, three times as long as wide, no longer than half of what it stands on.</summary>
    private void Arrow(PointXY tip, PointXY from, double size)
    {
        double dx = from.X - tip.X, dy = from.Y - tip.Y, length = Math.Sqrt((dx * dx) + (dy * dy));
        if (!(length > 0) || !(size > 0)) return;
        var k = Math.Min(size, length / 2) / length;
        builder.Triangle(tip, new(tip.X + (k * (dx - (dy / 6))), tip.Y + (k * (dy + (dx / 6)))), new(tip.X + (k * (dx + (dy / 6))), tip.Y + (k * (dy - (dx / 6)))));
    }

    /// <summary>
    /// Leaders with their words (DXF reference, MLEADER, “Context data”): the groups stand nested between marks such as LEADER{ and }, and
    /// mean what the mark says.
    /// </summary>
    private void MultiLeader(Record e, in Placement at)
    {
        string words = "", inside = "";
        Point3 place = default, direction = new(1, 0, 0), landing = default, along = default;
        double height = 0, arrow = 0, width = 0, reach = 0;
        var attachment = 1;
        bool hasWords = false, hasLanding = false;
        var lines = new List<List<PointXY>>();
        var leaders = new List<(List<List<PointXY>> Lines, PointXY Landing, PointXY End)>();
        for (var i = 0; i < e.Count; i++)
        {
            var code = e.Code(i);
            if (code is >= 300 and <= 305)
            {
                var mark = text.Decode(e.Text(i)).Trim();
                if (mark is "CONTEXT_DATA{" or "LEADER{" or "LEADER_LINE{")
                {
                    inside = mark;
                    if (mark == "LEADER{") (lines, landing, along, reach, hasLanding) = ([], default, default, 0, false);
                    if (mark == "LEADER_LINE{") lines.Add([]);
                }
                else if (mark == "}")
                {
                    if (inside == "LEADER{") leaders.Add((lines, Flat(at.Map, landing), Flat(at.Map, hasLanding ? landing + (reach * along) : landing)));
                    inside = inside switch { "LEADER_LINE{" => "LEADER{", "LEADER{" => "CONTEXT_DATA{", _ => "" };
                }
                else if (inside == "CONTEXT_DATA{" && code == 304) words = mark;
                continue;
            }
            switch (inside, code)
            {
                case ("LEADER_LINE{", 10): lines[^1].Add(Flat(at.Map, Following(e, i))); break;
                case ("LEADER{", 10): (landing, hasLanding) = (Following(e, i), true); break;
                case ("LEADER{", 11): along = Following(e, i); break;
                case ("LEADER{", 40): reach = e.Number(i); break;
                case ("CONTEXT_DATA{", 12): (place, hasWords) = (Following(e, i), true); break;
                case ("CONTEXT_DATA{", 13): direction = Following(e, i); break;
                case ("CONTEXT_DATA{", 41): height = e.Number(i); break;
                case ("CONTEXT_DATA{", 43): width = e.Number(i); break;
                case ("CONTEXT_DATA{", 140): arrow = e.Number(i); break;
                case ("CONTEXT_DATA{", 171): attachment = (int)Math.Clamp(e.Number(i), 1, 3); break;
            }
        }
        foreach (var (theirs, to, end) in leaders)
            foreach (var line in theirs)
            {
                if (line.Count == 0) continue;
                line.Add(to);
                if (end != to) line.Add(end);
                builder.Path(line, closed: false);
                if (line.Count > 1) Arrow(line[0], line[1], arrow * ScaleOf(at.Map));
            }
        if (hasWords && words.Length > 0)
        {
            var unit = direction.Unit();
            Paragraphs(words, new TextBlock(place, unit, Point3.Cross(new(0, 0, 1), unit), height > 0 ? height : 2.5, width, 1, attachment - 1, false), at.Map);
        }
        else if (leaders.Count == 0) Skip(e.Type, "it says neither where it points nor what");
    }

    /// <summary>
    /// A frame of compartments with signs for form and position (DXF reference, TOLERANCE): compartments are parted by %%v, rows by ^J.
    /// </summary>
    private void Tolerance(Record e, in Placement at)
    {
        var style = tables.DimensionStyleOf(e, text);
        double h = style.Text, high = 2 * h, pad = 0.6 * h;
        var direction = (e.Has(11) ? e.Point(11) : new Point3(1, 0, 0)).Unit();
        var up = Point3.Cross(new Point3(e.Get(210), e.Get(220), e.Get(230, 1)).Unit(), direction);
        var origin = e.Point(10);
        var map = at.Map;
        PointXY At(double x, double y) => Flat(map, origin + (x * direction) + (y * up));
        var row = 0;
        foreach (var line in text.Decode(e.GetText(1)).Split("^J"))
        {
            var x = 0.0;
            var middle = -row * high;
            foreach (var cell in line.Split("%%v").Where(c => c.Length > 0))
            {
                var pieces = FormattedText.Read(cell, h).SelectMany(p => p.Pieces).ToList();
                if (pieces.Count == 0) continue;
                var wide = Math.Max(high, pieces.Sum(p => p.Width) + (2 * pad));
                builder.Path([At(x, middle - (high / 2)), At(x + wide, middle - (high / 2)), At(x + wide, middle + (high / 2)), At(x, middle + (high / 2))], closed: true);
                var block = new TextBlock(origin, direction, up, h, 0, 1, 0, false);
                var from = x + ((wide - pieces.Sum(p => p.Width)) / 2);
                foreach (var piece in pieces)
                {
                    Put(piece.Words, piece.Look, from, middle - (h / 2), 1, 0, block, map);
                    from += piece.Width;
                }
                x += wide;
            }
            row++;
        }
    }

    /// <summary>A dimension drawn from what it measures, in the look of its style: files of some programs bring no picture of it.</summary>
    private void Dimension(Record e, in Placement at)
    {
        Begin(e, at);
        var style = tables.DimensionStyleOf(e, text);
        var map = at.Map;
        PointXY P(int code) => Flat(map, e.Point(code));
        var k = ScaleOf(map);
        var kind = e.GetInt(70) & 7;
        switch (e.Has(13) || (kind is 3 or 4 && e.Has(15)) ? kind : -1)
        {
            case 0: Linear(P(13), P(14), P(10), e.Get(50) * Degree); break;
            case 1:
                PointXY a = P(13), b = P(14);
                Linear(a, b, P(10), Math.Atan2(b.Y - a.Y, b.X - a.X));
                break;
            case 2 when Meet(P(13), P(14), P(15), P(10)) is { } corner: Angular(corner, P(14), P(10), P(16)); break;
            case 5: Angular(P(15), P(13), P(14), P(10)); break;
            case 3: Across(P(15), P(10), "Ø", both: true); break;
            case 4: Across(P(10), P(15), "R", both: false); break;
            case 6:
                builder.Line(P(13), P(14));
                Value(Math.Abs((e.GetInt(70) & 64) != 0 ? P(13).X - P(10).X : P(13).Y - P(10).Y) / k, "", "", P(14), 0);
                break;
            default: Skip(e.Type, "the file holds neither a picture of it nor what it measures"); break;
        }

        void Linear(PointXY first, PointXY second, PointXY through, double angle)
        {
            var (sin, cos) = Math.SinCos(angle);
            PointXY Foot(PointXY p)
            {
                var along = ((p.X - through.X) * cos) + ((p.Y - through.Y) * sin);
                return new(through.X + (along * cos), through.Y + (along * sin));
            }
            PointXY from = Foot(first), to = Foot(second);
            Extension(first, from);
            Extension(second, to);
            builder.Line(from, to);
            Arrow(from, to, style.Arrow * k);
            Arrow(to, from, style.Arrow * k);
            Value(Distance(from, to) / k, "", "", new((from.X + to.X) / 2, (from.Y + to.Y) / 2), Readable(angle));
        }

        void Extension(PointXY measured, PointXY foot)
        {
            var length = Distance(measured, foot);
            if (!(length > style.Offset * k)) return;
            double ux = (foot.X - measured.X) / length, uy = (foot.Y - measured.Y) / length;
            builder.Line(new(measured.X + (ux * style.Offset * k), measured.Y + (uy * style.Offset * k)), new(foot.X + (ux * style.Beyond * k), foot.Y + (uy * style.Beyond * k)));
        }

        void Across(PointXY from, PointXY to, string sign, bool both)
        {
            builder.Line(from, to);
            Arrow(to, from, style.Arrow * k);
            if (both) Arrow(from, to, style.Arrow * k);
            Value(Distance(from, to) / k, sign, "", new((from.X + to.X) / 2, (from.Y + to.Y) / 2), Readable(Math.Atan2(to.Y - from.Y, to.X - from.X)));
        }

        void Angular(PointXY corner, PointXY first, PointXY second, PointXY through)
        {
            double Turn(PointXY p) => Math.Atan2(p.Y - corner.Y, p.X - corner.X);
            static double Round(double angle) => ((angle % (2 * Math.PI)) + (2 * Math.PI)) % (2 * Math.PI);
            double start = Turn(first), sweep = Round(Turn(second) - start), radius = Distance(corner, through);
            // The arc is the one of the two that the point lies on.
            if (Round(Turn(through) - start) > sweep) (start, sweep) = (start + sweep, (2 * Math.PI) - sweep);
            builder.Arc(new EllipseArc(corner, new(radius, 0), new(0, radius), start, start + sweep));
            PointXY On(double angle) => new(corner.X + (radius * Math.Cos(angle)), corner.Y + (radius * Math.Sin(angle)));
            var step = radius > 0 ? style.Arrow * k / radius : 0;
            Arrow(On(start), On(start + Math.Min(step, sweep / 3)), style.Arrow * k);
            Arrow(On(start + sweep), On(start + sweep - Math.Min(step, sweep / 3)), style.Arrow * k);
            Value(sweep / Degree, "", "°", On(start + (sweep / 2)), 0);
        }

        void Value(double measured, string before, string after, PointXY usual, double turn)
        {
            // One blank says that there shall be no words.
            if (e.Raw(1).SequenceEqual(" "u8)) return;
            var stated = text.Decode(e.GetText(1));
            var number = after == "°" ? measured : measured * style.Factor;
            var value = before + Math.Round(number, style.Decimals, MidpointRounding.AwayFromZero).ToString(style.DropsZeros ? "0." + new string('#', style.Decimals) : $"F{style.Decimals}", CultureInfo.InvariantCulture) + after;
            if (style.Form.Length > 0) value = style.Form.Contains("<>", StringComparison.Ordinal) ? style.Form.Replace("<>", value, StringComparison.Ordinal) : value + style.Form;
            var words = stated.Length == 0 ? value : stated.Replace("<>", value, StringComparison.Ordinal);
            var (sin, cos) = Math.SinCos(turn);
            // Beside the line, where the file does not say where its middle is.
            var gap = (style.Gap + (style.Text / 2)) * k;
            var middle = e.Has(11) ? P(11) : new PointXY(usual.X - (sin * gap), usual.Y + (cos * gap));
            Paragraphs(words, new TextBlock(new(middle.X, middle.Y, 0), new(cos, sin, 0), new(-sin, cos, 0), style.Text * k, 0, 1, 4, false), Affine.Identity);
        }
    }

    private static double Distance(PointXY a, PointXY b) => Math.Sqrt(((b.X - a.X) * (b.X - a.X)) + ((b.Y - a.Y) * (b.Y - a.Y)));

    /// <summary>Text is read from below or from the right (ISO 129-1, 5.5).</summary>
    private static double Readable(double angle) => Math.Cos(angle) < -1e-9 || (Math.Abs(Math.Cos(angle)) <= 1e-9 && Math.Sin(angle) < 0) ? angle + Math.PI : angle;

    /// <summary>Where two lines meet; null when they run side by side.</summary>
    private static PointXY? Meet(PointXY a, PointXY b, PointXY c, PointXY d)
    {
        double rx = b.X - a.X, ry = b.Y - a.Y, sx = d.X - c.X, sy = d.Y - c.Y, cross = (rx * sy) - (ry * sx);
        if (Math.Abs(cross) < 1e-12 * Math.Sqrt(((rx * rx) + (ry * ry)) * ((sx * sx) + (sy * sy)))) return null;
        var t = (((c.X - a.X) * sy) - ((c.Y - a.Y) * sx)) / cross;
        return double.IsFinite(t) ? new(a.X + (t * rx), a.Y + (t * ry)) : null;
    }
}
