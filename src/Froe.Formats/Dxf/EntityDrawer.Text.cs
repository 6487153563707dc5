using System.Text;
using Froe.Core.Drawing;

namespace Froe.Formats.Dxf;

/// <summary>TEXT, ATTRIB and MTEXT.</summary>
internal sealed partial class EntityDrawer
{
    /// <summary>Line pitch of MTEXT: five thirds of the text height (DXF reference, MTEXT group 44).</summary>
    private const double LinePitch = 5 / 3.0;

    private void Text(Record e, in Placement at)
    {
        var words = DxfText.Plain(text.Decode(e.GetText(1)));
        if (words.Length == 0) return;
        var map = Ocs(e, at);
        double height = e.Get(40, 2.5), factor = e.Get(41, 1), slant = e.Get(51) * Degree, turn = e.Get(50) * Degree;
        int across = e.GetInt(72), upright = e.Type == "ATTRIB" ? e.GetInt(74) : e.GetInt(73), mirrored = e.GetInt(71);
        Point3 first = e.Point(10), second = e.Has(11) ? e.Point(11) : first;
        var anchor = first;
        if (across is 3 or 5 && second != first)
        {
            // Aligned and fitted text runs from the first point to the second.
            double dx = second.X - first.X, dy = second.Y - first.Y, span = Math.Sqrt((dx * dx) + (dy * dy));
            turn = Math.Atan2(dy, dx);
            var natural = Lettering.Width(words);
            if (natural > 0 && across == 3) height = span / natural / factor;
            if (natural > 0 && across == 5) factor = span / natural / height;
        }
        else if (across != 0 || upright != 0) anchor = second;
        var (sin, cos) = Math.SinCos(turn);
        var along = new Point3(cos * height * factor, sin * height * factor, 0);
        var up = new Point3((-sin * height) + (cos * height * Math.Tan(slant)), (cos * height) + (sin * height * Math.Tan(slant)), 0);
        if ((mirrored & 2) != 0) along = -1 * along;
        if ((mirrored & 4) != 0) up = -1 * up;
        builder.Text(new TextRun(
            words, Flat(map, anchor), FlatVector(map, along), FlatVector(map, up),
            across switch { 1 or 4 => 0.5f, 2 => 1, _ => 0 },
            across == 4 ? 0.5f : upright switch { 1 => -0.25f, 2 => 0.5f, 3 => 1, _ => 0 }, 0));
    }

    private void MText(Record e, in Placement at)
    {
        var raw = new StringBuilder();
        for (var i = 0; i < e.Count; i++)
            if (e.Code(i) is 1 or 3) raw.Append(text.Decode(e.Text(i)));
        double height = e.Get(40, 2.5), width = e.Get(41);
        if (!(height > 0)) return;
        // The direction is a world vector, or else an angle; the text stands in the plane of its extrusion.
        var direction = e.Has(11) ? e.Point(11).Unit() : new Point3(Math.Cos(e.Get(50) * Degree), Math.Sin(e.Get(50) * Degree), 0);
        var normal = new Point3(e.Get(210), e.Get(220), e.Get(230, 1)).Unit();
        var along = height * direction;
        var up = Point3.Cross(normal, along);
        var lines = DxfText.Lines(raw.ToString()).SelectMany(l => Wrap(l, width / height)).ToList();
        while (lines.Count > 0 && string.IsNullOrWhiteSpace(lines[^1])) lines.RemoveAt(lines.Count - 1);
        var attachment = Math.Clamp(e.GetInt(71, 1), 1, 9) - 1;
        var pitch = LinePitch * e.Get(44, 1);
        // From the attachment point up to the top of the first line, in text heights.
        var lead = (attachment / 3) switch { 0 => 0, 1 => ((pitch * (lines.Count - 1)) + 1) / 2, _ => (pitch * (lines.Count - 1)) + 1 };
        var origin = e.Point(10);
        for (var i = 0; i < lines.Count; i++)
            builder.Text(new TextRun(
                lines[i], Flat(at.Map, origin + ((lead - (i * pitch)) * up)), FlatVector(at.Map, along), FlatVector(at.Map, up),
                attachment % 3 / 2f, 1, 0));
    }

    /// <summary>Breaks a line between words so that it keeps within a width given in text heights; 0 for no bound.</summary>
    private static IEnumerable<string> Wrap(string line, double width)
    {
        if (!(width > 0) || Lettering.Width(line) <= width)
        {
            yield return line;
            yield break;
        }
        var current = new StringBuilder();
        foreach (var word in line.Split(' '))
        {
            if (current.Length > 0 && Lettering.Width(current + " " + word) > width)
            {
                yield return current.ToString();
                current.Clear();
            }
            if (current.Length > 0) current.Append(' ');
            current.Append(word);
        }
        yield return current.ToString();
    }
}
