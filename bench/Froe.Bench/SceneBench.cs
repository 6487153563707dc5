using System.Diagnostics;
using System.IO.Compression;
using System.Runtime.InteropServices;
using System.Text.Json;
using Froe.Core.Drawing;
using Froe.Core.Models;
using Froe.Formats;
using Froe.Formats.Models;
using SharpGLTF.Schema2;
using SharpGLTF.Validation;
using Mesh = Froe.Core.Models.Mesh;
using Scene = Froe.Core.Models.Scene;

namespace Froe.Bench;

/// <summary>Models: read, computed and cut, each beside a peer or beside the least that could be done.</summary>
internal static class SceneBench
{
    private const int Around = 1000, Along = 500;

    public static async Task RunAsync()
    {
        var folder = Figure.Env("FROE_BENCH");
        var step = Path.Combine(Figure.Env("FROE_ROOT"), "demo", "drawings", "TO-3300_A2.stp");
        await StepAsync(step);
        Scan(step);
        var (points, corners) = Ring();
        var stl = Path.Combine(folder, "ring.stl");
        await File.WriteAllBytesAsync(stl, Stl(points, corners));
        var glb = Path.Combine(folder, "ring.glb");
        WriteGlb(points, corners, glb);
        await PointsAsync("stl", stl, file => _ = StlDraftReader.Binary(file, (file.Length - 84) / 50));
        await PointsAsync("glb", glb, Tables);
        await AgainstLoaderAsync("stl", stl);
        await AgainstLoaderAsync("glb", glb);
        var scene = Whole(points, corners);
        Mass(scene);
        Cut(scene);
        await OutlineAsync();
        Bytes(step);
        await FramesAsync(folder, scene, points, corners);
    }

    /// <summary>A model in the browser, with a software GPU: turned, and at rest again, beside three drawing all of it each frame.</summary>
    private static async Task FramesAsync(string folder, Scene scene, Point3[] points, int[] corners)
    {
        await using (var facts = File.Create(Path.Combine(folder, "ring.scene.json"))) await JsonSerializer.SerializeAsync(facts, PreparedScene.FactsOf(scene), FormJson.Options);
        await using (var meshes = File.Create(Path.Combine(folder, "ring.meshes"))) PreparedScene.WriteMeshes(scene, meshes);
        float[] flat = [.. points.SelectMany(p => (float[])[(float)p.X, (float)p.Y, (float)p.Z])];
        await File.WriteAllBytesAsync(Path.Combine(folder, "ring.points"), MemoryMarshal.AsBytes<float>(flat).ToArray());
        await File.WriteAllBytesAsync(Path.Combine(folder, "ring.corners"), MemoryMarshal.AsBytes<int>(corners).ToArray());
        var found = JsonDocument.Parse(await Figure.RunAsync("node", ["scene-frames.mjs", folder, Path.Combine(Figure.Env("FROE_ROOT"), "web", "dist")], Path.Combine(Figure.Env("FROE_ROOT"), "bench", "node"))).RootElement;
        double Of(string what) => found.GetProperty(what).GetDouble();
        Figure.Print("frames while a model of 1,000,000 triangles is turned, against three drawing all of it each frame", Of("ourFrames"), Of("peerFrames"), "/s", Of("ourFrames") / Of("peerFrames"), 5);
        Figure.Print("its first picture once the bytes are there", Of("ourFirst"), Of("peerFirst"), "s", Of("ourFirst") / Of("peerFirst"), null);
        Figure.Print("sharp again after turning (against one second)", Of("ourSharp"), 1, "s", Of("ourSharp"), 1, atMost: true);
    }

    private static double Milliseconds(Action act)
    {
        var watch = Stopwatch.GetTimestamp();
        act();
        return Stopwatch.GetElapsedTime(watch).TotalMilliseconds;
    }

    private static double Best(int times, Action act) => Figure.Median(Enumerable.Range(0, times).Select(_ => Milliseconds(act)).Skip(times > 3 ? 2 : 0));

    private static async Task<JsonElement> PeerAsync(string kind, string file, int times, int warm) => JsonDocument.Parse(
        await Figure.RunAsync("node", ["--max-old-space-size=8000", "read-scene.mjs", kind, file, $"{times}", $"{warm}"], Path.Combine(Figure.Env("FROE_ROOT"), "bench", "node"))).RootElement;

