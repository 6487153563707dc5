import assert from "node:assert/strict";
import { describe, test } from "node:test";
import { blocksOf, lanesOf, stepsOf, workingDaysOf, type Block, type Choice, type Plan } from "../../web/src/api/types";
import {
  addAfter,
  addBelow,
  addToWay,
  addWay,
  cells,
  newChoice,
  newStep,
  patterns,
  remove,
  stepsBefore,
} from "../../web/src/plans/edit";
import { offsetPoint, windowPoint } from "../../web/src/viewer/camera/points";
import { fit, toOffset, toWindow, zoomAt } from "../../web/src/viewer/camera/view";

/** Numbers from 0 to 1 that come out the same in every run (Lehmer, 48271 modulo 2^31 - 1). */
function numbers(seed: number): () => number {
  let now = seed;
  return () => (now = (now * 48271) % 2147483647) / 2147483647;
}

/** Whoever edits a plan presses these keys in any order. */
function pressed(plan: Plan, next: () => number): Plan {
  const all = cells(plan);
  const one = all[Math.floor(next() * all.length)] ?? null;
  const choices = blocksOf(plan).filter((b): b is Choice => b.block === "choice");
  const choice = choices[Math.floor(next() * choices.length)];
  switch (Math.floor(next() * 7)) {
    case 0:
      return addAfter(plan, one, newStep(plan));
    case 1:
      return one ? addBelow(plan, one, newStep(plan)) : plan;
    case 2:
      return addAfter(plan, one, newChoice(plan));
    case 3:
      return choice ? addWay(plan, choice) : plan;
    case 4:
      return choice
        ? addToWay(plan, choice.key, choice.ways[Math.floor(next() * choice.ways.length)]!.key, newStep(plan))
        : plan;
    default:
      return one && all.length > 3 ? remove(plan, one) : plan;
  }
}

/** Every way through a plan, as the steps it passes: parallel branches are all passed, of a choice one way is. */
function waysThrough(row: readonly Block[]): string[][] {
  return row.reduce<string[][]>(
    (ways, b) => {
      const on: string[][] =
        b.block === "step"
          ? [[b.key]]
          : b.block === "choice"
            ? b.ways.flatMap((w) => waysThrough(w.blocks.blocks))
            : lanesOf(b).reduce<string[][]>(
                (sides, lane) => sides.flatMap((s) => waysThrough(lane.blocks).map((w) => [...s, ...w])),
                [[]],
              );
      return ways.flatMap((w) => on.map((o) => [...w, ...o]));
    },
    [[]],
  );
}

const longest = (row: readonly Block[]): number =>
  row.reduce(
    (n, b) => n + (b.block === "step" ? b.workingDays : Math.max(0, ...lanesOf(b).map((x) => longest(x.blocks)))),
    0,
  );

/** What is wrong with a plan's tree; nothing when it is sound. */
function faultsOf(plan: Plan): string[] {
  const blocks = blocksOf(plan);
  const keys = blocks.flatMap((b) =>
    b.block === "step"
      ? [b.key, ...b.seats.map((s) => s.key)]
      : b.block === "choice"
        ? [b.key, ...b.ways.map((w) => w.key)]
        : [],
  );
  return [
    ...(new Set(keys).size === keys.length ? [] : ["a key stands twice"]),
    ...(workingDaysOf(plan) === longest(plan.root.blocks) ? [] : ["working days do not add up"]),
    ...blocks.flatMap((b) =>
      b.block === "parallel"
        ? b.branches.length > 1 && b.branches.every((x) => x.blocks.length > 0)
          ? []
          : ["a branch alone or empty"]
        : b.block === "choice"
          ? b.ways.map((w) => w.rule === null).indexOf(true) === b.ways.length - 1
            ? []
            : ["no otherwise-way at the end"]
          : [],
    ),
  ];
}

