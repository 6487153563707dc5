using System.Runtime.InteropServices;
using System.Text;
using System.Text.Json;
using System.Text.RegularExpressions;
using Froe.Core.Draft;
using Froe.Core.Models;
using Xunit;

namespace Froe.Formats.Tests;

/// <summary>glTF whose meshes are packed is read as it was before; what cannot be unpacked is said.</summary>
public class PackedTables
{
    private static (DraftContent? Content, string Fault) Read(byte[] file, string name = "made.glb")
    {
        var (content, fault) = Readers.For(name).Read(new MemoryStream(file), new ReadLimits());
        return (content, fault?.What ?? "");
    }

    private static SceneFacts Block(byte[] file, string name)
    {
        var (content, fault) = Read(file, name);
        Assert.True(content is not null, fault);
        Assert.Empty(content.Report().NotShown);
        Assert.Equal(12, content.Report().Entities["triangle"]);
        using var to = new MemoryStream();
        Assert.Single(content.Leaves).Forms.Single(f => f.Name == LeafForms.Scene).Write(to);
        var scene = JsonSerializer.Deserialize<SceneFacts>(to.ToArray(), FormJson.Options)!;
        Assert.Equal("Block", Assert.Single(scene.Components).Name);
        // Metres there; what is up there is our z.
        Assert.Equal([0, -500, 0, 2000, 0, 1000], scene.Box!.Select(n => (int)Math.Round(n)));
        return scene;
    }

    [Fact]
    public void AMeshThatDracoPackedIsReadWithItsColour()
    {
        // Shares of light at the corners: a fifth of it is 124 as screens have it.
        Assert.Equal("#ff007c", Assert.Single(Block(PackedModels.Draco(), "made.glb").Parts).Colour);
        Assert.Null(Assert.Single(Block(PackedModels.Draco("\"POSITION\":0"), "made.glb").Parts).Colour);
    }

    [Theory]
    [InlineData(false)]
    [InlineData(true)]
    public void WhatMeshoptimizerPackedIsReadWithFiltersAndWithout(bool isFiltered) => Block(PackedModels.Meshoptimizer(isFiltered), "made.gltf");

    /// <summary>A program may put both in; what reads one packing need not read the other (glTF 2.0, 3.12).</summary>
    [Fact]
    public void WhereThePackingIsNotRequiredWhatIsUnpackedBesideItIsRead()
    {
        float[] points = [0, 0, 0, 2, 0, 0, 2, 1, 0, 0, 1, 0, 0, 0, 0.5f, 2, 0, 0.5f, 2, 1, 0.5f, 0, 1, 0.5f];
        ushort[] corners = [0, 2, 1, 0, 3, 2, 4, 5, 6, 4, 6, 7, 0, 1, 5, 0, 5, 4, 1, 2, 6, 1, 6, 5, 2, 3, 7, 2, 7, 6, 3, 0, 4, 3, 4, 7];
        var plain = Convert.ToBase64String([.. MemoryMarshal.AsBytes<float>(points), .. MemoryMarshal.AsBytes<ushort>(corners)]);
        var text = Encoding.UTF8.GetString(PackedModels.Meshoptimizer(false, "\"byteStride\":12,\"count\":8,\"mode\":\"OTHERS\""))
            .Replace("\"extensionsRequired\":[\"EXT_meshopt_compression\"],", "", StringComparison.Ordinal)
            .Replace("{\"byteLength\":168,", $"{{\"byteLength\":168,\"uri\":\"data:application/octet-stream;base64,{plain}\",", StringComparison.Ordinal);
        Block(Encoding.UTF8.GetBytes(text), "made.gltf");
    }

    [Theory]
    [InlineData("\"byteStride\":13,\"count\":8,\"mode\":\"ATTRIBUTES\"", "The file is damaged: its packed meshes cannot be unpacked. Export it again, or without packing.")]
    [InlineData("\"byteStride\":12,\"count\":900,\"mode\":\"ATTRIBUTES\"", "The file is damaged: its packed meshes cannot be unpacked. Export it again, or without packing.")]
    [InlineData("\"byteStride\":12,\"count\":8,\"mode\":\"ATTRIBUTES\",\"filter\":\"OCTAHEDRAL\"", "The file is damaged: its packed meshes cannot be unpacked. Export it again, or without packing.")]
    [InlineData("\"byteStride\":256,\"count\":2000000000,\"mode\":\"ATTRIBUTES\"", "The file's packed meshes come to more than 1,073 MB. Export it coarser, or in parts.")]
    [InlineData("\"byteStride\":12,\"mode\":\"ATTRIBUTES\"", "The file is damaged: what it says of its packed meshes does not fit them. Export it again, or without packing.")]
    [InlineData("\"byteStride\":12,\"count\":8,\"mode\":\"OTHERS\"", "The file is damaged: what it says of its packed meshes does not fit them. Export it again, or without packing.")]
    [InlineData("\"byteStride\":12,\"count\":8,\"mode\":\"ATTRIBUTES\",\"byteOffset\":5000", "The file is damaged: what it says of its packed meshes does not fit them. Export it again, or without packing.")]
    public void WhatCannotBeUnpackedIsSaid(string points, string words) => Assert.Equal(words, Read(PackedModels.Meshoptimizer(false, points), "made.gltf").Fault);

    [Fact]
    public void DamagedMeshesAreSaidAndNothingElse()
    {
        var file = PackedModels.Draco();
        var start = file.AsSpan().IndexOf("DRACO"u8);
        for (var cut = 1; cut < 120; cut += 7)
        {
            var damaged = file.ToArray();
            Array.Clear(damaged, start, cut);
            Assert.Equal("The file is damaged: its packed meshes cannot be unpacked. Export it again, or without packing.", Read(damaged).Fault);
        }
        Assert.Equal("The file is damaged: its packed meshes cannot be unpacked. Export it again, or without packing.", Read(PackedModels.Draco("\"POSITION\":7")).Fault);
        Assert.Equal("The file is damaged: what it says of its packed meshes does not fit them. Export it again, or without packing.", Read(PackedModels.Draco("\"COLOR_0\":0")).Fault);
    }

    [Fact]
    public void WhatIsPackedInAFileThatIsNotThereIsAskedForByName()
    {
        var text = Regex.Replace(Encoding.UTF8.GetString(PackedModels.Meshoptimizer(false)), "data:[^\"]*", "points.bin");
        Assert.Equal("The model needs files that are not with it: points.bin. Upload them first, or together with it, or export it as one file (GLB).", Read(Encoding.UTF8.GetBytes(text), "made.gltf").Fault);
    }

    [Fact]
    public void APackingThatIsNotReadIsNamed()
    {
        var text = Encoding.UTF8.GetString(PackedModels.Meshoptimizer(false)).Replace("EXT_meshopt_compression", "KHR_meshopt_compression", StringComparison.Ordinal);
        Assert.Equal("The file needs KHR_meshopt_compression (glTF 2.0, 3.12), which Froe does not read. Export it without.", Read(Encoding.UTF8.GetBytes(text), "made.gltf").Fault);
    }
}
