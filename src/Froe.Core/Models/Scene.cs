using Froe.Core.Drawing;

namespace Froe.Core.Models;

/// <summary>A model as it was read, whatever its file: a tree of components that places parts. Z is up.</summary>
/// <param name="Unit">The unit of its lengths: millimetres, or unknown where the file does not say.</param>
/// <param name="Components">Its components, each behind the one it lies in.</param>
/// <param name="Parts">The parts that components place; one may be placed many times.</param>
public sealed record Scene(LengthUnit Unit, IReadOnlyList<Component> Components, IReadOnlyList<Part> Parts)
{
    /// <summary>What the file states of the parts: dimensions, tolerances, datums.</summary>
    public IReadOnlyList<ModelDimension> Dimensions { get; init; } = [];

    /// <summary>Every component that places a part, with where it stands in the model.</summary>
    public IEnumerable<PlacedPart> Placed()
    {
        var at = new Affine[Components.Count];
        for (var i = 0; i < Components.Count; i++)
        {
            var component = Components[i];
            at[i] = component.Parent < 0 ? component.Placement : at[component.Parent].After(component.Placement);
            if (component.Part is { } part) yield return new PlacedPart(i, part, at[i]);
        }
    }

    /// <summary>What the model covers; empty where nothing of it has a place.</summary>
    public Box Box()
    {
        var box = Models.Box.Empty;
        foreach (var placed in Placed())
            foreach (var corner in Parts[placed.Part].Mesh.Box.Corners()) box = box.With(placed.At.Apply(corner));
        return box;
    }
}

/// <summary>A component that places a part.</summary>
/// <param name="Component">Its place in the scene's list.</param>
/// <param name="Part">The part's place in the scene's list.</param>
/// <param name="At">From the part's coordinates to the model's.</param>
public readonly record struct PlacedPart(int Component, int Part, Affine At);

/// <summary>A part or an assembly at its place in another.</summary>
/// <param name="Name">What it is called.</param>
/// <param name="Number">Its number, where the file has one apart from the name; empty where not.</param>
/// <param name="Instance">What this one of several is called; empty where the file does not say.</param>
/// <param name="Parent">The component that it lies in, by its place in the list; -1 for none.</param>
/// <param name="Placement">From its own coordinates to its parent's.</param>
/// <param name="Colour">Its colour here, which goes before its part's; null for none.</param>
/// <param name="Part">The part that it places; null for an assembly.</param>
public sealed record Component(string Name, string Number, string Instance, int Parent, Affine Placement, ModelColour? Colour, int? Part)
{
    /// <summary>The other file that it is in and that is not there; null where it is whole.</summary>
    public string? MissingFile { get; init; }
}

/// <summary>A colour as screens have it (sRGB), with how much it covers: 1 is not seen through.</summary>
public readonly record struct ModelColour(byte Red, byte Green, byte Blue, double Opacity = 1)
{
    /// <summary>The least that its strongest third has where it is drawn.</summary>
    private const int Darkest = 0x58;

    /// <summary>
    /// As it is drawn: lighter where it is so dark that neither light nor edges could be told on it. Many programs write black for what has
    /// no colour (IGES 5.3, 2.2.4.4.13: colour 1).
    /// </summary>
    public ModelColour AsDrawn()
    {
        var lift = Math.Max(0, Darkest - Math.Max(Red, Math.Max(Green, Blue)));
        return new((byte)(Red + lift), (byte)(Green + lift), (byte)(Blue + lift), Opacity);
    }
}

/// <summary>A part: its mesh, and what is known exactly of its faces and edges.</summary>
/// <param name="Name">What it is called.</param>
/// <param name="Number">Its number; empty where the file has none apart from the name.</param>
/// <param name="Colour">Its colour; null where the file gives none.</param>
/// <param name="Material">What it is made of; null where the file does not say.</param>
/// <param name="Mesh">The mesh it is drawn from.</param>
/// <param name="Faces">What each face of the mesh is.</param>
/// <param name="Edges">Its edges.</param>
/// <param name="Exact">Volume, area and centre of its exact shape; null where the file has none.</param>
/// <param name="Deviation">How far the mesh lies from the exact shape at most, in the scene's unit; 0 where the mesh is all there is.</param>
public sealed record Part(
    string Name, string Number, ModelColour? Colour, Material? Material, Mesh Mesh, IReadOnlyList<Face> Faces, IReadOnlyList<Edge> Edges, Mass? Exact, double Deviation);

