using System.Text.Json;
using System.Text.Json.Nodes;

namespace Froe.Formats.Models;

/// <summary>
/// A glTF file whose meshes are packed, made into one whose meshes are not: by Draco (KHR_draco_mesh_compression) or meshoptimizer
/// (EXT_meshopt_compression). The library that reads glTF knows neither.
/// </summary>
internal sealed class PackedGltf
{
    private const string Draco = "KHR_draco_mesh_compression", Meshopt = "EXT_meshopt_compression", Binary = "froe-binary";
    private const int Float = 5126, Number = 5125, Triangles = 4;
    private static readonly string[] Modes = ["ATTRIBUTES", "TRIANGLES", "INDICES"], Filters = ["NONE", "OCTAHEDRAL", "QUATERNION", "EXPONENTIAL"];

    private readonly JsonObject root;
    private readonly ArraySegment<byte> binary;
    private readonly Func<string, ArraySegment<byte>> open;
    private readonly JsonArray buffers, views, accessors;
    private readonly Dictionary<int, ArraySegment<byte>> opened = [];
    private readonly Dictionary<string, ArraySegment<byte>> files = [];

    private PackedGltf(JsonObject root, ArraySegment<byte> binary, Func<string, ArraySegment<byte>> open)
    {
        (this.root, this.binary, this.open) = (root, binary, open);
        (buffers, views, accessors) = (List(root, "buffers"), List(root, "bufferViews"), List(root, "accessors"));
    }

    /// <summary>The file's text with nothing packed, and the buffers that it names then; null where nothing was packed that must be unpacked.</summary>
    /// <param name="json">The file's text.</param>
    /// <param name="binary">What stands behind it in a binary file; no array in another.</param>
    /// <param name="open">Opens a file beside it by the name that a buffer gives.</param>
    /// <exception cref="UnreadableException">It cannot be unpacked.</exception>
    public static (byte[] Json, IReadOnlyDictionary<string, ArraySegment<byte>> Files)? Unpack(ReadOnlySpan<byte> json, ArraySegment<byte> binary, Func<string, ArraySegment<byte>> open)
    {
        if (json.IndexOf("mesh_compression\""u8) < 0 && json.IndexOf("meshopt_compression\""u8) < 0) return null;
        try
        {
            // Where it is not required, the file holds the same unpacked (glTF 2.0, 3.12).
            if (JsonNode.Parse(json, null, GltfDraftReader.Lenient) is not JsonObject root || root["extensionsRequired"] is not JsonArray required || !required.Any(IsPacking)) return null;
            var packed = new PackedGltf(root, binary, open);
            packed.Unpack();
            return (JsonSerializer.SerializeToUtf8Bytes(root), packed.files);
        }
        catch (JsonException)
        {
            return null;
        }
        catch (Exception e) when (e is InvalidOperationException or FormatException or ArgumentException or OverflowException)
        {
            // So it is said of JSON that is of another kind than asked for, and of places that are not there.
            throw new UnreadableException("The file is damaged: what it says of its packed meshes does not fit them. Export it again, or without packing.");
        }
    }

    private void Unpack()
    {
        using var unpacker = new MeshUnpacker();
        for (var i = 0; i < views.Count; i++)
            if (Extension(views[i], Meshopt) is { } packed)
            {
                var (count, size) = (Whole(packed, "count"), Whole(packed, "byteStride"));
                views[i]!["buffer"] = Keep(unpacker.Elements(Bytes(packed), Place(Modes, packed["mode"]), Place(Filters, packed["filter"] ?? "NONE"), count, size));
                views[i]!["byteOffset"] = 0;
                views[i]!["byteLength"] = checked(count * size);
            }
        foreach (var primitive in List(root, "meshes").SelectMany(m => List(Thing(m), "primitives")))
            if (Extension(primitive, Draco) is { } packed) Unpack(Thing(primitive), packed, unpacker);
        for (var i = 0; i < buffers.Count; i++)
        {
            var buffer = Thing(buffers[i]);
            Extension(buffer, Meshopt);
            if (buffer["uri"] is not null) continue;
            if (i == 0 && binary.Array is not null)
            {
                files[Binary] = binary;
                buffer["uri"] = Binary;
            }
            // One without bytes kept room for what was to be unpacked.
            else buffers[i] = Kept(new byte[1]);
        }
        foreach (var name in (string[])["extensionsRequired", "extensionsUsed"])
        {
            if (root[name] is not JsonArray all) continue;
            all.RemoveAll(IsPacking);
            if (all.Count == 0) root.Remove(name);
        }
    }

