/**
 * The corners of a mesh seen from afar: points that lie in one cell of a grid are one, and triangles that have no three left are gone. The
 * points stay where they are, so that nothing of them is kept twice.
 * @param points three numbers a point, from the least corner of their box
 * @param size of the box
 * @param most how many triangles are left at most
 */
export function coarseCorners(
  points: Float32Array,
  corners: Uint32Array,
  size: readonly [number, number, number],
  most: number,
): Uint32Array {
  const longest = Math.max(...size) || 1;
  // A face of so many cells a side has about twice as many triangles; where it is more, the cells grow.
  for (let side = Math.max(4, Math.floor(Math.sqrt(most / 2))); ; side = Math.floor(side * 0.7)) {
    const left = clustered(points, corners, longest / side);
    if (left.length <= most * 3 || side < 4) return left;
  }
}

function clustered(points: Float32Array, corners: Uint32Array, cell: number): Uint32Array {
  const count = points.length / 3;
  const per = 1 / cell;
  /** The first point of each cell stands for it. */
  const first = new Map<number, number>();
  const stands = new Uint32Array(count);
  for (let i = 0; i < count; i++) {
    // Cells are no more than some hundreds a side.
    const key =
      (Math.floor(points[3 * i]! * per) * 4096 + Math.floor(points[3 * i + 1]! * per)) * 4096 +
      Math.floor(points[3 * i + 2]! * per);
    const there = first.get(key);
    if (there === undefined) first.set(key, i);
    stands[i] = there ?? i;
  }
  const left: number[] = [];
  for (let i = 0; i < corners.length; i += 3) {
    const [a, b, c] = [stands[corners[i]!]!, stands[corners[i + 1]!]!, stands[corners[i + 2]!]!];
    if (a === b || b === c || c === a) continue;
    left.push(a, b, c);
  }
  return Uint32Array.from(left);
}
