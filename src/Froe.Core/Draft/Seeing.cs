using System.Collections;
using Froe.Core.Drawing;

namespace Froe.Core.Draft;

/// <summary>
/// A sheet divided into square patches, to tell what of it somebody has had before them at a legible size. The first stands at the sheet's
/// upper left corner; they are counted along its rows.
/// </summary>
/// <param name="Columns">Patches side by side.</param>
/// <param name="Rows">Patches one below another.</param>
/// <param name="Needs">Pixels of a screen (CSS, 1/96 inch) in one unit of the sheet from which on what lies in a patch is legible; 0 where nothing lies.</param>
public sealed record PatchGrid(int Columns, int Rows, IReadOnlyList<double> Needs)
{
    /// <summary>How many patches hold something.</summary>
    public int Held => Needs.Count(n => n > 0);
}

/// <summary>A part of a sheet on somebody's screen.</summary>
/// <param name="Area">What of the sheet, in its own coordinates.</param>
/// <param name="Scale">Pixels of the screen (CSS) in one unit of the sheet.</param>
public sealed record SeenView(Extents Area, double Scale);

/// <summary>How much of a draft somebody has seen.</summary>
/// <param name="Held">Patches of its sheets that hold something.</param>
/// <param name="Seen">How many of those they had before them at a legible size.</param>
public readonly record struct SeenShare(int Held, int Seen)
{
    /// <summary>In whole hundredths, rounded down: all of it is seen only when nothing is left.</summary>
    public int Percent => Held == 0 ? 100 : (int)(100L * Seen / Held);
}

/// <summary>
/// What of a sheet counts as seen: a patch that lay wholly on the screen, large enough that the smallest text on it was at least
/// <see cref="LegibleText"/> pixels high, for at least <see cref="LeastSeconds"/> without moving.
/// </summary>
public static class Seeing
{
    /// <summary>Patches along the longer side of a sheet.</summary>
    public const int Longest = 64;

    /// <summary>Pixels that the letters of a text must be high.</summary>
    public const double LegibleText = 7;

    /// <summary>Seconds that a view must rest.</summary>
    public const double LeastSeconds = 0.7;

    /// <summary>Pixels of a patch's side from which on lines without text are told apart: the sheet is then 512 pixels long.</summary>
    private const double LegibleLines = 8;

    /// <summary>Pixels of a patch's side that are never asked for more: a patch then still lies wholly on the smallest screen. Text that is smaller still is read on no paper.</summary>
    private const double LargestPatch = 320;

    /// <summary>Height in millimetres of the letters that may be on a page or a picture without being known as text (ISO 3098-1, nominal size 2.5).</summary>
    private const double UsualText = 2.5;

    /// <summary>Pixels of a picture of unknown size that one of the screen may stand for.</summary>
    private const double PictureShare = 4;

    /// <summary>Share of a patch's side that may lie beyond the screen's edge.</summary>
    private const double Slack = 0.02;

    /// <summary>Divides a sheet.</summary>
    /// <param name="frame">The sheet's.</param>
    /// <param name="ink">Whether anything is drawn in a patch, by column and row.</param>
    /// <param name="texts">What is written on it.</param>
    /// <returns>Null for a sheet of no size.</returns>
    public static PatchGrid? Of(SheetFrame frame, Func<int, int, bool> ink, IEnumerable<WrittenRun> texts)
    {
        ArgumentNullException.ThrowIfNull(frame);
        ArgumentNullException.ThrowIfNull(ink);
        ArgumentNullException.ThrowIfNull(texts);
        if (Divided(frame.Extents) is not var (columns, rows, side)) return null;
        var needs = new double[columns * rows];
        var lines = Lines(frame, side);
        for (var row = 0; row < rows; row++)
            for (var column = 0; column < columns; column++)
                if (ink(column, row)) needs[(row * columns) + column] = lines;
        foreach (var text in texts)
        {
            var height = Math.Sqrt((text.Up.X * text.Up.X) + (text.Up.Y * text.Up.Y));
            if (!(height > 0) || !double.IsFinite(height)) continue;
            var need = Math.Min(LegibleText / height, LargestPatch / side);
            foreach (var patch in Covered(text, frame.Extents, columns, rows, side))
                // What is written on a layer that is off, or in white on white, is not there to be read.
                if (needs[patch] > 0) needs[patch] = Math.Max(needs[patch], need);
        }
        return new PatchGrid(columns, rows, needs);
    }

