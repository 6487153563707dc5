using System.Collections.Immutable;
using System.Text.Json.Serialization;
using Froe.Core.Draft;
using Froe.Core.Drawing;
using Froe.Core.Models;

namespace Froe.Core.Overlays;

/// <summary>A spot on a model: on a component, a face of it, with the eye that saw it.</summary>
/// <param name="Component">The component's place in the list of the draft it was put on.</param>
/// <param name="Path">What the component and those it lies in are called, the outermost first: by this it is found on another draft.</param>
/// <param name="Face">The face's place in its part's list.</param>
/// <param name="At">Where, in the part's coordinates.</param>
/// <param name="Normal">The way out of the part there, in its coordinates, of length 1.</param>
/// <param name="Eye">What was looked at, and from where.</param>
public sealed record Pin(
    [property: JsonRequired] int Component, [property: JsonRequired] ImmutableArray<string> Path, [property: JsonRequired] int Face, [property: JsonRequired] Point3 At,
    [property: JsonRequired] Point3 Normal, [property: JsonRequired] PinEye Eye) : Shape
{
    /// <summary>Deepest component that a pin stands on, and the longest name on its way.</summary>
    public const int MostDepth = 80, MostName = 600;

    /// <inheritdoc/>
    protected override Extents Reach => new(0, 0, 0, 0);

    /// <inheritdoc/>
    protected override bool HasSize => true;

    /// <inheritdoc/>
    public override bool Fits(Place place, Frame frame) =>
        place is OnScene && frame is SceneFrame && Component >= 0 && Face >= 0 && IsFinite(At) && IsFinite(Normal)
        && !Path.IsDefaultOrEmpty && Path.Length <= MostDepth && Path.All(n => n is { Length: <= MostName })
        && Eye is not null && Eye.IsSound();

    /// <inheritdoc/>
    /// <param name="detail">Is not asked: what is drawn of a pin is its number.</param>
    public override Outline Outline(double detail) => new([], OutlineFill.None, default, default);

    /// <summary>What people call its place: the component it stands on.</summary>
    public string Words() => Short(Path[^1]);

    /// <summary>A name as far as a line has room for it.</summary>
    internal static string Short(string name) => name.Length > 80 ? string.Concat(name.AsSpan(0, 79), "…") : name;

    /// <inheritdoc/>
    public bool Equals(Pin? other) =>
        other is not null && (Component, Face, At, Normal) == (other.Component, other.Face, other.At, other.Normal) && Eye == other.Eye && Path.AsSpan().SequenceEqual(other.Path.AsSpan());

    /// <inheritdoc/>
    public override int GetHashCode() => HashCode.Combine(Component, Face, At, Normal);

    private static bool IsFinite(Point3 p) => double.IsFinite(p.X + p.Y + p.Z);
}

/// <summary>An eye on a model.</summary>
/// <param name="Target">What it looks at, in the model's coordinates.</param>
/// <param name="Turn">Round the upright axis from the front to the right, in radians.</param>
/// <param name="Tilt">From level upwards, in radians.</param>
/// <param name="Height">How much of the model the window's height shows at the target, in the model's unit.</param>
/// <param name="IsPerspective">Whether what is farther away is smaller.</param>
/// <param name="Hidden">Components that are left out.</param>
/// <param name="Sections">Planes that cut the model; null for none.</param>
public sealed record PinEye(
    [property: JsonRequired] Point3 Target, [property: JsonRequired] double Turn, [property: JsonRequired] double Tilt, [property: JsonRequired] double Height, [property: JsonRequired] bool IsPerspective,
    [property: JsonRequired] ImmutableArray<int> Hidden, [property: JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] IReadOnlyList<Section>? Sections = null)
{
    /// <summary>Most components that it leaves out, and planes that cut.</summary>
    public const int MostHidden = 20_000, MostSections = 12;

    /// <summary>From where it looks.</summary>
    public SceneEye From() => new(Target, Turn, Tilt, Height, IsPerspective);

    /// <summary>Whether it can look at anything.</summary>
    public bool IsSound() =>
        Hidden is { IsDefault: false, Length: <= MostHidden } && Hidden.All(c => c >= 0) && Height > 0 && double.IsFinite(Height + Turn + Tilt + Target.X + Target.Y + Target.Z)
        && (Sections is null || (Sections.Count <= MostSections && Sections.All(s => s is not null && s.IsSound())));

    /// <inheritdoc/>
    public bool Equals(PinEye? other) =>
        other is not null && (Target, Turn, Tilt, Height, IsPerspective) == (other.Target, other.Turn, other.Tilt, other.Height, other.IsPerspective) && Hidden.AsSpan().SequenceEqual(other.Hidden.AsSpan())
        && (Sections ?? []).SequenceEqual(other.Sections ?? []);

    /// <inheritdoc/>
    public override int GetHashCode() => HashCode.Combine(Target, Turn, Tilt, Height, IsPerspective);
}
