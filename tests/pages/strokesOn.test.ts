import assert from "node:assert/strict";
import { test } from "node:test";
import { BoxGeometry, Mesh, Plane, Vector3 } from "three";
import { strokesOn } from "../../web/src/viewer/scene/strokesOn";

const lengthOf = (s: readonly number[]) => {
  let sum = 0;
  for (let i = 0; i < s.length; i += 6)
    sum += Math.hypot(s[i + 3]! - s[i]!, s[i + 4]! - s[i + 1]!, s[i + 5]! - s[i + 2]!);
  return sum;
};

test("where a plane meets a turned, scaled box is all of its outline, on the plane, and no more than other planes leave", () => {
  const mesh = new Mesh(new BoxGeometry(10, 20, 30));
  mesh.scale.set(2, 1, 1);
  mesh.rotation.set(0, 0, Math.PI / 2);
  mesh.position.set(5, 6, 7);
  mesh.updateMatrixWorld(true);
  const level = new Plane(new Vector3(0, 0, -1), 9);
  const whole: number[] = [];
  strokesOn(mesh, level, [], whole);
  assert.ok(Math.abs(lengthOf(whole) - 80) < 1e-4, `${lengthOf(whole)}`);
  for (let i = 2; i < whole.length; i += 3) assert.ok(Math.abs(whole[i]! - 9) < 1e-5);
  const half: number[] = [];
  strokesOn(mesh, level, [new Plane(new Vector3(1, 0, 0), -14.9)], half);
  assert.ok(half.length > 0 && half.length < whole.length);
  const none: number[] = [];
  strokesOn(mesh, new Plane(new Vector3(0, 0, -1), 40), [], none);
  assert.equal(none.length, 0);
});
