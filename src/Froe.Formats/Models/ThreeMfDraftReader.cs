using System.Globalization;
using System.IO.Compression;
using System.Xml;
using Froe.Core.Draft;
using Froe.Core.Drawing;
using Froe.Core.Models;

namespace Froe.Formats.Models;

/// <summary>Reads 3MF files (ISO/IEC 25422: an archive of XML) into models: objects, the components they are made of, what is to be built.</summary>
internal sealed class ThreeMfDraftReader : ModelDraftReader
{
    private const int MostTriangles = 10_000_000, MostComponents = 200_000, Deepest = 32;
    private const long MostUnpacked = 1L << 30;

    public override string Name => "3mf";

    public override int Version => base.Version + 1;

    public override string Words => "3MF models";

    public override IReadOnlyList<string> Extensions { get; } = [".3mf"];

    public override string MediaType => "model/3mf";

    protected override string Format => "3MF";

    internal override (ReadModel? Model, ReadFault? Fault) Model(Stream stream, FilesBeside beside)
    {
        ArgumentNullException.ThrowIfNull(stream);
        try
        {
            using var archive = new ZipArchive(stream, ZipArchiveMode.Read, leaveOpen: true);
            var reading = new Reading(archive);
            return reading.Model();
        }
        catch (InvalidDataException)
        {
            return (null, new ReadFault(null, "The file is no 3MF archive, or it is damaged. Export it again."));
        }
        catch (XmlException e)
        {
            return (null, new ReadFault(e.LineNumber > 0 ? e.LineNumber : null, "The model in the archive is damaged there. Export it again."));
        }
    }

    /// <summary>An object: a mesh, or others that it is made of.</summary>
    private sealed record Thing(string Name, string Number, int? Part, List<(string Key, Affine At)> Children);

    private sealed class Reading(ZipArchive archive)
    {
        private readonly Dictionary<string, Thing> things = [];
        private readonly Dictionary<string, List<ModelColour?>> colours = [];
        private readonly List<(string Key, Affine At)> built = [];
        private readonly List<Part> parts = [];
        private readonly List<ShapedMesh> shaped = [];
        private readonly List<Component> components = [];
        private readonly List<string> missing = [];
        private double millimetres = 1;
        private string unit = "millimeter";
        private int triangles, nowhere, coloured, beams, pictures;
        private long unpacked;

        public (ReadModel? Model, ReadFault? Fault) Model()
        {
            var main = archive.Entries.FirstOrDefault(e => e.FullName.TrimStart('/').Equals("3D/3dmodel.model", StringComparison.OrdinalIgnoreCase))
                ?? archive.Entries.FirstOrDefault(e => e.FullName.EndsWith(".model", StringComparison.OrdinalIgnoreCase));
            if (main is null) return (null, new ReadFault(null, "The archive holds no model. Export it again."));
            // Objects may lie in other models of the archive (production extension): those come first.
            foreach (var entry in archive.Entries.Where(e => e != main && e.FullName.EndsWith(".model", StringComparison.OrdinalIgnoreCase)).Append(main))
                if (!ReadModel(entry, entry == main)) return (null, new ReadFault(null, $"The model has more than {MostTriangles:N0} triangles, or is longer than {MostUnpacked >> 20:N0} MB. Export it coarser, or in parts."));
            foreach (var (key, at) in built)
                if (!Place(key, -1, at, 0)) return (null, new ReadFault(null, $"The model has more than {MostComponents:N0} components."));
            var scene = new Scene(LengthUnit.Millimetre, components, parts);
            List<NotShown> losses = [.. LossesOf(shaped)];
            if (nowhere > 0) losses.Add(new NotShown("triangle", nowhere, "It refers to a corner that is not there."));
            if (coloured > 0) losses.Add(new NotShown("colour of a triangle", coloured, "Parts are shown in one colour each."));
            if (pictures > 0) losses.Add(new NotShown("picture on a face", pictures, "Faces are shown in their colours."));
            if (beams > 0) losses.Add(new NotShown("beam of a lattice", beams, "Only meshes are shown: this part of the model is missing. Export it as a mesh."));
            if (missing.Count > 0) losses.Add(new NotShown("object", missing.Count, "It is to be built, but is not in the file."));
            return (new ReadModel(scene, InUnit("", unit.Replace("meter", "metre", StringComparison.Ordinal)), CountsOf(scene), losses), null);
        }

