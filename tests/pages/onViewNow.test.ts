import assert from "node:assert/strict";
import { test } from "node:test";
import type { PinEye, Shape } from "../../web/src/api/types";
import { OnViewNow } from "../../web/src/bench/onViewNow";
import type { SheetHandle } from "../../web/src/viewer/sheet";

const eye = (x: number, turn = 0.5): PinEye =>
  ({ target: { x, y: 0, z: 0 }, turn, tilt: 0, height: 100, isPerspective: false, hidden: [] }) as unknown as PinEye;
const box = (x: number): Shape => ({ shape: "box", from: { x, y: 0 }, to: { x: x + 4, y: 3 } }) as Shape;
const sheetOf = (now: PinEye | null) => ({ current: { eye: () => now } as unknown as SheetHandle });
const near = (a: number, b: number) => assert.ok(Math.abs(a - b) < 1e-9, `${a} is not ${b}`);

test("what is drawn on a view lies where it lay as the model is moved, is changed there, and is not there from elsewhere", () => {
  const drawn: Shape = { shape: "onView", eye: eye(0, 0), drawn: box(10) } as Shape;
  const find = (id: string) => (id === "a" ? { shape: drawn } : null);
  // The eye has gone five to its right: what was drawn lies five to the left of where it was.
  const moved = new OnViewNow(sheetOf(eye(5, 0)), true, find);
  const [seen] = moved.marks([{ id: "a", shape: drawn }]);
  assert.ok(seen && seen.shape.shape === "box");
  near(seen.shape.from.x, 5);
  const [changed] = moved.changed([{ id: "a", shape: box(7) }]);
  assert.ok(changed && changed.shape.shape === "onView" && changed.shape.drawn.shape === "box");
  near(changed.shape.drawn.from.x, 12);
  assert.deepEqual(changed.shape.eye, eye(0, 0));
  const elsewhere = new OnViewNow(sheetOf(eye(0, 1)), true, find);
  assert.deepEqual(elsewhere.marks([{ id: "a", shape: drawn }]), []);
  assert.deepEqual(elsewhere.changed([{ id: "a", shape: box(7) }]), []);
});

test("a new shape gets the view it is drawn on; a pin, and what lies on a sheet, stay as they are", () => {
  const none = () => null;
  const scene = new OnViewNow(sheetOf(eye(1)), true, none);
  assert.deepEqual(scene.kept(box(1)), { shape: "onView", eye: eye(1), drawn: box(1) });
  const pin = { shape: "pin" } as unknown as Shape;
  assert.equal(scene.kept(pin), pin);
  const sheet = new OnViewNow(sheetOf(null), false, none);
  const all = [{ id: "a", shape: box(1) }];
  assert.equal(sheet.marks(all), all);
  assert.equal(sheet.kept(all[0]!.shape), all[0]!.shape);
  assert.deepEqual(sheet.changed(all), all);
  // Before a model is there nothing lies on it.
  assert.deepEqual(new OnViewNow(sheetOf(null), true, none).marks(all), []);
});
