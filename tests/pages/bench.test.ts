import assert from "node:assert/strict";
import { test } from "node:test";
import { takenWords } from "../../web/src/bench/taken";
import type { NoteRow, PackageItem, PackageView } from "../../web/src/api/types";
import { begin, begunAnew } from "../../web/src/notes/begun";
import { after, alone, opened, type BenchAct, type BenchState } from "../../web/src/bench/state";
import { judged, reasoned, toJudge, undecided, verdictOf, type Choices } from "../../web/src/bench/verdicts";
import { zoneCorners, zoneOf } from "../../web/src/viewer/zone";

const done = (state: BenchState, ...acts: BenchAct[]) => acts.reduce(after, state);
const mark = {
  id: "m",
  document: "d",
  draft: "w",
  place: { leaf: 2 },
  shape: { shape: "arrow", from: { x: 0, y: 0 }, to: { x: 5, y: 5 } },
};
const note = { id: "n", number: 4, marks: [mark] } as unknown as NoteRow;

test("opened at a note, the bench looks at its place; the same place is gone to again", () => {
  const at = opened({ note });
  assert.equal(at.pickedNote, "n");
  assert.equal(at.lookAt?.leaf, 2);
  const again = done(at, { does: "go to note", note, mark: note.marks[0]! });
  assert.notEqual(again.lookAt, at.lookAt, "a new place each time");
  assert.equal(again.pickedMark, "m");
});

test("another item lays down what belonged to the last, and keeps the tool and what is hidden", () => {
  const before = done(
    opened({ note }),
    { does: "take tool", tool: "cloud" },
    { does: "hide", hidden: new Set(["o"]) },
    { does: "pick mark", mark: "m", note: null },
    { does: "say", words: "not shown yet" },
    { does: "open item" },
  );
  assert.deepEqual(
    [before.tool, before.pickedMark, before.lookAt, before.says, [...before.hidden]],
    ["cloud", null, null, null, ["o"]],
  );
});

test("what is drawn is to be seen: its overlay is shown again, and the hand looks; what waits out of sight waits on", () => {
  const state = done(
    opened({}),
    { does: "hide", hidden: new Set(["mine", "theirs"]) },
    { does: "take tool", tool: "arrow" },
    { does: "fold", isFolded: true },
    { does: "drew", overlay: "mine" },
  );
  assert.deepEqual([state.tool, state.isFolded, [...state.hidden]], ["look", true, ["theirs"]]);
});

test("leaving lays down the tool, what is picked and a note that was to be placed", () => {
  const state = done(
    opened({}),
    { does: "place note", note: "n" },
    { does: "take tool", tool: "cloud" },
    { does: "pick mark", mark: "m", note: "n" },
    { does: "leave" },
  );
  assert.deepEqual([state.tool, state.placing, state.pickedMark, state.pickedNote], ["look", null, null, "n"]);
});

const item = (n: number, draft = `w${n}`) => ({ draft, sha256: "the same bytes", number: `TO-${n}` }) as PackageItem;

test("verdicts belong to drafts: the next has none, nor has another document with the same bytes; taken back, it is not yet; the reason stays with another verdict", () => {
  let all: Choices = judged({}, item(1), "returnForChanges");
  all = reasoned(all, item(1), "the hole");
  all = judged(all, item(1), "approveAsNoted");
  assert.deepEqual(verdictOf(all, item(1)), { verdict: "approveAsNoted", reason: "the hole" });
  assert.equal(verdictOf(all, item(1, "the next draft")), undefined);
  assert.equal(verdictOf(all, item(2)), undefined);
  all = judged(all, item(1), null);
  assert.equal(verdictOf(all, item(1)), undefined);
  assert.deepEqual(reasoned(all, item(1), "no verdict, no reason"), {});
});

