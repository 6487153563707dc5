using System.Globalization;
using Froe.Core.Draft;
using Froe.Core.Drawing;
using Froe.Core.Models;

namespace Froe.Formats.Models;

/// <summary>Reads OBJ files into models of one part for each object or group. They state no unit; materials are files of their own.</summary>
internal sealed class ObjDraftReader : ModelDraftReader
{
    private const int MostTriangles = 10_000_000, MostParts = 20_000;

    public override string Name => "obj";

    public override string Words => "OBJ meshes";

    public override IReadOnlyList<string> Extensions { get; } = [".obj"];

    public override string MediaType => "model/obj";

    protected override string Format => "OBJ";

    protected override (ReadModel? Model, ReadFault? Fault) Model(Stream stream)
    {
        // The reader tells UTF-16 and UTF-8 by their marks.
        using var reader = new StreamReader(stream, leaveOpen: true);
        var points = new List<Point3>();
        var groups = new List<(string Name, List<int> Corners)>();
        var polygon = new List<int>();
        string name = "", materials = "";
        int triangles = 0, missing = 0;
        long number = 0;
        while (reader.ReadLine() is { } line)
        {
            number++;
            // A line may go on in the next.
            while (line.EndsWith('\\') && reader.ReadLine() is { } more)
            {
                number++;
                line = line[..^1] + " " + more;
            }
            var words = line.AsSpan().Trim();
            if (words.StartsWith("v ") || words.StartsWith("v\t")) points.Add(PointOf(words[1..]));
            else if (words.StartsWith("f ") || words.StartsWith("f\t"))
            {
                polygon.Clear();
                var isWhole = true;
                foreach (var range in words[1..].SplitAny(' ', '\t'))
                {
                    var word = words[1..][range];
                    if (word.IsEmpty) continue;
                    var slash = word.IndexOf('/');
                    if (!int.TryParse(slash < 0 ? word : word[..slash], NumberStyles.AllowLeadingSign, CultureInfo.InvariantCulture, out var index)) isWhole = false;
                    // From 1, or backwards from the last.
                    var at = index < 0 ? points.Count + index : index - 1;
                    if ((uint)at < (uint)points.Count) polygon.Add(at);
                    else isWhole = false;
                }
                if (!isWhole || polygon.Count < 3)
                {
                    missing++;
                    continue;
                }
                if (groups.Count == 0 || groups[^1].Name != name)
                {
                    if (groups.Count == MostParts) return (null, new ReadFault(number, $"The file has more than {MostParts:N0} groups."));
                    groups.Add((name, []));
                }
                for (var i = 2; i < polygon.Count; i++)
                {
                    if (++triangles > MostTriangles) return (null, new ReadFault(number, $"The mesh has more than {MostTriangles:N0} triangles. Export it coarser, or in parts."));
                    groups[^1].Corners.AddRange([polygon[0], polygon[i - 1], polygon[i]]);
                }
            }
            else if (words.StartsWith("o ") || words.StartsWith("g ")) name = words[2..].Trim() is { Length: <= 200 } called ? called.ToString() : "";
            else if (words.StartsWith("mtllib ")) materials = words[7..].Trim().ToString();
        }
        if (triangles == 0) return (null, new ReadFault(null, "The file holds no faces. Export it with its meshes."));
        var shaped = new List<ShapedMesh>();
        var parts = new List<Part>();
        foreach (var group in groups.GroupBy(g => g.Name))
        {
            var corners = group.SelectMany(g => g.Corners).ToArray();
            var used = corners.Distinct().Order().ToArray();
            var (part, mesh) = Loose(group.Key.Length > 0 ? group.Key : "Mesh", null, [.. used.Select(i => points[i])], [.. corners.Select(i => Array.BinarySearch(used, i))]);
            parts.Add(part);
            shaped.Add(mesh);
        }
        var scene = new Scene(LengthUnit.Unknown, [.. parts.Select((p, i) => new Component(p.Name, "", "", -1, Affine.Identity, null, i))], parts);
        List<NotShown> losses = [.. LossesOf(shaped)];
        if (missing > 0) losses.Add(new NotShown("face", missing, "It names a point that is not there."));
        if (materials.Length > 0) losses.Add(new NotShown("material", 1, $"Colours are in another file, {materials}, which is not read."));
        return (new ReadModel(scene, "", CountsOf(scene), losses), null);
    }
}
