import assert from "node:assert/strict";
import { test } from "node:test";
import type { PlacedPicture, Point } from "../../web/src/api/types";
import { windowPoint } from "../../web/src/viewer/camera/points";
import { matrixOf, outlineOf } from "../../web/src/viewer/placed/placing";

const picture: PlacedPicture = {
  file: "a.png",
  at: { x: 10, y: 20 },
  along: { x: 30, y: 0 },
  up: { x: 0, y: 15 },
  layer: 0,
};
/** Two pixels a unit, the window's upper left corner at 0, 100 of the sheet. */
const place = (p: Point) => windowPoint(2 * p.x, 2 * (100 - p.y));

test("a picture stands upright where it lies, as large as it is", () => {
  const { width, height, matrix } = matrixOf(picture, place);
  assert.deepEqual([width, height], [60, 30]);
  assert.deepEqual(
    matrix.map((n) => n + 0),
    [1, 0, 0, 1, 20, 130],
  );
});

test("a picture that is turned by a quarter to the left runs upwards", () => {
  const turned = { ...picture, along: { x: 0, y: 30 }, up: { x: -15, y: 0 } };
  const { width, height, matrix } = matrixOf(turned, place);
  assert.deepEqual([width, height], [60, 30]);
  // Its rows run up the window, its columns to the right; its upper left corner lies to the left of where it begins.
  assert.deepEqual(
    matrix.map((n) => n + 0),
    [0, -1, 1, 0, -10, 160],
  );
});

test("what is shown of a picture is cut in shares of it", () => {
  assert.equal(outlineOf(picture), undefined);
  const clip = [
    { x: 0, y: 0 },
    { x: 0.5, y: 0 },
    { x: 0.5, y: 1 },
  ];
  assert.equal(outlineOf({ ...picture, clip }), "polygon(0% 0%, 50% 0%, 50% 100%)");
});