    /// <summary>A STEP file to all that is prepared of it, against the same library built for browsers, which gives meshes alone.</summary>
    private static async Task StepAsync(string step)
    {
        var file = await File.ReadAllBytesAsync(step);
        var ours = Best(13, () =>
        {
            var content = Readers.For(step).Read(new MemoryStream(file), new ReadLimits()).Content!;
            foreach (var form in content.Leaves[0].Forms.Where(f => f.Name is "scene" or "meshes" or "exact")) form.Write(Stream.Null);
        }) / 1000;
        // Every file is read by a process of its own, though ours is split off from one that has the library loaded; what the peer is like when warm stands beside it.
        var once = await PeerAsync("step", step, 1, 0);
        var cold = once.GetProperty("seconds").GetDouble();
        Figure.Print("STEP to prepared scene, the demo's fork mount, each by a new process", ours, cold, "s", cold / ours, 5);
        var warm = (await PeerAsync("step", step, 5, 5)).GetProperty("seconds").GetDouble();
        Figure.Print("the same against the peer once it is warm", ours, warm, "s", warm / ours, null);
        var (peak, peers) = (await PeakAsync(step), once.GetProperty("peakMegabytes").GetDouble());
        Figure.Print("the same, peak memory of the process that reads it", peak, peers, "MB", peers / peak, 5);
    }

    private static async Task<double> PeakAsync(string step)
    {
        var folder = Directory.CreateTempSubdirectory("froe-bench-");
        File.Copy(step, Path.Combine(folder.FullName, "in"));
        var start = new ProcessStartInfo(Path.Combine(AppContext.BaseDirectory, "froe-step-reader")) { RedirectStandardInput = true, RedirectStandardOutput = true };
        using var process = Process.Start(start)!;
        await process.StandardInput.WriteLineAsync($"6144 {folder.FullName}");
        await process.StandardInput.FlushAsync();
        var answer = process.StandardOutput.ReadLineAsync();
        var peak = 0.0;
        while (!answer.IsCompleted)
        {
            try
            {
                // The high-water mark of the process that was split off for the file, in kB (proc(5)); what it has from the one before counts as its own.
                foreach (var one in (await File.ReadAllTextAsync($"/proc/{process.Id}/task/{process.Id}/children")).Split(' ', StringSplitOptions.RemoveEmptyEntries))
                {
                    var line = (await File.ReadAllLinesAsync($"/proc/{one}/status")).FirstOrDefault(l => l.StartsWith("VmHWM:", StringComparison.Ordinal));
                    if (line is not null) peak = double.Parse(line.Split(' ', StringSplitOptions.RemoveEmptyEntries)[1], System.Globalization.CultureInfo.InvariantCulture) / 1e3;
                }
            }
            catch (IOException)
            {
                // It has just ended.
            }
            await Task.Delay(1);
        }
        if (await answer != "0") throw new InvalidOperationException("The model was not read.");
        process.StandardInput.Close();
        await process.WaitForExitAsync();
        folder.Delete(recursive: true);
        return peak;
    }

    /// <summary>Our own scan of an exchange file, made long by saying its data again and again.</summary>
    private static void Scan(string step)
    {
        var text = File.ReadAllText(step);
        int from = text.IndexOf("DATA;", StringComparison.Ordinal) + 5, to = text.LastIndexOf("ENDSEC;", StringComparison.Ordinal);
        var bytes = System.Text.Encoding.ASCII.GetBytes(text[..from] + string.Concat(Enumerable.Repeat(text[from..to], 60)) + text[to..]);
        var sum = 0L;
        var ours = bytes.Length / 1e3 / Best(7, () => _ = new ExchangeFile(bytes).Count);
        var reading = bytes.Length / 1e3 / Best(7, () =>
        {
            foreach (var b in bytes) sum += b;
        });
        Figure.Print($"exchange file scan, {bytes.Length / 1e6:0} MB on one core (aim: 100 MB/s), beside adding up its bytes", ours, reading, "MB/s", ours / 100, 1);
        if (sum == 0) throw new InvalidOperationException("Nothing was read.");
    }

