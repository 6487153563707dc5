using System.IO.Compression;
using System.Text;
using System.Text.Json;
using Froe.Core.Draft;
using Froe.Core.Drawing;
using Froe.Core.Models;
using Xunit;
using static Froe.Formats.Tests.ModelFiles;

namespace Froe.Formats.Tests;

/// <summary>Models of every format: what they hold, what is said of them.</summary>
public class ModelFileTables
{
    private static (DraftContent? Content, ReadFault? Fault) Read(string name, byte[] file) => Readers.For(name).Read(new MemoryStream(file), new ReadLimits());

    private static (SceneFacts Scene, ExactFacts Exact, ReaderReport Report) Scene(string name, byte[] file)
    {
        var (content, fault) = Read(name, file);
        Assert.True(content is not null, fault?.ToString());
        var leaf = Assert.Single(content.Leaves);
        T Form<T>(string form)
        {
            using var to = new MemoryStream();
            leaf.Forms.Single(f => f.Name == form).Write(to);
            return JsonSerializer.Deserialize<T>(to.ToArray(), FormJson.Options)!;
        }
        return (Form<SceneFacts>(LeafForms.Scene), Form<ExactFacts>(LeafForms.Exact), content.Report());
    }

    [Fact]
    public void AnStlFileIsBinaryByItsLengthWhateverItBeginsWith()
    {
        var file = Stl(LooseBox(20));
        var (scene, _, report) = Scene("trial.stl", file);
        Assert.Equal(LengthUnit.Unknown, scene.Unit);
        Assert.Equal((8000, 2400), (Math.Round(scene.Parts[0].Volume!.Value, 3), Math.Round(scene.Parts[0].Area, 3)));
        Assert.False(scene.Parts[0].IsExact);
        Assert.Empty(report.NotShown);
        Assert.Contains("cut off", Read("trial.stl", file[..^1]).Fault!.What, StringComparison.Ordinal);
        Assert.NotNull(Read("trial.stl", "hello"u8.ToArray()).Fault);
        Assert.NotNull(Read("trial.stl", []).Fault);
    }

    [Fact]
    public void AnStlFileThatIsWrittenOutHasAPartForEachSolid()
    {
        var text = new StringBuilder();
        foreach (var (name, size) in (ReadOnlySpan<(string, double)>)[("Lug", 2), ("Eye", 3)])
        {
            text.Append(System.Globalization.CultureInfo.InvariantCulture, $"solid {name}\n");
            foreach (var three in LooseBox(size).Chunk(3))
                text.Append(System.Globalization.CultureInfo.InvariantCulture, $" facet normal 0 0 0\n  outer loop\n{string.Concat(three.Select(p => $"   vertex {p.X:e5} {p.Y} {p.Z}\n"))}  endloop\n endfacet\n");
            text.Append(System.Globalization.CultureInfo.InvariantCulture, $"endsolid {name}\n");
        }
        var (scene, _, _) = Scene("trial.stl", Encoding.ASCII.GetBytes(text.ToString()));
        Assert.Equal([("Lug", 8), ("Eye", 27)], scene.Parts.Select(p => (p.Name, (int)Math.Round(p.Volume!.Value))));
        var (capitals, _, _) = Scene("trial.stl", Encoding.ASCII.GetBytes(text.ToString().ToUpperInvariant()));
        Assert.Equal([("LUG", 8), ("EYE", 27)], capitals.Parts.Select(p => (p.Name, (int)Math.Round(p.Volume!.Value))));
    }

    [Fact]
    public void AnObjFileCountsFromOneOrBackwardsAndHasPolygons()
    {
        var points = string.Concat(Enumerable.Range(0, 8).Select(i => Corner(i, 10)).Select(p => $"v {p.X} {p.Y} {p.Z}\n"));
        var text = $"# made\nmtllib colours.mtl\n{points}o Block\nf 1/1/1 3 4 2\nf -4 -3 -1 -2\nf 1 2 6 5\nf 3 7 8 4\nf 1 5 7 3\nf 2 4 8 6\nf 1 2 99\n";
        foreach (var encoding in (Encoding[])[new UTF8Encoding(false), new UnicodeEncoding(false, true)])
        {
            var (scene, _, report) = Scene("block.obj", [.. encoding.GetPreamble(), .. encoding.GetBytes(text)]);
            Assert.Equal(("Block", 1000), (scene.Parts[0].Name, (int)Math.Round(Math.Abs(scene.Parts[0].Volume!.Value))));
            Assert.Equal(["face", "colours.mtl"], report.NotShown.Select(n => n.Type));
        }
        Assert.NotNull(Read("block.obj", "v 0 0 0\n"u8.ToArray()).Fault);
        Assert.NotNull(Read("block.obj", "v nan inf 0\nv 1 0 0\nv 1 1 1e999\nf 1 2 3\n"u8.ToArray()).Fault);
    }

