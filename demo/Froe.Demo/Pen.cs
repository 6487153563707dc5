namespace Froe.Demo;

/// <summary>What the demo's drawings are drawn with, in millimetres of paper from the lower left corner, whatever the format.</summary>
internal abstract class Pen
{
    /// <summary>The layer that what follows lies on.</summary>
    public string Layer { get; set; } = "OUTLINE";

    public Pen On(string layer)
    {
        Layer = layer;
        return this;
    }

    public abstract void Line(double x0, double y0, double x1, double y1);

    public abstract void Circle(double x, double y, double r);

    public abstract void Poly(bool closed, params double[] xy);

    /// <summary>A filled triangle.</summary>
    public abstract void Solid(double x0, double y0, double x1, double y1, double x2, double y2);

    /// <summary>A line of text; align 0 left, 1 centre, 2 right, 4 middle.</summary>
    public abstract void Text(double x, double y, double size, string words, int align = 0, double turn = 0);

    /// <summary>Lines of text, their first at the top; \P ends a line.</summary>
    public virtual void MText(double x, double y, double size, double wide, string words)
    {
        foreach (var (line, i) in words.Split("\\P").Select((l, i) => (l, i))) Text(x, y - (size * (1 + (i * 1.67))), size, line);
    }

    public void Rect(double x0, double y0, double x1, double y1) => Poly(true, x0, y0, x1, y0, x1, y1, x0, y1);

    /// <summary>A linear dimension.</summary>
    public virtual void Dimension(double x0, double y0, double x1, double y1, double off, string words)
    {
        var layer = Layer;
        Layer = "DIMENSIONS";
        DimensionLines(x0, y0, x1, y1, off, words);
        Layer = layer;
    }

    protected void DimensionLines(double x0, double y0, double x1, double y1, double off, string words)
    {
        double length = Math.Sqrt(((x1 - x0) * (x1 - x0)) + ((y1 - y0) * (y1 - y0))), ux = (x1 - x0) / length, uy = (y1 - y0) / length;
        double nx = -uy, ny = ux, side = Math.Sign(off);
        double ax = x0 + (nx * off), ay = y0 + (ny * off), bx = x1 + (nx * off), by = y1 + (ny * off);
        Line(x0 + (nx * side), y0 + (ny * side), ax + (nx * side * 2), ay + (ny * side * 2));
        Line(x1 + (nx * side), y1 + (ny * side), bx + (nx * side * 2), by + (ny * side * 2));
        Line(ax, ay, bx, by);
        Arrow(ax, ay, ux, uy);
        Arrow(bx, by, -ux, -uy);
        var turn = Math.Atan2(uy, ux) * 180 / Math.PI;
        if (turn is > 91 or <= -89) turn += 180;
        double tx = -Math.Sin(turn * Math.PI / 180), ty = Math.Cos(turn * Math.PI / 180);
        Text(((ax + bx) / 2) + (tx * 1.2), ((ay + by) / 2) + (ty * 1.2), 2.5, words, 1, turn);
    }

    protected void Arrow(double x, double y, double ux, double uy) =>
        Solid(x, y, x + (3 * ux) - (0.5 * uy), y + (3 * uy) + (0.5 * ux), x + (3 * ux) + (0.5 * uy), y + (3 * uy) - (0.5 * ux));

    /// <summary>A note on a line with an arrow at its first point.</summary>
    public void Leader(double x0, double y0, double x1, double y1, string words)
    {
        var layer = Layer;
        Layer = "DIMENSIONS";
        var length = Math.Sqrt(((x1 - x0) * (x1 - x0)) + ((y1 - y0) * (y1 - y0)));
        Arrow(x0, y0, (x1 - x0) / length, (y1 - y0) / length);
        Line(x0, y0, x1, y1);
        var right = x1 >= x0;
        Line(x1, y1, x1 + (right ? 4 : -4), y1);
        Text(x1 + (right ? 5 : -5), y1 - 1.2, 2.5, words, right ? 0 : 2);
        Layer = layer;
    }
}
