using System.Buffers.Binary;
using System.Numerics;
using System.Text.Json;
using Froe.Core.Draft;
using Froe.Core.Drawing;
using Froe.Core.Models;
using SharpGLTF.Schema2;
using SharpGLTF.Validation;
using Model = SharpGLTF.Schema2;

namespace Froe.Formats.Models;

/// <summary>Reads glTF 2.0, written out with everything inside or as GLB. Metres become millimetres, and its y axis, which is up, our z.</summary>
internal sealed class GltfDraftReader : ModelDraftReader
{
    private const int MostTriangles = 10_000_000, MostComponents = 200_000, Deepest = 64;
    private const double Millimetres = 1000;
    private const string Unlike = "The file is not built as glTF 2.0 has it. Export it again, or as GLB.";
    internal static readonly JsonDocumentOptions Lenient = new() { AllowTrailingCommas = true, CommentHandling = JsonCommentHandling.Skip };

    /// <summary>Pictures on faces are not shown, so they need not be there; the library wants one.</summary>
    private static readonly string[] Pictures = [".png", ".jpg", ".jpeg", ".webp", ".ktx2", ".dds"];

    private static readonly byte[] NoPicture = Convert.FromBase64String("iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mP8z8BQDwAEhQGAhKmMIQAAAABJRU5ErkJggg==");

    public override string Name => "gltf";

    public override int Version => base.Version + 1;

    public override string Words => "glTF models";

    public override IReadOnlyList<string> Extensions { get; } = [".glb", ".gltf"];

    public override string MediaType => "model/gltf-binary";

    protected override string Format => "glTF";

    public override bool HasFilesBeside => true;

    public override IReadOnlyList<string> NamesBeside(Stream stream)
    {
        var bytes = Whole(stream);
        if (IsBinary(bytes)) return [];
        try
        {
            using var json = JsonDocument.Parse(bytes, Lenient);
            return json.RootElement.ValueKind == JsonValueKind.Object && json.RootElement.TryGetProperty("buffers", out var buffers) && buffers.ValueKind == JsonValueKind.Array
                ? [.. buffers.EnumerateArray().Select(NameOf).Where(n => n.Length > 0).Distinct(StringComparer.OrdinalIgnoreCase)]
                : [];
        }
        catch (JsonException)
        {
            return [];
        }
    }

    /// <summary>The file that a buffer is in (glTF 2.0, 3.6.1.1); empty where it is inside.</summary>
    private static string NameOf(JsonElement buffer) =>
        buffer.ValueKind == JsonValueKind.Object && buffer.TryGetProperty("uri", out var uri) && uri.ValueKind == JsonValueKind.String && uri.GetString() is { } said && !said.StartsWith("data:", StringComparison.OrdinalIgnoreCase)
            ? FilesBeside.NameOf(Uri.UnescapeDataString(said))
            : "";

