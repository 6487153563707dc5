using System.Collections.Immutable;
using System.Globalization;
using Froe.Core.Drawing;
using Froe.Core.Overlays;
using Froe.Core.Review;

namespace Froe.Core.Exchange;

/// <summary>An annotation with how it is drawn, both in the sheet's coordinates.</summary>
/// <param name="Outline">Null for what is not drawn: replies and states.</param>
/// <param name="Badge">What stands at its corner: the number of its note; empty for nothing.</param>
/// <param name="Value">What stands at the point it is about, such as a measured length; empty for nothing.</param>
/// <param name="IsFaint">Whether its note is settled.</param>
/// <param name="IsCarried">Whether it was drawn on an earlier draft.</param>
public sealed record DrawnAnnotation(Annotation Annotation, Outline? Outline, string Badge = "", string Value = "", bool IsFaint = false, bool IsCarried = false)
{
    /// <summary>How its lines are drawn; its ink is the annotation's.</summary>
    public OverlayLook Look { get; init; } = OverlayLook.Usual;
}

/// <summary>Markups as annotations, and annotations as shapes (ISO 32000-2, 12.5.6). The one is the other's inverse where the standard knows the shape.</summary>
public static class Annotations
{
    /// <summary>Inks: of a request, a question and a remark, and those of what stands for itself.</summary>
    public const int Rust = 0xA5441F, Iris = 0x5A4AA0, Slate = 0x446482, Spruce = 0x17645C, Moss = 0x47601A, Plum = 0x7A2E63, Graphite = 0x33383C, Ochre = 0x805800;

    /// <summary>How thick the pen is that strikes through, in small parts: what is struck through is as high.</summary>
    private const double StrikeHeight = 1;

    /// <summary>Everything on a sheet.</summary>
    /// <param name="leaf">The sheet.</param>
    /// <param name="told">Notes whose words stand at an earlier place of theirs; those of this sheet are added.</param>
    /// <param name="detail">How long small parts are, in the sheet's units.</param>
    public static IReadOnlyList<DrawnAnnotation> On(MarkedLeaf leaf, ISet<Guid> told, double detail)
    {
        ArgumentNullException.ThrowIfNull(leaf);
        ArgumentNullException.ThrowIfNull(told);
        var all = new List<DrawnAnnotation>();
        foreach (var mark in leaf.Marks)
        {
            var outline = mark.Shape.Outline(detail);
            var note = mark.Note;
            var author = note?.Author ?? mark.Author;
            var words = note is not null ? note.Body : WordsOf(mark.Shape, mark.Value);
            var made = Of(mark.Shape, mark.Id.ToString(), author, note?.At ?? mark.At, words, detail) with
            {
                Rgb = note is null ? InkOf(mark.Look.Ink, mark.Shape) : InkOf(note.Kind),
                Subject = note is null ? mark.Overlay : Heading(note),
            };
            all.Add(new DrawnAnnotation(made, outline, note is null ? "" : Said(note.Number), mark.Value ?? "", note?.Standing == NoteStanding.Closed, mark.IsCarried) { Look = mark.Look });
            if (note is not null && told.Add(note.Id)) all.AddRange(Replies(note, made.Id, made.Rect));
        }
        var at = leaf.Leaf.Frame is Draft.SheetFrame frame ? frame.Extents : default;
        foreach (var note in leaf.Loose.Where(n => told.Add(n.Id)))
        {
            // What is about the whole stands in the sheet's upper left corner, one beside the other.
            var x = at.MinX + (detail * (1 + (4 * all.Count(a => a.Annotation.Kind == AnnotationKind.Text && a.Annotation.ReplyTo is null))));
            var rect = new Extents(x, at.MaxY - (4 * detail), x + (3 * detail), at.MaxY - detail);
            var made = new Annotation(note.Id.ToString(), AnnotationKind.Text, [], rect, note.Author, note.At, note.Body) { Rgb = InkOf(note.Kind), Subject = Heading(note) };
            PointXY[] round = [new(rect.MinX, rect.MaxY), new(rect.MaxX, rect.MaxY), new(rect.MaxX, rect.MinY), new(rect.MinX, rect.MinY), new(rect.MinX, rect.MaxY)];
            all.Add(new DrawnAnnotation(made, new Outline([[.. round]], OutlineFill.Tint, round[1], new((rect.MinX + rect.MaxX) / 2, (rect.MinY + rect.MaxY) / 2)), Said(note.Number), "", note.Standing == NoteStanding.Closed));
            all.AddRange(Replies(note, made.Id, rect));
        }
        return all;
    }

