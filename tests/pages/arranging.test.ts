import assert from "node:assert/strict";
import { test } from "node:test";
import type { Point, Shape } from "../../web/src/api/types";
import { withTied } from "../../web/src/viewer/markup/ties";
import { MarkStore } from "../../web/src/viewer/markup/store";
import { reachOf } from "../../web/src/viewer/shapes";
import { turned } from "../../web/src/viewer/shapes/turning";
import { look } from "../../web/src/viewer/tools/look";
import { chances, cloud, mark } from "./marks";

const near = (a: Point, b: Point) => Math.hypot(a.x - b.x, a.y - b.y) < 1e-9;

test("what lies along the sheet is turned by a quarter, what goes through points by a twelfth of half a circle", () => {
  const box: Shape = { shape: "box", from: { x: 0, y: 0 }, to: { x: 4, y: 2 } };
  const now = turned(box, "left")!;
  assert.deepEqual(reachOf(now), [
    { x: 1, y: -1 },
    { x: 3, y: 3 },
  ]);
  const line: Shape = { shape: "line", from: { x: -1, y: 0 }, to: { x: 1, y: 0 } };
  const to = (turned(line, "left") as typeof line).to;
  assert.ok(near(to, { x: Math.cos(Math.PI / 12), y: Math.sin(Math.PI / 12) }));
  assert.equal(turned({ shape: "words", at: { x: 0, y: 0 }, text: "Why?", height: 1 }, "left"), null);
  assert.equal(turned({ shape: "count", at: { x: 0, y: 0 }, number: 1, height: 1 }, "left"), null);
});

test("laws: turned there and back it is as it was; all round, too, and its length stays", () => {
  for (let seed = 1; seed <= 200; seed++) {
    const random = chances(seed);
    const next = () => (random.next().value as number) * 1000 - 500;
    const points = Array.from({ length: 6 }, () => ({ x: next(), y: next() }));
    const length = (p: readonly Point[]) =>
      p.slice(1).reduce((sum, b, i) => sum + Math.hypot(b.x - p[i]!.x, b.y - p[i]!.y), 0);
    const [from, to] = points as [Point, Point];
    const shapes: Shape[] = [
      { shape: "arrow", from, to },
      { shape: "cloud", from, to },
    ];
    for (const shape of shapes) {
      const back = turned(turned(shape, "left")!, "right")! as typeof shape & { from: Point; to: Point };
      // Of a rectangle either two opposite corners say the same.
      const [a, b] = [reachOf(back), reachOf(shape)];
      assert.ok(
        a.every((p, i) => Math.hypot(p.x - b[i]!.x, p.y - b[i]!.y) < 1e-6),
        `seed ${seed} ${shape.shape}`,
      );
    }
    const line: Shape = { shape: "line", from, to };
    let all: Shape = line;
    for (let i = 0; i < 24; i++) all = turned(all, "right")!;
    assert.ok(Math.hypot((all as typeof line).from.x - from.x, (all as typeof line).from.y - from.y) < 1e-6);
    const path = turned({ shape: "polyline", points }, "left")!;
    assert.ok(Math.abs(length((path as { points: Point[] }).points) - length(points)) < 1e-6);
    const again = turned(path, "right") as { points: Point[] };
    assert.ok(again.points.every((p, i) => Math.hypot(p.x - points[i]!.x, p.y - points[i]!.y) < 1e-6));
  }
});

test("one that is tied to others brings them, and is moved with them", () => {
  const marks = [mark("a", cloud(0), { tie: "g" }), mark("b", cloud(300), { tie: "g" }), mark("c", cloud(600))];
  assert.deepEqual(withTied(["a"], marks), ["a", "b"]);
  assert.deepEqual(withTied(["c"], marks), ["c"]);
  const seen = { marks, picked: null };
  const pressed = look(null, { does: "press", at: { x: 0, y: 25 }, unit: 1 }, seen);
  assert.equal(pressed.picks, "a");
  const moved = look(pressed.state, { does: "release", at: { x: 50, y: 25 }, unit: 1 }, seen);
  assert.deepEqual(
    moved.changed?.map((m) => m.id),
    ["a", "b"],
  );
});

test("what was put above the others lies there, whenever it was drawn", () => {
  const store = new MarkStore();
  store.hear([
    { ...mark("a", cloud(0), { rank: 1 }), version: 1 },
    { ...mark("b", cloud(1)), version: 2 },
    { ...mark("c", cloud(2), { rank: -1 }), version: 3 },
  ]);
  assert.deepEqual(
    store.all().map((m) => m.id),
    ["c", "b", "a"],
  );
});
