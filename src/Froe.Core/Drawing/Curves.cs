namespace Froe.Core.Drawing;

/// <summary>An arc of an ellipse on the sheet: Centre + cos t · Major + sin t · Minor, for t from Start to End (radians, either direction).</summary>
public readonly record struct EllipseArc(PointXY Centre, PointXY Major, PointXY Minor, double Start, double End);

/// <summary>Turning curves into chords whose distance from the curve stays within a tolerance given in the sheet's units.</summary>
public static class Curves
{
    /// <summary>Most chords one curve may give: a guard against hostile numbers, far above what a sheet needs.</summary>
    public const int MostChords = 4096;

    /// <summary>How many chords hold an arc of radius <paramref name="radius"/> and <paramref name="sweep"/> radians within the tolerance.</summary>
    /// <remarks>A chord of angle a lies r(1 - cos(a/2)) inside its arc.</remarks>
    public static int ChordsFor(double radius, double sweep, double tolerance)
    {
        if (!(radius > 0) || !double.IsFinite(radius) || !double.IsFinite(sweep)) return 1;
        var cosine = Math.Clamp(1 - (tolerance / radius), -1, 1);
        var step = Math.Clamp(2 * Math.Acos(cosine), 2 * Math.PI / MostChords, Math.PI / 4);
        return Math.Clamp((int)Math.Ceiling(Math.Abs(sweep) / step), 1, MostChords);
    }

    /// <summary>The points of an ellipse arc, both ends included.</summary>
    public static void Flatten(in EllipseArc arc, double tolerance, List<PointXY> into)
    {
        ArgumentNullException.ThrowIfNull(into);
        var radius = Math.Max(Length(arc.Major), Length(arc.Minor));
        var sweep = arc.End - arc.Start;
        var chords = ChordsFor(radius, sweep, tolerance);
        into.EnsureCapacity(into.Count + chords + 1);
        // Each point is the last one turned by a fixed angle; the turn starts anew now and then, so that rounding stays below 1e-14.
        var (turnSin, turnCos) = Math.SinCos(sweep / chords);
        double sin = 0, cos = 0;
        for (var i = 0; i <= chords; i++)
        {
            if (i % 64 == 0 || i == chords) (sin, cos) = Math.SinCos(arc.Start + (sweep * i / chords));
            else (sin, cos) = ((sin * turnCos) + (cos * turnSin), (cos * turnCos) - (sin * turnSin));
            into.Add(new(
                arc.Centre.X + (cos * arc.Major.X) + (sin * arc.Minor.X),
                arc.Centre.Y + (cos * arc.Major.Y) + (sin * arc.Minor.Y)));
        }
    }

    /// <summary>The arc that a bulge puts between two vertices; null when it is straight. Bulge is tan of a quarter of the angle swept, positive to the left.</summary>
    public static EllipseArc? FromBulge(PointXY a, PointXY b, double bulge)
    {
        double dx = b.X - a.X, dy = b.Y - a.Y;
        var chord = Math.Sqrt((dx * dx) + (dy * dy));
        if (chord == 0 || bulge == 0 || !double.IsFinite(bulge) || Math.Abs(bulge) * chord < chord * 1e-9) return null;
        // Distance from the chord's middle to the centre along the left normal.
        var offset = chord * (1 - (bulge * bulge)) / (4 * bulge);
        var centre = new PointXY(((a.X + b.X) / 2) - (dy / chord * offset), ((a.Y + b.Y) / 2) + (dx / chord * offset));
        var major = new PointXY(a.X - centre.X, a.Y - centre.Y);
        return new EllipseArc(centre, major, new(-major.Y, major.X), 0, 4 * Math.Atan(bulge));
    }

    private static readonly double[] BezierKnots = [0, 0, 0, 0, 1, 1, 1, 1];

