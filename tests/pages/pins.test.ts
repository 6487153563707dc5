import assert from "node:assert/strict";
import { test } from "node:test";
import type { ComponentFacts, EdgeFacts, FaceFacts, SceneFacts } from "../../web/src/api/types";
import { boxOf, factsOf } from "../../web/src/viewer/scene/componentFacts";
import { inModel } from "../../web/src/viewer/scene/exact";
import { placeOf, type Eye, type V3 } from "../../web/src/viewer/camera/eye";
import { EyeNow } from "../../web/src/viewer/scene/eyeNow";
import { inPart, pinOf, standsOn } from "../../web/src/viewer/scene/pins";
import { toldEye } from "../../web/src/viewer/scene/viewNow";
import { SceneTree } from "../../web/src/viewer/scene/tree";
import { eyeAfterKey } from "../../web/src/viewer/scene/useSceneHand";

const eye: Eye = { target: [0, 0, 0], turn: 0, tilt: 0, height: 100, isPerspective: false };
const component = (
  name: string,
  parent: number,
  part: number | null,
  instance = "",
  at: number[] | null = null,
): ComponentFacts => ({
  ...{ name, number: "", instance, parent, at, colour: null, opacity: null, part },
});
/** A mount of two sides, each with an arm and two bolts; the second stands turned by a quarter, and mirrored. */
const quarter = [0, -1, 0, 10, 1, 0, 0, 20, 0, 0, -1, 30];
const mount = (...more: ComponentFacts[]) =>
  new SceneTree([
    component("Mount", -1, null),
    component("Side", 0, null, "East"),
    component("Arm", 1, 0),
    component("Bolt", 1, 1),
    component("Bolt", 1, 1),
    component("Side", 0, null, "West", quarter),
    component("Arm", 5, 0),
    ...more,
  ]);

test("a point goes into a part's axes and back, wherever the part stands", () => {
  const scaled = [0, -2, 0, 1, 2, 0, 0, 2, 0, 0, 2, 3];
  for (const at of [quarter, scaled, [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0]])
    for (const p of [
      [1, 2, 3],
      [-40, 0, 7.5],
      [0, 0, 0],
    ] as V3[])
      for (const isDirection of [false, true]) {
        const [x, y, z] = inPart(at, p, isDirection);
        inModel(at, { x, y, z }, isDirection).forEach((n, k) => assert.ok(Math.abs(n - p[k]!) < 1e-9));
      }
});

test("a pin keeps the part's own point, the way of its names, and what was left out", () => {
  const hit = { component: 6, face: 4, edge: null, point: [10, 25, 30] as V3, normal: [0, 0, -1] as V3 };
  const pin = pinOf(mount(), hit, toldEye(eye, new Set([4, 3]), []));
  assert.deepEqual(pin.path, ["Mount", "Side (West)", "Arm"]);
  assert.deepEqual(
    [pin.at.x, pin.at.y, pin.at.z].map((n) => n + 0),
    [5, 0, 0],
  );
  assert.deepEqual(
    [pin.normal.x, pin.normal.y, pin.normal.z].map((n) => n + 0),
    [0, 0, 1],
  );
  assert.deepEqual(pin.eye.hidden, [3, 4]);
});

test("a pin stands on what is called the same, though others came before it; on nothing where that is gone", () => {
  const hit = { component: 6, face: 4, edge: null, point: [0, 0, 0] as V3, normal: [0, 0, 1] as V3 };
  const pin = pinOf(mount(), hit, toldEye(eye, new Set(), []));
  assert.equal(standsOn(mount(), pin), 6);
  // One bolt fewer in the next draft: what follows has other numbers.
  const next = new SceneTree(
    mount()
      .components.filter((_, i) => i !== 4)
      .map((c) => (c.parent === 5 ? { ...c, parent: 4 } : c)),
  );
  assert.equal(standsOn(next, pin), 5);
  const without = new SceneTree(mount().components.slice(0, 5));
  assert.equal(standsOn(without, pin), null);
  // Of several called alike the one that it was put on.
  const bolt = pinOf(mount(), { ...hit, component: 4 }, toldEye(eye, new Set(), []));
  assert.equal(standsOn(mount(), bolt), 4);
  // An assembly shows nothing that could be pinned.
  assert.equal(standsOn(mount(), { ...pin, component: 0, path: ["Mount"] }), null);
});

test("the eye tells who listens, and nobody else", () => {
  const eyes = new EyeNow(null);
  let told = 0;
  const stop = eyes.subscribe(() => told++);
  eyes.set(eye);
  assert.deepEqual([eyes.now(), told], [eye, 1]);
  stop();
  eyes.set({ ...eye, turn: 1 });
  assert.equal(told, 1);
});

test("arrow keys turn, with Shift they move what is seen, plus and minus near it", () => {
  const at = (e: Eye) => placeOf(e, [10, 0, 10], 400, 400);
  assert.ok(eyeAfterKey(eye, { key: "ArrowRight", shiftKey: false }, 400, 400)!.turn > 0);
  assert.ok(eyeAfterKey(eye, { key: "ArrowUp", shiftKey: false }, 400, 400)!.tilt > 0);
  const moved = eyeAfterKey(eye, { key: "ArrowRight", shiftKey: true }, 400, 400)!;
  assert.ok(at(moved).x < at(eye).x && moved.turn === 0);
  const up = eyeAfterKey(eye, { key: "ArrowUp", shiftKey: true }, 400, 400)!;
  assert.ok(at(up).y > at(eye).y);
  assert.ok(eyeAfterKey(eye, { key: "+", shiftKey: false }, 400, 400)!.height < eye.height);
  assert.ok(eyeAfterKey(eye, { key: "-", shiftKey: false }, 400, 400)!.height > eye.height);
  assert.equal(eyeAfterKey(eye, { key: "a", shiftKey: false }, 400, 400), null);
});