/// <summary>What a part is made of.</summary>
/// <param name="Name">As the file calls it.</param>
/// <param name="Density">As the file states it; null where it does not.</param>
public sealed record Material(string Name, double? Density);

/// <summary>What surface a face lies on.</summary>
public enum SurfaceKind
{
    /// <summary>No simpler one: a spline, or a mesh of which nothing more is known.</summary>
    Free,

    /// <summary>A plane.</summary>
    Plane,

    /// <summary>A cylinder.</summary>
    Cylinder,

    /// <summary>A cone.</summary>
    Cone,

    /// <summary>A sphere.</summary>
    Sphere,

    /// <summary>A torus.</summary>
    Torus,
}

/// <summary>What is known of a face, in its part's coordinates.</summary>
/// <param name="Surface">What it lies on.</param>
/// <param name="At">A point of the plane, the centre of a sphere or torus, a point of the axis.</param>
/// <param name="Along">The normal that points out of the part, or the axis, of length 1.</param>
/// <param name="Radius">Of a cylinder, sphere, a cone where <paramref name="At"/> lies, or a torus' middle circle; else 0.</param>
/// <param name="Minor">A torus' lesser radius, or a cone's half angle in radians; else 0.</param>
/// <param name="IsHollow">Whether the material lies outside of it, as round a bore.</param>
/// <param name="IsRecognised">Whether the file has a spline that is this surface within 0.0001 mm.</param>
/// <param name="Area">Its exact area; null where only the mesh is known.</param>
/// <param name="Colour">Its own colour; null for its part's.</param>
public sealed record Face(
    SurfaceKind Surface, Point3 At, Point3 Along, double Radius, double Minor, bool IsHollow, bool IsRecognised, double? Area, ModelColour? Colour)
{
    /// <summary>One of which only its mesh is known.</summary>
    public static Face Unknown { get; } = new(SurfaceKind.Free, default, default, 0, 0, false, false, null, null);
}

/// <summary>What curve an edge is.</summary>
public enum CurveKind
{
    /// <summary>No simpler one.</summary>
    Free,

    /// <summary>A straight line.</summary>
    Line,

    /// <summary>A circle or an arc of one.</summary>
    Circle,

    /// <summary>An ellipse or an arc of one.</summary>
    Ellipse,
}

/// <summary>What is known of an edge, in its part's coordinates.</summary>
/// <param name="First">The face at its one side, by its place in the list; -1 for none.</param>
/// <param name="Second">The face at its other side; -1 for none.</param>
/// <param name="IsSmooth">Whether one face runs on into the other, so that there is no edge to be seen.</param>
/// <param name="Curve">What it is.</param>
/// <param name="At">Where a line begins, the centre of a circle or ellipse.</param>
/// <param name="Along">The line's direction, the circle's axis, of length 1.</param>
/// <param name="Radius">Of the circle, or the ellipse's greater; else 0.</param>
/// <param name="Length">Its length; null where only the mesh is known.</param>
/// <param name="IsRecognised">Whether the file has a spline that is this curve within 0.0001 mm.</param>
/// <param name="Points">The line that it is drawn as.</param>
public sealed record Edge(
    int First, int Second, bool IsSmooth, CurveKind Curve, Point3 At, Point3 Along, double Radius, double? Length, bool IsRecognised, IReadOnlyList<Point3> Points);

/// <summary>Volume, area and centre of mass, in the scene's unit.</summary>
/// <param name="Volume">Null for what encloses none.</param>
/// <param name="Centre">Of the volume; null for what encloses none.</param>
public sealed record Mass(double? Volume, double Area, Point3? Centre);