    [Fact]
    public void NamesOfOtherProgramsFitALineAndTurnNothingRound()
    {
        var points = string.Concat(Enumerable.Range(0, 8).Select(i => Corner(i, 10)).Select(p => $"v {p.X} {p.Y} {p.Z}\n"));
        var (scene, _, _) = Scene("block.obj", Encoding.UTF8.GetBytes($"{points}o Flange \u202Eeman\u202C\tleft\nf 1 3 4 2\no {new string('ü', 199)}\nf 5 6 8 7\n"));
        Assert.Equal(["Flange eman left", new string('ü', 180) + "…"], scene.Components.Select(c => c.Name));
    }

    [Fact]
    public void A3mfFileHasItsUnitItsColoursAndItsComponentsWhereTheyStand()
    {
        var mesh = $"<mesh><vertices>{string.Concat(Enumerable.Range(0, 8).Select(i => Corner(i, 1)).Select(p => $"<vertex x='{p.X}' y='{p.Y}' z='{p.Z}'/>"))}</vertices><triangles>{string.Concat(BoxCorners.Chunk(3).Select(t => $"<triangle v1='{t[0]}' v2='{t[1]}' v3='{t[2]}'/>"))}</triangles></mesh>";
        var file = $"<model unit='inch' xmlns='http://schemas.microsoft.com/3dmanufacturing/core/2015/02'><resources><basematerials id='5'><base name='Red' displaycolor='#CC2010'/></basematerials><object id='1' name='Cube' partnumber='TO-9' pid='5' pindex='0'>{mesh}</object><object id='2' name='Pair'><components><component objectid='1'/><component objectid='1' transform='1 0 0 0 1 0 0 0 1 3 0 0'/></components></object></resources><build><item objectid='2' transform='0 1 0 -1 0 0 0 0 1 0 0 2'/></build></model>";
        var (scene, _, report) = Scene("pair.3mf", ThreeMf(file));
        Assert.Equal((LengthUnit.Millimetre, "in inches"), (scene.Unit, report.Version));
        Assert.Equal([("Pair", -1), ("Cube", 0), ("Cube", 0)], scene.Components.Select(c => (c.Name, c.Parent)));
        Assert.Equal("#cc2010", scene.Parts[0].Colour);
        Assert.Equal("TO-9", scene.Parts[0].Number);
        Assert.Equal([-25.4, 0, 50.8, 0, 101.6, 76.2], scene.Box!.Select(n => Math.Round(n, 6)));
        Assert.Empty(report.NotShown);
        Assert.NotNull(Read("pair.3mf", ThreeMf("<!DOCTYPE model [<!ENTITY a 'b'>]>" + file)).Fault);
        Assert.NotNull(Read("pair.3mf", ThreeMf(file[..900])).Fault);
        // An object that is made of itself comes to an end.
        Assert.NotNull(Read("pair.3mf", ThreeMf("<model><resources><object id='1'><components><component objectid='1'/></components></object></resources><build><item objectid='1'/></build></model>")).Fault);
    }

    [Fact]
    public void WhatIsPlacedWithoutEndIsRefusedInWords()
    {
        // A strip of a thousand triangles, eight times four of it within one another: 65 million.
        var points = string.Concat(Enumerable.Range(0, 1002).Select(i => $"<vertex x='{i / 2}' y='{i % 2}' z='0'/>"));
        var strip = string.Concat(Enumerable.Range(0, 1000).Select(i => $"<triangle v1='{i}' v2='{i + 1}' v3='{i + 2}'/>"));
        var nested = string.Concat(Enumerable.Range(2, 8).Select(i => $"<object id='{i}'><components>{string.Concat(Enumerable.Repeat($"<component objectid='{i - 1}'/>", 4))}</components></object>"));
        var (_, fault) = Read("strip.3mf", ThreeMf($"<model><resources><object id='1'><mesh><vertices>{points}</vertices><triangles>{strip}</triangles></mesh></object>{nested}</resources><build><item objectid='9'/></build></model>"));
        Assert.Contains("places 65,536,000 triangles", fault!.What, StringComparison.Ordinal);
    }

