using System.Globalization;
using Froe.Core.Draft;
using Froe.Core.Drawing;
using Froe.Core.Models;

namespace Froe.Formats.Models;

/// <summary>Reads OBJ files into models of one part for each object or group. They state no unit; colours are in files of their own.</summary>
internal sealed class ObjDraftReader : ModelDraftReader
{
    private const int MostTriangles = 10_000_000, MostParts = 20_000, MostLibraries = 20;

    public override string Name => "obj";

    public override int Version => base.Version + 1;

    public override string Words => "OBJ meshes";

    public override IReadOnlyList<string> Extensions { get; } = [".obj"];

    public override string MediaType => "model/obj";

    protected override string Format => "OBJ";

    public override bool HasFilesBeside => true;

    public override IReadOnlyList<string> NamesBeside(Stream stream)
    {
        using var reader = new StreamReader(stream, leaveOpen: true);
        var names = new HashSet<string>(StringComparer.OrdinalIgnoreCase);
        while (reader.ReadLine() is { } line)
            if (names.Count < MostLibraries && line.AsSpan().TrimStart().StartsWith("mtllib ") && FilesBeside.NameOf(line.TrimStart()[7..]) is { Length: > 0 } name) names.Add(name);
        return [.. names];
    }

    internal override (ReadModel? Model, ReadFault? Fault) Model(Stream stream, FilesBeside beside)
    {
        // The reader tells UTF-16 and UTF-8 by their marks.
        using var reader = new StreamReader(stream, leaveOpen: true);
        var points = new List<Point3>();
        var groups = new List<(string Name, string Material, List<int> Corners)>();
        var libraries = new List<string>();
        var polygon = new List<int>();
        string name = "", material = "";
        int triangles = 0, missing = 0, thin = 0, free = 0, coloured = 0;
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
            if (words.StartsWith("v ") || words.StartsWith("v\t")) Add(words[1..]);
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
                if (groups.Count == 0 || groups[^1].Name != name || groups[^1].Material != material)
                {
                    if (groups.Count == MostParts) return (null, new ReadFault(number, $"The file has more than {MostParts:N0} groups."));
                    groups.Add((name, material, []));
                }
                for (var i = 2; i < polygon.Count; i++)
                {
                    if (++triangles > MostTriangles) return (null, new ReadFault(number, $"The mesh has more than {MostTriangles:N0} triangles. Export it coarser, or in parts."));
                    groups[^1].Corners.AddRange([polygon[0], polygon[i - 1], polygon[i]]);
                }
            }
            else if (words.StartsWith("o ") || words.StartsWith("g ")) name = words[2..].Trim() is { Length: <= 200 } called ? called.ToString() : "";
            else if (words is ['l' or 'p', ' ' or '\t', ..]) thin++;
            else if (words.StartsWith("curv ") || words.StartsWith("curv2 ") || words.StartsWith("surf ")) free++;
            else if (words.StartsWith("usemtl")) material = words[6..].Trim() is { Length: <= 200 } with ? with.ToString() : "";
            else if (words.StartsWith("mtllib ") && libraries.Count < MostLibraries && FilesBeside.NameOf(words[7..].ToString()) is { Length: > 0 } library && !libraries.Contains(library)) libraries.Add(library);
        }
        void Add(ReadOnlySpan<char> numbers)
        {
            points.Add(PointOf(numbers));
            // Behind three numbers some programs write a colour; others put more than one space between three.
            if (numbers.Length < 11) return;
            var all = 0;
            foreach (var range in numbers.SplitAny(' ', '\t'))
                if (!numbers[range].IsEmpty) all++;
            if (all >= 6) coloured++;
        }
        if (triangles == 0) return (null, new ReadFault(null, "The file holds no faces. Export it with its meshes."));
        var colours = new Dictionary<string, ModelColour>();
        foreach (var library in libraries)
            if (beside.Open(library) is { } file)
                using (file) ObjMaterials.Read(file, colours);
        // A part has one colour: where colours are known, a group is as many parts as it has.
        var shaped = new List<ShapedMesh>();
        var parts = new List<Part>();
        foreach (var group in groups.GroupBy(g => (g.Name, Material: colours.Count > 0 ? g.Material : "")))
        {
            var corners = group.SelectMany(g => g.Corners).ToArray();
            var used = corners.Distinct().Order().ToArray();
            var (part, mesh) = Loose(group.Key.Name.Length > 0 ? group.Key.Name : "Mesh", colours.TryGetValue(group.Key.Material, out var colour) ? colour : null, [.. used.Select(i => points[i])], [.. corners.Select(i => Array.BinarySearch(used, i))]);
            parts.Add(part with { Material = group.Key.Material.Length > 0 ? new Material(group.Key.Material, null) : null });
            shaped.Add(mesh);
        }
        var scene = new Scene(LengthUnit.Unknown, [.. parts.Select((p, i) => new Component(p.Name, "", "", -1, Affine.Identity, null, i))], parts);
        List<NotShown> losses = [.. LossesOf(shaped)];
        if (missing > 0) losses.Add(new NotShown("face", missing, "It names a point that is not there."));
        if (thin > 0) losses.Add(new NotShown("lines or points", thin, "Only faces of meshes are shown."));
        if (free > 0) losses.Add(new NotShown("curve or surface", free, "Only faces of meshes are shown: this part of the model is missing. Export it as a mesh."));
        if (coloured > 0) losses.Add(new NotShown("colour of a point", coloured, "Parts are shown in their materials' colours."));
        losses.AddRange(libraries.Where(l => !beside.Has(l)).Select(l => new NotShown(l, 1, "Colours are in this other file, which is not with it.")));
        return (new ReadModel(scene, "", CountsOf(scene), losses) { Beside = [.. libraries.Select(l => new FileBeside(l, beside.Has(l)))] }, null);
    }
}
