using System.Runtime.InteropServices;
using Froe.Core.Drawing;

namespace Froe.Core.Models;

/// <summary>Joins loose strokes to lines.</summary>
internal static class Outlines
{
    /// <summary>Lines that close, without their first point again, and lines that do not.</summary>
    /// <param name="strokes">In any order and either way round; ends that meet are the same.</param>
    /// <param name="near">How far apart the ends of lines may lie that are joined all the same.</param>
    public static (List<List<Point3>> Closed, List<List<Point3>> Open) Of(List<(Point3 From, Point3 To)> strokes, double near)
    {
        var index = new Dictionary<Point3, int>(strokes.Count);
        var points = new List<Point3>(strokes.Count);
        int IndexOf(Point3 p)
        {
            ref var at = ref CollectionsMarshal.GetValueRefOrAddDefault(index, p, out var known);
            if (!known)
            {
                at = points.Count;
                points.Add(p);
            }
            return at;
        }
        var ends = new (int From, int To)[strokes.Count];
        for (var i = 0; i < ends.Length; i++) ends[i] = (IndexOf(strokes[i].From), IndexOf(strokes[i].To));
        // The strokes at each point, one behind the other.
        var starts = new int[points.Count + 1];
        foreach (var (from, to) in ends)
        {
            starts[from + 1]++;
            starts[to + 1]++;
        }
        for (var i = 0; i < points.Count; i++) starts[i + 1] += starts[i];
        var at = new int[2 * ends.Length];
        var next = starts.ToArray();
        for (var i = 0; i < ends.Length; i++)
        {
            at[next[ends[i].From]++] = i;
            at[next[ends[i].To]++] = i;
        }
        for (var i = 0; i < points.Count; i++) next[i] = starts[i];
        var isUsed = new bool[ends.Length];
        int Onward(int point)
        {
            for (; next[point] < starts[point + 1]; next[point]++)
                if (!isUsed[at[next[point]]]) return at[next[point]];
            return -1;
        }
        var closed = new List<List<Point3>>();
        var open = new List<List<Point3>>();
        void Walk(int first)
        {
            var line = new List<int> { first };
            for (var point = first; Onward(point) is >= 0 and var stroke;)
            {
                isUsed[stroke] = true;
                point = ends[stroke].From == point ? ends[stroke].To : ends[stroke].From;
                line.Add(point);
                if (point == first) break;
            }
            if (line.Count < 2) return;
            var isRound = line[^1] == first;
            if (isRound) line.RemoveAt(line.Count - 1);
            // Two strokes that lie on one another enclose nothing.
            if (isRound && line.Count < 3) return;
            (isRound ? closed : open).Add(line.ConvertAll(p => points[p]));
        }
        // From loose ends first, so that a line is walked from its one end to its other.
        for (var i = 0; i < points.Count; i++)
            if (((starts[i + 1] - starts[i]) & 1) == 1) Walk(i);
        for (var i = 0; i < points.Count; i++)
            while (Onward(i) >= 0) Walk(i);
        Join(open, closed, near);
        return (closed, open);
    }

    /// <summary>Joins lines whose ends all but meet.</summary>
    private static void Join(List<List<Point3>> open, List<List<Point3>> closed, double near)
    {
        if (!(near > 0)) return;
        var ends = open.SelectMany((l, i) => (IEnumerable<(Point3 At, int Line, bool IsFirst)>)[(l[0], i, true), (l[^1], i, false)]).ToArray();
        var mate = new int[ends.Length];
        Array.Fill(mate, -1);
        // By cells as large as what counts as near, so that each end looks at few others, however many lie in a plane.
        var cells = new Dictionary<(double X, double Y, double Z), List<int>>();
        for (var i = 0; i < ends.Length; i++)
        {
            var (x, y, z) = (Math.Floor(ends[i].At.X / near), Math.Floor(ends[i].At.Y / near), Math.Floor(ends[i].At.Z / near));
            var (best, least) = (-1, near);
            for (var cell = 0; cell < 27; cell++)
            {
                if (!cells.TryGetValue((x + (cell % 3) - 1, y + (cell / 3 % 3) - 1, z + (cell / 9) - 1), out var waiting)) continue;
                foreach (var k in waiting)
                    if ((ends[k].At - ends[i].At).Length() is var far && far <= least && (ends[k].Line != ends[i].Line || open[ends[k].Line].Count > 2)) (best, least) = (k, far);
            }
            if (best < 0)
            {
                ref var own = ref CollectionsMarshal.GetValueRefOrAddDefault(cells, (x, y, z), out _);
                (own ??= []).Add(i);
                continue;
            }
            (mate[i], mate[best]) = (best, i);
            var at = ends[best].At;
            cells[(Math.Floor(at.X / near), Math.Floor(at.Y / near), Math.Floor(at.Z / near))].Remove(best);
        }
        if (mate.All(m => m < 0)) return;
        var other = new Dictionary<(int Line, bool IsFirst), (int Line, bool IsFirst)>();
        for (var i = 0; i < ends.Length; i++)
            if (mate[i] >= 0) other[(ends[i].Line, ends[i].IsFirst)] = (ends[mate[i]].Line, ends[mate[i]].IsFirst);
        var isUsed = new bool[open.Count];
        var rest = new List<List<Point3>>();
        // Lines with a loose end first, as above.
        foreach (var line in Enumerable.Range(0, open.Count).OrderBy(l => other.ContainsKey((l, true)) && other.ContainsKey((l, false))))
        {
            if (isUsed[line]) continue;
            var joined = new List<Point3>();
            // Entered by the end that is loose, if one is.
            var (now, isForward) = (line, !other.ContainsKey((line, true)) || other.ContainsKey((line, false)));
            var isRound = false;
            while (true)
            {
                isUsed[now] = true;
                joined.AddRange(isForward ? open[now] : Enumerable.Reverse(open[now]));
                if (!other.TryGetValue((now, !isForward), out var onward)) break;
                if (isUsed[onward.Line])
                {
                    isRound = onward.Line == line;
                    break;
                }
                (now, isForward) = (onward.Line, onward.IsFirst);
            }
            (isRound && joined.Count > 2 ? closed : rest).Add(joined);
        }
        open.Clear();
        open.AddRange(rest);
    }
}