    /// <summary>A block of 60 × 40 × 20 with a bore of Ø 16 through its middle, as its own library writes it.</summary>
    [Fact]
    public void AnIgesFileHasItsFacesAndItsExactBore()
    {
        var file = BoredBlock();
        var (scene, exact, report) = Scene("block.igs", file);
        Assert.Equal("IGES", report.Format);
        Assert.Equal([0, 0, 0, 60, 40, 20], scene.Box!.Select(n => Math.Round(n, 3)));
        var bore = Assert.Single(exact.Parts.SelectMany(p => p.Faces), f => f.Surface == SurfaceKind.Cylinder);
        Assert.Equal((8, true), (Math.Round(bore.Radius, 6), Math.Abs(bore.Along.Z) > 0.999999));
        Assert.Equal(2 * Math.PI * 8 * 20, bore.Area!.Value, 1e-3);
        Assert.NotNull(Read("block.igs", file[..2000]).Fault);
    }

    [Fact]
    public void AGlbFileIsInMetresWithYUp()
    {
        var (scene, _, _) = Scene("eye.glb", GlbBox());
        Assert.Equal(LengthUnit.Millimetre, scene.Unit);
        Assert.Equal([("Eye", -1), ("Ring", 0)], scene.Components.Select(c => (c.Name, c.Parent)));
        Assert.Equal([0, -1000, 2000, 1000, 0, 3000], scene.Box!.Select(n => Math.Round(n, 3)));
        Assert.Equal(1e9, scene.Parts[0].Volume!.Value, 1);
        Assert.Equal(("#ff8000", "Steel"), (scene.Parts[0].Colour, scene.Parts[0].Material));
        Assert.NotNull(Read("eye.glb", GlbBox()[..200]).Fault);
        Assert.Contains("other.bin", Read("eye.gltf", """{"asset":{"version":"2.0"},"buffers":[{"uri":"other.bin","byteLength":4}]}"""u8.ToArray()).Fault!.What, StringComparison.Ordinal);
    }

    /// <summary>Volumes of parts with known formulas, to a millionth, as the exact shape has them.</summary>
    [Fact]
    public void PartsOfAStepFileHaveTheirExactVolumesAndAreas()
    {
        var (scene, exact, report) = Scene("mount.stp", Mount(1));
        Assert.Equal("AP242, in millimetres", report.Version);
        var known = new Dictionary<string, (double Volume, double Area)>
        {
            ["Bush"] = (Math.PI * ((30 * 30) - (22 * 22)) * 40, Math.PI * ((2 * ((30 * 30) - (22 * 22))) + (2 * (30 + 22) * 40))),
            ["Washer 10"] = (Math.PI * ((10 * 10) - (5.25 * 5.25)) * 2, Math.PI * ((2 * ((10 * 10) - (5.25 * 5.25))) + (2 * (10 + 5.25) * 2))),
            ["Encoder disc"] = (Math.PI * ((75 * 75) - (22 * 22)) * 3, Math.PI * ((2 * ((75 * 75) - (22 * 22))) + (2 * (75 + 22) * 3))),
            ["Shim 1"] = (40 * 180, (2 * 40 * 180) + (2 * (40 + 180))),
            ["Declination shaft"] = (Math.PI * ((22 * 22 * 260) + (32 * 32 * 120) - (8 * 8 * 380)), double.NaN),
        };
        foreach (var (name, (volume, area)) in known)
        {
            var part = scene.Parts.Single(p => p.Name == name);
            Assert.True(part.IsExact);
            Assert.Equal(volume, part.Volume!.Value, volume * 1e-6);
            if (!double.IsNaN(area)) Assert.Equal(area, part.Area, area * 1e-6);
        }
        // Faces know what they are: the bush has two cylinders and two planes, of which one is hollow.
        var bush = exact.Parts[scene.Parts.Select((p, i) => (p, i)).Single(p => p.p.Name == "Bush").i];
        Assert.Equal([(SurfaceKind.Plane, 0, false), (SurfaceKind.Plane, 0, false), (SurfaceKind.Cylinder, 22, true), (SurfaceKind.Cylinder, 30, false)],
            bush.Faces.Select(f => (f.Surface, Math.Round(f.Radius, 9), f.IsHollow)).OrderBy(f => f).Select(f => (f.Surface, f.Item2, f.IsHollow)));
        Assert.Equal(4, bush.Edges.Count(e => e is { Curve: CurveKind.Circle, IsSmooth: false }));
    }

