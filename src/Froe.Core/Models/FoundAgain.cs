using Froe.Core.Drawing;

namespace Froe.Core.Models;

/// <summary>How surely something of a model was found again on its next draft.</summary>
public enum FoundHow
{
    /// <summary>It lies where it lay, and is what it was.</summary>
    Same,

    /// <summary>It is another by its place or its size, and there is one alone that it can be.</summary>
    Changed,

    /// <summary>What is most like it; a person says whether it is.</summary>
    Unsure,

    /// <summary>Nothing there is like it.</summary>
    Gone,
}

/// <summary>Something of a model, found on its next draft.</summary>
/// <param name="Component">Null where it is gone.</param>
/// <param name="At">Where it was picked, as near as it is there now, in the part's coordinates.</param>
public sealed record FoundAgain(FoundHow How, int? Component, int? Face, int? Edge, Point3 At)
{
    /// <summary>Most that is looked for at once.</summary>
    public const int Most = 500;
}

/// <summary>
/// Finds what was picked on one draft of a model on the next. A component is the one of the same way of numbers and names, of several the
/// nearest; a face or an edge is the nearest that is like it: of its kind, as hollow, looking the same way.
/// </summary>
public sealed class FindingAgain
{
    /// <summary>How far something may have gone and still be taken for what it was, in diagonals of its part's box.</summary>
    private const double Near = 0.05;

    /// <summary>How far it lies off by nothing but rounding, in the same.</summary>
    private const double Rounding = 1e-4;

    private readonly SceneFacts was, now;
    private readonly ExactFacts wasExact, nowExact;
    private readonly IReadOnlyList<Mesh> meshes;
    private readonly IReadOnlyList<Affine> stood, stands;
    private readonly string[] wasCalled;
    private readonly ILookup<string, int> called, alike;
    private readonly Dictionary<int, LookedForFaces> looked = [];

    /// <param name="was">The draft that things were picked on, with what is exactly known of it.</param>
    /// <param name="now">The draft that they are looked for on, with what is exactly known of it.</param>
    /// <param name="meshes">The meshes of the parts of the latter.</param>
    public FindingAgain((SceneFacts Facts, ExactFacts Exact) was, (SceneFacts Facts, ExactFacts Exact) now, IReadOnlyList<Mesh> meshes)
    {
        (this.was, wasExact) = was;
        (this.now, nowExact) = now;
        this.meshes = meshes;
        (stood, stands) = (this.was.Placements(), this.now.Placements());
        wasCalled = Ways(this.was);
        var ways = Ways(this.now);
        called = Enumerable.Range(0, ways.Length).ToLookup(i => ways[i]);
        alike = Enumerable.Range(0, ways.Length).ToLookup(i => OwnName(this.now.Components[i]));
    }

    /// <summary>Finds one.</summary>
    public FoundAgain Find(PickedOnModel picked)
    {
        ArgumentNullException.ThrowIfNull(picked);
        var at = picked.At ?? default;
        if ((uint)picked.Component >= (uint)was.Components.Count) return new(FoundHow.Gone, null, null, null, at);
        var (component, isSure) = Component(picked.Component, at);
        if (component is not { } on) return new(FoundHow.Gone, null, null, null, at);
        var found = (was.Components[picked.Component].Part, now.Components[on].Part) switch
        {
            ({ } from, { } to) when picked.Edge is { } edge => Edge(on, wasExact.Parts[from], to, edge, at),
            ({ } from, { } to) when picked.Face is { } face => Face(on, wasExact.Parts[from], to, face, at, picked.Normal),
            ({ }, { }) or (null, null) => new FoundAgain(FoundHow.Same, on, null, null, at),
            _ => new FoundAgain(FoundHow.Unsure, on, null, null, at),
        };
        return isSure || found.How == FoundHow.Gone ? found : found with { How = FoundHow.Unsure };
    }

    private (int? Component, bool IsSure) Component(int component, Point3 at)
    {
        var place = stood[component].Apply(at);
        double Far(int c) => (stands[c].Apply(at) - place).Length();
        var isPart = was.Components[component].Part is not null;
        var same = called[wasCalled[component]].Where(c => now.Components[c].Part is not null == isPart).OrderBy(Far).ToList();
        // Of several that are called alike it is the nearest, when the next is clearly farther.
        if (same is [var nearest, .. var rest]) return (nearest, rest.Count == 0 || Far(rest[0]) > 2 * Far(nearest));
        var moved = alike[OwnName(was.Components[component])].Where(c => now.Components[c].Part is not null == isPart).OrderBy(Far).ToList();
        return (moved.Count == 0 ? null : moved[0], false);
    }

    private FoundAgain Face(int component, ExactPart from, int part, int face, Point3 at, Point3? normal)
    {
        var mesh = meshes[part];
        if (mesh.Faces == 0) return new(FoundHow.Unsure, component, null, null, at);
        var asked = (uint)face < (uint)from.Faces.Count ? from.Faces[face] : Models.Face.Unknown;
        var faces = nowExact.Parts[part].Faces;
        var all = Enumerable.Range(0, mesh.Faces).Select(f => (Face: f, Own: f < faces.Count ? faces[f] : Models.Face.Unknown)).ToList();
        var like = all.Where(f => IsLike(asked, f.Own)).ToList();
        var isLike = like.Count > 0;
        var near = Nearest(part, isLike ? like : all, at, normal);
        if (near.Count == 0) return new(FoundHow.Unsure, component, null, null, at);
        var (best, own, foot) = near[0];
        return new(How((foot - at).Length(), near.Count > 1 ? (near[1].Foot - at).Length() : double.PositiveInfinity, now.Parts[part], isLike, IsAsLarge(asked.Radius, own.Radius)), component, best, null, foot);
    }

