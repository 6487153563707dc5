using Froe.Core.Drawing;
using Froe.Core.Models;

namespace Froe.Formats.Models;

/// <summary>
/// What a STEP file has drawn of its dimensions and notes (ISO 10303-46 annotation occurrences, ISO 10303-42 tessellated and curve sets): lines
/// and filled areas in the coordinates of the part, and what each speaks of (ISO 10303-1207, draughting_model_item_association).
/// </summary>
internal sealed class ExchangeAnnotations
{
    private const int Most = 2000, MostPoints = 300_000, MostItems = 100_000, Deepest = 12;

    private static readonly string[] Occurrences = ["TESSELLATED_ANNOTATION_OCCURRENCE", "ANNOTATION_CURVE_OCCURRENCE", "ANNOTATION_FILL_AREA_OCCURRENCE"];

    private static readonly string[] Associations = ["DRAUGHTING_MODEL_ITEM_ASSOCIATION", "DRAUGHTING_MODEL_ITEM_ASSOCIATION_WITH_PLACEHOLDER"];

    private readonly ExchangeFile file;
    private readonly double factor;
    private readonly Dictionary<int, Point3[]> lists = [];
    private int points, items;

    private ExchangeAnnotations(ExchangeFile file) => (this.file, factor) = (file, ExchangeUnits.Length(file));

    /// <summary>An annotation.</summary>
    /// <param name="Name">What it is called.</param>
    /// <param name="About">The instances it speaks of; none where the file does not say.</param>
    internal readonly record struct Found(string Name, IReadOnlyList<int> About, DrawnOnModel Drawn);

    /// <summary>The annotations of a file: callouts as one each, and what stands for itself.</summary>
    public static IReadOnlyList<Found> Of(ExchangeFile file) => new ExchangeAnnotations(file).All();

    private List<Found> All()
    {
        var about = Associations.SelectMany(file.Of)
            .Where(a => a.Values is [_, _, InstanceName, _, InstanceName, ..]).ToLookup(a => ((InstanceName)a.Values[4]!).Id, a => ((InstanceName)a.Values[2]!).Id);
        // Of several of one name, as damaged files have, it is the first.
        var occurrences = new Dictionary<int, IReadOnlyList<object?>>();
        foreach (var (id, values) in Occurrences.SelectMany(file.Of)) occurrences.TryAdd(id, values);
        var found = new List<Found>();
        var called = new HashSet<int>();
        foreach (var (id, values) in file.Of("DRAUGHTING_CALLOUT"))
        {
            if (values is not [var name, IReadOnlyList<object?> contents, ..]) continue;
            int[] own = [.. contents.OfType<InstanceName>().Select(c => c.Id).Where(occurrences.ContainsKey)];
            called.UnionWith(own);
            Add(name as string ?? "", [.. about[id], .. own.SelectMany(o => about[o])], own);
        }
        foreach (var (id, values) in occurrences)
            if (!called.Contains(id)) Add(values is [string name, ..] ? name : "", [.. about[id]], [id]);
        return found;

        void Add(string name, int[] of, int[] own)
        {
            if (found.Count >= Most) return;
            var (lines, areas) = (new List<IReadOnlyList<double>>(), new List<double>());
            foreach (var one in own)
                if (occurrences[one] is [_, _, InstanceName item, ..]) Draw(item.Id, lines, areas, 0);
            if (lines.Count > 0 || areas.Count > 0) found.Add(new Found(name.Trim(), [.. of.Distinct()], new DrawnOnModel(lines, areas)));
        }
    }

    private void Draw(int id, List<IReadOnlyList<double>> lines, List<double> areas, int depth)
    {
        // Sets that lie in one another many times are drawn no further.
        if (depth > Deepest || points > MostPoints || items++ > MostItems || file.Find(id) is not { } item) return;
        switch (item.Entity, item.Values)
        {
            case ("TESSELLATED_GEOMETRIC_SET" or "GEOMETRIC_CURVE_SET" or "GEOMETRIC_SET", [_, IReadOnlyList<object?> children, ..]):
                foreach (var child in children.OfType<InstanceName>()) Draw(child.Id, lines, areas, depth + 1);
                break;
            case ("TESSELLATED_CURVE_SET", [_, InstanceName list, IReadOnlyList<object?> strips, ..]):
                var of = List(list.Id);
                foreach (var strip in strips.OfType<IReadOnlyList<object?>>()) Line(lines, [.. Indexes(strip).Select(i => i - 1).Where(i => (uint)i < (uint)of.Length).Select(i => of[i])]);
                break;
            case ("POLYLINE", [_, IReadOnlyList<object?> along, ..]):
                Line(lines, [.. along.OfType<InstanceName>().Select(p => file.Find(p.Id, "CARTESIAN_POINT") is [_, IReadOnlyList<object?> at, ..] ? PointOf(at) : null).OfType<Point3>()]);
                break;
            case ("TRIANGULATED_SURFACE_SET", [_, InstanceName list, _, _, IReadOnlyList<object?> index, IReadOnlyList<object?> triangles, ..]):
                Areas(areas, List(list.Id), Indexes(index), triangles.OfType<IReadOnlyList<object?>>().Select(Indexes));
                break;
            case ("COMPLEX_TRIANGULATED_SURFACE_SET", [_, InstanceName list, _, _, IReadOnlyList<object?> index, IReadOnlyList<object?> strips, IReadOnlyList<object?> fans, ..]):
                Areas(areas, List(list.Id), Indexes(index), strips.OfType<IReadOnlyList<object?>>().Select(Indexes).SelectMany(s => Enumerable.Range(0, Math.Max(0, s.Length - 2)).Select(i => s[i..(i + 3)]))
                    .Concat(fans.OfType<IReadOnlyList<object?>>().Select(Indexes).SelectMany(f => Enumerable.Range(1, Math.Max(0, f.Length - 2)).Select(i => (int[])[f[0], f[i], f[i + 1]]))));
                break;
        }
    }

    private void Line(List<IReadOnlyList<double>> lines, Point3[] line)
    {
        if (line.Length < 2 || (points += line.Length) > MostPoints) return;
        lines.Add([.. line.SelectMany(Numbers)]);
    }

    private void Areas(List<double> areas, Point3[] of, int[] index, IEnumerable<int[]> triangles)
    {
        foreach (var triangle in triangles)
        {
            // Through the set's own index where it has one.
            int[] at = [.. triangle.Select(i => index.Length == 0 ? i - 1 : (uint)(i - 1) < (uint)index.Length ? index[i - 1] - 1 : -1)];
            if (at.Length != 3 || at.Any(i => (uint)i >= (uint)of.Length)) continue;
            if ((points += 3) > MostPoints) return;
            areas.AddRange(at.SelectMany(i => Numbers(of[i])));
        }
    }

    private Point3[] List(int id)
    {
        if (lists.TryGetValue(id, out var known)) return known;
        return lists[id] = file.Find(id, "COORDINATES_LIST") is [_, _, IReadOnlyList<object?> all, ..] ? [.. all.OfType<IReadOnlyList<object?>>().Select(p => PointOf(p) ?? default)] : [];
    }

    private static int[] Indexes(IReadOnlyList<object?> values) => [.. values.Select(v => v is double n && n is >= 1 and <= int.MaxValue ? (int)n : 0)];

    private Point3? PointOf(IReadOnlyList<object?> at) => at is [double x, double y, double z] && double.IsFinite(x + y + z) ? new Point3(x * factor, y * factor, z * factor) : null;

    private static double[] Numbers(Point3 p) => [Math.Round(p.X, 4), Math.Round(p.Y, 4), Math.Round(p.Z, 4)];
}
