import assert from "node:assert/strict";
import { test } from "node:test";
import { MarkHistory } from "../../web/src/viewer/markup/history";
import { MarkStore, type Change, type Mark } from "../../web/src/viewer/markup/store";
import { chances, cloud, mark } from "./marks";

test("ten presses of a key are one gesture; a pause makes another", () => {
  const history = new MarkHistory();
  for (let i = 0; i < 10; i++)
    history.keep([{ id: "a", before: mark("a", cloud(i)), after: mark("a", cloud(i + 1)) }], "moved a", i * 200);
  assert.deepEqual(
    history.undo().map((c) => c.after?.shape),
    [cloud(0)],
  );
  assert.equal(history.canUndo(), false);
  assert.deepEqual(
    history.redo().map((c) => c.after?.shape),
    [cloud(10)],
  );
  history.keep([{ id: "a", before: mark("a", cloud(10)), after: mark("a", cloud(11)) }], "moved a", 5000);
  history.undo();
  assert.equal(history.canUndo(), true);
});

const on = (overlay: string, id: string, x: number): Mark => mark(id, cloud(x), { overlay });

test("what was drawn on one overlay is undone there, whatever was drawn on another since", () => {
  const history = new MarkHistory();
  history.keep([{ id: "a", before: null, after: on("one", "a", 0) }], "", 0);
  history.keep([{ id: "b", before: null, after: on("two", "b", 0) }], "", 1);
  assert.deepEqual(
    history.undo("one").map((c) => [c.id, c.after]),
    [["a", null]],
  );
  assert.equal(history.canUndo("one"), false);
  assert.equal(history.canUndo("two"), true);
  // What is done on another overlay takes nothing from what can be done again here.
  history.keep([{ id: "c", before: null, after: on("two", "c", 0) }], "", 2);
  assert.equal(history.canRedo("one"), true);
  assert.deepEqual(
    history.redo("one").map((c) => c.id),
    ["a"],
  );
  history.keep([{ id: "d", before: null, after: on("one", "d", 0) }], "", 3);
  assert.equal(history.canRedo("one"), false);
});

test("a markup put on another overlay and moved there is moved back before it is put back", () => {
  const history = new MarkHistory();
  const [a, b] = [on("one", "a", 0), on("two", "b", 0)];
  history.keep(
    [
      { id: "a", before: a, after: null },
      { id: "b", before: null, after: b },
    ],
    "",
    0,
  );
  history.keep([{ id: "b", before: b, after: on("two", "b", 9) }], "", 1);
  assert.deepEqual(
    history.undo("one").map((c) => c.id),
    ["b"],
  );
  assert.deepEqual(
    history.undo("one").map((c) => c.id),
    ["b", "a"],
  );
  assert.equal(history.canUndo("two"), false);
});

test("law: undoing all of one overlay leaves what was drawn on the others as it is, and doing it again brings it back", () => {
  for (let seed = 1; seed <= 300; seed++) {
    const random = chances(seed);
    const chance = (n: number) => Math.floor((random.next().value as number) * n);
    const [history, store] = [new MarkHistory(), new MarkStore()];
    for (let i = 0; i < 25; i++) {
      const overlay = ["one", "two", "three"][chance(3)]!;
      const id = `${overlay}${chance(4)}`;
      const before = store.find(id);
      const after = chance(4) === 0 ? null : on(overlay, id, chance(50));
      if (!before && !after) continue;
      const changes: Change[] = [{ id, before, after }];
      history.keep(changes, "", i * 5000);
      store.apply(changes);
    }
    const lie = (overlay?: string) =>
      store
        .all()
        .filter((m) => !overlay || m.overlay === overlay)
        .map((m) => [m.id, m.shape])
        .sort();
    const all = lie();
    const others = [lie("two"), lie("three")];
    let gestures = 0;
    for (; history.canUndo("one"); gestures++) store.apply(history.undo("one"));
    assert.deepEqual([lie("one"), lie("two"), lie("three")], [[], ...others], `seed ${seed}`);
    for (; gestures > 0; gestures--) store.apply(history.redo("one"));
    assert.deepEqual(lie(), all, `seed ${seed}`);
  }
});