    internal override (ReadModel? Model, ReadFault? Fault) Model(Stream stream, FilesBeside beside)
    {
        var bytes = Whole(stream);
        var missing = new List<string>();
        var taken = new List<string>();
        var pictures = 0;
        IReadOnlyDictionary<string, ArraySegment<byte>>? buffers = null;
        (byte[] Json, IReadOnlyDictionary<string, ArraySegment<byte>> Files)? unpacked;
        try
        {
            unpacked = PackedGltf.Unpack(JsonOf(bytes).Span, BinaryOf(bytes), Beside);
            buffers = unpacked?.Files;
        }
        catch (UnreadableException e)
        {
            return (null, new ReadFault(null, e.Message));
        }
        catch (FileNotFoundException)
        {
            return (null, new ReadFault(null, Missing()));
        }
        ModelRoot root;
        try
        {
            using var memory = new MemoryStream(unpacked?.Json ?? bytes);
            root = ReadContext.Create(Beside).WithSettingsFrom(new ReadSettings { Validation = ValidationMode.Skip }).ReadSchema2(memory);
        }
        catch (Exception e) when (e is not OutOfMemoryException)
        {
            // The library says in exceptions of many kinds that a file is damaged.
            return (null, new ReadFault(null, missing.Count > 0 ? Missing() : WhyNot(bytes, e.Message)));
        }
        ReadModel? model;
        try
        {
            (model, var fault) = Taken(root);
            if (model is null) return (null, fault);
        }
        catch (Exception e) when (e is not OutOfMemoryException)
        {
            // So the library says that scenes, nodes, accessors and buffers do not fit each other.
            return (null, new ReadFault(null, "The file is damaged: it refers to what is not there. Export it again."));
        }
        return (model with { Beside = [.. taken.Distinct(StringComparer.OrdinalIgnoreCase).Select(n => new FileBeside(n, true))], NotShown = pictures == 0 ? model.NotShown : [.. model.NotShown, new NotShown("picture on a face", pictures, "Faces are shown in their colours.")] }, null);

        string Missing() => $"The model needs files that are not with it: {string.Join(", ", missing.Distinct().Take(5))}. Upload them first, or together with it, or export it as one file (GLB).";

        ArraySegment<byte> Beside(string reference)
        {
            if (buffers?.TryGetValue(reference, out var buffer) == true) return buffer;
            var name = FilesBeside.NameOf(Uri.UnescapeDataString(reference));
            if (Pictures.Any(e => name.EndsWith(e, StringComparison.OrdinalIgnoreCase)))
            {
                pictures++;
                return NoPicture;
            }
            using var file = beside.Open(name);
            if (file is null || file.Length > MostBytes)
            {
                missing.Add(name.Length <= 100 ? name : name[..100]);
                throw new FileNotFoundException(name);
            }
            taken.Add(name);
            return Whole(file);
        }
    }

