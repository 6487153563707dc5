namespace Froe.Core.Drawing;

/// <summary>A picture that lies on a sheet and is a file of its own: to be seen where that file is at hand.</summary>
/// <param name="File">The file's name, without folders.</param>
/// <param name="At">Where its lower left corner lies, in sheet coordinates.</param>
/// <param name="Along">From there to its lower right corner.</param>
/// <param name="Up">From there to its upper left corner.</param>
/// <param name="Layer">Index of the layer that shows and hides it.</param>
/// <param name="Clip">Outline of what is shown of it, as shares of its width from the left and of its height from the top; null for all of it.</param>
/// <param name="Window">What it is cut to in sheet coordinates besides, where a view shows it; null elsewhere.</param>
public sealed record PlacedPicture(string File, PointXY At, PointXY Along, PointXY Up, int Layer, IReadOnlyList<PointXY>? Clip = null, Extents? Window = null)
{
    /// <summary>Most pictures of a sheet.</summary>
    public const int Most = 200;

    /// <summary>Most corners of an outline.</summary>
    public const int MostCorners = 500;
}
