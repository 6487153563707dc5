namespace Froe.Core.Drawing;

/// <summary>Grid references of a drawing sheet (ISO 5457, 4.4): fields of 50 mm, letters down from the top, numbers from the left.</summary>
public static class Zones
{
    private const string Letters = "ABCDEFGHJKLMNPQRSTUVWXYZ";

    /// <summary>The ISO 216 sheets from A0 to A4, landscape, in millimetres.</summary>
    private static readonly (double Width, double Height)[] Sizes = [(1189, 841), (841, 594), (594, 420), (420, 297), (297, 210)];

    /// <summary>The zone a point lies in, such as "D3"; null when the sheet is not an A-size sheet drawn in millimetres.</summary>
    public static string? Of(PointXY point, Extents sheet, LengthUnit unit)
    {
        if (unit != LengthUnit.Millimetre) return null;
        foreach (var (w, h) in Sizes)
        {
            var (width, height) = sheet.Width >= sheet.Height ? (w, h) : (h, w);
            if (Math.Abs(sheet.Width - width) > 2 || Math.Abs(sheet.Height - height) > 2) continue;
            double x = point.X - sheet.MinX, y = sheet.MaxY - point.Y;
            if (x < 0 || y < 0 || x > sheet.Width || y > sheet.Height) return null;
            return $"{Letters[Field(y, height)]}{Field(x, width) + 1}";
        }
        return null;

        // Fields are laid from the sheet's centre line outward, so the two at the ends take up what 50 mm does not divide.
        static int Field(double at, double side)
        {
            var count = (int)Math.Floor(side / 50 / 2) * 2;
            var first = (side - (count * 50.0)) / 2;
            return Math.Clamp((int)Math.Floor((at - first) / 50), 0, count - 1);
        }
    }
}
