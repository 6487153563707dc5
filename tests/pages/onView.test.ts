import assert from "node:assert/strict";
import { test } from "node:test";
import type { BetweenFound, PinEye, Tint } from "../../web/src/api/types";
import { add, axesOf, placeOf, times, type Eye } from "../../web/src/viewer/camera/eye";
import { betweenMeasure, betweenSaid } from "../../web/src/viewer/scene/measured";
import { planeOf, shiftOnto } from "../../web/src/viewer/scene/onView";
import { tinted } from "../../web/src/viewer/scene/tints";

const eye: Eye = { target: [10, -20, 30], turn: 0.7, tilt: 0.3, height: 200, isPerspective: false };
const told = ({ target: [x, y, z], ...rest }: Eye): PinEye => ({ ...rest, target: { x, y, z }, hidden: [] });

test("what was drawn on a view lies over what it was drawn on, however the eye is moved and neared", () => {
  const { right, up } = axesOf(eye);
  const drawn = { x: 25, y: -40 };
  const meant = add(eye.target, add(times(drawn.x, right), times(drawn.y, up)));
  const nearer: Eye = { ...eye, target: add(eye.target, add(times(7, right), times(-3, up))), height: 50 };
  for (const now of [eye, nearer, { ...nearer, turn: eye.turn + 2 * Math.PI }]) {
    const shift = shiftOnto(told(eye), now);
    assert.ok(shift);
    const plane = planeOf(now, 800, 600);
    const seen = plane.place({ x: drawn.x + shift.dx, y: drawn.y + shift.dy });
    const is = placeOf(now, meant, 800, 600);
    assert.ok(Math.hypot(seen.x - is.x, seen.y - is.y) < 1e-6, JSON.stringify([seen, is]));
    const back = plane.pointAt(seen.x, seen.y);
    assert.ok(Math.hypot(back.x - drawn.x - shift.dx, back.y - drawn.y - shift.dy) < 1e-9);
  }
});

test("from elsewhere nothing of it is seen, in perspective from anywhere but there", () => {
  assert.equal(shiftOnto(told(eye), { ...eye, turn: 0.71 }), null);
  assert.equal(shiftOnto(told(eye), { ...eye, tilt: 0.31 }), null);
  assert.equal(shiftOnto(told(eye), { ...eye, isPerspective: true }), null);
  const deep: Eye = { ...eye, isPerspective: true };
  assert.deepEqual(shiftOnto(told(deep), deep), { dx: 0, dy: 0 });
  assert.equal(shiftOnto(told(deep), { ...deep, height: 199 }), null);
  assert.equal(shiftOnto(told(deep), { ...deep, target: [11, -20, 30] }), null);
});

const at = (x: number, y = 0, z = 0) => ({ x, y, z });
const bores: BetweenFound = {
  exact: {
    ...{ angle: 0, isParallel: true, distance: 50, along: [30, 40, 0], of: "axis to axis", isRecognised: false },
    ...{ from: at(0), to: at(30, 40) },
  },
  least: { distance: 12.34, from: at(1), to: at(9), deviation: 0.05, isAtMost: false },
};

test("of two bores the distance of their axes is told, and apart from it how near their faces come", () => {
  const { lines, of, sureness, ends } = betweenSaid(bores, "mm");
  assert.deepEqual([of, sureness], ["axis to axis", "exact"]);
  assert.deepEqual(
    lines.map((l) => `${l.words}: ${l.value}`),
    [
      ...["Distance: 50.000 mm", "along x: 30.000 mm", "along y: 40.000 mm", "along z: 0.000 mm", "Angle: parallel"],
      "Least distance, on the mesh, ± 0.050 mm: 12.34 mm",
    ],
  );
  assert.deepEqual(ends, [
    [0, 0, 0],
    [30, 40, 0],
  ]);
  assert.equal(betweenMeasure(bores, "mm")?.words, "50.000 mm");
  // The same distance is not told twice.
  const same = { ...bores, least: { ...bores.least!, distance: 50.03 } };
  assert.ok(!betweenSaid(same, "mm").lines.some((l) => l.words.startsWith("Least")));
});

test("what lies on nothing exact is told by its mesh; what touches has no ends; of what cannot be measured nothing is told", () => {
  const meshed = betweenSaid({ ...bores, exact: null }, "");
  assert.deepEqual([meshed.of, meshed.lines[0]], ["Clearance", { words: "Least distance", value: "12.34" }]);
  assert.equal(meshed.lines.length, 4);
  const touching = { exact: null, least: { ...bores.least!, distance: 0 } };
  assert.equal(betweenMeasure(touching, "mm")?.words, "they touch");
  assert.equal(betweenSaid(touching, "mm").ends, null);
  assert.equal(betweenMeasure({ exact: null, least: { ...bores.least!, isAtMost: true } }, "mm")?.words, "12.34 mm");
  assert.equal(betweenMeasure({ exact: null, least: null }, "mm"), null);
  // Planes that meet have an angle and no distance.
  const meeting = { ...bores.exact!, distance: null, along: null, angle: 45, isParallel: false, from: null, to: null };
  assert.equal(betweenMeasure({ exact: meeting, least: null }, "mm")?.words, "45.000°");
});

const groups = (count: number, more: Tint["groups"] = []) => [
  ...Array.from({ length: count }, (_, i) => ({ value: `v${i}`, components: [i] })),
  ...more,
];

test("groups have colours apart from one another; of too many the least are one, and what is not known is last and grey", () => {
  const few = tinted({ isOrdered: false, groups: groups(8, [{ value: "", components: [99] }]) });
  assert.equal(new Set(few.map((g) => g.colour)).size, 9);
  assert.deepEqual([few.at(-1)!.value, few.at(-1)!.components], ["Not known", [99]]);
  const many = tinted({ isOrdered: false, groups: groups(12) });
  assert.deepEqual([many.length, many.at(-1)!.components], [8, [7, 8, 9, 10, 11]]);
  assert.equal(new Set(many.map((g) => g.colour)).size, 8);
  // A scale goes from its lightest to its darkest, however few steps it has.
  const [first, last] = tinted({ isOrdered: true, groups: groups(2) });
  const six = tinted({ isOrdered: true, groups: groups(6) });
  assert.deepEqual([first!.colour, last!.colour], [six[0]!.colour, six[5]!.colour]);
  assert.equal(tinted({ isOrdered: true, groups: groups(1) })[0]!.colour, six[0]!.colour);
});
