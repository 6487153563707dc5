import assert from "node:assert/strict";
import { test } from "node:test";
import { zoneOf, type Grid } from "../../web/src/viewer/zone";
import { TABLE, Together } from "../../web/src/viewer/camera/together";
import type { View } from "../../web/src/viewer/camera/view";

class Sheet {
  view: View;
  constructor(
    readonly together: Together,
    readonly extents: string,
    view: View,
  ) {
    this.view = view;
    together.join(this, { view, extents }, (next) => (this.view = next));
  }
  look(view: View) {
    this.view = view;
    this.together.moved(this, view);
  }
}

test("two drafts of one sheet are looked at alike from the moment they move together", () => {
  const together = new Together();
  const a = new Sheet(together, "0,0,420,297", { x: 100, y: 50, scale: 3 });
  const b = new Sheet(together, "0,0,420,297", { x: 7, y: 8, scale: 1 });
  assert.deepEqual(b.view, a.view);
  b.look({ x: 20, y: 30, scale: 9 });
  assert.deepEqual(a.view, { x: 20, y: 30, scale: 9 });
});

test("sheets of other sizes go as far on the screen and are zoomed as much, each from where it was", () => {
  const together = new Together();
  const a = new Sheet(together, "0,0,420,297", { x: 100, y: 50, scale: 2 });
  const b = new Sheet(together, "0,0,84000,59400", { x: 5000, y: 6000, scale: 0.01 });
  assert.deepEqual(b.view, { x: 5000, y: 6000, scale: 0.01 });
  a.look({ x: 110, y: 50, scale: 2 });
  assert.deepEqual(b.view, { x: 5000 + 2000, y: 6000, scale: 0.01 });
  a.look({ x: 110, y: 50, scale: 4 });
  assert.deepEqual(b.view, { x: 7000, y: 6000, scale: 0.02 });
});

test("what has left is moved no more, and what is told of its own move tells nobody again", () => {
  const together = new Together();
  const a = new Sheet(together, "a", { x: 0, y: 0, scale: 1 });
  const b = new Sheet(together, "a", { x: 0, y: 0, scale: 1 });
  together.leave(b);
  a.look({ x: 9, y: 9, scale: 1 });
  assert.deepEqual(b.view, { x: 0, y: 0, scale: 1 });
  together.moved(b, { x: 1, y: 1, scale: 1 });
  assert.deepEqual(a.view, { x: 9, y: 9, scale: 1 });
});

test("tables move with tables alone, to the same row", () => {
  const together = new Together();
  const list = new Sheet(together, TABLE, { x: 0, y: 12.5, scale: 1 });
  const sheet = new Sheet(together, "0,0,420,297", { x: 100, y: 50, scale: 2 });
  const other = new Sheet(together, TABLE, { x: 3, y: 0, scale: 2 });
  assert.deepEqual(other.view, { x: 0, y: 12.5, scale: 1 });
  list.look({ x: 1, y: 40, scale: 1.5 });
  assert.deepEqual(other.view, { x: 1, y: 40, scale: 1.5 });
  assert.deepEqual(sheet.view, { x: 100, y: 50, scale: 2 });
  sheet.look({ x: 0, y: 0, scale: 4 });
  assert.deepEqual(list.view, { x: 1, y: 40, scale: 1.5 });
});

test("a point lies in the field whose edges it lies between, the topmost row called A", () => {
  const grid: Grid = { columns: [0, 60, 110, 170], rows: [0, 40, 90], letters: "AB" };
  assert.equal(zoneOf(grid, { x: 10, y: 80 }), "A1");
  assert.equal(zoneOf(grid, { x: 169, y: 1 }), "B3");
  assert.equal(zoneOf(grid, { x: 61, y: 41 }), "A2");
  assert.equal(zoneOf(grid, { x: -1, y: 1 }), "");
  assert.equal(zoneOf(null, { x: 10, y: 10 }), "");
});
