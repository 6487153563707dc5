import assert from "node:assert/strict";
import { describe, test } from "node:test";
import { clockOf, minuteOf, timeLeft, when } from "../../web/src/ui/time";
import { isFound } from "../../web/src/lists/listing";
import { blocksOf, stepsOf, workingDaysOf, type Plan } from "../../web/src/api/types";
import { patterns, update, remove } from "../../web/src/plans/edit";

describe("times as people read them", () => {
  test("a clock is read as people write it, and what is none is none", () => {
    for (const [text, minute] of [
      ["7:30", 450],
      ["07.30", 450],
      ["730", 450],
      [" 19 : 05 ", 1145],
      ["8", 480],
      ["24:00", 1440],
      ["24:01", null],
      ["7:60", null],
      ["noon", null],
      ["", null],
    ] as const)
      assert.deepEqual([text, minuteOf(text)], [text, minute]);
    for (let m = 0; m < 1440; m += 7) assert.equal(minuteOf(clockOf(m)), m);
  });

  test("a day of another year is not taken for one of this year", () => {
    const now = new Date(2026, 10, 25, 12);
    for (const [day, words] of [
      [new Date(2026, 10, 25, 8, 5), "today 08:05"],
      [new Date(2026, 10, 24, 23, 59), "yesterday 23:59"],
      [new Date(2026, 10, 13, 9), "Fri 13 Nov"],
      [new Date(2026, 11, 24, 9), "Thu 24 Dec"],
      [new Date(2027, 0, 4, 9), "Mon 4 Jan"],
      [new Date(2025, 10, 13, 9), "13 Nov 2025"],
      [new Date(2026, 1, 3, 9), "3 Feb 2026"],
    ] as const)
      assert.equal(when(day.toISOString(), now), words);
  });

  test("what is over is late, and says by how much; what is due later today is not", () => {
    const due = new Date(2026, 10, 28, 9).toISOString();
    for (const [days, isToday, isLate, words] of [
      [-10, false, true, "10 days over"],
      [-1, false, true, "1 day over"],
      [0, false, true, "was due Sat 28 Nov"],
      [0, true, true, "due today, passed"],
      [0, true, false, "due today"],
      [0, false, false, "due Sat 28 Nov"],
      [1, false, false, "1 day left"],
      [14, false, false, "14 days left"],
    ] as const)
      assert.deepEqual(timeLeft({ days, isToday, isLate }, due), { words, late: isLate });
  });
});

test("a list is found by words in any order, of any part of it", () => {
  for (const [words, found] of [
    ["", true],
    ["  ", true],
    ["quill", true],
    ["CHECK teo", true],
    ["teodor chief", false],
    ["(", false],
  ] as const)
    assert.deepEqual([words, isFound(words, "Teodor Quill", undefined, "Checker")], [words, found]);
});

describe("reading a plan's tree", () => {
  const plan = (n: number): Plan => structuredClone(patterns()[n]!.plan);

  test("every ready pattern has its steps in reading order and a time", () => {
    assert.deepEqual(
      patterns().map((p) => stepsOf(p.plan).length),
      [1, 2, 3, 3, 4, 0],
    );
    assert.deepEqual(
      patterns().map((p) => workingDaysOf(p.plan)),
      [2, 4, 6, 2, 6, 0],
    );
  });

  test("a change touches one cell and leaves the plan before it as it was", () => {
    const before = plan(4);
    const copy = structuredClone(before);
    const after = update(before, "step-3", { workingDays: 9 });
    assert.deepEqual(before, copy);
    assert.deepEqual(
      stepsOf(after).map((s) => s.workingDays),
      [2, 2, 9, 2],
    );
    assert.equal(workingDaysOf(after), 13);
    assert.deepEqual(
      blocksOf(remove(remove(after, "step-2"), "step-3")).filter((b) => b.block === "parallel"),
      [],
    );
  });
});
