import assert from "node:assert/strict";
import { test } from "node:test";
import type { MarkupChange, Shape } from "../../web/src/api/types";
import { MarkHistory } from "../../web/src/viewer/markup/history";
import { asking, inverse, merged, MarkStore, type Change, type Mark } from "../../web/src/viewer/markup/store";
import { UnsentMarks, type Unsent } from "../../web/src/viewer/markup/unsent";
import { MarkSync, type Answer, type Line } from "../../web/src/viewer/markup/sync";
import { reachOf, sameShape } from "../../web/src/viewer/shapes";
import { arrow, chances, cloud, mark } from "./marks";

/** A server as the real one: versions per overlay, stale ones refused, a repeated key answered as before. */
class Office {
  readonly lies = new Map<string, { shape: Shape; version: number; mayChange: boolean }>();
  private readonly versions = new Map<string, number>();
  private readonly seen = new Map<string, Answer>();
  private version = 0;
  down = 0;
  /** Lines that die after the server has done it. */
  deaf = 0;
  readonly known = () =>
    [...this.lies].map(([id, m]) => ({ ...mark(id, m.shape), version: m.version, mayChange: m.mayChange }));
  alter(id: string, shape: Shape) {
    this.versions.set(id, ++this.version);
    this.lies.set(id, { shape, version: this.version, mayChange: true });
  }
  send(changes: readonly MarkupChange[], key: string): Answer {
    if (this.down > 0) {
      this.down--;
      throw new TypeError("down");
    }
    const again = this.seen.get(key);
    if (again) return again;
    if (changes.some((c) => c.version !== (this.versions.get(c.id) ?? 0))) throw new Error("stale");
    this.version++;
    const answer = { markups: [] as (Mark & { version: number })[], erased: [] as { id: string; version: number }[] };
    for (const c of changes) {
      this.versions.set(c.id, this.version);
      if (c.change === "erase") {
        this.lies.delete(c.id);
        answer.erased.push({ id: c.id, version: this.version });
      } else {
        this.lies.set(c.id, { shape: c.shape, version: this.version, mayChange: true });
        answer.markups.push({ ...mark(c.id, c.shape), version: this.version });
      }
    }
    this.seen.set(key, answer);
    if (this.deaf > 0) {
      this.deaf--;
      throw new TypeError("deaf");
    }
    return answer;
  }
}

function page(office: Office, wait = () => Promise.resolve()) {
  const store = new MarkStore();
  const history = new MarkHistory();
  let keys = 0;
  const states: string[] = [];
  const line: Line = {
    send: async (changes, key) => {
      await Promise.resolve();
      return office.send(changes, key);
    },
    fetch: () => Promise.resolve(office.known()),
    isDown: (e) => e instanceof TypeError,
    newKey: () => `k${keys++}`,
    wait,
  };
  const sync: MarkSync = new MarkSync(
    store,
    line,
    () => states.push(sync.state),
    (ids) => history.forget(ids),
  );
  const act = (changes: readonly Change[], alike = "", at = 0) => {
    history.keep(changes, alike, at);
    sync.push(changes);
  };
  return { store, history, sync, act, states };
}
const draws = (id: string, shape: Shape): Change => ({ id, before: null, after: mark(id, shape) });

test("what is drawn is there at once and reaches the server in order; undone and done again it is the same on both", async () => {
  const office = new Office();
  const { store, history, sync, act } = page(office);
  act([draws("a", cloud(0))]);
  assert.deepEqual(
    store.all().map((m) => m.id),
    ["a"],
  );
  assert.equal(office.lies.size, 0);
  act([{ id: "a", before: store.find("a"), after: mark("a", cloud(7)) }]);
  await sync.settled();
  assert.deepEqual(office.lies.get("a")?.shape, cloud(7));
  sync.push(history.undo());
  await sync.settled();
  assert.deepEqual(office.lies.get("a")?.shape, cloud(0));
  sync.push(history.undo());
  await sync.settled();
  assert.equal(office.lies.size, 0);
  sync.push(history.redo());
  sync.push(history.redo());
  await sync.settled();
  assert.deepEqual(office.lies.get("a")?.shape, cloud(7));
  assert.equal(sync.fault, "");
});

