import assert from "node:assert/strict";
import { test } from "node:test";
import type { Shape } from "../../web/src/api/types";
import type { Mark } from "../../web/src/viewer/markup/store";
import { distanceTo, handlesOf, moved } from "../../web/src/viewer/shapes";
import { look } from "../../web/src/viewer/tools/look";
import type { Seen, Step, Tool, ToolEvent } from "../../web/src/viewer/tools/tool";
import { twoPoint } from "../../web/src/viewer/tools/twoPoint";

const cloud = (x: number, y = 0): Shape => ({ shape: "cloud", from: { x, y }, to: { x: x + 100, y: y + 50 } });
const arrow: Shape = { shape: "arrow", from: { x: 0, y: 0 }, to: { x: 100, y: 0 } };
const mark = (id: string, shape: Shape, more: Partial<Mark> = {}): Mark => ({
  id,
  overlay: "o",
  leaf: 0,
  shape,
  note: null,
  zone: null,
  mayChange: true,
  ...more,
});

/** A hand that uses a tool. */
function hand(tool: Tool, seen: Seen) {
  let step: Step = { state: null };
  const all: Step[] = [];
  const does = (does: "press" | "drag" | "release" | "place" | "hover", x: number, y: number, unit = 1) =>
    send({ does, at: { x, y }, unit });
  const send = (event: ToolEvent) => {
    step = tool(step.state, event, seen);
    all.push(step);
    return step;
  };
  return { does, cancel: () => send({ does: "cancel" }), all };
}
const nothing: Seen = { marks: [], picked: null };

test("a cloud is drawn from where the hand is pressed to where it is let go", () => {
  const h = hand(twoPoint("cloud"), nothing);
  assert.notEqual(h.does("press", 10, 20).state, null);
  assert.deepEqual(h.does("drag", 30, 40).preview, {
    id: null,
    shape: { shape: "cloud", from: { x: 10, y: 20 }, to: { x: 30, y: 40 } },
  });
  const done = h.does("release", 60, 70);
  assert.deepEqual(done.drawn, { shape: "cloud", from: { x: 10, y: 20 }, to: { x: 60, y: 70 } });
  assert.equal(done.state, null);
});

test("a press that trembles draws nothing, however far one has zoomed in or out", () => {
  for (const [unit, far] of [
    [1, 5],
    [0.01, 0.05],
    [100, 500],
  ] as const) {
    const h = hand(twoPoint("arrow"), nothing);
    h.does("press", 0, 0, unit);
    h.does("drag", far, 0, unit);
    assert.equal(h.does("release", far, 0, unit).drawn, undefined);
    h.does("press", 0, 0, unit);
    assert.notEqual(h.does("release", far * 2, 0, unit).drawn, undefined);
  }
});

test("a cloud without height, and what is cancelled, is not drawn", () => {
  const h = hand(twoPoint("cloud"), nothing);
  h.does("press", 0, 0);
  assert.equal(h.does("release", 50, 0).drawn, undefined);
  h.does("press", 0, 0);
  h.does("drag", 50, 50);
  assert.deepEqual(h.cancel(), { state: null });
  assert.equal(h.does("release", 60, 60).drawn, undefined);
  assert.equal(h.does("drag", 60, 60).preview, undefined);
});

test("by the keyboard a corner is set at the cross, the shape follows it, and another is set", () => {
  const h = hand(twoPoint("cloud"), nothing);
  assert.equal(h.does("hover", 10, 20).preview, undefined);
  assert.equal(h.does("place", 10, 20).drawn, undefined);
  const shape = { shape: "cloud", from: { x: 10, y: 20 }, to: { x: 60, y: 70 } };
  assert.deepEqual(h.does("hover", 60, 70).preview, { id: null, shape });
  const done = h.does("place", 60, 70);
  assert.deepEqual(done, { state: null, drawn: shape });
  assert.equal(h.does("hover", 90, 90).preview, undefined);
});

test("both corners at one place give a shape of a usual size, as large at every zoom; cancelled, none", () => {
  const h = hand(twoPoint("cloud"), nothing);
  h.does("place", 500, 300, 0.5);
  const { drawn } = h.does("place", 500, 300, 0.5);
  assert.deepEqual(drawn, { shape: "cloud", from: { x: 470, y: 318 }, to: { x: 530, y: 282 } });
  h.does("place", 500, 300);
  h.cancel();
  assert.equal(h.does("place", 600, 400).drawn, undefined);
});

test("looking picks the topmost markup by its line, not by what it encloses, and drops it beside", () => {
  const seen: Seen = {
    marks: [mark("below", arrow), mark("above", arrow), mark("cloud", cloud(0, 100))],
    picked: null,
  };
  assert.equal(hand(look, seen).does("press", 50, 3).picks, "above");
  assert.equal(hand(look, seen).does("press", 50, 125).picks, null);
  assert.equal(hand(look, seen).does("press", 50, 125).state, null);
  assert.ok(distanceTo(cloud(0, 100), { x: 50, y: 125 }, 1) > 20);
});

test("one's own markup is moved, by a handle reshaped; another's is only picked", () => {
  const own: Seen = { marks: [mark("m", arrow)], picked: null };
  const h = hand(look, own);
  h.does("press", 50, 0);
  assert.equal(h.does("drag", 52, 0).preview, undefined);
  assert.deepEqual(h.does("drag", 60, 20).preview, { id: "m", shape: moved(arrow, 10, 20) });
  assert.deepEqual(h.does("release", 60, 20).changed, { id: "m", shape: moved(arrow, 10, 20) });

  const picked = hand(look, { ...own, picked: "m" });
  picked.does("press", 99, 1);
  picked.does("drag", 120, 40);
  assert.deepEqual(picked.does("release", 130, 50).changed, {
    id: "m",
    shape: { shape: "arrow", from: { x: 0, y: 0 }, to: { x: 130, y: 50 } },
  });

  const others = hand(look, { marks: [mark("m", arrow, { mayChange: false })], picked: "m" });
  const step = others.does("press", 99, 1);
  assert.deepEqual([step.state, step.picks], [null, "m"]);
  assert.equal(others.does("release", 130, 50).changed, undefined);
});

test("a markup that is put back, or squeezed to nothing, is as it was", () => {
  const h = hand(look, { marks: [mark("m", cloud(0))], picked: "m" });
  h.does("press", 50, 0);
  h.does("drag", 90, 90);
  h.does("drag", 50, 0);
  assert.equal(h.does("release", 50, 0).changed, undefined);
  h.does("press", 100, 50);
  h.does("drag", 50, 20);
  assert.equal(h.does("release", 0, 30).changed, undefined);
  h.does("press", 50, 0);
  h.does("drag", 90, 90);
  assert.deepEqual(h.cancel(), { state: null });
});
