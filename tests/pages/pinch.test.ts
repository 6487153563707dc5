import assert from "node:assert/strict";
import { test } from "node:test";
import { pinched, toSheet, type Spot, type View } from "../../web/src/viewer/view";

const view: View = { x: 120, y: -40, scale: 2.5 };
const [width, height] = [390, 500];

test("two fingers that part or turn keep beneath their middle what lay there, and the sheet grows as they part", () => {
  const pairs: [Spot, Spot][] = [
    [
      { x: 100, y: 100 },
      { x: 200, y: 220 },
    ],
    [
      { x: 300, y: 50 },
      { x: 20, y: 480 },
    ],
    [
      { x: 150, y: 250 },
      { x: 151, y: 250 },
    ],
  ];
  const middle = ([a, b]: [Spot, Spot]) => ({ x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 });
  const apart = ([a, b]: [Spot, Spot]) => Math.hypot(b.x - a.x, b.y - a.y);
  for (const from of pairs)
    for (const to of pairs) {
      const after = pinched(view, from, to, width, height);
      assert.ok(Math.abs(after.scale - (view.scale * apart(to)) / apart(from)) < 1e-9);
      const was = toSheet(view, middle(from).x, middle(from).y, width, height);
      const is = toSheet(after, middle(to).x, middle(to).y, width, height);
      assert.ok(Math.hypot(was.x - is.x, was.y - is.y) < 1e-6);
    }
});

test("there and back is where it was; both on one spot neither fails nor flies away", () => {
  const from: [Spot, Spot] = [
    { x: 80, y: 90 },
    { x: 180, y: 300 },
  ];
  const to: [Spot, Spot] = [
    { x: 40, y: 190 },
    { x: 280, y: 310 },
  ];
  const back = pinched(pinched(view, from, to, width, height), to, from, width, height);
  for (const key of ["x", "y", "scale"] as const) assert.ok(Math.abs(back[key] - view[key]) < 1e-9);
  const one: [Spot, Spot] = [from[0], from[0]];
  const after = pinched(view, one, one, width, height);
  assert.ok(Number.isFinite(after.x) && after.scale === view.scale);
});
