using System.Globalization;
using System.Text;

namespace Froe.Demo;

/// <summary>Writes drawings as ASCII DXF (2000), in millimetres. Layers, line types and dimensions as a drawing office would set them.</summary>
internal sealed class DxfPen(double width, double height) : Pen
{
    private readonly StringBuilder entities = new();
    private readonly StringBuilder blocks = new();
    private StringBuilder to = null!;
    private int handle = 0x100;
    private int dimensions;

    private StringBuilder Out => to ?? entities;

    private void G(int code, string value) => Out.Append(code).Append('\n').Append(value).Append('\n');

    private void G(int code, double value) => G(code, value.ToString("0.####", CultureInfo.InvariantCulture));

    private void Start(string type)
    {
        G(0, type);
        G(5, (handle++).ToString("X", CultureInfo.InvariantCulture));
        G(8, Layer);
    }

    private void P(int code, double x, double y)
    {
        G(code, x);
        G(code + 10, y);
    }

    public new DxfPen On(string layer)
    {
        Layer = layer;
        return this;
    }

    public override void Line(double x0, double y0, double x1, double y1)
    {
        Start("LINE");
        P(10, x0, y0);
        P(11, x1, y1);
    }

    public override void Circle(double x, double y, double r)
    {
        Start("CIRCLE");
        P(10, x, y);
        G(40, r);
    }

    public void Arc(double x, double y, double r, double from, double until)
    {
        Start("ARC");
        P(10, x, y);
        G(40, r);
        G(50, from);
        G(51, until);
    }

    public void Ellipse(double x, double y, double majorX, double majorY, double ratio)
    {
        Start("ELLIPSE");
        P(10, x, y);
        G(30, 0);
        P(11, majorX, majorY);
        G(31, 0);
        G(40, ratio);
        G(41, 0);
        G(42, 2 * Math.PI);
    }

    /// <summary>A run of straight lines; bulges may follow as pairs of index and value.</summary>
    public override void Poly(bool closed, params double[] xy) => Bulged(closed, [], xy);

    public void Bulged(bool closed, Dictionary<int, double> bulges, params double[] xy)
    {
        Start("LWPOLYLINE");
        G(90, (xy.Length / 2).ToString(CultureInfo.InvariantCulture));
        G(70, closed ? "1" : "0");
        for (var i = 0; i < xy.Length / 2; i++)
        {
            P(10, xy[2 * i], xy[(2 * i) + 1]);
            if (bulges.TryGetValue(i, out var bulge)) G(42, bulge);
        }
    }

    public void Spline(params double[] xy)
    {
        var n = xy.Length / 2;
        Start("SPLINE");
        G(70, "8");
        G(71, "3");
        G(72, (n + 4).ToString(CultureInfo.InvariantCulture));
        G(73, n.ToString(CultureInfo.InvariantCulture));
        for (var i = 0; i < n + 4; i++) G(40, Math.Clamp(i - 3, 0, n - 3));
        for (var i = 0; i < n; i++) P(10, xy[2 * i], xy[(2 * i) + 1]);
    }

    public override void Text(double x, double y, double size, string words, int align = 0, double turn = 0)
    {
        Start("TEXT");
        P(10, x, y);
        G(40, size);
        G(1, Escape(words));
        if (turn != 0) G(50, turn);
        if (align == 0) return;
        G(72, align.ToString(CultureInfo.InvariantCulture));
        P(11, x, y);
    }

    public override void MText(double x, double y, double size, double wide, string words)
    {
        Start("MTEXT");
        P(10, x, y);
        G(40, size);
        G(41, wide);
        G(71, "1");
        G(1, Escape(words));
    }

    private static string Escape(string words)
    {
        var text = new StringBuilder();
        foreach (var c in words)
            if (c < 128) text.Append(c);
            else text.Append("\\U+").Append(((int)c).ToString("X4", CultureInfo.InvariantCulture));
        return text.ToString();
    }

    /// <summary>Hatching of closed outlines at an angle; the space between lines in millimetres.</summary>
    public void Hatch(double angle, double space, params double[][] outlines)
    {
        Boundary("STEEL", solid: false, outlines);
        G(75, "0");
        G(76, "1");
        G(52, angle);
        G(41, 1);
        G(77, "0");
        G(78, "1");
        G(53, angle);
        G(43, 0);
        G(44, 0);
        G(45, -space * Math.Sin(angle * Math.PI / 180));
        G(46, space * Math.Cos(angle * Math.PI / 180));
        G(79, "0");
        G(98, "0");
    }

    public void Fill(params double[][] outlines)
    {
        Boundary("SOLID", solid: true, outlines);
        G(75, "0");
        G(76, "1");
        G(98, "0");
    }

    private void Boundary(string name, bool solid, double[][] outlines)
    {
        Start("HATCH");
        P(10, 0, 0);
        G(30, 0);
        G(2, name);
        G(70, solid ? "1" : "0");
        G(71, "0");
        G(91, outlines.Length.ToString(CultureInfo.InvariantCulture));
        foreach (var outline in outlines)
        {
            G(92, "2");
            G(72, "0");
            G(73, "1");
            G(93, (outline.Length / 2).ToString(CultureInfo.InvariantCulture));
            for (var i = 0; i < outline.Length; i += 2) P(10, outline[i], outline[i + 1]);
            G(97, "0");
        }
    }

