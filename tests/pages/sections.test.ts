import assert from "node:assert/strict";
import { test } from "node:test";
import type { ComponentFacts, SceneFacts } from "../../web/src/api/types";
import { partedWays } from "../../web/src/viewer/scene/apart";
import { densityWords } from "../../web/src/viewer/scene/componentFacts";
import type { V3 } from "../../web/src/viewer/camera/eye";
import {
  acrossAxis,
  acrossWords,
  axisOf,
  before,
  cuttingOf,
  flipped,
  nextName,
  rangeOf,
  stretchOf,
  stretchWords,
  throughPoints,
  turnedTo,
  type SectionPlane,
} from "../../web/src/viewer/scene/sections";
import { SceneTree } from "../../web/src/viewer/scene/tree";
import { eyeOf, keptOf, planesOf, sectionsOf, shownOf, toldEye } from "../../web/src/viewer/scene/viewNow";

const box = [0, 0, 0, 10, 20, 30];
const plane = (more: Partial<SectionPlane> = {}): SectionPlane => ({
  ...{ id: "1", name: "A–A", along: [0, 0, 1] as V3, at: 12, thickness: null, isOn: true },
  ...more,
});
const near = (a: readonly number[], b: readonly number[]) =>
  a.forEach((n, k) => assert.ok(Math.abs(n - b[k]!) < 1e-9, `${a.join()} is not ${b.join()}`));

test("a plane takes away what it points to; a slice takes away what lies behind its thickness too; one that is out takes nothing", () => {
  const isLeft = (p: V3, s: SectionPlane) => cuttingOf([s]).every((c) => before(p, c) <= 0);
  assert.deepEqual(
    [11, 13].map((z) => isLeft([0, 0, z], plane())),
    [true, false],
  );
  assert.deepEqual(
    [9, 11, 13].map((z) => isLeft([0, 0, z], plane({ thickness: 2 }))),
    [false, true, false],
  );
  assert.deepEqual(cuttingOf([plane({ isOn: false })]), []);
});

test("from its other side the same plane leaves what it took, and a slice stays where it is", () => {
  const back = flipped(plane());
  assert.ok(before([0, 0, 11], back) > 0 && before([0, 0, 13], back) < 0);
  const slice = flipped(plane({ thickness: 2 }));
  assert.deepEqual(
    [9, 11, 13].map((z) => cuttingOf([slice]).every((c) => before([0, 0, z], c) <= 0)),
    [false, true, false],
  );
  const twice = flipped(flipped(plane({ thickness: 2 })));
  near([...twice.along, twice.at], [0, 0, 1, 12]);
});

test("a plane across an axis goes through the middle, is seen as an elevation or a plan, and may be moved through the box", () => {
  near([...acrossAxis(1, box).along, acrossAxis(1, box).at], [0, -1, 0, -10]);
  near([...acrossAxis(2, box).along, acrossAxis(2, box).at], [0, 0, 1, 15]);
  near(rangeOf([0, -1, 0], box), [-20, 0]);
  near(rangeOf([Math.SQRT1_2, Math.SQRT1_2, 0], box), [0, 30 * Math.SQRT1_2]);
  assert.deepEqual([acrossWords([0, 1, 0]), acrossWords([0.6, 0.8, 0])], ["Across y", "Oblique"]);
});

test("a note's planes cut alone: those that are there are turned on, others come besides, and what was set stays", () => {
  const mine = [plane(), plane({ id: "2", name: "B–B", at: 3 })];
  const turned = turnedTo(
    mine,
    [
      { along: [0, 0, 1], at: 3, thickness: null },
      { along: [1, 0, 0], at: 5, thickness: 2 },
    ],
    () => "3",
  );
  assert.deepEqual(
    turned.map(({ id, name, isOn }) => [id, name, isOn]),
    [
      ["1", "A–A", false],
      ["2", "B–B", true],
      ["3", "C–C", true],
    ],
  );
  assert.deepEqual(
    turnedTo(mine, [], () => "3").map((s) => s.isOn),
    [false, false],
  );
  assert.deepEqual(axisOf([0, -1, 0]), { axis: 1, sign: -1 });
  assert.equal(axisOf([0.6, 0.8, 0]), null);
});

