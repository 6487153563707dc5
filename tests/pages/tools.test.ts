import assert from "node:assert/strict";
import { test } from "node:test";
import type { Shape } from "../../web/src/api/types";
import { distanceTo, handlesOf, moved } from "../../web/src/viewer/shapes";
import { look } from "../../web/src/viewer/tools/look";
import type { Seen, Step, Tool, ToolEvent } from "../../web/src/viewer/tools/tool";
import { angle, area, dimension, middleOfCircle, radius } from "../../web/src/viewer/tools/measures";
import { freehand, path } from "../../web/src/viewer/tools/path";
import { count, countedOf, leader, words, stamp } from "../../web/src/viewer/tools/words";
import { twoPoint } from "../../web/src/viewer/tools/twoPoint";
import { arrow, cloud, mark } from "./marks";

const polyline = path((points) => ({ shape: "polyline", points }), false);
const cloudPath = path((points) => ({ shape: "cloudPath", points }), true);

type Send = () => Step;
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
  const [cancel, end, back] = (["cancel", "end", "back"] as const).map((does) => () => send({ does })) as [
    Send,
    Send,
    Send,
  ];
  return { does, cancel, end, back, all };
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
  assert.deepEqual(h.does("release", 60, 20).changed, [{ id: "m", shape: moved(arrow, 10, 20) }]);

  const picked = hand(look, { ...own, picked: "m" });
  picked.does("press", 99, 1);
  picked.does("drag", 120, 40);
  assert.deepEqual(picked.does("release", 130, 50).changed?.[0], {
    id: "m",
    shape: { shape: "arrow", from: { x: 0, y: 0 }, to: { x: 130, y: 50 } },
  });

  const others = hand(look, { marks: [mark("m", arrow, { mayChange: false })], picked: "m" });
  const step = others.does("press", 99, 1);
  assert.deepEqual([step.state, step.picks], [null, "m"]);
  assert.equal(others.does("release", 130, 50).changed, undefined);
});

test("with Shift another is picked as well or no more, and a box picks what lies wholly within it", () => {
  const seen: Seen = {
    marks: [mark("a", arrow), mark("b", cloud(0, 100)), mark("far", cloud(500, 500))],
    picked: "a",
    others: [],
  };
  assert.deepEqual(look(null, { does: "press", at: { x: 0, y: 120 }, unit: 1, isAdding: true }, seen), {
    state: null,
    toggles: "b",
  });
  const begun = look(null, { does: "press", at: { x: -50, y: -50 }, unit: 1, isAdding: true }, seen);
  assert.deepEqual(begun.state, { tool: "picking", from: { x: -50, y: -50 } });
  const drawn = look(begun.state, { does: "drag", at: { x: 300, y: 300 }, unit: 1 }, seen);
  assert.deepEqual(drawn.box, { from: { x: -50, y: -50 }, to: { x: 300, y: 300 } });
  // Drawn from any corner; what only reaches into it stays.
  assert.deepEqual(look(drawn.state, { does: "release", at: { x: 300, y: 300 }, unit: 1 }, seen).picksAll, ["a", "b"]);
  assert.deepEqual(look(drawn.state, { does: "release", at: { x: 300, y: 50 }, unit: 1 }, seen).picksAll, ["a"]);
  assert.deepEqual(look(drawn.state, { does: "cancel" }, seen), { state: null });
});

