namespace Froe.Core.Overlays;

/// <summary>Ink of markups that stand for themselves; those of a note have the ink of its kind.</summary>
public enum Ink
{
    /// <summary>What is drawn unless something else was chosen.</summary>
    Spruce,

    /// <summary>A green.</summary>
    Moss,

    /// <summary>A violet red.</summary>
    Plum,

    /// <summary>Nearly black.</summary>
    Graphite,

    /// <summary>A brown yellow.</summary>
    Ochre,
}

/// <summary>How a pen's line runs. A dashed one is left to what was carried from an earlier draft.</summary>
public enum PenLine
{
    /// <summary>Without a break.</summary>
    Solid,

    /// <summary>By dots.</summary>
    Dotted,
}

/// <summary>How broad a pen's line is: as broad at every zoom, and on paper.</summary>
public enum PenWidth
{
    /// <summary>Two thirds of the usual.</summary>
    Fine,

    /// <summary>The usual.</summary>
    Medium,

    /// <summary>Seven fourths of the usual.</summary>
    Bold,
}

/// <summary>How high letters are when they are written.</summary>
public enum LetterSize
{
    /// <summary>To be read from near.</summary>
    Small,

    /// <summary>The usual.</summary>
    Medium,

    /// <summary>To be read from afar.</summary>
    Large,
}

/// <summary>How what lies on an overlay is drawn.</summary>
/// <param name="IsTinted">Whether what a closed line encloses is tinted.</param>
public sealed record OverlayLook(Ink Ink, PenLine Line, PenWidth Width, bool IsTinted, LetterSize Letters)
{
    /// <summary>The usual look.</summary>
    public static OverlayLook Usual { get; } = new(Ink.Spruce, PenLine.Solid, PenWidth.Medium, true, LetterSize.Medium);

    /// <summary>How broad its line is, against the usual.</summary>
    public double Breadth() => Width switch { PenWidth.Fine => 0.65, PenWidth.Bold => 1.75, _ => 1 };
}