test("who signs judges what the server says, for the seat and the person it is for", () => {
  const p = {
    items: [item(1), item(2), item(3)],
    toJudge: [
      { seat: "s", for: "ada", drafts: ["w1", "w3"] },
      { seat: "s", for: "ben", drafts: ["w2"] },
    ],
  } as unknown as PackageView;
  assert.deepEqual(
    toJudge(p, "s", "ada").map((i) => i.draft),
    ["w1", "w3"],
  );
  assert.deepEqual(toJudge(p, "t", "ada"), []);
  assert.deepEqual(
    undecided(toJudge(p, "s", "ada"), judged({}, item(3), "approve")).map((i) => i.draft),
    ["w1"],
  );
});

test("words begun on the last draft go on with the next: a note of its own at the same place", () => {
  const shape = { shape: "cloud", from: { x: 0, y: 0 }, to: { x: 5, y: 5 } } as const;
  const begun = { ...begin({ id: "m", overlay: "mine", leaf: 2, shape }), body: "The hole", kind: "question" as const };
  const anew = begunAnew(begun);
  assert.deepEqual([anew.body, anew.kind, anew.mark?.leaf, anew.mark?.shape], ["The hole", "question", 2, shape]);
  assert.notEqual(anew.key, begun.key);
  assert.notEqual(anew.mark?.id, "m");
  assert.equal(anew.mark?.overlay, null, "an overlay is its draft's");
  assert.equal(begunAnew({ ...begun, mark: null }).mark, null);
});

test("a field of the sheet is found by its name, and lies where a point in it says", () => {
  const grid = { columns: [0, 100, 200, 300], rows: [0, 50, 100], letters: "AB" };
  // Rows are named from the top: A is the upper one.
  assert.deepEqual(zoneCorners(grid, " a3 "), [
    { x: 200, y: 50 },
    { x: 300, y: 100 },
  ]);
  for (const name of ["A1", "A2", "A3", "B1", "B2", "B3"]) {
    const [low, high] = zoneCorners(grid, name)!;
    assert.equal(zoneOf(grid, { x: (low!.x + high!.x) / 2, y: (low!.y + high!.y) / 2 }), name);
  }
  for (const name of ["C1", "A4", "A0", "", "AA1", "1A"]) assert.equal(zoneCorners(grid, name), null, name);
  assert.equal(zoneCorners(null, "A1"), null);
});

test("some overlays are seen alone, and asked for again all are", () => {
  const all = ["mine", "theirs", "carried"];
  const only = alone(all, ["mine"], new Set());
  assert.deepEqual([...only], ["theirs", "carried"]);
  assert.deepEqual([...alone(all, ["mine"], only)], []);
  const plain = alone(all, [], only);
  assert.deepEqual([...plain], all);
  assert.deepEqual([...alone(all, [], plain)], []);
  // From the plain sheet, one's own are shown.
  assert.deepEqual([...alone(all, ["mine"], plain)], ["theirs", "carried"]);
});

test("what came of a marked file is said in a sentence", () => {
  const none = { replies: 0, remarks: 0, markups: 0, already: 0, leftOut: 0 };
  assert.equal(takenWords({ ...none, already: 4 }), "Nothing new was in it; 4 were here already.");
  assert.equal(
    takenWords({ replies: 1, remarks: 2, markups: 3, already: 1, leftOut: 1 }),
    "Brought in: 1 reply, 2 new remarks, 3 markups; 1 was here already; 1 says nothing and lies nowhere on this draft.",
  );
});

test("asked for the first markup of an item, the bench picks it and looks there", () => {
  const shape = { shape: "box", from: { x: 10, y: 10 }, to: { x: 30, y: 40 } } as const;
  const marked = { document: "d", marked: { id: "m", place: { on: "sheet", leaf: 2 }, shape, count: 4 } };
  const at = opened({ marked: marked as unknown as PackageItem });
  assert.deepEqual([at.pickedMark, at.pickedNote, at.lookAt?.leaf, at.lookAt?.document], ["m", null, 2, "d"]);
  assert.deepEqual(at.lookAt?.points, [
    { x: 10, y: 10 },
    { x: 30, y: 40 },
  ]);
});
