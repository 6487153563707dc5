import assert from "node:assert/strict";
import { afterEach, beforeEach, mock, test } from "node:test";
import type { Plan } from "../../web/src/api/types";
import { PlanSaving } from "../../web/src/plans/saving";

beforeEach(() => mock.timers.enable({ apis: ["setTimeout"] }));
afterEach(() => mock.timers.reset());

const plan = (name: string) => ({ name }) as Plan;
const settle = () => new Promise((done) => setImmediate(done));

/** A server that stores plans by version, answers when it is let, and may be dead. */
function office() {
  const stored = { version: 1, isDraft: false, plan: plan("first") };
  const puts: string[] = [];
  const told: string[] = [];
  let gate: Promise<void> = Promise.resolve();
  let isDead = false;
  const saving = new PlanSaving(
    {
      put: async (version, now) => {
        puts.push(now.name);
        await gate;
        if (isDead) throw new Error("The server cannot be reached.");
        if (version !== stored.version) throw new Error("changed by another");
        stored.version++;
        Object.assign(stored, { isDraft: true, plan: now });
        return { ...stored };
      },
      get: () => Promise.resolve({ ...stored }),
      isClash: (e) => (e as Error).message === "changed by another",
    },
    { ...stored },
    () => told.push(saving.state),
  );
  return {
    saving,
    stored,
    puts,
    told,
    die: (on: boolean) => void (isDead = on),
    hold: () => {
      let open: () => void;
      gate = new Promise((done) => (open = done));
      return () => open();
    },
    rest: async () => {
      mock.timers.tick(700);
      await settle();
    },
  };
}

test("changes are saved a moment after the last; it says saved when the last is", async () => {
  const o = office();
  for (const name of ["a", "b", "c"]) o.saving.change(plan(name));
  assert.equal(o.saving.state, "waiting");
  await o.rest();
  assert.deepEqual(o.puts, ["c"]);
  assert.deepEqual([o.saving.state, o.saving.isSettled, o.stored.plan.name], ["saved", true, "c"]);
});

test("saves are a queue: what is changed while one is under way goes after it, and only then it is saved", async () => {
  const o = office();
  const letGo = o.hold();
  o.saving.change(plan("a"));
  await o.rest();
  o.saving.change(plan("b"));
  o.saving.change(plan("c"));
  assert.equal(o.saving.state, "saving");
  letGo();
  await settle();
  await settle();
  assert.deepEqual(o.puts, ["a", "c"]);
  assert.equal(o.told.filter((s) => s === "saved").length, 1);
  assert.equal(o.stored.plan.name, "c");
});

test("a save that failed says so, is not tried by itself, and can be tried again", async () => {
  const o = office();
  o.die(true);
  o.saving.change(plan("a"));
  await o.rest();
  assert.deepEqual([o.saving.state, o.saving.fault], ["failed", "The server cannot be reached."]);
  await o.rest();
  assert.equal(o.puts.length, 1);
  o.die(false);
  assert.equal(await o.saving.save(), true);
  assert.deepEqual([o.saving.state, o.saving.fault, o.stored.plan.name], ["saved", null, "a"]);
});

test("leaving a moment after a change saves it; with nothing to save, nothing is sent", async () => {
  const o = office();
  assert.equal(await o.saving.save(), true);
  o.saving.change(plan("a"));
  assert.equal(await o.saving.save(), true);
  await o.rest();
  assert.deepEqual(o.puts, ["a"]);
});

test("undone before it was sent, there is nothing to save", async () => {
  const o = office();
  const first = o.stored.plan;
  o.saving.change(plan("a"));
  o.saving.change(first);
  await o.rest();
  assert.deepEqual(o.puts, []);
  assert.equal(o.saving.state, "saved");
});

test("what somebody else saved is not written over unasked: theirs is taken, or mine kept over it", async () => {
  for (const mine of [true, false]) {
    const o = office();
    Object.assign(o.stored, { version: 5, plan: plan("theirs") });
    o.saving.change(plan("mine"));
    await o.rest();
    assert.equal(o.saving.state, "clash");
    o.saving.change(plan("mine, more"));
    await o.rest();
    assert.equal(o.puts.length, 1, "nothing is sent until one is chosen");
    if (mine) await o.saving.keepMine();
    else assert.equal((await o.saving.takeTheirs()).name, "theirs");
    assert.equal(o.stored.plan.name, mine ? "mine, more" : "theirs");
    assert.ok(o.saving.isSettled);
  }
});
