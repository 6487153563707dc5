import assert from "node:assert/strict";
import { test } from "node:test";
import { lengthOf, scaleAt, scaleWords, type Scale } from "../../web/src/viewer/scale/scale";

const whole: Scale = { millimetres: 1, words: "1:1" };
const part = (words: string, minX: number, maxX: number): Scale => ({
  millimetres: 50,
  words,
  area: { minX, minY: 0, maxX, maxY: 100, width: maxX - minX, height: 100, isEmpty: false } as Scale["area"],
});

test("the scale at a place is that of the smallest part that has it", () => {
  const scales = [part("1:5", 40, 60), part("1:50", 0, 100)];
  assert.equal(scaleAt(scales, { x: 50, y: 50 })?.words, "1:5");
  assert.equal(scaleAt(scales, { x: 10, y: 50 })?.words, "1:50");
  assert.equal(scaleAt(scales, { x: 10, y: 101 }), null);
  assert.equal(scaleAt([whole], { x: -9, y: 1e6 })?.words, "1:1");
  assert.equal(scaleAt([], { x: 0, y: 0 }), null);
});

test("the scales of a sheet are named in few words", () => {
  assert.equal(scaleWords([], "millimetre"), "Scale not known");
  assert.equal(scaleWords([], "unknown"), "Size not known");
  assert.equal(scaleWords([whole], "metre"), "Scale 1:1");
  assert.equal(scaleWords([{ millimetres: 12.5, words: "1 unit = 12.5 mm" }], "unknown"), "1 unit = 12.5 mm");
  assert.equal(
    scaleWords([part("1:5", 40, 60), part("1:50", 0, 100), part("1:50", 0, 200)], "millimetre"),
    "Scale 1:50, 1:5",
  );
  assert.equal(
    scaleWords(
      ["1:1", "1:2", "1:5", "1:10"].map((w) => part(w, 0, 1)),
      "millimetre",
    ),
    "4 scales",
  );
});

test("a length is read with a comma or a point", () => {
  assert.equal(lengthOf("3,25"), 3.25);
  assert.equal(lengthOf(" 12. "), 12);
  assert.equal(lengthOf(".5"), 0.5);
  for (const none of ["", "0", "-1", "1e3", "3 m", "1.2.3", ",", "Infinity"]) assert.equal(lengthOf(none), null, none);
});