    [Fact]
    public void AStepFileHasItsTreeItsColoursAndItsMaterials()
    {
        var (scene, _, report) = Scene("mount.stp", Mount(2));
        Assert.Empty(report.NotShown);
        Assert.True(scene.Parts.Count >= 12 && scene.Components.Count(c => c.Part is not null) >= 30);
        Assert.Equal("Fork mount", Assert.Single(scene.Components, c => c.Parent < 0).Name);
        Assert.Equal(["East", "West"], scene.Components.Where(c => c.Name == "Bearing side").Select(c => c.Instance));
        var arm = scene.Parts.Single(p => p.Name == "Fork arm");
        Assert.Equal("EN-GJS-400-15", arm.Material);
        var colour = scene.Components.First(c => c.Name == "Fork arm").Colour ?? arm.Colour;
        Assert.Equal("#aba89e", colour);
    }

    [Fact]
    public void WhatAStepFileStatesOfItsPartsIsReadWithTheFacesItSpeaksOf()
    {
        var (scene, exact, _) = Scene("mount.stp", Mount(2));
        Assert.Equal(
            ["Size Bore of the bearing: Ø62 +0.03 / 0, of Fork arm", "Size diameter: Ø44 -0.009 / -0.025, of Declination shaft", "Tolerance Bore of the bearing: parallelism 0.02 to A, of Fork arm", "Datum : datum A, of Fork arm"],
            scene.Dimensions.Select(d => $"{d.Kind} {d.Name}: {d.Words}, of {scene.Parts[d.Part].Name}"));
        Face On(int i) => exact.Parts[scene.Dimensions[i].Part].Faces[Assert.Single(scene.Dimensions[i].Faces)];
        Assert.Equal([(SurfaceKind.Cylinder, 31.0), (SurfaceKind.Cylinder, 22.0), (SurfaceKind.Cylinder, 31.0)], Enumerable.Range(0, 3).Select(i => (On(i).Surface, Math.Round(On(i).Radius, 9))));
        // The datum is the foot.
        Assert.Equal((SurfaceKind.Plane, new Point3(0, 0, -1)), (On(3).Surface, On(3).Along));
        Assert.Equal("TO-3311", scene.Parts[scene.Dimensions[0].Part].Number);
    }

    [Fact]
    public void APackedStepFileIsTheSame()
    {
        using var to = new MemoryStream();
        using (var gzip = new GZipStream(to, CompressionLevel.Fastest, leaveOpen: true)) gzip.Write(Mount(1));
        Assert.Equal(Scene("mount.stp", Mount(1)).Scene.Parts.Select(p => p.Volume), Scene("mount.stpz", to.ToArray()).Scene.Parts.Select(p => p.Volume));
        Assert.NotNull(Read("mount.stpz", to.ToArray()[..1000]).Fault);
    }

    [Fact]
    public void WhatIsMissingOfAStepFileIsSaid()
    {
        var text = Encoding.Latin1.GetString(Mount(1));
        // A face is gone, and so is what the file says is in another.
        var at = text.LastIndexOf("ADVANCED_FACE('',(", StringComparison.Ordinal);
        var damaged = text[..at] + "ADVANCED_FACE('',(#99999999" + text[(at + 18)..].TrimStart('#', '0', '1', '2', '3', '4', '5', '6', '7', '8', '9');
        damaged = damaged.Replace("ENDSEC;\nEND-ISO", "#9000001=DOCUMENT_FILE('lug.stp','','',#9000002,'','');\nENDSEC;\nEND-ISO", StringComparison.Ordinal);
        var (content, fault) = Read("mount.stp", Encoding.Latin1.GetBytes(damaged));
        Assert.True(content is not null, fault?.ToString());
        Assert.Contains(content.Report().NotShown, n => n.Type == "lug.stp");
        Assert.NotNull(Read("mount.stp", "ISO-10303-21;\nHEADER;ENDSEC;\nDATA;\nENDSEC;\nEND-ISO-10303-21;\n"u8.ToArray()).Fault);
        Assert.Contains("no STEP file", Read("mount.stp", "hello"u8.ToArray()).Fault!.What, StringComparison.Ordinal);
    }