test("three points make the plane that looks to the eye; three in a line make none", () => {
  const made = throughPoints(
    [
      [0, 0, 5],
      [1, 0, 5],
      [0, 1, 5],
    ],
    [0, 0, -1],
  )!;
  near([...made.along, made.at], [0, 0, -1, -5]);
  assert.equal(
    throughPoints(
      [
        [0, 0, 0],
        [1, 1, 1],
        [2, 2, 2],
      ],
      [0, 0, 1],
    ),
    null,
  );
  assert.equal(
    throughPoints(
      [
        [1, 1, 1],
        [1, 1, 1],
        [2, 0, 0],
      ],
      [0, 0, 1],
    ),
    null,
  );
});

test("a ray meets only what sections leave: from where it enters to where it goes out", () => {
  const slice = cuttingOf([plane({ thickness: 2 })]);
  near(stretchOf([0, 0, 100], [0, 0, -1], slice)!, [88, 90]);
  assert.equal(stretchOf([0, 0, 13], [1, 0, 0], slice), null);
  assert.deepEqual(stretchOf([0, 0, 11], [1, 0, 0], slice), [0, Infinity]);
  assert.equal(stretchOf([0, 0, 13], [0, 0, 1], cuttingOf([plane()])), null);
});

test("sections are lettered one after another, numbers told in stretches", () => {
  assert.equal(nextName([]), "A–A");
  assert.equal(nextName(["A–A", "C–C"]), "B–B");
  assert.equal(
    nextName(Array.from({ length: 26 }, (_, i) => `${String.fromCharCode(65 + i)}–${String.fromCharCode(65 + i)}`)),
    "A1–A1",
  );
  assert.equal(stretchWords([]), "");
  assert.equal(stretchWords([9, 3, 4, 5, 0, 11]), "0,3-5,9,11");
  assert.equal(densityWords({ 3: "7,85", 4: "heavy", 5: "-1", 6: "2.7" }), "3:7.85,6:2.7");
});

test("a view is told and kept with its sections, and comes back as it was", () => {
  const eye = { target: [1, 2, 3] as V3, turn: 0.5, tilt: 0.25, height: 40, isPerspective: true };
  const [on, off] = [plane({ thickness: 3 }), plane({ id: "2", name: "Bore", isOn: false, along: [1, 0, 0] })];
  const told = toldEye(eye, new Set([5, 2]), [on, off]);
  assert.deepEqual([told.hidden, told.sections?.length], [[2, 5], 1]);
  assert.deepEqual(eyeOf(told), eye);
  assert.deepEqual(planesOf(told), [{ along: [0, 0, 1], at: 12, thickness: 3 }]);
  assert.equal("sections" in toldEye(eye, new Set(), [off]), false);
  const shown = { hidden: new Set([1]), ghost: new Set([4]), colours: new Map([[3, "#c9a227"]]), apart: 0.5 };
  const kept = keptOf(eye, shown, [on, off], true);
  assert.deepEqual(shownOf(kept), shown);
  assert.deepEqual(
    sectionsOf(kept).map(({ id: _, ...rest }) => rest),
    [on, off].map(({ id: _, ...rest }) => rest),
  );
});

test("a model is taken apart along its assemblies' axes, with what lies in them, and nothing alone goes away", () => {
  const of = (parent: number, part: number | null, at: readonly number[] | null = null) =>
    ({
      name: "",
      number: "",
      instance: "",
      parent,
      at,
      colour: null,
      opacity: null,
      part,
    }) as unknown as ComponentFacts;
  const shift = (x: number, y: number, z: number) => [1, 0, 0, x, 0, 1, 0, y, 0, 0, 1, z];
  // Two cubes one above the other, and beside them an assembly of one.
  const components = [of(-1, null), of(0, 0), of(0, 0, shift(0, 0, 10)), of(0, null, shift(40, 0, 0)), of(3, 0)];
  const facts = {
    components,
    parts: [{ box: [0, 0, 0, 2, 2, 2] }],
    box: [0, 0, 0, 42, 2, 12],
  } as unknown as SceneFacts;
  const ways = partedWays(new SceneTree(components), facts);
  near(ways[0]!, [0, 0, 0]);
  // The middle of all is at 21, 1, 6.
  near(ways[1]!, [-20, 0, 0]);
  near(ways[3]!, [20, 0, 0]);
  near(ways[4]!, ways[3]!);
});
