using Froe.Core.Drawing;
using Froe.Formats.Dxf;
using Xunit;

namespace Froe.Formats.Tests;

/// <summary>DXF files small enough to be worked by hand, written as "code value" words, one pair a line.</summary>
internal static partial class SmallDxf
{
    public static DrawingFile Read(byte[] file)
    {
        var result = DxfReader.Read(new MemoryStream(file));
        Assert.True(result.Drawing is not null, result.Fault?.ToString());
        return result.Drawing!;
    }

    public static Sheet Sheet(string entities, string header = "", string tables = "", string blocks = "") => Read(FileOf(entities, header, tables, blocks)).Sheets[0];

    /// <summary>Strokes in sheet coordinates.</summary>
    public static List<(double X0, double Y0, double X1, double Y1)> Strokes(Sheet s) =>
        [.. s.Segments.Chunk(4).Select(c => (Math.Round(c[0] + s.Origin.X, 3), Math.Round(c[1] + s.Origin.Y, 3), Math.Round(c[2] + s.Origin.X, 3), Math.Round(c[3] + s.Origin.Y, 3)))];

    /// <summary>What the filled triangles of a sheet cover, in square units.</summary>
    public static double Area(Sheet s) => s.Triangles.Chunk(6).Sum(t => Math.Abs(((t[2] - t[0]) * (t[5] - t[1])) - ((t[4] - t[0]) * (t[3] - t[1]))) / 2);
}