    /// <summary>A shape as an annotation, in the sheet's coordinates.</summary>
    /// <param name="detail">How long its small parts are, in the sheet's units.</param>
    public static Annotation Of(Shape shape, string id, string author, DateTimeOffset? at, string contents, double detail)
    {
        ArgumentNullException.ThrowIfNull(shape);
        Annotation With(AnnotationKind kind, params ImmutableArray<PointXY>[] rows) => new(id, kind, [.. rows], Covered(rows), author, at, contents);
        return shape switch
        {
            Cloud s => With(AnnotationKind.Square, [s.From, s.To]) with { IsCloudy = true },
            CloudPath s => With(AnnotationKind.Polygon, s.Points) with { IsCloudy = true, Intent = "PolygonCloud" },
            PastedPicture s => With(AnnotationKind.Stamp, [s.From, s.To]),
            Box s => With(AnnotationKind.Square, [s.From, s.To]),
            Ellipse s => With(AnnotationKind.Circle, [s.From, s.To]),
            Highlight s => With(AnnotationKind.Highlight, Quad(s.From, s.To)),
            Strike s => With(AnnotationKind.StrikeOut, Along(s.From, s.To, StrikeHeight * detail / 2)),
            Arrow s => With(AnnotationKind.Line, [s.From, s.To]) with { HasArrow = true, Intent = "LineArrow" },
            Line s => With(AnnotationKind.Line, [s.From, s.To]),
            Dimension s => With(AnnotationKind.Line, [s.From, s.To]) with { Intent = "LineDimension", LeaderLength = -s.Offset, LetterHeight = s.Height },
            Radius s => With(AnnotationKind.Line, [s.From, s.To]) with { HasArrow = true, Intent = "LineDimension", LetterHeight = s.Height },
            Angle s => With(AnnotationKind.PolyLine, [s.From, s.Apex, s.To]) with { Intent = "PolyLineDimension", LetterHeight = s.Height },
            Area s => With(AnnotationKind.Polygon, s.Points) with { Intent = "PolygonDimension", LetterHeight = s.Height },
            PathLength s => With(AnnotationKind.PolyLine, s.Points) with { Intent = "PolyLineDimension", LetterHeight = s.Height },
            Coordinate s => With(AnnotationKind.Circle) with { Rect = Covered(s.Outline(detail).Lines), LetterHeight = s.Height },
            Polyline s => With(AnnotationKind.PolyLine, s.Points),
            Freehand s => With(AnnotationKind.Ink, s.Points),
            Leader s => With(AnnotationKind.FreeText, [s.To, s.From]) with { Rect = s.Outline(detail).Words!.Room, Intent = "FreeTextCallout", LetterHeight = s.Height },
            Stamp s => With(AnnotationKind.Stamp) with { Rect = Covered(s.Outline(detail).Lines), LetterHeight = s.Height },
            Count s => With(AnnotationKind.Circle) with { Rect = Covered(s.Outline(detail).Lines), LetterHeight = s.Height },
            WrittenWords s => With(AnnotationKind.FreeText) with { Rect = RoomOf(s, s.Outline(detail).Words!.Room), Intent = "FreeTextTypeWriter", LetterHeight = s.Height },
            _ => throw new ArgumentException($"A {shape.GetType().Name} lies on no sheet.", nameof(shape)),
        };
    }

