using System.Buffers.Binary;
using System.Runtime.InteropServices;
using System.Text;
using System.Text.Json;

namespace Froe.Core.Drawing;

/// <summary>
/// The prepared forms of a sheet that browsers draw and ask: little-endian, version 2, in tagged sections.
/// <code>
/// 0   "FRSH"
/// 4   u32  version = 2
/// 8   u32  how many sections
/// 12  for each: tag (4 letters), u32 offset from the beginning, a multiple of 8, u32 length in bytes
///
/// the form “geometry”, all that is drawn
/// HEAD  UTF-8 JSON (<see cref="Head"/>)
/// STRK  f32 × 4 a segment     x0 y0 x1 y1, offsets from the head's origin
/// STRE  u32 a segment         its entity
/// TRIA  f32 × 6 a triangle    three corners
/// TRIE  u32 a triangle        its entity
/// HAND  u32 × 2 an entity     handle in the file, low word first
/// STYL  u16 an entity         its style
///
/// the form “details”, what the hand catches and what comparing asks
/// KIND  UTF-8 JSON: what the file calls its entities
/// SNAP  u8 a segment          which of its ends are points of the file (<see cref="StrokeEnds"/>)
/// CURV  u32 entity, u32 0 for a line and 1 for an arc, f32 × 8: centre or beginning, major vector or the way to the end, minor vector, first and last angle
/// ENTS  f32 × 4 box, u64 signature, u32 kind, u32 0, an entity
/// </code>
/// Segments come in runs of neighbours; the head lists the box of every run so that what lies outside a view is skipped. Sections of an
/// unknown tag are to be passed over.
/// </summary>
public static class PreparedSheet
{
    /// <summary>Version of the layout written here.</summary>
    public const int Version = 2;

    /// <summary>What such forms are kept as.</summary>
    public const string MediaType = "application/vnd.froe.sheet";

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

