using System.Collections.Immutable;
using System.Text.Json.Serialization;
using Froe.Core.Drawing;

namespace Froe.Core.Markup;

/// <summary>One shape on an overlay. Points are in the sheet's own units, y up, so a markup keeps its place at every zoom.</summary>
[JsonPolymorphic(TypeDiscriminatorPropertyName = "shape")]
[JsonDerivedType(typeof(Cloud), "cloud")]
[JsonDerivedType(typeof(Arrow), "arrow")]
public abstract record Shape
{
    /// <summary>Whether every point is finite and lies on or near the sheet, and the shape has a size.</summary>
    public abstract bool Fits(Extents sheet);

    /// <summary>The point the shape is about: what a zone reference names.</summary>
    [JsonIgnore]
    public abstract PointXY Anchor { get; }

    /// <summary>A point may lie outside the sheet by its own size, no more: notes in the margin are usual, strays are not.</summary>
    private protected static bool Near(PointXY p, Extents sheet)
    {
        var margin = Math.Max(sheet.Width, sheet.Height);
        return double.IsFinite(p.X) && double.IsFinite(p.Y)
            && p.X >= sheet.MinX - margin && p.X <= sheet.MaxX + margin
            && p.Y >= sheet.MinY - margin && p.Y <= sheet.MaxY + margin;
    }
}

/// <summary>A revision cloud round a rectangle given by two opposite corners.</summary>
public sealed record Cloud(PointXY From, PointXY To) : Shape
{
    /// <inheritdoc/>
    public override PointXY Anchor => new((From.X + To.X) / 2, (From.Y + To.Y) / 2);

    /// <inheritdoc/>
    public override bool Fits(Extents sheet) =>
        Near(From, sheet) && Near(To, sheet) && From.X != To.X && From.Y != To.Y;

    /// <summary>
    /// The scallops of the cloud: end points of equal arcs along the rectangle, clockwise from its top left, each arc
    /// bulging outward by a half circle's bulge of 0.5. The number of arcs on a side is what comes nearest to <paramref name="arc"/>.
    /// </summary>
    /// <param name="arc">Wished chord of one arc, in sheet units; greater than 0.</param>
    public ImmutableArray<PointXY> Scallops(double arc)
    {
        ArgumentOutOfRangeException.ThrowIfNegativeOrZero(arc);
        double left = Math.Min(From.X, To.X), right = Math.Max(From.X, To.X), bottom = Math.Min(From.Y, To.Y), top = Math.Max(From.Y, To.Y);
        var points = ImmutableArray.CreateBuilder<PointXY>();
        Side(left, top, right, top);
        Side(right, top, right, bottom);
        Side(right, bottom, left, bottom);
        Side(left, bottom, left, top);
        return points.ToImmutable();

        void Side(double x0, double y0, double x1, double y1)
        {
            var count = Math.Clamp((int)Math.Round(Math.Max(Math.Abs(x1 - x0), Math.Abs(y1 - y0)) / arc), 1, 200);
            for (var i = 0; i < count; i++)
                points.Add(new PointXY(x0 + ((x1 - x0) * i / count), y0 + ((y1 - y0) * i / count)));
        }
    }
}

/// <summary>An arrow from where its words stand to what it points at.</summary>
public sealed record Arrow(PointXY From, PointXY To) : Shape
{
    /// <inheritdoc/>
    public override PointXY Anchor => To;

    /// <inheritdoc/>
    public override bool Fits(Extents sheet) => Near(From, sheet) && Near(To, sheet) && From != To;
}
