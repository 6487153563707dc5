using System.Runtime.CompilerServices;
using System.Runtime.InteropServices;
using System.Text.Json;
using System.Text.RegularExpressions;
using Froe.Core.Drawing;
using Froe.Core.Models;

namespace Froe.Formats.Models;

/// <summary>
/// A STEP or IGES file as Open CASCADE reads it, in a process of its own (<see cref="LibraryProcess"/>): damaged files make the library break
/// down, and then only that process ends. It is given a folder with this one file, so that it opens no other. It runs while its reader looks
/// through the file itself.
/// </summary>
internal sealed partial class LibraryModel : IDisposable
{
    private const int MostMegabytes = 6144, MostSeconds = 240, Unreadable = 3, DeepestJson = 256;

    private readonly DirectoryInfo folder;
    private readonly LibraryProcess process;

    private LibraryModel(DirectoryInfo folder, LibraryProcess process) => (this.folder, this.process) = (folder, process);

    /// <summary>What was read, or why not.</summary>
    /// <param name="Scene">The model.</param>
    /// <param name="Faces">How many faces the library gave.</param>
    /// <param name="WithoutMesh">How many of them could not be meshed.</param>
    /// <param name="Uses">How many components lie in others.</param>
    internal readonly record struct Outcome(Scene? Scene, string Fault, int Faces, int WithoutMesh, int Uses);

    /// <summary>Begins to read a file.</summary>
    public static LibraryModel Begin(ReadOnlySpan<byte> file, bool isIges)
    {
        var folder = Directory.CreateTempSubdirectory("froe-model-");
        try
        {
            using (var to = File.Create(Path.Combine(folder.FullName, "in"))) to.Write(file);
            var process = LibraryProcess.Take(isIges ? "froe-iges-reader" : "froe-step-reader");
            process.Begin(folder.FullName, MostMegabytes);
            return new LibraryModel(folder, process);
        }
        catch
        {
            folder.Delete(recursive: true);
            throw;
        }
    }

    /// <summary>What was read, once it is.</summary>
    /// <param name="outside">Names of parts that are kept although the file has nothing to be seen of them: they are in other files.</param>
    public Outcome End(IReadOnlySet<string> outside)
    {
        if (!process.HasEnded(TimeSpan.FromSeconds(MostSeconds), out var code))
            return new Outcome(null, $"Reading the model took longer than {MostSeconds} seconds and was stopped. Export it in parts, or without what is not needed.", 0, 0, 0);
        if (code == 0) return Taken(folder.FullName, outside);
        var words = code == Unreadable ? File.ReadAllText(Path.Combine(folder.FullName, "said")).Trim() : "";
        return new Outcome(null, words.Length > 0 ? words : "Reading the model broke down over this file: it is damaged. Export it again.", 0, 0, 0);
    }

    /// <summary>Ends the reading where it still goes on, and leaves nothing behind.</summary>
    public void Dispose()
    {
        process.Dispose();
        folder.Delete(recursive: true);
    }

    private static Outcome Taken(string folder, IReadOnlySet<string> outside)
    {
        using var text = File.OpenRead(Path.Combine(folder, "model.json"));
        using var json = JsonDocument.Parse(text, new JsonDocumentOptions { MaxDepth = DeepestJson });
        var bytes = new Bytes(File.ReadAllBytes(Path.Combine(folder, "model.bin")));
        var parts = new List<Part>();
        int faces = 0, withoutMesh = 0;
        foreach (var part in json.RootElement.GetProperty("parts").EnumerateArray())
        {
            parts.Add(PartOf(part, bytes, ref withoutMesh));
            faces += parts[^1].Faces.Count;
        }
        var components = new List<Component>();
        foreach (var root in json.RootElement.GetProperty("components").EnumerateArray()) Add(root, -1, parts, outside, components);
        return new Outcome(new Scene(LengthUnit.Millimetre, components, parts), "", faces, withoutMesh, components.Count(c => c.Parent >= 0));
    }

    /// <summary>A component and those in it; nothing where none of them shows anything, as some programs add such.</summary>
    private static bool Add(JsonElement json, int parent, List<Part> parts, IReadOnlySet<string> outside, List<Component> to)
    {
        int? part = json.TryGetProperty("part", out var number) ? number.GetInt32() : null;
        if (part is { } own && parts[own].Mesh.Triangles == 0 && parts[own].Edges.Count == 0 && !outside.Contains(parts[own].Name)) return false;
        var at = to.Count;
        to.Add(new Component(Said(json, "name"), "", InstanceOf(json), parent, PlacementOf(json), ColourOf(json), part));
        if (part is not null) return true;
        var any = false;
        if (json.TryGetProperty("children", out var children))
            foreach (var child in children.EnumerateArray()) any |= Add(child, at, parts, outside, to);
        if (!any) to.RemoveRange(at, to.Count - at);
        return any;
    }