test("several that are picked are moved together in one gesture, but for others’; pressed without moving one of them is picked alone", () => {
  const seen: Seen = {
    marks: [mark("a", arrow), mark("b", cloud(0, 100)), mark("theirs", cloud(0, 300), { mayChange: false })],
    picked: "a",
    others: ["b", "theirs"],
  };
  const h = hand(look, seen);
  // Where its corner would be taken were it picked alone.
  assert.equal(h.does("press", 99, 1).picks, undefined);
  const dragged = h.does("drag", 119, 31);
  assert.deepEqual(dragged.preview, { id: "a", shape: moved(arrow, 20, 30) });
  assert.deepEqual(dragged.along, [{ id: "b", shape: moved(cloud(0, 100), 20, 30) }]);
  assert.deepEqual(h.does("release", 119, 31).changed, [
    { id: "a", shape: moved(arrow, 20, 30) },
    { id: "b", shape: moved(cloud(0, 100), 20, 30) },
  ]);
  h.does("press", 50, 0);
  assert.equal(h.does("release", 50, 0).picks, "a");
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

/** Presses and lets go at a place. */
const press = (h: ReturnType<typeof hand>, x: number, y: number) => {
  const pressed = h.does("press", x, y);
  return pressed.drawn ? pressed : h.does("release", x, y);
};

test("a line goes through the points that are pressed; pressed again at the last, it is done", () => {
  const h = hand(polyline, nothing);
  press(h, 0, 0);
  press(h, 50, 0);
  h.does("hover", 70, 40);
  assert.deepEqual(h.all.at(-1)!.preview?.shape, {
    shape: "polyline",
    points: [
      { x: 0, y: 0 },
      { x: 50, y: 0 },
      { x: 70, y: 40 },
    ],
  });
  press(h, 70, 40);
  assert.deepEqual(press(h, 72, 41).drawn, {
    shape: "polyline",
    points: [
      { x: 0, y: 0 },
      { x: 50, y: 0 },
      { x: 70, y: 40 },
    ],
  });
});

test("a point that was not meant is taken back, the last one ends it all; a cancelled gesture leaves nothing", () => {
  const h = hand(polyline, nothing);
  press(h, 0, 0);
  press(h, 50, 0);
  press(h, 90, 90);
  h.back();
  assert.deepEqual(h.end().drawn, {
    shape: "polyline",
    points: [
      { x: 0, y: 0 },
      { x: 50, y: 0 },
    ],
  });
  press(h, 0, 0);
  // One point is no line.
  assert.equal(h.end().drawn, undefined);
  assert.equal(h.back().state, null);
  press(h, 5, 5);
  assert.deepEqual(h.cancel(), { state: null });
});

test("a cloud by points closes at its first; two points make none; a stretch may be dragged", () => {
  const h = hand(cloudPath, nothing);
  h.does("press", 0, 0);
  h.does("drag", 20, 5);
  h.does("release", 40, 0);
  assert.equal(h.end().drawn, undefined);
  press(h, 40, 40);
  const done = press(h, 1, 1);
  assert.deepEqual(done.drawn, {
    shape: "cloudPath",
    points: [
      { x: 0, y: 0 },
      { x: 40, y: 0 },
      { x: 40, y: 40 },
    ],
  });
});

test("a freehand line is drawn from press to release, without what a hand trembles; a dot is none", () => {
  const h = hand(freehand, nothing);
  h.does("press", 0, 0);
  for (let x = 1; x < 100; x++) h.does("drag", x, (x % 2) * 0.4);
  const done = h.does("release", 100, 0);
  assert.equal(done.drawn?.shape, "freehand");
  assert.equal((done.drawn as { points: unknown[] }).points.length, 2);
  h.does("press", 0, 0);
  assert.equal(h.does("release", 1, 1).drawn, undefined);
});

test("words begin where the hand is let go of, a leader from what it points at to where its words stand", () => {
  const h = hand(words, nothing);
  assert.deepEqual(press(h, 7, 9).writes, { shape: "words", at: { x: 7, y: 9 }, text: "", height: 11, width: 308 });
  const l = hand(leader, nothing);
  l.does("press", 0, 0);
  assert.deepEqual(l.does("release", 80, 60).writes, {
    ...{ shape: "leader", from: { x: 80, y: 60 }, to: { x: 0, y: 0 }, text: "", height: 11 },
  });
  // Pressed twice rather than dragged, or by key: the same.
  press(l, 0, 0);
  assert.equal(press(l, 80, 60).writes?.shape, "leader");
  l.does("place", 0, 0);
  assert.equal(l.does("place", 80, 60).writes?.shape, "leader");
});

test("a length is measured by dragging or by three presses, with the scale of where it begins", () => {
  const seen: Seen = { ...nothing, factorAt: (p) => (p.x < 50 ? 20 : null) };
  const wanted = (offset: number, factor: number | null = 20) => ({
    ...{ shape: "dimension", from: { x: 0, y: 0 }, to: { x: 100, y: 0 }, offset, factor, wanted: "", height: 11 },
  });
  const h = hand(dimension, seen);
  h.does("press", 0, 0);
  h.does("drag", 60, 0);
  h.does("release", 100, 0);
  assert.deepEqual(h.does("hover", 30, 25).preview?.shape, wanted(25));
  assert.deepEqual(h.does("press", 30, -12).drawn, wanted(-12));
  press(h, 0, 0);
  press(h, 100, 0);
  assert.deepEqual(h.does("press", 30, 12).drawn, wanted(12));
  for (const [x, y] of [
    [0, 0],
    [100, 0],
  ] as const)
    h.does("place", x, y);
  assert.deepEqual(h.does("place", 50, 9).drawn, wanted(9));
  press(h, 100, 0);
  press(h, 0, 0);
  assert.equal((h.does("press", 0, -3).drawn as { factor: number | null }).factor, null);
  // The second point is taken back.
  press(h, 0, 0);
  press(h, 77, 77);
  h.back();
  press(h, 100, 0);
  assert.deepEqual(h.does("press", 30, 12).drawn, wanted(12));
});

test("an area is measured through its points, an angle by its apex and its legs, with the scale of where they begin", () => {
  const seen: Seen = { ...nothing, factorAt: () => 20 };
  const h = hand(area, seen);
  for (const [x, y] of [
    [0, 0],
    [40, 0],
    [40, 30],
  ] as const)
    press(h, x, y);
  const points = [
    { x: 0, y: 0 },
    { x: 40, y: 0 },
    { x: 40, y: 30 },
  ];
  // Pressed again at the first: it is closed, and that point is in it once.
  assert.deepEqual(press(h, 1, 1).drawn, { shape: "area", points, factor: 20, height: 11 });
  const a = hand(angle, seen);
  press(a, 0, 0);
  press(a, 50, 0);
  assert.deepEqual(a.does("press", 0, 70).drawn, {
    ...{ shape: "angle", apex: { x: 0, y: 0 }, from: { x: 50, y: 0 }, to: { x: 0, y: 70 }, height: 11 },
  });
});

test("a circle of the file is measured by one press on it, any other through three points", () => {
  const seen: Seen = { ...nothing, factorAt: () => 20 };
  const on = radius(null, { does: "press", at: { x: 30, y: 0 }, unit: 1, centre: { x: 0, y: 0 } }, seen);
  const circle = { shape: "radius", from: { x: 0, y: 0 }, factor: 20, height: 11 };
  assert.deepEqual(on.drawn, { ...circle, to: { x: 30, y: 0 } });
  const h = hand(radius, seen);
  press(h, 30, 0);
  press(h, 0, 30);
  const { drawn } = h.does("press", -30, 0);
  assert.deepEqual(drawn, { ...circle, to: { x: -30, y: 0 } });
  // Three points in a line are on no circle: the last is wanted again.
  press(h, 0, 0);
  press(h, 50, 0);
  assert.equal(h.does("press", 100, 0).drawn, undefined);
  assert.equal(h.does("press", 50, 50).drawn?.shape, "radius");
  assert.equal(middleOfCircle({ x: 0, y: 0 }, { x: 1, y: 1 }, { x: 2, y: 2 }), null);
  for (let i = 0; i < 50; i++) {
    const [x, y, r] = [i * 7 - 100, 30 - i, 1 + i];
    const at = (t: number) => ({ x: x + r * Math.cos(t), y: y + r * Math.sin(t) });
    const middle = middleOfCircle(at(i), at(i + 1.3), at(i + 4))!;
    assert.ok(Math.hypot(middle.x - x, middle.y - y) < 1e-6 * (1 + r));
  }
});

test("a stamp's words are to be written; what is counted is numbered on, whoever counted before", () => {
  const s = hand(stamp, nothing);
  s.does("press", 10, 20);
  assert.deepEqual(s.does("release", 10, 20).writes, { shape: "stamp", at: { x: 10, y: 20 }, text: "", height: 11 });
  const one = (number: number): Shape => ({ shape: "count", at: { x: number, y: 0 }, number, height: 11 });
  const seen: Seen = {
    marks: [mark("a", one(1)), mark("c", one(4)), mark("theirs", one(9), { mayChange: false })],
    picked: null,
  };
  assert.deepEqual(countedOf(seen.marks), { sum: 2, last: 4 });
  const c = hand(count, seen);
  c.does("press", 30, 40);
  assert.deepEqual(c.does("release", 30, 40).drawn, { shape: "count", at: { x: 30, y: 40 }, number: 5, height: 11 });
  assert.deepEqual(hand(count, nothing).does("place", 1, 2).drawn, {
    shape: "count",
    at: { x: 1, y: 2 },
    number: 1,
    height: 11,
  });
});

test("with Shift what the lines about a point enclose is measured, where the hand is and not where it is caught", () => {
  const step = area(
    null,
    { does: "press", at: { x: 5, y: 5 }, free: { x: 4, y: 4 }, unit: 1, isAdding: true },
    nothing,
  );
  assert.deepEqual([step.state, step.encloses], [null, { x: 4, y: 4 }]);
  assert.deepEqual(area(null, { does: "place", at: { x: 7, y: 8 }, unit: 1, isAdding: true }, nothing).encloses, {
    x: 7,
    y: 8,
  });
  // Once corners are being set, it is those that count.
  const begun = area(null, { does: "press", at: { x: 0, y: 0 }, unit: 1 }, nothing);
  assert.equal(
    area(begun.state, { does: "press", at: { x: 50, y: 0 }, unit: 1, isAdding: true }, nothing).encloses,
    undefined,
  );
});