    /// <summary>What cannot be read is said in the reader's words, with what to do; a library's words for programmers are not shown.</summary>
    [Theory]
    [InlineData("""{"asset":{"version":"1.0"},"meshes":{"m":{"primitives":[]}},"nodes":{}}""", "This is glTF 1.0. Export it as glTF 2.0 or GLB.")]
    [InlineData("""{"meshes":{"m":{"primitives":[]}},"nodes":{}}""", "This is glTF 1.0. Export it as glTF 2.0 or GLB.")]
    [InlineData("""{"asset":{"version":"2.0"},"extensionsUsed":["KHR_packed_otherwise"],"extensionsRequired":["KHR_packed_otherwise"]}""", "The file needs KHR_packed_otherwise (glTF 2.0, 3.12), which Froe does not read. Export it without.")]
    [InlineData("""{"asset":{"version":"2.0"},"nodes":"none"}""", "The file is not built as glTF 2.0 has it. Export it again, or as GLB.")]
    [InlineData("{\"asset\":{\"version\":\"2.0\"},\n\"nodes\": [ oh ]}", "The file is damaged: its line 2 is not JSON. Export it again.")]
    [InlineData("[]", "The file is not built as glTF 2.0 has it. Export it again, or as GLB.")]
    [InlineData("""{"asset":{"version":"2.0"},"scene":4,"scenes":[{"nodes":[0]}],"nodes":[{}]}""", "The file is damaged: it refers to what is not there. Export it again.")]
    [InlineData("""{"asset":{"version":"2.0"},"scenes":[{"nodes":[7]}],"nodes":[{}]}""", "The file is damaged: it refers to what is not there. Export it again.")]
    public void WhyAGltfFileCannotBeReadIsSaidInWords(string file, string said)
    {
        Assert.Equal(said, Read("model.gltf", Encoding.UTF8.GetBytes(file)).Fault!.What);
        byte[] json = Encoding.UTF8.GetBytes(file.PadRight((file.Length + 3) / 4 * 4));
        byte[] binary = [.. "glTF"u8, 2, 0, 0, 0, .. BitConverter.GetBytes(20 + json.Length), .. BitConverter.GetBytes(json.Length), .. "JSON"u8, .. json];
        Assert.Equal(said, Read("model.glb", binary).Fault!.What);
    }

    /// <summary>Files changed at random: refused in words or read, and nothing thrown. Those of STEP and IGES bring a process each.</summary>
    [Fact]
    public void ModelsMadeToHarmAreRefusedOrRead()
    {
        var wrong = new List<string>();
        for (var number = Hostile.Models; number < Hostile.Models + 300; number++)
        {
            var (name, changed) = Hostile.Make(number);
            try
            {
                Hostile.Read(name, changed);
            }
            catch (Exception e) when (e is not Xunit.Sdk.XunitException)
            {
                wrong.Add($"{number} {name}: {e.GetType().Name} {e.Message} {e.StackTrace}");
            }
        }
        Assert.Empty(wrong);
    }

    [Fact]
    public void WordsOfAnExchangeFileAreDecoded()
    {
        var file = new Models.ExchangeFile(Encoding.Latin1.GetBytes("HEADER;FILE_SCHEMA(('AUTOMOTIVE_DESIGN { 1 }'));ENDSEC;DATA;/* #1=A(); */#1=PRODUCT('TO-1','B\\X2\\00FC0142\\X0\\gel \\X\\E9 \\S\\i it''s; \\\\',$,(#2));#2=(LENGTH_UNIT()SI_UNIT(.MILLI.,.METRE.));#3=X(LENGTH_MEASURE(2.5E-1),.T.,(1,-2));ENDSEC;"));
        Assert.Equal("AUTOMOTIVE_DESIGN { 1 }", file.Schema);
        Assert.Equal(3, file.Count);
        Assert.Equal("Bügel é é it's; \\".Replace("ü", "üł", StringComparison.Ordinal), file.Of("PRODUCT").Single().Values[1]);
        Assert.Equal("MILLI", Assert.Single(file.Complex()).Parts["SI_UNIT"][0]);
        var said = file.Of("X").Single().Values;
        Assert.Equal(0.25, Assert.IsType<Models.TypedValue>(said[0]).Values[0]);
        Assert.Equal([1.0, -2.0], Assert.IsAssignableFrom<IReadOnlyList<object?>>(said[2]));
        Assert.Equal((1, 0), (file.CountOf("PRODUCT"), file.CountOf("NONE")));
    }
}
