using System.Text.Json.Serialization;
using Froe.Core.Drawing;

namespace Froe.Core.Overlays;

/// <summary>Words on the sheet.</summary>
/// <param name="At">Their upper left corner.</param>
/// <param name="Height">The height of their letters, in the sheet's units.</param>
/// <param name="Width">Lines are broken where they would be broader, in the sheet's units; null breaks them nowhere but where they were broken by hand.</param>
public sealed record WrittenWords(PointXY At, string Text, double Height, [property: JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] double? Width = null) : Shape
{
    /// <summary>Longest text, in characters.</summary>
    public const int Longest = 500;

    /// <inheritdoc/>
    protected override Extents Reach => Extents.Empty.With(At.X, At.Y);

    /// <inheritdoc/>
    protected override bool HasSize => Are(Text, Height) && (Width is not { } width || (width > 0 && double.IsFinite(width)));

    /// <inheritdoc/>
    /// <param name="detail">Is not asked: letters are as high as they are.</param>
    public override Outline Outline(double detail) => new([], OutlineFill.None, At, At, new(At, Width is { } width ? OutlineWords.Broken(Text, width / Height) : Text, Height));

    /// <summary>Whether these can be written: there is something to be read, of a size to be read.</summary>
    public static bool Are(string text, double height) => !string.IsNullOrWhiteSpace(text) && text.Length <= Longest && height > 0 && double.IsFinite(height);
}
