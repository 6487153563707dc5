using System.Text;
using System.Text.Json;
using Froe.Core.Draft;
using Froe.Core.Drawing;
using Froe.Core.Models;
using Froe.Formats.Models;
using Xunit;

namespace Froe.Formats.Tests;

/// <summary>Models of several files. The tray: a plate of 60 × 40 × 5 with two pins of radius 4 and length 20, each part in a file of its own.</summary>
public sealed class BesideTables : IDisposable
{
    private readonly DirectoryInfo folder = Directory.CreateTempSubdirectory("froe-beside-");

    public void Dispose() => folder.Delete(recursive: true);

    private static string Tray(string name) => Path.Combine(ModelFiles.Root(), "tests", "cases", "tray", name);

    private FilesBeside Beside(params (string Name, byte[] Bytes)[] files)
    {
        foreach (var (name, bytes) in files) File.WriteAllBytes(Path.Combine(folder.FullName, name), bytes);
        return FilesBeside.Of(folder.FullName);
    }

    private static (SceneFacts Scene, ReaderReport Report) Read(string name, byte[] file, FilesBeside beside)
    {
        var (content, fault) = Readers.For(name).Read(new MemoryStream(file), new ReadLimits(), beside);
        Assert.True(content is not null, fault?.ToString());
        using var to = new MemoryStream();
        content.Leaves[0].Forms.Single(f => f.Name == LeafForms.Scene).Write(to);
        return (JsonSerializer.Deserialize<SceneFacts>(to.ToArray(), FormJson.Options)!, content.Report());
    }

    private static byte[] Bytes(string name) => File.ReadAllBytes(Tray(name));

    private static string[] Said(SceneFacts scene) => [.. scene.Components.Select(c => $"{c.Name} in {c.Parent}, part {c.Part?.ToString() ?? "none"}{(c.MissingFile is { } file ? $", missing {file}" : "")}")];

    [Fact]
    public void AnAssemblyIsPutTogetherFromItsFiles()
    {
        Assert.Equal(["TR-10 Tray plate.stp", "tray-pin.stp"], Readers.For("tray.stp").NamesBeside(new MemoryStream(Bytes("tray.stp"))));
        var (scene, report) = Read("tray.stp", Bytes("tray.stp"), Beside(("TR-10 Tray plate.stp", Bytes("TR-10 Tray plate.stp")), ("TRAY-PIN.STP", Bytes("tray-pin.stp"))));
        Assert.Equal(["Tray in -1, part none", "Tray plate in 0, part 0", "Tray pin in 0, part 1", "Tray pin in 0, part 1"], Said(scene));
        Assert.Equal([12000, Math.Round(Math.PI * 16 * 20, 6)], scene.Parts.Select(p => Math.Round(p.Volume!.Value, 6)));
        Assert.Equal([0, 10, 50], scene.Components.Skip(1).Select(c => c.At?[3] ?? 0));
        Assert.All(scene.Parts, p => Assert.True(p.IsExact));
        Assert.All(scene.Components.Skip(1), c => Assert.Equal("#7caabc", c.Colour));
        Assert.Equal([("TR-10 Tray plate.stp", true), ("tray-pin.stp", true)], report.Beside.Select(b => (b.Name, b.IsThere)));
        Assert.Empty(report.NotShown);
    }

    [Fact]
    public void WhatIsMissingStandsInTheTreeAndInThePartsList()
    {
        var (scene, report) = Read("tray.stp", Bytes("tray.stp"), Beside(("tray-pin.stp", Bytes("tray-pin.stp"))));
        Assert.Equal(["Tray in -1, part none", "Tray plate in 0, part none, missing TR-10 Tray plate.stp", "Tray pin in 0, part 0", "Tray pin in 0, part 0"], Said(scene));
        Assert.Equal([("TR-10 Tray plate.stp", false), ("tray-pin.stp", true)], report.Beside.Select(b => (b.Name, b.IsThere)));
        Assert.Equal("TR-10 Tray plate.stp", Assert.Single(report.NotShown).Type);
        foreach (var depth in Enum.GetValues<PartsListDepth>())
            Assert.Equal([("Tray plate", 1, null), ("Tray pin", 2, (int?)0)], PartsList.Of(scene, depth, new Dictionary<int, double>()).Select(r => (r.Name, r.Quantity, r.Part)));
    }

