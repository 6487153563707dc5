import assert from "node:assert/strict";
import { readFileSync } from "node:fs";
import { test } from "node:test";
import type { Point, Shape } from "../../web/src/api/types";
import {
  anchorOf,
  detailOf,
  distanceTo,
  handlesOf,
  hasSize,
  labelOf,
  moved,
  outlineOf,
  reachOf,
  reshaped,
  sameShape,
} from "../../web/src/viewer/shapes";
import { simplified } from "../../web/src/viewer/shapes/path";
import { roomOf } from "../../web/src/viewer/shapes/words";
import { arrow, cloud } from "./marks";

type ShapeCase = {
  says: string;
  shape: Shape;
  detail: number;
  lines: number[][];
  fill: string;
  label: Point;
  anchor: Point;
  words: { at: Point; text: string; height: number; endsThere: boolean; room: Record<string, number> } | null;
};
const cases = JSON.parse(readFileSync(new URL("../cases/shapes.json", import.meta.url), "utf8")) as ShapeCase[];
/** So many units are a pixel when the small parts of a shape are to be of a length. */
const unitFor = (shape: Shape, detail: number) => detail / detailOf(shape.shape);
const near = (a: Point, b: Point, within = 1e-6) => Math.hypot(a.x - b.x, a.y - b.y) < within;

for (const one of cases)
  test(`a shape is drawn as the server draws it: ${one.says}`, () => {
    const { lines, fill, words } = outlineOf(one.shape, unitFor(one.shape, one.detail));
    assert.equal(fill, one.fill);
    assert.ok(near(labelOf(one.shape), one.label) && near(anchorOf(one.shape), one.anchor));
    assert.equal(words?.text, one.words?.text);
    if (words && one.words) {
      assert.deepEqual([words.height, words.endsThere], [one.words.height, one.words.endsThere]);
      assert.ok(near(words.at, one.words.at));
      const [from, to] = roomOf(words);
      const { minX, minY, maxX, maxY } = one.words.room as { minX: number; minY: number; maxX: number; maxY: number };
      assert.ok(near(from, { x: minX, y: minY }) && near(to, { x: maxX, y: maxY }));
    }
    assert.deepEqual(
      lines.map((l) => l.length * 2),
      one.lines.map((l) => l.length),
    );
    for (const [i, line] of lines.entries())
      for (const [k, p] of line.entries())
        assert.ok(Math.hypot(p.x - one.lines[i]![2 * k]!, p.y - one.lines[i]![2 * k + 1]!) < 1e-6, `${i}, ${k}`);
  });

test("a handle that is moved lies where it was moved to, and the one across stays", () => {
  for (const shape of [cloud(10), arrow, { ...cloud(0), from: { x: 80, y: -5 } }])
    for (const [i] of handlesOf(shape).entries()) {
      const to = { x: -33, y: 77 };
      const now = handlesOf(reshaped(shape, i, to));
      assert.deepEqual(now[i], to);
      const across = (i + now.length / 2) % now.length;
      assert.deepEqual(now[across], handlesOf(shape)[across]);
    }
});

test("what is moved there and back is where it was; its outline moves along", () => {
  for (const shape of [cloud(10), arrow]) {
    assert.deepEqual(moved(moved(shape, 5, -3), -5, 3), shape);
    const [was, now] = [outlineOf(shape, 1).lines.flat(), outlineOf(moved(shape, 5, -3), 1).lines.flat()];
    for (const [i, p] of was.entries()) assert.ok(Math.hypot(now[i]!.x - p.x - 5, now[i]!.y - p.y + 3) < 1e-9);
  }
});