const facts = (isExact: boolean): SceneFacts => {
  const block = { at: 0, length: 0, points: 0, triangles: 0, faces: 0, lines: 0, linePoints: 0, isWide: false };
  const part = {
    name: "Arm",
    number: "",
    colour: null,
    opacity: null,
    material: null,
    density: null,
    box: [0, 0, 0, 40, 180, 390],
    volume: 2_000_000,
    area: 1000,
    centre: null,
    isExact,
    deviation: 0.4,
    faceColours: null,
    block,
  };
  return {
    unit: "millimetre",
    box: [0, 0, 0, 40, 180, 390],
    components: [],
    parts: [part, { ...part, volume: null, material: "8.8", density: 7.85 }],
  } as SceneFacts;
};
const known = (isExact: boolean, density: Record<number, string> = {}) => ({
  tree: mount(),
  facts: facts(isExact),
  exact: undefined,
  taken: null,
  unit: "mm",
  density,
  turned: undefined,
  millimetres: 1,
  setDensity: () => undefined,
});
const valueOf = (said: ReturnType<typeof factsOf>, words: RegExp) => said.lines.find((l) => words.test(l.words))?.value;

test("a part is said with its volume and its box, and weighs what its density makes of it", () => {
  const said = factsOf(2, known(true));
  assert.deepEqual([said.title, said.of, said.sureness], ["Arm", "one of 2", "exact"]);
  assert.equal(valueOf(said, /Volume/), "2\u202f000\u202f000 mm³");
  assert.equal(valueOf(said, /Box/), "40.000 × 180.000 × 390.000");
  assert.equal(valueOf(said, /Mass/), undefined);
  assert.ok(said.density);
  // A comma is a decimal point to many.
  assert.equal(valueOf(factsOf(2, known(true, { 0: "7,1" })), /Mass/), "14.200 kg");
  assert.equal(valueOf(factsOf(2, known(true, { 0: "heavy" })), /Mass/), undefined);
  assert.equal(factsOf(2, known(false)).sureness, "from the mesh");
  // Where the file says what it weighs nobody is asked; what encloses nothing weighs nothing.
  assert.deepEqual([factsOf(3, known(true)).density, valueOf(factsOf(3, known(true)), /Mass/)], [null, undefined]);
  assert.equal(factsOf(1, known(true)).of, "3 pieces");
});

test("a taken face or edge is said exactly; a free one of its part by the part", () => {
  const point = { x: 0, y: 0, z: 1 };
  const bore: FaceFacts = {
    surface: "cylinder",
    at: point,
    along: point,
    radius: 31,
    minor: 0,
    isHollow: true,
    isRecognised: true,
    area: 10,
    colour: null,
  };
  const free: FaceFacts = { ...bore, surface: "free", isRecognised: false, area: null };
  const line: EdgeFacts = {
    first: 0,
    second: 1,
    isSmooth: false,
    curve: "line",
    at: point,
    along: point,
    radius: 0,
    length: 12,
    isRecognised: false,
    points: [],
  };
  const exact = {
    parts: [
      { faces: [bore, free], edges: [line] },
      { faces: [], edges: [] },
    ],
  };
  const taken = { component: 2, face: 0, edge: null, point: [0, 0, 0] as V3, normal: [0, 0, 1] as V3 };
  const face = factsOf(2, { ...known(true), exact, taken });
  assert.deepEqual([face.of, face.sureness], ["Bore", "recognised within 0.0001 mm"]);
  const edge = factsOf(2, { ...known(true), exact, taken: { ...taken, edge: 0 } });
  assert.deepEqual([edge.of, valueOf(edge, /Length/), edge.sureness], ["Straight edge", "12.000 mm", "exact"]);
  // The end of an edge is told by where it is, that of its ends which was meant.
  const ended = {
    ...line,
    points: [
      { x: 1, y: 2, z: 3 },
      { x: 1, y: 2, z: 15 },
    ],
  };
  const withEnds = {
    parts: [
      { faces: [bore, free], edges: [ended] },
      { faces: [], edges: [] },
    ],
  };
  const corner = factsOf(2, {
    ...known(true),
    exact: withEnds,
    taken: { ...taken, edge: 0, isCorner: true, point: inModel(mount().placed[2]!, { x: 1, y: 2, z: 14 }, false) },
  });
  const there = inModel(mount().placed[2]!, { x: 1, y: 2, z: 15 }, false);
  assert.deepEqual(
    [corner.of, corner.sureness, ...corner.lines.map((l) => l.value)],
    ["End of an edge", "exact", ...there.map((n) => `${n.toFixed(3)} mm`)],
  );
  assert.equal(factsOf(2, { ...known(true), exact, taken: { ...taken, face: 1 } }).of, "one of 2");
  // What is taken of another component says nothing of this one.
  assert.equal(factsOf(6, { ...known(true), exact, taken }).of, "one of 2");
});

test("what some components cover follows where they stand; of what covers nothing, the model's", () => {
  assert.deepEqual(boxOf(mount(), facts(true), [2]), [0, 0, 0, 40, 180, 390]);
  assert.deepEqual(boxOf(mount(), facts(true), [6]), [-170, 20, -360, 10, 60, 30]);
  assert.deepEqual(boxOf(mount(), facts(true), [0]), facts(true).box);
});
