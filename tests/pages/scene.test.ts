import assert from "node:assert/strict";
import { test } from "node:test";
import { planeOfDrawn } from "../../web/src/viewer/scene/planeOfDrawn";
import type { ComponentFacts, EdgeFacts, FaceFacts } from "../../web/src/api/types";
import { edgeLines, faceLines, lengthWords } from "../../web/src/viewer/scene/exact";
import {
  axesOf,
  dot,
  fitted,
  minus,
  nameOf,
  nearer,
  panned,
  placeOf,
  rayOf,
  squarely,
  standing,
  turned,
  type Eye,
  type V3,
} from "../../web/src/viewer/camera/eye";
import { readPart, stretchAt } from "../../web/src/viewer/scene/partBlock";
import { SceneTree } from "../../web/src/viewer/scene/tree";

const eye: Eye = { target: [10, 20, 30], turn: 0.4, tilt: 0.3, height: 200, isPerspective: false };
const near = (a: number, b: number, most = 1e-6) => assert.ok(Math.abs(a - b) < most, `${a} is not ${b}`);
/** Numbers that look random and are the same each time. */
function* numbers(seed: number) {
  for (let n = seed; ; n = (n * 16807) % 2147483647) yield n / 2147483647;
}

test("the standing views are called by what is seen, and what lies between them by its sides", () => {
  for (const to of ["front", "back", "left", "right", "top", "bottom"] as const)
    assert.equal(nameOf(standing[to]), standing[to].words);
  assert.equal(nameOf(standing.frontRight), "Front, right, above");
  assert.equal(nameOf({ turn: Math.PI / 2, tilt: -0.6 }), "Right, below");
});

test("seen from the front, right is right and up is up; from the top, up is to the back", () => {
  const front = { ...eye, ...standing.front, target: [0, 0, 0] as V3 };
  const at = placeOf(front, [50, 0, 25], 400, 400);
  assert.deepEqual([at.x, at.y], [300, 150]);
  const top = placeOf({ ...front, ...standing.top }, [0, 50, 0], 400, 400);
  near(top.x, 200);
  near(top.y, 100);
});

test("whatever eye, the line of sight through where a point stands goes through the point", () => {
  const random = numbers(7);
  const next = () => random.next().value as number;
  for (let i = 0; i < 500; i++) {
    const any: Eye = {
      target: [next() * 100, next() * 100, next() * 100],
      turn: next() * 6,
      tilt: next() * 3 - 1.5,
      height: 50 + next() * 100,
      isPerspective: i % 2 === 0,
    };
    const p: V3 = [next() * 100, next() * 100, next() * 100];
    const { x, y, depth } = placeOf(any, p, 640, 480);
    if (any.isPerspective && depth < 1) continue;
    const { from, along } = rayOf(any, x, y, 640, 480);
    const way = minus(p, from);
    const off = minus(way, [along[0] * dot(way, along), along[1] * dot(way, along), along[2] * dot(way, along)]);
    near(Math.hypot(...off), 0, 1e-3);
  }
});

test("what one turns about stays where it is, what one nears stays under the hand, what one moves goes along", () => {
  const p: V3 = [40, -10, 55];
  const was = placeOf(eye, p, 640, 480);
  const after = placeOf(turned(eye, p, 0.7, -0.2), p, 640, 480);
  near(after.x, was.x);
  near(after.y, was.y);
  const closer = placeOf(nearer(eye, 3, was.x, was.y, 640, 480), p, 640, 480);
  near(closer.x, was.x);
  near(closer.y, was.y);
  const moved = placeOf(panned(eye, 30, -12, 480), p, 640, 480);
  near(moved.x - was.x, 30);
  near(moved.y - was.y, -12);
  near(turned(eye, p, 0, 9).tilt, Math.PI / 2);
});

test("a face is looked at squarely, wherever it looks", () => {
  for (const normal of [
    [0, 0, 1],
    [0, 0, -1],
    [1, 0, 0],
    [0, 1, 0],
    [0.6, -0.64, 0.48],
  ] as V3[])
    near(dot(axesOf(squarely(eye, normal, [1, 2, 3])).back, normal), 1);
});

test("all of a box is in view once it is fitted", () => {
  for (const isPerspective of [false, true])
    for (const to of Object.values(standing)) {
      const all = fitted({ ...eye, ...to, isPerspective }, [-20, 0, 5, 180, 60, 40], 300, 500);
      for (let i = 0; i < 8; i++) {
        const { x, y } = placeOf(all, [i & 1 ? 180 : -20, i & 2 ? 60 : 0, i & 4 ? 40 : 5], 300, 500);
        assert.ok(x > 0 && x < 300 && y > 0 && y < 500, `${x}, ${y}`);
      }
    }
});

