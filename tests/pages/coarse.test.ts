import assert from "node:assert/strict";
import { test } from "node:test";
import { coarseCorners } from "../../web/src/viewer/scene/coarse";

/** A sphere of radius 50 about (50, 50, 50), of so many points round and from pole to pole. */
function sphere(round: number, tall: number) {
  const points: number[] = [];
  const corners: number[] = [];
  for (let j = 0; j <= tall; j++)
    for (let i = 0; i < round; i++) {
      const [turn, tilt] = [(2 * Math.PI * i) / round, (Math.PI * j) / tall];
      points.push(
        50 + 50 * Math.sin(tilt) * Math.cos(turn),
        50 + 50 * Math.sin(tilt) * Math.sin(turn),
        50 + 50 * Math.cos(tilt),
      );
      if (j === tall) continue;
      const [a, b] = [j * round + i, j * round + ((i + 1) % round)];
      corners.push(a, a + round, b, b, a + round, b + round);
    }
  return { points: Float32Array.from(points), corners: Uint32Array.from(corners) };
}

test("a mesh seen from afar has few triangles, all of points that it had, and is as large as it was", () => {
  const { points, corners } = sphere(500, 250);
  for (const most of [2_000, 30_000]) {
    const left = coarseCorners(points, corners, [100, 100, 100], most);
    assert.ok(left.length > 0 && left.length % 3 === 0 && left.length <= most * 3, `${left.length / 3} triangles`);
    const box = [Infinity, -Infinity];
    let area = 0;
    const at = (i: number) => [0, 1, 2].map((k) => points[3 * left[i]! + k]!) as [number, number, number];
    for (let i = 0; i < left.length; i += 3) {
      const [a, b, c] = [at(i), at(i + 1), at(i + 2)];
      const [u, v] = [b, c].map((p) => p.map((n, k) => n - a[k]!)) as [number[], number[]];
      const cross = [u[1]! * v[2]! - u[2]! * v[1]!, u[2]! * v[0]! - u[0]! * v[2]!, u[0]! * v[1]! - u[1]! * v[0]!];
      area += Math.hypot(...cross) / 2;
      for (const [x] of [a, b, c]) [box[0], box[1]] = [Math.min(box[0]!, x), Math.max(box[1]!, x)];
    }
    // A sphere of radius 50, as near as its cells are large.
    assert.ok(box[0]! < 6 && box[1]! > 94, String(box));
    assert.ok(Math.abs(area / (4 * Math.PI * 2500) - 1) < 0.1, `area ${area}`);
  }
});

test("what is flat, small or nothing is left as it can be", () => {
  const flat = Float32Array.from([0, 0, 0, 10, 0, 0, 0, 10, 0]);
  assert.deepEqual([...coarseCorners(flat, Uint32Array.from([0, 1, 2]), [10, 10, 0], 100)], [0, 1, 2]);
  assert.equal(coarseCorners(new Float32Array(0), new Uint32Array(0), [0, 0, 0], 100).length, 0);
  // All points in one place: nothing is left of it, and it ends.
  assert.equal(coarseCorners(new Float32Array(9), Uint32Array.from([0, 1, 2]), [0, 0, 0], 1).length, 0);
});
