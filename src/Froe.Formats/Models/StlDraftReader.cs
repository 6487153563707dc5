using System.Buffers.Binary;
using System.Text;
using Froe.Core.Drawing;
using Froe.Core.Models;

namespace Froe.Formats.Models;

/// <summary>Reads STL files, binary and written out, into models of one part for each solid. They state no unit.</summary>
internal sealed class StlDraftReader : ModelDraftReader
{
    private const int HeadLength = 84, TriangleLength = 50, MostTriangles = 10_000_000;

    public override string Name => "stl";

    public override string Words => "STL meshes";

    public override IReadOnlyList<string> Extensions { get; } = [".stl"];

    public override string MediaType => "model/stl";

    protected override string Format => "STL";

    internal override (ReadModel? Model, ReadFault? Fault) Model(Stream stream, FilesBeside beside)
    {
        var bytes = Whole(stream);
        // Many binary files begin with “solid” like those written out: what counts is whether their length is what they say.
        var stated = bytes.Length >= HeadLength ? BinaryPrimitives.ReadUInt32LittleEndian(bytes.AsSpan(80)) : 0;
        var isBinary = bytes.Length >= HeadLength && HeadLength + (TriangleLength * (long)stated) == bytes.Length;
        var front = bytes.AsSpan(0, Math.Min(bytes.Length, HeadLength));
        // Some write their words in capitals.
        if (!isBinary && (front.Contains((byte)0) || !Encoding.ASCII.GetString(front.TrimStart(" \t\r\n\uFEFF"u8)).StartsWith("solid", StringComparison.OrdinalIgnoreCase)))
            return stated > 0 && bytes.Length > HeadLength
                ? (null, new ReadFault(null, $"The file says that it holds {stated:N0} triangles, which needs {HeadLength + (TriangleLength * (long)stated):N0} bytes, but is {bytes.Length:N0} bytes long. It was cut off, or is no STL file. Export it again."))
                : (null, new ReadFault(null, "This is no STL file. Export the model again as STL, binary or written out."));
        if (isBinary && stated > MostTriangles) return (null, TooMany());
        var solids = isBinary ? [Binary(bytes, (int)stated)] : Written(bytes);
        if (solids is null) return (null, TooMany());
        var shaped = new List<ShapedMesh>();
        var parts = new List<Part>();
        foreach (var (name, points) in solids)
        {
            var (part, mesh) = Loose(name, null, points);
            parts.Add(part);
            shaped.Add(mesh);
        }
        var components = parts.Select((p, i) => new Component(p.Name, "", "", -1, Affine.Identity, null, i)).ToList();
        var scene = new Scene(LengthUnit.Unknown, components, parts);
        return (new ReadModel(scene, isBinary ? "binary" : "written out", CountsOf(scene), LossesOf(shaped)), null);
    }

    private static ReadFault TooMany() => new(null, $"The mesh has more than {MostTriangles:N0} triangles. Export it coarser, or in parts.");

    internal static (string Name, Point3[] Points) Binary(byte[] bytes, int triangles)
    {
        var points = new Point3[triangles * 3];
        for (var i = 0; i < triangles; i++)
        {
            var at = bytes.AsSpan(HeadLength + (TriangleLength * i) + 12);
            for (var k = 0; k < 3; k++)
                points[(3 * i) + k] = new Point3(BinaryPrimitives.ReadSingleLittleEndian(at[(12 * k)..]), BinaryPrimitives.ReadSingleLittleEndian(at[((12 * k) + 4)..]), BinaryPrimitives.ReadSingleLittleEndian(at[((12 * k) + 8)..]));
        }
        return ("Mesh", points);
    }

    /// <summary>The solids of a file that is written out; null where they are too large. A triangle that breaks off is left out.</summary>
    private static List<(string Name, Point3[] Points)>? Written(byte[] bytes)
    {
        var solids = new List<(string, Point3[])>();
        var points = new List<Point3>();
        var name = "";
        using var reader = new StreamReader(new MemoryStream(bytes));
        while (reader.ReadLine() is { } line)
        {
            var words = line.AsSpan().Trim();
            if (words.StartsWith("vertex", StringComparison.OrdinalIgnoreCase))
            {
                if (points.Count >= MostTriangles * 3) return null;
                points.Add(PointOf(words[6..]));
            }
            else if (words.StartsWith("solid", StringComparison.OrdinalIgnoreCase)) name = words[5..].Trim().ToString();
            else if (words.StartsWith("endsolid", StringComparison.OrdinalIgnoreCase)) Close();
        }
        Close();
        return solids;

        void Close()
        {
            if (points.Count < 3) return;
            solids.Add((name.Length is > 0 and <= 200 ? name : "Mesh", [.. points.Take(points.Count / 3 * 3)]));
            points.Clear();
        }
    }
}
