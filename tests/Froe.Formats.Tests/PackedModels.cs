using System.Text;

namespace Froe.Formats.Tests;

/// <summary>
/// A box of 2 by 1 by 0.5 metres as others pack it: its points and triangles were packed once by the encoders of Draco and
/// meshoptimizer, what stands round them is written here.
/// </summary>
internal static class PackedModels
{
    /// <summary>Positions of 11 bits, and one colour at all corners: 255, 0, 51.</summary>
    private const string Mesh = "RFJBQ08CAgEBAAAACAwBCwAAA2+rFAEBEP8CNUEC/wAAAAAAAQAJAwAAAgECAgQAAQEBAQEADAMBGB8BEAEYBADqXoUAAAAAAfB/AAAAwP8B6D8AAAAA+B8AAAAA/wcAAAAAAAAAAAAAAAAAAAAAAEALAQEBAQFnAToBBP+PAQIEgD5bfwAAAAD/AAAA";

    private const string Points = "oAAAAAEzMwAAgH+AfwAAAQzMAAD///8BDMwAAH59fgAAAAEAwAAAfgAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAA", ShiftedPoints = "oAABMzMAAAgHCAcAATFxAADMBAACAERwRAAAAAAAATFxAADMBAABAPIAAAgFAAExcQAAzAQAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAJEAAACRAAAAkQ==";

    private const string Corners = "4f4u/w5yA8EC3wKFH/AE/wICAgAAAHaHVmd4qYZliWiYAWkAAA==", Sequence = "0QAIAgIMAggEBAYIBBoEEBIUAgoEEBIUAgoEEBIUAgoKEAIEDAAAAAA=";

    /// <summary>Packed by Draco, in a binary file.</summary>
    public static byte[] Draco(string attributes = "\"POSITION\":0,\"COLOR_0\":1")
    {
        var packed = Convert.FromBase64String(Mesh);
        return ModelFiles.Glb(
            $$$$"""
            {"asset":{"version":"2.0"},"extensionsUsed":["KHR_draco_mesh_compression"],"extensionsRequired":["KHR_draco_mesh_compression"],"buffers":[{"byteLength":{{{{packed.Length}}}}}],"bufferViews":[{"buffer":0,"byteLength":{{{{packed.Length}}}}}],
            "accessors":[{"componentType":5126,"count":8,"type":"VEC3"},{"componentType":5121,"normalized":true,"count":8,"type":"VEC4"},{"componentType":5123,"count":36,"type":"SCALAR"}],
            "meshes":[{"name":"Block","primitives":[{"attributes":{"POSITION":0,"COLOR_0":1,"NORMAL":0},"indices":2,"extensions":{"KHR_draco_mesh_compression":{"bufferView":0,"attributes":{ {{{{attributes}}}} } }}}]}],"nodes":[{"mesh":0}],"scenes":[{"nodes":[0]}],"scene":0}
            """, packed);
    }

    /// <summary>Packed by meshoptimizer, written out with everything inside; the second buffer is room for the unpacked and has no bytes.</summary>
    /// <param name="isFiltered">Whether points are filtered and corners a plain sequence.</param>
    public static byte[] Meshoptimizer(bool isFiltered, string points = "\"byteStride\":12,\"count\":8,\"mode\":\"ATTRIBUTES\"")
    {
        var (places, corners) = isFiltered ? (Convert.FromBase64String(ShiftedPoints), Convert.FromBase64String(Sequence)) : (Convert.FromBase64String(Points), Convert.FromBase64String(Corners));
        var (filter, mode) = isFiltered ? (",\"filter\":\"EXPONENTIAL\"", "INDICES") : ("", "TRIANGLES");
        return Encoding.UTF8.GetBytes(
            $$$$"""
            {"asset":{"version":"2.0"},"extensionsUsed":["EXT_meshopt_compression"],"extensionsRequired":["EXT_meshopt_compression"],
            "buffers":[{"byteLength":{{{{places.Length + corners.Length}}}},"uri":"data:application/octet-stream;base64,{{{{Convert.ToBase64String([.. places, .. corners])}}}}"},{"byteLength":168,"extensions":{"EXT_meshopt_compression":{"fallback":true}}}],
            "bufferViews":[{"buffer":1,"byteLength":96,"byteStride":12,"extensions":{"EXT_meshopt_compression":{"buffer":0,"byteLength":{{{{places.Length}}}},{{{{points}}}}{{{{filter}}}} }}},
            {"buffer":1,"byteOffset":96,"byteLength":72,"extensions":{"EXT_meshopt_compression":{"buffer":0,"byteOffset":{{{{places.Length}}}},"byteLength":{{{{corners.Length}}}},"byteStride":2,"count":36,"mode":"{{{{mode}}}}"}}}],
            "accessors":[{"bufferView":0,"componentType":5126,"count":8,"type":"VEC3","min":[0,0,0],"max":[2,1,0.5]},{"bufferView":1,"componentType":5123,"count":36,"type":"SCALAR"}],
            "meshes":[{"name":"Block","primitives":[{"attributes":{"POSITION":0},"indices":1}]}],"nodes":[{"mesh":0}],"scenes":[{"nodes":[0]}],"scene":0}
            """);
    }
}
