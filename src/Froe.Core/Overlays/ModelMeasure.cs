using System.Collections.Immutable;
using System.Text.Json.Serialization;
using Froe.Core.Draft;
using Froe.Core.Drawing;
using Froe.Core.Models;

namespace Froe.Core.Overlays;

/// <summary>
/// A measure of a model that is kept: of one thing, or between two. What it comes to follows from the draft it lies on, and is not written.
/// </summary>
/// <param name="Of">One thing or two: faces, edges and their ends, points of a section, or two whole components, for how near they come.</param>
/// <param name="Eye">What was looked at, and from where.</param>
public sealed record ModelMeasure([property: JsonRequired] ImmutableArray<ModelSpot> Of, [property: JsonRequired] PinEye Eye) : Shape
{
    /// <inheritdoc/>
    protected override Extents Reach => new(0, 0, 0, 0);

    /// <inheritdoc/>
    protected override bool HasSize => true;

    /// <inheritdoc/>
    public override bool Fits(Place place, Frame frame) =>
        place is OnScene && frame is SceneFrame && Of is { IsDefault: false, Length: 1 or 2 } && Of.All(s => s is not null && s.IsSound())
        && Of.Select(s => s.IsWhole()).Distinct().Count() == 1 && Eye is not null && Eye.IsSound();

    /// <inheritdoc/>
    /// <param name="detail">Is not asked: it stands in space.</param>
    public override Outline Outline(double detail) => new([], OutlineFill.None, default, default);

    /// <summary>What people call its place.</summary>
    public string Words() => string.Join(" – ", Of.Select(s => s.Words()).Distinct());

    /// <summary>The same on another draft, by what was found there of each thing; null where one of them is not surely found.</summary>
    public ModelMeasure? Again(IReadOnlyList<FoundAgain> found)
    {
        ArgumentNullException.ThrowIfNull(found);
        return found.Count == Of.Length && found.Zip(Of).All(f => IsFound(f.First, f.Second.IsPoint))
            ? this with { Of = [.. Of.Zip(found, (s, f) => s with { Component = f.Component!.Value, Face = f.Face, Edge = f.Edge, At = f.At })] }
            : null;
    }

    /// <summary>Whether it is surely there. A point of a face that has changed is nowhere for sure, for all that the face is.</summary>
    private static bool IsFound(FoundAgain found, bool isPoint) => found.Component is not null && (found.How == FoundHow.Same || (found.How == FoundHow.Changed && !isPoint));

    /// <inheritdoc/>
    public bool Equals(ModelMeasure? other) => other is not null && Eye == other.Eye && Of.AsSpan().SequenceEqual(other.Of.AsSpan());

    /// <inheritdoc/>
    public override int GetHashCode() => HashCode.Combine(Of.Length, Of[0], Eye);
}

/// <summary>A thing of a model: a face, an edge, the end of one, a point, or a whole component.</summary>
/// <param name="Component">The component's place in the list of the draft it lies on.</param>
/// <param name="Path">What the component and those it lies in are called, the outermost first.</param>
/// <param name="Face">The face's place in its part's list; null where none is meant.</param>
/// <param name="Edge">The edge's place in its part's list; null where none is meant.</param>
/// <param name="At">Where it was picked, in the part's coordinates.</param>
/// <param name="Normal">The way out of the part there, in its coordinates, of length 1.</param>
/// <param name="IsCorner">Whether the end of the edge is meant that is nearest to there.</param>
/// <param name="IsPoint">Whether the very point is meant that was picked, as one of an outline that a section has cut.</param>
public sealed record ModelSpot(
    [property: JsonRequired] int Component, [property: JsonRequired] ImmutableArray<string> Path, int? Face, int? Edge, [property: JsonRequired] Point3 At, [property: JsonRequired] Point3 Normal,
    bool IsCorner = false, bool IsPoint = false)
{
    /// <summary>As it is measured.</summary>
    public PickedOnModel Picked() => new(Component, Face, Edge, At, Normal, IsCorner, IsPoint);

    /// <summary>Whether a whole component is meant.</summary>
    public bool IsWhole() => Face is null && Edge is null && !IsPoint;

    /// <summary>Whether it can be a thing of any model.</summary>
    public bool IsSound() =>
        Component >= 0 && Face is not < 0 && Edge is not < 0 && (Face is null || Edge is null) && (!IsCorner || Edge is not null) && (!IsPoint || Edge is null) && double.IsFinite(At.X + At.Y + At.Z + Normal.X + Normal.Y + Normal.Z)
        && Path is { IsDefaultOrEmpty: false, Length: <= Pin.MostDepth } && Path.All(n => n is { Length: <= Pin.MostName });

    /// <summary>What people call it: the component.</summary>
    public string Words() => Pin.Short(Path[^1]);

    /// <inheritdoc/>
    public bool Equals(ModelSpot? other) =>
        other is not null && (Component, Face, Edge, At, Normal, IsCorner, IsPoint) == (other.Component, other.Face, other.Edge, other.At, other.Normal, other.IsCorner, other.IsPoint) && Path.AsSpan().SequenceEqual(other.Path.AsSpan());

    /// <inheritdoc/>
    public override int GetHashCode() => HashCode.Combine(Component, Face, Edge, At);
}
