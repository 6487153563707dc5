using System.Text.RegularExpressions;
using Froe.Core.Models;

namespace Froe.Core.Overlays;

/// <summary>A view of a model as somebody keeps it, to come back to.</summary>
/// <param name="Eye">From where, with what is left out and what cuts.</param>
/// <param name="Ghost">Components that are seen as a ghost.</param>
/// <param name="Painted">Colours that somebody gave.</param>
/// <param name="Apart">How far it is taken apart, 0 to 1 and beyond.</param>
/// <param name="Sections">Every section that was set, by name, whether it cuts or not.</param>
/// <param name="IsVeiled">Whether what sections take away is seen as a ghost.</param>
public sealed partial record KeptView(
    PinEye Eye, IReadOnlyList<int> Ghost, IReadOnlyList<PaintedComponent> Painted, double Apart, IReadOnlyList<NamedSection> Sections, bool IsVeiled)
{
    /// <summary>Farthest that a model is taken apart, and the longest name of a section.</summary>
    public const int Farthest = 4, MostName = 40;

    /// <summary>Most sections: one's own, and those of the notes that were gone to since, which do not cut.</summary>
    public const int MostSections = 60;

    /// <summary>Whether it can be shown.</summary>
    public bool IsSound() =>
        Eye is not null && Eye.IsSound() && Ghost is { Count: <= PinEye.MostHidden } && Ghost.All(c => c >= 0)
        && Painted is { Count: <= PinEye.MostHidden } && Painted.All(p => p is { Component: >= 0, Colour: not null } && Colour().IsMatch(p.Colour))
        && Apart is >= 0 and <= Farthest && Sections is { Count: <= MostSections } && Sections.All(s => s is { Name: { Length: <= MostName }, Plane: not null } && s.Plane.IsSound());

    [GeneratedRegex("^#[0-9a-f]{6}$")]
    private static partial Regex Colour();
}

/// <summary>A colour that somebody gave a component, #rrggbb.</summary>
public sealed record PaintedComponent(int Component, string Colour);

/// <summary>A section by its name.</summary>
/// <param name="IsOn">Whether it cuts.</param>
public sealed record NamedSection(string Name, Section Plane, bool IsOn);
