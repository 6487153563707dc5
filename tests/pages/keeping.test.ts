import assert from "node:assert/strict";
import { test } from "node:test";
import { Keeping, type Shelf } from "../../web/src/kept/keeping";

/** A browser's storage that holds only so many letters. */
function shelf(most = Infinity): Shelf & { all: Map<string, string> } {
  const all = new Map<string, string>();
  return {
    all,
    get length() {
      return all.size;
    },
    key: (i) => [...all.keys()][i] ?? null,
    getItem: (key) => all.get(key) ?? null,
    setItem: (key, value) => {
      if (value.length > most) throw new Error("QuotaExceededError");
      all.set(key, value);
    },
    removeItem: (key) => void all.delete(key),
  };
}
const DAY = 86_400_000;

test("what is kept is there for the next page, for its thing alone, and goes when it is discarded", () => {
  const store = shelf();
  const words = { body: "The hole must grow", kind: "request" };
  new Keeping(store).set("ada note on 7", words);
  const next = new Keeping(store);
  assert.deepEqual(next.get("ada note on 7"), words);
  assert.equal(next.get("ben note on 7"), undefined);
  assert.equal(next.get("ada note on 8"), undefined);
  next.set("ada note on 7", undefined);
  assert.equal(next.get("ada note on 7"), undefined);
  assert.equal(store.all.size, 0);
});

test("it is the same object until it is another, and whoever listens hears", () => {
  const keeping = new Keeping(shelf());
  let heard = 0;
  const end = keeping.subscribe(() => heard++);
  keeping.set("a", { x: 1 });
  assert.equal(keeping.get("a"), keeping.get("a"));
  keeping.set("a", { x: 2 });
  end();
  keeping.set("a", { x: 3 });
  assert.equal(heard, 2);
  assert.deepEqual(keeping.get("a"), { x: 3 });
});

test("a browser that keeps nothing, or no more, loses nothing while the page is open", () => {
  const none = new Keeping(null);
  none.set("a", "typed");
  assert.equal(none.get("a"), "typed");
  const full = new Keeping(shelf(10));
  full.set("a", "longer than there is room for");
  assert.equal(full.get("a"), "longer than there is room for");
});

test("what nobody came back to for two months goes, what is unreadable is nothing, what is others' stays", () => {
  const store = shelf();
  new Keeping(store, () => 0).set("old", "words");
  new Keeping(store, () => 59 * DAY).set("young", "words");
  store.all.set("somebody else's", "x");
  const now = new Keeping(store, () => 61 * DAY);
  assert.equal(now.get("old"), undefined);
  assert.equal(now.get("young"), "words");
  assert.equal(store.all.get("somebody else's"), "x");
  store.all.set("froe.kept torn", "{");
  assert.equal(new Keeping(store).get("torn"), undefined);
});

test("work that could not be put down is at risk until it can be, is stored, or is cleared; a habit never", () => {
  const store = shelf(60);
  const keeping = new Keeping(store, () => 0);
  keeping.set("note", "short");
  assert.equal(keeping.isAtRisk(), false);
  keeping.set("note", "much longer than this browser has any room for, however one asks it");
  assert.equal(keeping.isAtRisk(), true);
  keeping.set("note", "short again");
  assert.equal(keeping.isAtRisk(), false);
  keeping.set("recent", "much longer than this browser has any room for, however one asks it", "habit");
  assert.equal(keeping.isAtRisk(), false);
  const none = new Keeping(null);
  none.set("note", "a");
  none.set("reply", "b");
  none.set("note", "");
  assert.equal(none.isAtRisk(), true);
  none.set("reply", undefined);
  assert.equal(none.isAtRisk(), false);
});

test("what another page of the browser puts down or takes away is so here; what is only here stays", () => {
  const store = shelf(60);
  const [one, other] = [new Keeping(store, () => 0), new Keeping(store, () => 0)];
  assert.equal(one.get("note"), undefined);
  other.set("note", "from the other");
  let heard = 0;
  one.subscribe(() => heard++);
  one.hear("froe.kept note");
  assert.equal(one.get("note"), "from the other");
  assert.equal(heard, 1);
  one.hear("somebody else's");
  assert.equal(heard, 1);
  other.set("note", undefined);
  one.hear("froe.kept note");
  assert.equal(one.get("note"), undefined);
  const long = "much longer than this browser has any room for, however one asks it";
  one.set("reply", long);
  one.hear(null);
  assert.equal(one.get("reply"), long);
});
