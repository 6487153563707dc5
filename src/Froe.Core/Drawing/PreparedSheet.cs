using System.Runtime.InteropServices;
using System.Text.Json;

namespace Froe.Core.Drawing;

/// <summary>
/// The prepared form of a sheet that browsers draw: little-endian, version 1.
/// <code>
/// 0   "FRSH"
/// 4   u32  version = 1
/// 8   u32  length of the head in bytes, a multiple of 4
/// 12  head: UTF-8 JSON, padded with spaces (<see cref="Head"/>)
/// …   f32 × 4 × segments    x0 y0 x1 y1, offsets from the head's origin
/// …   u32 × segments        entity of each segment
/// …   f32 × 6 × triangles   three corners
/// …   u32 × triangles       entity of each triangle
/// …   u32 × 2 × entities    handle in the file, low word first
/// …   u16 × entities        style of each entity
/// </code>
/// Segments come in runs of neighbours; the head lists the box of every run so that what lies outside a view is skipped.
/// </summary>
public static class PreparedSheet
{
    /// <summary>Version of the layout written here.</summary>
    public const int Version = 1;

    /// <summary>Segments in one run, but for the last.</summary>
    public const int RunLength = 2048;

    private static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web);

    /// <summary>The JSON at the front.</summary>
    /// <param name="Name">The sheet's name.</param>
    /// <param name="Unit">Its unit.</param>
    /// <param name="Origin">x, y of what offsets count from.</param>
    /// <param name="Extents">Least x, least y, greatest x, greatest y, in sheet coordinates.</param>
    /// <param name="Tolerance">Farthest any chord lies from its curve.</param>
    /// <param name="Layers">The layers.</param>
    /// <param name="Styles">Layer, colour and weight of each style.</param>
    /// <param name="Segments">How many segments.</param>
    /// <param name="Triangles">How many triangles.</param>
    /// <param name="Entities">How many entities.</param>
    /// <param name="Runs">Four numbers a run: its box as offsets.</param>
    /// <param name="Texts">Ten values a text: words, x, y, along x, along y, up x, up y, anchor, rise, entity; positions as offsets.</param>
    public sealed record Head(
        string Name, string Unit, double[] Origin, double[] Extents, double Tolerance, IReadOnlyList<Layer> Layers, int[][] Styles,
        int Segments, int Triangles, int Entities, float[] Runs, object[][] Texts);

    /// <summary>Writes a sheet.</summary>
    public static void Write(Sheet sheet, Stream to)
    {
        ArgumentNullException.ThrowIfNull(sheet);
        ArgumentNullException.ThrowIfNull(to);
        var head = new Head(
            sheet.Name,
            JsonNamingPolicy.CamelCase.ConvertName(sheet.Unit.ToString()),
            [sheet.Origin.X, sheet.Origin.Y],
            [sheet.Extents.MinX, sheet.Extents.MinY, sheet.Extents.MaxX, sheet.Extents.MaxY],
            sheet.Tolerance,
            sheet.Layers,
            [.. sheet.Styles.Select(s => new[] { s.Layer, s.Rgb, s.Weight })],
            sheet.SegmentEntity.Length,
            sheet.TriangleEntity.Length,
            sheet.EntityHandle.Length,
            Runs(sheet.Segments),
            [.. sheet.Texts.Select(t => new object[]
            {
                t.Text, (float)(t.At.X - sheet.Origin.X), (float)(t.At.Y - sheet.Origin.Y),
                (float)t.Along.X, (float)t.Along.Y, (float)t.Up.X, (float)t.Up.Y, t.Anchor, t.Rise, t.Entity,
            })]);
        var json = JsonSerializer.SerializeToUtf8Bytes(head, Json);
        var padded = (json.Length + 3) / 4 * 4;
        to.Write("FRSH"u8);
        to.Write(MemoryMarshal.AsBytes<int>([Version, padded]));
        to.Write(json);
        to.Write("   "u8[..(padded - json.Length)]);
        to.Write(MemoryMarshal.AsBytes<float>(sheet.Segments));
        to.Write(MemoryMarshal.AsBytes<int>(sheet.SegmentEntity));
        to.Write(MemoryMarshal.AsBytes<float>(sheet.Triangles));
        to.Write(MemoryMarshal.AsBytes<int>(sheet.TriangleEntity));
        to.Write(MemoryMarshal.AsBytes<ulong>(sheet.EntityHandle));
        to.Write(MemoryMarshal.AsBytes<ushort>(sheet.EntityStyle));
    }

    private static float[] Runs(float[] segments)
    {
        var count = segments.Length / 4;
        var boxes = new float[(count + RunLength - 1) / RunLength * 4];
        for (var run = 0; run < boxes.Length / 4; run++)
        {
            float left = float.MaxValue, bottom = float.MaxValue, right = float.MinValue, top = float.MinValue;
            var end = Math.Min(count, (run + 1) * RunLength) * 4;
            for (var i = run * RunLength * 4; i < end; i += 2)
            {
                left = Math.Min(left, segments[i]);
                right = Math.Max(right, segments[i]);
                bottom = Math.Min(bottom, segments[i + 1]);
                top = Math.Max(top, segments[i + 1]);
            }
            (boxes[4 * run], boxes[(4 * run) + 1], boxes[(4 * run) + 2], boxes[(4 * run) + 3]) = (left, bottom, right, top);
        }
        return boxes;
    }
}
