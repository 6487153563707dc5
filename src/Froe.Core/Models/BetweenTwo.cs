using Froe.Core.Drawing;

namespace Froe.Core.Models;

/// <summary>A face, an edge, the end of an edge or a point of a component that somebody picked.</summary>
/// <param name="Component">By its place in the scene's list.</param>
/// <param name="Face">The face, by its place in its part's list; null where an edge is meant.</param>
/// <param name="Edge">The edge, by its place in its part's list; null where a face is meant.</param>
/// <param name="At">Where it was picked, in the part's coordinates; null where that does not matter.</param>
/// <param name="Normal">The way out of the part there, in its coordinates; null where that does not matter.</param>
/// <param name="IsCorner">Whether the end of the edge is meant that is nearest to where it was picked.</param>
/// <param name="IsPoint">Whether the very point is meant where it was picked, as one of an outline that a section has cut.</param>
public sealed record PickedOnModel(int Component, int? Face, int? Edge, Point3? At = null, Point3? Normal = null, bool IsCorner = false, bool IsPoint = false)
{
    /// <summary>The one of two ends that is meant; null where a line has none.</summary>
    public Point3? Corner(IReadOnlyList<Point3> line)
    {
        ArgumentNullException.ThrowIfNull(line);
        if (line.Count == 0) return null;
        return At is { } at && (line[^1] - at).Length() < (line[0] - at).Length() ? line[^1] : line[0];
    }
}

/// <summary>How two things of a model lie to one another.</summary>
/// <param name="Angle">Between their directions, 0 to 90 degrees; null where one of them has none.</param>
/// <param name="IsParallel">Whether they lie alongside each other: within a ten-millionth of a radian.</param>
/// <param name="Distance">Between the planes, axes or centres that they lie on, in the scene's unit; null where those meet at an angle.</param>
/// <param name="Along">The same along x, y and z, from the first to the second; null where there is no one way between them.</param>
/// <param name="Of">What was measured from what to what, in words.</param>
/// <param name="IsRecognised">Whether a spline was taken for one of them, within 0.0001 mm.</param>
/// <param name="From">The end of the distance at the first, in the model's coordinates: as near to where that was picked as can be; null where there is no distance.</param>
/// <param name="To">Its end at the second.</param>
public sealed record BetweenTwo(double? Angle, bool IsParallel, double? Distance, IReadOnlyList<double>? Along, string Of, bool IsRecognised, Point3? From, Point3? To)
{
    private const double Parallel = 1e-7;

    /// <summary>
    /// Measures exactly between what two things lie on: planes, axes of round faces and circles, straight edges, ends of edges, centres of spheres. Null where
    /// one of them lies on nothing of the kind.
    /// </summary>
    public static BetweenTwo? Measure(SceneFacts scene, ExactFacts exact, PickedOnModel first, PickedOnModel second)
    {
        if (Carrier.Of(scene, exact, first) is not { } a || Carrier.Of(scene, exact, second) is not { } b) return null;
        var isRecognised = a.IsRecognised || b.IsRecognised;
        var words = $"{a.Words} to {b.Words}";
        BetweenTwo Apart(double? angle, bool isParallel, Point3 from, Point3 to) => new(angle, isParallel, (to - from).Length(), Numbers(to - from), words, isRecognised, from, to);
        if (a.Kind == Carried.Point) return Apart(null, false, a.At, b.Kind == Carried.Point ? b.At : b.Foot(a.At));
        if (b.Kind == Carried.Point) return Apart(null, false, a.Foot(b.At), b.At);
        var cross = Point3.Cross(a.Along, b.Along).Length();
        var across = Math.Atan2(cross, Math.Abs(Point3.Dot(a.Along, b.Along)));
        var isMixed = a.Kind != b.Kind;
        // An axis lies alongside a plane when it is square to the plane's normal.
        var angle = isMixed ? (Math.PI / 2) - across : across;
        var isParallel = angle < Parallel;
        var degrees = isParallel ? 0 : angle * 180 / Math.PI;
        if (isParallel && isMixed && a.Kind == Carried.Plane) return Apart(0, true, a.Foot(b.Near), b.Near);
        if (isParallel) return Apart(0, true, a.Near, b.Foot(a.Near));
        if (isMixed || a.Kind == Carried.Plane) return new(degrees, false, null, null, words, isRecognised, null, null);
        // Two axes that pass each other: the least way lies square to both.
        var square = Point3.Cross(a.Along, b.Along).Unit();
        var from = a.At + (Point3.Dot(Point3.Cross(b.At - a.At, b.Along), square) / cross * a.Along);
        return Apart(degrees, false, from, from + (Point3.Dot(b.At - a.At, square) * square));
    }

