using System.Text.Json.Serialization;
using Froe.Core.Drawing;

namespace Froe.Core.Draft;

/// <summary>
/// One of the leaves that a draft is a stack of, whatever its file: a sheet is anything flat, such as a layout of a drawing; a table is a
/// tab of a spreadsheet, a scene a model of solids.
/// </summary>
/// <param name="Position">0, 1, 2 … in the order of the file, the one to open first in front.</param>
/// <param name="Name">What the file calls it.</param>
/// <param name="Frame">What its places are counted in.</param>
public sealed record Leaf(int Position, string Name, Frame Frame);

/// <summary>What places on a leaf are counted in.</summary>
[JsonPolymorphic(TypeDiscriminatorPropertyName = "kind")]
[JsonDerivedType(typeof(SheetFrame), "sheet")]
[JsonDerivedType(typeof(TableFrame), "table")]
[JsonDerivedType(typeof(SceneFrame), "scene")]
public abstract record Frame;

/// <summary>A sheet's own coordinates: two axes, y up.</summary>
/// <param name="Unit">The unit of its coordinates.</param>
/// <param name="Extents">What its geometry covers; of a page, its paper.</param>
/// <param name="Surface">What it is drawn from.</param>
/// <param name="Scales">How large things are that are drawn on it, where the file says so, the smallest area first; null where it does not.</param>
/// <param name="Patches">How many patches of it hold something (<see cref="PatchGrid"/>); null where that was not told when it was prepared.</param>
/// <param name="Pictures">Pictures that lie on it and are files of their own; null where there are none.</param>
/// <param name="Fineness">What lies closer together is not told apart on it, in its units: a pixel of a picture, a step of a page's numbers; null where the file states true coordinates.</param>
public sealed record SheetFrame(LengthUnit Unit, Extents Extents, Surface Surface = Surface.Strokes, IReadOnlyList<SheetScale>? Scales = null, int? Patches = null, IReadOnlyList<PlacedPicture>? Pictures = null, double? Fineness = null) : Frame;

/// <summary>A table's cells: x counts columns from the left and y rows from the top, both from 0.</summary>
/// <param name="Rows">How many rows it has, up to the last that holds something.</param>
/// <param name="Columns">How many columns.</param>
public sealed record TableFrame(int Rows, int Columns) : Frame;

/// <summary>A model's own coordinates: three axes, z up.</summary>
/// <param name="Unit">The unit of its coordinates.</param>
/// <param name="Box">Least x, y, z, greatest x, y, z.</param>
/// <param name="Components">How many components show something.</param>
/// <param name="Parts">How many different parts they are.</param>
/// <param name="Triangles">How many triangles all of them have together.</param>
public sealed record SceneFrame(LengthUnit Unit, IReadOnlyList<double>? Box, int Components, int Parts, long Triangles) : Frame;

/// <summary>What a sheet is drawn from.</summary>
public enum Surface
{
    /// <summary>Its geometry, which holds all of it.</summary>
    Strokes,

    /// <summary>Its page of the file: the geometry is what of it goes into strokes.</summary>
    Page,

    /// <summary>Its tiles: a picture of points.</summary>
    Tiles,

    /// <summary>Its page of the file, which draws so much that tiles were made of it as well: what is looked at closer than they go is drawn from the page.</summary>
    HeavyPage,

    /// <summary>Tiles that were made of its page, which is nothing but a picture of points; whatever is made of its file is made of the page.</summary>
    Scan,
}

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

    /// <summary>The lines of words on a leaf and where they stand (<see cref="WrittenRun"/>).</summary>
    public const string Text = "text";

    /// <summary>What the view of a page needs besides the file (<see cref="PageFacts"/>).</summary>
    public const string Facts = "facts";

    /// <summary>The page that a sheet is drawn from where the file itself is none.</summary>
    public const string Page = "paged";

    /// <summary>The pyramid of tiles of a picture, or of a page that draws much.</summary>
    public const string Tiles = "tiles";

    /// <summary>What of a sheet is to be seen, and how large (<see cref="PatchGrid"/>).</summary>
    public const string Patches = "patches";

    /// <summary>The cells of a table and how they look (<see cref="TableFacts"/>).</summary>
    public const string Cells = "cells";

    /// <summary>The tree and the parts of a model (<see cref="Models.SceneFacts"/>).</summary>
    public const string Scene = "scene";

    /// <summary>The meshes of a model's parts (<see cref="Models.PreparedScene"/>).</summary>
    public const string Meshes = "meshes";

    /// <summary>What is exactly known of the faces and edges of a model (<see cref="Models.ExactFacts"/>).</summary>
    public const string Exact = "exact";
}
