using Froe.Core.Models;

namespace Froe.Formats.Models;

/// <summary>
/// The dimensions, tolerances and datums that a STEP file states of its parts (ISO 10303-47, 10303-242), as Froe's own scan finds them:
/// what they say, and the faces they speak of. The library counts the faces of a part as its shells list them; where that cannot be so,
/// a dimension leads to its part alone.
/// </summary>
internal sealed class ExchangeDimensions
{
    private const int Most = 5000, Deepest = 8;

    private static readonly string[] Sizes = ["DIMENSIONAL_SIZE", "DIMENSIONAL_SIZE_WITH_PATH", "ANGULAR_SIZE"];
    private static readonly string[] Locations = ["DIMENSIONAL_LOCATION", "DIRECTED_DIMENSIONAL_LOCATION", "DIMENSIONAL_LOCATION_WITH_PATH", "ANGULAR_LOCATION"];

    private static readonly Dictionary<string, string> Tolerances = new()
    {
        ["ANGULARITY_TOLERANCE"] = "angularity",
        ["CIRCULAR_RUNOUT_TOLERANCE"] = "circular run-out",
        ["COAXIALITY_TOLERANCE"] = "coaxiality",
        ["CONCENTRICITY_TOLERANCE"] = "concentricity",
        ["CYLINDRICITY_TOLERANCE"] = "cylindricity",
        ["FLATNESS_TOLERANCE"] = "flatness",
        ["LINE_PROFILE_TOLERANCE"] = "profile of a line",
        ["PARALLELISM_TOLERANCE"] = "parallelism",
        ["PERPENDICULARITY_TOLERANCE"] = "perpendicularity",
        ["POSITION_TOLERANCE"] = "position",
        ["ROUNDNESS_TOLERANCE"] = "roundness",
        ["STRAIGHTNESS_TOLERANCE"] = "straightness",
        ["SURFACE_PROFILE_TOLERANCE"] = "profile of a surface",
        ["SYMMETRY_TOLERANCE"] = "symmetry",
        ["TOTAL_RUNOUT_TOLERANCE"] = "total run-out",
    };

    private readonly ExchangeFile file;
    private readonly Scene scene;
    private readonly ExchangeParts parts;
    private readonly ILookup<int, IReadOnlyList<object?>> usages;
    private readonly ILookup<int, int> related;
    private readonly Dictionary<int, Dictionary<int, int>> orders = [];

    private ExchangeDimensions(ExchangeFile file, Scene scene)
    {
        this.file = file;
        this.scene = scene;
        parts = new ExchangeParts(file, scene);
        usages = file.Of("GEOMETRIC_ITEM_SPECIFIC_USAGE").Concat(file.Of("ITEM_IDENTIFIED_REPRESENTATION_USAGE"))
            .Where(u => u.Values is [_, _, InstanceName, ..]).ToLookup(u => ((InstanceName)u.Values[2]!).Id, u => u.Values);
        related = file.Of("SHAPE_ASPECT_RELATIONSHIP").Where(r => r.Values is [_, _, InstanceName, InstanceName, ..])
            .SelectMany(r => ((InstanceName)r.Values[2]!, (InstanceName)r.Values[3]!) is var (from, to) ? ((int, int)[])[(from.Id, to.Id), (to.Id, from.Id)] : []).ToLookup(p => p.Item1, p => p.Item2);
    }

    /// <summary>Those that are stated of parts of a model.</summary>
    public static IReadOnlyList<ModelDimension> Of(ExchangeFile file, Scene scene) => Of(file, scene, out _);

    /// <summary>Those that are stated, and how many are not shown.</summary>
    /// <param name="lost">How many are drawn in the file that lead to no part.</param>
    public static IReadOnlyList<ModelDimension> Of(ExchangeFile file, Scene scene, out int lost)
    {
        lost = 0;
        var found = new ExchangeDimensions(file, scene);
        var stated = found.Dimensions().Concat(found.GeometricTolerances()).Concat(found.Datums()).Take(Most).ToList();
        var places = stated.Index().GroupBy(s => s.Item.Id).ToDictionary(s => s.Key, s => s.First().Index);
        foreach (var (name, about, drawn) in ExchangeAnnotations.Of(file))
        {
            // What speaks of a dimension is how that is drawn; the rest is a note on the part that it speaks of.
            if (about.FirstOrDefault(places.ContainsKey) is var known && about.Contains(known) && places.TryGetValue(known, out var at))
                stated[at] = (known, stated[at].Dimension with { Drawn = stated[at].Dimension.Drawn?.With(drawn) ?? drawn });
            else if (stated.Count < Most && found.Note(name, about) is { } note) stated.Add((0, note with { Drawn = drawn }));
            else lost++;
        }
        return [.. stated.Select(s => s.Dimension)];
    }

    /// <summary>A note on what some instances are; of a file with one part alone on that. Null where it leads to no part.</summary>
    private ModelDimension? Note(string name, IReadOnlyList<int> about)
    {
        foreach (var id in about)
            if (Stated(ModelDimensionKind.Note, Aspects(id), name, name.Length > 0 ? name : "note") is { } stated) return stated with { Name = "" };
        return scene.Parts.Count == 1 ? new ModelDimension(ModelDimensionKind.Note, "", name.Length > 0 ? name : "note", 0, []) : null;
    }

