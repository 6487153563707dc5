import assert from "node:assert/strict";
import { test } from "node:test";
import { BoxGeometry, Mesh, Plane, TorusGeometry, Vector3 } from "three";
import { Strokes, strokesOn } from "../../web/src/viewer/scene/strokesOn";

const lengthOf = (s: Float32Array) => {
  let sum = 0;
  for (let i = 0; i < s.length; i += 6)
    sum += Math.hypot(s[i + 3]! - s[i]!, s[i + 4]! - s[i + 1]!, s[i + 5]! - s[i + 2]!);
  return sum;
};

const strokes = (mesh: Mesh, plane: Plane, others: readonly Plane[]) => {
  const into = new Strokes();
  strokesOn(mesh, plane, others, into);
  return into.found;
};

test("a body of many strokes has all of them: a ring is cut in two circles, however fine it is", () => {
  const ring = new Mesh(new TorusGeometry(100, 30, 64, 4000));
  ring.updateMatrixWorld(true);
  const cut = strokes(ring, new Plane(new Vector3(0, 0, 1), -1e-4), []);
  assert.ok(cut.length / 6 >= 8000, `${cut.length / 6} strokes`);
  assert.ok(Math.abs(lengthOf(cut) - 2 * Math.PI * 200) < 0.01, `${lengthOf(cut)}`);
});

test("where a plane meets a turned, scaled box is all of its outline, on the plane, and no more than other planes leave", () => {
  const mesh = new Mesh(new BoxGeometry(10, 20, 30));
  mesh.scale.set(2, 1, 1);
  mesh.rotation.set(0, 0, Math.PI / 2);
  mesh.position.set(5, 6, 7);
  mesh.updateMatrixWorld(true);
  const level = new Plane(new Vector3(0, 0, -1), 9);
  const whole = strokes(mesh, level, []);
  assert.ok(Math.abs(lengthOf(whole) - 80) < 1e-4, `${lengthOf(whole)}`);
  for (let i = 2; i < whole.length; i += 3) assert.ok(Math.abs(whole[i]! - 9) < 1e-5);
  const half = strokes(mesh, level, [new Plane(new Vector3(1, 0, 0), -14.9)]);
  assert.ok(half.length > 0 && half.length < whole.length);
  const none = strokes(mesh, new Plane(new Vector3(0, 0, -1), 40), []);
  assert.equal(none.length, 0);
});