        private bool Place(string key, int parent, Affine at, int depth)
        {
            if (components.Count >= MostComponents) return false;
            if (depth > Deepest || !things.TryGetValue(key, out var thing))
            {
                missing.Add(key);
                return true;
            }
            var number = components.Count;
            components.Add(new Component(thing.Name, thing.Number, "", parent, at, null, thing.Part));
            return thing.Children.All(child => Place(child.Key, number, child.At, depth + 1));
        }

        private bool ReadModel(ZipArchiveEntry entry, bool isMain)
        {
            if ((unpacked += entry.Length) > MostUnpacked) return false;
            var path = "/" + entry.FullName.TrimStart('/');
            using var stream = new Bounded(entry.Open(), MostUnpacked);
            using var xml = XmlReader.Create(stream, new XmlReaderSettings { DtdProcessing = DtdProcessing.Prohibit, XmlResolver = null, IgnoreComments = true, IgnoreWhitespace = true });
            string id = "", name = "", number = "", pid = "", list = "";
            var index = 0;
            List<Point3> points = [];
            List<int> corners = [];
            // Of each colour that a triangle states itself, how many have it.
            Dictionary<ModelColour, int> facets = [];
            List<(string, Affine)> children = [];
            while (xml.Read())
            {
                if (xml.NodeType == XmlNodeType.EndElement && xml.LocalName == "object") Close();
                if (xml.NodeType != XmlNodeType.Element) continue;
                switch (xml.LocalName)
                {
                    case "model":
                        var stated = xml.GetAttribute("unit") ?? "millimeter";
                        millimetres = stated switch { "micron" => 0.001, "centimeter" => 10, "inch" => 25.4, "foot" => 304.8, "meter" => 1000, _ => 1 };
                        if (isMain) unit = stated;
                        break;
                    case "basematerials" or "colorgroup":
                        list = $"{path}#{xml.GetAttribute("id")}";
                        colours[list] = [];
                        break;
                    case "base" when list.Length > 0: colours[list].Add(ColourOf(xml.GetAttribute("displaycolor"))); break;
                    case "color" when list.Length > 0: colours[list].Add(ColourOf(xml.GetAttribute("color"))); break;
                    case "object":
                        (id, name, number) = (xml.GetAttribute("id") ?? "", xml.GetAttribute("name") ?? "", xml.GetAttribute("partnumber") ?? "");
                        (pid, index) = (xml.GetAttribute("pid") ?? "", int.TryParse(xml.GetAttribute("pindex"), CultureInfo.InvariantCulture, out var i) ? i : 0);
                        (points, corners, facets, children) = ([], [], [], []);
                        if (xml.IsEmptyElement) Close();
                        break;
                    case "vertex": points.Add(new Point3(Number(xml, "x"), Number(xml, "y"), Number(xml, "z"))); break;
                    case "triangle":
                        if (++triangles > MostTriangles) return false;
                        int[] three = [Whole(xml, "v1"), Whole(xml, "v2"), Whole(xml, "v3")];
                        if (three.All(p => (uint)p < (uint)points.Count)) corners.AddRange(three);
                        else nowhere++;
                        if (xml.GetAttribute("p1") is not null && Listed(xml.GetAttribute("pid") ?? pid, Whole(xml, "p1")) is { } facet) facets[facet] = facets.GetValueOrDefault(facet) + 1;
                        break;
                    case "beam": beams++; break;
                    case "texture2d": pictures++; break;
                    case "component": children.Add((Key(xml), PlacementOf(xml.GetAttribute("transform")))); break;
                    case "item" when isMain: built.Add((Key(xml), PlacementOf(xml.GetAttribute("transform")))); break;
                }
            }
            return true;

            string Key(XmlReader at)
            {
                var other = at.GetAttribute("path", "http://schemas.microsoft.com/3dmanufacturing/production/2015/06");
                return $"{(other is { Length: > 0 } ? "/" + other.TrimStart('/') : path)}#{at.GetAttribute("objectid")}";
            }

            ModelColour? Listed(string of, int at) => colours.TryGetValue($"{path}#{of}", out var known) && (uint)at < (uint)known.Count ? known[at] : null;

            void Close()
            {
                int? part = null;
                if (corners.Count > 0)
                {
                    // All triangles may have one colour that the object does not name.
                    var own = facets.Count == 1 && facets.Values.Single() == corners.Count / 3 ? facets.Keys.Single() : Listed(pid, index);
                    coloured += facets.Where(f => f.Key != own).Sum(f => f.Value);
                    var (made, one) = Loose(name.Length > 0 ? name : $"Object {id}", own, [.. points], [.. corners]);
                    part = parts.Count;
                    parts.Add(made with { Number = number });
                    shaped.Add(one);
                }
                things[$"{path}#{id}"] = new Thing(name.Length > 0 ? name : $"Object {id}", number, part, children);
            }
        }