    /// <summary>A mesh packed whole: of what its corners have, places and colours are looked at alone.</summary>
    private void Unpack(JsonObject primitive, JsonObject packed, MeshUnpacker unpacker)
    {
        var attributes = Thing(packed["attributes"]);
        var mesh = unpacker.Mesh(Bytes(Thing(views[Whole(packed, "bufferView")])), Whole(attributes, "POSITION"), attributes["COLOR_0"] is null ? -1 : Whole(attributes, "COLOR_0"));
        var unpacked = new JsonObject { ["POSITION"] = Accessor(mesh.Positions, Float, "VEC3", mesh.Points) };
        if (mesh.Colours.Length > 0) unpacked["COLOR_0"] = Accessor(mesh.Colours, Float, "VEC4", mesh.Points);
        primitive["attributes"] = unpacked;
        primitive["indices"] = Accessor(mesh.Corners, Number, "SCALAR", checked(3 * mesh.Triangles));
        primitive["mode"] = Triangles;
    }

    private int Accessor(byte[] bytes, int kind, string type, int count)
    {
        views.Add((JsonNode)new JsonObject { ["buffer"] = Keep(bytes), ["byteLength"] = bytes.Length });
        accessors.Add((JsonNode)new JsonObject { ["bufferView"] = views.Count - 1, ["componentType"] = kind, ["type"] = type, ["count"] = count });
        return accessors.Count - 1;
    }

    /// <summary>Keeps bytes as a buffer; gives its number.</summary>
    private int Keep(byte[] bytes)
    {
        buffers.Add((JsonNode)Kept(bytes));
        return buffers.Count - 1;
    }

    private JsonObject Kept(byte[] bytes)
    {
        var name = $"froe-unpacked-{files.Count}";
        files.Add(name, bytes);
        return new JsonObject { ["uri"] = name, ["byteLength"] = bytes.Length };
    }

    /// <summary>The bytes that something names: a part of a buffer.</summary>
    private ArraySegment<byte> Bytes(JsonObject of)
    {
        var number = Whole(of, "buffer");
        if (!opened.TryGetValue(number, out var all)) opened[number] = all = Opened(Thing(buffers[number])["uri"]?.GetValue<string>(), number);
        return all.Slice(of["byteOffset"] is null ? 0 : Whole(of, "byteOffset"), Whole(of, "byteLength"));
    }

    private ArraySegment<byte> Opened(string? said, int number)
    {
        const string Data = "data:", Base64 = ";base64,";
        if (said is null) return number == 0 && binary.Array is not null ? binary : throw new InvalidOperationException();
        if (!said.StartsWith(Data, StringComparison.OrdinalIgnoreCase)) return open(said);
        return said.IndexOf(Base64, StringComparison.Ordinal) is >= 0 and var at ? Convert.FromBase64String(said[(at + Base64.Length)..]) : throw new InvalidOperationException();
    }

    /// <summary>Takes an extension off whatever has it.</summary>
    private static JsonObject? Extension(JsonNode? of, string name)
    {
        if (of is not JsonObject thing || thing["extensions"] is not JsonObject all || all[name] is not JsonObject found) return null;
        all.Remove(name);
        return found;
    }

    private static JsonArray List(JsonObject of, string name)
    {
        if (of[name] is JsonArray list) return list;
        var empty = new JsonArray();
        of[name] = empty;
        return empty;
    }

    private static JsonObject Thing(JsonNode? node) => node as JsonObject ?? throw new InvalidOperationException();

    private static int Whole(JsonObject of, string name) => of[name] is { } node && node.GetValue<int>() is >= 0 and var number ? number : throw new InvalidOperationException();

    private static int Place(string[] names, JsonNode? said) => Array.IndexOf(names, said?.GetValue<string>()) is >= 0 and var place ? place : throw new InvalidOperationException();

    private static bool IsPacking(JsonNode? node) => node is JsonValue value && value.TryGetValue<string>(out var said) && said is Draco or Meshopt;
}