    /// <summary>Writes the form that is drawn.</summary>
    public static void WriteGeometry(Sheet sheet, Stream to)
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
        Write(
            to,
            ("HEAD", JsonSerializer.SerializeToUtf8Bytes(head, Json)),
            ("STRK", Bytes(sheet.Segments)),
            ("STRE", Bytes(sheet.SegmentEntity)),
            ("TRIA", Bytes(sheet.Triangles)),
            ("TRIE", Bytes(sheet.TriangleEntity)),
            ("HAND", Bytes(sheet.EntityHandle)),
            ("STYL", Bytes(sheet.EntityStyle)));
    }

    /// <summary>Writes the form that snapping, measuring, searching and comparing ask; its offsets count from the same origin.</summary>
    public static void WriteDetails(Sheet sheet, Stream to)
    {
        ArgumentNullException.ThrowIfNull(sheet);
        ArgumentNullException.ThrowIfNull(to);
        Write(
            to,
            ("KIND", JsonSerializer.SerializeToUtf8Bytes(sheet.Kinds, Json)),
            ("SNAP", MemoryMarshal.AsBytes<StrokeEnds>(sheet.SegmentEnds).ToArray()),
            ("CURV", Bytes(Array.ConvertAll(sheet.Curves, c => new CurveRow(c, sheet.Origin)))),
            ("ENTS", Bytes(Entities(sheet))));
    }

    /// <summary>Reads the form that is drawn. What only the other form holds is empty: ends, curves, kinds, signatures.</summary>
    /// <exception cref="InvalidDataException">It is no such form, or of another version.</exception>
    public static Sheet ReadGeometry(ReadOnlySpan<byte> form)
    {
        var sections = Sections(form);
        Head head;
        try
        {
            head = JsonSerializer.Deserialize<Head>(Section(form, sections, "HEAD"), Json) ?? throw Broken();
        }
        catch (JsonException)
        {
            throw Broken();
        }
        var (segments, of) = (Rows<float>(Section(form, sections, "STRK")), Rows<int>(Section(form, sections, "STRE")));
        var (triangles, ofTriangles) = (Rows<float>(Section(form, sections, "TRIA")), Rows<int>(Section(form, sections, "TRIE")));
        var (handles, styles) = (Rows<ulong>(Section(form, sections, "HAND")), Rows<ushort>(Section(form, sections, "STYL")));
        if (segments.Length != 4 * of.Length || triangles.Length != 6 * ofTriangles.Length || styles.Length != handles.Length || head is not { Origin.Length: 2, Extents.Length: 4 }) throw Broken();
        if (of.Any(e => (uint)e >= styles.Length) || ofTriangles.Any(e => (uint)e >= styles.Length) || styles.Any(s => s >= head.Styles.Length) || head.Styles.Any(s => s.Length != 3 || (uint)s[0] >= head.Layers.Count)) throw Broken();
        var origin = new PointXY(head.Origin[0], head.Origin[1]);
        return new Sheet
        {
            Name = head.Name,
            Unit = Enum.TryParse<LengthUnit>(head.Unit, true, out var unit) ? unit : LengthUnit.Unknown,
            Origin = origin,
            Extents = new Extents(head.Extents[0], head.Extents[1], head.Extents[2], head.Extents[3]),
            Tolerance = head.Tolerance,
            Layers = head.Layers,
            Styles = [.. head.Styles.Select(s => new StrokeStyle(s[0], s[1], s[2]))],
            Segments = segments,
            SegmentEntity = of,
            Triangles = triangles,
            TriangleEntity = ofTriangles,
            EntityHandle = handles,
            EntityStyle = styles,
            Texts = [.. head.Texts.Select(t => Run(t, origin, styles.Length))],
            SegmentEnds = [],
            Curves = [],
            Kinds = [],
            EntityKind = [],
            EntitySignature = [],
        };
    }

    private static InvalidDataException Broken() => new("Not the prepared geometry of a sheet, or not all of it.");

    private static Dictionary<string, (int At, int Length)> Sections(ReadOnlySpan<byte> form)
    {
        if (form.Length < 12 || !form[..4].SequenceEqual("FRSH"u8) || BinaryPrimitives.ReadInt32LittleEndian(form[4..]) != Version) throw Broken();
        var count = BinaryPrimitives.ReadInt32LittleEndian(form[8..]);
        if (count < 0 || count > 64 || form.Length < 12 + (12 * count)) throw Broken();
        var found = new Dictionary<string, (int, int)>();
        for (var i = 0; i < count; i++)
        {
            var row = form.Slice(12 + (12 * i), 12);
            var (at, length) = (BinaryPrimitives.ReadInt32LittleEndian(row[4..]), BinaryPrimitives.ReadInt32LittleEndian(row[8..]));
            if (at < 0 || length < 0 || (long)at + length > form.Length) throw Broken();
            found[Encoding.ASCII.GetString(row[..4])] = (at, length);
        }
        return found;
    }

    private static ReadOnlySpan<byte> Section(ReadOnlySpan<byte> form, Dictionary<string, (int At, int Length)> sections, string tag) =>
        sections.TryGetValue(tag, out var found) ? form.Slice(found.At, found.Length) : throw Broken();

    private static T[] Rows<T>(ReadOnlySpan<byte> bytes)
        where T : unmanaged => MemoryMarshal.Cast<byte, T>(bytes).ToArray();

    private static TextRun Run(object[] row, PointXY origin, int entities)
    {
        if (row.Length != 10 || row[0] is not JsonElement { ValueKind: JsonValueKind.String } words) throw Broken();
        double Number(int i) => row[i] is JsonElement { ValueKind: JsonValueKind.Number } n ? n.GetDouble() : throw Broken();
        var entity = (int)Number(9);
        if ((uint)entity >= entities) throw Broken();
        return new TextRun(words.GetString()!, new(origin.X + Number(1), origin.Y + Number(2)), new(Number(3), Number(4)), new(Number(5), Number(6)), (float)Number(7), (float)Number(8), entity);
    }

    private static byte[] Bytes<T>(T[] rows)
        where T : unmanaged => MemoryMarshal.AsBytes<T>(rows).ToArray();

    private static void Write(Stream to, params (string Tag, byte[] Bytes)[] sections)
    {
        var at = Aligned(12 + (12 * sections.Length));
        to.Write("FRSH"u8);
        to.Write(MemoryMarshal.AsBytes<int>([Version, sections.Length]));
        foreach (var (tag, bytes) in sections)
        {
            to.Write(Encoding.ASCII.GetBytes(tag));
            to.Write(MemoryMarshal.AsBytes<int>([at, bytes.Length]));
            at = Aligned(at + bytes.Length);
        }
        var written = 12 + (12 * sections.Length);
        foreach (var (_, bytes) in sections)
        {
            Pad(written);
            to.Write(bytes);
            written = Aligned(written) + bytes.Length;
        }

        static int Aligned(int length) => checked(length + 7) & ~7;
        void Pad(int length) => to.Write(new byte[Aligned(length) - length]);
    }

    [StructLayout(LayoutKind.Sequential, Pack = 4)]
    private readonly struct CurveRow(SheetCurve curve, PointXY origin)
    {
        public readonly int Entity = curve.Entity;
        public readonly int Kind = curve.IsStraight ? 0 : 1;
        public readonly float X = (float)(curve.Arc.Centre.X - origin.X), Y = (float)(curve.Arc.Centre.Y - origin.Y);
        public readonly float MajorX = (float)curve.Arc.Major.X, MajorY = (float)curve.Arc.Major.Y, MinorX = (float)curve.Arc.Minor.X, MinorY = (float)curve.Arc.Minor.Y;
        public readonly float Start = (float)curve.Arc.Start, End = (float)curve.Arc.End;
    }

    [StructLayout(LayoutKind.Sequential, Pack = 4)]
    private struct EntityRow
    {
        public float Left, Bottom, Right, Top;
        public ulong Signature;
        public int Kind, Reserved;
    }

    /// <summary>The box of each entity, as offsets; of one that draws nothing it is turned inside out.</summary>
    private static EntityRow[] Entities(Sheet sheet)
    {
        var rows = new EntityRow[sheet.EntityHandle.Length];
        for (var i = 0; i < rows.Length; i++)
            rows[i] = new EntityRow { Left = float.MaxValue, Bottom = float.MaxValue, Right = float.MinValue, Top = float.MinValue, Signature = sheet.EntitySignature[i], Kind = sheet.EntityKind[i] };
        for (var i = 0; i < sheet.Segments.Length; i += 2) Cover(ref rows[sheet.SegmentEntity[i / 4]], sheet.Segments[i], sheet.Segments[i + 1]);
        for (var i = 0; i < sheet.Triangles.Length; i += 2) Cover(ref rows[sheet.TriangleEntity[i / 6]], sheet.Triangles[i], sheet.Triangles[i + 1]);
        foreach (var t in sheet.Texts)
            foreach (var p in t.Corners())
                Cover(ref rows[t.Entity], (float)(p.X - sheet.Origin.X), (float)(p.Y - sheet.Origin.Y));
        return rows;

        static void Cover(ref EntityRow row, float x, float y)
        {
            row.Left = Math.Min(row.Left, x);
            row.Right = Math.Max(row.Right, x);
            row.Bottom = Math.Min(row.Bottom, y);
            row.Top = Math.Max(row.Top, y);
        }
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
