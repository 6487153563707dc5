import assert from "node:assert/strict";
import { readFileSync } from "node:fs";
import { test } from "node:test";
import type { Leaf, Shape } from "../../web/src/api/types";
import { areaWords, dimensionWords, lengthWords, valueOn } from "../../web/src/viewer/measure";

test("a known length is told in another unit as well, to as many figures", () => {
  assert.equal(lengthWords(1, 25.4, "millimetre", "inch"), "25.4 mm (1 in)");
  assert.equal(lengthWords(100, 1, "millimetre", "inch"), "100 mm (3.937 in)");
  assert.equal(lengthWords(12_345, 1, "millimetre", "metre"), "12345 mm (12.345 m)");
  assert.equal(lengthWords(-10, 1, "millimetre", "foot"), "-10 mm (-0.0328 ft)");
  // What is only known on paper is told once.
  assert.equal(lengthWords(100, null, "millimetre", "inch"), "100 mm on paper");
});

test("a length is told in true millimetres where the scale is known, and as on paper where it is not", () => {
  for (const [length, factor, unit, words] of [
    [125, 20, "millimetre", "2500 mm"],
    [0.1 + 0.2, 1, "millimetre", "0.3 mm"],
    [12.3456, 1, "millimetre", "12.35 mm"],
    [1 / 3, 25.4, "inch", "8.467 mm"],
    [12_345.678, 1, "millimetre", "12346 mm"],
    [125, null, "millimetre", "125 mm on paper"],
    [2.5, null, "inch", "2.5 in on paper"],
    [100, null, "unknown", "100 units"],
  ] as const)
    assert.equal(lengthWords(length, factor, unit), words);
});

test("a kept length is counted anew when the scale is said anew, and says that it was another", () => {
  const kept = { length: 100, factor: 20, wanted: "" };
  assert.equal(dimensionWords(kept, 20, "millimetre"), "2000 mm");
  assert.equal(dimensionWords(kept, 20 * (1 + 1e-12), "millimetre"), "2000 mm");
  assert.equal(dimensionWords(kept, 50, "millimetre"), "5000 mm (was 2000 mm)");
  assert.equal(dimensionWords(kept, null, "millimetre"), "100 mm on paper (was 2000 mm)");
  assert.equal(dimensionWords({ ...kept, factor: null }, 50, "millimetre"), "5000 mm (was 100 mm on paper)");
  assert.equal(dimensionWords({ ...kept, wanted: "1950 ±5" }, 20, "millimetre"), "2000 mm → 1950 ±5: 45 over");
});

test("an area is told in true square millimetres, or metres, or as on paper", () => {
  for (const [size, factor, unit, words] of [
    [12.5, 20, "millimetre", "5000 mm²"],
    [12.345, 1, "millimetre", "12.35 mm²"],
    [5000, 50, "millimetre", "12.5 m²"],
    [12.5, null, "millimetre", "12.5 mm² on paper"],
    [12.5, null, "unknown", "12.5 square units"],
  ] as const)
    assert.equal(areaWords(size, factor, unit), words);
});

test("what is kept of a sheet is told by the scale that holds now; an angle has none", () => {
  const scaled = (millimetres: number | null) =>
    ({
      frame: { kind: "sheet", unit: "millimetre" },
      scales: millimetres === null ? [] : [{ millimetres, area: null, words: "" }],
    }) as unknown as Leaf;
  const square: Shape = {
    ...{ shape: "area", factor: 20, height: 3 },
    points: [
      { x: 0, y: 0 },
      { x: 0, y: 10 },
      { x: 10, y: 10 },
      { x: 10, y: 0 },
    ],
  };
  assert.equal(valueOn(scaled(20))(square), "40000 mm², around 800 mm");
  assert.equal(valueOn(scaled(null))(square), "100 mm² on paper, around 40 mm on paper (was 40000 mm², around 800 mm)");
  const round: Shape = { shape: "radius", from: { x: 0, y: 0 }, to: { x: 3, y: 4 }, factor: 20, height: 3 };
  assert.equal(valueOn(scaled(20))(round), "R 100 mm, Ø 200 mm");
  const legs = { from: { x: 10, y: 0 }, to: { x: -10, y: 17.320508 }, apex: { x: 0, y: 0 } };
  assert.equal(valueOn(scaled(20))({ shape: "angle", ...legs, height: 3 }), "120°");
});

test("what is kept is said as the server says it", () => {
  const file = new URL("../cases/measures.json", import.meta.url);
  type Case = {
    says: string;
    shape: Shape;
    unit: string;
    scales: Leaf["scales"];
    fineness: number | null;
    note: string;
    words: string | null;
  };
  for (const { says, shape, unit, scales, fineness, note, words } of JSON.parse(readFileSync(file, "utf8")) as Case[]) {
    const frame = { kind: "sheet", unit, extents: { minX: 0, minY: 0, maxX: 1, maxY: 1 }, fineness };
    const leaf = { position: 0, name: "Sheet", frame, scales } as unknown as Leaf;
    assert.deepEqual([says, valueOn(leaf)(shape, note)], [says, words]);
  }
});
