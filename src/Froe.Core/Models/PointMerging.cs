using System.Numerics;
using Froe.Core.Drawing;

namespace Froe.Core.Models;

/// <summary>
/// Points at one place as one. Each is looked up by its cell in a hash table, so that time grows with the points; where a cell is looked for
/// follows from a number drawn by lot, so that no file can be made to crowd one place of it.
/// </summary>
internal static class PointMerging
{
    /// <summary>Points nearer than this part of the diagonal are one.</summary>
    private const double Near = 1.0 / (1 << 20);

    /// <summary>The cell of a point that is nowhere.</summary>
    private const ulong Nowhere = ulong.MaxValue;

    private static readonly ulong Lot = (ulong)Random.Shared.NextInt64() | 1;

    /// <summary>The points, each place once, in the order in which they come; and which of them each one is: -1 where it has no finite place.</summary>
    public static (Point3[] Merged, int[] Numbers) Of(Point3[] points)
    {
        var cells = CellsOf(points);
        var (numbers, places) = FirstsOf(cells);
        var merged = new Point3[places];
        var next = 0;
        for (var i = 0; i < numbers.Length; i++)
        {
            if (numbers[i] < 0) continue;
            if (numbers[i] < i) numbers[i] = numbers[numbers[i]];
            else
            {
                numbers[i] = next;
                merged[next++] = points[i];
            }
        }
        return (merged, numbers);
    }

    private static ulong[] CellsOf(Point3[] points)
    {
        var all = Box.Empty;
        var box = new Lock();
        InStretches.Do(points.Length, (from, to) =>
        {
            var own = Box.Of(points.AsSpan(from, to - from));
            lock (box) all = all.With(own.Min).With(own.Max);
        });
        var (least, steps) = (all.Min, 1 / Math.Max(all.Diagonal * Near, 1 / double.MaxValue));
        var cells = new ulong[points.Length];
        InStretches.Do(points.Length, (from, to) =>
        {
            for (var i = from; i < to; i++)
            {
                var p = points[i];
                cells[i] = !double.IsFinite(p.X + p.Y + p.Z) ? Nowhere
                    : (Step((p.X - least.X) * steps) << 42) | (Step((p.Y - least.Y) * steps) << 21) | Step((p.Z - least.Z) * steps);
            }
        });
        return cells;
    }

    private static ulong Step(double steps) => (ulong)Math.Min((1L << 21) - 1, (long)Math.Round(steps));

    /// <summary>
    /// For each point the first that lies in its cell, -1 for one that is nowhere; and how many places there are. Every share has the cells whose
    /// lot falls to it, of all points.
    /// </summary>
    private static (int[] Firsts, int Places) FirstsOf(ulong[] cells)
    {
        var firsts = new int[cells.Length];
        var places = 0;
        var shares = (uint)InStretches.Of(cells.Length);
        InStretches.Shared((int)shares, share =>
        {
            var seen = new Seen(cells.Length / (int)shares);
            for (var i = 0; i < cells.Length; i++)
            {
                var lot = LotOf(cells[i]);
                if (((lot >> 32) * shares) >> 32 == (uint)share) firsts[i] = cells[i] == Nowhere ? -1 : seen.FirstOf(cells[i], (uint)lot, i);
            }
            Interlocked.Add(ref places, seen.Count);
        });
        return (firsts, places);
    }

    private static ulong LotOf(ulong cell)
    {
        var lot = cell * Lot;
        return (lot ^ (lot >> 32)) * Lot;
    }

    /// <summary>Which point was the first of a cell.</summary>
    /// <param name="points">How many are looked up: mostly, each place is there six times.</param>
    private sealed class Seen(int points)
    {
        /// <summary>Most points come again within the next few triangles: what was seen last is found here, which is small enough to stay near.</summary>
        private readonly (ulong Cell, int First)[] last = Empty(1 << 11);
        private (ulong Cell, int First)[] places = Empty((int)BitOperations.RoundUpToPowerOf2((uint)Math.Max(16, points / 4)));

        /// <summary>How many cells were seen.</summary>
        public int Count { get; private set; }

        /// <param name="lot">Where in the table the cell is looked for first.</param>
        /// <param name="point">The first of its cell where none was seen before.</param>
        public int FirstOf(ulong cell, uint lot, int point)
        {
            ref var near = ref last[lot & (uint)(last.Length - 1)];
            if (near.Cell != cell || near.First < 0) near = (cell, Found(cell, lot, point));
            return near.First;
        }

        private int Found(ulong cell, uint lot, int point)
        {
            var mask = places.Length - 1;
            var at = (int)(lot & (uint)mask);
            while (places[at].First >= 0)
            {
                if (places[at].Cell == cell) return places[at].First;
                at = (at + 1) & mask;
            }
            places[at] = (cell, point);
            if (++Count > places.Length / 2) Widen();
            return point;
        }

        private void Widen()
        {
            var before = places;
            places = Empty(before.Length * 2);
            var mask = places.Length - 1;
            foreach (var place in before)
            {
                if (place.First < 0) continue;
                var at = (int)((uint)LotOf(place.Cell) & (uint)mask);
                while (places[at].First >= 0) at = (at + 1) & mask;
                places[at] = place;
            }
        }

        private static (ulong Cell, int First)[] Empty(int length)
        {
            var places = new (ulong Cell, int First)[length];
            Array.Fill(places, (0UL, -1));
            return places;
        }
    }
}
