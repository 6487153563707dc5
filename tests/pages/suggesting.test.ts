import assert from "node:assert/strict";
import { test } from "node:test";
import { blankAfter, namedIn, suggested, taken } from "../../web/src/notes/suggesting";

const people = [
  { id: "o", name: "Odalys Reyes" },
  { id: "k", name: "Kai Ohm" },
  { id: "j", name: "Jörg O’Dell-Ohm" },
];
const phrases = [
  { id: "1", words: "Bore to Ø ___ H7, as on sheet ___." },
  { id: "2", words: "State the material." },
];
const offered = (text: string, at = text.length) => suggested(text, at, people, phrases).all.map((s) => s.key);

test("people are offered after an @, by any part of their name", () => {
  assert.deepEqual(offered("Please ask @"), ["o", "k", "j"]);
  assert.deepEqual(offered("Please ask @oh"), ["k", "j"]);
  assert.deepEqual(offered("(@odalys r"), ["o"]);
  // An address is nobody's name, and a whole name needs no offer.
  assert.deepEqual(offered("mail kai@oh"), []);
  assert.deepEqual(offered("@Kai Ohm"), []);
  const { part, all } = suggested("see @oh here", 7, people, phrases);
  assert.equal(taken("see @oh here", part, all[0]!.words).text, "see @Kai Ohm  here");
});

test("a wording takes the place of the line that was begun, and its blanks are gone through", () => {
  assert.deepEqual(offered("bore H7"), ["1"]);
  assert.deepEqual(offered("First line.\nmater"), ["2"]);
  assert.deepEqual(offered("b"), []);
  // In the midst of a line nothing is offered: it would swallow what stands behind.
  assert.deepEqual(offered("bore and more", 4), []);
  const text = "First line.\nbore";
  const { part, all } = suggested(text, text.length, people, phrases);
  const now = taken(text, part, all[0]!.words);
  assert.equal(now.text, "First line.\nBore to Ø ___ H7, as on sheet ___.");
  assert.equal(now.text.slice(now.from, now.to), "___");
  const next = blankAfter(now.text, now.to)!;
  assert.equal(now.text.slice(0, next.from), "First line.\nBore to Ø ___ H7, as on sheet ");
  assert.equal(blankAfter(now.text, next.to), null);
});

test("a text names whose whole name stands after an @", () => {
  assert.deepEqual(namedIn("@Kai Ohm and @Jörg O’Dell-Ohm: look.", people), ["k", "j"]);
  assert.deepEqual(namedIn("Kai Ohm, @Kai Ohmann, @Odalys", people), []);
  // Whose whole name begins another's is not named by it.
  const alike = [...people, { id: "kai", name: "Kai" }, { id: "second", name: "Kai Ohm (kai2)" }];
  assert.deepEqual(namedIn("@Kai Ohm (kai2), @Kai.", alike as typeof people), ["kai", "second"]);
});
