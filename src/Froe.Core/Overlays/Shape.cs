using System.Collections.Immutable;
using System.Text.Json.Serialization;
using Froe.Core.Draft;
using Froe.Core.Drawing;

namespace Froe.Core.Overlays;

/// <summary>
/// One shape on an overlay. Points are in what its leaf counts in, on a sheet its own units, y up, so a markup keeps its place at every zoom. A shape says how it is
/// drawn (<see cref="Outline"/>); whatever else is asked of it follows from that, and only its points are written.
/// </summary>
[JsonPolymorphic(TypeDiscriminatorPropertyName = "shape")]
[JsonDerivedType(typeof(Cloud), "cloud")]
[JsonDerivedType(typeof(CloudPath), "cloudPath")]
[JsonDerivedType(typeof(Box), "box")]
[JsonDerivedType(typeof(Ellipse), "ellipse")]
[JsonDerivedType(typeof(Line), "line")]
[JsonDerivedType(typeof(Polyline), "polyline")]
[JsonDerivedType(typeof(Arrow), "arrow")]
[JsonDerivedType(typeof(Leader), "leader")]
[JsonDerivedType(typeof(Freehand), "freehand")]
[JsonDerivedType(typeof(Highlight), "highlight")]
[JsonDerivedType(typeof(Strike), "strike")]
[JsonDerivedType(typeof(WrittenWords), "words")]
[JsonDerivedType(typeof(Stamp), "stamp")]
[JsonDerivedType(typeof(Count), "count")]
[JsonDerivedType(typeof(Dimension), "dimension")]
[JsonDerivedType(typeof(Area), "area")]
[JsonDerivedType(typeof(PathLength), "pathLength")]
[JsonDerivedType(typeof(Coordinate), "coordinate")]
[JsonDerivedType(typeof(Angle), "angle")]
[JsonDerivedType(typeof(Radius), "radius")]
[JsonDerivedType(typeof(PastedPicture), "picture")]
[JsonDerivedType(typeof(CellRange), "cells")]
[JsonDerivedType(typeof(Pin), "pin")]
[JsonDerivedType(typeof(ModelMeasure), "modelMeasure")]
[JsonDerivedType(typeof(OnView), "onView")]
public abstract record Shape
{
    /// <summary>How it is drawn.</summary>
    /// <param name="detail">
    /// How long its small parts are, in the sheet's units: the scallops of a cloud, the wings of an arrow. It is chosen by whoever draws, so that they
    /// are as large at every zoom and on paper.
    /// </param>
    public abstract Outline Outline(double detail);

    /// <summary>The box of the points that make it, without its small parts.</summary>
    protected abstract Extents Reach { get; }

    /// <summary>Whether it has a size.</summary>
    protected abstract bool HasSize { get; }

    /// <summary>Whether it may lie at a place of a leaf: a range of cells on a table, what is told of a model on a model, everything else on a sheet.</summary>
    /// <param name="place">Where it is to lie.</param>
    /// <param name="frame">The frame of the leaf of that place.</param>
    public virtual bool Fits(Place place, Frame frame) => place is OnSheet && frame is SheetFrame sheet && Fits(sheet.Extents);

    /// <summary>
    /// Whether every point is finite and lies on or near the sheet, and the shape has a size. A point may lie outside the sheet by its own
    /// size, no more: notes in the margin are usual, strays are not.
    /// </summary>
    public bool Fits(Extents sheet)
    {
        var margin = Math.Max(sheet.Width, sheet.Height);
        var box = Reach;
        // Comparisons with what is not a number are false.
        return box.MinX >= sheet.MinX - margin && box.MaxX <= sheet.MaxX + margin && box.MinY >= sheet.MinY - margin && box.MaxY <= sheet.MaxY + margin && HasSize;
    }
}

/// <summary>What a closed line encloses.</summary>
public enum OutlineFill
{
    /// <summary>Nothing lies within.</summary>
    None,

    /// <summary>It is tinted, so that what lies beneath is read as before.</summary>
    Tint,

    /// <summary>It is inked as with a broad pale pen, and has no line around it.</summary>
    Highlight,
}

/// <summary>Words as they stand on the sheet, upright, line beneath line.</summary>
/// <param name="At">The upper left corner of the first line; the upper right one when they end there.</param>
/// <param name="Height">The height of their letters, in the sheet's units.</param>
/// <param name="EndsThere">Whether they end at the point rather than begin there.</param>
public sealed record OutlineWords(PointXY At, string Text, double Height, bool EndsThere = false)
{
    /// <summary>From one line to the next, in heights of letters.</summary>
    public const double Leading = 1.6;

    /// <summary>What a letter takes of its line, in heights of letters, on the whole: fonts differ.</summary>
    public const double Advance = 0.78;

    /// <summary>A text with its lines broken where they are too long: between words, or within one that is longer than a line.</summary>
    /// <param name="width">How broad a line may be, in heights of letters; one letter stands on it at least.</param>
    public static string Broken(string text, double width)
    {
        ArgumentNullException.ThrowIfNull(text);
        // What was rounded on its way through a file breaks at the same letter.
        var most = (int)Math.Max(1, Math.Floor(Math.Min((width / Advance) + 1e-3, 1e6)));
        var lines = new List<string>();
        foreach (var line in text.Split('\n'))
        {
            string? now = null;
            foreach (var word in line.Split(' '))
            {
                if (now is not null && now.Length + 1 + word.Length <= most)
                {
                    now = $"{now} {word}";
                    continue;
                }
                if (now is not null) lines.Add(now);
                now = word;
                while (now.Length > most)
                {
                    // A letter of two halves is not parted.
                    var cut = !char.IsHighSurrogate(now[most - 1]) ? most : most > 1 ? most - 1 : 2;
                    if (cut >= now.Length) break;
                    lines.Add(now[..cut]);
                    now = now[cut..];
                }
            }
            lines.Add(now ?? "");
        }
        return string.Join('\n', lines);
    }

    /// <summary>The room they take, near enough to be taken hold of.</summary>
    public Extents Room
    {
        get
        {
            var lines = Text.Split('\n');
            double width = lines.Max(l => l.Length) * Advance * Height, from = EndsThere ? At.X - width : At.X;
            return new(from, At.Y - (lines.Length * Leading * Height), from + width, At.Y);
        }
    }
}

/// <summary>How a shape is drawn, in the sheet's units.</summary>
/// <param name="Lines">Its lines, each a row of points; a closed one ends where it began.</param>
/// <param name="Label">Where the number of its note stands.</param>
/// <param name="Anchor">The point it is about: what a zone reference names.</param>
/// <param name="Words">What is written; null for nothing.</param>
public sealed record Outline(ImmutableArray<ImmutableArray<PointXY>> Lines, OutlineFill Fill, PointXY Label, PointXY Anchor, OutlineWords? Words = null)
{
    /// <summary>The picture that stands within its line (<see cref="PastedPicture"/>); null for none.</summary>
    public string? Picture { get; init; }

    /// <summary>The same with its points counted from another.</summary>
    public Outline From(PointXY origin)
    {
        PointXY Moved(PointXY p) => new(p.X - origin.X, p.Y - origin.Y);
        return this with
        {
            Lines = [.. Lines.Select(l => l.Select(Moved).ToImmutableArray())],
            Label = Moved(Label),
            Anchor = Moved(Anchor),
            Words = Words is null ? null : Words with { At = Moved(Words.At) },
        };
    }
}