    private static (ReadModel? Model, ReadFault? Fault) Taken(ModelRoot root)
    {
        var parts = new List<Part>();
        var shaped = new List<ShapedMesh>();
        var partsOf = new Dictionary<int, List<int>>();
        var components = new List<Component>();
        int triangles = 0, strange = 0, nowhere = 0, coloured = 0, bent = 0, boned = 0;
        var scene = root.DefaultScene ?? (root.LogicalScenes.Count > 0 ? root.LogicalScenes[0] : null);
        if (scene is null) return (null, new ReadFault(null, "The file shows no scene."));
        foreach (var node in scene.VisualChildren)
            if (!Add(node, -1, 0)) return (null, new ReadFault(null, $"The model has more than {MostTriangles:N0} triangles or {MostComponents:N0} components. Export it coarser, or in parts."));
        var model = new Core.Models.Scene(LengthUnit.Millimetre, components, parts);
        List<NotShown> losses = [.. LossesOf(shaped)];
        if (strange > 0) losses.Add(new NotShown("lines or points", strange, "Only faces of meshes are shown."));
        if (nowhere > 0) losses.Add(new NotShown("triangle", nowhere, "It refers to a corner that is not there."));
        if (coloured > 0) losses.Add(new NotShown("colours of a mesh's corners", coloured, "It is shown in its material's colour."));
        if (boned > 0) losses.Add(new NotShown("bending by bones", boned, "The mesh is shown as it was shaped, where its node is."));
        if (bent > 0) losses.Add(new NotShown("change by shape targets", bent, "The mesh is shown as it was shaped."));
        if (root.LogicalAnimations.Count > 0) losses.Add(new NotShown("movement", root.LogicalAnimations.Count, "The model is shown at rest."));
        return (new ReadModel(model, root.Asset.Version.ToString(2), CountsOf(model), losses), null);

        bool Add(Node node, int parent, int depth)
        {
            if (depth > Deepest || components.Count >= MostComponents) return false;
            var at = components.Count;
            var owned = node.Mesh is null ? [] : PartsOf(node.Mesh);
            if (owned is null) return false;
            var placement = Of(node.LocalMatrix);
            var name = node.Name is { Length: > 0 and <= 500 } called ? called : node.Mesh?.Name ?? "";
            var children = node.VisualChildren.ToList();
            // One mesh at many places (EXT_mesh_gpu_instancing): each is a component.
            var copies = node.Mesh is null ? null : node.GetGpuInstancing();
            if (copies?.Count > MostComponents) return false;
            var places = copies is { Count: > 0 } ? Enumerable.Range(0, copies.Count).Select(i => Of(copies.GetLocalMatrix(i))).ToArray() : null;
            if (node.Mesh is not null && node.Skin is not null) boned++;
            if (node.Mesh is not null && node.GetMorphWeights().Any(w => w != 0)) bent++;
            components.Add(new Component(name, "", "", parent, placement, null, owned.Count == 1 && children.Count == 0 && places is null ? owned[0] : null));
            if (components[at].Part is null)
            {
                places ??= [Affine.Identity];
                if (components.Count + ((long)places.Length * owned.Count) > MostComponents) return false;
                foreach (var place in places)
                    foreach (var part in owned) components.Add(new Component(parts[part].Name, "", "", at, place, null, part));
            }
            return children.All(child => Add(child, at, depth + 1));
        }

        List<int>? PartsOf(Model.Mesh mesh)
        {
            if (partsOf.TryGetValue(mesh.LogicalIndex, out var known)) return known;
            var made = partsOf[mesh.LogicalIndex] = [];
            foreach (var primitive in mesh.Primitives)
            {
                if (primitive.GetVertexAccessor("POSITION") is not { } accessor || primitive.DrawPrimitiveType is PrimitiveType.POINTS or PrimitiveType.LINES or PrimitiveType.LINE_LOOP or PrimitiveType.LINE_STRIP)
                {
                    strange++;
                    continue;
                }
                Point3[] points = Array.ConvertAll(GltfMeshes.Points(accessor), p => new Point3(p.X * Millimetres, -p.Z * Millimetres, p.Y * Millimetres));
                var corners = GltfMeshes.Corners(primitive);
                var kept = 0;
                for (var i = 0; i < corners.Length; i += 3)
                {
                    if ((uint)corners[i] >= (uint)points.Length || (uint)corners[i + 1] >= (uint)points.Length || (uint)corners[i + 2] >= (uint)points.Length)
                    {
                        nowhere++;
                        continue;
                    }
                    if (++triangles > MostTriangles) return null;
                    corners.AsSpan(i, 3).CopyTo(corners.AsSpan(kept));
                    kept += 3;
                }
                if (kept == 0) continue;
                var name = mesh.Name is { Length: > 0 and <= 500 } called ? called : $"Mesh {mesh.LogicalIndex + 1}";
                var at = primitive.GetVertexAccessor("COLOR_0") is { Count: > 0 } colours ? colours.AsColorArray() : null;
                var isOne = at is not null && at.All(c => Vector4.DistanceSquared(c, at[0]) < 1e-5f);
                if (at is not null && !isOne) coloured++;
                var (part, one) = Loose(name, ColourOf(primitive.Material, isOne ? at![0] : Vector4.One), points, kept == corners.Length ? corners : corners[..kept]);
                made.Add(parts.Count);
                parts.Add(part with { Material = primitive.Material?.Name is { Length: > 0 and <= 200 } material ? new Core.Models.Material(material, null) : null });
                shaped.Add(one);
            }
            return made;
        }
    }

    /// <param name="corners">The colour that all corners have; it is multiplied with the material's (glTF 2.0, 3.9.2).</param>
    private static ModelColour? ColourOf(Model.Material? material, Vector4 corners)
    {
        var channel = material?.FindChannel("BaseColor");
        if (channel is null && corners == Vector4.One) return null;
        var colour = (channel?.Color ?? Vector4.One) * corners;
        return new ModelColour(Byte(colour.X), Byte(colour.Y), Byte(colour.Z), material?.Alpha == AlphaMode.BLEND ? Math.Clamp(colour.W, 0, 1) : 1);
    }

