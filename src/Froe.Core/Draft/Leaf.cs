using System.Text.Json.Serialization;
using Froe.Core.Drawing;

namespace Froe.Core.Draft;

/// <summary>
/// One of the leaves that a draft is a stack of, whatever its file: a sheet is anything flat, such as a layout of a drawing. Tables and
/// models will be kinds of their own, each with its frame.
/// </summary>
/// <param name="Position">0, 1, 2 … in the order of the file, the one to open first in front.</param>
/// <param name="Name">What the file calls it.</param>
/// <param name="Frame">What its places are counted in.</param>
public sealed record Leaf(int Position, string Name, Frame Frame);

/// <summary>What places on a leaf are counted in.</summary>
[JsonPolymorphic(TypeDiscriminatorPropertyName = "kind")]
[JsonDerivedType(typeof(SheetFrame), "sheet")]
public abstract record Frame;

/// <summary>A sheet's own coordinates: two axes, y up.</summary>
/// <param name="Unit">The unit of its coordinates.</param>
/// <param name="Extents">What its geometry covers.</param>
public sealed record SheetFrame(LengthUnit Unit, Extents Extents) : Frame;

/// <summary>The forms that leaves are prepared in, by name; a leaf has those that its reader makes.</summary>
public static class LeafForms
{
    /// <summary>All that is drawn of a sheet (<see cref="PreparedSheet"/>).</summary>
    public const string Geometry = "geometry";

    /// <summary>What the hand catches on a sheet and what comparing asks (<see cref="PreparedSheet"/>).</summary>
    public const string Details = "details";

    /// <summary>A picture to look at until the rest is there.</summary>
    public const string Picture = "picture";

    /// <summary>A picture for lists.</summary>
    public const string Small = "small";
}