    /// <summary>Columns, rows and the side of a patch in the sheet's units; null for a sheet of no size.</summary>
    public static (int Columns, int Rows, double Side)? Divided(Extents extents)
    {
        var side = Math.Max(extents.Width, extents.Height) / Longest;
        if (!(side > 0) || !double.IsFinite(side) || !double.IsFinite(extents.MinX + extents.MaxY)) return null;
        // Halves of a pixel of rounding make no column of their own.
        int Count(double length) => Math.Clamp((int)Math.Ceiling((length / side) - 1e-9), 1, Longest);
        return (Count(extents.Width), Count(extents.Height), side);
    }

    /// <summary>Which patches that hold something were legible in a view.</summary>
    public static IEnumerable<int> In(PatchGrid grid, Extents sheet, SeenView view)
    {
        ArgumentNullException.ThrowIfNull(grid);
        ArgumentNullException.ThrowIfNull(view);
        var (area, scale) = (view.Area, view.Scale);
        if (Divided(sheet) is not var (columns, rows, side) || columns != grid.Columns || rows != grid.Rows) yield break;
        if (!(scale > 0) || !double.IsFinite(scale) || area.IsEmpty) yield break;
        var slack = side * Slack;
        // Of a patch that reaches over the sheet's edge only what is sheet must be on the screen.
        for (var row = 0; row < rows; row++)
        {
            double top = sheet.MaxY - (row * side), bottom = Math.Max(sheet.MinY, top - side);
            if (top > area.MaxY + slack || bottom < area.MinY - slack) continue;
            for (var column = 0; column < columns; column++)
            {
                double left = sheet.MinX + (column * side), right = Math.Min(sheet.MaxX, left + side);
                var need = grid.Needs[(row * columns) + column];
                if (need > 0 && need <= scale * (1 + 1e-9) && left >= area.MinX - slack && right <= area.MaxX + slack) yield return (row * columns) + column;
            }
        }
    }

    /// <summary>Marks what was legible in views beside what was seen before.</summary>
    /// <param name="seen">A bit for each patch; changed.</param>
    public static void Mark(BitArray seen, PatchGrid grid, Extents sheet, IEnumerable<SeenView> views)
    {
        ArgumentNullException.ThrowIfNull(seen);
        ArgumentNullException.ThrowIfNull(views);
        foreach (var view in views)
            foreach (var patch in In(grid, sheet, view)) seen[patch] = true;
    }

    /// <summary>Whether somebody has seen as much of an item as a step asks, in hundredths; what has no sheets asks for nothing.</summary>
    public static bool Suffices(SeenShare? share, int asked) => share is not { } s || s.Percent >= asked;

    /// <summary>Pixels a unit for what is no known text.</summary>
    private static double Lines(SheetFrame frame, double side)
    {
        var least = LegibleLines / side;
        // The words of a drawing are all known; a page or a picture may hold letters as lines or as points.
        if (frame.Surface == Surface.Strokes) return least;
        var letters = LengthUnits.MillimetresIn(frame.Unit) is { } millimetres ? LegibleText / (UsualText / millimetres) : frame.Surface == Surface.Tiles ? 1 / PictureShare : 0;
        return Math.Min(Math.Max(least, letters), LargestPatch / side);
    }

    /// <summary>The patches that a line of words touches: stepped through along it and across, a third of a patch at a time.</summary>
    private static IEnumerable<int> Covered(WrittenRun text, Extents sheet, int columns, int rows, double side)
    {
        static int Steps(PointXY v, double side) => (int)Math.Clamp(Math.Ceiling(Math.Sqrt((v.X * v.X) + (v.Y * v.Y)) / side * 3), 1, 3 * Longest);
        int along = Steps(text.Along, side), up = Steps(text.Up, side), last = -1;
        for (var i = 0; i <= along; i++)
            for (var k = 0; k <= up; k++)
            {
                var x = text.At.X + (text.Along.X * i / along) + (text.Up.X * k / up);
                var y = text.At.Y + (text.Along.Y * i / along) + (text.Up.Y * k / up);
                var (column, row) = (Math.Floor((x - sheet.MinX) / side), Math.Floor((sheet.MaxY - y) / side));
                if (!(column >= 0 && column < columns && row >= 0 && row < rows)) continue;
                var patch = ((int)row * columns) + (int)column;
                if (patch != last) yield return last = patch;
            }
    }
}
