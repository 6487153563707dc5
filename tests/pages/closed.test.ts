import assert from "node:assert/strict";
import { test } from "node:test";
import { BoxGeometry, SphereGeometry, TorusKnotGeometry, type BufferGeometry } from "three";
import { isClosed } from "../../web/src/viewer/scene/closed";

/** A mesh as a part has it. Points are moved so that those that are one lie at one place to the last bit, as prepared ones do. */
function partOf(geometry: BufferGeometry) {
  const points = Float32Array.from(geometry.getAttribute("position").array, (n) => Math.round(n * 1000) / 1000);
  const corners = Uint32Array.from(geometry.index!.array);
  // Triangles of no area, as poles have, are none.
  const at = (c: number) => points.subarray(3 * c, 3 * c + 3).join(" ");
  const kept = [];
  for (let i = 0; i < corners.length; i += 3) {
    const three = [...corners.subarray(i, i + 3)];
    if (new Set(three.map(at)).size === 3) kept.push(...three);
  }
  return { points, corners: Uint32Array.from(kept) };
}
const shapes = [new BoxGeometry(10, 20, 30), new SphereGeometry(25, 40, 20), new TorusKnotGeometry(50, 9, 120, 20)];

test("bodies are closed, though their faces share no points", () => {
  for (const shape of shapes) assert.ok(isClosed(partOf(shape)), shape.type);
});

test("one triangle less, more or turned round, and it is not closed; nor is a body turned inside out, or nothing", () => {
  for (const shape of shapes) {
    const { points, corners } = partOf(shape);
    assert.ok(!isClosed({ points, corners: corners.subarray(3) }));
    assert.ok(!isClosed({ points, corners: Uint32Array.from([...corners, ...corners.subarray(0, 3)]) }));
    const turned = corners.slice();
    [turned[0], turned[1]] = [turned[1]!, turned[0]!];
    assert.ok(!isClosed({ points, corners: turned }));
    const inside = corners.map((_, i) => corners[i - (i % 3) + [0, 2, 1][i % 3]!]!);
    assert.ok(!isClosed({ points, corners: inside }));
  }
  assert.ok(!isClosed({ points: new Float32Array(), corners: new Uint32Array() }));
});

test("a point moved by the least that can be told opens a body", () => {
  const { points, corners } = partOf(shapes[0]!);
  points[0] = points[0]! + 1e-6;
  assert.ok(!isClosed({ points, corners }));
});
