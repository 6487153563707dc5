using System.Numerics;
using System.Runtime.InteropServices;
using SharpGLTF.Schema2;

namespace Froe.Formats.Models;

/// <summary>
/// The tables of a glTF mesh. The library gives them an entry at a time, which takes many times as long as to take over those that lie in the
/// file as they are used: numbers of 32 bits, little-endian (glTF 2.0, 3.6.2), neither sparse nor normalised.
/// </summary>
internal static class GltfMeshes
{
    private const int PointLength = 12, CornerLength = 4;

    /// <summary>The points of a mesh, in the file's unit and axes.</summary>
    public static Vector3[] Points(Accessor accessor)
    {
        ArgumentNullException.ThrowIfNull(accessor);
        var isPlain = accessor.Encoding == EncodingType.FLOAT && accessor.Dimensions == DimensionType.VEC3;
        if (!isPlain || BytesOf(accessor, PointLength) is not { } bytes) return [.. accessor.AsVector3Array()];
        var points = new Vector3[accessor.Count];
        var stride = Math.Max(accessor.SourceBufferView.ByteStride, PointLength);
        if (stride == PointLength) MemoryMarshal.Cast<byte, Vector3>(bytes.AsSpan(0, points.Length * PointLength)).CopyTo(points);
        else for (var i = 0; i < points.Length; i++) points[i] = MemoryMarshal.Read<Vector3>(bytes.AsSpan(i * stride));
        return points;
    }

    /// <summary>Three points a triangle, as the file has them: they may not be there.</summary>
    public static int[] Corners(MeshPrimitive primitive)
    {
        ArgumentNullException.ThrowIfNull(primitive);
        var accessor = primitive.DrawPrimitiveType == PrimitiveType.TRIANGLES ? primitive.IndexAccessor : null;
        if (accessor?.Encoding == EncodingType.UNSIGNED_INT && BytesOf(accessor, CornerLength) is { } bytes)
            return MemoryMarshal.Cast<byte, int>(bytes.AsSpan(0, accessor.Count / 3 * 3 * CornerLength)).ToArray();
        var corners = new List<int>();
        foreach (var (a, b, c) in primitive.GetTriangleIndices())
        {
            corners.Add(a);
            corners.Add(b);
            corners.Add(c);
        }
        return [.. corners];
    }

    /// <summary>The bytes of a table from its first entry on; null where its entries are not to be taken as they lie there.</summary>
    private static ArraySegment<byte>? BytesOf(Accessor accessor, int length)
    {
        if (!BitConverter.IsLittleEndian || accessor.IsSparse || accessor.Normalized || accessor.Count == 0) return null;
        if (accessor.SourceBufferView is not { } view) return null;
        var stride = Math.Max(view.ByteStride, length);
        if (length == CornerLength && stride != length) return null;
        var needed = ((accessor.Count - 1L) * stride) + length;
        // What does not fit is told by the library.
        return accessor.ByteOffset >= 0 && accessor.ByteOffset + needed <= view.Content.Count ? view.Content.Slice(accessor.ByteOffset) : default(ArraySegment<byte>?);
    }
}
