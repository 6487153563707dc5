import type { PartMesh } from "./partBlock";

/** Mixes three numbers into one of 32 bits (after MurmurHash3's finaliser, public domain). */
function mixed(a: number, b: number, seed: number): number {
  let h = Math.imul(a ^ seed, 0x85ebca6b) ^ Math.imul(b + 0x9e3779b9, 0xc2b2ae35);
  h = Math.imul(h ^ (h >>> 15), 0x2c1b3c6d);
  h = Math.imul(h ^ (h >>> 12), 0x297a2d39);
  return h ^ (h >>> 15);
}

/**
 * Whether a mesh is closed and turned outwards all over: then nobody who is outside of it sees any of its backs. Each side of a triangle must
 * be met by one that runs the other way. They are not matched but counted: what each adds, its opposite takes away again, and sums of 64 bits
 * that come to nought by chance are rarer than any model.
 */
export function isClosed({ points, corners }: Pick<PartMesh, "points" | "corners">): boolean {
  const bits = new Uint32Array(points.buffer, points.byteOffset, points.length);
  const count = points.length / 3;
  // Points at one place are one, whichever face they belong to: each is called by where it lies.
  const [one, other] = [new Int32Array(count), new Int32Array(count)];
  for (let i = 0; i < count; i++) {
    // What is nought may have either sign.
    const [x, y, z] = [0, 1, 2].map((k) => (points[3 * i + k] === 0 ? 0 : bits[3 * i + k]!)) as [
      number,
      number,
      number,
    ];
    one[i] = mixed(mixed(x, y, 1), z, 2);
    other[i] = mixed(mixed(z, x, 3), y, 4);
  }
  let [sum, check, six] = [0, 0, 0];
  for (let i = 0; i < corners.length; i += 3) {
    for (let k = 0; k < 3; k++) {
      const [a, b] = [corners[i + k]!, corners[i + ((k + 1) % 3)]!];
      sum = (sum + mixed(one[a]!, one[b]!, 5) - mixed(one[b]!, one[a]!, 5)) | 0;
      check = (check + mixed(other[a]!, other[b]!, 6) - mixed(other[b]!, other[a]!, 6)) | 0;
    }
    const [a, b, c] = [3 * corners[i]!, 3 * corners[i + 1]!, 3 * corners[i + 2]!];
    six +=
      points[a]! * (points[b + 1]! * points[c + 2]! - points[b + 2]! * points[c + 1]!) +
      points[a + 1]! * (points[b + 2]! * points[c]! - points[b]! * points[c + 2]!) +
      points[a + 2]! * (points[b]! * points[c + 1]! - points[b + 1]! * points[c]!);
  }
  return sum === 0 && check === 0 && six > 0;
}
