import assert from "node:assert/strict";
import { test } from "node:test";
import { Matrix4 } from "three";
import { edgeNear } from "../../web/src/viewer/scene/edgeNear";
import { standing, type Eye } from "../../web/src/viewer/camera/eye";
import type { PartMesh } from "../../web/src/viewer/scene/partBlock";

/** Lines through points of the plane z = 0, as a part has them. */
function partOf(lines: readonly (readonly (readonly [number, number])[])[]): PartMesh {
  const starts = [0];
  const strokes: number[] = [];
  for (const line of lines) {
    for (let i = 0; i + 1 < line.length; i++) strokes.push(...line[i]!, 0, ...line[i + 1]!, 0);
    starts.push(starts.at(-1)! + line.length - 1);
  }
  return { strokes: Float32Array.from(strokes), lineStarts: Uint32Array.from(starts) } as PartMesh;
}

// From above, a unit of the model is a pixel; the middle of the window is the origin.
const eye: Eye = { ...standing.top, target: [0, 0, 0], height: 200, isPerspective: false };
const at = (part: PartMesh, x: number, y: number) =>
  edgeNear(part, new Matrix4(), [0, 0, 0], eye, { x: 100 + x, y: 100 - y, width: 200, height: 200 }, [x, y, 0]);
const arc = (from: number, to: number) =>
  Array.from({ length: 13 }, (_, i): [number, number] => {
    const angle = ((from + ((to - from) * i) / 12) * Math.PI) / 180;
    return [40 * Math.cos(angle), 40 * Math.sin(angle)];
  });

test("an edge is taken near it, and its end where that is as near; nothing far off", () => {
  const corner = partOf([
    [
      [0, 0],
      [50, 0],
    ],
    [
      [50, 0],
      [50, 60],
    ],
  ]);
  assert.deepEqual(at(corner, 25, 3), { edge: 0, end: null });
  assert.equal(at(corner, 25, 20), null);
  const end = at(corner, 48, 1);
  assert.deepEqual(end?.end, [50, 0, 0]);
  assert.deepEqual(at(corner, 1, 1)?.end, [0, 0, 0]);
});

test("where an arc goes on into another there is no corner, nor where a line comes back to itself", () => {
  const circle = partOf([arc(0, 180), arc(180, 360)]);
  assert.equal(at(circle, 40, 0)?.end, null);
  assert.equal(at(partOf([arc(0, 360)]), 40, 0)?.end, null);
  // Half of it alone ends there, and so does one that a line meets square.
  assert.notEqual(at(partOf([arc(0, 180)]), 40, 0)?.end, null);
  const met = partOf([
    arc(0, 180),
    [
      [40, 0],
      [90, 0],
    ],
  ]);
  assert.notEqual(at(met, 40, 0)?.end, null);
});