    /// <summary>A share of light as screens have it (IEC 61966-2-1).</summary>
    private static byte Byte(float linear)
    {
        var share = linear <= 0.0031308f ? 12.92 * Math.Max(0, linear) : (1.055 * Math.Pow(Math.Min(1, linear), 1 / 2.4)) - 0.055;
        return (byte)Math.Round(share * 255);
    }

    /// <summary>The file's matrix with its axes and lengths as ours: (x, y, z) there is (x, -z, y) here.</summary>
    private static Affine Of(Matrix4x4 m)
    {
        Point3 Turned(double x, double y, double z) => new(x, -z, y);
        return new Affine(Turned(m.M11, m.M12, m.M13), -1 * Turned(m.M31, m.M32, m.M33), Turned(m.M21, m.M22, m.M23), Millimetres * Turned(m.M41, m.M42, m.M43));
    }

    /// <summary>Why a file cannot be read, as far as its own words tell it: they are looked at again, for the library's are for programmers.</summary>
    private static string WhyNot(byte[] bytes, string said)
    {
        const string Old = "This is glTF 1.0. Export it as glTF 2.0 or GLB.";
        if (IsBinary(bytes) && bytes.Length >= 8 && bytes[4] == 1) return Old;
        try
        {
            using var json = JsonDocument.Parse(JsonOf(bytes), Lenient);
            if (json.RootElement is not { ValueKind: JsonValueKind.Object } root) return Unlike;
            // Things had names there, and not places in lists (glTF 1.0).
            if (root.TryGetProperty("meshes", out var meshes) && meshes.ValueKind == JsonValueKind.Object) return Old;
            // The library names what it cannot read, but not where its packing leaves buffers that are not there.
            var needed = root.TryGetProperty("extensionsRequired", out var all) && all.ValueKind == JsonValueKind.Array
                ? all.EnumerateArray().Where(x => x.ValueKind == JsonValueKind.String).Select(x => x.GetString()!)
                    .Where(x => x.Length is > 0 and <= 80 && (said.Contains(x, StringComparison.Ordinal) || x.Contains("compression", StringComparison.Ordinal))).Take(5).ToList()
                : [];
            return needed.Count > 0 ? $"The file needs {string.Join(", ", needed)} (glTF 2.0, 3.12), which Froe does not read. Export it without." : Unlike;
        }
        catch (JsonException e)
        {
            return $"The file is damaged: its line {(e.LineNumber ?? 0) + 1} is not JSON. Export it again.";
        }
    }

    private static bool IsBinary(byte[] bytes) => bytes.AsSpan().StartsWith("glTF"u8);

    /// <summary>A file's JSON: all of it, or the first chunk of a binary one (glTF 2.0, 4.4.3.2).</summary>
    private static ReadOnlyMemory<byte> JsonOf(byte[] bytes) =>
        !IsBinary(bytes) ? bytes
        : bytes.Length >= 20 ? bytes.AsMemory(20, (int)Math.Min(BinaryPrimitives.ReadUInt32LittleEndian(bytes.AsSpan(12)), bytes.Length - 20))
        : default;

    /// <summary>What stands behind a binary file's text (glTF 2.0, 4.4.3.3); no array where nothing does.</summary>
    private static ArraySegment<byte> BinaryOf(byte[] bytes)
    {
        var at = 20L + JsonOf(bytes).Length;
        if (!IsBinary(bytes) || at + 8 > bytes.Length) return default;
        var length = BinaryPrimitives.ReadUInt32LittleEndian(bytes.AsSpan((int)at));
        return new(bytes, (int)at + 8, (int)Math.Min(length, bytes.Length - at - 8));
    }
}
