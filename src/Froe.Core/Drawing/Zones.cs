namespace Froe.Core.Drawing;

/// <summary>The fields of a sheet, in its own coordinates.</summary>
/// <param name="Columns">Their edges from left to right; the first field is number 1.</param>
/// <param name="Rows">Their edges from the bottom up; the topmost field has the first letter.</param>
/// <param name="Letters">The letters, from the top down.</param>
public sealed record ZoneGrid(IReadOnlyList<double> Columns, IReadOnlyList<double> Rows, string Letters);

/// <summary>Grid references of a drawing sheet (ISO 5457, 4.4): fields of 50 mm, letters down from the top, numbers from the left.</summary>
public static class Zones
{
    private const string Letters = "ABCDEFGHJKLMNPQRSTUVWXYZ";

    /// <summary>The ISO 216 sheets from A0 to A4, landscape, in millimetres.</summary>
    private static readonly (double Width, double Height)[] Sizes = [(1189, 841), (841, 594), (594, 420), (420, 297), (297, 210)];

    /// <summary>The zone a point lies in, such as "D3"; null when the sheet is not an A-size sheet drawn in millimetres.</summary>
    public static string? Of(PointXY point, Extents sheet, LengthUnit unit)
    {
        if (Grid(sheet, unit) is not { } grid || point.X < sheet.MinX || point.X > sheet.MaxX || point.Y < sheet.MinY || point.Y > sheet.MaxY) return null;
        return $"{grid.Letters[grid.Rows.Count - 2 - Field(point.Y, grid.Rows)]}{Field(point.X, grid.Columns) + 1}";

        static int Field(double at, IReadOnlyList<double> edges)
        {
            var field = 0;
            while (field + 2 < edges.Count && at >= edges[field + 1]) field++;
            return field;
        }
    }

    /// <summary>Where the fields of a sheet begin and end; null when it is not an A-size sheet drawn in millimetres.</summary>
    public static ZoneGrid? Grid(Extents sheet, LengthUnit unit)
    {
        if (unit != LengthUnit.Millimetre) return null;
        foreach (var (w, h) in Sizes)
        {
            var (width, height) = sheet.Width >= sheet.Height ? (w, h) : (h, w);
            if (Math.Abs(sheet.Width - width) <= 2 && Math.Abs(sheet.Height - height) <= 2)
                return new(Edges(sheet.MinX, sheet.MaxX, width), [.. Edges(-sheet.MaxY, -sheet.MinY, height).Select(y => -y).Reverse()], Letters);
        }
        return null;

        // Fields are laid from the sheet's centre line outward, so the two at the ends take up what 50 mm does not divide.
        static List<double> Edges(double from, double to, double side)
        {
            var count = (int)Math.Floor(side / 50 / 2) * 2;
            var first = (side - (count * 50.0)) / 2;
            return [from, .. Enumerable.Range(1, count - 1).Select(i => from + first + (50.0 * i)), to];
        }
    }
}
