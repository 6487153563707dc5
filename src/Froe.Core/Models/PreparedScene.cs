using System.Buffers.Binary;
using System.Globalization;
using Froe.Core.Drawing;

namespace Froe.Core.Models;

/// <summary>
/// The prepared forms of a model. The form “scene” is JSON (<see cref="SceneFacts"/>): the tree, the parts, and where in the form “meshes”
/// each part's block lies. A block is little-endian, every table a multiple of four bytes:
/// <code>
/// points     u16 × 4 a point     x y z in steps of the part's box divided by 65535, and 0; or, for a part that is wide, f32 × 3 from its box' least corner
/// normals    i8 × 4 a point      x y z times 127, and 0
/// corners    u32 × 3 a triangle  which points; as differences to the one before, folded so that small ones of either sign are small
/// faces      u32 a face          how many triangles
/// lines      u32 a line          how many points, times two, and 1 where the edge is smooth
/// line       as points           the points of all lines, one behind the other
/// </code>
/// Differences and steps are there for what compresses it. The form “exact” (<see cref="ExactFacts"/>) is what measuring asks.
/// </summary>
public static class PreparedScene
{
    /// <summary>What the form “meshes” is kept as.</summary>
    public const string MediaType = "application/vnd.froe.meshes";

    /// <summary>A part larger than this, in the scene's unit, has points of 32 bits: sixteen would be a tenth of a millimetre.</summary>
    public const double Wide = 6000;

    private const int Steps = 65535;

    /// <summary>What a scene's form “scene” says; the parts' blocks lie one behind the other.</summary>
    public static SceneFacts FactsOf(Scene scene)
    {
        ArgumentNullException.ThrowIfNull(scene);
        var at = 0L;
        var parts = new List<PartFacts>();
        foreach (var part in scene.Parts)
        {
            var block = BlockOf(part, at);
            at += block.Length;
            var mass = part.Exact ?? part.Mesh.Mass();
            parts.Add(new PartFacts(
                part.Name, part.Number, Words(part.Colour), part.Colour?.Opacity, part.Material?.Name, part.Material?.Density, Numbers(BoxOf(part)), mass.Volume, mass.Area,
                mass.Centre is { } centre ? [centre.X, centre.Y, centre.Z] : null, part.Exact is not null, part.Deviation, FaceColours(part), block));
        }
        return new SceneFacts(
            scene.Unit, Numbers(scene.Box()),
            [.. scene.Components.Select(c => new ComponentFacts(c.Name, c.Number, c.Instance, c.Parent, c.Placement == Affine.Identity ? null : Numbers(c.Placement), Words(c.Colour), c.Colour?.Opacity, c.Part) { MissingFile = c.MissingFile })],
            parts)
        { Dimensions = scene.Dimensions };
    }

    /// <summary>What a scene's form “exact” says.</summary>
    public static ExactFacts ExactOf(Scene scene)
    {
        ArgumentNullException.ThrowIfNull(scene);
        return new ExactFacts([.. scene.Parts.Select(p => new ExactPart(p.Faces, [.. p.Edges.Select(e => e with { Points = e.Points.Count > 1 ? [e.Points[0], e.Points[^1]] : [] })]))]);
    }

    /// <summary>Writes the form “meshes”.</summary>
    public static void WriteMeshes(Scene scene, Stream to)
    {
        ArgumentNullException.ThrowIfNull(scene);
        ArgumentNullException.ThrowIfNull(to);
        var at = 0L;
        foreach (var part in scene.Parts)
        {
            var facts = BlockOf(part, at);
            at += facts.Length;
            to.Write(Block(part, facts));
        }
    }