    /// <summary>The aspects of a part that an instance speaks of: those of a dimension or a tolerance, or itself.</summary>
    private int[] Aspects(int id)
    {
        if (file.Find(id) is not { } found) return [id];
        var said = found.Parts is not null && found.Parts.TryGetValue("GEOMETRIC_TOLERANCE", out var tolerance) ? tolerance : found.Values;
        return Sizes.Contains(found.Entity) && said is [InstanceName of, ..] ? [of.Id]
            : Locations.Contains(found.Entity) && said is [_, _, InstanceName from, InstanceName to, ..] ? [from.Id, to.Id]
            : (Tolerances.ContainsKey(found.Entity) || found.Parts is not null) && said is [_, _, _, InstanceName aspect, ..] ? [aspect.Id]
            : [id];
    }

    private IEnumerable<(int Id, ModelDimension Dimension)> Dimensions()
    {
        var values = file.Of("DIMENSIONAL_CHARACTERISTIC_REPRESENTATION").Where(r => r.Values is [InstanceName, InstanceName, ..]).ToLookup(r => ((InstanceName)r.Values[0]!).Id, r => ((InstanceName)r.Values[1]!).Id);
        var limits = file.Of("PLUS_MINUS_TOLERANCE").Where(t => t.Values is [InstanceName, InstanceName, ..]).ToLookup(t => ((InstanceName)t.Values[1]!).Id, t => ((InstanceName)t.Values[0]!).Id);
        foreach (var (id, said) in Sizes.SelectMany(file.Of))
            if (said is [InstanceName aspect, var name, ..] && Of(ModelDimensionKind.Size, id, name as string ?? "", [aspect.Id]) is { } size) yield return (id, size);
        foreach (var (id, said) in Locations.SelectMany(file.Of))
            if (said is [var name, _, InstanceName from, InstanceName to, ..] && Of(ModelDimensionKind.Location, id, name as string ?? "", [from.Id, to.Id]) is { } location) yield return (id, location);

        ModelDimension? Of(ModelDimensionKind kind, int id, string type, int[] aspects)
        {
            var (lower, upper, fit) = Limits(limits[id]);
            // The first that is no limit by its name is the value itself.
            var measured = values[id].SelectMany(r => file.Find(r, "SHAPE_DIMENSION_REPRESENTATION") is [_, IReadOnlyList<object?> items, ..] ? items.OfType<InstanceName>() : []).Select(i => ExchangeUnits.Measure(file, i.Id)).FirstOrDefault(m => m is not null);
            var sign = type.Contains("diameter", StringComparison.OrdinalIgnoreCase) ? "Ø" : type.Contains("radius", StringComparison.OrdinalIgnoreCase) ? "R" : "";
            var words = ModelDimension.Said(sign, measured?.Value, measured?.IsAngle == true, lower, upper, fit);
            return words.Length == 0 ? null : Stated(kind, aspects, type, words);
        }
    }

    private IEnumerable<(int Id, ModelDimension Dimension)> GeometricTolerances()
    {
        foreach (var (entity, words) in Tolerances)
            foreach (var (id, said) in file.Of(entity))
                if (said is [var name, _, var magnitude, InstanceName aspect, ..] && Of(words, name, magnitude, aspect, said.Count > 4 ? said[4] : null) is { } simple) yield return (id, simple);
        foreach (var (id, entity) in file.Complex())
        {
            if (!entity.TryGetValue("GEOMETRIC_TOLERANCE", out var said) || said is not [var name, _, var magnitude, InstanceName aspect, ..]) continue;
            var kind = entity.Keys.FirstOrDefault(Tolerances.ContainsKey);
            var datums = entity.TryGetValue("GEOMETRIC_TOLERANCE_WITH_DATUM_REFERENCE", out var with) && with is [var references, ..] ? references : null;
            if (kind is not null && Of(Tolerances[kind], name, magnitude, aspect, datums) is { } complex) yield return (id, complex);
        }

        ModelDimension? Of(string words, object? name, object? magnitude, InstanceName aspect, object? datums) =>
            Stated(ModelDimensionKind.Tolerance, [aspect.Id], name as string ?? "", ModelDimension.Said(words, magnitude is InstanceName m ? ExchangeUnits.Measure(file, m.Id)?.Value : null, [.. Letters(datums, 0).Distinct()]));
    }

    private IEnumerable<(int Id, ModelDimension Dimension)> Datums() =>
        file.Of("DATUM").Select(d => (d.Id, Stated: d.Values is [.., string letter] && letter.Length > 0 ? Stated(ModelDimensionKind.Datum, [d.Id], "", $"datum {letter}") : null))
            .Where(d => d.Stated is not null).Select(d => (d.Id, d.Stated!));