test("every kind of shape is moved whole, taken hold of where it lies, and reshaped at the handle that is moved", () => {
  for (const { shape, says } of cases) {
    if (shape.shape === "cells") continue;
    const there = moved(shape, 5, -3);
    assert.ok(
      sameShape(moved(there, -5, 3), shape) || near(anchorOf(moved(there, -5, 3)), anchorOf(shape), 1e-9),
      says,
    );
    const [was, now] = [outlineOf(shape, 1), outlineOf(there, 1)];
    for (const [i, line] of was.lines.entries())
      for (const [k, p] of line.entries())
        assert.ok(near(now.lines[i]![k]!, { x: p.x + 5, y: p.y - 3 }), `${says}: ${i}, ${k}`);
    if (was.words && now.words) assert.ok(near(now.words.at, { x: was.words.at.x + 5, y: was.words.at.y - 3 }));
    const some = was.lines[0]?.[1] ?? anchorOf(shape);
    assert.ok(distanceTo(shape, some, 1) < 1e-9, says);
    // What it reaches holds all that is drawn of it, but for the small parts.
    const [from, to] = reachOf(shape);
    for (const p of handlesOf(shape)) assert.ok(p.x >= from.x && p.x <= to.x && p.y >= from.y && p.y <= to.y, says);
    assert.ok(hasSize(shape), says);
    // A dimension's third handle moves its line along, not across; that of words goes to the side.
    const handles = shape.shape === "words" ? [] : shape.shape === "dimension" ? [0, 1] : [...handlesOf(shape).keys()];
    for (const i of handles) {
      const moved = { x: -333, y: 777 };
      assert.deepEqual(handlesOf(reshaped(shape, i, moved))[i], moved, says);
    }
  }
});

test("a kept length's line follows the hand that moves it, and its ends stay", () => {
  const shape: Shape = {
    ...{ shape: "dimension", from: { x: 0, y: 0 }, to: { x: 30, y: 40 } },
    ...{ offset: 10, factor: null, wanted: "", height: 3 },
  };
  for (const to of [
    { x: 100, y: 0 },
    { x: -7, y: 80 },
  ]) {
    const now = reshaped(shape, 2, to);
    assert.deepEqual(handlesOf(now).slice(0, 2), [shape.from, shape.to]);
    // The line goes through the point that the hand is at.
    const line = outlineOf(now, 1).lines[2]!;
    const [a, b] = [line[0]!, line[1]!];
    const across = ((b.x - a.x) * (to.y - a.y) - (b.y - a.y) * (to.x - a.x)) / 50;
    assert.ok(Math.abs(across) < 1e-9);
  }
});

test("a line that a hand drew keeps its ends and its way, with few points", () => {
  const all = Array.from({ length: 4000 }, (_, i) => ({ x: i / 10, y: 30 * Math.sin(i / 200) }));
  const few = simplified(all, 0.5, 1000);
  assert.ok(few.length < 60, `${few.length}`);
  assert.deepEqual([few[0], few.at(-1)], [all[0], all.at(-1)]);
  const line: Shape = { shape: "polyline", points: few };
  for (const p of all) assert.ok(distanceTo(line, p, 1) <= 0.5 + 1e-9);
  // However wildly a hand goes, it is no more than the server takes.
  const wild = Array.from({ length: 9000 }, (_, i) => ({ x: i % 97, y: (i * 31) % 89 }));
  assert.ok(simplified(wild, 0.1, 1000).length <= 1000);
});

/** Random, the same each time. */

test("words are broken where their handle is put, and nowhere else once they have room", () => {
  const words: Shape = { shape: "words", at: { x: 10, y: 50 }, text: "The bore is to be 62 H7", height: 3.5 };
  const linesOf = (shape: Shape) => outlineOf(shape, 1).words!.text.split("\n");
  const narrow = reshaped(words, 0, { x: 10 + 11.5 * 0.78 * 3.5, y: 0 });
  assert.deepEqual(linesOf(narrow), ["The bore is", "to be 62 H7"]);
  assert.deepEqual(linesOf(reshaped(narrow, 0, { x: 500, y: 0 })), ["The bore is to be 62 H7"]);
  assert.ok(Math.abs(handlesOf(narrow)[0]!.x - (10 + 11.5 * 0.78 * 3.5)) < 1e-9);
  // As narrow as may be, there is still something to be read and to be taken hold of.
  assert.ok(linesOf(reshaped(words, 0, { x: -90, y: 0 })).every((l) => l.length <= 2 && l.length > 0));
  assert.ok(hasSize(narrow));
});
