import assert from "node:assert/strict";
import { test } from "node:test";
import { dimensionWords, lengthWords } from "../../web/src/viewer/measure";

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
  assert.equal(dimensionWords({ ...kept, wanted: "1950 ±5" }, 20, "millimetre"), "2000 mm → 1950 ±5");
});
