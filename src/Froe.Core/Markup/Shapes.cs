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
}

/// <summary>An arrow from where its words stand to what it points at.</summary>
public sealed record Arrow(PointXY From, PointXY To) : Shape
{
    /// <inheritdoc/>
    public override PointXY Anchor => To;

    /// <inheritdoc/>
    public override bool Fits(Extents sheet) => Near(From, sheet) && Near(To, sheet) && From != To;
}