    /// <summary>The mesh and the lines of a part, from its block. They are as near the original as a step of its box.</summary>
    /// <exception cref="InvalidDataException">The block does not hold what the facts say.</exception>
    public static (Mesh Mesh, IReadOnlyList<PartLine> Lines) ReadPart(PartFacts part, ReadOnlySpan<byte> block)
    {
        ArgumentNullException.ThrowIfNull(part);
        var facts = part.Block;
        if (block.Length != facts.Length) throw new InvalidDataException("A part's block is not as long as its facts say.");
        var at = 0;
        var box = part.Box is [var x, var y, var z, var right, var back, var top] ? new Box(new(x, y, z), new(right, back, top)) : new Box(default, default);
        var points = ReadPoints(block, ref at, facts.Points, box, facts.IsWide);
        var normals = new Point3[facts.Points];
        for (var i = 0; i < normals.Length; i++, at += 4) normals[i] = new Point3((sbyte)block[at] / 127.0, (sbyte)block[at + 1] / 127.0, (sbyte)block[at + 2] / 127.0).Unit();
        var corners = new int[facts.Triangles * 3];
        var before = 0;
        for (var i = 0; i < corners.Length; i++, at += 4)
        {
            before += Unfold(BinaryPrimitives.ReadUInt32LittleEndian(block[at..]));
            if ((uint)before >= (uint)facts.Points) throw new InvalidDataException("A triangle has a corner that is not there.");
            corners[i] = before;
        }
        var starts = new int[facts.Faces + 1];
        for (var i = 0; i < facts.Faces; i++, at += 4) starts[i + 1] = starts[i] + (int)BinaryPrimitives.ReadUInt32LittleEndian(block[at..]);
        var counts = new uint[facts.Lines];
        for (var i = 0; i < counts.Length; i++, at += 4) counts[i] = BinaryPrimitives.ReadUInt32LittleEndian(block[at..]);
        var all = ReadPoints(block, ref at, facts.LinePoints, box, facts.IsWide);
        var lines = new List<PartLine>();
        var next = 0;
        foreach (var count in counts)
        {
            lines.Add(new PartLine((count & 1) == 1, all[next..(next + (int)(count >> 1))]));
            next += (int)(count >> 1);
        }
        return (new Mesh(points, normals, corners, starts), lines);
    }

    /// <summary>A part alone, as far as it is needed to draw it.</summary>
    /// <exception cref="InvalidDataException">The block does not hold what the facts say.</exception>
    public static Scene Alone(PartFacts part, ReadOnlySpan<byte> block)
    {
        return new Scene(LengthUnit.Unknown, [new Component(part.Name, part.Number, "", -1, Affine.Identity, null, 0)], [Drawn(part, block)]);
    }

    /// <summary>A model, as far as it is needed to draw it.</summary>
    /// <param name="facts">Its form “scene”.</param>
    /// <param name="meshes">Its form “meshes”.</param>
    /// <exception cref="InvalidDataException">The blocks do not hold what the facts say.</exception>
    public static Scene Whole(SceneFacts facts, ReadOnlyMemory<byte> meshes)
    {
        ArgumentNullException.ThrowIfNull(facts);
        return new Scene(
            facts.Unit, [.. facts.Components.Select(c => new Component(c.Name, c.Number, c.Instance, c.Parent, c.Placement(), Colour(c.Colour, c.Opacity ?? 1), c.Part))],
            [.. facts.Parts.Select(p => Drawn(p, meshes.Slice((int)p.Block.At, (int)p.Block.Length).Span))]);
    }

    private static Part Drawn(PartFacts part, ReadOnlySpan<byte> block)
    {
        var (mesh, lines) = ReadPart(part, block);
        var faces = Enumerable.Range(0, mesh.Faces).Select(f => Face.Unknown with { Colour = part.FaceColours is { } own && own.TryGetValue(f, out var colour) ? Colour(colour, 1) : null });
        var edges = lines.Select(l => new Edge(-1, -1, l.IsSmooth, CurveKind.Free, default, default, 0, null, false, l.Points));
        return new Part(part.Name, part.Number, Colour(part.Colour, part.Opacity ?? 1), null, mesh, [.. faces], [.. edges], null, part.Deviation);
    }

    private static ModelColour? Colour(string? words, double opacity) =>
        words is { Length: 7 } && int.TryParse(words.AsSpan(1), NumberStyles.AllowHexSpecifier, CultureInfo.InvariantCulture, out var rgb)
            ? new ModelColour((byte)(rgb >> 16), (byte)(rgb >> 8), (byte)rgb, opacity)
            : null;

    private static Point3[] ReadPoints(ReadOnlySpan<byte> block, ref int at, int count, Box box, bool isWide)
    {
        var points = new Point3[count];
        var size = box.Max - box.Min;
        for (var i = 0; i < count; i++)
        {
            var from = block[at..];
            points[i] = isWide
                ? box.Min + new Point3(BinaryPrimitives.ReadSingleLittleEndian(from), BinaryPrimitives.ReadSingleLittleEndian(from[4..]), BinaryPrimitives.ReadSingleLittleEndian(from[8..]))
                : box.Min + new Point3(
                    size.X * BinaryPrimitives.ReadUInt16LittleEndian(from) / Steps, size.Y * BinaryPrimitives.ReadUInt16LittleEndian(from[2..]) / Steps, size.Z * BinaryPrimitives.ReadUInt16LittleEndian(from[4..]) / Steps);
            at += isWide ? 12 : 8;
        }
        return points;
    }