    [Fact]
    public void WhereAllIsMissingTheFilesAreNamed()
    {
        var (content, fault) = Readers.For("tray.stp").Read(new MemoryStream(Bytes("tray.stp")), new ReadLimits(), FilesBeside.None);
        Assert.Null(content);
        Assert.Contains("TR-10 Tray plate.stp, tray-pin.stp", fault!.What, StringComparison.Ordinal);
    }

    [Fact]
    public void AFileInItselfAndADamagedOneAreSaid()
    {
        var inItself = Encoding.Latin1.GetBytes(Encoding.Latin1.GetString(Bytes("tray.stp")).Replace("tray-pin.stp", "TR-10 Tray plate.stp", StringComparison.Ordinal).Replace("TR-10 Tray plate.stp", "loop.stp", StringComparison.Ordinal));
        var whole = Encoding.Latin1.GetBytes(Encoding.Latin1.GetString(Bytes("tray.stp")).Replace("TR-10 Tray plate.stp", "loop.stp", StringComparison.Ordinal));
        var (_, report) = Read("tray.stp", whole, Beside(("loop.stp", inItself), ("tray-pin.stp", Bytes("tray-pin.stp"))));
        Assert.Contains(report.NotShown, n => n.Type == "loop.stp" && n.Why.Contains("part of itself", StringComparison.Ordinal));
        (_, report) = Read("tray.stp", whole, Beside(("loop.stp", "hello"u8.ToArray()), ("tray-pin.stp", Bytes("tray-pin.stp"))));
        Assert.Contains(report.NotShown, n => n.Type == "loop.stp" && n.Why.Contains("no STEP file", StringComparison.Ordinal));
    }

    [Fact]
    public void AMeshTakesItsColoursFromAnotherFileAndASceneItsPoints()
    {
        const string wavefront = "mtllib paint.mtl\nv 0 0 0\nv 1 0 0\nv 0 1 0\nv 0 0 1\ng Wedge\nusemtl red\nf 1 2 3\nusemtl glass\nf 1 2 4\n";
        var (scene, report) = Read("wedge.obj", Encoding.ASCII.GetBytes(wavefront), Beside(("paint.mtl", "newmtl red\nKd 1 0 0\nnewmtl glass\nKd 0 0 1\nd 0.25\n"u8.ToArray())));
        Assert.Equal([("Wedge", "#ff0000", 1, "red"), ("Wedge", "#0000ff", 0.25, "glass")], scene.Parts.Select(p => (p.Name, p.Colour!, p.Opacity!.Value, p.Material!)));
        Assert.True(Assert.Single(report.Beside).IsThere);
        (scene, report) = Read("wedge.obj", Encoding.ASCII.GetBytes(wavefront), FilesBeside.None);
        Assert.Single(scene.Parts);
        Assert.Equal(["open side", "paint.mtl"], report.NotShown.Select(n => n.Type));
        var points = new byte[36];
        foreach (var (i, value) in ((float[])[0, 0, 0, 2, 0, 0, 0, 3, 0]).Index()) BitConverter.TryWriteBytes(points.AsSpan(4 * i), value);
        var gltf = """{"asset":{"version":"2.0"},"buffers":[{"uri":"sub/the%20points.bin","byteLength":36}],"images":[{"uri":"wood.png"}],"bufferViews":[{"buffer":0,"byteLength":36}],"accessors":[{"bufferView":0,"componentType":5126,"count":3,"type":"VEC3","min":[0,0,0],"max":[2,3,0]}],"meshes":[{"primitives":[{"attributes":{"POSITION":0}}]}],"nodes":[{"mesh":0,"name":"Flag"}],"scenes":[{"nodes":[0]}]}"""u8.ToArray();
        Assert.Equal(["the points.bin"], Readers.For("flag.gltf").NamesBeside(new MemoryStream(gltf)));
        (scene, report) = Read("flag.gltf", gltf, Beside(("the points.bin", points)));
        Assert.Equal(3e6, Assert.Single(scene.Parts).Area, 1);
        Assert.Equal([new FileBeside("the points.bin", true)], report.Beside);
        Assert.Contains("the points.bin", Readers.For("flag.gltf").Read(new MemoryStream(gltf), new ReadLimits()).Fault!.What, StringComparison.Ordinal);
    }

