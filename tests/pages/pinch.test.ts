import assert from "node:assert/strict";
import { test } from "node:test";
import { windowPoint, type WindowPoint } from "../../web/src/viewer/camera/points";
import { pinched, toOffset, type View } from "../../web/src/viewer/camera/view";

const view: View = { x: 120, y: -40, scale: 2.5 };
const size = { width: 390, height: 500 };

test("two fingers that part or turn keep beneath their middle what lay there, and the sheet grows as they part", () => {
  const pairs: [WindowPoint, WindowPoint][] = [
    [windowPoint(100, 100), windowPoint(200, 220)],
    [windowPoint(300, 50), windowPoint(20, 480)],
    [windowPoint(150, 250), windowPoint(151, 250)],
  ];
  const middle = ([a, b]: [WindowPoint, WindowPoint]) => windowPoint((a.x + b.x) / 2, (a.y + b.y) / 2);
  const apart = ([a, b]: [WindowPoint, WindowPoint]) => Math.hypot(b.x - a.x, b.y - a.y);
  for (const from of pairs)
    for (const to of pairs) {
      const after = pinched(view, from, to, size);
      assert.ok(Math.abs(after.scale - (view.scale * apart(to)) / apart(from)) < 1e-9);
      const was = toOffset(view, middle(from), size);
      const is = toOffset(after, middle(to), size);
      assert.ok(Math.hypot(was.x - is.x, was.y - is.y) < 1e-6);
    }
});

test("there and back is where it was; both on one spot neither fails nor flies away", () => {
  const from: [WindowPoint, WindowPoint] = [windowPoint(80, 90), windowPoint(180, 300)];
  const to: [WindowPoint, WindowPoint] = [windowPoint(40, 190), windowPoint(280, 310)];
  const back = pinched(pinched(view, from, to, size), to, from, size);
  for (const key of ["x", "y", "scale"] as const) assert.ok(Math.abs(back[key] - view[key]) < 1e-9);
  const one: [WindowPoint, WindowPoint] = [from[0], from[0]];
  const after = pinched(view, one, one, size);
  assert.ok(Number.isFinite(after.x) && after.scale === view.scale);
});