    private static BlockFacts BlockOf(Part part, long at)
    {
        var linePoints = part.Edges.Sum(e => e.Points.Count);
        var box = BoxOf(part);
        var isWide = !box.IsEmpty && Math.Max(box.Max.X - box.Min.X, Math.Max(box.Max.Y - box.Min.Y, box.Max.Z - box.Min.Z)) > Wide;
        var pointSize = isWide ? 12L : 8L;
        var length = ((part.Mesh.Points.Length + linePoints) * pointSize) + (4L * (part.Mesh.Points.Length + part.Mesh.Corners.Length + part.Mesh.Faces + part.Edges.Count));
        return new BlockFacts(at, length, part.Mesh.Points.Length, part.Mesh.Triangles, part.Mesh.Faces, part.Edges.Count, linePoints, isWide);
    }

    /// <summary>What a part covers, its lines too: some parts have nothing else.</summary>
    private static Box BoxOf(Part part)
    {
        var box = part.Mesh.Box;
        foreach (var edge in part.Edges)
            foreach (var point in edge.Points) box = box.With(point);
        return box;
    }

    private static byte[] Block(Part part, BlockFacts facts)
    {
        var to = new byte[facts.Length];
        var at = 0;
        var box = BoxOf(part);
        foreach (var point in part.Mesh.Points) Put(to, ref at, point, box, facts.IsWide);
        foreach (var normal in part.Mesh.Normals)
        {
            to[at] = (byte)(sbyte)Math.Round(normal.X * 127);
            to[at + 1] = (byte)(sbyte)Math.Round(normal.Y * 127);
            to[at + 2] = (byte)(sbyte)Math.Round(normal.Z * 127);
            at += 4;
        }
        var before = 0;
        foreach (var corner in part.Mesh.Corners)
        {
            PutNumber(to, ref at, Fold(corner - before));
            before = corner;
        }
        for (var i = 0; i < part.Mesh.Faces; i++) PutNumber(to, ref at, (uint)(part.Mesh.FaceStarts[i + 1] - part.Mesh.FaceStarts[i]));
        foreach (var edge in part.Edges) PutNumber(to, ref at, ((uint)edge.Points.Count << 1) | (edge.IsSmooth ? 1u : 0));
        foreach (var edge in part.Edges)
            foreach (var point in edge.Points) Put(to, ref at, point, box, facts.IsWide);
        return to;
    }

    private static uint Fold(int difference) => (uint)((difference << 1) ^ (difference >> 31));

    private static int Unfold(uint folded) => (int)(folded >> 1) ^ -(int)(folded & 1);

    private static void PutNumber(byte[] to, ref int at, uint number)
    {
        BinaryPrimitives.WriteUInt32LittleEndian(to.AsSpan(at), number);
        at += 4;
    }

    private static void Put(byte[] to, ref int at, Point3 point, Box box, bool isWide)
    {
        var from = point - box.Min;
        var size = box.Max - box.Min;
        if (isWide)
        {
            foreach (var value in (float[])[(float)from.X, (float)from.Y, (float)from.Z])
            {
                BinaryPrimitives.WriteSingleLittleEndian(to.AsSpan(at), value);
                at += 4;
            }
            return;
        }
        BinaryPrimitives.WriteUInt16LittleEndian(to.AsSpan(at), Step(from.X, size.X));
        BinaryPrimitives.WriteUInt16LittleEndian(to.AsSpan(at + 2), Step(from.Y, size.Y));
        BinaryPrimitives.WriteUInt16LittleEndian(to.AsSpan(at + 4), Step(from.Z, size.Z));
        at += 8;
    }

    private static ushort Step(double from, double size) => size > 0 && double.IsFinite(from) ? (ushort)Math.Clamp(Math.Round(from / size * Steps), 0, Steps) : (ushort)0;

    private static double[]? Numbers(Box box) => box.IsEmpty ? null : [box.Min.X, box.Min.Y, box.Min.Z, box.Max.X, box.Max.Y, box.Max.Z];

    private static double[] Numbers(Affine at) => [at.X.X, at.Y.X, at.Z.X, at.O.X, at.X.Y, at.Y.Y, at.Z.Y, at.O.Y, at.X.Z, at.Y.Z, at.Z.Z, at.O.Z];

    private static string? Words(ModelColour? colour) => colour?.AsDrawn() is { } c ? $"#{c.Red:x2}{c.Green:x2}{c.Blue:x2}" : null;

