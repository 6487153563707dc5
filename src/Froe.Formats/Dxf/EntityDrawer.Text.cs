using Froe.Core.Drawing;

namespace Froe.Formats.Dxf;

/// <summary>TEXT, ATTRIB and ATTDEF.</summary>
internal sealed partial class EntityDrawer
{
    private void Text(Record e, in Placement at)
    {
        var raw = text.Decode(e.GetText(e.Type == "ATTDEF" && (e.GetInt(70) & 2) == 0 ? 2 : 1));
        var words = DxfText.Plain(raw);
        if (words.Length == 0) return;
        var style = tables.StyleOf(e, text);
        var map = Ocs(e, at);
        double height = e.Get(40, 2.5), factor = e.Get(41, 1), slant = e.Get(51) * Degree, turn = e.Get(50) * Degree;
        int across = e.GetInt(72), upright = e.Type is "ATTRIB" or "ATTDEF" ? e.GetInt(74) : e.GetInt(73), mirrored = e.GetInt(71);
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
        if (style.IsVertical)
        {
            Downwards(words, new TextBlock(anchor, new(1, 0, 0), new(0, 1, 0), height, 0, 1, 0, false), factor, map);
            return;
        }
        var (sin, cos) = Math.SinCos(turn);
        var along = new Point3(cos * height * factor, sin * height * factor, 0);
        var up = new Point3((-sin * height) + (cos * height * Math.Tan(slant)), (cos * height) + (sin * height * Math.Tan(slant)), 0);
        if ((mirrored & 2) != 0) along = -1 * along;
        if ((mirrored & 4) != 0) up = -1 * up;
        if (style.HasSigns)
        {
            var flat = new TextBlock(anchor, new(cos, sin, 0), new(-sin, cos, 0), height, 0, 1, 0, true);
            var drop = across == 4 ? 0.5 : upright switch { 1 => -0.25, 2 => 0.5, 3 => 1, _ => 0.0 };
            Put(string.Concat(words.Select(ToleranceSigns.Of)), new TextLook(height, factor, IsSymbols: true), 0, -drop * height, 1, across switch { 1 or 4 => 0.5, 2 => 1, _ => 0 }, flat, map);
            return;
        }
        var (share, rise) = (across switch { 1 or 4 => 0.5f, 2 => 1, _ => 0 }, across == 4 ? 0.5f : upright switch { 1 => -0.25f, 2 => 0.5f, 3 => 1, _ => 0 });
        builder.Text(new TextRun(words, Flat(map, anchor), FlatVector(map, along), FlatVector(map, up), share, rise, 0));
        foreach (var (code, up0) in ((char, double)[])[('u', -0.2), ('o', 1.2), ('k', 0.4)])
            foreach (var (from, to) in DxfText.Ruled(raw, code))
            {
                double whole = Lettering.Width(words), x0 = Lettering.Width(words.AsSpan(0, from)) - (share * whole), x1 = Lettering.Width(words.AsSpan(0, to)) - (share * whole);
                builder.Hatching(Flat(map, anchor + (x0 * along) + ((up0 - rise) * up)), Flat(map, anchor + (x1 * along) + ((up0 - rise) * up)));
            }
    }

    /// <summary>Letters one below the other, each in the middle of its line.</summary>
    private void Downwards(string words, in TextBlock block, double factor, in Affine map)
    {
        var look = new TextLook(block.Height, factor);
        var y = 0.0;
        foreach (var letter in words.EnumerateRunes())
        {
            y -= block.Height;
            Put(letter.ToString(), look, 0, y, 1, 0.5, block, map);
            y -= block.Height * (LinePitch - 1) / 2;
        }
    }
}