    /// <summary>The letters of what a tolerance refers to: systems of compartments of datums, or datums.</summary>
    private IEnumerable<string> Letters(object? of, int depth)
    {
        if (depth > Deepest) return [];
        if (of is IReadOnlyList<object?> all) return all.SelectMany(one => Letters(one, depth + 1));
        if (of is not InstanceName name || file.Find(name.Id) is not { } found) return [];
        return found.Entity switch
        {
            "DATUM" => found.Values is [.., string letter] ? [letter] : [],
            "DATUM_SYSTEM" or "DATUM_REFERENCE_COMPARTMENT" or "DATUM_REFERENCE_ELEMENT" or "DATUM_REFERENCE" => found.Values.Skip(found.Entity == "DATUM_REFERENCE" ? 1 : 4).Take(1).SelectMany(v => Letters(v, depth + 1)),
            _ => [],
        };
    }

    private (double? Lower, double? Upper, string Fit) Limits(IEnumerable<int> ranges)
    {
        foreach (var range in ranges)
        {
            if (file.Find(range, "TOLERANCE_VALUE") is [InstanceName low, InstanceName up, ..] && ExchangeUnits.Measure(file, low.Id) is { } lower && ExchangeUnits.Measure(file, up.Id) is { } upper) return (lower.Value, upper.Value, "");
            // Letter and grade, as in H7.
            if (file.Find(range, "LIMITS_AND_FITS") is [var form, _, var grade, ..]) return (null, null, $"{form as string}{grade as string}");
        }
        return (null, null, "");
    }

    /// <summary>A dimension of the part that its aspects belong to; null where there is no such part.</summary>
    private ModelDimension? Stated(ModelDimensionKind kind, int[] aspects, string type, string words)
    {
        if (PartOf(aspects[0]) is not { } part) return null;
        var name = aspects.Select(a => Aspect(a) is [string called, ..] ? called.Trim() : "").FirstOrDefault(n => n.Length > 0) ?? "";
        return new ModelDimension(kind, name.Length > 0 ? name : type, words, part, [.. aspects.SelectMany(a => Faces(a, part, 0)).Distinct().Order()]);
    }

    private IReadOnlyList<object?> Aspect(int id)
    {
        if (file.Find(id) is not { } found) return [];
        return found.Parts is null ? found.Values : found.Parts.TryGetValue("SHAPE_ASPECT", out var said) ? said : [];
    }

    /// <summary>The part that an aspect is of.</summary>
    private int? PartOf(int aspect) => Aspect(aspect) is [_, _, InstanceName shape, ..] ? parts.OfShape(shape.Id) : null;

    private IEnumerable<int> Faces(int aspect, int part, int depth)
    {
        var own = usages[aspect].SelectMany(u => u is [_, _, _, InstanceName representation, var items, ..]
            ? (items is IReadOnlyList<object?> several ? several : [items]).OfType<InstanceName>().Select(i => FaceOf(representation.Id, i.Id, part)).OfType<int>()
            : []).ToList();
        // Of a datum the feature has the faces, of one that is put together those that it is made of.
        return own.Count > 0 || depth > 0 ? own : related[aspect].SelectMany(a => Faces(a, part, depth + 1));
    }

    private int? FaceOf(int representation, int face, int part)
    {
        if (!orders.TryGetValue(representation, out var order)) orders[representation] = order = Order(representation);
        if (!order.TryGetValue(face, out var at) || order.Count != scene.Parts[part].Faces.Count) return null;
        // That the library counts as the file does is believed where the face is of the same kind.
        var said = file.Find(face, "ADVANCED_FACE") is [_, _, InstanceName surface, ..] ? file.Find(surface.Id)?.Entity : null;
        var kind = said switch
        {
            "PLANE" => SurfaceKind.Plane,
            "CYLINDRICAL_SURFACE" => SurfaceKind.Cylinder,
            "CONICAL_SURFACE" => SurfaceKind.Cone,
            "SPHERICAL_SURFACE" => SurfaceKind.Sphere,
            "TOROIDAL_SURFACE" => SurfaceKind.Torus,
            _ => (SurfaceKind?)null,
        };
        return kind is null || kind == scene.Parts[part].Faces[at].Surface ? at : null;
    }

    /// <summary>The faces of a representation in the order of its shells.</summary>
    private Dictionary<int, int> Order(int representation)
    {
        var order = new Dictionary<int, int>();
        if (file.Find(representation) is { Values: [_, IReadOnlyList<object?> items, ..] })
            foreach (var item in items.OfType<InstanceName>()) Shells(item.Id, 0);
        return order;

        void Shells(int id, int depth)
        {
            if (depth > Deepest || file.Find(id) is not { } found) return;
            if (found.Entity is "CLOSED_SHELL" or "OPEN_SHELL")
            {
                if (found.Values is [_, IReadOnlyList<object?> faces, ..])
                    foreach (var face in faces.OfType<InstanceName>()) order.TryAdd(face.Id, order.Count);
            }
            else if (found.Entity is "MANIFOLD_SOLID_BREP" or "BREP_WITH_VOIDS" or "SHELL_BASED_SURFACE_MODEL" or "ORIENTED_CLOSED_SHELL")
                foreach (var value in found.Values.SelectMany(v => v is IReadOnlyList<object?> several ? several : [v]).OfType<InstanceName>()) Shells(value.Id, depth + 1);
        }
    }
}
