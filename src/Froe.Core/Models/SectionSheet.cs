using Froe.Core.Drawing;

namespace Froe.Core.Models;

/// <summary>A section laid flat: a sheet at true size, to be looked at and measured like a drawing.</summary>
public static class SectionSheet
{
    /// <summary>What its layers are called: outlines, then hatching.</summary>
    public static IReadOnlyList<string> Layers { get; } = ["Outlines", "Hatching"];

    /// <summary>Line weights of outlines and of hatching, in hundredths of a millimetre (ISO 128-2, a line group of 0.5).</summary>
    public const int OutlineWeight = 50, HatchingWeight = 25;

    /// <summary>Room about it, as a share of its diagonal.</summary>
    private const double Margin = 0.04;

    /// <summary>Lays it flat: x to the right, y up, as it is seen from the side that is taken away.</summary>
    /// <param name="cut">The section.</param>
    /// <param name="unit">The model's unit.</param>
    public static Sheet Of(SectionCut cut, LengthUnit unit)
    {
        ArgumentNullException.ThrowIfNull(cut);
        var builder = new SheetBuilder();
        foreach (var face in cut.Faces)
        {
            builder.Begin(new EntityLook(0, 1, 0, HatchingWeight, [], "hatching"));
            for (var i = 0; i + 3 < face.Hatching.Count; i += 4)
                builder.Hatching(new(face.Hatching[i], face.Hatching[i + 1]), new(face.Hatching[i + 2], face.Hatching[i + 3]));
            foreach (var (line, isClosed) in face.Loops.Select(l => (l, true)).Concat(face.Open.Select(l => (l, false))))
            {
                builder.Begin(new EntityLook(0, 0, 0, OutlineWeight, [], "outline"));
                builder.Path(Points(line), isClosed);
            }
        }
        // A unit of the model is one of the sheet: it is the thing itself, at its size.
        if (LengthUnits.MillimetresIn(unit) is { } millimetres) builder.Scale(new SheetScale(millimetres));
        var drawn = builder.Extents;
        var margin = drawn.IsEmpty ? 0 : drawn.Diagonal * Margin;
        var paper = drawn.IsEmpty ? (Extents?)null : new Extents(drawn.MinX - margin, drawn.MinY - margin, drawn.MaxX + margin, drawn.MaxY + margin);
        return builder.Build("Section", unit, [.. Layers.Select(name => new Layer(name, true, 0))], paper);
    }

    private static List<PointXY> Points(IReadOnlyList<double> numbers)
    {
        var points = new List<PointXY>(numbers.Count / 2);
        for (var i = 0; i + 1 < numbers.Count; i += 2) points.Add(new(numbers[i], numbers[i + 1]));
        return points;
    }
}
