namespace Froe.Core.Draft;

/// <summary>What a reader saw in a file: shown to whoever uploads it, and kept with the draft.</summary>
/// <param name="Format">The format, such as “DXF”.</param>
/// <param name="Version">The format's version as the file states it, in words.</param>
/// <param name="Encoding">How its text is encoded.</param>
/// <param name="Bytes">How long the file is.</param>
/// <param name="Seconds">How long reading took.</param>
/// <param name="Leaves">What is on each leaf.</param>
/// <param name="Layers">Names and looks of the layers.</param>
/// <param name="Entities">How many entities of each type the file holds, blocks counted once, most first.</param>
/// <param name="NotShown">What could not be shown, and why.</param>
public sealed record ReaderReport(
    string Format, string Version, string Encoding, long Bytes, double Seconds, IReadOnlyList<LeafReport> Leaves,
    IReadOnlyList<LayerReport> Layers, IReadOnlyDictionary<string, int> Entities, IReadOnlyList<NotShown> NotShown)
{
    /// <summary>What is shown in pictures only: nothing of it can be snapped to, measured or compared.</summary>
    public IReadOnlyList<NotShown> PictureOnly { get; init; } = [];

    /// <summary>The other files that it consists of.</summary>
    public IReadOnlyList<FileBeside> Beside { get; init; } = [];

    /// <summary>What the title block of its first sheet says; null where there is none that can be told.</summary>
    public TitleBlock? TitleBlock { get; init; }
}

/// <summary>Another file that a file consists of.</summary>
/// <param name="IsThere">Whether it was there when the file was read; what is in it is missing otherwise.</param>
public sealed record FileBeside(string Name, bool IsThere);

/// <summary>What is on a leaf.</summary>
/// <param name="Unit">The unit of its coordinates.</param>
/// <param name="Extents">Least x, least y, greatest x, greatest y.</param>
/// <param name="Tolerance">The farthest any chord lies from its curve, in that unit.</param>
public sealed record LeafReport(string Name, string Unit, IReadOnlyList<double> Extents, double Tolerance, int Entities, int Strokes, int Triangles, int Texts);

/// <summary>A layer.</summary>
/// <param name="Colour">Its own colour as it is drawn on paper, #rrggbb.</param>
public sealed record LayerReport(string Name, bool IsOn, string Colour);

/// <summary>Entities that were read and counted but not drawn.</summary>
public sealed record NotShown(string Type, int Count, string Why);
