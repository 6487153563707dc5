import { distanceOf, placeOf, type Eye, type V3 } from "../../web/src/viewer/camera/eye";
import assert from "node:assert/strict";
import { readFileSync } from "node:fs";
import { test } from "node:test";
import { stepsOf, type Plan } from "../../web/src/api/types";
import { stepsBefore } from "../../web/src/plans/edit";
import { readPreparedSheet, sectionsOf } from "../../web/src/viewer/surface/preparedSheet";

const cases = <T>(name: string) => JSON.parse(readFileSync(new URL(`../cases/${name}`, import.meta.url), "utf8")) as T;

type EyeCase = {
  says: string;
  eye: Eye;
  point: V3;
  x: number;
  y: number;
  nearerThanTarget: number;
};

test("an eye sees a point where the server's pictures have it", () => {
  for (const { says, eye, point, x, y, nearerThanTarget } of cases<EyeCase[]>("eyes.json")) {
    const seen = placeOf(eye, point, 1000, 1000);
    const scale = 1000 / eye.height;
    const found = [(seen.x - 500) / scale, (500 - seen.y) / scale, distanceOf(eye) - seen.depth];
    [x, y, nearerThanTarget].forEach((wanted, k) =>
      assert.ok(Math.abs(found[k]! - wanted) < 1e-9, `${says}: ${found}`),
    );
  }
});

type PlanCase = { says: string; plan: Plan; steps: string[]; surelyBefore: Record<string, string[]> };

for (const one of cases<PlanCase[]>("plans.json"))
  test(`a plan is read as the server reads it: ${one.says}`, () => {
    assert.deepEqual(
      stepsOf(one.plan).map((s) => s.key),
      one.steps,
    );
    for (const [at, before] of Object.entries(one.surelyBefore))
      assert.deepEqual(
        stepsBefore(one.plan, at).map((s) => s.key),
        before,
        at,
      );
  });

const form = (base64: string): ArrayBuffer => {
  const bytes = Buffer.from(base64, "base64");
  return bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength) as ArrayBuffer;
};

test("the very bytes that the server prepares are read", () => {
  const { geometry, details } = cases<{ geometry: string; details: string }>("sheet.json");
  const sheet = readPreparedSheet(form(geometry));
  assert.deepEqual([sheet.name, sheet.unit, sheet.extents], ["Model", "millimetre", [0, 0, 100, 50]]);
  assert.deepEqual(
    sheet.layers.map((l) => [l.name, l.isOn]),
    [
      ["0", true],
      ["Centre", false],
    ],
  );
  // The first stroke is the line from corner to corner, as offsets from the middle.
  assert.deepEqual([...sheet.segments.slice(0, 4)], [-50, -25, 50, 25]);
  assert.equal(sheet.triangles.length, 6);
  assert.equal(sheet.texts[0]![0], "Ø 20");
  assert.equal(sheet.entityStyle.length, 5);
  const section = sectionsOf(form(details));
  assert.equal(section("SNAP").length, sheet.segmentEntity.length);
  // A circle and a dashed line are kept whole; each of five entities has its row.
  assert.equal(section("CURV").length, 2 * 40);
  assert.equal(section("ENTS").length, 5 * 32);
});