test("whatever is pressed in whatever order, a plan's tree stays sound", () => {
  const faults: string[] = [];
  for (let seed = 1; seed <= 300; seed++) {
    const next = numbers(seed * 7919);
    let plan: Plan = structuredClone(patterns()[seed % patterns().length]!.plan);
    for (let press = 0; press < 14; press++) {
      const [kept, before] = [plan, JSON.stringify(plan)];
      plan = pressed(plan, next);
      // The plan before is the step back of undo: nothing touches it.
      if (JSON.stringify(kept) !== before) faults.push(`seed ${seed}: undo was touched`);
      faults.push(...faultsOf(plan).map((f) => `seed ${seed}, press ${press}: ${f}`));
    }
  }
  assert.deepEqual(faults, []);
});

test("a step may refer to those that every way to it has passed, and to no other", () => {
  const faults: string[] = [];
  let referred = 0;
  for (let seed = 1; seed <= 300; seed++) {
    const next = numbers(seed * 104729);
    let plan: Plan = structuredClone(patterns()[4]!.plan);
    for (let press = 0; press < 8; press++) plan = pressed(plan, next);
    const ways = waysThrough(plan.root.blocks);
    for (const step of stepsOf(plan)) {
      const before = stepsBefore(plan, step.key).map((s) => s.key);
      const through = ways.filter((w) => w.includes(step.key));
      referred += before.length;
      for (const key of before)
        if (key === step.key || !through.every((w) => w.includes(key)))
          faults.push(`seed ${seed}: ${step.key}, ${key}`);
      // What stands earlier in the same row, outside every choice, is always among them.
      const row = plan.root.blocks;
      const at = row.findIndex((b) => b.block === "step" && b.key === step.key);
      for (const b of row.slice(0, Math.max(at, 0)))
        if (b.block === "step" && !before.includes(b.key)) faults.push(`seed ${seed}: ${step.key} misses ${b.key}`);
    }
  }
  assert.deepEqual(faults, []);
  assert.ok(referred > 1000);
});

describe("where the eye is", () => {
  const near = (a: number, b: number, by = 1e-6) => Math.abs(a - b) <= by * Math.max(1, Math.abs(a), Math.abs(b));

  test("window and sheet lead to each other, and zooming holds the point under the hand", () => {
    const next = numbers(4711);
    let lost = 0;
    for (let i = 0; i < 2000; i++) {
      const [width, height] = [300 + next() * 1500, 200 + next() * 1000];
      const view = { x: (next() - 0.5) * 1e5, y: (next() - 0.5) * 1e5, scale: 10 ** (next() * 6 - 4) };
      const [px, py] = [next() * width, next() * height];
      const spot = windowPoint(px, py);
      const there = toOffset(view, spot, { width, height });
      const back = toWindow(view, there, { width, height });
      if (!near(back.x, px, 1e-5) || !near(back.y, py, 1e-5)) lost++;
      const zoomed = zoomAt(view, 10 ** (next() * 2 - 1), spot, { width, height });
      const held = toOffset(zoomed, spot, { width, height });
      if (!near(held.x, there.x) || !near(held.y, there.y)) lost++;
    }
    assert.equal(lost, 0);
  });

  test("a sheet that is fitted lies whole in the window, clear of the tools", () => {
    const next = numbers(31337);
    const wrong: string[] = [];
    for (let i = 0; i < 500; i++) {
      const [width, height] = [400 + next() * 1500, 200 + next() * 1000];
      const [left, bottom] = [(next() - 0.5) * 1e4, (next() - 0.5) * 1e4];
      const box = { left, bottom, right: left + 10 ** (next() * 5), top: bottom + 10 ** (next() * 5) };
      const view = fit(box, width, height);
      const [low, high] = [
        toWindow(view, offsetPoint(box.left, box.bottom), { width, height }),
        toWindow(view, offsetPoint(box.right, box.top), { width, height }),
      ];
      const inside = low.x >= 52 && high.x <= width && high.y >= 0 && low.y <= height;
      // As large as it can be: it touches one pair of margins.
      const large = near(high.x - low.x, width - 52 - 32, 1e-3) || near(low.y - high.y, height - 32, 1e-3);
      if (!inside || !large) wrong.push(JSON.stringify({ box, width, height }));
    }
    assert.deepEqual(wrong, []);
  });

  test("a sheet of no size is shown, not lost", () => {
    const view = fit({ left: 5, bottom: 5, right: 5, top: 5 }, 1000, 700);
    assert.equal([view.x, view.y, view.scale].every(Number.isFinite), true);
  });
});
