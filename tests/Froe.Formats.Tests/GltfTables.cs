using System.Text.Json;
using Froe.Core.Draft;
using Froe.Core.Models;
using Xunit;
using static Froe.Formats.Tests.ModelFiles;

namespace Froe.Formats.Tests;

/// <summary>What programs put into glTF besides meshes at one place each: one mesh at many places, colours at corners, bones, shape targets.</summary>
public class GltfTables
{
    /// <summary>A box of a metre whose corners have colours, with three places and a shape target that nothing need refer to.</summary>
    /// <param name="colours">The colour at each of its eight corners.</param>
    private static byte[] Made(string nodes, string primitive = "", string mesh = "", string more = "", float[][]? colours = null, ushort? corner = null, int places = 3)
    {
        using var to = new MemoryStream();
        using var write = new BinaryWriter(to);
        void Floats(params float[] values)
        {
            foreach (var value in values) write.Write(value);
        }
        for (var i = 0; i < 8; i++) Floats((float)Corner(i, 1).X, (float)Corner(i, 1).Y, (float)Corner(i, 1).Z);
        foreach (var (n, at) in BoxCorners.Index()) write.Write(n == 0 && corner is { } other ? other : (ushort)at);
        for (var i = 0; i < 8; i++) Floats(colours?[i] ?? [1, 1, 1]);
        for (var i = 0; i < 8; i++) Floats(0, 1, 0);
        for (var i = 0; i < places; i++) Floats(5 * i, 0, 0);
        var views = $$"""
            "accessors":[{"bufferView":0,"componentType":5126,"count":8,"type":"VEC3","min":[0,0,0],"max":[1,1,1]},{"bufferView":1,"componentType":5123,"count":36,"type":"SCALAR"},
            {"bufferView":2,"componentType":5126,"count":{{places}},"type":"VEC3"},{"bufferView":3,"componentType":5126,"count":8,"type":"VEC3"},{"bufferView":4,"componentType":5126,"count":8,"type":"VEC3","min":[0,1,0],"max":[0,1,0]}],
            "bufferViews":[{"buffer":0,"byteOffset":0,"byteLength":96},{"buffer":0,"byteOffset":96,"byteLength":72},{"buffer":0,"byteOffset":360,"byteLength":{{12 * places}}},{"buffer":0,"byteOffset":168,"byteLength":96},{"buffer":0,"byteOffset":264,"byteLength":96}],
            "buffers":[{"byteLength":{{360 + (12 * places)}}}]
            """;
        return Glb(
            $$"""{"asset":{"version":"2.0"},"scene":0,"scenes":[{"nodes":[0]}],"nodes":[{{nodes}}],"meshes":[{"name":"Bolt","primitives":[{"attributes":{"POSITION":0{{primitive}}},"indices":1{{mesh}}}]}],{{more}}{{views}}}""", to.ToArray());
    }

    private static (SceneFacts Scene, ReaderReport Report) Read(byte[] file)
    {
        var (content, fault) = Readers.For("made.glb").Read(new MemoryStream(file), new ReadLimits());
        Assert.True(content is not null, fault?.ToString());
        using var to = new MemoryStream();
        Assert.Single(content.Leaves).Forms.Single(f => f.Name == LeafForms.Scene).Write(to);
        return (JsonSerializer.Deserialize<SceneFacts>(to.ToArray(), FormJson.Options)!, content.Report());
    }

    private static string Told(ReaderReport report) => string.Join(", ", report.NotShown.Select(n => $"{n.Count} {n.Type}"));

    private static int[] Box(SceneFacts scene) => [.. scene.Box!.Select(n => (int)Math.Round(n))];

    [Fact]
    public void OneMeshAtManyPlacesIsAsManyComponents()
    {
        const string Node = """{"name":"Bolts","mesh":0,"translation":[0,0,2],"extensions":{"EXT_mesh_gpu_instancing":{"attributes":{"TRANSLATION":2}}}}""";
        var (scene, report) = Read(Made(Node, more: "\"extensionsUsed\":[\"EXT_mesh_gpu_instancing\"],\"extensionsRequired\":[\"EXT_mesh_gpu_instancing\"],"));
        Assert.Equal([("Bolts", -1), ("Bolt", 0), ("Bolt", 0), ("Bolt", 0)], scene.Components.Select(c => (c.Name, c.Parent)));
        // x from the first to the last; z of the file, moved by two, is our -y.
        Assert.Equal([0, -3000, 0, 11_000, -2000, 1000], Box(scene));
        Assert.Equal("", Told(report));
        Assert.Single(scene.Parts);
    }

