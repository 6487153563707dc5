using System.Collections.Immutable;
using Froe.Core.Drawing;

namespace Froe.Core.Exchange;

/// <summary>Kinds of annotations that markups become and come from (ISO 32000-2, table 171).</summary>
public enum AnnotationKind
{
    /// <summary>Words at a point; what answers another annotation is one too.</summary>
    Text,

    /// <summary>Words on the page, with a line to what they speak of or without.</summary>
    FreeText,

    /// <summary>A straight line.</summary>
    Line,

    /// <summary>A rectangle.</summary>
    Square,

    /// <summary>An ellipse.</summary>
    Circle,

    /// <summary>Closed, through points.</summary>
    Polygon,

    /// <summary>Open, through points.</summary>
    PolyLine,

    /// <summary>Inked over.</summary>
    Highlight,

    /// <summary>Struck through.</summary>
    StrikeOut,

    /// <summary>Drawn freehand.</summary>
    Ink,

    /// <summary>A stamp.</summary>
    Stamp,
}

/// <summary>An annotation, apart from the format it is written in: PDF (ISO 32000-2, 12.5) and XFDF (ISO 19444-1) say the same of one.</summary>
/// <param name="Id">Its name (NM): of what Froe sends out the markup's id, the note's, or that of a reply.</param>
/// <param name="Kind">What it is.</param>
/// <param name="Points">
/// Its rows of points: a line's ends, a polygon's corners, each stroke of ink, the four corners of each text box that is inked or struck through
/// (upper left, upper right, lower left, lower right), two opposite corners of a rectangle or an ellipse, the line that leads words to what they speak of.
/// </param>
/// <param name="Rect">What it covers; of words the room they stand in.</param>
/// <param name="Author">Whoever made it, as the file has the name.</param>
/// <param name="At">When it was changed last; null where the file does not say.</param>
/// <param name="Contents">What it says.</param>
public sealed record Annotation(string Id, AnnotationKind Kind, ImmutableArray<ImmutableArray<PointXY>> Points, Extents Rect, string Author, DateTimeOffset? At, string Contents)
{
    /// <summary>Whether its border is a revision cloud (BE, style C).</summary>
    public bool IsCloudy { get; init; }

    /// <summary>Whether a line ends in an arrow.</summary>
    public bool HasArrow { get; init; }

    /// <summary>What it is meant for (IT), such as “LineDimension”; empty for nothing in particular.</summary>
    public string Intent { get; init; } = "";

    /// <summary>How far a dimension's line lies beside its ends (LL): to the right of the way from one to the other.</summary>
    public double LeaderLength { get; init; }

    /// <summary>The height of capital letters.</summary>
    public double LetterHeight { get; init; }

    /// <summary>The annotation that it answers (IRT); null for none.</summary>
    public string? ReplyTo { get; init; }

    /// <summary>The state that it gives what it answers, of the model “Review”; null for none.</summary>
    public string? State { get; init; }

    /// <summary>What it is about, in a few words (Subj).</summary>
    public string Subject { get; init; } = "";

    /// <summary>Its ink, 0xRRGGBB.</summary>
    public int Rgb { get; init; }

    /// <summary>The same elsewhere: from the sheet's coordinates into the page's, or back.</summary>
    /// <param name="map">Moves, turns by quarters and scales alike in all directions.</param>
    /// <param name="scale">How much larger things become.</param>
    public Annotation Mapped(Func<PointXY, PointXY> map, double scale)
    {
        ArgumentNullException.ThrowIfNull(map);
        PointXY a = map(new(Rect.MinX, Rect.MinY)), b = map(new(Rect.MaxX, Rect.MaxY));
        return this with
        {
            Points = [.. Points.Select(row => row.Select(map).ToImmutableArray())],
            Rect = new Extents(a.X, a.Y, a.X, a.Y).With(b.X, b.Y),
            LeaderLength = LeaderLength * scale,
            LetterHeight = LetterHeight * scale,
        };
    }
}