    /// <summary>The shapes that an annotation is, in the sheet's coordinates; none for what has no place or cannot be drawn.</summary>
    /// <param name="annotation">The annotation.</param>
    /// <param name="letters">How high capitals are where the file does not say, in the sheet's units.</param>
    public static IReadOnlyList<Shape> Shapes(Annotation annotation, double letters)
    {
        ArgumentNullException.ThrowIfNull(annotation);
        var (rows, height) = (annotation.Points, annotation.LetterHeight > 0 ? annotation.LetterHeight : letters);
        var first = rows.IsDefaultOrEmpty ? [] : rows[0];
        PointXY[] corners = first.Length >= 2 ? [first[0], first[1]] : [new(annotation.Rect.MinX, annotation.Rect.MaxY), new(annotation.Rect.MaxX, annotation.Rect.MinY)];
        if (annotation.ReplyTo is not null) return [];
        switch (annotation.Kind)
        {
            case AnnotationKind.Square: return annotation.IsCloudy ? [new Cloud(corners[0], corners[1])] : [new Box(corners[0], corners[1])];
            case AnnotationKind.Stamp when Written(annotation.Contents) is { } text:
                // Its letters are as high as its frame and its lines say.
                var lines = text.Count(c => c == '\n') + 1;
                return [new Stamp(new(annotation.Rect.MinX, annotation.Rect.MaxY), text, annotation.Rect.Height / Stamp.HeightOf(lines))];
            case AnnotationKind.Text or AnnotationKind.Stamp: return [new Box(corners[0], corners[1])];
            case AnnotationKind.Circle: return [new Ellipse(corners[0], corners[1])];
            case AnnotationKind.Line when first.Length >= 2:
                return annotation.Intent == "LineDimension" && !annotation.HasArrow ? [new Dimension(first[0], first[1], -annotation.LeaderLength, null, "", height)]
                    : annotation.HasArrow ? [new Arrow(first[0], first[1])] : [new Line(first[0], first[1])];
            case AnnotationKind.Polygon when first.Length >= 3:
                return annotation.IsCloudy ? [new CloudPath(Thinned(first))] : annotation.Intent == "PolygonDimension" ? [new Area(Thinned(first), null, height)]
                    : [new Polyline([.. Thinned(first, PointPath.Most - 1), first[0]])];
            case AnnotationKind.PolyLine when first.Length >= 2: return [new Polyline(Thinned(first))];
            case AnnotationKind.Ink: return [.. rows.Where(r => r.Length >= 2).Select(r => new Freehand(Thinned(r)))];
            case AnnotationKind.Highlight: return [.. rows.Where(r => r.Length >= 4).Select(r => new Highlight(r[0], r[3]))];
            case AnnotationKind.StrikeOut: return [.. rows.Where(r => r.Length >= 4).Select(r => new Strike(Between(r[0], r[2]), Between(r[1], r[3])))];
            case AnnotationKind.FreeText when Written(annotation.Contents) is { } words:
                return first.Length >= 2 ? [new Leader(first[^1], first[0], words, height)] : [new WrittenWords(corners[0], words, height, BrokenAt(annotation.Rect, words, height))];
            default: return [];
        }
    }

    /// <summary>What a note's acts are as annotations that answer its first place: those with words, and the state it is in.</summary>
    private static IEnumerable<DrawnAnnotation> Replies(SentNote note, string to, Extents rect)
    {
        foreach (var reply in note.Replies)
            yield return new DrawnAnnotation(new Annotation(ReplyId(note.Id, reply.Sequence), AnnotationKind.Text, [], rect, reply.Author, reply.At, reply.Words.Length > 0 ? reply.Words : reply.Act) { ReplyTo = to, Subject = reply.Act, Rgb = InkOf(note.Kind) }, null);
        if (StateOf(note) is { } state && note.Replies.Count > 0)
            yield return new DrawnAnnotation(new Annotation($"{note.Id}:state", AnnotationKind.Text, [], rect, note.Replies[^1].Author, note.Replies[^1].At, $"{state} by {note.Replies[^1].Author}") { ReplyTo = to, State = state, Rgb = InkOf(note.Kind) }, null);
    }

