import type { BlockFacts } from "../../api/types";

/** A part as it is drawn: coordinates in the part's own axes, from the least corner of its box. */
export type PartMesh = {
  /** Three a point. */
  points: Float32Array;
  /** Three a point, in 127ths. */
  normals: Int8Array;
  /** Three a triangle. */
  corners: Uint32Array;
  /** The first triangle of each face, and how many there are. */
  faceStarts: Uint32Array;
  /** Two points a stroke, of the edges that are to be seen. */
  strokes: Float32Array;
  /** The first stroke of each line of the file, and how many there are; smooth ones have none. */
  lineStarts: Uint32Array;
};

const STEPS = 65535;

/** Takes a part's block apart. @param box least x, y, z, greatest x, y, z of the part */
export function readPart(bytes: ArrayBuffer, block: BlockFacts, box: readonly number[]): PartMesh {
  const at = { byte: block.at };
  const size = [0, 1, 2].map((k) => (box[k + 3] ?? 0) - (box[k] ?? 0));
  const read = (count: number) => {
    const points = new Float32Array(count * 3);
    if (block.isWide) {
      points.set(new Float32Array(bytes, at.byte, count * 3));
      at.byte += count * 12;
    } else {
      const steps = new Uint16Array(bytes, at.byte, count * 4);
      for (let i = 0; i < count; i++)
        for (let k = 0; k < 3; k++) points[3 * i + k] = (steps[4 * i + k]! / STEPS) * size[k]!;
      at.byte += count * 8;
    }
    return points;
  };
  const numbers = (count: number) => {
    const found = new Uint32Array(bytes, at.byte, count);
    at.byte += count * 4;
    return found;
  };
  const points = read(block.points);
  const fours = new Int8Array(bytes, at.byte, block.points * 4);
  at.byte += block.points * 4;
  const normals = new Int8Array(block.points * 3);
  for (let i = 0; i < block.points; i++) for (let k = 0; k < 3; k++) normals[3 * i + k] = fours[4 * i + k]!;
  const corners = new Uint32Array(block.triangles * 3);
  let before = 0;
  numbers(block.triangles * 3).forEach((folded, i) => {
    before += (folded >>> 1) ^ -(folded & 1);
    corners[i] = before;
  });
  const faceStarts = sums(numbers(block.faces), (n) => n);
  const counts = numbers(block.lines);
  const along = read(block.linePoints);
  // A smooth line is none to be seen.
  const strokesOf = (count: number) => (count & 1 ? 0 : Math.max(0, (count >>> 1) - 1));
  const lineStarts = sums(counts, strokesOf);
  const strokes = new Float32Array(lineStarts[block.lines]! * 6);
  let [from, to] = [0, 0];
  for (const count of counts) {
    for (let i = 0; i < strokesOf(count); i++, to += 6)
      strokes.set(along.subarray((from + i) * 3, (from + i + 2) * 3), to);
    from += count >>> 1;
  }
  return { points, normals, corners, faceStarts, strokes, lineStarts };
}

function sums(counts: Uint32Array, of: (count: number) => number): Uint32Array {
  const starts = new Uint32Array(counts.length + 1);
  counts.forEach((count, i) => (starts[i + 1] = starts[i]! + of(count)));
  return starts;
}

/** Which of the stretches that begin at `starts` a number lies in; empty ones hold none. */
export function stretchAt(starts: Uint32Array, number: number): number {
  let [low, high] = [0, starts.length - 1];
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if (starts[middle]! <= number) low = middle;
    else high = middle;
  }
  return low;
}