    private static async Task AgainstLoaderAsync(string kind, string path)
    {
        var file = await File.ReadAllBytesAsync(path);
        var ours = Best(5, () =>
        {
            if (Readers.For(path).Read(new MemoryStream(file), new ReadLimits()).Content is null) throw new InvalidOperationException($"{path} was not read.");
        }) / 1000;
        var theirs = (await PeerAsync(kind, path, 5, 3)).GetProperty("seconds").GetDouble();
        Figure.Print($"{kind.ToUpperInvariant()} of 1,000,000 triangles read into faces and edges, against three's loader, which finds neither", ours, theirs, "s", theirs / ours, 1);
    }

    /// <summary>As far as the peer goes: the points in memory.</summary>
    private static async Task PointsAsync(string kind, string path, Action<byte[]> read)
    {
        var file = await File.ReadAllBytesAsync(path);
        var ours = Best(9, () => read(file)) / 1000;
        var theirs = (await PeerAsync(kind, path, 5, 3)).GetProperty("seconds").GetDouble();
        Figure.Print($"{kind.ToUpperInvariant()} of 1,000,000 triangles, its points alone as three's loader reads them", ours, theirs, "s", theirs / ours, 1);
    }

    private static void Tables(byte[] file)
    {
        var root = ReadContext.Create(_ => default).WithSettingsFrom(new ReadSettings { Validation = ValidationMode.Skip }).ReadSchema2(new MemoryStream(file));
        foreach (var primitive in root.LogicalMeshes.SelectMany(m => m.Primitives))
        {
            _ = GltfMeshes.Points(primitive.GetVertexAccessor("POSITION"));
            _ = GltfMeshes.Corners(primitive);
        }
    }

    private static void Mass(Scene scene)
    {
        var mesh = scene.Parts[0].Mesh;
        double near = 0;
        var ours = Best(9, () => near += mesh.Mass().Volume!.Value);
        var reading = Best(9, () =>
        {
            foreach (var corner in mesh.Corners) near += mesh.Points[corner].X;
        });
        Figure.Print("volume, area and centre of 1,000,000 triangles against reading the same arrays once", ours, reading, "ms", ours / reading, 10, atMost: true);
        if (double.IsNaN(near)) throw new InvalidOperationException("Nothing was computed.");
    }

    private static void Cut(Scene scene)
    {
        var facts = PreparedScene.FactsOf(scene);
        List<Mesh> meshes = [.. scene.Parts.Select(p => p.Mesh)];
        var none = new HashSet<int>();
        foreach (var (words, along) in ((string, Point3)[])[("across an axis", new(1, 0, 0)), ("oblique", new Point3(1, 0.4, 0.3).Unit())])
        {
            var face = SectionCut.Of(facts, meshes, new Section(along, 3), none).Faces.Single();
            var ours = Best(9, () => _ = SectionCut.Of(facts, meshes, new Section(along, 3), none));
            Figure.Print($"section of 1,000,000 triangles, {words}: {face.Loops.Count} outlines, filled, hatched, its area (aim: 300 ms)", ours, 300, "ms", ours / 300, 1, atMost: true);
        }
    }

    /// <summary>What the page draws while a plane slides, in the page's own code.</summary>
    private static async Task OutlineAsync()
    {
        var found = JsonDocument.Parse(await Figure.RunAsync("node", ["--import", "tsx", "../../bench/node/cut.ts"], Path.Combine(Figure.Env("FROE_ROOT"), "tests", "pages"))).RootElement;
        double Of(string what) => found.GetProperty(what).GetDouble();
        Figure.Print("outline of a section of 1,000,000 triangles while its plane slides, against three-mesh-bvh alone", Of("ours"), Of("bare"), "ms", Of("ours") / Of("bare"), 1.5, atMost: true);
        Figure.Print("the tree that it is found by, made once", Of("built"), Of("built"), "ms", 1, null);
    }

    /// <summary>What travels of a model before it is seen, against its file as it would be packed.</summary>
    private static void Bytes(string step)
    {
        var file = File.ReadAllBytes(step);
        var content = Readers.For(step).Read(new MemoryStream(file), new ReadLimits()).Content!;
        double Packed(Action<Stream> write)
        {
            using var to = new MemoryStream();
            using (var packing = new BrotliStream(to, CompressionLevel.Optimal, leaveOpen: true)) write(packing);
            return to.Length / 1e3;
        }
        var ours = content.Leaves[0].Forms.Where(f => f.Name is "scene" or "meshes").Sum(f => Packed(f.Write));
        var theirs = Packed(to => to.Write(file));
        Figure.Print("bytes sent for a scene against its compressed source, the demo's fork mount", ours, theirs, "kB", ours / theirs, 1, atMost: true);
    }