    /// <summary>What an act on a note is called outside: it does not come back as another's reply.</summary>
    public static string ReplyId(Guid note, int sequence) => $"{note}:{Said(sequence)}";

    /// <summary>Where a note stands, in the words of the standard's model “Review” (table 174).</summary>
    private static string? StateOf(SentNote note) => note.Standing switch
    {
        NoteStanding.Closed => "Accepted",
        NoteStanding.Answered => NoteRules.ChangesNothing(note.Answer) ? "Rejected" : "Completed",
        NoteStanding.Withdrawn or NoteStanding.CarriedOver => "Cancelled",
        _ => null,
    };

    private static string Heading(SentNote note) => $"{char.ToUpperInvariant(note.Kind.ToString()[0])}{note.Kind.ToString()[1..]} {Said(note.Number)}";

    private static string WordsOf(Shape shape, string? value) => shape switch
    {
        WrittenWords w => w.Text,
        Leader l => l.Text,
        Stamp s => s.Text,
        Count c => Said(c.Number),
        _ => value ?? "",
    };

    /// <summary>What words cover that are broken at a width: all of it, though their last letters may not reach so far.</summary>
    private static Extents RoomOf(WrittenWords words, Extents room) => words.Width is { } width ? room.With(words.At.X + width, room.MinY) : room;

    /// <summary>Where the lines of words are broken that stand in a rectangle: nowhere, where they have room in it.</summary>
    private static double? BrokenAt(Extents rect, string words, double height) =>
        rect.Width >= height && new OutlineWords(default, words, height).Room.Width > rect.Width * 1.0001 ? rect.Width : null;

    private static int InkOf(NoteKind kind) => kind switch { NoteKind.Request => Rust, NoteKind.Question => Iris, _ => Slate };

    /// <summary>A highlight is no fault, and looks like none.</summary>
    private static int InkOf(Ink ink, Shape shape) => ink switch
    {
        Ink.Moss => Moss,
        Ink.Plum => Plum,
        Ink.Graphite => Graphite,
        Ink.Ochre => Ochre,
        _ => shape is Highlight ? Ochre : Spruce,
    };

    private static string Said(int number) => number.ToString(CultureInfo.InvariantCulture);

    private static string? Written(string contents) => string.IsNullOrWhiteSpace(contents) ? null : contents.Length <= WrittenWords.Longest ? contents : contents[..(WrittenWords.Longest - 1)] + "…";

    private static Extents Covered(IEnumerable<ImmutableArray<PointXY>> rows) => rows.SelectMany(r => r).Aggregate(Extents.Empty, (box, p) => box.With(p.X, p.Y));

    private static ImmutableArray<PointXY> Quad(PointXY from, PointXY to) =>
        [new(Math.Min(from.X, to.X), Math.Max(from.Y, to.Y)), new(Math.Max(from.X, to.X), Math.Max(from.Y, to.Y)), new(Math.Min(from.X, to.X), Math.Min(from.Y, to.Y)), new(Math.Max(from.X, to.X), Math.Min(from.Y, to.Y))];

    private static ImmutableArray<PointXY> Along(PointXY from, PointXY to, double half)
    {
        double dx = to.X - from.X, dy = to.Y - from.Y, length = Math.Sqrt((dx * dx) + (dy * dy)), nx = -dy / length * half, ny = dx / length * half;
        return [new(from.X + nx, from.Y + ny), new(to.X + nx, to.Y + ny), new(from.X - nx, from.Y - ny), new(to.X - nx, to.Y - ny)];
    }

    private static PointXY Between(PointXY a, PointXY b) => new((a.X + b.X) / 2, (a.Y + b.Y) / 2);

    /// <summary>No more points than a path may have, evenly left out; the last one stays.</summary>
    private static ImmutableArray<PointXY> Thinned(ImmutableArray<PointXY> points, int most = PointPath.Most) =>
        points.Length <= most ? points : [.. Enumerable.Range(0, most).Select(i => points[(int)((long)i * (points.Length - 1) / (most - 1))])];
}
