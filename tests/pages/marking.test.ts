import assert from "node:assert/strict";
import { readFileSync } from "node:fs";
import { test } from "node:test";
import type { MarkupChange, Point, Shape } from "../../web/src/api/types";
import { MarkHistory } from "../../web/src/viewer/markup/history";
import { inverse, merged, MarkStore, type Change, type Mark } from "../../web/src/viewer/markup/store";
import { UnsentMarks, type Unsent } from "../../web/src/viewer/markup/unsent";
import { MarkSync, type Answer, type Line } from "../../web/src/viewer/markup/sync";
import {
  anchorOf,
  detailOf,
  distanceTo,
  handlesOf,
  hasSize,
  labelOf,
  moved,
  outlineOf,
  reachOf,
  reshaped,
  sameShape,
} from "../../web/src/viewer/shapes";
import { simplified } from "../../web/src/viewer/shapes/path";
import { roomOf } from "../../web/src/viewer/shapes/words";

type ShapeCase = {
  says: string;
  shape: Shape;
  detail: number;
  lines: number[][];
  fill: string;
  label: Point;
  anchor: Point;
  words: { at: Point; text: string; height: number; endsThere: boolean; room: Record<string, number> } | null;
};
const cases = JSON.parse(readFileSync(new URL("../cases/shapes.json", import.meta.url), "utf8")) as ShapeCase[];
/** So many units are a pixel when the small parts of a shape are to be of a length. */
const unitFor = (shape: Shape, detail: number) => detail / detailOf(shape.shape);
const near = (a: Point, b: Point, within = 1e-6) => Math.hypot(a.x - b.x, a.y - b.y) < within;

for (const one of cases)
  test(`a shape is drawn as the server draws it: ${one.says}`, () => {
    const { lines, fill, words } = outlineOf(one.shape, unitFor(one.shape, one.detail));
    assert.equal(fill, one.fill);
    assert.ok(near(labelOf(one.shape), one.label) && near(anchorOf(one.shape), one.anchor));
    assert.equal(words?.text, one.words?.text);
    if (words && one.words) {
      assert.deepEqual([words.height, words.endsThere], [one.words.height, one.words.endsThere]);
      assert.ok(near(words.at, one.words.at));
      const [from, to] = roomOf(words);
      const { minX, minY, maxX, maxY } = one.words.room as { minX: number; minY: number; maxX: number; maxY: number };
      assert.ok(near(from, { x: minX, y: minY }) && near(to, { x: maxX, y: maxY }));
    }
    assert.deepEqual(
      lines.map((l) => l.length * 2),
      one.lines.map((l) => l.length),
    );
    for (const [i, line] of lines.entries())
      for (const [k, p] of line.entries())
        assert.ok(Math.hypot(p.x - one.lines[i]![2 * k]!, p.y - one.lines[i]![2 * k + 1]!) < 1e-6, `${i}, ${k}`);
  });

const cloud = (x: number, y = 0): Shape => ({ shape: "cloud", from: { x, y }, to: { x: x + 100, y: y + 50 } });
const arrow: Shape = { shape: "arrow", from: { x: 0, y: 0 }, to: { x: 100, y: 0 } };
const mark = (id: string, shape: Shape, more: Partial<Mark> = {}): Mark => ({
  id,
  overlay: "o",
  leaf: 0,
  shape,
  note: null,
  zone: null,
  mayChange: true,
  ...more,
});

test("a handle that is moved lies where it was moved to, and the one across stays", () => {
  for (const shape of [cloud(10), arrow, { ...cloud(0), from: { x: 80, y: -5 } }])
    for (const [i] of handlesOf(shape).entries()) {
      const to = { x: -33, y: 77 };
      const now = handlesOf(reshaped(shape, i, to));
      assert.deepEqual(now[i], to);
      const across = (i + now.length / 2) % now.length;
      assert.deepEqual(now[across], handlesOf(shape)[across]);
    }
});

test("what is moved there and back is where it was; its outline moves along", () => {
  for (const shape of [cloud(10), arrow]) {
    assert.deepEqual(moved(moved(shape, 5, -3), -5, 3), shape);
    const [was, now] = [outlineOf(shape, 1).lines.flat(), outlineOf(moved(shape, 5, -3), 1).lines.flat()];
    for (const [i, p] of was.entries()) assert.ok(Math.hypot(now[i]!.x - p.x - 5, now[i]!.y - p.y + 3) < 1e-9);
  }
});