test("a part's block is taken apart: points in their box, corners from differences, smooth lines without strokes", () => {
  // Three points, one triangle, one face; two lines, of which the second is smooth.
  const bytes = new ArrayBuffer(8 + 3 * 8 + 3 * 4 + 3 * 4 + 4 + 2 * 4 + 5 * 8);
  const at = new DataView(bytes);
  let byte = 8;
  const point = (...steps: number[]) => {
    steps.forEach((n, k) => at.setUint16(byte + 2 * k, n, true));
    byte += 8;
  };
  const number = (n: number) => {
    at.setUint32(byte, n, true);
    byte += 4;
  };
  point(0, 0, 0);
  point(65535, 0, 0);
  point(0, 65535, 65535);
  for (let i = 0; i < 3; i++, byte += 4) at.setInt8(byte + 2, 127);
  // 2, 0, 1: differences 2, -2, 1, folded.
  for (const folded of [4, 3, 2]) number(folded);
  number(1);
  number(3 << 1);
  number((2 << 1) | 1);
  for (let i = 0; i < 5; i++) point(i * 1000, 0, 0);
  const block = { at: 8, length: byte - 8, points: 3, triangles: 1, faces: 1, lines: 2, linePoints: 5, isWide: false };
  const part = readPart(bytes, block, [5, 5, 5, 15, 25, 35]);
  assert.deepEqual([...part.points], [0, 0, 0, 10, 0, 0, 0, 20, 30]);
  assert.deepEqual([...part.normals.slice(0, 3)], [0, 0, 127]);
  assert.deepEqual([...part.corners], [2, 0, 1]);
  assert.deepEqual([...part.faceStarts], [0, 1]);
  assert.deepEqual([...part.lineStarts], [0, 2, 2]);
  assert.equal(part.strokes.length, 12);
  near(part.strokes[9]!, (2000 / 65535) * 10, 1e-5);
});

test("a number lies in the last stretch that begins at or before it, and in none that is empty", () => {
  const starts = new Uint32Array([0, 3, 3, 7]);
  assert.deepEqual(
    [0, 2, 3, 6].map((n) => stretchAt(starts, n)),
    [0, 0, 2, 2],
  );
});

const component = (name: string, parent: number, part: number | null, at: number[] | null = null): ComponentFacts => ({
  name,
  number: "",
  instance: "",
  parent,
  at,
  colour: null,
  opacity: null,
  part,
});

test("components stand where their assemblies put them, are found by words, and counted by part", () => {
  const quarter = [0, -1, 0, 10, 1, 0, 0, 0, 0, 0, 1, 0];
  const moved = [1, 0, 0, 5, 0, 1, 0, 0, 0, 0, 1, 0];
  const tree = new SceneTree([
    component("Mount", -1, null, quarter),
    component("Bolt", 0, 0, moved),
    component("Side", 0, null),
    component("Bolt", 2, 0),
  ]);
  assert.deepEqual([tree.placed[1]![3], tree.placed[1]![7]], [10, 5]);
  assert.deepEqual([tree.placed[3]![3], tree.placed[3]![7]], [10, 0]);
  assert.deepEqual(tree.within(0), [0, 1, 2, 3]);
  assert.deepEqual(tree.pathOf(3), [0, 2, 3]);
  assert.deepEqual(tree.found(" bOLT"), [1, 3]);
  assert.deepEqual(tree.found("  "), []);
  assert.equal(tree.quantityOf(0), 2);
  assert.equal(
    new SceneTree([{ ...component("Arm", -1, 0), number: "TO-1", instance: "East" }]).wordsOf(0),
    "TO-1 Arm (East)",
  );
});

test("what is said of a face and an edge is in the model's axes and the trade's words", () => {
  const still = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0];
  const turnedAway = [0, -1, 0, 0, 1, 0, 0, 0, 0, 0, 1, 0];
  const bore: FaceFacts = {
    surface: "cylinder",
    at: { x: 0, y: 0, z: 300 },
    along: { x: 1, y: 0, z: 0 },
    radius: 31,
    minor: 0,
    isHollow: true,
    isRecognised: false,
    area: 7791.15,
    colour: null,
  };
  const said = faceLines(bore, turnedAway, "mm");
  assert.equal(said.title, "Bore");
  assert.deepEqual([lengthWords(-1e-9, "mm"), lengthWords(-0.0006, "")], ["0.000 mm", "-0.001"]);
  assert.deepEqual(said.lines[0], { words: "Diameter", value: "Ø 62.000 mm" });
  assert.deepEqual(said.lines.at(-2), { words: "Axis", value: "along y" });
  assert.equal(faceLines({ ...bore, isHollow: false }, still, "").title, "Cylinder");
  const circle: EdgeFacts = {
    ...{ first: 0, second: 1, isSmooth: false, points: [] },
    curve: "circle",
    at: { x: 1, y: 2, z: 3 },
    along: { x: 0, y: 0, z: 1 },
    radius: 5,
    length: 2 * Math.PI * 5,
    isRecognised: false,
  };
  assert.equal(edgeLines(circle, still, "mm").title, "Circle");
  assert.equal(edgeLines({ ...circle, length: 7 }, still, "mm").title, "Arc");
});

test("what is drawn on a plane is looked at squarely; what lies along one line has no plane", () => {
  const plane = planeOfDrawn({
    lines: [
      [0, 0, 5, 10, 0, 5],
      [10, 0, 5, 10, 4, 5],
    ],
    areas: [],
  })!;
  assert.deepEqual([plane.normal.x, plane.normal.y, Math.abs(plane.normal.z)], [0, 0, 1]);
  assert.deepEqual([plane.at.x, plane.at.y, plane.at.z], [7.5, 1, 5]);
  const upright = planeOfDrawn({ lines: [], areas: [3, 0, 0, 3, 1, 0, 3, 0, 2] })!;
  assert.deepEqual([Math.abs(upright.normal.x), upright.normal.y, upright.normal.z], [1, 0, 0]);
  assert.equal(planeOfDrawn({ lines: [[0, 0, 0, 1, 1, 1, 2, 2, 2]], areas: [] }), null);
  assert.equal(planeOfDrawn({ lines: [[0, 0, 0, 1, 1, 1]], areas: [] }), null);
});
