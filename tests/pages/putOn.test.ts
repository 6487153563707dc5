import assert from "node:assert/strict";
import { test } from "node:test";
import { isSame, putOn, putWhole } from "../../web/src/kept/putOn";

test("what one person left alone is as the other made it", () => {
  const was = { name: "Pier", title: "Checker", calendar: null as string | null };
  const theirs = { ...was, name: "Pier Holt" };
  const now = { ...was, title: "Lead", calendar: "site" };
  assert.deepEqual(putOn(was, theirs, now), { name: "Pier Holt", title: "Lead", calendar: "site" });
});

test("of a list, what was taken out is gone, what was added is there, and what the other did stays done", () => {
  assert.deepEqual(putOn(["a", "b", "c"], ["a", "c", "d"], ["b", "c", "e"]), ["c", "e", "d"]);
  const rights = (...all: string[]) => all.map((right) => ({ right, folder: "" }));
  assert.deepEqual(putOn(rights("read", "send"), rights("send", "sign"), rights("read", "send", "upload")), [
    ...rights("send", "upload"),
    ...rights("sign"),
  ]);
});

test("what both changed is as whoever puts theirs on top made it; what nobody changed is as it was", () => {
  assert.equal(putOn("a", "b", "c"), "b");
  assert.equal(putOn("a", "a", "c"), "c");
  const same = { x: [1, { y: "z" }] };
  assert.equal(putOn(same, structuredClone(same), same), same);
});

test("what only makes sense whole is theirs where they changed it, and is never mixed", () => {
  const [was, theirs, now] = [[{ to: 720 }], [{ to: 690 }], [{ to: 705 }]];
  assert.equal(putWhole(was, theirs, now), theirs);
  assert.equal(putWhole(was, structuredClone(was), now), now);
  // As a list both hours would stand there.
  assert.deepEqual(putOn(was, theirs, now), [{ to: 705 }, { to: 690 }]);
});

test("putting on nothing, and putting on what is there already, change nothing", () => {
  let seed = 7;
  const some = (n: number) => (seed = (seed * 1103515245 + 12345) % 2147483648) % n;
  const list = () =>
    Array.from({ length: some(5) }, () => "abcdef"[some(6)]!).filter((x, i, all) => all.indexOf(x) === i);
  const part = () => ({
    list: list(),
    word: "xyz"[some(3)]!,
    inner: { flag: some(2) === 0, days: { 0: list(), 1: list() } },
  });
  for (let i = 0; i < 500; i++) {
    const [was, theirs, now] = [part(), part(), part()];
    assert.ok(isSame(putOn(was, was, now), now));
    assert.ok(isSame(putOn(was, theirs, was), theirs));
    const once = putOn(was, theirs, now);
    // Kept, it is what is now: the same change put on it again adds nothing, and takes nothing out.
    assert.deepEqual(new Set(putOn(was, theirs, once).list), new Set(once.list));
    assert.equal(putOn(was, theirs, once).word, once.word);
  }
});