    /// <summary>Points of a circle, for outlines.</summary>
    public static double[] Ring(double x, double y, double r, int n = 72) =>
        [.. Enumerable.Range(0, n).SelectMany(i => new[] { x + (r * Math.Cos(2 * Math.PI * i / n)), y + (r * Math.Sin(2 * Math.PI * i / n)) })];

    public override void Solid(double x0, double y0, double x1, double y1, double x2, double y2)
    {
        Start("SOLID");
        P(10, x0, y0);
        P(11, x1, y1);
        P(12, x2, y2);
        P(13, x2, y2);
    }

    /// <summary>A linear dimension with its picture in a block of its own, as drawing programs write it.</summary>
    public override void Dimension(double x0, double y0, double x1, double y1, double off, string words)
    {
        var name = $"*D{++dimensions}";
        double length = Math.Sqrt(((x1 - x0) * (x1 - x0)) + ((y1 - y0) * (y1 - y0)));
        double bx = x1 - ((y1 - y0) / length * off), by = y1 + ((x1 - x0) / length * off);
        var layer = Layer;
        Layer = "DIMENSIONS";
        Block(name, () =>
        {
            Layer = "DIMENSIONS";
            DimensionLines(x0, y0, x1, y1, off, words);
        });
        Start("DIMENSION");
        G(2, name);
        P(10, bx, by);
        P(13, x0, y0);
        P(14, x1, y1);
        G(70, "33");
        G(1, Escape(words));
        Layer = layer;
    }

    public void Block(string name, Action draw)
    {
        to = blocks;
        G(0, "BLOCK");
        G(8, "0");
        G(2, name);
        G(70, name[0] == '*' ? "1" : "0");
        P(10, 0, 0);
        G(3, name);
        G(1, "");
        draw();
        G(0, "ENDBLK");
        G(8, "0");
        to = null!;
    }

    public void Insert(string name, double x, double y, double scale = 1, double turn = 0, int columns = 1, int rows = 1, double wide = 0, double high = 0)
    {
        Start("INSERT");
        G(2, name);
        P(10, x, y);
        G(41, scale);
        G(42, scale);
        G(43, scale);
        G(50, turn);
        if (columns * rows == 1) return;
        G(70, columns.ToString(CultureInfo.InvariantCulture));
        G(71, rows.ToString(CultureInfo.InvariantCulture));
        G(44, wide);
        G(45, high);
    }

    public void Save(string file)
    {
        var all = new StringBuilder();
        to = all;
        G(0, "SECTION");
        G(2, "HEADER");
        foreach (var (name, code, value) in new[] { ("$ACADVER", 1, "AC1015"), ("$DWGCODEPAGE", 3, "ANSI_1252"), ("$INSUNITS", 70, "4"), ("$MEASUREMENT", 70, "1") })
        {
            G(9, name);
            G(code, value);
        }
        G(9, "$EXTMIN");
        P(10, 0, 0);
        G(9, "$EXTMAX");
        P(10, width, height);
        G(0, "ENDSEC");
        Tables();
        G(0, "SECTION");
        G(2, "BLOCKS");
        all.Append(blocks);
        G(0, "ENDSEC");
        G(0, "SECTION");
        G(2, "ENTITIES");
        all.Append(entities);
        G(0, "ENDSEC");
        G(0, "EOF");
        to = null!;
        File.WriteAllText(file, all.ToString(), new UTF8Encoding(false));
    }

    private void Tables()
    {
        G(0, "SECTION");
        G(2, "TABLES");
        G(0, "TABLE");
        G(2, "LTYPE");
        LineType("CONTINUOUS");
        LineType("CENTER", 12, -2, 2, -2);
        LineType("HIDDEN", 3, -1.5);
        G(0, "ENDTAB");
        G(0, "TABLE");
        G(2, "LAYER");
        foreach (var (name, colour, type, weight) in new (string, int, string, int)[]
        {
            ("0", 7, "CONTINUOUS", 18), ("BORDER", 7, "CONTINUOUS", 50), ("OUTLINE", 7, "CONTINUOUS", 50), ("THIN", 7, "CONTINUOUS", 18), ("CENTRE LINES", 93, "CENTER", 18),
            ("HIDDEN", 8, "HIDDEN", 25), ("HATCHING", 8, "CONTINUOUS", 13), ("DIMENSIONS", 7, "CONTINUOUS", 18), ("TEXT", 7, "CONTINUOUS", 18), ("TITLE BLOCK", 7, "CONTINUOUS", 25),
            ("REINFORCEMENT", 14, "CONTINUOUS", 35), ("WIRES", 174, "CONTINUOUS", 25), ("DEVICES", 7, "CONTINUOUS", 35),
        })
        {
            G(0, "LAYER");
            G(2, name);
            G(70, "0");
            G(62, colour.ToString(CultureInfo.InvariantCulture));
            G(6, type);
            G(370, weight.ToString(CultureInfo.InvariantCulture));
        }
        G(0, "ENDTAB");
        G(0, "ENDSEC");
    }

    private void LineType(string name, params double[] dashes)
    {
        G(0, "LTYPE");
        G(2, name);
        G(70, "0");
        G(3, "");
        G(72, "65");
        G(73, dashes.Length.ToString(CultureInfo.InvariantCulture));
        G(40, dashes.Sum(Math.Abs));
        foreach (var dash in dashes) G(49, dash);
    }
}