test("a dead line loses nothing and does nothing twice", async () => {
  const office = new Office();
  const { store, sync, act, states } = page(office);
  office.down = 3;
  act([draws("a", cloud(0))]);
  act([draws("b", arrow)]);
  await sync.settled();
  assert.ok(states.includes("offline"));
  assert.equal(sync.state, "saved");
  office.deaf = 2;
  act([{ id: "a", before: store.find("a"), after: null }]);
  await sync.settled();
  assert.deepEqual([...office.lies.keys()], ["b"]);
  assert.equal(sync.fault, "");
  act([draws("a", cloud(3))]);
  await sync.settled();
  assert.deepEqual(office.lies.get("a")?.shape, cloud(3));
});

test("what somebody changed in another window is shown, said, and no more to be undone", async () => {
  const office = new Office();
  const { store, history, sync, act } = page(office);
  act([draws("a", cloud(0))]);
  await sync.settled();
  office.alter("a", cloud(50));
  act([{ id: "a", before: store.find("a"), after: mark("a", cloud(7)) }]);
  act([draws("b", arrow)]);
  await sync.settled();
  assert.equal(sync.fault, "stale");
  assert.deepEqual(store.find("a")?.shape, cloud(50));
  assert.ok(!history.canUndo() || !history.undo().some((c) => c.id === "a"));
  // The next change begins from what is there now.
  act([{ id: "a", before: store.find("a"), after: mark("a", cloud(9)) }]);
  await sync.settled();
  assert.deepEqual([office.lies.get("a")?.shape, sync.fault], [cloud(9), ""]);
});

test("an old answer does not undo a newer one", () => {
  const store = new MarkStore();
  store.hearOf([{ ...mark("a", cloud(2)), version: 2 }], [{ id: "b", version: 3 }]);
  store.hear([
    { ...mark("a", cloud(1)), version: 1 },
    { ...mark("b", arrow), version: 1 },
    { ...mark("c", arrow), version: 4 },
  ]);
  assert.deepEqual(
    store.all().map((m) => [m.id, m.shape]),
    [
      ["a", cloud(2)],
      ["c", arrow],
    ],
  );
  store.hearOf([{ ...mark("c", cloud(3)), version: 3 }], [{ id: "c", version: 2 }]);
  assert.deepEqual(store.find("c")?.shape, arrow);
});

test("a list that was asked for before a markup was answered does not take it away", () => {
  const store = new MarkStore();
  const known = { ...mark("a", cloud(1)), version: 1 };
  store.hear([known]);
  const asked = asking();
  store.hearOf([{ ...mark("b", arrow), version: 2 }], []);
  let drawn = 0;
  store.subscribe(() => drawn++);
  store.hear([known], asked);
  assert.deepEqual([store.all().map((m) => m.id), drawn], [["a", "b"], 0]);
  // A list of afterwards is believed: it was erased on another page.
  store.hear([known], asking());
  assert.deepEqual([store.all().map((m) => m.id), drawn], [["a"], 1]);
});

test("laws: a change and its inverse are nothing, and a page and its server agree however the line behaves", async () => {
  for (let seed = 1; seed <= 300; seed++) {
    const random = chances(seed);
    const chance = (n: number) => Math.floor((random.next().value as number) * n);
    const office = new Office();
    const { store, history, sync, act } = page(office);
    for (let i = 0; i < 30; i++) {
      const id = `m${chance(5)}`;
      const before = store.find(id);
      const shape = cloud(chance(100), chance(100));
      switch (chance(6)) {
        case 0:
          sync.push(history.undo());
          break;
        case 1:
          sync.push(history.redo());
          break;
        case 2:
          if (before) act([{ id, before, after: null }]);
          break;
        case 3:
          office.down = chance(3);
          office.deaf = chance(2);
          break;
        case 4:
          await sync.settled();
          break;
        default:
          act([{ id, before, after: mark(id, shape) }]);
      }
      const [was, changes] = [store.all().map((m) => [m.id, m.shape]), [draws("x", shape)]];
      store.apply(changes);
      const back = inverse(changes);
      store.apply(back);
      assert.deepEqual(
        store.all().map((m) => [m.id, m.shape]),
        was,
      );
      assert.deepEqual(merged([...changes, ...back]), []);
      store.settle([...changes, ...back]);
    }
    await sync.settled();
    assert.equal(sync.fault, "", `seed ${seed}`);
    const sorted = (all: [string, Shape][]) => all.sort(([a], [b]) => (a < b ? -1 : 1));
    assert.deepEqual(
      sorted(store.all().map((m) => [m.id, m.shape])),
      sorted([...office.lies].map(([id, m]) => [id, m.shape])),
      `seed ${seed}`,
    );
    // All of it undone leaves nothing.
    while (history.canUndo()) sync.push(history.undo());
    await sync.settled();
    assert.equal(office.lies.size, 0, `seed ${seed}`);
  }
});