    /// <summary>A ring with waves on it: a million triangles that no tree finds too easily.</summary>
    private static (Point3[] Points, int[] Corners) Ring()
    {
        var points = new Point3[Around * Along];
        for (var i = 0; i < points.Length; i++)
        {
            double u = 2 * Math.PI * (i / Along) / Around, v = 2 * Math.PI * (i % Along) / Along, r = 30 + (3 * Math.Sin(7 * u) * Math.Cos(5 * v));
            points[i] = new((100 + (r * Math.Cos(v))) * Math.Cos(u), (100 + (r * Math.Cos(v))) * Math.Sin(u), r * Math.Sin(v));
        }
        int At(int i, int k) => (i % Around * Along) + (k % Along);
        return (points, [.. Enumerable.Range(0, points.Length).SelectMany(n =>
        {
            var (i, k) = (n / Along, n % Along);
            return (int[])[At(i, k), At(i + 1, k), At(i + 1, k + 1), At(i, k), At(i + 1, k + 1), At(i, k + 1)];
        })]);
    }

    private static Scene Whole(Point3[] points, int[] corners) => new(
        LengthUnit.Millimetre, [new Component("Ring", "", "", -1, Affine.Identity, null, 0)],
        [new Part("Ring", "", null, null, new Mesh(points, [.. points.Select(p => p.Unit())], corners, [0, corners.Length / 3]), [Face.Unknown], [], null, 0)]);

    private static byte[] Stl(Point3[] points, int[] corners)
    {
        using var to = new MemoryStream();
        using var writer = new BinaryWriter(to);
        writer.Write(new byte[80]);
        writer.Write(corners.Length / 3);
        for (var i = 0; i < corners.Length; i += 3)
        {
            writer.Write(new byte[12]);
            for (var k = 0; k < 3; k++)
            {
                var p = points[corners[i + k]];
                writer.Write((float)p.X);
                writer.Write((float)p.Y);
                writer.Write((float)p.Z);
            }
            writer.Write((short)0);
        }
        return to.ToArray();
    }

    /// <summary>The same as GLB (glTF 2.0, clause 4): one buffer, its points and then its corners.</summary>
    private static void WriteGlb(Point3[] points, int[] corners, string path)
    {
        using var bin = new MemoryStream();
        using (var writer = new BinaryWriter(bin, System.Text.Encoding.ASCII, leaveOpen: true))
        {
            foreach (var p in points)
            {
                writer.Write((float)p.X);
                writer.Write((float)p.Y);
                writer.Write((float)p.Z);
            }
            foreach (var corner in corners) writer.Write(corner);
        }
        var json = JsonSerializer.SerializeToUtf8Bytes(new
        {
            asset = new { version = "2.0" },
            scene = 0,
            scenes = new[] { new { nodes = (int[])[0] } },
            nodes = new[] { new { mesh = 0 } },
            meshes = new[] { new { primitives = new[] { new { attributes = new { POSITION = 0 }, indices = 1 } } } },
            accessors = new object[]
            {
                new { bufferView = 0, componentType = 5126, count = points.Length, type = "VEC3", min = (double[])[-133, -133, -33], max = (double[])[133, 133, 33] },
                new { bufferView = 1, componentType = 5125, count = corners.Length, type = "SCALAR" },
            },
            bufferViews = new[] { new { buffer = 0, byteOffset = 0, byteLength = points.Length * 12 }, new { buffer = 0, byteOffset = points.Length * 12, byteLength = corners.Length * 4 } },
            buffers = new[] { new { byteLength = bin.Length } },
        });
        var padded = json.Concat(Enumerable.Repeat((byte)' ', (4 - (json.Length % 4)) % 4)).ToArray();
        using var to = new BinaryWriter(File.Create(path));
        foreach (var number in (uint[])[0x46546C67, 2, (uint)(28 + padded.Length + bin.Length), (uint)padded.Length, 0x4E4F534A]) to.Write(number);
        to.Write(padded);
        to.Write((uint)bin.Length);
        to.Write(0x004E4942u);
        to.Write(bin.ToArray());
    }
}
