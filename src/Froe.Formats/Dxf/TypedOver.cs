using Froe.Core.Drawing;

namespace Froe.Formats.Dxf;

/// <summary>A dimension with words of its own, as the file has it.</summary>
/// <param name="Block">The block of the paper sheet that it lies on; null for the model.</param>
internal sealed record TypedWords(string? Block, PointXY At, double Height, string Words, double Measured, bool IsAngle);

/// <summary>Finds the dimensions whose words were typed over their value (DXF reference, DIMENSION, group 1), and measures what they dimension from its points.</summary>
internal sealed class TypedOver(DxfTables tables, DxfText text, int most)
{
    private const double Degree = Math.PI / 180;

    /// <summary>Insertions that are followed, in all and one within another: files are made that multiply them without end.</summary>
    private const int MostInserts = 50_000, MostDepth = 16;

    private int inserts;

    public List<TypedWords> Found { get; } = [];

    /// <param name="block">The block of the paper sheet it lies on; null for the model.</param>
    public void Take(Record e, string? block) => Take(e, block, Affine.Identity, 0);

    private void Take(Record e, string? sheet, in Affine map, int depth)
    {
        if (Found.Count >= most) return;
        if (e.Type == "INSERT") Follow(e, sheet, map, depth);
        else if (e.Type == "DIMENSION") Dimension(e, sheet, map);
    }

    /// <summary>What is dimensioned in a block is dimensioned where that is inserted; it states what it measures in the block's own units.</summary>
    private void Follow(Record e, string? sheet, in Affine map, int depth)
    {
        if (depth >= MostDepth || !tables.Blocks.TryGetValue(text.Decode(e.GetText(2)), out var block) || !block.Entities.Any(b => b.Type is "INSERT" or "DIMENSION")) return;
        if (++inserts > MostInserts) return;
        // An array of a block says the same of each; the first stands for all.
        var (sin, cos) = Math.SinCos(e.Get(50) * Degree);
        double sx = e.Get(41, 1), sy = e.Get(42, 1), sz = e.Get(43, 1);
        var ocs = e.Has(210) ? map.After(Affine.FromExtrusion(new(e.Get(210), e.Get(220), e.Get(230, 1)))) : map;
        var inside = ocs.After(new Affine(new(cos * sx, sin * sx, 0), new(-sin * sy, cos * sy, 0), new(0, 0, sz), e.Point(10)));
        inside = inside with { O = inside.O - inside.ApplyVector(block.Base) };
        foreach (var entity in block.Entities) Take(entity, sheet, inside, depth + 1);
    }

    private void Dimension(Record e, string? block, in Affine map)
    {
        var stated = text.Decode(e.GetText(1));
        // <> stands for the value; one blank says that there shall be no words.
        if (string.IsNullOrWhiteSpace(stated) || stated.Contains("<>", StringComparison.Ordinal)) return;
        var style = tables.DimensionStyleOf(e, text);
        if (Measure(e) is not var (measured, isAngle) || !double.IsFinite(measured)) return;
        var words = string.Join(" ", FormattedText.Read(stated, style.Text).SelectMany(p => p.Pieces).Select(p => p.Below is null ? p.Words : $"{p.Words}/{p.Below}")).Trim();
        // What lengths are multiplied by counts on paper only where it is less than nothing.
        var factor = style.Factor > 0 || block is not null ? Math.Abs(style.Factor) : 1;
        var middle = Middle(e);
        var there = map.Apply(new(middle.X, middle.Y, 0));
        var at = new PointXY(there.X, there.Y);
        var height = style.Text * Math.Sqrt(Math.Abs((map.X.X * map.Y.Y) - (map.X.Y * map.Y.X)));
        if (words.Length > 0 && double.IsFinite(at.X) && double.IsFinite(at.Y)) Found.Add(new TypedWords(block, at, height, words.Length <= 200 ? words : words[..200], isAngle ? measured : measured * factor, isAngle));
    }

    /// <summary>The middle of its words; where the file does not say, that of its line.</summary>
    private static PointXY Middle(Record e)
    {
        PointXY P(int code) => new(e.Point(code).X, e.Point(code).Y);
        static PointXY Between(PointXY a, PointXY b) => new((a.X + b.X) / 2, (a.Y + b.Y) / 2);
        if (e.Has(11)) return P(11);
        var kind = e.GetInt(70) & 7;
        if (kind is 3 or 4) return Between(P(10), P(15));
        if (kind is not (0 or 1)) return P(10);
        PointXY first = P(13), second = P(14), through = P(10), middle = Between(first, second);
        var (sin, cos) = Math.SinCos(kind == 0 ? e.Get(50) * Degree : Math.Atan2(second.Y - first.Y, second.X - first.X));
        var along = ((middle.X - through.X) * cos) + ((middle.Y - through.Y) * sin);
        return new(through.X + (along * cos), through.Y + (along * sin));
    }

    /// <summary>What it measures, in the drawing's units or in degrees; null where its points are not told.</summary>
    private static (double Measured, bool IsAngle)? Measure(Record e)
    {
        PointXY P(int code) => new(e.Point(code).X, e.Point(code).Y);
        var kind = e.GetInt(70) & 7;
        switch (kind)
        {
            case 0 when e.Has(13):
                var (sin, cos) = Math.SinCos(e.Get(50) * Degree);
                return (Math.Abs(((P(14).X - P(13).X) * cos) + ((P(14).Y - P(13).Y) * sin)), false);
            case 1 when e.Has(13): return (Distance(P(13), P(14)), false);
            case 3 or 4 when e.Has(15): return (Distance(P(10), P(15)), false);
            case 6 when e.Has(13): return (Math.Abs((e.GetInt(70) & 64) != 0 ? P(13).X - P(10).X : P(13).Y - P(10).Y), false);
            case 5 when e.Has(13) && e.Has(15): return (Between(P(13), P(15), P(14), P(10)), true);
            // By two lines: the file says what it measured, in radians.
            case 2 when e.Has(42): return (e.Get(42) / Degree, true);
            default: return null;
        }
    }

    /// <summary>The angle from one leg to the other on the side where the arc lies, in degrees.</summary>
    private static double Between(PointXY from, PointXY corner, PointXY to, PointXY arc)
    {
        double Turn(PointXY p) => Math.Atan2(p.Y - corner.Y, p.X - corner.X);
        static double Round(double angle) => ((angle % (2 * Math.PI)) + (2 * Math.PI)) % (2 * Math.PI);
        var sweep = Round(Turn(to) - Turn(from));
        return (Round(Turn(arc) - Turn(from)) <= sweep ? sweep : (2 * Math.PI) - sweep) / Degree;
    }

    private static double Distance(PointXY a, PointXY b) => Math.Sqrt(((b.X - a.X) * (b.X - a.X)) + ((b.Y - a.Y) * (b.Y - a.Y)));
}