test("what a closed page could not send goes from the next, once", async () => {
  const kept: { value: Unsent | undefined } = { value: undefined };
  const shelf = { get: () => kept.value, set: (value: Unsent | undefined) => (kept.value = value) };
  const office = new Office();
  // Its wait for the line never ends: it is closed meanwhile.
  const first = page(office, () => new Promise<void>(() => {}));
  const shelved = new UnsentMarks(shelf);
  office.down = 1;
  first.sync.push([draws("a", cloud(0)), draws("b", cloud(1))]);
  shelved.keep(first.sync.unsent);
  await new Promise((done) => setTimeout(done));
  assert.deepEqual(Object.keys(kept.value ?? {}), ["a", "b"]);
  // Another begins with what is on the shelf. One of the two had come through after all.
  const second = page(office);
  const taken = new UnsentMarks(shelf);
  office.alter("a", cloud(0));
  second.store.hear(office.known());
  const { send, isOvertaken } = taken.takeUp(second.store.find);
  assert.deepEqual([send.map((c) => c.id), isOvertaken], [["b"], false]);
  second.sync.push(send);
  await second.sync.settled();
  taken.keep(second.sync.unsent);
  assert.deepEqual([...office.lies.keys()].sort(), ["a", "b"]);
  assert.equal(second.sync.fault, "");
  assert.equal(kept.value, undefined);
  assert.deepEqual(taken.takeUp(second.store.find).send, []);

  // The server tells an area's size besides: it is the same area.
  const area: Shape = {
    shape: "area",
    points: [cloud(0), cloud(9), cloud(4, 7)].map((c) => reachOf(c)[0]),
    factor: null,
    height: 3,
  };
  shelf.set({ c: { id: "c", before: null, after: mark("c", area) } });
  office.alter("c", { ...area, size: 31.5 } as Shape);
  second.store.hear(office.known());
  assert.deepEqual(new UnsentMarks(shelf).takeUp(second.store.find), { send: [], isOvertaken: false });

  // What somebody changed elsewhere meanwhile is the later word.
  shelf.set({ a: { id: "a", before: mark("a", cloud(0)), after: mark("a", cloud(5)) } });
  office.alter("a", cloud(9));
  second.store.hear(office.known());
  assert.deepEqual(new UnsentMarks(shelf).takeUp(second.store.find), { send: [], isOvertaken: true });
});

test("what the server says again stays the same to the page", () => {
  const store = new MarkStore();
  const said = () => [
    { ...mark("a", cloud(0)), version: 1 },
    { ...mark("b", arrow), version: 1 },
  ];
  store.hear(said());
  const before = store.all();
  store.hear(said());
  assert.equal(store.all(), before);
  store.hear([said()[0]!, { ...mark("b", cloud(3)), version: 2 }]);
  assert.equal(store.find("a"), before[0]);
  assert.deepEqual(store.find("b")?.shape, cloud(3));
  store.hear([
    { ...said()[0]!, mayChange: false },
    { ...mark("b", cloud(3)), version: 2 },
  ]);
  assert.equal(store.find("a")?.mayChange, false);
  store.hear([{ ...mark("b", cloud(3)), version: 2 }]);
  assert.deepEqual(
    store.all().map((m) => m.id),
    ["b"],
  );
});
