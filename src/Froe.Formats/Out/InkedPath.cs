using System.Collections.Immutable;
using Froe.Core.Drawing;
using Froe.Core.Exchange;
using Froe.Core.Overlays;
using Froe.Formats.Pictures;
using SkiaSharp;

namespace Froe.Formats.Out;

/// <summary>A path of a markup's picture, in the sheet's units from a corner of it, y up.</summary>
/// <param name="Path">The path; whoever has it disposes of it.</param>
/// <param name="Rgb">Its ink, 0xRRGGBB.</param>
/// <param name="Width">Of its line, in the sheet's units; 0 where it is filled.</param>
/// <param name="Opacity">0 to 1.</param>
/// <param name="Dashes">A dash and the gap behind it, in the sheet's units; null for a line without a break.</param>
/// <param name="Multiplies">Whether what lies beneath shows through as beneath a transparent pen.</param>
internal sealed record InkedPath(SKPath Path, int Rgb, double Width, double Opacity, (double On, double Off)? Dashes = null, bool Multiplies = false) : IDisposable
{
    /// <summary>How dark what a closed line encloses is, what is inked over, and what is settled.</summary>
    private const double Tint = 0.06, Inked = 0.28, Faint = 0.45;

    /// <summary>The thinnest line of a markup as a share of its small parts.</summary>
    private const double LineShare = 0.16;

    private const int Paper = 0xFFFFFF;

    /// <summary>How a markup is drawn, lowest first; letters are shapes, so that every reader shows every script.</summary>
    /// <param name="drawn">The markup.</param>
    /// <param name="detail">How long small parts are, in the sheet's units.</param>
    /// <param name="from">What its points count from: far from a sheet's origin paths, which are kept in 32 bits, would lose their last digits.</param>
    public static IEnumerable<InkedPath> Of(DrawnAnnotation drawn, double detail, PointXY from)
    {
        if (drawn.Outline is not { } absolute) yield break;
        var outline = absolute.From(from);
        var (rgb, shade) = (drawn.Annotation.Rgb, drawn.IsFaint ? Faint : 1);
        if (outline.Lines.Length > 0)
        {
            var (isInked, width) = (outline.Fill == OutlineFill.Highlight, detail * LineShare * drawn.Look.Breadth());
            if (isInked || (outline.Fill == OutlineFill.Tint && drawn.Look.IsTinted)) yield return new InkedPath(Lines(outline.Lines), rgb, 0, (isInked ? Inked : Tint) * shade, Multiplies: isInked);
            if (!isInked) yield return new InkedPath(Lines(outline.Lines), rgb, width, shade, DashesOf(drawn, detail, width));
        }
        if (outline.Words is { } words) yield return new InkedPath(Written(words), rgb, 0, shade);
        if (drawn.Value.Length > 0)
        {
            var height = detail * 1.1;
            yield return new InkedPath(Letters(drawn.Value, new(outline.Anchor.X, outline.Anchor.Y + (height * 0.5)), height, 0.5), rgb, 0, shade);
        }
        if (drawn.Badge.Length == 0) yield break;
        var (size, at) = (detail * 0.9, outline.Label);
        var room = Math.Max(size * 1.8, (Lettering.Width(drawn.Badge) + 1) * size);
        var plate = new SKPath();
        plate.AddRect(new SKRect((float)(at.X - (room / 2)), (float)(at.Y - (size * 0.2)), (float)(at.X + (room / 2)), (float)(at.Y + (size * 1.7))));
        yield return new InkedPath(plate, rgb, 0, shade);
        yield return new InkedPath(Letters(drawn.Badge, new(at.X, at.Y + (size * 0.25)), size, 0.5), Paper, 0, 1);
    }

    /// <summary>As on the screen: what was carried is dashed, a dotted pen's dots are round.</summary>
    private static (double On, double Off)? DashesOf(DrawnAnnotation drawn, double detail, double width) =>
        drawn.IsCarried ? (detail * 0.45, detail * 0.27) : drawn.Look.Line == PenLine.Dotted ? (width * 0.05, width * 2.3) : null;

    /// <inheritdoc/>
    public void Dispose() => Path.Dispose();

    private static SKPath Lines(ImmutableArray<ImmutableArray<PointXY>> lines)
    {
        var path = new SKPath();
        foreach (var line in lines)
        {
            var points = line.Select(p => new SKPoint((float)p.X, (float)p.Y)).ToArray();
            path.AddPoly(points, close: points.Length > 2 && points[0] == points[^1]);
        }
        return path;
    }

    private static SKPath Written(OutlineWords words)
    {
        var path = new SKPath();
        var baseline = words.At.Y - ((OutlineWords.Leading + 1) / 2 * words.Height);
        foreach (var line in words.Text.Split('\n'))
        {
            using var letters = Letters(line, new(words.At.X, baseline), words.Height, words.EndsThere ? 1 : 0);
            path.AddPath(letters);
            baseline -= OutlineWords.Leading * words.Height;
        }
        return path;
    }

    /// <summary>A line of words as shapes.</summary>
    /// <param name="at">On its baseline.</param>
    /// <param name="height">Of its capitals.</param>
    /// <param name="anchor">The share of it that lies left of the point.</param>
    private static SKPath Letters(string words, PointXY at, double height, double anchor)
    {
        using var font = new SKFont(SheetPicture.Face, 100) { Subpixel = true };
        var path = new SKPath();
        var pieces = SheetPicture.Pieces(words, font);
        var x = -pieces.Sum(p => p.Width) * (float)anchor;
        foreach (var (piece, shown, width) in pieces)
        {
            using var letters = shown.GetTextPath(piece, new SKPoint(x, 0));
            path.AddPath(letters);
            x += width;
        }
        var scale = (float)(height / (100 * Lettering.CapHeight));
        path.Transform(new SKMatrix(scale, 0, (float)at.X, 0, -scale, (float)at.Y, 0, 0, 1));
        return path;
    }
}