    /// <summary>Colours of faces that have their own, by number of the face; null where none has.</summary>
    private static Dictionary<int, string>? FaceColours(Part part)
    {
        var own = part.Faces.Select((f, i) => (f.Colour, i)).Where(f => f.Colour is not null && f.Colour != part.Colour).ToDictionary(f => f.i, f => Words(f.Colour)!);
        return own.Count == 0 ? null : own;
    }
}

/// <summary>A line of a part as it is drawn.</summary>
/// <param name="IsSmooth">Whether it is no edge to be seen.</param>
public readonly record struct PartLine(bool IsSmooth, Point3[] Points);

/// <summary>A model but for its meshes.</summary>
/// <param name="Unit">The unit of its lengths.</param>
/// <param name="Box">Least x, y, z, greatest x, y, z; null where nothing has a place.</param>
public sealed record SceneFacts(
    LengthUnit Unit, IReadOnlyList<double>? Box, IReadOnlyList<ComponentFacts> Components, IReadOnlyList<PartFacts> Parts)
{
    /// <summary>What the file states of the parts.</summary>
    public IReadOnlyList<ModelDimension> Dimensions { get; init; } = [];

    /// <summary>Where every component stands in the model.</summary>
    public IReadOnlyList<Affine> Placements()
    {
        var at = new Affine[Components.Count];
        for (var i = 0; i < at.Length; i++)
        {
            var (own, parent) = (Components[i].Placement(), Components[i].Parent);
            at[i] = parent < 0 ? own : at[parent].After(own);
        }
        return at;
    }
}

/// <summary>A component.</summary>
/// <param name="Parent">The component that it lies in, by its place in the list; -1 for none.</param>
/// <param name="At">Twelve numbers, row by row: three columns for the axes and one for the origin; null where it stands where its parent does.</param>
/// <param name="Colour">#rrggbb; null for its part's.</param>
/// <param name="Part">The part that it places; null for an assembly.</param>
public sealed record ComponentFacts(string Name, string Number, string Instance, int Parent, IReadOnlyList<double>? At, string? Colour, double? Opacity, int? Part)
{
    /// <summary>The other file that it is in and that is not there; null where it is whole.</summary>
    public string? MissingFile { get; init; }

    /// <summary>From its own coordinates to its parent's.</summary>
    public Affine Placement() => At is [var a, var b, var c, var d, var e, var f, var g, var h, var k, var l, var m, var n]
        ? new Affine(new(a, e, k), new(b, f, l), new(c, g, m), new(d, h, n))
        : Affine.Identity;
}

/// <summary>A part.</summary>
/// <param name="Box">As of the scene, in the part's coordinates.</param>
/// <param name="IsExact">Whether volume, area and centre are those of the exact shape, not of the mesh.</param>
/// <param name="Deviation">How far the mesh lies from the exact shape at most.</param>
/// <param name="FaceColours">Colours of faces that have their own.</param>
public sealed record PartFacts(
    string Name, string Number, string? Colour, double? Opacity, string? Material, double? Density, IReadOnlyList<double>? Box, double? Volume, double Area,
    IReadOnlyList<double>? Centre, bool IsExact, double Deviation, IReadOnlyDictionary<int, string>? FaceColours, BlockFacts Block)
{
    /// <summary>What it weighs, in grams; null where volume, density or unit is not known.</summary>
    /// <param name="unit">The scene's.</param>
    /// <param name="stated">A density in g/cm³ that somebody stated; what the file says goes before it.</param>
    public double? Grams(LengthUnit unit, double? stated) =>
        LengthUnits.MillimetresIn(unit) / 10 is { } centimetres && Volume is > 0 and var volume && (Density ?? stated) is > 0 and var density ? volume * centimetres * centimetres * centimetres * density : null;
}

/// <summary>Where in the form “meshes” a part's block lies, and how much of each thing it holds.</summary>
/// <param name="At">Its first byte.</param>
/// <param name="Length">How many bytes.</param>
/// <param name="IsWide">Whether points have 32 bits a coordinate.</param>
public sealed record BlockFacts(long At, long Length, int Points, int Triangles, int Faces, int Lines, int LinePoints, bool IsWide);

/// <summary>What is exactly known, by part.</summary>
public sealed record ExactFacts(IReadOnlyList<ExactPart> Parts);

/// <summary>What is exactly known of a part's faces and edges, in their order; of each edge's points the first and the last.</summary>
public sealed record ExactPart(IReadOnlyList<Face> Faces, IReadOnlyList<Edge> Edges);
