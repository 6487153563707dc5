import assert from "node:assert/strict";
import { test } from "node:test";
import { typedPoint, type TypedFrom } from "../../web/src/viewer/tools/typedPoint";

const from: TypedFrom = { last: { x: 10, y: 20 }, towards: { x: 13, y: 24 }, origin: { x: 100, y: 0 }, factor: null };
const at = (typed: string, more: Partial<TypedFrom> = {}) => {
  const p = typedPoint(typed, { ...from, ...more });
  return p && [Math.round(p.x * 1e6) / 1e6, Math.round(p.y * 1e6) / 1e6];
};

test("a point is typed from the origin, from the last one, by a length, or by a length and an angle", () => {
  assert.deepEqual(at("12.5 40"), [112.5, 40]);
  assert.deepEqual(at(" 12,5; -40 "), [112.5, -40]);
  assert.deepEqual(at("@10 -5"), [20, 15]);
  assert.deepEqual(at("5"), [13, 24]);
  assert.deepEqual(at("10<90"), [10, 30]);
  assert.deepEqual(at("@10 < 180"), [0, 20]);
});

test("numbers are true millimetres where the scale is known", () => {
  assert.deepEqual(at("100 50", { factor: 50 }), [102, 1]);
  assert.deepEqual(at("250", { factor: 50 }), [13, 24]);
});

test("what says no point is none", () => {
  for (const typed of ["", "x", "1 2 3", "12,5,40", "1e9", "5<", "--5"]) assert.equal(at(typed), null, typed);
  assert.equal(at("5", { last: null }), null);
  assert.equal(at("@1 1", { last: null }), null);
  assert.equal(at("5", { towards: null }), null);
  assert.equal(at("5", { towards: { x: 10, y: 20 } }), null);
});
