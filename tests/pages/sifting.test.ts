import assert from "node:assert/strict";
import { test } from "node:test";
import type { NoteRow, Shape } from "../../web/src/api/types";
import { everything, sifted, stepFrom, type Sift } from "../../web/src/notes/sifting";

const box = (x: number, y: number): Shape => ({ shape: "box", from: { x, y }, to: { x: x + 2, y: y + 2 } });
const note = (number: number, more: Partial<NoteRow> & { drawn?: Shape; leaf?: number } = {}): NoteRow => {
  const { drawn, leaf = 0, ...rest } = more;
  const marks = drawn ? [{ draft: "d", place: { on: "sheet", leaf }, shape: drawn, zone: `Z${number}` }] : [];
  const usual = { id: `n${number}`, number, kind: "request", standing: "open", author: "a", authorName: "Ada" };
  return {
    ...usual,
    body: `note ${number}`,
    round: 1,
    terms: { tags: [] },
    acts: [],
    marks,
    ...rest,
  } as unknown as NoteRow;
};
const notes = [
  note(1, { drawn: box(50, 10), kind: "remark", authorName: "Zoe", author: "z" }),
  note(2, { drawn: box(90, 80), standing: "closed" }),
  note(3, { drawn: box(10, 80), standing: "answered", body: "Größe fehlt" }),
  note(4, { kind: "question", acts: [{ name: "Kai", at: "", act: "reply", body: "see the Ø" }] }),
  note(5, { drawn: box(0, 99), leaf: 1 }),
];
const numbers = (sift: Partial<Sift>) => sifted(notes, { ...everything, ...sift }, "d", "z").map((n) => n.number);

test("notes are listed by what was asked for, and keep their numbers", () => {
  assert.deepEqual(numbers({}), [1, 2, 3, 4, 5]);
  assert.deepEqual(numbers({ show: "open" }), [3, 4, 5]);
  assert.deepEqual(numbers({ show: "closed" }), [2]);
  assert.deepEqual(numbers({ show: "remark" }), [1]);
  assert.deepEqual(numbers({ show: "mine" }), [1]);
});

test("they are found by words, what was replied, a person, a zone or a number", () => {
  assert.deepEqual(numbers({ words: "größe FEHLT" }), [3]);
  assert.deepEqual(numbers({ words: "the ø" }), [4]);
  assert.deepEqual(numbers({ words: "zoe" }), [1]);
  assert.deepEqual(numbers({ words: "z5" }), [5]);
  assert.deepEqual(numbers({ words: "nothing of it" }), []);
});

test("they are sifted by overlay, by round, by what presses, and found by a tag", () => {
  const more = [
    note(1, { drawn: box(0, 0), round: 2, presses: true }),
    note(2, { terms: { urgent: false, due: null, tags: ["welding"], onPackage: false } }),
  ];
  more[0]!.marks[0]!.overlay = "o";
  const numbers = (sift: Partial<Sift>) => sifted(more, { ...everything, ...sift }, "d", "z").map((n) => n.number);
  assert.deepEqual(numbers({ overlay: "o" }), [1]);
  assert.deepEqual(numbers({ overlay: "p" }), []);
  assert.deepEqual(numbers({ round: 2 }), [1]);
  assert.deepEqual(numbers({ round: 1 }), [2]);
  assert.deepEqual(numbers({ show: "pressing" }), [1]);
  assert.deepEqual(numbers({ words: "weld" }), [2]);
});

test("by place they follow the sheet as one reads, what is about the whole first; by author and standing with numbers kept", () => {
  assert.deepEqual(numbers({ order: "place" }), [4, 3, 2, 1, 5]);
  assert.deepEqual(numbers({ order: "author" }), [2, 3, 4, 5, 1]);
  assert.deepEqual(numbers({ order: "standing" }), [1, 4, 5, 3, 2]);
});

test("one steps from note to note, round again at the end", () => {
  const step = (picked: string | null, by: 1 | -1) => stepFrom(notes, picked, by)?.number;
  assert.deepEqual([step(null, 1), step(null, -1), step("n2", 1), step("n5", 1), step("n1", -1)], [1, 5, 3, 1, 5]);
  assert.equal(step("not listed", 1), 1);
  assert.equal(stepFrom([], null, 1), null);
});