    private static Part PartOf(JsonElement json, Bytes bytes, ref int withoutMesh)
    {
        var points = new List<Point3>();
        var normals = new List<Point3>();
        var corners = new List<int>();
        var starts = new List<int> { 0 };
        var faces = new List<Face>();
        foreach (var face in json.GetProperty("faces").EnumerateArray())
        {
            var first = points.Count;
            var count = bytes.Int();
            points.AddRange(bytes.Points(count));
            var directions = bytes.Many<float>(3 * count);
            for (var i = 0; i < directions.Length; i += 3) normals.Add(new Point3(directions[i], directions[i + 1], directions[i + 2]));
            var triangles = bytes.Int();
            foreach (var corner in bytes.Many<int>(3 * triangles)) corners.Add(first + corner);
            if (triangles == 0) withoutMesh++;
            starts.Add(corners.Count / 3);
            faces.Add(FaceOf(face));
        }
        for (var i = 0; i < corners.Count; i += 3)
            for (var k = 0; k < 3; k++)
                if (normals[corners[i + k]] == default)
                    normals[corners[i + k]] = Point3.Cross(points[corners[i + 1]] - points[corners[i]], points[corners[i + 2]] - points[corners[i]]).Unit();
        var edges = new List<Edge>();
        foreach (var edge in json.GetProperty("edges").EnumerateArray())
        {
            edges.Add(EdgeOf(edge, bytes.Points(bytes.Int())));
        }
        var mass = json.TryGetProperty("area", out var area) && area.ValueKind == JsonValueKind.Number
            ? new Mass(NumberOf(json, "volume"), area.GetDouble(), PointOf(json, "centre"))
            : null;
        Material? material = Said(json, "material") is { Length: > 0 } name ? new Material(name, NumberOf(json, "density")) : null;
        return new Part(Said(json, "name"), "", null, material, new Mesh([.. points], [.. normals], [.. corners], [.. starts]), faces, edges, mass, json.GetProperty("deflection").GetDouble());
    }

    private static Face FaceOf(JsonElement json) => new(
        Said(json, "surface") switch { "plane" => SurfaceKind.Plane, "cylinder" => SurfaceKind.Cylinder, "cone" => SurfaceKind.Cone, "sphere" => SurfaceKind.Sphere, "torus" => SurfaceKind.Torus, _ => SurfaceKind.Free },
        PointOf(json, "at") ?? default, PointOf(json, "along") ?? default, NumberOf(json, "radius") ?? 0, NumberOf(json, "minor") ?? NumberOf(json, "angle") ?? 0,
        json.TryGetProperty("isHollow", out _), json.TryGetProperty("recognised", out _), NumberOf(json, "area"), ColourOf(json));

    private static Edge EdgeOf(JsonElement json, Point3[] line)
    {
        var sides = json.GetProperty("faces");
        return new Edge(
            sides.GetArrayLength() > 0 ? sides[0].GetInt32() : -1, sides.GetArrayLength() > 1 ? sides[1].GetInt32() : -1, json.TryGetProperty("isSmooth", out _),
            Said(json, "curve") switch { "line" => CurveKind.Line, "circle" => CurveKind.Circle, "ellipse" => CurveKind.Ellipse, _ => CurveKind.Free },
            PointOf(json, "at") ?? default, PointOf(json, "along") ?? default, NumberOf(json, "radius") ?? 0, NumberOf(json, "length"), json.TryGetProperty("recognised", out _), line);
    }

    private static string Said(JsonElement json, string name) => json.TryGetProperty(name, out var value) && value.ValueKind == JsonValueKind.String ? value.GetString() ?? "" : "";

    /// <summary>What an instance is called; the numbers that programs give by themselves are no names.</summary>
    private static string InstanceOf(JsonElement json) => Said(json, "instance") is var name && Given().IsMatch(name) ? "" : name;

    [GeneratedRegex(@"^(=>.*|NAUO\d*|\d+)$")]
    private static partial Regex Given();

    private static double? NumberOf(JsonElement json, string name) => json.TryGetProperty(name, out var value) && value.ValueKind == JsonValueKind.Number ? value.GetDouble() : null;

    private static Point3? PointOf(JsonElement json, string name)
    {
        if (!json.TryGetProperty(name, out var value) || value.ValueKind != JsonValueKind.Array || value.GetArrayLength() != 3) return null;
        return value.EnumerateArray().Any(v => v.ValueKind != JsonValueKind.Number) ? null : new Point3(value[0].GetDouble(), value[1].GetDouble(), value[2].GetDouble());
    }

    private static Affine PlacementOf(JsonElement json)
    {
        if (!json.TryGetProperty("placement", out var m)) return Affine.Identity;
        var n = m.EnumerateArray().Select(v => v.ValueKind == JsonValueKind.Number ? v.GetDouble() : 0).ToArray();
        return new Affine(new(n[0], n[4], n[8]), new(n[1], n[5], n[9]), new(n[2], n[6], n[10]), new(n[3], n[7], n[11]));
    }

    private static ModelColour? ColourOf(JsonElement json) =>
        json.TryGetProperty("colour", out var c) && c.GetArrayLength() == 4 ? new ModelColour(Byte(c[0]), Byte(c[1]), Byte(c[2]), c[3].ValueKind == JsonValueKind.Number ? c[3].GetDouble() : 1) : null;

    private static byte Byte(JsonElement share) => (byte)Math.Clamp(Math.Round((share.ValueKind == JsonValueKind.Number ? share.GetDouble() : 0) * 255), 0, 255);

    private sealed class Bytes(byte[] data)
    {
        private int at;

        public int Int() => Many<int>(1)[0];

        public Point3[] Points(int count)
        {
            var numbers = Many<double>(3 * count);
            var points = new Point3[count];
            for (var i = 0; i < count; i++) points[i] = new Point3(numbers[3 * i], numbers[(3 * i) + 1], numbers[(3 * i) + 2]);
            return points;
        }

        public ReadOnlySpan<T> Many<T>(int count)
            where T : unmanaged
        {
            var length = count * Unsafe.SizeOf<T>();
            var values = MemoryMarshal.Cast<byte, T>(data.AsSpan(at, length));
            at += length;
            return values;
        }
    }
}
