import assert from "node:assert/strict";
import { describe, test } from "node:test";
import { stepsOf, workingDaysOf, type Plan } from "../../web/src/api/types";
import {
  addAfter,
  addBelow,
  cellBeside,
  cells,
  newChoice,
  newStep,
  patterns,
  remove,
  stepsBefore,
} from "../../web/src/plans/edit";

const plan = (): Plan => structuredClone(patterns()[2]!.plan);

describe("changing a plan's tree", () => {
  test("a step goes after, below and away again", () => {
    const start = plan();
    const step = newStep(start);
    const beside = addBelow(start, "step-2", step);
    assert.equal(beside.root.blocks[1]!.block, "parallel");
    assert.deepEqual(cells(beside), ["step-1", "step-2", step.key, "step-3"]);
    const third = newStep(beside);
    assert.deepEqual(cells(addBelow(beside, "step-2", third)), ["step-1", "step-2", third.key, step.key, "step-3"]);
    // A branch left alone is a row again: the plan is as it was.
    assert.deepEqual(remove(beside, step.key), start);
    assert.deepEqual(cells(addAfter(start, "step-1", step)), ["step-1", step.key, "step-2", "step-3"]);
    assert.equal(workingDaysOf(beside), 6);
  });

  test("when a cell goes, one is at the one before it; at the first, at the one after; within what went with it, at neither", () => {
    const start = plan();
    assert.equal(cellBeside(start, "step-3"), "step-2");
    assert.equal(cellBeside(start, "step-1"), "step-2");
    const choice = newChoice(start);
    const chosen = addAfter(start, "step-1", choice);
    assert.equal(cellBeside(chosen, choice.key), "step-1");
    assert.equal(cellBeside(chosen, "step-2"), cells(chosen)[2]);
    const alone = { ...start, root: { blocks: [choice] } };
    assert.equal(cellBeside(alone, choice.key), null);
  });

  test("only steps that are surely passed can be referred to", () => {
    const start = plan();
    const choice = newChoice(start);
    const chosen = addAfter(start, "step-1", choice);
    const inside = stepsOf({ ...start, root: { blocks: [choice] } })[0]!.key;
    assert.deepEqual(
      stepsBefore(chosen, inside).map((s) => s.key),
      ["step-1"],
    );
    assert.deepEqual(
      stepsBefore(chosen, "step-3").map((s) => s.key),
      ["step-1", "step-2"],
    );
  });
});
