using System.Buffers.Binary;
using System.IO.Compression;
using System.Text;
using Froe.Core.Drawing;

namespace Froe.Formats.Tests;

/// <summary>Small models of every format.</summary>
internal static class ModelFiles
{
    public static int[] BoxCorners { get; } = [0, 2, 1, 1, 2, 3, 4, 5, 6, 5, 7, 6, 0, 1, 4, 1, 5, 4, 2, 6, 3, 3, 6, 7, 0, 4, 2, 2, 4, 6, 1, 3, 5, 3, 7, 5];

    public static Point3 Corner(int i, double size) => new((i & 1) * size, ((i >> 1) & 1) * size, ((i >> 2) & 1) * size);

    public static Point3[] LooseBox(double size) => [.. BoxCorners.Select(i => Corner(i, size))];

    public static byte[] Stl(params Point3[] points)
    {
        var file = new byte[84 + (points.Length / 3 * 50)];
        // As some programs begin them.
        "solid made by somebody"u8.CopyTo(file);
        BinaryPrimitives.WriteInt32LittleEndian(file.AsSpan(80), points.Length / 3);
        for (var i = 0; i < points.Length; i++)
        {
            var at = file.AsSpan(84 + (i / 3 * 50) + 12 + (i % 3 * 12));
            BinaryPrimitives.WriteSingleLittleEndian(at, (float)points[i].X);
            BinaryPrimitives.WriteSingleLittleEndian(at[4..], (float)points[i].Y);
            BinaryPrimitives.WriteSingleLittleEndian(at[8..], (float)points[i].Z);
        }
        return file;
    }

    public static byte[] ThreeMf(string model)
    {
        using var to = new MemoryStream();
        using (var zip = new ZipArchive(to, ZipArchiveMode.Create, leaveOpen: true))
        using (var part = new StreamWriter(zip.CreateEntry("3D/3dmodel.model").Open())) part.Write(model);
        return to.ToArray();
    }

    public static byte[] Glb(string json, byte[] bytes)
    {
        var head = Encoding.UTF8.GetBytes(json);
        Array.Resize(ref head, (head.Length + 3) / 4 * 4);
        for (var i = Encoding.UTF8.GetByteCount(json); i < head.Length; i++) head[i] = (byte)' ';
        Array.Resize(ref bytes, (bytes.Length + 3) / 4 * 4);
        using var to = new MemoryStream();
        using var write = new BinaryWriter(to);
        write.Write("glTF"u8);
        foreach (var number in (int[])[2, 28 + head.Length + bytes.Length, head.Length, 0x4E4F534A]) write.Write(number);
        write.Write(head);
        write.Write(bytes.Length);
        write.Write(0x004E4942);
        write.Write(bytes);
        return to.ToArray();
    }

    public static byte[] GlbBox()
    {
        using var to = new MemoryStream();
        using var write = new BinaryWriter(to);
        for (var i = 0; i < 8; i++)
        {
            var p = Corner(i, 1);
            foreach (var value in (float[])[(float)p.X, (float)p.Y, (float)p.Z]) write.Write(value);
        }
        foreach (var corner in BoxCorners) write.Write((ushort)corner);
        return Glb(
            """
            {"asset":{"version":"2.0"},"scene":0,"scenes":[{"nodes":[0]}],"nodes":[{"name":"Eye","translation":[0,2,0],"children":[1]},{"name":"Ring","mesh":0}],"meshes":[{"name":"Box","primitives":[{"attributes":{"POSITION":0},"indices":1,"material":0}]}],
            "materials":[{"name":"Steel","pbrMetallicRoughness":{"baseColorFactor":[1,0.2158605,0,1]}}],
            "accessors":[{"bufferView":0,"componentType":5126,"count":8,"type":"VEC3","min":[0,0,0],"max":[1,1,1]},{"bufferView":1,"componentType":5123,"count":36,"type":"SCALAR"}],
            "bufferViews":[{"buffer":0,"byteOffset":0,"byteLength":96},{"buffer":0,"byteOffset":96,"byteLength":72}],"buffers":[{"byteLength":168}]}
            """, to.ToArray());
    }

    /// <summary>A block with a bore, as IGES.</summary>
    public static byte[] BoredBlock() => File.ReadAllBytes(Path.Combine(Root(), "tests", "cases", "bored-block.igs"));

    /// <summary>The demo's fork mount, as STEP.</summary>
    public static byte[] Mount(int draft) => File.ReadAllBytes(Path.Combine(Root(), "demo", "drawings", $"TO-3300_A{draft}.stp"));

    /// <summary>A plate whose bore is stated and drawn.</summary>
    public static byte[] DrawnPlate() => File.ReadAllBytes(Path.Combine(Root(), "tests", "cases", "drawn", "plate.stp"));

    /// <summary>An assembly whose parts are in other files.</summary>
    public static byte[] Tray() => File.ReadAllBytes(Path.Combine(Root(), "tests", "cases", "tray", "tray.stp"));

    public static string Root()
    {
        var folder = new DirectoryInfo(AppContext.BaseDirectory);
        while (!File.Exists(Path.Combine(folder.FullName, "Froe.slnx"))) folder = folder.Parent!;
        return folder.FullName;
    }
}
