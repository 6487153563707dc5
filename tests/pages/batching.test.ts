import assert from "node:assert/strict";
import { test } from "node:test";
import type { Shape } from "../../web/src/api/types";
import { batched } from "../../web/src/bench/batching";
import { usualLook, type Lying } from "../../web/src/bench/lying";

const at = { x: 0, y: 0 };
const shapes: Shape[] = [
  { shape: "box", from: at, to: { x: 1, y: 2 } },
  { shape: "line", from: at, to: { x: 1, y: 2 } },
  { shape: "words", at, text: "Why?", height: 3 },
  { shape: "dimension", from: at, to: { x: 5, y: 0 }, offset: 1, factor: 1, wanted: "", height: 3 },
];
const marks = (count: number): Lying[] =>
  Array.from({ length: count }, (_, i) => ({
    ...{
      id: `m${i}`,
      shape: shapes[i % shapes.length]!,
      note: null,
      mayChange: true,
      from: i % 8 === 0 ? { draft: "d", leaf: 0 } : null,
    },
    ...{ tie: null, look: usualLook },
  }));
const parted = (all: Lying[], picked: string[] = []) =>
  batched(
    all,
    (m) => picked.includes(m.id),
    () => "plain",
    (shape) => (shape.shape === "dimension" ? "5 mm" : null),
  );

test("few markups are drawn one by one", () => {
  const all = marks(40);
  assert.deepEqual(parted(all), { apart: all, together: [] });
});

test("of many, those that look alike are drawn as one; what says something, or is picked, stands by itself", () => {
  const all = marks(2000);
  const { apart, together } = parted(all, ["m1"]);
  const drawn = together.reduce((sum, t) => sum + t.shapes.length, 0);
  assert.equal(apart.length + drawn, all.length);
  // Words and dimensions are half of them; boxes are tinted or dashed, lines are neither tinted nor carried.
  assert.equal(apart.length, 1001);
  assert.ok(apart.some((m) => m.id === "m1"));
  assert.ok(together.length <= 3, `${together.length}`);
  assert.equal(new Set(together.map((t) => t.key)).size, together.length);
});

test("what another pen draws is not drawn with the rest", () => {
  const bold = { ...usualLook, width: "bold" as const };
  const all = marks(2000).map((m, i) => (i % 40 < 20 ? m : { ...m, look: bold }));
  const { together } = parted(all);
  assert.ok(together.some((t) => t.pen.width === "bold") && together.some((t) => t.pen.width === "medium"));
  assert.ok(together.every((t) => all.some((m) => m.look.width === t.pen.width && m.shape === t.shapes[0])));
});
