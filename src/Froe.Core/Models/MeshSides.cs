namespace Froe.Core.Models;

/// <summary>
/// The sides of all triangles of a mesh, those between the same two points one behind the other: laid out by their lesser point, and there
/// sorted, of one point at a time, by the greater and then by the triangle.
/// </summary>
/// <param name="starts">Where the sides of each point begin, and at the end how many there are.</param>
/// <param name="ends">The greater point in the upper half, the triangle in the lower.</param>
internal sealed class MeshSides(int[] starts, ulong[] ends)
{
    /// <param name="points">How many points there are.</param>
    /// <param name="corners">Three of them a triangle.</param>
    public static MeshSides Of(int points, int[] corners)
    {
        // One place on, so that each is where the next is to be written, and at the end where the next one's begin.
        var starts = new int[points + 2];
        for (var i = 0; i < corners.Length; i += 3)
        {
            int a = corners[i], b = corners[i + 1], c = corners[i + 2];
            starts[Math.Min(a, b) + 2]++;
            starts[Math.Min(b, c) + 2]++;
            starts[Math.Min(c, a) + 2]++;
        }
        for (var i = 2; i < starts.Length; i++) starts[i] += starts[i - 1];
        var ends = new ulong[corners.Length];
        for (var i = 0; i < corners.Length; i += 3)
        {
            int a = corners[i], b = corners[i + 1], c = corners[i + 2];
            var triangle = (uint)(i / 3);
            ends[starts[Math.Min(a, b) + 1]++] = ((ulong)(uint)Math.Max(a, b) << 32) | triangle;
            ends[starts[Math.Min(b, c) + 1]++] = ((ulong)(uint)Math.Max(b, c) << 32) | triangle;
            ends[starts[Math.Min(c, a) + 1]++] = ((ulong)(uint)Math.Max(c, a) << 32) | triangle;
        }
        InStretches.Do(points, (from, to) =>
        {
            for (var p = from; p < to; p++) ends.AsSpan(starts[p], starts[p + 1] - starts[p]).Sort();
        });
        return new MeshSides(starts, ends);
    }

    /// <summary>The sides one after the other, as the runs of them that lie between the same two points.</summary>
    public Walk GetEnumerator() => new(starts, ends);

    /// <summary>Sides between the same two points.</summary>
    /// <param name="A">The lesser point.</param>
    /// <param name="B">The greater point.</param>
    /// <param name="Count">How many sides: two where the mesh is closed.</param>
    /// <param name="First">The triangle of the first.</param>
    /// <param name="Last">The triangle of the last.</param>
    public readonly record struct Run(int A, int B, int Count, int First, int Last);

    /// <summary>Goes along the sides without an object for each: there are as many as half the corners again.</summary>
    public struct Walk(int[] starts, ulong[] ends)
    {
        private int point, next;

        /// <summary>Where it stands.</summary>
        public Run Current { get; private set; }

        /// <summary>Whether there was one more.</summary>
        public bool MoveNext()
        {
            if (next == ends.Length) return false;
            while (starts[point + 1] <= next) point++;
            int from = next, most = starts[point + 1];
            var end = ends[from] >> 32;
            do next++;
            while (next < most && ends[next] >> 32 == end);
            Current = new Run(point, (int)end, next - from, (int)(uint)ends[from], (int)(uint)ends[next - 1]);
            return true;
        }
    }
}