test("every kind of shape is moved whole, taken hold of where it lies, and reshaped at the handle that is moved", () => {
  for (const { shape, says } of cases) {
    if (shape.shape === "cells") continue;
    const there = moved(shape, 5, -3);
    assert.ok(
      sameShape(moved(there, -5, 3), shape) || near(anchorOf(moved(there, -5, 3)), anchorOf(shape), 1e-9),
      says,
    );
    const [was, now] = [outlineOf(shape, 1), outlineOf(there, 1)];
    for (const [i, line] of was.lines.entries())
      for (const [k, p] of line.entries())
        assert.ok(near(now.lines[i]![k]!, { x: p.x + 5, y: p.y - 3 }), `${says}: ${i}, ${k}`);
    if (was.words && now.words) assert.ok(near(now.words.at, { x: was.words.at.x + 5, y: was.words.at.y - 3 }));
    const some = was.lines[0]?.[1] ?? anchorOf(shape);
    assert.ok(distanceTo(shape, some, 1) < 1e-9, says);
    // What it reaches holds all that is drawn of it, but for the small parts.
    const [from, to] = reachOf(shape);
    for (const p of handlesOf(shape)) assert.ok(p.x >= from.x && p.x <= to.x && p.y >= from.y && p.y <= to.y, says);
    assert.ok(hasSize(shape), says);
    // A dimension's third handle moves its line along, not across.
    const handles = shape.shape === "dimension" ? [0, 1] : [...handlesOf(shape).keys()];
    for (const i of handles) {
      const moved = { x: -333, y: 777 };
      assert.deepEqual(handlesOf(reshaped(shape, i, moved))[i], moved, says);
    }
  }
});

test("a kept length's line follows the hand that moves it, and its ends stay", () => {
  const shape: Shape = {
    ...{ shape: "dimension", from: { x: 0, y: 0 }, to: { x: 30, y: 40 } },
    ...{ offset: 10, factor: null, wanted: "", height: 3 },
  };
  for (const to of [
    { x: 100, y: 0 },
    { x: -7, y: 80 },
  ]) {
    const now = reshaped(shape, 2, to);
    assert.deepEqual(handlesOf(now).slice(0, 2), [shape.from, shape.to]);
    // The line goes through the point that the hand is at.
    const line = outlineOf(now, 1).lines[2]!;
    const [a, b] = [line[0]!, line[1]!];
    const across = ((b.x - a.x) * (to.y - a.y) - (b.y - a.y) * (to.x - a.x)) / 50;
    assert.ok(Math.abs(across) < 1e-9);
  }
});

test("a line that a hand drew keeps its ends and its way, with few points", () => {
  const all = Array.from({ length: 4000 }, (_, i) => ({ x: i / 10, y: 30 * Math.sin(i / 200) }));
  const few = simplified(all, 0.5, 1000);
  assert.ok(few.length < 60, `${few.length}`);
  assert.deepEqual([few[0], few.at(-1)], [all[0], all.at(-1)]);
  const line: Shape = { shape: "polyline", points: few };
  for (const p of all) assert.ok(distanceTo(line, p, 1) <= 0.5 + 1e-9);
  // However wildly a hand goes, it is no more than the server takes.
  const wild = Array.from({ length: 9000 }, (_, i) => ({ x: i % 97, y: (i * 31) % 89 }));
  assert.ok(simplified(wild, 0.1, 1000).length <= 1000);
});

/** Random, the same each time. */
function* chances(seed: number) {
  for (let x = seed; ;) {
    x = (Math.imul(x, 1664525) + 1013904223) >>> 0;
    yield x / 2 ** 32;
  }
}

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
  assert.ok(!history.canUndo || !history.undo().some((c) => c.id === "a"));
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

test("ten presses of a key are one gesture; a pause makes another", () => {
  const history = new MarkHistory();
  for (let i = 0; i < 10; i++)
    history.keep([{ id: "a", before: mark("a", cloud(i)), after: mark("a", cloud(i + 1)) }], "moved a", i * 200);
  assert.deepEqual(
    history.undo().map((c) => c.after?.shape),
    [cloud(0)],
  );
  assert.equal(history.canUndo, false);
  assert.deepEqual(
    history.redo().map((c) => c.after?.shape),
    [cloud(10)],
  );
  history.keep([{ id: "a", before: mark("a", cloud(10)), after: mark("a", cloud(11)) }], "moved a", 5000);
  history.undo();
  assert.equal(history.canUndo, true);
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
    while (history.canUndo) sync.push(history.undo());
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