    /// <summary>Tables as programs lay them: points by themselves or with normals between, of floats or of bytes; corners of 8, 16 and 32 bits, behind others.</summary>
    [Theory]
    [InlineData(0, 5121, 5126)]
    [InlineData(0, 5123, 5126)]
    [InlineData(0, 5125, 5126)]
    [InlineData(24, 5125, 5126)]
    [InlineData(24, 5123, 5126)]
    [InlineData(4, 5125, 5121)]
    public void TablesAreReadHoweverTheyAreLaid(int stride, int corners, int numbers)
    {
        using var to = new MemoryStream();
        using var write = new BinaryWriter(to);
        for (var i = 0; i < 8; i++)
        {
            foreach (var n in (double[])[Corner(i, 1).X, Corner(i, 1).Y, Corner(i, 1).Z])
            {
                if (numbers == 5121) write.Write((byte)n);
                else write.Write((float)n);
            }
            for (var k = numbers == 5121 ? 3 : 12; k < stride; k++) write.Write((byte)99);
        }
        var points = to.Length;
        // The last triangle has a corner that is not there.
        foreach (var at in (int[])[7, 7, 7, .. BoxCorners, 0, 1, 200])
        {
            if (corners == 5121) write.Write((byte)at);
            else if (corners == 5123) write.Write((ushort)at);
            else write.Write(at);
        }
        var length = (to.Length - points) / (BoxCorners.Length + 6);
        while (to.Length % 4 != 0) write.Write((byte)0);
        var (scene, report) = Read(Glb(
            $$"""
            {"asset":{"version":"2.0"},"scene":0,"scenes":[{"nodes":[0]}],"nodes":[{"mesh":0}],"meshes":[{"primitives":[{"attributes":{"POSITION":0},"indices":1}]}],
            "accessors":[{"bufferView":0,"componentType":{{numbers}},"count":8,"type":"VEC3","min":[0,0,0],"max":[1,1,1]},{"bufferView":1,"byteOffset":{{3 * length}},"componentType":{{corners}},"count":{{BoxCorners.Length + 3}},"type":"SCALAR"}],
            "bufferViews":[{"buffer":0,"byteLength":{{points}}{{(stride > 0 ? $",\"byteStride\":{stride}" : "")}}},{"buffer":0,"byteOffset":{{points}},"byteLength":{{to.Length - points}}}],
            "buffers":[{"byteLength":{{to.Length}}}]{{(numbers == 5121 ? ",\"extensionsUsed\":[\"KHR_mesh_quantization\"],\"extensionsRequired\":[\"KHR_mesh_quantization\"]" : "")}}}
            """, to.ToArray()));
        Assert.Equal([0, -1000, 0, 1000, 0, 1000], Box(scene));
        Assert.Equal((12, 6), (scene.Parts[0].Block.Triangles, scene.Parts[0].Block.Faces));
        Assert.Equal("1 triangle", Told(report));
    }

    [Fact]
    public void MorePlacesThanAModelMayHaveAreRefusedInWords()
    {
        const string Node = """{"mesh":0,"extensions":{"EXT_mesh_gpu_instancing":{"attributes":{"TRANSLATION":2}}}}""";
        var (content, fault) = Readers.For("made.glb").Read(new MemoryStream(Made(Node, more: "\"extensionsUsed\":[\"EXT_mesh_gpu_instancing\"],", places: 200_001)), new ReadLimits());
        Assert.Null(content);
        Assert.Contains("components", fault!.What, StringComparison.Ordinal);
    }

    [Fact]
    public void AColourThatAllCornersHaveIsThePartsAndManyAreTold()
    {
        static float[][] All(float[] colour) => [.. Enumerable.Repeat(colour, 8)];
        var (scene, report) = Read(Made("""{"mesh":0}""", ",\"COLOR_0\":3", colours: All([1, 0.2158605f, 0])));
        Assert.Equal(("#ff8000", ""), (scene.Parts[0].Colour, Told(report)));
        // With a material it is multiplied.
        (scene, _) = Read(Made("""{"mesh":0}""", ",\"COLOR_0\":3", ",\"material\":0", "\"materials\":[{\"pbrMetallicRoughness\":{\"baseColorFactor\":[0,1,1,1]}}],", All([1, 0.2158605f, 0])));
        Assert.Equal("#008000", scene.Parts[0].Colour);
        (_, report) = Read(Made("""{"mesh":0}""", ",\"COLOR_0\":3", colours: [[1, 0, 0], .. All([0, 0, 1])[1..]]));
        Assert.Equal("1 colours of a mesh's corners", Told(report));
    }

    [Fact]
    public void WhatBonesAndShapeTargetsWouldDoIsTold()
    {
        var (scene, report) = Read(Made("""{"mesh":0,"skin":0},{"name":"bone"}""", more: "\"skins\":[{\"joints\":[1]}],"));
        Assert.Equal("1 bending by bones", Told(report));
        Assert.Equal([0, -1000, 0, 1000, 0, 1000], Box(scene));
        Assert.Equal("1 change by shape targets", Told(Read(Made("""{"mesh":0,"weights":[0.5]}""", mesh: ",\"targets\":[{\"POSITION\":4}]")).Report));
        Assert.Equal("", Told(Read(Made("""{"mesh":0,"weights":[0]}""", mesh: ",\"targets\":[{\"POSITION\":4}]")).Report));
    }

    [Fact]
    public void ATriangleWithACornerThatIsNotThereIsToldAndTheOthersAreShown()
    {
        var (scene, report) = Read(Made("""{"mesh":0}""", corner: 60_000));
        Assert.Contains(report.NotShown, n => n is { Type: "triangle", Count: 1 } && n.Why.Contains("not there", StringComparison.Ordinal));
        Assert.Equal([0, -1000, 0, 1000, 0, 1000], Box(scene));
    }

    /// <summary>Scaled unequally above and turned below, a component is sheared: its placement is the file's matrices and no guess at scale and turn.</summary>
    [Fact]
    public void UnequalScalesAboveATurnShear()
    {
        const double Half = 0.70710678118654752;
        var (scene, _) = Read(Made($$"""{"name":"above","scale":[2,1,1],"children":[1]},{"mesh":0,"rotation":[0,0,{{Math.Sin(Math.PI / 8):R}},{{Math.Cos(Math.PI / 8):R}}]}"""));
        // The unit square turned by 45° spans ±√½ in x and √2 in y; then x is doubled.
        Assert.Equal([-2 * Half * 1000, 2 * Half * 1000, 0, 2 * Half * 1000], new[] { scene.Box![0], scene.Box[3], scene.Box[2], scene.Box[5] }.Select(n => Math.Round(n, 3)), (a, b) => Math.Abs(a - b) < 0.01);
    }
}