        private double Number(XmlReader xml, string name) =>
            double.TryParse(xml.GetAttribute(name), NumberStyles.Float, CultureInfo.InvariantCulture, out var value) ? value * millimetres : double.NaN;

        private static int Whole(XmlReader xml, string name) => int.TryParse(xml.GetAttribute(name), NumberStyles.None, CultureInfo.InvariantCulture, out var value) ? value : -1;

        /// <summary>Twelve numbers, column by column as the standard has them: three images of axes, and the move.</summary>
        private Affine PlacementOf(string? words)
        {
            if (words is null) return Affine.Identity;
            var n = words.Split(' ', StringSplitOptions.RemoveEmptyEntries).Select(w => double.TryParse(w, NumberStyles.Float, CultureInfo.InvariantCulture, out var value) && double.IsFinite(value) ? value : double.NaN).ToArray();
            return n.Length != 12 || n.Any(double.IsNaN) ? Affine.Identity
                : new Affine(new(n[0], n[1], n[2]), new(n[3], n[4], n[5]), new(n[6], n[7], n[8]), millimetres * new Point3(n[9], n[10], n[11]));
        }

        private static ModelColour? ColourOf(string? words) =>
            words is { Length: 7 or 9 } && words[0] == '#' && uint.TryParse(words.AsSpan(1), NumberStyles.HexNumber, CultureInfo.InvariantCulture, out var value)
                ? words.Length == 7
                    ? new ModelColour((byte)(value >> 16), (byte)(value >> 8), (byte)value)
                    : new ModelColour((byte)(value >> 24), (byte)(value >> 16), (byte)(value >> 8), (value & 255) / 255.0)
                : null;
    }

    /// <summary>A stream that ends in a fault where it is longer than the archive may say.</summary>
    private sealed class Bounded(Stream inner, long most) : Stream
    {
        private long read;

        public override bool CanRead => true;

        public override bool CanSeek => false;

        public override bool CanWrite => false;

        public override long Length => throw new NotSupportedException();

        public override long Position { get => read; set => throw new NotSupportedException(); }

        public override int Read(byte[] buffer, int offset, int count)
        {
            var some = inner.Read(buffer, offset, count);
            return (read += some) > most ? throw new InvalidDataException("longer than stated") : some;
        }

        public override void Flush() => throw new NotSupportedException();

        public override long Seek(long offset, SeekOrigin origin) => throw new NotSupportedException();

        public override void SetLength(long value) => throw new NotSupportedException();

        public override void Write(byte[] buffer, int offset, int count) => throw new NotSupportedException();

        protected override void Dispose(bool disposing)
        {
            if (disposing) inner.Dispose();
            base.Dispose(disposing);
        }
    }
}
