import assert from "node:assert/strict";
import { test } from "node:test";
import { BufferAttribute, BufferGeometry, Matrix4, Mesh } from "three";
import { lengthOf, minus, type V3 } from "../../web/src/viewer/camera/eye";
import { inSpace, onFlat } from "../../web/src/viewer/scene/flatPlane";
import { nearestOn, type DrawnMesh } from "../../web/src/viewer/scene/nearestOn";
import type { PartMesh } from "../../web/src/viewer/scene/partBlock";

const r = Math.SQRT1_2;
/** A plane that leans, and the axes that it is laid flat by. */
const plane = { along: [r, 0, r] as V3, at: 10 };
const axes = { right: { x: 0, y: 1, z: 0 }, up: { x: -r, y: 0, z: r } };

test("a point of a section goes into the model and back; what does not lie on its plane is none of it", () => {
  for (const p of [
    { x: 0, y: 0 },
    { x: 3, y: -4 },
    { x: 1000.5, y: 2e-3 },
  ]) {
    const there = inSpace(plane, axes, p);
    const back = onFlat(plane, axes, there, 100)!;
    assert.ok(Math.hypot(back.x - p.x, back.y - p.y) < 1e-9);
  }
  const origin = inSpace(plane, axes, { x: 0, y: 0 });
  assert.ok(lengthOf(minus(origin, [10 * r, 0, 10 * r])) < 1e-9);
  assert.equal(onFlat(plane, axes, [10 * r + 0.1, 0, 10 * r], 100), null);
  // A mesh is not finer than that.
  assert.notEqual(onFlat(plane, axes, [10 * r + 0.005, 0, 10 * r], 100), null);
});

/** A square of 10 × 10 of two faces at z = 0, beginning at the origin; each face is a triangle. */
function square(component: number, home: Matrix4): DrawnMesh {
  const points = Float32Array.from([0, 0, 0, 10, 0, 0, 10, 10, 0, 0, 10, 0]);
  const corners = Uint32Array.from([0, 1, 2, 0, 2, 3]);
  const geometry = new BufferGeometry();
  geometry.setAttribute("position", new BufferAttribute(points, 3));
  geometry.setIndex(new BufferAttribute(corners, 1));
  const part = { points, corners, faceStarts: Uint32Array.from([0, 1, 2]) } as PartMesh;
  return { component, mesh: new Mesh(geometry), part, home };
}

test("the face that is nearest to a point is found, wherever its component stands", () => {
  const centre: V3 = [100, 0, 0];
  // About the middle: the one lies at the model's (100, 0, 0), the other 50 up, twice as large and turned to look along x.
  const turned = new Matrix4().makeTranslation(0, 0, 50).multiply(new Matrix4().makeRotationY(Math.PI / 2));
  const all = [square(4, new Matrix4()), square(7, turned.multiply(new Matrix4().makeScale(2, 2, 2)))];
  const one = nearestOn(all, centre, [108, 2, 0.5])!;
  assert.deepEqual([one.component, one.face, one.edge], [4, 0, null]);
  assert.deepEqual(
    [one.point, one.normal],
    [
      [108, 2, 0.5],
      [0, 0, 1],
    ],
  );
  assert.equal(nearestOn(all, centre, [101, 8, 0])!.face, 1);
  const other = nearestOn(all, centre, [99, 15, 45])!;
  assert.equal(other.component, 7);
  assert.ok(Math.abs(Math.abs(other.normal[0]) - 1) < 1e-9);
  assert.equal(nearestOn([], centre, [0, 0, 0]), null);
});