    /// <summary>
    /// The cubic spline through points, its parameter the length of the chords and its second derivative continuous, in chords. An end
    /// without a direction is straight (a natural spline; de Boor, A Practical Guide to Splines, IV).
    /// </summary>
    /// <param name="through">At least two points; those that fall together count once.</param>
    /// <param name="first">Direction at the first; null where it is free.</param>
    /// <param name="last">Direction at the last.</param>
    /// <param name="tolerance">The farthest a chord may lie from the curve.</param>
    public static void Through(ReadOnlySpan<PointXY> through, PointXY? first, PointXY? last, double tolerance, List<PointXY> into)
    {
        ArgumentNullException.ThrowIfNull(into);
        var p = new List<PointXY>(through.Length);
        foreach (var point in through)
            if (double.IsFinite(point.X) && double.IsFinite(point.Y) && (p.Count == 0 || p[^1] != point)) p.Add(point);
        if (p.Count < 2)
        {
            into.AddRange(p);
            return;
        }
        var n = p.Count;
        var h = new double[n - 1];
        for (var i = 0; i + 1 < n; i++) h[i] = Math.Sqrt(((p[i + 1].X - p[i].X) * (p[i + 1].X - p[i].X)) + ((p[i + 1].Y - p[i].Y) * (p[i + 1].Y - p[i].Y)));
        // One equation a point for the derivative there, each with its neighbours: forward elimination, then back.
        double[] above = new double[n], rx = new double[n], ry = new double[n];
        for (var i = 0; i < n; i++)
        {
            double below = 0, middle, next = 0, x, y;
            if (i == 0 || i == n - 1)
            {
                var (a, b, step) = i == 0 ? (p[0], p[1], h[0]) : (p[n - 2], p[n - 1], h[n - 2]);
                if ((i == 0 ? first : last) is { } given && Math.Sqrt((given.X * given.X) + (given.Y * given.Y)) is var length && length > 0) (middle, x, y) = (1, given.X / length, given.Y / length);
                else
                {
                    (middle, x, y) = (2, 3 * (b.X - a.X) / step, 3 * (b.Y - a.Y) / step);
                    if (i == 0) next = 1;
                    else below = 1;
                }
            }
            else
            {
                double before = h[i - 1], after = h[i];
                (below, middle, next) = (after, 2 * (before + after), before);
                x = 3 * ((after / before * (p[i].X - p[i - 1].X)) + (before / after * (p[i + 1].X - p[i].X)));
                y = 3 * ((after / before * (p[i].Y - p[i - 1].Y)) + (before / after * (p[i + 1].Y - p[i].Y)));
            }
            var pivot = i == 0 ? middle : middle - (below * above[i - 1]);
            above[i] = next / pivot;
            rx[i] = (x - (i == 0 ? 0 : below * rx[i - 1])) / pivot;
            ry[i] = (y - (i == 0 ? 0 : below * ry[i - 1])) / pivot;
        }
        for (var i = n - 2; i >= 0; i--) (rx[i], ry[i]) = (rx[i] - (above[i] * rx[i + 1]), ry[i] - (above[i] * ry[i + 1]));
        for (var i = 0; i + 1 < n; i++)
        {
            var third = h[i] / 3;
            if (i > 0 && into.Count > 0) into.RemoveAt(into.Count - 1);
            Flatten(3, BezierKnots, [p[i], new(p[i].X + (third * rx[i]), p[i].Y + (third * ry[i])), new(p[i + 1].X - (third * rx[i + 1]), p[i + 1].Y - (third * ry[i + 1])), p[i + 1]], [], tolerance, into);
        }
    }

    /// <summary>The points of a B-spline (rational when weights are given), both ends included.</summary>
    /// <param name="degree">1 to 10.</param>
    /// <param name="knots">Control points + degree + 1 of them, not falling.</param>
    /// <param name="control">Control points.</param>
    /// <param name="weights">One per control point, or empty.</param>
    /// <param name="tolerance">Sheet units.</param>
    /// <param name="into">Where the points go.</param>
    /// <returns>False, adding nothing, when the counts do not fit one another.</returns>
    public static bool Flatten(int degree, ReadOnlySpan<double> knots, ReadOnlySpan<PointXY> control, ReadOnlySpan<double> weights, double tolerance, List<PointXY> into)
    {
        ArgumentNullException.ThrowIfNull(into);
        if (degree is < 1 or > 10 || control.Length <= degree || knots.Length != control.Length + degree + 1) return false;
        if (weights.Length != 0 && weights.Length != control.Length) return false;
        for (var i = 1; i < knots.Length; i++)
            if (!(knots[i] >= knots[i - 1])) return false;
        Span<(double X, double Y, double W)> work = stackalloc (double, double, double)[degree + 1];
        into.Add(At(knots[degree], degree, knots, control, weights, work));
        for (var span = degree; span < control.Length; span++)
        {
            if (!(knots[span + 1] > knots[span])) continue;
            // The control polygon of one span bounds its curvature: enough chords for the farthest control point from the chord.
            var bend = 0.0;
            for (var i = span - degree + 1; i < span; i++)
            {
                var (p, q, r) = (control[i - 1], control[i], control[i + 1]);
                bend = Math.Max(bend, Length(new(p.X - (2 * q.X) + r.X, p.Y - (2 * q.Y) + r.Y)));
            }
            var chords = (int)Math.Clamp(Math.Ceiling(Math.Sqrt(degree * (degree - 1) * bend / (8 * tolerance))), 1, 512);
            for (var i = 1; i <= chords; i++)
                into.Add(At(knots[span] + ((knots[span + 1] - knots[span]) * i / chords), span, knots, control, weights, work));
        }
        return true;
    }

    /// <summary>De Boor's algorithm in homogeneous coordinates.</summary>
    private static PointXY At(double t, int span, ReadOnlySpan<double> knots, ReadOnlySpan<PointXY> control, ReadOnlySpan<double> weights, Span<(double X, double Y, double W)> d)
    {
        var degree = d.Length - 1;
        for (var j = 0; j <= degree; j++)
        {
            var i = j + span - degree;
            var w = weights.Length == 0 ? 1 : weights[i];
            d[j] = (control[i].X * w, control[i].Y * w, w);
        }
        for (var r = 1; r <= degree; r++)
            for (var j = degree; j >= r; j--)
            {
                double low = knots[j + span - degree], high = knots[j + 1 + span - r];
                var a = high > low ? (t - low) / (high - low) : 0;
                d[j] = (((1 - a) * d[j - 1].X) + (a * d[j].X), ((1 - a) * d[j - 1].Y) + (a * d[j].Y), ((1 - a) * d[j - 1].W) + (a * d[j].W));
            }
        var end = d[degree];
        return end.W == 0 ? new(end.X, end.Y) : new(end.X / end.W, end.Y / end.W);
    }

    private static double Length(PointXY v) => Math.Sqrt((v.X * v.X) + (v.Y * v.Y));
}