    [Fact]
    public void NamesThatDifferInCapitalsAloneAreOne()
    {
        var beside = Beside(("pin.stp", "small"u8.ToArray()), ("PIN.STP", "large"u8.ToArray()));
        using var found = new StreamReader(beside.Open("Pin.stp")!);
        Assert.Equal("large", found.ReadToEnd());
    }

    [Theory]
    [InlineData("a.stp", "a.stp")]
    [InlineData(@"C:\parts\a b.stp", "a b.stp")]
    [InlineData("../../etc/passwd", "passwd")]
    [InlineData("file:a.stp", "a.stp")]
    [InlineData("..", "")]
    [InlineData("a\0.stp", "")]
    public void AFileIsNamedWithoutItsFolders(string reference, string name) => Assert.Equal(name, FilesBeside.NameOf(reference));

    /// <summary>Whatever is put into whatever: as many parts stand in the whole as in what it is made of, each where its place and its own file say.</summary>
    [Fact]
    public void WhatIsPutTogetherIsAllThereAndNothingElse()
    {
        var chance = new Random(7);
        for (var run = 0; run < 300; run++)
        {
            var others = Enumerable.Range(0, 3).ToDictionary(i => $"{i}.stp", _ => Random(chance, 6));
            var own = Random(chance, 12);
            var places = Enumerable.Range(0, own.Parts.Count).Where(_ => chance.Next(2) == 0).ToDictionary(p => p, _ => $"{chance.Next(4)}.stp");
            var whole = PuttingTogether.Of(own, places, others)!;
            var expected = own.Placed().SelectMany(p => !places.TryGetValue(p.Part, out var file) ? [(own.Parts[p.Part].Name, p.At)]
                : others.TryGetValue(file, out var other) ? other.Placed().Select(o => (other.Parts[o.Part].Name, p.At.After(o.At))) : []).ToList();
            var got = whole.Placed().Select(p => (whole.Parts[p.Part].Name, p.At)).ToList();
            Assert.Equal(expected.Select(Words).Order(), got.Select(Words).Order());
            // What was said of the assembly's own components stays true.
            Assert.All(own.Components.Index(), c => Assert.Equal((c.Item.Parent, c.Item.Name), (whole.Components[c.Index].Parent, whole.Components[c.Index].Name)));
            Assert.Equal(own.Placed().Count(p => places.TryGetValue(p.Part, out var file) && !others.ContainsKey(file)), whole.Components.Count(c => c.MissingFile is not null));
            Assert.All(whole.Components.Index(), c => Assert.True(c.Item.Parent < c.Index));
        }

        static string Words((string Name, Affine At) one) => $"{one.Name} {Math.Round(one.At.O.X, 6)} {Math.Round(one.At.O.Y, 6)}";
    }

    private static Scene Random(Random chance, int most)
    {
        var parts = Enumerable.Range(0, 1 + chance.Next(4)).Select(_ => new Part($"{chance.Next()}", "", null, null, new Mesh([], [], [], [0]), [], [], null, 0)).ToList();
        var components = new List<Component>();
        for (var i = 0; i < 1 + chance.Next(most); i++)
        {
            var parents = Enumerable.Range(0, i).Where(c => components[c].Part is null).Append(-1).ToList();
            components.Add(new Component($"{i}", "", "", parents[chance.Next(parents.Count)], Affine.Identity with { O = new(chance.Next(9), chance.Next(9), 0) }, null, chance.Next(3) == 0 ? null : chance.Next(parts.Count)));
        }
        return new Scene(LengthUnit.Millimetre, components, parts);
    }
}
