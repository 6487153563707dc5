using Froe.Core.Drawing;

namespace Froe.Formats.Dxf;

/// <summary>HATCH filled with a passage from one colour to another (DXF reference, HATCH, groups 450 to 470).</summary>
internal sealed partial class EntityDrawer
{
    /// <summary>Bands that a passage is drawn in, and sides of a round one.</summary>
    private const int Bands = 32, Sides = 24;

    /// <summary>Corners of all such areas of a file that are cut into bands.</summary>
    private const int MostBanded = 50_000;

    private int banded;

    private void Gradient(Record e, List<List<PointXY>> loops)
    {
        var (first, second) = GradientColours(e);
        var name = text.Decode(e.GetText(470)).ToUpperInvariant();
        var isTurned = name.StartsWith("INV", StringComparison.Ordinal);
        if (isTurned) (name, first, second) = (name[3..], second, first);
        if ((banded += loops.Sum(l => l.Count)) > MostBanded)
        {
            Skip("HATCH", "so many edges bound passages of colours that this one is filled with its middle colour");
            Band(Blend(first, second, 0.5), loops);
            return;
        }
        var angle = e.Get(460);
        if (!double.IsFinite(angle)) angle = 0;
        if (name is "LINEAR" or "CYLINDER" or "") Across(loops, angle, first, second, isMirrored: name == "CYLINDER");
        else Round(loops, name, e.Get(461), first, second);
    }

    /// <summary>The two colours; with one only, the other is a tint of it: from black (0) to white (1).</summary>
    private (int First, int Second) GradientColours(Record e)
    {
        List<int> colours = [];
        for (var i = 0; i < e.Count; i++)
            if (e.Code(i) == 421) colours.Add((int)(long)Math.Clamp(e.Number(i), int.MinValue, uint.MaxValue) & 0xFFFFFF);
        var first = colours.Count > 0 ? colours[0] : Look.Rgb;
        if (e.GetInt(452) != 1) return (first, colours.Count > 1 ? colours[1] : first);
        var tint = Math.Clamp(e.Get(462), 0, 1);
        return (first, double.IsNaN(tint) ? first : tint < 0.5 ? Blend(0, first, 2 * tint) : Blend(first, 0xFFFFFF, (2 * tint) - 1));
    }

    private static int Blend(int a, int b, double share)
    {
        var rgb = 0;
        for (var shift = 0; shift <= 16; shift += 8) rgb |= (int)Math.Round(((a >> shift) & 255) + ((((b >> shift) & 255) - ((a >> shift) & 255)) * share)) << shift;
        return rgb;
    }

    private void Across(List<List<PointXY>> loops, double angle, int first, int second, bool isMirrored)
    {
        var (sin, cos) = Math.SinCos(angle);
        double Along(PointXY p) => (p.X * cos) + (p.Y * sin);
        double from = loops.Min(l => l.Min(Along)), to = loops.Max(l => l.Max(Along));
        if (!(to > from) || !double.IsFinite(to - from)) return;
        var rest = loops;
        for (var band = 0; band < Bands; band++)
        {
            var end = from + ((band + 1) * (to - from) / Bands);
            var share = (band + 0.5) / Bands;
            // All that is left, so that the next band lies on this one: side by side, paper would shine through between them.
            Band(Blend(first, second, isMirrored ? 1 - Math.Abs((2 * share) - 1) : share), rest);
            rest = rest.ConvertAll(l => Cutting.LoopToHalf(l, p => Along(p) - end));
        }
    }

    /// <summary>From the second colour in the middle outwards; in a hemisphere the middle lies at the lower edge. The middle may be shifted to the upper left corner (461: 0 centred, 1 shifted).</summary>
    private void Round(List<List<PointXY>> loops, string name, double shift, int first, int second)
    {
        var box = loops.SelectMany(l => l).Aggregate(Extents.Empty, (b, p) => b.With(p.X, p.Y));
        var moved = double.IsFinite(shift) ? Math.Clamp(shift, 0, 1) : 0;
        PointXY middle = new((box.MinX + box.MaxX) / 2 * (1 - moved) + (box.MinX * moved), name == "HEMISPHERICAL" ? box.MinY : ((box.MinY + box.MaxY) / 2 * (1 - moved)) + (box.MaxY * moved));
        var radius = new[] { (box.MinX, box.MinY), (box.MinX, box.MaxY), (box.MaxX, box.MinY), (box.MaxX, box.MaxY) }.Max(c => Distance(middle, new(c.Item1, c.Item2)));
        if (!(radius > 0) || !double.IsFinite(radius)) return;
        Band(first, loops);
        for (var ring = 1; ring < Bands; ring++)
        {
            var reach = radius * (Bands - ring) / Bands;
            var within = loops;
            for (var side = 0; side < Sides; side++)
            {
                var (sin, cos) = Math.SinCos(2 * Math.PI * side / Sides);
                within = within.ConvertAll(l => Cutting.LoopToHalf(l, p => reach - ((p.X - middle.X) * cos) - ((p.Y - middle.Y) * sin)));
            }
            Band(Blend(first, second, (ring + 0.5) / Bands), within);
        }
    }

    private void Band(int rgb, List<List<PointXY>> loops)
    {
        builder.Begin(Look with { Rgb = rgb, IsArea = true });
        if (!builder.Fill(loops.FindAll(l => l.Count > 2))) Skip("HATCH", "its outline has too many edges");
    }
}