    /// <summary>The nearest two of some faces, each by its nearest point: what lies in a box that is farther away is not looked at.</summary>
    private List<(int Face, Face Own, Point3 Foot)> Nearest(int part, List<(int Face, Face Own)> some, Point3 at, Point3? normal)
    {
        if (!looked.TryGetValue(part, out var faces)) looked[part] = faces = new LookedForFaces(meshes[part]);
        var waiting = new PriorityQueue<(int Face, Face Own), double>(some.Select(f => (f, faces.AtLeast(f.Face, at))));
        var near = new List<(int Face, Face Own, Point3 Foot)>();
        var (best, second) = (double.PositiveInfinity, double.PositiveInfinity);
        while (waiting.TryDequeue(out var one, out var least) && least <= second && double.IsFinite(least))
        {
            var foot = faces.Foot(one.Face, at, normal);
            near.Add((one.Face, one.Own, foot));
            var far = (foot - at).Length();
            if (far < best) (best, second) = (far, best);
            else if (far < second) second = far;
        }
        return [.. near.OrderBy(f => (f.Foot - at).Length()).ThenBy(f => f.Face).Take(2)];
    }

    private FoundAgain Edge(int component, ExactPart from, int part, int edge, Point3 at)
    {
        var edges = nowExact.Parts[part].Edges;
        if ((uint)edge >= (uint)from.Edges.Count) return new(FoundHow.Unsure, component, null, null, at);
        var asked = from.Edges[edge];
        // Of a free line nothing is known but its length.
        bool IsLike(Edge e) => e.Curve == asked.Curve && (e.Curve == CurveKind.Free ? IsAsLarge(e.Length ?? 0, asked.Length ?? 0) : Math.Abs(Point3.Dot(e.Along, asked.Along)) > 0.98);
        var near = Enumerable.Range(0, edges.Count).Where(e => IsLike(edges[e]))
            // Several edges can lie on one line: the one that is as long comes first, then the one of the same place in the list.
            .Select(e => (Edge: e, Foot: Foot(edges[e], at), IsAsLong: IsAsLarge(edges[e].Length ?? 0, asked.Length ?? 0)))
            .OrderBy(e => Math.Round((e.Foot - at).Length(), 6)).ThenBy(e => !e.IsAsLong).ThenBy(e => Math.Abs(e.Edge - edge)).ToList();
        if (near.Count == 0) return new(FoundHow.Unsure, component, null, null, at);
        var (best, foot, isAsLong) = near[0];
        var how = How((foot - at).Length(), near.Skip(1).Where(e => (e.Foot - foot).Length() > 1e-6).Select(e => (e.Foot - at).Length()).FirstOrDefault(double.PositiveInfinity), now.Parts[part], true, isAsLong);
        return new(asked.Curve == CurveKind.Free && near.Count > 1 ? FoundHow.Unsure : how, component, null, best, foot);
    }

    private static FoundHow How(double far, double next, PartFacts part, bool isLike, bool isAsLarge)
    {
        var across = part.Box is [var x, var y, var z, var right, var back, var top] ? (new Point3(right, back, top) - new Point3(x, y, z)).Length() : 0;
        if (!isLike) return FoundHow.Unsure;
        if (far <= (Rounding * across) + part.Deviation) return isAsLarge ? FoundHow.Same : FoundHow.Changed;
        return far <= Near * across && next > 2 * far ? FoundHow.Changed : FoundHow.Unsure;
    }

    private static bool IsLike(Face asked, Face other) =>
        other.Surface == asked.Surface && other.IsHollow == asked.IsHollow && other.Surface switch
        {
            SurfaceKind.Plane => Point3.Dot(other.Along, asked.Along) > 0.7,
            SurfaceKind.Cylinder or SurfaceKind.Cone or SurfaceKind.Torus => Math.Abs(Point3.Dot(other.Along, asked.Along)) > 0.98,
            _ => true,
        };

    private static bool IsAsLarge(double one, double other) => Math.Abs(one - other) <= 1e-6 * Math.Max(1, Math.Abs(one));

    private static Point3 Foot(Edge edge, Point3 at)
    {
        if (edge.Curve == CurveKind.Line) return edge.At + (Point3.Dot(at - edge.At, edge.Along) * edge.Along);
        if (edge.Curve is not (CurveKind.Circle or CurveKind.Ellipse)) return at;
        var flat = at - edge.At;
        flat -= Point3.Dot(flat, edge.Along) * edge.Along;
        // Of an ellipse no more is known than its greater half: how far it lies off is near enough to tell one from another.
        return flat.Length() > 0 ? edge.At + (edge.Radius * flat.Unit()) : edge.At;
    }

    private static string OwnName(ComponentFacts c) => c.Number.Length > 0 ? $"number {c.Number}" : $"name {c.Name}";

    private static string[] Ways(SceneFacts scene)
    {
        var ways = new string[scene.Components.Count];
        for (var i = 0; i < ways.Length; i++)
        {
            var c = scene.Components[i];
            var own = $"{c.Number}\u001f{c.Name}\u001f{c.Instance}";
            ways[i] = c.Parent < 0 ? own : $"{ways[c.Parent]}\u001e{own}";
        }
        return ways;
    }
}
