import assert from "node:assert/strict";
import { afterEach, beforeEach, mock, test } from "node:test";
import type { Plan } from "../../web/src/api/types";
import { PlanSaving, type Left } from "../../web/src/plans/saving";

beforeEach(() => mock.timers.enable({ apis: ["setTimeout"] }));
afterEach(() => mock.timers.reset());

const plan = (name: string) => ({ name }) as Plan;
const settle = () => new Promise((done) => setImmediate(done));

/** A server that stores plans by version, answers when it is let, and may be dead. */
function office(before?: Left) {
  const stored = { version: 1, isDraft: false, plan: plan("first") };
  const puts: string[] = [];
  const told: string[] = [];
  let left: Left | undefined;
  let gate: Promise<void> = Promise.resolve();
  let isDead: boolean | "after" = false;
  const saving = new PlanSaving(
    {
      put: async (version, now) => {
        puts.push(now.name);
        assert.deepEqual([left?.version, left?.sent], [version, now], "kept before it is sent: the page may go now");
        await gate;
        if (isDead === true) throw new Error("The server cannot be reached.");
        if (version !== stored.version && now.name !== stored.plan.name) throw new Error("changed by another");
        if (version === stored.version) {
          stored.version++;
          Object.assign(stored, { isDraft: true, plan: now });
        }
        if (isDead) throw new Error("The server cannot be reached.");
        return { ...stored };
      },
      get: () => Promise.resolve({ ...stored }),
      isClash: (e) => (e as Error).message === "changed by another",
      isLost: (e) => (e as Error).message === "The server cannot be reached.",
      keep: (now) => void (left = now),
    },
    { ...stored },
    () => told.push(saving.state),
    before,
  );
  return {
    saving,
    stored,
    puts,
    told,
    left: () => left,
    /** The line dies before what is sent arrives, or after, with its answer. */
    die: (on: boolean | "after") => void (isDead = on),
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

test("what was saved and not answered is no change of somebody else's, also when more was changed since", async () => {
  const o = office();
  o.die("after");
  o.saving.change(plan("a"));
  await o.rest();
  assert.equal(o.saving.state, "failed");
  assert.equal(o.stored.plan.name, "a");
  o.saving.change(plan("b"));
  o.die(false);
  await o.rest();
  assert.deepEqual(o.puts, ["a", "a", "b"]);
  assert.deepEqual([o.saving.state, o.stored.plan.name], ["saved", "b"]);
  // Where it had not arrived, the same; what was refused is not sent again.
  o.die(true);
  o.saving.change(plan("c"));
  await o.rest();
  o.die(false);
  o.stored.version++;
  o.stored.plan = plan("theirs");
  o.saving.change(plan("d"));
  await o.rest();
  assert.equal(o.saving.state, "clash");
  assert.equal(await o.saving.keepMine(), true);
  assert.deepEqual(o.puts.slice(3), ["c", "c", "d"]);
});

test("a page that is opened again after a save without an answer takes it for no change of somebody else's", async () => {
  for (const hasArrived of [true, false]) {
    const first = office();
    first.die(hasArrived ? "after" : true);
    first.saving.change(plan("a"));
    await first.rest();
    first.saving.change(plan("b"));
    // The next page finds what the server has by then.
    assert.equal(first.left()?.sent?.name, "a");
    const next = office({ ...first.saving.left, plan: plan("b") });
    Object.assign(next.stored, first.stored);
    next.saving.change(plan("b"));
    await next.rest();
    assert.deepEqual([next.puts, next.saving.state, next.stored.plan.name], [["a", "b"], "saved", "b"]);
    assert.equal(next.saving.left.sent, null);
  }
});

test("a page that goes while its last change is sent after one without an answer leaves nobody else's change behind", async () => {
  const first = office();
  first.die("after");
  first.saving.change(plan("a"));
  await first.rest();
  first.die(false);
  first.saving.change(plan("b"));
  await first.saving.save();
  // Both arrived; the page was gone before it could say so.
  const left = first.left()!;
  assert.deepEqual([left.sent?.name, first.stored.plan.name], ["b", "b"]);
  const next = office(JSON.parse(JSON.stringify(left)) as Left);
  Object.assign(next.stored, first.stored);
  next.saving.change(plan("b"));
  await next.rest();
  assert.deepEqual([next.saving.state, next.stored.plan.name], ["saved", "b"]);
});

test("undone after it was sent without an answer, it is undone at the server too", async () => {
  for (const hasArrived of [true, false]) {
    const o = office();
    const was = o.stored.plan;
    o.die(hasArrived ? "after" : true);
    o.saving.change(plan("a"));
    await o.rest();
    o.saving.change(was);
    assert.equal(o.saving.isSettled, false);
    o.die(false);
    await o.rest();
    assert.deepEqual([o.saving.state, o.saving.isSettled, o.stored.plan.name], ["saved", true, "first"]);
  }
});

test("what the server refused is not sent first by the next page", async () => {
  const o = office();
  Object.assign(o.stored, { version: 5, plan: plan("theirs") });
  o.saving.change(plan("mine"));
  await o.rest();
  assert.deepEqual([o.saving.state, o.left()?.sent], ["clash", null]);
});