    private static double[] Numbers(Point3 p) => [p.X, p.Y, p.Z];

    private enum Carried
    {
        Plane,
        Axis,
        Point,
    }

    /// <summary>What a face or an edge lies on, in the model's coordinates.</summary>
    private sealed record Carrier(Carried Kind, Point3 At, Point3 Along, string Words, bool IsRecognised)
    {
        /// <summary>The point of it that is nearest to where it was picked.</summary>
        public Point3 Near { get; private init; } = At;

        public static Carrier? Of(SceneFacts scene, ExactFacts exact, PickedOnModel picked) =>
            Lain(scene, exact, picked) is not { } on ? null
            : picked.At is { } at && on.Kind != Carried.Point ? on with { Near = on.Foot(Placed(scene, picked.Component).Apply(at)) }
            : on;

        private static Carrier? Lain(SceneFacts scene, ExactFacts exact, PickedOnModel picked)
        {
            // A point of a section is one of the mesh, and no more exact than that.
            if (picked.IsPoint) return null;
            if ((uint)picked.Component >= (uint)scene.Components.Count || scene.Components[picked.Component].Part is not { } part || (uint)part >= (uint)exact.Parts.Count) return null;
            var at = Placed(scene, picked.Component);
            if (picked.Edge is { } edge)
            {
                if ((uint)edge >= (uint)exact.Parts[part].Edges.Count) return null;
                var e = exact.Parts[part].Edges[edge];
                // Where the mesh is all there is, its points are no more exact than itself.
                if (picked.IsCorner) return scene.Parts[part].IsExact && picked.Corner(e.Points) is { } corner ? new(Carried.Point, at.Apply(corner), default, "point", e.IsRecognised) : null;
                return e.Curve switch
                {
                    CurveKind.Line => new(Carried.Axis, at.Apply(e.At), at.ApplyVector(e.Along).Unit(), "edge", e.IsRecognised),
                    CurveKind.Circle or CurveKind.Ellipse => new(Carried.Axis, at.Apply(e.At), at.ApplyVector(e.Along).Unit(), "axis", e.IsRecognised),
                    _ => null,
                };
            }
            if (picked.Face is not { } face || (uint)face >= (uint)exact.Parts[part].Faces.Count) return null;
            var f = exact.Parts[part].Faces[face];
            return f.Surface switch
            {
                SurfaceKind.Plane => new(Carried.Plane, at.Apply(f.At), at.ApplyVector(f.Along).Unit(), "face", f.IsRecognised),
                SurfaceKind.Cylinder or SurfaceKind.Cone or SurfaceKind.Torus => new(Carried.Axis, at.Apply(f.At), at.ApplyVector(f.Along).Unit(), "axis", f.IsRecognised),
                SurfaceKind.Sphere => new(Carried.Point, at.Apply(f.At), default, "centre", f.IsRecognised),
                _ => null,
            };
        }

        /// <summary>The point of a plane or an axis that is nearest to another.</summary>
        public Point3 Foot(Point3 p) => Kind == Carried.Plane ? p - (Point3.Dot(p - At, Along) * Along) : At + (Point3.Dot(p - At, Along) * Along);

        private static Affine Placed(SceneFacts scene, int component)
        {
            var at = Affine.Identity;
            for (var i = component; i >= 0; i = scene.Components[i].Parent) at = scene.Components[i].Placement().After(at);
            return at;
        }
    }
}
