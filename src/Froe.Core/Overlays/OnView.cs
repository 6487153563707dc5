using System.Text.Json.Serialization;
using Froe.Core.Draft;
using Froe.Core.Drawing;

namespace Froe.Core.Overlays;

/// <summary>Something drawn on a view of a model, and kept with that view.</summary>
/// <param name="Eye">The view.</param>
/// <param name="Drawn">What was drawn, in the model's unit on the plane through what the eye looks at and square to its look: x to the eye's right, y up, from there.</param>
public sealed record OnView([property: JsonRequired] PinEye Eye, [property: JsonRequired] Shape Drawn) : Shape
{
    /// <summary>How much wider than high a window may be.</summary>
    private const double Widest = 4;

    /// <inheritdoc/>
    protected override Extents Reach => new(0, 0, 0, 0);

    /// <inheritdoc/>
    protected override bool HasSize => true;

    /// <inheritdoc/>
    public override bool Fits(Place place, Frame frame) =>
        place is OnScene && frame is SceneFrame && Eye is not null && Eye.IsSound()
        // What measures goes by the scale of a sheet, and a view has none: a model is measured by its faces and edges.
        && Drawn is Cloud or CloudPath or Box or Ellipse or Line or Polyline or Arrow or Leader or Freehand or Highlight or Strike or WrittenWords
        && Drawn.Fits(new Extents(-Eye.Height * Widest / 2, -Eye.Height / 2, Eye.Height * Widest / 2, Eye.Height / 2));

    /// <inheritdoc/>
    public override Outline Outline(double detail) => Drawn.Outline(detail);
}
